package sources

import (
	"archive/zip"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
)

// findODS opens an ODS workbook (ISO/IEC 26300, OpenDocument 1.2, part 1, 9: tables). Its cells hold what the sheet
// shows as text.
func (s *Source) findODS(open func() (io.ReadCloser, error)) error {
	read := func(sheet string) (*odsRows, error) {
		in, err := open()
		if err != nil {
			return nil, &FileError{Text: "The workbook lacks its content. Save it anew where it was made."}
		}
		r := &odsRows{in: in, xml: newMarkup(in)}
		return r, r.seek(sheet)
	}
	var sheets []string
	filled := map[string]bool{}
	all, err := read("")
	if err != nil {
		return err
	}
	for {
		name, err := all.nextTable()
		if err != nil {
			break // what is wrong in a sheet is told when it is read
		}
		sheets = append(sheets, name)
		_, _, err = all.next()
		filled[name] = err == nil
	}
	_ = all.in.Close()
	if len(sheets) == 0 {
		return &FileError{Text: "This OpenDocument file has no sheets: it is no workbook."}
	}
	if err := s.chooseSheet(sheets, func(name string) bool { return !filled[name] }); err != nil {
		return err
	}
	// The cells that stand over several are known when their rows were read: those of the names are among the first.
	var cells []merged
	s.keepSpans(nil)
	first, err := read(s.Settings.Sheet)
	if err != nil {
		return err
	}
	for range headRows {
		if _, _, err := first.next(); err != nil {
			break
		}
	}
	cells = first.merged
	_ = first.in.Close()
	s.keepSpans(cells)
	s.rows = func() (rowReader, error) { return read(s.Settings.Sheet) }
	return nil
}

// encrypted tells whether a package's manifest says that its parts need a password.
func encrypted(parts *zip.Reader) bool {
	found := false
	_ = scanPart(parts, "META-INF/manifest.xml", func(text []byte) bool {
		found = strings.Contains(string(text), "encryption-data")
		return found
	})
	return found
}

// odsRows reads the rows of one sheet.
type odsRows struct {
	in      io.ReadCloser
	xml     *markup
	number  int
	again   []string // a row that stands several times
	times   int
	inTable bool
	filler  filler
	merged  []merged
	noticed noticed
}

// seek goes to a sheet; empty: to before the first.
func (r *odsRows) seek(sheet string) error {
	for sheet != "" {
		name, err := r.nextTable()
		if err != nil {
			return &FileError{Text: fmt.Sprintf("The sheet %q cannot be found again. Read the file again.", sheet)}
		}
		if name == sheet {
			break
		}
	}
	return nil
}

// nextTable goes to the next sheet and returns its name.
func (r *odsRows) nextTable() (string, error) {
	for {
		is, err := r.xml.next()
		if err != nil {
			return "", err
		}
		if is == opens && string(r.xml.name) == "table" {
			r.inTable, r.number, r.times = true, 0, 0
			return string(r.xml.attribute("name")), nil
		}
	}
}

// repeated returns how often the element that began says that something stands one after the other.
func (m *markup) repeated(name string) int { return max(digits(m.attribute(name)), 1) }

func (r *odsRows) next() ([]string, int, error) {
	if r.times > 0 {
		r.times--
		r.number++
		return slices.Clone(r.again), r.number, nil
	}
	for r.inTable {
		is, err := r.xml.next()
		if err != nil {
			return nil, 0, r.broken(err)
		}
		name := string(r.xml.name)
		switch {
		case is == closes:
			r.inTable = name != "table"
		case is == opens && (name == "shapes" || name == "table"): // drawings, and tables within
			if err := r.xml.skip(); err != nil {
				return nil, 0, r.broken(err)
			}
		case is == opens && name == "table-row":
			times := r.xml.repeated("number-rows-repeated")
			visible := string(r.xml.attribute("visibility"))
			row, err := r.row()
			if err != nil {
				return nil, 0, err
			}
			r.number++
			row, filled := r.filler.fill(row, r.number)
			if !says(row) {
				r.number += times - 1
				continue
			}
			if times > MostRecords {
				return nil, 0, &FileError{Row: r.number,
					Text: fmt.Sprintf("The row stands %d times. Leave out what is not needed.", times)}
			}
			r.noticed.filled += filled
			r.noticed.look(row, r.number)
			if visible == "collapse" || visible == "filter" {
				r.noticed.hidden.at(r.number)
				r.noticed.hidden.n += times - 1
			}
			r.again, r.times = row, times-1
			return slices.Clone(row), r.number, nil
		}
	}
	return nil, 0, errors.Join(io.EOF, r.in.Close())
}

func (r *odsRows) broken(err error) error {
	return &FileError{Row: r.number + 1,
		Text: fmt.Sprintf("The sheet cannot be read further: %s. Save the workbook anew where it was made.",
			reason(err))}
}

func (r *odsRows) report(s *Source) { r.noticed.report(s) }

// row reads the cells of a row.
func (r *odsRows) row() (row []string, err error) {
	blank := 0 // cells since the last with something in it
	for {
		is, err := r.xml.next()
		if err != nil {
			return nil, r.broken(err)
		}
		switch is {
		case closes:
			if string(r.xml.name) == "table-row" {
				return row, nil
			}
		case opens:
			times := r.xml.repeated("number-columns-repeated")
			across, down := r.xml.repeated("number-columns-spanned"), r.xml.repeated("number-rows-spanned")
			value, err := r.cell()
			if err != nil {
				return nil, r.broken(err)
			}
			if value == "" {
				blank += times
				continue
			}
			if len(row)+blank+times > MostFields {
				return append(row, make([]string, MostFields+1)...), nil // refused where its width is looked at
			}
			row = append(row, make([]string, blank)...)
			blank = 0
			column := len(row)
			for range times {
				row = append(row, value)
			}
			if (across > 1 || down > 1) && len(r.merged) < mostMerged {
				cell := merged{span{column, column + across - 1}, r.number + 1, r.number + down}
				r.merged = append(r.merged, cell)
				if down > 1 {
					r.filler.waiting = append(r.filler.waiting, cell)
				}
			}
		}
	}
}

// cell reads what the cell that began shows: its paragraphs, line by line.
func (r *odsRows) cell() (string, error) {
	stored := string(r.xml.attribute("value"))
	var text strings.Builder
	paragraphs, within := 0, 0
	for depth := 1; depth > 0; {
		is, err := r.xml.next()
		if err != nil {
			return "", err
		}
		switch is {
		case opens:
			switch string(r.xml.name) {
			case "annotation", "shapes", "frame", "custom-shape":
				if err := r.xml.skip(); err != nil {
					return "", err
				}
				continue
			case "p":
				within++
				if paragraphs++; paragraphs > 1 {
					text.WriteByte('\n')
				}
			case "s":
				text.WriteString(strings.Repeat(" ", min(r.xml.repeated("c"), MostLetters)))
			case "tab":
				text.WriteByte('\t')
			case "line-break":
				text.WriteByte('\n')
			}
			depth++
		case closes:
			if depth--; string(r.xml.name) == "p" {
				within--
			}
		case chars:
			if within > 0 {
				text.Write(r.xml.text)
			}
		}
	}
	if paragraphs == 0 {
		return stored, nil
	}
	return unixLines(text.String()), nil
}
