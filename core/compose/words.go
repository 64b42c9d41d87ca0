package compose

import (
	"strings"

	"oddspool/core/design"
	"oddspool/core/render"
	"oddspool/core/typeset"
)

// shrinkStep is how much smaller each try is: half a point is what people set type in.
const shrinkStep = 0.5

// words sets a text in its upright frame, cut off at its box where it is too long.
func (c *Composer) words(l *Label, i int) {
	looks, e, part := c.design.Elements[i].Text, &c.elements[i], &l.Parts[i]
	style := typeset.Style{Face: e.face, Spacing: looks.Spacing, Tracking: looks.Tracking}
	if e.faces != nil {
		style.Spans = c.spans
	}
	if looks.Wrap {
		style.Width, style.Justify = e.boxWidth, looks.Align == design.Justified
	}
	perEm, points := c.grid.PerEm(looks.Points), looks.Points
	if looks.Capitals > 0 {
		perEm = e.face.PerEm(max(c.grid.Dots(looks.Capitals), 1))
		points = float64(perEm) / float64(c.grid.PerEm(1000)) * 1000
	}
	words := 0 // dots that the words take in one row, without spaces, at perEm; 0: not yet known
	for first := perEm; ; perEm = c.grid.PerEm(points) {
		style.PerEm = perEm
		if words > 0 && points > looks.ShrinkTo && c.hopeless(words*perEm/first, style, e) {
			points = max(points-shrinkStep, looks.ShrinkTo)
			continue
		}
		c.block.Set(part.Says, style)
		fits := (c.block.Width <= e.boxWidth || e.grows) && c.block.Height <= e.boxTall
		if fits || looks.Stretch || looks.ShrinkTo <= 0 || points <= looks.ShrinkTo {
			break
		}
		points = max(points-shrinkStep, looks.ShrinkTo)
		if words == 0 && looks.Wrap {
			row := style
			row.Width, row.Spans = 0, nil
			c.readable.Set(strings.Join(strings.Fields(part.Says), ""), row)
			words = max(c.readable.Width, 1)
		}
	}
	part.PerEm, part.Lines = style.PerEm, len(c.block.Lines)
	part.Missing = append(part.Missing, c.block.Missing...)
	if looks.Stretch {
		c.stretched(l, i)
		return
	}
	part.TooWide, part.TooTall = max(c.block.Width-e.boxWidth, 0), max(c.block.Height-e.boxTall, 0)
	if e.grows {
		part.TooWide = 0
	}
	y := offset(looks.Stand == design.Middle, looks.Stand == design.Bottom, e.boxTall-c.block.Height)
	if c.design.Elements[i].Angle != 0 {
		c.atAngle(l, i, y)
		return
	}
	left := e.boxWidth
	for _, line := range c.block.Lines {
		x := startOf(looks, e.boxWidth-line.Width)
		left = min(left, x)
		l.List.Words(i, x, y, style.PerEm, clipFor(part, e), c.block.Glyphs[line.From:line.To])
		if part.Turn == 0 && line.To > line.From {
			part.Baselines = append(part.Baselines, e.box.Y+y+int(c.block.Glyphs[line.From].Y))
		}
	}
	part.Real = render.Box{X: left, Y: y, W: c.block.Width, H: c.block.Height}
}

// hopeless tells whether words cannot fit their box in a size, however they break: so much of them does not go in. A
// twentieth is left for rounding.
func (c *Composer) hopeless(words int, style typeset.Style, e *element) bool {
	lines := words / max(e.boxWidth, 1)
	return lines > 1 && lines*style.Pitch()*19/20 > e.boxTall
}

// startOf returns where a line begins that leaves so much room.
func startOf(looks *design.TextLooks, room int) int {
	return offset(looks.Align == design.Centre, looks.Align == design.Right, room)
}

// clipFor cuts words off at their box only along the side on which they are too long: letters may
// reach a dot over a box that they fit.
func clipFor(part *Part, e *element) render.Box {
	if part.TooWide == 0 && part.TooTall == 0 {
		return render.Box{}
	}
	const far = 1 << 20
	clip := render.Box{X: -far, Y: -far, W: 2 * far, H: 2 * far}
	if part.TooWide > 0 {
		clip.X, clip.W = 0, e.boxWidth
	}
	if part.TooTall > 0 {
		clip.Y, clip.H = 0, e.boxTall
	}
	return clip
}

// offset shares out room: none before, half, or all of it. What is too long always begins at the
// beginning, so that its start can be read.
func offset(middle, end bool, room int) int {
	switch {
	case room <= 0:
		return 0
	case middle:
		return room / 2
	case end:
		return room
	}
	return 0
}
