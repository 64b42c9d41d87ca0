package stock

import (
	"slices"
	"strings"
)

// An Ink is what a printer can put on a stock, or heat can bring out of it.
type Ink string

// The inks by name; others are spot colours named by their ribbon.
const (
	Black Ink = "black"
	Red   Ink = "red"
	White Ink = "white"
	Full  Ink = "full colour"
)

func (s Stock) checkInks(r *reasons) {
	for _, ink := range s.Reacts {
		if strings.TrimSpace(string(ink)) == "" {
			r.say("reacts", "An ink needs a name, such as black or red.")
		}
	}
}

// Inks returns what can be shown by a printer on a stock: the inks of its ribbon or cartridges, or,
// without them, those that heat brings out of the coating.
func Inks(s Stock, p Printer) []Ink {
	if slices.Contains(p.Inks, Full) {
		return []Ink{Full}
	}
	if len(p.Inks) > 0 {
		return slices.Clone(p.Inks)
	}
	if p.Vector {
		return []Ink{Black}
	}
	var inks []Ink
	for _, ink := range s.Reacts {
		if ink == Black || slices.Contains(p.Heats, ink) {
			inks = append(inks, ink)
		}
	}
	return inks
}

// NearestInk returns the ink to take for one that cannot be shown: black before all, since it reads
// best; false when nothing can be shown at all.
func NearestInk(wanted Ink, can []Ink) (Ink, bool) {
	switch {
	case slices.Contains(can, wanted) || slices.Contains(can, Full):
		return wanted, true
	case slices.Contains(can, Black):
		return Black, true
	case len(can) > 0:
		return can[0], true
	}
	return "", false
}
