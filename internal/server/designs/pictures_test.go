package designs_test

import (
	"bytes"
	"encoding/json"
	"image"
	"image/color"
	"image/png"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/picture"
	"oddspool/internal/api"
)

// A picture is brought in once, comes back as it was, and is drawn on labels; one that is not there is said so.
func TestPicturesAreBroughtInAndDrawn(t *testing.T) {
	s := newSite(t)
	picture.SetSource(func(hash string) ([]byte, error) { return s.Store.PictureData(t.Context(), hash) })
	t.Cleanup(func() { picture.SetSource(nil) })
	s.SignIn()
	logo := image.NewGray(image.Rect(0, 0, 64, 64))
	logo.Set(3, 3, color.White)
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, logo))
	var kept, again api.KeptPicture
	require.Equal(t, 200, s.BringIn(file.Bytes(), &kept))
	require.Equal(t, 200, s.BringIn(file.Bytes(), &again))
	require.Equal(t, kept, again)
	require.Equal(t, "logo.png", kept.Name)
	require.Equal(t, 64, kept.Width)
	response, err := s.Client.Get(s.Web.URL + "/api/pictures/" + kept.Hash)
	require.NoError(t, err)
	defer response.Body.Close()
	require.Equal(t, "image/png", response.Header.Get("Content-Type"))
	require.Contains(t, response.Header.Get("Cache-Control"), "immutable")
	var problem api.Problem
	require.Equal(t, 404, s.Do("GET", "/api/pictures/"+picture.Hash([]byte("nowhere")), nil, &problem))
	require.Equal(t, 422, s.BringIn([]byte("kelp"), &problem))
	require.Contains(t, problem.Text, "PNG, JPEG, GIF, BMP, TIFF and WebP are")

	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/2", nil, &d))
	var document map[string]any
	require.NoError(t, json.Unmarshal(d.Document, &document))
	draw := func(hash string) (strip api.Strip, status int) {
		document["elements"] = []any{map[string]any{"id": "logo", "kind": "picture", "x": 2000, "y": 2000,
			"width": 20_000, "height": 20_000, "picture": map[string]any{"hash": hash}}}
		status = s.Do("POST", "/api/strip", map[string]any{"document": document, "records": []int{1}}, &strip)
		return strip, status
	}
	strip, status := draw(kept.Hash)
	require.Equal(t, 200, status)
	kinds := []string{}
	for _, f := range strip.Labels[0].Findings {
		kinds = append(kinds, string(f.Kind))
	}
	require.ElementsMatch(t, []string{"jagged", "blob"}, kinds, "64 dots over 160, and nearly all dark")
	_, status = draw(picture.Hash([]byte("nowhere")))
	require.Equal(t, 422, status)
}
