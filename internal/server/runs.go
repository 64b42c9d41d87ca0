package server

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"oddspool/core/ask"
	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/internal/api"
	"oddspool/internal/feeds"
	"oddspool/internal/orderdesk"
	"oddspool/internal/prover"
	"oddspool/internal/store"
)

// listedRuns is how many runs a list shows where it is not said.
const listedRuns = 50

// ListRuns implements api.StrictServerInterface.
func (s *Server) ListRuns(ctx context.Context, req api.ListRunsRequestObject) (api.ListRunsResponseObject, error) {
	wanted := store.RunsWanted{Words: or(req.Params.Find, ""), Skip: or(req.Params.Skip, 0), Most: or(req.Params.Most, listedRuns)}
	if whole := strings.TrimSpace(wanted.Words); whole != "" {
		wanted.Values = scanned(whole)
	}
	for text, to := range map[*string]**time.Time{req.Params.From: &wanted.From, req.Params.To: &wanted.To} {
		if text == nil {
			continue
		}
		day, err := time.ParseInLocation(time.DateOnly, *text, time.Local)
		if err != nil {
			return nil, refused(fmt.Sprintf("%q is no day; write it like 2026-11-26.", *text))
		}
		if to == &wanted.To {
			day = day.AddDate(0, 0, 1)
		}
		*to = &day
	}
	runs, err := s.store.Runs(ctx, wanted)
	return api.ListRuns200JSONResponse(toRunEntries(runs)), err
}

func toRunEntries(runs []store.RunEntry) []api.RunEntry {
	entries := make([]api.RunEntry, len(runs))
	for i, r := range runs {
		entries[i] = api.RunEntry{Id: r.ID, Name: nameOf(r.Document), Version: r.Version, RecordSet: r.RecordSet, Labels: r.LabelCount, Printed: r.Printed,
			PreparedBy: r.PreparedBy, PreparedAt: r.PreparedAt, LastPrintedAt: r.LastPrintedAt, State: api.RunEntryState(r.State), Printer: r.Printer,
			Picture: fmt.Sprintf("/api/runs/%d/picture", r.ID)}
	}
	return entries
}

func nameOf(document []byte) string {
	var named struct{ Name string }
	_ = json.Unmarshal(document, &named) // a stored design is JSON
	return named.Name
}

// PrepareRun implements api.StrictServerInterface.
func (s *Server) PrepareRun(ctx context.Context, req api.PrepareRunRequestObject) (api.PrepareRunResponseObject, error) {
	d, err := s.store.Design(ctx, req.Body.DesignId)
	if err != nil {
		return nil, err
	}
	setID, howMany, err := s.freshRecords(ctx, req.Body.RecordSetId, or(req.Body.AsRead, false))
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
		return nil, refused("There is nothing on this design yet. Put something on it, then prepare the run.")
	}
	revision, err := s.store.KeepRevision(ctx, d.ID, "", s.user(ctx))
	if err != nil {
		return nil, err
	}
	plan.RevisionID = revision.ID
	id, err := s.store.PrepareRun(ctx, *plan, s.user(ctx))
	if err != nil {
		return nil, err
	}
	run, err := s.run(ctx, id)
	return api.PrepareRun200JSONResponse(run), err
}

// freshRecords returns the records for a run, read again where they are to be, and how many labels each usually gets: what a document of
// the order desk orders of it, or one.
func (s *Server) freshRecords(ctx context.Context, set *int64, asRead bool) (newest *int64, howMany api.HowMany, err error) {
	howMany = api.HowMany{Each: 1}
	if set == nil {
		return nil, howMany, nil
	}
	feed, err := s.store.FeedOf(ctx, *set)
	if err != nil || feed == nil {
		return set, howMany, err
	}
	if feed.BeforeRun && !asRead && !feed.Closed {
		refreshed, err := s.feeds.Before(ctx, feed.SetID, s.user(ctx))
		if err != nil {
			return nil, howMany, err
		}
		feed.SetID = refreshed.Set.ID
	}
	if feed.Kind == feeds.Desk {
		newest, err := s.store.RecordSet(ctx, feed.SetID)
		if err != nil {
			return nil, howMany, err
		}
		if slices.Contains(newest.Fields, orderdesk.Quantity) {
			howMany.Field = text(orderdesk.Quantity)
		}
	}
	return &feed.SetID, howMany, nil
}

// printerFor picks the printer that a design was made for, or the first there is.
func (s *Server) printerFor(ctx context.Context, d store.Design) (int64, error) {
	if d.PrinterID != nil {
		return *d.PrinterID, nil
	}
	printers, err := s.store.Printers(ctx)
	if err != nil {
		return 0, err
	}
	var document design.Design
	_ = json.Unmarshal(d.Document, &document)
	for _, p := range printers {
		if p.Name == document.Printer.Name {
			return p.ID, nil
		}
	}
	if len(printers) == 0 {
		return 0, refused("There is no printer yet. Add one, then prepare the run.")
	}
	return printers[0].ID, nil
}

// plan works out which labels a choice gives; had is what stood among them before.
func (s *Server) plan(ctx context.Context, setID *int64, document []byte, choice api.RunChoice, had []store.Beside) (*store.RunPlan, error) {
	set, err := s.recordSet(ctx, setID)
	if err != nil {
		return nil, err
	}
	if _, err := s.store.Printer(ctx, choice.PrinterId); err != nil {
		return nil, err
	}
	chosen, err := batch.Choice{Records: choice.Records, Tick: or(choice.Tick, nil), Untick: or(choice.Untick, nil)}.Numbers(set.Count)
	if err != nil {
		return nil, err
	}
	d, err := design.Parse(document)
	if err != nil {
		return nil, err
	}
	if err := d.Clash(set.Fields); err != nil {
		return nil, err
	}
	howMany := batch.HowMany{Each: choice.HowMany.Each, Field: or(choice.HowMany.Field, ""), Free: or(choice.HowMany.Free, ""), Pack: or(choice.HowMany.Pack, 0), Sets: or(choice.HowMany.Sets, false), Fill: string(or(choice.HowMany.Fill, "")), Corrected: map[int]int{}}
	for number, copies := range or(choice.HowMany.Corrected, nil) {
		n, err := strconv.Atoi(number)
		if err != nil {
			return nil, refused(fmt.Sprintf("%q is no number of a record.", number))
		}
		howMany.Corrected[n] = copies
	}
	besides, err := s.besidesOf(ctx, d, set.Fields, &choice, had)
	if err != nil {
		return nil, err
	}
	if howMany.Fill == batch.FillThrough && len(besides.parts) > 0 {
		return nil, refused("Labels that take one place of all pages after the other have none among them. Fill the pages along the rows, or take the others away.")
	}
	designs := append([]*design.Design{d}, besides.designs...)
	var records [][]string
	if howMany.Field != "" || besides.group() || slices.ContainsFunc(designs, readsRecords) {
		if records, err = s.someRecords(ctx, setID, chosen); err != nil {
			return nil, err
		}
	}
	shares, taken, err := howMany.Share(chosen, set.Fields, records)
	if err != nil {
		return nil, err
	}
	if _, err := s.keptSetup(ctx, choice.SetupId, choice.PrinterId, document); err != nil {
		return nil, err
	}
	if shares, err = besides.shares(shares, chosen, records); err != nil {
		return nil, err
	}
	asked, err := s.askedOf(ctx, designs, set.Fields)
	if err != nil {
		return nil, err
	}
	answers, err := answered(asked, or(choice.Answers, nil))
	if err != nil {
		return nil, err
	}
	plan := batch.NewPlan(shares)
	var numbers []store.Demand
	for part, of := range designs {
		of.Setting, of.Answers = s.store.Setting(ctx, time.Now()), answers
		more, err := demands(of, plan, part, howMany.Sets, set.Fields, chosen, records)
		if err != nil {
			return nil, err
		}
		numbers = append(numbers, more...)
	}
	return &store.RunPlan{Answers: answers, Taken: taken, RecordSetID: setID, PrinterID: choice.PrinterId, SetupID: choice.SetupId, Records: batch.FormatRange(chosen, set.Count), HowMany: howMany, Plan: plan, Numbers: numbers,
		Besides: besides.parts, Pages: besides.pages(&d.Stock, plan)}, nil
}

// askedOf returns what several designs ask before a run, each question once.
func (s *Server) askedOf(ctx context.Context, designs []*design.Design, fields []string) (asked []ask.Question, err error) {
	for _, d := range designs {
		if err := s.store.ChoicesOf(ctx, d); err != nil {
			return nil, err
		}
		for _, q := range d.Asked(fields) {
			if !slices.ContainsFunc(asked, func(had ask.Question) bool { return had.Name == q.Name }) {
				asked = append(asked, q)
			}
		}
	}
	return asked, nil
}

// answered takes answers to questions. Those that were not asked for are no harm.
func answered(asked []ask.Question, typed map[string]string) (map[string]string, error) {
	answers := map[string]string{}
	for i := range asked {
		q := &asked[i]
		said, given := typed[q.Name]
		if !given {
			continue // what is not answered yet is a finding
		}
		answer, err := q.Answer(said)
		if err != nil {
			return nil, err
		}
		answers[q.Name] = answer
	}
	return answers, nil
}

// recordSet returns a record set; without one there is one record that has no fields.
func (s *Server) recordSet(ctx context.Context, id *int64) (store.RecordSet, error) {
	if id == nil {
		return store.RecordSet{Count: 1}, nil
	}
	return s.store.RecordSet(ctx, *id)
}

// someRecords returns records by their numbers.
func (s *Server) someRecords(ctx context.Context, id *int64, numbers []int) ([][]string, error) {
	if id == nil {
		return make([][]string, len(numbers)), nil
	}
	return s.store.SomeRecords(ctx, *id, numbers)
}

// GetRunRecords implements api.StrictServerInterface.
func (s *Server) GetRunRecords(ctx context.Context, req api.GetRunRecordsRequestObject) (api.GetRunRecordsResponseObject, error) {
	r, err := s.store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	from, most := or(req.Params.From, 1), or(req.Params.Most, 100)
	records := [][]string{{}}
	if r.RecordSetID != nil {
		records, err = s.store.Records(ctx, *r.RecordSetID, from, most)
	} else if from > 1 {
		records = nil
	}
	if err != nil {
		return nil, err
	}
	copies, err := s.store.RunCopies(ctx, req.Id, from, most)
	answer := make(api.GetRunRecords200JSONResponse, len(records))
	for i, values := range records {
		answer[i] = api.RunRecord{Number: from + i, Values: values, Copies: copies[from+i]}
	}
	return answer, err
}

// GetRun implements api.StrictServerInterface.
func (s *Server) GetRun(ctx context.Context, req api.GetRunRequestObject) (api.GetRunResponseObject, error) {
	run, err := s.run(ctx, req.Id)
	return api.GetRun200JSONResponse(run), err
}

// ChangeRun implements api.StrictServerInterface.
func (s *Server) ChangeRun(ctx context.Context, req api.ChangeRunRequestObject) (api.ChangeRunResponseObject, error) {
	run, err := s.store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	had, err := run.Has()
	if err != nil {
		return nil, err
	}
	plan, err := s.plan(ctx, run.RecordSetID, run.Document, *req.Body, had)
	if err != nil {
		return nil, err
	}
	if err := s.store.ChangeRun(ctx, req.Id, *plan, s.user(ctx)); err != nil {
		return nil, err
	}
	changed, err := s.run(ctx, req.Id)
	return api.ChangeRun200JSONResponse(changed), err
}

// earlierAnswers is how many are offered for each question.
const earlierAnswers = 8

// run shows a run with its prints.
func (s *Server) run(ctx context.Context, id int64) (api.Run, error) {
	// The prints are read first: one that is done has all its labels counted in the run that follows.
	prints, err := s.store.PrintsOf(ctx, id)
	if err != nil {
		return api.Run{}, err
	}
	r, err := s.store.Run(ctx, id)
	if err != nil {
		return api.Run{}, err
	}
	printer, err := s.store.Printer(ctx, r.PrinterID)
	if err != nil {
		return api.Run{}, err
	}
	d, err := r.Design()
	if err != nil {
		return api.Run{}, err
	}
	var howMany batch.HowMany
	if err := json.Unmarshal(r.HowMany, &howMany); err != nil {
		return api.Run{}, fmt.Errorf("read quantities of run %d: %w", id, err)
	}
	roll, err := json.Marshal(d.Stock)
	if err != nil {
		return api.Run{}, fmt.Errorf("write stock: %w", err)
	}
	corrected := map[string]int{}
	for number, copies := range howMany.Corrected {
		corrected[strconv.Itoa(number)] = copies
	}
	answers := map[string]string{}
	if err := json.Unmarshal(r.Answers, &answers); err != nil {
		return api.Run{}, fmt.Errorf("read answers of run %d: %w", id, err)
	}
	besides, err := r.Has()
	if err != nil {
		return api.Run{}, err
	}
	designs := []*design.Design{d}
	for i := range besides {
		of, err := s.store.RunPart(ctx, &r, i+1)
		if err != nil {
			return api.Run{}, err
		}
		made, err := of.Design()
		if err != nil {
			return api.Run{}, err
		}
		designs = append(designs, made)
	}
	asked, err := s.askedOf(ctx, designs, r.Fields)
	if err != nil {
		s.log.Warn("the choices of a question are not there", "run", id, "error", err)
		asked = d.Asked(r.Fields)
	}
	questions, err := json.Marshal(append([]ask.Question{}, asked...))
	if err != nil {
		return api.Run{}, fmt.Errorf("write questions: %w", err)
	}
	var taken []batch.Taken
	if err := json.Unmarshal(r.Taken, &taken); err != nil {
		return api.Run{}, fmt.Errorf("read quantities of run %d: %w", id, err)
	}
	shown := api.Run{AskFrom: batch.AskFrom, Taken: []api.Taken{}, Numbers: []api.RunNumbers{}, ClosedAt: r.ClosedAt, ClosedBy: r.ClosedBy, Questions: questions, Id: r.ID, Name: d.Name, DesignId: r.DesignID, Version: r.Version, RecordSetId: r.RecordSetID, RecordSet: r.RecordSet,
		RecordCount: r.RecordCount, RecordSetFields: r.Fields, Chosen: r.Chosen, Labels: r.LabelCount, Printer: toPrinter(printer), Stock: roll,
		Printed: r.Printed, Left: r.LabelCount - r.Printed, PreparedBy: r.PreparedBy, PreparedAt: r.PreparedAt, Prints: []api.Print{},
		Choice: api.RunChoice{Records: r.Records, PrinterId: r.PrinterID, SetupId: r.SetupID, Answers: &answers, Besides: toBesides(besides), HowMany: api.HowMany{Fill: (*api.HowManyFill)(&howMany.Fill), Each: howMany.Each, Field: &howMany.Field, Free: &howMany.Free, Pack: &howMany.Pack, Sets: &howMany.Sets, Corrected: &corrected}}}
	var numbers []store.RunNumbers
	if err := json.Unmarshal(r.Numbers, &numbers); err != nil {
		return api.Run{}, fmt.Errorf("read numbers of run %d: %w", id, err)
	}
	for _, n := range numbers {
		shown.Numbers = append(shown.Numbers, api.RunNumbers{SeriesId: n.SeriesID, Series: n.Series, First: n.First, Last: n.Last, Count: n.Count})
	}
	if shown.AnswersGiven, shown.AnswersWanted, err = s.countAnswers(ctx, &r, d); err != nil {
		return api.Run{}, err
	}
	if shown.Earlier = map[string][]string{}; len(d.Questions) > 0 {
		if shown.Earlier, err = s.store.EarlierAnswers(ctx, r.DesignID, earlierAnswers); err != nil {
			return api.Run{}, err
		}
	}
	for _, t := range taken {
		shown.Taken = append(shown.Taken, api.Taken{Record: t.Record, Field: t.Field, Value: t.Value, As: t.As})
	}
	about, err := printer.Does()
	if err != nil {
		return api.Run{}, fmt.Errorf("read printer %d: %w", printer.ID, err)
	}
	shown.PerPage = d.Stock.PerPage()
	here := r.LabelCount - elsewhere(besides) // labels that its own printer prints
	shown.WebMillimetres = batch.Web(d.Stock, here)
	if r.Pages != nil {
		shown.WebMillimetres = batch.Web(d.Stock, *r.Pages*d.Stock.PerPage())
	}
	if d.Stock.ByContent() && r.Proof != nil {
		found, err := prover.Kept(&r)
		if err != nil {
			return api.Run{}, err
		}
		if shown.WebMillimetres, err = s.tape(ctx, id, found); err != nil {
			return api.Run{}, err
		}
	}
	loaded := s.floor.lately(ctx, printer)
	if loaded != nil {
		if misfit := loaded.Misfit(d.Stock); misfit != nil {
			shown.Misfit = misfit.Text
		} else if loaded.OtherMaterial(d.Stock) {
			shown.OtherStock = loaded.Name
		}
	}
	if shown.Misfit == "" {
		leftOut, err := s.store.LeftOut(ctx, &r)
		if err != nil {
			return api.Run{}, err
		}
		if shown.RollPlan, err = s.rollPlan(ctx, &d.Stock, &about, loaded, here, max(here-leftOut-r.Printed, 0), shown.WebMillimetres); err != nil {
			return api.Run{}, err
		}
	}
	shown.Seconds = int(batch.Time(shown.WebMillimetres, about.Speed).Seconds() + 0.5)
	for _, p := range prints {
		shown.Prints = append(shown.Prints, toPrint(&p, d.Stock, about))
	}
	return shown, nil
}

// tape returns how much tape the labels of a run take whose pieces are as long as their content, in
// millimetres.
func (s *Server) tape(ctx context.Context, run int64, found *prover.Found) (float64, error) {
	plan, err := s.store.RunPlanOf(ctx, run)
	if err != nil {
		return 0, err
	}
	var sum measure.Length
	for _, share := range plan.Shares() {
		lengths := found.Lengths
		if share.Part > 0 {
			lengths = found.Besides[share.Part-1].Lengths
		}
		sum += lengths[share.Record] * measure.Length(share.Copies)
	}
	return sum.Millimetres(), nil
}

// GetRunPicture implements api.StrictServerInterface.
func (s *Server) GetRunPicture(ctx context.Context, req api.GetRunPictureRequestObject) (api.GetRunPictureResponseObject, error) {
	r, err := s.store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	d, err := s.store.ToCompose(ctx, &r)
	if err != nil {
		return nil, err
	}
	own, err := s.store.FirstOwn(ctx, r.ID)
	if err != nil {
		return nil, err
	}
	first, err := s.store.RunLabels(ctx, &r, d, s.user(ctx), own, own, true)
	if err != nil {
		return nil, err
	}
	fields, values := d.LabelFields(r.Fields), []string(nil)
	if len(first) > 0 {
		values = first[0].Values
	}
	picture, err := drawn(d, fields, values)
	if err != nil {
		return nil, err
	}
	return api.GetRunPicture200ImagepngResponse{Body: picture}, nil
}

// GetRunLabels implements api.StrictServerInterface.
func (s *Server) GetRunLabels(ctx context.Context, req api.GetRunLabelsRequestObject) (api.GetRunLabelsResponseObject, error) {
	r, err := s.store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	answer := api.RunLabels{Total: r.LabelCount, Labels: []api.RunLabel{}}
	parts, err := s.store.RunParts(ctx, &r)
	if err != nil {
		return nil, err
	}
	drawing, cancel := context.WithTimeoutCause(ctx, drawTime, errDrawing)
	defer cancel()
	from := or(req.Params.From, 1)
	for _, part := range parts {
		more, err := s.drawnLabels(drawing, part, from, from+or(req.Params.Most, 20)-1)
		if err != nil {
			return nil, err
		}
		answer.Labels = append(answer.Labels, more...)
	}
	slices.SortFunc(answer.Labels, func(a, b api.RunLabel) int { return a.Label - b.Label })
	return api.GetRunLabels200JSONResponse(answer), nil
}

// drawnLabels draws labels of one part of a run.
func (s *Server) drawnLabels(ctx context.Context, r *store.Run, from, to int) (shown []api.RunLabel, err error) {
	d, err := s.store.ToCompose(ctx, r)
	if err != nil {
		return nil, err
	}
	labels, err := s.store.RunLabels(ctx, r, d, s.user(ctx), from, to, true)
	if err != nil {
		return nil, err
	}
	numbers, records := make([]int, len(labels)), make([][]string, len(labels))
	for i, label := range labels {
		numbers[i], records[i] = label.Record, label.Values
	}
	drawer, err := newDrawer(d, d.LabelFields(r.Fields))
	if err != nil {
		return nil, err
	}
	made, err := drawer.all(ctx, numbers, records)
	if err != nil {
		return nil, err
	}
	for i, label := range made {
		worst := proof.Fine
		for _, f := range label.Findings {
			worst = max(worst, f.Level)
		}
		one := api.RunLabel{Label: labels[i].Label, Record: label.Record, Picture: label.Picture, Width: label.Width, Height: label.Height, Level: api.RunLabelLevel(worst.String())}
		if r.Part > 0 {
			one.Design = &d.Name
		}
		shown = append(shown, one)
	}
	return shown, nil
}
