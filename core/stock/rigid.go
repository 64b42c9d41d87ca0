package stock

import "oddspool/core/measure"

// Rigid is a plate or tag, marked with vectors.
type Rigid struct {
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
	if p == nil {
		r.add("plate", `A plate needs its make: "plate": {"holes": […]}.`)
		return
	}
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

// Page is a sheet of labels: Width and Length of the stock are those of one label.
type Page struct {
	Width   measure.Length `json:"width"`
	Height  measure.Length `json:"height"`
	Left    measure.Length `json:"left"` // from the page's edge to the first column
	Top     measure.Length `json:"top"`
	Columns int            `json:"columns"`
	Rows    int            `json:"rows"`
	PitchX  measure.Length `json:"pitchX"` // from column to column
	PitchY  measure.Length `json:"pitchY"`

	Down bool `json:"-"` // its places are filled down the columns, not along the rows; a run says so
}

func (p *Page) check(r *reasons, s Stock) {
	if p == nil {
		r.add("sheet", `A sheet needs its page: "sheet": {…}.`)
		return
	}
	r.within("sheet.width", "A page width", p.Width, 20*mm, 2000*mm)
	r.within("sheet.height", "A page height", p.Height, 20*mm, 2000*mm)
	if p.Columns < 1 || p.Rows < 1 || p.Columns > 200 || p.Rows > 200 {
		r.add("sheet.columns", "%d columns and %d rows are impossible: there can be 1 to 200 of each.", p.Columns,
			p.Rows)
		return
	}
	if p.Columns > 1 && p.PitchX < s.Width {
		r.add("sheet.pitchX", "Columns %v apart overlap: a label is %v wide.", p.PitchX, s.Width)
	}
	if p.Rows > 1 && p.PitchY < s.Length {
		r.add("sheet.pitchY", "Rows %v apart overlap: a label is %v long.", p.PitchY, s.Length)
	}
	if right := p.Left + measure.Length(p.Columns-1)*p.PitchX + s.Width; p.Left < 0 || right > p.Width {
		r.add("sheet.left", "The columns end at %v, beyond the page's %v: choose a smaller margin, pitch or number.",
			right, p.Width)
	}
	if bottom := p.Top + measure.Length(p.Rows-1)*p.PitchY + s.Length; p.Top < 0 || bottom > p.Height {
		r.add("sheet.top", "The rows end at %v, beyond the page's %v: choose a smaller margin, pitch or number.",
			bottom, p.Height)
	}
}

// Places returns how many labels are on the page.
func (p *Page) Places() int { return p.Columns * p.Rows }

// Place returns the page, from 0, and the place on it of label n of a run, both from 0, when the
// first sheet's places before start are used already.
func (p *Page) Place(n, start int) (page, column, row int) {
	n += start
	page, n = n/p.Places(), n%p.Places()
	if p.Down {
		return page, n / p.Rows, n % p.Rows
	}
	return page, n % p.Columns, n / p.Columns
}
