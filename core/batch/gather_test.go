package batch_test

import (
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
)

func TestConsecutiveRecordsAreGathered(t *testing.T) {
	g, err := batch.NewGatherer([]string{"lot", "bin", "bags"}, []string{"bin", "lot"}, 3)
	require.NoError(t, err)
	require.Equal(t, []string{"bin", "lot", "bin 2", "lot 2", "bin 3", "lot 3"}, g.Fields)
	records := [][]string{{"L1", "A", "1"}, {"L2", "B", "2"}, {"L3", "C", "3"}, {"L4", "D", "4"}, {"L5"}}
	require.Equal(t, [][]string{{"A", "L1", "B", "L2", "C", "L3"}, {"D", "L4", "", "L5", "", ""}}, g.Gather(records))
	require.Empty(t, g.Gather(nil))

	for says, make := range map[string]func() (*batch.Gatherer, error){
		"no field":    func() (*batch.Gatherer, error) { return batch.NewGatherer([]string{"a"}, []string{"b"}, 2) },
		"1 records":   func() (*batch.Gatherer, error) { return batch.NewGatherer([]string{"a"}, []string{"a"}, 1) },
		"501 records": func() (*batch.Gatherer, error) { return batch.NewGatherer([]string{"a"}, []string{"a"}, 501) },
		"two of one name": func() (*batch.Gatherer, error) {
			return batch.NewGatherer([]string{"a", "a 2"}, []string{"a", "a 2"}, 2)
		},
	} {
		_, err := make()
		var told *refusal.Error
		require.ErrorAs(t, err, &told)
		require.Contains(t, told.Error(), says)
	}
}
