package store

import "context"

// A Piece is one label of a print and what became of it.
type Piece struct {
	Place    int     `db:"place"`
	Label    int     `db:"label"`
	Record   int     `db:"record"`
	State    string  `db:"state"`
	ReadBack *string `db:"read_back"`
	ReadAs   *string `db:"read_as"`
}

// Pieces returns labels of a print in order; only those that read otherwise where asked.
func (s *Store) Pieces(ctx context.Context, print int64, onlyOther bool, skip, most int) (pieces []Piece, err error) {
	const query = `select place, label, record, state, read_back, read_as from pieces
		where print_id = $1 and (not $2 or read_back = 'other') order by place offset $3 limit $4`
	return pieces, list(ctx, s.DB, &pieces, query, print, onlyOther, skip, most)
}

// Slice returns the values of the records of some places of a print, in order, with the facts of each label behind them (design.Facts); a run
// without records has these alone.
func (s *Store) Slice(ctx context.Context, print int64, first, last int) ([][]string, error) {
	const query = `select coalesce(r."values", '{}') || array[p.label::text, u.label_count::text, d.name, q.started_by] from pieces p join prints q on q.id = p.print_id join runs u on u.id = q.run_id join printers d on d.id = q.printer_id
		left join records r on r.record_set_id = u.record_set_id and r.number = p.record
		where p.print_id = $1 and p.place between $2 and $3 order by p.place`
	return s.values(ctx, query, print, first, last)
}
