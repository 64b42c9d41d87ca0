package symbology

import (
	"strconv"
	"strings"

	"oddspool/core/check"
	"oddspool/core/decode"
)

// PZN is Pharmazentralnummer.
const PZN ID = "pzn"

var pznKind = Kind{
	ID: PZN, Name: "PZN",
	Standard: "IFA coding system, PZN in Code 39", Identifier: "]A0",
	Holds:   "a pharmacy product's number of 8 digits, or of 7 of old",
	Example: "27580899",
	Most:    "8 digits",
	Readers: anyScanner,
	Uses:    "medicines in Germany",
	Quiet:   10, Least: 250, Trade: true,
	Options: []Option{versions("8", "7"), ratio},
	Encode:  (*Symbol).pzn, Widths: decode.Code39,
}

// Code32 is Code 32.
const Code32 ID = "code32"

var code32Kind = Kind{
	ID: Code32, Name: "Code 32",
	Standard: "Italian pharmacy code", Identifier: "]A0",
	Holds:   "a medicine's number of 8 digits and its check digit",
	Example: "012345676",
	Most:    "9 digits",
	Readers: "scanners that are told so; others say six letters and digits",
	Uses:    "medicines in Italy",
	Quiet:   10, Least: 250, Trade: true,
	Options: []Option{ratio},
	Encode:  (*Symbol).code32, Widths: decode.Code39,
}

// pzn writes a hyphen and the digits in Code 39. Version 7 is the older one of 7 digits.
func (s *Symbol) pzn(text string, o Options) error {
	const name = "PZN"
	length, first := 8, 1
	if o.Version == "7" {
		length, first = 7, 2
	}
	digits := strings.TrimPrefix(text, "-")
	if err := onlyDigits(name, digits); err != nil {
		return err
	}
	if len(digits) != length && len(digits) != length-1 {
		return wrong(0, "PZN takes %d digits, or %d without the check digit, and these are %d.", length, length-1,
			len(digits))
	}
	body := digits[:length-1]
	want := check.PZN(body, first)
	if want == "" {
		return wrong(0, "%s is no PZN: its check digit would be 10, and such numbers are not given.", body)
	}
	if given := digits[length-1:]; given != "" && given != want {
		return wrong(len(text), "The check digit of %s is %s, not %s.", body, want, given)
	}
	digits = body + want
	if err := s.code39Raw(name, "-"+digits, digits, Options{Ratio: o.Ratio}); err != nil {
		return err
	}
	s.Text = "PZN - " + digits
	return nil
}

// code32Letters are the digits of base 32: no vowels.
const code32Letters = "0123456789BCDFGHJKLMNPQRSTUVWXYZ"

// code32 writes the nine digits to base 32 in six characters of Code 39.
func (s *Symbol) code32(text string, o Options) error {
	const name, body, most = "Code 32", 8, 6
	text = strings.TrimPrefix(text, "A")
	if err := onlyDigits(name, text); err != nil {
		return err
	}
	digits := text
	switch len(text) {
	case body:
		digits += check.Code32(text)
	case body + 1:
		if want := check.Code32(text[:body]); text[body:] != want {
			return wrong(body+1, "The check digit of %s is %s, not %s.", text[:body], want, text[body:])
		}
	default:
		return wrong(0, "Code 32 takes 8 digits, or 9 with the check digit, and these are %d.", len(text))
	}
	n, err := strconv.Atoi(digits)
	if err != nil {
		return wrong(0, "%s is no number.", digits)
	}
	var letters [most]byte
	for i := most - 1; i >= 0; i-- {
		letters[i], n = code32Letters[n%32], n/32
	}
	if err := s.code39Raw(name, string(letters[:]), digits, o); err != nil {
		return err
	}
	s.Text = "A" + digits
	return nil
}
