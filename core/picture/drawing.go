package picture

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"io"
	"math"
	"strconv"
	"strings"

	"oddspool/core/measure"
	"oddspool/core/render"
)

// A Shape of a drawing is filled by the nonzero rule; what comes later covers what was there.
type Shape struct {
	Pens   []render.Pen // micrometres from the drawing's top left corner
	Colour color.RGBA
}

// shade returns how light a shape is, from 0 for black to 255 (Rec. 601 luma).
func (s *Shape) shade() int {
	return (299*int(s.Colour.R) + 587*int(s.Colour.G) + 114*int(s.Colour.B)) / 1000
}

// mostPens is how many steps the outlines of a drawing may have.
const mostPens = 400_000

// mostCovered is how often the boxes round its areas may cover a drawing: each is filled by itself.
const mostCovered = 100

// nominal is how many dots a millimetre of a drawing counts as where dots are asked for, as finely as the finest head.
const nominal = 24

var steps = map[render.PenOp]struct {
	letter byte
	points int
}{render.MoveTo: {'M', 1}, render.LineTo: {'L', 1}, render.CurveTo: {'C', 3}}

// WriteDrawing writes a drawing as the plain SVG (SVG 2) that Decode reads: paths of moves, lines and cubic curves, one
// user unit a micrometre.
func WriteDrawing(width, height measure.Length, shapes []Shape) []byte {
	mm := func(l measure.Length) string { return strconv.FormatFloat(float64(l)/1000, 'f', -1, 64) }
	out := fmt.Appendf(nil, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %d %d">`+
		"\n", mm(width), mm(height), width, height)
	for _, s := range shapes {
		out = fmt.Appendf(out, `<path fill="#%02x%02x%02x" d="`, s.Colour.R, s.Colour.G, s.Colour.B)
		for _, pen := range s.Pens {
			step := steps[pen.Op]
			out = append(out, step.letter)
			for i, n := range pen.Points[:2*step.points] {
				if i > 0 {
					out = append(out, ' ')
				}
				out = strconv.AppendFloat(out, math.Round(n*10)/10, 'f', -1, 64)
			}
		}
		out = append(out, `"/>`+"\n"...)
	}
	return append(out, "</svg>\n"...)
}

// Drawn tells whether the picture is a drawing, whose lines are as fine at any size.
func (p *Picture) Drawn() bool { return p.view.w > 0 }

func isDrawing(data []byte) bool { return bytes.HasPrefix(data, []byte("<svg ")) }

// errOther says that an SVG is none of those that WriteDrawing writes: they are read where artwork is brought in.
var errOther = errors.New("it is not made of plain paths")

// readDrawing reads what WriteDrawing wrote. Its error is a *refusal.Error.
func readDrawing(data []byte) (*Picture, error) {
	p, err := parseDrawing(data)
	if err != nil {
		return nil, badDrawing.With(err)
	}
	return p, nil
}

func parseDrawing(data []byte) (*Picture, error) {
	p, pens, covered := &Picture{}, 0, 0.0
	decoder := xml.NewDecoder(bytes.NewReader(data))
	for depth := 0; ; {
		token, err := decoder.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, err
		}
		switch t := token.(type) {
		case xml.EndElement:
			depth--
		case xml.StartElement:
			attributes := map[string]string{}
			for _, a := range t.Attr {
				attributes[a.Name.Local] = a.Value
			}
			switch depth++; {
			case depth == 1 && t.Name.Local == "svg":
				var x, y, w, h int
				if _, err := fmt.Sscan(attributes["viewBox"], &x, &y, &w, &h); err != nil || x != 0 || y != 0 ||
					w < 1 || h < 1 || w > mostSide || h > mostSide {
					return nil, errOther
				}
				p.TrueWidth, p.TrueHeight = measure.Length(w), measure.Length(h)
			case depth == 2 && t.Name.Local == "path":
				s, err := parseShape(attributes["fill"], attributes["d"])
				if pens += len(s.Pens); err == nil && pens > mostPens {
					err = fmt.Errorf("its outlines have more than %d steps", mostPens)
				}
				if err != nil {
					return nil, err
				}
				box := render.Around(s.Pens).And(render.Box{W: int(p.TrueWidth), H: int(p.TrueHeight)})
				if covered += float64(max(box.W, 0)) * float64(max(box.H,
					0)); covered > mostCovered*float64(p.TrueWidth)*float64(p.TrueHeight) {
					return nil, fmt.Errorf("its areas cover it more than %d times", mostCovered)
				}
				p.shapes = append(p.shapes, s)
			default:
				return nil, errOther
			}
		}
	}
	if p.TrueWidth == 0 {
		return nil, errOther
	}
	p.Width, p.Height = max(int(p.TrueWidth)*nominal/1000, 1), max(int(p.TrueHeight)*nominal/1000, 1)
	if p.Width*p.Height > MostPixels {
		scale := math.Sqrt(MostPixels / float64(p.Width*p.Height))
		p.Width, p.Height = max(int(float64(p.Width)*scale), 1), max(int(float64(p.Height)*scale), 1)
	}
	p.view = frame{0, 0, float64(p.TrueWidth), float64(p.TrueHeight)}
	return p, nil
}

// mostSide is how long a side of a drawing may be, in micrometres.
const mostSide = 2_000_000

func parseShape(fill, d string) (s Shape, err error) {
	s.Colour.A = 0xff
	if n, err := fmt.Sscanf(fill, "#%02x%02x%02x", &s.Colour.R, &s.Colour.G, &s.Colour.B); err != nil || n != 3 {
		return s, errOther
	}
	for len(d) > 0 {
		pen := render.Pen{}
		switch d[0] {
		case 'M':
			pen.Op = render.MoveTo
		case 'L':
			pen.Op = render.LineTo
		case 'C':
			pen.Op = render.CurveTo
		default:
			return s, errOther
		}
		if pen.Op != render.MoveTo && len(s.Pens) == 0 {
			return s, errOther
		}
		end := strings.IndexAny(d[1:], "MLC") + 1
		if end == 0 {
			end = len(d)
		}
		numbers := strings.Split(d[1:end], " ")
		if len(numbers) != 2*steps[pen.Op].points {
			return s, errOther
		}
		for i, number := range numbers {
			n, err := strconv.ParseFloat(number, 64)
			if err != nil || !(math.Abs(n) <= 10*mostSide) {
				return s, errOther
			}
			pen.Points[i] = n
		}
		s.Pens = append(s.Pens, pen)
		d = d[end:]
	}
	return s, nil
}

// frame is what of a drawing is shown, in micrometres.
type frame struct{ x, y, w, h float64 }

// fitted returns the outline of a shape where what is shown of its drawing lies in w × h dots, its top left corner at
// left, top.
func (f frame) fitted(pens []render.Pen, left, top, w, h float64) []render.Pen {
	made := make([]render.Pen, len(pens))
	for i, pen := range pens {
		made[i].Op = pen.Op
		for j := 0; j < len(pen.Points); j += 2 {
			made[i].Points[j] = left + (pen.Points[j]-f.x)*w/f.w
			made[i].Points[j+1] = top + (pen.Points[j+1]-f.y)*h/f.h
		}
	}
	return made
}

// outlines returns the outlines of a drawing in the middle of a box of w × h dots, in the order in which they cover
// each other: those that are light lay the face bare. There are none of a picture of dots, and of a drawing whose
// shades are to become patterns of them.
func (p *Picture) outlines(w, h int, way Way, lighter int, stretch bool) (outlines []render.Outline) {
	if !p.Drawn() {
		return nil
	}
	inW, inH := p.fit(w, h, stretch)
	outlines = []render.Outline{}
	for i := range p.shapes {
		shade := p.shapes[i].shade() + lighter*255/100
		if way != Threshold && shade > 0 && shade < 255 {
			return nil
		}
		pens := p.view.fitted(p.shapes[i].Pens, float64((w-inW)/2), float64((h-inH)/2), float64(inW), float64(inH))
		o := render.Outline{Pens: pens, Ink: render.OfItem}
		if shade >= 128 {
			o.Ink = render.Bare
		}
		outlines = append(outlines, o)
	}
	return outlines
}

// drawn returns a drawing as a picture of w × h dots.
func (p *Picture) drawn(w, h int) *Picture {
	made := &Picture{Width: w, Height: h, TrueWidth: p.TrueWidth, TrueHeight: p.TrueHeight, shades: make([]uint8, w*h),
		alphas: make([]uint8, w*h)}
	grey := image.NewGray(image.Rect(0, 0, w, h))
	draw.Draw(grey, grey.Rect, image.White, image.Point{}, draw.Src)
	seen := image.NewAlpha(grey.Rect)
	for i := range p.shapes {
		pens := p.view.fitted(p.shapes[i].Pens, 0, 0, float64(w), float64(h))
		box := render.Around(pens).And(render.Box{W: w, H: h})
		if box.Empty() {
			continue
		}
		covered := render.Covered(box.W, box.H, render.Moved(pens, -float64(box.X), -float64(box.Y)))
		at := image.Rect(box.X, box.Y, box.X+box.W, box.Y+box.H)
		draw.DrawMask(grey, at, image.NewUniform(color.Gray{uint8(p.shapes[i].shade())}), image.Point{}, covered,
			image.Point{}, draw.Over)
		draw.DrawMask(seen, at, image.Opaque, image.Point{}, covered, image.Point{}, draw.Over)
	}
	copy(made.shades, grey.Pix)
	copy(made.alphas, seen.Pix)
	return made
}
