package runs

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// ListDayOrders implements api.StrictServerInterface.
func (s *Runs) ListDayOrders(ctx context.Context, _ api.ListDayOrdersRequestObject) (api.ListDayOrdersResponseObject,
	error) {
	orders, err := s.Store.DayOrders(ctx)
	answer := make(api.ListDayOrders200JSONResponse, len(orders))
	for i, o := range orders {
		answer[i] = api.DayOrder{Id: o.ID, Name: o.Name, DesignId: o.DesignID, Design: o.Design, RecordSet: o.SetName,
			Printer: o.Printer, KeptBy: o.KeptBy,
			Picture: fmt.Sprintf("/api/designs/%d/picture", o.DesignID)}
		var choice api.RunChoice
		if err := json.Unmarshal(o.Choice, &choice); err != nil {
			return nil, fmt.Errorf("read the order of the day %d: %w", o.ID, err)
		}
		answer[i].Records = choice.Records
	}
	return answer, err
}

// KeepDayOrder implements api.StrictServerInterface.
func (s *Runs) KeepDayOrder(ctx context.Context, req api.KeepDayOrderRequestObject) (api.KeepDayOrderResponseObject,
	error) {
	r, err := s.Store.Run(ctx, req.Body.RunId)
	if err != nil {
		return nil, err
	}
	name := strings.TrimSpace(req.Body.Name)
	if name == "" {
		return nil, noName.With()
	}
	howMany := toHowMany(&r.HowMany.V)
	howMany.Corrected = nil // of these records alone
	choice, err := json.Marshal(api.RunChoice{Records: r.Records, HowMany: howMany, PrinterId: r.PrinterID,
		SetupId: r.SetupID, Besides: toSeparators(r.Separators.V)})
	if err != nil {
		return nil, fmt.Errorf("write a choice: %w", err)
	}
	order := store.DayOrder{Name: name, DesignID: r.DesignID, Choice: choice, KeptBy: s.User(ctx)}
	if r.RecordSetID != nil {
		order.SetName = r.RecordSet
	}
	id, err := s.Store.KeepDayOrder(ctx, order)
	return api.KeepDayOrder200JSONResponse{Id: id}, err
}

// DeleteDayOrder implements api.StrictServerInterface.
func (s *Runs) DeleteDayOrder(ctx context.Context,
	req api.DeleteDayOrderRequestObject) (api.DeleteDayOrderResponseObject, error) {
	return api.DeleteDayOrder204Response{}, s.Store.DeleteDayOrder(ctx, req.Id)
}

// StartDayOrder implements api.StrictServerInterface.
func (s *Runs) StartDayOrder(ctx context.Context,
	req api.StartDayOrderRequestObject) (api.StartDayOrderResponseObject, error) {
	o, err := s.Store.DayOrder(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	var choice api.RunChoice
	if err := json.Unmarshal(o.Choice, &choice); err != nil {
		return nil, fmt.Errorf("read the order of the day %d: %w", o.ID, err)
	}
	prepare := api.PrepareRunJSONRequestBody{DesignId: o.DesignID, Choice: &choice}
	if o.SetName != "" {
		set, err := s.Store.NewestSet(ctx, o.SetName)
		var none *store.NoSetError
		if errors.As(err, &none) {
			return nil, recordsGone.With(o.SetName)
		}
		if err != nil {
			return nil, err
		}
		newest, _, err := s.freshRecords(ctx, &set.ID, false)
		if err != nil {
			return nil, err
		}
		prepare.RecordSetId, prepare.AsRead = newest, new(true)
	}
	prepared, err := s.PrepareRun(ctx, api.PrepareRunRequestObject{Body: &prepare})
	if err != nil {
		return nil, err
	}
	run := api.Run(prepared.(api.PrepareRun200JSONResponse))
	why, err := s.goes(ctx, &run)
	if err != nil {
		return nil, err
	}
	return api.StartDayOrder200JSONResponse{Id: run.Id, Why: why}, nil
}

// goes has a run printed that nobody needs to look at first; else it says why somebody does.
func (s *Runs) goes(ctx context.Context, run *api.Run) (why string, err error) {
	switch {
	case len(run.Questions) > 0 || run.AnswersWanted > run.AnswersGiven:
		return "It asks something first.", nil
	case len(run.Taken) > 0:
		return "Some quantities are no whole numbers.", nil
	case run.Labels >= run.AskFrom:
		return fmt.Sprintf("%d labels will be printed. Is that the number you want?", run.Labels), nil
	}
	answer, err := s.ProofRun(ctx, api.ProofRunRequestObject{Id: run.Id})
	if err != nil {
		return "", err
	}
	if proof := answer.(api.ProofRun200JSONResponse); proof.LeftOut > 0 {
		return fmt.Sprintf("%d of %d labels have errors.", proof.LeftOut, run.Labels), nil
	}
	_, err = s.StartPrint(ctx, api.StartPrintRequestObject{Id: run.Id,
		Body: &api.StartPrint{Kind: api.StartPrintKindRest}})
	// the run is prepared; its page says what to do
	if status, as := handler.PublicError(err); err != nil && as != nil && status < http.StatusInternalServerError {
		return as.Error(), nil
	}
	return "", err
}
