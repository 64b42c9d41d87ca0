package server

import (
	"context"
	"fmt"

	"oddspool/internal/api"
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
	select {
	case s.signing <- struct{}{}:
		defer func() { <-s.signing }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	if err := s.store.SignIn(ctx, req.Body.Name, req.Body.Password); err != nil {
		return nil, err
	}
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, fmt.Errorf("begin session: %w", err)
	}
	s.sessions.Put(ctx, "name", req.Body.Name)
	units, err := s.store.Units(ctx, req.Body.Name)
	return api.SignIn200JSONResponse{Name: req.Body.Name, Units: api.Units(units)}, err
}

// SignOut implements api.StrictServerInterface.
func (s *Server) SignOut(ctx context.Context, _ api.SignOutRequestObject) (api.SignOutResponseObject, error) {
	if err := s.sessions.Destroy(ctx); err != nil {
		return nil, fmt.Errorf("end session: %w", err)
	}
	return api.SignOut204Response{}, nil
}
