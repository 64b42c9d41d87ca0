package stock

import "oddspool/core/measure"

// Page is a sheet of labels: Width and Length of the stock are those of one label.
type Page struct {
	label `json:"-"`

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

func (p *Page) flat() bool                                    { return true }
func (p *Page) unit() Unit                                    { return InSheets }
func (p *Page) webWidth(Stock) measure.Length                 { return p.Width }
func (p *Page) pageSize(Stock) (width, length measure.Length) { return p.Width, p.Height }
func (p *Page) pagePitch(Stock) measure.Length                { return p.Height }
func (p *Page) perPage(Stock) int                             { return p.Places() }

func (p *Page) onPage(_ Stock, i int) (x, y measure.Length) {
	_, column, row := p.Place(i, 0)
	return p.Left + measure.Length(column)*p.PitchX, p.Top + measure.Length(row)*p.PitchY
}
