package server_test

import (
	"bytes"
	"encoding/json"
	"image"
	"image/color"
	"image/png"
	"mime/multipart"
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/picture"
	"oddspool/internal/api"
)

// bringIn sends a file as the page does.
func (s *site) bringIn(data []byte, answer any) int {
	return s.upload("/api/pictures", "logo.png", data, answer)
}

func (s *site) upload(path, name string, data []byte, answer any) int {
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	part, err := form.CreateFormFile("file", name)
	require.NoError(s.t, err)
	_, err = part.Write(data)
	require.NoError(s.t, err)
	require.NoError(s.t, form.Close())
	request, err := http.NewRequest(http.MethodPost, s.web.URL+path, &body)
	require.NoError(s.t, err)
	request.Header.Set("Content-Type", form.FormDataContentType())
	return s.send(request, answer)
}

// A picture is brought in once, comes back as it was, and is drawn on labels; one that is not there is said so.
func TestPicturesAreBroughtInAndDrawn(t *testing.T) {
	s := newSite(t)
	picture.SetSource(func(hash string) ([]byte, error) { return s.store.PictureData(t.Context(), hash) })
	t.Cleanup(func() { picture.SetSource(nil) })
	s.signIn()
	logo := image.NewGray(image.Rect(0, 0, 64, 64))
	logo.Set(3, 3, color.White)
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, logo))
	var kept, again api.KeptPicture
	require.Equal(t, 200, s.bringIn(file.Bytes(), &kept))
	require.Equal(t, 200, s.bringIn(file.Bytes(), &again))
	require.Equal(t, kept, again)
	require.Equal(t, "logo.png", kept.Name)
	require.Equal(t, 64, kept.Width)
	response, err := s.client.Get(s.web.URL + "/api/pictures/" + kept.Hash)
	require.NoError(t, err)
	defer response.Body.Close()
	require.Equal(t, "image/png", response.Header.Get("Content-Type"))
	require.Contains(t, response.Header.Get("Cache-Control"), "immutable")
	var problem api.Problem
	require.Equal(t, 404, s.do("GET", "/api/pictures/"+picture.Hash([]byte("nowhere")), nil, &problem))
	require.Equal(t, 422, s.bringIn([]byte("kelp"), &problem))
	require.Contains(t, problem.Text, "PNG, JPEG, GIF, BMP, TIFF and WebP are")

	var d api.Design
	require.Equal(t, 200, s.do("GET", "/api/designs/2", nil, &d))
	var document map[string]any
	require.NoError(t, json.Unmarshal(d.Document, &document))
	draw := func(hash string) (strip api.Strip, status int) {
		document["elements"] = []any{map[string]any{"id": "logo", "kind": "picture", "x": 2000, "y": 2000,
			"width": 20_000, "height": 20_000, "picture": map[string]any{"hash": hash}}}
		status = s.do("POST", "/api/strip", map[string]any{"document": document, "records": []int{1}}, &strip)
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
