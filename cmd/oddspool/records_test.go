package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestRecordsSaysWhatWasReadAndHow(t *testing.T) {
	path := filepath.Join(t.TempDir(), "orders.json")
	require.NoError(t, os.WriteFile(path,
		[]byte(`{"orders": [{"no": "A-1", "lines": [{"item": "K-1", "qty": "007"}]}, {"no": "A-2", "lines": [{"item": "K-2, dried", "qty": 1E5}]}]}`), 0o600))
	code, out, message := do("records", "-read", path)
	require.Zero(t, code, message)
	require.JSONEq(t, `{"fields": ["item", "qty", "orders no"], "records": [["K-1", "007", "A-1"], ["K-2, dried", "1E5", "A-2"]]}`, out)
	var how howRead
	require.NoError(t, json.Unmarshal([]byte(message), &how))
	require.EqualValues(t, "JSON", how.Kind)
	require.Equal(t, "/orders/lines", how.Table)
	require.Equal(t, 2, how.Rows)
	code, out, _ = do("records", "-read", path, "-table", "orders.lines", "-format", "csv")
	require.Zero(t, code)
	require.Equal(t, "item,qty,orders no\r\nK-1,007,A-1\r\n\"K-2, dried\",1E5,A-2\r\n", out)

	code, out, message = do("records", "-read", "../../examples/bins.csv", "-header", "0", "-separator", ";",
		"-encoding", "cp1252")
	require.Zero(t, code, message)
	require.Contains(t, out, `"column 1"`)
	require.NoError(t, json.Unmarshal([]byte(message), &how))
	require.Equal(t, "Windows-1252", how.Encoding)
	require.Zero(t, how.Header)

	code, out, message = do("records", "-read", path, "-table", "nosuch")
	require.Equal(t, 1, code)
	require.Empty(t, out)
	require.Contains(t, message, `There is no list "nosuch"`)
	code, _, message = do("records", "-read", path, "-sheet", "Bins")
	require.Equal(t, 1, code)
	require.Contains(t, message, "has no sheets")
	for _, args := range [][]string{{"records"}, {"records", "-read", path, "-format", "yaml"},
		{"records", "-read", path + "x"}} {
		code, _, _ = do(args...)
		require.Equal(t, 2, code, "%v", args)
	}
}

// Questions are answered on the command line, and a missing or wrong answer is said.
func TestQuestionsAreAnsweredOnTheCommandLine(t *testing.T) {
	data, err := os.ReadFile("../../examples/bin-label.json")
	require.NoError(t, err)
	var document map[string]any
	require.NoError(t, json.Unmarshal(data, &document))
	document["questions"] = []map[string]any{{"name": "batch", "kind": "text", "must": true, "pattern": `\d\d[A-Z]\d+`}}
	element := document["elements"].([]any)[0].(map[string]any)
	element["says"] = []map[string]any{{"formula": `upper(batch) + "/" + left(bin, 1)`}}
	data, err = json.Marshal(document)
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "asks.json")
	require.NoError(t, os.WriteFile(path, data, 0o600))
	call := []string{"proof", "-design", path, "-records", "../../examples/bins.csv", "-rows", "1-3"}
	code, _, message := do(call...)
	require.Equal(t, 1, code)
	require.Contains(t, message, "batch: this needs an answer.")
	code, _, message = do(append(call, "-answer", "batch=104")...)
	require.Equal(t, 1, code)
	require.Contains(t, message, "does not look as it should")
	code, out, message := do(append(call, "-answer", "batch=26K104")...)
	require.Zero(t, code, out+message)
	code, _, message = do(append(call, "-answer", "batch=26K104", "-answer", "shed=N")...)
	require.Equal(t, 1, code)
	require.Contains(t, message, `no question "shed"`)
}

// Every command takes any kind of file.
func TestLabelsComeFromAnyFile(t *testing.T) {
	path := filepath.Join(t.TempDir(), "bins.xml")
	require.NoError(t, os.WriteFile(path,
		[]byte(`<bins><b><bin>N-01-01-A</bin><contents>Dulse</contents><lot>00417</lot></b><b><bin>N-01-02-A</bin><contents>Kombu</contents><lot>00418</lot></b></bins>`), 0o600))
	code, out, message := do("proof", "-design", "../../examples/bin-label.json", "-records", path)
	require.NotEqual(t, 2, code, message)
	require.Contains(t, out+message, "2 labels")
}
