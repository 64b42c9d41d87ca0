package decode

import (
	"fmt"
	"math/big"
	"slices"

	"oddspool/core/codewords"
)

// PDF417 (ISO/IEC 15438) and MicroPDF417 (ISO/IEC 24728): from patterns to words, from words to bytes. The
// patterns of the words are the standard's table, which has no rule.

// pdf417Word returns the word of a pattern of 17 modules, and its cluster by the standard's own rule: widths
// of the bars, the even ones against the odd ones (5.3.1). -1: there is none.
func pdf417Word(m *Modules, x, y int) (word, cluster int) {
	var widths []int
	for i, last := 0, false; i < 17; i++ {
		dark := m.At(x+i, y)
		if i == 0 && !dark {
			return -1, 0
		}
		if i == 0 || dark != last {
			widths = append(widths, 0)
		}
		widths[len(widths)-1]++
		last = dark
	}
	if len(widths) != 8 {
		return -1, 0
	}
	cluster = (widths[0] - widths[2] + widths[4] - widths[6] + 9) % 9
	number := 0
	for i := 1; i < 16; i++ {
		number = number<<1 | bit(m.At(x+i, y))
	}
	if cluster%3 != 0 {
		return -1, 0
	}
	return pdf417Numbers[cluster/3][uint16(number)] - 1, cluster / 3
}

// pdf417Numbers are the words of patterns by cluster, each and one.
var pdf417Numbers = func() (numbers [3]map[uint16]int) {
	for cluster, patterns := range codewords.PDF417Patterns {
		numbers[cluster] = make(map[uint16]int, len(patterns))
		for word, pattern := range patterns {
			numbers[cluster][pattern] = word + 1
		}
	}
	return numbers
}()

// PDF417 reads PDF417.
func PDF417(m *Modules) (Message, error) {
	const start, stop, word = 17, 18, 17
	columns := (m.Width - start - stop - 2*word) / word
	if columns < 1 || m.Width != start+stop+(columns+2)*word {
		return Message{}, ErrPattern
	}
	var words []int
	level := -1
	for y := range m.Height {
		if !pattern(m, 0, y, "11111111010101000") || !pattern(m, m.Width-stop, y, "111111101000101001") {
			return Message{}, ErrPattern
		}
		for column := range columns + 2 {
			value, cluster := pdf417Word(m, start+column*word, y)
			if value < 0 || cluster != y%3 {
				return Message{}, ErrPattern
			}
			if column > 0 && column <= columns {
				words = append(words, value)
				continue
			}
			// The ends of a row tell its number, and in turn rows, level and columns (5.11.3).
			if value/30 != y/3 {
				return Message{}, ErrPattern
			}
			turn := y % 3
			if column > 0 {
				turn = (y + 2) % 3
			}
			told, is := value%30, [3]int{(m.Height - 1) / 3, level*3 + (m.Height-1)%3, columns - 1}[turn]
			if turn == 1 && level < 0 {
				level = told / 3
				is = level*3 + (m.Height-1)%3
			}
			if told != is {
				return Message{}, ErrPattern
			}
		}
	}
	check := 2 << level
	if level > 8 || len(words) <= check || words[0] != len(words)-check || !rightPDF417(words, check) {
		return Message{}, ErrCheck
	}
	return pdf417Text(words[1 : len(words)-check])
}

func pattern(m *Modules, x, y int, want string) bool {
	for i := range want {
		if m.At(x+i, y) != (want[i] == '1') {
			return false
		}
	}
	return true
}

// rightPDF417 tells whether words are a multiple of the generator modulo 929: each power of 3 is a root.
func rightPDF417(words []int, check int) bool {
	root := 1
	for range check {
		root = root * 3 % 929
		sum := 0
		for _, word := range words {
			sum = (sum*root + word) % 929
		}
		if sum != 0 {
			return false
		}
	}
	return true
}

// microPDFCheck are the check words of MicroPDF417 by columns and rows (table 7).
var microPDFCheck = map[[2]int]int{
	{1, 11}: 7, {1, 14}: 7, {1, 17}: 7, {1, 20}: 8, {1, 24}: 8, {1, 28}: 8,
	{2, 8}: 8, {2, 11}: 9, {2, 14}: 9, {2, 17}: 10, {2, 20}: 11, {2, 23}: 13, {2, 26}: 15,
	{3, 6}: 12, {3, 8}: 14, {3, 10}: 16, {3, 12}: 18, {3, 15}: 21, {3, 20}: 26, {3, 26}: 32, {3, 32}: 38, {3, 38}: 44,
	{3, 44}: 50,
	{4, 4}:  8, {4, 6}: 12, {4, 8}: 14, {4, 10}: 16, {4, 12}: 18, {4, 15}: 21, {4, 20}: 26, {4, 26}: 32, {4, 32}: 38,
	{4, 38}: 44, {4, 44}: 50,
}

// MicroPDF417 reads MicroPDF417: the columns stand between row address patterns of ten modules.
func MicroPDF417(m *Modules) (Message, error) {
	places := map[int][]int{38: {10}, 55: {10, 27}, 82: {10, 37, 54}, 99: {10, 27, 54, 71}}[m.Width]
	check := microPDFCheck[[2]int{len(places), m.Height}]
	if check == 0 {
		return Message{}, ErrPattern
	}
	var words []int
	first := -1
	for y := range m.Height {
		if !m.At(m.Width-1, y) { // the bar that ends each row
			return Message{}, ErrPattern
		}
		for _, x := range places {
			value, cluster := pdf417Word(m, x, y)
			if first < 0 {
				first = cluster
			}
			if value < 0 || cluster != (first+y)%3 {
				return Message{}, ErrPattern
			}
			words = append(words, value)
		}
	}
	if !rightPDF417(words, check) {
		return Message{}, ErrCheck
	}
	return pdf417Text(words[:len(words)-check])
}

// The words with a meaning of their own (5.4.1.5, 5.5.3).
const (
	textWords  = 900
	someBytes  = 901
	digitWords = 902
	oneByte    = 913
	sixBytes   = 924
	eciWord    = 927
)

// pdf417Sets are the four sets of text (tables 5 and 6). What they have beside characters is written with
// l and m for latches to small letters and the mixed set, A for one to capitals, p for one to signs, c and
// s for shifts to one capital and to one sign; a character that looks like one of these stands there only
// where it is its own.
var pdf417Sets = [4][30]rune{
	setOf("ABCDEFGHIJKLMNOPQRSTUVWXYZ ", 'l', 'm', 's'),
	setOf("abcdefghijklmnopqrstuvwxyz ", 'c', 'm', 's'),
	setOf("0123456789&\r\t,:#-.$/+%*=^", 'p', ' ', 'l', 'A', 's'),
	setOf(";<>@[\\]_`~!\r\t,:\n-.$/\"|*()?{}'", 'A'),
}

// command marks what is no character.
const command = 0x1000

func setOf(characters string, rest ...rune) (set [30]rune) {
	copy(set[:], []rune(characters))
	for i, r := range rest {
		if r != ' ' {
			r += command
		}
		set[len(characters)+i] = r
	}
	return set
}

// pdf417Text reads words by the modes of compaction (5.4).
func pdf417Text(words []int) (Message, error) {
	w := newWriter()
	set, back := 0, -1
	for len(words) > 0 {
		word := words[0]
		run := slices.IndexFunc(words[1:], func(w int) bool { return w >= 900 })
		if run < 0 {
			run = len(words) - 1
		}
		switch word {
		case textWords:
			set, back = 0, -1
		case someBytes, sixBytes:
			pdf417Bytes(w, words[1:1+run], word == sixBytes)
			words, set, back = words[1+run:], 0, -1
			continue
		case digitWords:
			if err := pdf417Digits(w, words[1:1+run]); err != nil {
				return Message{}, err
			}
			words, set, back = words[1+run:], 0, -1
			continue
		case oneByte, eciWord:
			if len(words) < 2 {
				return Message{}, ErrData
			}
			if word == eciWord {
				w.setECI(words[1])
			} else {
				if back >= 0 { // a shift before it only fills up (5.4.2.4)
					set, back = back, -1
				}
				w.byte(byte(words[1]))
			}
			words = words[2:]
			continue
		default:
			if word > textWords {
				return Message{}, fmt.Errorf("the word %d: %w", word, ErrData)
			}
			for _, value := range []int{word / 30, word % 30} {
				now := set
				if back >= 0 {
					set, back = back, -1
				}
				switch c := pdf417Sets[now][value]; c {
				case 'l' + command:
					set = 1
				case 'm' + command:
					set = 2
				case 'p' + command:
					set = 3
				case 'A' + command:
					set = 0
				case 'c' + command:
					back, set = set, 0
				case 's' + command:
					back, set = set, 3
				default:
					w.byte(byte(c))
				}
			}
		}
		words = words[1:]
	}
	return w.message(false), nil
}

// pdf417Bytes reads bytes: six in five words, and, where they are no multiple of six, up to five at the end
// in a word each.
func pdf417Bytes(w *writer, words []int, six bool) {
	for len(words) > 5 || six && len(words) == 5 {
		value := 0
		for _, word := range words[:5] {
			value = value*900 + word
		}
		for shift := 40; shift >= 0; shift -= 8 {
			w.byte(byte(value >> shift))
		}
		words = words[5:]
	}
	for _, word := range words {
		w.byte(byte(word))
	}
}

// pdf417Digits reads digits: up to 44 behind a 1, as a number to the base of 900 in up to 15 words.
func pdf417Digits(w *writer, words []int) error {
	for some := range slices.Chunk(words, 15) {
		value := new(big.Int)
		for _, word := range some {
			value.Add(value.Mul(value, big.NewInt(900)), big.NewInt(int64(word)))
		}
		digits := value.String()
		if digits[0] != '1' {
			return ErrData
		}
		w.bytes(digits[1:])
	}
	return nil
}
