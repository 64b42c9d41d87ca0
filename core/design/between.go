package design

import (
	"oddspool/core/stock"
)

// Blank returns a design of labels on which nothing stands: room between those of a run.
func Blank(s stock.Stock, p stock.Printer) *Design {
	return &Design{Format: Format, Name: "Blank label", Stock: s, Printer: p, Elements: []Element{}}
}

// CutMark returns a design of labels that show where a strip of them is to be cut: a broken line across the web,
// through the middle of the label.
func CutMark(s stock.Stock, p stock.Printer) *Design {
	d := Blank(s, p)
	d.Name = "Cut mark"
	width, length := d.Size()
	margin := min(width/10, 2*mm)
	weight := max(p.Resolution.Length(2), mm/2)
	mark := Element{ID: "cut", Kind: Line, X: margin, Y: (length - weight) / 2, Width: max(width-2*margin, mm),
		Height: weight, Shape: &Shape{Dash: Dashed}}
	d.Elements = append(d.Elements, mark)
	if length > 12*mm && width > 20*mm {
		d.Elements = append(d.Elements, Element{ID: "says", Kind: Text, X: margin, Y: length/2 + mm,
			Width: width - 2*margin, Height: 4 * mm,
			Says: []Piece{{Text: "Cut here"}}, Text: &TextLooks{Typeface: "Liberation Sans", Points: 7, ShrinkTo: 4}})
	}
	return d
}
