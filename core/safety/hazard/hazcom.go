package hazard

import (
	"fmt"
	"slices"
)

// asphyxiants are gases that displace oxygen and do nothing else to health (29 CFR 1910.1200(c), simple asphyxiant), by
// their CAS numbers.
var asphyxiants = []string{"7727-37-9", "7440-37-1", "7440-59-7", "7440-01-9", "7439-90-9", "7440-63-3", "124-38-9",
	"74-82-8", "74-84-0", "74-98-6", "106-97-8", "75-28-5", "1333-74-0", "74-85-1", "115-07-1", "2551-62-4",
	"811-97-2", "75-10-5", "754-12-1", "8006-14-2", "68476-85-7"}

// Statements of hazards that OSHA defines and the GHS does not (29 CFR 1910.1200, appendix C.4.30 and C.4.31). Each has
// the signal word Warning.
var (
	suffocation = map[string]string{"en": "May displace oxygen and cause rapid suffocation.",
		"de": "Kann Sauerstoff verdrängen und rasch zum Ersticken führen.",
		"fr": "Peut déplacer l’oxygène et causer rapidement la suffocation.",
		"es": "Puede desplazar el oxígeno y causar asfixia rápida.",
		"it": "Può spostare l’ossigeno e provocare rapidamente asfissia.",
		"nl": "Kan zuurstof verdringen en snel verstikking veroorzaken.",
		"pl": "Może wypierać tlen i powodować szybkie uduszenie.",
		"pt": "Pode deslocar o oxigénio e causar asfixia rápida."}
	dusty = map[string]string{"en": "May form combustible dust concentrations in air.",
		"de": "Kann in der Luft brennbare Staubkonzentrationen bilden.",
		"fr": "Peut former des concentrations de poussières combustibles dans l’air.",
		"es": "Puede formar concentraciones de polvo combustible en el aire.",
		"it": "Può formare concentrazioni di polvere combustibile nell’aria.",
		"nl": "Kan brandbare stofconcentraties in de lucht vormen.",
		"pl": "Może tworzyć palne stężenia pyłu w powietrzu.",
		"pt": "Pode formar concentrações de poeira combustível no ar."}
)

// displaces says of a gas that displaces oxygen that it does.
func (l *Label) displaces(s *Substance) {
	if l.Rules != HazCom || !slices.Contains(asphyxiants, s.CAS) {
		return
	}
	l.Supplemental = append(l.Supplemental, Reasoned{Code: "simple asphyxiant", Text: suffocation[l.Language],
		Because: []string{"entry of " + s.CAS, "29 CFR 1910.1200, appendix C.4.30"}})
	l.warns("simple asphyxiant")
}

// warns gives the label the signal word Warning, unless it has one.
func (l *Label) warns(because string) {
	if l.Signal == NoSignal {
		l.Signal, l.SignalWord, l.SignalOf = Warning, Warning.In(l.Language), []string{because}
	}
}

// ofOSHA asks for the hazards that OSHA defines and the GHS does not: a gas that displaces oxygen, a solid that makes
// combustible dust.
func (m *mixing) ofOSHA() {
	ask := func(id, text, clause string, said map[string]string, because []string) {
		if because == nil {
			return
		}
		answer, is, err := m.answer(Open{ID: id, Text: text, Choices: []string{"yes", "no"}, Because: because,
			Clause: clause})
		switch {
		case err != nil:
			m.failed = err
		case is && answer == "yes":
			m.step("%s: yes, as answered (%s).", id, clause)
			m.supplemental = append(m.supplemental, Reasoned{Code: id, Because: because, in: said})
		case is:
			m.step("%s: no, as answered (%s).", id, clause)
		}
	}
	var gases, solids []string
	for i := range m.parts {
		p := &m.parts[i]
		if slices.Contains(asphyxiants, p.CAS) {
			gases = append(gases, p.Name)
		}
		if slices.ContainsFunc(p.Classes, func(c Classified) bool { return c.Class.Class == "Flam. Sol." }) {
			solids = append(solids, p.Name)
		}
	}
	if m.form == Gas {
		ask("simple asphyxiant", "Does the gas displace oxygen, so that people suffocate?",
			"29 CFR 1910.1200, appendix C.4.30", suffocation, gases)
	}
	if said := m.otherwise(); said != nil {
		m.supplemental = append(m.supplemental, *said)
	}
	if m.form == Dust {
		ask("combustible dust", "May it form combustible dust in the air when it is processed?",
			"29 CFR 1910.1200, appendix C.4.31", dusty, solids)
		if solids == nil {
			m.notes = append(m.notes, "Whether it may form combustible dust (29 CFR 1910.1200, appendix C.4.31) is "+
				"not worked out here. Where section 2 of the safety data sheet says so, say it on the label besides.")
		}
	}
}

// hnoc is the answer that says hazards not otherwise classified, in words of the safety data sheet. The label need not
// say them (29 CFR 1910.1200(f)(1), note), so that nobody is asked.
const hnoc = "hazards not otherwise classified"

// otherwise returns what stands on the label of hazards not otherwise classified; nil: nothing.
func (a *asking) otherwise() *Reasoned {
	words, is := a.known[hnoc]
	if !is {
		a.told = append(a.told, fmt.Sprintf("Hazards not otherwise classified (29 CFR 1910.1200(c)) are not worked "+
			"out here. Where section 2 of the safety data sheet has some, answer “%s” in its words, or none.", hnoc))
		return nil
	}
	a.answered = append(a.answered,
		Open{ID: hnoc, Text: "Which hazards not otherwise classified does section 2 of the safety data sheet have?",
			Because: []string{"29 CFR 1910.1200(c)"}, Clause: "29 CFR 1910.1200(c)", Answer: words})
	if words == none {
		return nil
	}
	in := map[string]string{}
	for _, language := range Languages {
		in[language] = words
	}
	return &Reasoned{Code: "HNOC", Text: words, Because: []string{"as answered", "29 CFR 1910.1200(c)"}, in: in}
}
