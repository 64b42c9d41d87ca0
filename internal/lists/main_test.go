package main

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func TestListsAreWrittenWhereTheyAreNamed(t *testing.T) {
	known := map[string][]string{"stocks": {"roll", "plate"}, "inks": nil}
	for from, to := range map[string]string{
		`"kind": { "x-list": "stocks", "enum": ["old"] }, "enum": ["left"]`: `"kind": { "x-list": "stocks", ` +
			`"enum": ["roll", "plate"] }, "enum": ["left"]`,
		`kind: { type: string, x-list: stocks, enum: [] }`: `kind: { type: string, x-list: stocks, ` +
			`enum: ["roll", "plate"] }`,
		`{ x-list: inks, enum: [a, b] }`: `{ x-list: inks, enum: [] }`,
	} {
		filled, err := fill(from, known)
		require.NoError(t, err)
		require.Equal(t, to, filled)
	}
	_, err := fill(`x-list: cables, enum: []`, known)
	require.ErrorContains(t, err, `"cables"`)
}
