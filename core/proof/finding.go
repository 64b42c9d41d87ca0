// Package proof looks for what is wrong with labels before one is printed: text that does not
// fit, codes that cannot be made, quiet zones that are cut, and codes that, read back from the
// very dots that will be printed, say something else than was meant.
//
// A Checker looks at one label after the other:
//
//	compose and draw the label (core/compose), as it will be printed
//	each element   does it fit, is it on the label, can the printer show its ink     looks.go, symbol.go, picture.go
//	each code      is its module what the standard has, is its quiet zone free       finding.go
//	               read its dots back: modules → words → text, by a reader that
//	               is not made of the encoder (core/decode)                          readback.go
//	safety labels  what their rules asked of the layout still holds                  demands.go
//	tags           the chip has room, and says what the code says                    tag.go
//
// All does so for a batch on all cores, keeps one finding of each kind with its records (a Group),
// and looks for codes that say the same twice. The same Checker compares what a camera saw.
package proof

import (
	"errors"
	"fmt"
	"strings"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/gs1"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/core/symbology"
)

// A Level is how bad a finding is.
type Level int

// The levels, from harmless to bad.
const (
	Fine    Level = iota
	Warning       // the label is printed; somebody should look
	Error         // the label is not printed
)

// String gives the level's name in JSON.
func (l Level) String() string { return [...]string{"fine", "warning", "error"}[l] }

// MarshalText writes the level as String does.
func (l Level) MarshalText() ([]byte, error) { return []byte(l.String()), nil }

// UnmarshalText reads what MarshalText writes.
func (l *Level) UnmarshalText(text []byte) error {
	for level := Fine; level <= Error; level++ {
		if level.String() == string(text) {
			*l = level
			return nil
		}
	}
	return fmt.Errorf("the level %q is not known", text)
}

// A Kind is a kind of finding.
type Kind string

// The kinds of finding.
const (
	FieldGone    Kind = "field-gone"     // the records lack a field that is used
	Empty        Kind = "empty"          // an element says nothing
	TooLong      Kind = "too-long"       // words stick out of their box and are cut
	NoGlyph      Kind = "no-glyph"       // no typeface has a character
	BadData      Kind = "bad-data"       // the code cannot hold what it should say
	CodeTooBig   Kind = "code-big"       // a code is larger than its box
	OffLabel     Kind = "off-label"      // something reaches over the edge
	NoPrint      Kind = "no-print"       // something lies where the printer cannot print, or must not
	NoInk        Kind = "no-ink"         // the printer cannot show an ink on this stock
	LowContrast  Kind = "low-contrast"   // a scanner cannot tell the bars from what they stand on
	ModuleRange  Kind = "module-range"   // the module is smaller or larger than the standard has it
	LongCode     Kind = "long-code"      // a code is longer than GS1 has it
	LowBars      Kind = "low-bars"       // bars are lower than the standard has them
	Ladder       Kind = "ladder"         // bars lie across the feed, and the printer is fast
	GS1Lacks     Kind = "gs1-lacks"      // GS1 data needs other data with it
	QuietCut     Kind = "quiet-cut"      // a quiet zone is not free
	ReadsOther   Kind = "reads-other"    // read back, a code says something else or nothing
	Overlap      Kind = "overlap"        // a text lies over another element
	Guessed      Kind = "guessed"        // readers guess letters of western Europe
	Spaces       Kind = "spaces"         // a code begins or ends with white space
	Twice        Kind = "twice"          // a code says the same on two records
	NarrowBars   Kind = "narrow-bars"    // too much is taken away from bars
	OtherModule  Kind = "other-module"   // the dots of the printer make another module than was wanted
	NearCut      Kind = "near-cut"       // bars end where the label is cut out
	NoFigures    Kind = "no-figures"     // a code's figures stand nowhere
	PlainBracket Kind = "plain-brackets" // GS1 data in a code that takes it as letters
	BadLink      Kind = "bad-link"       // a plain code with a Digital Link that is wrong
	CodesDiffer  Kind = "codes-differ"   // two codes say different values of one identifier
	TextDiffers  Kind = "text-differs"   // a text says nearly what a code says
	GS1Dates     Kind = "gs1-dates"      // dates that cannot be
	GS1Measure   Kind = "gs1-measure"    // a measure that is missing, or that should not be
	BadFormula   Kind = "bad-formula"    // a formula or a change of a value gives nothing
	Untranslated Kind = "untranslated"   // fixed words are not known in the language of a label
	NoEncoder    Kind = "no-encoder"     // the printer writes no tags
	NoInlay      Kind = "no-inlay"       // the stock has no chip
	TagRoom      Kind = "tag-room"       // the chip has no room for it
	OverChip     Kind = "over-chip"      // a code lies over the chip
	OpenKill     Kind = "open-kill"      // the password that ends a chip can be read by whoever reads it
	ChipOther    Kind = "chip-other"     // chip and code say different things
	BlankLabel   Kind = "blank-label"    // nothing is on it
	Jagged       Kind = "jagged"         // a picture is blown up until its dots are seen
	Blob         Kind = "blob"           // a picture becomes nearly all dark, or bare
	SmallType    Kind = "small-type"     // letters are too small to be told apart
	Tint         Kind = "tint"           // the dots of a tint will not hold
	NoSymbol     Kind = "no-symbol"      // the library does not have a symbol
	SmallSymbol  Kind = "small-symbol"   // a symbol is too small to be told
	UnderSize    Kind = "under-size"     // a symbol is smaller than its rule asks
	SymbolColour Kind = "symbol-colour"  // a symbol is not in its colours

	// What the rules of a safety label ask, and it does not keep to.
	SafetyColour   Kind = "safety-colour"   // a field, or what stands on it, has another colour
	SafetyLetters  Kind = "safety-letters"  // letters are too low
	SafetyWidth    Kind = "safety-width"    // something is too narrow
	SafetyHeight   Kind = "safety-height"   // something is too low
	SafetyWords    Kind = "safety-words"    // it says something else
	SafetyPresence Kind = "safety-presence" // it is not on the label
	SafetyKnown    Kind = "safety-known"    // the label was not laid out for such a record
)

// A Finding is one thing wrong with one label.
type Finding struct {
	Level   Level  `json:"level"`
	Kind    Kind   `json:"kind"`
	Record  int    `json:"record"`           // from 1
	Element string `json:"element"`          // its id
	Text    string `json:"text"`             // what is wrong
	Do      string `json:"do"`               // what helps
	Demand  int    `json:"demand,omitempty"` // of the design, from 1, that a person can overrule; 0: none

	Rule   string         `json:"rule"`             // by its code
	Values map[string]any `json:"values,omitempty"` // of the rule's sentences
}

// A Checker finds what is wrong with the labels of one design. It is not safe for concurrent use;
// Clone makes another.
type Checker struct {
	design   *design.Design
	composer *compose.Composer
	press    *compose.Press
	layers   render.Layers
	reader   reader
	frame    render.Box     // of the artwork
	inks     []stock.Ink    // that can be shown
	dark     []bool         // of each layer: a scanner sees it on this stock
	light    []bool         // of each layer: a scanner sees it as light on this stock, which is dark
	areas    []stock.Area   // what can be printed, in each place of a page that differs
	lengths  measure.Length // of all pieces looked at
	elements []gs1.Element  // of all GS1 data on a label
	pairs    [][2]int       // of elements that may lie over each other
	shiftX   int            // dots that the set-up moves the print across the web
	shiftY   int            // and along it
}

// NewChecker prepares a checker for records with the given fields, of labels that are printed as their printer is set.
// Its error is that of compose.New.
func NewChecker(d *design.Design, fields []string) (*Checker, error) {
	return NewCheckerWith(d, fields, stock.Setup{})
}

// NewCheckerWith does as NewChecker does, for labels that are printed with a set-up: what its offsets move is looked at
// where it comes to lie.
func NewCheckerWith(d *design.Design, fields []string, setup stock.Setup) (*Checker, error) {
	composer, err := compose.New(d, fields)
	if err != nil {
		return nil, err
	}
	press := compose.NewPress(composer)
	c := &Checker{design: d, composer: composer, press: press, layers: press.NewLayers(),
		inks: stock.Inks(d.Stock, d.Printer)}
	c.frame.W, c.frame.H = composer.Size()
	c.dark, c.light = darkLayers(composer.Palette()), lightLayers(composer.Palette())
	c.pairs = overlaps(d, composer)
	c.shiftX, c.shiftY = d.Printer.Resolution.Dots(setup.Across), d.Printer.Resolution.Dots(setup.Along)
	for place := range d.Stock.PerPage() {
		area := stock.Printable(d.Stock, d.Printer, stock.Setup{Bleed: setup.Bleed}, place)
		if place == 0 || area.Left != c.areas[0].Left || area.Right != c.areas[0].Right {
			c.areas = append(c.areas, area)
		}
	}
	return c, nil
}

// Composer returns what composes the checker's labels.
func (c *Checker) Composer() *compose.Composer { return c.composer }

// Clone returns a checker of the same design for another goroutine.
func (c *Checker) Clone() *Checker {
	press := c.press.Clone()
	return &Checker{design: c.design, composer: c.composer.Clone(), press: press, layers: press.NewLayers(),
		frame: c.frame, inks: c.inks, dark: c.dark, light: c.light, areas: c.areas,
		pairs: c.pairs, shiftX: c.shiftX, shiftY: c.shiftY}
}

// Label composes, draws and reads back the label of one record, numbered from 1, and appends what
// is wrong with it.
func (c *Checker) Label(findings []Finding, number int, record []string) []Finding {
	findings, _, _ = c.Drawn(findings, number, record)
	return findings
}

// Drawn does as Label does, and returns the label with its layers as they leave the printer. They
// are the checker's own and hold until the next call.
func (c *Checker) Drawn(findings []Finding, number int, record []string) ([]Finding, *compose.Label, render.Layers) {
	c.press.Stand(number)
	label := c.draw(record)
	seen := c.layers.Flat(c.dark)
	elements := c.elements[:0]
	for i := range label.Parts {
		if part := &label.Parts[i]; part.Module > 0 {
			elements = append(elements, part.Symbol.Elements...)
		}
	}
	c.elements = elements
	for i := range label.Parts {
		element := &c.design.Elements[i]
		say := func(rule *Rule, values ...any) {
			findings = append(findings, rule.found(number, element.ID, values...))
		}
		part := &label.Parts[i]
		if part.Absent || !drawable(part, element, say) {
			continue
		}
		if element.Kind == design.Tag { // it is not printed
			c.tag(part, element, say)
			continue
		}
		c.looks(i, part, element, say)
		if label.Over > 0 && i == label.Last {
			say(pieceTooLong, c.tenths(label.Over), c.design.Stock.LongestPiece())
			continue
		}
		if part.Says != "" || len(element.Says) == 0 {
			c.edges(part, element, say)
		}
		if part.Module > 0 && part.Says != "" {
			c.code(part, i, seen, say)
			if err := gs1.Lacking(part.Symbol.Elements, elements); err != nil {
				say(gs1Lacks, err)
			}
			if part.Symbol.Guessed {
				rule := guessed
				if part.ID == symbology.MicroQR {
					rule = guessedForGood
				}
				say(rule)
			}
			if strings.TrimSpace(part.Says) != part.Says {
				say(spaces)
			}
		}
	}
	findings = c.over(findings, number, label)
	findings = c.agree(findings, number, label)
	findings = c.demands(findings, number, record, label)
	if len(c.design.Elements) > 0 && c.blank() { // a design that was just begun is no mistake
		findings = append(findings, blankLabel.found(number, ""))
	}
	return findings, label, c.layers
}

// drawable tells whether an element says something that can be drawn, and says why where it does not.
func drawable(part *compose.Part, element *design.Element, say sayer) bool {
	if part.Lacks != "" {
		say(fieldGone, part.Lacks)
		return false
	}
	if words := new(compose.UntranslatedError); errors.As(part.Wrong, &words) {
		say(untranslated, words)
		return false
	}
	if part.Wrong != nil {
		say(badFormula, part.Wrong)
		return false
	}
	if part.Empty {
		say(saysNothing)
		return false
	}
	if part.Blank != "" {
		say(fieldEmpty, part.Blank)
	}
	if part.CodeError == nil {
		return true
	}
	rule := badCode
	if element.Kind == design.Tag {
		rule = badTag
	}
	say(rule, part.CodeError)
	return false
}

// looks looks at an element by itself: whether it shows, and can be read by people.
func (c *Checker) looks(i int, part *compose.Part, element *design.Element, say sayer) {
	c.overChip(part, element, say)
	c.ink(element, say)
	c.picture(i, element, say)
	c.symbol(i, part, element, say)
	if part.Says != "" || len(element.Says) == 0 {
		c.contrast(i, element, say)
	}
	c.words(part, element, say)
	c.smallType(i, part, element, say)
	c.tint(element, say)
}

// draw draws the label of a record, and takes its length into account.
func (c *Checker) draw(record []string) *compose.Label {
	label := c.press.Label(c.layers, record)
	w, h := c.layers.Size()
	c.lengths += c.length(h)
	if c.design.Stock.ByContent() {
		c.frame.W, c.frame.H = c.design.Turn.Size(w, h)
	}
	return label
}

// ink says so when an element's ink cannot be shown, with the nearest that can.
func (c *Checker) ink(element *design.Element, say sayer) {
	if element.Shape != nil && element.Shape.Fill != "" && element.Shape.Fill != design.Bare &&
		!stock.Can(element.Shape.Fill, c.inks) {
		say(noFill, c.design.Printer.Name, element.Shape.Fill)
	}
	if element.Ink == "" || element.Ink == design.Bare || stock.Can(element.Ink, c.inks) {
		return
	}
	if nearest, some := stock.NearestInk(element.Ink, c.inks); some {
		say(otherInk, c.design.Printer.Name, element.Ink, nearest)
		return
	}
	say(noInk, c.design.Printer.Name, element.Ink)
}

// Placing returns which elements, by the boxes they were given, lie off the label or where it cannot
// be printed, whatever the records say.
func (c *Checker) Placing() []Finding {
	var findings []Finding
	for i := range c.design.Elements {
		element := &c.design.Elements[i]
		box := c.composer.Box(i)
		part := compose.Part{Box: box, Real: box, Bars: box}
		say := func(rule *Rule, values ...any) {
			findings = append(findings, rule.found(0, element.ID, values...))
		}
		c.ink(element, say)
		if !c.design.Stock.ByContent() {
			c.edges(&part, element, say)
		}
	}
	return findings
}

// A sayer takes down that a rule is broken: the values of its text, then those of its remedy.
type sayer func(rule *Rule, values ...any)

func (c *Checker) length(dots int) measure.Length { return c.design.Printer.Resolution.Length(dots) }

// tenths shows a length to a tenth of a millimetre, never as 0.
func (c *Checker) tenths(dots int) string {
	return fmt.Sprintf("%.1f mm", max(c.length(dots).Millimetres(), 0.1))
}
