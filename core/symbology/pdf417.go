package symbology

import (
	"fmt"
	"math"
	"math/big"
	"slices"
	"strconv"
	"strings"

	"oddspool/core/codewords"
)

// PDF417 (ISO/IEC 15438): data as words from 0 to 928, each a pattern of 17 modules, in rows whose ends
// tell a reader which row it is and how large the symbol is.

// Words with a meaning of their own (5.4.1.5 and 5.5.3).
const (
	pdf417Text      = 900 // text follows; also fills up
	pdf417Byte      = 901 // bytes follow, not a multiple of six
	pdf417Numeric   = 902 // digits follow
	pdf417ByteShift = 913 // one byte follows
	pdf417ByteSix   = 924 // bytes follow, a multiple of six
	pdf417ECI       = 927 // the number of an encoding follows
	utf8ECI         = 26
	pdf417Modulus   = 929
)

const pdf417MostWords, pdf417MostRows, pdf417MostColumns = 928, 90, 30

func (s *Symbol) pdf417(text string, o Options) error {
	const name, rowHeight = "PDF417", 3
	level := -1
	if o.Level != "" {
		n, err := strconv.Atoi(o.Level)
		if err != nil || n < 0 || n > 8 {
			return wrong(name, 0, "The error correction of PDF417 is from 0 to 8, not %s.", o.Level)
		}
		level = n
	}
	if o.Columns < 0 || o.Columns > pdf417MostColumns {
		return wrong(name, 0, "PDF417 has 1 to %d columns, not %d.", pdf417MostColumns, o.Columns)
	}
	words, err := pdf417Words(name, text, o)
	if err != nil {
		return err
	}
	columns, rows := 0, 0
	if level >= 0 {
		columns, rows = pdf417Size(len(words)+1+2<<level, o.Columns)
	} else {
		// as much as is recommended, or as much as there is room for
		for level = pdf417Level(len(words)); level >= 0; level-- {
			if columns, rows = pdf417Size(len(words)+1+2<<level, o.Columns); columns > 0 {
				break
			}
		}
	}
	if columns == 0 {
		return wrong(name, 0, "This is too much for one PDF417 of %s. Say less, choose less error correction, or "+
			"other columns.", columnsAllowed(o.Columns))
	}
	check := 2 << level
	for len(words)+1 < columns*rows-check {
		words = append(words, pdf417Text)
	}
	words = append([]int{len(words) + 1}, words...)
	words = append(words, pdf417Check(words, check)...)
	s.Matrix.resize(17*columns+69, rows)
	for y := range rows {
		three := 30 * (y / 3)
		ends := [3]int{three + (rows-1)/3, three + 3*level + (rows-1)%3, three + columns - 1} // 5.11.3
		x := s.pattern(0, y, 0b11111111010101000, 17)
		x = s.pdf417Pattern(x, y, y%3, ends[y%3])
		for column := range columns {
			x = s.pdf417Pattern(x, y, y%3, words[y*columns+column])
		}
		x = s.pdf417Pattern(x, y, y%3, ends[(y+2)%3])
		s.pattern(x, y, 0b111111101000101001, 18)
	}
	s.RowHeight = rowHeight // 5.8.2: at least three modules
	s.Text, s.Reads = printable(text), text
	return nil
}

func columnsAllowed(columns int) string {
	switch columns {
	case 0:
		return "any size"
	case 1:
		return "one column"
	}
	return fmt.Sprintf("%d columns", columns)
}

// pdf417Level returns the level of correction that is recommended for so many words (annex E).
func pdf417Level(words int) int {
	switch {
	case words <= 40:
		return 2
	case words <= 160:
		return 3
	case words <= 320:
		return 4
	}
	return 5
}

// pdf417Size returns columns and rows for so many words, about three times as wide as tall when the
// columns are not given; 0 when there is no such size.
func pdf417Size(words, wanted int) (columns, rows int) {
	best := math.Inf(1)
	for c := 1; c <= pdf417MostColumns; c++ {
		r := max((words+c-1)/c, 3)
		if wanted > 0 && c != wanted || r > pdf417MostRows || r*c > pdf417MostWords {
			continue
		}
		if off := math.Abs(math.Log(float64(17*c+69) / float64(3*r) / 3)); off < best {
			best, columns, rows = off, c, r
		}
	}
	return columns, rows
}

// pattern sets modules in a row, the highest bit first, and returns where the next begin.
func (s *Symbol) pattern(x, y, bits, n int) int {
	for i := range n {
		s.Matrix.set(x+i, y, bits>>(n-1-i)&1 == 1)
	}
	return x + n
}

func (s *Symbol) pdf417Pattern(x, y, cluster, word int) int {
	return s.pattern(x, y, 1<<16|int(codewords.PDF417Patterns[cluster][word])<<1, 17)
}

// pdf417Check returns the words of correction: the complement of what is left of the data divided by
// the product of (x - 3^i) in numbers modulo 929 (5.10).
func pdf417Check(data []int, n int) []int {
	generator := make([]int, n+1)
	generator[0] = 1
	root := 1
	for i := 1; i <= n; i++ {
		root = root * 3 % pdf417Modulus
		for j := i; j > 0; j-- {
			generator[j] = (generator[j] + (pdf417Modulus-root)*generator[j-1]) % pdf417Modulus
		}
	}
	rest := make([]int, n)
	for _, word := range data {
		factor := (word + rest[0]) % pdf417Modulus
		copy(rest, rest[1:])
		rest[n-1] = 0
		for j := range rest {
			rest[j] = (rest[j] + (pdf417Modulus-factor)*generator[j+1]) % pdf417Modulus
		}
	}
	for i := range rest {
		rest[i] = (pdf417Modulus - rest[i]) % pdf417Modulus
	}
	return rest
}

// The four sets of text compaction (tables 5 and 6). In them a is the latch to capitals, l to small
// letters, m to the mixed set and p to signs; A and P shift for one character.
const (
	pdf417Alpha = iota
	pdf417Lower
	pdf417Mixed
	pdf417Signs
)

var pdf417Sets = [4]string{"ABCDEFGHIJKLMNOPQRSTUVWXYZ ", "abcdefghijklmnopqrstuvwxyz ",
	"0123456789&\r\t,:#-.$/+%*=^\xff ", ";<>@[\\]_`~!\r\t,:\n-.$/\"|*()?{}'"}

// pdf417Latches are the values that lead from set to set.
var pdf417Latches = [4][4][]int{
	{nil, {27}, {28}, {28, 25}}, {{28, 28}, nil, {28}, {28, 25}}, {{28}, {27}, nil, {25}},
	{{29}, {29, 27}, {29, 28}, nil},
}

const pdf417ToSigns, pdf417ToCapital = 29, 27 // shifts for one character

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
		return nil, wrong(name, 0, "%s needs at least one character.", name)
	}
	var words []int
	data, eci := plainBytes(text, o)
	if eci > 0 {
		words = []int{pdf417ECI, eci}
	}
	if len(data) > 2800 {
		return nil, wrong(name, 0, "%d characters are too many for %s.", len(data), name)
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
