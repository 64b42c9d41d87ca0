package render

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"io"
	"math"
	"strconv"
	"strings"
	"sync"

	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype"

	"github.com/klauspost/compress/zlib"

	"oddspool/core/measure"
	"oddspool/core/typeset"
)

// deflaters keeps compressors' memory between pictures.
var deflaters = sync.Pool{New: func() any {
	w, err := zlib.NewWriterLevel(nil, zlib.BestSpeed)
	if err != nil {
		panic(err) // the level is one of zlib's own
	}
	return w
}}

// A Palette is the colours that a label is shown in, each #RRGGBB.
type Palette struct {
	Face string   // what is printed on
	Inks []string // one a layer
}

// inkColour returns the colour of an item's ink.
func (p Palette) inkColour(ink int) string {
	if ink == Bare {
		return p.Face
	}
	return p.Inks[ink]
}

// BlackOnWhite is the palette of one black ink on white.
var BlackOnWhite = Palette{"#FFFFFF", []string{"#000000"}}

// RGB reads #RRGGBB; what is none is black.
func RGB(colour string) [3]byte {
	n, _ := strconv.ParseUint(strings.TrimPrefix(colour, "#"), 16, 24)
	return [3]byte{byte(n >> 16), byte(n >> 8), byte(n)}
}

// WritePNG writes layers as a PNG of few colours, one picture dot a printer dot, whose pHYs chunk
// (PNG, 11.3.5.3) carries the resolution, so that it prints at true size elsewhere. image/png
// knows no pHYs, and takes every dot in hand by itself: rows of bits as they lie in the plane are
// eight times as fast, which is what the Bench waits for. BenchmarkPNG tells.
func WritePNG(w io.Writer, l Layers, colours Palette, r measure.Resolution) error {
	var data bytes.Buffer
	deflater := deflaters.Get().(*zlib.Writer)
	defer deflaters.Put(deflater)
	deflater.Reset(&data)
	width, height := l.Size()
	depth := 1 // bits a dot
	for len(l) >= 1<<depth {
		depth *= 2
	}
	var row []byte
	for y := range height {
		row = append(row[:0], 0) // filter type 0: as it is
		if depth == 1 {
			row = l[0].AppendRow(row, y)
		} else {
			row = l.appendIndexes(row, y, depth)
		}
		if _, err := deflater.Write(row); err != nil {
			return fmt.Errorf("write PNG: %w", err)
		}
	}
	if err := deflater.Close(); err != nil {
		return fmt.Errorf("write PNG: %w", err)
	}
	header := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, uint32(width)), uint32(height))
	header = append(header, byte(depth), 3, 0, 0, 0) // colours from a palette
	var palette []byte
	for _, colour := range append([]string{colours.Face}, colours.Inks...) {
		c := RGB(colour)
		palette = append(palette, c[:]...)
	}
	perMetre := uint32(math.Round(r.PerMillimetre() * 1000))
	physical := append(binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, perMetre), perMetre), 1)
	file := []byte("\x89PNG\r\n\x1a\n")
	for _, chunk := range []struct {
		name string
		data []byte
	}{{"IHDR", header}, {"pHYs", physical}, {"PLTE", palette}, {"IDAT", data.Bytes()}, {"IEND", nil}} {
		file = binary.BigEndian.AppendUint32(file, uint32(len(chunk.data)))
		start := len(file)
		file = append(append(file, chunk.name...), chunk.data...)
		file = binary.BigEndian.AppendUint32(file, crc32.ChecksumIEEE(file[start:]))
	}
	if _, err := w.Write(file); err != nil {
		return fmt.Errorf("write PNG: %w", err)
	}
	return nil
}

// appendIndexes appends a row of dots as numbers of so many bits: 0 is the face, n the nth ink.
func (l Layers) appendIndexes(row []byte, y, depth int) []byte {
	width, _ := l.Size()
	start := len(row)
	row = append(row, make([]byte, (width*depth+7)/8)...)
	for ink, p := range l {
		p.EachDot(y, func(x int) {
			row[start+x*depth/8] |= byte(ink+1) << (8 - depth - x*depth%8)
		})
	}
	return row
}

// svgBuffers keep memory between labels.
var svgBuffers = sync.Pool{New: func() any { return &svgPath{} }}

// WriteSVG writes the list as vectors at true size. One user unit is one printer dot.
func WriteSVG(w io.Writer, l *List, colours Palette, r measure.Resolution) error {
	svg := svgBuffers.Get().(*svgPath)
	defer svgBuffers.Put(svg)
	width, height := float64(l.Width)/r.PerMillimetre(), float64(l.Height)/r.PerMillimetre()
	svg.out = fmt.Appendf(svg.out[:0],
		`<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %d %d">`+"\n",
		decimal(width), decimal(height), l.Width, l.Height)
	svg.out = fmt.Appendf(svg.out, `<rect width="%d" height="%d" fill="%s"/>`+"\n", l.Width, l.Height, colours.Face)
	for i := range l.Items {
		item := &l.Items[i]
		if item.Op == Words && item.Clip != (Box{}) {
			svg.clip(i, item.Clip)
		}
		if item.outlined {
			svg.outlines(i, item, colours)
			continue
		}
		svg.out = append(svg.out, "<path"...)
		if ink := colours.inkColour(item.Ink); ink != "#000000" {
			svg.out = fmt.Appendf(svg.out, ` fill="%s"`, ink)
		}
		switch item.Op {
		case Fill:
			svg.out = append(svg.out, ` d="`...)
			svg.box(item.Box)
		case Bars:
			svg.out = append(svg.out, ` shape-rendering="crispEdges" d="`...)
			l.runs(item, svg.box)
		case Dots:
			svg.out = append(svg.out, ` shape-rendering="crispEdges" d="`...)
			l.eachRun(item, svg.box)
		case Path:
			svg.out = append(svg.out, ` d="`...)
			l.outlined(item, svg)
		case Words:
			if item.Clip != (Box{}) {
				svg.out = fmt.Appendf(svg.out, ` clip-path="url(#c%d)"`, i)
			}
			svg.out = append(svg.out, ` d="`...)
			l.placed(item, func(g typeset.Glyph, x, y int) { writeOutline(svg, g, item, x, y) })
		}
		svg.out = append(svg.out, `"/>`+"\n"...)
	}
	svg.out = append(svg.out, "</svg>\n"...)
	if _, err := w.Write(svg.out); err != nil {
		return fmt.Errorf("write SVG: %w", err)
	}
	return nil
}

// clip writes what an item is cut to.
func (s *svgPath) clip(i int, box Box) {
	s.out = fmt.Appendf(s.out, `<clipPath id="c%d"><path d="`, i)
	s.box(box)
	s.out = append(s.out, `"/></clipPath>`+"\n"...)
}

// outlines fills outlines as far as they lie in their item's box.
func (s *svgPath) outlines(i int, item *Item, colours Palette) {
	if len(item.outlines) == 0 {
		return
	}
	s.clip(i, item.Box)
	s.out = fmt.Appendf(s.out, `<g clip-path="url(#c%d)">`+"\n", i)
	for j := range item.outlines {
		o := &item.outlines[j]
		s.out = fmt.Appendf(s.out, `<path fill="%s" d="`, colours.inkColour(item.inkOf(o)))
		item.outline(o.Pens, s)
		s.out = append(s.out, `"/>`+"\n"...)
	}
	s.out = append(s.out, "</g>\n"...)
}

// decimal writes a number with at most four decimals, enough for a hundredth of a dot.
func decimal(v float64) string { return string(appendDecimal(nil, v)) }

func appendDecimal(dst []byte, v float64) []byte {
	const fine = 10_000
	n := int64(math.Round(v * fine))
	if n < 0 {
		dst, n = append(dst, '-'), -n
	}
	dst = strconv.AppendInt(dst, n/fine, 10)
	if n %= fine; n == 0 {
		return dst
	}
	dst = append(dst, '.')
	for place := int64(fine / 10); n > 0; place /= 10 {
		dst, n = append(dst, byte('0'+n/place)), n%place
	}
	return dst
}

// A pather takes the outline of a glyph.
type pather interface {
	moveTo(x, y float64)
	lineTo(x, y float64)
	cubeTo(ax, ay, bx, by, x, y float64)
	close()
}

// writeOutline draws a glyph's outline with its origin at x, y.
func writeOutline(to pather, g typeset.Glyph, item *Item, x, y int) {
	segments, upem := g.Face.Outline(g.ID)
	scale := float64(item.PerEm) / 64 / float64(upem)
	at := func(p font.SegmentPoint) (float64, float64) {
		u, v := float64(p.X)*scale, -float64(p.Y)*scale
		switch item.Turn {
		case 90:
			u, v = -v, u
		case 180:
			u, v = -u, -v
		case 270:
			u, v = v, -u
		}
		return float64(x) + u, float64(y) + v
	}
	var penX, penY float64
	open := false
	for _, s := range segments {
		ax, ay := at(s.Args[0])
		bx, by := at(s.Args[1])
		cx, cy := at(s.Args[2])
		switch s.Op {
		case opentype.SegmentOpMoveTo:
			if open {
				to.close()
			}
			open = true
			to.moveTo(ax, ay)
			penX, penY = ax, ay
		case opentype.SegmentOpLineTo:
			to.lineTo(ax, ay)
			penX, penY = ax, ay
		case opentype.SegmentOpQuadTo: // raised to a cubic, which PDF and SVG both have
			to.cubeTo(penX+(ax-penX)*2/3, penY+(ay-penY)*2/3, bx+(ax-bx)*2/3, by+(ay-by)*2/3, bx, by)
			penX, penY = bx, by
		case opentype.SegmentOpCubeTo:
			to.cubeTo(ax, ay, bx, by, cx, cy)
			penX, penY = cx, cy
		}
	}
	if open {
		to.close()
	}
}

// svgPath writes what SVG 2 calls path data (9.3).
type svgPath struct{ out []byte }

func (s *svgPath) numbers(letter byte, values ...float64) {
	s.out = append(s.out, letter)
	for i, v := range values {
		if i > 0 {
			s.out = append(s.out, ' ')
		}
		s.out = appendDecimal(s.out, v)
	}
}

func (s *svgPath) box(b Box) {
	s.numbers('M', float64(b.X), float64(b.Y))
	s.numbers('h', float64(b.W))
	s.numbers('v', float64(b.H))
	s.numbers('h', float64(-b.W))
	s.close()
}

func (s *svgPath) moveTo(x, y float64) { s.numbers('M', x, y) }
func (s *svgPath) lineTo(x, y float64) { s.numbers('L', x, y) }
func (s *svgPath) cubeTo(ax, ay, bx, by, x, y float64) {
	s.numbers('C', ax, ay, bx, by, x, y)
}
func (s *svgPath) close() { s.out = append(s.out, 'z') }
