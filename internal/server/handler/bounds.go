package handler

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"oddspool/core/refusal"
	"oddspool/internal/sources"
)

// How much a request may bring.
const (
	MostBody    = 4 << 20                   // bytes of an ordinary request
	MostUpload  = sources.MostBytes + 1<<20 // of a file, with room for its form
	mostLetters = 200_000                   // bytes of a text
)

// BadText says what is wrong with a text; empty: nothing.
func BadText(text string) string {
	switch {
	case len(text) > mostLetters:
		return fmt.Sprintf("has %d letters; %d are taken", len(text), mostLetters)
	case !utf8.ValidString(text):
		return "is not UTF-8"
	case strings.ContainsRune(text, 0):
		return "holds a NUL, which cannot be kept"
	}
	return ""
}

// TooLarge refuses what has more bytes than are taken; size is 0 where it is not known.
func TooLarge(size, most int64) *refusal.Error {
	limit := fmt.Sprintf("%d MB", most>>20)
	if most < 1<<20 {
		limit = fmt.Sprintf("%d KB", most>>10)
	}
	if size <= 0 {
		return sizeTooLarge.With(limit)
	}
	return knownTooLarge.With(float64(size)/(1<<20), limit)
}
