package symbology

import (
	"strconv"
	"strings"

	"oddspool/core/codewords"
	"oddspool/core/decode"
)

// MicroQR is Micro QR Code.
const MicroQR ID = "micro-qr"

var microQRKind = Kind{
	ID: MicroQR, Name: "Micro QR Code",
	Standard: "ISO/IEC 18004", Is2D: true, Identifier: "]Q1",
	Holds:   "digits, capitals, kanji, the characters of western Europe",
	Example: "26K104",
	Most:    "35 digits, 21 capitals or 15 others",
	Readers: "cameras, but few telephones",
	Uses:    "small parts, where QR Code is too large",
	Quiet:   2, Least: 250, western: guessedLetters,
	Options: []Option{levels("L", "M", "Q"), versions("M1", "M2", "M3", "M4"), westernOption},
	Encode:  (*Symbol).microQR, Modules: decode.MicroQR,
}

// Micro QR Code (ISO/IEC 18004, 5.3.2 and on): one finder, and four versions of 11 to 17 modules.

// microVersion is one version at one level of error correction (tables 7 and 9).
type microVersion struct {
	version int // 1 to 4
	level   string
	bits    int // of data; those of M1 and M3 end with half a word
	check   int // check words
	symbol  int // its number in the format information (table 13)
}

var microVersions = []microVersion{
	{1, "", 20, 2, 0}, {2, "L", 40, 5, 1}, {2, "M", 32, 6, 2}, {3, "L", 84, 6, 3}, {3, "M", 68, 8, 4},
	{4, "L", 128, 8, 5}, {4, "M", 112, 10, 6}, {4, "Q", 80, 14, 7},
}

// microSchemes are those of the versions (tables 2 and 3).
var microSchemes = [5]qrScheme{
	1: {bits: 0, count: [qrModes]int{3}},
	2: {bits: 1, indicator: [qrModes]int{0, 1}, count: [qrModes]int{4, 3}},
	3: {bits: 2, indicator: [qrModes]int{0, 1, 2, 3}, count: [qrModes]int{5, 4, 4, 3}},
	4: {bits: 3, indicator: [qrModes]int{0, 1, 2, 3}, count: [qrModes]int{6, 5, 5, 4}},
}

func (s *Symbol) microQR(text string, o Options) error {
	if text == "" {
		return wrong(0, "Micro QR Code needs at least one character.")
	}
	version, _ := strconv.Atoi(strings.TrimPrefix(o.Version, "M"))
	ways := qrTexts(text, o, false)
	if latin, ok := latin1(text); ok && !o.Bytes { // there is no ECI here; bytes are taken for ISO/IEC 8859-1
		ways = append(ways, qrText{chars: qrChars(string(latin), false, false)})
	}
	for _, v := range microVersions {
		if o.Level != "" && v.level != o.Level || o.Level == "" && v.level == "Q" || version > 0 &&
			version != v.version {
			continue
		}
		if bits := microSchemes[v.version].shortest(ways); bits != nil && bits.Len <= v.bits {
			s.microDraw(v, bits)
			s.Text, s.Reads = printable(text), text
			return nil
		}
	}
	if bits := qrSchemes[0].shortest(ways); bits == nil || len(ways) == 1 && ways[0].eci {
		return wrong(0, "Micro QR Code takes the characters of western Europe and kanji; use QR Code for others.")
	}
	if version > 0 || o.Level != "" {
		return wrong(0, "This is too much for one Micro QR Code of that version and level. Choose a larger "+
			"version or a lower level, or use QR Code.")
	}
	return wrong(0, "This is too much for one Micro QR Code, which holds up to 35 digits, 21 capitals, 15 "+
		"other characters or 9 kanji. Use QR Code.")
}

func (s *Symbol) microDraw(v microVersion, w *codewords.Bits) {
	qrPad(w, v.bits, 2*v.version+1)
	// Half a word enters the error correction as one whose lower half is zero (7.5.2).
	check := codewords.Check(qrField, w.Bytes, qrGenerators[v.check])
	for _, b := range check {
		w.Add(int(b), 8)
	}
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
	qrFinder(m, 3, 3, set)
	for i := 1; i <= 8; i++ { // room for the format information
		set(i, 8, false)
		set(8, i, false)
	}
	qrColumns(m, fixed, -1, w.At)
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
	format := bch(v.symbol<<2|best, 10, 0x537) ^ 0x4445 // 7.9.2
	for i := range 15 {
		dark := format>>(14-i)&1 == 1
		if i < 8 {
			m.set(1+i, 8, dark)
		} else {
			m.set(8, 15-i, dark)
		}
	}
}
