package symbology

import (
	"cmp"
	"strings"

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
	Quiet:   12, Least: 190, Unchecked: true,
	Options: []Option{checkCharacter, checkGiven, checkRules("modulo 10", Choice{"mod10-mod10", "modulo 10, twice"},
		Choice{"mod11", "modulo 11"}, Choice{"mod11-mod10", "modulo 11, then 10"}), ratio},
	Encode: (*Symbol).msi, Widths: decode.MSI,
}

// MSI: each digit is four bits, a bit a wide bar and a narrow space for 1, and the other way round
// for 0. Its check digit is Luhn's.
func (s *Symbol) msi(text string, o Options) error {
	const name, longest = "MSI", 60
	if err := onlyDigits(name, text); err != nil {
		return err
	}
	length := 1
	if strings.HasSuffix(o.CheckRule, "-mod10") {
		length = 2
	}
	text, err := withCheck(text, o, length, func(body string) string { return msiCheck(body, o.CheckRule) })
	if err != nil {
		return err
	}
	if strings.Contains(text, "X") {
		return wrong(0, "The check digit of %s would be 10, which MSI cannot write.", strings.TrimRight(text, "X"))
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

// msiCheck returns the check digits of a rule: Luhn's; Luhn's twice; modulo 11 with weights 2 to 7; or that and Luhn's.
func msiCheck(body, rule string) string {
	first := string(check.Luhn(body))
	if strings.HasPrefix(rule, "mod11") {
		first = string(check.Mod11(body, 7))
	}
	if strings.HasSuffix(rule, "-mod10") && first != "X" {
		return first + string(check.Luhn(body+first))
	}
	return first
}
