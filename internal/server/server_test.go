package server_test

import (
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/stock/catalogue"
	"oddspool/internal/api"
)

func TestNobodyGetsInWithoutSigningIn(t *testing.T) {
	s := newSite(t)
	for _, path := range []string{"/api/floor", "/api/designs", "/api/runs/1", "/api/printers/1/web/1",
		"/api/session"} {
		require.Contains(t, s.Problem(401, "GET", path, nil), "Sign in again")
	}
	require.Equal(t, 200, s.Do("GET", "/api/hints", nil, nil))
	require.Contains(t, s.Problem(401, "POST", "/api/session", api.SignIn{Name: "Maren", Password: "no"}),
		"do not belong together")
	s.SignIn()
	var session api.Session
	require.Equal(t, 200, s.Do("GET", "/api/session", nil, &session))
	require.Equal(t, "Maren", session.Name)
	require.Equal(t, 204, s.Do("DELETE", "/api/session", nil, nil))
	s.Problem(401, "GET", "/api/designs", nil)
}

func TestOtherSitesAndLargeBodiesAreRefused(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	request, err := http.NewRequest("POST", s.Web.URL+"/api/designs", strings.NewReader("{}"))
	require.NoError(t, err)
	request.Header.Set("Origin", "https://elsewhere.example")
	request.Header.Set("Sec-Fetch-Site", "cross-site")
	require.Equal(t, 403, s.Send(request, nil))

	huge := `{"document": {"name": "` + strings.Repeat("x", 5<<20) + `"}}`
	require.Contains(t, s.Problem(413, "POST", "/api/designs", huge), "up to 4 MB")
	pipe, writer := io.Pipe() // of unknown length
	go func() {
		_, _ = io.Copy(writer, strings.NewReader(huge))
		writer.Close()
	}()
	request, err = http.NewRequest("POST", s.Web.URL+"/api/designs", pipe)
	require.NoError(t, err)
	request.Header.Set("Content-Type", "application/json")
	require.Equal(t, 413, s.Send(request, nil))

	response, err := s.Client.Get(s.Web.URL + "/floor")
	require.NoError(t, err)
	defer response.Body.Close()
	require.Equal(t, 200, response.StatusCode)
	require.Contains(t, response.Header.Get("Content-Security-Policy"), "default-src 'self'")
	require.Equal(t, "nosniff", response.Header.Get("X-Content-Type-Options"))
}

func TestRequestsKeepToTheContract(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	require.Contains(t, s.Problem(400, "POST", "/api/strip", `{"records": [1]}`), `"document" is missing`)
	require.Contains(t, s.Problem(400, "POST", "/api/strip", `{oops`), "not understood")
	require.Equal(t, "Words: it has 300 letters, and can have at most 200.",
		s.Problem(400, "GET", "/api/find?words="+strings.Repeat("k", 300), nil))
	require.Equal(t, "A name is needed.", s.Problem(400, "POST", "/api/printers/1/setups", `{"about": {"name": ""}}`))
	require.Equal(t, "Words: it is empty.", s.Problem(400, "GET", "/api/find?words=", nil))
	require.Equal(t, "Most: it is 5000, and can be at most 1000.",
		s.Problem(400, "GET", "/api/record-sets/1/records?from=1&most=5000", nil))
	require.Contains(t, s.Problem(400, "GET", "/api/record-sets/1/records?most=99999", nil),
		"Most: it is 99999, and can be at most 1000.")
	require.Contains(t, s.Problem(404, "GET", "/api/nothing", nil), "nothing at this address")
	require.Contains(t, s.Problem(404, "GET", "/api/designs/99", nil), "There is no design 99")
	require.Contains(t, s.Problem(405, "PUT", "/api/designs", nil), "cannot be done here")
}

func TestDesignsAreMadeForWhatFits(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	require.Contains(t, s.Problem(422, "POST", "/api/designs", `{"name": "x"}`), "needs a name, a printer and a stock")
	var d api.Design
	require.Equal(t, 200, s.Do("POST", "/api/designs",
		`{"name": "Crate", "printerId": 1, "stockId": 1, "turn": 90, "recordSetId": 2}`, &d))
	require.Contains(t, string(d.Document), `"turn":90`)
	require.Contains(t, string(d.Document), `"contents"`)
	require.Contains(t, s.Problem(422, "PUT", "/api/designs/1",
		`{"edit": 1, "document": {"format": "oddspool.design/7"}}`), "newer Odd Spool")
	var saved api.Design
	body := map[string]any{"edit": d.Edit, "document": d.Document}
	require.Equal(t, 200, s.Do("PUT", "/api/designs/3", body, &saved))
	require.Contains(t, s.Problem(409, "PUT", "/api/designs/3", body), "Maren changed this design")
	require.Equal(t, 200, s.Do("POST", "/api/designs/3/revisions", nil, &saved))
	require.Equal(t, 1, saved.Version)
	var revisions []api.Revision
	require.Equal(t, 200, s.Do("GET", "/api/designs/3/revisions", nil, &revisions))
	require.Len(t, revisions, 1)
	require.Equal(t, 200, s.Do("GET", "/api/designs/3/revisions/1", nil, nil))
	s.Problem(404, "GET", "/api/designs/3/revisions/2", nil)
	require.Equal(t, 204, s.Do("DELETE", "/api/designs/3", nil, nil))
	s.Problem(404, "GET", "/api/designs/3/file", nil)
}

func TestFilesOfRecordsComeIn(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var preview api.Preview
	require.Equal(t, 200, s.Form("/api/record-sets/preview", "vats.csv", "vat|no\nB-1|007\n", nil, &preview))
	require.Equal(t, "|", *preview.File.Settings.Separator)
	var set api.RecordSet
	require.Equal(t, 200, s.Form("/api/record-sets", "vats.csv", "vat|no\nB-1|007\n", map[string]string{"name": "Vats"},
		&set))
	require.Equal(t, []any{"Vats", 1}, []any{set.Name, set.Count})
	var problem api.Problem
	require.Equal(t, 422, s.Form("/api/record-sets", "x.csv", "", nil, &problem))
	require.Contains(t, problem.Text, "The file is empty")
	require.Equal(t, 413, s.Form("/api/record-sets", "x.csv", strings.Repeat("x", 66<<20), nil, &problem))
	require.Contains(t, problem.Text, "up to 65 MB")
}

func TestRunChoicesAreChecked(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 1, "recordSetId": 1}`, &run))
	require.Equal(t, 48, run.Labels)
	for body, text := range map[string]string{
		`{"records": "50", "howMany": {"each": 1}, "printerId": 1}`:                                         "numbers from 1 to 48",
		`{"records": "", "howMany": {"each": 0}, "printerId": 1}`:                                           "cannot be printed",
		`{"records": "", "howMany": {"each": 1, "corrected": {"x": 1}}, "printerId": 1}`:                    "no number of a record",
		`{"records": "", "howMany": {"each": 1, "corrected": {"1": 100000, "2": 1000000}}, "printerId": 1}`: "too many for one run",
	} {
		require.Contains(t, s.Problem(422, "PUT", "/api/runs/1", body), text)
	}
	require.Equal(t, 200, s.Do("PUT", "/api/runs/1",
		`{"records": "1-2", "howMany": {"each": 1, "field": "contents"}, "printerId": 1}`, &run))
	require.Zero(t, run.Labels)
	require.Len(t, run.Taken, 2, "words are no quantities, and told")
	require.Contains(t, s.Problem(404, "PUT", "/api/runs/1", `{"records": "", "howMany": {"each": 1}, "printerId": 9}`),
		"no printer 9")
	require.Equal(t, 200, s.Do("PUT", "/api/runs/1",
		`{"records": "9, 14", "howMany": {"each": 2, "corrected": {"14": 5}}, "printerId": 1}`, &run))
	require.Equal(t, []int{7, 2}, []int{run.Labels, run.Chosen})
	require.Equal(t, 200, s.Do("PUT", "/api/runs/1",
		`{"records": "none", "tick": [9, 14, 15, 99], "untick": [15], "howMany": {"each": 2, "corrected": {"14": 5}}, "printerId": 1}`, &run))
	require.Equal(t, "9, 14", run.Choice.Records)
	var records []api.RunRecord
	require.Equal(t, 200, s.Do("GET", "/api/runs/1/records?from=13&most=3", nil, &records))
	require.Equal(t, []int{0, 5, 0}, []int{records[0].Copies, records[1].Copies, records[2].Copies})
	var proof api.RunProof
	require.Equal(t, 200, s.Do("GET", "/api/runs/1/proof", nil, &proof))
	require.Equal(t, 7, proof.LeftOut, "both records have errors")
	require.Contains(t, s.Problem(422, "POST", "/api/runs/1/prints", `{"kind": "rest"}`), "no label to print")
	require.Contains(t, s.Problem(422, "POST", "/api/runs/1/prints", `{"kind": "sample", "labels": "8"}`), "1 to 7")
	s.Problem(404, "POST", "/api/prints/9/cancel", nil)
	require.Contains(t, s.Problem(409, "POST", "/api/prints/9/go-on", `{"lastLabel": 1}`), "not held")
}

func TestFloorTellsOfDeadPrinters(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var floor api.Floor
	require.Equal(t, 200, s.Do("GET", "/api/floor", nil, &floor))
	require.Equal(t, "Ready", floor.Printers[0].Text)
	require.EqualValues(t, catalogue.All()[0].Pieces(), floor.Printers[0].Left)
	require.Equal(t, "S-076", floor.Printers[0].Stock.Number)
	require.NoError(t, s.Printer.Close())
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", "/api/floor", nil, &floor))
		return floor.Printers[0].Text == "Does not answer"
	}, 1e10, 1e8)
	require.Contains(t, s.Problem(502, "GET", "/api/printers/1/web", nil), "camera of Dock 2 does not answer")
}

func TestStockroomIsSearchedKeptAndChecked(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var all, found []api.StockRow
	require.Equal(t, 200, s.Do("GET", "/api/stocks", nil, &all))
	require.GreaterOrEqual(t, len(all), 80)
	require.Equal(t, "S-160", all[0].Number, "lately used first")
	require.Equal(t, 200, s.Do("GET", "/api/stocks?find=76x38", nil, &found))
	require.Len(t, found, 1)
	require.Equal(t, 200, s.Do("GET", "/api/stocks?cable=6200", nil, &found))
	require.NotEmpty(t, found)
	for _, row := range found {
		require.True(t, *row.Facts.SmallestCable <= 6200 && *row.Facts.LargestCable >= 6200)
	}

	own := `{"number": "X-1", "name": "Own", "kind": "die-cut", "shape": "rectangle", "width": 40000, "length": 20000, "gap": 2000}`
	var row api.StockRow
	require.Equal(t, 200, s.Do("POST", "/api/stocks", own, &row))
	require.Equal(t, 22_000, row.Facts.Pitch)
	require.Contains(t, s.Problem(409, "POST", "/api/stocks", own), "Another stock has the number X-1")
	require.Contains(t, s.Problem(422, "POST", "/api/stocks", `{"number": "", "name": "x"}`),
		"needs a number and a name")
	require.Contains(t, s.Problem(422, "POST", "/api/stocks", strings.Replace(own, "40000", "-1", 1)),
		"A width of -0.001 mm is impossible")
	require.Contains(t, s.Problem(422, "POST", "/api/stocks", strings.Replace(own, "gap", "gapp", 1)),
		`unknown field "gapp"`)
	path := fmt.Sprintf("/api/stocks/%d", row.Id)
	require.Equal(t, 200, s.Do("PUT", path, strings.Replace(own, "20000", "30000", 1), &row))
	require.Equal(t, 32_000, row.Facts.Pitch)
	require.Equal(t, 204, s.Do("DELETE", path, nil, nil))
	s.Problem(404, "PUT", path, own)

	var check api.StockCheck
	require.Equal(t, 200, s.Do("POST", "/api/stocks/check", own, &check))
	require.Empty(t, check.Reasons)
	require.Equal(t, "Dock 2", check.Printers[0].Printer)
	require.Empty(t, check.Printers[0].Reasons)
	require.Equal(t, 200, s.Do("POST", "/api/stocks/check", strings.Replace(own, "40000", "140000", 1), &check))
	require.Contains(t, check.Printers[0].Reasons[0].Text, "choose one that is 26 mm narrower")
	require.Equal(t, 200, s.Do("POST", "/api/stocks/check", strings.Replace(own, "40000", "0", 1), &check))
	require.Equal(t, "width", check.Reasons[0].Field)
}
