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

// TapeCut is how a continuous tape is cut into pieces.
type TapeCut struct {
	ByContent bool           `json:"byContent,omitempty"` // each piece as long as what is on it
	Margin    measure.Length `json:"margin,omitempty"`    // after the content
	Least     measure.Length `json:"least,omitempty"`     // shortest piece
	Most      measure.Length `json:"most,omitempty"`      // longest; 0: 1 m
	Waste     measure.Length `json:"waste,omitempty"`     // between head and cutter, lost before the first piece
}

func (t *TapeCut) check(r *reasons, s Stock) {
	if t == nil {
		r.add("tape", `A tape needs its cutting: "tape": {…}.`)
		return
	}
	if t.ByContent && s.Across() > 1 {
		r.add("lanes", "Pieces as long as their content are cut from one lane, not %d.", s.Across())
	}
	r.within("tape.margin", "A margin", t.Margin, 0, 500*mm)
	r.within("tape.waste", "The waste before the cutter", t.Waste, 0, 200*mm)
	r.within("tape.most", "A longest piece", t.most(), mm, 10_000*mm)
	r.within("tape.least", "A shortest piece", t.Least, 0, t.most())
}

func (t *TapeCut) most() measure.Length {
	if t.Most > 0 {
		return t.Most
	}
	return 1000 * mm
}

// PieceLength returns how long a piece is whose content ends at an extent along: the margin follows
// it, within what is allowed; fits is false when the content is longer than that.
func (s Stock) PieceLength(content measure.Length) (length measure.Length, fits bool) {
	if !s.ByContent() {
		return s.Length, content <= s.Length
	}
	wanted := content + s.Tape.Margin
	return min(max(wanted, s.Tape.Least), s.Tape.most()), wanted <= s.Tape.most()
}
