package render

import (
	"image"
	"math"
	"slices"

	"golang.org/x/image/vector"
)

// A Pen is one step of an outline in dots, in a frame that is as large as the item's box before its turn. Curves are
// cubic (SVG 2, 9.3.6): two control points, then the end.
type Pen struct {
	Op     PenOp
	Points [6]float64 // x, y of up to three points
}

// A PenOp is what a Pen does.
type PenOp uint8

// The steps. Every outline begins with a Move and is closed by the next Move, or the end.
const (
	MoveTo PenOp = iota
	LineTo
	CurveTo
)

// Path adds an outline, filled by the nonzero rule, whose frame lies at box. A dot is set when at least half of it is
// covered.
func (l *List) Path(element int, box Box, pens []Pen) {
	from := len(l.pens)
	l.pens = append(l.pens, pens...)
	l.Items = append(l.Items, Item{Op: Path, Element: element, Box: box, from: from, to: len(l.pens)})
}

// quarter is how far the control points of a cubic that is a quarter of a circle lie from its ends, for a radius of 1.
const quarter = 0.5522847498

// RoundBox returns the outline of a box whose corners are quarters of ellipses, inset from all sides of a frame of w ×
// h; backwards, it is a hole in what lies around it.
func RoundBox(w, h, inset, rx, ry float64, backwards bool) []Pen {
	left, top, right, bottom := inset, inset, w-inset, h-inset
	rx, ry = min(max(rx, 0), (right-left)/2), min(max(ry, 0), (bottom-top)/2)
	kx, ky := rx*(1-quarter), ry*(1-quarter)
	if backwards {
		return []Pen{
			{MoveTo, [6]float64{left + rx, top}},
			{CurveTo, [6]float64{left + kx, top, left, top + ky, left, top + ry}},
			{LineTo, [6]float64{left, bottom - ry}},
			{CurveTo, [6]float64{left, bottom - ky, left + kx, bottom, left + rx, bottom}},
			{LineTo, [6]float64{right - rx, bottom}},
			{CurveTo, [6]float64{right - kx, bottom, right, bottom - ky, right, bottom - ry}},
			{LineTo, [6]float64{right, top + ry}},
			{CurveTo, [6]float64{right, top + ky, right - kx, top, right - rx, top}},
			{LineTo, [6]float64{left + rx, top}},
		}
	}
	return []Pen{
		{MoveTo, [6]float64{left + rx, top}}, {LineTo, [6]float64{right - rx, top}},
		{CurveTo, [6]float64{right - kx, top, right, top + ky, right, top + ry}},
		{LineTo, [6]float64{right, bottom - ry}},
		{CurveTo, [6]float64{right, bottom - ky, right - kx, bottom, right - rx, bottom}},
		{LineTo, [6]float64{left + rx, bottom}},
		{CurveTo, [6]float64{left + kx, bottom, left, bottom - ky, left, bottom - ry}},
		{LineTo, [6]float64{left, top + ry}},
		{CurveTo, [6]float64{left, top + ky, left + kx, top, left + rx, top}},
	}
}

// outlined calls to with each step of a Path item where it lies on the label.
func (l *List) outlined(item *Item, to pather) { item.outline(l.pens[item.from:item.to], to) }

// outline calls to with each step of an outline in an item's frame where it lies on the label.
func (item *Item) outline(pens []Pen, to pather) {
	w, h := float64(item.Box.W), float64(item.Box.H)
	at := func(u, v float64) (x, y float64) {
		switch item.Turn {
		case 90:
			u, v = w-v, u
		case 180:
			u, v = w-u, h-v
		case 270:
			u, v = v, h-u
		}
		return float64(item.Box.X) + u, float64(item.Box.Y) + v
	}
	open := false
	for _, pen := range pens {
		ax, ay := at(pen.Points[0], pen.Points[1])
		switch pen.Op {
		case MoveTo:
			if open {
				to.close()
			}
			open = true
			to.moveTo(ax, ay)
		case LineTo:
			to.lineTo(ax, ay)
		case CurveTo:
			bx, by := at(pen.Points[2], pen.Points[3])
			cx, cy := at(pen.Points[4], pen.Points[5])
			to.cubeTo(ax, ay, bx, by, cx, cy)
		}
	}
	if open {
		to.close()
	}
}

// half of a dot covered sets it.
const half = 0x80

// rasterPath gives an outline to a rasterizer whose top left dot is at x, y.
type rasterPath struct {
	raster *vector.Rasterizer
	x, y   float64
}

func (r *rasterPath) moveTo(x, y float64) { r.raster.MoveTo(float32(x-r.x), float32(y-r.y)) }
func (r *rasterPath) lineTo(x, y float64) { r.raster.LineTo(float32(x-r.x), float32(y-r.y)) }
func (r *rasterPath) cubeTo(ax, ay, bx, by, x, y float64) {
	r.raster.CubeTo(float32(ax-r.x), float32(ay-r.y), float32(bx-r.x), float32(by-r.y), float32(x-r.x), float32(y-r.y))
}
func (r *rasterPath) close() { r.raster.ClosePath() }

// Covered returns how much of each dot of a frame of w × h dots an outline covers.
func Covered(w, h int, pens []Pen) *image.Alpha {
	item := &Item{Box: Box{W: w, H: h}}
	return item.covered(w, h, 0, 0, pens)
}

// covered returns how much of each dot of a frame at left, top an outline of the item covers.
func (item *Item) covered(w, h, left, top int, pens []Pen) *image.Alpha {
	raster := vector.NewRasterizer(w, h)
	item.outline(pens, &rasterPath{raster, float64(left), float64(top)})
	covered := image.NewAlpha(image.Rect(0, 0, w, h))
	raster.Draw(covered, covered.Rect, image.Opaque, image.Point{})
	return covered
}

// path sets the dots of a Path item, as far as they lie on the plane.
func (p *Plane) path(l *List, item *Item) {
	box := item.Box.And(p.all())
	if box.Empty() {
		return
	}
	covered := item.covered(box.W, box.H, box.X, box.Y, l.pens[item.from:item.to])
	for y := range box.H {
		row := p.Row(box.Y + y)
		for x, alpha := range covered.Pix[y*covered.Stride:][:box.W] {
			if alpha >= half {
				row[(box.X+x)/64] |= 1 << (63 - (box.X+x)%64)
			}
		}
	}
}

// Around returns the whole dots that an outline with its control points reaches into.
func Around(pens []Pen) Box {
	left, top, right, bottom := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, pen := range pens {
		for i, n := range pen.Points[:2*(1+2*int(pen.Op/CurveTo))] {
			if i%2 == 0 {
				left, right = min(left, n), max(right, n)
			} else {
				top, bottom = min(top, n), max(bottom, n)
			}
		}
	}
	if len(pens) == 0 {
		return Box{}
	}
	const far = 1 << 24 // dots: no plane is as large
	whole := func(n float64, round func(float64) float64) int { return int(min(max(round(n), -far), far)) }
	x, y := whole(left, math.Floor), whole(top, math.Floor)
	return Box{x, y, whole(right, math.Ceil) - x, whole(bottom, math.Ceil) - y}
}

// Moved returns an outline so much further right and down.
func Moved(pens []Pen, dx, dy float64) []Pen {
	made := slices.Clone(pens)
	for i := range made {
		for j := range made[i].Points {
			made[i].Points[j] += [2]float64{dx, dy}[j%2]
		}
	}
	return made
}

// Fill adds what an outline fills in one layer, and takes it from all others.
func (l Layers) Fill(layer int, pens []Pen) {
	w, h := l.Size()
	box := Around(pens).And(Box{W: w, H: h})
	if box.Empty() {
		return
	}
	drawn := Covered(box.W, box.H, Moved(pens, -float64(box.X), -float64(box.Y)))
	for y := range box.H {
		for x, alpha := range drawn.Pix[y*drawn.Stride:][:box.W] {
			if alpha < half {
				continue
			}
			for i, p := range l {
				if at, bit := (box.Y+y)*p.Stride+(box.X+x)/64, uint64(1)<<(63-(box.X+x)%64); i == layer {
					p.Bits[at] |= bit
				} else {
					p.Bits[at] &^= bit
				}
			}
		}
	}
}
