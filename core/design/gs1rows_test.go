package design_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/gs1"
)

// What is typed into a value is data, whatever brackets stand in it, and comes back as it was typed.
func TestGS1RowsAreBuiltAndReadAlike(t *testing.T) {
	text := func(s string) []design.Piece { return []design.Piece{{Text: s}} }
	for name, rows := range map[string][]design.GS1Row{
		"a lot with brackets": {{AI: "01", Value: text("09521234543213")}, {AI: "10", Value: text("A1(21)7")}},
		"a backslash":         {{AI: "10", Value: text(`A\(1\\`)}, {AI: "21", Value: text("7")}},
		"fields": {{AI: "00", Value: []design.Piece{{Field: "sscc"}}},
			{AI: "10", Value: []design.Piece{{Text: "L"}, {Field: "lot"}}}},
		"a value that is open": {{AI: "01", Value: []design.Piece{}}, {AI: "21", Value: text("7")}},
		"before the first":     {{Value: text("stray")}, {AI: "21", Value: text("7")}},
	} {
		require.Equal(t, rows, design.GS1Rows(design.GS1Pieces(rows)), name)
	}
	pieces := design.GS1Pieces([]design.GS1Row{{AI: "01", Value: text("09521234543213")},
		{AI: "10", Value: text("A1(21)7")}})
	require.Len(t, pieces, 1)
	elements, err := gs1.Parse(pieces[0].Text)
	require.NoError(t, err)
	require.Len(t, elements, 2)
	require.Equal(t, "A1(21)7", elements[1].Value)
	require.Equal(t, []design.GS1Row{{AI: "10", Value: text("A(99999)B")}}, design.GS1Rows(text("(10)A(99999)B")),
		"(99999) is no identifier")
}
