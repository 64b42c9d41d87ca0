package formula_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/formula"
)

// Weeks of ISO 8601 at the turns of years, as the standard's calendar has them.
func TestWeeksAreThoseOfISO8601(t *testing.T) {
	for date, want := range map[string]string{
		"2026-01-01": "2026-W01-4", "2025-12-31": "2026-W01-3", "2024-12-30": "2025-W01-1", "2024-12-29": "2024-W52-7",
		"2020-12-31": "2020-W53-4", "2021-01-03": "2020-W53-7",
		"2021-01-04": "2021-W01-1", "2016-01-03": "2015-W53-7", "2027-01-01": "2026-W53-5", "2026-06-15": "2026-W25-1",
	} {
		require.Equal(t, want, gives(t, `formatDate(d, "Y-'W'ww-e")`, []string{"d"}, []string{date}), date)
		require.Equal(t, strings.TrimLeft(want[6:8], "0"), gives(t, `week(d)`, []string{"d"}, []string{date}), date)
		require.Equal(t, want[:4], gives(t, `weekYear(d)`, []string{"d"}, []string{date}), date)
	}
}

// Months move by the calendar: a day that a month has not is its last.
func TestMonthsMoveByTheCalendar(t *testing.T) {
	for _, test := range []struct {
		date   string
		months int
		want   string
	}{
		{"2026-01-31", 1, "2026-02-28"}, {"2024-01-31", 1, "2024-02-29"}, {"2026-03-31", -1, "2026-02-28"},
		{"2026-12-31", 2, "2027-02-28"}, {"2026-05-31", 1, "2026-06-30"},
		{"2026-11-26", 14, "2028-01-26"}, {"2026-11-26", -11, "2025-12-26"}, {"2024-02-29", 12, "2025-02-28"},
		{"2024-02-29", 48, "2028-02-29"},
	} {
		require.Equal(t, test.want, gives(t, fmt.Sprintf("addMonths(d, %d)", test.months), []string{"d"},
			[]string{test.date}), "%s %d", test.date, test.months)
	}
	random := rand.New(rand.NewPCG(26, 11))
	for range 2000 {
		date := time.Date(1990+random.IntN(80), time.Month(1+random.IntN(12)), 1+random.IntN(28), 0, 0, 0, 0, time.UTC)
		months := random.IntN(400) - 200
		moved := formula.AddMonths(date, months)
		require.Equal(t, date.Day(), moved.Day(), "every month has 28 days")
		require.Equal(t, months, (moved.Year()-date.Year())*12+int(moved.Month())-int(date.Month()))
	}
}

// What a pattern writes it reads again.
func TestPatternsReadWhatTheyWrite(t *testing.T) {
	random := rand.New(rand.NewPCG(4, 17))
	for _, pattern := range []string{"yyyy-MM-dd", "d.M.yyyy", "yyMMdd", "dd/MM/yy", "yyyyDDD", "d MMMM yyyy",
		"MMM d, yyyy", "EEEE d MMMM yyyy", "yyyy-MM-dd HH:mm:ss", "h:mm a, d.M.yyyy", "'on' d.M.yyyy", "d. MMM ''yy"} {
		for range 200 {
			now := time.Now().Year()
			date := time.Date(now-40+random.IntN(80), time.Month(1+random.IntN(12)), 1+random.IntN(28), 0, 0, 0, 0,
				time.UTC)
			if strings.Contains(pattern, "m") {
				date = date.Add(time.Duration(random.IntN(24*60)) * time.Minute)
			}
			text, err := formula.FormatDate(date, pattern, "en")
			require.NoError(t, err, pattern)
			f, err := formula.Compile(fmt.Sprintf("date(d, %q)", pattern), []string{"d"})
			require.NoError(t, err)
			got, err := f.Text([]string{text}, nil)
			require.NoError(t, err, "%s as %s", text, pattern)
			want := date.Format(time.DateOnly)
			if date.Hour()+date.Minute() > 0 {
				want = date.Format("2006-01-02 15:04:05")
			}
			require.Equal(t, want, got, "%s as %s", text, pattern)
		}
	}
}

func TestDatesThatAreNoneAreTold(t *testing.T) {
	for _, test := range [][2]string{
		{"2026-02-30", "yyyy-MM-dd"}, {"31.04.2026", "dd.MM.yyyy"}, {"2026-13-01", "yyyy-MM-dd"}, {"26.11", "d.M.yyyy"},
		{"26.11.2026x", "d.M.yyyy"}, {"2026366", "yyyyDDD"}, {"2026000", "yyyyDDD"},
		{"25:00 1.1.2026", "HH:mm d.M.yyyy"}, {"12:61 1.1.2026", "HH:mm d.M.yyyy"}, {"November", "d MMMM"},
		{"1 Smarch 2026", "d MMMM yyyy"}, {"", "d.M.yyyy"}, {"1.1.2026", "d.M.yyyyQ"},
	} {
		f, err := formula.Compile(`date(d, p)`, []string{"d", "p"})
		require.NoError(t, err)
		_, err = f.Text([]string{test[0], test[1]}, nil)
		require.IsType(t, &formula.Error{}, err, "%v", test)
	}
	for pattern, text := range map[string]string{"'open": "not closed", "yyyy-XX": "“X” in the pattern"} {
		_, err := formula.FormatDate(time.Now(), pattern, "en")
		require.ErrorContains(t, err, text)
	}
	_, err := formula.FormatDate(time.Now(), "d", "tlh")
	require.ErrorContains(t, err, "the language “tlh” is not known")
	for _, shifts := range []string{"06:00", "six early", "06:00 early, 25:00 late"} {
		f, err := formula.Compile(fmt.Sprintf("shift(now(), %q)", shifts), nil)
		require.NoError(t, err)
		_, err = f.Text(nil, morning)
		require.ErrorContains(t, err, "is no shift")
	}
}

func TestMonthsAndDaysHaveNamesInEachLanguage(t *testing.T) {
	thursday := time.Date(2026, 3, 26, 15, 4, 5, 0, time.UTC)
	for language, want := range map[string]string{
		"en": "Thursday 26 March", "de": "Donnerstag 26 März", "fr": "jeudi 26 mars", "es": "jueves 26 marzo",
		"it": "giovedì 26 marzo", "nl": "donderdag 26 maart", "da": "torsdag 26 marts", "sv": "torsdag 26 mars",
		"nb": "torsdag 26 mars",
	} {
		got, err := formula.FormatDate(thursday, "EEEE d MMMM", language)
		require.NoError(t, err)
		require.Equal(t, want, got)
	}
	got, err := formula.FormatDate(thursday, "EEE EEEEE MMM Q h a m s DDD", "de")
	require.NoError(t, err)
	require.Equal(t, "Don D Mär 1 3 PM 4 5 085", got)
	// each its own
	for month, want := range map[time.Month]string{time.June: "juin", time.July: "juil", time.March: "mar"} {
		got, err = formula.FormatDate(time.Date(2026, month, 1, 0, 0, 0, 0, time.UTC), "MMM", "fr")
		require.NoError(t, err)
		require.Equal(t, want, got)
	}
}

// Decimal arithmetic holds where binary does not.
func TestArithmeticIsDecimal(t *testing.T) {
	random := rand.New(rand.NewPCG(19, 90))
	for range 500 {
		cents, pieces := random.IntN(1_000_000), 1+random.IntN(5000)
		price := fmt.Sprintf("%d.%02d", cents/100, cents%100)
		got := gives(t, `format(price * pieces, 2)`, []string{"price", "pieces"}, []string{price, fmt.Sprint(pieces)})
		total := cents * pieces
		require.Equal(t, fmt.Sprintf("%d.%02d", total/100, total%100), got, "%s x %d", price, pieces)
	}
	for text, want := range map[string]string{
		`1.005 * 100`: "100.5", `round(1.005, 2)`: "1.01", `round(-2.5)`: "-3", `1 / 3 * 3`: "0.9999999999999999",
		`0.1 * 3`: "0.3", `format(-1234567.891, 1, ",", ".")`: "-1.234.567,9", `format(999, 0, ".", ",")`: "999",
		`format(1000, 0, ".", ",")`: "1,000",
	} {
		require.Equal(t, want, gives(t, text, nil, nil), text)
	}
}
