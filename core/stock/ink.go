package stock

import (
	"maps"
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
			r.add("reacts", "An ink needs a name, such as black or red.")
		}
	}
}

// FaceColour returns the colour of the face, #RRGGBB.
func (s Stock) FaceColour() string {
	if s.Colour == "" {
		return "#FFFFFF"
	}
	return s.Colour
}

// InkColour returns the colour that an ink has on a stock, #RRGGBB: marking a plate lays its core bare,
// a name that is a colour is that colour, and spot colours have the colours their names say.
func (s Stock) InkColour(ink Ink) string {
	if colour := s.form().inkColour(ink); colour != "" {
		return colour
	}
	if isColour(string(ink)) {
		return strings.ToUpper(string(ink))
	}
	if colour, known := spotColours[ink]; known {
		return colour
	}
	return "#000000"
}

// spotColours are what ribbons of these names look like.
var spotColours = map[Ink]string{
	Red: "#C8102E", White: "#FFFFFF", "green": "#1F7A4D", "blue": "#1D5FA8", "yellow": "#F7C600", "orange": "#E87722",
	"violet": "#6B3FA0", "brown": "#6B4423", "grey": "#7A7F85", "silver": "#C9CCD1", "gold": "#B8860B",
	"silver-grey": "#A5A8A6", "light blue": "#8FC4E8", "purple": "#7A2E83", "yellow ochre": "#C08A2B",
	"crimson": "#9B1B30",
}

// named are the inks whose colours have names, in the order of the alphabet.
var named = slices.Sorted(maps.Keys(spotColours))

// Can tells whether an ink is among those that can be shown. Where colours are mixed, any colour is.
func Can(ink Ink, can []Ink) bool {
	if slices.Contains(can, Full) {
		_, known := spotColours[ink]
		return known || ink == Black || isColour(string(ink))
	}
	return slices.Contains(can, ink)
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
	case Can(wanted, can):
		return wanted, true
	case Can(Black, can):
		return Black, true
	case len(can) > 0:
		return can[0], true
	}
	return "", false
}
