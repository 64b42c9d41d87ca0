package symbology

import (
	"slices"
	"strconv"
	"strings"

	"oddspool/core/check"
)

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
		return wrong(name, 0, "%d characters are too many for one Code 93; it takes up to %d.", len(raw), longest)
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

// bits appends the runs of a pattern of n modules that begins with a bar and ends with a space.
func (s *Symbol) bits(pattern, n int) {
	run := uint8(0)
	for i := n - 1; i >= 0; i-- {
		run++
		if i == 0 || pattern>>i&1 != pattern>>(i-1)&1 {
			s.Widths = append(s.Widths, run)
			run = 0
		}
	}
}

// Pharmacode (Laetus): a number from 3 to 131070 in bars of one or three modules, two apart; read
// from the right, a narrow bar adds 2^n and a wide one twice that.
func (s *Symbol) pharmacode(text string, _ Options) error {
	const name = "Pharmacode"
	if err := onlyDigits(name, text); err != nil {
		return err
	}
	n, err := strconv.Atoi(text)
	if err != nil || n < 3 || n > 131_070 {
		return wrong(name, 0, "Pharmacode takes a number from 3 to 131070, and this is %s.", text)
	}
	var bars []uint8
	for rest := n; rest > 0; {
		if rest%2 == 1 {
			bars, rest = append(bars, 1), (rest-1)/2
		} else {
			bars, rest = append(bars, 3), (rest-2)/2
		}
	}
	slices.Reverse(bars)
	for i, bar := range bars {
		if i > 0 {
			s.Widths = append(s.Widths, 2)
		}
		s.Widths = append(s.Widths, bar)
	}
	s.Text = strconv.Itoa(n)
	s.Reads = s.Text
	return nil
}
