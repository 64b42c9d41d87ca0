package stock

import "oddspool/core/measure"

// An Area is where a printer can print on one piece, in whole dots from the piece's top left corner
// as it lies on the web: x across, y along.
type Area struct {
	Width, Height            int // of the piece
	Left, Top, Right, Bottom int // what can be printed: [Left, Right) × [Top, Bottom)
	Keep                     []Disc
}

// A Disc is a hole with its clearance, in dots.
type Disc struct{ X, Y, Radius int }

// Printable returns the printable area of a piece in a lane, from 0: what the piece, the head, the
// offsets of the set-up and the margin to keep have in common. Bleed widens it over the edge.
func Printable(s Stock, p Printer, u Setup, lane int) Area {
	r := p.Resolution
	a := Area{Width: r.Dots(s.Width), Height: r.Dots(s.Length)}
	// The head, as seen from the piece: an offset moves the print, and so what the head reaches.
	headLeft := p.headAt(s.WebWidth()) - s.LaneAt(lane) + u.Across
	if s.Kind == Sheet || s.Kind == Plate {
		headLeft = u.Across
	}
	inset := s.Keep - u.Bleed
	a.Left = r.Dots(max(inset, headLeft))
	a.Right = r.Dots(min(s.Width-inset, headLeft+p.HeadWidth()))
	a.Top = r.Dots(max(inset, u.Along-u.Bleed))
	a.Bottom = r.Dots(min(s.Length-inset, s.Length+u.Along+u.Bleed))
	if s.Plate != nil {
		for _, h := range s.Plate.Holes {
			a.Keep = append(a.Keep, Disc{r.Dots(h.X), r.Dots(h.Y), r.Dots(h.Diameter/2 + s.Plate.Clearance)})
		}
	}
	return a
}

// Holds tells whether a box of dots can be printed whole: within the area, and clear of every hole.
func (a Area) Holds(x, y, w, h int) bool {
	if x < a.Left || y < a.Top || x+w > a.Right || y+h > a.Bottom {
		return false
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
