package demo_test

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/proof"
	"oddspool/core/stock"
	"oddspool/examples"
	"oddspool/internal/demo"
	"oddspool/internal/sources"
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

// Every example design fits its printer, and its labels have nothing wrong with them.
func TestExamplesAreSound(t *testing.T) {
	for file, records := range map[string]string{"bin-label.json": "bins.csv", "drawer-tape.json": "circuits.csv",
		"circuit-sleeve.json": "circuits.csv",
		"hose-wrap.json":      "circuits.csv", "cable-flag.json": "circuits.csv", "valve-plate.json": "circuits.csv",
		"stairs-sign.json": "circuits.csv", "drum-label.json": "circuits.csv", "crate-label.json": "bins.csv"} {
		data, err := examples.Files.ReadFile(file)
		require.NoError(t, err)
		d, err := design.Parse(data)
		require.NoError(t, err, file)
		require.Empty(t, stock.Fit(d.Stock, d.Printer), file)
		text, err := examples.Files.ReadFile(records)
		require.NoError(t, err)
		table, err := sources.Read(text, sources.Settings{})
		require.NoError(t, err)
		report, err := proof.All(context.Background(), d, table.Fields, table.Records)
		require.NoError(t, err)
		require.Empty(t, report.Groups, file)
		known := slices.ContainsFunc(demo.Devices(),
			func(device demo.Device) bool { return device.Printer.Name == d.Printer.Name })
		require.True(t, known, "%s is made for a printer of the plant", file)
	}
}
