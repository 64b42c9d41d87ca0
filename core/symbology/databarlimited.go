package symbology

import "oddspool/core/decode"

// DataBarLimited is GS1 DataBar Limited.
const DataBarLimited ID = "databar-limited"

var dataBarLimitedKind = Kind{
	ID: DataBarLimited, Name: "GS1 DataBar Limited",
	Standard: "ISO/IEC 24724", Identifier: "]e0",
	Holds:   "a GTIN that begins with 0 or 1",
	Example: "09521234543213",
	Most:    "14 digits",
	Readers: "hand-held scanners, not those of checkouts",
	Uses:    "very small items, medicines",
	Quiet:   1, Least: 170, GS1: true, Tall: 10, CheckDigit: true,
	Sizes:   smallSizes,
	Options: []Option{checkDigit},
	Encode:  (*Symbol).dataBarLimited, Widths: decode.DataBarLimited,
}

// dataBarLimitedGroups are the groups of the two characters of GS1 DataBar Limited (6.2.2, table 6).
var dataBarLimitedGroups = []dataBarGroup{{0, 28, 17, 9, 6, 3}, {183_064, 728, 13, 13, 5, 4},
	{820_064, 6454, 9, 17, 3, 6}, {1_000_776, 203, 15, 11, 5, 4},
	{1_491_021, 2408, 11, 15, 4, 5}, {1_979_845, 1, 19, 7, 8, 1}, {1_996_939, 16_632, 7, 19, 1, 8}}

// dataBarLimited makes GS1 DataBar Limited (6): two characters of 14 elements round one of check
// elements, for GTINs whose first digit is 0 or 1.
func (s *Symbol) dataBarLimited(text string, o Options) error {
	const name, characters, modulus = "GS1 DataBar Limited", 2_013_571, 89
	gtin, err := s.dataBarGTIN(name, text, o)
	if err != nil {
		return err
	}
	if gtin[0] > '1' {
		return wrong(0, "%s takes a GTIN that begins with 0 or 1, and %s begins with %c. Use GS1 DataBar for it.",
			name, gtin, gtin[0])
	}
	value := number(gtin[:13])
	var data [2][14]uint8
	sum, weight := 0, 1
	for i, v := range [2]int{value / characters, value % characters} {
		g := dataBarGroupOf(dataBarLimitedGroups, v)
		odd := elementWidths((v-g.from)/g.ways, g.odd, 7, g.oddWidest, true)
		even := elementWidths((v-g.from)%g.ways, g.even, 7, g.evenWide, false)
		for n := range 7 {
			data[i][2*n], data[i][2*n+1] = odd[n], even[n]
		}
		for _, width := range data[i] {
			sum, weight = sum+int(width)*weight, weight*3%modulus
		}
	}
	s.Widths = append(s.Widths, 1)
	s.Widths = append(s.Widths, data[0][:]...)
	s.Widths = append(s.Widths, dataBarLimitedCheck(sum%modulus)...)
	s.Widths = append(s.Widths, data[1][:]...)
	s.Widths = append(s.Widths, 1, 1)
	s.QuietAfter = 5 // the right guard pattern ends with five light modules (6.2.1)
	s.Text, s.Reads = "(01)"+gtin, "01"+gtin
	return nil
}

// dataBarLimitedChecks tell which of the 441 ways to share 8 modules among six bars, and 8 among six
// spaces, the check values are: those that are told apart best (6.2.4, table 7). Each pair is a run.
var dataBarLimitedChecks = [][2]int{{0, 43}, {45, 45}, {52, 52}, {57, 57}, {63, 66}, {73, 79}, {82, 82}, {126, 130},
	{132, 132}, {141, 146}, {210, 217}, {220, 220},
	{316, 320}, {322, 323}, {326, 326}, {337, 337}}

func dataBarLimitedCheck(value int) []uint8 {
	const ways = 21
	for _, run := range dataBarLimitedChecks {
		if n := run[1] - run[0] + 1; value >= n {
			value -= n
			continue
		}
		value += run[0]
		break
	}
	odd, even := elementWidths(value/ways, 8, 6, 3, false), elementWidths(value%ways, 8, 6, 3, false)
	widths := make([]uint8, 0, 14)
	for i := range odd {
		widths = append(widths, odd[i], even[i])
	}
	return append(widths, 1, 1)
}
