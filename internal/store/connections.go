package store

import (
	"context"
	"errors"
	"fmt"
	"iter"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"oddspool/core/diff"
	"oddspool/core/refusal"
)

// A Connection is a place outside from which records are read. Its password is sealed by package secrets.
type Connection struct {
	ID     int64     `db:"id"`
	Name   string    `db:"name"`
	Kind   string    `db:"kind"`
	Place  JSON      `db:"place"`
	Secret []byte    `db:"secret"` // nil: none
	MadeBy string    `db:"made_by"`
	MadeAt time.Time `db:"made_at"`
}

const connectionColumns = `id, name, kind, place, secret, made_by, made_at`

// ErrConnectionTaken says that a connection of that name is there.
var ErrConnectionTaken = refusal.Define("source.name-taken", refusal.Conflict,
	"Another connection has this name already. Choose another name.").With()

// PutConnection keeps a new connection, or with an id changes one; a nil secret stays as it was.
func (s *Store) PutConnection(ctx context.Context, c Connection) (kept Connection, err error) {
	const (
		add = `insert into connections (name, kind, place, secret, made_by) values ($1, $2, $3, $4, $5)
				returning ` + connectionColumns
		change = `update connections set name = $1, kind = $2, place = $3, secret = coalesce($4, secret) where id = $5
				and closed_at is null returning ` + connectionColumns
	)
	if c.ID == 0 {
		err = s.DB.GetContext(ctx, &kept, add, c.Name, c.Kind, string(c.Place), c.Secret, c.MadeBy)
	} else {
		err = get(ctx, s.DB, &kept, "connection", c.ID, change, c.Name, c.Kind, string(c.Place), c.Secret, c.ID)
	}
	if unique := new(pgconn.PgError); errors.As(err, &unique) && unique.ConstraintName == "connections_name" {
		return kept, ErrConnectionTaken
	}
	if err != nil {
		return kept, fmt.Errorf("put connection %q: %w", c.Name, err)
	}
	return kept, nil
}

// Connections returns all that are not closed, by name.
func (s *Store) Connections(ctx context.Context) (all []Connection, err error) {
	const query = `select ` + connectionColumns + ` from connections where closed_at is null order by lower(name)`
	return all, list(ctx, s.DB, &all, query)
}

// Connection returns one that is not closed.
func (s *Store) Connection(ctx context.Context, id int64) (c Connection, err error) {
	const query = `select ` + connectionColumns + ` from connections where id = $1 and closed_at is null`
	return c, get(ctx, s.DB, &c, "connection", id, query, id)
}

// CloseConnection takes one out of use and forgets its password. Records that were read there stay.
func (s *Store) CloseConnection(ctx context.Context, id int64) error {
	const query = `update connections set closed_at = now(), secret = null where id = $1 and closed_at is null
			returning id`
	return get(ctx, s.DB, &id, "connection", id, query, id)
}

// A Feed is what is read again from a connection.
type Feed struct {
	ID           int64                   `db:"id"`
	ConnectionID int64                   `db:"connection_id"`
	Connection   string                  `db:"connection"` // its name
	Closed       bool                    `db:"closed"`
	Kind         string                  `db:"kind"`
	Request      JSON                    `db:"request"`
	Answers      Kept[map[string]string] `db:"answers"` // to what the request asks, by their names
	Key          Kept[[]string]          `db:"key"`     // fields that tell its records apart
	EveryMinutes int                     `db:"every_minutes"`
	BeforeRun    bool                    `db:"before_run"`
	ReadAt       time.Time               `db:"read_at"`
	Changes      Kept[*diff.Changes]     `db:"changes"` // at the last reading; nil: it was the first
	Trouble      string                  `db:"trouble"` // why it could not be read the last time; empty: it could
	// how it is told what was printed, see package feeds; null: it is not
	WriteBack JSON  `db:"write_back"`
	SetID     int64 `db:"set_id"` // its newest records
}

const feedColumns = `f.id, f.connection_id, c.name as connection, c.kind, c.closed_at is not null as closed, f.request,
		f.answers, f.key, f.every_minutes, f.before_run, f.read_at, f.changes, f.trouble, f.write_back, s.id as set_id
	from feeds f join connections c on c.id = f.connection_id join record_sets s on s.feed_id = f.id
	and s.retired_at is null`

// TakeFeed takes records in that can be read again.
func (s *Store) TakeFeed(ctx context.Context, f Feed, name string, fields []string, count int,
	records iter.Seq2[[]string, error], by string) (set RecordSet, err error) {
	const query = `insert into feeds (connection_id, request, answers, key, every_minutes, before_run) values ($1, $2,
			$3, $4, $5, $6) returning id`
	var id int64
	err = pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) (err error) {
		var feed int64
		if err := tx.QueryRow(ctx, query, f.ConnectionID, string(f.Request), f.Answers, f.Key, f.EveryMinutes,
			f.BeforeRun).Scan(&feed); err != nil {
			return err
		}
		if id, err = takeIn(ctx, tx, name, fields, count, records, by); err != nil {
			return err
		}
		_, err = tx.Exec(ctx, `update record_sets set feed_id = $2 where id = $1`, id, feed)
		return err
	})
	if err != nil {
		return set, fmt.Errorf("take in %q: %w", name, err)
	}
	return s.RecordSet(ctx, id)
}

// FeedOf returns what a record set is read again from, or was, with its newest records; nil: it is not.
func (s *Store) FeedOf(ctx context.Context, set int64) (*Feed, error) {
	feeds := []Feed{}
	const query = `select ` + feedColumns + ` where f.id = (select feed_id from record_sets where id = $1)`
	if err := list(ctx, s.DB, &feeds, query, set); err != nil || len(feeds) == 0 {
		return nil, err
	}
	return &feeds[0], nil
}

// SetFeed changes how a feed is read again.
func (s *Store) SetFeed(ctx context.Context, id int64, key []string, everyMinutes int, beforeRun bool) error {
	const query = `update feeds set key = $2, every_minutes = $3, before_run = $4 where id = $1 returning id`
	return get(ctx, s.DB, &id, "source", id, query, id, Kept[[]string]{key}, everyMinutes, beforeRun)
}

// DueFeeds returns those that are to be read again by now, the longest waiting first, and notes that they were tried:
// of several servers, one has each.
func (s *Store) DueFeeds(ctx context.Context, most int) (feeds []Feed, err error) {
	const query = `with due as (
			select f.id from feeds f join connections c on c.id = f.connection_id and c.closed_at is null
			join record_sets s on s.feed_id = f.id and s.retired_at is null
			where f.every_minutes > 0 and f.tried_at + f.every_minutes * interval '1 minute' <= now()
			order by f.tried_at limit $1 for update of f skip locked),
		tried as (update feeds set tried_at = now() where id in (select id from due) returning id)
		select ` + feedColumns + ` join tried t on t.id = f.id`
	return feeds, list(ctx, s.DB, &feeds, query, most)
}

// FeedSame notes that a feed was read and nothing is different.
func (s *Store) FeedSame(ctx context.Context, id int64, answers map[string]string) error {
	const query = `update feeds set read_at = now(), tried_at = now(), trouble = '', answers = $2,
			changes = '{"new": 0, "gone": 0, "changed": 0}' where id = $1 returning id`
	return get(ctx, s.DB, &id, "source", id, query, id, Kept[map[string]string]{answers})
}

// FeedTrouble notes why a feed could not be read.
func (s *Store) FeedTrouble(ctx context.Context, id int64, trouble string) error {
	const query = `update feeds set tried_at = now(), trouble = $2 where id = $1 returning id`
	return get(ctx, s.DB, &id, "source", id, query, id, trouble)
}

// RenewFeed takes in what was read again, in place of the feed's records of before: those leave the list, designs go
// over to the new ones, and runs keep theirs. Its error is ErrRecordsReplaced where somebody was quicker.
func (s *Store) RenewFeed(ctx context.Context, f *Feed, answers map[string]string, found *diff.Changes, name string,
	fields []string, count int, records iter.Seq2[[]string, error], by string) (set RecordSet, err error) {
	const note = `update feeds set read_at = now(), tried_at = now(), trouble = '', answers = $2, changes = $3
			where id = $1`
	var id int64
	err = pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) (err error) {
		if id, err = replace(ctx, tx, f.SetID, name, fields, count, records, by); err != nil {
			return err
		}
		if _, err = tx.Exec(ctx, `update record_sets set feed_id = $2 where id = $1`, id, f.ID); err != nil {
			return err
		}
		_, err = tx.Exec(ctx, note, f.ID, Kept[map[string]string]{answers}, Kept[*diff.Changes]{found})
		return err
	})
	if err != nil {
		return set, fmt.Errorf("renew record set %d: %w", f.SetID, err)
	}
	return s.RecordSet(ctx, id)
}

// DesignsOf returns the designs, not retired, whose labels take their values from a record set.
func (s *Store) DesignsOf(ctx context.Context, set int64) (designs []Design, err error) {
	const query = `select ` + designColumns + designTables +
		`where d.retired_at is null and d.record_set_id = $1 order by d.name`
	return designs, list(ctx, s.DB, &designs, query, set)
}

// atOnce is how many records are read from the database at once.
const atOnce = 5000

// EachRecord gives all records of a set in order. It may be gone through several times.
func (s *Store) EachRecord(ctx context.Context, set int64) iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		for from := 1; ; from += atOnce {
			records, err := s.Records(ctx, set, from, atOnce)
			if err != nil {
				yield(nil, err)
				return
			}
			for _, record := range records {
				if !yield(record, nil) {
					return
				}
			}
			if len(records) < atOnce {
				return
			}
		}
	}
}
