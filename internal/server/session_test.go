package server_test

import (
	"context"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/server"
)

// Wrong tries slow the next ones down, and keep nobody waiting who knows the password.
func TestWrongSignInsAreSlowedDown(t *testing.T) {
	s := newSite(t)
	ctx := context.Background()
	require.NoError(t, s.store.AddAccount(ctx, "Ines", "fog over the salt shed"))
	s.signIn()
	var group sync.WaitGroup
	var mutex sync.Mutex
	got := map[int]int{}
	for i := range 60 {
		name := "Ines"
		if i >= 40 {
			name = fmt.Sprintf("nobody %d", i)
		}
		group.Go(func() {
			status := s.do("POST", "/api/session", api.SignIn{Name: name, Password: "a wrong password"}, nil)
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
		return s.do("POST", "/api/session", api.SignIn{Name: " Ines ", Password: "a wrong password"}, &problem) == 429 && strings.Contains(problem.Text, "Try again in")
	}, 10*time.Second, 10*time.Millisecond)
	s.signIn() // one who was right from here before
}

// A new password, or closing the account, ends the sessions there are.
func TestSessionsEndWithTheirPassword(t *testing.T) {
	s := newSite(t)
	ctx := context.Background()
	s.signIn()
	require.Equal(t, 200, s.do("GET", "/api/floor", nil, nil))
	require.NoError(t, s.store.AddAccount(ctx, demo.Name, "fog over the salt shed"))
	require.Eventually(t, func() bool { return s.do("GET", "/api/floor", nil, nil) == 401 }, 5*time.Second, 50*time.Millisecond)
	require.Equal(t, 200, s.do("POST", "/api/session", api.SignIn{Name: demo.Name, Password: "fog over the salt shed"}, nil))
	require.Equal(t, 200, s.do("GET", "/api/floor", nil, nil))
	require.NoError(t, s.store.CloseAccount(ctx, demo.Name))
	require.Eventually(t, func() bool { return s.do("GET", "/api/floor", nil, nil) == 401 }, 5*time.Second, 50*time.Millisecond)
}

func TestIdleSessionsEnd(t *testing.T) {
	s := newSiteWith(t, server.Options{Idle: 600 * time.Millisecond})
	s.signIn()
	for range 4 { // in use, it goes on
		time.Sleep(200 * time.Millisecond)
		require.Equal(t, 200, s.do("GET", "/api/floor", nil, nil))
	}
	time.Sleep(700 * time.Millisecond)
	require.Equal(t, 401, s.do("GET", "/api/floor", nil, nil))
}

func TestServersAreReachedByTheirNamesOnly(t *testing.T) {
	s := newSiteWith(t, server.Options{Hosts: []string{"labels.brinewick.example"}, Secure: true})
	get := func(host string) *http.Response {
		request, err := http.NewRequest(http.MethodGet, s.web.URL+"/api/hints", nil)
		require.NoError(t, err)
		request.Host = host
		response, err := s.client.Do(request)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		return response
	}
	require.Equal(t, http.StatusMisdirectedRequest, get("elsewhere.example").StatusCode)
	known := get("Labels.Brinewick.example:8443")
	require.Equal(t, http.StatusOK, known.StatusCode)
	require.Contains(t, known.Header.Get("Strict-Transport-Security"), "max-age=")
}
