package main

import (
	"context"
	"fmt"
	"math/rand/v2"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

// A backup is made in the middle of a print, the print is finished and another made; then the backup is put back.
// Nothing prints by itself, no number is given, and when a person has said from where, every number stands on one
// label.
func TestARestoredCopyPrintsNothingTwice(t *testing.T) {
	t.Parallel()
	seed := seedOf(t)
	n := newNumbersMatrix(t, program(t), seed)
	random := rand.New(rand.NewPCG(seed, 3))
	key := filepath.Join(t.TempDir(), "key")
	address := n.address
	n.start = func() *process { return startServer(t, program(t), address, n.printer, "-key", key) }

	print := func(labels int) (run int64) {
		var made struct{ ID int64 }
		choice := map[string]any{"records": "", "howMany": map[string]any{"each": labels}, "printerId": n.device}
		require.True(t, n.send(random, "POST", "/api/runs", map[string]any{"designId": n.design, "choice": choice},
			&made))
		require.True(t, n.send(random, "POST", fmt.Sprintf("/api/runs/%d/prints", made.ID),
			map[string]any{"kind": "rest"}, nil))
		return made.ID
	}
	of := func(run int64) store.Print {
		prints, err := n.PrintsOf(context.Background(), run)
		require.NoError(t, err)
		return prints[len(prints)-1]
	}
	done := func(run int64) {
		require.Eventually(t, func() bool { return of(run).State == store.PrintDone }, time.Minute, 10*time.Millisecond)
	}
	first := print(400)
	require.Eventually(t, func() bool { return n.printer.Out() > 50 }, time.Minute, time.Millisecond)
	backup := testkit.Dump(t, address)
	require.Less(t, n.printer.Out(), 400, "it was made in the middle of the print")
	done(first)
	done(print(100))
	for _, server := range n.matrix.servers {
		require.NoError(t, server.command.Process.Kill())
		_ = server.command.Wait()
	}
	require.NoError(t, n.Close())
	testkit.Restore(t, address, backup, false)

	n.matrix.servers = []*process{n.start()}
	var err error
	n.Store, err = store.Open(context.Background(), address, 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = n.Close() })
	require.Equal(t, store.PrintHeld, of(first).State)
	var floor struct{ Copied *struct{ Series, Runs int } }
	require.True(t, n.send(random, "GET", "/api/floor", nil, &floor))
	require.Positive(t, floor.Copied.Series)
	choice := map[string]any{"records": "", "howMany": map[string]any{"each": 10}, "printerId": n.device}
	require.False(t, n.send(random, "POST", "/api/runs", map[string]any{"designId": n.design, "choice": choice}, nil),
		"its series is held")

	require.True(t, n.send(random, "POST", fmt.Sprintf("/api/series/%d/ahead", n.series),
		map[string]any{"last": "0000500", "why": "it stands on the last label"}, nil))
	require.True(t, n.send(random, "POST", fmt.Sprintf("/api/prints/%d/go-on", of(first).ID),
		map[string]any{"lastLabel": 400}, nil))
	done(first)
	done(print(20))
	require.Equal(t, 520, n.printer.Out())
	for number, times := range n.seen() {
		require.Equal(t, 1, times, "%s is on %d labels", number, times)
	}
}
