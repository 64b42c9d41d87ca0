package sources_test

import (
	"html"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/sources"
)

// shown returns what a cell shows: its value in a form, as the workbook's number formats have it.
func shown(t *testing.T, cell, form string, from1904 bool) (string, []string) {
	t.Helper()
	others := map[string]string{"xl/styles.xml": `<styleSheet ` + mainSpace +
		`><numFmts><numFmt numFmtId="200" formatCode="` + html.EscapeString(form) +
		`"/></numFmts><cellXfs><xf numFmtId="0"/><xf numFmtId="200"/></cellXfs></styleSheet>`}
	list := book(`<row r="1"><c r="A1" t="str"><v>bin</v></c><c r="B1" t="str"><v>value</v></c></row><row r="2"><c r="A2" t="str"><v>N-1</v></c>`+cell+`</row>`, others)
	if from1904 {
		list["xl/workbook.xml"] = strings.Replace(list["xl/workbook.xml"], "<sheets>",
			`<workbookPr date1904="true"/><sheets>`, 1)
	}
	table, err := sources.Read(parts(t, list), sources.Settings{})
	require.NoError(t, err, form)
	require.Len(t, table.Records, 1, form)
	return table.Records[0][1], table.Notes
}

// Numbers and texts are shown by their formats' sections, conditions, places and parts of dates.
func TestNumberFormatsShowAsSheetsDo(t *testing.T) {
	for _, test := range []struct{ form, value, want string }{
		// whole numbers and places
		{"0", "7.5", "8"}, {"0", "0.4", "0"}, {"#", "0.4", ""}, {"0.00", "2.345", "2.35"}, {"0.00", "0.125", "0.13"},
		{"0.##", "5", "5."}, {"0.0#", "5.25", "5.25"}, {"0.0#", "5", "5.0"},
		{"00000", "417", "00417"}, {"000-00-0000", "123456789", "123-45-6789"}, {"000-00-0000", "6789", "000-00-6789"},
		{"(000) 000-0000", "5551234567", "(555) 123-4567"},
		{"#,##0", "1234567", "1,234,567"}, {"#,##0.00", "0.5", "0.50"}, {"#,##0", "12", "12"}, {"0,000", "7", "0,007"},
		{"0.0,", "12345", "12.3"}, {"0,,", "12345678", "12"}, {`0.0,,"M"`, "12345678", "12.3M"},
		{"0%", "0.256", "26%"}, {"0.0%", "0.2565", "25.7%"}, {"0.00E+00", "12345", "1.23E+04"},
		{"0.0E-0", "0.00012", "1.2E-4"}, {"##0.0E+0", "12345", "12.3E+3"}, {"0.00E+00", "9.999", "1.00E+01"},
		{"0E+0", "0", "0E+0"},
		{"# ?/?", "1.5", "1 1/2"}, {"# ?/?", "0.75", "3/4"}, {"?/?", "1.5", "3/2"}, {"# ?/8", "1.3", "1 2/8"},
		{"# ??/??", "3.14159", "3 14/99"}, {"# ??/??", "0.333333", "1/3"}, {"# ?/?", "2", "2"},
		{"# ?/?", "-1.5", "-1 1/2"},
		{".00", "0.5", ".50"}, {"0.???", "1.5", "1.5"}, {`0.0"°C"`, "38.5", "38.5°C"}, {`0\ \k\g`, "4", "4 kg"},
		{"[$€-407] #,##0.00", "1234.5", "€ 1,234.50"}, {`"lot "0`, "-3", "-lot 3"},
		{"General", "0.1", "0.1"}, {`General" kg"`, "2.5", "2.5 kg"}, {`General" kg"`, "-2.5", "-2.5 kg"},
		// sections: above zero, below zero, zero, text
		{"0;(0)", "-5", "(5)"}, {"0;(0)", "5", "5"}, {"0;(0)", "0", "0"}, {`0;-0;"none"`, "0", "none"},
		{`0;-0;"none"`, "-5", "-5"}, {"0.0;[Red]-0.0", "-0.25", "-0.3"}, {"0", "-5", "-5"}, {"0", "-0.4", "0"},
		{`0;-0;0;"lot "@`, "x:K104", "lot K104"}, {`"lot "@`, "x:K104", "lot K104"}, {"0;-0;0", "x:K104", "K104"},
		{"@", "x:00417", "00417"}, {"@", "417", "417"}, {"_(@_)", "x:K1", "K1"}, {"0;-0;;@", "0", ""}, {";;;", "5", ""},
		// conditions
		{`[=0]"none";0`, "0", "none"}, {`[=0]"none";0`, "5", "5"}, {`[=0]"none";0`, "-5", "-5"},
		{`[>100]"much";[<0]"owed "0;0`, "101", "much"}, {`[>100]"much";[<0]"owed "0;0`, "100", "100"},
		{`[>100]"much";[<0]"owed "0;0`, "-4", "owed 4"},
		{`[>=1000]0.0,"k";0`, "1500", "1.5k"}, {`[>=1000]0.0,"k";0`, "999", "999"},
		{`[<1]0.00;[<10]0.0;0`, "0.5", "0.50"}, {`[<1]0.00;[<10]0.0;0`, "5", "5.0"},
		{`[<1]0.00;[<10]0.0;0`, "50", "50"}, {`[<>3]"other";0`, "3", "3"},
		{`[Blue][>5]"big";[Red]"small"`, "2", "small"},
		{`[=1]"yes";[=0]"no";"unsure"`, "1", "yes"}, {`[=1]"yes";[=0]"no";"unsure"`, "0", "no"},
		{`[=1]"yes";[=0]"no";"unsure"`, "2", "unsure"},
		// dates and times: 45000 is 15 March 2023, a Wednesday
		{"yyyy-mm-dd", "45000", "2023-03-15"}, {"dd.mm.yy", "45000", "15.03.23"},
		{"d mmmm yyyy", "45000", "15 March 2023"}, {"ddd d mmm", "45000", "Wed 15 Mar"}, {"dddd", "45000", "Wednesday"},
		{"mmmmm", "45000", "M"}, {"[$-407]d. mmmm yyyy", "45000", "15. März 2023"},
		{"[$-40C]dddd", "45000", "mercredi"},
		{"h:mm", "45000.75", "18:00"}, {"hh:mm:ss", "0.500011574", "12:00:01"}, {"h:mm AM/PM", "0.75", "6:00 PM"},
		{"h:mm AM/PM", "0", "12:00 AM"}, {"h A/P", "0.25", "6 A"}, {"mm:ss.0", "0.00001", "00:00.9"},
		{"[h]:mm", "1.5", "36:00"}, {"[mm]:ss", "0.0625", "90:00"}, {"[s]", "0.001", "86"},
		{"yyyy-mm-dd hh:mm", "45000.9999", "2023-03-15 23:59"}, {"hh:mm", "0.9999999", "00:00"},
		{"yyyy-mm-dd", "1", "1900-01-01"}, {"yyyy-mm-dd", "59", "1900-02-28"}, {"yyyy-mm-dd", "60", "1900-02-29"},
		{"yyyy-mm-dd", "61", "1900-03-01"}, {"yyyy-mm-dd", "-5", "-5"}, {"mm/dd/yyyy;@", "45000", "03/15/2023"},
		{`[>44000]yyyy;"old"`, "45000", "2023"}, {`[>44000]yyyy;"old"`, "3", "old"},
	} {
		cell := `<c r="B2" s="1"><v>` + test.value + `</v></c>`
		if text, is := strings.CutPrefix(test.value, "x:"); is {
			cell = `<c r="B2" s="1" t="str"><v>` + text + `</v></c>`
		}
		got, notes := shown(t, cell, test.form, false)
		require.Equal(t, test.want, got, "%q shows %s", test.form, test.value)
		if test.want == "" {
			require.Contains(t, strings.Join(notes, " "), "shows nothing by its number format")
		}
	}
}

// Days may be counted from 1904 on; a date may stand in its cell as ISO 8601 has it, and shows as its format says.
func TestDatesOfOtherCountings(t *testing.T) {
	for _, test := range []struct {
		cell, form, want string
		from1904         bool
	}{
		{`<c r="B2" s="1"><v>43538</v></c>`, "dd.mm.yyyy", "15.03.2023", true},
		{`<c r="B2" s="1"><v>0</v></c>`, "yyyy-mm-dd", "1904-01-01", true},
		{`<c r="B2" s="1" t="d"><v>2026-11-26T00:00:00</v></c>`, "dd.mm.yyyy", "26.11.2026", false},
		{`<c r="B2" s="1" t="d"><v>2026-11-26T14:30:00Z</v></c>`, "d.m.yy hh:mm", "26.11.26 14:30", true},
		{`<c r="B2" s="1" t="d"><v>14:30:00</v></c>`, "h:mm AM/PM", "2:30 PM", false},
		{`<c r="B2" t="d"><v>2026-11-26</v></c>`, "0", "2026-11-26", false},
	} {
		got, _ := shown(t, test.cell, test.form, test.from1904)
		require.Equal(t, test.want, got, test.cell)
	}
}

// What a workbook does not know of itself is told.
func TestSheetsSayWhatTheyLack(t *testing.T) {
	for _, test := range []struct{ cell, form, want, says string }{
		{`<c r="B2"><f>1+1</f></c>`, "0", "", "1 formula was never computed, the first in row 2"},
		{`<c r="B2" t="str"><f>""</f><v></v></c>`, "0", "", ""},
		{`<c r="B2" t="s"><v>99</v></c>`, "0", "", "1 text is missing in the workbook, the first in row 2"},
		{`<c r="B2" s="1"><v>5</v></c>`, strings.Repeat("0", 300), "5", "number format that is not understood"},
		{`<c r="B2" s="1"><v>5</v></c>`, "0;0;0;0;0", "5", "number format that is not understood"},
	} {
		got, notes := shown(t, test.cell, test.form, false)
		require.Equal(t, test.want, got, test.cell)
		require.Contains(t, strings.Join(notes, " "), test.says, test.cell)
	}
}
