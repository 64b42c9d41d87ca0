package runs

import (
	"context"
	"encoding/json"
	"fmt"

	"oddspool/core/compose"
	"oddspool/core/stock"
	"oddspool/internal/server/handler"
	"oddspool/internal/server/printers"
	"oddspool/internal/store"
)

func sheetPlaces(on *stock.Stock) string {
	if on.Unit() != stock.InSheets {
		return on.Name + " has no sheets"
	}
	return fmt.Sprintf("a sheet of %s has %d", on.Name, on.PerPage())
}

// setupOf returns the set-up that a run is printed with at a printer, after a last look at whether that one can do what
// is asked.
func (s *Runs) setupOf(ctx context.Context, r *store.Run, printerID int64, setupID *int64) (setup stock.Setup,
	err error) {
	printer, err := s.Store.Printer(ctx, printerID)
	if err != nil {
		return setup, err
	}
	does := printer.About.V
	if printer.Address == "" {
		return setup, printers.NotConnected(&printer)
	}
	d, err := r.Design()
	if err != nil {
		return setup, err
	}
	if does.Resolution != d.Printer.Resolution {
		return setup, otherResolution.With(d.Printer.Resolution, does.Name, does.Resolution)
	}
	if reasons := stock.Fit(d.Stock, does); reasons != nil {
		return setup, handler.Refused(reasons[0].Text)
	}
	if err := writesTags(d, &printer, &does); err != nil {
		return setup, err
	}
	composer, err := compose.New(d, d.Fields)
	if err != nil {
		return setup, err
	}
	if inks := stock.Inks(d.Stock, does); len(inks) > 0 {
		for _, ink := range composer.Inks() {
			if !stock.Can(ink, inks) {
				return setup, noInk.With(ink, does.Name)
			}
		}
	}
	if err := s.misloaded(ctx, &printer, &d.Stock); err != nil {
		return setup, err
	}
	if setup, err = s.keptSetup(ctx, setupID, printerID, r.Document); err != nil {
		return setup, err
	}
	if reasons := setup.Check(does); reasons != nil {
		return setup, handler.Refused(reasons[0].Text)
	}
	return setup, nil
}

// keptSetup returns a print set-up, which must be of the printer, and of the stock that a design is on where it is for
// one; without one, the printer is as it is.
func (s *Runs) keptSetup(ctx context.Context, id *int64, printer int64, document []byte) (setup stock.Setup,
	err error) {
	if id == nil {
		return setup, nil
	}
	kept, err := s.Store.Setup(ctx, *id)
	if err != nil {
		return setup, err
	}
	if kept.PrinterID != printer {
		return setup, setupOfOtherPrinter.With()
	}
	var d struct{ Stock struct{ Number, Name string } }
	if err := json.Unmarshal(document, &d); err != nil {
		return setup, fmt.Errorf("read a design: %w", err)
	}
	if kept.Stock != "" && kept.Stock != d.Stock.Number {
		return setup, setupOfOtherStock.With(kept.Stock, d.Stock.Name)
	}
	return kept.About.V, nil
}

// misloaded refuses a print when the printer says that what is loaded has another size: all of it would
// be spoiled. A printer that does not answer is waited for, and one that does not tell is trusted.
func (s *Runs) misloaded(ctx context.Context, p *store.Printer, needs *stock.Stock) error {
	client, err := s.Clients.At(p.Address)
	if err != nil {
		return nil
	}
	ctx, cancel := context.WithTimeout(ctx, printers.FirstWait)
	defer cancel()
	status, err := client.Printer(ctx)
	if err != nil {
		return nil
	}
	loaded := p.Loaded(status.Loaded)
	if misfit := loaded.Misfit(*needs); misfit != nil {
		return notLoaded.With(p.Name, misfit.Text)
	}
	return nil
}
