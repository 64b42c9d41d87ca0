// Package questions has the questions that a design puts to whoever prints it, and says whether an answer is one.
package questions

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/shopspring/decimal"
)

// A Kind is what an answer is.
type Kind string

// The kinds.
const (
	Text   Kind = "text"
	Number Kind = "number"
	Date   Kind = "date" // as ISO 8601 has it
	Choice Kind = "choice"
	YesNo  Kind = "yes or no"
)

// Limits of questions.
const (
	Most        = 30  // of a design
	mostLetters = 500 // of an answer
)

// The answers to a question of kind YesNo.
const (
	Yes = "yes"
	No  = "no"
)

// What a question is asked for besides the run.
const (
	EachRecord = "record"
	EachLabel  = "label"
)

// A Question is asked before a run, once or for each of something. Its answer is a field of the records under its name.
type Question struct {
	Name    string   `json:"name"`
	Words   string   `json:"words,omitempty"` // as it is asked; empty: its name
	Kind    Kind     `json:"kind"`
	Each    string   `json:"each,omitempty"` // EachRecord, EachLabel; empty: it is asked once
	Must    bool     `json:"must,omitempty"` // it cannot stay empty
	Default string   `json:"default,omitempty"`
	Least   string   `json:"least,omitempty"` // a number or a date; of a text how many letters
	Most    string   `json:"most,omitempty"`
	Pattern string   `json:"pattern,omitempty"` // of a text, as a regular expression (RE2) for the whole
	Choices []string `json:"choices,omitempty"`
	From    *Source  `json:"from,omitempty"` // of a choice: more of them, see Fill
}

// A Source is a field of a record set, whose values can be chosen.
type Source struct {
	Set   string `json:"set"`
	Field string `json:"field"`
}

// mostChoices is how many values of records can be chosen from.
const mostChoices = 1000

// A Reader returns the values of a field of a record set, in their order.
type Reader func(Source) ([]string, error)

// Fill adds to the choices of a question those that records give, each once in their order. Its errors are those of
// read, and a *refusal.Error.
func (q *Question) Fill(read Reader) error {
	if q.From == nil {
		return nil
	}
	values, err := read(*q.From)
	if err != nil {
		return choicesUnavailable.With(q.lead(), err)
	}
	known := map[string]bool{}
	for _, choice := range q.Choices {
		known[choice] = true
	}
	for _, value := range values {
		if value != "" && !known[value] {
			if len(known) == mostChoices {
				return tooManyChoices.With(q.lead(), q.From.Set, mostChoices, q.From.Field)
			}
			known[value], q.Choices = true, append(slices.Clip(q.Choices), value)
		}
	}
	return nil
}

// Asked returns the words in which it is asked.
func (q *Question) Asked() string {
	if q.Words != "" {
		return q.Words
	}
	return q.Name
}

// lead begins what is said of an answer.
func (q *Question) lead() string {
	words := q.Asked()
	if strings.HasSuffix(words, "?") || strings.HasSuffix(words, ".") {
		return words + " "
	}
	return words + ": "
}

// Fault says what is wrong with the question itself; empty: nothing.
func (q *Question) Fault() string {
	switch q.Kind {
	case Text, Number, Date, YesNo:
	case Choice:
		if len(q.Choices) == 0 && q.From == nil {
			return "A choice needs something to choose from."
		}
	default:
		return fmt.Sprintf("There is no kind of question %q.", q.Kind)
	}
	if q.Pattern != "" {
		if _, err := regexp.Compile(q.Pattern); err != nil {
			return fmt.Sprintf("The pattern %q is none: %v.", q.Pattern, err)
		}
	}
	for _, limit := range []string{q.Least, q.Most} {
		if limit == "" {
			continue
		}
		var err error
		if q.Kind == Date {
			_, err = time.Parse(time.DateOnly, limit)
		} else {
			_, err = decimal.NewFromString(limit)
		}
		if err != nil {
			return fmt.Sprintf("The limit %q is none for a %s.", limit, q.Kind)
		}
	}
	if q.Default != "" && q.From == nil {
		if _, err := q.Answer(q.Default); err != nil {
			return fmt.Sprintf("The answer that stands there at first is none: %v", err)
		}
	}
	return ""
}

// Answer returns what is kept of an answer as it was typed or scanned. Its error is a *refusal.Error.
func (q *Question) Answer(typed string) (string, error) {
	answer := strings.Map(func(r rune) rune { // what a scanner sends around its data
		if r < 0x20 || r == 0x7f {
			return -1
		}
		return r
	}, typed)
	answer = strings.TrimSpace(answer)
	if answer == "" {
		if q.Must {
			return "", needed.With(q.lead())
		}
		return "", nil
	}
	if utf8.RuneCountInString(answer) > mostLetters {
		return "", tooManyLetters.With(q.lead(), mostLetters)
	}
	switch q.Kind {
	case Number:
		return q.number(answer)
	case Date:
		return q.date(answer)
	case Choice:
		i := slices.IndexFunc(q.Choices, func(c string) bool { return strings.EqualFold(c, answer) })
		if i < 0 {
			const named = 12
			some := strings.Join(q.Choices[:min(len(q.Choices), named)], ", ")
			if len(q.Choices) > named {
				some += fmt.Sprintf(" and %d others", len(q.Choices)-named)
			}
			return "", notAChoice.With(q.lead(), answer, some)
		}
		return q.Choices[i], nil
	case YesNo:
		switch strings.ToLower(answer) {
		case Yes, "y", "true", "1":
			return Yes, nil
		case No, "n", "false", "0":
			return No, nil
		}
		return "", notYesOrNo.With(q.lead())
	}
	letters := decimal.NewFromInt(int64(utf8.RuneCountInString(answer)))
	if q.Least != "" && letters.LessThan(limit(q.Least)) {
		return "", tooShort.With(q.lead(), q.Least, answer, letters)
	}
	if q.Most != "" && letters.GreaterThan(limit(q.Most)) {
		return "", tooLong.With(q.lead(), q.Most, answer, letters)
	}
	if q.Pattern != "" {
		if pattern, err := regexp.Compile("^(?:" + q.Pattern + ")$"); err == nil && !pattern.MatchString(answer) {
			return "", otherPattern.With(q.lead(), answer, patternInWords(q.Pattern))
		}
	}
	return answer, nil
}

// A Wrong is a value of a record that is no answer to the question that its field is.
type Wrong struct {
	Record int // from 1
	Field  string
	Text   string
}

// Check returns the first wrong values of records, up to so many, and how many there are. A check for a field that is
// not there checks nothing, and a record without any value is none yet.
func Check(fields []string, records [][]string, checks []Question, most int) (wrong []Wrong, all int) {
	for i, record := range records {
		if !slices.ContainsFunc(record, func(value string) bool { return strings.TrimSpace(value) != "" }) {
			continue
		}
		for j := range checks {
			at := slices.Index(fields, checks[j].Name)
			if at < 0 || at >= len(record) {
				continue
			}
			if _, err := checks[j].Answer(record[at]); err != nil {
				if all++; all <= most {
					wrong = append(wrong, Wrong{i + 1, fields[at], err.Error()})
				}
			}
		}
	}
	return wrong, all
}

func limit(text string) decimal.Decimal {
	number, _ := decimal.NewFromString(text)
	return number
}

func (q *Question) number(answer string) (string, error) {
	const mostDigits = 60
	number, err := decimal.NewFromString(answer)
	if err != nil || len(answer) > mostDigits {
		if strings.Contains(answer, ",") {
			return "", ambiguousNumber.With(q.lead(), answer)
		}
		return "", notNumber.With(q.lead(), answer)
	}
	if q.Least != "" && number.LessThan(limit(q.Least)) {
		return "", tooSmall.With(q.lead(), answer, q.Least)
	}
	if q.Most != "" && number.GreaterThan(limit(q.Most)) {
		return "", tooLarge.With(q.lead(), answer, q.Most)
	}
	return answer, nil // as it was typed: 007 stays that
}

func (q *Question) date(answer string) (string, error) {
	date, err := time.Parse(time.DateOnly, answer)
	if err != nil {
		return "", notDate.With(q.lead(), answer)
	}
	if q.Least != "" && answer < q.Least {
		return "", tooEarly.With(q.lead(), answer, q.Least)
	}
	if q.Most != "" && answer > q.Most {
		return "", tooLate.With(q.lead(), answer, q.Most)
	}
	return date.Format(time.DateOnly), nil
}
