package measure

import (
	"fmt"
	"strconv"
	"strings"
)

// A Resolution is how densely a head or a raster sets its dots, kept as an exact fraction:
// 8 dots/mm is 203.2 dpi, never 203, and 300 dpi is never 11.8 dots/mm. The zero value is no
// resolution; ask Valid.
type Resolution struct {
	dots int64 // dots in span
	span int64 // µm: 1,000 for dots per millimetre, 25,400 for dots per inch
}

// DotsPerMillimetre returns the resolution of n dots in each millimetre.
func DotsPerMillimetre(n int) Resolution { return Resolution{int64(n), int64(Millimetre)} }

// DotsPerInch returns the resolution of n dots in each inch.
func DotsPerInch(n int) Resolution { return Resolution{int64(n), int64(Inch)} }

// Valid tells whether r is a resolution some head or screen has: 1 dot/mm up to 2,400 dpi, so
// that no sum of dots overflows and no picture grows past what a machine holds.
func (r Resolution) Valid() bool {
	return r.span > 0 && r.dots*int64(Inch) >= 25*r.span && r.dots*int64(Inch) <= 2400*r.span
}

// Dots returns the whole number of dots nearest to l, halves away from zero.
func (r Resolution) Dots(l Length) int { return int(divideRound(int64(l)*r.dots, r.span)) }

// DotsDown returns the most whole dots that l holds.
func (r Resolution) DotsDown(l Length) int {
	n := int64(l) * r.dots
	down := n / r.span
	if n%r.span < 0 {
		down--
	}
	return int(down)
}

// Length returns the length of n dots to the nearest micrometre.
func (r Resolution) Length(n int) Length { return Length(divideRound(int64(n)*r.span, r.dots)) }

// PerEm returns the size of type of the given points, in 64ths of a dot per em.
func (r Resolution) PerEm(points float64) int {
	// Points are rounded to thousandths first, so that the rest is exact in whole numbers.
	// the conversion keeps the two from being fused, so that all machines agree
	milli := int64(float64(points*1000) + 0.5)
	return int(divideRound(milli*int64(Inch)*r.dots*64, 72_000*r.span))
}

// PerMillimetre returns the resolution in dots per millimetre.
func (r Resolution) PerMillimetre() float64 { return float64(r.dots*1000) / float64(r.span) }

// PerInch returns the resolution in dots per inch.
func (r Resolution) PerInch() float64 { return float64(r.dots*int64(Inch)) / float64(r.span) }

// String gives the resolution as it was made: "8 dots/mm" or "300 dpi".
func (r Resolution) String() string {
	if r.span == int64(Inch) {
		return fmt.Sprintf("%d dpi", r.dots)
	}
	return fmt.Sprintf("%d dots/mm", r.dots)
}

// MarshalText writes the resolution as String does.
func (r Resolution) MarshalText() ([]byte, error) { return []byte(r.String()), nil }

// UnmarshalText reads "8 dots/mm" or "300 dpi".
func (r *Resolution) UnmarshalText(text []byte) error {
	number, unit, _ := strings.Cut(strings.TrimSpace(string(text)), " ")
	n, err := strconv.Atoi(number)
	made := Resolution{}
	switch unit {
	case "dots/mm":
		made = DotsPerMillimetre(n)
	case "dpi":
		made = DotsPerInch(n)
	}
	if err != nil || !made.Valid() {
		return fmt.Errorf(`resolution %q: write it like "8 dots/mm" or "300 dpi", from 1 dot/mm to 2400 dpi`, text)
	}
	*r = made
	return nil
}

// divideRound returns a/b for b > 0, to the nearest whole number, halves away from zero.
func divideRound(a, b int64) int64 {
	if a < 0 {
		return -((-a + b/2) / b)
	}
	return (a + b/2) / b
}
