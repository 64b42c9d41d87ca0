package designs

import (
	"context"
	"errors"
	"time"

	"oddspool/core/design"
	"oddspool/core/formula"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
)

// ListFormulas implements api.StrictServerInterface.
func (s *Designs) ListFormulas(context.Context, api.ListFormulasRequestObject) (api.ListFormulasResponseObject, error) {
	answer := api.ListFormulas200JSONResponse{Changes: []api.ChangeKind{}}
	for _, f := range formula.List() {
		answer.Functions = append(answer.Functions, api.FormulaFunction{Name: f.Name, Takes: f.Takes, Group: f.Group,
			Says: f.Says, Example: f.Example, Gives: f.Gives})
	}
	for _, c := range formula.Changes() {
		answer.Changes = append(answer.Changes, api.ChangeKind{Do: c.Do, Words: c.Words,
			Takes: append([]string{}, c.Takes...), With: append([]string{}, c.With...)})
	}
	for _, f := range design.Facts {
		answer.Facts = append(answer.Facts, struct {
			Name  string `json:"name"`
			Words string `json:"words"`
		}{f.Name, f.Words})
	}
	return answer, nil
}

// triedRecords is how many records a formula is tried on.
const triedRecords = 3

// TryFormula implements api.StrictServerInterface.
func (s *Designs) TryFormula(ctx context.Context, req api.TryFormulaRequestObject) (api.TryFormulaResponseObject,
	error) {
	fields, records, from := []string{}, [][]string{nil}, max(handler.Or(req.Body.From, 1), 1)
	if req.Body.RecordSetId != nil {
		set, err := s.Store.RecordSet(ctx, *req.Body.RecordSetId)
		if err != nil {
			return nil, err
		}
		if records, err = s.Store.Records(ctx, set.ID, from, triedRecords); err != nil {
			return nil, err
		}
		fields = set.Fields
	}
	for _, name := range req.Body.Answers {
		fields = append(fields, name)
		for i := range records {
			records[i] = append(records[i], "‹"+name+"›")
		}
	}
	answer := api.TryFormula200JSONResponse{Values: []api.FormulaValue{}}
	setting := s.Store.Setting(ctx, time.Now())
	f, err := formula.Compile(req.Body.Formula, fields)
	if wrong := new(formula.Error); errors.As(err, &wrong) {
		answer.Problem, answer.At = &wrong.Text, &wrong.At
		return answer, nil
	}
	for i, record := range records {
		value, err := f.Text(record, setting)
		tried := api.FormulaValue{Record: from + i, Value: value}
		if err != nil {
			tried.Problem = new(err.Error())
		}
		answer.Values = append(answer.Values, tried)
	}
	return answer, nil
}
