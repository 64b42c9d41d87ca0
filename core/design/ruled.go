package design

import (
	"fmt"

	"oddspool/core/measure"
	"oddspool/core/stock"
)

const mm = measure.Millimetre

// RuledCross returns where the cross of a ruled test label stands, from its left and top edge as it
// lies on the web: at 10 mm, or on a small label at a quarter of it in whole millimetres.
func RuledCross(s stock.Stock) (x, y measure.Length) {
	at := func(size measure.Length) measure.Length { return max(min(10*mm, size/4/mm*mm), mm) }
	return at(s.Width), at(s.LongestPiece())
}

// Ruled returns a test label for a stock and a printer: a cross at RuledCross and rulers in
// millimetres along both axes, from which a person reads how far the print is off.
func Ruled(s stock.Stock, p stock.Printer) *Design {
	if s.ByContent() { // a test piece has one length
		cut := *s.Tape
		cut.ByContent = false
		s.Tape = &cut
		s.Length = max(s.Length, 40*mm)
	}
	d := &Design{Format: Format, Name: "Ruled test label", Stock: s, Printer: p}
	x, y := RuledCross(s)
	line := func(x, y, w, h measure.Length) {
		d.Elements = append(d.Elements, Element{ID: fmt.Sprintf("line-%d", len(d.Elements)+1), Kind: Line, X: x, Y: y,
			Width: w, Height: h})
	}
	thin := max(p.Resolution.Length(1), 100)
	arm := min(x, y, 5*mm)
	line(x-arm, y-thin/2, 2*arm, thin)
	line(x-thin/2, y-arm, thin, 2*arm)
	const least = 1500 * measure.Micrometre
	for n, at := 0, x+2*mm; at < s.Width-mm; n, at = n+1, at+mm { // from the cross to the right
		tick := least
		if (at-x)%(5*mm) == 0 {
			tick *= 2
		}
		line(at-thin/2, y, thin, min(tick, s.Length-y-mm))
	}
	for n, at := 0, y+2*mm; at < s.Length-mm; n, at = n+1, at+mm { // and down
		tick := least
		if (at-y)%(5*mm) == 0 {
			tick *= 2
		}
		line(x, at-thin/2, min(tick, s.Width-x-mm), thin)
	}
	const most = 400 // ticks: a long label needs no more
	if len(d.Elements) > most {
		d.Elements = d.Elements[:most]
	}
	if s.Width-x > 12*mm && s.Length-y > 10*mm {
		d.Elements = append(d.Elements, Element{ID: "says", Kind: Text, X: x + 5*mm, Y: y + 4*mm,
			Width: s.Width - x - 6*mm, Height: min(s.Length-y-5*mm, 12*mm),
			Says: []Piece{{Text: fmt.Sprintf("Cross at %v from the left and %v from the top", x, y)}},
			Text: &TextLooks{Typeface: "Liberation Sans", Points: 7, ShrinkTo: 4, Wrap: true}})
	}
	return d
}

// Offsets returns the set-up with the offsets that bring the cross of a ruled test label to its
// place, when it was printed with the set-up as it is and came out so far from the edges.
func Offsets(u stock.Setup, s stock.Stock, measuredX, measuredY measure.Length) stock.Setup {
	x, y := RuledCross(s)
	u.Across += x - measuredX
	u.Along += y - measuredY
	return u
}
