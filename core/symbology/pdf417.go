package symbology

import (
	"fmt"
	"math"
	"strconv"

	"oddspool/core/codewords"
	"oddspool/core/decode"
)

// PDF417 is PDF417.
const PDF417 ID = "pdf417"

var pdf417Kind = Kind{
	ID: PDF417, Name: "PDF417",
	Standard: "ISO/IEC 15438", Is2D: true, Identifier: "]L0",
	Holds:   "text, digits, bytes",
	Example: "952N0307B-0417",
	Most:    "2,710 digits, 1,850 letters or 1,108 bytes",
	Readers: "laser scanners made for it, and cameras",
	Uses:    "papers, licences, shipping labels",
	Quiet:   2, Least: 170, western: toldLetters,
	Options: []Option{levels(numbers(0, 8)...), columns(pdf417MostColumns), westernOption},
	Denser:  DataMatrix,
	Encode:  (*Symbol).pdf417, Modules: decode.PDF417,
}

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
		level, _ = strconv.Atoi(o.Level)
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
		return wrong(0, "This is too much for one PDF417 of %s. Say less, choose less error correction, or "+
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
