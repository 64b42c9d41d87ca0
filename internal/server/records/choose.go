package records

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"

	"oddspool/core/batch"
	"oddspool/core/filter"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// held is the record set that was chosen from last: sets never change, and one chooses again and again from the same.
type held struct {
	mutex   sync.Mutex
	id      int64
	records [][]string
}

// mostHeld is how many values of a set are held.
const mostHeld = 6_000_000

// recordsOf returns all records of a set.
func (s *Records) recordsOf(ctx context.Context, set store.RecordSet) ([][]string, error) {
	s.held.mutex.Lock()
	defer s.held.mutex.Unlock()
	if s.held.id == set.ID {
		return s.held.records, nil
	}
	records, err := s.Store.Records(ctx, set.ID, 1, set.Count)
	if err != nil {
		return nil, err
	}
	if set.Count*len(set.Fields) <= mostHeld {
		s.held.id, s.held.records = set.ID, records
	}
	return records, nil
}

func toSpec(asked api.Choosing) filter.Spec {
	spec := filter.Spec{Words: handler.Or(asked.Words, ""), FirstOf: handler.Or(asked.FirstOf, "")}
	for _, c := range handler.Or(asked.Fields, nil) {
		spec.Fields = append(spec.Fields, filter.Condition{Field: c.Field, Is: filter.Test(c.Is),
			Values: handler.Or(c.Values, nil)})
	}
	for _, o := range handler.Or(asked.Sort, nil) {
		spec.Sort = append(spec.Sort, filter.Order{Field: o.Field, Down: handler.Or(o.Down, false)})
	}
	return spec
}

// found returns the records of a set that are asked for, by their places.
func (s *Records) found(ctx context.Context, id int64, asked api.Choosing) (set store.RecordSet, records [][]string,
	places []int, err error) {
	if set, err = s.Store.RecordSet(ctx, id); err != nil {
		return set, nil, nil, err
	}
	if records, err = s.recordsOf(ctx, set); err != nil {
		return set, nil, nil, err
	}
	places, err = filter.Find(set.Fields, records, toSpec(asked))
	return set, records, places, err
}

// ChooseRecords implements api.StrictServerInterface.
func (s *Records) ChooseRecords(ctx context.Context,
	req api.ChooseRecordsRequestObject) (api.ChooseRecordsResponseObject, error) {
	set, records, places, err := s.found(ctx, req.Id, req.Body.Choosing)
	if err != nil {
		return nil, err
	}
	answer := api.ChooseRecords200JSONResponse{Found: len(places), Records: []api.Record{}}
	from := min(handler.Or(req.Body.From, 1)-1, len(places))
	for _, place := range places[from:min(from+handler.Or(req.Body.Most, 100), len(places))] {
		answer.Records = append(answer.Records, api.Record{Number: place + 1, Values: records[place]})
	}
	if req.Body.RunId != nil {
		wanted := make([]int, len(answer.Records))
		for i, r := range answer.Records {
			wanted[i] = r.Number
		}
		copies, err := s.Store.CopiesOf(ctx, *req.Body.RunId, wanted)
		if err != nil {
			return nil, err
		}
		answer.Copies = &copies
	}
	numbers := make([]int, len(places))
	for i, place := range places {
		numbers[i] = place + 1
	}
	slices.Sort(numbers)
	answer.Range = batch.FormatRange(numbers, set.Count)
	return answer, nil
}

// KeepChosen implements api.StrictServerInterface.
func (s *Records) KeepChosen(ctx context.Context, req api.KeepChosenRequestObject) (api.KeepChosenResponseObject,
	error) {
	set, records, places, err := s.found(ctx, req.Id, req.Body.Choosing)
	if err != nil {
		return nil, err
	}
	if len(places) == 0 {
		return nil, nothingChosen.With(set.Name)
	}
	chosen := func(yield func([]string, error) bool) {
		for _, place := range places {
			if !yield(records[place], nil) {
				return
			}
		}
	}
	made, err := s.Store.TakeRecordSet(ctx, req.Body.Name, set.Fields, len(places), chosen, s.User(ctx))
	return api.KeepChosen200JSONResponse(ToRecordSet(made)), err
}

func toKeptChoice(c store.Choice) (answer api.KeptChoice, err error) {
	answer = api.KeptChoice{Id: c.ID, Name: c.Name, KeptBy: c.KeptBy}
	if err := json.Unmarshal(c.Choosing, &answer.Choosing); err != nil {
		return answer, fmt.Errorf("read choice %d: %w", c.ID, err)
	}
	return answer, nil
}

// ListChoices implements api.StrictServerInterface.
func (s *Records) ListChoices(ctx context.Context, req api.ListChoicesRequestObject) (api.ListChoicesResponseObject,
	error) {
	all, err := s.Store.Choices(ctx, req.Params.Set)
	if err != nil {
		return nil, err
	}
	answer := make(api.ListChoices200JSONResponse, len(all))
	for i, c := range all {
		if answer[i], err = toKeptChoice(c); err != nil {
			return nil, err
		}
	}
	return answer, nil
}

// KeepChoice implements api.StrictServerInterface.
func (s *Records) KeepChoice(ctx context.Context, req api.KeepChoiceRequestObject) (api.KeepChoiceResponseObject,
	error) {
	name := strings.TrimSpace(req.Body.Name)
	if name == "" {
		return nil, choiceWithoutName.With()
	}
	document, err := json.Marshal(req.Body.Choosing)
	if err != nil {
		return nil, fmt.Errorf("write choice %q: %w", name, err)
	}
	kept, err := s.Store.KeepChoice(ctx, store.Choice{SetName: req.Body.Set, Name: name, Choosing: document,
		KeptBy: s.User(ctx)})
	if err != nil {
		return nil, err
	}
	answer, err := toKeptChoice(kept)
	return api.KeepChoice200JSONResponse(answer), err
}

// DeleteChoice implements api.StrictServerInterface.
func (s *Records) DeleteChoice(ctx context.Context, req api.DeleteChoiceRequestObject) (api.DeleteChoiceResponseObject,
	error) {
	return api.DeleteChoice204Response{}, s.Store.DeleteChoice(ctx, req.Id)
}
