// Package store keeps everything in PostgreSQL: one file a subject, each statement in sight beside
// the function that runs it.
package store

import (
	"cmp"
	"context"
	"database/sql"
	"database/sql/driver"
	"embed"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net"
	"regexp"
	"strings"
	"syscall"

	"oddspool/core/refusal"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgtype"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

// Connections is how many connections a server has unless told otherwise: no request and no print keeps one while
// it waits for anything else, so few serve many.
const Connections = 20

//go:embed migrations/*.sql
var migrations embed.FS

// A Store is the database. It is safe for concurrent use.
type Store struct {
	DB   *sqlx.DB
	Pool *pgxpool.Pool // the same connections; for copying in bulk and for listening
}

// Open connects to a database with so many connections at most; 0: as many as its address says, or else
// Connections. Call Migrate before anything else is done with it.
func Open(ctx context.Context, address string, connections int) (*Store, error) {
	config, err := pgxpool.ParseConfig(address)
	if err != nil {
		return nil, fmt.Errorf("the address of the database: %w", err)
	}
	if connections > 0 {
		config.MaxConns = int32(connections)
	} else if !strings.Contains(address, "pool_max_conns") {
		config.MaxConns = Connections
	}
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return nil, fmt.Errorf("the address of the database: %w", err)
	}
	if err := pool.Ping(ctx); err != nil {
		pool.Close()
		return nil, fmt.Errorf("the database does not answer: %w", err)
	}
	return &Store{DB: sqlx.NewDb(stdlib.OpenDBFromPool(pool), "pgx"), Pool: pool}, nil
}

// Close lets go of the database.
func (s *Store) Close() error {
	err := s.DB.Close()
	s.Pool.Close()
	return err
}

// A NewerError says that the database was brought up to date by a newer program, which this one would write into as it
// no longer is.
type NewerError struct{ Has, Knows int64 }

func (e *NewerError) Error() string {
	return fmt.Sprintf("the database has version %d of its tables, and this program knows them up to %d. Start the "+
		"newer program, or put a backup of before back into another database", e.Has, e.Knows)
}

// Migrate brings the tables up to date. Several servers may call it at once: one does the work. Its error is a
// *NewerError where a newer program did so.
func (s *Store) Migrate(ctx context.Context) error {
	locker, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return fmt.Errorf("lock for migrations: %w", err)
	}
	folder, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return fmt.Errorf("find migrations: %w", err)
	}
	provider, err := goose.NewProvider(goose.DialectPostgres, s.DB.DB, folder, goose.WithSessionLocker(locker))
	if err != nil {
		return fmt.Errorf("read migrations: %w", err)
	}
	has, knows, err := provider.GetVersions(ctx)
	if err != nil {
		return fmt.Errorf("read which version the database has: %w", err)
	}
	if has > knows {
		return &NewerError{has, knows}
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("migrate: %w", err)
	}
	return nil
}

// InTx runs do in one transaction: all of it happens or nothing.
func (s *Store) InTx(ctx context.Context, do func(tx *sqlx.Tx) error) error {
	tx, err := s.DB.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("begin transaction: %w", err)
	}
	defer tx.Rollback() //nolint:errcheck // after a commit there is nothing to roll back
	if err := do(tx); err != nil {
		return err
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("commit: %w", err)
	}
	return nil
}

// A NotFoundError says that there is no such thing, or no longer.
type NotFoundError struct {
	What string
	ID   int64
}

func (e *NotFoundError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *NotFoundError) Refusal() *refusal.Error {
	return nothingThere.With(e.What, e.ID)
}

// How many of what people bring in are kept.
const (
	mostPictures  = 20_000
	mostTypefaces = 500
	mostParts     = 2_000
)

// A FullError says that no more of something is kept.
type FullError struct {
	What string
	Most int
}

func (e *FullError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *FullError) Refusal() *refusal.Error {
	return full.With(e.Most, e.What)
}

// room says whether there is room for one more row of a table, which is called so.
func (s *Store) room(ctx context.Context, what, table string, most int) error {
	var n int
	if err := s.DB.GetContext(ctx, &n, `select count(*) from `+table); err != nil {
		return fmt.Errorf("count %s: %w", what, err)
	}
	if n >= most {
		return &FullError{what, most}
	}
	return nil
}

// get fills dest with one row, or says that what is not there.
func get(ctx context.Context, q sqlx.QueryerContext, dest any, what string, id int64, query string, args ...any) error {
	err := sqlx.GetContext(ctx, q, dest, query, args...)
	if errors.Is(err, sql.ErrNoRows) {
		return &NotFoundError{What: what, ID: id}
	}
	if err != nil {
		return fmt.Errorf("get %s %d: %w", what, id, err)
	}
	return nil
}

// list fills dest with all rows.
func list(ctx context.Context, q sqlx.QueryerContext, dest any, query string, args ...any) error {
	return sqlx.SelectContext(ctx, q, dest, query, args...)
}

// Strings is an array of text.
type Strings []string

var types = pgtype.NewMap()

// Scan implements sql.Scanner.
func (s *Strings) Scan(source any) error { return types.SQLScanner((*[]string)(s)).Scan(source) }

// copyIn copies rows into a table within a transaction that runs on its own connection.
func copyIn(ctx context.Context, tx pgx.Tx, table string, columns []string, rows pgx.CopyFromSource) error {
	if _, err := tx.CopyFrom(ctx, pgx.Identifier{table}, columns, rows); err != nil {
		return fmt.Errorf("copy into %s: %w", table, err)
	}
	return nil
}

// IsUnreachable tells whether an error says that the database cannot be reached, or serves nobody now: the same may
// succeed later.
func IsUnreachable(err error) bool {
	var refused *pgconn.PgError
	if errors.As(err, &refused) { // classes of SQLSTATE: connections, resources, operators
		class := refused.Code[:min(2, len(refused.Code))]
		return class == "08" || class == "53" && !IsFull(err) || class == "57"
	}
	var connect *pgconn.ConnectError
	var network net.Error
	return errors.As(err, &connect) || errors.As(err, &network) || errors.Is(err, io.ErrUnexpectedEOF) ||
		errors.Is(err, io.EOF) ||
		errors.Is(err, driver.ErrBadConn) || pgconn.SafeToRetry(err)
}

// asWords are tables as people call what is in them.
var asWords = map[string]string{
	"record_sets": "record set", "printers": "printer", "designs": "design", "stocks": "stock",
	"setups": "print set-up", "runs": "run", "prints": "print", "series": "number series",
	"connections": "connection", "pictures": "picture", "parts": "shared part", "rolls": "roll", "accounts": "account",
	"choices": "choice of records", "typefaces": "typeface",
}

// missing is how PostgreSQL tells of a row that another refers to and that is not there.
var missing = regexp.MustCompile(`^Key \([^)]*\)=\(([^)]*)\) is not present in table "([^"]*)"`)

// IsMissing says in words that what a request refers to is not there, or no longer; false: the error is another.
func IsMissing(err error) (text string, is bool) {
	var refused *pgconn.PgError
	if !errors.As(err, &refused) || refused.Code != "23503" { // SQLSTATE foreign_key_violation
		return "", false
	}
	found := missing.FindStringSubmatch(refused.Detail)
	if found == nil {
		return "Something else still refers to this, so it stays.", true
	}
	what := cmp.Or(asWords[found[2]], strings.ReplaceAll(found[2], "_", " "))
	return fmt.Sprintf("There is no %s %s, or no longer. Choose another.", what, found[1]), true
}

// IsFull tells whether an error says that there is no room left on a disk: the database's, or this machine's.
func IsFull(err error) bool {
	var refused *pgconn.PgError
	return errors.As(err, &refused) && refused.Code == "53100" || errors.Is(err, syscall.ENOSPC) ||
		errors.Is(err, syscall.EDQUOT)
}

// IsImpossible tells whether the database, or the way to it, refused a value that it cannot hold: a number out of
// range, a text with a NUL.
func IsImpossible(err error) bool {
	var refused *pgconn.PgError
	if errors.As(err, &refused) {
		return strings.HasPrefix(refused.Code, "22") // SQLSTATE class 22, data exception
	}
	return err != nil && strings.Contains(err.Error(), "unable to encode") // pgx has no type for it
}

// isTwice tells whether the database refused what would be there twice.
func isTwice(err error) bool {
	const uniqueViolation = "23505"
	var refused *pgconn.PgError
	return errors.As(err, &refused) && refused.Code == uniqueViolation
}

// Ints is an array of whole numbers.
type Ints []int

// Scan implements sql.Scanner.
func (i *Ints) Scan(source any) error { return types.SQLScanner((*[]int)(i)).Scan(source) }
