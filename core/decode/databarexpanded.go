package decode

import (
	"fmt"
	"strings"
)

// expandedFinders are the finders A to F by their first three widths (table 13).
var expandedFinders = [6][3]int{{1, 8, 4}, {3, 6, 4}, {3, 4, 6}, {3, 2, 8}, {2, 6, 5}, {2, 2, 9}}

// expandedOrders are the finders of a symbol in their order, small letters turned round (table 14).
var expandedOrders = map[int]string{2: "Aa", 3: "AbB", 4: "AcBd", 5: "AeBdC", 6: "AeBdDf", 7: "AeBdEfF", 8: "AaBbCcDd",
	9: "AaBbCcDeE", 10: "AaBbCcDeFf", 11: "AaBbCdDeEfF"}

// DataBarExpanded reads GS1 DataBar Expanded; widths begin with the bar behind the light one of the guard. The
// guard at the end may lack its light element.
func DataBarExpanded(widths []int) (Message, error) {
	if len(widths) < 3 || widths[0] != 1 {
		return Message{}, ErrPattern
	}
	body := widths[1:]
	switch len(body) % 21 {
	case 1, 14: // one dark guard
		body = body[:len(body)-1]
	case 2, 15:
		body = body[:len(body)-2]
	default:
		return Message{}, ErrPattern
	}
	return expanded(body)
}

// DataBarExpandedStacked reads the stacked form: rows of 34 modules, every second one turned where it has an
// even number of finders.
func DataBarExpandedStacked(m *Modules) (Message, error) {
	const tall, between = 34, 3
	if (m.Height+between)%(tall+between) != 0 {
		return Message{}, ErrPattern
	}
	var body []int
	columns := 0
	for i := range (m.Height + between) / (tall + between) {
		y := i * (tall + between)
		if !sameRows(m, y, y+tall) {
			return Message{}, ErrPattern
		}
		widths, dark := row(m, y)
		last := m.At(m.Width-1, y)
		if i == 0 {
			columns = (len(widths) - 4 + 8) / 21
		}
		second := i%2 == 1 && columns%2 == 0
		if !dark && widths[0] > 1 && second { // moved right by a module
			widths[0]--
		}
		if !last && widths[len(widths)-1] > 1 { // a shorter row ends before the edge
			widths[len(widths)-1] = 1
			if (len(widths)-4)%21 != 0 && (len(widths)-4)%21 != 13 {
				widths = widths[:len(widths)-1]
			}
		}
		if len(widths) < 4+13 || widths[0] != 1 || widths[1] != 1 {
			return Message{}, ErrPattern
		}
		own := widths[2 : len(widths)-2]
		if n := len(own) % 21; n != 0 && n != 13 {
			return Message{}, ErrPattern
		}
		if second && (len(own)+8)/21%2 == 0 {
			own = reversed(own)
		}
		body = append(body, own...)
	}
	return expanded(body)
}

// expanded reads characters and finders: character, finder, character turned round.
func expanded(body []int) (Message, error) {
	finders := (len(body) + 8) / 21
	order, ok := expandedOrders[finders]
	if !ok {
		return Message{}, ErrPattern
	}
	var values []int
	var places [][]int
	for i := range finders {
		at := 21 * i
		places = append(places, body[at:at+8])
		finder := body[at+8 : at+13]
		letter := order[i]
		if letter >= 'a' {
			finder, letter = reversed(finder), letter-'a'+'A'
		}
		if [3]int(finder[:3]) != expandedFinders[letter-'A'] || finder[3] != 1 || finder[4] != 1 {
			return Message{}, ErrPattern
		}
		if at+21 <= len(body) {
			places = append(places, reversed(body[at+13:at+21]))
		}
	}
	sum := 0
	for i, widths := range places {
		value, err := character(widths, dataBarWide, true, false)
		if err != nil {
			return Message{}, err
		}
		values = append(values, value)
		if i == 0 {
			continue
		}
		// The weights of a character beside a finder: powers of 3 from 8 for each place before it in the order A, a,
		// B, b, of which each finder has two (table 15).
		letter := order[i/2]
		place := 4*int(letter-'A') + i%2 - 1
		if letter >= 'a' {
			place = 4*int(letter-'a') + 2 + i%2 - 1
		}
		weight := 1
		for range 8 * place {
			weight = weight * 3 % 211
		}
		for _, w := range widths {
			sum, weight = sum+w*weight, weight*3%211
		}
	}
	if values[0] != 211*(len(values)-4)+sum%211 {
		return Message{}, ErrCheck
	}
	s := &stream{}
	for _, value := range values[1:] {
		for i := 11; i >= 0; i-- {
			s.data = append(s.data, value>>i&1 == 1)
		}
	}
	return expandedText(s)
}

// expandedText reads what the method says that is kept, and the general purpose field behind it (7.2.5).
func expandedText(s *stream) (Message, error) {
	if s.take(1) == 1 {
		return Message{}, ErrData // a linked 2D component
	}
	var text strings.Builder
	item := func(first int) {
		digits := fmt.Sprint(first)
		for range 4 {
			digits += fmt.Sprintf("%03d", s.take(10))
		}
		text.WriteString("01" + digits + checkDigit(digits))
	}
	const variable, lengthBits = 9, 2
	switch {
	case s.peek(1) == 1:
		s.take(1 + lengthBits)
		item(s.take(4))
	case s.peek(2) == 0b00:
		s.take(2 + lengthBits)
	case s.peek(4) == 0b0100:
		s.take(4)
		item(variable)
		fmt.Fprintf(&text, "3103%06d", s.take(15))
		return Message{Text: text.String(), GS1: true}, nil
	case s.peek(4) == 0b0101:
		s.take(4)
		item(variable)
		if weight := s.take(15); weight < 10_000 {
			fmt.Fprintf(&text, "3202%06d", weight)
		} else {
			fmt.Fprintf(&text, "3203%06d", weight-10_000)
		}
		return Message{Text: text.String(), GS1: true}, nil
	case s.peek(5)>>1 == 0b0110:
		currency := s.take(5)&1 == 1
		s.take(lengthBits)
		item(variable)
		if decimals := s.take(2); currency {
			fmt.Fprintf(&text, "393%d%03d", decimals, s.take(10))
		} else {
			fmt.Fprintf(&text, "392%d", decimals)
		}
	case s.peek(4) == 0b0111:
		s.take(4)
		kind := s.take(3)
		item(variable)
		weight, date := s.take(20), s.take(16)
		fmt.Fprintf(&text, "3%d0%d%06d", 1+kind%2, weight/100_000, weight%100_000)
		if date != 38_400 {
			fmt.Fprintf(&text, "%d%02d%02d%02d", []int{11, 13, 15, 17}[kind/2], date/384, date%384/32+1, date%32)
		}
		return Message{Text: text.String(), GS1: true}, nil
	default:
		return Message{}, ErrData
	}
	if err := generalField(s, &text); err != nil {
		return Message{}, err
	}
	return Message{Text: strings.TrimRight(text.String(), string(rune(groupSeparator))), GS1: true}, nil
}

// generalField reads the general purpose field, mode by mode (7.2.5.5).
func generalField(s *stream, text *strings.Builder) error {
	const (
		numericField = iota
		alphaField
		isoField
	)
	digit := func(n int) {
		if n == 10 {
			text.WriteByte(groupSeparator)
		} else {
			text.WriteByte(byte('0' + n))
		}
	}
	mode := numericField
	for s.left() > 0 {
		switch {
		case mode == numericField && s.left() < 7:
			if s.left() >= 4 {
				if value := s.take(4); value > 0 {
					digit(value - 1)
				}
			}
			return nil
		case mode == numericField && s.peek(4) == 0:
			s.take(4)
			mode = alphaField
		case mode == numericField:
			pair := s.take(7) - 8
			digit(pair / 11)
			digit(pair % 11)
		case s.left() < 5:
			return nil
		case s.peek(3) == 0:
			s.take(3)
			mode = numericField
		case s.peek(5) == 4:
			s.take(5)
			mode = alphaField + isoField - mode
		case s.peek(5) == 15:
			s.take(5)
			mode = numericField
			text.WriteByte(groupSeparator)
		case s.peek(5) < 15:
			text.WriteByte(byte('0' + s.take(5) - 5))
		case mode == alphaField:
			switch value := s.take(6); {
			case value < 58:
				text.WriteByte(byte('A' + value - 32))
			case value < 63:
				text.WriteByte("*,-./"[value-58])
			default:
				return ErrData
			}
		default:
			if value := s.peek(7); value < 90 {
				text.WriteByte(byte('A' + s.take(7) - 64))
			} else if value < 116 {
				text.WriteByte(byte('a' + s.take(7) - 90))
			} else if value := s.take(8) - 232; value >= 0 && value < 21 {
				text.WriteByte("!\"%&'()*+,-./:;<=>?_ "[value])
			} else {
				return ErrData
			}
		}
	}
	return nil
}
