package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"oddspool/core/check"
	"oddspool/core/gs1"
	"oddspool/core/series"
	"oddspool/internal/api"
	"oddspool/internal/store"
)

// shownKeys is how many of the keys under which a series counts on its own are shown.
const shownKeys = 100

// ListSeries implements api.StrictServerInterface.
func (s *Server) ListSeries(ctx context.Context, _ api.ListSeriesRequestObject) (api.ListSeriesResponseObject, error) {
	all, err := s.store.AllSeries(ctx)
	if err != nil {
		return nil, err
	}
	accounts, err := s.store.Accounts(ctx, nil)
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
func (s *Server) series(ctx context.Context, id int64) (shown api.NumberSeries, err error) {
	kept, err := s.store.SeriesOf(ctx, id)
	if err != nil {
		return shown, err
	}
	accounts, err := s.store.Accounts(ctx, &id)
	if err != nil {
		return shown, err
	}
	counts, err := s.store.Counts(ctx, id, shownKeys)
	if err != nil {
		return shown, err
	}
	shown = toSeries(&kept, accounts, counts)
	shown.Skipped, err = s.skipped(ctx, &kept)
	return shown, err
}

// GetSeries implements api.StrictServerInterface.
func (s *Server) GetSeries(ctx context.Context, req api.GetSeriesRequestObject) (api.GetSeriesResponseObject, error) {
	shown, err := s.series(ctx, req.Id)
	return api.GetSeries200JSONResponse(shown), err
}

// AddSeries implements api.StrictServerInterface.
func (s *Server) AddSeries(ctx context.Context, req api.AddSeriesRequestObject) (api.AddSeriesResponseObject, error) {
	name, numbers := strings.TrimSpace(req.Body.Name), or(req.Body.List, nil)
	if name == "" {
		return nil, noName6.With()
	}
	if err := ready(numbers); err != nil {
		return nil, err
	}
	if _, err := series.New(req.Body.Counts); err != nil {
		return nil, err
	}
	id, err := s.store.AddSeries(ctx, store.Series{Name: name, Counts: store.Kept[series.Spec]{V: req.Body.Counts},
		Listed: len(numbers) > 0, Unused: string(req.Body.Unused), BadTag: string(or(req.Body.BadTag, api.SameNumber)),
		MadeBy: s.user(ctx)}, numbers)
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
func (s *Server) ChangeSeries(ctx context.Context, req api.ChangeSeriesRequestObject) (api.ChangeSeriesResponseObject,
	error) {
	if _, err := series.New(req.Body.Counts); err != nil {
		return nil, err
	}
	if err := s.store.ChangeSeries(ctx, store.Series{ID: req.Id, Counts: store.Kept[series.Spec]{V: req.Body.Counts},
		Unused: string(req.Body.Unused), BadTag: string(or(req.Body.BadTag, api.SameNumber))}); err != nil {
		return nil, err
	}
	shown, err := s.series(ctx, req.Id)
	return api.ChangeSeries200JSONResponse(shown), err
}

// RetireSeries implements api.StrictServerInterface.
func (s *Server) RetireSeries(ctx context.Context, req api.RetireSeriesRequestObject) (api.RetireSeriesResponseObject,
	error) {
	return api.RetireSeries204Response{}, s.store.RetireSeries(ctx, req.Id)
}

// CountSeries implements api.StrictServerInterface.
func (s *Server) CountSeries(_ context.Context, req api.CountSeriesRequestObject) (api.CountSeriesResponseObject,
	error) {
	numbers, err := count(req.Body.Counts, 0, or(req.Body.Most, 1000))
	return api.CountSeries200JSONResponse(numbers), err
}

// CountSSCC implements api.StrictServerInterface.
func (s *Server) CountSSCC(_ context.Context, req api.CountSSCCRequestObject) (api.CountSSCCResponseObject, error) {
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
func (s *Server) ListCheckRules(context.Context, api.ListCheckRulesRequestObject) (api.ListCheckRulesResponseObject,
	error) {
	answer := api.ListCheckRules200JSONResponse{}
	for _, rule := range check.Rules() {
		answer = append(answer, api.CheckRule{Name: rule.Name, Words: rule.Words, Source: rule.Source})
	}
	return answer, nil
}

// NextNumbers implements api.StrictServerInterface.
func (s *Server) NextNumbers(ctx context.Context, req api.NextNumbersRequestObject) (api.NextNumbersResponseObject,
	error) {
	kept, err := s.store.SeriesOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	next, err := s.store.NextOf(ctx, req.Id, or(req.Params.Key, ""))
	if err != nil {
		return nil, err
	}
	most := or(req.Params.Most, 1000)
	if kept.Listed {
		numbers, err := s.store.ListedNumbers(ctx, req.Id, next, most)
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
func (s *Server) ListNumbers(ctx context.Context, req api.ListNumbersRequestObject) (api.ListNumbersResponseObject,
	error) {
	numbers, err := s.store.Numbers(ctx, req.Id, string(or(req.Params.State, "")), or(req.Params.Before, 0),
		or(req.Params.Most, 100))
	answer := api.ListNumbers200JSONResponse{}
	for i := range numbers {
		answer = append(answer, toNumber(&numbers[i]))
	}
	return answer, err
}

// FindNumber implements api.StrictServerInterface.
func (s *Server) FindNumber(ctx context.Context, req api.FindNumberRequestObject) (api.FindNumberResponseObject,
	error) {
	const most, mostLabels = 20, 200
	numbers, err := s.store.FindNumbers(ctx, scanned(req.Params.Number), most)
	if err != nil {
		return nil, err
	}
	answer := api.FindNumber200JSONResponse{}
	for i := range numbers {
		sights, err := s.store.Sights(ctx, &numbers[i], mostLabels)
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

// scanned returns the numbers that somebody may mean who typed or scanned something: the whole, and the values of a
// code of GS1.
func scanned(typed string) []string {
	whole := strings.TrimSpace(strings.Trim(typed, "\x02\x03\r\n\t"))
	meant := []string{whole}
	if len(whole) > 3 && whole[0] == ']' {
		meant = append(meant, whole[3:])
	}
	elements, _ := gs1.ReadAny(whole) // what is no data of GS1 is a number as it stands
	for _, e := range elements {
		if !slices.Contains(meant, e.Value) {
			meant = append(meant, e.Value)
		}
	}
	return meant
}

// VoidNumber implements api.StrictServerInterface.
func (s *Server) VoidNumber(ctx context.Context, req api.VoidNumberRequestObject) (api.VoidNumberResponseObject,
	error) {
	return api.VoidNumber204Response{}, s.store.VoidNumber(ctx, req.Id, s.user(ctx), req.Body.Why)
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
func (s *Server) WriteNumbers(ctx context.Context, req api.WriteNumbersRequestObject) (api.WriteNumbersResponseObject,
	error) {
	kept, err := s.store.SeriesOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	file, size, err := spooled(func(w io.Writer) error {
		if req.Params.Format == api.WriteNumbersParamsFormatJson {
			return s.writeNumbers(ctx, w, req.Id)
		}
		return writeTable(w, string(req.Params.Format), listHead, func(give func([]string) error) error {
			return s.store.EachNumber(ctx, req.Id, func(n *store.Number) error { return give(listed(n)) })
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
func (s *Server) writeNumbers(ctx context.Context, w io.Writer, id int64) error {
	separator := "[\n"
	encoder := json.NewEncoder(w)
	err := s.store.EachNumber(ctx, id, func(n *store.Number) error {
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
func (s *Server) CloseRun(ctx context.Context, req api.CloseRunRequestObject) (api.CloseRunResponseObject, error) {
	if err := s.store.CloseRun(ctx, req.Id, s.user(ctx)); err != nil {
		return nil, err
	}
	run, err := s.run(ctx, req.Id)
	return api.CloseRun200JSONResponse(run), err
}
