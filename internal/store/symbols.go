package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"oddspool/core/safety/symbols"
)

// mostSymbols is how many symbols of one's own are kept.
const mostSymbols = 2000

// AddSymbol keeps a symbol of one's own; one that is there already comes back where it was retired.
func (s *Store) AddSymbol(ctx context.Context, id string, drawing []byte, by string) error {
	if err := s.room(ctx, "symbols", "symbols", mostSymbols); err != nil {
		return err
	}
	const query = `insert into symbols (id, drawing, added_by) values ($1, $2, $3) on conflict (id) do update
			set retired_at = null`
	if _, err := s.DB.ExecContext(ctx, query, id, drawing, by); err != nil {
		return fmt.Errorf("keep symbol %q: %w", id, err)
	}
	return nil
}

// SymbolDrawing returns the drawing of a symbol of one's own, retired or not. Its error is a *symbols.UnknownError
// where there is none.
func (s *Store) SymbolDrawing(ctx context.Context, id string) (drawing []byte, err error) {
	err = s.DB.GetContext(ctx, &drawing, `select drawing from symbols where id = $1`, id)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, &symbols.UnknownError{ID: id}
	}
	return drawing, err
}

// OwnSymbols returns the drawings of the symbols of one's own that are not retired, the newest first.
func (s *Store) OwnSymbols(ctx context.Context) (drawings [][]byte, err error) {
	return drawings, list(ctx, s.DB, &drawings, `select drawing from symbols where retired_at is null
			order by added_at desc, id`)
}

// RetireSymbol takes a symbol of one's own out of the list; where it stands it stays.
func (s *Store) RetireSymbol(ctx context.Context, id string) error {
	result, err := s.DB.ExecContext(ctx, `update symbols set retired_at = now() where id = $1
			and retired_at is null`, id)
	if err != nil {
		return fmt.Errorf("retire symbol %q: %w", id, err)
	}
	if n, err := result.RowsAffected(); err != nil || n == 0 {
		return errors.Join(&symbols.UnknownError{ID: id}, err)
	}
	return nil
}
