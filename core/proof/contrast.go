package proof

import (
	"math"
	"strconv"

	"oddspool/core/render"
)

// leastContrast is the smallest difference in reflectance between bars and what they stand on: grade
// C of symbol contrast (ISO/IEC 15416, 5.4.4), below which scanners begin to fail.
const leastContrast = 0.40

// reflectance returns how much of the red light of scanners, 660 nm (ISO/IEC 15416, 5.2), a face throws back, from 0 to
// 1: its linear red (IEC 61966-2-1), which lies at 612 nm.
func reflectance(colour string) float64 {
	red := channel(colour, 0)
	if red <= 0.04045 {
		return red / 12.92
	}
	return math.Pow((red+0.055)/1.055, 2.4)
}

// inkReflectance returns the same of an ink. What is reddish throws back more of a deeper red than of that of sRGB: the
// value as it is coded, its gamma left in, is the careful guess.
func inkReflectance(colour string) float64 {
	if red := channel(colour, 0); red > 1.1*max(channel(colour, 1), channel(colour, 2)) {
		return red
	}
	return reflectance(colour)
}

// channel returns red, green or blue (0 to 2) of #RRGGBB, from 0 to 1.
func channel(colour string, i int) float64 {
	n, err := strconv.ParseUint(colour[1+2*i:3+2*i], 16, 8)
	if err != nil {
		return 0
	}
	return float64(n) / 255
}

// darkLayers tells of each layer whether a scanner can tell its ink from the face.
func darkLayers(p render.Palette) []bool {
	dark := make([]bool, len(p.Inks))
	for i, ink := range p.Inks {
		dark[i] = reflectance(p.Face)-inkReflectance(ink) >= leastContrast
	}
	return dark
}

// lightLayers tells of each layer whether a scanner can tell its ink as light from the face: some symbologies are read
// light on dark (ISO/IEC 16022, 18004 and 24778: reflectance reversal).
func lightLayers(p render.Palette) []bool {
	light := make([]bool, len(p.Inks))
	for i, ink := range p.Inks {
		light[i] = inkReflectance(ink)-reflectance(p.Face) >= leastContrast
	}
	return light
}
