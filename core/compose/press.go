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

// OnWeb returns where a box of the artwork lies on the plane.
func (p *Press) OnWeb(b render.Box) render.Box {
	return b.Turned(p.composer.design.Turn, p.composer.width, p.composer.height)
}
