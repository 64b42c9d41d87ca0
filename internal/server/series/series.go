package series

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/url"
	"strconv"
	"strings"
	"time"

	"oddspool/core/check"
	"oddspool/core/series"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/server/runs"
	"oddspool/internal/store"
)

// shownKeys is how many of the keys under which a series counts on its own are shown.
const shownKeys = 100

// ListSeries implements api.StrictServerInterface.
func (s *Series) ListSeries(ctx context.Context, _ api.ListSeriesRequestObject) (api.ListSeriesResponseObject, error) {
	all, err := s.Store.AllSeries(ctx)
	if err != nil {
		return nil, err
	}
	accounts, err := s.Store.Accounts(ctx, nil)
	if err != nil {
		return nil, err
	}
	answer := api.ListSeries200JSONResponse{}
	for i := range all {
		answer = append(answer, toSeries(&all[i], accounts, nil))
	}
	return answer, nil
}

func toSeries(kept *store.Series, accounts []store.Account, counts []store.Count) api.NumberSeries {
	shown := api.NumberSeries{Id: kept.ID, Name: kept.Name, Counts: kept.Counts.V, Listed: kept.Listed,
		Unused: api.Unused(kept.Unused), BadTag: new(api.BadTag(kept.BadTag)), MadeBy: kept.MadeBy, MadeAt: kept.MadeAt,
		Keys:   []api.SeriesKey{},
		HeldAt: kept.HeldAt, Skipped: []api.SkippedNumbers{}}
	for _, a := range accounts {
		if a.SeriesID == kept.ID {
			shown.Account = api.Account{Taken: a.Taken, Open: a.Open, Printed: a.Printed, Spoiled: a.Spoiled,
				Voided: a.Voided, Returned: a.Returned}
		}
	}
	for _, c := range counts {
		shown.Keys = append(shown.Keys, api.SeriesKey{Key: c.Key, Next: c.Next})
	}
	return shown
}

// series shows one series with its account.
func (s *Series) series(ctx context.Context, id int64) (shown api.NumberSeries, err error) {
	kept, err := s.Store.SeriesOf(ctx, id)
	if err != nil {
		return shown, err
	}
	accounts, err := s.Store.Accounts(ctx, &id)
	if err != nil {
		return shown, err
	}
	counts, err := s.Store.Counts(ctx, id, shownKeys)
	if err != nil {
		return shown, err
	}
	shown = toSeries(&kept, accounts, counts)
	shown.Skipped, err = s.skipped(ctx, &kept)
	return shown, err
}

// GetSeries implements api.StrictServerInterface.
func (s *Series) GetSeries(ctx context.Context, req api.GetSeriesRequestObject) (api.GetSeriesResponseObject, error) {
	shown, err := s.series(ctx, req.Id)
	return api.GetSeries200JSONResponse(shown), err
}

// AddSeries implements api.StrictServerInterface.
func (s *Series) AddSeries(ctx context.Context, req api.AddSeriesRequestObject) (api.AddSeriesResponseObject, error) {
	name, numbers := strings.TrimSpace(req.Body.Name), handler.Or(req.Body.List, nil)
	if name == "" {
		return nil, noName.With()
	}
	if err := ready(numbers); err != nil {
		return nil, err
	}
	if _, err := series.New(req.Body.Counts); err != nil {
		return nil, err
	}
	id, err := s.Store.AddSeries(ctx, store.Series{Name: name, Counts: store.Kept[series.Spec]{V: req.Body.Counts},
		Listed: len(numbers) > 0, Unused: string(req.Body.Unused),
		BadTag: string(handler.Or(req.Body.BadTag, api.SameNumber)),
		MadeBy: s.User(ctx)}, numbers)
	if err != nil {
		return nil, err
	}
	shown, err := s.series(ctx, id)
	return api.AddSeries200JSONResponse(shown), err
}

// ready says what is wrong with a list of ready numbers.
func ready(numbers []string) error {
	first := make(map[string]int, len(numbers))
	for i, number := range numbers {
		if before, twice := first[number]; twice {
			return listTwice.With(number, before+1, i+1)
		}
		if strings.TrimSpace(number) != number ||
			strings.ContainsFunc(number, func(r rune) bool { return r < ' ' || r == 0x7f }) {
			return listBlanks.With(i+1, strings.TrimSpace(number))
		}
		first[number] = i
	}
	return nil
}

// ChangeSeries implements api.StrictServerInterface.
func (s *Series) ChangeSeries(ctx context.Context, req api.ChangeSeriesRequestObject) (api.ChangeSeriesResponseObject,
	error) {
	if _, err := series.New(req.Body.Counts); err != nil {
		return nil, err
	}
	if err := s.Store.ChangeSeries(ctx, store.Series{ID: req.Id, Counts: store.Kept[series.Spec]{V: req.Body.Counts},
		Unused: string(req.Body.Unused), BadTag: string(handler.Or(req.Body.BadTag, api.SameNumber))}); err != nil {
		return nil, err
	}
	shown, err := s.series(ctx, req.Id)
	return api.ChangeSeries200JSONResponse(shown), err
}

// RetireSeries implements api.StrictServerInterface.
func (s *Series) RetireSeries(ctx context.Context, req api.RetireSeriesRequestObject) (api.RetireSeriesResponseObject,
	error) {
	return api.RetireSeries204Response{}, s.Store.RetireSeries(ctx, req.Id)
}

// CountSeries implements api.StrictServerInterface.
func (s *Series) CountSeries(_ context.Context, req api.CountSeriesRequestObject) (api.CountSeriesResponseObject,
	error) {
	numbers, err := count(req.Body.Counts, 0, handler.Or(req.Body.Most, 1000))
	return api.CountSeries200JSONResponse(numbers), err
}

// CountSSCC implements api.StrictServerInterface.
func (s *Series) CountSSCC(_ context.Context, req api.CountSSCCRequestObject) (api.CountSSCCResponseObject, error) {
	spec, err := series.SSCC(req.Params.Extension, req.Params.Company)
	return api.CountSSCC200JSONResponse(spec), err
}

// count returns numbers of a series from one on, from 0.
func count(spec series.Spec, from, most int) (api.SeriesNumbers, error) {
	counted := api.SeriesNumbers{Numbers: []string{}}
	counts, err := series.New(spec)
	if err != nil {
		return counted, err
	}
	for i := from; i < from+most; i++ {
		if spec.Count > 0 && i >= spec.Count {
			counted.Ends = fmt.Sprintf("It has %d numbers in all.", spec.Count)
			return counted, nil
		}
		number, err := counts.At(i)
		if err != nil {
			counted.Ends = err.Error()
			return counted, nil //nolint:nilerr // that it ends is what was asked
		}
		counted.Numbers = append(counted.Numbers, number)
	}
	return counted, nil
}

// ListCheckRules implements api.StrictServerInterface.
func (s *Series) ListCheckRules(context.Context, api.ListCheckRulesRequestObject) (api.ListCheckRulesResponseObject,
	error) {
	answer := api.ListCheckRules200JSONResponse{}
	for _, rule := range check.Rules() {
		answer = append(answer, api.CheckRule{Name: rule.Name, Words: rule.Words, Source: rule.Source})
	}
	return answer, nil
}

// NextNumbers implements api.StrictServerInterface.
func (s *Series) NextNumbers(ctx context.Context, req api.NextNumbersRequestObject) (api.NextNumbersResponseObject,
	error) {
	kept, err := s.Store.SeriesOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	next, err := s.Store.NextOf(ctx, req.Id, handler.Or(req.Params.Key, ""))
	if err != nil {
		return nil, err
	}
	most := handler.Or(req.Params.Most, 1000)
	if kept.Listed {
		numbers, err := s.Store.ListedNumbers(ctx, req.Id, next, most)
		if err != nil {
			return nil, err
		}
		answer := api.NextNumbers200JSONResponse{Numbers: append([]string{}, numbers...)}
		if len(numbers) < most {
			answer.Ends = "Then those of the list are used up."
		}
		return answer, nil
	}
	numbers, err := count(kept.Counts.V, next, most)
	return api.NextNumbers200JSONResponse(numbers), err
}

func toNumber(n *store.Number) api.TakenNumber {
	return api.TakenNumber{Id: n.ID, SeriesId: n.SeriesID, Series: n.Series, Key: n.Key, Number: n.Number,
		RunId: n.RunID, Design: n.Design, Record: n.Record, FirstLabel: n.FirstLabel,
		LastLabel: n.LastLabel, State: api.NumberState(n.State), TakenBy: n.TakenBy, TakenAt: n.TakenAt,
		ChangedBy: n.ChangedBy, ChangedAt: n.ChangedAt, Why: n.Why}
}

// ListNumbers implements api.StrictServerInterface.
func (s *Series) ListNumbers(ctx context.Context, req api.ListNumbersRequestObject) (api.ListNumbersResponseObject,
	error) {
	numbers, err := s.Store.Numbers(ctx, req.Id, string(handler.Or(req.Params.State, "")),
		handler.Or(req.Params.Before, 0),
		handler.Or(req.Params.Most, 100))
	answer := api.ListNumbers200JSONResponse{}
	for i := range numbers {
		answer = append(answer, toNumber(&numbers[i]))
	}
	return answer, err
}

// FindNumber implements api.StrictServerInterface.
func (s *Series) FindNumber(ctx context.Context, req api.FindNumberRequestObject) (api.FindNumberResponseObject,
	error) {
	const most, mostLabels = 20, 200
	numbers, err := s.Store.FindNumbers(ctx, runs.Scanned(req.Params.Number), most)
	if err != nil {
		return nil, err
	}
	answer := api.FindNumber200JSONResponse{}
	for i := range numbers {
		sights, err := s.Store.Sights(ctx, &numbers[i], mostLabels)
		if err != nil {
			return nil, err
		}
		life := api.NumberLife{Number: toNumber(&numbers[i]), Labels: []api.NumberedLabel{}}
		for _, sight := range sights {
			label := api.NumberedLabel{PrintId: sight.PrintID, Printer: sight.Printer, Label: sight.Label,
				State: api.NumberedLabelState(sight.State), ReadAs: sight.ReadAs,
				StartedBy: sight.StartedBy, StartedAt: sight.StartedAt, EndedAt: sight.EndedAt}
			if sight.EPC != "" {
				label.Epc, label.Tid = &sight.EPC, &sight.TID
			}
			if sight.ReadBack != nil {
				label.ReadBack = new(api.NumberedLabelReadBack(*sight.ReadBack))
			}
			life.Labels = append(life.Labels, label)
		}
		answer = append(answer, life)
	}
	return answer, nil
}

// VoidNumber implements api.StrictServerInterface.
func (s *Series) VoidNumber(ctx context.Context, req api.VoidNumberRequestObject) (api.VoidNumberResponseObject,
	error) {
	return api.VoidNumber204Response{}, s.Store.VoidNumber(ctx, req.Id, s.User(ctx), req.Body.Why)
}

// listHead is the first row of a list of numbers.
var listHead = []string{"number", "key", "state", "run", "design", "record", "first label", "last label", "taken by",
	"taken at", "changed by", "changed at", "why"}

func listed(n *store.Number) []string {
	changed := ""
	if n.ChangedAt != nil {
		changed = n.ChangedAt.Format(time.RFC3339)
	}
	return []string{n.Number, n.Key, string(n.State), strconv.FormatInt(n.RunID, 10), n.Design, strconv.Itoa(n.Record),
		strconv.Itoa(n.FirstLabel), strconv.Itoa(n.LastLabel),
		n.TakenBy, n.TakenAt.Format(time.RFC3339), n.ChangedBy, changed, n.Why}
}

// WriteNumbers implements api.StrictServerInterface.
func (s *Series) WriteNumbers(ctx context.Context, req api.WriteNumbersRequestObject) (api.WriteNumbersResponseObject,
	error) {
	kept, err := s.Store.SeriesOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	file, size, err := handler.Spooled(func(w io.Writer) error {
		if req.Params.Format == api.WriteNumbersParamsFormatJson {
			return s.writeNumbers(ctx, w, req.Id)
		}
		return handler.WriteTable(w, string(req.Params.Format), listHead, func(give func([]string) error) error {
			return s.Store.EachNumber(ctx, req.Id, func(n *store.Number) error { return give(listed(n)) })
		})
	})
	if err != nil {
		return nil, err
	}
	disposition := "attachment; filename*=UTF-8''" + url.PathEscape(kept.Name+"."+string(req.Params.Format))
	return api.WriteNumbers200ApplicationoctetStreamResponse{Body: file, ContentLength: size,
		Headers: api.WriteNumbers200ResponseHeaders{ContentDisposition: &disposition}}, nil
}

// writeNumbers writes all numbers of a series as JSON, as they are read.
func (s *Series) writeNumbers(ctx context.Context, w io.Writer, id int64) error {
	separator := "[\n"
	encoder := json.NewEncoder(w)
	err := s.Store.EachNumber(ctx, id, func(n *store.Number) error {
		if _, err := io.WriteString(w, separator); err != nil {
			return err
		}
		separator = ","
		return encoder.Encode(toNumber(n))
	})
	if separator == "," {
		separator = ""
	}
	_, ended := io.WriteString(w, separator+"]\n")
	return errors.Join(err, ended)
}

// CloseRun implements api.StrictServerInterface.
func (s *Series) CloseRun(ctx context.Context, req api.CloseRunRequestObject) (api.CloseRunResponseObject, error) {
	if err := s.Store.CloseRun(ctx, req.Id, s.User(ctx)); err != nil {
		return nil, err
	}
	run, err := s.runs.Run(ctx, req.Id)
	return api.CloseRun200JSONResponse(run), err
}
