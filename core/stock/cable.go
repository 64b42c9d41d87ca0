package stock

import (
	"cmp"
	"math"
	"slices"

	"oddspool/core/measure"
)

// Tubing is shrink tubing, pressed flat for printing on both faces.
type Tubing struct {
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
	if t == nil {
		r.add("sleeve", `A sleeve needs its tubing: "sleeve": {…}.`)
		return
	}
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

// Laminate is a self-laminating wrap: Length is its print zone, and a clear tail follows it.
type Laminate struct {
	Tail measure.Length `json:"tail"` // clear, along
}

// Cables returns the smallest and largest cable. The print zone must not lap over itself, so it is
// at most one circumference; the clear tail must go round once to cover it.
func (w *Laminate) Cables(printZone measure.Length) (smallest, largest measure.Length) {
	return roundUp(float64(printZone) / math.Pi), measure.Length(float64(w.Tail) / math.Pi)
}

func (w *Laminate) check(r *reasons, s Stock) {
	if w == nil {
		r.add("wrap", `A wrap needs its clear tail: "wrap": {"tail": …}.`)
		return
	}
	if w.Tail < s.Length {
		r.add("wrap.tail", "A clear tail of %v cannot cover a print zone of %v: it must be at least as long.", w.Tail,
			s.Length)
	}
}

// TwoFaces is a flag: Length is both faces and what goes round the cable between them.
type TwoFaces struct {
	Round measure.Length `json:"round"` // the part that goes round the cable
}

// Face returns the length of one face.
func (s Stock) Face() measure.Length { return (s.Length - s.Flag.Round) / 2 }

// Cables returns the smallest and largest cable: the part between the faces must go round once;
// what is left over lies on itself, and more than half of it would make the faces miss each other.
func (f *TwoFaces) Cables() (smallest, largest measure.Length) {
	return roundUp(float64(f.Round) / 2 / math.Pi), measure.Length(float64(f.Round) / math.Pi)
}

func (f *TwoFaces) check(r *reasons, s Stock) {
	if f == nil {
		r.add("flag", `A flag needs the part round the cable: "flag": {"round": …}.`)
		return
	}
	r.within("flag.round", "The part round the cable", f.Round, 2*mm, max(s.Length-4*mm, 2*mm))
}

func roundUp(micrometres float64) measure.Length { return measure.Length(math.Ceil(micrometres)) }

// Cables returns the cables that a stock suits; ok is false for what does not go round a cable.
func (s Stock) Cables() (smallest, largest measure.Length, ok bool) {
	switch {
	case s.Kind == Sleeve && s.Sleeve != nil:
		smallest, largest = s.Sleeve.Cables()
	case s.Kind == Wrap && s.Wrap != nil:
		smallest, largest = s.Wrap.Cables(s.Length)
	case s.Kind == Flag && s.Flag != nil:
		smallest, largest = s.Flag.Cables()
	default:
		return 0, 0, false
	}
	return smallest, largest, true
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
