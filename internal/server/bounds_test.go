package server_test

import (
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// post sends a body as what it is said to be and returns the answer's status and words.
func (s *site) post(method, path, kind, body string) (int, string) {
	request, err := http.NewRequest(method, s.Web.URL+path, strings.NewReader(body))
	require.NoError(s.T, err)
	request.Header.Set("Content-Type", kind)
	response, err := s.Client.Do(request)
	require.NoError(s.T, err)
	defer response.Body.Close()
	data, err := io.ReadAll(response.Body)
	require.NoError(s.T, err)
	require.Less(s.T, len(data), 20_000, "%s %s", method, path)
	return response.StatusCode, string(data)
}

// What comes in is judged by its route before it is worked on, whatever it calls itself.
func TestBodiesAreBoundedByTheirRoutes(t *testing.T) {
	s := newSite(t)
	status, words := s.post("POST", "/api/session", "application/json", strings.Repeat("[", 5000))
	require.Equal(t, 400, status)
	require.Contains(t, words, "deeper than 32 levels")
	status, _ = s.post("POST", "/api/session", "application/json",
		`{"name": "`+strings.Repeat("a", 9000)+`", "password": "b"}`)
	require.Equal(t, 413, status, "before sign-in little is read")
	status, words = s.post("POST", "/api/session", "multipart/form-data; boundary=x", `{"name": "a", "password": "b"}`)
	require.Equal(t, 415, status)
	require.Contains(t, words, "This takes application/json.")
	s.SignIn()
	for body, want := range map[string]string{
		`{"designId": 1e`: "no JSON", `{"designId": ` + strings.Repeat("9", 100) + `}`: "has 100 digits",
		`{"designId": 9223372036854775808}`: "not understood",
		`{"designId": 1, "recordSetId": 1, "choice": {"records": "\u0000", "howMany": {"each": 1}, "printerId": 1}}`: "NUL",
		`{"designId": 1, "recordSetId": 1, "choice": {"records": "` + "\xff" +
			`", "howMany": {"each": 1}, "printerId": 1}}`: "not UTF-8",
		`{"designId": 1, "recordSetId": 1, "choice": {"records": "", "howMany": {"each": 2147483648}, "printerId": 1}}`: "it is 2147483648, and can be at most 1000000",
		`{"designId": 1, "x": [` + strings.Repeat("1,", 600_000) +
			`1]}`: "more than 500000 values",
		strings.Repeat(" ", 5<<20): "too large",
	} {
		status, words := s.post("POST", "/api/runs", "application/json", body)
		require.Contains(t, []int{400, 413}, status, "%.60s: %s", body, words)
		if status == 400 {
			require.Contains(t, words, want, "%.60s", body)
		}
	}
	for _, path := range []string{"/api/runs/9223372036854775807", "/api/stocks?find=%00", "/api/stocks?find=%ff",
		"/api/record-sets/1/records?from=2147483648", "/api/printers/1/web?skip=99999999999"} {
		status, words := s.post("GET", path, "", "")
		require.Contains(t, []int{400, 404}, status, "%s: %s", path, words)
	}
	many := &strings.Builder{}
	for i := range 5000 {
		fmt.Fprintf(many, `"k%d": 1, `, i)
	}
	status, _ = s.post("POST", "/api/designs", "application/json", `{"document": {`+many.String()+`"a": 1}}`)
	require.Contains(t, []int{400, 422}, status)
}

// A member that the contract does not name is refused with its path, wherever it stands.
func TestUnknownMembersAreRefused(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	for body, says := range map[string]string{
		`{"designId": 2, "recordSetId": 2, "kelp": 1}`:                                                                                      "“kelp” is not known",
		`{"designId": 2, "recordSetId": 2, "choice": {"records": "", "printerId": 1, "howMany": {"each": 1, "eech": 2}}}`:                   "choice.howMany: “eech” is not known",
		`{"designId": 2, "recordSetId": 2, "choice": {"records": "", "printerId": 1, "howMany": {"each": 1}, "besides": [{"kelp": true}]}}`: "choice.besides.0",
	} {
		require.Contains(t, s.Problem(400, "POST", "/api/runs", body), says)
	}
	require.Contains(t, s.Problem(400, "POST", "/api/session", `{"name": "Maren", "password": "x", "remember": true}`),
		"“remember” is not known")
}
