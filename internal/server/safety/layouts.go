package safety

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/safety"
	"oddspool/core/safety/hazard"
	"oddspool/core/safety/pipe"
	"oddspool/core/safety/sign"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/server/records"
)

// LayChemical implements api.StrictServerInterface.
func (s *Safety) LayChemical(ctx context.Context, req api.LayChemicalRequestObject) (api.LayChemicalResponseObject,
	error) {
	version, err := madeWith(req.Body.Document)
	if err != nil {
		return nil, err
	}
	wanted := append([]string{handler.Or(req.Body.Hazard.Language, "en")}, handler.Or(req.Body.Languages, nil)...)
	asked := make([]api.HazardRequest, len(wanted))
	for i, language := range wanted {
		if slices.Contains(wanted[:i], language) {
			return nil, languageTwice.With(language)
		}
	}
	for i := range wanted {
		asked[i] = req.Body.Hazard
		asked[i].Language = &wanted[i]
		if asked[i].Fill, err = filledIn(handler.Or(req.Body.Hazard.Fill, nil), i, len(wanted)); err != nil {
			return nil, err
		}
	}
	h, err := s.hazardOf(ctx, asked[0], version)
	if err != nil {
		return nil, err
	}
	if len(h.label.Open) > 0 && req.Body.RecordSet == nil {
		ids := make([]string, len(h.label.Open))
		for i, o := range h.label.Open {
			ids[i] = o.ID
		}
		if h.mixed == nil {
			return nil, entryOpen.With(strings.Join(ids, ", "))
		}
		return nil, mixtureOpen.With(strings.Join(ids, ", "))
	}
	if blanks := h.label.Blanks; len(blanks) > 0 && req.Body.RecordSet == nil {
		return nil, blankOpen.With(strings.Join(blanks, ", "))
	}
	if h.label.Rules != hazard.GHS {
		if missing := supplierLacks(handler.Or(req.Body.Supplier, "")); missing != "" {
			return nil, handler.Refused(missing)
		}
		if handler.Or(req.Body.Hazard.Public, false) && strings.TrimSpace(handler.Or(req.Body.Quantity, "")) == "" {
			return nil, noQuantity.With()
		}
	}
	if ufi := strings.TrimSpace(handler.Or(req.Body.Ufi, "")); ufi != "" {
		if ufi, err = hazard.CheckUFI(ufi); err != nil {
			return nil, err
		}
		h.numbers = strings.TrimPrefix(h.numbers+" · UFI: "+ufi, " · ")
	}
	c := safety.Chemical{Name: cmp.Or(handler.Or(req.Body.Name, ""), h.name), Identifiers: h.numbers,
		Supplier: handler.Or(req.Body.Supplier, ""), Quantity: handler.Or(req.Body.Quantity, ""), Label: h.label}
	for _, request := range asked[1:] {
		more, err := s.hazardOf(ctx, request, version)
		if err != nil {
			return nil, err
		}
		if !strings.Contains(c.Identifiers, more.numbers) {
			c.Identifiers += " / " + more.numbers
		}
		c.More = append(c.More, safety.Version{Name: cmp.Or(handler.Or(req.Body.Name, ""), more.name),
			Label: more.label})
	}
	if req.Body.RecordSet != nil {
		if c.More != nil {
			return nil, recordsInOneLanguage.With()
		}
		set, err := s.Store.RecordSet(ctx, *req.Body.RecordSet)
		if err != nil {
			return nil, err
		}
		if c.Places = hazard.Pictograms(set.Fields); c.Places == 0 {
			return nil, notLookedUp.With(set.Name)
		}
	}
	answer, err := s.layOut(ctx, req.Body.Document,
		func(d *design.Design) (*safety.Layout, error) { return safety.LayChemical(d, c) })
	return api.LayChemical200JSONResponse(answer), err
}

// filledIn returns what fills the blanks of statements in one of several languages, which are written with | between.
func filledIn(fill map[string]string, language, of int) (*map[string]string, error) {
	made := map[string]string{}
	for code, text := range fill {
		texts := strings.Split(text, "|")
		if len(texts) != of && of > 1 {
			return nil, blankByLanguage.With(code, len(texts), of)
		}
		made[code] = text
		if of > 1 {
			made[code] = strings.TrimSpace(texts[language])
		}
	}
	return &made, nil
}

// supplierLacks says what of the supplier a label lacks; empty: nothing (CLP, article 17(1)(a); 29 CFR
// 1910.1200(f)(1)(vi)).
func supplierLacks(supplier string) string {
	const leastDigits = 5 // of a telephone number, with those of an address
	digits := 0
	for _, r := range supplier {
		if r >= '0' && r <= '9' {
			digits++
		}
	}
	if strings.TrimSpace(supplier) == "" || digits < leastDigits {
		return "The label names the supplier with address and telephone number. Give them, such as Brinewick Kelp " +
			"Works, Quay 3, Brinewick, +44 1632 960012 (CLP, article 17(1)(a); HazCom (f)(1)(vi))."
	}
	return ""
}

// madeWith returns which pack a design says that it was made with; empty: none.
func madeWith(document api.Document) (version string, err error) {
	var made struct{ Reference string }
	if err := json.Unmarshal(document, &made); err != nil {
		return "", unreadable.With()
	}
	return made.Reference, nil
}

// LaySign implements api.StrictServerInterface.
func (s *Safety) LaySign(ctx context.Context, req api.LaySignRequestObject) (api.LaySignResponseObject, error) {
	b := req.Body
	made := safety.Sign{Kind: b.Kind, Symbols: b.Symbols, Message: b.Message, Second: handler.Or(b.Second, ""),
		Language: handler.Or(b.Language, ""), Distance: float64(handler.Or(b.Distance, 0)),
		Light: sign.Light(handler.Or(b.Light, ""))}
	answer, err := s.layOut(ctx, b.Document,
		func(d *design.Design) (*safety.Layout, error) { return safety.LaySign(d, made) })
	return api.LaySign200JSONResponse(answer), err
}

// LayPipe implements api.StrictServerInterface.
func (s *Safety) LayPipe(ctx context.Context, req api.LayPipeRequestObject) (api.LayPipeResponseObject, error) {
	b := req.Body
	made := safety.Pipe{Rules: pipe.RuleSet(b.Rules), Contents: b.Contents, Group: handler.Or(b.Group, ""),
		Diameter: float64(b.Diameter), Flow: safety.Flow(handler.Or(b.Flow, "")), Symbols: handler.Or(b.Symbols, nil),
		Rows:  handler.Or(b.Rows, false),
		Field: handler.Or(b.Field, ""), GroupField: handler.Or(b.GroupField, ""),
		DiameterField: handler.Or(b.DiameterField, ""),
		FlowField:     handler.Or(b.FlowField, "")}
	if b.RecordSet != nil {
		var err error
		if made.Fields, made.Records, err = s.setForLayout(ctx, *b.RecordSet); err != nil {
			return nil, err
		}
	}
	version, err := madeWith(b.Document)
	if err != nil {
		return nil, err
	}
	pack, err := s.packOf(ctx, version)
	if err != nil {
		return nil, err
	}
	answer, err := s.layOut(ctx, b.Document,
		func(d *design.Design) (*safety.Layout, error) { return safety.LayPipe(d, pack.Pipes, made) })
	return api.LayPipe200JSONResponse(answer), err
}

// setForLayout returns fields and records of a set that a label is laid out for.
func (s *Safety) setForLayout(ctx context.Context, id int64) (fields []string, rows [][]string, err error) {
	set, err := s.Store.RecordSet(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	if set.Count > records.MostToGather {
		return nil, nil, tooManyRecords.With(set.Name, set.Count, records.MostToGather)
	}
	rows, err = s.Store.Records(ctx, set.ID, 1, set.Count)
	return set.Fields, rows, err
}

// LayDiamond implements api.StrictServerInterface.
func (s *Safety) LayDiamond(ctx context.Context, req api.LayDiamondRequestObject) (api.LayDiamondResponseObject,
	error) {
	b := req.Body
	made := safety.Diamond{Health: b.Health, Fire: b.Fire, Instability: b.Instability,
		Special: handler.Or(b.Special, ""),
		Name:    handler.Or(b.Name, "")}
	answer, err := s.layOut(ctx, b.Document,
		func(d *design.Design) (*safety.Layout, error) { return safety.LayDiamond(d, made) })
	return api.LayDiamond200JSONResponse(answer), err
}

// layOut lays something out on a design's stock and, where that is too small, looks for the smallest one that takes it.
func (s *Safety) layOut(ctx context.Context, document api.Document, lay func(*design.Design) (*safety.Layout,
	error)) (answer api.LaidOut, err error) {
	d, err := design.Parse(document)
	if err != nil {
		return answer, err
	}
	pack, err := s.packOf(ctx, d.Reference) // one that was made with a pack stays with it
	if err != nil {
		return answer, err
	}
	d.Reference = pack.Version
	made, err := lay(d)
	if err != nil {
		return answer, err
	}
	answer = api.LaidOut{Reference: pack.Version, Elements: []api.About{},
		Demands: append([]design.Demand{}, design.Overruling(made.Demands, d.Demands)...), Fits: made.Fits,
		Points: float32(made.Points), Notes: handler.List(made.Notes)}
	for i := range made.Elements {
		element, err := json.Marshal(made.Elements[i])
		if err != nil {
			return answer, fmt.Errorf("write element: %w", err)
		}
		answer.Elements = append(answer.Elements, element)
	}
	if !made.Fits {
		if answer.Larger, err = s.larger(ctx, d, lay); err != nil {
			return answer, err
		}
	}
	return answer, nil
}

// mostTried is how many larger stocks are looked at.
const mostTried = 60

// larger returns the name of the smallest stock of the Stockroom that the design's printer takes and that all of it
// fits on; nil where there is none.
func (s *Safety) larger(ctx context.Context, d *design.Design, lay func(*design.Design) (*safety.Layout,
	error)) (*string, error) {
	kept, err := s.Store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	area := func(s stock.Stock) int64 { return int64(s.Width/100) * int64(s.Length/100) }
	var stocks []stock.Stock
	for _, k := range kept {
		is := k.About.V
		if area(is) > area(d.Stock) && len(stock.Fit(is, d.Printer)) == 0 &&
			(is.Kind == d.Stock.Kind || is.Kind == stock.DieCut) {
			stocks = append(stocks, is)
		}
	}
	slices.SortStableFunc(stocks, func(a, b stock.Stock) int { return cmp.Compare(area(a), area(b)) })
	for _, is := range stocks[:min(len(stocks), mostTried)] {
		on := *d
		on.Stock = is
		if made, err := lay(&on); err == nil && made.Fits {
			return &is.Name, nil
		}
	}
	return nil, nil
}
