// Package handler is what the handlers of all subjects share: what they work on, how they refuse, and how a file comes
// in.
package handler

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"

	"oddspool/internal/api"
	"oddspool/internal/feeds"
	"oddspool/internal/press"
	"oddspool/internal/runner"
	"oddspool/internal/store"
)

// Base is what handlers work on.
type Base struct {
	Store   *store.Store
	Log     *slog.Logger
	Clients *press.Clients                   // of printers
	Runner  *runner.Runner                   // which prints runs
	Feeds   *feeds.Feeds                     // connections that records are read from
	User    func(ctx context.Context) string // who is signed in
}

// ForGood lets browsers keep what is named by its hash.
const ForGood = "private, max-age=31536000, immutable"

// Or returns what a pointer points to, or else.
func Or[T any](pointer *T, otherwise T) T {
	if pointer == nil {
		return otherwise
	}
	return *pointer
}

// Some is nil for what is empty.
func Some(text string) *string {
	if text == "" {
		return nil
	}
	return &text
}

// List returns words as a list that is never null in JSON.
func List(words []string) []string { return append([]string{}, words...) }

// As makes one form of a document of another with the same members.
func As[T any](from any) (to T, err error) {
	document, err := json.Marshal(from)
	if err == nil {
		err = json.Unmarshal(document, &to)
	}
	if err != nil {
		err = fmt.Errorf("read %T as %T: %w", from, to, err)
	}
	return to, err
}

// AsDocument returns what the core read from a document as one.
func AsDocument(from any) api.About {
	document, err := json.Marshal(from)
	if err != nil {
		panic(fmt.Sprintf("write %T: %v", from, err)) // what was read from JSON can be written as JSON
	}
	return document
}
