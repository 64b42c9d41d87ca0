package stock

import "oddspool/core/measure"

// A form is what a kind of stock has of its own: how its pieces are checked, lie on what is printed, and are counted.
// Each is one type that embeds label, which is the plain case, and says what is otherwise with it. forms lists them.
type form interface {
	check(r *reasons, s Stock)
	longest(s Stock) measure.Length // that a piece can be
	byContent() bool                // each piece is as long as what is on it
	faces() int                     // that are printed
	webWidth(s Stock) measure.Length
	found(s Stock) Tracking
	flat() bool     // it lies under the head, and no web is drawn past it
	outlined() bool // pieces are cut to their shape
	unit() Unit     // that it is counted in
	pageSize(s Stock) (width, length measure.Length)
	pagePitch(s Stock) measure.Length
	perPage(s Stock) int
	onPage(s Stock, i int) (x, y measure.Length)

	mostLegends(s Stock) int
	usualLegends(s Stock) int
	legends(s Stock, l *Legend)                                 // how more than one lie on a piece
	cables(s Stock) (smallest, largest measure.Length, ok bool) // it goes round
	keepFree(s Stock, r measure.Resolution, a *Area)            // parts of a piece
	inkColour(ink Ink) string                                   // where it is not the ink's own; else empty
}

// forms are the kinds of stock. The form of a stock is nil where its member is missing.
var forms = [...]struct {
	kind Kind
	of   func(s *Stock) form
	lack Reason // of a stock without its member
}{
	{kind: DieCut, of: func(*Stock) form { return label{} }},
	{Tape, func(s *Stock) form { return given(s.Tape) }, Reason{"tape", `A tape needs its cutting: "tape": {…}.`}},
	{Sleeve, func(s *Stock) form { return given(s.Sleeve) },
		Reason{"sleeve", `A sleeve needs its tubing: "sleeve": {…}.`}},
	{Wrap, func(s *Stock) form { return given(s.Wrap) },
		Reason{"wrap", `A wrap needs its clear tail: "wrap": {"tail": …}.`}},
	{Flag, func(s *Stock) form { return given(s.Flag) },
		Reason{"flag", `A flag needs the part round the cable: "flag": {"round": …}.`}},
	{Plate, func(s *Stock) form { return given(s.Plate) },
		Reason{"plate", `A plate needs its make: "plate": {"holes": […]}.`}},
	{Sheet, func(s *Stock) form { return given(s.Sheet) }, Reason{"sheet", `A sheet needs its page: "sheet": {…}.`}},
}

// given returns a member as a form; nil where it is missing.
func given[F any, P interface {
	*F
	form
}](member P) form {
	if member == nil {
		return nil
	}
	return member
}

// Kinds returns all kinds.
func Kinds() []Kind {
	kinds := make([]Kind, len(forms))
	for i := range forms {
		kinds[i] = forms[i].kind
	}
	return kinds
}

// form returns what the stock's kind has of its own; of an unknown kind, and of one whose member is missing, that of a
// plain label.
func (s *Stock) form() form {
	for i := range forms {
		if forms[i].kind == s.Kind {
			if f := forms[i].of(s); f != nil {
				return f
			}
		}
	}
	return label{}
}

// checkForm says what is impossible about what the kind has of its own.
func (s *Stock) checkForm(r *reasons) {
	for i := range forms {
		if forms[i].kind != s.Kind {
			continue
		}
		if f := forms[i].of(s); f != nil {
			f.check(r, *s)
		} else {
			*r = append(*r, forms[i].lack)
		}
		return
	}
	r.add("kind", "The kind of stock %q is not known; use one of %v.", s.Kind, Kinds())
}

// label is the form of labels cut out on a liner, and the plain case of every other form.
type label struct{}

func (label) check(*reasons, Stock)                     {}
func (label) longest(s Stock) measure.Length            { return s.Length }
func (label) byContent() bool                           { return false }
func (label) faces() int                                { return 1 }
func (label) webWidth(s Stock) measure.Length           { return s.EdgeLeft + s.rowWidth() + s.EdgeRight }
func (label) flat() bool                                { return false }
func (label) outlined() bool                            { return true }
func (label) unit() Unit                                { return InPieces }
func (label) pagePitch(s Stock) measure.Length          { return s.Pitch() }
func (label) perPage(s Stock) int                       { return s.Across() }
func (label) mostLegends(Stock) int                     { return 1 }
func (label) usualLegends(Stock) int                    { return 1 }
func (label) legends(Stock, *Legend)                    {}
func (label) inkColour(Ink) string                      { return "" }
func (label) keepFree(Stock, measure.Resolution, *Area) {}

func (label) found(s Stock) Tracking {
	if s.Gap == 0 {
		return Continuous
	}
	return Gap
}

func (label) pageSize(s Stock) (width, length measure.Length) {
	n := measure.Length(s.Across())
	return n*s.PieceWidth() + (n-1)*s.LaneGap, s.Length
}

func (label) onPage(s Stock, i int) (x, y measure.Length) {
	return measure.Length(i) * (s.PieceWidth() + s.LaneGap), 0
}

func (label) cables(Stock) (smallest, largest measure.Length, ok bool) { return 0, 0, false }

// A Unit is what a stock is counted in.
type Unit string

// The units.
const (
	InPieces Unit = "labels"
	InSheets Unit = "sheets"
	InLength Unit = "length" // of the web, in micrometres
)

// Unit returns what the stock is counted in.
func (s *Stock) Unit() Unit { return s.form().unit() }

// Flat tells whether the stock lies under the head, as sheets and plates do, and no web is drawn past it.
func (s *Stock) Flat() bool { return s.form().flat() }

// PagePitch returns the way from one page to the next: a row of labels with the gap behind it, or a whole sheet.
func (s *Stock) PagePitch() measure.Length { return s.form().pagePitch(*s) }

// Outlined tells whether pieces are cut to their shape.
func (s *Stock) Outlined() bool { return s.form().outlined() }
