package runs

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"time"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/questions"
	"oddspool/internal/api"
	"oddspool/internal/feeds"
	"oddspool/internal/orderdesk"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// freshRecords returns the records for a run, read again where they are to be, and how many labels each usually gets:
// what a document of the order desk orders of it, or one.
func (s *Runs) freshRecords(ctx context.Context, set *int64, asRead bool) (newest *int64, howMany api.HowMany,
	err error) {
	howMany = api.HowMany{Each: 1}
	if set == nil {
		return nil, howMany, nil
	}
	feed, err := s.Store.FeedOf(ctx, *set)
	if err != nil || feed == nil {
		return set, howMany, err
	}
	if feed.BeforeRun && !asRead && !feed.Closed {
		refreshed, err := s.Feeds.Before(ctx, feed.SetID, s.User(ctx))
		if err != nil {
			return nil, howMany, err
		}
		feed.SetID = refreshed.Set.ID
	}
	if feed.Kind == feeds.Desk {
		newest, err := s.Store.RecordSet(ctx, feed.SetID)
		if err != nil {
			return nil, howMany, err
		}
		if slices.Contains(newest.Fields, orderdesk.Quantity) {
			howMany.Field = new(orderdesk.Quantity)
		}
	}
	return &feed.SetID, howMany, nil
}

// printerFor picks the printer that a design was made for, or the first there is.
func (s *Runs) printerFor(ctx context.Context, d store.Design) (int64, error) {
	if d.PrinterID != nil {
		return *d.PrinterID, nil
	}
	printers, err := s.Store.Printers(ctx)
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
		return 0, noPrinter.With()
	}
	return printers[0].ID, nil
}

// plan works out which labels a choice gives; had is what stood among them before.
func (s *Runs) plan(ctx context.Context, setID *int64, document []byte, choice api.RunChoice,
	had []store.Separator) (*store.RunPlan, error) {
	set, err := s.recordSet(ctx, setID)
	if err != nil {
		return nil, err
	}
	if _, err := s.Store.Printer(ctx, choice.PrinterId); err != nil {
		return nil, err
	}
	chosen, err := batch.Choice{Records: choice.Records, Tick: handler.Or(choice.Tick, nil),
		Untick: handler.Or(choice.Untick, nil)}.Numbers(set.Count)
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
	howMany, err := readHowMany(&choice.HowMany)
	if err != nil {
		return nil, err
	}
	besides, err := s.separatorsOf(ctx, d, set.Fields, &choice, had)
	if err != nil {
		return nil, err
	}
	if howMany.Fill == batch.FillThrough && len(besides.parts) > 0 {
		return nil, separatorsThroughPages.With()
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
	answers, err := answered(asked, handler.Or(choice.Answers, nil))
	if err != nil {
		return nil, err
	}
	plan := batch.NewPlan(shares)
	var numbers []store.Demand
	for part, of := range designs {
		of.Setting, of.Answers = s.Store.Setting(ctx, time.Now()), answers
		more, err := demands(of, plan, part, howMany.Sets, set.Fields, chosen, records)
		if err != nil {
			return nil, err
		}
		numbers = append(numbers, more...)
	}
	return &store.RunPlan{Answers: answers, Taken: taken, RecordSetID: setID, PrinterID: choice.PrinterId,
		SetupID: choice.SetupId, Records: batch.FormatRange(chosen, set.Count), HowMany: howMany, Plan: plan,
		Numbers:    numbers,
		Separators: besides.parts, Pages: besides.pages(&d.Stock, plan)}, nil
}

// readHowMany reads how many labels of each record a run has.
func readHowMany(h *api.HowMany) (batch.HowMany, error) {
	read := batch.HowMany{Each: h.Each, Field: handler.Or(h.Field, ""), Free: handler.Or(h.Free, ""),
		Pack: handler.Or(h.Pack, 0),
		Sets: handler.Or(h.Sets, false), Fill: string(handler.Or(h.Fill, "")), Corrected: map[int]int{}}
	for number, copies := range handler.Or(h.Corrected, nil) {
		n, err := strconv.Atoi(number)
		if err != nil {
			return read, badRecordNumber.With(number)
		}
		read.Corrected[n] = copies
	}
	return read, nil
}

// askedOf returns what several designs ask before a run, each question once.
func (s *Runs) askedOf(ctx context.Context, designs []*design.Design, fields []string) (asked []questions.Question,
	err error) {
	for _, d := range designs {
		if err := s.Store.ChoicesOf(ctx, d); err != nil {
			return nil, err
		}
		for _, q := range d.Asked(fields) {
			if !slices.ContainsFunc(asked, func(had questions.Question) bool { return had.Name == q.Name }) {
				asked = append(asked, q)
			}
		}
	}
	return asked, nil
}

// answered takes answers to questions. Those that were not asked for are no harm.
func answered(asked []questions.Question, typed map[string]string) (map[string]string, error) {
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

// readsRecords tells whether what a design counts depends on what its records say.
func readsRecords(d *design.Design) bool {
	for i := range d.Series {
		if d.Series[i].Group != "" || d.Series[i].Anew != "" {
			return true
		}
	}
	return false
}

// demands returns the numbers that the labels of a part of a plan need, which are of a design. The records are those
// that were chosen.
func demands(d *design.Design, plan *batch.Plan, part int, sets bool, fields []string, chosen []int,
	records [][]string) (all []store.Demand, err error) {
	known, answers := slices.Clone(fields), []string{}
	for _, q := range d.Asked(fields) {
		known, answers = append(known, q.Name), append(answers, d.Answers[q.Name])
	}
	at := make(map[int]int, len(chosen))
	for i, number := range chosen {
		at[number] = i
	}
	for i := range d.Series {
		n := &d.Series[i]
		if sets && (n.Each() == design.PerRecord || n.Each() == design.PerGroup) {
			return nil, labelsApart.With(n.Name, n.Each())
		}
		keys, err := valuesOf(n.Anew, known, answers, d, chosen, records)
		if err != nil {
			return nil, seriesResetUnknown.With(n.Name, err)
		}
		groups, err := valuesOf(n.Group, known, answers, d, chosen, records)
		if err != nil {
			return nil, seriesGroupUnknown.With(n.Name, err)
		}
		var same func(before, record int) bool
		switch n.Each() {
		case design.PerRecord:
			same = func(before, record int) bool { return before == record }
		case design.PerGroup:
			same = func(before, record int) bool { return groups[at[before]] == groups[at[record]] }
		case design.PerRun:
			same = func(int, int) bool { return true }
		}
		key := func(int) string { return "" }
		if n.Anew != "" {
			key = func(record int) string { return keys[at[record]] }
		}
		all = append(all, store.Demand{Series: n.Name, Spans: plan.Spans(part, same, key)})
	}
	return all, nil
}

// valuesOf returns what a formula gives for records; nil: there is none.
func valuesOf(formula string, fields, answers []string, d *design.Design, chosen []int, records [][]string) ([]string,
	error) {
	if formula == "" {
		return nil, nil
	}
	value, err := design.Valued(formula, fields, d.Setting)
	if err != nil {
		return nil, err
	}
	values := make([]string, len(records))
	for i, record := range records {
		if values[i], err = value(append(record[:len(record):len(record)], answers...)); err != nil {
			return nil, fmt.Errorf("Record %d: %w", chosen[i], err)
		}
	}
	return values, nil
}
