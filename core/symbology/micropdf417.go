package symbology

import "oddspool/core/decode"

// MicroPDF417 is MicroPDF417.
const MicroPDF417 ID = "micro-pdf417"

var microPDF417Kind = Kind{
	ID: MicroPDF417, Name: "MicroPDF417",
	Standard: "ISO/IEC 24728", Is2D: true, Identifier: "]L0",
	Holds:   "text, digits, bytes",
	Example: "952N0307B-0417",
	Most:    "366 digits, 250 letters or 150 bytes",
	Readers: "scanners made for it, and cameras",
	Uses:    "small labels whose readers want rows, as with PDF417",
	Quiet:   1, Least: 170, western: toldLetters,
	Options: []Option{columns(4), westernOption},
	Encode:  (*Symbol).microPDF417, Modules: decode.MicroPDF417,
}

// MicroPDF417 (ISO/IEC 24728): code words of PDF417 between row address patterns, which tell a reader
// the row and the size by where they stand in their cycle of 52. There is no choice of correction.

// A microPDF is one of the 34 sizes (table 7): columns and rows, words of correction, and with which
// row address patterns it begins on the left, between columns and on the right.
type microPDF struct{ columns, rows, check, left, centre, right int }

var microPDFs = []microPDF{
	{1, 11, 7, 1, 0, 9}, {1, 14, 7, 8, 0, 8}, {1, 17, 7, 36, 0, 36}, {1, 20, 8, 19, 0, 19}, {1, 24, 8, 9, 0, 17},
	{1, 28, 8, 25, 0, 33},
	{2, 8, 8, 1, 0, 1}, {2, 11, 9, 1, 0, 9}, {2, 14, 9, 8, 0, 8}, {2, 17, 10, 36, 0, 36}, {2, 20, 11, 19, 0, 19},
	{2, 23, 13, 9, 0, 17},
	{2, 26, 15, 27, 0, 35}, {3, 6, 12, 1, 29, 1}, {3, 8, 14, 7, 35, 7}, {3, 10, 16, 15, 43, 15}, {3, 12, 18, 25, 1, 25},
	{3, 15, 21, 37, 13, 37},
	{3, 20, 26, 1, 45, 33}, {3, 26, 32, 1, 37, 17}, {3, 32, 38, 21, 5, 37}, {3, 38, 44, 15, 7, 47},
	{3, 44, 50, 1, 1, 49}, {4, 4, 8, 47, 47, 43},
	{4, 6, 12, 1, 29, 1}, {4, 8, 14, 7, 35, 7}, {4, 10, 16, 15, 43, 15}, {4, 12, 18, 25, 1, 25},
	{4, 15, 21, 37, 13, 37}, {4, 20, 26, 1, 45, 33},
	{4, 26, 32, 1, 37, 17}, {4, 32, 38, 21, 5, 37}, {4, 38, 44, 15, 7, 47}, {4, 44, 50, 1, 1, 49},
}

// The row address patterns: ten modules, beside the columns and between them. From one to the next only
// one edge moves, by one module (5.4).
var (
	microPDFSide = [52]uint16{
		0x322, 0x3a2, 0x3b2, 0x332, 0x372, 0x37a, 0x33a, 0x3ba, 0x39a, 0x3da, 0x3ca, 0x38a, 0x30a, 0x31a, 0x312, 0x392,
		0x3d2, 0x3d6, 0x3d4, 0x394, 0x3b4, 0x3a4, 0x3a6, 0x3ae, 0x3ac, 0x3a8,
		0x328, 0x32c, 0x32e, 0x326, 0x336, 0x3b6, 0x396, 0x316, 0x314, 0x334, 0x374, 0x364, 0x366, 0x36e, 0x36c, 0x368,
		0x348, 0x358, 0x35c, 0x35e, 0x34e, 0x34c, 0x344, 0x346, 0x342, 0x362,
	}
	microPDFCentre = [52]uint16{
		0x2c2, 0x2e2, 0x2e6, 0x2e4, 0x2ec, 0x26c, 0x22c, 0x228, 0x268, 0x2e8, 0x2c8, 0x2cc, 0x2c4, 0x2c6, 0x286, 0x28e,
		0x28c, 0x29c, 0x298, 0x2b8, 0x2b0, 0x290, 0x2d0, 0x250, 0x258, 0x25c,
		0x2dc, 0x2de, 0x2ce, 0x24e, 0x26e, 0x22e, 0x226, 0x236, 0x216, 0x212, 0x21a, 0x23a, 0x232, 0x222, 0x262, 0x272,
		0x27a, 0x2fa, 0x2f2, 0x2f6, 0x276, 0x274, 0x264, 0x266, 0x246, 0x242,
	}
)

func (s *Symbol) microPDF417(text string, o Options) error {
	const name, rowHeight = "MicroPDF417", 2
	words, err := pdf417Words(name, text, o)
	if err != nil {
		return err
	}
	var size microPDF
	area := 0
	for _, m := range microPDFs {
		its := (m.wide() + 2) * (m.rows*rowHeight + 2)
		if m.columns*m.rows-m.check >= len(words) && (o.Columns == 0 || o.Columns == m.columns) &&
			(area == 0 || its < area) {
			size, area = m, its
		}
	}
	if area == 0 {
		return wrong(0, "This is too much for one MicroPDF417 of %s. Use PDF417, or say less.",
			columnsAllowed(o.Columns))
	}
	for len(words) < size.columns*size.rows-size.check {
		words = append(words, pdf417Text)
	}
	words = append(words, pdf417Check(words, size.check)...)
	s.Matrix.resize(size.wide(), size.rows)
	for y := range size.rows {
		left, right := (size.left-1+y)%52, (size.right-1+y)%52
		x := s.pattern(0, y, int(microPDFSide[left]), 10)
		for column := range size.columns {
			if size.centre > 0 && column == size.columns-2 {
				x = s.pattern(x, y, int(microPDFCentre[(size.centre-1+y)%52]), 10)
			}
			x = s.pdf417Pattern(x, y, (size.left-1+y)%3, words[y*size.columns+column])
		}
		x = s.pattern(x, y, int(microPDFSide[right]), 10)
		s.Matrix.set(x, y, true)
	}
	s.RowHeight = rowHeight // 5.9: at least two modules
	s.Text, s.Reads = printable(text), text
	return nil
}

// wide returns the modules from side to side.
func (m microPDF) wide() int {
	wide := 10 + 17*m.columns + 10 + 1
	if m.centre > 0 {
		wide += 10
	}
	return wide
}
