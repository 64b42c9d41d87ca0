package artwork_test

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/picture"
	"oddspool/core/render"
	"oddspool/internal/artwork"
)

// pdf writes a PDF of pages with a dark box in each, in points from the bottom left, as ISO 32000 has it.
func pdf(w, h float64, boxes ...[4]float64) []byte {
	var file bytes.Buffer
	offsets := []int{}
	object := func(body string) {
		offsets = append(offsets, file.Len())
		fmt.Fprintf(&file, "%d 0 obj\n%s\nendobj\n", len(offsets), body)
	}
	file.WriteString("%PDF-1.4\n")
	object("<< /Type /Catalog /Pages 2 0 R >>")
	kids := ""
	for i := range boxes {
		kids += fmt.Sprintf("%d 0 R ", 3+2*i)
	}
	object(fmt.Sprintf("<< /Type /Pages /Kids [%s] /Count %d >>", kids, len(boxes)))
	for i, b := range boxes {
		object(fmt.Sprintf("<< /Type /Page /Parent 2 0 R /MediaBox [0 0 %g %g] /Contents %d 0 R >>", w, h, 4+2*i))
		content := fmt.Sprintf("0 g %g %g %g %g re f", b[0], b[1], b[2], b[3])
		object(fmt.Sprintf("<< /Length %d >>\nstream\n%s\nendstream", len(content), content))
	}
	at := file.Len()
	fmt.Fprintf(&file, "xref\n0 %d\n0000000000 65535 f \n", len(offsets)+1)
	for _, offset := range offsets {
		fmt.Fprintf(&file, "%010d 00000 n \n", offset)
	}
	fmt.Fprintf(&file, "trailer << /Size %d /Root 1 0 R >>\nstartxref\n%d\n%%%%EOF\n", len(offsets)+1, at)
	return file.Bytes()
}

// bounds returns in tenths of a millimetre where a page is dark.
func bounds(t *testing.T, page artwork.Page) (sizes []int) {
	p, err := picture.Decode(page.PNG)
	require.NoError(t, err)
	w, h := int(p.TrueWidth/100), int(p.TrueHeight/100)
	plane := p.Dots(w, h, picture.Threshold, 0, true)
	var box render.Box
	for y := range plane.Height {
		plane.EachDot(y, func(x int) { box = box.With(render.Box{X: x, Y: y, W: 1, H: 1}) })
	}
	return []int{w, h, box.X, box.Y, box.W, box.H}
}

func within(t *testing.T, want, got []int) {
	t.Helper()
	for i := range want {
		require.InDelta(t, want[i], got[i], 1, "%v, and not %v", got, want)
	}
}

// Each page of a PDF is as large as it says, and what stands on it where it stood.
func TestPagesOfAPDF(t *testing.T) {
	const mm = 72 / 25.4
	pages, err := artwork.Pages(t.Context(), pdf(80*mm, 40*mm, [4]float64{10 * mm, 5 * mm, 20 * mm, 10 * mm}, [4]float64{0, 0, 80 * mm, mm}))
	require.NoError(t, err)
	require.Len(t, pages, 2)
	within(t, []int{800, 400, 100, 250, 200, 100}, bounds(t, pages[0]))
	within(t, []int{800, 400, 0, 390, 800, 10}, bounds(t, pages[1]))
	large, err := artwork.Pages(t.Context(), pdf(841*mm, 1189*mm, [4]float64{100 * mm, 100 * mm, 200 * mm, 200 * mm}))
	require.NoError(t, err, "A0, drawn more coarsely")
	p, err := picture.Decode(large[0].PNG)
	require.NoError(t, err)
	require.InDelta(t, 841_000, float64(p.TrueWidth), 500)
}

func TestAnSVG(t *testing.T) {
	for name, svg := range map[string]string{
		"millimetres": `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 80 40"><rect x="10" y="25" width="20" height="10"/></svg>`,
		"pixels":      `<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 302.36 151.18"><path d="M37.795 94.488h75.59v37.795h-75.59z" fill="#123"/></svg>`,
		"outside":     `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="8cm" height="4cm" viewBox="0 0 80 40"><image xlink:href="file:///etc/passwd" width="80" height="40"/><rect x="10" y="25" width="20" height="10"/></svg>`,
	} {
		pages, err := artwork.Pages(t.Context(), []byte(svg))
		require.NoError(t, err, name)
		within(t, []int{800, 400, 100, 250, 200, 100}, bounds(t, pages[0]))
	}
}

// A code that stands in the artwork is read: one that the command line wrote.
func TestCodesInArtworkAreRead(t *testing.T) {
	path := filepath.Join(t.TempDir(), "code.svg")
	out, err := exec.Command("go", "run", "oddspool/cmd/oddspool", "code", "-symbology", "qr", "-data", "952N0101A", "-module", "0.5mm", "-out", path).CombinedOutput()
	require.NoError(t, err, string(out))
	svg, err := os.ReadFile(path)
	require.NoError(t, err)
	pages, err := artwork.Pages(t.Context(), svg)
	require.NoError(t, err)
	require.Contains(t, pages[0].Codes, artwork.Found{Symbology: "QR Code", Text: "952N0101A"})
}

func TestBadArtworkIsRefusedInWords(t *testing.T) {
	const mm = 72 / 25.4
	many := make([][4]float64, artwork.MostPages+1)
	nested := `<svg width="9mm" height="9mm"><defs><g id="a"><rect width="1" height="1"/></g>`
	for i := 'a'; i < 'z'; i++ {
		nested += fmt.Sprintf(`<g id="%c"><use href="#%c"/><use href="#%c"/></g>`, i+1, i, i)
	}
	for name, test := range map[string]struct {
		data []byte
		says string
	}{
		"half":       {pdf(80*mm, 40*mm, [4]float64{})[:60], "broken"},
		"noise":      {[]byte("%PDF-1.7\n" + strings.Repeat("kelp ", 100)), "broken"},
		"many pages": {pdf(80*mm, 40*mm, many...), "51 pages"},
		"huge page":  {pdf(9000*mm, 40*mm, [4]float64{}), "9000 × 40 mm"},
		"no size":    {[]byte(`<svg></svg>`), "does not say how large"},
		"a bomb":     {[]byte(nested + `</defs><use href="#z"/></svg>`), "may have no end"},
		"letters":    {[]byte(`<svg width="9mm" height="9mm"><text x="1" y="5">Dulse</text></svg>`), "turn them to outlines"},
		"a picture":  {[]byte(`<svg width="9mm" height="9mm"><image href="data:image/png;base64,AAAA" width="5" height="5"/></svg>`), "holds a picture"},
		"a star":     {[]byte(`<svg width="9mm" height="9mm" viewBox="0 0 9 9"><path fill-rule="evenodd" d="M4 1L6 8L1 3H8L2 8z"/></svg>`), "lines that cross"},
		"clipped":    {[]byte(`<svg width="9mm" height="9mm"><rect width="5" height="5" style="clip-path: url(#a)"/></svg>`), "uses clipping"},
		"deep":       {[]byte(`<svg width="9mm" height="9mm">` + strings.Repeat("<g>", 60)), "50 levels"},
		"large":      {append([]byte("%PDF-"), make([]byte, artwork.MostBytes)...), "up to 20 MB"},
	} {
		_, err := artwork.Pages(t.Context(), test.data)
		var told *artwork.FileError
		require.ErrorAs(t, err, &told, name)
		require.Contains(t, told.Text, test.says, name)
	}
	require.False(t, artwork.Is([]byte("GIF89a")))
	require.True(t, artwork.Is([]byte("%PDF-1.4")))
}
