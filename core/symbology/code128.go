package symbology

import (
	"math"

	"oddspool/core/check"
	"oddspool/core/decode"
	"oddspool/core/gs1"
)

// Code128 is Code 128.
const Code128 ID = "code128"

var code128Kind = Kind{
	ID: Code128, Name: "Code 128",
	Standard: "ISO/IEC 15417", Identifier: "]C0",
	Holds:   "ASCII letters, digits, signs and control characters, and those of western Europe",
	Example: "952N0307B-0417",
	Most:    "128 characters; two digits take the room of one",
	Readers: anyScanner,
	Uses:    "bins, cartons, documents: the first choice for a line of letters and digits",
	Quiet:   code128Quiet, Least: 190,
	Denser: DataMatrix,
	Encode: (*Symbol).code128, Widths: decode.Code128,
}

// GS1128 is GS1-128.
const GS1128 ID = "gs1-128"

var gs1128Kind = Kind{
	ID: GS1128, Name: "GS1-128",
	Standard: "GS1 General Specifications 5.4", Identifier: "]C1",
	Holds:   "GS1 application identifiers with their values",
	Example: "(01)09521234543213(10)26K104",
	Most:    "48 characters",
	Readers: anyScanner,
	Uses:    "trade units and pallets: item, lot, dates, weights",
	Quiet:   code128Quiet, Least: 250, GS1: true,
	Sizes:  gs1128Sizes,
	Denser: GS1DataMatrix,
	Encode: (*Symbol).gs1128, Widths: decode.Code128,
}

// Code 128 (ISO/IEC 15417). Each symbol character is three bars and three spaces in 11 modules;
// what it means depends on the code set in force: A has capitals and control characters, B has
// capitals and small letters, C has pairs of digits. The encoder finds the fewest symbol
// characters by looking at every choice of sets from the end of the data backwards.
//
//	quiet zone 10 │ start │ data … │ check character │ stop (13 modules) │ quiet zone 10

// code128Quiet is the quiet zone on either side, in modules (4.1.3 and 4.4.2 of the standard).
const code128Quiet = 10

// code128Longest bounds the data: a symbol of 128 characters at the smallest module that
// printers make is already wider than a hand scanner takes. The standard sets no limit.
const code128Longest = 128

// The code sets, in the order of their start characters.
const (
	setA = iota
	setB
	setC
	noSet
)

// Symbol characters with a meaning of their own (table 2 of the standard).
const (
	code128Shift  = 98
	code128StartA = 103
	code128Stop   = 106
)

// code128Latch holds, for each set, the symbol character that switches to it.
var code128Latch = [3]uint8{setA: 101, setB: 100, setC: 99}

// fnc1 stands for the function character 1 in what appendCode128 takes: no ASCII character does.
const (
	fnc1        = 0x80
	code128FNC1 = 102
)

func (s *Symbol) code128(text string, _ Options) error {
	data, err := code128Data(text)
	if err != nil {
		return err
	}
	if isASCII(data) {
		s.values = appendCode128(s.values, data)
	} else {
		s.values = appendCode128Latin(s.values, data)
	}
	s.code128Bars()
	s.Text, s.Reads = printable(text), text
	return nil
}

func (s *Symbol) gs1128(text string, _ Options) error {
	const longest = 48 // GS1 General Specifications, 5.4.4.4
	elements, err := s.gs1("GS1-128", text)
	if err != nil {
		return err
	}
	elements = gs1.Order(elements)
	data := gs1.Data(elements, fnc1)
	if len(data) > longest {
		return wrong(0, "%d characters are too many for one GS1-128; it takes up to %d. Spread them over "+
			"two symbols.", len(data), longest)
	}
	s.values = appendCode128(s.values, string(append([]byte{fnc1}, data...)))
	s.code128Bars()
	s.Text, s.Reads = gs1.Text(s.Elements), string(gs1.Data(elements, groupSeparator))
	return nil
}

// code128Bars draws the values of symbol characters with the check and stop characters behind them.
func (s *Symbol) code128Bars() {
	s.values = append(s.values, check.Mod103(s.values), code128Stop)
	for _, value := range s.values {
		s.Widths = append(s.Widths, code128Widths[value][:]...)
	}
	s.Widths = append(s.Widths, 2) // the bar that closes the stop character
}

// code128Data returns the bytes of ISO/IEC 8859-1 that say text.
func code128Data(text string) (string, error) {
	if text == "" {
		return "", wrong(0, "Code 128 needs at least one character.")
	}
	data, position := text, 0
	for _, r := range text {
		if position++; r > 0xFF {
			return "", wrong(position,
				"%s (character %d) is not in Code 128; it takes the letters, digits and signs of western Europe.",
				printableRune(r), position)
		}
	}
	if !isASCII(text) {
		data = string(byteOfEach(text))
	}
	if len(data) > code128Longest {
		return "", wrong(0, "%d characters are too many for one Code 128; it takes up to %d.", len(data),
			code128Longest)
	}
	return data, nil
}

// appendCode128 appends start and data characters: the fewest there can be. Among equals it
// changes sets as late as it can, and prefers B to A.
func appendCode128(values []uint8, text string) []uint8 {
	// consume[i][set] is the least number of characters for text[i:] when text[i] is read in set.
	const never = 1 << 20
	var consume [code128Longest + 1][3]int32
	stay := func(i, set int) int32 { // when set is in force before text[i]
		if i == len(text) {
			return 0
		}
		c := &consume[i]
		return min(c[set], 1+min(c[setA], c[setB], c[setC]))
	}
	for i := len(text) - 1; i >= 0; i-- {
		c := &consume[i]
		*c = [3]int32{never, never, never}
		inA, inB := text[i] < 96, text[i] >= 32 && text[i] < fnc1
		switch {
		case text[i] == fnc1:
			c[setA], c[setB], c[setC] = 1+stay(i+1, setA), 1+stay(i+1, setB), 1+stay(i+1, setC)
		case inA && inB:
			c[setA], c[setB] = 1+stay(i+1, setA), 1+stay(i+1, setB)
		case inA:
			c[setA], c[setB] = 1+stay(i+1, setA), 2+stay(i+1, setB)
		default:
			c[setA], c[setB] = 2+stay(i+1, setA), 1+stay(i+1, setB)
		}
		if twoDigits(text, i) {
			c[setC] = 1 + stay(i+2, setC)
		}
	}
	best := func(i int) int {
		switch c := consume[i]; {
		case c[setC] < min(c[setA], c[setB]):
			return setC
		case c[setB] <= c[setA]:
			return setB
		default:
			return setA
		}
	}
	set := best(0)
	values = append(values, uint8(code128StartA+set))
	for i := 0; i < len(text); {
		if next := best(i); consume[i][set] > 1+consume[i][next] {
			values, set = append(values, code128Latch[next]), next
		}
		if text[i] == fnc1 {
			values = append(values, code128FNC1)
			i++
			continue
		}
		if set == setC {
			values = append(values, 10*(text[i]-'0')+text[i+1]-'0')
			i += 2
			continue
		}
		in := set
		if set == setA && text[i] >= 96 || set == setB && text[i] < 32 {
			values, in = append(values, code128Shift), setA+setB-set
		}
		values = append(values, code128Value(text[i], in))
		i++
	}
	return values
}

// code128FNC4 holds, for sets A and B, the function character 4: one turns the next character over
// between ASCII and the upper half of ISO/IEC 8859-1, two do so until the next two (4.3.4.2 d).
var code128FNC4 = [2]uint8{setA: 101, setB: 100}

// The states of the slow search: a set, and whether characters are of the upper half.
const (
	code128States = 5 // A, B, C, upper A, upper B
	upperSet      = 3 // what is added to A and B
)

// code128Move returns how many symbol characters it takes from one state to another.
func code128Move(from, to int) (cost int) {
	if from%upperSet != to%upperSet {
		cost++
	}
	if from/upperSet != to/upperSet {
		cost += 2
	}
	return cost
}

// code128Costs are the least numbers of symbol characters for text[i:] where text[i] is read in a state.
type code128Costs [][code128States]int

// stay returns the least number for the text from i on, in a state before it.
func (c code128Costs) stay(i, state int) int {
	least := math.MaxInt
	for next, cost := range c[i] {
		least = min(least, cost+code128Move(state, next))
	}
	return least
}

// code128Latin finds the costs of a text, from its end.
func code128Latin(text string) code128Costs {
	const never = 1 << 20
	costs := make(code128Costs, len(text)+1)
	for i := len(text) - 1; i >= 0; i-- {
		for state := range code128States {
			cost, set := never, state%upperSet
			switch {
			case state == setC && twoDigits(text, i):
				cost = 1 + costs.stay(i+2, state)
			case state != setC:
				own, c := 1, text[i]&0x7F
				if text[i] >= 0x80 != (state >= upperSet) {
					own++ // FNC4
				}
				if set == setA && c >= 96 || set == setB && c < 32 {
					if own == 2 {
						own = never // not with a shift as well: readers differ
					}
					own++
				}
				cost = own + costs.stay(i+1, state)
			}
			costs[i][state] = min(cost, never)
		}
	}
	return costs
}

// appendCode128Latin does as appendCode128 does for any bytes. It is the plain and slow one.
func appendCode128Latin(values []uint8, text string) []uint8 {
	costs := code128Latin(text)
	best := func(i, from int) int {
		least := from
		for _, next := range []int{setB, setA, setC, upperSet + setB, upperSet + setA} {
			if costs[i][next]+code128Move(from, next) < costs[i][least]+code128Move(from, least) {
				least = next
			}
		}
		return least
	}
	state := setB
	for _, first := range []int{setA, setC} {
		if costs.stay(0, first) < costs.stay(0, state) {
			state = first
		}
	}
	values = append(values, uint8(code128StartA+state))
	for i := 0; i < len(text); {
		if next := best(i, state); next != state {
			set, to := state%upperSet, next%upperSet
			if set == setC { // which has no FNC4
				values, set = append(values, code128Latch[to]), to
			}
			if state/upperSet != next/upperSet {
				values = append(values, code128FNC4[set], code128FNC4[set])
			}
			if set != to {
				values = append(values, code128Latch[to])
			}
			state = next
		}
		if state == setC {
			values = append(values, 10*(text[i]-'0')+text[i+1]-'0')
			i += 2
			continue
		}
		set, c := state%upperSet, text[i]&0x7F
		if text[i] >= 0x80 != (state >= upperSet) {
			values = append(values, code128FNC4[set])
		}
		if set == setA && c >= 96 || set == setB && c < 32 {
			values, set = append(values, code128Shift), setA+setB-set
		}
		values = append(values, code128Value(c, set))
		i++
	}
	return values
}

func twoDigits(text string, i int) bool {
	return i+1 < len(text) && text[i]-'0' < 10 && text[i+1]-'0' < 10
}

// code128Value returns the symbol character of c in set A or B (table 1 of the standard).
func code128Value(c byte, set int) uint8 {
	if set == setA && c < 32 {
		return c + 64
	}
	return c - 32
}

// code128Widths holds bars and spaces of each symbol character (table 1 of the standard); the
// stop character's last bar is appended by the encoder.
var code128Widths = [107][6]uint8{
	{2, 1, 2, 2, 2, 2}, {2, 2, 2, 1, 2, 2}, {2, 2, 2, 2, 2, 1}, {1, 2, 1, 2, 2, 3}, {1, 2, 1, 3, 2, 2},
	{1, 3, 1, 2, 2, 2}, {1, 2, 2, 2, 1, 3}, {1, 2, 2, 3, 1, 2}, {1, 3, 2, 2, 1, 2}, {2, 2, 1, 2, 1, 3},
	{2, 2, 1, 3, 1, 2}, {2, 3, 1, 2, 1, 2}, {1, 1, 2, 2, 3, 2}, {1, 2, 2, 1, 3, 2}, {1, 2, 2, 2, 3, 1},
	{1, 1, 3, 2, 2, 2}, {1, 2, 3, 1, 2, 2}, {1, 2, 3, 2, 2, 1}, {2, 2, 3, 2, 1, 1}, {2, 2, 1, 1, 3, 2},
	{2, 2, 1, 2, 3, 1}, {2, 1, 3, 2, 1, 2}, {2, 2, 3, 1, 1, 2}, {3, 1, 2, 1, 3, 1}, {3, 1, 1, 2, 2, 2},
	{3, 2, 1, 1, 2, 2}, {3, 2, 1, 2, 2, 1}, {3, 1, 2, 2, 1, 2}, {3, 2, 2, 1, 1, 2}, {3, 2, 2, 2, 1, 1},
	{2, 1, 2, 1, 2, 3}, {2, 1, 2, 3, 2, 1}, {2, 3, 2, 1, 2, 1}, {1, 1, 1, 3, 2, 3}, {1, 3, 1, 1, 2, 3},
	{1, 3, 1, 3, 2, 1}, {1, 1, 2, 3, 1, 3}, {1, 3, 2, 1, 1, 3}, {1, 3, 2, 3, 1, 1}, {2, 1, 1, 3, 1, 3},
	{2, 3, 1, 1, 1, 3}, {2, 3, 1, 3, 1, 1}, {1, 1, 2, 1, 3, 3}, {1, 1, 2, 3, 3, 1}, {1, 3, 2, 1, 3, 1},
	{1, 1, 3, 1, 2, 3}, {1, 1, 3, 3, 2, 1}, {1, 3, 3, 1, 2, 1}, {3, 1, 3, 1, 2, 1}, {2, 1, 1, 3, 3, 1},
	{2, 3, 1, 1, 3, 1}, {2, 1, 3, 1, 1, 3}, {2, 1, 3, 3, 1, 1}, {2, 1, 3, 1, 3, 1}, {3, 1, 1, 1, 2, 3},
	{3, 1, 1, 3, 2, 1}, {3, 3, 1, 1, 2, 1}, {3, 1, 2, 1, 1, 3}, {3, 1, 2, 3, 1, 1}, {3, 3, 2, 1, 1, 1},
	{3, 1, 4, 1, 1, 1}, {2, 2, 1, 4, 1, 1}, {4, 3, 1, 1, 1, 1}, {1, 1, 1, 2, 2, 4}, {1, 1, 1, 4, 2, 2},
	{1, 2, 1, 1, 2, 4}, {1, 2, 1, 4, 2, 1}, {1, 4, 1, 1, 2, 2}, {1, 4, 1, 2, 2, 1}, {1, 1, 2, 2, 1, 4},
	{1, 1, 2, 4, 1, 2}, {1, 2, 2, 1, 1, 4}, {1, 2, 2, 4, 1, 1}, {1, 4, 2, 1, 1, 2}, {1, 4, 2, 2, 1, 1},
	{2, 4, 1, 2, 1, 1}, {2, 2, 1, 1, 1, 4}, {4, 1, 3, 1, 1, 1}, {2, 4, 1, 1, 1, 2}, {1, 3, 4, 1, 1, 1},
	{1, 1, 1, 2, 4, 2}, {1, 2, 1, 1, 4, 2}, {1, 2, 1, 2, 4, 1}, {1, 1, 4, 2, 1, 2}, {1, 2, 4, 1, 1, 2},
	{1, 2, 4, 2, 1, 1}, {4, 1, 1, 2, 1, 2}, {4, 2, 1, 1, 1, 2}, {4, 2, 1, 2, 1, 1}, {2, 1, 2, 1, 4, 1},
	{2, 1, 4, 1, 2, 1}, {4, 1, 2, 1, 2, 1}, {1, 1, 1, 1, 4, 3}, {1, 1, 1, 3, 4, 1}, {1, 3, 1, 1, 4, 1},
	{1, 1, 4, 1, 1, 3}, {1, 1, 4, 3, 1, 1}, {4, 1, 1, 1, 1, 3}, {4, 1, 1, 3, 1, 1}, {1, 1, 3, 1, 4, 1},
	{1, 1, 4, 1, 3, 1}, {3, 1, 1, 1, 4, 1}, {4, 1, 1, 1, 3, 1}, {2, 1, 1, 4, 1, 2}, {2, 1, 1, 2, 1, 4},
	{2, 1, 1, 2, 3, 2}, {2, 3, 3, 1, 1, 1},
}
