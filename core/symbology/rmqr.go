package symbology

import (
	"fmt"
	"slices"
	"strings"

	"oddspool/core/codewords"
	"oddspool/core/decode"
)

func rmqrNames() (names []string) {
	for i := range rmqrVersions {
		names = append(names, rmqrVersions[i].name())
	}
	return names
}

// RMQR is rMQR Code.
const RMQR ID = "rmqr"

var rmqrKind = Kind{
	ID: RMQR, Name: "rMQR Code",
	Standard: "ISO/IEC 23941", Is2D: true, Identifier: "]Q1",
	Holds:   "digits, capitals, UTF-8 text, bytes, kanji",
	Example: "952N0307B-0417",
	Most:    "361 digits, 219 capitals or 150 others",
	Readers: "cameras, but few telephones",
	Uses:    "long, low labels: tubes, edges of shelves, cables",
	Quiet:   2, Least: 250,
	Options: []Option{levels("M", "H"), versions(rmqrNames()...)},
	Encode:  (*Symbol).rmqr, Modules: decode.RMQR,
}

// Rectangular Micro QR Code, rMQR (ISO/IEC 23941): 32 versions of 7 to 17 by 27 to 139 modules, one
// finder on the left and a smaller one on the right, two levels of error correction and one mask.

// An rmqrVersion is a size (tables 1, 3, 6 and 8): its words in all, the check words at level M and H, in
// how many blocks, and the bits of the character counts.
type rmqrVersion struct {
	h, w   int
	words  int
	check  [2]int
	blocks [2]int
	count  [qrModes]int
}

var rmqrVersions = []rmqrVersion{
	{7, 43, 13, [2]int{7, 10}, [2]int{1, 1}, [qrModes]int{4, 3, 3, 2}}, {7, 59, 21, [2]int{9, 14}, [2]int{1, 1},
		[qrModes]int{5, 5, 4, 3}},
	{7, 77, 32, [2]int{12, 22}, [2]int{1, 1}, [qrModes]int{6, 5, 5, 4}}, {7, 99, 44, [2]int{16, 30}, [2]int{1, 1},
		[qrModes]int{7, 6, 5, 5}},
	{7, 139, 68, [2]int{24, 44}, [2]int{1, 2}, [qrModes]int{7, 6, 6, 5}},
	{9, 43, 21, [2]int{9, 14}, [2]int{1, 1}, [qrModes]int{5, 5, 4, 3}}, {9, 59, 33, [2]int{12, 22}, [2]int{1, 1},
		[qrModes]int{6, 5, 5, 4}},
	{9, 77, 49, [2]int{18, 32}, [2]int{1, 2}, [qrModes]int{7, 6, 5, 5}}, {9, 99, 66, [2]int{24, 44}, [2]int{1, 2},
		[qrModes]int{7, 6, 6, 5}},
	{9, 139, 99, [2]int{36, 66}, [2]int{2, 3}, [qrModes]int{8, 7, 6, 6}},
	{11, 27, 15, [2]int{8, 10}, [2]int{1, 1}, [qrModes]int{4, 4, 3, 2}}, {11, 43, 31, [2]int{12, 20}, [2]int{1, 1},
		[qrModes]int{6, 5, 5, 4}},
	{11, 59, 47, [2]int{16, 32}, [2]int{1, 2}, [qrModes]int{7, 6, 5, 5}}, {11, 77, 67, [2]int{24, 44}, [2]int{1, 2},
		[qrModes]int{7, 6, 6, 5}},
	{11, 99, 89, [2]int{32, 60}, [2]int{2, 2}, [qrModes]int{8, 7, 6, 6}}, {11, 139, 132, [2]int{48, 90}, [2]int{2, 3},
		[qrModes]int{8, 7, 7, 6}},
	{13, 27, 21, [2]int{9, 14}, [2]int{1, 1}, [qrModes]int{5, 5, 4, 3}}, {13, 43, 41, [2]int{14, 28}, [2]int{1, 1},
		[qrModes]int{6, 6, 5, 5}},
	{13, 59, 60, [2]int{22, 40}, [2]int{1, 2}, [qrModes]int{7, 6, 6, 5}}, {13, 77, 85, [2]int{32, 56}, [2]int{2, 2},
		[qrModes]int{7, 7, 6, 6}},
	{13, 99, 113, [2]int{40, 78}, [2]int{2, 3}, [qrModes]int{8, 7, 7, 6}}, {13, 139, 166, [2]int{60, 112}, [2]int{3, 4},
		[qrModes]int{8, 8, 7, 7}},
	{15, 43, 51, [2]int{18, 36}, [2]int{1, 2}, [qrModes]int{7, 6, 6, 5}}, {15, 59, 74, [2]int{26, 48}, [2]int{1, 2},
		[qrModes]int{7, 7, 6, 5}},
	{15, 77, 103, [2]int{36, 72}, [2]int{2, 3}, [qrModes]int{8, 7, 7, 6}}, {15, 99, 136, [2]int{48, 88}, [2]int{2, 4},
		[qrModes]int{8, 7, 7, 6}},
	{15, 139, 199, [2]int{72, 130}, [2]int{3, 5}, [qrModes]int{9, 8, 7, 7}},
	{17, 43, 61, [2]int{22, 40}, [2]int{1, 2}, [qrModes]int{7, 6, 6, 5}}, {17, 59, 88, [2]int{32, 60}, [2]int{2, 2},
		[qrModes]int{8, 7, 6, 6}},
	{17, 77, 122, [2]int{44, 84}, [2]int{2, 3}, [qrModes]int{8, 7, 7, 6}}, {17, 99, 160, [2]int{60, 104}, [2]int{3, 4},
		[qrModes]int{8, 8, 7, 6}},
	{17, 139, 232, [2]int{80, 156}, [2]int{4, 6}, [qrModes]int{9, 8, 8, 7}},
}

// name is what the standard calls the version.
func (v *rmqrVersion) name() string { return fmt.Sprintf("R%dx%d", v.h, v.w) }

// rmqrAlignments are the columns of the alignment patterns by the width of the symbol (table 2).
var rmqrAlignments = map[int][]int{27: nil, 43: {21}, 59: {19, 39}, 77: {25, 51}, 99: {23, 49, 75},
	139: {27, 55, 83, 111}}

// rmqrBySize are the versions with their numbers, the smallest area first.
var rmqrBySize = func() (order []int) {
	for i := range rmqrVersions {
		order = append(order, i)
	}
	slices.SortStableFunc(order, func(a,
		b int) int {
		return rmqrVersions[a].h*rmqrVersions[a].w - rmqrVersions[b].h*rmqrVersions[b].w
	})
	return order
}()

func (s *Symbol) rmqr(text string, o Options) error {
	const name, terminator = "rMQR Code", 3
	if text == "" {
		return wrong(0, "rMQR Code needs at least one character.")
	}
	level := strings.Index("MH", o.Level)
	ways := qrTexts(text, o, false)
	for _, number := range rmqrBySize {
		v := &rmqrVersions[number]
		if o.Version != "" && v.name() != o.Version {
			continue
		}
		scheme := qrScheme{bits: 3, indicator: [qrModes]int{1, 2, 3, 4}, count: v.count, eci: 7, fnc1: 5}
		capacity := 8 * (v.words - v.check[level])
		bits := scheme.shortest(ways)
		if bits == nil || bits.Len > capacity {
			continue
		}
		qrPad(bits, capacity, terminator)
		s.rmqrDraw(v, level<<5|number, qrInterleave(bits.Bytes, v.blocks[level], v.check[level]/v.blocks[level]))
		s.Text, s.Reads = printable(text), text
		return nil
	}
	if o.Version != "" {
		return wrong(0, "This is too much for one rMQR Code of version %s. Say less, or choose a larger "+
			"version or a lower level.", o.Version)
	}
	return wrong(0, "This is too much for one rMQR Code, which holds up to 361 digits, 219 capitals or 150 "+
		"other characters. Use QR Code.")
}

func (s *Symbol) rmqrDraw(v *rmqrVersion, format int, words []byte) {
	m := &s.Matrix
	m.resize(v.w, v.h)
	fixed := make([]bool, v.w*v.h)
	set := func(x, y int, dark bool) {
		m.set(x, y, dark)
		fixed[y*v.w+x] = true
	}
	for x := range v.w { // timing along all sides
		set(x, 0, x%2 == 0)
		set(x, v.h-1, x%2 == 0)
	}
	columns := append([]int{0, v.w - 1}, rmqrAlignments[v.w]...)
	for _, x := range columns {
		for y := range v.h {
			set(x, y, y%2 == 0)
		}
	}
	for _, x := range columns[2:] {
		qrAlignment(x, 1, 1, set)
		qrAlignment(x, v.h-2, 1, set)
	}
	// corner finders: three dark modules each way, and a light one within
	for _, corner := range [][2]int{{v.w - 1, 0}, {0, v.h - 1}} {
		inX, inY := 1, 1
		if corner[0] > 0 {
			inX = -1
		}
		if corner[1] > 0 {
			inY = -1
		}
		for i := range 3 {
			set(corner[0]+i*inX, corner[1], true)
			set(corner[0], corner[1]+i*inY, true)
		}
		set(corner[0]+inX, corner[1]+inY, false)
	}
	qrFinder(m, 3, 3, set)
	qrAlignment(v.w-3, v.h-3, 2, set) // the smaller finder
	bits := bch(format, 12, 0x1F25)
	for i := range 18 { // twice, each under a mask of its own (7.9)
		left, right := (bits^0x1FAB2)>>i&1 == 1, (bits^0x20A7B)>>i&1 == 1
		if i < 15 {
			set(8+i/5, 1+i%5, left)
			set(v.w-8+i/5, v.h-6+i%5, right)
		} else {
			set(11, i-14, left)
			set(v.w-20+i, v.h-6, right)
		}
	}
	stream := &codewords.Bits{Bytes: words, Len: 8 * len(words)}
	qrColumns(m, fixed, v.w-1, stream.At)
	qrMask(m, fixed, 4) // (y/2 + x/3) mod 2
}
