package sources_test

import (
	"archive/zip"
	"bytes"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"
	"unicode/utf8"

	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"oddspool/internal/sources"
)

// a workbook whose cells have a number format each; nil leaves a cell empty.
func workbook(t testing.TB, change func(f *excelize.File)) []byte {
	f := excelize.NewFile()
	change(f)
	var out bytes.Buffer
	require.NoError(t, f.Write(&out))
	require.NoError(t, f.Close())
	return out.Bytes()
}

func put(t testing.TB, f *excelize.File, cell string, value any, form string) {
	require.NoError(t, f.SetCellValue("Sheet1", cell, value))
	if form == "" {
		return
	}
	style, err := f.NewStyle(&excelize.Style{CustomNumFmt: &form})
	require.NoError(t, err)
	require.NoError(t, f.SetCellStyle("Sheet1", cell, cell, style))
}

// Values are those that the sheet shows: nothing is taken for a number or a date that is none, and no zero is lost.
func TestSheetsAreReadAsTheyShow(t *testing.T) {
	for _, test := range []struct {
		value any
		form  string
		shows string
	}{
		{"00417", "", "00417"}, {417, "00000", "00417"}, {"1E5", "", "1E5"}, {"3/4", "", "3/4"}, {0.75, "# ?/?", "3/4"},
		{1.5, "# ?/?", "1 1/2"},
		{"12345678901234567890", "", "12345678901234567890"}, {4012345678901, "", "4012345678901"},
		{0.1 + 0.2, "", "0.3"},
		{1234.5, "#,##0.00 \"kg\"", "1,234.50 kg"}, {0.256, "0%", "26%"}, {45000, "yyyy-mm-dd", "2023-03-15"},
		{45000, "dd.mm.yyyy", "15.03.2023"},
		{time.Date(2026, 11, 26, 0, 0, 0, 0, time.UTC), "", "2026-11-26"}, {true, "", "TRUE"},
		{"two\nlines", "", "two\nlines"}, {" spaced ", "", " spaced "}, {38.5, "0.0\"°C\"", "38.5°C"},
	} {
		data := workbook(t, func(f *excelize.File) {
			put(t, f, "A1", "bin", "")
			put(t, f, "B1", "value", "")
			put(t, f, "A2", "N-01", "")
			put(t, f, "B2", test.value, test.form)
			if _, is := test.value.(time.Time); is {
				style, err := f.NewStyle(&excelize.Style{NumFmt: 14}) // what the reader's computer makes of a date
				require.NoError(t, err)
				require.NoError(t, f.SetCellStyle("Sheet1", "B2", "B2", style))
			}
		})
		table, err := sources.Read(data, sources.Settings{})
		require.NoError(t, err)
		require.Equal(t, []string{"bin", "value"}, table.Fields)
		require.Equal(t, [][]string{{"N-01", test.shows}}, table.Records, "%v as %q", test.value, test.form)
	}
}

// The table of a sheet may start anywhere, below titles, with names that stand over several columns and rows.
func TestTheTableOfASheetIsFound(t *testing.T) {
	data := workbook(t, func(f *excelize.File) {
		require.NoError(t, f.SetSheetRow("Sheet1", "C2", &[]any{"Stock of the north shed"}))
		require.NoError(t, f.MergeCell("Sheet1", "C2", "F2"))
		require.NoError(t, f.SetSheetRow("Sheet1", "C4", &[]any{"Part", "Size", nil, "Shelf"}))
		require.NoError(t, f.MergeCell("Sheet1", "C4", "C5"))
		require.NoError(t, f.MergeCell("Sheet1", "D4", "E4"))
		require.NoError(t, f.MergeCell("Sheet1", "F4", "F5"))
		require.NoError(t, f.SetSheetRow("Sheet1", "D5", &[]any{"wide", "tall"}))
		require.NoError(t, f.SetSheetRow("Sheet1", "C6", &[]any{"K-1", 10, 20, "N-1"}))
		require.NoError(t, f.SetSheetRow("Sheet1", "C7", &[]any{"K-2", 30, nil, nil}))
		require.NoError(t, f.MergeCell("Sheet1", "F6", "F7"))
		require.NoError(t, f.SetSheetRow("Sheet1", "C8", &[]any{"K-3", 30, "#N/A", "N-2"}))
		require.NoError(t, f.SetRowVisible("Sheet1", 8, false))
		_, err := f.NewSheet("Notes")
		require.NoError(t, err)
	})
	source, err := sources.Open(t.Context(), bytes.NewReader(data), int64(len(data)), sources.Settings{})
	require.NoError(t, err)
	defer source.Close()
	require.Equal(t, []string{"Part", "Size wide", "Size tall", "Shelf"}, source.Fields)
	require.Equal(t, 5, source.Settings.Header.Row())
	require.Equal(t, []string{"Sheet1", "Notes"}, source.Sheets)
	for range 2 {
		var records [][]string
		for record, err := range source.Records() {
			require.NoError(t, err)
			records = append(records, record)
		}
		require.Equal(t, [][]string{{"K-1", "10", "20", "N-1"}, {"K-2", "30", "", "N-1"}, {"K-3", "30", "#N/A", "N-2"}},
			records)
	}
	notes := strings.Join(source.Notes, "\n")
	for _, said := range []string{"2 sheets", "above the names", "1 row is hidden", "filled down", "#N/A", "row 8"} {
		require.Contains(t, notes, said)
	}
	table, err := sources.Read(data, sources.Settings{Header: "row 6"})
	require.NoError(t, err)
	require.Equal(t, []string{"K-1", "10", "20", "N-1"}, table.Fields, "what is chosen counts")
}

func TestBadWorkbooksAreRefusedInWords(t *testing.T) {
	plain := func(f *excelize.File) {
		put(t, f, "A1", "bin", "")
		put(t, f, "A2", "N-1", "")
	}
	good := workbook(t, plain)
	var locked bytes.Buffer
	f := excelize.NewFile()
	require.NoError(t, f.Write(&locked, excelize.Options{Password: "kelp"}))
	bomb := &bytes.Buffer{}
	packed := zip.NewWriter(bomb)
	part, err := packed.Create("xl/workbook.xml")
	require.NoError(t, err)
	zeros := make([]byte, 1<<20)
	for range 520 {
		_, err = part.Write(zeros)
		require.NoError(t, err)
	}
	require.NoError(t, packed.Close())
	chart := workbook(t, func(f *excelize.File) {
		plain(f)
		require.NoError(t, f.AddChartSheet("Trend",
			&excelize.Chart{Type: excelize.Col,
				Series: []excelize.ChartSeries{{Name: "Sheet1!$A$1", Values: "Sheet1!$A$2:$A$2"}}}))
	})
	for name, test := range map[string]struct {
		data     []byte
		settings sources.Settings
		text     string
	}{
		"password":      {locked.Bytes(), sources.Settings{}, "has a password"},
		"broken off":    {good[:len(good)/2], sources.Settings{}, "broken off or damaged"},
		"bomb":          {bomb.Bytes(), sources.Settings{}, "has more than 512 MB"},
		"no such sheet": {good, sources.Settings{Sheet: "Bins"}, `has no sheet "Bins"; it has "Sheet1"`},
		"chart":         {chart, sources.Settings{Sheet: "Trend"}, `"Trend" is a chart`},
		"empty":         {workbook(t, func(*excelize.File) {}), sources.Settings{}, "The file is empty"},
		"a separator":   {good, sources.Settings{Separator: ";"}, "has no separators"},
		"a list":        {good, sources.Settings{Table: "/a"}, "has no lists"},
	} {
		_, err := sources.Read(test.data, test.settings)
		require.IsType(t, &sources.FileError{}, err, name)
		require.ErrorContains(t, err, test.text, name)
	}
	_, err = sources.Read([]byte("bin\nN-1\n"), sources.Settings{Sheet: "Bins"})
	require.ErrorContains(t, err, "has no sheets")
}

// A sheet that says that it is huge has as many rows as there are.
func TestDeclaredRowsCostNothing(t *testing.T) {
	data := workbook(t, func(f *excelize.File) {
		put(t, f, "A1", "bin", "")
		put(t, f, "A2", "N-1", "")
		put(t, f, "A1048576", "N-2", "")
		require.NoError(t, f.SetSheetDimension("Sheet1", "A1:XFD1048576"))
	})
	table, err := sources.Read(data, sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, [][]string{{"N-1"}, {"N-2"}}, table.Records)
}

func ods(t testing.TB, body string) []byte {
	var out bytes.Buffer
	packed := zip.NewWriter(&out)
	for name, text := range map[string]string{
		"mimetype": "application/vnd.oasis.opendocument.spreadsheet",
		"content.xml": `<?xml version="1.0"?><office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"><office:body><office:spreadsheet>` +
			body + `</office:spreadsheet></office:body></office:document-content>`,
	} {
		part, err := packed.Create(name)
		require.NoError(t, err)
		_, err = part.Write([]byte(text))
		require.NoError(t, err)
	}
	require.NoError(t, packed.Close())
	return out.Bytes()
}

func TestOpenDocumentSheetsAreRead(t *testing.T) {
	cell := func(text string) string {
		return `<table:table-cell office:value-type="string"><text:p>` + text + `</text:p></table:table-cell>`
	}
	data := ods(t, `<table:table table:name="Empty"><table:table-row table:number-rows-repeated="1048576"><table:table-cell table:number-columns-repeated="1024"/></table:table-row></table:table>
		<table:table table:name="Bins"><table:table-column/><table:table-row>`+cell("bin")+
		`<table:table-cell table:number-columns-spanned="2"><text:p>Size</text:p></table:table-cell><table:covered-table-cell/></table:table-row>
		<table:table-row>`+cell("")+cell("wide")+cell("tall")+`</table:table-row>
		<table:table-row table:visibility="collapse">`+cell("N-1")+
		`<table:table-cell office:value-type="float" office:value="417"><text:p>00417</text:p></table:table-cell>
			<table:table-cell><text:p>two<text:s text:c="2"/>blanks</text:p><text:p>and lines</text:p></table:table-cell></table:table-row>
		<table:table-row table:number-rows-repeated="2">`+cell("N-2")+
		`<table:table-cell table:number-columns-repeated="2"><text:p>1E5</text:p></table:table-cell><table:table-cell table:number-columns-repeated="16000"/></table:table-row>
		<table:table-row table:number-rows-repeated="1040000"><table:table-cell table:number-columns-repeated="1024"/></table:table-row></table:table>`)
	source, err := sources.Open(t.Context(), bytes.NewReader(data), int64(len(data)), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, sources.ODS, source.Kind)
	require.Equal(t, "Bins", source.Settings.Sheet, "the first with something in it")
	require.Equal(t, []string{"bin", "Size wide", "Size tall"}, source.Fields)
	var records [][]string
	for record, err := range source.Records() {
		require.NoError(t, err)
		records = append(records, record)
	}
	require.Equal(t, [][]string{{"N-1", "00417", "two  blanks\nand lines"}, {"N-2", "1E5", "1E5"},
		{"N-2", "1E5", "1E5"}}, records)
	require.Contains(t, strings.Join(source.Notes, " "), "1 row is hidden")
	_, err = sources.Read(ods(t, ""), sources.Settings{})
	require.ErrorContains(t, err, "no sheets")
}

func TestListsOfJSONAreFoundAndCorrected(t *testing.T) {
	const text = `{"plant": "Brinewick", "bins": [{"bin": "N-01", "lot": {"no": "00417", "day": 1E5}, "tags": ["a", "b"]}, {"bin": "N-02", "qty": 12345678901234567890, "ok": true, "x": null}],
		"orders": [{"no": "A1", "lines": [{"item": "K-1"}, {"item": "K-2"}]}, {"no": "A2", "lines": [{"item": "K-3"}]}]}`
	for table, want := range map[string]struct {
		fields  []string
		records [][]string
	}{
		"/bins": {[]string{"bin", "lot no", "lot day", "tags", "qty", "ok", "x"},
			[][]string{{"N-01", "00417", "1E5", `["a","b"]`, "", "", ""}, {"N-02", "", "", "", "12345678901234567890",
				"true", ""}}},
		"":             {[]string{"item", "orders no"}, [][]string{{"K-1", "A1"}, {"K-2", "A1"}, {"K-3", "A2"}}},
		"orders.lines": {[]string{"item", "orders no"}, [][]string{{"K-1", "A1"}, {"K-2", "A1"}, {"K-3", "A2"}}},
		"$.orders": {[]string{"no", "lines"}, [][]string{{"A1", `[{"item":"K-1"},{"item":"K-2"}]`},
			{"A2", `[{"item":"K-3"}]`}}},
	} {
		read, err := sources.Read([]byte(text), sources.Settings{Table: table})
		require.NoError(t, err, table)
		require.Equal(t, want.fields, read.Fields, table)
		require.Equal(t, want.records, read.Records, table)
	}
	for text, want := range map[string][][]string{
		`[["bin", "lot"], ["N-1", "007"], ["N-2", 1E5]]`: {{"N-1", "007"}, {"N-2", "1E5"}},
		"{\"bin\": \"N-1\"}\n{\"bin\": \"N-2\"}\n":       {{"N-1"}, {"N-2"}},
		`{"bin": "N-1", "lot": 2.50}`:                    {{"N-1", "2.50"}},
		`[{"bin": "N-1"}, {"bin": "N-2"}]`:               {{"N-1"}, {"N-2"}},
	} {
		read, err := sources.Read([]byte(text), sources.Settings{})
		require.NoError(t, err, text)
		require.Equal(t, want, read.Records, text)
	}
	_, err := sources.Read([]byte(text), sources.Settings{Table: "/nosuch"})
	require.ErrorContains(t, err, `There is no list "/nosuch"; there is "/orders/lines"`)
	_, err = sources.Read([]byte("[{\"a\": 1},\n{\"a\" 2}]"), sources.Settings{})
	require.ErrorContains(t, err, "line 2: The JSON has a mistake here")
	_, err = sources.Read([]byte(strings.Repeat("[", 100)+strings.Repeat("]", 100)), sources.Settings{})
	require.ErrorContains(t, err, "more than 64 levels")
	read, err := sources.Read([]byte("[bin],lot\nN-1,2\n"), sources.Settings{})
	require.NoError(t, err, "what only begins like JSON is text")
	require.Equal(t, []string{"[bin]", "lot"}, read.Fields)
}

func TestListsOfXMLAreFoundAndCorrected(t *testing.T) {
	const text = "<?xml version=\"1.0\" encoding=\"ISO-8859-1\"?>\n<orders><order no=\"1\"><line " +
		"item=\"K-1\"><qty>04</qty></line><line item=\"K-2\"><qty>5</qty><note>R\xf8d</note></line></order>" +
		"<order no=\"2\"><line item=\"K-3\"><qty>1</qty></line></order></orders>"
	read, err := sources.Read([]byte(text), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, []string{"item", "qty", "order no", "note"}, read.Fields)
	require.Equal(t, [][]string{{"K-1", "04", "1", ""}, {"K-2", "5", "1", "Rød"}, {"K-3", "1", "2", ""}}, read.Records)
	require.EqualValues(t, "ISO-8859-1", read.Settings.Encoding)
	read, err = sources.Read([]byte(
		"<o><order><no>7</no><lines><line><item>K-1</item></line><line><item>K-2</item></line></lines></order></o>"),
		sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, []string{"item", "order no"}, read.Fields, "what holds the records says its number")
	require.Equal(t, [][]string{{"K-1", "7"}, {"K-2", "7"}}, read.Records)
	read, err = sources.Read([]byte(text), sources.Settings{Table: "order"})
	require.NoError(t, err)
	require.Equal(t, []string{"no", "line item", "line qty", "line item 2", "line qty 2", "line note"}, read.Fields)
	for text, says := range map[string]string{
		"<a><b>1</b><b>2</a>":                                    "line 1: The XML has a mistake here",
		"<a><b>1</b><b>2</b>":                                    "broken off",
		"<?xml version=\"1.0\" encoding=\"klingon\"?><a/>":       "its encoding",
		strings.Repeat("<a>", 100) + strings.Repeat("</a>", 100): "more than 64 levels",
	} {
		_, err = sources.Read([]byte(text), sources.Settings{})
		require.ErrorContains(t, err, says, text)
	}
}

func TestFixedColumnsAreFoundAndCorrected(t *testing.T) {
	const text = "BIN       LOT       CONTENTS\nN-01-01-A 26K104    Dulse, flaked\nN-01-02-A 26K105    " +
		"Kombu\nÅ-01-03-B 00417     Sea salt  fine\n"
	table, err := sources.Read([]byte(text), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, "1,11,21", table.Settings.Columns)
	require.Equal(t, []string{"BIN", "LOT", "CONTENTS"}, table.Fields)
	require.Equal(t, []string{"Å-01-03-B", "00417", "Sea salt  fine"}, table.Records[2])
	table, err = sources.Read([]byte(text), sources.Settings{Columns: "1,3,11"})
	require.NoError(t, err)
	require.Equal(t, []string{"Å-", "01-03-B", "00417     Sea salt  fine"}, table.Records[2])
	for _, columns := range []string{"0,4", "4,2", "a", "1,1"} {
		_, err = sources.Read([]byte(text), sources.Settings{Columns: columns})
		require.ErrorContains(t, err, "are none", columns)
	}
	table, err = sources.Read([]byte("remark\nkelp is dry\nsalt is not\n"), sources.Settings{})
	require.NoError(t, err)
	require.Len(t, table.Fields, 1, "sentences are no columns")
}

// dbf writes a table file with the fields of dBASE III.
func dbf(page byte, records ...string) []byte {
	fields := []struct {
		name string
		kind byte
		size byte
	}{{"BIN", 'C', 6}, {"QTY", 'N', 8}, {"BEST", 'D', 8}, {"OK", 'L', 1}, {"SAYS", 'C', 8}}
	head := make([]byte, 32)
	head[0], head[1], head[2], head[3], head[29] = 0x03, 126, 11, 26, page
	binary.LittleEndian.PutUint32(head[4:], uint32(len(records)))
	binary.LittleEndian.PutUint16(head[8:], uint16(32+32*len(fields)+1))
	binary.LittleEndian.PutUint16(head[10:], 32)
	for _, f := range fields {
		d := make([]byte, 32)
		copy(d, f.name)
		d[11], d[16] = f.kind, f.size
		head = append(head, d...)
	}
	return append(append(append(head, 0x0d), strings.Join(records, "")...), 0x1a)
}

func TestDesktopTableFilesAreRead(t *testing.T) {
	data := dbf(0x02, " 00417  12.500020261126TR\x9bdalge ", "*N-02         120261126FGone    ",
		" N-03                  ?Kelp    ")
	source, err := sources.Open(t.Context(), bytes.NewReader(data), int64(len(data)), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, sources.DBF, source.Kind)
	require.EqualValues(t, "CP850", source.Settings.Encoding)
	table, err := sources.Read(data, sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, []string{"BIN", "QTY", "BEST", "OK", "SAYS"}, table.Fields)
	require.Equal(t, [][]string{{"00417", "12.5000", "2026-11-26", "yes", "Rødalge"}, {"N-03", "", "", "", "Kelp"}},
		table.Records)
	require.Contains(t, strings.Join(table.Notes, " "), "1 record is marked as deleted")
	table, err = sources.Read(dbf(0, " 00417  12.500020261126TR\xf8dalge "),
		sources.Settings{Encoding: sources.Windows1252})
	require.NoError(t, err)
	require.Equal(t, "Rødalge", table.Records[0][4])
	_, err = sources.Read(data[:len(data)-20], sources.Settings{})
	require.ErrorContains(t, err, "row 3: The table file is broken off here")
	_, err = sources.Read(data, sources.Settings{Encoding: "EBCDIC"})
	require.ErrorContains(t, err, "is not known")
}

// Any text in any kind of file arrives unchanged.
func TestAnyTextArrivesUnchanged(t *testing.T) {
	random := rand.New(rand.NewPCG(417, 1))
	letters := []rune("abcXYZ0123456789 ,;|\"'<>&=+-@#/\\.%éøßЖ昆布🐟\u00a0")
	word := func() string {
		var text strings.Builder
		for range 1 + random.IntN(12) {
			text.WriteRune(letters[random.IntN(len(letters))])
		}
		return text.String()
	}
	for range 60 {
		fields, records := []string{"first", "second"}, [][]string{}
		for range 5 {
			records = append(records, []string{word(), word()})
		}
		if strings.TrimSpace(records[0][0]) == "" {
			continue
		}
		require.True(t, utf8.ValidString(records[0][0]))
		inXLSX := workbook(t, func(f *excelize.File) {
			for y, row := range append([][]string{fields}, records...) {
				for x, value := range row {
					cell, _ := excelize.CoordinatesToCellName(x+1, y+1)
					require.NoError(t, f.SetCellStr("Sheet1", cell, value))
				}
			}
		})
		var list []map[string]string
		for _, r := range records {
			list = append(list, map[string]string{"first": r[0], "second": r[1]})
		}
		inJSON, err := json.Marshal(list)
		require.NoError(t, err)
		var inXML strings.Builder
		escape := strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;")
		for _, r := range records {
			fmt.Fprintf(&inXML, `<r first="%s"><second>%s</second></r>`, escape.Replace(r[0]), escape.Replace(r[1]))
		}
		for kind, data := range map[string][]byte{"XLSX": inXLSX, "JSON": inJSON,
			"XML": []byte("<rows>" + inXML.String() + "</rows>")} {
			table, err := sources.Read(data, sources.Settings{Header: map[string]sources.Header{"XLSX": "row 1"}[kind]})
			require.NoError(t, err, kind)
			require.Equal(t, fields, table.Fields, kind)
			require.Equal(t, records, table.Records, kind)
		}
	}
}

// 100,000 rows of a workbook: wanted in 4 s and 300 MB.
func BenchmarkReadWorkbook(b *testing.B) {
	data := workbook(b, func(f *excelize.File) {
		stream, err := f.NewStreamWriter("Sheet1")
		require.NoError(b, err)
		for y := 1; y <= 100_001; y++ {
			cell, _ := excelize.CoordinatesToCellName(1, y)
			require.NoError(b, stream.SetRow(cell, []any{fmt.Sprintf("N-%06d", y), "Dulse, flaked", y, 12.5, "26K104",
				"00417", "north shed", y % 7}))
		}
		require.NoError(b, stream.Flush())
	})
	for b.Loop() {
		source, err := sources.Open(b.Context(), bytes.NewReader(data), int64(len(data)), sources.Settings{})
		require.NoError(b, err)
		for _, err := range source.Records() {
			require.NoError(b, err)
		}
		require.NoError(b, source.Close())
	}
}
