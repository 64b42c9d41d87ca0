package hazard

import (
	"cmp"
	"fmt"
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
	MostPictograms   = 5
)

// PictogramField is the field of the n-th pictogram, from 1.
func PictogramField(n int) string { return fmt.Sprintf("pictogram %d", n) }

// LookedUp are the fields that Look adds, in their order.
func LookedUp() []string {
	fields := []string{NameField, NumbersField, SignalField, HazardsField, SupplementField, PrecautionsField, PictogramsField}
	for n := range MostPictograms {
		fields = append(fields, PictogramField(n+1))
	}
	return fields
}

// Look returns what records with a field of CAS or EC numbers, or of classifications, are to have on their labels: the fields of LookedUp for
// each. A record that nothing is known of is an *Error that names it: a label without its hazards is none.
func (b *Book) Look(fields []string, records [][]string, field string, w Wanted) ([][]string, error) {
	column := slices.Index(fields, field)
	if column < 0 {
		return nil, wrong("The records have no field %q.", field)
	}
	for _, name := range LookedUp() {
		if slices.Contains(fields, name) {
			return nil, wrong("The records have a field %q already: they were looked up before.", name)
		}
	}
	known := map[string][]string{}
	rows := make([][]string, len(records))
	for i, record := range records {
		value := ""
		if column < len(record) {
			value = strings.TrimSpace(record[column])
		}
		row, before := known[value]
		if !before {
			var err error
			if row, err = b.lookUp(value, w); err != nil {
				return nil, wrong("Record %d: %v", i+1, err)
			}
			known[value] = row
		}
		whole := make([]string, len(fields), len(fields)+len(row))
		copy(whole, record)
		rows[i] = append(whole, row...)
	}
	return rows, nil
}

func (b *Book) lookUp(value string, w Wanted) ([]string, error) {
	w.Rules, w.Language = cmp.Or(w.Rules, CLP), cmp.Or(w.Language, "en")
	if value == "" {
		return nil, wrong("the number is missing.")
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
		name, numbers = s.Names[w.Language], s.Numbers()
	} else {
		classes, err := b.Parse(value, w.Rules)
		if err != nil {
			return nil, err
		}
		if label, err = b.Label(classes, w); err != nil {
			return nil, err
		}
	}
	said := func(list []Reasoned) string {
		texts := make([]string, len(list))
		for i, r := range list {
			texts[i] = r.Text
		}
		return strings.Join(texts, " ")
	}
	row := []string{name, numbers, label.SignalWord, said(label.Hazards), said(label.Supplemental), said(label.Precautions), codesOf(label.Pictograms)}
	for n := range MostPictograms {
		id := ""
		if n < len(label.Pictograms) {
			id = label.Pictograms[n].Code
		}
		row = append(row, id)
	}
	return row, nil
}

func codesOf(list []Reasoned) string {
	codes := make([]string, len(list))
	for i, r := range list {
		codes[i] = r.Code
	}
	return strings.Join(codes, " ")
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

// Least returns the code of the precautionary statement that matters least of those on the label; empty where there is none.
func (l *Label) Least() (code string) {
	least := 0
	for _, r := range l.Precautions {
		if n := weight[r.Code]; code == "" || n < least {
			code, least = r.Code, n
		}
	}
	return code
}
