package hazard

import (
	"slices"
	"strings"
	"unicode"
)

// A limit is the concentration from which one ingredient gives its class to the mixture.
type limit struct {
	class, category string
	from, below     float64 // per cent; below 0: no bound
	gives           string  // category
	table           string
}

// generic are the limits for each ingredient (CLP, annex I, tables 3.4.5, 3.5.2, 3.6.2, 3.7.2, 3.8.3, 3.9.4, 3.11.2,
// 4.2.2, 4.3.2, 4.4.2 and 5.1).
var generic = []limit{
	{"Resp. Sens.", "1A", 0.1, 0, "1", "3.4.5"}, {"Resp. Sens.", "1B", 1, 0, "1", "3.4.5"},
	{"Resp. Sens.", "1", 1, 0, "1", "3.4.5"},
	{"Skin Sens.", "1A", 0.1, 0, "1", "3.4.5"}, {"Skin Sens.", "1B", 1, 0, "1", "3.4.5"},
	{"Skin Sens.", "1", 1, 0, "1", "3.4.5"},
	{"Muta.", "1A", 0.1, 0, "1A", "3.5.2"}, {"Muta.", "1B", 0.1, 0, "1B", "3.5.2"}, {"Muta.", "2", 1, 0, "2", "3.5.2"},
	{"Carc.", "1A", 0.1, 0, "1A", "3.6.2"}, {"Carc.", "1B", 0.1, 0, "1B", "3.6.2"}, {"Carc.", "2", 1, 0, "2", "3.6.2"},
	{"Repr.", "1A", 0.3, 0, "1A", "3.7.2"}, {"Repr.", "1B", 0.3, 0, "1B", "3.7.2"}, {"Repr.", "2", 3, 0, "2", "3.7.2"},
	{"Lact.", "", 0.3, 0, "", "3.7.2"},
	{"STOT SE", "1", 10, 0, "1", "3.8.3"}, {"STOT SE", "1", 1, 10, "2", "3.8.3"}, {"STOT SE", "2", 10, 0, "2", "3.8.3"},
	{"STOT RE", "1", 10, 0, "1", "3.9.4"}, {"STOT RE", "1", 1, 10, "2", "3.9.4"}, {"STOT RE", "2", 10, 0, "2", "3.9.4"},
	{"ED HH", "1", 0.1, 0, "1", "3.11.2"}, {"ED HH", "2", 1, 0, "2", "3.11.2"}, {"ED ENV", "1", 0.1, 0, "1", "4.2.2"},
	{"ED ENV", "2", 1, 0, "2", "4.2.2"},
	{"PBT", "", 0.1, 0, "", "4.3.2"}, {"vPvB", "", 0.1, 0, "", "4.3.2"}, {"PMT", "", 0.1, 0, "", "4.4.2"},
	{"vPvM", "", 0.1, 0, "", "4.4.2"},
	{"Ozone", "1", 0.1, 0, "1", "5.1"},
}

// stricter are the limits of HazCom that are lower (29 CFR 1910.1200, appendix A, tables A.4.5, A.6.1, A.7.1, A.8.2 and
// A.9.3), and the lower ones of the two that GHS leaves to the authority (GHS, tables 3.4.5, 3.6.1, 3.7.1, 3.8.2 and
// 3.9.3).
var stricter = []limit{
	{"Resp. Sens.", "1", 0.1, 0, "1", "3.4.5"}, {"Skin Sens.", "1", 0.1, 0, "1", "3.4.5"},
	{"Carc.", "2", 0.1, 0, "2", "3.6.1"},
	{"Repr.", "1A", 0.1, 0, "1A", "3.7.1"}, {"Repr.", "1B", 0.1, 0, "1B", "3.7.1"},
	{"Repr.", "2", 0.1, 0, "2", "3.7.1"}, {"Lact.", "", 0.1, 0, "", "3.7.1"},
	{"STOT SE", "1", 1, 0, "1", "3.8.2"}, {"STOT SE", "2", 1, 0, "2", "3.8.2"}, {"STOT RE", "1", 1, 0, "1", "3.9.3"},
	{"STOT RE", "2", 1, 0, "2", "3.9.3"},
}

// tables returns the generic limits of the rules, and how their tables are named.
func (m *mixing) tables() (limits []limit, named string) {
	if m.rules == CLP {
		return generic, "table "
	}
	for _, g := range generic {
		if !slices.ContainsFunc(stricter, func(s limit) bool {
			return s.class == g.class &&
				s.category == g.category
		}) {
			limits = append(limits, g)
		}
	}
	named = map[RuleSet]string{GHS: "GHS, table ", HazCom: "29 CFR 1910.1200, appendix A, as GHS table "}[m.rules]
	return append(limits, stricter...), named
}

// genericOf returns from which concentration an ingredient gives a class by the rules; of sums it is the generic limit
// of the sum.
func (m *mixing) genericOf(c *Class) (from float64) {
	switch {
	case c.Class == "Skin Corr.":
		return skinCorroded
	case c.Class == "Eye Dam.":
		return eyesDamaged
	case c.Class == "Skin Irrit." || c.Class == "Eye Irrit.":
		return irritated
	case has(c, "STOT SE", "3"):
		return onceExposed
	}
	all, _ := m.tables()
	for _, l := range all {
		if l.class == c.Class && l.gives == c.Category && (from == 0 || l.from < from) {
			from = l.from
		}
	}
	return from
}

// byLimit takes classes over from single ingredients.
func (m *mixing) byLimit() {
	all, named := m.tables()
	for i := range m.parts {
		p := &m.parts[i]
		for j := range p.Classes {
			c := &p.Classes[j]
			own := !p.both && slices.ContainsFunc(p.Limits, func(l Specific) bool {
				return l.euh == "" && l.class.Class == c.Class.Class && l.class.Category == c.Class.Category &&
					l.single()
			})
			for _, l := range all {
				if l.class != c.Class.Class || l.category != c.Class.Category || own {
					continue
				}
				if from := l.from; m.form == Gas && l.class == "Resp. Sens." && l.category != "1A" {
					l.from = min(from, 0.2)
				}
				if p.Percent < l.from {
					m.step("%s: %s %% %s, below %s %%: not %s (%s%s).", c.Class.Name, number(p.Percent), p.Name,
						number(l.from), given{l.class, l.gives, ""}, named, l.table)
				} else if l.below == 0 || p.Percent < l.below {
					m.take(p, c, l.class, l.gives, "at least "+number(l.from)+" %", named+l.table)
				}
			}
		}
		for _, l := range p.Limits {
			if l.euh != "" || !l.single() {
				continue
			}
			detail := Classified{Class: l.class}
			for _, c := range p.Classes { // its organs and letters are those of the substance
				if c.Class.Class == l.class.Class && c.Class.Category <= l.class.Category {
					detail = c
				}
			}
			if p.Percent >= l.From && (l.Below == 0 || p.Percent < l.Below) {
				m.take(p, &detail, l.class.Class, l.class.Category, "at least its own limit of "+number(l.From)+" %",
					"article 10")
			} else if p.Percent < l.From {
				m.step("%s: %s %% %s, below its own limit of %s %% (article 10).", l.class.Name, number(p.Percent),
					p.Name, number(l.From))
			}
		}
	}
	m.once()
	m.letters()
}

// take takes a class over from a part.
func (m *mixing) take(p *Part, c *Classified, class, category, because, clause string) {
	if c.Class.Rules != nil && !slices.Contains(c.Class.Rules, m.rules) {
		m.step("%s of %s is no class under these rules (%s); it is not said.", c, p.Name, m.rules)
		return
	}
	detail := c.Detail
	if c.Class.Class == "Carc." && c.Class.Of == "inhalation" {
		detail = "inhalation"
	}
	if class == "Repr." { // the letters, for the lowest limit of each
		detail = strings.TrimLeft(strings.Join(c.Hazards, ""), "H0123456789")
		if strings.HasPrefix(category, "2") {
			detail = suspected(detail)
		}
		if m.rules != CLP && detail != "" && c.Detail != "" {
			detail = c.Detail
		}
	}
	g := given{class, category, detail}
	m.step("%s: %s %% %s, %s: %s (%s).", c.Class.Name, number(p.Percent), p.Name, because, g, clause)
	m.gives(class, category, detail)
	m.contributes(p)
}

// suspected are the letters of category 2 for those of a part: of one that harms the unborn child for sure and is
// suspected of harming fertility (Df), the limit of category 2 is that of fertility.
func suspected(letters string) string {
	if small := strings.Map(func(r rune) rune {
		if unicode.IsLower(r) {
			return r
		}
		return -1
	}, letters); small != "" {
		return small
	}
	small := strings.ToLower(letters)
	if small == "df" {
		return "fd"
	}
	return small
}

// once sums what irritates the airways or makes drowsy (CLP, annex I, 3.8.3.4.5).
func (m *mixing) once() {
	for _, of := range []string{"respiratory irritation", "narcotic effects"} {
		total, parts := m.sum(func(p *Part, c *Class) float64 {
			plain := when(has(c, "STOT SE", "3") && c.Of == of, p.Percent)
			for _, l := range p.Limits { // some substances have the class from their limit on alone
				if l.euh == "" && has(l.class, "STOT SE", "3") && l.class.Of == of {
					return max(p.Percent*onceExposed/l.From, when(p.both, plain))
				}
			}
			return plain
		})
		switch {
		case total >= onceExposed:
			m.step("STOT SE 3, %s: %s = %s %%, at least 20 %%: STOT SE 3 (3.8.3.4.5).", of, parts, number(total))
			m.gives("STOT SE", "3", of)
			m.contributing("STOT SE")
		case total > 0:
			m.step("STOT SE 3, %s: %s = %s %%, below 20 %%: not classified (3.8.3.4.5).", of, parts, number(total))
		}
	}
}

// letters puts the letters of reproductive toxicity of all parts together: H360D of one and H361f of another are H360Df
// (CLP, annex VI, 1.1.2.1.2).
func (m *mixing) letters() {
	var sure, suspected, category string
	open := false
	for _, g := range m.given {
		if g.class != "Repr." {
			continue
		}
		open = open || g.detail == "" || routes[plain(g.detail)] != ""
		for _, letter := range g.detail {
			switch {
			case strings.ContainsRune("FD", letter) && !strings.ContainsRune(sure, letter):
				sure += string(letter)
			case strings.ContainsRune("fd", letter) && !strings.ContainsRune(suspected, letter):
				suspected += string(letter)
			}
		}
		if category == "" || g.category < category {
			category = g.category
		}
	}
	if category == "" || open {
		return
	}
	detail := ""
	for _, letter := range []string{"F", "D"} {
		switch {
		case strings.Contains(sure, letter):
			detail += letter
		case strings.Contains(suspected, strings.ToLower(letter)):
			detail += strings.ToLower(letter)
		}
	}
	if detail == "fD" { // as the statements are called
		detail = "Df"
	}
	m.given = slices.DeleteFunc(m.given, func(g given) bool { return g.class == "Repr." })
	m.gives("Repr.", category, detail)
}
