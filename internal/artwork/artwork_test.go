package artwork_test

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/picture"
	"oddspool/core/render"
	"oddspool/internal/artwork"
	"oddspool/internal/sandbox"
	"oddspool/internal/testkit"
)

func TestMain(m *testing.M) {
	sandbox.Main()
	os.Exit(m.Run())
}

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
	pages, err := artwork.Pages(t.Context(), pdf(80*mm, 40*mm, [4]float64{10 * mm, 5 * mm, 20 * mm, 10 * mm},
		[4]float64{0, 0, 80 * mm, mm}))
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
		"inches":      `<svg xmlns="http://www.w3.org/2000/svg" width="3.149606in" height="1.574803in"><rect x="12.5%" y="62.5%" width="25%" height="0.3937in"/></svg>`,
		"points":      `<svg xmlns="http://www.w3.org/2000/svg" width="226.772pt" height="113.386pt"><rect x="28.346pt" y="5.9055pc" width="20mm" height="2.3622pc"/></svg>`,
		"letters":     `<svg xmlns="http://www.w3.org/2000/svg" width="18.898em" height="9.449em"><rect x="2.3622em" y="25mm" width="4.7244em" height="10mm"/></svg>`,
		"quarters":    `<svg xmlns="http://www.w3.org/2000/svg" width="320q" height="160Q"><rect x="40q" y="100q" style="width:80q;height:40Q"/></svg>`,
		"shares":      `<svg xmlns="http://www.w3.org/2000/svg" width="100%" height="100%" viewBox="0 0 302.36 151.18"><rect x="12.5%" y="62.5%" width="25%" height="25%"/></svg>`,
		"styles": `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 80 40"><style>.b rect{fill:#123} #c{display:none} rect.d{fill:none} g > .e{stroke:none}</style>` +
			`<g class="b" fill="none"><rect class="e" x="10" y="25" width="20" height="10" stroke="#000" stroke-width="9"/></g><rect id="c" width="80" height="40"/><rect class="d" width="80" height="40"/></svg>`,
		"clips, masks and marks": `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 80 40"><clipPath id="a"><rect x="10" y="25" width="20" height="10"/></clipPath><rect width="80" height="40" clip-path="url(#a)"/></svg>`,
		"used twice":             `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 80 40"><defs><rect id="a" width="10" height="10"/><g id="b"><use href="#a"/><use href="#a" x="10"/></g></defs><use href="#b" x="10" y="25"/></svg>`,
	} {
		pages, err := artwork.Pages(t.Context(), []byte(svg))
		require.NoError(t, err, name)
		within(t, []int{800, 400, 100, 250, 200, 100}, bounds(t, pages[0]))
	}
}

// A code that stands in the artwork is read: one that the command line wrote.
func TestCodesInArtworkAreRead(t *testing.T) {
	path := filepath.Join(t.TempDir(), "code.svg")
	out, err := exec.Command("go", "run", "oddspool/cmd/oddspool", "code", "-symbology", "qr", "-data", "952N0101A",
		"-module", "0.5mm", "-out", path).CombinedOutput()
	require.NoError(t, err, string(out))
	svg, err := os.ReadFile(path)
	require.NoError(t, err)
	pages, err := artwork.Pages(t.Context(), svg)
	require.NoError(t, err)
	require.Contains(t, pages[0].Codes, artwork.Found{Symbology: "QR Code", Text: "952N0101A"})
}

// A page's unit may be larger than 1/72 inch; where it is not certain for each page, the file is refused.
func TestPagesHaveUnitsOfTheirOwn(t *testing.T) {
	const mm = 72 / 25.4
	plain := pdf(40*mm, 20*mm, [4]float64{5 * mm, 2.5 * mm, 10 * mm, 5 * mm},
		[4]float64{5 * mm, 2.5 * mm, 10 * mm, 5 * mm})
	double := bytes.ReplaceAll(plain, []byte("/Type /Page /"), []byte("/Type /Page /UserUnit 2.0 /"))
	pages, err := artwork.Pages(t.Context(), double)
	require.NoError(t, err)
	for _, page := range pages {
		within(t, []int{800, 400, 100, 250, 200, 100}, bounds(t, page))
		drawing, err := picture.Decode(page.Drawing)
		require.NoError(t, err)
		require.InDelta(t, 80_000, float64(drawing.TrueWidth), 20)
	}
	_, err = artwork.Pages(t.Context(), bytes.Replace(plain, []byte("/Type /Page /"),
		[]byte("/Type /Page /UserUnit 2.0 /"), 1))
	require.ErrorContains(t, err, "UserUnit")
}

// What would not end, or take all memory, is refused in words, and ends soon.
func TestArtworkThatDoesNotEndIsRefused(t *testing.T) {
	for name, data := range testkit.ArtworkBombs() {
		_, err := artwork.Pages(t.Context(), data)
		var told *refusal.Error
		require.ErrorAs(t, err, &told, name)
		t.Log(name, told.Error())
	}
	pages, err := artwork.Pages(t.Context(), pdf(200, 100, [4]float64{10, 10, 20, 20}))
	require.NoError(t, err, "and the next is read")
	require.Len(t, pages, 1)
}

func TestBadArtworkIsRefusedInWords(t *testing.T) {
	const mm = 72 / 25.4
	many := make([][4]float64, artwork.MostPages+1)
	for name, test := range map[string]struct {
		data []byte
		says string
	}{
		"half":       {pdf(80*mm, 40*mm, [4]float64{})[:60], "broken"},
		"noise":      {[]byte("%PDF-1.7\n" + strings.Repeat("kelp ", 100)), "broken"},
		"many pages": {pdf(80*mm, 40*mm, many...), "51 pages"},
		"huge page":  {pdf(9000*mm, 40*mm, [4]float64{}), "9000 × 40 mm"},
		"no size":    {[]byte(`<svg></svg>`), "does not say how large"},
		"letters": {[]byte(`<svg width="9mm" height="9mm"><text x="1" y="5">Dulse</text></svg>`),
			"turn them to outlines"},
		"outside":    {[]byte(`<svg xmlns:xlink="http://www.w3.org/1999/xlink" width="9mm" height="9mm"><image xlink:href="file:///etc/passwd" width="5" height="5"/></svg>`), "links to another file"},
		"viewport":   {[]byte(`<svg width="9vw" height="9mm"><rect width="5" height="5"/></svg>`), "given in vw"},
		"inner unit": {[]byte(`<svg width="9mm" height="9mm"><rect width="5rem" height="5"/></svg>`), "given in rem"},
		"computed":   {[]byte(`<svg width="9mm" height="9mm"><style>rect{width:calc(1mm + 2mm)}</style><rect height="5"/></svg>`), "calc()"},
		"imported":   {[]byte(`<svg width="9mm" height="9mm"><style>@import url(kelp.css);</style><rect width="5" height="5"/></svg>`), "@import"},
		"styled so":  {[]byte(`<svg width="9mm" height="9mm"><rect width="5" height="5" style="vector-effect: non-scaling-stroke"/></svg>`), "vector-effect"},
		"clipped so": {[]byte(`<svg width="9mm" height="9mm"><rect width="5" height="5" style="clip-path: circle(2px)"/></svg>`), "shape of CSS"},
		"scripted":   {[]byte(`<svg width="9mm" height="9mm"><script>1</script></svg>`), "a script"},
		"entities":   {[]byte(`<!DOCTYPE svg [<!ENTITY a "<text>Dulse</text>">]><svg width="9mm" height="9mm">&a;</svg>`), "entities"},
		"not XML":    {[]byte(`<svg width="9mm" height="9mm"><rect</svg>`), "XML"},
		"deep":       {[]byte(`<svg width="9mm" height="9mm">` + strings.Repeat("<g>", 60)), "50 levels"},
		"large":      {append([]byte("%PDF-"), make([]byte, artwork.MostBytes)...), "up to 20 MB"},
	} {
		_, err := artwork.Pages(t.Context(), test.data)
		var told *refusal.Error
		require.ErrorAs(t, err, &told, name)
		require.Contains(t, told.Error(), test.says, name)
	}
	require.False(t, artwork.Is([]byte("GIF89a")))
	require.True(t, artwork.Is([]byte("%PDF-1.4")))
}
