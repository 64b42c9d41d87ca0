package symbology

import (
	"fmt"
	"unicode/utf8"
)

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
	if err := checkCode128(text); err != nil {
		return err
	}
	s.code128Bars(text)
	s.Text, s.Reads = printable(text), text
	return nil
}

// code128Bars encodes ASCII and fnc1.
func (s *Symbol) code128Bars(text string) {
	s.values = appendCode128(s.values, text)
	s.values = append(s.values, Mod103(s.values), code128Stop)
	for _, value := range s.values {
		s.Widths = append(s.Widths, code128Widths[value][:]...)
	}
	s.Widths = append(s.Widths, 2) // the bar that closes the stop character
}

func checkCode128(text string) error {
	fail := func(position int, format string, args ...any) error {
		return &DataError{Symbology: "Code 128", Position: position, Reason: fmt.Sprintf(format, args...)}
	}
	if text == "" {
		return fail(0, "Code 128 needs at least one character.")
	}
	position := 0
	for _, r := range text {
		if position++; r > 127 {
			if r == utf8.RuneError {
				return fail(position, "Character %d is not valid text; Code 128 takes ASCII characters.", position)
			}
			return fail(position, "“%c” (character %d) is not in Code 128; it takes ASCII letters, digits and signs.", r, position)
		}
	}
	if position > code128Longest {
		return fail(0, "%d characters are too many for one Code 128; it takes up to %d.", position, code128Longest)
	}
	return nil
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
