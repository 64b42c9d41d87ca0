package picture_test

import (
	"fmt"
	"image/color"
	"strings"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/picture"
	"oddspool/core/render"
)

func square(x, y, side float64, grey uint8) picture.Shape {
	at := func(op render.PenOp, x, y float64) render.Pen { return render.Pen{Op: op, Points: [6]float64{x, y}} }
	return picture.Shape{Colour: color.RGBA{grey, grey, grey, 0xff}, Pens: []render.Pen{at(render.MoveTo, x, y),
		at(render.LineTo, x+side, y), at(render.LineTo, x+side, y+side), at(render.LineTo, x, y+side)}}
}

func read(t *testing.T, file []byte) *picture.Picture {
	p, err := picture.Decode(file)
	require.NoError(t, err)
	return p
}

// A drawing is as fine as what it is drawn on: its edges lie where they are meant, at any size, also when a part of it
// is cut off.
func TestADrawingIsDrawnAtAnySize(t *testing.T) {
	p := read(t, picture.WriteDrawing(10_000, 5_000, []picture.Shape{square(1000, 1000, 3000, 0),
		square(2000, 2000, 1000, 0xff)}))
	require.True(t, p.Drawn())
	require.EqualValues(t, 10_000, p.TrueWidth)
	for _, perMM := range []int{6, 8, 12, 24, 60} {
		dots := p.Dots(10*perMM, 5*perMM, picture.Threshold, 0, false)
		require.Equal(t, 8*perMM*perMM, dark(dots), "%d dots/mm: nine square millimetres but one", perMM)
		require.False(t, dots.Set(perMM-1, perMM))
		require.True(t, dots.Set(perMM, perMM))
		require.False(t, dots.Set(2*perMM, 2*perMM))
	}
	left, top, right, bottom := p.White()
	require.InDeltaSlice(t, []float64{10, 20, 60, 20}, []float64{left, top, right, bottom}, 0.5)
	cut := p.Cropped(left, top, right, bottom)
	require.Equal(t, 120*120*8/9, dark(cut.Dots(120, 120, picture.Threshold, 0, false)))
	require.Equal(t, dark(cut.Dots(120, 120, picture.Threshold, 0, true)),
		dark(p.Cropped(10, 20, 60, 20).Dots(120, 120, picture.Threshold, 0, true)))
}

// What is light in a drawing hides what lies under it, and nothing does where it is not drawn; its shades become
// patterns where that is wanted.
func TestADrawingHidesWhatLiesUnderIt(t *testing.T) {
	file := picture.WriteDrawing(4000, 4000, []picture.Shape{square(0, 0, 2000, 0), square(1000, 1000, 2000, 0xff)})
	on := read(t, file).Printed(40, 40, picture.Threshold, 0, false)
	require.Equal(t, 300, dark(on.Dots))
	require.Equal(t, 400, dark(on.Bare))
	require.Len(t, on.Outlines, 2)
	require.Equal(t, []int{render.OfItem, render.Bare}, []int{on.Outlines[0].Ink, on.Outlines[1].Ink})

	grey := read(t, picture.WriteDrawing(4000, 4000, []picture.Shape{square(0, 0, 4000, 0x80)}))
	for _, way := range []picture.Way{picture.Ordered, picture.Diffused} {
		on = grey.Printed(64, 64, way, 0, false)
		require.Nil(t, on.Outlines, "dots, not lines")
		require.InDelta(t, 64*64/2, dark(on.Dots), 64)
		require.Equal(t, 64*64, dark(on.Dots)+dark(on.Bare))
	}
	require.NotNil(t, read(t, file).Printed(40, 40, picture.Diffused, 0, false).Outlines,
		"black and white have no shades")
	require.Zero(t, dark(grey.Dots(64, 64, picture.Threshold, 1, false)))
	require.Equal(t, 64*64, dark(grey.Dots(64, 64, picture.Threshold, -1, false)))
}

// Of a picture with see-through parts, what is light and opaque hides what lies under it; one that is opaque all over
// lets it through.
func TestSeeThroughPartsLetThrough(t *testing.T) {
	half := read(t, encoded(t, 30, 10, func(x, _ int) color.Color {
		return []color.Color{color.Black, color.White, color.Transparent}[x/10]
	}))
	on := half.Printed(60, 20, picture.Threshold, 0, true)
	require.Equal(t, []int{400, 400}, []int{dark(on.Dots), dark(on.Bare)})
	require.True(t, on.Bare.Set(20, 0))
	require.False(t, on.Bare.Set(40, 0))
	cut := half.Cropped(50, 0, 0, 0).Printed(30, 20, picture.Threshold, 0, true)
	require.Equal(t, []int{0, 200}, []int{dark(cut.Dots), dark(cut.Bare)})
	opaque := read(t, encoded(t, 30, 10,
		func(x, _ int) color.Color { return []color.Color{color.Black, color.White, color.White}[x/10] }))
	require.Nil(t, opaque.Printed(60, 20, picture.Threshold, 0, true).Bare)
}

func TestADrawingThatIsNoneIsRefused(t *testing.T) {
	head := `<svg xmlns="http://www.w3.org/2000/svg" width="4mm" height="4mm" viewBox="0 0 4000 4000">`
	for name, file := range map[string]string{
		"text":         head + `<text>Dulse</text></svg>`,
		"a group":      head + `<g><path fill="#000000" d="M0 0L1 1"/></g></svg>`,
		"no colour":    head + `<path d="M0 0L1 1"/></svg>`,
		"an arc":       head + `<path fill="#000000" d="M0 0A1 1 0 0 0 5 5"/></svg>`,
		"a line first": head + `<path fill="#000000" d="L1 1"/></svg>`,
		"too few":      head + `<path fill="#000000" d="M0 0C1 1 2 2"/></svg>`,
		"no number":    head + `<path fill="#000000" d="M0 NaN"/></svg>`,
		"far away":     head + `<path fill="#000000" d="M0 0L1e300 1"/></svg>`,
		"cut off":      head + `<path fill="#000000" d="M0 0L1`,
		"no size":      `<svg xmlns="http://www.w3.org/2000/svg"></svg>`,
		"huge":         strings.Replace(head, "4000 4000", "9000000 4000", 1) + `</svg>`,
		"too often": head + strings.Repeat(`<path fill="#000000" d="M0 0L4000 0L4000 4000L0 4000"/>`, 101) +
			`</svg>`,
		"too many steps": head + `<path fill="#000000" d="` + strings.Repeat("M0 0", 400_001) + `"/></svg>`,
	} {
		_, err := picture.Decode([]byte(file))
		var told *refusal.Error
		require.ErrorAs(t, err, &told, name)
	}
	blank := read(t, []byte(head+`</svg>`))
	require.Zero(t, dark(blank.Dots(40, 40, picture.Threshold, 0, false)))
}

func ExampleWriteDrawing() {
	fmt.Print(string(picture.WriteDrawing(4000, 2000, []picture.Shape{square(0, 0, 2000, 0x30)})))
	// Output:
	// <svg xmlns="http://www.w3.org/2000/svg" width="4mm" height="2mm" viewBox="0 0 4000 2000">
	// <path fill="#303030" d="M0 0L2000 0L2000 2000L0 2000"/>
	// </svg>
}
