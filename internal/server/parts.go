package server

import (
	"context"
	"encoding/json"
	"fmt"

	"oddspool/core/design"
	"oddspool/internal/api"
	"oddspool/internal/store"
)

// ListParts implements api.StrictServerInterface.
func (s *Server) ListParts(ctx context.Context, _ api.ListPartsRequestObject) (api.ListPartsResponseObject, error) {
	parts, err := s.store.Parts(ctx)
	if err != nil {
		return nil, err
	}
	answer := make(api.ListParts200JSONResponse, len(parts))
	for i, p := range parts {
		if answer[i], err = toPart(p); err != nil {
			return nil, err
		}
	}
	return answer, nil
}

func toPart(p store.Part) (api.Part, error) {
	made := api.Part{Id: p.ID, Name: p.Name, Version: p.Version, UpdatedBy: p.UpdatedBy, UpdatedAt: p.UpdatedAt}
	if err := json.Unmarshal(p.Elements, &made.Elements); err != nil {
		return made, fmt.Errorf("read part %d: %w", p.ID, err)
	}
	if err := json.Unmarshal(p.Uses, &made.Uses); err != nil {
		return made, fmt.Errorf("read the uses of part %d: %w", p.ID, err)
	}
	return made, nil
}

// partElements checks elements as those of a design, and writes them.
func partElements(elements []map[string]any) ([]byte, error) {
	data, err := json.Marshal(elements)
	if err != nil {
		return nil, fmt.Errorf("write a part: %w", err)
	}
	if faults := design.CheckElements(data); faults != nil {
		return nil, &design.FaultsError{Faults: faults}
	}
	return data, nil
}

// AddPart implements api.StrictServerInterface.
func (s *Server) AddPart(ctx context.Context, req api.AddPartRequestObject) (api.AddPartResponseObject, error) {
	data, err := partElements(req.Body.Elements)
	if err != nil {
		return nil, err
	}
	added, err := s.store.AddPart(ctx, req.Body.Name, data, s.user(ctx))
	if err != nil {
		return nil, err
	}
	made, err := toPart(added)
	return api.AddPart200JSONResponse(made), err
}

// ChangePart implements api.StrictServerInterface.
func (s *Server) ChangePart(ctx context.Context, req api.ChangePartRequestObject) (api.ChangePartResponseObject, error) {
	data, err := partElements(req.Body.Elements)
	if err != nil {
		return nil, err
	}
	changed, err := s.store.ChangePart(ctx, req.Id, req.Body.Version, data, s.user(ctx))
	if err != nil {
		return nil, err
	}
	made, err := toPart(changed)
	return api.ChangePart200JSONResponse(made), err
}

// RetirePart implements api.StrictServerInterface.
func (s *Server) RetirePart(ctx context.Context, req api.RetirePartRequestObject) (api.RetirePartResponseObject, error) {
	return api.RetirePart204Response{}, s.store.RetirePart(ctx, req.Id)
}
