package compose

import (
	"math"

	"oddspool/core/design"
	"oddspool/core/render"
)

// shape draws a box or an oval: what it is filled with first, then its outline, which lies within its box.
func (c *Composer) shape(l *Label, i int, b render.Box, weight int) {
	d := &c.design.Elements[i]
	weight = min(weight, (min(b.W, b.H)+1)/2)
	looks := design.Shape{}
	if d.Shape != nil {
		looks = *d.Shape
	}
	w, h := float64(b.W), float64(b.H)
	rx := float64(c.grid.Dots(looks.Corner))
	ry := rx
	if d.Kind == design.Oval {
		rx, ry = w/2, h/2
	}
	sides := 0
	if d.Kind == design.Oval && looks.Sides > 2 {
		sides = looks.Sides
	}
	fill, at := &l.List, b
	var alone render.List
	tint := looks.Fill != "" && looks.Tint > 0 && looks.Tint < 100
	if tint {
		alone.Reset(b.W, b.H)
		fill, at = &alone, render.Box{W: b.W, H: b.H}
	}
	switch {
	case looks.Fill == "":
	case sides > 0:
		fill.Path(i, at, polygon(sides, w, h, 0, false))
	case rx == 0:
		fill.Fill(i, at)
	default:
		fill.Path(i, at, render.RoundBox(w, h, 0, rx, ry, false))
	}
	if tint {
		l.List.Dots(i, b, tinted(&alone, looks.Tint))
	}
	switch t := float64(weight); {
	case looks.NoOutline:
	case sides > 0:
		l.List.Path(i, b, polygon(sides, w, h, t, true))
	case rx == 0:
		l.List.Fill(i, render.Box{X: b.X, Y: b.Y, W: b.W, H: weight})
		l.List.Fill(i, render.Box{X: b.X, Y: b.Y + b.H - weight, W: b.W, H: weight})
		l.List.Fill(i, render.Box{X: b.X, Y: b.Y, W: weight, H: b.H})
		l.List.Fill(i, render.Box{X: b.X + b.W - weight, Y: b.Y, W: weight, H: b.H})
	default:
		l.List.Path(i, b, append(render.RoundBox(w, h, 0, rx, ry, false),
			render.RoundBox(w, h, t, rx-t, ry-t, true)...))
	}
}

// askew draws a line from corner to corner of its box, so thick that all of it lies within.
func (c *Composer) askew(l *Label, i, weight int) {
	b := c.elements[i].box
	w, h := float64(b.W), float64(b.H)
	long := math.Hypot(w, h)
	// The corners of the line: half its weight to each side of the diagonal, cut off by the box.
	dx, dy := min(float64(weight)*long/h, w), min(float64(weight)*long/w, h)
	points := [][2]float64{{0, 0}, {dx / 2, 0}, {w, h - dy/2}, {w, h}, {w - dx/2, h}, {0, dy / 2}}
	pens := make([]render.Pen, len(points))
	for n, p := range points {
		if c.design.Elements[i].Shape.Slope == design.Up {
			p[1] = h - p[1]
		}
		pens[n] = render.Pen{Op: render.LineTo, Points: [6]float64{p[0], p[1]}}
	}
	pens[0].Op = render.MoveTo
	l.List.Path(i, b, pens)
}
