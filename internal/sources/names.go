package sources

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"
)

// ofRuns begins the names of what is known of a label as it is printed, which no field of a record may have.
const ofRuns = "run."

// name makes every field's name one of its own.
func (s *Source) name(header []string, width int) {
	for i := range width {
		name := ""
		if i < len(header) {
			name = strings.Join(strings.Fields(header[i]), " ")
			if shown := strings.TrimSpace(shownName(name)); shown != name {
				s.note("The name of column %d has characters that show nothing, or letters written in parts; it is "+
					"called %q.", i+1, shown)
				name = shown
			}
			if rest, is := strings.CutPrefix(name, ofRuns); is { // what a run knows of its labels is called so
				s.note("Names that begin with %q are of what a run knows; column %d is called %q.", ofRuns, i+1,
					"run "+rest)
				name = "run " + rest
			}
		}
		if len(name) > mostName {
			s.note("The name of column %d has %d letters; the first %d are kept.", i+1, len(name), mostName)
			name = strings.ToValidUTF8(name[:mostName], "")
		}
		switch {
		case name == "":
			name = s.free(fmt.Sprintf("column %d", i+1), i)
			if s.Settings.Header.row() > 0 || s.named {
				s.note("Column %d has no name; it is called %q.", i+1, name)
			}
		case slices.Contains(s.Fields, name):
			unique := s.free(name, i)
			s.note("Two columns are called %q; column %d is called %q.", name, i+1, unique)
			name = unique
		}
		s.Fields = append(s.Fields, name)
	}
}

// Names checks the names of fields that a person wrote. Its error is a *FileError.
func Names(written []string) (names []string, err error) {
	for i, name := range written {
		name = strings.Join(strings.Fields(name), " ")
		switch {
		case name == "":
			return nil, &FileError{Text: fmt.Sprintf("Column %d needs a name.", i+1)}
		case len(name) > mostName:
			return nil, &FileError{Text: fmt.Sprintf("The name of column %d has %d letters; up to %d are kept.", i+1,
				len(name), mostName)}
		case slices.Contains(names, name):
			return nil, &FileError{Text: fmt.Sprintf("Two columns are called %q; each needs a name of its own.", name)}
		}
		names = append(names, name)
	}
	return names, nil
}

func (s *Source) free(name string, i int) string {
	for try, n := name, 2; ; n++ {
		if !slices.Contains(s.Fields[:i], try) {
			return try
		}
		try = fmt.Sprintf("%s %d", name, n)
	}
}

func (s *Source) note(format string, args ...any) {
	const most = 20
	if len(s.Notes) < most {
		s.Notes = append(s.Notes, fmt.Sprintf(format, args...))
		return
	}
	s.moreNotes++
	s.Notes = append(s.Notes[:most], fmt.Sprintf("%d more like these.", s.moreNotes))
}

func count(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprint(n, " ", many)
}

// findHeader takes the first row that is as wide as most for names, when none of them has a digit where the rows below
// have them, and none stands among the values. Rows above it that have less are titles.
// What stands in a row because a merged cell above it goes on does not count as a value.
func findHeader(rows [][]string, fromAbove func(row, column int) bool) Header {
	at := titles(rows)
	names, below := rows[at], rows[at+1:min(len(rows), at+21)]
	if len(below) == 0 {
		if slices.ContainsFunc(names, startsWithDigit) {
			return HeaderNone
		}
		return headerAt(at + 1)
	}
	if isValue(names, below) {
		return HeaderNone
	}
	for column, name := range names {
		if startsWithDigit(name) {
			return HeaderNone
		}
		for i, row := range below {
			if fromAbove(at+1+i, column) {
				continue
			}
			if column < len(row) && strings.TrimSpace(name) != "" && row[column] == name && !slices.Equal(names, row) {
				return HeaderNone // a name stands among the values
			}
		}
	}
	return headerAt(at + 1)
}

// isValue tells whether a row that could name the fields looks like the rows below it: one of its values is made as all
// below it are, of letters, digits and signs in the same order, and none of the others tells otherwise. Of a single
// column without a digit its words tell: a list begins with whatever stands in it first.
func isValue(names []string, below [][]string) bool {
	alike := false
	for column, name := range names {
		made, same, digits := makeOf(name), true, 0
		for _, row := range below {
			if column >= len(row) || strings.TrimSpace(row[column]) == "" {
				continue
			}
			same = same && makeOf(row[column]) == made
			if strings.ContainsAny(row[column], "0123456789") {
				digits++
			}
		}
		switch has := strings.Contains(made, "9"); {
		case has && same:
			alike = true
		case !has && 2*digits > len(below):
			return false // it names what has digits
		}
	}
	if len(names) == 1 && !alike {
		return !headsList(names[0]) && !onlyLower(names[0], below)
	}
	return alike
}

// onlyLower tells whether a name has small letters alone, where every row below it begins with a capital.
func onlyLower(name string, below [][]string) bool {
	for _, row := range below {
		first, _ := utf8.DecodeRuneInString(strings.TrimSpace(strings.Join(row, " ")))
		if !unicode.IsUpper(first) {
			return false
		}
	}
	return strings.ToLower(name) == name
}

// makeOf says what a value is made of: a for letters, 9 for digits, and its signs as they are.
func makeOf(value string) string {
	var made []rune
	for _, r := range strings.TrimSpace(value) {
		switch {
		case unicode.IsLetter(r):
			r = 'a'
		case unicode.IsDigit(r):
			r = '9'
		}
		if n := len(made); n == 0 || made[n-1] != r || r != 'a' && r != '9' {
			made = append(made, r)
		}
	}
	return string(made)
}

// headings are words that head the only column of a list; the first of them also behind another word.
var headings = strings.Fields("name text label code id no nr number description value tag " +
	"names texts labels codes ids numbers descriptions values tags legend legends item items article articles sku " +
	"skus bin " +
	"bins location locations serial serials asset assets cable cables wire wires marker markers title titles " +
	"field part " +
	"parts product products lot lots batch batches address addresses circuit circuits place places room rooms " +
	"rack racks " +
	"shelf shelves contents content url link links gtin ean sscc barcode barcodes word words sign signs valve " +
	"valves pump " +
	"pumps")

const behindOthers = 11 // of the headings

// headsList tells whether a text heads the only column of a list.
func headsList(text string) bool {
	text = strings.TrimSpace(text)
	if strings.HasSuffix(text, ":") {
		return true
	}
	words := strings.FieldsFunc(strings.ToLower(text), func(r rune) bool { return !unicode.IsLetter(r) })
	switch len(words) {
	case 1:
		return slices.Contains(headings, words[0])
	case 2, 3:
		return slices.Contains(headings[:behindOthers], words[len(words)-1])
	}
	return false
}

// titles counts the rows at the start that are none of the table: they have few values where most rows have several.
func titles(rows [][]string) int {
	counts, usual := map[int]int{}, 0
	for _, row := range rows[:min(len(rows), 100)] {
		if n := len(row); n > 0 {
			if counts[n]++; counts[n] > counts[usual] {
				usual = n
			}
		}
	}
	for i, row := range rows[:min(len(rows), mostTitleRows+1)] {
		said := 0
		for _, value := range row {
			if strings.TrimSpace(value) != "" {
				said++
			}
		}
		if usual < 2 || said > 1 && 2*said > usual {
			return i
		}
	}
	return 0
}

func startsWithDigit(text string) bool {
	text = strings.TrimSpace(text)
	return text != "" && text[0] >= '0' && text[0] <= '9'
}
