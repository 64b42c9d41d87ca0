package runs_test

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/api"
	"oddspool/internal/server"
)

func TestLabelsArePutIntoAFolder(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "labels")
	s := newSiteWith(t, server.Options{Out: folder})
	s.SignIn()
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &run))
	path := fmt.Sprintf("/api/runs/%d/labels/folder", run.Id)
	require.Contains(t, s.Problem(507, "POST", path, `{"format": "png"}`),
		"The folder for label files takes no file: no such file or directory.")
	require.NoError(t, os.Mkdir(folder, 0o700))
	var put struct {
		Name   string
		Labels int
	}
	for n, want := range []string{"run-%d-png.zip", "run-%d-png-2.zip", "run-%d-png-3.zip"} {
		require.Equal(t, 200, s.Do("POST", path, `{"format": "png", "labels": "2-5"}`, &put))
		require.Equal(t, fmt.Sprintf(want, run.Id), put.Name)
		require.Equal(t, 4, put.Labels)
		there, err := os.ReadDir(folder)
		require.NoError(t, err)
		require.Len(t, there, n+1, "nothing else is left there")
	}
	data, err := os.ReadFile(filepath.Join(folder, put.Name))
	require.NoError(t, err)
	packed, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	require.Len(t, packed.File, 4)
	require.Equal(t, "label-2.png", packed.File[0].Name)

	plain := newSite(t)
	plain.SignIn()
	require.Contains(t, plain.Problem(422, "POST", "/api/runs/1/labels/folder", `{"format": "pdf"}`),
		"knows no folder for label files")
}

// While somebody takes a file slowly, others see how far it is; when it is whole or broken off, it is no longer under
// way.
func TestHowFarAFileIs(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		`{"designId": 2, "recordSetId": 2, "choice": {"records": "", "howMany": {"each": 40}, "printerId": 0}}`, &run))
	var far struct{ Written, Of int }
	look := func() {
		require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d/labels/progress", run.Id), nil, &far))
	}
	look()
	require.Zero(t, far.Of)
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	request, err := http.NewRequestWithContext(ctx, http.MethodGet,
		s.Web.URL+fmt.Sprintf("/api/runs/%d/labels/file?format=pwg", run.Id), nil)
	require.NoError(t, err)
	response, err := s.Client.Do(request)
	require.NoError(t, err)
	_, err = io.ReadFull(response.Body, make([]byte, 1000))
	require.NoError(t, err)
	look()
	require.Equal(t, run.Labels, far.Of)
	require.Less(t, far.Written, far.Of)
	stop()
	response.Body.Close()
	require.Eventually(t, func() bool { look(); return far.Of == 0 }, 10*time.Second, 50*time.Millisecond)
}
