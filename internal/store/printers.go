package store

import (
	"context"
	"fmt"

	"github.com/jmoiron/sqlx"

	"oddspool/core/refusal"
	"oddspool/core/stock"
)

// A Printer is a printer of the plant.
type Printer struct {
	ID      int64               `db:"id"`
	Name    string              `db:"name"`
	About   Kept[stock.Printer] `db:"about"`
	Address string              `db:"address"`
	Camera  string              `db:"camera"`  // address of a camera over what comes out; empty: none
	Encoder string              `db:"encoder"` // address of the reader that writes tags; empty: none

	// what a person says is loaded in it; nil: nobody says anything else than the printer
	Said *Kept[stock.Said] `db:"loaded_said"`
}

// Loaded returns what is loaded by what the printer says and, where that counts, a person.
func (p *Printer) Loaded(says stock.Loaded) stock.Loaded {
	if p.Said == nil {
		return says
	}
	is, _ := says.As(&p.Said.V)
	return is
}

// SayLoaded keeps what a person says is loaded in a printer; nil: the printer is believed again.
func (s *Store) SayLoaded(ctx context.Context, id int64, said *stock.Said) error {
	var kept *Kept[stock.Said]
	if said != nil {
		kept = &Kept[stock.Said]{*said}
	}
	return get(ctx, s.DB, &id, "printer", id, `update printers set loaded_said = $2 where id = $1 and retired_at is null
			returning id`, id, kept)
}

// PutPrinter adds a printer, or changes the one of that name, and returns its id.
func (s *Store) PutPrinter(ctx context.Context, about stock.Printer, address, camera string) (id int64, err error) {
	const query = `insert into printers (name, about, address, camera) values ($1, $2, $3, $4)
		on conflict (name) do update set about = excluded.about, address = excluded.address, camera = excluded.camera,
		retired_at = null
		returning id`
	if err := s.DB.GetContext(ctx, &id, query, about.Name, Kept[stock.Printer]{about}, address, camera); err != nil {
		return 0, fmt.Errorf("put printer %q: %w", about.Name, err)
	}
	return id, nil
}

// Printers returns all printers that are not retired, in the order they were added.
func (s *Store) Printers(ctx context.Context) (printers []Printer, err error) {
	const query = `select id, name, about, address, camera, encoder, loaded_said from printers where retired_at is null
			order by id`
	return printers, list(ctx, s.DB, &printers, query)
}

// Printer returns one printer.
func (s *Store) Printer(ctx context.Context, id int64) (p Printer, err error) {
	const query = `select id, name, about, address, camera, encoder, loaded_said from printers where id = $1`
	return p, get(ctx, s.DB, &p, "printer", id, query, id)
}

// A NameTakenError says that another printer has the name.
type NameTakenError struct{ Name string }

func (e *NameTakenError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *NameTakenError) Refusal() *refusal.Error {
	return printerNameTaken.With(e.Name)
}

// AddPrinter adds a printer. A name that is taken is a *NameTakenError.
func (s *Store) AddPrinter(ctx context.Context, about stock.Printer, address, camera string) (id int64, err error) {
	const query = `insert into printers (name, about, address, camera) values ($1, $2, $3, $4) returning id`
	return id, nameTaken(s.DB.GetContext(ctx, &id, query, about.Name, Kept[stock.Printer]{about}, address, camera),
		about.Name)
}

// ChangePrinter changes a printer. Designs keep what they were made with. Its address cannot change while something
// is being printed on it: that is ErrPrinterBusy.
func (s *Store) ChangePrinter(ctx context.Context, id int64, about stock.Printer, address, camera string) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		var old string
		if err := get(ctx, tx, &old, "printer", id, `select address from printers where id = $1
				and retired_at is null for update`, id); err != nil {
			return err
		}
		if old != address {
			if err := idle(ctx, tx, id); err != nil {
				return err
			}
		}
		const query = `update printers set name = $2, about = $3, address = $4, camera = $5 where id = $1 returning id`
		return nameTaken(get(ctx, tx, &id, "printer", id, query, id, about.Name, Kept[stock.Printer]{about}, address,
			camera), about.Name)
	})
}

func nameTaken(err error, name string) error {
	if isTwice(err) {
		return &NameTakenError{name}
	}
	return err
}

// ErrPrinterBusy says that a printer cannot be retired, or get another address, now.
var ErrPrinterBusy = refusal.Define("printer.busy", refusal.Conflict,
	"Labels are being printed on this printer. Wait until they are done, or cancel them.").With()

// idle is ErrPrinterBusy when something is being printed on a printer, whose row the caller has locked.
func idle(ctx context.Context, tx *sqlx.Tx, id int64) error {
	var busy bool
	const open = `select exists (select 1 from prints where printer_id = $1 and state in ('printing', 'held'))`
	if err := tx.GetContext(ctx, &busy, open, id); err != nil {
		return fmt.Errorf("look at printer %d: %w", id, err)
	}
	if busy {
		return ErrPrinterBusy
	}
	return nil
}

// RetirePrinter takes a printer off the floor, and frees its name. What is being printed on it is
// ErrPrinterBusy.
func (s *Store) RetirePrinter(ctx context.Context, id int64) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		const query = `update printers set retired_at = now(), name = name || ' (retired, ' || id || ')' where id = $1
				and retired_at is null returning id`
		if err := get(ctx, tx, &id, "printer", id, query, id); err != nil {
			return err
		}
		return idle(ctx, tx, id)
	})
}
