package design

import (
	"cmp"
	"math"
	"slices"

	"oddspool/core/measure"
	"oddspool/core/stock"
)

// A Way is how a design is carried to another stock.
type Way string

// The ways.
const (
	KeepPlaces  Way = "places"  // sizes, and places from the top left, stay
	KeepMargins Way = "margins" // sizes stay, and so does the distance to the nearer edges
	Scale       Way = "scale"   // all grows or shrinks with the label, as far as both sides allow
	Reflow      Way = "re-flow" // rows are spread over the new width and stacked anew
)

// Ways returns all ways, in the order they are offered.
func Ways() []Way { return []Way{KeepPlaces, KeepMargins, Scale, Reflow} }

// Carried returns the design as it is on another stock and printer. The artwork keeps lying along or
// across the web, unless only the other fits its shape; how often its legend stands on a piece is
// what is usual where the kind of stock changes.
func (d *Design) Carried(s stock.Stock, p stock.Printer, way Way) *Design {
	return d.CarriedTurned(s, p, nil, way)
}

// CarriedTurned does as Carried does, and has the artwork lie on the web as is asked for; nil: as is usual.
func (d *Design) CarriedTurned(s stock.Stock, p stock.Printer, turn *measure.Turn, way Way) *Design {
	to := *d
	to.Stock, to.Printer = s, p
	if s.Kind != d.Stock.Kind {
		to.Repeat = s.Usual()
	}
	to.Repeat = min(to.Repeat, s.MostLegends())
	oldW, oldH := d.Size()
	w, h := to.Size()
	if turn != nil {
		to.Turn = *turn
		w, h = to.Size()
	} else if (oldW > oldH) != (w > h) && w != h && oldW != oldH {
		to.Turn = to.Turn.Plus(90)
		if to.Turn.Sideways() != d.Turn.Sideways() && d.Turn.Sideways() {
			to.Turn = d.Turn.Plus(-90)
		}
		w, h = to.Size()
	}
	to.Elements = slices.Clone(d.Elements)
	for i := range to.Elements { // looks are shared no more
		e := &to.Elements[i]
		if e.Text != nil {
			e.Text = new(*e.Text)
		}
		if e.Code != nil {
			e.Code = new(*e.Code)
		}
		if e.Symbol != nil {
			e.Symbol = new(*e.Symbol)
		}
		if e.Picture != nil {
			e.Picture = new(*e.Picture)
		}
		if e.Shape != nil {
			e.Shape = new(*e.Shape)
		}
	}
	switch way {
	case KeepMargins:
		for i := range to.Elements {
			e := &to.Elements[i]
			e.X, e.Width = keptMargins(e.X, e.Width, oldW, w)
			e.Y, e.Height = keptMargins(e.Y, e.Height, oldH, h)
		}
	case Scale:
		to.scale(oldW, oldH, w, h)
	case Reflow:
		to.reflow(oldW, w, h)
	}
	return &to
}

// keptMargins moves a span by the change of its label: what lies in the first third stays at the
// beginning, in the last at the end, between them in the middle; what takes most of the label, in
// both, and so changes its size.
func keptMargins(at, size, before, after measure.Length) (newAt, newSize measure.Length) {
	change := after - before
	const most = 0.6 // of the label
	switch middle := float64(at) + float64(size)/2; {
	case before <= 0:
		return at, size
	case float64(size) >= most*float64(before):
		return at, max(size+change, measure.Millimetre)
	case middle < float64(before)/3:
		return at, size
	case middle > 2*float64(before)/3:
		return at + change, size
	}
	return at + change/2, size
}

// scale grows or shrinks all by one factor and keeps it in the middle. Type goes by half points, and
// modules by micrometres: what they come to in dots is for the proof to say.
func (d *Design) scale(oldW, oldH, w, h measure.Length) {
	factor := min(float64(w)/float64(max(oldW, 1)), float64(h)/float64(max(oldH, 1)))
	by := func(l measure.Length) measure.Length { return measure.Length(math.Round(float64(l) * factor)) }
	points := func(p float64) float64 {
		if p == 0 {
			return 0
		}
		return max(math.Floor(p*factor*2)/2, 1)
	}
	left, top := (w-by(oldW))/2, (h-by(oldH))/2
	for i := range d.Elements {
		e := &d.Elements[i]
		e.X, e.Y, e.Width, e.Height = left+by(e.X), top+by(e.Y), max(by(e.Width), 1), max(by(e.Height), 1)
		if e.Weight > 0 {
			e.Weight = max(by(e.Weight), 1)
		}
		if e.Text != nil {
			e.Text.Points, e.Text.ShrinkTo = points(e.Text.Points), points(e.Text.ShrinkTo)
		}
		if e.Code != nil {
			e.Code.Module, e.Code.Points = max(by(e.Code.Module), 1), points(e.Code.Points)
		}
	}
}

// reflow takes the elements row by row, from top to bottom: a row is what stands beside one another.
// Each row is spread over the new width with its own shares, and the rows keep their heights and
// gaps where there is room for them, else all shrink alike.
func (d *Design) reflow(oldW, w, h measure.Length) {
	order := make([]int, len(d.Elements))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(d.Elements[a].Y, d.Elements[b].Y) })
	var rows [][]int
	bottom := measure.Length(0)
	for _, i := range order {
		e := &d.Elements[i]
		if len(rows) == 0 || e.Y >= bottom {
			rows, bottom = append(rows, nil), e.Y+e.Height
		}
		rows[len(rows)-1] = append(rows[len(rows)-1], i)
		bottom = max(bottom, e.Y+e.Height)
	}
	if len(rows) == 0 {
		return
	}
	across := float64(w) / float64(max(oldW, 1))
	last := measure.Length(0)
	for _, e := range d.Elements {
		last = max(last, e.Y+e.Height)
	}
	top := d.Elements[rows[0][0]].Y
	down := min(float64(h)/float64(max(last+max(top, 0), 1)), 1)
	for i := range d.Elements {
		e := &d.Elements[i]
		e.X, e.Width = measure.Length(float64(e.X)*across), max(measure.Length(float64(e.Width)*across), 1)
		e.Y, e.Height = measure.Length(float64(e.Y)*down), max(measure.Length(float64(e.Height)*down), 1)
		if e.Text != nil && down < 1 {
			e.Text.Points = max(math.Floor(e.Text.Points*down*2)/2, 1)
		}
	}
}
