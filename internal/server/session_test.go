package server_test

import (
	"context"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/server"
	"oddspool/internal/store"
)

// Wrong tries slow the next ones down, and keep nobody waiting who knows the password.
func TestWrongSignInsAreSlowedDown(t *testing.T) {
	s := newSite(t)
	ctx := context.Background()
	require.NoError(t, s.Store.AddAccount(ctx, "Ines", "fog over the salt shed"))
	s.SignIn()
	var group sync.WaitGroup
	var mutex sync.Mutex
	got := map[int]int{}
	for i := range 60 {
		name := "Ines"
		if i >= 40 {
			name = fmt.Sprintf("nobody %d", i)
		}
		group.Go(func() {
			status := s.Do("POST", "/api/session", api.SignIn{Name: name, Password: "a wrong password"}, nil)
			mutex.Lock()
			defer mutex.Unlock()
			got[status]++
		})
	}
	group.Wait()
	require.Equal(t, 60, got[401]+got[429], "%v", got)
	require.GreaterOrEqual(t, got[429], 20, "five of an account are looked at, then it takes time")
	require.Eventually(t, func() bool { // each more makes the pause twice as long
		var problem api.Problem
		return s.Do("POST", "/api/session", api.SignIn{Name: " Ines ", Password: "a wrong password"},
			&problem) == 429 && strings.Contains(problem.Text, "Try again in")
	}, 10*time.Second, 10*time.Millisecond)
	s.SignIn() // one who was right from here before
}

// A new password, or closing the account, ends the sessions there are.
func TestSessionsEndWithTheirPassword(t *testing.T) {
	s := newSite(t)
	ctx := context.Background()
	s.SignIn()
	require.Equal(t, 200, s.Do("GET", "/api/floor", nil, nil))
	require.NoError(t, s.Store.AddAccount(ctx, demo.Name, "fog over the salt shed"))
	require.Eventually(t, func() bool { return s.Do("GET", "/api/floor", nil, nil) == 401 }, 5*time.Second,
		50*time.Millisecond)
	require.Equal(t, 200, s.Do("POST", "/api/session", api.SignIn{Name: demo.Name, Password: "fog over the salt shed"},
		nil))
	require.Equal(t, 200, s.Do("GET", "/api/floor", nil, nil))
	require.NoError(t, s.Store.CloseAccount(ctx, demo.Name))
	require.Eventually(t, func() bool { return s.Do("GET", "/api/floor", nil, nil) == 401 }, 5*time.Second,
		50*time.Millisecond)
}

func TestIdleSessionsEnd(t *testing.T) {
	s := newSiteWith(t, server.Options{Idle: 2 * time.Second})
	s.SignIn()
	for range 4 { // in use, it goes on
		time.Sleep(600 * time.Millisecond)
		require.Equal(t, 200, s.Do("GET", "/api/floor", nil, nil))
	}
	time.Sleep(2200 * time.Millisecond)
	require.Equal(t, 401, s.Do("GET", "/api/floor", nil, nil))
}

func TestServersAreReachedByTheirNamesOnly(t *testing.T) {
	s := newSiteWith(t, server.Options{Hosts: []string{"labels.brinewick.example"}, Secure: true})
	get := func(host string) *http.Response {
		request, err := http.NewRequest(http.MethodGet, s.Web.URL+"/api/hints", nil)
		require.NoError(t, err)
		request.Host = host
		response, err := s.Client.Do(request)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		return response
	}
	require.Equal(t, http.StatusMisdirectedRequest, get("elsewhere.example").StatusCode)
	known := get("Labels.Brinewick.example:8443")
	require.Equal(t, http.StatusOK, known.StatusCode)
	require.Contains(t, known.Header.Get("Strict-Transport-Security"), "max-age=")
}

// Who is signed in sees where, and can end it; nobody else can.
func TestSessionsAreSeenAndEnded(t *testing.T) {
	s := newSite(t)
	require.NoError(t, s.Store.AddAccount(context.Background(), "Ines", "fog over the salt shed"))
	s.SignIn()
	other := s.Another()
	other.SignIn()
	stranger := s.Another()
	require.Equal(t, 200, stranger.Do("POST", "/api/session",
		api.SignIn{Name: "Ines", Password: "fog over the salt shed"}, nil))

	var sessions, strange []api.OpenSession
	require.Equal(t, 200, s.Do("GET", "/api/sessions", nil, &sessions))
	require.Len(t, sessions, 2)
	require.False(t, sessions[0].Here, "the latest first")
	require.True(t, sessions[1].Here)
	require.NotEmpty(t, sessions[0].Address)
	require.Contains(t, sessions[0].Agent, "Go-http-client")
	require.Equal(t, 200, stranger.Do("GET", "/api/sessions", nil, &strange))
	require.Len(t, strange, 1)

	require.Equal(t, 404, stranger.Do("DELETE", fmt.Sprintf("/api/sessions/%d", sessions[0].Id), nil, nil),
		"not another's")
	require.Equal(t, 200, other.Do("GET", "/api/floor", nil, nil))
	require.Equal(t, 204, s.Do("DELETE", fmt.Sprintf("/api/sessions/%d", sessions[0].Id), nil, nil))
	require.Equal(t, 401, other.Do("GET", "/api/floor", nil, nil))
	require.Equal(t, 404, s.Do("DELETE", fmt.Sprintf("/api/sessions/%d", sessions[0].Id), nil, nil), "once")

	other.SignIn()
	require.Equal(t, 204, s.Do("DELETE", "/api/sessions", nil, nil))
	require.Equal(t, 401, other.Do("GET", "/api/floor", nil, nil))
	require.Equal(t, 200, s.Do("GET", "/api/floor", nil, nil), "but the one that asked")
	require.Equal(t, 200, stranger.Do("GET", "/api/floor", nil, nil))
	require.Equal(t, 204, s.Do("DELETE", "/api/session", nil, nil))
	require.Equal(t, 401, s.Do("GET", "/api/sessions", nil, nil))
}

func TestAboutTellsWhatShips(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var shipped api.Shipped
	require.Equal(t, 200, s.Do("GET", "/api/about", nil, &shipped))
	names := map[string]string{}
	for _, part := range shipped.Parts {
		names[part.Name] = part.Text
	}
	require.Contains(t, names["vue"], "Permission is hereby granted")
	require.Contains(t, names["@fontsource/ibm-plex-sans"], "SIL OPEN FONT LICENSE")
	require.Contains(t, names["github.com/gin-gonic/gin"], "MIT")
}

// Who did what is told: of a run all that was done with it, and of the plant everything.
func TestDeedsAreToldWithWhoDidThem(t *testing.T) {
	s := newSite(t)
	ctx := context.Background()
	require.NoError(t, s.Store.AddAccount(ctx, "Ines", "fog over the salt shed"))
	s.SignIn()
	other := s.Another()
	require.Equal(t, 200, other.Do("POST", "/api/session", api.SignIn{Name: "Ines", Password: "fog over the salt shed"},
		nil))

	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs", api.PrepareRun{DesignId: 2, RecordSetId: new(int64(1))}, &run))
	require.Equal(t, 200, other.Do("POST", fmt.Sprintf("/api/runs/%d/prints", run.Id),
		api.StartPrint{Kind: "sample", Labels: new("1-2")}, &run))
	require.Equal(t, 404, other.Do("POST", "/api/runs/99/prints", api.StartPrint{Kind: "rest"}, nil),
		"what came to nothing is no entry")
	require.Contains(t, []int{204, 404, 409}, other.Do("POST", fmt.Sprintf("/api/prints/%d/cancel", run.Prints[0].Id),
		nil, nil), "it may have been printed by now")
	require.Equal(t, 204, other.Do("DELETE", "/api/session", nil, nil))

	var all, ofRun []api.AuditEntry
	require.Equal(t, 200, s.Do("GET", "/api/audit", nil, &all))
	require.Equal(t, "Ines", all[0].By)
	require.Equal(t, "signed out", all[0].Did)
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/audit?run=%d", run.Id), nil, &ofRun))
	require.GreaterOrEqual(t, len(ofRun), 2)
	first, second := ofRun[len(ofRun)-1], ofRun[len(ofRun)-2]
	require.Equal(t, demo.Name+" prepared the run of "+run.Name, first.By+" "+first.Did+" "+first.Name)
	require.Equal(t, "Ines began to print the run of "+run.Name, second.By+" "+second.Did+" "+second.Name)
	for _, entry := range ofRun {
		require.Equal(t, run.Id, *entry.RunId)
	}
	var setup api.Setup
	require.Equal(t, 200, s.Do("POST", "/api/printers/1/setups",
		map[string]any{"about": api.SetupAbout{Name: "cold hall"}}, &setup))
	require.Equal(t, 204, s.Do("DELETE", fmt.Sprintf("/api/setups/%d", setup.Id), nil, nil))
	require.Equal(t, 200, s.Do("GET", "/api/audit", nil, &all))
	require.Equal(t, "deleted the print set-up cold hall", all[0].Did+" "+all[0].Name, "by the name it had")
	require.Equal(t, setup.Id, all[1].SubjectId)
	require.Equal(t, 200, s.Do("GET", "/api/audit?run=99", nil, &ofRun))
	require.Empty(t, ofRun)
}

// What is done is noted, also where who asked for it goes away before that.
func TestWhatIsDoneIsNoted(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	s.leaving("audit", "%into audit%", "/api/printers/1/setups", `{"about": {"name": "fog"}}`)
	var all []api.AuditEntry
	require.Equal(t, 200, s.Do("GET", "/api/audit", nil, &all))
	require.Equal(t, "added the print set-up fog", all[0].Did+" "+all[0].Name)
}

// A scan that is kept also stops the printer, whoever leaves.
func TestAScanStopsThePrinter(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	run := s.Prepare(s.Numbered("datamatrix", []design.Piece{{Field: "bin"}}), "1-3", 1)
	require.NoError(t, s.Printer.Close())
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Equal(t, 200, s.Do("POST", path+"/prints", `{"kind": "all"}`, &run), "it waits for its printer")
	s.leaving("prints", "%set pause_by%", path+"/scans", `{"scanned": "K-99", "stop": true}`)
	var scans api.Scans
	require.Equal(t, 200, s.Do("GET", path+"/scans", nil, &scans))
	require.Equal(t, 1, scans.Wrong)
	p, err := s.Store.Print(t.Context(), run.Prints[0].Id)
	require.NoError(t, err)
	require.True(t, p.PauseBy != nil || p.State == store.PrintHeld)
}

// leaving posts to an address, and leaves while a statement waits for a table; it returns when the server is through
// with the request.
func (s *site) leaving(table, statement, path, body string) {
	at, err := url.Parse(s.Web.URL)
	require.NoError(s.T, err)
	ctx, leave := context.WithCancel(s.T.Context())
	request := httptest.NewRequestWithContext(ctx, "POST", path, strings.NewReader(body))
	request.Header.Set("Content-Type", "application/json")
	for _, cookie := range s.Client.Jar.Cookies(at) {
		request.AddCookie(cookie)
	}
	held, err := s.Store.DB.Beginx()
	require.NoError(s.T, err)
	_, err = held.Exec(`lock table ` + table + ` in exclusive mode`)
	require.NoError(s.T, err)
	over := make(chan struct{})
	go func() {
		defer close(over)
		s.Web.Config.Handler.ServeHTTP(httptest.NewRecorder(), request)
	}()
	const waits = `select exists (select 1 from pg_stat_activity where wait_event_type = 'Lock' and query like $1)`
	require.Eventually(s.T, func() (waiting bool) {
		return s.Store.DB.Get(&waiting, waits, statement) == nil &&
			waiting
	}, 10*time.Second, 10*time.Millisecond)
	leave()
	require.NoError(s.T, held.Commit())
	<-over
}
