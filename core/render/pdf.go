package render

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"

	"github.com/klauspost/compress/zlib"

	"oddspool/core/measure"
	"oddspool/core/typeset"
)

// A PDF writes labels as pages of one document (ISO 32000-1) as they come: what it holds grows by a few bytes a page,
// whatever is on them. Letters are those of a font in which only the glyphs stand that are used, each by its outline
// (Type 3, 9.6.5), so that they can be searched and copied and look alike everywhere. The same labels give the same
// bytes.
type PDF struct {
	out     io.Writer
	written int64
	err     error
	title   string

	offsets []int64 // of objects, from number 1 on
	nodes   []int   // of the tree of pages
	inNode  int     // pages in the last of them
	pages   int
	fixed   []int // the numbers of what all pages of a design have

	mutex sync.Mutex
	used  map[glyphKey]bool
	forms map[formKey]*pdfForm
}

// PDFPages draws the pages of a document that are of one design.
type PDFPages struct {
	of         *PDF
	colours    Palette
	resolution measure.Resolution
	every      string // the name of what stands on each of them; empty: nothing
}

type glyphKey struct {
	face *typeset.Face
	id   uint32
}

// Objects that are written last and that others name.
const (
	pdfCatalog = iota + 1
	pdfTree
	pdfResources
	pdfInfo
)

// pagesPerNode is how many pages hang on one node of the tree.
const pagesPerNode = 64

// barInset is taken from each side of a bar, in pdfUnits of a dot, so that no renderer that sets every dot a
// shape touches makes the bar a dot wider. TestPDFBarsAreWholeModules guards it.
const (
	pdfUnits = 20
	barInset = 1
)

// NewPDF starts a document.
func NewPDF(w io.Writer, title string) *PDF {
	p := &PDF{out: w, title: title, used: map[glyphKey]bool{}, forms: map[formKey]*pdfForm{}}
	p.offsets = make([]int64, pdfInfo)
	p.writeBytes([]byte("%PDF-1.7\n%\xe2\xe3\xcf\xd3\n"))
	return p
}

// Pages begins pages for labels of one design, at a resolution. The face stays bare: it is what they are printed on.
// What is on the list fixed stands on each of them and is kept once (a form XObject, 8.10); nil: nothing does.
func (p *PDF) Pages(colours Palette, r measure.Resolution, fixed *List) (*PDFPages, error) {
	pages := &PDFPages{of: p, colours: colours, resolution: r}
	if fixed == nil {
		return pages, p.err
	}
	d := pages.drawer()
	defer pdfDrawers.Put(d)
	content := bytes.Clone(d.deflated(d.items(fixed)))
	p.fixed = append(p.fixed, p.begin())
	pages.every = fmt.Sprintf("Every%d", len(p.fixed))
	p.stream(fmt.Sprintf("/Type/XObject/Subtype/Form/BBox[0 0 %d %d]/Resources %d 0 R/Filter/FlateDecode",
		fixed.Width*pdfUnits, fixed.Height*pdfUnits, pdfResources), content)
	return pages, p.err
}

// A DrawnPage is a page that Put adds to its document.
type DrawnPage struct {
	content       []byte // compressed
	width, height string // points
}

// pdfDrawer keeps memory between pages.
type pdfDrawer struct {
	raw     []byte
	packed  bytes.Buffer
	deflate *zlib.Writer
	seen    map[glyphKey]bool // that the document has
	of      *PDFPages
}

var pdfDrawers = sync.Pool{New: func() any {
	deflate, err := zlib.NewWriterLevel(nil, zlib.BestSpeed)
	if err != nil {
		panic(err) // the level is one of zlib's own
	}
	return &pdfDrawer{deflate: deflate}
}}

// Draw makes a page of its true size of a label. Several may be drawn at once.
func (p *PDFPages) Draw(l *List) *DrawnPage {
	d := p.drawer()
	defer pdfDrawers.Put(d)
	dot := 72 / p.resolution.PerInch() // points in a dot
	// A page is written in hundredths of a point; rounded down, it never has a dot too many.
	hundredths := func(dots int) string {
		return strconv.FormatFloat(math.Floor(float64(dots)*dot*100)/100, 'f', -1, 64)
	}
	page := &DrawnPage{width: hundredths(l.Width), height: hundredths(l.Height)}
	scale := strconv.FormatFloat(dot/pdfUnits, 'f', 10, 64)
	d.raw = append(d.raw, scale...)
	d.raw = append(d.raw, " 0 0 -"...)
	d.raw = append(append(d.raw, scale...), " 0 "...)
	d.raw = append(append(d.raw, page.height...), " cm\n"...)
	if p.every != "" {
		d.raw = append(append(append(d.raw, '/'), p.every...), " Do\n"...)
	}
	page.content = bytes.Clone(d.deflated(d.items(l)))
	return page
}

// drawer takes a drawer for these pages.
func (p *PDFPages) drawer() *pdfDrawer {
	d := pdfDrawers.Get().(*pdfDrawer)
	if d.raw = d.raw[:0]; d.of == nil || d.of.of != p.of {
		d.seen = map[glyphKey]bool{}
	}
	d.of = p
	return d
}

// items adds all that is on a list to the content.
func (d *pdfDrawer) items(l *List) []byte {
	ink := Bare - 1
	for i := range l.Items {
		item := &l.Items[i]
		if item.Ink != ink {
			ink = item.Ink
			d.raw = appendColour(d.raw, d.of.colours.inkColour(ink))
		}
		switch item.Op {
		case Fill:
			d.raw = append(appendBox(d.raw, item.Box), "f\n"...)
		case Bars:
			l.runs(item, func(bar Box) { d.raw = appendBox(d.raw, bar) })
			d.raw = append(d.raw, "f\n"...)
		case Dots:
			if item.outlined {
				d.outlines(item)
				continue
			}
			l.eachRun(item, func(run Box) { d.raw = appendBox(d.raw, run) })
			d.raw = append(d.raw, "f\n"...)
		case Path:
			path := &pdfOutline{out: d.raw}
			l.outlined(item, path)
			d.raw = append(path.out, "f\n"...)
		case Words:
			d.words(l, item)
		}
	}
	return d.raw
}

// outlines places what an item is drawn of, which the document keeps once.
func (d *pdfDrawer) outlines(item *Item) {
	if len(item.outlines) == 0 {
		return
	}
	d.raw = append(d.raw, "q 1 0 0 1 "...)
	d.raw = appendNumbers(d.raw, item.Box.X*pdfUnits, item.Box.Y*pdfUnits)
	d.raw = append(append(append(d.raw, "cm /"...), d.of.form(item)...), " Do Q\n"...)
}

// formKey is what a form is drawn of: outlines are known by where they lie in memory, for they never change.
type formKey struct {
	of            *PDFPages // whose colours it has
	outlines      *Outline
	count, ink    int
	width, height int
	turn          measure.Turn
}

// pdfForm is a form XObject (8.10) that is written when the document ends.
type pdfForm struct {
	name    string // by its content, so that the same labels give the same bytes
	box     Box
	content []byte // compressed
}

// form returns the name of the form of an item's outlines, which cuts them to the item's box.
func (p *PDFPages) form(item *Item) string {
	key := formKey{p, &item.outlines[0], len(item.outlines), item.Ink, item.Box.W, item.Box.H, item.Turn}
	p.of.mutex.Lock()
	defer p.of.mutex.Unlock()
	if made, known := p.of.forms[key]; known {
		return made.name
	}
	d := pdfDrawers.Get().(*pdfDrawer)
	defer pdfDrawers.Put(d)
	d.raw, d.of = d.raw[:0], nil // it notes no glyphs
	at := *item
	at.Box.X, at.Box.Y = 0, 0
	for i := range item.outlines {
		o := &item.outlines[i]
		path := &pdfOutline{out: appendColour(d.raw, p.colours.inkColour(item.inkOf(o)))}
		at.outline(o.Pens, path)
		d.raw = append(path.out, "f\n"...)
	}
	content := bytes.Clone(d.deflated(d.raw))
	sum := sha256.Sum256(fmt.Append(content, at.Box))
	made := &pdfForm{"D" + hex.EncodeToString(sum[:8]), at.Box, content}
	p.of.forms[key] = made
	return made.name
}

// writeForms writes all forms and returns their names with their numbers.
func (p *PDF) writeForms() string {
	byName := map[string]*pdfForm{}
	for _, form := range p.forms {
		byName[form.name] = form
	}
	var list strings.Builder
	for _, name := range slices.Sorted(maps.Keys(byName)) {
		form := byName[name]
		fmt.Fprintf(&list, "/%s %d 0 R", name, p.begin())
		p.stream(fmt.Sprintf("/Type/XObject/Subtype/Form/BBox[0 0 %d %d]/Resources<<>>/Filter/FlateDecode",
			form.box.W*pdfUnits, form.box.H*pdfUnits), form.content)
	}
	return list.String()
}

// deflated packs content; the result holds until the next.
func (d *pdfDrawer) deflated(content []byte) []byte {
	d.packed.Reset()
	d.deflate.Reset(&d.packed)
	_, _ = d.deflate.Write(content) // into memory
	_ = d.deflate.Close()
	return d.packed.Bytes()
}

func appendColour(dst []byte, colour string) []byte {
	if colour == "#000000" {
		return append(dst, "0 g\n"...)
	}
	for _, part := range RGB(colour) {
		dst = append(strconv.AppendFloat(dst, math.Round(float64(part)/255*10_000)/10_000, 'f', -1, 64), ' ')
	}
	return append(dst, "rg\n"...)
}

func appendNumbers(dst []byte, numbers ...int) []byte {
	for _, n := range numbers {
		dst = append(strconv.AppendInt(dst, int64(n), 10), ' ')
	}
	return dst
}

func appendBox(dst []byte, b Box) []byte {
	dst = appendNumbers(dst, b.X*pdfUnits+barInset, b.Y*pdfUnits+barInset, b.W*pdfUnits-2*barInset,
		b.H*pdfUnits-2*barInset)
	return append(dst, "re\n"...)
}

// textMatrices bring glyphs, whose y goes up, onto the label, whose y goes down, turned.
var textMatrices = map[measure.Turn]string{0: "1 0 0 -1 ", 90: "0 1 1 0 ", 180: "-1 0 0 1 ", 270: "0 -1 -1 0 "}

// words sets the glyphs of an item, each at its own place.
func (d *pdfDrawer) words(l *List, item *Item) {
	if c := item.Clip; c != (Box{}) {
		d.raw = append(d.raw, "q "...)
		d.raw = append(appendNumbers(d.raw, c.X*pdfUnits, c.Y*pdfUnits, c.W*pdfUnits, c.H*pdfUnits), "re W n\n"...)
	}
	d.raw = append(d.raw, "BT\n"...)
	var face *typeset.Face
	block, lastX, lastY, begun := uint32(0), 0, 0, false
	l.placed(item, func(g typeset.Glyph, x, y int) {
		d.use(glyphKey{g.Face, g.ID})
		if g.Face != face || g.ID>>8 != block {
			face, block = g.Face, g.ID>>8
			d.raw = append(append(append(d.raw, '/'), fontName(face, block)...), ' ')
			d.raw = strconv.AppendFloat(d.raw, float64(item.PerEm)*pdfUnits/64, 'f', -1, 64)
			d.raw = append(d.raw, " Tf\n"...)
		}
		if !begun {
			begun = true
			d.raw = append(d.raw, textMatrices[item.Turn]...)
			d.raw = append(appendNumbers(d.raw, x*pdfUnits, y*pdfUnits), "Tm"...)
		} else {
			along, up := x-lastX, lastY-y
			switch item.Turn {
			case 90:
				along, up = y-lastY, x-lastX
			case 180:
				along, up = lastX-x, y-lastY
			case 270:
				along, up = lastY-y, lastX-x
			}
			d.raw = append(appendNumbers(d.raw, along*pdfUnits, up*pdfUnits), "Td"...)
		}
		lastX, lastY = x, y
		d.raw = append(d.raw, '<')
		d.raw = hex.AppendEncode(d.raw, []byte{byte(g.ID)})
		d.raw = append(d.raw, ">Tj\n"...)
	})
	d.raw = append(d.raw, "ET\n"...)
	if item.Clip != (Box{}) {
		d.raw = append(d.raw, "Q\n"...)
	}
}

// use notes a glyph that the document needs.
func (d *pdfDrawer) use(key glyphKey) {
	if d.seen[key] {
		return
	}
	d.seen[key] = true
	document := d.of.of
	document.mutex.Lock()
	document.used[key] = true
	document.mutex.Unlock()
}

// fontName names the font of 256 glyphs of a face.
func fontName(face *typeset.Face, block uint32) string {
	return face.Key() + "-" + strconv.Itoa(int(block))
}
