package store

import (
	"context"
	"fmt"

	"oddspool/core/refusal"
)

// A Typeface is a font file that somebody brought in.
type Typeface struct {
	Hash      string `db:"hash"`
	Family    string `db:"family"`
	Bold      bool   `db:"bold"`
	Italic    bool   `db:"italic"`
	Rights    string `db:"rights"`
	BroughtBy string `db:"brought_by"`
	Data      []byte `db:"data"`
}

// AddTypeface keeps a font file. Labels were printed with it, so that another file of the same style of the same family
// is a *NameTakenError; the same file again is no error.
func (s *Store) AddTypeface(ctx context.Context, t Typeface) error {
	if err := s.room(ctx, "typefaces", "typefaces", mostTypefaces); err != nil {
		return err
	}
	const query = `insert into typefaces (hash, family, bold, italic, rights, data, brought_by) values ($1, $2, $3, $4,
			$5, $6, $7) on conflict (hash) do nothing`
	_, err := s.DB.ExecContext(ctx, query, t.Hash, t.Family, t.Bold, t.Italic, t.Rights, t.Data, t.BroughtBy)
	if isTwice(err) {
		return &TypefaceTakenError{t.Family}
	}
	if err != nil {
		return fmt.Errorf("keep typeface %s: %w", t.Family, err)
	}
	return nil
}

// A TypefaceTakenError says that there is another file of the same style already.
type TypefaceTakenError struct{ Family string }

func (e *TypefaceTakenError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *TypefaceTakenError) Refusal() *refusal.Error {
	return typefaceTaken.With(e.Family)
}

// Typefaces returns the font files of a family; of all, where it is empty, without their bytes.
func (s *Store) Typefaces(ctx context.Context, family string) (faces []Typeface, err error) {
	const (
		all = `select hash, family, bold, italic, rights, brought_by from typefaces order by family, bold, italic`
		one = `select hash, family, bold, italic, rights, brought_by, data from typefaces where family = $1
				order by bold, italic`
	)
	if family == "" {
		return faces, list(ctx, s.DB, &faces, all)
	}
	return faces, list(ctx, s.DB, &faces, one, family)
}
