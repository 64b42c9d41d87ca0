package designs

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/server/printers"
	"oddspool/internal/store"
)

// carriedRecords is how many records are looked at to tell what breaks, in each of the ways; the
// proof on the Bench looks at all.
const carriedRecords = 2000

// CarryDesign implements api.StrictServerInterface.
func (s *Designs) CarryDesign(ctx context.Context, req api.CarryDesignRequestObject) (api.CarryDesignResponseObject,
	error) {
	d, err := design.Parse(req.Body.Document)
	if err != nil {
		return nil, err
	}
	on, printer := d.Stock, d.Printer
	if req.Body.StockId != nil {
		if on, err = s.printers.Stock(ctx, *req.Body.StockId); err != nil {
			return nil, err
		}
	}
	if req.Body.PrinterId != nil {
		p, err := s.Store.Printer(ctx, *req.Body.PrinterId)
		if err != nil {
			return nil, err
		}
		printer = p.About.V
	}
	var set store.RecordSet
	records := [][]string{nil}
	if req.Body.RecordSetId != nil {
		if set, err = s.Store.RecordSet(ctx, *req.Body.RecordSetId); err != nil {
			return nil, err
		}
		if records, err = s.Store.Records(ctx, set.ID, 1, carriedRecords); err != nil {
			return nil, err
		}
	}
	shown := min(handler.Or(req.Body.Record, 1), len(records))
	answer := api.CarryDesign200JSONResponse{Reasons: printers.ToReasons(stock.Fit(on, printer)),
		Ways: []api.CarriedWay{}}
	if len(answer.Reasons) > 0 {
		return answer, nil
	}
	var turn *measure.Turn
	if req.Body.Turn != nil {
		turn = new(measure.Turn(*req.Body.Turn))
	}
	for _, way := range design.Ways() {
		carried, changes, offers := d.CarriedTurned(on, printer, turn, way), []design.Change{}, []proof.Offer(nil)
		if way == design.Scale || way == design.Reflow { // those that make it anew look for one that is well
			if carried, changes, err = proof.Settle(ctx, carried, set.Fields, records); err != nil {
				return nil, err
			}
			if offers, err = proof.Offers(ctx, carried, set.Fields, records); err != nil {
				return nil, err
			}
		}
		for _, offer := range append([]proof.Offer{{Design: carried, Changes: changes}}, offers...) {
			made, err := carriedWay(ctx, offer.Design, way, set.Fields, records, shown)
			if err != nil {
				return nil, err
			}
			if made.Changes = offer.Changes; offer.Text != "" {
				made.Offer, made.Changes = &offer.Text, slices.Concat(changes, offer.Changes)
			}
			answer.Ways = append(answer.Ways, made)
		}
	}
	// The best is shown first: fewest labels with errors, then fewest findings.
	slices.SortStableFunc(answer.Ways, func(a, b api.CarriedWay) int {
		return cmp.Or(cmp.Compare(a.Errors, b.Errors), cmp.Compare(len(a.Groups), len(b.Groups)))
	})
	return answer, nil
}

// carriedWay shows a design that was carried, with what breaks.
func carriedWay(ctx context.Context, d *design.Design, way design.Way, fields []string, records [][]string,
	shown int) (made api.CarriedWay, err error) {
	made.Way = api.CarriedWayWay(way)
	if made.Document, err = json.Marshal(d); err != nil {
		return made, fmt.Errorf("write design: %w", err)
	}
	report, err := proof.All(ctx, d, fields, records)
	if err != nil {
		return made, err
	}
	made.Errors, made.Groups = report.Errors(), ToGroups(report.Groups, nil)
	drawer, err := NewDrawer(d, fields)
	if err != nil {
		return made, err
	}
	label, err := drawer.Label(shown, records[shown-1])
	if err != nil {
		return made, err
	}
	made.Picture = label.Picture
	made.Width, made.Height = int(d.Printer.Resolution.Length(label.Width)),
		int(d.Printer.Resolution.Length(label.Height))
	return made, nil
}
