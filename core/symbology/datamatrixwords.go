package symbology

import (
	"oddspool/core/codewords"
)

// The states in which the encoder can stand before a character: in ASCII, in C40, Text or X12 with so
// many values of a triple, in EDIFACT with so many of four, or in Base 256.
const (
	dmInASCII   = 0
	dmInC40     = 1
	dmInText    = 4
	dmInX12     = 7
	dmInEDIFACT = 10
	dmInBase256 = 14
	dmStates    = 15
)

var dmTriples = []struct{ state, mode int }{{dmInC40, dmC40}, {dmInText, dmText}, {dmInX12, dmX12}}

// dmFar is more words than any data takes.
const dmFar = 1 << 20

// dmEncode writes characters in the fewest words, of which some stand before them. Left open, the
// last mode is not ended. A run in Base 256 of more than 249 bytes is taken to need as short a length
// as others, so it may cost a word more than the best.
func dmEncode(chars []uint16, open bool, before int) []byte {
	n := len(chars)
	rest := make([][dmStates]int32, n+1) // the words for what is left, from each state
	end := &rest[n]
	for state := range end {
		end[state] = dmFar
	}
	end[dmInASCII], end[dmInBase256] = 0, 0
	for _, t := range dmTriples {
		end[t.state] = 1
		if open {
			end[t.state] = 0
			if t.mode != dmX12 {
				end[t.state+2] = 2 // two values that end the symbol are filled up with a shift (5.2.5.2)
			}
		}
	}
	for q, words := range dmEDIFACTEnd {
		end[dmInEDIFACT+q] = words
	}
	if open {
		end[dmInEDIFACT] = 0
	}
	for i := n - 1; i >= 0; i-- {
		dmBefore(rest, chars, i)
	}
	out := make([]byte, 0, rest[0][dmInASCII])
	for i := 0; i < n; {
		mode, to := dmRun(rest, chars, i, open)
		out = dmWrite(out, chars[i:to], mode, open && to == n, before)
		i = to
	}
	return out
}

// dmEDIFACTEnd is what leaving EDIFACT costs after so many of four characters.
var dmEDIFACTEnd = [4]int32{1, 1, 1, 0}

// dmBefore works out the words from each state before character i.
func dmBefore(rest [][dmStates]int32, chars []uint16, i int) {
	c, now, next := chars[i], &rest[i], &rest[i+1]
	for state := range now {
		now[state] = dmFar
	}
	for _, t := range dmTriples {
		if v := dmCount(t.mode, c); v > 0 {
			for p := range 3 {
				now[t.state+p] = int32((p+v)/3*2) + next[t.state+(p+v)%3]
			}
		}
	}
	if c >= 32 && c <= 94 {
		for q := range 4 {
			words := int32(1)
			if q == 3 {
				words = 0
			}
			now[dmInEDIFACT+q] = words + next[dmInEDIFACT+(q+1)%4]
		}
	}
	if c < 256 {
		now[dmInBase256] = 1 + next[dmInBase256]
	}
	ascii := int32(dmASCIIWords(c)) + next[dmInASCII]
	if i+2 < len(rest) && dmDigit(c) && dmDigit(chars[i+1]) {
		ascii = 1 + rest[i+2][dmInASCII]
	}
	now[dmInASCII] = min(ascii, 1+now[dmInC40], 1+now[dmInText], 1+now[dmInX12], 1+now[dmInEDIFACT], 2+now[dmInBase256])
	for _, t := range dmTriples {
		now[t.state] = min(now[t.state], 1+now[dmInASCII])
	}
	for q, words := range dmEDIFACTEnd {
		now[dmInEDIFACT+q] = min(now[dmInEDIFACT+q], words+now[dmInASCII])
	}
	now[dmInBase256] = min(now[dmInBase256], now[dmInASCII])
}

// dmRun returns the best run from character i on: its mode and its end.
func dmRun(rest [][dmStates]int32, chars []uint16, i int, open bool) (mode, to int) {
	best := rest[i][dmInASCII]
	for _, t := range dmTriples {
		if best == 1+rest[i][t.state] && dmCount(t.mode, chars[i]) > 0 {
			p := 0
			for to = i; to < len(chars); to++ {
				v := dmCount(t.mode, chars[to])
				if v == 0 || to > i && p == 0 && rest[to][t.state] == 1+rest[to][dmInASCII] {
					break
				}
				p = (p + v) % 3
			}
			return t.mode, to
		}
	}
	if c := chars[i]; best == 1+rest[i][dmInEDIFACT] && c >= 32 && c <= 94 {
		for to = i; to < len(chars) && chars[to] >= 32 && chars[to] <= 94; to++ {
			if q := (to - i) % 4; to > i && rest[to][dmInEDIFACT+q] == dmEDIFACTEnd[q]+rest[to][dmInASCII] {
				break
			}
		}
		return dmEDIFACT, to
	}
	if best == 2+rest[i][dmInBase256] && chars[i] < 256 {
		for to = i; to < len(chars) && chars[to] < 256 && to-i < 1555; to++ {
			if to > i && rest[to][dmInBase256] == rest[to][dmInASCII] {
				break
			}
		}
		return dmBase256, to
	}
	if i+1 < len(chars) && dmDigit(chars[i]) && dmDigit(chars[i+1]) {
		return 0, i + 2
	}
	return 0, i + 1
}

// dmCount returns how many values a character has in C40, Text or X12; 0 when it has none there.
func dmCount(mode int, c uint16) int {
	var room [4]int
	return len(dmValues(room[:0], mode, c))
}

func dmDigit(c uint16) bool { return c >= '0' && c <= '9' }

func dmASCIIWords(c uint16) int {
	if c >= 128 && c < 256 {
		return 2
	}
	return 1
}

// dmWrite appends a run of characters in one mode, with its latch and, unless it stays open, its end.
func dmWrite(out []byte, chars []uint16, mode int, open bool, before int) []byte {
	switch mode {
	case 0:
		switch c := chars[0]; {
		case len(chars) == 2:
			return append(out, byte(130+10*(c-'0')+chars[1]-'0'))
		case c == dmFNC1:
			return append(out, dmFNC1Word)
		case c >= 128:
			return append(out, dmUpperShift, byte(c-127))
		default:
			return append(out, byte(c+1))
		}
	case dmEDIFACT:
		bits := &codewords.Bits{}
		for _, c := range chars {
			bits.Add(int(c)&0x3F, 6)
		}
		if !open || len(chars)%4 != 0 {
			bits.Add(0x1F, 6)
		}
		return append(append(out, dmEDIFACT), bits.Bytes...)
	case dmBase256:
		out = append(out, dmBase256)
		random := func(b int) {
			position := before + len(out) + 1
			out = append(out, byte(b+149*position%255+1))
		}
		if len(chars) > 249 {
			random(len(chars)/250 + 249)
			random(len(chars) % 250)
		} else {
			random(len(chars))
		}
		for _, c := range chars {
			random(int(c))
		}
		return out
	}
	out = append(out, byte(mode))
	var values []int
	for _, c := range chars {
		values = dmValues(values, mode, c)
	}
	if len(values)%3 == 2 {
		values = append(values, 0)
	}
	for i := 0; i < len(values); i += 3 {
		v := 1600*values[i] + 40*values[i+1] + values[i+2] + 1
		out = append(out, byte(v>>8), byte(v))
	}
	if !open {
		out = append(out, dmUnlatch)
	}
	return out
}

// dmValues appends the values of a character in C40, Text or X12 (tables 4 and 5); nil when it has
// none there.
func dmValues(values []int, mode int, c uint16) []int {
	switch {
	case c == dmFNC1 && mode != dmX12:
		return append(values, 1, 27)
	case c == ' ':
		return append(values, 3)
	case dmDigit(c):
		return append(values, int(c-'0')+4)
	case mode == dmX12:
		switch {
		case c >= 'A' && c <= 'Z':
			return append(values, int(c-'A')+14)
		case c == '\r':
			return append(values, 0)
		case c == '*':
			return append(values, 1)
		case c == '>':
			return append(values, 2)
		}
		return nil
	case c >= 128 && c < 256:
		return dmValues(append(values, 1, 30), mode, c-128)
	}
	upper, lower := c >= 'A' && c <= 'Z', c >= 'a' && c <= 'z'
	if mode == dmText {
		upper, lower = lower, upper
	}
	switch {
	case upper:
		return append(values, int(c|0x20-'a')+14)
	case lower:
		return append(values, 2, int(c|0x20-'`'))
	case c < 32:
		return append(values, 0, int(c))
	case c <= '/':
		return append(values, 1, int(c-'!'))
	case c <= '@':
		return append(values, 1, int(c-':')+15)
	case c == '`':
		return append(values, 2, 0)
	case c <= '_':
		return append(values, 1, int(c-'[')+22)
	}
	return append(values, 2, int(c-'{')+27)
}
