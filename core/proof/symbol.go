package proof

import (
	"cmp"
	"fmt"
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
		say(Error, NoSymbol, fmt.Sprintf("The library has no symbol %q.", cmp.Or(part.Says, element.Symbol.ID)),
			"Choose another one, or bring it in as one of your own.")
		return
	}
	if side < s.Smallest {
		perMM := c.design.Printer.Resolution.PerMillimetre()
		say(Warning, SmallSymbol, fmt.Sprintf("%s is %.1f mm large, %d dots: from %.1f mm on it can be told at %v.",
			s.Name, float64(side)/perMM, side, float64(s.Smallest)/perMM, c.design.Printer.Resolution),
			"Make it larger.")
	}
	if wide := float64(side) / c.design.Printer.Resolution.PerMillimetre(); wide < s.Least-0.05 {
		say(Warning, UnderSize, fmt.Sprintf("%s is %.1f mm large, and its rule asks for %g mm: %s.", s.Name, wide,
			s.Least, s.Rule), "Make it larger, or take a larger stock.")
	}
	if c.demandsColours(element.ID) { // which says so
		return
	}
	if lacks := c.lacking(s, element.Symbol); len(lacks) > 0 {
		rule := symbolRule(s)
		say(Warning, SymbolColour, fmt.Sprintf("%s needs %s, which cannot be shown here%s.", s.Name, listed(lacks),
			rule.says), rule.do)
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

func symbolRule(s *symbols.Symbol) (rule struct{ says, do string }) {
	if rule = symbolRules[s.Family]; rule.says == "" {
		return symbolRules["other"]
	}
	return rule
}

// symbolRules say what colours are to a family of symbols, and what helps where they are missing.
var symbolRules = map[string]struct{ says, do string }{
	"ghs": {": its frame is to be red and the symbol black on white (GHS 1.4.10.4; CLP, annex I, 1.2.1.1; 29 CFR " +
		"1910.1200, appendix C.2.3)",
		"Take a stock with red frames printed on it and leave out the frame, or a printer and stock with red."},
	"transport": {": labels of transport have the colours of their class (UN Model Regulations, 5.2.2.2.1)",
		"Print it in colour, or take labels that are printed already."},
	"other": {": the darkest ink or the bare face stands for it, where colours carry a part of what is said (ISO " +
		"3864-1, 5)", "Take a stock or printer with that colour, or let it be on purpose."},
}

func listed(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}
