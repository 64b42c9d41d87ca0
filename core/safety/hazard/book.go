// Package hazard derives the label of a chemical from its classification: pictograms with their
// precedence, signal word, hazard and precautionary statements, and the sizes that its container asks
// for. Rules are those of the United Nations' Globally Harmonized System (GHS), of Regulation (EC)
// No 1272/2008 (CLP) as amended up to (EU) 2023/707, and of 29 CFR 1910.1200 (HazCom, 2024).
//
// What the rules are read from, classes, statements and substances, is a Book: tables that can be
// replaced by newer ones without a new program.
package hazard

import (
	"embed"
	"fmt"
	"io/fs"
	"slices"
	"strings"
	"sync"

	"oddspool/core/tables"
)

//go:embed *.tsv
var shipped embed.FS

// Languages are those that statements are kept in: all in the first four, in the others those whose words in annexes
// III and IV of CLP are certain here.
var Languages = []string{"en", "de", "fr", "es", "it", "nl", "pl", "pt"}

// nameLanguages are those that names of substances are kept in.
var nameLanguages = Languages[:4]

// languageNames are the names of the languages in English.
var languageNames = map[string]string{"en": "English", "de": "German", "fr": "French", "es": "Spanish", "it": "Italian",
	"nl": "Dutch", "pl": "Polish", "pt": "Portuguese"}

// A RuleSet is whose rules are followed.
type RuleSet string

// The rule sets.
const (
	GHS    RuleSet = "ghs"    // the UN's own, all building blocks
	CLP    RuleSet = "clp"    // European Union
	HazCom RuleSet = "hazcom" // United States, workplaces
)

// RuleSets are all of them.
var RuleSets = []RuleSet{GHS, CLP, HazCom}

// A Class is one category of a hazard class, as its rules have it.
type Class struct {
	Class      string    `json:"class"`              // as abbreviated in CLP, Annex VI, table 1.1
	Category   string    `json:"category,omitempty"` // empty where a class has none
	Of         string    `json:"of,omitempty"`       // route of exposure, effect or kind
	Name       string    `json:"name"`
	Pictograms []string  `json:"pictograms,omitempty"`
	Signal     Signal    `json:"signal,omitempty"`
	Hazards    []string  `json:"hazards,omitempty"` // codes
	Rules      []RuleSet `json:"rules,omitempty"`   // that know it; nil: all

	precautions []string
}

// A Signal is how grave a hazard is said to be.
type Signal string

// The signal words (GHS 1.4.10.5.2).
const (
	NoSignal Signal = ""
	Warning  Signal = "warning"
	Danger   Signal = "danger"
)

var signalWords = map[Signal]map[string]string{
	Danger: {"en": "Danger", "de": "Gefahr", "fr": "Danger", "es": "Peligro", "it": "Pericolo", "nl": "Gevaar",
		"pl": "Niebezpieczeństwo", "pt": "Perigo"},
	Warning: {"en": "Warning", "de": "Achtung", "fr": "Attention", "es": "Atención", "it": "Attenzione",
		"nl": "Waarschuwing", "pl": "Uwaga", "pt": "Atenção"},
}

// In returns the word in a language, as CLP, Annex VII gives it.
func (s Signal) In(language string) string { return signalWords[s][language] }

// String returns class, category and what it is of, as they are written in a classification.
func (c *Class) String() string {
	text := c.Class
	if c.Category != "" {
		text += " " + c.Category
	}
	if c.Of != "" {
		text += " (" + c.Of + ")"
	}
	return text
}

// A Book is the tables that labels are made from.
type Book struct {
	Classes    []Class
	Substances []Substance

	statements map[string]map[string]string // by code and language
	byNumber   map[string]int               // substances by CAS and EC number
}

// Files are the tables of the book that comes with the program.
func Files() fs.FS { return shipped }

// AllPrecautions returns the codes of all P statements that the class asks for.
func (c *Class) AllPrecautions() []string { return c.precautions }

// Shipped returns the book that comes with the program.
var Shipped = sync.OnceValue(func() *Book {
	book, err := Read(shipped)
	if err != nil {
		panic(err) // the tables are part of the program, and its tests read them
	}
	return book
})

// Read reads the tables of a book: statements.tsv, classes.tsv and substances.tsv. Its errors name file and line.
func Read(files fs.FS) (*Book, error) {
	b := &Book{statements: map[string]map[string]string{}, byNumber: map[string]int{}}
	if err := tables.ReadGrown(files, "statements.tsv", 1+len(nameLanguages), 1+len(Languages),
		b.takeStatement); err != nil {
		return nil, err
	}
	if err := tables.ReadFile(files, "classes.tsv", 9, b.takeClass); err != nil {
		return nil, err
	}
	if err := tables.ReadGrown(files, "substances.tsv", 14, 17, b.takeSubstance); err != nil {
		return nil, err
	}
	return b, nil
}

func (b *Book) takeStatement(row []string) error {
	texts := map[string]string{}
	for i, language := range Languages {
		switch {
		case row[1+i] != "":
			texts[language] = row[1+i]
		case i < len(nameLanguages):
			return fmt.Errorf("%s says nothing in %q", row[0], language)
		}
	}
	b.statements[row[0]] = texts
	return nil
}

func (b *Book) takeClass(row []string) error {
	c := Class{Class: row[0], Category: row[1], Of: row[2], Name: row[3], Pictograms: strings.Fields(row[4]),
		Signal:  Signal(row[5]),
		Hazards: strings.Fields(row[6]), precautions: strings.Fields(row[8])}
	for _, rules := range strings.Fields(row[7]) {
		c.Rules = append(c.Rules, RuleSet(rules))
	}
	for _, code := range append(slices.Clone(c.Hazards), c.precautions...) {
		if b.statements[code] == nil {
			return fmt.Errorf("%s is no statement of the book", code)
		}
	}
	b.Classes = append(b.Classes, c)
	return nil
}

// Text returns what a statement says in a language; ok is false where the book does not have it, in this language or at
// all.
func (b *Book) Text(code, language string) (text string, ok bool) {
	text, ok = b.statements[code][language]
	return text, ok
}

// Codes returns the codes of all statements of the book, in order.
func (b *Book) Codes() []string {
	codes := make([]string, 0, len(b.statements))
	for code := range b.statements {
		codes = append(codes, code)
	}
	slices.Sort(codes)
	return codes
}

// AskedBy returns the classes that ask for a statement.
func (b *Book) AskedBy(code string) (classes []string) {
	for i := range b.Classes {
		if c := &b.Classes[i]; slices.Contains(c.Hazards, code) || slices.Contains(c.precautions, code) {
			classes = append(classes, c.String())
		}
	}
	return classes
}
