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

	"oddspool/core/refusal"
)

// Limits of what is taken in at once; docs/limits.md tells them.
const (
	MostBytes     = 64 << 20   // of a file: some 600,000 records of text, more where it is packed
	MostRecords   = 1_000_000  //
	MostFields    = 500        //
	MostLetters   = 10_000     // in one value
	MostValues    = 20_000_000 // of all records
	mostInLine    = 20_000     // separators in a line: more are no row of values
	mostLine      = MostFields * MostLetters
	mostTitleRows = 20 // above the row of names, where it is found
	mostHeader    = 1 << 20
	mostName      = 200 // bytes of a field's name
)

// Settings say how a file is read. What is zero is found from the file itself.
type Settings struct {
	Encoding  Encoding `json:"encoding,omitempty"`
	Separator string   `json:"separator,omitempty"` // one of , ; tab |
	Quotes    Quotes   `json:"quotes,omitempty"`
	Header    Header   `json:"header,omitempty"`
	Sheet     string   `json:"sheet,omitempty"` // of a workbook
	Table     string   `json:"table,omitempty"` // where the list stands in JSON or XML: names with / between them
	// of a text with fixed columns: the place of each one's first letter, such as "1,11,25"
	Columns string `json:"columns,omitempty"`
}

// A Kind is what a file is.
type Kind string

// The kinds.
const (
	Text         Kind = "separated text"
	FixedColumns Kind = "fixed columns"
	XLSX         Kind = "XLSX workbook"
	ODS          Kind = "ODS workbook"
	JSON         Kind = "JSON"
	XML          Kind = "XML"
	DBF          Kind = "DBF"
)

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
	Row  int // of a sheet, or record of a list, from 1; 0: the file as a whole
	Text string
}

func (e *FileError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *FileError) Refusal() *refusal.Error {
	switch {
	case e.Line > 0:
		return lineUnreadable.With(e.Line, e.Text)
	case e.Row > 0:
		return rowUnreadable.With(e.Row, e.Text)
	}
	return fileUnreadable.With(e.Text)
}

// Read reads all records of a file that the program trusts, such as one that comes with it: nothing bounds what its
// reader takes but the limits above. Its error is always a *FileError.
func Read(data []byte, wanted Settings) (*Table, error) {
	t := &Table{}
	source, err := open(bytes.NewReader(data), int64(len(data)), wanted,
		scanOptions{keep: func(row []string) { t.Records = append(t.Records, row) }})
	if err != nil {
		return nil, err
	}
	defer source.Close()
	t.Settings, t.Fields, t.Notes = source.Settings, source.Fields, source.Notes
	for i, row := range t.Records {
		t.Records[i] = source.whole(row)
	}
	return t, nil
}

// A Source is a file whose records are read as they are wanted: what is held of it does not grow with them, but in a
// workbook by the words it keeps.
type Source struct {
	Kind     Kind
	Settings Settings
	Fields   []string
	Count    int      // records
	Notes    []string // what was put right, in plain words; of many, the first, and how many more there are
	Sheets   []string // of a workbook
	Tables   []string // lists in JSON or XML, the one with the most records first

	file      io.ReaderAt
	size      int64
	moreNotes int                  // than are told
	marked    int                  // bytes before the text that say its encoding
	skipped   int                  // lines before the rows: one that says the separator
	above     int                  // rows before the first record
	left      int                  // columns before the first of the table
	named     bool                 // the first row has the names, whatever it is like
	spans     func(row int) []span // cells of a sheet's row that stand over several columns
	rows      func() (rowReader, error)
	fromAbove func(row, column int) bool // the value of a cell is that of a merged one above it; nil: none is
	alive     func()                     // is called again and again while the file is looked through
	end       func() error
}

// A rowReader gives the rows of values of a file, one by one, with their numbers; blank ones are left out. Its error
// after the last is io.EOF.
type rowReader interface {
	next() (row []string, line int, err error)
}

// Close lets go of what was unpacked; the file itself stays open.
func (s *Source) Close() error {
	if s.end == nil {
		return nil
	}
	return s.end()
}

// Records reads all records in order, each as long as Fields. A file that changed meanwhile may give others, or an
// error.
func (s *Source) Records() iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		rows, err := s.rows()
		if err != nil {
			yield(nil, err)
			return
		}
		for range s.above {
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
	row = row[min(s.left, len(row)):]
	if lacks := len(s.Fields) - len(row); lacks > 0 {
		return append(slices.Clip(row), make([]string, lacks)...)
	}
	return row[:min(len(row), len(s.Fields))]
}

// scanOptions say what else is done while a file is looked through; its zero value is nothing.
type scanOptions struct {
	keep   func(row []string) // is given all records, each as long as it is written
	rows   *spool             // keeps rows that are dear to read again; nil: one of its own
	asText bool               // whatever it begins like
	alive  func()             // is called for each record in each reading; nil: nothing is
}

// open looks a file through in this process.
func open(file io.ReaderAt, size int64, wanted Settings, options scanOptions) (*Source, error) {
	if size > MostBytes {
		return nil, &FileError{Text: fmt.Sprintf("The file has %d MB; up to %d MB are read at once. Split it, or "+
			"leave out columns that no label needs.", size>>20, MostBytes>>20)}
	}
	if size == 0 {
		return nil, errEmpty
	}
	if err := wanted.check(); err != nil {
		return nil, err
	}
	s := &Source{Kind: Text, Settings: wanted, file: file, size: size, alive: options.alive}
	if s.alive == nil {
		s.alive = func() {}
	}
	head := make([]byte, min(size, 64<<10))
	if _, err := file.ReadAt(head, 0); err != nil && !errors.Is(err, io.EOF) {
		return nil, fmt.Errorf("read records: %w", err)
	}
	if bytes.HasPrefix(head, []byte(compoundFile)) {
		return nil, s.oldWorkbook()
	}
	find := s.findText
	kind := kindOf(head)
	if options.asText {
		kind = Text
	}
	switch kind {
	case XLSX: // or ODS: both are zip files
		find = s.findWorkbook
	case JSON:
		find = s.findJSON
	case XML:
		find = s.findXML
	case DBF:
		find = s.findDBF
	case SQLite:
		find = s.findSQLite
	}
	err := find(head)
	if err == nil {
		err = s.misfit(wanted)
	}
	if err == nil {
		err = s.scan(options)
	}
	if err != nil {
		_ = s.Close() // what is wrong with the file counts
		return nil, err
	}
	return s, nil
}

// misfit refuses choices that this kind of file does not have.
func (s *Source) misfit(wanted Settings) error {
	is := "The file is " + string(s.Kind)
	switch {
	case s.Settings.Sheet != "" && s.Kind != XLSX && s.Kind != ODS:
		return &FileError{Text: is + " and has no sheets; leave the sheet out."}
	case s.Settings.Table != "" && s.Kind != JSON && s.Kind != XML && s.Kind != SQLite:
		return &FileError{Text: is + " and has no lists within it; leave the table out."}
	case s.Settings.Columns != "" && s.Kind != FixedColumns:
		return &FileError{Text: is + "; columns by their places are for text."}
	case s.Settings.Separator != "" && s.Kind != Text:
		return &FileError{Text: is + " and has no separators; leave the separator out."}
	case s.Settings.Quotes != "" && s.Kind != Text:
		return &FileError{Text: is + " and has no quotes round its values; leave the quotes out."}
	case s.Settings.Header != "" && s.named:
		return &FileError{Text: is + ", which names its values itself; leave the row of names out."}
	case wanted.Encoding != "" && (s.Kind == XLSX || s.Kind == ODS || s.Kind == XML || s.Kind == SQLite):
		return &FileError{Text: is + ", which says itself how its letters are; leave the encoding out."}
	}
	return nil
}

var errEmpty = &FileError{Text: "The file is empty. Choose one with a row of names and a row for each label."}

// check refuses choices that are none.
func (s *Settings) check() error {
	switch {
	case s.Separator != "" && !slices.Contains(separators, s.Separator):
		return &FileError{Text: fmt.Sprintf("The separator %q is not known; choose comma, semicolon, tab or bar.",
			s.Separator)}
	case s.Quotes != "" && s.Quotes != QuotesDouble && s.Quotes != QuotesNone:
		return &FileError{Text: fmt.Sprintf("The quotes %q are not known; choose %q or %q.", s.Quotes, QuotesDouble,
			QuotesNone)}
	case s.Header != "" && s.Header != HeaderFirst && s.Header != HeaderNone && s.Header.row() == 0:
		return &FileError{Text: fmt.Sprintf("The header %q is not known; choose %q, %q, or a row such as \"row 3\".",
			s.Header, HeaderFirst, HeaderNone)}
	}
	return nil
}

// Row returns the number of the row that names the fields, from 1; 0: none does.
func (h Header) Row() int { return h.row() }

// row returns which row of those that are not blank names the fields, from 1; 0: none.
func (h Header) row() int {
	if h == HeaderFirst {
		return 1
	}
	number, isRow := strings.CutPrefix(string(h), "row ")
	if n, err := strconv.Atoi(number); isRow && err == nil && n >= 1 && n <= mostHeader {
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
