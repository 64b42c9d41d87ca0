package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strings"
)

// A Hit is where words stand in what is kept.
type Hit struct {
	Design *int64 `db:"design_id"` // in a text of this design
	Set    *int64 `db:"record_set_id"`
	Record int    `db:"number"` // of the set
	Name   string `db:"name"`   // of the design or the set
	Text   string `db:"text"`   // of the record
}

// patterns are words as parts of what is looked for with ilike.
func patterns(words string) (all []string) {
	for _, word := range strings.Fields(words) {
		all = append(all, pattern(word))
	}
	return all
}

// pattern returns what is like a text that has another in it.
func pattern(part string) string {
	return "%" + strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(part) + "%"
}

// NextRecord returns the number of the next record of a set after another in which all the words stand, from the first
// on again where there is none behind it; 0: they stand in none.
func (s *Store) NextRecord(ctx context.Context, set int64, words string, after int) (number int, err error) {
	const query = `select number from records where record_set_id = $1 and array_to_string("values",
			' ') ilike all ($2::text[])
		order by number <= $3, number limit 1`
	err = s.DB.GetContext(ctx, &number, query, set, patterns(words), after)
	if errors.Is(err, sql.ErrNoRows) {
		return 0, nil
	}
	if err != nil {
		return 0, fmt.Errorf("find %q in records: %w", words, err)
	}
	return number, nil
}

// Find returns where all the words stand together: in records, the latest sets first, and in what designs say.
func (s *Store) Find(ctx context.Context, words string, most int) (hits []Hit, err error) {
	wanted := patterns(words)
	if wanted == nil {
		return nil, nil
	}
	const query = `(select null::bigint as design_id, r.record_set_id, r.number, s.name,
			left(array_to_string(r."values", ' · '), 200) as text
			from record_sets s join records r on r.record_set_id = s.id
			where s.retired_at is null and array_to_string(r."values", ' ') ilike all ($1::text[]) order by s.id desc,
			r.number limit $2)
		union all (select d.id, null, 0, d.name, '' from designs d where d.retired_at is null and
			(select string_agg(piece->>'text', ' ') from jsonb_array_elements(d.document->'elements') e,
			jsonb_array_elements(coalesce(e->'says', '[]')) piece)
			ilike all ($1::text[]) order by d.updated_at desc limit $2)`
	if err := list(ctx, s.DB, &hits, query, wanted, most); err != nil {
		return nil, fmt.Errorf("find %q: %w", words, err)
	}
	return hits, nil
}
