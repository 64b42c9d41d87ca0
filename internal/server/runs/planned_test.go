package runs_test

import (
	"encoding/json"
	"fmt"
	"net/url"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/series"
	"oddspool/internal/api"
)

func TestRunsAreFound(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	s.Series("totes", series.Spec{Prefix: "T-", Start: "001", Step: 1}, api.Return)
	d := s.Numbered("datamatrix", []design.Piece{{Field: "totes"}},
		design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	few, all := s.Prepare(d, "1-2", 1), s.Prepare(d, "", 1)
	s.Print(few.Id, `{"kind": "all"}`)
	other := api.Run{}
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 1, "recordSetId": 1}`, &other))
	records, err := s.Store.Records(t.Context(), 2, 1, 3)
	require.NoError(t, err)
	list := func(query url.Values) (ids []int64) {
		var runs []api.RunEntry
		require.Equal(t, 200, s.Do("GET", "/api/runs?"+query.Encode(), nil, &runs))
		for _, run := range runs {
			ids = append(ids, run.Id)
		}
		return ids
	}
	today, tomorrow := time.Now().Format(time.DateOnly), time.Now().AddDate(0, 0, 1).Format(time.DateOnly)
	for find, want := range map[string][]int64{
		"":                    {few.Id, other.Id, all.Id},
		"numbered maren":      {few.Id, all.Id},
		"rack dock":           {other.Id},
		"S-076":               {few.Id, other.Id, all.Id},
		records[0][0]:         {few.Id, all.Id},
		records[2][0]:         {all.Id},
		few.Numbers[0].First:  {few.Id},
		"]C1" + records[2][0]: {all.Id},
		"https://id.brinewick.example/8004/0952123" + records[2][0]:          nil,
		"https://id.brinewick.example/01/09521234543213/21/" + records[2][0]: {all.Id},
		"numbered 100 % nobody": nil,
	} {
		require.ElementsMatch(t, want, list(url.Values{"find": {find}}), find)
	}
	require.Len(t, list(url.Values{"from": {today}, "to": {today}}), 3)
	require.Empty(t, list(url.Values{"from": {tomorrow}}))
	require.Len(t, list(url.Values{"most": {"2"}, "skip": {"1"}}), 2)
	require.Contains(t, s.Problem(422, "GET", "/api/runs?from=yesterday", nil), "is no day")
}

func TestWhatWasUsed(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	s.Series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	d := s.Numbered("datamatrix", []design.Piece{{Field: "totes"}},
		design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	run := s.Prepare(d, "1-5", 2)
	s.Print(run.Id, `{"kind": "sample", "labels": "1-3"}`)
	s.Print(run.Id, `{"kind": "rest"}`)
	_, err := s.Store.DB.Exec(`update prints set started_at = now() - interval '3 days',
			ended_at = now() - interval '3 days' where kind = 'sample'`)
	require.NoError(t, err)
	var used api.Used
	require.Equal(t, 200, s.Do("GET", "/api/used?days=5", nil, &used))
	require.Equal(t, time.Now().Format(time.DateOnly), used.Days[4])
	require.Len(t, used.Used, 1)
	line := used.Used[0]
	require.Equal(t, []any{"Dock 2", "S-076", []int{0, 3, 0, 0, 7}}, []any{line.Printer, line.Stock, line.Labels})
	require.InDelta(t, 7*0.041, line.Metres[4], 1e-9, "38 mm and a gap of 3 mm each")
	require.Contains(t, s.Problem(422, "GET", "/api/used?days=5000", nil), "up to 366")
}

func TestRunsInSets(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	s.Series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	count := series.Spec{Start: "1", Step: 1}
	d := s.Numbered("datamatrix", []design.Piece{{Field: "bin"}, {Field: "totes"}},
		design.Numbered{Name: "totes", Counts: count})
	body := func(id int64) string {
		return fmt.Sprintf(`{"designId": %d, "recordSetId": 2, "choice": {"records": "2-3", "howMany": {"each": 2, "sets": true}, "printerId": 0}}`, id)
	}
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs", body(d.Id), &run))
	require.Equal(t, []any{4, 2, true}, []any{run.Labels, run.Chosen, *run.Choice.HowMany.Sets})
	var labels api.RunLabels
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Equal(t, 200, s.Do("GET", path+"/labels", nil, &labels))
	var records []int
	for _, label := range labels.Labels {
		records = append(records, label.Record)
	}
	require.Equal(t, []int{2, 3, 2, 3}, records)
	require.Equal(t, []string{"1", "2", "3", "4"}, s.Said(run))
	var shown []api.RunRecord
	require.Equal(t, 200, s.Do("GET", path+"/records?from=1&most=4", nil, &shown))
	require.Equal(t, []int{0, 2, 2, 0}, []int{shown[0].Copies, shown[1].Copies, shown[2].Copies, shown[3].Copies})
	s.Print(run.Id, `{"kind": "all"}`)
	each := s.Numbered("datamatrix", []design.Piece{{Field: "totes"}}, design.Numbered{Name: "totes", Counts: count,
		Per: design.PerRecord})
	require.Contains(t, s.Problem(422, "POST", "/api/runs", body(each.Id)),
		"gives a number to each record, whose labels must follow one another")
}

func TestTheRollPlan(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		`{"designId": 2, "recordSetId": 2, "choice": {"records": "", "howMany": {"each": 20}, "printerId": 0}}`, &run))
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	plan := func() (told []string) {
		require.Eventually(t, func() bool {
			require.Equal(t, 200,
				s.Do("GET", path, nil, &run))
			return run.RollPlan != nil
		}, 5*time.Second, 20*time.Millisecond)
		for _, r := range run.RollPlan.Stretches {
			told = append(told, fmt.Sprintf("%s %d-%d %d", r.From, r.First, r.Last, r.Left))
		}
		return told
	}
	plan()
	full := run.RollPlan.FullRoll
	require.Equal(t, 300, run.RollPlan.Ribbon.Each)
	require.InDelta(t, run.WebMillimetres/1000*float64(run.Left)/float64(run.Labels), run.RollPlan.Ribbon.Metres, 0.01,
		"the ribbon goes with the web")
	require.InDelta(t, 300_000/(run.WebMillimetres/float64(run.Labels)), run.RollPlan.Ribbon.Labels, 1)
	require.Positive(t, full)
	inPrinter := run.RollPlan.Stretches[0].Last
	require.Equal(t, []string{fmt.Sprintf("printer 1-%d 0", inPrinter), fmt.Sprintf("missing %d-4800 0", inPrinter+1)},
		plan())
	require.Equal(t, (4800-inPrinter+full-1)/full, *run.RollPlan.Stretches[1].Rolls)
	about := struct{ Number string }{}
	require.NoError(t, json.Unmarshal(run.Stock, &about))
	for left, rolls := range map[int]int{900: 1, 5000: 2} {
		require.Equal(t, 204, s.Do("POST", "/api/rolls", api.AddRolls{Stock: about.Number, Left: int64(left),
			Rolls: rolls, Place: new("shelf 3")}, nil))
	}
	require.Equal(t, 404, s.Do("POST", "/api/rolls", api.AddRolls{Stock: "X", Left: 1, Rolls: 1}, nil))
	require.Equal(t, 400, s.Do("POST", "/api/rolls", api.AddRolls{Stock: about.Number, Left: 0, Rolls: 1}, nil))
	told := plan()
	require.Equal(t, []string{fmt.Sprintf("stockroom %d-%d 0", inPrinter+1, inPrinter+900),
		fmt.Sprintf("stockroom %d-4800 %d", inPrinter+901, 5000-(4800-inPrinter-900))}, told[1:])
	require.Equal(t, "shelf 3", *run.RollPlan.Stretches[1].Place)
	require.Equal(t, 204, s.Do("DELETE", fmt.Sprintf("/api/rolls/%d", *run.RollPlan.Stretches[1].RollId), nil, nil))
	require.Equal(t, 404, s.Do("DELETE", fmt.Sprintf("/api/rolls/%d", *run.RollPlan.Stretches[1].RollId), nil, nil))
	require.Len(t, plan(), 2)

	// four of 48 have errors
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 1, "recordSetId": 1}`, &run))
	path = fmt.Sprintf("/api/runs/%d", run.Id)
	require.Equal(t, 200, s.Do("GET", path+"/proof", nil, nil))
	require.Contains(t, plan()[0], "printer 1-44 ")
	var rolls []api.Roll
	require.Equal(t, 200, s.Do("GET", "/api/rolls?stock="+url.QueryEscape(about.Number), nil, &rolls))
	require.Len(t, rolls, 2)
}

func TestOrdersOfTheDay(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	list := func() (orders []api.DayOrder) {
		require.Equal(t, 200, s.Do("GET", "/api/orders-of-the-day", nil, &orders))
		return orders
	}
	require.Equal(t, []string{"Bins of the morning", "Bin label, north shed", "bins.csv", "1-24"},
		[]string{list()[0].Name, list()[0].Design, list()[0].RecordSet, list()[0].Records})
	start := func(id int64) (started api.StartedDayOrder, run api.Run) {
		require.Equal(t, 200, s.Do("POST", fmt.Sprintf("/api/orders-of-the-day/%d/start", id), nil, &started))
		require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d", started.Id), nil, &run))
		return started, run
	}
	started, run := start(list()[0].Id)
	require.Equal(t, []any{"", 24, 1}, []any{started.Why, run.Labels, len(run.Prints)})
	var body api.RunChoice
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		`{"designId": 2, "recordSetId": 2, "choice": {"records": "3-5", "howMany": {"each": 2, "corrected": {"4": 7}}, "printerId": 0}}`, &run))
	body = run.Choice
	require.Equal(t, 7, (*body.HowMany.Corrected)["4"])
	require.Contains(t, s.Problem(422, "POST", "/api/orders-of-the-day", map[string]any{"runId": run.Id, "name": " "}),
		"Give the order of the day a name.")
	for range 2 { // one of that name is replaced
		require.Equal(t, 200, s.Do("POST", "/api/orders-of-the-day", map[string]any{"runId": run.Id, "name": "A few"},
			nil))
	}
	few := list()[0]
	require.Equal(t, []any{2, "A few", "3-5", run.Printer.Name}, []any{len(list()), few.Name, few.Records, few.Printer})
	shorter, err := s.Store.AddRecordSet(t.Context(), "bins.csv", []string{"bin", "contents", "lot", "bags", "code",
		"serial"}, [][]string{{"a", "b", "c", "1", "d", "e"}}, "Maren")
	require.NoError(t, err)
	require.Contains(t, s.Problem(422, "POST", fmt.Sprintf("/api/orders-of-the-day/%d/start", few.Id), nil),
		"with numbers from 1 to 1")
	many := make([][]string, 5)
	for i := range many {
		many[i] = []string{fmt.Sprint(i), "kelp", "L", "1", fmt.Sprintf("C%d", i), "1"}
	}
	many[4][4] = "" // a label without what its code should say
	newest, err := s.Store.AddRecordSet(t.Context(), "bins.csv", shorter.Fields, many, "Maren")
	require.NoError(t, err)
	started, run = start(few.Id)
	require.Equal(t, []any{"2 of 6 labels have errors.", newest.ID, 6, 0},
		[]any{started.Why, *run.RecordSetId, run.Labels, len(run.Prints)})
	require.Equal(t, 204, s.Do("DELETE", fmt.Sprintf("/api/orders-of-the-day/%d", few.Id), nil, nil))
	require.Equal(t, 404, s.Do("POST", fmt.Sprintf("/api/orders-of-the-day/%d/start", few.Id), nil, nil))
	require.Len(t, list(), 1)
}

func TestHowFarALookAtTheLabelsIs(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		`{"designId": 2, "recordSetId": 2, "choice": {"records": "", "howMany": {"each": 400}, "printerId": 0}}`, &run))
	path := fmt.Sprintf("/api/runs/%d/proof", run.Id)
	far := func() (now struct{ Looked int }) {
		require.Equal(t, 200, s.Do("GET", path+"/progress", nil, &now))
		return now
	}
	require.Zero(t, far().Looked, "nobody looks")
	require.Equal(t, 200, s.Do("GET", path, nil, nil))
	require.Zero(t, far().Looked, "nobody looks any more")
}
