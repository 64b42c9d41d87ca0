package formula

import (
	"fmt"
	"strconv"
	"strings"
	"time"
	_ "time/tzdata" // time zones, also where the machine has none: in a page
)

// A dateReader is what was read of a date so far.
type dateReader struct {
	rest              string // not read yet
	y, mon, d         int
	h, min, s         int
	twelve, afternoon bool // hours go to twelve; they are those after noon
}

// parseDate reads a date by a pattern.
func parseDate(text, pattern string) (time.Time, error) {
	r := &dateReader{rest: strings.TrimSpace(text), mon: 1, d: 1}
	wrong := fmt.Errorf("“%s” is no date as “%s” has it", text, pattern)
	err := dateFields(pattern, func(letter byte, n int) error {
		switch {
		case !strings.ContainsRune("yMdDHhmsaE", rune(letter)):
			return fmt.Errorf("“%c” in the pattern “%s” is not read", letter, pattern)
		case !r.field(letter, n):
			return wrong
		}
		return nil
	}, func(literal string) error {
		rest, is := strings.CutPrefix(r.rest, literal)
		if r.rest = rest; !is {
			return wrong
		}
		return nil
	})
	if err != nil {
		return time.Time{}, err
	}
	date, ok := r.date(strings.Contains(pattern, "D"))
	if !ok || r.rest != "" {
		return time.Time{}, wrong
	}
	return date, nil
}

// field reads what a letter of the pattern that stands there n times stands for, and tells whether it is there.
func (r *dateReader) field(letter byte, n int) bool {
	switch {
	case letter == 'a':
		if len(r.rest) < 2 {
			return false
		}
		r.twelve, r.afternoon = true, strings.EqualFold(r.rest[:2], "pm")
		r.rest = r.rest[2:]
		return true
	case letter == 'M' && n > 2 || letter == 'E':
		i, length := named(r.rest, letter == 'E', n < 4)
		if letter == 'M' {
			r.mon = i + 1
		}
		r.rest = r.rest[length:]
		return length > 0
	}
	value, ok := r.number(letter, n)
	if !ok {
		return false
	}
	switch letter {
	case 'y':
		if r.y = value; n == 2 { // GS1 General Specifications 7.12: the century nearest to now
			r.y = century(value, time.Now().Year())
		}
	case 'M':
		r.mon = value
	case 'd':
		r.d = value
	case 'D':
		r.mon, r.d = 1, value
		return value >= 1 && value <= 366
	case 'H', 'h':
		r.h = value
	case 'm':
		r.min = value
	case 's':
		r.s = value
	}
	return true
}

// number reads as many digits as the pattern has letters; of one letter up to two, of a year up to four.
func (r *dateReader) number(letter byte, n int) (value int, ok bool) {
	most := n
	if n == 1 {
		most = 2
		if letter == 'y' {
			most = 4
		}
	}
	digits := 0
	for digits < len(r.rest) && digits < most && r.rest[digits] >= '0' && r.rest[digits] <= '9' {
		digits++
	}
	if digits == 0 || n > 1 && digits != n {
		return 0, false
	}
	value, _ = strconv.Atoi(r.rest[:digits])
	r.rest = r.rest[digits:]
	return value, true
}

// date returns the date that was read, and whether there is one.
func (r *dateReader) date(dayOfYear bool) (time.Time, bool) {
	h := r.h
	if r.twelve {
		if h %= 12; r.afternoon {
			h += 12
		}
	}
	date := time.Date(r.y, time.Month(r.mon), r.d, h, r.min, r.s, 0, time.UTC)
	sameDay := dayOfYear || date.Day() == r.d && int(date.Month()) == r.mon
	return date, sameDay && r.y != 0 && date.Year() == r.y && h < 24 && r.min < 60 && r.s < 60
}

// century gives a year of two digits its century: the one in which it is nearest to now (GS1 General Specifications,
// 7.12).
func century(year, now int) int {
	full := now/100*100 + year
	switch difference := year - now%100; {
	case difference >= 51:
		return full - 100
	case difference <= -50:
		return full + 100
	}
	return full
}

// days makes a function that moves a date.
func moved(by func(date time.Time, n int) time.Time) func([]any) (any, error) {
	return func(args []any) (any, error) {
		date, err := asDate(args[0])
		if err != nil {
			return nil, err
		}
		n, err := asCount(args[1], -100_000, 100_000, "how many")
		if err != nil {
			return nil, err
		}
		if date = by(date, n); date.Year() < 1 || date.Year() > 9999 {
			return nil, fmt.Errorf("the date is too far away")
		}
		return date, nil
	}
}
