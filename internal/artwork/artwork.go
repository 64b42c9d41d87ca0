// Package artwork turns finished artwork from elsewhere, PDF pages and SVG drawings, into pictures that are finer than any label
// printer prints, each with its true size. What comes in is untrusted: PDFs are read in a sandbox without files or network.
package artwork

import (
	"bytes"
	"context"
	"encoding/binary"
	"encoding/xml"
	"errors"
	"fmt"
	"hash/crc32"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"io"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/klippa-app/go-pdfium"
	"github.com/klippa-app/go-pdfium/requests"
	"github.com/klippa-app/go-pdfium/webassembly"
	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/datamatrix"
	"github.com/makiuchi-d/gozxing/oned"
	"github.com/makiuchi-d/gozxing/qrcode"
	"github.com/srwiley/oksvg"
	"github.com/srwiley/rasterx"
	"github.com/tetratelabs/wazero"
	"github.com/tetratelabs/wazero/api"
	"github.com/tetratelabs/wazero/experimental"
	"golang.org/x/image/math/fixed"
)

// Limits of what comes in.
const (
	MostBytes  = 20 << 20
	MostPages  = 50
	mostPixels = 15_500_000 // of a page; a picture has up to 16 million
	mostTime   = 30 * time.Second
	finest     = 24 // dots/mm
	mostSide   = 2000.0
)

// A FileError says why a file cannot be taken, and what to do.
type FileError struct{ Text string }

func (e *FileError) Error() string { return e.Text }

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

// Pages returns the pages of a PDF, or the one of an SVG. Its error is a *FileError, or tells that the reader itself fails.
func Pages(ctx context.Context, data []byte) ([]Page, error) {
	if len(data) > MostBytes {
		return nil, &FileError{fmt.Sprintf("The file has %d MB; up to %d MB are taken.", len(data)>>20, MostBytes>>20)}
	}
	ctx, done := context.WithTimeout(ctx, mostTime)
	defer done()
	if isPDF(data) {
		return pdfPages(ctx, data)
	}
	page, err := svgPage(data)
	if err != nil {
		return nil, err
	}
	return []Page{page}, nil
}

// reader is started when the first PDF comes: compiling it takes seconds, and from its cache a part of one.
var reader = sync.OnceValues(func() (pdfium.Pool, error) {
	folder, err := os.UserCacheDir()
	if err != nil {
		folder = os.TempDir()
	}
	cache, err := wazero.NewCompilationCacheWithDir(filepath.Join(folder, "oddspool", "pdf"))
	if err != nil {
		cache = wazero.NewCompilationCache()
	}
	pool, err := webassembly.Init(webassembly.Config{
		MinIdle: 0, MaxIdle: 1, MaxTotal: 1,
		FSConfig: wazero.NewFSConfig(), // it sees no file
		RuntimeConfig: wazero.NewRuntimeConfig().WithCoreFeatures(api.CoreFeaturesV2 | experimental.CoreFeaturesExceptionHandling).
			WithCompilationCache(cache).WithMemoryLimitPages(16_384), // 1 GB
		Stdout: io.Discard, Stderr: io.Discard,
	})
	if err != nil {
		return nil, fmt.Errorf("start the PDF reader: %w", err)
	}
	return pool, nil
})

func pdfPages(ctx context.Context, data []byte) (pages []Page, err error) {
	pool, err := reader()
	if err != nil {
		return nil, err
	}
	instance, err := pool.GetInstance(mostTime)
	if err != nil {
		return nil, &FileError{"Another PDF is being read, and takes long. Try again in a moment."}
	}
	defer func() { err = errors.Join(err, instance.Close()) }()
	opened, err := instance.OpenDocument(&requests.OpenDocument{File: &data})
	if err != nil {
		if strings.Contains(strings.ToLower(err.Error()), "password") {
			return nil, &FileError{"The PDF has a password. Save it without one."}
		}
		return nil, &FileError{"The PDF is broken. Save it anew where it comes from."}
	}
	count, err := instance.FPDF_GetPageCount(&requests.FPDF_GetPageCount{Document: opened.Document})
	if err != nil {
		return nil, &FileError{"The PDF is broken: its pages cannot be counted."}
	}
	if count.PageCount < 1 || count.PageCount > MostPages {
		return nil, &FileError{fmt.Sprintf("The PDF has %d pages; 1 to %d are taken. Save those that are wanted.", count.PageCount, MostPages)}
	}
	for n := range count.PageCount {
		if ctx.Err() != nil {
			return nil, &FileError{fmt.Sprintf("The PDF takes too long: after %v page %d was reached. Save it simpler, or fewer pages.", mostTime, n+1)}
		}
		which := requests.Page{ByIndex: &requests.PageByIndex{Document: opened.Document, Index: n}}
		size, err := instance.FPDF_GetPageSizeByIndex(&requests.FPDF_GetPageSizeByIndex{Document: opened.Document, Index: n})
		if err != nil {
			return nil, &FileError{fmt.Sprintf("Page %d of the PDF is broken.", n+1)}
		}
		perMM, err := resolution(size.Width*25.4/72, size.Height*25.4/72, n+1)
		if err != nil {
			return nil, err
		}
		drawn, err := instance.RenderPageInDPI(&requests.RenderPageInDPI{Page: which, DPI: int(math.Round(perMM * 25.4))})
		if err != nil {
			return nil, &FileError{fmt.Sprintf("Page %d of the PDF cannot be drawn.", n+1)}
		}
		shapes := shapesOf(instance, opened.Document, n, size.Height)
		page, err := newPage(drawn.Result.RenderedImage, math.Round(perMM*25.4)/25.4, asDrawn{shapes, size.Width * 25.4 / 72, size.Height * 25.4 / 72})
		drawn.Cleanup()
		if err != nil {
			return nil, err
		}
		pages = append(pages, page)
	}
	return pages, nil
}

// resolution is how finely a page of w × h millimetres is drawn: as finely as the finest head, where that is not too much.
func resolution(w, h float64, page int) (perMM float64, err error) {
	if !(w >= 1 && h >= 1 && w <= mostSide && h <= mostSide) {
		return 0, &FileError{fmt.Sprintf("Page %d is %.0f × %.0f mm; pages of 1 to %.0f mm are taken.", page, w, h, mostSide)}
	}
	return min(finest, math.Sqrt(mostPixels/(w*h))), nil
}

// svgPage draws an SVG. Links to other files are left alone.
func svgPage(data []byte) (Page, error) {
	const broken = "The SVG cannot be read: %v. Save it as plain SVG, or as PDF."
	w, h, err := svgSize(data)
	if err != nil {
		return Page{}, &FileError{fmt.Sprintf(broken, err)}
	}
	perMM, err := resolution(w, h, 1)
	if err != nil {
		return Page{}, err
	}
	width, height := max(int(math.Round(w*perMM)), 1), max(int(math.Round(h*perMM)), 1)
	icon, err := svgIcon(data, float64(width), float64(height))
	if err != nil {
		return Page{}, &FileError{fmt.Sprintf(broken, err)}
	}
	made := image.NewRGBA(image.Rect(0, 0, width, height))
	draw.Draw(made, made.Bounds(), image.White, image.Point{}, draw.Src)
	scanner := &evenOddScanner{ScannerGV: rasterx.NewScannerGV(width, height, made, made.Bounds())}
	if icon.Draw(rasterx.NewDasher(width, height, scanner), 1); scanner.wrong {
		return Page{}, &FileError{fmt.Sprintf(broken, "it fills lines that cross, or very many holes, by the even-odd rule")}
	}
	return newPage(made, perMM, asDrawn{svgLines(data, w, h), w, h})
}

// svgIcon reads an SVG that is to fill w × h dots. Where the library leaves SVG 2 it is brought back: lines are 1 wide and mitred unless
// something else is said (13.5), they grow with what they stand in (8.1), a view need not begin at 0, 0, one number scales
// both ways (CSS Transforms 1, 14), and there are two rules of filling (13.4.2): the library hands on no rule, but the limit of mitres, which is
// inherited as the rule is and stands for it.
func svgIcon(data []byte, w, h float64) (*oksvg.SvgIcon, error) {
	data = evenScale.ReplaceAll(data, []byte("scale($1,$1)"))
	data = ownMiter.ReplaceAll(data, nil)
	data = evenOddRule.ReplaceAll(data, []byte("stroke-miterlimit${1}"+evenOddMark))
	data = nonzeroRule.ReplaceAll(data, []byte("stroke-miterlimit${1}4"))
	data = bytes.Replace(data, []byte("<svg"), []byte(`<svg stroke-width="1" stroke-linejoin="miter"`), 1)
	icon, err := oksvg.ReadIconStream(bytes.NewReader(data), oksvg.IgnoreErrorMode)
	if err != nil {
		return nil, err
	}
	icon.Transform = rasterx.Identity.Scale(w/icon.ViewBox.W, h/icon.ViewBox.H).Translate(-icon.ViewBox.X, -icon.ViewBox.Y)
	for i := range icon.SVGPaths {
		path := &icon.SVGPaths[i]
		scale := scaleOf(*path, icon.Transform)
		path.LineWidth *= scale
		path.DashOffset *= scale
		if path.MiterLimit > 1000 {
			path.MiterLimit, path.UseNonZeroWinding = 4, false
		}
		path.Dash = slices.Clone(path.Dash)
		for i := range path.Dash {
			path.Dash[i] *= scale
		}
	}
	return icon, nil
}

var (
	evenScale   = regexp.MustCompile(`\bscale\(\s*([^,\s()]+)\s*\)`)
	ownMiter    = regexp.MustCompile(`stroke-miterlimit\s*(?:=\s*["'][^"']*["']|:[^;"'}]*;?)`)
	evenOddRule = regexp.MustCompile(`\bfill-rule(\s*(?:=\s*["']|:)\s*)evenodd`)
	nonzeroRule = regexp.MustCompile(`\bfill-rule(\s*(?:=\s*["']|:)\s*)nonzero`)
)

const evenOddMark = "1004" // where no mitre reaches

// scaleOf returns how much larger than it says a path is drawn: the library tells of no transform, so a square is drawn in its place.
func scaleOf(path oksvg.SvgPath, to rasterx.Matrix2D) float64 {
	const side = 1000
	path.Path = nil
	path.Path.Start(fixed.P(0, 0))
	path.Path.Line(fixed.P(side, 0))
	path.Path.Line(fixed.P(side, side))
	path.SetFillColor(color.Black)
	path.SetLineColor(nil)
	probe := &lines{areas: 1}
	path.DrawTransformed(rasterx.NewDasher(1, 1, probe), 1, to)
	if len(probe.shapes) == 0 || len(probe.shapes[0].Pens) < 3 {
		return 1
	}
	corner := probe.shapes[0].Pens
	a, b, c := end(corner[0]), end(corner[1]), end(corner[2])
	const units = perMM / 1000.0 // in a micrometre
	return math.Sqrt(math.Abs((b[0]-a[0])*(c[1]-b[1])-(b[1]-a[1])*(c[0]-b[0]))) * units / side
}

// What an SVG may be made of: a few elements that use others can unfold into billions.
const (
	mostElements = 20_000
	mostDepth    = 50
)

// svgSize returns the size of an SVG in millimetres (SVG 2, 8.2 and CSS Values 4: 96 px an inch), and refuses what would not end.
func svgSize(data []byte) (w, h float64, err error) {
	decoder := xml.NewDecoder(bytes.NewReader(data))
	decoder.Strict = false
	var box []float64
	depth, elements := 0, 0
	inUse := map[string]bool{} // ids of elements that use others
	var ids []string
	uses := [][2]string{}
	for {
		token, err := decoder.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return 0, 0, err
		}
		switch t := token.(type) {
		case xml.StartElement:
			if depth, elements = depth+1, elements+1; depth > mostDepth || elements > mostElements {
				return 0, 0, fmt.Errorf("it has more than %d elements or %d levels", mostElements, mostDepth)
			}
			if t.Name.Local == "text" { // it would be left out without a word
				return 0, 0, errors.New("it has text as letters; turn them to outlines first")
			}
			id := ""
			for _, a := range t.Attr {
				switch {
				case slices.Contains(undrawn, a.Name.Local) && strings.Contains(a.Value, "url("), a.Name.Local == "style" && undrawnStyle.MatchString(a.Value):
					return 0, 0, errors.New("it uses clipping, masks, filters or marks at the ends of lines, which are not drawn")
				case t.Name.Local == "image" && a.Name.Local == "href" && strings.HasPrefix(a.Value, "data:"):
					return 0, 0, errors.New("it holds a picture, which is not drawn; bring that in by itself")
				case a.Name.Local == "id":
					id = a.Value
				case elements == 1 && a.Name.Local == "width":
					w = svgLength(a.Value)
				case elements == 1 && a.Name.Local == "height":
					h = svgLength(a.Value)
				case elements == 1 && a.Name.Local == "viewBox":
					for _, part := range strings.FieldsFunc(a.Value, func(r rune) bool { return r == ' ' || r == ',' }) {
						var n float64
						_, _ = fmt.Sscan(part, &n) // what is no number counts as none
						box = append(box, n)
					}
				case t.Name.Local == "use" && a.Name.Local == "href":
					for _, outer := range ids {
						inUse[outer] = true
					}
					uses = append(uses, [2]string{strings.Join(ids, " "), strings.TrimPrefix(a.Value, "#")})
				}
			}
			ids = append(ids, id)
		case xml.EndElement:
			if depth--; len(ids) > 0 {
				ids = ids[:len(ids)-1]
			}
		}
	}
	for _, use := range uses {
		if inUse[use[1]] && use[1] != "" {
			return 0, 0, errors.New("it uses what uses others again, which may have no end")
		}
	}
	if len(box) == 4 && (w <= 0 || h <= 0) {
		w, h = box[2]*25.4/96, box[3]*25.4/96
	}
	if !(w > 0 && h > 0) {
		return 0, 0, errors.New("it does not say how large it is")
	}
	return w, h, nil
}

// What would be left out without a word.
var (
	undrawn      = []string{"clip-path", "mask", "filter", "marker-start", "marker-mid", "marker-end"}
	undrawnStyle = regexp.MustCompile(`(?:clip-path|mask|filter|marker(?:-start|-mid|-end)?)\s*:\s*url\(`)
)

// svgLength returns a length in millimetres; 0: it is none, or a share of what is around.
func svgLength(text string) float64 {
	perUnit := map[string]float64{"": 25.4 / 96, "px": 25.4 / 96, "mm": 1, "cm": 10, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6}
	text = strings.TrimSpace(text)
	number := strings.TrimRight(text, "%abcdefghijklmnopqrstuvwxyz")
	var n float64
	if _, err := fmt.Sscan(number, &n); err != nil {
		return 0
	}
	return n * perUnit[text[len(number):]]
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
			grey.Pix[y*grey.Stride+x] = uint8((299*r + 587*g + 114*bl) / 1000) // Rec. 601 luma, as package picture has it
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
		{"QR Code", qrcode.NewQRCodeReader()}, {"Data Matrix", datamatrix.NewDataMatrixReader()}, {"Code 128", oned.NewCode128Reader()}, {"EAN-13", oned.NewEAN13Reader()},
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
