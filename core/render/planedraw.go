package render

import (
	"oddspool/core/typeset"
)

// Bayer is the ordered pattern of eight by eight thresholds (B. E. Bayer, 1973).
var Bayer = [8][8]int{
	{0, 32, 8, 40, 2, 34, 10, 42}, {48, 16, 56, 24, 50, 18, 58, 26}, {12, 44, 4, 36, 14, 46, 6, 38},
	{60, 28, 52, 20, 62, 30, 54, 22},
	{3, 35, 11, 43, 1, 33, 9, 41}, {51, 19, 59, 27, 49, 17, 57, 25}, {15, 47, 7, 39, 13, 45, 5, 37},
	{63, 31, 55, 23, 61, 29, 53, 21},
}

// InTint tells whether a dot is set in a tint of so many per cent.
func InTint(x, y, perCent int) bool { return (2*Bayer[y%8][x%8]+1)*100 < perCent*128 }

// Draw draws the whole list over what the plane holds.
func (p *Plane) Draw(l *List) {
	var bare *Plane
	for i := range l.Items {
		item := &l.Items[i]
		if item.lines() {
			continue
		}
		if item.Ink != Bare {
			p.DrawItem(l, item)
			continue
		}
		if bare == nil {
			bare = NewPlane(p.Width, p.Height)
		}
		bare.Clear()
		bare.DrawItem(l, item)
		p.Without(bare)
	}
}

// DrawItem draws one item of a list.
func (p *Plane) DrawItem(l *List, item *Item) {
	switch item.Op {
	case Fill:
		p.fill(item.Box)
	case Bars:
		if item.Turn.Sideways() {
			l.runs(item, p.fill)
			return
		}
		p.bars(l, item)
	case Path:
		p.path(l, item)
	case Dots:
		l.eachRun(item, p.fill)
	case Words:
		clip := item.Clip
		if clip == (Box{}) {
			clip = p.all()
		}
		clip = clip.And(p.all())
		l.placed(item, func(g typeset.Glyph, x, y int) {
			p.mask(g.Face.Mask(g.ID, item.PerEm, item.Turn), x, y, clip)
		})
	}
}

func (p *Plane) all() Box { return Box{0, 0, p.Width, p.Height} }

// fill sets a box of dots, as far as it lies on the plane.
func (p *Plane) fill(box Box) {
	if box = box.And(p.all()); box.Empty() {
		return
	}
	for y := box.Y; y < box.Y+box.H; y++ {
		fillRow(p.Row(y), box.X, box.X+box.W)
	}
}

// bars draws upright bars: one row bar by bar, and that row again and again.
func (p *Plane) bars(l *List, item *Item) {
	box := item.Box.And(p.all())
	if box.Empty() {
		return
	}
	p.row = append(p.row[:0], make([]uint64, p.Stride)...)
	l.runs(item, func(bar Box) {
		if bar = bar.And(box); !bar.Empty() {
			fillRow(p.row, bar.X, bar.X+bar.W)
		}
	})
	first, last := box.X/64, (box.X+box.W-1)/64
	row := p.row[first : last+1]
	for y := box.Y; y < box.Y+box.H; y++ {
		out := p.Row(y)[first:][:len(row)]
		for i, word := range row {
			out[i] |= word
		}
	}
}
