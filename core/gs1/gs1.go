// Package gs1 holds the data rules of the GS1 system (GS1 General Specifications, release 25): which
// application identifiers there are, what their values may be, which belong together, and how they are
// written as element strings and as links. It knows no symbology: a function character is a gap between
// two elements here and never a character inside one, so no text can forge it.
package gs1

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"
)

// An Element is a value with the application identifier that says what it is.
type Element struct {
	AI    *AI // nil: the rest of an element whose beginning is written in another way
	Value string
}

// A DataError says what is wrong with GS1 data, and where.
type DataError struct {
	Position int // of the character that is wrong, from 1; 0: the data as a whole
	Reason   string
}

func (e *DataError) Error() string { return e.Reason }

func wrong(position int, format string, args ...any) error {
	return &DataError{position, fmt.Sprintf(format, args...)}
}

// Parse reads element strings as people write them, (01)09521234543213(10)26K104, and checks each value.
// Digits in brackets are an identifier; other brackets belong to the value they stand in, and
// \( \) and \\ always do. Which identifiers exclude one another is looked at here, and which need others
// by Lacking. Its error is always a *DataError.
func Parse(text string) ([]Element, error) {
	if text == "" || text[0] != '(' {
		return nil, wrong(1, "GS1 data begins with an identifier in brackets, such as (01).")
	}
	var elements []Element
	for at := 0; at < len(text); {
		id, length := bracketed(text[at:])
		if length == 0 {
			return nil, unreadable(text, at)
		}
		ai := Find(id)
		if ai == nil {
			hint := almost(id)
			if at > 0 {
				hint += `. Where the bracket belongs to the value before it, write \(`
			}
			return nil, wrong(column(text, at)+1, "(%s) is no application identifier%s.", id, hint)
		}
		from := at + length
		value, end := valueAt(text, from)
		if problem, position := ai.Check(value); problem != "" {
			return nil, wrong(columnIn(text, from, position), "(%s) %s: %s", id, ai.Title, problem)
		}
		elements = append(elements, Element{ai, value})
		at = end
	}
	return elements, together(elements)
}

// column returns the number of the character at a byte, from 1.
func column(text string, at int) int { return utf8.RuneCountInString(text[:at]) + 1 }

// columnIn returns the number of the character that is the nth of the value that begins at a byte; 0 for
// none.
func columnIn(text string, from, n int) int {
	if n == 0 {
		return 0
	}
	at := from
	for ; n > 1; n-- {
		_, size := utf8.DecodeRuneInString(text[at+escapeAt(text, at):])
		at += escapeAt(text, at) + size
	}
	return column(text, at+escapeAt(text, at))
}

// escapeAt returns 1 where a backslash stands that makes a sign of the next one, else 0.
func escapeAt(text string, at int) int {
	if at+1 < len(text) && text[at] == '\\' && strings.IndexByte(`()\`, text[at+1]) >= 0 {
		return 1
	}
	return 0
}

// bracketed returns the digits that text begins with in brackets, and how many bytes they take; 0: it
// does not begin so.
func bracketed(text string) (id string, length int) {
	end := 1
	for end < len(text) && isDigit(text[end]) {
		end++
	}
	if text[0] != '(' || end == 1 || end == len(text) || text[end] != ')' {
		return "", 0
	}
	return text[1:end], end + 1
}

// unreadable says what is wrong with a bracket that should hold an identifier.
func unreadable(text string, at int) error {
	inside, _, closed := strings.Cut(text[at+1:], ")")
	if !closed {
		return wrong(column(text, at), "The bracket at character %d is not closed.", column(text, at))
	}
	return wrong(column(text, at)+1, "(%s) is no application identifier: those are two to four digits.", inside)
}

// almost names the identifiers that one which does not exist may be meant as: those that begin alike.
func almost(id string) string {
	for n := len(id) - 1; n >= 2; n-- {
		if ai := Find(id[:n]); ai != nil {
			return fmt.Sprintf("; (%s) is %s", ai.AI, ai.Title)
		}
	}
	for _, ai := range All() {
		if strings.HasPrefix(ai.AI, id) {
			return fmt.Sprintf("; (%s) is %s", ai.AI, ai.Title)
		}
	}
	return ""
}

// valueAt reads a value up to the next identifier or the end.
func valueAt(text string, from int) (value string, end int) {
	var plain strings.Builder
	for end = from; end < len(text); end++ {
		if text[end] == '(' {
			if _, length := bracketed(text[end:]); length > 0 {
				break
			}
		}
		if escapeAt(text, end) == 1 {
			plain.WriteString(text[from:end])
			from = end + 1
			end++
		}
	}
	return plain.String() + text[from:end], end
}

// A Run is an identifier in brackets and the value behind it, up to the next one.
type Run struct {
	AI    string // empty: the value stands before the first identifier
	Value string
}

// Runs takes a text apart at the identifiers that there are, and checks nothing. Brackets with other digits belong to
// the value that they stand in.
func Runs(text string) (runs []Run) {
	run, at := Run{}, 0
	for at < len(text) {
		id, length := "", 0
		if text[at] == '(' {
			if id, length = bracketed(text[at:]); length > 0 && Find(id) == nil {
				id, length = "", 0
				run.Value += text[at : at+1]
				at++
				continue
			}
		}
		if length > 0 {
			if run != (Run{}) {
				runs = append(runs, run)
			}
			run, at = Run{AI: id}, at+length
			continue
		}
		at += escapeAt(text, at)
		_, size := utf8.DecodeRuneInString(text[at:])
		run.Value += text[at : at+size]
		at += size
	}
	if run != (Run{}) {
		runs = append(runs, run)
	}
	return runs
}

var escaper = strings.NewReplacer(`\`, `\\`, `(`, `\(`, `)`, `\)`)

// Escape writes a value so that Parse takes all of it for data, whatever stands in it.
func Escape(value string) string {
	if strings.ContainsAny(value, `()\`) {
		return escaper.Replace(value)
	}
	return value
}

// Text writes elements as people read them (GS1 General Specifications, 4.14.1).
func Text(elements []Element) string {
	var text strings.Builder
	for _, e := range elements {
		text.WriteString("(" + e.AI.AI + ")" + e.Value)
	}
	return text.String()
}

// Typed writes elements so that Parse reads the same: as Text does, and with \( where a bracket of a value would be
// taken for an identifier's.
func Typed(elements []Element) string {
	var text strings.Builder
	for _, e := range elements {
		value := e.Value
		if plain, end := valueAt(value, 0); plain != value || end != len(value) || strings.HasSuffix(value, `\`) {
			value = Escape(value)
		}
		text.WriteString("(" + e.AI.AI + ")" + value)
	}
	return text.String()
}

// Order puts elements of predefined length first, which takes the fewest function characters.
func Order(elements []Element) []Element {
	ordered := slices.Clone(elements)
	slices.SortStableFunc(ordered, func(a, b Element) int {
		switch {
		case a.AI.Predefined() == b.AI.Predefined():
			return 0
		case a.AI.Predefined():
			return -1
		}
		return 1
	})
	return ordered
}

// Data returns elements in their order as they stand in a symbol: one byte, separator, for the function
// character that ends each value of no predefined length but the last (7.8.5).
func Data(elements []Element, separator byte) (data []byte) {
	for i, e := range elements {
		predefined := false
		if e.AI != nil {
			data, predefined = append(data, e.AI.AI...), e.AI.Predefined()
		}
		data = append(data, e.Value...)
		if !predefined && i < len(elements)-1 {
			data = append(data, separator)
		}
	}
	return data
}

// Separator is what readers send for a function character within the data (7.8.3; ISO/IEC 15424).
const Separator = 0x1D

// together looks at which identifiers exclude one another (4.14), and at the same one twice with another
// value.
func together(elements []Element) error {
	for i, e := range elements {
		for j, other := range elements {
			if j < i && other.AI == e.AI && other.Value != e.Value {
				return wrong(0, "(%s) %s stands there twice with different values.", e.AI.AI, e.AI.Title)
			}
			if other.AI == e.AI {
				continue
			}
			for _, not := range e.AI.not {
				if matches(not, other.AI.AI) {
					return wrong(0, "(%s) %s and (%s) %s exclude each other.", e.AI.AI, e.AI.Title, other.AI.AI,
						other.AI.Title)
				}
			}
		}
	}
	return nil
}

// matches tells whether an identifier is one that a pattern such as 31nn stands for.
func matches(pattern, id string) bool {
	if len(pattern) != len(id) {
		return false
	}
	for i := range len(id) {
		if pattern[i] != 'n' && pattern[i] != id[i] {
			return false
		}
	}
	return true
}

// Lacking says what the first of elements that needs another lacks of all, which are those of every
// symbol on the same label: a pallet has its number in one and its content in another (4.13). Its error is
// a *DataError; nil: nothing is lacking.
func Lacking(elements, all []Element) error {
	has := func(pattern string) bool {
		return slices.ContainsFunc(all, func(e Element) bool { return e.AI != nil && matches(pattern, e.AI.AI) })
	}
	for _, e := range elements {
		if e.AI == nil {
			continue
		}
		for _, need := range e.AI.needs {
			met := slices.ContainsFunc(need, func(set []string) bool {
				return !slices.ContainsFunc(set, func(pattern string) bool { return !has(pattern) })
			})
			if !met {
				return wrong(0, "(%s) %s needs %s with it on the label.", e.AI.AI, e.AI.Title, inWords(need))
			}
		}
	}
	return nil
}

// inWords writes (01) or (02) with (37).
func inWords(need [][]string) string {
	var choices []string
	for _, set := range need {
		choices = append(choices, "("+strings.Join(set, ") with (")+")")
	}
	return strings.Join(choices, " or ")
}
