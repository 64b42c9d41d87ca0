package store

import (
	"context"
	"fmt"
)

// mostSubstances is how many substances of one's own are kept.
const mostSubstances = 20_000

// Substances returns what the plant says of substances itself, each as JSON, by number.
func (s *Store) Substances(ctx context.Context) (about []JSON, err error) {
	return about, list(ctx, s.DB, &about, `select about from substances order by cas`)
}

// PutSubstance keeps what the plant says of a substance, in the place of what it said before.
func (s *Store) PutSubstance(ctx context.Context, cas string, about []byte, by string) error {
	if err := s.room(ctx, "substances", "substances", mostSubstances); err != nil {
		return err
	}
	const query = `insert into substances (cas, about, changed_by) values ($1, $2, $3)
		on conflict (cas) do update set about = excluded.about, changed_by = excluded.changed_by, changed_at = now()`
	if _, err := s.DB.ExecContext(ctx, query, cas, about, by); err != nil {
		return fmt.Errorf("keep substance %s: %w", cas, err)
	}
	return nil
}

// DropSubstance forgets what the plant says of a substance: the book's own words count again.
func (s *Store) DropSubstance(ctx context.Context, cas string) error {
	const query = `delete from substances where cas = $1 returning cas`
	var dropped string
	return get(ctx, s.DB, &dropped, "substance of your own", 0, query, cas)
}
