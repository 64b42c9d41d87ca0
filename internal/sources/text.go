// Package sources reads records from where they come from. Whatever a file holds becomes a table
// of text: leading zeros, twenty-digit numbers and things that look like dates stay as written.
package sources

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// Limits of what is taken in at once.
const (
	MostBytes   = 64 << 20  // of a file: some 600,000 records
	MostRecords = 1_000_000 //
	MostFields  = 500       //
	MostLetters = 10_000    // bytes in one value
)

// An Encoding is how a file's bytes are letters.
type Encoding string

// The encodings that are found and can be chosen.
const (
	UTF8        Encoding = "UTF-8"
	UTF16LE     Encoding = "UTF-16LE"
	UTF16BE     Encoding = "UTF-16BE"
	Windows1252 Encoding = "Windows-1252"
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
	t := &Table{Settings: wanted}
	text, err := t.decode(data)
	if err != nil {
		return nil, err
	}
	if strings.TrimSpace(text) == "" {
		return nil, &FileError{Text: "The file is empty. Choose one with a row of names and a row for each label."}
	}
	if !strings.Contains(text, "\n") {
		text = strings.ReplaceAll(text, "\r", "\n") // the line ends of old desktop files
	}
	if t.Settings.Quotes == "" {
		t.Settings.Quotes = QuotesDouble
	}
	if t.Settings.Separator == "" {
		t.Settings.Separator = findSeparator(text, t.Settings.Quotes)
	}
	if !slices.Contains(separators, t.Settings.Separator) {
		return nil, &FileError{Text: fmt.Sprintf("The separator %q is not known; choose comma, semicolon, tab or bar.", t.Settings.Separator)}
	}
	rows, lines, err := split(text, t.Settings.Separator, t.Settings.Quotes, 0)
	if err != nil {
		return nil, err
	}
	return t, t.arrange(rows, lines)
}

// decode turns bytes into text and notes the encoding.
func (t *Table) decode(data []byte) (string, error) {
	marked := t.Settings.Encoding
	for _, mark := range []struct {
		bytes    string
		encoding Encoding
	}{{"\xef\xbb\xbf", UTF8}, {"\xff\xfe", UTF16LE}, {"\xfe\xff", UTF16BE}} {
		if bytes.HasPrefix(data, []byte(mark.bytes)) && (marked == "" || marked == mark.encoding) {
			data, marked = data[len(mark.bytes):], mark.encoding
			break
		}
	}
	if marked == "" {
		marked = guess(data)
		if marked == "" {
			return "", &FileError{Text: fmt.Sprintf("This is no text but %s. Save the records as CSV and choose that file.", contentName(data))}
		}
	}
	t.Settings.Encoding = marked
	var decoder *encoding.Decoder
	switch marked {
	case UTF8:
		if !utf8.Valid(data) {
			return "", &FileError{Line: firstInvalid(data), Text: "The file is not UTF-8 here. Choose another encoding, such as Windows-1252."}
		}
		return strings.ReplaceAll(string(data), "\x00", ""), nil
	case UTF16LE:
		decoder = unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM).NewDecoder()
	case UTF16BE:
		decoder = unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM).NewDecoder()
	case Windows1252:
		decoder = charmap.Windows1252.NewDecoder()
	default:
		return "", &FileError{Text: fmt.Sprintf("The encoding %q is not known; choose %s, %s, %s or %s.", marked, UTF8, UTF16LE, UTF16BE, Windows1252)}
	}
	text, err := decoder.Bytes(data)
	if err != nil {
		return "", &FileError{Text: fmt.Sprintf("The file cannot be read as %s: %v. Choose another encoding.", marked, err)}
	}
	return strings.ReplaceAll(string(text), "\x00", ""), nil // PostgreSQL holds no NUL, and no label shows one
}

// guess finds the encoding of unmarked bytes; empty when they are no text.
func guess(data []byte) Encoding {
	head := data[:min(len(data), 64<<10)]
	var even, odd int
	for i, b := range head {
		if b == 0 {
			if i%2 == 0 {
				even++
			} else {
				odd++
			}
		}
	}
	switch half := len(head) / 2; {
	case odd*5 > half*2 && even*20 < half:
		return UTF16LE
	case even*5 > half*2 && odd*20 < half:
		return UTF16BE
	case even+odd > 0 || !strings.HasPrefix(http.DetectContentType(head), "text/") && control(head):
		return ""
	case utf8.Valid(data):
		return UTF8
	}
	return Windows1252
}

// control tells whether bytes have control characters that no text file has.
func control(head []byte) bool {
	return bytes.ContainsFunc(head, func(r rune) bool { return r < 0x20 && r != '\t' && r != '\n' && r != '\r' && r != 0x1d && r != 0x0c })
}

func contentName(data []byte) string {
	kind, _, _ := strings.Cut(http.DetectContentType(data), ";")
	switch {
	case strings.HasPrefix(kind, "image/"):
		return "a picture (" + kind + ")"
	case kind == "application/zip":
		return "a workbook or archive (" + kind + ")"
	case kind == "application/octet-stream":
		return "binary data"
	}
	return kind
}

func firstInvalid(data []byte) int {
	line := 1
	for len(data) > 0 {
		r, size := utf8.DecodeRune(data)
		if r == utf8.RuneError && size == 1 {
			break
		}
		if r == '\n' {
			line++
		}
		data = data[size:]
	}
	return line
}

// findSeparator takes the one that cuts most of the first rows into the same number of values,
// more than one.
func findSeparator(text string, quotes Quotes) string {
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
func split(text, separator string, quotes Quotes, most int) (rows [][]string, lines []int, err error) {
	if quotes == QuotesNone {
		number := 0
		for line := range strings.Lines(text) {
			number++
			if line = strings.TrimRight(line, "\r\n"); strings.TrimSpace(line) == "" {
				continue
			}
			rows, lines = append(rows, strings.Split(line, separator)), append(lines, number)
			if len(rows) == most || len(rows) > MostRecords {
				break
			}
		}
		return rows, lines, nil
	}
	reader := csv.NewReader(strings.NewReader(text))
	reader.Comma, reader.LazyQuotes, reader.FieldsPerRecord = rune(separator[0]), true, -1
	for {
		row, err := reader.Read()
		if errors.Is(err, io.EOF) {
			return rows, lines, nil
		}
		if err != nil {
			line, _ := reader.FieldPos(0)
			return nil, nil, &FileError{Line: line, Text: fmt.Sprintf("The row cannot be read: %v.", err)}
		}
		if len(row) == 1 && strings.TrimSpace(row[0]) == "" {
			continue
		}
		line, _ := reader.FieldPos(0)
		rows, lines = append(rows, row), append(lines, line)
		if len(rows) == most || len(rows) > MostRecords {
			return rows, lines, nil
		}
	}
}

// arrange makes fields and records of rows.
func (t *Table) arrange(rows [][]string, lines []int) error {
	if t.Settings.Header == "" {
		t.Settings.Header = findHeader(rows)
	}
	width := 0
	for _, row := range rows {
		width = max(width, len(row))
	}
	if width > MostFields {
		return &FileError{Text: fmt.Sprintf("The rows have %d values; up to %d are read. Is %q the right separator?", width, MostFields, t.Settings.Separator)}
	}
	var header []string
	if t.Settings.Header == HeaderFirst {
		header, rows, lines = rows[0], rows[1:], lines[1:]
	}
	if len(rows) == 0 {
		return &FileError{Text: "The file has names of fields but no records. Add a row for each label."}
	}
	if len(rows) > MostRecords {
		return &FileError{Text: fmt.Sprintf("The file has more than %d records. Split it.", MostRecords)}
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
		t.Records = append(t.Records, row)
	}
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
		if len(name) > 200 {
			name = strings.ToValidUTF8(name[:200], "")
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

// findHeader takes the first row for names when none of them has a digit where the rows below
// have them, and none is empty or there twice.
func findHeader(rows [][]string) Header {
	if len(rows) < 2 {
		if slices.ContainsFunc(rows[0], startsWithDigit) {
			return HeaderNone
		}
		return HeaderFirst
	}
	for column, name := range rows[0] {
		if startsWithDigit(name) {
			return HeaderNone
		}
		for _, row := range rows[1:min(len(rows), 20)] {
			if column < len(row) && strings.TrimSpace(name) != "" && row[column] == name {
				return HeaderNone // a name stands among the values
			}
		}
	}
	return HeaderFirst
}

func startsWithDigit(text string) bool {
	text = strings.TrimSpace(text)
	return text != "" && text[0] >= '0' && text[0] <= '9'
}
