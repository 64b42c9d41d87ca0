package sources

import (
	"archive/zip"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/klauspost/compress/flate"
)

// Limits of a workbook, whose file is packed.
const (
	mostUnpacked = 512 << 20 // bytes of all its parts
	mostMerged   = 100_000   // cells that stand over several
)

// A span is a cell that stands over several columns, counted from 0.
type span struct{ from, to int }

// A merged is a cell that stands over several, its places counted from 0, its rows from 1.
type merged struct {
	span
	top, bottom int
}

// findWorkbook opens a workbook and chooses its sheet.
func (s *Source) findWorkbook([]byte) error {
	if mark := make([]byte, 2); s.size > 2 {
		if _, err := s.file.ReadAt(mark, 0); err == nil && string(mark) != "PK" {
			s.Kind = ODS
			return s.findODS(func() (io.ReadCloser,
				error) {
				return io.NopCloser(io.NewSectionReader(s.file, 0, s.size)), nil
			})
		}
	}
	parts, err := zip.NewReader(s.file, s.size)
	if err != nil {
		return &FileError{Text: "The workbook is broken off or damaged: it cannot be unpacked. Save it anew where it " +
			"was made."}
	}
	parts.RegisterDecompressor(zip.Deflate, flate.NewReader) // twice as fast as the standard library's
	merges, err := bounded(parts)
	if err != nil {
		return err
	}
	switch {
	case has(parts, "xl/workbook.xml"):
		s.Kind = XLSX
		return s.findXLSX(parts, merges)
	case has(parts, "content.xml"):
		s.Kind = ODS
		if encrypted(parts) {
			return errPassword
		}
		return s.findODS(func() (io.ReadCloser, error) { return parts.Open("content.xml") })
	case has(parts, "xl/workbook.bin"):
		return &FileError{Text: "This is a binary workbook (XLSB), which is not read. Save it as XLSX and choose " +
			"that file."}
	}
	return &FileError{Text: "This is a packed file (zip), not a workbook. Unpack it, and choose what was in it."}
}

func has(parts *zip.Reader, name string) bool {
	return slices.ContainsFunc(parts.File, func(f *zip.File) bool { return f.Name == name })
}

// bounded unpacks all parts once, for what they say of their size is not to be believed, and finds the cells that stand
// over several in each sheet: they are said behind all rows.
func bounded(parts *zip.Reader) (merges map[string]*mergeFinder, err error) {
	left := int64(mostUnpacked)
	merges = map[string]*mergeFinder{}
	for _, part := range parts.File {
		if part.Flags&1 != 0 {
			return nil, errPassword
		}
		found := &mergeFinder{}
		in, err := part.Open()
		if err == nil {
			var n int64
			n, err = io.CopyBuffer(found, io.LimitReader(in, left+1), make([]byte, 256<<10))
			left -= n
			err = errors.Join(err, in.Close())
		}
		if left < 0 {
			return nil, &FileError{Text: fmt.Sprintf("Unpacked, the workbook has more than %d MB. No table of labels "+
				"has: take the sheet that is needed out of it.", mostUnpacked>>20)}
		}
		if err != nil {
			return nil, &FileError{Text: fmt.Sprintf("The workbook is damaged in its part %q. Save it anew where it "+
				"was made.", part.Name)}
		}
		merges[part.Name] = found
	}
	return merges, nil
}

var errPassword = &FileError{Text: "The workbook has a password. Save it without one, and choose that file."}

// chooseSheet takes the sheet that is wanted, or the first one that has something in it.
func (s *Source) chooseSheet(sheets []string, isEmpty func(string) bool) error {
	s.Sheets = sheets
	if len(sheets) == 0 {
		return &FileError{Text: "The workbook has no sheet with cells."}
	}
	if s.Settings.Sheet == "" {
		at := max(slices.IndexFunc(sheets, func(name string) bool { return !isEmpty(name) }), 0)
		s.Settings.Sheet = sheets[at]
		if len(sheets) > 1 {
			s.note("The workbook has %d sheets; %q is read.", len(sheets), sheets[at])
		}
		return nil
	}
	for _, name := range sheets {
		if strings.EqualFold(name, s.Settings.Sheet) {
			s.Settings.Sheet = name
			return nil
		}
	}
	return &FileError{Text: fmt.Sprintf("The workbook has no sheet %q; it has %s.", s.Settings.Sheet, quoted(sheets))}
}

// quoted lists names; of many, the first.
func quoted(names []string) string {
	const most = 12
	list := make([]string, 0, most)
	for _, name := range names[:min(len(names), most)] {
		list = append(list, fmt.Sprintf("%q", name))
	}
	text := strings.Join(list, ", ")
	if more := len(names) - most; more > 0 {
		text += fmt.Sprintf(" and %d more", more)
	}
	return text
}

// scanPart gives a part bit by bit, each with the end of the one before it, until that is enough.
func scanPart(parts *zip.Reader, name string, enough func(text []byte) bool) error {
	in, err := parts.Open(name)
	if err != nil {
		return &FileError{Text: fmt.Sprintf("The workbook lacks its part %q. Save it anew where it was made.", name)}
	}
	defer in.Close()
	const overlap = 200
	buffer := make([]byte, 256<<10)
	kept := 0
	for {
		n, err := io.ReadFull(in, buffer[kept:])
		text := buffer[:kept+n]
		if enough(text) || err != nil {
			return nil
		}
		kept = copy(buffer, text[max(len(text)-overlap, 0):])
	}
}

// keepSpans has the spans of the rows found, and what they have from rows above.
func (s *Source) keepSpans(cells []merged) {
	s.fromAbove = func(row, column int) bool {
		return slices.ContainsFunc(cells, func(c merged) bool {
			return c.top < row && row <= c.bottom &&
				c.from <= column && column <= c.to
		})
	}
	s.spans = func(row int) (spans []span) {
		for _, cell := range cells {
			if cell.top <= row && cell.bottom >= row && cell.to > cell.from {
				spans = append(spans, cell.span)
			}
		}
		return spans
	}
}

// A filler gives each row what merged cells have in it from the row above.
type filler struct {
	waiting []merged // by their first row
	open    []merged
	values  []string // of those that are open
}

func newFiller(cells []merged) filler {
	var tall []merged
	for _, cell := range cells {
		if cell.bottom > cell.top {
			tall = append(tall, cell)
		}
	}
	slices.SortStableFunc(tall, func(a, b merged) int { return a.top - b.top })
	return filler{waiting: tall}
}

// fill fills a row and returns how many values it put in.
func (f *filler) fill(row []string, number int) (filled []string, count int) {
	for len(f.waiting) > 0 && f.waiting[0].top <= number {
		if cell := f.waiting[0]; cell.top == number && cell.from < len(row) {
			f.open, f.values = append(f.open, cell), append(f.values, row[cell.from])
		}
		f.waiting = f.waiting[1:]
	}
	for i := len(f.open) - 1; i >= 0; i-- {
		cell := f.open[i]
		if cell.bottom < number {
			f.open, f.values = slices.Delete(f.open, i, i+1), slices.Delete(f.values, i, i+1)
			continue
		}
		if cell.top == number || f.values[i] == "" {
			continue
		}
		for len(row) <= cell.from {
			row = append(row, "")
		}
		row[cell.from], count = f.values[i], count+1
	}
	return row, count
}

// noticed is what a sheet has that a person should know of.
type noticed struct {
	filled          int
	firstErrorValue string

	row                                                         int // that is read
	hidden, errors, rounded, uncomputed, lost, blanked, strange seen
}

// seen counts what was seen, and keeps the row of the first.
type seen struct{ n, first int }

func (s *seen) at(row int) {
	if s.n++; s.n == 1 {
		s.first = row
	}
}

// report notes what was seen in a sheet.
func (n *noticed) report(s *Source) {
	for _, told := range []struct {
		seen
		one, many, text string
	}{
		{n.uncomputed, "formula was", "formulas were",
			"never computed, the first in row %d: the workbook has no value for it, and it is empty here. Open the " +
				"workbook where it was made, and save it."},
		{n.lost, "text is", "texts are",
			"missing in the workbook, the first in row %d; it is empty here. Save the workbook anew where it " +
				"was made."},
		{n.blanked, "value shows", "values show",
			"nothing by its number format, the first in row %d; it is empty here too."},
		{n.hidden, "row is", "rows are",
			"hidden in the sheet, the first of them row %d; they are read like the others."},
		{n.rounded, "number has", "numbers have",
			"more than 15 digits, the first in row %d: the workbook keeps only 15 of them unless the cells are text."},
		{n.strange, "number has", "numbers have",
			"a number format that is not understood, the first in row %d; it is read as it is stored."},
	} {
		if told.n > 0 {
			s.note("%s "+told.text, count(told.n, told.one, told.many), told.first)
		}
	}
	if n.filled > 0 {
		s.note("%s from merged cells that go over several rows.",
			count(n.filled, "value is filled down", "values are filled down"))
	}
	if n.errors.n > 0 {
		s.note("%s of formulas that failed, the first in row %d: %s. Put them right in the workbook.",
			count(n.errors.n, "value is an error", "values are errors"), n.errors.first, n.firstErrorValue)
	}
}

// formulaErrors are the values of formulas that failed (ISO/IEC 29500-1, 18.17.3).
var formulaErrors = []string{"#N/A", "#DIV/0!", "#REF!", "#NAME?", "#NULL!", "#NUM!", "#VALUE!", "#GETTING_DATA",
	"#SPILL!", "#CALC!"}

// look looks a row over.
func (n *noticed) look(row []string, number int) {
	for _, value := range row {
		switch {
		case len(value) > 3 && value[0] == '#' && slices.Contains(formulaErrors, value):
			if n.errors.at(number); n.errors.n == 1 {
				n.firstErrorValue = value
			}
		case len(value) > 15 && digitsOnly(value) && strings.HasSuffix(value, "00"):
			// Text of so many digits comes through whole; one that ends in zeros may be a number that lost them.
			if len(strings.TrimRight(value, "0")) <= 15 {
				n.rounded.at(number)
			}
		}
	}
}

func digitsOnly(text string) bool {
	return !strings.ContainsFunc(text, func(r rune) bool { return r < '0' || r > '9' })
}

// unixLines takes carriage returns before line feeds out of a value.
func unixLines(value string) string { return strings.ReplaceAll(value, "\r\n", "\n") }
