package symbology

import (
	"cmp"

	"oddspool/core/check"
	"oddspool/core/decode"
)

// MSI is MSI.
const MSI ID = "msi"

var msiKind = Kind{
	ID: MSI, Name: "MSI",
	Standard: "the shelf-label trade's own", Identifier: "]M0",
	Holds:   "digits",
	Example: "260104",
	Most:    "60 digits",
	Readers: "few scanners unless told so",
	Uses:    "shelves in shops",
	Quiet:   12, Least: 190,
	Options: []Option{checkCharacter, ratio},
	Encode:  (*Symbol).msi, Widths: decode.MSI,
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
		return wrong(0, "%d digits are too many for one MSI; it takes up to %d.", len(text), longest)
	}
	s.Ratio, s.Text, s.Reads = cmp.Or(o.Ratio, 2), text, text
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
