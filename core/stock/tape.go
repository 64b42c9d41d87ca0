package stock

import "oddspool/core/measure"

// TapeCut is how a continuous tape is cut into pieces.
type TapeCut struct {
	label `json:"-"`

	ByContent bool           `json:"byContent,omitempty"` // each piece as long as what is on it
	Margin    measure.Length `json:"margin,omitempty"`    // after the content
	Least     measure.Length `json:"least,omitempty"`     // shortest piece
	Most      measure.Length `json:"most,omitempty"`      // longest; 0: 1 m
	Waste     measure.Length `json:"waste,omitempty"`     // between head and cutter, lost before the first piece
}

func (t *TapeCut) check(r *reasons, s Stock) {
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

func (t *TapeCut) byContent() bool      { return t.ByContent }
func (t *TapeCut) outlined() bool       { return false }
func (t *TapeCut) found(Stock) Tracking { return Continuous }
func (t *TapeCut) unit() Unit           { return InLength }

func (t *TapeCut) longest(s Stock) measure.Length {
	if t.ByContent {
		return t.most()
	}
	return s.Length
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
