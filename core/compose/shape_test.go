package compose_test

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/picture"
	"oddspool/core/render"
	"oddspool/core/stock"
)

func shape(kind design.Kind, x, y, w, h int, looks design.Shape) design.Element {
	const dot = mm / 8
	return design.Element{ID: "shape", Kind: kind, X: dot * measure.Length(x), Y: dot * measure.Length(y),
		Width: dot * measure.Length(w), Height: dot * measure.Length(h), Weight: 4 * dot, Shape: &looks}
}

func plane(t *testing.T, elements ...design.Element) *render.Plane {
	c, err := compose.New(label(elements...), nil)
	require.NoError(t, err)
	_, layers := compose.NewArtwork(c).Draw(nil)
	return layers[0]
}

func dark(p *render.Plane) (n int) {
	for y := range p.Height {
		p.EachDot(y, func(int) { n++ })
	}
	return n
}

// An oval covers π/4 of its box, a rounded box what its corners leave, and an outline is as thick as it says: checked
// by area.
func TestShapesCoverWhatGeometrySays(t *testing.T) {
	const pi = 3.14159265
	for name, test := range map[string]struct {
		element design.Element
		want    float64
	}{
		"oval, filled": {shape(design.Oval, 10, 10, 200, 100, design.Shape{Fill: "black", NoOutline: true}),
			pi / 4 * 200 * 100},
		"circle, outline": {shape(design.Oval, 10, 10, 120, 120, design.Shape{}), pi * (60*60 - 56*56)},
		"rounded box, filled": {shape(design.Box, 10, 10, 200, 100, design.Shape{Fill: "black", NoOutline: true,
			Corner: 3 * mm}), 200*100 - (4-pi)*24*24},
		"box, filled": {shape(design.Box, 10, 10, 200, 100, design.Shape{Fill: "black", NoOutline: true}),
			200 * 100},
		"box, outline": {shape(design.Box, 10, 10, 200, 100, design.Shape{}), 200*100 - 192*92},
		"rounded box, outline": {shape(design.Box, 10, 10, 200, 100, design.Shape{Corner: 3 * mm}),
			200*100 - (4-pi)*24*24 - (192*92 - (4-pi)*20*20)},
		"line, down, 3-4-5": {shape(design.Line, 10, 10, 200, 150, design.Shape{Slope: design.Down}),
			4*250 - 2*(4*4/2)*0.96},
		"oval, larger corners": {shape(design.Box, 10, 10, 60, 40, design.Shape{Corner: 30 * mm, Fill: "black",
			NoOutline: true}), pi / 4 * 60 * 40},
		"outline within itself": {shape(design.Box, 10, 10, 5, 5, design.Shape{}), 25},
	} {
		got := float64(dark(plane(t, test.element)))
		require.InDelta(t, test.want, got, 4+test.want*0.015, name)
	}
}

// Slopes mirror one another, and shapes stay within their boxes.
func TestShapesStayInTheirBoxes(t *testing.T) {
	down := plane(t, shape(design.Line, 20, 20, 100, 60, design.Shape{Slope: design.Down}))
	up := plane(t, shape(design.Line, 20, 20, 100, 60, design.Shape{Slope: design.Up}))
	require.True(t, down.Set(21, 20))
	require.False(t, up.Set(21, 20))
	require.True(t, up.Set(21, 79))
	for _, p := range []*render.Plane{down, up, plane(t, shape(design.Oval, 20, 20, 100, 60, design.Shape{}))} {
		for y := range p.Height {
			p.EachDot(y, func(x int) { require.True(t, x >= 20 && x < 120 && y >= 20 && y < 80, "%d,%d", x, y) })
		}
	}
}

// Words that lay the face bare are white out of a filled box, on one ink and on several, in the order of the list.
func TestWordsAreBareOutOfAFilledBox(t *testing.T) {
	box := shape(design.Box, 0, 0, 300, 80, design.Shape{Fill: "black", NoOutline: true})
	words := text("words", 0, 0, 37*mm, 10*mm, design.Piece{Text: "BRINE"})
	words.Ink = design.Bare
	filled, reversed := dark(plane(t, box)), dark(plane(t, box, words))
	inked := words
	inked.Ink = ""
	require.Equal(t, filled-dark(plane(t, inked)), reversed, "what the words take away is what they would have set")
	require.Equal(t, filled, dark(plane(t, words, box)), "what lies over them covers them")

	d := label(box, words)
	d.Printer.Inks = []stock.Ink{stock.Black, stock.Red}
	d.Elements[0].Shape.Fill = stock.Red
	c, err := compose.New(d, nil)
	require.NoError(t, err)
	_, layers := compose.NewArtwork(c).Draw(nil)
	sum := 0
	for _, p := range layers {
		sum += dark(p)
	}
	require.Equal(t, reversed, sum)
}

// A picture stands in its box as its dots are, turned with it.
func TestPicturesStandInTheirBoxes(t *testing.T) {
	made := image.NewGray(image.Rect(0, 0, 40, 20))
	for i := range made.Pix {
		made.Pix[i] = uint8(i % 40 * 6)
	}
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, made))
	hash := picture.Hash(file.Bytes())
	element := shape("picture", 16, 8, 80, 40, design.Shape{})
	element.Shape, element.Picture = nil, &design.PictureLooks{Hash: hash, Way: picture.Diffused}
	_, err := compose.New(label(element), nil)
	require.Equal(t, &picture.AbsentError{Hash: hash}, err)
	require.NoError(t, picture.Register(hash, file.Bytes()))
	read, err := picture.Find(hash)
	require.NoError(t, err)
	upright := read.Dots(80, 40, picture.Diffused, 0, false)
	require.Equal(t, upright.Bits, plane(t, element).Cut(render.Box{X: 16, Y: 8, W: 80, H: 40}).Bits)
	element.Turn, element.Width, element.Height = 90, element.Height, element.Width
	require.Equal(t, upright.Turned(90).Bits, plane(t, element).Cut(render.Box{X: 16, Y: 8, W: 40, H: 80}).Bits)
}

// A drawing covers what lies under it where it is light; a picture that is opaque all over lets that through, as a
// stamp does.
func TestADrawingCoversWhatLiesUnderIt(t *testing.T) {
	at := func(op render.PenOp, x, y float64) render.Pen { return render.Pen{Op: op, Points: [6]float64{x, y}} }
	white := picture.Shape{Colour: color.RGBA{255, 255, 255, 255}, Pens: []render.Pen{at(render.MoveTo, 0, 0),
		at(render.LineTo, 5000, 0), at(render.LineTo, 5000, 5000), at(render.LineTo, 0, 5000)}}
	file := picture.WriteDrawing(10_000, 5_000, []picture.Shape{white})
	hash := picture.Hash(file)
	require.NoError(t, picture.Register(hash, file))
	under := shape("box", 0, 0, 100, 60, design.Shape{Fill: "black"})
	over := shape("picture", 16, 8, 80, 40, design.Shape{})
	over.ID, over.Shape, over.Picture = "over", nil, &design.PictureLooks{Hash: hash}
	p := plane(t, under, over)
	require.False(t, p.Set(20, 20))
	require.True(t, p.Set(60, 20))
	require.True(t, p.Set(10, 20))

	// What changes from label to label and stands on it is not hidden, and what stands under it is.
	words := shape("text", 20, 12, 30, 30, design.Shape{})
	words.ID = "words"
	words.Shape, words.Text, words.Says = nil, &design.TextLooks{Typeface: "Liberation Sans", Points: 8},
		[]design.Piece{{Field: "bin"}}
	area := render.Box{X: 20, Y: 12, W: 30, H: 30}
	for _, test := range []struct {
		elements []design.Element
		blank    bool
	}{{[]design.Element{over, words}, false}, {[]design.Element{words, over}, true}} {
		c, err := compose.New(label(test.elements...), []string{"bin"})
		require.NoError(t, err)
		var l compose.Label
		c.Compose(&l, []string{"N1"})
		drawn := render.NewPlane(l.List.Width, l.List.Height)
		drawn.Draw(&l.List)
		require.Equal(t, test.blank, drawn.Blank(area))
		_, layers := compose.NewArtwork(c).Draw([]string{"N1"})
		require.Equal(t, test.blank, layers[0].Blank(area))
	}
	over.Ink = design.Bare
	require.True(t, plane(t, under, over).Set(20, 20), "laid bare itself, it hides nothing")
	over.Ink = ""

	made := image.NewGray(image.Rect(0, 0, 10, 5))
	for i := range made.Pix {
		made.Pix[i] = 255
	}
	var dots bytes.Buffer
	require.NoError(t, png.Encode(&dots, made))
	over.Picture.Hash = picture.Hash(dots.Bytes())
	require.NoError(t, picture.Register(over.Picture.Hash, dots.Bytes()))
	require.True(t, plane(t, under, over).Set(20, 20))
}

// Words stand on their baselines: capitals end right above them, in every line; those of turned words are not told.
func TestWordsStandOnTheirBaselines(t *testing.T) {
	for _, points := range []float64{7, 12, 24} {
		element := shape("text", 16, 24, 200, 160, design.Shape{})
		element.Shape, element.Says = nil, []design.Piece{{Text: "HEH\nHEH"}}
		element.Text = &design.TextLooks{Typeface: "Liberation Sans", Points: points}
		c, err := compose.New(label(element), nil)
		require.NoError(t, err)
		made, layers := compose.NewArtwork(c).Draw(nil)
		stands := made.Parts[0].Baselines
		require.Len(t, stands, 2)
		for _, at := range stands {
			require.False(t, layers[0].Blank(render.Box{X: 16, Y: at - 1, W: 200, H: 1}), "%v points", points)
			require.True(t, layers[0].Blank(render.Box{X: 16, Y: at, W: 200, H: 1}), "%v points", points)
		}
		element.Turn = 90
		c, err = compose.New(label(element), nil)
		require.NoError(t, err)
		made, _ = compose.NewArtwork(c).Draw(nil)
		require.Empty(t, made.Parts[0].Baselines)
	}
}
