// Package server is the application as its interface sees it: Gin routes generated from
// api/openapi.yaml, sessions, and checks of what comes in. Handlers are thin: the rules are in
// core, the data in store, the printing in runner.
package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/alexedwards/scs/postgresstore"
	"github.com/alexedwards/scs/v2"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/gin-gonic/gin"

	"oddspool/internal/api"
	"oddspool/internal/press"
	"oddspool/internal/runner"
	"oddspool/internal/store"
	"oddspool/web"
)

// Options are what a server may be told.
type Options struct {
	Log    *slog.Logger
	Secure bool        // it is reached through TLS: cookies are marked so
	Demo   *api.SignIn // an account that the sign-in page tells; nil: none
}

// A Server answers the interface.
type Server struct {
	store    *store.Store
	runner   *runner.Runner
	clients  *press.Clients
	log      *slog.Logger
	demo     *api.SignIn
	sessions *scs.SessionManager
	floor    *floor
	seen     *seen
	signing  chan struct{} // one slot for each password that may be checked at once
	handler  http.Handler
}

// How long sessions last, and what a page may do.
const (
	sessionTime  = 14 * time.Hour // a long shift; fixed, so that no request must write it down
	signingSlots = 2              // each takes 64 MiB
	contentRules = "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'; form-action 'self'"
)

// New returns a server on a migrated database, whose runner reaches printers through the same clients.
func New(s *store.Store, r *runner.Runner, clients *press.Clients, options Options) (*Server, error) {
	if options.Log == nil {
		options.Log = slog.New(slog.DiscardHandler)
	}
	server := &Server{store: s, runner: r, clients: clients, log: options.Log, demo: options.Demo, signing: make(chan struct{}, signingSlots)}
	server.floor = newFloor(server)
	var err error
	if server.seen, err = newSeen(); err != nil {
		return nil, err
	}
	sessions := scs.New()
	sessions.Store = postgresstore.NewWithCleanupInterval(s.DB.DB, time.Hour)
	sessions.Lifetime = sessionTime
	sessions.Cookie.Name, sessions.Cookie.HttpOnly, sessions.Cookie.SameSite, sessions.Cookie.Secure = "oddspool", true, http.SameSiteStrictMode, options.Secure
	sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		server.log.Error("a session cannot be read", "path", r.URL.Path, "error", err)
		w.Header().Set("Content-Type", "application/json; charset=utf-8")
		w.WriteHeader(http.StatusServiceUnavailable)
		_ = json.NewEncoder(w).Encode(api.Problem{Status: http.StatusServiceUnavailable, Text: databaseAway})
	}
	server.sessions = sessions

	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	engine.ContextWithFallback = true // handlers see the request's context: its session, and its end
	engine.HandleMethodNotAllowed = true
	engine.Use(gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, recovered any) {
		server.log.Error("a request failed", "path", c.Request.URL.Path, "panic", fmt.Sprint(recovered))
		writeProblem(c, http.StatusInternalServerError, "Something went wrong in the server. Nothing that was kept is lost; try again.", nil)
	}), headers)
	check, err := server.validate()
	if err != nil {
		return nil, err
	}
	group := engine.Group("/api", server.signedIn, check)
	api.RegisterHandlersWithOptions(group, api.NewStrictHandlerWithOptions(server, nil, api.StrictGinServerOptions{
		RequestErrorHandlerFunc:  server.refuse,
		HandlerErrorFunc:         server.fail,
		ResponseErrorHandlerFunc: server.fail,
	}), api.GinServerOptions{ErrorHandler: func(c *gin.Context, err error, status int) { writeProblem(c, status, plain(err), nil) }})
	engine.NoRoute(serveInterface(web.Files()))
	engine.NoMethod(func(c *gin.Context) {
		writeProblem(c, http.StatusMethodNotAllowed, "This cannot be done here.", nil)
	})
	guard := http.NewCrossOriginProtection()
	guard.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		http.Error(w, `{"status":403,"text":"This request comes from another site and was refused."}`, http.StatusForbidden)
	}))
	server.handler = guard.Handler(sessions.LoadAndSave(engine))
	return server, nil
}

// ServeHTTP implements http.Handler.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

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
	if !open(c.Request) && s.user(c) == "" {
		writeProblem(c, http.StatusUnauthorized, "You are not signed in, or were away for long. Sign in again; drafts are kept.", nil)
	}
}

// user returns who is signed in.
func (s *Server) user(ctx context.Context) string { return s.sessions.GetString(ctx, "name") }

// validate checks each request against the contract.
func (s *Server) validate() (gin.HandlerFunc, error) {
	contract, err := api.GetSpec()
	if err != nil {
		return nil, fmt.Errorf("read contract: %w", err)
	}
	boundIntegers(contract)
	router, err := gorillamux.NewRouter(contract)
	if err != nil {
		return nil, fmt.Errorf("routes of contract: %w", err)
	}
	return func(c *gin.Context) {
		route, parameters, err := router.FindRoute(c.Request)
		if err != nil {
			if errors.Is(err, routers.ErrPathNotFound) || errors.Is(err, routers.ErrMethodNotAllowed) {
				writeProblem(c, http.StatusNotFound, "There is nothing at this address.", nil)
				return
			}
			writeProblem(c, http.StatusBadRequest, plain(err), nil)
			return
		}
		bounds := boundOf(c.Request.URL.Path, route.Operation)
		if !bounds.take(c) {
			return
		}
		input := &openapi3filter.RequestValidationInput{Request: c.Request, PathParams: parameters, Route: route, Options: &openapi3filter.Options{
			AuthenticationFunc: openapi3filter.NoopAuthenticationFunc, // signedIn does it
			ExcludeRequestBody: bounds.time == uploadTime,             // read as it comes
		}}
		if err := openapi3filter.ValidateRequest(c.Request.Context(), input); err != nil {
			s.refuse(c, err)
		}
	}, nil
}

// serveInterface serves the built interface; an address of its own making gets the page, which
// finds its place by itself.
func serveInterface(files fs.FS) gin.HandlerFunc {
	server := http.FileServerFS(files)
	return func(c *gin.Context) {
		path := strings.TrimPrefix(c.Request.URL.Path, "/")
		if strings.HasPrefix(path, "api/") {
			writeProblem(c, http.StatusNotFound, "There is nothing at this address.", nil)
			return
		}
		if info, err := fs.Stat(files, path); path != "" && err == nil && !info.IsDir() {
			if strings.HasPrefix(path, "assets/") { // their names change with their contents
				c.Header("Cache-Control", "public, max-age=31536000, immutable")
			}
			server.ServeHTTP(c.Writer, c.Request)
			return
		}
		page, err := fs.ReadFile(files, "index.html")
		if err != nil {
			page, err = fs.ReadFile(files, "placeholder.html")
		}
		if err != nil {
			c.Status(http.StatusNotFound)
			return
		}
		c.Header("Cache-Control", "no-cache")
		c.Data(http.StatusOK, "text/html; charset=utf-8", page)
	}
}
