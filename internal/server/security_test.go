package server_test

import (
	"bufio"
	"bytes"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/api"
	"oddspool/internal/server"
)

// Tokens of sessions are not to be found in the database.
func TestTokensAreKeptHashed(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	at, err := url.Parse(s.Web.URL)
	require.NoError(t, err)
	cookies := s.Client.Jar.Cookies(at)
	require.Len(t, cookies, 1)
	var all, plain int
	require.NoError(t, s.Store.DB.Get(&all, `select count(*) from sessions`))
	require.NoError(t, s.Store.DB.Get(&plain, `select count(*) from sessions where token = $1`, cookies[0].Value))
	require.Equal(t, []int{1, 0}, []int{all, plain})
}

// logged keeps what is logged.
type logged struct {
	mutex sync.Mutex
	bytes.Buffer
}

func (l *logged) Write(p []byte) (int, error) {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	return l.Buffer.Write(p)
}

func (l *logged) text() string {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	return l.Buffer.String()
}

// Who is not let in is logged, with what they tried and from where.
func TestSecurityEventsAreLogged(t *testing.T) {
	var log logged
	s := newSiteWith(t, server.Options{Log: slog.New(slog.NewTextHandler(&log, nil)), Hosts: []string{"127.0.0.1"}})
	s.Problem(401, "GET", "/api/designs", nil)
	for range 6 {
		s.Do("POST", "/api/session", api.SignIn{Name: "Maren", Password: "not-her-password"}, nil)
	}
	request, err := http.NewRequest("POST", s.Web.URL+"/api/session", strings.NewReader("{}"))
	require.NoError(t, err)
	request.Header.Set("Sec-Fetch-Site", "cross-site")
	require.Equal(t, 403, s.Send(request, nil))
	request, err = http.NewRequest("GET", s.Web.URL+"/api/floor", nil)
	require.NoError(t, err)
	request.Host = "kelp.example"
	require.Equal(t, 421, s.Send(request, nil))
	for _, event := range []string{`event="not signed in" status=401 method=GET path=/api/designs address=127.0.0.1`,
		`event="too many tries" status=429 method=POST`, `event=forbidden status=403`,
		`event="another host" status=421`} {
		require.Contains(t, log.text(), event)
	}
	require.NotContains(t, log.text(), "not-her-password")
}

// A request that refers to what is not there is refused in words that name it, whatever it is.
func TestWhatIsNotThereIsNamed(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	for body, says := range map[string]string{
		`{"name": "A", "stockId": 1, "printerId": 1, "recordSetId": 9999}`: "no record set 9999",
		`{"name": "B", "stockId": 1, "printerId": 9999}`:                   "no printer 9999",
		`{"name": "C", "stockId": 9999, "printerId": 1}`:                   "no stock 9999",
	} {
		var problem api.Problem
		status := s.Do("POST", "/api/designs", body, &problem)
		require.Contains(t, []int{404, 422}, status, body)
		require.Contains(t, problem.Text, says)
	}
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/1", nil, &d))
	for _, member := range []string{"recordSetId", "printerId"} {
		var problem api.Problem
		status := s.Do("PUT", "/api/designs/1", fmt.Sprintf(`{"edit": %d, "document": %s, %q: 9999}`, d.Edit,
			d.Document, member), &problem)
		require.Contains(t, []int{404, 422}, status, "%s: %s", member, problem.Text)
		require.Contains(t, problem.Text, "9999")
	}
}

// A body that does not come ends its connection in time, wherever it was sent to, and also where it is not read at all.
func TestBodiesThatDoNotComeEndTheirConnection(t *testing.T) {
	s := newSite(t)
	for _, path := range []string{"/api/session", "/api/designs", "/api/nowhere", "/nowhere", "/api/hints"} {
		t.Run(path, func(t *testing.T) {
			t.Parallel()
			at, err := url.Parse(s.Web.URL)
			require.NoError(t, err)
			line, err := net.Dial("tcp", at.Host)
			require.NoError(t, err)
			defer line.Close()
			_, err = fmt.Fprintf(line, "POST %s HTTP/1.1\r\nHost: %s\r\nContent-Type: "+
				"application/json\r\nContent-Length: 100\r\n\r\n{", path, at.Host)
			require.NoError(t, err)
			require.NoError(t, line.SetReadDeadline(time.Now().Add(time.Minute)))
			began := time.Now()
			_, err = io.Copy(io.Discard, bufio.NewReader(line))
			require.NoError(t, err, "the server closed it")
			t.Log("after", time.Since(began))
		})
	}
}
