package store

import (
	"context"
	"time"

	"oddspool/core/stock"
)

// A Used is what a print printed.
type Used struct {
	At      time.Time         `db:"at"` // when it ended, or began where it has not
	Printer string            `db:"printer"`
	Stock   Kept[stock.Stock] `db:"stock"` // as the design has it
	Labels  int               `db:"labels"`
}

// Used returns what was printed from a moment to another, in order.
func (s *Store) Used(ctx context.Context, from, to time.Time) (used []Used, err error) {
	const query = `with q as (select coalesce(p.ended_at, p.started_at) as at, p.id, p.printer_id,
			r.design_revision_id as revision, p.printed as labels
			from prints p join runs r on r.id = p.run_id where p.printed > 0 and coalesce(p.ended_at,
			p.started_at) >= $1 and coalesce(p.ended_at, p.started_at) < $2),
		v as materialized (select id, document->'stock' as stock from design_revisions where id in (select revision
		from q))
		select q.at, d.name as printer, v.stock, q.labels from q join printers d on d.id = q.printer_id
		join v on v.id = q.revision order by q.at, q.id`
	return used, list(ctx, s.DB, &used, query, from, to)
}
