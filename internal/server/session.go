package server

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"oddspool/internal/about"
	"oddspool/internal/api"
	"oddspool/internal/store"
)

// GetHints implements api.StrictServerInterface.
func (s *Server) GetHints(context.Context, api.GetHintsRequestObject) (api.GetHintsResponseObject, error) {
	return api.GetHints200JSONResponse{Demo: s.demo}, nil
}

// GetSession implements api.StrictServerInterface.
func (s *Server) GetSession(ctx context.Context, _ api.GetSessionRequestObject) (api.GetSessionResponseObject, error) {
	units, err := s.Store.Units(ctx, s.User(ctx))
	return api.GetSession200JSONResponse{Name: s.User(ctx), Units: api.Units(units), Page: s.page}, err
}

// ChooseUnits implements api.StrictServerInterface.
func (s *Server) ChooseUnits(ctx context.Context, req api.ChooseUnitsRequestObject) (api.ChooseUnitsResponseObject,
	error) {
	return api.ChooseUnits204Response{}, s.Store.ChooseUnits(ctx, s.User(ctx), string(req.Body.Units))
}

// SignIn implements api.StrictServerInterface.
func (s *Server) SignIn(ctx context.Context, req api.SignInRequestObject) (api.SignInResponseObject, error) {
	name, address := strings.Join(strings.Fields(req.Body.Name), " "), addressOf(ctx)
	if err := s.tries.begin(name, address, time.Now()); err != nil {
		return nil, err
	}
	select {
	case s.signing <- struct{}{}:
		defer func() { <-s.signing }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	session, err := s.Store.SignIn(ctx, name, req.Body.Password, store.Caller{Address: address, Agent: agentOf(ctx)})
	if errors.Is(err, store.ErrSignIn) {
		s.Log.Warn("a sign-in was refused", "name", name, "address", address)
	}
	if err != nil {
		return nil, err
	}
	s.tries.wasRight(name, address)
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, fmt.Errorf("begin session: %w", err)
	}
	s.sessions.Put(ctx, "name", name)
	s.sessions.Put(ctx, "session", session)
	s.sessions.Put(ctx, "seen", time.Now().UnixMilli())
	units, err := s.Store.Units(ctx, name)
	return api.SignIn200JSONResponse{Name: name, Units: api.Units(units), Page: s.page}, err
}

// addressOf returns the address that a request comes from.
func addressOf(ctx context.Context) string {
	if c, is := ctx.(*gin.Context); is {
		return c.RemoteIP()
	}
	return ""
}

// agentOf returns what the browser that a request comes from calls itself.
func agentOf(ctx context.Context) string {
	if c, is := ctx.(*gin.Context); is {
		return c.Request.UserAgent()
	}
	return ""
}

// ListSessions implements api.StrictServerInterface.
func (s *Server) ListSessions(ctx context.Context, _ api.ListSessionsRequestObject) (api.ListSessionsResponseObject,
	error) {
	sessions, err := s.Store.Sessions(ctx, s.User(ctx), s.idle, s.sessions.Lifetime)
	answer, here := make(api.ListSessions200JSONResponse, len(sessions)), s.sessions.GetInt64(ctx, "session")
	for i, is := range sessions {
		answer[i] = api.OpenSession{Id: is.ID, Address: is.Address, Agent: is.Agent, BeganAt: is.BeganAt,
			SeenAt: is.SeenAt, Here: is.ID == here}
	}
	return answer, err
}

// EndSession implements api.StrictServerInterface.
func (s *Server) EndSession(ctx context.Context, req api.EndSessionRequestObject) (api.EndSessionResponseObject,
	error) {
	err := s.Store.EndSession(ctx, s.User(ctx), req.Id)
	s.valid.Remove(req.Id)
	return api.EndSession204Response{}, err
}

// EndOtherSessions implements api.StrictServerInterface.
func (s *Server) EndOtherSessions(ctx context.Context,
	_ api.EndOtherSessionsRequestObject) (api.EndOtherSessionsResponseObject, error) {
	err := s.Store.EndOtherSessions(ctx, s.User(ctx), s.sessions.GetInt64(ctx, "session"))
	s.valid.Purge()
	return api.EndOtherSessions204Response{}, err
}

// GetAbout implements api.StrictServerInterface.
func (s *Server) GetAbout(context.Context, api.GetAboutRequestObject) (api.GetAboutResponseObject, error) {
	answer := api.GetAbout200JSONResponse{Version: about.Version(), Parts: []api.ShippedPart{}}
	for _, part := range about.Parts() {
		answer.Parts = append(answer.Parts, api.ShippedPart{Name: part.Name, Version: part.Version,
			Licence: part.Licence, Text: part.Text})
	}
	return answer, nil
}

// SignOut implements api.StrictServerInterface.
func (s *Server) SignOut(ctx context.Context, _ api.SignOutRequestObject) (api.SignOutResponseObject, error) {
	if err := s.Store.EndSession(ctx, s.User(ctx), s.sessions.GetInt64(ctx, "session")); err != nil {
		return nil, err
	}
	if err := s.sessions.Destroy(ctx); err != nil {
		return nil, fmt.Errorf("end session: %w", err)
	}
	return api.SignOut204Response{}, nil
}
