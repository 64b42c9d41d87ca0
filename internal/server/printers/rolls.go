package printers

import (
	"context"

	"oddspool/core/batch"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// ListRolls implements api.StrictServerInterface.
func (s *Printers) ListRolls(ctx context.Context, req api.ListRollsRequestObject) (api.ListRollsResponseObject, error) {
	rolls, err := s.Store.Rolls(ctx, req.Params.Stock)
	answer := make(api.ListRolls200JSONResponse, len(rolls))
	for i, r := range rolls {
		answer[i] = api.Roll{Id: r.ID, Left: r.Left, Place: r.Place}
	}
	return answer, err
}

// AddRolls implements api.StrictServerInterface.
func (s *Printers) AddRolls(ctx context.Context, req api.AddRollsRequestObject) (api.AddRollsResponseObject, error) {
	if _, err := s.Store.StockNumbered(ctx, req.Body.Stock); err != nil {
		return nil, err
	}
	return api.AddRolls204Response{},
		s.Store.AddRolls(ctx, store.Roll{Stock: req.Body.Stock, Left: req.Body.Left,
			Place: handler.Or(req.Body.Place, ""),
			By:    s.User(ctx)}, req.Body.Rolls)
}

// TakeRoll implements api.StrictServerInterface.
func (s *Printers) TakeRoll(ctx context.Context, req api.TakeRollRequestObject) (api.TakeRollResponseObject, error) {
	return api.TakeRoll204Response{}, s.Store.TakeRoll(ctx, req.Id)
}

// RollPlan tells which of the rest of a run's labels come off which roll; nil where the printer does not tell what it
// has.
func (s *Printers) RollPlan(ctx context.Context, on *stock.Stock, printer *stock.Printer, loaded *stock.Loaded, labels,
	rest int, web float64) (*api.RollPlan, error) {
	inLength := loaded != nil && loaded.LeftLength >= 0
	if loaded == nil || !inLength && loaded.Left < 0 || labels == 0 || (inLength || on.Unit() == stock.InLength) &&
		web == 0 {
		return nil, nil //nolint:nilnil // there is no plan, and that is no error
	}
	rolls, err := s.Store.Rolls(ctx, on.Number)
	if err != nil {
		return nil, err
	}
	per := max(on.PerPage(), 1)
	// of which each label takes its part
	ofLength := func(length measure.Length) int { return int(length.Millimetres() / (web / float64(labels))) }
	ofPieces := func(n int) int {
		if on.Unit() == stock.InSheets {
			return n * per
		}
		return n
	}
	plan := &api.RollPlan{FullRoll: on.Pieces(), Stretches: []api.RollStretch{}}
	if printer.Ribbon > 0 && web > 0 {
		plan.Ribbon = &api.RibbonPlan{Metres: web / float64(labels) * float64(rest) / 1000, Each: printer.Ribbon,
			Labels: ofLength(measure.Length(printer.Ribbon) * 1000 * measure.Millimetre)}
	}
	if loaded.FullLength > 0 && web > 0 {
		plan.FullRoll = ofLength(loaded.FullLength)
	}
	left := []int{ofPieces(loaded.Left)}
	if inLength {
		left[0] = ofLength(loaded.LeftLength)
	}
	for _, r := range rolls {
		if on.Unit() == stock.InLength {
			left = append(left, ofLength(measure.Length(r.Left)))
		} else {
			left = append(left, ofPieces(int(r.Left)))
		}
	}
	for _, stretch := range batch.Stretches(1, rest, per, left) {
		shown := api.RollStretch{First: stretch.First, Last: stretch.Last, Left: stretch.Left,
			From: api.RollStretchFromMissing}
		switch {
		case stretch.Roll == 0:
			shown.From = api.RollStretchFromPrinter
		case stretch.Roll > 0:
			roll := rolls[stretch.Roll-1]
			shown.From, shown.RollId, shown.Place = api.RollStretchFromStockroom, &roll.ID, &roll.Place
		case plan.FullRoll > 0:
			shown.Rolls = new((stretch.Last - stretch.First + plan.FullRoll) / plan.FullRoll)
		}
		plan.Stretches = append(plan.Stretches, shown)
	}
	return plan, nil
}
