package sign

import (
	_ "embed"
	"strings"
	"sync"

	"oddspool/core/tables"
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

// ReadTexts reads a table of ready messages: signal word, symbols and message of each, with tabs between, below a head.
// Its errors name the line.
func ReadTexts(table string) (texts []Text, err error) {
	err = tables.Read("messages", strings.NewReader(table), 3, func(row []string) error {
		texts = append(texts, Text{row[0], strings.Fields(row[1]), row[2]})
		return nil
	})
	return texts, err
}
