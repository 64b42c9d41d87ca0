package press_test

import (
	"bytes"
	"errors"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/internal/press"
	"oddspool/internal/press/pwg"
)

const mm = measure.Millimetre

// inks is a design of a line in each of the given inks, on stock of a kind.
func inks(printer stock.Printer, s stock.Stock, used ...stock.Ink) *design.Design {
	d := &design.Design{Format: design.Format, Name: "Inks", Stock: s, Printer: printer}
	for i, ink := range used {
		d.Elements = append(d.Elements, design.Element{ID: string(rune('a' + i)), Kind: design.Line, X: mm,
			Y: measure.Length(1+3*i) * mm, Width: 10 * mm, Height: mm, Ink: ink})
	}
	return d
}

func printer(inks ...stock.Ink) stock.Printer {
	return stock.Printer{Name: "Sign bench", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832, Inks: inks}
}

func tag() stock.Stock {
	return stock.Stock{Name: "30 × 20", Kind: stock.DieCut, Shape: stock.Rectangle, Width: 30 * mm, Length: 20 * mm,
		Gap: 3 * mm}
}

// pages writes labels and reads the raster back.
func pages(t *testing.T, l *press.Labels, records [][]string, skip int, setup stock.Setup) (all []*pwg.Page) {
	var out bytes.Buffer
	require.NoError(t, l.Write(&out, records, skip, setup))
	reader := pwg.NewReader(&out)
	for {
		page, err := reader.Next()
		if errors.Is(err, io.EOF) {
			return all
		}
		require.NoError(t, err)
		all = append(all, page)
	}
}

func TestInksGoOutAsThePrinterTakesThem(t *testing.T) {
	for name, test := range map[string]struct {
		has  []stock.Ink
		used []stock.Ink
		want pwg.Type
	}{
		"one": {[]stock.Ink{stock.Black}, []stock.Ink{stock.Black}, pwg.Black},
		"two": {[]stock.Ink{stock.Black, stock.Red}, []stock.Ink{stock.Black, stock.Red},
			pwg.Device(2)},
		"the second of two": {[]stock.Ink{stock.Black, stock.Red}, []stock.Ink{stock.Red}, pwg.Device(2)},
		"three, in another order": {[]stock.Ink{stock.Black, stock.Red, "green"}, []stock.Ink{"green", stock.Black},
			pwg.Device(3)},
		"mixed": {[]stock.Ink{stock.Full}, []stock.Ink{stock.Black, "#12AB34", stock.Red},
			pwg.SRGB},
		"one colour, of mixed ones": {[]stock.Ink{stock.Full}, []stock.Ink{"#12ab34"}, pwg.SRGB},
	} {
		d := inks(printer(test.has...), tag(), test.used...)
		labels, err := press.NewLabels(d, nil)
		require.NoError(t, err)
		require.Equal(t, "image/pwg-raster", labels.Format())
		page := pages(t, labels, [][]string{nil}, 0, stock.Setup{})[0]
		require.Equal(t, test.want, page.Type, name)
		seen := labels.Seen(page, stock.Setup{})
		require.Len(t, seen, len(test.used), name)
		for i := range test.used { // each ink is where its line is, and nowhere else
			for j := range test.used {
				line := render.Box{X: 8, Y: 8 + 24*j, W: 80, H: 8}
				require.Equal(t, i != j, seen[i].Blank(line), "%s: ink %d, line %d", name, i, j)
			}
		}
	}
}

func TestOffsetsMoveTheDotsAndAreTakenBack(t *testing.T) {
	labels, err := press.NewLabels(inks(printer(stock.Black), tag(), stock.Black), nil)
	require.NoError(t, err)
	setup := stock.Setup{Across: 2 * mm, Along: -mm}
	page := pages(t, labels, [][]string{nil}, 0, setup)[0]
	require.False(t, page.Layers[0].Blank(render.Box{X: 24, Y: 0, W: 80, H: 8}), "2 mm to the right and 1 mm up")
	require.True(t, page.Layers[0].Blank(render.Box{X: 0, Y: 8, W: 240, H: 100}))
	require.False(t, labels.Seen(page, setup)[0].Blank(render.Box{X: 8, Y: 8, W: 80, H: 8}))
}

func TestPagesBeginWhereTheSheetIsFree(t *testing.T) {
	s := tag()
	s.Kind, s.Gap = stock.Sheet, 0
	s.Sheet = &stock.Page{Width: 70 * mm, Height: 50 * mm, Left: 2 * mm, Top: 2 * mm, Columns: 2, Rows: 2,
		PitchX: 32 * mm, PitchY: 22 * mm}
	p := printer(stock.Black)
	p.Takes = []stock.Kind{stock.Sheet}
	labels, err := press.NewLabels(inks(p, s, stock.Black), nil)
	require.NoError(t, err)
	all := pages(t, labels, make([][]string, 5), 3, stock.Setup{})
	require.Len(t, all, 2, "one on the first sheet, four on the second")
	for sheet, want := range [][]bool{{false, false, false, true}, {true, true, true, true}} {
		for place, printed := range want {
			label := labels.Label(labels.Seen(all[sheet], stock.Setup{}), place)
			require.Equal(t, !printed, label[0].Blank(render.Box{W: 240, H: 160}), "sheet %d, place %d", sheet, place)
		}
	}
}

// A device that marks with vectors gets PDF, whose pages an independent reader counts and measures.
func TestVectorsGoOutAsPDF(t *testing.T) {
	p := printer()
	p.Vector, p.Takes = true, []stock.Kind{stock.Plate}
	s := tag()
	s.Kind, s.Plate = stock.Plate, &stock.Rigid{Core: "#FFFFFF"}
	labels, err := press.NewLabels(inks(p, s, stock.Black), nil)
	require.NoError(t, err)
	require.Equal(t, "application/pdf", labels.Format())
	file := filepath.Join(t.TempDir(), "plates.pdf")
	var out bytes.Buffer
	require.NoError(t, labels.Write(&out, make([][]string, 3), 0, stock.Setup{Across: mm}))
	require.NoError(t, os.WriteFile(file, out.Bytes(), 0o600))
	info, err := exec.Command("pdfinfo", file).Output()
	require.NoError(t, err)
	require.Regexp(t, `Pages:\s+3\n`, string(info))
	require.Regexp(t, `Page size:\s+85.0\d? x 56.6\d? pts`, string(info))
	require.NotContains(t, out.String(), "1.000 g", "what is marked is black, though it shows white")

	one := func(yield func(press.Page, error) bool) { yield(press.Page{}, nil) }
	var raster bytes.Buffer
	require.NoError(t, press.NewFiles(labels).WriteDocument(&raster, press.PWG, one, 1), "dots can be had of it too")
	_, err = pwg.NewReader(&raster).Next()
	require.NoError(t, err)
}

func TestFullDisksAreSaid(t *testing.T) {
	full, err := os.OpenFile("/dev/full", os.O_WRONLY, 0)
	require.NoError(t, err)
	defer full.Close()
	for _, vector := range []bool{false, true} {
		p := printer(stock.Black)
		p.Vector = vector
		labels, err := press.NewLabels(inks(p, tag(), stock.Black), nil)
		require.NoError(t, err)
		require.Error(t, labels.Write(full, make([][]string, 3000), 0, stock.Setup{}))
	}
}

func TestDesignsThatCannotBeDrawnAreRefused(t *testing.T) {
	d := inks(printer(stock.Black), tag())
	d.Elements = []design.Element{{ID: "a", Kind: design.Code, Width: mm, Height: mm, Says: []design.Piece{{Text: "1"}},
		Code: &design.CodeLooks{Symbology: "runes", Module: 250}}}
	_, err := press.NewLabels(d, nil)
	require.ErrorContains(t, err, "runes")
}
