package gs1_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/gs1"
)

func TestElementStringsAreReadAndWritten(t *testing.T) {
	for text, values := range map[string][]string{
		"(01)09521234543213(17)261231(10)26K104(3103)001750": {"09521234543213", "261231", "26K104", "001750"},
		`(01)09521234543213(10)A1\(21\)7`:                    {"09521234543213", "A1(21)7"},
		"(01)09521234543213(10)(brackets)(21)7":              {"09521234543213", "(brackets)", "7"},
		"(01)09521234543213(10)a(b(21)7":                     {"09521234543213", "a(b", "7"},
		"(253)9521234543213(8020)X(415)9521234543213":        {"9521234543213", "X", "9521234543213"},
		"(8003)09521234543213ABC":                            {"09521234543213ABC"},
		"(00)095212345432123453(02)09521234543213(37)12(4330)000125": {"095212345432123453", "09521234543213", "12",
			"000125"},
	} {
		elements, err := gs1.Parse(text)
		require.NoError(t, err, text)
		got := make([]string, len(elements))
		for i, e := range elements {
			got[i] = e.Value
		}
		require.Equal(t, values, got, text)
	}
}

// ¶ marks the character that is wrong.
func TestElementStringsAreRefusedWithPlaceAndCause(t *testing.T) {
	for marked, want := range map[string]string{
		"¶":                                    "begins with an identifier in brackets",
		"¶26K104":                              "begins with an identifier in brackets",
		"¶(01":                                 "The bracket at character 1 is not closed.",
		"(¶05)1":                               "(05) is no application identifier.",
		"(¶lot)7":                              "(lot) is no application identifier: those are two to four digits.",
		"(01)09521234543213(¶99999)7":          `(99999) is no application identifier; (99) is INTERNAL. Where the bracket belongs to the value before it, write \(.`,
		"(01)09521234543213(¶104)26K":          "(104) is no application identifier; (10) is BATCH/LOT",
		"(01)09521234543213(¶310)001750":       "(310) is no application identifier; (3100) is NET WEIGHT (kg)",
		"(01)¶0952123454321":                   "(01) GTIN: it has 14 characters, and “0952123454321” is 13.",
		"(01)¶09521234543210":                  "its check digit is 3, not 0.",
		"(3103)00175¶A":                        "“A” is no digit.",
		"(10)T¶ång":                            "“å” may not stand in GS1 data.",
		`(10)\(a\)¶ b`:                         "A space may not stand in GS1 data.",
		"(10)a¶\x1db":                          "The control character U+001D may not",
		"(8010)952¶a":                          "digits, capitals, #, - and / may",
		"(17)¶270229":                          "270229 is no date; it is written YYMMDD.",
		"(7003)261231¶2400":                    "24 is no hour",
		"(7003)261231¶2360":                    "60 is no minute",
		"(8006)09521234543213¶0302":            "there is no piece 03 of 02",
		"(8006)09521234543213¶0002":            "counted from 01",
		"(8003)¶19521234543213":                "1 is not the 0 that this begins with",
		"(3912)¶000125":                        "no currency's number",
		"(421)¶99912345":                       "no country's number",
		"(4307)¶XX":                            "no country's two letters",
		"(4321)¶2":                             "neither 0 for no nor 1 for yes",
		"(4330)000125¶X":                       "X is not the - that stands for below zero",
		"(8007)¶GB33BUKB20201555555556":        "its check digits are wrong",
		"(8013)¶1987654Ad4X4bL5ttr2310c2L":     "its check characters are 2K, not 2L",
		"(8013)¶12":                            "more stand before them",
		"(8011)¶01":                            "no zeros may stand before it",
		"(8001)¶00001234500110":                "more than zero",
		"(4300)¶Brine%2":                       "followed by two hexadecimal digits",
		"(7040)1AB¶%":                          "no importer index",
		"(7258)¶2/1":                           "a place beyond its end",
		"(4309)¶18000000010000000000":          "is no latitude",
		"(10)¶" + strings.Repeat("x", 21):      "it has 1 to 20 characters",
		"(8110)¶10614141654321350011000031012": "ends within its",
		"(8110)¶X":                             "has only digits",
		"(8112)¶0001234567890000123456":        "at the end of the offer is too much",
	} {
		text := strings.Replace(marked, "¶", "", 1)
		_, err := gs1.Parse(text)
		var data *gs1.DataError
		require.ErrorAs(t, err, &data, text)
		require.Contains(t, data.Reason, want)
		require.Equal(t, len([]rune(marked[:strings.Index(marked, "¶")]))+1, data.Position, "%s: %s", text, data.Reason)
	}
	for text, want := range map[string]string{
		"(01)09521234543213(37)4":                     "(01) GTIN and (37) COUNT exclude each other.",
		"(01)09521234543213(10)a(10)b":                "twice with different values",
		"(01)09521234543213(3100)1(3101)2":            "it has 6 characters",
		"(3100)000001(3101)000002":                    "exclude each other",
		"(415)9521234543213(8020)X(255)9521234543213": "exclude each other",
	} {
		_, err := gs1.Parse(text)
		require.ErrorContains(t, err, want, text)
	}
}

// A range of dates may be given in either order nowhere: the earlier stands first.
func TestWhatNeedsOthersSaysSo(t *testing.T) {
	parse := func(text string) []gs1.Element {
		elements, err := gs1.Parse(text)
		require.NoError(t, err)
		return elements
	}
	lot := parse("(10)26K104")
	require.EqualError(t, gs1.Lacking(lot, lot),
		"(10) BATCH/LOT needs (01) or (02) or (03) or (8006) or (8026) with it on the label.")
	require.NoError(t, gs1.Lacking(lot, append(parse("(01)09521234543213"), lot...)))
	price := parse("(01)09521234543213(3922)1250")
	require.ErrorContains(t, gs1.Lacking(price, price), "needs (30) or (31nn)")
	require.NoError(t, gs1.Lacking(price, append(parse("(3103)001750"), price...)))
	esim := parse("(8041)123456789012345")
	require.ErrorContains(t, gs1.Lacking(esim, esim), "needs (01) with (21) with (8040)")
}

// Every identifier has a title, a format in words, and needs only what there is.
func TestTheDictionaryIsWhole(t *testing.T) {
	all := gs1.All()
	require.Greater(t, len(all), 480)
	require.True(t, slices.IsSortedFunc(all, func(a, b *gs1.AI) int { return strings.Compare(a.AI, b.AI) }))
	for _, ai := range all {
		require.NotEmpty(t, ai.Title, ai.AI)
		require.NotEmpty(t, ai.Format(), ai.AI)
		require.Same(t, ai, gs1.Find(ai.AI))
	}
	for id, format := range map[string]string{"01": "14 digits, the last a check digit", "10": "up to 20 characters",
		"17":   "a date, YYMMDD, whose day may be 00",
		"3103": "6 digits, 3 after the decimal point",
		"253":  "13 digits, the last a check digit, then perhaps up to 17 characters",
		"423":  "a country, as three digits, then up to 4 times a country, as three digits",
		"8013": "up to 25 characters, the last two check characters"} {
		require.Equal(t, format, gs1.Find(id).Format())
	}
	require.True(t, gs1.Find("20").Predefined())
	require.False(t, gs1.Find("10").Predefined())
	require.Nil(t, gs1.Find("05"))
}

func TestDataHasSeparatorsWhereItMust(t *testing.T) {
	elements, err := gs1.Parse("(10)26K104(01)09521234543213(21)00417")
	require.NoError(t, err)
	require.Equal(t, "010952123454321310"+"26K104|2100417", string(gs1.Data(gs1.Order(elements), '|')),
		"predefined lengths first, one separator")
	require.Equal(t, "1026K104|0109521234543213"+"2100417", string(gs1.Data(elements, '|')))
}

// Any values come back from what is written of them.
func FuzzElementsComeBack(f *testing.F) {
	f.Add("26K104", "7")
	f.Add("A1(21)7", `\`)
	f.Add("(((", ")")
	f.Fuzz(func(t *testing.T, lot, serial string) {
		text := "(10)" + gs1.Escape(lot) + "(21)" + gs1.Escape(serial)
		elements, err := gs1.Parse(text)
		if err != nil {
			var data *gs1.DataError
			require.ErrorAs(t, err, &data)
			require.LessOrEqual(t, data.Position, len(text)+1)
			return
		}
		require.Len(t, elements, 2)
		require.Equal(t, []string{lot, serial}, []string{elements[0].Value, elements[1].Value})
	})
}

func ExampleParse() {
	elements, _ := gs1.Parse(`(01)09521234543213(10)26K\(104\)`)
	for _, e := range elements {
		fmt.Println(e.AI.AI, e.AI.Title, e.Value)
	}
	_, err := gs1.Parse("(01)09521234543210")
	fmt.Println(err)
	// Output:
	// 01 GTIN 09521234543213
	// 10 BATCH/LOT 26K(104)
	// (01) GTIN: its check digit is 3, not 0.
}
