package symbology

import (
	"oddspool/core/check"
	"oddspool/core/decode"
	"oddspool/core/gs1"
)

// Interleaved is Interleaved 2 of 5.
const Interleaved ID = "interleaved2of5"

var interleavedKind = Kind{
	ID: Interleaved, Name: "Interleaved 2 of 5",
	Standard: "ISO/IEC 16390", Identifier: "]I0",
	Holds:   "digits, in pairs",
	Example: "260104",
	Most:    "80 digits",
	Readers: anyScanner,
	Uses:    "numbers on cartons; a part of it can be read as a shorter number, so fix the length",
	Quiet:   10, Least: 190, Unchecked: true,
	Options: []Option{checkCharacter, checkGiven, ratio},
	Denser:  DataMatrix,
	Encode:  (*Symbol).interleaved, Widths: decode.Interleaved,
}

// ITF14 is ITF-14.
const ITF14 ID = "itf14"

var itf14Kind = Kind{
	ID: ITF14, Name: "ITF-14",
	Standard: "GS1 General Specifications 5.3", Identifier: "]I1",
	Holds:   "a GTIN of 14 digits",
	Example: "19521234543210",
	Most:    "14 digits",
	Readers: anyScanner,
	Uses:    "cartons of trade items, printed on corrugated board",
	Quiet:   10, Least: 495, MostModule: 1016, CheckDigit: true, Bearer: true,
	Sizes:   itf14Sizes,
	Options: []Option{ratio, checkDigit},
	Encode:  (*Symbol).itf14, Widths: decode.Interleaved,
}

// Interleaved 2 of 5 (ISO/IEC 16390): the first digit of a pair is in five bars, the second in the
// spaces between them; two of five are wide.
var interleavedPatterns = [10]int{0b00110, 0b10001, 0b01001, 0b11000, 0b00101, 0b10100, 0b01100, 0b00011, 0b10010,
	0b01010}

func (s *Symbol) interleaved(text string, o Options) error {
	const name, longest = "Interleaved 2 of 5", 80
	if err := onlyDigits(name, text); err != nil {
		return err
	}
	text, err := withCheck(text, o, 1, func(body string) string { return string(check.GS1(body)) })
	if err != nil {
		return err
	}
	if len(text)%2 == 1 {
		return wrong(0, "Interleaved 2 of 5 takes an even number of digits, and these are %d: put a 0 before "+
			"them, or add a check digit.", len(text))
	}
	if len(text) > longest {
		return wrong(0, "%d digits are too many for one Interleaved 2 of 5; it takes up to %d.", len(text),
			longest)
	}
	s.Ratio, s.Text, s.Reads = o.ratio(), text, text
	s.Widths = append(s.Widths, 1, 1, 1, 1)
	for i := 0; i < len(text); i += 2 {
		bars, spaces := interleavedPatterns[text[i]-'0'], interleavedPatterns[text[i+1]-'0']
		for bit := 4; bit >= 0; bit-- {
			s.Widths = append(s.Widths, uint8(1+bars>>bit&1), uint8(1+spaces>>bit&1))
		}
	}
	s.Widths = append(s.Widths, 2, 1, 1)
	return nil
}

// ITF-14 (GS1 General Specifications, 5.3.2): a GTIN-14 in Interleaved 2 of 5 of ratio 2.5.
func (s *Symbol) itf14(text string, o Options) error {
	const name = "ITF-14"
	digits, err := s.number(name, text, 14, o)
	if err != nil {
		return err
	}
	if o.Ratio == 0 {
		o.Ratio = 2.5
	}
	o.Check, o.CheckDigit = false, gs1.AsItIs
	if err := s.interleaved(digits, o); err != nil {
		return err
	}
	s.Text = digits[:1] + " " + digits[1:3] + " " + digits[3:8] + " " + digits[8:13] + " " + digits[13:]
	return nil
}
