package proof

import (
	"strconv"

	"oddspool/core/render"
)

// leastContrast is the smallest difference in reflectance between bars and what they stand on: grade
// C of symbol contrast (ISO/IEC 15416, 5.4.4), below which scanners begin to fail.
const leastContrast = 0.40

// reflectance returns how much of the red light of scanners, 660 nm (ISO/IEC 15416, 5.2), a colour
// throws back, from 0 to 1. The red of sRGB (IEC 61966-2-1) lies at 612 nm, and what is reddish there
// throws back more of a deeper red: the value as it is coded, its gamma left in, is the careful guess.
func reflectance(colour string) float64 {
	n, err := strconv.ParseUint(colour[1:3], 16, 8)
	if err != nil {
		return 0
	}
	return float64(n) / 255
}

// darkLayers tells of each layer whether a scanner can tell its ink from the face.
func darkLayers(p render.Palette) []bool {
	dark := make([]bool, len(p.Inks))
	for i, ink := range p.Inks {
		dark[i] = reflectance(p.Face)-reflectance(ink) >= leastContrast
	}
	return dark
}
