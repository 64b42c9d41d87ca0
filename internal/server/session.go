package server

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"oddspool/internal/api"
	"oddspool/internal/store"
)

// GetHints implements api.StrictServerInterface.
func (s *Server) GetHints(context.Context, api.GetHintsRequestObject) (api.GetHintsResponseObject, error) {
	return api.GetHints200JSONResponse{Demo: s.demo}, nil
}

// GetSession implements api.StrictServerInterface.
func (s *Server) GetSession(ctx context.Context, _ api.GetSessionRequestObject) (api.GetSessionResponseObject, error) {
	units, err := s.store.Units(ctx, s.user(ctx))
	return api.GetSession200JSONResponse{Name: s.user(ctx), Units: api.Units(units)}, err
}

// ChooseUnits implements api.StrictServerInterface.
func (s *Server) ChooseUnits(ctx context.Context, req api.ChooseUnitsRequestObject) (api.ChooseUnitsResponseObject, error) {
	return api.ChooseUnits204Response{}, s.store.ChooseUnits(ctx, s.user(ctx), string(req.Body.Units))
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
	number, err := s.store.SignIn(ctx, name, req.Body.Password)
	if errors.Is(err, store.ErrSignIn) {
		s.log.Warn("a sign-in was refused", "name", name, "address", address)
	}
	if err != nil {
		return nil, err
	}
	s.tries.wasRight(name, address)
	s.valid.Remove(name)
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, fmt.Errorf("begin session: %w", err)
	}
	s.sessions.Put(ctx, "name", name)
	s.sessions.Put(ctx, "number", number)
	s.sessions.Put(ctx, "seen", time.Now().UnixMilli())
	units, err := s.store.Units(ctx, name)
	return api.SignIn200JSONResponse{Name: name, Units: api.Units(units)}, err
}

// addressOf returns the address that a request comes from.
func addressOf(ctx context.Context) string {
	if c, is := ctx.(*gin.Context); is {
		return c.RemoteIP()
	}
	return ""
}

// SignOut implements api.StrictServerInterface.
func (s *Server) SignOut(ctx context.Context, _ api.SignOutRequestObject) (api.SignOutResponseObject, error) {
	if err := s.sessions.Destroy(ctx); err != nil {
		return nil, fmt.Errorf("end session: %w", err)
	}
	return api.SignOut204Response{}, nil
}
