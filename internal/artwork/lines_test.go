package artwork_test

import (
	"bytes"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/picture"
	"oddspool/internal/artwork"
)

func svg(body string) string {
	return `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="30mm" viewBox="-10 -5 120 60">` + body +
		`</svg>`
}

// other draws an SVG with librsvg: as a PDF, or as a picture so many dots wide.
func other(t *testing.T, svg string, arguments ...string) []byte {
	path := filepath.Join(t.TempDir(), "art.svg")
	require.NoError(t, os.WriteFile(path, []byte(svg), 0o600))
	out, err := exec.Command("rsvg-convert", append(arguments, path)...).Output()
	require.NoError(t, err)
	return out
}

// What is drawn of lines stays lines, and shows at any size what another program shows: as SVG, and as a page of a PDF.
func TestLinesStayLines(t *testing.T) {
	for name, body := range map[string]string{
		"areas, one over another": `<rect x="5" y="5" width="40" height="40"/><circle cx="25" cy="25" r="15" fill="#fff"/><path d="M20 20h10v10h-10z" fill="#335"/>`,
		"holes by the even-odd rule": `<path fill-rule="evenodd" d="M5 5h40v40h-40zM10 10h30v30h-30zM15 15h20v20h-20z"/>` +
			`<path fill-rule="evenodd" d="M60 25a20 20 0 1 0 40 0a20 20 0 1 0 -40 0zM70 25a10 10 0 1 0 20 0a10 10 0 1 0 -20 0z"/>`,
		"strokes":                 `<path fill="none" stroke="#000" stroke-width="4" d="M5 5C45 5 45 45 95 45"/><circle cx="80" cy="15" r="12" fill="none" stroke="#000" stroke-width="2"/>`,
		"an area with its stroke": `<rect x="10" y="10" width="60" height="30" fill="#fff" stroke="#000" stroke-width="3"/><path d="M80 10l15 30" stroke="#000"/>`,
		"dashes":                  `<path fill="none" stroke="#000" stroke-width="3" stroke-dasharray="6 4" d="M5 20h90"/>`,
		"groups with transforms":  `<g transform="translate(10 5) scale(2)"><path d="M2 2l20 8l-20 8z" fill="none" stroke="#000" stroke-width="2"/></g>`,
	} {
		source := svg(body)
		reference, err := png.Decode(bytes.NewReader(other(t, source, "-b", "white", "-w", "711"))) // at 11.85 dots/mm
		require.NoError(t, err)
		for kind, file := range map[string][]byte{"SVG": []byte(source), "PDF": other(t, source, "-f", "pdf")} {
			pages, err := artwork.Pages(t.Context(), file)
			require.NoError(t, err)
			require.NotNil(t, pages[0].Drawing, "%s of %s", kind, name)
			require.Equal(t, pages[0].Drawing, pages[0].Best())
			drawing, err := picture.Decode(pages[0].Drawing)
			require.NoError(t, err)
			require.InDelta(t, 60_000, float64(drawing.TrueWidth), 50)
			dots := drawing.Dots(reference.Bounds().Dx(), reference.Bounds().Dy(), picture.Threshold, 0, true)
			differ := 0
			for y := range dots.Height {
				for x := range dots.Width {
					r, _, _, _ := reference.At(x, y).RGBA()
					if dots.Set(x, y) != (r < 0x8000) {
						differ++
					}
				}
			}
			require.Less(t, differ, 650, "%s of %s: of edges up to 3,250 dots long", kind, name)
		}
	}
}

// Letters of a PDF become outlines, which are as sharp on any printer.
func TestLettersOfAPDFStayLines(t *testing.T) {
	pages, err := artwork.Pages(t.Context(),
		other(t, svg(`<text x="0" y="30" font-size="22" font-family="DejaVu Sans">Dülse 7</text>`), "-f", "pdf"))
	require.NoError(t, err)
	require.NotNil(t, pages[0].Drawing)
}

// What lines cannot show is kept as dots: shades that run, what is seen through, pictures.
func TestWhatIsNoLinesStaysDots(t *testing.T) {
	for name, body := range map[string]string{
		"a gradient":     `<defs><linearGradient id="a"><stop offset="0" stop-color="#000"/><stop offset="1" stop-color="#fff"/></linearGradient></defs><rect x="5" y="5" width="90" height="40" fill="url(#a)"/>`,
		"half opaque":    `<rect x="5" y="5" width="90" height="40" fill-opacity="0.5"/>`,
		"nothing at all": ``,
	} {
		source := svg(body)
		for kind, file := range map[string][]byte{"SVG": []byte(source), "PDF": other(t, source, "-f", "pdf")} {
			pages, err := artwork.Pages(t.Context(), file)
			require.NoError(t, err)
			require.Nil(t, pages[0].Drawing, "%s of %s", kind, name)
			require.Equal(t, pages[0].PNG, pages[0].Best())
		}
	}
	clipped := svg(`<defs><clipPath id="c"><circle cx="40" cy="25" r="15"/></clipPath></defs><rect x="5" y="5" width="90" height="40" clip-path="url(#c)"/>`)
	pages, err := artwork.Pages(t.Context(), other(t, clipped, "-f", "pdf"))
	require.NoError(t, err)
	require.Nil(t, pages[0].Drawing, "a clip that is not known shows")
}

// More lines than a label ever has are dots: each of them is looked at by itself.
func TestTooManyLinesAreDots(t *testing.T) {
	body := `<path stroke="#000" stroke-width="0.1" d="`
	for i := range 60_000 {
		body += "M" + strconv.Itoa(i%100) + " " + strconv.Itoa(i/1200) + "h1"
	}
	pages, err := artwork.Pages(t.Context(), []byte(svg(body+`"/>`)))
	require.NoError(t, err)
	require.Nil(t, pages[0].Drawing)
}
