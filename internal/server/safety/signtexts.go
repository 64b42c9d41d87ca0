package safety

import (
	"context"
	"slices"
	"strings"

	"oddspool/core/safety/sign"
	"oddspool/core/safety/symbols"
	"oddspool/internal/api"
	"oddspool/internal/store"
)

// ListSignTexts implements api.StrictServerInterface.
func (s *Safety) ListSignTexts(ctx context.Context, _ api.ListSignTextsRequestObject) (api.ListSignTextsResponseObject,
	error) {
	pack, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	own, err := s.Store.SignTexts(ctx)
	answer := api.ListSignTexts200JSONResponse{}
	for _, text := range own {
		answer = append(answer, api.SignText{Id: &text.ID, Kind: text.Kind, Symbols: text.Symbols,
			Message: text.Message})
	}
	for _, text := range pack.Texts {
		answer = append(answer, api.SignText{Kind: text.Kind, Symbols: text.Symbols, Message: text.Message})
	}
	return answer, err
}

// AddSignText implements api.StrictServerInterface.
func (s *Safety) AddSignText(ctx context.Context, req api.AddSignTextRequestObject) (api.AddSignTextResponseObject,
	error) {
	b := req.Body
	made := store.SignText{Kind: b.Kind, Symbols: b.Symbols, Message: strings.TrimSpace(b.Message)}
	if made.Message == "" {
		return nil, empty.With()
	}
	if b.Kind != "" && !slices.ContainsFunc(sign.Kinds, func(k sign.Kind) bool { return k.ID == b.Kind }) {
		return nil, unknownSignalWord.With(b.Kind)
	}
	pack, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	for _, id := range b.Symbols {
		if _, err := symbols.In(pack.Version, id); err != nil {
			return nil, unknownId.With(id)
		}
	}
	id, err := s.Store.AddSignText(ctx, made, s.User(ctx))
	return api.AddSignText200JSONResponse{Id: &id, Kind: made.Kind, Symbols: made.Symbols, Message: made.Message}, err
}

// DropSignText implements api.StrictServerInterface.
func (s *Safety) DropSignText(ctx context.Context, req api.DropSignTextRequestObject) (api.DropSignTextResponseObject,
	error) {
	return api.DropSignText204Response{}, s.Store.DropSignText(ctx, req.Id)
}
