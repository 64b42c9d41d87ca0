// Package design holds the label design: a document that says what stands where on a label, for
// which stock and printer, and what of it changes from record to record. A design is values only;
// compose fills it, typeset and symbology turn it into shapes.
//
// The frame of a design is the artwork as it is read: x to the right, y down, from the top left
// corner of the label. Turn says how that artwork lies on the web.
package design

import (
	"encoding/json"
	"iter"
	"slices"

	"oddspool/core/formula"
	"oddspool/core/measure"
	"oddspool/core/questions"
	"oddspool/core/stock"
)

// Format names this version of the document. A file of a later one is a *FutureError.
const Format = "oddspool.design/1"

// A Design is one label design with all it needs to be drawn: its stock and printer included.
type Design struct {
	Format  string        `json:"format"`
	Name    string        `json:"name"`
	Stock   stock.Stock   `json:"stock"`
	Printer stock.Printer `json:"printer"`
	Turn    measure.Turn  `json:"turn,omitempty"` // of the artwork on the web, clockwise as it leaves the printer
	// how often the legend stands on a piece, see stock.Legend; 0: once
	Repeat   int          `json:"repeat,omitempty"`
	Fields   []string     `json:"fields,omitempty"` // names of the fields the records are expected to have
	Elements []Element    `json:"elements"`         // from back to front, which is the reading order of the list
	Parts    []SharedPart `json:"parts,omitempty"`  // groups that are shared with other designs

	Questions []questions.Question `json:"questions,omitempty"` // put to whoever prints it; their answers are fields

	Series []Numbered `json:"series,omitempty"` // whose numbers labels have; each is a field

	Languages *Languages `json:"languages,omitempty"` // in which fixed words stand; nil: as they are written

	// version of the reference pack whose symbols it shows; empty: that of the program
	Reference string `json:"reference,omitempty"`

	Laid *Laid `json:"laid,omitempty"` // what its safety label was laid out from, to lay it out again; nil: it was not

	Demands []Demand `json:"demands,omitempty"` // what the rules of its safety labels ask

	Setting *formula.Setting  `json:"-"` // what its formulas know besides the records; nil: it is now
	Answers map[string]string `json:"-"` // to the questions; nil: nobody was asked, and something stands in for them
}

// A Laid is what a safety label was laid out from.
type Laid struct {
	What string          `json:"what"` // chemical, sign or pipe
	With json.RawMessage `json:"with"` // as the page that asked has it
}

// A SharedPart says which version of a part that several designs share a group is.
type SharedPart struct {
	Group   string `json:"group"`
	Part    int64  `json:"part"`
	Version int    `json:"version"`
}

// Size returns width and height of the artwork as it is read. Where a piece is as long as its
// content, that is the length the stock begins with.
func (d *Design) Size() (width, height measure.Length) {
	legend := d.Stock.Legend(d.Repeat)
	if d.Turn.Sideways() {
		return legend.Length, legend.Width
	}
	return legend.Width, legend.Length
}

// UsedFields returns the names of the fields that the elements use of records, in order of first use.
func (d *Design) UsedFields() []string {
	var names []string
	for i := range d.Elements {
		for name := range d.Elements[i].fields() {
			if !slices.Contains(names, name) && !isFact(name) && !d.counts(name) {
				names = append(names, name)
			}
		}
	}
	for i := range d.Demands {
		if when := d.Demands[i].When; when != nil && !slices.Contains(names, when.Field) && !d.counts(when.Field) {
			names = append(names, when.Field)
		}
	}
	if d.Languages != nil && !slices.Contains(names, d.Languages.Field) {
		names = append(names, d.Languages.Field)
	}
	return names
}

// counts tells whether a field is the number of a series.
func (d *Design) counts(field string) bool {
	return slices.ContainsFunc(d.Series, func(n Numbered) bool { return n.Name == field })
}

// ElementsSaying returns the names of the elements that use a field.
func (d *Design) ElementsSaying(field string) (ids []string) {
	for i := range d.Elements {
		for name := range d.Elements[i].fields() {
			if name == field {
				ids = append(ids, d.Elements[i].ID)
				break
			}
		}
	}
	return ids
}

// fields gives the names of the fields that an element uses, some several times.
func (e *Element) fields() iter.Seq[string] {
	return func(yield func(string) bool) {
		for piece := range e.Pieces() {
			if piece.Field != "" && !yield(piece.Field) {
				return
			}
			if piece.Formula == "" {
				continue
			}
			names, _ := formula.Fields(piece.Formula) // what is wrong with it is a finding
			for _, name := range names {
				if !yield(name) {
					return
				}
			}
		}
		if e.When != nil && e.When.Field != "" {
			yield(e.When.Field)
		}
	}
}

// Pieces returns all that the element says, the add-on of a code and the lines above and below it included.
func (e *Element) Pieces() iter.Seq[Piece] {
	return func(yield func(Piece) bool) {
		all := [][]Piece{e.Says}
		if e.Code != nil {
			all = append(all, e.Code.AddOn, e.Code.Header, e.Code.Footer)
		}
		if e.Tag != nil {
			all = append(all, e.Tag.User)
		}
		for _, pieces := range all {
			for _, piece := range pieces {
				if !yield(piece) {
					return
				}
			}
		}
	}
}

// Fixed tells whether the element says the same on every label.
func (e *Element) Fixed() bool {
	if e.When != nil {
		return false
	}
	for p := range e.Pieces() {
		if p.Text == "" && !p.IsText() {
			return false
		}
	}
	return true
}

// IsText tells whether the piece is fixed words.
func (p *Piece) IsText() bool { return p.Field == "" && p.Formula == "" && p.Element == "" }

// TellsTime tells whether what the labels say depends on when they are printed.
func (d *Design) TellsTime() bool {
	for i := range d.Elements {
		for p := range d.Elements[i].Pieces() {
			if p.Formula != "" && formula.TellsTime(p.Formula) {
				return true
			}
		}
	}
	return false
}

// Pictures returns the hashes of the pictures that stand on the label, each once.
func (d *Design) Pictures() (hashes []string) {
	for _, element := range d.Elements {
		if element.Picture != nil && !slices.Contains(hashes, element.Picture.Hash) {
			hashes = append(hashes, element.Picture.Hash)
		}
	}
	return hashes
}

// Symbols returns the names of the symbols that stand on the label whatever the record says, each once.
func (d *Design) Symbols() (ids []string) {
	for _, element := range d.Elements {
		if element.Symbol != nil && !slices.Contains(ids, element.Symbol.ID) {
			ids = append(ids, element.Symbol.ID)
		}
	}
	return ids
}

// Typefaces returns the families that the design uses, each once.
func (d *Design) Typefaces() (families []string) {
	use := func(family string) {
		if family != "" && !slices.Contains(families, family) {
			families = append(families, family)
		}
	}
	for _, element := range d.Elements {
		if element.Text != nil {
			use(element.Text.Typeface)
		}
		if element.Code != nil {
			use(element.Code.Typeface)
		}
	}
	return families
}
