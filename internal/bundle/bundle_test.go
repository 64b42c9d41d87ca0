package bundle_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"image"
	"image/png"
	"strings"
	"testing"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/picture"
	"oddspool/core/safety/symbols"
	"oddspool/examples"
	"oddspool/internal/bundle"
)

func logo(t testing.TB, side int) []byte {
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, image.NewGray(image.Rect(0, 0, side, side))))
	return file.Bytes()
}

func withPicture(t testing.TB, hash string) *design.Design {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	d.Elements = append(d.Elements, design.Element{ID: "logo", Kind: design.Picture, X: 1000, Y: 1000, Width: 9000,
		Height: 9000, Picture: &design.PictureLooks{Hash: hash}})
	return d
}

func packed(t testing.TB, files map[string]string) []byte {
	var file bytes.Buffer
	w := zip.NewWriter(&file)
	for name, content := range files {
		entry, err := w.Create(name)
		require.NoError(t, err)
		_, err = entry.Write([]byte(content))
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	return file.Bytes()
}

func TestADesignComesBackWithItsPictures(t *testing.T) {
	data := logo(t, 40)
	hash := picture.Hash(data)
	d := withPicture(t, hash)
	var file bytes.Buffer
	require.NoError(t, bundle.Write(&file, d, bundle.Source{Picture: func(asked string) ([]byte, error) {
		require.Equal(t, hash, asked)
		return data, nil
	}, Fonts: func(family string) ([][]byte, error) {
		if family != "Liberation Sans" { // as if it had been brought in
			return nil, nil
		}
		return [][]byte{liberationsansregular.TTF}, nil
	}}))
	came, err := bundle.Read(file.Bytes())
	require.NoError(t, err)
	require.Equal(t, d, came.Design)
	require.Equal(t, map[string][]byte{hash: data}, came.Pictures)
	require.Equal(t, [][]byte{liberationsansregular.TTF}, came.Fonts)

	document, err := json.Marshal(d)
	require.NoError(t, err)
	came, err = bundle.Read(document)
	require.NoError(t, err)
	require.Equal(t, &bundle.Contents{Design: d}, came)
	none := func(string) ([][]byte, error) { return nil, nil }
	require.Error(t, bundle.Write(&file, d,
		bundle.Source{Picture: func(string) ([]byte, error) { return nil, &picture.AbsentError{Hash: hash} },
			Fonts: none}))
}

func TestADesignComesWithSymbolsOfOnesOwn(t *testing.T) {
	made, drawing, err := symbols.Own([]byte(
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><rect x="1" y="1" width="8" height="8" fill="#000000"/></svg>`), symbols.Facts{Name: "Knife"})
	require.NoError(t, err)
	d := withPicture(t, picture.Hash(logo(t, 40)))
	d.Elements = []design.Element{
		{ID: "own", Kind: design.Symbol, X: 1000, Y: 1000, Width: 9000, Height: 9000,
			Symbol: &design.SymbolLooks{ID: made.ID}},
		{ID: "shipped", Kind: design.Symbol, X: 1000, Y: 1000, Width: 9000, Height: 9000,
			Symbol: &design.SymbolLooks{ID: "W012"}},
	}
	none := func(string) ([][]byte, error) { return nil, nil }
	var file bytes.Buffer
	require.NoError(t, bundle.Write(&file, d, bundle.Source{Fonts: none, Symbol: func(id string) ([]byte, error) {
		require.Equal(t, made.ID, id)
		return drawing, nil
	}}))
	came, err := bundle.Read(file.Bytes())
	require.NoError(t, err)
	require.Equal(t, map[string][]byte{made.ID: drawing}, came.Symbols)
	document, err := json.Marshal(d)
	require.NoError(t, err)
	_, err = bundle.Read(packed(t, map[string]string{"design.json": string(document),
		"symbols/" + made.ID + ".svg": strings.Replace(string(drawing), "Knife", "Spoon", 1)}))
	require.ErrorContains(t, err, "changed by hand")
	unused, err := bundle.Read(packed(t, map[string]string{"design.json": string(document),
		"symbols/own-000000000000.svg": "kelp"}))
	require.NoError(t, err, "what is not used is left out")
	require.Empty(t, unused.Symbols)
	require.Error(t, bundle.Write(&file, d,
		bundle.Source{Fonts: none, Symbol: func(id string) ([]byte, error) {
			return nil,
				&symbols.UnknownError{ID: id}
		}}))
}

func TestBadFilesAreRefusedInWords(t *testing.T) {
	data := logo(t, 40)
	document, err := json.Marshal(withPicture(t, picture.Hash(data)))
	require.NoError(t, err)
	many := map[string]string{}
	for i := range bundle.MostEntries + 1 {
		many[strings.Repeat("x", i+1)] = ""
	}
	good := packed(t, map[string]string{"design.json": string(document), "pictures/a.png": string(data),
		"pictures/other.png": "no picture, and not asked for", "../../evil": "x"})
	came, err := bundle.Read(good)
	require.NoError(t, err)
	require.Len(t, came.Pictures, 1)
	for name, test := range map[string]struct {
		data []byte
		says string
	}{
		"broken":   {good[:len(good)/2], "broken zip"},
		"not ours": {packed(t, map[string]string{"xl/workbook.xml": "<x/>"}), "no design.json"},
		"many":     {packed(t, many), "holds 301 others"},
		"large": {packed(t, map[string]string{"design.json": strings.Repeat(" ", bundle.MostDocument+1)}),
			"larger than the 4 MB"},
		"a bomb": {packed(t, map[string]string{"design.json": string(document),
			"pictures/a.png": strings.Repeat("\x00", 30<<20)}), "larger than the 20 MB"},
		"a bad font": {packed(t, map[string]string{"design.json": string(document), "typefaces/a.ttf": "kelp"}),
			"no font file"},
		"no design": {packed(t, map[string]string{"design.json": "{}"}), "format"},
		"no JSON":   {[]byte("kelp"), "line 1, column 1"},
		"bad checksum": {bytes.Replace(packed(t, map[string]string{"design.json": "{}"}), []byte("design.json"),
			[]byte("design.jsom"), 1), ""},
	} {
		_, err := bundle.Read(test.data)
		require.ErrorContains(t, err, test.says, name)
	}
	wrong := logo(t, 50)
	broken, err := json.Marshal(withPicture(t, picture.Hash(wrong[:60])))
	require.NoError(t, err)
	_, err = bundle.Read(packed(t, map[string]string{"design.json": string(broken),
		"pictures/a.png": string(wrong[:60])}))
	require.ErrorContains(t, err, "Save it anew")
}
