package store

import (
	"cmp"
	"context"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"

	"oddspool/core/series"
)

// What becomes of numbers that a run took and does not print.
const (
	ReturnUnused = "return" // they are taken again by a later run
	VoidUnused   = "void"   // nobody has them
)

// A Series is a number series that is kept for good.
type Series struct {
	ID     int64             `db:"id"`
	Name   string            `db:"name"`
	Counts Kept[series.Spec] `db:"counts"`
	Listed bool              `db:"listed"` // its numbers were brought in
	Unused string            `db:"unused"`
	// SameNumber or NewNumber: of a label that is made again since its tag was bad; empty: the same
	BadTag string    `db:"bad_tag"`
	MadeBy string    `db:"made_by"`
	MadeAt time.Time `db:"made_at"`
	// nobody knows which of its numbers are on labels already; nil: it counts
	HeldAt *time.Time `db:"held_at"`
	Least  int        `db:"least_next"` // where a key begins to count, from 0
}

const seriesColumns = `id, name, counts, listed, unused, bad_tag, made_by, made_at, held_at, least_next from series`

// AllSeries returns those that are in use, by name.
func (s *Store) AllSeries(ctx context.Context) (all []Series, err error) {
	return all, list(ctx, s.DB, &all, `select `+seriesColumns+` where retired_at is null order by name`)
}

// SeriesOf returns one series, one that was retired too.
func (s *Store) SeriesOf(ctx context.Context, id int64) (found Series, err error) {
	return found, get(ctx, s.DB, &found, "number series", id, `select `+seriesColumns+` where id = $1`, id)
}

// AddSeries keeps a new series; with a list its numbers are those, in their order. A name that is taken is a
// *refusal.Error.
func (s *Store) AddSeries(ctx context.Context, made Series, numbers []string) (id int64, err error) {
	err = pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		const query = `insert into series (name, counts, listed, unused, made_by, bad_tag) values ($1, $2, $3, $4, $5,
				$6) on conflict (name) where retired_at is null do nothing returning id`
		rows, err := tx.Query(ctx, query, made.Name, made.Counts, made.Listed, made.Unused, made.MadeBy,
			cmp.Or(made.BadTag, SameNumber))
		if err != nil {
			return fmt.Errorf("add series %q: %w", made.Name, err)
		}
		ids, err := pgx.CollectRows(rows, pgx.RowTo[int64])
		if err != nil {
			return fmt.Errorf("add series %q: %w", made.Name, err)
		}
		if len(ids) == 0 {
			return nameTakenRefused.With(made.Name)
		}
		id = ids[0]
		return copyIn(ctx, tx, "series_lists", []string{"series_id", "ordinal", "number"},
			pgx.CopyFromSlice(len(numbers), func(i int) ([]any, error) { return []any{id, int64(i), numbers[i]}, nil }))
	})
	return id, err
}

// ErrSeriesCounted says that numbers were taken, so that how they are counted stays as it is.
var ErrSeriesCounted = countedRefused.With()

// ChangeSeries changes what becomes of unused numbers, and how a series counts where none was taken yet; else that is
// ErrSeriesCounted.
func (s *Store) ChangeSeries(ctx context.Context, changed Series) error {
	return pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		var same, taken bool
		const look = `select counts = $2::jsonb, exists (select 1 from counters where series_id = $1) from series
				where id = $1 and retired_at is null for update`
		if err := tx.QueryRow(ctx, look, changed.ID, changed.Counts).Scan(&same, &taken); err != nil {
			return notFound(err, "number series", changed.ID)
		}
		if !same && taken {
			return ErrSeriesCounted
		}
		if _, err := tx.Exec(ctx, `update series set counts = $2, unused = $3, bad_tag = $4
				where id = $1`, changed.ID, changed.Counts, changed.Unused,
			cmp.Or(changed.BadTag, SameNumber)); err != nil {
			return fmt.Errorf("change series %d: %w", changed.ID, err)
		}
		return nil
	})
}

// RetireSeries takes a series out of use. Its numbers and their fates stay.
func (s *Store) RetireSeries(ctx context.Context, id int64) error {
	const query = `update series set retired_at = now() where id = $1 and retired_at is null returning id`
	return get(ctx, s.DB, &id, "number series", id, query, id)
}

// NextOf returns which number of a series is counted next under a key, from 0.
func (s *Store) NextOf(ctx context.Context, id int64, key string) (next int, err error) {
	const query = `select coalesce((select next from counters where series_id = $1 and key = $2), (select least_next
			from series where id = $1), 0)`
	return next, get(ctx, s.DB, &next, "number series", id, query, id, key)
}

// A Count says how far a series has counted under one of its keys.
type Count struct {
	Key  string `db:"key"`
	Next int    `db:"next"` // how many different numbers were taken
}

// Counts returns how far a series has counted, the keys that were counted last first.
func (s *Store) Counts(ctx context.Context, id int64, most int) (counts []Count, err error) {
	return counts, list(ctx, s.DB, &counts, `select key, next from counters where series_id = $1 order by key desc
			limit $2`, id, most)
}

// An Account says what became of the numbers of a series, or of those that one run took. Taken is the sum of all
// others.
type Account struct {
	SeriesID int64 `db:"series_id"`
	Taken    int   `db:"taken"`
	Open     int   `db:"open"`
	Printed  int   `db:"printed"`
	Spoiled  int   `db:"spoiled"`
	Voided   int   `db:"voided"`
	Returned int   `db:"returned"`
}

// Accounts returns the accounts of series that numbers were taken of; only that of one where it is given.
func (s *Store) Accounts(ctx context.Context, only *int64) (accounts []Account, err error) {
	const query = `select series_id, count(*) as taken, count(*) filter (where state = 'open') as open,
			count(*) filter (where state = 'printed') as printed,
		count(*) filter (where state = 'spoiled') as spoiled, count(*) filter (where state = 'voided') as voided,
		count(*) filter (where state = 'returned') as returned
		from numbers where $1::bigint is null or series_id = $1 group by series_id`
	return accounts, list(ctx, s.DB, &accounts, query, only)
}

// ListedNumbers returns ready numbers of a list, from a place on that counts from 0.
func (s *Store) ListedNumbers(ctx context.Context, id int64, from, most int) (numbers []string, err error) {
	return numbers, list(ctx, s.DB, &numbers, `select number from series_lists where series_id = $1 and ordinal >= $2
			order by ordinal limit $3`, id, from, most)
}

// PlaceInList returns where a number stands in the list of a series, from 0; -1: nowhere.
func (s *Store) PlaceInList(ctx context.Context, id int64, number string) (place int, err error) {
	const query = `select coalesce((select ordinal from series_lists where series_id = $1 and number = $2), -1)`
	if err := s.DB.GetContext(ctx, &place, query, id, number); err != nil {
		return 0, fmt.Errorf("look for a number of series %d: %w", id, err)
	}
	return place, nil
}
