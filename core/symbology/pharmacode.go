package symbology

import (
	"slices"
	"strconv"

	"oddspool/core/decode"
)

// Pharmacode is Pharmacode.
const Pharmacode ID = "pharmacode"

var pharmacodeKind = Kind{
	ID: Pharmacode, Name: "Pharmacode",
	Standard: "the packaging trade's own", Identifier: "]X0",
	Holds:   "a number from 3 to 131070",
	Example: "26104",
	Most:    "one number",
	Readers: "scanners on packing lines",
	Uses:    "checking that the right leaflet or box is packed",
	Quiet:   12, Least: 500, Unchecked: true,
	Encode: (*Symbol).pharmacode, Widths: decode.Pharmacode,
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
		return wrong(0, "Pharmacode takes a number from 3 to 131070, and this is %s.", text)
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
