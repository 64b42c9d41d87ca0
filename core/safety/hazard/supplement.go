package hazard

import (
	"fmt"
	"slices"
	"strings"
)

// carried are EUH statements of ingredients of which only a person knows whether the mixture has them (CLP, annex II,
// 1.1 and 1.2).
var carried = map[string]string{
	"EUH001": "Is the mixture explosive when dry?", "EUH014": "Does the mixture react violently with water?",
	"EUH018": "May the mixture form a flammable or explosive mixture of vapour and air in use?",
	"EUH019": "May the mixture form explosive peroxides?", "EUH029": "Does the mixture give off toxic gas with water?",
	"EUH031": "Does the mixture give off toxic gas with acids?",
	"EUH032": "Does the mixture give off very toxic gas with acids?",
	"EUH044": "May the mixture explode when it is heated under confinement?",
	"EUH066": "May the mixture dry or crack the skin with repeated exposure?",
	"EUH070": "Is the mixture toxic by eye contact?",
}

// Substances of which mixtures have a statement of their own (CLP, annex II, part 2), by their CAS numbers.
var (
	isocyanates = []string{"101-68-8", "584-84-9", "26471-62-5", "91-08-7", "9016-87-9", "822-06-0", "4098-71-9",
		"5873-54-1", "26447-40-5", "28182-81-2", "5124-30-1"}
	cyanoacrylates = []string{"7085-85-0", "137-05-3", "6606-65-1", "27816-23-5"}
	epoxies        = []string{"25068-38-6", "1675-54-3", "9003-36-5", "28064-14-4", "2425-79-8", "16096-31-4",
		"2210-79-9", "68609-97-2", "106-89-8"}
	hypochlorites = []string{"7681-52-9", "7778-54-3", "10022-70-5", "2893-78-9", "51580-86-0", "87-90-1"}
	titanium      = "13463-67-7"
)

// supplement adds what stands on the label besides: statements that parts carry on, those of annex II, and how much is
// of unknown toxicity.
func (m *mixing) supplement(b *Book) {
	m.unknown()
	if m.rules != CLP {
		m.ofHazCom()
		if m.rules == HazCom {
			m.ofOSHA()
		}
		return
	}
	for _, code := range b.Codes() {
		if code == "EUH071" {
			m.airways()
		} else if carried[code] != "" {
			m.carry(code)
		}
	}
	m.special("EUH202", "cyanoacrylates (annex II, 2.3)", 0, cyanoacrylates...)
	m.special("EUH204", "isocyanates (annex II, 2.4)", 0, isocyanates...)
	m.special("EUH205", "epoxy constituents (annex II, 2.5)", 0, epoxies...)
	if m.public {
		m.special("EUH206", "active chlorine, supplied to the public (annex II, 2.6)", 1, hypochlorites...)
	}
	dust := "EUH211"
	if m.form == Dust {
		dust = "EUH212"
	}
	m.special(dust, "titanium dioxide (annex II, 2.12)", 1, titanium)
	m.uses()
	m.allergic()
	m.onRequest()
}

// A use is a statement of annex II, part 2, of mixtures with some substances that serve for something, which only a
// person knows.
type use struct {
	code, asks, clause string
	cas                []string
}

var usesOf = []use{
	{"EUH201", "Is it a paint or varnish with more than 0.15 % of lead?", "CLP, annex II, 2.1",
		[]string{"7439-92-1", "1317-36-8", "1314-41-6", "7758-97-6", "10099-74-8", "6080-56-4", "7446-14-2"}},
	{"EUH203", "Is it a cement, or a mixture with cement, with more than 0.0002 % of soluble chromium(VI)?",
		"CLP, annex II, 2.2", []string{"1333-82-0", "7778-50-9", "7789-12-0", "7789-09-5", "7789-00-6", "7775-11-3",
			"10294-40-3", "65997-15-1"}},
	{"EUH207", "Is it an alloy with cadmium for brazing or soldering?", "CLP, annex II, 2.7",
		[]string{"7440-43-9", "1306-19-0"}},
	{"EUH209", "It has no flash point, or one above 60 °C, a halogenated hydrocarbon, and more than 5 % of what is " +
		"flammable: does it become flammable in use?", "CLP, annex II, 2.9",
		[]string{"75-09-2", "67-66-3", "56-23-5", "79-01-6", "127-18-4", "71-55-6", "79-00-5", "79-34-5", "75-25-2",
			"106-94-5", "540-59-0", "107-06-2", "75-34-3", "78-87-5", "96-18-4"}},
}

// uses asks what a mixture serves for where that gives it a statement.
func (m *mixing) uses() {
	for _, u := range usesOf {
		var because []string
		for i := range m.parts {
			if slices.Contains(u.cas, m.parts[i].CAS) {
				because = append(because, m.parts[i].Name)
			}
		}
		if because == nil || u.code == "EUH209" && !m.becomesFlammable() {
			continue
		}
		choices := map[string][]string{"EUH201": {"no", "yes", "yes, in less than 125 ml"},
			"EUH209": {"no", "flammable", "highly flammable"}}[u.code]
		if choices == nil {
			choices = []string{"yes", "no"}
		}
		answer, is, err := m.answer(Open{ID: u.code, Text: u.asks, Choices: choices, Because: because,
			Clause: u.clause})
		switch {
		case err != nil:
			m.failed = err
		case !is:
		case answer == "no":
			m.step("%s: no, as answered (%s).", u.code, u.clause)
		case answer == "flammable" || answer == "yes, in less than 125 ml":
			m.step("%sA: %s, as answered (%s).", u.code, answer, u.clause)
			m.add(u.code+"A", because...)
		default:
			m.step("%s: %s, as answered (%s).", u.code, answer, u.clause)
			m.add(u.code, because...)
		}
	}
}

// becomesFlammable tells whether a mixture that is no flammable liquid has more than 5 % of what is flammable.
func (m *mixing) becomesFlammable() bool {
	if m.form == Gas || slices.ContainsFunc(m.given, func(g given) bool { return g.class == "Flam. Liq." }) {
		return false
	}
	share, _ := m.sum(func(p *Part, c *Class) float64 { return when(c.Class == "Flam. Liq.", p.Percent) })
	return share > 5
}

func (m *mixing) add(code string, because ...string) {
	if !slices.ContainsFunc(m.supplemental, func(r Reasoned) bool { return r.Code == code && r.Text == "" }) {
		m.supplemental = append(m.supplemental, Reasoned{Code: code, Because: because})
	}
}

// carry takes a statement of parts over, by their own limit, or by what is answered.
func (m *mixing) carry(code string) {
	var asking []string
	for i := range m.parts {
		p := &m.parts[i]
		if !slices.Contains(p.Supplemental, code) {
			continue
		}
		at := slices.IndexFunc(p.Limits, func(l Specific) bool { return l.euh == code })
		switch {
		case at < 0:
			asking = append(asking, p.Name)
		case p.Percent >= p.Limits[at].From:
			m.step("%s: %s %% %s, at least its own limit of %s %% (article 10).", code, number(p.Percent), p.Name,
				number(p.Limits[at].From))
			m.add(code, p.Name)
		default:
			m.step("%s: %s %% %s, below its own limit of %s %% (article 10).", code, number(p.Percent), p.Name,
				number(p.Limits[at].From))
		}
	}
	if asking == nil || slices.ContainsFunc(m.supplemental, func(r Reasoned) bool { return r.Code == code }) {
		return
	}
	answer, is, err := m.answer(Open{ID: code, Text: carried[code], Choices: []string{"yes", "no"}, Because: asking,
		Clause: "CLP, annex II, part 1"})
	switch {
	case err != nil:
		m.failed = err
	case is && answer == "yes":
		m.step("%s: yes, as answered (annex II, part 1).", code)
		m.add(code, asking...)
	case is:
		m.step("%s: no, as answered (annex II, part 1).", code)
	}
}

// airways takes EUH071 over where the mixture is corrosive (CLP, annex II, 1.2.6).
func (m *mixing) airways() {
	for i := range m.parts {
		p := &m.parts[i]
		if !slices.Contains(p.Supplemental, "EUH071") {
			continue
		}
		if slices.ContainsFunc(m.given, func(g given) bool { return g.class == "Skin Corr." }) {
			m.step("EUH071: %s corrodes the airways, and the mixture is corrosive (annex II, 1.2.6).", p.Name)
			m.add("EUH071", p.Name)
		} else {
			m.step("EUH071: the mixture is not corrosive, so that %s does not give it (annex II, 1.2.6).", p.Name)
		}
	}
}

// special says what mixtures with some substances, from a concentration on, say.
func (m *mixing) special(code, why string, from float64, cas ...string) {
	for i := range m.parts {
		p := &m.parts[i]
		if slices.Contains(cas, p.CAS) && p.Percent > from {
			m.step("%s: %s %% %s: %s.", code, number(p.Percent), p.Name, why)
			m.add(code, p.Name)
			return
		}
	}
}

// elicits returns from which concentration a sensitiser makes those ill who are sensitised (CLP, annex I, table 3.4.6);
// 0: the part is none.
func elicits(p *Part, class string) (from float64) {
	for _, c := range p.Classes {
		if c.Class.Class != class {
			continue
		}
		if from = 0.1; c.Class.Category == "1A" {
			from = 0.01
		}
		for _, l := range p.Limits {
			if l.euh == "" && l.class.Class == class && l.From/10 < from {
				from = l.From / 10
			}
		}
	}
	return from
}

// allergic names sensitisers that do not give the mixture their class (CLP, annex II, 2.8).
func (m *mixing) allergic() {
	var parts []*Part
	for i := range m.parts {
		p := &m.parts[i]
		for _, class := range []string{"Resp. Sens.", "Skin Sens."} {
			from := elicits(p, class)
			if from == 0 || slices.Contains(parts, p) || slices.Contains(isocyanates, p.CAS) ||
				slices.Contains(epoxies, p.CAS) || m.contributors[p.Name] &&
				slices.ContainsFunc(m.given, func(g given) bool { return g.class == class }) {
				continue
			}
			if p.Percent < from {
				m.step("EUH208: %s %% %s, below %s %%: it is not named (table 3.4.6).", number(p.Percent), p.Name,
					number(from))
			} else {
				m.step("EUH208: %s %% %s, at least %s %%: it is named (table 3.4.6; annex II, 2.8).", number(p.Percent),
					p.Name, number(from))
				parts = append(parts, p)
			}
		}
	}
	if parts == nil {
		return
	}
	said := Reasoned{Code: "EUH208", in: map[string]string{}}
	for _, p := range parts {
		said.Because = append(said.Because, p.Name)
		m.contributes(p)
	}
	for _, language := range Languages {
		var names []string
		for _, p := range parts {
			name := p.Names[language]
			if name == "" {
				name = p.Name
			}
			names = append(names, name)
		}
		said.in[language] = strings.Join(names, ", ")
	}
	m.supplemental = append(m.supplemental, said)
}

// onRequest says that a safety data sheet is to be had of a mixture that is not classified, but has hazardous parts
// (CLP, annex II, 2.10).
func (m *mixing) onRequest() {
	if len(m.classes) > 0 || m.public || len(m.open) > 0 {
		return
	}
	gas := m.form == Gas
	for i := range m.parts {
		p := &m.parts[i]
		from := 0.0
		for _, c := range p.Classes {
			one := 1.0
			if gas {
				one = 0.2
			}
			switch {
			case c.Class.Class == "Carc." || c.Class.Class == "Repr." || c.Class.Class == "Lact.":
				one = 0.1
			case c.Class.Class == "Skin Sens." || c.Class.Class == "Resp. Sens.":
				one = elicits(p, c.Class.Class)
			case c.Class.Class != "Acute Tox." && !strings.HasPrefix(c.Class.Class, "S") &&
				!strings.HasPrefix(c.Class.Class, "E") && !strings.HasPrefix(c.Class.Class, "A") &&
				c.Class.Class != "Muta." && c.Class.Class != "Ozone":
				continue // physical
			}
			if from == 0 || one < from {
				from = one
			}
		}
		if from > 0 && p.Percent >= from {
			m.step("EUH210: %s %% %s, at least %s %%, in a mixture that is not classified (annex II, 2.10).",
				number(p.Percent), p.Name, number(from))
			m.add("EUH210", p.Name)
			return
		}
	}
}

// unknownTexts say how much of a mixture is of unknown toxicity (CLP, annex I, 3.1.3.6.2.2; 29 CFR 1910.1200, appendix
// C.3.3).
var unknownTexts = map[string]string{
	"en": "%s %% of the mixture consists of ingredients of unknown acute toxicity.",
	"de": "%s %% des Gemischs bestehen aus Bestandteilen unbekannter akuter Toxizität.",
	"fr": "%s %% du mélange sont constitués de composants dont la toxicité aiguë n’est pas connue.",
	"es": "El %s %% de la mezcla está compuesto por componentes de toxicidad aguda desconocida.",
	"it": "Il %s %% della miscela è costituito da componenti di tossicità acuta sconosciuta.",
	"nl": "%s %% van het mengsel bestaat uit bestanddelen met onbekende acute toxiciteit.",
	"pl": "%s %% mieszaniny stanowią składniki o nieznanej toksyczności ostrej.",
	"pt": "%s %% da mistura são constituídos por componentes de toxicidade aguda desconhecida.",
}

// unknown says how much of a mixture is of unknown toxicity, where one such part makes 1 % or more.
func (m *mixing) unknown() {
	share, most := 0.0, 0.0
	for i := range m.parts {
		if m.parts[i].Unknown {
			share, most = share+m.parts[i].Percent, max(most, m.parts[i].Percent)
		}
	}
	if most < 1 {
		return
	}
	clause := map[RuleSet]string{CLP: "CLP, annex I, 3.1.3.6.2.2", GHS: "GHS, 3.1.3.6.2.2",
		HazCom: "29 CFR 1910.1200, appendix C.3.3"}[m.rules]
	m.step("%s %% of the mixture are of unknown toxicity, which the label says (%s).", number(share), clause)
	said := Reasoned{Code: "unknown toxicity", Because: []string{clause}, in: map[string]string{}}
	for language, text := range unknownTexts {
		said.in[language] = fmt.Sprintf(text, number(share))
	}
	m.supplemental = append(m.supplemental, said)
}

// ofHazCom tells what of the parts belongs to CLP alone.
func (m *mixing) ofHazCom() {
	for i := range m.parts {
		for _, code := range m.parts[i].Supplemental {
			m.step("%s of %s belongs to CLP and is not said under these rules.", code, m.parts[i].Name)
		}
	}
}
