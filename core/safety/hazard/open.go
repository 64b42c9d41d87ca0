package hazard

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// A family is physical hazards that are tested together: what a mixture is of them cannot be worked out from its parts
// (CLP, article 8(2)).
type family struct {
	id      string // the name of the answer
	classes []string
	asks    string
	clause  string
}

// families are all of them but flammable liquids, which a table decides.
var families = []family{
	{"explosive", []string{"Unst. Expl.", "Expl.", "Desen. Expl."}, "Is the mixture explosive, by test?", "2.1, 2.17"},
	{"flammable gas", []string{"Flam. Gas"}, "Is the mixture a flammable gas, by test or calculation?", "2.2"},
	{"aerosol", []string{"Aerosol"}, "Which aerosol is it, by test or content?", "2.3"},
	{"chemical under pressure", []string{"Chem. Press."}, "Which chemical under pressure is it?", "2.3 A"},
	{"oxidising", []string{"Ox. Gas", "Ox. Liq.", "Ox. Sol."}, "Is the mixture oxidising, by test?", "2.4, 2.13, 2.14"},
	{"gas under pressure", []string{"Press. Gas"}, "Is the mixture packed as a gas under pressure?", "2.5"},
	{"flammable solid", []string{"Flam. Sol."}, "Is the mixture a flammable solid, by test?", "2.7"},
	{"self-reactive", []string{"Self-react."}, "Is the mixture self-reactive, by test?", "2.8"},
	{"pyrophoric", []string{"Pyr. Liq.", "Pyr. Sol."}, "Does the mixture catch fire in air, by test?", "2.9, 2.10"},
	{"self-heating", []string{"Self-heat."}, "Does the mixture heat itself, by test?", "2.11"},
	{"water-reactive", []string{"Water-react."}, "Does the mixture give off flammable gases with water, by test?",
		"2.12"},
	{"organic peroxide", []string{"Org. Perox."},
		"Which organic peroxide is the mixture, by its content of oxygen or by test?", "2.15"},
	{"corrosive to metals", []string{"Met. Corr."},
		"Does the mixture corrode steel or aluminium by more than 6.25 mm a year at 55 °C?", "2.16"},
}

// none is the answer that a mixture has no hazard of a family.
const none = "none"

// partsWith returns the parts that have some classes.
func (m *mixing) partsWith(classes ...string) (names []string) {
	for i := range m.parts {
		if slices.ContainsFunc(m.parts[i].Classes,
			func(c Classified) bool { return slices.Contains(classes, c.Class.Class) }) {
			names = append(names, m.parts[i].Name)
		}
	}
	return names
}

// answer takes an answer; false: there is none, and it is open.
func (a *asking) answer(o Open) (answer string, is bool, err error) {
	list := &a.answered
	if answer, is = a.known[o.ID]; !is {
		list = &a.open
	} else if o.Answer = answer; len(o.Choices) > 0 && !slices.Contains(o.Choices, answer) {
		return "", false, unknownChoice.With(o.ID, answer, strings.Join(o.Choices, ", "))
	}
	if !slices.ContainsFunc(*list, func(other Open) bool { return other.ID == o.ID }) {
		*list = append(*list, o)
	}
	return answer, is, nil
}

// measured takes an answer that is a number, or none.
func (a *asking) measured(o Open) (value float64, isNone, is bool, err error) {
	answer, is, err := a.answer(o)
	if !is || err != nil || answer == none {
		return 0, answer == none, is, err
	}
	text := strings.TrimSpace(strings.TrimSuffix(answer, o.Unit))
	if value, err = strconv.ParseFloat(strings.ReplaceAll(strings.ReplaceAll(text, "−", "-"), ",", "."),
		64); err != nil {
		return 0, false, false, answerNotNumber.With(o.ID, answer, o.Unit)
	}
	return value, false, true, nil
}

// physical takes physical hazards from what is known. Its error is a *refusal.Error.
func (m *mixing) physical(b *Book) error {
	if err := m.flammable(); err != nil {
		return err
	}
	for _, f := range families {
		parts := m.partsWith(f.classes...)
		if parts == nil {
			continue
		}
		o := Open{ID: f.id, Text: f.asks, Because: parts, Clause: "CLP, annex I, " + f.clause, Choices: []string{none}}
		for i := range b.Classes {
			c := &b.Classes[i]
			if name := c.String(); slices.Contains(f.classes, c.Class) &&
				(c.Rules == nil || slices.Contains(c.Rules, m.rules)) && !slices.Contains(o.Choices, name) {
				o.Choices = append(o.Choices, name)
			}
		}
		answer, is, err := m.answer(o)
		switch {
		case err != nil:
			return err
		case is && answer == none:
			m.step("%s: not classified, as answered (%s).", f.id, o.Clause)
		case is:
			m.step("%s: %s, as answered (%s).", f.id, answer, o.Clause)
			class, err := b.Parse(answer, m.rules)
			if err != nil {
				return err
			}
			m.gives(class[0].Class.Class, class[0].Class.Category, class[0].Class.Of)
		}
	}
	return nil
}

// summed are classes that a rule of arithmetic or a question of their own deals with, whatever their category.
var summed = []string{"Skin Corr.", "Skin Irrit.", "Eye Dam.", "Eye Irrit.", "STOT SE", "Aquatic Acute",
	"Aquatic Chronic", "Flam. Liq.", "Asp. Tox."}

// rest asks of each class of a part that no rule here deals with.
func (m *mixing) rest() error {
	all, _ := m.tables()
	asked := map[string]bool{}
	for i := range m.parts {
		for _, c := range m.parts[i].Classes {
			name := c.Class.String()
			dealt := slices.Contains(summed, c.Class.Class) ||
				slices.ContainsFunc(families, func(f family) bool {
					return slices.Contains(f.classes,
						c.Class.Class)
				}) ||
				slices.ContainsFunc(all, func(l limit) bool { return l.class == c.Class.Class }) ||
				c.Class.Class == "Acute Tox." && (c.Class.Category != "5" || m.rules == GHS &&
					fifth[c.Class.Of].bound > 0)
			if dealt || asked[name] {
				continue
			}
			asked[name] = true
			answer, is, err := m.answer(Open{ID: name,
				Text: "No rule here tells whether the mixture is this, too. Is it?", Choices: []string{none, name},
				Because: m.partsWith(c.Class.Class), Clause: "by test or judgement"})
			if err != nil {
				return err
			}
			if is && answer != none {
				m.step("%s, as answered.", name)
				m.gives(c.Class.Class, c.Class.Category, c.Class.Of)
			}
		}
	}
	return nil
}

// Flash and boiling points that part the categories of flammable liquids, °C (CLP, annex I, table 2.6.1; GHS, table
// 2.6.1, for category 4).
const (
	flashHigh   = 23
	boilingLow  = 35
	flashThird  = 60
	flashGasOil = 75 // of gas oil, diesel and light heating oil (note to table 2.6.1)
	flashFourth = 93
)

// gasOils are substances to which the note on gas oils applies.
var gasOils = []string{"68334-30-5", "68476-30-2", "68476-34-6", "64741-44-2"}

// flammable takes the category of a flammable liquid from its flash and boiling points.
func (m *mixing) flammable() error {
	parts := m.partsWith("Flam. Liq.")
	if parts == nil {
		return nil
	}
	flash, isNone, is, err := m.measured(Open{ID: "flash point",
		Text: "What is the flash point of the mixture, closed cup? Write none where it has none or is no liquid.",
		Unit: "°C", Because: parts,
		Clause: "CLP, annex I, 2.6"})
	if !is || err != nil {
		return err
	}
	third := float64(flashThird)
	for i := range m.parts {
		if slices.Contains(gasOils, m.parts[i].CAS) {
			third = flashGasOil
		}
	}
	gives := func(category, because string) {
		m.step("Flammable liquids: %s: Flam. Liq. %s (table 2.6.1).", because, category)
		m.gives("Flam. Liq.", category, "")
	}
	text := fmt.Sprintf("flash point %s °C", number(flash))
	switch {
	case isNone:
		m.step("Flammable liquids: no flash point, as answered: not classified (2.6).")
	case flash < flashHigh:
		boils, never, is, err := m.measured(Open{ID: "boiling point",
			Text: "What is the initial boiling point of the mixture?", Unit: "°C", Because: parts,
			Clause: "CLP, annex I, table 2.6.1"})
		switch {
		case err != nil:
			return err
		case !is:
		case !never && boils <= boilingLow:
			gives("1", fmt.Sprintf("%s, boiling point %s °C", text, number(boils)))
		default:
			gives("2", fmt.Sprintf("%s, boiling point above %d °C", text, boilingLow))
		}
	case flash <= third:
		gives("3", text)
	case flash <= flashFourth && m.rules != CLP:
		gives("4", text)
	default:
		m.step("Flammable liquids: %s, above %s °C: not classified (table 2.6.1).", text, number(third))
	}
	return nil
}

// Limits of aspiration (CLP, annex I, 3.10.3.3.1; GHS, 3.10.3.3.1.2 for category 2).
const (
	aspirated  = 10   // per cent of parts
	thin       = 20.5 // mm²/s at 40 °C
	thinSecond = 14
)

// aspiration sums what harms where it comes into the lungs, and asks how thin the mixture is.
func (m *mixing) aspiration() {
	if m.form == Gas {
		return
	}
	one, of := m.sum(func(p *Part, c *Class) float64 { return when(has(c, "Asp. Tox.", "1"), p.Percent) })
	two, ofTwo := m.sum(func(p *Part, c *Class) float64 { return when(has(c, "Asp. Tox.", "2"), p.Percent) })
	if one+two == 0 {
		return
	}
	if one < aspirated && two < aspirated {
		m.step("Aspiration: %s = %s %%, below 10 %%: not classified (3.10.3.3.1).", joined(of, ofTwo), number(one+two))
		return
	}
	viscosity, solid, is, err := m.measured(Open{ID: "viscosity",
		Text:    "What is the kinematic viscosity of the mixture at 40 °C? Write none where it is no liquid.",
		Unit:    "mm²/s",
		Because: m.partsWith("Asp. Tox."), Clause: "CLP, annex I, 3.10.3.3.1"})
	switch {
	case err != nil:
		m.failed = err
	case !is:
	case !solid && one >= aspirated && viscosity <= thin:
		m.step("Aspiration: %s = %s %%, at least 10 %%, and %s mm²/s, at most 20.5: Asp. Tox. 1 (3.10.3.3.1).", of,
			number(one), number(viscosity))
		m.gives("Asp. Tox.", "1", "")
		m.contributing("Asp. Tox.")
	case !solid && two >= aspirated && viscosity <= thinSecond:
		m.step("Aspiration: %s = %s %%, at least 10 %%, and %s mm²/s, at most 14: Asp. Tox. 2 (GHS, 3.10.3.3.1.2).",
			ofTwo, number(two), number(viscosity))
		m.gives("Asp. Tox.", "2", "")
	default:
		m.step("Aspiration: %s = %s %%, but too thick to be aspirated, as answered: not classified (3.10.3.3.1).",
			joined(of, ofTwo), number(one+two))
	}
}

// name asks for the names of parts that stand on the label (CLP, article 18(3)(b)): a class is none.
func (m *mixing) name() {
	if m.rules != CLP {
		return
	}
	for i := range m.parts {
		p := &m.parts[i]
		if p.Nameless && m.contributors[p.Name] {
			m.open = append(m.open, Open{ID: "name of " + p.Name,
				Text: fmt.Sprintf("What is the part called that is %s? It stands on the label: write it before "+
					"its classes, such as Kelpol: %s.", p.Name, p.Name),
				Because: []string{p.Name}, Clause: "CLP, article 18(3)(b)"})
		}
	}
}
