package proof_test

import (
	"context"
	"fmt"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/proof"
)

func TestALookTellsHowFarItIsAndStops(t *testing.T) {
	records := make([][]string, 2000)
	for i := range records {
		records[i] = []string{fmt.Sprint(i)}
	}
	looked := &atomic.Int64{}
	_, err := proof.All(proof.Tell(t.Context(), looked), tagged(nil), []string{"serial"}, records)
	require.NoError(t, err)
	require.Equal(t, int64(2000), looked.Load())

	ctx, stop := context.WithCancel(t.Context())
	stop()
	looked.Store(0)
	_, err = proof.All(proof.Tell(ctx, looked), tagged(nil), []string{"serial"}, records)
	require.ErrorIs(t, err, context.Canceled)
	require.Less(t, looked.Load(), int64(2000))
}
