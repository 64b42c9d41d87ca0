package hazard

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"
)

// Fields that Look adds to records.
const (
	NameField        = "substance"
	NumbersField     = "numbers" // of substance and UN
	SignalField      = "signal word"
	HazardsField     = "hazard statements"
	SupplementField  = "supplemental hazards"
	PrecautionsField = "precautionary statements"
	PictogramsField  = "pictograms"
)

// PictogramField is the field of the n-th pictogram, from 1.
func PictogramField(n int) string { return fmt.Sprintf("pictogram %d", n) }

// lookedUp are the fields that Look adds, before one for each pictogram.
var lookedUp = []string{NameField, NumbersField, SignalField, HazardsField, SupplementField, PrecautionsField,
	PictogramsField}

// Pictograms returns how many pictograms records that were looked up have at most, by their fields; 0: they were not.
func Pictograms(fields []string) (n int) {
	for slices.Contains(fields, PictogramField(n+1)) {
		n++
	}
	return n
}

// LookUp adds to records with a field of CAS or EC numbers, or of classifications, what they are to have on their
// labels: a field for each of it, and as many for pictograms as the one with most has. A record that nothing is known
// of is a *refusal.Error that names it: a label without its hazards is none.
func (b *Book) LookUp(fields []string, records [][]string, field string, w Wanted) (more []string, rows [][]string,
	err error) {
	column := slices.Index(fields, field)
	if column < 0 {
		return nil, nil, unknownField.With(field)
	}
	for _, name := range append(slices.Clone(lookedUp), PictogramField(1)) {
		if slices.Contains(fields, name) {
			return nil, nil, alreadyLookedUp.With(name)
		}
	}
	known := map[string][]string{}
	used := map[string]bool{} // answers, by their names
	most := 1
	rows = make([][]string, len(records))
	for i, record := range records {
		value := ""
		if column < len(record) {
			value = strings.TrimSpace(record[column])
		}
		row, before := known[value]
		if !before {
			if row, err = b.lookUp(value, w, used); err != nil {
				return nil, nil, inRecord.With(i+1, err)
			}
			known[value] = row
			most = max(most, len(row)-len(lookedUp))
		}
		whole := make([]string, len(fields), len(fields)+len(row))
		copy(whole, record)
		rows[i] = append(whole, row...)
	}
	for _, id := range slices.Sorted(maps.Keys(w.Known)) {
		if !used[id] {
			return nil, nil, unusedAnswer.With(id)
		}
	}
	more = append(slices.Clone(fields), lookedUp...)
	for n := range most {
		more = append(more, PictogramField(n+1))
	}
	for i, row := range rows {
		rows[i] = append(row, make([]string, len(more)-len(row))...)
	}
	return more, rows, nil
}

func (b *Book) lookUp(value string, w Wanted, used map[string]bool) ([]string, error) {
	w.Rules, w.Language = cmp.Or(w.Rules, CLP), cmp.Or(w.Language, "en")
	if value == "" {
		return nil, noNumber.With()
	}
	var label *Label
	name, numbers := "", ""
	if value[0] >= '0' && value[0] <= '9' {
		s, err := b.Substance(value)
		if err != nil {
			return nil, err
		}
		if label, err = b.SubstanceLabel(s, w); err != nil {
			return nil, err
		}
		name, numbers = label.Name, s.Numbers()
		for _, o := range label.Answered {
			used[o.ID] = true
		}
		if len(label.Open) > 0 {
			o := label.Open[0]
			return nil, openInRecord.With(s.CAS, o.Text, o.Clause, o.ID, exampleOf(o), o.ID, s.CAS)
		}
	} else {
		classes, err := b.Parse(value, w.Rules)
		if err != nil {
			return nil, err
		}
		if label, err = b.Label(classes, w); err != nil {
			return nil, err
		}
	}
	if len(label.Blanks) > 0 {
		text := ""
		for _, p := range label.Precautions {
			if p.Code == label.Blanks[0] {
				text = p.Text
			}
		}
		return nil, blankInRecord.With(label.Blanks[0], text, label.Blanks[0])
	}
	codes := make([]string, len(label.Pictograms))
	for i, p := range label.Pictograms {
		codes[i] = p.Code
	}
	row := []string{name, numbers, label.SignalWord, Said(label.Hazards), Said(label.Supplemental),
		Said(label.Precautions), strings.Join(codes, " ")}
	return append(row, codes...), nil
}

// exampleOf returns an answer to something that is open.
func exampleOf(o Open) string {
	switch {
	case len(o.Choices) > 0:
		return o.Choices[0]
	case o.Unit != "":
		return "30"
	}
	return none
}

// Said returns statements as a label has them, one behind the other.
func Said(list []Reasoned) string {
	texts := make([]string, len(list))
	for i, r := range list {
		texts[i] = r.Text
	}
	return strings.Join(texts, " ")
}

// Numbers returns the numbers of a substance as a label has them.
func (s *Substance) Numbers() string {
	parts := []string{"CAS " + s.CAS}
	if s.EC != "" {
		parts = append(parts, "EC "+s.EC)
	}
	if s.UN != "" {
		parts = append(parts, "UN "+s.UN)
	}
	return strings.Join(parts, " · ")
}

// Least returns the code of the precautionary statement that matters least of those on the label; empty where there is
// none.
func (l *Label) Least() (code string) {
	least := 0
	for _, r := range l.Precautions {
		if n := weight[r.Code]; code == "" || n < least {
			code, least = r.Code, n
		}
	}
	return code
}
