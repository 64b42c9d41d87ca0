package symbology_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/check"
	"oddspool/core/gs1"
	"oddspool/core/measure"
	"oddspool/core/symbology"
)

// Numbers that those who give them print as examples, and what is said of wrong ones.
func TestNumbersOfTradesAreChecked(t *testing.T) {
	given := symbology.Options{CheckDigit: gs1.Given}
	rule := func(name string) symbology.Options { return symbology.Options{Check: true, CheckRule: name} }
	var s symbology.Symbol
	for _, test := range []struct {
		id          symbology.ID
		text        string
		options     symbology.Options
		reads, says string
	}{
		{symbology.Identcode, "56310243031", symbology.Options{}, "563102430313", "56.310 243.031 3"},
		{symbology.Leitcode, "21348075016401", symbology.Options{}, "21348075016401", "21348.075.016.40 1"},
		{symbology.PZN, "2758089", symbology.Options{}, "-27580899", "PZN - 27580899"},
		{symbology.PZN, "-27580899", symbology.Options{}, "-27580899", "PZN - 27580899"},
		{symbology.PZN, "123456", symbology.Options{Version: "7"}, "-1234562", "PZN - 1234562"},
		{symbology.Code32, "01234567", symbology.Options{}, "0CSSBD", "A012345676"},
		{symbology.HIBCCode39, "A123BJC5D6E71", symbology.Options{}, "+A123BJC5D6E71G", "*+A123BJC5D6E71G*"},
		{symbology.HIBCDataMatrix, "+A123BJC5D6E71G", given, "+A123BJC5D6E71G", "*+A123BJC5D6E71G*"},
		{symbology.Codabar, "3111701320637", rule("luhn"), "31117013206375", "31117013206375"},
		{symbology.Codabar, "31117013206375", symbology.Options{CheckRule: "luhn", CheckDigit: gs1.Given},
			"31117013206375", "31117013206375"},
		{symbology.MSI, "80523", rule("mod11"), "805238", "805238"},
		{symbology.MSI, "1234567", rule("mod10-mod10"), "123456741", "123456741"},
		{symbology.Code39, "KELP.", given, "KELP.", "KELP."},
		{symbology.Interleaved, "1236", given, "1236", "1236"},
	} {
		require.NoError(t, s.Encode(test.id, test.text, test.options), "%s %s", test.id, test.text)
		require.Equal(t, test.reads, s.Reads, test.id)
		require.Equal(t, test.says, s.Text, test.id)
	}
	for _, test := range []struct {
		id      symbology.ID
		text    string
		options symbology.Options
		says    string
	}{
		{symbology.Identcode, "563102430314", symbology.Options{}, "is 3, not 4"},
		{symbology.Leitcode, "2134807501", symbology.Options{}, "13 digits, or 14"},
		{symbology.PZN, "27580898", symbology.Options{}, "is 9, not 8"},
		{symbology.PZN, "0000005", symbology.Options{Version: "8"}, ""},
		{symbology.PZN, "0000027", symbology.Options{}, ""},
		{symbology.PZN, "0000003", symbology.Options{}, "would be 10"},
		{symbology.Code32, "012345675", symbology.Options{}, "is 6, not 5"},
		{symbology.HIBCQR, "A123BJC5D6E71H", given, "is “G”, not “H”"},
		{symbology.HIBCQR, "-A1", symbology.Options{}, "labeler's letter"},
		{symbology.HIBCQR, "a1", symbology.Options{}, "“a” (character 1) is not in HIBC data"},
		{symbology.Code39, "KELP.", symbology.Options{Check: true, CheckDigit: gs1.Given}, "Choose one"},
		{symbology.Code39, "KELPX", given, "is “.”, not “X”"},
		{symbology.Codabar, "123", symbology.Options{CheckRule: "luhn"}, "appended or given"},
		{symbology.TelepenNumeric, "123", symbology.Options{}, "takes pairs"},
		{symbology.TelepenNumeric, "X1", symbology.Options{}, "no pair of digits"},
	} {
		err := s.Encode(test.id, test.text, test.options)
		if test.says == "" {
			require.NoError(t, err, "%s %s", test.id, test.text)
			continue
		}
		require.ErrorContains(t, err, test.says, "%s %s", test.id, test.text)
	}
	require.Equal(t, byte('9'), check.S10("47312482"), "UPU S10's own example, RR473124829GB")
}

// Codes of one trade are proposed behind all others.
func TestCodesOfOneTradeAreProposedLast(t *testing.T) {
	trade := false
	for _, suit := range symbology.Rank([]string{"2758089"}, measure.DotsPerMillimetre(8)) {
		if suit.Fails > 0 {
			break
		}
		require.False(t, trade && !symbology.Of(suit.ID).Trade, suit.ID)
		trade = trade || symbology.Of(suit.ID).Trade
	}
	require.True(t, trade, "a PZN is one of them")
}
