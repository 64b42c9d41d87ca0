package hazard

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"
	"unicode"
)

// A Substance is one of the book's list, or one of one's own.
type Substance struct {
	CAS            string            `json:"cas"`
	EC             string            `json:"ec,omitempty"`
	Formula        string            `json:"formula,omitempty"`
	Names          map[string]string `json:"names"` // by language
	Synonyms       []string          `json:"synonyms,omitempty"`
	Classification string            `json:"classification"`         // as Parse reads it; empty: it is not classified
	Supplemental   []string          `json:"supplemental,omitempty"` // EUH codes
	// of its own in mixtures, as ParseLimits reads them
	Limits       string   `json:"limits,omitempty"`
	UN           string   `json:"un,omitempty"`        // number, four digits
	Transport    string   `json:"transport,omitempty"` // class, with subsidiary hazards in brackets
	PackingGroup string   `json:"packingGroup,omitempty"`
	Notes        []string `json:"notes,omitempty"` // of its entry in annex VI, by their letters or numbers
	// in which it is, where that decides, such as "in water, from 25 %"; empty: as it is by itself
	State  string `json:"state,omitempty"`
	Source Source `json:"source,omitempty"` // of what is said of it
	Own    Origin `json:"own,omitempty"`
}

// ID returns what the substance is found by: its CAS number, and its state.
func (s *Substance) ID() string {
	if s.State == "" {
		return s.CAS
	}
	return s.CAS + " " + s.State
}

// A Source is where the classification of a substance is from.
type Source string

// The sources of the book.
const (
	Harmonised Source = "annex VI" // CLP, annex VI, part 3, as amended up to (EU) 2022/692, to our knowledge
	// what suppliers commonly say, to our knowledge: to be checked against the safety data sheet
	Check Source = "check"
)

// sources say what the sources are.
var sources = map[Source]string{
	Harmonised: "The classification is that of CLP, annex VI, up to (EU) 2022/692, to our knowledge. A supplier's " +
		"safety data sheet may say more, and goes first.",
	Check: "The classification is not harmonised, or not certain here: check it against section 2 of the safety " +
		"data sheet before it is printed.",
}

// From says in a sentence where the classification is from.
func (s *Substance) From() string {
	if s.Own != OfTheBook {
		return "The plant's own entry."
	}
	return sources[s.Source]
}

// An Origin is who says what is said of a substance.
type Origin string

// The origins.
const (
	OfTheBook Origin = ""
	OwnOne    Origin = "own"     // the book does not have it
	Changed   Origin = "changed" // the book says something else
)

// With returns the book with substances of one's own, which go before its own words. Its error is that of Add.
func (b *Book) With(own []Substance) (*Book, error) {
	if len(own) == 0 {
		return b, nil
	}
	made := &Book{Classes: b.Classes, Substances: slices.Clone(b.Substances), statements: b.statements,
		byNumber: maps.Clone(b.byNumber)}
	for _, s := range own {
		s.Own = OwnOne
		if at, known := b.byNumber[s.ID()]; known {
			s.Own = Changed
			if len(s.Notes) == 0 {
				s.Notes = b.Substances[at].Notes
			}
		}
		if err := made.Add(s); err != nil {
			return nil, err
		}
	}
	return made, nil
}

func (b *Book) takeSubstance(row []string) error {
	s := Substance{CAS: row[0], EC: row[1], Formula: row[2], Names: map[string]string{}, Classification: row[8],
		Supplemental: strings.Fields(row[9]),
		UN:           row[10], Transport: row[11], PackingGroup: row[12], Limits: row[13], State: row[14],
		Source: Source(row[15]), Notes: strings.Fields(row[16])}
	if sources[s.Source] == "" && s.Source != "" {
		return unknownSource.With(s.Source)
	}
	for i, language := range nameLanguages {
		s.Names[language] = row[3+i]
	}
	for synonym := range strings.SplitSeq(row[7], ";") {
		if synonym != "" {
			s.Synonyms = append(s.Synonyms, synonym)
		}
	}
	return b.Add(s)
}

// Add takes a substance into the book, in the place of one with its number. Its error is a *refusal.Error that says
// what is wrong with it.
func (b *Book) Add(s Substance) error {
	if err := CheckCAS(s.CAS); err != nil {
		return err
	}
	if s.EC != "" {
		if err := CheckEC(s.EC); err != nil {
			return err
		}
	}
	if strings.TrimSpace(s.Names["en"]) == "" {
		return noName.With()
	}
	if s.UN != "" && (len(s.UN) != 4 || !digits(s.UN)) {
		return badUnNumber.With(s.UN)
	}
	if s.Classification != "" {
		if _, err := b.Parse(s.Classification, CLP); err != nil {
			return err
		}
	}
	if _, err := b.ParseLimits(s.Limits); err != nil {
		return err
	}
	for _, code := range s.Supplemental {
		if b.statements[code] == nil {
			return unknownStatement.With(code)
		}
	}
	at, known := b.byNumber[s.ID()]
	if known {
		b.Substances[at] = s
		return nil
	}
	b.byNumber[s.ID()] = len(b.Substances)
	if _, taken := b.byNumber[s.EC]; s.EC != "" && !taken { // hydrates share the number of what is dry
		b.byNumber[s.EC] = len(b.Substances)
	}
	b.Substances = append(b.Substances, s)
	return nil
}

// CheckCAS tells what is wrong with a CAS Registry Number: two to seven digits, two, and a check digit, which is the
// sum of the digits before it, each times its place from the right, modulo 10.
func CheckCAS(number string) error {
	parts := strings.Split(number, "-")
	if len(parts) != 3 || len(parts[0]) < 2 || len(parts[0]) > 7 || len(parts[1]) != 2 || len(parts[2]) != 1 ||
		!digits(parts...) {
		return badCas.With(number)
	}
	body := parts[0] + parts[1]
	sum := 0
	for i := range len(body) {
		sum += int(body[len(body)-1-i]-'0') * (i + 1)
	}
	if want := byte('0' + sum%10); parts[2][0] != want {
		return casCheckDigit.With(number, want)
	}
	return nil
}

// CheckEC tells what is wrong with an EC number: three digits, three, and a check digit, which is the sum of the digits
// before it, each times its place from the left, modulo 11.
func CheckEC(number string) error {
	parts := strings.Split(number, "-")
	if len(parts) != 3 || len(parts[0]) != 3 || len(parts[1]) != 3 || len(parts[2]) != 1 || !digits(parts...) {
		return badEc.With(number)
	}
	body := parts[0] + parts[1]
	sum := 0
	for i := range len(body) {
		sum += int(body[i]-'0') * (i + 1)
	}
	if want := sum % 11; want == 10 || parts[2][0] != byte('0'+want) {
		return ecCheckDigit.With(number)
	}
	return nil
}

func digits(parts ...string) bool {
	for _, part := range parts {
		if strings.IndexFunc(part, func(r rune) bool { return r < '0' || r > '9' }) >= 0 {
			return false
		}
	}
	return true
}

// Substance returns the substance of a CAS or EC number. Its error is a *refusal.Error: the number is none, or the book
// does not have it.
func (b *Book) Substance(number string) (*Substance, error) {
	number = strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Pd, r) {
			return '-'
		}
		return r
	}, strings.TrimSpace(number))
	if at, known := b.byNumber[number]; known {
		return &b.Substances[at], nil
	}
	if CheckEC(number) != nil {
		if err := CheckCAS(number); err != nil {
			return nil, err
		}
	}
	return nil, unknownSubstance.With(number, len(b.Substances))
}

// Search returns substances by number, name in any language, synonym, formula or UN number: those that begin with the
// words first, up to limit.
func (b *Book) Search(words string, limit int) (found []*Substance) {
	wanted := strings.ToLower(strings.TrimSpace(words))
	if wanted == "" {
		return nil
	}
	un := strings.TrimSpace(strings.TrimPrefix(wanted, "un"))
	var inside []*Substance
	for i := range b.Substances {
		s := &b.Substances[i]
		names := append([]string{s.ID(), s.EC, s.Formula}, s.Synonyms...)
		for _, language := range Languages {
			names = append(names, s.Names[language])
		}
		begins, has := s.UN != "" && s.UN == un, false
		for _, name := range names {
			name = strings.ToLower(name)
			begins = begins || strings.HasPrefix(name, wanted)
			has = has || strings.Contains(name, wanted)
		}
		if begins {
			found = append(found, s)
		} else if has {
			inside = append(inside, s)
		}
	}
	found = append(found, inside...)
	return found[:min(len(found), limit)]
}

// SubstanceLabel returns what stands on the label of a substance of the book. While something is open, it is no label
// to print.
func (b *Book) SubstanceLabel(s *Substance, w Wanted) (*Label, error) {
	var classes []Classified
	var unknown []string // to the rules
	if s.Classification != "" {
		var err error
		for _, item := range items(s.Classification) { // what this rule set does not know is left out below
			if one, wrong := b.Parse(item, w.Rules); wrong == nil {
				classes = append(classes, one...)
			} else {
				unknown, err = append(unknown, item), wrong
			}
		}
		if len(classes) == 0 {
			return nil, err
		}
	}
	w.Rules, w.Language = cmp.Or(w.Rules, CLP), cmp.Or(w.Language, "en")
	name := cmp.Or(s.Names[w.Language], s.Names["en"])
	asked := asking{known: maps.Clone(w.Known)}
	if w.Rules == CLP {
		n := b.notes(&asked, s.CAS, name, s.Notes, classes, w, false)
		classes, w.due, name = n.classes, n.due, strings.Join(append([]string{cmp.Or(n.name, name)}, n.added...), ", ")
		asked.told = append(asked.told, n.steps...)
	}
	var otherwise *Reasoned
	if w.Rules == HazCom {
		otherwise = asked.otherwise()
	}
	if asked.failed != nil {
		return nil, asked.failed
	}
	l, err := b.Label(classes, w)
	if err != nil {
		return nil, err
	}
	if otherwise != nil {
		l.Supplemental = append(l.Supplemental, *otherwise)
	}
	l.Name, l.Open, l.Answered = name, append(l.Open, asked.open...), asked.answered
	l.Notes = append(append(l.Notes, asked.told...), asked.unused("substance")...)
	if s.Names[w.Language] == "" {
		l.Notes = append(l.Notes, fmt.Sprintf("Its name in %s is not kept here: the English one stands there. Write "+
			"it as the name on the label.", languageNames[w.Language]))
	}
	if weaker := b.weaker(s, asked.answered); weaker != "" {
		l.Notes = append(l.Notes, weaker)
	}
	for _, item := range unknown {
		l.LeftOut = append(l.LeftOut, LeftOut{Code: item, Because: []string{"entry of " + s.CAS}, May: true,
			Why: "it is no class under these rules"})
	}
	l.displaces(s)
	for _, code := range s.Supplemental {
		if slices.ContainsFunc(l.Supplemental, func(r Reasoned) bool { return r.Code == code }) {
			continue
		}
		text, _ := b.Text(code, l.Language)
		r := Reasoned{Code: code, Text: text, Because: []string{"entry of " + s.CAS}}
		if l.Rules == CLP {
			l.Supplemental = append(l.Supplemental, r)
		} else {
			l.LeftOut = append(l.LeftOut, LeftOut{Code: code, Text: text, Because: r.Because, May: true,
				Why: "EUH statements belong to CLP (annex II, part 1); here they may be said besides"})
		}
	}
	return l, l.whole()
}
