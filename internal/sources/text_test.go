package sources_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"oddspool/internal/sources"
)

const plain = "bin;contents;number\nN-01;Rødalge, tørret;00417\nN-02;\"says \"\"dry\"\"\";12345678901234567890\n"

func wanted(t *testing.T, table *sources.Table) {
	require.Equal(t, []string{"bin", "contents", "number"}, table.Fields)
	require.Equal(t, [][]string{{"N-01", "Rødalge, tørret", "00417"}, {"N-02", `says "dry"`, "12345678901234567890"}}, table.Records)
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
			table, err := sources.ReadText([]byte(test.data), sources.Settings{})
			require.NoError(t, err)
			require.Equal(t, test.encoding, table.Settings.Encoding)
			require.Equal(t, ";", table.Settings.Separator)
			wanted(t, table)
			again, err := sources.ReadText([]byte(test.data), table.Settings)
			require.NoError(t, err, "what was found can be chosen")
			wanted(t, again)
		})
	}
}

func TestSeparatorsAreFoundAndCorrected(t *testing.T) {
	for _, separator := range []string{",", ";", "\t", "|"} {
		text := strings.ReplaceAll("bin§contents§bags\nN-01§\"Dulse, 1; 2\"§4\nN-02§Salt§6\n", "§", separator)
		table, err := sources.ReadText([]byte(text), sources.Settings{})
		require.NoError(t, err)
		require.Equal(t, separator, table.Settings.Separator)
		require.Equal(t, "Dulse, 1; 2", table.Records[0][1])
	}
	table, err := sources.ReadText([]byte("a,b;c\n1,2;3\n"), sources.Settings{Separator: ","})
	require.NoError(t, err)
	require.Equal(t, []string{"a", "b;c"}, table.Fields)
	_, err = sources.ReadText([]byte("a,b\n1,2\n"), sources.Settings{Separator: "#"})
	require.ErrorContains(t, err, "choose comma")
}

func TestQuotesCanBeTakenAsTheyAre(t *testing.T) {
	const inches = "pipe,size\nbrine,3\"\nacid,\"4 in\n"
	table, err := sources.ReadText([]byte(inches), sources.Settings{Quotes: sources.QuotesNone})
	require.NoError(t, err)
	require.Equal(t, [][]string{{"brine", `3"`}, {"acid", `"4 in`}}, table.Records)
	table, err = sources.ReadText([]byte("pipe,size\nbrine,3\"\n"), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, `3"`, table.Records[0][1], "a mark within a value is that mark")
}

func TestHeaderIsFoundAndCorrected(t *testing.T) {
	table, err := sources.ReadText([]byte("00417,Dulse\n00418,Salt\n"), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, sources.HeaderNone, table.Settings.Header)
	require.Equal(t, []string{"column 1", "column 2"}, table.Fields)
	require.Len(t, table.Records, 2)
	table, err = sources.ReadText([]byte("00417,Dulse\n00418,Salt\n"), sources.Settings{Header: sources.HeaderFirst})
	require.NoError(t, err)
	require.Equal(t, []string{"00417", "Dulse"}, table.Fields)
}

func TestWhatIsPutRightIsSaid(t *testing.T) {
	table, err := sources.ReadText([]byte("bin,lot,,lot,lot\nN-1,a,b,c,d\nN-2,a\nN-3\n"), sources.Settings{})
	require.NoError(t, err)
	require.Equal(t, []string{"bin", "lot", "column 3", "lot 2", "lot 3"}, table.Fields)
	require.Equal(t, []string{"N-3", "", "", "", ""}, table.Records[2])
	notes := strings.Join(table.Notes, "\n")
	require.Contains(t, notes, `Column 3 has no name; it is called "column 3".`)
	require.Contains(t, notes, `Two columns are called "lot"; column 4 is called "lot 2".`)
	require.Contains(t, notes, "2 rows have fewer values than the widest (the first in line 3); the missing are empty.")

	table, err = sources.ReadText([]byte("bin\nN-1,extra\n"), sources.Settings{Separator: ","})
	require.NoError(t, err)
	require.Equal(t, []string{"bin", "column 2"}, table.Fields, "a row wider than the header loses nothing")
}

func TestBadFilesAreRefusedInWords(t *testing.T) {
	png := "\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR"
	for name, test := range map[string]struct{ data, text string }{
		"empty":            {"", "The file is empty"},
		"blank":            {" \r\n\t\n", "The file is empty"},
		"header only":      {"bin,lot\n", "names of fields but no records"},
		"picture":          {png, "a picture (image/png)"},
		"workbook":         {"PK\x03\x04\x14\x00\x00\x00", "a workbook or archive"},
		"binary":           {"\x00\x01\x02\x03\xff\xfe\xfd", "binary data"},
		"open quote":       {"bin,lot\n\"N-1," + strings.Repeat("x\n", 9000), "quotation mark may be missing"},
		"too many columns": {strings.Repeat("a,", 501) + "\n1\n", "up to 500 are read"},
	} {
		_, err := sources.ReadText([]byte(test.data), sources.Settings{})
		require.IsType(t, &sources.FileError{}, err, name)
		require.ErrorContains(t, err, test.text, name)
	}
	_, err := sources.ReadText([]byte("a\nb\nR\xf8d\n"), sources.Settings{Encoding: sources.UTF8})
	require.Equal(t, &sources.FileError{Line: 3, Text: "The file is not UTF-8 here. Choose another encoding, such as Windows-1252."}, err)
	_, err = sources.ReadText([]byte("a\nb\n"), sources.Settings{Encoding: "EBCDIC"})
	require.ErrorContains(t, err, "is not known")
	_, err = sources.ReadText(make([]byte, 200<<20), sources.Settings{})
	require.ErrorContains(t, err, "The file has 200 MB; up to 64 MB are read at once")
}

func TestDemoFilesAreRead(t *testing.T) {
	data, err := os.ReadFile("../../examples/bins.csv")
	require.NoError(t, err)
	table, err := sources.ReadText(data, sources.Settings{})
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
		table, err := sources.ReadText(data, sources.Settings{Separator: separator})
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
		_, _ = sources.ReadText([]byte(text), sources.Settings{})
	}
}
