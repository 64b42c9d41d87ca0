package stock_test

import (
	"bytes"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
)

func TestTablesOfStocksComeBack(t *testing.T) {
	var table bytes.Buffer
	require.NoError(t, stock.WriteTable(&table, catalogue.All()))
	text := table.String()
	require.True(t, strings.HasPrefix(text,
		"number,name,kind,material,purpose,colour,shape,width,length,gap,edgeLeft,edgeRight,"), text[:100])
	require.Contains(t, text, "S-076,76 × 38 paper,die-cut,")
	require.Contains(t, text, ",76,38,3,2,2,", "lengths are millimetres")
	stocks, wrong, err := stock.ReadTable(&table)
	require.NoError(t, err)
	require.Empty(t, wrong)
	require.Equal(t, catalogue.All(), stocks)
}

func TestWrongRowsAreLeftOutAndSaidWhy(t *testing.T) {
	const table = `number,name,kind,shape,width,length,gap,lanes,roll.core,reacts,colour,edgeLeft
B-1,Good,die-cut,rectangle,2 in,1 in,3,,,,,2
B-2,No size,die-cut,rectangle,0,25,3,,,,,
B-3,No number,die-cut,rectangle,wide,25,3,,,,,
B-4,Lanes,die-cut,rectangle,40,25,3,two,,,,
B-5,Reacts,die-cut,rectangle,40,25,3,,,black,,
,Nameless,die-cut,rectangle,40,25,3,,,,,
B-7,Star,die-cut,star,40,25,3,,,,,
B-8,Short
`
	stocks, wrong, err := stock.ReadTable(strings.NewReader(table))
	require.NoError(t, err)
	require.Len(t, stocks, 1)
	require.Equal(t, []measure.Length{50_800, 25_400, 2000}, []measure.Length{stocks[0].Width, stocks[0].Length,
		stocks[0].EdgeLeft})
	said := map[int]string{}
	for _, w := range wrong {
		said[w.Row] = w.Error()
	}
	for row, want := range map[int]string{2: "row 2, B-2: A width of 0 mm is impossible", 3: "row 3, B-3: width:",
		4: `lanes: "two" is no whole number`,
		5: `reacts: "black" is no JSON list`, 6: "row 6: A stock needs a number and a name.",
		7: `The shape "star" is not known`, 8: "row 8, B-8: A width"} {
		require.Contains(t, said[row], want)
	}
	for _, text := range []string{"", "name,kind\nx,tape\n", "number\n\"broken\n"} {
		_, _, err := stock.ReadTable(strings.NewReader(text))
		require.ErrorContains(t, err, "this is no table of stocks", text)
	}
	_, wrong, err = stock.ReadTable(strings.NewReader("number,name,size\nB-1,X,12\n"))
	require.NoError(t, err)
	require.Contains(t, wrong[0].Text, `unknown field "size"`)
}

func TestFullDisksAreSaid(t *testing.T) {
	full, err := os.OpenFile("/dev/full", os.O_WRONLY, 0)
	require.NoError(t, err)
	defer full.Close()
	require.ErrorContains(t, stock.WriteTable(full, catalogue.All()), "write stocks")
}

func TestStocksAreMadeFromASize(t *testing.T) {
	for text, want := range map[string][2]measure.Length{"100x50": {100 * mm, 50 * mm},
		"4 in x 2 in": {101_600, 50_800}, "7,5 × 2 cm": {75 * mm, 20 * mm}} {
		w, l, ok := stock.ParseQuery(text).Size()
		require.True(t, ok, text)
		require.Equal(t, want, [2]measure.Length{w, l}, text)
		s := stock.OfSize(w, l)
		require.Empty(t, s.Check(), text)
		require.Equal(t, w, s.Width)
	}
	require.NotEmpty(t, stock.OfSize(0, mm).Check())
}

func FuzzReadTable(f *testing.F) {
	var table bytes.Buffer
	require.NoError(f, stock.WriteTable(&table, catalogue.All()[:5]))
	f.Add(table.String())
	f.Fuzz(func(t *testing.T, text string) {
		stocks, _, err := stock.ReadTable(strings.NewReader(text))
		if err != nil {
			return
		}
		for _, s := range stocks {
			require.Empty(t, s.Check())
		}
	})
}
