package sources

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"maps"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
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

// A mergeFinder finds the cells of a sheet that stand over several in what is written to it.
type mergeFinder struct {
	cells []merged
	end   []byte // of what was written before: a cell may be said across
}

var (
	mergeMark  = []byte("mergeCell ")
	mergedCell = regexp.MustCompile(`mergeCell [^>]*ref="([A-Z]+[0-9]+):([A-Z]+[0-9]+)"`)
)

// Write implements io.Writer.
func (f *mergeFinder) Write(text []byte) (int, error) {
	const overlap = 200
	f.look(append(f.end, text[:min(len(text), overlap)]...))
	f.look(text)
	f.end = append(f.end[:0], text[max(len(text)-overlap, 0):]...)
	return len(text), nil
}

func (f *mergeFinder) look(text []byte) {
	if len(f.cells) > mostMerged || !bytes.Contains(text, mergeMark) {
		return
	}
	for _, found := range mergedCell.FindAllSubmatch(text, -1) {
		left, top := placeOf(found[1])
		right, bottom := placeOf(found[2])
		if cell := (merged{span{left, right}, top, bottom}); top > 0 && bottom > 0 &&
			!slices.Contains(f.cells[max(len(f.cells)-8, 0):], cell) {
			f.cells = append(f.cells, cell)
		}
	}
}

// sharedWords reads the texts that cells share.
func sharedWords(parts *zip.Reader) (words []string, err error) {
	in, err := parts.Open("xl/sharedStrings.xml")
	if err != nil {
		return nil, nil // a workbook without texts has none
	}
	defer in.Close()
	xml := newMarkup(in)
	var text []byte
	inText, reading := false, 0
	for {
		is, err := xml.next()
		if err != nil {
			return nil, &FileError{Text: fmt.Sprintf("The texts of the workbook cannot be read: %s. Save it anew "+
				"where it was made.", reason(err))}
		}
		switch is {
		case opens:
			switch string(xml.name) {
			case "t":
				inText = reading == 0
			case "rPh": // how it is read aloud
				reading++
			}
		case closes:
			switch string(xml.name) {
			case "t":
				inText = false
			case "rPh":
				reading--
			case "si":
				words = append(words, unescaped(string(text)))
				text = text[:0]
			case "sst":
				return words, nil
			}
		case chars:
			if inText {
				text = append(text, xml.text...)
			}
		}
	}
}

var escapedLetter = regexp.MustCompile(`_x[0-9A-Fa-f]{4}_`)

// unescaped turns characters that XML cannot hold back into themselves (ISO/IEC 29500-1, 22.9.2.19, ST_Xstring).
func unescaped(text string) string {
	if !strings.Contains(text, "_x") {
		return text
	}
	return escapedLetter.ReplaceAllStringFunc(text, func(said string) string {
		code, _ := strconv.ParseUint(said[2:6], 16, 32)
		return string(rune(code))
	})
}

// forms show values as the cells' styles say.
type forms struct {
	ids      []int // number formats of the styles
	forms    map[int]*numberForm
	from1904 bool
	shown    map[shownAs]string
	strange  map[int]bool // formats that are none, or longer than any is
}

type shownAs struct {
	id  int
	raw string
}

// general and asText are the number formats of cells that have none (ISO/IEC 29500-1, 18.8.30).
const (
	general    = 0
	asTextForm = 49
)

// builtIn are the number formats that have no code in the workbook (18.8.30). Dates that each reader's computer shows
// in its own way are shown here so that nobody mistakes them (ISO 8601).
var builtIn = map[int]string{
	1: "0", 2: "0.00", 3: "#,##0", 4: "#,##0.00", 5: `"$"#,##0_);("$"#,##0)`, 6: `"$"#,##0_);("$"#,##0)`,
	7: `"$"#,##0.00_);("$"#,##0.00)`, 8: `"$"#,##0.00_);("$"#,##0.00)`,
	9: "0%", 10: "0.00%", 11: "0.00E+00", 12: "# ?/?", 13: "# ??/??", 14: "yyyy-mm-dd", 15: "d-mmm-yy", 16: "d-mmm",
	17: "mmm-yy",
	18: "h:mm AM/PM", 19: "h:mm:ss AM/PM", 20: "h:mm", 21: "h:mm:ss", 22: "yyyy-mm-dd h:mm", 37: "#,##0_);(#,##0)",
	38: "#,##0_);(#,##0)", 39: "#,##0.00_);(#,##0.00)", 40: "#,##0.00_);(#,##0.00)",
	41: `_(* #,##0_);_(* (#,##0);_(* "-"_);_(@_)`, 42: `_("$"* #,##0_);_("$"* (#,##0);_("$"* "-"_);_(@_)`,
	43: `_(* #,##0.00_);_(* (#,##0.00);_(* "-"??_);_(@_)`,
	44: `_("$"* #,##0.00_);_("$"* (#,##0.00);_("$"* "-"??_);_(@_)`, 45: "mm:ss", 46: "[h]:mm:ss", 47: "mm:ss.0",
	48: "##0.0E+0",
}

func newForms(parts *zip.Reader) *forms {
	var styles struct {
		Formats []struct {
			ID   int    `xml:"numFmtId,attr"`
			Code string `xml:"formatCode,attr"`
		} `xml:"numFmts>numFmt"`
		Cells []struct {
			ID int `xml:"numFmtId,attr"`
		} `xml:"cellXfs>xf"`
	}
	var book struct {
		Properties struct {
			From1904 bool `xml:"date1904,attr"`
		} `xml:"workbookPr"`
	}
	decodePart(parts, "xl/styles.xml", &styles)
	decodePart(parts, "xl/workbook.xml", &book)
	f := &forms{forms: map[int]*numberForm{}, from1904: book.Properties.From1904, shown: map[shownAs]string{},
		strange: map[int]bool{}}
	codes := maps.Clone(builtIn)
	for _, format := range styles.Formats {
		codes[format.ID] = format.Code
	}
	for id, code := range codes {
		form, ok := parseForm(code)
		if f.forms[id] = form; !ok {
			f.strange[id] = true
		}
	}
	for _, cell := range styles.Cells {
		f.ids = append(f.ids, cell.ID)
	}
	return f
}

// mostShown bounds the values that are remembered as they are shown.
const mostShown = 100_000

// formOf returns the number format of a cell's style.
func (f *forms) formOf(style int) int {
	if style >= 0 && style < len(f.ids) {
		return f.ids[style]
	}
	return general
}

// number returns a number as a cell of some style shows it, and notes what is not as it seems.
func (f *forms) number(raw string, style int, n *noticed) string {
	id := f.formOf(style)
	if id == general || id == asTextForm {
		return plainNumber(raw)
	}
	form := f.forms[id]
	if form == nil {
		if f.strange[id] {
			n.strange.at(n.row)
		}
		return plainNumber(raw)
	}
	key := shownAs{id, raw}
	text, known := f.shown[key]
	if !known {
		var ok bool
		if text, ok = form.number(raw, f.from1904); !ok && len(form.sections) > 0 && form.sections[0].date {
			text = plainNumber(raw) // a day that there is not
		}
		if len(f.shown) < mostShown {
			f.shown[key] = text
		}
	}
	if text == "" {
		n.blanked.at(n.row)
	}
	return text
}

// format returns a text as a cell of some style shows it.
func (f *forms) format(text string, style int, n *noticed) string {
	form := f.forms[f.formOf(style)]
	if form == nil || form.text == nil {
		return text
	}
	shown := strings.TrimSpace(form.format(text))
	if strings.TrimSpace(text) == shown {
		return text
	}
	if shown == "" {
		n.blanked.at(n.row)
	}
	return shown
}

// date returns a date that a cell has as ISO 8601 writes it (18.18.11, "d") as its style shows it.
func (f *forms) date(text string, style int, n *noticed) string {
	for _, layout := range []string{"2006-01-02T15:04:05.999999999Z07:00", "2006-01-02T15:04:05.999999999",
		"2006-01-02T15:04", "2006-01-02", "15:04:05.999999999"} {
		moment, err := time.Parse(layout, text)
		if err != nil {
			continue
		}
		form := f.forms[f.formOf(style)]
		if form == nil || len(form.sections) == 0 || !form.sections[0].date {
			return text
		}
		moment = time.Date(moment.Year(), moment.Month(), moment.Day(), moment.Hour(), moment.Minute(), moment.Second(),
			moment.Nanosecond(), time.UTC)
		days := moment.Sub(time.Date(1899, 12, 30, 0, 0, 0, 0, time.UTC)).Hours() / 24
		if layout == "15:04:05.999999999" {
			days = moment.Sub(time.Date(0, 1, 1, 0, 0, 0, 0, time.UTC)).Hours() / 24
		}
		if f.from1904 {
			days -= from1904Days
		}
		return f.number(strconv.FormatFloat(days, 'f', -1, 64), style, n)
	}
	return text
}

// plainNumber returns a number in digits, of which a workbook keeps 15.
func plainNumber(raw string) string {
	const kept = 15
	if len(raw) <= kept && digitsOnly(raw) {
		return raw
	}
	value, err := strconv.ParseFloat(raw, 64)
	if err != nil {
		return raw
	}
	rounded, err := strconv.ParseFloat(strconv.FormatFloat(value, 'e', kept-1, 64), 64)
	if err != nil {
		return raw
	}
	return strconv.FormatFloat(rounded, 'f', -1, 64)
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
