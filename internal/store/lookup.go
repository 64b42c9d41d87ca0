package store

import (
	"context"
	"fmt"
	"slices"
	"sync"
	"time"

	"oddspool/core/formula"
)

// mostLookedUp is how many records a set may have that formulas look others up in: all of them are held.
const mostLookedUp = 200_000

// Setting returns what formulas know besides the records: when it is printed, and all record sets.
func (s *Store) Setting(ctx context.Context, now time.Time) *formula.Setting {
	l := &lookups{store: s, ctx: ctx, sets: map[string]*lookedUp{}}
	return &formula.Setting{Now: now, Lookup: l.find}
}

// lookups are the record sets that formulas of one design look others up in, each read when it is first needed.
type lookups struct {
	store *Store
	ctx   context.Context
	mutex sync.Mutex
	sets  map[string]*lookedUp
}

// lookedUp is a record set, and its records by the values of some of its fields.
type lookedUp struct {
	fields  []string
	records [][]string
	keys    map[int]map[string]int
}

func (l *lookups) find(set, key, keyField, field string) (value string, found bool, err error) {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	in := l.sets[set]
	if in == nil {
		if in, err = l.store.lookedUp(l.ctx, set); err != nil {
			return "", false, err
		}
		l.sets[set] = in
	}
	by, of := slices.Index(in.fields, keyField), slices.Index(in.fields, field)
	if by < 0 || of < 0 {
		missing := keyField
		if by >= 0 {
			missing = field
		}
		return "", false, fmt.Errorf("%s has no field “%s”", set, missing)
	}
	if in.keys[by] == nil {
		in.keys[by] = map[string]int{}
		for i, record := range in.records {
			if _, known := in.keys[by][record[by]]; !known { // the first of several counts
				in.keys[by][record[by]] = i
			}
		}
	}
	i, found := in.keys[by][key]
	if !found {
		return "", false, nil
	}
	return in.records[i][of], true, nil
}

// lookedUp reads the newest record set of a name.
func (s *Store) lookedUp(ctx context.Context, name string) (*lookedUp, error) {
	var set RecordSet
	const query = `select ` + recordSetColumns + ` from record_sets where name = $1 and retired_at is null order by id desc limit 1`
	sets := []RecordSet{}
	if err := list(ctx, s.DB, &sets, query, name); err != nil {
		return nil, err
	}
	if len(sets) == 0 {
		return nil, fmt.Errorf("there is no record set “%s”", name)
	}
	if set = sets[0]; set.Count > mostLookedUp {
		return nil, fmt.Errorf("%s has %d records; others are looked up in sets of up to %d", name, set.Count, mostLookedUp)
	}
	records, err := s.Records(ctx, set.ID, 1, set.Count)
	return &lookedUp{fields: set.Fields, records: records, keys: map[int]map[string]int{}}, err
}
