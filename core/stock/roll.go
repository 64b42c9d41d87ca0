package stock

import (
	"math"

	"oddspool/core/measure"
)

// A Winding tells which side of the web faces outwards on the roll.
type Winding string

// The windings.
const (
	FaceOut Winding = "out"
	FaceIn  Winding = "in"
)

// A Roll is how a web is wound.
type Roll struct {
	Core      measure.Length `json:"core"`      // inside diameter of what is wound
	Outside   measure.Length `json:"outside"`   // of a full roll
	Thickness measure.Length `json:"thickness"` // of the whole web: label, glue and liner
	Winding   Winding        `json:"winding,omitempty"`
}

func (w *Roll) check(r *reasons) {
	r.within("roll.core", "A core", w.Core, 5*mm, 300*mm)
	r.within("roll.thickness", "A thickness", w.Thickness, 20, 10*mm)
	if w.Outside <= w.Core {
		r.add("roll.outside", "A roll of %v outside cannot have a core of %v: the outside must be larger.", w.Outside,
			w.Core)
	} else {
		r.within("roll.outside", "An outside diameter", w.Outside, 10*mm, 1000*mm)
	}
	if w.Winding != "" && w.Winding != FaceIn && w.Winding != FaceOut {
		r.add("roll.winding", "The winding %q is not known; use in or out.", w.Winding)
	}
}

// Length returns how much web is on the roll when its outside diameter is as given: the area of
// the ring that is wound, divided by the thickness of the web. That is the length of an
// Archimedean spiral of that pitch, but for the part of a turn at its ends:
//
//	length = π (outside² − core²) / (4 thickness)
func (w *Roll) Length(outside measure.Length) measure.Length {
	if outside <= w.Core || w.Thickness <= 0 {
		return 0
	}
	d, c := float64(outside), float64(w.Core)
	return measure.Length(math.Pi * (float64(d*d) - float64(c*c)) / (4 * float64(w.Thickness)))
}

// Outside returns the outside diameter of the roll when so much web is left on it.
func (w Roll) OutsideOf(left measure.Length) measure.Length {
	c := float64(w.Core)
	return measure.Length(math.Sqrt(float64(c*c) + 4*float64(w.Thickness)*float64(max(left, 0))/math.Pi))
}

// Pieces returns how many pieces a full roll has: what the stock says, or what follows from its
// diameters; 0 where neither is known.
func (s Stock) Pieces() int {
	if s.PerRoll > 0 {
		return s.PerRoll
	}
	if s.Roll == nil || s.Pitch() <= 0 {
		return 0
	}
	return int(s.Roll.Length(s.Roll.Outside)/s.Pitch()) * s.Across()
}
