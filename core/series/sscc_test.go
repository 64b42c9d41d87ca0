package series_test

import (
	"fmt"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/gs1"
	"oddspool/core/series"
)

func TestSSCCsAreWhole(t *testing.T) {
	for _, company := range []string{"9521", "9521234", "952123456789"} {
		spec, err := series.SSCC("3", company)
		require.NoError(t, err)
		counts, err := series.New(spec)
		require.NoError(t, err)
		for i := range 25 {
			number, err := counts.At(i)
			require.NoError(t, err)
			elements, err := gs1.Parse("(00)" + number) // of 18 digits, the last of which is right
			require.NoError(t, err)
			require.Equal(t, "3"+company, elements[0].Value[:1+len(company)])
		}
	}
	long, err := series.SSCC("0", "952123456789")
	require.NoError(t, err)
	counts, err := series.New(long)
	require.NoError(t, err)
	_, err = counts.At(9999)
	require.NoError(t, err)
	_, err = counts.At(10_000)
	require.ErrorContains(t, err, "4 digits are used up")
}

func TestWhatMakesNoSSCCIsTold(t *testing.T) {
	for _, test := range []struct{ extension, company, text string }{
		{"", "9521234", "extension digit"}, {"12", "9521234", "extension digit"}, {"x", "9521234", "extension digit"},
		{"0", "952", "4 to 12 digits"}, {"0", "9521234567890", "4 to 12 digits"}, {"0", "95212A4", "4 to 12 digits"},
	} {
		_, err := series.SSCC(test.extension, test.company)
		require.IsType(t, &refusal.Error{}, err)
		require.ErrorContains(t, err, test.text)
	}
}

func ExampleSSCC() {
	spec, _ := series.SSCC("0", "9521234")
	counts, _ := series.New(spec)
	fmt.Println(counts.At(0))
	// Output: 095212340000000006 <nil>
}
