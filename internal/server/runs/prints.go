package runs

import (
	"context"
	"slices"
	"strings"
	"time"

	"oddspool/core/batch"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/press"
	"oddspool/internal/prover"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// StartPrint implements api.StrictServerInterface.
func (s *Runs) StartPrint(ctx context.Context, req api.StartPrintRequestObject) (api.StartPrintResponseObject,
	error) {
	r, err := s.Store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if err := s.answered(ctx, &r); err != nil {
		return nil, err
	}
	order := store.Order{Run: req.Id, Printer: r.PrinterID, Kind: string(req.Body.Kind),
		Start: handler.Or(req.Body.Start, 0),
		By:    s.User(ctx)}
	if handler.Or(req.Body.Free, false) {
		if order.Printer, err = s.freePrinter(ctx, &r); err != nil {
			return nil, err
		}
	}
	setup := r.SetupID
	if order.Printer != r.PrinterID { // a set-up is of one printer
		setup = nil
	}
	if order.Setup, err = s.setupOf(ctx, &r, order.Printer, setup); err != nil {
		return nil, err
	}
	d, err := r.Design()
	if err != nil {
		return nil, err
	}
	order.Fill = r.HowMany.V.Fill
	order.PerPage = d.Stock.PerPage()
	if order.Start > 0 {
		if order.Fill == batch.FillThrough {
			return nil, wholeSheetFirst.With()
		}
		if places := d.Stock.PerPage(); d.Stock.Unit() != stock.InSheets || order.Start >= places {
			return nil, sheetUsedUp.With(order.Start, sheetPlaces(&d.Stock))
		}
	}
	if order.Kind == "sample" || order.Kind == "again" {
		if order.Labels, err = batch.ParseRange(handler.Or(req.Body.Labels, ""), r.LabelCount); err != nil {
			return nil, err
		}
	}
	found, err := prover.Prove(ctx, s.Store, &r, order.Setup) // no label is printed that was not looked at
	if err != nil {
		return nil, err
	}
	order.LeftOut, order.Separators = found.LeftOut, found.Outs()
	var orders []store.Order
	if spread := handler.Or(req.Body.Spread, nil); len(spread) > 0 {
		orders, err = s.spread(ctx, &r, order, spread)
	} else {
		orders, err = s.orders(ctx, &r, order)
	}
	if err != nil {
		return nil, err
	}
	if err := s.begin(ctx, orders...); err != nil {
		return nil, err
	}
	run, err := s.Run(ctx, req.Id)
	return api.StartPrint200JSONResponse(run), err
}

// begin has orders printed, all of one run.
func (s *Runs) begin(ctx context.Context, orders ...store.Order) error {
	if _, err := s.Store.StartPrints(ctx, orders); err != nil {
		return err
	}
	s.Runner.Wake()
	return nil
}

// PrintNext implements api.StrictServerInterface.
func (s *Runs) PrintNext(ctx context.Context, req api.PrintNextRequestObject) (api.PrintNextResponseObject, error) {
	next, err := s.next(ctx, req.Id, handler.Or(req.Body.Scanned, ""), s.User(ctx))
	return api.PrintNext200JSONResponse(next), err
}

// next prints one label of a run: the next that is not out, or the next of the record that says what was scanned.
func (s *Runs) next(ctx context.Context, run int64, typed, by string) (next api.NextLabel, err error) {
	r, err := s.Store.Run(ctx, run)
	if err != nil {
		return next, err
	}
	order := store.Order{Run: r.ID, Kind: "sample", By: by}
	if order.Setup, err = s.setupOf(ctx, &r, r.PrinterID, r.SetupID); err != nil {
		return next, err
	}
	record := 0
	if typed = strings.TrimSpace(typed); typed != "" {
		found, err := s.Store.RecordsSaying(ctx, r.ID, Scanned(typed))
		if err != nil {
			return next, err
		}
		switch {
		case len(found) == 0:
			return next, noRecordSays.With(typed)
		case len(found) > 1:
			return next, twoRecordsSay.With(typed, found[0], found[1])
		}
		record = found[0]
	}
	found, err := prover.Prove(ctx, s.Store, &r, order.Setup) // no label is printed that was not looked at
	if err != nil {
		return next, err
	}
	if slices.Contains(found.LeftOut, record) {
		return next, recordWithFindings.With(record)
	}
	label, err := s.Store.NextLabel(ctx, r.ID, record, found.LeftOut)
	switch {
	case err != nil:
		return next, err
	case label == 0 && record > 0:
		return next, recordOut.With(record)
	case label == 0:
		return next, store.ErrNothingToPrint
	}
	order.Labels = []int{label}
	if err := s.begin(ctx, order); err != nil {
		return next, err
	}
	d, err := r.Design()
	if err != nil {
		return next, err
	}
	values, err := s.Store.RunLabels(ctx, &r, d, order.By, label, label, true)
	if err != nil {
		return next, err
	}
	return api.NextLabel{Label: label, Record: values[0].Record, Values: values[0].Values[:len(r.Fields)]}, nil
}

// freePrinter returns the next printer on which a run can be printed at once: its own first, then by their names.
func (s *Runs) freePrinter(ctx context.Context, r *store.Run) (int64, error) {
	printers, err := s.Store.Printers(ctx)
	if err != nil {
		return 0, err
	}
	open, err := s.Store.OpenPrints(ctx)
	if err != nil {
		return 0, err
	}
	if own := slices.IndexFunc(printers, func(p store.Printer) bool { return p.ID == r.PrinterID }); own > 0 {
		printers[0], printers[own] = printers[own], printers[0]
	}
	for i := range printers {
		p := &printers[i]
		if p.Address == "" || slices.ContainsFunc(open, func(o store.Print) bool { return o.PrinterID == p.ID }) {
			continue
		}
		if status, err := s.printers.Floor.Status(ctx, *p); err != nil || status.State != press.Idle {
			continue
		}
		if _, err := s.setupOf(ctx, r, p.ID, nil); err == nil {
			return p.ID, nil
		} else if _, as := handler.PublicError(err); as == nil {
			return 0, err
		}
	}
	return 0, noFreePrinter.With()
}

// CancelPrint implements api.StrictServerInterface.
func (s *Runs) CancelPrint(ctx context.Context, req api.CancelPrintRequestObject) (api.CancelPrintResponseObject,
	error) {
	var lastLabel *int
	if req.Body != nil {
		lastLabel = req.Body.LastLabel
	}
	err := s.Store.CancelPrint(ctx, req.Id, lastLabel)
	s.Runner.Wake()
	return api.CancelPrint204Response{}, err
}

// GoOnPrint implements api.StrictServerInterface.
func (s *Runs) GoOnPrint(ctx context.Context, req api.GoOnPrintRequestObject) (api.GoOnPrintResponseObject, error) {
	if req.Body.LastLabel == nil {
		return nil, noLastLabel.With()
	}
	err := s.Store.GoOn(ctx, req.Id, *req.Body.LastLabel)
	s.Runner.Wake()
	return api.GoOnPrint204Response{}, err
}

// MovePrint implements api.StrictServerInterface.
func (s *Runs) MovePrint(ctx context.Context, req api.MovePrintRequestObject) (api.MovePrintResponseObject, error) {
	p, err := s.Store.Print(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	r, err := s.Store.Run(ctx, p.RunID)
	if err != nil {
		return nil, err
	}
	parts, err := s.Store.PartsOfPrint(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	var setup stock.Setup
	for i, n := range parts {
		of, err := s.Store.RunPart(ctx, &r, n)
		if err != nil {
			return nil, err
		}
		with := req.Body.SetupId
		if i > 0 {
			with = nil
		}
		had, err := s.setupOf(ctx, of, req.Body.PrinterId, with)
		if err != nil {
			return nil, err
		}
		if i == 0 {
			setup = had
		}
	}
	err = s.Store.MovePrint(ctx, req.Id, req.Body.PrinterId, setup, req.Body.LastLabel)
	s.Runner.Wake()
	return api.MovePrint204Response{}, err
}

// GetPieces implements api.StrictServerInterface.
func (s *Runs) GetPieces(ctx context.Context, req api.GetPiecesRequestObject) (api.GetPiecesResponseObject, error) {
	pieces, err := s.Store.Pieces(ctx, req.Id, handler.Or(req.Params.Which, "all") == "other",
		handler.Or(req.Params.Skip, 0),
		handler.Or(req.Params.Most, 100))
	answer := make(api.GetPieces200JSONResponse, len(pieces))
	for i, p := range pieces {
		answer[i] = api.Piece{Place: p.Place, Label: p.Label, Record: p.Record, State: api.PieceState(p.State),
			ReadAs:   p.ReadAs,
			ReadBack: (*api.PieceReadBack)(p.ReadBack)}
	}
	return answer, err
}

// unattended is how long a print may wait for a server before that is told: they look for prints every second.
const unattended = 3 * time.Second

func toPrint(p *store.Print, roll stock.Stock, printer stock.Printer) api.Print {
	shown := api.Print{Id: p.ID, RunId: p.RunID, PrinterId: p.PrinterID, RunName: &p.Name, Kind: api.PrintKind(p.Kind),
		State: api.PrintState(p.State), Labels: p.LabelCount,
		Printed: p.Printed, ReadBack: p.ReadMeant, ReadOther: p.ReadOther, WithoutCode: p.ReadNone,
		TagsWritten: p.TagsWritten, TagsVoided: p.TagsVoided,
		NotLookedAt: max(p.Printed-p.ReadMeant-p.ReadOther-p.ReadNone, 0),
		Unknown:     p.Unknown, InDoubt: p.InDoubt && p.State == store.PrintHeld, FirstLabel: p.FirstLabel,
		LastLabel: p.LastLabel, LastOut: p.LastOut, Text: handler.Sentence(p.Note), Do: p.NoteDo,
		StartedBy: p.StartedBy,
		StartedAt: p.StartedAt, EndedAt: p.EndedAt, SecondsLeft: -1}
	switch {
	case p.State != store.PrintPrinting:
	case p.CancelAsked:
		shown.Text, shown.Do = "It ends as soon as the printer has stopped.", ""
	case p.PauseBy != nil:
		shown.Text, shown.Do = "It pauses as soon as the printer has stopped.", ""
	case !p.First && p.Note == "":
		shown.Text, shown.Do = "Another run prints on this printer first.", "This one goes on by itself."
	case !p.Leased && p.First && time.Since(p.StartedAt) > unattended:
		shown.Text, shown.Do = "No server works on this print just now.",
			"One takes it up within seconds; if none does, see that Odd Spool's servers run."
	}
	shown.Waits = p.State == store.PrintPrinting && !p.First && !p.CancelAsked && p.PauseBy == nil
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
