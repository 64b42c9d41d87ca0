package stock_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/stock"
)

func TestFacesAreCalledByTheirColour(t *testing.T) {
	for colour, name := range map[string]stock.Ink{
		"#FFFFFF": stock.White, "#F8F8F4": stock.White, "#F7C600": "yellow", "#FFD400": "yellow", "#00843D": "green",
		"#1F7A4D": "green", "#C8102E": stock.Red, "#DA291C": stock.Red,
		"#E87722": "orange", "#FF6A13": "orange", "#1D5FA8": "blue", "#005EB8": "blue", "#000000": stock.Black,
		"#22262B": stock.Black, "#8FC4E8": "light blue",
	} {
		require.True(t, stock.LooksLike(colour, name), "%s is %s", colour, name)
		for _, other := range []stock.Ink{stock.White, "yellow", "green", stock.Red, "orange", "blue", stock.Black} {
			require.Equal(t, other == name, stock.LooksLike(colour, other), "%s is %s, not %s", colour, name, other)
		}
	}
	require.False(t, stock.LooksLike("#FF00FF", "violet"), "no name is near")
	require.False(t, stock.LooksLike("white", stock.White), "a colour has six digits")
}
