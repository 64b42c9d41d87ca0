package design

import (
	"encoding/json"
	"slices"
	"strings"

	"oddspool/core/formula"
	"oddspool/core/measure"
	"oddspool/core/picture"
	"oddspool/core/stock"
	"oddspool/core/symbology"
)

// A Kind is a kind of element.
type Kind string

// The kinds of element.
const (
	Text Kind = "text" // words
	Code Kind = "code" // a bar code
	Line Kind = "line" // a filled bar of the element's size
	Box  Kind = "box"  // a rectangle, its corners rounded where it says so
	Oval Kind = "oval" // an ellipse that fills its box

	Picture Kind = "picture" // a picture as dots of one ink
	Symbol  Kind = "symbol"  // a symbol of the library, as large as its box allows
	// what is written into the chip of the label: it is not printed, its box is where the inlay lies
	Tag Kind = "tag"
)

// An Element is one thing on the label. Its box is what it was given; what it really takes is
// known once it is composed.
type Element struct {
	ID     string         `json:"id"`
	Kind   Kind           `json:"kind"`
	X      measure.Length `json:"x"`
	Y      measure.Length `json:"y"`
	Width  measure.Length `json:"width"`
	Height measure.Length `json:"height"`
	Turn   measure.Turn   `json:"turn,omitempty"` // of the content in its box, clockwise
	// of a text besides, in degrees clockwise about the middle of its box
	Angle   float64        `json:"angle,omitempty"`
	Locked  bool           `json:"locked,omitempty"`
	Hidden  bool           `json:"hidden,omitempty"`  // it is not printed
	Group   string         `json:"group,omitempty"`   // name of those that are chosen and moved together
	When    *Condition     `json:"when,omitempty"`    // it stands only on labels of such records
	Ink     stock.Ink      `json:"ink,omitempty"`     // empty: black, or the nearest there is
	Says    []Piece        `json:"says,omitempty"`    // text and code: joined without anything between
	IfEmpty EmptyRule      `json:"ifEmpty,omitempty"` // what it means when all it says is empty
	Text    *TextLooks     `json:"text,omitempty"`    // of a text
	Code    *CodeLooks     `json:"code,omitempty"`    // of a code
	Weight  measure.Length `json:"weight,omitempty"`  // of an outline, at least one dot
	Picture *PictureLooks  `json:"picture,omitempty"` // of a picture
	Symbol  *SymbolLooks   `json:"symbol,omitempty"`  // of a symbol
	Tag     *TagLooks      `json:"tag,omitempty"`     // of a tag
	Shape   *Shape         `json:"shape,omitempty"`   // of a box or an oval, and of a line that is not plain

	// of a box or an oval: it is a frame round these elements, wherever they are
	Around   []string       `json:"around,omitempty"`
	Distance measure.Length `json:"distance,omitempty"` // from them to the frame
}

// A Piece is one part of what an element says: one of Text, Field, Formula and Element is set.
type Piece struct {
	Text    string `json:"text,omitempty"`
	Field   string `json:"field,omitempty"`   // of the record, or the name of a question
	Formula string `json:"formula,omitempty"` // package formula
	Element string `json:"element,omitempty"` // what another element says

	Changes []formula.Change `json:"changes,omitempty"` // done to it one after the other

	Bold   bool `json:"bold,omitempty"`   // in a text that is not
	Italic bool `json:"italic,omitempty"` // in a text that is not
}

// MarshalJSON implements json.Marshaler: a text that is empty is written too, since a piece says what it is.
func (p Piece) MarshalJSON() ([]byte, error) {
	type plain Piece
	if p.Text+p.Field+p.Formula+p.Element != "" {
		return json.Marshal(plain(p))
	}
	return json.Marshal(struct {
		Text string `json:"text"`
		plain
	}{"", plain(p)})
}

// A Condition tells on which labels an element stands, by a field of their records.
type Condition struct {
	Field  string   `json:"field"`
	Is     Test     `json:"is"`
	Values []string `json:"values,omitempty"` // for OneOf and NoneOf
}

// A Test is what a condition asks of its field.
type Test string

// The tests.
const (
	OneOf  Test = "one of"
	NoneOf Test = "none of"
	Void   Test = "empty"
	Filled Test = "filled"
)

// Holds tells whether the condition holds for a value of its field.
func (c *Condition) Holds(value string) bool {
	switch c.Is {
	case Void:
		return strings.TrimSpace(value) == ""
	case Filled:
		return strings.TrimSpace(value) != ""
	case NoneOf:
		return !slices.Contains(c.Values, value)
	default:
		return slices.Contains(c.Values, value)
	}
}

// PictureLooks is which picture it is and how it becomes dots.
type PictureLooks struct {
	Hash    string      `json:"hash"` // of its bytes
	Name    string      `json:"name,omitempty"`
	Way     picture.Way `json:"way,omitempty"`
	Lighter int         `json:"lighter,omitempty"` // per cent; below zero darker
	Stretch bool        `json:"stretch,omitempty"` // fill the box, proportions or not
	Crop    *Crop       `json:"crop,omitempty"`    // what of it is shown; nil: all
}

// SymbolLooks is which symbol of the library it is. Where the element says something, that is the symbol, from label to
// label another, and ID is one of the same colours.
type SymbolLooks struct {
	ID      string `json:"id"`                // of package symbols
	NoFrame bool   `json:"noFrame,omitempty"` // its frame is printed on the stock already
}

// TagLooks is in which form what a tag says is written into a chip.
type TagLooks struct {
	Scheme string `json:"scheme,omitempty"` // of package epc; empty: what it says are hexadecimal digits
	Prefix int    `json:"prefix,omitempty"` // digits of the GS1 Company Prefix
	Filter int    `json:"filter,omitempty"` // of the scheme
	// application family identifier (ISO/IEC 15961-2) of digits that are no EPC
	AFI    *uint8  `json:"afi,omitempty"`
	User   []Piece `json:"user,omitempty"`   // written into user memory, as UTF-8
	Lock   TagLock `json:"lock,omitempty"`   // what is done so that it is not written over
	Access string  `json:"access,omitempty"` // password that locked memory is written with, eight hexadecimal digits
	// password that ends the chip for good, eight hexadecimal digits; empty: it is left as it is
	Kill string `json:"kill,omitempty"`
}

// A TagLock is how what was written is kept from being written over.
type TagLock string

// The locks.
const (
	Unlocked   TagLock = ""
	WithAccess TagLock = "password" // written again only with the access password
	ForGood    TagLock = "for good" // never written again
)

// A Crop is what is cut off a picture at each side, in per cent of its width or height.
type Crop struct {
	Left   float64 `json:"left,omitempty"`
	Top    float64 `json:"top,omitempty"`
	Right  float64 `json:"right,omitempty"`
	Bottom float64 `json:"bottom,omitempty"`
}

// A Shape is how a box, an oval or a line is drawn.
type Shape struct {
	Corner    measure.Length `json:"corner,omitempty"`    // radius of a box's corners
	Fill      stock.Ink      `json:"fill,omitempty"`      // empty: none
	NoOutline bool           `json:"noOutline,omitempty"` // it is only filled
	Slope     Slope          `json:"slope,omitempty"`     // of a line: from corner to corner of its box
	Dash      Dash           `json:"dash,omitempty"`      // of a line
	Arrow     Arrow          `json:"arrow,omitempty"`     // of a line
	Sides     int            `json:"sides,omitempty"`     // of an oval: a regular polygon in it, a corner at the top
	Tint      int            `json:"tint,omitempty"`      // per cent of the fill's dots; 0: all
}

// A Dash is how a line is broken.
type Dash string

// The dashes.
const (
	Dashed Dash = "dashed" // three times as long as the line is thick, twice that apart
	Dotted Dash = "dotted" // as long as it is thick, and as far apart
)

// An Arrow is which ends of a line are pointed, as one reads.
type Arrow string

// The arrows.
const (
	AtStart  Arrow = "start"
	AtEnd    Arrow = "end"
	BothEnds Arrow = "both"
)

// A Slope is where a line runs that does not lie straight.
type Slope string

// The slopes, as one reads.
const (
	Down Slope = "down" // from the top left to the bottom right
	Up   Slope = "up"   // from the bottom left to the top right
)

// Bare is the ink that lays the face bare: words in it are white out of a filled box.
const Bare stock.Ink = "bare"

// An EmptyRule is what happens when an element says nothing on some label.
type EmptyRule string

// The rules for empty elements.
const (
	SaySo    EmptyRule = ""          // an error when a field it uses is empty: the label is not printed
	LeaveOut EmptyRule = "leave out" // empty fields are left out; when all are, the element is
)

// TextLooks is how words look.
type TextLooks struct {
	Typeface string  `json:"typeface"` // a family of package typeset
	Bold     bool    `json:"bold,omitempty"`
	Italic   bool    `json:"italic,omitempty"`
	Points   float64 `json:"points"`             // size of type
	ShrinkTo float64 `json:"shrinkTo,omitempty"` // smallest size when it is too long, in points; 0: do not shrink
	Align    Align   `json:"align,omitempty"`
	Stand    Stand   `json:"stand,omitempty"`
	Wrap     bool    `json:"wrap,omitempty"`    // break into lines at the box's width
	Spacing  float64 `json:"spacing,omitempty"` // from line to line, in per cent of the typeface's own; 0: 100

	Tracking float64 `json:"tracking,omitempty"` // more room between letters, in per cent of the size of type
	// height of capitals, which the size follows; 0: Points is the size
	Capitals measure.Length `json:"capitals,omitempty"`
	Stretch  bool           `json:"stretch,omitempty"` // drawn as wide and tall as the box

	ReadFrom float64 `json:"readFrom,omitempty"` // the distance it is to be read from, in metres; 0: it was not said
}

// An Align is where lines stand between left and right.
type Align string

// The alignments.
const (
	Left   Align = "" // also written "left"
	Centre Align = "centre"
	Right  Align = "right"

	Justified Align = "justified" // of words that wrap: both edges straight, but for a paragraph's last line
)

// A Stand is where content stands between top and bottom of its box.
type Stand string

// The stands.
const (
	Top    Stand = "" // also written "top"
	Middle Stand = "middle"
	Bottom Stand = "bottom"
)

// CodeLooks is how a bar code looks. The element's box holds the symbol with its quiet zones and
// its readable text.
type CodeLooks struct {
	Symbology string         `json:"symbology"` // an identifier of package symbology
	Module    measure.Length `json:"module"`    // wanted width of the narrowest bar
	Fit       Fit            `json:"fit,omitempty"`
	Align     Align          `json:"align,omitempty"` // of the symbol in its box
	Readable  Readable       `json:"readable,omitempty"`
	Typeface  string         `json:"typeface,omitempty"` // of the readable text; empty: Liberation Mono
	Points    float64        `json:"points,omitempty"`   // of the readable text; 0: 8

	symbology.Options // what its symbology has to choose

	Narrower int `json:"narrower,omitempty"` // dots by which each bar is narrower, for ink that spreads

	Purpose symbology.Purpose `json:"purpose,omitempty"` // where it is scanned, which decides its size
	Spread  bool              `json:"spread,omitempty"`  // the readable text over the width of the bars
	// 2 or 5 digits beside an EAN or UPC; none where they are empty
	AddOn  []Piece `json:"addOn,omitempty"`
	Header []Piece `json:"header,omitempty"` // a line above the code
	Footer []Piece `json:"footer,omitempty"` // a line below it
}

// A Fit is how the wanted module becomes whole dots.
type Fit string

// The fits.
const (
	Nearest    Fit = ""            // to the nearest dot
	NotSmaller Fit = "not smaller" // to the next dot up
	Largest    Fit = "largest"     // as large as the box allows
)

// Readable tells where the human-readable text of a code stands.
type Readable string

// The places of human-readable text.
const (
	Below Readable = "" // also written "below"
	Above Readable = "above"
	None  Readable = "none"
)

// MostModule is the widest module: fifty times what any standard goes up to, and as wide as signs are read
// from afar. The schema has it too.
const MostModule = 50 * measure.Millimetre

// Default looks, used where the design says nothing.
const (
	DefaultReadableTypeface = "Liberation Mono"
	DefaultReadablePoints   = 8
)
