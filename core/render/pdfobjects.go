package render

import (
	"bytes"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode/utf16"

	"github.com/klauspost/compress/zlib"

	"oddspool/core/typeset"
)

// Add adds a label as a page.
func (p *PDFPages) Add(l *List) error { return p.of.Put(p.Draw(l)) }

// Put adds a page that was drawn.
func (p *PDF) Put(page *DrawnPage) error {
	if p.inNode%pagesPerNode == 0 {
		p.endNode()
		p.nodes = append(p.nodes, p.reserve())
	}
	p.inNode++
	p.pages++
	number := p.begin()
	p.write("<</Type/Page/Parent %d 0 R/MediaBox[0 0 %s %s]/Resources %d 0 R/Contents %d 0 R>>\nendobj\n",
		p.nodes[len(p.nodes)-1], page.width, page.height, pdfResources, number+1)
	p.begin()
	p.stream("/Filter/FlateDecode", page.content)
	return p.err
}

// endNode writes the node whose pages are all there: each has its content behind it.
func (p *PDF) endNode() {
	if len(p.nodes) == 0 {
		return
	}
	node := p.nodes[len(p.nodes)-1]
	p.offsets[node-1] = p.written
	var kids strings.Builder
	for i := range p.inNode {
		fmt.Fprintf(&kids, "%d 0 R ", node+1+2*i)
	}
	p.write("%d 0 obj\n<</Type/Pages/Parent %d 0 R/Count %d/Kids[%s]>>\nendobj\n", node, pdfTree, p.inNode,
		kids.String())
	p.inNode = 0
}

// Close writes what all pages share, and ends the document.
func (p *PDF) Close() error {
	p.endNode()
	fonts, forms := p.fonts(), p.writeForms()
	p.object(pdfCatalog, fmt.Sprintf("<</Type/Catalog/Pages %d 0 R>>", pdfTree))
	var kids strings.Builder
	for _, node := range p.nodes {
		fmt.Fprintf(&kids, "%d 0 R ", node)
	}
	p.object(pdfTree, fmt.Sprintf("<</Type/Pages/Count %d/Kids[%s]>>", p.pages, kids.String()))
	for i, number := range p.fixed {
		forms += fmt.Sprintf("/Every%d %d 0 R", i+1, number)
	}
	p.object(pdfResources, "<</Font<<"+fonts+">>/XObject<<"+forms+">>>>")
	title := []byte{0xfe, 0xff} // UTF-16, 7.9.2.2
	for _, r := range utf16.Encode([]rune(p.title)) {
		title = append(title, byte(r>>8), byte(r))
	}
	p.object(pdfInfo, fmt.Sprintf("<</Title<%x>/Producer(Odd Spool)>>", title))
	start := p.written
	p.write("xref\n0 %d\n0000000000 65535 f \n", len(p.offsets)+1)
	for _, offset := range p.offsets {
		p.write("%010d 00000 n \n", offset)
	}
	p.write("trailer\n<</Size %d/Root %d 0 R/Info %d 0 R>>\nstartxref\n%d\n%%%%EOF\n", len(p.offsets)+1, pdfCatalog,
		pdfInfo, start)
	return p.err
}

// fonts writes the fonts that are used and returns their names with their numbers.
func (p *PDF) fonts() string {
	type font struct {
		face  *typeset.Face
		block uint32
	}
	blocks := map[font][]uint32{}
	for key := range p.used {
		f := font{key.face, key.id >> 8}
		blocks[f] = append(blocks[f], key.id)
	}
	sorted := slices.SortedFunc(maps.Keys(blocks),
		func(a, b font) int { return strings.Compare(fontName(a.face, a.block), fontName(b.face, b.block)) })
	var list strings.Builder
	for _, f := range sorted {
		ids := blocks[f]
		slices.Sort(ids)
		fmt.Fprintf(&list, "/%s %d 0 R", fontName(f.face, f.block), p.font(f.face, ids))
	}
	return list.String()
}

// font writes a Type 3 font of some glyphs and returns its number.
func (p *PDF) font(face *typeset.Face, ids []uint32) int {
	upem := face.Upem()
	first, last := int(ids[0]&0xff), int(ids[len(ids)-1]&0xff)
	widths := make([]string, last-first+1)
	for i := range widths {
		widths[i] = "0"
	}
	var procs, differences, unicodes strings.Builder
	said := 0
	for _, id := range ids {
		code := int(id & 0xff)
		widths[code-first] = strconv.Itoa(face.Advance(id))
		fmt.Fprintf(&differences, "%d/g%d ", code, id)
		glyph := p.begin()
		p.deflated(face.Advance(id), glyphPath(face, id))
		fmt.Fprintf(&procs, "/g%d %d 0 R", id, glyph)
		if text := face.Says(id); text != "" {
			said++
			fmt.Fprintf(&unicodes, "<%02x> <", code)
			for _, unit := range utf16.Encode([]rune(text)) {
				fmt.Fprintf(&unicodes, "%04x", unit)
			}
			unicodes.WriteString(">\n")
		}
	}
	cmap := p.begin()
	// 9.10.3
	p.stream("", []byte("/CIDInit /ProcSet findresource begin 12 dict begin begincmap /CMapName /Says def /CMapType "+
		"2 def\n"+
		"1 begincodespacerange <00> <ff> endcodespacerange\n"+bfchars(unicodes.String(), said)+"endcmap end end\n"))
	number := p.begin()
	p.write("<</Type/Font/Subtype/Type3/Name/%s/FontBBox[0 0 0 0]/FontMatrix[%s 0 0 %s 0 0]/FirstChar %d/LastChar "+
		"%d/Widths[%s]"+
		"/Encoding<</Type/Encoding/Differences[%s]>>/CharProcs<<%s>>/Resources<<>>/ToUnicode %d 0 R>>\nendobj\n",
		fontName(face, ids[0]>>8), perUnit(upem), perUnit(upem), first, last, strings.Join(widths, " "),
		differences.String(), procs.String(), cmap)
	return number
}

func perUnit(upem int) string { return strconv.FormatFloat(1/float64(upem), 'f', 10, 64) }

// bfchars writes what glyphs say in sections of up to a hundred, as a CMap may have them.
func bfchars(lines string, n int) string {
	const most = 100
	var out strings.Builder
	rows := strings.SplitAfter(lines, "\n")[:n]
	for chunk := range slices.Chunk(rows, most) {
		fmt.Fprintf(&out, "%d beginbfchar\n%sendbfchar\n", len(chunk), strings.Join(chunk, ""))
	}
	return out.String()
}

// deflated writes a glyph's procedure: its advance, and its outline in font units.
func (p *PDF) deflated(advance int, path []byte) {
	var packed bytes.Buffer
	deflate := zlib.NewWriter(&packed)
	fmt.Fprintf(deflate, "%d 0 d0\n", advance)
	_, _ = deflate.Write(path) // into memory
	_ = deflate.Close()
	p.stream("/Filter/FlateDecode", packed.Bytes())
}

// glyphPath returns the outline of a glyph as operators, filled.
func glyphPath(face *typeset.Face, id uint32) []byte {
	path := &pdfPath{}
	upem := face.Upem()
	// As large as its em, and with y up: the text matrix turns it.
	item := &Item{PerEm: upem * 64}
	writeOutline(path, typeset.Glyph{Face: face, ID: id}, item, 0, 0)
	if len(path.out) > 0 {
		path.out = append(path.out, "f\n"...)
	}
	return path.out
}

// pdfPath writes an outline whose y goes down as one whose y goes up.
type pdfPath struct{ out []byte }

func (p *pdfPath) points(op string, numbers ...float64) {
	for i, n := range numbers {
		if i%2 == 1 {
			n = -n
		}
		p.out = append(strconv.AppendFloat(p.out, math.Round(n*100)/100+0, 'f', -1, 64), ' ')
	}
	p.out = append(append(p.out, op...), '\n')
}
func (p *pdfPath) moveTo(x, y float64) { p.points("m", x, y) }
func (p *pdfPath) lineTo(x, y float64) { p.points("l", x, y) }
func (p *pdfPath) cubeTo(ax, ay, bx, by, x, y float64) {
	p.points("c", ax, ay, bx, by, x, y)
}
func (p *pdfPath) close() { p.out = append(p.out, "h\n"...) }

// pdfOutline writes an outline in the units of a page.
type pdfOutline struct{ out []byte }

func (p *pdfOutline) points(op string, numbers ...float64) {
	for _, n := range numbers {
		p.out = append(strconv.AppendFloat(p.out, math.Round(n*pdfUnits*100)/100, 'f', -1, 64), ' ')
	}
	p.out = append(append(p.out, op...), '\n')
}
func (p *pdfOutline) moveTo(x, y float64) { p.points("m", x, y) }
func (p *pdfOutline) lineTo(x, y float64) { p.points("l", x, y) }
func (p *pdfOutline) cubeTo(ax, ay, bx, by, x, y float64) {
	p.points("c", ax, ay, bx, by, x, y)
}
func (p *pdfOutline) close() { p.out = append(p.out, "h\n"...) }

// reserve takes a number for an object that is written later.
func (p *PDF) reserve() int {
	p.offsets = append(p.offsets, 0)
	return len(p.offsets)
}

// begin begins the next object and returns its number.
func (p *PDF) begin() int {
	number := p.reserve()
	p.offsets[number-1] = p.written
	p.write("%d 0 obj\n", number)
	return number
}

func (p *PDF) object(number int, text string) {
	p.offsets[number-1] = p.written
	p.write("%d 0 obj\n%s\nendobj\n", number, text)
}

func (p *PDF) stream(dictionary string, data []byte) {
	p.write("<<%s/Length %d>>\nstream\n", dictionary, len(data))
	p.writeBytes(data)
	p.write("\nendstream\nendobj\n")
}

func (p *PDF) write(format string, args ...any) {
	p.writeBytes(fmt.Appendf(nil, format, args...))
}

func (p *PDF) writeBytes(data []byte) {
	if p.err != nil {
		return
	}
	n, err := p.out.Write(data)
	p.written += int64(n)
	if err != nil {
		p.err = fmt.Errorf("write PDF: %w", err)
	}
}
