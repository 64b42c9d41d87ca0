package store

import (
	"context"
	"fmt"
	"time"
)

// A DayOrder is what a run of a design is usually made with, under a name: with the newest records of a set.
type DayOrder struct {
	ID       int64     `db:"id"`
	Name     string    `db:"name"`
	DesignID int64     `db:"design_id"`
	Design   string    `db:"design"`
	SetName  string    `db:"set_name"` // empty: a label without records
	Choice   JSON      `db:"choice"`
	Printer  string    `db:"printer"`
	KeptBy   string    `db:"kept_by"`
	KeptAt   time.Time `db:"kept_at"`
}

const dayOrderQuery = `select o.id, o.name, o.design_id, d.name as design, o.set_name, o.choice, coalesce(p.name,
		'') as printer, o.kept_by, o.kept_at
	from day_orders o join designs d on d.id = o.design_id left
	join printers p on p.id = (o.choice->>'printerId')::bigint `

// KeepDayOrder keeps an order of the day; one of that name before it is replaced.
func (s *Store) KeepDayOrder(ctx context.Context, o DayOrder) (id int64, err error) {
	const query = `insert into day_orders (name, design_id, set_name, choice, kept_by) values ($1, $2, $3, $4, $5)
		on conflict (name) do update set design_id = excluded.design_id, set_name = excluded.set_name,
		choice = excluded.choice, kept_by = excluded.kept_by, kept_at = now() returning id`
	if err := s.DB.GetContext(ctx, &id, query, o.Name, o.DesignID, o.SetName, string(o.Choice), o.KeptBy); err != nil {
		return 0, fmt.Errorf("keep the order of the day %q: %w", o.Name, err)
	}
	return id, nil
}

// DayOrders returns those whose designs are in use, by their names.
func (s *Store) DayOrders(ctx context.Context) (orders []DayOrder, err error) {
	return orders, list(ctx, s.DB, &orders, dayOrderQuery+`where d.retired_at is null order by lower(o.name), o.id`)
}

// DayOrder returns one.
func (s *Store) DayOrder(ctx context.Context, id int64) (o DayOrder, err error) {
	return o, get(ctx, s.DB, &o, "order of the day", id, dayOrderQuery+`where o.id = $1`, id)
}

// DeleteDayOrder forgets one.
func (s *Store) DeleteDayOrder(ctx context.Context, id int64) error {
	return get(ctx, s.DB, &id, "order of the day", id, `delete from day_orders where id = $1 returning id`, id)
}
