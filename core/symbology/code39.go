package symbology

import (
	"strings"

	"oddspool/core/check"
	"oddspool/core/decode"
)

// Code39 is Code 39.
const Code39 ID = "code39"

var code39Kind = Kind{
	ID: Code39, Name: "Code 39",
	Standard: "ISO/IEC 16388", Identifier: "]A0",
	Holds:   "capitals, digits and - . $ / + % and space",
	Example: "BERTH 4",
	Most:    "80 characters, which are wide",
	Readers: anyScanner,
	Uses:    "old systems, badges, parts of vehicles",
	Quiet:   10, Least: 190,
	Options: []Option{checkCharacter, checkGiven, ratio},
	Denser:  DataMatrix,
	Encode:  (*Symbol).code39, Widths: decode.Code39,
}

// Code39Full is Code 39, full ASCII.
const Code39Full ID = "code39-full"

var code39FullKind = Kind{
	ID: Code39Full, Name: "Code 39, full ASCII",
	Standard: "ISO/IEC 16388, annex A", Identifier: "]A4",
	Holds:   "ASCII, small letters and most signs as pairs",
	Example: "Berth 4",
	Most:    "40 to 80 characters",
	Readers: "scanners that are told so",
	Uses:    "old systems that need small letters",
	Quiet:   10, Least: 190,
	Options: []Option{checkCharacter, checkGiven, ratio},
	Denser:  DataMatrix,
	Encode:  (*Symbol).code39Full, Widths: decode.Code39,
}

// Code 39 (ISO/IEC 16388): a character is five bars and four spaces, three of the nine wide, and a
// narrow space between characters. An asterisk begins and ends the symbol.
var code39Patterns = [...]int{
	0x034, 0x121, 0x061, 0x160, 0x031, 0x130, 0x070, 0x025, 0x124, 0x064,
	0x109, 0x049, 0x148, 0x019, 0x118, 0x058, 0x00D, 0x10C, 0x04C, 0x01C,
	0x103, 0x043, 0x142, 0x013, 0x112, 0x052, 0x007, 0x106, 0x046, 0x016,
	0x181, 0x0C1, 0x1C0, 0x091, 0x190, 0x0D0, 0x085, 0x184, 0x0C4, 0x0A8,
	0x0A2, 0x08A, 0x02A,
}

const (
	code39Star    = 0x094
	code39Longest = 80
)

func (s *Symbol) code39(text string, o Options) error {
	const name = "Code 39"
	if text == "" {
		return wrong(0, "Code 39 needs at least one character.")
	}
	position := 0
	for i, r := range text {
		position++
		if i >= len(text) || r > 127 || strings.IndexByte(check.Code39Letters, byte(r)) < 0 {
			return wrong(position, "%s (character %d) is not in Code 39; it takes capitals, digits and - . $ / "+
				"+ %% and space.", printableRune(r), position)
		}
	}
	return s.code39Raw(name, text, text, o)
}

// code39Raw encodes characters of Code 39 that stand for text.
func (s *Symbol) code39Raw(name, raw, text string, o Options) error {
	raw, err := withCheck(raw, o, 1, func(body string) string { return string(check.Mod43(body)) })
	if err != nil {
		return err
	}
	if len(raw) > code39Longest {
		return wrong(0, "%d characters are too many for one %s; it takes up to %d.", len(raw), name,
			code39Longest)
	}
	s.Ratio, s.Text, s.Reads = o.ratio(), printable(text), raw
	if o.Check {
		s.Text += raw[len(raw)-1:]
	}
	s.twoWidths(code39Star, 9)
	for i := range len(raw) {
		s.Widths = append(s.Widths, 1)
		s.twoWidths(code39Patterns[strings.IndexByte(check.Code39Letters, raw[i])], 9)
	}
	s.Widths = append(s.Widths, 1)
	s.twoWidths(code39Star, 9)
	return nil
}

// full writes a character of ASCII as one or two of Code 39 (ISO/IEC 16388, table A.2). Code 93 has
// the same pairs.
func full(c byte) (shift, letter byte) {
	switch {
	case c == 0:
		return '%', 'U'
	case c <= 26:
		return '$', 'A' + c - 1
	case c < 32:
		return '%', 'A' + c - 27
	case c == ' ', c == '-', c == '.', c >= '0' && c <= '9', c >= 'A' && c <= 'Z':
		return 0, c
	case c < '0':
		return '/', 'A' + c - '!'
	case c == ':':
		return '/', 'Z'
	case c < '@':
		return '%', 'F' + c - ';'
	case c == '@':
		return '%', 'V'
	case c < '`':
		return '%', 'K' + c - '['
	case c == '`':
		return '%', 'W'
	case c <= 'z':
		return '+', 'A' + c - 'a'
	}
	return '%', 'P' + c - '{'
}

func (s *Symbol) code39Full(text string, o Options) error {
	const name = "Code 39, full ASCII"
	if err := onlyASCII(name, text); err != nil {
		return err
	}
	var raw []byte
	for i := range len(text) {
		shift, letter := full(text[i])
		if shift != 0 {
			raw = append(raw, shift)
		}
		raw = append(raw, letter)
	}
	return s.code39Raw(name, string(raw), text, o)
}
