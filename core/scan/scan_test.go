package scan_test

import (
	"image"
	"image/color"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/scan"
	"oddspool/core/symbology"
)

// drawn draws a symbol with modules of so many dots, its quiet zones, and a line below it where asked.
func drawn(s *symbology.Symbol, module int, line bool) *image.Gray {
	const tall = 40
	wide, high := s.DotsWithQuiet(module)
	if !s.Is2D() {
		high = tall
	}
	picture := image.NewGray(image.Rect(0, 0, wide+8, high+20))
	for i := range picture.Pix {
		picture.Pix[i] = 255
	}
	set := func(x, y int) { picture.SetGray(4+s.QuietBefore*module+x, 4+s.QuietAbove*module+y, color.Gray{}) }
	at := 0
	for i, width := range s.AppendDots(nil, module, 0) {
		for range int(width) {
			for y := 0; i%2 == 0 && y < tall; y++ {
				set(at, y)
			}
			at++
		}
	}
	for y := range s.Rows() * module {
		for x := range s.Matrix.Width * module {
			if s.Matrix.At(x/module, y/module/max(s.RowHeight, 1)) {
				set(x, y)
			}
		}
	}
	for x := 0; line && x < wide/2; x++ {
		picture.SetGray(10+x, high+14+x%3, color.Gray{})
	}
	return picture
}

func turned(p *image.Gray) *image.Gray {
	t := image.NewGray(image.Rect(0, 0, p.Rect.Dy(), p.Rect.Dx()))
	for y := range p.Rect.Dy() {
		for x := range p.Rect.Dx() {
			t.SetGray(p.Rect.Dy()-1-y, x, p.GrayAt(x, y))
		}
	}
	return t
}

// same are kinds that nothing in the symbol tells apart from another.
var same = map[symbology.ID]symbology.ID{symbology.Code39Full: symbology.Code39,
	symbology.GS1LinkQR: symbology.QR, symbology.GS1LinkDataMatrix: symbology.DataMatrix,
	symbology.Identcode: symbology.Interleaved, symbology.Leitcode: symbology.Interleaved,
	symbology.PZN: symbology.Code39, symbology.Code32: symbology.Code39, symbology.HIBCCode39: symbology.Code39,
	symbology.HIBCCode128: symbology.Code128, symbology.HIBCDataMatrix: symbology.DataMatrix,
	symbology.HIBCQR: symbology.QR, symbology.UPCA: symbology.EAN13,
	symbology.TelepenNumeric: symbology.Telepen, symbology.DataBarStackedLow: symbology.DataBarStacked}

// Every symbology is found in a picture, at any size of module, in any turn, and apart from what stands below it.
func TestEverySymbologyIsFound(t *testing.T) {
	for _, kind := range symbology.All() {
		if kind.ID == symbology.Pharmacode { // its few bars could be another's: a packing line knows what it reads
			continue
		}
		var s symbology.Symbol
		require.NoError(t, s.Encode(kind.ID, kind.Example, symbology.Options{}))
		for _, module := range []int{1, 2, 3, 5} {
			picture := drawn(&s, module, module == 3)
			for turn := range 4 {
				code, ok := scan.Read(picture)
				require.True(t, ok, "%s, modules of %d, turn %d", kind.ID, module, turn)
				want := kind.ID
				if other, is := same[kind.ID]; is {
					want = other
				}
				require.Equal(t, want, code.Kind.ID, "modules of %d, turn %d: %q", module, turn, code.Message.Text)
				if kind.ID != symbology.TelepenNumeric && kind.ID != symbology.UPCA {
					require.True(t, code.Message.Says(s.Reads), "%s: %q", kind.ID, code.Message.Text)
				}
				picture = turned(picture)
			}
		}
	}
}

// Western letters are letters, and function characters are kept.
func TestWhatIsReadIsWhole(t *testing.T) {
	var s symbology.Symbol
	require.NoError(t, s.Encode(symbology.PDF417, "5 °C, Größe 42", symbology.Options{}))
	code, ok := scan.Read(drawn(&s, 2, false))
	require.True(t, ok)
	require.Equal(t, "5 °C, Größe 42", code.Message.Text)
	require.NoError(t, s.Encode(symbology.GS1128, "(10)26K104(21)7", symbology.Options{}))
	code, ok = scan.Read(drawn(&s, 2, false))
	require.True(t, ok)
	require.Equal(t, symbology.GS1128, code.Kind.ID)
	require.True(t, strings.HasPrefix(code.Message.Text, "1026K104\x1d21"), "%q", code.Message.Text)
	require.NoError(t, s.Encode(symbology.Aztec, "104", symbology.Options{Form: "rune"}))
	code, ok = scan.Read(drawn(&s, 2, false))
	require.True(t, ok)
	require.Equal(t, "104", code.Message.Text)
}

// Pictures without a code, and empty ones, have none.
func TestNothingIsFoundInWhatIsNoCode(t *testing.T) {
	for _, size := range []int{0, 1, 7, 50} {
		picture := image.NewGray(image.Rect(0, 0, size, size))
		_, ok := scan.Read(picture)
		require.False(t, ok, size)
		for i := range picture.Pix {
			picture.Pix[i] = byte(i * i * 7)
		}
		_, ok = scan.Read(picture)
		require.False(t, ok, size)
	}
}
