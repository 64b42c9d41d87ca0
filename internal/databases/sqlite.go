package databases

import (
	"context"
	"errors"
	"iter"
	"net/url"
	"strings"

	"github.com/ncruces/go-sqlite3"

	"oddspool/internal/sources"
)

// sqlite reads a SQLite file where it lies, also while others write it.
type sqlite struct {
	db   *sqlite3.Conn
	path string
}

// uri is how the file is opened, in a mode of SQLite's (ro, rw).
func (s *sqlite) uri(mode string) string {
	return (&url.URL{Scheme: "file", Opaque: (&url.URL{Path: s.path}).EscapedPath(), RawQuery: "mode=" + mode}).String()
}

func openSQLite(path string) (engine, error) {
	s := &sqlite{path: path}
	db, err := sqlite3.OpenContext(context.Background(), s.uri("ro"))
	if err != nil {
		return nil, err
	}
	sources.BoundSQLite(db)
	if err := db.Exec("pragma query_only = on; select count(*) from sqlite_schema"); err != nil {
		return nil, errors.Join(err, db.Close())
	}
	s.db = db
	return s, nil
}

func (s *sqlite) close() error { return s.db.Close() }

func (s *sqlite) place(int) string { return "?" }

func (s *sqlite) value(c Column) string { return quote(SQLite, c.Name) }

func (s *sqlite) tables() string { return sources.SQLiteTables }

func (s *sqlite) columns() string {
	return `select name, type, case when pk > 0 then 'key' else '' end from pragma_table_info(?2) where ?1 = ''`
}

func (s *sqlite) rows(ctx context.Context, text string, args []string) iter.Seq2[[]string, error] {
	return sources.SQLiteRows(ctx, s.db, text, args)
}

func (s *sqlite) explain(err error) string {
	var e *sqlite3.Error
	if !errors.As(err, &e) {
		return ""
	}
	message := strings.TrimPrefix(e.Error(), "sqlite3: ")
	switch e.Code() {
	case sqlite3.NOTADB:
		return "This is no SQLite file, or one that is encrypted."
	case sqlite3.CORRUPT:
		return "The SQLite file is damaged. (" + message + ")"
	case sqlite3.CANTOPEN:
		return "There is no such SQLite file, or it cannot be read."
	case sqlite3.READONLY:
		return "The question would write, and only what reads is sent."
	case sqlite3.INTERRUPT:
		return "The database was not done within " + spoken(readTime) + ". Ask for less."
	case sqlite3.BUSY:
		return "Somebody writes the SQLite file just now. Try again in a moment."
	}
	return "The database says: " + message + "."
}
