package proof

import (
	"oddspool/core/design"
)

// What a picture must keep: below half the printer's own dots its edges show as steps; with nearly all dots set, or
// none, nothing of it is left to be seen.
const (
	leastShare = 0.5
	mostDark   = 0.93
	leastDark  = 0.004
)

// picture says so when a picture is blown up, or turns into a blob.
func (c *Checker) picture(i int, element *design.Element, say sayer) {
	if element.Kind != design.Picture {
		return
	}
	p, dots := c.composer.Picture(i)
	if share := min(float64(p.Width)/float64(dots.Width), float64(p.Height)/float64(dots.Height)); share < leastShare &&
		!p.Drawn() {
		perMM := c.design.Printer.Resolution.PerMillimetre() * share
		say(jagged, perMM, c.design.Printer.Resolution)
	}
	dark := 0
	for y := range dots.Height {
		dots.EachDot(y, func(int) { dark++ })
	}
	switch share := float64(dark) / float64(dots.Width*dots.Height); {
	case share > mostDark:
		say(blackBlob)
	case share < leastDark:
		say(bareBlob)
	}
}
