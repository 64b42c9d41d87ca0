package render_test

import (
	"bytes"
	"fmt"
	"image/png"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/symbology"
	_ "oddspool/core/typefaces" // the program's own
	"oddspool/core/typeset"
)

var eight = measure.DotsPerMillimetre(8)

// sample is a label with one of everything, some of it over the edges.
func sample(t testing.TB, w, h int) *render.List {
	face, err := typeset.Find("Liberation Sans", true, false)
	require.NoError(t, err)
	var words typeset.Block
	perEm := eight.PerEm(10)
	words.Set("Agjp", typeset.Style{Face: face, PerEm: perEm})
	var l render.List
	l.Reset(w, h)
	l.Fill(0, render.Box{X: 3, Y: 2, W: 70, H: 1})
	l.Fill(0, render.Box{X: w - 5, Y: h - 5, W: 50, H: 50})
	l.Bars(1, render.Box{X: 20, Y: 10, W: 2 * 11, H: 9}, []uint16{4, 2, 4, 4, 4, 4})
	l.Words(2, 60, 15, perEm, render.Box{}, words.Glyphs)
	l.Words(2, -9, 30, perEm, render.Box{X: 2, Y: 32, W: 40, H: 30}, words.Glyphs)
	return &l
}

func text(p *render.Plane) string {
	var out strings.Builder
	for y := range p.Height {
		for x := range p.Width {
			out.WriteByte(" #"[map[bool]int{false: 0, true: 1}[p.Set(x, y)]])
		}
		out.WriteByte('\n')
	}
	return out.String()
}

func drawn(l *render.List) *render.Plane {
	p := render.NewPlane(l.Width, l.Height)
	p.Draw(l)
	return p
}

// What is turned before drawing is, dot for dot, what is drawn and then turned.
func TestTurnedLabelHasTheSameDots(t *testing.T) {
	upright := drawn(sample(t, 130, 75))
	for _, turn := range []measure.Turn{90, 180, 270} {
		l := sample(t, 130, 75)
		l.Turn(turn)
		p := drawn(l)
		w, h := turn.Size(130, 75)
		require.Equal(t, []int{w, h}, []int{p.Width, p.Height})
		for y := range 75 {
			for x := range 130 {
				tx, ty, _, _ := turn.Box(x, y, 1, 1, 130, 75)
				require.Equal(t, upright.Set(x, y), p.Set(tx, ty), "turn %d, dot %d, %d", turn, x, y)
			}
		}
	}
}

func TestPlacedContentTurnsInItsBox(t *testing.T) {
	var l render.List
	l.Reset(40, 40)
	l.Bars(0, render.Box{W: 6, H: 3}, []uint16{1, 2, 3})
	l.Place(0, 10, 20, 90, 6, 3)
	p := drawn(&l)
	require.True(t, p.Set(10, 20), "the first bar is on top")
	require.True(t, p.Set(12, 20))
	require.False(t, p.Set(10, 21))
	require.True(t, p.Set(10, 25), "the last bar is at the bottom")
	require.False(t, p.Set(13, 25))
}

// The fast drawing must set the dots that setting dot by dot sets.
func TestFillsAndBarsMatchDotByDot(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 6))
	for range 500 {
		var l render.List
		l.Reset(1+random.IntN(200), 1+random.IntN(20))
		box := render.Box{X: random.IntN(200) - 40, Y: random.IntN(30) - 10, W: random.IntN(150), H: random.IntN(15)}
		l.Fill(0, box)
		widths := []uint16{3, 9, 6, 3, 12}
		bars := render.Box{X: random.IntN(150) - 30, Y: random.IntN(20) - 5, W: 11 * 3, H: 4}
		l.Bars(0, bars, widths)
		p := drawn(&l)
		for y := range p.Height {
			for x := range p.Width {
				want := x >= box.X && x < box.X+box.W && y >= box.Y && y < box.Y+box.H
				if y >= bars.Y && y < bars.Y+bars.H {
					at := bars.X
					for i, width := range widths {
						want = want || i%2 == 0 && x >= at && x < at+int(width)
						at += int(width)
					}
				}
				require.Equal(t, want, p.Set(x, y), "%+v %+v dot %d,%d", box, bars, x, y)
			}
		}
	}
}

func TestWordsStayInTheirClip(t *testing.T) {
	l := sample(t, 130, 75)
	p := drawn(l)
	for y := range 75 {
		require.False(t, p.Set(1, y) && y > 3, "left of the clip")
	}
	require.Contains(t, text(p), "##")
}

func TestAppendedListDrawsTheSame(t *testing.T) {
	var both render.List
	both.Reset(130, 75)
	both.Fill(9, render.Box{X: 1, Y: 70, W: 3, H: 3})
	both.Append(sample(t, 130, 75))
	want := drawn(sample(t, 130, 75))
	var extra render.List
	extra.Reset(130, 75)
	extra.Fill(9, render.Box{X: 1, Y: 70, W: 3, H: 3})
	want.Draw(&extra)
	require.Equal(t, text(want), text(drawn(&both)))
}

func TestRowsComeBack(t *testing.T) {
	p := drawn(sample(t, 131, 40))
	back := render.NewPlane(131, 40)
	for y := range p.Height {
		row := p.AppendRow(nil, y)
		require.Len(t, row, 17)
		row[16] |= 0x1f // bits beyond the width must not count
		back.SetRow(y, row)
	}
	require.Equal(t, p.Bits, back.Bits)
}

// What is placed side by side and cut out again is as it was, at every offset.
func TestPlacedPlanesAreCutOutAsTheyWere(t *testing.T) {
	label := drawn(sample(t, 130, 75))
	for x := range 70 {
		row := render.NewPlane(2*130+x+9, 80)
		row.Place(label, x, 3)
		row.Place(label, x+139, 3)
		for _, at := range []int{x, x + 139} {
			require.Equal(t, label.Bits, row.Cut(render.Box{X: at, Y: 3, W: 130, H: 75}).Bits, "at %d", at)
		}
		require.True(t, row.Blank(render.Box{X: x + 130, W: 9, H: 80}))
	}
	narrow := render.NewPlane(100, 40)
	narrow.Place(label, 0, 0)
	require.Equal(t, label.Cut(render.Box{W: 100, H: 40}).Bits, narrow.Bits, "what lies beside the plane is left out")
}

func TestPNGHasTheDotsAndTheResolution(t *testing.T) {
	p := drawn(sample(t, 130, 75))
	var file bytes.Buffer
	require.NoError(t, render.WritePNG(&file, render.Layers{p}, render.BlackOnWhite, eight))
	require.Contains(t, file.String(), "pHYs\x00\x00\x1f\x40\x00\x00\x1f\x40\x01", "8,000 dots a metre")
	picture, err := png.Decode(&file)
	require.NoError(t, err)
	for y := range 75 {
		for x := range 130 {
			r, _, _, _ := picture.At(x, y).RGBA()
			require.Equal(t, p.Set(x, y), r == 0)
		}
	}
}

// Poppler draws the PDF, and librsvg-free eyes the SVG: both must be the printed dots, but for the
// edges of letters, which each renderer rounds in its own way. Bars must be exact.
func TestPDFBarsAreWholeModules(t *testing.T) {
	var symbol symbology.Symbol
	require.NoError(t, symbol.Encode(symbology.Code128, "952N0307B", symbology.Options{}))
	for _, resolution := range []measure.Resolution{eight, measure.DotsPerInch(300), measure.DotsPerMillimetre(24)} {
		var l render.List
		l.Reset((symbol.Modules()+20)*2, 40)
		l.Bars(0, render.Box{X: 20, Y: 7, W: symbol.Modules() * 2, H: 20}, symbol.AppendDots(nil, 2, 0))
		want := drawn(&l)
		path := filepath.Join(t.TempDir(), "bars.pdf")
		file, err := os.Create(path)
		require.NoError(t, err)
		document, pages := newPDF(t, file, "bars", resolution)
		require.NoError(t, pages.Add(&l))
		require.NoError(t, document.Close())
		require.NoError(t, file.Close())

		out, err := exec.Command("qpdf", "--check", path).CombinedOutput()
		require.NoError(t, err, string(out))
		out, err = exec.Command("pdftoppm", "-r", fmt.Sprint(resolution.PerInch()), "-mono", "-aa", "no", path,
			path).CombinedOutput()
		require.NoError(t, err, string(out))
		drawn, _ := filepath.Glob(path + "-*.pbm")
		require.Len(t, drawn, 1)
		require.Equal(t, text(want), text(readPBM(t, drawn[0])), resolution.String())
		require.Equal(t, text(want), text(ghostscript(t, path, resolution)), "Ghostscript at %s", resolution)
	}
}

// ghostscript draws the first page of a PDF with another interpreter.
func ghostscript(t *testing.T, path string, resolution measure.Resolution) *render.Plane {
	out, err := exec.Command("gs", "-q", "-dSAFER", "-dBATCH", "-dNOPAUSE", "-dFirstPage=1", "-dLastPage=1",
		"-sDEVICE=pbmraw", "-r"+fmt.Sprint(resolution.PerInch()), "-o", path+".gs.pbm", path).CombinedOutput()
	require.NoError(t, err, string(out))
	require.Empty(t, string(out))
	return readPBM(t, path+".gs.pbm")
}

var comments = regexp.MustCompile("(?m)^#.*\n")

// readPBM reads the raw one-bit format that pdftoppm -mono and Ghostscript write.
func readPBM(t *testing.T, path string) *render.Plane {
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	var w, h int
	head := comments.ReplaceAllString(string(data[:min(len(data), 200)]), "")
	_, err = fmt.Sscanf(head, "P4\n%d %d\n", &w, &h)
	require.NoError(t, err)
	p, stride := render.NewPlane(w, h), (w+7)/8
	data = data[len(data)-stride*h:]
	for y := range h {
		p.SetRow(y, data[y*stride:][:stride])
	}
	return p
}

func TestSameLabelSameBytes(t *testing.T) {
	write := func() (svg, pdf string) {
		var a, b bytes.Buffer
		require.NoError(t, render.WriteSVG(&a, sample(t, 130, 75), render.BlackOnWhite, eight))
		document, pages := newPDF(t, &b, "label", eight)
		require.NoError(t, pages.Add(sample(t, 130, 75)))
		require.NoError(t, document.Close())
		return a.String(), b.String()
	}
	svg, pdf := write()
	svgAgain, pdfAgain := write()
	require.Equal(t, svg, svgAgain)
	require.Equal(t, pdf, pdfAgain)
	require.Contains(t, svg, `width="16.25mm" height="9.375mm" viewBox="0 0 130 75"`)
	require.Contains(t, svg, "M20 10h4v9h-4z", "a bar of two modules is four dots")
}

// A file that cannot be written says so.
func TestWritersReportErrors(t *testing.T) {
	full, err := os.OpenFile("/dev/full", os.O_WRONLY, 0)
	require.NoError(t, err)
	defer full.Close()
	require.ErrorContains(t, render.WritePNG(full, render.Layers{drawn(sample(t, 130, 75))}, render.BlackOnWhite,
		eight), "write PNG")
	require.ErrorContains(t, render.WriteSVG(full, sample(t, 130, 75), render.BlackOnWhite, eight), "write SVG")
	require.ErrorContains(t, render.NewPDF(full, "x").Close(), "write PDF")
}

func BenchmarkDrawLabel(b *testing.B) {
	l := sample(b, 800, 400)
	p := render.NewPlane(800, 400)
	b.ReportAllocs()
	for b.Loop() {
		p.Clear()
		p.Draw(l)
	}
}

func BenchmarkPNG(b *testing.B) {
	p := drawn(sample(b, 608, 304))
	for b.Loop() {
		var file bytes.Buffer
		_ = render.WritePNG(&file, render.Layers{p}, render.BlackOnWhite, eight)
	}
}

func ExamplePlane_Draw() {
	var l render.List
	l.Reset(14, 3)
	l.Bars(0, render.Box{X: 1, W: 12, H: 2}, []uint16{2, 1, 1, 2, 3, 1, 2})
	p := render.NewPlane(14, 3)
	p.Draw(&l)
	for y := range p.Height {
		fmt.Printf("|%014b|\n", p.Row(y)[0]>>50)
	}
	// Output:
	// |01101001110110|
	// |01101001110110|
	// |00000000000000|
}
