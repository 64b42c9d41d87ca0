package formula

import (
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
)

// joined is a text that + joins, though it may look like a number.
type joined string

// asText returns a value as a label says it: numbers in digits, dates as ISO 8601 has them.
func asText(value any) (string, error) {
	switch v := value.(type) {
	case nil:
		return "", nil
	case string:
		return v, nil
	case joined:
		return string(v), nil
	case bool:
		if v {
			return "true", nil
		}
		return "false", nil
	case decimal.Decimal:
		return v.String(), nil
	case time.Time:
		if v.Hour() == 0 && v.Minute() == 0 && v.Second() == 0 {
			return v.Format(time.DateOnly), nil
		}
		return v.Format("2006-01-02 15:04:05"), nil
	case int:
		return fmt.Sprint(v), nil
	}
	return "", fmt.Errorf("it gives no text, number or date")
}

// Limits of numbers, so that no arithmetic takes long.
const (
	mostDigits   = 100
	mostExponent = 60
)

// asNumber returns a value as a number.
func asNumber(value any) (decimal.Decimal, error) {
	switch v := value.(type) {
	case decimal.Decimal:
		return v, nil
	case int:
		return decimal.NewFromInt(int64(v)), nil
	case string:
		return parseNumber(v, ".")
	case joined:
		return parseNumber(string(v), ".")
	case nil:
		return decimal.Zero, fmt.Errorf("nothing is no number")
	case time.Time:
		return decimal.Zero, fmt.Errorf("a date is no number; days(…) counts them")
	}
	return decimal.Zero, fmt.Errorf("“%v” is no number", value)
}

// parseNumber reads a number with a decimal sign.
func parseNumber(text, sign string) (decimal.Decimal, error) {
	plain := strings.TrimSpace(text)
	if sign == "," {
		plain = strings.NewReplacer(".", "", " ", "", "\u00a0", "", "\u202f", "", "'", "", ",", ".").Replace(plain)
	}
	wrong := func(why string) (decimal.Decimal, error) {
		return decimal.Zero, fmt.Errorf("“%s” is no number%s", text, why)
	}
	switch {
	case plain == "":
		return decimal.Zero, fmt.Errorf("an empty text is no number; default(…, 0) gives one")
	case len(plain) > mostDigits:
		return wrong(fmt.Sprintf(" of at most %d digits", mostDigits))
	case strings.Contains(plain, ","):
		return wrong(`; where the comma is the decimal sign, write number(…, ",")`)
	}
	number, err := decimal.NewFromString(plain)
	if err != nil {
		return wrong("")
	}
	return bounded(number)
}

// bounded refuses a number too long to go on with.
func bounded(number decimal.Decimal) (decimal.Decimal, error) {
	if number.NumDigits() > 2*mostDigits || number.Exponent() > mostExponent || number.Exponent() < -4*mostExponent {
		return decimal.Zero, fmt.Errorf("the number has too many digits")
	}
	return number, nil
}

// asCount returns a value as a whole number within bounds.
func asCount(value any, least, most int, what string) (int, error) {
	number, err := asNumber(value)
	if err != nil {
		return 0, err
	}
	if !number.IsInteger() || number.LessThan(decimal.NewFromInt(int64(least))) ||
		number.GreaterThan(decimal.NewFromInt(int64(most))) {
		return 0, fmt.Errorf("%s is a whole number from %d to %d, not %s", what, least, most, number)
	}
	return int(number.IntPart()), nil
}

// asDate returns a value as a date: one that was computed, or a text as ISO 8601 has it.
func asDate(value any) (time.Time, error) {
	switch v := value.(type) {
	case time.Time:
		return v, nil
	case joined:
		return asDate(string(v))
	case string:
		text := strings.TrimSpace(v)
		for _, form := range []string{time.DateOnly, "2006-01-02 15:04", "2006-01-02 15:04:05", "2006-01-02T15:04:05",
			time.RFC3339, "20060102"} {
			if date, err := time.Parse(form, text); err == nil {
				return date, nil
			}
		}
		if text == "" {
			return time.Time{}, fmt.Errorf("an empty text is no date")
		}
		return time.Time{}, fmt.Errorf(`“%s” is no date; say how it is written, such as date(…, "d.M.yyyy")`, v)
	}
	text, err := asText(value)
	if err != nil {
		return time.Time{}, err
	}
	return asDate(text)
}

// isNumber tells whether a value is a number already, not a text that looks like one.
func isNumber(value any) bool {
	switch value.(type) {
	case decimal.Decimal, int:
		return true
	}
	return false
}

// compare orders two values: dates by time, numbers by size, also where one of them is a text; texts that are both
// numbers by size, others by their letters.
func compare(a, b any) (int, error) {
	_, dateA := a.(time.Time)
	_, dateB := b.(time.Time)
	if dateA || dateB {
		x, err := asDate(a)
		if err != nil {
			return 0, err
		}
		y, err := asDate(b)
		return x.Compare(y), err
	}
	x, errX := asNumber(a)
	y, errY := asNumber(b)
	if errX == nil && errY == nil {
		return x.Cmp(y), nil
	}
	if isNumber(a) || isNumber(b) {
		if errX != nil {
			return 0, errX
		}
		return 0, errY
	}
	s, err := asText(a)
	if err != nil {
		return 0, err
	}
	t, err := asText(b)
	return strings.Compare(s, t), err
}

// same tells whether two values are equal: texts letter by letter, so that 007 is not 7; a number and a text by size.
func same(a, b any) (bool, error) {
	if isNumber(a) != isNumber(b) {
		x, errX := asNumber(a)
		y, errY := asNumber(b)
		return errX == nil && errY == nil && x.Equal(y), nil
	}
	if isNumber(a) {
		order, err := compare(a, b)
		return order == 0, err
	}
	if _, is := a.(time.Time); is {
		order, err := compare(a, b)
		return order == 0, err
	}
	if _, is := b.(time.Time); is {
		order, err := compare(a, b)
		return order == 0, err
	}
	s, err := asText(a)
	if err != nil {
		return false, err
	}
	t, err := asText(b)
	return s == t, err
}
