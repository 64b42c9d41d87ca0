package symbology

import (
	"slices"
	"strings"

	"oddspool/core/decode"
	"oddspool/core/gs1"
)

// DataBar is GS1 DataBar.
const DataBar ID = "databar"

var dataBarKind = Kind{
	ID: DataBar, Name: "GS1 DataBar",
	Standard: "ISO/IEC 24724", Identifier: "]e0",
	Holds:   "a GTIN",
	Example: "09521234543213",
	Most:    "14 digits",
	Readers: "scanners of shops, and most others",
	Uses:    "fruit, loose goods and coupons: smaller than EAN-13; with low bars it is the truncated form",
	Quiet:   1, Least: 170, GS1: true, Tall: 13, TallAtTills: 46, CheckDigit: true,
	Sizes:   dataBarSizes,
	Options: []Option{checkDigit},
	Encode:  (*Symbol).dataBar, Widths: decode.DataBar,
}

// DataBarStacked is GS1 DataBar Stacked Omnidirectional.
const DataBarStacked ID = "databar-stacked"

var dataBarStackedKind = Kind{
	ID: DataBarStacked, Name: "GS1 DataBar Stacked Omnidirectional",
	Standard: "ISO/IEC 24724", Is2D: true, Identifier: "]e0",
	Holds:   "a GTIN",
	Example: "09521234543213",
	Most:    "14 digits",
	Readers: "scanners of shops, and most others",
	Uses:    "fruit and loose goods, where the label is narrow: read from any side",
	Quiet:   1, Least: 170, GS1: true, CheckDigit: true,
	Sizes:   dataBarSizes,
	Options: []Option{checkDigit},
	Encode:  (*Symbol).dataBarStackedOmni, Modules: decode.DataBarStacked,
}

// DataBarStackedLow is GS1 DataBar Stacked.
const DataBarStackedLow ID = "databar-stacked-low"

var dataBarStackedLowKind = Kind{
	ID: DataBarStackedLow, Name: "GS1 DataBar Stacked",
	Standard: "ISO/IEC 24724", Is2D: true, Identifier: "]e0",
	Holds:   "a GTIN",
	Example: "09521234543213",
	Most:    "14 digits",
	Readers: "hand-held scanners, not those of checkouts",
	Uses:    "very small items, where the label is narrow: 13 modules high",
	Quiet:   1, Least: 170, GS1: true, CheckDigit: true,
	Sizes:   smallSizes,
	Options: []Option{checkDigit},
	Encode:  (*Symbol).dataBarStacked, Modules: decode.DataBarStacked,
}

// GS1 DataBar Omnidirectional (ISO/IEC 24724, 5): a GTIN in four characters of eight elements around
// two finders. A character's value chooses one of the ways to share modules among its elements.
// Truncated is the same symbol with lower bars.

// dataBarGroup is a group of values of a character: where it begins, how many ways its one half has,
// and modules and widest elements of its odd and even halves (tables 3 and 4).
type dataBarGroup struct {
	from, ways          int
	odd, even           int
	oddWidest, evenWide int
}

var (
	dataBarOutside = []dataBarGroup{{0, 1, 12, 4, 8, 1}, {161, 10, 10, 6, 6, 3}, {961, 34, 8, 8, 4, 5},
		{2015, 70, 6, 10, 3, 6}, {2715, 126, 4, 12, 1, 8}}
	dataBarInside = []dataBarGroup{{0, 4, 5, 10, 2, 7}, {336, 20, 7, 8, 4, 5}, {1036, 48, 9, 6, 6, 3},
		{1516, 81, 11, 4, 8, 1}}
)

// dataBarFinders are the finders by their value (table 5).
var dataBarFinders = [9][5]uint8{{3, 8, 2, 1, 1}, {3, 5, 5, 1, 1}, {3, 3, 7, 1, 1}, {3, 1, 9, 1, 1}, {2, 7, 4, 1, 1},
	{2, 5, 6, 1, 1}, {2, 3, 8, 1, 1}, {1, 5, 7, 1, 1}, {1, 3, 9, 1, 1}}

func (s *Symbol) dataBar(text string, o Options) error {
	gtin, err := s.dataBarGTIN("GS1 DataBar", text, o)
	if err != nil {
		return err
	}
	h := dataBarHalves(gtin)
	s.Widths = append(s.Widths, 1)
	s.Widths = append(append(s.Widths, h[0][:]...), h[1][:]...)
	s.Widths = append(s.Widths, 1, 1)
	s.Text, s.Reads = "(01)"+gtin, "01"+gtin
	return nil
}

// dataBarStackedOmni makes the stacked omnidirectional form (5.3.2.2): the halves above one another, each
// 33 modules tall, and three rows of one module between them.
func (s *Symbol) dataBarStackedOmni(text string, o Options) error {
	// modules, and where the upper finder begins; the lower one begins one before
	const width, tall, finder = 50, 33, 18
	gtin, err := s.dataBarGTIN("GS1 DataBar Stacked Omnidirectional", text, o)
	if err != nil {
		return err
	}
	h := dataBarHalves(gtin)
	top, bottom := dataBarRows(h)
	s.Matrix.resize(width, 2*tall+3)
	for y := range tall {
		s.Matrix.setRow(y, top)
		s.Matrix.setRow(tall+3+y, bottom)
	}
	s.Matrix.setRow(tall, separator(top, 4, width-4, []int{finder}, false))
	for x := 5; x < width-4; x += 2 {
		s.Matrix.set(x, tall+1, true)
	}
	below := separator(bottom, 4, width-4, []int{finder - 1}, false)
	// finder 3: the last dark module is moved by one, away from what would look like a finder
	if h[1][10] == 9 && h[1][12] == 3 {
		below[finder+10], below[finder+11] = false, true
	}
	s.Matrix.setRow(tall+2, below)
	s.Text, s.Reads = "(01)"+gtin, "01"+gtin
	return nil
}

// dataBarRows lays both halves out as rows of a stacked symbol.
func dataBarRows(h [2][21]uint8) (top, bottom []bool) {
	guard := []uint8{1, 1}
	return moduleRow(false, guard, h[0][:], guard), moduleRow(true, guard, h[1][:], guard)
}

// dataBarStacked makes the plain stacked form (5.3.2.1), 13 modules high: the halves 5 and 7 modules tall,
// and one row between them, which is dark where both are light, light where both are dark, and takes
// turns where they differ.
func (s *Symbol) dataBarStacked(text string, o Options) error {
	const width, upper, lower = 50, 5, 7
	gtin, err := s.dataBarGTIN("GS1 DataBar Stacked", text, o)
	if err != nil {
		return err
	}
	top, bottom := dataBarRows(dataBarHalves(gtin))
	between := make([]bool, width)
	for x := 4; x < width-4; x++ {
		if top[x] == bottom[x] {
			between[x] = !top[x]
		} else {
			between[x] = !between[x-1]
		}
	}
	s.Matrix.resize(width, upper+1+lower)
	for y := range upper {
		s.Matrix.setRow(y, top)
	}
	s.Matrix.setRow(upper, between)
	for y := range lower {
		s.Matrix.setRow(upper+1+y, bottom)
	}
	s.Text, s.Reads = "(01)"+gtin, "01"+gtin
	return nil
}

// separator returns the row between rows of a stacked symbol: what is light beside it is dark, but over
// 13 modules of a finder dark and light take turns where it is light, so that no reader takes the row
// for another finder (5.3.2.2 and 7.2.8.2). From and to bound it.
func separator(row []bool, from, to int, finders []int, backwards bool) []bool {
	between := make([]bool, len(row))
	for x := from; x < to; x++ {
		between[x] = !row[x]
	}
	for _, finder := range finders {
		last := false
		for i := range 13 {
			x := finder + i
			if backwards {
				x = finder + 12 - i
			}
			last = !row[x] && !last
			between[x] = last
		}
	}
	return between
}

// moduleRow lays runs of elements out as modules, the first element dark or light.
func moduleRow(dark bool, runs ...[]uint8) (row []bool) {
	for _, run := range runs {
		for _, width := range run {
			for range width {
				row = append(row, dark)
			}
			dark = !dark
		}
	}
	return row
}

func (m *Matrix) setRow(y int, row []bool) { copy(m.Dark[y*m.Width:(y+1)*m.Width], row) }

// dataBarGTIN reads a GTIN of any length, with or without its identifier.
func (s *Symbol) dataBarGTIN(name, text string, o Options) (string, error) {
	digits := text
	if inside, is := strings.CutPrefix(text, "(01)"); is {
		const gtin = 14
		if digits = inside; len(digits) != gtin && onlyDigits(name, digits) == nil {
			return "", wrong(0, "(01) has %d digits, and %s has %d.", gtin, digits, len(digits))
		}
		o.CheckDigit = gs1.Given
	}
	whole, err := gs1.CompleteGTIN(name, digits, o.CheckDigit)
	if err != nil {
		return "", fromGS1(err, len(text)-len(digits))
	}
	return whole, nil
}

// dataBarHalves returns the elements of both halves: character, finder, character.
func dataBarHalves(gtin string) (halves [2][21]uint8) {
	value := number(gtin[:13])
	const half, characters = 4_537_077, 1597
	var widths [4][8]uint8
	for i, v := range [4]int{value / half / characters, value / half % characters, value % half / characters,
		value % half % characters} {
		widths[i] = dataBarCharacter(v, i%2 == 0)
	}
	sum, weight := 0, 1
	for _, character := range widths {
		for _, width := range character {
			sum, weight = sum+int(width)*weight, weight*3%79
		}
	}
	sum %= 79
	if sum >= 8 {
		sum++
	}
	if sum >= 72 {
		sum++
	}
	left, right := dataBarFinders[sum/9], dataBarFinders[sum%9]
	copy(halves[0][:], widths[0][:])
	copy(halves[0][8:], left[:])
	copy(halves[0][13:], backwards(widths[1][:]))
	copy(halves[1][:], widths[3][:])
	copy(halves[1][8:], backwards(right[:]))
	copy(halves[1][13:], backwards(widths[2][:]))
	return halves
}

func backwards(widths []uint8) []uint8 {
	turned := slices.Clone(widths)
	slices.Reverse(turned)
	return turned
}

func dataBarGroupOf(groups []dataBarGroup, value int) dataBarGroup {
	g := groups[0]
	for _, group := range groups {
		if value >= group.from {
			g = group
		}
	}
	return g
}

// dataBarCharacter returns the elements of a character (5.2.2).
func dataBarCharacter(value int, outside bool) (widths [8]uint8) {
	groups := dataBarInside
	if outside {
		groups = dataBarOutside
	}
	g := dataBarGroupOf(groups, value)
	rest := value - g.from
	odd, even := rest/g.ways, rest%g.ways
	if !outside {
		odd, even = even, odd
	}
	oddWidths := elementWidths(odd, g.odd, 4, g.oddWidest, outside)
	evenWidths := elementWidths(even, g.even, 4, g.evenWide, !outside)
	for i := range 4 {
		widths[2*i], widths[2*i+1] = oddWidths[i], evenWidths[i]
	}
	return widths
}

// elementWidths returns the elements that a value stands for among all ways to share n modules, none
// wider than the widest; without wide, at least one must be a single module (annex B).
func elementWidths(value, n, elements, widest int, wide bool) []uint8 {
	widths := make([]uint8, elements)
	narrow := 0
	bar := 0
	for ; bar < elements-1; bar++ {
		width, ways := 1, 0
		narrow |= 1 << bar
		for {
			ways = combinations(n-width-1, elements-bar-2)
			if !wide && narrow == 0 && n-width-(elements-bar-1) >= elements-bar-1 {
				ways -= combinations(n-width-(elements-bar), elements-bar-2)
			}
			if elements-bar-1 > 1 {
				less := 0
				for most := n - width - (elements - bar - 2); most > widest; most-- {
					less += combinations(n-width-most-1, elements-bar-3)
				}
				ways -= less * (elements - 1 - bar)
			} else if n-width > widest {
				ways--
			}
			if value -= ways; value < 0 {
				break
			}
			width++
			narrow &^= 1 << bar
		}
		value += ways
		n -= width
		widths[bar] = uint8(width)
	}
	widths[bar] = uint8(n)
	return widths
}

// combinations returns n over r.
func combinations(n, r int) int {
	result := 1
	for i := range min(r, n-r) {
		result = result * (n - i) / (i + 1)
	}
	return result
}
