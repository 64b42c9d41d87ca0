package safety

import (
	"fmt"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/pipe"
	"oddspool/core/stock"
	"oddspool/core/symbols"
)

// A Pipe is what a pipe marker says.
type Pipe struct {
	Rules    pipe.RuleSet
	Contents string  // in words, which stand on the marker
	Group    string  // of the rules; empty: found from the contents
	Diameter float64 // outside, with insulation, mm
	Flow     Flow
	Symbols  []string // of hazardous contents
	Field    string   // the contents come from this field of the records; empty: they are Contents on every marker
	Rows     bool     // all of it again and again round the pipe, so that it reads from any side
}

// A Flow is which way what is in a pipe flows.
type Flow string

// The flows, as one reads the marker.
const (
	NoFlow    Flow = ""
	FlowRight Flow = "right"
	FlowLeft  Flow = "left"
	FlowBoth  Flow = "both"
)

// LayPipe lays a pipe marker out on a design's stock: the colour of the contents over all of it, what is in the pipe in letters as high as its diameter
// asks for, and arrows the way it flows. Its error is a *pipe.Error.
func LayPipe(d *design.Design, book *pipe.Book, p Pipe) (*Layout, error) {
	wanted := p.Group
	if wanted == "" {
		wanted = p.Contents
	}
	group, err := book.Find(p.Rules, wanted)
	if err != nil {
		return nil, err
	}
	mark, err := book.Mark(p.Rules, p.Diameter)
	if err != nil {
		return nil, err
	}
	for _, id := range p.Symbols {
		if _, err := symbols.In(d.Reference, id); err != nil {
			return nil, &pipe.Error{Text: fmt.Sprintf("The library has no symbol %q.", id)}
		}
	}
	w, h := d.Size()
	l := &Layout{Fits: true}
	edge := d.Stock.Keep
	all := rect{edge, edge, w - 2*edge, h - 2*edge}
	fill, on, outline := shown(d, stock.Ink(group.Field), stock.Ink(group.Letters))
	field := design.Element{ID: "colour field", Kind: design.Box, X: all.x, Y: all.y, Width: all.w, Height: all.h, Weight: max(all.h/30, 300)}
	corner := measure.Length(0) // the field ends where the label does
	if d.Stock.Shape == stock.Rounded {
		corner = max(d.Stock.CornerRadius-edge, 0)
	}
	switch {
	case !outline:
		field.Shape = &design.Shape{Fill: fill, NoOutline: true, Corner: corner}
	case corner > 0:
		field.Shape = &design.Shape{Corner: corner}
	}
	l.Elements = append(l.Elements, field)
	if _, meant := symbols.Shown(stock.Ink(group.Field), stock.Inks(d.Stock, d.Printer), d.Stock.FaceColour()); !meant {
		l.Notes = append(l.Notes, fmt.Sprintf("The field is to be %s (%s), which this printer cannot show on this stock: take a stock of that colour, or a printer that has it.", group.Field, group.Clause))
	}
	if group.Stripe != "" {
		l.Elements = append(l.Elements, stripes(d, all, stock.Ink(group.Stripe))...)
	}
	rows := measure.Length(1)
	if p.Rows {
		rows = measure.Length(max(1, min(mark.Rows(), int(all.h/(measure.Length(mark.Letters*1000)+2*mm)))))
	}
	for row := range rows {
		area := rect{all.x, all.y + row*all.h/rows, all.w, all.h / rows}
		if err := p.row(d, l, area, int(row), on, mark.Letters); err != nil {
			return nil, err
		}
	}
	long := w.Millimetres()
	if long+0.05 < mark.Length {
		l.Fits = false
		l.Notes = append(l.Notes, fmt.Sprintf("The field is %.0f mm long; for a pipe of %g mm it is to be %g mm (%s). Take a longer stock or tape, or put markers side by side.", long, p.Diameter, mark.Length, mark.Clause))
	}
	if high := capitals(l.Points); high+0.05 < mark.Letters {
		l.Fits = false
		l.Notes = append(l.Notes, fmt.Sprintf("Letters are %.1f mm high; for a pipe of %g mm they are to be %g mm (%s). Take a wider stock, or say it shorter.", high, p.Diameter, mark.Letters, mark.Clause))
	}
	return l, nil
}

// stripes are the bands of a second colour at both ends of the field (DIN 2403, 4.2).
func stripes(d *design.Design, all rect, colour stock.Ink) (elements []design.Element) {
	ink, _ := symbols.Shown(colour, stock.Inks(d.Stock, d.Printer), d.Stock.FaceColour())
	if ink == "" {
		return nil
	}
	wide := max(all.w/20, 2*mm)
	for i, x := range []measure.Length{all.x, all.x + all.w - wide} {
		elements = append(elements, design.Element{ID: fmt.Sprintf("band %d", i+1), Kind: design.Box, X: x, Y: all.y, Width: wide, Height: all.h, Shape: &design.Shape{Fill: ink, NoOutline: true}})
	}
	return elements
}

// row lays out one reading of the marker: arrow, symbols, words, arrow.
func (p *Pipe) row(d *design.Design, l *Layout, area rect, row int, on stock.Ink, letters float64) error {
	inset := max(area.h/12, mm/2)
	ends := inset
	if len(l.Elements) > 1 && l.Elements[1].ID == "band 1" {
		ends += l.Elements[1].Width
	}
	x, right := area.x+ends, area.x+area.w-ends
	y, high := area.y+inset, area.h-2*inset
	id := func(name string) string {
		if row == 0 {
			return name
		}
		return fmt.Sprintf("%s %d", name, row+1)
	}
	side := min(high, (right-x)/5)
	noRoom := func() error {
		if l.Fits = false; row == 0 {
			l.Notes = append(l.Notes, "There is no room for the words between arrows and symbols: take a longer or wider stock.")
		}
		return nil
	}
	if side < mm {
		return noRoom()
	}
	arrow := func(name, symbol string, at measure.Length) {
		l.Elements = append(l.Elements, design.Element{ID: id(name), Kind: design.Symbol, X: at, Y: area.y + (area.h-side)/2, Width: side, Height: side, Ink: on, Symbol: &design.SymbolLooks{ID: symbol}})
	}
	if p.Flow == FlowLeft || p.Flow == FlowBoth {
		arrow("arrow left", "AR2", x)
		x += side + inset
	}
	if p.Flow == FlowRight || p.Flow == FlowBoth {
		right -= side + inset
		arrow("arrow right", "AR1", right+inset)
	}
	for i, symbol := range p.Symbols {
		l.Elements = append(l.Elements, design.Element{ID: id(fmt.Sprintf("symbol %d", i+1)), Kind: design.Symbol, X: x, Y: area.y + (area.h-side)/2, Width: side, Height: side, Symbol: &design.SymbolLooks{ID: symbol}})
		x += side + inset
	}
	if right-x < 5*mm {
		return noRoom()
	}
	says := []design.Piece{{Text: p.Contents}}
	if p.Field != "" {
		says = []design.Piece{{Field: p.Field}}
	}
	points, err := largest(d, p.Contents, right-x, high)
	if err != nil {
		return err
	}
	points = min(points, max(letters/capital*1.5, 6)) // no larger than half as high again as it needs to be
	if l.Points == 0 || points < l.Points {
		l.Points = points
	}
	l.Elements = append(l.Elements, design.Element{ID: id("contents"), Kind: design.Text, X: x, Y: y, Width: right - x, Height: high, Ink: on, Says: says,
		Text: &design.TextLooks{Typeface: typeface, Bold: true, Points: points, ShrinkTo: max(points/2, 1), Wrap: true, Align: design.Centre, Stand: design.Middle}})
	return nil
}
