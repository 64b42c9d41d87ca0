package symbology_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/symbology"
)

func TestRankingPutsWhatHoldsAllFirst(t *testing.T) {
	eight := measure.DotsPerMillimetre(8)
	suits := symbology.Rank([]string{"952N0307B", "Tång 7"}, eight)
	require.Len(t, suits, len(symbology.Guides()))
	require.Equal(t, symbology.Aztec, suits[0].ID, "the smallest that holds both: it needs no quiet zone")
	by := map[symbology.ID]symbology.Suit{}
	for i, s := range suits {
		by[s.ID] = s
		if i > 0 {
			require.GreaterOrEqual(t, s.Fails, suits[i-1].Fails)
		}
	}
	require.Zero(t, by[symbology.QR].Fails)
	require.Equal(t, 1, by[symbology.Code128].Fails)
	require.Contains(t, by[symbology.Code128].Why, "“å” (character 2)")
	require.Equal(t, 2, by[symbology.EAN13].Fails)
	require.Equal(t, 2, by[symbology.Code128].Module, "0.19 mm is 2 dots")

	numbers := symbology.Rank([]string{"952123454321", "9521234543213"}, eight)
	for _, s := range numbers {
		if s.ID == symbology.EAN13 {
			require.Zero(t, s.Fails)
			require.Equal(t, (95+11+7)*3, s.Wide, "0.264 mm is 3 dots")
			require.Equal(t, 50, s.Tall, "15 per cent of it")
		}
	}
	require.Empty(t, symbology.Rank(nil, eight)[0].Why)
}
