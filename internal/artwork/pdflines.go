package artwork

import (
	"image/color"
	"math"

	"github.com/klippa-app/go-pdfium"
	"github.com/klippa-app/go-pdfium/enums"
	"github.com/klippa-app/go-pdfium/references"
	"github.com/klippa-app/go-pdfium/requests"
	"github.com/klippa-app/go-pdfium/structs"
	"github.com/srwiley/rasterx"
	"golang.org/x/image/math/fixed"

	"oddspool/core/picture"
	"oddspool/core/render"
)

// pdfLines takes what a page of a PDF is drawn with: paths first, then words. What it does not know, such as clipping,
// transparency or which comes over which, shows when the lines are held against the page.
type pdfLines struct {
	lines
	pdf  pdfium.Pdfium
	to   matrix // from the page's points to micrometres from its top left corner
	fail error
}

// matrix is a PDF's (ISO 32000-1, 8.3.4).
type matrix [6]float64

func matrixOf(m structs.FPDF_FS_MATRIX) matrix {
	return matrix{float64(m.A), float64(m.B), float64(m.C), float64(m.D), float64(m.E), float64(m.F)}
}

func (m matrix) apply(x, y float64) (float64, float64) {
	return m[0]*x + m[2]*y + m[4], m[1]*x + m[3]*y + m[5]
}

// then returns what first m and then n do.
func (m matrix) then(n matrix) matrix {
	return matrix{
		m[0]*n[0] + m[1]*n[2], m[0]*n[1] + m[1]*n[3], m[2]*n[0] + m[3]*n[2], m[2]*n[1] + m[3]*n[3],
		m[4]*n[0] + m[5]*n[2] + n[4], m[4]*n[1] + m[5]*n[3] + n[5],
	}
}

func (m matrix) scale() float64 { return math.Sqrt(math.Abs(m[0]*m[3] - m[1]*m[2])) }

// shapesOf returns what a page is drawn with, its height in points of so many micrometres; nil: it cannot be lines.
func shapesOf(pdf pdfium.Pdfium, document references.FPDF_DOCUMENT, index int, height,
	micrometres float64) []picture.Shape {
	loaded, err := pdf.FPDF_LoadPage(&requests.FPDF_LoadPage{Document: document, Index: index})
	if err != nil {
		return nil
	}
	defer func() { _, _ = pdf.FPDF_ClosePage(&requests.FPDF_ClosePage{Page: loaded.Page}) }() // nothing hangs on it
	l := &pdfLines{pdf: pdf, to: matrix{micrometres, 0, 0, -micrometres, 0, height * micrometres}}
	page := requests.Page{ByReference: &loaded.Page}
	if box, err := pdf.FPDFPage_GetCropBox(&requests.FPDFPage_GetCropBox{Page: page}); err == nil {
		l.to = matrix{1, 0, 0, 1, -float64(box.Left), -float64(box.Bottom)}.then(l.to)
	} else if box, err := pdf.FPDFPage_GetMediaBox(&requests.FPDFPage_GetMediaBox{Page: page}); err == nil {
		l.to = matrix{1, 0, 0, 1, -float64(box.Left), -float64(box.Bottom)}.then(l.to)
	}
	count, err := pdf.FPDFPage_CountObjects(&requests.FPDFPage_CountObjects{Page: page})
	if err != nil {
		return nil
	}
	for i := range count.Count {
		object, err := pdf.FPDFPage_GetObject(&requests.FPDFPage_GetObject{Page: page, Index: i})
		if err != nil {
			return nil
		}
		if l.object(object.PageObject, l.to, 0); l.fail != nil || l.unplain {
			return nil
		}
	}
	if l.words(page); l.fail != nil || l.unplain {
		return nil
	}
	return l.shapes
}

// answer keeps the first error.
func answer[T any](l *pdfLines, got *T, err error) *T {
	if err != nil && l.fail == nil {
		l.fail = err
	}
	if got == nil || err != nil {
		return new(T)
	}
	return got
}

func (l *pdfLines) object(o references.FPDF_PAGEOBJECT, to matrix, depth int) {
	is, err := l.pdf.FPDFPageObj_GetType(&requests.FPDFPageObj_GetType{PageObject: o})
	switch answer(l, is, err).Type {
	case enums.FPDF_PAGEOBJ_TEXT: // words come by themselves
	case enums.FPDF_PAGEOBJ_PATH:
		l.path(o, to)
	case enums.FPDF_PAGEOBJ_FORM:
		if depth > 8 {
			l.unplain = true
			return
		}
		at, err := l.pdf.FPDFPageObj_GetMatrix(&requests.FPDFPageObj_GetMatrix{PageObject: o})
		inner := matrixOf(answer(l, at, err).Matrix).then(to)
		count, err := l.pdf.FPDFFormObj_CountObjects(&requests.FPDFFormObj_CountObjects{PageObject: o})
		for i := range answer(l, count, err).Count {
			part, err := l.pdf.FPDFFormObj_GetObject(&requests.FPDFFormObj_GetObject{PageObject: o, Index: uint64(i)})
			if part := answer(l, part, err); l.fail == nil {
				l.object(part.PageObject, inner, depth+1)
			}
		}
	default:
		l.unplain = true // a picture, or a shading
	}
}

func (l *pdfLines) path(o references.FPDF_PAGEOBJECT, to matrix) {
	mode, err := l.pdf.FPDFPath_GetDrawMode(&requests.FPDFPath_GetDrawMode{PageObject: o})
	drawn := answer(l, mode, err)
	at, err := l.pdf.FPDFPageObj_GetMatrix(&requests.FPDFPageObj_GetMatrix{PageObject: o})
	to = matrixOf(answer(l, at, err).Matrix).then(to)
	count, err := l.pdf.FPDFPath_CountSegments(&requests.FPDFPath_CountSegments{PageObject: o})
	pens, closed := l.outline(answer(l, count, err).Count, to, func(i int) (references.FPDF_PATHSEGMENT, error) {
		segment, err := l.pdf.FPDFPath_GetPathSegment(&requests.FPDFPath_GetPathSegment{PageObject: o, Index: i})
		return answer(l, segment, err).PathSegment, err
	})
	if drawn.FillMode != enums.FPDF_FILLMODE_NONE {
		fill, err := l.pdf.FPDFPageObj_GetFillColor(&requests.FPDFPageObj_GetFillColor{PageObject: o})
		l.colourOf(answer(l, fill, err).FillColor)
		l.evenOdd = drawn.FillMode == enums.FPDF_FILLMODE_ALTERNATE
		l.area(pens)
	}
	if drawn.Stroke {
		l.stroke(o, pens, closed, to.scale())
	}
}

func (l *pdfLines) colourOf(c structs.FPDF_COLOR) {
	l.SetColor(color.NRGBA{uint8(c.R), uint8(c.G), uint8(c.B), uint8(c.A)})
}

// outline reads a path, in micrometres, and tells of each of its parts whether it is closed.
func (l *pdfLines) outline(count int, to matrix, segment func(i int) (references.FPDF_PATHSEGMENT,
	error)) (pens []render.Pen, closed []bool) {
	if l.count += count; l.count > mostLines/4 { // each is asked for by itself
		l.unplain = true
		return nil, nil
	}
	var control []float64
	for i := range count {
		s, err := segment(i)
		if err != nil {
			return nil, nil
		}
		is, err := l.pdf.FPDFPathSegment_GetType(&requests.FPDFPathSegment_GetType{PathSegment: s})
		kind := answer(l, is, err).Type
		point, err := l.pdf.FPDFPathSegment_GetPoint(&requests.FPDFPathSegment_GetPoint{PathSegment: s})
		p := answer(l, point, err)
		x, y := to.apply(float64(p.X), float64(p.Y))
		switch {
		case kind == enums.FPDF_SEGMENT_MOVETO:
			pens, closed = append(pens, render.Pen{Op: render.MoveTo, Points: [6]float64{x, y}}), append(closed, false)
		case len(pens) == 0:
			l.unplain = true
			return nil, nil
		case kind == enums.FPDF_SEGMENT_LINETO:
			pens = append(pens, render.Pen{Op: render.LineTo, Points: [6]float64{x, y}})
		case kind == enums.FPDF_SEGMENT_BEZIERTO:
			if control = append(control, x, y); len(control) == 6 {
				pens = append(pens, render.Pen{Op: render.CurveTo, Points: [6]float64(control)})
				control = nil
			}
		}
		if ends, err := l.pdf.FPDFPathSegment_GetClose(
			&requests.FPDFPathSegment_GetClose{PathSegment: s}); err == nil && ends.IsClose {
			closed[len(closed)-1] = true
		}
	}
	return pens, closed
}

// area adds what is filled.
func (l *pdfLines) area(pens []render.Pen) {
	l.pens, l.areas = append(l.pens, pens...), 1
	l.Draw()
}

// stroke adds the area of a path's lines.
func (l *pdfLines) stroke(o references.FPDF_PAGEOBJECT, pens []render.Pen, closed []bool, scale float64) {
	const units = perMM / 1000.0 * 64 // of fixed point numbers in a micrometre
	line, err := l.pdf.FPDFPageObj_GetStrokeColor(&requests.FPDFPageObj_GetStrokeColor{PageObject: o})
	l.colourOf(structs.FPDF_COLOR(answer(l, line, err).StrokeColor))
	w, err := l.pdf.FPDFPageObj_GetStrokeWidth(&requests.FPDFPageObj_GetStrokeWidth{PageObject: o})
	width := float64(answer(l, w, err).StrokeWidth) * scale
	end, err := l.pdf.FPDFPageObj_GetLineCap(&requests.FPDFPageObj_GetLineCap{PageObject: o})
	caps := map[enums.FPDF_LINECAP]rasterx.CapFunc{enums.FPDF_LINECAP_BUTT: rasterx.ButtCap,
		enums.FPDF_LINECAP_ROUND: rasterx.RoundCap, enums.FPDF_LINECAP_PROJECTING_SQUAR: rasterx.SquareCap}
	ends := caps[answer(l, end, err).LineCap]
	corner, err := l.pdf.FPDFPageObj_GetLineJoin(&requests.FPDFPageObj_GetLineJoin{PageObject: o})
	joins := map[enums.FPDF_LINEJOIN]rasterx.JoinMode{enums.FPDF_LINEJOIN_MITER: rasterx.Miter,
		enums.FPDF_LINEJOIN_ROUND: rasterx.Round, enums.FPDF_LINEJOIN_BEVEL: rasterx.Bevel}
	join := joins[answer(l, corner, err).LineJoin]
	var dashes []float64
	var phase float64
	if pattern, err := l.pdf.FPDFPageObj_GetDashArray(&requests.FPDFPageObj_GetDashArray{PageObject: o}); err == nil {
		for _, length := range pattern.DashArray {
			dashes = append(dashes, float64(length)*scale*perMM/1000)
		}
		if from, err := l.pdf.FPDFPageObj_GetDashPhase(&requests.FPDFPageObj_GetDashPhase{PageObject: o}); err == nil {
			phase = float64(from.DashPhase) * scale * perMM / 1000
		}
	}
	d := rasterx.NewDasher(1, 1, &l.lines)
	d.SetStroke(fixed.Int26_6(width*units), 10*64, ends, nil, rasterx.FlatGap, join, dashes, phase)
	at := func(pen render.Pen, i int) fixed.Point26_6 {
		return fixed.Point26_6{X: fixed.Int26_6(pen.Points[2*i] * units), Y: fixed.Int26_6(pen.Points[2*i+1] * units)}
	}
	ring := -1
	for _, pen := range pens {
		switch pen.Op {
		case render.MoveTo:
			if ring >= 0 {
				d.Stop(closed[ring])
			}
			ring++
			d.Start(at(pen, 0))
		case render.LineTo:
			d.Line(at(pen, 0))
		case render.CurveTo:
			d.CubeBezier(at(pen, 0), at(pen, 1), at(pen, 2))
		}
	}
	if ring >= 0 {
		d.Stop(closed[ring])
	}
	l.evenOdd, l.areas = false, 0
	l.Draw()
}

// words adds the outlines of all characters of a page.
func (l *pdfLines) words(page requests.Page) {
	loaded, err := l.pdf.FPDFText_LoadPage(&requests.FPDFText_LoadPage{Page: page})
	text := answer(l, loaded, err).TextPage
	if l.fail != nil {
		return
	}
	// nothing hangs on it
	defer func() { _, _ = l.pdf.FPDFText_ClosePage(&requests.FPDFText_ClosePage{TextPage: text}) }()
	count, err := l.pdf.FPDFText_CountChars(&requests.FPDFText_CountChars{TextPage: text})
	for i := range answer(l, count, err).Count {
		if l.character(text, i); l.fail != nil || l.unplain {
			return
		}
	}
}

func (l *pdfLines) character(text references.FPDF_TEXTPAGE, i int) {
	letter, err := l.pdf.FPDFText_GetUnicode(&requests.FPDFText_GetUnicode{TextPage: text, Index: i})
	unicode := answer(l, letter, err).Unicode
	if unicode <= ' ' || unicode == 0xa0 { // nothing to be seen, or a line's end that the reader made up
		l.unplain = l.unplain || unicode == 0
		return
	}
	of, err := l.pdf.FPDFText_GetTextObject(&requests.FPDFText_GetTextObject{TextPage: text, Index: i})
	object := answer(l, of, err).TextObject
	if l.fail != nil {
		return
	}
	mode, err := l.pdf.FPDFTextObj_GetTextRenderMode(&requests.FPDFTextObj_GetTextRenderMode{PageObject: object})
	if answer(l, mode, err).TextRenderMode != enums.FPDF_TEXTRENDERMODE_FILL {
		l.unplain = true
		return
	}
	fill, err := l.pdf.FPDFPageObj_GetFillColor(&requests.FPDFPageObj_GetFillColor{PageObject: object})
	l.colourOf(answer(l, fill, err).FillColor)
	face, err := l.pdf.FPDFTextObj_GetFont(&requests.FPDFTextObj_GetFont{PageObject: object})
	font := answer(l, face, err).Font
	points, err := l.pdf.FPDFTextObj_GetFontSize(&requests.FPDFTextObj_GetFontSize{PageObject: object})
	at, err2 := l.pdf.FPDFText_GetMatrix(&requests.FPDFText_GetMatrix{TextPage: text, Index: i})
	origin, err3 := l.pdf.FPDFText_GetCharOrigin(&requests.FPDFText_GetCharOrigin{TextPage: text, Index: i})
	turned, from := matrixOf(answer(l, at, err2).Matrix), answer(l, origin, err3)
	turned[4], turned[5] = from.X, from.Y
	size := answer(l, points, err).FontSize
	if l.fail != nil {
		return
	}
	glyph, err := l.pdf.FPDFFont_GetGlyphPath(&requests.FPDFFont_GetGlyphPath{Font: font, Glyph: uint32(unicode),
		FontSize: size})
	if err != nil {
		l.fail = err
		return
	}
	segments, err := l.pdf.FPDFGlyphPath_CountGlyphSegments(
		&requests.FPDFGlyphPath_CountGlyphSegments{GlyphPath: glyph.GlyphPath})
	pens, _ := l.outline(answer(l, segments, err).Count, turned.then(l.to), func(i int) (references.FPDF_PATHSEGMENT,
		error) {
		segment, err := l.pdf.FPDFGlyphPath_GetGlyphPathSegment(
			&requests.FPDFGlyphPath_GetGlyphPathSegment{GlyphPath: glyph.GlyphPath, Index: i})
		return answer(l, segment, err).GlyphPathSegment, err
	})
	l.evenOdd = false
	l.area(pens)
}
