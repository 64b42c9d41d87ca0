package series

import (
	"context"
	"strings"

	"oddspool/core/series"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// shownSkips is how many skips of a series are shown.
const shownSkips = 20

// AdvanceSeries implements api.StrictServerInterface.
func (s *Series) AdvanceSeries(ctx context.Context,
	req api.AdvanceSeriesRequestObject) (api.AdvanceSeriesResponseObject, error) {
	a := store.Advance{By: handler.Or(req.Body.Ahead, 0), Who: s.User(ctx),
		Why: strings.TrimSpace(handler.Or(req.Body.Why, ""))}
	if last := strings.TrimSpace(handler.Or(req.Body.Last, "")); last != "" {
		if req.Body.Ahead != nil {
			return nil, twoWaysAhead.With()
		}
		place, err := s.placeOf(ctx, req.Id, last)
		if err != nil {
			return nil, err
		}
		a.To = new(place + 1)
	} else if req.Body.Ahead == nil {
		return nil, noWayAhead.With()
	}
	if err := s.Store.AdvanceSeries(ctx, req.Id, a); err != nil {
		return nil, err
	}
	shown, err := s.series(ctx, req.Id)
	return api.AdvanceSeries200JSONResponse(shown), err
}

// placeOf returns which number of a series one is, from 0.
func (s *Series) placeOf(ctx context.Context, id int64, number string) (int, error) {
	kept, err := s.Store.SeriesOf(ctx, id)
	if err != nil {
		return 0, err
	}
	if kept.Listed {
		place, err := s.Store.PlaceInList(ctx, id, number)
		if err == nil && place < 0 {
			err = notInList.With(number)
		}
		return place, err
	}
	counts, err := series.New(kept.Counts.V)
	if err != nil {
		return 0, err
	}
	return counts.Place(number)
}

// skipped shows numbers of a series that no label gets.
func (s *Series) skipped(ctx context.Context, kept *store.Series) (shown []api.SkippedNumbers, err error) {
	shown = []api.SkippedNumbers{}
	skips, err := s.Store.Skips(ctx, kept.ID, shownSkips)
	if err != nil {
		return nil, err
	}
	at := func(place int) string {
		if kept.Listed {
			if numbers, err := s.Store.ListedNumbers(ctx, kept.ID, place, 1); err == nil && len(numbers) > 0 {
				return numbers[0]
			}
			return ""
		}
		counts, err := series.New(kept.Counts.V)
		if err != nil {
			return ""
		}
		number, _ := counts.At(place) // behind the end of the series there is none
		return number
	}
	for _, skip := range skips {
		shown = append(shown, api.SkippedNumbers{Key: skip.Key, First: at(skip.First), Last: at(skip.Last),
			Count: skip.Last - skip.First + 1, By: skip.SkippedBy, At: skip.SkippedAt, Why: skip.Why})
	}
	return shown, nil
}
