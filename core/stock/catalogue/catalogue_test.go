package catalogue_test

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
	"oddspool/internal/stocktest"
)

func TestEveryStockIsPossibleAndTellsItselfFromOthers(t *testing.T) {
	all := catalogue.All()
	require.GreaterOrEqual(t, len(all), 80)
	kinds, numbers := map[stock.Kind]int{}, map[string]bool{}
	for _, s := range all {
		t.Run(s.Number, func(t *testing.T) { stocktest.Run(t, s) })
		require.False(t, numbers[s.Number])
		require.NotEmpty(t, s.Material)
		require.NotEmpty(t, s.Purpose)
		numbers[s.Number] = true
		kinds[s.Kind]++
	}
	for _, kind := range stock.Kinds() {
		require.GreaterOrEqual(t, kinds[kind], 4, kind)
	}
}

func TestStocksAreFoundByWhatIsTyped(t *testing.T) {
	names := func(text string) (found []string) {
		query := stock.ParseQuery(text)
		for _, s := range catalogue.All() {
			if query.Matches(s) {
				found = append(found, s.Name)
			}
		}
		return found
	}
	require.Equal(t, []string{"76 × 38 paper"}, names("76x38"))
	require.Equal(t, names("76x38"), names("38 × 76 mm"))
	require.Equal(t, names("76x38"), names("3 in x 1.5 in"), "trade sizes in inches are found")
	require.Equal(t, []string{"102 × 51 paper"}, names("4x2in"))
	require.Contains(t, names("3 in"), "76 × 51 paper")
	require.Equal(t, []string{"50 × 25, 2 lanes", "22 × 12, 4 lanes"}, names("polyester lanes"))
	require.Equal(t, []string{"Sleeve 6.4, yellow", "Sleeve 6, yellow, 3:1"}, names("sleeve yellow 6.4mm"))
	require.Len(t, names("oval"), 1)
	require.Len(t, names("S-076"), 1)
	require.Equal(t, len(catalogue.All()), len(names("")))
	require.Empty(t, names("chocolate"))
	width, length, ok := stock.ParseQuery("100x50 polyester").Size()
	require.True(t, ok)
	require.Equal(t, []measure.Length{100_000, 50_000}, []measure.Length{width, length})
	_, _, ok = stock.ParseQuery("12 mm").Size()
	require.False(t, ok)
}

// Every cable from 2 to 30 mm, as the plant has them, finds something that goes round it.
func TestEveryCableFindsAStock(t *testing.T) {
	for cable := 2 * measure.Millimetre; cable <= 23*measure.Millimetre; cable += 500 {
		require.NotEmpty(t, stock.ForCable(catalogue.All(), cable), cable.String())
	}
}

// A stock keeps its number for good: designs, printers and record sets know it by that. What comes later stands behind
// the others.
func TestStocksKeepTheirNumbers(t *testing.T) {
	const first = 85 // that the first release had
	sum := sha256.New()
	for _, s := range catalogue.All()[:first] {
		fmt.Fprintln(sum, s.Number, s.Name)
	}
	require.Equal(t, "67d592826bfa4f82", hex.EncodeToString(sum.Sum(nil))[:16])
}
