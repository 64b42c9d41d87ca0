package batch_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
)

func ExampleStretches() {
	for _, s := range batch.Stretches(1, 3000, 1, []int{1736, 800}) {
		fmt.Println(s.Roll, s.First, s.Last, s.Left)
	}
	// Output:
	// 0 1 1736 0
	// 1 1737 2536 0
	// -1 2537 3000 0
}

func TestRowsComeOffOneRoll(t *testing.T) {
	require.Equal(t, []batch.Stretch{{0, 1, 99, 1}, {1, 100, 200, 0 + 49}}, batch.Stretches(1, 200, 3, []int{100, 150}))
	require.Equal(t, []batch.Stretch{{0, 5, 9, 0}, {-1, 10, 12, 0}}, batch.Stretches(5, 12, 3, []int{6}),
		"its first row began already")
	require.Equal(t, []batch.Stretch{{-1, 1, 4, 0}}, batch.Stretches(1, 4, 3, []int{2, 0}))
	require.Empty(t, batch.Stretches(5, 4, 1, []int{9}))
	random := rand.New(rand.NewPCG(7, 7))
	for range 2000 { // every label comes off one roll, in order, and none gives more than it has
		first, last, per := 1+random.IntN(50), random.IntN(200), 1+random.IntN(4)
		rolls := make([]int, random.IntN(5))
		for i := range rolls {
			rolls[i] = random.IntN(80)
		}
		next := first
		for _, s := range batch.Stretches(first, last, per, rolls) {
			require.Equal(t, next, s.First)
			require.GreaterOrEqual(t, s.Last, s.First)
			next = s.Last + 1
			if s.Roll >= 0 {
				require.GreaterOrEqual(t, s.Left, 0)
				require.Zero(t, (s.First-1)%per*min(s.First-first, 1), "a roll begins with a row")
			}
		}
		require.Equal(t, max(last+1, first), next)
	}
}
