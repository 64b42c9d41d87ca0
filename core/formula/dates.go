package formula

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"
	_ "time/tzdata" // time zones, also where the machine has none: in a page

	"github.com/shopspring/decimal"
)

// today is the day of printing.
func (w *world) today() time.Time {
	y, m, d := w.now().Date()
	return time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
}

// AddMonths returns the same day of another month; where that has no such day, its last one.
func AddMonths(date time.Time, months int) time.Time {
	y, m, d := date.Date()
	first := time.Date(y, m+time.Month(months), 1, date.Hour(), date.Minute(), date.Second(), 0, date.Location())
	last := first.AddDate(0, 1, -1).Day()
	return first.AddDate(0, 0, min(d, last)-1)
}

// languages have the names of months and of days of the week, from Sunday.
var languages = map[string]struct{ months, days []string }{
	"en": {strings.Fields("January February March April May June July August September October November December"),
		strings.Fields("Sunday Monday Tuesday Wednesday Thursday Friday Saturday")},
	"de": {strings.Fields("Januar Februar März April Mai Juni Juli August September Oktober November Dezember"),
		strings.Fields("Sonntag Montag Dienstag Mittwoch Donnerstag Freitag Samstag")},
	"fr": {strings.Fields("janvier février mars avril mai juin juillet août septembre octobre novembre décembre"),
		strings.Fields("dimanche lundi mardi mercredi jeudi vendredi samedi")},
	"es": {strings.Fields("enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre"),
		strings.Fields("domingo lunes martes miércoles jueves viernes sábado")},
	"it": {strings.Fields("gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre " +
		"dicembre"), strings.Fields("domenica lunedì martedì mercoledì giovedì venerdì sabato")},
	"nl": {strings.Fields("januari februari maart april mei juni juli augustus september oktober november december"),
		strings.Fields("zondag maandag dinsdag woensdag donderdag vrijdag zaterdag")},
	"da": {strings.Fields("januar februar marts april maj juni juli august september oktober november december"),
		strings.Fields("søndag mandag tirsdag onsdag torsdag fredag lørdag")},
	"sv": {strings.Fields("januari februari mars april maj juni juli augusti september oktober november december"),
		strings.Fields("söndag måndag tisdag onsdag torsdag fredag lördag")},
	"nb": {strings.Fields("januar februar mars april mai juni juli august september oktober november desember"),
		strings.Fields("søndag mandag tirsdag onsdag torsdag fredag lørdag")},
}

// dateFields cuts a pattern into runs of one letter and what stands between them; letters in single quotes stand for
// themselves.
func dateFields(pattern string, field func(letter byte, n int) error, literal func(string) error) error {
	for i := 0; i < len(pattern); {
		c := pattern[i]
		switch {
		case c == '\'':
			end := strings.IndexByte(pattern[i+1:], '\'')
			if end < 0 {
				return fmt.Errorf("the quotation mark in “%s” is not closed", pattern)
			}
			said := pattern[i+1 : i+1+end]
			if said == "" {
				said = "'"
			}
			if err := literal(said); err != nil {
				return err
			}
			i += end + 2
		case c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z':
			n := 1
			for i+n < len(pattern) && pattern[i+n] == c {
				n++
			}
			if err := field(c, n); err != nil {
				return err
			}
			i += n
		default:
			n := 1
			for i+n < len(pattern) && pattern[i+n] >= 0x80 {
				n++
			}
			if err := literal(pattern[i : i+n]); err != nil {
				return err
			}
			i += n
		}
	}
	return nil
}

// FormatDate writes a date by a pattern of Unicode's Locale Data Markup Language (UTS 35, part 4, date field symbols):
// y M d, E day of the week, H h m s a, D day of the year, Y and w the year and week of ISO 8601, e its day of the week,
// Q the quarter; words in 'quotes'.
func FormatDate(date time.Time, pattern, language string) (string, error) {
	names, known := languages[language]
	if !known {
		return "", fmt.Errorf("the language “%s” is not known; there are en, de, fr, es, it, nl, da, sv, nb", language)
	}
	var out strings.Builder
	put := func(value, n int) error {
		text := strconv.Itoa(value)
		out.WriteString(strings.Repeat("0", max(n-len(text), 0)) + text)
		return nil
	}
	name := func(list []string, i, n int) error {
		switch n {
		case 4:
			out.WriteString(list[i])
		case 5:
			out.WriteString(strings.ToUpper(string([]rune(list[i])[:1])))
		default:
			out.WriteString(abbreviated(list, i))
		}
		return nil
	}
	year := func(value, n int) error {
		if n == 2 {
			return put(value%100, 2)
		}
		return put(value, n)
	}
	isoYear, week := date.ISOWeek()
	err := dateFields(pattern, func(letter byte, n int) error {
		switch letter {
		case 'y', 'u':
			return year(date.Year(), n)
		case 'Y':
			return year(isoYear, n)
		case 'M', 'L':
			if n > 2 {
				return name(names.months, int(date.Month())-1, n)
			}
			return put(int(date.Month()), n)
		case 'd':
			return put(date.Day(), n)
		case 'D':
			return put(date.YearDay(), n)
		case 'E':
			return name(names.days, int(date.Weekday()), n)
		case 'e', 'c':
			return put((int(date.Weekday())+6)%7+1, n)
		case 'w':
			return put(week, n)
		case 'Q', 'q':
			return put((int(date.Month())-1)/3+1, n)
		case 'H':
			return put(date.Hour(), n)
		case 'h':
			return put((date.Hour()+11)%12+1, n)
		case 'm':
			return put(date.Minute(), n)
		case 's':
			return put(date.Second(), n)
		case 'a':
			out.WriteString(date.Format("PM"))
			return nil
		}
		return fmt.Errorf("“%c” in the pattern “%s” is not known; y M d H m s, E, D, Y, w, e and Q are, and words "+
			"stand in 'quotes'", letter, pattern)
	}, func(text string) error { out.WriteString(text); return nil })
	return out.String(), err
}

// abbreviated returns the first three letters of a name, or as many as none of the others begins with.
func abbreviated(list []string, i int) string {
	runes := []rune(list[i])
	for n := 3; n < len(runes); n++ {
		short := string(runes[:n])
		if !slices.ContainsFunc(list, func(other string) bool {
			return other != list[i] &&
				strings.HasPrefix(other, short)
		}) {
			return short
		}
	}
	return list[i]
}

// named finds the name of a month or a day that a text begins with, in any language: its place, and its length in
// bytes; 0: there is none. The longest counts, since names of one language begin those of another.
func named(text string, days, short bool) (place, length int) {
	for _, language := range languages {
		list := language.months
		if days {
			list = language.days
		}
		for i, name := range list {
			if short {
				name = abbreviated(list, i)
			}
			if len(name) > length && len(text) >= len(name) && strings.EqualFold(text[:len(name)], name) {
				place, length = i, len(name)
			}
		}
	}
	return place, length
}

// ofDate makes a function of one date.
func ofDate(do func(time.Time) int) func([]any) (any, error) {
	return func(args []any) (any, error) {
		date, err := asDate(args[0])
		return decimal.NewFromInt(int64(do(date))), err
	}
}

var dateFunctions = []*Function{
	{Name: "today", Takes: "", Group: ofDates, Says: "the day of printing", Example: `today()`, Gives: "2026-11-26",
		most: 0, world: true, clock: true, do: func(args []any) (any, error) { return args[0].(*world).today(), nil }},
	{Name: "now", Takes: "", Group: ofDates, Says: "the moment of printing; a reprint keeps it",
		Example: `formatDate(now(), "HH:mm")`, Gives: "09:30", most: 0, world: true, clock: true,
		do: func(args []any) (any, error) { return args[0].(*world).now(), nil }},
	{Name: "date", Takes: "text, pattern", Group: ofDates,
		Says: "a date from a text; without a pattern as ISO 8601 has it", Example: `date("26.11.26", "d.M.yy")`,
		Gives: "2026-11-26", least: 1, most: 2, do: func(args []any) (any, error) {
			if len(args) == 1 {
				return asDate(args[0])
			}
			list, err := asTexts(args)
			if err != nil {
				return nil, err
			}
			return parseDate(list[0], list[1])
		}},
	{Name: "formatDate", Takes: "date, pattern, language", Group: ofDates,
		Says: "written by a pattern: y M d, E weekday, H m s, D day of the year, Y and w ISO year and week, words in " +
			"'quotes'; en, de, fr, es, it, nl, da, sv, nb", Example: `formatDate("2026-11-26", "d. MMMM yyyy", "de")`,
		Gives: "26. November 2026", least: 2, most: 3, do: func(args []any) (any, error) {
			date, err := asDate(args[0])
			if err != nil {
				return nil, err
			}
			pattern, err := asText(args[1])
			if err != nil {
				return nil, err
			}
			language, err := optional(args, 2, "en")
			if err != nil {
				return nil, err
			}
			return FormatDate(date, pattern, language)
		}},
	{Name: "addDays", Takes: "date, n", Group: ofDates, Says: "so many days later",
		Example: `addDays("2026-11-26", 10)`, Gives: "2026-12-06", least: 2, most: 2,
		do: moved(func(date time.Time, n int) time.Time { return date.AddDate(0, 0, n) })},
	{Name: "addWeeks", Takes: "date, n", Group: ofDates, Says: "so many weeks later",
		Example: `addWeeks("2026-11-26", 2)`, Gives: "2026-12-10", least: 2, most: 2,
		do: moved(func(date time.Time, n int) time.Time { return date.AddDate(0, 0, 7*n) })},
	{Name: "addMonths", Takes: "date, n", Group: ofDates,
		Says:    "so many months later; where the month has no such day, on its last",
		Example: `addMonths("2026-01-31", 1)`, Gives: "2026-02-28", least: 2, most: 2, do: moved(AddMonths)},
	{Name: "addYears", Takes: "date, n", Group: ofDates,
		Says:    "so many years later; 29 February becomes the 28th where there is none",
		Example: `addYears("2024-02-29", 1)`, Gives: "2025-02-28", least: 2, most: 2,
		do: moved(func(date time.Time, n int) time.Time { return AddMonths(date, 12*n) })},
	{Name: "endOfMonth", Takes: "date", Group: ofDates, Says: "the last day of its month",
		Example: `endOfMonth("2026-02-03")`, Gives: "2026-02-28", least: 1, most: 1, do: func(args []any) (any, error) {
			date, err := asDate(args[0])
			return time.Date(date.Year(), date.Month()+1, 0, 0, 0, 0, 0, time.UTC), err
		}},
	{Name: "days", Takes: "from, to", Group: ofDates, Says: "how many days lie between two dates",
		Example: `days("2026-11-26", "2026-12-24")`, Gives: "28", least: 2, most: 2, do: func(args []any) (any, error) {
			from, err := asDate(args[0])
			if err != nil {
				return nil, err
			}
			to, err := asDate(args[1])
			day := func(t time.Time) int64 {
				return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC).Unix() / 86400
			}
			return decimal.NewFromInt(day(to) - day(from)), err
		}},
	{Name: "year", Takes: "date", Group: ofDates, Says: "its year", Example: `year("2026-11-26")`, Gives: "2026",
		least: 1, most: 1, do: ofDate(time.Time.Year)},
	{Name: "month", Takes: "date", Group: ofDates, Says: "its month, 1 to 12", Example: `month("2026-11-26")`,
		Gives: "11", least: 1, most: 1, do: ofDate(func(d time.Time) int { return int(d.Month()) })},
	{Name: "day", Takes: "date", Group: ofDates, Says: "its day of the month", Example: `day("2026-11-26")`,
		Gives: "26", least: 1, most: 1, do: ofDate(time.Time.Day)},
	{Name: "week", Takes: "date", Group: ofDates, Says: "its week of ISO 8601, which begins on Monday",
		Example: `week("2027-01-01")`, Gives: "53", least: 1, most: 1,
		do: ofDate(func(d time.Time) int { _, w := d.ISOWeek(); return w })},
	{Name: "weekYear", Takes: "date", Group: ofDates, Says: "the year that its week of ISO 8601 belongs to",
		Example: `weekYear("2027-01-01")`, Gives: "2026", least: 1, most: 1,
		do: ofDate(func(d time.Time) int { y, _ := d.ISOWeek(); return y })},
	{Name: "dayOfYear", Takes: "date", Group: ofDates, Says: "its day of the year, 1 to 366",
		Example: `pad(dayOfYear("2026-02-01"), 3, "0")`, Gives: "032", least: 1, most: 1,
		do: ofDate(time.Time.YearDay)},
	{Name: "weekday", Takes: "date", Group: ofDates, Says: "its day of the week, Monday is 1",
		Example: `weekday("2026-11-26")`, Gives: "4", least: 1, most: 1,
		do: ofDate(func(d time.Time) int { return (int(d.Weekday())+6)%7 + 1 })},
	{Name: "monthLetter", Takes: "date, letters", Group: ofDates,
		Says:    "a letter for its month from a row of twelve; A to M without I where none is given",
		Example: `monthLetter("2026-11-26")`, Gives: "L", least: 1, most: 2, do: func(args []any) (any, error) {
			date, err := asDate(args[0])
			if err != nil {
				return nil, err
			}
			row, err := optional(args, 1, "ABCDEFGHJKLM")
			letters := []rune(row)
			if err == nil && len(letters) != 12 {
				err = fmt.Errorf("“%s” has %d letters; one for each of twelve months is needed", row, len(letters))
			}
			if err != nil {
				return nil, err
			}
			return string(letters[date.Month()-1]), nil
		}},
	{Name: "inZone", Takes: "date, zone", Group: ofDates,
		Says: "as the clocks of a time zone show it, which is named as in the IANA database; now() and today() are " +
			"those of the plant", Example: `formatDate(inZone(now(), "Asia/Tokyo"), "HH:mm")`, Gives: "18:30", least: 2,
		most: 2, do: func(args []any) (any, error) {
			date, err := asDate(args[0])
			if err != nil {
				return nil, err
			}
			name, err := asText(args[1])
			if err != nil {
				return nil, err
			}
			zone, err := time.LoadLocation(name)
			if err != nil || name == "" {
				return nil, fmt.Errorf("there is no time zone “%s”; write Europe/Oslo or UTC", name)
			}
			return date.In(zone), nil
		}},
	{Name: "shift", Takes: "date, shifts", Group: ofDates,
		Says:    "which shift a time is in; each is said by when it begins",
		Example: `shift("2026-11-26 09:30", "06:00 early, 14:00 late, 22:00 night")`, Gives: "early", least: 2, most: 2,
		do: func(args []any) (any, error) {
			date, err := asDate(args[0])
			if err != nil {
				return nil, err
			}
			text, err := asText(args[1])
			if err != nil {
				return nil, err
			}
			return shiftAt(date, text)
		}},
}

// shiftAt returns the shift that a time of day is in.
func shiftAt(date time.Time, text string) (string, error) {
	now := date.Hour()*60 + date.Minute()
	name, last, best, latest := "", "", -1, -1
	for _, said := range strings.Split(text, ",") {
		at, called, _ := strings.Cut(strings.TrimSpace(said), " ")
		begin, err := time.Parse("15:04", at)
		if err != nil || called == "" {
			return "", fmt.Errorf("“%s” is no shift; write when each begins, such as 06:00 early, 14:00 late",
				strings.TrimSpace(said))
		}
		minutes := begin.Hour()*60 + begin.Minute()
		if minutes <= now && minutes > best {
			name, best = called, minutes
		}
		if minutes > latest {
			last, latest = called, minutes
		}
	}
	if best < 0 { // before the first of the day: the last of the day before
		name = last
	}
	return strings.TrimSpace(name), nil
}
