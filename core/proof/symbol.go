package proof

import (
	"cmp"
	"slices"
	"strings"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/safety/symbols"
)

// symbol says so when a symbol is unknown, too small to be told, or not in the colours that its standard asks for.
func (c *Checker) symbol(i int, part *compose.Part, element *design.Element, say sayer) {
	if element.Kind != design.Symbol {
		return
	}
	s, side := c.composer.Symbol(i, part)
	if s == nil {
		say(noSymbol, cmp.Or(part.Says, element.Symbol.ID))
		return
	}
	if side < s.Smallest {
		perMM := c.design.Printer.Resolution.PerMillimetre()
		say(smallSymbol, s.Name, float64(side)/perMM, side, float64(s.Smallest)/perMM, c.design.Printer.Resolution)
	}
	if wide := float64(side) / c.design.Printer.Resolution.PerMillimetre(); wide < s.Least-0.05 {
		say(underSize, s.Name, wide, s.Least, s.Rule)
	}
	if c.demandsColours(element.ID) { // which says so
		return
	}
	if lacks := c.lacking(s, element.Symbol); len(lacks) > 0 {
		say(colourRules(s).shown, s.Name, listed(lacks))
	}
}

// demandsColours tells whether a rule of the design's safety label asks for the colours of an element.
func (c *Checker) demandsColours(element string) bool {
	return slices.ContainsFunc(c.design.Demands, func(d design.Demand) bool {
		return d.Element == element &&
			d.Asks == design.AsksColours
	})
}

// lacking returns the colours of a symbol that cannot be shown. One of a single colour lacks none: any ink will do.
func (c *Checker) lacking(s *symbols.Symbol, looks *design.SymbolLooks) (lacks []string) {
	used, err := s.Colours(!looks.NoFrame)
	if err != nil || len(used) == 1 {
		return nil
	}
	for _, colour := range used {
		if _, meant := symbols.Shown(colour, c.inks, c.design.Stock.FaceColour()); !meant {
			lacks = append(lacks, string(colour))
		}
	}
	return lacks
}

// colourRules returns what is said where colours of a symbol cannot be shown: of itself, and of a safety label that
// demands them.
func colourRules(s *symbols.Symbol) (rule struct{ shown, demanded *Rule }) {
	switch rule.shown, rule.demanded = symbolColour, demandedColour; s.Family {
	case "ghs":
		rule.shown, rule.demanded = symbolColourGHS, demandedColourGHS
	case "transport":
		rule.shown, rule.demanded = symbolColourTransport, demandedColourTransport
	}
	return rule
}

func listed(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}
