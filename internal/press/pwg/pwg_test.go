package pwg_test

import (
	"bytes"
	"fmt"
	"io"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"testing/iotest"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/internal/press/pwg"
)

var eight = measure.DotsPerMillimetre(8)

// page makes a plane with blank rows, repeated rows and noise.
func page(w, h int, seed uint64) *render.Plane {
	random := rand.New(rand.NewPCG(seed, seed))
	p := render.NewPlane(w, h)
	row := make([]byte, (w+7)/8)
	for y := range h {
		switch random.IntN(4) {
		case 0:
			clear(row)
		case 1:
			for i := range row {
				row[i] = byte(random.IntN(256))
			}
		case 2:
			for i := range row {
				row[i] = byte(random.IntN(2) * 255)
			}
		}
		p.SetRow(y, row)
	}
	return p
}

func stream(t testing.TB, planes ...*render.Plane) []byte {
	var out bytes.Buffer
	w := pwg.NewWriter(&out)
	for _, p := range planes {
		require.NoError(t, w.Page(p, eight, "custom_76x38mm"))
	}
	require.NoError(t, w.Flush())
	return out.Bytes()
}

func TestPagesComeBack(t *testing.T) {
	planes := []*render.Plane{page(608, 304, 1), page(1, 1, 2), page(131, 700, 3), page(4000, 3, 4)}
	data := stream(t, planes...)
	for name, in := range map[string]io.Reader{"whole": bytes.NewReader(data),
		"by byte": iotest.OneByteReader(bytes.NewReader(data))} {
		r := pwg.NewReader(in)
		for _, want := range planes {
			got, err := r.Next()
			require.NoError(t, err, name)
			require.Equal(t, want.Bits, got.Layers[0].Bits, name)
			require.Equal(t, 203, got.DPI)
			require.Equal(t, "custom_76x38mm", got.Media)
		}
		_, err := r.Next()
		require.Equal(t, io.EOF, err)
	}
}

// CUPS's own reader must see the same dots: a page goes through its raster library.
func TestIndependentReaderSeesTheSameDots(t *testing.T) {
	folder := t.TempDir()
	program := filepath.Join(folder, "read")
	source := filepath.Join(folder, "read.c")
	require.NoError(t, os.WriteFile(source, []byte(`
#include <cups/raster.h>
#include <stdio.h>
#include <stdlib.h>
int main(void) {
  cups_raster_t *r = cupsRasterOpen(0, CUPS_RASTER_READ);
  cups_page_header2_t h;
  while (cupsRasterReadHeader2(r, &h)) {
    printf("%u %u %u %u %s %s\n", h.cupsWidth, h.cupsHeight, h.HWResolution[0], h.cupsColorSpace, h.MediaClass, h.cupsPageSizeName);
    unsigned char *line = malloc(h.cupsBytesPerLine);
    for (unsigned y = 0; y < h.cupsHeight; y++) {
      if (!cupsRasterReadPixels(r, line, h.cupsBytesPerLine)) return 2;
      for (unsigned i = 0; i < h.cupsBytesPerLine; i++) printf("%02x", line[i]);
      printf("\n");
    }
  }
  return 0;
}`), 0o600))
	out, err := exec.Command("gcc", "-Wno-deprecated-declarations", "-o", program, source, "-lcupsimage",
		"-lcups").CombinedOutput()
	require.NoError(t, err, string(out))
	planes := []*render.Plane{page(608, 304, 5), page(131, 20, 6)}
	command := exec.Command(program)
	command.Stdin = bytes.NewReader(stream(t, planes...))
	out, err = command.Output()
	require.NoError(t, err)
	var want strings.Builder
	for _, p := range planes {
		want.WriteString(map[int]string{608: "608 304 203 3 PwgRaster custom_76x38mm\n",
			131: "131 20 203 3 PwgRaster custom_76x38mm\n"}[p.Width])
		for y := range p.Height {
			for _, b := range p.AppendRow(nil, y) {
				want.WriteString(string("0123456789abcdef"[b>>4]) + string("0123456789abcdef"[b&15]))
			}
			want.WriteByte('\n')
		}
	}
	require.True(t, want.String() == string(out), "the readers differ")
}

func TestBrokenStreamsSayWhere(t *testing.T) {
	data := stream(t, page(100, 50, 7))
	_, err := pwg.NewReader(strings.NewReader("%PDF-1.7")).Next()
	require.ErrorIs(t, err, pwg.ErrNotRaster)
	_, err = pwg.NewReader(strings.NewReader("")).Next()
	require.ErrorIs(t, err, pwg.ErrNotRaster)
	for n := 5; n < len(data); n += 7 {
		_, err = pwg.NewReader(bytes.NewReader(data[:n])).Next()
		var broken *pwg.BrokenError
		require.ErrorAs(t, err, &broken, "cut after %d", n)
		require.ErrorIs(t, err, io.ErrUnexpectedEOF)
	}
	spoil := func(at int, value byte) error {
		spoiled := bytes.Clone(data)
		spoiled[at] = value
		_, err := pwg.NewReader(bytes.NewReader(spoiled)).Next()
		return err
	}
	require.IsType(t, &pwg.UnsupportedError{}, spoil(4+388+3, 24), "colour")
	require.IsType(t, &pwg.UnsupportedError{}, spoil(4+372, 0x7f), "enormous")
	require.IsType(t, &pwg.BrokenError{}, spoil(4+392+3, 99), "wrong row length")
	require.ErrorContains(t, spoil(4+1796, 255), "more rows than the page has")
	require.ErrorContains(t, spoil(4+1796+1, 128), "reserved kind")
	require.ErrorContains(t, spoil(4+1796+1, 127), "longer than the row")
}

func TestWriterReportsAFullDisk(t *testing.T) {
	full, err := os.OpenFile("/dev/full", os.O_WRONLY, 0)
	require.NoError(t, err)
	defer full.Close()
	w := pwg.NewWriter(full)
	for range 10 {
		if err = w.Page(page(4000, 300, 8), eight, ""); err != nil {
			break
		}
	}
	require.ErrorContains(t, err, "write PWG raster")
	require.Error(t, w.Flush())
}

func FuzzReader(f *testing.F) {
	f.Add(stream(f, page(20, 4, 9)))
	f.Fuzz(func(t *testing.T, data []byte) {
		r := pwg.NewReader(bytes.NewReader(data))
		for {
			p, err := r.Next()
			if err != nil {
				return
			}
			require.Positive(t, p.Layers[0].Width*p.Layers[0].Height)
		}
	})
}

func BenchmarkPage(b *testing.B) {
	p := page(800, 400, 10)
	w := pwg.NewWriter(io.Discard)
	b.ReportAllocs()
	for b.Loop() {
		_ = w.Page(p, eight, "")
	}
}

// inked makes layers of random dots, none of which has two inks.
func inked(w, h, inks int, seed uint64) render.Layers {
	random := rand.New(rand.NewPCG(seed, 3))
	l := render.NewLayers(inks, w, h)
	for y := range h {
		if y%3 == 1 { // rows that repeat
			for _, p := range l {
				p.SetRow(y, p.AppendRow(nil, y-1))
			}
			continue
		}
		for x := range w {
			if ink := random.IntN(inks * 3); ink < inks {
				l[ink].Dot(x, y)
			}
		}
	}
	return l
}

func TestPagesOfSeveralInksComeBack(t *testing.T) {
	for _, inks := range []int{2, 3, 7, 15} {
		var out bytes.Buffer
		w := pwg.NewWriter(&out)
		sent := inked(131, 40, inks, uint64(inks))
		look := pwg.Look{Type: pwg.Device(inks)}
		for i := range inks {
			look.Ink = append(look.Ink, inks-1-i) // the printer has them the other way round
		}
		require.NoError(t, w.Layers(sent, look, eight, ""))
		require.NoError(t, w.Flush())
		page, err := pwg.NewReader(iotest.OneByteReader(&out)).Next()
		require.NoError(t, err)
		require.Equal(t, pwg.Device(inks), page.Type)
		for i := range inks {
			require.Equal(t, sent[i].Bits, page.Layers[inks-1-i].Bits, "%d inks, ink %d", inks, i)
		}
	}
}

func TestPagesOfColoursComeBack(t *testing.T) {
	var out bytes.Buffer
	w := pwg.NewWriter(&out)
	sent := inked(97, 30, 3, 5)
	colours := render.Palette{Face: "#F7C600", Inks: []string{"#C8102E", "#000000", "#12AB34"}}
	require.NoError(t, w.Layers(sent, pwg.Look{Type: pwg.SRGB, Colours: colours}, eight, ""))
	require.NoError(t, w.Layers(render.NewLayers(1, 20, 5), pwg.Look{Type: pwg.SRGB, Colours: render.BlackOnWhite},
		eight, ""))
	require.NoError(t, w.Flush())
	r := pwg.NewReader(&out)
	page, err := r.Next()
	require.NoError(t, err)
	require.ElementsMatch(t, colours.Inks, page.Colours, "the face is not printed")
	for i, colour := range page.Colours {
		for j, ink := range colours.Inks {
			if ink == colour {
				require.Equal(t, sent[j].Bits, page.Layers[i].Bits, colour)
			}
		}
	}
	blank, err := r.Next()
	require.NoError(t, err)
	require.Len(t, blank.Layers, 1, "nothing but white has a layer still")
}

func TestTooManyColoursAreRefused(t *testing.T) {
	l := render.NewLayers(256, 256, 1)
	palette := render.Palette{}
	for i := range l {
		l[i].Dot(i, 0)
		palette.Inks = append(palette.Inks, fmt.Sprintf("#%02X00FF", i))
	}
	var out bytes.Buffer
	w := pwg.NewWriter(&out)
	require.NoError(t, w.Layers(l, pwg.Look{Type: pwg.SRGB, Colours: palette}, eight, ""))
	require.NoError(t, w.Flush())
	_, err := pwg.NewReader(&out).Next()
	require.ErrorContains(t, err, "more than 255 colours")
}
