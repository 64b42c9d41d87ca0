// Package pipe says how a pipe is marked: the colours of its contents, the height of letters, the
// length of the field and how many markers a run of pipe needs. The rules are those of
// ISO 20560-1:2020, ASME A13.1-2020 and DIN 2403:2018-10, in tables that can be replaced by newer ones
// without a new program.
package pipe

import (
	"cmp"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"oddspool/core/tables"
)

// A RuleSet is whose rules are followed: a name in rules.tsv.
type RuleSet string

// The rule sets that the program's own tables have.
const (
	ISO     RuleSet = "iso"
	ASME    RuleSet = "asme"
	DIN     RuleSet = "din"
	BS      RuleSet = "bs"
	Ammonia RuleSet = "iiar"
	Medical RuleSet = "medical" // colours of ISO 32
	NFPA99  RuleSet = "nfpa99"
)

// A Group is one group of contents under one rule set.
type Group struct {
	Rules   RuleSet `json:"rules"`
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Field   string  `json:"field"`            // colour of the field
	Letters string  `json:"letters"`          // and of what stands on it
	Stripe  string  `json:"stripe,omitempty"` // bands of other colours, see Bands
	Hazard  bool    `json:"hazard,omitempty"` // its contents are hazardous of themselves
	Holds   string  `json:"holds"`            // examples
	Clause  string  `json:"clause"`           // of the standard
	words   []string
}

// A ruled is what a rule set says besides its groups.
type ruled struct {
	standard string
	spacing  float64 // metres between markers on straight pipe
	thinnest float64 // outside diameter, mm, from which pipes themselves are marked; thinner ones get a tag
}

// A size is one row of a table of sizes, in millimetres: from which outside diameter of pipe or covering on, height of
// letters and length of the colour field.
type size struct{ from, letters, length float64 }

// A Book is the tables that pipes are marked by.
type Book struct {
	Groups []Group

	sets  []RuleSet
	rules map[RuleSet]ruled
	sizes []size
}

// Sets returns the rule sets that the book has.
func (b *Book) Sets() []RuleSet { return b.sets }

// A Band is a band of a second colour at one end of the field.
type Band struct {
	Colour string
	Word   string // that stands on it
	Within bool   // the field's own colour goes on beyond it
}

// Letters is the colour of what stands on the band.
func (b Band) Letters() string {
	switch b.Colour {
	case "yellow", "orange", "white", "light blue":
		return "black"
	}
	return "white"
}

// Bands returns the bands at the left and the right end; none: there are none. A table writes them as "red" (both
// ends), "within blue" (both ends, with the field's colour on either side) or "yellow LIQ;red HIGH" (each its own, with
// a word in capitals).
func (g *Group) Bands() (bands []Band) {
	if g.Stripe == "" {
		return nil
	}
	for _, end := range strings.Split(g.Stripe, ";") {
		var band Band
		band.Colour, band.Within = strings.CutPrefix(end, "within ")
		if at := strings.LastIndex(band.Colour, " "); at >= 0 && strings.ToUpper(band.Colour[at:]) == band.Colour[at:] {
			band.Colour, band.Word = band.Colour[:at], band.Colour[at+1:]
		}
		bands = append(bands, band)
	}
	if len(bands) == 1 {
		bands = append(bands, bands[0])
	}
	return bands[:2]
}

//go:embed *.tsv
var shipped embed.FS

// Files are the tables of the book that comes with the program: groups are ISO 20560-1, table 1 (basic identification
// colours), ASME A13.1, table 1, DIN 2403, table 1; sizes are ASME A13.1-2020, table 2, which has gaps between its rows
// (51 to 64 mm): a pipe in one is marked as the next thicker; spacing is ASME A13.1, 3.2.3 (25 to 50 feet), ISO
// 20560-1, 4.6 and DIN 2403, 4.5 (10 m).
func Files() fs.FS { return shipped }

// Shipped returns the book that comes with the program.
var Shipped = sync.OnceValue(func() *Book {
	book, err := Read(shipped)
	if err != nil {
		panic(err) // the tables are part of the program, and its tests read them
	}
	return book
})

// Read reads the tables of a book: rules.tsv, groups.tsv and sizes.tsv. Its errors name file and line.
func Read(files fs.FS) (*Book, error) {
	b := &Book{rules: map[RuleSet]ruled{}}
	if err := tables.ReadFile(files, "rules.tsv", 4, b.takeRules); err != nil {
		return nil, err
	}
	if err := tables.ReadFile(files, "groups.tsv", 10, b.takeGroup); err != nil {
		return nil, err
	}
	if err := tables.ReadFile(files, "sizes.tsv", 3, b.takeSize); err != nil {
		return nil, err
	}
	if len(b.sizes) == 0 || b.sizes[0].from != 0 {
		return nil, errors.New("sizes.tsv: the first row is not that of the thinnest pipes, from 0 mm on")
	}
	if b.rules[ASME].standard == "" {
		return nil, fmt.Errorf("rules.tsv: nothing is said of %s, whose sizes the others take", ASME)
	}
	for _, rules := range b.sets {
		if len(b.Of(rules)) == 0 {
			return nil, fmt.Errorf("groups.tsv: there are no groups of %s", rules)
		}
	}
	return b, nil
}

func (b *Book) takeRules(row []string) error {
	of, err := figures(row[2:])
	if err != nil {
		return err
	}
	if row[0] == "" || row[1] == "" || slices.Contains(b.sets, RuleSet(row[0])) {
		return errors.New("a rule set has a name of its own, and a standard")
	}
	if of[0] == 0 {
		return errors.New("markers stand more than 0 m apart")
	}
	b.sets = append(b.sets, RuleSet(row[0]))
	b.rules[RuleSet(row[0])] = ruled{row[1], of[0], of[1]}
	return nil
}

func (b *Book) takeGroup(row []string) error {
	g := Group{RuleSet(row[0]), row[1], row[2], row[3], row[4], row[5], row[6] == "yes", row[7], row[8], nil}
	if _, known := b.rules[g.Rules]; !known {
		return b.unknownRules(g.Rules)
	}
	if slices.Contains(row[1:5], "") || row[8] == "" {
		return errors.New("a group has an identifier, a name, two colours and a clause")
	}
	if slices.ContainsFunc(b.Groups, func(other Group) bool { return other.Rules == g.Rules && other.ID == g.ID }) {
		return fmt.Errorf("%s has two groups %s", g.Rules, g.ID)
	}
	if row[9] != "" {
		g.words = strings.Split(row[9], ";")
	}
	b.Groups = append(b.Groups, g)
	return nil
}

func (b *Book) takeSize(row []string) error {
	of, err := figures(row)
	if err != nil {
		return err
	}
	if n := len(b.sizes); min(of[1], of[2]) <= 0 || n > 0 && of[0] <= b.sizes[n-1].from {
		return errors.New("sizes rise with the diameter and are above 0")
	}
	b.sizes = append(b.sizes, size{of[0], of[1], of[2]})
	return nil
}

func figures(cells []string) (figures []float64, err error) {
	for _, cell := range cells {
		figure, err := strconv.ParseFloat(cell, 64)
		if err != nil || !(figure >= 0) || figure > 1e6 {
			return nil, fmt.Errorf("%q is no figure", cell)
		}
		figures = append(figures, figure)
	}
	return figures, nil
}

// Standard returns the standard of a rule set with its year.
func (b *Book) Standard(rules RuleSet) string { return b.rules[rules].standard }

// Sizes says in words how large markers of a rule set are, and how far apart.
func (b *Book) Sizes(rules RuleSet) string {
	of := b.rules[rules]
	said := fmt.Sprintf("markers every %g m", of.spacing)
	if of.thinnest > 0 {
		said += fmt.Sprintf(", on pipes from %g mm on", of.thinnest)
	}
	for _, row := range b.sizes {
		said += fmt.Sprintf("; from %g mm: letters of %g mm on %g mm", row.from, row.letters, row.length)
	}
	return said
}

// Of returns the groups of a rule set.
func (b *Book) Of(rules RuleSet) (of []Group) {
	for _, g := range b.Groups {
		if g.Rules == rules {
			of = append(of, g)
		}
	}
	return of
}

// Words are the names of contents that belong to the group.
func (g *Group) Words() []string { return g.words }

// Find returns the group of contents named in plain words, such as "cooling water", or of a group's own identifier or
// name. What the words end in says what it is: hydrogen peroxide is no hydrogen. Its error is a *refusal.Error that
// lists the groups: what is not known is asked for, never guessed.
func (b *Book) Find(rules RuleSet, contents string) (*Group, error) {
	if !slices.Contains(b.sets, rules) {
		return nil, b.unknownRules(rules)
	}
	if strings.TrimSpace(contents) == "" {
		return nil, noContents.With()
	}
	var best *Group
	longest := 0
	var names []string
	for i := range b.Groups {
		g := &b.Groups[i]
		if g.Rules != rules {
			continue
		}
		names = append(names, g.ID)
		if fits := g.Fits(contents); fits > longest {
			best, longest = g, fits
		}
	}
	if best == nil {
		return nil, unknownContents.With(contents, strings.Join(names, ", "))
	}
	return best, nil
}

// Fits tells how well contents named in plain words belong to the group: by the length of the word of its that they end
// in; 0: not at all.
func (g *Group) Fits(contents string) (longest int) {
	said := strings.ToLower(strings.TrimSpace(contents))
	if said == g.ID || said == strings.ToLower(g.Name) {
		return math.MaxInt
	}
	plain := named(said)
	for _, word := range g.words {
		if plain == word || strings.HasSuffix(plain, " "+word) {
			longest = max(longest, len(word))
		}
	}
	return longest
}

// named is the name in contents: without strengths, temperatures, pressures and brackets, and without what says where
// the pipe goes. A formula, such as CO₂, keeps its digits.
func named(contents string) string {
	first, _, _ := strings.Cut(subscripts.Replace(contents), ",") // water, drinking
	words := strings.Fields(bracketed.ReplaceAllString(first, " "))
	words = slices.DeleteFunc(words, notAName.MatchString)
	for len(words) > 1 && slices.Contains(ways, words[len(words)-1]) {
		words = words[:len(words)-1]
	}
	return strings.Join(words, " ")
}

var (
	bracketed  = regexp.MustCompile(`\([^)]*\)`)
	notAName   = regexp.MustCompile(`^([<>~≤≥]?[0-9][0-9./–-]*)?(%|°c|°f|bar|barg|mbar|psi|psig|kpa|mpa)?$`)
	ways       = []string{"supply", "return", "feed", "inlet", "outlet", "line", "main", "header", "pipe"}
	subscripts = strings.NewReplacer("₀", "0", "₁", "1", "₂", "2", "₃", "3", "₄", "4", "₅", "5", "₆", "6", "₇", "7",
		"₈", "8", "₉", "9")
)

// A Marking is how large what stands on a pipe is, in millimetres.
type Marking struct {
	Letters float64 `json:"letterHeight"` // height of capitals, at least
	Length  float64 `json:"fieldLength"`  // of the colour field along the pipe, at least
	// of the marker round the pipe, at least: the letters with as much above and below
	Height float64 `json:"markerHeight"`
	Round  float64 `json:"round"` // circumference of the pipe with its insulation
	Clause string  `json:"clause"`
}

// Mark returns how a pipe of an outside diameter, insulation included, in millimetres, is marked. Its error is an
// *refusal.Error.
func (b *Book) Mark(rules RuleSet, diameter float64) (Marking, error) {
	if !(diameter > 0) || diameter > 10_000 {
		return Marking{}, badDiameter.With(diameter)
	}
	of, known := b.rules[rules]
	if !known {
		return Marking{}, b.unknownRules(rules)
	}
	if diameter < of.thinnest {
		return Marking{}, tooThin.With(diameter, of.thinnest, of.standard)
	}
	m := Marking{Round: math.Round(diameter*math.Pi*10) / 10, Clause: b.rules[ASME].standard + ", table 2"}
	if rules != ASME {
		m.Clause = "sizes of " + m.Clause + ", which " + of.standard + " leaves to the distance they are read from"
	}
	for _, row := range b.sizes {
		if diameter >= row.from {
			m.Letters, m.Length = row.letters, row.length
		}
	}
	m.Height = 2 * m.Letters
	return m, nil
}

func (b *Book) unknownRules(rules RuleSet) error {
	names := make([]string, len(b.sets))
	for i, set := range b.sets {
		names[i] = string(set)
	}
	return unknownRuleSet.With(rules, strings.Join(names, ", "))
}

// Rows returns how often what stands on a marker is repeated round the pipe so that it reads from any side: a third of
// the way round apart, and not closer than the marker is high.
func (m Marking) Rows() int { return max(1, min(3, int(m.Round/m.Height))) }

// A Run is a length of pipe that is to be marked.
type Run struct {
	Length   float64 // metres
	Valves   int
	Bends    int // changes of direction
	Branches int
	Walls    int     // walls, floors or ceilings that it goes through
	Spacing  float64 // metres from marker to marker on straight pipe; 0: as the rules have it
}

// Count returns how many markers a run needs, with the reasons: one each so many metres of straight pipe, one beside
// every valve, before and behind a change of direction and a branch, and on both sides of a wall. Its error is an
// *refusal.Error.
func (b *Book) Count(rules RuleSet, run Run) (total int, why []string, err error) {
	if run.Length < 0 || run.Length > 1_000_000 || min(run.Valves, run.Bends, run.Branches, run.Walls) < 0 {
		return 0, nil, negativeLength.With()
	}
	apart := cmp.Or(run.Spacing, b.rules[rules].spacing)
	if !(apart > 0) {
		return 0, nil, badSpacing.With()
	}
	add := func(n int, says string) {
		if n > 0 {
			total += n
			why = append(why, fmt.Sprintf("%d %s", n, says))
		}
	}
	if run.Length > 0 {
		add(int(math.Floor(run.Length/apart))+1,
			fmt.Sprintf("on %g m of straight pipe, one at its beginning and then every %g m", run.Length, apart))
	}
	add(run.Valves, "beside valves")
	add(2*run.Bends, "before and behind changes of direction")
	add(run.Branches, "at branches")
	add(2*run.Walls, "on both sides of walls, floors and ceilings")
	return total, why, nil
}
