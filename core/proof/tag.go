package proof

import (
	"fmt"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/render"
	"oddspool/core/stock"
)

// tag says so when what is to be written into a chip has no room in it, or there is none to write it with.
func (c *Checker) tag(part *compose.Part, element *design.Element, say sayer) {
	if element.Kind != design.Tag || part.Tag == nil {
		return
	}
	if !c.design.Printer.Encoder {
		say(Error, NoEncoder, fmt.Sprintf("%s does not write tags.", c.design.Printer.Name),
			"Choose a printer that does, or say of this one that it does.")
	}
	if part.Tag.Is != nil {
		for _, chip := range part.Tag.Is.Elements() {
			for _, e := range c.elements {
				if e.AI == chip.AI && e.Value != chip.Value {
					say(Error, ChipOther, fmt.Sprintf("The chip says (%s)%s, and a code of the label says (%s)%s.",
						chip.AI.AI, chip.Value, chip.AI.AI, e.Value), "Have both say the same.")
				}
			}
		}
	}
	if looks := element.Tag; looks.Kill != "" && looks.Lock == design.Unlocked {
		say(Warning, OpenKill, "The kill password stays open: whoever reads the chip can read it, and end the chip "+
			"with it.", "Lock the chip, which locks its passwords too.")
	}
	inlay := c.design.Stock.Inlay
	if inlay == nil {
		say(Warning, NoInlay, fmt.Sprintf("%s is not known to have a chip.", c.design.Stock.Name),
			"Choose a stock with an inlay, or say of this one where it lies.")
		return
	}
	if bits := 8 * len(part.Tag.EPC); inlay.EPCBits > 0 && bits > inlay.EPCBits {
		say(Error, TagRoom, fmt.Sprintf("The identifier takes %d bits, and the chip has room for %d.", bits,
			inlay.EPCBits), "Choose a shorter form, or another stock.")
	}
	if bits := 8 * len(part.Tag.User); bits > inlay.UserBits {
		say(Error, TagRoom, fmt.Sprintf("User memory is to have %d bits, and the chip has %d.", bits, inlay.UserBits),
			"Say less, or choose another stock.")
	}
}

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
		say(Warning, OverChip, "The code lies over the chip: its bump spoils bars, and heads wear there.",
			"Move it off the chip, as the stock has it.")
	}
}
