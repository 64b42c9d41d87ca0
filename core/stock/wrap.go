package stock

import (
	"math"

	"oddspool/core/measure"
)

// Laminate is a self-laminating wrap: Length is its print zone, and a clear tail follows it.
type Laminate struct {
	label `json:"-"`

	Tail measure.Length `json:"tail"` // clear, along
}

// Cables returns the smallest and largest cable. The print zone must not lap over itself, so it is
// at most one circumference; the clear tail must go round once to cover it.
func (w *Laminate) Cables(printZone measure.Length) (smallest, largest measure.Length) {
	return roundUp(float64(printZone) / math.Pi), measure.Length(float64(w.Tail) / math.Pi)
}

func (w *Laminate) check(r *reasons, s Stock) {
	if w.Tail < s.Length {
		r.add("wrap.tail", "A clear tail of %v cannot cover a print zone of %v: it must be at least as long.", w.Tail,
			s.Length)
	}
}

func (w *Laminate) outlined() bool { return false }

const mostRoundWrap = 12 // legends, which are read from any side of the thickest cable then

func (w *Laminate) mostLegends(Stock) int { return mostRoundWrap }

// usualLegends are so many that one can be read from any side of the smallest cable.
func (w *Laminate) usualLegends(s Stock) int {
	smallest, _ := w.Cables(s.Length)
	return min(Repeats(smallest, 0), mostRoundWrap)
}

// legends follow one another along the print zone.
func (w *Laminate) legends(s Stock, l *Legend) {
	l.Length = s.Length / measure.Length(l.Times)
	l.Along = l.Length
}

func (w *Laminate) cables(s Stock) (smallest, largest measure.Length, ok bool) {
	smallest, largest = w.Cables(s.Length)
	return smallest, largest, true
}
