package sources_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/sources"
)

// parts packs the parts of a workbook as other programs write them.
func parts(t testing.TB, list map[string]string) []byte {
	var out bytes.Buffer
	packed := zip.NewWriter(&out)
	for name, text := range list {
		part, err := packed.Create(name)
		require.NoError(t, err)
		_, err = part.Write([]byte(text))
		require.NoError(t, err)
	}
	require.NoError(t, packed.Close())
	return out.Bytes()
}

const (
	mainSpace   = `xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"`
	officeSpace = `xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"`
	officeType  = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
)

// book are the parts of a workbook of one sheet, whose rows and other parts are given.
func book(rows string, others map[string]string) map[string]string {
	list := map[string]string{
		"xl/workbook.xml": `<workbook ` + mainSpace + ` ` + officeSpace +
			`><sheets><sheet name="Bins" sheetId="1" r:id="a"/></sheets></workbook>`,
		"xl/_rels/workbook.xml.rels": `<Relationships><Relationship Id="a" Type="` + officeType +
			`/worksheet" Target="worksheets/one.xml"/></Relationships>`,
		"xl/worksheets/one.xml": `<worksheet ` + mainSpace + `><sheetData>` + rows + `</sheetData></worksheet>`,
	}
	for name, text := range others {
		list[name] = text
	}
	return list
}

func TestCellsAreReadAsTheirTypesSay(t *testing.T) {
	shared := `<sst ` + mainSpace +
		`><si><t>bin</t></si><si><r><t>two </t></r><r><rPr><b/></rPr><t>parts</t></r></si>` +
		`<si><t>昆布</t><rPh sb="0" eb="2"><t>コンブ</t></rPh></si><si><t xml:space="preserve"> kept_x000D__x0041_ </t></si></sst>`
	styles := `<styleSheet ` + mainSpace +
		`><numFmts count="1"><numFmt numFmtId="164" formatCode="00000"/></numFmts><cellXfs><xf numFmtId="0"/><xf numFmtId="164"/><xf numFmtId="49"/><xf numFmtId="14"/></cellXfs></styleSheet>`
	for cell, want := range map[string]string{
		`<c r="B2" t="s"><v>1</v></c>`:                                        "two parts",
		`<c r="B2" t="s"><v>2</v></c>`:                                        "昆布", // and not how it is read aloud
		`<c r="B2" t="s"><v>3</v></c>`:                                        " kept\rA ",
		`<c r="B2" t="s"><v>99</v></c>`:                                       "",
		`<c r="B2" t="inlineStr"><is><r><t>a</t></r><r><t>b</t></r></is></c>`: "ab",
		`<c r="B2" t="str"><f>A2&amp;"x"</f><v>N-1x</v></c>`:                  "N-1x",
		`<c r="B2" t="b"><v>0</v></c>`:                                        "FALSE",
		`<c r="B2" t="e"><v>#REF!</v></c>`:                                    "#REF!",
		`<c r="B2" t="d"><v>2026-11-26</v></c>`:                               "2026-11-26",
		`<c r="B2" s="1"><v>417</v></c>`:                                      "00417",
		`<c r="B2" s="2"><v>417</v></c>`:                                      "417",
		`<c r="B2" s="3"><v>45000</v></c>`:                                    "2023-03-15",
		`<c r="B2"><v>1.2345678901234567E+19</v></c>`:                         "12345678901234600000",
		`<c r="B2"><v>0.30000000000000004</v></c>`:                            "0.3",
		`<c r="B2"><v>-1E-3</v></c>`:                                          "-0.001",
		`<c r="B2"><v>no number</v></c>`:                                      "no number",
		`<c r="B2" s="77"><v>5</v></c>`:                                       "5",
		// without a place it follows the one before it
		`<c><v>5</v></c>`: "5",
	} {
		rows := `<row r="1"><c r="A1" t="s"><v>0</v></c><c r="B1" t="inlineStr"><is><t>value</t></is></c></row><row r="2"><c r="A2" t="inlineStr"><is><t>N-1</t></is></c>` + cell + `</row>`
		table, err := sources.Read(parts(t,
			book(rows, map[string]string{"xl/sharedStrings.xml": shared, "xl/styles.xml": styles})), sources.Settings{})
		require.NoError(t, err, cell)
		require.Equal(t, []string{"bin", "value"}, table.Fields, cell)
		require.Equal(t, [][]string{{"N-1", want}}, table.Records, cell)
	}
}

// What other programs write otherwise is read the same: prefixes, absolute parts, rows and cells without places, dates
// from 1904.
func TestWorkbooksOfOtherProgramsAreRead(t *testing.T) {
	prefixed := map[string]string{
		"xl/workbook.xml": `<x:workbook xmlns:x="http://schemas.openxmlformats.org/spreadsheetml/2006/main" ` +
			officeSpace + `><x:workbookPr date1904="1"/><x:sheets><x:sheet name="Hidden" sheetId="1" state="hidden" r:id="h"/>` +
			`<x:sheet name="Trend" sheetId="2" r:id="c"/><x:sheet name="Bins" sheetId="3" r:id="a"/></x:sheets></x:workbook>`,
		"xl/_rels/workbook.xml.rels": `<Relationships><Relationship Id="a" Type="` + officeType +
			`/worksheet" Target="/xl/sheets/bins.xml"/><Relationship Id="h" Type="` + officeType +
			`/worksheet" Target="sheets/hidden.xml"/>` +
			`<Relationship Id="c" Type="` + officeType + `/chartsheet" Target="sheets/trend.xml"/></Relationships>`,
		"xl/sheets/bins.xml": `<x:worksheet xmlns:x="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><x:sheetData><x:row><x:c t="inlineStr"><x:is><x:t>bin</x:t></x:is></x:c><x:c t="inlineStr"><x:is><x:t>best before</x:t></x:is></x:c></x:row>` +
			`<x:row/><x:row r="4"><x:c t="inlineStr"><x:is><x:t>N-1</x:t></x:is></x:c><x:c s="1"><x:v>43538</x:v></x:c></x:row><x:row><x:c r="A5" t="inlineStr"><x:is><x:t>N-2</x:t></x:is></x:c></x:row></x:sheetData>` +
			`<x:mergeCells count="1"><x:mergeCell ref="B4:B5"/></x:mergeCells></x:worksheet>`,
		"xl/sheets/hidden.xml": `<worksheet ` + mainSpace +
			`><sheetData><row r="1"><c r="A1" t="inlineStr"><is><t>secret</t></is></c></row><row r="2"><c r="A2"><v>1</v></c></row></sheetData></worksheet>`,
		"xl/styles.xml": `<styleSheet ` + mainSpace +
			`><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/></cellXfs></styleSheet>`,
	}
	data := parts(t, prefixed)
	source, err := sources.Open(t.Context(), bytes.NewReader(data), int64(len(data)), sources.Settings{})
	require.NoError(t, err)
	defer source.Close()
	require.Equal(t, "Bins", source.Settings.Sheet, "what is hidden is not taken by itself")
	require.Equal(t, []string{"Hidden", "Bins"}, source.Sheets)
	var records [][]string
	for record, err := range source.Records() {
		require.NoError(t, err)
		records = append(records, record)
	}
	require.Equal(t, [][]string{{"N-1", "2023-03-15"}, {"N-2", "2023-03-15"}}, records)
	table, err := sources.Read(data, sources.Settings{Sheet: "hidden"})
	require.NoError(t, err)
	require.Equal(t, []string{"secret"}, table.Fields)
	require.Contains(t, strings.Join(table.Notes, " "), `"Hidden" is hidden`)
	_, err = sources.Read(data, sources.Settings{Sheet: "Trend"})
	require.ErrorContains(t, err, "is a chart")
}

func TestDamagedWorkbooksAreRefusedInWords(t *testing.T) {
	good := `<row><c t="inlineStr"><is><t>bin</t></is></c></row><row><c t="inlineStr"><is><t>N-1</t></is></c></row>`
	missing := book(good, nil)
	delete(missing, "xl/worksheets/one.xml")
	for name, test := range map[string]struct {
		parts map[string]string
		text  string
	}{
		"a part is missing": {missing, "lacks its part"},
		"broken rows":       {book(good+`<row><c><v>5</row>`, map[string]string{}), ""},
		"cut off": {map[string]string{"xl/workbook.xml": book(good, nil)["xl/workbook.xml"],
			"xl/_rels/workbook.xml.rels": book(good, nil)["xl/_rels/workbook.xml.rels"],
			"xl/worksheets/one.xml":      `<worksheet><sheetData>` + good + `<row><c t="inlineStr"><is><t>N-2`},
			"cannot be read further"},
		"cut between rows": {map[string]string{"xl/workbook.xml": book(good, nil)["xl/workbook.xml"],
			"xl/_rels/workbook.xml.rels": book(good, nil)["xl/_rels/workbook.xml.rels"],
			"xl/worksheets/one.xml":      `<worksheet><sheetData>` + good}, "cannot be read further"},
		"broken texts": {book(good, map[string]string{"xl/sharedStrings.xml": `<sst><si><t>a</t>`}),
			"texts of the workbook cannot be read"},
		"no sheets":       {map[string]string{"xl/workbook.xml": `<workbook/>`}, "no sheet with cells"},
		"too wide":        {book(`<row><c r="XFD1"><v>1</v></c></row>`, nil), "up to 500 are read"},
		"another archive": {map[string]string{"word/document.xml": "<document/>"}, "not a workbook"},
		"binary":          {map[string]string{"xl/workbook.bin": "x"}, "binary workbook (XLSB)"},
		"locked ODS": {map[string]string{"content.xml": "x",
			"META-INF/manifest.xml": `<manifest:encryption-data/>`}, "has a password"},
		"cut ODS": {map[string]string{"content.xml": `<office:document-content><table:table table:name="A"><table:table-row><table:table-cell><text:p>bin</text:p></table:table-cell></table:table-row><table:table-row><table:table-cell>`}, "cannot be read further"},
	} {
		_, err := sources.Read(parts(t, test.parts), sources.Settings{})
		if test.text == "" {
			if err != nil {
				require.IsType(t, &sources.FileError{}, err, name)
			}
			continue
		}
		require.IsType(t, &sources.FileError{}, err, name)
		require.ErrorContains(t, err, test.text, name)
	}
}

// Bytes that were changed anywhere in a workbook give a table or a sentence, and nothing else.
func TestChangedWorkbooksNeverBreak(t *testing.T) {
	rows := ""
	for i := range 20 {
		rows += fmt.Sprintf(`<row r="%d"><c r="A%d" t="inlineStr"><is><t>N-%d</t></is></c><c r="B%d" s="1"><v>%d</v></c></row>`, i+1, i+1, i, i+1, i*37)
	}
	good := parts(t, book(rows, map[string]string{"xl/styles.xml": `<styleSheet><cellXfs><xf numFmtId="0"/><xf numFmtId="12"/></cellXfs></styleSheet>`}))
	for at := 0; at < len(good); at += 7 {
		bad := bytes.Clone(good)
		bad[at] ^= 0x55
		table, err := sources.Read(bad, sources.Settings{})
		if err != nil {
			require.IsType(t, &sources.FileError{}, err, "byte %d", at)
			continue
		}
		for _, record := range table.Records {
			require.Len(t, record, len(table.Fields), "byte %d", at)
		}
	}
}

// Choices that a kind of file does not have are refused, and not passed over.
func TestChoicesThatDoNotFitAreRefused(t *testing.T) {
	xlsx := parts(t, book(`<row><c t="inlineStr"><is><t>bin</t></is></c></row><row><c t="inlineStr"><is><t>N-1</t></is></c></row>`, nil))
	for _, test := range []struct {
		data     []byte
		settings sources.Settings
		text     string
	}{
		{xlsx, sources.Settings{Encoding: sources.UTF8}, "says itself how its letters are"},
		{xlsx, sources.Settings{Columns: "1,5"}, "columns by their places are for text"},
		{xlsx, sources.Settings{Quotes: sources.QuotesNone}, "no quotes"},
		{[]byte(`[{"a": 1}]`), sources.Settings{Header: sources.HeaderFirst}, "names its values itself"},
		{[]byte(`<a><b>1</b><b>2</b></a>`), sources.Settings{Encoding: sources.UTF8}, "says itself"},
		{[]byte("a,b\n1,2\n"), sources.Settings{Table: "/a"}, "no lists"},
	} {
		_, err := sources.Read(test.data, test.settings)
		require.IsType(t, &sources.FileError{}, err)
		require.ErrorContains(t, err, test.text)
	}
}
