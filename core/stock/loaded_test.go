package stock_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/stock"
)

func ExampleLoaded_Misfit() {
	needs := stock.Stock{Number: "S-076", Name: "76 × 38 paper", Kind: stock.DieCut, Width: 76_000, Length: 38_000}
	loaded := stock.Loaded{Key: "S-102", Name: "102 × 51 paper", Width: 102_000, Length: 51_000}
	fmt.Println(loaded.Misfit(needs).Text)
	// Output: 102 × 51 paper is loaded, and this needs 76 × 38 paper (76 mm × 38 mm).
}

// What is loaded is held against what is needed as printers tell it: in hundredths of a millimetre or rounded inches,
// or not at all.
func TestLoadedStockIsHeldAgainstWhatIsNeeded(t *testing.T) {
	paper := stock.Stock{Number: "S-076", Name: "76 × 38 paper", Kind: stock.DieCut, Width: 76_000, Length: 38_000}
	lanes := paper
	lanes.Lanes, lanes.LaneGap = 2, 3000
	tape := stock.Stock{Number: "S-113", Name: "tape", Kind: stock.Tape, Width: 12_000, Length: 40_000,
		Tape: &stock.TapeCut{}}
	for name, test := range map[string]struct {
		loaded        stock.Loaded
		needs         stock.Stock
		spoils, other bool
	}{
		"the same":               {stock.Loaded{Key: "S-076", Width: 76_000, Length: 38_000}, paper, false, false},
		"another of its size":    {stock.Loaded{Key: "S-077", Width: 76_000, Length: 38_000}, paper, false, true},
		"rounded":                {stock.Loaded{Width: 76_200, Length: 38_100}, paper, false, false},
		"shorter":                {stock.Loaded{Key: "S-099", Width: 76_000, Length: 25_000}, paper, true, false},
		"narrower, not named":    {stock.Loaded{Width: 50_000, Length: 38_000}, paper, true, false},
		"not told":               {stock.Loaded{}, paper, false, false},
		"one lane for two":       {stock.Loaded{Key: "S-076b", Width: 76_000, Length: 38_000}, lanes, true, false},
		"tape, whatever is left": {stock.Loaded{Width: 12_000, Length: 600_000}, tape, false, false},
		"wider tape":             {stock.Loaded{Width: 24_000, Length: 40_000}, tape, true, false},
	} {
		require.Equal(t, test.spoils, test.loaded.Misfit(test.needs) != nil, name)
		require.Equal(t, test.other, test.loaded.OtherMaterial(test.needs), name)
	}
	require.Contains(t, (&stock.Loaded{Width: 50 * measure.Millimetre, Length: 38_000}).Misfit(paper).Text,
		"a stock of 50 mm × 38 mm is loaded")
}

// Cells that a spreadsheet would take for formulas are written as text, and read back as they were.
func TestTablesOfStocksMakeNoFormulas(t *testing.T) {
	for _, name := range []string{"=1+1", "+49 label", "-tape", "@sum", "'quoted", "plain", "-3"} {
		made := stock.OfSize(50_000, 25_000)
		made.Number, made.Name = "own-1", name
		file := write(t, made)
		for _, begins := range []string{"=", "+4", "-t", "@"} {
			require.NotContains(t, file, ","+begins, name)
		}
		back, wrong := read(t, file)
		require.Empty(t, wrong)
		require.Equal(t, name, back[0].Name)
	}
}

func write(t *testing.T, stocks ...stock.Stock) string {
	var file strings.Builder
	require.NoError(t, stock.WriteTable(&file, stocks))
	return file.String()
}

func read(t *testing.T, file string) ([]stock.Stock, []*stock.RowError) {
	stocks, wrong, err := stock.ReadTable(strings.NewReader(file))
	require.NoError(t, err)
	return stocks, wrong
}

func TestTablesOfStocksAreBounded(t *testing.T) {
	for _, file := range []string{"number,name\n" + strings.Repeat("a,b\n", stock.MostStocks+2),
		"number" + strings.Repeat(",x", 300) + "\n"} {
		_, _, err := stock.ReadTable(strings.NewReader(file))
		require.ErrorContains(t, err, "too large for a table of stocks")
	}
}

// What a person says counts as long as the printer says the same as then.
func TestAPersonKnowsBetterThanThePrinter(t *testing.T) {
	says := stock.Loaded{Key: "A", Name: "50 × 25 paper", Width: 50 * measure.Millimetre,
		Length: 25 * measure.Millimetre, Left: 417}
	said := &stock.Said{Key: "B", Name: "100 × 50 paper", Width: 100 * measure.Millimetre,
		Length: 50 * measure.Millimetre, Reason: "the roll was changed", By: "Maren", Against: says.Says()}
	is, counts := says.As(said)
	require.True(t, counts)
	require.Equal(t, []any{"B", 100 * measure.Millimetre, 417}, []any{is.Key, is.Width, is.Left},
		"what is left is the printer's to say")
	less := says
	less.Left = 12
	_, counts = less.As(said)
	require.True(t, counts, "fewer labels are left, and nothing else is loaded")
	other := says
	other.Key = "C"
	is, counts = other.As(said)
	require.False(t, counts)
	require.Equal(t, other, is)
	is, counts = says.As(nil)
	require.False(t, counts)
	require.Equal(t, says, is)
}
