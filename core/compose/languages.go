package compose

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"oddspool/core/design"
)

// An UntranslatedError says that fixed words are not known in the language of a label.
type UntranslatedError struct {
	Words, Language string
	Field           string // that names the language, where the records lack it
}

func (e *UntranslatedError) Error() string {
	if e.Language == "" {
		return fmt.Sprintf("The records have no field %q, which is to name the language of a label.", e.Field)
	}
	return fmt.Sprintf("“%s” has no words in %s.", e.Words, e.Language)
}

// translate finds what the fixed words of a text are called in other languages.
func (c *Composer) translate(d *design.Element, e *element) {
	languages := c.design.Languages
	if languages == nil || d.Kind != design.Text {
		return
	}
	for i := range e.pieces {
		p := &e.pieces[i]
		if !d.Says[i].IsText() || !strings.ContainsFunc(p.text, unicode.IsLetter) {
			continue
		}
		e.fixed = false
		p.in = map[string]string{strings.ToLower(languages.Own): p.text, "": p.text}
		bare := strings.TrimSpace(p.text) // the spaces and lines around it stand in all languages
		before, after, _ := strings.Cut(p.text, bare)
		if at := slices.IndexFunc(languages.Words,
			func(w design.Translated) bool { return strings.TrimSpace(w.Text) == bare }); at >= 0 {
			for name, words := range languages.Words[at].In {
				if words = strings.TrimSpace(words); words != "" {
					p.in[strings.ToLower(strings.TrimSpace(name))] = before + words + after
				}
			}
		}
	}
}

// wordsOf returns fixed words in the language of a label; with an *UntranslatedError as they are written.
func (c *Composer) wordsOf(p *piece, record []string) (string, error) {
	if p.in == nil {
		return p.text, nil
	}
	if c.language == missingField {
		return p.text, &UntranslatedError{Words: p.text, Field: c.design.Languages.Field}
	}
	language := strings.TrimSpace(c.value(record, c.language))
	if words, known := p.in[strings.ToLower(language)]; known {
		return words, nil
	}
	return p.text, &UntranslatedError{Words: p.text, Language: language}
}
