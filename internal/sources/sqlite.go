package sources

import (
	"bytes"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"iter"
	"slices"
	"strings"
	"sync/atomic"

	"github.com/ncruces/go-sqlite3"
	"github.com/ncruces/go-sqlite3/util/ioutil"
	"github.com/ncruces/go-sqlite3/vfs/readervfs"
)

// SQLite is a file of the database of that name (file format 3), of which one table or view is read.
const SQLite Kind = "SQLite"

// SQLiteTables lists the tables and views of a SQLite database: schema, name and kind.
const SQLiteTables = `select '', name, type from sqlite_schema where type in ('table', 'view')
		and name not like 'sqlite\_%' escape '\' order by name`

// SQLiteRows gives what a question to a SQLite database yields, as the text that it makes of values; first the names.
// Bytes that are no text are written as hexadecimal digits.
func SQLiteRows(ctx context.Context, db *sqlite3.Conn, text string, args []string) iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		defer db.SetInterrupt(db.SetInterrupt(ctx))
		statement, _, err := db.Prepare(text)
		if err != nil {
			yield(nil, err)
			return
		}
		defer statement.Close()
		for i, arg := range args {
			if err := statement.BindText(i+1, arg); err != nil {
				yield(nil, err)
				return
			}
		}
		names := make([]string, statement.ColumnCount())
		for i := range names {
			names[i] = statement.ColumnName(i)
		}
		if !yield(names, nil) {
			return
		}
		for {
			row, err := stepSQLite(statement, len(names))
			if err != nil {
				yield(nil, err)
				return
			}
			if row == nil || !yield(row, nil) {
				return
			}
		}
	}
}

// stepSQLite returns the next row; nil: there is none. The library panics where memory ends.
func stepSQLite(statement *sqlite3.Stmt, columns int) (row []string, err error) {
	defer func() {
		if broken := recover(); broken != nil {
			row, err = nil, fmt.Errorf("sqlite3: %v", broken)
		}
	}()
	if !statement.Step() {
		return nil, statement.Err()
	}
	row = make([]string, columns)
	for i := range row {
		switch statement.ColumnType(i) {
		case sqlite3.NULL:
		case sqlite3.BLOB:
			row[i] = fmt.Sprintf("%X", statement.ColumnRawBlob(i))
		default:
			row[i] = statement.ColumnText(i)
		}
	}
	return row, nil
}

// BoundSQLite bounds what questions to a database may take: a row is no longer than what is read of one, and no other
// file is opened.
func BoundSQLite(db *sqlite3.Conn) {
	const mostHeap = 256 << 20
	db.Limit(sqlite3.LIMIT_ATTACHED, 0)
	db.Limit(sqlite3.LIMIT_LENGTH, mostLine)
	db.HardHeapLimit(mostHeap)
}

// readers counts the files that are open, each of which has a name of its own.
var readers atomic.Int64

// findSQLite opens a database file and finds the table that is read: the one chosen, or the one with the most records.
func (s *Source) findSQLite(head []byte) error {
	s.Kind, s.named = SQLite, true
	if len(head) < 100 || s.size < sizeOfSQLite(head) {
		return &FileError{Text: "The SQLite file ends in the middle. Copy it again, while nobody writes it."}
	}
	name := fmt.Sprintf("records-%d", readers.Add(1))
	readervfs.Create(name, ioutil.NewSizeReaderAt(io.NewSectionReader(s.file, 0, s.size)))
	s.end = func() error { readervfs.Delete(name); return nil }
	db, err := sqlite3.Open("file:" + name + "?vfs=reader&mode=ro")
	if err != nil {
		return brokenSQLite(err)
	}
	s.end = func() error { err := db.Close(); readervfs.Delete(name); return err }
	BoundSQLite(db)
	views := map[string]bool{}
	most := -1
	for row, err := range SQLiteRows(context.Background(), db, SQLiteTables, nil) {
		if err != nil {
			return brokenSQLite(err)
		}
		if most < 0 { // the names
			most = 0
			continue
		}
		s.Tables = append(s.Tables, row[1])
		views[row[1]] = row[2] == "view"
	}
	if len(s.Tables) == 0 {
		return &FileError{Text: "The SQLite file has no tables."}
	}
	if s.Settings.Table == "" {
		counted := map[string]int{}
		for _, table := range s.Tables {
			if views[table] { // it may compute without an end: one is read when it is chosen
				counted[table] = -1
				continue
			}
			counted[table] = records(db, table)
		}
		slices.SortStableFunc(s.Tables, func(a, b string) int { return counted[b] - counted[a] })
		s.Settings.Table = s.Tables[0]
	}
	if !slices.Contains(s.Tables, s.Settings.Table) {
		return &FileError{Text: fmt.Sprintf("The SQLite file has no table %q; it has %s.", s.Settings.Table,
			strings.Join(s.Tables[:min(len(s.Tables), 10)], ", "))}
	}
	s.rows = func() (rowReader, error) {
		next, stop := iter.Pull2(SQLiteRows(context.Background(), db, "select * from "+quotedSQLite(s.Settings.Table),
			nil))
		closeBefore := s.end
		s.end = func() error { stop(); return closeBefore() }
		return &given{pull: func() ([]string, error, bool) {
			row, err, some := next()
			if err != nil {
				err = brokenSQLite(err)
			}
			return row, err, some
		}}, nil
	}
	return nil
}

// sizeOfSQLite returns how long a file is by its head (file format 3, 1.3): pages of a size, told where the change
// counter stands twice.
func sizeOfSQLite(head []byte) int64 {
	page := int64(binary.BigEndian.Uint16(head[16:]))
	if page == 1 {
		page = 1 << 16
	}
	if !bytes.Equal(head[24:28], head[92:96]) {
		return page
	}
	return page * int64(binary.BigEndian.Uint32(head[28:]))
}

func quotedSQLite(name string) string { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }

// records counts those of a table; one that cannot be read has none.
func records(db *sqlite3.Conn, table string) (count int) {
	statement, _, err := db.Prepare("select count(*) from " + quotedSQLite(table))
	if err != nil {
		return 0
	}
	defer statement.Close()
	if statement.Step() {
		count = statement.ColumnInt(0)
	}
	return count
}

// brokenSQLite says what is wrong with a file.
func brokenSQLite(err error) error {
	if errors.Is(err, sqlite3.NOTADB) {
		return &FileError{Text: "This SQLite file is encrypted or damaged."}
	}
	return &FileError{Text: fmt.Sprintf("The SQLite file cannot be read: %s. It may be damaged.",
		strings.TrimPrefix(err.Error(), "sqlite3: "))}
}
