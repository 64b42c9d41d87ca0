package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"oddspool/core/picture"
)

// A Picture is one that was brought in.
type Picture struct {
	Hash   string `db:"hash"`
	Name   string `db:"name"`
	Width  int    `db:"width"`
	Height int    `db:"height"`
}

// AddPicture keeps a picture; one that is there already stays as it is.
func (s *Store) AddPicture(ctx context.Context, p Picture, data []byte, by string) error {
	if err := s.room(ctx, "pictures", "pictures", mostPictures); err != nil {
		return err
	}
	const query = `insert into pictures (hash, data, name, width, height, added_by) values ($1, $2, $3, $4, $5, $6)
			on conflict (hash) do nothing`
	if _, err := s.DB.ExecContext(ctx, query, p.Hash, data, p.Name, p.Width, p.Height, by); err != nil {
		return fmt.Errorf("keep picture %q: %w", p.Name, err)
	}
	return nil
}

// PictureData returns a picture's bytes. Its error is a *picture.AbsentError where there is none.
func (s *Store) PictureData(ctx context.Context, hash string) (data []byte, err error) {
	err = s.DB.GetContext(ctx, &data, `select data from pictures where hash = $1`, hash)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, &picture.AbsentError{Hash: hash}
	}
	if err != nil {
		return nil, fmt.Errorf("read picture %s: %w", hash, err)
	}
	return data, nil
}
