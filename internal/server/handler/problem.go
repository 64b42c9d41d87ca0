package handler

import (
	"net/http"
	"strings"
	"unicode"
	"unicode/utf8"

	"oddspool/core/refusal"
)

// Refused refuses something in words that another part of the program gave.
func Refused(text string) error { return said.With(text) }

// refusalStatuses are the statuses of answers to what is refused.
var refusalStatuses = map[refusal.Status]int{
	refusal.Invalid: http.StatusUnprocessableEntity, refusal.Missing: http.StatusNotFound,
	refusal.Conflict: http.StatusConflict, refusal.Outside: http.StatusBadGateway,
	refusal.Denied: http.StatusUnauthorized, refusal.Busy: http.StatusServiceUnavailable,
	refusal.Often: http.StatusTooManyRequests, refusal.Full: http.StatusInsufficientStorage,
	refusal.Large: http.StatusRequestEntityTooLarge, refusal.Broken: http.StatusBadRequest,
	refusal.Failed: http.StatusInternalServerError,
}

// PublicError finds the outermost error in err that people may read, without what the layers above it added
// for logs, and the status of the answer; 500 and nil for what nobody should see.
func PublicError(err error) (int, error) {
	switch err := err.(type) {
	case *refusal.Error:
		return refusalStatuses[err.Kind.Status], err
	case refusal.Refuser:
		return refusalStatuses[err.Refusal().Kind.Status], err
	case *http.MaxBytesError:
		return http.StatusRequestEntityTooLarge, TooLarge(0, MostUpload)
	}
	switch wrapped := err.(type) {
	case interface{ Unwrap() error }:
		if inner := wrapped.Unwrap(); inner != nil {
			return PublicError(inner)
		}
	case interface{ Unwrap() []error }:
		for _, inner := range wrapped.Unwrap() {
			if status, as := PublicError(inner); as != nil {
				return status, as
			}
		}
	}
	return http.StatusInternalServerError, nil
}

// Sentence begins with a capital and ends with a full stop.
func Sentence(text string) string {
	if text == "" {
		return text
	}
	first, size := utf8.DecodeRuneInString(text)
	return strings.TrimSuffix(string(unicode.ToUpper(first))+text[size:], ".") + "."
}
