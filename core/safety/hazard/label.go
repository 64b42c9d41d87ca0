package hazard

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
)

// Wanted says for what a label is made.
type Wanted struct {
	Rules    RuleSet
	Language string            // of Languages; empty: en
	Volume   float64           // of the container, in millilitres; 0: not known
	Public   bool              // it is supplied to the general public
	Fill     map[string]string // what stands in the blanks of statements, by their codes
	Known    map[string]string // answers to what is open about a substance, by their names; see Open
	Choices  map[string]Choice // of precautionary statements, by their codes, in place of the one that is made here

	due []string // statements that a note of its entry asks for
}

// A Choice is that a person keeps a precautionary statement, or leaves it out, whatever weighs more.
type Choice struct {
	Keep   bool
	Reason string
}

// A Reasoned is one thing on a label, with what asks for it.
type Reasoned struct {
	Code    string   `json:"code"`
	Text    string   `json:"text,omitempty"`
	Because []string `json:"because"`       // classes, or words
	Why     string   `json:"why,omitempty"` // of a precautionary statement: why it was chosen

	in map[string]string // what it says, or what its blank says, by language
}

// A LeftOut is one thing that some class asks for and that does not stand on the label.
type LeftOut struct {
	Code    string   `json:"code"`
	Text    string   `json:"text,omitempty"`
	Because []string `json:"because"` // classes that ask for it
	Why     string   `json:"why"`     // it is left out, with the clause
	May     bool     `json:"may"`     // it may stand there all the same
}

// A Size is what a container asks of its label.
type Size struct {
	Width     float64 `json:"width"`     // of the label, mm, at least, if possible
	Height    float64 `json:"height"`    // mm
	Pictogram float64 `json:"pictogram"` // side of a pictogram's square, mm, at least, if possible
	Smallest  float64 `json:"smallest"`  // side of a pictogram's square that it must not be below, mm
	Letters   float64 `json:"letters"`   // height of a small x, mm, at least ((EU) 2024/2865, once it applies)
	Clause    string  `json:"clause"`
}

// A Label is what stands on the label of a thing.
type Label struct {
	Name         string     `json:"name,omitempty"` // of a substance, with what notes of annex VI add to it
	Rules        RuleSet    `json:"rules"`
	Language     string     `json:"language"`
	Pictograms   []Reasoned `json:"pictograms"`
	Signal       Signal     `json:"signal"`
	SignalWord   string     `json:"signalWord"`
	SignalOf     []string   `json:"signalBecause,omitempty"`
	Hazards      []Reasoned `json:"hazards"`      // H statements, combined where they can be
	Supplemental []Reasoned `json:"supplemental"` // EUH statements and what else is said besides
	Precautions  []Reasoned `json:"precautions"`  // P statements, the choice of them
	// codes of statements whose blank is not filled: nothing is printed before it is
	Blanks    []string  `json:"blanks"`
	LeftOut   []LeftOut `json:"leftOut"`
	Open      []Open    `json:"open"` // nothing is printed before it is answered
	Answered  []Open    `json:"answered,omitempty"`
	Notes     []string  `json:"notes,omitempty"`
	Size      *Size     `json:"size,omitempty"`
	Small     string    `json:"small,omitempty"`     // what may be left off because the container is small
	Packaging []string  `json:"packaging,omitempty"` // what the package needs besides
}

// pictogramNames are what pictograms show (GHS, annex 1).
var pictogramNames = map[string]string{
	"GHS01": "Exploding bomb", "GHS02": "Flame", "GHS03": "Flame over circle", "GHS04": "Gas cylinder",
	"GHS05": "Corrosion",
	"GHS06": "Skull and crossbones", "GHS07": "Exclamation mark", "GHS08": "Health hazard", "GHS09": "Environment",
}

// PictogramName returns what a pictogram shows; empty where there is none of that number.
func PictogramName(id string) string { return pictogramNames[id] }

// Label returns what stands on the label of a thing that is classified so. Its error is a *refusal.Error.
func (b *Book) Label(classes []Classified, w Wanted) (*Label, error) {
	w.Rules, w.Language = cmp.Or(w.Rules, CLP), cmp.Or(w.Language, "en")
	if !slices.Contains(RuleSets, w.Rules) {
		return nil, unknownRuleSet.With(w.Rules)
	}
	if !slices.Contains(Languages, w.Language) {
		return nil, unknownLanguage.With(w.Language, strings.Join(Languages, ", "))
	}
	if w.Volume < 0 {
		return nil, badVolume.With(w.Volume)
	}
	l := &Label{Rules: w.Rules, Language: w.Language, Pictograms: []Reasoned{}, Hazards: []Reasoned{},
		Supplemental: []Reasoned{},
		Precautions:  []Reasoned{}, LeftOut: []LeftOut{}, Blanks: []string{}, Open: []Open{}}
	if w.Rules == HazCom {
		classes = l.leaveEnvironment(classes)
	}
	b.pictograms(l, classes)
	for _, c := range classes {
		if c.Class.Signal == Danger && l.Signal != Danger {
			l.Signal, l.SignalOf = Danger, nil
		}
		if c.Class.Signal != NoSignal && c.Class.Signal == cmp.Or(l.Signal, Warning) {
			l.Signal = c.Class.Signal
			l.SignalOf = append(l.SignalOf, c.String())
		}
	}
	l.SignalWord = l.Signal.In(w.Language)
	b.hazards(l, classes)
	if err := b.precautions(l, classes, w); err != nil {
		return nil, err
	}
	b.small(l, classes, w)
	l.packaging(classes, w)
	if w.Rules == HazCom && w.Language == "en" {
		for _, list := range [][]Reasoned{l.Hazards, l.Supplemental, l.Precautions} {
			for i := range list {
				list[i].Text = american.Replace(list[i].Text)
			}
		}
	}
	if w.Rules == CLP && w.Volume > 0 {
		l.Size = SizeFor(w.Volume)
	}
	return l, l.whole()
}

// whole tells of statements that are not kept in the language of the label: it would lack them.
func (l *Label) whole() error {
	for _, r := range slices.Concat(l.Hazards, l.Supplemental, l.Precautions) {
		if r.Text == "" {
			return statementNotInLanguage.With(r.Code, languageNames[l.Language])
		}
	}
	return nil
}

// american spells words of the statements as HazCom does (29 CFR 1910.1200, appendix C.4).
var american = strings.NewReplacer("vapour", "vapor", "Vapour", "Vapor", "oxidiser", "oxidizer", "odour", "odor",
	"colour", "color", "fibre", "fiber", "litre", "liter")

// leaveEnvironment leaves out what HazCom does not cover: hazards to the environment (29 CFR 1910.1200, appendix A has
// none).
func (l *Label) leaveEnvironment(classes []Classified) (kept []Classified) {
	for _, c := range classes {
		if strings.HasPrefix(c.Class.Class, "Aquatic") || c.Class.Class == "Ozone" {
			l.LeftOut = append(l.LeftOut, LeftOut{Code: strings.Join(c.Hazards, " "), Because: []string{c.String()},
				May: true,
				Why: "HazCom does not cover hazards to the environment; they may stand as supplemental information " +
					"(29 CFR 1910.1200, appendix C.3)"})
			continue
		}
		kept = append(kept, c)
	}
	return kept
}

// pictograms takes those of all classes, less those that a graver one stands for (GHS 1.4.10.5.3.1; CLP, article 26).
func (b *Book) pictograms(l *Label, classes []Classified) {
	by := map[string][]*Classified{}
	for i := range classes {
		for _, id := range classes[i].Class.Pictograms {
			by[id] = append(by[id], &classes[i])
		}
	}
	clause := map[RuleSet]string{GHS: "GHS 1.4.10.5.3.1", CLP: "CLP, article 26(1)",
		HazCom: "29 CFR 1910.1200, appendix C.2.3"}[l.Rules]
	leaveOut := func(id string, of []*Classified, may bool, why string) {
		l.LeftOut = append(l.LeftOut, LeftOut{Code: id, Text: pictogramNames[id], Because: names(of), May: may,
			Why: why + " (" + clause + ")"})
	}
	for n := 1; n <= 9; n++ {
		id := fmt.Sprintf("GHS%02d", n)
		var left []*Classified
		kept := by[id]
		why, may := "", false
		drop := func(reason string, goes func(c *Classified) bool) {
			var stay []*Classified
			for _, c := range kept {
				if goes(c) {
					left = append(left, c)
					why = reason
				} else {
					stay = append(stay, c)
				}
			}
			kept = stay
		}
		all := func(*Classified) bool { return true }
		is := func(classes ...string) func(c *Classified) bool {
			return func(c *Classified) bool { return slices.Contains(classes, c.Class.Class) }
		}
		switch {
		case id == "GHS07":
			if by["GHS06"] != nil {
				drop("the skull and crossbones stands for it", all)
			}
			if by["GHS05"] != nil && slices.ContainsFunc(by["GHS05"],
				func(c *Classified) bool { return c.Class.Class != "Met. Corr." }) {
				drop("the corrosion pictogram stands for irritation of skin and eyes", is("Skin Irrit.", "Eye Irrit."))
			}
			if slices.ContainsFunc(by["GHS08"], is("Resp. Sens.")) {
				drop("the health hazard pictogram of respiratory sensitisation stands for sensitisation and "+
					"irritation of the skin, and of the eyes", is("Skin Sens.", "Skin Irrit.", "Eye Irrit."))
			}
		case l.Rules == CLP && (id == "GHS02" || id == "GHS03") && by["GHS01"] != nil:
			both := slices.ContainsFunc(by[id],
				func(c *Classified) bool { return slices.Contains(c.Class.Pictograms, "GHS01") })
			if !both {
				may = true
				drop("the exploding bomb makes it optional", all)
			}
		case l.Rules == CLP && id == "GHS04" && (by["GHS02"] != nil || by["GHS06"] != nil):
			may = true
			drop("the flame or the skull and crossbones makes it optional", all)
		}
		if len(kept) > 0 {
			l.Pictograms = append(l.Pictograms, Reasoned{Code: id, Text: pictogramNames[id], Because: names(kept)})
		} else if len(left) > 0 {
			leaveOut(id, left, may, why)
		}
	}
}

func names(classes []*Classified) (names []string) {
	for _, c := range classes {
		names = append(names, c.String())
	}
	return names
}

// covered are statements that another makes redundant (CLP, article 27, and annex I, 4.1.4).
var covered = map[string]struct{ by, why string }{
	"H318": {"H314", "severe burns of the skin include damage to the eyes (CLP, annex I, 3.3.2.3; article 27)"},
	"H400": {"H410", "very toxic with long lasting effects says it too (CLP, annex I, 4.1.3.1; article 27)"},
}

// hazards takes the statements of all classes, less those that repeat others, and combines those of acute toxicity.
func (b *Book) hazards(l *Label, classes []Classified) {
	because := map[string][]string{}
	var order []string
	details := map[string][]string{}
	for i := range classes {
		c := &classes[i]
		for _, code := range c.Hazards {
			if because[code] == nil {
				order = append(order, code)
			}
			because[code] = append(because[code], c.String())
			if c.Detail != "" && c.Factor == 0 { // organs, or the only route
				details[code] = append(details[code], c.Detail)
			}
		}
	}
	for code, by := range covered {
		if because[code] != nil && because[by.by] != nil {
			text, _ := b.Text(code, l.Language)
			l.LeftOut = append(l.LeftOut, LeftOut{Code: code, Text: text, Because: because[code], Why: by.why,
				May: true})
			delete(because, code)
		}
	}
	for _, level := range []string{"0", "1", "2"} { // fatal, toxic, harmful (CLP, annex III, 1.2, table 1.2)
		var together, reasons []string
		for _, route := range []string{"H30", "H31", "H33"} {
			if of := because[route+level]; of != nil {
				together, reasons = append(together, route+level), append(reasons, of...)
			}
		}
		if len(together) < 2 {
			continue
		}
		joined := strings.Join(together, "+")
		order[slices.Index(order, firstOf(order, together))] = joined
		for _, code := range together {
			delete(because, code)
		}
		because[joined] = reasons
	}
	slices.Sort(order)
	for _, code := range order {
		if because[code] == nil {
			continue
		}
		text, _ := b.Text(code, l.Language)
		why := ""
		if of := details[code]; of != nil {
			words, untold := detailsIn(of, l.Language)
			text = strings.TrimSuffix(text, ".") + " (" + strings.Join(words, ", ") + ")."
			if untold != "" {
				why = fmt.Sprintf("“%s” stands as it was given: translate it", untold)
			}
		}
		r := Reasoned{Code: code, Text: text, Because: because[code], Why: why}
		if strings.HasPrefix(code, "EUH") {
			l.Supplemental = append(l.Supplemental, r)
		} else {
			l.Hazards = append(l.Hazards, r)
		}
	}
}

// organs are what classes name besides, in the languages after English.
var organs = map[string][7]string{
	"hearing organs": {"Hörorgane", "organes de l’audition", "órganos auditivos", "organi dell’udito",
		"gehoororganen", "narządy słuchu", "órgãos auditivos"},
	"nervous system": {"Nervensystem", "système nerveux", "sistema nervioso", "sistema nervoso",
		"zenuwstelsel", "układ nerwowy", "sistema nervoso"},
	"central nervous system": {"zentrales Nervensystem", "système nerveux central", "sistema nervioso central",
		"sistema nervoso centrale", "centraal zenuwstelsel", "ośrodkowy układ nerwowy", "sistema nervoso central"},
	"peripheral nervous system": {"peripheres Nervensystem", "système nerveux périphérique",
		"sistema nervioso periférico", "sistema nervoso periferico", "perifeer zenuwstelsel", "obwodowy układ nerwowy",
		"sistema nervoso periférico"},
	"liver":   {"Leber", "foie", "hígado", "fegato", "lever", "wątroba", "fígado"},
	"kidneys": {"Nieren", "reins", "riñones", "reni", "nieren", "nerki", "rins"},
	"kidney":  {"Niere", "rein", "riñón", "rene", "nier", "nerka", "rim"},
	"thyroid": {"Schilddrüse", "thyroïde", "tiroides", "tiroide", "schildklier", "tarczyca",
		"tiroide"},
	"brain": {"Gehirn", "cerveau", "cerebro", "cervello", "hersenen", "mózg", "cérebro"},
	"lungs": {"Lunge", "poumons", "pulmones", "polmoni", "longen", "płuca", "pulmões"},
	"lung":  {"Lunge", "poumon", "pulmón", "polmone", "long", "płuco", "pulmão"},
	"respiratory tract": {"Atemwege", "voies respiratoires", "vías respiratorias", "vie respiratorie",
		"luchtwegen", "drogi oddechowe", "vias respiratórias"},
	"respiratory system": {"Atmungssystem", "système respiratoire", "sistema respiratorio",
		"sistema respiratorio", "ademhalingsstelsel", "układ oddechowy", "sistema respiratório"},
	"eyes": {"Augen", "yeux", "ojos", "occhi", "ogen", "oczy", "olhos"},
	"optic nerve": {"Sehnerv", "nerf optique", "nervio óptico", "nervo ottico", "oogzenuw",
		"nerw wzrokowy", "nervo ótico"},
	"blood":   {"Blut", "sang", "sangre", "sangue", "bloed", "krew", "sangue"},
	"heart":   {"Herz", "cœur", "corazón", "cuore", "hart", "serce", "coração"},
	"skin":    {"Haut", "peau", "piel", "pelle", "huid", "skóra", "pele"},
	"bones":   {"Knochen", "os", "huesos", "ossa", "botten", "kości", "ossos"},
	"teeth":   {"Zähne", "dents", "dientes", "denti", "tanden", "zęby", "dentes"},
	"bladder": {"Blase", "vessie", "vejiga", "vescica", "blaas", "pęcherz moczowy", "bexiga"},
	"immune system": {"Immunsystem", "système immunitaire", "sistema inmunitario", "sistema immunitario",
		"immuunsysteem", "układ odpornościowy", "sistema imunitário"},
	"oral": {"Verschlucken", "ingestion", "ingestión", "ingestione", "inslikken", "połknięcie",
		"ingestão"},
	"dermal": {"Hautkontakt", "contact cutané", "contacto cutáneo", "contatto con la pelle",
		"huidcontact", "kontakt ze skórą", "contacto com a pele"},
	"inhalation": {"Einatmen", "inhalation", "inhalación", "inalazione", "inademing", "wdychanie",
		"inalação"},
}

// detailsIn returns details of classes in a language, and those of which it is not known.
func detailsIn(details []string, language string) (words []string, untold string) {
	at := slices.Index(Languages, language) - 1
	for _, detail := range details {
		for part := range strings.SplitSeq(detail, ",") {
			part = strings.TrimSpace(part)
			in, known := organs[strings.ToLower(part)]
			switch {
			case at >= 0 && known:
				part = in[at]
			case at >= 0:
				untold = strings.TrimPrefix(untold+", "+part, ", ")
			}
			if !slices.Contains(words, part) {
				words = append(words, part)
			}
		}
	}
	return words, untold
}

func firstOf(order, codes []string) string {
	for _, code := range order {
		if slices.Contains(codes, code) {
			return code
		}
	}
	return ""
}
