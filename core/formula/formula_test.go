package formula_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/formula"
)

var morning = &formula.Setting{Now: time.Date(2026, 11, 26, 9, 30, 0, 0, time.UTC)}

func gives(t testing.TB, text string, fields, record []string) string {
	f, err := formula.Compile(text, fields)
	require.NoError(t, err, text)
	result, err := f.Text(record, morning)
	require.NoError(t, err, text)
	return result
}

// Every function does what the table says of it.
func TestEveryExampleGivesWhatItSays(t *testing.T) {
	names := map[string]bool{}
	for _, f := range formula.List() {
		require.False(t, names[f.Name], f.Name)
		names[f.Name] = true
		require.NotEmpty(t, f.Says)
		require.Contains(t, f.Example, f.Name+"(")
		switch f.Name {
		case "field", "lookup":
		default:
			require.Equal(t, f.Gives, gives(t, f.Example, nil, nil), f.Example)
		}
	}
	require.GreaterOrEqual(t, len(names), 45)
}

func TestFieldsAreTextUntilANumberIsWanted(t *testing.T) {
	fields := []string{"lot", "qty", "price", "lot no", "left"}
	record := []string{"00417", "3", "19.90", "A 7", "L"}
	for text, want := range map[string]string{
		`lot`:                                "00417",
		`lot + qty`:                          "004173",
		`"LOT " + lot`:                       "LOT 00417",
		`"LOT " + 5`:                         "LOT 5",
		`qty * price`:                        "59.7",
		`format(qty * price, 2)`:             "59.70",
		`0.1 + 0.2`:                          "0.3",
		`number(qty) + 1`:                    "4",
		`qty + 1`:                            "4",
		`-qty`:                               "-3",
		`qty > 10 ? "many" : "few"`:          "few",
		`"9" < "10" ? "by size" : "letters"`: "by size",
		`lot == 417`:                         "true",
		`lot == "417"`:                       "false",
		`qty in [1, 3] and not empty(lot)`:   "true",
		`field("lot no")`:                    "A 7",
		`left + left(lot, 3)`:                "L004",
		`lot contains "41"`:                  "true",
		`2 ** 10`:                            "1024",
		`10 / 4`:                             "2.5",
		`7 % 4`:                              "3",
		`12345678901234567890 * 1`:           "",
		`number("12345678901234567890") + 1`: "12345678901234567891",
		`addMonths("2026-01-31", -2)`:        "2025-11-30",
		`date("260101 07", "yyMMdd HH")`:     "2026-01-01 07:00:00",
		`formatDate(today(), "'week' w, e")`: "week 48, 4",
		`shift("2026-11-26 03:00", "06:00 early, 14:00 late, 22:00 night")`: "night",
		`today() > "2026-11-25"`:           "true",
		`default(field("lot no"), "none")`: "A 7",
	} {
		if want == "" {
			_, err := formula.Compile(text, fields)
			require.ErrorContains(t, err, "out of range", text)
			continue
		}
		require.Equal(t, want, gives(t, text, fields, record), text)
	}
}

// What is wrong is said where it stands, in plain words.
func TestErrorsSayWhereAndWhat(t *testing.T) {
	fields := []string{"qty", "lot no"}
	for text, want := range map[string]string{
		``:                  "The formula is empty.",
		`qyt * 2`:           "letter 1: There is no field “qyt”. There are: qty, lot no.",
		`1 + QTY`:           "letter 5: There is no field “QTY”. Is “qty” meant?",
		`lot_no`:            "Is field(\"lot no\") meant?",
		`uper("a")`:         "letter 1: There is no function “uper”",
		`Upper("a")`:        "Is “upper” meant?",
		`left("a")`:         "left is written left(text, n): 1 values are given.",
		`(qty`:              "The formula ends too early",
		`"qty`:              "A quotation mark is not closed.",
		`qty * * 2`:         "“*” is not expected here.",
		`qty = 2`:           "",
		`filter([1], true)`: "",
		`[1, 2]`:            "It gives no text, number or date.",
		`field(qty)`:        "field wants the field's name in quotation marks.",
	} {
		f, err := formula.Compile(text, fields)
		if err == nil {
			_, err = f.Text([]string{"3", "A"}, morning)
		}
		require.IsType(t, &formula.Error{}, err, text)
		require.ErrorContains(t, err, want, text)
	}
	for text, want := range map[string]string{
		`10 / qty`:                       "letter 4: Nothing can be divided by zero.",
		`round(lot)`:                     "letter 1: Round: “A7” is no number.",
		`addDays(lot, 1)`:                "is no date; say how it is written",
		`number(price)`:                  "where the comma is the decimal sign",
		`qty and true`:                   "A condition is wanted here",
		`repeat(lot, 5000)`:              "more than 5000 letters",
		`1..1000000000`:                  "",
		`cipher("1", "BLACKHORSS")`:      "twice; ten different letters are needed",
		`cipher("1", "SHORT")`:           "ten are needed",
		`checkDigit("12A", "gs1")`:       "",
		`checkDigit("12", "nosuch")`:     "there is no check rule",
		`lookup("parts", "1", "a", "b")`: "there is no other record set",
		`9 ** 60 ** 60`:                  "",
	} {
		f, err := formula.Compile(text, []string{"qty", "lot", "price"})
		if err == nil {
			_, err = f.Text([]string{"0", "A7", "12,5"}, morning)
		}
		require.IsType(t, &formula.Error{}, err, text)
		require.ErrorContains(t, err, want, text)
	}
}

func TestOtherRecordSetsAreLookedUp(t *testing.T) {
	f, err := formula.Compile(`lookup("parts.csv", part, "part", "name")`, []string{"part"})
	require.NoError(t, err)
	set := &formula.Setting{Lookup: func(set, key, keyField, field string) (string, bool, error) {
		return set + " " + keyField + " " + field, key == "K-1", nil
	}}
	text, err := f.Text([]string{"K-1"}, set)
	require.NoError(t, err)
	require.Equal(t, "parts.csv part name", text)
	_, err = f.Text([]string{"K-2"}, set)
	require.ErrorContains(t, err, "no record of parts.csv has “K-2” as its part")
	require.False(t, formula.TellsTime(`upper(part)`))
	require.True(t, formula.TellsTime(`"packed " + formatDate(today(), "d.M.")`))
}

// Whatever is written ends soon, with a text or an error of ours.
func FuzzCompile(f *testing.F) {
	for _, example := range formula.List() {
		f.Add(example.Example, "00417")
	}
	f.Add(`qty * (1 + "2") ?? [1..3]`, "x")
	f.Fuzz(func(t *testing.T, text, value string) {
		made, err := formula.Compile(text, []string{"qty", "lot"})
		if err == nil {
			_, err = made.Text([]string{value, "7"}, morning)
		}
		if err != nil {
			require.IsType(t, &formula.Error{}, err)
		}
	})
}

func ExampleFormula_Text() {
	f, _ := formula.Compile(`upper(contents) + ", " + format(qty * 0.25, 2) + " kg"`, []string{"contents", "qty"})
	text, _ := f.Text([]string{"dulse", "3"}, &formula.Setting{})
	fmt.Println(text)
	// Output: DULSE, 0.75 kg
}

// Wanted: 2 us a label.
func BenchmarkText(b *testing.B) {
	for name, text := range map[string]string{"join": `join(", ", contents, lot)`, "sum": `format(qty * price, 2, ",")`,
		"choice": `qty > 10 ? "many" : upper(lot)`, "date": `formatDate(addMonths(today(), 6), "dd.MM.yyyy")`} {
		b.Run(name, func(b *testing.B) {
			f, err := formula.Compile(text, []string{"contents", "lot", "qty", "price"})
			require.NoError(b, err)
			record := []string{"Dulse", "26K104", "3", "19.90"}
			for b.Loop() {
				_, _ = f.Text(record, morning)
			}
		})
	}
}

// A value that is used several times has a name; a field of that name stands aside.
func TestLetGivesAValueAName(t *testing.T) {
	fields, record := []string{"lot", "code"}, []string{"26K104", "a-b-c"}
	for text, want := range map[string]string{
		`let y = left(lot, 2); "20" + y`:                          "2026",
		`let n = length(lot); let m = n * 2; n + m`:               "18",
		`let lot = "none"; lot + code`:                            "nonea-b-c",
		`text(26) + 339`:                                          "26339",
		`339 + text(26)`:                                          "33926",
		`text(26) + 339 + 1`:                                      "263391",
		`number(text(26)) + 1`:                                    "27",
		`part(code, "-", -1) + part(code, "-", parts(code, "-"))`: "cc",
		"match(lot, `[A-Z]`) + match(lot, `([0-9]+)$`, 1) + match(lot, `x`)": "K104",
		"isMatch(lot, `^\\d{2}K`) ? \"kelp\" : \"salt\"":                     "kelp",
		"replaceMatch(code, `[a-c]`, `<$0>`)":                                "<a>-<b>-<c>",
	} {
		require.Equal(t, want, gives(t, text, fields, record), text)
	}
	names, err := formula.Fields(`let y = left(lot, 2); y + code`)
	require.NoError(t, err)
	require.Equal(t, []string{"lot", "code"}, names)
	for text, says := range map[string]string{"match(lot, `(`)": "no regular expression", "match(lot, `a`, 1)": "group",
		`let y = nothing; y`: "no field “nothing”", `let year = 1; year`: "“year” is a function"} {
		f, err := formula.Compile(text, fields)
		if err == nil {
			_, err = f.Text(record, morning)
		}
		require.ErrorContains(t, err, says, text)
	}
}
