package stock

import (
	"math"
	"strconv"
)

// likeEnough is how far a colour may be from another of the same name: a difference in CIELAB (ΔE*ab, CIE 15). The
// areas of one safety colour in ISO 3864-4 are some 20 wide.
const likeEnough = 25

// LooksLike tells whether a colour #RRGGBB, such as that of a face, is one that people call by the name of an ink.
func LooksLike(colour string, name Ink) bool {
	if !isColour(colour) {
		return false
	}
	best, least := Ink(""), math.Inf(1)
	for _, ink := range append([]Ink{Black}, named...) {
		if d := difference(colour, Stock{}.InkColour(ink)); d < least {
			best, least = ink, d
		}
	}
	return best == name && least <= likeEnough
}

// difference is that of two colours in CIELAB with the white point of sRGB (D65).
func difference(a, b string) float64 {
	x, y := lab(a), lab(b)
	return math.Sqrt((x[0]-y[0])*(x[0]-y[0]) + (x[1]-y[1])*(x[1]-y[1]) + (x[2]-y[2])*(x[2]-y[2]))
}

func lab(colour string) [3]float64 {
	r, g, b := linear(colour[1:3]), linear(colour[3:5]), linear(colour[5:7])
	x, y, z := curve((0.4124*r+0.3576*g+0.1805*b)/0.9505), curve(0.2126*r+0.7152*g+0.0722*b),
		curve((0.0193*r+0.1192*g+0.9505*b)/1.089)
	return [3]float64{116*y - 16, 500 * (x - y), 200 * (y - z)}
}

func linear(hexadecimal string) float64 {
	n, _ := strconv.ParseUint(hexadecimal, 16, 8) // checked by isColour
	v := float64(n) / 255
	if v <= 0.04045 {
		return v / 12.92
	}
	return math.Pow((v+0.055)/1.055, 2.4)
}

func curve(t float64) float64 {
	if t > 216.0/24389 {
		return math.Cbrt(t)
	}
	return (24389.0/27*t + 16) / 116
}
