package symbology_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/symbology"
)

func TestRankingPutsWhatHoldsAllFirst(t *testing.T) {
	eight := measure.DotsPerMillimetre(8)
	suits := symbology.Rank([]string{"952N0307B", "昆布 7"}, eight)
	require.Len(t, suits, len(symbology.All()))
	require.Equal(t, symbology.DataMatrix, suits[0].ID, "the smallest that holds both")
	by := map[symbology.ID]symbology.Suit{}
	for i, s := range suits {
		by[s.ID] = s
		if i > 0 {
			require.GreaterOrEqual(t, s.Fails, suits[i-1].Fails)
		}
	}
	require.Zero(t, by[symbology.QR].Fails)
	require.Equal(t, 1, by[symbology.Code128].Fails)
	require.Contains(t, by[symbology.Code128].Why, "“昆” (character 1)")
	require.Equal(t, 2, by[symbology.EAN13].Fails)
	require.Equal(t, 2, by[symbology.Code128].Module, "0.19 mm is 2 dots")

	numbers := symbology.Rank([]string{"952123454321", "9521234543213"}, eight)
	for _, s := range numbers {
		if s.ID == symbology.EAN13 {
			require.Zero(t, s.Fails)
			require.Equal(t, (95+11+7)*3, s.Wide, "0.264 mm is 3 dots")
			least := symbology.LeastHeight(symbology.EAN13, symbology.AnyPurpose, eight.Length(3), eight.Length(95*3))
			require.Equal(t, symbology.DotsNotLess(least, eight), s.Tall, "as tall as the proof wants its bars")
		}
	}
	require.Empty(t, symbology.Rank(nil, eight)[0].Why)
}

// GS1's tables are sane: a usual module between the least and the most, and each symbology known.
func TestSizesOfPurposesAreSane(t *testing.T) {
	seen := map[symbology.Purpose]int{}
	for _, guide := range symbology.All() {
		for _, size := range guide.Sizes {
			seen[size.Purpose]++
			require.LessOrEqual(t, size.Least, size.Usual, "%s %s", guide.ID, size.Purpose)
			require.LessOrEqual(t, size.Usual, size.Most, "%s %s", guide.ID, size.Purpose)
			require.Contains(t, []measure.Length{0, 12_700, 31_750}, size.Height)
			found, ok := symbology.SizeFor(guide.ID, size.Purpose)
			require.True(t, ok)
			require.Equal(t, size, found)
		}
	}
	for _, purpose := range symbology.Purposes() {
		require.Positive(t, seen[purpose], purpose)
	}
	_, ok := symbology.SizeFor(symbology.EAN13, symbology.Logistic)
	require.False(t, ok)
	size, ok := symbology.SizeFor(symbology.EAN13, symbology.AnyPurpose)
	require.True(t, ok)
	require.Equal(t, []measure.Length{264, 660}, []measure.Length{size.Least, size.Most},
		"80 to 200 per cent of 0.33 mm")
	require.EqualValues(t, 18_230, symbology.LeastHeight(symbology.EAN8, symbology.AnyPurpose, 330, 26_730))
	require.EqualValues(t, 5000, symbology.LeastHeight(symbology.Code39, symbology.AnyPurpose, 250, 20_000))
	require.EqualValues(t, 8500, symbology.LeastHeight(symbology.DataBarExpanded, symbology.AnyPurpose, 250, 40_000))
}

// Symbologies that hold GS1 data are ranked for it, and those that hold only numbers say why not.
func TestGS1DataIsRanked(t *testing.T) {
	suits := symbology.Rank([]string{"(01)09521234543213(10)26K104"}, measure.DotsPerMillimetre(12))
	fails := map[symbology.ID]int{}
	for _, suit := range suits {
		fails[suit.ID] = suit.Fails
		if suit.Fails > 0 {
			require.NotEmpty(t, suit.Why)
			continue
		}
		require.Positive(t, suit.Wide)
		require.Positive(t, suit.Tall)
	}
	for _, id := range []symbology.ID{symbology.GS1128, symbology.GS1DataMatrix, symbology.GS1QR, symbology.GS1Aztec,
		symbology.GS1LinkQR, symbology.DataBarExpanded, symbology.Code128} {
		require.Zero(t, fails[id], id)
	}
	for _, id := range []symbology.ID{symbology.EAN13, symbology.DataBarLimited, symbology.Pharmacode,
		symbology.Code11} {
		require.Equal(t, 1, fails[id], id)
	}
}
