package stock

import "oddspool/core/measure"

// An Area is where a printer can print on one piece, in whole dots from the piece's top left corner
// as it lies on the web: x across, y along.
type Area struct {
	Width, Height            int // of the piece
	Left, Top, Right, Bottom int // what can be printed: [Left, Right) × [Top, Bottom)
	Keep                     []Disc
	Bands                    []Band
}

// A Band is what must stay free within a piece: the fold between the faces of a sleeve, or what of
// a flag goes round the cable. In dots.
type Band struct{ X, Y, Width, Height int }

// A Disc is a hole with its clearance, in dots.
type Disc struct{ X, Y, Radius int }

// Printable returns the printable area of a piece in a lane, from 0: what the piece, the head, the
// offsets of the set-up and the margin to keep have in common. Bleed widens it over the edge.
func Printable(s Stock, p Printer, u Setup, lane int) Area {
	r := p.Resolution
	s.Length = s.LongestPiece()
	a := Area{Width: r.Dots(s.PieceWidth()), Height: r.Dots(s.Length)}
	// The head, as seen from the piece: an offset moves the print, and so what the head reaches.
	headLeft := p.headAt(s.WebWidth()) - s.LaneAt(lane) + u.Across
	if s.Flat() {
		x, _ := s.OnPage(lane)
		headLeft = u.Across - x
	}
	inset := s.Keep - u.Bleed
	left, right := max(inset, headLeft), min(s.Width-inset, headLeft+p.HeadWidth())
	a.Left, a.Right = r.Dots(left), r.Dots(s.PieceWidth()-s.Width+right)
	a.Top = r.Dots(max(inset, u.Along-u.Bleed))
	a.Bottom = r.Dots(min(s.Length-inset, s.Length+u.Along+u.Bleed))
	for face := range s.Faces() - 1 { // each has a head of its own
		end := measure.Length(face) * s.Width
		a.Bands = append(a.Bands, Band{X: r.Dots(end + right), Width: r.Dots(end+s.Width+left) - r.Dots(end+right),
			Height: a.Height})
	}
	s.form().keepFree(s, r, &a)
	return a
}

// Holds tells whether a box of dots can be printed whole: within the area, and clear of every hole
// and band.
func (a Area) Holds(x, y, w, h int) bool {
	if x < a.Left || y < a.Top || x+w > a.Right || y+h > a.Bottom {
		return false
	}
	for _, b := range a.Bands {
		if x < b.X+b.Width && b.X < x+w && y < b.Y+b.Height && b.Y < y+h {
			return false
		}
	}
	for _, d := range a.Keep {
		dx, dy := d.X-min(max(d.X, x), x+w), d.Y-min(max(d.Y, y), y+h)
		if dx*dx+dy*dy < d.Radius*d.Radius {
			return false
		}
	}
	return true
}

// Across returns the printable width of the area in a length.
func (a Area) Across(r measure.Resolution) measure.Length { return r.Length(a.Right - a.Left) }
