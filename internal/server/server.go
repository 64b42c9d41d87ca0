// Package server is the application as its interface sees it: Gin routes generated from api/openapi.yaml, sessions, and
// checks of what comes in. Each subject has handlers in a package of its own below this one; they are thin: the rules
// are in core, the data in store, the printing in runner.
package server

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/alexedwards/scs/postgresstore"
	"github.com/alexedwards/scs/v2"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/gin-gonic/gin"
	"github.com/hashicorp/golang-lru/v2/expirable"

	"oddspool/internal/api"
	"oddspool/internal/feeds"
	"oddspool/internal/mail"
	"oddspool/internal/press"
	"oddspool/internal/runner"
	"oddspool/internal/secrets"
	"oddspool/internal/server/designs"
	"oddspool/internal/server/handler"
	"oddspool/internal/server/printers"
	"oddspool/internal/server/records"
	"oddspool/internal/server/runs"
	"oddspool/internal/server/safety"
	"oddspool/internal/server/series"
	"oddspool/internal/store"
	"oddspool/web"
)

// Options are what a server may be told.
type Options struct {
	Log     *slog.Logger
	Secure  bool          // it is reached through TLS: cookies are marked so
	Hosts   []string      // names it is reached by; none: any
	Idle    time.Duration // after which a session ends that nobody uses; 0: IdleTime
	Longest time.Duration // after which a session ends anyway; 0: SessionTime
	Demo    *api.SignIn   // an account that the sign-in page tells; nil: none
	Box     *secrets.Box  // for passwords of other systems; nil: none are kept
	Mail    *mail.Sender  // sends labels by mail; nil: no server is known
	Issuer  safety.Issuer // of reference packs
	Folder  string        // under which files are read where they lie; empty: none are
	Out     string        // folder that labels are put into as files; empty: none is
}

// A Server answers the interface: each subject by handlers of its own.
type Server struct {
	handler.Base
	*designs.Designs
	*records.Records
	*printers.Printers
	*runs.Runs
	*series.Series
	*safety.Safety

	demo     *api.SignIn
	sessions *scs.SessionManager
	signing  chan struct{} // one slot for each password that may be checked at once
	tries    *tries
	idle     time.Duration
	valid    *expirable.LRU[int64, bool] // which sessions went on a moment ago
	handler  http.Handler
	page     string // what the page that is served now begins with
}

// How long sessions last, and what a page may do.
const (
	SessionTime   = 14 * time.Hour // a long shift
	IdleTime      = 4 * time.Hour
	sessionCookie = "oddspool"
	signingSlots  = 4 // each takes 19 MiB
	validFor      = time.Second
	contentRules  = "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; img-src 'self' data: blob:; style-src " +
		"'self' 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'; form-action 'self'"
)

// New returns a server on a migrated database, whose runner reaches printers through the same clients.
func New(s *store.Store, r *runner.Runner, clients *press.Clients, options Options) (*Server, error) {
	if options.Log == nil {
		options.Log = slog.New(slog.DiscardHandler)
	}
	base := handler.Base{Store: s, Log: options.Log, Clients: clients, Runner: r,
		Feeds: &feeds.Feeds{Store: s, Guard: clients.Guard, Box: options.Box, Folder: options.Folder, Log: options.Log}}
	sessions := scs.New()
	base.User = func(ctx context.Context) string { return sessions.GetString(ctx, "name") }
	server := &Server{Base: base, Printers: printers.New(base), Safety: safety.New(base, options.Issuer),
		demo: options.Demo, sessions: sessions, signing: make(chan struct{}, signingSlots), tries: newTries(),
		valid: expirable.NewLRU[int64, bool](0, nil, validFor)}
	var err error
	if server.Designs, err = designs.New(base, server.Printers); err != nil {
		return nil, err
	}
	server.Records = records.New(base, server.Designs)
	server.Runs = runs.New(base, server.Designs, server.Printers, options.Mail, options.Out)
	server.Series = series.New(base, server.Runs)
	sessions.Store = postgresstore.NewWithCleanupInterval(s.DB.DB, time.Hour)
	sessions.HashTokenInStore = true // whoever reads the database is nobody else
	sessions.Lifetime = cmp.Or(options.Longest, SessionTime)
	// looked at by signedIn: the sessions' own would write with every request
	server.idle = cmp.Or(options.Idle, IdleTime)
	sessions.Cookie.Name, sessions.Cookie.HttpOnly, sessions.Cookie.SameSite, sessions.Cookie.Secure = sessionCookie,
		true, http.SameSiteStrictMode, options.Secure
	sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		server.Log.Error("a session cannot be read", "path", r.URL.Path, "error", err)
		w.Header().Set("Content-Type", "application/json; charset=utf-8")
		w.WriteHeader(http.StatusServiceUnavailable)
		_ = json.NewEncoder(w).Encode(problemOf(http.StatusServiceUnavailable, handler.DatabaseAway.With()))
	}

	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	engine.ContextWithFallback = true // handlers see the request's context: its session, and its end
	engine.HandleMethodNotAllowed = true
	engine.Use(gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, recovered any) {
		server.Log.Error("a request failed", "path", c.Request.URL.Path, "panic", fmt.Sprint(recovered))
		writeProblem(c, http.StatusInternalServerError, wentWrong.With())
	}), server.watched, headers)
	check, err := server.validate()
	if err != nil {
		return nil, err
	}
	group := engine.Group("/api", server.signedIn, check)
	api.RegisterHandlersWithOptions(group,
		api.NewStrictHandlerWithOptions(server, []api.StrictMiddlewareFunc{server.noting}, api.StrictGinServerOptions{
			RequestErrorHandlerFunc:  server.refuse,
			HandlerErrorFunc:         server.fail,
			ResponseErrorHandlerFunc: server.fail,
		}), api.GinServerOptions{ErrorHandler: func(c *gin.Context, err error,
			status int) {
			writeProblem(c, status, plain(err))
		}})
	pages := interfaceOf(web.Files())
	server.page = pages.code
	engine.NoRoute(pages.serve)
	engine.NoMethod(func(c *gin.Context) {
		writeProblem(c, http.StatusMethodNotAllowed, notDoneHere.With())
	})
	guard := http.NewCrossOriginProtection()
	guard.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		server.securityEvent(r, http.StatusForbidden, "")
		http.Error(w, `{"status":403,"text":"This request comes from another site and was refused."}`,
			http.StatusForbidden)
	}))
	server.handler = server.known(options.Hosts, bodiesInTime(guard.Handler(sessions.LoadAndSave(engine))))
	if options.Secure {
		within := server.handler
		server.handler = http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			w.Header().Set("Strict-Transport-Security", "max-age=31536000") // RFC 6797
			within.ServeHTTP(w, r)
		})
	}
	return server, nil
}

// ServeHTTP implements http.Handler.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

// known refuses requests for other hosts than those that a server is reached by; without any, all are.
func (s *Server) known(hosts []string, handler http.Handler) http.Handler {
	if len(hosts) == 0 {
		return handler
	}
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		host := r.Host
		if name, _, err := net.SplitHostPort(host); err == nil {
			host = name
		}
		if !slices.ContainsFunc(hosts, func(known string) bool { return strings.EqualFold(known, host) }) {
			s.securityEvent(r, http.StatusMisdirectedRequest, "")
			w.Header().Set("Content-Type", "application/json; charset=utf-8")
			w.WriteHeader(http.StatusMisdirectedRequest)
			_ = json.NewEncoder(w).Encode(problemOf(http.StatusMisdirectedRequest, otherHost.With()))
			return
		}
		handler.ServeHTTP(w, r)
	})
}

func headers(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Content-Security-Policy", contentRules)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	if strings.HasPrefix(c.Request.URL.Path, "/api/") {
		h.Set("Cache-Control", "no-store")
	}
}

const signInPath = "/api/session"

// open are the paths that need no session.
func open(r *http.Request) bool {
	return r.URL.Path == signInPath && r.Method == http.MethodPost || r.URL.Path == "/api/hints"
}

func (s *Server) signedIn(c *gin.Context) {
	if open(c.Request) {
		return
	}
	session := s.sessions.GetInt64(c, "session")
	goesOn, kept := s.valid.Get(session)
	if !kept && session != 0 {
		var err error
		if goesOn, err = s.Store.SessionOpen(c.Request.Context(), session); err != nil {
			s.fail(c, err)
			return
		}
		s.valid.Add(session, goesOn)
	}
	if !goesOn {
		writeProblem(c, http.StatusUnauthorized, notSignedIn.With())
		return
	}
	now, seen := time.Now(), time.UnixMilli(s.sessions.GetInt64(c, "seen"))
	if now.Sub(seen) > s.idle {
		_ = s.sessions.Destroy(c) //nolint:errcheck // it is over all the same
		writeProblem(c, http.StatusUnauthorized, notSignedIn.With())
		return
	}
	if now.Sub(seen) > s.idle/20 {
		s.sessions.Put(c, "seen", now.UnixMilli())
		if err := s.Store.SeeSession(c.Request.Context(), session); err != nil {
			s.Log.Warn("a session is not noted", "error", err)
		}
	}
}

// user returns who is signed in.
func (s *Server) User(ctx context.Context) string { return s.sessions.GetString(ctx, "name") }

// validate checks each request against the contract.
func (s *Server) validate() (gin.HandlerFunc, error) {
	contract, err := api.GetSpec()
	if err != nil {
		return nil, fmt.Errorf("read contract: %w", err)
	}
	boundIntegers(contract)
	closed(contract)
	router, err := gorillamux.NewRouter(contract)
	if err != nil {
		return nil, fmt.Errorf("routes of contract: %w", err)
	}
	return func(c *gin.Context) {
		route, parameters, err := router.FindRoute(c.Request)
		if err != nil {
			if errors.Is(err, routers.ErrPathNotFound) || errors.Is(err, routers.ErrMethodNotAllowed) {
				writeProblem(c, http.StatusNotFound, noAddress.With())
				return
			}
			writeProblem(c, http.StatusBadRequest, plain(err))
			return
		}
		bounds := boundOf(c.Request.URL.Path, route.Operation)
		if !bounds.take(c) {
			return
		}
		input := &openapi3filter.RequestValidationInput{Request: c.Request, PathParams: parameters, Route: route,
			Options: &openapi3filter.Options{
				AuthenticationFunc: openapi3filter.NoopAuthenticationFunc, // signedIn does it
				ExcludeRequestBody: bounds.time == uploadTime,             // read as it comes
			}}
		if err := openapi3filter.ValidateRequest(c.Request.Context(), input); err != nil {
			s.refuse(c, err)
		}
	}, nil
}
