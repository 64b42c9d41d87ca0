package runs

import (
	"context"
	"errors"
	"fmt"
	"net/url"
	"strings"
	"sync"

	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/press"
	"oddspool/internal/reach"
	"oddspool/internal/server/handler"
	"oddspool/internal/server/printers"
	"oddspool/internal/store"
)

// GetFloor implements api.StrictServerInterface.
func (s *Runs) GetFloor(ctx context.Context, _ api.GetFloorRequestObject) (api.GetFloorResponseObject, error) {
	printers, err := s.Store.Printers(ctx)
	if err != nil {
		return nil, err
	}
	stocks, err := s.Store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	open, err := s.Store.OpenPrints(ctx)
	if err != nil {
		return nil, err
	}
	lately, err := s.Store.Runs(ctx, store.RunsWanted{Printed: true, Most: 6})
	if err != nil {
		return nil, err
	}
	answer := api.Floor{Printers: make([]api.FloorPrinter, len(printers)), Waiting: []api.Waiting{},
		Lately: toRunEntries(lately)}
	var group sync.WaitGroup
	for i, p := range printers {
		group.Go(func() { answer.Printers[i] = s.floorPrinter(ctx, p, stocks, open) })
	}
	group.Wait()
	for i := range open {
		if trouble := s.Runner.Trouble(open[i].ID); trouble != "" && open[i].State == store.PrintPrinting {
			open[i].Note, open[i].NoteDo = trouble, "The print goes on by itself when that is put right."
		}
		answer.Waiting = append(answer.Waiting, waiting(&open[i])...)
	}
	answer.Copied, err = s.copied(ctx)
	return api.GetFloor200JSONResponse(answer), err
}

// waiting says what a print waits for; nothing when it does not.
func waiting(p *store.Print) []api.Waiting {
	level := api.WaitingLevelWarning
	if p.State == store.PrintHeld {
		level = api.WaitingLevelStopped
	} else if p.Note == "" {
		return nil
	}
	return []api.Waiting{{RunId: p.RunID, Level: level, Text: fmt.Sprintf("%s, label %d of %d: %s", p.Name, p.Printed,
		p.LabelCount, handler.Sentence(p.Note)), Do: p.NoteDo}}
}

func (s *Runs) floorPrinter(ctx context.Context, p store.Printer, stocks []store.Stock,
	open []store.Print) api.FloorPrinter {
	shown := api.FloorPrinter{Printer: printers.ToPrinter(p), Left: -1, Unit: api.Labels,
		Loadable: strings.HasSuffix(p.Camera, "/web"), Level: api.FloorPrinterLevelReady, Queue: []api.Print{}}
	for i := range open {
		if open[i].PrinterID == p.ID {
			print := toPrint(&open[i], stock.Stock{}, stock.Printer{}) // time left goes by what was printed
			if shown.Print == nil {
				shown.Print = &print
			} else {
				shown.Queue = append(shown.Queue, print)
			}
		}
	}
	if p.Address == "" {
		shown.Text, shown.Do = "Not connected", "Designs can be made for it; to print, give it its address."
		return shown
	}
	heard, err := s.printers.Floor.Status(ctx, p)
	if err != nil {
		shown.Level, shown.Text, shown.Do = api.FloorPrinterLevelStopped, "Does not answer",
			"See that it is switched on and on the network."
		var nonsense *press.NonsenseError
		var forbidden *reach.ForbiddenError
		switch {
		case errors.As(err, &nonsense):
			shown.Text, shown.Do = "Is no printer", nonsense.Error()
		case errors.As(err, &forbidden):
			shown.Text, shown.Do = "May not be reached", forbidden.Error()
		}
		return shown
	}
	status := *heard
	shown.Text, shown.Do = status.Words()
	shown.Left, shown.Capacity = int64(status.Loaded.Left), int64(status.Loaded.Capacity)
	if status.Loaded.LeftLength >= 0 {
		shown.Unit, shown.Left, shown.Capacity = api.Length, int64(status.Loaded.LeftLength),
			int64(status.Loaded.FullLength)
	}
	if page, err := url.Parse(status.Page); err == nil && (page.Scheme == "http" || page.Scheme == "https") &&
		page.Host != "" {
		shown.Page = &status.Page
	}
	if status.Loaded.Name != "" {
		shown.Loaded = &status.Loaded.Name
	}
	if p.Said != nil {
		said := p.Said.V
		_, counts := status.Loaded.As(&said)
		shown.Said = &api.LoadedSaid{Name: said.Name, Reason: said.Reason, By: said.By, At: said.At, Counts: counts}
		if !counts && shown.Do == "" {
			shown.Do = fmt.Sprintf("It says something else is loaded than when %s said that %s is: what %s said does "+
				"not count any more.", said.By, said.Name, said.By)
		}
	}
	if found := printers.Matching(stocks, p.Loaded(status.Loaded)); found != nil {
		entry := printers.ToStock(*found)
		if shown.Stock = &entry; shown.Unit == api.Labels && found.About.V.Unit() == stock.InSheets {
			shown.Unit = api.Sheets
		}
	}
	if shown.Print != nil && shown.Print.State == api.PrintStatePrinting && status.State == press.Idle &&
		shown.Do == "" {
		status.State, shown.Text = press.Printing, "Printing" // it was asked between two slices
	}
	switch {
	case status.State == press.Stopped:
		shown.Level = api.FloorPrinterLevelStopped
	case shown.Do != "":
		shown.Level = api.FloorPrinterLevelWarning
	case status.State == press.Printing:
		shown.Level = api.FloorPrinterLevelBusy
	}
	return shown
}

// GetPrinter implements api.StrictServerInterface.
func (s *Runs) GetPrinter(ctx context.Context, req api.GetPrinterRequestObject) (api.GetPrinterResponseObject,
	error) {
	p, err := s.Store.Printer(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	stocks, err := s.Store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	open, err := s.Store.OpenPrints(ctx)
	return api.GetPrinter200JSONResponse(s.floorPrinter(ctx, p, stocks, open)), err
}

// copied shows what is held since the database was put back.
func (s *Runs) copied(ctx context.Context) (*api.Copied, error) {
	is, err := s.Store.Copied(ctx)
	if is == nil || err != nil {
		return nil, err
	}
	return &api.Copied{At: is.At, Why: is.Why, Series: is.Series, Runs: is.Runs}, nil
}
