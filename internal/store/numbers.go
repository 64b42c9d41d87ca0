package store

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jmoiron/sqlx"

	"oddspool/core/batch"
	"oddspool/core/refusal"
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

// A Number is one that was taken, and its fate.
type Number struct {
	ID         int64       `db:"id"`
	SeriesID   int64       `db:"series_id"`
	Series     string      `db:"series"` // its name
	Key        string      `db:"key"`
	Number     string      `db:"number"`
	RunID      int64       `db:"run_id"`
	Design     string      `db:"design"` // the name of that of the run
	Record     int         `db:"record"`
	FirstLabel int         `db:"first_label"`
	LastLabel  int         `db:"last_label"`
	AfterPrint int64       `db:"after_print"`
	LastPrint  *int64      `db:"last_print"`
	State      NumberState `db:"state"`
	Sent       bool        `db:"sent"`
	TakenBy    string      `db:"taken_by"`
	TakenAt    time.Time   `db:"taken_at"`
	ChangedBy  string      `db:"changed_by"`
	ChangedAt  *time.Time  `db:"changed_at"`
	Why        string      `db:"why"`
}

const numberQuery = `select n.id, n.series_id, s.name as series, n.key, n.number, n.run_id,
		v.document->>'name' as design, n.record, n.first_label, n.last_label, n.after_print, n.last_print, n.state,
		n.sent,
	n.taken_by, n.taken_at, n.changed_by, n.changed_at, n.why
	from numbers n join series s on s.id = n.series_id join runs r on r.id = n.run_id
	join design_revisions v on v.id = r.design_revision_id `

// Numbers returns numbers of a series, those that were taken last first; of one state where one is given, and behind
// one by its id.
func (s *Store) Numbers(ctx context.Context, id int64, state string, before int64, most int) (numbers []Number,
	err error) {
	const query = numberQuery + `where n.series_id = $1 and ($2 = '' or n.state = $2) and ($3 = 0 or n.id < $3)
			order by n.id desc limit $4`
	return numbers, list(ctx, s.DB, &numbers, query, id, state, before, most)
}

// FindNumbers returns all that were ever taken of some numbers, the latest first.
func (s *Store) FindNumbers(ctx context.Context, typed []string, most int) (numbers []Number, err error) {
	const query = `with found as materialized (select id from numbers
			where number = any($1)) ` + numberQuery + `where n.id in (select id from found) order by n.id desc limit $2`
	return numbers, list(ctx, s.DB, &numbers, query, typed, most)
}

// RunNumbers are the first and the last number that a run has of one of its series, and how many those are.
type RunNumbers struct {
	SeriesID int64  `json:"series_id"`
	Series   string `json:"series"`
	First    string `json:"first"`
	Last     string `json:"last"`
	Count    int    `json:"count"`
}

// sumUp keeps with a run what numbers its labels have, so that nobody counts them who looks at it. What was found on
// them is so no longer.
func sumUp(ctx context.Context, tx pgx.Tx, run int64) error {
	const query = `update runs set proof = null, edits = edits + 1,
			numbers = coalesce((select jsonb_agg(jsonb_build_object('series_id', c.series_id, 'series', s.name, 'count',
			c.count, 'first', f.number, 'last', l.number) order by s.name)
		from (select series_id, count(*), min(first_label) as first_label, max(first_label) as last_label from numbers
			where run_id = $1 and state in ('open', 'printed') and last_print is null group by series_id) c
		join series s on s.id = c.series_id
		join numbers f on f.run_id = $1 and f.series_id = c.series_id and f.first_label = c.first_label
		and f.last_print is null and f.state in ('open', 'printed')
		join numbers l on l.run_id = $1 and l.series_id = c.series_id and l.first_label = c.last_label
		and l.last_print is null and l.state in ('open', 'printed')), '[]') where id = $1`
	if _, err := tx.Exec(ctx, query, run); err != nil {
		return fmt.Errorf("sum up the numbers of run %d: %w", run, err)
	}
	return nil
}

// A Sight is a label with a number that a print brought out, or was to.
type Sight struct {
	PrintID   int64      `db:"print_id"`
	Kind      string     `db:"kind"`
	Printer   string     `db:"printer"`
	Label     int        `db:"label"`
	State     PieceState `db:"state"`
	ReadBack  *string    `db:"read_back"`
	ReadAs    *string    `db:"read_as"`
	EPC       string     `db:"epc"` // in its chip; empty: nothing was written
	TID       string     `db:"tid"`
	StartedBy string     `db:"started_by"`
	StartedAt time.Time  `db:"started_at"`
	EndedAt   *time.Time `db:"ended_at"`
}

// Sights returns what became of the labels with a number, the first print first.
func (s *Store) Sights(ctx context.Context, n *Number, most int) (sights []Sight, err error) {
	const query = `select q.id as print_id, q.kind, d.name as printer, p.label, p.state, p.read_back, p.read_as,
			coalesce(t.epc, '') as epc, coalesce(t.tid, '') as tid, q.started_by, q.started_at, q.ended_at
		from prints q join pieces p on p.print_id = q.id join printers d on d.id = q.printer_id
		left join lateral (select epc, tid from tags where print_id = q.id and label = p.label and outcome = 'written'
		order by id desc limit 1) t on true
		where q.run_id = $1 and p.label between $2 and $3 and q.id > $4 and ($5::bigint is null or q.id <= $5)
		order by q.id, p.place limit $6`
	return sights, list(ctx, s.DB, &sights, query, n.RunID, n.FirstLabel, n.LastLabel, n.AfterPrint, n.LastPrint, most)
}

// ErrNumberGone says that a number is not open any more.
var ErrNumberGone = numberGone.With()

// VoidNumber ends an open number that no label is to have: those that had it have another, which is taken now.
func (s *Store) VoidNumber(ctx context.Context, id int64, by, why string) error {
	return pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		var run int64
		var first, last int
		const look = `select r.id, n.first_label, n.last_label from numbers n join runs r on r.id = n.run_id
				where n.id = $1 for update of r`
		if err := tx.QueryRow(ctx, look, id).Scan(&run, &first, &last); err != nil {
			return notFound(err, "number", id)
		}
		var waits bool
		const waiting = `select exists (select 1 from prints q join pieces p on p.print_id = q.id where q.run_id = $1
				and q.state in ('printing', 'held') and p.state = 'waiting' and p.label between $2 and $3)
			or exists (select 1 from prints q where q.run_id = $1 and q.listing is not null
			and (q.listing->>'label')::int < $3)`
		if err := tx.QueryRow(ctx, waiting, run, first, last).Scan(&waits); err != nil {
			return fmt.Errorf("look at run %d: %w", run, err)
		}
		if waits {
			return ErrLabelsWait
		}
		rows, err := tx.Query(ctx, `update numbers n set state = 'voided', changed_by = $2, changed_at = now(),
				why = $3, last_print = (select coalesce(max(id), 0) from prints where run_id = n.run_id)
			from series s where s.id = n.series_id and n.id = $1 and n.state = 'open' returning s.name, n.key, n.record,
			n.first_label, n.last_label`, id, by, why)
		if err != nil {
			return fmt.Errorf("void number %d: %w", id, err)
		}
		replaced, err := replaceNumbers(ctx, tx, run, rows, 0, by)
		if err == nil && replaced == 0 {
			err = ErrNumberGone
		}
		return err
	})
}

// What is printed in place of labels that came out spoiled.
const (
	SameNumber = "same" // the label with the numbers that it had
	NewNumber  = "new"  // the label with new ones
)

// ErrNoSuchLabels says that labels that are said to be spoiled did not come out.
var ErrNoSuchLabels = refusal.Define("labels.not-out", refusal.Invalid,
	"None of these labels came out of a printer, so none is spoiled. Say labels of the "+
		"run that were printed.").With()

// ErrLabelsWait says that labels are being printed just now.
var ErrLabelsWait = refusal.Define("labels.printing", refusal.Conflict,
	"Some of these labels are being printed just now. Wait until they are out, or cancel "+
		"the print, then say which are spoiled.").With()

// SpoilLabels notes that labels of a run came out spoiled: they are to be printed again. A number is spoiled with its
// labels where new ones are wanted; one that stands on labels that are good too stays. It returns how many labels it
// is.
func (s *Store) SpoilLabels(ctx context.Context, run int64, labels []int, numbers, by string) (spoiled int, err error) {
	err = pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		var closed bool
		if err := tx.QueryRow(ctx, `select closed_at is not null from runs
				where id = $1 for update`, run).Scan(&closed); err != nil {
			return notFound(err, "run", run)
		}
		if closed {
			return ErrRunClosed
		}
		var waits bool
		const waiting = `select exists (select 1 from prints q join pieces p on p.print_id = q.id where q.run_id = $1
				and q.state in ('printing', 'held') and p.state = 'waiting' and p.label = any($2))
			or exists (select 1 from prints q where q.run_id = $1 and q.listing is not null
			and (q.listing->>'label')::int < (select max(l) from unnest($2::int[]) l))`
		if err := tx.QueryRow(ctx, waiting, run, labels).Scan(&waits); err != nil {
			return fmt.Errorf("look at run %d: %w", run, err)
		}
		if waits {
			return ErrLabelsWait
		}
		const pieces = `with gone as (update pieces p set state = 'spoiled' from prints q where q.id = p.print_id
				and q.run_id = $1 and p.state = 'printed' and p.label = any($2) returning p.label)
			select coalesce(array_agg(distinct label), '{}') from gone`
		var gone []int
		if err := tx.QueryRow(ctx, pieces, run, labels).Scan(&gone); err != nil {
			return fmt.Errorf("spoil labels of run %d: %w", run, err)
		}
		if spoiled = len(gone); spoiled == 0 {
			return ErrNoSuchLabels
		}
		if _, err := tx.Exec(ctx, `update runs set printed = printed - $2 where id = $1`, run, spoiled); err != nil {
			return fmt.Errorf("count run %d: %w", run, err)
		}
		const only = `n.run_id = $1 and n.state = 'printed' and n.last_print is null and exists (select 1
				from unnest($2::int[]) g (label) where label between n.first_label and n.last_label)
			and not exists (select 1 from prints q join pieces p on p.print_id = q.id where q.run_id = $1
			and p.state = 'printed' and p.label between n.first_label and n.last_label)`
		if numbers != NewNumber {
			if _, err := tx.Exec(ctx, `update numbers n set state = 'open' where `+only, run, gone); err != nil {
				return fmt.Errorf("open numbers of run %d again: %w", run, err)
			}
			return nil
		}
		rows, err := tx.Query(ctx, `update numbers n set state = 'spoiled', changed_by = $3, changed_at = now(),
				why = 'its label came out spoiled', last_print = (select max(id) from prints where run_id = $1)
			from series s where s.id = n.series_id
			and `+only+` returning s.name, n.key, n.record, n.first_label, n.last_label`, run, gone, by)
		if err != nil {
			return fmt.Errorf("spoil numbers of run %d: %w", run, err)
		}
		_, err = replaceNumbers(ctx, tx, run, rows, 0, by)
		return err
	})
	return spoiled, err
}

// RenumberLabel gives a label whose tag was bad other numbers, where its series say so, under a lease: they are those
// of the print from now on. It tells whether it did. A number that stands on other labels too stays.
func (s *Store) RenumberLabel(ctx context.Context, l Lease, label int) (renumbered bool, err error) {
	err = pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		var has bool
		var run int64
		var by string
		if err := tx.QueryRow(ctx, `select `+held+`, run_id, started_by from prints where id = $1 for update`, l.Print,
			l.Number).Scan(&has, &run, &by); err != nil {
			return notFound(err, "print", l.Print)
		}
		if !has {
			return ErrLeaseLost
		}
		if _, err := tx.Exec(ctx, `select 1 from runs where id = $1 for update`, run); err != nil {
			return fmt.Errorf("lock run %d: %w", run, err)
		}
		rows, err := tx.Query(ctx, `update numbers n set state = 'voided', changed_by = '', changed_at = now(),
				why = 'the tag of its label was bad', last_print = $3 - 1
			from series s where s.id = n.series_id and s.bad_tag = 'new' and n.run_id = $1 and n.state = 'open'
			and n.last_print is null and n.first_label = $2 and n.last_label = $2
			returning s.name, n.key, n.record, n.first_label, n.last_label`, run, label, l.Print)
		if err != nil {
			return fmt.Errorf("void the numbers of label %d of run %d: %w", label, run, err)
		}
		replaced, err := replaceNumbers(ctx, tx, run, rows, l.Print, by)
		renumbered = replaced > 0
		return err
	})
	return renumbered, err
}

// replaceNumbers takes a new number for each that its labels are no longer to have, and returns for how many.
// They are those of prints from one on; 0: from the next print of the run on.
func replaceNumbers(ctx context.Context, tx pgx.Tx, run int64, gone pgx.Rows, from int64, by string) (replaced int,
	err error) {
	var demands []Demand
	var name string
	var span batch.Span
	_, err = pgx.ForEachRow(gone, []any{&name, &span.Key, &span.Record, &span.First, &span.Last}, func() error {
		i := slices.IndexFunc(demands, func(d Demand) bool { return d.Series == name })
		if i < 0 {
			i, demands = len(demands), append(demands, Demand{Series: name})
		}
		demands[i].Spans = append(demands[i].Spans, span)
		replaced++
		return nil
	})
	if err != nil {
		return 0, fmt.Errorf("replace numbers of run %d: %w", run, err)
	}
	if replaced == 0 {
		return 0, nil
	}
	for _, d := range demands {
		slices.SortFunc(d.Spans, func(a, b batch.Span) int { return cmp.Compare(a.First, b.First) })
	}
	wanted, err := demanded(ctx, tx, run, demands)
	if err != nil {
		return 0, err
	}
	last := from - 1
	if from == 0 {
		if err := tx.QueryRow(ctx, `select coalesce(max(id), 0) from prints
				where run_id = $1`, run).Scan(&last); err != nil {
			return 0, fmt.Errorf("look at the prints of run %d: %w", run, err)
		}
	}
	for _, c := range wanted { // what other labels of the run have stays theirs
		if err := c.take(ctx, tx, run, c.spans, last, by); err != nil {
			return 0, err
		}
	}
	return replaced, sumUp(ctx, tx, run)
}

// ErrRunClosed says that a run was given up.
var ErrRunClosed = refusal.Define("run.closed", refusal.Conflict,
	"This run was given up: what it had not printed is not printed any more. Prepare a "+
		"new run.").With()

// CloseRun gives up what a run has not printed. Numbers that were at a printer are void, the others are what their
// series says. A run that is being printed is ErrRunBusy.
func (s *Store) CloseRun(ctx context.Context, id int64, by string) error {
	return pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		var busy, closed bool
		const look = `select exists (select 1 from prints where run_id = $1 and state in ('printing', 'held')),
				closed_at is not null from runs where id = $1 for update`
		if err := tx.QueryRow(ctx, look, id).Scan(&busy, &closed); err != nil {
			return notFound(err, "run", id)
		}
		switch {
		case busy:
			return ErrRunBusy
		case closed:
			return ErrRunClosed
		}
		if _, err := tx.Exec(ctx, `update runs set closed_at = now(), closed_by = $2
				where id = $1`, id, by); err != nil {
			return fmt.Errorf("give up run %d: %w", id, err)
		}
		rows, err := tx.Query(ctx, `select id from numbers where run_id = $1 and state = 'open'`, id)
		if err != nil {
			return fmt.Errorf("look at the numbers of run %d: %w", id, err)
		}
		numbers, err := pgx.CollectRows(rows, pgx.RowTo[int64])
		if err != nil {
			return fmt.Errorf("look at the numbers of run %d: %w", id, err)
		}
		return letGo(ctx, tx, numbers, by, "the run was given up")
	})
}

// notFound says of an error of looking for one thing that there is none.
func notFound(err error, what string, id int64) error {
	if errors.Is(err, pgx.ErrNoRows) {
		return &NotFoundError{What: what, ID: id}
	}
	return fmt.Errorf("look for %s %d: %w", what, id, err)
}

// EachNumber gives all numbers that were taken of a series, in the order in which they were taken; an error of what is
// given them ends it.
func (s *Store) EachNumber(ctx context.Context, id int64, give func(*Number) error) error {
	rows, err := s.Pool.Query(ctx, numberQuery+`where n.series_id = $1 order by n.id`, id)
	if err != nil {
		return fmt.Errorf("read numbers of series %d: %w", id, err)
	}
	defer rows.Close()
	for rows.Next() {
		number, err := pgx.RowToAddrOfStructByName[Number](rows)
		if err != nil {
			return fmt.Errorf("read numbers of series %d: %w", id, err)
		}
		if err := give(number); err != nil {
			return err
		}
	}
	return rows.Err()
}
