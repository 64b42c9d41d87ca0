package store

import (
	"context"
	"fmt"
)

// A Choice is a choice of records that is kept by name, for record sets of a name: those that come later too.
type Choice struct {
	ID       int64  `db:"id"`
	SetName  string `db:"set_name"`
	Name     string `db:"name"`
	Choosing JSON   `db:"choosing"`
	KeptBy   string `db:"kept_by"`
}

const choiceColumns = `id, set_name, name, choosing, kept_by`

// KeepChoice keeps a choice; one of that name before it is replaced.
func (s *Store) KeepChoice(ctx context.Context, c Choice) (kept Choice, err error) {
	const query = `insert into choices (set_name, name, choosing, kept_by) values ($1, $2, $3, $4)
		on conflict (set_name, name) do update set choosing = excluded.choosing, kept_by = excluded.kept_by,
		kept_at = now() returning ` + choiceColumns
	if err := s.DB.GetContext(ctx, &kept, query, c.SetName, c.Name, string(c.Choosing), c.KeptBy); err != nil {
		return kept, fmt.Errorf("keep choice %q: %w", c.Name, err)
	}
	return kept, nil
}

// Choices returns those for record sets of a name, by their own.
func (s *Store) Choices(ctx context.Context, set string) (choices []Choice, err error) {
	const query = `select ` + choiceColumns + ` from choices where set_name = $1 order by lower(name)`
	return choices, list(ctx, s.DB, &choices, query, set)
}

// DeleteChoice forgets one.
func (s *Store) DeleteChoice(ctx context.Context, id int64) error {
	const query = `delete from choices where id = $1 returning id`
	return get(ctx, s.DB, &id, "choice", id, query, id)
}
