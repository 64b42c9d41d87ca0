package stock

import (
	"math"

	"oddspool/core/measure"
)

// Tubing is shrink tubing, pressed flat for printing on both faces.
type Tubing struct {
	label `json:"-"`

	Supplied  measure.Length `json:"supplied"`         // inside diameter before shrinking
	Recovered measure.Length `json:"recovered"`        // inside diameter when shrunk freely
	Wall      measure.Length `json:"wall"`             // wall after shrinking freely
	Ladder    bool           `json:"ladder,omitempty"` // pieces on a carrier, a pitch apart; else continuous
	Faces     int            `json:"faces,omitempty"`  // that are printed: 1 or 2; 0: 1
}

// play is by how much a sleeve must be wider than the cable to be pushed over it: a tenth.
const play = 1.10

// Ratio returns supplied to recovered diameter: 2 for tubing sold as 2:1.
func (t *Tubing) Ratio() float64 { return float64(t.Supplied) / float64(t.Recovered) }

// WallSupplied returns the wall before shrinking. The material keeps its volume and its length, so
// the ring keeps its area: w (D + w) is the same before and after.
func (t *Tubing) WallSupplied() measure.Length {
	d, wall := float64(t.Supplied), float64(t.Wall)
	ring := float64(wall * (float64(t.Recovered) + wall))
	return measure.Length((math.Sqrt(float64(d*d)+4*ring)-d)/2 + 0.5)
}

// FlatWidth returns the width of the tubing pressed flat: half of its outer circumference.
func (t *Tubing) FlatWidth() measure.Length {
	outside := float64(t.Supplied + 2*t.WallSupplied())
	return measure.Length(math.Pi*outside/2 + 0.5)
}

// Cables returns the smallest and largest diameter of cable that a sleeve suits: it grips what is
// thicker than its recovered diameter, and is pushed over what leaves a tenth of play.
func (t *Tubing) Cables() (smallest, largest measure.Length) {
	return t.Recovered, measure.Length(float64(t.Supplied) / play)
}

func (t *Tubing) check(r *reasons, s Stock) {
	r.within("sleeve.supplied", "A supplied diameter", t.Supplied, mm, 200*mm)
	r.within("sleeve.wall", "A wall", t.Wall, 50, 10*mm)
	if t.Recovered <= 0 || t.Recovered >= t.Supplied {
		r.add("sleeve.recovered", "Tubing shrinks: a recovered diameter of %v must be more than 0 mm and less than "+
			"the %v supplied.", t.Recovered, t.Supplied)
		return
	}
	if t.Faces < 0 || t.Faces > 2 {
		r.add("sleeve.faces", "A flat sleeve has 2 faces, not %d.", t.Faces)
	}
	if flat := t.FlatWidth(); s.Width > flat {
		r.add("width", "The print is %v wide and the sleeve pressed flat is %v: print at most that wide.", s.Width,
			flat)
	}
}

func (t *Tubing) outlined() bool           { return false }
func (t *Tubing) faces() int               { return max(t.Faces, 1) }
func (t *Tubing) mostLegends(s Stock) int  { return t.faces() }
func (t *Tubing) usualLegends(s Stock) int { return t.faces() }

// legends lie on both faces.
func (t *Tubing) legends(s Stock, l *Legend) { l.Width, l.Across = s.Width, s.Width }

func (t *Tubing) cables(Stock) (smallest, largest measure.Length, ok bool) {
	smallest, largest = t.Cables()
	return smallest, largest, true
}
