package printers

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// ListStocks implements api.StrictServerInterface.
func (s *Printers) ListStocks(ctx context.Context, req api.ListStocksRequestObject) (api.ListStocksResponseObject,
	error) {
	stocks, err := s.Store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	query := stock.ParseQuery(handler.Or(req.Params.Find, ""))
	answer := api.ListStocks200JSONResponse{}
	for _, found := range stocks {
		about := found.About.V
		if !query.Matches(about) || req.Params.Cable != nil &&
			len(stock.ForCable([]stock.Stock{about}, measure.Length(*req.Params.Cable))) == 0 {
			continue
		}
		answer = append(answer, toStockRow(found))
	}
	return answer, nil
}

func toStockRow(found store.Stock) api.StockRow {
	return api.StockRow{Id: found.ID, Number: found.Number, About: handler.AsDocument(found.About.V),
		Facts: toFacts(found.About.V), UsedAt: found.UsedAt}
}

func toFacts(s stock.Stock) api.StockFacts {
	facts := api.StockFacts{Web: int(s.WebWidth()), Pitch: int(s.Pitch()), Pieces: s.Pieces(),
		Tracking: string(s.Found())}
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
		return s, impossible.With(strings.TrimPrefix(err.Error(), "json: "))
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
		return s, noName7.With()
	}
	if reasons := s.Check(); reasons != nil {
		return s, handler.Refused(reasons[0].Text)
	}
	return s, nil
}

// CheckStock implements api.StrictServerInterface.
func (s *Printers) CheckStock(ctx context.Context, req api.CheckStockRequestObject) (api.CheckStockResponseObject,
	error) {
	about, err := readStock(*req.Body)
	if err != nil {
		return nil, err
	}
	printers, err := s.Store.Printers(ctx)
	if err != nil {
		return nil, err
	}
	answer := api.CheckStock200JSONResponse{Reasons: ToReasons(about.Check()), Printers: []api.PrinterFit{}}
	if len(answer.Reasons) > 0 { // what follows from impossible figures means nothing
		return answer, nil
	}
	answer.Facts = toFacts(about)
	for _, p := range printers {
		does := p.About.V
		area := stock.Printable(about, does, stock.Setup{}, 0)
		answer.Printers = append(answer.Printers,
			api.PrinterFit{Printer: p.Name, Reasons: ToReasons(stock.Fit(about, does)),
				Printable: int(max(area.Across(does.Resolution), 0))})
	}
	return answer, nil
}

func ToReasons(reasons []stock.Reason) []api.Reason {
	shown := []api.Reason{}
	for _, reason := range reasons {
		shown = append(shown, api.Reason{Field: reason.Field, Text: reason.Text})
	}
	return shown
}

// AddStock implements api.StrictServerInterface.
func (s *Printers) AddStock(ctx context.Context, req api.AddStockRequestObject) (api.AddStockResponseObject, error) {
	about, err := possible(*req.Body)
	if err != nil {
		return nil, err
	}
	id, err := s.Store.AddStock(ctx, about)
	if err != nil {
		return nil, err
	}
	kept, err := s.Store.Stock(ctx, id)
	return api.AddStock200JSONResponse(toStockRow(kept)), err
}

// ChangeStock implements api.StrictServerInterface.
func (s *Printers) ChangeStock(ctx context.Context, req api.ChangeStockRequestObject) (api.ChangeStockResponseObject,
	error) {
	about, err := possible(*req.Body)
	if err != nil {
		return nil, err
	}
	if err := s.Store.ChangeStock(ctx, req.Id, about); err != nil {
		return nil, err
	}
	kept, err := s.Store.Stock(ctx, req.Id)
	return api.ChangeStock200JSONResponse(toStockRow(kept)), err
}

// RetireStock implements api.StrictServerInterface.
func (s *Printers) RetireStock(ctx context.Context, req api.RetireStockRequestObject) (api.RetireStockResponseObject,
	error) {
	return api.RetireStock204Response{}, s.Store.RetireStock(ctx, req.Id)
}

// AddStockOfSize implements api.StrictServerInterface.
func (s *Printers) AddStockOfSize(ctx context.Context,
	req api.AddStockOfSizeRequestObject) (api.AddStockOfSizeResponseObject, error) {
	query := stock.ParseQuery(req.Body.Size)
	width, length, ok := query.Size()
	if !ok {
		return nil, badSize.With(req.Body.Size)
	}
	about, fits := stock.OfSize(width, length), func(stock.Stock) bool { return true }
	if req.Body.PrinterId != nil {
		printer, err := s.Store.Printer(ctx, *req.Body.PrinterId)
		if err != nil {
			return nil, err
		}
		does := printer.About.V
		about, fits = stock.OfSizeFor(width, length, does),
			func(s stock.Stock) bool { return stock.Fit(s, does) == nil }
	}
	stocks, err := s.Store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	for _, found := range stocks {
		about := found.About.V
		if about.Width == width && about.Length == length && about.Kind == stock.DieCut && fits(about) {
			return api.AddStockOfSize200JSONResponse(toStockRow(found)), nil
		}
	}
	if reasons := about.Check(); reasons != nil {
		return nil, handler.Refused(reasons[0].Text)
	}
	if about.Number, err = s.Store.FreeNumber(ctx, "own-"); err != nil {
		return nil, err
	}
	id, err := s.Store.AddStock(ctx, about)
	if err != nil {
		return nil, err
	}
	kept, err := s.Store.Stock(ctx, id)
	return api.AddStockOfSize200JSONResponse(toStockRow(kept)), err
}

// GetStockFile implements api.StrictServerInterface.
func (s *Printers) GetStockFile(ctx context.Context, req api.GetStockFileRequestObject) (api.GetStockFileResponseObject,
	error) {
	kept, err := s.Store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	stocks := make([]stock.Stock, len(kept))
	for i := range kept {
		stocks[i] = kept[i].About.V
	}
	slices.SortFunc(stocks, func(a, b stock.Stock) int { return strings.Compare(a.Number, b.Number) })
	var file bytes.Buffer
	if req.Params.Format == api.GetStockFileParamsFormatCsv {
		err = stock.WriteTable(&file, stocks)
	} else {
		encoder := json.NewEncoder(&file)
		encoder.SetIndent("", "  ")
		err = encoder.Encode(stocks)
	}
	if err != nil {
		return nil, fmt.Errorf("write stocks: %w", err)
	}
	disposition := "attachment; filename=stocks." + string(req.Params.Format)
	return api.GetStockFile200ApplicationoctetStreamResponse{Body: &file, ContentLength: int64(file.Len()),
		Headers: api.GetStockFile200ResponseHeaders{ContentDisposition: &disposition}}, nil
}

// PutStockFile implements api.StrictServerInterface.
func (s *Printers) PutStockFile(ctx context.Context, req api.PutStockFileRequestObject) (api.PutStockFileResponseObject,
	error) {
	stocks, answer, err := readStockFile(strings.TrimPrefix(req.Body.Text, "\ufeff"))
	if err != nil {
		return nil, err
	}
	added, changed, taken, err := s.Store.PutStocks(ctx, stocks)
	if err != nil {
		return nil, err
	}
	answer.Added, answer.Changed = added, changed
	for _, number := range taken {
		answer.Refused = append(answer.Refused, fmt.Sprintf("%s: a stock that is retired had this number.", number))
	}
	return api.PutStockFile200JSONResponse(answer), nil
}

// readStockFile reads stocks written as JSON or as separated values.
func readStockFile(text string) (stocks []stock.Stock, answer api.StockImport, err error) {
	answer.Refused = []string{}
	if !strings.HasPrefix(strings.TrimSpace(text), "[") {
		stocks, wrong, err := stock.ReadTable(strings.NewReader(text))
		if err != nil {
			return nil, answer, handler.Refused(handler.Sentence(err.Error()))
		}
		for _, w := range wrong {
			answer.Refused = append(answer.Refused, handler.Sentence(w.Error()))
		}
		return stocks, answer, nil
	}
	var documents []json.RawMessage
	if err := json.Unmarshal([]byte(text), &documents); err != nil {
		return nil, answer, notList.With(err)
	}
	if len(documents) > stock.MostStocks {
		return nil, answer, listTooLong.With(len(documents), stock.MostStocks)
	}
	for i, document := range documents {
		about, err := possible(document)
		if err != nil {
			answer.Refused = append(answer.Refused, fmt.Sprintf("Stock %d: %s", i+1, handler.Sentence(err.Error())))
			continue
		}
		stocks = append(stocks, about)
	}
	return stocks, answer, nil
}
