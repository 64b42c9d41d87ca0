package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/stock"
)

const dock2 = "../../examples/dock2-printer.json"

func show(t *testing.T, number string) string {
	code, out, message := do("stock", "-show", number)
	require.Zero(t, code, message)
	path := filepath.Join(t.TempDir(), "stock.json")
	require.NoError(t, os.WriteFile(path, []byte(out), 0o600))
	return path
}

func TestCatalogueIsListedFoundAndShown(t *testing.T) {
	code, out, _ := do("stock", "-list")
	require.Zero(t, code)
	require.GreaterOrEqual(t, strings.Count(out, "\n"), 80)
	code, out, _ = do("stock", "-find", "76x38")
	require.Zero(t, code)
	require.Equal(t, 1, strings.Count(out, "\n"), out)
	var found []stock.Stock
	code, out, _ = do("stock", "-find", "sleeve yellow", "-json")
	require.Zero(t, code)
	require.NoError(t, json.Unmarshal([]byte(out), &found))
	require.Len(t, found, 4)
	code, _, message := do("stock", "-show", "S-999")
	require.Equal(t, 2, code)
	require.Contains(t, message, `no stock "S-999"`)
	code, _, _ = do("stock")
	require.Equal(t, 2, code)
}

func TestFitSaysWhyNot(t *testing.T) {
	code, out, message := do("fit", "-stock", show(t, "S-076"), "-printer", dock2)
	require.Zero(t, code, message)
	require.Equal(t, "76 × 38 paper fits Dock 2: 608 × 304 dots a piece, 76 mm of it printable across\n", out)
	code, out, _ = do("fit", "-stock", show(t, "S-076"), "-printer", dock2, "-design", binLabel)
	require.Zero(t, code, out)

	// The bin label's right half has no place on a label of 51 × 25 mm.
	code, out, _ = do("fit", "-stock", show(t, "S-084"), "-printer", dock2, "-design", binLabel)
	require.Equal(t, 1, code)
	require.Contains(t, out, "element code: This reaches 22.0 mm over the right edge of the label.")

	var answer struct {
		Fits    bool
		Reasons []stock.Reason
	}
	code, out, _ = do("fit", "-stock", show(t, "S-093"), "-printer", dock2, "-json")
	require.Equal(t, 1, code)
	require.NoError(t, json.Unmarshal([]byte(out), &answer))
	require.False(t, answer.Fits)
	require.Equal(t, "width", answer.Reasons[0].Field)

	code, _, message = do("fit", "-stock", dock2, "-printer", dock2)
	require.Equal(t, 2, code)
	require.Contains(t, message, "unknown field")
	code, _, message = do("fit")
	require.Equal(t, 2, code)
	require.Contains(t, message, "-stock FILE and -printer FILE")
}
