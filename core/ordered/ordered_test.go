package ordered_test

import (
	"errors"
	"fmt"
	"runtime"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/ordered"
)

func ExampleEach() {
	_ = ordered.Each(4, func(_, i int) (int, error) { return i * i, nil },
		func(square int) error { fmt.Println(square); return nil })
	// Output:
	// 0
	// 1
	// 4
	// 9
}

func TestEachKeepsOrderAndEndsAtTheFirstError(t *testing.T) {
	for _, n := range []int{0, 1, 2, 1000} {
		next := 0
		require.NoError(t, ordered.Each(n, func(worker, i int) (int, error) {
			require.Less(t, worker, ordered.Workers(n))
			return i, nil
		}, func(i int) error {
			require.Equal(t, next, i)
			next++
			return nil
		}))
		require.Equal(t, n, next)
	}
	broken := errors.New("broken")
	var begun atomic.Int64
	last := -1
	err := ordered.Each(1_000_000, func(_, i int) (int, error) {
		begun.Add(1)
		if i == 7 {
			return 0, broken
		}
		return i, nil
	}, func(i int) error { last = i; return nil })
	require.ErrorIs(t, err, broken)
	require.Equal(t, 6, last)
	require.Less(t, begun.Load(), int64(100), "little is done in vain")
	require.ErrorIs(t, ordered.Each(10, func(_, i int) (int, error) { return i, nil },
		func(int) error { return broken }), broken)
	var panicked *ordered.PanicError
	require.ErrorAs(t, ordered.Each(3, func(_, i int) (int, error) { panic(i) }, func(int) error { return nil }),
		&panicked)
	require.Contains(t, string(panicked.Stack), "ordered_test.go")
}

// Work that comes with an error ends there, after what came before it.
func TestStreamEndsWhereItsWorkDoes(t *testing.T) {
	broken := errors.New("broken")
	work := func(yield func(string, error) bool) {
		_ = yield("a", nil) && yield("b", nil) && yield("", broken) && yield("never", nil)
	}
	var got []string
	err := ordered.Stream(2, work, func(_ int, letter string) (string, error) { return letter + letter, nil },
		func(s string) error {
			got = append(got, s)
			return nil
		})
	require.ErrorIs(t, err, broken)
	require.Equal(t, []string{"aa", "bb"}, got)
}

func TestNoMoreIsComputedAtOnceThanThereAreCores(t *testing.T) {
	var now, most atomic.Int64
	var group sync.WaitGroup
	for range 20 * runtime.GOMAXPROCS(0) {
		group.Go(func() {
			ordered.Turn(func() {
				most.Store(max(most.Load(), now.Add(1)))
				time.Sleep(time.Millisecond)
				now.Add(-1)
			})
		})
	}
	group.Wait()
	require.LessOrEqual(t, most.Load(), int64(runtime.GOMAXPROCS(0)))
	require.Panics(t, func() { ordered.Turn(func() { panic("broken") }) })
	ordered.Turn(func() {}) // the turn of what broke is free again
}
