package templates_test

import (
	"crypto/sha256"
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/proof"
	"oddspool/core/stock"
	"oddspool/core/templates"
	_ "oddspool/core/typefaces" // the program's own
)

// rows stand for Brinewick's records, of ordinary length.
var rows = map[string]struct {
	fields []string
	values []string
}{
	"": {},
	"bins": {[]string{"bin", "contents", "lot", "bags", "code", "serial"},
		[]string{"N-01-01-A", "Sugar kelp, flaked", "26K090", "12", "952N0101A", "00417"}},
	"circuits": {[]string{"circuit", "leads to", "panel", "sort"}, []string{"W101", "pump 1, drying hall, north", "A1",
		"Mind the step"}},
	"pallets": {[]string{"sscc", "gtin", "contents", "lot", "best before", "cases", "berth"},
		[]string{"095212345000004177", "09521234543008", "Sugar kelp, flaked", "26K101", "270328", "24", "Berth 1"}},
}

// Every start is a valid design for its stock and printer, and nothing is wrong with its label.
func TestTemplates(t *testing.T) {
	all := templates.All()
	require.GreaterOrEqual(t, len(all), 24)
	seen, kinds := map[string]bool{}, map[stock.Kind]bool{}
	for _, start := range all {
		require.False(t, seen[start.ID], start.ID)
		seen[start.ID], kinds[start.Design.Stock.Kind] = true, true
		require.NotEmpty(t, start.For)
		require.Equal(t, start.ID, templates.Find(start.ID).ID)
		document, err := json.Marshal(start.Design)
		require.NoError(t, err)
		d, err := design.Parse(document)
		require.NoError(t, err, start.ID)
		require.Empty(t, stock.Fit(d.Stock, d.Printer), start.ID)
		row := rows[start.Records]
		require.Subset(t, row.fields, d.UsedFields(), start.ID)
		checker, err := proof.NewChecker(d, row.fields)
		require.NoError(t, err)
		for _, f := range checker.Label(nil, 1, row.values) {
			t.Errorf("%s: %s: %s %s", start.ID, f.Element, f.Text, f.Do)
		}
	}
	require.Len(t, kinds, 7, "all kinds of stock")
	require.Nil(t, templates.Find("none"))
}

var update = flag.Bool("update", false, "write the reference anew")

// Every dot of every start is as it was when somebody looked at it: testdata/dots.txt has the hash of each label's
// planes. Where dots are meant to differ, look at them, and run the test with -update.
func TestTemplatesHaveTheDotsTheyHad(t *testing.T) {
	const file = "testdata/dots.txt"
	var now strings.Builder
	for _, start := range templates.All() {
		row := rows[start.Records]
		composer, err := compose.New(&start.Design, row.fields)
		require.NoError(t, err)
		_, layers := compose.NewArtwork(composer).Draw(row.values)
		sum := sha256.New()
		for _, plane := range layers {
			fmt.Fprintf(sum, "%d x %d", plane.Width, plane.Height)
			for y := range plane.Height {
				sum.Write(plane.AppendRow(nil, y))
			}
		}
		fmt.Fprintf(&now, "%s %x\n", start.ID, sum.Sum(nil))
	}
	if *update {
		require.NoError(t, os.WriteFile(file, []byte(now.String()), 0o644))
	}
	want, err := os.ReadFile(file)
	require.NoError(t, err)
	require.Equal(t, string(want), now.String())
}
