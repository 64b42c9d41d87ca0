package store

import (
	"context"
	"encoding/json"
	"fmt"

	"oddspool/core/stock"
)

// A Printer is a printer of the plant.
type Printer struct {
	ID      int64  `db:"id"`
	Name    string `db:"name"`
	About   JSON   `db:"about"`
	Address string `db:"address"`
	Camera  string `db:"camera"` // address of a camera over what comes out; empty: none
}

// JSON is a document as stored.
type JSON []byte

// Scan implements sql.Scanner.
func (j *JSON) Scan(source any) error {
	switch v := source.(type) {
	case nil:
		*j = nil
	case []byte:
		*j = append((*j)[:0:0], v...)
	case string:
		*j = JSON(v)
	default:
		return fmt.Errorf("JSON from %T", source)
	}
	return nil
}

// Does reads what the printer can do.
func (p *Printer) Does() (stock.Printer, error) {
	var about stock.Printer
	err := json.Unmarshal(p.About, &about)
	return about, err
}

// PutPrinter adds a printer, or changes the one of that name, and returns its id.
func (s *Store) PutPrinter(ctx context.Context, about stock.Printer, address, camera string) (id int64, err error) {
	document, err := json.Marshal(about)
	if err != nil {
		return 0, fmt.Errorf("write printer: %w", err)
	}
	const query = `insert into printers (name, about, address, camera) values ($1, $2, $3, $4)
		on conflict (name) do update set about = excluded.about, address = excluded.address, camera = excluded.camera
		returning id`
	if err := s.DB.GetContext(ctx, &id, query, about.Name, string(document), address, camera); err != nil {
		return 0, fmt.Errorf("put printer %q: %w", about.Name, err)
	}
	return id, nil
}

// Printers returns all printers in the order they were added.
func (s *Store) Printers(ctx context.Context) (printers []Printer, err error) {
	const query = `select id, name, about, address, camera from printers order by id`
	return printers, list(ctx, s.DB, &printers, query)
}

// Printer returns one printer.
func (s *Store) Printer(ctx context.Context, id int64) (p Printer, err error) {
	const query = `select id, name, about, address, camera from printers where id = $1`
	return p, get(ctx, s.DB, &p, "printer", id, query, id)
}
