// Package sign says how large a safety sign and its words are for the distance from which they are
// read, and which words, colours and shapes a sign of a kind has. The rules are those of ISO 3864-1:2011
// (5, 10, annex A), ISO 3864-2:2016 and ANSI Z535.4-2011 (R2017).
package sign

import (
	"fmt"
	"math"
)

// The light a sign is read in.
type Light string

// The lights.
const (
	Lit    Light = "lit"    // a sign lit from outside
	Inside Light = "inside" // a sign lit from inside
	Poor   Light = "poor"   // dim light
)

// factors of distance: observation distance over height of the sign, 100 where it is lit from outside and 200 from
// inside (ISO 3864-1:2011, annex A; EN 1838, 5.5). In dim light they are halved here, which no standard says: it is on
// the safe side.
var factors = map[Light]float64{Lit: 100, Inside: 200, Poor: 50}

// letterFactors are the observation distance over the height of capitals: ANSI Z535.2, annex B asks for 1 inch for each
// 25 feet in favourable and for each 12 feet in unfavourable light.
var letterFactors = map[Light]float64{Lit: 300, Inside: 300, Poor: 144}

// smallestCapitals is the least height of capitals on a sign, in millimetres, however near it is read.
const smallestCapitals = 2.5

// Heights are what a distance asks for, in millimetres.
type Heights struct {
	Distance float64 `json:"distance"` // metres
	Light    Light   `json:"light"`
	Sign     float64 `json:"signHeight"`   // of the safety sign
	Letters  float64 `json:"letterHeight"` // capitals of the message
	Signal   float64 `json:"signalHeight"` // capitals of the signal word: at least half as high again
	Factor   float64 `json:"factor"`       // Z
	Rule     string  `json:"rule"`
}

// For returns the heights that a distance in metres asks for. Its error is a *refusal.Error.
func For(distance float64, light Light) (Heights, error) {
	factor, known := factors[light]
	if !known {
		return Heights{}, unknownLight.With(light)
	}
	if !(distance > 0) || distance > 1000 {
		return Heights{}, badDistance.With(distance)
	}
	letters := math.Max(distance*1000/letterFactors[light], smallestCapitals)
	return Heights{Distance: distance, Light: light, Sign: tenth(distance * 1000 / factor), Letters: tenth(letters),
		Signal: tenth(letters * 1.5), Factor: factor,
		Rule: fmt.Sprintf("height of the sign = distance / %g (ISO 3864-1:2011, annex A); capitals = distance / %g, "+
			"no less than %g mm (ANSI Z535.2, annex B); signal word half as high again (ANSI Z535.4, 7.8)", factor,
			letterFactors[light], smallestCapitals)}, nil
}

// Distance returns from how far, in metres, a sign of a height in millimetres is recognised.
func Distance(height float64, light Light) float64 { return height * factors[light] / 1000 }

// LetterDistance returns from how far, in metres, capitals of a height in millimetres are read.
func LetterDistance(height float64, light Light) float64 { return height * letterFactors[light] / 1000 }

func tenth(v float64) float64 { return math.Ceil(v*10-1e-9) / 10 }

// A Kind is a signal word with the colours of its panel.
type Kind struct {
	ID      string            `json:"id"`
	Words   map[string]string `json:"words"` // by language
	Field   string            `json:"field"` // colour of the panel
	Letters string            `json:"letters"`
	Alert   bool              `json:"alert,omitempty"` // the safety alert symbol stands before the word
	Means   string            `json:"means"`
	Clause  string            `json:"clause"`
}

// Kinds are the signal words (ISO 3864-2:2016, 5; ANSI Z535.4, 4.16, 6.2 and 7.2), the gravest first.
var Kinds = []Kind{
	{"danger", map[string]string{"en": "DANGER", "de": "GEFAHR", "fr": "DANGER", "es": "PELIGRO"}, "red", "white", true,
		"will kill or badly hurt if it is not avoided", "ANSI Z535.4, 7.2; ISO 3864-2, 5.2"},
	{"warning", map[string]string{"en": "WARNING", "de": "WARNUNG", "fr": "AVERTISSEMENT", "es": "ADVERTENCIA"},
		"orange", "black", true, "could kill or badly hurt if it is not avoided", "ANSI Z535.4, 7.2; ISO 3864-2, 5.2"},
	{"caution", map[string]string{"en": "CAUTION", "de": "VORSICHT", "fr": "ATTENTION", "es": "PRECAUCIÓN"}, "yellow",
		"black", true, "could hurt a little if it is not avoided", "ANSI Z535.4, 7.2; ISO 3864-2, 5.2"},
	{"notice", map[string]string{"en": "NOTICE", "de": "HINWEIS", "fr": "AVIS", "es": "AVISO"}, "blue", "white", false,
		"not about people getting hurt", "ANSI Z535.4, 7.2"},
	{"safety", map[string]string{"en": "SAFETY INSTRUCTIONS", "de": "SICHERHEITSHINWEISE",
		"fr": "CONSIGNES DE SÉCURITÉ", "es": "INSTRUCCIONES DE SEGURIDAD"}, "green", "white", false,
		"how to do it safely", "ANSI Z535.4, 7.2"},
}
