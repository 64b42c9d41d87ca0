package sources

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"
)

// lines reads the lines of a text one by one, each checked and with its line end. Lone carriage returns, as old
// desktop files have them, are line ends; within quotation marks they are part of a value.
type lines struct {
	scanner  *bufio.Scanner
	encoding Encoding
	quotes   bool
	inQuotes bool
	number   int // of the last line, from 1
	lone     int // line ends that are a carriage return alone
	paired   int // that are one with a line feed
	nul      int // NUL characters left out
}

func (s *Source) lines() *lines {
	l := &lines{scanner: bufio.NewScanner(s.text()), encoding: s.Settings.Encoding, quotes: s.Settings.Quotes != QuotesNone}
	l.scanner.Buffer(nil, mostLine)
	l.scanner.Split(l.split)
	return l
}

// split implements bufio.SplitFunc.
func (l *lines) split(data []byte, atEnd bool) (advance int, token []byte, err error) {
	inQuotes := l.inQuotes
	for i, b := range data {
		switch {
		case b == '"' && l.quotes:
			inQuotes = !inQuotes
		case b == '\n':
			l.inQuotes = inQuotes
			if i > 0 && data[i-1] == '\r' {
				l.paired++
			}
			return i + 1, data[:i+1], nil
		case b == '\r' && !inQuotes && i+1 == len(data) && !atEnd:
			return 0, nil, nil // the next byte tells
		case b == '\r' && !inQuotes && (i+1 == len(data) || data[i+1] != '\n'):
			l.inQuotes = inQuotes
			l.lone++
			data[i] = '\n'
			return i + 1, data[:i+1], nil
		}
	}
	if atEnd && len(data) > 0 {
		return len(data), data, nil
	}
	return 0, nil, nil
}

// next returns the next line, which holds until the one after it; io.EOF after the last.
func (l *lines) next() ([]byte, error) {
	if !l.scanner.Scan() {
		switch err := l.scanner.Err(); {
		case err == nil:
			return nil, io.EOF
		case errors.Is(err, bufio.ErrTooLong): // before anything is made of it
			return nil, &FileError{Line: l.number + 1, Text: fmt.Sprintf("The line has more than %d MB, and no row of values is so long. See that this is a file with a line for each record.", mostLine>>20)}
		default:
			return nil, &FileError{Line: l.number + 1, Text: fmt.Sprintf("The file cannot be read as %s: %v. Choose another encoding.", l.encoding, err)}
		}
	}
	l.number++
	line := l.scanner.Bytes()
	switch {
	case ascii(line):
	case l.encoding != UTF8 && bytes.Contains(line, []byte("\uFFFD")):
		return nil, &FileError{Line: l.number, Text: fmt.Sprintf("The file is not %s here. Choose another encoding.", l.encoding)}
	case !utf8.Valid(line):
		return nil, &FileError{Line: l.number, Text: "The file is not UTF-8 here. Choose another encoding, such as Windows-1252."}
	}
	if nul := bytes.Count(line, []byte{0}); nul > 0 { // PostgreSQL holds none, and no label shows one
		l.nul += nul
		line = bytes.ReplaceAll(line, []byte{0}, nil)
	}
	if bytes.ContainsFunc(line, control) {
		return nil, &FileError{Line: l.number, Text: fmt.Sprintf("Read as %s, a control character stands here that no text has. Choose another encoding, or another file.", l.encoding)}
	}
	return line, nil
}

// rows reads rows of values one by one. Blank ones are left out.
type rows struct {
	*lines
	separator string
	skipped   int
	values    *csv.Reader // nil: quotation marks are text
	pending   []byte      // of the line that values reads
	raw       []byte      // lines of the row that values reads
	err       error       // of the lines
}

func (s *Source) rows() *rows {
	r := &rows{lines: s.lines(), separator: s.Settings.Separator, skipped: s.skipped}
	for range s.skipped {
		_, r.err = r.lines.next()
	}
	if r.quotes {
		r.values = csv.NewReader(r)
		r.values.Comma, r.values.LazyQuotes, r.values.FieldsPerRecord = rune(r.separator[0]), true, -1
	}
	return r
}

// Read implements io.Reader: it gives a line at a time, so that nothing is read ahead of a row.
func (r *rows) Read(p []byte) (int, error) {
	if len(r.pending) == 0 {
		line, err := r.line()
		if err != nil {
			r.err = err
			return 0, err
		}
		if len(r.raw)+len(line) > mostLine {
			r.err = &FileError{Line: r.number, Text: notClosed}
			return 0, r.err
		}
		r.pending, r.raw = line, append(r.raw, line...)
	}
	n := copy(p, r.pending)
	r.pending = r.pending[n:]
	return n, nil
}

const notClosed = "A quotation mark opens here and is not closed where its value ends, so that later rows would be taken for one value. Close it, or read the file with quotes as plain text."

// line returns the next line, which has not more separators than any row of values has.
func (r *rows) line() ([]byte, error) {
	line, err := r.lines.next()
	if err == nil && len(line) > mostInLine {
		if n := bytes.Count(line, []byte(r.separator)); n > mostInLine {
			err = &FileError{Line: r.number, Text: fmt.Sprintf("The line has %d separators; up to %d values of a row are read. Is %q the right separator?", n, MostFields, r.separator)}
		}
	}
	return line, err
}

// next returns the next row and the number of its first line; io.EOF after the last.
func (r *rows) next() (row []string, line int, err error) {
	for r.values == nil {
		text, err := r.line()
		if err != nil {
			return nil, 0, err
		}
		if text = bytes.TrimRight(text, "\r\n"); len(bytes.TrimSpace(text)) > 0 {
			return strings.Split(string(text), r.separator), r.number, nil
		}
	}
	for {
		r.raw = r.raw[:0]
		row, err = r.values.Read()
		if r.err != nil && !errors.Is(r.err, io.EOF) {
			return nil, 0, r.err
		}
		if errors.Is(err, io.EOF) {
			return nil, 0, io.EOF
		}
		line, _ = r.values.FieldPos(0)
		line += r.skipped
		if err != nil {
			return nil, 0, &FileError{Line: line, Text: fmt.Sprintf("The row cannot be read: %v.", err)}
		}
		if len(row) == 1 && strings.TrimSpace(row[0]) == "" {
			continue
		}
		if slices.ContainsFunc(row, func(value string) bool { return strings.Contains(value, "\n") }) && runsOn(r.raw, r.separator) {
			return nil, 0, &FileError{Line: line, Text: notClosed}
		}
		return row, line, nil
	}
}

// runsOn tells whether a row goes over several lines by mistake: read to the letter, it is no row.
func runsOn(raw []byte, separator string) bool {
	strict := csv.NewReader(bytes.NewReader(raw))
	strict.Comma, strict.FieldsPerRecord = rune(separator[0]), -1
	_, err := strict.Read()
	return err != nil
}

// headRows are looked at to find the names of the fields.
const headRows = 122

// A width counts the rows of so many values.
type width struct{ rows, first int } // first: the line of the first of them

// scan reads all rows once: it finds the names of the fields, counts, bounds and notes.
func (s *Source) scan(keep func([]string)) error {
	rows := s.rows()
	var head [][]string
	var headLines []int
	for len(head) < headRows {
		row, line, err := rows.next()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return err
		}
		if err := s.narrow(row); err != nil {
			return err
		}
		head, headLines = append(head, row), append(headLines, line)
	}
	if len(head) < headRows && !slices.ContainsFunc(head, says) {
		return errEmpty
	}
	if s.Settings.Header == "" {
		s.Settings.Header = findHeader(head)
	}
	var names []string
	above := s.Settings.Header.row()
	if above > len(head) {
		return &FileError{Text: fmt.Sprintf("The file has no row %d that could name the fields: it has %s.", above, count(len(head), "row", "rows"))}
	} else if above > 0 {
		names = head[above-1]
	}
	widths, widest, values := map[int]width{}, len(names), 0
	take := func(row []string, line int) error {
		if err := s.narrow(row); err != nil {
			return err
		}
		for column, value := range row {
			if len(value) > MostLetters {
				return &FileError{Line: line, Text: fmt.Sprintf("The field %q has %d letters; up to %d are read. A quotation mark may be missing at its end: try without quotes.", nameAt(names, column), len(value), MostLetters)}
			}
		}
		w, known := widths[len(row)]
		if !known {
			w.first = line
		}
		w.rows++
		widths[len(row)] = w
		s.Count, widest, values = s.Count+1, max(widest, len(row)), values+len(row)
		if s.Count > MostRecords {
			return &FileError{Text: fmt.Sprintf("The file has more than %d records. Split it.", MostRecords)}
		}
		if values > MostValues || s.Count*widest > MostValues {
			return &FileError{Text: fmt.Sprintf("%d records of %d values are too much at once: up to %d values are read. Split the file, or leave out columns that no label needs.", s.Count, widest, MostValues)}
		}
		keep(row)
		return nil
	}
	for i, row := range head[above:] {
		if err := take(row, headLines[above+i]); err != nil {
			return err
		}
	}
	for {
		row, line, err := rows.next()
		if errors.Is(err, io.EOF) {
			break
		}
		if err == nil {
			err = take(row, line)
		}
		if err != nil {
			return err
		}
	}
	if s.Count == 0 {
		return &FileError{Text: "The file has names of fields but no records. Add a row for each label."}
	}
	s.say(rows.lines, above, headLines[0])
	s.name(names, widest)
	ragged, first := 0, 0
	for n, w := range widths {
		if n != widest {
			if ragged += w.rows; first == 0 || w.first < first {
				first = w.first
			}
		}
	}
	if ragged > 0 {
		s.note("%s fewer values than the widest (the first in line %d); the missing are empty.", count(ragged, "row has", "rows have"), first)
	}
	return nil
}

// say notes what was put right in lines, and the rows above the one that names the fields.
func (s *Source) say(l *lines, header, firstLine int) {
	if l.nul > 0 {
		s.note("%s left out.", count(l.nul, "NUL character is", "NUL characters are"))
	}
	if l.lone > 0 && l.paired > 0 {
		s.note("Lines end in several ways; all are taken for line ends.")
	}
	if s.skipped > 0 {
		s.note("The first line says which separator is used; it is no record.")
	}
	if header > 1 {
		s.note("%s, from line %d on.", count(header-1, "row stands above the names and is left out", "rows stand above the names and are left out"), firstLine)
	}
}

// narrow refuses a row of more values than are read.
func (s *Source) narrow(row []string) error {
	if len(row) <= MostFields {
		return nil
	}
	return &FileError{Text: fmt.Sprintf("The rows have %d values; up to %d are read. Is %q the right separator?", len(row), MostFields, s.Settings.Separator)}
}

// says tells whether a row has a value that is not blank.
func says(row []string) bool {
	return slices.ContainsFunc(row, func(value string) bool { return strings.TrimSpace(value) != "" })
}

func nameAt(names []string, column int) string {
	if column < len(names) && names[column] != "" {
		return names[column]
	}
	return fmt.Sprintf("column %d", column+1)
}
