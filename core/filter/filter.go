// Package filter finds records by words and by their fields, and puts them into an order.
package filter

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// A Test is how a field is looked at. Numbers are compared by size where all values of the field are numbers, texts in
// natural order, in which A2 stands before A10; capitals make no difference.
type Test string

// The tests.
const (
	Is       Test = "is"
	IsNot    Test = "is not"
	Contains Test = "contains"
	Begins   Test = "begins with"
	Between  Test = "between" // both ends included; an empty one is open
	Empty    Test = "is empty"
	Filled   Test = "is filled"
	OneOf    Test = "one of"
)

// A Condition is a test of one field.
type Condition struct {
	Field  string   `json:"field"`
	Is     Test     `json:"is"`
	Values []string `json:"values,omitempty"` // Between has two, OneOf any number, others one
}

// An Order is a field that records are sorted by.
type Order struct {
	Field string `json:"field"`
	Down  bool   `json:"down,omitempty"`
}

// A Spec says which records, in which order. The zero value is all of them as they are.
type Spec struct {
	Words   string      `json:"words,omitempty"` // all of them stand in the record, in any field
	Fields  []Condition `json:"fields,omitempty"`
	Sort    []Order     `json:"sort,omitempty"`
	FirstOf string      `json:"firstOf,omitempty"` // only the first record of each value of this field
}

// IsAll tells whether the spec leaves all records as they are.
func (s *Spec) IsAll() bool {
	return strings.TrimSpace(s.Words) == "" && len(s.Fields) == 0 && len(s.Sort) == 0 && s.FirstOf == ""
}

// Find returns the places of the records that a spec chooses, from 0, in its order. Its error is a *refusal.Error.
func Find(fields []string, records [][]string, spec Spec) ([]int, error) {
	tests, err := testsOf(fields, records, spec.Fields)
	if err != nil {
		return nil, err
	}
	words := strings.Fields(strings.ToLower(spec.Words))
	found := make([]int, 0, len(records))
	for i, record := range records {
		if hasWords(record, words) && passes(record, tests) {
			found = append(found, i)
		}
	}
	if err := sorted(fields, records, found, spec.Sort); err != nil {
		return nil, err
	}
	if spec.FirstOf == "" {
		return found, nil
	}
	column, err := columnOf(fields, spec.FirstOf)
	if err != nil {
		return nil, err
	}
	seen := map[string]bool{}
	return slices.DeleteFunc(found, func(i int) bool {
		value := at(records[i], column)
		if seen[value] {
			return true
		}
		seen[value] = true
		return false
	}), nil
}

func columnOf(fields []string, name string) (int, error) {
	column := slices.Index(fields, name)
	if column < 0 {
		return 0, unknownField.With(name)
	}
	return column, nil
}

func at(record []string, column int) string {
	if column < len(record) {
		return record[column]
	}
	return ""
}

func hasWords(record, words []string) bool {
	for _, word := range words {
		if !slices.ContainsFunc(record, func(value string) bool { return containsFold(value, word) }) {
			return false
		}
	}
	return true
}

// containsFold tells whether a value has a word in small letters in it.
func containsFold(value, word string) bool {
	if len(word) == 0 {
		return true
	}
	ascii := true
	for i := 0; i < len(value); i++ {
		ascii = ascii && value[i] < utf8.RuneSelf
	}
	if !ascii {
		return strings.Contains(strings.ToLower(value), word)
	}
	first := word[0]
	for i := 0; i+len(word) <= len(value); i++ {
		if lower(value[i]) != first {
			continue
		}
		j := 1
		for j < len(word) && lower(value[i+j]) == word[j] {
			j++
		}
		if j == len(word) {
			return true
		}
	}
	return false
}

func lower(c byte) byte {
	if c >= 'A' && c <= 'Z' {
		return c + 'a' - 'A'
	}
	return c
}

// A test is a condition made ready.
type test struct {
	column int
	holds  func(value string) bool
}

func passes(record []string, tests []test) bool {
	for i := range tests {
		if !tests[i].holds(at(record, tests[i].column)) {
			return false
		}
	}
	return true
}

func testsOf(fields []string, records [][]string, conditions []Condition) (tests []test, err error) {
	for _, c := range conditions {
		column, err := columnOf(fields, c.Field)
		if err != nil {
			return nil, err
		}
		value := func(i int) string {
			if i < len(c.Values) {
				return c.Values[i]
			}
			return ""
		}
		made := test{column: column}
		switch c.Is {
		case Is, IsNot:
			key := Key(value(0))
			made.holds = func(v string) bool { return (Key(v) == key) == (c.Is == Is) }
		case Contains:
			word := strings.ToLower(value(0))
			made.holds = func(v string) bool { return containsFold(v, word) }
		case Begins:
			begin := strings.ToLower(value(0))
			made.holds = func(v string) bool { return strings.HasPrefix(strings.ToLower(v), begin) }
		case Empty:
			made.holds = func(v string) bool { return strings.TrimSpace(v) == "" }
		case Filled:
			made.holds = func(v string) bool { return strings.TrimSpace(v) != "" }
		case OneOf:
			keys := map[string]bool{}
			for _, v := range c.Values {
				keys[Key(v)] = true
			}
			made.holds = func(v string) bool { return keys[Key(v)] }
		case Between:
			if made.holds, err = between(c, value(0), value(1), areNumbers(records, column)); err != nil {
				return nil, err
			}
		default:
			return nil, unknownTest.With(c.Is)
		}
		tests = append(tests, made)
	}
	return tests, nil
}

func between(c Condition, least, most string, numbers bool) (func(string) bool, error) {
	if !numbers {
		low, high := Key(least), Key(most)
		return func(v string) bool {
			key := Key(v)
			return strings.TrimSpace(v) != "" && (least == "" || key >= low) && (most == "" || key <= high)
		}, nil
	}
	low, high := math.Inf(-1), math.Inf(1)
	for _, end := range []struct {
		text string
		to   *float64
	}{{least, &low}, {most, &high}} {
		if strings.TrimSpace(end.text) == "" {
			continue
		}
		number, is := numberOf(end.text)
		if !is {
			return nil, notNumber.With(c.Field, end.text)
		}
		*end.to = number
	}
	return func(v string) bool {
		number, is := numberOf(v)
		return is && number >= low && number <= high
	}, nil
}

// areNumbers tells whether all values of a field that are not empty are numbers.
func areNumbers(records [][]string, column int) bool {
	some := false
	for _, record := range records {
		value := strings.TrimSpace(at(record, column))
		if value == "" {
			continue
		}
		if _, is := numberOf(value); !is {
			return false
		}
		some = true
	}
	return some
}

func numberOf(text string) (float64, bool) {
	text = strings.TrimSpace(text)
	if text == "" || text[len(text)-1] > '9' || text[0] > '9' { // no words such as inf and nan, no hexadecimals
		return 0, false
	}
	number, err := strconv.ParseFloat(text, 64)
	return number, err == nil
}

// Key returns what a text is sorted by: without capitals, numbers within it by their size.
func Key(text string) string {
	plain := true
	for i := 0; i < len(text); i++ {
		if c := text[i]; c >= utf8.RuneSelf || c >= '0' && c <= '9' || c >= 'A' && c <= 'Z' {
			plain = false
			break
		}
	}
	if plain {
		return text
	}
	key := make([]byte, 0, len(text)+4)
	for i := 0; i < len(text); {
		c := text[i]
		if c >= '0' && c <= '9' {
			end := i
			for end < len(text) && text[end] >= '0' && text[end] <= '9' {
				end++
			}
			digits := strings.TrimLeft(text[i:end], "0")
			// A longer number is larger; its length stands where digits do among other letters.
			key = append(key, '0')
			for length := len(digits); ; length -= 255 {
				key = append(key, byte(min(length, 255)))
				if length < 255 {
					break
				}
			}
			key = append(key, digits...)
			i = end
			continue
		}
		if c < utf8.RuneSelf {
			key = append(key, lower(c))
			i++
			continue
		}
		r, size := utf8.DecodeRuneInString(text[i:])
		key = utf8.AppendRune(key, unicode.ToLower(r))
		i += size
	}
	return string(key)
}

// sorted puts places into an order; equals stay as they are.
func sorted(fields []string, records [][]string, found []int, orders []Order) error {
	for _, order := range slices.Backward(orders) {
		column, err := columnOf(fields, order.Field)
		if err != nil {
			return err
		}
		if areNumbers(records, column) {
			last := math.Inf(1) // what is empty comes last, whichever way
			if order.Down {
				last = math.Inf(-1)
			}
			byKeys(found, order.Down, func(i int) float64 {
				number, is := numberOf(at(records[i], column))
				if !is {
					return last
				}
				return number
			})
			continue
		}
		const last = "\U0010FFFF"
		byKeys(found, order.Down, func(i int) string {
			key := Key(at(records[i], column))
			if key == "" && !order.Down {
				return last
			}
			return key
		})
	}
	return nil
}

// byKeys sorts places by a key of each, which is worked out once.
func byKeys[K cmp.Ordered](found []int, down bool, key func(i int) K) {
	type keyed struct {
		key    K
		at     int
		before int // equals stay as they were
	}
	sign := 1
	if down {
		sign = -1
	}
	compare := func(a, b keyed) int { return cmp.Or(sign*cmp.Compare(a.key, b.key), a.before-b.before) }
	all := make([]keyed, len(found))
	half := len(all) / 2
	sort := func(from, to int) {
		for n := from; n < to; n++ {
			all[n] = keyed{key(found[n]), found[n], n}
		}
		slices.SortFunc(all[from:to], compare)
	}
	done := make(chan struct{})
	go func() {
		sort(0, half)
		close(done)
	}()
	sort(half, len(all))
	<-done
	for n, i, j := 0, 0, half; n < len(found); n++ {
		if j == len(all) || i < half && compare(all[i], all[j]) < 0 {
			found[n], i = all[i].at, i+1
		} else {
			found[n], j = all[j].at, j+1
		}
	}
}
