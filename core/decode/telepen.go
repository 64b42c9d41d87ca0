package decode

import (
	"fmt"
	"math/bits"
	"strings"
)

// Telepen reads Telepen (AIM USS-Telepen), without its check character.
func Telepen(widths []int) (Message, error) {
	data, err := telepen(widths)
	if err != nil {
		return Message{}, err
	}
	w := newWriter()
	w.bytes(string(data))
	return w.message(false), nil
}

// TelepenNumeric reads pairs of digits, or of a digit and X.
func TelepenNumeric(widths []int) (Message, error) {
	data, err := telepen(widths)
	if err != nil {
		return Message{}, err
	}
	var text strings.Builder
	for _, c := range data {
		switch {
		case c >= 27:
			fmt.Fprintf(&text, "%02d", c-27)
		case c >= 17:
			fmt.Fprintf(&text, "%dX", c-17)
		default:
			return Message{}, ErrData
		}
	}
	return Message{Text: text.String()}, nil
}

// telepen turns pairs of a bar and a space into bits and those into characters, and checks them.
func telepen(widths []int) (data []byte, err error) {
	var read strings.Builder
	open := false
	for i := 0; i < len(widths); i += 2 {
		space := 1 // behind the last bar
		if i+1 < len(widths) {
			space = widths[i+1]
		}
		switch [2]int{widths[i], space} {
		case [2]int{1, 1}:
			read.WriteString("1")
		case [2]int{3, 1}:
			read.WriteString("00")
		case [2]int{3, 3}:
			read.WriteString("010")
		case [2]int{1, 3}:
			read.WriteString(map[bool]string{false: "01", true: "10"}[open])
			open = !open
		default:
			return nil, ErrPattern
		}
	}
	text := read.String()
	if len(text)%8 != 0 || len(text) < 4*8 {
		return nil, ErrPattern
	}
	for ; len(text) > 0; text = text[8:] {
		c := byte(0)
		for i := range 8 {
			c |= (text[i] - '0') << i
		}
		if bits.OnesCount8(c)%2 == 1 {
			return nil, ErrCheck
		}
		data = append(data, c&0x7F)
	}
	last := len(data) - 1
	if data[0] != '_' || data[last] != 'z' {
		return nil, ErrPattern
	}
	sum := 0
	for _, c := range data[1:last] {
		sum += int(c)
	}
	if sum%127 != 0 {
		return nil, ErrCheck
	}
	return data[1 : last-1], nil
}
