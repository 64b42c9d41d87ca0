package symbology

import (
	"fmt"
	"strconv"

	"oddspool/core/codewords"
	"oddspool/core/decode"
	"oddspool/core/gs1"
)

// aztecLevels is the share of check words.
var aztecLevels = Option{ID: "level", Name: "Error correction", Unset: "usual", Least: 5, Most: 95, Step: 1,
	Percent: true}

func aztecForms(forms ...string) Option {
	return Option{ID: "form", Name: "Form", Unset: "the smaller", Choices: choices(forms)}
}

// Aztec is Aztec Code.
const Aztec ID = "aztec"

var aztecKind = Kind{
	ID: Aztec, Name: "Aztec Code",
	Standard: "ISO/IEC 24778", Is2D: true, Reversed: true, Identifier: "]z0",
	Holds:   "anything: text, digits, bytes; a rune says a number up to 255",
	Example: "952N0307B-0417",
	Most:    "3,832 digits or 1,914 bytes",
	Readers: cameras,
	Uses:    "tickets, and where no room is left for a quiet zone",
	Quiet:   0, Least: 250, western: toldLetters,
	Options: []Option{aztecLevels, aztecForms("compact", "full", "rune"), westernOption},
	Encode:  (*Symbol).aztec, Modules: decode.Aztec,
}

// GS1Aztec is Aztec Code with GS1 data.
const GS1Aztec ID = "gs1-aztec"

var gs1AztecKind = Kind{
	ID: GS1Aztec, Name: "Aztec Code with GS1 data",
	Standard: "ISO/IEC 24778, annex F", Is2D: true, Reversed: true, Identifier: "]z1",
	Holds:   "GS1 application identifiers with their values",
	Example: "(01)09521234543213(10)26K104",
	Most:    "as Aztec Code",
	Readers: cameras,
	Uses:    "trade items whose partners have agreed on it",
	Quiet:   0, Least: 250, GS1: true,
	Options: []Option{aztecLevels, aztecForms("compact", "full")},
	Encode:  (*Symbol).gs1Aztec, Modules: decode.Aztec,
}

// Aztec Code (ISO/IEC 24778): data in layers round a bull's eye, which needs no quiet zone. Letters,
// digits and signs have modes of their own, and bytes go between them.

// The modes (table 2).
const (
	aztecUpper = iota
	aztecLower
	aztecMixed
	aztecPunct
	aztecDigit
	aztecModes
)

// aztecSets are the characters of each mode by their value; \xff is none. What the signs have as pairs
// stands in aztecPairs.
var aztecSets = [aztecModes]string{
	"\xff ABCDEFGHIJKLMNOPQRSTUVWXYZ",
	"\xff abcdefghijklmnopqrstuvwxyz",
	"\xff \x01\x02\x03\x04\x05\x06\x07\x08\t\n\x0b\x0c\r\x1b\x1c\x1d\x1e\x1f@\\^_`|~\x7f",
	"\xff\r\xff\xff\xff\xff!\"#$%&'()*+,-./:;<=>?[]{}",
	"\xff 0123456789,.",
}

var aztecPairs = [...]string{"\r\n", ". ", ", ", ": "} // values 2 to 5 of the signs

// An aztecCode is a value of some bits.
type aztecCode struct{ value, bits int }

// aztecLatches lead from mode to mode (table 3); nil where the way leads through another.
var aztecLatches = [aztecModes][aztecModes][]aztecCode{
	{nil, {{28, 5}}, {{29, 5}}, {{29, 5}, {30, 5}}, {{30, 5}}},
	{{{30, 5}, {14, 4}}, nil, {{29, 5}}, {{29, 5}, {30, 5}}, {{30, 5}}},
	{{{29, 5}}, {{28, 5}}, nil, {{30, 5}}, {{29, 5}, {30, 5}}},
	{{{31, 5}}, {{31, 5}, {28, 5}}, {{31, 5}, {29, 5}}, nil, {{31, 5}, {30, 5}}},
	{{{14, 4}}, {{14, 4}, {28, 5}}, {{14, 4}, {29, 5}}, {{14, 4}, {29, 5}, {30, 5}}, nil},
}

// aztecShifts lead to another mode for one character.
var aztecShifts = [aztecModes][aztecModes]aztecCode{
	aztecUpper: {aztecPunct: {0, 5}}, aztecLower: {aztecPunct: {0, 5}, aztecUpper: {28, 5}},
	aztecMixed: {aztecPunct: {0, 5}}, aztecDigit: {aztecPunct: {0, 4}, aztecUpper: {15, 4}},
}

const (
	aztecBytes      = 31 // the shift to bytes, in letters and the mixed set
	aztecShortBytes = 31 // as many bytes as the short count tells
	aztecMostBytes  = 2047 + aztecShortBytes
	aztecMostWords  = 64 // of data in a compact symbol
)

func aztecBits(mode int) int {
	if mode == aztecDigit {
		return 4
	}
	return 5
}

func (s *Symbol) aztec(text string, o Options) error {
	const name = "Aztec Code"
	if text == "" {
		return wrong(0, "Aztec Code needs at least one character.")
	}
	w := &codewords.Bits{}
	if o.Form == "rune" {
		return s.aztecRune(text)
	}
	data, eci := plainBytes(text, o)
	if eci > 0 { // FLG(n) and the n digits of its ECI
		digits := strconv.Itoa(eci)
		for _, code := range []aztecCode{{0, 5}, {0, 5}, {len(digits), 3}} {
			w.Add(code.value, code.bits)
		}
		for _, digit := range []byte(digits) {
			w.Add(int(digit-'0')+2, 4)
		}
	}
	if err := s.aztecSymbol(name, w, data, false, o); err != nil {
		return err
	}
	s.Text, s.Reads = printable(text), text
	return nil
}

// gs1Aztec begins with FLG(0), the function character that says so.
func (s *Symbol) gs1Aztec(text string, o Options) error {
	elements, err := s.gs1("Aztec Code with GS1 data", text)
	if err != nil {
		return err
	}
	w := &codewords.Bits{}
	for _, code := range []aztecCode{{0, 5}, {0, 5}, {0, 3}} {
		w.Add(code.value, code.bits)
	}
	if err := s.aztecSymbol("Aztec Code with GS1 data", w, gs1.Data(gs1.Order(elements), fnc1), true, o); err != nil {
		return err
	}
	s.Text, s.Reads = gs1.Text(elements), string(gs1.Data(gs1.Order(elements), groupSeparator))
	return nil
}

func (s *Symbol) aztecSymbol(name string, w *codewords.Bits, data []byte, isGS1 bool, o Options) error {
	const usual, most = 23, 4000 // per cent, as the standard recommends (6); more bytes than any symbol holds
	percent := usual
	if o.Level != "" {
		percent, _ = strconv.Atoi(o.Level)
	}
	if len(data) > most {
		return wrong(0, "%d characters are too many for %s.", len(data), name)
	}
	aztecWrite(w, data, isGS1)
	for _, size := range aztecSizes {
		if o.Form == "compact" && !size.compact || o.Form == "full" && size.compact || o.Form == "" && !size.compact &&
			size.layers < aztecLeastFull {
			continue
		}
		words := aztecWords(w, size.word)
		all := size.bits() / size.word
		if size.compact && len(words) > aztecMostWords || len(words)+(all*percent+99)/100+3 > all {
			continue
		}
		s.aztecDraw(size, words, all)
		return nil
	}
	form := ""
	if o.Form != "" {
		form = o.Form + " "
	}
	return wrong(0, "This is too much for one %s%s with %d per cent of error correction. Say less, or "+
		"choose less.", form, name, percent)
}

// aztecRune makes a rune: a bull's eye with a number from 0 to 255 in the message round it (annex A).
func (s *Symbol) aztecRune(text string) error {
	const name, most = "Aztec rune", 255
	n, err := strconv.Atoi(text)
	if err != nil || n < 0 || n > most || len(text) > len("255") {
		return wrong(0, "An Aztec rune says a number from 0 to %d, and “%s” is none.", most, text)
	}
	const eye = 5
	s.aztecEye(2*eye+1, eye)
	s.aztecRing([]byte{byte(n >> 4), byte(n & 15)}, 5, eye, eye, 0b1010)
	s.Text, s.Reads = strconv.Itoa(n), fmt.Sprintf("%03d", n)
	return nil
}

// An aztecSize is a size of a symbol (table 1).
type aztecSize struct {
	compact bool
	layers  int
	word    int // bits of a word
}

func (a aztecSize) bits() int {
	if a.compact {
		return (88 + 16*a.layers) * a.layers
	}
	return (112 + 16*a.layers) * a.layers
}

// aztecLeastFull are the layers of the smallest full symbol that holds more than a compact one: others
// are made only when a full one is asked for.
const aztecLeastFull = 4

// aztecSizes are the sizes: compact ones, then full ones, each from the smallest on.
var aztecSizes = func() (sizes []aztecSize) {
	word := func(layers int) int {
		switch {
		case layers <= 2:
			return 6
		case layers <= 8:
			return 8
		case layers <= 22:
			return 10
		}
		return 12
	}
	for layers := 1; layers <= 4; layers++ {
		sizes = append(sizes, aztecSize{true, layers, word(layers)})
	}
	for layers := 1; layers <= 32; layers++ {
		sizes = append(sizes, aztecSize{false, layers, word(layers)})
	}
	return sizes
}()

// aztecDraw draws the layers, the bull's eye and the message round it (7.3.2 to 7.3.4).
func (s *Symbol) aztecDraw(size aztecSize, words []uint16, all int) {
	f := aztecFields[size.word]
	data := len(words)
	words = append(words, codewords.Check(f, words, f.Generator(all-data, 1))...)
	bits := make([]bool, size.bits()%size.word, size.bits())
	for _, word := range words {
		for i := size.word - 1; i >= 0; i-- {
			bits = append(bits, word>>i&1 == 1)
		}
	}
	base := 14 + 4*size.layers
	eye, inner := 7, 12
	if size.compact {
		base, eye, inner = 11+4*size.layers, 5, 9
	}
	width, at := base, make([]int, base) // where lines without those of the reference grid come to lie
	if size.compact {
		for i := range at {
			at[i] = i
		}
	} else {
		width = base + 1 + 2*((base/2-1)/15)
		for i := range base / 2 {
			at[base/2-i-1] = width/2 - i - i/15 - 1
			at[base/2+i] = width/2 + i + i/15 + 1
		}
	}
	centre := width / 2
	s.Matrix.resize(width, width)
	for layer := range size.layers {
		side := (size.layers-layer)*4 + inner
		for j := range side {
			for k := range 2 {
				near, far := at[2*layer+k], at[base-1-2*layer-k]
				along, back := at[2*layer+j], at[base-1-2*layer-j]
				s.Matrix.set(near, along, bits[2*j+k])
				s.Matrix.set(along, far, bits[2*side+2*j+k])
				s.Matrix.set(far, back, bits[4*side+2*j+k])
				s.Matrix.set(back, near, bits[6*side+2*j+k])
			}
		}
		bits = bits[8*side:]
	}
	if !size.compact { // the reference grid
		for line := 0; line/16*15 <= base/2-1; line += 16 {
			for k := centre % 2; k < width; k += 2 {
				for _, place := range []int{centre - line, centre + line} {
					s.Matrix.set(place, k, true)
					s.Matrix.set(k, place, true)
				}
			}
		}
	}
	s.aztecEye(width, eye)
	s.aztecMessage(size, data, centre, eye)
}

// aztecEye draws the bull's eye in the middle of a symbol, and the marks that tell which way it is turned. A
// symbol that is nothing more gets its size.
func (s *Symbol) aztecEye(width, eye int) {
	if s.Matrix.Width == 0 {
		s.Matrix.resize(width, width)
	}
	centre := width / 2
	for ring := 0; ring < eye; ring += 2 {
		for i := -ring; i <= ring; i++ {
			for _, side := range []int{-ring, ring} {
				s.Matrix.set(centre+i, centre+side, true)
				s.Matrix.set(centre+side, centre+i, true)
			}
		}
	}
	for _, mark := range [][2]int{{-eye, -eye}, {-eye + 1, -eye}, {-eye, -eye + 1}, {eye, -eye}, {eye, -eye + 1},
		{eye, eye - 1}} {
		s.Matrix.set(centre+mark[0], centre+mark[1], true)
	}
}

// aztecMessage draws the message that tells layers and words, round the bull's eye.
func (s *Symbol) aztecMessage(size aztecSize, data, centre, eye int) {
	message, n, check := (size.layers-1)<<11|(data-1), 4, 6
	if size.compact {
		message, n, check = (size.layers-1)<<6|(data-1), 2, 5
	}
	var nibbles []byte
	for i := n - 1; i >= 0; i-- {
		nibbles = append(nibbles, byte(message>>(4*i)&15))
	}
	s.aztecRing(nibbles, check, centre, eye, 0)
}

// aztecRing draws words of four bits and their check words round the bull's eye, each turned over where a
// mask says so: that of runes tells them from compact symbols.
func (s *Symbol) aztecRing(nibbles []byte, check, centre, eye int, mask byte) {
	f := aztecFields[4]
	nibbles = append(nibbles, codewords.Check(f, nibbles, f.Generator(check, 1))...)
	bit := func(i int) bool { return (nibbles[i/4]^mask)>>(3-i%4)&1 == 1 }
	side := len(nibbles) // bits on each side
	for i := range side {
		offset := centre - eye + 2 + i
		if side > 7 {
			offset += i / 5 // the reference grid of full symbols runs between
		}
		s.Matrix.set(offset, centre-eye, bit(i))
		s.Matrix.set(centre+eye, offset, bit(side+i))
		s.Matrix.set(offset, centre+eye, bit(3*side-1-i))
		s.Matrix.set(centre-eye, offset, bit(4*side-1-i))
	}
}
