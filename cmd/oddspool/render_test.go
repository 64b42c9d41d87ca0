package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/picture"
	"oddspool/internal/bundle"
	"oddspool/internal/press/pwg"
)

const bins, binLabel = "../../examples/bins.csv", "../../examples/bin-label.json"

func do(args ...string) (code int, out, errors string) {
	var o, e bytes.Buffer
	code = run(context.Background(), &console{&o, &e}, args)
	return code, o.String(), e.String()
}

// Independent readers read the code of every label that is drawn.
func TestRenderedLabelsAreReadByOthers(t *testing.T) {
	folder := t.TempDir()
	code, _, message := do("render", "-design", binLabel, "-records", bins, "-format", "png", "-out",
		filepath.Join(folder, "bin.png"))
	require.Zero(t, code, message)
	files, _ := filepath.Glob(filepath.Join(folder, "bin-*.png"))
	require.Len(t, files, 240)
	data, err := os.ReadFile(bins)
	require.NoError(t, err)
	rows := strings.Split(strings.TrimSpace(string(data)), "\n")[1:]
	for _, number := range []int{1, 47, 240} {
		columns := strings.Split(rows[number-1], ",")
		want := columns[len(columns)-2]
		file := filepath.Join(folder, "bin-"+strconv.Itoa(number)+".png")
		zbar, err := exec.Command("zbarimg", "--quiet", "--raw", file).Output()
		require.NoError(t, err)
		require.Equal(t, want, strings.TrimSpace(string(zbar)))
		zxing, err := exec.Command("ZXingReader", "-1", file).Output()
		require.NoError(t, err)
		require.Contains(t, string(zxing), want)
	}
}

func TestRenderOneDocument(t *testing.T) {
	folder := t.TempDir()
	pdf := filepath.Join(folder, "bins.pdf")
	code, _, message := do("render", "-design", binLabel, "-records", bins, "-format", "pdf", "-out", pdf, "-rows",
		"1-3")
	require.Zero(t, code, message)
	out, err := exec.Command("qpdf", "--check", pdf).CombinedOutput()
	require.NoError(t, err, string(out))
	out, err = exec.Command("pdfinfo", pdf).Output()
	require.NoError(t, err)
	require.Regexp(t, `Pages:\s+3\n`, string(out))
	require.Regexp(t, `Page size:\s+215.4\d? x 107.7\d? pts`, string(out))

	code, raster, message := do("render", "-design", binLabel, "-records", bins, "-format", "pwg", "-out", "-", "-rows",
		"240")
	require.Zero(t, code, message)
	page, err := pwg.NewReader(strings.NewReader(raster)).Next()
	require.NoError(t, err)
	require.Equal(t, []int{608, 304}, []int{page.Layers[0].Width, page.Layers[0].Height})

	code, svg, _ := do("render", "-design", binLabel, "-records", bins, "-format", "svg", "-out", "-", "-rows", "2")
	require.Zero(t, code)
	require.Contains(t, svg, `width="76mm" height="38mm"`)
}

func TestProofSaysWhatIsWrong(t *testing.T) {
	code, out, _ := do("proof", "-design", binLabel, "-records", bins)
	require.Zero(t, code)
	require.Equal(t, "240 labels looked at: 0 with errors, 0 with warnings; 240 codes read back as meant\n", out)

	code, out, _ = do("proof", "-design", binLabel, "-records", "../../examples/racks.csv")
	require.Equal(t, 1, code)
	require.Contains(t, out, "error: record 9, contents: Text is ")
	require.Contains(t, out, "(and 1 more)")
	require.Contains(t, out, "error: record 22, code: “–” (character 5) is not in Code 128")

	code, out, _ = do("proof", "-design", binLabel, "-records", "../../examples/racks.csv", "-rows", "20-30", "-json")
	require.Equal(t, 1, code)
	var report struct {
		Labels, Errors int
		Findings       []struct {
			Kind, Level string
			Records     []int
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &report))
	require.Equal(t, 11, report.Labels)
	require.Equal(t, 1, report.Errors)
	require.Equal(t, []int{22}, report.Findings[0].Records)
	require.Equal(t, "bad-data", report.Findings[0].Kind)
}

func TestWrongCallsSayWhatToDo(t *testing.T) {
	folder := t.TempDir()
	png := filepath.Join(folder, "design.json")
	require.NoError(t, os.WriteFile(png, []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR"), 0o600))
	for _, test := range []struct {
		args []string
		text string
	}{
		{[]string{"print"}, `no command "print"`},
		{[]string{"render"}, "-out PATH is needed"},
		{[]string{"render", "-out", "x.png"}, "-design FILE is needed"},
		{[]string{"render", "-design", "none.json", "-out", "x.png"}, "no such file"},
		{[]string{"render", "-design", png, "-out", "x.png"}, "this is not a design file"},
		{[]string{"render", "-design", binLabel, "-records", png, "-out", "x.png"}, "a picture"},
		{[]string{"render", "-design", binLabel, "-records", bins, "-out", "x.png", "-rows", "241"},
			"numbers from 1 to 240"},
		{[]string{"render", "-design", binLabel, "-records", bins, "-out", "x.gif", "-format", "gif"},
			"use png, svg, pdf or pwg"},
		{[]string{"render", "-design", binLabel, "-records", bins, "-out", "-"}, "several labels"},
		{[]string{"render", "-design", binLabel, "-records", bins, "-out", filepath.Join(folder, "no", "x.pdf"),
			"-format", "pdf"}, "no such file"},
		{[]string{"proof", "-design", binLabel, "extra"}, `"extra" is not understood`},
		{[]string{"proof", "-colour"}, "-colour"},
	} {
		code, _, message := do(test.args...)
		require.Equal(t, 2, code, test.args)
		require.Contains(t, message, test.text)
	}
	code, out, _ := do()
	require.Zero(t, code)
	require.Contains(t, out, "render")
	code, _, _ = do("render", "-h")
	require.Zero(t, code)
}

// A design's pictures are found in a folder by what they are, not by their names.
func TestPicturesComeFromAFolder(t *testing.T) {
	folder := t.TempDir()
	mark := image.NewGray(image.Rect(0, 0, 80, 80)) // all black
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, mark))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "whatever.bin"), file.Bytes(), 0o600))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "notes.txt"), []byte("no picture"), 0o600))
	data, err := os.ReadFile(binLabel)
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	d.Elements = []design.Element{{ID: "mark", Kind: design.Picture, X: 2000, Y: 2000, Width: 10_000, Height: 10_000,
		Picture: &design.PictureLooks{Hash: picture.Hash(file.Bytes())}}}
	data, err = json.Marshal(d)
	require.NoError(t, err)
	path := filepath.Join(folder, "mark.json")
	require.NoError(t, os.WriteFile(path, data, 0o600))

	code, _, message := do("render", "-design", path, "-format", "svg", "-out", "-")
	require.NotZero(t, code)
	require.Contains(t, message, "is not here")
	code, svg, message := do("render", "-design", path, "-pictures", folder, "-format", "svg", "-out", "-")
	require.Zero(t, code, message)
	require.Contains(t, svg, "M16 16h80v1h-80z", "its first row of dots")
	code, said, _ := do("proof", "-design", path, "-pictures", folder)
	require.Zero(t, code)
	require.Contains(t, said, "nearly all dark")
	// Or they come with it, in one file.
	zipped, err := os.Create(filepath.Join(folder, "mark.zip"))
	require.NoError(t, err)
	require.NoError(t, bundle.Write(zipped, d,
		bundle.Source{Picture: func(string) ([]byte, error) { return file.Bytes(), nil },
			Fonts: func(string) ([][]byte, error) { return nil, nil }}))
	require.NoError(t, zipped.Close())
	code, again, message := do("render", "-design", zipped.Name(), "-format", "svg", "-out", "-")
	require.Zero(t, code, message)
	require.Equal(t, svg, again)
	code, _, message = do("render", "-design", path, "-pictures", filepath.Join(folder, "nowhere"), "-format", "svg",
		"-out", "-")
	require.NotZero(t, code)
	require.Contains(t, message, "nowhere")
}

// Labels that have numbers of a series have those that nobody took yet, from the first on; what records know is not
// counted.
func TestRenderedLabelsAreNumbered(t *testing.T) {
	folder := t.TempDir()
	records := filepath.Join(folder, "crates.csv")
	require.NoError(t, os.WriteFile(records, []byte("shed\nNorth\nNorth\nSouth\nNorth\n"), 0o600))
	data, err := os.ReadFile("../../examples/crate-label.json")
	require.NoError(t, err)
	numbers := func(change string, want ...string) {
		document := filepath.Join(folder, "crate.json")
		require.NoError(t, os.WriteFile(document, bytes.Replace(data, []byte(`"name": "crates",`),
			[]byte(`"name": "crates",`+change), 1), 0o600))
		code, svg, message := do("render", "-design", document, "-records", records, "-format", "pwg", "-out",
			filepath.Join(folder, "crates.pwg"))
		require.Zero(t, code, message+svg)
		code, out, message := do("proof", "-design", document, "-records", records)
		require.Zero(t, code, message+out)
		code, _, message = do("render", "-design", document, "-records", records, "-format", "png", "-out",
			filepath.Join(folder, "crate.png"))
		require.Zero(t, code, message)
		for i, number := range want {
			read, err := exec.Command("ZXingReader", "-1",
				filepath.Join(folder, fmt.Sprintf("crate-%d.png", i+1))).Output()
			require.NoError(t, err)
			require.Contains(t, string(read), number)
		}
	}
	numbers("", "KW-00018", "KW-00026", "KW-00034", "KW-00042")
	numbers(`"per": "run",`, "KW-00018", "KW-00018", "KW-00018", "KW-00018")
	numbers(`"per": "group", "group": "shed",`, "KW-00018", "KW-00018", "KW-00026", "KW-00034")
	numbers(`"anew": "shed",`, "KW-00018", "KW-00026", "KW-00018", "KW-00034")

	require.NoError(t, os.WriteFile(records, []byte("crates\n7\n"), 0o600))
	code, _, message := do("render", "-design", "../../examples/crate-label.json", "-records", records, "-out",
		filepath.Join(folder, "x.png"))
	require.Equal(t, 1, code)
	require.Contains(t, message, "The records have a field “crates”")
}
