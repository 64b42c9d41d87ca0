package batch_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
)

func TestLabelsThatRunThroughThePages(t *testing.T) {
	require.Equal(t, []int{1, 4, 7, 2, 5, 8, 3, 6}, batch.Through([]int{1, 2, 3, 4, 5, 6, 7, 8}, 3),
		"three lanes: 1 to 3, 4 to 6, 7 and 8")
	require.Equal(t, []int{1, 2, 3}, batch.Through([]int{1, 2, 3}, 4), "one page")
	require.Equal(t, []int{5, 9}, batch.Through([]int{5, 9}, 1), "one lane")
	for n := 1; n < 40; n++ {
		labels := make([]int, n)
		for i := range labels {
			labels[i] = 2*i + 1
		}
		for per := 1; per < 8; per++ {
			placed := batch.Through(labels, per)
			for place := range per { // along each lane they rise
				var lane []int
				for i := place; i < n; i += per {
					lane = append(lane, placed[i])
				}
				require.True(t, slices.IsSorted(lane), "%d labels in %d lanes", n, per)
			}
			require.Equal(t, labels, slices.Sorted(slices.Values(placed)), "none is missing, none twice")
		}
	}
}
