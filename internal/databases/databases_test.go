package databases_test

import (
	"context"
	"fmt"
	"net"
	"net/url"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/ncruces/go-sqlite3"
	"github.com/stretchr/testify/require"

	"oddspool/internal/databases"
	"oddspool/internal/reach"
	"oddspool/internal/sources"
	"oddspool/internal/testkit"
)

func TestMain(m *testing.M) { testkit.Main(m) }

var ctx = context.Background()

// text is all that may go wrong on the way: marks, escapes, other scripts, what looks like numbers and dates, ends of
// lines.
var text = []string{"00417", "1E5", "3/4", "12345678901234567890", `a"b'c\d`, "Größe, €; |", "昆布 🌊", " kept ",
	"two\nlines\tand tab", "", "NULL", "%_[x]`"}

// postgresPlace is a database with the tables of a plant, as other systems keep them.
func postgresPlace(t testing.TB) (databases.Place, *pgx.Conn) {
	address, err := url.Parse(testkit.Address(t))
	require.NoError(t, err)
	query := address.Query()
	query.Del("pool_max_conns")
	address.RawQuery = query.Encode()
	conn, err := pgx.Connect(ctx, address.String())
	require.NoError(t, err)
	t.Cleanup(func() { _ = conn.Close(ctx) })
	port, err := strconv.Atoi(address.Port())
	require.NoError(t, err)
	return databases.Place{Kind: databases.PostgreSQL, Host: "127.0.0.1", Port: port,
		Database: strings.TrimPrefix(address.Path, "/"), User: "app", TLS: databases.Plain}, conn
}

func open(t testing.TB, at databases.Place, password string) *databases.Database {
	d, err := databases.Open(ctx, at, password, nil)
	require.NoError(t, err)
	t.Cleanup(func() { _ = d.Close() })
	return d
}

// all are the records of a query.
func all(t testing.TB, d *databases.Database, q databases.Query, answers map[string]string) ([]string, [][]string) {
	source, err := d.Read(ctx, q, answers)
	require.NoError(t, err)
	defer source.Close()
	records := [][]string{}
	for record, err := range source.Records() {
		require.NoError(t, err)
		records = append(records, record)
	}
	return source.Fields, records
}

// one is the text that a question gives for each of the strings above.
func roundTrip(t *testing.T, d *databases.Database, question string) {
	fields, records := all(t, d, databases.Query{Text: question}, nil)
	require.Equal(t, []string{"n", "said"}, fields)
	require.Len(t, records, len(text))
	for i, said := range text {
		require.Equal(t, said, records[i][1])
	}
}

func TestPostgreSQLIsReadAsItSaysItself(t *testing.T) {
	at, conn := postgresPlace(t)
	_, err := conn.Exec(ctx, `create schema plant; create table plant.bins (bin text, lot numeric(30,10), on_hand int,
			weight float8, frozen bool, since date, seen timestamp, label bytea, said text[], primary key (bin));
		insert into plant.bins values ('N-02', 12345678901234567890.1234500000, 7, 0.1, true, '2026-11-26',
		'2026-11-26 08:00:00', '\x00ff', '{a,"b c"}'), ('N-01', null, null, null, null, null, null, null, null);
		create view plant.full_bins as select bin, on_hand from plant.bins
		where on_hand > 0; create table plant.said (n int, said text)`)
	require.NoError(t, err)
	for i, said := range text {
		_, err := conn.Exec(ctx, `insert into plant.said values ($1, $2)`, i, said)
		require.NoError(t, err)
	}
	d := open(t, at, "")
	tables, err := d.Tables(ctx)
	require.NoError(t, err)
	require.Subset(t, tables, []databases.Table{{Schema: "plant", Name: "bins"},
		{Schema: "plant", Name: "full_bins", View: true}})
	columns, err := d.Columns(ctx, databases.Table{Schema: "plant", Name: "bins"})
	require.NoError(t, err)
	require.Equal(t, databases.Column{Name: "bin", Type: "text", Key: true}, columns[0])
	require.Equal(t, databases.Column{Name: "lot", Type: "numeric(30,10)"}, columns[1])
	fields, records := all(t, d, databases.Query{Schema: "plant", Table: "bins"}, nil)
	require.Equal(t, []string{"bin", "lot", "on_hand", "weight", "frozen", "since", "seen", "label", "said"}, fields)
	require.Equal(t, [][]string{{"N-01", "", "", "", "", "", "", "", ""},
		{"N-02", "12345678901234567890.1234500000", "7", "0.1", "true", "2026-11-26", "2026-11-26 08:00:00", `\x00ff`,
			`{a,"b c"}`}}, records, "in the order of the key")
	fields, records = all(t, d, databases.Query{Schema: "plant", Table: "bins", Columns: []string{"on_hand", "bin"}},
		nil)
	require.Equal(t, []string{"on_hand", "bin"}, fields)
	require.Equal(t, []string{"7", "N-02"}, records[1])
	_, records = all(t, d, databases.Query{Text: `select bin, on_hand::text from plant.bins where bin = :bin
			and on_hand > :least -- not :this
		and 'a :b' <> '' ;`}, map[string]string{"bin": "N-02", "least": "3"})
	require.Equal(t, [][]string{{"N-02", "7"}}, records)
	roundTrip(t, d, `select n, said from plant.said order by n`)
	first, some, more, err := d.First(ctx, databases.Query{Text: `select n from generate_series(1,
			3000000) n`}, nil, 30)
	require.NoError(t, err)
	require.Equal(t, []string{"n"}, first)
	require.Len(t, some, 30)
	require.True(t, more)
}

func TestMariaDBIsReadAsItSaysItself(t *testing.T) {
	port, admin := testkit.MariaDB(t)
	_, err := admin.Exec("create table plant.bins (bin varchar(20) primary key, lot decimal(30,10), count int(5) " +
		"zerofill, weight double, frozen tinyint(1), since date, seen datetime, label varbinary(9));" +
		"insert into plant.bins values ('N-02', 12345678901234567890.12345, 417, 0.1, 1, '2026-11-26', '2026-11-26 " +
		"08:00:00', x'00ff'), ('N-01', null, null, null, null, null, null, null);" +
		"create view plant.full_bins as select bin from plant.bins; create table plant.said (n int, said text " +
		"character set utf8mb4)")
	require.NoError(t, err)
	for i, said := range text {
		_, err := admin.Exec("insert into plant.said values (?, ?)", i, said)
		require.NoError(t, err)
	}
	at := databases.Place{Kind: databases.MySQL, Host: "127.0.0.1", Port: port, Database: "plant", User: "app",
		TLS: databases.Plain}
	d := open(t, at, "salt")
	tables, err := d.Tables(ctx)
	require.NoError(t, err)
	require.Equal(t, []databases.Table{{Name: "bins"}, {Name: "full_bins", View: true}, {Name: "said"}}, tables)
	columns, err := d.Columns(ctx, databases.Table{Name: "bins"})
	require.NoError(t, err)
	require.True(t, columns[0].Key)
	_, records := all(t, d, databases.Query{Table: "bins"}, nil)
	require.Equal(t, [][]string{{"N-01", "", "", "", "", "", "", ""}, {"N-02", "12345678901234567890.1234500000",
		"00417", "0.1", "1", "2026-11-26", "2026-11-26 08:00:00", "00FF"}}, records)
	_, records = all(t, d, databases.Query{Text: "select bin, count from bins where bin = :bin # :not this"},
		map[string]string{"bin": "N-02"})
	require.Equal(t, [][]string{{"N-02", "417"}}, records, "in a question of one's own it is a number")
	_, records = all(t, d, databases.Query{Text: "select 18446744073709551615 a, 1e20 b, 1.5e-7 c, 123456.789e0 d"},
		nil)
	require.Equal(t, []string{"18446744073709551615", "1e20", "1.5e-7", "123456.789"}, records[0])
	roundTrip(t, d, "select n, said from said order by n")
	_, records = all(t, d, databases.Query{Text: "select 1 n, :said said"}, map[string]string{"said": `it's \ "so"`})
	require.Equal(t, `it's \ "so"`, records[0][1])
	_, _, more, err := d.First(ctx, databases.Query{Text: "select seq from seq_1_to_30000000"}, nil, 30)
	require.NoError(t, err)
	require.True(t, more)

	// The name that asks may write, and yet nothing is written.
	_, err = admin.Exec("grant all on plant.* to app@'127.0.0.1'; grant file on *.* to app@'127.0.0.1'; create " +
		"function plant.cut() returns int begin delete from plant.bins; return 1; end")
	require.NoError(t, err)
	writer := open(t, at, "salt")
	for _, question := range []string{"select plant.cut()", "select bin into outfile '/tmp/never' from bins",
		"select 1 /*!50000 into outfile '/tmp/never' */", `select '\' , 1 -- ' into outfile '/tmp/never'`} {
		_, err := writer.Read(ctx, databases.Query{Text: question}, nil)
		require.ErrorAs(t, err, new(*databases.Error), question)
	}
	require.NoFileExists(t, "/tmp/never")
	left := 0
	require.NoError(t, admin.QueryRow("select count(*) from plant.bins").Scan(&left))
	require.Equal(t, 2, left)

	for what, want := range map[*databases.Place]string{
		{Kind: databases.MySQL, Host: "127.0.0.1", Port: port, Database: "plant", User: "nobody",
			TLS: databases.Plain}: "does not know this name with this password",
		// the grant hides whether it is there
		{Kind: databases.MySQL, Host: "127.0.0.1", Port: port, Database: "none", User: "app", TLS: databases.Plain}: "",
		{Kind: databases.MySQL, Host: "127.0.0.1", Port: port, Database: "plant", User: "app",
			TLS: databases.Encrypted}: "does not encrypt",
	} {
		_, err := databases.Open(ctx, *what, "salt", nil)
		require.ErrorContains(t, err, want)
	}
}

func sqlitePlace(t testing.TB) (databases.Place, string) {
	path := filepath.Join(t.TempDir(), "plant ?#%41.db")
	db, err := sqlite3.Open(path[:len(path)-len(filepath.Base(path))] + "plain.db")
	require.NoError(t, err)
	require.NoError(t, db.Exec(`create table bins (bin text primary key, lot, weight real, label blob); insert into bins
			values ('N-02', 12345678901234567, 0.1, x'00ff'), ('N-01', null, null, null);
		create view "full bins" as select bin from bins; create table said (n integer primary key, said text)`))
	for i, said := range text {
		statement, _, err := db.Prepare("insert into said values (?, ?)")
		require.NoError(t, err)
		require.NoError(t, statement.BindInt(1, i))
		require.NoError(t, statement.BindText(2, said))
		require.NoError(t, statement.Exec())
		require.NoError(t, statement.Close())
	}
	require.NoError(t, db.Close())
	require.NoError(t, os.Rename(filepath.Join(filepath.Dir(path), "plain.db"), path))
	return databases.Place{Kind: databases.SQLite, Path: path}, path
}

func TestSQLiteIsReadAsItSaysItself(t *testing.T) {
	at, path := sqlitePlace(t)
	d := open(t, at, "")
	tables, err := d.Tables(ctx)
	require.NoError(t, err)
	require.Equal(t, []databases.Table{{Name: "bins"}, {Name: "full bins", View: true}, {Name: "said"}}, tables)
	_, records := all(t, d, databases.Query{Table: "bins"}, nil)
	require.Equal(t, [][]string{{"N-01", "", "", ""}, {"N-02", "12345678901234567", "0.1", "00FF"}}, records)
	_, records = all(t, d, databases.Query{Table: "full bins"}, nil)
	require.Len(t, records, 2)
	roundTrip(t, d, "select n, said from said order by n")
	_, records = all(t, d, databases.Query{Text: "select bin from bins where bin = :bin"},
		map[string]string{"bin": "N-02"})
	require.Equal(t, [][]string{{"N-02"}}, records)
	for _, question := range []string{"attach 'x.db' as x", "with a as (select 1) delete from bins",
		"select writefile('/tmp/never', 'x')", "select load_extension('x')"} {
		_, err := d.Read(ctx, databases.Query{Text: question}, nil)
		require.ErrorAs(t, err, new(*databases.Error), question)
	}
	// The same file, taken in as a file.
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	table, err := sources.Read(data, sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, []string{"n", "said"}, table.Fields, "the table with the most records")
	require.Equal(t, text[0], table.Records[0][1])
	table, err = sources.Read(data, sources.Settings{Table: "full bins"})
	require.NoError(t, err)
	require.Len(t, table.Records, 2)
	_, err = sources.Read(data, sources.Settings{Table: "none"})
	require.ErrorContains(t, err, `has no table "none"`)
	for _, cut := range []int{20, 100, len(data) / 2, len(data) - 100} {
		_, err := sources.Read(data[:cut], sources.Settings{})
		require.ErrorAs(t, err, new(*sources.FileError))
	}
}

func TestNothingIsWrittenToPostgreSQL(t *testing.T) {
	at, conn := postgresPlace(t)
	_, err := conn.Exec(ctx, `create table bins (bin text); insert into bins values ('N-01'); create sequence s;
		create function cut() returns int language sql as 'delete from bins; select 1'`)
	require.NoError(t, err)
	d := open(t, at, "")
	for question, want := range map[string]string{
		"select cut()":               "would write",
		"select nextval('s')":        "would write",
		"select 1; delete from bins": "more than one statement",
		"with gone as (delete from bins returning *) select * from gone": "The word delete writes",
		"delete from bins":                                         "It begins with delete",
		"select * into more from bins":                             "The word into writes",
		"copy bins to program 'true'":                              "It begins with copy",
		"select set_config('transaction_read_only', 'off', false)": "read-write mode",
		"select * from none":                                       `does not understand the question at letter 15: relation "none" does not exist`,
		"select 1 where":                                           "does not understand the question at letter",
		"select 'open": "A quotation mark that opens at letter 8 is " +
			"not closed",
		"select /* open": "A comment that opens at letter 8 is not closed",
		"select $$;$$":   "between dollar signs",
		"select :bin":    "asks for bin, which is not answered",
		"select 1/0":     "division by zero",
		" ":              "is empty",
	} {
		_, err := d.Read(ctx, databases.Query{Text: question}, nil)
		require.ErrorContains(t, err, want, question)
		require.ErrorAs(t, err, new(*databases.Error), question)
	}
	left := 0
	require.NoError(t, conn.QueryRow(ctx, "select count(*) from bins").Scan(&left))
	require.Equal(t, 1, left)
	_, records := all(t, d, databases.Query{Text: `select 'delete :it' as "delete" from bins`}, nil)
	require.Equal(t, [][]string{{"delete :it"}}, records)
}

func TestParametersAreFoundOutsideOfQuotes(t *testing.T) {
	for question, want := range map[string][]string{
		"select :a, :b, :a":                        {"a", "b"},
		"select a::text, ':no', \":no\" -- :no":    {},
		"select E'\\':no', :yes":                   {"yes"},
		"select '\\', :yes":                        {"yes"},
		"select /* /* :no */ :no */ :yes":          {"yes"},
		"select a[1:2], :größe_2 from b where 1=1": {"größe_2"},
	} {
		names, err := databases.Parameters(databases.PostgreSQL, question)
		require.NoError(t, err, question)
		require.Equal(t, want, names, question)
	}
	names, err := databases.Parameters(databases.MySQL, "select '\\':no', `:no`, :yes # :no")
	require.NoError(t, err)
	require.Equal(t, []string{"yes"}, names)
	names, err = databases.Parameters(databases.SQLServer, "select [:no]]:no], :yes")
	require.NoError(t, err)
	require.Equal(t, []string{"yes"}, names)
}

func FuzzParameters(f *testing.F) {
	for _, kind := range []databases.Kind{databases.PostgreSQL, databases.MySQL, databases.SQLServer,
		databases.SQLite} {
		f.Add(string(kind), "select 'a'':b', :c -- d\n/* e */ from \"f\" where $g$ = [h]")
	}
	f.Fuzz(func(t *testing.T, kind, question string) {
		_, err := databases.Parameters(databases.Kind(kind), question)
		if err != nil {
			require.ErrorAs(t, err, new(*databases.Error))
		}
	})
}

func TestWhatGoesWrongIsSaid(t *testing.T) {
	at, conn := postgresPlace(t)
	_, err := conn.Exec(ctx, `create table empty (bin text); create table wide (said text); insert into wide
			values (repeat('x', 20000));
		create user reader password 'kelp'; create table hidden (a int); create table part (a int,
		b int); grant select (a) on part to reader`)
	require.NoError(t, err)
	d := open(t, at, "")
	for table, want := range map[string]string{
		"empty": "no records",
		"wide":  `The field "said" has 20000 letters; up to 10000 are read`,
		"none":  "There is no table none that may be read",
	} {
		_, err := d.Read(ctx, databases.Query{Schema: "public", Table: table}, nil)
		require.ErrorContains(t, err, want)
	}
	missing := new(databases.MissingError)
	_, err = d.Read(ctx, databases.Query{Schema: "public", Table: "empty", Columns: []string{"bin", "lot"}}, nil)
	require.ErrorAs(t, err, &missing)
	require.Equal(t, "lot", missing.Column)
	names := make([]string, 600)
	for i := range names {
		names[i] = fmt.Sprintf("1 as c%d", i)
	}
	_, err = d.Read(ctx, databases.Query{Text: "select " + strings.Join(names, ", ")}, nil)
	require.ErrorContains(t, err, "The rows have 600 values; up to 500 are read.")
	d = open(t, at, "") // what was broken off is closed
	_, err = d.Read(ctx, databases.Query{Text: "select n from generate_series(1, 1000001) n"}, nil)
	require.ErrorContains(t, err, "more than 1000000 records")
	d = open(t, at, "")
	_, err = conn.Exec(ctx, `select pg_terminate_backend(pid) from pg_stat_activity
			where application_name = 'Odd Spool'`)
	require.NoError(t, err)
	_, err = d.Tables(ctx)
	require.ErrorAs(t, err, new(*databases.Error))

	reading := at
	reading.User = "reader"
	limited := open(t, reading, "kelp")
	tables, err := limited.Tables(ctx)
	require.NoError(t, err)
	require.Contains(t, tables, databases.Table{Schema: "public", Name: "part"})
	require.NotContains(t, tables, databases.Table{Schema: "public", Name: "hidden"})
	columns, err := limited.Columns(ctx, databases.Table{Schema: "public", Name: "part"})
	require.NoError(t, err)
	require.Equal(t, []databases.Column{{Name: "a", Type: "integer"}}, columns)
	_, err = limited.Read(ctx, databases.Query{Text: "select * from hidden"}, nil)
	require.ErrorContains(t, err, "may not read that: permission denied for table hidden")

	silent, err := net.Listen("tcp", "127.0.0.1:0") // takes calls and says nothing
	require.NoError(t, err)
	defer silent.Close()
	mute := silent.Addr().(*net.TCPAddr).Port
	for _, kind := range []databases.Kind{databases.PostgreSQL, databases.MySQL, databases.SQLServer} {
		place := databases.Place{Kind: kind, Host: "127.0.0.1", Port: 1, Database: "d", User: "u", TLS: databases.Plain}
		_, err := databases.Open(ctx, place, "", nil)
		require.ErrorContains(t, err, "Nothing answers at 127.0.0.1:1.", kind)
		place.Host = "no.such.machine.invalid"
		_, err = databases.Open(ctx, place, "", nil)
		require.ErrorContains(t, err, "no.such.machine.invalid", kind)
		place.Host, place.Port = "127.0.0.1", mute
		hasty, cancel := context.WithTimeout(ctx, 200*time.Millisecond)
		_, err = databases.Open(hasty, place, "", nil)
		cancel()
		require.ErrorContains(t, err, "does not answer in time", kind)
		_, err = databases.Open(ctx, place, "", &reach.Guard{})
		require.ErrorAs(t, err, new(*reach.ForbiddenError), kind)
	}
	for _, wrong := range []databases.Place{
		{}, {Kind: "other"}, {Kind: databases.SQLite}, {Kind: databases.MySQL}, {Kind: databases.MySQL, Host: "a/b"},
		{Kind: databases.MySQL, Host: "a", Port: 70000}, {Kind: databases.MySQL, Host: "a"},
		{Kind: databases.MySQL, Host: "a", Database: "d"},
		{Kind: databases.MySQL, Host: "a", Database: "d", User: "u"},
		{Kind: databases.SQLite, Path: "/nothing/here.db"}, {Kind: databases.SQLite, Path: "databases_test.go"},
	} {
		_, err := databases.Open(ctx, wrong, "", nil)
		require.ErrorAs(t, err, new(*databases.Error), wrong)
	}
}

// A note goes into its one row, or nowhere.
func TestANoteIsWrittenIntoItsRow(t *testing.T) {
	tables := "create table lots (lot varchar(20), shelf varchar(20), seen varchar(40), printed int, primary key " +
		"(lot, shelf))"
	rows := "insert into lots values ('7', 'A', null, 1), ('7', 'B', null, 1)"
	at, conn := postgresPlace(t)
	for _, statement := range []string{tables, rows, "create table loose (lot text)"} {
		_, err := conn.Exec(ctx, statement)
		require.NoError(t, err)
	}
	port, admin := testkit.MariaDB(t)
	for _, statement := range []string{"use plant", strings.Replace(tables, "lots", "plant.lots", 1),
		strings.Replace(rows, "lots", "plant.lots", 1), "create table plant.loose (lot int)",
		"grant update (seen, printed) on plant.lots to app@'127.0.0.1'"} {
		_, err := admin.Exec(statement)
		require.NoError(t, err)
	}
	path := filepath.Join(t.TempDir(), "plant.db")
	file, err := sqlite3.Open(path)
	require.NoError(t, err)
	require.NoError(t, file.Exec(tables+"; "+rows+"; create table loose (lot)"))
	require.NoError(t, file.Close())
	for _, test := range []struct {
		at     databases.Place
		key    string
		schema string
	}{{at, "", "public"}, {databases.Place{Kind: databases.MySQL, Host: "127.0.0.1", Port: port, Database: "plant",
		User: "app", TLS: databases.Plain}, "salt", ""}, {databases.Place{Kind: databases.SQLite, Path: path}, "",
		""}} {
		d := open(t, test.at, test.key)
		note := databases.Note{Schema: test.schema, Table: "lots", Key: map[string]string{"lot": "7", "shelf": "B",
			"other": "x"}, Values: map[string]string{"seen": "it's 8 o'clock", "printed": "12"}}
		for range 2 {
			require.NoError(t, d.Write(ctx, note), test.at.Kind)
		}
		_, records := all(t, d, databases.Query{Schema: test.schema, Table: "lots"}, nil)
		require.Equal(t, [][]string{{"7", "A", "", "1"}, {"7", "B", "it's 8 o'clock", "12"}}, records)
		for want, wrong := range map[string]databases.Note{
			"no row any more whose lot, shelf is 8, B": {Schema: test.schema, Table: "lots",
				Key: map[string]string{"lot": "8", "shelf": "B"}, Values: note.Values},
			"do not have shelf": {Schema: test.schema, Table: "lots",
				Key: map[string]string{"lot": "7"}, Values: note.Values},
			"no column colour": {Schema: test.schema, Table: "lots", Key: note.Key,
				Values: map[string]string{"colour": "red"}},
			"no primary key": {Schema: test.schema, Table: "loose", Key: note.Key,
				Values: map[string]string{"lot": "1"}},
			"no table none": {Schema: test.schema, Table: "none", Key: note.Key,
				Values: note.Values},
		} {
			require.ErrorContains(t, d.Write(ctx, wrong), want)
		}
	}
}

// BenchmarkPostgreSQL reads 100,000 records of eight fields.
func BenchmarkPostgreSQL(b *testing.B) {
	at, conn := postgresPlace(b)
	_, err := conn.Exec(ctx, `create table bins as select n, 'N-' || n bin, 'Kombu, cut ' || n said, n * 7 lot,
			now() seen, n / 3.0 weight, 'A' shelf, md5(n::text) mark from generate_series(1, 100000) n`)
	require.NoError(b, err)
	d := open(b, at, "")
	for b.Loop() {
		source, err := d.Read(ctx, databases.Query{Schema: "public", Table: "bins"}, nil)
		require.NoError(b, err)
		require.Equal(b, 100_000, source.Count)
		require.NoError(b, source.Close())
	}
}
