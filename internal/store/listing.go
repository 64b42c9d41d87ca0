package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"

	"oddspool/core/batch"
)

// A print of a million labels begins at once: its first places are written down when it is started, and the next when
// the printer comes near the end of those. That is done for prints of all, or of the rest, of a run of one design,
// whose places are its labels in their order.

// How many labels of a run are gone through at once, and how near to the last place the next are written down.
const (
	listAtOnce = 10_000
	listAhead  = 2_500
)

// A listing is what is left to write down of the places of a print.
type listing struct {
	Label   int   `json:"label"` // of the run, up to which places are written down
	Last    int   `json:"last"`  // of the run
	Parts   []int `json:"parts"` // and records that are left out
	Records []int `json:"records"`
	Rest    bool  `json:"rest"` // labels that came out, or may have, are left out
}

// isPlain tells whether the places of a print are labels of its run in their order.
func (o *Order) isPlain() bool {
	return (o.Kind == "all" || o.Kind == "rest") && o.Shares <= 1 && o.Fill != batch.FillThrough
}

// startListed writes the first places of a large print down; false: it is done as ever.
func startListed(ctx context.Context, tx *sqlx.Tx, id int64, o *Order, parts, records []int) (begun bool, err error) {
	var run struct {
		Labels     int  `db:"label_count"`
		Closed     bool `db:"closed"`
		Separators bool `db:"besides"`
		Printed    bool `db:"printed"`
	}
	const look = `select label_count, closed_at is not null as closed, besides <> '[]' as besides, exists (select 1
			from prints where run_id = $1 and id <> $2) as printed from runs where id = $1`
	if err := tx.GetContext(ctx, &run, look, o.Run, id); err != nil {
		return false, fmt.Errorf("look at run %d: %w", o.Run, err)
	}
	if run.Labels <= 2*listAtOnce || run.Closed || run.Separators {
		return false, nil
	}
	l := listing{Last: run.Labels, Parts: parts, Records: records, Rest: o.Kind == "rest" && run.Printed}
	count := run.Labels
	if len(records) > 0 {
		const all = `select coalesce(sum(copies), 0) from run_records where run_id = $1 and (part,
				record) not in (select * from unnest($2::int[], $3::int[]))`
		if err := tx.GetContext(ctx, &count, all, o.Run, parts, records); err != nil {
			return false, fmt.Errorf("count the labels of run %d: %w", o.Run, err)
		}
	}
	if l.Rest {
		var out int
		const gone = `select count(distinct p.label) from prints q join pieces p on p.print_id = q.id
			where q.run_id = $1 and p.state in ('printed', 'unknown') and (p.part, p.record) not in (select *
			from unnest($2::int[], $3::int[]))`
		if err := tx.GetContext(ctx, &out, gone, o.Run, parts, records); err != nil {
			return false, fmt.Errorf("count the labels of run %d: %w", o.Run, err)
		}
		count -= out
	}
	if count <= listAtOnce {
		return false, nil
	}
	if _, err := tx.ExecContext(ctx, `update prints set label_count = $2, listed = 0
			where id = $1`, id, count); err != nil {
		return false, fmt.Errorf("count the labels of print %d: %w", id, err)
	}
	if err := l.more(ctx, tx, id, o.Run, 0, count); err != nil {
		return false, err
	}
	// The last label is found from behind: mostly it is that of the run.
	const ends = `update prints p set first_label = (select label from pieces where print_id = $1 and place = 1),
		last_label = (select l.n from generate_series($3::int, 1, -1) l(n) where exists (select 1
		from (` + lastOf + `) m) limit 1) where id = $1`
	if _, err := tx.ExecContext(ctx, ends, id, o.Run, run.Labels, parts, records, l.Rest); err != nil {
		return false, fmt.Errorf("find the last label of print %d: %w", id, err)
	}
	return true, nil
}

// lastOf tells, as SQL, whether label l.n of run $2 is meant, as listed has it.
const lastOf = `select 1 from (select c.part, c.record from run_records c where c.run_id = $2 and c.first_label <= l.n
		order by c.first_label desc limit 1) c
	where (c.part, c.record) not in (select * from unnest($4::int[], $5::int[]))
		and (not $6 or (select 1 from prints q join pieces p on p.print_id = q.id where q.run_id = $2 and p.label = l.n
		and p.state in ('printed', 'unknown') limit 1) is null)`

// listed are, as SQL, the labels of run $1 behind $2 up to $3 that are meant, as meant has them.
const listed = `select n as label, c.record, c.part from run_records c, generate_series(greatest(c.first_label, $2 + 1),
		least(c.first_label + c.copies - 1, $3)) n
	where c.run_id = $1 and c.first_label <= $3 and c.first_label + c.copies > $2 + 1 and (c.part,
	c.record) not in (select * from unnest($4::int[], $5::int[]))
		and (not $6 or (select 1 from prints q join pieces p on p.print_id = q.id where q.run_id = $1 and p.label = n
		and p.state in ('printed', 'unknown') limit 1) is null)`

// more writes the next places of a print of count labels down, behind those that are.
func (l *listing) more(ctx context.Context, tx *sqlx.Tx, print, run int64, places, count int) error {
	for added := int64(0); added == 0 && l.Label < l.Last; {
		to := min(l.Label+listAtOnce, l.Last)
		const add = `insert into pieces (print_id, place, label, record, part) select $7,
				$8 + row_number() over (order by label), label, record, part from (` + listed + `) l`
		done, err := tx.ExecContext(ctx, add, run, l.Label, to, l.Parts, l.Records, l.Rest, print, places)
		if err == nil {
			added, err = done.RowsAffected()
		}
		if err != nil {
			return fmt.Errorf("list labels of print %d: %w", print, err)
		}
		l.Label = to
		places += int(added)
	}
	document, err := json.Marshal(l)
	if err != nil {
		return fmt.Errorf("list labels of print %d: %w", print, err)
	}
	const note = `update prints set listed = $2, listing = case when $2 < label_count then $3::jsonb end where id = $1`
	if _, err := tx.ExecContext(ctx, note, print, places, string(document)); err != nil {
		return fmt.Errorf("list labels of print %d: %w", print, err)
	}
	if l.Label == l.Last && places < count { // it was counted when it was started
		return fmt.Errorf("print %d has %d labels, and %d were counted", print, places, count)
	}
	return nil
}

// ListMore writes the next places of a print down, where the printer comes near the end of those that are.
func (s *Store) ListMore(ctx context.Context, lease Lease, p *Print) error {
	if p.Listed >= p.LabelCount || p.Settled+listAhead < p.Listed {
		return nil
	}
	return s.under(ctx, lease, func(tx *sqlx.Tx) error {
		var now struct {
			Listing JSON `db:"listing"`
			Listed  int  `db:"listed"`
		}
		if err := get(ctx, tx, &now, "print", p.ID, `select listing, coalesce(listed, 0) as listed from prints
				where id = $1`, p.ID); err != nil {
			return err
		}
		if now.Listing == nil {
			return nil
		}
		var l listing
		if err := json.Unmarshal(now.Listing, &l); err != nil {
			return errors.Join(fmt.Errorf("list labels of print %d", p.ID), err)
		}
		return l.more(ctx, tx, p.ID, p.RunID, now.Listed, p.LabelCount)
	})
}
