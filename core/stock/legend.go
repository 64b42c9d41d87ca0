package stock

import "oddspool/core/measure"

// Faces returns on how many faces a piece is printed: two for a sleeve that is printed on both.
func (s Stock) Faces() int {
	if s.Kind == Sleeve && s.Sleeve != nil {
		return max(s.Sleeve.Faces, 1)
	}
	return 1
}

// PieceWidth returns what one piece has to print on, across: the faces of a sleeve lie side by side,
// as if it were unrolled.
func (s Stock) PieceWidth() measure.Length { return s.Width * measure.Length(s.Faces()) }

// ByContent tells whether each piece is as long as what is on it.
func (s Stock) ByContent() bool { return s.Kind == Tape && s.Tape != nil && s.Tape.ByContent }

// LongestPiece returns how long a piece can be.
func (s Stock) LongestPiece() measure.Length {
	if s.ByContent() {
		return s.Tape.most()
	}
	return s.Length
}

// A Legend is how a design lies on a piece: once, or several times the same, as round a cable.
type Legend struct {
	Width, Length measure.Length // of what is designed, as it lies on the web
	Times         int
	Across, Along measure.Length // from each to the next
}

// MostLegends returns how often a legend can stand on one piece.
func (s Stock) MostLegends() int {
	switch s.Kind {
	case Flag:
		return 2
	case Sleeve:
		return s.Faces()
	case Wrap:
		return 12
	}
	return 1
}

// Legend returns how a design that stands on the piece so many times lies on it: on both faces of a
// flag or a sleeve, or again and again along the print zone of a wrap.
func (s Stock) Legend(times int) Legend {
	times = min(max(times, 1), s.MostLegends())
	l := Legend{Width: s.PieceWidth(), Length: s.Length, Times: times}
	switch {
	case times == 1:
	case s.Kind == Flag:
		l.Length, l.Along = s.Face(), s.Face()+s.Flag.Round
	case s.Kind == Sleeve:
		l.Width, l.Across = s.Width, s.Width
	case s.Kind == Wrap:
		l.Length = s.Length / measure.Length(times)
		l.Along = l.Length
	}
	return l
}

// Usual returns how often a legend usually stands on a piece: on both faces of what has two, and on
// a wrap so often that it can be read from any side of the smallest cable.
func (s Stock) Usual() int {
	switch s.Kind {
	case Flag, Sleeve:
		return s.MostLegends()
	case Wrap:
		smallest, _, _ := s.Cables()
		return min(Repeats(smallest, 0), s.MostLegends())
	}
	return 1
}

// PageSize returns the size of what a printer prints at once: a row of labels, or a whole sheet.
func (s Stock) PageSize() (width, length measure.Length) {
	if s.Kind == Sheet && s.Sheet != nil {
		return s.Sheet.Width, s.Sheet.Height
	}
	n := measure.Length(s.Across())
	return n*s.PieceWidth() + (n-1)*s.LaneGap, s.Length
}

// PerPage returns how many pieces a page has: one in each lane, or all places of a sheet.
func (s Stock) PerPage() int {
	if s.Kind == Sheet && s.Sheet != nil {
		return s.Sheet.Places()
	}
	return s.Across()
}

// OnPage returns where place i of a page, from 0, has its top left corner.
func (s Stock) OnPage(i int) (x, y measure.Length) {
	if s.Kind == Sheet && s.Sheet != nil {
		_, column, row := s.Sheet.Place(i, 0)
		return s.Sheet.Left + measure.Length(column)*s.Sheet.PitchX, s.Sheet.Top + measure.Length(row)*s.Sheet.PitchY
	}
	return measure.Length(i) * (s.PieceWidth() + s.LaneGap), 0
}
