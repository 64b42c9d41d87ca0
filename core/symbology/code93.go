package symbology

import (
	"slices"
	"strings"

	"oddspool/core/check"
	"oddspool/core/decode"
)

// Code93 is Code 93.
const Code93 ID = "code93"

var code93Kind = Kind{
	ID: Code93, Name: "Code 93",
	Standard: "AIM USS-93", Identifier: "]G0",
	Holds:   "ASCII; capitals and digits are short",
	Example: "Kelp 104",
	Most:    "80 characters",
	Readers: "most scanners",
	Uses:    "where Code 39 is too wide",
	Quiet:   10, Least: 190,
	Denser: DataMatrix,
	Encode: (*Symbol).code93, Widths: decode.Code93,
}

// Code 93 (AIM USS-93): a character is three bars and three spaces in nine modules; two check
// characters always follow the data. Four shift characters write the rest of ASCII, as in Code 39.
const code93Letters = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ-. $/+%abcd*" // a to d: ($) (%) (/) (+)

var code93Patterns = [...]int{
	0x114, 0x148, 0x144, 0x142, 0x128, 0x124, 0x122, 0x150, 0x112, 0x10A,
	0x1A8, 0x1A4, 0x1A2, 0x194, 0x192, 0x18A, 0x168, 0x164, 0x162, 0x134,
	0x11A, 0x158, 0x14C, 0x146, 0x12C, 0x116, 0x1B4, 0x1B2, 0x1AC, 0x1A6,
	0x196, 0x19A, 0x16C, 0x166, 0x136, 0x13A, 0x12E, 0x1D4, 0x1D2, 0x1CA,
	0x16E, 0x176, 0x1AE, 0x126, 0x1DA, 0x1D6, 0x132, 0x15E,
}

func (s *Symbol) code93(text string, _ Options) error {
	const name, longest = "Code 93", 80
	if err := onlyASCII(name, text); err != nil {
		return err
	}
	var raw []byte
	for i := range len(text) {
		c := text[i]
		if strings.IndexByte(check.Code39Letters, c) >= 0 { // signs of its own need no shift here
			raw = append(raw, c)
			continue
		}
		shift, letter := full(c)
		raw = append(raw, "abcd"[strings.IndexByte("$%/+", shift)], letter)
	}
	if len(raw) > longest {
		return wrong(0, "%d characters are too many for one Code 93; it takes up to %d.", len(raw), longest)
	}
	raw = append(raw, code93Check(raw, 20))
	raw = append(raw, code93Check(raw, 15))
	s.Text, s.Reads = printable(text), text
	star := []byte{'*'}
	for _, c := range slices.Concat(star, raw, star) {
		s.bits(code93Patterns[strings.IndexByte(code93Letters, c)], 9)
	}
	s.Widths = append(s.Widths, 1) // the bar that ends the symbol
	return nil
}

func code93Check(raw []byte, most int) byte {
	sum := 0
	for i := range raw {
		sum += strings.IndexByte(code93Letters, raw[len(raw)-1-i]) * (1 + i%most)
	}
	return code93Letters[sum%47]
}
