package designs

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"slices"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/core/strip"
	"oddspool/core/templates"
	"oddspool/examples"
	"oddspool/internal/api"
	"oddspool/internal/bundle"
	"oddspool/internal/server/handler"
	"oddspool/internal/sources"
	"oddspool/internal/store"
)

// ListStarts implements api.StrictServerInterface.
func (s *Designs) ListStarts(ctx context.Context, _ api.ListStartsRequestObject) (api.ListStartsResponseObject, error) {
	printers, err := s.Store.Printers(ctx)
	if err != nil {
		return nil, err
	}
	answer := api.ListStarts200JSONResponse{}
	for _, start := range templates.All() {
		entry := api.Start{Id: start.ID, Name: start.Name, For: start.For, Stock: start.Design.Stock.Name,
			Kind: string(start.Design.Stock.Kind), Fields: append([]string{}, start.Design.Fields...),
			Picture: "/api/designs/starts/" + start.ID + "/picture"}
		if roll, err := s.Store.StockNumbered(ctx, start.Design.Stock.Number); err == nil {
			entry.StockId = &roll.ID
		}
		entry.PrinterIds = []int64{}
		for _, p := range printers {
			does := p.About.V
			if stock.Fit(start.Design.Stock, does) == nil && shows(&start.Design, does) {
				entry.PrinterIds = append(entry.PrinterIds, p.ID)
			}
		}
		answer = append(answer, entry)
	}
	return answer, nil
}

// shows tells whether a printer has the inks of a design on its stock.
func shows(d *design.Design, p stock.Printer) bool {
	inks := stock.Inks(d.Stock, p)
	for _, e := range d.Elements {
		wanted := []stock.Ink{e.Ink}
		if e.Shape != nil {
			wanted = append(wanted, e.Shape.Fill)
		}
		for _, ink := range wanted {
			if ink != "" && ink != design.Bare && !slices.Contains(inks, ink) && !slices.Contains(inks, stock.Full) {
				return false
			}
		}
	}
	return true
}

// GetStartPicture implements api.StrictServerInterface.
func (s *Designs) GetStartPicture(_ context.Context,
	req api.GetStartPictureRequestObject) (api.GetStartPictureResponseObject, error) {
	start := templates.Find(req.Name)
	if start == nil {
		return nil, noTemplate.With()
	}
	var fields, record []string
	if start.Records != "" {
		data, err := examples.Files.ReadFile(start.Records + ".csv")
		if err != nil {
			return nil, fmt.Errorf("records of a start: %w", err)
		}
		table, err := sources.Read(data, sources.Settings{})
		if err != nil {
			return nil, fmt.Errorf("records of a start: %w", err)
		}
		fields, record = table.Fields, table.Records[0]
	}
	composer, err := compose.New(&start.Design, fields)
	if err != nil {
		return nil, err
	}
	_, layers := compose.NewArtwork(composer).Draw(record)
	var file bytes.Buffer
	err = render.WritePNG(&file, layers, composer.Palette(), start.Design.Printer.Resolution)
	return api.GetStartPicture200ImagepngResponse{Body: &file}, err
}

// startedDesign makes a design of a ready-made one, for a printer, and for another stock where one is asked for.
func (s *Designs) startedDesign(ctx context.Context, body *api.NewDesign) (*design.Design, error) {
	start := templates.Find(*body.Start)
	if start == nil {
		return nil, noTemplate.With()
	}
	if body.PrinterId == nil {
		return nil, noPrinter.With()
	}
	printer, err := s.Store.Printer(ctx, *body.PrinterId)
	if err != nil {
		return nil, err
	}
	does := printer.About.V
	d := &start.Design
	if body.StockId != nil {
		roll, err := s.Store.Stock(ctx, *body.StockId)
		if err != nil {
			return nil, err
		}
		if onto := roll.About.V; onto.Number != d.Stock.Number {
			d = d.Carried(onto, does, design.Scale)
		}
	}
	if reasons := stock.Fit(d.Stock, does); reasons != nil {
		return nil, handler.Refused(reasons[0].Text)
	}
	d.Printer = does
	return d, nil
}

// OpenDesignFile implements api.StrictServerInterface.
func (s *Designs) OpenDesignFile(ctx context.Context,
	req api.OpenDesignFileRequestObject) (api.OpenDesignFileResponseObject, error) {
	u, err := handler.ReadUpload(req.Body)
	if err != nil {
		return nil, err
	}
	came, err := bundle.Read(u.Data)
	if err != nil {
		return nil, err
	}
	d := came.Design
	for hash, data := range came.Pictures {
		if _, err := s.keepPicture(ctx, pictureName(d, hash), data); err != nil {
			return nil, err
		}
	}
	for _, data := range came.Fonts {
		var taken *store.TypefaceTakenError // the labels of here keep the one that is here
		if _, err := s.keepTypeface(ctx, data); err != nil && !errors.As(err, &taken) {
			return nil, err
		}
	}
	for id, drawing := range came.Symbols {
		if err := s.Store.AddSymbol(ctx, id, drawing, s.User(ctx)); err != nil {
			return nil, err
		}
	}
	document, err := json.Marshal(d)
	if err != nil {
		return nil, fmt.Errorf("write design: %w", err)
	}
	added, err := s.Store.AddDesign(ctx, d.Name, document, nil, nil, s.User(ctx))
	return api.OpenDesignFile200JSONResponse(toDesign(added)), err
}

func pictureName(d *design.Design, hash string) string {
	for _, e := range d.Elements {
		if e.Picture != nil && e.Picture.Hash == hash && e.Picture.Name != "" {
			return e.Picture.Name
		}
	}
	return "picture"
}

// GetDesignFile implements api.StrictServerInterface.
func (s *Designs) GetDesignFile(ctx context.Context,
	req api.GetDesignFileRequestObject) (api.GetDesignFileResponseObject, error) {
	kept, err := s.Store.Design(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	d, err := kept.Parse()
	if err != nil {
		return nil, fmt.Errorf("read design %d: %w", kept.ID, err)
	}
	var file bytes.Buffer
	fonts := func(family string) (files [][]byte, err error) {
		brought, err := s.Store.Typefaces(ctx, family)
		for _, t := range brought {
			files = append(files, t.Data)
		}
		return files, err
	}
	from := bundle.Source{Picture: func(hash string) ([]byte, error) { return s.Store.PictureData(ctx, hash) },
		Fonts:  fonts,
		Symbol: func(id string) ([]byte, error) { return s.Store.SymbolDrawing(ctx, id) }}
	if err := bundle.Write(&file, d, from); err != nil {
		return nil, err
	}
	disposition := "attachment; filename*=UTF-8''" + url.PathEscape(kept.Name+".design.zip")
	return api.GetDesignFile200ApplicationoctetStreamResponse{Body: &file, ContentLength: int64(file.Len()),
		Headers: api.GetDesignFile200ResponseHeaders{ContentDisposition: &disposition}}, nil
}

// MergeDesigns implements api.StrictServerInterface.
func (s *Designs) MergeDesigns(_ context.Context, req api.MergeDesignsRequestObject) (api.MergeDesignsResponseObject,
	error) {
	var states [3]*design.Design
	for i, document := range []api.Document{req.Body.Base, req.Body.Mine, req.Body.Theirs} {
		var err error
		if states[i], err = design.Parse(document); err != nil {
			return nil, err
		}
	}
	take := map[string]string{}
	if req.Body.Take != nil {
		for id, whose := range *req.Body.Take {
			take[id] = string(whose)
		}
	}
	merged, clashes := design.Merge(states[0], states[1], states[2], take)
	document, err := json.Marshal(merged)
	return api.MergeDesigns200JSONResponse{Document: document, Clashes: clashes}, err
}

// LabelDesign implements api.StrictServerInterface.
func (s *Designs) LabelDesign(ctx context.Context, req api.LabelDesignRequestObject) (api.LabelDesignResponseObject,
	error) {
	var tags []string
	if req.Body.Tags != nil {
		tags = slices.Compact(slices.Sorted(slices.Values(*req.Body.Tags)))
		if tags == nil {
			tags = []string{}
		}
	}
	return api.LabelDesign204Response{}, s.Store.LabelDesign(ctx, req.Id, req.Body.Name, tags, s.User(ctx))
}

// ReturnDesign implements api.StrictServerInterface.
func (s *Designs) ReturnDesign(ctx context.Context, req api.ReturnDesignRequestObject) (api.ReturnDesignResponseObject,
	error) {
	return api.ReturnDesign204Response{}, s.Store.ReturnDesign(ctx, req.Id)
}

// TellHere implements api.StrictServerInterface.
func (s *Designs) TellHere(ctx context.Context, req api.TellHereRequestObject) (api.TellHereResponseObject, error) {
	others, err := s.Store.AtBench(ctx, req.Id, req.Body.Page, s.User(ctx), req.Body.Leaves != nil && *req.Body.Leaves)
	return api.TellHere200JSONResponse(append([]string{}, others...)), err
}

// version returns one version of a design as it was kept; 0 is the draft.
func (s *Designs) version(ctx context.Context, id int64, number int) (*design.Design, error) {
	kept, err := s.Store.Design(ctx, id)
	if err != nil {
		return nil, err
	}
	document := kept.Document
	if number > 0 {
		revision, err := s.Store.Revision(ctx, id, number)
		if err != nil {
			return nil, err
		}
		document = revision.Document
	}
	d, err := design.Parse(document)
	if err != nil {
		return nil, fmt.Errorf("read version %d of design %d: %w", number, id, err)
	}
	return d, nil
}

// CompareVersions implements api.StrictServerInterface.
func (s *Designs) CompareVersions(ctx context.Context,
	req api.CompareVersionsRequestObject) (api.CompareVersionsResponseObject, error) {
	before, err := s.version(ctx, req.Id, req.Params.Before)
	if err != nil {
		return nil, err
	}
	after, err := s.version(ctx, req.Id, req.Params.After)
	if err != nil {
		return nil, err
	}
	record := 1
	if req.Params.Record != nil {
		record = *req.Params.Record
	}
	answer := api.CompareVersions200JSONResponse{Changes: design.Compare(before, after)}
	if answer.Before, err = s.compared(ctx, req.Id, req.Params.Before, record, before, answer.Changes); err != nil {
		return nil, err
	}
	answer.After, err = s.compared(ctx, req.Id, req.Params.After, record, after, answer.Changes)
	return answer, err
}

// compared returns the label of a version with where what differs lies on it.
func (s *Designs) compared(ctx context.Context, id int64, number, record int, d *design.Design,
	changes []design.Change) (api.ComparedLabel, error) {
	shown := api.ComparedLabel{Picture: fmt.Sprintf("/api/designs/%d/picture?version=%d&record=%d", id, number, record),
		Marks: []api.DotBox{}}
	kept, err := s.Store.Design(ctx, id)
	if err != nil {
		return shown, err
	}
	if number == 0 {
		shown.Picture = fmt.Sprintf("/api/designs/%d/picture?edit=%d&record=%d", id, kept.Edit, record)
	}
	fields, values, err := s.recordOf(ctx, kept, record)
	if err != nil {
		return shown, err
	}
	composer, err := compose.New(d, fields)
	if err != nil {
		return shown, err
	}
	label, _ := compose.NewArtwork(composer).Draw(values)
	shown.Width, shown.Height = label.List.Width, label.List.Height
	for i, part := range label.Parts {
		differs := slices.ContainsFunc(changes, func(c design.Change) bool { return c.Element == d.Elements[i].ID })
		if differs && !part.Absent {
			b := part.Real
			shown.Marks = append(shown.Marks, strip.Box{X: b.X, Y: b.Y, W: b.W, H: b.H})
		}
	}
	return shown, nil
}

// recordOf returns the fields and one record of the records that a design is linked to.
func (s *Designs) recordOf(ctx context.Context, d store.Design, record int) (fields, values []string, err error) {
	if d.RecordSetID == nil {
		return nil, nil, nil
	}
	set, err := s.Store.RecordSet(ctx, *d.RecordSetID)
	if err != nil {
		return nil, nil, err
	}
	rows, err := s.Store.SomeRecords(ctx, set.ID, []int{record})
	if err != nil {
		return nil, nil, err
	}
	return set.Fields, rows[0], nil
}
