package design_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/examples"
)

func TestSymbolsAndWhatWasLaidOutAreKept(t *testing.T) {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	d.Elements = []design.Element{
		{ID: "sign", Kind: design.Symbol, X: 1000, Y: 1000, Width: 9000, Height: 9000,
			Symbol: &design.SymbolLooks{ID: "W012", NoFrame: true}},
		{ID: "pictogram", Kind: design.Symbol, X: 1000, Y: 1000, Width: 9000, Height: 9000,
			Symbol: &design.SymbolLooks{ID: "GHS02"}, Says: []design.Piece{{Field: "pictogram 1"}},
			IfEmpty: design.LeaveOut},
		{ID: "words", Kind: design.Text, X: 1000, Y: 1000, Width: 9000, Height: 9000,
			Says: []design.Piece{{Text: "Stop"}}, Text: &design.TextLooks{Typeface: "Liberation Sans", Points: 12,
				ReadFrom: 12.5}},
	}
	d.Laid = &design.Laid{What: "sign", With: json.RawMessage(`{"kind":"danger"}`)}
	document, err := json.Marshal(d)
	require.NoError(t, err)
	back, err := design.Parse(document)
	require.NoError(t, err)
	require.Equal(t, d.Elements, back.Elements)
	require.JSONEq(t, string(d.Laid.With), string(back.Laid.With))
	require.Contains(t, back.UsedFields(), "pictogram 1")
	require.True(t, back.Elements[0].Fixed())
	require.False(t, back.Elements[1].Fixed())

	for says, change := range map[string][2]string{
		"needs to say which": {`"symbol":{"id":"W012","noFrame":true}`, `"locked":false`},
		"elements[0].symbol": {`"noFrame":true`, `"noSuch":true`},
		"laid":               {`"what":"sign"`, `"what":"poem"`},
		"elements[2].text":   {`"readFrom":12.5`, `"readFrom":-1`},
		"elements[0]: 2000.0": {`"width":9000,"height":9000,"symbol":{"id":"W012"`,
			`"width":2000000,"height":2000000,"symbol":{"id":"W012"`},
	} {
		require.Contains(t, string(document), change[0], says)
		_, err := design.Parse([]byte(strings.Replace(string(document), change[0], change[1], 1)))
		require.ErrorAs(t, err, new(*design.FaultsError), says)
		require.ErrorContains(t, err, strings.Split(says, ": ")[0])
	}
}
