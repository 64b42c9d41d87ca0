package symbology

import "strings"

// Micro QR Code (ISO/IEC 18004, 5.3.2 and on): one finder, and four versions of 11 to 17 modules.

// microVersion is one version at one level of error correction (tables 7 and 9).
type microVersion struct {
	version int // 1 to 4
	level   string
	bits    int // of data
	check   int // check words
	symbol  int // its number in the format information (table 13)
}

var microVersions = []microVersion{
	{1, "", 20, 2, 0}, {2, "L", 40, 5, 1}, {2, "M", 32, 6, 2}, {3, "L", 84, 6, 3}, {3, "M", 68, 8, 4}, {4, "L", 128, 8, 5}, {4, "M", 112, 10, 6}, {4, "Q", 80, 14, 7},
}

// microCount holds the bits of a character count by version and mode (table 3); 0: it has not that mode.
var microCount = [5][3]int{{}, {3, 0, 0}, {4, 3, 0}, {5, 4, 4}, {6, 5, 5}}

func (s *Symbol) microQR(text string, o Options) error {
	const name = "Micro QR Code"
	if text == "" {
		return wrong(name, 0, "Micro QR Code needs at least one character.")
	}
	if o.Level != "" && o.Level != "L" && o.Level != "M" && o.Level != "Q" {
		return wrong(name, 0, "The error correction of Micro QR Code is L, M or Q, not %s.", o.Level)
	}
	bytes, latin := latin1(text)
	if !latin {
		return wrong(name, 0, "Micro QR Code takes the characters of western Europe; use QR Code for others.")
	}
	mode := qrNumeric
	for _, b := range bytes {
		switch {
		case b >= '0' && b <= '9':
		case strings.IndexByte(qrLetters, b) >= 0:
			mode = max(mode, qrAlphanumeric)
		default:
			mode = qrByte
		}
	}
	chars := make([]qrChar, len(bytes))
	for i, b := range bytes {
		chars[i].text = string([]byte{b})
	}
	for _, v := range microVersions {
		if o.Level != "" && v.level != o.Level || o.Level == "" && v.level == "Q" {
			continue
		}
		count := microCount[v.version][mode]
		if count == 0 || len(bytes) >= 1<<count {
			continue
		}
		bits := &bitWriter{}
		bits.add(mode, v.version-1)
		bits.add(len(bytes), count)
		qrData(bits, chars, mode)
		if bits.n > v.bits {
			continue
		}
		s.microDraw(v, bits)
		s.Text, s.Reads = printable(text), text
		return nil
	}
	return wrong(name, 0, "This is too much for one Micro QR Code, which holds up to 35 digits, 21 capitals or 15 other characters. Use QR Code.")
}

// microWords ends and pads the data and appends its check words; M1 and M3 end their data with half
// a word.
func microWords(v microVersion, w *bitWriter) (data, check []byte) {
	w.add(0, min(2*v.version+1, v.bits-w.n)) // the terminator
	for w.n%8 != 0 && w.n < v.bits {
		w.add(0, 1)
	}
	for pad := 0xEC; w.n < v.bits; pad ^= 0xEC ^ 0x11 {
		if v.bits-w.n < 8 {
			w.add(0, v.bits-w.n)
		} else {
			w.add(pad, 8)
		}
	}
	data = append(data, w.data...)
	forCheck := append([]byte{}, data...)
	if v.bits%8 != 0 { // half a word counts by itself
		forCheck[len(forCheck)-1] >>= 4
	}
	return data, remainder(qrField, forCheck, qrField.generator(v.check, 0))
}

func (s *Symbol) microDraw(v microVersion, w *bitWriter) {
	size := 9 + 2*v.version
	m := &s.Matrix
	m.resize(size, size)
	fixed := make([]bool, size*size)
	set := func(x, y int, dark bool) {
		m.set(x, y, dark)
		fixed[y*size+x] = true
	}
	for i := range size {
		set(i, 0, i%2 == 0)
		set(0, i, i%2 == 0)
	}
	for y := range 8 {
		for x := range 8 {
			d := max(x-3, 3-x, y-3, 3-y)
			set(x, y, d != 2 && d != 4)
		}
	}
	for i := 1; i <= 8; i++ { // room for the format information
		set(i, 8, false)
		set(8, i, false)
	}
	data, check := microWords(v, w)
	bits := &bitWriter{}
	for i := range v.bits {
		bits.add(int(data[i/8]>>(7-i%8)&1), 1)
	}
	for _, b := range check {
		bits.add(int(b), 8)
	}
	n, up := 0, true
	for right := size - 1; right >= 1; right -= 2 {
		for i := range size {
			y := i
			if up {
				y = size - 1 - i
			}
			for x := right; x >= right-1; x-- {
				if !fixed[y*size+x] && n < bits.n {
					m.set(x, y, bits.data[n/8]>>(7-n%8)&1 == 1)
					n++
				}
			}
		}
		up = !up
	}
	best, most := 0, -1
	masks := [4]int{1, 4, 6, 7} // of QR Code, in their order here (table 10)
	for i, mask := range masks {
		qrMask(m, fixed, mask)
		right, below := 0, 0
		for j := 1; j < size; j++ {
			if m.At(size-1, j) {
				right++
			}
			if m.At(j, size-1) {
				below++
			}
		}
		if score := min(right, below)*16 + max(right, below); score > most {
			best, most = i, score
		}
		qrMask(m, fixed, mask)
	}
	qrMask(m, fixed, masks[best])
	format := microFormat(v.symbol, best)
	for i := range 15 {
		dark := format>>(14-i)&1 == 1
		if i < 8 {
			m.set(1+i, 8, dark)
		} else {
			m.set(8, 15-i, dark)
		}
	}
}

// microFormat returns the 15 bits of format information (annex C, with the mask of 7.9.2).
func microFormat(symbol, mask int) int {
	data := symbol<<2 | mask
	rest := data << 10
	for i := 14; i >= 10; i-- {
		if rest>>i&1 == 1 {
			rest ^= 0x537 << (i - 10)
		}
	}
	return (data<<10 | rest) ^ 0x4445
}
