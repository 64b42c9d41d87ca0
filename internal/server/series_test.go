package server_test

import (
	"archive/zip"
	"bufio"
	"bytes"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"oddspool/core/design"
	"oddspool/core/series"
	"oddspool/examples"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/press/pwg"
	"oddspool/standin"
)

// series makes a number series.
func (s *site) series(name string, counts series.Spec, unused api.Unused) (made api.NumberSeries) {
	require.Equal(s.t, 200, s.do("POST", "/api/series", api.AddSeries{Name: name, Counts: counts, Unused: unused}, &made))
	return made
}

// numbered keeps a design whose code says numbers of series behind the bin of a record.
func (s *site) numbered(symbology string, says []design.Piece, numbers ...design.Numbered) api.Design {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(s.t, err)
	d, err := design.Parse(data)
	require.NoError(s.t, err)
	d.Name, d.Series = "Numbered", numbers
	d.Elements = []design.Element{{ID: "code", Kind: design.Code, X: 3000, Y: 3000, Width: 70_000, Height: 25_000, Says: says,
		Code: &design.CodeLooks{Symbology: symbology, Module: 375}}}
	document, err := json.Marshal(d)
	require.NoError(s.t, err)
	var made api.Design
	require.Equal(s.t, 200, s.do("POST", "/api/designs", map[string]any{"document": json.RawMessage(document), "recordSetId": 2}, &made))
	return made
}

func (s *site) prepare(of api.Design, records string, each int) (run api.Run) {
	body := fmt.Sprintf(`{"designId": %d, "recordSetId": 2, "choice": {"records": %q, "howMany": {"each": %d}, "printerId": 0}}`, of.Id, records, each)
	require.Equal(s.t, 200, s.do("POST", "/api/runs", body, &run))
	return run
}

// print prints some of a run and waits until it is read.
func (s *site) print(run int64, body string) (now api.Run) {
	path := fmt.Sprintf("/api/runs/%d", run)
	require.Equal(s.t, 200, s.do("POST", path+"/prints", body, nil))
	require.Eventually(s.t, func() bool {
		require.Equal(s.t, 200, s.do("GET", path, nil, &now))
		return !slices.ContainsFunc(now.Prints, func(p api.Print) bool { return p.State != api.PrintStateDone })
	}, 30*time.Second, 20*time.Millisecond)
	return now
}

func (s *site) account(id int64) []int {
	var kept api.NumberSeries
	require.Equal(s.t, 200, s.do("GET", fmt.Sprintf("/api/series/%d", id), nil, &kept))
	a := kept.Account
	require.Equal(s.t, a.Taken, a.Open+a.Printed+a.Spoiled+a.Voided+a.Returned)
	return []int{a.Taken, a.Open, a.Printed, a.Spoiled, a.Voided, a.Returned}
}

// Numbers are on the labels as the camera sees them, their lives are told, and a scanned code leads to them.
func TestSeriesFromTheFirstNumberToItsFate(t *testing.T) {
	s := newSite(t)
	s.signIn()
	made := s.series(" totes ", series.Spec{Start: "0417", Step: 1, Width: 4}, api.Return)
	require.Equal(t, "totes", made.Name)
	require.Contains(t, s.problem(422, "POST", "/api/series", api.AddSeries{Name: "totes", Counts: series.Spec{Step: 1}, Unused: api.Void}), "There is a number series “totes” already.")
	require.Contains(t, s.problem(422, "POST", "/api/series", api.AddSeries{Name: "x", Counts: series.Spec{Step: 1, Digits: "ABA"}, Unused: api.Void}), "has “A” twice")
	require.Contains(t, s.problem(422, "POST", "/api/series", map[string]any{"name": "x", "counts": series.Spec{Step: 1}, "unused": "void", "list": []string{"7", "8", "7"}}), "“7” stands in the list twice, on lines 1 and 3.")
	require.Contains(t, s.problem(422, "POST", "/api/series", map[string]any{"name": "x", "counts": series.Spec{Step: 1}, "unused": "void", "list": []string{"7 "}}), "white space at its ends")

	d := s.numbered("gs1-128", []design.Piece{{Text: "(01)09521234543213(21)"}, {Field: "totes"}}, design.Numbered{Name: "totes", Counts: series.Spec{Start: "0417", Step: 1, Width: 4}})
	run := s.prepare(d, "1-3", 1)
	require.Equal(t, []api.RunNumbers{{SeriesId: made.Id, Series: "totes", First: "0417", Last: "0419", Count: 3}}, run.Numbers)
	run = s.print(run.Id, `{"kind": "sample", "labels": "1-2"}`)
	require.Equal(t, 2, run.Prints[0].ReadBack, "each says its own number")
	require.Equal(t, []int{3, 1, 2, 0, 0, 0}, s.account(made.Id))

	var lives []api.NumberLife
	for _, typed := range []string{"0418", " 0418\r\n", "(01)09521234543213(21)0418", "]C10109521234543213210418"} {
		require.Equal(t, 200, s.do("GET", "/api/numbers?number="+url.QueryEscape(typed), nil, &lives))
		require.Len(t, lives, 1, typed)
		require.Equal(t, []any{"0418", api.NumberStatePrinted, run.Id, 2}, []any{lives[0].Number.Number, lives[0].Number.State, lives[0].Number.RunId, lives[0].Number.FirstLabel})
		require.Len(t, lives[0].Labels, 1)
		require.Equal(t, []any{"Dock 2", api.NumberedLabelState("printed"), "meant"}, []any{lives[0].Labels[0].Printer, lives[0].Labels[0].State, string(*lives[0].Labels[0].ReadBack)})
	}
	lives = nil
	require.Equal(t, 200, s.do("GET", "/api/numbers?number=0500", nil, &lives))
	require.Empty(t, lives)

	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Contains(t, s.problem(422, "POST", path+"/spoiled", `{"labels": "3", "numbers": "new"}`), "None of these labels came out")
	require.Contains(t, s.problem(422, "POST", path+"/spoiled", `{"labels": "9", "numbers": "new"}`), "9")
	require.Equal(t, 200, s.do("POST", path+"/spoiled", `{"labels": "2", "numbers": "new"}`, &run))
	require.Equal(t, []int{1, 2}, []int{run.Printed, run.Left})
	run = s.print(run.Id, `{"kind": "rest"}`)
	require.Equal(t, []int{2, 0}, []int{run.Prints[1].ReadBack, run.Left})
	require.Equal(t, []int{4, 0, 3, 1, 0, 0}, s.account(made.Id))
	var pieces []api.Piece
	require.Equal(t, 200, s.do("GET", fmt.Sprintf("/api/prints/%d/pieces", run.Prints[0].Id), nil, &pieces))
	require.Equal(t, "spoiled", string(pieces[1].State))

	// What was printed, as a file.
	for _, format := range []string{"csv", "xlsx"} {
		rows := s.table(path+"/list?format="+format, format)
		require.Len(t, rows, 5)
		require.Equal(t, []string{"label", "record", "bin"}, rows[0][:3])
		require.Equal(t, []string{"0418", "spoiled", "meant", "", fmt.Sprint(run.Prints[0].Id), "sample", "Dock 2", "Maren"}, rows[2][8:16])
		require.Equal(t, []string{"0420", "printed", "meant", "", fmt.Sprint(run.Prints[1].Id), "rest", "Dock 2", "Maren"}, rows[3][8:16])
	}

	// What is left of a run is given up.
	second := s.prepare(d, "1-2", 1)
	require.Equal(t, 200, s.do("POST", fmt.Sprintf("/api/runs/%d/close", second.Id), nil, &second))
	require.NotNil(t, second.ClosedAt)
	require.Equal(t, "Maren", second.ClosedBy)
	require.Equal(t, []int{6, 0, 3, 1, 0, 2}, s.account(made.Id))
	require.Contains(t, s.problem(409, "POST", fmt.Sprintf("/api/runs/%d/prints", second.Id), `{"kind": "all"}`), "This run was given up")

	// The list as a file says the same in each format, zeros and all.
	list := fmt.Sprintf("/api/series/%d/list?format=", made.Id)
	listed := s.table(list+"csv", "csv")
	require.Equal(t, listed, s.table(list+"xlsx", "xlsx"))
	require.Equal(t, []string{"0418", "", "spoiled"}, listed[2][:3])
	var all []api.TakenNumber
	require.Equal(t, 200, s.do("GET", list+"json", nil, &all))
	require.Len(t, all, 6)
	require.Equal(t, "0417", all[0].Number)
}

// table reads a table that is sent as a file.
func (s *site) table(path, format string) (rows [][]string) {
	response, err := s.client.Get(s.web.URL + path)
	require.NoError(s.t, err)
	defer response.Body.Close()
	require.Equal(s.t, http.StatusOK, response.StatusCode)
	data, err := io.ReadAll(response.Body)
	require.NoError(s.t, err)
	if format == "csv" {
		rows, err = csv.NewReader(bytes.NewReader(data)).ReadAll()
		require.NoError(s.t, err)
		return rows
	}
	book, err := excelize.OpenReader(bytes.NewReader(data))
	require.NoError(s.t, err)
	rows, err = book.GetRows(book.GetSheetName(0))
	require.NoError(s.t, err)
	for i := range rows { // empty cells at the end are not there
		rows[i] = append(rows[i], make([]string, len(rows[0])-len(rows[i]))...)
	}
	return rows
}

func TestWhatNumbersAreCountedFor(t *testing.T) {
	s := newSite(t)
	s.signIn()
	records, err := s.store.Records(t.Context(), 2, 1, 4)
	require.NoError(t, err)
	set, err := s.store.RecordSet(t.Context(), 2)
	require.NoError(t, err)
	bin := slices.Index(set.Fields, "bin")
	made := s.series("totes", series.Spec{Start: "1", Step: 1}, api.Void)
	says := []design.Piece{{Field: "bin"}, {Text: "/"}, {Field: "totes"}}
	for _, test := range []struct {
		number design.Numbered
		want   []string
	}{
		{design.Numbered{Per: design.PerRecord}, []string{"1", "1", "2", "2"}},
		{design.Numbered{Per: design.PerRun}, []string{"3", "3", "3", "3"}},
		{design.Numbered{Per: design.PerGroup, Group: `left(bin, 1)`}, []string{"4", "4", "4", "4"}},
		{design.Numbered{Anew: "bin"}, []string{"1", "2", "1", "2"}},
		{design.Numbered{Anew: `formatDate(today(), "yyyy-MM-dd")`}, []string{"1", "2", "3", "4"}},
	} {
		test.number.Name, test.number.Counts = "totes", series.Spec{Start: "1", Step: 1}
		d := s.numbered("datamatrix", says, test.number)
		run := s.prepare(d, "1-2", 2)
		require.Equal(t, test.want, s.said(run), "%+v", test.number)
		run = s.print(run.Id, `{"kind": "all"}`)
		require.Equal(t, 4, run.Prints[0].ReadBack)
	}
	d := s.numbered("datamatrix", says, design.Numbered{Name: "totes", Anew: `bin + nothing`, Counts: series.Spec{Start: "1", Step: 1}})
	require.Contains(t, s.problem(422, "POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": 2}`, d.Id)), "The number series “totes” cannot tell when it starts over.")
	d = s.numbered("datamatrix", says, design.Numbered{Name: "unknown", Counts: series.Spec{Start: "1", Step: 1}})
	require.Contains(t, s.problem(422, "POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": 2}`, d.Id)), "There is no number series “unknown” here.")
	d = s.numbered("datamatrix", says, design.Numbered{Name: "bin", Counts: series.Spec{Start: "1", Step: 1}})
	require.Contains(t, s.problem(422, "POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": 2}`, d.Id)), "The records have a field “bin”, and a number series of the design has that name too.")
	var next api.SeriesNumbers
	require.Equal(t, 200, s.do("GET", fmt.Sprintf("/api/series/%d/next?most=2&key=%s", made.Id, url.QueryEscape(records[0][bin])), nil, &next))
	require.Equal(t, []string{"3", "4"}, next.Numbers)
}

// said returns the numbers of the labels of a run, in their order.
func (s *site) said(run api.Run) (numbers []string) {
	r, err := s.store.Run(s.t.Context(), run.Id)
	require.NoError(s.t, err)
	d, err := s.store.ToCompose(s.t.Context(), &r)
	require.NoError(s.t, err)
	labels, err := s.store.RunLabels(s.t.Context(), &r, d, "Maren", 1, r.LabelCount, true)
	require.NoError(s.t, err)
	for _, label := range labels {
		numbers = append(numbers, label.Values[len(label.Values)-1])
	}
	return numbers
}

// Runs are found by words about them, by a value of their records, by a number on their labels, and by days.
func TestRunsAreFound(t *testing.T) {
	s := newSite(t)
	s.signIn()
	s.series("totes", series.Spec{Prefix: "T-", Start: "001", Step: 1}, api.Return)
	d := s.numbered("datamatrix", []design.Piece{{Field: "totes"}}, design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	few, all := s.prepare(d, "1-2", 1), s.prepare(d, "", 1)
	s.print(few.Id, `{"kind": "all"}`)
	other := api.Run{}
	require.Equal(t, 200, s.do("POST", "/api/runs", `{"designId": 1, "recordSetId": 1}`, &other))
	records, err := s.store.Records(t.Context(), 2, 1, 3)
	require.NoError(t, err)
	list := func(query url.Values) (ids []int64) {
		var runs []api.RunEntry
		require.Equal(t, 200, s.do("GET", "/api/runs?"+query.Encode(), nil, &runs))
		for _, run := range runs {
			ids = append(ids, run.Id)
		}
		return ids
	}
	today, tomorrow := time.Now().Format(time.DateOnly), time.Now().AddDate(0, 0, 1).Format(time.DateOnly)
	for find, want := range map[string][]int64{
		"":                      {few.Id, other.Id, all.Id},
		"numbered maren":        {few.Id, all.Id},
		"rack dock":             {other.Id},
		"S-076":                 {few.Id, other.Id, all.Id},
		records[0][0]:           {few.Id, all.Id},
		records[2][0]:           {all.Id},
		few.Numbers[0].First:    {few.Id},
		"]C1" + records[2][0]:   {all.Id},
		"numbered 100 % nobody": nil,
	} {
		require.ElementsMatch(t, want, list(url.Values{"find": {find}}), find)
	}
	require.Len(t, list(url.Values{"from": {today}, "to": {today}}), 3)
	require.Empty(t, list(url.Values{"from": {tomorrow}}))
	require.Len(t, list(url.Values{"most": {"2"}, "skip": {"1"}}), 2)
	require.Contains(t, s.problem(422, "GET", "/api/runs?from=yesterday", nil), "is no day")
}

// What each printer used of each stock is told by days.
func TestWhatWasUsed(t *testing.T) {
	s := newSite(t)
	s.signIn()
	s.series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	d := s.numbered("datamatrix", []design.Piece{{Field: "totes"}}, design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	run := s.prepare(d, "1-5", 2)
	s.print(run.Id, `{"kind": "sample", "labels": "1-3"}`)
	s.print(run.Id, `{"kind": "rest"}`)
	_, err := s.store.DB.Exec(`update prints set started_at = now() - interval '3 days', ended_at = now() - interval '3 days' where kind = 'sample'`)
	require.NoError(t, err)
	var used api.Used
	require.Equal(t, 200, s.do("GET", "/api/used?days=5", nil, &used))
	require.Equal(t, time.Now().Format(time.DateOnly), used.Days[4])
	require.Len(t, used.Used, 1)
	line := used.Used[0]
	require.Equal(t, []any{"Dock 2", "S-076", []int{0, 3, 0, 0, 7}}, []any{line.Printer, line.Stock, line.Labels})
	require.InDelta(t, 7*0.041, line.Metres[4], 1e-9, "38 mm and a gap of 3 mm each")
	require.Contains(t, s.problem(422, "GET", "/api/used?days=5000", nil), "up to 366")
}

// An applicator asks on a line, and is answered on it.
func TestApplicatorsAskForLabels(t *testing.T) {
	s := newSite(t)
	s.signIn()
	s.series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	d := s.numbered("datamatrix", []design.Piece{{Field: "totes"}}, design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	run := s.prepare(d, "1-3", 1)
	records, err := s.store.Records(t.Context(), 2, 1, 3)
	require.NoError(t, err)
	ours, theirs := net.Pipe()
	ended := make(chan error, 1)
	go func() { ended <- s.server.Signals(t.Context(), theirs, "signal of 192.0.2.7") }()
	in := bufio.NewReader(ours)
	ask := func(signal string) string {
		_, err := io.WriteString(ours, signal)
		require.NoError(t, err)
		answer, err := in.ReadString('\n')
		require.NoError(t, err)
		return answer
	}
	of := func(label int) string {
		return fmt.Sprintf("yes\t%d\t%s\r\n", label, strings.Join(records[label-1], "\t"))
	}
	require.Equal(t, of(1), ask(fmt.Sprintf("%d\r\n", run.Id)))
	require.Equal(t, of(3), ask(fmt.Sprintf("\n%d %s\n", run.Id, records[2][0])), "while the one before is still being printed")
	require.Equal(t, of(2), ask(fmt.Sprintf("%d\n", run.Id)))
	require.Contains(t, ask(fmt.Sprintf("%d X-99\n", run.Id)), "no\tNo record of this run says “X-99”.")
	require.Eventually(t, func() bool {
		return strings.HasPrefix(ask(fmt.Sprintf("%d\n", run.Id)), "no\tThere is no label to print")
	}, 20*time.Second, 50*time.Millisecond)
	require.Contains(t, ask("next, please\n"), "no\t“next,” is no number of a run.")
	require.Contains(t, ask("99999\n"), "no\tThere is no run 99999")
	require.NoError(t, ours.Close())
	require.NoError(t, <-ended)
	require.Equal(t, 200, s.do("GET", fmt.Sprintf("/api/runs/%d", run.Id), nil, &run))
	require.Equal(t, []any{3, "signal of 192.0.2.7"}, []any{run.Printed, run.Prints[0].StartedBy})
}

// Who does not mind where has a run printed on the next printer that is free and can print it.
func TestTheNextFreePrinter(t *testing.T) {
	s := newSite(t)
	s.signIn()
	about := demo.Devices()[0].Printer
	about.Name = "Dock 3"
	second, err := standin.Start(standin.Config{Printer: about, Stock: demo.Devices()[0].Stock}, "")
	require.NoError(t, err)
	t.Cleanup(func() { _ = second.Close() })
	other, err := s.store.PutPrinter(t.Context(), about, second.IPP(), second.Camera())
	require.NoError(t, err)
	begin := func() (run api.Run) {
		require.Equal(t, 200, s.do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &run))
		require.Equal(t, 200, s.do("POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "all", "free": true}`, &run))
		return run
	}
	first, next := begin(), begin()
	require.Equal(t, []int64{first.Printer.Id, other}, []int64{first.Prints[0].PrinterId, next.Prints[0].PrinterId})
	var third api.Run
	require.Equal(t, 200, s.do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &third))
	require.Contains(t, s.problem(422, "POST", fmt.Sprintf("/api/runs/%d/prints", third.Id), `{"kind": "all", "free": true}`), "No printer on which these labels can be printed is free just now.")
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.do("GET", fmt.Sprintf("/api/runs/%d", next.Id), nil, &next))
		return next.Prints[0].State == api.PrintStateDone && next.Prints[0].ReadBack == 240
	}, 60*time.Second, 50*time.Millisecond)
	require.Equal(t, 240, second.Out())
}

// A run may be printed as a whole again and again; what is asked for each label is asked of each.
func TestRunsInSets(t *testing.T) {
	s := newSite(t)
	s.signIn()
	s.series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	count := series.Spec{Start: "1", Step: 1}
	d := s.numbered("datamatrix", []design.Piece{{Field: "bin"}, {Field: "totes"}}, design.Numbered{Name: "totes", Counts: count})
	body := func(id int64) string {
		return fmt.Sprintf(`{"designId": %d, "recordSetId": 2, "choice": {"records": "2-3", "howMany": {"each": 2, "sets": true}, "printerId": 0}}`, id)
	}
	var run api.Run
	require.Equal(t, 200, s.do("POST", "/api/runs", body(d.Id), &run))
	require.Equal(t, []any{4, 2, true}, []any{run.Labels, run.Chosen, *run.Choice.HowMany.Sets})
	var labels api.RunLabels
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Equal(t, 200, s.do("GET", path+"/labels", nil, &labels))
	var records []int
	for _, label := range labels.Labels {
		records = append(records, label.Record)
	}
	require.Equal(t, []int{2, 3, 2, 3}, records)
	require.Equal(t, []string{"1", "2", "3", "4"}, s.said(run))
	var shown []api.RunRecord
	require.Equal(t, 200, s.do("GET", path+"/records?from=1&most=4", nil, &shown))
	require.Equal(t, []int{0, 2, 2, 0}, []int{shown[0].Copies, shown[1].Copies, shown[2].Copies, shown[3].Copies})
	s.print(run.Id, `{"kind": "all"}`)
	each := s.numbered("datamatrix", []design.Piece{{Field: "totes"}}, design.Numbered{Name: "totes", Counts: count, Per: design.PerRecord})
	require.Contains(t, s.problem(422, "POST", "/api/runs", body(each.Id)), "gives a number to each record, whose labels must follow one another")
}

func TestAListOfReadyNumbersIsUsedUp(t *testing.T) {
	s := newSite(t)
	s.signIn()
	var made api.NumberSeries
	body := api.AddSeries{Name: "tags", Counts: series.Spec{Start: "0", Step: 1}, Unused: api.Return, List: &[]string{"00A7", "Z9", "Q-1"}}
	require.Equal(t, 200, s.do("POST", "/api/series", body, &made))
	require.True(t, made.Listed)
	var next api.SeriesNumbers
	require.Equal(t, 200, s.do("GET", fmt.Sprintf("/api/series/%d/next", made.Id), nil, &next))
	require.Equal(t, api.SeriesNumbers{Numbers: *body.List, Ends: "Then those of the list are used up."}, next)
	d := s.numbered("code128", []design.Piece{{Field: "tags"}}, design.Numbered{Name: "tags", Counts: series.Spec{Start: "0", Step: 1}})
	run := s.prepare(d, "1-2", 1)
	require.Equal(t, []string{"00A7", "Z9"}, s.said(run))
	require.Contains(t, s.problem(422, "POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": 2, "choice": {"records": "1-2", "howMany": {"each": 1}, "printerId": 0}}`, d.Id)),
		"has 1 of the 2 numbers that are needed: those of its list are used up. No number was taken.")
	require.Equal(t, 200, s.do("PUT", fmt.Sprintf("/api/series/%d", made.Id), api.ChangeSeries{Counts: made.Counts, Unused: api.Void}, &made))
	require.Equal(t, api.Void, made.Unused)
	require.Contains(t, s.problem(422, "PUT", fmt.Sprintf("/api/series/%d", made.Id), api.ChangeSeries{Counts: series.Spec{Start: "5", Step: 1}, Unused: api.Void}), "Numbers of this series were taken already")
	var counted api.SeriesNumbers
	require.Equal(t, 200, s.do("POST", "/api/series/count", `{"counts": {"start": "98", "step": 1, "width": 2}}`, &counted))
	require.Equal(t, []string{"98", "99"}, counted.Numbers)
	require.Contains(t, counted.Ends, "2 digits are used up")
	require.Equal(t, 204, s.do("DELETE", fmt.Sprintf("/api/series/%d", made.Id), nil, nil))
	var all []api.NumberSeries
	require.Equal(t, 200, s.do("GET", "/api/series", nil, &all))
	require.False(t, slices.ContainsFunc(all, func(n api.NumberSeries) bool { return n.Id == made.Id }))
	var lives []api.NumberLife
	require.Equal(t, 200, s.do("GET", "/api/numbers?number=00A7", nil, &lives))
	require.Equal(t, 204, s.do("POST", fmt.Sprintf("/api/numbers/%d/void", lives[0].Number.Id), `{"why": "The tag is lost."}`, nil))
	require.Equal(t, 200, s.do("GET", "/api/numbers?number=00A7", nil, &lives))
	require.Equal(t, []string{"voided", "Maren", "The tag is lost."}, []string{string(lives[0].Number.State), lives[0].Number.ChangedBy, lives[0].Number.Why})
	require.Equal(t, []string{"Q-1", "Z9"}, s.said(run), "its label has another")
	require.Contains(t, s.problem(422, "POST", fmt.Sprintf("/api/numbers/%d/void", lives[0].Number.Id), `{"why": "Again."}`), "This number is printed, spoiled, voided or returned already.")
}

// What is scanned after printing is held against the labels of the run; what is not as meant pauses what is printing.
func TestPrintedLabelsAreScannedBack(t *testing.T) {
	s := newSite(t)
	s.signIn()
	s.series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	d := s.numbered("datamatrix", []design.Piece{{Text: "T-"}, {Field: "totes"}}, design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	run := s.prepare(d, "1-3", 2)
	other := s.prepare(d, "1", 1)
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	s.print(run.Id, `{"kind": "sample", "labels": "1-4"}`)
	scan := func(text string) (said api.Scanned) {
		require.Equal(t, 200, s.do("POST", path+"/scans", map[string]any{"scanned": text, "stop": true}, &said))
		return said
	}
	for i, want := range []struct {
		scanned, outcome, text string
		label                  int
	}{
		{"]d1T-2\r", "meant", "Label 2 is as meant.", 2},
		{"T-2", "again", "Label 2 was scanned before.", 2},
		{"T-6", "unprinted", "is not known to have come out", 6},
		{"T-99", "other", "No label of this run says this.", 0},
		{other.Numbers[0].First, "other", fmt.Sprintf("The number %s is of run %d.", other.Numbers[0].First, other.Id), 0},
	} {
		said := scan(want.scanned)
		require.Equal(t, want.outcome, string(said.Outcome), "scan %d", i)
		require.Contains(t, said.Text, want.text)
		if want.label > 0 {
			require.Equal(t, want.label, *said.Label)
			require.NotEmpty(t, said.Values)
		}
	}
	require.Equal(t, 200, s.do("POST", path+"/spoiled", `{"labels": "3-4", "numbers": "same"}`, nil))
	require.Equal(t, "spoiled", string(scan("T-3").Outcome))
	require.Equal(t, 200, s.do("POST", path+"/spoiled", `{"labels": "2", "numbers": "new"}`, nil))
	require.Contains(t, scan("2").Text, "is no longer on a label of this run: it is spoiled")
	s.print(run.Id, `{"kind": "rest"}`)
	require.Equal(t, "meant", string(scan("T-3").Outcome), "it was printed again")
	var all api.Scans
	require.Equal(t, 200, s.do("GET", path+"/scans", nil, &all))
	require.Equal(t, []any{2, 5, 6, 8}, []any{all.Meant, all.Wrong, all.Printed, len(all.Latest)})

	long := s.prepare(d, "1-3", 200)
	require.Equal(t, 200, s.do("POST", fmt.Sprintf("/api/runs/%d/prints", long.Id), `{"kind": "all"}`, nil))
	path = fmt.Sprintf("/api/runs/%d", long.Id)
	require.Eventually(t, func() bool { require.Equal(t, 200, s.do("GET", path, nil, &long)); return long.Printed > 0 }, 30*time.Second, time.Millisecond)
	require.True(t, scan("X").Stopped)
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.do("GET", path, nil, &long))
		return long.Prints[0].State == api.PrintStateHeld
	}, 30*time.Second, 5*time.Millisecond)
	require.Equal(t, []any{"Paused by Maren.", false}, []any{long.Prints[0].Text, long.Prints[0].InDoubt})
	require.Less(t, long.Printed, 600)
	require.Equal(t, 204, s.do("POST", fmt.Sprintf("/api/prints/%d/go-on", long.Prints[0].Id), map[string]any{"lastLabel": long.Prints[0].LastOut}, nil))
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.do("GET", path, nil, &long))
		return long.Printed > long.Prints[0].FirstLabel
	}, 30*time.Second, 5*time.Millisecond)
	require.Equal(t, 204, s.do("POST", fmt.Sprintf("/api/prints/%d/pause", long.Prints[0].Id), nil, nil))
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.do("GET", path, nil, &long))
		return long.Prints[0].State != api.PrintStatePrinting
	}, 30*time.Second, 5*time.Millisecond)
	require.Equal(t, 204, s.do("POST", fmt.Sprintf("/api/prints/%d/cancel", long.Prints[0].Id), nil, nil))
}

// The labels of a run go out as files; a number that went out so is given to no other label.
func TestLabelsGoOutAsFiles(t *testing.T) {
	s := newSite(t)
	s.signIn()
	made := s.series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	d := s.numbered("datamatrix", []design.Piece{{Text: "T-"}, {Field: "totes"}}, design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	run := s.prepare(d, "1-3", 2)
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	get := func(query string) []byte {
		response, err := s.client.Get(s.web.URL + path + "/labels/file?" + query)
		require.NoError(t, err)
		defer response.Body.Close()
		data, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		require.Equal(t, 200, response.StatusCode, string(data))
		require.Contains(t, response.Header.Get("Content-Disposition"), fmt.Sprintf("run-%d-", run.Id))
		return data
	}
	raster := pwg.NewReader(bytes.NewReader(get("format=pwg")))
	pages := 0
	for ; ; pages++ {
		if _, err := raster.Next(); err != nil {
			require.ErrorIs(t, err, io.EOF)
			break
		}
	}
	require.Equal(t, 6, pages)
	require.Contains(t, string(get("format=pdf&labels=2-3")), "/Count 2")
	for format, begins := range map[string]string{"png": "\x89PNG", "svg": "<svg"} {
		data := get("labels=2,5-6&format=" + format)
		files, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
		require.NoError(t, err)
		var names []string
		for _, f := range files.File {
			names = append(names, f.Name)
			in, err := f.Open()
			require.NoError(t, err)
			text, err := io.ReadAll(in)
			require.NoError(t, err)
			require.Contains(t, string(text[:min(len(text), 100)]), begins)
		}
		require.Equal(t, []string{"label-2." + format, "label-5." + format, "label-6." + format}, names)
	}
	require.Contains(t, s.problem(422, "GET", path+"/labels/file?format=pdf&labels=7", nil), "with records from 1 to 6")
	require.Equal(t, 200, s.do("PUT", path, map[string]any{"records": "1-2", "howMany": map[string]any{"each": 1}, "printerId": run.Printer.Id}, &run))
	require.Equal(t, []string{"7", "8"}, []string{run.Numbers[0].First, run.Numbers[0].Last}, "1 to 6 are in the files")
	require.Equal(t, []int{8, 2, 0, 0, 6, 0}, s.account(made.Id))
	require.Equal(t, 200, s.do("POST", path+"/close", nil, nil))
	require.Equal(t, 409, s.do("GET", path+"/labels/file?format=pdf", nil, nil))
}

// The labels that are left are spread over the roll in the printer and those that lie in the Stockroom, the begun ones first.
func TestTheRollPlan(t *testing.T) {
	s := newSite(t)
	s.signIn()
	var run api.Run
	require.Equal(t, 200, s.do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2, "choice": {"records": "", "howMany": {"each": 20}, "printerId": 0}}`, &run))
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	plan := func() (told []string) {
		require.Eventually(t, func() bool { require.Equal(t, 200, s.do("GET", path, nil, &run)); return run.RollPlan != nil }, 5*time.Second, 20*time.Millisecond)
		for _, r := range run.RollPlan.Stretches {
			told = append(told, fmt.Sprintf("%s %d-%d %d", r.From, r.First, r.Last, r.Left))
		}
		return told
	}
	plan()
	full := run.RollPlan.FullRoll
	require.Positive(t, full)
	inPrinter := run.RollPlan.Stretches[0].Last
	require.Equal(t, []string{fmt.Sprintf("printer 1-%d 0", inPrinter), fmt.Sprintf("missing %d-4800 0", inPrinter+1)}, plan())
	require.Equal(t, (4800-inPrinter+full-1)/full, *run.RollPlan.Stretches[1].Rolls)
	about := struct{ Number string }{}
	require.NoError(t, json.Unmarshal(run.Stock, &about))
	for left, rolls := range map[int]int{900: 1, 5000: 2} {
		require.Equal(t, 204, s.do("POST", "/api/rolls", api.AddRolls{Stock: about.Number, Left: int64(left), Rolls: rolls, Place: new("shelf 3")}, nil))
	}
	require.Equal(t, 404, s.do("POST", "/api/rolls", api.AddRolls{Stock: "X", Left: 1, Rolls: 1}, nil))
	require.Equal(t, 400, s.do("POST", "/api/rolls", api.AddRolls{Stock: about.Number, Left: 0, Rolls: 1}, nil))
	told := plan()
	require.Equal(t, []string{fmt.Sprintf("stockroom %d-%d 0", inPrinter+1, inPrinter+900), fmt.Sprintf("stockroom %d-4800 %d", inPrinter+901, 5000-(4800-inPrinter-900))}, told[1:])
	require.Equal(t, "shelf 3", *run.RollPlan.Stretches[1].Place)
	require.Equal(t, 204, s.do("DELETE", fmt.Sprintf("/api/rolls/%d", *run.RollPlan.Stretches[1].RollId), nil, nil))
	require.Equal(t, 404, s.do("DELETE", fmt.Sprintf("/api/rolls/%d", *run.RollPlan.Stretches[1].RollId), nil, nil))
	require.Len(t, plan(), 2)

	require.Equal(t, 200, s.do("POST", "/api/runs", `{"designId": 1, "recordSetId": 1}`, &run)) // four of 48 have errors
	path = fmt.Sprintf("/api/runs/%d", run.Id)
	require.Equal(t, 200, s.do("GET", path+"/proof", nil, nil))
	require.Contains(t, plan()[0], "printer 1-44 ")
	var rolls []api.Roll
	require.Equal(t, 200, s.do("GET", "/api/rolls?stock="+url.QueryEscape(about.Number), nil, &rolls))
	require.Len(t, rolls, 2)
}

// What is printed day after day is started with one gesture, with the newest records; what a person must look at first waits for one.
func TestOrdersOfTheDay(t *testing.T) {
	s := newSite(t)
	s.signIn()
	list := func() (orders []api.DayOrder) {
		require.Equal(t, 200, s.do("GET", "/api/orders-of-the-day", nil, &orders))
		return orders
	}
	require.Equal(t, []string{"Bins of the morning", "Bin label, north shed", "bins.csv", "1-24"}, []string{list()[0].Name, list()[0].Design, list()[0].RecordSet, list()[0].Records})
	start := func(id int64) (started api.StartedDayOrder, run api.Run) {
		require.Equal(t, 200, s.do("POST", fmt.Sprintf("/api/orders-of-the-day/%d/start", id), nil, &started))
		require.Equal(t, 200, s.do("GET", fmt.Sprintf("/api/runs/%d", started.Id), nil, &run))
		return started, run
	}
	started, run := start(list()[0].Id)
	require.Equal(t, []any{"", 24, 1}, []any{started.Why, run.Labels, len(run.Prints)})
	var body api.RunChoice
	require.Equal(t, 200, s.do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2, "choice": {"records": "3-5", "howMany": {"each": 2, "corrected": {"4": 7}}, "printerId": 0}}`, &run))
	body = run.Choice
	require.Equal(t, 7, (*body.HowMany.Corrected)["4"])
	require.Contains(t, s.problem(422, "POST", "/api/orders-of-the-day", map[string]any{"runId": run.Id, "name": " "}), "Give the order of the day a name.")
	for range 2 { // one of that name is replaced
		require.Equal(t, 200, s.do("POST", "/api/orders-of-the-day", map[string]any{"runId": run.Id, "name": "A few"}, nil))
	}
	few := list()[0]
	require.Equal(t, []any{2, "A few", "3-5", run.Printer.Name}, []any{len(list()), few.Name, few.Records, few.Printer})
	shorter, err := s.store.AddRecordSet(t.Context(), "bins.csv", []string{"bin", "contents", "lot", "bags", "code", "serial"}, [][]string{{"a", "b", "c", "1", "d", "e"}}, "Maren")
	require.NoError(t, err)
	require.Contains(t, s.problem(422, "POST", fmt.Sprintf("/api/orders-of-the-day/%d/start", few.Id), nil), "with records from 1 to 1")
	many := make([][]string, 5)
	for i := range many {
		many[i] = []string{fmt.Sprint(i), "kelp", "L", "1", fmt.Sprintf("C%d", i), "1"}
	}
	many[4][4] = "" // a label without what its code should say
	newest, err := s.store.AddRecordSet(t.Context(), "bins.csv", shorter.Fields, many, "Maren")
	require.NoError(t, err)
	started, run = start(few.Id)
	require.Equal(t, []any{"2 of 6 labels have errors.", newest.ID, 6, 0}, []any{started.Why, *run.RecordSetId, run.Labels, len(run.Prints)})
	require.Equal(t, 204, s.do("DELETE", fmt.Sprintf("/api/orders-of-the-day/%d", few.Id), nil, nil))
	require.Equal(t, 404, s.do("POST", fmt.Sprintf("/api/orders-of-the-day/%d/start", few.Id), nil, nil))
	require.Len(t, list(), 1)
}

// A label comes when it is asked for: the next, or that of what was scanned.
func TestLabelsOnDemand(t *testing.T) {
	s := newSite(t)
	s.signIn()
	made := s.series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	d := s.numbered("datamatrix", []design.Piece{{Field: "bin"}, {Text: "/"}, {Field: "totes"}}, design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	run := s.prepare(d, "1-3", 2)
	records, err := s.store.Records(t.Context(), 2, 1, 4)
	require.NoError(t, err)
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	next := func(scanned string) (label api.NextLabel) {
		require.Equal(t, 200, s.do("POST", path+"/next", map[string]string{"scanned": scanned}, &label))
		require.Eventually(t, func() bool {
			require.Equal(t, 200, s.do("GET", path, nil, &run))
			last := run.Prints[len(run.Prints)-1]
			return last.State == api.PrintStateDone && last.ReadBack == 1
		}, 30*time.Second, 10*time.Millisecond)
		return label
	}
	bin := records[2][0]
	require.Equal(t, 5, next(bin+"\r\n").Label)
	label := next("")
	require.Equal(t, []any{1, 1, records[0]}, []any{label.Label, label.Record, label.Values})
	require.Equal(t, 6, next(bin).Label)
	require.Contains(t, s.problem(422, "POST", path+"/next", map[string]string{"scanned": bin}), "All labels of record 3 are out.")
	require.Contains(t, s.problem(422, "POST", path+"/next", map[string]string{"scanned": "X-99"}), "No record of this run says “X-99”.")
	require.Contains(t, s.problem(422, "POST", path+"/next", map[string]string{"scanned": records[3][0]}), "No record of this run says")
	for _, want := range []int{2, 3, 4} {
		require.Equal(t, want, next("").Label)
	}
	require.Contains(t, s.problem(422, "POST", path+"/next", `{}`), "There is no label to print")
	require.Equal(t, []int{6, 0, 6, 0, 0, 0}, s.account(made.Id))
}
