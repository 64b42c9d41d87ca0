package symbologytest_test

import (
	"fmt"
	"testing"

	"oddspool/core/decode"
	"oddspool/core/symbology"
	"oddspool/internal/symbologytest"
)

// A symbology that no list knows: each digit is a bar of so many modules and one more, and a space of one.
var tally = symbology.Kind{
	ID: "tally", Name: "Tally", Standard: "this test", Identifier: "]X9",
	Holds: "digits", Most: "40 digits", Readers: "this test", Uses: "showing that a symbology needs its own file alone",
	Example: "26104", Quiet: 4, Least: 250,
	Encode: func(s *symbology.Symbol, text string, _ symbology.Options) error {
		if len(text) == 0 || len(text) > 40 {
			return &symbology.DataError{Reason: "Tally takes 1 to 40 digits."}
		}
		for i, r := range []rune(text) {
			if r < '0' || r > '9' {
				return &symbology.DataError{Position: i + 1, Reason: fmt.Sprintf("“%c” is no digit.", r)}
			}
			if i > 0 {
				s.Widths = append(s.Widths, 1)
			}
			s.Widths = append(s.Widths, uint8(r-'0')+1)
		}
		s.Text, s.Reads = text, text
		return nil
	},
	Widths: func(widths []int) (message decode.Message, err error) {
		for i := 0; i < len(widths); i += 2 {
			message.Text += string(rune('0' + widths[i] - 1))
		}
		return message, nil
	},
}

func TestASymbologyOfItsOwnKeepsTheRules(t *testing.T) { symbologytest.Run(t, &tally, "0", "99") }
