// Package batch plans a run: which labels come from which records, in which order, how much of
// the web they take and how long they need.
//
//	records, quantities → shares      so many labels of a record, one share each      HowMany, Packs
//	shares → shares                   in sets; labels of other designs among them      InSets, WithSeparators
//	shares → Plan                     labels are numbered from 1 in the order of shares
//	Plan → spans                      labels that have one number of a series          Spans
//	labels → places on the web        along the rows, or one place of all pages first  Through
//	labels → rolls                    which of them come off which roll                Stretches
//
// A plan never lists its labels one by one: a share is found by searching sums, so that a million
// labels of ten records take as much memory as ten.
package batch

import (
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"

	"oddspool/core/refusal"
)

// A Share is labels of one record that follow one another.
type Share struct {
	Record int // from 1
	Copies int
	Before int // labels that the record has in the run before these
	Part   int // 0: of the run's own design; else of a further one, see Separator
	Group  int // which group they stand in or for, from 1; 0: there are none
	Of     int // labels of that group
}

// A Plan lists the labels of a run: all copies of the first record, then of the next; or sets of all records, one
// behind the other.
type Plan struct {
	shares []Share
	ends   []int // labels up to and with each share
}

// NewPlan plans the labels of some shares. Shares of no copies are left out.
func NewPlan(shares []Share) *Plan {
	p := &Plan{}
	sum := 0
	for _, share := range shares {
		if share.Copies > 0 {
			sum += share.Copies
			p.shares, p.ends = append(p.shares, share), append(p.ends, sum)
		}
	}
	return p
}

// Len returns the number of labels.
func (p *Plan) Len() int {
	if len(p.ends) == 0 {
		return 0
	}
	return p.ends[len(p.ends)-1]
}

// Labels returns how many labels a part has.
func (p *Plan) Labels(part int) (n int) {
	for _, share := range p.shares {
		if share.Part == part {
			n += share.Copies
		}
	}
	return n
}

// Chosen returns how many different records have labels.
func (p *Plan) Chosen() int {
	n := 0
	for _, share := range p.shares {
		if share.Before == 0 && share.Part == 0 {
			n++
		}
	}
	return n
}

// InSets returns shares as sets: a label of each record, then another of each that has more, until all have theirs.
func InSets(shares []Share) (sets []Share) {
	left := slices.Clone(shares)
	for set := 0; len(left) > 0; set++ {
		left = slices.DeleteFunc(left, func(share Share) bool { return share.Copies <= set })
		for _, share := range left {
			sets = append(sets, Share{Record: share.Record, Copies: 1, Before: set})
		}
	}
	return sets
}

// Shares returns the shares that have labels.
func (p *Plan) Shares() []Share { return p.shares }

// At returns the record of label n, numbered from 1, and which of its copies it is, from 1.
func (p *Plan) At(n int) (record, copies int) {
	i := sort.SearchInts(p.ends, n)
	share := p.shares[i]
	return share.Record, share.Before + n - (p.ends[i] - share.Copies)
}

// PartAt returns of which part label n is, numbered from 1.
func (p *Plan) PartAt(n int) int { return p.shares[sort.SearchInts(p.ends, n)].Part }

// A Span is labels that share a number of a series.
type Span struct {
	Key         string // of its own counting
	Record      int    // the first of them
	First, Last int    // labels, from 1
}

// Spans returns the labels of a part that share numbers, in order. Same tells whether the labels of two records that
// follow one another share one; nil: each label has its own. Key gives what a record counts under.
func (p *Plan) Spans(part int, same func(before, record int) bool, key func(record int) string) (spans []Span) {
	last, before := 0, 0
	for _, share := range p.shares {
		first := last + 1
		last += share.Copies
		if share.Part != part {
			continue
		}
		under := key(share.Record)
		switch {
		case same == nil:
			for n := first; n <= last; n++ {
				spans = append(spans, Span{under, share.Record, n, n})
			}
		case before > 0 && same(before, share.Record) && spans[len(spans)-1].Key == under:
			spans[len(spans)-1].Last = last
		default:
			spans = append(spans, Span{under, share.Record, first, last})
		}
		before = share.Record
	}
	return spans
}

// Most is the most labels of one run: a million, ten times the largest batch that is asked for.
const Most = 1_000_000

// AskFrom is how many labels are asked about once more before they are printed: nobody means 10,000 where 10 were
// wanted.
const AskFrom = 5000

// A QuantityError says which record gives no usable number of labels.
type QuantityError struct {
	Record int // from 1; 0: the number is the same for all
	Field  string
	Value  string
}

func (e *QuantityError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *QuantityError) Refusal() *refusal.Error {
	if e.Record == 0 {
		return badQuantity.With(e.Value, Most)
	}
	return badQuantityOfRecord.With(e.Record, e.Field, e.Value, Most)
}

// A TooManyError says that a run would have more than Most labels.
type TooManyError struct{ Labels int }

func (e *TooManyError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *TooManyError) Refusal() *refusal.Error {
	return tooManyLabels.With(e.Labels, Most)
}

// HowMany says how many labels each record gets.
type HowMany struct {
	Each  int    `json:"each"`            // the same for all, where Field is empty
	Field string `json:"field,omitempty"` // the field that tells
	// a field whose quantity is added, such as goods that are not charged
	Free string `json:"free,omitempty"`
	// a label for each pack of so many, the last one in part; 0: for each piece
	Pack int `json:"pack,omitempty"`
	// the whole run again and again, not all labels of a record one behind the other
	Sets bool `json:"sets,omitempty"`
	// in which order labels take the places of pages, see FillDown; empty: along the rows, page by page
	Fill      string      `json:"fill,omitempty"`
	Corrected map[int]int `json:"corrected,omitempty"` // by record, from 1: set by hand
}

// The orders in which labels take the places of pages, besides along the rows.
const (
	FillDown = "down" // of a sheet: down its columns
	// one place of all pages, then the next: a lane along the web, or a stack of sheets that is cut
	FillThrough = "through"
)

// A Taken tells what a quantity was taken for that is no whole number of labels.
type Taken struct {
	Record int    `json:"record"`
	Field  string `json:"field"`
	Value  string `json:"value"`
	As     int    `json:"as"`
}

// Share returns the shares of chosen records by their numbers; records are their values, in the same order, and are
// looked at where a field tells. What is no whole number is told, with what it was taken for. Its error is a
// *QuantityError or a *TooManyError.
func (h HowMany) Share(chosen []int, fields []string, records [][]string) (shares []Share, taken []Taken, err error) {
	if h.Field == "" && h.Each < 1 {
		return nil, nil, &QuantityError{Value: strconv.Itoa(h.Each)}
	}
	shares = make([]Share, 0, len(chosen))
	sum := 0
	for i, number := range chosen {
		copies, corrected := h.Corrected[number]
		switch {
		case corrected:
		case h.Field == "":
			copies = h.Each
		default:
			for _, name := range []string{h.Field, h.Free} {
				if name == "" {
					continue
				}
				text := valueOf(fields, records[i], name)
				n, whole := quantity(text)
				if !whole && (name == h.Field || strings.TrimSpace(text) != "") {
					taken = append(taken, Taken{number, name, text, n})
				}
				copies += n
			}
			if h.Pack > 1 {
				copies = (copies + h.Pack - 1) / h.Pack
			}
		}
		if copies < 0 || copies > Most {
			return nil, nil, &QuantityError{Record: number, Field: h.Field, Value: strconv.Itoa(copies)}
		}
		sum += copies
		shares = append(shares, Share{Record: number, Copies: copies})
	}
	if sum > Most {
		return nil, nil, &TooManyError{Labels: sum}
	}
	if h.Sets {
		shares = InSets(shares)
	}
	return shares, taken, nil
}

func valueOf(fields, record []string, name string) string {
	if column := slices.Index(fields, name); column >= 0 && column < len(record) {
		return record[column]
	}
	return ""
}

// quantity reads a quantity as spreadsheets write it: "24", " 24 ", "24.0", "24,00". A fraction is taken for the next
// whole number above, what is below zero or no number for none; neither is whole.
func quantity(text string) (n int, whole bool) {
	text = strings.ReplaceAll(strings.TrimSpace(text), ",", ".")
	number, err := strconv.ParseFloat(text, 64)
	switch {
	case err != nil || !(number >= 0) || text[len(text)-1] > '9':
		return 0, false
	case number > Most: // too many, which is told
		return Most + 1, true
	}
	n = int(math.Ceil(number))
	return n, float64(n) == number
}
