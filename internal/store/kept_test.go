package store_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/stock"
	"oddspool/internal/store"
)

func TestKeptValues(t *testing.T) {
	var kept store.Kept[stock.Setup]
	require.NoError(t, kept.Scan([]byte(`{"name": "thin", "darkness": 40}`)))
	require.Equal(t, stock.Setup{Name: "thin", Darkness: 40}, kept.V)
	written, err := kept.Value()
	require.NoError(t, err)
	var again store.Kept[stock.Setup]
	require.NoError(t, again.Scan(written))
	require.Equal(t, kept, again)

	require.ErrorContains(t, kept.Scan(`{"darkness": "much"}`), "read a kept stock.Setup")
	require.ErrorContains(t, kept.Scan(40), "JSON from int")
	require.NoError(t, again.Scan(nil))
	require.Zero(t, again.V, "nothing of before is left")

	var changed store.Kept[*stock.Setup]
	require.NoError(t, changed.Scan(nil))
	require.Nil(t, changed.V)
}
