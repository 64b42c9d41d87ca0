package store

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"github.com/jackc/pgx/v5"
	"github.com/jmoiron/sqlx"

	"oddspool/core/batch"
	"oddspool/core/series"
)

// A Demand is the numbers that a run needs of one series.
type Demand struct {
	Series string // its name
	Spans  []batch.Span
}

// A counted is a series under one of its keys, as numbers are taken of it.
type counted struct {
	Series
	key   string
	spans []batch.Span
	had   []int64 // numbers that the run has of it already, and that no label had yet
	gone  []int64 // and those that are on labels somewhere, which no other label gets
}

// takeNumbers gives a run the numbers that it needs: those that it has stay with it as far as they are needed, in their
// order, and the others are given back or voided as the series says. The counters are locked in one order, so that no
// two runs wait for one another. Its errors besides those of the database are *refusal.Error: there is no such series,
// or it ends before the run does.
func takeNumbers(ctx context.Context, tx pgx.Tx, run int64, demands []Demand, by string) error {
	wanted, err := demanded(ctx, tx, run, demands)
	if err != nil {
		return err
	}
	for _, c := range wanted {
		kept := min(len(c.had), len(c.spans))
		if err := reassign(ctx, tx, c.had[:kept], c.spans[:kept]); err != nil {
			return err
		}
		if err := letGo(ctx, tx, append(c.gone, c.had[kept:]...), by,
			"the run was changed before it was printed"); err != nil {
			return err
		}
		if err := c.take(ctx, tx, run, c.spans[kept:], 0, by); err != nil {
			return err
		}
	}
	if wanted == nil {
		return nil
	}
	return sumUp(ctx, tx, run)
}

// demanded returns what a run needs and has, in the order in which counters are locked.
func demanded(ctx context.Context, tx pgx.Tx, run int64, demands []Demand) (wanted []*counted, err error) {
	var names []string
	for _, d := range demands {
		names = append(names, d.Series)
	}
	rows, err := tx.Query(ctx, `select `+seriesColumns+
		` where id in (select id from series where name = any($1) and retired_at is null union select series_id
				from numbers where run_id = $2)
		order by id for share`, names, run)
	if err != nil {
		return nil, fmt.Errorf("look for series: %w", err)
	}
	known, err := pgx.CollectRows(rows, pgx.RowToStructByName[Series])
	if err != nil {
		return nil, fmt.Errorf("look for series: %w", err)
	}
	under := func(s Series, key string) *counted {
		i := slices.IndexFunc(wanted, func(c *counted) bool { return c.ID == s.ID && c.key == key })
		if i < 0 {
			i = len(wanted)
			wanted = append(wanted, &counted{Series: s, key: key})
		}
		return wanted[i]
	}
	for _, d := range demands {
		i := slices.IndexFunc(known, func(s Series) bool { return s.Name == d.Series })
		if i >= 0 && known[i].HeldAt != nil {
			return nil, heldRefused.With(d.Series)
		}
		if i < 0 {
			return nil, unknown2.With(d.Series)
		}
		var c *counted
		for _, span := range d.Spans {
			if c == nil || c.key != span.Key {
				c = under(known[i], span.Key)
			}
			c.spans = append(c.spans, span)
		}
	}
	rows, err = tx.Query(ctx, `select id, series_id, key, sent from numbers where run_id = $1 and state = 'open'
			order by series_id, key, ordinal`, run)
	if err != nil {
		return nil, fmt.Errorf("look at the numbers of run %d: %w", run, err)
	}
	var number, of int64
	var key string
	var sent bool
	_, err = pgx.ForEachRow(rows, []any{&number, &of, &key, &sent}, func() error {
		c := under(known[slices.IndexFunc(known, func(s Series) bool { return s.ID == of })], key)
		if sent {
			c.gone = append(c.gone, number)
		} else {
			c.had = append(c.had, number)
		}
		return nil
	})
	if err != nil {
		return nil, fmt.Errorf("look at the numbers of run %d: %w", run, err)
	}
	slices.SortFunc(wanted, func(a, b *counted) int {
		return cmp.Or(cmp.Compare(a.ID, b.ID),
			cmp.Compare(a.key, b.key))
	})
	return wanted, nil
}

// reassign gives numbers that a run has to labels as they are counted now.
func reassign(ctx context.Context, tx pgx.Tx, numbers []int64, spans []batch.Span) error {
	if len(numbers) == 0 {
		return nil
	}
	records, firsts, lasts := make([]int, len(spans)), make([]int, len(spans)), make([]int, len(spans))
	for i, span := range spans {
		records[i], firsts[i], lasts[i] = span.Record, span.First, span.Last
	}
	const query = `update numbers n set record = s.record, first_label = s.first_label, last_label = s.last_label
		from unnest($1::bigint[], $2::int[], $3::int[], $4::int[]) s (id, record, first_label, last_label)
		where n.id = s.id and (n.record, n.first_label, n.last_label) <> (s.record, s.first_label, s.last_label)`
	if _, err := tx.Exec(ctx, query, numbers, records, firsts, lasts); err != nil {
		return fmt.Errorf("give numbers to other labels: %w", err)
	}
	return nil
}

// letGo ends open numbers that are not needed: those that were at a printer are void, the others are what their series
// says.
func letGo(ctx context.Context, tx pgx.Tx, numbers []int64, by, why string) error {
	if len(numbers) == 0 {
		return nil
	}
	const query = `update numbers n set state = case when n.sent or s.unused = 'void' then 'voided' else 'returned' end,
			changed_by = $2, changed_at = now(), why = $3
		from series s where s.id = n.series_id and n.id = any($1) and n.state = 'open'`
	if _, err := tx.Exec(ctx, query, numbers, by, why); err != nil {
		return fmt.Errorf("let numbers go: %w", err)
	}
	return nil
}

// take takes numbers under the lock of the counter, for labels of later prints than one: first those that were
// returned, then the next ones.
func (c *counted) take(ctx context.Context, tx pgx.Tx, run int64, spans []batch.Span, after int64, by string) error {
	if len(spans) == 0 {
		return nil
	}
	if err := mustBeItself(ctx, tx); err != nil {
		return err
	}
	const locked = `insert into counters (series_id, key, next) values ($1, $2, $3) on conflict (series_id,
			key) do update set next = counters.next returning next`
	var next int
	if err := tx.QueryRow(ctx, locked, c.ID, c.key, c.Least).Scan(&next); err != nil {
		return fmt.Errorf("lock series %d: %w", c.ID, err)
	}
	var places []int
	if c.Unused == ReturnUnused {
		const returned = `select distinct n.ordinal from numbers n where n.series_id = $1 and n.key = $2
				and n.state = 'returned'
			and not exists (select 1 from numbers o where o.series_id = $1 and o.key = $2 and o.ordinal = n.ordinal
			and o.state <> 'returned') order by n.ordinal limit $3`
		rows, err := tx.Query(ctx, returned, c.ID, c.key, len(spans))
		if err != nil {
			return fmt.Errorf("look for returned numbers of series %d: %w", c.ID, err)
		}
		if places, err = pgx.CollectRows(rows, pgx.RowTo[int]); err != nil {
			return fmt.Errorf("look for returned numbers of series %d: %w", c.ID, err)
		}
	}
	for len(places) < len(spans) {
		places = append(places, next)
		next++
	}
	numbers, err := c.numbers(ctx, tx, places)
	if err != nil {
		return err
	}
	if _, err := tx.Exec(ctx, `update counters set next = $3 where series_id = $1
			and key = $2`, c.ID, c.key, next); err != nil {
		return fmt.Errorf("count series %d on: %w", c.ID, err)
	}
	columns := []string{"series_id", "key", "ordinal", "number", "run_id", "record", "first_label", "last_label",
		"after_print", "taken_by"}
	return copyIn(ctx, tx, "numbers", columns, pgx.CopyFromSlice(len(spans), func(i int) ([]any, error) {
		return []any{c.ID, c.key, places[i], numbers[i], run, spans[i].Record, spans[i].First, spans[i].Last, after,
			by}, nil
	}))
}

// numbers returns the numbers at places of the series, from 0.
func (c *counted) numbers(ctx context.Context, tx pgx.Tx, places []int) (numbers []string, err error) {
	ends := func(i int, because string) error {
		return tooFewNumbers.With(c.Name, i, len(places), because)
	}
	if c.Listed {
		const query = `select l.number from unnest($2::bigint[]) with ordinality w (ordinal, place)
				join series_lists l on l.series_id = $1 and l.ordinal = w.ordinal order by w.place`
		rows, err := tx.Query(ctx, query, c.ID, places)
		if err != nil {
			return nil, fmt.Errorf("read the list of series %d: %w", c.ID, err)
		}
		if numbers, err = pgx.CollectRows(rows, pgx.RowTo[string]); err != nil {
			return nil, fmt.Errorf("read the list of series %d: %w", c.ID, err)
		}
		if len(numbers) < len(places) {
			return nil, ends(len(numbers), "those of its list are used up.")
		}
		return numbers, nil
	}
	counts, err := series.New(c.Counts.V)
	if err != nil {
		return nil, err
	}
	for i, place := range places {
		if c.Counts.V.Count > 0 && place >= c.Counts.V.Count {
			return nil, ends(i, fmt.Sprintf("it has %d in all.", c.Counts.V.Count))
		}
		number, err := counts.At(place)
		if err != nil {
			return nil, ends(i, err.Error())
		}
		numbers = append(numbers, number)
	}
	return numbers, nil
}

// sentNumbers notes that numbers are at a printer, on some places of a print.
func sentNumbers(ctx context.Context, tx *sqlx.Tx, print int64, first, last int) error {
	return onPlaces(ctx, tx, "sent = true", print, first, last, "")
}

// NumbersLeave notes that labels of a run go out in a file: what becomes of them is not known here, so that no other
// label gets their numbers.
func (s *Store) NumbersLeave(ctx context.Context, run int64, labels []int) error {
	const query = `update numbers n set sent = true where n.run_id = $1 and n.state = 'open' and not n.sent
		and exists (select 1 from unnest($2::int[]) l where l between n.first_label and n.last_label)`
	if _, err := s.Pool.Exec(ctx, query, run, labels); err != nil {
		return fmt.Errorf("note that numbers of run %d leave: %w", run, err)
	}
	return nil
}

// printedNumbers notes that numbers came out, on the places of a print that did.
func printedNumbers(ctx context.Context, tx *sqlx.Tx, print int64, first, last int) error {
	return onPlaces(ctx, tx, "state = 'printed', changed_at = now(), changed_by = '', why = ''", print, first, last,
		"printed")
}

// onPlaces changes the open numbers on places of a print whose state is as given; empty: any.
func onPlaces(ctx context.Context, tx *sqlx.Tx, change string, print int64, first, last int, state string) error {
	query := `with meant as materialized (select label from pieces where print_id = $1 and place between $2 and $3
			and ($4 = '' or state = $4))
		update numbers n set ` + change +
		` where n.run_id = (select run_id from prints where id = $1) and n.state = 'open' and n.after_print < $1
				and (n.last_print is null or n.last_print >= $1)
			and n.first_label <= (select max(label) from meant) and n.last_label >= (select min(label) from meant)
			and exists (select 1 from meant where label between n.first_label and n.last_label)`
	if _, err := tx.ExecContext(ctx, query, print, first, last, state); err != nil {
		return fmt.Errorf("note what became of the numbers of print %d: %w", print, err)
	}
	return nil
}

// unprintedNumbers opens numbers again that were taken for printed: a person says that the places of a print behind one
// did not come out.
func unprintedNumbers(ctx context.Context, tx *sqlx.Tx, print int64, last int) error {
	const query = `with meant as materialized (select label from pieces where print_id = $1 and place > $2
			and state = 'printed')
		update numbers n set state = 'open' where n.run_id = (select run_id from prints where id = $1)
		and n.state = 'printed' and n.after_print < $1 and (n.last_print is null or n.last_print >= $1)
			and exists (select 1 from meant where label between n.first_label and n.last_label)
			and not exists (select 1 from prints q join pieces p on p.print_id = q.id where q.run_id = n.run_id
			and p.label between n.first_label and n.last_label
				and p.state = 'printed' and not (q.id = $1 and p.place > $2))`
	if _, err := tx.ExecContext(ctx, query, print, last); err != nil {
		return fmt.Errorf("note what became of the numbers of print %d: %w", print, err)
	}
	return nil
}
