package symbology

import (
	"math"
	"slices"
	"strings"

	"oddspool/core/codewords"
)

var aztecFields = map[int]*codewords.Field{4: codewords.NewField(16, 0x13), 6: codewords.NewField(64, 0x43),
	8: codewords.NewField(256, 0x12D), 10: codewords.NewField(1024, 0x409), 12: codewords.NewField(4096, 0x1069)}

// An aztecStep is the cheapest way to a mode before a byte of the data.
type aztecStep struct {
	bits  int // so far
	from  int // the mode before
	back  int // bytes taken: 0 for a latch
	shift int // the mode in which they were said
}

const aztecInBytes = aztecModes // as a mode shifted to

// An aztecMove is one step of a way through data.
type aztecMove struct {
	aztecStep
	at, to int // the byte it begins before, and the mode after it
}

// aztecWay returns the way through data that takes the fewest bits, found by looking at every way through the modes. In
// gs1 data the byte fnc1 is the function character.
func aztecWay(data []byte, isGS1 bool) (moves []aztecMove) {
	const never = math.MaxInt / 2
	steps := make([][aztecModes]aztecStep, len(data)+1)
	for i := range steps {
		for mode := range aztecModes {
			steps[i][mode].bits = never
		}
	}
	steps[0][aztecUpper].bits = 0
	relax := func(i, mode int, step aztecStep) {
		if step.bits < steps[i][mode].bits {
			steps[i][mode] = step
		}
	}
	// where a long run of bytes is best begun: bits less eight for each byte before
	var long [aztecModes]struct{ bits, from int }
	since := 0 // where a run of bytes may begin: a function character is no byte
	for i := range steps {
		if i == 0 || isGS1 && data[i-1] == fnc1 {
			since = i
			for mode := range long {
				long[mode].bits = never
			}
		}
		for mode := range aztecMixed + 1 { // runs of bytes that end here
			for n := 1; n <= min(i-since, aztecShortBytes); n++ {
				relax(i, mode, aztecStep{steps[i-n][mode].bits + 10 + 8*n, mode, n, aztecInBytes})
			}
			if from := i - aztecShortBytes - 1; from >= since {
				if bits := steps[from][mode].bits - 8*from; bits < long[mode].bits {
					long[mode].bits, long[mode].from = bits, from
				}
				if n := i - long[mode].from; n <= aztecMostBytes {
					relax(i, mode, aztecStep{long[mode].bits + 21 + 8*i, mode, n, aztecInBytes})
				}
			}
		}
		for range 2 {
			for mode := range aztecModes {
				for to, latch := range aztecLatches[mode] {
					bits := 0
					for _, code := range latch {
						bits += code.bits
					}
					if bits > 0 {
						relax(i, to, aztecStep{steps[i][mode].bits + bits, mode, 0, to})
					}
				}
			}
		}
		if i == len(data) {
			break
		}
		for in := range aztecModes {
			_, bits, taken := aztecValue(in, data[i:], isGS1)
			if taken == 0 {
				continue
			}
			relax(i+taken, in, aztecStep{steps[i][in].bits + bits, in, taken, in})
			for mode := range aztecModes {
				if shift := aztecShifts[mode][in]; shift.bits > 0 {
					relax(i+taken, mode, aztecStep{steps[i][mode].bits + shift.bits + bits, mode, taken, in})
				}
			}
		}
	}
	mode := 0
	for m, step := range steps[len(data)] {
		if step.bits < steps[len(data)][mode].bits {
			mode = m
		}
	}
	for i := len(data); i > 0 || mode != aztecUpper; {
		step := steps[i][mode]
		moves = append(moves, aztecMove{step, i - step.back, mode})
		i, mode = i-step.back, step.from
	}
	slices.Reverse(moves)
	return moves
}

// aztecWrite writes data in the fewest bits.
func aztecWrite(w *codewords.Bits, data []byte, isGS1 bool) {
	for _, m := range aztecWay(data, isGS1) {
		switch {
		case m.back == 0:
			for _, code := range aztecLatches[m.from][m.to] {
				w.Add(code.value, code.bits)
			}
			continue
		case m.shift == aztecInBytes:
			w.Add(aztecBytes, 5)
			if m.back <= aztecShortBytes {
				w.Add(m.back, 5)
			} else {
				w.Add(0, 5)
				w.Add(m.back-aztecShortBytes, 11)
			}
			for _, b := range data[m.at : m.at+m.back] {
				w.Add(int(b), 8)
			}
			continue
		case m.shift != m.from:
			shift := aztecShifts[m.from][m.shift]
			w.Add(shift.value, shift.bits)
		}
		value, bits, _ := aztecValue(m.shift, data[m.at:], isGS1)
		w.Add(value, bits)
	}
}

// aztecValue returns the value of the next byte or two in a mode, its bits, and the bytes taken; 0: it
// has none.
func aztecValue(mode int, data []byte, isGS1 bool) (value, bits, taken int) {
	c := data[0]
	if mode == aztecPunct {
		if isGS1 && c == fnc1 {
			return 0, 8, 1 // FLG and 0 in three bits
		}
		if len(data) > 1 {
			if i := slices.Index(aztecPairs[:], string(data[:2])); i >= 0 {
				return i + 2, 5, 2
			}
		}
	}
	if i := strings.IndexByte(aztecSets[mode], c); i > 0 && c < 0x80 {
		return i, aztecBits(mode), 1
	}
	return 0, 0, 0
}

// aztecWords cuts bits into words. A word whose bits but the last are all alike gets the other as its
// last (7.3.1.2); the end is filled with ones.
func aztecWords(w *codewords.Bits, size int) (words []uint16) {
	bit := func(i int) uint16 {
		if i >= w.Len || w.At(i) {
			return 1
		}
		return 0
	}
	for at := 0; at < w.Len; {
		var word uint16
		for i := range size - 1 {
			word = word<<1 | bit(at+i)
		}
		at += size - 1
		switch word {
		case 0:
			word = 1
		case 1<<(size-1) - 1:
			word <<= 1
		default:
			word = word<<1 | bit(at)
			at++
		}
		words = append(words, word)
	}
	return words
}
