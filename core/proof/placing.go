package proof

import (
	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/render"
)

func (c *Checker) words(part *compose.Part, element *design.Element, say sayer) {
	if part.CutOff > 0 {
		say(tooManyLetters, len(part.Says)+part.CutOff, compose.MostLetters)
	}
	if len(part.Missing) > 0 {
		say(noGlyph, part.Missing[0], part.Missing[0])
	}
	if part.LineOver > 0 {
		say(lineTooWide, c.tenths(part.LineOver))
	}
	if element.Kind != design.Text {
		return
	}
	if part.TooWide > 0 {
		say(tooWide, c.tenths(part.TooWide))
	} else if part.TooTall > 0 {
		say(tooTall, c.tenths(part.TooTall))
	}
}

func (c *Checker) edges(part *compose.Part, element *design.Element, say sayer) {
	box := part.Real
	if element.Kind == design.Code {
		box = part.Bars // quiet zones are looked at by themselves
	} else if element.Kind == design.Text { // what sticks out of the box is cut, and said already
		box = box.And(part.Box)
	}
	shared := box.And(c.frame)
	if shared == box {
		if !c.moved(box, movedOver, say) && !c.outline(box, element, say) {
			c.reach(box, say)
		}
		return
	}
	if shared.Empty() {
		say(offLabel)
		return
	}
	over, edge := 0, ""
	for _, side := range []struct {
		over int
		name string
	}{{-box.X, "left"}, {-box.Y, "top"}, {box.X + box.W - c.frame.W, "right"}, {box.Y + box.H - c.frame.H, "bottom"}} {
		if side.over > over {
			over, edge = side.over, side.name
		}
	}
	rule := overEdge
	if element.Kind == design.Code {
		rule = overCode
	}
	say(rule, c.tenths(over), edge)
}

// reach says so when something on the label lies where it cannot be printed: beyond the head, in a
// margin that must stay free, on a hole, or on what goes round the cable.
func (c *Checker) reach(box render.Box, say sayer) {
	times, stepX, stepY := c.composer.Copies()
	for n := range times {
		onWeb := c.press.OnWeb(render.Box{X: box.X + n*stepX, Y: box.Y + n*stepY, W: box.W, H: box.H})
		onWeb.X, onWeb.Y = onWeb.X+c.shiftX, onWeb.Y+c.shiftY
		for _, area := range c.areas {
			if area.Holds(onWeb.X, onWeb.Y, onWeb.W, onWeb.H) {
				continue
			}
			across := max(area.Left-onWeb.X, onWeb.X+onWeb.W-area.Right)
			along := max(area.Top-onWeb.Y, onWeb.Y+onWeb.H-area.Bottom)
			switch over := max(across, along); {
			case over > 0:
				say(beyondPrinter, c.tenths(over), c.design.Printer.Name)
			case len(area.Bands) > 0:
				say(onBand)
			default:
				say(onHole)
			}
			return
		}
	}
}
