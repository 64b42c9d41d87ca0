// Package changes says what is different between two readings of the same source of records.
package changes

import (
	"encoding/binary"
	"fmt"
	"hash/maphash"
	"iter"
	"slices"
)

// A Reading is what was read. Its records may be gone through several times.
type Reading struct {
	Fields  []string
	Records iter.Seq2[[]string, error]
}

// Kinds of changes.
const (
	New     = "new"
	Gone    = "gone"
	Changed = "changed"
)

// A Change is what happened to one record.
type Change struct {
	What   string   `json:"what"`
	Number int      `json:"number"` // of the record, from 1; of one that is gone, where it stood before
	Key    []string `json:"key"`    // its values in the fields that tell records apart
	Values []Value  `json:"values,omitempty"`
}

// A Value is one that changed.
type Value struct {
	Field  string `json:"field"`
	Before string `json:"before"`
	Now    string `json:"now"`
}

// Changes are all of them, with the first few told one by one.
type Changes struct {
	NewFields  []string `json:"newFields,omitempty"`
	GoneFields []string `json:"goneFields,omitempty"`
	New        int      `json:"new"`
	Gone       int      `json:"gone"`
	Changed    int      `json:"changed"`
	Moved      bool     `json:"moved,omitempty"` // records stand in another order
	First      []Change `json:"first,omitempty"`
}

// None tells whether nothing is different.
func (c *Changes) None() bool {
	return len(c.NewFields)+len(c.GoneFields)+c.New+c.Gone+c.Changed == 0 && !c.Moved
}

// MostTold is how many changes are told one by one.
const MostTold = 200

// seen is a record of the first reading.
type seen struct {
	values uint64 // of all its values
	number int
	again  bool // it is in the second reading too
}

// Find compares two readings. Records are told apart by some fields; of several with the same values there, the first is compared
// with the first, and so on. Without such fields, or where a reading lacks one, a record that differs anywhere is one that is gone and
// another that is new. What is held grows with the number of records, not with their values.
func Find(before, now Reading, key []string) (*Changes, error) {
	c := &Changes{}
	common := []string{}
	for _, field := range now.Fields {
		if slices.Contains(before.Fields, field) {
			common = append(common, field)
		} else {
			c.NewFields = append(c.NewFields, field)
		}
	}
	for _, field := range before.Fields {
		if !slices.Contains(common, field) {
			c.GoneFields = append(c.GoneFields, field)
		}
	}
	if len(key) == 0 || slices.ContainsFunc(key, func(field string) bool { return !slices.Contains(common, field) }) {
		key = common
	}
	f := &finder{seed: maphash.MakeSeed()}
	keyBefore, allBefore := places(before.Fields, key), places(before.Fields, common)
	keyNow, allNow := places(now.Fields, key), places(now.Fields, common)

	records, number := map[uint64]*seen{}, 0
	f.again()
	for record, err := range before.Records {
		if err != nil {
			return nil, fmt.Errorf("read the records of before: %w", err)
		}
		number++
		records[f.key(record, keyBefore)] = &seen{values: f.hash(record, allBefore), number: number}
	}
	type later struct {
		values []string
		told   int // which of the first changes it is
	}
	changed := map[int]later{} // by their numbers before
	number, last := 0, 0
	f.again()
	for record, err := range now.Records {
		if err != nil {
			return nil, fmt.Errorf("read the records of now: %w", err)
		}
		number++
		was := records[f.key(record, keyNow)]
		if was == nil {
			if c.New++; c.New <= MostTold {
				c.First = append(c.First, Change{What: New, Number: number, Key: pick(record, keyNow)})
			}
			continue
		}
		was.again = true
		c.Moved = c.Moved || was.number < last
		last = was.number
		if was.values != f.hash(record, allNow) {
			if c.Changed++; c.Changed <= MostTold {
				changed[was.number] = later{record, len(c.First)}
				c.First = append(c.First, Change{What: Changed, Number: number, Key: pick(record, keyNow)})
			}
		}
	}
	goneAt := map[int]bool{}
	for _, record := range records {
		if !record.again {
			goneAt[record.number] = true
		}
	}
	c.Gone = len(goneAt)
	if c.Gone+len(changed) > 0 {
		number, gone := 0, 0
		for record, err := range before.Records {
			if err != nil {
				return nil, fmt.Errorf("read the records of before: %w", err)
			}
			number++
			if now, is := changed[number]; is {
				for i, field := range common {
					if was, is := record[allBefore[i]], now.values[allNow[i]]; was != is {
						c.First[now.told].Values = append(c.First[now.told].Values, Value{field, was, is})
					}
				}
			}
			if goneAt[number] && gone < MostTold {
				gone++
				c.First = append(c.First, Change{What: Gone, Number: number, Key: pick(record, keyBefore)})
			}
		}
	}
	order := []string{Changed, New, Gone}
	slices.SortStableFunc(c.First, func(a, b Change) int { return slices.Index(order, a.What) - slices.Index(order, b.What) })
	c.First = c.First[:min(len(c.First), MostTold)]
	return c, nil
}

// places returns where fields stand.
func places(fields, wanted []string) []int {
	at := make([]int, len(wanted))
	for i, field := range wanted {
		at[i] = slices.Index(fields, field)
	}
	return at
}

func pick(record []string, at []int) []string {
	values := make([]string, len(at))
	for i, place := range at {
		values[i] = record[place]
	}
	return values
}

// A finder tells records by hashes: of a million, two that differ have the same with a chance of one to some ten millions.
type finder struct {
	seed   maphash.Seed
	counts map[uint64]uint64 // how often a key came
	size   [binary.MaxVarintLen64]byte
}

func (f *finder) again() { f.counts = map[uint64]uint64{} }

func (f *finder) hash(record []string, at []int) uint64 {
	var h maphash.Hash
	h.SetSeed(f.seed)
	for _, place := range at {
		value := record[place]
		h.Write(f.size[:binary.PutUvarint(f.size[:], uint64(len(value)))])
		h.WriteString(value)
	}
	return h.Sum64()
}

// key tells a record by its key, and by how many with the same came before it.
func (f *finder) key(record []string, at []int) uint64 {
	key := f.hash(record, at)
	n := f.counts[key]
	f.counts[key] = n + 1
	if n == 0 {
		return key
	}
	return maphash.Comparable(f.seed, [2]uint64{key, n})
}
