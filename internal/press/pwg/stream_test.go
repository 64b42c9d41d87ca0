package pwg_test

import (
	"fmt"
	"io"
	"os"
	"runtime"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/internal/press/pwg"
)

// BenchmarkStream goes from records to a PWG raster stream and tells the heap at its end: it must
// not grow with the number of labels.
func BenchmarkStream(b *testing.B) {
	data, err := os.ReadFile("../../../examples/bin-label.json")
	require.NoError(b, err)
	d, err := design.Parse(data)
	require.NoError(b, err)
	for _, labels := range []int{1_000, 100_000} {
		b.Run(fmt.Sprint(labels, " labels"), func(b *testing.B) {
			for b.Loop() {
				composer, err := compose.New(d, d.Fields)
				require.NoError(b, err)
				press := compose.NewPress(composer)
				plane, raster := press.NewLayers(), pwg.NewWriter(io.Discard)
				for i := range labels {
					code := fmt.Sprintf("952N%06d", i)
					press.Label(plane, []string{"N-03-07-B", "Dulse, flaked", "26K104", "24", code, fmt.Sprint(i)})
					_ = raster.Page(plane[0], d.Printer.Resolution, "")
				}
			}
			runtime.GC()
			var memory runtime.MemStats
			runtime.ReadMemStats(&memory)
			b.ReportMetric(float64(memory.HeapAlloc)/1e6, "heap-MB")
			b.ReportMetric(float64(labels*b.N)/b.Elapsed().Seconds(), "labels/s")
		})
	}
}
