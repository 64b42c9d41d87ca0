package symbology

import (
	"strings"

	"oddspool/core/decode"
)

// Code11 is Code 11.
const Code11 ID = "code11"

var code11Kind = Kind{
	ID: Code11, Name: "Code 11",
	Standard: "AIM USD-8", Identifier: "]H0",
	Holds:   "digits and -",
	Example: "26-104",
	Most:    "80 characters",
	Readers: "few scanners unless told so",
	Uses:    "telephone equipment",
	Quiet:   10, Least: 190, Unchecked: true,
	Options: []Option{checkCharacter, ratio},
	Encode:  (*Symbol).code11, Widths: decode.Code11,
}

// Code 11 (AIM USD-8): a character is three bars and two spaces; one or two check characters follow.
const code11Letters = "0123456789-"

var code11Patterns = [...]int{0b00001, 0b10001, 0b01001, 0b11000, 0b00101, 0b10100, 0b01100, 0b00011, 0b10010, 0b10000,
	0b00100}

func (s *Symbol) code11(text string, o Options) error {
	const name, longest, startStop = "Code 11", 80, 0b00110
	if text == "" {
		return wrong(0, "Code 11 needs at least one character.")
	}
	position := 0
	for _, r := range text {
		if position++; r > 127 || strings.IndexByte(code11Letters, byte(r)) < 0 {
			return wrong(position, "%s (character %d) is not in Code 11; it takes digits and -.",
				printableRune(r),
				position)
		}
	}
	if o.Check {
		data := len(text)
		text += code11Check(text, 10)
		if data >= 10 { // a second one, over the first
			text += code11Check(text, 9)
		}
	}
	if len(text) > longest {
		return wrong(0, "%d characters are too many for one Code 11; it takes up to %d.", len(text), longest)
	}
	s.Ratio, s.Text, s.Reads = o.ratio(), text, text
	s.twoWidths(startStop, 5)
	for i := range len(text) {
		s.Widths = append(s.Widths, 1)
		s.twoWidths(code11Patterns[strings.IndexByte(code11Letters, text[i])], 5)
	}
	s.Widths = append(s.Widths, 1)
	s.twoWidths(startStop, 5)
	return nil
}

// code11Check weighs the characters from the right by 1 up to most and again, modulo 11.
func code11Check(text string, most int) string {
	sum := 0
	for i := range len(text) {
		sum += strings.IndexByte(code11Letters, text[len(text)-1-i]) * (1 + i%most)
	}
	return code11Letters[sum%11 : sum%11+1]
}
