package compose_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/stock"
)

// on returns the design on a stock, turned.
func on(d *design.Design, s stock.Stock, turn measure.Turn, repeat int) *design.Design {
	d.Stock, d.Turn, d.Repeat = s, turn, repeat
	return d
}

func tape() stock.Stock {
	return stock.Stock{Name: "12 mm tape", Kind: stock.Tape, Shape: stock.Rectangle, Width: 12 * mm, Length: 40 * mm,
		Tape: &stock.TapeCut{ByContent: true, Margin: 2 * mm, Least: 10 * mm, Most: 60 * mm}}
}

// drawn returns the layers of a record's label and the label.
func drawn(t *testing.T, d *design.Design, fields, record []string) (render.Layers, *compose.Label, *compose.Press) {
	c, err := compose.New(d, fields)
	require.NoError(t, err)
	press := compose.NewPress(c)
	layers := press.NewLayers()
	return layers, press.Label(layers, record), press
}

func TestPiecesAreAsLongAsTheirContent(t *testing.T) {
	says := design.Piece{Field: "circuit"}
	for _, turn := range []measure.Turn{90, 270} {
		d := on(label(text("a", 2*mm, 3*mm, 5*mm, 6*mm, says)), tape(), turn, 0)
		lengths := map[string]int{}
		for _, circuit := range []string{"", "W", "W-104 pump 3", "W-104 pump 3, north shed, starboard"} {
			layers, l, press := drawn(t, d, []string{"circuit"}, []string{circuit})
			w, h := layers.Size()
			require.Equal(t, 96, w, "as wide as the tape")
			lengths[circuit] = h
			require.Zero(t, l.Parts[0].TooWide, "the piece grows with it")
			if circuit == "" {
				continue
			}
			real := press.OnWeb(l.Parts[0].Real)
			if end := real.Y + real.H + 16; turn == 90 && l.Over == 0 {
				require.Equal(t, max(end, 80), h, "its end and the margin of 2 mm, or the least of 10 mm")
			}
			require.False(t, layers[0].Blank(real))
		}
		require.Equal(t, 80, lengths[""])
		require.Equal(t, 80, lengths["W"])
		require.Greater(t, lengths["W-104 pump 3"], 80)
		require.Equal(t, 480, lengths["W-104 pump 3, north shed, starboard"], "no longer than it may be")
	}
	_, l, _ := drawn(t, on(label(text("a", 2*mm, 3*mm, 5*mm, 6*mm, says)), tape(), 90, 0), []string{"circuit"},
		[]string{"W-104 pump 3, north shed, starboard"})
	require.Positive(t, l.Over)
	require.Equal(t, 0, l.Last)
}

func TestUprightTapeGrowsDownwards(t *testing.T) {
	d := on(label(text("a", mm, mm, 10*mm, 4*mm, design.Piece{Field: "circuit"})), tape(), 0, 0)
	d.Elements[0].Turn = 90 // reads down the tape
	short, _, _ := drawn(t, d, []string{"circuit"}, []string{"W-1"})
	long, _, _ := drawn(t, d, []string{"circuit"}, []string{"W-1 and W-2 together"})
	require.Greater(t, long[0].Height, short[0].Height)
	wrapped := on(label(text("a", mm, mm, 10*mm, 4*mm, design.Piece{Text: "one two three four five six"})), tape(), 90,
		0)
	wrapped.Elements[0].Text.Wrap = true
	l := composed(t, wrapped, nil, nil)
	require.Positive(t, l.Parts[0].TooTall, "what wraps stays in its box")
}

// Every copy of a legend has the same dots.
func TestLegendsAreRepeated(t *testing.T) {
	flag := stock.Stock{Name: "Flag", Kind: stock.Flag, Shape: stock.Rectangle, Width: 20 * mm, Length: 80 * mm,
		Gap: 3 * mm, Flag: &stock.TwoFaces{Round: 20 * mm}}
	wrap := stock.Stock{Name: "Wrap", Kind: stock.Wrap, Shape: stock.Rectangle, Width: 25 * mm, Length: 36 * mm,
		Gap: 80 * mm, Wrap: &stock.Laminate{Tail: 76 * mm}}
	sleeve := stock.Stock{Name: "Sleeve", Kind: stock.Sleeve, Shape: stock.Rectangle, Width: 9 * mm, Length: 50 * mm,
		Gap:    5 * mm,
		Sleeve: &stock.Tubing{Supplied: 6400, Recovered: 3200, Wall: 640, Faces: 2}}
	for _, s := range []stock.Stock{flag, wrap, sleeve} {
		for _, turn := range []measure.Turn{0, 90, 180, 270} {
			d := on(label(text("a", mm, mm, 7*mm, 4*mm, design.Piece{Text: "W"}, design.Piece{Field: "n"})), s, turn,
				s.Usual())
			d.Elements = append(d.Elements, text("fixed", mm, 5*mm, 7*mm, 3*mm, design.Piece{Text: "kelp"}))
			c, err := compose.New(d, []string{"n"})
			require.NoError(t, err)
			press := compose.NewPress(c)
			layers := press.NewLayers()
			label := press.Label(layers, []string{"7"})
			times, dx, dy := c.Copies()
			require.Equal(t, s.Usual(), times)
			w, h := c.Size()
			first := layers[0].Cut(press.OnWeb(render.Box{W: w, H: h}))
			require.False(t, first.Blank(render.Box{W: first.Width, H: first.Height}))
			for n := range times {
				copied := layers[0].Cut(press.OnWeb(render.Box{X: n * dx, Y: n * dy, W: w, H: h}))
				require.Equal(t, first.Bits, copied.Bits, "%s, turned %d, copy %d", s.Name, turn, n)
			}
			require.Equal(t, "W7", label.Parts[0].Says)
		}
	}
}

func TestInksGoToTheirLayersAndCoverOneAnother(t *testing.T) {
	d := label(
		design.Element{ID: "ground", Kind: design.Line, X: 0, Y: 0, Width: 40 * mm, Height: 20 * mm, Ink: stock.Red},
		text("words", 5*mm, 5*mm, 30*mm, 8*mm, design.Piece{Field: "n"}),
	)
	d.Printer.Inks = []stock.Ink{stock.Black, stock.Red}
	c, err := compose.New(d, []string{"n"})
	require.NoError(t, err)
	require.Equal(t, []stock.Ink{stock.Red, stock.Black}, c.Inks())
	require.Equal(t, render.Palette{Face: "#FFFFFF", Inks: []string{"#C8102E", "#000000"}}, c.Palette())
	layers, _, _ := drawn(t, d, []string{"n"}, []string{"stop"})
	require.Len(t, layers, 2)
	both := 0
	for i, word := range layers[0].Bits {
		if word&layers[1].Bits[i] != 0 {
			both++
		}
	}
	require.Zero(t, both, "no dot has two inks")
	all := layers.Flat([]bool{true, true})
	require.True(t, all.SameColumns(render.Box{X: 0, Y: 0, W: 320, H: 160}), "together they fill the ground")
	d.Elements[0], d.Elements[1] = d.Elements[1], d.Elements[0]
	covered, _, _ := drawn(t, d, []string{"n"}, []string{"stop"})
	require.True(t, covered[0].Blank(render.Box{W: 800, H: 400}), "the ground lies over the words")
}

func TestWithoutAnInkTheNearestIsTaken(t *testing.T) {
	d := label(text("a", 0, 0, 30*mm, 6*mm, design.Piece{Text: "kelp"}))
	d.Printer.Inks = []stock.Ink{stock.White}
	c, err := compose.New(d, nil)
	require.NoError(t, err)
	require.Equal(t, []stock.Ink{stock.White}, c.Inks())
	d.Elements = nil
	c, err = compose.New(d, nil)
	require.NoError(t, err)
	require.Equal(t, []stock.Ink{stock.Black}, c.Inks(), "an empty label still has a layer")
}

func TestSheetsAreFilledFromAPlaceOn(t *testing.T) {
	d := label(text("a", mm, mm, 20*mm, 6*mm, design.Piece{Field: "lot"}))
	d.Stock = stock.Stock{Name: "Sheet", Kind: stock.Sheet, Shape: stock.Rectangle, Width: 60 * mm, Length: 30 * mm,
		Sheet: &stock.Page{Width: 140 * mm, Height: 100 * mm, Left: 5 * mm, Top: 5 * mm, Columns: 2, Rows: 3,
			PitchX: 65 * mm, PitchY: 31 * mm}}
	c, err := compose.New(d, []string{"lot"})
	require.NoError(t, err)
	press := compose.NewPress(c)
	page, one := press.NewPage(), press.NewLayers()
	w, h := page.Size()
	require.Equal(t, []int{1120, 800}, []int{w, h})
	press.Page(page, one, [][]string{{"26K104"}, {"26K105"}}, 3)
	for place := range 6 {
		blank := page[0].Blank(press.Place(place))
		require.Equal(t, place != 3 && place != 4, blank, "place %d", place)
	}
	press.Label(one, []string{"26K105"})
	require.Equal(t, one[0].Bits, page[0].Cut(press.Place(4)).Bits)
}
