package proof

import (
	"regexp"
	"slices"
	"strings"
	"unicode"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/gs1"
	"oddspool/core/symbology"
)

// agree appends where codes and texts of a label contradict one another, or the rules of what they say.
func (c *Checker) agree(findings []Finding, number int, label *compose.Label) []Finding {
	for i := range label.Parts {
		part, element := &label.Parts[i], &c.design.Elements[i]
		say := func(rule *Rule, values ...any) {
			findings = append(findings, rule.found(number, element.ID, values...))
		}
		switch {
		case part.Absent || part.Says == "" || part.CodeError != nil:
		case element.Kind == design.Code && part.Module > 0:
			c.codesAgree(label, i, say)
			c.measures(part, say)
			if err := gs1.Dates(part.Symbol.Elements); err != nil {
				say(datesDiffer, err.First, err.Second)
			}
			plainGS1(part, say)
			c.figures(label, i, say)
		case element.Kind == design.Text:
			c.textAgrees(label, i, say)
		}
	}
	return findings
}

// ofGTIN is the GTIN of a symbol that has no identifiers, of 14 digits; empty: it has none.
func ofGTIN(part *compose.Part) string {
	switch part.ID {
	case symbology.EAN13, symbology.EAN8, symbology.UPCA, symbology.ITF14:
		if digits := strings.Fields(part.Says); len(digits) > 0 && len(digits[0]) <= 14 {
			return strings.Repeat("0", 14-len(digits[0])) + digits[0]
		}
	}
	return ""
}

// elementsOf returns what a code says by GS1's identifiers: of an EAN its GTIN.
func elementsOf(part *compose.Part) []gs1.Element {
	if gtin := ofGTIN(part); gtin != "" {
		return []gs1.Element{{AI: gs1.Find("01"), Value: gtin}}
	}
	return part.Symbol.Elements
}

// codesAgree says so when a code before says another value of the same identifier.
func (c *Checker) codesAgree(label *compose.Label, at int, say sayer) {
	for _, e := range elementsOf(&label.Parts[at]) {
		for j := range at {
			other := &label.Parts[j]
			if c.design.Elements[j].Kind != design.Code || other.Absent || other.CodeError != nil || other.Module == 0 {
				continue
			}
			for _, o := range elementsOf(other) {
				if e.AI != nil && o.AI == e.AI && o.Value != e.Value {
					say(codesDiffer, "("+e.AI.AI+")", e.AI.Title, e.Value, o.Value)
					return
				}
			}
		}
	}
}

// measures says so when a GTIN asks for a measure that no code says, or has one that it should not have.
func (c *Checker) measures(part *compose.Part, say sayer) {
	var measure *gs1.AI
	for _, e := range c.elements {
		if gs1.IsMeasure(e.AI) && (measure == nil || e.AI.AI != "30") {
			measure = e.AI
		}
	}
	for _, e := range part.Symbol.Elements {
		if e.AI == nil || e.AI.AI != "01" || len(e.Value) != 14 {
			continue
		}
		switch varies := e.Value[0] == '9'; {
		case varies && measure == nil:
			say(noMeasure, e.Value)
		case !varies && measure != nil && measure.AI != "30" && slices.ContainsFunc(part.Symbol.Elements,
			func(o gs1.Element) bool { return o.AI == measure }):
			say(fixedMeasure, measure.AI, measure.Title, e.Value)
		}
	}
}

// inBrackets is data that is written in GS1's manner for people.
var inBrackets = regexp.MustCompile(`^\((\d{2,4})\)`)

// plainGS1 says so when a code that takes data as it stands has GS1 data in it.
func plainGS1(part *compose.Part, say sayer) {
	if symbology.Of(part.ID).GS1 {
		return
	}
	if found := inBrackets.FindStringSubmatch(part.Says); found != nil {
		if ai := gs1.Find(found[1]); ai != nil {
			say(plainBrackets, found[0], ai.AI, ai.Title, symbology.Name(part.ID))
		}
		return
	}
	if why := gs1.LinkFault(part.Says); why != nil {
		say(badLink, why)
	}
}

// figures says so when a code whose figures are to stand beside it (EAN, UPC and ITF-14 anywhere, others for the
// purposes of GS1) shows none, and no text of the label does.
func (c *Checker) figures(label *compose.Label, at int, say sayer) {
	part, looks := &label.Parts[at], c.design.Elements[at].Code
	guide := symbology.Of(part.ID)
	asked := looks.Purpose != symbology.AnyPurpose && guide.GS1 || guide.CheckDigit
	if guide.Is2D || !asked || looks.Readable != design.None {
		return
	}
	wanted := letters(part.Says)
	for i := range label.Parts {
		other := &label.Parts[i]
		if i == at || other.Absent {
			continue
		}
		switch c.design.Elements[i].Kind {
		case design.Text:
			if says := letters(other.Says); says != "" && (strings.Contains(says, wanted) || len(says) >= 8 &&
				strings.Contains(wanted, says)) {
				return
			}
		case design.Code:
			if c.design.Elements[i].Code.Readable != design.None && strings.Contains(letters(other.Says), wanted) {
				return
			}
		}
	}
	say(noFigures, symbology.Name(part.ID), part.Says)
}

// letters is a text without what is written between its letters and digits.
func letters(text string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToUpper(r)
		}
		return -1
	}, text)
}

// A text that says nearly what a code says has so many letters and digits at least, of which so few differ.
const (
	leastAlike = 6
	mostUnlike = 2
)

// textAgrees says so when a text says what a code says but for one or two characters: it was typed.
func (c *Checker) textAgrees(label *compose.Label, at int, say sayer) {
	text := letters(label.Parts[at].Says)
	if len(text) < leastAlike || !strings.ContainsAny(text, "0123456789") {
		return
	}
	var near func()
	for i := range label.Parts {
		part := &label.Parts[i]
		if c.design.Elements[i].Kind != design.Code || part.Absent || part.CodeError != nil || part.Says == "" {
			continue
		}
		values := []string{part.Says}
		for _, e := range part.Symbol.Elements {
			values = append(values, e.Value)
		}
		for _, value := range values {
			unlike, same := differing(text, letters(value))
			if same {
				return // it is what this code says
			}
			if unlike > 0 && near == nil {
				id := c.design.Elements[i].ID
				near = func() { say(textDiffers, label.Parts[at].Says, id, value, unlike) }
			}
		}
	}
	if near != nil {
		near()
	}
}

// differing returns how many characters differ between two texts that are nearly alike, else 0, and whether they are
// the same.
func differing(a, b string) (unlike int, same bool) {
	if a == b {
		return 0, true
	}
	if len(a) != len(b) {
		return 0, false
	}
	for i := range len(a) {
		if a[i] != b[i] {
			unlike++
		}
	}
	if unlike > mostUnlike {
		return 0, false
	}
	return unlike, false
}
