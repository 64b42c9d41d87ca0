package printers_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/server/servertest"
)

func TestPrintersAreLookedAtAddedChangedAndRetired(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	for name, want := range map[string]stock.Printer{
		"Lab bench":   {Inks: []stock.Ink{"black"}, Takes: []stock.Kind{stock.DieCut}},
		"Sign bench":  {Inks: []stock.Ink{"black", "red"}, Takes: []stock.Kind{stock.Tape}, Cutter: true},
		"Drum store":  {Inks: []stock.Ink{stock.Full}, Takes: []stock.Kind{stock.DieCut}},
		"Plate bench": {Vector: true, Takes: []stock.Kind{stock.Plate}},
	} {
		var look api.PrinterLook
		d := servertest.Device(t, name)
		require.Equal(t, 200, s.Do("POST", "/api/printers/look", fmt.Sprintf(`{"address": %q}`, d.IPP()), &look))
		var does stock.Printer
		require.NoError(t, json.Unmarshal(look.About, &does))
		require.Equal(t, name, does.Name)
		require.Equal(t, want.Inks, does.Inks, name)
		require.Equal(t, want.Takes, does.Takes, name)
		require.Equal(t, want.Vector, does.Vector, name)
		require.Equal(t, want.Cutter, does.Cutter, name)
		require.NotNil(t, look.Stock, name)
		for _, known := range demo.Devices() {
			if known.Printer.Name == name {
				require.Equal(t, known.Printer.Resolution, does.Resolution, name)
				require.Equal(t, known.Printer.HeadDots, does.HeadDots, name)
				require.Equal(t, known.Printer.Speed, does.Speed, name)
			}
		}
	}
	require.Contains(t, s.Problem(422, "POST", "/api/printers/look", `{"address": "dock 7"}`), "no printer's address")
	require.Contains(t, s.Problem(502, "POST", "/api/printers/look", `{"address": "ipp://127.0.0.1:9/ipp/print"}`),
		"does not answer")

	const lab = `{"about": {"name": "Lab 2", "resolution": "24 dots/mm", "headDots": 1344}, "address": ""}`
	var added api.Printer
	require.Equal(t, 200, s.Do("POST", "/api/printers", lab, &added))
	require.Contains(t, s.Problem(409, "POST", "/api/printers", lab), "called Lab 2 already")
	path := fmt.Sprintf("/api/printers/%d", added.Id)
	var line api.FloorPrinter
	require.Equal(t, 200, s.Do("GET", path, nil, &line))
	require.Equal(t, "Not connected", line.Text)
	require.Contains(t, s.Problem(422, "POST", path+"/ruled", fmt.Sprintf(`{"stockId": %d}`, s.StockID("25x13"))),
		"not connected")
	require.Contains(t, s.Problem(422, "POST", path+"/load", fmt.Sprintf(`{"stockId": %d}`, s.StockID("25x13"))),
		"no stand-in")
	for body, want := range map[string]string{
		strings.Replace(lab, "1344", "3", 1):                                 "A head of 3 dots is impossible",
		strings.Replace(lab, "Lab 2", " ", 1):                                "needs a name",
		strings.Replace(lab, `"headDots"`, `"heads"`, 1):                     "unknown field",
		strings.Replace(lab, `"address": ""`, `"address": "lp0"`, 1):         "no printer's address",
		strings.Replace(lab, `""}`, `"", "camera": "file:///etc/hosts"}`, 1): "begins with http",
	} {
		require.Contains(t, s.Problem(422, "PUT", path, body), want)
	}
	require.Equal(t, 200, s.Do("PUT", path, strings.Replace(lab, "Lab 2", "Lab 3", 1), &added))
	require.Equal(t, "Lab 3", added.Name)
	require.Equal(t, 204, s.Do("DELETE", path, nil, nil))
	s.Problem(404, "DELETE", path, nil)
	require.Equal(t, 200, s.Do("POST", "/api/printers", strings.Replace(lab, "Lab 2", "Lab 3", 1), &added),
		"its name is free again")
}

func TestStandInsAreLoadedFromHere(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	require.Equal(t, 204, s.Do("POST", "/api/printers/1/load",
		fmt.Sprintf(`{"stockId": %d}`, s.StockID("51x25 polyester")), nil))
	var line api.FloorPrinter
	require.Equal(t, 200, s.Do("GET", "/api/printers/1", nil, &line))
	require.Contains(t, string(line.Stock.About), "polyester")
	require.True(t, line.Loadable)
	require.Contains(t, s.Problem(422, "POST", "/api/printers/1/load",
		fmt.Sprintf(`{"stockId": %d}`, s.StockID("sleeve"))), "takes die-cut and tape, not sleeve")
	require.NoError(t, s.Printer.Close())
	require.Contains(t, s.Problem(502, "POST", "/api/printers/1/load",
		fmt.Sprintf(`{"stockId": %d}`, s.StockID("51x25"))), "does not answer")
}

func TestSetupsAreKeptAndOffsetsFollowFromASample(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var setup api.Setup
	require.Equal(t, 200, s.Do("POST", "/api/printers/1/setups",
		`{"about": {"name": "cold hall", "darkness": 70, "speed": 102, "across": 500}}`, &setup))
	require.Contains(t, s.Problem(409, "POST", "/api/printers/1/setups", `{"about": {"name": "cold hall"}}`),
		"of that name")
	require.Contains(t, s.Problem(422, "POST", "/api/printers/1/setups", `{"about": {"name": "x", "speed": 900}}`),
		"does not print at 900 mm/s")
	require.Contains(t, s.Problem(422, "POST", "/api/printers/1/setups", `{"about": {"name": "x", "finish": "cut"}}`),
		"cannot cut")
	require.Contains(t, s.Problem(422, "POST", "/api/printers/1/setups", `{"about": {"name": " "}}`), "needs a name")

	on := s.StockID("76x38")
	var cross api.Cross
	require.Equal(t, 200, s.Do("POST", "/api/printers/1/ruled", fmt.Sprintf(`{"stockId": %d, "setupId": %d}`, on,
		setup.Id), &cross))
	require.Equal(t, api.Cross{X: 10_000, Y: 9_000}, cross)
	require.Eventually(t, func() bool { return s.Printer.Out() == 1 }, 10*time.Second, 5*time.Millisecond)
	path := fmt.Sprintf("/api/setups/%d", setup.Id)
	require.Equal(t, 200, s.Do("POST", path+"/offsets", fmt.Sprintf(`{"stockId": %d, "x": 9200, "y": 9400}`, on),
		&setup))
	require.Equal(t, []int{1300, -400}, []int{*setup.About.Across, *setup.About.Along})
	require.Equal(t, 70, *setup.About.Darkness, "the rest stays")
	require.Contains(t, s.Problem(422, "POST", path+"/offsets", fmt.Sprintf(`{"stockId": %d, "x": 90000, "y": 9400}`,
		on)), "An offset across")
	require.Equal(t, 200, s.Do("PUT", path, `{"about": {"name": "warm hall", "darkness": 50}, "stock": "S-076"}`,
		&setup))
	var all []api.Setup
	require.Equal(t, 200, s.Do("GET", "/api/printers/1/setups", nil, &all))
	require.Len(t, all, 1)
	require.Equal(t, "S-076", all[0].Stock)

	// A run is printed with it, and keeps it though it is deleted.
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		fmt.Sprintf(`{"designId": 2, "recordSetId": 2, "choice": {"records": "1-3", "howMany": {"each": 1}, "printerId": 1, "setupId": %d}}`, setup.Id), &run))
	require.Equal(t, setup.Id, *run.Choice.SetupId)
	require.Equal(t, 200, s.Do("POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "all"}`, &run))
	require.Equal(t, 204, s.Do("DELETE", path, nil, nil))
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d", run.Id), nil, &run))
		return run.Printed == 3
	}, 20*time.Second, 10*time.Millisecond)
	response, err := http.Get("http://" + s.Printer.Addr + "/jobs")
	require.NoError(t, err)
	defer response.Body.Close()
	var jobs []struct{ Darkness int }
	require.NoError(t, json.NewDecoder(response.Body).Decode(&jobs))
	require.Equal(t, 50, jobs[0].Darkness)
}

func TestDesignsAreCarriedWithWhatBreaks(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/2", nil, &d))
	carry := func(find string) (carried api.Carried) {
		require.Equal(t, 200, s.Do("POST", "/api/designs/carry",
			api.Carry{Document: d.Document, StockId: new(s.StockID(find)), RecordSetId: d.RecordSetId, Record: new(47)},
			&carried))
		return carried
	}
	larger := carry("102x51")
	require.Empty(t, larger.Reasons)
	require.Len(t, larger.Ways, 4)
	broken := map[string]int{}
	for _, way := range larger.Ways {
		broken[string(way.Way)] = way.Errors
		require.Contains(t, way.Picture, "data:image/png;base64,")
		require.Equal(t, 102_000, way.Width)
	}
	require.Equal(t, 0, broken["places"])
	smaller := carry("38x19")
	offered := slices.IndexFunc(smaller.Ways, func(w api.CarriedWay) bool { return w.Offer != nil })
	require.GreaterOrEqual(t, offered, 0, "what codes could be instead is offered by name")
	require.Contains(t, *smaller.Ways[offered].Offer, "Data Matrix, which cameras read")
	require.NotEmpty(t, smaller.Ways[offered].Changes)
	for _, way := range smaller.Ways {
		if way.Way == api.Places {
			require.Equal(t, 240, way.Errors, "nothing fits where it was")
			require.NotEmpty(t, way.Groups)
		}
	}
	impossible := carry("148x210")
	require.Empty(t, impossible.Ways)
	require.Contains(t, impossible.Reasons[0].Text, "The web is")

	// What was taken is kept with its printer.
	var added api.Printer
	require.Equal(t, 200, s.Do("POST", "/api/printers",
		`{"about": {"name": "Lab 2", "resolution": "24 dots/mm", "headDots": 2400, "inks": ["black"]}, "address": ""}`,
		&added))
	var moved api.Carried
	require.Equal(t, 200, s.Do("POST", "/api/designs/carry", api.Carry{Document: d.Document, PrinterId: &added.Id},
		&moved))
	require.Equal(t, 200, s.Do("PUT", "/api/designs/2", api.SaveDesign{Edit: d.Edit, Document: moved.Ways[0].Document,
		RecordSetId: d.RecordSetId, PrinterId: &added.Id}, &d))
	require.Equal(t, added.Id, *d.PrinterId)
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &run))
	require.Equal(t, "Lab 2", run.Printer.Name)
	require.Contains(t, s.Problem(422, "POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "all"}`),
		"not connected")
	require.Equal(t, 200, s.Do("PUT", fmt.Sprintf("/api/runs/%d", run.Id),
		`{"records": "", "howMany": {"each": 1}, "printerId": 1}`, &run))
	require.Contains(t, s.Problem(422, "POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "all"}`),
		"made in dots of 24 dots/mm and Dock 2 prints 8 dots/mm")
}

func TestStocksGoOutAndComeIn(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	for _, format := range []string{"csv", "json"} {
		response, err := s.Client.Get(s.Web.URL + "/api/stocks/file?format=" + format)
		require.NoError(t, err)
		require.Contains(t, response.Header.Get("Content-Disposition"), "stocks."+format)
		text, err := io.ReadAll(response.Body)
		require.NoError(t, errors.Join(err, response.Body.Close()))
		changed := strings.Replace(string(text), "S-076", "B-500", 1)
		var done api.StockImport
		require.Equal(t, 200, s.Do("POST", "/api/stocks/file", map[string]string{"text": changed}, &done))
		require.Empty(t, done.Refused)
		require.Equal(t, map[string]int{"csv": len(catalogue.All()), "json": len(catalogue.All()) + 1}[format],
			done.Added+done.Changed)
		require.Equal(t, format == "csv", done.Added == 1, "the second time it is known")
	}
	var done api.StockImport
	require.Equal(t, 200, s.Do("POST", "/api/stocks/file",
		map[string]string{"text": `[{"number": "B-9", "name": "x", "kind": "tape"}, 7]`}, &done))
	require.Len(t, done.Refused, 2)
	require.Contains(t, s.Problem(422, "POST", "/api/stocks/file", `{"text": "[{]"}`), "no list of stocks")
	require.Contains(t, s.Problem(422, "POST", "/api/stocks/file", `{"text": "a,b"}`), "no table of stocks")

	var row api.StockRow
	require.Equal(t, 200, s.Do("POST", "/api/stocks/of-size", `{"size": "4 in x 2 in"}`, &row))
	require.Equal(t, "own-1", row.Number)
	again := row
	require.Equal(t, 200, s.Do("POST", "/api/stocks/of-size", `{"size": "101.6x50.8"}`, &again))
	require.Equal(t, row.Id, again.Id, "one of that size is there now")
	require.Equal(t, 200, s.Do("POST", "/api/stocks/of-size", `{"size": "76x38"}`, &row))
	require.Equal(t, "S-076", row.Number)
	require.Contains(t, s.Problem(422, "POST", "/api/stocks/of-size", `{"size": "large"}`), "is no size")
	require.Contains(t, s.Problem(422, "POST", "/api/stocks/of-size", `{"size": "0x5"}`), "impossible")
}

func TestUnitsAreKeptWithTheAccount(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var session api.Session
	require.Equal(t, 200, s.Do("GET", "/api/session", nil, &session))
	require.EqualValues(t, "mm", session.Units)
	require.Equal(t, 204, s.Do("PUT", "/api/session/units", `{"units": "in"}`, nil))
	require.Equal(t, 200, s.Do("GET", "/api/session", nil, &session))
	require.EqualValues(t, "in", session.Units)
	s.Problem(400, "PUT", "/api/session/units", `{"units": "furlongs"}`)
}

// A size that was typed leads to a stock that the chosen printer takes: with a coating, where heat alone prints.
func TestStockOfATypedSizeSuitsThePrinter(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	packing := s.Add(t, "Packing 1")
	var row api.StockRow
	require.Equal(t, 200, s.Do("POST", "/api/stocks/of-size", fmt.Sprintf(`{"size": "88x44", "printerId": %d}`,
		packing), &row))
	var made stock.Stock
	require.NoError(t, json.Unmarshal(row.About, &made))
	require.Equal(t, []stock.Ink{stock.Black}, made.Reacts)
	require.Equal(t, 200, s.Do("POST", "/api/designs", fmt.Sprintf(`{"name": "Typed", "printerId": %d, "stockId": %d}`,
		packing, row.Id), nil))
	var same api.StockRow
	require.Equal(t, 200, s.Do("POST", "/api/stocks/of-size", fmt.Sprintf(`{"size": "88 x 44", "printerId": %d}`,
		packing), &same))
	require.Equal(t, row.Id, same.Id)
}

func TestAddressesOfNothingAreSaidSo(t *testing.T) {
	s := newSite(t)
	for _, path := range []string{"/metrics", "/debug/pprof/", "/wp-login.php", "/api/nothing", "/.env"} {
		require.Contains(t, []int{401, 404}, s.Do("GET", path, nil, nil), path)
	}
	require.Equal(t, 404, s.Do("GET", "/metrics", nil, nil))
}

func TestVersionsAnswerTheirDocuments(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, nil)) // keeps version 1
	var document struct{ Format, Name string }
	require.Equal(t, 200, s.Do("GET", "/api/designs/2/revisions/1", nil, &document))
	require.Equal(t, []string{"oddspool.design/1", "Bin label, north shed"}, []string{document.Format, document.Name})
}
