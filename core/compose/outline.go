package compose

import (
	"math"

	"github.com/go-text/typesetting/font/opentype"

	"oddspool/core/design"
	"oddspool/core/render"
)

// An outline is one while it is worked out: in dots and parts of them, in the upright frame of its element.
type outline struct {
	pens                     []render.Pen
	left, top, right, bottom float64
}

func newOutline() *outline {
	return &outline{left: math.Inf(1), top: math.Inf(1), right: math.Inf(-1), bottom: math.Inf(-1)}
}

func (o *outline) add(op render.PenOp, points ...float64) {
	pen := render.Pen{Op: op}
	copy(pen.Points[:], points)
	for i := 0; i < len(points); i += 2 {
		o.left, o.right = min(o.left, points[i]), max(o.right, points[i])
		o.top, o.bottom = min(o.top, points[i+1]), max(o.bottom, points[i+1])
	}
	o.pens = append(o.pens, pen)
}

// polygon adds a closed outline of straight lines.
func (o *outline) polygon(points ...[2]float64) {
	for n, p := range points {
		op := render.LineTo
		if n == 0 {
			op = render.MoveTo
		}
		o.add(op, p[0], p[1])
	}
}

// through moves every point of the outline.
func (o *outline) through(to func(x, y float64) (float64, float64)) *outline {
	moved := newOutline()
	for _, pen := range o.pens {
		var points []float64
		for n := 0; n < 2*pointsOf(pen.Op); n += 2 {
			x, y := to(pen.Points[n], pen.Points[n+1])
			points = append(points, x, y)
		}
		moved.add(pen.Op, points...)
	}
	return moved
}

func pointsOf(op render.PenOp) int {
	if op == render.CurveTo {
		return 3
	}
	return 1
}

// draw adds the outline to the list and returns the whole dots that hold it, at dx, dy.
func (o *outline) draw(l *Label, i, dx, dy int) render.Box {
	if len(o.pens) == 0 {
		return render.Box{}
	}
	x, y := math.Floor(o.left), math.Floor(o.top)
	box := render.Box{X: int(x), Y: int(y), W: int(math.Ceil(o.right) - x), H: int(math.Ceil(o.bottom) - y)}
	inBox := o.through(func(px, py float64) (float64, float64) { return px - x, py - y })
	box.X, box.Y = box.X+dx, box.Y+dy
	l.List.Path(i, box, inBox.pens)
	return box
}

// lettered returns the outlines of the block's glyphs, its lines aligned in the element's box and its top at y.
func (c *Composer) lettered(part *Part, i, y int) *outline {
	o, looks, e := newOutline(), c.design.Elements[i].Text, &c.elements[i]
	perEm := float64(part.PerEm) / 64
	for _, line := range c.block.Lines {
		left := float64(startOf(looks, e.boxWidth-line.Width))
		for _, g := range c.block.Glyphs[line.From:line.To] {
			segments, upem := g.Face.Outline(g.ID)
			scale := perEm / float64(upem)
			originX, originY := left+float64(g.X), float64(y)+float64(g.Y)
			var hereX, hereY float64
			for _, s := range segments {
				at := func(n int) (float64, float64) {
					return originX + float64(s.Args[n].X)*scale, originY - float64(s.Args[n].Y)*scale
				}
				ax, ay := at(0)
				switch s.Op {
				case opentype.SegmentOpMoveTo:
					o.add(render.MoveTo, ax, ay)
				case opentype.SegmentOpLineTo:
					o.add(render.LineTo, ax, ay)
				case opentype.SegmentOpQuadTo: // as a cubic
					bx, by := at(1)
					o.add(render.CurveTo, hereX+(ax-hereX)*2/3, hereY+(ay-hereY)*2/3, bx+(ax-bx)*2/3, by+(ay-by)*2/3,
						bx, by)
					ax, ay = bx, by
				case opentype.SegmentOpCubeTo:
					bx, by := at(1)
					cx, cy := at(2)
					o.add(render.CurveTo, ax, ay, bx, by, cx, cy)
					ax, ay = cx, cy
				}
				hereX, hereY = ax, ay
			}
		}
	}
	return o
}

// stretched draws words as wide and as tall as their box.
func (c *Composer) stretched(l *Label, i int) {
	e, part := &c.elements[i], &l.Parts[i]
	o := c.lettered(part, i, 0)
	if len(o.pens) == 0 {
		return
	}
	scaleX, scaleY := float64(e.boxWidth)/max(o.right-o.left, 1), float64(e.boxTall)/max(o.bottom-o.top, 1)
	left, top := o.left, o.top
	drawn := o.through(func(x, y float64) (float64, float64) { return (x - left) * scaleX, (y - top) * scaleY })
	drawn.right, drawn.bottom = min(drawn.right, float64(e.boxWidth)), min(drawn.bottom, float64(e.boxTall))
	part.PerEm = int(float64(part.PerEm) * scaleY)
	part.Real = c.tilted(drawn, i).draw(l, i, 0, 0)
}

// atAngle draws words that are turned about the middle of their box.
func (c *Composer) atAngle(l *Label, i, y int) {
	part := &l.Parts[i]
	part.TooWide, part.TooTall = 0, 0 // what reaches over the label is found, and the box is no bound
	part.Real = c.tilted(c.lettered(part, i, y), i).draw(l, i, 0, 0)
}

// tilted turns an outline by its element's angle.
func (c *Composer) tilted(o *outline, i int) *outline {
	e, angle := &c.elements[i], c.design.Elements[i].Angle
	if angle == 0 {
		return o
	}
	sin, cos := math.Sincos(angle * math.Pi / 180)
	midX, midY := float64(e.boxWidth)/2, float64(e.boxTall)/2
	return o.through(func(x, y float64) (float64, float64) {
		x, y = x-midX, y-midY
		return midX + float64(x*cos) - float64(y*sin), midY + float64(x*sin) + float64(y*cos)
	})
}

// How lines are broken and pointed, in their own thickness.
const (
	dashLong  = 3
	dashApart = 2
	headWide  = 4 // of an arrow that stands on a line askew
	headLong  = 4
)

// rule draws a line: along the longer side of its box, or from corner to corner.
func (c *Composer) rule(l *Label, i, weight int) {
	b := c.elements[i].box
	looks := design.Shape{}
	if shape := c.design.Elements[i].Shape; shape != nil {
		looks = *shape
	}
	switch {
	case looks.Slope != "" && looks.Dash == "" && looks.Arrow == "":
		c.askew(l, i, weight)
	case looks.Dash == "" && looks.Arrow == "":
		l.List.Fill(i, b)
	case looks.Slope != "":
		from, to := [2]float64{0, 0}, [2]float64{float64(b.W), float64(b.H)}
		if looks.Slope == design.Up {
			from, to = [2]float64{0, float64(b.H)}, [2]float64{float64(b.W), 0}
		}
		stroke(from, to, float64(weight), headWide*float64(weight), &looks).draw(l, i, b.X, b.Y)
	default:
		long, thick := float64(b.W), float64(b.H)
		if b.H > b.W {
			long, thick = thick, long
		}
		shaft := thick
		if looks.Arrow != "" {
			shaft = min(float64(weight), thick)
		}
		from, to := [2]float64{0, thick / 2}, [2]float64{long, thick / 2}
		if b.H > b.W {
			from, to = [2]float64{thick / 2, 0}, [2]float64{thick / 2, long}
		}
		stroke(from, to, shaft, thick, &looks).draw(l, i, b.X, b.Y)
	}
}

// stroke returns a line from one point to another, broken and pointed as its looks say, with heads so wide.
func stroke(from, to [2]float64, weight, head float64, looks *design.Shape) *outline {
	o := newOutline()
	long := math.Hypot(to[0]-from[0], to[1]-from[1])
	ux, uy := (to[0]-from[0])/long, (to[1]-from[1])/long
	at := func(along, across float64) [2]float64 {
		return [2]float64{from[0] + float64(along*ux) - float64(across*uy),
			from[1] + float64(along*uy) + float64(across*ux)}
	}
	begin, end := 0.0, long
	headLength := min(head/headWide*headLong, long/2)
	if looks.Arrow == design.AtStart || looks.Arrow == design.BothEnds {
		begin = headLength
		o.polygon(at(0, 0), at(headLength, -head/2), at(headLength, head/2))
	}
	if looks.Arrow == design.AtEnd || looks.Arrow == design.BothEnds {
		end = long - headLength
		o.polygon(at(long, 0), at(end, head/2), at(end, -head/2))
	}
	dash, apart := end-begin, 0.0
	switch looks.Dash {
	case design.Dashed:
		dash, apart = dashLong*weight, dashApart*weight
	case design.Dotted:
		dash, apart = weight, weight
	}
	for x := begin; x < end && len(o.pens) < mostPens; x += dash + apart {
		last := min(x+dash, end)
		o.polygon(at(x, -weight/2), at(last, -weight/2), at(last, weight/2), at(x, weight/2))
	}
	return o
}

// mostPens bounds what one line is drawn of.
const mostPens = 20_000

// frame returns the box of a frame round what stands on the label of its elements; empty where none does.
func (c *Composer) frame(l *Label, i, weight int) (box render.Box) {
	for _, j := range c.elements[i].around {
		part, kind := &l.Parts[j], c.design.Elements[j].Kind
		if part.Absent || part.Says == "" && (kind == design.Text || kind == design.Code) {
			continue
		}
		box = box.With(part.Real)
	}
	if box.Empty() {
		return box
	}
	off := c.grid.Dots(c.design.Elements[i].Distance) + weight
	return render.Box{X: box.X - off, Y: box.Y - off, W: box.W + 2*off, H: box.H + 2*off}
}

// polygon returns a regular polygon in an ellipse that fills w × h, a corner at the top; with a weight, its outline
// alone.
func polygon(sides int, w, h, weight float64, outlineOnly bool) []render.Pen {
	o := newOutline()
	ring := func(scale float64, backwards bool) {
		points := make([][2]float64, sides)
		for n := range points {
			sin, cos := math.Sincos(2 * math.Pi * float64(n) / float64(sides))
			points[n] = [2]float64{w/2 + float64(sin*scale)*w/2, h/2 - float64(cos*scale)*h/2}
		}
		if backwards {
			for a, b := 0, len(points)-1; a < b; a, b = a+1, b-1 {
				points[a], points[b] = points[b], points[a]
			}
		}
		o.polygon(points...)
	}
	ring(1, false)
	if outlineOnly {
		apothem := min(w, h) / 2 * math.Cos(math.Pi/float64(sides))
		ring(max(1-weight/apothem, 0), true)
	}
	return o.pens
}

// tinted returns as many dots of what a list fills as a tint has, in a pattern.
func tinted(filled *render.List, tint int) *render.Plane {
	plane, made := render.NewPlane(filled.Width, filled.Height), render.NewPlane(filled.Width, filled.Height)
	plane.Draw(filled)
	for y := range plane.Height {
		plane.EachDot(y, func(x int) {
			if render.InTint(x, y, tint) {
				made.Dot(x, y)
			}
		})
	}
	return made
}
