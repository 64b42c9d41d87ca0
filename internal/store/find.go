package store

import (
	"context"
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

// Find returns where all the words stand together: in records, the latest sets first, and in what designs say.
func (s *Store) Find(ctx context.Context, words string, most int) (hits []Hit, err error) {
	escape := strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`)
	var patterns []string
	for _, word := range strings.Fields(words) {
		patterns = append(patterns, "%"+escape.Replace(word)+"%")
	}
	if patterns == nil {
		return nil, nil
	}
	const query = `(select null::bigint as design_id, r.record_set_id, r.number, s.name, left(array_to_string(r."values", ' · '), 200) as text
			from record_sets s join records r on r.record_set_id = s.id
			where s.retired_at is null and array_to_string(r."values", ' ') ilike all ($1::text[]) order by s.id desc, r.number limit $2)
		union all (select d.id, null, 0, d.name, '' from designs d where d.retired_at is null and
			(select string_agg(piece->>'text', ' ') from jsonb_array_elements(d.document->'elements') e, jsonb_array_elements(coalesce(e->'says', '[]')) piece)
			ilike all ($1::text[]) order by d.updated_at desc limit $2)`
	if err := list(ctx, s.DB, &hits, query, patterns, most); err != nil {
		return nil, fmt.Errorf("find %q: %w", words, err)
	}
	return hits, nil
}
