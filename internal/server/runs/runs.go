package runs

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"oddspool/core/proof"
	"oddspool/internal/api"
	"oddspool/internal/server/designs"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// listedRuns is how many runs a list shows where it is not said.
const listedRuns = 50

// leastPart is how many letters a part of a value has that runs are found by.
const leastPart = 3

// ListRuns implements api.StrictServerInterface.
func (s *Runs) ListRuns(ctx context.Context, req api.ListRunsRequestObject) (api.ListRunsResponseObject, error) {
	wanted := store.RunsWanted{Words: handler.Or(req.Params.Find, ""), Skip: handler.Or(req.Params.Skip, 0),
		Most: handler.Or(req.Params.Most, listedRuns)}
	if whole := strings.TrimSpace(wanted.Words); whole != "" {
		wanted.Values = Scanned(whole)
		if utf8.RuneCountInString(whole) >= leastPart {
			wanted.Part = whole
		}
	}
	for text, to := range map[*string]**time.Time{req.Params.From: &wanted.From, req.Params.To: &wanted.To} {
		if text == nil {
			continue
		}
		day, err := time.ParseInLocation(time.DateOnly, *text, time.Local)
		if err != nil {
			return nil, badDay.With(*text)
		}
		if to == &wanted.To {
			day = day.AddDate(0, 0, 1)
		}
		*to = &day
	}
	runs, err := s.Store.Runs(ctx, wanted)
	return api.ListRuns200JSONResponse(toRunEntries(runs)), err
}

func toRunEntries(runs []store.RunEntry) []api.RunEntry {
	entries := make([]api.RunEntry, len(runs))
	for i, r := range runs {
		entries[i] = api.RunEntry{Id: r.ID, Name: r.Name, Version: r.Version, RecordSet: r.RecordSet,
			Labels: r.LabelCount, Printed: r.Printed,
			PreparedBy: r.PreparedBy, PreparedAt: r.PreparedAt, LastPrintedAt: r.LastPrintedAt,
			State: api.RunEntryState(r.State), Printer: r.Printer,
			Picture: fmt.Sprintf("/api/runs/%d/picture", r.ID)}
	}
	return entries
}

// PrepareRun implements api.StrictServerInterface.
func (s *Runs) PrepareRun(ctx context.Context, req api.PrepareRunRequestObject) (api.PrepareRunResponseObject,
	error) {
	d, err := s.Store.Design(ctx, req.Body.DesignId)
	if err != nil {
		return nil, err
	}
	setID, howMany, err := s.freshRecords(ctx, req.Body.RecordSetId, handler.Or(req.Body.AsRead, false))
	if err != nil {
		return nil, err
	}
	choice := api.RunChoice{HowMany: howMany}
	if req.Body.Choice != nil {
		choice = *req.Body.Choice
	}
	if choice.PrinterId == 0 {
		if choice.PrinterId, err = s.printerFor(ctx, d); err != nil {
			return nil, err
		}
	}
	plan, err := s.plan(ctx, setID, d.Document, choice, nil)
	if err != nil {
		return nil, err
	}
	var has struct{ Elements []json.RawMessage }
	if err := json.Unmarshal(d.Document, &has); err != nil {
		return nil, fmt.Errorf("read design %d: %w", d.ID, err)
	}
	if len(has.Elements) == 0 {
		return nil, emptyDesignRefused.With()
	}
	revision, err := s.Store.KeepRevision(ctx, d.ID, "", s.User(ctx))
	if err != nil {
		return nil, err
	}
	plan.RevisionID = revision.ID
	id, err := s.Store.PrepareRun(ctx, *plan, s.User(ctx))
	if err != nil {
		return nil, err
	}
	run, err := s.Run(ctx, id)
	return api.PrepareRun200JSONResponse(run), err
}

// recordSet returns a record set; without one there is one record that has no fields.
func (s *Runs) recordSet(ctx context.Context, id *int64) (store.RecordSet, error) {
	if id == nil {
		return store.RecordSet{Count: 1}, nil
	}
	return s.Store.RecordSet(ctx, *id)
}

// someRecords returns records by their numbers.
func (s *Runs) someRecords(ctx context.Context, id *int64, numbers []int) ([][]string, error) {
	if id == nil {
		return make([][]string, len(numbers)), nil
	}
	return s.Store.SomeRecords(ctx, *id, numbers)
}

// GetRunRecords implements api.StrictServerInterface.
func (s *Runs) GetRunRecords(ctx context.Context,
	req api.GetRunRecordsRequestObject) (api.GetRunRecordsResponseObject, error) {
	r, err := s.Store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	from, most := handler.Or(req.Params.From, 1), handler.Or(req.Params.Most, 100)
	records := [][]string{{}}
	if r.RecordSetID != nil {
		records, err = s.Store.Records(ctx, *r.RecordSetID, from, most)
	} else if from > 1 {
		records = nil
	}
	if err != nil {
		return nil, err
	}
	copies, err := s.Store.RunCopies(ctx, req.Id, from, most)
	answer := make(api.GetRunRecords200JSONResponse, len(records))
	for i, values := range records {
		answer[i] = api.RunRecord{Number: from + i, Values: values, Copies: copies[from+i]}
	}
	return answer, err
}

// GetRun implements api.StrictServerInterface.
func (s *Runs) GetRun(ctx context.Context, req api.GetRunRequestObject) (api.GetRunResponseObject, error) {
	run, err := s.Run(ctx, req.Id)
	return api.GetRun200JSONResponse(run), err
}

// ChangeRun implements api.StrictServerInterface.
func (s *Runs) ChangeRun(ctx context.Context, req api.ChangeRunRequestObject) (api.ChangeRunResponseObject, error) {
	run, err := s.Store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	plan, err := s.plan(ctx, run.RecordSetID, run.Document, *req.Body, run.Separators.V)
	if err != nil {
		return nil, err
	}
	if err := s.Store.ChangeRun(ctx, req.Id, *plan, s.User(ctx)); err != nil {
		return nil, err
	}
	changed, err := s.Run(ctx, req.Id)
	return api.ChangeRun200JSONResponse(changed), err
}

// GetRunPicture implements api.StrictServerInterface.
func (s *Runs) GetRunPicture(ctx context.Context,
	req api.GetRunPictureRequestObject) (api.GetRunPictureResponseObject, error) {
	r, err := s.Store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	d, err := s.Store.ToCompose(ctx, &r)
	if err != nil {
		return nil, err
	}
	own, err := s.Store.FirstOwn(ctx, r.ID)
	if err != nil {
		return nil, err
	}
	first, err := s.Store.RunLabels(ctx, &r, d, s.User(ctx), own, own, true)
	if err != nil {
		return nil, err
	}
	fields, values := d.LabelFields(r.Fields), []string(nil)
	if len(first) > 0 {
		values = first[0].Values
	}
	picture, err := designs.Drawn(d, fields, values)
	if err != nil {
		return nil, err
	}
	return api.GetRunPicture200ImagepngResponse{Body: picture}, nil
}

// GetRunLabels implements api.StrictServerInterface.
func (s *Runs) GetRunLabels(ctx context.Context, req api.GetRunLabelsRequestObject) (api.GetRunLabelsResponseObject,
	error) {
	r, err := s.Store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	answer := api.RunLabels{Total: r.LabelCount, Labels: []api.RunLabel{}}
	parts, err := s.Store.RunParts(ctx, &r)
	if err != nil {
		return nil, err
	}
	drawing, cancel := context.WithTimeoutCause(ctx, designs.DrawTime, designs.ErrDrawing)
	defer cancel()
	from := handler.Or(req.Params.From, 1)
	for _, part := range parts {
		more, err := s.drawnLabels(drawing, part, from, from+handler.Or(req.Params.Most, 20)-1)
		if err != nil {
			return nil, err
		}
		answer.Labels = append(answer.Labels, more...)
	}
	slices.SortFunc(answer.Labels, func(a, b api.RunLabel) int { return a.Label - b.Label })
	return api.GetRunLabels200JSONResponse(answer), nil
}

// drawnLabels draws labels of one part of a run.
func (s *Runs) drawnLabels(ctx context.Context, r *store.Run, from, to int) (shown []api.RunLabel, err error) {
	d, err := s.Store.ToCompose(ctx, r)
	if err != nil {
		return nil, err
	}
	labels, err := s.Store.RunLabels(ctx, r, d, s.User(ctx), from, to, true)
	if err != nil {
		return nil, err
	}
	numbers, records := make([]int, len(labels)), make([][]string, len(labels))
	for i, label := range labels {
		numbers[i], records[i] = label.Record, label.Values
	}
	drawer, err := designs.NewDrawer(d, d.LabelFields(r.Fields))
	if err != nil {
		return nil, err
	}
	made, err := drawer.All(ctx, numbers, records)
	if err != nil {
		return nil, err
	}
	for i, label := range made {
		worst := proof.Fine
		for _, f := range label.Findings {
			worst = max(worst, f.Level)
		}
		one := api.RunLabel{Label: labels[i].Label, Record: label.Record, Picture: label.Picture, Width: label.Width,
			Height: label.Height, Level: api.RunLabelLevel(worst.String())}
		if r.Part > 0 {
			one.Design = &d.Name
		}
		shown = append(shown, one)
	}
	return shown, nil
}

// TrustRun implements api.StrictServerInterface.
func (s *Runs) TrustRun(ctx context.Context, req api.TrustRunRequestObject) (api.TrustRunResponseObject, error) {
	return api.TrustRun204Response{}, s.Store.TrustRun(ctx, req.Id)
}
