package decode

import "strings"

// A discrete symbology has characters of so many bars and spaces, 1 for narrow and 2 for wide, with a narrow space
// between them.
type discrete struct {
	elements int
	letters  map[string]byte // by their widths
}

func discreteOf(elements int, letters string, patterns ...string) discrete {
	d := discrete{elements, map[string]byte{}}
	for i, pattern := range patterns {
		d.letters[pattern] = letters[i]
	}
	return d
}

// read returns the characters of a symbol, start and stop included.
func (d *discrete) read(widths []int) (string, error) {
	var characters []byte
	for len(widths) >= d.elements {
		letter, known := d.letters[pattern2(widths[:d.elements])]
		if !known {
			return "", ErrPattern
		}
		characters = append(characters, letter)
		if widths = widths[d.elements:]; len(widths) > 0 {
			if widths[0] != 1 {
				return "", ErrPattern
			}
			widths = widths[1:]
		}
	}
	if len(widths) > 0 || len(characters) < 3 {
		return "", ErrPattern
	}
	return string(characters), nil
}

// pattern2 writes widths as digits.
func pattern2(widths []int) string {
	var text strings.Builder
	for _, w := range widths {
		text.WriteByte('0' + byte(w))
	}
	return text.String()
}

// between returns what stands between a start and a stop.
func between(characters string, start, stop string) (Message, error) {
	last := len(characters) - 1
	if !strings.Contains(start, characters[:1]) || !strings.Contains(stop, characters[last:]) ||
		strings.ContainsAny(characters[1:last], start+stop) {
		return Message{}, ErrPattern
	}
	return Message{Text: characters[1:last]}, nil
}

var code11 = discreteOf(5, "0123456789-*", "11112", "21112", "12112", "22111", "11212", "21211", "12211", "11122",
	"21121", "21111", "11211", "11221")

// Code11 reads Code 11 (AIM USD-8), check characters included.
func Code11(widths []int) (Message, error) {
	characters, err := code11.read(widths)
	if err != nil {
		return Message{}, err
	}
	return between(characters, "*", "*")
}

var codabar = discreteOf(7, "0123456789-$:/.+ABCD", "1111122", "1111221", "1112112", "2211111", "1121121", "2111121",
	"1211112", "1211211", "1221111", "2112111", "1112211", "1122111", "2111212", "2121112", "2121211", "1121212",
	"1122121", "1212112", "1112122", "1112221")

// Codabar reads Codabar (EN 798) without its start and stop, check character included.
func Codabar(widths []int) (Message, error) {
	characters, err := codabar.read(widths)
	if err != nil {
		return Message{}, err
	}
	message, err := between(characters, "ABCD", "ABCD")
	message.Ends = characters[:1] + characters[len(characters)-1:]
	return message, err
}

// twoOfFive are the digits of the codes that have two wide elements of five: weights 1, 2, 4, 7 and parity, where 4 and
// 7 make 0.
var twoOfFive = map[string]byte{"11221": '0', "21112": '1', "12112": '2', "22111": '3', "11212": '4', "21211": '5',
	"12211": '6', "11122": '7', "21121": '8', "12121": '9'}

// Interleaved reads Interleaved 2 of 5 (ISO/IEC 16390): the first digit of each pair in five bars, the second in the
// spaces between them.
func Interleaved(widths []int) (Message, error) {
	const start, stop, pair = "1111", "211", 10
	n := len(widths) - len(start) - len(stop)
	if n < pair || n%pair != 0 || pattern2(widths[:len(start)]) != start || pattern2(widths[len(start)+n:]) != stop {
		return Message{}, ErrPattern
	}
	w := newWriter()
	for at := len(start); at < len(start)+n; at += pair {
		var bars, spaces []int
		for i := at; i < at+pair; i += 2 {
			bars, spaces = append(bars, widths[i]), append(spaces, widths[i+1])
		}
		for _, five := range [][]int{bars, spaces} {
			digit, known := twoOfFive[pattern2(five)]
			if !known {
				return Message{}, ErrPattern
			}
			w.byte(digit)
		}
	}
	return w.message(false), nil
}

// barsOnly reads the codes of the family in which bars alone say something, from what stands before and behind the
// digits.
func barsOnly(widths []int, start, stop string) (Message, error) {
	const digit = 10
	n := len(widths) - len(start) - len(stop)
	if n < digit || n%digit != 0 || pattern2(widths[:len(start)]) != start || pattern2(widths[len(start)+n:]) != stop {
		return Message{}, ErrPattern
	}
	w := newWriter()
	for at := len(start); at < len(start)+n; at += digit {
		var bars []int
		for i := at; i < at+digit; i += 2 {
			if bars = append(bars, widths[i]); widths[i+1] != 1 {
				return Message{}, ErrPattern
			}
		}
		d, known := twoOfFive[pattern2(bars)]
		if !known {
			return Message{}, ErrPattern
		}
		w.byte(d)
	}
	return w.message(false), nil
}

// Industrial2of5 reads Industrial 2 of 5.
func Industrial2of5(widths []int) (Message, error) { return barsOnly(widths, "212111", "21112") }

// IATA2of5 reads IATA 2 of 5.
func IATA2of5(widths []int) (Message, error) { return barsOnly(widths, "1111", "211") }

var matrix2of5 = discreteOf(5, "0123456789*", "11221", "21112", "12112", "22111", "11212", "21211", "12211", "11122",
	"21121", "12121", "21111")

// Matrix2of5 reads Matrix 2 of 5.
func Matrix2of5(widths []int) (Message, error) {
	characters, err := matrix2of5.read(widths)
	if err != nil {
		return Message{}, err
	}
	return between(characters, "*", "*")
}
