package runs_test

import (
	"archive/zip"
	"bufio"
	"bytes"
	"fmt"
	"io"
	"net"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/series"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/press/pwg"
	"oddspool/standin"
)

func TestApplicatorsAskForLabels(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	s.Series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	d := s.Numbered("datamatrix", []design.Piece{{Field: "totes"}},
		design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	run := s.Prepare(d, "1-3", 1)
	records, err := s.Store.Records(t.Context(), 2, 1, 3)
	require.NoError(t, err)
	ours, theirs := net.Pipe()
	ended := make(chan error, 1)
	go func() { ended <- s.Server.Signals(t.Context(), theirs, "signal of 192.0.2.7") }()
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
	require.Equal(t, of(3), ask(fmt.Sprintf("\n%d %s\n", run.Id, records[2][0])),
		"while the one before is still being printed")
	require.Equal(t, of(2), ask(fmt.Sprintf("%d\n", run.Id)))
	require.Contains(t, ask(fmt.Sprintf("%d X-99\n", run.Id)), "no\tNo record of this run says “X-99”.")
	require.Eventually(t, func() bool {
		return strings.HasPrefix(ask(fmt.Sprintf("%d\n", run.Id)), "no\tThere is no label to print")
	}, 20*time.Second, 50*time.Millisecond)
	require.Contains(t, ask("next, please\n"), "no\t“next,” is no number of a run.")
	require.Contains(t, ask("99999\n"), "no\tThere is no run 99999")
	require.NoError(t, ours.Close())
	require.NoError(t, <-ended)
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d", run.Id), nil, &run))
	require.Equal(t, []any{3, "signal of 192.0.2.7"}, []any{run.Printed, run.Prints[0].StartedBy})
}

func TestTheNextFreePrinter(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	about := demo.Devices()[0].Printer
	about.Name = "Dock 3"
	second, err := standin.Start(standin.Config{Printer: about, Stock: demo.Devices()[0].Stock}, "")
	require.NoError(t, err)
	t.Cleanup(func() { _ = second.Close() })
	other, err := s.Store.PutPrinter(t.Context(), about, second.IPP(), second.Camera())
	require.NoError(t, err)
	begin := func() (run api.Run) {
		require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &run))
		require.Equal(t, 200, s.Do("POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "all", "free": true}`,
			&run))
		return run
	}
	first, next := begin(), begin()
	require.Equal(t, []int64{first.Printer.Id, other}, []int64{first.Prints[0].PrinterId, next.Prints[0].PrinterId})
	var third api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &third))
	require.Contains(t, s.Problem(422, "POST", fmt.Sprintf("/api/runs/%d/prints", third.Id),
		`{"kind": "all", "free": true}`), "No printer on which these labels can be printed is free just now.")
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d", next.Id), nil, &next))
		return next.Prints[0].State == api.PrintStateDone && next.Prints[0].ReadBack == 240
	}, 60*time.Second, 50*time.Millisecond)
	require.Equal(t, 240, second.Out())
}

func TestPrintedLabelsAreScannedBack(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	s.Series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	d := s.Numbered("datamatrix", []design.Piece{{Text: "T-"}, {Field: "totes"}},
		design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	run := s.Prepare(d, "1-3", 2)
	other := s.Prepare(d, "1", 1)
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	s.Print(run.Id, `{"kind": "sample", "labels": "1-4"}`)
	scan := func(text string) (said api.Scanned) {
		require.Equal(t, 200, s.Do("POST", path+"/scans", map[string]any{"scanned": text, "stop": true}, &said))
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
		{other.Numbers[0].First, "other", fmt.Sprintf("The number %s is of run %d.", other.Numbers[0].First, other.Id),
			0},
	} {
		said := scan(want.scanned)
		require.Equal(t, want.outcome, string(said.Outcome), "scan %d", i)
		require.Contains(t, said.Text, want.text)
		if want.label > 0 {
			require.Equal(t, want.label, *said.Label)
			require.NotEmpty(t, said.Values)
		}
	}
	require.Equal(t, 200, s.Do("POST", path+"/spoiled", `{"labels": "3-4", "numbers": "same"}`, nil))
	require.Equal(t, "spoiled", string(scan("T-3").Outcome))
	require.Equal(t, 200, s.Do("POST", path+"/spoiled", `{"labels": "2", "numbers": "new"}`, nil))
	require.Contains(t, scan("2").Text, "is no longer on a label of this run: it is spoiled")
	s.Print(run.Id, `{"kind": "rest"}`)
	require.Equal(t, "meant", string(scan("T-3").Outcome), "it was printed again")
	var all api.Scans
	require.Equal(t, 200, s.Do("GET", path+"/scans", nil, &all))
	require.Equal(t, []any{2, 5, 6, 8}, []any{all.Meant, all.Wrong, all.Printed, len(all.Latest)})

	long := s.Prepare(d, "1-3", 200)
	require.Equal(t, 200, s.Do("POST", fmt.Sprintf("/api/runs/%d/prints", long.Id), `{"kind": "all"}`, nil))
	path = fmt.Sprintf("/api/runs/%d", long.Id)
	require.Eventually(t, func() bool { require.Equal(t, 200, s.Do("GET", path, nil, &long)); return long.Printed > 0 },
		30*time.Second, time.Millisecond)
	require.True(t, scan("X").Stopped)
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", path, nil, &long))
		return long.Prints[0].State == api.PrintStateHeld
	}, 30*time.Second, 5*time.Millisecond)
	require.Equal(t, []any{"Paused by Maren.", false}, []any{long.Prints[0].Text, long.Prints[0].InDoubt})
	require.Less(t, long.Printed, 600)
	require.Equal(t, 204, s.Do("POST", fmt.Sprintf("/api/prints/%d/go-on", long.Prints[0].Id),
		map[string]any{"lastLabel": long.Prints[0].LastOut}, nil))
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", path, nil, &long))
		return long.Printed > long.Prints[0].FirstLabel
	}, 30*time.Second, 5*time.Millisecond)
	require.Equal(t, 204, s.Do("POST", fmt.Sprintf("/api/prints/%d/pause", long.Prints[0].Id), nil, nil))
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", path, nil, &long))
		return long.Prints[0].State != api.PrintStatePrinting
	}, 30*time.Second, 5*time.Millisecond)
	require.Equal(t, 204, s.Do("POST", fmt.Sprintf("/api/prints/%d/cancel", long.Prints[0].Id), nil, nil))
}

func TestLabelsGoOutAsFiles(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	made := s.Series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	d := s.Numbered("datamatrix", []design.Piece{{Text: "T-"}, {Field: "totes"}},
		design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	run := s.Prepare(d, "1-3", 2)
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	get := func(query string) []byte { return s.File(run.Id, query) }
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
	require.Contains(t, s.Problem(422, "GET", path+"/labels/file?format=pdf&labels=7", nil), "with numbers from 1 to 6")
	require.Equal(t, 200, s.Do("PUT", path, map[string]any{"records": "1-2", "howMany": map[string]any{"each": 1},
		"printerId": run.Printer.Id}, &run))
	require.Equal(t, []string{"7", "8"}, []string{run.Numbers[0].First, run.Numbers[0].Last}, "1 to 6 are in the files")
	require.Equal(t, []int{8, 2, 0, 0, 6, 0}, s.Account(made.Id))
	require.Equal(t, 200, s.Do("POST", path+"/close", nil, nil))
	require.Equal(t, 409, s.Do("GET", path+"/labels/file?format=pdf", nil, nil))
}

func TestLabelsOnDemand(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	made := s.Series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	d := s.Numbered("datamatrix", []design.Piece{{Field: "bin"}, {Text: "/"}, {Field: "totes"}},
		design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}})
	run := s.Prepare(d, "1-3", 2)
	records, err := s.Store.Records(t.Context(), 2, 1, 4)
	require.NoError(t, err)
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	next := func(scanned string) (label api.NextLabel) {
		require.Equal(t, 200, s.Do("POST", path+"/next", map[string]string{"scanned": scanned}, &label))
		require.Eventually(t, func() bool {
			require.Equal(t, 200, s.Do("GET", path, nil, &run))
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
	require.Contains(t, s.Problem(422, "POST", path+"/next", map[string]string{"scanned": bin}),
		"All labels of record 3 are out.")
	require.Contains(t, s.Problem(422, "POST", path+"/next", map[string]string{"scanned": "X-99"}),
		"No record of this run says “X-99”.")
	require.Contains(t, s.Problem(422, "POST", path+"/next", map[string]string{"scanned": records[3][0]}),
		"No record of this run says")
	for _, want := range []int{2, 3, 4} {
		require.Equal(t, want, next("").Label)
	}
	require.Contains(t, s.Problem(422, "POST", path+"/next", `{}`), "There is no label to print")
	require.Equal(t, []int{6, 0, 6, 0, 0, 0}, s.Account(made.Id))
}
