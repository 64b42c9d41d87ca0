package gs1

import (
	"fmt"
	"regexp"
	"strings"
	"time"
)

// DatesError says that one date of a label is later than another that it has to come before.
type DatesError struct{ First, Second string }

func (e *DatesError) Error() string { return e.First + " is later than " + e.Second + "." }

// before are dates that come before others: of production and packaging before those until which something is good
// (GS1 General Specifications, 3.4).
var before = []struct{ first, second string }{
	{"11", "12"}, {"11", "13"}, {"11", "15"}, {"11", "16"}, {"11", "17"}, {"13", "15"}, {"13", "16"}, {"13", "17"},
	{"11", "7003"}, {"13", "7003"},
}

// Dates returns what is wrong with the dates among elements; nil: nothing is. A range of harvest days has to begin
// before it ends (3.5.8).
func Dates(elements []Element) *DatesError {
	day := map[string]time.Time{}
	for _, e := range elements {
		if e.AI == nil {
			continue
		}
		switch {
		case e.AI.AI == "7007" && len(e.Value) == 12:
			from, to := e.Value[:6], e.Value[6:]
			first, second := dayOf(from, false), dayOf(to, true)
			if !first.IsZero() && !second.IsZero() && first.After(second) {
				return &DatesError{fmt.Sprintf("The beginning of (7007) %s, %s,", e.AI.Title, from), "its end, " + to}
			}
		case len(e.Value) >= 6:
			day[e.AI.AI] = dayOf(e.Value[:6], true)
		}
	}
	for _, pair := range before {
		first, second := day[pair.first], day[pair.second]
		if first.IsZero() || second.IsZero() || !first.After(second) {
			continue
		}
		says := func(id string) string {
			for _, e := range elements {
				if e.AI != nil && e.AI.AI == id {
					return fmt.Sprintf("(%s) %s %s", id, e.AI.Title, e.Value)
				}
			}
			return id
		}
		return &DatesError{says(pair.first), says(pair.second)}
	}
	return nil
}

// dayOf reads YYMMDD, in the century that is nearest (7.12); zero: it is none. Day 00 is the last of the month where it
// ends something, else the first.
func dayOf(text string, end bool) time.Time {
	if strings.Trim(text, "0123456789") != "" {
		return time.Time{}
	}
	number := func(from int) int { return int(text[from]-'0')*10 + int(text[from+1]-'0') }
	year, month, date := number(0), number(2), number(4)
	now := time.Now().Year()
	year += now - now%100
	switch gap := year - now; {
	case gap >= 51:
		year -= 100
	case gap <= -50:
		year += 100
	}
	if month < 1 || month > 12 {
		return time.Time{}
	}
	if date == 0 && end {
		return time.Date(year, time.Month(month)+1, 0, 0, 0, 0, 0, time.UTC)
	}
	return time.Date(year, time.Month(month), max(date, 1), 0, 0, 0, 0, time.UTC)
}

// IsMeasure tells whether an identifier is a variable count or a trade measure of a trade item whose measure varies
// (GS1 General Specifications, 3.6).
func IsMeasure(ai *AI) bool {
	if ai == nil {
		return false
	}
	id := ai.AI
	return id == "30" || len(id) == 4 && id >= "3100" && id <= "3169" || len(id) == 4 && id >= "3200" && id <= "3299" ||
		len(id) == 4 && id >= "3500" && id <= "3579" || len(id) == 4 && id >= "3600" && id <= "3699" || id == "8001"
}

// keyInPath is a key of GS1 with as many digits as it may have, in the path of a web address.
var keyInPath = regexp.MustCompile(
	`/(00/\d{18}|01/\d{12,14}|(414|253|255)/\d{13,}|8003/\d{14,}|801[78]/\d{18})(/|\?|#|$)`)

// LinkFault returns what is wrong with a text that is a GS1 Digital Link; nil: it is none, or nothing is.
func LinkFault(text string) error {
	if !isLink(text) || !keyInPath.MatchString(text) {
		return nil
	}
	_, err := ReadTyped(text)
	return err
}
