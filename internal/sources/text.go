// Package sources reads records from where they come from. Whatever a file holds becomes a table
// of text: leading zeros, twenty-digit numbers and things that look like dates stay as written.
package sources

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
)

// Limits of what is taken in at once; docs/limits.md tells them.
const (
	MostBytes     = 64 << 20  // of a file: some 600,000 records
	MostRecords   = 1_000_000 //
	MostFields    = 500       //
	MostLetters   = 10_000    // bytes in one value
	MostValues    = 5_000_000 // of all records
	mostInLine    = 20_000    // separators in a line: more are no row of values
	mostLine      = MostFields * MostLetters
	mostTitleRows = 20  // above the row of names
	mostName      = 200 // bytes of a field's name
)

// Settings say how a text file is read. What is zero is found from the file itself.
type Settings struct {
	Encoding  Encoding `json:"encoding,omitempty"`
	Separator string   `json:"separator,omitempty"` // one of , ; tab |
	Quotes    Quotes   `json:"quotes,omitempty"`
	Header    Header   `json:"header,omitempty"`
}

// Quotes say whether quotation marks hold values together.
type Quotes string

// Header says whether the first row names the fields.
type Header string

// The choices for quotes and header.
const (
	QuotesDouble Quotes = "double"
	QuotesNone   Quotes = "none"
	HeaderFirst  Header = "first row"
	HeaderNone   Header = "none"
)

// separators in the order they are tried; the earlier wins among equals.
var separators = []string{";", "\t", ",", "|"}

// A Table is what was read, with the settings that were used.
type Table struct {
	Settings Settings
	Fields   []string
	Records  [][]string // each as long as Fields
	Notes    []string   // what was put right, in plain words
}

// A FileError says why a file cannot be used as records, and what to do.
type FileError struct {
	Line int // from 1; 0: the file as a whole
	Text string
}

func (e *FileError) Error() string {
	if e.Line > 0 {
		return fmt.Sprintf("line %d: %s", e.Line, e.Text)
	}
	return e.Text
}

// ReadText reads a text file of separated values. Its error is always a *FileError.
func ReadText(data []byte, wanted Settings) (*Table, error) {
	if len(data) > MostBytes {
		return nil, &FileError{Text: fmt.Sprintf("The file has %d MB; up to %d MB are read at once. Split it, or leave out columns that no label needs.", len(data)>>20, MostBytes>>20)}
	}
	if len(data) == 0 {
		return nil, errEmpty
	}
	t := &Table{Settings: wanted}
	if err := wanted.check(); err != nil {
		return nil, err
	}
	text, err := t.decode(data)
	if err != nil {
		return nil, err
	}
	if len(bytes.TrimSpace(text)) == 0 {
		return nil, errEmpty
	}
	if t.Settings.Quotes == "" {
		t.Settings.Quotes = QuotesDouble
	}
	text, firstLine := t.separatorLine(t.lineEnds(text))
	if number, length := longestLine(text); length > mostLine { // before anything is made of it
		return nil, &FileError{Line: number + firstLine, Text: fmt.Sprintf("The line has %d MB, and no row of values is so long. See that this is a file with a line for each record.", length>>20)}
	}
	if t.Settings.Separator == "" {
		t.Settings.Separator = findSeparator(text, t.Settings.Quotes)
	}
	rows, lines, err := split(text, t.Settings.Separator, t.Settings.Quotes, 0)
	if err != nil {
		var file *FileError
		if errors.As(err, &file) && file.Line > 0 {
			file.Line += firstLine
		}
		return nil, err
	}
	for i := range lines {
		lines[i] += firstLine
	}
	if len(rows) == 0 {
		return nil, errEmpty
	}
	return t, t.arrange(rows, lines)
}

var errEmpty = &FileError{Text: "The file is empty. Choose one with a row of names and a row for each label."}

// check refuses choices that are none.
func (s *Settings) check() error {
	switch {
	case s.Separator != "" && !slices.Contains(separators, s.Separator):
		return &FileError{Text: fmt.Sprintf("The separator %q is not known; choose comma, semicolon, tab or bar.", s.Separator)}
	case s.Quotes != "" && s.Quotes != QuotesDouble && s.Quotes != QuotesNone:
		return &FileError{Text: fmt.Sprintf("The quotes %q are not known; choose %q or %q.", s.Quotes, QuotesDouble, QuotesNone)}
	case s.Header != "" && s.Header != HeaderFirst && s.Header != HeaderNone && s.Header.row() == 0:
		return &FileError{Text: fmt.Sprintf("The header %q is not known; choose %q, %q, or a row such as \"row 3\", up to row %d.", s.Header, HeaderFirst, HeaderNone, mostTitleRows+1)}
	}
	return nil
}

// row returns which row of those that are not blank names the fields, from 1; 0: none.
func (h Header) row() int {
	if h == HeaderFirst {
		return 1
	}
	number, isRow := strings.CutPrefix(string(h), "row ")
	if n, err := strconv.Atoi(number); isRow && err == nil && n >= 1 && n <= mostTitleRows+1 {
		return n
	}
	return 0
}

func headerAt(row int) Header {
	if row == 1 {
		return HeaderFirst
	}
	return Header(fmt.Sprintf("row %d", row))
}

// lineEnds makes lone carriage returns, as old desktop files have them, the line ends that they are; within quotation marks
// they are part of a value.
func (t *Table) lineEnds(text []byte) []byte {
	inQuotes, lone := false, 0
	for i, b := range text {
		switch {
		case b == '"' && t.Settings.Quotes != QuotesNone:
			inQuotes = !inQuotes
		case b == '\r' && !inQuotes && (i+1 == len(text) || text[i+1] != '\n'):
			if lone == 0 {
				text = bytes.Clone(text)
			}
			lone++
			text[i] = '\n'
		}
	}
	if lone > 0 && bytes.Contains(text, []byte("\r\n")) {
		t.note("Lines end in several ways; all are taken for line ends.")
	}
	return text
}

// separatorLine takes a first line "sep=;", which spreadsheets write, for what it says. It returns how many lines it took.
func (t *Table) separatorLine(text []byte) ([]byte, int) {
	line, rest, more := bytes.Cut(text, []byte("\n"))
	said, isIt := strings.CutPrefix(strings.ToLower(strings.Trim(string(line[:min(len(line), 20)]), "\"\r ")), "sep=")
	if !isIt || !more || !slices.Contains(separators, said) {
		return text, 0
	}
	if t.Settings.Separator == "" {
		t.Settings.Separator = said
	}
	t.note("The first line says which separator is used; it is no record.")
	return rest, 1
}

// findSeparator takes the one that cuts most of the first rows into the same number of values,
// more than one.
func findSeparator(text []byte, quotes Quotes) string {
	const rows = 50
	best, bestScore := ",", 0.0
	for _, separator := range separators {
		cut, _, err := split(text, separator, quotes, rows)
		if err != nil || len(cut) == 0 {
			continue
		}
		counts := map[int]int{}
		for _, row := range cut {
			counts[len(row)]++
		}
		usual, times := 1, 0
		for n, c := range counts {
			if c > times || c == times && n > usual {
				usual, times = n, c
			}
		}
		if usual == 1 {
			continue
		}
		if score := float64(times)/float64(len(cut)) + float64(min(usual, 20))/1000; score > bestScore {
			best, bestScore = separator, score
		}
	}
	return best
}

// split cuts text into rows of values, at most so many; 0 is all. Blank rows are left out.
func split(text []byte, separator string, quotes Quotes, most int) (rows [][]string, lines []int, err error) {
	if most == 0 {
		most = MostRecords + mostTitleRows + 2 // one more than is taken, so that it is seen
	}
	values := 0
	full := func(row []string) bool {
		values += len(row)
		return len(rows) >= most || values > MostValues+MostFields
	}
	if quotes == QuotesNone {
		number := 0
		for line := range bytes.Lines(text) {
			number++
			if line = bytes.TrimRight(line, "\r\n"); len(bytes.TrimSpace(line)) == 0 {
				continue
			}
			if err := wide(line, separator, number); err != nil {
				return nil, nil, err
			}
			row := strings.Split(string(line), separator)
			rows, lines = append(rows, row), append(lines, number)
			if full(row) {
				break
			}
		}
		return rows, lines, nil
	}
	number := 0
	for line := range bytes.Lines(text) { // before anything is made of it
		number++
		if err := wide(line, separator, number); err != nil {
			return nil, nil, err
		}
		if number > 2*most {
			break
		}
	}
	reader := csv.NewReader(bytes.NewReader(text))
	reader.Comma, reader.LazyQuotes, reader.FieldsPerRecord = rune(separator[0]), true, -1
	for {
		start := reader.InputOffset()
		row, err := reader.Read()
		if errors.Is(err, io.EOF) {
			return rows, lines, nil
		}
		line, _ := reader.FieldPos(0)
		if err != nil {
			return nil, nil, &FileError{Line: line, Text: fmt.Sprintf("The row cannot be read: %v.", err)}
		}
		if len(row) == 1 && strings.TrimSpace(row[0]) == "" {
			continue
		}
		if slices.ContainsFunc(row, func(value string) bool { return strings.Contains(value, "\n") }) && open(text[start:reader.InputOffset()], separator) {
			return nil, nil, &FileError{Line: line, Text: "A quotation mark opens here and is not closed where its value ends, so that later rows would be taken for one value. Close it, or read the file with quotes as plain text."}
		}
		rows, lines = append(rows, row), append(lines, line)
		if full(row) {
			return rows, lines, nil
		}
	}
}

// open tells whether a row that goes over several lines does so by mistake: read to the letter, it is no row.
func open(raw []byte, separator string) bool {
	strict := csv.NewReader(bytes.NewReader(raw))
	strict.Comma, strict.FieldsPerRecord = rune(separator[0]), -1
	_, err := strict.Read()
	return err != nil
}

// longestLine returns the number, from 1, and the bytes of the longest line.
func longestLine(text []byte) (number, length int) {
	at := 0
	for line := range bytes.Lines(text) {
		if at++; len(line) > length {
			number, length = at, len(line)
		}
	}
	return number, length
}

// wide refuses a line with more separators than any row of values has.
func wide(line []byte, separator string, number int) error {
	if len(line) <= mostInLine {
		return nil
	}
	if n := bytes.Count(line, []byte(separator)); n > mostInLine {
		return &FileError{Line: number, Text: fmt.Sprintf("The line has %d separators; up to %d values of a row are read. Is %q the right separator?", n, MostFields, separator)}
	}
	return nil
}

// arrange makes fields and records of rows.
func (t *Table) arrange(rows [][]string, lines []int) error {
	if t.Settings.Header == "" {
		t.Settings.Header = findHeader(rows)
	}
	width, values := 0, 0
	for _, row := range rows {
		width, values = max(width, len(row)), values+len(row)
	}
	if width > MostFields {
		return &FileError{Text: fmt.Sprintf("The rows have %d values; up to %d are read. Is %q the right separator?", width, MostFields, t.Settings.Separator)}
	}
	var header []string
	if n := t.Settings.Header.row(); n > len(rows) {
		return &FileError{Text: fmt.Sprintf("The file has no row %d that could name the fields: it has %s.", n, count(len(rows), "row", "rows"))}
	} else if n > 0 {
		if n > 1 {
			t.note("%s, from line %d on.", count(n-1, "row stands above the names and is left out", "rows stand above the names and are left out"), lines[0])
		}
		header, rows, lines = rows[n-1], rows[n:], lines[n:]
		width = len(header)
		for _, row := range rows {
			width = max(width, len(row))
		}
	}
	if len(rows) == 0 {
		return &FileError{Text: "The file has names of fields but no records. Add a row for each label."}
	}
	if len(rows) > MostRecords {
		return &FileError{Text: fmt.Sprintf("The file has more than %d records. Split it.", MostRecords)}
	}
	if values > MostValues || len(rows)*width > MostValues {
		return &FileError{Text: fmt.Sprintf("%d records of %d values are too much at once: up to %d values are read. Split the file, or leave out columns that no label needs.", len(rows), width, MostValues)}
	}
	t.name(header, width)
	ragged, firstRagged := 0, 0
	for i, row := range rows {
		if len(row) != width {
			if ragged++; ragged == 1 {
				firstRagged = i
			}
			row = append(slices.Clip(row), make([]string, width-len(row))...)
		}
		for column, value := range row {
			if len(value) > MostLetters {
				return &FileError{Line: lines[i], Text: fmt.Sprintf("The field %q has %d letters; up to %d are read. A quotation mark may be missing at its end: try without quotes.", t.Fields[column], len(value), MostLetters)}
			}
		}
		rows[i] = row
	}
	t.Records = rows
	if ragged > 0 {
		t.note("%s fewer values than the widest (the first in line %d); the missing are empty.", count(ragged, "row has", "rows have"), lines[firstRagged])
	}
	return nil
}

// name makes every field's name one of its own.
func (t *Table) name(header []string, width int) {
	for i := range width {
		name := ""
		if i < len(header) {
			name = strings.Join(strings.Fields(header[i]), " ")
		}
		if len(name) > mostName {
			t.note("The name of column %d has %d letters; the first %d are kept.", i+1, len(name), mostName)
			name = strings.ToValidUTF8(name[:mostName], "")
		}
		switch {
		case name == "":
			name = t.free(fmt.Sprintf("column %d", i+1), i)
			if t.Settings.Header == HeaderFirst {
				t.note("Column %d has no name; it is called %q.", i+1, name)
			}
		case slices.Contains(t.Fields, name):
			unique := t.free(name, i)
			t.note("Two columns are called %q; column %d is called %q.", name, i+1, unique)
			name = unique
		}
		t.Fields = append(t.Fields, name)
	}
}

func (t *Table) free(name string, i int) string {
	for try, n := name, 2; ; n++ {
		if !slices.Contains(t.Fields[:i], try) {
			return try
		}
		try = fmt.Sprintf("%s %d", name, n)
	}
}

func (t *Table) note(format string, args ...any) {
	if len(t.Notes) < 20 {
		t.Notes = append(t.Notes, fmt.Sprintf(format, args...))
	}
}

func count(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprint(n, " ", many)
}

// findHeader takes the first row that is as wide as most for names, when none of them has a digit where the rows below
// have them, and none stands among the values. Rows above it that have less are titles.
func findHeader(rows [][]string) Header {
	at := titles(rows)
	names, below := rows[at], rows[at+1:min(len(rows), at+21)]
	if len(below) == 0 {
		if slices.ContainsFunc(names, startsWithDigit) {
			return HeaderNone
		}
		return headerAt(at + 1)
	}
	for column, name := range names {
		if startsWithDigit(name) {
			return HeaderNone
		}
		for _, row := range below {
			if column < len(row) && strings.TrimSpace(name) != "" && row[column] == name {
				return HeaderNone // a name stands among the values
			}
		}
	}
	return headerAt(at + 1)
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
