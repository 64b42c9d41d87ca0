package symbology

import (
	"math"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/japanese"

	"oddspool/core/codewords"
)

// What the symbols of the QR family have in common (ISO/IEC 18004 and 23941): the data is cut into
// segments of numeric, alphanumeric, byte and kanji mode so that the whole takes the fewest bits.
//
// Readers take bytes for what they guess unless an ECI tells, and kanji for Shift JIS always. So text
// beyond ASCII is written in one of two ways, whichever is shorter: as UTF-8 behind its ECI, in which
// there are only bytes, or without an ECI as kanji with nothing but ASCII between.

// The modes of a segment (ISO/IEC 18004, table 2), as indexes.
const (
	qrNumeric = iota
	qrAlphanumeric
	qrByte
	qrKanji
	qrModes
)

const qrLetters = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:"

// A qrScheme is how a symbol writes the beginning of a segment.
type qrScheme struct {
	bits      int          // of a mode indicator
	indicator [qrModes]int //
	count     [qrModes]int // bits of the character count; 0: it has not that mode
	eci, fnc1 int          // their indicators; 0: it has none
}

// head returns the bits before the characters of a segment.
func (q *qrScheme) head(mode int) int { return q.bits + q.count[mode] }

// A qrChar is a character of the data, with what it costs in each mode, in sixths of a bit; 0: it cannot.
type qrChar struct {
	bytes string
	alnum string // in alphanumeric mode, where the sign % is doubled in GS1 data
	kanji int
	cost  [qrModes]int
}

// qrChars returns the characters of data: bytes, or, in utf8 text, characters with their kanji where
// there is one. In gs1 data the separator is % in alphanumeric mode, and a % is two (7.4.8.1).
func qrChars(data string, asText, gs1 bool) []qrChar {
	chars := make([]qrChar, 0, len(data))
	for rest := data; rest != ""; {
		size := 1
		if asText {
			_, size = utf8.DecodeRuneInString(rest)
		}
		c := qrChar{bytes: rest[:size]}
		c.cost[qrByte] = 48 * size
		switch b := rest[0]; {
		case size > 1: // its bytes would be taken for those of another set
			if c.kanji, c.cost[qrByte] = kanji(c.bytes), 0; c.kanji >= 0 {
				c.cost[qrKanji] = 78
			}
		case gs1 && (b == '%' || b == groupSeparator):
			c.alnum = "%%"[:1+strings.Count(rest[:1], "%")]
			c.cost[qrAlphanumeric] = 33 * len(c.alnum)
		case strings.IndexByte(qrLetters, b) >= 0:
			c.alnum, c.cost[qrAlphanumeric] = rest[:1], 33
		}
		if isDigit(rest[0]) {
			c.cost[qrNumeric] = 20
		}
		chars, rest = append(chars, c), rest[size:]
	}
	return chars
}

// kanji returns the 13 bits of a character of Shift JIS in kanji mode (7.4.6); -1 for others. Left out
// are the rows that JIS X 0208 does not have, and the signs that decoders take for one of two characters.
func kanji(text string) int {
	jis, err := japanese.ShiftJIS.NewEncoder().String(text)
	if err != nil || len(jis) != 2 {
		return -1
	}
	n := int(jis[0])<<8 | int(jis[1])
	switch n {
	case 0x815C, 0x815F, 0x8160, 0x8161, 0x817C, 0x8191, 0x8192, 0x81CA:
		return -1
	}
	switch {
	case n >= 0x8140 && n < 0x8540, n >= 0x889F && n <= 0x9FFC:
		n -= 0x8140
	case n >= 0xE040 && n <= 0xEAA4:
		n -= 0xC140
	default:
		return -1
	}
	return n>>8*0xC0 + n&0xFF
}

// A qrText is one way to write data: characters behind an ECI or without one.
type qrText struct {
	chars []qrChar
	eci   bool // of UTF-8
	gs1   bool // FNC1 in first position
}

// qrTexts returns the ways in which data can be written; those of plain bytes where it is no text.
func qrTexts(data string, o Options, gs1 bool) []qrText {
	if o.Bytes {
		data = string(byteOfEach(data))
	}
	if o.Bytes || isASCII(data) || !utf8.ValidString(data) {
		return []qrText{{chars: qrChars(data, false, gs1), gs1: gs1}}
	}
	ways := []qrText{{chars: qrChars(data, false, gs1), eci: true, gs1: gs1}}
	asKanji := qrText{chars: qrChars(data, true, gs1), gs1: gs1}
	for _, c := range asKanji.chars {
		// In Shift JIS \ and ~ are other signs, so that some readers give those beside kanji.
		if len(c.bytes) > 1 && c.cost[qrKanji] == 0 || c.bytes == `\` || c.bytes == "~" {
			return ways
		}
	}
	return append(ways, asKanji)
}

// qrShortest writes data in the way that takes the fewest bits in a scheme; nil where it cannot be.
func (q *qrScheme) shortest(ways []qrText) *codewords.Bits {
	var best *codewords.Bits
	for _, way := range ways {
		if way.eci && q.eci == 0 || way.gs1 && q.fnc1 == 0 {
			continue
		}
		bits := &codewords.Bits{}
		if way.eci {
			bits.Add(q.eci, q.bits)
			bits.Add(utf8ECI, 8)
		}
		if way.gs1 {
			bits.Add(q.fnc1, q.bits)
		}
		if q.write(bits, way.chars) && (best == nil || bits.Len < best.Len) {
			best = bits
		}
	}
	return best
}

// write writes the characters in the segments that take the fewest bits together: the best way to have
// each character in each mode is known from the best ways for the one before. It tells whether there
// is a way at all.
func (q *qrScheme) write(bits *codewords.Bits, chars []qrChar) bool {
	const never = math.MaxInt / 2
	from := make([][qrModes]uint8, len(chars)) // the mode before, of the best way to have a character in a mode
	var best [qrModes]int
	for mode := range best {
		best[mode] = never
		if q.count[mode] > 0 {
			best[mode] = 6 * q.head(mode)
		}
	}
	for i, c := range chars {
		var now [qrModes]int
		for mode := range now {
			now[mode] = never
			if c.cost[mode] == 0 || q.count[mode] == 0 {
				continue
			}
			for before := range best {
				cost := best[before]
				if before != mode {
					if i == 0 {
						continue
					}
					cost = (cost+5)/6*6 + 6*q.head(mode) // a segment ends on a whole bit
				}
				if cost < never && cost+c.cost[mode] < now[mode] {
					now[mode], from[i][mode] = cost+c.cost[mode], uint8(before)
				}
			}
		}
		best = now
	}
	mode := 0
	for m := range best {
		if (best[m]+5)/6 < (best[mode]+5)/6 {
			mode = m
		}
	}
	if best[mode] >= never {
		return false
	}
	modes := make([]int, len(chars))
	for i := len(chars) - 1; i >= 0; i-- {
		modes[i] = mode
		mode = int(from[i][mode])
	}
	for i := 0; i < len(chars); {
		end := i
		for end < len(chars) && modes[end] == modes[i] {
			end++
		}
		if !q.segment(bits, chars[i:end], modes[i]) {
			return false
		}
		i = end
	}
	return true
}

// segment writes a segment, unless its count is more than there are bits for: then the symbol has no
// room for it anyway.
func (q *qrScheme) segment(bits *codewords.Bits, chars []qrChar, mode int) bool {
	var all strings.Builder
	for _, c := range chars {
		if mode == qrAlphanumeric {
			all.WriteString(c.alnum)
		} else {
			all.WriteString(c.bytes)
		}
	}
	data, count := all.String(), all.Len()
	if mode == qrKanji {
		count = len(chars)
	}
	if count >= 1<<q.count[mode] {
		return false
	}
	bits.Add(q.indicator[mode], q.bits)
	bits.Add(count, q.count[mode])
	switch mode {
	case qrNumeric:
		for ; data != ""; data = data[min(3, len(data)):] {
			digits := data[:min(3, len(data))]
			bits.Add(number(digits), 1+3*len(digits))
		}
	case qrAlphanumeric:
		for ; len(data) > 1; data = data[2:] {
			bits.Add(strings.IndexByte(qrLetters, data[0])*45+strings.IndexByte(qrLetters, data[1]), 11)
		}
		if data != "" {
			bits.Add(strings.IndexByte(qrLetters, data[0]), 6)
		}
	case qrByte:
		for i := range len(data) {
			bits.Add(int(data[i]), 8)
		}
	case qrKanji:
		for _, c := range chars {
			bits.Add(c.kanji, 13)
		}
	}
	return true
}

// qrPad ends and pads data words up to a capacity in bits: the terminator, zeros up to a whole word, and
// the two words that take turns (7.4.9 and 7.4.10). A last half word is filled with zeros.
func qrPad(bits *codewords.Bits, capacity, terminator int) {
	bits.Add(0, min(terminator, capacity-bits.Len))
	bits.Add(0, min((8-bits.Len%8)%8, capacity-bits.Len))
	for pad := 0xEC; bits.Len < capacity; pad ^= 0xEC ^ 0x11 {
		if capacity-bits.Len < 8 {
			pad = 0
		}
		bits.Add(pad, min(8, capacity-bits.Len))
	}
}

// qrField is GF(256) with x^8+x^4+x^3+x^2+1 (7.5.2).
var qrField = codewords.NewField(256, 0x11D)

// qrGenerators are those of so many check words.
var qrGenerators = func() (all [69][]int) {
	for n := 1; n < len(all); n++ {
		all[n] = qrField.Generator(n, 0)
	}
	return all
}()

// qrInterleave cuts data into blocks, of which the last ones are one word longer where it does not come
// out even, adds the check words of each, and takes them in turn (7.6).
func qrInterleave(data []byte, blocks, check int) []byte {
	short := blocks - len(data)%blocks
	words, checks := make([][]byte, blocks), make([][]byte, blocks)
	at := 0
	for i := range words {
		n := len(data) / blocks
		if i >= short {
			n++
		}
		words[i] = data[at : at+n]
		checks[i] = codewords.Check(qrField, words[i], qrGenerators[check])
		at += n
	}
	out := make([]byte, 0, len(data)+blocks*check)
	for i := range len(words[blocks-1]) {
		for _, block := range words {
			if i < len(block) {
				out = append(out, block[i])
			}
		}
	}
	for i := range check {
		for _, block := range checks {
			out = append(out, block[i])
		}
	}
	return out
}

// bch returns data with its check bits, as the polynomial says, which has one bit more than them (annex C).
func bch(data, check, polynomial int) int {
	rest := data << check
	for i := 24; i >= check; i-- {
		if rest>>i&1 == 1 {
			rest ^= polynomial << (i - check)
		}
	}
	return data<<check | rest
}

// qrOrder returns the modules that are free as bits are placed in them: two columns at a time from the right, upwards
// and downwards in turn (7.7.3). Column skip holds nothing but a timing pattern and stands between two pairs; -1: there
// is none.
func qrOrder(m *Matrix, fixed []bool, skip int) (order []int) {
	up := true
	for right := m.Width - 1; right >= 0; right -= 2 {
		if right == skip {
			right--
		}
		for i := range m.Height {
			y := i
			if up {
				y = m.Height - 1 - i
			}
			for x := right; x >= max(right-1, 0); x-- {
				if at := y*m.Width + x; !fixed[at] {
					order = append(order, at)
				}
			}
		}
		up = !up
	}
	return order
}

// qrColumns places bits in the modules that are free.
func qrColumns(m *Matrix, fixed []bool, skip int, bit func(i int) bool) {
	for i, at := range qrOrder(m, fixed, skip) {
		m.Dark[at] = bit(i)
	}
}
