package proof

import (
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
		c.unmet(demand, record, label, func(rule *Rule, values ...any) {
			f := rule.found(number, demand.Element, values...)
			f.Demand = i + 1
			if demand.Advice || demand.Overruled != "" {
				f.Level = Warning
			}
			if f.Do = orOverrule.Say(f.Do); demand.Overruled != "" {
				f.Do, f.Values["reason"] = overruled.Say(demand.Overruled), demand.Overruled
			}
			findings = append(findings, f)
		})
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

// unmet says so when a label does not keep to a demand.
func (c *Checker) unmet(demand *design.Demand, record []string, label *compose.Label, say sayer) {
	if demand.Asks == design.AsksKnown {
		value, _ := c.composer.Value(demand.When.Field, record)
		say(otherRecord, demand.When.Field, value, demand.Rule)
		return
	}
	if demand.Element == "" {
		c.unmetWhole(demand, label, say)
		return
	}
	at := slices.IndexFunc(c.design.Elements, func(e design.Element) bool { return e.ID == demand.Element })
	if at < 0 || label.Parts[at].Absent {
		if demand.Asks == design.AsksPresence { // says it once for all
			say(isMissing, demand.Element, demand.Rule)
		}
		return
	}
	part, element := &label.Parts[at], &c.design.Elements[at]
	switch demand.Asks {
	case design.AsksFill:
		if !c.fills(element, demand.Colour) {
			c.otherColour(demand, otherFieldColour, noFieldColour, say)
		}
	case design.AsksInk:
		if !c.inkedWith(at, element, demand.Colour) {
			c.otherColour(demand, otherInkColour, noInkColour, say)
		}
	case design.AsksColours:
		if element.Kind != design.Symbol {
			say(isOtherKind, demand.Element, element.Kind)
			return
		}
		c.unmetSymbol(demand, at, part, say)
	case design.AsksCapitals:
		if element.Kind != design.Text {
			say(isOtherKind, demand.Element, element.Kind)
			return
		}
		c.unmetLetters(demand, part, lowCapitals, c.composer.Face(at).Capitals(part.PerEm), say)
	case design.AsksWidth:
		unmetLength(demand, shortPart, element.Width, say)
	case design.AsksHeight:
		height := element.Height
		if element.Kind == design.Symbol { // it is as large as its box allows
			height = min(height, element.Width)
		}
		unmetLength(demand, lowPart, height, say)
	case design.AsksWords:
		if missing := plain(demand.Says); !strings.Contains(plain(part.Says), missing) {
			say(otherWords, missing, demand.Rule)
		}
	}
}

// unmetWhole says how much smaller the whole label, or the smallest type on it, is than it should be.
func (c *Checker) unmetWhole(demand *design.Demand, label *compose.Label, say sayer) {
	w, h := c.design.Size()
	switch demand.Asks {
	case design.AsksWidth:
		unmetLength(demand, shortLabel, max(w, h), say)
		return
	case design.AsksHeight:
		unmetLength(demand, lowLabel, min(w, h), say)
		return
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
	if smallest >= 0 {
		c.unmetLetters(demand, &label.Parts[smallest], lowLetters, least, say)
	}
}

// belongs tells whether an element is one of a safety label.
func (c *Checker) belongs(id, of string) bool {
	return slices.ContainsFunc(c.design.Demands, func(d design.Demand) bool { return d.Of == of && d.Element == id })
}

func unmetLength(demand *design.Demand, rule *Rule, is measure.Length, say sayer) {
	if is+nearly < demand.Least {
		say(rule, is.Millimetres(), demand.Rule, demand.Least.Millimetres())
	}
}

func (c *Checker) unmetLetters(demand *design.Demand, part *compose.Part, rule *Rule, dots float64, say sayer) {
	high := dots / c.design.Printer.Resolution.PerMillimetre()
	if part.Says != "" && high+nearly.Millimetres() < demand.Least.Millimetres() {
		say(rule, high, demand.Rule, demand.Least.Millimetres())
	}
}

// otherColour says that something is to have another colour, by the rule for a printer that can show it or the one for
// a printer that cannot.
func (c *Checker) otherColour(demand *design.Demand, can, cannot *Rule, say sayer) {
	if _, meant := symbols.Shown(demand.Colour, c.inks, c.design.Stock.FaceColour()); !meant {
		say(cannot, demand.Colour, demand.Rule, c.design.Printer.Name)
		return
	}
	say(can, demand.Colour, demand.Rule, demand.Colour)
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

func (c *Checker) unmetSymbol(demand *design.Demand, at int, part *compose.Part, say sayer) {
	s, _ := c.composer.Symbol(at, part)
	if s == nil {
		return // said already
	}
	if lacks := c.lacking(s, c.design.Elements[at].Symbol); len(lacks) > 0 {
		say(colourRules(s).demanded, s.Name, listed(lacks), demand.Rule)
	}
}

// plain is a text whose lines may be broken anywhere.
func plain(text string) string { return strings.Join(strings.Fields(text), " ") }
