package safety

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/safety/pipe"
	"oddspool/core/stock"
)

// A marker is one that is being laid out.
type marker struct {
	Pipe
	pipes

	d     *design.Design
	l     *Layout
	bands measure.Length // of the longest at either end
}

// when returns the condition that a field has one of some values; nil where there is no field.
func when(field string, values []string) *design.Condition {
	if field == "" || values == nil {
		return nil
	}
	return &design.Condition{Field: field, Is: design.OneOf, Values: slices.Clone(values)}
}

// numbered is the name of an element of which there may be several.
func numbered(name string, n int) string {
	if n == 0 {
		return name
	}
	return fmt.Sprintf("%s %d", name, n+1)
}

// field lays out the colour field of a group of contents, with its bands.
func (m *marker) field(i int, all rect) {
	group, d := m.groups[i].group, m.d
	fill, _, outline := headColours(d, stock.Ink(group.Field), stock.Ink(group.Letters))
	field := design.Element{ID: numbered("colour field", i), Kind: design.Box, X: all.x, Y: all.y, Width: all.w,
		Height: all.h, Weight: max(all.h/30, 300), When: when(m.groupField, m.groups[i].values)}
	corner := measure.Length(0) // the field ends where the label does
	if d.Stock.Shape == stock.Rounded {
		corner = max(d.Stock.CornerRadius-d.Stock.Keep, 0)
	}
	switch {
	case !outline:
		field.Shape = &design.Shape{Fill: fill, NoOutline: true, Corner: corner}
	case corner > 0:
		field.Shape = &design.Shape{Corner: corner}
	}
	m.l.Elements = append(m.l.Elements, field)
	rule := fmt.Sprintf("by %s for %s", group.Clause, strings.ToLower(group.Name))
	m.l.demand(design.Demand{Element: field.ID, Asks: design.AsksPresence, Rule: rule, When: field.When})
	m.l.demand(design.Demand{Element: field.ID, Asks: design.AsksFill, Colour: stock.Ink(group.Field), Rule: rule,
		When: field.When})
	for j, band := range group.Bands() {
		m.band(i, j, band, all, rule)
	}
}

// band lays out the band of a second colour at an end of the field.
func (m *marker) band(i, j int, band pipe.Band, all rect, rule string) {
	wide := max(all.w/20, 2*mm)
	if band.Word != "" {
		wide = max(all.w/10, 8*mm)
	}
	inset := measure.Length(0)
	if band.Within {
		inset = wide
	}
	m.bands = max(m.bands, wide+inset)
	ink, on, outline := headColours(m.d, stock.Ink(band.Colour), stock.Ink(band.Letters()))
	x := all.x + inset
	if j == 1 {
		x = all.x + all.w - wide - inset
	}
	e := design.Element{ID: fmt.Sprintf("band %d", 2*i+j+1), Kind: design.Box, X: x, Y: all.y, Width: wide,
		Height: all.h, Weight: 300, When: when(m.groupField, m.groups[i].values)}
	if !outline {
		e.Shape = &design.Shape{Fill: ink, NoOutline: true}
	}
	m.l.Elements = append(m.l.Elements, e)
	m.l.demand(design.Demand{Element: e.ID, Asks: design.AsksPresence, Rule: rule, When: e.When})
	m.l.demand(design.Demand{Element: e.ID, Asks: design.AsksFill, Colour: stock.Ink(band.Colour), Rule: rule,
		When: e.When})
	if band.Word == "" {
		return
	}
	word := design.Element{ID: e.ID + " word", Kind: design.Text, X: x, Y: all.y, Width: wide, Height: all.h, Ink: on,
		When: e.When, Says: []design.Piece{{Text: band.Word}},
		Text: &design.TextLooks{Typeface: typeface, Bold: true, Points: 24, ShrinkTo: 4, Align: design.Centre,
			Stand: design.Middle}}
	m.l.Elements = append(m.l.Elements, word)
	m.l.demand(design.Demand{Element: word.ID, Asks: design.AsksPresence, Rule: rule, When: e.When})
}

// A lettering is one colour of letters, with the groups that have it.
type lettering struct {
	letters stock.Ink
	on      stock.Ink
	values  []string
	clause  string
}

// letterings are the colours of letters of all groups.
func (m *marker) letterings() (all []lettering) {
	for _, k := range m.groups {
		_, on, _ := headColours(m.d, stock.Ink(k.group.Field), stock.Ink(k.group.Letters))
		at := slices.IndexFunc(all, func(l lettering) bool {
			return l.letters == stock.Ink(k.group.Letters) &&
				l.on == on
		})
		if at < 0 {
			at = len(all)
			all = append(all, lettering{stock.Ink(k.group.Letters), on, nil, k.group.Clause})
		}
		all[at].values = append(all[at].values, k.values...)
	}
	return all
}

// row lays out one reading of the marker: arrow, symbols, words, arrow.
func (m *marker) row(area rect, row int) error {
	inset := max(area.h/12, mm/2)
	ends := inset + m.bands
	x, right := area.x+ends, area.x+area.w-ends
	y, high := area.y+inset, area.h-2*inset
	// arrows as high as letters leave room for these
	side := min(high, (right-x)/5, max(measure.Length(m.largest().size.Letters*1250), 12*mm))
	noRoom := func() error {
		if m.l.Fits = false; row == 0 {
			m.l.Notes = append(m.l.Notes, "There is no room for the words between arrows and symbols: take a longer "+
				"or wider stock.")
			m.l.demand(design.Demand{Element: "contents", Asks: design.AsksPresence,
				Rule: "by " + m.groups[0].group.Clause})
		}
		return nil
	}
	if side < mm {
		return noRoom()
	}
	symbol := func(id string, at measure.Length, symbol string) design.Element {
		return design.Element{ID: id, Kind: design.Symbol, X: at, Y: area.y + (area.h-side)/2, Width: side,
			Height: side, Symbol: &design.SymbolLooks{ID: symbol}}
	}
	var arrows []design.Element
	arrow := func(name, id string, at measure.Length, flow Flow) {
		e := symbol(name, at, id)
		if m.FlowField != "" {
			e.Says, e.IfEmpty = []design.Piece{{Formula: fmt.Sprintf("field(%q) in [%q, %q] ? %q : \"\"", m.FlowField,
				flow, FlowBoth, id)}}, design.LeaveOut
		}
		arrows = append(arrows, e)
	}
	flows := m.flows
	if m.FlowField == "" {
		flows = []string{string(m.Flow)}
	}
	goes := func(flow Flow) bool {
		return slices.Contains(flows, string(flow)) || slices.Contains(flows, string(FlowBoth))
	}
	if goes(FlowLeft) {
		arrow("arrow left", "AR2", x, FlowLeft)
		x += side + inset
	}
	if goes(FlowRight) {
		right -= side + inset
		arrow("arrow right", "AR1", right+inset, FlowRight)
	}
	for i, id := range m.Symbols {
		e := symbol(numbered(fmt.Sprintf("symbol %d", i+1), row), x, id)
		m.l.Elements = append(m.l.Elements, e)
		m.l.demand(design.Demand{Element: e.ID, Asks: design.AsksPresence,
			Rule: "for the hazards of what is in the pipe"})
		m.l.demand(design.Demand{Element: e.ID, Asks: design.AsksColours,
			Rule: "for the hazards of what is in the pipe"})
		x += side + inset
	}
	if right-x < 5*mm {
		return noRoom()
	}
	says := []design.Piece{{Text: m.Contents}}
	if m.Field != "" {
		says = []design.Piece{{Field: m.Field}}
	}
	most, least, err := m.points(right-x, high)
	if err != nil {
		return err
	}
	for i, letters := range m.letterings() {
		id := func(name string) string { return numbered(name, row*len(m.letterings())+i) }
		condition := when(m.groupField, letters.values)
		words := design.Element{ID: id("contents"), Kind: design.Text, X: x, Y: y, Width: right - x, Height: high,
			Ink: letters.on, Says: says, When: condition,
			Text: &design.TextLooks{Typeface: typeface, Bold: true, Points: most, ShrinkTo: max(least/2, 1), Wrap: true,
				Align: design.Centre, Stand: design.Middle}}
		for _, e := range arrows {
			e.ID, e.Ink, e.When = id(e.ID), letters.on, condition
			m.l.Elements = append(m.l.Elements, e)
			if m.FlowField == "" {
				m.l.demand(design.Demand{Element: e.ID, Asks: design.AsksPresence,
					Rule: "for the way it flows (" + letters.clause + ")", When: condition})
			}
		}
		m.l.Elements = append(m.l.Elements, words)
		rule := "by " + letters.clause
		m.l.demand(design.Demand{Element: words.ID, Asks: design.AsksPresence, Rule: rule, When: condition})
		m.l.demand(design.Demand{Element: words.ID, Asks: design.AsksInk, Colour: letters.letters, Rule: rule,
			When: condition})
		if m.Field == "" {
			m.l.demand(design.Demand{Element: words.ID, Asks: design.AsksWords, Says: m.Contents, Rule: rule})
		}
		for _, size := range m.sizes {
			m.l.demand(design.Demand{Element: words.ID, Asks: design.AsksCapitals,
				Least: measure.Length(size.size.Letters * 1000), Rule: m.forPipe(&size),
				When: when(m.DiameterField, size.values)})
		}
	}
	return nil
}

// points returns the largest type in which the shortest and the longest contents fit, no larger than half as high again
// as it needs to be.
func (m *marker) points(wide, high measure.Length) (most, least float64, err error) {
	longest := map[string]float64{} // contents, and the height of letters that they need
	for _, one := range m.all {
		longest[one.says] = max(longest[one.says], one.size.Letters)
	}
	least = math.Inf(1)
	for _, says := range slices.Sorted(maps.Keys(longest)) {
		points, err := largest(m.d, says, wide, high)
		if err != nil {
			return 0, 0, err
		}
		points = min(points, max(longest[says]/capital*1.5, 6))
		most, least = max(most, points), min(least, points)
		if short := capitals(points); short < longest[says] && (m.l.Points == 0 || points < m.l.Points) {
			m.l.Points = points
		}
	}
	if m.l.Points == 0 {
		m.l.Points = least
	}
	return most, least, nil
}

func (m *marker) forPipe(size *kindOfPipe) string {
	return fmt.Sprintf("for a pipe of %g mm (%s)", size.widest, size.size.Clause)
}

// lengths demand that fields are as long as the pipe asks for.
func (m *marker) lengths(edge measure.Length) {
	for _, size := range m.sizes {
		for i := range m.groups {
			m.l.demand(design.Demand{Element: numbered("colour field", i), Asks: design.AsksWidth,
				Least: max(measure.Length(size.size.Length*1000)-2*edge, 0), Rule: m.forPipe(&size),
				When: when(m.DiameterField, size.values)})
		}
	}
}

// known demands that records are like those that it was laid out for.
func (m *marker) known() {
	for _, by := range []struct {
		field, what string
		kinds       []kindOfPipe
	}{{m.groupField, "the colours of its group are not there", m.groups},
		{m.DiameterField, "how large its letters are to be is not known", m.sizes}} {
		if by.field == "" {
			continue
		}
		var values []string
		for _, k := range by.kinds {
			values = append(values, k.values...)
		}
		m.l.demand(design.Demand{Asks: design.AsksKnown, Rule: by.what, When: &design.Condition{Field: by.field,
			Is: design.NoneOf, Values: values}})
	}
	if m.FlowField != "" {
		m.l.demand(design.Demand{Asks: design.AsksKnown, Rule: "which way it flows is not known",
			When: &design.Condition{Field: m.FlowField, Is: design.NoneOf, Values: slices.Clone(m.flows)}})
	}
}
