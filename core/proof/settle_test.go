package proof_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/stock"
)

// A design that is carried to a smaller stock comes out without findings where that can be, with what was done told;
// what cannot be helped comes back as it was.
func TestSettleFindsADesignWithoutFindings(t *testing.T) {
	words, code := text(3*mm, 2*mm, 70*mm, 7*mm), code(3*mm, 10*mm, 70*mm, 24*mm)
	words.Text.Points = 14
	d := label(words, code)
	records := [][]string{{"Sugar kelp, flaked", "952N0307B"}, {"Winged kelp, cut and dried", "952N0101A"}}
	fewer := func(width measure.Length) (before, after int, settled *design.Design, changes []design.Change) {
		onto := stock.Stock{Name: "narrow", Kind: stock.DieCut, Shape: stock.Rectangle, Width: width, Length: 38 * mm,
			Gap: 3 * mm}
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

// Where a code has no room however small it is made, its turn and a denser symbology are offered, by name; where all is
// well nothing is.
func TestCodesThatHaveNoRoomAreOfferedOtherwise(t *testing.T) {
	d := label(code(3*mm, 10*mm, 70*mm, 24*mm))
	records := [][]string{{"Sugar kelp, flaked", "952N0307B"}, {"Winged kelp, cut and dried", "952N0101A"}}
	offers, err := proof.Offers(t.Context(), d, fields, records)
	require.NoError(t, err)
	require.Empty(t, offers)

	narrow := stock.Stock{Name: "narrow", Kind: stock.DieCut, Shape: stock.Rectangle, Width: 12 * mm, Length: 60 * mm,
		Gap: 3 * mm}
	settled, _, err := proof.Settle(t.Context(), d.CarriedTurned(narrow, d.Printer, new(measure.Turn), design.Scale),
		fields, records)
	require.NoError(t, err)
	offers, err = proof.Offers(t.Context(), settled, fields, records)
	require.NoError(t, err)
	require.Len(t, offers, 2)
	require.Contains(t, offers[0].Text, "turned by 90°")
	require.Contains(t, offers[1].Text, "as Data Matrix, which cameras read, and laser scanners do not")
	for _, offer := range offers {
		report, err := proof.All(t.Context(), offer.Design, fields, records)
		require.NoError(t, err)
		require.Zero(t, report.Errors(), "%s: %+v", offer.Text, offer.Design.Elements)
		require.NotEmpty(t, offer.Changes)
	}
	require.Equal(t, "code128", settled.Elements[0].Code.Symbology, "what it was made of stays as it is")
	settled.Elements[0].Locked = true
	offers, err = proof.Offers(t.Context(), settled, fields, records)
	require.NoError(t, err)
	require.Empty(t, offers, "what is locked stays")
}
