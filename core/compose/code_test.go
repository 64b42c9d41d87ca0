package compose_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/symbology"
)

// coded returns a composed label of one code that says something, in a box, and its plane.
func coded(t *testing.T, looks design.CodeLooks, w, h measure.Length, says string) (*compose.Part, *render.Plane) {
	e := code("c", 10*mm, 5*mm, w, h, design.Piece{Text: says})
	e.Code = &looks
	if looks.Module == 0 {
		e.Code.Module = 375
	}
	l := composed(t, label(e), nil, nil)
	require.NoError(t, l.Parts[0].CodeError)
	plane := render.NewPlane(l.List.Width, l.List.Height)
	plane.Draw(&l.List)
	return &l.Parts[0], plane
}

func TestModulesBecomeDotsAsAsked(t *testing.T) {
	for _, test := range []struct {
		fit    design.Fit
		module measure.Length
		want   int
	}{
		{design.Nearest, 300, 2}, {design.NotSmaller, 300, 3}, {design.NotSmaller, 375, 3}, {design.Nearest, 20, 1},
		{design.Largest, 250, 6}, // 13 modules and a quiet zone of one on either side, in 12 mm, are 96 dots
	} {
		part, _ := coded(t, design.CodeLooks{Symbology: "datamatrix", Readable: design.None, Fit: test.fit,
			Module: test.module}, 20*mm, 12*mm, "KELP1234")
		require.Equal(t, test.want, part.Module, "%+v", test)
	}
	wide, _ := coded(t, design.CodeLooks{Symbology: "code128", Readable: design.None, Fit: design.Largest}, 60*mm,
		12*mm, "KELP")
	require.LessOrEqual(t, wide.Quiet.W, 480)
	require.Greater(t, wide.Quiet.W+wide.Quiet.W/wide.Module, 480, "a dot more would not fit")
}

func TestMatrixStandsInItsQuietZone(t *testing.T) {
	part, plane := coded(t, design.CodeLooks{Symbology: "qr", Readable: design.None}, 30*mm, 30*mm, "KELP")
	require.Equal(t, render.Box{X: 80, Y: 40, W: 87, H: 87}, part.Quiet, "29 modules of 3 dots")
	require.Equal(t, render.Box{X: 92, Y: 52, W: 63, H: 63}, part.Bars)
	require.True(t, plane.Set(92, 52) && plane.Set(112, 52) && !plane.Set(113, 52), "a finder is seven modules wide")
	for y := range part.Symbol.Matrix.Height {
		for x := range part.Symbol.Matrix.Width {
			module := render.Box{X: 92 + 3*x, Y: 52 + 3*y, W: 3, H: 3}
			require.True(t, plane.All(module, part.Symbol.Matrix.At(x, y)), "module %d, %d", x, y)
		}
	}
	tall, _ := coded(t, design.CodeLooks{Symbology: "pdf417", Readable: design.None}, 60*mm, 30*mm, "KELP 104")
	require.Equal(t, tall.Symbol.Matrix.Height*3*3, tall.Bars.H, "rows are three modules tall")
	flat, _ := coded(t, design.CodeLooks{Symbology: "qr", Readable: design.None}, 30*mm, 5*mm, "KELP")
	require.Equal(t, 87-40, flat.TooTall)
}

// EAN-13 has its figures between the guard bars, which reach five modules further down.
func TestGuardBarsReachIntoTheFigures(t *testing.T) {
	part, plane := coded(t, design.CodeLooks{Symbology: "ean13", Points: 8}, 60*mm, 25*mm, "952123454321")
	below := part.Bars.Y + part.Bars.H
	require.Equal(t, 95*3, part.Bars.W)
	for _, module := range []int{0, 2, 46, 48, 92, 94} {
		x := part.Bars.X + 3*module
		require.True(t, plane.Set(x, below-1) && plane.Set(x, below+14) && !plane.Set(x, below+15),
			"guard bar at module %d", module)
	}
	above, _ := coded(t, design.CodeLooks{Symbology: "ean13", Readable: design.Above}, 60*mm, 25*mm, "952123454321")
	require.Greater(t, above.Bars.Y, 40, "above, the figures stand as one line")
	upca, plane := coded(t, design.CodeLooks{Symbology: "upca"}, 60*mm, 25*mm, "01234500006")
	below = upca.Bars.Y + upca.Bars.H
	long := 0
	for x := upca.Bars.X; x < upca.Bars.X+upca.Bars.W; x++ {
		module := (x - upca.Bars.X) / upca.Module
		figures := module >= 10 && module < 45 || module >= 50 && module < 85
		if !figures && plane.Set(x, below+13) && !plane.Set(x-1, below+13) {
			long++
		}
	}
	require.Equal(t, 10, long, "six guard bars, and the bars of the first and the last figure")
}

func TestITF14HasBearerBars(t *testing.T) {
	part, plane := coded(t, design.CodeLooks{Symbology: "itf14", Readable: design.None, Module: 500}, 80*mm, 25*mm,
		"1540014128876")
	require.Equal(t, 40+8, part.Bars.Y, "two modules of four dots above the bars")
	require.True(t, plane.All(render.Box{X: part.Quiet.X, Y: 40, W: part.Quiet.W, H: 8}, true))
	require.True(t, plane.All(render.Box{X: part.Quiet.X, Y: 40 + 200 - 8, W: part.Quiet.W, H: 8}, true))
	require.True(t, plane.Blank(render.Box{X: part.Quiet.X, Y: part.Bars.Y, W: 40, H: part.Bars.H}),
		"the quiet zone stays light")
}

func TestWideBarsAndNarrowedOnes(t *testing.T) {
	part, plane := coded(t, design.CodeLooks{Symbology: "code39", Readable: design.None,
		Options: symbology.Options{Ratio: 2.5}, Module: 500},
		90*mm, 10*mm, "K1")
	require.Equal(t, 10, part.Symbol.WideDots(4))
	thin, narrowed := coded(t, design.CodeLooks{Symbology: "code39", Readable: design.None,
		Options: symbology.Options{Ratio: 2.5}, Module: 500,
		Narrower: 1}, 90*mm, 10*mm, "K1")
	require.Equal(t, part.Quiet, thin.Quiet, "the symbol keeps its width")
	dark := func(p *render.Plane) (n int) {
		for x := range p.Width {
			if p.Set(x, 60) {
				n++
			}
		}
		return n
	}
	require.Equal(t, (len(part.Symbol.Widths)+1)/2, dark(plane)-dark(narrowed), "each bar lost a dot")
}

func TestOptionsReachTheSymbol(t *testing.T) {
	for _, test := range []struct {
		looks design.CodeLooks
		want  string
	}{
		{design.CodeLooks{Symbology: "code39", Options: symbology.Options{Check: true}}, "KELP."},
		{design.CodeLooks{Symbology: "qr", Options: symbology.Options{Level: "H"}, Readable: design.None}, "KELP"},
		{design.CodeLooks{Symbology: "datamatrix", Options: symbology.Options{Shape: "rectangle"}}, "KELP"},
		{design.CodeLooks{Symbology: string(symbology.Aztec), Options: symbology.Options{Level: "50"}}, "KELP"},
		{design.CodeLooks{Symbology: string(symbology.PDF417), Options: symbology.Options{Columns: 2}}, "KELP"},
	} {
		looks, want := test.looks, test.want
		part, _ := coded(t, looks, 80*mm, 30*mm, "KELP")
		require.Equal(t, want, part.Symbol.Reads)
		require.Equal(t, symbology.ID(looks.Symbology), part.ID)
		require.Equal(t, looks.Check, part.Options.Check)
	}
	part, _ := coded(t, design.CodeLooks{Symbology: "datamatrix", Options: symbology.Options{Shape: "rectangle"}},
		80*mm, 30*mm, "KELP")
	require.NotEqual(t, part.Symbol.Matrix.Width, part.Symbol.Matrix.Height)
}

// Words stand above and below a code, each line in its place, and the bars take what room is left.
func TestCodesHaveLinesAboveAndBelow(t *testing.T) {
	plain, _ := coded(t, design.CodeLooks{Symbology: "code128"}, 80*mm, 30*mm, "KELP")
	looks := design.CodeLooks{Symbology: "code128", Header: []design.Piece{{Text: "Brinewick"}},
		Footer: []design.Piece{{Field: "code"}, {Text: " dry"}}}
	part, plane := coded(t, looks, 80*mm, 30*mm, "KELP")
	line := 30*8 - plain.Bars.H - 4 // of dots, with half a millimetre between
	require.Equal(t, plain.Bars.Y+line+4, part.Bars.Y)
	require.Equal(t, plain.Bars.H-2*line-4, part.Bars.H)
	above := render.Box{X: part.Bars.X, Y: part.Bars.Y - line - 4, W: part.Bars.W, H: line}
	require.False(t, plane.Blank(above), "the header")
	below := render.Box{X: part.Bars.X, Y: part.Bars.Y + part.Bars.H + 4, W: part.Bars.W, H: line}
	require.False(t, plane.Blank(below), "what the bars say")
	below.Y += line
	require.False(t, plane.Blank(below), "the footer")
	require.True(t, plane.Blank(render.Box{X: part.Bars.X, Y: part.Bars.Y - 4, W: part.Bars.W, H: 4}),
		"nothing touches the bars")

	spread, plane := coded(t, design.CodeLooks{Symbology: "code128", Spread: true}, 80*mm, 30*mm, "KELP")
	top := spread.Bars.Y + spread.Bars.H + 4
	for n := range 4 { // each letter within its quarter
		quarter := render.Box{X: spread.Bars.X + spread.Bars.W*n/4, Y: top, W: spread.Bars.W / 4, H: line}
		require.False(t, plane.Blank(quarter))
		quarter.W = 4
		require.True(t, plane.Blank(quarter), "letter %d does not stand at its edge", n)
	}
}

// A line longer than the bars stays in the box; one longer than the box is told.
func TestLongLinesStayInTheBox(t *testing.T) {
	looks := design.CodeLooks{Symbology: "datamatrix", Readable: design.None,
		Header: []design.Piece{{Text: "Sugar kelp"}}}
	part, plane := coded(t, looks, 30*mm, 15*mm, "K")
	require.Zero(t, part.LineOver)
	require.True(t, plane.Blank(render.Box{X: 0, W: part.Box.X, H: plane.Height}), "nothing left of the box")
	part, _ = coded(t, looks, 10*mm, 15*mm, "K")
	require.Positive(t, part.LineOver)
}

// BenchmarkCode encodes a code and draws it into a packed plane of its own size, as for each label of a
// run: bars of 12 mm, modules of two dots.
func BenchmarkCode(b *testing.B) {
	for _, test := range []struct {
		id   symbology.ID
		says string
	}{
		{symbology.Code128, "952N0307B-0417"}, {symbology.QR, "https://brinewick.example/lot/26K104/417"},
		{symbology.DataMatrix, "952N0307B-0417 lot 26K104 2026"},
		{symbology.Aztec, "952N0307B-0417 lot 26K104 2026"}, {symbology.PDF417, "952N0307B-0417 lot 26K104 2026"},
		{symbology.GS1128, "(00)095212345432123453"},
	} {
		b.Run(string(test.id), func(b *testing.B) {
			e := code("c", 0, 0, 50*mm, 12*mm, design.Piece{Field: "code"})
			e.Code = &design.CodeLooks{Symbology: string(test.id), Module: 250, Readable: design.None}
			d := label(e)
			d.Stock.Width, d.Stock.Length = 50*mm, 12*mm
			c, err := compose.New(d, []string{"code"})
			require.NoError(b, err)
			press := compose.NewPress(c)
			plane, record := press.NewLayers(), []string{test.says}
			b.ReportAllocs()
			for b.Loop() {
				press.Label(plane, record)
			}
		})
	}
}

// An add-on is a choice of its own; it may be empty where its field is.
func TestAddOnsAreChosenByThemselves(t *testing.T) {
	element := code("gtin", 0, 0, 60*mm, 25*mm, design.Piece{Field: "gtin"})
	element.Code.Symbology, element.Code.AddOn = "ean13", []design.Piece{{Field: "issue"}}
	for issue, want := range map[string]string{"": "952123454321", "05": "952123454321 05",
		"51299": "952123454321 51299"} {
		part := composed(t, label(element), []string{"gtin", "issue"}, []string{"952123454321", issue}).Parts[0]
		require.NoError(t, part.CodeError)
		require.Equal(t, want, part.Says)
		require.Empty(t, part.Blank)
	}
	element.Code.Symbology = "code128"
	require.Equal(t, "952123454321", composed(t, label(element), []string{"gtin", "issue"},
		[]string{"952123454321", "05"}).Parts[0].Says, "others have none")
}
