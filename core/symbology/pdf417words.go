package symbology

import (
	"math"
	"math/big"
	"slices"
	"strings"
)

// The states of the search for the fewest words: a set of text and whether a word is begun, bytes with
// how many stand in the last six, digits with how many stand in the last 44.
const (
	pdf417Bytes  = 8
	pdf417Digits = pdf417Bytes + 6
	pdf417States = pdf417Digits + 44
)

// A pdf417Step is the cheapest way to a state before a byte of the data.
type pdf417Step struct {
	words int // so far
	from  int // the state before
	back  int // bytes taken by the last step: 0 for a change of state
	value int // of a text value that shifts for the byte; -1: there is none
}

// pdf417Words returns the fewest words that say text, found by looking at every way through the modes
// of compaction (5.4). ISO/IEC 8859-1 is what readers take for granted, and other text is UTF-8 behind
// its number; what is neither goes as the bytes that it is.
func pdf417Words(name, text string, o Options) ([]int, error) {
	if text == "" {
		return nil, wrong(0, "%s needs at least one character.", name)
	}
	var words []int
	data, eci := plainBytes(text, o)
	if eci > 0 {
		words = []int{pdf417ECI, eci}
	}
	if len(data) > 2800 {
		return nil, wrong(0, "%d characters are too many for %s.", len(data), name)
	}
	steps := make([][pdf417States]pdf417Step, len(data)+1)
	for i := range steps {
		for state := range steps[i] {
			steps[i][state].words = math.MaxInt / 2
		}
	}
	steps[0][0].words = 0
	for i := range steps {
		pdf417Change(&steps[i])
		if i == len(data) {
			break
		}
		pdf417Take(steps, i, data[i])
	}
	end := 0
	for state := range pdf417States {
		if steps[len(data)][state].words < steps[len(data)][end].words {
			end = state
		}
	}
	return append(words, pdf417Write(data, steps, end)...), nil
}

// relax keeps a way to a state when it is cheaper than the one known.
func (p *pdf417Step) relax(words, from, back, value int) {
	if words < p.words {
		*p = pdf417Step{words, from, back, value}
	}
}

// after returns the words of a state after n more values of text.
func pdf417After(state, words, n int) (to, cost int) {
	begun := state % 2
	return state - begun + (begun+n)%2, words + (begun+n+1)/2 - begun
}

// pdf417Change relaxes the changes of state before a byte.
func pdf417Change(at *[pdf417States]pdf417Step) {
	text, other, fromText, fromOther := math.MaxInt/2, math.MaxInt/2, 0, 0
	for state := range pdf417States {
		switch words := at[state].words; {
		case state < pdf417Bytes && words < text:
			text, fromText = words, state
		case state >= pdf417Bytes && words < other:
			other, fromOther = words, state
		}
	}
	at[0].relax(other+1, fromOther, 0, -1)
	if at[0].words < text {
		text, fromText = at[0].words, 0
	}
	if other < text {
		text, fromText = other, fromOther
	}
	at[pdf417Bytes].relax(text+1, fromText, 0, -1)
	at[pdf417Digits].relax(text+1, fromText, 0, -1)
	for range 2 { // latches of two values are as good as two of one
		for state := range pdf417Bytes {
			for set := range 4 {
				if latch := pdf417Latches[state/2][set]; latch != nil {
					to, cost := pdf417After(2*set+state%2, at[state].words, len(latch))
					at[to].relax(cost, state, 0, -1)
				}
			}
		}
	}
}

// pdf417Take relaxes the ways to say a byte.
func pdf417Take(steps [][pdf417States]pdf417Step, i int, c byte) {
	at, next := &steps[i], &steps[i+1]
	for state := range pdf417Bytes {
		words, set := at[state].words, state/2
		if c < 0x80 && strings.IndexByte(pdf417Sets[set], c) >= 0 {
			to, cost := pdf417After(state, words, 1)
			next[to].relax(cost, state, 1, -1)
		}
		if set != pdf417Signs && c < 0x80 && strings.IndexByte(pdf417Sets[pdf417Signs], c) >= 0 {
			to, cost := pdf417After(state, words, 2)
			next[to].relax(cost, state, 1, pdf417ToSigns)
		}
		if set == pdf417Lower && c >= 'A' && c <= 'Z' {
			to, cost := pdf417After(state, words, 2)
			next[to].relax(cost, state, 1, pdf417ToCapital)
		}
		to := state - state%2
		if state == 2*pdf417Signs+1 {
			to = 0 // what fills a word up in this set is the latch to capitals
		}
		next[to].relax(words+2, state, 1, pdf417ByteShift)
	}
	for n := range 6 {
		cost := 1
		if n == 5 {
			cost = 0
		}
		next[pdf417Bytes+(n+1)%6].relax(at[pdf417Bytes+n].words+cost, pdf417Bytes+n, 1, -1)
	}
	if isDigit(c) {
		for n := range 44 {
			cost := 0
			if n == 0 || (n+1)%3 == 0 { // n digits are n/3 + 1 words
				cost = 1
			}
			next[pdf417Digits+(n+1)%44].relax(at[pdf417Digits+n].words+cost, pdf417Digits+n, 1, -1)
		}
	}
}

// pdf417Write writes the words along the cheapest way.
func pdf417Write(data []byte, steps [][pdf417States]pdf417Step, end int) []int {
	type move struct{ from, to, at, back, value int }
	var moves []move
	for i, state := len(data), end; i > 0 || state > 0; {
		step := steps[i][state]
		moves = append(moves, move{step.from, state, i - step.back, step.back, step.value})
		i, state = i-step.back, step.from
	}
	slices.Reverse(moves)
	w := &pdf417Writer{}
	for _, m := range moves {
		switch {
		case m.back == 0 && m.to >= pdf417Digits:
			w.flush()
			w.mode = pdf417Numeric
		case m.back == 0 && m.to >= pdf417Bytes:
			w.flush()
			w.mode = pdf417Byte
		case m.back == 0 && m.from >= pdf417Bytes:
			w.flush()
			w.words = append(w.words, pdf417Text)
		case m.back == 0:
			w.values = append(w.values, pdf417Latches[m.from/2][m.to/2]...)
		case w.mode != 0:
			w.run = append(w.run, data[m.at])
		case m.value == pdf417ByteShift:
			w.flush()
			w.words = append(w.words, pdf417ByteShift, int(data[m.at]))
		case m.value == pdf417ToSigns:
			w.values = append(w.values, m.value, strings.IndexByte(pdf417Sets[pdf417Signs], data[m.at]))
		case m.value == pdf417ToCapital:
			w.values = append(w.values, m.value, int(data[m.at]-'A'))
		default:
			w.values = append(w.values, strings.IndexByte(pdf417Sets[m.from/2], data[m.at]))
		}
	}
	w.flush()
	return w.words
}

type pdf417Writer struct {
	words  []int
	values []int  // of text that are not words yet
	mode   int    // of the run of bytes or digits; 0: text
	run    []byte // that are not words yet
}

// flush writes what is waiting.
func (w *pdf417Writer) flush() {
	if len(w.values)%2 == 1 {
		w.values = append(w.values, pdf417ToSigns)
	}
	for i := 0; i < len(w.values); i += 2 {
		w.words = append(w.words, 30*w.values[i]+w.values[i+1])
	}
	switch {
	case w.mode == pdf417Numeric:
		w.words = append(w.words, pdf417Numeric)
		for digits := range slices.Chunk(w.run, 44) {
			value, _ := new(big.Int).SetString("1"+string(digits), 10)
			w.number(value, len(digits)/3+1)
		}
	case w.mode == pdf417Byte && len(w.run)%6 == 0:
		w.words = append(w.words, pdf417ByteSix)
		w.bytes()
	case w.mode == pdf417Byte:
		w.words = append(w.words, pdf417Byte)
		w.bytes()
	}
	w.values, w.run, w.mode = w.values[:0], w.run[:0], 0
}

func (w *pdf417Writer) bytes() {
	for six := range slices.Chunk(w.run, 6) {
		if len(six) == 6 {
			w.number(new(big.Int).SetBytes(six), 5)
			continue
		}
		for _, b := range six {
			w.words = append(w.words, int(b))
		}
	}
}

// number writes a number to the base of 900 in n words.
func (w *pdf417Writer) number(value *big.Int, n int) {
	at := len(w.words)
	w.words = append(w.words, make([]int, n)...)
	rest, base := new(big.Int), big.NewInt(900)
	for i := n - 1; i >= 0; i-- {
		value.QuoRem(value, base, rest)
		w.words[at+i] = int(rest.Int64())
	}
}
