package symbology

import (
	"cmp"
	"strconv"
	"strings"
	"sync"

	"oddspool/core/decode"
	"oddspool/core/gs1"
)

// QR is QR Code.
const QR ID = "qr"

var qrKind = Kind{
	ID: QR, Name: "QR Code",
	Standard: "ISO/IEC 18004", Is2D: true, Reversed: true, Identifier: "]Q1",
	Holds:   "anything: digits, capitals, UTF-8 text, bytes, kanji",
	Example: "https://brinewick.example/lot/26K104",
	Most:    "7,089 digits, 4,296 capitals or 2,953 bytes",
	Readers: cameras,
	Uses:    "addresses on the web, much data, people with telephones",
	Quiet:   4, Least: 250,
	Options: []Option{levels("L", "M", "Q", "H"), versions(numbers(1, 40)...)},
	Encode:  (*Symbol).qr, Modules: decode.QR,
}

// GS1QR is GS1 QR Code.
const GS1QR ID = "gs1-qr"

var gs1QRKind = Kind{
	ID: GS1QR, Name: "GS1 QR Code",
	Standard: "GS1 General Specifications 5.6", Is2D: true, Reversed: true, Identifier: "]Q3",
	Holds:   "GS1 application identifiers with their values",
	Example: "(01)09521234543213(10)26K104",
	Most:    "as QR Code",
	Readers: cameras,
	Uses:    "trade items, with data for people too",
	Quiet:   4, Least: 396, GS1: true,
	Sizes:   gs1QRSizes,
	Options: []Option{levels("L", "M", "Q", "H"), versions(numbers(1, 40)...)},
	Encode:  (*Symbol).gs1QR, Modules: decode.QR,
}

// QR Code (ISO/IEC 18004): 40 versions of 21 to 177 modules.

// qrLevels are the levels of error correction in the order of the tables, and their bits in the
// format information (table 12).
const qrLevels = "LMQH"

var qrFormatBits = [4]int{1, 0, 3, 2}

// qrCheckWords are the check words of a block (table 9), by level and version.
var qrCheckWords = [4][41]uint8{
	{0, 7, 10, 15, 20, 26, 18, 20, 24, 30, 18, 20, 24, 26, 30, 22, 24, 28, 30, 28, 28, 28, 28, 30, 30, 26, 28, 30, 30,
		30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30},
	{0, 10, 16, 26, 18, 24, 16, 18, 22, 22, 26, 30, 22, 22, 24, 24, 28, 28, 26, 26, 26, 26, 28, 28, 28, 28, 28, 28, 28,
		28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28},
	{0, 13, 22, 18, 26, 18, 24, 18, 22, 20, 24, 28, 26, 24, 20, 30, 24, 28, 28, 26, 30, 28, 30, 30, 30, 30, 28, 30, 30,
		30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30},
	{0, 17, 28, 22, 16, 22, 28, 26, 26, 24, 28, 24, 28, 22, 24, 24, 30, 28, 28, 26, 28, 30, 24, 30, 30, 30, 30, 30, 30,
		30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30},
}

// qrBlocks are the blocks (table 9), by level and version.
var qrBlocks = [4][41]uint8{
	{0, 1, 1, 1, 1, 1, 2, 2, 2, 2, 4, 4, 4, 4, 4, 6, 6, 6, 6, 7, 8, 8, 9, 9, 10, 12, 12, 12, 13, 14, 15, 16, 17, 18, 19,
		19, 20, 21, 22, 24, 25},
	{0, 1, 1, 1, 2, 2, 4, 4, 4, 5, 5, 5, 8, 9, 9, 10, 10, 11, 13, 14, 16, 17, 17, 18, 20, 21, 23, 25, 26, 28, 29, 31,
		33, 35, 37, 38, 40, 43, 45, 47, 49},
	{0, 1, 1, 2, 2, 4, 4, 6, 6, 8, 8, 8, 10, 12, 16, 12, 17, 16, 18, 21, 20, 23, 23, 25, 27, 29, 34, 34, 35, 38, 40, 43,
		45, 48, 51, 53, 56, 59, 62, 65, 68},
	{0, 1, 1, 2, 4, 4, 4, 5, 6, 8, 8, 11, 11, 16, 16, 18, 16, 19, 21, 25, 25, 25, 34, 30, 32, 35, 37, 40, 42, 45, 48,
		51, 54, 57, 60, 63, 66, 70, 74, 77, 81},
}

// qrSchemes are those of versions 1 to 9, 10 to 26, and 27 to 40 (tables 2 and 3).
var qrSchemes = [3]qrScheme{
	{4, [qrModes]int{1, 2, 4, 8}, [qrModes]int{10, 9, 8, 8}, 7, 5},
	{4, [qrModes]int{1, 2, 4, 8}, [qrModes]int{12, 11, 16, 10}, 7, 5},
	{4, [qrModes]int{1, 2, 4, 8}, [qrModes]int{14, 13, 16, 12}, 7, 5},
}

// qrVersions are the first and the last version of each scheme.
var qrVersions = [3][2]int{{1, 9}, {10, 26}, {27, 40}}

func (s *Symbol) qr(text string, o Options) error {
	return s.qrSymbol("QR Code", text, text, false, o)
}

func (s *Symbol) gs1QR(text string, o Options) error {
	elements, err := s.gs1("GS1 QR Code", text)
	if err != nil {
		return err
	}
	data := string(gs1.Data(gs1.Order(elements), groupSeparator))
	return s.qrSymbol("GS1 QR Code", data, gs1.Text(elements), true, o)
}

func (s *Symbol) qrSymbol(name, data, text string, isGS1 bool, o Options) error {
	const terminator = 4
	if data == "" {
		return wrong(0, "%s needs at least one character.", name)
	}
	level := strings.Index(qrLevels, cmp.Or(o.Level, "M"))
	wanted, _ := strconv.Atoi(o.Version)
	ways := qrTexts(data, o, isGS1)
	for group, versions := range qrVersions {
		if wanted > versions[1] {
			continue
		}
		bits := qrSchemes[group].shortest(ways)
		for version := max(versions[0], wanted); bits != nil && version <= versions[1] &&
			(wanted == 0 || version == wanted); version++ {
			if capacity := qrDataWords(version, level) * 8; bits.Len <= capacity {
				qrPad(bits, capacity, terminator)
				s.qrDraw(version, level, qrInterleave(bits.Bytes, int(qrBlocks[level][version]),
					int(qrCheckWords[level][version])))
				s.Text, s.Reads = printable(text), data
				return nil
			}
		}
	}
	if wanted > 0 {
		return wrong(0, "This is too much for one %s of version %d at level %c. Say less, or choose a larger "+
			"version or a lower level.", name, wanted, qrLevels[level])
	}
	return wrong(0, "This is too much for one %s at level %c: it needs more than version 40 holds. Say less, "+
		"or choose a lower level.", name, qrLevels[level])
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

// A qrFrame is what all symbols of a version have in common.
type qrFrame struct {
	dark                  []bool     // finders, timing, alignment, version; modules of data are light
	fixed                 []bool     // modules that are no data
	order                 []int      // modules of data as they are filled
	freeRows, freeColumns [64]uint64 // modules of data; of versions up to 11, which have at most 61 modules a side
}

// qrFrames are those of each version, made when the first symbol of it is drawn.
var qrFrames = func() (all [41]func() *qrFrame) {
	for version := 1; version < len(all); version++ {
		all[version] = sync.OnceValue(func() *qrFrame { return newQRFrame(version) })
	}
	return all
}()

func newQRFrame(version int) *qrFrame {
	size := 17 + 4*version
	m := &Matrix{}
	m.resize(size, size)
	f := &qrFrame{fixed: make([]bool, size*size)}
	set := func(x, y int, dark bool) {
		m.set(x, y, dark)
		f.fixed[y*size+x] = true
	}
	for i := range size { // timing
		set(6, i, i%2 == 0)
		set(i, 6, i%2 == 0)
	}
	for _, corner := range [][2]int{{3, 3}, {size - 4, 3}, {3, size - 4}} {
		qrFinder(m, corner[0], corner[1], set)
	}
	places := qrAlignments(version)
	for i, x := range places {
		for j, y := range places {
			if i == 0 && j == 0 || i == 0 && j == len(places)-1 || i == len(places)-1 && j == 0 {
				continue
			}
			qrAlignment(x, y, 2, set)
		}
	}
	qrFormatAt(size, 0, 0, set) // every symbol overwrites it
	if version >= 7 {
		bits := bch(version, 12, 0x1F25)
		for i := range 18 {
			dark, a, b := bits>>i&1 == 1, size-11+i%3, i/3
			set(a, b, dark)
			set(b, a, dark)
		}
	}
	f.dark, f.order = m.Dark, qrOrder(m, f.fixed, 6)
	if size <= len(f.freeRows) {
		for _, at := range f.order {
			f.freeRows[at/size] |= 1 << (at % size)
			f.freeColumns[at%size] |= 1 << (at / size)
		}
	}
	return f
}

// qrDraw draws the symbol of a version with the mask that suits it best (7.7, 7.8).
func (s *Symbol) qrDraw(version, level int, words []byte) {
	frame, m := qrFrames[version](), &s.Matrix
	m.resize(17+4*version, 17+4*version)
	copy(m.Dark, frame.dark)
	for i, at := range frame.order[:8*len(words)] { // what is left over stays light (7.7.3)
		m.Dark[at] = words[i/8]>>(7-i%8)&1 == 1
	}
	best := qrBestMask(m, frame, level)
	qrMask(m, frame.fixed, best)
	qrFormatAt(m.Width, level, best, m.set)
}

// qrFinder draws a finder with its separator as far as that lies in the symbol (6.3.3 and 6.3.4).
func qrFinder(m *Matrix, x, y int, set func(x, y int, dark bool)) {
	for dy := -4; dy <= 4; dy++ {
		for dx := -4; dx <= 4; dx++ {
			if d := max(dx, -dx, dy, -dy); x+dx >= 0 && x+dx < m.Width && y+dy >= 0 && y+dy < m.Height {
				set(x+dx, y+dy, d != 2 && d != 4)
			}
		}
	}
}

// qrAlignment draws squares round a module, up to so many modules away, the outermost dark.
func qrAlignment(x, y, far int, set func(x, y int, dark bool)) {
	for dy := -far; dy <= far; dy++ {
		for dx := -far; dx <= far; dx++ {
			set(x+dx, y+dy, (far-max(dx, -dx, dy, -dy))%2 == 0)
		}
	}
}

// qrFormats are the format information of each level and mask (annex C).
var qrFormats = func() (all [4][8]int) {
	for level := range all {
		for mask := range all[level] {
			all[level][mask] = bch(qrFormatBits[level]<<3|mask, 10, 0x537) ^ 0x5412
		}
	}
	return all
}()

// qrFormatAt calls set with the modules of the format information (figure 25).
func qrFormatAt(size, level, mask int, set func(x, y int, dark bool)) {
	for i, bits := 0, qrFormats[level][mask]; i < 15; i++ {
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
