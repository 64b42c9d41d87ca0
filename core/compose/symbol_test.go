package compose_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
)

func symbolAt(id string, x, y, w, h measure.Length) design.Element {
	return design.Element{ID: "sign", Kind: design.Symbol, X: x, Y: y, Width: w, Height: h, Symbol: &design.SymbolLooks{ID: id}}
}

func TestSymbolsAreDrawnInTheInksThereAre(t *testing.T) {
	d := label(symbolAt("GHS02", 10*mm, 5*mm, 40*mm, 20*mm))
	d.Printer.Inks = []stock.Ink{stock.Black, stock.Red}
	c, err := compose.New(d, nil)
	require.NoError(t, err)
	require.ElementsMatch(t, []stock.Ink{stock.Black, stock.Red}, c.Inks())
	made, layers := compose.NewArtwork(c).Draw(nil)
	red, black := layers[0], layers[1]
	if c.Inks()[0] == stock.Black {
		red, black = black, red
	}
	require.True(t, red.Set(20*8+8, 15*8), "the frame, 160 dots large and in the middle of its box")
	require.False(t, black.Set(20*8+8, 15*8))
	require.False(t, black.Blank(made.Parts[0].Real), "and the flame")
	require.Equal(t, 160, made.Parts[0].Real.W)
	require.Equal(t, 20*8, made.Parts[0].Real.X)

	one := plane(t, symbolAt("GHS02", 10*mm, 5*mm, 20*mm, 20*mm))
	require.True(t, one.Set(10*8+8, 15*8), "black stands for red")
	framed := symbolAt("GHS02", 10*mm, 5*mm, 20*mm, 20*mm)
	framed.Symbol.NoFrame = true
	require.False(t, plane(t, framed).Set(10*8+8, 15*8), "the frame is on the stock already")
	require.Greater(t, dark(plane(t, framed)), 500)
}

func TestSymbolsLayBareWhatLiesUnderThem(t *testing.T) {
	ground := shape(design.Box, 40, 20, 320, 320, design.Shape{Fill: "black", NoOutline: true})
	alone, over := plane(t, symbolAt("W001", 10*mm, 5*mm, 20*mm, 20*mm)), plane(t, ground, symbolAt("W001", 10*mm, 5*mm, 20*mm, 20*mm))
	inside := [2]int{10*8 + 80, 5*8 + 45} // in the triangle, above its mark
	require.False(t, alone.Set(inside[0], inside[1]))
	require.False(t, over.Set(inside[0], inside[1]), "yellow is laid bare in the black ground")
	require.True(t, over.Set(45, 25))
}

func TestArrowsTakeAnyInkAndTurn(t *testing.T) {
	arrow := symbolAt("AR1", 10*mm, 5*mm, 20*mm, 20*mm)
	arrow.Ink, arrow.Turn = stock.Red, 90
	d := label(arrow)
	d.Printer.Inks = []stock.Ink{stock.Red}
	c, err := compose.New(d, nil)
	require.NoError(t, err)
	require.Equal(t, []stock.Ink{stock.Red}, c.Inks())
	_, layers := compose.NewArtwork(c).Draw(nil)
	require.True(t, layers[0].Set(20*8, 5*8+150), "it points down")
	require.False(t, layers[0].Set(10*8+4, 15*8))
}

func TestSymbolsThatAreNotThereDrawNothing(t *testing.T) {
	require.Zero(t, dark(plane(t, symbolAt("W999", 10*mm, 5*mm, 20*mm, 20*mm))))
	when := symbolAt("W001", 10*mm, 5*mm, 20*mm, 20*mm)
	when.When = &design.Condition{Field: "kind", Is: design.OneOf, Values: []string{"hot"}}
	c, err := compose.New(label(when), []string{"kind"})
	require.NoError(t, err)
	_, layers := compose.NewArtwork(c).Draw([]string{"cold"})
	require.Zero(t, dark(layers[0]))
	_, layers = compose.NewArtwork(c).Draw([]string{"hot"})
	require.NotZero(t, dark(layers[0]))
}

func BenchmarkSymbol(b *testing.B) {
	d := label(symbolAt("GHS05", 10*mm, 5*mm, 20*mm, 20*mm))
	for b.Loop() {
		if _, err := compose.New(d, nil); err != nil {
			b.Fatal(err)
		}
	}
}
