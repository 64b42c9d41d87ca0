package sources_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/japanese"
	"golang.org/x/text/encoding/simplifiedchinese"
	"golang.org/x/text/encoding/unicode"

	"oddspool/internal/sources"
)

const plain = "bin;contents;number\nN-01;Rødalge, tørret;00417\nN-02;\"says \"\"dry\"\"\";12345678901234567890\n"

func wanted(t *testing.T, table *sources.Table) {
	require.Equal(t, []string{"bin", "contents", "number"}, table.Fields)
	require.Equal(t, [][]string{{"N-01", "Rødalge, tørret", "00417"}, {"N-02", `says "dry"`, "12345678901234567890"}},
		table.Records)
}

func TestEncodingsAreFound(t *testing.T) {
	utf16 := func(order unicode.Endianness, bom unicode.BOMPolicy) string {
		text, err := unicode.UTF16(order, bom).NewEncoder().String(plain)
		require.NoError(t, err)
		return text
	}
	ansi, err := charmap.Windows1252.NewEncoder().String(plain)
	require.NoError(t, err)
	for name, test := range map[string]struct {
		data     string
		encoding sources.Encoding
	}{
		"UTF-8":                {plain, sources.UTF8},
		"UTF-8 marked":         {"\ufeff" + plain, sources.UTF8},
		"UTF-16 marked":        {utf16(unicode.LittleEndian, unicode.UseBOM), sources.UTF16LE},
		"UTF-16 big marked":    {utf16(unicode.BigEndian, unicode.UseBOM), sources.UTF16BE},
		"UTF-16 unmarked":      {utf16(unicode.LittleEndian, unicode.IgnoreBOM), sources.UTF16LE},
		"UTF-16 big unmarked":  {utf16(unicode.BigEndian, unicode.IgnoreBOM), sources.UTF16BE},
		"Windows-1252":         {ansi, sources.Windows1252},
		"Windows line ends":    {strings.ReplaceAll(plain, "\n", "\r\n"), sources.UTF8},
		"old desktop line end": {strings.ReplaceAll(plain, "\n", "\r"), sources.UTF8},
		"blank rows between":   {"\n" + strings.ReplaceAll(plain, "\n", "\n\n"), sources.UTF8},
	} {
		t.Run(name, func(t *testing.T) {
			table, err := sources.Read([]byte(test.data), sources.Settings{})
			require.NoError(t, err)
			require.Equal(t, test.encoding, table.Settings.Encoding)
			require.Equal(t, ";", table.Settings.Separator)
			wanted(t, table)
			again, err := sources.Read([]byte(test.data), table.Settings)
			require.NoError(t, err, "what was found can be chosen")
			wanted(t, again)
		})
	}
}

func TestSeparatorsAreFoundAndCorrected(t *testing.T) {
	for _, separator := range []string{",", ";", "\t", "|"} {
		text := strings.ReplaceAll("bin§contents§bags\nN-01§\"Dulse, 1; 2\"§4\nN-02§Salt§6\n", "§", separator)
		table, err := sources.Read([]byte(text), sources.Settings{})
		require.NoError(t, err)
		require.Equal(t, separator, table.Settings.Separator)
		require.Equal(t, "Dulse, 1; 2", table.Records[0][1])
	}
	table, err := sources.Read([]byte("a,b;c\n1,2;3\n"), sources.Settings{Separator: ","})
	require.NoError(t, err)
	require.Equal(t, []string{"a", "b;c"}, table.Fields)
	_, err = sources.Read([]byte("a,b\n1,2\n"), sources.Settings{Separator: "#"})
	require.ErrorContains(t, err, "choose comma")
}

func TestQuotesCanBeTakenAsTheyAre(t *testing.T) {
	const inches = "pipe,size\nbrine,3\"\nacid,\"4 in\n"
	table, err := sources.Read([]byte(inches), sources.Settings{Quotes: sources.QuotesNone})
	require.NoError(t, err)
	require.Equal(t, [][]string{{"brine", `3"`}, {"acid", `"4 in`}}, table.Records)
	table, err = sources.Read([]byte("pipe,size\nbrine,3\"\n"), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, `3"`, table.Records[0][1], "a mark within a value is that mark")
}

func TestHeaderIsFoundAndCorrected(t *testing.T) {
	table, err := sources.Read([]byte("00417,Dulse\n00418,Salt\n"), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, sources.HeaderNone, table.Settings.Header)
	require.Equal(t, []string{"column 1", "column 2"}, table.Fields)
	require.Len(t, table.Records, 2)
	table, err = sources.Read([]byte("00417,Dulse\n00418,Salt\n"), sources.Settings{Header: sources.HeaderFirst})
	require.NoError(t, err)
	require.Equal(t, []string{"00417", "Dulse"}, table.Fields)
}

func TestWhatIsPutRightIsSaid(t *testing.T) {
	table, err := sources.Read([]byte("bin,lot,,lot,lot\nN-1,a,b,c,d\nN-2,a\nN-3\n"), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, []string{"bin", "lot", "column 3", "lot 2", "lot 3"}, table.Fields)
	require.Equal(t, []string{"N-3", "", "", "", ""}, table.Records[2])
	notes := strings.Join(table.Notes, "\n")
	require.Contains(t, notes, `Column 3 has no name; it is called "column 3".`)
	require.Contains(t, notes, `Two columns are called "lot"; column 4 is called "lot 2".`)
	require.Contains(t, notes, "2 rows have fewer values than the widest (the first in line 3); the missing are empty.")

	table, err = sources.Read([]byte("bin\nN-1,extra\n"), sources.Settings{Separator: ","})
	require.NoError(t, err)
	require.Equal(t, []string{"bin", "column 2"}, table.Fields, "a row wider than the header loses nothing")
}

func TestBadFilesAreRefusedInWords(t *testing.T) {
	png := "\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR"
	for name, test := range map[string]struct{ data, text string }{
		"empty":       {"", "The file is empty"},
		"blank":       {" \r\n\t\n", "The file is empty"},
		"header only": {"bin,lot\n", "names of fields but no records"},
		"picture":     {png, "a picture (image/png)"},
		"workbook":    {"PK\x03\x04\x14\x00\x00\x00", "broken off or damaged"},
		"PDF":         {"%PDF-1.7\n1 0 obj", "This is a PDF"},
		"SVG": {"<?xml version=\"1.0\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\"/>",
			"This is a drawing (SVG)"},
		"XML":              {"<?xml version=\"1.0\"?>\n<rows>", "broken off"},
		"page":             {"<!DOCTYPE html><table>", "This is a web page"},
		"JSON cut off":     {`{"bins": [{"bin": "N-01", "lot": 3}, {"bin"`, "The JSON is broken off"},
		"a line of commas": {"a,b\n" + strings.Repeat(",", 1<<20), "line 2: The line has 1048576 separators"},
		"quote swallows":   {"bin,lot\nN-1,\"4 in\nN-2,5\nN-3,\"6 in\nN-4,7\n", "line 2: A quotation mark opens here"},
		"UTF-8 but for one": {strings.Repeat("Rødalge,Dulse\n", 20) + "R\xf8d,x\n",
			"line 21: The file is UTF-8 but for 1 byte"},
		"binary": {"\x00\x01\x02\x03\xff\xfe\xfd", "binary data"},
		"open quote": {"bin,lot\n\"N-1," + strings.Repeat("x\n", 9000),
			"A quotation mark opens here and is not closed"},
		"too many columns": {strings.Repeat("a,", 501) + "\n1\n", "up to 500 are read"},
	} {
		_, err := sources.Read([]byte(test.data), sources.Settings{})
		require.IsType(t, &sources.FileError{}, err, name)
		require.ErrorContains(t, err, test.text, name)
	}
	_, err := sources.Read([]byte("a\nb\nR\xf8d\n"), sources.Settings{Encoding: sources.UTF8})
	require.Equal(t, &sources.FileError{Line: 3,
		Text: "The file is not UTF-8 here. Choose another encoding, such as Windows-1252."}, err)
	_, err = sources.Read([]byte("a\nb\n"), sources.Settings{Encoding: "EBCDIC"})
	require.ErrorContains(t, err, "is not known")
	for _, settings := range []sources.Settings{{Quotes: "single"}, {Header: "second"}, {Header: "row 99"},
		{Header: "row 3"}} {
		_, err = sources.Read([]byte("a,b\nc,d\n"), settings)
		require.IsType(t, &sources.FileError{}, err, "%v", settings)
	}
	_, err = sources.Read([]byte("bin,lot\nN-1,2\n"), sources.Settings{Encoding: sources.UTF16LE})
	require.IsType(t, &sources.FileError{}, err, "an encoding that was chosen is judged as well")
	_, err = sources.Read(make([]byte, 200<<20), sources.Settings{})
	require.ErrorContains(t, err, "The file has 200 MB; up to 64 MB are read at once")
}

func TestEncodingsOfBytesAreToldApartOrAskedFor(t *testing.T) {
	for encoding, test := range map[sources.Encoding]struct {
		as   encoding.Encoding
		text string
	}{
		sources.Windows1250: {charmap.Windows1250,
			"pojemnik;zawartość\nN-01;Suszone wodorosty, świeże, żółte\nN-02;Sól gruboziarnista, mąka\n"},
		sources.Windows1251: {charmap.Windows1251, "ящик;содержимое\nN-01;Соль крупная\nN-02;Ламинария сушёная\n"},
		sources.CodePage850: {charmap.CodePage850, "bin;contents\nN-01;Rødalge, tørret\nN-02;Gemüse für Kühlhaus\n"},
		sources.KOI8R:       {charmap.KOI8R, "ящик;содержимое\nN-01;Соль крупная\nN-02;Ламинария сушёная\n"},
		sources.ShiftJIS:    {japanese.ShiftJIS, "棚;内容\nN-01;昆布、乾燥\nN-02;あおさのり\n"},
		sources.GB18030:     {simplifiedchinese.GB18030, "货架;内容\nN-01;干海带\nN-02;食盐，粗粒\n"},
		sources.Windows1252: {charmap.Windows1252,
			"Fach;Inhalt\nN-01;Rotalge, getrocknet, 25 °C\nN-02;Gemüse für Kühlhaus – größer\n"},
	} {
		data, err := test.as.NewEncoder().String(test.text)
		require.NoError(t, err)
		table, err := sources.Read([]byte(data), sources.Settings{})
		require.NoError(t, err, encoding)
		require.Equal(t, encoding, table.Settings.Encoding, table.Notes)
		require.Equal(t, test.text, strings.Join(append([]string{strings.Join(table.Fields, ";")},
			strings.Join(table.Records[0], ";"), strings.Join(table.Records[1], ";"), ""), "\n"))
		require.Len(t, table.Notes, 1, "a guess is told")
		require.Contains(t, table.Notes[0], "does not tell its encoding")
	}
}

// A single letter beyond ASCII in a file is read as the most usual, and asked about.
func TestOneOddLetterIsAskedAbout(t *testing.T) {
	table, err := sources.Read([]byte("vat;contents;number\nB-1;R\xf8dalge;00417\nB-2;\"Salt; "+
		"fine\";12345678901234567890\n"), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, sources.Windows1252, table.Settings.Encoding)
	require.Contains(t, table.Notes[0], "Choose which is right")
}

func TestTitlesAboveTheNamesAreLeftOut(t *testing.T) {
	const titled = "Brinewick Kelp Works\n\nStock " +
		"list,October\nbin,contents,lot,shelf\nN-01,Dulse,26K104,3\nN-02,Salt,26K105,4\n"
	table, err := sources.Read([]byte(titled), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, sources.Header("row 3"), table.Settings.Header)
	require.Equal(t, []string{"bin", "contents", "lot", "shelf"}, table.Fields)
	require.Len(t, table.Records, 2)
	require.Equal(t, []string{"2 rows stand above the names and are left out, from line 1 on."}, table.Notes)
	table, err = sources.Read([]byte(titled), sources.Settings{Header: sources.HeaderNone})
	require.NoError(t, err)
	require.Len(t, table.Records, 5, "and none is lost where that is chosen")
}

func TestOddLinesLoseNothing(t *testing.T) {
	table, err := sources.Read([]byte("sep=|\nbin|says\nN-01|a\u2028b\vc\rN-02|\"two\r\nlines\"\r\n"),
		sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, [][]string{{"N-01", "a\u2028b\vc"}, {"N-02", "two\nlines"}}, table.Records)
	require.Len(t, table.Notes, 2)
	table, err = sources.Read([]byte(strings.Repeat("n", 300)+",b\n1\x00,2\n"),
		sources.Settings{Encoding: sources.UTF8})
	require.NoError(t, err)
	require.Contains(t, strings.Join(table.Notes, " "),
		"1 control character is left out, which no text has: U+0000 in line 2, letter 2")
	require.Contains(t, strings.Join(table.Notes, " "), "The name of column 1 has 300 letters")
}

// A record more than are taken is told of, not left out.
func TestNoRecordIsLeftOutInSilence(t *testing.T) {
	many := "bin\n" + strings.Repeat("7\n", sources.MostRecords)
	table, err := sources.Read([]byte(many), sources.Settings{Header: sources.HeaderFirst, Separator: ","})
	require.NoError(t, err)
	require.Len(t, table.Records, sources.MostRecords)
	for _, quotes := range []sources.Quotes{sources.QuotesDouble, sources.QuotesNone} {
		_, err = sources.Read([]byte(many+"8\n"), sources.Settings{Header: sources.HeaderFirst, Separator: ",",
			Quotes: quotes})
		require.ErrorContains(t, err, "more than 1000000 records")
	}
	_, err = sources.Read([]byte(strings.Repeat("x"+strings.Repeat(",", 499)+"\n", 45_000)), sources.Settings{})
	require.ErrorContains(t, err, "up to 20000000 values are read")
}

func TestDemoFilesAreRead(t *testing.T) {
	data, err := os.ReadFile("../../examples/bins.csv")
	require.NoError(t, err)
	table, err := sources.Read(data, sources.Settings{})
	require.NoError(t, err)
	require.Len(t, table.Records, 240)
	require.Equal(t, "00417", table.Records[0][5])
	require.Empty(t, table.Notes)
}

// Any bytes give a table with rows as wide as its fields, or a FileError.
func FuzzReadText(f *testing.F) {
	f.Add([]byte(plain), ";")
	f.Add([]byte("\xff\xfea\x00"), "")
	f.Fuzz(func(t *testing.T, data []byte, separator string) {
		table, err := sources.Read(data, sources.Settings{Separator: separator})
		if err != nil {
			require.IsType(t, &sources.FileError{}, err)
			return
		}
		for _, record := range table.Records {
			require.Len(t, record, len(table.Fields))
		}
	})
}

func BenchmarkRead100000Records(b *testing.B) {
	text := "bin,contents,lot\n" + strings.Repeat("N-03-07-B,\"Dulse, flaked\",26K104\n", 100_000)
	for b.Loop() {
		_, _ = sources.Read([]byte(text), sources.Settings{})
	}
}
