package databases

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"iter"
	"net"
	"net/url"
	"strconv"
	"strings"
	"time"

	mssql "github.com/microsoft/go-mssqldb"
)

// sqlServer speaks to SQL Server, which sends values in their own forms: each is written here as the server itself
// writes it. It has no transactions that only read, so each is taken back.
type sqlServer struct {
	db   *sql.DB
	line *line
}

// A line is a connection that ends when nobody waits any more: the driver itself waits for a server that says nothing.
type line struct {
	dialer *net.Dialer
	conn   net.Conn
}

// DialContext implements mssql.Dialer.
func (l *line) DialContext(ctx context.Context, network, address string) (conn net.Conn, err error) {
	l.conn, err = l.dialer.DialContext(ctx, network, address)
	if deadline, some := ctx.Deadline(); some && err == nil {
		err = l.conn.SetDeadline(deadline)
	}
	return l.conn, err
}

// endWith has the connection end a moment after ctx, in which the driver may end it itself.
func (l *line) endWith(ctx context.Context) (stop func() bool) {
	return context.AfterFunc(ctx, func() { _ = l.conn.SetDeadline(time.Now().Add(time.Second)) })
}

func openSQLServer(ctx context.Context, at Place, password string, dialer *net.Dialer) (engine, error) {
	options := url.Values{"database": {at.Database}, "app name": {"Odd Spool"}, "ApplicationIntent": {"ReadOnly"},
		"dial timeout": {strconv.Itoa(int(connectTime.Seconds()))}}
	switch at.TLS {
	case Plain:
		options.Set("encrypt", "disable")
	case Encrypted:
		options.Set("encrypt", "true")
		options.Set("TrustServerCertificate", "true")
	default:
		options.Set("encrypt", "true")
	}
	address := url.URL{Scheme: "sqlserver", User: url.UserPassword(at.User, password), Host: at.Address(),
		RawQuery: options.Encode()}
	connector, err := mssql.NewConnector(address.String())
	if err != nil {
		return nil, err
	}
	s := &sqlServer{line: &line{dialer: dialer}}
	connector.Dialer = s.line
	s.db = sql.OpenDB(connector)
	s.db.SetMaxOpenConns(1)
	if err := s.db.PingContext(ctx); err != nil {
		return nil, errors.Join(err, s.db.Close())
	}
	return s, s.line.conn.SetDeadline(time.Time{})
}

func (s *sqlServer) close() error { return s.db.Close() }

func (s *sqlServer) place(n int) string { return "@p" + strconv.Itoa(n) }

func (s *sqlServer) value(c Column) string { return quote(SQLServer, c.Name) }

func (s *sqlServer) tables() string {
	return `select TABLE_SCHEMA, TABLE_NAME, case TABLE_TYPE when 'VIEW' then 'view' else 'table' end
			from INFORMATION_SCHEMA.TABLES order by 1, 2`
}

func (s *sqlServer) columns() string {
	return `select c.COLUMN_NAME, c.DATA_TYPE, case when k.COLUMN_NAME is null then '' else 'key' end
		from INFORMATION_SCHEMA.COLUMNS c left join (
			select u.TABLE_SCHEMA, u.TABLE_NAME, u.COLUMN_NAME from INFORMATION_SCHEMA.TABLE_CONSTRAINTS t
			join INFORMATION_SCHEMA.KEY_COLUMN_USAGE u on u.CONSTRAINT_SCHEMA = t.CONSTRAINT_SCHEMA
			and u.CONSTRAINT_NAME = t.CONSTRAINT_NAME
			where t.CONSTRAINT_TYPE = 'PRIMARY KEY'
		) k on k.TABLE_SCHEMA = c.TABLE_SCHEMA and k.TABLE_NAME = c.TABLE_NAME and k.COLUMN_NAME = c.COLUMN_NAME
		where c.TABLE_SCHEMA = @p1 and c.TABLE_NAME = @p2 order by c.ORDINAL_POSITION`
}

func (s *sqlServer) rows(ctx context.Context, text string, args []string) iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		defer s.line.endWith(ctx)()
		through(ctx, s.db, nil, text, args, serverText)(yield)
	}
}

// times are how the types of SQL Server that have a time are written: as style 121 of its CONVERT does, without zeros
// that were never there.
var times = map[string]string{
	"DATE": time.DateOnly, "TIME": "15:04:05.9999999", "DATETIMEOFFSET": "2006-01-02 15:04:05.9999999 -07:00",
	"DATETIME": "2006-01-02 15:04:05.000", "SMALLDATETIME": "2006-01-02 15:04:05",
	"DATETIME2": "2006-01-02 15:04:05.9999999",
}

// serverText writes a value as SQL Server does; the driver gives decimals and money as their digits already.
func serverText(value any, kind string) string {
	switch v := value.(type) {
	case nil:
		return ""
	case string:
		return v
	case int64:
		return strconv.FormatInt(v, 10)
	case bool: // a bit
		if v {
			return "1"
		}
		return "0"
	case float64:
		size := 64
		if kind == "REAL" {
			size = 32
		}
		return strconv.FormatFloat(v, 'g', -1, size)
	case time.Time:
		if layout := times[kind]; layout != "" {
			return v.Format(layout)
		}
		return v.Format(time.RFC3339Nano)
	case []byte:
		switch kind {
		case "DECIMAL", "NUMERIC", "MONEY", "SMALLMONEY":
			return string(v)
		case "UNIQUEIDENTIFIER":
			var id mssql.UniqueIdentifier
			if err := id.Scan(v); err == nil {
				return id.String()
			}
		}
		return fmt.Sprintf("%X", v)
	}
	return fmt.Sprint(value)
}

func (s *sqlServer) explain(err error) string {
	var e mssql.Error
	if !errors.As(err, &e) {
		return ""
	}
	switch e.Number {
	case 18456, 18452:
		return "The database does not know this name with this password, or does not let it in from here. (" +
			e.Message + ")"
	case 4060:
		return "There is no such database on that machine, or this name may not use it. (" + e.Message + ")"
	case 229, 230, 916:
		return "This name may not read that: " + e.Message
	case 102, 105, 156, 319:
		return "The database does not understand the question in line " + strconv.Itoa(int(e.LineNo)) + ": " + e.Message
	}
	return "The database says: " + strings.TrimSuffix(e.Message, ".") + "."
}
