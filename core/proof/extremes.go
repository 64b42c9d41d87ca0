package proof

import (
	"cmp"
	"fmt"
	"slices"
	"unicode/utf8"

	"oddspool/core/design"
)

// An Extreme is a record worth a look before all others.
type Extreme struct {
	Record int    `json:"record"` // from 1
	Why    string `json:"why"`
}

// Extremes returns, for each field that the design uses, the records with the longest, the
// shortest, an empty and the oddest value, each record once, in the order of the records. The
// oddest value has the characters that are rarest in its field.
func Extremes(d *design.Design, fields []string, records [][]string) []Extreme {
	var found []Extreme
	add := func(record int, why string) {
		if !slices.ContainsFunc(found, func(e Extreme) bool { return e.Record == record+1 }) {
			found = append(found, Extreme{record + 1, why})
		}
	}
	for _, name := range d.UsedFields() {
		column := slices.Index(fields, name)
		if column < 0 {
			continue
		}
		longest, shortest, empty := -1, -1, -1
		var lengthOf = func(i int) int { return utf8.RuneCountInString(value(records[i], column)) }
		frequency := map[rune]int{}
		for i := range records {
			length := lengthOf(i)
			if length == 0 {
				if empty < 0 {
					empty = i
				}
				continue
			}
			if longest < 0 || length > lengthOf(longest) {
				longest = i
			}
			if shortest < 0 || length < lengthOf(shortest) {
				shortest = i
			}
			for _, r := range value(records[i], column) {
				frequency[r]++
			}
		}
		if longest >= 0 {
			add(longest, fmt.Sprintf("longest %s: %d characters", name, lengthOf(longest)))
			add(shortest, fmt.Sprintf("shortest %s: %d characters", name, lengthOf(shortest)))
		}
		if empty >= 0 {
			add(empty, fmt.Sprintf("%s is empty", name))
		}
		if odd, r := oddest(records, column, frequency); odd >= 0 {
			add(odd, fmt.Sprintf("oddest %s: it has “%c”", name, r))
		}
	}
	slices.SortFunc(found, func(a, b Extreme) int { return cmp.Compare(a.Record, b.Record) })
	return found
}

func value(record []string, column int) string {
	if column < len(record) {
		return record[column]
	}
	return ""
}

// oddest returns the first record with the rarest character of its column; among equally rare
// ones, a character beyond ASCII is odder than a sign, and a sign odder than a letter or digit.
func oddest(records [][]string, column int, frequency map[rune]int) (record int, character rune) {
	record, least := -1, 0
	for i := range records {
		for _, r := range value(records[i], column) {
			if n := 3*frequency[r] + plainness(r); record < 0 || n < least {
				record, least, character = i, n, r
			}
		}
	}
	return record, character
}

func plainness(r rune) int {
	switch {
	case r > 127:
		return 0
	case r >= '0' && r <= '9' || r|0x20 >= 'a' && r|0x20 <= 'z':
		return 2
	}
	return 1
}
