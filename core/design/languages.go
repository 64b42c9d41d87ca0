package design

import (
	"fmt"
	"iter"
	"slices"
	"strings"
	"unicode"
)

// Languages say in which language the fixed words of texts stand on a label. What records say is theirs, and codes say
// the same in all.
type Languages struct {
	// of the records, or a question: its value names the language of a label, such as de
	Field string       `json:"field"`
	Own   string       `json:"own"` // the one that the words are written in; a label that names none has it too
	Words []Translated `json:"words,omitempty"`
}

// Translated are fixed words in other languages, without the spaces and lines around them.
type Translated struct {
	Text string            `json:"text"`
	In   map[string]string `json:"in"` // by language
}

// Words gives the fixed words of an element that stand in the language of a label: those of texts that have a letter,
// some several times.
func (d *Design) Words(e *Element) iter.Seq[string] {
	return func(yield func(string) bool) {
		if d.Languages == nil || e.Kind != Text {
			return
		}
		for i := range e.Says {
			if p := &e.Says[i]; p.IsText() && strings.ContainsFunc(p.Text, unicode.IsLetter) && !yield(p.Text) {
				return
			}
		}
	}
}

// Translates tells whether what an element says depends on the language of a label.
func (d *Design) Translates(e *Element) bool {
	for range d.Words(e) {
		return true
	}
	return false
}

// languageFaults returns what is wrong with the languages.
func (d *Design) languageFaults() (faults []Fault) {
	l := d.Languages
	if l == nil {
		return nil
	}
	say := func(path, format string, args ...any) {
		faults = append(faults, Fault{"languages." + path, fmt.Sprintf(format, args...)})
	}
	if strings.TrimSpace(l.Field) == "" {
		say("field", "Say which field, or which question, names the language of a label.")
	}
	if strings.TrimSpace(l.Own) == "" {
		say("own", "Say in which language the words are written.")
	}
	for i, words := range l.Words {
		if slices.ContainsFunc(l.Words[:i], func(w Translated) bool { return w.Text == words.Text }) {
			say(fmt.Sprintf("words[%d]", i), "“%s” stands twice.", words.Text)
		}
		seen := map[string]bool{}
		for name := range words.In {
			lower := strings.ToLower(strings.TrimSpace(name))
			if lower == "" || seen[lower] {
				say(fmt.Sprintf("words[%d].in", i), "“%s” is no language of its own.", name)
			}
			seen[lower] = true
		}
	}
	return faults
}
