package sources

import (
	"math"
	"strconv"
	"strings"
	"time"
)

// monthNames and dayNames are those of the languages that number formats name, by the low byte of their codes (ISO/IEC
// 29500-1, 18.8.31: [$-407]); all else is named in English.
var (
	monthNames = map[int]string{
		0x06: "januar februar marts april maj juni juli august september oktober november december",
		0x07: "Januar Februar März April Mai Juni Juli August September Oktober November Dezember",
		0x09: "January February March April May June July August September October November December",
		0x0a: "enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre",
		0x0c: "janvier février mars avril mai juin juillet août septembre octobre novembre décembre",
		0x10: "gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre",
		0x13: "januari februari maart april mei juni juli augustus september oktober november december",
		0x14: "januar februar mars april mai juni juli august september oktober november desember",
		0x16: "janeiro fevereiro março abril maio junho julho agosto setembro outubro novembro dezembro",
		0x1d: "januari februari mars april maj juni juli augusti september oktober november december",
	}
	dayNames = map[int]string{
		0x06: "søndag mandag tirsdag onsdag torsdag fredag lørdag",
		0x07: "Sonntag Montag Dienstag Mittwoch Donnerstag Freitag Samstag",
		0x09: "Sunday Monday Tuesday Wednesday Thursday Friday Saturday",
		0x0a: "domingo lunes martes miércoles jueves viernes sábado",
		0x0c: "dimanche lundi mardi mercredi jeudi vendredi samedi",
		0x10: "domenica lunedì martedì mercoledì giovedì venerdì sabato",
		0x13: "zondag maandag dinsdag woensdag donderdag vrijdag zaterdag",
		0x14: "søndag mandag tirsdag onsdag torsdag fredag lørdag",
		0x16: "domingo segunda-feira terça-feira quarta-feira quinta-feira sexta-feira sábado",
		0x1d: "söndag måndag tisdag onsdag torsdag fredag lördag",
	}
)

const english = 0x09

// named returns a name of a language.
func named(names map[int]string, language, which int) string {
	all, known := names[language&0xff]
	if !known {
		all = names[english]
	}
	return strings.Fields(all)[which]
}

// letters returns the first letters of a name.
func letters(name string, n int) string {
	runes := []rune(name)
	return string(runes[:min(n, len(runes))])
}

// Days of workbooks begin before 1900-01-01, and count a 29 February 1900 that never was, or begin at 1904-01-01
// (ISO/IEC 29500-1, 18.17.4.1).
const (
	leapThatWasNone = 60
	from1904Days    = 1462
	mostDays        = 2_958_466 // 10000-01-01
)

// moment shows a number of days as a date or a time; false: it is none.
func (s *section) moment(days float64, from1904 bool) (text string, ok bool) {
	if from1904 {
		days += from1904Days
	}
	if days < 0 || days >= mostDays {
		return "", false
	}
	unit := time.Second // a time is shown to the second, or its part that the format has; hours and minutes are cut off
	switch decimals := s.layout().decimals; {
	case decimals >= 3:
		unit = time.Millisecond
	case decimals > 0:
		unit = time.Second / time.Duration(math.Pow10(decimals))
	}
	whole := math.Floor(days)
	ofDay := time.Duration(math.Round((days-whole)*float64(24*time.Hour)/float64(unit))) * unit
	if ofDay == 24*time.Hour {
		whole, ofDay = whole+1, 0
	}
	elapsed := time.Duration(whole)*24*time.Hour + ofDay
	date := time.Date(1899, 12, 30, 0, 0, 0, 0, time.UTC).AddDate(0, 0, int(whole))
	if whole < leapThatWasNone {
		date = date.AddDate(0, 0, 1)
	}
	day, weekday := date.Day(), int(date.Weekday())
	month, year := date.Month(), date.Year()
	if whole == leapThatWasNone {
		day, month = 29, time.February
	}
	if whole == 0 {
		day, month, year = 0, time.January, 1900
	}
	half := false
	for _, t := range s.tokens {
		half = half || t.kind == datePart && isAMPM(t.text) > 0
	}
	hour := int(ofDay.Hours())
	shownHour := hour
	if half {
		shownHour = (hour+11)%12 + 1
	}
	var out strings.Builder
	places := 0
	for i, t := range s.tokens {
		switch t.kind {
		case literal, room:
			out.WriteString(t.text)
		case point:
			out.WriteByte('.')
		case comma:
			out.WriteByte(',')
		case percent:
			out.WriteByte('%')
		case digit: // parts of a second
			fraction := strconv.FormatInt(int64(ofDay%time.Second/time.Millisecond)+1000, 10)[1:]
			if places < len(fraction) {
				out.WriteByte(fraction[places])
			} else {
				out.WriteByte('0')
			}
			places++
		case datePart:
			switch n := len(t.text); {
			case t.text[0] == '[':
				out.WriteString(elapsedIn(t.text, elapsed))
			case isAMPM(t.text) > 0:
				first, second, _ := strings.Cut(t.text, "/")
				if hour < 12 {
					out.WriteString(first)
				} else {
					out.WriteString(second)
				}
			case t.text[0] == 'y' || t.text[0] == 'e':
				if t.text[0] == 'y' && n <= 2 {
					out.WriteString(twoDigits(year%100, 2))
				} else {
					out.WriteString(strconv.Itoa(year))
				}
			case t.text[0] == 'b':
				out.WriteString(strconv.Itoa(year + 543))
			case t.text[0] == 'm' && s.minutes(i):
				out.WriteString(twoDigits(int(ofDay.Minutes())%60, n))
			case t.text[0] == 'm' && n >= 3:
				name := named(monthNames, s.language, int(month)-1)
				out.WriteString(letters(name, map[int]int{3: 3, 5: 1}[n]+map[bool]int{true: len(name)}[n == 4 ||
					n > 5]))
			case t.text[0] == 'm':
				out.WriteString(twoDigits(int(month), n))
			case t.text[0] == 'd' && n >= 3:
				name := named(dayNames, s.language, weekday)
				out.WriteString(letters(name, map[bool]int{true: 3, false: len(name)}[n == 3]))
			case t.text[0] == 'd':
				out.WriteString(twoDigits(day, n))
			case t.text[0] == 'h':
				out.WriteString(twoDigits(shownHour, n))
			case t.text[0] == 's':
				out.WriteString(twoDigits(int(ofDay.Seconds())%60, n))
			}
		}
	}
	return strings.TrimSpace(out.String()), true
}

// minutes tells whether an m means minutes: it stands behind hours, or before seconds.
func (s *section) minutes(i int) bool {
	if len(s.tokens[i].text) > 2 {
		return false
	}
	for j := i - 1; j >= 0; j-- {
		if s.tokens[j].kind == datePart && isAMPM(s.tokens[j].text) == 0 {
			if strings.ContainsAny(s.tokens[j].text[:min(2, len(s.tokens[j].text))], "h") {
				return true
			}
			break
		}
	}
	for j := i + 1; j < len(s.tokens); j++ {
		if s.tokens[j].kind == datePart {
			return strings.Contains(s.tokens[j].text, "s")
		}
	}
	return false
}

func twoDigits(n, digits int) string {
	if digits >= 2 && n < 10 {
		return "0" + strconv.Itoa(n)
	}
	return strconv.Itoa(n)
}

// elapsedIn shows hours, minutes or seconds that are more than a day's.
func elapsedIn(part string, elapsed time.Duration) string {
	unit := map[byte]time.Duration{'h': time.Hour, 'm': time.Minute, 's': time.Second}[part[1]]
	n := strconv.FormatInt(int64(elapsed/unit), 10)
	return strings.Repeat("0", max(len(part)-2-len(n), 0)) + n
}
