// Package typefaces brings the typefaces that come with the program into package typeset: import it for its effect.
// It is apart from it so that the core can run where font files are fetched as they are needed. Their licences
// stand in the modules they come from, and on the page About.
package typefaces

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

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
	{"Liberation Sans", [4][]byte{liberationsansregular.TTF, liberationsansbold.TTF, liberationsansitalic.TTF,
		liberationsansbolditalic.TTF}},
	{"DejaVu Sans Condensed", [4][]byte{dejavusanscondensed.TTF, dejavusanscondensedbold.TTF,
		dejavusanscondensedoblique.TTF, dejavusanscondensedboldoblique.TTF}},
	{"Liberation Serif", [4][]byte{liberationserifregular.TTF, liberationserifbold.TTF, liberationserifitalic.TTF,
		liberationserifbolditalic.TTF}},
	{"Liberation Mono", [4][]byte{liberationmonoregular.TTF, liberationmonobold.TTF, liberationmonoitalic.TTF,
		liberationmonobolditalic.TTF}},
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

// AddFolder registers the font files of a folder, TTF and OTF: typefaces that can be chosen and that stand in for the
// scripts that they cover. An installation may leave the folder out, and what comes with the program is not replaced.
// Its error names the first file that cannot be used; the others are registered.
func AddFolder(folder string) error {
	entries, err := os.ReadDir(folder)
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	for _, entry := range entries {
		if kind := strings.ToLower(filepath.Ext(entry.Name())); kind != ".ttf" && kind != ".otf" {
			continue
		}
		data, readErr := os.ReadFile(filepath.Join(folder, entry.Name()))
		var f typeset.File
		if readErr == nil {
			f, _, readErr = typeset.Inspect(data)
		}
		if readErr != nil {
			err = errors.Join(err, fmt.Errorf("%s: %w", entry.Name(), readErr))
			continue
		}
		f.Hash = "" // its bytes are at hand
		if !typeset.Registered(f.Family, f.Bold, f.Italic) {
			typeset.Register(f)
		}
	}
	return err
}

// Beside returns the folder of typefaces beside the program: what ODDSPOOL_TYPEFACES says, else "typefaces" where the
// program lies.
func Beside() string {
	if folder := os.Getenv("ODDSPOOL_TYPEFACES"); folder != "" {
		return folder
	}
	program, err := os.Executable()
	if err != nil {
		return ""
	}
	return filepath.Join(filepath.Dir(program), "typefaces")
}

func file(family string, bold, italic, standsIn bool, data []byte) typeset.File {
	return typeset.File{Family: family, Bold: bold, Italic: italic, StandsIn: standsIn,
		Data: func() []byte { return data }}
}
