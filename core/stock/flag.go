package stock

import (
	"math"

	"oddspool/core/measure"
)

// TwoFaces is a flag: Length is both faces and what goes round the cable between them.
type TwoFaces struct {
	label `json:"-"`

	Round measure.Length `json:"round"` // the part that goes round the cable
}

// Face returns the length of one face.
func (s Stock) Face() measure.Length { return (s.Length - s.Flag.Round) / 2 }

// Cables returns the smallest and largest cable: the part between the faces must go round once;
// what is left over lies on itself, and more than half of it would make the faces miss each other.
func (f *TwoFaces) Cables() (smallest, largest measure.Length) {
	return roundUp(float64(f.Round) / 2 / math.Pi), measure.Length(float64(f.Round) / math.Pi)
}

func (f *TwoFaces) check(r *reasons, s Stock) {
	r.within("flag.round", "The part round the cable", f.Round, 2*mm, max(s.Length-4*mm, 2*mm))
}

func (f *TwoFaces) outlined() bool         { return false }
func (f *TwoFaces) mostLegends(Stock) int  { return 2 }
func (f *TwoFaces) usualLegends(Stock) int { return 2 }

// legends lie on both faces.
func (f *TwoFaces) legends(s Stock, l *Legend) { l.Length, l.Along = s.Face(), s.Face()+f.Round }

func (f *TwoFaces) cables(Stock) (smallest, largest measure.Length, ok bool) {
	smallest, largest = f.Cables()
	return smallest, largest, true
}

// keepFree keeps the part round the cable free.
func (f *TwoFaces) keepFree(s Stock, r measure.Resolution, a *Area) {
	a.Bands = append(a.Bands, Band{Y: r.Dots(s.Face()), Width: a.Width,
		Height: r.Dots(s.Face()+f.Round) - r.Dots(s.Face())})
}
