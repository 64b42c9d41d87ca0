package render_test

import (
	"bytes"
	"fmt"
	"image"
	"image/png"
	"io"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/typeset"
)

// A shape is a bar or a box as it is meant: the dots from x, y on, whatever draws it.
type shape struct{ x, y, w, h int }

// A drawing is a list with what must be black on it.
type drawing struct {
	list   *render.List
	shapes []shape
}

var turns = []measure.Turn{0, 90, 180, 270}

// random draws boxes and bars in all turns, some of them over the edges, without words.
func random(r *rand.Rand) drawing {
	d := drawing{list: &render.List{}}
	w, h := 20+r.IntN(300), 20+r.IntN(150)
	d.list.Reset(w, h)
	for range 1 + r.IntN(6) {
		turn := turns[r.IntN(4)]
		var widths []uint16
		along := 0
		for range 1 + r.IntN(12) {
			widths = append(widths, uint16(1+r.IntN(9)))
			along += int(widths[len(widths)-1])
		}
		across := 1 + r.IntN(30)
		x, y := r.IntN(w+20)-10, r.IntN(h+20)-10
		first := len(d.list.Items)
		d.list.Bars(0, render.Box{W: along, H: across}, widths)
		d.list.Place(first, x, y, turn, along, across)
		at := 0
		for i, width := range widths {
			if i%2 == 0 { // where the bar lies once the frame is turned, worked out by hand
				s := map[measure.Turn]shape{0: {at, 0, int(width), across}, 90: {0, at, across, int(width)},
					180: {along - at - int(width), 0, int(width), across}, 270: {0, along - at - int(width), across,
						int(width)}}[turn]
				d.shapes = append(d.shapes, shape{s.x + x, s.y + y, s.w, s.h})
			}
			at += int(width)
		}
		box := render.Box{X: r.IntN(w+20) - 10, Y: r.IntN(h+20) - 10, W: 1 + r.IntN(80), H: 1 + r.IntN(6)}
		d.list.Fill(1, box)
		d.shapes = append(d.shapes, shape{box.X, box.Y, box.W, box.H})
	}
	return d
}

// plain is the slow reference: it asks of every dot whether a shape covers it.
func (d drawing) plain() *render.Plane {
	p := render.NewPlane(d.list.Width, d.list.Height)
	for y := range p.Height {
		row := make([]byte, (p.Width+7)/8)
		for x := range p.Width {
			for _, s := range d.shapes {
				if x >= s.x && x < s.x+s.w && y >= s.y && y < s.y+s.h {
					row[x/8] |= 0x80 >> (x % 8)
				}
			}
		}
		p.SetRow(y, row)
	}
	return p
}

// A sink draws a list in its own way and gives back the dots that another program, or the standard library, sees.
type sink struct {
	name string
	dots func(t *testing.T, l *render.List) *render.Plane
}

var sinks = []sink{
	{"plane", func(_ *testing.T, l *render.List) *render.Plane { return drawn(l) }},
	{"layers", func(_ *testing.T, l *render.List) *render.Plane {
		layers := render.NewLayers(1, l.Width, l.Height)
		layers.Draw(l)
		return layers[0]
	}},
	{"PNG", func(t *testing.T, l *render.List) *render.Plane {
		var file bytes.Buffer
		require.NoError(t, render.WritePNG(&file, render.Layers{drawn(l)}, render.BlackOnWhite, eight))
		picture, err := png.Decode(&file)
		require.NoError(t, err)
		return dark(picture)
	}},
	{"SVG", func(t *testing.T, l *render.List) *render.Plane {
		path := filepath.Join(t.TempDir(), "label.svg")
		var file bytes.Buffer
		require.NoError(t, render.WriteSVG(&file, l, render.BlackOnWhite, eight))
		require.NoError(t, os.WriteFile(path, file.Bytes(), 0o600))
		out, err := exec.Command("rsvg-convert", "-w", fmt.Sprint(l.Width), "-h", fmt.Sprint(l.Height), path).Output()
		require.NoError(t, err)
		picture, err := png.Decode(bytes.NewReader(out))
		require.NoError(t, err)
		return dark(picture)
	}},
	{"PDF", func(t *testing.T, l *render.List) *render.Plane {
		return pdfDots(t, l, func(pages *render.PDFPages) { require.NoError(t, pages.Add(l)) }, nil)
	}},
	{"PDF in Ghostscript", func(t *testing.T, l *render.List) *render.Plane {
		path := pdfFile(t, func(pages *render.PDFPages) { require.NoError(t, pages.Add(l)) }, nil)
		return ghostscript(t, path, eight).Cut(render.Box{W: l.Width, H: l.Height})
	}},
	{"PDF, kept once", func(t *testing.T, l *render.List) *render.Plane {
		return pdfDots(t, l, func(pages *render.PDFPages) {
			var bare render.List
			bare.Reset(l.Width, l.Height)
			require.NoError(t, pages.Add(&bare))
		}, l)
	}},
}

// newPDF begins a document of labels that are black on white.
func newPDF(t *testing.T, w io.Writer, title string, r measure.Resolution) (*render.PDF, *render.PDFPages) {
	document := render.NewPDF(w, title)
	pages, err := document.Pages(render.BlackOnWhite, r, nil)
	require.NoError(t, err)
	return document, pages
}

func pdfFile(t *testing.T, add func(*render.PDFPages), fixed *render.List) (path string) {
	path = filepath.Join(t.TempDir(), "label.pdf")
	var file bytes.Buffer
	document := render.NewPDF(&file, "label")
	pages, err := document.Pages(render.BlackOnWhite, eight, fixed)
	require.NoError(t, err)
	add(pages)
	require.NoError(t, document.Close())
	require.NoError(t, os.WriteFile(path, file.Bytes(), 0o600))
	return path
}

func pdfDots(t *testing.T, l *render.List, add func(*render.PDFPages), fixed *render.List) *render.Plane {
	path := pdfFile(t, add, fixed)
	out, err := exec.Command("pdftoppm", "-singlefile", "-r", fmt.Sprint(eight.PerInch()), "-mono", "-aa", "no", path,
		path).CombinedOutput()
	require.NoError(t, err, string(out))
	require.NotContains(t, string(out), "Error")
	p := readPBM(t, path+".pbm")
	return p.Cut(render.Box{W: l.Width, H: l.Height}) // a page may end within its last dot
}

func dark(picture image.Image) *render.Plane {
	b := picture.Bounds()
	p := render.NewPlane(b.Dx(), b.Dy())
	for y := range b.Dy() {
		row := make([]byte, (b.Dx()+7)/8)
		for x := range b.Dx() {
			if r, _, _, _ := picture.At(b.Min.X+x, b.Min.Y+y).RGBA(); r < 0x8000 {
				row[x/8] |= 0x80 >> (x % 8)
			}
		}
		p.SetRow(y, row)
	}
	return p
}

// Every sink must show the dots that asking dot by dot gives: bars are never a dot wider or narrower, in any turn.
func TestEverySinkHasTheSameDots(t *testing.T) {
	seed := rand.Uint64()
	t.Logf("SEED=%d", seed)
	r := rand.New(rand.NewPCG(seed, 0))
	for i := range 12 {
		d := random(r)
		want := text(d.plain())
		for _, s := range sinks {
			require.Equal(t, want, text(s.dots(t, d.list)), "drawing %d as %s", i, s.name)
		}
	}
}

// A glyph's dots are those that are covered by half at least: held against the outline asked at 256 points of each dot.
func TestGlyphsAreCoveredByHalf(t *testing.T) {
	for _, family := range []string{"Liberation Sans", "Liberation Mono"} {
		face, err := typeset.Find(family, false, false)
		require.NoError(t, err)
		for _, perEm := range []int{eight.PerEm(7), eight.PerEm(11), eight.PerEm(30)} {
			var block typeset.Block
			block.Set("Rg8&aæЖ", typeset.Style{Face: face, PerEm: perEm})
			for _, g := range block.Glyphs {
				compareCoverage(t, g, perEm)
			}
		}
	}
}

func compareCoverage(t *testing.T, g typeset.Glyph, perEm int) {
	const fine = 16
	edges := flattened(g, perEm)
	m := g.Face.Mask(g.ID, perEm, 0)
	for y := m.Y - 1; y <= m.Y+m.Height; y++ {
		var lines [fine][]crossing
		for v := range fine {
			lines[v] = crossings(edges, float64(y)+(float64(v)+0.5)/fine)
		}
		for x := m.X - 1; x <= m.X+m.Width; x++ {
			covered := 0
			for _, line := range lines {
				for u := range fine {
					if within(line, float64(x)+(float64(u)+0.5)/fine) {
						covered++
					}
				}
			}
			column, row := x-m.X, y-m.Y
			set := column >= 0 && row >= 0 && column < m.Width && row < m.Height &&
				m.Bits[row*m.Stride+column/64]>>(63-column%64)&1 == 1
			// The rasterizer draws shallow curves as lines: up to a seventh of a dot beside the outline.
			if share := float64(covered) / (fine * fine); share > 0.65 || share < 0.35 {
				require.Equal(t, share > 0.5, set, "glyph %d of %s, dot %d,%d covered by %.2f", g.ID, g.Face.Key(), x,
					y, share)
			}
		}
	}
}

type edge struct{ ax, ay, bx, by float64 }

// flattened cuts a glyph's outline into short lines.
func flattened(g typeset.Glyph, perEm int) (edges []edge) {
	segments, upem := g.Face.Outline(g.ID)
	scale := float64(perEm) / 64 / float64(upem)
	var startX, startY, penX, penY float64
	to := func(x, y float64) { edges, penX, penY = append(edges, edge{penX, penY, x, y}), x, y }
	for _, s := range segments {
		var p [3][2]float64
		for i, arg := range s.ArgsSlice() {
			p[i] = [2]float64{float64(arg.X) * scale, -float64(arg.Y) * scale}
		}
		const steps = 24
		x0, y0 := penX, penY
		switch len(s.ArgsSlice()) {
		case 1:
			if s.Op == 0 { // move
				to(startX, startY)
				startX, startY, penX, penY = p[0][0], p[0][1], p[0][0], p[0][1]
				continue
			}
			to(p[0][0], p[0][1])
		case 2:
			for i := 1; i <= steps; i++ {
				u := float64(i) / steps
				a, b, c := (1-u)*(1-u), 2*u*(1-u), u*u
				to(a*x0+b*p[0][0]+c*p[1][0], a*y0+b*p[0][1]+c*p[1][1])
			}
		case 3:
			for i := 1; i <= steps; i++ {
				u := float64(i) / steps
				a, b, c, d := (1-u)*(1-u)*(1-u), 3*u*(1-u)*(1-u), 3*u*u*(1-u), u*u*u
				to(a*x0+b*p[0][0]+c*p[1][0]+d*p[2][0], a*y0+b*p[0][1]+c*p[1][1]+d*p[2][1])
			}
		}
	}
	to(startX, startY)
	return edges
}

// a crossing is where an outline goes through a line across, and which way.
type crossing struct {
	x   float64
	way int
}

func crossings(edges []edge, y float64) (all []crossing) {
	for _, e := range edges {
		if (e.ay <= y) == (e.by <= y) {
			continue
		}
		way := 1
		if e.by < e.ay {
			way = -1
		}
		all = append(all, crossing{e.ax + (y-e.ay)/(e.by-e.ay)*(e.bx-e.ax), way})
	}
	return all
}

// within tells whether the outline winds round a point of a line.
func within(line []crossing, x float64) bool {
	winding := 0
	for _, c := range line {
		if c.x > x {
			winding += c.way
		}
	}
	return winding != 0
}

// Outlines have their dots in every sink but for those on their edges, which each renderer rounds in its own way, and
// what is bare is bare in all.
func TestOutlinesLookAlikeInEverySink(t *testing.T) {
	for _, turn := range turns {
		var l render.List
		l.Reset(260, 200)
		l.Path(0, render.Box{W: 200, H: 120}, append(render.RoundBox(200, 120, 0, 40, 30, false),
			render.RoundBox(200, 120, 8, 32, 22, true)...))
		l.Path(0, render.Box{X: 60, Y: 30, W: 90, H: 60}, render.RoundBox(90, 60, 0, 45, 30, false))
		l.Fill(1, render.Box{X: 90, Y: 50, W: 20, H: 20})
		l.Items[2].Ink = render.Bare
		w, h := turn.Size(200, 120)
		l.Place(0, (260-w)/2, (200-h)/2, turn, 200, 120)
		want := drawn(&l)
		require.False(t, want.Set(130, 100), "what is bare lies in the middle")
		for _, s := range sinks {
			// the outlines are some 1,400 dots long, and Poppler sets every dot they touch
			require.Less(t, differing(want, s.dots(t, &l)), 900, "%s turned %d", s.name, turn)
		}
	}
}

// Dots of a picture are the same dots in every sink, in every turn, also where they reach over the edge.
func TestPicturesHaveTheirDotsInEverySink(t *testing.T) {
	random := rand.New(rand.NewPCG(8, 9))
	dots := render.NewPlane(37, 21)
	for y := range dots.Height {
		row := make([]byte, 5)
		for i := range row {
			row[i] = byte(random.Uint32())
		}
		dots.SetRow(y, row)
	}
	for _, turn := range turns {
		var l render.List
		l.Reset(60, 50)
		l.Dots(0, render.Box{W: 37, H: 21}, dots)
		l.Place(0, 12, 20, turn, 37, 21)
		want := render.NewPlane(60, 50)
		turned := dots.Turned(turn)
		for y := range turned.Height {
			turned.EachDot(y, func(x int) {
				if x+12 < 60 && y+20 < 50 {
					want.Bits[(y+20)*want.Stride+(x+12)/64] |= 1 << (63 - (x+12)%64)
				}
			})
		}
		for _, s := range sinks {
			require.Equal(t, text(want), text(s.dots(t, &l)), "%s turned %d", s.name, turn)
		}
	}
}

// What a picture is drawn of looks as its dots do in every sink, cut to its box; in a PDF it is lines, as fine as the
// printer that prints it.
func TestDrawnPicturesStayLines(t *testing.T) {
	ring := append(render.RoundBox(120, 90, 0, 60, 45, false), render.RoundBox(120, 90, 20, 40, 25, true)...)
	outlines := []render.Outline{{Pens: ring, Ink: render.OfItem}, {Pens: render.RoundBox(30, 30, 0, 0, 0, false),
		Ink: render.Bare}, {Pens: render.Moved(render.RoundBox(40, 40, 0, 20, 20, false), 90, 30)}}
	layers := render.NewLayers(2, 100, 90) // its right end is cut off
	for _, o := range outlines {
		layer := 0
		if o.Ink == render.Bare {
			layer = 1
		}
		layers.Fill(layer, o.Pens)
	}
	for _, turn := range turns {
		var l render.List
		l.Reset(150, 150)
		l.Fill(0, render.Box{X: 10, Y: 10, W: 140, H: 20})
		l.Drawn(1, render.Box{W: 100, H: 90}, layers[1], nil)
		l.Items[1].Ink = render.Bare
		l.Drawn(1, render.Box{W: 100, H: 90}, layers[0], outlines)
		l.Place(1, 20, 20, turn, 100, 90)
		want := drawn(&l)
		for _, s := range sinks {
			// its edges are some 800 dots long
			require.Less(t, differing(want, s.dots(t, &l)), 600, "%s turned %d", s.name, turn)
		}
	}

	var l render.List
	l.Reset(100, 90)
	l.Drawn(0, render.Box{W: 100, H: 90}, layers[0], outlines)
	fine := ghostscript(t, pdfFile(t, func(pages *render.PDFPages) { require.NoError(t, pages.Add(&l)) }, nil),
		measure.DotsPerMillimetre(64))
	true64 := render.NewLayers(2, 800, 720)
	for _, o := range outlines {
		layer := 0
		if o.Ink == render.Bare {
			layer = 1
		}
		true64.Fill(layer, scaled(o.Pens, 8))
	}
	require.Less(t, differing(true64[0], fine), 5000, "steps of eight dots would differ in some 15,000")
}

// differing counts the dots of a plane that are others in the same place of another.
func differing(of, in *render.Plane) (n int) {
	for y := range of.Height {
		for x := range of.Width {
			if of.Set(x, y) != in.Set(x, y) {
				n++
			}
		}
	}
	return n
}

func scaled(pens []render.Pen, by float64) []render.Pen {
	made := slices.Clone(pens)
	for i := range made {
		for j := range made[i].Points {
			made[i].Points[j] *= by
		}
	}
	return made
}
