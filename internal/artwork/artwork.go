// Package artwork turns finished artwork from elsewhere, PDF pages and SVG drawings, into pictures that are finer than
// any label printer prints, each with its true size.
//
// What comes in is not trusted: it is read in a process of its own (package sandbox), which sees no file and no
// network.
//
//	SVG ── checked, what would be left out is refused ── rsvg-convert ──▶ PDF
//	PDF ── PDFium in WebAssembly ──▶ dots of each page, and its lines where these show the same
package artwork

import (
	"bytes"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"hash/crc32"
	"image"
	"image/draw"
	"image/png"
	"math"
	"os"
	"time"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/datamatrix"
	"github.com/makiuchi-d/gozxing/oned"
	"github.com/makiuchi-d/gozxing/qrcode"

	"oddspool/core/refusal"
	"oddspool/internal/sandbox"
)

// Limits of what comes in.
const (
	MostBytes  = 20 << 20
	MostPages  = 50
	mostPixels = 15_500_000 // of a page; a picture has up to 16 million
	finest     = 24         // dots/mm
	mostSide   = 2000.0
)

// A Page is a page as a picture.
type Page struct {
	PNG     []byte  // with its resolution
	Drawing []byte  // as picture.WriteDrawing writes it, where its lines can stay lines; else nil
	Codes   []Found // that were read in it
}

// Best returns the page as it is to be kept: as lines, or where it cannot be, as dots.
func (p *Page) Best() []byte {
	if p.Drawing != nil {
		return p.Drawing
	}
	return p.PNG
}

// A Found is a code that stands in the artwork.
type Found struct {
	Symbology string `json:"symbology"`
	Text      string `json:"text"`
}

// Is tells whether a file is artwork that this package reads: a PDF or an SVG.
func Is(data []byte) bool { return isPDF(data) || isSVG(data) }

func isPDF(data []byte) bool { return bytes.Contains(data[:min(len(data), 1024)], []byte("%PDF-")) }

func isSVG(data []byte) bool {
	head := data[:min(len(data), 4096)]
	return bytes.Contains(head, []byte("<svg"))
}

// limits bound the reading of a file. A page of a label takes some 20 ms, one that fills a poster half a second.
var limits = sandbox.Limits{Step: 4 * time.Second, Total: 60 * time.Second, Time: 2 * time.Minute, Memory: 640 << 20,
	Written: 64 << 20}

// made is what the reading process gives: at first that it is ready, then page by page.
type made struct {
	Page    *Page
	Refused *refusal.Error
}

var reading = sandbox.Register("artwork", limits, func(data []byte, _ []*os.File, emit func(made) error) error {
	err := read(data, emit)
	if told := new(refusal.Error); errors.As(err, &told) {
		return emit(made{Refused: told})
	}
	return err
})

func read(data []byte, emit func(made) error) (err error) {
	if !isPDF(data) {
		if data, err = readable(data); err != nil {
			return svgUnreadable.With(err)
		}
	}
	pool, err := reader()
	if err == nil {
		err = errors.Join(sandbox.Bound(limits), emit(made{})) // its own start does not count
	}
	if err == nil && !isPDF(data) {
		data, err = svgToPDF(data)
	}
	if err == nil {
		err = pdfPages(pool, data, func(p Page) error { return emit(made{Page: &p}) })
	}
	return err
}

// Pages returns the pages of a PDF, or the one of an SVG. Its error is a *refusal.Error, *sandbox.BusyError, that of
// ctx, or tells that the reader itself cannot be started.
func Pages(ctx context.Context, data []byte) (pages []Page, err error) {
	if len(data) > MostBytes {
		return nil, tooLarge.With(len(data)>>20, MostBytes>>20)
	}
	err = reading.Do(ctx, data, func(m made) error {
		if m.Refused != nil {
			return m.Refused
		}
		if m.Page != nil {
			pages = append(pages, *m.Page)
		}
		return nil
	})
	var over *sandbox.LimitError
	var broken *sandbox.BrokenError
	switch {
	case errors.As(err, &over):
		what := "SVG"
		if isPDF(data) {
			what = fmt.Sprintf("PDF, at page %d,", len(pages)+1)
		}
		return nil, overLimit.With(what, over.Limit)
	case errors.As(err, &broken):
		return nil, errors.Join(breaksReader.With(), err)
	}
	return pages, err
}

// Warm makes the reader ready where this machine never started it: that takes seconds, which the first file would wait
// for.
func Warm(ctx context.Context) error {
	if kept, err := os.ReadDir(compiled()); err == nil && len(kept) > 0 {
		return nil
	}
	_, err := Pages(ctx, []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="1mm" height="1mm"/>`))
	return err
}

// resolution is how finely a page of w × h millimetres is drawn: as finely as the finest head, where that is not too
// much.
func resolution(w, h float64, page int) (perMM float64, err error) {
	if !(w >= 1 && h >= 1 && w <= mostSide && h <= mostSide) {
		return 0, pageSize.With(page, w, h, mostSide)
	}
	return min(finest, math.Sqrt(mostPixels/(w*h))), nil
}

// newPage keeps a page as dots, and as the lines that it is made of where these show the same.
func newPage(drawn image.Image, perMM float64, lines asDrawn) (Page, error) {
	b := drawn.Bounds()
	colours, plain := drawn.(*image.RGBA)
	if !plain {
		colours = image.NewRGBA(image.Rect(0, 0, b.Dx(), b.Dy()))
		draw.Draw(colours, colours.Bounds(), drawn, b.Min, draw.Src)
	}
	grey := image.NewGray(image.Rect(0, 0, b.Dx(), b.Dy()))
	for y := range b.Dy() {
		row := colours.Pix[y*colours.Stride:]
		for x := range b.Dx() {
			r, g, bl := int(row[4*x]), int(row[4*x+1]), int(row[4*x+2])
			// Rec. 601 luma, as package picture has it
			grey.Pix[y*grey.Stride+x] = uint8((299*r + 587*g + 114*bl) / 1000)
		}
	}
	var file bytes.Buffer
	if err := png.Encode(&file, grey); err != nil {
		return Page{}, fmt.Errorf("keep a page: %w", err)
	}
	return Page{PNG: sized(file.Bytes(), perMM), Drawing: lines.file(grey), Codes: codes(grey)}, nil
}

// sized puts a resolution behind a PNG's header (ISO/IEC 15948, 11.3.4.3).
func sized(file []byte, perMM float64) []byte {
	const header = 8 + 25 // signature and IHDR
	perMetre := uint32(math.Round(perMM * 1000))
	chunk := []byte{0, 0, 0, 9, 'p', 'H', 'Y', 's'}
	chunk = binary.BigEndian.AppendUint32(chunk, perMetre)
	chunk = binary.BigEndian.AppendUint32(chunk, perMetre)
	chunk = append(chunk, 1)
	chunk = binary.BigEndian.AppendUint32(chunk, crc32.ChecksumIEEE(chunk[4:]))
	return append(append(append([]byte{}, file[:header]...), chunk...), file[header:]...)
}

// codes reads what codes it finds in a picture, one of a kind; a large one is looked at more coarsely.
func codes(page *image.Gray) []Found {
	found := []Found{}
	every := 1
	for page.Rect.Dx()*page.Rect.Dy()/every/every > 3_000_000 {
		every++
	}
	grey := image.NewGray(image.Rect(0, 0, page.Rect.Dx()/every, page.Rect.Dy()/every))
	for y := range grey.Rect.Dy() {
		for x := range grey.Rect.Dx() {
			grey.Pix[y*grey.Stride+x] = page.Pix[y*every*page.Stride+x*every]
		}
	}
	hints := map[gozxing.DecodeHintType]any{gozxing.DecodeHintType_TRY_HARDER: true}
	for _, kind := range []struct {
		name   string
		reader gozxing.Reader
	}{
		{"QR Code", qrcode.NewQRCodeReader()}, {"Data Matrix", datamatrix.NewDataMatrixReader()},
		{"Code 128", oned.NewCode128Reader()}, {"EAN-13", oned.NewEAN13Reader()},
		{"ITF", oned.NewITFReader()}, {"Code 39", oned.NewCode39Reader()},
	} {
		bits, err := gozxing.NewBinaryBitmapFromImage(grey)
		if err != nil {
			continue
		}
		if result, err := kind.reader.Decode(bits, hints); err == nil {
			found = append(found, Found{kind.name, result.GetText()})
		}
	}
	return found
}
