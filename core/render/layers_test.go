package render_test

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/render"
)

// noise is a plane of random dots.
func noise(w, h int, seed uint64) *render.Plane {
	random := rand.New(rand.NewPCG(seed, 1))
	p := render.NewPlane(w, h)
	for y := range h {
		for x := range w {
			if random.IntN(3) == 0 {
				p.Dot(x, y)
			}
		}
	}
	return p
}

func TestTurnedPlanesTurnBack(t *testing.T) {
	p := noise(131, 70, 1)
	for _, turn := range []measure.Turn{0, 90, 180, 270} {
		turned := p.Turned(turn)
		for range 50 {
			x, y := rand.IntN(131), rand.IntN(70)
			tx, ty, _, _ := turn.Box(x, y, 1, 1, 131, 70)
			require.Equal(t, p.Set(x, y), turned.Set(tx, ty), "dot %d, %d turned %d", x, y, turn)
		}
		require.Equal(t, p.Bits, turned.Turned(measure.Turn(0).Plus(-turn)).Bits)
	}
}

func TestShiftedLayersLoseWhatLeavesThem(t *testing.T) {
	p := noise(200, 90, 2)
	for _, by := range [][2]int{{0, 0}, {5, 3}, {-5, -3}, {64, 0}, {-64, 7}, {-130, -80}, {199, 89}} {
		moved := render.Layers{p}.Shifted(by[0], by[1])[0]
		for y := range 90 {
			for x := range 200 {
				if p.Set(x-by[0], y-by[1]) != moved.Set(x, y) {
					t.Fatalf("moved by %v: dot %d, %d", by, x, y)
				}
			}
		}
	}
}

func TestPlanesCanBeTakenApart(t *testing.T) {
	a, b := noise(100, 20, 3), noise(100, 20, 4)
	both := render.NewPlane(100, 20)
	both.Or(a)
	both.Or(b)
	both.Without(b)
	for y := range 20 {
		for x := range 100 {
			require.Equal(t, a.Set(x, y) && !b.Set(x, y), both.Set(x, y))
		}
	}
	both.Resize(130, 10)
	require.True(t, both.Blank(render.Box{W: 130, H: 10}))
	both.Dot(129, 9)
	both.Resize(1000, 1000)
	require.True(t, both.Blank(render.Box{W: 1000, H: 1000}))
}

func TestPNGHasTheColoursOfItsInks(t *testing.T) {
	face := "#F7C600"
	for inks := 1; inks <= 17; inks++ {
		layers := render.NewLayers(inks, 40, 3)
		palette := render.Palette{Face: face}
		for i := range inks {
			layers[i].Dot(2*i, 1)
			palette.Inks = append(palette.Inks, []string{"#C8102E", "#000000", "#1D5FA8"}[i%3])
		}
		var file bytes.Buffer
		require.NoError(t, render.WritePNG(&file, layers, palette, eight))
		picture, err := png.Decode(&file)
		require.NoError(t, err)
		require.Equal(t, image.Rect(0, 0, 40, 3), picture.Bounds())
		for x := range 40 {
			want := render.RGB(face)
			if x%2 == 0 && x/2 < inks {
				want = render.RGB(palette.Inks[x/2])
			}
			require.Equal(t, color.RGBA{want[0], want[1], want[2], 255}, color.RGBAModel.Convert(picture.At(x, 1)),
				"%d inks, dot %d", inks, x)
		}
	}
}

func TestVectorsHaveTheColoursOfTheirInks(t *testing.T) {
	var l render.List
	l.Reset(80, 40)
	l.Fill(0, render.Box{X: 5, Y: 5, W: 20, H: 10})
	l.Items[0].Ink = 1
	l.Fill(0, render.Box{X: 30, Y: 5, W: 20, H: 10})
	var file bytes.Buffer
	require.NoError(t, render.WriteSVG(&file, &l, render.Palette{Face: "#F7C600", Inks: []string{"#000000", "#C8102E"}},
		eight))
	require.Contains(t, file.String(), `fill="#F7C600"`)
	require.Contains(t, file.String(), `<path fill="#C8102E" d="M5 5h20v10h-20z"/>`)
	require.Contains(t, file.String(), `<path d="M30 5h20v10h-20z"/>`)
}

func TestListsAreAddedAndRepeatedWhereTheyBelong(t *testing.T) {
	var one, page render.List
	one.Reset(20, 10)
	one.Fill(0, render.Box{X: 1, Y: 1, W: 3, H: 2})
	one.Repeat(2, 10, 0)
	require.Len(t, one.Items, 2)
	page.Reset(60, 30)
	page.Add(&one, 20, 10)
	require.Equal(t, []render.Box{{X: 21, Y: 11, W: 3, H: 2}, {X: 31, Y: 11, W: 3, H: 2}},
		[]render.Box{page.Items[0].Box, page.Items[1].Box})
}

func BenchmarkTurned(b *testing.B) {
	p := drawn(sample(b, 608, 304))
	for b.Loop() {
		p.Turned(90)
	}
}
