package store

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"

	"github.com/jackc/pgx/v5"

	"oddspool/core/batch"
	"oddspool/core/refusal"
)

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
