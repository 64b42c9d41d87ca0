// Package servertest starts a server with the demonstration's data, and a browser at it, for tests.
package servertest

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/require"

	"encoding/csv"
	"mime/multipart"

	"github.com/xuri/excelize/v2"

	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/feeds"
	"oddspool/internal/press"
	"oddspool/internal/runner"
	"oddspool/internal/server"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
	"oddspool/standin"
)

// A Site is a server with the demonstration's data, and a browser at it.
type Site struct {
	T       testing.TB
	Web     *httptest.Server
	Client  *http.Client
	Printer *standin.Server
	Store   *store.Store
	Runner  *runner.Runner
	Feeds   *feeds.Feeds
	Server  *server.Server
}

// New starts a site.
func New(t testing.TB) *Site { return NewWith(t, server.Options{}) }

// NewWith starts a site with options.
func NewWith(t testing.TB, options server.Options) *Site {
	s := testkit.Store(t)
	device := demo.Devices()[0]
	printer, err := standin.Start(standin.Config{Printer: device.Printer, Stock: device.Stock}, "")
	require.NoError(t, err)
	reached := demo.Plant{Printers: []demo.Reached{{Printer: device.Printer, Address: printer.IPP(),
		Camera: printer.Camera()}}}
	t.Cleanup(func() { _ = printer.Close() })
	require.NoError(t, demo.Seed(context.Background(), s, reached, options.Box))
	require.NoError(t, demo.Seed(context.Background(), s, reached, options.Box), "seeding twice changes nothing")
	clients := &press.Clients{}
	runs := runner.New(s, clients, slog.New(slog.DiscardHandler))
	runs.Start(context.Background())
	t.Cleanup(func() { _ = runs.Stop(context.Background()) })
	options.Demo = &api.SignIn{Name: demo.Name, Password: demo.Password}
	handler, err := server.New(s, runs, clients, options)
	require.NoError(t, err)
	web := httptest.NewServer(handler)
	t.Cleanup(web.Close)
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	return &Site{t, web, &http.Client{Jar: jar}, printer, s, runs, handler.Feeds, handler}
}

// Another is somebody else's browser at the same site.
func (s *Site) Another() *Site {
	jar, err := cookiejar.New(nil)
	require.NoError(s.T, err)
	other := *s
	other.Client = &http.Client{Jar: jar}
	return &other
}

func (s *Site) SignIn() {
	require.Equal(s.T, 200, s.Do("POST", "/api/session", api.SignIn{Name: demo.Name, Password: demo.Password}, nil))
}

// Do sends a request with a JSON body and reads the answer into answer, where one is wanted.
func (s *Site) Do(method, path string, body, answer any) int {
	var data []byte
	switch b := body.(type) {
	case nil:
	case string:
		data = []byte(b)
	default:
		var err error
		data, err = json.Marshal(body)
		require.NoError(s.T, err)
	}
	request, err := http.NewRequest(method, s.Web.URL+path, bytes.NewReader(data))
	require.NoError(s.T, err)
	request.Header.Set("Content-Type", "application/json")
	return s.Send(request, answer)
}

func (s *Site) Send(request *http.Request, answer any) int {
	response, err := s.Client.Do(request)
	require.NoError(s.T, err)
	defer response.Body.Close()
	text, err := io.ReadAll(response.Body)
	require.NoError(s.T, err)
	truthful(s.T, request, response, text)
	if answer != nil && len(text) > 0 {
		require.NoError(s.T, json.Unmarshal(text, answer), string(text))
	}
	return response.StatusCode
}

// Problem sends a request that must be refused and returns the sentence.
func (s *Site) Problem(status int, method, path string, body any) string {
	var problem api.Problem
	require.Equal(s.T, status, s.Do(method, path, body, &problem), "%s %s: %s", method, path, problem.Text)
	require.Equal(s.T, status, problem.Status)
	return problem.Text
}

// Form sends a file with words beside it.
func (s *Site) Form(path, name, text string, words map[string]string, answer any) int {
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	for key, value := range words {
		require.NoError(s.T, form.WriteField(key, value))
	}
	part, err := form.CreateFormFile("file", name)
	require.NoError(s.T, err)
	_, err = part.Write([]byte(text))
	require.NoError(s.T, err)
	require.NoError(s.T, form.Close())
	request, err := http.NewRequest(http.MethodPost, s.Web.URL+path, &body)
	require.NoError(s.T, err)
	request.Header.Set("Content-Type", form.FormDataContentType())
	return s.Send(request, answer)
}

// BringIn sends a file as the page does.
func (s *Site) BringIn(data []byte, answer any) int {
	return s.Upload("/api/pictures", "logo.png", data, answer)
}

func (s *Site) Upload(path, name string, data []byte, answer any) int {
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	part, err := form.CreateFormFile("file", name)
	require.NoError(s.T, err)
	_, err = part.Write(data)
	require.NoError(s.T, err)
	require.NoError(s.T, form.Close())
	request, err := http.NewRequest(http.MethodPost, s.Web.URL+path, &body)
	require.NoError(s.T, err)
	request.Header.Set("Content-Type", form.FormDataContentType())
	return s.Send(request, answer)
}

// Get returns what an address answers.
func (s *Site) Get(path string) []byte {
	response, err := s.Client.Get(s.Web.URL + path)
	require.NoError(s.T, err)
	defer response.Body.Close()
	data, err := io.ReadAll(response.Body)
	require.NoError(s.T, err)
	require.Equal(s.T, 200, response.StatusCode, string(data))
	return data
}

// Table reads a table that is sent as a file.
func (s *Site) Table(path, format string) (rows [][]string) {
	response, err := s.Client.Get(s.Web.URL + path)
	require.NoError(s.T, err)
	defer response.Body.Close()
	require.Equal(s.T, http.StatusOK, response.StatusCode)
	data, err := io.ReadAll(response.Body)
	require.NoError(s.T, err)
	if format == "csv" {
		rows, err = csv.NewReader(bytes.NewReader(data)).ReadAll()
		require.NoError(s.T, err)
		return rows
	}
	book, err := excelize.OpenReader(bytes.NewReader(data))
	require.NoError(s.T, err)
	rows, err = book.GetRows(book.GetSheetName(0))
	require.NoError(s.T, err)
	for i := range rows { // empty cells at the end are not there
		rows[i] = append(rows[i], make([]string, len(rows[0])-len(rows[i]))...)
	}
	return rows
}
