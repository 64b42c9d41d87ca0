package design_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/examples"
)

// Some elements changed give the design that the whole document gives, and the one before stays as it was.
func TestWithIsWhatTheWholeDocumentIs(t *testing.T) {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	before, err := design.Parse(data)
	require.NoError(t, err)
	var document struct {
		Elements []json.RawMessage `json:"elements"`
	}
	require.NoError(t, json.Unmarshal(data, &document))
	var whole map[string]any
	require.NoError(t, json.Unmarshal(data, &whole))
	for i := range document.Elements {
		element := whole["elements"].([]any)[i].(map[string]any)
		was := element["x"]
		element["x"] = 4000 + 125*i
		changed, err := json.Marshal([]map[string]any{{"at": i, "element": element}})
		require.NoError(t, err)
		text, err := json.Marshal(whole)
		require.NoError(t, err)
		want, err := design.Parse(text)
		require.NoError(t, err)
		got, err := before.With(changed)
		require.NoError(t, err)
		require.Equal(t, want, got)
		require.NotEqual(t, got.Elements[i].X, before.Elements[i].X, "the one before stays")
		element["x"] = was
	}
	for _, bad := range []string{`[{"at": 99, "element": {}}]`, `[{"at": -1, "element": {}}]`, `{`,
		`[{"at": 0, "element": {"id": "a", "kind": "text"}}]`} {
		_, err := before.With([]byte(bad))
		require.IsType(t, &design.FaultsError{}, err, bad)
	}
}
