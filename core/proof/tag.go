package proof

import (
	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/gs1"
	"oddspool/core/render"
	"oddspool/core/stock"
)

// tag says so when what is to be written into a chip has no room in it, or there is none to write it with.
func (c *Checker) tag(part *compose.Part, element *design.Element, say sayer) {
	if element.Kind != design.Tag || part.Tag == nil {
		return
	}
	if !c.design.Printer.Encoder {
		say(noEncoder, c.design.Printer.Name)
	}
	if part.Tag.Is != nil {
		for _, chip := range part.Tag.Is.Elements() {
			for _, e := range c.elements {
				if e.AI == chip.AI && e.Value != chip.Value {
					say(chipOther, bracketed(chip), bracketed(e))
				}
			}
		}
	}
	if looks := element.Tag; looks.Kill != "" && looks.Lock == design.Unlocked {
		say(openKill)
	}
	inlay := c.design.Stock.Inlay
	if inlay == nil {
		say(noInlay, c.design.Stock.Name)
		return
	}
	if bits := 8 * len(part.Tag.EPC); inlay.EPCBits > 0 && bits > inlay.EPCBits {
		say(longIdentifier, bits, inlay.EPCBits)
	}
	if bits := 8 * len(part.Tag.User); bits > inlay.UserBits {
		say(longMemory, bits, inlay.UserBits)
	}
}

// bracketed is an element of GS1 data as people write it, such as (21)A17.
func bracketed(e gs1.Element) string { return "(" + e.AI.AI + ")" + e.Value }

// overChip says so when a code lies over the chip, whose bump spoils the print, or a hole or cut would.
func (c *Checker) overChip(part *compose.Part, element *design.Element, say sayer) {
	inlay := c.design.Stock.Inlay
	if inlay == nil || element.Kind != design.Code || part.Absent {
		return
	}
	dots := c.design.Printer.Resolution.Dots
	chip := render.Box{X: dots(inlay.ChipX - stock.ChipRoom/2), Y: dots(inlay.ChipY - stock.ChipRoom/2),
		W: dots(stock.ChipRoom), H: dots(stock.ChipRoom)}
	if !c.press.OnWeb(part.Quiet).And(chip).Empty() {
		say(overChip)
	}
}
