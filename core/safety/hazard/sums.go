package hazard

import (
	"fmt"
	"strconv"
	"strings"
)

// acute works out the estimate of the mixture (CLP, annex I, 3.1.3.6.1 and 3.1.3.6.2.3).
func (m *mixing) acute(route string, form Form) {
	kind, unit := route, "mg/kg"
	if route == "inhalation" {
		kind, unit = string(form), "mg/l"
		if form == Gas {
			unit = "ppmV"
		}
	}
	of := limits[kind]
	bounds := of[:]
	if m.rules == GHS && fifth[kind].bound > 0 {
		bounds = append(bounds[:len(bounds):len(bounds)], fifth[kind].bound)
	}
	reciprocal, unknown := 0.0, 0.0
	var said []string
	var counted []*Part
	for i := range m.parts {
		p := &m.parts[i]
		if p.Unknown && p.Percent >= 1 {
			unknown += p.Percent
		}
		ate, from := max(p.ATE[route], p.ATE[kind]), "given"
		for _, c := range p.Classes {
			if ate == 0 && c.Class.Class == "Acute Tox." && c.Class.Of == route {
				if c.Class.Category == "5" { // GHS, table 3.1.2
					ate = fifth[kind].point
				} else {
					ate = points[kind][c.Class.Category[0]-'1']
				}
				from = "for category " + c.Class.Category
			}
		}
		cutOff := 1.0
		if ate > 0 && ate <= limits[kind][2] {
			cutOff = 0.1
		}
		switch {
		case ate == 0 || ate > bounds[len(bounds)-1]:
		case p.Percent < cutOff: // CLP, annex I, 1.1.2.2.2, table 1.1
			m.step("Acute toxicity, %s: %s %% %s does not count, which it does from %s %% (table 1.1).", route,
				number(p.Percent), p.Name, number(cutOff))
		default:
			counted = append(counted, p)
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
		m.step("Acute toxicity, %s: %s %% are of unknown toxicity, which is above 10 %%: they are taken off the 100 "+
			"(3.1.3.6.2.3).", route, number(unknown))
	}
	ate := exact(whole / reciprocal)
	text := fmt.Sprintf("Acute toxicity, %s: ATE = %s / (%s) = %s %s (3.1.3.6)", route, number(whole),
		strings.Join(said, " + "), number(ate), unit)
	for i, limit := range bounds {
		if ate <= limit {
			m.step("%s, at most %s: category %d.", text, number(limit), i+1)
			m.gives("Acute Tox.", strconv.Itoa(i+1), route)
			for _, p := range counted {
				m.contributes(p)
			}
			return
		}
	}
	m.step("%s, above %s: not classified.", text, number(bounds[len(bounds)-1]))
}

// fifth is category 5 of acute toxicity, which GHS alone has (GHS, tables 3.1.1 and 3.1.2).
var fifth = map[string]struct{ bound, point float64 }{"oral": {5000, 2500}, "dermal": {5000, 2500}}

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
		return when(has(c, "Skin Corr.", "1") && (p.both || p.own("Skin Irrit.", "2") == 0), p.Percent)
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
		m.gives("Skin Corr.", category, "")
		m.contributing("Skin Corr.")
	case corrosive >= 1:
		m.step("Skin: %s = %s %% corrosive, at least 1 %% and below 5 %%: Skin Irrit. 2 (table 3.2.3).", of,
			number(corrosive))
		m.gives("Skin Irrit.", "2", "")
	case exact(irritant+10*corrosive) >= irritated:
		m.step("Skin: 10 × %s %% corrosive + %s %% irritant = %s %%, at least 10 %%: Skin Irrit. 2 (table 3.2.3).",
			number(corrosive), number(irritant), number(irritant+10*corrosive))
		m.gives("Skin Irrit.", "2", "")
	case m.mildly(irritant, corrosive):
	case irritant+corrosive > 0:
		m.step("Skin: 10 × %s %% corrosive + %s %% irritant (%s) = %s %%, below 10 %%: not classified (table 3.2.3).",
			number(corrosive), number(irritant), joined(of, alsoOf), number(irritant+10*corrosive))
	}
	whole, all = m.sum(func(p *Part, c *Class) float64 { return p.damages(c) })
	damaging, of := m.sum(func(p *Part, c *Class) float64 {
		return when((p.both || p.own("Eye Irrit.", "2") == 0) && (has(c, "Skin Corr.", "1") || has(c, "Eye Dam.", "1")),
			p.Percent)
	})
	irritant, alsoOf = m.sum(func(p *Part, c *Class) float64 { return p.share(c, irritated, "Eye Irrit.", "2") })
	switch {
	case whole >= eyesDamaged:
		m.step("Eyes: %s = %s %% damaging, at least 3 %%: Eye Dam. 1 (table 3.3.3).", all, number(whole))
		m.gives("Eye Dam.", "1", "")
		m.contributing("Skin Corr.", "Eye Dam.")
	case damaging >= 1:
		m.step("Eyes: %s = %s %% damaging, at least 1 %% and below 3 %%: Eye Irrit. 2 (table 3.3.3).", of,
			number(damaging))
		m.gives("Eye Irrit.", "2", "")
	case exact(irritant+10*damaging) >= irritated:
		m.step("Eyes: 10 × %s %% damaging + %s %% irritant = %s %%, at least 10 %%: Eye Irrit. 2 (table 3.3.3).",
			number(damaging), number(irritant), number(irritant+10*damaging))
		m.gives("Eye Irrit.", "2", "")
	case irritant+damaging > 0:
		m.step("Eyes: 10 × %s %% damaging + %s %% irritant (%s) = %s %%, below 10 %%: not classified (table 3.3.3).",
			number(damaging), number(irritant), joined(of, alsoOf), number(irritant+10*damaging))
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

// contributing notes the parts that have some classes, as why the mixture has a class.
func (m *mixing) contributing(classes ...string) {
	for i := range m.parts {
		for _, c := range m.parts[i].Classes {
			for _, class := range classes {
				if c.Class.Class == class {
					m.contributes(&m.parts[i])
				}
			}
		}
	}
}

// mildly sums to irritation of category 3, which GHS alone has (GHS, table 3.2.3); false: it is not reached.
func (m *mixing) mildly(irritant, corrosive float64) bool {
	if m.rules != GHS {
		return false
	}
	mild, _ := m.sum(func(p *Part, c *Class) float64 { return when(has(c, "Skin Irrit.", "3"), p.Percent) })
	sum := exact(10*corrosive + irritant)
	if sum < 1 && exact(sum+mild) < irritated {
		if mild > 0 {
			m.step("Skin: 10 × corrosive + irritant + mild = %s %%, below 10 %%: not classified (GHS, table 3.2.3).",
				number(sum+mild))
		}
		return mild > 0
	}
	m.step("Skin: 10 × corrosive + irritant = %s %%, mild %s %%: Skin Irrit. 3 (GHS, table 3.2.3).", number(sum),
		number(mild))
	m.gives("Skin Irrit.", "3", "")
	return true
}

// lesserAcute sums short-term hazards of categories 2 and 3, which CLP does not have (GHS, table 4.1.3).
func (m *mixing) lesserAcute(one float64) {
	of := func(category string) float64 {
		total, _ := m.sum(func(p *Part, c *Class) float64 { return when(has(c, "Aquatic Acute", category), p.Percent) })
		return total
	}
	two, three := of("2"), of("3")
	switch {
	case exact(10*one+two) >= 25:
		m.step("Water, short-term: 10 × M × acute 1 + acute 2 = %s %%, at least 25 %%: Aquatic Acute 2 (GHS, table "+
			"4.1.3).", number(10*one+two))
		m.gives("Aquatic Acute", "2", "")
	case exact(100*one+10*two+three) >= 25:
		m.step("Water, short-term: 100 × M × acute 1 + 10 × acute 2 + acute 3 = %s %%, at least 25 %%: Aquatic Acute "+
			"3 (GHS, table 4.1.3).", number(100*one+10*two+three))
		m.gives("Aquatic Acute", "3", "")
	}
}

// water sums hazards to the aquatic environment (CLP, annex I, tables 4.1.1 and 4.1.2).
func (m *mixing) water() {
	factor := func(f float64) float64 { return max(f, 1) }
	acute, of := m.sum(func(p *Part, c *Class) float64 {
		return when(has(c, "Aquatic Acute", "1"),
			p.Percent*factor(p.MAcute))
	})
	if acute >= 25 {
		m.step("Water, short-term: %s = %s %%, with factors, at least 25 %%: Aquatic Acute 1 (table 4.1.1).", of,
			number(acute))
		m.gives("Aquatic Acute", "1", "")
	} else if acute > 0 {
		m.step("Water, short-term: %s = %s %%, with factors, below 25 %%: not category 1 (table 4.1.1).", of,
			number(acute))
	}
	if m.rules == GHS && acute < 25 {
		m.lesserAcute(acute)
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
		total, _ := m.sum(func(p *Part, c *Class) float64 {
			return when(has(c, "Aquatic Chronic", category),
				p.Percent)
		})
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
		{"3", "100 × M × chronic 1 + 10 × chronic 2 + chronic 3", 100*one + 10*two + three},
		{"4", "chronic 1 + 2 + 3 + 4", plain("1") + two + three + four},
	} {
		if exact(rule.sum) >= 25 {
			m.step("Water, long-term: %s = %s %%, at least 25 %%: Aquatic Chronic %s (table 4.1.2).", rule.says,
				number(rule.sum), rule.category)
			m.gives("Aquatic Chronic", rule.category, "")
			return
		}
	}
	m.step("Water, long-term: no sum reaches 25 %%: not classified (table 4.1.2).")
}
