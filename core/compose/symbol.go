package compose

import (
	"errors"
	"slices"
	"sync"

	"oddspool/core/design"
	"oddspool/core/render"
	"oddspool/core/safety/symbols"
	"oddspool/core/stock"
)

// A symbol is one as it is printed: dots in its inks, before its turn.
type symbol struct {
	of     *symbols.Symbol // nil: the library has none of this name
	left   int             // of its square in the box, dots
	top    int
	layers render.Layers
	inks   []int            // of each layer, render.Bare for what lays the face bare
	lines  []render.Outline // what it is drawn of, where lines stay lines
}

// drawnSymbols keeps what was drawn of a symbol that differs from label to label; composers of one design share it.
type drawnSymbols struct {
	mutex sync.Mutex
	by    map[string]*symbol
}

// prepareSymbol draws a symbol that is the same on every label, and makes the inks ready of one that is not. One that
// the library does not have draws nothing, which is a finding; its error is a *symbols.AbsentError.
func (c *Composer) prepareSymbol(d *design.Element, e *element) error {
	made, err := c.inkSymbol(d, e, d.Symbol.ID, c.ink) // of one that differs, for its inks
	if len(d.Says) == 0 {
		e.symbol = made
		return err
	}
	e.symbols = &drawnSymbols{by: map[string]*symbol{}}
	c.bares = c.bares || c.coversFill(d)
	return err
}

// inkSymbol draws a symbol in the inks that there are; inkOf returns the layer of an ink.
func (c *Composer) inkSymbol(d *design.Element, e *element, id string, inkOf func(stock.Ink) int) (*symbol, error) {
	found, err := symbols.In(c.design.Reference, id)
	if errors.As(err, new(*symbols.AbsentError)) {
		return &symbol{}, err
	}
	if err != nil {
		return &symbol{}, nil
	}
	used, err := found.Colours(!d.Symbol.NoFrame)
	if err != nil {
		return &symbol{}, nil
	}
	side := min(e.boxWidth, e.boxTall)
	made := &symbol{of: found, left: (e.boxWidth - side) / 2, top: (e.boxTall - side) / 2}
	can, face := stock.Inks(c.design.Stock, c.design.Printer), c.design.Stock.FaceColour()
	over := c.coversFill(d)
	layerOf := map[stock.Ink]int{}
	for _, colour := range used {
		wanted := colour
		laidBare := len(used) == 1 && d.Ink == design.Bare
		if len(used) == 1 && d.Ink != "" { // one of one colour, such as an arrow, takes any
			wanted = d.Ink
		}
		ink, _ := symbols.Shown(wanted, can, face)
		index := render.Bare
		switch {
		case laidBare:
			c.bares = true
		case ink != "":
			index = inkOf(ink)
		case !over:
			layerOf[colour] = render.Bare
			continue
		default:
			c.bares = true
		}
		at := slices.Index(made.inks, index)
		if at < 0 {
			at = len(made.inks)
			made.inks = append(made.inks, index)
		}
		layerOf[colour] = at
	}
	if len(made.inks) > 0 { // else all of it is the face
		made.layers, err = found.Layers(side, len(made.inks), !d.Symbol.NoFrame,
			func(colour stock.Ink) int { return layerOf[colour] })
	}
	if err != nil {
		return &symbol{}, nil
	}
	if !over && c.meets(d) { // lines would hide what its dots let through
		return made, nil
	}
	outlines, err := found.Outlines(side, !d.Symbol.NoFrame)
	for _, o := range outlines {
		line := render.Outline{Pens: o.Pens, Ink: render.Bare}
		if at := layerOf[o.Colour]; at >= 0 && at < len(made.inks) {
			line.Ink = made.inks[at]
		}
		made.lines = append(made.lines, line)
	}
	return made, err
}

// symbolOf returns element i's symbol on a label where it says so.
func (c *Composer) symbolOf(i int, says string) *symbol {
	e := &c.elements[i]
	if e.symbols == nil {
		return e.symbol
	}
	e.symbols.mutex.Lock()
	defer e.symbols.mutex.Unlock()
	made, known := e.symbols.by[says]
	if !known {
		var absent error
		if made, absent = c.inkSymbol(&c.design.Elements[i], e, says, c.inkThereIs); absent == nil {
			e.symbols.by[says] = made
		}
	}
	return made
}

// inkThereIs returns the layer of an ink when the layers are made already: one that is not among them is shown in the
// first.
func (c *Composer) inkThereIs(ink stock.Ink) int { return max(slices.Index(c.inks, ink), 0) }

// coversFill tells whether something filled lies under an element, so that what it leaves bare is to be laid bare.
func (c *Composer) coversFill(d *design.Element) bool {
	box := c.boxOf(d)
	for i := range c.design.Elements {
		under := &c.design.Elements[i]
		if under.ID == d.ID {
			break
		}
		if (under.Kind == design.Picture || under.Kind == design.Symbol || under.Shape != nil &&
			under.Shape.Fill != "") && !c.boxOf(under).And(box).Empty() {
			return true
		}
	}
	return false
}

func (c *Composer) boxOf(d *design.Element) render.Box {
	return render.Box{X: c.grid.Dots(d.X), Y: c.grid.Dots(d.Y), W: max(c.grid.Dots(d.Width), 1),
		H: max(c.grid.Dots(d.Height), 1)}
}

// drawSymbol adds the dots of a symbol, a list item for each of its inks, and one for its lines.
func (c *Composer) drawSymbol(l *Label, i int) {
	e, d, part := &c.elements[i], &c.design.Elements[i], &l.Parts[i]
	if len(d.Says) > 0 && part.Says == "" {
		part.Absent = d.IfEmpty == design.LeaveOut
		return
	}
	made := c.symbolOf(i, part.Says)
	first := len(l.List.Items)
	for n, plane := range made.layers {
		box := render.Box{X: made.left, Y: made.top, W: plane.Width, H: plane.Height}
		if made.lines == nil {
			l.List.Dots(i, box, plane)
		} else {
			l.List.Drawn(i, box, plane, nil)
		}
		l.List.Items[len(l.List.Items)-1].Ink = made.inks[n]
	}
	side := min(e.boxWidth, e.boxTall)
	if made.lines != nil {
		l.List.Drawn(i, render.Box{X: made.left, Y: made.top, W: side, H: side}, nil, made.lines)
	}
	l.List.Place(first, e.box.X, e.box.Y, d.Turn, e.boxWidth, e.boxTall)
	part.Real = render.Box{X: made.left, Y: made.top, W: side, H: side}.Turned(d.Turn, e.boxWidth, e.boxTall)
	part.Real.X, part.Real.Y = part.Real.X+e.box.X, part.Real.Y+e.box.Y
}

// Symbol returns the symbol that element i is on a label, and its side in dots; nil where the library does not have it.
func (c *Composer) Symbol(i int, part *Part) (*symbols.Symbol, int) {
	e := &c.elements[i]
	return c.symbolOf(i, part.Says).of, min(e.boxWidth, e.boxTall)
}
