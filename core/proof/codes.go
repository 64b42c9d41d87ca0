package proof

import (
	"fmt"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/core/symbology"
)

func (c *Checker) code(part *compose.Part, i int, seen *render.Plane, say sayer) {
	element := &c.design.Elements[i]
	switch ink := c.composer.Ink(i); {
	case c.dark[ink]:
	case c.light[ink] && symbology.Of(part.ID).Reversed:
		seen = c.layers.Flat(c.light)
	default:
		say(notScanned, c.composer.Inks()[ink])
		return
	}
	if part.TooTall > 0 {
		if !part.Symbol.Is2D() {
			say(noRoomForBars)
			return
		}
		say(codeTooTall, c.tenths(part.TooTall))
	}
	if !c.frame.Holds(part.Bars) {
		return // said already, and nothing could read it
	}
	if !c.frame.Holds(part.Quiet) {
		say(quietOverEdge, part.Symbol.QuietBefore, c.tenths(part.Symbol.QuietBefore*part.Module))
	} else if !c.quiet(part, seen) {
		say(quietTaken, part.Symbol.QuietBefore, c.tenths(part.Symbol.QuietBefore*part.Module))
	} else if c.moved(part.Quiet, quietMovedOver, say) {
		return
	} else if part.TooWide > 0 {
		say(codeTooWide, c.tenths(part.TooWide))
	}
	if !part.Symbol.Is2D() && 2*part.Narrower >= part.Module {
		say(narrowBars, part.Narrower, part.Module)
		return
	}
	c.moduleRange(part, element.Code.Purpose, say)
	c.otherModule(part, element.Code, say)
	c.nearCut(part, say)
	c.longCode(part, say)
	if !part.Symbol.Is2D() {
		c.lowBars(part, element.Code.Purpose, say)
	}
	c.ladder(part, say)
	got, err := c.readAll(part, seen)
	switch name := symbology.Name(symbology.ID(element.Code.Symbology)); {
	case err != nil:
		say(readsNothing, name, err)
	case got != part.Says:
		say(readsOther, name, got, part.Says)
	default:
		c.reader.good++
	}
}

// mostGS1128 is how long a GS1-128 is at most with its quiet zones, which a fixed scanner sees at once (GS1 General
// Specifications, 5.4.1).
const mostGS1128 = 165100 * measure.Micrometre

// longCode says so when a GS1-128 is longer than GS1 has it.
func (c *Checker) longCode(part *compose.Part, say sayer) {
	if part.ID != symbology.GS1128 {
		return
	}
	quiet := part.Symbol.QuietBefore + part.Symbol.QuietAfter
	if long := c.length(part.Symbol.DotsWide(part.Module) + quiet*part.Module); long > mostGS1128 {
		say(longCode, long.Millimetres(), measure.Length(mostGS1128).Millimetres())
	}
}

// moduleRange says so when the printed module is not within what the symbology's standard gives, or
// GS1 for the purpose, to within a hundredth.
func (c *Checker) moduleRange(part *compose.Part, purpose symbology.Purpose, say sayer) {
	name, printed := symbology.Name(part.ID), c.length(part.Module)
	size, ok := symbology.SizeFor(part.ID, purpose)
	if !ok {
		say(notForPurpose, name, purpose.Where())
		return
	}
	where := ""
	if purpose != symbology.AnyPurpose {
		where = " " + purpose.Where()
	}
	least, most := size.Least, size.Most
	switch {
	case printed*100 < least*99:
		say(smallModule, name, least, where, printed)
	case most > 0 && printed*99 > most*100:
		say(largeModule, name, most, where, printed)
	}
}

// lowBars says so when bars are lower than they should be, to within a hundredth: a scanner held askew
// then misses some.
func (c *Checker) lowBars(part *compose.Part, purpose symbology.Purpose, say sayer) {
	tall, wide := part.Bars.H, part.Bars.W
	if part.Turn.Sideways() {
		tall, wide = wide, tall
	}
	least := symbology.LeastHeight(part.ID, purpose, c.length(part.Module), c.length(wide))
	if got := c.length(tall); got*100 < least*99 {
		say(lowBars, got.Millimetres(), symbology.Name(part.ID), least.Millimetres())
	}
}

// A head that prints fast leaves each line of dots hot while the web moves on, so that bars which lie
// across the feed grow into the spaces behind them. Up to slowEnough, or from thickEnough dots a module
// on, that is no harm: the trade's rule of thumb.
const (
	slowEnough  = 100 // mm/s
	thickEnough = 3   // dots
)

// ladder says so when bars lie across the feed of a fast printer.
func (c *Checker) ladder(part *compose.Part, say sayer) {
	speed := c.design.Printer.Speed
	if part.Symbol.Is2D() || speed <= slowEnough || part.Module >= thickEnough ||
		!part.Turn.Plus(c.design.Turn).Sideways() {
		return
	}
	say(ladder, slowEnough, dots(part.Module), c.design.Printer.Name, speed, thickEnough)
}

func dots(n int) string {
	if n == 1 {
		return "1 dot"
	}
	return fmt.Sprintf("%d dots", n)
}

// readAll reads a code in every copy of the legend, and returns the first that says something else
// than was meant.
func (c *Checker) readAll(part *compose.Part, plane *render.Plane) (got string, err error) {
	times, stepX, stepY := c.composer.Copies()
	for n := range times {
		bars := part.Bars
		bars.X, bars.Y = bars.X+n*stepX, bars.Y+n*stepY
		if got, err = c.reader.read(plane, c.press.OnWeb(bars), part, part.Turn.Plus(c.design.Turn)); err != nil ||
			got != part.Says {
			break
		}
	}
	return got, err
}

// quiet tells whether both quiet zones are free of dots.
func (c *Checker) quiet(part *compose.Part, plane *render.Plane) bool {
	before, after := part.Quiet, part.Quiet
	if part.Turn.Sideways() {
		before.H = part.Bars.Y - part.Quiet.Y
		after.Y = part.Bars.Y + part.Bars.H
		after.H = part.Quiet.Y + part.Quiet.H - after.Y
	} else {
		before.W = part.Bars.X - part.Quiet.X
		after.X = part.Bars.X + part.Bars.W
		after.W = part.Quiet.X + part.Quiet.W - after.X
	}
	if !plane.Blank(c.press.OnWeb(before)) || !plane.Blank(c.press.OnWeb(after)) {
		return false
	}
	if !part.Symbol.Is2D() {
		return true
	}
	above, below := part.Quiet, part.Quiet
	if part.Turn.Sideways() {
		above.W = part.Bars.X - part.Quiet.X
		below.X = part.Bars.X + part.Bars.W
		below.W = part.Quiet.X + part.Quiet.W - below.X
	} else {
		above.H = part.Bars.Y - part.Quiet.Y
		below.Y = part.Bars.Y + part.Bars.H
		below.H = part.Quiet.Y + part.Quiet.H - below.Y
	}
	return plane.Blank(c.press.OnWeb(above)) && plane.Blank(c.press.OnWeb(below))
}

// mostRounded is by how much a module may differ from what was wanted, as whole dots allow it, in per cent.
const mostRounded = 20

// otherModule says so when whole dots make the module much larger or smaller than was wanted.
func (c *Checker) otherModule(part *compose.Part, looks *design.CodeLooks, say sayer) {
	if looks.Fit != design.Nearest || looks.Module <= 0 {
		return
	}
	drawn := c.length(part.Module)
	if off := max(drawn-looks.Module, looks.Module-drawn); off*100 > looks.Module*mostRounded {
		say(otherModule, looks.Module, drawn, c.design.Printer.Resolution)
	}
}

// cutMoves is how far from where labels are cut out bars should end: die-cutting and feeding are some tenths of a
// millimetre out.
const cutMoves = measure.Millimetre / 2

// nearCut says so when bars end where a label is cut out.
func (c *Checker) nearCut(part *compose.Part, say sayer) {
	if c.design.Stock.Kind != stock.DieCut {
		return
	}
	b := part.Bars
	gap := min(b.X, b.Y, c.frame.W-b.X-b.W, c.frame.H-b.Y-b.H)
	if gap >= 0 && c.length(gap) < cutMoves {
		say(nearCut, c.length(gap).Millimetres())
	}
}
