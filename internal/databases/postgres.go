package databases

import (
	"context"
	"errors"
	"fmt"
	"iter"
	"net"
	"os"
	"strconv"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgtype"
)

// postgres speaks to PostgreSQL, which sends every value as the text it makes of it.
type postgres struct{ conn *pgx.Conn }

var postgresModes = map[TLS]string{Checked: "verify-full", Encrypted: "require", Plain: "disable"}

// mostMessage bounds one message of the database, which may be a row.
const mostMessage = 64 << 20

func openPostgres(ctx context.Context, at Place, password string, dialer *net.Dialer) (engine, error) {
	host, port, err := net.SplitHostPort(at.Address())
	if err != nil {
		return nil, err
	}
	pairs := []string{}
	for _, pair := range [][2]string{{"host", host}, {"port", port}, {"dbname", at.Database}, {"user", at.User},
		{"password", password},
		{"sslmode", postgresModes[at.TLS]}, {"passfile", os.DevNull}, {"application_name", "Odd Spool"}} {
		value := strings.NewReplacer(`\`, `\\`, `'`, `\'`).Replace(pair[1])
		pairs = append(pairs, pair[0]+"='"+value+"'")
	}
	config, err := pgx.ParseConfig(strings.Join(pairs, " "))
	if err != nil {
		return nil, err
	}
	config.Fallbacks = nil
	config.Password = password // an empty one is not looked for elsewhere
	config.DialFunc = dialer.DialContext
	config.RuntimeParams["default_transaction_read_only"] = "on"
	config.RuntimeParams["standard_conforming_strings"] = "on" // statements are looked through so
	config.RuntimeParams["datestyle"] = "ISO"
	config.RuntimeParams["statement_timeout"] = strconv.FormatInt(readTime.Milliseconds(), 10)
	conn, err := pgx.ConnectConfig(ctx, config)
	if err != nil {
		return nil, err
	}
	conn.PgConn().Frontend().SetMaxBodyLen(mostMessage)
	return &postgres{conn}, nil
}

func (p *postgres) close() error {
	ctx, cancel := context.WithTimeout(context.Background(), connectTime)
	defer cancel()
	return p.conn.Close(ctx)
}

func (p *postgres) place(n int) string { return "$" + strconv.Itoa(n) }

func (p *postgres) value(c Column) string { return quote(PostgreSQL, c.Name) }

func (p *postgres) tables() string {
	return `select n.nspname, c.relname, case when c.relkind in ('v', 'm') then 'view' else 'table' end
		from pg_class c join pg_namespace n on n.oid = c.relnamespace
		where c.relkind in ('r', 'p', 'v', 'm', 'f') and n.nspname not in ('pg_catalog', 'information_schema')
		and n.nspname not like 'pg\_%'
			and not c.relispartition and has_schema_privilege(n.oid, 'usage') and has_any_column_privilege(c.oid,
			'select')
		order by 1, 2`
}

func (p *postgres) columns() string {
	return `select a.attname, format_type(a.atttypid, a.atttypmod),
			case when exists (select from pg_index i where i.indrelid = c.oid and i.indisprimary
			and a.attnum = any (i.indkey)) then 'key' else '' end
		from pg_attribute a join pg_class c on c.oid = a.attrelid join pg_namespace n on n.oid = c.relnamespace
		where n.nspname = $1 and c.relname = $2 and a.attnum > 0 and not a.attisdropped and has_column_privilege(c.oid,
		a.attnum, 'select')
		order by a.attnum`
}

func (p *postgres) rows(ctx context.Context, text string, args []string) iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		ctx, cancel := context.WithCancel(ctx)
		defer cancel()
		tx, err := p.conn.BeginTx(ctx, pgx.TxOptions{AccessMode: pgx.ReadOnly})
		if err != nil {
			yield(nil, err)
			return
		}
		defer func() { _ = tx.Rollback(ctx) }()
		all := []any{pgx.QueryExecModeExec, pgx.QueryResultFormats{pgx.TextFormatCode}}
		for _, arg := range args {
			all = append(all, arg)
		}
		rows, err := tx.Query(ctx, text, all...)
		if err != nil {
			yield(nil, err)
			return
		}
		defer rows.Close()
		some := false
		for rows.Next() {
			if !some && !yield(named(rows), nil) {
				cancel()
				return
			}
			some = true
			values := rows.RawValues()
			row := make([]string, len(values))
			for i, value := range values {
				row[i] = string(value)
				if rows.FieldDescriptions()[i].DataTypeOID == pgtype.BoolOID {
					row[i] = map[string]string{"t": "true", "f": "false"}[row[i]]
				}
			}
			if !yield(row, nil) {
				cancel() // or the rest would still come
				return
			}
		}
		if err := rows.Err(); err != nil {
			yield(nil, err)
			return
		}
		if !some {
			yield(named(rows), nil)
		}
	}
}

func named(rows pgx.Rows) (names []string) {
	for _, field := range rows.FieldDescriptions() {
		names = append(names, field.Name)
	}
	return names
}

func (p *postgres) explain(err error) string {
	var e *pgconn.PgError
	if !errors.As(err, &e) {
		return ""
	}
	switch e.Code {
	case "28P01", "28000":
		return "The database does not know this name with this password, or does not let it in from here. (" +
			e.Message + ")"
	case "3D000":
		return "There is no such database on that machine: " + e.Message + "."
	case "25006":
		return "The question would write, and only what reads is sent. (" + e.Message + ")"
	case "57014":
		return "The database was not done within " + spoken(readTime) + ". Ask for less."
	case "42501":
		return "This name may not read that: " + e.Message + "."
	}
	if e.Position > 0 {
		return fmt.Sprintf("The database does not understand the question at letter %d: %s.", e.Position, e.Message)
	}
	return "The database says: " + e.Message + "."
}
