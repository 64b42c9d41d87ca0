package symbology

import (
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/aztec"
	"github.com/boombuler/barcode/pdf417"
)

// Aztec Code (ISO/IEC 24778) and PDF417 (ISO/IEC 15438) are encoded by boombuler's library, which the
// tests hold against independent readers.

func (s *Symbol) aztec(text string, o Options) error {
	const name, usual = "Aztec Code", 23 // per cent, as the standard recommends (6)
	if text == "" {
		return wrong(name, 0, "Aztec Code needs at least one character.")
	}
	percent := usual
	if o.Level != "" {
		n, err := strconv.Atoi(o.Level)
		if err != nil || n < 5 || n > 95 {
			return wrong(name, 0, "The error correction of Aztec Code is from 5 to 95 per cent, not %s.", o.Level)
		}
		percent = n
	}
	data, latin := latin1(text)
	if !latin && utf8.ValidString(text) {
		return wrong(name, 0, "Aztec Code takes the characters of western Europe here; use QR Code or Data Matrix for others.")
	}
	code, err := aztec.Encode(data, percent, 0)
	if err != nil {
		return wrong(name, 0, "This is too much for one Aztec Code with %d per cent of error correction. Say less, or choose less.", percent)
	}
	s.take(code)
	s.Text, s.Reads = printable(text), text
	return nil
}

func (s *Symbol) pdf417(text string, o Options) error {
	const name, usual = "PDF417", 2
	if text == "" {
		return wrong(name, 0, "PDF417 needs at least one character.")
	}
	level := usual
	if o.Level != "" {
		n, err := strconv.Atoi(o.Level)
		if err != nil || n < 0 || n > 8 {
			return wrong(name, 0, "The error correction of PDF417 is from 0 to 8, not %s.", o.Level)
		}
		level = n
	}
	position := 0
	for _, r := range text {
		if position++; r > 127 {
			return wrong(name, position, "%s (character %d) is not in PDF417 here; it takes ASCII. Use QR Code or Data Matrix for it.", shown(r), position)
		}
	}
	code, err := pdf417.Encode(text, byte(level))
	if err != nil {
		return wrong(name, 0, "This is too much for one PDF417 at level %d. Say less, or choose a lower level.", level)
	}
	s.take(code)
	if !s.rightRows() {
		return wrong(name, 0, "This is too much for one PDF417 at level %d. Say less, or choose a lower level.", level)
	}
	s.RowHeight = 3 // ISO/IEC 15438, 5.8.2: at least three modules
	s.Text, s.Reads = printable(text), text
	return nil
}

// take takes the modules of a library's code. PDF417's rows come two picture dots tall.
func (s *Symbol) take(code barcode.Barcode) {
	bounds := code.Bounds()
	step := 1
	if code.Metadata().CodeKind == barcode.TypePDF {
		step = 2
	}
	s.Matrix.resize(bounds.Dx(), bounds.Dy()/step)
	for y := range s.Matrix.Height {
		for x := range s.Matrix.Width {
			r, _, _, _ := code.At(bounds.Min.X+x, bounds.Min.Y+y*step).RGBA()
			s.Matrix.set(x, y, r == 0)
		}
	}
}

// rightRows mends the left indicators of every third row, into which the library writes two rows too
// few (ISO/IEC 15438, 5.11.3.1: the number of rows less one, divided by three). The patterns are had
// from the library itself; it fails beyond the 81 rows for which they can be.
func (s *Symbol) rightRows() bool {
	const patternWidth = 17
	rows := s.Matrix.Height
	for row := 0; row < rows; row += 3 {
		pattern, ok := pdf417Pattern(row/3, (rows-1)/3)
		if !ok {
			return false
		}
		for i := range patternWidth {
			s.Matrix.set(patternWidth+i, row, pattern.At(3*patternWidth+i, 0)) // behind start, left indicator and length
		}
	}
	return true
}

// pdf417Pattern returns a symbol whose first row, in which the patterns are those of every third, has
// the code word 30 high + low as its second: two capitals, or spaces, are one.
func pdf417Pattern(high, low int) (*Matrix, bool) {
	const letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ "
	if high >= len(letters) || low >= len(letters) {
		return nil, false
	}
	code, err := pdf417.Encode(strings.Repeat(string([]byte{letters[high], letters[low]}), 12), 0)
	if err != nil {
		return nil, false
	}
	var made Symbol
	made.take(code)
	return &made.Matrix, true
}
