// Package stock holds what labels are printed on and by what: stocks of every kind, printers,
// print set-ups, and whether the one fits the other. Directions are the web's own: across is from
// the left edge of the web to the right as it leaves the printer, along is the way it moves.
//
//	            across ─────────▶
//	┌──────┬────────┬─────────┬────────┬──────┐  ▲
//	│ edge │ label  │ lane    │ label  │ edge │  │ feed
//	│ left │        │ gap     │        │ right│  │
//	├──────┴────────┴─────────┴────────┴──────┤
//	│                   gap                   │  pitch = length + gap
//	├──────┬────────┬─────────┬────────┬──────┤
//
// Width and Length are those of one piece of artwork, whatever the kind: a label, a cut of tape, a
// sleeve pressed flat, a plate, a cell of a sheet. Whoever draws needs no more; what a kind has
// beside them is in the member named after it.
package stock

import (
	"fmt"

	"oddspool/core/measure"
)

// A Kind is what a stock is made up as.
type Kind string

// The kinds of stock.
const (
	DieCut Kind = "die-cut" // labels cut out on a liner
	Tape   Kind = "tape"    // continuous, cut after printing
	Sleeve Kind = "sleeve"  // shrink tubing pressed flat
	Wrap   Kind = "wrap"    // self-laminating: a print zone and a clear tail that covers it
	Flag   Kind = "flag"    // two faces and a part that goes round the cable
	Plate  Kind = "plate"   // rigid, marked with vectors
	Sheet  Kind = "sheet"   // labels on a page
)

// A Shape is the outline of a label.
type Shape string

// The outlines a label can have.
const (
	Rectangle Shape = "rectangle"
	Rounded   Shape = "rounded" // a rectangle with CornerRadius
	Circle    Shape = "circle"  // as wide as it is long
	Ellipse   Shape = "ellipse"
)

// A Tracking is how a printer finds where a label begins (PWG 5100.3, media-tracking).
type Tracking string

// The trackings.
const (
	Gap        Tracking = "gap"        // light falls through between two labels
	Mark       Tracking = "mark"       // a black mark on the back
	Notch      Tracking = "notch"      // a notch or hole
	Continuous Tracking = "continuous" // nothing is to be found
)

// A Stock is a material as it is bought: everything about it that a label, a printer or a person
// must know. Lengths are micrometres.
type Stock struct {
	Number   string `json:"number,omitempty"` // the plant's own number, such as S-076
	Name     string `json:"name"`
	Kind     Kind   `json:"kind"`
	Material string `json:"material,omitempty"`
	Purpose  string `json:"purpose,omitempty"` // in plain words, to be found by
	Colour   string `json:"colour,omitempty"`  // of its face, #RRGGBB; empty: white
	Reacts   []Ink  `json:"reacts,omitempty"`  // inks that heat alone brings out of its coating: direct thermal

	Shape        Shape          `json:"shape"`
	CornerRadius measure.Length `json:"cornerRadius,omitempty"`
	Width        measure.Length `json:"width"`  // of one piece, across
	Length       measure.Length `json:"length"` // of one piece, along
	Gap          measure.Length `json:"gap"`    // between two pieces, along
	EdgeLeft     measure.Length `json:"edgeLeft,omitempty"`
	EdgeRight    measure.Length `json:"edgeRight,omitempty"`
	Lanes        int            `json:"lanes,omitempty"` // side by side; 0: one
	LaneGap      measure.Length `json:"laneGap,omitempty"`
	Perforated   bool           `json:"perforated,omitempty"` // between two pieces, to be torn

	Tracking Tracking   `json:"tracking,omitempty"` // empty: a gap where there is one
	Mark     *BlackMark `json:"mark,omitempty"`     // with tracking by mark
	Roll     *Roll      `json:"roll,omitempty"`
	// pieces on a full roll, where that is known better than by its size
	PerRoll int            `json:"perRoll,omitempty"`
	Tape    *TapeCut       `json:"tape,omitempty"`
	Sleeve  *Tubing        `json:"sleeve,omitempty"`
	Wrap    *Laminate      `json:"wrap,omitempty"`
	Flag    *TwoFaces      `json:"flag,omitempty"`
	Plate   *Rigid         `json:"plate,omitempty"`
	Sheet   *Page          `json:"sheet,omitempty"`
	Inlay   *Inlay         `json:"inlay,omitempty"` // with a chip; nil: it has none
	Keep    measure.Length `json:"keep,omitempty"`  // margin along each edge that must stay free of print
}

// An Inlay is an antenna with a chip in each piece. Its place is on the piece as it lies on the web, from its top left
// corner.
type Inlay struct {
	X        measure.Length `json:"x"`
	Y        measure.Length `json:"y"`
	Width    measure.Length `json:"width"`
	Height   measure.Length `json:"height"`
	ChipX    measure.Length `json:"chipX"` // middle of the chip
	ChipY    measure.Length `json:"chipY"`
	EPCBits  int            `json:"epcBits"`            // room for the identifier
	UserBits int            `json:"userBits,omitempty"` // and for what else is written
}

// ChipRoom is how far about the middle of a chip nothing is printed that must be exact.
const ChipRoom = 2 * measure.Millimetre

func (i *Inlay) check(r *reasons, s Stock) {
	if i == nil {
		return
	}
	if i.Width <= 0 || i.Height <= 0 || i.X < 0 || i.Y < 0 || i.X+i.Width > s.PieceWidth() ||
		i.Y+i.Height > s.LongestPiece() {
		r.add("inlay", "The inlay of %v × %v lies beyond the piece: give its place within %v × %v.", i.Width, i.Height,
			s.PieceWidth(), s.LongestPiece())
	}
	if i.ChipX < i.X || i.ChipX > i.X+i.Width || i.ChipY < i.Y || i.ChipY > i.Y+i.Height {
		r.add("inlay.chipX", "The chip lies beside its inlay: give its place within it.")
	}
	if i.EPCBits < 16 || i.EPCBits > 496 || i.EPCBits%16 != 0 {
		r.add("inlay.epcBits", "Room for an identifier of %d bits is impossible: chips have 16 to 496, in steps of 16.",
			i.EPCBits)
	}
	if i.UserBits < 0 || i.UserBits > 65536 {
		r.add("inlay.userBits", "User memory of %d bits is impossible: chips have up to 65,536.", i.UserBits)
	}
}

// A BlackMark is printed on the back of the web, once a pitch.
type BlackMark struct {
	Offset measure.Length `json:"offset"` // from the label's leading edge to the mark's
	Height measure.Length `json:"height"` // along
}

// Across returns how many labels lie side by side, at least one.
func (s Stock) Across() int { return max(s.Lanes, 1) }

// WebWidth returns the width of the whole web, page or plate.
func (s Stock) WebWidth() measure.Length {
	return s.form().webWidth(s)
}

// Pitch returns the way the web moves for one row of pieces: length and gap.
func (s Stock) Pitch() measure.Length { return s.Length + s.Gap }

// LaneAt returns where lane i, from 0, begins, from the left edge of the web.
func (s Stock) LaneAt(i int) measure.Length {
	return s.EdgeLeft + measure.Length(i)*(s.Width+s.LaneGap)
}

// rowWidth returns the width of a row: from the first lane's left edge to the last one's right.
func (s Stock) rowWidth() measure.Length {
	n := measure.Length(s.Across())
	return n*s.Width + (n-1)*s.LaneGap
}

// Found returns how a printer finds the pieces.
func (s Stock) Found() Tracking {
	if s.Tracking != "" {
		return s.Tracking
	}
	return s.form().found(s)
}

// A Reason says why something cannot be, with the figures that clash and what to do.
type Reason struct {
	Field string `json:"field"` // the figure to change, as named in JSON
	Text  string `json:"text"`
}

// reasons collects what is impossible.
type reasons []Reason

func (r *reasons) add(field, format string, args ...any) {
	*r = append(*r, Reason{field, fmt.Sprintf(format, args...)})
}

// within says so when a length is not from least to most.
func (r *reasons) within(field, name string, length, least, most measure.Length) {
	if length < least || length > most {
		r.add(field, "%s of %v is impossible: it can be from %v to %v.", name, length, least, most)
	}
}

const mm = measure.Millimetre

// Check returns what is impossible about the stock by itself; nil when nothing is.
func (s Stock) Check() []Reason {
	var r reasons
	r.within("width", "A width", s.Width, 2*mm, 2000*mm)
	least := 2 * mm
	if s.ByContent() {
		least = 0 // each piece has a length of its own
	}
	r.within("length", "A length", s.Length, least, 5000*mm)
	r.within("gap", "A gap", s.Gap, 0, 200*mm)
	r.within("edgeLeft", "A left edge", s.EdgeLeft, 0, 200*mm)
	r.within("edgeRight", "A right edge", s.EdgeRight, 0, 200*mm)
	r.within("laneGap", "A gap between lanes", s.LaneGap, 0, 200*mm)
	r.within("keep", "A margin to keep free", s.Keep, 0, max(min(s.Width, s.Length)/2, 0))
	if s.Lanes < 0 || s.Lanes > 40 {
		r.add("lanes", "%d lanes are impossible: there can be 1 to 40.", s.Lanes)
	}
	if s.PerRoll < 0 {
		r.add("perRoll", "%d pieces on a roll are impossible.", s.PerRoll)
	}
	if s.Colour != "" && !isColour(s.Colour) {
		r.add("colour", "%q is no colour; write it like #F7C600.", s.Colour)
	}
	s.checkInks(&r)
	s.checkShape(&r)
	s.checkTracking(&r)
	s.Inlay.check(&r, s)
	if s.Roll != nil {
		s.Roll.check(&r)
	}
	s.checkForm(&r)
	return r
}

func (s Stock) checkShape(r *reasons) {
	switch s.Shape {
	case Rectangle, Ellipse:
	case Circle:
		if s.Width != s.Length {
			r.add("shape", "A circle is as wide as it is long; this is %v wide and %v long.", s.Width, s.Length)
		}
	case Rounded:
		if half := min(s.Width, s.Length) / 2; s.CornerRadius < 0 || s.CornerRadius > half {
			r.add("cornerRadius", "A corner radius of %v does not fit this piece: it can be from 0 mm to %v.",
				s.CornerRadius, half)
		}
	default:
		r.add("shape", "The shape %q is not known; use rectangle, rounded, circle or ellipse.", s.Shape)
	}
}

func (s Stock) checkTracking(r *reasons) {
	switch s.Tracking {
	case "", Continuous, Notch:
	case Gap:
		if s.Gap == 0 {
			r.add("gap", "A printer cannot find a gap of 0 mm; give the gap, or choose another tracking.")
		}
	case Mark:
		if s.Mark == nil {
			r.add("mark", "Tracking by a black mark needs the mark's place and height.")
		} else {
			r.within("mark.height", "A black mark's height", s.Mark.Height, mm, 30*mm)
			r.within("mark.offset", "A black mark's place", s.Mark.Offset, 0, s.Pitch())
		}
	default:
		r.add("tracking", "The tracking %q is not known; use gap, mark, notch or continuous.", s.Tracking)
	}
}

func isColour(text string) bool {
	if len(text) != 7 || text[0] != '#' {
		return false
	}
	for _, c := range text[1:] {
		if (c < '0' || c > '9') && (c < 'a' || c > 'f') && (c < 'A' || c > 'F') {
			return false
		}
	}
	return true
}
