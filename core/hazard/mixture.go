package hazard

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
)

// A Part is one ingredient of a mixture.
type Part struct {
	Name    string             // or number
	Percent float64            // of the mixture, by mass; of gases by volume
	Classes []Classified       // of the ingredient
	ATE     map[string]float64 // its own acute toxicity estimate by route: mg/kg for oral and dermal, mg/l or ppmV for inhalation
	MAcute  float64            // multiplying factor of Aquatic Acute 1; 0: 1
	MChron  float64            // and of Aquatic Chronic 1
	Limits  []Specific         // its own, in place of the generic ones
	Unknown bool               // nothing is known of its toxicity
}

// A Form is in which form a mixture is inhaled.
type Form string

// The forms (CLP, annex I, 3.1.2.1, table 3.1.1).
const (
	Gas    Form = "gas"    // ppmV
	Vapour Form = "vapour" // mg/l
	Dust   Form = "dust"   // and mist, mg/l
)

// A Mixed is the classification that a mixture's parts give it, with the way there.
type Mixed struct {
	Classification string   `json:"classification"`
	Steps          []string `json:"steps"`
	Open           []string `json:"open,omitempty"` // what cannot be worked out from the parts alone
}

// limits are the upper bounds of the categories of acute toxicity, 1 to 4 (CLP, annex I, table 3.1.1).
var limits = map[string][4]float64{
	"oral": {5, 50, 300, 2000}, "dermal": {50, 200, 1000, 2000},
	string(Gas): {100, 500, 2500, 20000}, string(Vapour): {0.5, 2, 10, 20}, string(Dust): {0.05, 0.5, 1, 5},
}

// points are the estimates that stand for a category, 1 to 4 (CLP, annex I, table 3.1.2).
var points = map[string][4]float64{
	"oral": {0.5, 5, 100, 500}, "dermal": {5, 50, 300, 1100},
	string(Gas): {10, 100, 700, 4500}, string(Vapour): {0.05, 0.5, 3, 11}, string(Dust): {0.005, 0.05, 0.5, 1.5},
}

// Mix works out the classes of a mixture for which the rule is arithmetic: acute toxicity by the additivity formula, corrosion
// and irritation of skin and eyes and hazards to water by summation, and those with a limit for each ingredient (CLP, annex I,
// parts 3 and 4; GHS, parts 3 and 4). Its error is an *Error.
func Mix(parts []Part, form Form) (*Mixed, error) {
	if limits[string(form)] == [4]float64{} || form == "oral" || form == "dermal" {
		return nil, wrong("%q is no form in which a mixture is inhaled; there are gas, vapour and dust.", form)
	}
	sum := 0.0
	for _, p := range parts {
		if !(p.Percent > 0) || p.Percent > 100 {
			return nil, wrong("%s: %g %% is no concentration; say above 0 and up to 100.", p.Name, p.Percent)
		}
		sum += p.Percent
	}
	if sum > 100.0001 {
		return nil, wrong("The parts make %s %% together, which is more than the mixture. Correct the concentrations.", number(sum))
	}
	if len(parts) == 0 {
		return nil, wrong("A mixture needs at least one part.")
	}
	m := &mixing{parts: parts}
	for _, p := range parts {
		if len(p.Limits) > 0 {
			m.step("%s has limits of its own: %s. In a sum it counts as concentration × generic limit / its own (article 10).", p.Name, ofOwn(p.Limits))
		}
	}
	for _, route := range []string{"oral", "dermal", "inhalation"} {
		m.acute(route, form)
	}
	m.skinAndEyes()
	m.byLimit(form)
	m.water()
	var open []string
	for _, p := range parts {
		for _, c := range p.Classes {
			if !slices.Contains(arithmetic, c.Class.Class) && !slices.Contains(open, c.Class.Name) {
				open = append(open, c.Class.Name)
			}
		}
	}
	for i, name := range open {
		open[i] = name + ": it is tested or judged, not summed"
	}
	return &Mixed{Classification: strings.Join(m.classes, "; "), Steps: m.steps, Open: open}, nil
}

// MixtureLabel works out the classes of a mixture and what stands on its label. Its error is an *Error.
func (b *Book) MixtureLabel(parts []Part, form Form, w Wanted) (*Mixed, *Label, error) {
	mixed, err := Mix(parts, form)
	if err != nil {
		return nil, nil, err
	}
	var classes []Classified
	if mixed.Classification != "" {
		if classes, err = b.Parse(mixed.Classification, w.Rules); err != nil {
			return nil, nil, err
		}
	}
	label, err := b.Label(classes, w)
	return mixed, label, err
}

// arithmetic are the classes that Mix works out.
var arithmetic = []string{"Acute Tox.", "Skin Corr.", "Skin Irrit.", "Eye Dam.", "Eye Irrit.", "Resp. Sens.", "Skin Sens.", "Muta.", "Carc.", "Repr.", "Lact.",
	"STOT SE", "STOT RE", "Aquatic Acute", "Aquatic Chronic", "Ozone"}

type mixing struct {
	parts   []Part
	classes []string
	steps   []string
}

func (m *mixing) step(format string, args ...any) {
	m.steps = append(m.steps, fmt.Sprintf(format, args...))
}

func number(v float64) string {
	return strconv.FormatFloat(math.Round(v*10000)/10000, 'g', 6, 64)
}

// sum adds what do gives for each class of each part, and says of what.
func (m *mixing) sum(do func(p *Part, c *Class) float64) (total float64, of string) {
	var said []string
	for i := range m.parts {
		p := &m.parts[i]
		best := 0.0
		for _, c := range p.Classes {
			best = max(best, do(p, c.Class))
		}
		if best > 0 {
			total += best
			said = append(said, number(best)+" % "+p.Name)
		}
	}
	return total, strings.Join(said, " + ")
}

func has(c *Class, class string, categories ...string) bool {
	return c.Class == class && slices.ContainsFunc(categories, func(k string) bool { return strings.HasPrefix(c.Category, k) })
}

// acute works out the estimate of the mixture (CLP, annex I, 3.1.3.6.1 and 3.1.3.6.2.3).
func (m *mixing) acute(route string, form Form) {
	kind, unit := route, "mg/kg"
	if route == "inhalation" {
		kind, unit = string(form), "mg/l"
		if form == Gas {
			unit = "ppmV"
		}
	}
	reciprocal, unknown := 0.0, 0.0
	var said []string
	for i := range m.parts {
		p := &m.parts[i]
		if p.Unknown && p.Percent >= 1 {
			unknown += p.Percent
		}
		ate, from := p.ATE[route], "given"
		for _, c := range p.Classes {
			if ate == 0 && c.Class.Class == "Acute Tox." && c.Class.Of == route && c.Class.Category <= "4" {
				ate, from = points[kind][c.Class.Category[0]-'1'], "for category "+c.Class.Category
			}
		}
		cutOff := 1.0
		if ate > 0 && ate <= limits[kind][2] {
			cutOff = 0.1
		}
		if ate > 0 && ate <= limits[kind][3] && p.Percent >= cutOff { // CLP, annex I, 1.1.2.2.2, table 1.1
			reciprocal += p.Percent / ate
			said = append(said, fmt.Sprintf("%s/%s (%s, %s)", number(p.Percent), number(ate), p.Name, from))
		}
	}
	if reciprocal == 0 {
		return
	}
	whole := 100.0
	if unknown > 10 {
		whole -= unknown
		m.step("Acute toxicity, %s: %s %% are of unknown toxicity, which is above 10 %%: they are taken off the 100 (3.1.3.6.2.3).", route, number(unknown))
	}
	ate := whole / reciprocal
	text := fmt.Sprintf("Acute toxicity, %s: ATE = %s / (%s) = %s %s (3.1.3.6)", route, number(whole), strings.Join(said, " + "), number(ate), unit)
	for i, limit := range limits[kind] {
		if ate <= limit {
			m.step("%s, at most %s: category %d.", text, number(limit), i+1)
			m.classes = append(m.classes, fmt.Sprintf("Acute Tox. %d (%s)", i+1, route))
			return
		}
	}
	m.step("%s, above %s: not classified.", text, number(limits[kind][3]))
}

// The generic limits of sums, per cent (CLP, annex I, tables 3.2.3 and 3.3.3, 3.8.3.4.5).
const (
	skinCorroded = 5
	irritated    = 10
	eyesDamaged  = 3
	onceExposed  = 20 // STOT SE 3
)

// skinAndEyes sums corrosives and irritants (CLP, annex I, tables 3.2.3 and 3.3.3).
func (m *mixing) skinAndEyes() {
	corrodes := func(categories ...string) (float64, string) {
		return m.sum(func(p *Part, c *Class) float64 { return p.share(c, skinCorroded, "Skin Corr.", categories...) })
	}
	whole, all := corrodes("1")
	corrosive, of := m.sum(func(p *Part, c *Class) float64 {
		return when(has(c, "Skin Corr.", "1") && p.own("Skin Irrit.", "2") == 0, p.Percent)
	})
	irritant, alsoOf := m.sum(func(p *Part, c *Class) float64 { return p.share(c, irritated, "Skin Irrit.", "2") })
	switch {
	case whole >= skinCorroded:
		category := "1"
		categories := []string{"1A", "1B", "1C"}
		for i, sub := range categories {
			if part, _ := corrodes(categories[:i+1]...); part >= skinCorroded {
				category = sub
				break
			}
		}
		m.step("Skin: %s = %s %% corrosive, at least 5 %%: Skin Corr. %s (table 3.2.3).", all, number(whole), category)
		m.classes = append(m.classes, "Skin Corr. "+category)
	case corrosive >= 1:
		m.step("Skin: %s = %s %% corrosive, at least 1 %% and below 5 %%: Skin Irrit. 2 (table 3.2.3).", of, number(corrosive))
		m.classes = append(m.classes, "Skin Irrit. 2")
	case irritant+10*corrosive >= irritated:
		m.step("Skin: 10 × %s %% corrosive + %s %% irritant = %s %%, at least 10 %%: Skin Irrit. 2 (table 3.2.3).", number(corrosive), number(irritant), number(irritant+10*corrosive))
		m.classes = append(m.classes, "Skin Irrit. 2")
	case irritant+corrosive > 0:
		m.step("Skin: 10 × %s %% corrosive + %s %% irritant (%s) = %s %%, below 10 %%: not classified (table 3.2.3).", number(corrosive), number(irritant), joined(of, alsoOf), number(irritant+10*corrosive))
	}
	whole, all = m.sum(func(p *Part, c *Class) float64 { return p.damages(c) })
	damaging, of := m.sum(func(p *Part, c *Class) float64 {
		return when(p.own("Eye Irrit.", "2") == 0 && (has(c, "Skin Corr.", "1") || has(c, "Eye Dam.", "1")), p.Percent)
	})
	irritant, alsoOf = m.sum(func(p *Part, c *Class) float64 { return p.share(c, irritated, "Eye Irrit.", "2") })
	switch {
	case whole >= eyesDamaged:
		m.step("Eyes: %s = %s %% damaging, at least 3 %%: Eye Dam. 1 (table 3.3.3).", all, number(whole))
		m.classes = append(m.classes, "Eye Dam. 1")
	case damaging >= 1:
		m.step("Eyes: %s = %s %% damaging, at least 1 %% and below 3 %%: Eye Irrit. 2 (table 3.3.3).", of, number(damaging))
		m.classes = append(m.classes, "Eye Irrit. 2")
	case irritant+10*damaging >= irritated:
		m.step("Eyes: 10 × %s %% damaging + %s %% irritant = %s %%, at least 10 %%: Eye Irrit. 2 (table 3.3.3).", number(damaging), number(irritant), number(irritant+10*damaging))
		m.classes = append(m.classes, "Eye Irrit. 2")
	case irritant+damaging > 0:
		m.step("Eyes: 10 × %s %% damaging + %s %% irritant (%s) = %s %%, below 10 %%: not classified (table 3.3.3).", number(damaging), number(irritant), joined(of, alsoOf), number(irritant+10*damaging))
	}
}

func joined(a, b string) string {
	if a == "" || b == "" {
		return a + b
	}
	return a + " + " + b
}

func when(is bool, value float64) float64 {
	if is {
		return value
	}
	return 0
}

// A limit is the concentration from which one ingredient gives its class to the mixture.
type limit struct {
	class, category, of string
	from, below         float64 // per cent; below 0: no bound
	gives               string
	table               string
}

// generic are the limits for each ingredient (CLP, annex I, tables 3.4.5, 3.5.2, 3.6.2, 3.7.2, 3.8.3, 3.9.4 and 5.1).
var generic = []limit{
	{"Resp. Sens.", "1A", "", 0.1, 0, "Resp. Sens. 1", "3.4.5"}, {"Resp. Sens.", "1B", "", 1, 0, "Resp. Sens. 1", "3.4.5"}, {"Resp. Sens.", "1", "", 1, 0, "Resp. Sens. 1", "3.4.5"},
	{"Skin Sens.", "1A", "", 0.1, 0, "Skin Sens. 1", "3.4.5"}, {"Skin Sens.", "1B", "", 1, 0, "Skin Sens. 1", "3.4.5"}, {"Skin Sens.", "1", "", 1, 0, "Skin Sens. 1", "3.4.5"},
	{"Muta.", "1A", "", 0.1, 0, "Muta. 1A", "3.5.2"}, {"Muta.", "1B", "", 0.1, 0, "Muta. 1B", "3.5.2"}, {"Muta.", "2", "", 1, 0, "Muta. 2", "3.5.2"},
	{"Carc.", "1A", "", 0.1, 0, "Carc. 1A", "3.6.2"}, {"Carc.", "1B", "", 0.1, 0, "Carc. 1B", "3.6.2"}, {"Carc.", "2", "", 1, 0, "Carc. 2", "3.6.2"},
	{"Repr.", "1A", "", 0.3, 0, "Repr. 1A", "3.7.2"}, {"Repr.", "1B", "", 0.3, 0, "Repr. 1B", "3.7.2"}, {"Repr.", "2", "", 3, 0, "Repr. 2", "3.7.2"}, {"Lact.", "", "", 0.3, 0, "Lact.", "3.7.2"},
	{"STOT SE", "1", "", 10, 0, "STOT SE 1", "3.8.3"}, {"STOT SE", "1", "", 1, 10, "STOT SE 2", "3.8.3"}, {"STOT SE", "2", "", 10, 0, "STOT SE 2", "3.8.3"},
	{"STOT RE", "1", "", 10, 0, "STOT RE 1", "3.9.4"}, {"STOT RE", "1", "", 1, 10, "STOT RE 2", "3.9.4"}, {"STOT RE", "2", "", 10, 0, "STOT RE 2", "3.9.4"},
	{"Ozone", "1", "", 0.1, 0, "Ozone 1", "5.1"},
}

// byLimit takes classes over from single ingredients.
func (m *mixing) byLimit(form Form) {
	for _, g := range generic {
		from := g.from
		if form == Gas && g.class == "Resp. Sens." && g.category != "1A" {
			from = 0.2
		}
		for i := range m.parts {
			p := &m.parts[i]
			if slices.ContainsFunc(p.Limits, func(l Specific) bool { return l.class.Class == g.class && l.single() }) {
				continue
			}
			for _, c := range p.Classes {
				if c.Class.Class != g.class || c.Class.Category != g.category || p.Percent < from || g.below > 0 && p.Percent >= g.below {
					continue
				}
				m.step("%s: %s %% %s, at least %s %%: %s (table %s).", c.Class.Name, number(p.Percent), p.Name, number(from), g.gives, g.table)
				if !m.graver(g.gives) {
					m.classes = append(m.classes, g.gives)
				}
			}
		}
	}
	for _, p := range m.parts {
		for _, l := range p.Limits {
			if !l.single() || p.Percent < l.From || l.Below > 0 && p.Percent >= l.Below {
				continue
			}
			m.step("%s: %s %% %s, at least its own limit of %s %%: %s (article 10).", l.class.Name, number(p.Percent), p.Name, number(l.From), l.Gives)
			if !m.graver(l.Gives) {
				m.classes = append(m.classes, l.Gives)
			}
		}
	}
	for _, of := range []string{"respiratory irritation", "narcotic effects"} { // 3.8.3.4.5
		total, parts := m.sum(func(p *Part, c *Class) float64 {
			for _, l := range p.Limits {
				if has(l.class, "STOT SE", "3") && l.class.Of == of {
					return p.Percent * onceExposed / l.From
				}
			}
			return when(has(c, "STOT SE", "3") && c.Of == of, p.Percent)
		})
		if total >= onceExposed {
			m.step("STOT SE 3, %s: %s = %s %%, at least 20 %%: STOT SE 3 (3.8.3.4.5).", of, parts, number(total))
			m.classes = append(m.classes, "STOT SE 3 ("+of+")")
		}
	}
}

// graver tells whether the mixture has this class already, in this category or one above.
func (m *mixing) graver(class string) bool {
	at := strings.LastIndex(class, " ")
	return slices.ContainsFunc(m.classes, func(had string) bool {
		return had == class || at > 0 && strings.HasPrefix(had, class[:at+1]) && had[at+1:] < class[at+1:]
	})
}

// water sums hazards to the aquatic environment (CLP, annex I, tables 4.1.1 and 4.1.2).
func (m *mixing) water() {
	factor := func(f float64) float64 { return max(f, 1) }
	acute, of := m.sum(func(p *Part, c *Class) float64 { return when(has(c, "Aquatic Acute", "1"), p.Percent*factor(p.MAcute)) })
	if acute >= 25 {
		m.step("Water, short-term: %s = %s %%, with factors, at least 25 %%: Aquatic Acute 1 (table 4.1.1).", of, number(acute))
		m.classes = append(m.classes, "Aquatic Acute 1")
	} else if acute > 0 {
		m.step("Water, short-term: %s = %s %%, with factors, below 25 %%: not classified (table 4.1.1).", of, number(acute))
	}
	chronic := func(category string) float64 {
		total, _ := m.sum(func(p *Part, c *Class) float64 {
			if !has(c, "Aquatic Chronic", category) {
				return 0
			}
			if category == "1" {
				return p.Percent * factor(p.MChron)
			}
			return p.Percent
		})
		return total
	}
	plain := func(category string) float64 {
		total, _ := m.sum(func(p *Part, c *Class) float64 { return when(has(c, "Aquatic Chronic", category), p.Percent) })
		return total
	}
	one, two, three, four := chronic("1"), chronic("2"), chronic("3"), chronic("4")
	if one+two+three+four == 0 {
		return
	}
	for _, rule := range []struct {
		category, says string
		sum            float64
	}{
		{"1", "M × chronic 1", one}, {"2", "10 × M × chronic 1 + chronic 2", 10*one + two},
		{"3", "100 × M × chronic 1 + 10 × chronic 2 + chronic 3", 100*one + 10*two + three}, {"4", "chronic 1 + 2 + 3 + 4", plain("1") + two + three + four},
	} {
		if rule.sum >= 25 {
			m.step("Water, long-term: %s = %s %%, at least 25 %%: Aquatic Chronic %s (table 4.1.2).", rule.says, number(rule.sum), rule.category)
			m.classes = append(m.classes, "Aquatic Chronic "+rule.category)
			return
		}
	}
	m.step("Water, long-term: no sum reaches 25 %%: not classified (table 4.1.2).")
}

// ParseMixture reads the parts of a mixture, "12% 1310-73-2; 3% Skin Irrit. 2 and Eye Irrit. 2; 8% unknown": per cent, and a CAS
// or EC number or the classes of the part. Its error is an *Error that names the part.
func (b *Book) ParseMixture(text string, rules RuleSet) (parts []Part, err error) {
	for item := range strings.SplitSeq(text, ";") {
		if item = strings.TrimSpace(item); item == "" {
			continue
		}
		percent, of, cut := strings.Cut(item, "%")
		value, wrongNumber := strconv.ParseFloat(strings.TrimSpace(strings.ReplaceAll(percent, ",", ".")), 64)
		of = strings.TrimSpace(of)
		if !cut || wrongNumber != nil || of == "" {
			return nil, wrong("%q is no part of a mixture; write like 12%% 1310-73-2, or 3%% Skin Irrit. 2.", item)
		}
		p := Part{Name: of, Percent: value}
		switch {
		case strings.EqualFold(of, "unknown"):
			p.Unknown = true
		case of[0] >= '0' && of[0] <= '9':
			s, err := b.Substance(of)
			if err != nil {
				return nil, err
			}
			p.Name = s.Names["en"]
			if s.Classification != "" {
				p.Classes, err = b.Parse(s.Classification, CLP)
			}
			if err != nil {
				return nil, err
			}
			own, err := b.ParseLimits(s.Limits)
			if err != nil {
				return nil, err
			}
			p.Limits, p.MAcute, p.MChron = own.Specific, own.MAcute, own.MChronic
		default:
			if p.Classes, err = b.Parse(strings.ReplaceAll(of, " and ", ";"), rules); err != nil {
				return nil, err
			}
		}
		parts = append(parts, p)
	}
	return parts, nil
}
