// Package check works out check digits and check characters. Every rule is a row of one table, so
// that whoever needs a check character (a code, a GS1 key, a number series) finds it by name.
package check

import (
	"fmt"
	"slices"
	"strings"
)

// A Rule is a system of check characters.
type Rule struct {
	Name    string // as designs and the command line name it
	Words   string // what people call it
	Source  string // standard and clause
	Letters string // the characters that data may have, in the order of their values
	Length  int    // check characters

	of func(data string) string // data has only Letters
}

// The letters of the rules.
const (
	digits       = "0123456789"
	alphanumeric = digits + "ABCDEFGHIJKLMNOPQRSTUVWXYZ"

	// Code39Letters are those of Code 39 (ISO/IEC 16388, table A.1).
	Code39Letters = alphanumeric + "-. $/+%"

	// Set82 are GS1's own (GS1 General Specifications, figure 7.11-1).
	Set82 = "!\"%&'()*+,-./0123456789:;<=>?ABCDEFGHIJKLMNOPQRSTUVWXYZ_abcdefghijklmnopqrstuvwxyz"
)

// rules are all rules, the most used first.
var rules = []Rule{
	{"gs1", "GS1 check digit", "GS1 General Specifications, 7.9", digits, 1,
		func(s string) string { return string(GS1(s)) }},
	{"luhn", "Luhn, modulo 10", "ISO/IEC 7812-1, annex B", digits, 1, func(s string) string { return string(Luhn(s)) }},
	{"mod11", "modulo 11, weights 2 to 7", "the trade's own", digits, 1,
		func(s string) string { return string(Mod11(s, 7)) }},
	{"isbn10", "modulo 11, weights 2 to 10", "ISO 2108:1992, annex C", digits, 1,
		func(s string) string { return string(Mod11(s, 10)) }},
	{"mod43", "modulo 43 of Code 39", "ISO/IEC 16388, annex A", Code39Letters, 1,
		func(s string) string { return string(Mod43(s)) }},
	{"mod97-10", "MOD 97-10", "ISO/IEC 7064, 7", alphanumeric, 2, Mod97},
	{"mod11-10", "MOD 11,10", "ISO/IEC 7064, 8", digits, 1, func(s string) string { return string(Mod1110(s)) }},
	{"mod37-36", "MOD 37,36", "ISO/IEC 7064, 8", alphanumeric, 1, func(s string) string { return string(Mod3736(s)) }},
	{"mod37-2", "MOD 37-2", "ISO/IEC 7064, 7", alphanumeric, 1, func(s string) string { return string(Mod372(s)) }},
	{"s10", "modulo 11 of postal items", "UPU S10, 7.3", digits, 1, func(s string) string { return string(S10(s)) }},
	{"mod10-4-9", "modulo 10, weights 4 and 9", "the German post's own", digits, 1,
		func(s string) string { return string(FourNine(s)) }},
	{"gs1-model", "check characters of a Global Model Number", "GS1 General Specifications, 7.9.5", Set82, 2, Model},
}

// Rules returns all rules, the most used first.
func Rules() []Rule { return slices.Clone(rules) }

// Find returns the rule of a name.
func Find(name string) (Rule, bool) {
	i := slices.IndexFunc(rules, func(r Rule) bool { return r.Name == name })
	if i < 0 {
		return Rule{}, false
	}
	return rules[i], true
}

// A CharacterError says that data has a character that a rule has no value for.
type CharacterError struct {
	Rule      string // its words
	Character rune
	Column    int // in characters, from 1
}

func (e *CharacterError) Error() string {
	return fmt.Sprintf("“%c” (character %d) has no value in %s.", e.Character, e.Column, e.Rule)
}

// Of returns the check characters that complete data. Its error is always a *CharacterError.
func (r Rule) Of(data string) (string, error) {
	column := 0
	for _, c := range data {
		if column++; !strings.ContainsRune(r.Letters, c) {
			return "", &CharacterError{Rule: r.Words, Character: c, Column: column}
		}
	}
	return r.of(data), nil
}

// Holds tells whether text ends with its right check characters.
func (r Rule) Holds(text string) bool {
	if len(text) <= r.Length {
		return false
	}
	at := len(text) - r.Length
	want, err := r.Of(text[:at])
	return err == nil && want == text[at:]
}

// The functions below take data of the right characters only; callers look at it first, or ask a Rule.

// GS1 returns the check digit of all GS1 keys: weights 3 and 1 in turn from the right.
func GS1(digits string) byte {
	sum := 0
	for i := range len(digits) {
		sum += int(digits[i]-'0') * (1 + 2*((len(digits)-i)%2))
	}
	return '0' + byte(10-sum%10)%10
}

// HoldsGS1 tells whether digits end with their GS1 check digit.
func HoldsGS1(digits string) bool {
	last := len(digits) - 1
	return last >= 1 && GS1(digits[:last]) == digits[last]
}

// Luhn returns the digit for which every second digit from the right is doubled.
func Luhn(digits string) byte {
	sum := 0
	for i := range len(digits) {
		n := int(digits[len(digits)-1-i] - '0')
		if i%2 == 0 {
			if n *= 2; n > 9 {
				n -= 9
			}
		}
		sum += n
	}
	return '0' + byte(10-sum%10)%10
}

// Mod11 returns the check character with weights from 2 up to most, from the right, and again; 10 is X.
func Mod11(digits string, most int) byte {
	sum := 0
	for i := range len(digits) {
		sum += int(digits[len(digits)-1-i]-'0') * (2 + i%(most-1))
	}
	if rest := (11 - sum%11) % 11; rest < 10 {
		return '0' + byte(rest)
	}
	return 'X'
}

// Mod43 returns the check character of Code 39.
func Mod43(text string) byte {
	sum := 0
	for i := range len(text) {
		sum += strings.IndexByte(Code39Letters, text[i])
	}
	return Code39Letters[sum%43]
}

// Mod103 returns the value of the check character of Code 128 (ISO/IEC 15417, annex A) for the values
// of a symbol from its start character on.
func Mod103(values []uint8) uint8 {
	sum := 0
	for i, value := range values {
		sum += int(value) * max(i, 1)
	}
	return uint8(sum % 103)
}

// Mod97 returns the two digits of MOD 97-10: letters count as 10 to 35.
func Mod97(text string) string {
	n := 98 - Rest97(text)*100%97
	return string([]byte{'0' + byte(n/10), '0' + byte(n%10)})
}

// Rest97 returns what is left of digits and capitals, which count as 10 to 35, modulo 97; of a text
// with its check digits that is 1.
func Rest97(text string) int {
	rest := 0
	for i := range len(text) {
		v := strings.IndexByte(alphanumeric, text[i])
		if v > 9 {
			rest = (rest*100 + v) % 97
		} else {
			rest = (rest*10 + v) % 97
		}
	}
	return rest
}

// Mod1110 returns the check digit of MOD 11,10.
func Mod1110(data string) byte { return hybrid(data, digits) }

// Mod3736 returns the check character of MOD 37,36.
func Mod3736(text string) byte { return hybrid(text, alphanumeric) }

// hybrid is the hybrid system of ISO/IEC 7064, 8, of M+1 and M characters.
func hybrid(text, letters string) byte {
	m := len(letters)
	p := m
	for i := range len(text) {
		p += strings.IndexByte(letters, text[i])
		if p %= m; p == 0 {
			p = m
		}
		p = p * 2 % (m + 1)
	}
	return letters[(m+1-p)%m]
}

// Mod372 returns the check character of MOD 37-2; 36 is *.
func Mod372(text string) byte {
	rest := 0
	for i := range len(text) {
		rest = (rest + strings.IndexByte(alphanumeric, text[i])) * 2 % 37
	}
	return (alphanumeric + "*")[(38-rest)%37]
}

// modelPrimes weigh the characters of a Global Model Number from the right.
var modelPrimes = [...]int{2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31, 37, 41, 43, 47, 53, 59, 61, 67, 71, 73, 79, 83}

// Model returns the two check characters of a Global Model Number: each character by its value in
// Set82, weighted with primes from the right, modulo 1021. Characters beyond 23 have no weight.
func Model(text string) string {
	const modulus, base, letters = 1021, 32, "23456789ABCDEFGHJKLMNPQRSTUVWXYZ"
	sum := 0
	for i := range min(len(text), len(modelPrimes)) {
		sum += strings.IndexByte(Set82, text[len(text)-1-i]) * modelPrimes[i]
	}
	sum %= modulus
	return string([]byte{letters[sum/base], letters[sum%base]})
}

// FourNine returns the check digit of the German post's codes: weights 4 and 9 in turn from the left, modulo 10.
func FourNine(digits string) byte {
	sum := 0
	for i := range len(digits) {
		sum += int(digits[i]-'0') * (4 + 5*(i%2))
	}
	return '0' + byte(10-sum%10)%10
}

// PZN returns the check digit of a pharmacy product's number: weights from first on, one more for each digit, modulo
// 11. It is empty where that gives 10, which no number has.
func PZN(digits string, first int) string {
	sum := 0
	for i := range len(digits) {
		sum += int(digits[i]-'0') * (first + i)
	}
	if sum%11 == 10 {
		return ""
	}
	return string(rune('0' + sum%11))
}

// Code32 returns the check digit of Code 32: every second digit doubled, and its digits added, modulo 10.
func Code32(digits string) string {
	sum := 0
	for i := range len(digits) {
		n := int(digits[i]-'0') * (1 + i%2)
		sum += n/10 + n%10
	}
	return string(rune('0' + sum%10))
}

// S10 returns the check digit of the eight digits of a postal item (UPU S10, 7.3): weights 8 6 4 2 3 5 9 7 from the
// left, what is left to 11; of 10 it is 0, of 11 it is 5.
func S10(digits string) byte {
	weights, sum := [8]int{8, 6, 4, 2, 3, 5, 9, 7}, 0
	for i := range len(digits) {
		sum += int(digits[i]-'0') * weights[i%len(weights)]
	}
	switch n := 11 - sum%11; n {
	case 10:
		return '0'
	case 11:
		return '5'
	default:
		return '0' + byte(n)
	}
}
