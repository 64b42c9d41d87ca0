package proof_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/stock"
)

// A design that is carried to a smaller stock comes out without findings where that can be, with what was done told; what cannot be helped
// comes back as it was.
func TestSettleFindsADesignWithoutFindings(t *testing.T) {
	words, code := text(3*mm, 2*mm, 70*mm, 7*mm), code(3*mm, 10*mm, 70*mm, 24*mm)
	words.Text.Points = 14
	d := label(words, code)
	records := [][]string{{"Sugar kelp, flaked", "952N0307B"}, {"Winged kelp, cut and dried", "952N0101A"}}
	fewer := func(width measure.Length) (before, after int, settled *design.Design, changes []design.Change) {
		onto := stock.Stock{Name: "narrow", Kind: stock.DieCut, Shape: stock.Rectangle, Width: width, Length: 38 * mm, Gap: 3 * mm}
		carried := d.Carried(onto, d.Printer, design.KeepPlaces)
		report, err := proof.All(t.Context(), carried, fields, records)
		require.NoError(t, err)
		settled, changes, err = proof.Settle(t.Context(), carried, fields, records)
		require.NoError(t, err)
		settledReport, err := proof.All(t.Context(), settled, fields, records)
		require.NoError(t, err)
		return report.Errors(), settledReport.Errors(), settled, changes
	}
	before, after, settled, changes := fewer(50 * mm)
	require.Positive(t, before)
	require.Zero(t, after, "%+v", settled.Elements)
	require.NotEmpty(t, changes)
	require.Equal(t, 14.0, d.Elements[0].Text.Points, "what it was made of stays as it is")

	before, after, _, _ = fewer(15 * mm)
	require.Positive(t, before)
	require.LessOrEqual(t, after, before, "no room for the bars at all")

	whole, changes, err := proof.Settle(t.Context(), d, fields, records)
	require.NoError(t, err)
	require.Empty(t, changes)
	require.Same(t, d, whole)
}
