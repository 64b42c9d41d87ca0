package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
)

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
