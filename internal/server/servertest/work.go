package servertest

import (
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"slices"
	"time"

	"oddspool/core/design"
	"oddspool/core/series"
	"oddspool/examples"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/standin"
)

// File saves labels of a run as a file.
func (s *Site) File(run int64, query string) []byte {
	response, err := s.Client.Get(s.Web.URL + fmt.Sprintf("/api/runs/%d/labels/file?%s", run, query))
	require.NoError(s.T, err)
	defer response.Body.Close()
	data, err := io.ReadAll(response.Body)
	require.NoError(s.T, err)
	require.Equal(s.T, 200, response.StatusCode, string(data))
	require.Contains(s.T, response.Header.Get("Content-Disposition"), fmt.Sprintf("run-%d-", run))
	return data
}

// Add puts one of the demonstration's stand-ins on the floor, and returns its id.
func (s *Site) Add(t *testing.T, name string) int64 {
	for _, d := range demo.Devices() {
		if d.Printer.Name != name {
			continue
		}
		started := Device(t, name)
		about, err := json.Marshal(d.Printer)
		require.NoError(t, err)
		camera := started.Camera()
		var added api.Printer
		require.Equal(t, 200, s.Do("POST", "/api/printers", api.PutPrinter{About: about, Address: started.IPP(),
			Camera: &camera}, &added))
		return added.Id
	}
	t.Fatalf("no device %s", name)
	return 0
}

// Keep adds an example design for a printer, with the circuits as its records.
func (s *Site) Keep(t *testing.T, file string, printer int64) api.Design {
	data, err := examples.Files.ReadFile(file)
	require.NoError(t, err)
	document := api.Document(data)
	set := int64(3)
	var d api.Design
	require.Equal(t, 200, s.Do("POST", "/api/designs", api.NewDesign{Document: &document, RecordSetId: &set,
		PrinterId: &printer}, &d))
	return d
}

// Device starts one of the demonstration's stand-ins.
func Device(t *testing.T, name string) *standin.Server {
	for _, d := range demo.Devices() {
		if d.Printer.Name == name {
			s, err := standin.Start(standin.Config{Printer: d.Printer, Stock: d.Stock, Labels: d.Left}, "")
			require.NoError(t, err)
			t.Cleanup(func() { _ = s.Close() })
			return s
		}
	}
	t.Fatalf("no device %s", name)
	return nil
}

// StockID finds a stock.
func (s *Site) StockID(find string) int64 {
	var rows []api.StockRow
	require.Equal(s.T, 200, s.Do("GET", "/api/stocks?find="+strings.ReplaceAll(find, " ", "+"), nil, &rows))
	require.NotEmpty(s.T, rows, find)
	return rows[0].Id
}

// Series makes a number series.
func (s *Site) Series(name string, counts series.Spec, unused api.Unused) (made api.NumberSeries) {
	require.Equal(s.T, 200, s.Do("POST", "/api/series", api.AddSeries{Name: name, Counts: counts, Unused: unused},
		&made))
	return made
}

// Numbered keeps a design whose code says numbers of series behind the bin of a record.
func (s *Site) Numbered(symbology string, says []design.Piece, numbers ...design.Numbered) api.Design {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(s.T, err)
	d, err := design.Parse(data)
	require.NoError(s.T, err)
	d.Name, d.Series = "Numbered", numbers
	d.Elements = []design.Element{{ID: "code", Kind: design.Code, X: 3000, Y: 3000, Width: 70_000, Height: 25_000,
		Says: says,
		Code: &design.CodeLooks{Symbology: symbology, Module: 375}}}
	document, err := json.Marshal(d)
	require.NoError(s.T, err)
	var made api.Design
	require.Equal(s.T, 200, s.Do("POST", "/api/designs", map[string]any{"document": json.RawMessage(document),
		"recordSetId": 2}, &made))
	return made
}

func (s *Site) Prepare(of api.Design, records string, each int) (run api.Run) {
	body := fmt.Sprintf(`{"designId": %d, "recordSetId": 2, "choice": {"records": %q, "howMany": {"each": %d}, "printerId": 0}}`, of.Id, records, each)
	require.Equal(s.T, 200, s.Do("POST", "/api/runs", body, &run))
	return run
}

// Print prints some of a run and waits until it is read.
func (s *Site) Print(run int64, body string) (now api.Run) {
	path := fmt.Sprintf("/api/runs/%d", run)
	require.Equal(s.T, 200, s.Do("POST", path+"/prints", body, nil))
	require.Eventually(s.T, func() bool {
		require.Equal(s.T, 200, s.Do("GET", path, nil, &now))
		return !slices.ContainsFunc(now.Prints, func(p api.Print) bool { return p.State != api.PrintStateDone })
	}, 30*time.Second, 20*time.Millisecond)
	return now
}

func (s *Site) Account(id int64) []int {
	var kept api.NumberSeries
	require.Equal(s.T, 200, s.Do("GET", fmt.Sprintf("/api/series/%d", id), nil, &kept))
	a := kept.Account
	require.Equal(s.T, a.Taken, a.Open+a.Printed+a.Spoiled+a.Voided+a.Returned)
	return []int{a.Taken, a.Open, a.Printed, a.Spoiled, a.Voided, a.Returned}
}

// Said returns the numbers of the labels of a run, in their order.
func (s *Site) Said(run api.Run) (numbers []string) {
	r, err := s.Store.Run(s.T.Context(), run.Id)
	require.NoError(s.T, err)
	d, err := s.Store.ToCompose(s.T.Context(), &r)
	require.NoError(s.T, err)
	labels, err := s.Store.RunLabels(s.T.Context(), &r, d, "Maren", 1, r.LabelCount, true)
	require.NoError(s.T, err)
	for _, label := range labels {
		numbers = append(numbers, label.Values[len(label.Values)-1])
	}
	return numbers
}
