package symbology

import (
	"strings"

	"oddspool/core/gs1"
)

type dataBarBits struct {
	bits    []bool
	length  int // where the length field stands; 0: there is none
	columns int
	numeric bool // the general purpose field ended in numeric mode
	last    byte // a last digit that is not written yet
}

func (w *dataBarBits) add(value, bits int) {
	for i := bits - 1; i >= 0; i-- {
		w.bits = append(w.bits, value>>i&1 == 1)
	}
}

// openLength leaves room for the two bits that tell the symbol's length.
func (w *dataBarBits) openLength() {
	w.length = len(w.bits)
	w.add(0, 2)
}

// gtin packs twelve digits, three in ten bits.
func (w *dataBarBits) gtin(digits string) {
	for at := 0; at < len(digits); at += 3 {
		w.add(number(digits[at:at+3]), 10)
	}
}

// weights packs a variable measure item of which only weight, and perhaps a date, is told (methods
// 0100, 0101 and 0111000 to 0111111).
func (w *dataBarBits) weights(elements []gs1.Element) bool {
	if len(elements) < 2 || len(elements) > 3 || elements[0].AI.AI != "01" || elements[0].Value[0] != '9' ||
		len(elements[1].AI.AI) != 4 {
		return false
	}
	item, ai := elements[0].Value[1:13], elements[1].AI.AI
	pounds := ai[:3] == "320"
	if ai[:3] != "310" && !pounds || elements[1].Value[0] != '0' {
		return false
	}
	weight := number(elements[1].Value)
	if len(elements) == 2 {
		switch {
		case ai == "3103" && weight <= 32_767:
			w.add(0b0100, 4)
			w.gtin(item)
			w.add(weight, 15)
			return true
		case ai == "3202" && weight <= 9999, ai == "3203" && weight <= 22_767:
			w.add(0b0101, 4)
			w.gtin(item)
			if ai == "3203" {
				weight += 10_000
			}
			w.add(weight, 15)
			return true
		}
	}
	const noDate = 38_400
	method, date := 0b0111000, noDate
	if len(elements) == 3 {
		which := strings.Index("11 13 15 17", elements[2].AI.AI)
		if len(elements[2].AI.AI) != 2 || which < 0 || which%3 != 0 {
			return false
		}
		method += 2 * (which / 3)
		v := elements[2].Value
		date = number(v[:2])*384 + (number(v[2:4])-1)*32 + number(v[4:])
	}
	if pounds {
		method++
	}
	w.add(method, 7)
	w.gtin(item)
	w.add(int(ai[3]-'0')*100_000+weight, 20)
	w.add(date, 16)
	return true
}

// The modes of the general purpose field (7.2.5.5).
const (
	dataBarNumeric = iota
	dataBarAlpha
	dataBarISO
)

// general writes the general purpose field: at each place in the mode that takes the fewest bits for
// all that follows. It begins in numeric mode.
func (w *dataBarBits) general(data string) {
	if data == "" {
		w.numeric = true
		return
	}
	n := len(data)
	// cost[i][m]: bits for data[i:] when in mode m; to[i][m] the mode to be in.
	const never = 1 << 20
	cost := make([][3]int, n+3)
	to := make([][3]int, n+3)
	for i := n + 1; i < len(cost); i++ {
		cost[i] = [3]int{never, never, never}
	}
	for i := n - 1; i >= 0; i-- {
		own := [3]int{never, never, never}
		switch {
		case i+1 < n && numericPair(data[i], data[i+1]):
			own[dataBarNumeric] = 7 + cost[i+2][dataBarNumeric]
		case i+1 == n && isDigit(data[i]):
			own[dataBarNumeric] = 7
		}
		if bits := alphaBits(data[i]); bits > 0 {
			own[dataBarAlpha] = bits + cost[i+1][afterFNC1(data[i], dataBarAlpha)]
		}
		own[dataBarISO] = isoBits(data[i]) + cost[i+1][afterFNC1(data[i], dataBarISO)]
		for mode := range 3 {
			cost[i][mode], to[i][mode] = own[mode], mode
			for next := range 3 {
				if c := own[next] + dataBarLatches[mode][next].bits; next != mode && c < cost[i][mode] {
					cost[i][mode], to[i][mode] = c, next
				}
			}
		}
	}
	mode := dataBarNumeric
	for i := 0; i < n; {
		if next := to[i][mode]; next != mode {
			for _, latch := range dataBarLatches[mode][next].path {
				w.add(latch.value, latch.bits)
			}
			mode = next
		}
		switch c := data[i]; mode {
		case dataBarNumeric:
			if i+1 == n {
				w.last = c
				w.numeric = true
				return
			}
			w.add(11*numericValue(c)+numericValue(data[i+1])+8, 7)
			i += 2
		case dataBarAlpha:
			w.add(alphaValue(c), alphaBits(c))
			mode = afterFNC1(c, mode)
			i++
		default:
			w.add(isoValue(c), isoBits(c))
			mode = afterFNC1(c, mode)
			i++
		}
	}
	w.numeric = mode == dataBarNumeric
}

// afterFNC1 returns the mode after a character: a function character outside numeric mode latches it.
func afterFNC1(c byte, mode int) int {
	if c == fnc1 {
		return dataBarNumeric
	}
	return mode
}

type dataBarLatch struct{ value, bits int }

type dataBarWay struct {
	path []dataBarLatch
	bits int
}

// dataBarLatches are the ways from mode to mode.
var dataBarLatches = [3][3]dataBarWay{
	{{}, {[]dataBarLatch{{0, 4}}, 4}, {[]dataBarLatch{{0, 4}, {4, 5}}, 9}},
	{{[]dataBarLatch{{0, 3}}, 3}, {}, {[]dataBarLatch{{4, 5}}, 5}},
	{{[]dataBarLatch{{0, 3}}, 3}, {[]dataBarLatch{{4, 5}}, 5}, {}},
}

// numericPair tells whether two characters go into seven bits: digits, and one of them may be FNC1.
func numericPair(a, b byte) bool {
	return (isDigit(a) || a == fnc1) && (isDigit(b) || b == fnc1) && !(a == fnc1 && b == fnc1)
}

func numericValue(c byte) int {
	if c == fnc1 {
		return 10
	}
	return int(c - '0')
}

const (
	alphaSigns = "*,-./"
	isoSigns   = "!\"%&'()*+,-./:;<=>?_ "
)

func alphaBits(c byte) int {
	switch {
	case isDigit(c), c == fnc1:
		return 5
	case c >= 'A' && c <= 'Z', strings.IndexByte(alphaSigns, c) >= 0:
		return 6
	}
	return 0
}

func alphaValue(c byte) int {
	switch {
	case c == fnc1:
		return 15
	case isDigit(c):
		return int(c-'0') + 5
	case c >= 'A' && c <= 'Z':
		return int(c-'A') + 32
	}
	return 58 + strings.IndexByte(alphaSigns, c)
}

func isoBits(c byte) int {
	switch {
	case isDigit(c), c == fnc1:
		return 5
	case c >= 'A' && c <= 'Z', c >= 'a' && c <= 'z':
		return 7
	}
	return 8
}

func isoValue(c byte) int {
	switch {
	case c == fnc1:
		return 15
	case isDigit(c):
		return int(c-'0') + 5
	case c >= 'A' && c <= 'Z':
		return int(c-'A') + 64
	case c >= 'a' && c <= 'z':
		return int(c-'a') + 90
	}
	return 232 + strings.IndexByte(isoSigns, c)
}

// end writes a last digit, tells the length and fills the last character up (7.2.5.5.3).
func (w *dataBarBits) end() (bits []bool, ok bool) {
	const character = 12
	fill := func(least int) int {
		n := max((least+character-1)/character, dataBarExpandedLeast-1)
		if w.columns > 0 && w.columns*2 < n+1 && (n+1)%(w.columns*2) == 1 {
			n++ // no row has but one character (7.2.8)
		}
		return n
	}
	if w.last != 0 {
		digit := int(w.last - '0')
		if free := fill(len(w.bits)+4)*character - len(w.bits); free >= 4 && free <= 6 {
			w.add(digit+1, 4)
		} else {
			w.add(11*digit+10+8, 7)
		}
	}
	n := fill(len(w.bits))
	if n+1 > dataBarExpandedMost {
		return nil, false
	}
	if w.length > 0 {
		w.bits[w.length] = (n+1)%2 == 1
		w.bits[w.length+1] = n+1 > 14
	}
	filled := n * character
	if w.numeric && len(w.bits) < filled {
		w.add(0, min(4, filled-len(w.bits)))
	}
	for at := 0; len(w.bits) < filled; at++ {
		w.bits = append(w.bits, at%5 == 2)
	}
	return w.bits, true
}
