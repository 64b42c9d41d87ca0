package designs

import (
	"context"
	"encoding/json"
	"fmt"

	"oddspool/core/design"
	"oddspool/internal/api"
	"oddspool/internal/store"
)

// ListParts implements api.StrictServerInterface.
func (s *Designs) ListParts(ctx context.Context, _ api.ListPartsRequestObject) (api.ListPartsResponseObject, error) {
	parts, err := s.Store.Parts(ctx)
	if err != nil {
		return nil, err
	}
	answer := make(api.ListParts200JSONResponse, len(parts))
	for i, p := range parts {
		answer[i] = toPart(p)
	}
	return answer, nil
}

func toPart(p store.Part) api.Part {
	made := api.Part{Id: p.ID, Name: p.Name, Version: p.Version, Elements: p.Elements.V, UpdatedBy: p.UpdatedBy,
		UpdatedAt: p.UpdatedAt, Uses: []api.PartUse{}}
	for _, use := range p.Uses.V {
		made.Uses = append(made.Uses, api.PartUse{Id: use.ID, Name: use.Name, Version: use.Version})
	}
	return made
}

// checkElements checks elements as those of a design. Its error is a *design.FaultsError.
func checkElements(elements []map[string]any) error {
	data, err := json.Marshal(elements)
	if err != nil {
		return fmt.Errorf("write a part: %w", err)
	}
	if faults := design.CheckElements(data); faults != nil {
		return &design.FaultsError{Faults: faults}
	}
	return nil
}

// AddPart implements api.StrictServerInterface.
func (s *Designs) AddPart(ctx context.Context, req api.AddPartRequestObject) (api.AddPartResponseObject, error) {
	if err := checkElements(req.Body.Elements); err != nil {
		return nil, err
	}
	added, err := s.Store.AddPart(ctx, req.Body.Name, req.Body.Elements, s.User(ctx))
	if err != nil {
		return nil, err
	}
	return api.AddPart200JSONResponse(toPart(added)), nil
}

// ChangePart implements api.StrictServerInterface.
func (s *Designs) ChangePart(ctx context.Context, req api.ChangePartRequestObject) (api.ChangePartResponseObject,
	error) {
	if err := checkElements(req.Body.Elements); err != nil {
		return nil, err
	}
	changed, err := s.Store.ChangePart(ctx, req.Id, req.Body.Version, req.Body.Elements, s.User(ctx))
	if err != nil {
		return nil, err
	}
	return api.ChangePart200JSONResponse(toPart(changed)), nil
}

// RetirePart implements api.StrictServerInterface.
func (s *Designs) RetirePart(ctx context.Context, req api.RetirePartRequestObject) (api.RetirePartResponseObject,
	error) {
	return api.RetirePart204Response{}, s.Store.RetirePart(ctx, req.Id)
}
