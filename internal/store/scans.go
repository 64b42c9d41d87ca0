package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jmoiron/sqlx"
)

// What a scan of a printed label says.
const (
	ScanMeant     = "meant"     // it is a label that came out
	ScanAgain     = "again"     // one that was scanned already
	ScanSpoiled   = "spoiled"   // one that somebody said came out spoiled
	ScanUnprinted = "unprinted" // one of which it is not known that it came out
	ScanOther     = "other"     // none of this run
)

// A Scan is a label that was scanned after it was printed.
type Scan struct {
	ID      int64     `db:"id"`
	Scanned string    `db:"scanned"`
	Outcome string    `db:"outcome"`
	Label   *int      `db:"label"` // nil: no label of the run says it
	By      string    `db:"scanned_by"`
	At      time.Time `db:"scanned_at"`
}

// KeepScan keeps what was scanned of a run, of which some labels say it, and says what that means. Of labels that say
// the same, one that came out and was not scanned yet is taken.
func (s *Store) KeepScan(ctx context.Context, run int64, labels []int, scanned, by string) (scan Scan, err error) {
	scan = Scan{Scanned: scanned, Outcome: ScanOther, By: by}
	err = pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		if err := tx.QueryRow(ctx, `select id from runs where id = $1 for update`, run).Scan(&run); err != nil {
			return notFound(err, "run", run)
		}
		if len(labels) > 0 {
			const judge = `select label, outcome from (
				select l.label, case when
				p.state is null then 'unprinted' when p.state = 'spoiled' then 'spoiled' when exists (select 1
				from scans s
					where s.run_id = $1 and s.label = l.label and s.outcome = 'meant'
					and s.scanned_at >= p.started_at) then 'again' else 'meant' end as outcome
				from unnest($2::int[]) l (label)
				left join lateral (select p.state, q.started_at from prints q join pieces p on p.print_id = q.id
					where q.run_id = $1 and p.label = l.label and p.state in ('printed', 'unknown', 'spoiled')
					order by q.id desc limit 1) p on true) l
				order by array_position(array['meant', 'again', 'spoiled', 'unprinted'], outcome), label limit 1`
			if err := tx.QueryRow(ctx, judge, run, labels).Scan(&scan.Label, &scan.Outcome); err != nil {
				return fmt.Errorf("look for a scanned label of run %d: %w", run, err)
			}
		}
		const keep = `insert into scans (run_id, scanned, outcome, label, scanned_by) values ($1, $2, $3, $4, $5)
				returning id, scanned_at`
		if err := tx.QueryRow(ctx, keep, run, scanned, scan.Outcome, scan.Label, by).Scan(&scan.ID,
			&scan.At); err != nil {
			return fmt.Errorf("keep a scan of run %d: %w", run, err)
		}
		return nil
	})
	return scan, err
}

// Scans returns how many labels of a run were scanned and are as meant, how many scans were not, and the latest ones.
func (s *Store) Scans(ctx context.Context, run int64, most int) (meant, wrong int, latest []Scan, err error) {
	const counts = `select count(distinct label) filter (where outcome = 'meant'),
			count(*) filter (where outcome in ('spoiled', 'unprinted', 'other')) from scans where run_id = $1`
	if err := s.Pool.QueryRow(ctx, counts, run).Scan(&meant, &wrong); err != nil {
		return 0, 0, nil, fmt.Errorf("count scans of run %d: %w", run, err)
	}
	const query = `select id, scanned, outcome, label, scanned_by, scanned_at from scans where run_id = $1
			order by id desc limit $2`
	return meant, wrong, latest, list(ctx, s.DB, &latest, query, run, most)
}

// Forward lets a print that waits for its turn at its printer go before the others that wait there.
func (s *Store) Forward(ctx context.Context, id int64) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		const lock = `select 1 from prints where state = 'printing' and printer_id = (select printer_id from prints
				where id = $1) order by id for update`
		if _, err := tx.ExecContext(ctx, lock, id); err != nil {
			return fmt.Errorf("lock the prints at a printer: %w", err)
		}
		const query = `with line as (select o.id, coalesce(o.turn, o.id) as at,
				row_number() over (order by coalesce(o.turn, o.id), o.id) as n
				from prints o join prints p on p.id = $1 and o.printer_id = p.printer_id where o.state = 'printing')
			update prints set turn = (select avg(at) from line where n <= 2) where id = $1 and id in (select id
			from line where n > 2)`
		if _, err := tx.ExecContext(ctx, query, id); err != nil {
			return fmt.Errorf("let print %d go before others: %w", id, err)
		}
		return nil
	})
}

// PausePrint asks for a print to be held as soon as its printer has stopped; those of a run where run is not 0. How
// many it asks is returned.
func (s *Store) PausePrint(ctx context.Context, print, run int64, by string) (int64, error) {
	const query = `update prints set pause_by = $3 where (id = $1 or run_id = $2) and state = 'printing'`
	done, err := s.DB.ExecContext(ctx, query, print, run, by)
	if err != nil {
		return 0, fmt.Errorf("pause a print: %w", err)
	}
	return done.RowsAffected()
}
