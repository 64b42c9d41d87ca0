package safety

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/safety/sign"
	"oddspool/core/safety/symbols"
	"oddspool/core/stock"
	"oddspool/core/typeset"
)

// A Sign is what a safety sign says.
type Sign struct {
	Kind     string   // of sign.Kinds; empty: without a signal word
	Symbols  []string // up to three, of package symbols
	Message  string
	Second   string // the message in another language
	Language string // of the signal word; empty: en
	Distance float64
	Light    sign.Light // empty: lit
}

// MostSignSymbols is how many symbols stand on a sign.
const MostSignSymbols = 3

// LaySign lays a sign out on a design's stock: signal word on its colour, symbols beside or above the message, and the
// message in the largest type that fits, its lines broken where that makes them larger. Its error is a *refusal.Error.
func LaySign(d *design.Design, s Sign) (*Layout, error) {
	if s.Light == "" {
		s.Light = sign.Lit
	}
	if strings.TrimSpace(s.Message) == "" && len(s.Symbols) == 0 && s.Kind == "" {
		return nil, emptySign.With()
	}
	if len(s.Symbols) > MostSignSymbols {
		return nil, tooManySymbols.With(len(s.Symbols), MostSignSymbols)
	}
	for _, id := range s.Symbols {
		if _, err := symbols.In(d.Reference, id); err != nil {
			return nil, unknownSymbol.With(id)
		}
	}
	w, h := d.Size()
	edge := margin(d)
	l := &Layout{Fits: true}
	area := rect{edge, edge, w - 2*edge, h - 2*edge}
	if s.Kind != "" {
		if err := s.header(d, l, &area); err != nil {
			return nil, err
		}
	}
	s.symbols(l, &area)
	if err := s.messages(d, l, area); err != nil {
		return nil, err
	}
	if err := s.demands(l); err != nil {
		return nil, err
	}
	fits := l.Fits
	err := l.settle(d, "sign", nil, nil)
	l.Fits = fits // a sign for a shorter distance is one too
	return l, err
}

// A rect is a part of the label.
type rect struct{ x, y, w, h measure.Length }

// headColours returns the ink in which a colour is filled, and the one of what stands on it, on this printer and stock:
// where the colour is not there, the darkest ink with the face bare in it, or for yellow and orange nothing but an
// outline.
func headColours(d *design.Design, field, letters stock.Ink) (fill, on stock.Ink, outline bool) {
	can := stock.Inks(d.Stock, d.Printer)
	ink, meant := symbols.Field(field, can, d.Stock.FaceColour())
	if ink == "" { // the face is that colour already, or stands for it
		onInk, _ := symbols.Shown(letters, can, d.Stock.FaceColour())
		return "", onInk, true
	}
	if on, meant := symbols.Shown(letters, can, d.Stock.FaceColour()); meant && on != "" {
		return ink, on, false
	}
	// bare shows the face, whatever colour it has: where that is not white, the proof says so
	if letters == stock.White || !meant {
		return ink, design.Bare, false
	}
	return ink, letters, false
}

// header lays out the panel of the signal word, and takes it off the area. ANSI Z535.4, 7.2: the word, and the alert
// symbol before it, on a panel of its colour over the width of the sign.
func (s *Sign) header(d *design.Design, l *Layout, area *rect) error {
	at := slices.IndexFunc(sign.Kinds, func(k sign.Kind) bool { return k.ID == s.Kind })
	if at < 0 {
		var ids []string
		for _, k := range sign.Kinds {
			ids = append(ids, k.ID)
		}
		return unknownSignalWord.With(s.Kind, strings.Join(ids, ", "))
	}
	kind := sign.Kinds[at]
	word := kind.Words[s.Language]
	if word == "" {
		word = kind.Words["en"]
	}
	high := area.h / 4
	if area.w > 2*area.h { // a long one
		high = area.h / 3
	}
	high = min(high, area.w*3/10) // no higher than its word fills
	if s.Message == "" && len(s.Symbols) == 0 {
		high = area.h
	}
	panel := rect{area.x, area.y, area.w, high}
	area.y, area.h = area.y+high+mm, area.h-high-mm
	fill, on, outline := headColours(d, stock.Ink(kind.Field), stock.Ink(kind.Letters))
	box := design.Element{ID: "signal panel", Kind: design.Box, X: panel.x, Y: panel.y, Width: panel.w, Height: panel.h,
		Weight: max(panel.h/20, 300)}
	if !outline {
		box.Shape = &design.Shape{Fill: fill, NoOutline: true}
	}
	l.Elements = append(l.Elements, box)
	rule := "by " + kind.Clause
	l.demand(design.Demand{Element: box.ID, Asks: design.AsksPresence, Rule: rule})
	l.demand(design.Demand{Element: box.ID, Asks: design.AsksFill, Colour: stock.Ink(kind.Field), Rule: rule})
	inset := panel.h / 10
	text := rect{panel.x + inset, panel.y + inset, panel.w - 2*inset, panel.h - 2*inset}
	points, err := largest(d, word, text.w-text.h*12/10*alert(kind), text.h)
	if err != nil {
		return err
	}
	if kind.Alert {
		wide, err := width(d, word, points)
		if err != nil {
			return err
		}
		all := wide + text.h*12/10
		left := text.x + max(text.w-all, 0)/2
		l.Elements = append(l.Elements, design.Element{ID: "alert symbol", Kind: design.Symbol, X: left, Y: text.y,
			Width: text.h, Height: text.h, Symbol: &design.SymbolLooks{ID: "W001"}})
		l.demand(design.Demand{Element: "alert symbol", Asks: design.AsksPresence, Rule: rule})
		text.x, text.w = left+text.h*12/10, min(wide+mm, panel.x+panel.w-inset-left-text.h*12/10)
	}
	l.demand(design.Demand{Element: "signal word", Asks: design.AsksPresence, Rule: rule})
	l.demand(design.Demand{Element: "signal word", Asks: design.AsksWords, Says: word, Rule: rule})
	l.demand(design.Demand{Element: "signal word", Asks: design.AsksInk, Colour: stock.Ink(kind.Letters), Rule: rule})
	l.Elements = append(l.Elements, design.Element{ID: "signal word", Kind: design.Text, X: text.x, Y: text.y,
		Width: text.w, Height: text.h, Ink: on, Says: []design.Piece{{Text: word}},
		Text: &design.TextLooks{Typeface: typeface, Bold: true, Points: points, ShrinkTo: max(points-2, 1),
			Align: align(kind.Alert), Stand: design.Middle}})
	return nil
}

func alert(k sign.Kind) measure.Length {
	if k.Alert {
		return 1
	}
	return 0
}

func align(alert bool) design.Align {
	if alert {
		return design.Left
	}
	return design.Centre
}

// symbols lays symbols out, beside the message where the sign lies and above it where it stands, and takes them off the
// area.
func (s *Sign) symbols(l *Layout, area *rect) {
	n := measure.Length(len(s.Symbols))
	if n == 0 {
		return
	}
	lies := area.w >= area.h
	side := min(area.h, area.w/n)
	if s.Message != "" {
		if lies {
			side = min(area.h, area.w*2/5/n)
		} else {
			side = min(area.w/n, area.h/2)
		}
	}
	x, y := area.x, area.y
	switch {
	case s.Message == "":
		x, y = area.x+(area.w-n*side)/2, area.y+(area.h-side)/2
	case lies:
		y = area.y + (area.h-side)/2
	default:
		x = area.x + (area.w-n*side)/2
	}
	for i, id := range s.Symbols {
		l.Elements = append(l.Elements, design.Element{ID: fmt.Sprintf("symbol %d", i+1), Kind: design.Symbol,
			X: x + measure.Length(i)*side, Y: y, Width: side, Height: side,
			Symbol: &design.SymbolLooks{ID: id}})
	}
	if lies {
		taken := n*side + 3*mm/2
		area.x, area.w = area.x+taken, area.w-taken
	} else {
		area.y, area.h = area.y+side+mm, area.h-side-mm
	}
}

// messages sets the message, and below it the one in the other language, each in the largest type.
func (s *Sign) messages(d *design.Design, l *Layout, area rect) error {
	texts := []string{}
	for _, text := range []string{s.Message, s.Second} {
		if strings.TrimSpace(text) != "" {
			texts = append(texts, strings.TrimSpace(text))
		}
	}
	if len(texts) == 0 {
		return nil
	}
	if area.w < 5*mm || area.h < 3*mm {
		l.Fits = false
		l.Notes = append(l.Notes, "There is no room for the message on this stock: take a larger one.")
		l.demand(design.Demand{Element: "message", Asks: design.AsksPresence, Rule: "by what the sign was to say"})
		return nil
	}
	area.x, area.w = area.x+mm/2, area.w-mm
	high := (area.h - mm*measure.Length(len(texts)-1)) / measure.Length(len(texts))
	points := math.Inf(1)
	for _, text := range texts {
		size, err := largest(d, text, area.w, high)
		if err != nil {
			return err
		}
		points = min(points, size)
	}
	l.Points = points
	for i, text := range texts {
		wide, err := even(d, text, area.w, points)
		if err != nil {
			return err
		}
		l.Elements = append(l.Elements, design.Element{ID: []string{"message", "second message"}[i], Kind: design.Text,
			X: area.x + (area.w-wide)/2, Y: area.y + measure.Length(i)*(high+mm), Width: wide, Height: high,
			Says: []design.Piece{{Text: text}}, Text: &design.TextLooks{Typeface: typeface, Bold: i == 0,
				Points: points, Wrap: true, Align: design.Centre, Stand: design.Middle}})
	}
	return nil
}

// demands are what the rules ask of the sign, for the distance that it is to be read from among them.
func (s *Sign) demands(l *Layout) error {
	heights, err := sign.For(s.Distance, s.Light)
	if s.Distance <= 0 {
		err = nil
	}
	const said = "by what the sign was to say"
	size := func(e *design.Element, asks design.Ask, millimetres float64, clause string) {
		if s.Distance > 0 {
			l.demand(design.Demand{Element: e.ID, Asks: asks, Least: measure.Length(millimetres * 1000),
				Rule: fmt.Sprintf("to be read from %g m (%s)", s.Distance, clause)})
		}
	}
	for i := range l.Elements {
		switch e := &l.Elements[i]; {
		case e.Kind == design.Symbol && e.ID != "alert symbol":
			l.demand(design.Demand{Element: e.ID, Asks: design.AsksPresence, Rule: said})
			l.demand(design.Demand{Element: e.ID, Asks: design.AsksColours, Rule: "by ISO 3864-1, 5"})
			size(e, design.AsksHeight, heights.Sign, "ISO 3864-1, annex A")
		case e.ID == "message" || e.ID == "second message":
			l.demand(design.Demand{Element: e.ID, Asks: design.AsksPresence, Rule: said})
			l.demand(design.Demand{Element: e.ID, Asks: design.AsksWords, Says: e.Says[0].Text, Rule: said})
			size(e, design.AsksCapitals, heights.Letters, "ANSI Z535.2, annex B")
		case e.ID == "signal word":
			size(e, design.AsksCapitals, heights.Signal, "ANSI Z535.4, 7.8")
		}
	}
	return err
}

// capital is the height of capitals in millimetres of type of one point: Liberation Sans has 1409 of 2048 units.
const capital = 25.4 / 72 * 1409 / 2048

func capitals(points float64) float64 { return points * capital }

// largest returns the largest bold type, in quarters of a point, in which a text fits a box with its words whole.
func largest(d *design.Design, text string, w, h measure.Length) (float64, error) {
	face, err := typeset.Find(typeface, true, false)
	if err != nil {
		return 0, err
	}
	r := d.Printer.Resolution
	fits := func(points float64) bool {
		var set typeset.Block
		set.Set(text, typeset.Style{Face: face, PerEm: r.PerEm(points), Width: r.Dots(w)})
		return set.Width <= r.Dots(w) && set.Height <= r.Dots(h)
	}
	low, high := 8, 4000 // quarter points
	for low < high {
		if mid := (low + high + 1) / 2; fits(float64(mid) / 4) {
			low = mid
		} else {
			high = mid - 1
		}
	}
	return float64(low) / 4, nil
}

// even returns the narrowest width in which a text in bold type has no more lines than in a wider one, so that its
// lines are about as long as each other.
func even(d *design.Design, text string, widest measure.Length, points float64) (measure.Length, error) {
	face, err := typeset.Find(typeface, true, false)
	if err != nil {
		return 0, err
	}
	r := d.Printer.Resolution
	set := func(dots int) (lines int, fits bool) {
		var block typeset.Block
		block.Set(text, typeset.Style{Face: face, PerEm: r.PerEm(points), Width: dots})
		return len(block.Lines), block.Width <= dots
	}
	low, high := 1, r.DotsDown(widest)
	least, _ := set(high)
	for low < high {
		mid := (low + high) / 2
		if lines, fits := set(mid); fits && lines <= least {
			high = mid
		} else {
			low = mid + 1
		}
	}
	return min(r.Length(high+1), widest), nil
}

// width returns how wide a text is in one line of bold type.
func width(d *design.Design, text string, points float64) (measure.Length, error) {
	face, err := typeset.Find(typeface, true, false)
	if err != nil {
		return 0, err
	}
	var set typeset.Block
	set.Set(text, typeset.Style{Face: face, PerEm: d.Printer.Resolution.PerEm(points)})
	return d.Printer.Resolution.Length(set.Width), nil
}
