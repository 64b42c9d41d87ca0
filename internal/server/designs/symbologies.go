package designs

import (
	"context"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/gs1"
	"oddspool/core/symbology"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
)

// ListSymbologies implements api.StrictServerInterface.
func (s *Designs) ListSymbologies(context.Context, api.ListSymbologiesRequestObject) (api.ListSymbologiesResponseObject,
	error) {
	answer := api.ListSymbologies200JSONResponse{}
	for _, kind := range symbology.All() {
		sizes := []api.PurposeSize{}
		for _, size := range kind.Sizes {
			sizes = append(sizes, api.PurposeSize{Purpose: string(size.Purpose), Where: size.Purpose.Where(),
				LeastModule: int(size.Least), UsualModule: int(size.Usual), MostModule: int(size.Most),
				LeastHeight: int(size.Height)})
		}
		answer = append(answer, api.Symbology{Id: string(kind.ID), Name: kind.Name, Standard: kind.Standard,
			Is2d: kind.Is2D, Identifier: kind.Identifier, Holds: kind.Holds, Most: kind.Most, Readers: kind.Readers,
			Uses: kind.Uses, QuietZone: kind.Quiet, LeastModule: int(kind.Least), Options: codeOptions(kind),
			Gs1:   kind.GS1,
			Sizes: sizes, NominalModule: int(kind.Nominal), AddOn: kind.AddOn})
	}
	return answer, nil
}

// codeOptions returns what can be chosen about a code.
func codeOptions(kind *symbology.Kind) []api.CodeOption {
	options := []api.CodeOption{}
	for _, option := range kind.Options {
		one := api.CodeOption{Id: option.ID, Name: option.Name, Unset: option.Unset, Least: float32(option.Least),
			Most: float32(option.Most), Step: float32(option.Step), Kind: api.CodeOptionKind(option.Kind()),
			Choices: []api.CodeChoice{}}
		for _, choice := range option.Choices {
			one.Choices = append(one.Choices, api.CodeChoice{Value: choice.Value, Name: choice.Name})
		}
		options = append(options, one)
	}
	return options
}

// TakeGs1Apart implements api.StrictServerInterface.
func (s *Designs) TakeGs1Apart(ctx context.Context, req api.TakeGs1ApartRequestObject) (api.TakeGs1ApartResponseObject,
	error) {
	values := map[string]string{}
	if req.Body.RecordSetId != nil {
		set, err := s.Store.RecordSet(ctx, *req.Body.RecordSetId)
		if err != nil {
			return nil, err
		}
		records, err := s.Store.Records(ctx, set.ID, handler.Or(req.Body.Record, 1), 1)
		if err != nil {
			return nil, err
		}
		for i, field := range set.Fields {
			if len(records) > 0 {
				values[field] = records[0][i]
			}
		}
	}
	answer := api.TakeGs1Apart200JSONResponse{Rows: design.GS1Rows(req.Body.Pieces), Suits: map[string]string{}}
	if answer.Rows == nil {
		answer.Rows = []design.GS1Row{}
	}
	for _, field := range handler.Or(req.Body.Fields, nil) {
		if ai := gs1.Suiting(field, values[field]); ai != nil {
			answer.Suits[field] = ai.AI
		}
	}
	return answer, nil
}

// BuildGs1 implements api.StrictServerInterface.
func (s *Designs) BuildGs1(_ context.Context, req api.BuildGs1RequestObject) (api.BuildGs1ResponseObject, error) {
	return api.BuildGs1200JSONResponse(design.GS1Pieces(*req.Body)), nil
}

// ListIdentifiers implements api.StrictServerInterface.
func (s *Designs) ListIdentifiers(context.Context, api.ListIdentifiersRequestObject) (api.ListIdentifiersResponseObject,
	error) {
	answer := api.ListIdentifiers200JSONResponse{}
	for _, ai := range gs1.All() {
		answer = append(answer, api.Identifier{Ai: ai.AI, Title: ai.Title, Format: ai.Format()})
	}
	return answer, nil
}

// rankedRecords is how many records are looked at to rank symbologies.
const rankedRecords = 1000

// RankSymbologies implements api.StrictServerInterface.
func (s *Designs) RankSymbologies(ctx context.Context,
	req api.RankSymbologiesRequestObject) (api.RankSymbologiesResponseObject, error) {
	d, err := design.Parse(req.Body.Document)
	if err != nil {
		return nil, err
	}
	at := -1
	for i := range d.Elements {
		if d.Elements[i].ID == req.Body.Element && d.Elements[i].Code != nil {
			at = i
		}
	}
	if at < 0 {
		return nil, noCode.With(req.Body.Element)
	}
	values, err := s.saidBy(ctx, d, at, req.Body.RecordSetId)
	if err != nil {
		return nil, err
	}
	r, element := d.Printer.Resolution, &d.Elements[at]
	boxW, boxH := element.Turn.Size(r.Dots(element.Width), r.Dots(element.Height))
	answer := api.RankSymbologies200JSONResponse{}
	for _, suit := range symbology.Rank(values, r) {
		answer = append(answer, api.Suit{Id: string(suit.ID), Fails: suit.Fails, Why: suit.Why,
			Module: int(r.Length(suit.Module)),
			Width:  int(r.Length(suit.Wide)), Height: int(r.Length(suit.Tall)), Fits: suit.Wide > 0 &&
				suit.Wide <= boxW && suit.Tall <= boxH})
	}
	return answer, nil
}

// saidBy returns what an element says on the first records of a set; what is empty is left out.
func (s *Designs) saidBy(ctx context.Context, d *design.Design, at int, setID *int64) ([]string, error) {
	records, fields := [][]string{nil}, []string(nil)
	if setID != nil {
		set, err := s.Store.RecordSet(ctx, *setID)
		if err != nil {
			return nil, err
		}
		fields = set.Fields
		if records, err = s.Store.Records(ctx, set.ID, 1, rankedRecords); err != nil {
			return nil, err
		}
	}
	one := *d
	one.Elements = []design.Element{d.Elements[at]}
	composer, err := compose.New(&one, fields)
	if err != nil {
		return nil, err
	}
	var values []string
	var label compose.Label
	for _, record := range records {
		composer.Compose(&label, record)
		if says := label.Parts[0].Says; says != "" {
			values = append(values, says)
		}
	}
	return values, nil
}
