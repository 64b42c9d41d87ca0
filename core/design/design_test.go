package design_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/epc"
	"oddspool/core/measure"
	"oddspool/core/symbology"
)

func example(t testing.TB) string {
	data, err := os.ReadFile("../../examples/bin-label.json")
	require.NoError(t, err)
	return string(data)
}

func TestExampleComesBackAsItWas(t *testing.T) {
	d, err := design.Parse([]byte(example(t)))
	require.NoError(t, err)
	require.Equal(t, []string{"bin", "contents", "lot", "serial", "bags", "code"}, d.UsedFields())
	written, err := json.Marshal(d)
	require.NoError(t, err)
	require.JSONEq(t, example(t), string(written))
}

func TestPublishedSchemaIsTheOneInForce(t *testing.T) {
	published, err := os.ReadFile("../../docs/design.schema.json")
	require.NoError(t, err)
	require.Equal(t, string(design.Schema()), string(published), "run: go generate ./core/design")
}

// What the schema lets be chosen is what the program can do.
func TestSchemaHasEverySchemeAndSymbology(t *testing.T) {
	var schema struct {
		Defs map[string]struct {
			Properties map[string]struct{ Enum []string }
		} `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal(design.Schema(), &schema))
	schemes := []string{""}
	for _, s := range epc.Schemes() {
		schemes = append(schemes, string(s))
	}
	require.Equal(t, schemes, schema.Defs["TagLooks"].Properties["scheme"].Enum)
	symbologies := []string{}
	for _, g := range symbology.All() {
		symbologies = append(symbologies, string(g.ID))
	}
	require.ElementsMatch(t, symbologies, schema.Defs["CodeLooks"].Properties["symbology"].Enum)
}

func TestParseSaysWhere(t *testing.T) {
	for name, test := range map[string]struct{ old, new, path, text string }{
		"unknown field": {`"width": 46000`, `"width": 46000, "colour": "red"`, "elements[0].colour",
			"no such field"},
		"unknown top field": {`"name": "Bin label, north shed"`, `"name": "x", "owner": 1`, "owner", "no such field"},
		"wrong kind": {`"kind": "line"`, `"kind": "spiral"`, "elements[3].kind",
			`"spiral" is not known here; it can be "text", "code"`},
		"not whole": {`"x": 3000`, `"x": 3000.5`, "elements[0].x",
			"it is a number, and must be a whole number"},
		"zero width": {`"width": 46000`, `"width": 0`, "elements[0].width", "it is 0, and must be more than 0"},
		"wide as a street": {`"width": 46000`, `"width": 2539999974600`, "elements[0].width",
			"it is 2539999974600, and can be at most 10000000"},
		"text as a number": {`"id": "bin"`, `"id": 4`, "elements[0].id", "it is a number, and must be a text"},
		"no name":          {`"name": "Bin label, north shed",`, ``, "design", "it has no name"},
		"empty name":       {`"id": "bin"`, `"id": ""`, "elements[0].id", "it is empty"},
		"missing looks":    {`"text": {`, `"locked": true, "code": {`, "elements[0].code", ""},
		"two-headed piece": {`{"field": "bin"}`, `{"field": "bin", "text": "x"}`, "elements[0].says[0]",
			"a piece is a text, a field"},
		"twin ids":           {`"id": "contents"`, `"id": "bin"`, "elements[1].id", `elements[0] has the id "bin" too`},
		"impossible stock":   {`"gap": 3000`, `"gap": -3000`, "stock.gap", "from 0 mm to 200 mm"},
		"impossible printer": {`"headDots": 832`, `"headDots": 4`, "printer.headDots", "head of 4 dots"},
		"no resolution": {`"8 dots/mm"`, `"8 dots"`, "printer.resolution",
			`"8 dots" is not written as it must be`},
		"wild resolution": {`"8 dots/mm"`, `"99999 dpi"`, "design", "from 1 dot/mm to 2400 dpi"},
		"enormous":        {`"8 dots/mm"`, `"2400 dpi"`, "", ""},
	} {
		t.Run(name, func(t *testing.T) {
			text := compact(t, example(t))
			old := compactPart(test.old)
			require.Contains(t, text, old)
			text = strings.Replace(text, old, compactPart(test.new), 1)
			if name == "enormous" {
				text = strings.Replace(text, `"width":76000,"length":38000`, `"width":1900000,"length":1900000`, 1)
				test.path, test.text = "stock", "million dots"
			}
			_, err := design.Parse([]byte(text))
			var faults *design.FaultsError
			require.ErrorAs(t, err, &faults)
			require.Equal(t, test.path, faults.Faults[0].Path, err)
			require.Contains(t, faults.Faults[0].Text, test.text)
		})
	}
}

func compact(t *testing.T, text string) string {
	var out bytes.Buffer
	require.NoError(t, json.Compact(&out, []byte(text)))
	return out.String()
}

func compactPart(text string) string {
	return strings.NewReplacer(`": `, `":`, `, "`, `,"`).Replace(text)
}

func TestParseRefusesTheFutureAndWhatIsNoDesign(t *testing.T) {
	_, err := design.Parse([]byte(strings.Replace(example(t), "oddspool.design/1", "oddspool.design/9", 1)))
	require.Equal(t, &design.FutureError{Format: "oddspool.design/9"}, err)
	require.ErrorContains(t, err, "newer Odd Spool")

	_, err = design.Parse([]byte("{\n  \"format\": \"oddspool.design/1\",\n  oops"))
	var syntax *design.SyntaxError
	require.ErrorAs(t, err, &syntax)
	require.Equal(t, 3, syntax.Line)
	require.ErrorContains(t, err, "not a design file")

	for _, text := range []string{"", "\x89PNG\r\n", "[]", "null", `{"format":"another"}`, `{}`} {
		_, err := design.Parse([]byte(text))
		require.ErrorContains(t, err, "design", text)
	}
}

func TestWrittenDefaultsAreTheDefaults(t *testing.T) {
	text := strings.Replace(compact(t, example(t)), `"points":20`, `"points":20,"align":"left","stand":"top"`, 1)
	d, err := design.Parse([]byte("\ufeff" + text))
	require.NoError(t, err)
	require.Equal(t, design.Left, d.Elements[0].Text.Align)
	require.Equal(t, design.Top, d.Elements[0].Text.Stand)
}

func TestSizeFollowsTheTurn(t *testing.T) {
	d, err := design.Parse([]byte(example(t)))
	require.NoError(t, err)
	d.Turn = 90
	w, h := d.Size()
	require.Equal(t, 38*measure.Millimetre, w)
	require.Equal(t, 76*measure.Millimetre, h)
}

// Whatever is given, Parse returns a design that can be parsed again, or an error.
func FuzzParse(f *testing.F) {
	f.Add(example(f))
	f.Add(`{"format":"oddspool.design/1","elements":[{}]}`)
	f.Fuzz(func(t *testing.T, text string) {
		d, err := design.Parse([]byte(text))
		if err != nil {
			return
		}
		written, err := json.Marshal(d)
		require.NoError(t, err)
		_, err = design.Parse(written)
		require.NoError(t, err)
	})
}

func ExampleParse() {
	_, err := design.Parse([]byte(`{"format": "oddspool.design/1", "name": "Bin", "colour": "red",
		"stock": {"name": "", "kind": "die-cut", "shape": "rectangle", "width": 76000, "length": 38000, "gap": 3000},
		"printer": {"name": "", "resolution": "8 dots/mm", "headDots": 832}, "elements": []}`))
	fmt.Println(err)
	// Output: colour: there is no such field in oddspool.design/1
}
