package sources

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strconv"
	"strings"
)

// findXLSX opens an XLSX workbook (ISO/IEC 29500-1, 18).
func (s *Source) findXLSX(parts *zip.Reader, merges map[string]*mergeFinder) error {
	at, charts, hidden := sheetParts(parts)
	sheets := at.names
	if slices.Contains(charts, s.Settings.Sheet) {
		return &FileError{Text: fmt.Sprintf("The sheet %q is a chart, which has no cells. Choose another: %s.",
			s.Settings.Sheet, quoted(sheets))}
	}
	if err := s.chooseSheet(sheets, func(name string) bool {
		return hidden[name] ||
			!hasCells(parts, at.parts[name])
	}); err != nil {
		return err
	}
	part := at.parts[s.Settings.Sheet]
	var cells []merged
	if found := merges[part]; found != nil {
		cells = found.cells
	}
	if len(cells) > mostMerged {
		return &FileError{Text: fmt.Sprintf("More than %d cells of the sheet are merged. Undo that where it was made.",
			mostMerged)}
	}
	s.keepSpans(cells)
	if hidden[s.Settings.Sheet] {
		s.note("The sheet %q is hidden in the workbook; it is read all the same.", s.Settings.Sheet)
	}
	words, err := sharedWords(parts)
	if err != nil {
		return err
	}
	s.rows = func() (rowReader, error) {
		in, err := parts.Open(part)
		if err != nil {
			return nil, &FileError{Text: fmt.Sprintf("The workbook lacks its part %q. Save it anew where it was made.",
				part)}
		}
		return &sheetRows{in: in, xml: newMarkup(in), words: words, forms: newForms(parts), filler: newFiller(cells)},
			nil
	}
	return nil
}

// sheetPlaces says in which part of a workbook each sheet with cells lies, in their order.
type sheetPlaces struct {
	names []string
	parts map[string]string
}

// sheetParts returns in which part of a workbook each sheet with cells lies, which sheets are none, and which are
// hidden.
func sheetParts(parts *zip.Reader) (at sheetPlaces, charts []string, hidden map[string]bool) {
	var book struct {
		Sheets []struct {
			Name  string     `xml:"name,attr"`
			State string     `xml:"state,attr"`
			Attrs []xml.Attr `xml:",any,attr"`
		} `xml:"sheets>sheet"`
	}
	var relations struct {
		List []struct {
			ID     string `xml:"Id,attr"`
			Type   string `xml:"Type,attr"`
			Target string `xml:"Target,attr"`
		} `xml:"Relationship"`
	}
	decodePart(parts, "xl/workbook.xml", &book)
	decodePart(parts, "xl/_rels/workbook.xml.rels", &relations)
	at.parts, hidden = map[string]string{}, map[string]bool{}
	for _, sheet := range book.Sheets {
		for _, relation := range relations.List {
			if !slices.ContainsFunc(sheet.Attrs, func(a xml.Attr) bool {
				return a.Name.Local == "id" &&
					a.Value == relation.ID
			}) {
				continue
			}
			if !strings.HasSuffix(relation.Type, "/worksheet") {
				charts = append(charts, sheet.Name)
				continue
			}
			place := strings.TrimPrefix(path.Join("/xl", relation.Target), "/")
			if strings.HasPrefix(relation.Target, "/") {
				place = strings.TrimPrefix(relation.Target, "/")
			}
			at.names, at.parts[sheet.Name] = append(at.names, sheet.Name), place
			hidden[sheet.Name] = sheet.State == "hidden" || sheet.State == "veryHidden"
		}
	}
	return at, charts, hidden
}

func decodePart(parts *zip.Reader, name string, into any) {
	in, err := parts.Open(name)
	if err != nil {
		return // what is not there says nothing
	}
	defer in.Close()
	_ = xml.NewDecoder(in).Decode(into)
}

// hasCells tells whether a sheet has any value.
func hasCells(parts *zip.Reader, part string) bool {
	found := false
	_ = scanPart(parts, part, func(text []byte) bool {
		found = bytes.Contains(text, []byte("<v>")) || bytes.Contains(text, []byte("<t")) ||
			bytes.Contains(text, []byte(":v>"))
		return found
	})
	return found
}

// sheetRows reads the rows of an XLSX sheet, each value as the sheet shows it.
type sheetRows struct {
	in      io.ReadCloser
	xml     *markup
	words   []string
	forms   *forms
	number  int
	ended   bool
	filler  filler
	noticed noticed
	text    []byte // of a cell
	widest  int    // row
}

func (r *sheetRows) next() ([]string, int, error) {
	for {
		if r.ended {
			return nil, 0, io.EOF
		}
		is, err := r.xml.next()
		if err != nil { // also where the sheet ends before its rows do
			return nil, 0, r.broken(err)
		}
		if is == closes && string(r.xml.name) == "sheetData" {
			r.ended = true
			return nil, 0, errors.Join(io.EOF, r.in.Close())
		}
		if is != opens || string(r.xml.name) != "row" {
			continue
		}
		r.number++
		if n, err := strconv.Atoi(string(r.xml.attribute("r"))); err == nil {
			r.number = n
		}
		hides := string(r.xml.attribute("hidden"))
		row, err := r.row()
		if err != nil {
			return nil, 0, err
		}
		row, filled := r.filler.fill(row, r.number)
		if !says(row) {
			continue
		}
		r.noticed.filled += filled
		r.noticed.look(row, r.number)
		if hides == "1" || hides == "true" {
			r.noticed.hidden.at(r.number)
		}
		return row, r.number, nil
	}
}

func (r *sheetRows) broken(err error) error {
	return &FileError{Row: r.number + 1,
		Text: fmt.Sprintf("The sheet cannot be read further: %s. Save the workbook anew where it was made.",
			reason(err))}
}

// row reads the cells of a row.
func (r *sheetRows) row() (row []string, err error) {
	kind, style, column := "", 0, -1
	inValue, reading := false, 0
	formula, computed := false, false
	r.noticed.row = r.number
	for {
		is, err := r.xml.next()
		if err != nil {
			return nil, r.broken(err)
		}
		switch is {
		case opens:
			switch string(r.xml.name) {
			case "c":
				r.text, formula, computed = r.text[:0], false, false
				column++
				if at := columnOf(r.xml.attribute("r")); at >= 0 {
					column = at
				}
				kind = cellKind(r.xml.attribute("t"))
				style = digits(r.xml.attribute("s"))
			case "v", "t":
				inValue, computed = reading == 0, true
			case "f":
				formula = true
			case "rPh":
				reading++
			}
		case closes:
			switch string(r.xml.name) {
			case "v", "t":
				inValue = false
			case "rPh":
				reading--
			case "c":
				if formula && !computed {
					r.noticed.uncomputed.at(r.number)
				}
				value := r.value(kind, style)
				if value == "" {
					continue
				}
				column = min(column, MostFields) // what is wider is refused where the width of rows is looked at
				if row == nil {
					row = make([]string, 0, max(r.widest, column+1))
				}
				for len(row) <= column {
					row = append(row, "")
				}
				row[column] = unixLines(value)
			case "row":
				r.widest = max(r.widest, len(row))
				return row, nil
			}
		case chars:
			if inValue {
				r.text = append(r.text, r.xml.text...)
			}
		}
	}
}

// cellKind returns the type of a cell (ISO/IEC 29500-1, 18.18.11, ST_CellType).
func cellKind(said []byte) string {
	switch string(said) { // which keeps nothing
	case "", "n":
		return "n"
	case "s":
		return "s"
	case "str", "inlineStr":
		return "str"
	}
	return string(said)
}

// digits reads a number of a few digits; -1: it is none.
func digits(text []byte) (n int) {
	const most = 1 << 30
	for _, digit := range text {
		if digit < '0' || digit > '9' || n > most/10 {
			return -1
		}
		n = n*10 + int(digit-'0')
	}
	return n
}

// value returns what the cell that was read shows.
func (r *sheetRows) value(kind string, style int) string {
	if len(r.text) == 0 {
		return ""
	}
	switch kind {
	case "s":
		if i := digits(r.text); i >= 0 && i < len(r.words) {
			return r.forms.format(r.words[i], style, &r.noticed)
		}
		r.noticed.lost.at(r.number)
		return ""
	case "str":
		return r.forms.format(unescaped(string(r.text)), style, &r.noticed)
	case "b":
		if r.text[0] == '1' {
			return "TRUE"
		}
		return "FALSE"
	case "n":
		return r.forms.number(string(r.text), style, &r.noticed)
	case "d":
		return r.forms.date(string(r.text), style, &r.noticed)
	}
	return string(r.text) // errors
}

// columnOf returns the column of a cell such as BC12, from 0.
func columnOf(cell []byte) int {
	column := 0
	for _, letter := range cell {
		if letter < 'A' || letter > 'Z' {
			break
		}
		if column = column*26 + int(letter-'A'+1); column > 1<<20 {
			break
		}
	}
	return column - 1
}

// placeOf returns the column of a cell, from 0, and its row, from 1; 0: it has none.
func placeOf(cell []byte) (column, row int) {
	row, err := strconv.Atoi(string(bytes.TrimLeft(cell, "ABCDEFGHIJKLMNOPQRSTUVWXYZ")))
	if err != nil {
		return 0, 0
	}
	return columnOf(cell), row
}

func (r *sheetRows) report(s *Source) { r.noticed.report(s) }
