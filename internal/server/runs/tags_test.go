package runs_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/examples"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/standin"
)

// crateLine puts up the printer that writes chips, and keeps the design of crates for it.
func (s *site) crateLine() (device *standin.Server, printer int64, crates api.Design) {
	var about demo.Device
	for _, d := range demo.Devices() {
		if d.Printer.Name == "Crate line" {
			about = d
		}
	}
	device, err := standin.Start(standin.Config{Printer: about.Printer, Stock: about.Stock}, "")
	require.NoError(s.T, err)
	s.T.Cleanup(func() { _ = device.Close() })
	camera, encoder := device.Camera(), device.Encoder()
	document, err := json.Marshal(about.Printer)
	require.NoError(s.T, err)
	var added api.Printer
	require.Equal(s.T, 200, s.Do("POST", "/api/printers", api.PutPrinter{About: document, Address: device.IPP(),
		Camera: &camera, Encoder: &encoder}, &added))
	require.Equal(s.T, encoder, added.Encoder)
	data, err := examples.Files.ReadFile("crate-chip.json")
	require.NoError(s.T, err)
	made := api.Document(data)
	require.Equal(s.T, 200, s.Do("POST", "/api/designs", api.NewDesign{Document: &made, PrinterId: &added.Id}, &crates))
	return device, added.Id, crates
}

// From the design to the chip, and back from the chip to the label that it is on.
func TestTagsFromTheDesignToTheChipAndBack(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	device, printer, crates := s.crateLine()
	device.SetTags(map[int]string{2: standin.WeakTag})
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		fmt.Sprintf(`{"designId": %d, "choice": {"records": "", "howMany": {"each": 3}, "printerId": %d}}`, crates.Id,
			printer), &run))
	run = s.Print(run.Id, `{"kind": "all"}`)
	require.Equal(t, []int{3, 3, 1, 3}, []int{run.Printed, run.Prints[0].TagsWritten, run.Prints[0].TagsVoided,
		run.Prints[0].ReadBack})
	var tags []api.RunTag
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d/tags", run.Id), nil, &tags))
	require.Len(t, tags, 4)
	require.Equal(t, []any{"void", "The tag is too weak to be written.", 2}, []any{string(tags[1].Outcome), tags[1].Why,
		tags[1].Label})
	require.Equal(t, []any{"written", 2, "crate 418"}, []any{string(tags[2].Outcome), tags[2].Label, tags[2].User})
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d/tags?skip=3&most=5", run.Id), nil, &tags))
	require.Len(t, tags, 1)
	rows := s.Table(fmt.Sprintf("/api/runs/%d/list?format=csv", run.Id), "csv")
	require.Equal(t, []string{"chip", "epc"}, rows[0][len(rows[0])-2:])
	require.Equal(t, device.Tags()[0].EPC, rows[1][len(rows[1])-1])
	var lives []api.NumberLife
	require.Equal(t, 200, s.Do("GET", "/api/numbers?number=419", nil, &lives))
	require.Equal(t, device.Tags()[3].EPC, *lives[0].Labels[0].Epc)

	// What is under the head now is as its maker left it; a label that is put there is told.
	path := fmt.Sprintf("/api/printers/%d/tag", printer)
	var read api.TagRead
	require.Equal(t, 200, s.Do("POST", path, nil, &read))
	require.Empty(t, read.Seen)
	require.Contains(t, read.Words, "follow no scheme")
	require.NoError(t, device.PutUnderHead(1))
	require.Equal(t, 200, s.Do("POST", path, nil, &read))
	require.Equal(t, []any{"urn:epc:tag:sgtin-96:1.9521234.054321.417", "(01)09521234543213(21)417", "crate 417"},
		[]any{read.Words, *read.Elements, read.User})
	require.Equal(t, []any{run.Id, 1}, []any{read.Seen[0].RunId, read.Seen[0].Label})
	device.SetTags(map[int]string{1: standin.DeadTag})
	require.Contains(t, s.Problem(422, "POST", path, nil), "No tag answers under the head.")
	require.NoError(t, device.Close())
	require.Contains(t, s.Problem(502, "POST", path, nil), "does not answer")
}

func TestWhereNoTagIsWritten(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	_, printer, crates := s.crateLine()
	var line api.FloorPrinter
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/printers/%d", printer), nil, &line))
	put := func(change map[string]any, encoder string) api.PutPrinter {
		var about map[string]any
		require.NoError(t, json.Unmarshal(line.Printer.About, &about))
		for key, value := range change {
			about[key] = value
		}
		document, err := json.Marshal(about)
		require.NoError(t, err)
		return api.PutPrinter{About: document, Address: line.Printer.Address, Encoder: &encoder}
	}
	path := fmt.Sprintf("/api/printers/%d", printer)
	require.Contains(t, s.Problem(422, "PUT", path, put(nil, "http://192.0.2.7")), "is no address of an encoder")
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		fmt.Sprintf(`{"designId": %d, "choice": {"records": "", "howMany": {"each": 1}, "printerId": %d}}`, crates.Id,
			printer), &run))
	prints := fmt.Sprintf("/api/runs/%d/prints", run.Id)
	require.Equal(t, 200, s.Do("PUT", path, put(nil, ""), nil))
	require.Contains(t, s.Problem(422, "POST", prints, `{"kind": "all"}`), "No encoder is known at Crate line.")
	require.Contains(t, s.Problem(422, "POST", path+"/tag", nil), "No encoder is known at Crate line.")
	require.Equal(t, 200, s.Do("PUT", path, put(map[string]any{"encoder": false}, "llrp://192.0.2.7"), nil))
	require.Contains(t, s.Problem(422, "POST", prints, `{"kind": "all"}`), "does not write tags")

	// A printer without an encoder prints labels that have nothing to write, and a hidden tag is not written.
	var d design.Design
	require.NoError(t, json.Unmarshal(crates.Document, &d))
	for i := range d.Elements {
		d.Elements[i].Hidden = d.Elements[i].Kind == design.Tag
	}
	document, err := json.Marshal(d)
	require.NoError(t, err)
	require.Equal(t, 200, s.Do("PUT", fmt.Sprintf("/api/designs/%d", crates.Id),
		map[string]any{"document": json.RawMessage(document), "edit": crates.Edit}, nil))
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		fmt.Sprintf(`{"designId": %d, "choice": {"records": "", "howMany": {"each": 1}, "printerId": %d}}`, crates.Id,
			printer), &run))
	run = s.Print(run.Id, `{"kind": "all"}`)
	require.Equal(t, []int{1, 0}, []int{run.Printed, run.Prints[0].TagsWritten})
}
