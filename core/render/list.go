// Package render turns a label into dots. A List holds everything on one label in whole dots, in
// layout order; from that one list come the packed planes that are printed, the PNG that is seen,
// and the SVG and PDF that go to others. Bars are runs of dots, never scaled pictures.
//
//	List ──► Plane    one ink: rows of 64-bit words, the leftmost dot is the highest bit
//	  │        │        bars     one row is made, then copied down
//	  │        │        words    masks of glyphs, shifted into place word by word
//	  │        │        shapes   runs of dots from the edges of paths
//	  │        └────► PNG, PWG raster
//	  └─────────────► SVG, PDF   the same items as vectors, to the same grid
//
// Layers are planes of one size, one an ink. A later item takes the dots under it away
// from all other layers, so that inks never mix by accident.
package render

import (
	"oddspool/core/measure"
	"oddspool/core/typeset"
)

// A Box is a rectangle of dots.
type Box struct{ X, Y, W, H int }

// Empty tells whether the box holds no dot.
func (b Box) Empty() bool { return b.W <= 0 || b.H <= 0 }

// And returns the part that two boxes share.
func (b Box) And(c Box) Box {
	x, y := max(b.X, c.X), max(b.Y, c.Y)
	return Box{x, y, min(b.X+b.W, c.X+c.W) - x, min(b.Y+b.H, c.Y+c.H) - y}
}

// With returns the smallest box that holds both; one that is empty adds nothing.
func (b Box) With(c Box) Box {
	switch {
	case b.Empty():
		return c
	case c.Empty():
		return b
	}
	x, y := min(b.X, c.X), min(b.Y, c.Y)
	return Box{x, y, max(b.X+b.W, c.X+c.W) - x, max(b.Y+b.H, c.Y+c.H) - y}
}

// Holds tells whether c lies wholly in b.
func (b Box) Holds(c Box) bool {
	return c.X >= b.X && c.Y >= b.Y && c.X+c.W <= b.X+b.W && c.Y+c.H <= b.Y+b.H
}

// Turned returns where the box lies when the frame around it, of w × h dots, is turned.
func (b Box) Turned(t measure.Turn, w, h int) Box {
	x, y, bw, bh := t.Box(b.X, b.Y, b.W, b.H, w, h)
	return Box{x, y, bw, bh}
}

// An Op is what an Item draws.
type Op uint8

// The operations.
const (
	Fill  Op = iota // the box, filled
	Bars            // a linear code: bars across the box, which its widths fill exactly
	Words           // glyphs, from an origin
	Path            // an outline, filled, in the box as its frame
	Dots            // dots as they are, which fill the box
)

// Bare is the ink of items that lay the face bare: they take away what lies under them.
const Bare = -1

// An Item is one thing to draw. Which members count depends on Op.
type Item struct {
	Op      Op
	Element int // index of the element it belongs to
	Ink     int // index of the layer it is printed in, or Bare
	Box     Box // Fill, Bars: the dots taken; Words: X and Y are the origin
	Turn    measure.Turn
	Clip    Box // Words: nothing is drawn outside; the zero Box: the whole label
	PerEm   int // Words: size of type

	from, to int    // in the list's glyphs, widths or pens
	dots     *Plane // Dots: before its turn
	outlines []Outline
	outlined bool // Dots: where outlines can stay outlines, these are drawn in the dots' place
}

// An Outline is filled by the nonzero rule in an ink: the index of a layer, Bare for the face, or OfItem.
type Outline struct {
	Pens []Pen
	Ink  int
}

// OfItem is the ink of outlines that are printed in that of their item.
const OfItem = -2

func (item *Item) inkOf(o *Outline) int {
	if o.Ink == OfItem {
		return item.Ink
	}
	return o.Ink
}

// A List is everything on one label. The zero value with a size is ready; Reset keeps its memory.
type List struct {
	Width, Height int
	Items         []Item

	glyphs []typeset.Glyph
	widths []uint16
	pens   []Pen
}

// Reset empties the list for a label of w × h dots.
func (l *List) Reset(w, h int) {
	l.Width, l.Height = w, h
	l.Items, l.glyphs, l.widths, l.pens = l.Items[:0], l.glyphs[:0], l.widths[:0], l.pens[:0]
}

// Fill adds a filled box.
func (l *List) Fill(element int, box Box) {
	l.Items = append(l.Items, Item{Op: Fill, Element: element, Box: box})
}

// Bars adds a linear code, or a row of a 2D one. Its widths, in dots, begin with a bar, which may have
// none; the box must be as long as they are together, along the reading direction.
func (l *List) Bars(element int, box Box, widths []uint16) {
	from := len(l.widths)
	l.widths = append(l.widths, widths...)
	l.Items = append(l.Items, Item{Op: Bars, Element: element, Box: box, from: from, to: len(l.widths)})
}

// Words adds glyphs whose positions are relative to x, y.
func (l *List) Words(element, x, y, perEm int, clip Box, glyphs []typeset.Glyph) {
	from := len(l.glyphs)
	l.glyphs = append(l.glyphs, glyphs...)
	l.Items = append(l.Items, Item{Op: Words, Element: element, Box: Box{X: x, Y: y}, PerEm: perEm, Clip: clip,
		from: from, to: len(l.glyphs)})
}

// Dots adds dots with their top left corner at the box's; it is as large as they are.
func (l *List) Dots(element int, box Box, dots *Plane) {
	l.Items = append(l.Items, Item{Op: Dots, Element: element, Box: box, dots: dots})
}

// Drawn adds dots as Dots does, and what they were drawn from: in PDF and SVG that is drawn in the place of the dots,
// as far as it lies in the box, which is the frame of its pens. Without outlines there is nothing in those, and without
// dots nothing in all others.
func (l *List) Drawn(element int, box Box, dots *Plane, outlines []Outline) {
	l.Items = append(l.Items, Item{Op: Dots, Element: element, Box: box, dots: dots, outlines: outlines,
		outlined: true})
}

// lines tells whether an item is there for those alone in which lines stay lines.
func (item *Item) lines() bool { return item.Op == Dots && item.dots == nil }

// eachRun calls do with every run of dots of a Dots item where it lies on the label.
func (l *List) eachRun(item *Item, do func(run Box)) {
	if item.lines() {
		return
	}
	turned := item.dots.Turned(item.Turn)
	for y := range turned.Height {
		from, last := -1, -2
		turned.EachDot(y, func(x int) {
			if x != last+1 {
				if from >= 0 {
					do(Box{item.Box.X + from, item.Box.Y + y, last + 1 - from, 1})
				}
				from = x
			}
			last = x
		})
		if from >= 0 {
			do(Box{item.Box.X + from, item.Box.Y + y, last + 1 - from, 1})
		}
	}
}

// Append adds the items of another list where they are.
func (l *List) Append(other *List) {
	for _, item := range other.Items {
		from := item.from
		switch item.Op {
		case Bars:
			item.from = len(l.widths)
			l.widths = append(l.widths, other.widths[from:item.to]...)
		case Path:
			item.from = len(l.pens)
			l.pens = append(l.pens, other.pens[from:item.to]...)
		case Words:
			item.from = len(l.glyphs)
			l.glyphs = append(l.glyphs, other.glyphs[from:item.to]...)
		}
		item.to += item.from - from
		l.Items = append(l.Items, item)
	}
}

// Place turns the items from index i on, which were laid out in a frame of w × h dots at the
// origin, and moves that frame to x, y on the label.
func (l *List) Place(i, x, y int, t measure.Turn, w, h int) {
	for ; i < len(l.Items); i++ {
		item := &l.Items[i]
		item.Box = item.Box.Turned(t, w, h)
		item.Box.X, item.Box.Y = item.Box.X+x, item.Box.Y+y
		if item.Clip != (Box{}) {
			item.Clip = item.Clip.Turned(t, w, h)
			item.Clip.X, item.Clip.Y = item.Clip.X+x, item.Clip.Y+y
		}
		item.Turn = item.Turn.Plus(t)
	}
}

// Add adds the items of a smaller list with its top left corner at x, y.
func (l *List) Add(other *List, x, y int) {
	first := len(l.Items)
	l.Append(other)
	l.Place(first, x, y, 0, other.Width, other.Height)
}

// Repeat adds all items again, times in all, each dx and dy dots on.
func (l *List) Repeat(times, dx, dy int) {
	items := l.Items
	for i := 1; i < times; i++ {
		for _, item := range items {
			item.Box.X, item.Box.Y = item.Box.X+i*dx, item.Box.Y+i*dy
			if item.Clip != (Box{}) {
				item.Clip.X, item.Clip.Y = item.Clip.X+i*dx, item.Clip.Y+i*dy
			}
			l.Items = append(l.Items, item)
		}
	}
}

// Turn turns the whole label.
func (l *List) Turn(t measure.Turn) {
	l.Place(0, 0, 0, t, l.Width, l.Height)
	l.Width, l.Height = t.Size(l.Width, l.Height)
}

// placed calls draw for each glyph of a Words item with its origin on the label.
func (l *List) placed(item *Item, draw func(g typeset.Glyph, x, y int)) {
	for _, g := range l.glyphs[item.from:item.to] {
		dx, dy := int(g.X), int(g.Y)
		switch item.Turn {
		case 90:
			dx, dy = -dy, dx
		case 180:
			dx, dy = -dx, -dy
		case 270:
			dx, dy = dy, -dx
		}
		draw(g, item.Box.X+dx, item.Box.Y+dy)
	}
}

// runs calls draw for each bar of a Bars item with the dots it fills.
func (l *List) runs(item *Item, draw func(bar Box)) {
	at := 0
	for i, width := range l.widths[item.from:item.to] {
		dots := int(width)
		if i%2 == 0 && dots > 0 {
			bar := item.Box
			switch item.Turn {
			case 90:
				bar.Y, bar.H = bar.Y+at, dots
			case 180:
				bar.X, bar.W = bar.X+bar.W-at-dots, dots
			case 270:
				bar.Y, bar.H = bar.Y+bar.H-at-dots, dots
			default:
				bar.X, bar.W = bar.X+at, dots
			}
			draw(bar)
		}
		at += dots
	}
}
