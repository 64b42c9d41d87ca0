package symbology

import "strings"

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
	dataBarOutside = []dataBarGroup{{0, 1, 12, 4, 8, 1}, {161, 10, 10, 6, 6, 3}, {961, 34, 8, 8, 4, 5}, {2015, 70, 6, 10, 3, 6}, {2715, 126, 4, 12, 1, 8}}
	dataBarInside  = []dataBarGroup{{0, 4, 5, 10, 2, 7}, {336, 20, 7, 8, 4, 5}, {1036, 48, 9, 6, 6, 3}, {1516, 81, 11, 4, 8, 1}}
)

// dataBarFinders are the finders by their value (table 5).
var dataBarFinders = [9][5]uint8{{3, 8, 2, 1, 1}, {3, 5, 5, 1, 1}, {3, 3, 7, 1, 1}, {3, 1, 9, 1, 1}, {2, 7, 4, 1, 1}, {2, 5, 6, 1, 1}, {2, 3, 8, 1, 1}, {1, 5, 7, 1, 1}, {1, 3, 9, 1, 1}}

func (s *Symbol) dataBar(text string, _ Options) error {
	const name = "GS1 DataBar"
	digits := strings.TrimPrefix(text, "(01)")
	if len(digits) == 12 || len(digits) == 13 && Mod10(digits[:12]) == digits[12] {
		digits = strings.Repeat("0", 13-len(digits[:12])) + digits[:12] // a GTIN-13, with or without its check digit
	}
	gtin, err := withCheck(name, digits, 14)
	if err != nil {
		return err
	}
	value := number(gtin[:13])
	const halves, characters = 4_537_077, 1597
	var widths [4][8]uint8
	for i, v := range [4]int{value / halves / characters, value / halves % characters, value % halves / characters, value % halves % characters} {
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
	s.Widths = append(s.Widths, 1)
	s.Widths = append(s.Widths, widths[0][:]...)
	s.Widths = append(s.Widths, left[:]...)
	s.appendBackwards(widths[1][:])
	s.Widths = append(s.Widths, widths[3][:]...)
	s.appendBackwards(right[:])
	s.appendBackwards(widths[2][:])
	s.Widths = append(s.Widths, 1, 1)
	s.Text, s.Reads = "(01)"+gtin, "01"+gtin
	return nil
}

func (s *Symbol) appendBackwards(widths []uint8) {
	for i := len(widths) - 1; i >= 0; i-- {
		s.Widths = append(s.Widths, widths[i])
	}
}

// dataBarCharacter returns the elements of a character (5.2.2).
func dataBarCharacter(value int, outside bool) (widths [8]uint8) {
	groups := dataBarInside
	if outside {
		groups = dataBarOutside
	}
	g := groups[0]
	for _, group := range groups {
		if value >= group.from {
			g = group
		}
	}
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
