package compose_test

import (
	"bytes"
	"fmt"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/safety/symbols"
	"oddspool/core/stock"
)

func symbolAt(id string, x, y, w, h measure.Length) design.Element {
	return design.Element{ID: "sign", Kind: design.Symbol, X: x, Y: y, Width: w, Height: h,
		Symbol: &design.SymbolLooks{ID: id}}
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
	alone, over := plane(t, symbolAt("W001", 10*mm, 5*mm, 20*mm, 20*mm)),
		plane(t, ground, symbolAt("W001", 10*mm, 5*mm, 20*mm, 20*mm))
	inside := [2]int{10*8 + 80, 5*8 + 45} // in the triangle, above its mark
	require.False(t, alone.Set(inside[0], inside[1]))
	require.False(t, over.Set(inside[0], inside[1]), "yellow is laid bare in the black ground")
	require.True(t, over.Set(45, 25))
}

// elsewhere returns how many dots another program sees otherwise in the SVG and in the PDF of a label, and how many
// dots are dark.
func elsewhere(t *testing.T, elements ...design.Element) (svg, pdf, black int) {
	c, err := compose.New(label(elements...), nil)
	require.NoError(t, err)
	made, layers := compose.NewArtwork(c).Draw(nil)
	eight := measure.DotsPerMillimetre(8)
	base := filepath.Join(t.TempDir(), "label")
	var file bytes.Buffer
	require.NoError(t, render.WriteSVG(&file, &made.List, render.BlackOnWhite, eight))
	require.NoError(t, os.WriteFile(base+".svg", file.Bytes(), 0o600))
	file.Reset()
	document := render.NewPDF(&file, "label")
	pages, err := document.Pages(render.BlackOnWhite, eight, nil)
	require.NoError(t, err)
	require.NoError(t, pages.Add(&made.List))
	require.NoError(t, document.Close())
	require.NoError(t, os.WriteFile(base+".pdf", file.Bytes(), 0o600))
	differ := func(name string, arguments ...string) (n int) {
		data, err := exec.Command(name, arguments...).Output()
		require.NoError(t, err)
		seen, err := png.Decode(bytes.NewReader(data))
		require.NoError(t, err)
		for y := range layers[0].Height {
			for x := range layers[0].Width {
				r, _, _, _ := seen.At(x, y).RGBA()
				if layers[0].Set(x, y) != (r < 0x8000) {
					n++
				}
			}
		}
		return n
	}
	svg = differ("rsvg-convert", "-b", "white", "-w", strconv.Itoa(made.List.Width), "-h",
		strconv.Itoa(made.List.Height), base+".svg")
	pdf = differ("pdftoppm", "-png", "-gray", "-aa", "no", "-aaVector", "no", "-r", fmt.Sprint(eight.PerInch()),
		base+".pdf")
	return svg, pdf, dark(layers[0])
}

// A symbol is lines in a file, which others round at their edges in their own way, and lays bare what it covers; one
// that meets others and covers nothing has the very dots that print.
func TestSymbolsInFilesLookAsTheyPrint(t *testing.T) {
	sign := symbolAt("W001", 10*mm, 5*mm, 20*mm, 20*mm)
	ground := shape(design.Box, 40, 20, 320, 320, design.Shape{Fill: "black", NoOutline: true})
	bar := shape(design.Box, 60, 150, 260, 12, design.Shape{Fill: "black", NoOutline: true})
	const edges = 700 // dots: the symbol's outlines are some 1,500 dots long
	for _, test := range []struct {
		name     string
		elements []design.Element
		most     int
	}{{"alone", []design.Element{sign}, edges}, {"over a box", []design.Element{ground, sign}, edges},
		{"under a bar", []design.Element{sign, bar}, 0}, {"between", []design.Element{ground, sign, bar}, edges}} {
		svg, pdf, black := elsewhere(t, test.elements...)
		require.Greater(t, black, 3000, test.name)
		require.LessOrEqual(t, svg, test.most, test.name)
		require.LessOrEqual(t, pdf, test.most, test.name)
	}
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

// A symbol that its record names differs from label to label, in the inks that were made ready for its like; composers
// of one design draw it side by side.
func TestSymbolsOfRecords(t *testing.T) {
	e := symbolAt("GHS02", 10*mm, 5*mm, 20*mm, 20*mm)
	e.Says, e.IfEmpty = []design.Piece{{Field: "pictogram"}}, design.LeaveOut
	d := label(e)
	d.Printer.Inks = []stock.Ink{stock.Black, stock.Red}
	c, err := compose.New(d, []string{"pictogram"})
	require.NoError(t, err)
	require.ElementsMatch(t, []stock.Ink{stock.Black, stock.Red}, c.Inks())
	drawn := map[string][2]int{}
	count := func(layers render.Layers) [2]int { return [2]int{dark(layers[0]), dark(layers[1])} }
	artwork := compose.NewArtwork(c)
	for _, id := range []string{"GHS02", "GHS06", "W012", "AR1", "", "nosuch"} {
		made, layers := artwork.Draw([]string{id})
		drawn[id] = count(layers)
		require.Equal(t, id == "", made.Parts[0].Absent, id)
		require.Equal(t, id, made.Parts[0].Says)
	}
	require.NotEqual(t, drawn["GHS02"], drawn["GHS06"])
	require.Equal(t, [2]int{}, drawn[""], "a record without one has none")
	require.Equal(t, [2]int{}, drawn["nosuch"], "and one that the library lacks is a finding")
	require.NotEqual(t, [2]int{}, drawn["W012"])

	var group sync.WaitGroup
	for range 4 {
		clone := c.Clone()
		group.Go(func() {
			artwork := compose.NewArtwork(clone)
			for range 20 {
				for id, want := range drawn {
					if _, layers := artwork.Draw([]string{id}); count(layers) != want {
						t.Errorf("%q is drawn otherwise beside others", id)
					}
				}
			}
		})
	}
	group.Wait()
}

// An element that must say its symbol and does not is empty, as a text is.
func TestSymbolsThatRecordsOwe(t *testing.T) {
	e := symbolAt("GHS02", 10*mm, 5*mm, 20*mm, 20*mm)
	e.Says = []design.Piece{{Field: "pictogram"}}
	c, err := compose.New(label(e), []string{"pictogram"})
	require.NoError(t, err)
	var l compose.Label
	c.Compose(&l, []string{""})
	require.True(t, l.Parts[0].Empty || l.Parts[0].Blank != "", "%+v", l.Parts[0])
	c.Compose(&l, []string{"GHS05"})
	require.False(t, l.Parts[0].Empty || l.Parts[0].Blank != "")
	lacking, err := compose.New(label(e), []string{"other"})
	require.NoError(t, err)
	lacking.Compose(&l, []string{"x"})
	require.Equal(t, "pictogram", l.Parts[0].Lacks)
}

// What a symbol of one's own lacks is asked for, not left out.
func TestSymbolsThatAreNotHereYet(t *testing.T) {
	_, err := compose.New(label(symbolAt("own-0123456789ab", 10*mm, 5*mm, 20*mm, 20*mm)), nil)
	require.IsType(t, &symbols.AbsentError{}, err)
	symbols.TakeAbsent()
}

func BenchmarkSymbol(b *testing.B) {
	d := label(symbolAt("GHS05", 10*mm, 5*mm, 20*mm, 20*mm))
	for b.Loop() {
		if _, err := compose.New(d, nil); err != nil {
			b.Fatal(err)
		}
	}
}
