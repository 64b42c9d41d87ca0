package symbology

import (
	"math/bits"
	"strconv"
	"strings"

	"oddspool/core/decode"
)

// Telepen is Telepen.
const Telepen ID = "telepen"

var telepenKind = Kind{
	ID: Telepen, Name: "Telepen",
	Standard: "AIM USS-Telepen", Identifier: "]B0",
	Holds:   "ASCII",
	Example: "Berth 4",
	Most:    "80 characters",
	Readers: "scanners that are told so",
	Uses:    "libraries in Britain",
	Quiet:   10, Least: 190,
	Denser: DataMatrix,
	Encode: (*Symbol).telepen, Widths: decode.Telepen,
}

// TelepenNumeric is Telepen numeric.
const TelepenNumeric ID = "telepen-numeric"

var telepenNumericKind = Kind{
	ID: TelepenNumeric, Name: "Telepen numeric",
	Standard: "AIM USS-Telepen", Identifier: "]B1",
	Holds:   "digits, in pairs; the second of a pair may be X",
	Example: "26010X",
	Most:    "160 digits",
	Readers: "scanners that are told so",
	Uses:    "libraries in Britain: tickets and books",
	Quiet:   10, Least: 190,
	Denser: DataMatrix,
	Encode: (*Symbol).telepenNumeric, Widths: decode.TelepenNumeric,
}

const telepenLongest = 80

func (s *Symbol) telepen(text string, _ Options) error {
	const name = "Telepen"
	if err := onlyASCII(name, text); err != nil {
		return err
	}
	s.Text, s.Reads = printable(text), text
	return s.telepenBytes(name, []byte(text))
}

// telepenNumeric writes each pair of digits as the character 27 places behind it, and a digit with X as one of the ten
// before those.
func (s *Symbol) telepenNumeric(text string, _ Options) error {
	const name, digitX, pair = "Telepen numeric", 17, 27
	if len(text)%2 == 1 {
		return wrong(0, "Telepen numeric takes pairs, and these are %d characters: put a 0 before them.", len(text))
	}
	var data []byte
	for i := 0; i+1 < len(text); i += 2 {
		if text[i+1] == 'X' && isDigit(text[i]) {
			data = append(data, digitX+text[i]-'0')
			continue
		}
		if err := onlyDigits(name, text[i:i+2]); err != nil {
			return wrong(0, "“%s” is no pair of digits, nor a digit and X.", strings.ToValidUTF8(text[i:i+2], "?"))
		}
		data = append(data, pair+byte(number(text[i:i+2])))
	}
	s.Text, s.Reads = text, text
	return s.telepenBytes(name, data)
}

// telepenBytes writes a start, the data, a check character modulo 127 and a stop.
func (s *Symbol) telepenBytes(name string, data []byte) error {
	const start, stop, modulus = '_', 'z', 127
	if len(data) == 0 {
		return wrong(0, "%s needs at least one character.", name)
	}
	if len(data) > telepenLongest {
		return wrong(0, "%d characters are too many for one %s; it takes up to %d.", len(data), name, telepenLongest)
	}
	sum := 0
	s.telepenCharacter(start)
	for _, c := range data {
		s.telepenCharacter(c)
		sum += int(c)
	}
	s.telepenCharacter(byte((modulus - sum%modulus) % modulus))
	s.telepenCharacter(stop)
	s.Widths = s.Widths[:len(s.Widths)-1] // no space behind the last bar
	return nil
}

// telepenCharacter writes the bits of a character, the lowest first, and a bit that makes their number even: 1 is a
// narrow bar and a narrow space, 00 a wide bar and a narrow space, 010 a wide bar and a wide space; 01 and 10 round
// further 1s are a narrow bar and a wide space each.
func (s *Symbol) telepenCharacter(c byte) {
	bit := strconv.FormatUint(uint64(bits.Reverse8(c|byte(bits.OnesCount8(c)%2)<<7)), 2)
	bit = strings.Repeat("0", 8-len(bit)) + bit
	inside := false
	for len(bit) > 0 {
		switch {
		case inside && strings.HasPrefix(bit, "10"):
			s.Widths, bit, inside = append(s.Widths, 1, 3), bit[2:], false
		case bit[0] == '1':
			s.Widths, bit = append(s.Widths, 1, 1), bit[1:]
		case strings.HasPrefix(bit, "00"):
			s.Widths, bit = append(s.Widths, 3, 1), bit[2:]
		case strings.HasPrefix(bit, "010"):
			s.Widths, bit = append(s.Widths, 3, 3), bit[3:]
		default: // 01 and further 1s
			s.Widths, bit, inside = append(s.Widths, 1, 3), bit[2:], true
		}
	}
}
