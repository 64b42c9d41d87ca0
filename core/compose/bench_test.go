package compose_test

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/picture"
	"oddspool/core/stock"
)

// From record to packed plane: 100 × 50 mm at 8 dots/mm, a Code 128, a QR Code, four lines of text, a logo of 20 mm and
// a frame, of which two texts and both codes change.
func BenchmarkLabelWithLogo(b *testing.B) {
	logo := image.NewGray(image.Rect(0, 0, 300, 300))
	for y := range 300 {
		for x := range 300 {
			logo.Set(x, y, color.Gray{Y: uint8((x*x + y*y) >> 8)})
		}
	}
	var file bytes.Buffer
	require.NoError(b, png.Encode(&file, logo))
	hash := picture.Hash(file.Bytes())
	require.NoError(b, picture.Register(hash, file.Bytes()))
	code := func(id, symbology string, x, y, w, h int) design.Element {
		e := text(id, 0, 0, mm, mm, design.Piece{Field: "code"})
		e.Kind, e.Text = design.Code, nil
		e.Code = &design.CodeLooks{Symbology: symbology, Module: 375, Points: 8}
		e.X, e.Y, e.Width, e.Height = measure.Length(x)*mm, measure.Length(y)*mm, measure.Length(w)*mm,
			measure.Length(h)*mm
		return e
	}
	d := label(
		design.Element{ID: "frame", Kind: design.Box, X: mm, Y: mm, Width: 98 * mm, Height: 48 * mm, Weight: mm / 2},
		design.Element{ID: "logo", Kind: design.Picture, X: 3 * mm, Y: 3 * mm, Width: 20 * mm, Height: 20 * mm,
			Picture: &design.PictureLooks{Hash: hash, Way: picture.Diffused}},
		text("plant", 26*mm, 3*mm, 45*mm, 5*mm, design.Piece{Text: "Brinewick Kelp Works"}),
		text("contents", 26*mm, 9*mm, 45*mm, 5*mm, design.Piece{Field: "contents"}),
		text("lot", 26*mm, 15*mm, 45*mm, 5*mm, design.Piece{Text: "Lot "}, design.Piece{Field: "code"}),
		text("dry", 26*mm, 21*mm, 45*mm, 5*mm, design.Piece{Text: "Keep dry"}),
		code("qr", "qr", 75, 3, 22, 22), code("bars", "code128", 5, 28, 90, 18),
	)
	d.Stock = stock.Stock{Name: "100 × 50", Kind: stock.DieCut, Shape: stock.Rectangle, Width: 100 * mm,
		Length: 50 * mm, Gap: 3 * mm}
	c, err := compose.New(d, []string{"contents", "code"})
	require.NoError(b, err)
	press := compose.NewPress(c)
	layers := press.NewLayers()
	records := make([][]string, 1000)
	for i := range records {
		records[i] = []string{"Sugar kelp, flaked " + strconv.Itoa(i%7), "952N" + strconv.Itoa(100_000+i)}
	}
	b.ResetTimer()
	for i := range b.N {
		press.Label(layers, records[i%len(records)])
	}
}
