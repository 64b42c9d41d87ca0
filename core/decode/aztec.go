package decode

import "fmt"

// AztecBits reads the bits of data of an Aztec Code, its errors corrected and the filling bits of its words
// taken out already (ISO/IEC 24778, 8): codes of five bits, or four among digits, in five modes.
func AztecBits(data []bool) (Message, error) {
	s := &stream{data: data}
	w := newWriter()
	isGS1 := false
	mode, shifted := aztecUpper, -1
	for first := true; ; first = false {
		now := mode
		if shifted >= 0 {
			now, shifted = shifted, -1
		}
		size := 5
		if now == aztecDigit {
			size = 4
		}
		if s.left() < size {
			return w.message(isGS1), nil
		}
		code := s.take(size)
		said := aztecCodes[now][code]
		switch {
		case said.text != "":
			w.bytes(said.text)
		case said.latch != 0:
			mode = said.latch - 1
		case said.shift != 0:
			shifted = said.shift - 1
			if shifted == aztecPunct && s.peek(8) == 0 && s.left() >= 8 && first { // FLG(0) before all else
				s.take(8)
				isGS1, shifted = true, -1
			}
		case said.bytes:
			if !aztecRun(s, w) {
				return w.message(isGS1), nil
			}
		case now == aztecPunct && code == 0:
			if s.left() < 3 {
				return w.message(isGS1), nil
			}
			if err := aztecFLG(s, w); err != nil {
				return Message{}, err
			}
		default:
			return Message{}, ErrData
		}
	}
}

// The modes.
const (
	aztecUpper = iota
	aztecLower
	aztecMixed
	aztecPunct
	aztecDigit
)

// aztecSaid is what a code says: text, or where it leads, the number of the mode and one.
type aztecSaid struct {
	text         string
	latch, shift int
	bytes        bool
}

// aztecCodes are the codes of each mode (table 2).
var aztecCodes = func() (codes [5][32]aztecSaid) {
	letters := func(mode, from int, texts ...string) {
		for i, text := range texts {
			codes[mode][from+i].text = text
		}
	}
	for i := range 26 {
		codes[aztecUpper][2+i].text = string(rune('A' + i))
		codes[aztecLower][2+i].text = string(rune('a' + i))
	}
	for _, mode := range []int{aztecUpper, aztecLower, aztecMixed, aztecDigit} {
		codes[mode][0].shift = aztecPunct + 1
		codes[mode][1].text = " "
	}
	for _, mode := range []int{aztecUpper, aztecLower, aztecMixed} {
		codes[mode][31].bytes = true
	}
	codes[aztecUpper][28].latch, codes[aztecUpper][29].latch, codes[aztecUpper][30].latch = aztecLower+1, aztecMixed+1,
		aztecDigit+1
	codes[aztecLower][28].shift, codes[aztecLower][29].latch, codes[aztecLower][30].latch = aztecUpper+1, aztecMixed+1,
		aztecDigit+1
	codes[aztecMixed][28].latch, codes[aztecMixed][29].latch, codes[aztecMixed][30].latch = aztecLower+1, aztecUpper+1,
		aztecPunct+1
	codes[aztecPunct][31].latch = aztecUpper + 1
	codes[aztecDigit][14].latch, codes[aztecDigit][15].shift = aztecUpper+1, aztecUpper+1
	letters(aztecMixed, 2, "\x01", "\x02", "\x03", "\x04", "\x05", "\x06", "\x07", "\b", "\t", "\n", "\v", "\f", "\r",
		"\x1b", "\x1c", "\x1d", "\x1e", "\x1f", "@", "\\", "^", "_", "`", "|", "~", "\x7f")
	letters(aztecPunct, 1, "\r", "\r\n", ". ", ", ", ": ", "!", "\"", "#", "$", "%", "&", "'", "(", ")", "*", "+", ",",
		"-", ".", "/", ":", ";", "<", "=", ">", "?", "[", "]", "{", "}")
	letters(aztecDigit, 2, "0", "1", "2", "3", "4", "5", "6", "7", "8", "9", ",", ".")
	return codes
}()

// aztecRun reads a run of bytes; false: the data ends within.
func aztecRun(s *stream, w *writer) bool {
	if s.left() < 5 {
		return false
	}
	n := s.take(5)
	if n == 0 {
		if s.left() < 11 {
			return false
		}
		n = s.take(11) + 31
	}
	for range n {
		if s.left() < 8 {
			return false
		}
		w.byte(byte(s.take(8)))
	}
	return true
}

// aztecFLG reads a flag: a function character, or the digits of an ECI.
func aztecFLG(s *stream, w *writer) error {
	digits := s.take(3)
	switch digits {
	case 0:
		w.byte(groupSeparator)
		return nil
	case 7:
		return ErrData
	}
	eci := 0
	for range digits {
		digit := s.take(4) - 2
		if digit < 0 || digit > 9 {
			return ErrData
		}
		eci = eci*10 + digit
	}
	w.setECI(eci)
	return nil
}

// runeSize is the size of a symbol that is nothing but a bull's eye with a message round it.
const runeSize = 11

// ring reads the bits round the bull's eye from its top left on, so many on each side, and looks at their check
// words, four bits each (7.2). Each word is turned over as the mask says.
func ring(m *Modules, eye, words, data, mask int) (value int, err error) {
	centre := m.Width / 2
	at := func(i int) int { return centre - eye + 2 + i }
	if words == 10 { // the reference grid of full symbols runs between
		at = func(i int) int { return centre - eye + 2 + i + i/5 }
	}
	places := make([][2]int, 0, 4*words)
	for i := range words {
		places = append(places, [2]int{at(i), centre - eye})
	}
	for i := range words {
		places = append(places, [2]int{centre + eye, at(i)})
	}
	for i := words - 1; i >= 0; i-- {
		places = append(places, [2]int{at(i), centre + eye})
	}
	for i := words - 1; i >= 0; i-- {
		places = append(places, [2]int{centre - eye, at(i)})
	}
	read := make([]byte, words)
	for i, place := range places {
		read[i/4] = read[i/4]<<1 | byte(bit(m.At(place[0], place[1])))
	}
	for i := range read {
		read[i] ^= byte(mask)
	}
	if !rightWords(read, words-data, 1, 16, 0x13) {
		return 0, ErrCheck
	}
	for _, word := range read[:data] {
		value = value<<4 | int(word)
	}
	return value, nil
}

// aztecMessage reads the message round the bull's eye: whether the symbol is compact, how many layers it has,
// and how many words of data. A symbol that could be either is what its message says.
func aztecMessage(m *Modules) (compact bool, layers, words int, err error) {
	if m.Width != m.Height || m.Width < 15 || m.Width%2 == 0 {
		return false, 0, 0, ErrPattern
	}
	if (m.Width-11)%4 == 0 && m.Width <= 27 {
		if value, err := ring(m, 5, 7, 2, 0); err == nil && value>>6+1 == (m.Width-11)/4 {
			return true, value>>6 + 1, value&63 + 1, nil
		}
	}
	value, err := ring(m, 7, 10, 4, 0)
	return false, value>>11 + 1, value&2047 + 1, err
}

// aztecRune reads a rune: a number in the message, which is written turned over in turn (annex A).
func aztecRune(m *Modules) (Message, error) {
	value, err := ring(m, 5, 7, 2, 0b1010)
	text := fmt.Sprintf("%03d", value)
	return Message{Text: text, Raw: text}, err
}
