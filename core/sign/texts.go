package sign

import (
	_ "embed"
	"fmt"
	"strings"
	"sync"
)

// ShippedTexts is the table of ready messages that comes with the program.
//
//go:embed texts.tsv
var ShippedTexts string

// A Text is a ready message in plain words, with the signal word and the symbols that go with it.
type Text struct {
	Kind    string   `json:"kind"` // of Kinds; empty: none
	Symbols []string `json:"symbols"`
	Message string   `json:"message"`
}

// Texts returns the ready messages, the gravest first.
var Texts = sync.OnceValue(func() []Text {
	texts, err := ReadTexts(ShippedTexts)
	if err != nil {
		panic(err) // the table is part of the program, and its tests read it
	}
	return texts
})

// ReadTexts reads a table of ready messages: signal word, symbols and message of each, with tabs between, below a head. Its errors name the line.
func ReadTexts(table string) (texts []Text, err error) {
	n := 0
	for line := range strings.Lines(table) {
		n++
		cells := strings.Split(strings.TrimSpace(line), "\t")
		if len(cells) == 2 { // without a signal word
			cells = append([]string{""}, cells...)
		}
		if len(cells) != 3 {
			return nil, fmt.Errorf("messages, line %d: %d columns, not 3", n, len(cells))
		}
		if n > 1 {
			texts = append(texts, Text{cells[0], strings.Fields(cells[1]), cells[2]})
		}
	}
	return texts, nil
}
