package symbology

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/check"
	"oddspool/core/gs1"
)

// GS1 DataBar is read back here from its elements, method by method and mode by mode.

// ranked returns all ways to share n modules among some elements, in the order of their values.
func ranked(n, elements, widest int, narrow bool) (ways [][]uint8) {
	var share func(way []uint8, n int)
	share = func(way []uint8, n int) {
		if len(way) == elements {
			if n == 0 && (!narrow || slices.Contains(way, 1)) {
				ways = append(ways, slices.Clone(way))
			}
			return
		}
		for w := 1; w <= min(widest, n); w++ {
			share(append(way, uint8(w)), n-w)
		}
	}
	share(nil, n)
	return ways
}

// GS1 DataBar shares out modules as the list of all ways in their order has them, for every value.
func TestDataBarSharesModulesInOrder(t *testing.T) {
	for name, c := range map[string]struct {
		groups         []dataBarGroup
		elements, last int
		oddNarrow      bool
	}{"outside": {dataBarOutside, 4, 2841, false}, "inside": {dataBarInside, 4, 1597, true},
		"expanded": {dataBarExpandedGroups, 4, 4192, true}} {
		for i, g := range c.groups {
			end := c.last
			if i+1 < len(c.groups) {
				end = c.groups[i+1].from
			}
			odd, even := ranked(g.odd, c.elements, g.oddWidest, c.oddNarrow),
				ranked(g.even, c.elements, g.evenWide, !c.oddNarrow)
			require.GreaterOrEqual(t, len(odd)*len(even), end-g.from, "%s, group %d has ways for its values", name, i)
			for n, way := range odd {
				require.Equal(t, way, elementWidths(n, g.odd, c.elements, g.oddWidest, !c.oddNarrow))
			}
			for n, way := range even {
				require.Equal(t, way, elementWidths(n, g.even, c.elements, g.evenWide, c.oddNarrow))
			}
		}
	}
	checks := map[string]bool{}
	for value := range 89 {
		pattern := fmt.Sprint(dataBarLimitedCheck(value))
		require.False(t, checks[pattern])
		checks[pattern] = true
	}
}

// Each kind of item is packed by the method that is made for it, and takes no more room than it must.
func TestExpandedPacksEachItemItsOwnWay(t *testing.T) {
	var s Symbol
	for _, test := range []struct {
		text, method string
		characters   int
	}{
		{"(01)09521234543213", "1", 5}, // 48 bits, and the check character
		{"(01)99521234543216(3103)001750", "0100", 6},
		{"(01)99521234543216(3103)032767", "0100", 6},
		{"(01)99521234543216(3103)032768", "0111000", 8}, // too heavy for 15 bits
		{"(01)99521234543216(3202)009999", "0101", 6},
		{"(01)99521234543216(3203)022767", "0101", 6},
		{"(01)99521234543216(3203)022768", "0111001", 8},
		{"(01)99521234543216(3101)001750", "0111000", 8},
		{"(01)99521234543216(3101)001750(11)261125", "0111000", 8},
		{"(01)99521234543216(3205)001750(13)261125", "0111011", 8},
		{"(01)99521234543216(3100)099999(15)991231", "0111100", 8},
		{"(01)99521234543216(3209)001750(17)270331", "", 0}, // no such identifier
		{"(01)99521234543216(3202)001750(17)270331", "0111111", 8},
		{"(01)99521234543216(3922)1250", "01100", 0},
		{"(01)99521234543216(3922)1250(10)K104", "01100", 0},
		{"(01)99521234543216(3932)9781250", "01101", 0},
		{"(01)99521234543216(3932)9781250(10)K104", "01101", 0},
		{"(01)99521234543216(3922)1250(17)270331", "01100", 0},
		{"(01)09521234543213(3103)001750", "1", 0}, // not of variable measure
		{"(01)99521234543216(3103)101750", "1", 0}, // 101.750 kg
		{"(01)09521234543213(10)26K104(21)0042", "1", 0},
		{"(00)095212345432123453", "00", 0},
		{"(8004)952/CRATE-00417", "00", 0},
	} {
		err := s.Encode(DataBarExpanded, test.text, Options{})
		if test.method == "" {
			require.ErrorAs(t, err, new(*DataError))
			continue
		}
		require.NoError(t, err, test.text)
		bits := expandedBits(t, &s)
		for i := range len(test.method) {
			require.Equal(t, test.method[i] == '1', bits[1+i], "%s: method %s", test.text, test.method)
		}
		if test.characters > 0 {
			require.Equal(t, test.characters, len(bits)/12+1, test.text)
		}
	}
}

// expandedBits returns the bits of the characters behind the check character.
func expandedBits(t testing.TB, s *Symbol) []bool {
	var again Symbol
	elements, err := gs1.Parse(s.Text)
	require.NoError(t, err)
	require.NoError(t, again.Encode(DataBarExpanded, gs1.Text(elements), Options{}))
	bits, ok := dataBarExpandedBits(dataBarOrder(elements), 0)
	require.True(t, ok)
	return bits
}

// Random element strings say what they should, and the stacked form has the same characters in its rows.
func TestExpandedSaysWhatWasMeant(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 12))
	pick := func(letters string, n int) string {
		text := make([]byte, n)
		for i := range text {
			text[i] = letters[random.IntN(len(letters))]
		}
		return string(text)
	}
	sets := []string{"0123456789", "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ*,-./", check.Set82}
	var s, stacked Symbol
	fitted := 0
	for range 600 {
		digits := pick("0123456789", 13)
		text := "(01)" + digits + string(check.GS1(digits)) + "(10)" + pick(sets[random.IntN(2)], 1+random.IntN(10)) +
			"(21)" + pick(sets[random.IntN(2)], 1+random.IntN(10))
		if random.IntN(3) == 0 {
			text = "(91)" + strings.ReplaceAll(pick(sets[2], 1+random.IntN(30)), "(", "x")
		}
		if s.Encode(DataBarExpanded, text, Options{}) != nil {
			continue
		}
		fitted++
		bits := expandedBits(t, &s)
		for columns := 1; columns <= 5; columns++ {
			require.NoError(t, stacked.Encode(DataBarExpandedStacked, text, Options{Columns: columns}))
			rows := (stacked.Matrix.Height + 3) / 37
			require.Equal(t, 37*rows-3, stacked.Matrix.Height, "rows of 34 modules with three between")
			require.LessOrEqual(t, (rows-1)*columns*2, len(bits)/12+2, "no row too many")
		}
	}
	require.Greater(t, fitted, 400)
}
