package symbology

import (
	"math/bits"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/japanese"
)

// QR Code (ISO/IEC 18004). The data is cut into segments of numeric, alphanumeric, byte and kanji
// mode so that the whole takes the fewest bits; text beyond ASCII is UTF-8 behind an ECI that says so.

// The modes of a segment (table 2), as indexes; their indicators are in qrModes.
const (
	qrNumeric = iota
	qrAlphanumeric
	qrByte
	qrKanji
)

// qrModes holds each mode's indicator and the bits of its character count for versions 1 to 9, 10 to
// 26, and 27 to 40 (table 3).
var qrModes = [4]struct {
	indicator int
	count     [3]int
}{{1, [3]int{10, 12, 14}}, {2, [3]int{9, 11, 13}}, {4, [3]int{8, 16, 16}}, {8, [3]int{8, 10, 12}}}

const qrLetters = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:"

// qrLevels are the levels of error correction in the order of the tables, and their bits in the
// format information (table 12).
const qrLevels = "LMQH"

var qrFormatBits = [4]int{1, 0, 3, 2}

// qrCheckWords are the check words of a block (table 9), by level and version.
var qrCheckWords = [4][41]uint8{
	{0, 7, 10, 15, 20, 26, 18, 20, 24, 30, 18, 20, 24, 26, 30, 22, 24, 28, 30, 28, 28, 28, 28, 30, 30, 26, 28, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30},
	{0, 10, 16, 26, 18, 24, 16, 18, 22, 22, 26, 30, 22, 22, 24, 24, 28, 28, 26, 26, 26, 26, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28},
	{0, 13, 22, 18, 26, 18, 24, 18, 22, 20, 24, 28, 26, 24, 20, 30, 24, 28, 28, 26, 30, 28, 30, 30, 30, 30, 28, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30},
	{0, 17, 28, 22, 16, 22, 28, 26, 26, 24, 28, 24, 28, 22, 24, 24, 30, 28, 28, 26, 28, 30, 24, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30},
}

// qrBlocks are the blocks (table 9), by level and version.
var qrBlocks = [4][41]uint8{
	{0, 1, 1, 1, 1, 1, 2, 2, 2, 2, 4, 4, 4, 4, 4, 6, 6, 6, 6, 7, 8, 8, 9, 9, 10, 12, 12, 12, 13, 14, 15, 16, 17, 18, 19, 19, 20, 21, 22, 24, 25},
	{0, 1, 1, 1, 2, 2, 4, 4, 4, 5, 5, 5, 8, 9, 9, 10, 10, 11, 13, 14, 16, 17, 17, 18, 20, 21, 23, 25, 26, 28, 29, 31, 33, 35, 37, 38, 40, 43, 45, 47, 49},
	{0, 1, 1, 2, 2, 4, 4, 6, 6, 8, 8, 8, 10, 12, 16, 12, 17, 16, 18, 21, 20, 23, 23, 25, 27, 29, 34, 34, 35, 38, 40, 43, 45, 48, 51, 53, 56, 59, 62, 65, 68},
	{0, 1, 1, 2, 4, 4, 4, 5, 6, 8, 8, 11, 11, 16, 16, 18, 16, 19, 21, 25, 25, 25, 34, 30, 32, 35, 37, 40, 42, 45, 48, 51, 54, 57, 60, 63, 66, 70, 74, 77, 81},
}

// qrField is GF(256) with x^8+x^4+x^3+x^2+1 (7.5.2).
var qrField = newField(256, 0x11D)

var qrGenerators [31][]int

func init() {
	for n := range qrGenerators {
		if n > 0 {
			qrGenerators[n] = qrField.generator(n, 0)
		}
	}
}

func (s *Symbol) qr(text string, o Options) error {
	return s.qrSymbol("QR Code", text, text, false, o)
}

func (s *Symbol) gs1QR(text string, o Options) error {
	elements, err := s.gs1(text)
	if err != nil {
		return err
	}
	// In GS1 QR Code % in alphanumeric mode is a function character, and in byte mode it is GS; the
	// data is written in bytes where it must be, which the segments see to.
	s.Text = GS1Text(elements)
	return s.qrSymbol("GS1 QR Code", string(gs1Data(elements, groupSeparator)), s.Text, true, o)
}

func (s *Symbol) qrSymbol(name, data, text string, gs1 bool, o Options) error {
	if data == "" {
		return wrong(name, 0, "%s needs at least one character.", name)
	}
	level := strings.IndexByte(qrLevels, 'M')
	if o.Level != "" {
		if level = strings.Index(qrLevels, o.Level); level < 0 || len(o.Level) != 1 {
			return wrong(name, 0, "The error correction of %s is L, M, Q or H, not %s.", name, o.Level)
		}
	}
	ascii, valid := true, utf8.ValidString(data)
	for i := range len(data) {
		ascii = ascii && data[i] < 0x80
	}
	for group, last := range []int{9, 26, 40} {
		bits := &bitWriter{}
		if gs1 {
			bits.add(5, 4) // FNC1 in first position (7.4.8.2)
		} else if !ascii && valid {
			bits.add(7, 4) // ECI (7.4.2)
			bits.add(26, 8)
		}
		qrSegments(bits, data, group, valid, gs1)
		for version := [3]int{1, 10, 27}[group]; version <= last; version++ {
			if capacity := qrDataWords(version, level) * 8; bits.n <= capacity {
				s.qrDraw(version, level, qrWords(bits, version, level))
				s.Text, s.Reads = printable(text), data
				return nil
			}
		}
	}
	return wrong(name, 0, "This is too much for one %s at level %c: it needs more than version 40 holds. Say less, or choose a lower level.", name, qrLevels[level])
}

// A bitWriter collects bits, the highest of a number first.
type bitWriter struct {
	data []byte
	n    int
}

func (w *bitWriter) add(value, bits int) {
	for i := bits - 1; i >= 0; i-- {
		if w.n%8 == 0 {
			w.data = append(w.data, 0)
		}
		w.data[w.n/8] |= byte(value>>i&1) << (7 - w.n%8)
		w.n++
	}
}

// qrChar is what a character of the data costs in each mode, in sixths of a bit; 0: it cannot.
type qrChar struct {
	text string // its bytes
	cost [4]int
}

// qrSegments writes the data in the segments that take the fewest bits together: the best way to have
// each character in each mode is known from the best ways for the one before.
func qrSegments(w *bitWriter, data string, group int, valid, gs1 bool) {
	var chars []qrChar
	for rest := data; rest != ""; {
		size := 1
		if valid {
			_, size = utf8.DecodeRuneInString(rest)
		}
		c := qrChar{text: rest[:size]}
		c.cost[qrByte] = 48 * size
		if size == 1 {
			if rest[0] >= '0' && rest[0] <= '9' {
				c.cost[qrNumeric] = 20
			}
			if strings.IndexByte(qrLetters, rest[0]) >= 0 && !(gs1 && rest[0] == '%') {
				c.cost[qrAlphanumeric] = 33
			}
		} else if kanji(c.text) >= 0 {
			c.cost[qrKanji] = 78
		}
		chars, rest = append(chars, c), rest[size:]
	}
	const never = 1 << 30
	head := func(mode int) int { return (4 + qrModes[mode].count[group]) * 6 }
	from := make([][4]uint8, len(chars)) // the mode before, of the best way to have a character in a mode
	best := [4]int{head(0), head(1), head(2), head(3)}
	for i, c := range chars {
		var now [4]int
		for mode := range now {
			now[mode] = never
			if c.cost[mode] == 0 {
				continue
			}
			for before := range best {
				cost := best[before]
				if i > 0 && before != mode {
					cost = (cost+5)/6*6 + head(mode) // a segment ends on a whole bit
				} else if i == 0 && before != mode {
					continue
				}
				if cost < never && cost+c.cost[mode] < now[mode] {
					now[mode], from[i][mode] = cost+c.cost[mode], uint8(before)
				}
			}
		}
		best = now
	}
	mode := 0
	for m := range best {
		if (best[m]+5)/6 < (best[mode]+5)/6 {
			mode = m
		}
	}
	modes := make([]int, len(chars))
	for i := len(chars) - 1; i >= 0; i-- {
		modes[i] = mode
		mode = int(from[i][mode])
	}
	for i := 0; i < len(chars); {
		end := i
		for end < len(chars) && modes[end] == modes[i] {
			end++
		}
		qrSegment(w, chars[i:end], modes[i], group)
		i = end
	}
}

func qrSegment(w *bitWriter, chars []qrChar, mode, group int) {
	count := 0
	for _, c := range chars {
		if mode == qrByte {
			count += len(c.text)
		} else {
			count++
		}
	}
	w.add(qrModes[mode].indicator, 4)
	w.add(count, qrModes[mode].count[group])
	qrData(w, chars, mode)
}

// qrData writes the characters of a segment.
func qrData(w *bitWriter, chars []qrChar, mode int) {
	switch mode {
	case qrNumeric:
		for i := 0; i < len(chars); i += 3 {
			n, digits := 0, min(3, len(chars)-i)
			for _, c := range chars[i : i+digits] {
				n = n*10 + int(c.text[0]-'0')
			}
			w.add(n, 1+3*digits)
		}
	case qrAlphanumeric:
		for i := 0; i < len(chars); i += 2 {
			n := strings.IndexByte(qrLetters, chars[i].text[0])
			if i+1 < len(chars) {
				w.add(n*45+strings.IndexByte(qrLetters, chars[i+1].text[0]), 11)
			} else {
				w.add(n, 6)
			}
		}
	case qrByte:
		for _, c := range chars {
			for i := range len(c.text) {
				w.add(int(c.text[i]), 8)
			}
		}
	case qrKanji:
		for _, c := range chars {
			w.add(kanji(c.text), 13)
		}
	}
}

// kanji returns the 13 bits of a character of Shift JIS in kanji mode (7.4.6); -1 for others.
func kanji(text string) int {
	jis, err := japanese.ShiftJIS.NewEncoder().String(text)
	if err != nil || len(jis) != 2 {
		return -1
	}
	n := int(jis[0])<<8 | int(jis[1])
	switch {
	case n >= 0x8140 && n <= 0x9FFC:
		n -= 0x8140
	case n >= 0xE040 && n <= 0xEBBF:
		n -= 0xC140
	default:
		return -1
	}
	return n>>8*0xC0 + n&0xFF
}

// qrModulesForData returns how many modules of a version are left for data and check words.
func qrModulesForData(version int) int {
	n := (16*version+128)*version + 64
	if version >= 2 {
		align := version/7 + 2
		n -= (25*align-10)*align - 55
		if version >= 7 {
			n -= 36
		}
	}
	return n
}

func qrDataWords(version, level int) int {
	return qrModulesForData(version)/8 - int(qrCheckWords[level][version])*int(qrBlocks[level][version])
}

// qrWords ends and pads the data and interleaves its blocks with their check words (7.4.9, 7.5, 7.6).
func qrWords(w *bitWriter, version, level int) []byte {
	capacity := qrDataWords(version, level)
	data := append([]byte{}, w.data...)
	for len(data) < capacity && len(data)*8 < w.n+4 { // the terminator, and bits up to a whole word
		data = append(data, 0)
	}
	for pad := byte(0xEC); len(data) < capacity; pad ^= 0xEC ^ 0x11 {
		data = append(data, pad)
	}
	blocks, check := int(qrBlocks[level][version]), int(qrCheckWords[level][version])
	all := qrModulesForData(version) / 8
	short := blocks - all%blocks
	var words, checks [][]byte
	for i, at := 0, 0; i < blocks; i++ {
		n := all/blocks - check
		if i >= short {
			n++
		}
		words = append(words, data[at:at+n])
		checks = append(checks, remainder(qrField, data[at:at+n], qrGenerators[check]))
		at += n
	}
	out := make([]byte, 0, all)
	for i := range len(words[blocks-1]) {
		for _, block := range words {
			if i < len(block) {
				out = append(out, block[i])
			}
		}
	}
	for i := range check {
		for _, block := range checks {
			out = append(out, block[i])
		}
	}
	return out
}

// qrDraw draws the symbol of a version with the mask that suits it best (7.7, 7.8).
func (s *Symbol) qrDraw(version, level int, words []byte) {
	size := 17 + 4*version
	m := &s.Matrix
	m.resize(size, size)
	fixed := make([]bool, size*size) // modules that are no data
	set := func(x, y int, dark bool) {
		m.set(x, y, dark)
		fixed[y*size+x] = true
	}
	for i := range size { // timing
		set(6, i, i%2 == 0)
		set(i, 6, i%2 == 0)
	}
	for _, corner := range [][2]int{{3, 3}, {size - 4, 3}, {3, size - 4}} { // finders and their separators
		for dy := -4; dy <= 4; dy++ {
			for dx := -4; dx <= 4; dx++ {
				x, y := corner[0]+dx, corner[1]+dy
				if d := max(dx, -dx, dy, -dy); x >= 0 && x < size && y >= 0 && y < size {
					set(x, y, d != 2 && d != 4)
				}
			}
		}
	}
	places := qrAlignments(version)
	for i, x := range places {
		for j, y := range places {
			if i == 0 && j == 0 || i == 0 && j == len(places)-1 || i == len(places)-1 && j == 0 {
				continue
			}
			for dy := -2; dy <= 2; dy++ {
				for dx := -2; dx <= 2; dx++ {
					set(x+dx, y+dy, max(dx, -dx, dy, -dy) != 1)
				}
			}
		}
	}
	format := func(mask int) { qrFormatAt(size, level, mask, set) }
	format(0)
	if version >= 7 {
		bits := version << 12
		for rest, i := bits, 17; i >= 12; i-- {
			if rest>>i&1 == 1 {
				rest ^= 0x1F25 << (i - 12)
			}
			if i == 12 {
				bits |= rest
			}
		}
		for i := range 18 {
			dark, a, b := bits>>i&1 == 1, size-11+i%3, i/3
			set(a, b, dark)
			set(b, a, dark)
		}
	}
	n := 0 // data, two columns at a time, upwards and downwards
	for right := size - 1; right >= 1; right -= 2 {
		if right == 6 {
			right = 5
		}
		for i := range size {
			y := i
			if (right+1)&2 == 0 {
				y = size - 1 - i
			}
			for x := right; x >= right-1; x-- {
				if !fixed[y*size+x] {
					m.set(x, y, n < 8*len(words) && words[n/8]>>(7-n%8)&1 == 1)
					n++
				}
			}
		}
	}
	best := qrBestMask(m, fixed, level)
	qrMask(m, fixed, best)
	format(best)
}

// qrFormatAt calls set with the modules of the format information (figure 25).
func qrFormatAt(size, level, mask int, set func(x, y int, dark bool)) {
	for i, bits := 0, qrFormat(level, mask); i < 15; i++ {
		dark := bits>>i&1 == 1
		switch { // beside the first finder
		case i < 6:
			set(8, i, dark)
		case i < 8:
			set(8, i+1, dark)
		case i == 8:
			set(7, 8, dark)
		default:
			set(14-i, 8, dark)
		}
		if i < 8 { // and shared between the two others
			set(size-1-i, 8, dark)
		} else {
			set(8, size-15+i, dark)
		}
	}
	set(8, size-8, true)
}

// qrBestMask returns the mask that disturbs a reader least. Symbols of up to 64 modules, which most
// are, are masked and counted a row at a time.
func qrBestMask(m *Matrix, fixed []bool, level int) int {
	size := m.Width
	var small *qrSmall
	var sides *qrSides
	if size <= 64 {
		small = newQRSmall(m, fixed)
	} else {
		sides = &qrSides{}
	}
	best, least := 0, -1
	for mask := range 8 {
		penalty := 0
		if small != nil {
			small.mask(mask, level)
			penalty = small.penalty()
		} else {
			qrMask(m, fixed, mask)
			qrFormatAt(size, level, mask, m.set)
			penalty = qrPenalty(m, sides)
			qrMask(m, fixed, mask)
		}
		if least < 0 || penalty < least {
			best, least = mask, penalty
		}
	}
	return best
}

// qrAlignments returns where alignment patterns have their centres, both ways (annex E).
func qrAlignments(version int) []int {
	if version == 1 {
		return nil
	}
	n := version/7 + 2
	step := (version*8 + n*3 + 5) / (n*4 - 4) * 2
	places := make([]int, n)
	for i, at := n-1, 10+4*version; i >= 1; i, at = i-1, at-step {
		places[i] = at
	}
	places[0] = 6
	return places
}

// qrFormat returns the 15 bits of format information (annex C).
func qrFormat(level, mask int) int {
	data := qrFormatBits[level]<<3 | mask
	rest := data << 10
	for i := 14; i >= 10; i-- {
		if rest>>i&1 == 1 {
			rest ^= 0x537 << (i - 10)
		}
	}
	return (data<<10 | rest) ^ 0x5412
}

// qrHit tells whether a mask turns a module over (table 10).
func qrHit(mask, x, y int) bool {
	switch mask {
	case 0:
		return (x+y)%2 == 0
	case 1:
		return y%2 == 0
	case 2:
		return x%3 == 0
	case 3:
		return (x+y)%3 == 0
	case 4:
		return (x/3+y/2)%2 == 0
	case 5:
		return x*y%2+x*y%3 == 0
	case 6:
		return (x*y%2+x*y%3)%2 == 0
	}
	return ((x+y)%2+x*y%3)%2 == 0
}

// qrMask turns the modules of data over where a mask says so (table 10).
func qrMask(m *Matrix, fixed []bool, mask int) {
	var pattern [12][12]bool // every mask repeats itself after twelve modules
	for y := range 12 {
		for x := range 12 {
			pattern[y][x] = qrHit(mask, x, y)
		}
	}
	for y := range m.Height {
		row, free := m.Dark[y*m.Width:(y+1)*m.Width], fixed[y*m.Width:(y+1)*m.Width]
		p, at := &pattern[y%12], 0
		for x := range row {
			if p[at] && !free[x] {
				row[x] = !row[x]
			}
			if at++; at == 12 {
				at = 0
			}
		}
	}
}

// A qrRow is a row or a column of up to 177 modules, one a bit.
type qrRow [3]uint64

// down returns the row n modules nearer to its beginning.
func (r qrRow) down(n int) qrRow {
	return qrRow{r[0]>>n | r[1]<<(64-n), r[1]>>n | r[2]<<(64-n), r[2] >> n}
}

func (r qrRow) and(o qrRow) qrRow { return qrRow{r[0] & o[0], r[1] & o[1], r[2] & o[2]} }

// same returns where two rows have the same module.
func (r qrRow) same(o qrRow) qrRow {
	return qrRow{^(r[0] ^ o[0]), ^(r[1] ^ o[1]), ^(r[2] ^ o[2])}
}

func (r qrRow) count() int {
	return bits.OnesCount64(r[0]) + bits.OnesCount64(r[1]) + bits.OnesCount64(r[2])
}

// first returns a row of n modules set.
func first(n int) (r qrRow) {
	for i := range r {
		if have := min(max(n-64*i, 0), 64); have > 0 {
			r[i] = ^uint64(0) >> (64 - have)
		}
	}
	return r
}

// qrSides are the rows and the columns of a symbol, kept between masks.
type qrSides struct{ rows, columns [177]qrRow }

func (q *qrSides) fill(m *Matrix) {
	size := m.Width
	clear(q.rows[:size])
	clear(q.columns[:size])
	for y := range size {
		row := &q.rows[y]
		for x, dark := range m.Dark[y*size : (y+1)*size] {
			if dark {
				row[x>>6] |= 1 << (x & 63)
				q.columns[x][y>>6] |= 1 << (y & 63)
			}
		}
	}
}

// qrPenalty counts what disturbs a reader (7.8.3.1): runs, blocks, finders where there are none, and
// too much of one colour.
func qrPenalty(m *Matrix, q *qrSides) int {
	q.fill(m)
	size, penalty, dark := m.Width, 0, 0
	for y := range size {
		penalty += qrRuns(q.rows[y], size) + qrRuns(q.columns[y], size)
		dark += q.rows[y].count()
		if y+1 < size { // blocks of two by two
			row, below := q.rows[y], q.rows[y+1]
			block := row.same(row.down(1)).and(below.same(below.down(1))).and(row.same(below))
			penalty += 3 * block.and(first(size-1)).count()
		}
	}
	off := dark*20 - size*size*10
	return penalty + max(off, -off)/(size*size)*10
}

// qrFinder is what looks like a finder with four light modules before or after it, its first module
// lowest.
const qrFinder = 0b1011101

// qrRuns counts runs of five and more, and what looks like a finder, in a row or a column.
func qrRuns(row qrRow, size int) int {
	pairs := row.same(row.down(1)).and(first(size - 1))
	two := pairs.and(pairs.down(1))
	five := two.and(two.down(2)) // each begins five alike
	begins := qrRow{five[0] &^ (five[0] << 1), five[1] &^ (five[1]<<1 | five[0]>>63), five[2] &^ (five[2]<<1 | five[1]>>63)}
	penalty := five.count() + 2*begins.count()
	after, before := first(size-10), first(size-10)
	for i := range 11 {
		shifted := row.down(i)
		light := qrRow{^shifted[0], ^shifted[1], ^shifted[2]}
		if i < 7 && qrFinder>>i&1 == 1 {
			after = after.and(shifted)
		} else {
			after = after.and(light)
		}
		if i >= 4 && qrFinder>>(i-4)&1 == 1 {
			before = before.and(shifted)
		} else {
			before = before.and(light)
		}
	}
	return penalty + 40*(after.count()+before.count())
}

// A qrSmall is a symbol of up to 64 modules: a row, and a column, is a word.
type qrSmall struct {
	size                  int
	rows, columns         [64]uint64 // masked
	bareRows, bareColumns [64]uint64
	freeRows, freeColumns [64]uint64 // modules of data
}

// qrRowMasks and qrColumnMasks are the masks as rows and as columns, which repeat themselves.
var qrRowMasks, qrColumnMasks [8][12]uint64

func init() {
	for mask := range 8 {
		for i := range 12 {
			for j := range 64 {
				if qrHit(mask, j, i) {
					qrRowMasks[mask][i] |= 1 << j
				}
				if qrHit(mask, i, j) {
					qrColumnMasks[mask][i] |= 1 << j
				}
			}
		}
	}
}

func newQRSmall(m *Matrix, fixed []bool) *qrSmall {
	q := &qrSmall{size: m.Width}
	for y := range q.size {
		for x := range q.size {
			if m.Dark[y*q.size+x] {
				q.bareRows[y] |= 1 << x
				q.bareColumns[x] |= 1 << y
			}
			if !fixed[y*q.size+x] {
				q.freeRows[y] |= 1 << x
				q.freeColumns[x] |= 1 << y
			}
		}
	}
	return q
}

// mask masks the symbol and writes its format information.
func (q *qrSmall) mask(mask, level int) {
	for i := range q.size {
		q.rows[i] = q.bareRows[i] ^ qrRowMasks[mask][i%12]&q.freeRows[i]
		q.columns[i] = q.bareColumns[i] ^ qrColumnMasks[mask][i%12]&q.freeColumns[i]
	}
	qrFormatAt(q.size, level, mask, func(x, y int, dark bool) {
		q.rows[y], q.columns[x] = q.rows[y]&^(1<<x), q.columns[x]&^(1<<y)
		if dark {
			q.rows[y], q.columns[x] = q.rows[y]|1<<x, q.columns[x]|1<<y
		}
	})
}

// penalty counts as qrPenalty does.
func (q *qrSmall) penalty() int {
	penalty, dark, inner := 0, 0, uint64(1)<<(q.size-1)-1
	for y := range q.size {
		row := q.rows[y]
		penalty += qrSmallRuns(row, q.size) + qrSmallRuns(q.columns[y], q.size)
		dark += bits.OnesCount64(row)
		if y+1 < q.size {
			below := q.rows[y+1]
			block := ^(row ^ row>>1) & ^(below ^ below>>1) & ^(row ^ below) & inner
			penalty += 3 * bits.OnesCount64(block)
		}
	}
	off := dark*20 - q.size*q.size*10
	return penalty + max(off, -off)/(q.size*q.size)*10
}

// qrSmallRuns counts as qrRuns does.
func qrSmallRuns(row uint64, size int) int {
	two := ^(row ^ row>>1) & (uint64(1)<<(size-1) - 1)
	two &= two >> 1
	five := two & (two >> 2)
	penalty := bits.OnesCount64(five) + 2*bits.OnesCount64(five&^(five<<1))
	finder := row & ^(row >> 1) & (row >> 2) & (row >> 3) & (row >> 4) & ^(row >> 5) & (row >> 6)
	light := ^(row | row>>1 | row>>2 | row>>3) // four light modules begin here
	within := uint64(1)<<(size-10) - 1
	after, before := finder&(light>>7)&within, light&(finder>>4)&within
	return penalty + 40*(bits.OnesCount64(after)+bits.OnesCount64(before))
}
