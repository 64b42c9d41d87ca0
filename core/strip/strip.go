// Package strip gives the labels of a design as the Bench shows them: each label's dots as they are read, where
// its elements lie, what its codes are like, and what is wrong with it. The server and the page both draw with it.
package strip

import (
	"slices"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/core/symbology"
)

// About is what all labels of a design have in common.
type About struct {
	Width       int      `json:"width"` // dots of the artwork
	Height      int      `json:"height"`
	Dot         float64  `json:"dot"`    // micrometres
	Face        string   `json:"face"`   // colour of what is printed on
	Inks        []Ink    `json:"inks"`   // that the printer can show on this stock
	Layers      []string `json:"layers"` // colours of the planes of a label
	Mixes       bool     `json:"mixes"`  // any colour can be mixed
	MostLegends int      `json:"mostLegends"`
}

// An Ink is one that can be chosen.
type Ink struct {
	Name   string `json:"name"`
	Colour string `json:"colour"`
}

// A Label is one label with where its elements lie.
type Label struct {
	Record   int             `json:"record"`
	Width    int             `json:"width"` // dots of the whole piece as the artwork is read
	Height   int             `json:"height"`
	Parts    []Part          `json:"parts"`
	Findings []proof.Finding `json:"findings"`
}

// A Box is a rectangle of dots.
type Box struct {
	X int `json:"x"`
	Y int `json:"y"`
	W int `json:"w"`
	H int `json:"h"`
}

// A Part is what became of one element.
type Part struct {
	Element string     `json:"element"`
	Says    string     `json:"says"`
	Absent  bool       `json:"absent,omitempty"` // it does not stand on this label
	Pieces  []string   `json:"pieces,omitempty"` // what each piece says
	Real    Box        `json:"real"`             // what it takes on the artwork
	Stands  []int      `json:"stands,omitempty"` // on which lines upright words stand, dots from the artwork's top
	Code    *CodeFacts `json:"code,omitempty"`
	Tag     *TagFacts  `json:"tag,omitempty"`
}

// TagFacts are what is written into a chip.
type TagFacts struct {
	Hex      string `json:"hex"`
	Words    string `json:"words"`
	Bits     int    `json:"bits"`
	UserBits int    `json:"userBits"`
}

// CodeFacts are what a code is like. Lengths are micrometres.
type CodeFacts struct {
	Symbology       string `json:"symbology"`
	Module          int    `json:"module"`
	ModuleDots      int    `json:"moduleDots"`
	Modules         int    `json:"modules"`
	QuietModules    int    `json:"quietModules"`
	QuietZone       int    `json:"quietZone"`
	Is2D            bool   `json:"is2d"`
	Width           int    `json:"width"` // with quiet zones, as it stands
	Height          int    `json:"height"`
	Reads           string `json:"reads"`     // what a reader says
	Widths          []int  `json:"widths"`    // dots of the first bars and spaces
	Deviation       int    `json:"deviation"` // of the module from what is wanted, in per cent
	LeastModule     int    `json:"leastModule"`
	LeastModuleDots int    `json:"leastModuleDots"`
	Magnification   *int   `json:"magnification,omitempty"` // per cent of what the standard calls nominal
	CheckDigit      string `json:"checkDigit,omitempty"`
}

// A Drawer draws and judges the labels of one design. It is not safe for concurrent use; Clone makes another.
type Drawer struct {
	design  *design.Design
	fields  []string
	checker *proof.Checker
	artwork *compose.Artwork
	palette render.Palette
}

// New prepares a design for records with the given fields. Its error is that of compose.New.
func New(d *design.Design, fields []string) (*Drawer, error) {
	checker, err := proof.NewChecker(d, fields)
	if err != nil {
		return nil, err
	}
	return &Drawer{design: d, fields: fields, checker: checker, artwork: compose.NewArtwork(checker.Composer().Clone()),
		palette: checker.Composer().Palette()}, nil
}

// Clone returns a drawer of the same design for another goroutine.
func (w *Drawer) Clone() *Drawer {
	clone := *w
	clone.checker = w.checker.Clone()
	clone.artwork = compose.NewArtwork(clone.checker.Composer().Clone())
	return &clone
}

// Palette returns the colours of the labels.
func (w *Drawer) Palette() render.Palette { return w.palette }

// About returns what all labels have in common.
func (w *Drawer) About() About {
	d := w.design
	about := About{Dot: 1000 / d.Printer.Resolution.PerMillimetre(), Face: w.palette.Face, Layers: w.palette.Inks,
		Inks: []Ink{}, MostLegends: d.Stock.MostLegends()}
	about.Width, about.Height = w.checker.Composer().Size()
	for _, ink := range stock.Inks(d.Stock, d.Printer) {
		if ink == stock.Full {
			about.Mixes, ink = true, stock.Black
		}
		about.Inks = append(about.Inks, Ink{Name: string(ink), Colour: d.Stock.InkColour(ink)})
	}
	return about
}

// Dots returns the dots of the label of a record as Draw does, and judges nothing: for what the hand waits for. They
// hold until the next call.
func (w *Drawer) Dots(record []string) render.Layers {
	_, layers := w.artwork.Draw(record)
	return layers
}

// Draw returns the label of a record, numbered from 1, and its dots as they are read, one plane a layer. The planes
// hold until the next is drawn.
func (w *Drawer) Draw(number int, record []string) (*Label, render.Layers) {
	findings, composed, printed := w.checker.Drawn([]proof.Finding{}, number, record)
	layers := printed.Turned(measure.Turn(0).Plus(-w.design.Turn))
	label := &Label{Record: number, Parts: make([]Part, len(composed.Parts)), Findings: findings}
	label.Width, label.Height = layers.Size()
	for i := range composed.Parts {
		label.Parts[i] = w.part(i, &composed.Parts[i], record)
	}
	return label, layers
}

func (w *Drawer) part(i int, part *compose.Part, record []string) Part {
	element := &w.design.Elements[i]
	box := part.Real
	made := Part{Element: element.ID, Says: part.Says, Absent: part.Absent, Real: Box{box.X, box.Y, box.W, box.H}}
	made.Stands = slices.Clone(part.Baselines)
	made.Pieces = w.checker.Composer().Pieces(i, record)
	if part.Module > 0 && part.CodeError == nil {
		made.Code = w.codeFacts(element, part)
	}
	if part.Tag != nil {
		made.Tag = &TagFacts{part.Tag.Hex(), part.Tag.Words(), 8 * len(part.Tag.EPC), 8 * len(part.Tag.User)}
	}
	return made
}

// someWidths is how many bars and spaces the picture of a module shows.
const someWidths = 25

func (w *Drawer) codeFacts(element *design.Element, part *compose.Part) *CodeFacts {
	symbol, r := &part.Symbol, w.design.Printer.Resolution
	guide, module := symbology.Of(part.ID), r.Length(part.Module)
	least := symbology.LeastModule(part.ID, element.Code.Purpose, r)
	facts := &CodeFacts{Symbology: element.Code.Symbology, Module: int(module), ModuleDots: part.Module,
		Modules:      symbol.Modules(),
		QuietModules: symbol.QuietBefore, QuietZone: int(r.Length(symbol.QuietBefore * part.Module)),
		Is2D: symbol.Is2D(), Width: int(r.Length(part.Quiet.W)),
		Height: int(r.Length(part.Quiet.H)), Reads: symbol.Reads, Widths: []int{},
		Deviation:   perCent(module, element.Code.Module) - 100,
		LeastModule: int(r.Length(least)), LeastModuleDots: least}
	if guide.Nominal > 0 {
		facts.Magnification = new(perCent(module, guide.Nominal))
	}
	if guide.CheckDigit {
		facts.CheckDigit = symbol.Reads[len(symbol.Reads)-1:]
	}
	if part.Turn.Sideways() {
		facts.Width, facts.Height = facts.Height, facts.Width
	}
	if symbol.Is2D() { // the first row, which ends within the symbol
		run, dark := 0, true
		for x := 0; x < symbol.Matrix.Width && len(facts.Widths) < someWidths; x++ {
			if symbol.Matrix.At(x, 0) != dark {
				facts.Widths, run, dark = append(facts.Widths, run), 0, !dark
			}
			run += part.Module
		}
		return facts
	}
	for _, width := range symbol.AppendDots(nil, part.Module, part.Narrower) {
		if len(facts.Widths) < someWidths {
			facts.Widths = append(facts.Widths, int(width))
		}
	}
	return facts
}

// perCent returns how many per cent of b a is, to the nearest one.
func perCent(a, b measure.Length) int { return int((200*a + b) / (2 * b)) }
