package stock

import (
	"fmt"

	"oddspool/core/measure"
)

// OfSize returns a die-cut stock of a size that was typed and that nobody has kept yet: one lane,
// square corners, and the gap and edges that are usual.
func OfSize(width, length measure.Length) Stock {
	return Stock{Name: fmt.Sprintf("%g × %g label", width.Millimetres(), length.Millimetres()), Kind: DieCut, Material: "not told", Purpose: "made from its size",
		Shape: Rectangle, Width: width, Length: length, Gap: 3 * mm, EdgeLeft: 2 * mm, EdgeRight: 2 * mm}
}
