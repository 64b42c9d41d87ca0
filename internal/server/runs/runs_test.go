package runs_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/examples"
	"oddspool/internal/api"
	"oddspool/standin"
)

// A label that needs no records is proofed and printed as any other.
func TestLabelsWithoutRecordsAreRun(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var made api.Design
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	d.Name, d.Fields = "Keep dry", nil
	d.Elements = []design.Element{{ID: "code", Kind: design.Code, X: 5000, Y: 5000, Width: 60_000, Height: 20_000,
		Says: []design.Piece{{Text: "KEEP-DRY"}},
		Code: &design.CodeLooks{Symbology: "code128", Module: 250}}}
	document, err := json.Marshal(d)
	require.NoError(t, err)
	require.Equal(t, 200, s.Do("POST", "/api/designs", map[string]any{"document": json.RawMessage(document)}, &made))
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		fmt.Sprintf(`{"designId": %d, "choice": {"records": "", "howMany": {"each": 40}, "printerId": 0}}`, made.Id),
		&run))
	require.Nil(t, run.RecordSetId)
	require.Equal(t, []int{1, 40}, []int{run.RecordCount, run.Labels})
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	var proof api.RunProof
	require.Equal(t, 200, s.Do("GET", path+"/proof", nil, &proof))
	require.Equal(t, []int{40, 0, 1}, []int{proof.Labels, proof.LeftOut, proof.Codes})
	var labels api.RunLabels
	require.Equal(t, 200, s.Do("GET", path+"/labels?from=39", nil, &labels))
	require.Len(t, labels.Labels, 2)
	var records []api.RunRecord
	require.Equal(t, 200, s.Do("GET", path+"/records", nil, &records))
	require.Equal(t, []api.RunRecord{{Number: 1, Values: []string{}, Copies: 40}}, records)
	require.Equal(t, 200, s.Do("GET", path+"/picture", nil, nil))
	require.Contains(t, s.Problem(422, "PUT", path, `{"records": "1-2", "howMany": {"each": 1}, "printerId": 1}`),
		"1 to 1")
	require.Equal(t, 200, s.Do("POST", path+"/prints", `{"kind": "all"}`, nil))
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", path, nil, &run))
		return run.Prints[0].State == api.PrintStateDone
	}, 2e10, 1e7)
	require.Equal(t, []int{40, 40, 40, 0}, []int{run.Printed, run.Prints[0].Printed, run.Prints[0].ReadBack,
		run.Prints[0].NotLookedAt})
	var runs []api.RunEntry
	require.Equal(t, 200, s.Do("GET", "/api/runs", nil, &runs))
	require.Equal(t, []string{"", "printed"}, []string{runs[0].RecordSet, string(runs[0].State)})
}

// Where a print of labels begins, and at which printer, is checked on the way in.
func TestPrintsAreCheckedOnTheWayIn(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, nil))
	require.Contains(t, s.Problem(422, "POST", "/api/runs/1/prints", `{"kind": "all", "start": 3}`),
		"76 × 38 paper has no sheets")
	s.Problem(400, "POST", "/api/runs/1/prints", `{"kind": "all", "start": -1}`)
	require.NoError(t, s.Printer.SetFault(standin.Paused))
	require.Equal(t, 200, s.Do("POST", "/api/runs/1/prints", `{"kind": "rest"}`, nil))
	require.Contains(t, s.Problem(409, "POST", "/api/prints/1/go-on", `{"lastLabel": 1}`), "not held")
	require.Contains(t, s.Problem(422, "POST", "/api/prints/1/go-on", `{}`), "Say which label")
	s.Problem(404, "POST", "/api/prints/1/move", `{"printerId": 99}`)
	require.Equal(t, 204, s.Do("POST", "/api/prints/1/cancel", nil, nil))
	var run api.Run
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", "/api/runs/1", nil, &run))
		return run.Prints[0].State == api.PrintStateCancelled
	}, 2e10, 1e7)
	require.Zero(t, run.Prints[0].Unknown, "the printer could tell")
}

// Words are found in records and in what designs say, whatever stands in them.
func TestWordsAreFoundInRecordsAndOnLabels(t *testing.T) {
	s := newSite(t)
	require.Equal(t, 401, s.Do("GET", "/api/find?words=Dulse", nil, nil))
	s.SignIn()
	var hits []api.Hit
	require.Equal(t, 200, s.Do("GET", "/api/find?words=dulse+26K119", nil, &hits))
	for _, hit := range hits {
		require.Contains(t, hit.Text, "26K119")
	}
	require.Equal(t, 200, s.Do("GET", "/api/find?words=N-02-02-C", nil, &hits))
	require.NotEmpty(t, hits)
	require.Equal(t, "bins.csv", hits[0].Name)
	require.Equal(t, 47, *hits[0].Record)
	require.Equal(t, 200, s.Do("GET", "/api/find?words=Lot+No.", nil, &hits))
	require.NotNil(t, hits[len(hits)-1].DesignId, "a text of a design")
	for _, odd := range []string{"_", "%5C", "zzzz-nothing"} {
		require.Equal(t, 200, s.Do("GET", "/api/find?words="+odd, nil, &hits))
		require.Empty(t, hits, odd)
	}
}

// A print that no server has is shown as such.
func TestPrintsThatNoServerHasAreToldOf(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, nil))
	require.NoError(t, s.Printer.SetFault(standin.Paused))
	require.Equal(t, 200, s.Do("POST", "/api/runs/1/prints", `{"kind": "rest"}`, nil))
	require.NoError(t, s.Runner.Stop(t.Context()))
	_, err := s.Store.DB.Exec(`update prints set started_at = now() - interval '1 minute', note = ''`)
	require.NoError(t, err)
	var run api.Run
	require.Equal(t, 200, s.Do("GET", "/api/runs/1", nil, &run))
	require.Equal(t, "No server works on this print just now.", run.Prints[0].Text)
}
