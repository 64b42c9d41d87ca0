package measure_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
)

// A box that is turned four times by a quarter comes home, and so does one turned there and back.
func TestTurnsComeHome(t *testing.T) {
	const w, h = 608, 304
	for _, turn := range []measure.Turn{0, 90, 180, 270} {
		require.True(t, turn.Valid())
		require.Equal(t, turn == 90 || turn == 270, turn.Sideways())
		back := (360 - turn) % 360
		require.Zero(t, turn.Plus(back))
		fw, fh := turn.Size(w, h)
		x, y, bw, bh := turn.Box(10, 20, 100, 50, w, h)
		require.True(t, x >= 0 && y >= 0 && x+bw <= fw && y+bh <= fh, "it stays within its frame")
		x, y, bw, bh = back.Box(x, y, bw, bh, fw, fh)
		require.Equal(t, []int{10, 20, 100, 50}, []int{x, y, bw, bh})
	}
	for _, turn := range []measure.Turn{-90, 45, 360, 1} {
		require.False(t, turn.Valid())
	}
	require.Equal(t, measure.Turn(270), measure.Turn(0).Plus(-90))
}

// A quarter turn after another is what both together are.
func TestTurnsAddUp(t *testing.T) {
	const w, h = 80, 30
	for _, first := range []measure.Turn{0, 90, 180, 270} {
		for _, second := range []measure.Turn{0, 90, 180, 270} {
			fw, fh := first.Size(w, h)
			x, y, bw, bh := first.Box(3, 5, 20, 10, w, h)
			x, y, bw, bh = second.Box(x, y, bw, bh, fw, fh)
			ox, oy, ow, oh := first.Plus(second).Box(3, 5, 20, 10, w, h)
			require.Equal(t, []int{ox, oy, ow, oh}, []int{x, y, bw, bh}, "%d and %d", first, second)
		}
	}
}

func ExamplePoints() {
	fmt.Println(measure.Points(72), measure.Points(8), measure.Points(0.5))
	// Output: 25.4 mm 2.822 mm 0.176 mm
}

func ExampleTurn_Box() {
	// A box at the top left of a lying label comes to the top right of the standing one.
	x, y, w, h := measure.Turn(90).Box(0, 0, 20, 10, 100, 50)
	fmt.Println(x, y, w, h)
	// Output: 40 0 10 20
}
