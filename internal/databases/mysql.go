package databases

import (
	"context"
	"crypto/tls"
	"database/sql"
	"errors"
	"fmt"
	"iter"
	"math"
	"net"
	"strconv"
	"strings"
	"time"

	"github.com/go-sql-driver/mysql"
)

// mysqlEngine speaks to MySQL and MariaDB, which send every value as text.
type mysqlEngine struct{ db *sql.DB }

func openMySQL(ctx context.Context, at Place, password string, dialer *net.Dialer) (engine, error) {
	config := mysql.NewConfig()
	config.Net, config.Addr, config.DBName, config.User, config.Passwd = "tcp", at.Address(), at.Database, at.User,
		password
	config.DialFunc = dialer.DialContext
	config.InterpolateParams = true // else parameters would have values come in another form than text
	config.ClientFoundRows = true   // a row that says so already is written too
	config.Logger = silent{}
	// statements are looked through with these
	config.Params = map[string]string{"sql_mode": "'STRICT_TRANS_TABLES'", "autocommit": "1"}
	switch at.TLS {
	case Checked:
		config.TLS = &tls.Config{ServerName: at.Host}
	case Encrypted:
		config.TLS = &tls.Config{InsecureSkipVerify: true} // as was chosen: encrypted, whoever answers
	}
	connector, err := mysql.NewConnector(config)
	if err != nil {
		return nil, err
	}
	db := sql.OpenDB(connector)
	db.SetMaxOpenConns(1)
	if err := db.PingContext(ctx); err != nil {
		return nil, errors.Join(err, db.Close())
	}
	// MariaDB and MySQL call their own time limits by different names; what one does not know is not set.
	_, _ = db.ExecContext(ctx, fmt.Sprintf("set session max_statement_time = %d", int(readTime.Seconds())))
	_, _ = db.ExecContext(ctx, fmt.Sprintf("set session max_execution_time = %d", readTime.Milliseconds()))
	return &mysqlEngine{db}, nil
}

// silent is a log that says nothing: what goes wrong comes back as an error too.
type silent struct{}

func (silent) Print(...any) {}

func (m *mysqlEngine) close() error { return m.db.Close() }

func (m *mysqlEngine) place(int) string { return "?" }

// value has the database write numbers that the driver would write otherwise: those with zeros before them, and binary
// floats.
func (m *mysqlEngine) value(c Column) string {
	name := quote(MySQL, c.Name)
	for _, kind := range []string{"zerofill", "float", "double", "year"} {
		if strings.Contains(c.Type, kind) {
			return "cast(" + name + " as char) as " + name
		}
	}
	return name
}

func (m *mysqlEngine) tables() string {
	return `select '', table_name, case when table_type like '%VIEW' then 'view' else 'table' end
		from information_schema.tables where table_schema = database() order by table_name`
}

func (m *mysqlEngine) columns() string {
	return `select column_name, column_type, case when column_key = 'PRI' then 'key' else '' end
		from information_schema.columns where table_schema = if(? = '', database(), '') and table_name = ?
		order by ordinal_position`
}

func (m *mysqlEngine) rows(ctx context.Context, text string, args []string) iter.Seq2[[]string, error] {
	return through(ctx, m.db, &sql.TxOptions{ReadOnly: true}, text, args, mysqlText)
}

// mysqlText writes a value as the database does. The driver has made numbers of whole numbers and binary floats; those
// are written with the fewest digits that tell them, and an exponent where they are very large or small.
func mysqlText(value any, kind string) string {
	switch v := value.(type) {
	case nil:
		return ""
	case []byte:
		switch kind {
		case "BIT", "BINARY", "VARBINARY", "TINYBLOB", "BLOB", "MEDIUMBLOB", "LONGBLOB", "GEOMETRY":
			return fmt.Sprintf("%X", v) // bytes, which are no text
		}
		return string(v)
	case float32:
		return mysqlFloat(float64(v), 32)
	case float64:
		return mysqlFloat(v, 64)
	}
	return fmt.Sprint(value)
}

func mysqlFloat(v float64, bits int) string {
	if size := math.Abs(v); v == 0 || size >= 1e-5 && size < 1e15 {
		return strconv.FormatFloat(v, 'f', -1, bits)
	}
	digits, exponent, _ := strings.Cut(strconv.FormatFloat(v, 'e', -1, bits), "e")
	n, _ := strconv.Atoi(exponent)
	return digits + "e" + strconv.Itoa(n)
}

// through gives what a question yields in a transaction that is taken back, first the names. Values are made text of
// one by one.
func through(ctx context.Context, db *sql.DB, options *sql.TxOptions, text string, args []string,
	say func(value any, kind string) string) iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		ctx, cancel := context.WithCancel(ctx)
		defer cancel()
		tx, err := db.BeginTx(ctx, options)
		if err != nil {
			yield(nil, err)
			return
		}
		defer func() { _ = tx.Rollback() }()
		all := make([]any, len(args))
		for i, arg := range args {
			all[i] = arg
		}
		rows, err := tx.QueryContext(ctx, text, all...)
		if err != nil {
			yield(nil, err)
			return
		}
		defer func() { _ = rows.Close() }()
		types, err := rows.ColumnTypes()
		if err != nil {
			yield(nil, err)
			return
		}
		names, kinds := make([]string, len(types)), make([]string, len(types))
		for i, t := range types {
			names[i], kinds[i] = t.Name(), t.DatabaseTypeName()
		}
		if !yield(names, nil) {
			return
		}
		values, targets := make([]any, len(types)), make([]any, len(types))
		for i := range values {
			targets[i] = &values[i]
		}
		for rows.Next() {
			if err := rows.Scan(targets...); err != nil {
				yield(nil, err)
				return
			}
			row := make([]string, len(values))
			for i, value := range values {
				row[i] = say(value, kinds[i])
			}
			if !yield(row, nil) {
				cancel() // or the rest would still come
				return
			}
		}
		if err := rows.Err(); err != nil {
			yield(nil, err)
		}
	}
}

func (m *mysqlEngine) explain(err error) string {
	var e *mysql.MySQLError
	if !errors.As(err, &e) {
		if errors.Is(err, mysql.ErrNoTLS) {
			return "The database does not encrypt. Choose to go over the network as it is, or have it switched " +
				"on there."
		}
		return ""
	}
	switch e.Number {
	case 1045, 1044, 1698, 1130:
		return "The database does not know this name with this password, or does not let it in from here. (" +
			e.Message + ")"
	case 1049:
		return "There is no such database on that machine: " + e.Message + "."
	case 1792:
		return "The question would write, and only what reads is sent. (" + e.Message + ")"
	case 1969, 3024:
		return "The database was not done within " + spoken(readTime) + ". Ask for less."
	case 1142, 1143:
		return "This name may not read that: " + e.Message + "."
	case 1064:
		return "The database does not understand the question: " + strings.TrimSuffix(e.Message, ".") + "."
	}
	return "The database says: " + strings.TrimSuffix(e.Message, ".") + "."
}

// spoken says a time in minutes.
func spoken(d time.Duration) string { return fmt.Sprintf("%d minutes", int(d.Minutes())) }
