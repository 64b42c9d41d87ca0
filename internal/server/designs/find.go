package designs

import (
	"context"
	"errors"
	"time"

	"oddspool/internal/api"
)

// How much is found at once, and how long it may take in many records.
const (
	mostHits = 8
	findTime = 2 * time.Second
)

// FindWords implements api.StrictServerInterface.
func (s *Designs) FindWords(ctx context.Context, req api.FindWordsRequestObject) (api.FindWordsResponseObject, error) {
	within, cancel := context.WithTimeout(ctx, findTime)
	defer cancel()
	hits, err := s.Store.Find(within, req.Params.Words, mostHits)
	if errors.Is(within.Err(), context.DeadlineExceeded) {
		return nil, tooManyRecords.With()
	}
	answer := make(api.FindWords200JSONResponse, len(hits))
	for i, hit := range hits {
		answer[i] = api.Hit{DesignId: hit.Design, RecordSetId: hit.Set, Name: hit.Name, Text: hit.Text}
		if hit.Record > 0 {
			answer[i].Record = &hits[i].Record
		}
	}
	return answer, err
}
