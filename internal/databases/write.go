package databases

import (
	"context"
	"database/sql"
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/ncruces/go-sqlite3"
)

// A Note is what is written into one row of a table: the one thing that is ever written.
type Note struct {
	Schema, Table string
	Key           map[string]string // the row: the values of all columns of its primary key
	Values        map[string]string // what columns are to say
}

// Write writes a note into its row, and nothing where there is not just one. Its error is an *Error.
func (d *Database) Write(ctx context.Context, n Note) error {
	ctx, cancel := context.WithTimeout(ctx, writeTime)
	defer cancel()
	columns, err := d.Columns(ctx, Table{Schema: n.Schema, Name: n.Table})
	if err != nil {
		return err
	}
	key := []string{}
	for _, column := range columns {
		if column.Key {
			key = append(key, column.Name)
		}
	}
	if len(key) == 0 {
		return &Error{Text: fmt.Sprintf("The table %s has no primary key, so that no row can be told for sure.",
			n.Table)}
	}
	for _, name := range key {
		if _, known := n.Key[name]; !known {
			return &Error{Text: fmt.Sprintf("The records do not have %s, which is part of the primary key of %s.", name,
				n.Table)}
		}
	}
	sets, wheres, args := []string{}, []string{}, []string{}
	for _, name := range slices.Sorted(maps.Keys(n.Values)) {
		if !slices.ContainsFunc(columns, func(c Column) bool { return c.Name == name }) {
			return &MissingError{Table: n.Table, Column: name}
		}
		args = append(args, n.Values[name])
		sets = append(sets, quote(d.at.Kind, name)+" = "+d.engine.place(len(args)))
	}
	for _, name := range key {
		args = append(args, n.Key[name])
		wheres = append(wheres, quote(d.at.Kind, name)+" = "+d.engine.place(len(args)))
	}
	table := quote(d.at.Kind, n.Table)
	if n.Schema != "" {
		table = quote(d.at.Kind, n.Schema) + "." + table
	}
	rows, err := d.engine.write(ctx, "update "+table+" set "+strings.Join(sets, ", ")+" where "+strings.Join(wheres,
		" and "), args)
	if err != nil {
		return d.explain(ctx, err)
	}
	if rows != 1 {
		return &Error{Text: fmt.Sprintf("The table %s has no row any more whose %s is %s.", n.Table,
			strings.Join(key, ", "), strings.Join(args[len(sets):], ", "))}
	}
	return nil
}

func (p *postgres) write(ctx context.Context, text string, args []string) (rows int64, err error) {
	err = pgx.BeginTxFunc(ctx, p.conn, pgx.TxOptions{AccessMode: pgx.ReadWrite}, func(tx pgx.Tx) error {
		all := []any{pgx.QueryExecModeExec}
		for _, arg := range args {
			all = append(all, arg)
		}
		done, err := tx.Exec(ctx, text, all...)
		rows = done.RowsAffected()
		return err
	})
	return rows, err
}

func (m *mysqlEngine) write(ctx context.Context, text string, args []string) (int64, error) {
	return writeThrough(ctx, m.db, text, args)
}

func (s *sqlServer) write(ctx context.Context, text string, args []string) (int64, error) {
	defer s.line.endWith(ctx)()
	return writeThrough(ctx, s.db, text, args)
}

func writeThrough(ctx context.Context, db *sql.DB, text string, args []string) (rows int64, err error) {
	all := make([]any, len(args))
	for i, arg := range args {
		all[i] = arg
	}
	done, err := db.ExecContext(ctx, text, all...)
	if err != nil {
		return 0, err
	}
	return done.RowsAffected()
}

// write opens the file anew: that which reads cannot.
func (s *sqlite) write(ctx context.Context, text string, args []string) (rows int64, err error) {
	db, err := sqlite3.OpenContext(ctx, s.uri("rw"))
	if err != nil {
		return 0, err
	}
	defer db.Close()
	if err := db.BusyTimeout(connectTime); err != nil {
		return 0, err
	}
	statement, _, err := db.Prepare(text)
	if err != nil {
		return 0, err
	}
	defer statement.Close()
	for i, arg := range args {
		if err := statement.BindText(i+1, arg); err != nil {
			return 0, err
		}
	}
	if err := statement.Exec(); err != nil {
		return 0, err
	}
	return db.Changes(), nil
}
