package stock

import "oddspool/core/measure"

// Faces returns on how many faces a piece is printed: two for a sleeve that is printed on both.
func (s Stock) Faces() int { return s.form().faces() }

// PieceWidth returns what one piece has to print on, across: the faces of a sleeve lie side by side,
// as if it were unrolled.
func (s Stock) PieceWidth() measure.Length { return s.Width * measure.Length(s.Faces()) }

// ByContent tells whether each piece is as long as what is on it.
func (s Stock) ByContent() bool { return s.form().byContent() }

// LongestPiece returns how long a piece can be.
func (s Stock) LongestPiece() measure.Length { return s.form().longest(s) }

// A Legend is how a design lies on a piece: once, or several times the same, as round a cable.
type Legend struct {
	Width, Length measure.Length // of what is designed, as it lies on the web
	Times         int
	Across, Along measure.Length // from each to the next
}

// MostLegends returns how often a legend can stand on one piece.
func (s Stock) MostLegends() int { return s.form().mostLegends(s) }

// Legend returns how a design that stands on the piece so many times lies on it: on both faces of a
// flag or a sleeve, or again and again along the print zone of a wrap.
func (s Stock) Legend(times int) Legend {
	times = min(max(times, 1), s.MostLegends())
	l := Legend{Width: s.PieceWidth(), Length: s.Length, Times: times}
	if times > 1 {
		s.form().legends(s, &l)
	}
	return l
}

// Usual returns how often a legend usually stands on a piece: on both faces of what has two, and on
// a wrap so often that it can be read from any side of the smallest cable.
func (s Stock) Usual() int { return s.form().usualLegends(s) }

// PageSize returns the size of what a printer prints at once: a row of labels, or a whole sheet.
func (s Stock) PageSize() (width, length measure.Length) { return s.form().pageSize(s) }

// PerPage returns how many pieces a page has: one in each lane, or all places of a sheet.
func (s Stock) PerPage() int { return s.form().perPage(s) }

// OnPage returns where place i of a page, from 0, has its top left corner.
func (s Stock) OnPage(i int) (x, y measure.Length) { return s.form().onPage(s, i) }
