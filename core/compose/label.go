package compose

import (
	"slices"

	"oddspool/core/design"
	"oddspool/core/render"
)

func (l *Label) reset(c *Composer) {
	l.List.Reset(c.pieceW, c.pieceH)
	l.Over, l.Last = 0, -1
	if l.of != c.design {
		l.of, l.Parts = c.design, make([]Part, len(c.elements))
	}
}

// Size returns the artwork's width and height in dots.
func (c *Composer) Size() (width, height int) { return c.width, c.height }

// Piece returns width and height of the whole piece in dots, as the artwork is read. A piece that is
// as long as its content has the size of its label's list.
func (c *Composer) Piece() (width, height int) { return c.pieceW, c.pieceH }

// shares tells whether what never changes can be drawn once for all labels.
func (c *Composer) shares() bool { return len(c.inks) == 1 && !c.grows && !c.bares }

// Box returns the box that element i was given, in dots on the artwork as it is read.
func (c *Composer) Box(i int) render.Box { return c.elements[i].box }

// Compose fills l with everything on the label of one record.
func (c *Composer) Compose(l *Label, record []string) {
	c.compose(l, record)
	l.List.Append(&c.fixed.List)
	if len(c.inks) > 1 || c.bares { // a later element covers what is under it
		slices.SortStableFunc(l.List.Items, func(a, b render.Item) int { return a.Element - b.Element })
	}
}

// Fixed returns what stands the same on every label, where it can be drawn apart from the rest: in one ink, on pieces
// of one length. Else nil.
func (c *Composer) Fixed() *render.List {
	if !c.shares() || len(c.fixed.List.Items) == 0 {
		return nil
	}
	return &c.fixed.List
}

// ComposeChanging fills l as Compose does, but for what Fixed returns.
func (c *Composer) ComposeChanging(l *Label, record []string) {
	if c.Fixed() == nil {
		c.Compose(l, record)
		return
	}
	c.compose(l, record)
}

// compose fills l with what changes from label to label; the parts of fixed elements are there,
// their items are not.
func (c *Composer) compose(l *Label, record []string) {
	l.reset(c)
	for i := range c.all() {
		if c.elements[i].fixed {
			l.Parts[i] = c.fixed.Parts[i]
			continue
		}
		c.element(l, i, record)
	}
	c.finish(l)
}

// finish gives a piece that is as long as its content its length, and repeats the legend.
func (c *Composer) finish(l *Label) {
	if c.grows {
		c.grow(l)
	}
	l.List.Repeat(c.times, c.stepX, c.stepY)
}

// grow works out how long the piece is: to the end of what reaches furthest, and its margin.
func (c *Composer) grow(l *Label) {
	end := 0
	for i := range l.Parts {
		part, kind := &l.Parts[i], c.design.Elements[i].Kind
		if part.Absent || kind == design.Tag || part.Says == "" && (kind == design.Text || kind == design.Code) {
			continue
		}
		box := part.Real
		if kind == design.Text && !c.elements[i].grows {
			box = box.And(part.Box) // what sticks out is cut
		}
		reach := box.Y + box.H
		if c.design.Turn.Sideways() {
			reach = box.X + box.W
		}
		if reach > end {
			end, l.Last = reach, i
		}
	}
	s := &c.design.Stock
	content := c.grid.Length(end)
	length, fits := s.PieceLength(content)
	if !fits {
		l.Over = c.grid.Dots(content + s.Tape.Margin - length)
	}
	if c.design.Turn.Sideways() {
		l.List.Width = max(c.grid.Dots(length), 1)
	} else {
		l.List.Height = max(c.grid.Dots(length), 1)
	}
}

// element composes element i into its part and adds its items.
func (c *Composer) element(l *Label, i int, record []string) {
	first := len(l.List.Items)
	c.fill(l, i, record)
	if c.design.Elements[i].Kind == design.Symbol {
		return // it has inks of its own
	}
	for j := first; j < len(l.List.Items); j++ {
		l.List.Items[j].Ink = c.elements[i].ink
	}
	if c.elements[i].printed.Bare != nil && len(l.List.Items) > first {
		l.List.Items[first].Ink = render.Bare
	}
	if shape := c.design.Elements[i].Shape; shape != nil && shape.Fill != "" && len(l.List.Items) > first {
		l.List.Items[first].Ink = c.elements[i].fill
	}
}

// cover decides whether what is light in a picture hides what lies under it: where it meets others, whose order counts
// then. One that is laid bare itself hides nothing.
func (c *Composer) cover(d *design.Element, e *element) {
	p := &e.printed
	switch {
	case p.Bare == nil:
	case e.ink == render.Bare:
		p.Bare, p.Outlines = nil, nil
	case p.Bare.Blank(render.Box{W: p.Bare.Width, H: p.Bare.Height}), !c.meets(d):
		p.Bare = nil
	default:
		c.bares = true
	}
}

// meets tells whether the box of an element meets that of another, or may.
func (c *Composer) meets(d *design.Element) bool {
	box := c.boxOf(d)
	return slices.ContainsFunc(c.design.Elements, func(other design.Element) bool {
		return other.ID != d.ID && (other.Around != nil || !c.boxOf(&other).And(box).Empty())
	})
}

// picture adds the dots of a picture, in the frame of its own box.
func (c *Composer) picture(l *Label, i int) {
	e := &c.elements[i]
	box, p := render.Box{W: e.boxWidth, H: e.boxTall}, &e.printed
	if p.Outlines == nil {
		if p.Bare != nil {
			l.List.Dots(i, box, p.Bare)
		}
		l.List.Dots(i, box, p.Dots)
		return
	}
	if p.Bare != nil {
		l.List.Drawn(i, box, p.Bare, nil)
	}
	l.List.Drawn(i, box, p.Dots, p.Outlines)
}

func (c *Composer) fill(l *Label, i int, record []string) {
	d, e, part := &c.design.Elements[i], &c.elements[i], &l.Parts[i]
	*part = Part{Box: e.box, Real: e.box, Turn: d.Turn, Symbol: part.Symbol, Missing: part.Missing[:0],
		Baselines: part.Baselines[:0]}
	first := len(l.List.Items)
	if part.Absent = d.Hidden || !c.stands(part, d, e, record); part.Absent {
		return
	}
	switch d.Kind {
	case design.Line:
		c.rule(l, i, max(c.grid.Dots(d.Weight), 1))
		return
	case design.Picture:
		c.picture(l, i)
		l.List.Place(first, e.box.X, e.box.Y, d.Turn, e.boxWidth, e.boxTall)
		return
	case design.Box, design.Oval:
		weight := max(c.grid.Dots(d.Weight), 1)
		if e.around != nil {
			part.Box = c.frame(l, i, weight)
			part.Real, part.Absent = part.Box, part.Box.Empty()
		}
		if !part.Absent {
			c.shape(l, i, part.Box, weight)
		}
		return
	}
	if len(d.Says) > 0 || d.Kind != design.Symbol {
		c.say(part, e, record)
	}
	if d.IfEmpty == design.LeaveOut {
		part.Blank = ""
	} else {
		part.Empty = part.Says == "" && part.Blank == "" && (len(d.Says) > 0 || d.Kind != design.Symbol)
	}
	if d.Kind == design.Symbol {
		c.drawSymbol(l, i)
		return
	}
	if d.Kind == design.Tag {
		c.tag(part, d, e, record)
		return
	}
	if part.Says == "" {
		return
	}
	if d.Kind == design.Text {
		c.words(l, i)
	} else {
		c.code(l, i, record)
	}
	l.List.Place(first, e.box.X, e.box.Y, d.Turn, e.boxWidth, e.boxTall)
	for _, box := range []*render.Box{&part.Real, &part.Bars, &part.Quiet} {
		*box = box.Turned(d.Turn, e.boxWidth, e.boxTall)
		box.X, box.Y = box.X+e.box.X, box.Y+e.box.Y
	}
}
