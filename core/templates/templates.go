// Package templates has ready-made designs for common purposes over all kinds of stock, which a new design can begin
// with. Their fields are those of Brinewick's records; a person puts others in their place.
package templates

import (
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
	"oddspool/core/symbology"
)

// A Template is a ready-made design.
type Template struct {
	ID      string
	Name    string
	For     string // what it is good for, in a few words
	Records string // which of the example records it is made for; empty: none
	Design  design.Design
}

// All returns every start, those of the same kind of stock together.
func All() []Template {
	return slices.Concat(bins(), goods(), assets(), cables(), signs(), sheets(), trades(), safeties())
}

// Find returns a start by its id; nil where there is none.
func Find(id string) *Template {
	for _, s := range All() {
		if s.ID == id {
			return &s
		}
	}
	return nil
}

// Printers that the starts are drawn for, until one on the floor takes their place.
var (
	black = []stock.Ink{stock.Black}
	label = stock.Printer{Name: "a label printer", Resolution: measure.DotsPerMillimetre(8), HeadDots: 864, Inks: black,
		Speed: 100, SlowSpeed: 25}
	chip = stock.Printer{Name: "a printer with an encoder", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832,
		Inks: black, Speed: 100, SlowSpeed: 25, Encoder: true}
	fine = stock.Printer{Name: "a fine label printer", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1344,
		Inks: black, Speed: 100, SlowSpeed: 25}
	twoIn = stock.Printer{Name: "a printer with two inks", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1248,
		Heats: []stock.Ink{stock.Red}, Speed: 100, SlowSpeed: 50}
	tape = stock.Printer{Name: "a tape printer", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1248,
		Takes: []stock.Kind{stock.Tape}, MostWeb: 104 * measure.Millimetre,
		Sensors: []stock.Tracking{stock.Continuous}, Inks: []stock.Ink{stock.Black, stock.Red}, Speed: 40,
		SlowSpeed: 10, Cutter: true}
	cable = stock.Printer{Name: "a cable printer", Resolution: measure.DotsPerMillimetre(12), HeadDots: 672,
		Takes:   []stock.Kind{stock.Sleeve, stock.Wrap, stock.Flag},
		MostWeb: 60 * measure.Millimetre, Inks: black, Speed: 76, SlowSpeed: 25}
	tags = stock.Printer{Name: "a tag printer", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1248,
		Sensors: []stock.Tracking{stock.Gap, stock.Mark, stock.Notch}, Inks: black, Speed: 100, SlowSpeed: 25}
	plate = stock.Printer{Name: "a plate printer", Resolution: measure.DotsPerMillimetre(10), HeadDots: 2000,
		Takes: []stock.Kind{stock.Plate}, MostWeb: 200 * measure.Millimetre, Speed: 30, Vector: true}
	office = stock.Printer{Name: "an office printer", Resolution: measure.DotsPerMillimetre(12), HeadDots: 2640,
		Takes: []stock.Kind{stock.DieCut, stock.Sheet}, MostWeb: 220 * measure.Millimetre,
		Inks: []stock.Ink{stock.Full}, Speed: 100, SlowSpeed: 40}
)

func ready(id, name, purpose, records, find string, printer stock.Printer, turn measure.Turn,
	elements ...design.Element) Template {
	d := design.Design{Format: design.Format, Name: name, Stock: loaded(find), Printer: printer, Turn: turn,
		Elements: elements}
	d.Repeat = d.Stock.Usual()
	for i := range d.Elements {
		if d.Elements[i].ID == "" {
			d.Elements[i].ID = string(d.Elements[i].Kind) + "-" + string(rune('1'+i))
		}
	}
	d.Fields = d.UsedFields()
	return Template{id, name, purpose, records, d}
}

func loaded(find string) stock.Stock {
	all, query := catalogue.All(), stock.ParseQuery(find)
	for _, is := range []func(stock.Stock) bool{func(s stock.Stock) bool { return s.Name == find }, query.Matches} {
		if i := slices.IndexFunc(all, is); i >= 0 {
			return all[i]
		}
	}
	panic("the catalogue has no " + find) // TestTemplates guards it
}

// at is a place in tenths of a millimetre.
func at(kind design.Kind, x, y, w, h int) design.Element {
	const tenth = measure.Millimetre / 10
	return design.Element{Kind: kind, X: measure.Length(x) * tenth, Y: measure.Length(y) * tenth,
		Width: measure.Length(w) * tenth, Height: measure.Length(h) * tenth}
}

// pieces reads words with fields in braces, and formulas behind an equals sign there.
func pieces(says string) (made []design.Piece) {
	for says != "" {
		text, rest, some := strings.Cut(says, "{")
		if text != "" {
			made = append(made, design.Piece{Text: text})
		}
		if !some {
			break
		}
		name, after, _ := strings.Cut(rest, "}")
		if formula, is := strings.CutPrefix(name, "="); is {
			made = append(made, design.Piece{Formula: formula})
		} else {
			made = append(made, design.Piece{Field: name})
		}
		says = after
	}
	return made
}

// bestBefore is that date of a record as people read it.
const bestBefore = `{=formatDate(date(field("best before"), "yyMMdd"), "d MMM yyyy")}`

func words(x, y, w, h int, points float64, says string, with ...func(*design.Element)) design.Element {
	e := at(design.Text, x, y, w, h)
	e.Says = pieces(says)
	e.Text = &design.TextLooks{Typeface: "Liberation Sans", Points: points, ShrinkTo: max(points*0.5, 4),
		Stand: design.Middle}
	return changed(e, with)
}

func code(x, y, w, h int, symbology string, module measure.Length, says string,
	with ...func(*design.Element)) design.Element {
	e := at(design.Code, x, y, w, h)
	e.Says = pieces(says)
	e.Code = &design.CodeLooks{Symbology: symbology, Module: module, Points: 8, Align: design.Centre}
	switch symbology {
	case "datamatrix", "gs1-datamatrix":
		e.Code.Fit, e.Code.Shape = design.Largest, "square"
	case "qr":
		e.Code.Fit = design.Largest
	}
	return changed(e, with)
}

func symbol(x, y, side int, id string) design.Element {
	e := at(design.Symbol, x, y, side, side)
	e.Symbol = &design.SymbolLooks{ID: id}
	return e
}

func box(x, y, w, h int, weight measure.Length, with ...func(*design.Element)) design.Element {
	e := at(design.Box, x, y, w, h)
	e.Weight = weight
	return changed(e, with)
}

func line(x, y, w, h int, with ...func(*design.Element)) design.Element {
	return changed(at(design.Line, x, y, w, h), with)
}

func changed(e design.Element, with []func(*design.Element)) design.Element {
	for _, change := range with {
		change(&e)
	}
	return e
}

func bold(e *design.Element)     { e.Text.Bold = true }
func centred(e *design.Element)  { e.Text.Align = design.Centre }
func right(e *design.Element)    { e.Text.Align = design.Right }
func wrapped(e *design.Element)  { e.Text.Wrap = true }
func sideways(e *design.Element) { e.Turn = 270 }
func bare(e *design.Element)     { e.Ink = design.Bare }
func mute(e *design.Element)     { e.Code.Readable = design.None }
func optional(e *design.Element) { e.IfEmpty = design.LeaveOut }
func filled(ink stock.Ink) func(*design.Element) {
	return func(e *design.Element) { e.Shape = &design.Shape{Fill: ink, NoOutline: true} }
}
func inked(ink stock.Ink) func(*design.Element) { return func(e *design.Element) { e.Ink = ink } }
func purpose(e *design.Element)                 { e.Code.Purpose = symbology.Logistic }
func inDistribution(e *design.Element)          { e.Code.Purpose = symbology.Distribution }
func healthcare(e *design.Element)              { e.Code.Purpose = symbology.Healthcare }
func condensed(e *design.Element)               { e.Text.Typeface = "DejaVu Sans Condensed" }
func mono(e *design.Element)                    { e.Text.Typeface = "Liberation Mono" }
