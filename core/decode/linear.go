package decode

import (
	"math/bits"
	"slices"
	"strconv"
	"strings"
)

// Linear codes. Widths alternate between bar and space and begin and end with a bar; those of codes with
// two widths are 1 and 2.

// code128Edges tells the value of a symbol character by the distances from edge to similar edge, which is
// how scanners decode (ISO/IEC 15417, 4.6.2): bar and space together, three of them in turn.
var code128Edges = func() map[[4]int]int {
	// The characters as eleven modules, written as numbers (table 1, read as bits).
	characters := [...]int{
		0x6CC, 0x66C, 0x666, 0x498, 0x48C, 0x44C, 0x4C8, 0x4C4, 0x464, 0x648, 0x644, 0x624, 0x59C, 0x4DC, 0x4CE, 0x5CC,
		0x4EC, 0x4E6, 0x672, 0x65C, 0x64E, 0x6E4, 0x674, 0x76E, 0x74C, 0x72C, 0x726, 0x764, 0x734, 0x732, 0x6D8, 0x6C6,
		0x636, 0x518, 0x458, 0x446, 0x588, 0x468, 0x462, 0x688, 0x628, 0x622, 0x5B8, 0x58E, 0x46E, 0x5D8, 0x5C6, 0x476,
		0x776, 0x68E, 0x62E, 0x6E8, 0x6E2, 0x6EE, 0x758, 0x746, 0x716, 0x768, 0x762, 0x71A, 0x77A, 0x642, 0x78A, 0x530,
		0x50C, 0x4B0, 0x486, 0x42C, 0x426, 0x590, 0x584, 0x4D0, 0x4C2, 0x434, 0x432, 0x612, 0x650, 0x7BA, 0x614, 0x47A,
		0x53C, 0x4BC, 0x49E, 0x5E4, 0x4F4, 0x4F2, 0x7A4, 0x794, 0x792, 0x6DE, 0x6F6, 0x7B6, 0x578, 0x51E, 0x45E, 0x5E8,
		0x5E2, 0x7A8, 0x7A2, 0x5DE, 0x5EE, 0x75E, 0x7AE, 0x684, 0x690, 0x69C, 0x63A,
	}
	table := map[[4]int]int{}
	for value, modules := range characters {
		table[edges(runs(modules))] = value
	}
	return table
}()

// runs returns the six runs of eleven modules.
func runs(modules int) (widths [6]int) {
	at, last := -1, 0
	for i := 10; i >= 0; i-- {
		if bit := modules >> i & 1; bit != last || at < 0 {
			at, last = at+1, bit
		}
		widths[at]++
	}
	return widths
}

func edges(w [6]int) [4]int { return [4]int{w[0] + w[1], w[1] + w[2], w[2] + w[3], w[3] + w[4]} }

const (
	code128Start = 103 // A; B and C follow
	code128Stop  = 106
	code128FNC1  = 102
)

// Code128 reads Code 128 and GS1-128 (ISO/IEC 15417).
func Code128(widths []int) (Message, error) {
	if len(widths) < 6*3+1 || len(widths)%6 != 1 || widths[len(widths)-1] != 2 {
		return Message{}, ErrPattern
	}
	values := make([]int, 0, len(widths)/6)
	for at := 0; at+6 < len(widths); at += 6 {
		one := [6]int(widths[at : at+6])
		value, ok := code128Edges[edges(one)]
		if sum := one[0] + one[1] + one[2] + one[3] + one[4] + one[5]; !ok || sum != 11 {
			return Message{}, ErrPattern
		}
		values = append(values, value)
	}
	n := len(values)
	if values[0] < code128Start || values[0] >= code128Stop || values[n-1] != code128Stop {
		return Message{}, ErrPattern
	}
	sum := values[0]
	for i, value := range values[1 : n-2] {
		sum += (i + 1) * value
	}
	if sum%103 != values[n-2] {
		return Message{}, ErrCheck
	}
	return code128Text(values[0], values[1:n-2])
}

// code128Text reads symbol characters by the sets in force (table 1 and 4.3.4).
func code128Text(start int, values []int) (Message, error) {
	w := newWriter()
	set, shifted := byte('A'+start-code128Start), byte(0)
	upper, once, isGS1 := false, false, false
	for i, v := range values {
		now := set
		if shifted != 0 {
			now, shifted = shifted, 0
		}
		switch {
		case v == code128FNC1 && i == 0:
			isGS1 = true
		case v == code128FNC1:
			w.byte(groupSeparator)
		case now == 'C' && v < 100:
			w.byte('0' + byte(v/10))
			w.byte('0' + byte(v%10))
		case now == 'C' && v == 100, now == 'A' && v == 100:
			set = 'B'
		case now == 'C' && v == 101, now == 'B' && v == 101:
			set = 'A'
		case v == 99:
			set = 'C'
		case v == 98:
			shifted = 'A' + 'B' - now
		case v == 100, v == 101: // function 4: what is left of its two sets
			if once {
				upper = !upper
			}
			once = !once
		case v < 96:
			c := byte(v + ' ')
			if now == 'A' && v >= 64 {
				c = byte(v - 64)
			}
			if upper != once {
				c += 0x80
			}
			once = false
			w.byte(c)
		default: // functions 2 and 3 say things to readers
			return Message{}, ErrData
		}
	}
	return w.message(isGS1), nil
}

// MSI reads MSI, check digit included: after the start, four pairs of a bar and a space for each digit, the
// bar wide for 1.
func MSI(widths []int) (Message, error) {
	const start, stop, digit = 2, 3, 8
	n := len(widths) - start - stop
	if n < digit || n%digit != 0 || widths[0] != 2 || widths[1] != 1 ||
		!slices.Equal(widths[start+n:], []int{1, 2, 1}) {
		return Message{}, ErrPattern
	}
	w := newWriter()
	for at := start; at < start+n; at += digit {
		value := 0
		for bit := range 4 {
			bar, space := widths[at+2*bit], widths[at+2*bit+1]
			if bar+space != 3 {
				return Message{}, ErrPattern
			}
			value = 2*value + bar - 1
		}
		if value > 9 {
			return Message{}, ErrPattern
		}
		w.byte('0' + byte(value))
	}
	return w.message(false), nil
}

// Pharmacode reads a number: from the right, the bar at place n adds 2^n when it is narrow, and twice that
// when it is wide.
func Pharmacode(widths []int) (Message, error) {
	value, weight := 0, 1
	for i := len(widths) - 1; i >= 0; i-- {
		switch {
		case i%2 == 1 && widths[i] == 2:
		case i%2 == 0 && widths[i] == 1:
			value, weight = value+weight, 2*weight
		case i%2 == 0 && widths[i] == 3:
			value, weight = value+2*weight, 2*weight
		default:
			return Message{}, ErrPattern
		}
		if bits.Len(uint(value)) > 20 {
			return Message{}, ErrPattern
		}
	}
	w := newWriter()
	w.bytes(strconv.Itoa(value))
	return w.message(false), nil
}

// AddOn reads the add-on of two or five digits of an EAN or UPC symbol (ISO/IEC 15420, 4.3.5): its widths
// from its first bar on.
func AddOn(widths []int) (string, error) {
	const guard, digit = 3, 6 // widths of the guard; of a digit and what separates it from the next
	n := (len(widths) - guard + 2) / digit
	if len(widths) != guard+n*digit-2 || n != 2 && n != 5 || !slices.Equal(widths[:guard], []int{1, 1, 2}) {
		return "", ErrPattern
	}
	// The digits of number set A as widths; B is the same backwards.
	setA := []string{"3211", "2221", "2122", "1411", "1132", "1231", "1114", "1312", "1213", "3112"}
	text, parity := make([]byte, n), 0
	for i := range n {
		at := guard + i*digit
		if i > 0 && (widths[at-2] != 1 || widths[at-1] != 1) {
			return "", ErrPattern
		}
		var word strings.Builder
		for _, w := range widths[at : at+4] {
			word.WriteByte(byte('0' + w))
		}
		back := []byte(word.String())
		slices.Reverse(back)
		parity <<= 1
		value := slices.Index(setA, word.String())
		if value < 0 {
			value = slices.Index(setA, string(back))
			parity |= 1
		}
		if value < 0 {
			return "", ErrPattern
		}
		text[i] = '0' + byte(value)
	}
	if n == 2 {
		if (int(text[0]-'0')*10+int(text[1]-'0'))%4 != parity {
			return "", ErrCheck
		}
		return string(text), nil
	}
	sum := 3*int(text[0]-'0'+text[2]-'0'+text[4]-'0') + 9*int(text[1]-'0'+text[3]-'0')
	if [10]int{24, 20, 18, 17, 12, 6, 3, 10, 9, 5}[sum%10] != parity {
		return "", ErrCheck
	}
	return string(text), nil
}
