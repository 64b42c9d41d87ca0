package store

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/jmoiron/sqlx"

	"oddspool/core/batch"
	"oddspool/core/stock"
)

// An Order says which labels of a run to print.
type Order struct {
	Run        int64
	Printer    int64   // 0: that of the run
	Kind       string  // sample, rest, all, again
	Labels     []int   // for a sample or again; numbers in the run
	LeftOut    []int   // records whose labels must not be printed
	Separators [][]int // and of each part from 1 on
	Setup      stock.Setup
	Parts      []int // of the run, whose labels it has; nil: all
	Share      int   // it has this one of Shares equal parts of the labels, from 1; 0: the only one
	Shares     int
	Fill       string // see batch.FillThrough
	PerPage    int
	Start      int // places of the first sheet that are used already
	By         string
}

// Skip returns how many places of the first page of a slice that begins with a place stay blank.
func (p *Print) Skip(first int) int {
	if first == 1 {
		return p.Start
	}
	return 0
}

// StartPrints makes prints of one run, which runners take up; each is at another printer. Its refusals are ErrRunBusy
// and ErrNothingToPrint: no print has a label.
func (s *Store) StartPrints(ctx context.Context, orders []Order) (ids []int64, err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		run, kind := orders[0].Run, orders[0].Kind
		var has struct{ Closed, Busy, Doubted, Itself bool }
		const look = `select closed_at is not null as closed, doubted_at is not null as doubted,
				` + isItself + ` as itself, exists (select 1 from prints where run_id = $1 and state in ('printing',
						'held')) as busy from runs where id = $1`
		if _, err := tx.ExecContext(ctx, `select 1 from runs where id = $1 for update`, run); err != nil {
			return fmt.Errorf("lock run %d: %w", run, err)
		}
		if err := get(ctx, tx, &has, "run", run, look, run); err != nil {
			return err
		}
		switch {
		case !has.Itself:
			return ErrCopied
		case has.Doubted && kind != "again": // of what came out it is known
			return ErrRunDoubted
		case has.Busy:
			return ErrRunBusy
		case has.Closed && kind != "again":
			return ErrRunClosed
		}
		if _, err := tx.ExecContext(ctx, `update runs set moment = coalesce(moment, now())
				where id = $1`, run); err != nil {
			return fmt.Errorf("keep the moment of run %d: %w", run, err)
		}
		for i := range orders {
			id, err := startPrint(ctx, tx, &orders[i], has.Closed)
			if err != nil {
				return err
			}
			if id != 0 {
				ids = append(ids, id)
			}
		}
		if ids == nil {
			return ErrNothingToPrint
		}
		return nil
	})
	return ids, err
}

// StartPrint makes one print, as StartPrints does.
func (s *Store) StartPrint(ctx context.Context, o Order) (id int64, err error) {
	ids, err := s.StartPrints(ctx, []Order{o})
	if err != nil {
		return 0, err
	}
	return ids[0], nil
}

// meant are, as SQL, the labels of a run that a print is to have. The rest leaves out what came out, and what may have:
// a person says of that. Of a run that was given up only what came out is printed again: the numbers of other labels
// are nobody's, or somebody else's.
const meant = `select label, record, part
	from (select c.first_label + n as label, c.record, c.part from run_records c, generate_series(0, c.copies - 1) n
		where c.run_id = $2 and (c.part, c.record) not in (select * from unnest($3::int[], $4::int[]))
		and ($5::int[] is null or c.part = any($5))) l
	where ($6 or label in (select unnest($7::int[])))
	and (not $8 or label not in (select p.label from pieces p join prints q on q.id = p.print_id where q.run_id = $2
	and p.state in ('printed', 'unknown')))
	and (not $9 or label in (select p.label from pieces p join prints q on q.id = p.print_id where q.run_id = $2
	and p.state = 'printed'))`

// How labels get their places: in their order, as mostly, or ranked: share $10 of $11, and with $12 places on a page
// through all pages, one place of each after the other, so that the first places have a label more where there are not
// enough for all.
const (
	inOrder = `insert into pieces (print_id, place, label, record, part) select $1, row_number() over (order by label),
			label, record, part from (` + meant + `) m`
	ranked = `insert into pieces (print_id, place, label, record, part)
		select $1, case when $12 < 2
		or n <= $12 then k + 1
		when k < f * t then k
		% t * $12 + k / t + 1 else (k - f * t) % (t - 1) * $12 + f + (k - f * t) / (t - 1) + 1 end, label, record, part
		from (select *, (n + $12 - 1) / $12 as t, n - (n + $12 - 1) / $12 * $12 + $12 as f from (
			select label, record, part, row_number() over (order by label) - 1 as k, count(*) over () as n
			from (select *, ntile($11) over (order by label) as share
			from (` + meant + `) m) shared where share = $10) counted) placed`
)

// startPrint makes one of the prints; one that would have no label is not made, and its number is 0.
func startPrint(ctx context.Context, tx *sqlx.Tx, o *Order, closed bool) (id int64, err error) {
	setup, err := json.Marshal(o.Setup)
	if err != nil {
		return 0, fmt.Errorf("write set-up: %w", err)
	}
	const add = `insert into prints (run_id, printer_id, kind, state, label_count, setup, start_place, started_by)
		select $1, case when $6 > 0 then $6 else printer_id end, $2, 'printing', 1, $3, $4, $5 from runs where id = $1
		returning id`
	if err := tx.GetContext(ctx, &id, add, o.Run, o.Kind, string(setup), o.Start, o.By, o.Printer); err != nil {
		return 0, fmt.Errorf("add print of run %d: %w", o.Run, err)
	}
	var parts, records []int
	for part, leftOut := range append([][]int{o.LeftOut}, o.Separators...) {
		for _, record := range leftOut {
			parts, records = append(parts, part), append(records, record)
		}
	}
	if o.isPlain() {
		if begun, err := startListed(ctx, tx, id, o, parts, records); begun || err != nil {
			return id, err
		}
	}
	chosen, through := o.Kind == "sample" || o.Kind == "again", 1
	if o.Fill == batch.FillThrough {
		through = max(o.PerPage, 1)
	}
	query, args := inOrder, []any{id, o.Run, parts, records, o.Parts, !chosen, o.Labels, o.Kind == "rest", closed}
	if o.Shares > 1 || through > 1 {
		query, args = ranked, append(args, max(o.Share, 1), max(o.Shares, 1), through)
	}
	done, err := tx.ExecContext(ctx, query, args...)
	if err != nil {
		return 0, fmt.Errorf("list labels of run %d: %w", o.Run, err)
	}
	count, err := done.RowsAffected()
	if err != nil {
		return 0, fmt.Errorf("count labels: %w", err)
	}
	counted := `update prints set label_count = $2, first_label = (select label from pieces where print_id = $1
			and place = 1) where id = $1`
	if count == 0 {
		counted = `delete from prints where id = $1 and $2 = 0`
	}
	if _, err := tx.ExecContext(ctx, counted, id, count); err != nil {
		return 0, fmt.Errorf("count labels: %w", err)
	}
	if count == 0 {
		return 0, nil
	}
	return id, nil
}
