// Package pwg writes and reads PWG Raster (PWG 5102.4-2012, Printer Working Group Raster Format),
// the stream of pages that IPP printers take: one ink of one bit, several inks of a byte each, or
// sRGB.
//
// A stream is the word "RaS2" and pages. A page is a header of 1,796 bytes and its rows. A row is a
// byte that counts its repetitions less one, then runs: a byte n from 0 to 127 and one byte that
// stands n+1 times, or a byte from 129 to 255 and 257-n bytes as they are.
package pwg

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"fmt"
	"io"
	"math/bits"
	"strconv"
	"strings"

	"oddspool/core/measure"
	"oddspool/core/render"
)

var syncWord = []byte("RaS2")

// SyncBytes is how long the word is that begins a stream.
const SyncBytes = 4

const headerSize = 1796

// Places in the page header (PWG 5102.4, table 2), in bytes from its start.
const (
	atMediaClass   = 0
	atMediaType    = 128
	atMedia        = 1732
	atResolution   = 276
	atPageSize     = 352
	atWidth        = 372
	atHeight       = 376
	atBitsPerColor = 384
	atBitsPerPixel = 388
	atBytesPerLine = 392
	atColorOrder   = 396
	atColorSpace   = 400
	atNumColors    = 420
	atCrossFeed    = 456
	atFeed         = 460
)

// The colour spaces (PWG 5102.4, 4.2.1.5).
const (
	spaceBlack   = 3  // a set bit is ink
	spaceSRGB    = 19 // three bytes
	spaceDevice1 = 48 // one byte, and one more for each device colour space after it
	mostDevice   = 15
)

// A Type is a page's type by its keyword (PWG 5102.4, 7.1): how the inks of a dot are written.
type Type string

// The types of one ink, and of colours mixed. Device gives that of several inks.
const (
	Black Type = "black_1"
	SRGB  Type = "srgb_8"
)

// Device returns the type of so many inks, each with a byte that says how much of it there is.
func Device(inks int) Type { return Type(fmt.Sprintf("device%d_8", inks)) }

// bytes returns how many bytes a dot of the type takes; 0 for one bit.
func (t Type) bytes() int {
	switch t {
	case Black:
		return 0
	case SRGB:
		return 3
	}
	inks, err := strconv.Atoi(strings.TrimSuffix(strings.TrimPrefix(string(t), "device"), "_8"))
	if err != nil {
		return 0
	}
	return inks
}

// Most is the widest and tallest page that is read, in dots.
const Most = 100_000

// A Writer writes a stream of pages. It keeps one buffer, however many pages there are.
type Writer struct {
	out     *bufio.Writer
	started bool
	header  [headerSize]byte
	row     []byte
	packed  []byte
	alike   []uint64 // of the row: which bytes are as the next one
	three   []uint64 // and as the next two
}

// NewWriter returns a writer of a stream to w. Call Flush after the last page.
func NewWriter(w io.Writer) *Writer { return &Writer{out: bufio.NewWriterSize(w, 64<<10)} }

// Reset begins a new stream to w.
func (w *Writer) Reset(to io.Writer) {
	w.out.Reset(to)
	w.started = false
}

// A Look says how layers are written as a page.
type Look struct {
	Type    Type
	Ink     []int          // for several inks: the printer's ink, from 0, that each layer is printed with
	Colours render.Palette // for sRGB
}

// Page writes one page of one ink.
func (w *Writer) Page(p *render.Plane, r measure.Resolution, media string) error {
	return w.Layers(render.Layers{p}, Look{Type: Black}, r, media)
}

// Layers writes one page. The header's resolution is a whole number of dots per inch, so 8 dots/mm
// is written as 203: width and height in dots are what holds.
func (w *Writer) Layers(l render.Layers, look Look, r measure.Resolution, media string) error {
	if !w.started {
		w.started = true
		if _, err := w.out.Write(syncWord); err != nil {
			return fmt.Errorf("write PWG raster: %w", err)
		}
	}
	width, height := l.Size()
	w.fillHeader(width, height, look.Type, r, media)
	if _, err := w.out.Write(w.header[:]); err != nil {
		return fmt.Errorf("write PWG raster: %w", err)
	}
	unit := max(look.Type.bytes(), 1)
	w.packed = w.packed[:0]
	for y := 0; y < height; {
		w.row = look.appendRow(w.row[:0], l, y)
		same := 1
		for same < 256 && y+same < height && l.SameRow(y, y+same) {
			same++
		}
		if w.packed = append(w.packed, byte(same-1)); unit == 1 {
			w.packed = w.appendPackedBytes(w.packed, w.row)
		} else {
			w.packed = appendPacked(w.packed, w.row, unit)
		}
		if y += same; y < height && len(w.packed) < 32<<10 {
			continue
		}
		if _, err := w.out.Write(w.packed); err != nil {
			return fmt.Errorf("write PWG raster: %w", err)
		}
		w.packed = w.packed[:0]
	}
	return nil
}

// appendRow appends a row of dots as the type writes them.
func (k *Look) appendRow(row []byte, l render.Layers, y int) []byte {
	unit := k.Type.bytes()
	if unit == 0 {
		return l[0].AppendRow(row, y)
	}
	width, _ := l.Size()
	start := len(row)
	row = append(row, make([]byte, width*unit)...)
	if k.Type != SRGB {
		for i, p := range l {
			p.EachDot(y, func(x int) { row[start+x*unit+k.Ink[i]] = 255 })
		}
		return row
	}
	for i := start; i < len(row); i++ {
		row[i] = 255 // what is not printed is white
	}
	for i, p := range l {
		colour := render.RGB(k.Colours.Inks[i])
		p.EachDot(y, func(x int) { copy(row[start+x*3:], colour[:]) })
	}
	return row
}

// Flush writes what is still held back.
func (w *Writer) Flush() error {
	if err := w.out.Flush(); err != nil {
		return fmt.Errorf("write PWG raster: %w", err)
	}
	return nil
}

func (w *Writer) fillHeader(width, height int, t Type, r measure.Resolution, media string) {
	h := w.header[:]
	clear(h)
	put := func(at, value int) { binary.BigEndian.PutUint32(h[at:], uint32(value)) }
	copy(h[atMediaClass:], "PwgRaster")
	copy(h[atMediaType:atMediaType+63], "labels")
	copy(h[atMedia:atMedia+63], media)
	dpi := int(r.PerInch() + 0.5)
	put(atResolution, dpi)
	put(atResolution+4, dpi)
	put(atPageSize, int(float64(width)*72/r.PerInch()+0.5))
	put(atPageSize+4, int(float64(height)*72/r.PerInch()+0.5))
	put(atWidth, width)
	put(atHeight, height)
	switch n := t.bytes(); {
	case n == 0:
		put(atBitsPerColor, 1)
		put(atBitsPerPixel, 1)
		put(atBytesPerLine, (width+7)/8)
		put(atColorSpace, spaceBlack)
		put(atNumColors, 1)
	default:
		put(atBitsPerColor, 8)
		put(atBitsPerPixel, 8*n)
		put(atBytesPerLine, n*width)
		put(atColorSpace, spaceDevice1+n-1)
		if t == SRGB {
			put(atColorSpace, spaceSRGB)
		}
		put(atNumColors, n)
	}
	put(atCrossFeed, 1)
	put(atFeed, 1)
}

// appendPacked packs one row into runs of dots of so many bytes.
func appendPacked(dst, row []byte, unit int) []byte {
	same := func(i, j int) bool { return bytes.Equal(row[i:i+unit], row[j:j+unit]) }
	for i := 0; i < len(row); {
		run := 1
		for run < 128 && i+run*unit < len(row) && same(i+run*unit, i) {
			run++
		}
		if run > 1 {
			dst = append(append(dst, byte(run-1)), row[i:i+unit]...)
			i += run * unit
			continue
		}
		end := i + unit
		for end < len(row) && (end-i)/unit < 128 && (end+unit >= len(row) || !same(end, end+unit)) {
			end += unit
		}
		dst = appendLiteral(dst, row[i:end], (end-i)/unit)
		i = end
	}
	return dst
}

// appendPackedBytes is appendPacked for single bytes, which is what most printers take: they are compared eight at a
// time, and what came of it is gone through by bits, one for each byte that is as the next one. Two alike stay in a
// literal, since a run of two saves nothing and breaks it in two. BenchmarkStream tells.
func (w *Writer) appendPackedBytes(dst, row []byte) []byte {
	const most = 128 // in one run or literal
	w.alike = appendAlike(w.alike[:0], row)
	w.three = appendThree(w.three[:0], w.alike)
	for i := 0; i < len(row); {
		until := min(i+most, len(row))
		if w.three[i>>6]>>(i&63)&1 == 1 {
			end := min(next(w.alike, i, ^uint64(0))+1, until)
			dst = append(dst, byte(end-i-1), row[i])
			i = end
			continue
		}
		end := min(next(w.three, i, 0), until)
		dst = appendLiteral(dst, row[i:end], end-i)
		i = end
	}
	return dst
}

// appendThree appends a bit for each byte that is as the next two.
func appendThree(three, alike []uint64) []uint64 {
	for i, word := range alike {
		after := uint64(0)
		if i+1 < len(alike) {
			after = alike[i+1]
		}
		three = append(three, word&(word>>1|after<<63))
	}
	return three
}

// appendAlike appends a bit for each byte of a row, lowest first: 1 where it is as the next one. The last one has none,
// and there are zeros behind it.
func appendAlike(alike []uint64, row []byte) []uint64 {
	const sevens, spread = 0x7F7F7F7F7F7F7F7F, 0x0102040810204080
	for len(row) > 0 {
		word, i := uint64(0), 0
		for ; i < 64 && i+9 <= len(row); i += 8 {
			differs := binary.LittleEndian.Uint64(row[i:]) ^ binary.LittleEndian.Uint64(row[i+1:])
			zero := ^((differs&sevens + sevens) | differs | sevens) // the highest bit of each byte that does not differ
			word |= zero >> 7 * spread >> 56 << i
		}
		for ; i < 64 && i+1 < len(row); i++ {
			if row[i] == row[i+1] {
				word |= 1 << i
			}
		}
		alike = append(alike, word)
		row = row[min(64, len(row)):]
	}
	return alike
}

// next returns the first place from i on at which a bit is set, or with all ones to flip is not; behind the last word
// there is one.
func next(words []uint64, i int, flip uint64) int {
	word := (words[i>>6] ^ flip) >> (i & 63) << (i & 63)
	for at := i >> 6; ; word = words[at] ^ flip {
		if word != 0 {
			return at<<6 + bits.TrailingZeros64(word)
		}
		if at++; at == len(words) {
			return at << 6
		}
	}
}

// appendLiteral appends so many dots as they are.
func appendLiteral(dst, dots []byte, n int) []byte {
	if n == 1 { // 256 would be needed for a literal of one, which is reserved
		return append(append(dst, 0), dots...)
	}
	return append(append(dst, byte(257-n)), dots...)
}
