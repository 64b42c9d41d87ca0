package safety

import (
	"slices"
	"strconv"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/safety/symbols"
	"oddspool/core/stock"
)

// A Diamond is four fields of ratings for whoever comes to a fire (NFPA 704-2022): each hazard from 0, none, to 4,
// severe.
type Diamond struct {
	Health, Fire, Instability int
	Special                   string // of Specials; empty: none
	Name                      string // of the thing, below the diamond
}

// Specials are what stands in the lowest field (NFPA 704-2022, 8.2): an oxidiser, reacts with water, a simple
// asphyxiant gas.
var Specials = []string{"OX", "W", "SA"}

// LayDiamond lays the diamond out on a design's stock, as large as goes: health blue on the left, fire red above,
// instability yellow on the right, special hazards white below (NFPA 704-2022, 4.3 and 9.1). Its error is a
// *refusal.Error.
func LayDiamond(d *design.Design, a Diamond) (*Layout, error) {
	for name, rating := range map[string]int{"health": a.Health, "fire": a.Fire, "instability": a.Instability} {
		if rating < 0 || rating > 4 {
			return nil, badRating.With(rating, name)
		}
	}
	if a.Special != "" && !slices.Contains(Specials, a.Special) {
		return nil, unknownSpecialHazard.With(a.Special)
	}
	w, h := d.Size()
	edge := margin(d)
	foot := measure.Length(0)
	if a.Name != "" {
		foot = min(h/6, 12*mm)
	}
	side := min(w-2*edge, h-2*edge-foot)
	l := &Layout{Fits: true}
	if side < 12*mm {
		l.Fits = false
		l.Notes = append(l.Notes, "There is no room for the diamond: take a larger stock.")
		l.demand(design.Demand{Element: "fire field", Asks: design.AsksPresence, Rule: "by NFPA 704, 4.3"})
		return l, l.settle(d, "diamond", nil, nil)
	}
	left, top := (w-side)/2, edge
	var texts []design.Element // above all fields
	half := side / 2
	for _, field := range []struct {
		id, says string
		x, y     measure.Length
		colour   stock.Ink
	}{
		{"fire", strconv.Itoa(a.Fire), half / 2, 0, stock.Red}, {"health", strconv.Itoa(a.Health), 0, half / 2, "blue"},
		{"instability", strconv.Itoa(a.Instability), half, half / 2, "yellow"},
		{"special", a.Special, half / 2, half, stock.White},
	} {
		letters := stock.Ink(stock.Black)
		if field.colour == stock.Red || field.colour == "blue" {
			letters = stock.White
		}
		fill, on, outline := headColours(d, field.colour, letters)
		// two fields of one colour would be one
		if _, meant := symbols.Shown(field.colour, stock.Inks(d.Stock, d.Printer), d.Stock.FaceColour()); !meant {
			outline = true
			on, _ = symbols.Shown(stock.Black, stock.Inks(d.Stock, d.Printer), d.Stock.FaceColour())
		}
		quarter := design.Element{ID: field.id + " field", Kind: design.Oval, X: left + field.x, Y: top + field.y,
			Width: half, Height: half, Weight: max(side/150, 200),
			Shape: &design.Shape{Sides: 4}}
		if !outline {
			quarter.Shape.Fill = fill
		}
		l.Elements = append(l.Elements, quarter)
		l.demand(design.Demand{Element: quarter.ID, Asks: design.AsksPresence, Rule: "by NFPA 704, 4.3"})
		// other arrangements are allowed
		l.demand(design.Demand{Element: quarter.ID, Asks: design.AsksFill, Colour: field.colour,
			Rule: "by NFPA 704, 9.1", Advice: true})
		if field.says == "" {
			continue
		}
		inset := half / 4
		points, err := largest(d, field.says, half-2*inset, half-2*inset)
		if err != nil {
			return nil, err
		}
		e := design.Element{ID: field.id, Kind: design.Text, X: left + field.x + inset, Y: top + field.y + inset,
			Width: half - 2*inset, Height: half - 2*inset, Ink: on, Says: []design.Piece{{Text: field.says}},
			Text: &design.TextLooks{Typeface: typeface, Bold: true, Points: points, Align: design.Centre,
				Stand: design.Middle}}
		texts = append(texts, e)
		l.demand(design.Demand{Element: e.ID, Asks: design.AsksPresence, Rule: "by NFPA 704, 4.3"})
		l.demand(design.Demand{Element: e.ID, Asks: design.AsksWords, Says: field.says, Rule: "by NFPA 704, 4.3"})
		if l.Points == 0 || points < l.Points {
			l.Points = points
		}
		if field.says == "W" { // with a line through it (8.2.2)
			texts = append(texts, design.Element{ID: "line through W", Kind: design.Line, X: e.X, Y: e.Y + e.Height/2,
				Width: e.Width, Height: max(e.Height/15, 200), Ink: on})
		}
	}
	l.Elements = append(l.Elements, texts...)
	if a.Name != "" {
		points, err := largest(d, a.Name, w-2*edge, foot-mm)
		if err != nil {
			return nil, err
		}
		l.Elements = append(l.Elements, design.Element{ID: "name", Kind: design.Text, X: edge, Y: h - edge - foot + mm,
			Width: w - 2*edge, Height: foot - mm, Says: []design.Piece{{Text: a.Name}},
			Text: &design.TextLooks{Typeface: typeface, Bold: true, Points: points, Wrap: true, Align: design.Centre,
				Stand: design.Middle}})
	}
	return l, l.settle(d, "diamond", nil, nil)
}
