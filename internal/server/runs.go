package server

import (
	"context"
	"encoding/json"
	"fmt"
	"strconv"
	"time"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/prover"
	"oddspool/internal/store"
)

// listedRuns is how many runs a list shows, the latest first.
const listedRuns = 200

// ListRuns implements api.StrictServerInterface.
func (s *Server) ListRuns(ctx context.Context, _ api.ListRunsRequestObject) (api.ListRunsResponseObject, error) {
	runs, err := s.store.Runs(ctx, listedRuns, false)
	return api.ListRuns200JSONResponse(toRunEntries(runs)), err
}

func toRunEntries(runs []store.RunEntry) []api.RunEntry {
	entries := make([]api.RunEntry, len(runs))
	for i, r := range runs {
		entries[i] = api.RunEntry{Id: r.ID, Name: nameOf(r.Document), Version: r.Version, RecordSet: r.RecordSet, Labels: r.LabelCount, Printed: r.Printed,
			PreparedBy: r.PreparedBy, PreparedAt: r.PreparedAt, LastPrintedAt: r.LastPrintedAt, State: api.RunEntryState(r.State),
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
	choice := api.RunChoice{HowMany: api.HowMany{Each: 1}}
	if req.Body.Choice != nil {
		choice = *req.Body.Choice
	}
	if choice.PrinterId == 0 {
		if choice.PrinterId, err = s.printerFor(ctx, d); err != nil {
			return nil, err
		}
	}
	plan, err := s.plan(ctx, req.Body.RecordSetId, d.Document, choice)
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
	revision, err := s.store.KeepRevision(ctx, d.ID, s.user(ctx))
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

// plan works out which labels a choice gives.
func (s *Server) plan(ctx context.Context, setID *int64, document []byte, choice api.RunChoice) (*store.RunPlan, error) {
	set, err := s.recordSet(ctx, setID)
	if err != nil {
		return nil, err
	}
	if _, err := s.store.Printer(ctx, choice.PrinterId); err != nil {
		return nil, err
	}
	chosen, err := batch.ParseRange(choice.Records, set.Count)
	if err != nil {
		return nil, err
	}
	chosen = ticked(chosen, set.Count, or(choice.Tick, nil), or(choice.Untick, nil))
	howMany := batch.HowMany{Each: choice.HowMany.Each, Field: or(choice.HowMany.Field, ""), Corrected: map[int]int{}}
	if howMany.Field == "" && howMany.Each < 1 {
		return nil, &batch.QuantityError{Value: strconv.Itoa(howMany.Each)}
	}
	for number, copies := range or(choice.HowMany.Corrected, nil) {
		n, err := strconv.Atoi(number)
		if err != nil {
			return nil, refused(fmt.Sprintf("%q is no number of a record.", number))
		}
		howMany.Corrected[n] = copies
	}
	var records [][]string
	if howMany.Field != "" {
		if records, err = s.someRecords(ctx, setID, chosen); err != nil {
			return nil, err
		}
	}
	next := 0
	shares, err := howMany.Share(chosen, set.Fields, func(number int) []string { // asked in the order of chosen, corrected ones not at all
		for chosen[next] != number {
			next++
		}
		return records[next]
	})
	if err != nil {
		return nil, err
	}
	if _, err := s.keptSetup(ctx, choice.SetupId, choice.PrinterId, document); err != nil {
		return nil, err
	}
	return &store.RunPlan{RecordSetID: setID, PrinterID: choice.PrinterId, SetupID: choice.SetupId, Records: batch.FormatRange(chosen, set.Count), HowMany: howMany, Plan: batch.NewPlan(shares)}, nil
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

// ticked adds and takes away records that were ticked and unticked by hand.
func ticked(chosen []int, last int, tick, untick []int) []int {
	if len(tick)+len(untick) == 0 {
		return chosen
	}
	is := make([]bool, last+1)
	for _, n := range chosen {
		is[n] = true
	}
	for i, list := range [][]int{tick, untick} {
		for _, n := range list {
			if n >= 1 && n <= last {
				is[n] = i == 0
			}
		}
	}
	var all []int
	for n := 1; n <= last; n++ {
		if is[n] {
			all = append(all, n)
		}
	}
	return all
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
	plan, err := s.plan(ctx, run.RecordSetID, run.Document, *req.Body)
	if err != nil {
		return nil, err
	}
	if err := s.store.ChangeRun(ctx, req.Id, *plan); err != nil {
		return nil, err
	}
	changed, err := s.run(ctx, req.Id)
	return api.ChangeRun200JSONResponse(changed), err
}

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
	d, err := design.Parse(r.Document)
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
	shown := api.Run{Id: r.ID, Name: d.Name, DesignId: r.DesignID, Version: r.Version, RecordSetId: r.RecordSetID, RecordSet: r.RecordSet,
		RecordCount: r.RecordCount, RecordSetFields: r.Fields, Chosen: r.Chosen, Labels: r.LabelCount, Printer: toPrinter(printer), Stock: roll,
		Printed: r.Printed, Left: r.LabelCount - r.Printed, PreparedBy: r.PreparedBy, PreparedAt: r.PreparedAt, Prints: []api.Print{},
		Choice: api.RunChoice{Records: r.Records, PrinterId: r.PrinterID, SetupId: r.SetupID, HowMany: api.HowMany{Each: howMany.Each, Field: &howMany.Field, Corrected: &corrected}}}
	about, err := printer.Does()
	if err != nil {
		return api.Run{}, fmt.Errorf("read printer %d: %w", printer.ID, err)
	}
	shown.PerPage = d.Stock.PerPage()
	if shown.WebMillimetres = batch.Web(d.Stock, r.LabelCount); d.Stock.ByContent() && r.Proof != nil {
		found, err := prover.Kept(&r)
		if err != nil {
			return api.Run{}, err
		}
		if shown.WebMillimetres, err = s.tape(ctx, id, found); err != nil {
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
		sum += found.Lengths[share.Record] * measure.Length(share.Copies)
	}
	return sum.Millimetres(), nil
}

// unattended is how long a print may wait for a server before that is told: they look for prints every second.
const unattended = 3 * time.Second

func toPrint(p *store.Print, roll stock.Stock, printer stock.Printer) api.Print {
	shown := api.Print{Id: p.ID, RunId: p.RunID, RunName: &p.Name, Kind: api.PrintKind(p.Kind), State: api.PrintState(p.State), Labels: p.LabelCount,
		Printed: p.Printed, ReadBack: p.ReadMeant, ReadOther: p.ReadOther, WithoutCode: p.ReadNone, NotLookedAt: max(p.Printed-p.ReadMeant-p.ReadOther-p.ReadNone, 0),
		Unknown: p.Unknown, FirstLabel: p.FirstLabel, LastLabel: p.LastLabel, LastOut: p.LastOut, Text: sentence(p.Note), Do: p.NoteDo, StartedBy: p.StartedBy,
		StartedAt: p.StartedAt, EndedAt: p.EndedAt, SecondsLeft: -1}
	switch {
	case p.State != store.PrintPrinting:
	case p.CancelAsked:
		shown.Text, shown.Do = "It ends as soon as the printer has stopped.", ""
	case !p.First && p.Note == "":
		shown.Text, shown.Do = "Another run prints on this printer first.", "This one goes on by itself."
	case !p.Leased && p.First && time.Since(p.StartedAt) > unattended:
		shown.Text, shown.Do = "No server works on this print just now.", "One takes it up within seconds; if none does, see that Odd Spool's servers run."
	}
	if p.State == store.PrintPrinting && shown.Text == "" {
		shown.SecondsLeft = secondsLeft(p, roll, printer)
	}
	return shown
}

// secondsLeft goes by what was printed so far, and by the printer's speed as long as that is little.
func secondsLeft(p *store.Print, roll stock.Stock, printer stock.Printer) int {
	left := p.LabelCount - p.Printed
	if p.Printed >= 10 {
		return int(time.Since(p.StartedAt).Seconds()/float64(p.Printed)*float64(left) + 0.5)
	}
	if printer.Speed > 0 {
		return int(batch.Time(batch.Web(roll, left), printer.Speed).Seconds() + 0.5)
	}
	return -1
}

// GetRunPicture implements api.StrictServerInterface.
func (s *Server) GetRunPicture(ctx context.Context, req api.GetRunPictureRequestObject) (api.GetRunPictureResponseObject, error) {
	r, err := s.store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	set, err := s.recordSet(ctx, r.RecordSetID)
	if err != nil {
		return nil, err
	}
	plan, err := s.store.RunPlanOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	record := 1
	if plan.Len() > 0 {
		record, _ = plan.At(1)
	}
	picture, err := s.picture(ctx, r.Document, set, record)
	if err != nil {
		return nil, err
	}
	return api.GetRunPicture200ImagepngResponse{Body: picture}, nil
}

// ProofRun implements api.StrictServerInterface.
func (s *Server) ProofRun(ctx context.Context, req api.ProofRunRequestObject) (api.ProofRunResponseObject, error) {
	r, err := s.store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	setup, err := s.keptSetup(ctx, r.SetupID, r.PrinterID, r.Document)
	if err != nil {
		return nil, err
	}
	found, err := prover.Prove(ctx, s.store, &r, setup)
	if err != nil {
		return nil, err
	}
	plan, err := s.store.RunPlanOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	labels := map[int]int{}
	for _, share := range plan.Shares() {
		labels[share.Record] += share.Copies
	}
	leftOut := 0
	for _, record := range found.LeftOut {
		leftOut += labels[record]
	}
	answer := api.ProofRun200JSONResponse{Labels: r.LabelCount, LeftOut: leftOut, Codes: found.Codes, Groups: toGroups(found.Groups, labels)}
	if found.Lengths != nil {
		tape, err := s.tape(ctx, req.Id, found)
		if err != nil {
			return nil, err
		}
		answer.WebMillimetres = &tape
	}
	return answer, nil
}

// GetRunLabels implements api.StrictServerInterface.
func (s *Server) GetRunLabels(ctx context.Context, req api.GetRunLabelsRequestObject) (api.GetRunLabelsResponseObject, error) {
	r, err := s.store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	plan, err := s.store.RunPlanOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	d, err := design.Parse(r.Document)
	if err != nil {
		return nil, err
	}
	from := or(req.Params.From, 1)
	var numbers []int
	for n := from; n <= min(from+or(req.Params.Most, 20)-1, plan.Len()); n++ {
		record, _ := plan.At(n)
		numbers = append(numbers, record)
	}
	records, err := s.someRecords(ctx, r.RecordSetID, numbers)
	if err != nil {
		return nil, err
	}
	drawer, err := newDrawer(d, r.Fields)
	if err != nil {
		return nil, err
	}
	answer := api.RunLabels{Total: plan.Len(), Labels: []api.RunLabel{}}
	for i, record := range records {
		made, err := drawer.draw(numbers[i], record)
		if err != nil {
			return nil, err
		}
		worst := proof.Fine
		for _, f := range made.findings {
			worst = max(worst, f.Level)
		}
		answer.Labels = append(answer.Labels, api.RunLabel{Label: from + i, Record: numbers[i], Picture: made.picture(),
			Width: made.width, Height: made.height, Level: api.RunLabelLevel(worst.String())})
	}
	return api.GetRunLabels200JSONResponse(answer), nil
}

// StartPrint implements api.StrictServerInterface.
func (s *Server) StartPrint(ctx context.Context, req api.StartPrintRequestObject) (api.StartPrintResponseObject, error) {
	r, err := s.store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	order := store.Order{Run: req.Id, Kind: string(req.Body.Kind), Start: or(req.Body.Start, 0), By: s.user(ctx)}
	if order.Setup, err = s.setupOf(ctx, &r, r.PrinterID, r.SetupID); err != nil {
		return nil, err
	}
	if order.Start > 0 {
		d, err := design.Parse(r.Document)
		if err != nil {
			return nil, err
		}
		if places := d.Stock.PerPage(); d.Stock.Kind != stock.Sheet || order.Start >= places {
			return nil, refused(fmt.Sprintf("%d places of the first sheet cannot be used already: %s.", order.Start, sheetPlaces(&d.Stock)))
		}
	}
	if order.Kind == "sample" || order.Kind == "again" {
		if order.Labels, err = batch.ParseRange(or(req.Body.Labels, ""), r.LabelCount); err != nil {
			return nil, err
		}
	}
	found, err := prover.Prove(ctx, s.store, &r, order.Setup) // no label is printed that was not looked at
	if err != nil {
		return nil, err
	}
	order.LeftOut = found.LeftOut
	if _, err := s.store.StartPrint(ctx, order); err != nil {
		return nil, err
	}
	s.runner.Wake()
	run, err := s.run(ctx, req.Id)
	return api.StartPrint200JSONResponse(run), err
}

func sheetPlaces(on *stock.Stock) string {
	if on.Kind != stock.Sheet {
		return on.Name + " has no sheets"
	}
	return fmt.Sprintf("a sheet of %s has %d", on.Name, on.PerPage())
}

// setupOf returns the set-up that a run is printed with at a printer, after a last look at whether that one can do what
// is asked.
func (s *Server) setupOf(ctx context.Context, r *store.Run, printerID int64, setupID *int64) (setup stock.Setup, err error) {
	printer, err := s.store.Printer(ctx, printerID)
	if err != nil {
		return setup, err
	}
	does, err := printer.Does()
	if err != nil {
		return setup, fmt.Errorf("read printer %d: %w", printer.ID, err)
	}
	if printer.Address == "" {
		return setup, notConnected(&printer)
	}
	d, err := design.Parse(r.Document)
	if err != nil {
		return setup, err
	}
	if does.Resolution != d.Printer.Resolution {
		return setup, refused(fmt.Sprintf("This design is made in dots of %v and %s prints %v. Change its printer on the Bench, then prepare the run again.",
			d.Printer.Resolution, does.Name, does.Resolution))
	}
	if reasons := stock.Fit(d.Stock, does); reasons != nil {
		return setup, refused(reasons[0].Text)
	}
	inks := stock.Inks(d.Stock, does)
	for _, element := range d.Elements {
		if element.Ink != "" && !stock.Can(element.Ink, inks) {
			return setup, refused(fmt.Sprintf("This design prints in %s, and %s cannot now. Change its ribbon or the design, then prepare the run again.", element.Ink, does.Name))
		}
	}
	if err := s.misloaded(ctx, &printer, &d.Stock); err != nil {
		return setup, err
	}
	if setup, err = s.keptSetup(ctx, setupID, printerID, r.Document); err != nil {
		return setup, err
	}
	if reasons := setup.Check(does); reasons != nil {
		return setup, refused(reasons[0].Text)
	}
	return setup, nil
}

// keptSetup returns a print set-up, which must be of the printer, and of the stock that a design is on where it is for one; without
// one, the printer is as it is.
func (s *Server) keptSetup(ctx context.Context, id *int64, printer int64, document []byte) (setup stock.Setup, err error) {
	if id == nil {
		return setup, nil
	}
	kept, err := s.store.Setup(ctx, *id)
	if err != nil {
		return setup, err
	}
	if kept.PrinterID != printer {
		return setup, refused("This print set-up belongs to another printer. Choose one of this printer, or none.")
	}
	var d struct{ Stock struct{ Number, Name string } }
	if err := json.Unmarshal(document, &d); err != nil {
		return setup, fmt.Errorf("read a design: %w", err)
	}
	if kept.Stock != "" && kept.Stock != d.Stock.Number {
		return setup, refused(fmt.Sprintf("This print set-up is for the stock %s, and these labels are on %s. Choose another, or none.", kept.Stock, d.Stock.Name))
	}
	return kept.Is()
}

// misloaded refuses a print when the printer says that what is loaded has another size: all of it would
// be spoiled. A printer that does not answer is waited for, and one that does not tell is trusted.
func (s *Server) misloaded(ctx context.Context, p *store.Printer, needs *stock.Stock) error {
	client, err := s.clients.At(p.Address)
	if err != nil {
		return nil
	}
	ctx, cancel := context.WithTimeout(ctx, firstWait)
	defer cancel()
	status, err := client.Printer(ctx)
	if err != nil {
		return nil
	}
	if misfit := status.Loaded.Misfit(*needs); misfit != nil {
		return refused(fmt.Sprintf("%s: %s Load it, then print.", p.Name, misfit.Text))
	}
	return nil
}

// CancelPrint implements api.StrictServerInterface.
func (s *Server) CancelPrint(ctx context.Context, req api.CancelPrintRequestObject) (api.CancelPrintResponseObject, error) {
	var lastLabel *int
	if req.Body != nil {
		lastLabel = req.Body.LastLabel
	}
	err := s.store.CancelPrint(ctx, req.Id, lastLabel)
	s.runner.Wake()
	return api.CancelPrint204Response{}, err
}

// GoOnPrint implements api.StrictServerInterface.
func (s *Server) GoOnPrint(ctx context.Context, req api.GoOnPrintRequestObject) (api.GoOnPrintResponseObject, error) {
	if req.Body.LastLabel == nil {
		return nil, refused("Say which label of the run was the last to come out; 0 if none of this print did.")
	}
	err := s.store.GoOn(ctx, req.Id, *req.Body.LastLabel)
	s.runner.Wake()
	return api.GoOnPrint204Response{}, err
}

// MovePrint implements api.StrictServerInterface.
func (s *Server) MovePrint(ctx context.Context, req api.MovePrintRequestObject) (api.MovePrintResponseObject, error) {
	p, err := s.store.Print(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	r, err := s.store.Run(ctx, p.RunID)
	if err != nil {
		return nil, err
	}
	setup, err := s.setupOf(ctx, &r, req.Body.PrinterId, req.Body.SetupId)
	if err != nil {
		return nil, err
	}
	err = s.store.MovePrint(ctx, req.Id, req.Body.PrinterId, setup, req.Body.LastLabel)
	s.runner.Wake()
	return api.MovePrint204Response{}, err
}

// GetPieces implements api.StrictServerInterface.
func (s *Server) GetPieces(ctx context.Context, req api.GetPiecesRequestObject) (api.GetPiecesResponseObject, error) {
	pieces, err := s.store.Pieces(ctx, req.Id, or(req.Params.Which, "all") == "other", or(req.Params.Skip, 0), or(req.Params.Most, 100))
	answer := make(api.GetPieces200JSONResponse, len(pieces))
	for i, p := range pieces {
		answer[i] = api.Piece{Place: p.Place, Label: p.Label, Record: p.Record, State: api.PieceState(p.State), ReadAs: p.ReadAs,
			ReadBack: (*api.PieceReadBack)(p.ReadBack)}
	}
	return answer, err
}
