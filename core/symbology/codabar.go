package symbology

import (
	"strings"

	"oddspool/core/check"
	"oddspool/core/decode"
)

// Codabar is Codabar.
const Codabar ID = "codabar"

var codabarKind = Kind{
	ID: Codabar, Name: "Codabar",
	Standard: "EN 798", Identifier: "]F0",
	Holds:   "digits and - $ : / . +, between start and stop A to D",
	Example: "26-104",
	Most:    "60 characters",
	Readers: anyScanner,
	Uses:    "libraries, blood bags, old parcels",
	Quiet:   10, Least: 190,
	Options: []Option{checkCharacter, checkGiven, checkRules("modulo 16", Choice{"luhn", "modulo 10 (Luhn)"}), ratio},
	Encode:  (*Symbol).codabar, Widths: decode.Codabar,
}

// Codabar (EN 798): a character is four bars and three spaces, two or three of them wide. A, B, C or
// D begins and ends the symbol; where the data has none, A does.
const codabarLetters = "0123456789-$:/.+ABCD"

var codabarPatterns = [...]int{
	0x03, 0x06, 0x09, 0x60, 0x12, 0x42, 0x21, 0x24, 0x30, 0x48, 0x0C, 0x18, 0x45, 0x51, 0x54, 0x15, 0x1A, 0x29, 0x0B,
	0x0E,
}

func (s *Symbol) codabar(text string, o Options) error {
	const name, longest = "Codabar", 60
	data, begin, end := text, byte('A'), byte('A')
	is := func(c byte) bool { return c >= 'A' && c <= 'D' }
	offset := 0
	if len(text) > 1 && is(text[0]) && is(text[len(text)-1]) {
		data, begin, end, offset = text[1:len(text)-1], text[0], text[len(text)-1], 1
	}
	if data == "" {
		return wrong(0, "Codabar needs at least one character between its start and stop.")
	}
	position := offset
	for _, r := range data {
		if position++; r > 127 || strings.IndexByte(codabarLetters[:16], byte(r)) < 0 {
			return wrong(position, "%s (character %d) is not in Codabar; it takes digits and - $ : / . + "+
				"between A, B, C or D.", printableRune(r), position)
		}
	}
	data, err := withCheck(data, o, 1, func(body string) string { return codabarCheck(body, begin, end, o.CheckRule) })
	if err != nil {
		return err
	}
	if len(data) > longest {
		return wrong(0, "%d characters are too many for one Codabar; it takes up to %d.", len(data), longest)
	}
	s.Ratio, s.Text, s.Reads = o.ratio(), data, data
	all := string(begin) + data + string(end)
	for i := range len(all) {
		if i > 0 {
			s.Widths = append(s.Widths, 1)
		}
		s.twoWidths(codabarPatterns[strings.IndexByte(codabarLetters, all[i])], 7)
	}
	return nil
}

// codabarCheck returns the check character: modulo 16 over all characters, start and stop included (EN 798, annex A),
// or Luhn's over the digits, as libraries have it.
func codabarCheck(body string, begin, end byte, rule string) string {
	if rule == "luhn" {
		digits := strings.Map(func(r rune) rune {
			if r < '0' || r > '9' {
				return -1
			}
			return r
		}, body)
		return string(check.Luhn(digits))
	}
	sum := strings.IndexByte(codabarLetters, begin) + strings.IndexByte(codabarLetters, end)
	for i := range len(body) {
		sum += strings.IndexByte(codabarLetters, body[i])
	}
	value := (16 - sum%16) % 16
	return codabarLetters[value : value+1]
}
