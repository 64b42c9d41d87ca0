package runs_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/series"
	"oddspool/core/templates"
	"oddspool/examples"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/press/pwg"
	"oddspool/internal/store"
	"oddspool/standin"
)

// carton keeps a design on the bins' stock that says what it stands for, beside a number of its own.
func (s *site) carton() api.Design {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(s.T, err)
	d, err := design.Parse(data)
	require.NoError(s.T, err)
	d.Name, d.Series = "Carton", []design.Numbered{{Name: "cartons", Counts: series.Spec{Start: "1", Step: 1}}}
	d.Elements = []design.Element{{ID: "code", Kind: design.Code, X: 3000, Y: 3000, Width: 70_000, Height: 25_000,
		Code: &design.CodeLooks{Symbology: "datamatrix", Module: 500},
		Says: []design.Piece{{Text: "C"}, {Field: "cartons"}, {Text: " "}, {Field: "run.label"}, {Text: "/"},
			{Field: "run.labels"}, {Text: " of "}, {Field: "run.grouped"}}}}
	document, err := json.Marshal(d)
	require.NoError(s.T, err)
	var made api.Design
	require.Equal(s.T, 200, s.Do("POST", "/api/designs", map[string]any{"document": json.RawMessage(document),
		"recordSetId": 2}, &made))
	return made
}

// besides changes what stands among the labels of a run.
func (s *site) besides(run *api.Run, all ...map[string]any) {
	choice := map[string]any{"records": run.Choice.Records, "howMany": run.Choice.HowMany,
		"printerId": run.Choice.PrinterId, "besides": all}
	require.Equal(s.T, 200, s.Do("PUT", fmt.Sprintf("/api/runs/%d", run.Id), choice, run))
}

// As the camera sees them: five items, a carton's label behind each two, and a cut mark behind all.
func TestLabelsOfOtherDesignsComeInStep(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	s.Series("totes", series.Spec{Start: "1", Step: 1}, api.Return)
	s.Series("cartons", series.Spec{Start: "1", Step: 1}, api.Return)
	carton := s.carton()
	run := s.Prepare(s.Numbered("datamatrix", []design.Piece{{Text: "T"}, {Field: "totes"}, {Text: " "},
		{Field: "run.label"}, {Text: "/"}, {Field: "run.labels"}},
		design.Numbered{Name: "totes", Counts: series.Spec{Start: "1", Step: 1}}), "1-5", 1)
	s.besides(&run, map[string]any{"what": "design", "designId": carton.Id, "when": "labels", "every": 2, "after": true,
		"copies": 1},
		map[string]any{"what": "mark", "when": "run", "after": true, "copies": 1},
		map[string]any{"what": "blank", "when": "run", "after": true, "copies": 2})
	require.Equal(t, 11, run.Labels)
	require.Equal(t, []any{"Carton", 3, "Cut mark", 1, "Blank label", 2},
		[]any{*(*run.Choice.Besides)[0].Name, *(*run.Choice.Besides)[0].Labels, *(*run.Choice.Besides)[1].Name,
			*(*run.Choice.Besides)[1].Labels, *(*run.Choice.Besides)[2].Name, *(*run.Choice.Besides)[2].Labels})
	var proof api.RunProof
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Equal(t, 200, s.Do("GET", path+"/proof", nil, &proof))
	require.Equal(t, []int{11, 0, 8}, []int{proof.Labels, proof.LeftOut, proof.Codes})
	var web api.RunLabels
	require.Equal(t, 200, s.Do("GET", path+"/labels?from=2&most=5", nil, &web))
	require.Equal(t, []int{2, 3, 4, 5, 6}, []int{web.Labels[0].Label, web.Labels[1].Label, web.Labels[2].Label,
		web.Labels[3].Label, web.Labels[4].Label})
	require.Equal(t, []any{"Carton", "Carton"}, []any{*web.Labels[1].Design, *web.Labels[4].Design})
	require.Nil(t, web.Labels[0].Design)

	run = s.Print(run.Id, `{"kind": "sample", "labels": "1-3"}`)
	require.Equal(t, []int{3, 0}, []int{run.Prints[0].ReadBack, run.Prints[0].ReadOther})
	run = s.Print(run.Id, `{"kind": "rest"}`)
	require.Equal(t, []int{5, 0, 3, 11}, []int{run.Prints[1].ReadBack, run.Prints[1].ReadOther,
		run.Prints[1].WithoutCode, run.Printed})
	require.Equal(t, 11, s.Printer.Out())
	for scanned, label := range map[string]int{"T1 1/5": 1, "C1 1/3 of 2": 3, "T3 3/5": 4, "C2 2/3 of 2": 6,
		"T5 5/5": 7, "C3 3/3 of 1": 8} {
		var said api.Scanned
		require.Equal(t, 200, s.Do("POST", path+"/scans", map[string]any{"scanned": scanned}, &said))
		require.Equal(t, label, or0(said.Label), "%s: %s", scanned, said.Text)
		require.Equal(t, "meant", string(said.Outcome), said.Text)
	}
	rows := s.Table(path+"/list?format=csv", "csv")
	require.Len(t, rows, 12)
	last := len(rows[0]) - 1
	require.Equal(t, []string{"design", "Numbered", "Carton", "Cut mark", "Blank label"},
		[]string{rows[0][last], rows[1][last], rows[3][last], rows[9][last], rows[11][last]})
	run = s.Print(run.Id, `{"kind": "again", "labels": "6"}`)
	require.Equal(t, 1, run.Prints[2].ReadBack)
}

// Every file has the labels in between where the web has them, as they are.
func TestFilesHaveTheLabelsOfOtherDesigns(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	s.Series("cartons", series.Spec{Start: "1", Step: 1}, api.Return)
	carton := s.carton()
	run := s.Prepare(s.Numbered("datamatrix", []design.Piece{{Text: "T "}, {Field: "run.label"}, {Text: "/"},
		{Field: "run.labels"}}), "1-5", 1)
	other, _ := s.anotherPrinter("Dock 3")
	s.besides(&run, map[string]any{"what": "design", "designId": carton.Id, "when": "labels", "every": 2, "after": true,
		"copies": 1},
		map[string]any{"what": "mark", "when": "run", "after": true, "copies": 1},
		map[string]any{"what": "blank", "when": "run", "after": true, "copies": 1},
		map[string]any{"what": "design", "designId": carton.Id, "when": "run", "after": false, "copies": 1,
			"printerId": other})
	require.Equal(t, 11, run.Labels)
	wanted := []string{"T 1/5", "T 2/5", "C1 1/3 of 2", "T 3/5", "T 4/5", "C2 2/3 of 2", "T 5/5", "C3 3/3 of 1", "", ""}
	read := func(picture []byte) string {
		name := filepath.Join(t.TempDir(), "label.png")
		require.NoError(t, os.WriteFile(name, picture, 0o600))
		out, err := exec.Command("dmtxread", "-N1", name).Output()
		if failed := new(exec.ExitError); !errors.As(err, &failed) { // which says that nothing was found
			require.NoError(t, err)
		}
		return string(out)
	}
	var dots [][]byte // of each label
	for format, each := range map[string]func(data []byte){"png": func(data []byte) { dots = append(dots, data) },
		"svg": func(data []byte) {
			require.Contains(t, string(data[:100]), "<svg")
		}} {
		data := s.File(run.Id, "format="+format)
		files, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
		require.NoError(t, err)
		require.Len(t, files.File, len(wanted), "the first label comes out of the other printer")
		for i, f := range files.File {
			require.Equal(t, fmt.Sprintf("label-%d.%s", i+2, format), f.Name)
			in, err := f.Open()
			require.NoError(t, err)
			text, err := io.ReadAll(in)
			require.NoError(t, err)
			each(text)
		}
	}
	raster := pwg.NewReader(bytes.NewReader(s.File(run.Id, "format=pwg")))
	name := filepath.Join(t.TempDir(), "labels")
	require.NoError(t, os.WriteFile(name+".pdf", s.File(run.Id, "format=pdf"), 0o600))
	out, err := exec.Command("pdftoppm", "-r", "203.2", "-png", name+".pdf", name).CombinedOutput()
	require.NoError(t, err, string(out))
	for i, code := range wanted {
		require.Equal(t, code, read(dots[i]), "PNG of label %d", i+2)
		page, err := raster.Next()
		require.NoError(t, err)
		var again bytes.Buffer
		require.NoError(t, render.WritePNG(&again, page.Layers, render.BlackOnWhite, measure.DotsPerMillimetre(8)))
		require.Equal(t, dots[i], again.Bytes(), "PWG raster has the dots of label %d", i+2)
		drawn, err := os.ReadFile(fmt.Sprintf("%s-%02d.png", name, i+1))
		require.NoError(t, err)
		require.Equal(t, code, read(drawn), "PDF page %d", i+1)
	}
	_, err = raster.Next()
	require.ErrorIs(t, err, io.EOF)
	require.Contains(t, s.Problem(422, "GET", fmt.Sprintf("/api/runs/%d/labels/file?format=pdf&labels=1", run.Id), nil),
		"comes out of the printer of this run")
}

func or0(n *int) int {
	if n == nil {
		return 0
	}
	return *n
}

func TestSeparatorsThatCannotBe(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &run))
	refuse := func(says string, beside map[string]any) {
		choice := map[string]any{"records": "", "howMany": run.Choice.HowMany, "printerId": run.Choice.PrinterId,
			"besides": []any{beside}}
		require.Contains(t, s.Problem(422, "PUT", fmt.Sprintf("/api/runs/%d", run.Id), choice), says)
	}
	pallet := s.Keep(t, "pallet-label.json", run.Printer.Id)
	refuse("Choose another printer for it", map[string]any{"what": "design", "designId": pallet.Id, "when": "run",
		"after": false, "copies": 1})
	refuse("no field “floor”", map[string]any{"what": "blank", "when": "group", "field": "floor", "after": false,
		"copies": 1})
	refuse("Say which design", map[string]any{"what": "design", "when": "run", "after": false, "copies": 1})
	choice := map[string]any{"records": "", "howMany": map[string]any{"each": 1, "fill": "through"},
		"printerId": run.Choice.PrinterId,
		"besides":   []any{map[string]any{"what": "blank", "when": "run", "after": false, "copies": 1}}}
	require.Contains(t, s.Problem(422, "PUT", fmt.Sprintf("/api/runs/%d", run.Id), choice), "have none among them")
}

// anotherPrinter puts up one more printer like the first.
func (s *site) anotherPrinter(name string) (int64, *standin.Server) {
	about := demo.Devices()[0].Printer
	about.Name = name
	device, err := standin.Start(standin.Config{Printer: about, Stock: demo.Devices()[0].Stock}, "")
	require.NoError(s.T, err)
	s.T.Cleanup(func() { _ = device.Close() })
	id, err := s.Store.PutPrinter(s.T.Context(), about, device.IPP(), device.Camera())
	require.NoError(s.T, err)
	return id, device
}

// The cartons' labels come out of another printer, at the same time.
func TestOneRunFromTwoPrinters(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	s.Series("cartons", series.Spec{Start: "1", Step: 1}, api.Return)
	carton := s.carton()
	other, device := s.anotherPrinter("Dock 3")
	run := s.Prepare(s.Numbered("datamatrix", []design.Piece{{Field: "bin"}}), "1-10", 1)
	s.besides(&run, map[string]any{"what": "design", "designId": carton.Id, "when": "labels", "every": 4, "after": true,
		"copies": 1, "printerId": other})
	run = s.Print(run.Id, `{"kind": "all"}`)
	require.Len(t, run.Prints, 2)
	require.Equal(t, []int{10, 3, 13, 10, 3}, []int{run.Prints[0].ReadBack, run.Prints[1].ReadBack, run.Printed,
		s.Printer.Out(), device.Out()})
	require.Equal(t, []int64{run.Printer.Id, other}, []int64{run.Prints[0].PrinterId, run.Prints[1].PrinterId})
}

func TestARunIsSpreadOverPrinters(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	other, device := s.anotherPrinter("Dock 3")
	run := s.Prepare(s.Numbered("datamatrix", []design.Piece{{Field: "bin"}}), "", 1)
	require.Contains(t, s.Problem(422, "POST", fmt.Sprintf("/api/runs/%d/prints", run.Id),
		fmt.Sprintf(`{"kind": "all", "spread": [%d, %d]}`, other, other)), "named twice")
	run = s.Print(run.Id, fmt.Sprintf(`{"kind": "rest", "spread": [%d, %d]}`, run.Printer.Id, other))
	require.Equal(t, []int{run.Labels, run.Labels}, []int{run.Printed, run.Prints[0].ReadBack + run.Prints[1].ReadBack})
	require.Equal(t, run.Labels, s.Printer.Out()+device.Out())
	require.InDelta(t, run.Labels/2, device.Out(), 1)
	require.Contains(t, s.Problem(422, "POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "rest"}`),
		"There is no label to print")
}

func TestAWaitingPrintGoesBeforeOthers(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	require.NoError(t, s.Printer.SetFault(standin.Paused))
	d := s.Numbered("datamatrix", []design.Piece{{Field: "bin"}})
	var prints []int64
	for range 3 {
		run := s.Prepare(d, "1-2", 1)
		require.Equal(t, 200, s.Do("POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "all"}`, &run))
		prints = append(prints, run.Prints[0].Id)
	}
	order := func() (ids []int64) {
		open, err := s.Store.OpenPrints(t.Context())
		require.NoError(t, err)
		for _, p := range open {
			ids = append(ids, p.ID)
		}
		return ids
	}
	require.Equal(t, prints, order())
	require.Equal(t, 204, s.Do("POST", fmt.Sprintf("/api/prints/%d/forward", prints[2]), nil, nil))
	require.Equal(t, []int64{prints[0], prints[2], prints[1]}, order())
	require.Equal(t, 204, s.Do("POST", fmt.Sprintf("/api/prints/%d/forward", prints[0]), nil, nil))
	require.Equal(t, []int64{prints[0], prints[2], prints[1]}, order(), "what is under way stays first")
	require.NoError(t, s.Printer.SetFault(standin.NoFault))
	require.Eventually(t, func() bool { return order() == nil }, 30*time.Second, 20*time.Millisecond)
	last, err := s.Store.Print(t.Context(), prints[1])
	require.NoError(t, err)
	third, err := s.Store.Print(t.Context(), prints[2])
	require.NoError(t, err)
	require.True(t, third.EndedAt.Before(*last.EndedAt))
	require.Equal(t, store.PrintDone, last.State)
}

func TestAStackOfSheetsBeginsWithAWholeOne(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		`{"designId": 2, "recordSetId": 2, "choice": {"records": "", "howMany": {"each": 1, "fill": "through"}, "printerId": 0}}`, &run))
	require.Equal(t, "through", string(*run.Choice.HowMany.Fill))
	require.Contains(t, s.Problem(422, "POST", fmt.Sprintf("/api/runs/%d/prints", run.Id),
		`{"kind": "all", "start": 2}`), "begin with a whole sheet")
	run = s.Print(run.Id, `{"kind": "all"}`)
	require.Equal(t, run.Labels, run.Prints[0].ReadBack)
}

// A file has labels as they lie on the web: one lane of all pages, then the next.
func TestAFileOfLanesIsInTheOrderOfTheWeb(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	lanes := templates.Find("small-lanes").Design
	per := lanes.Stock.PerPage()
	require.Greater(t, per, 1)
	document, err := json.Marshal(lanes)
	require.NoError(t, err)
	var d api.Design
	require.Equal(t, 200, s.Do("POST", "/api/designs", map[string]any{"document": json.RawMessage(document),
		"recordSetId": 2}, &d))
	names := func(fill string) (names []string) {
		var run api.Run
		body := map[string]any{"designId": d.Id, "recordSetId": 2, "choice": map[string]any{"records": "1-11",
			"howMany": map[string]any{"each": 1, "fill": fill}, "printerId": 0}}
		require.Equal(t, 200, s.Do("POST", "/api/runs", body, &run))
		data := s.File(run.Id, "format=svg")
		files, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
		require.NoError(t, err)
		for _, f := range files.File {
			names = append(names, f.Name)
		}
		return names
	}
	all := []int{1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11}
	named := func(labels []int) (names []string) {
		for _, label := range labels {
			names = append(names, fmt.Sprintf("label-%d.svg", label))
		}
		return names
	}
	require.Equal(t, named(batch.Through(all, per)), names("through"))
	require.Equal(t, named(all), names(""), "along the rows, page by page")
}
