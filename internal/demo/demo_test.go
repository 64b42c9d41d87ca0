package demo_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/stock"
	"oddspool/internal/demo"
)

func TestDevicesTakeWhatIsLoaded(t *testing.T) {
	devices := demo.Devices()
	require.GreaterOrEqual(t, len(devices), 6)
	for _, d := range devices {
		require.Empty(t, stock.Fit(d.Stock, d.Printer), d.Printer.Name)
		if full := d.Stock.Pieces(); full > 0 {
			require.LessOrEqual(t, d.Left, full, d.Printer.Name)
		}
	}
}
