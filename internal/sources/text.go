// Package sources reads records from where they come from. Whatever a file holds becomes a table
// of text: leading zeros, twenty-digit numbers and things that look like dates stay as written.
package sources

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"iter"
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
	t := &Table{}
	source, err := open(bytes.NewReader(data), int64(len(data)), wanted, func(row []string) { t.Records = append(t.Records, row) })
	if err != nil {
		return nil, err
	}
	t.Settings, t.Fields, t.Notes = source.Settings, source.Fields, source.Notes
	for i, row := range t.Records {
		t.Records[i] = source.whole(row)
	}
	return t, nil
}

// A Source is a text file of separated values whose records are read as they are wanted: what is held of it does
// not grow with them.
type Source struct {
	Settings Settings
	Fields   []string
	Count    int      // records
	Notes    []string // what was put right, in plain words

	file    io.ReaderAt
	size    int64
	marked  int // bytes before the text that say its encoding
	skipped int // lines before the rows: one that says the separator
}

// Open looks a file through and finds how it is to be read. Its error is always a *FileError, or what the file answers.
func Open(file io.ReaderAt, size int64, wanted Settings) (*Source, error) {
	return open(file, size, wanted, func([]string) {})
}

// Records reads all records in order, each as long as Fields. A file that changed meanwhile may give others, or an error.
func (s *Source) Records() iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		rows := s.rows()
		for range s.Settings.Header.row() {
			if _, _, err := rows.next(); err != nil {
				yield(nil, err)
				return
			}
		}
		for range s.Count {
			row, _, err := rows.next()
			if errors.Is(err, io.EOF) {
				err = &FileError{Text: "The file changed while it was read. Read it again."}
			}
			if !yield(s.whole(row), err) || err != nil {
				return
			}
		}
	}
}

// whole makes a row as long as the widest.
func (s *Source) whole(row []string) []string {
	if lacks := len(s.Fields) - len(row); lacks > 0 {
		return append(slices.Clip(row), make([]string, lacks)...)
	}
	return row[:min(len(row), len(s.Fields))]
}

// open looks a file through and gives keep its records, each as long as it is written.
func open(file io.ReaderAt, size int64, wanted Settings, keep func([]string)) (*Source, error) {
	if size > MostBytes {
		return nil, &FileError{Text: fmt.Sprintf("The file has %d MB; up to %d MB are read at once. Split it, or leave out columns that no label needs.", size>>20, MostBytes>>20)}
	}
	if size == 0 {
		return nil, errEmpty
	}
	if err := wanted.check(); err != nil {
		return nil, err
	}
	s := &Source{Settings: wanted, file: file, size: size}
	if err := s.findEncoding(); err != nil {
		return nil, err
	}
	if s.Settings.Quotes == "" {
		s.Settings.Quotes = QuotesDouble
	}
	if err := s.separatorLine(); err != nil {
		return nil, err
	}
	if s.Settings.Separator == "" {
		s.Settings.Separator = s.findSeparator()
	}
	return s, s.scan(keep)
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

// separatorLine takes a first line "sep=;", which spreadsheets write, for what it says.
func (s *Source) separatorLine() error {
	line, err := s.lines().next()
	if errors.Is(err, io.EOF) {
		return errEmpty
	}
	if err != nil {
		return err
	}
	said, isIt := strings.CutPrefix(strings.ToLower(strings.Trim(string(line[:min(len(line), 20)]), "\"\r\n ")), "sep=")
	if !isIt || !slices.Contains(separators, said) {
		return nil
	}
	if s.Settings.Separator == "" {
		s.Settings.Separator = said
	}
	s.skipped = 1
	return nil
}

// findSeparator takes the one that cuts most of the first rows into the same number of values,
// more than one.
func (s *Source) findSeparator() string {
	const rows = 50
	best, bestScore := ",", 0.0
	for _, separator := range separators {
		tried := *s
		tried.Settings.Separator = separator
		var cut [][]string
		var err error
		for reader := tried.rows(); len(cut) < rows && err == nil; {
			var row []string
			if row, _, err = reader.next(); err == nil {
				cut = append(cut, row)
			}
		}
		if err != nil && !errors.Is(err, io.EOF) || len(cut) == 0 {
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
