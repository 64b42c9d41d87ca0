// Package house_test holds what the whole tree keeps to, which no compiler and no linter sees.
package house_test

import (
	"go/scanner"
	"go/token"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/require"
)

const root = "../.."

// tracked returns the files of the tree whose names match a pattern of git.
func tracked(t *testing.T, patterns ...string) []string {
	out, err := exec.Command("git", append([]string{"-C", root, "ls-files", "--"}, patterns...)...).Output()
	require.NoError(t, err, "list the files of the tree")
	return strings.Fields(string(out))
}

// mostColumns is how wide a line of Go is at most, a tab counted as four.
const mostColumns = 120

// Lines can be read side by side. Raw strings are as they are, and so are generated files and struct tags.
func TestLinesAreNotTooWide(t *testing.T) {
	for _, name := range tracked(t, "*.go", ":!internal/api") {
		source, err := os.ReadFile(filepath.Join(root, name))
		require.NoError(t, err, name)
		raw := rawLines(source)
		for i, line := range strings.Split(string(source), "\n") {
			if width := utf8.RuneCountInString(line) + 3*strings.Count(line, "\t"); width > mostColumns && !raw[i+1] {
				t.Errorf("%s:%d has %d columns: %.60s…", name, i+1, width, strings.TrimSpace(line))
			}
		}
	}
}

// mostLines is how long a file of Go is at most: what is longer has two subjects.
const mostLines = 400

// tables are files that list things, which are read by looking one up.
var tables = map[string]bool{"core/formula/functions.go": true}

func TestFilesAreNotTooLong(t *testing.T) {
	for _, name := range tracked(t, "*.go", ":!internal/api", ":!*_test.go") {
		source, err := os.ReadFile(filepath.Join(root, name))
		require.NoError(t, err, name)
		if lines := strings.Count(string(source), "\n"); lines > mostLines && !tables[name] {
			t.Errorf("%s has %d lines", name, lines)
		}
	}
}

// rawLines returns the lines, from 1, that a raw string stands on.
func rawLines(source []byte) map[int]bool {
	lines, files := map[int]bool{}, token.NewFileSet()
	var s scanner.Scanner
	file := files.AddFile("", files.Base(), len(source))
	s.Init(file, source, nil, 0)
	for {
		at, kind, text := s.Scan()
		if kind == token.EOF {
			return lines
		}
		if kind == token.STRING && strings.HasPrefix(text, "`") {
			for line := range strings.Count(text, "\n") + 1 {
				lines[file.Line(at)+line] = true
			}
		}
	}
}

var (
	named   = regexp.MustCompile("`((?:core|internal|web|cmd|docs|e2e|api|script|standin|examples)/[^` ]*)`")
	example = regexp.MustCompile(`(?m)^Example: [^` + "`" + `\n]*(.*)\.$`)
	needle  = regexp.MustCompile("`([^`]+)`")
)

// expanded returns the paths that a path with one list in braces stands for.
func expanded(path string) []string {
	before, rest, lists := strings.Cut(path, "{")
	if !lists {
		return []string{path}
	}
	list, after, _ := strings.Cut(rest, "}")
	var all []string
	for _, item := range strings.Split(list, ",") {
		all = append(all, before+item+after)
	}
	return all
}

// Whatever file or folder the docs name is there.
func TestDocsNameFilesThatAreThere(t *testing.T) {
	for _, name := range tracked(t, "*.md") {
		text, err := os.ReadFile(filepath.Join(root, name))
		require.NoError(t, err, name)
		for _, match := range named.FindAllStringSubmatch(string(text), -1) {
			for _, path := range expanded(match[1]) {
				_, err := os.Stat(filepath.Join(root, path))
				require.NoError(t, err, "%s names %s", name, path)
			}
		}
	}
}

// The packages that the README names are there.
func TestTheREADMENamesPackagesThatAreThere(t *testing.T) {
	text, err := os.ReadFile(filepath.Join(root, "README.md"))
	require.NoError(t, err)
	row := regexp.MustCompile("(?m)^\\| `(core|internal)/` \\|(.*)\\|$")
	rows := row.FindAllStringSubmatch(string(text), -1)
	require.Len(t, rows, 2, "a row for core, and one for internal")
	for _, row := range rows {
		for _, name := range regexp.MustCompile("`([a-z]+)`").FindAllStringSubmatch(row[2], -1) {
			found, err := filepath.Glob(filepath.Join(root, row[1], "*", name[1]))
			require.NoError(t, err)
			if _, err := os.Stat(filepath.Join(root, row[1], name[1])); err != nil {
				require.NotEmpty(t, found, "README.md names %s/%s", row[1], name[1])
			}
		}
	}
}

// The lists of docs/how-to-add.md are complete: every file that has to do with the example of a list stands in it.
func TestHowToAddNamesEveryFile(t *testing.T) {
	text, err := os.ReadFile(filepath.Join(root, "docs/how-to-add.md"))
	require.NoError(t, err, "read the lists")
	looked := 0
	for _, section := range strings.Split(string(text), "\n## ")[1:] {
		about, _, _ := strings.Cut(section, "\n")
		found := example.FindStringSubmatch(section)
		if found == nil {
			continue
		}
		looked++
		listed := map[string]bool{}
		for _, match := range needle.FindAllStringSubmatch(section, -1) {
			for _, path := range expanded(match[1]) {
				listed[path] = true
			}
		}
		search := []string{"-C", root, "grep", "-lIw"}
		for _, match := range needle.FindAllStringSubmatch(found[1], -1) {
			search = append(search, "-e", match[1])
		}
		search = append(search, "--", ":!*_test.go", ":!e2e", ":!internal/api", ":!web/src/api/schema.d.ts",
			":!docs/how-to-add.md", ":!docs/words.md", ":!docs/architecture.md")
		out, err := exec.Command("git", search...).Output()
		require.NoError(t, err, "look for the example of %q", about)
		for _, name := range strings.Fields(string(out)) {
			require.True(t, listed[name], "%s is to be listed under %q", name, about)
		}
	}
	require.Equal(t, 6, looked, "lists with an example")
}

// The page takes its colours from web/src/theme.ts; the safety colours that a sentence names are words.
func TestColoursStandInTheTheme(t *testing.T) {
	colour := regexp.MustCompile(`#[0-9a-fA-F]{6}\b|#[0-9a-fA-F]{8}\b|:\s*#[0-9a-fA-F]{3}\b|\brgba?\(`)
	for _, name := range tracked(t, "web/src/*.vue", "web/src/*.ts", "web/src/*.css", ":!web/src/api",
		":!web/src/theme.ts",
		":!web/src/places/safety/SymbolsPanel.vue") {
		text, err := os.ReadFile(filepath.Join(root, name))
		require.NoError(t, err, name)
		for i, line := range strings.Split(string(text), "\n") {
			require.NotRegexp(t, colour, line, "%s:%d has a colour of its own; give it a name in theme.ts", name, i+1)
		}
	}
}
