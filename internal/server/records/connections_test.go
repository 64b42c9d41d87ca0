package records_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/ncruces/go-sqlite3"
	"github.com/stretchr/testify/require"

	"oddspool/examples"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/orderdesk"
	"oddspool/internal/secrets"
	"oddspool/internal/server"
	"oddspool/internal/testkit"
	"oddspool/standin"
)

// outside is a site with a database, an order desk and a folder of files of the plant beside it.
type outside struct {
	*site
	shed       *pgx.Conn
	desk       *standin.Desk
	folder     string
	connection map[string]int64
}

func newOutside(t *testing.T) *outside {
	box, err := secrets.Open(filepath.Join(t.TempDir(), "key"))
	require.NoError(t, err)
	o := &outside{folder: t.TempDir(), connection: map[string]int64{}}
	o.site = newSiteWith(t, server.Options{Box: box, Folder: o.folder})
	address, err := url.Parse(testkit.Address(t))
	require.NoError(t, err)
	address.RawQuery = "sslmode=disable"
	data, err := examples.Files.ReadFile("desk.json")
	require.NoError(t, err)
	o.desk, err = standin.NewDesk(data, demo.DeskToken, t.TempDir())
	require.NoError(t, err)
	desk := httptest.NewServer(o.desk.Handler())
	t.Cleanup(desk.Close)
	for range 2 { // seeding twice changes nothing
		require.NoError(t, demo.Seed(context.Background(), o.Store,
			demo.Plant{Desk: desk.URL, Database: address.String()}, box))
	}
	o.shed, err = pgx.Connect(context.Background(), address.String())
	require.NoError(t, err)
	t.Cleanup(func() { _ = o.shed.Close(context.Background()) })
	o.SignIn()
	var all []api.Connection
	require.Equal(t, 200, o.Do("GET", "/api/connections", nil, &all))
	for _, c := range all {
		o.connection[c.Name] = c.Id
	}
	require.Len(t, all, 2)
	return o
}

func (o *outside) exec(statement string) {
	_, err := o.shed.Exec(context.Background(), statement)
	require.NoError(o.T, err)
}

// take takes records in and returns them.
func (o *outside) take(connection, name, request string) api.RecordSet {
	var set api.RecordSet
	body := fmt.Sprintf(`{"name": %q, %s}`, name, request)
	status := o.Do("POST", fmt.Sprintf("/api/connections/%d/records", o.connection[connection]), body, &set)
	require.Equal(o.T, 200, status, body)
	return set
}

func (o *outside) values(set int64) [][]string {
	var records api.Records
	require.Equal(o.T, 200, o.Do("GET", fmt.Sprintf("/api/record-sets/%d/records", set), nil, &records))
	all := [][]string{}
	for _, record := range records.Records {
		all = append(all, record.Values)
	}
	return all
}

func TestPasswordsAreKeptAndNeverTold(t *testing.T) {
	o := newOutside(t)
	path := fmt.Sprintf("/api/connections/%d", o.connection["Shed database"])
	var all []api.Connection
	require.Equal(t, 200, o.Do("GET", "/api/connections", nil, &all))
	shed := all[slices.IndexFunc(all, func(c api.Connection) bool { return c.Name == "Shed database" })]
	require.True(t, shed.Secret)
	var kept string
	require.NoError(t, o.Store.DB.Get(&kept, `select encode(secret, 'escape') || place::text from connections
			where name = 'Shed database'`))
	require.NotContains(t, kept, "drift-and-wrack")

	// It goes to that machine and as that name only: whoever changes those types it anew.
	require.Equal(t, 200, o.Do("PUT", path, api.PutConnection{Name: "Shed", Place: shed.Place}, nil))
	other := shed.Place
	other.User = new("app")
	require.Contains(t, o.Problem(422, "PUT", path, api.PutConnection{Name: "Shed", Place: other}), "Type it anew")
	require.Contains(t, o.Problem(409, "POST", "/api/connections", api.PutConnection{Name: "shed", Place: shed.Place,
		Password: new("drift-and-wrack")}), "has this name already")
	require.Contains(t, o.Problem(422, "POST", "/api/connections", api.PutConnection{Name: " ", Place: shed.Place}),
		"needs a name")
	away := shed.Place
	away.Port = new(1)
	require.Contains(t, o.Problem(502, "POST", "/api/connections", api.PutConnection{Name: "Away", Place: away}),
		"Nothing answers at 127.0.0.1:1")
	require.Equal(t, 200, o.Do("POST", "/api/connections", api.PutConnection{Name: "Away", Place: away,
		Untried: new(true)}, nil), "kept though it does not answer now")
	require.Equal(t, 204, o.Do("DELETE", path, nil, nil))
	require.Equal(t, 404, o.Do("GET", path+"/tables", nil, nil))
	require.Equal(t, 200, o.Do("POST", "/api/connections", api.PutConnection{Name: "Shed", Place: shed.Place,
		Password: new("drift-and-wrack")}, nil), "its name is free")
}

func TestALiveSourceIsReadAgain(t *testing.T) {
	o := newOutside(t)
	path := fmt.Sprintf("/api/connections/%d", o.connection["Shed database"])
	var tables []api.Table
	require.Equal(t, 200, o.Do("GET", path+"/tables", nil, &tables))
	require.Equal(t, []api.Table{{Schema: new("shed"), Name: "bins"}, {Schema: new("shed"), Name: "bins_to_fill",
		View: new(true)}, {Schema: new("shed"), Name: "gauges"}}, tables)
	var columns []api.Column
	require.Equal(t, 200, o.Do("POST", path+"/columns", tables[0], &columns))
	require.Equal(t, api.Column{Name: "bin", Type: "text", Key: new(true)}, columns[0])
	var look api.SourceLook
	require.Equal(t, 200, o.Do("POST", path+"/look", `{"request": {"schema": "shed", "table": "bins"}}`, &look))
	require.True(t, look.More)
	require.Len(t, look.Records, 30)
	set := o.take("Shed database", "Bins, live",
		`"request": {"schema": "shed", "table": "bins", "columns": ["bin", "contents", "lot", "bags", "code", "serial"]}`)
	require.Equal(t, 240, set.Count)
	require.Equal(t, []string{"bin"}, set.Source.Rereading.Key, "the table's own")
	require.Equal(t, []string{"N-01-01-A", "Sugar kelp, flaked", "26K090", "12", "952N0101A", "00417"},
		o.values(set.Id)[0])

	// A run keeps the records it was prepared with; designs go over to what is read now.
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	var made api.Design
	require.Equal(t, 200, o.Do("POST", "/api/designs", fmt.Sprintf(`{"document": %s, "recordSetId": %d}`, data, set.Id),
		&made))
	var run api.Run
	require.Equal(t, 200, o.Do("POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": %d}`, made.Id, set.Id),
		&run))
	require.Equal(t, 240, run.RecordCount)
	refresh := func(id int64) (r api.Refreshed) {
		require.Equal(t, 200, o.Do("POST", fmt.Sprintf("/api/record-sets/%d/refresh", id), `{}`, &r))
		return r
	}
	same := refresh(set.Id)
	require.Equal(t, set.Id, same.Set.Id, "nothing is different")
	o.exec(`update shed.bins set lot = '26K999' where bin = 'N-01-01-B'; delete from shed.bins
			where bin = 'N-01-01-A'; insert into shed.bins values ('Z-09', 'Dulse, flaked', '26K400', 3, '952Z09',
			'00999')`)
	now := refresh(set.Id)
	require.NotEqual(t, set.Id, now.Set.Id)
	require.Equal(t, [3]int{1, 1, 1}, [3]int{now.Changes.New, now.Changes.Gone, now.Changes.Changed})
	first := (*now.Changes.First)[0]
	require.Equal(t, []string{"N-01-01-B"}, first.Key)
	require.Equal(t, "lot 26K097 26K999", (*first.Values)[0].Field+" "+(*first.Values)[0].Before+" "+
		(*first.Values)[0].Now)
	require.Equal(t, 200, o.Do("GET", fmt.Sprintf("/api/designs/%d", made.Id), nil, &made))
	require.Equal(t, now.Set.Id, *made.RecordSetId)
	require.Equal(t, 200, o.Do("GET", fmt.Sprintf("/api/runs/%d", run.Id), nil, &run))
	require.Equal(t, set.Id, *run.RecordSetId, "the very records it was prepared with")
	require.Equal(t, "N-01-01-A", o.values(set.Id)[0][0])
	require.Equal(t, now.Set.Id, refresh(set.Id).Set.Id, "asked of the one before, it is the newest that is read again")

	// Fields that labels say are gone: nothing is taken in unless it is to be.
	again := fmt.Sprintf("/api/record-sets/%d/refresh", now.Set.Id)
	o.exec(`alter table shed.bins rename lot to batch`)
	require.Contains(t, o.Problem(422, "POST", again, `{}`),
		"The table bins has no column lot any more. Choose its columns anew.")
	var kept api.RecordSet
	require.Equal(t, 200, o.Do("GET", fmt.Sprintf("/api/record-sets/%d", now.Set.Id), nil, &kept))
	require.Contains(t, *kept.Source.Trouble, "no column lot")
	o.exec(`alter table shed.bins rename batch to lot`)
	require.Empty(t, refresh(now.Set.Id).Set.Source.Trouble)

	// Before a run it is read again, where that was wished; what cannot be read is told, and may be gone without.
	require.Equal(t, 200, o.Do("PUT", fmt.Sprintf("/api/record-sets/%d/source", now.Set.Id),
		`{"key": ["bin"], "everyMinutes": 0, "beforeRun": true}`, nil))
	o.exec(`insert into shed.bins values ('Z-10', 'Dulse, flaked', '26K401', 3, '952Z10', '01000')`)
	require.Equal(t, 200, o.Do("POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": %d}`, made.Id,
		now.Set.Id), &run))
	require.Equal(t, 241, run.RecordCount)
	o.exec(`alter table shed.bins rename to boxes`)
	require.Contains(t, o.Problem(422, "POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": %d}`, made.Id,
		*run.RecordSetId)), "There is no table bins")
	var unread api.Problem
	o.Do("POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": %d}`, made.Id, *run.RecordSetId), &unread)
	require.True(t, *unread.AsRead)
	require.Equal(t, 200, o.Do("POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": %d, "asRead": true}`,
		made.Id, *run.RecordSetId), &run))
	require.Equal(t, 241, run.RecordCount)
	require.Contains(t, o.Problem(422, "PUT", fmt.Sprintf("/api/record-sets/%d/source", now.Set.Id),
		`{"key": ["x"], "everyMinutes": 0, "beforeRun": true}`), "no field x")
	require.Contains(t, o.Problem(422, "POST", "/api/record-sets/2/refresh", `{}`), "is not read from a connection")
}

func TestAQuestionHasParametersAndMissingFieldsAreTold(t *testing.T) {
	o := newOutside(t)
	path := fmt.Sprintf("/api/connections/%d", o.connection["Shed database"])
	request := `"request": {"text": "select * from shed.bins where bags <= :most and bin like :shelf"}`
	var look api.SourceLook
	require.Equal(t, 200, o.Do("POST", path+"/look", "{"+request+"}", &look))
	require.Equal(t, []string{"most", "shelf"}, look.Parameters)
	require.Empty(t, look.Records, "it is asked first")
	require.Equal(t, 200, o.Do("POST", path+"/look", "{"+request+`, "answers": {"most": "12", "shelf": "N-01-01-%"}}`,
		&look))
	require.Len(t, look.Records, 2)
	require.Contains(t, o.Problem(422, "POST", path+"/look", `{"request": {"text": "delete from shed.bins"}}`),
		"Only questions that read are sent")
	require.Contains(t, o.Problem(502, "POST", path+"/look", `{"request": {"text": "select * from shed.none"}}`),
		`relation "shed.none" does not exist`)
	require.Contains(t, o.Problem(422, "POST", path+"/records", `{"name": "Bins", `+request+`}`),
		"asks for most, which is not answered")
	set := o.take("Shed database", "A shelf", request+`, "answers": {"most": "12", "shelf": "N-01-01-%"}`)
	require.Equal(t, []string{"most", "shelf"}, *set.Source.Parameters)
	require.Equal(t, []string{"bin"}, set.Source.Rereading.Key, "the first field with another value in every record")
	var now api.Refreshed
	require.Equal(t, 200, o.Do("POST", fmt.Sprintf("/api/record-sets/%d/refresh", set.Id),
		`{"answers": {"most": "12", "shelf": "N-01-02-%"}}`, &now))
	require.Equal(t, "N-01-02-%", now.Set.Source.Answers["shelf"])

	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	var made api.Design
	require.Equal(t, 200, o.Do("POST", "/api/designs", fmt.Sprintf(`{"document": %s, "recordSetId": %d}`, data,
		now.Set.Id), &made))
	o.exec(`alter table shed.bins rename code to barcode`)
	again := fmt.Sprintf("/api/record-sets/%d/refresh", now.Set.Id)
	require.Contains(t, o.Problem(409, "POST", again, `{}`), "A shelf has no code any more, and ")
	require.Equal(t, 200, o.Do("POST", again, `{"anyway": true}`, &now))
	require.Equal(t, []string{"code"}, *now.Changes.GoneFields)
	require.Equal(t, []string{"barcode"}, *now.Changes.NewFields)
}

func TestAnOrderIsLookedUp(t *testing.T) {
	o := newOutside(t)
	path := fmt.Sprintf("/api/connections/%d", o.connection["Order desk"])
	var look api.SourceLook
	require.Equal(t, 200, o.Do("POST", path+"/look", `{"request": {"desk": {"kind": "order", "number": "SO-2607"}}}`,
		&look))
	require.Len(t, look.Records, 4)
	require.Equal(t, []int{24, 36, 12, 2}, *look.Labels)
	require.Contains(t, o.Problem(422, "POST", path+"/look",
		`{"request": {"desk": {"kind": "order", "number": "SO-1"}}}`), "has no order SO-1")
	require.Contains(t, o.Problem(422, "POST", path+"/look", `{"request": {}}`), "Say which document")
	set := o.take("Order desk", "SO-2607",
		`"request": {"desk": {"kind": "order", "number": "SO-2607", "lines": ["1", "3"]}}`)
	require.Equal(t, 2, set.Count)
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	said := strings.NewReplacer(`"field": "bin"`, `"field": "item"`, `"field": "contents"`, `"field": "name"`,
		`"field": "code"`, `"field": "gtin"`, `"field": "lot"`, `"field": "order"`, `"field": "bags"`,
		`"field": "quantity"`, `"field": "serial"`, `"field": "line"`).Replace(string(data))
	var made api.Design
	require.Equal(t, 200, o.Do("POST", "/api/designs", fmt.Sprintf(`{"document": %s, "recordSetId": %d}`, said, set.Id),
		&made))
	var run api.Run
	require.Equal(t, 200, o.Do("POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": %d}`, made.Id, set.Id),
		&run))
	require.Equal(t, 24+12, run.Labels, "its quantities are the counts")
	o.desk.Break(standin.DeskFault{Wrong: true})
	require.Contains(t, o.Problem(502, "POST", fmt.Sprintf("/api/record-sets/%d/refresh", set.Id), `{}`),
		"is not what was agreed")
	require.Len(t, o.values(set.Id), 2, "nothing is lost")
}

func TestFilesAreReadWhereTheyLie(t *testing.T) {
	o := newOutside(t)
	require.NoError(t, os.MkdirAll(filepath.Join(o.folder, "shed", ".hidden"), 0o755))
	bins := filepath.Join(o.folder, "shed", "bins.csv")
	require.NoError(t, os.WriteFile(bins, []byte("bin;lot\nN-1;007\nN-2;008\n"), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(o.folder, "shed", ".hidden", "x.csv"), []byte("a"), 0o644))
	db, err := sqlite3.Open(filepath.Join(o.folder, "shed", "plant.db"))
	require.NoError(t, err)
	require.NoError(t, db.Exec(`create table bins (bin text primary key, lot); insert into bins values ('N-1', '007')`))
	require.NoError(t, db.Close())
	add := func(name string, place api.Place) {
		var c api.Connection
		require.Equal(t, 200, o.Do("POST", "/api/connections", api.PutConnection{Name: name, Place: place}, &c))
		o.connection[name] = c.Id
	}
	add("Shed files", api.Place{Kind: "files", Path: new("shed")})
	add("Shed file", api.Place{Kind: "sqlite", Path: new("shed/plant.db")})
	for _, away := range []string{"../../etc", "/etc/passwd", "none"} {
		require.Contains(t, o.Problem(422, "POST", "/api/connections",
			api.PutConnection{Name: "Away", Place: api.Place{Kind: "files", Path: &away}}),
			"in the server's folder of files")
	}
	require.NoError(t, os.Symlink("/etc", filepath.Join(o.folder, "etc")))
	require.Contains(t, o.Problem(422, "POST", "/api/connections",
		api.PutConnection{Name: "Away", Place: api.Place{Kind: "files", Path: new("etc")}}),
		"in the server's folder of files")
	var tables []api.Table
	require.Equal(t, 200, o.Do("GET", fmt.Sprintf("/api/connections/%d/tables", o.connection["Shed files"]), nil,
		&tables))
	require.Equal(t, []api.Table{{Name: "bins.csv"}, {Name: "plant.db"}}, tables)
	set := o.take("Shed files", "Bins", `"request": {"table": "bins.csv"}`)
	require.Equal(t, [][]string{{"N-1", "007"}, {"N-2", "008"}}, o.values(set.Id))
	var look api.SourceLook // what it was read as is told, and can be corrected, and stays so when it is read again
	require.NoError(t, os.WriteFile(bins, []byte("bin;lot\nN-1;0\a07\nN-2;008\n"), 0o644))
	require.Equal(t, 200, o.Do("POST", fmt.Sprintf("/api/connections/%d/look", o.connection["Shed files"]),
		`{"request": {"table": "bins.csv"}}`, &look))
	require.Equal(t, ";", *look.File.Settings.Separator)
	require.Equal(t, []string{"1 control character is left out, which no text has: U+0007 in line 2, letter 6."},
		look.File.Notes)
	bare := o.take("Shed files", "Bare bins",
		`"request": {"table": "bins.csv", "settings": {"header": "none", "separator": ","}}`)
	require.Equal(t, [][]string{{"bin;lot"}, {"N-1;007"}, {"N-2;008"}}, o.values(bare.Id))
	require.NoError(t, os.WriteFile(bins, []byte("bin;lot\nN-1;007\nN-2;008\nN-3;1\n"), 0o644))
	require.Equal(t, 200, o.Do("POST", fmt.Sprintf("/api/record-sets/%d/refresh", bare.Id), `{}`, nil))
	require.NoError(t, os.WriteFile(bins, []byte("bin;lot\nN-1;007\nN-2;008\n"), 0o644))
	require.NoError(t, os.WriteFile(bins, []byte("bin;lot\nN-1;007\nN-2;009\n"), 0o644))
	var now api.Refreshed
	require.Equal(t, 200, o.Do("POST", fmt.Sprintf("/api/record-sets/%d/refresh", set.Id), `{}`, &now))
	require.Equal(t, 1, now.Changes.Changed)
	require.NoError(t, os.WriteFile(bins, nil, 0o644))
	require.Contains(t, o.Problem(422, "POST", fmt.Sprintf("/api/record-sets/%d/refresh", set.Id), `{}`),
		"The file is empty")
	require.NoError(t, os.Remove(bins))
	require.Contains(t, o.Problem(422, "POST", fmt.Sprintf("/api/record-sets/%d/refresh", set.Id), `{}`),
		"There is no shed/bins.csv")
	live := o.take("Shed file", "Bins of the file", `"request": {"table": "bins"}`)
	require.Equal(t, [][]string{{"N-1", "007"}}, o.values(live.Id))
}

// printSome prints some labels of a run and waits until they are out.
func (o *outside) printSome(run int64, body string) {
	path := fmt.Sprintf("/api/runs/%d", run)
	require.Equal(o.T, 200, o.Do("POST", path+"/prints", body, nil))
	require.Eventually(o.T, func() bool {
		var now api.Run
		require.Equal(o.T, 200, o.Do("GET", path, nil, &now))
		return !slices.ContainsFunc(now.Prints, func(p api.Print) bool { return p.State != api.PrintStateDone })
	}, 30*time.Second, 20*time.Millisecond)
}

// run prepares a run of the bin label for records that have the fields of bins, by other names where those are given.
func (o *outside) run(set int64, names ...string) (run api.Run) {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(o.T, err)
	pairs := []string{}
	for i := 0; i < len(names); i += 2 {
		pairs = append(pairs, fmt.Sprintf(`"field": %q`, names[i]), fmt.Sprintf(`"field": %q`, names[i+1]))
	}
	var made api.Design
	body := fmt.Sprintf(`{"document": %s, "recordSetId": %d}`, strings.NewReplacer(pairs...).Replace(string(data)), set)
	require.Equal(o.T, 200, o.Do("POST", "/api/designs", body, &made))
	require.Equal(o.T, 200, o.Do("POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": %d}`, made.Id, set),
		&run))
	return run
}

// source returns where a set is read, with what it was told.
func (o *outside) source(set int64) api.Source {
	var kept api.RecordSet
	require.Equal(o.T, 200, o.Do("GET", fmt.Sprintf("/api/record-sets/%d", set), nil, &kept))
	return *kept.Source
}

func TestADatabaseIsToldWhatWasPrinted(t *testing.T) {
	o := newOutside(t)
	o.exec(`create table shed.few (bin text primary key, contents text, lot text, bags text, code text, serial text,
			labelled_at timestamptz, labelled_by text, labels int, said text);
		insert into shed.few select bin, contents, lot, bags::text, code, serial from shed.bins order by bin
		limit 3; grant select on shed.few to oddspool_reader; grant update on shed.few to oddspool_reader`)
	set := o.take("Shed database", "Few",
		`"request": {"schema": "shed", "table": "few", "columns": ["bin", "contents", "lot", "bags", "code", "serial"]}`)
	path := fmt.Sprintf("/api/record-sets/%d/write-back", set.Id)
	for how, want := range map[string]string{`{}`: "Name a column", `{"at": "when"}`: "no column when",
		`{"by": "bin"}`: "tells rows apart", `{"by": "said", "at": "said"}`: "cannot say two things"} {
		require.Contains(t, o.Problem(422, "PUT", path, how), want)
	}
	require.Contains(t, o.Problem(422, "PUT", "/api/record-sets/1/write-back", `{}`), "is not read from a connection")
	require.Equal(t, 200, o.Do("PUT", path,
		`{"at": "labelled_at", "by": "labelled_by", "count": "labels", "numbers": "said"}`, nil))
	run := o.run(set.Id)
	o.printSome(run.Id, `{"kind": "sample", "labels": "1"}`)
	o.printSome(run.Id, `{"kind": "again", "labels": "1"}`)
	o.exec(`alter table shed.few rename column labels to labels_then`)
	o.printSome(run.Id, `{"kind": "rest"}`)
	o.Feeds.Tell(context.Background())
	source := o.source(set.Id)
	require.Equal(t, []int{0, 3}, []int{*source.Told, *source.Untold}, "the print was not held up, and nothing is lost")
	require.Contains(t, *source.UntoldWhy, "no column labels any more")
	o.exec(`alter table shed.few rename column labels_then to labels`)
	require.Equal(t, 200, o.Do("PUT", path,
		`{"at": "labelled_at", "by": "labelled_by", "count": "labels", "numbers": "said"}`, nil),
		"which has it tried at once")
	for range 3 {
		o.Feeds.Tell(context.Background())
	}
	source = o.source(set.Id)
	require.Equal(t, []int{3, 0}, []int{*source.Told, *source.Untold})
	written := func() (rows [][]string) {
		all, err := o.shed.Query(context.Background(), `select bin, labelled_by, labels::text, said,
				(labelled_at > now() - interval '1 minute')::text from shed.few order by bin`)
		require.NoError(t, err)
		rows, err = pgx.CollectRows(all, func(row pgx.CollectableRow) (v []string, err error) {
			v = make([]string, 5)
			return v, row.Scan(&v[0], &v[1], &v[2], &v[3], &v[4])
		})
		require.NoError(t, err)
		return rows
	}
	require.Equal(t, [][]string{{"N-01-01-A", "Maren", "1", "952N0101A", "true"},
		{"N-01-01-B", "Maren", "1", "952N0101B", "true"}, {"N-01-01-C", "Maren", "1", "952N0101C", "true"}}, written(),
		"a label that was printed again counts once")
	second := o.run(set.Id)
	o.printSome(second.Id, `{"kind": "sample", "labels": "2"}`)
	o.Feeds.Tell(context.Background())
	require.Equal(t, "2", written()[1][2], "of another run it is another label")
	require.Equal(t, 204, o.Do("DELETE", path, nil, nil))
	o.printSome(second.Id, `{"kind": "rest"}`)
	o.Feeds.Tell(context.Background())
	require.Equal(t, 4, *o.source(set.Id).Told)
}

func TestTheDeskAndAFileAreToldWhatWasPrinted(t *testing.T) {
	o := newOutside(t)
	names := []string{"bin", "item", "contents", "name", "code", "gtin", "lot", "order", "bags", "quantity", "serial",
		"line"}
	set := o.take("Order desk", "SO-2611", `"request": {"desk": {"kind": "order", "number": "SO-2611"}}`)
	require.Equal(t, 200, o.Do("PUT", fmt.Sprintf("/api/record-sets/%d/write-back", set.Id), `{}`, nil))
	o.desk.Break(standin.DeskFault{Broken: true})
	o.printSome(o.run(set.Id, names...).Id, `{"kind": "all"}`)
	o.Feeds.Tell(context.Background())
	require.Equal(t, 8, *o.source(set.Id).Untold)
	o.desk.Break(standin.DeskFault{})
	require.Equal(t, 200, o.Do("PUT", fmt.Sprintf("/api/record-sets/%d/write-back", set.Id), `{}`, nil))
	o.Feeds.Tell(context.Background())
	require.Equal(t, 8, *o.source(set.Id).Told)
	told := map[string]int{}
	for _, one := range o.desk.Told() {
		var printed orderdesk.Printed
		require.NoError(t, json.Unmarshal(one.Printed, &printed))
		require.Equal(t, []string{"Maren", "SO-2611", "order"},
			[]string{printed.By, printed.Document, string(printed.Kind)})
		require.NotEmpty(t, printed.Numbers)
		told[printed.Line] += printed.Labels
	}
	require.Equal(t, map[string]int{"1": 3, "2": 5}, told, "each label once, though an answer was lost")

	file := filepath.Join(o.folder, "bins.csv")
	data, err := examples.Files.ReadFile("bins.csv")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, []byte(strings.Join(strings.SplitAfter(string(data), "\n")[:4], "")), 0o644))
	var c api.Connection
	require.Equal(t, 200, o.Do("POST", "/api/connections",
		api.PutConnection{Name: "Files", Place: api.Place{Kind: "files"}}, &c))
	o.connection["Files"] = c.Id
	set = o.take("Files", "Bins", `"request": {"table": "bins.csv"}`)
	require.Equal(t, 200, o.Do("PUT", fmt.Sprintf("/api/record-sets/%d/write-back", set.Id), `{}`, nil))
	beside := file + ".printed.csv"
	require.NoError(t, os.WriteFile(beside, []byte("printed at,printed by,run,labels,numbers,mark\n2026-11-26T08:00"),
		0o644), "a line that was cut off")
	run := o.run(set.Id)
	o.printSome(run.Id, `{"kind": "all"}`)
	for range 2 {
		_, err := o.Store.DB.Exec(`update outbox set told_at = null,
				next_at = now()`) // as if it was not noted that it was told
		require.NoError(t, err)
		o.Feeds.Tell(context.Background())
	}
	written, err := os.ReadFile(beside)
	require.NoError(t, err)
	require.Equal(t, 4, strings.Count(string(written), "\n"), string(written))
	require.Contains(t, string(written), fmt.Sprintf(",Maren,%d,1,952N0101A,", run.Id))
	var tables []api.Table
	require.Equal(t, 200, o.Do("GET", fmt.Sprintf("/api/connections/%d/tables", c.Id), nil, &tables))
	require.Equal(t, []api.Table{{Name: "bins.csv"}}, tables)
}

func TestSourcesAreReadEverySoOften(t *testing.T) {
	o := newOutside(t)
	set := o.take("Shed database", "Gauges",
		`"request": {"schema": "shed", "table": "gauges"}, "rereading": {"key": [], "everyMinutes": 5, "beforeRun": false}`)
	o.exec(`update shed.gauges set reading = 9.125 where gauge = 'G-001'`)
	o.Feeds.Due(context.Background())
	require.Equal(t, set.Id, o.newest("Gauges"), "its time has not come")
	late := func() {
		_, err := o.Store.DB.Exec(`update feeds set tried_at = now() - interval '5 minutes'`)
		require.NoError(t, err)
	}
	late()
	o.Feeds.Due(context.Background())
	renewed := o.newest("Gauges")
	require.NotEqual(t, set.Id, renewed)
	require.Equal(t, []string{"G-001", "brine hall", "2026-01-12", "9.125"}, o.values(renewed)[0])
	o.exec(`alter table shed.gauges rename to meters`)
	late()
	o.Feeds.Due(context.Background())
	require.Equal(t, renewed, o.newest("Gauges"), "what cannot be read leaves all as it was")
	var kept api.RecordSet
	require.Equal(t, 200, o.Do("GET", fmt.Sprintf("/api/record-sets/%d", renewed), nil, &kept))
	require.Contains(t, *kept.Source.Trouble, "There is no table gauges")
}

// newest returns the set of a name that is in the list.
func (o *outside) newest(name string) int64 {
	var sets []api.RecordSet
	require.Equal(o.T, 200, o.Do("GET", "/api/record-sets", nil, &sets))
	i := slices.IndexFunc(sets, func(s api.RecordSet) bool { return s.Name == name })
	require.GreaterOrEqual(o.T, i, 0)
	return sets[i].Id
}

// Nobody reads what Odd Spool keeps through a connection: neither its own database, by whatever address, nor as a user
// who may read all of its server.
func TestItsOwnDatabaseIsNotRead(t *testing.T) {
	o := newOutside(t)
	another, err := url.Parse(testkit.Address(t))
	require.NoError(t, err)
	port, err := strconv.Atoi(another.Port())
	require.NoError(t, err)
	var own string
	require.NoError(t, o.Store.DB.Get(&own, `select current_database()`))
	add := func(host, database string) string {
		place := api.Place{Kind: "postgresql", Host: &host, Port: &port, Database: &database, User: new("app"),
			Tls: new(api.PlaceTls("plain"))}
		return o.Problem(422, "POST", "/api/connections", api.PutConnection{Name: host + database, Place: place})
	}
	for _, host := range []string{"127.0.0.1", "localhost"} {
		require.Contains(t, add(host, own), "the database that Odd Spool itself works on")
	}
	require.Contains(t, add("127.0.0.1", strings.TrimPrefix(another.Path, "/")), "may read all of the database server")
	require.Equal(t, 200, o.Do("GET", fmt.Sprintf("/api/connections/%d/tables", o.connection["Shed database"]), nil,
		nil), "another of that server, as a user who reads only it")

	// One that is kept without being tried is not read either.
	untried := api.PutConnection{Name: "Own", Untried: new(true),
		Place: api.Place{Kind: "postgresql", Host: new("127.0.0.1"), Port: &port, Database: &own, User: new("app"),
			Tls: new(api.PlaceTls("plain"))}}
	var kept api.Connection
	require.Equal(t, 200, o.Do("POST", "/api/connections", untried, &kept))
	require.Contains(t, o.Problem(422, "GET", fmt.Sprintf("/api/connections/%d/tables", kept.Id), nil),
		"itself works on")
}

// Records that are read from somewhere and changed by hand go on being read from there, and no reading takes the place
// of the changes unasked.
func TestChangesByHandKeepTheirSource(t *testing.T) {
	o := newOutside(t)
	set := o.take("Shed database", "Gauges",
		`"request": {"schema": "shed", "table": "gauges"}, "rereading": {"key": [], "everyMinutes": 5, "beforeRun": false}`)
	records := o.values(set.Id)
	records[0][1] = "salt hall"
	var changed api.RecordSet
	require.Equal(t, 200, o.Do("POST", "/api/record-sets/written",
		map[string]any{"name": set.Name, "fields": set.Fields, "records": records, "replaces": set.Id}, &changed))
	require.Equal(t, 200, o.Do("GET", fmt.Sprintf("/api/record-sets/%d", changed.Id), nil, &changed))
	require.NotNil(t, changed.Source, "it is still read from there")
	path := fmt.Sprintf("/api/record-sets/%d/refresh", changed.Id)
	require.Contains(t, o.Problem(409, "POST", path, `{}`), "was changed by hand by Maren")
	_, err := o.Store.DB.Exec(`update feeds set tried_at = now() - interval '5 minutes'`)
	require.NoError(t, err)
	o.Feeds.Due(context.Background())
	require.Equal(t, "salt hall", o.values(o.newest("Gauges"))[0][1], "nobody was asked")
	var kept api.RecordSet
	require.Equal(t, 200, o.Do("GET", fmt.Sprintf("/api/record-sets/%d", changed.Id), nil, &kept))
	require.Contains(t, *kept.Source.Trouble, "changed by hand")
	require.Equal(t, 200, o.Do("POST", path, `{"anyway": true}`, nil))
	require.Equal(t, "brine hall", o.values(o.newest("Gauges"))[0][1])
}
