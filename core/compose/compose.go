// Package compose fills a design with one record: what each element says, how it is set, and what
// it really takes in dots. It judges nothing; proof reads the facts it leaves with each part.
//
//	New      once a design: boxes to dots, typefaces, formulas; what is the same on every label is
//	         composed here ("fixed")
//	   │
//	Compose  each record: pieces → words → type, code, picture or symbol → items of a display list
//	   │     with facts about each (a Part): what it says, its boxes, its module, what was cut off
//	   │
//	Press    draws the list on planes, one an ink. In one ink what is fixed is one plane, copied; with
//	         several inks, or where something lays the face bare, the order of elements counts, and
//	         all of them are drawn
//
// A Composer keeps buffers between records, so that a label costs no memory. Each goroutine has its
// own (Clone).
package compose

import (
	"iter"
	"slices"

	"oddspool/core/design"
	"oddspool/core/epc"
	"oddspool/core/formula"
	"oddspool/core/measure"
	"oddspool/core/picture"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/core/symbology"
	"oddspool/core/typeset"
)

// A Composer fills one design with records of one set of fields. It is not safe for concurrent
// use; Clone makes another.
type Composer struct {
	design   *design.Design
	grid     measure.Resolution
	width    int // of the artwork, dots
	height   int
	pieceW   int // of the whole piece, as the artwork is read
	pieceH   int
	times    int // the legend stands on it, each time so much further
	stepX    int
	stepY    int
	grows    bool // the piece is as long as its content
	inks     []stock.Ink
	bares    bool // something lays the face bare, so that the order of all counts
	elements []element
	fixed    Label // the elements that say the same on every label
	text     []byte
	ends     []int // of the pieces in text
	spans    []typeset.Span
	block    typeset.Block
	readable typeset.Block
	dots     []uint16 // of one row of bars
	language int      // the field that names the language of a label, see piece.field
	answers  []string // that stand in for those that were not given yet, behind the fields
	counts   []counting
	fields   int      // of a record
	names    []string // of fields and answers
	setting  *formula.Setting
}

// element is what a design's element needs at hand for each label.
type element struct {
	escapes  bool // values of fields are written so that GS1 data takes them for nothing else
	pieces   []piece
	addOn    []piece // of a code, what stands beside it
	header   []piece // the line above it
	footer   []piece // and below
	fixed    bool
	face     *typeset.Face // of a text, or of a code's readable text
	boxWidth int           // of the content before its turn, dots
	boxTall  int
	box      render.Box      // on the artwork
	ink      int             // index of its ink
	fill     int             // of what it is filled with
	printed  picture.Printed // of a picture, before its turn
	symbol   *symbol         // of a symbol that is the same on every label
	symbols  *drawnSymbols   // of one that is not
	grows    bool            // what it says may reach on along a piece that is as long as its content
	when     piece           // the field that its condition asks for
	around   []int           // of a frame, the elements that it stands round
	faces    []*typeset.Face // of a text's pieces, where they differ; nil: all in face
}

type piece struct {
	text    string
	field   int // index in the record; -1: none; -2: the records lack the field
	name    string
	formula *formula.Formula
	element int // whose words it is; -1: none
	wrong   error
	changes []formula.Change
	// of fixed words, what they are called in other languages, by these in small letters; nil: they stand as they are
	in map[string]string
}

// isText tells whether a piece is fixed words.
func (p *piece) isText() bool {
	return p.field == noField && p.formula == nil && p.element < 0 && p.wrong == nil
}

const (
	noField      = -1
	missingField = -2
)

// A Part is what became of one element on one label. Boxes are dots on the artwork as it is read.
type Part struct {
	Says    string
	Absent  bool       // it does not stand on this label
	Empty   bool       // it says nothing, though it should
	Blank   string     // a field it uses that is empty on this label, though it should not be
	Lacks   string     // a field it uses that the records do not have
	Wrong   error      // why a formula or a change of it gives nothing
	Box     render.Box // what the element was given
	Real    render.Box // what it takes, quiet zones and readable text included
	TooWide int        // dots that stick out along the reading direction
	TooTall int        // and across it
	PerEm   int        // size of type it was set in, 64ths of a dot
	Lines   int        // of a text

	Baselines []int  // what the lines of an upright text stand on, dots from the top of the artwork
	Missing   []rune // characters that no typeface has
	CutOff    int    // letters beyond MostLetters, which are not drawn

	CodeError error // why the code could not be made: a *symbology.DataError
	ID        symbology.ID
	Options   symbology.Options
	Symbol    symbology.Symbol // the code
	Module    int              // dots per module
	LineOver  int              // dots by which a line beside the code is longer than its box
	Narrower  int              // dots by which each bar is narrower than it is meant
	Bars      render.Box       // the bars alone
	Quiet     render.Box       // the bars with their quiet zones
	Turn      measure.Turn     // of the bars

	Tag *epc.Memory // what is written into the chip; nil: it says nothing, or that is CodeError
}

// A Label is one composed label: its parts, one an element, and its display list. It can be used
// again and again.
type Label struct {
	Parts []Part
	List  render.List
	Over  int // dots by which the content is longer than a piece can be
	Last  int // index of the element that reaches furthest along; -1: none

	of *design.Design // whose parts these are: memory is shared with the design's fixed parts
}

// New prepares a design for records with the given fields. Its error is a *typeset.FamilyError, a
// *symbology.UnknownError, a *picture.AbsentError or a *symbols.AbsentError: the design asks for what this program does
// not have.
func New(d *design.Design, fields []string) (*Composer, error) {
	c := &Composer{design: d, grid: d.Printer.Resolution, fields: len(fields), setting: d.Setting}
	if c.setting == nil {
		c.setting = &formula.Setting{}
	}
	fields = c.ask(fields)
	c.names = fields
	c.language = noField
	if d.Languages != nil {
		if c.language = slices.Index(fields, d.Languages.Field); c.language < 0 {
			c.language = missingField
		}
	}
	c.layOut()
	for i := range d.Elements {
		e, err := c.prepare(&d.Elements[i], fields)
		if err != nil {
			return nil, err
		}
		c.elements = append(c.elements, e)
	}
	for i := range d.Elements {
		c.surround(i)
		c.readyPieces(i, fields)
	}
	if c.inks == nil {
		c.inks = []stock.Ink{stock.Black}
	}
	c.fixed.reset(c)
	for i := range c.all() {
		if c.elements[i].fixed {
			c.element(&c.fixed, i, nil)
		}
	}
	c.finish(&c.fixed)
	return c, nil
}

// layOut works out the frame of the artwork and how often it stands on the piece.
func (c *Composer) layOut() {
	d := c.design
	w, h := d.Size()
	c.width, c.height = c.grid.Dots(w), c.grid.Dots(h)
	c.pieceW, c.pieceH = d.Turn.Size(c.grid.Dots(d.Stock.PieceWidth()), c.grid.Dots(d.Stock.Length))
	legend := d.Stock.Legend(d.Repeat)
	c.times = legend.Times
	c.stepX, c.stepY = d.Turn.Size(c.grid.Dots(legend.Across), c.grid.Dots(legend.Along))
	c.grows = d.Stock.ByContent()
}

// surround finds what a frame stands round: it is fixed when all of that is.
func (c *Composer) surround(i int) {
	e := &c.elements[i]
	for _, id := range c.design.Elements[i].Around {
		if j := slices.IndexFunc(c.design.Elements,
			func(other design.Element) bool { return other.ID == id }); j >= 0 && j != i {
			e.around = append(e.around, j)
			e.fixed = e.fixed && c.elements[j].fixed
		}
	}
}

// all gives the elements in the order in which they are composed: frames after what they stand round.
func (c *Composer) all() iter.Seq[int] {
	return func(yield func(int) bool) {
		for _, frames := range []bool{false, true} {
			for i := range c.elements {
				if (c.elements[i].around != nil) == frames && !yield(i) {
					return
				}
			}
		}
	}
}

// ink returns the index of an element's ink among those that the design uses.
func (c *Composer) ink(wanted stock.Ink) int {
	if wanted == design.Bare {
		c.bares = true
		return render.Bare
	}
	if wanted == "" {
		var some bool
		if wanted, some = stock.NearestInk(stock.Black, stock.Inks(c.design.Stock, c.design.Printer)); !some {
			wanted = stock.Black
		}
	}
	i := slices.Index(c.inks, wanted)
	if i < 0 {
		i = len(c.inks)
		c.inks = append(c.inks, wanted)
	}
	return i
}

// Inks returns the inks that the design uses, one a layer; at least one.
func (c *Composer) Inks() []stock.Ink { return c.inks }

// Palette returns the colours that the design's labels are shown in.
func (c *Composer) Palette() render.Palette {
	p := render.Palette{Face: c.design.Stock.FaceColour()}
	for _, ink := range c.inks {
		p.Inks = append(p.Inks, c.design.Stock.InkColour(ink))
	}
	return p
}

// Ink returns the layer of element i; render.Bare where it lays the face bare.
func (c *Composer) Ink(i int) int { return c.elements[i].ink }

// Picture returns the picture that element i is, as far as it is shown, and its dots before its turn.
func (c *Composer) Picture(i int) (*picture.Picture, *render.Plane) {
	return c.elements[i].printed.Picture, c.elements[i].printed.Dots
}

// Face returns the typeface of a text, or of a code's readable text.
func (c *Composer) Face(i int) *typeset.Face { return c.elements[i].face }

// Filled returns the layer that element i is filled in; render.Bare where it lays the face bare.
func (c *Composer) Filled(i int) int { return c.elements[i].fill }

// Copies returns how often the legend stands on a piece, and how much further each time, in dots on
// the artwork.
func (c *Composer) Copies() (times, stepX, stepY int) { return c.times, c.stepX, c.stepY }

// Clone returns a composer of the same design for another goroutine.
func (c *Composer) Clone() *Composer {
	clone := *c
	clone.answers = slices.Clone(c.answers)
	clone.text, clone.ends, clone.spans = nil, nil, nil
	clone.block, clone.readable, clone.dots = typeset.Block{}, typeset.Block{}, nil
	return &clone
}

func (c *Composer) prepare(d *design.Element, fields []string) (element, error) {
	e := element{fixed: d.Fixed()}
	e.box = render.Box{X: c.grid.Dots(d.X), Y: c.grid.Dots(d.Y), W: max(c.grid.Dots(d.Width), 1),
		H: max(c.grid.Dots(d.Height), 1)}
	e.boxWidth, e.boxTall = d.Turn.Size(e.box.W, e.box.H)
	if d.When != nil {
		e.when = findFields([]design.Piece{{Field: d.When.Field}}, fields)[0]
	}
	if d.Kind == design.Symbol {
		e.pieces = findFields(d.Says, fields)
		err := c.prepareSymbol(d, &e)
		return e, err
	}
	if d.Kind == design.Tag {
		e.pieces, e.header = findFields(d.Says, fields), findFields(d.Tag.User, fields)
		e.escapes = epc.Scheme(d.Tag.Scheme).OfGS1()
		return e, nil
	}
	e.ink = c.ink(d.Ink)
	if d.Shape != nil && d.Shape.Fill != "" {
		e.fill = c.ink(d.Shape.Fill)
	}
	e.grows = c.grows && (d.Text == nil || !d.Text.Wrap) && (c.design.Turn.Sideways() && d.Turn == 0 ||
		!c.design.Turn.Sideways() && d.Turn == 90)
	e.pieces = findFields(d.Says, fields)
	c.translate(d, &e)
	var err error
	switch d.Kind {
	case design.Text:
		err = e.find(d)
	case design.Picture:
		looks := picture.Looks{Width: e.boxWidth, Height: e.boxTall, Way: d.Picture.Way, Lighter: d.Picture.Lighter,
			Stretch: d.Picture.Stretch}
		if crop := d.Picture.Crop; crop != nil {
			looks.Left, looks.Top, looks.Right, looks.Bottom = crop.Left, crop.Top, crop.Right, crop.Bottom
		}
		e.printed, err = picture.Print(d.Picture.Hash, looks)
		c.cover(d, &e)
	case design.Code:
		if err = symbology.Known(symbology.ID(d.Code.Symbology)); err != nil {
			return e, err
		}
		guide := symbology.Of(symbology.ID(d.Code.Symbology))
		e.escapes = guide.GS1 && !guide.CheckDigit
		if guide.AddOn {
			e.addOn = findFields(d.Code.AddOn, fields)
		}
		e.header, e.footer = findFields(d.Code.Header, fields), findFields(d.Code.Footer, fields)
		family := d.Code.Typeface
		if family == "" {
			family = design.DefaultReadableTypeface
		}
		e.face, err = typeset.Find(family, false, false)
	}
	return e, err
}

// find finds the typeface of a text, and those of its pieces where one differs.
func (e *element) find(d *design.Element) (err error) {
	if e.face, err = typeset.Find(d.Text.Typeface, d.Text.Bold, d.Text.Italic); err != nil {
		return err
	}
	differs := false
	faces := make([]*typeset.Face, len(d.Says))
	for i, piece := range d.Says {
		if faces[i], err = typeset.Find(d.Text.Typeface, d.Text.Bold || piece.Bold, d.Text.Italic ||
			piece.Italic); err != nil {
			return err
		}
		differs = differs || faces[i] != e.face
	}
	if differs {
		e.faces = faces
	}
	return nil
}

func findFields(says []design.Piece, fields []string) (pieces []piece) {
	for _, p := range says {
		made := piece{text: p.Text, field: noField, name: p.Field, element: -1, changes: p.Changes}
		if p.Field != "" {
			if made.field = slices.Index(fields, p.Field); made.field < 0 {
				made.field = missingField
			}
		}
		pieces = append(pieces, made)
	}
	return pieces
}
