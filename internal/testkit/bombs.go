package testkit

import (
	"archive/zip"
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/ncruces/go-sqlite3"
	"github.com/stretchr/testify/require"
)

// PDF writes one whose objects have these bodies, the first its catalogue (ISO 32000-1, 7.5).
func PDF(bodies ...string) []byte {
	var file bytes.Buffer
	file.WriteString("%PDF-1.4\n")
	offsets := make([]int, len(bodies))
	for i, body := range bodies {
		offsets[i] = file.Len()
		fmt.Fprintf(&file, "%d 0 obj\n%s\nendobj\n", i+1, body)
	}
	at := file.Len()
	fmt.Fprintf(&file, "xref\n0 %d\n0000000000 65535 f \n", len(bodies)+1)
	for _, offset := range offsets {
		fmt.Fprintf(&file, "%010d 00000 n \n", offset)
	}
	fmt.Fprintf(&file, "trailer << /Size %d /Root 1 0 R >>\nstartxref\n%d\n%%%%EOF\n", len(bodies)+1, at)
	return file.Bytes()
}

func stream(dictionary, content string) string {
	return fmt.Sprintf("<< %s /Length %d >>\nstream\n%s\nendstream", dictionary, len(content), content)
}

// page writes a PDF of one page with this content, and further objects from number 5 on.
func page(content, resources string, more ...string) []byte {
	return PDF(append([]string{
		"<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
		"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 288 144] /Contents 4 0 R /Resources << " + resources + " >> >>",
		stream("", content),
	}, more...)...)
}

// ArtworkBombs are small files whose drawing does not end, or takes all memory, by what they do.
func ArtworkBombs() map[string][]byte {
	const form = "/Type /XObject /Subtype /Form /BBox [0 0 288 144]"
	bombs := map[string][]byte{}

	lines := &strings.Builder{}
	for i := range 600_000 {
		fmt.Fprintf(lines, "%d %d m %d %d l S\n", i%288, i%144, (i*7)%288, (i*13)%144)
	}
	bombs["a PDF of 600,000 lines"] = page("1 w 1 J [3 2] 0 d\n"+lines.String(), "")

	const levels = 24 // each draws the next twice, see-through
	forms := []string{}
	for i := range levels {
		next := fmt.Sprintf("/XObject << /F %d 0 R >> /ExtGState << /G << /ca 0.5 /CA 0.5 >> >>", 6+i)
		if i == levels-1 {
			forms = append(forms, stream(form, "0 0 288 144 re f"))
			break
		}
		forms = append(forms, stream(form+" /Group << /S /Transparency >> /Resources << "+next+" >>",
			"/G gs /F Do /F Do"))
	}
	bombs["a PDF of forms that multiply"] = page("/F Do", "/XObject << /F 5 0 R >>", forms...)
	bombs["a PDF of a pattern of specks"] = page("/Pattern cs /P scn 0 0 288 144 re f", "/Pattern << /P 5 0 R >>",
		stream("/Type /Pattern /PatternType 1 /PaintType 1 /TilingType 1 /BBox [0 0 100 100] /XStep 0.001 /YStep "+
			"0.001 /Resources << >>", strings.Repeat("0 0 99 99 re f ", 500)))
	bombs["a PDF with a form that draws itself"] = page("/F Do", "/XObject << /F 5 0 R >>",
		stream(form+" /Resources << /XObject << /F 5 0 R >> >>", "0 0 9 9 re f /F Do /F Do"))
	bombs["an SVG whose uses multiply"] = svgOfUses(30, 2)
	wide := &strings.Builder{}
	wide.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm" viewBox="0 0 90 90"><defs><g id="a">`)
	for i := range 3000 {
		fmt.Fprintf(wide, `<path d="M%d %dC9 9 80 3 7 70" stroke="#000" stroke-dasharray="0.01 0.01"/>`, i%90, i%89)
	}
	wide.WriteString(`</g></defs>`)
	for i := range 1500 {
		fmt.Fprintf(wide, `<use href="#a" x="%d" opacity="0.5"/>`, i%9)
	}
	bombs["an SVG of 1,500 uses of much"] = []byte(wide.String() + `</svg>`)
	bombs["an SVG of filters"] = []byte(
		`<svg xmlns="http://www.w3.org/2000/svg" width="900mm" height="900mm"><filter id="f" x="0" y="0" width="1" height="1">` +
			strings.Repeat(`<feTurbulence baseFrequency="0.9" numOctaves="99"/><feGaussianBlur stdDeviation="900"/>`,
				200) +
			`</filter><rect width="900mm" height="900mm" filter="url(#f)"/></svg>`)
	return bombs
}

// svgOfUses has levels, each of which uses the one before so many times.
func svgOfUses(levels, times int) []byte {
	svg := `<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"><defs><g id="u0"><rect width="1" height="1"/></g>`
	for i := range levels {
		svg += fmt.Sprintf(`<g id="u%d">%s</g>`, i+1, strings.Repeat(fmt.Sprintf(`<use href="#u%d"/>`, i), times))
	}
	return fmt.Appendf(nil, `%s</defs><use href="#u%d"/></svg>`, svg, levels)
}

// RecordBombs are small files whose reading does not end, or unfolds into all memory.
func RecordBombs(t testing.TB) map[string][]byte {
	t.Helper()
	ods := func(table string) []byte {
		return Packed(t, "content.xml",
			`<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><office:body><office:spreadsheet>`+table+`</office:spreadsheet></office:body></office:document-content>`)
	}
	const named = `<table:table table:name="A"><table:table-row><table:table-cell><text:p>bin</text:p></table:table-cell></table:table-row>`
	cell := `<table:table-cell table:number-columns-repeated="400"><text:p>N-1</text:p></table:table-cell>`
	xlsx := func(styles, rows string) []byte {
		const main, relations = "http://schemas.openxmlformats.org/spreadsheetml/2006/main",
			"http://schemas.openxmlformats.org/officeDocument/2006/relationships"
		return Packed(t,
			"xl/workbook.xml", `<workbook xmlns="`+main+`" xmlns:r="`+relations+
				`"><sheets><sheet name="A" sheetId="1" r:id="r1"/></sheets></workbook>`,
			"xl/_rels/workbook.xml.rels", `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="`+relations+`/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
			"xl/styles.xml", `<styleSheet xmlns="`+main+`">`+styles+`</styleSheet>`,
			"xl/worksheets/sheet1.xml", `<worksheet xmlns="`+main+
				`"><sheetData><row r="1"><c r="A1" t="str"><v>bin</v></c></row>`+rows+`</sheetData></worksheet>`)
	}
	number := `<row r="2"><c r="A2" s="0"><v>45123.5</v></c></row>`
	form := func(code string) string {
		return `<numFmts><numFmt numFmtId="200" formatCode="` + code +
			`"/></numFmts><cellXfs><xf numFmtId="200"/></cellXfs>`
	}
	return map[string][]byte{
		"an ODS row that stands 100 million times": ods(named +
			`<table:table-row table:number-rows-repeated="1000000">` + cell + `</table:table-row></table:table>`),
		"ODS rows that repeat again and again": ods(named +
			strings.Repeat(`<table:table-row table:number-rows-repeated="999999">`+cell+`</table:table-row>`, 200) +
			`</table:table>`),
		"ODS blank rows that repeat": ods(named +
			strings.Repeat(`<table:table-row table:number-rows-repeated="999999999"><table:table-cell table:number-columns-repeated="999999999"/></table:table-row>`, 20_000) + `</table:table>`),
		"an XLSX number format of 100,000 zeros":    xlsx(form(strings.Repeat("0", 100_000)), number),
		"an XLSX number format of 100,000 sections": xlsx(form(strings.Repeat("[&gt;1]0;", 100_000)), number),
		"an XLSX of wide blank cells": xlsx("", strings.Repeat(`<row><c r="XFD1"><v>1</v></c></row>`,
			100)),
		"a SQLite view without an end": SQLite(t,
			`create view a as with recursive n(i) as (select 1 union all select i + 1 from n) select count(*) from n`),
		"a SQLite view of a cross join": SQLite(t,
			`create view a as with recursive n(i) as (select 1 union all select i + 1 from n
					where i < 2000) select max(p.i * q.i + r.i - s.i) as m from n p, n q, n r, n s`),
		"a SQLite view of rows without an end": SQLite(t,
			`create view a as with recursive n(i) as (select 1 union all select i + 1 from n) select i, i, i, i, i
					from n`),
		"a SQLite view of a huge blob": SQLite(t, `create view a as select zeroblob(900000000) as z`),
		"a SQLite view of huge texts": SQLite(t,
			`create view a as with recursive n(i, t) as (select 1, 'kelp' union all select i + 1, t || t
					from n) select t from n`),
		"JSON of many levels": []byte(strings.Repeat(`{"a":[`, 3_000_000)),
		"XML of many levels":  []byte(`<?xml version="1.0"?>` + strings.Repeat(`<a>`, 5_000_000)),
		"XML of entities": []byte(
			`<?xml version="1.0"?><!DOCTYPE a [<!ENTITY a "kelp"><!ENTITY b "&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;">]><a><b>&c;</b><b>&c;</b></a>`),
	}
}

// Packed returns a zip file of parts, name and content in turn.
func Packed(t testing.TB, parts ...string) []byte {
	t.Helper()
	var file bytes.Buffer
	packed := zip.NewWriter(&file)
	for i := 0; i < len(parts); i += 2 {
		part, err := packed.Create(parts[i])
		require.NoError(t, err)
		_, err = part.Write([]byte(parts[i+1]))
		require.NoError(t, err)
	}
	require.NoError(t, packed.Close())
	return file.Bytes()
}

// SQLite returns a database file in which statements were carried out.
func SQLite(t testing.TB, statements ...string) []byte {
	t.Helper()
	path := filepath.Join(t.TempDir(), "a.db")
	db, err := sqlite3.Open("file:" + path)
	require.NoError(t, err)
	for _, statement := range statements {
		require.NoError(t, db.Exec(statement), statement)
	}
	require.NoError(t, db.Close())
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	return data
}
