package store

import (
	"context"
	"fmt"
	"time"

	"oddspool/core/refusal"
)

// A Part is elements that several designs share.
type Part struct {
	ID        int64                  `db:"id"`
	Name      string                 `db:"name"`
	Version   int                    `db:"version"`
	Elements  Kept[[]map[string]any] `db:"elements"` // as in a design document
	UpdatedBy string                 `db:"updated_by"`
	UpdatedAt time.Time              `db:"updated_at"`
	Uses      Kept[[]PartUse]        `db:"uses"`
}

// A PartUse is a design that has a part, in some version.
type PartUse struct {
	ID      int64  `json:"id"`
	Name    string `json:"name"`
	Version int    `json:"version"`
}

const partQuery = `select p.id, p.name, p.version, p.elements, p.updated_by, p.updated_at, coalesce(
		(select jsonb_agg(jsonb_build_object('id', d.id, 'name', d.name, 'version', u.part -> 'version')
		order by d.name)
		from designs d, jsonb_array_elements(coalesce(d.document -> 'parts', '[]')) u (part)
		where d.retired_at is null and (u.part ->> 'part')::bigint = p.id), '[]') as uses
	from parts p where p.retired_at is null `

// Parts returns all parts that are not retired, by their names.
func (s *Store) Parts(ctx context.Context) (parts []Part, err error) {
	return parts, list(ctx, s.DB, &parts, partQuery+`order by p.name, p.id`)
}

// Part returns one part that is not retired.
func (s *Store) Part(ctx context.Context, id int64) (p Part, err error) {
	return p, get(ctx, s.DB, &p, "part", id, partQuery+`and p.id = $1`, id)
}

// AddPart adds a part, its first version.
func (s *Store) AddPart(ctx context.Context, name string, elements []map[string]any, by string) (Part, error) {
	if err := s.room(ctx, "shared parts", "parts where retired_at is null", mostParts); err != nil {
		return Part{}, err
	}
	var id int64
	if err := s.DB.GetContext(ctx, &id, `insert into parts (name, elements, updated_by) values ($1, $2, $3)
			returning id`, name, Kept[[]map[string]any]{elements}, by); err != nil {
		return Part{}, fmt.Errorf("add part %q: %w", name, err)
	}
	return s.Part(ctx, id)
}

// A PartChangedError says that somebody else made a newer version in between.
type PartChangedError struct{ Theirs Part }

func (e *PartChangedError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *PartChangedError) Refusal() *refusal.Error {
	return partChanged.With(e.Theirs.UpdatedBy, e.Theirs.Version, e.Theirs.Name)
}

// ChangePart makes the next version of a part out of the one that it was made from.
func (s *Store) ChangePart(ctx context.Context, id int64, version int, elements []map[string]any, by string) (Part,
	error) {
	const query = `update parts set elements = $3, version = version + 1, updated_by = $4, updated_at = now()
			where id = $1 and version = $2 and retired_at is null`
	done, err := s.DB.ExecContext(ctx, query, id, version, Kept[[]map[string]any]{elements}, by)
	if err != nil {
		return Part{}, fmt.Errorf("change part %d: %w", id, err)
	}
	p, err := s.Part(ctx, id)
	if err != nil {
		return p, err
	}
	if n, _ := done.RowsAffected(); n == 0 {
		return p, &PartChangedError{p}
	}
	return p, nil
}

// RetirePart takes a part out of the list. Designs keep what they have of it.
func (s *Store) RetirePart(ctx context.Context, id int64) error {
	return get(ctx, s.DB, &id, "part", id, `update parts set retired_at = now() where id = $1 and retired_at is null
			returning id`, id)
}
