package gs1_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/gs1"
)

func TestNumbersAreCompletedOnlyWhereOneIsMeant(t *testing.T) {
	for _, test := range []struct {
		digits string
		length int
		given  gs1.CheckDigit
		want   string // the number, or what the refusal says
	}{
		{"952123454321", 13, gs1.AsItIs, "9521234543213"},
		{"9521234543213", 13, gs1.AsItIs, "9521234543213"},
		{"9521234543210", 13, gs1.AsItIs, "The check digit of 952123454321 is 3, not 0."},
		{"012345000065", 13, gs1.AsItIs,
			"it would become 0123450000656, another number; 0012345000065 is probably meant"},
		{"012345000065", 13, gs1.Missing, "0123450000656"},
		{"012345000065", 13, gs1.Given, "0012345000065"},
		{"9521234543213", 14, gs1.AsItIs,
			"it would become 95212345432134, another number; 09521234543213 is probably meant"},
		{"9521234543213", 14, gs1.Given, "09521234543213"},
		{"1540014128876", 14, gs1.AsItIs, "15400141288763"},
		{"95212340", 13, gs1.AsItIs, "It is a whole GTIN-8: write 0000095212340 if that is meant."},
		{"95212345432", 13, gs1.AsItIs,
			"takes 12 or 13 digits, and 95212345432 has 11. With a 0 before it the check digit would be"},
		{"09521234543213", 13, gs1.AsItIs, "Without the zeros before it, it is 9521234543213."},
		{"9521234543213", 13, gs1.Missing, "has one too many"},
		{"952", 13, gs1.AsItIs, "Put 10 zeros before it"},
		{"", 13, gs1.AsItIs, "at least one digit"},
		{"9521Ø", 8, gs1.AsItIs, "“Ø” (character 5) is not in"},
	} {
		got, err := gs1.Complete("This code", test.digits, test.length, test.given)
		if err != nil {
			var data *gs1.DataError
			require.ErrorAs(t, err, &data)
			got = data.Reason
		}
		require.Contains(t, got, test.want, "%+v", test)
	}
}

func TestGTINsOfAnyLengthAreFilledUp(t *testing.T) {
	for digits, want := range map[string]string{
		"09521234543213": "09521234543213", "9521234543213": "09521234543213", "012345000065": "00012345000065",
		"95212340":      "00000095212340",
		"9521987000019": "The check digit of 952198700001 is", "952123454321": "The check digit of 95212345432 is",
		"1234567": "and 1234567 has 7",
	} {
		got, err := gs1.CompleteGTIN("GS1 DataBar", digits, gs1.AsItIs)
		if err != nil {
			got = err.Error()
		}
		require.Contains(t, got, want)
	}
	got, err := gs1.CompleteGTIN("GS1 DataBar", "952123454321", gs1.Missing)
	require.NoError(t, err)
	require.Equal(t, "09521234543213", got)
}
