package main

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func TestSeriesOfTheCommandLine(t *testing.T) {
	code, out, message := do("series", "-start", "0417", "-step", "2", "-count", "3", "-prefix", "KW-")
	require.Zero(t, code, message)
	require.Equal(t, "KW-0417\nKW-0419\nKW-0421\n", out)
	code, out, _ = do("series", "-start", "ZZ", "-count", "2", "-alphabet", "base36", "-format", "json")
	require.Zero(t, code)
	require.JSONEq(t, `["ZZ", "100"]`, out)
	code, out, _ = do("series", "-start", "3", "-step", "-1", "-end", "1", "-width", "2", "-format", "csv")
	require.Zero(t, code)
	require.Equal(t, "number\r\n03\r\n02\r\n01\r\n", out)
	code, out, message = do("series", "-start", "98", "-width", "2", "-count", "5")
	require.Equal(t, 1, code)
	require.Equal(t, "98\n99\n", out, "those that there are")
	require.Contains(t, message, "2 digits are used up before number 3")
	code, _, message = do("series", "-start", "4X")
	require.Equal(t, 1, code)
	require.Contains(t, message, "“X” in place 2")
	code, _, _ = do("series", "-format", "yaml")
	require.Equal(t, 2, code)
	code, out, _ = do("series", "-random", "kelp", "-start", "000")
	require.Zero(t, code)
	require.Len(t, out, 40)
}
