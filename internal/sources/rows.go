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
	strays   strays
}

func (s *Source) lines() *lines {
	l := &lines{scanner: bufio.NewScanner(s.text()), encoding: s.Settings.Encoding,
		quotes: s.Settings.Quotes != QuotesNone}
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
			return nil, &FileError{Line: l.number + 1,
				Text: fmt.Sprintf("The line has more than %d MB, and no row of values is so long. See that this is a "+
					"file with a line for each record.", mostLine>>20)}
		default:
			return nil, &FileError{Line: l.number + 1,
				Text: fmt.Sprintf("The file cannot be read as %s from here on. Choose another encoding.", l.encoding)}
		}
	}
	l.number++
	line := l.scanner.Bytes()
	switch {
	case ascii(line):
	case l.encoding != UTF8 && bytes.Contains(line, []byte("\uFFFD")):
		return nil, &FileError{Line: l.number, Text: fmt.Sprintf("The file is not %s here. Choose another encoding.",
			l.encoding)}
	case !utf8.Valid(line):
		return nil, &FileError{Line: l.number,
			Text: "The file is not UTF-8 here. Choose another encoding, such as Windows-1252."}
	}
	if bytes.ContainsFunc(line, control) {
		if l.encoding != UTF8 && bytes.ContainsFunc(line, func(r rune) bool {
			return r >= utf8.RuneSelf &&
				control(r)
		}) {
			return nil, &FileError{Line: l.number,
				Text: fmt.Sprintf("Read as %s, a control character stands here that no text has. Choose another "+
					"encoding, or another file.", l.encoding)}
		}
		line = l.plain(line)
	}
	return line, nil
}

// plain returns a line without its control characters.
func (l *lines) plain(line []byte) []byte {
	place := 0
	return bytes.Map(func(r rune) rune {
		if place++; !control(r) {
			return r
		}
		l.strays.at(r, "line %d, letter %d", l.number, place)
		return -1
	}, line)
}

// rows reads rows of values one by one.
type rows struct {
	*lines
	separator string
	skipped   int
	values    *csv.Reader // nil: quotation marks are text
	most      int         // lines to look at; 0: all
	pending   []byte      // of the line that values reads
	raw       []byte      // lines of the row that values reads
	blank     int         // lines with nothing in them before the last row
	err       error       // of the lines
}

// separated reads the text by its separators.
func (s *Source) separated() *rows {
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

const notClosed = "A quotation mark opens here and is not closed where its value ends, so that later rows would be " +
	"taken for one value. Close it, or read the file with quotes as plain text."

// line returns the next line, which has not more separators than any row of values has.
func (r *rows) line() ([]byte, error) {
	if r.most > 0 && r.number >= r.most {
		return nil, io.EOF
	}
	line, err := r.lines.next()
	if err == nil && len(line) > mostInLine {
		if n := bytes.Count(line, []byte(r.separator)); n > mostInLine {
			err = &FileError{Line: r.number,
				Text: fmt.Sprintf("The line has %d separators; up to %d values of a row are read. Is %q the right "+
					"separator?", n, MostFields, r.separator)}
		}
	}
	return line, err
}

// next returns the next row and the number of its first line; io.EOF after the last.
func (r *rows) next() (row []string, line int, err error) {
	r.blank = 0
	for r.values == nil {
		text, err := r.line()
		if err != nil {
			return nil, 0, err
		}
		if text = bytes.TrimRight(text, "\r\n"); len(bytes.TrimSpace(text)) > 0 {
			return strings.Split(string(text), r.separator), r.number, nil
		}
		r.blank++
	}
	for {
		before := r.number
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
		if err != nil { // with lazy quotes, there is no such row
			return nil, 0, &FileError{Line: line,
				Text: "The row cannot be read. Read the file with quotes as plain text."}
		}
		r.blank += line - before - 1
		if len(row) == 1 && strings.TrimSpace(row[0]) == "" {
			r.blank++
			continue
		}
		if slices.ContainsFunc(row, func(value string) bool { return strings.Contains(value, "\n") }) &&
			runsOn(r.raw, r.separator) {
			return nil, 0, &FileError{Line: line, Text: notClosed}
		}
		return row, line, nil
	}
}

// skippedLines returns how many lines before the last row had nothing in them.
func (r *rows) skippedLines() int { return r.blank }

// runsOn tells whether a row goes over several lines by mistake: read to the letter, it is no row.
func runsOn(raw []byte, separator string) bool {
	strict := csv.NewReader(bytes.NewReader(raw))
	strict.Comma, strict.FieldsPerRecord = rune(separator[0]), -1
	_, err := strict.Read()
	return err != nil
}

// report notes what was put right in the lines.
func (l *lines) report(s *Source) {
	l.strays.report(s)
	if l.lone > 0 && l.paired > 0 {
		s.note("Lines end in several ways; all are taken for line ends.")
	}
}

// headRows are looked at to find the names of the fields.
const headRows = 122
