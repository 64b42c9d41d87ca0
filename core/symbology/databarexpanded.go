package symbology

import (
	"slices"

	"oddspool/core/decode"
	"oddspool/core/gs1"
)

// dataBarMostPairs is how many pairs of characters stand in a row at most: those of the longest symbol.
const dataBarMostPairs = 11

// DataBarExpanded is GS1 DataBar Expanded.
const DataBarExpanded ID = "databar-expanded"

var dataBarExpandedKind = Kind{
	ID: DataBarExpanded, Name: "GS1 DataBar Expanded",
	Standard: "ISO/IEC 24724", Identifier: "]e0",
	Holds:   "GS1 application identifiers with their values",
	Example: "(01)99521234543216(3103)001750",
	Most:    "74 digits or 41 letters",
	Readers: "scanners of shops, and most others",
	Uses:    "weighed goods with weight, price and date; coupons",
	Quiet:   1, Least: 170, GS1: true, Tall: 34,
	Sizes:  dataBarSizes,
	Encode: (*Symbol).dataBarExpanded, Widths: decode.DataBarExpanded,
}

// DataBarExpandedStacked is GS1 DataBar Expanded Stacked.
const DataBarExpandedStacked ID = "databar-expanded-stacked"

var dataBarExpandedStackedKind = Kind{
	ID: DataBarExpandedStacked, Name: "GS1 DataBar Expanded Stacked",
	Standard: "ISO/IEC 24724", Is2D: true, Identifier: "]e0",
	Holds:   "GS1 application identifiers with their values",
	Example: "(01)99521234543216(3103)001750",
	Most:    "74 digits or 41 letters",
	Readers: "scanners of shops, and most others",
	Uses:    "as GS1 DataBar Expanded, where the label is narrow",
	Quiet:   1, Least: 170, GS1: true,
	Sizes:   dataBarSizes,
	Options: []Option{columns(dataBarMostPairs)},
	Encode:  (*Symbol).dataBarExpandedStacked, Modules: decode.DataBarExpandedStacked,
}

// GS1 DataBar Expanded (ISO/IEC 24724, 7): GS1 element strings in 4 to 22 characters of 17 modules, two
// around each finder. The data is a row of bits, 12 a character: how it is packed (the encodation
// method, 7.2.5.4), what that method keeps of it, and the rest in the general purpose field (7.2.5.5).

// dataBarExpandedGroups are the groups of its characters (table 8).
var dataBarExpandedGroups = []dataBarGroup{{0, 4, 12, 5, 7, 2}, {348, 20, 10, 7, 5, 4}, {1388, 52, 8, 9, 4, 5},
	{2948, 104, 6, 11, 3, 6}, {3988, 204, 4, 13, 1, 8}}

// dataBarExpandedFinders are the finders A to F (table 13); the second of each letter is turned round.
var dataBarExpandedFinders = [6][5]uint8{{1, 8, 4, 1, 1}, {3, 6, 4, 1, 1}, {3, 4, 6, 1, 1}, {3, 2, 8, 1, 1},
	{2, 6, 5, 1, 1}, {2, 2, 9, 1, 1}}

// dataBarExpandedOrders are the finders of symbols with 2 to 11 of them (table 14).
var dataBarExpandedOrders = [...]string{"Aa", "AbB", "AcBd", "AeBdC", "AeBdDf", "AeBdEfF", "AaBbCcDd", "AaBbCcDeE",
	"AaBbCcDeFf", "AaBbCdDeEfF"}

const (
	dataBarExpandedLeast = 4  // characters, the check character among them
	dataBarExpandedMost  = 22 // 7.1
)

func (s *Symbol) dataBarExpanded(text string, _ Options) error {
	characters, err := s.dataBarExpandedData("GS1 DataBar Expanded", text, 0)
	if err != nil {
		return err
	}
	s.Widths = append(s.Widths, 1)
	s.Widths = append(s.Widths, dataBarExpandedElements(characters)...)
	s.Widths = append(s.Widths, 1, 1)
	if len(s.Widths)%2 == 0 { // the right guard ends with a light module, which is of the quiet zone as well
		s.Widths = s.Widths[:len(s.Widths)-1]
	}
	return nil
}

// dataBarExpandedStacked makes the stacked form (7.2.8): rows of some pairs of characters with their
// finder, 34 modules tall, and three rows of one module between them. Every other row may run from
// right to left. o.Columns is the pairs in a row.
func (s *Symbol) dataBarExpandedStacked(text string, o Options) error {
	const name = "GS1 DataBar Expanded Stacked"
	const tall, between, pair, beforeFinder = 34, 3, 21, 8
	columns := o.Columns
	if columns == 0 {
		columns = 2
	}
	characters, err := s.dataBarExpandedData(name, text, columns)
	if err != nil {
		return err
	}
	elements := dataBarExpandedElements(characters)
	pairs := (len(characters) + 1) / 2
	columns = min(columns, pairs)
	rows := (pairs + columns - 1) / columns
	wide := columns*49 + 4
	if rows == 1 && len(characters)%2 == 1 {
		wide -= 17 // the last pair has but one character
	}
	s.Matrix.resize(wide, rows*(tall+between)-between)
	width := s.Matrix.Width
	var above []bool
	for row := range rows {
		own := elements[row*columns*pair : min((row+1)*columns*pair, len(elements))]
		modules := make([]bool, 0, width)
		var finders []int // elements at which they begin
		for at := beforeFinder; at < len(own); at += pair {
			finders = append(finders, at)
		}
		// With an even number of pairs every second row is turned; when it has an odd number of them
		// that cannot be, and it begins one module further right.
		second := row%2 == 1 && columns%2 == 0
		turned := second && len(finders)%2 == 0
		if turned {
			own = backwards(own)
			for i := range finders {
				finders[i] = len(own) - finders[i] - len(dataBarExpandedFinders[0])
			}
		} else if second {
			modules = append(modules, false)
		}
		from := len(modules) + 4
		modules = append(modules, moduleRow(turned || columns%2 == 1 && row%2 == 1, []uint8{1, 1}, own,
			[]uint8{1, 1})...)
		to := len(modules) - 4
		for i, element := range finders {
			x := from - 2
			for _, w := range own[:element] {
				x += int(w)
			}
			if own[element] == 1 && own[element+1] == 1 {
				x += 2 // the two modules of a finder that are left out lie at its narrow end
			}
			finders[i] = x
		}
		modules = append(modules, make([]bool, width-len(modules))...)
		y := row * (tall + between)
		if row > 0 {
			s.Matrix.setRow(y-3, above)
			for x := 5; x < width-4; x += 2 {
				s.Matrix.set(x, y-2, true)
			}
			s.Matrix.setRow(y-1, separator(modules, from, to, finders, turned))
		}
		for n := range tall {
			s.Matrix.setRow(y+n, modules)
		}
		above = separator(modules, from, to, finders, turned)
	}
	return nil
}

// dataBarExpandedData packs elements and returns the values of the characters, the check character
// first. With columns, the last row has more than one character.
func (s *Symbol) dataBarExpandedData(name, text string, columns int) ([]int, error) {
	elements, err := s.gs1(name, text)
	if err != nil {
		return nil, err
	}
	elements = dataBarOrder(elements)
	bits, ok := dataBarExpandedBits(elements, columns)
	if !ok {
		return nil, wrong(0, "This is too much for one %s. Use GS1 DataMatrix or GS1 QR Code, or say less.", name)
	}
	characters := []int{0}
	for at := 0; at < len(bits); at += 12 {
		characters = append(characters, bitsValue(bits[at:at+12]))
	}
	// The check character (7.2.6): each element of each character has a weight, which are powers of 3.
	sum := 0
	for i, value := range characters[1:] {
		position := i + 1 // 0 is left of the first finder
		weight := dataBarWeight(len(characters), position)
		widths := dataBarExpandedCharacter(value)
		for _, width := range widths {
			sum, weight = sum+int(width)*weight, weight*3%211
		}
	}
	characters[0] = 211*(len(characters)-dataBarExpandedLeast) + sum%211
	s.Text, s.Reads = gs1.Text(elements), string(gs1.Data(elements, groupSeparator))
	return characters, nil
}

func dataBarFinder(characters, n int) (letter int, turned bool) {
	finder := dataBarExpandedOrders[(characters+1)/2-2][n]
	if finder >= 'a' {
		return int(finder - 'a'), true
	}
	return int(finder - 'A'), false
}

// dataBarWeight returns the first weight of a character beside its finder (table 15): 3 to the power of
// 8 for each of the characters that could stand before it in the order of all finders.
func dataBarWeight(characters, position int) int {
	letter, turned := dataBarFinder(characters, position/2)
	row := 4*letter + position%2 - 1
	if turned {
		row += 2
	}
	weight := 1
	for range 8 * row {
		weight = weight * 3 % 211
	}
	return weight
}

// dataBarExpandedElements returns the elements of the characters and their finders in order.
func dataBarExpandedElements(characters []int) (elements []uint8) {
	for i, value := range characters {
		widths := dataBarExpandedCharacter(value)
		if i%2 == 1 {
			elements = append(elements, backwards(widths[:])...)
			continue
		}
		elements = append(elements, widths[:]...)
		letter, turned := dataBarFinder(len(characters), i/2)
		finder := dataBarExpandedFinders[letter][:]
		if turned {
			finder = backwards(finder)
		}
		elements = append(elements, finder...)
	}
	return elements
}

// dataBarExpandedCharacter returns the elements of a character (7.2.2).
func dataBarExpandedCharacter(value int) (widths [8]uint8) {
	g := dataBarGroupOf(dataBarExpandedGroups, value)
	odd := elementWidths((value-g.from)/g.ways, g.odd, 4, g.oddWidest, false)
	even := elementWidths((value-g.from)%g.ways, g.even, 4, g.evenWide, true)
	for i := range 4 {
		widths[2*i], widths[2*i+1] = odd[i], even[i]
	}
	return widths
}

func bitsValue(bits []bool) (value int) {
	for _, bit := range bits {
		value *= 2
		if bit {
			value++
		}
	}
	return value
}

// dataBarExpandedBits packs elements by the method that keeps most of them (7.2.5.4). A symbol has at
// least four characters and at most 22; ok is false when the data needs more.
func dataBarExpandedBits(elements []gs1.Element, columns int) (bits []bool, ok bool) {
	w := &dataBarBits{columns: columns}
	w.add(0, 1) // no 2D component is linked
	rest := elements
	switch {
	case w.weights(elements):
		rest = nil
	case isPrice(elements):
		currency := elements[1].AI.AI[2] == '3'
		w.add(0b01100, 5)
		if currency {
			w.bits[len(w.bits)-1] = true
		}
		w.openLength()
		w.gtin(elements[0].Value[1:13])
		w.add(int(elements[1].AI.AI[3]-'0'), 2)
		amount := elements[1].Value
		if currency {
			w.add(number(amount[:3]), 10)
			amount = amount[3:]
		}
		rest = append([]gs1.Element{{Value: amount}}, elements[2:]...)
	case elements[0].AI.AI == "01":
		w.add(1, 1)
		w.openLength()
		w.add(int(elements[0].Value[0]-'0'), 4)
		w.gtin(elements[0].Value[1:13])
		rest = elements[1:]
	default:
		w.add(0b00, 2)
		w.openLength()
	}
	w.general(string(gs1.Data(rest, fnc1)))
	return w.end()
}

// dataBarOrder puts a GTIN first, a price after it, then what has a fixed length, which packs best.
func dataBarOrder(elements []gs1.Element) []gs1.Element {
	rank := func(e gs1.Element) int {
		switch {
		case e.AI.AI == "01":
			return 0
		case len(e.AI.AI) == 4 && (e.AI.AI[:3] == "392" || e.AI.AI[:3] == "393"):
			return 1
		case e.AI.Predefined():
			return 2
		}
		return 3
	}
	ordered := slices.Clone(elements)
	slices.SortStableFunc(ordered, func(a, b gs1.Element) int { return rank(a) - rank(b) })
	return ordered
}

// isPrice tells whether elements begin with a variable measure item and its price, with up to three
// decimals (methods 01100 and 01101).
func isPrice(elements []gs1.Element) bool {
	if len(elements) < 2 || elements[0].AI.AI != "01" || elements[0].Value[0] != '9' {
		return false
	}
	ai := elements[1].AI.AI
	return len(ai) == 4 && (ai[:3] == "392" || ai[:3] == "393") && ai[3] <= '3'
}
