package sources

import (
	"archive/zip"
	"maps"
	"strconv"
	"strings"
	"time"
)

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
