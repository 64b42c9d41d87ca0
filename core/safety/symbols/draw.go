package symbols

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"image"
	"image/color"
	"io"
	"math"
	"slices"

	"github.com/srwiley/oksvg"
	"github.com/srwiley/rasterx"
	"golang.org/x/image/math/fixed"

	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/stock"
)

// described is the description of a drawing, in which its facts stand.
type described struct {
	XMLName xml.Name `xml:"svg"`
	Text    string   `xml:"desc"`
}

// Read reads the file of a symbol: an SVG of a square, with its facts as JSON in its description. Its error is a
// *refusal.Error.
func Read(data []byte) (*Symbol, error) {
	var read described
	if err := xml.Unmarshal(data, &read); err != nil {
		return nil, notSVGBecause.With(err)
	}
	s := &Symbol{drawing: data}
	if err := json.Unmarshal([]byte(read.Text), &s.Facts); err != nil || s.ID == "" || s.Name == "" {
		return nil, noFacts.With()
	}
	return s, nil
}

// fine is how many units the side of a drawing has while its curves are made straight.
const fine = 1024

// take turns the drawing into shapes, once.
func (s *Symbol) take() ([]shape, error) {
	s.once.Do(func() {
		icon, err := oksvg.ReadIconStream(bytes.NewReader(s.drawing), oksvg.StrictErrorMode)
		if err != nil {
			s.err = notDrawn.With(err)
			return
		}
		if icon.ViewBox.W <= 0 || icon.ViewBox.W != icon.ViewBox.H {
			s.err = notSquare.With()
			return
		}
		icon.SetTarget(0, 0, fine, fine)
		frame := s.Frame
		for i := range icon.SVGPaths {
			if s.err = s.takePath(&icon.SVGPaths[i], icon.Transform, icon.ViewBox.W); s.err != nil {
				return
			}
			if i+1 == frame {
				s.Frame = len(s.shapes) // a path with an outline is two shapes
			}
		}
	})
	return s.shapes, s.err
}

// takePath takes what a path is filled with, and its outline as an area of its own.
func (s *Symbol) takePath(p *oksvg.SvgPath, to rasterx.Matrix2D, width float64) error {
	all := trace(p, to)
	line := p.GetLineColor()
	p.SetLineColor(nil)
	filled := trace(p, to)
	if all.err != nil {
		return all.err
	}
	s.shapes = append(s.shapes, filled.shapes...)
	if all.colours == filled.colours { // it has no outline
		return nil
	}
	p.SetFillColor(line) // so that its points come as they are
	outline := trace(p, to)
	for i, open := range openRings(p.Path) {
		if open && len(outline.shapes) > 0 && i < len(outline.shapes[0].rings) {
			ring := &outline.shapes[0].rings[i]
			*ring = (*ring)[:len(*ring)-1] // filled, it is closed
		}
	}
	for _, o := range outline.shapes {
		s.shapes = append(s.shapes, shape{o.colour, stroke(o.rings, p.LineWidth/width)})
	}
	return nil
}

func trace(p *oksvg.SvgPath, to rasterx.Matrix2D) *recorder {
	r := &recorder{}
	p.DrawTransformed(rasterx.NewDasher(fine, fine, r), 1, to)
	return r
}

// openRings tells of each part of a path whether it is open, and ends elsewhere than it begins.
func openRings(p rasterx.Path) (open []bool) {
	size := map[rasterx.PathCommand]int{rasterx.PathMoveTo: 2, rasterx.PathLineTo: 2, rasterx.PathQuadTo: 4,
		rasterx.PathCubicTo: 6}
	var first, last [2]fixed.Int26_6
	for i := 0; i < len(p); {
		op := rasterx.PathCommand(p[i])
		switch n := size[op]; {
		case op == rasterx.PathClose:
			if len(open) > 0 {
				open[len(open)-1] = false
			}
			i++
		default:
			last = [2]fixed.Int26_6{p[i+n-1], p[i+n]}
			if op == rasterx.PathMoveTo {
				first, open = last, append(open, false)
			} else if len(open) > 0 {
				open[len(open)-1] = first != last
			}
			i += n + 1
		}
	}
	return open
}

// ends is of how many lines the round end of a line is made.
const ends = 12

// stroke returns the area of lines with round ends and corners along rings, as wide as given. All of it turns one way
// round, so that what overlaps is filled.
func stroke(rings [][][2]float64, width float64) (area [][][2]float64) {
	r := width / 2
	for _, ring := range rings {
		from := ring[0]
		for n, to := range ring {
			if n > 0 && math.Hypot(to[0]-from[0], to[1]-from[1]) < r/8 && n < len(ring)-1 {
				continue
			}
			if n == 0 && len(ring) > 1 {
				continue
			}
			angle := math.Atan2(to[1]-from[1], to[0]-from[0])
			var around [][2]float64
			for end, p := range [][2]float64{to, from} {
				for i := range ends + 1 {
					sin, cos := math.Sincos(angle + math.Pi*(float64(i)/ends-0.5+float64(end)))
					around = append(around, [2]float64{p[0] + r*cos, p[1] + r*sin})
				}
			}
			area = append(area, around)
			from = to
		}
	}
	return area
}

// Colours returns the colours that a symbol is drawn in, its frame left out where it is not wanted.
func (s *Symbol) Colours(frame bool) (used []stock.Ink, err error) {
	shapes, err := s.take()
	for i, shape := range shapes {
		if (frame || i >= s.Frame) && !slices.Contains(used, shape.colour) {
			used = append(used, shape.colour)
		}
	}
	return used, err
}

// A recorder takes the outlines that a drawing is filled with, in place of a picture.
type recorder struct {
	shapes  []shape
	rings   [][][2]float64
	colour  stock.Ink
	colours int // how often a colour was chosen
	err     error
}

func (r *recorder) Start(a fixed.Point26_6) {
	r.rings = append(r.rings, [][2]float64{at(a)})
}

func (r *recorder) Line(b fixed.Point26_6) {
	last := &r.rings[len(r.rings)-1]
	*last = append(*last, at(b))
}

func (r *recorder) Draw() {
	if len(r.rings) > 0 {
		r.shapes = append(r.shapes, shape{r.colour, r.rings})
	}
	r.rings = nil
}

func (r *recorder) SetColor(of any) {
	r.colours++
	c, ok := of.(color.Color)
	if !ok {
		r.err = gradient.With()
		return
	}
	plain := color.NRGBAModel.Convert(c).(color.NRGBA)
	if r.colour, ok = colours[plain]; !ok {
		r.err = unknownColour.With(plain.R, plain.G, plain.B)
	}
}

func (r *recorder) GetPathExtent() fixed.Rectangle26_6 { return fixed.Rectangle26_6{} }
func (r *recorder) SetBounds(int, int)                 {}
func (r *recorder) SetWinding(bool)                    {}
func (r *recorder) Clear()                             { r.rings = nil }
func (r *recorder) SetClip(image.Rectangle)            {}

func at(p fixed.Point26_6) [2]float64 {
	return [2]float64{float64(p.X) / 64 / fine, float64(p.Y) / 64 / fine}
}

// step is how far apart, in dots, points of an outline are at least: of shorter lines a rasterizer loses more than it
// shows.
const step = 0.25

// Layers draws the symbol into so many planes of side × side dots. layer tells in which plane a colour is printed;
// render.Bare leaves the face as it is. Without its frame, only what stands in it is drawn. The layers are kept, for
// the next who asks, and are not to be changed.
func (s *Symbol) Layers(side, planes int, frame bool, layer func(colour stock.Ink) int) (render.Layers, error) {
	shapes, err := s.take()
	if err != nil {
		return nil, err
	}
	where := make([]int, len(shapes))
	key := fmt.Sprint(side, planes, frame)
	for i, shape := range shapes {
		where[i] = layer(shape.colour)
		key += fmt.Sprint(" ", where[i])
	}
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if drawn, known := s.drawn[key]; known {
		return drawn, nil
	}
	list := render.List{Width: side, Height: side}
	for _, o := range s.outlines(shapes, side, frame) {
		list.Path(0, render.Box{W: side, H: side}, o.Pens)
		list.Items[len(list.Items)-1].Ink = layer(o.Colour)
	}
	layers := render.NewLayers(planes, side, side)
	layers.Draw(&list)
	if len(s.drawn) >= mostDrawn {
		clear(s.drawn)
	}
	if s.drawn == nil {
		s.drawn = map[string]render.Layers{}
	}
	s.drawn[key] = layers
	return layers, nil
}

// An Outline is a part of a symbol, which covers those before it.
type Outline struct {
	Colour stock.Ink
	Pens   []render.Pen
}

// Outlines returns what the symbol is drawn of in a frame of side × side dots.
func (s *Symbol) Outlines(side int, frame bool) ([]Outline, error) {
	shapes, err := s.take()
	return s.outlines(shapes, side, frame), err
}

func (s *Symbol) outlines(shapes []shape, side int, frame bool) (made []Outline) {
	for i, shape := range shapes {
		if !frame && i < s.Frame {
			continue
		}
		var pens []render.Pen
		for _, ring := range shape.rings {
			var last [2]float64
			for n, p := range ring {
				x, y := p[0]*float64(side), p[1]*float64(side)
				op := render.LineTo
				if n == 0 {
					op = render.MoveTo
				} else if math.Hypot(x-last[0], y-last[1]) < step {
					continue
				}
				last = [2]float64{x, y}
				pens = append(pens, render.Pen{Op: op, Points: [6]float64{x, y}})
			}
		}
		made = append(made, Outline{shape.colour, pens})
	}
	return made
}

// Picture draws the symbol in its own colours, side × side dots, as a PNG.
func (s *Symbol) Picture(w io.Writer, side int) error {
	used, err := s.Colours(true)
	if err != nil {
		return err
	}
	layers, err := s.Layers(side, len(used), true, func(colour stock.Ink) int { return slices.Index(used, colour) })
	if err != nil {
		return err
	}
	palette := render.Palette{Face: "#FFFFFF"}
	for _, colour := range used {
		palette.Inks = append(palette.Inks, stock.Stock{}.InkColour(colour))
	}
	return render.WritePNG(w, layers, palette, measure.DotsPerMillimetre(12))
}

// SVG returns the drawing as its file has it.
func (s *Symbol) SVG() []byte { return bytes.Clone(s.drawing) }

// Field returns the ink that a field of a colour is filled with, as Shown does for a colour of a symbol: nothing where
// the face has that colour, black included.
func Field(colour stock.Ink, can []stock.Ink, face string) (ink stock.Ink, meant bool) {
	if stock.LooksLike(face, colour) {
		return "", true
	}
	return Shown(colour, can, face)
}

// Shown returns the ink in which a colour of a symbol is shown where only some inks are there: itself, or nothing where
// the face has that colour, or, in one colour, the darkest for red, blue, green and black, and nothing for white,
// yellow and orange, so that what stands on them can be read (ISO 3864-1, 5: safety colours come with contrast
// colours). The second result tells whether it is the colour that was meant.
func Shown(colour stock.Ink, can []stock.Ink, face string) (ink stock.Ink, meant bool) {
	switch {
	case colour != stock.Black && stock.LooksLike(face, colour): // black is what a symbol shows by, whatever it lies on
		return "", true
	case colour == stock.White:
		if stock.Can(stock.White, can) && !slices.Contains(can, stock.Full) {
			return stock.White, true
		}
		return "", false
	case stock.Can(colour, can):
		return colour, true
	case colour == "yellow" || colour == "orange":
		return "", false
	}
	ink, some := stock.NearestInk(stock.Black, can)
	if !some {
		ink = stock.Black
	}
	return ink, false
}
