// Package symbology turns data into codes: what each symbology can hold, how it is encoded, and
// how large it becomes in whole modules. It knows no printer; it is told how many dots a module has.
//
// Each symbology has a file of its own, which cites its standard.
package symbology

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"unicode/utf8"

	"oddspool/core/gs1"
)

// An ID names a symbology in design files.
type ID string

// A Symbol is an encoded code. A linear one has the widths of its bars and spaces; a 2D one has a
// matrix of modules. The zero value is ready for Encode, which reuses it.
type Symbol struct {
	// Of a linear code: widths in modules, alternately bar and space, beginning and ending with a
	// bar. Where Ratio is set there are two widths, 1 for narrow and 2 for wide.
	Widths []uint8
	Ratio  float64
	Long   []int // indexes in Widths of the guard bars, which reach down into the readable text

	Matrix    Matrix // of a 2D code; empty for a linear one
	RowHeight int    // modules that a row of the matrix is tall; 0: 1

	QuietBefore int // modules that must stay light before the first bar
	QuietAfter  int // and after the last
	QuietAbove  int // and, for a 2D code, above and below

	Elements []gs1.Element // what GS1 data is made of

	Text  string  // the human-readable text
	Parts []Words // where its parts stand under the bars, where the standard says so; else nil
	Reads string  // what a reader says that knows nothing of check characters and escapes

	Guessed bool // it has letters of western Europe and does not say so: some readers take them for others

	values []uint8 // symbol characters, kept between calls so that encoding allocates nothing
}

// Words are a part of the readable text with the modules that it stands under, from the first bar;
// below 0 it stands in the quiet zone.
type Words struct {
	Text     string
	From, To int
}

// A Matrix is the modules of a 2D code, row by row.
type Matrix struct {
	Width, Height int
	Dark          []bool
}

// At tells whether a module is dark.
func (m *Matrix) At(x, y int) bool { return m.Dark[y*m.Width+x] }

func (m *Matrix) set(x, y int, dark bool) { m.Dark[y*m.Width+x] = dark }

// resize empties the matrix and gives it another size.
func (m *Matrix) resize(w, h int) {
	m.Width, m.Height = w, h
	m.Dark = append(m.Dark[:0], make([]bool, w*h)...)
}

// Is2D tells whether the symbol is a matrix.
func (s *Symbol) Is2D() bool { return s.Matrix.Width > 0 }

// Rows returns how tall a 2D symbol is in modules, without its quiet zones; 0 for a linear one.
func (s *Symbol) Rows() int { return s.Matrix.Height * max(s.RowHeight, 1) }

// WideDots returns the dots of a wide bar at so many dots a module: the ratio, to the nearest dot,
// and never as narrow as a narrow one.
func (s *Symbol) WideDots(module int) int {
	return max(int(math.Round(s.Ratio*float64(module))), module+1)
}

// AppendDots appends the widths of bars and spaces in dots. Each bar is so many dots narrower than it
// is meant to be, to make up for ink that spreads, and each space so much wider; no bar vanishes.
func (s *Symbol) AppendDots(dst []uint16, module, narrower int) []uint16 {
	narrower = min(narrower, module-1)
	for i, width := range s.Widths {
		dots := int(width) * module
		if s.Ratio > 0 && width == 2 {
			dots = s.WideDots(module)
		}
		switch {
		case i%2 == 0:
			dots -= narrower
		case narrower != 0:
			dots += narrower
		}
		dst = append(dst, uint16(dots))
	}
	if narrower != 0 && len(s.Widths) > 0 { // what the last bar lacks is no space, but still of the symbol
		dst = append(dst, uint16(max(narrower, 0)))
	}
	return dst
}

// DotsWide returns how wide the symbol is without its quiet zones.
func (s *Symbol) DotsWide(module int) int {
	if s.Is2D() {
		return s.Matrix.Width * module
	}
	sum := 0
	for _, width := range s.Widths {
		if s.Ratio > 0 && width == 2 {
			sum += s.WideDots(module)
		} else {
			sum += int(width) * module
		}
	}
	return sum
}

// DotsWithQuiet returns how wide and, for a 2D code, how tall the symbol is with its quiet zones.
func (s *Symbol) DotsWithQuiet(module int) (wide, tall int) {
	wide = s.DotsWide(module) + (s.QuietBefore+s.QuietAfter)*module
	if s.Is2D() {
		tall = (s.Rows() + 2*s.QuietAbove) * module
	}
	return wide, tall
}

// Modules returns the width of the symbol without its quiet zones in modules, of a code of two widths
// at a wide one of twice a narrow one.
func (s *Symbol) Modules() int {
	if s.Is2D() {
		return s.Matrix.Width
	}
	sum := 0
	for _, width := range s.Widths {
		sum += int(width)
	}
	return sum
}

// A DataError says why some data cannot be held by a symbology.
type DataError struct {
	Symbology string // its name for people
	Position  int    // of the character that does not fit, from 1; 0: the data as a whole
	Reason    string
}

func (e *DataError) Error() string { return e.Reason }

// fromGS1 makes an error of GS1 data one of the symbology that was to hold it. Its position is counted from so many
// characters on.
func fromGS1(err error, from int) error {
	var data *gs1.DataError
	if !errors.As(err, &data) {
		return err
	}
	position := data.Position
	if position > 0 {
		position += from
	}
	return &DataError{"", position, data.Reason}
}

func wrong(position int, format string, args ...any) error {
	return &DataError{"", position, fmt.Sprintf(format, args...)}
}

// Encode makes s the symbol that says text. Its error is a *DataError or an *UnknownError, and s
// is empty then.
func (s *Symbol) Encode(id ID, text string, o Options) error {
	kind := Of(id)
	if kind.Encode == nil {
		s.clear()
		return &UnknownError{ID: id}
	}
	return s.EncodeAs(kind, text, o)
}

// EncodeAs is Encode for a kind that need not be listed.
func (s *Symbol) EncodeAs(kind *Kind, text string, o Options) error {
	s.clear()
	err := s.encode(kind, text, o)
	if err != nil {
		s.clear()
		if data := (*DataError)(nil); errors.As(err, &data) {
			data.Symbology = kind.Name
			data.Position = min(data.Position, utf8.RuneCountInString(text)+1)
		}
	}
	return err
}

func (s *Symbol) encode(kind *Kind, text string, o Options) error {
	if o != (Options{}) {
		var err error
		if o, err = kind.checked(o); err != nil {
			return err
		}
	}
	if len(text) > mostBytes {
		return wrong(0, "%d bytes are too many for any code.", len(text))
	}
	if o.Bytes {
		position := 0
		for _, r := range text {
			if position++; r > 0xFF {
				return wrong(position, "%s (character %d) is no byte: those are U+0000 to U+00FF.", printableRune(r),
					position)
			}
		}
	}
	s.QuietBefore, s.QuietAfter = kind.Quiet, kind.Quiet
	if kind.Is2D {
		s.QuietAbove = kind.Quiet
	}
	if err := kind.Encode(s, text, o); err != nil {
		return err
	}
	if kind.western != plainLetters && !o.Bytes {
		s.tellLetters(kind, text, o)
	}
	if kind.CheckDigit { // it holds a GTIN and does not say so
		const longest = 14
		s.Elements = append(s.Elements, gs1.Element{AI: gs1.Find("01"), Value: s.Reads[max(len(s.Reads)-longest, 0):]})
	}
	return nil
}

// mostBytes is more than any symbology holds.
const mostBytes = 8000

func (s *Symbol) clear() {
	*s = Symbol{Widths: s.Widths[:0], Elements: s.Elements[:0], Long: s.Long[:0], Parts: s.Parts[:0],
		Matrix: Matrix{Dark: s.Matrix.Dark[:0]}, values: s.values[:0]}
}

// Clone returns a symbol that shares nothing with s.
func (s *Symbol) Clone() Symbol {
	c := *s
	c.Widths, c.Long, c.Parts, c.Elements, c.values = slices.Clone(s.Widths), slices.Clone(s.Long),
		slices.Clone(s.Parts), slices.Clone(s.Elements), nil
	c.Matrix.Dark = slices.Clone(s.Matrix.Dark)
	return c
}

// printable shows control characters, which no one could read, as spaces.
func printable(text string) string {
	clean := true
	for i := range len(text) {
		clean = clean && text[i] >= 32 && text[i] != 127
	}
	if clean {
		return text
	}
	shown := []byte(text)
	for i, c := range shown {
		if c < 32 || c == 127 {
			shown[i] = ' '
		}
	}
	return string(shown)
}

// number completes a GTIN of so many digits.
func (s *Symbol) number(name, text string, length int, o Options) (string, error) {
	digits, err := gs1.Complete(name, text, length, o.CheckDigit)
	if err != nil {
		return "", fromGS1(err, 0)
	}
	return digits, nil
}

// gs1 reads element strings and keeps them.
func (s *Symbol) gs1(name, text string) ([]gs1.Element, error) {
	elements, err := gs1.Parse(text)
	if err != nil {
		return nil, fromGS1(err, 0)
	}
	s.Elements = append(s.Elements, elements...)
	return elements, nil
}

// groupSeparator is what readers send for a function character within GS1 data.
const groupSeparator = gs1.Separator

func number(digits string) int {
	n := 0
	for i := range len(digits) {
		n = n*10 + int(digits[i]-'0')
	}
	return n
}

func isDigit(c byte) bool { return c >= '0' && c <= '9' }

func isASCII(text string) bool {
	for i := range len(text) {
		if text[i] >= utf8.RuneSelf {
			return false
		}
	}
	return true
}
