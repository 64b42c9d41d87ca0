package store

import (
	"bytes"
	"context"
	"fmt"
	"time"

	"oddspool/core/safety/reference"
)

// A KeptPack is a reference pack that is here.
type KeptPack struct {
	Version  string     `db:"version"`
	IssuedOn string     `db:"issued_on"`
	IssuedBy string     `db:"issued_by"`
	Notes    string     `db:"notes"`
	TakenBy  string     `db:"taken_by"`
	TakenAt  time.Time  `db:"taken_at"`
	ChosenAt *time.Time `db:"chosen_at"`
}

// KeepPack keeps a pack. One that is here already under its version, and is another, is a *refusal.Error.
func (s *Store) KeepPack(ctx context.Context, p *reference.Pack, data []byte, by string) error {
	const query = `insert into reference_packs (version, pack, issued_on, issued_by, notes, taken_by) values ($1, $2,
			$3, $4, $5, $6) on conflict (version) do nothing`
	if _, err := s.DB.ExecContext(ctx, query, p.Version, data, p.Date, p.By, p.Notes, by); err != nil {
		return fmt.Errorf("keep reference pack %s: %w", p.Version, err)
	}
	kept, err := s.PackData(ctx, p.Version)
	if err == nil && !bytes.Equal(kept, data) {
		return packTaken.With(p.Version)
	}
	return err
}

// PackData returns a pack as it came. Its error is a *refusal.Error where it is not here.
func (s *Store) PackData(ctx context.Context, version string) ([]byte, error) {
	var found [][]byte
	if err := list(ctx, s.DB, &found, `select pack from reference_packs where version = $1`, version); err != nil {
		return nil, err
	}
	if len(found) == 0 {
		return nil, noPack.With(version)
	}
	return found[0], nil
}

// Packs returns the packs that are here; the one in use first, then those that came last.
func (s *Store) Packs(ctx context.Context) (packs []KeptPack, err error) {
	const query = `select version, issued_on, issued_by, notes, taken_by, taken_at, chosen_at from reference_packs
			order by chosen_at desc nulls last, taken_at desc`
	return packs, list(ctx, s.DB, &packs, query)
}

// PackInUse returns the version of the pack in use; empty: none was chosen yet.
func (s *Store) PackInUse(ctx context.Context) (string, error) {
	var version []string
	const query = `select version from reference_packs where chosen_at is not null order by chosen_at desc limit 1`
	if err := list(ctx, s.DB, &version, query); err != nil || len(version) == 0 {
		return "", err
	}
	return version[0], nil
}

// ChoosePack takes a pack into use. Its error is a *refusal.Error where it is not here.
func (s *Store) ChoosePack(ctx context.Context, version, by string) error {
	var done []string
	if err := list(ctx, s.DB, &done, `update reference_packs set chosen_at = now(), chosen_by = $2 where version = $1
			returning version`, version, by); err != nil {
		return err
	}
	if len(done) == 0 {
		_, err := s.PackData(ctx, version)
		return err
	}
	return nil
}

// A DesignDocument is a design as it is now.
type DesignDocument struct {
	ID       int64  `db:"id"`
	Name     string `db:"name"`
	Document JSON   `db:"document"`
}

// SafetyDesigns returns the designs that show symbols or were laid out as a safety label.
func (s *Store) SafetyDesigns(ctx context.Context) (designs []DesignDocument, err error) {
	const query = `select id, name, document from designs where retired_at is null and (document ? 'laid'
			or document @> '{"elements": [{"kind": "symbol"}]}') order by name`
	return designs, list(ctx, s.DB, &designs, query)
}

// A SignText is a ready message of the plant's own.
type SignText struct {
	ID      int64   `db:"id"`
	Kind    string  `db:"kind"`
	Symbols Strings `db:"symbols"`
	Message string  `db:"message"`
}

// SignTexts returns the plant's own messages, the newest first.
func (s *Store) SignTexts(ctx context.Context) (texts []SignText, err error) {
	return texts, list(ctx, s.DB, &texts, `select id, kind, symbols, message from sign_texts order by id desc`)
}

// mostSignTexts is how many messages of its own a plant keeps.
const mostSignTexts = 2000

// AddSignText keeps a message; one that is there already is changed.
func (s *Store) AddSignText(ctx context.Context, t SignText, by string) (id int64, err error) {
	if err := s.room(ctx, "messages of signs", "sign_texts", mostSignTexts); err != nil {
		return 0, err
	}
	const query = `insert into sign_texts (kind, symbols, message, added_by) values ($1, $2, $3, $4)
		on conflict (message) do update set kind = excluded.kind, symbols = excluded.symbols returning id`
	if err := s.DB.GetContext(ctx, &id, query, t.Kind, []string(t.Symbols), t.Message, by); err != nil {
		return 0, fmt.Errorf("keep a message of signs: %w", err)
	}
	return id, nil
}

// DropSignText forgets a message.
func (s *Store) DropSignText(ctx context.Context, id int64) error {
	return get(ctx, s.DB, &id, "message", id, `delete from sign_texts where id = $1 returning id`, id)
}
