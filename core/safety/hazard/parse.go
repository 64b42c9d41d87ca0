package hazard

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// A Classified is a class that a thing has, with what its statement names besides.
type Classified struct {
	Class   *Class
	Detail  string   // what was said about it that the class does not know: organs, "F", a route
	Hazards []string // codes, the detail taken into account
	Factor  float64  // by which a hazard to water is multiplied in a mixture (M); 0: none is said
}

// String returns the class with its detail.
func (c *Classified) String() string {
	if c.Detail != "" {
		return c.Class.String() + " (" + c.Detail + ")"
	}
	return c.Class.String()
}

var (
	inBrackets = regexp.MustCompile(`\(([^()]*)\)`)
	codeInside = regexp.MustCompile(`(?i)\b(EUH\d{3}A?|H\d{3}[A-Za-z]{0,2})\b`)
)

// Parse reads a classification such as "Flam. Liq. 2; Acute Tox. 3 (oral)": abbreviations of CLP or names of the
// classes in full, with or without their statement, or a statement alone where it belongs to one class only. Items are
// parted by semicolons or lines, or by commas. Its error is a *refusal.Error that names the item.
func (b *Book) Parse(text string, rules RuleSet) ([]Classified, error) {
	var found []Classified
	for _, item := range eachRoute(items(text)) {
		classified, err := b.parseItem(item, rules)
		if err != nil {
			return nil, err
		}
		again := slices.ContainsFunc(found, func(f Classified) bool {
			return f.Class == classified.Class &&
				f.Detail == classified.Detail
		})
		if !again {
			found = append(found, classified)
		}
	}
	if len(found) == 0 {
		return nil, noClass.With()
	}
	return found, contradiction(found)
}

// items parts a classification; a comma before a statement belongs to its class.
func items(text string) (items []string) {
	for _, part := range strings.FieldsFunc(text, func(r rune) bool {
		return r == ';' || r == '\n' || r == '\r' ||
			r == '|'
	}) {
		depth, from := 0, 0
		for i, r := range part {
			switch r {
			case '(':
				depth++
			case ')':
				depth--
			case ',':
				if depth == 0 && !goesOn(part[i+1:]) {
					items = append(items, part[from:i])
					from = i + 1
				}
			}
		}
		items = append(items, part[from:])
	}
	kept := items[:0]
	for _, item := range items {
		if item = strings.TrimSpace(item); item != "" {
			kept = append(kept, item)
		}
	}
	return kept
}

// goesOn tells whether what stands behind a comma belongs to the class before it: its statement, or its category.
func goesOn(text string) bool {
	text = strings.TrimSpace(text)
	at := codeInside.FindStringIndex(text)
	return at != nil && at[0] == 0 || slices.ContainsFunc(slices.Concat(categoryWords, furtherWords),
		func(word string) bool {
			return len(text) >= len(word) && strings.EqualFold(text[:len(word)], word)
		})
}

// furtherWords go on with the name of a class behind a comma.
var furtherWords = []string{"oral", "dermal", "inhalation", "single exposure", "repeated exposure", "short-term",
	"long-term", "acute hazard", "chronic hazard"}

// categoryWords are words that stand before a category.
var categoryWords = []string{"category", "kategorie", "catégorie", "categoría", "cat", "type", "division", "div"}

// plain leaves letters and digits, small, so that "Flam. Liq. 2" and "flam liq 2" are one; and so are oxidizing and
// oxidising.
func plain(text string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r == 'z' || r == 'Z': // sensitization
			return 's'
		case unicode.IsLetter(r) || unicode.IsDigit(r):
			return unicode.ToLower(r)
		}
		return -1
	}, text)
}

// eachRoute parts items of several routes: Acute Tox. 3 (oral, dermal).
func eachRoute(items []string) (each []string) {
	for _, item := range items {
		inside := inBrackets.FindStringSubmatch(item)
		var of []string
		if inside != nil {
			of = strings.FieldsFunc(strings.ReplaceAll(inside[1], " and ", ","),
				func(r rune) bool { return strings.ContainsRune(",/&+", r) })
		}
		if len(of) < 2 || slices.ContainsFunc(of, func(route string) bool { return routes[plain(route)] == "" }) ||
			routes[plain(inside[1])] != "" {
			each = append(each, item)
			continue
		}
		for _, route := range of {
			each = append(each, strings.Replace(item, inside[0], "("+strings.TrimSpace(route)+")", 1))
		}
	}
	return each
}

// inBracketsToo is a category that stands in brackets, as in Acute toxicity, Oral (Category 3).
var inBracketsToo = regexp.MustCompile(`(?i)\((?:category|cat\.?|kategorie|catégorie|categoría)\s*([0-9]\w?)\)`)

// routeInside is a route that stands among the words of a class.
var routeInside = regexp.MustCompile(`(?i)\b(oral|dermal|inhalation)\b`)

// together are names that stand for two classes, by their category.
var together = map[string]map[byte]string{
	plain("Serious eye damage/eye irritation"): {'1': "Eye Dam.", '2': "Eye Irrit."},
	plain("Skin corrosion/irritation"):         {'1': "Skin Corr.", '2': "Skin Irrit.", '3': "Skin Irrit."},
	plain("Hazardous to the aquatic environment, acute"): {'1': "Aquatic Acute", '2': "Aquatic Acute",
		'3': "Aquatic Acute"},
	plain("Hazardous to the aquatic environment, chronic"): {'1': "Aquatic Chronic", '2': "Aquatic Chronic",
		'3': "Aquatic Chronic", '4': "Aquatic Chronic"},
	plain("Short-term (acute) aquatic hazard"): {'1': "Aquatic Acute", '2': "Aquatic Acute",
		'3': "Aquatic Acute"},
	plain("Long-term (chronic) aquatic hazard"): {'1': "Aquatic Chronic", '2': "Aquatic Chronic",
		'3': "Aquatic Chronic", '4': "Aquatic Chronic"},
}

// routes are the words for what a class is of.
var routes = map[string]string{
	"oral": "oral", "swallowed": "oral", "ingestion": "oral", "dermal": "dermal", "skin": "dermal",
	"skincontact": "dermal",
	"inhalation":  "inhalation", "inhal": "inhalation", "inhaled": "inhalation", "gas": "inhalation",
	"gases": "inhalation", "vapour": "inhalation",
	"vapours": "inhalation", "vapor": "inhalation", "dust": "inhalation", "mist": "inhalation",
	"dustmist": "inhalation", "dustsmists": "inhalation",
	"rti": "respiratory irritation", "respiratoryirritation": "respiratory irritation",
	"respiratorytractirritation": "respiratory irritation", "irritation": "respiratory irritation",
	"narcotic": "narcotic effects", "narcosis": "narcotic effects", "narcoticeffects": "narcotic effects",
	"comp": "Comp.", "compressed": "Comp.", "liq": "Liq.", "liquefied": "Liq.", "diss": "Diss.", "dissolved": "Diss.",
	"refliq":       "Ref. Liq.",
	"refrigerated": "Ref. Liq.", "refrigeratedliquefied": "Ref. Liq.", "pyrophoric": "pyrophoric",
	"unstablea": "unstable A", "unstableb": "unstable B",
}

// reproductive are the letters that say which of the two a thing harms (CLP, Annex VI, 1.1.2.1.2).
var reproductive = map[string][]string{"1": {"F", "D", "FD", "Fd", "Df"}, "2": {"f", "d", "fd"}}

func (b *Book) parseItem(item string, rules RuleSet) (Classified, error) {
	text, detail, codes := inBracketsToo.ReplaceAllString(item, " $1 "), "", []string(nil)
	text = strings.ReplaceAll(text, "*", "") // which mark what annex VI took over from older rules
	for _, bracket := range inBrackets.FindAllStringSubmatch(text, -1) {
		said := strings.TrimSpace(bracket[1])
		switch {
		case said == "" || codeInside.MatchString(said):
		case detail != "":
			return Classified{}, twoDetails.With(item, detail, said)
		default:
			detail = said
		}
	}
	codes = codeInside.FindAllString(text, -1)
	text = inBrackets.ReplaceAllString(text, " ")
	text = codeInside.ReplaceAllString(text, " ")
	if route := routeInside.FindString(text); route != "" && detail == "" {
		text, detail = routeInside.ReplaceAllString(text, " "), route
	}
	name := plain(text)
	for _, word := range categoryWords {
		if at := strings.LastIndex(name, plain(word)); at > 2 && len(name)-at-len(plain(word)) <= 3 {
			name = name[:at] + name[at+len(plain(word)):]
			break
		}
	}
	for both, classes := range together {
		if rest, cut := strings.CutPrefix(name, both); cut && rest != "" && classes[rest[0]] != "" {
			name = plain(classes[rest[0]] + rest)
		}
	}
	var fit []*Class
	for i := range b.Classes {
		c := &b.Classes[i]
		switch {
		case name == "" && len(codes) > 0:
			if slices.ContainsFunc(c.Hazards, func(h string) bool {
				return strings.EqualFold(h, codes[0]) || c.Class == "Repr." && strings.HasPrefix(codes[0], h)
			}) {
				fit = append(fit, c)
			}
		case name == plain(c.Class+c.Category) || name == plain(c.Name+c.Category) ||
			name == plain(singular(c.Name)+c.Category) || name == plain(c.Class+c.Category+c.Of):
			fit = append(fit, c)
		}
	}
	if len(fit) == 0 {
		return Classified{}, b.unknown(item, name)
	}
	if fit = ofRules(fit, rules); len(fit) == 0 {
		return Classified{}, classNotInRules.With(item, rules)
	}
	if name == "" && slices.ContainsFunc(fit, func(c *Class) bool {
		return c.Class != fit[0].Class || c.Signal != fit[0].Signal || !slices.Equal(c.Pictograms, fit[0].Pictograms)
	}) {
		return Classified{}, ambiguous(item, fit)
	}
	return b.choose(item, fit, detail, codes)
}

// singular lets "flammable liquid 2" stand for "Flammable liquids 2".
func singular(name string) string { return strings.TrimSuffix(name, "s") }

func ofRules(classes []*Class, rules RuleSet) (fit []*Class) {
	for _, c := range classes {
		if c.Rules == nil || slices.Contains(c.Rules, rules) {
			fit = append(fit, c)
		}
	}
	return fit
}

// choose tells which of a class's kinds is meant, by route, effect or statement.
func (b *Book) choose(item string, fit []*Class, detail string, codes []string) (Classified, error) {
	of, known := routes[plain(detail)]
	if detail != "" && known {
		for _, c := range fit {
			if c.Of == of {
				return made(item, c, "", codes)
			}
		}
	}
	for _, code := range codes {
		var with, exactly []*Class // H350i is not H350, where there is a class of its own
		for _, c := range fit {
			if slices.ContainsFunc(c.Hazards, func(h string) bool { return h == code }) {
				exactly = append(exactly, c)
			}
			if slices.ContainsFunc(c.Hazards, func(h string) bool {
				return strings.EqualFold(h, code) || strings.HasPrefix(strings.ToUpper(code), h) && len(code) > len(h)
			}) {
				with = append(with, c)
			}
		}
		if len(exactly) > 0 {
			with = exactly
		}
		if len(with) > 0 {
			fit = with
		} else if strings.HasPrefix(strings.ToUpper(code), "H") || len(fit) == 0 {
			return Classified{}, statementNotOfClass.With(item, code)
		}
	}
	if len(fit) == 1 {
		return made(item, fit[0], detail, codes)
	}
	for _, c := range fit { // a kind that needs no word more
		if c.Of == "" {
			return made(item, c, detail, codes)
		}
	}
	return Classified{}, ambiguous(item, fit)
}

// ambiguous asks which of several classes is meant.
func ambiguous(item string, fit []*Class) error {
	var kinds []string
	for _, c := range fit {
		kind := c.Of
		if c.Class != fit[0].Class || c.Category != fit[0].Category {
			kind = c.String()
		}
		kinds = append(kinds, kind)
	}
	return ambiguousClass.With(item, strings.Join(kinds, ", "))
}

// factorSaid is a multiplying factor as people write it: M=10, M factor: 100.
var factorSaid = regexp.MustCompile(`(?i)^m(?:[- ]?factor)?\s*[:=]?\s*([0-9]+)(?:\s*\((?:acute|chronic)\))?$`)

// made takes the detail of a class into its statements. What is not understood is refused: it may be what makes a
// hazard.
func made(item string, c *Class, detail string, codes []string) (Classified, error) {
	m := Classified{Class: c, Detail: detail, Hazards: c.Hazards}
	if c.Class == "Repr." {
		letters := reproductive[c.Category[:1]]
		for _, word := range append([]string{detail}, codes...) {
			suffix := word
			if len(word) > 4 && strings.HasPrefix(word, "H3") {
				suffix = word[4:]
			}
			if slices.Contains(letters, suffix) {
				m.Hazards = []string{c.Hazards[0] + suffix}
				if suffix == detail {
					m.Detail = ""
				}
			}
		}
	}
	route, isRoute := routes[plain(m.Detail)]
	switch {
	case m.Detail == "":
	case strings.HasPrefix(c.Class, "STOT") && c.Category != "3": // organs, or a route
	case c.Class == "Carc." || c.Class == "Muta." || c.Class == "Repr.":
		// a route, which the statement names where it is the only one
		if !isRoute {
			return m, unknownRoute.With(item, m.Detail,
				map[bool]string{true: ", or one of the letters " + strings.Join(reproductive[c.Category[:1]],
					", ")}[c.Class == "Repr."])
		}
	case c.Class == "Resp. Sens." && route == "inhalation", c.Class == "Skin Sens." && route == "dermal":
		m.Detail = ""
	case (c.Class == "Aquatic Acute" || c.Class == "Aquatic Chronic") && factorSaid.MatchString(m.Detail):
		factor, err := strconv.ParseFloat(factorSaid.FindStringSubmatch(m.Detail)[1], 64)
		if err != nil || factor < 1 || factor > mostFactor || c.Category != "1" {
			return m, badMFactor.With(item)
		}
		m.Factor, m.Detail = factor, "M="+strconv.FormatFloat(factor, 'f', -1, 64)
	default:
		return m, unknownDetail.With(item, m.Detail)
	}
	return m, nil
}
