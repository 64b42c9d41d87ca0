package safety

import (
	"bytes"
	"context"
	"fmt"
	"net/url"
	"strings"

	"oddspool/core/safety/symbols"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
)

// ListSymbols implements api.StrictServerInterface.
func (s *Safety) ListSymbols(ctx context.Context, req api.ListSymbolsRequestObject) (api.ListSymbolsResponseObject,
	error) {
	answer := api.ListSymbols200JSONResponse{}
	words, family := handler.Or(req.Params.Search, ""), handler.Or(req.Params.Family, "")
	if family == "" || family == symbols.OwnFamily {
		drawings, err := s.Store.OwnSymbols(ctx)
		if err != nil {
			return nil, err
		}
		for _, drawing := range drawings {
			found, err := symbols.Read(drawing)
			if err != nil {
				return nil, fmt.Errorf("read a symbol of one's own: %w", err)
			}
			if found.Answers(words) {
				answer = append(answer, toSymbol(found, ""))
			}
		}
	}
	pack, err := s.packOf(ctx, handler.Or(req.Params.Reference, ""))
	if err != nil {
		return nil, err
	}
	for _, found := range symbols.SearchIn(pack.Symbols, words, family) {
		answer = append(answer, toSymbol(found, pack.Version))
	}
	return answer, nil
}

func toSymbol(s *symbols.Symbol, version string) api.Symbol {
	return api.Symbol{Reference: version, Drawing: "/api/symbols/" + url.PathEscape(symbols.Named(version, s.ID)) +
		"/drawing", Id: s.ID, Family: s.Family, Standard: s.Standard, Number: s.Number, Name: s.Name, Means: s.Means,
		Smallest: s.Smallest, Source: s.Source, Words: handler.List(s.Words)}
}

// AddSymbol implements api.StrictServerInterface.
func (s *Safety) AddSymbol(ctx context.Context, req api.AddSymbolRequestObject) (api.AddSymbolResponseObject, error) {
	made, drawing, err := symbols.Own([]byte(req.Body.Svg),
		symbols.Facts{Name: req.Body.Name, Means: handler.Or(req.Body.Means, ""),
			Words: strings.Fields(handler.Or(req.Body.Words, ""))})
	if err != nil {
		return nil, err
	}
	if err := s.Store.AddSymbol(ctx, made.ID, drawing, s.User(ctx)); err != nil {
		return nil, err
	}
	return api.AddSymbol200JSONResponse(toSymbol(made, "")), symbols.Register(made.ID, drawing)
}

// RetireSymbol implements api.StrictServerInterface.
func (s *Safety) RetireSymbol(ctx context.Context, req api.RetireSymbolRequestObject) (api.RetireSymbolResponseObject,
	error) {
	return api.RetireSymbol204Response{}, s.Store.RetireSymbol(ctx, req.Symbol)
}

// GetSymbolDrawing implements api.StrictServerInterface.
func (s *Safety) GetSymbolDrawing(_ context.Context,
	req api.GetSymbolDrawingRequestObject) (api.GetSymbolDrawingResponseObject, error) {
	found, err := symbols.Find(req.Symbol)
	if err != nil {
		return nil, noSymbol.With(req.Symbol)
	}
	drawing := found.SVG()
	return api.GetSymbolDrawing200ImagesvgXmlResponse{Body: bytes.NewReader(drawing),
		ContentLength: int64(len(drawing)),
		Headers:       api.GetSymbolDrawing200ResponseHeaders{CacheControl: new("private, max-age=3600")}}, nil
}

// ListSymbolUses implements api.StrictServerInterface.
func (s *Safety) ListSymbolUses(ctx context.Context,
	req api.ListSymbolUsesRequestObject) (api.ListSymbolUsesResponseObject, error) {
	uses, err := s.Store.SymbolUses(ctx, req.Symbol)
	answer := make(api.ListSymbolUses200JSONResponse, len(uses))
	for i, use := range uses {
		answer[i].Id, answer[i].Name = use.ID, use.Name
	}
	return answer, err
}
