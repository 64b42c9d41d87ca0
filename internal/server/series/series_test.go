package series_test

import (
	"fmt"
	"net/url"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/series"
	"oddspool/internal/api"
)

// Numbers are on the labels as the camera sees them, their lives are told, and a scanned code leads to them.
func TestSeriesFromTheFirstNumberToItsFate(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	made := s.Series(" totes ", series.Spec{Start: "0417", Step: 1, Width: 4}, api.Return)
	require.Equal(t, "totes", made.Name)
	require.Contains(t, s.Problem(422, "POST", "/api/series", api.AddSeries{Name: "totes", Counts: series.Spec{Step: 1},
		Unused: api.Void}), "There is a number series “totes” already.")
	require.Contains(t, s.Problem(422, "POST", "/api/series",
		api.AddSeries{Name: "x", Counts: series.Spec{Step: 1, Digits: "ABA"}, Unused: api.Void}), "has “A” twice")
	require.Contains(t, s.Problem(422, "POST", "/api/series",
		map[string]any{"name": "x", "counts": series.Spec{Step: 1}, "unused": "void", "list": []string{"7", "8", "7"}}),
		"“7” stands in the list twice, on lines 1 and 3.")
	require.Contains(t, s.Problem(422, "POST", "/api/series",
		map[string]any{"name": "x", "counts": series.Spec{Step: 1}, "unused": "void", "list": []string{"7 "}}),
		"white space at its ends")

	d := s.Numbered("gs1-128", []design.Piece{{Text: "(01)09521234543213(21)"}, {Field: "totes"}},
		design.Numbered{Name: "totes", Counts: series.Spec{Start: "0417", Step: 1, Width: 4}})
	run := s.Prepare(d, "1-3", 1)
	require.Equal(t, []api.RunNumbers{{SeriesId: made.Id, Series: "totes", First: "0417", Last: "0419", Count: 3}},
		run.Numbers)
	run = s.Print(run.Id, `{"kind": "sample", "labels": "1-2"}`)
	require.Equal(t, 2, run.Prints[0].ReadBack, "each says its own number")
	require.Equal(t, []int{3, 1, 2, 0, 0, 0}, s.Account(made.Id))

	var lives []api.NumberLife
	for _, typed := range []string{"0418", " 0418\r\n", "(01)09521234543213(21)0418", "]C10109521234543213210418"} {
		require.Equal(t, 200, s.Do("GET", "/api/numbers?number="+url.QueryEscape(typed), nil, &lives))
		require.Len(t, lives, 1, typed)
		require.Equal(t, []any{"0418", api.NumberStatePrinted, run.Id, 2},
			[]any{lives[0].Number.Number, lives[0].Number.State, lives[0].Number.RunId, lives[0].Number.FirstLabel})
		require.Len(t, lives[0].Labels, 1)
		require.Equal(t, []any{"Dock 2", api.NumberedLabelState("printed"), "meant"},
			[]any{lives[0].Labels[0].Printer, lives[0].Labels[0].State, string(*lives[0].Labels[0].ReadBack)})
	}
	lives = nil
	require.Equal(t, 200, s.Do("GET", "/api/numbers?number=0500", nil, &lives))
	require.Empty(t, lives)

	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Contains(t, s.Problem(422, "POST", path+"/spoiled", `{"labels": "3", "numbers": "new"}`),
		"None of these labels came out")
	require.Contains(t, s.Problem(422, "POST", path+"/spoiled", `{"labels": "9", "numbers": "new"}`), "9")
	require.Equal(t, 200, s.Do("POST", path+"/spoiled", `{"labels": "2", "numbers": "new"}`, &run))
	require.Equal(t, []int{1, 2}, []int{run.Printed, run.Left})
	run = s.Print(run.Id, `{"kind": "rest"}`)
	require.Equal(t, []int{2, 0}, []int{run.Prints[1].ReadBack, run.Left})
	require.Equal(t, []int{4, 0, 3, 1, 0, 0}, s.Account(made.Id))
	var pieces []api.Piece
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/prints/%d/pieces", run.Prints[0].Id), nil, &pieces))
	require.Equal(t, "spoiled", string(pieces[1].State))

	// What was printed, as a file.
	for _, format := range []string{"csv", "xlsx"} {
		rows := s.Table(path+"/list?format="+format, format)
		require.Len(t, rows, 5)
		require.Equal(t, []string{"label", "record", "bin"}, rows[0][:3])
		require.Equal(t, []string{"0418", "spoiled", "meant", "", fmt.Sprint(run.Prints[0].Id), "sample", "Dock 2",
			"Maren"}, rows[2][8:16])
		require.Equal(t, []string{"0420", "printed", "meant", "", fmt.Sprint(run.Prints[1].Id), "rest", "Dock 2",
			"Maren"}, rows[3][8:16])
	}

	// What is left of a run is given up.
	second := s.Prepare(d, "1-2", 1)
	require.Equal(t, 200, s.Do("POST", fmt.Sprintf("/api/runs/%d/close", second.Id), nil, &second))
	require.NotNil(t, second.ClosedAt)
	require.Equal(t, "Maren", second.ClosedBy)
	require.Equal(t, []int{6, 0, 3, 1, 0, 2}, s.Account(made.Id))
	require.Contains(t, s.Problem(409, "POST", fmt.Sprintf("/api/runs/%d/prints", second.Id), `{"kind": "all"}`),
		"This run was given up")

	// The list as a file says the same in each format, zeros and all.
	list := fmt.Sprintf("/api/series/%d/list?format=", made.Id)
	listed := s.Table(list+"csv", "csv")
	require.Equal(t, listed, s.Table(list+"xlsx", "xlsx"))
	require.Equal(t, []string{"0418", "", "spoiled"}, listed[2][:3])
	var all []api.TakenNumber
	require.Equal(t, 200, s.Do("GET", list+"json", nil, &all))
	require.Len(t, all, 6)
	require.Equal(t, "0417", all[0].Number)
}

func TestWhatNumbersAreCountedFor(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	records, err := s.Store.Records(t.Context(), 2, 1, 4)
	require.NoError(t, err)
	set, err := s.Store.RecordSet(t.Context(), 2)
	require.NoError(t, err)
	bin := slices.Index(set.Fields, "bin")
	made := s.Series("totes", series.Spec{Start: "1", Step: 1}, api.Void)
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
		d := s.Numbered("datamatrix", says, test.number)
		run := s.Prepare(d, "1-2", 2)
		require.Equal(t, test.want, s.Said(run), "%+v", test.number)
		run = s.Print(run.Id, `{"kind": "all"}`)
		require.Equal(t, 4, run.Prints[0].ReadBack)
	}
	d := s.Numbered("datamatrix", says, design.Numbered{Name: "totes", Anew: `bin + nothing`,
		Counts: series.Spec{Start: "1", Step: 1}})
	require.Contains(t, s.Problem(422, "POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": 2}`, d.Id)),
		"The number series “totes” cannot tell when it starts over.")
	d = s.Numbered("datamatrix", says, design.Numbered{Name: "unknown", Counts: series.Spec{Start: "1", Step: 1}})
	require.Contains(t, s.Problem(422, "POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": 2}`, d.Id)),
		"There is no number series “unknown” here.")
	d = s.Numbered("datamatrix", says, design.Numbered{Name: "bin", Counts: series.Spec{Start: "1", Step: 1}})
	require.Contains(t, s.Problem(422, "POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": 2}`, d.Id)),
		"The records have a field “bin”, and a number series of the design has that name too.")
	var next api.SeriesNumbers
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/series/%d/next?most=2&key=%s", made.Id,
		url.QueryEscape(records[0][bin])), nil, &next))
	require.Equal(t, []string{"3", "4"}, next.Numbers)
}

// Runs are found by words about them, by a value of their records, by a number on their labels, and by days.
// What each printer used of each stock is told by days.
// An applicator asks on a line, and is answered on it.
// Who does not mind where has a run printed on the next printer that is free and can print it.
// A run may be printed as a whole again and again; what is asked for each label is asked of each.
func TestAListOfReadyNumbersIsUsedUp(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var made api.NumberSeries
	body := api.AddSeries{Name: "tags", Counts: series.Spec{Start: "0", Step: 1}, Unused: api.Return,
		List: &[]string{"00A7", "Z9", "Q-1"}}
	require.Equal(t, 200, s.Do("POST", "/api/series", body, &made))
	require.True(t, made.Listed)
	var next api.SeriesNumbers
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/series/%d/next", made.Id), nil, &next))
	require.Equal(t, api.SeriesNumbers{Numbers: *body.List, Ends: "Then those of the list are used up."}, next)
	d := s.Numbered("code128", []design.Piece{{Field: "tags"}},
		design.Numbered{Name: "tags", Counts: series.Spec{Start: "0", Step: 1}})
	run := s.Prepare(d, "1-2", 1)
	require.Equal(t, []string{"00A7", "Z9"}, s.Said(run))
	require.Contains(t, s.Problem(422, "POST", "/api/runs",
		fmt.Sprintf(`{"designId": %d, "recordSetId": 2, "choice": {"records": "1-2", "howMany": {"each": 1}, "printerId": 0}}`, d.Id)),
		"has 1 of the 2 numbers that are needed: those of its list are used up. No number was taken.")
	require.Equal(t, 200, s.Do("PUT", fmt.Sprintf("/api/series/%d", made.Id),
		api.ChangeSeries{Counts: made.Counts, Unused: api.Void}, &made))
	require.Equal(t, api.Void, made.Unused)
	require.Contains(t, s.Problem(422, "PUT", fmt.Sprintf("/api/series/%d", made.Id),
		api.ChangeSeries{Counts: series.Spec{Start: "5", Step: 1}, Unused: api.Void}),
		"Numbers of this series were taken already")
	var counted api.SeriesNumbers
	require.Equal(t, 200, s.Do("POST", "/api/series/count", `{"counts": {"start": "98", "step": 1, "width": 2}}`,
		&counted))
	require.Equal(t, []string{"98", "99"}, counted.Numbers)
	require.Contains(t, counted.Ends, "2 digits are used up")
	require.Equal(t, 204, s.Do("DELETE", fmt.Sprintf("/api/series/%d", made.Id), nil, nil))
	var all []api.NumberSeries
	require.Equal(t, 200, s.Do("GET", "/api/series", nil, &all))
	require.False(t, slices.ContainsFunc(all, func(n api.NumberSeries) bool { return n.Id == made.Id }))
	var lives []api.NumberLife
	require.Equal(t, 200, s.Do("GET", "/api/numbers?number=00A7", nil, &lives))
	require.Equal(t, 204, s.Do("POST", fmt.Sprintf("/api/numbers/%d/void", lives[0].Number.Id),
		`{"why": "The tag is lost."}`, nil))
	require.Equal(t, 200, s.Do("GET", "/api/numbers?number=00A7", nil, &lives))
	require.Equal(t, []string{"voided", "Maren", "The tag is lost."},
		[]string{string(lives[0].Number.State), lives[0].Number.ChangedBy, lives[0].Number.Why})
	require.Equal(t, []string{"Q-1", "Z9"}, s.Said(run), "its label has another")
	require.Contains(t, s.Problem(422, "POST", fmt.Sprintf("/api/numbers/%d/void", lives[0].Number.Id),
		`{"why": "Again."}`), "This number is printed, spoiled, voided or returned already.")
}

// What is scanned after printing is held against the labels of the run; what is not as meant pauses what is printing.
// The labels of a run go out as files; a number that went out so is given to no other label. The labels that are left
// are spread over the roll in the printer and those that lie in the Stockroom, the begun ones first. What is printed
// day after day is started with one gesture, with the newest records; what a person must look at first waits for one. A
// label comes when it is asked for: the next, or that of what was scanned.

// A series is put ahead from its page: behind a number on a label, or by so many.
func TestASeriesIsPutAhead(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var series api.NumberSeries
	require.Equal(t, 200, s.Do("POST", "/api/series",
		`{"name": "totes", "counts": {"start": "1", "step": 1, "width": 4, "prefix": "T-"}, "unused": "return"}`,
		&series))
	path := fmt.Sprintf("/api/series/%d/ahead", series.Id)
	require.Contains(t, s.Problem(422, "POST", path, `{}`), "Say the highest number")
	require.Contains(t, s.Problem(422, "POST", path, `{"last": "T-0007", "ahead": 3}`), "either")
	require.Contains(t, s.Problem(422, "POST", path, `{"last": "kelp"}`), "no number of this series")
	require.Equal(t, 200, s.Do("POST", path, `{"last": "T-0007", "why": "found on a tote"}`, &series))
	require.Len(t, series.Skipped, 1)
	require.Equal(t, []any{"T-0001", "T-0007", 7, "Maren", "found on a tote"},
		[]any{series.Skipped[0].First, series.Skipped[0].Last, series.Skipped[0].Count, series.Skipped[0].By,
			series.Skipped[0].Why})
	require.Contains(t, s.Problem(422, "POST", path, `{"last": "T-0005"}`), "never back")
	require.Equal(t, 200, s.Do("POST", path, `{"ahead": 2}`, &series))
	var next api.SeriesNumbers
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/series/%d/next?most=1", series.Id), nil, &next))
	require.Equal(t, []string{"T-0010"}, next.Numbers)

	var listed api.NumberSeries
	require.Equal(t, 200, s.Do("POST", "/api/series",
		`{"name": "listed", "counts": {"start": "1", "step": 1}, "list": ["A9", "B7", "C3"], "unused": "void"}`,
		&listed))
	path = fmt.Sprintf("/api/series/%d/ahead", listed.Id)
	require.Contains(t, s.Problem(422, "POST", path, `{"last": "Z1"}`), "no number of the list")
	require.Equal(t, 200, s.Do("POST", path, `{"last": "B7"}`, &listed))
	require.Equal(t, []any{"A9", "B7"}, []any{listed.Skipped[0].First, listed.Skipped[0].Last})

	// A run of before the database was put back asks whether its labels were printed since.
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &run))
	_, err := s.Store.DB.Exec(`update runs set doubted_at = now()`)
	require.NoError(t, err)
	require.Contains(t, s.Problem(409, "POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "all"}`),
		"may have been printed since")
	require.Contains(t, s.Problem(409, "GET", fmt.Sprintf("/api/runs/%d/labels/file?format=pdf", run.Id), nil),
		"may have been printed since")
	require.Equal(t, 204, s.Do("POST", fmt.Sprintf("/api/runs/%d/trust", run.Id), nil, nil))
	require.Equal(t, 200, s.Do("POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "all"}`, nil))
	s.Problem(404, "POST", "/api/runs/9999/trust", nil)
}
