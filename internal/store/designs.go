package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"oddspool/core/design"
	"oddspool/core/refusal"
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
	Tags        Strings   `db:"tags"`
}

// Parse reads what the design is. Its error is that of design.Parse.
func (d *Design) Parse() (*design.Design, error) { return design.Parse(d.Document) }

const designColumns = `d.id, d.name, d.document, d.tags, d.edit, d.record_set_id, d.printer_id, d.updated_by,
		d.updated_at,
	coalesce(r.number, 0) as version, r.document is distinct from d.document as draft`

const designTables = ` from designs d left join lateral (
	select number, document from design_revisions where design_id = d.id order by number desc limit 1) r on true `

// A DesignEntry is a design in a list.
type DesignEntry struct {
	ID          int64     `db:"id"`
	Name        string    `db:"name"`
	Stock       string    `db:"stock"`
	Printer     string    `db:"printer"`
	Edit        int64     `db:"edit"`
	RecordSetID *int64    `db:"record_set_id"`
	UpdatedBy   string    `db:"updated_by"`
	UpdatedAt   time.Time `db:"updated_at"`
	Version     int       `db:"version"`
	Tags        Strings   `db:"tags"`
}

// Designs returns all designs that are not retired, or those that are, the latest changed first. With words to find,
// those that have all of them in their name, tags, stock, printer, fields or what is written on them.
func (s *Store) Designs(ctx context.Context, find string, retired bool) (designs []DesignEntry, err error) {
	const query = `select d.id, d.name, coalesce(d.document #>> '{stock,name}', '') as stock,
			coalesce(d.document #>> '{printer,name}', '') as printer, d.edit, d.record_set_id, d.updated_by,
			d.updated_at, d.tags,
			coalesce((select max(number) from design_revisions where design_id = d.id), 0) as version
		from designs d where (d.retired_at is not null) = $1 and not exists (
			select 1 from unnest($2::text[]) word where strpos(lower(concat_ws(' ', d.name, d.tags::text,
			d.document #>> '{stock,name}', d.document #>> '{stock,material}',
				d.document #>> '{printer,name}', d.document ->> 'fields', jsonb_path_query_array(d.document,
				'$.elements[*].says[*].*')::text)), word) = 0)
		order by d.updated_at desc, d.id desc`
	return designs, list(ctx, s.DB, &designs, query, retired, strings.Fields(strings.ToLower(find)))
}

// A Use is a design that something stands on.
type Use struct {
	ID   int64  `db:"id"`
	Name string `db:"name"`
}

// SymbolUses returns the designs on whose drafts a symbol stands, by name.
func (s *Store) SymbolUses(ctx context.Context, symbol string) (uses []Use, err error) {
	const query = `select id, name from designs where retired_at is null
			and document @> jsonb_build_object('elements', jsonb_build_array(jsonb_build_object('symbol',
			jsonb_build_object('id', $1::text))))
		order by name limit 100`
	return uses, list(ctx, s.DB, &uses, query, symbol)
}

// LabelDesign gives a design another name, which stands in its document too, or other tags; nil: as it is.
func (s *Store) LabelDesign(ctx context.Context, id int64, name *string, tags []string, by string) error {
	const query = `update designs set name = coalesce($2, name), document =
			case when $2 is null then document else jsonb_set(document, '{name}', to_jsonb($2::text)) end,
			tags = coalesce($3, tags), edit = edit + case when $2 is null then 0 else 1 end, updated_by =
			case when $2 is null then updated_by else $4 end
		where id = $1 and retired_at is null returning id`
	return get(ctx, s.DB, &id, "design", id, query, id, name, tags, by)
}

// ReturnDesign brings a retired design back.
func (s *Store) ReturnDesign(ctx context.Context, id int64) error {
	const query = `update designs set retired_at = null where id = $1 and retired_at is not null returning id`
	return get(ctx, s.DB, &id, "retired design", id, query, id)
}

// goneAfter is how long after a page was last heard of it counts as closed.
const goneAfter = "15 seconds"

// AtBench notes that a page has a design open, or that it leaves it, and returns who else has, a name a page.
func (s *Store) AtBench(ctx context.Context, design int64, page, name string, leaves bool) (others []string,
	err error) {
	const (
		tell = `insert into at_bench (design_id, page, name) values ($1, $2, $3) on conflict (design_id,
				page) do update set seen_at = now(), name = $3`
		leave = `delete from at_bench where design_id = $1 and page = $2 and name = $3`
		prune = `delete from at_bench where seen_at < now() - interval '1 minute'`
		rest  = `select name from at_bench where design_id = $1 and page <> $2
				and seen_at > now() - interval '` + goneAfter + `' order by name`
	)
	query := tell
	if leaves {
		query = leave
	}
	if _, err := s.Design(ctx, design); err != nil {
		return nil, err
	}
	if _, err := s.DB.ExecContext(ctx, query, design, page, name); err != nil {
		return nil, fmt.Errorf("note who has design %d open: %w", design, err)
	}
	if _, err := s.DB.ExecContext(ctx, prune); err != nil {
		return nil, fmt.Errorf("forget who was at a design: %w", err)
	}
	return others, list(ctx, s.DB, &others, rest, design, page)
}

// Design returns one design that is not retired.
func (s *Store) Design(ctx context.Context, id int64) (d Design, err error) {
	return designOf(ctx, s.DB, id)
}

func designOf(ctx context.Context, q sqlx.QueryerContext, id int64) (d Design, err error) {
	const query = `select ` + designColumns + designTables + `where d.id = $1 and d.retired_at is null`
	return d, get(ctx, q, &d, "design", id, query, id)
}

// AddDesign adds a design.
func (s *Store) AddDesign(ctx context.Context, name string, document []byte, recordSet, printer *int64,
	by string) (Design, error) {
	var id int64
	const query = `insert into designs (name, document, record_set_id, printer_id, updated_by) values ($1, $2, $3, $4,
			$5) returning id`
	if err := s.DB.GetContext(ctx, &id, query, name, string(document), recordSet, printer, by); err != nil {
		return Design{}, fmt.Errorf("add design %q: %w", name, err)
	}
	return s.Design(ctx, id)
}

// A ConflictError says that somebody else changed a draft in between.
type ConflictError struct{ Theirs Design }

func (e *ConflictError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *ConflictError) Refusal() *refusal.Error {
	return designChanged.With(e.Theirs.UpdatedBy, e.Theirs.UpdatedAt.Local().Format("15:04"))
}

// SaveDesign keeps a draft made from the given edit, and the printer it is for where that changed. A
// draft changed since is a *ConflictError.
func (s *Store) SaveDesign(ctx context.Context, id, edit int64, name string, document []byte, recordSet, printer *int64,
	by string) (Design, error) {
	const query = `update designs set name = $3, document = $4, record_set_id = $5, printer_id = coalesce($7,
			printer_id), edit = edit + 1, updated_by = $6, updated_at = now()
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
	Why      string    `db:"why"`
}

// KeepRevision makes the draft a version, unless the latest is equal already, and returns it.
func (s *Store) KeepRevision(ctx context.Context, designID int64, why, by string) (r Revision, err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `select 1 from designs where id = $1 for update`, designID); err != nil {
			return fmt.Errorf("lock design %d: %w", designID, err)
		}
		d, err := designOf(ctx, tx, designID)
		if err != nil {
			return err
		}
		if d.Draft {
			const query = `insert into design_revisions (design_id, number, document, made_by, why) values ($1, $2, $3,
					$4, $5)`
			if _, err := tx.ExecContext(ctx, query, designID, d.Version+1, string(d.Document), by, why); err != nil {
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
	const query = `select id, number, document, made_by, made_at, why from design_revisions where design_id = $1
			and number = $2`
	return r, get(ctx, q, &r, "version", int64(number), query, designID, number)
}

// Revision returns one version of a design.
func (s *Store) Revision(ctx context.Context, designID int64, number int) (Revision, error) {
	return revision(ctx, s.DB, designID, number)
}

// Revisions returns all versions of a design, the newest first.
func (s *Store) Revisions(ctx context.Context, designID int64) (revisions []Revision, err error) {
	const query = `select id, number, document, made_by, made_at, why from design_revisions where design_id = $1
			order by number desc`
	return revisions, list(ctx, s.DB, &revisions, query, designID)
}
