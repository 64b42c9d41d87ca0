package design

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"oddspool/core/measure"
	"oddspool/core/questions"
	"oddspool/core/refusal"
	"oddspool/core/stock"
)

//go:generate go run ../../internal/lists design.schema.json ../../api/openapi.yaml
//go:generate cp design.schema.json ../../docs/design.schema.json

//go:embed design.schema.json
var schemaText []byte

// Schema returns the JSON Schema (draft 2020-12) of a design document, as published in docs.
func Schema() []byte { return bytes.Clone(schemaText) }

// A SyntaxError tells where a document stops being JSON.
type SyntaxError struct {
	Line, Column int // from 1, the column in bytes
	Err          error
}

func (e *SyntaxError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *SyntaxError) Refusal() *refusal.Error {
	return badSyntax.With(e.Line, e.Column, e.Err)
}

func (e *SyntaxError) Unwrap() error { return e.Err }

// A FutureError says that a document was made by a later version.
type FutureError struct{ Format string }

func (e *FutureError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *FutureError) Refusal() *refusal.Error {
	return newerFormat.With(e.Format, Format)
}

// A Fault is one thing wrong in a document, with its path: elements[2].colour.
type Fault struct {
	Path string `json:"path"`
	Text string `json:"text"`
}

// A FaultsError lists all that is wrong in a document that is JSON, but no design.
type FaultsError struct{ Faults []Fault }

func (e *FaultsError) Error() string {
	lines := make([]string, len(e.Faults))
	for i, fault := range e.Faults {
		lines[i] = fault.Path + ": " + fault.Text
	}
	return strings.Join(lines, "; ")
}

// Refusal tells its kind and values.
func (e *FaultsError) Refusal() *refusal.Error { return faulty.With(len(e.Faults), e.Error()) }

// Trusted reads a document that is known to keep to the schema, such as one that was parsed before and changed by the
// page since: five times as fast, for what the hand waits for. Its error is a *FaultsError.
func Trusted(data []byte) (*Design, error) {
	var d Design
	if err := json.Unmarshal(data, &d); err != nil {
		return nil, &FaultsError{Faults: []Fault{{Path: "design", Text: err.Error()}}}
	}
	d.settle()
	if faults := d.Check(); faults != nil {
		return nil, &FaultsError{Faults: faults}
	}
	return &d, nil
}

// With returns the design with some of its elements replaced, as a JSON list of objects with "at", their index, and
// "element"; the rest is shared. What comes is trusted as in Trusted, whose errors these are.
func (d *Design) With(changed []byte) (*Design, error) {
	var list []struct {
		At      int     `json:"at"`
		Element Element `json:"element"`
	}
	if err := json.Unmarshal(changed, &list); err != nil {
		return nil, &FaultsError{Faults: []Fault{{Path: "elements", Text: err.Error()}}}
	}
	other := *d
	other.Elements = slices.Clone(d.Elements)
	for _, c := range list {
		if c.At < 0 || c.At >= len(other.Elements) {
			return nil, &FaultsError{Faults: []Fault{{Path: "elements", Text: fmt.Sprintf("there is no element %d",
				c.At)}}}
		}
		other.Elements[c.At] = c.Element
	}
	other.settle()
	if faults := other.Check(); faults != nil {
		return nil, &FaultsError{Faults: faults}
	}
	return &other, nil
}

// settle turns each default that may also be written out into its one inner form.
func (d *Design) settle() {
	for i := range d.Elements {
		if t := d.Elements[i].Text; t != nil {
			if t.Align == "left" {
				t.Align = Left
			}
			if t.Stand == "top" {
				t.Stand = Top
			}
		}
		if c := d.Elements[i].Code; c != nil {
			if c.Align == "left" {
				c.Align = Left
			}
			if c.Readable == "below" {
				c.Readable = Below
			}
		}
	}
}

// Check returns what the schema cannot tell: sizes that no stock has, elements that share an id
// or lack their looks.
func (d *Design) Check() []Fault {
	var faults []Fault
	for _, reason := range d.Stock.Check() {
		faults = append(faults, Fault{"stock." + reason.Field, reason.Text})
	}
	for _, reason := range d.Printer.Check() {
		faults = append(faults, Fault{"printer." + reason.Field, reason.Text})
	}
	if faults == nil {
		w, l := d.Stock.PageSize()
		l = max(l, d.Stock.LongestPiece())
		if dots := area(w, l, d.Printer.Resolution); dots*max(d.inks(), 1) > MaxDots {
			faults = append(faults, Fault{"stock", fmt.Sprintf(
				"A label of %v × %v at %v in %d inks has %d million dots; Odd Spool draws up to %d million.",
				w, l, d.Printer.Resolution, max(d.inks(), 1), dots*max(d.inks(), 1)/1_000_000, MaxDots/1_000_000)})
		}
	}
	if most := d.Stock.MostLegends(); d.Repeat < 0 || d.Repeat > most {
		faults = append(faults, Fault{"repeat",
			fmt.Sprintf("The legend stands %d times on a piece; on this stock it can 1 to %d times.", d.Repeat, most)})
	}
	if inks := d.inks(); faults == nil && inks > MostInks {
		faults = append(faults, Fault{"elements",
			fmt.Sprintf("The elements have %d different inks; up to %d are printed.", inks, MostInks)})
	}
	if codes := d.codes(); codes > MostCodes {
		faults = append(faults, Fault{"elements",
			fmt.Sprintf("The design has %d codes; up to %d are printed on a label.", codes, MostCodes)})
	}
	faults = append(faults, d.askFaults()...)
	faults = append(faults, d.seriesFaults()...)
	faults = append(faults, d.languageFaults()...)
	faults = append(faults, d.pieceFaults()...)
	faults = append(faults, d.demandFaults()...)
	seen := map[string]int{}
	for i, element := range d.Elements {
		path := fmt.Sprintf("elements[%d]", i)
		if first, twice := seen[element.ID]; twice {
			faults = append(faults, Fault{path + ".id",
				fmt.Sprintf("elements[%d] has the id %q too; each element needs its own.", first, element.ID)})
		}
		seen[element.ID] = i
		for _, id := range element.Around {
			// one that is gone is no fault: it was deleted
			if other := d.Element(id); other != nil && len(other.Around) > 0 {
				faults = append(faults, Fault{path + ".around",
					fmt.Sprintf("A frame goes round elements that are no frames themselves, and %q is one.", id)})
			}
		}
		if len(element.Around) > 0 && element.Kind != Box && element.Kind != Oval {
			faults = append(faults, Fault{path + ".around", "Only a box or an oval can be a frame round others."})
		}
		if crop := cropOf(&d.Elements[i]); crop.Left+crop.Right > 99 || crop.Top+crop.Bottom > 99 {
			faults = append(faults, Fault{path + ".picture.crop",
				"Nothing would be left of the picture; cut less off."})
		}
		if dotted := element.Kind == Picture || element.Kind == Symbol || element.Shape != nil &&
			element.Shape.Tint > 0; dotted && area(element.Width, element.Height, d.Printer.Resolution) > MaxDots {
			faults = append(faults, Fault{path,
				fmt.Sprintf("%v × %v at %v has more dots than are drawn; make it smaller.", element.Width,
					element.Height, d.Printer.Resolution)})
		}
		if element.Kind == Text && element.Text == nil {
			faults = append(faults, Fault{path, `A text needs its looks: "text": {"typeface": …, "points": …}.`})
		}
		if element.Kind == Code && element.Ink == Bare {
			faults = append(faults, Fault{path + ".ink",
				"A code needs an ink: what is laid bare no scanner tells from its ground."})
		}
		if element.Kind == Picture && element.Picture == nil {
			faults = append(faults, Fault{path, `A picture needs to say which: "picture": {"hash": …}.`})
		}
		if element.Kind == Symbol && element.Symbol == nil {
			faults = append(faults, Fault{path, `A symbol needs to say which: "symbol": {"id": …}.`})
		}
		if element.Kind == Tag && element.Tag == nil {
			faults = append(faults, Fault{path, `A tag needs its form: "tag": {"scheme": …}.`})
		}
		if element.Kind == Tag && element.Tag != nil && element.Tag.Lock == WithAccess && element.Tag.Access == "" {
			faults = append(faults, Fault{path + ".tag.access",
				"A lock with a password needs it: eight hexadecimal digits."})
		}
		if element.Kind == Code && element.Code == nil {
			faults = append(faults, Fault{path, `A code needs its looks: "code": {"symbology": …, "module": …}.`})
		}
	}
	return faults
}

// askFaults returns what is wrong with the questions.
func (d *Design) askFaults() (faults []Fault) {
	for i := range d.Questions {
		path := fmt.Sprintf("questions[%d]", i)
		if text := d.Questions[i].Fault(); text != "" {
			faults = append(faults, Fault{path, text})
		}
		if slices.ContainsFunc(d.Questions[:i],
			func(q questions.Question) bool { return q.Name == d.Questions[i].Name }) {
			faults = append(faults, Fault{path + ".name",
				fmt.Sprintf("Two questions are called %q; each needs a name of its own.", d.Questions[i].Name)})
		}
	}
	return faults
}

// pieceFaults returns changes that are none, and elements that say each other in a circle.
func (d *Design) pieceFaults() (faults []Fault) {
	for i := range d.Elements {
		n := 0
		for p := range d.Elements[i].Pieces() {
			for _, change := range p.Changes {
				if err := change.Check(); err != nil {
					faults = append(faults, Fault{fmt.Sprintf("elements[%d].says[%d].changes", i, n),
						fmt.Sprintf("%s: %v.", d.Elements[i].ID, err)})
				}
			}
			n++
		}
		if d.says(i, map[int]bool{}) {
			faults = append(faults, Fault{fmt.Sprintf("elements[%d].says", i),
				fmt.Sprintf("%s says what says %s again.", d.Elements[i].ID, d.Elements[i].ID)})
		}
	}
	return faults
}

// says tells whether what an element says leads back to one that is being said.
func (d *Design) says(i int, saying map[int]bool) bool {
	if saying[i] {
		return true
	}
	saying[i] = true
	defer delete(saying, i)
	for _, p := range d.Elements[i].Says {
		if p.Element == "" {
			continue
		}
		j := slices.IndexFunc(d.Elements, func(e Element) bool { return e.ID == p.Element })
		if j >= 0 && d.says(j, saying) {
			return true
		}
	}
	return false
}

func cropOf(e *Element) Crop {
	if e.Picture == nil || e.Picture.Crop == nil {
		return Crop{}
	}
	return *e.Picture.Crop
}

// Element returns the element with an id; nil where there is none.
func (d *Design) Element(id string) *Element {
	for i := range d.Elements {
		if d.Elements[i].ID == id {
			return &d.Elements[i]
		}
	}
	return nil
}

// CheckElements returns what is wrong with elements that stand in no design yet, as JSON.
func CheckElements(data []byte) []Fault {
	var elements any
	if err := json.Unmarshal(data, &elements); err != nil {
		return []Fault{{Path: "elements", Text: err.Error()}}
	}
	alone := map[string]any{
		"format": Format, "name": "part", "elements": elements,
		"stock": map[string]any{"name": "any", "kind": "die-cut", "shape": "rectangle", "width": 100_000,
			"length": 100_000, "gap": 0},
		"printer": map[string]any{"name": "any", "resolution": "8 dots/mm", "headDots": 1000},
	}
	document, err := json.Marshal(alone)
	if err == nil {
		_, err = Parse(document)
	}
	var faults *FaultsError
	switch {
	case errors.As(err, &faults):
		return faults.Faults
	case err != nil:
		return []Fault{{Path: "elements", Text: err.Error()}}
	}
	return nil
}

// MostInks is how many inks a design may have: each is a plane of its own.
const MostInks = 8

// MostCodes is how many codes a design may have.
const MostCodes = 100

func (d *Design) codes() (n int) {
	for _, element := range d.Elements {
		if element.Kind == Code {
			n++
		}
	}
	return n
}

// inks counts the different inks of the elements.
func (d *Design) inks() int {
	inks := map[stock.Ink]bool{}
	for _, element := range d.Elements {
		inks[element.Ink] = true
		if element.Shape != nil {
			inks[element.Shape.Fill] = true
		}
	}
	delete(inks, Bare)
	return len(inks)
}

// MaxDots is the most dots one label may have: 512 mm x 512 mm at 24 dots/mm, 19 MB a plane.
const MaxDots = 151_000_000

func area(w, h measure.Length, r measure.Resolution) int { return r.Dots(w) * r.Dots(h) }
