package symbology

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"oddspool/core/codewords"
	"oddspool/core/decode"
	"oddspool/core/gs1"
)

var (
	dmSizeOption  = Option{ID: "size", Name: "Size", Unset: "the smallest", Choices: dmSizeChoices()}
	dmShapeOption = Option{ID: "shape", Name: "Shape", Unset: "the smaller",
		Choices: choices([]string{"square", "rectangle"})}
)

func dmSizeChoices() (sizes []Choice) {
	for _, size := range dmSizes {
		sizes = append(sizes, Choice{size.name(), size.name()})
	}
	return sizes
}

// DataMatrix is Data Matrix.
const DataMatrix ID = "datamatrix"

var dataMatrixKind = Kind{
	ID: DataMatrix, Name: "Data Matrix",
	Standard: "ISO/IEC 16022", Is2D: true, Reversed: true, Identifier: "]d1",
	Holds:   "anything: digits, letters, bytes",
	Example: "952N0307B-0417",
	Most:    "3,116 digits, 2,335 letters or 1,555 bytes",
	Readers: cameras,
	Uses:    "the smallest code for its data: parts, boards, small labels",
	Quiet:   1, Least: 250, western: toldLetters,
	Options: []Option{dmSizeOption, dmShapeOption, westernOption},
	Encode:  (*Symbol).dataMatrix, Modules: decode.DataMatrix,
}

// GS1DataMatrix is GS1 DataMatrix.
const GS1DataMatrix ID = "gs1-datamatrix"

var gs1DataMatrixKind = Kind{
	ID: GS1DataMatrix, Name: "GS1 DataMatrix",
	Standard: "GS1 General Specifications 5.5", Is2D: true, Reversed: true, Identifier: "]d2",
	Holds:   "GS1 application identifiers with their values",
	Example: "(01)09521234543213(10)26K104",
	Most:    "as Data Matrix",
	Readers: cameras,
	Uses:    "medicines, instruments, direct marking",
	Quiet:   1, Least: 254, GS1: true,
	Sizes:   gs1MatrixSizes,
	Options: []Option{dmSizeOption, dmShapeOption},
	Encode:  (*Symbol).gs1DataMatrix, Modules: decode.DataMatrix,
}

// Data Matrix ECC 200 (ISO/IEC 16022). The data is written in the modes that take the fewest words:
// every mode is entered from ASCII and left to it, so the best way to write what is left is known from
// the best ways to write what follows it.

// dmSize is one size of symbol (table 7): its modules, the modules of a region of data, and its words.
type dmSize struct {
	w, h             int
	regionW, regionH int
	data, check      int
	blocks           int
}

// suits tells whether the size is among those that are asked for.
func (s dmSize) suits(o Options) bool {
	return (o.Size == "" || o.Size == s.name()) && (o.Shape == "" || (o.Shape == "square") == (s.w == s.h))
}

// name is how the size is asked for: rows by columns.
func (s dmSize) name() string { return fmt.Sprintf("%dx%d", s.h, s.w) }

var dmSizes = []dmSize{
	{10, 10, 8, 8, 3, 5, 1}, {12, 12, 10, 10, 5, 7, 1}, {18, 8, 16, 6, 5, 7, 1}, {14, 14, 12, 12, 8, 10, 1},
	{32, 8, 14, 6, 10, 11, 1},
	{16, 16, 14, 14, 12, 12, 1}, {26, 12, 24, 10, 16, 14, 1}, {18, 18, 16, 16, 18, 14, 1}, {20, 20, 18, 18, 22, 18, 1},
	{36, 12, 16, 10, 22, 18, 1},
	{22, 22, 20, 20, 30, 20, 1}, {36, 16, 16, 14, 32, 24, 1}, {24, 24, 22, 22, 36, 24, 1}, {26, 26, 24, 24, 44, 28, 1},
	{48, 16, 22, 14, 49, 28, 1},
	{32, 32, 14, 14, 62, 36, 1}, {36, 36, 16, 16, 86, 42, 1}, {40, 40, 18, 18, 114, 48, 1},
	{44, 44, 20, 20, 144, 56, 1}, {48, 48, 22, 22, 174, 68, 1},
	{52, 52, 24, 24, 204, 84, 2}, {64, 64, 14, 14, 280, 112, 2}, {72, 72, 16, 16, 368, 144, 4},
	{80, 80, 18, 18, 456, 192, 4}, {88, 88, 20, 20, 576, 224, 4},
	{96, 96, 22, 22, 696, 272, 4}, {104, 104, 24, 24, 816, 336, 6}, {120, 120, 18, 18, 1050, 408, 6},
	{132, 132, 20, 20, 1304, 496, 8}, {144, 144, 22, 22, 1558, 620, 10},
}

// dmField is GF(256) with x^8+x^5+x^3+x^2+1 (5.7).
var dmField = codewords.NewField(256, 0x12D)

var dmGenerators = map[int][]int{}

func init() {
	for _, size := range dmSizes {
		n := size.check / size.blocks
		dmGenerators[n] = dmField.Generator(n, 1)
	}
}

// dmFNC1 stands for the function character 1 among the characters of the data.
const dmFNC1 = 256

// Words with a meaning of their own in ASCII mode (table 2).
const (
	dmPad        = 129
	dmC40        = 230
	dmBase256    = 231
	dmFNC1Word   = 232
	dmUpperShift = 235
	dmX12        = 238
	dmText       = 239
	dmEDIFACT    = 240
	dmECI        = 241
	dmUnlatch    = 254
)

func (s *Symbol) dataMatrix(text string, o Options) error {
	if text == "" {
		return wrong(0, "Data Matrix needs at least one character.")
	}
	bytes, eci := plainBytes(text, o)
	var before []byte
	if eci > 0 {
		before = []byte{dmECI, byte(eci + 1)}
	} else if macro, inside, ok := dmMacro(bytes); ok {
		before, bytes = []byte{macro}, inside
	}
	chars := make([]uint16, len(bytes))
	for i, b := range bytes {
		chars[i] = uint16(b)
	}
	s.Text, s.Reads = printable(text), text
	return s.dmSymbol("Data Matrix", before, chars, o)
}

// dmMacro takes away what Macro 05 and 06 stand for: the beginning and the end of a message in the formats
// of ISO/IEC 15434 that have these numbers (5.2.4.7).
func dmMacro(data []byte) (macro byte, inside []byte, ok bool) {
	const begin, end, firstMacro = "[)>\x1e05\x1d", "\x1e\x04", 236
	n := len(begin)
	if len(data) < n+len(end) || string(data[len(data)-len(end):]) != end {
		return 0, nil, false
	}
	for i, format := range []string{begin, strings.Replace(begin, "05", "06", 1)} {
		if string(data[:n]) == format {
			return byte(firstMacro + i), data[n : len(data)-len(end)], true
		}
	}
	return 0, nil, false
}

// plainBytes returns the bytes that say text: of ISO/IEC 8859-1, which is what codes hold without being
// told, or the text's own, and the number of the ECI that they need; 0: none.
func plainBytes(text string, o Options) (bytes []byte, eci int) {
	if o.Bytes {
		return byteOfEach(text), 0
	}
	bytes, latin := latin1(text)
	switch {
	case latin && o.tellsLetters:
		return bytes, latin1ECI
	case !latin && utf8.ValidString(text):
		return bytes, utf8ECI
	}
	return bytes, 0
}

// byteOfEach returns the byte of each character's number.
func byteOfEach(text string) []byte {
	bytes := make([]byte, 0, len(text))
	for _, r := range text {
		bytes = append(bytes, byte(r))
	}
	return bytes
}

// latin1 returns text in ISO/IEC 8859-1; where it has other characters, its own bytes.
func latin1(text string) (bytes []byte, ok bool) {
	if !utf8.ValidString(text) {
		return []byte(text), false
	}
	for _, r := range text {
		if r > 0xFF || r >= 0x80 && r < 0xA0 { // what lies between the halves readers take for other sets
			return []byte(text), false
		}
		bytes = append(bytes, byte(r))
	}
	return bytes, true
}

func (s *Symbol) gs1DataMatrix(text string, o Options) error {
	elements, err := s.gs1("GS1 DataMatrix", text)
	if err != nil {
		return err
	}
	data := gs1.Data(gs1.Order(elements), groupSeparator)
	chars := make([]uint16, len(data))
	for i, b := range data {
		chars[i] = uint16(b)
		if b == groupSeparator {
			chars[i] = dmFNC1
		}
	}
	s.Text, s.Reads = gs1.Text(elements), string(data)
	return s.dmSymbol("GS1 DataMatrix", []byte{dmFNC1Word}, chars, o)
}

func (s *Symbol) dmSymbol(name string, before []byte, chars []uint16, o Options) error {
	closed := dmEncode(chars, false, len(before))
	open := dmEncode(chars, true, len(before))
	for _, size := range dmSizes {
		if !size.suits(o) {
			continue
		}
		words := closed
		if len(before)+len(closed) > size.data {
			if len(before)+len(open) != size.data { // a mode may be left open only where the symbol ends
				continue
			}
			words = open
		}
		s.dmDraw(size, append(append([]byte{}, before...), words...))
		return nil
	}
	of, other := name, "spread it over two"
	switch {
	case o.Size != "":
		of, other = fmt.Sprintf("%s of %s modules", name, o.Size), "choose a larger one"
	case o.Shape == "rectangle":
		of, other = "rectangular "+name, "choose a square one"
	}
	most := 0
	for _, size := range dmSizes {
		if size.suits(o) {
			most = max(most, size.data)
		}
	}
	if most == 0 {
		return wrong(0, "No %s of %s modules is a %s. Leave out its size or its shape.", name, o.Size, o.Shape)
	}
	return wrong(0, "This is too much for one %s, which holds %d words and needs %d. Say less, or %s.", of, most,
		len(before)+min(len(closed), len(open)), other)
}

// dmDraw pads the words, adds their check words, and places all of them in the symbol (5.2.3, 5.7,
// annex F).
func (s *Symbol) dmDraw(size dmSize, words []byte) {
	for first := true; len(words) < size.data; first = false {
		pad := dmPad
		if !first {
			if pad += 149*(len(words)+1)%253 + 1; pad > 254 {
				pad -= 254
			}
		}
		words = append(words, byte(pad))
	}
	all := append(append(make([]byte, 0, size.data+size.check), words...), make([]byte, size.check)...)
	n := size.check / size.blocks
	for block := range size.blocks {
		var data []byte
		for i := block; i < size.data; i += size.blocks {
			data = append(data, words[i])
		}
		place := block
		if size.blocks == 10 { // in 144 × 144 the check words begin with those of the ninth block
			place = (block + 2) % 10
		}
		for i, b := range codewords.Check(dmField, data, dmGenerators[n]) {
			all[size.data+place+i*size.blocks] = b
		}
	}
	across, down := size.w/(size.regionW+2), size.h/(size.regionH+2)
	w, h := across*size.regionW, down*size.regionH
	bits := dmPlace(w, h, all)
	m := &s.Matrix
	m.resize(size.w, size.h)
	for y := range size.h {
		for x := range size.w {
			rx, ry := x%(size.regionW+2), y%(size.regionH+2)
			switch {
			case rx == 0 || ry == size.regionH+1: // the solid sides of a region
				m.set(x, y, true)
			case ry == 0: // and its dashed ones
				m.set(x, y, rx%2 == 0)
			case rx == size.regionW+1:
				m.set(x, y, ry%2 == 1)
			default:
				m.set(x, y, bits[(y/(size.regionH+2)*size.regionH+ry-1)*w+x/(size.regionW+2)*size.regionW+rx-1])
			}
		}
	}
}

// dmPlace places words into a mapping matrix (annex F.3).
func dmPlace(w, h int, words []byte) []bool {
	bits, taken := make([]bool, w*h), make([]bool, w*h)
	n := 0
	module := func(row, col, bit int) {
		if row < 0 {
			row, col = row+h, col+4-(h+4)%8
		}
		if col < 0 {
			row, col = row+4-(w+4)%8, col+w
		}
		taken[row*w+col] = true
		bits[row*w+col] = n < len(words) && words[n]>>(8-bit)&1 == 1
	}
	shape := func(row, col int, at [8][2]int) {
		for i, p := range at {
			module(row+p[0], col+p[1], i+1)
		}
		n++
	}
	utah := [8][2]int{{-2, -2}, {-2, -1}, {-1, -2}, {-1, -1}, {-1, 0}, {0, -2}, {0, -1}, {0, 0}}
	for row, col := 4, 0; row < h || col < w; {
		switch {
		case row == h && col == 0:
			shape(0, 0, [8][2]int{{h - 1, 0}, {h - 1, 1}, {h - 1, 2}, {0, w - 2}, {0, w - 1}, {1, w - 1}, {2, w - 1},
				{3, w - 1}})
		case row == h-2 && col == 0 && w%4 != 0:
			shape(0, 0, [8][2]int{{h - 3, 0}, {h - 2, 0}, {h - 1, 0}, {0, w - 4}, {0, w - 3}, {0, w - 2}, {0, w - 1},
				{1, w - 1}})
		case row == h-2 && col == 0 && w%8 == 4:
			shape(0, 0, [8][2]int{{h - 3, 0}, {h - 2, 0}, {h - 1, 0}, {0, w - 2}, {0, w - 1}, {1, w - 1}, {2, w - 1},
				{3, w - 1}})
		case row == h+4 && col == 2 && w%8 == 0:
			shape(0, 0, [8][2]int{{h - 1, 0}, {h - 1, w - 1}, {0, w - 3}, {0, w - 2}, {0, w - 1}, {1, w - 3},
				{1, w - 2}, {1, w - 1}})
		}
		for ; row >= 0 && col < w; row, col = row-2, col+2 {
			if row < h && col >= 0 && !taken[row*w+col] {
				shape(row, col, utah)
			}
		}
		for row, col = row+1, col+3; row < h && col >= 0; row, col = row+2, col-2 {
			if row >= 0 && col < w && !taken[row*w+col] {
				shape(row, col, utah)
			}
		}
		row, col = row+3, col+1
	}
	if !taken[w*h-1] {
		bits[w*h-1], bits[w*h-w-2] = true, true
	}
	return bits
}
