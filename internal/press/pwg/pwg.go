// Package pwg writes and reads PWG Raster (PWG 5102.4-2012, Printer Working Group Raster Format),
// the stream of pages that IPP printers take, for one-bit pages.
//
// A stream is the word "RaS2" and pages. A page is a header of 1,796 bytes and its rows. A row is a
// byte that counts its repetitions less one, then runs: a byte n from 0 to 127 and one byte that
// stands n+1 times, or a byte from 129 to 255 and 257-n bytes as they are.
package pwg

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"slices"

	"oddspool/core/measure"
	"oddspool/core/render"
)

var syncWord = []byte("RaS2")

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

const spaceBlack = 3 // a set bit is ink

// Most is the widest and tallest page that is read, in dots.
const Most = 100_000

// A Writer writes a stream of pages. It keeps one buffer, however many pages there are.
type Writer struct {
	out     *bufio.Writer
	started bool
	header  [headerSize]byte
	row     []byte
	packed  []byte
}

// NewWriter returns a writer of a stream to w. Call Flush after the last page.
func NewWriter(w io.Writer) *Writer { return &Writer{out: bufio.NewWriterSize(w, 64<<10)} }

// Page writes one page. The header's resolution is a whole number of dots per inch, so 8 dots/mm
// is written as 203: width and height in dots are what holds.
func (w *Writer) Page(p *render.Plane, r measure.Resolution, media string) error {
	if !w.started {
		w.started = true
		if _, err := w.out.Write(syncWord); err != nil {
			return fmt.Errorf("write PWG raster: %w", err)
		}
	}
	w.fillHeader(p, r, media)
	if _, err := w.out.Write(w.header[:]); err != nil {
		return fmt.Errorf("write PWG raster: %w", err)
	}
	for y := 0; y < p.Height; {
		w.row = p.AppendRow(w.row[:0], y)
		same := 1
		for same < 256 && y+same < p.Height && slices.Equal(p.Row(y), p.Row(y+same)) {
			same++
		}
		w.packed = appendPacked(append(w.packed[:0], byte(same-1)), w.row)
		if _, err := w.out.Write(w.packed); err != nil {
			return fmt.Errorf("write PWG raster: %w", err)
		}
		y += same
	}
	return nil
}

// Flush writes what is still held back.
func (w *Writer) Flush() error {
	if err := w.out.Flush(); err != nil {
		return fmt.Errorf("write PWG raster: %w", err)
	}
	return nil
}

func (w *Writer) fillHeader(p *render.Plane, r measure.Resolution, media string) {
	h := w.header[:]
	clear(h)
	put := func(at, value int) { binary.BigEndian.PutUint32(h[at:], uint32(value)) }
	copy(h[atMediaClass:], "PwgRaster")
	copy(h[atMediaType:atMediaType+63], "labels")
	copy(h[atMedia:atMedia+63], media)
	dpi := int(r.PerInch() + 0.5)
	put(atResolution, dpi)
	put(atResolution+4, dpi)
	put(atPageSize, int(float64(p.Width)*72/r.PerInch()+0.5))
	put(atPageSize+4, int(float64(p.Height)*72/r.PerInch()+0.5))
	put(atWidth, p.Width)
	put(atHeight, p.Height)
	put(atBitsPerColor, 1)
	put(atBitsPerPixel, 1)
	put(atBytesPerLine, (p.Width+7)/8)
	put(atColorSpace, spaceBlack)
	put(atNumColors, 1)
	put(atCrossFeed, 1)
	put(atFeed, 1)
}

// appendPacked packs one row into runs.
func appendPacked(dst, row []byte) []byte {
	for i := 0; i < len(row); {
		run := 1
		for run < 128 && i+run < len(row) && row[i+run] == row[i] {
			run++
		}
		if run > 1 {
			dst = append(dst, byte(run-1), row[i])
			i += run
			continue
		}
		end := i + 1
		for end < len(row) && end-i < 128 && (end+1 >= len(row) || row[end] != row[end+1]) {
			end++
		}
		if end-i == 1 { // 256 would be needed for a literal of one, which is reserved
			dst = append(dst, 0, row[i])
		} else {
			dst = append(dst, byte(257-(end-i)))
			dst = append(dst, row[i:end]...)
		}
		i = end
	}
	return dst
}

// ErrNotRaster says that a stream is no PWG raster.
var ErrNotRaster = errors.New("this is no PWG raster")

// An UnsupportedError says what about a page cannot be read though it may be valid.
type UnsupportedError struct {
	Page int // from 1
	What string
}

func (e *UnsupportedError) Error() string { return fmt.Sprintf("page %d: %s", e.Page, e.What) }

// A BrokenError says where a stream breaks off or contradicts itself.
type BrokenError struct {
	Page, Row int // from 1; row 0 is the header
	Err       error
}

func (e *BrokenError) Error() string {
	return fmt.Sprintf("page %d, row %d: the raster is broken: %v", e.Page, e.Row, e.Err)
}

func (e *BrokenError) Unwrap() error { return e.Err }

// A Page is one page read.
type Page struct {
	Plane *render.Plane
	DPI   int
	Media string
}

// A Reader reads a stream of pages.
type Reader struct {
	in     *bufio.Reader
	page   int
	header [headerSize]byte
	row    []byte
}

// NewReader returns a reader of a stream.
func NewReader(r io.Reader) *Reader { return &Reader{in: bufio.NewReaderSize(r, 64<<10)} }

// Next returns the next page, or io.EOF after the last. Other errors are ErrNotRaster, an
// *UnsupportedError or a *BrokenError.
func (r *Reader) Next() (*Page, error) {
	if r.page == 0 {
		var word [4]byte
		if _, err := io.ReadFull(r.in, word[:]); err != nil || !bytes.Equal(word[:], syncWord) {
			return nil, ErrNotRaster
		}
	}
	r.page++
	if _, err := io.ReadFull(r.in, r.header[:]); err == io.EOF {
		return nil, io.EOF
	} else if err != nil {
		return nil, &BrokenError{r.page, 0, err}
	}
	get := func(at int) int { return int(binary.BigEndian.Uint32(r.header[at:])) }
	width, height := get(atWidth), get(atHeight)
	switch {
	case get(atBitsPerPixel) != 1 || get(atColorSpace) != spaceBlack || get(atColorOrder) != 0:
		return nil, &UnsupportedError{r.page, fmt.Sprintf("%d bits a dot in colour space %d; one bit of black is read", get(atBitsPerPixel), get(atColorSpace))}
	case width < 1 || height < 1 || width > Most || height > Most || width*height > 200_000_000:
		return nil, &UnsupportedError{r.page, fmt.Sprintf("a page of %d × %d dots; 1 to %d are read", width, height, Most)}
	case get(atBytesPerLine) != (width+7)/8:
		return nil, &BrokenError{r.page, 0, fmt.Errorf("rows of %d dots in %d bytes", width, get(atBytesPerLine))}
	}
	page := &Page{Plane: render.NewPlane(width, height), DPI: get(atResolution), Media: text(r.header[atMedia:][:64])}
	r.row = append(r.row[:0], make([]byte, (width+7)/8)...)
	for y := 0; y < height; {
		same, err := r.in.ReadByte()
		if err != nil {
			return nil, &BrokenError{r.page, y + 1, io.ErrUnexpectedEOF}
		}
		if err := r.unpack(); err != nil {
			return nil, &BrokenError{r.page, y + 1, err}
		}
		if y+int(same) >= height {
			return nil, &BrokenError{r.page, y + 1, errors.New("more rows than the page has")}
		}
		for range int(same) + 1 {
			page.Plane.SetRow(y, r.row)
			y++
		}
	}
	return page, nil
}

func (r *Reader) unpack() error {
	for i := 0; i < len(r.row); {
		code, err := r.in.ReadByte()
		if err != nil {
			return io.ErrUnexpectedEOF
		}
		count := int(code) + 1
		if code > 128 {
			count = 257 - int(code)
		} else if code == 128 {
			return errors.New("a run of the reserved kind 128")
		}
		if i+count > len(r.row) {
			return errors.New("a run longer than the row")
		}
		if code > 128 {
			if _, err := io.ReadFull(r.in, r.row[i:i+count]); err != nil {
				return io.ErrUnexpectedEOF
			}
		} else {
			value, err := r.in.ReadByte()
			if err != nil {
				return io.ErrUnexpectedEOF
			}
			for j := range count {
				r.row[i+j] = value
			}
		}
		i += count
	}
	return nil
}

// text returns the characters before the first NUL.
func text(field []byte) string {
	before, _, _ := bytes.Cut(field, []byte{0})
	return string(before)
}
