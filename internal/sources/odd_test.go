package sources_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"oddspool/internal/sources"
)

// What a file says wrongly is told in the trade's words, with its line: no library's words come through.
func TestMistakesAreToldWhereTheyStand(t *testing.T) {
	const book = `<?xml version="1.0"?><?mso-application progid="x"?><Workbook xmlns="urn:schemas-microsoft-com:office:spreadsheet"><Worksheet/></Workbook>`
	for data, says := range map[string]string{
		"[{\"a\":1}, // no\n{\"a\":2}]": "line 1: The JSON has a mistake here: a comment, which JSON does not " +
			"have (RFC 8259)",
		"[{\"a\":1},\n/* no */ {\"a\":2}]": "line 2: The JSON has a mistake here: a comment",
		"/* no */\n[{\"a\":1}]":            "line 1: The JSON has a mistake here: a comment",
		"[{\"a\":1},\n{\"a\":2},\n]":       "line 2: The JSON has a mistake here: a comma before “]”",
		"[{\"a\":1},\n{\"a\":2,}]":         "line 2: The JSON has a mistake here: a comma before “}”",
		"[{\"a\":1}\n{\"a\":2}]":           "line 2: The JSON has a mistake here: a comma lacks before “{”",
		"[{\"a\":1},\n{'a':2}]": "line 2: The JSON has a mistake here: “'” where a quotation mark \" " +
			"should stand",
		"[{\"a\":1},\n{\"a\":NaN}]": "line 2: The JSON has a mistake here: “NaN” stands here without " +
			"quotation marks",
		"[{\"a\":007}]": "line 1: The JSON has a mistake here: a number that is not written " +
			"as JSON has it",
		"[{\"a\":\"two\nlines\"}]":             "line 1: The JSON has a mistake here: a control character (U+000A)",
		"[{\"a\":\"\\q\"}]":                    "line 1: The JSON has a mistake here: “\\q” in a text means nothing",
		"[{\"a\":1}]\n}":                       "line 2: The JSON has a mistake here: “}” cannot stand here",
		"[{\"a\":1},{\"a\":":                   "The JSON is broken off",
		"[]":                                   "The list / has no records with values in it",
		"[{\"a\":\"R\xf8d\"},{\"a\":\"Rød\"}]": "line 1: The file is UTF-8 but for 1 byte, here first",
		"bin,name\nA1,Rød\nA2,R\xf8d\n":        "line 3: The file is UTF-8 but for 1 byte, here first",
		"<r><a x=1/></r>":                      "line 1: The XML has a mistake here: an attribute needs a name",
		"<r>\n<a>1</b></r>": "line 2: The XML has a mistake here: an element ends that is not the " +
			"one that began last",
		"<r>\n<a>kelp & dulse</a></r>": "line 2: The XML has a mistake here: “&” stands alone. Write it " +
			"as &amp;",
		"<r>\n<a>&nbsp;</a></r>": "line 2: The XML has a mistake here: “&nbsp;” is no character of XML",
		"<r>\n<a>\x07</a></r>": "line 2: The XML has a mistake here: the control character U+0007 " +
			"stands in it",
		"<a>1</a>\n<b>2</b>": "line 2: A second outermost element, <b>, begins here",
		"<?xml version=\"1.0\" " +
			"encoding=\"ebcdic-kelp\"?><r><a>1</a></r>": "its encoding is \"ebcdic-kelp\", which is not known",
		book:                                  "This is a workbook as XML (SpreadsheetML of 2003)",
		"ID;PKELP;N;E\nC;Y1;X1;K\"bin\"\nE\n": "This is a sheet as SYLK",
		"TABLE\r\n0,1\r\n\"KELP\"\r\n":        "This is a sheet as DIF",
	} {
		_, err := sources.Read([]byte(data), sources.Settings{})
		require.IsType(t, &sources.FileError{}, err, data)
		require.ErrorContains(t, err, says, data)
		for _, word := range []string{"invalid character", "token", "rune", "EOF", "xml:", "json", "offset", "nil"} {
			require.NotContains(t, err.Error(), word, data)
		}
	}
}

// What is left out of good data, or is not as it looks, is told, with the first place of it.
func TestOddDataIsReadAndTold(t *testing.T) {
	for _, test := range []struct {
		data    string
		fields  []string
		records [][]string
		notes   []string
	}{
		{"bin,qty\nA1,1\nA\a12,2\n", []string{"bin", "qty"}, [][]string{{"A1", "1"}, {"A12", "2"}},
			[]string{"1 control character is left out, which no text has: U+0007 in line 3, letter 2."}},
		{"bin,qty\nA1,1\n\x7fA2,\x002\n", []string{"bin", "qty"}, [][]string{{"A1", "1"}, {"A2", "2"}},
			[]string{"2 control characters are left out, which no text has: the first is U+007F in line 3, letter 1."}},
		{"bin,qty\nA1,1\n,\n\nA3,3\n , \n\n", []string{"bin", "qty"}, [][]string{{"A1", "1"}, {"A3", "3"}},
			[]string{"2 rows have nothing and are left out, the first in line 3."}},
		{"bin,qty\nA1,1\nA2,2\n,\n,\n", []string{"bin", "qty"}, [][]string{{"A1", "1"}, {"A2", "2"}}, nil},
		{"bin,qty\nA1,1\nbin,qty\nA2,2\n", []string{"bin", "qty"}, [][]string{{"A1", "1"}, {"bin", "qty"}, {"A2", "2"}},
			[]string{"1 row says the names of the fields again, the first in line 3; it is read as a record."}},
		{"bin,,bin,b\u200bin,B\u0308r,run.label\nA,B,C,D,E,F\n", []string{"bin", "column 2", "bin 2", "bin 3",
			"B\u0308r", "run label"}, nil, []string{
			"Column 2 has no name", "Two columns are called \"bin\"; column 3 is called \"bin 2\"",
			"The name of column 4 has characters that show nothing", "column 4 is called \"bin 3\"",
			"Names that begin with \"run.\" are of what a run knows; column 6 is called \"run label\""}},
		{"bin,qty\nA1,1\n\u200bA2,2\n", []string{"bin", "qty"}, [][]string{{"A1", "1"}, {"\u200bA2", "2"}},
			[]string{"1 value has characters that show nothing, such as a zero-width space, the first in line 3."}},
		{"bin,name\nA1,می\u200cخواهم\n", []string{"bin", "name"}, [][]string{{"A1", "می\u200cخواهم"}}, nil},
		{`[{"a":"x\u0000y"},{"a":"b\u0007"}]`, []string{"a"}, [][]string{{"xy"}, {"b"}},
			[]string{"2 control characters are left out, which no text has: the first is U+0000 in record 1, " +
				"value 1."}},
		{"[{\"a\":\"x\"},\n{\"a\":\"\\ud83cy\"},{\"a\":\"\\ud83c\\udf0a\"}]", []string{"a"},
			[][]string{{"x"}, {"�y"}, {"🌊"}}, []string{"The text in line 2 has \\ud83c, half of a letter"}},
		{`[{"a":1},{},{"a":null},{"a":2}]`, []string{"a"}, [][]string{{"1"}, {"2"}},
			[]string{"2 rows have nothing and are left out, the first in row 2."}},
		{`[{"a":1},{"a":2,"a":3}]`, []string{"a", "a 2"}, [][]string{{"1", ""}, {"2", "3"}},
			[]string{"\"a\" stands several times in one record, the first of them record 2"}},
		{`[{"":1,"a":2}]`, []string{"column 1", "a"}, [][]string{{"1", "2"}}, []string{"Column 1 has no name"}},
		{flatODS, []string{"bin", "qty"}, [][]string{{"A1", "3"}, {"A1", "3"}}, nil},
	} {
		table, err := sources.Read([]byte(test.data), sources.Settings{})
		require.NoError(t, err, test.data)
		require.Equal(t, test.fields, table.Fields, test.data)
		if test.records != nil {
			require.Equal(t, test.records, table.Records, test.data)
		}
		require.Len(t, table.Notes, len(test.notes), "%s: %v", test.data, table.Notes)
		for i, note := range test.notes {
			require.Contains(t, strings.Join(table.Notes, "\n"), note, "%d of %s", i, test.data)
		}
	}
	table, err := sources.Read([]byte("bin,Bär\nA1,1\n"), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, []string{"bin", "B\u00e4r"}, table.Fields)
	table, err = sources.Read([]byte("bin,Ba\u0308r\nA1,1\n"), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, []string{"bin", "B\u00e4r"}, table.Fields, "names that look the same are the same")
	table, err = sources.Read([]byte(strings.Repeat("bin,", 30)+"bin\n"+strings.Repeat("x,", 30)+"y\n"),
		sources.Settings{})
	require.NoError(t, err)
	require.Len(t, table.Notes, 21)
	require.Equal(t, "10 more like these.", table.Notes[20])
}

const flatODS = `<?xml version="1.0"?><office:document xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" ` +
	`xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:mimetype="application/vnd.oasis.opendocument.spreadsheet"><office:body><office:spreadsheet><table:table table:name="S">` +
	`<table:table-row><table:table-cell><text:p>bin</text:p></table:table-cell><table:table-cell><text:p>qty</text:p></table:table-cell></table:table-row>` +
	`<table:table-row table:number-rows-repeated="2"><table:table-cell><text:p>A1</text:p></table:table-cell><table:table-cell><text:p>3</text:p></table:table-cell></table:table-row>` +
	`</table:table></office:spreadsheet></office:body></office:document>`

// Rows of a sheet between others that have nothing are told, those behind the last are not.
func TestBlankRowsOfSheetsAreTold(t *testing.T) {
	data := workbook(t, func(f *excelize.File) {
		for row, value := range map[string]string{"A1": "bin", "A2": "N-01", "A5": "N-02", "A9": "", "B1": "qty",
			"B2": "1", "B5": "a\x01b"} {
			require.NoError(t, f.SetCellValue("Sheet1", row, strings.ReplaceAll(value, "\x01", "_x0001_")))
		}
	})
	table, err := sources.Read(data, sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, [][]string{{"N-01", "1"}, {"N-02", "ab"}}, table.Records)
	require.Equal(t, []string{"1 control character is left out, which no text has: U+0001 in record 5, value 2.",
		"2 rows have nothing and are left out, the first in row 3."}, table.Notes)
}

// Our reader of a sheet's XML finds what the standard library finds, however the bytes come.
func TestSheetsXMLIsReadAsTheLibraryDoes(t *testing.T) {
	text := `<?xml version="1.0" encoding="UTF-8" standalone="yes"?><!-- a > b --><x:sheet xmlns:x="k" a = 'says ">"' x:b="&lt;&#65;&#x42;"><row r="1"><c/><c t="s" ><v>1 &amp; 2</v></c>` +
		`<![CDATA[<not>&amp;]]><is><t xml:space="preserve">  Rødalge &quot;x&quot; </t></is></row><empty   /></x:sheet>`
	seen := func(in io.Reader) []string {
		list, err := sources.MarkupEvents(in)
		require.NoError(t, err)
		return list
	}
	var want []string
	library := xml.NewDecoder(strings.NewReader(text))
	said := ""
	for {
		token, err := library.RawToken()
		if err == nil {
			if chars, is := token.(xml.CharData); is {
				said += string(chars)
				continue
			}
		}
		if said != "" {
			want = append(want, "text "+said)
			said = ""
		}
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
		switch token := token.(type) {
		case xml.StartElement:
			line := "opens " + token.Name.Local
			for _, a := range token.Attr {
				line += " " + a.Name.Local + "=" + a.Value
			}
			want = append(want, line)
		case xml.EndElement:
			want = append(want, "closes "+token.Name.Local)
		}
	}
	require.Equal(t, want, seen(strings.NewReader(text)))
	random := rand.New(rand.NewPCG(40, 9))
	for range 50 { // in pieces of any size
		require.Equal(t, want, seen(&pieces{rest: []byte(text), most: 1 + random.IntN(9), random: random}))
	}
	for broken, says := range map[string]string{"<a": "broken off", "<a>&x;</a>": "is no character",
		"<a>& </a>": "stands in it alone", "<a>\xff</a>": "not UTF-8",
		"<?xml version='1.0' encoding='latin1'?><a/>": "letters are not UTF-8", "<!DOCTYPE a><a/>": "declares types",
		"< a>": "no XML"} {
		_, err := sources.MarkupEvents(strings.NewReader(broken))
		require.ErrorContains(t, err, says, broken)
	}
}

type pieces struct {
	rest   []byte
	most   int
	random *rand.Rand
}

func (p *pieces) Read(into []byte) (int, error) {
	if len(p.rest) == 0 {
		return 0, io.EOF
	}
	n := copy(into, p.rest[:min(1+p.random.IntN(p.most), len(p.rest))])
	p.rest = p.rest[n:]
	return n, nil
}

// Whatever stands in a sheet's XML, reading it ends, and gives what was written.
func FuzzSheetsXML(f *testing.F) {
	f.Add([]byte(`<a b="c">d</a>`))
	f.Add([]byte(`<a><![CDATA[x]]><!-- y --></a>`))
	f.Fuzz(func(t *testing.T, data []byte) {
		events, err := sources.MarkupEvents(bytes.NewReader(data))
		pieced, piecedErr := sources.MarkupEvents(&pieces{rest: data, most: 3, random: rand.New(rand.NewPCG(3, 3))})
		require.Equal(t, err == nil, piecedErr == nil)
		if err == nil {
			require.Equal(t, events, pieced)
		}
	})
}

// Names that stand over two rows, each in a merged cell, are names, below a title too: that they go on below is no
// value.
func TestNamesOfMergedCellsAreNames(t *testing.T) {
	data := workbook(t, func(f *excelize.File) {
		for row, values := range map[int][]any{1: {"Stock of the north shed"}, 3: {"Bin", "Part", "Size", nil, "Shelf"},
			4: {nil, nil, "wide", "tall", nil}, 5: {"N-01", "Dulse", "4", "6", "a"},
			6: {"N-02", "Kelp", "5", "7", "b"}} {
			require.NoError(t, f.SetSheetRow("Sheet1", fmt.Sprintf("A%d", row), &values))
		}
		for _, merged := range [][2]string{{"A1", "E1"}, {"A3", "A4"}, {"B3", "B4"}, {"C3", "D3"}, {"E3", "E4"}} {
			require.NoError(t, f.MergeCell("Sheet1", merged[0], merged[1]))
		}
	})
	table, err := sources.Read(data, sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, []string{"Bin", "Part", "Size wide", "Size tall", "Shelf"}, table.Fields, "%v", table.Notes)
	require.Equal(t, [][]string{{"N-01", "Dulse", "4", "6", "a"}, {"N-02", "Kelp", "5", "7", "b"}}, table.Records)
}
