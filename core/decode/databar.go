package decode

import (
	"fmt"
	"slices"
)

// GS1 DataBar (ISO/IEC 24724), from widths to characters, to what they say. The value of a character is
// found from the widths of its elements by counting the ways that stand before them in their order (annex
// B); how many modules its odd and its even elements have says which group it is of.

// rank returns the place of widths among all ways to share their modules out, none wider than widest; with
// single, at least one must be a single module.
func rank(widths []int, widest int, single bool) (value int) {
	left := 0
	for _, w := range widths {
		left += w
	}
	needs := single
	for i, w := range widths {
		for narrower := 1; narrower < w; narrower++ {
			value += ways(left-narrower, len(widths)-i-1, widest, needs && narrower != 1)
		}
		needs = needs && w != 1
		left -= w
	}
	return value
}

// ways counts the ways to share n modules out.
func ways(n, elements, widest int, single bool) (count int) {
	if elements == 0 {
		if n == 0 && !single {
			return 1
		}
		return 0
	}
	for w := 1; w <= min(widest, n); w++ {
		count += ways(n-w, elements-1, widest, single && w != 1)
	}
	return count
}

// A group of characters, by the modules of their odd elements: the widest of odd and even ones, the value of
// the first, and the factor of the one half, which is the number of ways of the other.
type dataBarGroup struct{ modules, odd, even, factor, first int }

var (
	dataBarOuter = []dataBarGroup{{12, 8, 1, 1, 0}, {10, 6, 3, 10, 161}, {8, 4, 5, 34, 961}, {6, 3, 6, 70, 2015},
		{4, 1, 8, 126, 2715}}
	dataBarInner = []dataBarGroup{{5, 2, 7, 4, 0}, {7, 4, 5, 20, 336}, {9, 6, 3, 48, 1036}, {11, 8, 1, 81, 1516}}
	dataBarWide  = []dataBarGroup{{12, 7, 2, 4, 0}, {10, 5, 4, 20, 348}, {8, 4, 5, 52, 1388}, {6, 3, 6, 104, 2948},
		{4, 1, 8, 204, 3988}}
	dataBarLimited = []dataBarGroup{{17, 6, 3, 28, 0}, {13, 5, 4, 728, 183_064}, {9, 3, 6, 6454, 820_064},
		{15, 5, 4, 203, 1_000_776},
		{11, 4, 5, 2408, 1_491_021}, {19, 8, 1, 1, 1_979_845}, {7, 1, 8, 16_632, 1_996_939}}
)

// character returns the value of a character. Which half must have a single module, and which is
// multiplied, depends on the kind of character.
func character(widths []int, groups []dataBarGroup, oddSingle, evenFirst bool) (int, error) {
	var odd, even []int
	modules := 0
	for i, w := range widths {
		if i%2 == 0 {
			odd, modules = append(odd, w), modules+w
		} else {
			even = append(even, w)
		}
	}
	at := slices.IndexFunc(groups, func(g dataBarGroup) bool { return g.modules == modules })
	if at < 0 {
		return 0, ErrPattern
	}
	g := groups[at]
	if slices.Max(odd) > g.odd || slices.Max(even) > g.even {
		return 0, ErrPattern
	}
	oddRank, evenRank := rank(odd, g.odd, oddSingle), rank(even, g.even, !oddSingle)
	if evenFirst {
		return evenRank*g.factor + oddRank + g.first, nil
	}
	return oddRank*g.factor + evenRank + g.first, nil
}

func reversed(widths []int) []int {
	turned := slices.Clone(widths)
	slices.Reverse(turned)
	return turned
}

// dataBarFinders are the finders by their first three widths, which a reader measures (table 5).
var dataBarFinders = [9][3]int{{3, 8, 2}, {3, 5, 5}, {3, 3, 7}, {3, 1, 9}, {2, 7, 4}, {2, 5, 6}, {2, 3, 8}, {1, 5, 7},
	{1, 3, 9}}

func dataBarFinder(widths []int) int {
	if widths[3] != 1 || widths[4] != 1 {
		return -1
	}
	return slices.Index(dataBarFinders[:], [3]int(widths[:3]))
}

// DataBar reads GS1 DataBar Omnidirectional and Truncated by its 46 elements, of which the first is the light
// one of the left guard; widths begin with the bar behind it.
func DataBar(widths []int) (Message, error) {
	const elements = 45
	if len(widths) != elements || widths[0] != 1 || widths[43] != 1 || widths[44] != 1 {
		return Message{}, ErrPattern
	}
	return dataBarHalves(widths[1:22], widths[22:43])
}

// dataBarHalves reads the two halves: character, finder, character each (5.2).
func dataBarHalves(left, right []int) (Message, error) {
	parts := [4][]int{left[:8], reversed(left[13:21]), reversed(right[13:21]), right[:8]}
	values, sum, weight := [4]int{}, 0, 1
	for i, part := range parts {
		outer := i%2 == 0
		groups := dataBarInner
		if outer {
			groups = dataBarOuter
		}
		var err error
		if values[i], err = character(part, groups, !outer, !outer); err != nil {
			return Message{}, err
		}
		for _, w := range part {
			sum, weight = sum+w*weight, weight*3%79
		}
	}
	first, second := dataBarFinder(left[8:13]), dataBarFinder(reversed(right[8:13]))
	if first < 0 || second < 0 {
		return Message{}, ErrPattern
	}
	check := 9*first + second // 9 pairs of finders are 81, of which two are not used (5.2.5)
	if check > 72 {
		check--
	}
	if check > 8 {
		check--
	}
	if check != sum%79 {
		return Message{}, ErrCheck
	}
	value := (values[0]*1597+values[1])*4_537_077 + values[2]*1597 + values[3]
	return gtin(value)
}

// gtin gives a number of 13 digits its check digit.
func gtin(value int) (Message, error) {
	const most = 9_999_999_999_999
	if value > most {
		return Message{}, ErrData // a linked 2D component
	}
	digits := fmt.Sprintf("%013d", value)
	return Message{Text: "01" + digits + checkDigit(digits), GS1: true}, nil
}

// checkDigit returns GS1's check digit: what is lacking to a multiple of ten.
func checkDigit(digits string) string {
	sum := 0
	for i := range len(digits) {
		n := int(digits[len(digits)-1-i] - '0')
		if i%2 == 0 {
			n *= 3
		}
		sum += n
	}
	return fmt.Sprint((10 - sum%10) % 10)
}

// row returns the runs of a row of modules, the first run light (which may be empty) or dark, from the left.
func row(m *Modules, y int) (widths []int, dark bool) {
	dark = m.At(0, y)
	last := dark
	widths = []int{0}
	for x := range m.Width {
		if now := m.At(x, y); now != last {
			widths, last = append(widths, 0), now
		}
		widths[len(widths)-1]++
	}
	return widths, dark
}

// sameRows tells whether rows from one up to another have the same modules.
func sameRows(m *Modules, from, to int) bool {
	for y := from + 1; y < to; y++ {
		if !slices.Equal(m.Dark[from*m.Width:(from+1)*m.Width], m.Dark[y*m.Width:(y+1)*m.Width]) {
			return false
		}
	}
	return true
}

// DataBarStacked reads both stacked forms of GS1 DataBar: two rows of 50 modules, each between guards of two,
// with one row between them, or three.
func DataBarStacked(m *Modules) (Message, error) {
	const wide, elements = 50, 25
	upper, lower := 5, 7
	if m.Height > 13 {
		upper, lower = 33, 33
	}
	if m.Width != wide || m.Height < upper+lower+1 || !sameRows(m, 0, upper) || !sameRows(m, m.Height-lower, m.Height) {
		return Message{}, ErrPattern
	}
	top, darkTop := row(m, 0)
	bottom, darkBottom := row(m, m.Height-1)
	if darkTop || !darkBottom || len(top) != elements || len(bottom) != elements {
		return Message{}, ErrPattern
	}
	for _, guards := range [][]int{top[:2], top[23:], bottom[:2], bottom[23:]} {
		if !slices.Equal(guards, []int{1, 1}) {
			return Message{}, ErrPattern
		}
	}
	return dataBarHalves(top[2:23], bottom[2:23])
}

// DataBarLimited reads GS1 DataBar Limited (6): two characters of 14 elements round one of check elements.
func DataBarLimited(widths []int) (Message, error) {
	const elements = 45
	if len(widths) != elements || widths[0] != 1 || widths[43] != 1 {
		return Message{}, ErrPattern
	}
	left, check, right := widths[1:15], widths[15:29], widths[29:43]
	values, sum, weight := [2]int{}, 0, 1
	for i, part := range [2][]int{left, right} {
		var err error
		if values[i], err = character(part, dataBarLimited, false, false); err != nil {
			return Message{}, err
		}
		for _, w := range part {
			sum, weight = sum+w*weight, weight*3%89
		}
	}
	// The check elements: of all ways of six bars and six spaces over 8 modules each the 89 that are used, in
	// their order (6.2.4, table 7).
	var bars, spaces []int
	for i := range 6 {
		bars, spaces = append(bars, check[2*i]), append(spaces, check[2*i+1])
	}
	if check[12] != 1 || check[13] != 1 {
		return Message{}, ErrPattern
	}
	place, at := 21*rank(bars, 3, false)+rank(spaces, 3, false), 0
	for _, used := range limitedChecks {
		if place >= used[0] && place <= used[1] {
			if at+place-used[0] != sum%89 {
				return Message{}, ErrCheck
			}
			return gtin(values[0]*2_013_571 + values[1])
		}
		at += used[1] - used[0] + 1
	}
	return Message{}, ErrPattern
}

var limitedChecks = [][2]int{{0, 43}, {45, 45}, {52, 52}, {57, 57}, {63, 66}, {73, 79}, {82, 82}, {126, 130},
	{132, 132}, {141, 146}, {210, 217}, {220, 220},
	{316, 320}, {322, 323}, {326, 326}, {337, 337}}
