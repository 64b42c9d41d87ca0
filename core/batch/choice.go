package batch

import (
	"strconv"
	"strings"
	"time"

	"oddspool/core/refusal"
	"oddspool/core/stock"
)

// A Choice says which records a run is of.
type Choice struct {
	Records string // a list as ParseRange reads it
	Tick    []int  // taken besides, by hand
	Untick  []int  // and left out
}

// Numbers returns the numbers of the records, in order, of a set of so many. What is ticked beyond the last is left
// out. Its error is that of ParseRange.
func (c Choice) Numbers(last int) ([]int, error) {
	numbers, err := ParseRange(c.Records, last)
	if err != nil || len(c.Tick)+len(c.Untick) == 0 {
		return numbers, err
	}
	taken := make([]bool, last+1)
	for _, n := range numbers {
		taken[n] = true
	}
	for i, list := range [][]int{c.Tick, c.Untick} {
		for _, n := range list {
			if n >= 1 && n <= last {
				taken[n] = i == 0
			}
		}
	}
	numbers = numbers[:0]
	for n, is := range taken {
		if is {
			numbers = append(numbers, n)
		}
	}
	return numbers, nil
}

// A RangeError says which part of a typed list of numbers cannot be read.
type RangeError struct {
	Text string
	Last int
}

func (e *RangeError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *RangeError) Refusal() *refusal.Error {
	return badRange.With(e.Text, e.Last)
}

// None is the list that chooses no record.
const None = "none"

// ParseRange reads a list of records and ranges such as "1-3, 7, 240-" and returns their numbers
// in order, each once. An empty text is all records. Its error is always a *RangeError.
func ParseRange(text string, last int) ([]int, error) {
	text = strings.TrimSpace(text)
	if text == "" {
		text = "1-"
	}
	if last == 0 || text == None {
		return nil, nil
	}
	begins := make([]int, last+1) // how many ranges begin at a record, less those that ended before it
	for part := range strings.SplitSeq(text, ",") {
		part = strings.TrimSpace(part)
		from, to, isRange := strings.Cut(strings.ReplaceAll(part, "–", "-"), "-")
		first, err := strconv.Atoi(strings.TrimSpace(from))
		end := first
		if isRange {
			if to = strings.TrimSpace(to); to == "" {
				end = last
			} else if n, wrong := strconv.Atoi(to); wrong == nil {
				end = n
			} else {
				err = wrong
			}
		}
		if err != nil || first < 1 || end < first || end > last {
			return nil, &RangeError{Text: part, Last: last}
		}
		begins[first-1]++
		begins[end]--
	}
	var numbers []int
	in := 0
	for i, n := range begins[:last] {
		if in += n; in > 0 {
			numbers = append(numbers, i+1)
		}
	}
	return numbers, nil
}

// FormatRange writes numbers, which ascend, as the shortest list that ParseRange reads back: the
// empty text when they are all up to last.
func FormatRange(numbers []int, last int) string {
	if len(numbers) == 0 {
		return None
	}
	if len(numbers) == last {
		return ""
	}
	var text strings.Builder
	for i := 0; i < len(numbers); i++ {
		if text.Len() > 0 {
			text.WriteString(", ")
		}
		text.WriteString(strconv.Itoa(numbers[i]))
		end := i
		for end+1 < len(numbers) && numbers[end+1] == numbers[end]+1 {
			end++
		}
		if end > i {
			text.WriteString("-" + strconv.Itoa(numbers[end]))
			i = end
		}
	}
	return text.String()
}

// Pages returns how many pages n labels take when some places of the first are used already: a page
// is a row across the lanes, or a sheet.
func Pages(s stock.Stock, n, used int) int {
	if n == 0 {
		return 0
	}
	return (n + used + s.PerPage() - 1) / s.PerPage()
}

// Web returns how much of the web n labels take, in millimetres.
func Web(s stock.Stock, n int) float64 {
	return s.PagePitch().Millimetres() * float64(Pages(s, n, 0))
}

// Time returns how long so much web needs at a speed in mm/s; 0 where the speed is not known.
func Time(millimetres float64, speed int) time.Duration {
	if speed <= 0 {
		return 0
	}
	return time.Duration(millimetres / float64(speed) * float64(time.Second))
}
