package store

import (
	"context"
	"fmt"
)

// A Roll is one that lies in the Stockroom, or a stack of sheets.
type Roll struct {
	ID    int64  `db:"id"`
	Stock string `db:"stock"`     // the plant's number of it
	Left  int64  `db:"left_over"` // pieces; sheets of a stock of sheets; micrometres of a tape
	Place string `db:"place"`
	By    string `db:"noted_by"`
}

// Rolls returns the rolls of a stock that lie ready, those that are begun first.
func (s *Store) Rolls(ctx context.Context, stock string) (rolls []Roll, err error) {
	const query = `select id, stock, left_over, place, noted_by from rolls where stock = $1 order by left_over, id`
	return rolls, list(ctx, s.DB, &rolls, query, stock)
}

// AddRolls notes so many rolls that are alike.
func (s *Store) AddRolls(ctx context.Context, r Roll, rolls int) error {
	const query = `insert into rolls (stock, left_over, place, noted_by) select $1, $2, $3, $4 from generate_series(1,
			$5::int)`
	if _, err := s.DB.ExecContext(ctx, query, r.Stock, r.Left, r.Place, r.By, rolls); err != nil {
		return fmt.Errorf("note rolls of %s: %w", r.Stock, err)
	}
	return nil
}

// TakeRoll notes that a roll lies there no longer.
func (s *Store) TakeRoll(ctx context.Context, id int64) error {
	return get(ctx, s.DB, &id, "roll", id, `delete from rolls where id = $1 returning id`, id)
}
