package hazard

import (
	"cmp"
	"fmt"
	"io"
	"maps"
	"regexp"
	"slices"
	"strings"
)

// An Annex is what the table of harmonised classifications says (Regulation (EC) No 1272/2008, annex VI, table 3), as
// its authority publishes it as a spreadsheet.
type Annex struct {
	Substances []Substance
	Told       []AnnexTold // what was not understood, or cannot be kept here
}

// An AnnexTold says what of a row of the table is not taken over as it stands.
type AnnexTold struct {
	Row   int    `json:"row"`   // of the records, from 1
	Index string `json:"index"` // number of the entry
	Text  string `json:"text"`
}

// annexColumns are the columns of the table that are read.
type annexColumns struct{ index, name, ec, cas, classes, hazards, more, limits, notes int }

// findAnnexColumns finds columns by their headings, which may stand over several rows.
func findAnnexColumns(fields []string) (c annexColumns, err error) {
	find := func(is func(heading string) bool) int {
		return slices.IndexFunc(fields,
			func(field string) bool { return is(strings.ToLower(strings.Join(strings.Fields(field), " "))) })
	}
	has := func(words ...string) func(string) bool {
		return func(heading string) bool {
			return slices.ContainsFunc(words, func(word string) bool { return strings.Contains(heading, word) })
		}
	}
	c = annexColumns{index: find(has("index no", "index number")),
		name: find(has("chemical name", "chemical identification", "international chemical")),
		ec:   find(func(h string) bool { return strings.HasPrefix(h, "ec ") || h == "ec" }),
		cas:  find(has("cas no", "cas number", "cas ")), classes: find(has("hazard class")),
		hazards: find(func(h string) bool {
			return strings.Contains(h, "hazard statement") &&
				!strings.Contains(h, "suppl")
		}),
		more:   find(func(h string) bool { return strings.Contains(h, "suppl") }),
		limits: find(has("specific conc", "m-factor", "m factor")),
		notes:  find(func(h string) bool { return h == "notes" || h == "note" })}
	for _, wanted := range []struct {
		at   int
		name string
	}{{c.name, "chemical name"}, {c.cas, "CAS No"}, {c.classes, "Hazard Class and Category Code(s)"},
		{c.hazards, "Hazard Statement Code(s)"}, {c.more, "Suppl. Hazard Statement Code(s)"},
		{c.limits, "Specific Conc. Limits, M-factors and ATEs"}} {
		if wanted.at < 0 {
			return c, notAnnex.With(wanted.name)
		}
	}
	return c, nil
}

// ReadAnnex reads the table: what is known of its substances besides, names in other languages and transport, is kept.
// Its error is a *refusal.Error.
func (b *Book) ReadAnnex(fields []string, records [][]string) (*Annex, error) {
	columns, err := findAnnexColumns(fields)
	if err != nil {
		return nil, err
	}
	a := &Annex{}
	taken := map[string]bool{}
	for i, record := range records {
		cell := func(column int) string {
			if column < 0 || column >= len(record) {
				return ""
			}
			if text := strings.TrimSpace(record[column]); text != "-" && text != "—" {
				return text
			}
			return ""
		}
		e := &annexEntry{book: b, tell: func(format string, args ...any) {
			a.Told = append(a.Told, AnnexTold{i + 1, cell(columns.index), fmt.Sprintf(format, args...)})
		}}
		numbers := casInside.FindAllString(cell(columns.cas), -1)
		if len(numbers) == 0 {
			e.tell("%s has no CAS number: a group of substances is not kept here.", firstLine(cell(columns.name)))
			continue
		}
		classification, ok := e.classification(lines(cell(columns.classes)), lines(cell(columns.hazards)))
		if !ok {
			continue
		}
		supplemental := codeInside.FindAllString(cell(columns.more), -1)
		limits := e.limits(lines(cell(columns.limits)))
		notes := noteInside.FindAllString(cell(columns.notes), -1)
		ecs := ecInside.FindAllString(cell(columns.ec), -1)
		for n, cas := range numbers {
			if taken[cas] {
				e.tell("%s is in the table before; of its entries the first is kept. Compare both.", cas)
				continue
			}
			s := Substance{CAS: cas, Names: map[string]string{"en": e.named(cell(columns.name), n+1)},
				Classification: classification, Supplemental: supplemental, Limits: limits, Notes: notes,
				Source: Harmonised}
			if n < len(ecs) {
				s.EC = ecs[n]
			}
			if at, known := b.byNumber[cas]; known && b.Substances[at].CAS == cas {
				kept := b.Substances[at]
				s.EC, s.Formula, s.Names, s.Synonyms, s.UN, s.Transport, s.PackingGroup = cmp.Or(s.EC, kept.EC),
					kept.Formula, kept.Names, kept.Synonyms, kept.UN, kept.Transport, kept.PackingGroup
			}
			probe := &Book{Classes: b.Classes, statements: b.statements, byNumber: maps.Clone(map[string]int{})}
			if err := probe.Add(s); err != nil {
				e.tell("%v", err)
				continue
			}
			taken[cas] = true
			a.Substances = append(a.Substances, s)
		}
	}
	return a, nil
}

var (
	casInside = regexp.MustCompile(`\b\d{2,7}-\d{2}-\d\b`)
	ecInside  = regexp.MustCompile(`\b\d{3}-\d{3}-\d\b`)

	noteInside = regexp.MustCompile(`\b(?:[A-Z]|1?[0-9])\b`)
)

func firstLine(text string) string {
	line, _, _ := strings.Cut(text, "\n")
	return strings.TrimSpace(line)
}

func lines(text string) (all []string) {
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); line != "" {
			all = append(all, line)
		}
	}
	return all
}

// annexEntry is one row of the table.
type annexEntry struct {
	book *Book
	tell func(format string, args ...any)
}

// named returns the name of the nth substance of an entry; several have numbers in brackets.
func (e *annexEntry) named(text string, n int) string {
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == '\n' || r == ';' }) {
		if before, _, is := strings.Cut(part, fmt.Sprintf("[%d]", n)); is {
			return strings.TrimSpace(before)
		}
	}
	name, _, _ := strings.Cut(firstLine(text), ";")
	return strings.TrimSpace(name)
}

// classification joins classes with their statements, which stand in a column of their own: gases under pressure have
// none.
func (e *annexEntry) classification(classes, hazards []string) (text string, ok bool) {
	used := make([]bool, len(hazards))
	var items []string
	for _, class := range classes {
		class = strings.TrimSpace(strings.ReplaceAll(class, "*", ""))
		item := ""
		for i, hazard := range hazards {
			hazard = strings.TrimSpace(strings.ReplaceAll(hazard, "*", ""))
			if used[i] {
				continue
			}
			code, organs, _ := strings.Cut(hazard, " ")
			if _, err := e.book.parseItem(class+" "+code, CLP); err == nil {
				used[i], item = true, class+" "+code
				if organs = strings.TrimSpace(organs); strings.HasPrefix(organs, "(") {
					item = class + " " + organs + " " + code
				}
				break
			}
		}
		if item == "" {
			item = class
		}
		made, err := e.book.parseItem(item, CLP)
		if err != nil {
			e.tell("%v", err)
			return "", false
		}
		written := made.String()
		if made.Class.Class == "Repr." && len(made.Hazards[0]) > len("H360") {
			written = made.Class.String() + " (" + made.Hazards[0][len("H360"):] + ")"
		}
		items = append(items, written)
	}
	for i, is := range used {
		if !is && codeInside.MatchString(hazards[i]) {
			e.tell("%s belongs to none of the classes %s.", hazards[i], strings.Join(classes, ", "))
			return "", false
		}
	}
	return strings.Join(items, "; "), true
}

var (
	ownLimit  = regexp.MustCompile(`^(.+?)\s*;?\s*(?:(H\d{3}[A-Za-z]{0,2}|EUH\d{3}A?))?\s*:\s*(.+)$`)
	fromOn    = regexp.MustCompile(`^C\s*(?:≥|>=|>)\s*([0-9.,]+)\s*%?$`)
	between   = regexp.MustCompile(`^([0-9.,]+)\s*%?\s*(?:≤|<=|<)\s*C\s*(?:<|≤|<=)\s*([0-9.,]+)\s*%?$`)
	ownFactor = regexp.MustCompile(
		`(?i)^M\s*(\(\s*(?:acute|chronic)\s*\))?\s*=\s*([0-9 ]+)\s*(\(\s*(?:acute|chronic)\s*\))?$`)
	ownATE = regexp.MustCompile(
		`(?i)^(oral|dermal|inhalation)\s*:\s*ATE\s*=\s*([0-9.,]+)\s*(mg/kg(?: bw)?|mg/l|ppmv?)\s*(?:\(([^)]*)\))?$`)
)

// limits writes limits as ParseLimits reads them. Where one is not understood, none is known.
func (e *annexEntry) limits(lines []string) string {
	var items []string
	for _, line := range lines {
		line = strings.TrimSpace(strings.ReplaceAll(line, "*", ""))
		if line == "" {
			continue
		}
		item := e.limit(line)
		if item == "" {
			e.tell("The limit “%s” is not understood; those of this entry count as not known.", line)
			return ""
		}
		items = append(items, item)
	}
	if items == nil {
		return noLimits
	}
	text := strings.Join(items, "; ")
	if _, err := e.book.ParseLimits(text); err != nil {
		e.tell("%v", err)
		return ""
	}
	return text
}

func (e *annexEntry) limit(line string) string {
	number := func(text string) string { return strings.ReplaceAll(strings.ReplaceAll(text, ",", "."), " ", "") }
	if said := ownFactor.FindStringSubmatch(line); said != nil {
		if strings.Contains(strings.ToLower(said[1]+said[3]), "chronic") {
			return "M chronic: " + number(said[2])
		}
		return "M: " + number(said[2])
	}
	if said := ownATE.FindStringSubmatch(line); said != nil {
		route, form := strings.ToLower(said[1]), strings.ToLower(said[4])
		if route == "inhalation" {
			switch {
			case strings.Contains(form, "vapour"):
				route = string(Vapour)
			case strings.Contains(form, "dust") || strings.Contains(form, "mist"):
				route = string(Dust)
			case strings.Contains(form, "gas") || strings.HasPrefix(strings.ToLower(said[3]), "ppm"):
				route = string(Gas)
			default:
				return ""
			}
		}
		return "ATE " + route + ": " + number(said[2])
	}
	said := ownLimit.FindStringSubmatch(line)
	if said == nil {
		return ""
	}
	bounds := strings.TrimSpace(said[3])
	switch {
	case fromOn.MatchString(bounds):
		bounds = number(fromOn.FindStringSubmatch(bounds)[1])
	case between.MatchString(bounds):
		both := between.FindStringSubmatch(bounds)
		bounds = number(both[1]) + "-" + number(both[2])
	default:
		return ""
	}
	if code := said[1] + said[2]; strings.HasPrefix(code, "EUH") {
		return code + ": " + bounds
	}
	made, err := e.book.parseItem(strings.TrimSpace(said[1]+" "+said[2]), CLP)
	if err != nil {
		return ""
	}
	return made.Class.String() + ": " + bounds
}

// WriteSubstances writes substances as substances.tsv has them: those of the book, with others in the place of those
// with their number, or behind them.
func (b *Book) WriteSubstances(w io.Writer, others []Substance) error {
	made := &Book{Classes: b.Classes, Substances: slices.Clone(b.Substances), statements: b.statements,
		byNumber: maps.Clone(b.byNumber)}
	for _, s := range others {
		if err := made.Add(s); err != nil {
			return err
		}
	}
	if _, err := fmt.Fprintln(w, "cas\tec\tformula\ten\tde\tfr\tes\tsynonyms\tclassification\t"+
		"supplemental\tun\ttransport\tpacking\tlimits\tstate\tsource\tnotes"); err != nil {
		return err
	}
	for i := range made.Substances {
		s := &made.Substances[i]
		row := []string{s.CAS, s.EC, s.Formula}
		for _, language := range nameLanguages {
			row = append(row, cmp.Or(s.Names[language], s.Names["en"]))
		}
		row = append(row, strings.Join(s.Synonyms, ";"), s.Classification, strings.Join(s.Supplemental, " "), s.UN,
			s.Transport, s.PackingGroup, s.Limits, s.State, string(s.Source), strings.Join(s.Notes, " "))
		for j := range row {
			row[j] = strings.Join(strings.Fields(row[j]), " ")
		}
		if _, err := fmt.Fprintln(w, strings.Join(row, "\t")); err != nil {
			return err
		}
	}
	return nil
}
