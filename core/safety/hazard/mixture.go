package hazard

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"
)

// A Part is one ingredient of a mixture.
type Part struct {
	Name         string            // or number
	CAS          string            // empty: not known
	Names        map[string]string // by language, where they are known
	Percent      float64           // of the mixture, by mass; of gases by volume
	Classes      []Classified      // of the ingredient
	Supplemental []string          // EUH codes of its entry
	// its own acute toxicity estimate by route: mg/kg for oral and dermal, mg/l or ppmV for inhalation
	ATE        map[string]float64
	MAcute     float64    // multiplying factor of Aquatic Acute 1; 0: 1
	MChron     float64    // and of Aquatic Chronic 1
	Limits     []Specific // its own, in place of the generic ones
	Notes      []string   // of annex VI
	LimitsSaid LimitsSaid
	Unknown    bool // nothing is known of its toxicity
	Nameless   bool // its name is its classes

	both bool // its own limits count where they are stricter than the generic ones, and these do too
}

// LimitsSaid is what is known of the own limits of a substance.
type LimitsSaid int

// What can be known of them.
const (
	LimitsUnknown LimitsSaid = iota // it may have some
	LimitsNone                      // it has none
	LimitsGiven
)

// A Form is in which form a mixture is inhaled.
type Form string

// The forms (CLP, annex I, 3.1.2.1, table 3.1.1).
const (
	Gas    Form = "gas"    // ppmV
	Vapour Form = "vapour" // mg/l
	Dust   Form = "dust"   // and mist, mg/l
)

// A Mixture is what is mixed, and what is known of it besides its parts.
type Mixture struct {
	Parts  []Part
	Form   Form
	Known  map[string]string // answers to what is open, by their names; see Open
	Public bool              // it is supplied to the general public
}

// An Open is something that decides about the label of a mixture and does not follow from its parts: it must be
// answered before a label is made.
type Open struct {
	ID      string   `json:"id"`                // the name of its answer
	Text    string   `json:"text"`              // what is asked
	Unit    string   `json:"unit,omitempty"`    // of a number
	Choices []string `json:"choices,omitempty"` // else
	Because []string `json:"because"`           // the parts that ask
	Clause  string   `json:"clause"`
	Answer  string   `json:"answer,omitempty"` // empty: it is open
}

// A LimitsOf tells which limits of its own a part has, and where that is said.
type LimitsOf struct {
	Part   string `json:"part"`
	Says   string `json:"says"`
	Source string `json:"source"`
}

// A Mixed is the classification that a mixture's parts give it, with the way there.
type Mixed struct {
	Classification string     `json:"classification"`
	Steps          []string   `json:"steps"`
	Open           []Open     `json:"open"`     // nothing is printed before it is answered
	Answered       []Open     `json:"answered"` // and what was
	Notes          []string   `json:"notes,omitempty"`
	Limits         []LimitsOf `json:"limits"`
	// parts whose names stand on the label (CLP, article 18(3)(b))
	Contributors []string   `json:"contributors,omitempty"`
	Supplemental []Reasoned `json:"-"`
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

// Mix works out the classes of a mixture: acute toxicity by the additivity formula, corrosion and irritation of skin
// and eyes and hazards to water by summation, those with a limit for each ingredient by these (CLP, annex I, parts 3
// and 4; GHS, parts 3 and 4; 29 CFR 1910.1200, appendix A). What follows from no arithmetic, such as physical hazards,
// is taken from what is known, or open. Its error is a *refusal.Error.
func (b *Book) Mix(mixture *Mixture, rules RuleSet) (*Mixed, error) {
	form := mixture.Form
	if limits[string(form)] == [4]float64{} || form == "oral" || form == "dermal" {
		return nil, unknownForm.With(form)
	}
	sum := 0.0
	for _, p := range mixture.Parts {
		if !(p.Percent > 0) || p.Percent > 100 {
			return nil, badConcentration.With(p.Name, p.Percent)
		}
		sum += p.Percent
	}
	if sum > 100.0001 {
		return nil, overHundredPercent.With(number(sum))
	}
	if len(mixture.Parts) == 0 {
		return nil, emptyMixture.With()
	}
	m := &mixing{parts: joinedParts(mixture.Parts), rules: cmp.Or(rules, CLP), form: form, public: mixture.Public,
		contributors: map[string]bool{}, asking: asking{known: maps.Clone(mixture.Known)}}
	m.byNotes(b)
	m.ownLimits()
	for _, route := range []string{"oral", "dermal", "inhalation"} {
		m.acute(route, form)
	}
	m.skinAndEyes()
	m.byLimit()
	m.water()
	m.aspiration()
	if err := m.physical(b); err != nil {
		return nil, err
	}
	if err := m.rest(); err != nil {
		return nil, err
	}
	m.resolve()
	m.supplement(b)
	m.name()
	if m.failed != nil {
		return nil, m.failed
	}
	m.notes = append(append(m.notes, m.told...), m.unused("mixture")...)
	mixed := &Mixed{Classification: strings.Join(m.classes, "; "), Steps: m.steps, Open: append([]Open{}, m.open...),
		Answered: append([]Open{}, m.answered...), Notes: m.notes, Limits: append([]LimitsOf{}, m.limits...),
		Supplemental: m.supplemental}
	for _, p := range m.parts {
		if m.contributors[p.Name] && !p.Nameless {
			mixed.Contributors = append(mixed.Contributors, p.Name)
		}
	}
	return mixed, nil
}

// joinedParts puts parts of the same thing together: how an ingredient is parted changes nothing.
func joinedParts(parts []Part) (merged []Part) {
	for _, p := range parts {
		at := slices.IndexFunc(merged, func(q Part) bool {
			return q.CAS == p.CAS && q.Name == p.Name && q.Unknown == p.Unknown && maps.Equal(q.ATE, p.ATE)
		})
		if at >= 0 {
			merged[at].Percent = exact(merged[at].Percent + p.Percent)
		} else {
			merged = append(merged, p)
		}
	}
	return merged
}

// MixtureLabel works out the classes of a mixture and what stands on its label. While something is open, it is no label
// to print. Its error is a *refusal.Error.
func (b *Book) MixtureLabel(mixture *Mixture, w Wanted) (*Mixed, *Label, error) {
	mixture.Public = w.Public
	mixed, err := b.Mix(mixture, w.Rules)
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
	if err != nil {
		return nil, nil, err
	}
	for _, r := range mixed.Supplemental {
		r.Text = r.in[label.Language]
		if text, has := b.Text(r.Code, label.Language); has && r.Text != "" {
			r.Text = strings.Replace(text, "…", r.Text, 1)
		} else if has {
			r.Text = text
		}
		label.Supplemental = append(label.Supplemental, r)
	}
	for _, r := range mixed.Supplemental {
		if r.Code == "simple asphyxiant" || r.Code == "combustible dust" {
			label.warns(r.Code)
		}
	}
	label.mixturePackaging(mixed, mixture.Parts, w)
	label.Open, label.Answered = mixed.Open, mixed.Answered
	for i, name := range mixed.Contributors { // the label names them in its language
		for j := range mixture.Parts {
			if p := &mixture.Parts[j]; p.Name == name && p.Names[label.Language] != "" {
				mixed.Contributors[i] = p.Names[label.Language]
			} else if p.Name == name && p.CAS != "" {
				label.Notes = append(label.Notes,
					fmt.Sprintf("The name of %s in %s is not kept here: the English one stands there.", name,
						languageNames[label.Language]))
			}
		}
	}
	if err := label.whole(); err != nil {
		return nil, nil, err
	}
	return mixed, label, nil
}

type mixing struct {
	parts        []Part
	rules        RuleSet
	form         Form
	public       bool
	given        []given // classes, before those that graver ones stand for are left out
	classes      []string
	steps        []string
	notes        []string
	limits       []LimitsOf
	supplemental []Reasoned
	contributors map[string]bool
	asking
}

// given is a class that the mixture has by a rule.
type given struct {
	class, category, detail string
}

func (g given) String() string {
	text := strings.TrimSpace(g.class + " " + g.category)
	if g.detail != "" {
		text += " (" + g.detail + ")"
	}
	return text
}

// gives notes a class of the mixture.
func (m *mixing) gives(class, category, detail string) {
	if g := (given{class, category, detail}); !slices.Contains(m.given, g) {
		m.given = append(m.given, g)
	}
}

// contributes notes that a part is why the mixture has a class for which the label names it.
func (m *mixing) contributes(p *Part) { m.contributors[p.Name] = true }

// resolve leaves out the categories of a class for which a graver one stands, and puts together what letters say.
func (m *mixing) resolve() {
	for i := range m.given { // one part is sure by inhalation, another by any route: the mixture is by any (H350)
		g := &m.given[i]
		if lettered(g.class) && g.detail == "inhalation" && slices.ContainsFunc(m.given, func(other given) bool {
			return other.class == g.class && other.detail == "" && other.category[0] == g.category[0]
		}) {
			g.detail = ""
		}
	}
	for _, g := range m.given {
		at := slices.IndexFunc(m.given, func(other given) bool { // that stands for it
			switch {
			case other.class != g.class || g.class == "Press. Gas":
				return false
			case lettered(g.class):
				return other.category < g.category || other.category == g.category && other.detail == "" &&
					g.detail != ""
			}
			return other.detail == g.detail && other.category < g.category
		})
		if at < 0 {
			m.classes = append(m.classes, g.String())
		} else {
			m.step("%s is not said beside %s.", g, m.given[at])
		}
	}
}

// lettered tells whether the details of a class are letters or routes, which a class without them says as well.
func lettered(class string) bool { return class == "Repr." || class == "Carc." || class == "Muta." }

func (m *mixing) step(format string, args ...any) {
	m.steps = append(m.steps, fmt.Sprintf(format, args...))
}

// exact takes off what binary fractions add to sums of decimal ones, so that 0.7 % and 0.3 % are 1 %.
func exact(v float64) float64 {
	const figures = 1e9
	return math.Round(v*figures) / figures
}

func number(v float64) string {
	return strconv.FormatFloat(math.Round(v*10000)/10000, 'g', 6, 64)
}

// byNotes asks what notes of annex VI need to know of the parts.
func (m *mixing) byNotes(b *Book) {
	if m.rules != CLP {
		return
	}
	for i := range m.parts {
		p := &m.parts[i]
		n := b.notes(&m.asking, p.CAS, p.Name, p.Notes, p.Classes, Wanted{Rules: m.rules}, true)
		p.Classes = n.classes
		m.steps = append(m.steps, n.steps...)
	}
}

// ownLimits tells which limits of their own the parts have. Annex VI belongs to CLP: elsewhere those count that are
// stricter than the generic ones.
func (m *mixing) ownLimits() {
	for i := range m.parts {
		p := &m.parts[i]
		if m.rules != CLP {
			p.both = true
			p.Limits = slices.DeleteFunc(slices.Clone(p.Limits), func(l Specific) bool {
				return l.euh == "" &&
					l.From >= m.genericOf(l.class)
			})
		}
		said := LimitsOf{p.Name, "not known here", ""}
		switch {
		case p.Unknown || p.CAS == "" || len(p.Classes) == 0:
			continue
		case p.LimitsSaid == LimitsNone:
			said.Says, said.Source = "none of its own", "CLP, annex VI, part 3"
		case len(p.Limits) > 0 || p.LimitsSaid == LimitsGiven:
			said.Says, said.Source = ofOwn(p.Limits, p.MAcute, p.MChron, p.ATE), "CLP, annex VI, part 3"
			if len(p.Limits) > 0 {
				m.step("%s has limits of its own: %s. In a sum it counts as concentration × generic limit / its own "+
					"(article 10).", p.Name, ofOwn(p.Limits, 0, 0, nil))
			}
		default:
			m.notes = append(m.notes, fmt.Sprintf("Whether %s has limits of its own is not known here; the generic "+
				"ones were taken. Compare section 3 of its safety data sheet.", p.Name))
		}
		m.limits = append(m.limits, said)
	}
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
	return exact(total), strings.Join(said, " + ")
}

func has(c *Class, class string, categories ...string) bool {
	return c.Class == class && slices.ContainsFunc(categories,
		func(k string) bool { return strings.HasPrefix(c.Category, k) })
}
