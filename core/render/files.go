package render

import (
	"bufio"
	"bytes"
	"compress/zlib"
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

// WriteSVG writes the list as vectors at true size. One user unit is one printer dot.
func WriteSVG(w io.Writer, l *List, colours Palette, r measure.Resolution) error {
	out := bufio.NewWriter(w)
	width, height := float64(l.Width)/r.PerMillimetre(), float64(l.Height)/r.PerMillimetre()
	fmt.Fprintf(out, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %d %d">`+"\n",
		decimal(width), decimal(height), l.Width, l.Height)
	fmt.Fprintf(out, `<rect width="%d" height="%d" fill="%s"/>`+"\n", l.Width, l.Height, colours.Face)
	for i := range l.Items {
		item := &l.Items[i]
		fill := ""
		if ink := colours.Inks[item.Ink]; ink != "#000000" {
			fill = fmt.Sprintf(` fill="%s"`, ink)
		}
		switch item.Op {
		case Fill:
			fmt.Fprintf(out, `<path%s d="%s"/>`+"\n", fill, rectangle(item.Box))
		case Bars:
			fmt.Fprintf(out, `<path%s shape-rendering="crispEdges" d="`, fill)
			l.runs(item, func(bar Box) { out.WriteString(rectangle(bar)) })
			out.WriteString(`"/>` + "\n")
		case Words:
			clip := ""
			if item.Clip != (Box{}) {
				fmt.Fprintf(out, `<clipPath id="c%d"><path d="%s"/></clipPath>`+"\n", i, rectangle(item.Clip))
				clip = fmt.Sprintf(` clip-path="url(#c%d)"`, i)
			}
			fmt.Fprintf(out, `<path%s%s d="`, fill, clip)
			l.placed(item, func(g typeset.Glyph, x, y int) { writeOutline(svgPath{out}, g, item, x, y) })
			out.WriteString(`"/>` + "\n")
		}
	}
	out.WriteString("</svg>\n")
	if err := out.Flush(); err != nil {
		return fmt.Errorf("write SVG: %w", err)
	}
	return nil
}

func rectangle(b Box) string { return fmt.Sprintf("M%d %dh%dv%dh%dz", b.X, b.Y, b.W, b.H, -b.W) }

// decimal writes a number with at most four decimals, enough for a hundredth of a dot.
func decimal(v float64) string {
	return strconv.FormatFloat(math.Round(v*10_000)/10_000, 'f', -1, 64)
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

type svgPath struct{ out *bufio.Writer }

func (s svgPath) moveTo(x, y float64) { fmt.Fprintf(s.out, "M%s %s", decimal(x), decimal(y)) }
func (s svgPath) lineTo(x, y float64) { fmt.Fprintf(s.out, "L%s %s", decimal(x), decimal(y)) }
func (s svgPath) cubeTo(ax, ay, bx, by, x, y float64) {
	fmt.Fprintf(s.out, "C%s %s %s %s %s %s", decimal(ax), decimal(ay), decimal(bx), decimal(by), decimal(x), decimal(y))
}
func (s svgPath) close() { s.out.WriteByte('Z') }
