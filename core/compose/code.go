package compose

import (
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/symbology"
	"oddspool/core/typeset"
)

// readableGap is the distance between bars and readable text: half a millimetre.
const readableGap = 500 * measure.Micrometre

// guardModules is how much further down the guard bars of EAN and UPC reach than the others (GS1
// General Specifications, 5.2.3.4).
const guardModules = 5

// code sets a code in its upright frame: a header, quiet zone, bars, quiet zone, what they say below
// or above, and a footer. A code that is too wide is drawn whole, over its box: cut bars say nothing.
func (c *Composer) code(l *Label, i int, record []string) {
	looks, e, part := c.design.Elements[i].Code, &c.elements[i], &l.Parts[i]
	id := symbology.ID(looks.Symbology)
	part.ID, part.Options = id, looks.Options
	if part.CodeError = part.Symbol.Encode(id, part.Says, part.Options); part.CodeError != nil {
		part.Real = render.Box{W: e.boxWidth, H: e.boxTall}
		return
	}
	symbol := &part.Symbol
	above, below := c.besideCode(part, looks, e, record)
	line := 0
	if len(above)+len(below) > 0 {
		c.readable.Set("0", c.readableStyle(looks, e))
		line = c.readable.Height
	}
	tallAbove, tallBelow := c.tall(len(above), line), c.tall(len(below), line)
	room := e.boxTall - tallAbove - tallBelow
	part.Module = c.module(looks, symbol, e.boxWidth, room)
	part.Narrower = looks.Narrower
	total, tall := symbol.DotsWithQuiet(part.Module)
	wide := symbol.DotsWide(part.Module)
	if !e.grows {
		part.TooWide = max(total-e.boxWidth, 0)
	}
	x := offset(looks.Align == design.Centre, looks.Align == design.Right, e.boxWidth-total)
	if symbol.Is2D() {
		part.TooTall = max(tall-max(room, 0), 0)
		part.Quiet = render.Box{X: x, Y: tallAbove, W: total, H: tall}
		quiet := symbol.QuietAbove * part.Module
		part.Bars = render.Box{X: x + symbol.QuietBefore*part.Module, Y: tallAbove + quiet, W: wide, H: tall - 2*quiet}
		c.matrix(l, i, part)
	} else {
		part.TooTall = max(1-room, 0)
		tall = max(room, 1)
		part.Quiet = render.Box{X: x, Y: tallAbove, W: total, H: tall}
		part.Bars = render.Box{X: x + symbol.QuietBefore*part.Module, Y: tallAbove, W: wide, H: tall}
		c.bars(l, i, part)
	}
	part.Real = render.Box{X: x, W: total, H: max(e.boxTall, tall)}
	for n, words := range above {
		c.line(l, i, words, n*line)
	}
	for n, words := range below {
		if words.parts {
			c.partsBelow(l, i, part, looks, e)
			continue
		}
		c.line(l, i, words, tallAbove+tall+tallBelow-(len(below)-n)*line)
	}
}

// beside is a line of words above or below a code.
type beside struct {
	text   string
	parts  bool // it is the readable text, in parts where the standard has them
	spread bool // over the width of the bars
}

// besideCode returns the lines above a code and below it, from top to bottom.
func (c *Composer) besideCode(part *Part, looks *design.CodeLooks, e *element, record []string) (above,
	below []beside) {
	if text := c.joined(part, e.header, record); text != "" {
		above = append(above, beside{text: text})
	}
	if text := part.Symbol.Text; looks.Readable != design.None && text != "" {
		words := beside{text: strings.ReplaceAll(text, "\n", " "), spread: looks.Spread,
			parts: len(part.Symbol.Parts) > 0 && looks.Readable == design.Below}
		if looks.Readable == design.Above {
			above = append(above, words)
		} else {
			below = append(below, words)
		}
	}
	if text := c.joined(part, e.footer, record); text != "" {
		below = append(below, beside{text: text})
	}
	return above, below
}

// joined returns a header, footer or add-on. It may be empty where its fields are: the code is what counts.
func (c *Composer) joined(part *Part, pieces []piece, record []string) string {
	if len(pieces) == 0 {
		return ""
	}
	blank := part.Blank
	fields, filled := c.join(part, pieces, record, false)
	part.Blank = blank
	if fields > 0 && filled == 0 {
		return ""
	}
	return string(c.text)
}

// tall returns the room of so many lines and their distance from the bars.
func (c *Composer) tall(lines, line int) int {
	if lines == 0 {
		return 0
	}
	return lines*line + c.grid.Dots(readableGap)
}

// line sets a line of words in the middle of the bars, or each letter in the middle of its share of
// them.
func (c *Composer) line(l *Label, i int, words beside, y int) {
	looks, e, part := c.design.Elements[i].Code, &c.elements[i], &l.Parts[i]
	style := c.readableStyle(looks, e)
	letters := []string{words.text}
	if words.spread {
		letters = strings.Split(words.text, "")
	}
	for n, letter := range letters {
		c.readable.Set(letter, style)
		part.Missing = append(part.Missing, c.readable.Missing...)
		from, to := part.Bars.W*n/len(letters), part.Bars.W*(n+1)/len(letters)
		x := part.Bars.X + (from+to-c.readable.Width)/2
		if over := c.readable.Width - e.boxWidth; over > 0 && !e.grows {
			part.LineOver = max(part.LineOver, over)
		} else if !words.spread { // longer than the bars, but within the box
			x = max(min(x, e.boxWidth-c.readable.Width), 0)
		}
		l.List.Words(i, x, y, style.PerEm, render.Box{}, c.readable.Glyphs)
	}
}

// module returns the dots of a module: the wanted width to the nearest dot, or no narrower, or as
// wide as the box allows.
func (c *Composer) module(looks *design.CodeLooks, symbol *symbology.Symbol, boxWidth, room int) int {
	fits := func(module int) bool {
		wide, tall := symbol.DotsWithQuiet(module)
		return wide <= boxWidth && tall <= room
	}
	switch nearest := max(c.grid.Dots(looks.Module), 1); looks.Fit {
	case design.NotSmaller:
		return symbology.DotsNotLess(looks.Module, c.grid)
	case design.Largest:
		module := 1
		for fits(module + 1) {
			module++
		}
		return module
	default:
		return nearest
	}
}

func (c *Composer) readableStyle(looks *design.CodeLooks, e *element) typeset.Style {
	points := looks.Points
	if points == 0 {
		points = design.DefaultReadablePoints
	}
	return typeset.Style{Face: e.face, PerEm: c.grid.PerEm(points)}
}

// bars draws a linear code, and the bearer bars of ITF-14: two modules above and below, that keep a
// scanner from reading across the end of the bars (GS1 General Specifications, 5.3.2.4).
func (c *Composer) bars(l *Label, i int, part *Part) {
	if symbology.Of(part.ID).Bearer && part.Bars.H > 8*part.Module {
		bearer := 2 * part.Module
		for _, y := range []int{part.Bars.Y, part.Bars.Y + part.Bars.H - bearer} {
			l.List.Fill(i, render.Box{X: part.Quiet.X, Y: y, W: part.Quiet.W, H: bearer})
		}
		part.Bars.Y, part.Bars.H = part.Bars.Y+bearer, part.Bars.H-2*bearer
		part.Quiet.Y, part.Quiet.H = part.Bars.Y, part.Bars.H
	}
	c.dots = part.Symbol.AppendDots(c.dots[:0], part.Module, part.Narrower)
	l.List.Bars(i, part.Bars, c.dots)
}

// matrix draws a 2D code row by row.
func (c *Composer) matrix(l *Label, i int, part *Part) {
	m := &part.Symbol.Matrix
	tall := max(part.Symbol.RowHeight, 1) * part.Module
	c.dots = slices.Grow(c.dots[:0], m.Width+1)
	for y := range m.Height {
		c.dots = c.dots[:m.Width+1]
		clear(c.dots)
		run, dark := 0, true
		for x := range m.Width {
			now, turns := m.At(x, y), 0 // counted without a branch: what is dark cannot be guessed
			if now != dark {
				turns = 1
			}
			run, dark = run+turns, now
			c.dots[run] += uint16(part.Module)
		}
		c.dots = c.dots[:run+1]
		l.List.Bars(i, render.Box{X: part.Bars.X, Y: part.Bars.Y + y*tall, W: part.Bars.W, H: tall}, c.dots)
	}
}

// partsBelow sets the parts of a readable text where the standard has them, and draws the guard bars
// down between them.
func (c *Composer) partsBelow(l *Label, i int, part *Part, looks *design.CodeLooks, e *element) {
	symbol, style := &part.Symbol, c.readableStyle(looks, e)
	y := part.Bars.Y + part.Bars.H + max(part.Module/2, 1)
	for _, words := range symbol.Parts {
		c.readable.Set(words.Text, style)
		from, room := words.From*part.Module, (words.To-words.From)*part.Module
		l.List.Words(i, part.Bars.X+from+(room-c.readable.Width)/2, y, style.PerEm, render.Box{}, c.readable.Glyphs)
	}
	long := map[int]bool{}
	for _, n := range symbol.Long {
		long[n] = true
	}
	c.dots = symbol.AppendDots(c.dots[:0], part.Module, part.Narrower)
	guards := make([]uint16, 1, len(c.dots))
	for n, width := range c.dots {
		bar := n%2 == 0 && long[n]
		if inBar := len(guards)%2 == 1; bar != inBar {
			guards = append(guards, 0)
		}
		guards[len(guards)-1] += width
	}
	l.List.Bars(i, render.Box{X: part.Bars.X, Y: part.Bars.Y + part.Bars.H, W: part.Bars.W,
		H: guardModules * part.Module}, guards)
}
