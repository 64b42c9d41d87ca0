package runs

import (
	"context"
	"slices"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// A besides is what is to stand among the labels of a run, as it was chosen, and what follows from that.
type besides struct {
	parts   []store.Separator
	designs []*design.Design
	rules   []batch.Separator
}

// separatorsOf works out what stands among the labels of a run of a design. A design that stood there before stays in
// its version.
func (s *Runs) separatorsOf(ctx context.Context, d *design.Design, fields []string, choice *api.RunChoice,
	had []store.Separator) (*besides, error) {
	all := &besides{}
	for _, wanted := range handler.Or(choice.Besides, nil) {
		part := store.Separator{What: string(wanted.What), When: string(wanted.When),
			Field: handler.Or(wanted.Field, ""),
			Every: handler.Or(wanted.Every, 0), After: wanted.After,
			Copies: wanted.Copies, PrinterID: handler.Or(wanted.PrinterId, 0)}
		if part.PrinterID == choice.PrinterId {
			part.PrinterID = 0
		}
		made, err := s.separatorDesign(ctx, d, &part, handler.Or(wanted.DesignId, 0), had)
		if err != nil {
			return nil, err
		}
		if part.Name = made.Name; part.PrinterID == 0 && !sameWeb(&made.Stock, &d.Stock) {
			return nil, separatorOnOtherStock.With(made.Name, made.Stock.Name, d.Stock.Name)
		}
		if part.PrinterID != 0 {
			if _, err := s.Store.Printer(ctx, part.PrinterID); err != nil {
				return nil, err
			}
		}
		rule := batch.Separator{When: part.When, Field: slices.Index(fields, part.Field), Every: part.Every,
			After: part.After, Copies: part.Copies}
		if part.When == batch.SeparateGroup && rule.Field < 0 {
			return nil, noGroupField.With(part.Field)
		}
		if err := rule.Check(len(fields)); err != nil {
			return nil, handler.Refused(handler.Sentence(err.Error()) + ".")
		}
		all.parts, all.designs, all.rules = append(all.parts, part), append(all.designs, made), append(all.rules, rule)
	}
	return all, nil
}

// separatorDesign returns the design of what stands among labels.
func (s *Runs) separatorDesign(ctx context.Context, own *design.Design, part *store.Separator, id int64,
	had []store.Separator) (*design.Design, error) {
	switch {
	case part.What == store.SeparatorBlank:
		return design.Blank(own.Stock, own.Printer), nil
	case part.What == store.SeparatorMark:
		return design.CutMark(own.Stock, own.Printer), nil
	case id == 0:
		return nil, noSeparatorDesign.With()
	}
	part.DesignID = id
	if i := slices.IndexFunc(had, func(h store.Separator) bool { return h.DesignID == id }); i >= 0 {
		part.RevisionID = had[i].RevisionID
	} else {
		revision, err := s.Store.KeepRevision(ctx, id, "", s.User(ctx))
		if err != nil {
			return nil, err
		}
		part.RevisionID = revision.ID
	}
	of, err := s.Store.RunPart(ctx, &store.Run{Separators: store.Kept[[]store.Separator]{V: []store.Separator{*part}}},
		1)
	if err != nil {
		return nil, err
	}
	return of.Design()
}

// sameWeb tells whether labels on two stocks can come off one roll.
func sameWeb(a, b *stock.Stock) bool {
	w, h := a.PageSize()
	ow, oh := b.PageSize()
	return a.Kind == b.Kind && w == ow && (h == oh || a.Unit() == stock.InLength) && a.PerPage() == b.PerPage() &&
		a.Found() == b.Found()
}

// shares puts labels of further designs among those of a run.
func (b *besides) shares(own []batch.Share, chosen []int, records [][]string) ([]batch.Share, error) {
	at := make(map[int]int, len(chosen))
	for i, number := range chosen {
		at[number] = i
	}
	all := batch.WithSeparators(own, b.rules, func(record, column int) string { return records[at[record]][column] })
	plan := batch.NewPlan(all)
	if plan.Len() > batch.Most {
		return nil, &batch.TooManyError{Labels: plan.Len()}
	}
	for i := range b.parts {
		b.parts[i].Labels = plan.Labels(i + 1)
	}
	return all, nil
}

// group tells whether a rule looks at what records say.
func (b *besides) group() bool {
	return slices.ContainsFunc(b.rules, func(r batch.Separator) bool { return r.When == batch.SeparateGroup })
}

// pages returns how many pages the printer of a run prints; nil: as many as its labels fill.
func (b *besides) pages(on *stock.Stock, plan *batch.Plan) *int {
	if len(b.parts) == 0 {
		return nil
	}
	return new(plan.PagesWith(on.PerPage(), func(part int) bool { return part == 0 || b.parts[part-1].PrinterID == 0 }))
}

// toSeparators shows what stands among the labels of a run.
func toSeparators(parts []store.Separator) *[]api.Beside {
	if len(parts) == 0 {
		return nil
	}
	shown := make([]api.Beside, len(parts))
	for i := range parts {
		p := &parts[i]
		shown[i] = api.Beside{What: api.BesideWhat(p.What), When: api.BesideWhen(p.When), After: p.After,
			Copies: p.Copies, Name: &p.Name, Labels: &p.Labels}
		if p.DesignID != 0 {
			shown[i].DesignId = &p.DesignID
		}
		if p.Field != "" {
			shown[i].Field = &p.Field
		}
		if p.Every != 0 {
			shown[i].Every = &p.Every
		}
		if p.PrinterID != 0 {
			shown[i].PrinterId = &p.PrinterID
		}
	}
	return &shown
}

// elsewhere returns how many labels of a run come out of other printers than its own.
func elsewhere(parts []store.Separator) (labels int) {
	for i := range parts {
		if parts[i].PrinterID != 0 {
			labels += parts[i].Labels
		}
	}
	return labels
}

// orders returns what printers are to print for one order of labels of a run: what it is on its own printer, and the
// labels of further designs that come out of others.
func (s *Runs) orders(ctx context.Context, r *store.Run, order store.Order) (orders []store.Order, err error) {
	parts, err := s.Store.RunParts(ctx, r)
	if err != nil {
		return nil, err
	}
	has := r.Separators.V
	own := order
	own.Parts = []int{0}
	for i := range has {
		if has[i].PrinterID == 0 {
			own.Parts = append(own.Parts, i+1)
		}
	}
	orders = []store.Order{own}
	for i := range has {
		id := has[i].PrinterID
		if id == 0 {
			continue
		}
		if at := slices.IndexFunc(orders[1:], func(o store.Order) bool { return o.Printer == id }); at >= 0 {
			orders[at+1].Parts = append(orders[at+1].Parts, i+1)
			continue
		}
		if id == order.Printer {
			return nil, separatorPrinterShared.With(has[i].Name)
		}
		other := order
		other.Printer, other.Parts, other.Start = id, []int{i + 1}, 0
		if other.Setup, err = s.setupOf(ctx, parts[i+1], id, nil); err != nil {
			return nil, err
		}
		orders = append(orders, other)
	}
	for _, o := range orders {
		for _, part := range o.Parts[1:] { // the first was looked at
			if _, err := s.setupOf(ctx, parts[part], o.Printer, nil); err != nil {
				return nil, err
			}
		}
	}
	return orders, nil
}

// spread returns an order as one for each of some printers, with an equal part of the labels.
func (s *Runs) spread(ctx context.Context, r *store.Run, order store.Order, printers []int64) (orders []store.Order,
	err error) {
	has := r.Separators.V
	if len(has) > 0 {
		return nil, separatorsOnManyPrinters.With()
	}
	for i, id := range printers {
		if slices.Contains(printers[:i], id) {
			return nil, printerTwice.With()
		}
		o := order
		o.Printer, o.Share, o.Shares = id, i+1, len(printers)
		setup := r.SetupID
		if id != r.PrinterID { // a set-up is of one printer
			setup = nil
		}
		if o.Setup, err = s.setupOf(ctx, r, id, setup); err != nil {
			return nil, err
		}
		if i > 0 {
			o.Start = 0
		}
		orders = append(orders, o)
	}
	return orders, nil
}

// ForwardPrint implements api.StrictServerInterface.
func (s *Runs) ForwardPrint(ctx context.Context, req api.ForwardPrintRequestObject) (api.ForwardPrintResponseObject,
	error) {
	return api.ForwardPrint204Response{}, s.Store.Forward(ctx, req.Id)
}
