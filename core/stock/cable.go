package stock

import (
	"cmp"
	"math"
	"slices"

	"oddspool/core/measure"
)

func roundUp(micrometres float64) measure.Length { return measure.Length(math.Ceil(micrometres)) }

// Cables returns the cables that a stock suits; ok is false for what does not go round a cable.
func (s Stock) Cables() (smallest, largest measure.Length, ok bool) {
	return s.form().cables(s)
}

// Repeats returns how often a legend of a height must stand round a cable so that it can be read
// from any side: a third of the circumference can be seen at a time, so the legends may be no
// further apart.
func Repeats(cable, legend measure.Length) int {
	circumference := math.Pi * float64(cable)
	if legend < 0 || circumference <= 0 {
		return 0
	}
	seen := circumference / 3
	return max(1, int(math.Ceil(circumference/max(float64(legend), seen))))
}

// ForCable returns the stocks that suit a cable of a diameter, the tightest fit first.
func ForCable(stocks []Stock, cable measure.Length) []Stock {
	var found []Stock
	for _, s := range stocks {
		if smallest, largest, ok := s.Cables(); ok && cable >= smallest && cable <= largest {
			found = append(found, s)
		}
	}
	slices.SortStableFunc(found, func(a, b Stock) int {
		_, largestA, _ := a.Cables()
		_, largestB, _ := b.Cables()
		return cmp.Compare(largestA, largestB)
	})
	return found
}
