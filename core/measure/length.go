// Package measure holds lengths, resolutions and quarter turns: what every other package of the
// core counts in. Lengths are whole micrometres, so that sizes in millimetres, inches and points
// add up without drift; dots are plain ints, so that nobody mixes the two by accident.
package measure

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// A Length is a distance in whole micrometres.
type Length int64

// Common lengths. There is no Point: a typographic point is 25.4/72 mm, which is no whole number
// of micrometres; see Points.
const (
	Micrometre Length = 1
	Millimetre Length = 1_000
	Centimetre Length = 10_000
	Inch       Length = 25_400
)

// Longest is the longest length Parse takes: 100 m, longer than any label or roll of tape a
// label printer feeds as one piece.
const Longest = 100_000 * Millimetre

// Millimetres returns l as a number of millimetres.
func (l Length) Millimetres() float64 { return float64(l) / 1000 }

// String gives the length in millimetres with at most three decimals: "76 mm", "0.375 mm".
func (l Length) String() string { return l.In(UnitMillimetre) }

// Points returns the length nearest to n typographic points (1 pt = 1/72 in).
func Points(n float64) Length { return Length(math.Round(n * 25_400 / 72)) }

// A Unit is a unit people read and type lengths in.
type Unit string

// The units a length can be shown and typed in.
const (
	UnitMillimetre Unit = "mm"
	UnitCentimetre Unit = "cm"
	UnitInch       Unit = "in"
	UnitPoint      Unit = "pt"
)

// micrometres is the length of one unit, in micrometres.
func (u Unit) micrometres() float64 {
	switch u {
	case UnitCentimetre:
		return 10_000
	case UnitInch:
		return 25_400
	case UnitPoint:
		return 25_400.0 / 72
	default:
		return 1000
	}
}

// In shows the length in a unit, to the nearest thousandth of it, without trailing zeros.
func (l Length) In(u Unit) string {
	text := strconv.FormatFloat(float64(l)/u.micrometres(), 'f', 3, 64)
	text = strings.TrimSuffix(strings.TrimRight(text, "0"), ".")
	if text == "-0" {
		text = "0"
	}
	return text + " " + string(u)
}

// A LengthError says why a typed length could not be taken.
type LengthError struct {
	Text   string
	Reason string
}

func (e *LengthError) Error() string { return fmt.Sprintf("%q: %s", e.Text, e.Reason) }

// Parse reads a length as people type it: "76", "76 mm", "7,6cm", "4 in", `4"`, "1 1/2 in",
// "9pt". A bare number is in unit bare. The sign may be negative; whoever needs a size checks
// that himself. Its error is always a *LengthError.
func Parse(text string, bare Unit) (Length, error) {
	fail := func(reason string) (Length, error) { return 0, &LengthError{Text: text, Reason: reason} }
	number, unit := splitUnit(strings.TrimSpace(text))
	if number == "" {
		return fail("a length is needed, such as 76 mm or 3 in")
	}
	var known Unit
	switch strings.ToLower(unit) {
	case "":
		known = bare
	case "mm":
		known = UnitMillimetre
	case "cm":
		known = UnitCentimetre
	case "in", `"`, "″", "inch", "inches":
		known = UnitInch
	case "pt":
		known = UnitPoint
	default:
		return fail(fmt.Sprintf("the unit %q is not known; use mm, cm, in or pt", unit))
	}
	value, ok := parseNumber(number)
	if !ok {
		return fail("this is not a number; write it like 76, 7.6 or 1 1/2")
	}
	micrometres := math.Round(value * known.micrometres())
	if math.Abs(micrometres) > float64(Longest) {
		return fail("this is more than 100 m")
	}
	return Length(micrometres), nil
}

// splitUnit cuts "1 1/2 in" into "1 1/2" and "in".
func splitUnit(text string) (number, unit string) {
	end := strings.LastIndexFunc(text, func(r rune) bool { return r >= '0' && r <= '9' || r == '.' || r == ',' }) + 1
	return strings.TrimSpace(text[:end]), strings.TrimSpace(text[end:])
}

// parseNumber takes decimals with point or comma, and inch fractions such as 3/4 and 1 1/2.
func parseNumber(text string) (float64, bool) {
	negative := false
	for _, sign := range []string{"-", "−", "+"} {
		if rest, has := strings.CutPrefix(text, sign); has {
			negative, text = sign != "+", strings.TrimSpace(rest)
			break
		}
	}
	whole, fraction, mixed := strings.Cut(text, " ")
	if !mixed && strings.Contains(text, "/") {
		whole, fraction, mixed = "0", text, true
	}
	value, ok := parseDecimal(whole)
	if ok && mixed {
		over, under, isFraction := strings.Cut(strings.TrimSpace(fraction), "/")
		n, okN := parseDecimal(over)
		d, okD := parseDecimal(under)
		ok = isFraction && okN && okD && d != 0
		value += n / d
	}
	if negative {
		value = -value
	}
	return value, ok
}

// parseDecimal refuses what ParseFloat would take and nobody means: NaN, Inf, hex, exponents.
func parseDecimal(text string) (float64, bool) {
	if strings.ContainsFunc(text, func(r rune) bool { return (r < '0' || r > '9') && r != '.' && r != ',' }) {
		return 0, false
	}
	value, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	return value, err == nil
}
