package stock

import (
	"fmt"
	"slices"

	"oddspool/core/measure"
)

// OfSizeFor returns the stock of a size as a printer takes it: found as it can find it, and with a coating where it has
// no ribbon.
func OfSizeFor(width, length measure.Length, p Printer) Stock {
	s := OfSize(width, length)
	if sensors := p.sensors(); !slices.Contains(sensors, s.Found()) && len(sensors) > 0 {
		s.Tracking = sensors[0]
	}
	if len(Inks(s, p)) == 0 {
		s.Reacts, s.Material = []Ink{Black}, "direct thermal, else not told"
	}
	return s
}

// OfSize returns a die-cut stock of a size that was typed and that nobody has kept yet: one lane,
// square corners, and the gap and edges that are usual.
func OfSize(width, length measure.Length) Stock {
	return Stock{Name: fmt.Sprintf("%g × %g label", width.Millimetres(), length.Millimetres()), Kind: DieCut,
		Material: "not told", Purpose: "made from its size",
		Shape: Rectangle, Width: width, Length: length, Gap: 3 * mm, EdgeLeft: 2 * mm, EdgeRight: 2 * mm}
}
