// Package diff says what is different between two readings of the same source of records.
package diff

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

// Find compares two readings. Records are told apart by some fields; of several with the same values there, the first
// is compared with the first, and so on. Without such fields, or where a reading lacks one, a record that differs
// anywhere is one that is gone and another that is new. What is held grows with the number of records, not with their
// values.
func Find(before, now Reading, key []string) (*Changes, error) {
	f := &finder{seed: maphash.MakeSeed(), before: map[uint64]*seen{}, differ: map[int]later{}}
	f.fields(before.Fields, now.Fields)
	if len(key) == 0 || slices.ContainsFunc(key, func(field string) bool { return !slices.Contains(f.common, field) }) {
		key = f.common
	}
	f.keyBefore, f.allBefore = places(before.Fields, key), places(before.Fields, f.common)
	f.keyNow, f.allNow = places(now.Fields, key), places(now.Fields, f.common)
	if err := f.first(before); err != nil {
		return nil, err
	}
	if err := f.second(now); err != nil {
		return nil, err
	}
	if err := f.listChanges(before); err != nil {
		return nil, err
	}
	order := []string{Changed, New, Gone}
	slices.SortStableFunc(f.First, func(a, b Change) int {
		return slices.Index(order, a.What) - slices.Index(order,
			b.What)
	})
	f.First = f.First[:min(len(f.First), MostTold)]
	return &f.Changes, nil
}

// fields compares which fields there are.
func (f *finder) fields(before, now []string) {
	f.common = []string{}
	for _, field := range now {
		if slices.Contains(before, field) {
			f.common = append(f.common, field)
		} else {
			f.NewFields = append(f.NewFields, field)
		}
	}
	for _, field := range before {
		if !slices.Contains(f.common, field) {
			f.GoneFields = append(f.GoneFields, field)
		}
	}
}

// first takes the records of the first reading.
func (f *finder) first(before Reading) error {
	number := 0
	f.again()
	for record, err := range before.Records {
		if err != nil {
			return fmt.Errorf("read the records of before: %w", err)
		}
		number++
		f.before[f.key(record, f.keyBefore)] = &seen{values: f.hash(record, f.allBefore), number: number}
	}
	return nil
}

// second compares the records of the second reading with them.
func (f *finder) second(now Reading) error {
	number, last := 0, 0
	f.again()
	for record, err := range now.Records {
		if err != nil {
			return fmt.Errorf("read the records of now: %w", err)
		}
		number++
		was := f.before[f.key(record, f.keyNow)]
		if was == nil {
			if f.New++; f.New <= MostTold {
				f.First = append(f.First, Change{What: New, Number: number, Key: pick(record, f.keyNow)})
			}
			continue
		}
		was.again = true
		f.Moved = f.Moved || was.number < last
		last = was.number
		if was.values != f.hash(record, f.allNow) {
			if f.Changed++; f.Changed <= MostTold {
				f.differ[was.number] = later{record, len(f.First)}
				f.First = append(f.First, Change{What: Changed, Number: number, Key: pick(record, f.keyNow)})
			}
		}
	}
	return nil
}

// listChanges goes through the first reading once more, for the values that changed and the records that are gone.
func (f *finder) listChanges(before Reading) error {
	goneAt := map[int]bool{}
	for _, record := range f.before {
		if !record.again {
			goneAt[record.number] = true
		}
	}
	f.Gone = len(goneAt)
	if f.Gone+len(f.differ) == 0 {
		return nil
	}
	number, gone := 0, 0
	for record, err := range before.Records {
		if err != nil {
			return fmt.Errorf("read the records of before: %w", err)
		}
		number++
		if now, is := f.differ[number]; is {
			for i, field := range f.common {
				if was, is := record[f.allBefore[i]], now.values[f.allNow[i]]; was != is {
					f.First[now.told].Values = append(f.First[now.told].Values, Value{field, was, is})
				}
			}
		}
		if goneAt[number] && gone < MostTold {
			gone++
			f.First = append(f.First, Change{What: Gone, Number: number, Key: pick(record, f.keyBefore)})
		}
	}
	return nil
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

// A later is a record of the second reading that is not as it was.
type later struct {
	values []string
	told   int // which of the first changes it is
}

// A finder tells records by hashes: of a million, two that differ have the same with a chance of one to some ten
// millions.
type finder struct {
	Changes
	common               []string // fields of both
	keyBefore, allBefore []int    // where fields stand: those that tell records apart, and the common ones
	keyNow, allNow       []int
	before               map[uint64]*seen // by their keys
	differ               map[int]later    // by their numbers before; those that are told

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
