package gs1

import (
	"fmt"
	"slices"
	"strings"

	"oddspool/core/check"
)

// A CheckDigit says whether a number is given with its check digit.
type CheckDigit string

// The ways in which a number may be given.
const (
	AsItIs  CheckDigit = ""        // by its length; what could be two numbers is refused
	Given   CheckDigit = "given"   // it ends with its check digit; a shorter GTIN is filled up with zeros
	Missing CheckDigit = "missing" // it has none yet
)

// gtinLengths are those of whole GTINs (GS1 General Specifications, 1.4.4 and 3.3.2).
var gtinLengths = []int{8, 12, 13, 14}

// WholeGTIN tells whether digits are a GTIN of a usual length with a right check digit.
func WholeGTIN(digits string) bool {
	return slices.Contains(gtinLengths, len(digits)) && check.HoldsGS1(digits)
}

// Complete returns the number of so many digits that is meant by fewer or as many. Whatever could be two
// numbers, and would quietly become the wrong one, is refused with both. Its error is always a *DataError.
func Complete(name, digits string, length int, given CheckDigit) (string, error) {
	if err := onlyDigits(name, digits); err != nil {
		return "", err
	}
	n := len(digits)
	fill := func() string { return strings.Repeat("0", length-n) + digits }
	added := func() string { return digits + string(check.GS1(digits)) }
	switch {
	case n == length && given == Missing:
		return "", wrong(0, "%s has %d digits and its check digit is to be added, so %d are needed: %s has one "+
			"too many.", name, length, length-1, digits)
	case n == length:
		body, last := digits[:n-1], digits[n-1]
		if right := check.GS1(body); right != last {
			return "", wrong(n, "The check digit of %s is %c, not %c.", body, right, last)
		}
		return digits, nil
	case n == length-1 && given == Missing:
		return added(), nil
	case n < length && given == Given && WholeGTIN(digits):
		return fill(), nil
	case n == length-1 && given == AsItIs && WholeGTIN(digits):
		return "", wrong(0, "%s is a whole GTIN-%d. As the beginning of %s it would become %s, another number; %s is "+
			"probably meant. Write that, or say that its check digit is missing.",
			digits, n, name, added(), fill())
	case n == length-1 && given == AsItIs:
		return added(), nil
	}
	return "", wrong(0, "%s takes %s, and %s has %d.%s", name, lengths(length, given), digits, n, hint(digits, length))
}

// CompleteGTIN returns the GTIN of 14 digits that is meant by a whole GTIN of any length, or by one without
// its check digit where that is said to be missing. Its error is always a *DataError.
func CompleteGTIN(name, digits string, given CheckDigit) (string, error) {
	const longest = 14
	if err := onlyDigits(name, digits); err != nil {
		return "", err
	}
	whole := digits
	if given == Missing {
		whole += string(check.GS1(digits))
	}
	if !slices.Contains(gtinLengths, len(whole)) {
		return "", wrong(0, "%s takes a GTIN of 8, 12, 13 or 14 digits, and %s has %d.", name, digits, len(digits))
	}
	if !check.HoldsGS1(whole) {
		n := len(whole)
		body := whole[:n-1]
		return "", wrong(n, "The check digit of %s is %c, not %c. If %s has no check digit yet, say so.", body,
			check.GS1(body), whole[n-1], digits)
	}
	return strings.Repeat("0", longest-len(whole)) + whole, nil
}

func lengths(length int, given CheckDigit) string {
	switch given {
	case Given:
		return fmt.Sprintf("%d digits", length)
	case Missing:
		return fmt.Sprintf("%d digits without its check digit", length-1)
	}
	return fmt.Sprintf("%d or %d digits", length-1, length)
}

// hint offers what may be meant by a number of another length.
func hint(digits string, length int) string {
	n := len(digits)
	switch {
	case n < length && WholeGTIN(digits):
		return fmt.Sprintf(" It is a whole GTIN-%d: write %s if that is meant.", n,
			strings.Repeat("0", length-n)+digits)
	case n == length-2:
		return fmt.Sprintf(" With a 0 before it the check digit would be %c.", check.GS1("0"+digits))
	case n < length:
		return fmt.Sprintf(" Put %d zeros before it if that is the number that is meant.", length-n)
	case strings.Trim(digits[:n-length], "0") == "" && check.HoldsGS1(digits[n-length:]):
		return fmt.Sprintf(" Without the zeros before it, it is %s.", digits[n-length:])
	}
	return ""
}

func onlyDigits(name, text string) error {
	if text == "" {
		return wrong(0, "%s needs at least one digit.", name)
	}
	column := 0
	for _, r := range text {
		if column++; r < '0' || r > '9' {
			return wrong(column, "%s (character %d) is not in %s; it takes digits.", printable(r), column, name)
		}
	}
	return nil
}
