package symbology

import (
	"fmt"

	"oddspool/core/check"
	"oddspool/core/decode"
)

// Identcode is Identcode.
const Identcode ID = "identcode"

var identcodeKind = Kind{
	ID: Identcode, Name: "Identcode",
	Standard: "the German post's own", Identifier: "]I0",
	Holds:   "a parcel's number of 11 digits and its check digit",
	Example: "563102430313",
	Most:    "12 digits",
	Readers: anyScanner,
	Uses:    "parcels in Germany: which one it is",
	Quiet:   10, Least: 300, Trade: true,
	Options: []Option{ratio},
	Encode:  (*Symbol).identcode, Widths: decode.Interleaved,
}

// Leitcode is Leitcode.
const Leitcode ID = "leitcode"

var leitcodeKind = Kind{
	ID: Leitcode, Name: "Leitcode",
	Standard: "the German post's own", Identifier: "]I0",
	Holds:   "postcode, street, house and product in 13 digits, and their check digit",
	Example: "21348075016401",
	Most:    "14 digits",
	Readers: anyScanner,
	Uses:    "parcels in Germany: where it goes",
	Quiet:   10, Least: 300, Trade: true,
	Options: []Option{ratio},
	Encode:  (*Symbol).leitcode, Widths: decode.Interleaved,
}

func (s *Symbol) identcode(text string, o Options) error {
	digits, err := s.mailcode("Identcode", text, 12, o)
	if err == nil {
		s.Text = fmt.Sprintf("%s.%s %s.%s %s", digits[:2], digits[2:5], digits[5:8], digits[8:11], digits[11:])
	}
	return err
}

func (s *Symbol) leitcode(text string, o Options) error {
	digits, err := s.mailcode("Leitcode", text, 14, o)
	if err == nil {
		s.Text = fmt.Sprintf("%s.%s.%s.%s %s", digits[:5], digits[5:8], digits[8:11], digits[11:13], digits[13:])
	}
	return err
}

// mailcode makes Interleaved 2 of 5 of so many digits, of which the last is a check digit of weights 4 and 9.
func (s *Symbol) mailcode(name, text string, length int, o Options) (digits string, err error) {
	if err := onlyDigits(name, text); err != nil {
		return "", err
	}
	body := text[:min(length-1, len(text))]
	digits = body + string(check.FourNine(body))
	switch {
	case len(text) < length-1 || len(text) > length:
		return "", wrong(0, "%s takes %d digits, or %d with the check digit, and these are %d.", name, length-1, length,
			len(text))
	case len(text) == length && text != digits:
		return "", wrong(length, "The check digit of %s is %s, not %s.", body, digits[length-1:], text[length-1:])
	}
	return digits, s.interleaved(digits, o)
}
