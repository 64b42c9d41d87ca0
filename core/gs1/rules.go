package gs1

import (
	"fmt"
	"strings"

	"oddspool/core/check"
)

// The character sets of values (GS1 General Specifications, 7.11).
const (
	set82 = check.Set82
	set39 = "#-/0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ"
)

// A rule is one of the rules that the syntax dictionary names for components.
type rule struct {
	name    string
	also    string                    // what it adds to a component's format in words
	instead string                    // or says in its place
	check   func(value string) string // what is wrong; empty: nothing
}

// rules has one rule of the dictionary a row.
var rules = []rule{
	{"csum", ", the last a check digit", "", checkDigit},
	{"csumalpha", ", the last two check characters", "", modelCheck},
	{"gcppos1", "", "", func(v string) string { return companyPrefix(v, 0) }},
	{"gcppos2", "", "", func(v string) string { return companyPrefix(v, 1) }},
	{"yymmd0", "", "a date, YYMMDD, whose day may be 00", func(v string) string { return date(v, true) }},
	{"yymmdd", "", "a date, YYMMDD", func(v string) string { return date(v, false) }},
	{"yyyymmdd", "", "a date, YYYYMMDD", func(v string) string { return date(v, false) }},
	{"hhmi", "", "a time, hours and minutes",
		func(v string) string { return first(upTo(v[:2], 23, "hour"), upTo(v[2:], 59, "minute")) }},
	{"hh", "", "the hour", func(v string) string { return upTo(v, 23, "hour") }},
	{"mi", "", "the minute", func(v string) string { return upTo(v, 59, "minute") }},
	{"ss", "", "the second", func(v string) string { return upTo(v, 59, "second") }},
	{"iso3166", "", "a country, as three digits",
		func(v string) string { return oneOf(v, countries, "no country's number (ISO 3166-1)") }},
	{"iso3166999", "", "a country, as three digits, or 999", func(v string) string {
		return oneOf(v, countries+" 999", "neither a country's number (ISO 3166-1) nor 999")
	}},
	{"iso3166alpha2", "", "a country, as two letters",
		func(v string) string { return oneOf(v, countryLetters, "no country's two letters (ISO 3166-1)") }},
	{"iso4217", "", "a currency, as three digits",
		func(v string) string { return oneOf(v, currencies, "no currency's number (ISO 4217)") }},
	{"iso5218", "", "0, 1, 2 or 9",
		func(v string) string { return oneOf(v, "0 1 2 9", "none of 0, 1, 2 and 9 (ISO/IEC 5218)") }},
	{"iban", ", an IBAN", "", iban},
	{"yesno", "", "0 for no or 1 for yes",
		func(v string) string { return oneOf(v, "0 1", "neither 0 for no nor 1 for yes") }},
	{"zero", "", "a 0", func(v string) string { return oneOf(v, "0", "not the 0 that this begins with") }},
	{"nonzero", "", "", nonZero},
	{"nozeroprefix", ", without zeros before them", "", func(v string) string {
		return unless(len(v) == 1 || v[0] != '0', "%s begins with 0, and no zeros may stand before it.", v)
	}},
	{"hasnondigit", "", "", func(v string) string {
		return unless(strings.ContainsFunc(v, func(r rune) bool { return r < '0' || r > '9' }),
			"%s has only digits, and at least one other character is needed.", v)
	}},
	{"hyphen", "", "a - when it is below zero",
		func(v string) string { return oneOf(v, "-", "not the - that stands for below zero") }},
	{"importeridx", "", "an importer index", func(v string) string {
		return unless(len(v) == 1 && strings.Contains(set64[:len(set64)-1], v),
			"%s is no importer index: a letter, a digit, - or _.", v)
	}},
	{"latitude", ", the latitude", "", func(v string) string { return upToDigits(v, "1800000000", "latitude") }},
	{"longitude", ", the longitude", "", func(v string) string { return upToDigits(v, "3600000000", "longitude") }},
	{"mediatype", "", "a type of media, 2 digits",
		func(v string) string { return oneOf(v, mediaTypes, "no type of media that GS1 has named") }},
	{"packagetype", ", a type of package", "",
		func(v string) string { return oneOf(v, packageTypes, "no type of package (UN/ECE Recommendation 21)") }},
	{"pcenc", ", others as % and two hexadecimal digits", "", percentEncoded},
	{"pieceoftotal", "", "2 digits for the piece and 2 for their number", pieceOfTotal},
	{"posinseqslash", "", "a place and the number of them, such as 1/2", placeInSequence},
	{"winding", "", "a winding: 0, 1 or 9",
		func(v string) string { return oneOf(v, "0 1 9", "no winding: 0 is face out, 1 face in, 9 undefined") }},
	{"couponcode", ", a coupon of North America", "", func(v string) string { return couponCode(v) }},
	{"couponposoffer", ", an offer of North America", "", func(v string) string { return couponOffer(v) }},
}

func ruleNamed(name string) rule {
	for _, r := range rules {
		if r.name == name {
			return r
		}
	}
	panic("gs1: the dictionary has the rule " + name + ", which is not written")
}

func first(problems ...string) string {
	for _, p := range problems {
		if p != "" {
			return p
		}
	}
	return ""
}

func unless(fine bool, format, value string) string {
	if fine {
		return ""
	}
	return fmt.Sprintf(format, value)
}

// oneOf looks a value up in a list of words.
func oneOf(value, list, what string) string {
	if value != "" && strings.Contains(" "+list+" ", " "+value+" ") {
		return ""
	}
	return value + " is " + what + "."
}

func checkDigit(value string) string {
	body, given := value[:len(value)-1], value[len(value)-1]
	if right := check.GS1(body); right != given {
		return fmt.Sprintf("its check digit is %c, not %c.", right, given)
	}
	return ""
}

// modelCheck is the check of Global Model Numbers (7.9.5), which has weights for 23 characters.
func modelCheck(value string) string {
	const least = 3
	if len(value) < least {
		return "its last two characters are check characters, and more stand before them."
	}
	at := len(value) - 2
	if right := check.Model(value[:at]); right != value[at:] {
		return fmt.Sprintf("its check characters are %s, not %s.", right, value[at:])
	}
	return ""
}

// companyPrefix wants a company prefix, which begins with two digits, from a character on (3.2 and 1.4.4).
func companyPrefix(value string, from int) string {
	if len(value) >= from+2 && isDigit(value[from]) && isDigit(value[from+1]) {
		return ""
	}
	return fmt.Sprintf("“%s” has no company prefix: that begins with two digits.", value)
}

// date looks at YYMMDD or YYYYMMDD. Two digits of a year are within 50 years of today (7.12), so every
// fourth is a leap year.
func date(value string, anyDay bool) string {
	year, month, day := number(value[:len(value)-4]), number(value[len(value)-4:len(value)-2]),
		number(value[len(value)-2:])
	form := "YYMMDD"
	leap := year%4 == 0
	if len(value) == 8 {
		form, leap = "YYYYMMDD", year%4 == 0 && year%100 != 0 || year%400 == 0
	}
	days := [...]int{31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31}
	if leap {
		days[1] = 29
	}
	if month < 1 || month > 12 || day > days[month-1] || day == 0 && !anyDay {
		return fmt.Sprintf("%s is no date; it is written %s.", value, form)
	}
	return ""
}

func upTo(value string, most int, what string) string {
	if number(value) > most {
		return fmt.Sprintf("%s is no %s: there are 00 to %d.", value, what, most)
	}
	return ""
}

func upToDigits(value, most, what string) string {
	return unless(value <= most, "%s is no "+what+": it goes up to "+most+".", value)
}

func nonZero(value string) string {
	return unless(strings.Trim(value, "0") != "", "%s must be more than zero.", value)
}

// iban is a bank account (ISO 13616-1): its country, two check digits and the account.
func iban(value string) string {
	const least = 5
	for _, c := range value {
		if (c < '0' || c > '9') && (c < 'A' || c > 'Z') {
			return fmt.Sprintf("%s may not stand in an IBAN; capitals and digits may.", printable(c))
		}
	}
	if len(value) < least {
		return fmt.Sprintf("%s is too short for an IBAN.", value)
	}
	if problem := oneOf(value[:2], countryLetters,
		"no country's two letters, with which an IBAN begins"); problem != "" {
		return problem
	}
	return unless(check.Rest97(value[4:]+value[:4]) == 1, "%s is no IBAN: its check digits are wrong.", value)
}

func percentEncoded(value string) string {
	for i := range len(value) {
		if value[i] == '%' && (i+2 >= len(value) || !isHex(value[i+1]) || !isHex(value[i+2])) {
			return "a % must be followed by two hexadecimal digits; the sign itself is written %25."
		}
	}
	return ""
}

func isHex(c byte) bool { return isDigit(c) || c|0x20 >= 'a' && c|0x20 <= 'f' }

func pieceOfTotal(value string) string {
	piece, total := value[:2], value[2:]
	switch {
	case piece == "00" || total == "00":
		return "pieces are counted from 01."
	case piece > total:
		return fmt.Sprintf("there is no piece %s of %s.", piece, total)
	}
	return ""
}

func placeInSequence(value string) string {
	place, of, _ := strings.Cut(value, "/")
	for _, n := range []string{place, of} {
		if n == "" || n[0] == '0' || strings.Trim(n, "0123456789") != "" {
			return fmt.Sprintf("%s is no place in a sequence; it is written like 1/2.", value)
		}
	}
	return unless(number(place) <= number(of), "%s has a place beyond its end.", value)
}
