package sources

import (
	"archive/zip"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
)

// findODS opens an ODS workbook (ISO/IEC 26300, OpenDocument 1.2, part 1, 9: tables). Its cells hold what the sheet shows as text.
func (s *Source) findODS(parts *zip.Reader) error {
	if encrypted(parts) {
		return errPassword
	}
	read := func(sheet string) (*odsRows, error) {
		in, err := parts.Open("content.xml")
		if err != nil {
			return nil, &FileError{Text: "The workbook lacks its content. Save it anew where it was made."}
		}
		r := &odsRows{in: in, decoder: xml.NewDecoder(in)}
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
	decoder *xml.Decoder
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
		token, err := r.decoder.Token()
		if err != nil {
			return "", err
		}
		if start, is := token.(xml.StartElement); is && start.Name.Local == "table" {
			r.inTable, r.number, r.times = true, 0, 0
			return attribute(start, "name"), nil
		}
	}
}

func attribute(start xml.StartElement, local string) string {
	for _, a := range start.Attr {
		if a.Name.Local == local {
			return a.Value
		}
	}
	return ""
}

// repeated returns how often something stands one after the other.
func repeated(start xml.StartElement, local string) int {
	if n, err := strconv.Atoi(attribute(start, local)); err == nil && n > 1 {
		return n
	}
	return 1
}

func (r *odsRows) next() ([]string, int, error) {
	if r.times > 0 {
		r.times--
		r.number++
		return slices.Clone(r.again), r.number, nil
	}
	for r.inTable {
		token, err := r.decoder.Token()
		if err != nil {
			return nil, 0, r.broken(err)
		}
		switch t := token.(type) {
		case xml.EndElement:
			r.inTable = t.Name.Local != "table"
		case xml.StartElement:
			if t.Name.Local != "table-row" {
				if t.Name.Local == "shapes" || t.Name.Local == "table" { // drawings, and tables within
					if err := r.decoder.Skip(); err != nil {
						return nil, 0, r.broken(err)
					}
				}
				continue
			}
			row, err := r.row()
			if err != nil {
				return nil, 0, err
			}
			times := repeated(t, "number-rows-repeated")
			r.number++
			row, filled := r.filler.fill(row, r.number)
			if !says(row) {
				r.number += times - 1
				continue
			}
			if times > MostRecords {
				return nil, 0, &FileError{Row: r.number, Text: fmt.Sprintf("The row stands %d times. Leave out what is not needed.", times)}
			}
			r.noticed.filled += filled
			r.noticed.look(row, r.number)
			if v := attribute(t, "visibility"); v == "collapse" || v == "filter" {
				if r.noticed.hidden += times; r.noticed.firstHidden == 0 {
					r.noticed.firstHidden = r.number
				}
			}
			r.again, r.times = row, times-1
			return slices.Clone(row), r.number, nil
		}
	}
	return nil, 0, errors.Join(io.EOF, r.in.Close())
}

func (r *odsRows) broken(err error) error {
	return &FileError{Row: r.number + 1, Text: fmt.Sprintf("The sheet cannot be read further: %v. Save the workbook anew where it was made.", err)}
}

func (r *odsRows) tell(s *Source) { r.noticed.tell(s) }

// row reads the cells of a row.
func (r *odsRows) row() (row []string, err error) {
	blank := 0 // cells since the last with something in it
	for {
		token, err := r.decoder.Token()
		if err != nil {
			return nil, r.broken(err)
		}
		switch t := token.(type) {
		case xml.EndElement:
			if t.Name.Local == "table-row" {
				return row, nil
			}
		case xml.StartElement:
			times := repeated(t, "number-columns-repeated")
			value, err := r.cell(t)
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
			across, down := repeated(t, "number-columns-spanned"), repeated(t, "number-rows-spanned")
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

// cell reads what a cell shows: its paragraphs, line by line.
func (r *odsRows) cell(start xml.StartElement) (string, error) {
	var text strings.Builder
	paragraphs, within := 0, 0
	for depth := 1; depth > 0; {
		token, err := r.decoder.Token()
		if err != nil {
			return "", err
		}
		switch t := token.(type) {
		case xml.StartElement:
			switch t.Name.Local {
			case "annotation", "shapes", "frame", "custom-shape":
				if err := r.decoder.Skip(); err != nil {
					return "", err
				}
				continue
			case "p":
				within++
				if paragraphs++; paragraphs > 1 {
					text.WriteByte('\n')
				}
			case "s":
				times, _ := strconv.Atoi(attribute(t, "c"))
				text.WriteString(strings.Repeat(" ", min(max(times, 1), MostLetters)))
			case "tab":
				text.WriteByte('\t')
			case "line-break":
				text.WriteByte('\n')
			}
			depth++
		case xml.EndElement:
			if depth--; t.Name.Local == "p" {
				within--
			}
		case xml.CharData:
			if within > 0 {
				text.Write(t)
			}
		}
	}
	if paragraphs == 0 {
		return attribute(start, "value"), nil
	}
	return cleaned(text.String()), nil
}
