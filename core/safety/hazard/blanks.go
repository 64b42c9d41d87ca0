package hazard

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
	"unicode"
)

// blank stands in statements for what whoever makes the label says there (CLP, annex IV; GHS, annex 3, A3.2.2).
const blank = "…"

// washed is what is washed where nothing else is said (GHS, annex 3, P264: hands, and what the maker names).
var washed = map[string]string{"en": "hands", "de": "Hände", "fr": "les mains", "es": "las manos", "it": "le mani",
	"nl": "handen", "pl": "ręce", "pt": "as mãos"}

// imperial is a blank for the same in another unit.
var imperial = regexp.MustCompile(`\s*/…\s*(?:°F|lbs|lb)`)

// fill returns a statement with its blanks filled: by what is said for its code, or, where a blank is one more choice
// of several that are named, by these. Whole is false while a blank is left.
func (w *Wanted) fill(code, text string) (filled string, whole bool) {
	said := w.Fill[code]
	if said == "" && code == "P264" {
		said = washed[w.Language]
	}
	if strings.Count(text, blank) > 1 { // temperatures and masses, in two units
		parts := strings.Split(said, "/")
		if said != "" && len(parts) < strings.Count(text, blank) {
			text = imperial.ReplaceAllString(text, "")
		}
		for _, part := range parts {
			text = strings.Replace(text, blank, cmp.Or(strings.TrimSpace(part), blank), 1)
		}
	} else if said != "" {
		text = strings.Replace(text, blank, said, 1)
	} else if before, behind, cut := strings.Cut(text, "/"+blank); cut { // one more choice
		if next := strings.TrimSpace(behind); next == "" || unicode.IsUpper(firstRune(next)) {
			behind = "." + behind
		}
		text = before + behind
	}
	if text != "" && !strings.ContainsRune(".!…", lastRune(text)) {
		text += "."
	}
	return text, !strings.Contains(text, blank)
}

func firstRune(text string) rune { return []rune(text)[0] }

func lastRune(text string) rune {
	runes := []rune(text)
	return runes[len(runes)-1]
}

// ParseFill reads what fills the blanks of statements, a line or an item each, "P501 = an approved waste plant;
// P370+P378 = foam". Its error is a *refusal.Error.
func (b *Book) ParseFill(text string) (map[string]string, error) {
	fill := map[string]string{}
	for _, item := range strings.FieldsFunc(text, func(r rune) bool { return r == ';' || r == '\n' }) {
		code, said, cut := strings.Cut(item, "=")
		code, said = strings.TrimSpace(code), strings.TrimSpace(said)
		words, known := b.Text(code, "en")
		switch {
		case !cut || code == "" || said == "":
			return nil, badFill.With(strings.TrimSpace(item))
		case !known || !strings.Contains(words, blank):
			return nil, noSuchBlank.With(code, strings.Join(b.withBlanks(), ", "))
		}
		fill[code] = said
	}
	return fill, nil
}

// withBlanks returns the statements that have a blank.
func (b *Book) withBlanks() (codes []string) {
	for _, code := range b.Codes() {
		if text, _ := b.Text(code, "en"); strings.HasPrefix(code, "P") && strings.Contains(text, blank) {
			codes = append(codes, code)
		}
	}
	slices.Sort(codes)
	return codes
}
