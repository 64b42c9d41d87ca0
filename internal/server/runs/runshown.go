package runs

import (
	"context"
	"strconv"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/prover"
	"oddspool/internal/server/handler"
	"oddspool/internal/server/printers"
	"oddspool/internal/store"
)

// earlierAnswers is how many are offered for each question.
const earlierAnswers = 8

// Run shows a run with its prints.
func (s *Runs) Run(ctx context.Context, id int64) (shown api.Run, err error) {
	// The prints are read first: one that is done has all its labels counted in the run that follows.
	prints, err := s.Store.PrintsOf(ctx, id)
	if err != nil {
		return shown, err
	}
	r, err := s.Store.Run(ctx, id)
	if err != nil {
		return shown, err
	}
	printer, err := s.Store.Printer(ctx, r.PrinterID)
	if err != nil {
		return shown, err
	}
	d, err := r.Design()
	if err != nil {
		return shown, err
	}
	shown = toRun(&r, d, printer)
	if err := s.showQuestions(ctx, &shown, &r, d); err != nil {
		return shown, err
	}
	if shown.WebMillimetres, err = s.web(ctx, &r, &d.Stock); err != nil {
		return shown, err
	}
	if err := s.showLoaded(ctx, &shown, &r, &d.Stock, &printer); err != nil {
		return shown, err
	}
	shown.Seconds = int(batch.Time(shown.WebMillimetres, printer.About.V.Speed).Seconds() + 0.5)
	for _, p := range prints {
		shown.Prints = append(shown.Prints, toPrint(&p, d.Stock, printer.About.V))
	}
	return shown, nil
}

// toRun shows what is kept of a run.
func toRun(r *store.Run, d *design.Design, printer store.Printer) api.Run {
	shown := api.Run{Id: r.ID, Name: d.Name, DesignId: r.DesignID, Version: r.Version, RecordSetId: r.RecordSetID,
		RecordSet: r.RecordSet, RecordCount: r.RecordCount,
		RecordSetFields: r.Fields, Chosen: r.Chosen, Labels: r.LabelCount, Printed: r.Printed,
		Left: r.LabelCount - r.Printed, AskFrom: batch.AskFrom,
		Printer: printers.ToPrinter(printer), Stock: handler.AsDocument(d.Stock), PerPage: d.Stock.PerPage(),
		PreparedBy: r.PreparedBy,
		PreparedAt: r.PreparedAt,
		ClosedAt:   r.ClosedAt, ClosedBy: r.ClosedBy, DoubtedAt: r.DoubtedAt, Taken: []api.Taken{},
		Numbers: []api.RunNumbers{}, Prints: []api.Print{},
		Choice: api.RunChoice{Records: r.Records, PrinterId: r.PrinterID, SetupId: r.SetupID, Answers: &r.Answers.V,
			Besides: toSeparators(r.Separators.V), HowMany: toHowMany(&r.HowMany.V)}}
	for _, n := range r.Numbers.V {
		shown.Numbers = append(shown.Numbers, api.RunNumbers{SeriesId: n.SeriesID, Series: n.Series, First: n.First,
			Last: n.Last, Count: n.Count})
	}
	for _, t := range r.Taken.V {
		shown.Taken = append(shown.Taken, api.Taken{Record: t.Record, Field: t.Field, Value: t.Value, As: t.As})
	}
	return shown
}

func toHowMany(h *batch.HowMany) api.HowMany {
	corrected := map[string]int{}
	for number, copies := range h.Corrected {
		corrected[strconv.Itoa(number)] = copies
	}
	return api.HowMany{Fill: (*api.HowManyFill)(&h.Fill), Each: h.Each, Field: &h.Field, Free: &h.Free, Pack: &h.Pack,
		Sets: &h.Sets, Corrected: &corrected}
}

// showQuestions shows what a run and what stands among its labels ask, and how many answers there are.
func (s *Runs) showQuestions(ctx context.Context, shown *api.Run, r *store.Run, d *design.Design) error {
	parts, err := s.Store.RunParts(ctx, r)
	if err != nil {
		return err
	}
	designs := []*design.Design{d}
	for _, of := range parts[1:] {
		made, err := of.Design()
		if err != nil {
			return err
		}
		designs = append(designs, made)
	}
	asked, err := s.askedOf(ctx, designs, r.Fields)
	if err != nil {
		s.Log.Warn("the choices of a question are not there", "run", r.ID, "error", err)
		asked = d.Asked(r.Fields)
	}
	shown.Questions = make([]api.About, len(asked))
	for i := range asked {
		shown.Questions[i] = handler.AsDocument(asked[i])
	}
	if shown.AnswersGiven, shown.AnswersWanted, err = s.countAnswers(ctx, r, d); err != nil {
		return err
	}
	shown.Earlier = map[string][]string{}
	if len(d.Questions) > 0 {
		shown.Earlier, err = s.Store.EarlierAnswers(ctx, r.DesignID, earlierAnswers)
	}
	return err
}

// web returns how much web the labels of a run take that its own printer prints, in millimetres. Of pieces that are as
// long as their content it is known when the run was proved.
func (s *Runs) web(ctx context.Context, r *store.Run, on *stock.Stock) (float64, error) {
	if on.ByContent() && r.Proof != nil {
		found, err := prover.Kept(r)
		if err != nil {
			return 0, err
		}
		return s.tape(ctx, r.ID, found)
	}
	if r.Pages != nil {
		return batch.Web(*on, *r.Pages*on.PerPage()), nil
	}
	return batch.Web(*on, ownLabels(r)), nil
}

// ownLabels returns how many labels of a run its own printer prints.
func ownLabels(r *store.Run) int { return r.LabelCount - elsewhere(r.Separators.V) }

// tape returns how much tape the labels of a run take whose pieces are as long as their content, in
// millimetres.
func (s *Runs) tape(ctx context.Context, run int64, found *prover.Found) (float64, error) {
	plan, err := s.Store.RunPlanOf(ctx, run)
	if err != nil {
		return 0, err
	}
	var sum measure.Length
	for _, share := range plan.Shares() {
		lengths := found.Lengths
		if share.Part > 0 {
			lengths = found.Separators[share.Part-1].Lengths
		}
		sum += lengths[share.Record] * measure.Length(share.Copies)
	}
	return sum.Millimetres(), nil
}

// showLoaded shows whether what is loaded in the printer fits a run, and where it does, which labels come off which
// roll.
func (s *Runs) showLoaded(ctx context.Context, shown *api.Run, r *store.Run, on *stock.Stock,
	printer *store.Printer) error {
	loaded := s.printers.Floor.Lately(ctx, *printer)
	if loaded != nil {
		if misfit := loaded.Misfit(*on); misfit != nil {
			shown.Misfit = misfit.Text
			return nil
		}
		if loaded.OtherMaterial(*on) {
			shown.OtherStock = loaded.Name
		}
	}
	leftOut, err := s.Store.LeftOut(ctx, r)
	if err != nil {
		return err
	}
	own := ownLabels(r)
	shown.RollPlan, err = s.printers.RollPlan(ctx, on, &printer.About.V, loaded, own, max(own-leftOut-r.Printed, 0),
		shown.WebMillimetres)
	return err
}
