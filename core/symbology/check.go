package symbology

import "strings"

// Check digits and characters. Each function takes the data without its check and returns it; data
// that has other characters gives a meaningless one, so callers look at the data first.

// Mod10 returns the GS1 check digit (GS1 General Specifications, 7.9): weights 3 and 1 from the right.
// It is that of GTIN-8, 12, 13 and 14, SSCC, GLN, GSRN and all other GS1 keys.
func Mod10(digits string) byte {
	sum := 0
	for i := range len(digits) {
		n := int(digits[len(digits)-1-i] - '0')
		if i%2 == 0 {
			n *= 3
		}
		sum += n
	}
	return '0' + byte((10-sum%10)%10)
}

// Luhn returns the check digit of ISO/IEC 7812-1, annex B: every second digit from the right doubled.
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
	return '0' + byte((10-sum%10)%10)
}

// Mod11 returns the check character with weights from 2 up to the given most, from the right, and
// again; 10 is X, as in ISBN-10 (ISO 2108:1992), whose weights go up to 10.
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

// code39Letters are the characters of Code 39 in the order of their values (ISO/IEC 16388, table A.1).
const code39Letters = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ-. $/+%"

// Mod43 returns the check character of Code 39 (ISO/IEC 16388, annex A).
func Mod43(text string) byte {
	sum := 0
	for i := range len(text) {
		sum += max(strings.IndexByte(code39Letters, text[i]), 0)
	}
	return code39Letters[sum%43]
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

// alphanumeric is the character set of ISO/IEC 7064 with values 0 to 35.
const alphanumeric = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ"

// Mod97 returns the two check digits of MOD 97-10 (ISO/IEC 7064, 7): letters count as 10 to 35.
func Mod97(text string) string {
	rest := 0
	for i := range len(text) {
		v := max(strings.IndexByte(alphanumeric, text[i]), 0)
		if v > 9 {
			rest = (rest*100 + v) % 97
		} else {
			rest = (rest*10 + v) % 97
		}
	}
	n := 98 - rest*100%97
	return string([]byte{'0' + byte(n/10), '0' + byte(n%10)})
}

// Mod1110 returns the check digit of MOD 11,10 (ISO/IEC 7064, 8).
func Mod1110(digits string) byte { return hybrid(digits, alphanumeric[:10]) }

// Mod3736 returns the check character of MOD 37,36 (ISO/IEC 7064, 8).
func Mod3736(text string) byte { return hybrid(text, alphanumeric) }

// hybrid is the hybrid system of ISO/IEC 7064, 8, of M+1 and M characters.
func hybrid(text, letters string) byte {
	m := len(letters)
	p := m
	for i := range len(text) {
		p += max(strings.IndexByte(letters, text[i]), 0)
		if p %= m; p == 0 {
			p = m
		}
		p = p * 2 % (m + 1)
	}
	return letters[(m+1-p)%m]
}

// Mod372 returns the check character of MOD 37-2 (ISO/IEC 7064, 7); 36 is *.
func Mod372(text string) byte {
	rest := 0
	for i := range len(text) {
		rest = (rest + max(strings.IndexByte(alphanumeric, text[i]), 0)) * 2 % 37
	}
	return (alphanumeric + "*")[(38-rest)%37]
}

// ModelCheck returns the two check characters of a Global Model Number: each character by its value in
// set 82, weighted with primes from the right, modulo 1021 (GS1 General Specifications, 7.9.5).
func ModelCheck(text string) string {
	const modulus, base, letters = 1021, 32, "23456789ABCDEFGHJKLMNPQRSTUVWXYZ"
	primes := [...]int{2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31, 37, 41, 43, 47, 53, 59, 61, 67, 71, 73, 79, 83}
	sum := 0
	for i := range min(len(text), len(primes)) {
		sum += strings.IndexByte(set82, text[len(text)-1-i]) * primes[i]
	}
	sum %= modulus
	return string([]byte{letters[sum/base], letters[sum%base]})
}
