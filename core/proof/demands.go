package proof

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/safety/symbols"
	"oddspool/core/stock"
)

// nearly is how much a size may fall short of what is asked: half of what is shown of it.
const nearly = measure.Millimetre / 20

// Unmet returns what the rules of a design's safety labels ask and the labels of some records do not keep to, each
// demand once, with the first record that it is unmet on. Its error is that of compose.New.
func Unmet(d *design.Design, fields []string, records [][]string) ([]Finding, error) {
	composer, err := compose.New(d, fields)
	if err != nil {
		return nil, err
	}
	c := &Checker{design: d, composer: composer, inks: stock.Inks(d.Stock, d.Printer)}
	if len(records) == 0 {
		records = [][]string{nil}
	}
	var label compose.Label
	var found, all []Finding
	seen := make([]bool, len(d.Demands)+1)
	for i, record := range records {
		composer.Compose(&label, record)
		found = c.demands(found[:0], i+1, record, &label)
		for _, f := range found {
			if !seen[f.Demand] {
				seen[f.Demand] = true
				all = append(all, f)
			}
		}
	}
	return all, nil
}

// demands appends what the rules of a safety label ask and the label of a record does not keep to. What was overruled
// is a warning with its reason.
func (c *Checker) demands(findings []Finding, number int, record []string, label *compose.Label) []Finding {
	for i := range c.design.Demands {
		demand := &c.design.Demands[i]
		if !c.asked(demand, record) {
			continue
		}
		kind, text, do := c.unmet(demand, record, label)
		if text == "" {
			continue
		}
		level := Error
		if demand.Advice {
			level = Warning
		}
		if demand.Overruled == "" {
			do += " Or overrule it with a reason."
		} else {
			level, do = Warning, fmt.Sprintf("It was overruled: “%s”.", demand.Overruled)
		}
		findings = append(findings, Finding{level, kind, number, demand.Element, text, do, i + 1})
	}
	return findings
}

// asked tells whether a demand is made of the label of a record.
func (c *Checker) asked(demand *design.Demand, record []string) bool {
	if demand.When == nil {
		return true
	}
	value, known := c.composer.Value(demand.When.Field, record)
	return !known || demand.When.Holds(value)
}

// unmet says what a label does not keep to; text is empty where it does.
func (c *Checker) unmet(demand *design.Demand, record []string, label *compose.Label) (kind Kind, text, do string) {
	if demand.Asks == design.AsksKnown {
		value, _ := c.composer.Value(demand.When.Field, record)
		return SafetyKnown, fmt.Sprintf("%s is “%s”, and this label was not laid out for that: %s.", demand.When.Field,
			value, demand.Rule), "Lay it out again for these records."
	}
	if demand.Element == "" {
		return c.unmetWhole(demand, label)
	}
	at := slices.IndexFunc(c.design.Elements, func(e design.Element) bool { return e.ID == demand.Element })
	if at < 0 || label.Parts[at].Absent {
		if demand.Asks != design.AsksPresence { // which says so
			return "", "", ""
		}
		return SafetyPresence, fmt.Sprintf("“%s” is not on this label, and belongs there %s.", demand.Element,
			demand.Rule), "Put it back, or lay the label out again."
	}
	part, element := &label.Parts[at], &c.design.Elements[at]
	switch {
	case demand.Asks == design.AsksCapitals && element.Kind != design.Text, demand.Asks == design.AsksColours &&
		element.Kind != design.Symbol:
		return SafetyPresence, fmt.Sprintf("“%s” is a %s now, of which that cannot be asked.", demand.Element,
			element.Kind), "Lay the label out again."
	}
	switch demand.Asks {
	case design.AsksFill:
		return c.unmetColour(demand, "The field", c.fills(element, demand.Colour))
	case design.AsksInk:
		return c.unmetColour(demand, "What stands here", c.inkedWith(at, element, demand.Colour))
	case design.AsksColours:
		return c.unmetSymbol(demand, at, part)
	case design.AsksCapitals:
		return c.unmetLetters(demand, part, "Capitals", c.composer.Face(at).Capitals(part.PerEm))
	case design.AsksWidth:
		return c.unmetLength(demand, SafetyWidth, "long", element.Width)
	case design.AsksHeight:
		height := element.Height
		if element.Kind == design.Symbol { // it is as large as its box allows
			height = min(height, element.Width)
		}
		return c.unmetLength(demand, SafetyHeight, "high", height)
	case design.AsksWords:
		if missing := plain(demand.Says); !strings.Contains(plain(part.Says), missing) {
			return SafetyWords, fmt.Sprintf("This no longer says “%s”, which belongs there %s.", missing, demand.Rule),
				"Write it again, or lay the label out again."
		}
	}
	return "", "", ""
}

// unmetWhole says how much smaller the whole label, or the smallest type on it, is than it should be.
func (c *Checker) unmetWhole(demand *design.Demand, label *compose.Label) (kind Kind, text, do string) {
	w, h := c.design.Size()
	switch demand.Asks {
	case design.AsksWidth:
		return c.unmetLength(demand, SafetyWidth, "long", max(w, h))
	case design.AsksHeight:
		return c.unmetLength(demand, SafetyHeight, "high", min(w, h))
	}
	least, smallest := math.Inf(1), -1
	for i := range label.Parts {
		part, element := &label.Parts[i], &c.design.Elements[i]
		if element.Kind != design.Text || part.Absent || part.Says == "" || !c.belongs(element.ID, demand.Of) {
			continue
		}
		if small := c.composer.Face(i).Small(part.PerEm); small < least {
			least, smallest = small, i
		}
	}
	if smallest < 0 {
		return "", "", ""
	}
	return c.unmetLetters(demand, &label.Parts[smallest], "Small letters", least)
}

// belongs tells whether an element is one of a safety label.
func (c *Checker) belongs(id, of string) bool {
	return slices.ContainsFunc(c.design.Demands, func(d design.Demand) bool { return d.Of == of && d.Element == id })
}

func (c *Checker) unmetLength(demand *design.Demand, kind Kind, what string, is measure.Length) (Kind, string, string) {
	if is+nearly >= demand.Least {
		return "", "", ""
	}
	subject := "The label"
	if demand.Element != "" {
		subject = "This"
	}
	return kind, fmt.Sprintf("%s is %.1f mm %s; %s it is to be %g mm.", subject, is.Millimetres(), what, demand.Rule,
		demand.Least.Millimetres()), "Make it larger, or take a larger stock."
}

func (c *Checker) unmetLetters(demand *design.Demand, part *compose.Part, what string, dots float64) (kind Kind, text,
	do string) {
	high := dots / c.design.Printer.Resolution.PerMillimetre()
	if part.Says == "" || high+nearly.Millimetres() >= demand.Least.Millimetres() {
		return "", "", ""
	}
	return SafetyLetters, fmt.Sprintf("%s are %.1f mm high; %s they are to be %g mm.", what, high, demand.Rule,
		demand.Least.Millimetres()), "Set it larger, say less, or take a larger stock."
}

func (c *Checker) unmetColour(demand *design.Demand, what string, met bool) (kind Kind, text, do string) {
	if met {
		return "", "", ""
	}
	said := fmt.Sprintf("%s is to be %s %s", what, demand.Colour, demand.Rule)
	if _, meant := symbols.Shown(demand.Colour, c.inks, c.design.Stock.FaceColour()); !meant {
		return SafetyColour, fmt.Sprintf("%s, and %s cannot show that on this stock.", said, c.design.Printer.Name),
			"Take a stock of that colour, or a printer that has it."
	}
	return SafetyColour, said + ", and is not.", fmt.Sprintf("Make it %s.", demand.Colour)
}

// fills tells whether an element is filled with a colour, or lies bare on a stock of that colour.
func (c *Checker) fills(element *design.Element, colour stock.Ink) bool {
	ink, meant := symbols.Field(colour, c.inks, c.design.Stock.FaceColour())
	shape := element.Shape
	if shape == nil || shape.Fill == "" || shape.Fill == design.Bare {
		return meant && ink == ""
	}
	return meant && (shape.Tint == 0 || shape.Tint == 100) && c.sameColour(shape.Fill, colour)
}

// inkedWith tells whether what an element says is in a colour: in that ink, or bare on a stock of that colour.
func (c *Checker) inkedWith(at int, element *design.Element, colour stock.Ink) bool {
	ink, meant := symbols.Shown(colour, c.inks, c.design.Stock.FaceColour())
	if element.Ink == design.Bare {
		return meant && ink == ""
	}
	return meant && c.sameColour(c.composer.Inks()[c.composer.Ink(at)], colour)
}

func (c *Checker) sameColour(a, b stock.Ink) bool {
	return c.design.Stock.InkColour(a) == c.design.Stock.InkColour(b)
}

func (c *Checker) unmetSymbol(demand *design.Demand, at int, part *compose.Part) (kind Kind, text, do string) {
	s, _ := c.composer.Symbol(at, part)
	if s == nil {
		return "", "", "" // said already
	}
	if lacks := c.lacking(s, c.design.Elements[at].Symbol); len(lacks) > 0 {
		return SafetyColour, fmt.Sprintf("%s needs %s, which cannot be shown here, %s.", s.Name, listed(lacks),
			demand.Rule), symbolRule(s).do
	}
	return "", "", ""
}

// plain is a text whose lines may be broken anywhere.
func plain(text string) string { return strings.Join(strings.Fields(text), " ") }
