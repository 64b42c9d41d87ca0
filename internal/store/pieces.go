package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
)

// A Piece is one label of a print and what became of it.
type Piece struct {
	Place    int        `db:"place"`
	Label    int        `db:"label"`
	Record   int        `db:"record"`
	State    PieceState `db:"state"`
	ReadBack *string    `db:"read_back"`
	ReadAs   *string    `db:"read_as"`
}

// Pieces returns labels of a print in order; only those that read otherwise where asked.
func (s *Store) Pieces(ctx context.Context, print int64, onlyOther bool, skip, most int) (pieces []Piece, err error) {
	const query = `select place, label, record, state, read_back, read_as from pieces
		where print_id = $1 and (not $2 or read_back = 'other') order by place offset $3 limit $4`
	return pieces, list(ctx, s.DB, &pieces, query, print, onlyOther, skip, most)
}

// RecordsSaying returns the numbers of records of a run of which a value is one of some texts, the first two.
func (s *Store) RecordsSaying(ctx context.Context, run int64, texts []string) (numbers []int, err error) {
	const query = `select distinct r.number from runs u join records r on r.record_set_id = u.record_set_id
		where u.id = $1 and r."values" && $2::text[] and exists (select 1 from run_records c where c.run_id = u.id
		and c.part = 0 and c.record = r.number) order by r.number limit 2`
	return numbers, list(ctx, s.DB, &numbers, query, run, texts)
}

// NextLabel returns the first label of a run that is neither out nor may be, of one record or (0) of any that is not
// left out; 0: there is none.
func (s *Store) NextLabel(ctx context.Context, run int64, record int, leftOut []int) (label int, err error) {
	const query = `select coalesce((select l.label from (select n as label from run_records c,
			generate_series(c.first_label, c.first_label + c.copies - 1) n
			where c.run_id = $1 and c.part = 0 and ($2 = 0 or c.record = $2)
			and c.record not in (select unnest($3::int[])) order by c.first_label) l
		where not exists (select 1 from prints q join pieces p on p.print_id = q.id where q.run_id = $1
		and p.label = l.label and p.state in ('printed', 'unknown'))
		limit 1), 0)`
	if err := s.DB.GetContext(ctx, &label, query, run, record, leftOut); err != nil {
		return 0, fmt.Errorf("next label of run %d: %w", run, err)
	}
	return label, nil
}

// A Printed is a label of a print with its record, as a list of what was printed has it.
type Printed struct {
	Label    int        `db:"label"`
	Record   int        `db:"record"`
	Values   []string   `db:"values"`
	Answers  []string   `db:"answers"` // to the questions that were named
	Numbers  string     `db:"numbers"` // of series, with blanks between
	State    PieceState `db:"state"`
	ReadBack string     `db:"read_back"`
	ReadAs   string     `db:"read_as"`
	PrintID  int64      `db:"print_id"`
	Kind     string     `db:"kind"`
	Printer  string     `db:"printer"`
	Part     int        `db:"part"`
	By       string     `db:"by"`
	EPC      string     `db:"epc"` // in its chip
	TID      string     `db:"tid"`
	At       *time.Time `db:"at"` // when its print ended
}

// EachPrinted gives all labels of the prints of a run, in the order in which they were to come out, with the answers to
// some questions, of which stands has what is answered where a record or label has no answer of its own; an error of
// what is given them ends it.
func (s *Store) EachPrinted(ctx context.Context, run int64, questions, stands []string,
	give func(*Printed) error) error {
	const query = `select p.label, p.part, p.record, coalesce(r."values", '{}') as values, p.state,
			coalesce(p.read_back, '') as read_back, coalesce(p.read_as, '') as read_as, q.id as print_id, q.kind,
			d.name as printer, q.started_by as by, q.ended_at as at, coalesce(t.epc, '') as epc, coalesce(t.tid,
			'') as tid,
			coalesce((select string_agg(n.number, ' ' order by n.series_id) from numbers n where n.run_id = u.id
			and n.first_label <= p.label and n.last_label >= p.label
				and n.after_print < q.id and (n.last_print is null or n.last_print >= q.id) and n.state <> 'returned'),
				'') as numbers,
			array(select coalesce((select a.answer from run_answers a where a.run_id = u.id and a.record = p.record
			and a.name = e.name and a.copy in (0,
					(select c.before + p.label + 1 - c.first_label from run_records c where c.run_id = u.id
					and c.first_label <= p.label order by c.first_label desc limit 1))
					order by a.copy desc limit 1), e.stand)
				from unnest($2::text[], $3::text[]) with ordinality e (name, stand, place) order by e.place) as answers
		from prints q join pieces p on p.print_id = q.id join runs u on u.id = q.run_id
		join printers d on d.id = q.printer_id
		left join records r on r.record_set_id = u.record_set_id and r.number = p.record
		left join lateral (select epc, tid from tags where print_id = q.id and label = p.label and outcome = 'written'
		order by id desc limit 1) t on true where q.run_id = $1 order by q.id, p.place`
	rows, err := s.Pool.Query(ctx, query, run, questions, stands)
	if err != nil {
		return fmt.Errorf("list what was printed of run %d: %w", run, err)
	}
	defer rows.Close()
	for rows.Next() {
		printed, err := pgx.RowToAddrOfStructByName[Printed](rows)
		if err != nil {
			return fmt.Errorf("list what was printed of run %d: %w", run, err)
		}
		if err := give(printed); err != nil {
			return err
		}
	}
	return rows.Err()
}
