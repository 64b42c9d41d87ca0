package symbology

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"oddspool/core/codewords"
	"oddspool/core/gs1"
)

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
		return wrong(name, 0, "Aztec Code needs at least one character.")
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
		n, err := strconv.Atoi(strings.TrimSuffix(o.Level, "%"))
		if err != nil || n < 5 || n > 95 {
			return wrong(name, 0, "The error correction of %s is from 5 to 95 per cent, not %s.", name, o.Level)
		}
		percent = n
	}
	if len(data) > most {
		return wrong(name, 0, "%d characters are too many for %s.", len(data), name)
	}
	aztecWrite(w, data, isGS1)
	if o.Form != "" && o.Form != "compact" && o.Form != "full" && o.Form != "rune" {
		return wrong(name, 0, "The forms of %s are compact, full and rune, and there is no %s.", name, o.Form)
	}
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
	return wrong(name, 0, "This is too much for one %s%s with %d per cent of error correction. Say less, or "+
		"choose less.", form, name, percent)
}

// aztecRune makes a rune: a bull's eye with a number from 0 to 255 in the message round it (annex A).
func (s *Symbol) aztecRune(text string) error {
	const name, most = "Aztec rune", 255
	n, err := strconv.Atoi(text)
	if err != nil || n < 0 || n > most || len(text) > len("255") {
		return wrong(name, 0, "An Aztec rune says a number from 0 to %d, and “%s” is none.", most, text)
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

var aztecFields = map[int]*codewords.Field{4: codewords.NewField(16, 0x13), 6: codewords.NewField(64, 0x43),
	8: codewords.NewField(256, 0x12D), 10: codewords.NewField(1024, 0x409), 12: codewords.NewField(4096, 0x1069)}

// An aztecStep is the cheapest way to a mode before a byte of the data.
type aztecStep struct {
	bits  int // so far
	from  int // the mode before
	back  int // bytes taken: 0 for a latch
	shift int // the mode in which they were said
}

const aztecInBytes = aztecModes // as a mode shifted to

// An aztecMove is one step of a way through data.
type aztecMove struct {
	aztecStep
	at, to int // the byte it begins before, and the mode after it
}

// aztecWay returns the way through data that takes the fewest bits, found by looking at every way through the modes. In
// gs1 data the byte fnc1 is the function character.
func aztecWay(data []byte, isGS1 bool) (moves []aztecMove) {
	const never = math.MaxInt / 2
	steps := make([][aztecModes]aztecStep, len(data)+1)
	for i := range steps {
		for mode := range aztecModes {
			steps[i][mode].bits = never
		}
	}
	steps[0][aztecUpper].bits = 0
	relax := func(i, mode int, step aztecStep) {
		if step.bits < steps[i][mode].bits {
			steps[i][mode] = step
		}
	}
	// where a long run of bytes is best begun: bits less eight for each byte before
	var long [aztecModes]struct{ bits, from int }
	since := 0 // where a run of bytes may begin: a function character is no byte
	for i := range steps {
		if i == 0 || isGS1 && data[i-1] == fnc1 {
			since = i
			for mode := range long {
				long[mode].bits = never
			}
		}
		for mode := range aztecMixed + 1 { // runs of bytes that end here
			for n := 1; n <= min(i-since, aztecShortBytes); n++ {
				relax(i, mode, aztecStep{steps[i-n][mode].bits + 10 + 8*n, mode, n, aztecInBytes})
			}
			if from := i - aztecShortBytes - 1; from >= since {
				if bits := steps[from][mode].bits - 8*from; bits < long[mode].bits {
					long[mode].bits, long[mode].from = bits, from
				}
				if n := i - long[mode].from; n <= aztecMostBytes {
					relax(i, mode, aztecStep{long[mode].bits + 21 + 8*i, mode, n, aztecInBytes})
				}
			}
		}
		for range 2 {
			for mode := range aztecModes {
				for to, latch := range aztecLatches[mode] {
					bits := 0
					for _, code := range latch {
						bits += code.bits
					}
					if bits > 0 {
						relax(i, to, aztecStep{steps[i][mode].bits + bits, mode, 0, to})
					}
				}
			}
		}
		if i == len(data) {
			break
		}
		for in := range aztecModes {
			_, bits, taken := aztecValue(in, data[i:], isGS1)
			if taken == 0 {
				continue
			}
			relax(i+taken, in, aztecStep{steps[i][in].bits + bits, in, taken, in})
			for mode := range aztecModes {
				if shift := aztecShifts[mode][in]; shift.bits > 0 {
					relax(i+taken, mode, aztecStep{steps[i][mode].bits + shift.bits + bits, mode, taken, in})
				}
			}
		}
	}
	mode := 0
	for m, step := range steps[len(data)] {
		if step.bits < steps[len(data)][mode].bits {
			mode = m
		}
	}
	for i := len(data); i > 0 || mode != aztecUpper; {
		step := steps[i][mode]
		moves = append(moves, aztecMove{step, i - step.back, mode})
		i, mode = i-step.back, step.from
	}
	slices.Reverse(moves)
	return moves
}

// aztecWrite writes data in the fewest bits.
func aztecWrite(w *codewords.Bits, data []byte, isGS1 bool) {
	for _, m := range aztecWay(data, isGS1) {
		switch {
		case m.back == 0:
			for _, code := range aztecLatches[m.from][m.to] {
				w.Add(code.value, code.bits)
			}
			continue
		case m.shift == aztecInBytes:
			w.Add(aztecBytes, 5)
			if m.back <= aztecShortBytes {
				w.Add(m.back, 5)
			} else {
				w.Add(0, 5)
				w.Add(m.back-aztecShortBytes, 11)
			}
			for _, b := range data[m.at : m.at+m.back] {
				w.Add(int(b), 8)
			}
			continue
		case m.shift != m.from:
			shift := aztecShifts[m.from][m.shift]
			w.Add(shift.value, shift.bits)
		}
		value, bits, _ := aztecValue(m.shift, data[m.at:], isGS1)
		w.Add(value, bits)
	}
}

// aztecValue returns the value of the next byte or two in a mode, its bits, and the bytes taken; 0: it
// has none.
func aztecValue(mode int, data []byte, isGS1 bool) (value, bits, taken int) {
	c := data[0]
	if mode == aztecPunct {
		if isGS1 && c == fnc1 {
			return 0, 8, 1 // FLG and 0 in three bits
		}
		if len(data) > 1 {
			if i := slices.Index(aztecPairs[:], string(data[:2])); i >= 0 {
				return i + 2, 5, 2
			}
		}
	}
	if i := strings.IndexByte(aztecSets[mode], c); i > 0 && c < 0x80 {
		return i, aztecBits(mode), 1
	}
	return 0, 0, 0
}

// aztecWords cuts bits into words. A word whose bits but the last are all alike gets the other as its
// last (7.3.1.2); the end is filled with ones.
func aztecWords(w *codewords.Bits, size int) (words []uint16) {
	bit := func(i int) uint16 {
		if i >= w.Len || w.At(i) {
			return 1
		}
		return 0
	}
	for at := 0; at < w.Len; {
		var word uint16
		for i := range size - 1 {
			word = word<<1 | bit(at+i)
		}
		at += size - 1
		switch word {
		case 0:
			word = 1
		case 1<<(size-1) - 1:
			word <<= 1
		default:
			word = word<<1 | bit(at)
			at++
		}
		words = append(words, word)
	}
	return words
}

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
