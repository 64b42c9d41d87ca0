package store

import (
	"context"
	"fmt"
	"time"

	"oddspool/core/formula"
)

// mostLookedUp is how many records a set may have that formulas look others up in: all of them are held.
const mostLookedUp = 200_000

// Setting returns what formulas know besides the records: when it is printed, and all record sets.
func (s *Store) Setting(ctx context.Context, now time.Time) *formula.Setting {
	lookups := &formula.Lookups{Read: func(set string) ([]string, [][]string, error) { return s.lookedUp(ctx, set) }}
	return &formula.Setting{Now: now, Lookup: lookups.Find}
}

// lookedUp reads the newest record set of a name.
func (s *Store) lookedUp(ctx context.Context, name string) (fields []string, records [][]string, err error) {
	const query = `select ` + recordSetColumns + ` from record_sets where name = $1 and retired_at is null order by id desc limit 1`
	sets := []RecordSet{}
	if err := list(ctx, s.DB, &sets, query, name); err != nil {
		return nil, nil, err
	}
	if len(sets) == 0 {
		return nil, nil, fmt.Errorf("there is no record set “%s”", name)
	}
	set := sets[0]
	if set.Count > mostLookedUp {
		return nil, nil, fmt.Errorf("%s has %d records; others are looked up in sets of up to %d", name, set.Count, mostLookedUp)
	}
	records, err = s.Records(ctx, set.ID, 1, set.Count)
	return set.Fields, records, err
}
