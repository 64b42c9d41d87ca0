package series_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/check"
	"oddspool/core/series"
)

func numbers(t testing.TB, spec series.Spec) (list []string, err error) {
	s, err := series.New(spec)
	if err != nil {
		return nil, err
	}
	for number, err := range s.All() {
		if err != nil {
			return list, err
		}
		list = append(list, number)
	}
	return list, nil
}

func TestSeriesCount(t *testing.T) {
	for name, test := range map[string]struct {
		spec series.Spec
		want []string
	}{
		"as it begins": {series.Spec{Start: "0417", Step: 1, Count: 3}, []string{"0417", "0418", "0419"}},
		"grows":        {series.Spec{Start: "98", Step: 1, Count: 3}, []string{"98", "99", "100"}},
		"width":        {series.Spec{Start: "7", Step: 1, Count: 2, Width: 4}, []string{"0007", "0008"}},
		"down":         {series.Spec{Start: "101", Step: -1, Count: 3}, []string{"101", "100", "099"}},
		"to the end":   {series.Spec{Start: "10", Step: 5, End: "22"}, []string{"10", "15", "20"}},
		"hex":          {series.Spec{Start: "0FE", Step: 1, Count: 3, Digits: "hex"}, []string{"0FE", "0FF", "100"}},
		"base36":       {series.Spec{Start: "ZY", Step: 1, Count: 3, Digits: "base36"}, []string{"ZY", "ZZ", "100"}},
		"without I, O": {series.Spec{Start: "H", Step: 1, Count: 3, Digits: "base34"}, []string{"H", "J", "K"}},
		"own order":    {series.Spec{Start: "C", Step: 1, Count: 4, Digits: "ZAC"}, []string{"C", "AZ", "AA", "AC"}},
		"mixed places": {series.Spec{Start: "AZ9998", Step: 1, Count: 3, Digits: "letters*2,decimal*4"},
			[]string{"AZ9998", "AZ9999", "BA0000"}},
		"around": {series.Spec{Start: "07", Step: 1, Count: 1, Prefix: "N-", Suffix: "/26"},
			[]string{"N-07/26"}},
		"check": {series.Spec{Start: "00042", Step: 1, Count: 2, Prefix: "9521234", Check: "gs1"},
			[]string{"9521234000426", "9521234000433"}},
		"check, digits": {series.Spec{Start: "7992739871", Step: 1, Count: 1, Prefix: "SN-", Check: "luhn"},
			[]string{"SN-79927398713"}},
		"long": {series.Spec{Start: "12345678901234567890123456", Step: 1, Count: 2},
			[]string{"12345678901234567890123456", "12345678901234567890123457"}},
	} {
		got, err := numbers(t, test.spec)
		require.NoError(t, err, name)
		require.Equal(t, test.want, got, name)
	}
}

func TestWhatCannotBeCountedIsSaid(t *testing.T) {
	for text, spec := range map[string]series.Spec{
		"A step of 0":                 {Start: "1", Count: 1},
		"has “X” in place 2":          {Start: "1X", Step: 1, Count: 1},
		"4 digits are used up before": {Start: "9998", Step: 1, Count: 5, Width: 4},
		"below it there is nothing":   {Start: "1", Step: -1, Count: 3},
		"is never reached":            {Start: "5", Step: 1, End: "2"},
		"There is no check rule":      {Start: "5", Step: 1, Count: 1, Check: "nosuch"},
		"has “A” twice":               {Start: "A", Step: 1, Count: 1, Digits: "ABA"},
		"needs two letters":           {Start: "A", Step: 1, Count: 1, Digits: "A"},
		"has no check character":      {Start: "A", Step: 1, Count: 1, Digits: "letters", Check: "gs1"},
		"the numbers have 2":          {Start: "123", Step: 1, Count: 1, Width: 2},
		"cannot be given at once":     {Start: "1", Step: 1, Count: series.MostNumbers + 1},
		"which is before number 3":    {Start: "1", Step: 1, End: "2", Count: 3},
		"leave the width out":         {Start: "A1", Step: 1, Count: 1, Digits: "letters,decimal", Width: 3},
		"no number of places":         {Start: "A1", Step: 1, Count: 1, Digits: "letters*x,decimal"},
	} {
		_, err := numbers(t, spec)
		require.IsType(t, &refusal.Error{}, err, text)
		require.ErrorContains(t, err, text)
	}
}

// In an order of a key all numbers come, each once, and another key has another order.
func TestRandomOrdersRepeatNothing(t *testing.T) {
	for _, spec := range []series.Spec{
		{Start: "000", Step: 1, Count: 1000, Width: 3, Random: "kelp"},
		{Start: "A0", Step: 1, Count: 260, Digits: "letters,decimal", Random: "kelp"},
		{Start: "0", Step: 1, Count: 2, Digits: "binary", Random: "kelp"},
		{Start: "0000", Step: 1, Count: 10_000, Random: "salt"},
	} {
		list, err := numbers(t, spec)
		require.NoError(t, err)
		seen := map[string]bool{}
		for _, number := range list {
			require.False(t, seen[number], number)
			require.Len(t, number, len(list[0]))
			seen[number] = true
		}
		require.Len(t, seen, spec.Count)
	}
	one, err := numbers(t, series.Spec{Start: "000000", Step: 1, Count: 50, Random: "kelp"})
	require.NoError(t, err)
	again, err := numbers(t, series.Spec{Start: "000000", Step: 1, Count: 50, Random: "kelp"})
	require.NoError(t, err)
	other, err := numbers(t, series.Spec{Start: "000000", Step: 1, Count: 50, Random: "salt"})
	require.NoError(t, err)
	require.Equal(t, one, again)
	require.NotEqual(t, one, other)
}

// Every rule's check character holds for its number.
func TestCheckCharactersHold(t *testing.T) {
	for _, rule := range check.Rules() {
		list, err := numbers(t, series.Spec{Start: "0417", Step: 13, Count: 50, Check: rule.Name})
		require.NoError(t, err, rule.Name)
		for _, number := range list {
			require.True(t, rule.Holds(number), "%s %s", rule.Name, number)
		}
	}
}

func ExampleSeries_All() {
	s, _ := series.New(series.Spec{Start: "AZ8", Step: 1, Count: 3, Digits: "letters*2,decimal", Prefix: "KW-"})
	for number := range s.All() {
		fmt.Println(number)
	}
	// Output:
	// KW-AZ8
	// KW-AZ9
	// KW-BA0
}

func BenchmarkAt(b *testing.B) {
	for name, spec := range map[string]series.Spec{"plain": {Start: "000417", Step: 1},
		"random": {Start: "000417", Step: 1, Random: "kelp"}} {
		b.Run(name, func(b *testing.B) {
			s, err := series.New(spec)
			require.NoError(b, err)
			i := 0
			for b.Loop() {
				_, _ = s.At(i % 1000)
				i++
			}
		})
	}
}

// Numbers are those that counting by hand gives, one step at a time.
func TestSeriesIsHeldAgainstASlowReference(t *testing.T) {
	random := rand.New(rand.NewPCG(417, 4))
	for range 300 {
		letters := []rune("0123456789ABCDEFGHJKLMNPQRSTUVWXYZ")[:2+random.IntN(30)]
		random.Shuffle(len(letters), func(i, j int) { letters[i], letters[j] = letters[j], letters[i] })
		width := 2 + random.IntN(4)
		digits := make([]int, width) // the last one first
		start := make([]rune, width)
		for i := range digits {
			digits[i] = random.IntN(len(letters))
			start[width-1-i] = letters[digits[i]]
		}
		list, err := numbers(t, series.Spec{Start: string(start), Step: 1, Count: 50, Width: width,
			Digits: string(letters)})
		for n := range 50 {
			if n >= len(list) {
				require.ErrorContains(t, err, "are used up before number")
				for _, digit := range digits {
					require.Zero(t, digit, "and not before")
				}
				break
			}
			want := make([]rune, width)
			for i, digit := range digits {
				want[width-1-i] = letters[digit]
			}
			require.Equal(t, string(want), list[n])
			for i := range digits { // as an odometer goes on
				if digits[i]++; digits[i] < len(letters) {
					break
				}
				digits[i] = 0
			}
		}
	}
}

// From a number on a label it is known how far its series has counted.
func TestANumberSaysItsPlace(t *testing.T) {
	for _, spec := range []series.Spec{
		{Start: "1", Step: 1}, {Start: "0101", Step: 1, Width: 4, Prefix: "K-", Suffix: "/26"},
		{Start: "900", Step: -3}, {Start: "AA00", Step: 7, Digits: "letters*2,decimal*2"},
		{Start: "95200000", Step: 1, Check: "gs1"}, {Start: "09", Step: 1, Digits: "hex"},
	} {
		s, err := series.New(spec)
		require.NoError(t, err)
		for _, place := range []int{0, 1, 17, 99, 250} {
			number, err := s.At(place)
			require.NoError(t, err, spec)
			got, err := s.Place(number)
			require.NoError(t, err, "%s of %v", number, spec)
			require.Equal(t, place, got)
		}
		for _, none := range []string{"", "kelp", "K-", "9999999999999999999999999999"} {
			_, err := s.Place(none)
			require.ErrorAs(t, err, new(*refusal.Error), none)
		}
	}
	mixed, err := series.New(series.Spec{Start: "000", Step: 1, Random: "kelp"})
	require.NoError(t, err)
	_, err = mixed.Place("123")
	require.ErrorContains(t, err, "cannot be told")
}
