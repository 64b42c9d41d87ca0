package sources

import (
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"
)

// A width counts the rows of so many values.
type width struct{ rows, first int } // first: the line of the first of them

// A scanning is the first reading of all rows.
type scanning struct {
	*Source
	names  []string // of the fields, as far as they are named
	says   []string // as their row has them
	spool  *spool   // keeps rows that are dear to read again; nil: they are not
	widths map[int]width
	widest int
	values int
	beside int // rows with values beside the table
	again  rowsSeen
	keep   func([]string)
}

// scan reads all rows once: it finds the names of the fields, counts, bounds and notes.
func (s *Source) scan(options scanOptions) error {
	inner := s.rows
	s.rows = func() (rowReader, error) {
		read, err := inner()
		return &tidyRows{rowReader: read, sheet: s.Kind == XLSX || s.Kind == ODS}, err
	}
	rows, err := s.rows()
	if err != nil {
		return err
	}
	head, headLines, err := s.head(rows)
	if err != nil {
		return err
	}
	s.findLeft(head)
	if s.above, err = s.findNames(head, headLines); err != nil {
		return err
	}
	above := s.above
	scan := &scanning{Source: s, widths: map[int]width{}, keep: options.keep, spool: options.rows}
	if above > 0 {
		scan.says = s.cut(head[above-1])
		scan.names = s.joined(scan.says, head, headLines, above)
	}
	scan.widest = len(scan.names)
	if scan.spool == nil && !s.cheap() {
		if scan.spool, err = s.newSpool(); err != nil {
			return err
		}
	}
	for i, row := range head[above:] {
		if err := scan.take(row, headLines[above+i]); err != nil {
			return err
		}
	}
	for {
		row, line, err := rows.next()
		if errors.Is(err, io.EOF) {
			break
		}
		if err == nil {
			err = scan.take(row, line)
		}
		if err != nil {
			return err
		}
	}
	if s.Count == 0 {
		return &FileError{Text: "There are names of fields but no records. Add a row for each label."}
	}
	if scan.spool != nil {
		s.above = 0
		s.rows = scan.spool.rows
	}
	s.say(rows, above, headLines)
	scan.report()
	return nil
}

// head reads the first rows, in which the names of the fields are looked for, and the lines they stand on.
func (s *Source) head(rows rowReader) (head [][]string, lines []int, err error) {
	for len(head) < headRows {
		row, line, err := rows.next()
		if errors.Is(err, io.EOF) {
			break
		}
		if err == nil {
			err = s.narrow(row)
		}
		if err != nil {
			return nil, nil, err
		}
		head, lines = append(head, row), append(lines, line)
	}
	if len(head) < headRows && !slices.ContainsFunc(head, says) {
		return nil, nil, errEmpty
	}
	return head, lines, nil
}

// newSpool makes a spool that goes with the source.
func (s *Source) newSpool() (*spool, error) {
	spool, err := newSpool()
	if err != nil {
		return nil, err
	}
	closeBefore := s.end
	s.end = func() error {
		if closeBefore != nil {
			return errors.Join(spool.close(), closeBefore())
		}
		return spool.close()
	}
	return spool, nil
}

// take counts a row, and refuses one that is too large.
func (s *scanning) take(row []string, line int) error {
	if err := s.narrow(row); err != nil {
		return err
	}
	if s.left > 0 && says(row[:min(s.left, len(row))]) {
		s.beside++
	}
	whole := row
	if row = s.cut(row); s.above > 0 && !s.named && slices.Equal(row, s.says) {
		s.again.add(line, 1)
	}
	for column, value := range row {
		if len(value) <= MostLetters {
			continue
		}
		if letters := utf8.RuneCountInString(value); letters > MostLetters {
			return s.fault(line, fmt.Sprintf("The field %q has %d letters; up to %d are read. A quotation mark may "+
				"be missing at its end: try without quotes.", nameAt(s.names, column), letters, MostLetters))
		}
	}
	w, known := s.widths[len(row)]
	if !known {
		w.first = line
	}
	w.rows++
	s.widths[len(row)] = w
	s.Count, s.widest, s.values = s.Count+1, max(s.widest, len(row)), s.values+len(row)
	if s.Count > MostRecords {
		return &FileError{Text: fmt.Sprintf("There are more than %d records. Take in a part of them.", MostRecords)}
	}
	if s.values > MostValues || s.Count*s.widest > MostValues {
		return &FileError{Text: fmt.Sprintf("%d records of %d values are too much at once: up to %d values are read. "+
			"Take in a part of them, or leave out columns that no label needs.", s.Count, s.widest, MostValues)}
	}
	if s.spool != nil {
		if err := s.spool.put(whole); err != nil {
			return err
		}
	}
	if s.alive(); s.keep != nil {
		s.keep(whole)
	}
	return nil
}

// tell names the fields, and notes rows that are not as the others.
func (s *scanning) report() {
	if s.beside > 0 {
		s.note("%s left of the table; they are left out.", count(s.beside, "row has values", "rows have values"))
	}
	s.name(s.names, s.widest)
	if s.again.n > 0 {
		s.note("%s the names of the fields again, the first in %s %d; %s.", count(s.again.n, "row says", "rows say"),
			s.unit(), s.again.first[0],
			map[bool]string{true: "it is read as a record", false: "they are read as records"}[s.again.n == 1])
	}
	ragged, first := 0, 0
	for n, w := range s.widths {
		if n != s.widest {
			if ragged += w.rows; first == 0 || w.first < first {
				first = w.first
			}
		}
	}
	if ragged > 0 && s.Kind != XLSX && s.Kind != ODS { // sheets end their rows where the last value stands
		s.note("%s fewer values than the widest (the first in %s %d); the missing are empty.",
			count(ragged, "row has", "rows have"), s.unit(), first)
	}
}

// findLeft finds the columns before the table that have nothing in the rows looked at.
func (s *Source) findLeft(head [][]string) {
	if s.Kind != XLSX && s.Kind != ODS {
		return
	}
	s.left = MostFields
	for _, row := range head {
		if first := slices.IndexFunc(row,
			func(value string) bool { return strings.TrimSpace(value) != "" }); first >= 0 {
			s.left = min(s.left, first)
		}
	}
}

// cut returns the values of a row from the table's first column on.
func (s *Source) cut(row []string) []string { return row[min(s.left, len(row)):] }

// findNames returns how many of the first rows stand before the records, the last of which names the fields; 0: none
// does.
func (s *Source) findNames(head [][]string, lines []int) (above int, err error) {
	if s.named {
		return 1, nil
	}
	bySheet := s.Kind == XLSX || s.Kind == ODS
	if s.Settings.Header == "" {
		s.Settings.Header = findHeader(head, func(i, column int) bool {
			return s.fromAbove != nil &&
				s.fromAbove(lines[i], column)
		})
		above = s.Settings.Header.row()
		if len(head) > 1 && len(head[0]) == 1 { // of one column nothing else tells
			if above == 0 {
				s.note("The first line, “%.40s”, is a record: the list has no heading. Say that row 1 names the "+
					"field where it "+
					"does.", head[0][0])
			} else if above == 1 {
				s.note("The first line, “%.40s”, names the field. Say that no row does where it is a record.",
					head[0][0])
			}
		}
		if s.spans != nil && above > 0 && above < len(head) && s.namesBelow(head[above-1], head[above],
			s.spans(lines[above-1])) {
			above++
		}
		if bySheet && above > 0 {
			s.Settings.Header = headerAt(lines[above-1])
		}
		return above, nil
	}
	above = s.Settings.Header.row()
	if bySheet && above > 0 && s.Settings.Header != HeaderFirst {
		if i := slices.Index(lines, above); i >= 0 {
			return i + 1, nil
		}
		return 0, &FileError{Text: fmt.Sprintf("Row %d of the sheet cannot name the fields: nothing stands in it.",
			above)}
	}
	if above > len(head) {
		return 0, &FileError{Text: fmt.Sprintf("The file has no row %d that could name the fields: it has %s.", above,
			count(len(head), "row", "rows"))}
	}
	return above, nil
}

// namesBelow tells whether names that stand over several columns have others below them: then nothing new stands beside
// those.
func (s *Source) namesBelow(names, below []string, spans []span) bool {
	for column, value := range below {
		value = strings.TrimSpace(value)
		under := slices.ContainsFunc(spans, func(p span) bool { return column >= p.from && column <= p.to })
		switch {
		case value == "":
		case under && startsWithDigit(value):
			return false
		case !under && (column >= len(names) || value != strings.TrimSpace(names[column])):
			return false
		}
	}
	return len(spans) > 0 && says(below)
}

// joined puts names that stand over several columns before those below them, or over each of the columns where none are
// below.
func (s *Source) joined(names []string, head [][]string, lines []int, above int) []string {
	if s.spans == nil {
		return names
	}
	all := slices.Clone(names)
	put := func(row int, values []string) (some bool) {
		for _, p := range s.spans(row) {
			if p.from <= s.left && p.to+1 >= s.left+len(names) || p.from >= len(values) { // a title over all
				continue
			}
			some = true
			name := strings.TrimSpace(values[p.from])
			for column := max(p.from-s.left, 0); column <= p.to-s.left; column++ {
				for column >= len(all) {
					all = append(all, "")
				}
				if own := strings.TrimSpace(all[column]); own != name {
					all[column] = strings.TrimSpace(name + " " + own)
				}
			}
		}
		return some
	}
	put(lines[above-1], head[above-1])
	if above > 1 && lines[above-2] == lines[above-1]-1 && put(lines[above-2], head[above-2]) {
		for column, name := range s.cut(head[above-2]) { // those that have nothing below them
			if column < len(all) && strings.TrimSpace(all[column]) == "" {
				all[column] = name
			}
		}
	}
	return all
}

// fault says what is wrong with a row.
func (s *Source) fault(line int, text string) error {
	if s.unit() == "line" {
		return &FileError{Line: line, Text: text}
	}
	return &FileError{Row: line, Text: text}
}

// unit is what rows are counted in.
func (s *Source) unit() string {
	if s.Kind == Text || s.Kind == FixedColumns {
		return "line"
	}
	return "row"
}

// say notes what was seen in the rows, and those above the one that names the fields.
func (s *Source) say(from rowReader, above int, numbers []int) {
	names := 0
	if above > 0 {
		names = numbers[above-1]
	}
	from.(*tidyRows).report(s, names)
	if s.skipped > 0 {
		s.note("The first line says which separator is used; it is no record.")
	}
	if above > 1 {
		s.note("%s, from %s %d on.", count(above-1, "row stands above the names and is left out",
			"rows stand above the names and are left out"), s.unit(), numbers[0])
	}
}

// narrow refuses a row of more values than are read.
func (s *Source) narrow(row []string) error {
	if len(row) <= MostFields {
		return nil
	}
	text := fmt.Sprintf("The rows have %d values; up to %d are read.", len(row), MostFields)
	if s.Kind == Text {
		text += fmt.Sprintf(" Is %q the right separator?", s.Settings.Separator)
	}
	return &FileError{Text: text}
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
