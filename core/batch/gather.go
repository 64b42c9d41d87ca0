package batch

import (
	"fmt"
	"slices"
)

// MostGathered is how many columns records that were gathered have at most.
const MostGathered = 500

// GatheredName is what a field of the n-th of the records that stand together on a label is called, from 1.
func GatheredName(field string, n int) string {
	if n == 1 {
		return field
	}
	return fmt.Sprintf("%s %d", field, n)
}

// A Gatherer has so many consecutive records stand on one label: a drawer's sheet, a terminal strip. Of the last label
// places may be left over, which are empty.
type Gatherer struct {
	Fields []string // of what is gathered: each wanted one of the first record, then of the second, and so on

	columns []int
	size    int
}

// NewGatherer gathers some fields of records, so many records at a time. Its error is a *refusal.Error.
func NewGatherer(fields, wanted []string, size int) (*Gatherer, error) {
	if size < 2 || len(wanted) == 0 || size*len(wanted) > MostGathered {
		return nil, tooManyGathered.With(size, len(wanted), MostGathered, MostGathered)
	}
	g := &Gatherer{size: size}
	for _, name := range wanted {
		column := slices.Index(fields, name)
		if column < 0 {
			return nil, unknownField.With(name)
		}
		g.columns = append(g.columns, column)
	}
	for n := range size {
		for _, name := range wanted {
			made := GatheredName(name, n+1)
			if slices.Contains(g.Fields, made) {
				return nil, fieldTwice.With(made)
			}
			g.Fields = append(g.Fields, made)
		}
	}
	return g, nil
}

// Gather returns what is gathered of consecutive records, in their order.
func (g *Gatherer) Gather(records [][]string) (rows [][]string) {
	for together := range slices.Chunk(records, g.size) {
		row := make([]string, 0, len(g.Fields))
		for _, record := range together {
			for _, column := range g.columns {
				value := ""
				if column < len(record) {
					value = record[column]
				}
				row = append(row, value)
			}
		}
		rows = append(rows, append(row, make([]string, len(g.Fields)-len(row))...))
	}
	return rows
}

// Size returns how many records stand together.
func (g *Gatherer) Size() int { return g.size }
