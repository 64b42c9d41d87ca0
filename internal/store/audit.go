package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"
)

// An AuditEntry is something that somebody did.
type AuditEntry struct {
	ID          int64     `db:"id"`
	DoneAt      time.Time `db:"done_at"`
	Account     string    `db:"account"`
	Operation   string    `db:"operation"` // of the contract
	SubjectKind string    `db:"subject_kind"`
	SubjectID   int64     `db:"subject_id"`
	Name        string    `db:"name"` // of the subject, as it was called then
	RunID       *int64    `db:"run_id"`
}

// AddAudit notes an audit entry as done now.
func (s *Store) AddAudit(ctx context.Context, d AuditEntry) error {
	const query = `insert into audit (account, operation, subject_kind, subject_id, name) values ($1, $2, $3, $4, $5)`
	if _, err := s.DB.ExecContext(ctx, query, d.Account, d.Operation, d.SubjectKind, d.SubjectID, d.Name); err != nil {
		return fmt.Errorf("note that %s did %s: %w", d.Account, d.Operation, err)
	}
	return nil
}

// nameQueries find what things are called, by what entries call their kinds.
var nameQueries = map[string]string{
	"printer":          `select name from printers where id = $1`,
	"set-up":           `select about->>'name' from setups where id = $1`,
	"stock":            `select number from stocks where id = $1`,
	"design":           `select name from designs where id = $1`,
	"record set":       `select name from record_sets where id = $1`,
	"connection":       `select name from connections where id = $1`,
	"number series":    `select name from series where id = $1`,
	"number":           `select number from numbers where id = $1`,
	"order of the day": `select name from day_orders where id = $1`,
	"part":             `select name from parts where id = $1`,
	"run": `select v.document->>'name' from runs r join design_revisions v on v.id = r.design_revision_id
			where r.id = $1`,
}

// NameOf returns what the subject of an audit entry is called now; empty: it has no name, or there is none.
func (s *Store) NameOf(ctx context.Context, kind string, id int64) (name string, err error) {
	query, named := nameQueries[kind]
	if !named || id == 0 {
		return "", nil
	}
	if err = s.DB.GetContext(ctx, &name, query, id); err != nil && !errors.Is(err, sql.ErrNoRows) {
		return "", fmt.Errorf("name of %s %d: %w", kind, id, err)
	}
	return name, nil
}

// Audit returns what was done, the latest first: of a run and its prints, or where run is 0 of all.
func (s *Store) Audit(ctx context.Context, run int64, most int) (entries []AuditEntry, err error) {
	const query = `select d.*, coalesce(p.run_id, case when d.subject_kind = 'run' then d.subject_id end) as run_id
		from audit d left join prints p on d.subject_kind = 'print' and p.id = d.subject_id
		where $1 = 0 or d.subject_kind = 'run' and d.subject_id = $1 or p.run_id = $1
		order by d.id desc limit $2`
	if err := list(ctx, s.DB, &entries, query, run, most); err != nil {
		return nil, fmt.Errorf("list entries: %w", err)
	}
	return entries, nil
}
