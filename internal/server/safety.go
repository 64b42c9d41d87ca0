package server

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/safety"
	"oddspool/core/safety/hazard"
	"oddspool/core/safety/pipe"
	"oddspool/core/safety/sign"
	"oddspool/core/safety/symbols"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/store"
)

// ListSymbols implements api.StrictServerInterface.
func (s *Server) ListSymbols(ctx context.Context, req api.ListSymbolsRequestObject) (api.ListSymbolsResponseObject,
	error) {
	answer := api.ListSymbols200JSONResponse{}
	words, family := or(req.Params.Search, ""), or(req.Params.Family, "")
	if family == "" || family == symbols.OwnFamily {
		drawings, err := s.store.OwnSymbols(ctx)
		if err != nil {
			return nil, err
		}
		for _, drawing := range drawings {
			found, err := symbols.Read(drawing)
			if err != nil {
				return nil, fmt.Errorf("read a symbol of one's own: %w", err)
			}
			if found.Answers(words) {
				answer = append(answer, toSymbol(found, ""))
			}
		}
	}
	pack, err := s.packOf(ctx, or(req.Params.Reference, ""))
	if err != nil {
		return nil, err
	}
	for _, found := range symbols.SearchIn(pack.Symbols, words, family) {
		answer = append(answer, toSymbol(found, pack.Version))
	}
	return answer, nil
}

func toSymbol(s *symbols.Symbol, version string) api.Symbol {
	return api.Symbol{Reference: version, Drawing: "/api/symbols/" + url.PathEscape(symbols.Named(version, s.ID)) +
		"/drawing", Id: s.ID, Family: s.Family, Standard: s.Standard, Number: s.Number, Name: s.Name, Means: s.Means,
		Smallest: s.Smallest, Source: s.Source, Words: list(s.Words)}
}

// AddSymbol implements api.StrictServerInterface.
func (s *Server) AddSymbol(ctx context.Context, req api.AddSymbolRequestObject) (api.AddSymbolResponseObject, error) {
	made, drawing, err := symbols.Own([]byte(req.Body.Svg),
		symbols.Facts{Name: req.Body.Name, Means: or(req.Body.Means, ""),
			Words: strings.Fields(or(req.Body.Words, ""))})
	if err != nil {
		return nil, err
	}
	if err := s.store.AddSymbol(ctx, made.ID, drawing, s.user(ctx)); err != nil {
		return nil, err
	}
	return api.AddSymbol200JSONResponse(toSymbol(made, "")), symbols.Register(made.ID, drawing)
}

// RetireSymbol implements api.StrictServerInterface.
func (s *Server) RetireSymbol(ctx context.Context, req api.RetireSymbolRequestObject) (api.RetireSymbolResponseObject,
	error) {
	return api.RetireSymbol204Response{}, s.store.RetireSymbol(ctx, req.Symbol)
}

// GetSymbolDrawing implements api.StrictServerInterface.
func (s *Server) GetSymbolDrawing(_ context.Context,
	req api.GetSymbolDrawingRequestObject) (api.GetSymbolDrawingResponseObject, error) {
	found, err := symbols.Find(req.Symbol)
	if err != nil {
		return nil, noSymbol.With(req.Symbol)
	}
	drawing := found.SVG()
	return api.GetSymbolDrawing200ImagesvgXmlResponse{Body: bytes.NewReader(drawing),
		ContentLength: int64(len(drawing)),
		Headers:       api.GetSymbolDrawing200ResponseHeaders{CacheControl: new("private, max-age=3600")}}, nil
}

// ListSymbolUses implements api.StrictServerInterface.
func (s *Server) ListSymbolUses(ctx context.Context,
	req api.ListSymbolUsesRequestObject) (api.ListSymbolUsesResponseObject, error) {
	uses, err := s.store.SymbolUses(ctx, req.Symbol)
	answer := make(api.ListSymbolUses200JSONResponse, len(uses))
	for i, use := range uses {
		answer[i].Id, answer[i].Name = use.ID, use.Name
	}
	return answer, err
}

// A hazardous is a thing whose label was asked for.
type hazardous struct {
	label          *hazard.Label
	classification string
	name, numbers  string
	source         string // where the classification is from
	steps          []string
	mixed          *hazard.Mixed // nil: it is no mixture
}

// hazardOf works out the label that a request asks for, with a pack or (empty) the one in use.
func (s *Server) hazardOf(ctx context.Context, r api.HazardRequest, version string) (h hazardous, err error) {
	book, err := s.bookOf(ctx, version)
	if err != nil {
		return h, err
	}
	w := hazard.Wanted{Rules: hazard.RuleSet(or(r.Rules, string(hazard.CLP))), Language: or(r.Language, "en"),
		Volume: float64(or(r.Volume, 0)), Public: or(r.Public, false), Fill: or(r.Fill, nil), Known: or(r.Known, nil),
		Choices: map[string]hazard.Choice{}}
	for _, choice := range or(r.Choices, nil) {
		w.Choices[choice.Code] = hazard.Choice{Keep: choice.Keep, Reason: choice.Reason}
	}
	switch {
	case or(r.Substance, "") != "":
		substance, err := book.Substance(*r.Substance)
		if err != nil {
			return h, err
		}
		h.numbers, h.classification, h.source = substance.Numbers(), substance.Classification, substance.From()
		if h.label, err = book.SubstanceLabel(substance, w); err == nil {
			h.name = h.label.Name
		}
		return h, err
	case or(r.Mixture, "") != "":
		form := hazard.Form(or(r.Form, string(hazard.Dust)))
		parts, err := book.ParseMixture(*r.Mixture, w.Rules, form)
		if err != nil {
			return h, err
		}
		mixed, label, err := book.MixtureLabel(&hazard.Mixture{Parts: parts, Form: form, Known: or(r.Known, nil)}, w)
		if err != nil {
			return h, err
		}
		h.label, h.classification, h.steps, h.mixed = label, mixed.Classification, mixed.Steps, mixed
		h.numbers = strings.Join(mixed.Contributors, ", ")
		return h, nil
	}
	h.classification = or(r.Classes, "")
	classes, err := book.Parse(h.classification, w.Rules)
	if err != nil {
		return h, err
	}
	h.label, err = book.Label(classes, w)
	return h, err
}

// LabelHazards implements api.StrictServerInterface.
func (s *Server) LabelHazards(ctx context.Context, req api.LabelHazardsRequestObject) (api.LabelHazardsResponseObject,
	error) {
	h, err := s.hazardOf(ctx, *req.Body, "")
	if err != nil {
		return nil, err
	}
	l := h.label
	answer := api.LabelHazards200JSONResponse{Blanks: new(list(l.Blanks)), Name: h.name, Rules: string(l.Rules),
		Language: l.Language, Classification: h.classification, Pictograms: toStatements(l.Pictograms),
		Signal: string(l.Signal), SignalWord: l.SignalWord, Hazards: toStatements(l.Hazards),
		Supplemental: toStatements(l.Supplemental), Precautions: toStatements(l.Precautions),
		LeftOut: []api.HazardStatement{}, Small: l.Small, Steps: list(h.steps), Numbers: some(h.numbers)}
	for _, out := range l.LeftOut {
		answer.LeftOut = append(answer.LeftOut, api.HazardStatement{Code: out.Code, Text: out.Text,
			Because: list(out.Because), Why: &out.Why})
	}
	answer.Open, answer.Answered = toOpen(l.Open), toOpen(l.Answered)
	notes := slices.Concat(l.Packaging, l.Notes)
	if h.source != "" {
		notes = append(notes, h.source)
	}
	if h.mixed != nil {
		notes = append(notes, h.mixed.Notes...)
		limits := make([]api.HazardLimits, len(h.mixed.Limits))
		for i, of := range h.mixed.Limits {
			limits[i] = api.HazardLimits(of)
		}
		answer.Limits = &limits
	}
	answer.Notes = new(list(notes))
	if l.Size != nil {
		answer.Size = &api.HazardSize{Width: float32(l.Size.Width), Height: float32(l.Size.Height),
			Pictogram: float32(l.Size.Pictogram), Smallest: float32(l.Size.Smallest), Letters: float32(l.Size.Letters),
			Clause: l.Size.Clause}
	}
	return answer, nil
}

// toOpen shows what is asked of a mixture.
func toOpen(from []hazard.Open) *[]api.HazardQuestion {
	made := make([]api.HazardQuestion, len(from))
	for i, o := range from {
		made[i] = api.HazardQuestion{Id: o.ID, Text: o.Text, Unit: some(o.Unit), Choices: new(list(o.Choices)),
			Because: o.Because, Clause: o.Clause, Answer: some(o.Answer)}
	}
	return &made
}

func toStatements(from []hazard.Reasoned) []api.HazardStatement {
	made := []api.HazardStatement{}
	for _, r := range from {
		made = append(made, api.HazardStatement{Code: r.Code, Text: r.Text, Because: list(r.Because), Why: some(r.Why)})
	}
	return made
}

// mostFound is how many substances or statements are answered at once.
const mostFound = 100

// FindSubstances implements api.StrictServerInterface.
func (s *Server) FindSubstances(ctx context.Context,
	req api.FindSubstancesRequestObject) (api.FindSubstancesResponseObject, error) {
	answer := api.FindSubstances200JSONResponse{}
	book, err := s.bookOf(ctx, "")
	if err != nil {
		return nil, err
	}
	for _, found := range book.Search(req.Params.Search, mostFound) {
		answer = append(answer, toSubstance(found))
	}
	return answer, nil
}

func toSubstance(from *hazard.Substance) api.Substance {
	return api.Substance{Id: new(from.ID()), State: some(from.State), Source: some(string(from.Source)),
		From: some(from.From()), Cas: from.CAS, Ec: some(from.EC), Formula: some(from.Formula), Names: from.Names,
		Synonyms:       list(from.Synonyms),
		Classification: from.Classification, Supplemental: new(append([]string{}, from.Supplemental...)),
		Limits: some(from.Limits), Notes: new(list(from.Notes)), Un: some(from.UN), Transport: some(from.Transport),
		PackingGroup: some(from.PackingGroup), Own: some(string(from.Own))}
}

// PutSubstance implements api.StrictServerInterface.
func (s *Server) PutSubstance(ctx context.Context, req api.PutSubstanceRequestObject) (api.PutSubstanceResponseObject,
	error) {
	b := req.Body
	own := hazard.Substance{CAS: strings.TrimSpace(b.Cas), State: strings.Join(strings.Fields(or(b.State, "")), " "),
		EC: strings.TrimSpace(or(b.Ec, "")), Formula: or(b.Formula, ""), Names: b.Names, Synonyms: b.Synonyms,
		Classification: strings.TrimSpace(b.Classification),
		Supplemental:   or(b.Supplemental, nil), Limits: strings.TrimSpace(or(b.Limits, "")),
		UN: strings.TrimSpace(or(b.Un, "")), Transport: or(b.Transport, ""), PackingGroup: or(b.PackingGroup, ""),
		Notes: or(b.Notes, nil)}
	for language, name := range own.Names {
		if own.Names[language] = strings.TrimSpace(name); own.Names[language] == "" {
			delete(own.Names, language)
		}
	}
	pack, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	book, err := pack.Book.With([]hazard.Substance{own})
	if err != nil {
		return nil, err
	}
	about, err := json.Marshal(own)
	if err != nil {
		return nil, fmt.Errorf("write substance: %w", err)
	}
	if err := s.store.PutSubstance(ctx, own.ID(), about, s.user(ctx)); err != nil {
		return nil, err
	}
	made, err := book.Substance(own.ID())
	if err != nil {
		return nil, err
	}
	return api.PutSubstance200JSONResponse(toSubstance(made)), nil
}

// DropSubstance implements api.StrictServerInterface.
func (s *Server) DropSubstance(ctx context.Context,
	req api.DropSubstanceRequestObject) (api.DropSubstanceResponseObject, error) {
	err := s.store.DropSubstance(ctx, req.Cas)
	if errors.As(err, new(*store.NotFoundError)) {
		return nil, noOwnSubstance.With(req.Cas)
	}
	return api.DropSubstance204Response{}, err
}

// some is nil for what is empty.
func some(text string) *string {
	if text == "" {
		return nil
	}
	return &text
}

// FindStatements implements api.StrictServerInterface.
func (s *Server) FindStatements(ctx context.Context,
	req api.FindStatementsRequestObject) (api.FindStatementsResponseObject, error) {
	pack, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	book, language := pack.Book, or(req.Params.Language, "en")
	if !slices.Contains(hazard.Languages, language) {
		return nil, unknownLanguage.With(language, strings.Join(hazard.Languages, ", "))
	}
	wanted := strings.ToLower(strings.TrimSpace(req.Params.Search))
	answer := api.FindStatements200JSONResponse{}
	for _, code := range book.Codes() {
		text, _ := book.Text(code, language)
		if len(answer) < mostFound && (strings.Contains(strings.ToLower(code), wanted) ||
			strings.Contains(strings.ToLower(text), wanted)) {
			answer = append(answer, api.HazardStatement{Code: code, Text: text, Because: list(book.AskedBy(code))})
		}
	}
	return answer, nil
}

// ListPipeGroups implements api.StrictServerInterface.
func (s *Server) ListPipeGroups(ctx context.Context,
	_ api.ListPipeGroupsRequestObject) (api.ListPipeGroupsResponseObject, error) {
	pack, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	answer := api.ListPipeGroups200JSONResponse{}
	for _, rules := range pack.Pipes.Sets() {
		for _, g := range pack.Pipes.Of(rules) {
			answer = append(answer, api.PipeGroup{Rules: string(rules), Standard: pack.Pipes.Standard(rules), Id: g.ID,
				Name: g.Name, Field: g.Field, Letters: g.Letters, Stripe: g.Stripe, Holds: g.Holds, Clause: g.Clause})
		}
	}
	return answer, nil
}

// LayChemical implements api.StrictServerInterface.
func (s *Server) LayChemical(ctx context.Context, req api.LayChemicalRequestObject) (api.LayChemicalResponseObject,
	error) {
	version, err := madeWith(req.Body.Document)
	if err != nil {
		return nil, err
	}
	wanted := append([]string{or(req.Body.Hazard.Language, "en")}, or(req.Body.Languages, nil)...)
	asked := make([]api.HazardRequest, len(wanted))
	for i, language := range wanted {
		if slices.Contains(wanted[:i], language) {
			return nil, languageTwice.With(language)
		}
	}
	for i := range wanted {
		asked[i] = req.Body.Hazard
		asked[i].Language = &wanted[i]
		if asked[i].Fill, err = filledIn(or(req.Body.Hazard.Fill, nil), i, len(wanted)); err != nil {
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
		if missing := supplierLacks(or(req.Body.Supplier, "")); missing != "" {
			return nil, refused(missing)
		}
		if or(req.Body.Hazard.Public, false) && strings.TrimSpace(or(req.Body.Quantity, "")) == "" {
			return nil, noQuantity.With()
		}
	}
	if ufi := strings.TrimSpace(or(req.Body.Ufi, "")); ufi != "" {
		if ufi, err = hazard.CheckUFI(ufi); err != nil {
			return nil, err
		}
		h.numbers = strings.TrimPrefix(h.numbers+" · UFI: "+ufi, " · ")
	}
	c := safety.Chemical{Name: cmp.Or(or(req.Body.Name, ""), h.name), Identifiers: h.numbers,
		Supplier: or(req.Body.Supplier, ""), Quantity: or(req.Body.Quantity, ""), Label: h.label}
	for _, request := range asked[1:] {
		more, err := s.hazardOf(ctx, request, version)
		if err != nil {
			return nil, err
		}
		if !strings.Contains(c.Identifiers, more.numbers) {
			c.Identifiers += " / " + more.numbers
		}
		c.More = append(c.More, safety.Version{Name: cmp.Or(or(req.Body.Name, ""), more.name), Label: more.label})
	}
	if req.Body.RecordSet != nil {
		if c.More != nil {
			return nil, recordsInOneLanguage.With()
		}
		set, err := s.store.RecordSet(ctx, *req.Body.RecordSet)
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
func (s *Server) LaySign(ctx context.Context, req api.LaySignRequestObject) (api.LaySignResponseObject, error) {
	b := req.Body
	made := safety.Sign{Kind: b.Kind, Symbols: b.Symbols, Message: b.Message, Second: or(b.Second, ""),
		Language: or(b.Language, ""), Distance: float64(or(b.Distance, 0)), Light: sign.Light(or(b.Light, ""))}
	answer, err := s.layOut(ctx, b.Document,
		func(d *design.Design) (*safety.Layout, error) { return safety.LaySign(d, made) })
	return api.LaySign200JSONResponse(answer), err
}

// LayPipe implements api.StrictServerInterface.
func (s *Server) LayPipe(ctx context.Context, req api.LayPipeRequestObject) (api.LayPipeResponseObject, error) {
	b := req.Body
	made := safety.Pipe{Rules: pipe.RuleSet(b.Rules), Contents: b.Contents, Group: or(b.Group, ""),
		Diameter: float64(b.Diameter), Flow: safety.Flow(or(b.Flow, "")), Symbols: or(b.Symbols, nil),
		Rows:  or(b.Rows, false),
		Field: or(b.Field, ""), GroupField: or(b.GroupField, ""), DiameterField: or(b.DiameterField, ""),
		FlowField: or(b.FlowField, "")}
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
func (s *Server) setForLayout(ctx context.Context, id int64) (fields []string, records [][]string, err error) {
	set, err := s.store.RecordSet(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	if set.Count > mostToGather {
		return nil, nil, tooManyRecords2.With(set.Name, set.Count, mostToGather)
	}
	records, err = s.store.Records(ctx, set.ID, 1, set.Count)
	return set.Fields, records, err
}

// LayDiamond implements api.StrictServerInterface.
func (s *Server) LayDiamond(ctx context.Context, req api.LayDiamondRequestObject) (api.LayDiamondResponseObject,
	error) {
	b := req.Body
	made := safety.Diamond{Health: b.Health, Fire: b.Fire, Instability: b.Instability, Special: or(b.Special, ""),
		Name: or(b.Name, "")}
	answer, err := s.layOut(ctx, b.Document,
		func(d *design.Design) (*safety.Layout, error) { return safety.LayDiamond(d, made) })
	return api.LayDiamond200JSONResponse(answer), err
}

// layOut lays something out on a design's stock and, where that is too small, looks for the smallest one that takes it.
func (s *Server) layOut(ctx context.Context, document api.Document, lay func(*design.Design) (*safety.Layout,
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
		Points: float32(made.Points), Notes: list(made.Notes)}
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
func (s *Server) larger(ctx context.Context, d *design.Design, lay func(*design.Design) (*safety.Layout,
	error)) (*string, error) {
	kept, err := s.store.Stocks(ctx)
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

// LookUpHazards implements api.StrictServerInterface.
func (s *Server) LookUpHazards(ctx context.Context,
	req api.LookUpHazardsRequestObject) (api.LookUpHazardsResponseObject, error) {
	set, err := s.store.RecordSet(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if set.Count > mostToGather {
		return nil, tooManyToLookUp.With(set.Name, set.Count, mostToGather)
	}
	records, err := s.store.Records(ctx, set.ID, 1, set.Count)
	if err != nil {
		return nil, err
	}
	book, err := s.bookOf(ctx, "")
	if err != nil {
		return nil, err
	}
	fill, err := book.ParseFill(or(req.Body.Fill, ""))
	if err != nil {
		return nil, err
	}
	known, err := hazard.ParseKnown(or(req.Body.Known, ""))
	if err != nil {
		return nil, err
	}
	fields, rows, err := book.LookUp(set.Fields, records, req.Body.Field,
		hazard.Wanted{Rules: hazard.RuleSet(or(req.Body.Rules, "")), Language: or(req.Body.Language, ""), Fill: fill,
			Known: known})
	if err != nil {
		return nil, err
	}
	made, err := s.store.AddRecordSet(ctx, set.Name+", with hazards", fields, rows, s.user(ctx))
	return api.LookUpHazards200JSONResponse(toRecordSet(made)), err
}
