package sign

import (
	_ "embed"
	"strings"
	"sync"
)

//go:embed texts.tsv
var shippedTexts string

// A Text is a ready message in plain words, with the signal word and the symbols that go with it.
type Text struct {
	Kind    string   `json:"kind"` // of Kinds; empty: none
	Symbols []string `json:"symbols"`
	Message string   `json:"message"`
}

// Texts returns the ready messages, the gravest first.
var Texts = sync.OnceValue(func() (texts []Text) {
	for line := range strings.Lines(shippedTexts) {
		cells := strings.Split(strings.TrimSpace(line), "\t")
		if len(cells) == 2 { // without a signal word
			cells = append([]string{""}, cells...)
		}
		if cells[len(cells)-1] != "message" {
			texts = append(texts, Text{cells[0], strings.Fields(cells[1]), cells[2]})
		}
	}
	return texts
})
