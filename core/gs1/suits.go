package gs1

import (
	"slices"
	"strings"
	"unicode"

	"oddspool/core/check"
)

// suiting are words that fields are called by, and the identifier of what they hold. Whole words count; the first that
// a name has decides.
var suiting = []struct{ word, ai string }{
	{"sscc", "00"}, {"gtin", "01"}, {"ean", "01"}, {"upc", "01"}, {"gln", "414"}, {"grai", "8003"}, {"giai", "8004"},
	{"serial", "21"}, {"sn", "21"},
	{"batch", "10"}, {"lot", "10"},
	{"expiry", "17"}, {"expires", "17"}, {"expiration", "17"}, {"exp", "17"}, {"use-by", "17"},
	{"best-before", "15"}, {"best", "15"}, {"bbd", "15"},
	{"packed", "13"}, {"packaging", "13"}, {"produced", "11"}, {"production", "11"}, {"made", "11"},
	{"count", "37"}, {"quantity", "37"}, {"qty", "37"}, {"pieces", "37"},
	{"net", "3103"}, {"weight", "3103"}, {"kg", "3103"},
	{"order", "400"}, {"consignment", "401"}, {"shipment", "402"}, {"route", "403"},
	{"item", "01"}, {"article", "01"},
}

// Suiting returns the identifier that a field holds the value of, as far as its name and a value of it tell; nil: they
// do not. A value that has the check digit of an SSCC or a GTIN and as many digits is one.
func Suiting(name, value string) *AI {
	digits := strings.TrimSpace(value)
	for id, lengths := range map[string][]int{"00": {18}, "01": {13, 14}} {
		n := len(digits) - 1
		if slices.Contains(lengths, n+1) && allDigits(digits) && check.GS1(digits[:n]) == digits[n] {
			return Find(id)
		}
	}
	words := strings.FieldsFunc(strings.ToLower(name), func(r rune) bool { return !unicode.IsLetter(r) && r != '-' })
	for _, s := range suiting {
		for _, word := range words {
			if word == s.word {
				return Find(s.ai)
			}
		}
	}
	return nil
}
