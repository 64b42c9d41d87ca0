package decode

// DataMatrixWords reads the words of data of a Data Matrix ECC 200, its errors corrected already
// (ISO/IEC 16022, 5.2).
func DataMatrixWords(words []byte) (Message, error) {
	w, isGS1 := newWriter(), false
	upper := byte(0)
	after := "" // what a macro puts at the end
	for i := 0; i < len(words); {
		word := words[i]
		i++
		switch {
		case word == 0:
			return Message{}, ErrData
		case word <= 128:
			w.byte(word - 1 + upper)
			upper = 0
		case word == 129: // what follows only fills up
			i = len(words)
		case word <= 229:
			w.byte('0' + (word-130)/10)
			w.byte('0' + (word-130)%10)
		case word == 230, word == 239, word == 238:
			used, err := triples(w, words[i:], word)
			if err != nil {
				return Message{}, err
			}
			i += used
		case word == 231:
			used, err := base256(w, words, i)
			if err != nil {
				return Message{}, err
			}
			i += used
		case word == 232 && i == 1:
			isGS1 = true
		case word == 232:
			w.byte(groupSeparator)
		case word == 235:
			upper = 128
		case word == 236, word == 237:
			w.bytes("[)>\x1e0" + string('5'+rune(word-236)) + "\x1d")
			after = "\x1e\x04"
		case word == 240:
			i += edifact(w, words[i:])
		case word == 241 && i < len(words) && words[i] <= 127:
			w.setECI(int(words[i]) - 1)
			i++
		default:
			return Message{}, ErrData
		}
	}
	w.bytes(after)
	return w.message(isGS1), nil
}

// triples reads words of C40, Text or X12: two for three values. It returns how many words it took, the one
// that leads back included.
func triples(w *writer, words []byte, mode byte) (used int, err error) {
	const unlatch = 254
	const basic, signs = " 0123456789", "!\"#$%&'()*+,-./:;<=>?@[\\]^_"
	shift, upper := 0, byte(0)
	say := func(c byte) {
		w.byte(c + upper)
		upper, shift = 0, 0
	}
	for used+1 < len(words) {
		if words[used] == unlatch {
			return used + 1, nil
		}
		v := int(words[used])<<8 + int(words[used+1]) - 1
		used += 2
		for _, c := range []int{v / 1600, v / 40 % 40, v % 40} {
			switch {
			case mode == 238 && c < 4:
				say("\r*> "[c])
			case shift == 0 && c < 3:
				shift = c + 1
			case shift == 0 && c < 14:
				say(basic[c-3])
			case shift == 0 && mode == 239:
				say('a' + byte(c-14))
			case shift == 0:
				say('A' + byte(c-14))
			case shift == 1 && c < 32:
				say(byte(c))
			case shift == 2 && c < len(signs):
				say(signs[c])
			case shift == 2 && c == 27:
				w.byte(groupSeparator)
				shift = 0
			case shift == 2 && c == 30:
				upper, shift = 128, 0
			case shift == 3 && mode == 239 && c > 0 && c < 27:
				say('A' + byte(c-1))
			case shift == 3 && c < 32:
				say('`' + byte(c))
			default:
				return used, ErrData
			}
		}
	}
	if used < len(words) && words[used] == unlatch {
		used++
	}
	return used, nil // a last word stands in ASCII (5.2.5.2)
}

// base256 reads bytes, each mixed with a number that depends on its place (annex B.2).
func base256(w *writer, words []byte, from int) (used int, err error) {
	plain := func(i int) int {
		return (int(words[i]) - (149*(i+1)%255 + 1) + 256) % 256
	}
	if from >= len(words) {
		return 0, ErrData
	}
	length := plain(from)
	used = 1
	switch {
	case length == 0:
		length = len(words) - from - 1
	case length >= 250:
		if from+1 >= len(words) {
			return used, ErrData
		}
		length = 250*(length-249) + plain(from+1)
		used++
	}
	if from+used+length > len(words) {
		return used, ErrData
	}
	for i := range length {
		w.byte(byte(plain(from + used + i)))
	}
	return used + length, nil
}

// edifact reads four characters of six bits in three words, up to the one that leads back; up to two
// words at the end of the symbol are ASCII (5.2.8.2).
func edifact(w *writer, words []byte) (used int) {
	for used < len(words) && len(words)-used > 2 {
		s := streamOf(words[used:min(used+3, len(words))])
		for range 4 {
			c := s.take(6)
			if c == 0x1F {
				return used + (s.at+7)/8
			}
			if c < 32 {
				c += 64
			}
			w.byte(byte(c))
		}
		used += 3
	}
	return used
}
