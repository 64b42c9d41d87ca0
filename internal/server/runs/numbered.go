package runs

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strconv"
	"time"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/questions"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// GetRunAnswers implements api.StrictServerInterface.
func (s *Runs) GetRunAnswers(ctx context.Context,
	req api.GetRunAnswersRequestObject) (api.GetRunAnswersResponseObject, error) {
	r, d, err := s.runDesign(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	plan, err := s.Store.RunPlanOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	from, most := handler.Or(req.Params.From, 1), handler.Or(req.Params.Most, 50)
	answer := api.GetRunAnswers200JSONResponse{Questions: []api.About{}, Total: plan.Len(), Rows: []api.RunAnswerRow{}}
	byLabel := false
	for _, q := range d.AskedEach(r.Fields) {
		document, err := json.Marshal(q)
		if err != nil {
			return nil, fmt.Errorf("write a question: %w", err)
		}
		answer.Questions = append(answer.Questions, document)
		byLabel = byLabel || q.Each == questions.EachLabel
	}
	if answer.Given, answer.Wanted, err = s.countAnswers(ctx, r, d); err != nil || len(answer.Questions) == 0 {
		return answer, err
	}
	var records []int
	for n := from; n <= plan.Len() && len(answer.Rows) < most; n++ {
		record, copied := plan.At(n)
		if copied > 1 && !byLabel {
			continue
		}
		records = append(records, record)
		answer.Rows = append(answer.Rows, api.RunAnswerRow{Label: n, Record: record, Copy: copied, Values: []string{},
			Answers: map[string]string{}})
	}
	given, err := s.Store.Answers(ctx, req.Id, slices.Compact(slices.Clone(records)))
	if err != nil {
		return nil, err
	}
	values, err := s.someRecords(ctx, r.RecordSetID, records)
	if err != nil {
		return nil, err
	}
	for i := range answer.Rows {
		row := &answer.Rows[i]
		row.Values = append(row.Values, values[i]...)
		for _, a := range given {
			if a.Record == row.Record && (a.Copy == 0 || a.Copy == row.Copy) {
				row.Answers[a.Name] = a.Answer
			}
		}
	}
	return answer, nil
}

// countAnswers returns how many answers were given of those that are asked for records and labels.
func (s *Runs) countAnswers(ctx context.Context, r *store.Run, d *design.Design) (given, wanted int, err error) {
	ofRecord, ofLabel := []string{}, []string{}
	for _, q := range d.AskedEach(r.Fields) {
		if q.Each == questions.EachLabel {
			ofLabel = append(ofLabel, q.Name)
		} else {
			ofRecord = append(ofRecord, q.Name)
		}
	}
	if len(ofRecord)+len(ofLabel) == 0 {
		return 0, 0, nil
	}
	return s.Store.CountAnswers(ctx, r.ID, ofRecord, ofLabel)
}

// runDesign returns a run with its design.
func (s *Runs) runDesign(ctx context.Context, id int64) (*store.Run, *design.Design, error) {
	r, err := s.Store.Run(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	d, err := r.Design()
	if err == nil {
		err = s.Store.ChoicesOf(ctx, d)
	}
	return &r, d, err
}

// KeepRunAnswers implements api.StrictServerInterface.
func (s *Runs) KeepRunAnswers(ctx context.Context,
	req api.KeepRunAnswersRequestObject) (api.KeepRunAnswersResponseObject, error) {
	r, d, err := s.runDesign(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	asked := d.AskedEach(r.Fields)
	answers := make([]store.Answer, 0, len(req.Body.Answers))
	for _, typed := range req.Body.Answers {
		i := slices.IndexFunc(asked, func(q questions.Question) bool { return q.Name == typed.Name })
		if i < 0 {
			return nil, notEach.With(typed.Name)
		}
		if q := &asked[i]; (q.Each == questions.EachLabel) != (typed.Copy > 0) {
			return nil, forWhich.With(q.Asked(), q.Each)
		}
		kept, err := asked[i].Answer(typed.Answer)
		if err != nil {
			return nil, inRecord.With(typed.Record, err)
		}
		answers = append(answers, store.Answer{Record: typed.Record, Copy: typed.Copy, Name: typed.Name, Answer: kept})
	}
	return api.KeepRunAnswers204Response{}, s.Store.KeepAnswers(ctx, req.Id, answers)
}

// SpoilLabels implements api.StrictServerInterface.
func (s *Runs) SpoilLabels(ctx context.Context, req api.SpoilLabelsRequestObject) (api.SpoilLabelsResponseObject,
	error) {
	r, err := s.Store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	labels, err := batch.ParseRange(req.Body.Labels, r.LabelCount)
	if err != nil {
		return nil, err
	}
	if _, err := s.Store.SpoilLabels(ctx, req.Id, labels, string(req.Body.Numbers), s.User(ctx)); err != nil {
		return nil, err
	}
	run, err := s.Run(ctx, req.Id)
	return api.SpoilLabels200JSONResponse(run), err
}

// WriteRun implements api.StrictServerInterface.
func (s *Runs) WriteRun(ctx context.Context, req api.WriteRunRequestObject) (api.WriteRunResponseObject, error) {
	r, err := s.Store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	own, err := r.Design()
	if err != nil {
		return nil, err
	}
	questions, stands := []string{}, []string{}
	for _, q := range own.Asked(r.Fields) {
		questions, stands = append(questions, q.Name), append(stands, r.Answers.V[q.Name])
	}
	for _, q := range own.AskedEach(r.Fields) {
		questions, stands = append(questions, q.Name), append(stands, q.Default)
	}
	head := append([]string{"label", "record"}, r.Fields...)
	head = append(append(head, questions...), "numbers", "state", "read back", "read as", "print", "kind", "printer",
		"by", "at", "chip", "epc")
	if len(r.Separators.V) > 0 {
		head = append(head, "design")
	}
	file, size, err := handler.Spooled(func(w io.Writer) error {
		return handler.WriteTable(w, string(req.Params.Format), head, func(give func([]string) error) error {
			return s.Store.EachPrinted(ctx, r.ID, questions, stands, func(p *store.Printed) error {
				at := ""
				if p.At != nil {
					at = p.At.Format(time.RFC3339)
				}
				row := append([]string{strconv.Itoa(p.Label), strconv.Itoa(p.Record)}, p.Values...)
				for len(row) < len(r.Fields)+2 { // a label without records
					row = append(row, "")
				}
				row = append(append(row, p.Answers...), p.Numbers, string(p.State), p.ReadBack, p.ReadAs,
					strconv.FormatInt(p.PrintID, 10), p.Kind, p.Printer, p.By, at, p.TID, p.EPC)
				switch {
				case len(r.Separators.V) == 0:
				case p.Part == 0:
					row = append(row, own.Name)
				default:
					row = append(row, r.Separators.V[p.Part-1].Name)
				}
				return give(row)
			})
		})
	})
	if err != nil {
		return nil, err
	}
	disposition := fmt.Sprintf("attachment; filename=run-%d.%s", r.ID, req.Params.Format)
	return api.WriteRun200ApplicationoctetStreamResponse{Body: file, ContentLength: size,
		Headers: api.WriteRun200ResponseHeaders{ContentDisposition: &disposition}}, nil
}

// answered refuses to bring labels out of a run of which a question that must be answered is not, whether an element
// says it or not.
func (s *Runs) answered(ctx context.Context, r *store.Run) error {
	parts, err := s.Store.RunParts(ctx, r)
	if err != nil {
		return err
	}
	must := func(q questions.Question) bool { return q.Must && q.Default == "" }
	for _, part := range parts {
		d, err := part.Design()
		if err != nil {
			return err
		}
		for _, q := range d.Asked(r.Fields) {
			if must(q) && r.Answers.V[q.Name] == "" {
				return openRefused.With(q.Asked())
			}
		}
	}
	d, err := r.Design()
	if err != nil {
		return err
	}
	for _, q := range d.AskedEach(r.Fields) {
		if !must(q) {
			continue
		}
		ofRecord, ofLabel := []string{q.Name}, []string{}
		if q.Each == questions.EachLabel {
			ofRecord, ofLabel = ofLabel, ofRecord
		}
		given, wanted, err := s.Store.CountAnswers(ctx, r.ID, ofRecord, ofLabel)
		if err != nil {
			return err
		}
		if given < wanted {
			return openInPart.With(q.Asked(), q.Each, given, wanted)
		}
	}
	return nil
}
