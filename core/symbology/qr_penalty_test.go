package symbology

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// plainPenalty counts as the standard's words have it (ISO/IEC 18004, 7.8.3.1), module by module.
func plainPenalty(m *Matrix) int {
	size, penalty, dark := m.Width, 0, 0
	for way := range 2 {
		at := func(i, j int) bool {
			if way == 0 {
				return m.At(j, i)
			}
			return m.At(i, j)
		}
		for i := range size {
			run := 0
			for j := range size {
				if j > 0 && at(i, j) == at(i, j-1) {
					run++
				} else {
					run = 1
				}
				if run == 5 {
					penalty += 3
				} else if run > 5 {
					penalty++
				}
			}
			for j := 0; j+11 <= size; j++ {
				for _, pattern := range []string{"10111010000", "00001011101"} {
					same := true
					for k := range 11 {
						same = same && at(i, j+k) == (pattern[k] == '1')
					}
					if same {
						penalty += 40
					}
				}
			}
		}
	}
	for y := range size {
		for x := range size {
			if m.At(x, y) {
				dark++
			}
			if x+1 < size && y+1 < size && m.At(x, y) == m.At(x+1, y) && m.At(x, y) == m.At(x, y+1) &&
				m.At(x, y) == m.At(x+1, y+1) {
				penalty += 3
			}
		}
	}
	off := dark*20 - size*size*10
	return penalty + max(off, -off)/(size*size)*10
}

// Counting sixty-four modules at a time gives what counting each gives.
func TestPenaltiesAreCountedAlike(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 7))
	var sides qrSides
	for version := 1; version <= 40; version += 3 {
		var m Matrix
		m.resize(17+4*version, 17+4*version)
		for _, share := range []int{2, 3, 9, 100} {
			run, dark := 0, false
			for i := range m.Dark {
				if run--; run < 0 {
					run, dark = random.IntN(share), !dark
				}
				m.Dark[i] = dark
			}
			require.Equal(t, plainPenalty(&m), qrPenalty(&m, &sides), "version %d, runs up to %d", version, share)
			if m.Width <= 64 {
				frame := qrFrames[version]()
				small := newQRSmall(&m, frame)
				for mask := range 8 {
					small.mask(mask, 1)
					masked := Matrix{m.Width, m.Height, append([]bool{}, m.Dark...)}
					qrMask(&masked, frame.fixed, mask)
					qrFormatAt(m.Width, 1, mask, masked.set)
					require.Equal(t, plainPenalty(&masked), small.penalty(), "version %d, mask %d", version, mask)
				}
			}
		}
	}
	var s Symbol
	require.NoError(t, s.Encode(QR, "HTTPS://BRINEWICK.EXAMPLE/26K104", Options{}))
	require.Equal(t, plainPenalty(&s.Matrix), qrPenalty(&s.Matrix, &sides))
}
