package check_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/check"
)

// Numbers with their check characters, from the standards or from the issuers that use them.
func TestRulesCompleteKnownNumbers(t *testing.T) {
	for rule, numbers := range map[string][]string{
		"gs1":       {"6291041500213", "95212340", "012345000065", "095212345432123453"},
		"luhn":      {"79927398713", "12345674"},
		"isbn10":    {"0306406152", "080442957X"},
		"mod43":     {"12345ABCDE/T"},
		"mod97-10":  {"79444"},
		"mod11-10":  {"07945"},
		"mod37-36":  {"A12425GABC1234002M"},
		"mod37-2":   {"A999914123456N"},
		"gs1-model": {"1987654Ad4X4bL5ttr2310c2K"},
	} {
		r, ok := check.Find(rule)
		require.True(t, ok, rule)
		for _, number := range numbers {
			require.True(t, r.Holds(number), "%s %s", rule, number)
		}
	}
}

// A wrong character anywhere, or two neighbours that have changed places, is found; the rules that
// cannot find every exchange are named.
func TestRulesFindWhatTypistsDo(t *testing.T) {
	for _, r := range check.Rules() {
		data := strings.Repeat("1729380456", 1)
		sum, err := r.Of(data)
		require.NoError(t, err)
		require.Len(t, sum, r.Length)
		require.True(t, r.Holds(data+sum))
		for i := range data {
			wrong := data[:i] + string('0'+(data[i]-'0'+1)%10) + data[i+1:]
			require.False(t, r.Holds(wrong+sum), "%s: %s", r.Name, wrong)
			if i == 0 || r.Name == "gs1" || r.Name == "luhn" || r.Name == "mod43" || r.Name == "mod11-10" ||
				r.Name == "mod10-4-9" {
				continue
			}
			swapped := data[:i-1] + data[i:i+1] + data[i-1:i] + data[i+1:]
			require.False(t, r.Holds(swapped+sum), "%s: %s", r.Name, swapped)
		}
	}
}

func TestRulesSayWhichCharacterHasNoValue(t *testing.T) {
	for rule, data := range map[string]string{"gs1": "95212O", "mod43": "KELPå1", "mod97-10": "ab"} {
		r, _ := check.Find(rule)
		_, err := r.Of(data)
		var character *check.CharacterError
		require.ErrorAs(t, err, &character, rule)
		require.Equal(t, map[string]int{"gs1": 6, "mod43": 5, "mod97-10": 1}[rule], character.Column)
	}
	_, ok := check.Find("none")
	require.False(t, ok)
	require.False(t, check.HoldsGS1("3"))
}

func ExampleRule_Of() {
	rule, _ := check.Find("gs1")
	digit, err := rule.Of("952123454321") // a tote of brine
	fmt.Println(digit, err)
	// Output: 3 <nil>
}
