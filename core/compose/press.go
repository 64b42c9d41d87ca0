package compose

import "oddspool/core/render"

// A Press draws the labels of one design as they leave the printer: the artwork turned as the
// design says, what never changes drawn once. It is not safe for concurrent use; Clone makes
// another.
type Press struct {
	composer *Composer
	base     *render.Plane
	label    Label
}

// NewPress returns a press for a composer's design.
func NewPress(c *Composer) *Press {
	w, h := c.design.Turn.Size(c.width, c.height)
	p := &Press{composer: c, base: render.NewPlane(w, h)}
	var fixed render.List
	fixed.Reset(c.width, c.height)
	fixed.Append(c.Fixed())
	fixed.Turn(c.design.Turn)
	p.base.Draw(&fixed)
	return p
}

// Clone returns a press of the same design for another goroutine.
func (p *Press) Clone() *Press { return &Press{composer: p.composer.Clone(), base: p.base} }

// NewPlane returns a plane of the size that Label draws on.
func (p *Press) NewPlane() *render.Plane { return render.NewPlane(p.base.Width, p.base.Height) }

// Label composes the label of a record and draws it. The label is the press's own and holds until
// the next call; its parts tell where things are on the artwork as it is read.
func (p *Press) Label(plane *render.Plane, record []string) *Label {
	p.composer.ComposeChanging(&p.label, record)
	p.label.List.Turn(p.composer.design.Turn)
	plane.Copy(p.base)
	plane.Draw(&p.label.List)
	return &p.label
}

// NewRow returns a plane for a row of labels, one in each lane.
func (p *Press) NewRow() *render.Plane {
	return render.NewPlane(p.composer.grid.Dots(p.composer.design.Stock.RowWidth()), p.base.Height)
}

// Lane returns where the label of a lane, from 0, lies in a row.
func (p *Press) Lane(i int) render.Box {
	s := &p.composer.design.Stock
	return render.Box{X: p.composer.grid.Dots(s.LaneAt(i) - s.EdgeLeft), W: p.base.Width, H: p.base.Height}
}

// Row draws a row: the labels of up to as many records as there are lanes, from left to right. The
// lanes that are left over stay blank. label is a plane to draw one label on.
func (p *Press) Row(row, label *render.Plane, records [][]string) {
	row.Clear()
	for i, record := range records {
		p.Label(label, record)
		row.Place(label, p.Lane(i).X, 0)
	}
}

// OnWeb returns where a box of the artwork lies on the plane.
func (p *Press) OnWeb(b render.Box) render.Box {
	return b.Turned(p.composer.design.Turn, p.composer.width, p.composer.height)
}
