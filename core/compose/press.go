package compose

import "oddspool/core/render"

// A Press draws the labels of one design as they leave the printer: the artwork turned as the
// design says, what never changes drawn once where that can be. It is not safe for concurrent use;
// Clone makes another.
type Press struct {
	composer *Composer
	base     *render.Plane // what never changes; nil when it cannot be shared
	label    Label
	pieceW   int // of the label last drawn, as its artwork is read
	pieceH   int
}

// NewPress returns a press for a composer's design.
func NewPress(c *Composer) *Press {
	p := &Press{composer: c, pieceW: c.pieceW, pieceH: c.pieceH}
	if !c.shares() {
		return p
	}
	var fixed render.List
	fixed.Reset(c.pieceW, c.pieceH)
	fixed.Append(&c.fixed.List)
	fixed.Turn(c.design.Turn)
	p.base = render.NewPlane(fixed.Width, fixed.Height)
	p.base.Draw(&fixed)
	return p
}

// Clone returns a press of the same design for another goroutine.
func (p *Press) Clone() *Press {
	return &Press{composer: p.composer.Clone(), base: p.base, pieceW: p.pieceW, pieceH: p.pieceH}
}

// NewLayers returns layers that Label draws on, one for each ink of the design.
func (p *Press) NewLayers() render.Layers {
	w, h := p.composer.design.Turn.Size(p.composer.pieceW, p.composer.pieceH)
	return render.NewLayers(len(p.composer.inks), w, h)
}

// Label composes the label of a record and draws it; the layers take its size. The label is the
// press's own and holds until the next call; its parts tell where things are on the artwork as it
// is read.
func (p *Press) Label(layers render.Layers, record []string) *Label {
	if p.base == nil {
		p.composer.Compose(&p.label, record)
	} else {
		p.composer.compose(&p.label, record)
	}
	p.pieceW, p.pieceH = p.label.List.Width, p.label.List.Height
	p.label.List.Turn(p.composer.design.Turn)
	if p.base != nil {
		layers[0].Copy(p.base)
	} else {
		layers.Resize(p.label.List.Width, p.label.List.Height)
	}
	layers.Draw(&p.label.List)
	return &p.label
}

// NewPage returns layers for what a printer prints at once: a row of labels, or a sheet.
func (p *Press) NewPage() render.Layers {
	w, h := p.composer.design.Stock.PageSize()
	return render.NewLayers(len(p.composer.inks), p.composer.grid.Dots(w), p.composer.grid.Dots(h))
}

// Place returns where place i of a page, from 0, lies on it.
func (p *Press) Place(i int) render.Box {
	x, y := p.composer.design.Stock.OnPage(i)
	w, h := p.composer.design.Turn.Size(p.pieceW, p.pieceH)
	return render.Box{X: p.composer.grid.Dots(x), Y: p.composer.grid.Dots(y), W: w, H: h}
}

// Page draws a page: the labels of up to as many records as it has places from one on, along its
// rows. Places that are left over stay blank. label has layers to draw one label on. A page that is
// a single label takes its size.
func (p *Press) Page(page, label render.Layers, records [][]string, from int) {
	if p.composer.design.Stock.PerPage() == 1 {
		p.Label(page, records[0])
		return
	}
	for _, plane := range page {
		plane.Clear()
	}
	for i, record := range records {
		p.Label(label, record)
		place := p.Place(from + i)
		page.Place(label, place.X, place.Y)
	}
}

// OnWeb returns where a box of the artwork of the label last drawn lies on its layers.
func (p *Press) OnWeb(b render.Box) render.Box {
	return b.Turned(p.composer.design.Turn, p.pieceW, p.pieceH)
}

// Stand has the next label be one of a batch, see Composer.Stand.
func (p *Press) Stand(n int) { p.composer.Stand(n) }

// Last returns the label last drawn.
func (p *Press) Last() *Label { return &p.label }
