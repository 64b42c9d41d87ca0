package hazard

import (
	"fmt"
	"maps"
	"slices"
	"sort"
	"strings"
)

// Customary is how many precautionary statements a label has, unless more are needed (CLP, article 28(3)).
const Customary = 6

// stronger are precautionary statements that another one says better, so that they do not stand beside it.
var stronger = map[string][]string{
	"P261": {"P260"}, "P312": {"P310", "P311", "P301+P310"}, "P311": {"P310"}, "P301+P312": {"P301+P310"},
	"P302+P352": {"P303+P361+P353"},
	"P362+P364": {"P361+P364", "P303+P361+P353"}, "P361+P364": {"P303+P361+P353"}, "P363": {"P361+P364", "P362+P364"},
	"P332+P313": {"P310", "P311", "P333+P313"},
	"P337+P313": {"P310"}, "P314": {"P310", "P311", "P308+P311", "P308+P313"},
	"P403": {"P403+P233", "P403+P235", "P410+P403"}, "P233": {"P403+P233"}, "P235": {"P403+P235"},
	"P330": {"P301+P330+P331"}, "P331": {"P301+P330+P331"}, "P271": {"P260", "P284"}, "P320": {"P310"},
	"P321": {"P310", "P311"}, "P308+P313": {"P308+P311"},
	"P370+P378": {"P370+P380+P375+P378", "P370+P372+P380+P373"}, "P410": {"P410+P403", "P410+P412"}, "P202": {"P201"},
}

// A weight says how much a precautionary statement matters: what saves a person at once first, then what keeps the
// hazard away, then fire, then storage. Where two weigh the same, the one of the graver class stands first.
var weight = map[string]int{
	"P301+P330+P331": 98, "P303+P361+P353": 97, "P305+P351+P338": 96, "P301+P310": 95, "P304+P340": 90, "P331": 94,
	"P310": 93, "P308+P311": 88, "P308+P313": 86,
	"P302+P352": 84, "P336+P315": 90, "P306+P360": 84, "P302+P335+P334": 88, "P302+P334": 88, "P342+P311": 89,
	"P311": 80, "P333+P313": 70, "P301+P312": 68,
	"P337+P313": 66, "P332+P313": 58, "P314": 62, "P312": 55,
	"P210": 99, "P280": 92, "P260": 91, "P201": 87, "P273": 83, "P222": 96, "P223": 96, "P231+P232": 93, "P220": 90,
	"P250": 94, "P251": 95, "P211": 94, "P244": 88, "P261": 79,
	"P284": 82, "P262": 81, "P263": 85, "P282": 92, "P283": 78, "P234": 82, "P233": 64, "P235": 72, "P240": 50,
	"P241": 42, "P242": 44, "P243": 46, "P230": 80, "P212": 84,
	"P264": 48, "P270": 52, "P271": 60, "P272": 40,
	"P370+P372+P380+P373": 97, "P370+P380+P375": 92, "P370+P380+P375+P378": 92, "P371+P380+P375": 76, "P370+P376": 90,
	"P377": 92, "P381": 88, "P370+P378": 54,
	"P391": 74, "P390": 86,
	"P410+P412": 93, "P410+P403": 82, "P403": 65, "P403+P233": 63, "P403+P235": 61, "P405": 56, "P411": 77, "P410": 70,
	"P420": 67, "P401": 45, "P402+P404": 75, "P406": 84,
	"P407": 60, "P413": 66, "P501": 59, "P502": 80, "P363": 30, "P361+P364": 57, "P362+P364": 38, "P321": 20,
	"P320": 36, "P330": 43, "P202": 41,
}

// precautions takes the statements that all classes ask for, leaves out those that repeat others and keeps the
// customary number of the weightiest, each with its reason (CLP, article 28; GHS, annex 3, section 3).
func (b *Book) precautions(l *Label, classes []Classified, w Wanted) error {
	because := map[string][]string{}
	grave := map[string]int{}
	var asked []string
	for i := range classes {
		c := &classes[i]
		for _, code := range c.Class.precautions {
			if because[code] == nil {
				asked = append(asked, code)
			}
			because[code] = append(because[code], c.String())
			grave[code] = max(grave[code], map[Signal]int{Danger: 2, Warning: 1}[c.Class.Signal])
		}
	}
	if w.Public && len(asked) > 0 {
		asked = append(asked, "P102", "P101")
		because["P102"], because["P101"] = []string{"supplied to the general public"},
			[]string{"supplied to the general public"}
	}
	for _, code := range w.due {
		asked, because[code] = append(asked, code), append(because[code], "note of its entry")
	}
	for _, code := range slices.Sorted(maps.Keys(w.Choices)) {
		choice := w.Choices[code]
		_, known := b.Text(code, "en")
		switch {
		case !known || !strings.HasPrefix(code, "P"):
			return unknownPrecaution.With(code)
		case strings.TrimSpace(choice.Reason) == "":
			return choiceWithoutReason.With(code)
		case choice.Keep && because[code] == nil:
			because[code] = []string{"chosen by a person"}
			asked = append(asked, code)
		case !choice.Keep && because[code] == nil:
			l.Notes = append(l.Notes, fmt.Sprintf("%s was left out by a person, and nothing asks for it.", code))
		}
	}
	leave := func(code, why string) {
		text, _ := b.Text(code, l.Language)
		l.LeftOut = append(l.LeftOut, LeftOut{Code: code, Text: text, Because: because[code], Why: why, May: true})
	}
	gas := slices.ContainsFunc(classes, func(c Classified) bool { return slices.Contains(gases, c.Class.Class) })
	if gas && because["P301+P330+P331"] != nil && because["P304+P340"] == nil { // it corrodes the airways
		asked, because["P304+P340"] = append(asked, "P304+P340"), because["P301+P330+P331"]
	}
	var kept []string
	for _, code := range asked {
		if choice, chosen := w.Choices[code]; chosen {
			if !choice.Keep {
				leave(code, "left out by a person: "+choice.Reason)
			} else if !slices.Contains(kept, code) {
				kept = append(kept, code)
			}
			continue
		}
		if slices.Contains(kept, code) {
			continue
		}
		if gas && (strings.HasPrefix(code, "P301") || code == "P330" || code == "P331") {
			leave(code, "a gas is inhaled, not swallowed")
			continue
		}
		by := slices.IndexFunc(stronger[code], func(other string) bool {
			choice, chosen := w.Choices[other]
			return because[other] != nil && !(chosen && !choice.Keep) && !(gas && strings.HasPrefix(other, "P301")) &&
				(w.Rules != HazCom || includes(other, code))
		})
		if by >= 0 {
			leave(code, stronger[code][by]+" says it better (CLP, article 28(1))")
			continue
		}
		if code == "P405" && !w.Public && w.Rules == CLP && !slices.ContainsFunc(classes, func(c Classified) bool {
			return slices.Contains(c.Class.Pictograms, "GHS06") || c.Class.Class == "Carc." ||
				c.Class.Class == "Muta." || c.Class.Class == "Repr."
		}) {
			leave(code, "it is not supplied to the general public, and neither toxic nor CMR")
			continue
		}
		kept = append(kept, code)
	}
	due := dueOf(classes, w)
	for _, code := range w.due {
		due[code] = "a note of its entry in annex VI asks for it"
	}
	for code, choice := range w.Choices {
		if delete(due, code); choice.Keep {
			due[code] = "kept by a person: " + choice.Reason
		}
	}
	worth := func(code string) int {
		n := 10*weight[code] + grave[code]
		if due[code] != "" {
			n += 10_000
		}
		return n
	}
	sort.SliceStable(kept, func(i, j int) bool { return worth(kept[i]) > worth(kept[j]) })
	most := Customary
	for most < len(kept) && due[kept[most]] != "" { // more are needed
		most++
	}
	if w.Rules == HazCom { // all that its appendix C.4 assigns
		most = len(kept)
	}
	if len(kept) > most {
		for _, code := range kept[most:] {
			leave(code, fmt.Sprintf("no more than %d are customary, and the others weigh more (CLP, article 28(3))",
				Customary))
		}
		kept = kept[:most]
	}
	slices.Sort(kept)
	for _, code := range kept {
		text, _ := b.Text(code, l.Language)
		why := due[code]
		switch {
		case why != "":
		case w.Rules == HazCom:
			why = "assigned to the class (29 CFR 1910.1200, appendix C.4)"
		default:
			why = fmt.Sprintf("one of the %d that weigh most", Customary)
		}
		text, whole := w.fill(code, strings.NewReplacer("[", "", "]", "").Replace(text))
		if !whole {
			l.Blanks = append(l.Blanks, code)
		}
		l.Precautions = append(l.Precautions, Reasoned{Code: code, Text: text, Because: because[code], Why: why})
	}
	return nil
}

// gases are classes that gases alone have.
var gases = []string{"Flam. Gas", "Ox. Gas", "Press. Gas"}

// includes tells whether a combined statement has all that another says.
func includes(combined, code string) bool {
	parts := strings.Split(combined, "+")
	return !slices.ContainsFunc(strings.Split(code, "+"),
		func(part string) bool { return !slices.Contains(parts, part) })
}

// dueOf returns which statements a label has whatever else weighs more, and why: what saves a life at once, and what
// the public must be told.
func dueOf(classes []Classified, w Wanted) map[string]string {
	const life = "it saves life or limb at once (CLP, article 28(3): nature and severity)"
	due := map[string]string{}
	for _, c := range classes {
		switch grave := c.Class.Signal == Danger; {
		case c.Class.Class == "Acute Tox." && grave && c.Class.Of == "inhalation":
			due["P304+P340"] = life
		case c.Class.Class == "Acute Tox." && grave && c.Class.Of == "oral":
			due["P301+P310"] = life
		case c.Class.Class == "Acute Tox." && grave:
			due["P302+P352"] = life
		case c.Class.Class == "Asp. Tox.":
			due["P301+P310"], due["P331"] = life, life
		case c.Class.Class == "Skin Corr.":
			for _, code := range []string{"P280", "P301+P330+P331", "P303+P361+P353", "P304+P340", "P305+P351+P338"} {
				due[code] = life
			}
		case c.Class.Class == "Eye Dam.":
			due["P280"], due["P305+P351+P338"] = life, life
		}
	}
	if w.Public {
		due["P101"], due["P102"] = "it is supplied to the general public (CLP, annex IV, table 6.1)",
			"it is supplied to the general public (CLP, annex IV, table 6.1)"
		due["P501"] = "it is supplied to the general public (CLP, article 28(2))"
	}
	return due
}

// ParseChoices reads which precautionary statements a person keeps and leaves out, with the reason of each, "P264 = the
// canteen is next door; P102 = …". Its error is a *refusal.Error.
func ParseChoices(keep, leave string) (map[string]Choice, error) {
	choices := map[string]Choice{}
	for _, list := range []struct {
		text string
		keep bool
	}{{keep, true}, {leave, false}} {
		reasons, err := ParseKnown(list.text)
		if err != nil {
			return nil, choiceTwice.With(list.text)
		}
		for code, reason := range reasons {
			if _, again := choices[code]; again {
				return nil, keptAndLeftOut.With(code)
			}
			choices[code] = Choice{Keep: list.keep, Reason: reason}
		}
	}
	return choices, nil
}
