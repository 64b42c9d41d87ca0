package stock

import "oddspool/core/measure"

// Rigid is a plate or tag, marked with vectors.
type Rigid struct {
	label `json:"-"`

	Holes     []Hole         `json:"holes,omitempty"`
	Clearance measure.Length `json:"clearance,omitempty"` // round each hole, to be kept free
	Core      string         `json:"core,omitempty"`      // colour under the face, that engraving shows, #RRGGBB
}

// A Hole is for a rivet or a tie; its place is its centre, from the top left of the plate.
type Hole struct {
	X        measure.Length `json:"x"`
	Y        measure.Length `json:"y"`
	Diameter measure.Length `json:"diameter"`
}

func (p *Rigid) check(r *reasons, s Stock) {
	r.within("plate.clearance", "A clearance", p.Clearance, 0, 20*mm)
	if p.Core != "" && !isColour(p.Core) {
		r.add("plate.core", "%q is no colour; write it like #F7C600.", p.Core)
	}
	for i, h := range p.Holes {
		half := h.Diameter / 2
		if h.Diameter < measure.Millimetre/2 {
			r.add("plate.holes", "Hole %d is %v wide; a hole is at least 0.5 mm.", i+1, h.Diameter)
		} else if h.X-half < 0 || h.Y-half < 0 || h.X+half > s.Width || h.Y+half > s.Length {
			r.add("plate.holes", "Hole %d, %v wide at %v, %v, does not lie in the plate of %v × %v.", i+1, h.Diameter,
				h.X, h.Y, s.Width, s.Length)
		}
	}
}

func (p *Rigid) flat() bool { return true }
func (p *Rigid) keepFree(_ Stock, r measure.Resolution, a *Area) {
	for _, h := range p.Holes {
		a.Keep = append(a.Keep, Disc{r.Dots(h.X), r.Dots(h.Y), r.Dots(h.Diameter/2 + p.Clearance)})
	}
}

// inkColour is that of the core, which marking lays bare.
func (p *Rigid) inkColour(ink Ink) string {
	if ink == Black {
		return p.Core
	}
	return ""
}
