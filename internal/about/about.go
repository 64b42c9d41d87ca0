// Package about tells what this program is made of, and under which licences.
package about

import (
	_ "embed"
	"runtime/debug"
	"strings"
	"sync"
)

// Version returns the version control's name of what was built, or "as built" where there is none.
func Version() string {
	info, known := debug.ReadBuildInfo()
	if !known {
		return "as built"
	}
	for _, setting := range info.Settings {
		if setting.Key == "vcs.revision" {
			return setting.Value[:min(len(setting.Value), 12)]
		}
	}
	return "as built"
}

// A Part is something of others' that ships.
type Part struct{ Name, Version, Licence, Text string }

// gathered is written by script/licences: each part begins with a line "§§ name version licence".
//
//go:embed licences.txt
var gathered string

// Parts returns all that ships, with the text of its licence.
var Parts = sync.OnceValue(func() (parts []Part) {
	for _, section := range strings.Split("\n"+gathered, "\n§§ ")[1:] {
		head, text, _ := strings.Cut(section, "\n")
		words := strings.SplitN(head, " ", 3)
		for len(words) < 3 {
			words = append(words, "")
		}
		parts = append(parts, Part{words[0], words[1], words[2], strings.TrimSpace(text)})
	}
	return parts
})
