package artwork

import (
	"image"
	"image/color"
	"math"
	"slices"

	"github.com/srwiley/rasterx"
	"golang.org/x/image/math/fixed"

	"oddspool/core/measure"
	"oddspool/core/picture"
	"oddspool/core/render"
)

// perMM is how many units a millimetre has while curves are made straight, as fine as the finest head; much more is too
// much for mitres.
const perMM = 32

// lines takes the areas that something is drawn with, in the place of a picture (rasterx.Scanner).
type lines struct {
	shapes  []picture.Shape
	pens    []render.Pen
	count   int
	colour  color.RGBA
	evenOdd bool
	// how many of those that come are filled; what comes then are the outlines of strokes: their edges, in no order
	areas   int
	drawn   int
	unplain bool // something cannot be lines: a gradient, or what is seen through
}

// mostLines is how many steps artwork may have to stay lines.
const mostLines = 200_000

func (l *lines) pen(op render.PenOp, p fixed.Point26_6) {
	const micrometres = 1000.0 / perMM / 64
	l.pens = append(l.pens, render.Pen{Op: op, Points: [6]float64{float64(p.X) * micrometres,
		float64(p.Y) * micrometres}})
}

func (l *lines) Start(p fixed.Point26_6) { l.pen(render.MoveTo, p) }
func (l *lines) Line(p fixed.Point26_6)  { l.pen(render.LineTo, p) }

// Draw ends an area.
func (l *lines) Draw() {
	l.drawn++
	if l.count += len(l.pens); l.count > mostLines {
		l.unplain = true
	}
	if l.unplain || len(l.pens) == 0 {
		l.pens = nil
		return
	}
	if l.areas == 0 {
		l.pens = chained(l.pens)
	}
	l.areas = max(l.areas-1, 0)
	l.pens = thinned(l.pens)
	if l.evenOdd {
		var ok bool
		if l.pens, ok = nonzero(l.pens); !ok {
			l.unplain = true
		}
	}
	l.shapes = append(l.shapes, picture.Shape{Pens: l.pens, Colour: l.colour})
	l.pens = nil
}

func (l *lines) SetColor(of any) {
	c, ok := of.(color.Color)
	if !ok {
		l.unplain = true
		return
	}
	l.colour, _ = color.RGBAModel.Convert(c).(color.RGBA) // it is that model's
	if l.colour.A != 0xff {
		l.unplain = true
	}
}

func (l *lines) SetWinding(nonzero bool)            { l.evenOdd = !nonzero }
func (l *lines) Clear()                             { l.pens = nil }
func (l *lines) GetPathExtent() fixed.Rectangle26_6 { return fixed.Rectangle26_6{} }
func (l *lines) SetBounds(int, int)                 {}
func (l *lines) SetClip(image.Rectangle)            {}

// chained makes rings of edges, of which each begins where another ends.
func chained(pens []render.Pen) (rings []render.Pen) {
	from := map[[2]float64][]int{} // edges, by where they begin: that which ends with pen i
	for i, pen := range pens {
		if pen.Op == render.LineTo && i > 0 {
			from[end(pens[i-1])] = append(from[end(pens[i-1])], i)
		}
	}
	done := make([]bool, len(pens))
	for i, pen := range pens {
		if pen.Op != render.LineTo || i == 0 || done[i] {
			continue
		}
		begin := pens[i-1]
		begin.Op = render.MoveTo
		rings = append(rings, begin)
		for at := i; !done[at]; {
			done[at] = true
			rings = append(rings, pens[at])
			next := from[end(pens[at])]
			for len(next) > 0 && done[next[0]] {
				next = next[1:]
			}
			from[end(pens[at])] = next
			if len(next) > 0 {
				at = next[0]
			}
		}
	}
	return rings
}

// How far what is left out of a line may lie beside it, in micrometres, and how many of its points in a row.
const (
	beside  = 1.5
	mostOut = 32
)

// thinned leaves out points of straightened curves that lie on the line between those around them.
func thinned(pens []render.Pen) []render.Pen {
	made := make([]render.Pen, 0, len(pens))
	var out [][2]float64 // since the last that was kept
	for i, pen := range pens {
		if next := i + 1; pen.Op == render.LineTo && next < len(pens) && pens[next].Op == render.LineTo &&
			len(out) < mostOut {
			from, to := end(made[len(made)-1]), end(pens[next])
			straight := true
			for _, p := range append(out, end(pen)) {
				straight = straight && distance(p, from, to) < beside
			}
			if straight {
				out = append(out, end(pen))
				continue
			}
		}
		made, out = append(made, pen), out[:0]
	}
	return made
}

// distance is how far a point lies from the line between two others.
func distance(p, a, b [2]float64) float64 {
	dx, dy := b[0]-a[0], b[1]-a[1]
	along := 0.0
	if long := dx*dx + dy*dy; long > 0 {
		along = min(max(((p[0]-a[0])*dx+(p[1]-a[1])*dy)/long, 0), 1)
	}
	return math.Hypot(p[0]-a[0]-along*dx, p[1]-a[1]-along*dy)
}

// How much is looked at to turn rings: points in rings, and points whose lines may cross.
const (
	mostNested  = 20_000_000
	mostCrossed = 3000
)

// nonzero turns rings that are meant by the even-odd rule so that the nonzero rule fills the same: one that lies in an
// odd number of others turns the other way round. false: they cross, or are too many to be looked at.
func nonzero(pens []render.Pen) (made []render.Pen, ok bool) {
	var rings [][]render.Pen
	for _, pen := range pens {
		if pen.Op == render.MoveTo {
			rings = append(rings, nil)
		}
		rings[len(rings)-1] = append(rings[len(rings)-1], pen)
	}
	around, points := make([][][2]float64, len(rings)), 0
	for i, ring := range rings {
		around[i] = corners(ring)
		points += len(around[i])
	}
	if points*len(rings) > mostNested || points <= mostCrossed && cross(around) {
		return pens, false
	}
	for i, ring := range rings {
		depth := 0
		for j := range rings {
			if i != j && inside(around[i][0], around[j]) {
				depth++
			}
		}
		if (area(around[i]) < 0) != (depth%2 == 1) {
			ring = backwards(ring)
		}
		made = append(made, ring...)
	}
	return made, true
}

// cross tells whether any two lines of rings cross in their middles.
func cross(rings [][][2]float64) bool {
	var lines [][2][2]float64
	for _, ring := range rings {
		for i, p := range ring {
			lines = append(lines, [2][2]float64{p, ring[(i+1)%len(ring)]})
		}
	}
	side := func(p, a, b [2]float64) float64 { return (b[0]-a[0])*(p[1]-a[1]) - (b[1]-a[1])*(p[0]-a[0]) }
	for i, l := range lines {
		for _, m := range lines[:i] {
			if side(l[0], m[0], m[1])*side(l[1], m[0], m[1]) < 0 && side(m[0], l[0], l[1])*side(m[1], l[0], l[1]) < 0 {
				return true
			}
		}
	}
	return false
}

func end(pen render.Pen) [2]float64 {
	at := 0
	if pen.Op == render.CurveTo {
		at = 4
	}
	return [2]float64{pen.Points[at], pen.Points[at+1]}
}

// corners are points along a ring.
func corners(ring []render.Pen) (points [][2]float64) {
	for i, pen := range ring {
		if pen.Op == render.CurveTo {
			from := end(ring[i-1])
			for _, t := range []float64{0.25, 0.5, 0.75} {
				u := 1 - t
				var p [2]float64
				for k := range p {
					p[k] = u*u*u*from[k] + 3*u*u*t*pen.Points[k] + 3*u*t*t*pen.Points[2+k] + t*t*t*pen.Points[4+k]
				}
				points = append(points, p)
			}
		}
		points = append(points, end(pen))
	}
	return points
}

func area(points [][2]float64) (twice float64) {
	for i, p := range points {
		q := points[(i+1)%len(points)]
		twice += p[0]*q[1] - q[0]*p[1]
	}
	return twice
}

func inside(p [2]float64, ring [][2]float64) (in bool) {
	for i, a := range ring {
		b := ring[(i+1)%len(ring)]
		if (a[1] > p[1]) != (b[1] > p[1]) && p[0] < (b[0]-a[0])*(p[1]-a[1])/(b[1]-a[1])+a[0] {
			in = !in
		}
	}
	return in
}

func backwards(ring []render.Pen) []render.Pen {
	last := end(ring[len(ring)-1])
	made := []render.Pen{{Op: render.MoveTo, Points: [6]float64{last[0], last[1]}}}
	for i := len(ring) - 1; i > 0; i-- {
		pen, to := ring[i], end(ring[i-1])
		if pen.Op == render.CurveTo {
			pen.Points = [6]float64{pen.Points[2], pen.Points[3], pen.Points[0], pen.Points[1], to[0], to[1]}
		} else {
			pen.Points = [6]float64{to[0], to[1]}
		}
		made = append(made, pen)
	}
	return made
}

// asDrawn is a page as lines.
type asDrawn struct {
	shapes        []picture.Shape // none: it cannot be lines
	width, height float64         // millimetres
}

// file returns the page as a drawing; nil where that does not show what the page shows.
func (d asDrawn) file(page *image.Gray) []byte {
	if len(d.shapes) == 0 {
		return nil
	}
	file := picture.WriteDrawing(measure.Length(math.Round(d.width*1000)), measure.Length(math.Round(d.height*1000)),
		d.shapes)
	if len(file) > picture.MostBytes {
		return nil
	}
	drawing, err := picture.Decode(file)
	if err != nil {
		return nil
	}
	for _, lighter := range []int{0, 30, -30} { // what is grey counts too
		if !alike(drawing.Dots(page.Rect.Dx(), page.Rect.Dy(), picture.Threshold, lighter, true), page,
			128-lighter*255/100) {
			return nil
		}
	}
	return file
}

// How much may differ where two programs draw the same: some dots along its edges, in no place many.
const (
	tile      = 24 // dots
	mostOther = tile * tile / 8
)

func alike(dots *render.Plane, page *image.Gray, dark int) bool {
	wide, tall := page.Rect.Dx(), page.Rect.Dy()
	across := (wide + tile - 1) / tile
	others := make([]int, across*((tall+tile-1)/tile))
	for y := range tall {
		for x := range wide {
			if dots.Set(x, y) != (int(page.Pix[y*page.Stride+x]) < dark) {
				others[y/tile*across+x/tile]++
			}
		}
	}
	return !slices.ContainsFunc(others, func(n int) bool { return n > mostOther })
}

var _ rasterx.Scanner = (*lines)(nil)
