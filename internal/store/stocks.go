package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"oddspool/core/refusal"
	"oddspool/core/stock"
)

// A Stock is a stock of the plant.
type Stock struct {
	ID     int64             `db:"id"`
	Number string            `db:"number"`
	About  Kept[stock.Stock] `db:"about"`
	UsedAt *time.Time        `db:"used_at"` // when a design on it was last changed
}

const stockQuery = `select s.id, s.number, s.about,
	(select max(d.updated_at) from designs d where d.document->'stock'->>'number' = s.number
	and d.retired_at is null) as used_at
	from stocks s where s.retired_at is null `

// Stocks returns all stocks that are not retired, lately used first, then by number.
func (s *Store) Stocks(ctx context.Context) (stocks []Stock, err error) {
	return stocks, list(ctx, s.DB, &stocks, stockQuery+`order by used_at desc nulls last, s.number`)
}

// Stock returns one stock that is not retired.
func (s *Store) Stock(ctx context.Context, id int64) (found Stock, err error) {
	return found, get(ctx, s.DB, &found, "stock", id, stockQuery+`and s.id = $1`, id)
}

// StockNumbered returns the stock that has a number and is not retired.
func (s *Store) StockNumbered(ctx context.Context, number string) (found Stock, err error) {
	return found, get(ctx, s.DB, &found, "stock", 0, stockQuery+`and s.number = $1`, number)
}

// PutStocks adds stocks and changes those whose numbers are there, all or none. Those whose numbers retired stocks had
// are left out, and returned.
func (s *Store) PutStocks(ctx context.Context, stocks []stock.Stock) (added, changed int, taken []string, err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		for _, about := range stocks {
			const query = `insert into stocks (number, about) values ($1, $2)
				on conflict (number) do update set about = excluded.about where stocks.retired_at is null
				returning xmax = 0`
			var isNew bool
			err := tx.GetContext(ctx, &isNew, query, about.Number, Kept[stock.Stock]{about})
			switch {
			case errors.Is(err, sql.ErrNoRows):
				taken = append(taken, about.Number)
			case err != nil:
				return fmt.Errorf("keep stock %q: %w", about.Number, err)
			case isNew:
				added++
			default:
				changed++
			}
		}
		return nil
	})
	return added, changed, taken, err
}

// FreeNumber returns a number that no stock has or had, made from what it begins with.
func (s *Store) FreeNumber(ctx context.Context, begins string) (number string, err error) {
	const query = `select $1 || n from generate_series(1, 1000000) n where not exists (select 1 from stocks
			where number = $1 || n) limit 1`
	if err := s.DB.GetContext(ctx, &number, query, begins); err != nil {
		return "", fmt.Errorf("find a free number: %w", err)
	}
	return number, nil
}

// A NumberTakenError says that another stock, maybe a retired one, has the number.
type NumberTakenError struct{ Number string }

func (e *NumberTakenError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *NumberTakenError) Refusal() *refusal.Error {
	return stockNumberTaken.With(e.Number)
}

// AddStock adds a stock. A number that is taken is a *NumberTakenError.
func (s *Store) AddStock(ctx context.Context, about stock.Stock) (id int64, err error) {
	const query = `insert into stocks (number, about) values ($1, $2) returning id`
	return id, taken(s.DB.GetContext(ctx, &id, query, about.Number, Kept[stock.Stock]{about}), about.Number)
}

// ChangeStock changes a stock. Designs keep the one they were made with.
func (s *Store) ChangeStock(ctx context.Context, id int64, about stock.Stock) error {
	const query = `update stocks set number = $2, about = $3 where id = $1 and retired_at is null returning id`
	return taken(get(ctx, s.DB, &id, "stock", id, query, id, about.Number, Kept[stock.Stock]{about}), about.Number)
}

// taken turns the database's word for a number that is there twice into ours.
func taken(err error, number string) error {
	if isTwice(err) {
		return &NumberTakenError{Number: number}
	}
	if err != nil {
		return fmt.Errorf("keep stock %q: %w", number, err)
	}
	return nil
}

// RetireStock takes a stock out of the stockroom.
func (s *Store) RetireStock(ctx context.Context, id int64) error {
	const query = `update stocks set retired_at = now() where id = $1 and retired_at is null returning id`
	return get(ctx, s.DB, &id, "stock", id, query, id)
}
