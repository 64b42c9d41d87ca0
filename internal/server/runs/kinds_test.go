package runs_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/stock"
	"oddspool/internal/api"
)

// all prepares and prints a run of all records, and waits until it is done.
func (s *site) all(t *testing.T, designID int64) (run api.Run, proof api.RunProof) {
	require.Equal(t, 200, s.Do("POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": 3}`, designID), &run))
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Equal(t, 200, s.Do("GET", path+"/proof", nil, &proof))
	require.Equal(t, 200, s.Do("POST", path+"/prints", `{"kind": "all"}`, &run))
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", path, nil, &run))
		return run.Printed == 40 && run.Prints[0].State == api.PrintStateDone
	}, 30*time.Second, 10*time.Millisecond)
	return run, proof
}

func TestTapeIsCountedByItsContent(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	printer := s.Add(t, "Drawer cart")
	d := s.Keep(t, "drawer-tape.json", printer)
	var strip api.Strip
	require.Equal(t, 200, s.Do("POST", "/api/strip", api.StripRequest{Document: d.Document, RecordSetId: d.RecordSetId,
		Records: []int{1, 4}}, &strip))
	require.NotEqual(t, strip.Labels[0].Width, strip.Labels[1].Width, "each label has its own length")
	require.Equal(t, 96, strip.Labels[0].Height)

	run, proof := s.all(t, d.Id)
	require.Zero(t, proof.LeftOut)
	require.InDelta(t, *proof.WebMillimetres, run.WebMillimetres, 0.01)
	require.NotEqual(t, 40*40.0, run.WebMillimetres, "not forty times the length it begins with")
	require.Equal(t, []int{40, 0}, []int{run.Prints[0].ReadBack, run.Prints[0].ReadOther})
	var line api.FloorPrinter
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/printers/%d", printer), nil, &line))
		return line.Capacity-line.Left == int64(run.WebMillimetres*1000+0.5)
	}, 5*time.Second, 50*time.Millisecond, "the roll has just so much less")
	require.Equal(t, api.Length, line.Unit)
}

func TestLegendsAndInksAreOnTheStrip(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	sleeve := s.Keep(t, "circuit-sleeve.json", s.Add(t, "Cable bench"))
	var strip api.Strip
	require.Equal(t, 200, s.Do("POST", "/api/strip", api.StripRequest{Document: sleeve.Document,
		RecordSetId: sleeve.RecordSetId, Records: []int{1}}, &strip))
	require.Equal(t, 2, strip.MostLegends)
	require.Equal(t, 2*strip.Height, strip.Labels[0].Height, "two faces, one above the other")
	require.Equal(t, []api.Ink{{Name: "black", Colour: "#000000"}}, strip.Inks)
	require.False(t, strip.Mixes)

	sign := s.Keep(t, "stairs-sign.json", s.Add(t, "Sign bench"))
	require.Equal(t, 200, s.Do("POST", "/api/strip", api.StripRequest{Document: sign.Document,
		RecordSetId: sign.RecordSetId, Records: []int{1}}, &strip))
	require.Equal(t, []api.Ink{{Name: "black", Colour: "#000000"}, {Name: "red", Colour: "#C8102E"}}, strip.Inks)
	drum := s.Keep(t, "drum-label.json", s.Add(t, "Drum store"))
	require.Equal(t, 200, s.Do("POST", "/api/strip", api.StripRequest{Document: drum.Document,
		RecordSetId: drum.RecordSetId, Records: []int{1}}, &strip))
	require.True(t, strip.Mixes)

	// An ink that the printer lacks is a finding, and so is carrying the design to a printer without it.
	var carried api.Carried
	require.Equal(t, 200, s.Do("POST", "/api/designs/carry",
		api.Carry{Document: drum.Document, StockId: new(s.StockID("74x105")), PrinterId: new(int64(1)),
			RecordSetId: drum.RecordSetId}, &carried))
	kinds := map[string]bool{}
	for _, g := range carried.Ways[0].Groups {
		kinds[g.Kind] = true
	}
	require.True(t, kinds["no-ink"])
}

func TestPlatesSheetsAndColoursComeOut(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	plates := s.Keep(t, "valve-plate.json", s.Add(t, "Plate bench"))
	run, _ := s.all(t, plates.Id)
	require.Equal(t, 1, run.PerPage)
	require.Zero(t, run.Prints[0].ReadOther)

	store := s.Add(t, "Drum store")
	drum := s.Keep(t, "drum-label.json", store)
	run, _ = s.all(t, drum.Id)
	require.Equal(t, []int{40, 0}, []int{run.Prints[0].ReadBack, run.Prints[0].ReadOther})

	// The same label on sheets of four, from the third place on.
	var carried api.Carried
	require.Equal(t, 200, s.Do("POST", "/api/designs/carry",
		api.Carry{Document: drum.Document, StockId: new(s.StockID("S-158")), RecordSetId: drum.RecordSetId}, &carried))
	document := api.Document(carried.Ways[0].Document)
	var sheets api.Design
	require.Equal(t, 200, s.Do("POST", "/api/designs", api.NewDesign{Document: &document, RecordSetId: drum.RecordSetId,
		PrinterId: &store}, &sheets))
	var kept design.Design
	require.NoError(t, json.Unmarshal(sheets.Document, &kept))
	require.Equal(t, stock.Sheet, kept.Stock.Kind)
	require.Equal(t, 204, s.Do("POST", fmt.Sprintf("/api/printers/%d/load", store),
		fmt.Sprintf(`{"stockId": %d}`, s.StockID("S-158")), nil))
	require.Equal(t, 200, s.Do("POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": 3}`, sheets.Id), &run))
	require.Equal(t, 4, run.PerPage)
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Equal(t, 200, s.Do("POST", path+"/prints", `{"kind": "sample", "labels": "1-5", "start": 2}`, &run))
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", path, nil, &run))
		return run.Prints[0].State == api.PrintStateDone
	}, 30*time.Second, 10*time.Millisecond)
	require.Equal(t, []int{5, 5}, []int{run.Prints[0].Printed, run.Prints[0].ReadBack})
	var line api.FloorPrinter
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/printers/%d", store), nil, &line))
		return line.Capacity-line.Left == 2
	}, 5*time.Second, 50*time.Millisecond, "two sheets were used")
	require.Equal(t, api.Sheets, line.Unit)
}

// What is loaded has another size: nothing is printed, and the way out is told.
func TestARunIsRefusedWhileAnotherSizeIsLoaded(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	drawer := s.Add(t, "Drawer cart")
	flag := s.Add(t, "Cable bench")
	d := s.Keep(t, "cable-flag.json", flag)
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs", fmt.Sprintf(`{"designId": %d, "recordSetId": 3}`, d.Id), &run))
	refused := s.Problem(422, "POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "all"}`)
	require.Regexp(t, `Cable bench: Sleeve 6.4, white is loaded, and this needs Flag 25 × 35 .*\. Load it, then print; or say, with a reason, that it is loaded\.`, refused)
	s.overruled(t, flag, run.Id)
	tape := s.Keep(t, "drawer-tape.json", drawer) // of a tape only the width counts
	_, proof := s.all(t, tape.Id)
	require.Positive(t, proof.Labels)
}

func TestTheBenchIsAskedForBeforeItsCodeIsRead(t *testing.T) {
	s := newSite(t)
	linked := func(address string) []string {
		response, err := s.Client.Get(s.Web.URL + address)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		return response.Header.Values("Link")
	}
	require.Empty(t, linked("/bench/1"), "nobody is signed in")
	s.SignIn()
	d := s.Keep(t, "drawer-tape.json", s.Add(t, "Drawer cart"))
	bench := fmt.Sprintf("/bench/%d?record=4", d.Id)
	first := fmt.Sprintf("/api/designs/%d/strip?record=4", d.Id)
	require.Contains(t, linked(bench), "<"+first+">; rel=preload; as=fetch; crossorigin")
	for _, link := range linked(bench) {
		address, _, _ := strings.Cut(strings.TrimPrefix(link, "<"), ">")
		require.Equal(t, 200, s.Do("GET", address, nil, nil), address)
	}
	require.Len(t, linked("/floor"), 1)

	var kept, asked api.Strip
	require.Equal(t, 200, s.Do("GET", first, nil, &kept))
	require.Equal(t, 200, s.Do("POST", "/api/strip", api.StripRequest{Document: d.Document, RecordSetId: d.RecordSetId,
		Records: []int{4, 3, 5}}, &asked))
	require.Equal(t, asked, kept)
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/designs/%d/strip", d.Id), nil, &kept))
	require.Equal(t, []int{1, 2}, []int{kept.Labels[0].Record, kept.Labels[1].Record})
	require.Contains(t, s.Problem(404, "GET", "/api/designs/999/strip", nil), "design")
}

// overruled has a person say that the stock of a run is loaded, which the printer does not know.
func (s *site) overruled(t *testing.T, printer, run int64) {
	path := fmt.Sprintf("/api/printers/%d/loaded", printer)
	require.Contains(t, s.Problem(422, "POST", path, map[string]any{"runId": run, "reason": "  "}), "Say why")
	require.Contains(t, s.Problem(422, "POST", path, map[string]any{"reason": "changed"}), "which stock")
	require.Equal(t, 204, s.Do("POST", path,
		map[string]any{"runId": run, "reason": "the roll was changed at the noon break"}, nil))
	var line api.FloorPrinter
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/printers/%d", printer), nil, &line))
	require.Equal(t, []any{"Maren", "the roll was changed at the noon break", true},
		[]any{line.Said.By, line.Said.Reason, line.Said.Counts})
	require.Contains(t, string(line.Stock.About), "Flag 25", "that is what is in it")
	var shown api.Run
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d", run), nil, &shown))
	require.Empty(t, shown.Misfit)

	require.Equal(t, 204, s.Do("DELETE", path, nil, nil))
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d", run), nil, &shown))
	require.NotEmpty(t, shown.Misfit, "the printer is believed again")
}
