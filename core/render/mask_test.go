package render

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/typeset"
)

// A mask is drawn dot by dot as it is, wherever it lies and whatever it is cut by.
func TestMasksAreCutAtEveryColumn(t *testing.T) {
	const width, height = 200, 3
	random := rand.New(rand.NewPCG(3, 64))
	for _, wide := range []int{1, 63, 64, 65, 128, 150} {
		m := &typeset.Mask{Width: wide, Height: 2, Stride: (wide + 63) / 64}
		m.Bits = make([]uint64, m.Stride*m.Height)
		set := func(x, y int) bool { return m.Bits[y*m.Stride+x/64]>>(63-x%64)&1 == 1 }
		for y := range m.Height {
			for x := range wide {
				if x == 0 || x == wide-1 || random.IntN(2) == 0 {
					m.Bits[y*m.Stride+x/64] |= 1 << (63 - x%64)
				}
			}
		}
		for _, clip := range []Box{{0, 0, width, height}, {5, 0, 90, height}, {64, 1, 64, 1}} {
			for x := -wide - 1; x <= width+1; x++ {
				p := NewPlane(width, height)
				p.mask(m, x, 0, clip)
				for py := range height {
					for px := range width {
						inside := px >= clip.X && px < clip.X+clip.W && py >= clip.Y && py < clip.Y+clip.H
						want := inside && px >= x && px < x+wide && py < m.Height && set(px-x, py)
						if p.Set(px, py) != want {
							require.Equal(t, want, p.Set(px, py), "%d wide at %d, cut by %v: dot %d, %d", wide, x, clip,
								px, py)
						}
					}
				}
			}
		}
	}
}
