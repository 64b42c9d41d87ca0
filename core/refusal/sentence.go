package refusal

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
)

// A Sentence is what people read, with {name} or {name:verb} where values stand; verbs are those of package fmt.
// Sentences never change and are safe for concurrent use.
type Sentence struct {
	English string

	parts  []string // between its values
	values []placeholder
}

// A placeholder is where a value stands in a sentence.
type placeholder struct{ name, verb string }

var standing = regexp.MustCompile(`\{([a-zA-Z0-9]+)(?::([^}]+))?\}`)

// NewSentence makes a sentence. It is called while a program starts, and panics where two values have one name.
func NewSentence(english string) Sentence {
	s := Sentence{English: english}
	at := 0
	for _, found := range standing.FindAllStringSubmatchIndex(english, -1) {
		verb := "%v"
		if found[4] >= 0 {
			verb = "%" + english[found[4]:found[5]]
		}
		name := english[found[2]:found[3]]
		if slices.Contains(s.Names(), name) {
			panic(fmt.Sprintf("the sentence %q has two values %s", english, name))
		}
		s.parts = append(s.parts, english[at:found[0]])
		s.values = append(s.values, placeholder{name, verb})
		at = found[1]
	}
	s.parts = append(s.parts, english[at:])
	return s
}

// Names returns the names of the values, in their order.
func (s Sentence) Names() []string {
	names := make([]string, len(s.values))
	for i, v := range s.values {
		names[i] = v.name
	}
	return names
}

// Say returns the sentence with its values, in their order.
func (s Sentence) Say(values ...any) string {
	var text strings.Builder
	for i, part := range s.parts {
		text.WriteString(part)
		if i < len(s.values) && i < len(values) {
			s.values[i].write(&text, values[i])
		}
	}
	return text.String()
}

// write writes a value as the sentence has it. A text that was formatted for another process stands as it is.
func (p placeholder) write(to *strings.Builder, value any) {
	if text, is := value.(string); is && !strings.ContainsAny(p.verb, "svq") {
		to.WriteString(text)
		return
	}
	fmt.Fprintf(to, p.verb, value)
}

// Named returns values by their names: numbers and texts as they are, everything else as people read it.
func (s Sentence) Named(values ...any) map[string]any {
	named := make(map[string]any, len(values))
	for i, value := range values {
		if i >= len(s.values) {
			break
		}
		switch value.(type) {
		case string, bool, int, int64, float64:
			named[s.values[i].name] = value
		default:
			named[s.values[i].name] = fmt.Sprintf(s.values[i].verb, value)
		}
	}
	return named
}
