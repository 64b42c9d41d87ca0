package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"oddspool/core/refusal"

	"github.com/jackc/pgx/v5"
	"github.com/jmoiron/sqlx"
)

// A database that was put back from a backup knows nothing of what was printed since: it would print that again, and
// give its numbers twice. So it knows which database it is (table installation), by what PostgreSQL says of itself and
// no copy has the same. A server that finds that it changed holds all that is open until a person says how to go on; no
// print and no number is taken in the moment before.

// isItself tells, as SQL, whether the database is the one that its servers worked on; one that none worked on yet is.
const isItself = `(select i.system is null or i.system = (select system_identifier::text from pg_control_system())
		and i.database = (select oid::bigint from pg_database where datname = current_database())
		and i.place = 'installation'::regclass::oid::bigint
		and i.timeline = substr(pg_walfile_name(pg_current_wal_lsn()), 1, 8)
		and i.written % 4294967296 = i.xmin::text::bigint
	from installation i)`

// ErrCopied says that the database was put back a moment ago, and is not held yet.
var ErrCopied = refusal.Define("database.copied", refusal.Conflict,
	"The database was put back from a copy just now. Look at the Floor for what is held, then "+
		"do this again.").With()

// mustBeItself refuses with ErrCopied where the database was put back.
func mustBeItself(ctx context.Context, tx pgx.Tx) error {
	var itself bool
	if err := tx.QueryRow(ctx, `select `+isItself).Scan(&itself); err != nil {
		return fmt.Errorf("look which database this is: %w", err)
	}
	if !itself {
		return ErrCopied
	}
	return nil
}

// Seen is what a server last saw of its database, kept outside of it: a disk that is put back has no other mark.
type Seen struct {
	Installation string `json:"installation"`
	System       string `json:"system"`
	Beats        int64  `json:"beats"`
}

// Installation returns the identifier that the database and its copies have.
func (s *Store) Installation(ctx context.Context) (id string, err error) {
	return id, get(ctx, s.DB, &id, "installation", 1, `select id::text from installation`)
}

// Recognise looks whether the database is the one that its servers worked on, and not behind what this one saw last.
// Where it is not, it holds all that is open, and says why; else why is empty.
func (s *Store) Recognise(ctx context.Context, seen Seen) (why string, err error) {
	var now struct {
		ID     string `db:"id"`
		System string `db:"system"`
		Beats  int64  `db:"beats"`
		Known  bool   `db:"known"`
		Itself bool   `db:"itself"`
	}
	const look = `select i.id::text as id, (select system_identifier::text from pg_control_system()) as system, i.beats,
			i.system is not null as known, ` + isItself + ` as itself from installation i`
	if err := s.DB.GetContext(ctx, &now, look); err != nil {
		return "", fmt.Errorf("look which database this is: %w", err)
	}
	behind := seen.Installation == now.ID && seen.System == now.System && now.Beats < seen.Beats
	if now.Known && now.Itself && !behind {
		return "", nil
	}
	return s.claim(ctx, behind, seen.Beats)
}

// Beat counts on what servers remember of the database, once that is certain to outlive its machine.
func (s *Store) Beat(ctx context.Context) (seen Seen, err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `set local synchronous_commit = on`); err != nil {
			return fmt.Errorf("note what was seen of the database: %w", err)
		}
		const query = `update installation i set beats = beats + 1, written = pg_current_xact_id()::text::bigint
				where ` + isItself + ` returning id::text, coalesce(system, ''), beats`
		switch err := tx.QueryRowxContext(ctx, query).Scan(&seen.Installation, &seen.System, &seen.Beats); {
		case errors.Is(err, sql.ErrNoRows):
			return ErrCopied
		case err != nil:
			return fmt.Errorf("note what was seen of the database: %w", err)
		}
		return nil
	})
	return seen, err
}

// Written returns a number that grows with each change of the database's cluster.
func (s *Store) Written(ctx context.Context) (position int64, err error) {
	const query = `select (pg_current_wal_insert_lsn() - '0/0'::pg_lsn)::bigint`
	return position, get(ctx, s.DB, &position, "position", 1, query)
}

// claim makes the database the one that servers work on from now on; what is open in a copy is held. why is empty where
// it is no copy.
func (s *Store) claim(ctx context.Context, behind bool, beats int64) (why string, err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		const differs = `select case
				when i.system is null then ''
				when i.system <> (select system_identifier::text
				from pg_control_system()) then 'it lies on another database server than before'
				when i.database <> (select oid::bigint from pg_database
				where datname = current_database()) then 'it was put back from a dump, into another database'
				when i.place <> 'installation'::regclass::oid::bigint
				or i.written % 4294967296 <> i.xmin::text::bigint then 'its tables were put back from a dump'
				when i.timeline <> substr(pg_walfile_name(pg_current_wal_lsn()), 1,
				8) then 'its database server was put back to an earlier moment, or another took its place'
				when $1 and i.beats < $2 then 'it is older than this server last saw it'
				else '' end from installation i for update`
		if err := tx.GetContext(ctx, &why, differs, behind, beats); err != nil {
			return fmt.Errorf("look which database this is: %w", err)
		}
		if why != "" {
			if err := holdAll(ctx, tx, why); err != nil {
				return err
			}
		}
		const claim = `update installation set system = (select system_identifier::text from pg_control_system()),
				database = (select oid::bigint from pg_database where datname = current_database()),
			place = 'installation'::regclass::oid::bigint, timeline = substr(pg_walfile_name(pg_current_wal_lsn()), 1,
			8), written = pg_current_xact_id()::text::bigint, beats = greatest(beats, $2) + 1,
			copied_at = case when $1 <> '' then now() else copied_at end, copied_why =
			case when $1 <> '' then $1 else copied_why end`
		if _, err := tx.ExecContext(ctx, claim, why, beats); err != nil {
			return fmt.Errorf("claim the database: %w", err)
		}
		return nil
	})
	return why, err
}

// What is told at prints that are held in a copy.
const (
	copiedNote = "The database was put back from a copy. What was printed since is not known here."
	copiedDo   = "Look at the web and at the labels: which was the last of this print to come out? Say it, then go " +
		"on or cancel."
)

// holdAll holds what is open: prints, number series, and runs with labels that are not printed. Numbers that no label
// had go to nobody any more.
func holdAll(ctx context.Context, tx *sqlx.Tx, why string) error {
	const prints = `update prints set state = 'held', pause_by = null, lease = lease + 1, lease_until = null, note = $1,
			note_do = $2 where state in ('printing', 'held')`
	if _, err := tx.ExecContext(ctx, prints, copiedNote, copiedDo); err != nil {
		return fmt.Errorf("hold the prints of a copy: %w", err)
	}
	for _, query := range []string{
		`update series set held_at = now() where retired_at is null`,
		`update runs set doubted_at = now() where closed_at is null and printed < label_count`,
		`update numbers set sent = true where state = 'open' and not sent`,
	} {
		if _, err := tx.ExecContext(ctx, query); err != nil {
			return fmt.Errorf("hold a copy: %w", err)
		}
	}
	const returned = `update numbers set state = 'voided', changed_by = '', changed_at = now(), why = $1
			where state = 'returned'`
	if _, err := tx.ExecContext(ctx, returned, "the database was put back from a copy: it may have been taken since ("+
		why+")"); err != nil {
		return fmt.Errorf("hold the numbers of a copy: %w", err)
	}
	return nil
}

// A Copied says that the database was found to be a copy, and what is held since.
type Copied struct {
	At     time.Time `db:"copied_at"`
	Why    string    `db:"copied_why"`
	Series int       `db:"series"` // that are held
	Runs   int       `db:"runs"`   // that are in doubt
}

// Copied returns what is still held since the database was found to be a copy; nil: nothing.
func (s *Store) Copied(ctx context.Context) (*Copied, error) {
	const query = `select copied_at, copied_why, (select count(*) from series where held_at is not null
			and retired_at is null) as series,
			(select count(*) from runs where doubted_at = copied_at and closed_at is null) as runs
		from installation where copied_at is not null and (copied_at > now() - interval '1 day' or exists (select 1
		from series where held_at is not null and retired_at is null))`
	var is Copied
	err := s.DB.GetContext(ctx, &is, query)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil //nolint:nilnil // it is no copy
	}
	if err != nil {
		return nil, fmt.Errorf("look whether this is a copy: %w", err)
	}
	return &is, nil
}

// ErrRunDoubted says that labels of a run may have been printed that this database knows nothing of.
var ErrRunDoubted = refusal.Define("run.doubted", refusal.Conflict,
	"The database was put back after this run was prepared: its labels may have been "+
		"printed since. Look for them; then say on this page whether they were.").With()

// TrustRun says that no labels of a run were printed but those that the database knows of.
func (s *Store) TrustRun(ctx context.Context, id int64) error {
	return get(ctx, s.DB, &id, "run", id, `update runs set doubted_at = null where id = $1 returning id`, id)
}

// A Skip is numbers of a series that no label gets.
type Skip struct {
	SeriesID  int64     `db:"series_id"`
	Key       string    `db:"key"`
	First     int       `db:"first"` // places, from 0
	Last      int       `db:"last"`
	SkippedBy string    `db:"skipped_by"`
	SkippedAt time.Time `db:"skipped_at"`
	Why       string    `db:"why"`
}

// Skips returns those of a series, the latest first.
func (s *Store) Skips(ctx context.Context, id int64, most int) (skips []Skip, err error) {
	return skips, list(ctx, s.DB, &skips, `select series_id, key, first, last, skipped_by, skipped_at, why from skips
			where series_id = $1 order by id desc limit $2`, id, most)
}

// An Advance puts a series ahead: each of its counts, and those that have not begun, by so many numbers; or its one
// count to a place.
type Advance struct {
	By  int  // numbers that no label gets
	To  *int // the place of the next number, from 0; nil: By counts
	Who string
	Why string
}

// AdvanceSeries puts a series ahead, never back, and lets it count again where it was held. What is skipped is kept.
// Errors are *refusal.Error and *NotFoundError.
func (s *Store) AdvanceSeries(ctx context.Context, id int64, a Advance) error {
	return pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		var least int
		if err := tx.QueryRow(ctx, `update series set held_at = null where id = $1 and retired_at is null
				returning least_next`, id).Scan(&least); err != nil {
			return notFound(err, "number series", id)
		}
		// One that has not counted yet counts under no key.
		if _, err := tx.Exec(ctx, `insert into counters (series_id, key, next) select $1, '', $2
				where not exists (select 1 from counters where series_id = $1)`, id, least); err != nil {
			return fmt.Errorf("begin series %d: %w", id, err)
		}
		rows, err := tx.Query(ctx, `select key, next from counters where series_id = $1 order by key for update`, id)
		if err != nil {
			return fmt.Errorf("lock series %d: %w", id, err)
		}
		counts, err := pgx.CollectRows(rows, pgx.RowToStructByName[Count])
		if err != nil {
			return fmt.Errorf("lock series %d: %w", id, err)
		}
		if a.To != nil {
			if len(counts) != 1 || counts[0].Key != "" {
				return putAheadByCount.With()
			}
			if a.By = *a.To - counts[0].Next; a.By < 0 {
				return notPutBack.With()
			}
		}
		const most = 1 << 30
		for _, c := range counts {
			if c.Next > most-a.By {
				return tooFarAhead.With()
			}
		}
		if a.By == 0 {
			return nil
		}
		const ahead = `with was as (select key, next from counters where series_id = $1),
				kept as (insert into skips (series_id, key, first, last, skipped_by, why) select $1, key, next,
				next + $2 - 1, $3, $4 from was),
				begun as (update series set least_next = case when $5 then least_next else least_next + $2 end
				where id = $1)
			update counters set next = next + $2 where series_id = $1`
		if _, err := tx.Exec(ctx, ahead, id, a.By, a.Who, a.Why, a.To != nil); err != nil {
			return fmt.Errorf("put series %d ahead: %w", id, err)
		}
		return nil
	})
}
