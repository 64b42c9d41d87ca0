// Package typefaces brings the typefaces that come with the program into package typeset: import it for its effect.
// It is apart from it so that the core can run where font files are fetched as they are needed. Their licences
// stand in the modules they come from, and on the page About.
package typefaces

import (
	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/dejavu/dejavusansbold"
	"github.com/go-fonts/dejavu/dejavusanscondensed"
	"github.com/go-fonts/dejavu/dejavusanscondensedbold"
	"github.com/go-fonts/dejavu/dejavusanscondensedboldoblique"
	"github.com/go-fonts/dejavu/dejavusanscondensedoblique"
	"github.com/go-fonts/liberation/liberationmonobold"
	"github.com/go-fonts/liberation/liberationmonobolditalic"
	"github.com/go-fonts/liberation/liberationmonoitalic"
	"github.com/go-fonts/liberation/liberationmonoregular"
	"github.com/go-fonts/liberation/liberationsansbold"
	"github.com/go-fonts/liberation/liberationsansbolditalic"
	"github.com/go-fonts/liberation/liberationsansitalic"
	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/go-fonts/liberation/liberationserifbold"
	"github.com/go-fonts/liberation/liberationserifbolditalic"
	"github.com/go-fonts/liberation/liberationserifitalic"
	"github.com/go-fonts/liberation/liberationserifregular"

	"oddspool/core/typeset"
)

// families have a file for each style: regular, bold, italic, bold italic.
var families = []struct {
	name  string
	files [4][]byte
}{
	{"Liberation Sans", [4][]byte{liberationsansregular.TTF, liberationsansbold.TTF, liberationsansitalic.TTF, liberationsansbolditalic.TTF}},
	{"DejaVu Sans Condensed", [4][]byte{dejavusanscondensed.TTF, dejavusanscondensedbold.TTF, dejavusanscondensedoblique.TTF, dejavusanscondensedboldoblique.TTF}},
	{"Liberation Serif", [4][]byte{liberationserifregular.TTF, liberationserifbold.TTF, liberationserifitalic.TTF, liberationserifbolditalic.TTF}},
	{"Liberation Mono", [4][]byte{liberationmonoregular.TTF, liberationmonobold.TTF, liberationmonoitalic.TTF, liberationmonobolditalic.TTF}},
}

func init() {
	for _, family := range families {
		for i, data := range family.files {
			typeset.Register(file(family.name, i&1 == 1, i&2 == 2, false, data))
		}
	}
	typeset.Register(file("DejaVu Sans", false, false, true, dejavusans.TTF))
	typeset.Register(file("DejaVu Sans", true, false, true, dejavusansbold.TTF))
}

func file(family string, bold, italic, standsIn bool, data []byte) typeset.File {
	return typeset.File{Family: family, Bold: bold, Italic: italic, StandsIn: standsIn, Data: func() []byte { return data }}
}
