package design

import (
	"oddspool/core/measure"
	"oddspool/core/stock"
)

// Voided returns a design of what is printed over a label that must not be used: a cross from corner to corner and the
// word, and no code that could be read.
func Voided(s stock.Stock, p stock.Printer) *Design {
	d := Blank(s, p)
	d.Name = "Void"
	width, length := d.Size()
	weight := max(p.Resolution.Length(4), 700*measure.Micrometre)
	margin := max(s.Keep, mm)
	at := Element{Kind: Line, X: margin, Y: margin, Width: max(width-2*margin, mm), Height: max(length-2*margin, mm),
		Weight: weight}
	for _, slope := range []Slope{Down, Up} {
		line := at
		line.ID, line.Shape = "across "+string(slope), &Shape{Slope: slope}
		d.Elements = append(d.Elements, line)
	}
	tall := min(length/3, width/5)
	d.Elements = append(d.Elements, Element{ID: "says", Kind: Text, X: margin, Y: (length - tall) / 2,
		Width: width - 2*margin, Height: tall, Says: []Piece{{Text: "VOID"}},
		Text: &TextLooks{Typeface: "Liberation Sans", Bold: true, Points: tall.Millimetres() * 72 / 25.4 * 0.8,
			ShrinkTo: 4, Align: "centre", Stand: "middle"}})
	return d
}
