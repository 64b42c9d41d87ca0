package safety

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"oddspool/core/safety/hazard"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/server/records"
	"oddspool/internal/store"
)

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
func (s *Safety) hazardOf(ctx context.Context, r api.HazardRequest, version string) (h hazardous, err error) {
	book, err := s.bookOf(ctx, version)
	if err != nil {
		return h, err
	}
	w := hazard.Wanted{Rules: hazard.RuleSet(handler.Or(r.Rules, string(hazard.CLP))),
		Language: handler.Or(r.Language, "en"),
		Volume:   float64(handler.Or(r.Volume, 0)), Public: handler.Or(r.Public, false), Fill: handler.Or(r.Fill, nil),
		Known:   handler.Or(r.Known, nil),
		Choices: map[string]hazard.Choice{}}
	for _, choice := range handler.Or(r.Choices, nil) {
		w.Choices[choice.Code] = hazard.Choice{Keep: choice.Keep, Reason: choice.Reason}
	}
	switch {
	case handler.Or(r.Substance, "") != "":
		substance, err := book.Substance(*r.Substance)
		if err != nil {
			return h, err
		}
		h.numbers, h.classification, h.source = substance.Numbers(), substance.Classification, substance.From()
		if h.label, err = book.SubstanceLabel(substance, w); err == nil {
			h.name = h.label.Name
		}
		return h, err
	case handler.Or(r.Mixture, "") != "":
		form := hazard.Form(handler.Or(r.Form, string(hazard.Dust)))
		parts, err := book.ParseMixture(*r.Mixture, w.Rules, form)
		if err != nil {
			return h, err
		}
		mixed, label, err := book.MixtureLabel(&hazard.Mixture{Parts: parts, Form: form,
			Known: handler.Or(r.Known, nil)}, w)
		if err != nil {
			return h, err
		}
		h.label, h.classification, h.steps, h.mixed = label, mixed.Classification, mixed.Steps, mixed
		h.numbers = strings.Join(mixed.Contributors, ", ")
		return h, nil
	}
	h.classification = handler.Or(r.Classes, "")
	classes, err := book.Parse(h.classification, w.Rules)
	if err != nil {
		return h, err
	}
	h.label, err = book.Label(classes, w)
	return h, err
}

// LabelHazards implements api.StrictServerInterface.
func (s *Safety) LabelHazards(ctx context.Context, req api.LabelHazardsRequestObject) (api.LabelHazardsResponseObject,
	error) {
	h, err := s.hazardOf(ctx, *req.Body, "")
	if err != nil {
		return nil, err
	}
	l := h.label
	answer := api.LabelHazards200JSONResponse{Blanks: new(handler.List(l.Blanks)), Name: h.name, Rules: string(l.Rules),
		Language: l.Language, Classification: h.classification, Pictograms: toStatements(l.Pictograms),
		Signal: string(l.Signal), SignalWord: l.SignalWord, Hazards: toStatements(l.Hazards),
		Supplemental: toStatements(l.Supplemental), Precautions: toStatements(l.Precautions),
		LeftOut: []api.HazardStatement{}, Small: l.Small, Steps: handler.List(h.steps),
		Numbers: handler.Some(h.numbers)}
	for _, out := range l.LeftOut {
		answer.LeftOut = append(answer.LeftOut, api.HazardStatement{Code: out.Code, Text: out.Text,
			Because: handler.List(out.Because), Why: &out.Why})
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
	answer.Notes = new(handler.List(notes))
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
		made[i] = api.HazardQuestion{Id: o.ID, Text: o.Text, Unit: handler.Some(o.Unit),
			Choices: new(handler.List(o.Choices)),
			Because: o.Because, Clause: o.Clause, Answer: handler.Some(o.Answer)}
	}
	return &made
}

func toStatements(from []hazard.Reasoned) []api.HazardStatement {
	made := []api.HazardStatement{}
	for _, r := range from {
		made = append(made, api.HazardStatement{Code: r.Code, Text: r.Text, Because: handler.List(r.Because),
			Why: handler.Some(r.Why)})
	}
	return made
}

// mostFound is how many substances or statements are answered at once.
const mostFound = 100

// FindSubstances implements api.StrictServerInterface.
func (s *Safety) FindSubstances(ctx context.Context,
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
	return api.Substance{Id: new(from.ID()), State: handler.Some(from.State), Source: handler.Some(string(from.Source)),
		From: handler.Some(from.From()), Cas: from.CAS, Ec: handler.Some(from.EC), Formula: handler.Some(from.Formula),
		Names:          from.Names,
		Synonyms:       handler.List(from.Synonyms),
		Classification: from.Classification, Supplemental: new(append([]string{}, from.Supplemental...)),
		Limits: handler.Some(from.Limits), Notes: new(handler.List(from.Notes)), Un: handler.Some(from.UN),
		Transport:    handler.Some(from.Transport),
		PackingGroup: handler.Some(from.PackingGroup), Own: handler.Some(string(from.Own))}
}

// PutSubstance implements api.StrictServerInterface.
func (s *Safety) PutSubstance(ctx context.Context, req api.PutSubstanceRequestObject) (api.PutSubstanceResponseObject,
	error) {
	b := req.Body
	own := hazard.Substance{CAS: strings.TrimSpace(b.Cas), State: strings.Join(strings.Fields(handler.Or(b.State, "")),
		" "),
		EC: strings.TrimSpace(handler.Or(b.Ec, "")), Formula: handler.Or(b.Formula, ""), Names: b.Names,
		Synonyms:       b.Synonyms,
		Classification: strings.TrimSpace(b.Classification),
		Supplemental:   handler.Or(b.Supplemental, nil), Limits: strings.TrimSpace(handler.Or(b.Limits, "")),
		UN: strings.TrimSpace(handler.Or(b.Un, "")), Transport: handler.Or(b.Transport, ""),
		PackingGroup: handler.Or(b.PackingGroup, ""),
		Notes:        handler.Or(b.Notes, nil)}
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
	if err := s.Store.PutSubstance(ctx, own.ID(), about, s.User(ctx)); err != nil {
		return nil, err
	}
	made, err := book.Substance(own.ID())
	if err != nil {
		return nil, err
	}
	return api.PutSubstance200JSONResponse(toSubstance(made)), nil
}

// DropSubstance implements api.StrictServerInterface.
func (s *Safety) DropSubstance(ctx context.Context,
	req api.DropSubstanceRequestObject) (api.DropSubstanceResponseObject, error) {
	err := s.Store.DropSubstance(ctx, req.Cas)
	if errors.As(err, new(*store.NotFoundError)) {
		return nil, noOwnSubstance.With(req.Cas)
	}
	return api.DropSubstance204Response{}, err
}

// FindStatements implements api.StrictServerInterface.
func (s *Safety) FindStatements(ctx context.Context,
	req api.FindStatementsRequestObject) (api.FindStatementsResponseObject, error) {
	pack, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	book, language := pack.Book, handler.Or(req.Params.Language, "en")
	if !slices.Contains(hazard.Languages, language) {
		return nil, unknownLanguage.With(language, strings.Join(hazard.Languages, ", "))
	}
	wanted := strings.ToLower(strings.TrimSpace(req.Params.Search))
	answer := api.FindStatements200JSONResponse{}
	for _, code := range book.Codes() {
		text, _ := book.Text(code, language)
		if len(answer) < mostFound && (strings.Contains(strings.ToLower(code), wanted) ||
			strings.Contains(strings.ToLower(text), wanted)) {
			answer = append(answer, api.HazardStatement{Code: code, Text: text,
				Because: handler.List(book.AskedBy(code))})
		}
	}
	return answer, nil
}

// ListPipeGroups implements api.StrictServerInterface.
func (s *Safety) ListPipeGroups(ctx context.Context,
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

// LookUpHazards implements api.StrictServerInterface.
func (s *Safety) LookUpHazards(ctx context.Context,
	req api.LookUpHazardsRequestObject) (api.LookUpHazardsResponseObject, error) {
	set, err := s.Store.RecordSet(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if set.Count > records.MostToGather {
		return nil, tooManyToLookUp.With(set.Name, set.Count, records.MostToGather)
	}
	kept, err := s.Store.Records(ctx, set.ID, 1, set.Count)
	if err != nil {
		return nil, err
	}
	book, err := s.bookOf(ctx, "")
	if err != nil {
		return nil, err
	}
	fill, err := book.ParseFill(handler.Or(req.Body.Fill, ""))
	if err != nil {
		return nil, err
	}
	known, err := hazard.ParseKnown(handler.Or(req.Body.Known, ""))
	if err != nil {
		return nil, err
	}
	fields, rows, err := book.LookUp(set.Fields, kept, req.Body.Field,
		hazard.Wanted{Rules: hazard.RuleSet(handler.Or(req.Body.Rules, "")),
			Language: handler.Or(req.Body.Language, ""), Fill: fill,
			Known: known})
	if err != nil {
		return nil, err
	}
	made, err := s.Store.AddRecordSet(ctx, set.Name+", with hazards", fields, rows, s.User(ctx))
	return api.LookUpHazards200JSONResponse(records.ToRecordSet(made)), err
}
