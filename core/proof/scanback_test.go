package proof_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
)

// Whatever a scanner makes of a code, it is the code that is on the label.
func TestScannedCodesAreThoseOfTheLabel(t *testing.T) {
	mm := measure.Millimetre
	gs1 := code(5*mm, 5*mm, 60*mm, 20*mm)
	gs1.Code.Symbology, gs1.Says = "gs1-128", []design.Piece{{Text: "(01)09521234543213(10)"}, {Field: "lot"},
		{Text: "(21)417"}}
	retail := code(5*mm, 30*mm, 60*mm, 20*mm)
	retail.ID, retail.Code.Symbology, retail.Says = "retail", "upca", []design.Piece{{Text: "952123454324"}}
	c, err := proof.NewChecker(label(gs1, retail), []string{"lot"})
	require.NoError(t, err)
	codes := c.Codes([]string{"A1"})
	require.Len(t, codes, 2)
	for _, scanned := range []string{"]C1010952123454321310A1\x1d21417", "010952123454321310A1\x1d21417\r\n",
		"010952123454321310A121417", "(01)09521234543213(10)A1(21)417"} {
		require.Equal(t, codes[0], proof.ScanKey(scanned), scanned)
	}
	for _, scanned := range []string{"952123454324", "0952123454324", "]E00952123454324"} {
		require.Equal(t, codes[1], proof.ScanKey(scanned), scanned)
	}
	for _, other := range []string{"010952123454321310A2\x1d21417", "] C1", "]1", "", "(01)09521234543213"} {
		require.NotContains(t, codes, proof.ScanKey(other), other)
	}
}
