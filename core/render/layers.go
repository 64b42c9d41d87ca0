package render

import (
	"slices"

	"oddspool/core/measure"
)

// Layers are the planes of one label or page, one an ink, all of one size. No dot has two inks:
// what is drawn later covers what was there.
type Layers []*Plane

// NewLayers returns so many empty planes.
func NewLayers(inks, width, height int) Layers {
	l := make(Layers, inks)
	for i := range l {
		l[i] = NewPlane(width, height)
	}
	return l
}

// Size returns width and height in dots.
func (l Layers) Size() (width, height int) { return l[0].Width, l[0].Height }

// Resize empties all planes and gives them another size.
func (l Layers) Resize(width, height int) {
	for _, p := range l {
		p.Resize(width, height)
	}
}

// SameRow tells whether two rows have the same dots.
func (l Layers) SameRow(a, b int) bool {
	for _, p := range l {
		if !slices.Equal(p.Row(a), p.Row(b)) {
			return false
		}
	}
	return true
}

// Draw draws the whole list over what the layers hold.
func (l Layers) Draw(list *List) {
	if len(l) == 1 {
		l[0].Draw(list)
		return
	}
	drawn := NewPlane(l[0].Width, l[0].Height)
	for i := range list.Items {
		item := &list.Items[i]
		if item.lines() {
			continue
		}
		drawn.Clear()
		drawn.DrawItem(list, item)
		for ink, p := range l {
			if ink == item.Ink {
				p.Or(drawn)
			} else {
				p.Without(drawn)
			}
		}
	}
}

// Place adds the dots of other layers of the same inks, with their top left corner at x, y.
func (l Layers) Place(other Layers, x, y int) {
	for i, p := range l {
		p.Place(other[i], x, y)
	}
}

// Cut returns a copy of the dots in a box.
func (l Layers) Cut(box Box) Layers { return l.each(func(p *Plane) *Plane { return p.Cut(box) }) }

// Turned returns the layers turned clockwise.
func (l Layers) Turned(t measure.Turn) Layers {
	if t == 0 {
		return l
	}
	return l.each(func(p *Plane) *Plane { return p.Turned(t) })
}

// Shifted returns the layers with all dots so much further right and down; what leaves them is lost.
func (l Layers) Shifted(dx, dy int) Layers {
	if dx == 0 && dy == 0 {
		return l
	}
	w, h := l.Size()
	return l.Cut(Box{-dx, -dy, w, h})
}

func (l Layers) each(do func(*Plane) *Plane) Layers {
	made := make(Layers, len(l))
	for i, p := range l {
		made[i] = do(p)
	}
	return made
}

// Flat returns the dots of some layers on one plane, which for a single layer is its own.
func (l Layers) Flat(some []bool) *Plane {
	if len(l) == 1 && some[0] {
		return l[0]
	}
	flat := NewPlane(l[0].Width, l[0].Height)
	for i, p := range l {
		if some[i] {
			flat.Or(p)
		}
	}
	return flat
}
