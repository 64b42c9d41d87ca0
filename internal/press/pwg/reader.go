package pwg

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"slices"

	"oddspool/core/render"
)

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

// A Page is one page read: one ink, several, or colours.
type Page struct {
	Layers  render.Layers
	Type    Type
	Colours []string // of sRGB: what each layer is, #RRGGBB, in the order they were met
	DPI     int
	Media   string

	known [][3]byte // of Colours
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
	case width < 1 || height < 1 || width > Most || height > Most || width*height > 200_000_000:
		return nil, &UnsupportedError{r.page, fmt.Sprintf("a page of %d × %d dots; 1 to %d are read", width, height,
			Most)}
	}
	page := &Page{DPI: get(atResolution), Media: text(r.header[atMedia:][:64])}
	space, bits := get(atColorSpace), get(atBitsPerPixel)
	switch {
	case get(atColorOrder) != 0:
	case space == spaceBlack && bits == 1:
		page.Type, page.Layers = Black, render.NewLayers(1, width, height)
	case space == spaceSRGB && bits == 24:
		page.Type = SRGB
	case space >= spaceDevice1 && space < spaceDevice1+mostDevice && bits == 8*(space-spaceDevice1+1):
		page.Type, page.Layers = Device(bits/8), render.NewLayers(bits/8, width, height)
	}
	if page.Type == "" {
		return nil, &UnsupportedError{r.page,
			fmt.Sprintf("%d bits a dot in colour space %d; black of one bit, device colours and sRGB of a byte each "+
				"are read", bits, space)}
	}
	unit := page.Type.bytes()
	length := unit * width
	if unit == 0 {
		length = (width + 7) / 8
	}
	if get(atBytesPerLine) != length {
		return nil, &BrokenError{r.page, 0, fmt.Errorf("rows of %d dots in %d bytes", width, get(atBytesPerLine))}
	}
	r.row = append(r.row[:0], make([]byte, length)...)
	for y := 0; y < height; {
		same, err := r.in.ReadByte()
		if err != nil {
			return nil, &BrokenError{r.page, y + 1, io.ErrUnexpectedEOF}
		}
		if err := r.unpack(max(unit, 1)); err != nil {
			return nil, &BrokenError{r.page, y + 1, err}
		}
		if y+int(same) >= height {
			return nil, &BrokenError{r.page, y + 1, errors.New("more rows than the page has")}
		}
		if err := page.setRows(y, int(same)+1, r.row, width, height); err != nil {
			return nil, &UnsupportedError{r.page, err.Error()}
		}
		y += int(same) + 1
	}
	if page.Layers == nil { // nothing but white
		page.Layers, page.Colours = render.NewLayers(1, width, height), []string{"#000000"}
	}
	return page, nil
}

// mostColours is how many colours of sRGB are told apart on one page: labels are drawn in few.
const mostColours = 255

// setRows sets rows from y on from the bytes of one of them.
func (p *Page) setRows(y, count int, row []byte, width, height int) error {
	unit := p.Type.bytes()
	switch {
	case unit == 0:
		for i := range count {
			p.Layers[0].SetRow(y+i, row)
		}
		return nil
	case p.Type == SRGB:
		for x := range width {
			dot := row[x*3 : x*3+3]
			if dot[0] == 255 && dot[1] == 255 && dot[2] == 255 {
				continue
			}
			colour := [3]byte(dot)
			layer := slices.Index(p.known, colour)
			if layer < 0 {
				if layer = len(p.known); layer == mostColours {
					return fmt.Errorf("more than %d colours", mostColours)
				}
				p.known, p.Layers = append(p.known, colour), append(p.Layers, render.NewPlane(width, height))
				p.Colours = append(p.Colours, fmt.Sprintf("#%02X%02X%02X", dot[0], dot[1], dot[2]))
			}
			for i := range count {
				p.Layers[layer].Dot(x, y+i)
			}
		}
		return nil
	}
	for x := range width {
		for ink, amount := range row[x*unit : x*unit+unit] {
			if amount >= 128 {
				for i := range count {
					p.Layers[ink].Dot(x, y+i)
				}
			}
		}
	}
	return nil
}

// unpack reads a row of runs of dots of so many bytes.
func (r *Reader) unpack(unit int) error {
	for i := 0; i < len(r.row); {
		code, err := r.in.ReadByte()
		if err != nil {
			return io.ErrUnexpectedEOF
		}
		length := (int(code) + 1) * unit
		if code > 128 {
			length = (257 - int(code)) * unit
		} else if code == 128 {
			return errors.New("a run of the reserved kind 128")
		}
		if i+length > len(r.row) {
			return errors.New("a run longer than the row")
		}
		if code <= 128 {
			if _, err := io.ReadFull(r.in, r.row[i:i+unit]); err != nil {
				return io.ErrUnexpectedEOF
			}
			for j := unit; j < length; j++ {
				r.row[i+j] = r.row[i+j-unit]
			}
		} else if _, err := io.ReadFull(r.in, r.row[i:i+length]); err != nil {
			return io.ErrUnexpectedEOF
		}
		i += length
	}
	return nil
}

// text returns the characters before the first NUL.
func text(field []byte) string {
	before, _, _ := bytes.Cut(field, []byte{0})
	return string(before)
}
