package hazard

import (
	"fmt"
	"maps"
	"slices"
	"strings"
)

// A noteRule is one of the notes that annex VI gives to entries, where it depends on something that the entry does not
// say (CLP, annex VI, 1.1.3.1).
type noteRule struct {
	id      string // the name of the answer
	asks    string
	unit    string
	choices []string
	clause  string
	mixed   bool // it decides about mixtures, too
}

// The answers to a question of a note.
const (
	yes = "yes"
	no  = "no"
)

var yesOrNo = []string{no, yes}

// noteRules are the notes that ask for something, by their letters.
var noteRules = map[string]noteRule{
	"A": {id: "designation", asks: "The entry is of a group. What is this substance called exactly? That name stands " +
		"on the label.", clause: "note A"},
	"B": {id: "concentration", asks: "How many per cent of it does the solution have? The label says it.", unit: "%",
		clause: "note B"},
	"C": {id: "isomer", asks: "Which isomer is it, or which mixture of isomers? The label says it.", clause: "note C"},
	"D": {id: "stabilised", asks: "Is it stabilised? If not, its name on the label is followed by “non-stabilised”.",
		choices: []string{yes, no}, clause: "note D"},
	"F": {id: "stabiliser", asks: "Does a stabiliser in it change its hazards?", choices: yesOrNo, clause: "note F"},
	"G": {id: "explosive form", asks: "Is it in a form that is explosive, by test?",
		choices: []string{none, "Unst. Expl.", "Expl. 1.1", "Expl. 1.2", "Expl. 1.3", "Expl. 1.4", "Expl. 1.5",
			"Expl. 1.6", "Desen. Expl. 1", "Desen. Expl. 2", "Desen. Expl. 3", "Desen. Expl. 4"}, clause: "note G",
		mixed: true},
	"H": {id: "other hazards", asks: "The entry covers only some hazard classes. Which others does the supplier's " +
		"classification have? Write none, or classes such as Flam. Liq. 3, Asp. Tox. 1.", clause: "note H",
		mixed: true},
	"J": {id: "benzene", asks: "Does it have 0.1 % of benzene or more?", choices: yesOrNo, clause: "note J",
		mixed: true},
	"K": {id: "butadiene", asks: "Does it have 0.1 % of 1,3-butadiene or more?", choices: yesOrNo, clause: "note K",
		mixed: true},
	"L": {id: "DMSO extract", asks: "Does it have 3 % of DMSO extract or more, by IP 346?", choices: yesOrNo,
		clause: "note L", mixed: true},
	"M": {id: "benzo[a]pyrene", asks: "Does it have 0.005 % of benzo[a]pyrene or more?", choices: yesOrNo,
		clause: "note M", mixed: true},
	"N": {id: "carcinogenic origin", asks: "Is it made of a carcinogen, or is its refining history not fully known?",
		choices: yesOrNo, clause: "note N", mixed: true},
	"P": {id: "benzene", asks: "Does it have 0.1 % of benzene or more?", choices: yesOrNo, clause: "note P",
		mixed: true},
	"Q": {id: "persistent fibres", asks: "Do its fibres persist in the body, or was that not tested as the note says?",
		choices: yesOrNo, clause: "note Q", mixed: true},
	"R": {id: "thin fibres", asks: "Is the length-weighted geometric mean diameter of its fibres, less two standard " +
		"errors, 6 µm or less?", choices: yesOrNo, clause: "note R", mixed: true},
	"T": {id: "physical hazards", asks: "Does this form have the physical hazards of the entry, or was it shown by " +
		"test that it does not?", choices: []string{"as the entry", none}, clause: "note T"},
}

// toldNotes are those that nobody needs to answer here.
var toldNotes = map[string]string{
	"E": "its specific effects on health count among the gravest (note E)",
	"S": "it may need no label, see CLP, annex I, 1.3 (note S)",
	"U": "the group of gases under pressure follows from the state in which it is packed: compare it (note U)",
	"1": "its limits are of the metal in it, by mass; here they are held against the whole compound, which loses no " +
		"hazard (note 1)",
	"2": "its limits are of the monomer in it, by mass of the whole mixture (note 2)",
	"3": "its limits are of the chromate ions in it, by mass of the whole mixture (note 3)",
	"5": "its limits are by volume (note 5)",
	"7": "alloys with nickel are sensitisers where they release more than 0.5 µg/cm² of nickel a week (note 7)",
}

// carcinogenic are notes by which an entry is no carcinogen and no mutagen under a limit of what makes it one.
const carcinogenic = "JKLMNPQR"

// asking takes answers to what is open.
type asking struct {
	known    map[string]string
	open     []Open
	answered []Open
	general  []string // answers that were taken for one of several
	told     []string
	failed   error
}

// unused tells of answers that decide nothing.
func (a *asking) unused(about string) (told []string) {
	for _, id := range slices.Sorted(maps.Keys(a.known)) {
		if slices.Contains(a.general, id) || slices.ContainsFunc(a.answered, func(o Open) bool { return o.ID == id }) {
			continue
		}
		told = append(told, fmt.Sprintf("“%s” was answered, and decides nothing about this %s.", id, about))
	}
	return told
}

// A noted is what the notes of an entry make of it.
type noted struct {
	classes []Classified
	name    string   // in place of the entry's
	added   []string // to the name
	due     []string // statements that a note asks for
	steps   []string
}

// notes asks what the notes of an entry need to know. Until it is answered the entry counts whole, which loses no
// hazard. Of is its number where one answer can be meant for one of several; "benzene of 64742-48-9" goes before
// "benzene".
func (b *Book) notes(a *asking, of, name string, letters []string, classes []Classified, w Wanted,
	mixture bool) (n noted) {
	n.classes = classes
	for _, letter := range letters {
		rule, asks := noteRules[letter]
		switch {
		case !asks && toldNotes[letter] != "":
			a.told = append(a.told, fmt.Sprintf("%s: %s.", name, toldNotes[letter]))
			continue
		case !asks:
			a.told = append(a.told, fmt.Sprintf("%s: note %s of annex VI is not worked out here. Read what it says "+
				"before the label is made.", name, letter))
			continue
		case mixture && !rule.mixed:
			continue
		case strings.Contains(carcinogenic, letter) && !slices.ContainsFunc(n.classes, ofCancer):
			continue
		}
		o := Open{ID: rule.id, Text: rule.asks, Unit: rule.unit, Choices: rule.choices, Because: []string{name},
			Clause: "CLP, annex VI, 1.1.3.1, " + rule.clause}
		own := rule.id + " of " + of
		if _, is := a.known[own]; is || mixture {
			if general, has := a.known[o.ID]; has && !is {
				a.known[own], a.general = general, append(a.general, o.ID)
			}
			o.ID = own
		}
		answer, is, err := a.answer(o)
		if err != nil {
			a.failed = err
			return n
		}
		if is {
			b.decide(a, &n, letter, answer, name, w)
		}
	}
	return n
}

// decide does what an answer to a note means.
func (b *Book) decide(a *asking, n *noted, letter, answer, name string, w Wanted) {
	step := func(text string) {
		n.steps = append(n.steps, fmt.Sprintf("%s: %s, as answered (annex VI, note %s).", name, text, letter))
	}
	switch letter {
	case "A":
		n.name = answer
	case "B":
		percent, err := percentOf(answer)
		if err != nil {
			a.failed = err
			return
		}
		n.added = append(n.added, number(percent)+" %")
	case "C":
		n.added = append(n.added, answer)
	case "D":
		if answer == no {
			n.added = append(n.added, nonStabilised[w.Language])
		}
	case "F":
		if answer == yes {
			a.failed = notStabilised.With(name)
		}
	case "G", "H":
		if answer == none {
			return
		}
		more, err := b.Parse(strings.ReplaceAll(answer, ",", ";"), w.Rules)
		if err != nil {
			a.failed = err
			return
		}
		step(answer)
		n.classes = append(slices.Clone(n.classes), more...)
	case "T":
		if answer == none {
			step("no physical hazards")
			n.classes = slices.DeleteFunc(slices.Clone(n.classes),
				func(c Classified) bool { return physical(c.Class.Class) })
		}
	default: // of carcinogenic
		if answer == yes {
			return
		}
		step("neither carcinogenic nor mutagenic")
		n.classes = slices.DeleteFunc(slices.Clone(n.classes), ofCancer)
		switch letter {
		case "K":
			n.due = append(n.due, "P210", "P403")
		case "P":
			n.due = append(n.due, "P260", "P262", "P301+P310", "P331")
		}
	}
}

func ofCancer(c Classified) bool { return c.Class.Class == "Carc." || c.Class.Class == "Muta." }

// physical tells whether a class is of physical hazards.
func physical(class string) bool {
	return class == "Flam. Liq." ||
		slices.ContainsFunc(families, func(f family) bool { return slices.Contains(f.classes, class) })
}

func percentOf(answer string) (float64, error) {
	value, isNone, _, err := (&asking{known: map[string]string{"concentration": answer}}).measured(
		Open{ID: "concentration", Unit: "%"})
	if err == nil && (isNone || !(value > 0) || value > 100) {
		err = badAnsweredConcentration.With(answer)
	}
	return value, err
}

// nonStabilised follows the name of what is usually stabilised and is not (CLP, annex VI, 1.1.3.1, note D).
var nonStabilised = map[string]string{"en": "non-stabilised", "de": "nicht stabilisiert", "fr": "non stabilisé",
	"es": "no estabilizado",
	"it": "non stabilizzato", "nl": "niet gestabiliseerd", "pl": "niestabilizowany", "pt": "não estabilizado"}

// weaker tells that a solution is weaker than what its entry is classified as.
func (b *Book) weaker(s *Substance, answered []Open) string {
	at := slices.IndexFunc(answered, func(o Open) bool { return strings.HasPrefix(o.ID, "concentration") })
	own, err := b.ParseLimits(s.Limits)
	if at < 0 || err != nil || len(own.Specific) == 0 || s.State != "" {
		return ""
	}
	percent, err := percentOf(answered[at].Answer)
	if err != nil {
		return ""
	}
	for _, l := range own.Specific {
		if l.euh == "" && l.Below == 0 && strings.Contains(s.Classification, l.Gives) && percent < l.From {
			return fmt.Sprintf("The entry is classified as what is stronger: %s begins at %s %% (its own limit). For "+
				"%s %% lay it out as a mixture: %s%% %s.", l.Gives, number(l.From), number(percent), number(percent),
				s.CAS)
		}
	}
	return ""
}
