package runs

import (
	"context"
	"time"

	"oddspool/core/batch"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
)

// GetUsed implements api.StrictServerInterface.
func (s *Runs) GetUsed(ctx context.Context, req api.GetUsedRequestObject) (api.GetUsedResponseObject, error) {
	const most = 366
	days := handler.Or(req.Params.Days, 30)
	if days > most {
		return nil, tooManyDays.With(days, most)
	}
	now := time.Now()
	today := time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, time.Local)
	from := today.AddDate(0, 0, 1-days)
	used, err := s.Store.Used(ctx, from, today.AddDate(0, 0, 1))
	if err != nil {
		return nil, err
	}
	answer := api.GetUsed200JSONResponse{Days: make([]string, days), Used: []api.UsedStock{}}
	at := map[string]int{}
	for i := range days {
		answer.Days[i] = from.AddDate(0, 0, i).Format(time.DateOnly)
		at[answer.Days[i]] = i
	}
	lines := map[[2]string]int{}
	for _, u := range used {
		of := u.Stock.V
		key := [2]string{u.Printer, of.Number}
		line, has := lines[key]
		if !has {
			line = len(answer.Used)
			lines[key] = line
			answer.Used = append(answer.Used, api.UsedStock{Printer: u.Printer, Stock: of.Number, Name: of.Name,
				Labels: make([]int, days), Metres: make([]float64, days), ByContent: of.ByContent()})
		}
		day := at[u.At.Local().Format(time.DateOnly)]
		answer.Used[line].Labels[day] += u.Labels
		if !of.ByContent() { // how long pieces were that are as long as their content is not kept
			answer.Used[line].Metres[day] += batch.Web(of, u.Labels) / 1000
		}
	}
	return answer, nil
}
