package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"
)

// A Design is a label design with its draft.
type Design struct {
	ID          int64     `db:"id"`
	Name        string    `db:"name"`
	Document    JSON      `db:"document"`
	Edit        int64     `db:"edit"` // counts the changes of the draft
	RecordSetID *int64    `db:"record_set_id"`
	PrinterID   *int64    `db:"printer_id"`
	UpdatedBy   string    `db:"updated_by"`
	UpdatedAt   time.Time `db:"updated_at"`
	Version     int       `db:"version"` // the latest revision; 0: none yet
	Draft       bool      `db:"draft"`   // the draft differs from it
}

const designColumns = `d.id, d.name, d.document, d.edit, d.record_set_id, d.printer_id, d.updated_by, d.updated_at,
	coalesce(r.number, 0) as version, r.document is distinct from d.document as draft`

const designTables = ` from designs d left join lateral (
	select number, document from design_revisions where design_id = d.id order by number desc limit 1) r on true `

// Designs returns all designs that are not retired, the latest changed first.
func (s *Store) Designs(ctx context.Context) (designs []Design, err error) {
	const query = `select ` + designColumns + designTables + `where d.retired_at is null order by d.updated_at desc, d.id desc`
	return designs, list(ctx, s.DB, &designs, query)
}

// Design returns one design that is not retired.
func (s *Store) Design(ctx context.Context, id int64) (d Design, err error) {
	return design(ctx, s.DB, id)
}

func design(ctx context.Context, q sqlx.QueryerContext, id int64) (d Design, err error) {
	const query = `select ` + designColumns + designTables + `where d.id = $1 and d.retired_at is null`
	return d, get(ctx, q, &d, "design", id, query, id)
}

// AddDesign adds a design.
func (s *Store) AddDesign(ctx context.Context, name string, document []byte, recordSet, printer *int64, by string) (Design, error) {
	var id int64
	const query = `insert into designs (name, document, record_set_id, printer_id, updated_by) values ($1, $2, $3, $4, $5) returning id`
	if err := s.DB.GetContext(ctx, &id, query, name, string(document), recordSet, printer, by); err != nil {
		return Design{}, fmt.Errorf("add design %q: %w", name, err)
	}
	return s.Design(ctx, id)
}

// A ConflictError says that somebody else changed a draft in between.
type ConflictError struct{ Theirs Design }

func (e *ConflictError) Error() string {
	return fmt.Sprintf("%s changed this design at %s. Nothing of yours is lost: load that draft, or keep yours as a copy.",
		e.Theirs.UpdatedBy, e.Theirs.UpdatedAt.Local().Format("15:04"))
}

// SaveDesign keeps a draft made from the given edit, and the printer it is for where that changed. A
// draft changed since is a *ConflictError.
func (s *Store) SaveDesign(ctx context.Context, id, edit int64, name string, document []byte, recordSet, printer *int64, by string) (Design, error) {
	const query = `update designs set name = $3, document = $4, record_set_id = $5, printer_id = coalesce($7, printer_id), edit = edit + 1, updated_by = $6, updated_at = now()
		where id = $1 and edit = $2 and retired_at is null returning id`
	err := s.DB.GetContext(ctx, &id, query, id, edit, name, string(document), recordSet, by, printer)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return Design{}, fmt.Errorf("save design %d: %w", id, err)
	}
	d, getErr := s.Design(ctx, id)
	if getErr == nil && err != nil {
		return d, &ConflictError{Theirs: d}
	}
	return d, getErr
}

// RetireDesign takes a design out of the list. Its versions and runs stay.
func (s *Store) RetireDesign(ctx context.Context, id int64) error {
	const query = `update designs set retired_at = now() where id = $1 and retired_at is null returning id`
	return get(ctx, s.DB, &id, "design", id, query, id)
}

// A Revision is a version of a design that was kept.
type Revision struct {
	ID       int64     `db:"id"`
	Number   int       `db:"number"`
	Document JSON      `db:"document"`
	MadeBy   string    `db:"made_by"`
	MadeAt   time.Time `db:"made_at"`
}

// KeepRevision makes the draft a version, unless the latest is equal already, and returns it.
func (s *Store) KeepRevision(ctx context.Context, designID int64, by string) (r Revision, err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `select 1 from designs where id = $1 for update`, designID); err != nil {
			return fmt.Errorf("lock design %d: %w", designID, err)
		}
		d, err := design(ctx, tx, designID)
		if err != nil {
			return err
		}
		if d.Draft {
			const query = `insert into design_revisions (design_id, number, document, made_by) values ($1, $2, $3, $4)`
			if _, err := tx.ExecContext(ctx, query, designID, d.Version+1, string(d.Document), by); err != nil {
				return fmt.Errorf("keep version %d of design %d: %w", d.Version+1, designID, err)
			}
			d.Version++
		}
		r, err = revision(ctx, tx, designID, d.Version)
		return err
	})
	return r, err
}

func revision(ctx context.Context, q sqlx.QueryerContext, designID int64, number int) (r Revision, err error) {
	const query = `select id, number, document, made_by, made_at from design_revisions where design_id = $1 and number = $2`
	return r, get(ctx, q, &r, "version", int64(number), query, designID, number)
}

// Revision returns one version of a design.
func (s *Store) Revision(ctx context.Context, designID int64, number int) (Revision, error) {
	return revision(ctx, s.DB, designID, number)
}

// Revisions returns all versions of a design, the newest first.
func (s *Store) Revisions(ctx context.Context, designID int64) (revisions []Revision, err error) {
	const query = `select id, number, document, made_by, made_at from design_revisions where design_id = $1 order by number desc`
	return revisions, list(ctx, s.DB, &revisions, query, designID)
}
