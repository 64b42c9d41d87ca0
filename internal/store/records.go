package store

import (
	"context"
	"fmt"
	"iter"
	"time"

	"github.com/jackc/pgx/v5"

	"oddspool/core/questions"
	"oddspool/core/refusal"
)

// A RecordSet is a table of text that was taken in. It never changes.
type RecordSet struct {
	ID         int64                      `db:"id"`
	Name       string                     `db:"name"`
	Fields     Strings                    `db:"fields"`
	Count      int                        `db:"record_count"`
	ImportedBy string                     `db:"imported_by"`
	ImportedAt time.Time                  `db:"imported_at"`
	Checks     Kept[[]questions.Question] `db:"checks"`  // of its fields where it was written by hand
	ByHand     bool                       `db:"by_hand"` // it is read from somewhere, and was changed by hand since
}

const recordSetColumns = `id, name, fields, record_count, imported_by, imported_at, checks, by_hand`

// AddRecordSet takes records in, all or none.
func (s *Store) AddRecordSet(ctx context.Context, name string, fields []string, records [][]string,
	by string) (RecordSet, error) {
	return s.TakeRecordSet(ctx, name, fields, len(records), each(records), by)
}

// TakeRecordSet takes records in as they are read, all or none.
func (s *Store) TakeRecordSet(ctx context.Context, name string, fields []string, count int,
	records iter.Seq2[[]string, error], by string) (set RecordSet, err error) {
	var id int64
	err = pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) (err error) {
		id, err = takeIn(ctx, tx, name, fields, count, records, by)
		return err
	})
	if err != nil {
		return set, fmt.Errorf("add record set %q: %w", name, err)
	}
	return s.RecordSet(ctx, id)
}

// WriteRecordSet takes records in that a person wrote, with what their fields must be. In place of those of a set,
// where it replaces one: that one leaves the list, and designs go over to the new one; what was printed from it stays.
func (s *Store) WriteRecordSet(ctx context.Context, replaces *int64, name string, fields []string, records [][]string,
	checks []questions.Question, by string) (set RecordSet, err error) {
	var id int64
	err = pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) (err error) {
		if replaces != nil {
			id, err = replace(ctx, tx, *replaces, name, fields, len(records), each(records), by)
		} else {
			id, err = takeIn(ctx, tx, name, fields, len(records), each(records), by)
		}
		if err != nil {
			return err
		}
		if _, err = tx.Exec(ctx, `update record_sets set checks = $2
				where id = $1`, id, Kept[[]questions.Question]{checks}); err != nil || replaces == nil {
			return err
		}
		// What is read from somewhere stays so.
		_, err = tx.Exec(ctx, `update record_sets s set feed_id = o.feed_id, by_hand = true from record_sets o
				where s.id = $1 and o.id = $2 and o.feed_id is not null`, id, *replaces)
		return err
	})
	if err != nil {
		return set, fmt.Errorf("write record set %q: %w", name, err)
	}
	return s.RecordSet(ctx, id)
}

// ReplaceRecordSet takes records in as they are read, in place of those of a set: that one leaves the list, and designs
// go over to the new one. One that was replaced or retired meanwhile is ErrRecordsReplaced.
func (s *Store) ReplaceRecordSet(ctx context.Context, old int64, name string, fields []string, count int,
	records iter.Seq2[[]string, error], by string) (set RecordSet, err error) {
	var id int64
	err = pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) (err error) {
		id, err = replace(ctx, tx, old, name, fields, count, records, by)
		return err
	})
	if err != nil {
		return set, fmt.Errorf("replace record set %d: %w", old, err)
	}
	return s.RecordSet(ctx, id)
}

// OfName returns the newest set in the list that has a name and was brought in by a person, not read from somewhere;
// nil: there is none.
func (s *Store) OfName(ctx context.Context, name string) (*RecordSet, error) {
	var sets []RecordSet
	const query = `select ` + recordSetColumns +
		` from record_sets where retired_at is null and feed_id is null and name = $1 order by id desc limit 1`
	if err := list(ctx, s.DB, &sets, query, name); err != nil || len(sets) == 0 {
		return nil, err
	}
	return &sets[0], nil
}

// replace takes records in, in place of those of a set, to which designs go over.
func replace(ctx context.Context, tx pgx.Tx, old int64, name string, fields []string, count int,
	records iter.Seq2[[]string, error], by string) (id int64, err error) {
	done, err := tx.Exec(ctx, `update record_sets set retired_at = now() where id = $1 and retired_at is null`, old)
	if err != nil {
		return 0, err
	}
	if done.RowsAffected() == 0 {
		return 0, ErrRecordsReplaced
	}
	if id, err = takeIn(ctx, tx, name, fields, count, records, by); err != nil {
		return 0, err
	}
	_, err = tx.Exec(ctx, `update designs set record_set_id = $2 where record_set_id = $1`, old, id)
	return id, err
}

// ErrRecordsReplaced says that a set that is to be replaced is no longer in the list.
var ErrRecordsReplaced = refusal.Define("records.replaced", refusal.Conflict,
	"Somebody replaced or retired these records meanwhile. Keep yours as a set of "+
		"their own.").With()

func takeIn(ctx context.Context, tx pgx.Tx, name string, fields []string, count int, records iter.Seq2[[]string, error],
	by string) (id int64, err error) {
	next, stop := iter.Pull2(records)
	defer stop()
	number := 0
	const query = `insert into record_sets (name, fields, record_count, imported_by) values ($1, $2, $3, $4)
			returning id`
	if err := tx.QueryRow(ctx, query, name, fields, count, by).Scan(&id); err != nil {
		return 0, err
	}
	err = copyIn(ctx, tx, "records", []string{"record_set_id", "number", "values"},
		pgx.CopyFromFunc(func() ([]any, error) {
			record, err, some := next()
			if !some || err != nil {
				return nil, err
			}
			number++
			return []any{id, number, record}, nil
		}))
	if err == nil && number != count {
		err = fmt.Errorf("%d records came, not %d", number, count)
	}
	return id, err
}

// each gives records that are at hand one by one.
func each(records [][]string) iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		for _, record := range records {
			if !yield(record, nil) {
				return
			}
		}
	}
}

// RecordSets returns all sets that are not retired, the newest first.
func (s *Store) RecordSets(ctx context.Context) (sets []RecordSet, err error) {
	const query = `select ` + recordSetColumns + ` from record_sets where retired_at is null order by id desc`
	return sets, list(ctx, s.DB, &sets, query)
}

// RecordSet returns one set, retired or not: what was printed from it stays.
func (s *Store) RecordSet(ctx context.Context, id int64) (set RecordSet, err error) {
	const query = `select ` + recordSetColumns + ` from record_sets where id = $1`
	return set, get(ctx, s.DB, &set, "record set", id, query, id)
}

// RetireRecordSet takes a set out of the list.
func (s *Store) RetireRecordSet(ctx context.Context, id int64) error {
	const query = `update record_sets set retired_at = now() where id = $1 and retired_at is null returning id`
	return get(ctx, s.DB, &id, "record set", id, query, id)
}

// Records returns the values of some records from a number on, in order.
func (s *Store) Records(ctx context.Context, set int64, from, most int) ([][]string, error) {
	const query = `select "values" from records where record_set_id = $1 and number >= $2 order by number limit $3`
	return s.values(ctx, query, set, from, most)
}

// SomeRecords returns the values of the records with the given numbers, in that order; a record
// that is not there is nil.
func (s *Store) SomeRecords(ctx context.Context, set int64, numbers []int) ([][]string, error) {
	const query = `select coalesce(r."values", '{}') from unnest($2::int[]) with ordinality as wanted (number, place)
		left join records r on r.record_set_id = $1 and r.number = wanted.number order by wanted.place`
	return s.values(ctx, query, set, numbers)
}

func (s *Store) values(ctx context.Context, query string, args ...any) ([][]string, error) {
	rows, err := s.Pool.Query(ctx, query, args...)
	if err != nil {
		return nil, fmt.Errorf("read records: %w", err)
	}
	records, err := pgx.CollectRows(rows, pgx.RowTo[[]string])
	if err != nil {
		return nil, fmt.Errorf("read records: %w", err)
	}
	return records, nil
}
