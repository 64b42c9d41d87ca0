package symbology

import (
	"fmt"
	"strings"

	"oddspool/core/check"
)

// twoWidths appends elements of which each set bit of a pattern is wide, its highest of n bits first.
func (s *Symbol) twoWidths(pattern, n int) {
	for i := n - 1; i >= 0; i-- {
		s.Widths = append(s.Widths, uint8(1+pattern>>i&1))
	}
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
		return wrong(name, 0, "Code 39 needs at least one character.")
	}
	position := 0
	for i, r := range text {
		position++
		if i >= len(text) || r > 127 || strings.IndexByte(check.Code39Letters, byte(r)) < 0 {
			return wrong(name, position, "%s (character %d) is not in Code 39; it takes capitals, digits and - . $ / "+
				"+ %% and space.", printableRune(r), position)
		}
	}
	return s.code39Raw(name, text, text, o)
}

// code39Raw encodes characters of Code 39 that stand for text.
func (s *Symbol) code39Raw(name, raw, text string, o Options) error {
	if o.Check {
		raw += string(check.Mod43(raw))
	}
	if len(raw) > code39Longest {
		return wrong(name, 0, "%d characters are too many for one %s; it takes up to %d.", len(raw), name,
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

// onlyASCII refuses what is no ASCII, or nothing.
func onlyASCII(name, text string) error {
	if text == "" {
		return wrong(name, 0, "%s needs at least one character.", name)
	}
	position := 0
	for _, r := range text {
		if position++; r > 127 {
			return wrong(name, position, "%s (character %d) is not in %s; it takes ASCII letters, digits and signs.",
				printableRune(r), position, name)
		}
	}
	return nil
}

// printableRune writes a character for people.
func printableRune(r rune) string {
	switch {
	case r == '\uFFFD':
		return "What is no valid text"
	case r < 32 || r == 127:
		return fmt.Sprintf("The control character U+%04X", r)
	}
	return fmt.Sprintf("“%c”", r)
}

// onlyDigits refuses what has no digits, or something else.
func onlyDigits(name, text string) error {
	if text == "" {
		return wrong(name, 0, "%s needs at least one digit.", name)
	}
	position := 0
	for _, r := range text {
		if position++; r < '0' || r > '9' {
			return wrong(name, position, "%s (character %d) is not in %s; it takes digits.", printableRune(r), position,
				name)
		}
	}
	return nil
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
		return wrong(name, 0, "Codabar needs at least one character between its start and stop.")
	}
	position := offset
	for _, r := range data {
		if position++; r > 127 || strings.IndexByte(codabarLetters[:16], byte(r)) < 0 {
			return wrong(name, position, "%s (character %d) is not in Codabar; it takes digits and - $ : / . + "+
				"between A, B, C or D.", printableRune(r), position)
		}
	}
	if o.Check { // EN 798, annex A: modulo 16 over all characters, start and stop included
		sum := strings.IndexByte(codabarLetters, begin) + strings.IndexByte(codabarLetters, end)
		for i := range len(data) {
			sum += strings.IndexByte(codabarLetters, data[i])
		}
		value := (16 - sum%16) % 16
		data += codabarLetters[value : value+1]
	}
	if len(data) > longest {
		return wrong(name, 0, "%d characters are too many for one Codabar; it takes up to %d.", len(data), longest)
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

// Interleaved 2 of 5 (ISO/IEC 16390): the first digit of a pair is in five bars, the second in the
// spaces between them; two of five are wide.
var interleavedPatterns = [10]int{0b00110, 0b10001, 0b01001, 0b11000, 0b00101, 0b10100, 0b01100, 0b00011, 0b10010,
	0b01010}

func (s *Symbol) interleaved(text string, o Options) error {
	const name, longest = "Interleaved 2 of 5", 80
	if err := onlyDigits(name, text); err != nil {
		return err
	}
	if o.Check {
		text += string(check.GS1(text))
	}
	if len(text)%2 == 1 {
		return wrong(name, 0, "Interleaved 2 of 5 takes an even number of digits, and these are %d: put a 0 before "+
			"them, or add a check digit.", len(text))
	}
	if len(text) > longest {
		return wrong(name, 0, "%d digits are too many for one Interleaved 2 of 5; it takes up to %d.", len(text),
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
	o.Check = false
	if err := s.interleaved(digits, o); err != nil {
		return err
	}
	s.Text = digits[:1] + " " + digits[1:3] + " " + digits[3:8] + " " + digits[8:13] + " " + digits[13:]
	return nil
}

// Code 11 (AIM USD-8): a character is three bars and two spaces; one or two check characters follow.
const code11Letters = "0123456789-"

var code11Patterns = [...]int{0b00001, 0b10001, 0b01001, 0b11000, 0b00101, 0b10100, 0b01100, 0b00011, 0b10010, 0b10000,
	0b00100}

func (s *Symbol) code11(text string, o Options) error {
	const name, longest, startStop = "Code 11", 80, 0b00110
	if text == "" {
		return wrong(name, 0, "Code 11 needs at least one character.")
	}
	position := 0
	for _, r := range text {
		if position++; r > 127 || strings.IndexByte(code11Letters, byte(r)) < 0 {
			return wrong(name, position, "%s (character %d) is not in Code 11; it takes digits and -.",
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
		return wrong(name, 0, "%d characters are too many for one Code 11; it takes up to %d.", len(text), longest)
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

// MSI: each digit is four bits, a bit a wide bar and a narrow space for 1, and the other way round
// for 0. Its check digit is Luhn's.
func (s *Symbol) msi(text string, o Options) error {
	const name, longest = "MSI", 60
	if err := onlyDigits(name, text); err != nil {
		return err
	}
	if o.Check {
		text += string(check.Luhn(text))
	}
	if len(text) > longest {
		return wrong(name, 0, "%d digits are too many for one MSI; it takes up to %d.", len(text), longest)
	}
	s.Ratio, s.Text, s.Reads = 2, text, text
	s.Widths = append(s.Widths, 2, 1)
	for i := range len(text) {
		for bit := 3; bit >= 0; bit-- {
			if (text[i]-'0')>>bit&1 == 1 {
				s.Widths = append(s.Widths, 2, 1)
			} else {
				s.Widths = append(s.Widths, 1, 2)
			}
		}
	}
	s.Widths = append(s.Widths, 1, 2, 1)
	return nil
}
