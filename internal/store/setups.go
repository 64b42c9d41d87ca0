package store

import (
	"context"
	"time"

	"oddspool/core/refusal"
	"oddspool/core/stock"
)

// A Setup is a print set-up of a printer.
type Setup struct {
	ID        int64             `db:"id"`
	PrinterID int64             `db:"printer_id"`
	Stock     string            `db:"stock"` // number of the stock it is for; empty: any
	About     Kept[stock.Setup] `db:"about"`
	ChangedBy string            `db:"changed_by"`
	ChangedAt time.Time         `db:"changed_at"`
}

const setupQuery = `select id, printer_id, stock, about, changed_by, changed_at from setups `

// Setups returns the set-ups of a printer by name.
func (s *Store) Setups(ctx context.Context, printer int64) (setups []Setup, err error) {
	return setups, list(ctx, s.DB, &setups, setupQuery+`where printer_id = $1 order by about->>'name', id`, printer)
}

// Setup returns one set-up.
func (s *Store) Setup(ctx context.Context, id int64) (u Setup, err error) {
	return u, get(ctx, s.DB, &u, "print set-up", id, setupQuery+`where id = $1`, id)
}

// ErrSetupTaken says that a printer has a set-up of that name for that stock already.
var ErrSetupTaken = refusal.Define("setup.name-taken", refusal.Conflict,
	"This printer has a set-up of that name already. Choose another name.").With()

// PutSetup adds a set-up, or with an id changes one.
func (s *Store) PutSetup(ctx context.Context, id, printer int64, number string, about stock.Setup, by string) (int64,
	error) {
	query := `insert into setups (printer_id, stock, about, changed_by) values ($1, $2, $3, $4) returning id`
	args := []any{printer, number, Kept[stock.Setup]{about}, by}
	if id != 0 {
		query = `update setups set stock = $2, about = $3, changed_by = $4, changed_at = now() where printer_id = $1
				and id = $5 returning id`
		args = append(args, id)
	}
	err := get(ctx, s.DB, &id, "print set-up", id, query, args...)
	if isTwice(err) {
		return 0, ErrSetupTaken
	}
	return id, err
}

// DeleteSetup takes a set-up away. Prints keep the one they were started with.
func (s *Store) DeleteSetup(ctx context.Context, id int64) error {
	return get(ctx, s.DB, &id, "print set-up", id, `delete from setups where id = $1 returning id`, id)
}
