// Package databases reads records from the databases of a plant: every question goes out in a transaction that can only
// read where the database has one, is looked through before it is sent, and is bounded in time and in what it gives.
// Values are the text that the database itself makes of them, so that no zero and no digit is lost. The one thing that
// is written, and only where a person wished it, is a note in columns of a row (Write).
package databases

import (
	"context"
	"errors"
	"fmt"
	"iter"
	"net"
	"slices"
	"strings"

	"oddspool/core/refusal"
	"oddspool/internal/reach"
	"oddspool/internal/sources"
)

// A Kind is a kind of database.
type Kind string

// The kinds. MariaDB is MySQL here: they speak alike.
const (
	PostgreSQL Kind = "postgresql"
	MySQL      Kind = "mysql"
	SQLServer  Kind = "sqlserver"
	SQLite     Kind = "sqlite"
)

// ports are where each kind listens unless told otherwise.
var ports = map[Kind]int{PostgreSQL: 5432, MySQL: 3306, SQLServer: 1433}

// names are the kinds as people call them.
var names = map[Kind]string{PostgreSQL: "PostgreSQL", MySQL: "MySQL or MariaDB", SQLServer: "SQL Server",
	SQLite: "SQLite"}

// TLS says how what goes over the network is kept from others' eyes.
type TLS string

// The ways.
const (
	Checked   TLS = "checked"   // and the server's certificate must be its own
	Encrypted TLS = "encrypted" // whoever answers
	Plain     TLS = "plain"
)

// A Table is one, or a view.
type Table struct {
	Schema string `json:"schema,omitempty"`
	Name   string `json:"name"`
	View   bool   `json:"view,omitempty"`
}

// A Column is one of a table.
type Column struct {
	Name string `json:"name"`
	Type string `json:"type"`
	Key  bool   `json:"key,omitempty"` // of the primary key
}

// A Query is what is read: a table, or what a person asks in SQL.
type Query struct {
	Schema  string   `json:"schema,omitempty"`
	Table   string   `json:"table,omitempty"`
	Columns []string `json:"columns,omitempty"` // none: all
	Text    string   `json:"text,omitempty"`
}

// An engine is how one kind of database is spoken to.
type engine interface {
	// rows gives what a question yields, as text, an empty one for what is null; first the names. Its errors are the
	// driver's.
	rows(ctx context.Context, text string, args []string) iter.Seq2[[]string, error]
	tables() string  // the question that lists schema, name and "view" or "table"
	columns() string // name, type, and "key" where it is one; its parameters are schema and table
	write(ctx context.Context, text string, args []string) (rows int64, err error)
	place(n int) string
	value(c Column) string    // what is asked for in place of a column, so that its text is the database's own
	explain(err error) string // what the database says is wrong, and what to do; empty: it is no word of the database
	close() error
}

// A Database is open for reading. It serves one question after the other.
type Database struct {
	at     Place
	engine engine
}

// Open connects to a database. A nil guard lets it be anywhere. Its error is an *Error or a *reach.ForbiddenError.
func Open(ctx context.Context, at Place, password string, guard *reach.Guard) (*Database, error) {
	if err := at.Check(); err != nil {
		return nil, err
	}
	d := &Database{at: at}
	ctx, cancel := context.WithTimeout(ctx, connectTime)
	defer cancel()
	var err error
	switch at.Kind {
	case PostgreSQL:
		d.engine, err = openPostgres(ctx, at, password, guard.Dialer())
	case MySQL:
		d.engine, err = openMySQL(ctx, at, password, guard.Dialer())
	case SQLServer:
		d.engine, err = openSQLServer(ctx, at, password, guard.Dialer())
	case SQLite:
		d.engine, err = openSQLite(at.Path)
	}
	if err != nil {
		return nil, d.explain(ctx, err)
	}
	return d, nil
}

// Close ends the connection.
func (d *Database) Close() error { return d.engine.close() }

// explain makes a sentence of what went wrong.
func (d *Database) explain(ctx context.Context, err error) error {
	if forbidden := new(reach.ForbiddenError); errors.As(err, &forbidden) {
		return forbidden
	}
	if told := new(Error); errors.As(err, &told) {
		return told
	}
	if told := new(sources.FileError); errors.As(err, &told) {
		return told
	}
	where := d.at.Address()
	if d.at.Kind == SQLite {
		where = d.at.Path
	}
	text := ""
	var lookup *net.DNSError
	if d.engine != nil {
		text = d.engine.explain(err)
	} else {
		text = sayOf(d.at.Kind)(err)
	}
	switch {
	case text != "":
	case errors.Is(ctx.Err(), context.DeadlineExceeded), isTimeout(err):
		text = where + " does not answer in time. See that it runs and can be reached from here, or ask it for less."
	case errors.As(err, &lookup):
		text = fmt.Sprintf("No machine is called %s. See how its name is written.", d.at.Host)
	case strings.Contains(err.Error(), "server refused TLS"),
		strings.Contains(err.Error(), "TLS requested but server does not support"):
		text = fmt.Sprintf("%s has no TLS, so that the connection would not be encrypted. Have it set up there, or "+
			"choose to go over the network as it is.", where)
	case strings.Contains(strings.ToLower(err.Error()), "tls"), strings.Contains(err.Error(), "certificate"),
		strings.Contains(err.Error(), "x509"):
		text = fmt.Sprintf("%s and this server do not agree on how to encrypt: %v. Choose another way over the "+
			"network.", where, err)
	case strings.Contains(err.Error(), "refused"):
		text = fmt.Sprintf("Nothing answers at %s. See that %s runs there, and that the port is right.", where,
			names[d.at.Kind])
	default:
		text = fmt.Sprintf("The connection to %s broke off. Try again in a moment. (%v)", where, err)
	}
	return &Error{Text: text, err: err}
}

func isTimeout(err error) bool {
	var timeout net.Error
	return errors.As(err, &timeout) && timeout.Timeout()
}

// sayOf returns how a kind tells what is wrong, before one is open.
func sayOf(kind Kind) func(error) string {
	switch kind {
	case PostgreSQL:
		return (&postgres{}).explain
	case MySQL:
		return (&mysqlEngine{}).explain
	case SQLServer:
		return (&sqlServer{}).explain
	default:
		return (&sqlite{}).explain
	}
}

// Tables lists the tables and views that may be read, up to Most. Its error is an *Error.
func (d *Database) Tables(ctx context.Context) (tables []Table, err error) {
	for row, err := range d.list(ctx, d.engine.tables()) {
		if err != nil {
			return nil, err
		}
		if tables = append(tables, Table{Schema: row[0], Name: row[1], View: row[2] == "view"}); len(tables) == Most {
			break
		}
	}
	return tables, nil
}

// Columns lists the columns of a table. Its error is an *Error.
func (d *Database) Columns(ctx context.Context, table Table) (columns []Column, err error) {
	for row, err := range d.list(ctx, d.engine.columns(), table.Schema, table.Name) {
		if err != nil {
			return nil, err
		}
		columns = append(columns, Column{Name: row[0], Type: row[1], Key: row[2] == "key"})
	}
	if columns == nil {
		return nil, &Error{Text: fmt.Sprintf("There is no table %s that may be read.", table.Name)}
	}
	return columns, nil
}

// list gives the rows of a question about the database itself, without their names.
func (d *Database) list(ctx context.Context, text string, args ...string) iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		named := false
		for row, err := range d.engine.rows(ctx, text, args) {
			if err != nil {
				yield(nil, d.explain(ctx, err))
				return
			}
			if named && !yield(row, nil) {
				return
			}
			named = true
		}
	}
}

// question returns what a query asks, and with which values. Its error is an *Error.
func (d *Database) question(ctx context.Context, q Query, answers map[string]string) (text string, args []string,
	err error) {
	if q.Table == "" {
		asked, err := parse(d.at.Kind, q.Text)
		if err != nil {
			return "", nil, err
		}
		for _, name := range asked.names {
			if _, said := answers[name]; !said {
				return "", nil, &Error{Text: fmt.Sprintf("The question asks for %s, which is not answered.", name)}
			}
		}
		text, args = asked.with(d.engine.place, answers)
		return text, args, nil
	}
	all, err := d.Columns(ctx, Table{Schema: q.Schema, Name: q.Table})
	if err != nil {
		return "", nil, err
	}
	quoted := func(name string) string { return quote(d.at.Kind, name) }
	chosen, order := []string{}, []string{}
	for _, column := range all {
		if column.Key {
			order = append(order, quoted(q.Table)+"."+quoted(column.Name))
		}
		if len(q.Columns) == 0 {
			chosen = append(chosen, d.engine.value(column))
		}
	}
	for _, name := range q.Columns {
		i := slices.IndexFunc(all, func(c Column) bool { return c.Name == name })
		if i < 0 {
			return "", nil, &MissingError{Table: q.Table, Column: name}
		}
		chosen = append(chosen, d.engine.value(all[i]))
	}
	text = "select " + strings.Join(chosen, ", ") + " from "
	if q.Schema != "" {
		text += quoted(q.Schema) + "."
	}
	text += quoted(q.Table)
	if len(order) > 0 {
		text += " order by " + strings.Join(order, ", ")
	}
	return text, nil, nil
}

// A MissingError says that a table no longer has a column that was chosen.
type MissingError struct{ Table, Column string }

func (e *MissingError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *MissingError) Refusal() *refusal.Error {
	return columnGone.With(e.Table, e.Column)
}

// Read reads all that a query yields, and keeps it as what was read of a file is kept: bounded, and not in memory. Its
// error is an *Error, a *MissingError or a *sources.FileError.
func (d *Database) Read(ctx context.Context, q Query, answers map[string]string) (*sources.Source, error) {
	ctx, cancel := context.WithTimeout(ctx, readTime)
	defer cancel()
	text, args, err := d.question(ctx, q, answers)
	if err != nil {
		return nil, err
	}
	source, err := sources.Take(sources.Kind(names[d.at.Kind]), d.engine.rows(ctx, text, args))
	if err != nil {
		return nil, d.explain(ctx, err)
	}
	return source, nil
}

// First returns the first records that a query yields, and whether there are more: then the rest is broken off, and
// with it the connection. Its error is one of Read's.
func (d *Database) First(ctx context.Context, q Query, answers map[string]string, most int) (fields []string,
	records [][]string, more bool, err error) {
	ctx, cancel := context.WithTimeout(ctx, readTime)
	defer cancel()
	text, args, err := d.question(ctx, q, answers)
	if err != nil {
		return nil, nil, false, err
	}
	some := func(yield func([]string, error) bool) {
		left := most + 1 // and the names
		for row, err := range d.engine.rows(ctx, text, args) {
			if left == 0 {
				more = true
				return
			}
			left--
			if !yield(row, err) || err != nil {
				return
			}
		}
	}
	source, err := sources.Take(sources.Kind(names[d.at.Kind]), some)
	if err != nil {
		return nil, nil, false, d.explain(ctx, err)
	}
	defer source.Close()
	for record, err := range source.Records() {
		if err != nil {
			return nil, nil, false, err
		}
		records = append(records, record)
	}
	return source.Fields, records, more, nil
}
