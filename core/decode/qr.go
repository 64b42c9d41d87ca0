package decode

import (
	"strconv"

	"golang.org/x/text/encoding/japanese"
)

// What a symbol of the QR family says (ISO/IEC 18004, 12 and 13; ISO/IEC 23941): from its modules to
// words, and from words to text.

// qrHeads tell how the segments of a kind of symbol begin: how long mode indicators and counts are, and
// what the indicators mean.
type qrHeads struct {
	indicator  int         // bits
	modes      map[int]int // what an indicator stands for
	counts     [4]int      // bits of the counts of numeric, alphanumeric, byte and kanji
	terminator int         // bits of the end; none is needed where the data ends
}

// The modes, and what stands between segments.
const (
	numeric = iota
	alphanumeric
	byteMode
	kanjiMode
	fnc1First
	eciMode
	ended
)

// text reads segments up to the end.
func (h *qrHeads) text(s *stream) (Message, error) {
	w, isGS1 := newWriter(), false
	for {
		if s.left() < h.indicator || s.left() <= h.terminator && s.peek(s.left()) == 0 {
			break
		}
		if h.terminator > 0 && s.left() >= h.terminator && s.peek(h.terminator) == 0 {
			break
		}
		mode, known := h.modes[s.take(h.indicator)]
		if !known {
			return Message{}, ErrData
		}
		switch mode {
		case ended:
			return w.message(isGS1), nil
		case fnc1First:
			isGS1 = true
		case eciMode:
			if s.peek(1) == 1 { // a designator of more than one byte: none here
				return Message{}, ErrData
			}
			w.setECI(s.take(8))
		default:
			if err := h.segment(s, w, mode, isGS1); err != nil {
				return Message{}, err
			}
		}
	}
	return w.message(isGS1), nil
}

func (h *qrHeads) segment(s *stream, w *writer, mode int, isGS1 bool) error {
	count := s.take(h.counts[mode])
	need := [4]int{(count*10 + 2) / 3, (count*11 + 1) / 2, 8 * count, 13 * count}[mode]
	if s.left() < need {
		return ErrData
	}
	switch mode {
	case numeric:
		for ; count > 0; count -= 3 {
			n := min(count, 3)
			digits := strconv.Itoa(s.take([4]int{0, 4, 7, 10}[n]))
			for range n - len(digits) {
				w.byte('0')
			}
			if len(digits) > n {
				return ErrData
			}
			w.bytes(digits)
		}
	case alphanumeric:
		return h.pairs(s, w, count, isGS1)
	case byteMode:
		for range count {
			w.byte(byte(s.take(8)))
		}
	case kanjiMode:
		for range count {
			value := s.take(13)
			jis := value/0xC0<<8 | value%0xC0
			if jis += 0x8140; jis > 0x9FFC {
				jis += 0xC140 - 0x8140
			}
			text, err := japanese.ShiftJIS.NewDecoder().Bytes([]byte{byte(jis >> 8), byte(jis)})
			if err != nil {
				return ErrData
			}
			w.characters(string(text))
		}
	}
	return nil
}

// pairs reads alphanumeric characters. In GS1 data % is a function character, and two are the sign.
func (h *qrHeads) pairs(s *stream, w *writer, count int, isGS1 bool) error {
	const letters = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:"
	var text []byte
	for ; count > 1; count -= 2 {
		pair := s.take(11)
		if pair >= 45*45 {
			return ErrData
		}
		text = append(text, letters[pair/45], letters[pair%45])
	}
	if count == 1 {
		one := s.take(6)
		if one >= len(letters) {
			return ErrData
		}
		text = append(text, letters[one])
	}
	for i := 0; i < len(text); i++ {
		if c := text[i]; c != '%' || !isGS1 {
			w.byte(c)
		} else if i+1 < len(text) && text[i+1] == '%' {
			w.byte('%')
			i++
		} else {
			w.byte(groupSeparator)
		}
	}
	return nil
}

// QRWords reads the words of data of a QR Code of a version, its errors corrected already.
func QRWords(words []byte, version int) (Message, error) {
	h := qrHeads{indicator: 4, terminator: 4, modes: map[int]int{0: ended, 1: numeric, 2: alphanumeric, 4: byteMode,
		5: fnc1First, 7: eciMode, 8: kanjiMode}}
	switch {
	case version < 10:
		h.counts = [4]int{10, 9, 8, 8}
	case version < 27:
		h.counts = [4]int{12, 11, 16, 10}
	default:
		h.counts = [4]int{14, 13, 16, 12}
	}
	return h.text(streamOf(words))
}

// codeWalk reads modules two columns at a time from the right, upwards first, leaving out those that are
// not data; column skip stands alone.
func codeWalk(m *Modules, skip int, isData func(x, y int) bool, flip func(x, y int) bool) (read []bool) {
	up := true
	for x := m.Width - 1; x >= 0; x -= 2 {
		if x == skip {
			x--
		}
		for i := range m.Height {
			y := i
			if up {
				y = m.Height - 1 - i
			}
			for _, column := range []int{x, x - 1} {
				if column >= 0 && isData(column, y) {
					read = append(read, m.At(column, y) != flip(column, y))
				}
			}
		}
		up = !up
	}
	return read
}

// wordsOf packs bits into words of eight; what is left over is left out.
func wordsOf(read []bool) []byte {
	words := make([]byte, len(read)/8)
	for i := range words {
		for _, bit := range read[8*i : 8*i+8] {
			words[i] <<= 1
			if bit {
				words[i] |= 1
			}
		}
	}
	return words
}

// finderHere tells whether a finder and its light edge stand in a corner at x, y.
func finderHere(m *Modules, x, y int) bool {
	for dy := range 7 {
		for dx := range 7 {
			ring := min(dx, dy, 6-dx, 6-dy)
			if m.At(x+dx, y+dy) != (ring != 1) {
				return false
			}
		}
	}
	return true
}

// qrTimes has the products of each element of GF(256) with x^8+x^4+x^3+x^2+1 (ISO/IEC 18004, 7.5.2) and the powers of
// its root 2 that generators have.
var qrTimes = func() (times [68][256]byte) {
	for i := range times[0] {
		product := i
		for power := range times {
			times[power][i] = byte(product)
			if product <<= 1; product > 255 {
				product ^= 0x11D
			}
		}
	}
	return times
}()

// qrDivides tells whether the generator of so many check words divides a block: whether it is nought at each of the
// generator's roots.
func qrDivides(block []byte, check int) bool {
	for power := range check {
		value := byte(0)
		for _, word := range block {
			value = qrTimes[power][value] ^ word
		}
		if value != 0 {
			return false
		}
	}
	return true
}

// QRVersion returns the version of a QR Code by its size; 0: it has none.
func QRVersion(m *Modules) int {
	version := (m.Width - 17) / 4
	if m.Width != m.Height || version < 1 || version > 40 || m.Width != 17+4*version {
		return 0
	}
	return version
}
