package symbology

import (
	"oddspool/core/check"
	"oddspool/core/decode"
)

// Industrial2of5 is Industrial 2 of 5.
const Industrial2of5 ID = "industrial2of5"

var industrial2of5Kind = Kind{
	ID: Industrial2of5, Name: "Industrial 2 of 5",
	Standard: "the trade's own", Identifier: "]S0",
	Holds:   "digits",
	Example: "26104",
	Most:    "45 digits, which are wide",
	Readers: "scanners that are told so",
	Uses:    "old systems; only its bars say anything, so it is wide and forgiving",
	Quiet:   10, Least: 190, Unchecked: true,
	Options: []Option{checkCharacter, checkGiven, ratio},
	Denser:  Interleaved,
	Encode:  (*Symbol).industrial2of5, Widths: decode.Industrial2of5,
}

// IATA2of5 is IATA 2 of 5.
const IATA2of5 ID = "iata2of5"

var iata2of5Kind = Kind{
	ID: IATA2of5, Name: "IATA 2 of 5",
	Standard: "IATA Resolution 606", Identifier: "]R0",
	Holds:   "digits",
	Example: "26104",
	Most:    "45 digits, which are wide",
	Readers: "scanners that are told so",
	Uses:    "air freight of old",
	Quiet:   10, Least: 190, Unchecked: true,
	Options: []Option{checkCharacter, checkGiven, ratio},
	Denser:  Interleaved,
	Encode:  (*Symbol).iata2of5, Widths: decode.IATA2of5,
}

// Matrix2of5 is Matrix 2 of 5.
const Matrix2of5 ID = "matrix2of5"

var matrix2of5Kind = Kind{
	ID: Matrix2of5, Name: "Matrix 2 of 5",
	Standard: "the trade's own", Identifier: "]X0",
	Holds:   "digits",
	Example: "26104",
	Most:    "80 digits",
	Readers: "scanners that are told so",
	Uses:    "old systems of warehouses and photo laboratories",
	Quiet:   10, Least: 190, Unchecked: true,
	Options: []Option{checkCharacter, checkGiven, ratio},
	Denser:  Interleaved,
	Encode:  (*Symbol).matrix2of5, Widths: decode.Matrix2of5,
}

// barsOnly2of5 are the start and the stop of the codes in which bars alone say something, a set bit for a wide one.
type barsOnly2of5 struct{ start, startBars, stop, stopBars int }

func (s *Symbol) industrial2of5(text string, o Options) error {
	return s.barsOnly2of5("Industrial 2 of 5", text, o, barsOnly2of5{0b110, 3, 0b101, 3})
}

func (s *Symbol) iata2of5(text string, o Options) error {
	return s.barsOnly2of5("IATA 2 of 5", text, o, barsOnly2of5{0b00, 2, 0b10, 2})
}

func (s *Symbol) barsOnly2of5(name, text string, o Options, ends barsOnly2of5) error {
	text, err := digits2of5(name, text, 45, o)
	if err != nil {
		return err
	}
	bars := func(pattern, n int) {
		for i := n - 1; i >= 0; i-- {
			s.Widths = append(s.Widths, uint8(1+pattern>>i&1), 1)
		}
	}
	bars(ends.start, ends.startBars)
	for i := range len(text) {
		bars(interleavedPatterns[text[i]-'0'], 5)
	}
	bars(ends.stop, ends.stopBars)
	s.Widths = s.Widths[:len(s.Widths)-1] // no space behind the last bar
	s.Ratio, s.Text, s.Reads = o.ratio(), text, text
	return nil
}

// matrix2of5 writes each digit as three bars and two spaces, and a narrow space behind them.
func (s *Symbol) matrix2of5(text string, o Options) error {
	const startStop = 0b10000
	text, err := digits2of5("Matrix 2 of 5", text, 80, o)
	if err != nil {
		return err
	}
	s.twoWidths(startStop, 5)
	for i := range len(text) {
		s.Widths = append(s.Widths, 1)
		s.twoWidths(interleavedPatterns[text[i]-'0'], 5)
	}
	s.Widths = append(s.Widths, 1)
	s.twoWidths(startStop, 5)
	s.Ratio, s.Text, s.Reads = o.ratio(), text, text
	return nil
}

// digits2of5 returns the digits of a code of the family, with the check digit that is asked for.
func digits2of5(name, text string, longest int, o Options) (string, error) {
	if err := onlyDigits(name, text); err != nil {
		return "", err
	}
	text, err := withCheck(text, o, 1, func(body string) string { return string(check.GS1(body)) })
	if err != nil {
		return "", err
	}
	if len(text) > longest {
		return "", wrong(0, "%d digits are too many for one %s; it takes up to %d.", len(text), name, longest)
	}
	return text, nil
}
