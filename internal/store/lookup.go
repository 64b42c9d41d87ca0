package store

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/jackc/pgx/v5"

	"oddspool/core/design"
	"oddspool/core/formula"
	"oddspool/core/questions"
)

// mostLookedUp is how many records a set may have that formulas look others up in: all of them are held.
const mostLookedUp = 200_000

// Setting returns what formulas know besides the records: when it is printed, and all record sets.
func (s *Store) Setting(ctx context.Context, now time.Time) *formula.Setting {
	lookups := &formula.Lookups{Read: func(set string) ([]string, [][]string, error) { return s.lookedUp(ctx, set) }}
	return &formula.Setting{Now: now, Lookup: lookups.Find}
}

// ChoicesOf gives the questions of a design the choices that record sets have for them.
func (s *Store) ChoicesOf(ctx context.Context, d *design.Design) error {
	return d.FillChoices(func(from questions.Source) (values []string, err error) {
		set, err := s.newestSet(ctx, from.Set)
		if err != nil {
			return nil, err
		}
		at := slices.Index(set.Fields, from.Field)
		if at < 0 {
			return nil, fmt.Errorf("%s has no field “%s”", from.Set, from.Field)
		}
		const query = `select value from (select "values"[$2] as value, min(number) as first from records
				where record_set_id = $1 group by 1) v order by first limit 2000`
		return values, list(ctx, s.DB, &values, query, set.ID, at+1)
	})
}

// A NoSetError says that no record set of a name is in the list.
type NoSetError struct{ Name string }

func (e *NoSetError) Error() string { return fmt.Sprintf("there is no record set “%s”", e.Name) }

// NewestSet returns the newest record set of a name, or a *NoSetError.
func (s *Store) NewestSet(ctx context.Context, name string) (RecordSet, error) {
	return s.newestSet(ctx, name)
}

// newestSet returns the newest record set of a name.
func (s *Store) newestSet(ctx context.Context, name string) (set RecordSet, err error) {
	const query = `select ` + recordSetColumns +
		` from record_sets where name = $1 and retired_at is null order by id desc limit 1`
	sets := []RecordSet{}
	if err := list(ctx, s.DB, &sets, query, name); err != nil {
		return set, err
	}
	if len(sets) == 0 {
		return set, &NoSetError{name}
	}
	return sets[0], nil
}

// EarlierAnswers returns what was answered to the questions of a design for its runs before, the latest first: for each
// up to so many.
func (s *Store) EarlierAnswers(ctx context.Context, design int64, most int) (map[string][]string, error) {
	const query = `select name, answer from (select e.key as name, e.value as answer,
			row_number() over (partition by e.key order by max(r.id) desc) as n
		from (select r.id, r.answers from runs r join design_revisions v on v.id = r.design_revision_id
		where v.design_id = $1 order by r.id desc limit 200) r, jsonb_each_text(r.answers) e where e.value <> ''
		group by e.key, e.value) a where n <= $2 order by name, n`
	rows, err := s.Pool.Query(ctx, query, design, most)
	if err != nil {
		return nil, fmt.Errorf("look for earlier answers: %w", err)
	}
	answers := map[string][]string{}
	var name, answer string
	if _, err := pgx.ForEachRow(rows, []any{&name, &answer},
		func() error { answers[name] = append(answers[name], answer); return nil }); err != nil {
		return nil, fmt.Errorf("look for earlier answers: %w", err)
	}
	return answers, nil
}

// lookedUp reads the newest record set of a name.
func (s *Store) lookedUp(ctx context.Context, name string) (fields []string, records [][]string, err error) {
	set, err := s.newestSet(ctx, name)
	if err != nil {
		return nil, nil, err
	}
	if set.Count > mostLookedUp {
		return nil, nil, fmt.Errorf("%s has %d records; others are looked up in sets of up to %d", name, set.Count,
			mostLookedUp)
	}
	records, err = s.Records(ctx, set.ID, 1, set.Count)
	return set.Fields, records, err
}
