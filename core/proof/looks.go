package proof

import (
	"math"
	"slices"
	"strconv"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/render"
	"oddspool/core/safety/sign"
	"oddspool/core/stock"
)

// What an eye makes out: contrast ratios by WCAG 2.2, 1.4.3 and 1.4.11. Labels are read in poorer light than screens,
// so nothing below notSeen is printed and below hardlySeen it is said.
const (
	notSeen    = 1.25
	hardlySeen = 2
)

// contrast says so when an element's ink does not show on the face.
func (c *Checker) contrast(i int, element *design.Element, say sayer) {
	if element.Kind == design.Code || element.Kind == design.Symbol { // a scanner judges it, or its standard
		return
	}
	ink := c.composer.Ink(i)
	if ink == render.Bare {
		if !c.onGround(i) {
			say(baresBare)
		}
		return
	}
	if shape := element.Shape; shape != nil && shape.NoOutline && shape.Fill != "" { // its fill is all there is of it
		if c.isGround(i) {
			return
		}
		ink = c.composer.Filled(i)
	}
	palette := c.composer.Palette()
	ratio := contrast(palette.Face, palette.Inks[ink])
	if ratio >= hardlySeen || c.onGround(i) {
		return
	}
	name := c.composer.Inks()[ink]
	if ratio < notSeen {
		say(notShown, name, palette.Face)
		return
	}
	say(hardlyShown, name, palette.Face)
}

// isGround tells whether something stands on a filled element: then that is what is to be seen.
func (c *Checker) isGround(i int) bool {
	for j := i + 1; j < len(c.design.Elements); j++ {
		if c.composer.Box(i).Holds(c.composer.Box(j)) {
			return true
		}
	}
	return false
}

// onGround tells whether an element lies on a filled one of another ink, which it may stand out from.
func (c *Checker) onGround(i int) bool {
	for j := range i {
		holds := slices.Contains(c.design.Elements[j].Around, c.design.Elements[i].ID) ||
			c.composer.Box(j).Holds(c.composer.Box(i))
		if ink, filled := c.filled(j); filled && ink != c.composer.Ink(i) && holds {
			return true
		}
	}
	return false
}

// filled returns the ink that element i is filled with.
func (c *Checker) filled(i int) (ink int, filled bool) {
	switch element := &c.design.Elements[i]; {
	case element.Kind == design.Line:
		return c.composer.Ink(i), !askew(element)
	case element.Shape != nil && element.Shape.Tint > 0 && element.Shape.Tint < mostGround:
		return 0, false // words stand on it as on bare face
	case element.Shape != nil && element.Shape.Fill != "":
		return c.composer.Filled(i), true
	}
	return 0, false
}

// askew tells whether a line leaves most of its box free: it runs from corner to corner, or has a head.
func askew(element *design.Element) bool {
	return element.Shape != nil && (element.Shape.Slope != "" || element.Shape.Arrow != "")
}

// mostGround is the tint up to which dark words can be read on it.
const mostGround = 40

// leastSmall is how many dots small letters are tall at least, so that they are told apart: the 5 × 7 letters of dot
// matrix printers have five.
const leastSmall = 5

// smallType says so when letters have too few dots to be told apart.
func (c *Checker) smallType(i int, part *compose.Part, element *design.Element, say sayer) {
	if element.Kind != design.Text || part.Says == "" {
		return
	}
	if from := element.Text.ReadFrom; from > 0 {
		high := c.composer.Face(i).Capitals(part.PerEm) / c.design.Printer.Resolution.PerMillimetre()
		if wanted, err := sign.For(from, sign.Lit); err == nil && high < wanted.Letters-0.05 {
			say(smallCapitals, high, sign.LetterDistance(high, sign.Lit), from, wanted.Letters)
			return
		}
	}
	small := c.composer.Face(i).Small(part.PerEm)
	if small >= leastSmall-0.5 {
		return
	}
	say(smallLetters, small, c.design.Printer.Resolution)
}

// tint says so when the dots of a tint stand alone, or the gaps in it do: they come and go with heat and ribbon.
func (c *Checker) tint(element *design.Element, say sayer) {
	shape := element.Shape
	if shape == nil || shape.Fill == "" || shape.Tint == 0 || shape.Tint == 100 {
		return
	}
	if least := 15; shape.Tint < least || shape.Tint > 100-least {
		say(weakTint, shape.Tint)
	}
}

// contrast returns the contrast ratio of two colours #RRGGBB (WCAG 2.2, contrast ratio and relative luminance).
func contrast(a, b string) float64 {
	x, y := luminance(a), luminance(b)
	return (max(x, y) + 0.05) / (min(x, y) + 0.05)
}

func luminance(colour string) float64 {
	linear := func(from int) float64 {
		n, _ := strconv.ParseUint(colour[from:from+2], 16, 8) // checked where colours come in
		v := float64(n) / 255
		if v <= 0.04045 {
			return v / 12.92
		}
		return math.Pow((v+0.055)/1.055, 2.4)
	}
	return 0.2126*linear(1) + 0.7152*linear(3) + 0.0722*linear(5)
}

// outline says so when dots of an element lie outside the outline that a piece is cut to: a circle, an ellipse, or
// rounded corners.
func (c *Checker) outline(box render.Box, element *design.Element, say sayer) bool {
	s := &c.design.Stock
	if s.Shape == stock.Rectangle || s.Shape == "" || !s.Outlined() {
		return false
	}
	w, h := c.layers.Size()
	shape := cut{w: float64(w), h: float64(h)}
	switch s.Shape {
	case stock.Rounded:
		shape.rx = float64(c.design.Printer.Resolution.Dots(s.CornerRadius))
		shape.ry = shape.rx
	default:
		shape.rx, shape.ry = shape.w/2, shape.h/2
	}
	times, stepX, stepY := c.composer.Copies()
	for n := range times {
		at := c.press.OnWeb(render.Box{X: box.X + n*stepX, Y: box.Y + n*stepY, W: box.W, H: box.H})
		if shape.holds(at.X+c.shiftX, at.Y+c.shiftY) && shape.holds(at.X+at.W-1+c.shiftX, at.Y+c.shiftY) &&
			shape.holds(at.X+c.shiftX, at.Y+at.H-1+c.shiftY) &&
			shape.holds(at.X+at.W-1+c.shiftX, at.Y+at.H-1+c.shiftY) {
			continue
		}
		for _, plane := range c.layers {
			for y := max(at.Y, 0); y < min(at.Y+at.H, h); y++ {
				for x := max(at.X, 0); x < min(at.X+at.W, w); x++ {
					if !shape.holds(x+c.shiftX, y+c.shiftY) && plane.Set(x, y) {
						rule := cutByDie
						if element.Kind != design.Text && element.Kind != design.Code { // it may be meant to run out
							rule = meetsDie
						}
						say(rule)
						return true
					}
				}
			}
		}
	}
	return false
}

// A cut is the outline of a piece whose corners are quarters of ellipses, in dots.
type cut struct{ w, h, rx, ry float64 }

// holds tells whether a dot lies on the piece, by its middle.
func (s cut) holds(x, y int) bool {
	px, py := float64(x)+0.5, float64(y)+0.5
	if px < 0 || py < 0 || px > s.w || py > s.h {
		return false
	}
	dx, dy := max(s.rx-px, px-(s.w-s.rx), 0), max(s.ry-py, py-(s.h-s.ry), 0)
	if dx == 0 || dy == 0 {
		return true
	}
	dx, dy = dx/s.rx, dy/s.ry
	return dx*dx+dy*dy <= 1
}

// moved says so when the offsets of the set-up push something over the edge of the label.
func (c *Checker) moved(box render.Box, rule *Rule, say sayer) bool {
	if c.shiftX == 0 && c.shiftY == 0 {
		return false
	}
	w, h := c.layers.Size()
	times, stepX, stepY := c.composer.Copies()
	for n := range times {
		at := c.press.OnWeb(render.Box{X: box.X + n*stepX, Y: box.Y + n*stepY, W: box.W, H: box.H})
		x, y := at.X+c.shiftX, at.Y+c.shiftY
		if over := max(-x, -y, x+at.W-w, y+at.H-h); over > 0 {
			say(rule, c.tenths(over))
			return true
		}
	}
	return false
}

// overlaps returns the pairs of elements whose boxes meet and which should not lie over each other: a text with a text,
// a line or the stroke of a frame. Codes find by themselves what stands in them.
func overlaps(d *design.Design, c *compose.Composer) (pairs [][2]int) {
	for i := range d.Elements {
		for j := range i {
			a, b := &d.Elements[i], &d.Elements[j]
			if a.Kind != design.Text && b.Kind != design.Text || a.Kind == design.Code || b.Kind == design.Code {
				continue
			}
			if slices.Contains(a.Around, b.ID) || slices.Contains(b.Around, a.ID) {
				continue // a frame keeps its distance
			}
			if a.Around != nil || b.Around != nil || !c.Box(i).And(c.Box(j)).Empty() {
				pairs = append(pairs, [2]int{j, i})
			}
		}
	}
	return pairs
}

// over says so when a text lies over another element.
func (c *Checker) over(findings []Finding, number int, label *compose.Label) []Finding {
	for _, pair := range c.pairs {
		first, second := &label.Parts[pair[0]], &label.Parts[pair[1]]
		if ink, filled := c.filled(pair[0]); filled && ink != c.composer.Ink(pair[1]) {
			continue // words on a coloured ground
		}
		if !c.meet(pair[0], first, pair[1], second) {
			continue
		}
		findings = append(findings, overlap.found(number, c.design.Elements[pair[1]].ID,
			c.design.Elements[pair[0]].ID))
	}
	return findings
}

// meet tells whether dots of two elements may lie on one another.
func (c *Checker) meet(i int, a *compose.Part, j int, b *compose.Part) bool {
	for _, x := range c.inked(i, a) {
		for _, y := range c.inked(j, b) {
			if shared := x.And(y); !shared.Empty() && shared.W > 1 && shared.H > 1 {
				return true
			}
		}
	}
	return false
}

// inked returns where an element has ink, by and large: of a text what lies between its outer lines' white above and
// below, of a frame its strokes.
func (c *Checker) inked(i int, part *compose.Part) []render.Box {
	element := &c.design.Elements[i]
	if part.Absent {
		return nil
	}
	switch element.Kind {
	case design.Tag:
		return nil
	case design.Oval:
		if _, filled := c.filled(i); filled {
			return []render.Box{part.Box}
		}
		return nil // words may stand within
	case design.Box:
		if _, filled := c.filled(i); filled {
			return []render.Box{part.Box}
		}
		if element.Shape != nil && element.Shape.NoOutline {
			return nil
		}
		b := part.Box
		w := max(c.design.Printer.Resolution.Dots(element.Weight), 1)
		return []render.Box{{X: b.X, Y: b.Y, W: b.W, H: w}, {X: b.X, Y: b.Y + b.H - w, W: b.W, H: w},
			{X: b.X, Y: b.Y, W: w, H: b.H}, {X: b.X + b.W - w, Y: b.Y, W: w, H: b.H}}
	case design.Line:
		if askew(element) {
			return nil
		}
		return []render.Box{c.composer.Box(i)}
	}
	if part.Says == "" {
		return nil
	}
	real := part.Real.And(part.Box)
	white := part.PerEm / 64 / 4 // a line has some quarter of its size above and below its letters
	if part.Turn.Sideways() {
		real.X, real.W = real.X+white, real.W-2*white
	} else {
		real.Y, real.H = real.Y+white, real.H-2*white
	}
	return []render.Box{real}
}

// blank tells whether nothing is on the label last drawn.
func (c *Checker) blank() bool {
	for _, plane := range c.layers {
		if !plane.Blank(render.Box{W: plane.Width, H: plane.Height}) {
			return false
		}
	}
	return true
}
