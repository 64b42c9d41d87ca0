package server

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/store"
)

// ListStocks implements api.StrictServerInterface.
func (s *Server) ListStocks(ctx context.Context, req api.ListStocksRequestObject) (api.ListStocksResponseObject, error) {
	stocks, err := s.store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	query := stock.ParseQuery(or(req.Params.Find, ""))
	answer := api.ListStocks200JSONResponse{}
	for _, found := range stocks {
		about, err := found.Is()
		if err != nil {
			return nil, fmt.Errorf("read stock %d: %w", found.ID, err)
		}
		if !query.Matches(about) || req.Params.Cable != nil && len(stock.ForCable([]stock.Stock{about}, measure.Length(*req.Params.Cable))) == 0 {
			continue
		}
		answer = append(answer, toStockRow(found, about))
	}
	return answer, nil
}

func toStockRow(found store.Stock, about stock.Stock) api.StockRow {
	return api.StockRow{Id: found.ID, Number: found.Number, About: api.About(found.About), Facts: toFacts(about), UsedAt: found.UsedAt}
}

func toFacts(s stock.Stock) api.StockFacts {
	facts := api.StockFacts{Web: int(s.WebWidth()), Pitch: int(s.Pitch()), Pieces: s.Pieces(), Tracking: string(s.Found())}
	if s.Roll != nil {
		length := int64(s.Roll.Length(s.Roll.Outside))
		facts.RollLength = &length
	}
	if smallest, largest, ok := s.Cables(); ok {
		a, b := int(smallest), int(largest)
		facts.SmallestCable, facts.LargestCable = &a, &b
	}
	if s.Sleeve != nil && s.Sleeve.Recovered > 0 {
		flat := int(s.Sleeve.FlatWidth())
		facts.FlatWidth = &flat
	}
	return facts
}

// readStock reads a stock as it was typed. A field it does not have is refused by name.
func readStock(about []byte) (stock.Stock, error) {
	var s stock.Stock
	decoder := json.NewDecoder(bytes.NewReader(about))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&s); err != nil {
		return s, refused(fmt.Sprintf("This is no stock: %v.", strings.TrimPrefix(err.Error(), "json: ")))
	}
	return s, nil
}

// possible reads a stock that is to be kept.
func possible(about []byte) (stock.Stock, error) {
	s, err := readStock(about)
	if err != nil {
		return s, err
	}
	s.Number = strings.TrimSpace(s.Number)
	if s.Number == "" || strings.TrimSpace(s.Name) == "" {
		return s, refused("A stock needs a number and a name to be found by.")
	}
	if reasons := s.Check(); reasons != nil {
		return s, refused(reasons[0].Text)
	}
	return s, nil
}

// CheckStock implements api.StrictServerInterface.
func (s *Server) CheckStock(ctx context.Context, req api.CheckStockRequestObject) (api.CheckStockResponseObject, error) {
	about, err := readStock(*req.Body)
	if err != nil {
		return nil, err
	}
	printers, err := s.store.Printers(ctx)
	if err != nil {
		return nil, err
	}
	answer := api.CheckStock200JSONResponse{Reasons: toReasons(about.Check()), Printers: []api.PrinterFit{}}
	if len(answer.Reasons) > 0 { // what follows from impossible figures means nothing
		return answer, nil
	}
	answer.Facts = toFacts(about)
	for _, p := range printers {
		does, err := p.Does()
		if err != nil {
			return nil, fmt.Errorf("read printer %d: %w", p.ID, err)
		}
		area := stock.Printable(about, does, stock.Setup{}, 0)
		answer.Printers = append(answer.Printers, api.PrinterFit{Printer: p.Name, Reasons: toReasons(stock.Fit(about, does)),
			Printable: int(max(area.Across(does.Resolution), 0))})
	}
	return answer, nil
}

func toReasons(reasons []stock.Reason) []api.Reason {
	shown := []api.Reason{}
	for _, reason := range reasons {
		shown = append(shown, api.Reason{Field: reason.Field, Text: reason.Text})
	}
	return shown
}

// AddStock implements api.StrictServerInterface.
func (s *Server) AddStock(ctx context.Context, req api.AddStockRequestObject) (api.AddStockResponseObject, error) {
	about, err := possible(*req.Body)
	if err != nil {
		return nil, err
	}
	id, err := s.store.AddStock(ctx, about)
	if err != nil {
		return nil, err
	}
	kept, err := s.store.Stock(ctx, id)
	return api.AddStock200JSONResponse(toStockRow(kept, about)), err
}

// ChangeStock implements api.StrictServerInterface.
func (s *Server) ChangeStock(ctx context.Context, req api.ChangeStockRequestObject) (api.ChangeStockResponseObject, error) {
	about, err := possible(*req.Body)
	if err != nil {
		return nil, err
	}
	if err := s.store.ChangeStock(ctx, req.Id, about); err != nil {
		return nil, err
	}
	kept, err := s.store.Stock(ctx, req.Id)
	return api.ChangeStock200JSONResponse(toStockRow(kept, about)), err
}

// RetireStock implements api.StrictServerInterface.
func (s *Server) RetireStock(ctx context.Context, req api.RetireStockRequestObject) (api.RetireStockResponseObject, error) {
	return api.RetireStock204Response{}, s.store.RetireStock(ctx, req.Id)
}
