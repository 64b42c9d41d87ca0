package symbology

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
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
	}{"outside": {dataBarOutside, 4, 2841, false}, "inside": {dataBarInside, 4, 1597, true}, "expanded": {dataBarExpandedGroups, 4, 4192, true}} {
		for i, g := range c.groups {
			end := c.last
			if i+1 < len(c.groups) {
				end = c.groups[i+1].from
			}
			odd, even := ranked(g.odd, c.elements, g.oddWidest, c.oddNarrow), ranked(g.even, c.elements, g.evenWide, !c.oddNarrow)
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

// expandedBits reads the bits of GS1 DataBar Expanded from its elements.
func expandedBits(t testing.TB, s *Symbol) (bits []bool) {
	elements := s.Widths[1:]
	characters := map[[8]uint8]int{}
	for value := range 4192 {
		characters[dataBarExpandedCharacter(value)] = value
	}
	for at, n := 0, 0; at+8 <= len(elements); n++ {
		var one [8]uint8
		copy(one[:], elements[at:at+8])
		if n%2 == 1 {
			slices.Reverse(one[:])
		}
		value, ok := characters[one]
		require.True(t, ok)
		if n > 0 {
			for i := 11; i >= 0; i-- {
				bits = append(bits, value>>i&1 == 1)
			}
		}
		if at += 8; n%2 == 0 {
			at += 5
		}
		if len(elements)-at < 8 {
			break
		}
	}
	return bits
}

// The general purpose field is read mode by mode, as the standard describes it from the reader's side.
func expandedText(bits []bool, from int) string {
	var text strings.Builder
	at := from
	take := func(n int) int {
		value := bitsValue(bits[at : at+n])
		at += n
		return value
	}
	left := func() int { return len(bits) - at }
	digit := func(n int) {
		if n == 10 {
			text.WriteByte(groupSeparator)
		} else {
			text.WriteByte(byte('0' + n))
		}
	}
	mode := dataBarNumeric
	for left() > 0 {
		switch {
		case mode == dataBarNumeric && left() < 7:
			if left() >= 4 {
				if value := take(4); value > 0 {
					digit(value - 1)
				}
			}
			return text.String()
		case mode == dataBarNumeric && bitsValue(bits[at:at+4]) == 0:
			at, mode = at+4, dataBarAlpha
		case mode == dataBarNumeric:
			pair := take(7) - 8
			digit(pair / 11)
			digit(pair % 11)
		case left() < 5:
			return text.String()
		case bitsValue(bits[at:at+3]) == 0:
			at, mode = at+3, dataBarNumeric
		case bitsValue(bits[at:at+5]) == 4:
			if at += 5; mode == dataBarAlpha {
				mode = dataBarISO
			} else {
				mode = dataBarAlpha
			}
		case bitsValue(bits[at:at+5]) == 15:
			at, mode = at+5, dataBarNumeric
			text.WriteByte(groupSeparator)
		case bitsValue(bits[at:at+5]) < 15:
			text.WriteByte(byte('0' + take(5) - 5))
		case mode == dataBarAlpha:
			if value := take(6); value < 58 {
				text.WriteByte(byte('A' + value - 32))
			} else {
				text.WriteByte("*,-./"[value-58])
			}
		default:
			if value := bitsValue(bits[at : at+7]); value < 116 {
				if at += 7; value < 90 {
					text.WriteByte(byte('A' + value - 64))
				} else {
					text.WriteByte(byte('a' + value - 90))
				}
			} else {
				text.WriteByte("!\"%&'()*+,-./:;<=>?_ "[take(8)-232])
			}
		}
	}
	return text.String()
}

// saidGeneral is what the general method of GS1 DataBar Expanded says of data without a GTIN.
func saidGeneral(t testing.TB, s *Symbol) string {
	bits := expandedBits(t, s)
	require.Equal(t, []bool{false, false, false}, bits[:3], "no 2D component, general method")
	return strings.TrimRight(expandedText(bits, 5), string(rune(groupSeparator)))
}

func TestExpandedDataIsReadBitByBit(t *testing.T) {
	var s Symbol
	for _, text := range []string{"(00)095212345432123453", "(8004)952/CRATE-00417", "(8004)kelp&Dulse.7", "(400)A1(8004)12345678901b", "(8004)1", "(8004)12", "(8004)123", "(400)2026-11-25(8004)Zz_!"} {
		require.NoError(t, s.Encode(DataBarExpanded, text, Options{}), text)
		require.Equal(t, s.Reads, saidGeneral(t, &s), text)
	}
}

// expandedReads reads all that GS1 DataBar Expanded says: the method first, then what it keeps (7.2.5.4).
func expandedReads(t testing.TB, bits []bool) (reads, method string) {
	at := 1 // no 2D component
	take := func(n int) int {
		value := bitsValue(bits[at : at+n])
		at += n
		return value
	}
	prefix := func(text string) bool {
		if at+len(text) > len(bits) {
			return false
		}
		for i := range len(text) {
			if bits[at+i] != (text[i] == '1') {
				return false
			}
		}
		return true
	}
	gtin := func(first string) string {
		digits := first
		for range 4 {
			digits += fmt.Sprintf("%03d", take(10))
		}
		return "01" + digits + string(Mod10(digits))
	}
	general := func() string { return strings.TrimRight(expandedText(bits, at), string(rune(groupSeparator))) }
	switch {
	case prefix("1"):
		at += 3
		first := fmt.Sprint(take(4))
		return gtin(first) + general(), "1"
	case prefix("00"):
		at += 4
		return general(), "00"
	case prefix("0100"):
		at += 4
		return gtin("9") + fmt.Sprintf("3103%06d", take(15)), "0100"
	case prefix("0101"):
		at += 4
		item, weight := gtin("9"), take(15)
		if weight < 10_000 {
			return item + fmt.Sprintf("3202%06d", weight), "0101"
		}
		return item + fmt.Sprintf("3203%06d", weight-10_000), "0101"
	case prefix("01100"):
		at += 7
		item, decimals := gtin("9"), take(2)
		return item + fmt.Sprintf("392%d", decimals) + general(), "01100"
	case prefix("01101"):
		at += 7
		item, decimals, currency := gtin("9"), take(2), take(10)
		return item + fmt.Sprintf("393%d%03d", decimals, currency) + general(), "01101"
	}
	require.True(t, prefix("0111"))
	at += 4
	kind := take(3)
	item, weight, date := gtin("9"), take(20), take(16)
	reads = item + fmt.Sprintf("3%d0%d%06d", 1+kind%2, weight/100_000, weight%100_000)
	if date != 38_400 {
		reads += fmt.Sprintf("%d%02d%02d%02d", []int{11, 13, 15, 17}[kind/2], date/384, date%384/32+1, date%32)
	}
	return reads, fmt.Sprintf("0111%03b", kind)
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
			require.Error(t, err)
			continue
		}
		require.NoError(t, err, test.text)
		bits := expandedBits(t, &s)
		reads, method := expandedReads(t, bits)
		require.Equal(t, []string{s.Reads, test.method}, []string{reads, method}, test.text)
		if test.characters > 0 {
			require.Equal(t, test.characters, len(bits)/12+1, test.text)
		}
	}
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
	sets := []string{"0123456789", "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ*,-./", set82}
	var s, stacked Symbol
	fitted := 0
	for range 600 {
		digits := pick("0123456789", 13)
		text := "(01)" + digits + string(Mod10(digits)) + "(10)" + pick(sets[random.IntN(2)], 1+random.IntN(10)) + "(21)" + pick(sets[random.IntN(2)], 1+random.IntN(10))
		if random.IntN(3) == 0 {
			text = "(8004)" + strings.ReplaceAll(pick(sets[2], 1+random.IntN(30)), "(", "x")
		}
		if s.Encode(DataBarExpanded, text, Options{}) != nil {
			continue
		}
		fitted++
		bits := expandedBits(t, &s)
		reads, _ := expandedReads(t, bits)
		require.Equal(t, s.Reads, reads, text)
		for columns := 1; columns <= 5; columns++ {
			require.NoError(t, stacked.Encode(DataBarExpandedStacked, text, Options{Columns: columns}))
			rows := (stacked.Matrix.Height + 3) / 37
			require.Equal(t, 37*rows-3, stacked.Matrix.Height, "rows of 34 modules with three between")
			require.LessOrEqual(t, (rows-1)*columns*2, len(bits)/12+2, "no row too many")
		}
	}
	require.Greater(t, fitted, 400)
}
