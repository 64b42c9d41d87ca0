package designs

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// ListDesigns implements api.StrictServerInterface.
func (s *Designs) ListDesigns(ctx context.Context, req api.ListDesignsRequestObject) (api.ListDesignsResponseObject,
	error) {
	designs, err := s.Store.Designs(ctx, handler.Or(req.Params.Find, ""), handler.Or(req.Params.Retired, false))
	if err != nil {
		return nil, err
	}
	entries := make(api.ListDesigns200JSONResponse, len(designs))
	for i, d := range designs {
		entries[i] = api.DesignEntry{Id: d.ID, Name: d.Name, Version: d.Version, Stock: d.Stock, Printer: d.Printer,
			Tags: append([]string{}, d.Tags...), RecordSetId: d.RecordSetID, UpdatedBy: d.UpdatedBy,
			UpdatedAt: d.UpdatedAt, Picture: fmt.Sprintf("/api/designs/%d/picture?edit=%d", d.ID, d.Edit)}
	}
	return entries, nil
}

// CreateDesign implements api.StrictServerInterface.
func (s *Designs) CreateDesign(ctx context.Context, req api.CreateDesignRequestObject) (api.CreateDesignResponseObject,
	error) {
	var d *design.Design
	var err error
	switch {
	case req.Body.Document != nil:
		d, err = design.Parse(*req.Body.Document)
	case req.Body.Start != nil:
		d, err = s.startedDesign(ctx, req.Body)
	default:
		d, err = s.emptyDesign(ctx, req.Body)
	}
	if err != nil {
		return nil, err
	}
	if req.Body.Name != nil {
		d.Name = *req.Body.Name
	}
	document, err := json.Marshal(d)
	if err != nil {
		return nil, fmt.Errorf("write design: %w", err)
	}
	added, err := s.Store.AddDesign(ctx, d.Name, document, req.Body.RecordSetId, req.Body.PrinterId, s.User(ctx))
	if err != nil {
		return nil, err
	}
	return api.CreateDesign200JSONResponse(toDesign(added)), nil
}

// emptyDesign makes a design for a printer and a stock that fit each other.
func (s *Designs) emptyDesign(ctx context.Context, body *api.NewDesign) (*design.Design, error) {
	if body.PrinterId == nil || body.StockId == nil || body.Name == nil {
		return nil, incomplete.With()
	}
	printer, err := s.Store.Printer(ctx, *body.PrinterId)
	if err != nil {
		return nil, err
	}
	roll, err := s.Store.Stock(ctx, *body.StockId)
	if err != nil {
		return nil, err
	}
	d := &design.Design{Format: design.Format, Name: *body.Name, Printer: printer.About.V, Stock: roll.About.V,
		Elements: []design.Element{}}
	if reasons := stock.Fit(d.Stock, d.Printer); reasons != nil {
		return nil, handler.Refused(reasons[0].Text)
	}
	if body.Turn != nil {
		d.Turn = measure.Turn(*body.Turn)
	}
	d.Repeat = d.Stock.Usual()
	if body.RecordSetId != nil {
		set, err := s.Store.RecordSet(ctx, *body.RecordSetId)
		if err != nil {
			return nil, err
		}
		d.Fields = set.Fields
	}
	return d, nil
}

func toDesign(d store.Design) api.Design {
	return api.Design{Id: d.ID, Edit: d.Edit, Version: d.Version, Draft: d.Draft, UpdatedBy: d.UpdatedBy,
		UpdatedAt:   d.UpdatedAt,
		RecordSetId: d.RecordSetID, PrinterId: d.PrinterID, Document: api.Document(d.Document)}
}

// GetDesign implements api.StrictServerInterface.
func (s *Designs) GetDesign(ctx context.Context, req api.GetDesignRequestObject) (api.GetDesignResponseObject, error) {
	d, err := s.Store.Design(ctx, req.Id)
	return api.GetDesign200JSONResponse(toDesign(d)), err
}

// SaveDesign implements api.StrictServerInterface.
func (s *Designs) SaveDesign(ctx context.Context, req api.SaveDesignRequestObject) (api.SaveDesignResponseObject,
	error) {
	d, err := design.Parse(req.Body.Document)
	if err != nil {
		return nil, err
	}
	document, err := json.Marshal(d)
	if err != nil {
		return nil, fmt.Errorf("write design: %w", err)
	}
	saved, err := s.Store.SaveDesign(ctx, req.Id, req.Body.Edit, d.Name, document, req.Body.RecordSetId,
		req.Body.PrinterId, s.User(ctx))
	return api.SaveDesign200JSONResponse(toDesign(saved)), err
}

// RetireDesign implements api.StrictServerInterface.
func (s *Designs) RetireDesign(ctx context.Context, req api.RetireDesignRequestObject) (api.RetireDesignResponseObject,
	error) {
	return api.RetireDesign204Response{}, s.Store.RetireDesign(ctx, req.Id)
}

// GetDesignPicture implements api.StrictServerInterface.
func (s *Designs) GetDesignPicture(ctx context.Context,
	req api.GetDesignPictureRequestObject) (api.GetDesignPictureResponseObject, error) {
	d, err := s.Store.Design(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if req.Params.Version != nil {
		revision, err := s.Store.Revision(ctx, req.Id, *req.Params.Version)
		if err != nil {
			return nil, err
		}
		d.Document = revision.Document
	}
	record := 1
	if req.Params.Record != nil {
		record = *req.Params.Record
	}
	var set store.RecordSet
	if d.RecordSetID != nil {
		if set, err = s.Store.RecordSet(ctx, *d.RecordSetID); err != nil {
			return nil, err
		}
	}
	picture, err := s.picture(ctx, d.Document, set, record)
	if err != nil {
		return nil, err
	}
	return api.GetDesignPicture200ImagepngResponse{Body: picture}, nil
}

// picture draws the label of one record of a set as PNG.
func (s *Designs) picture(ctx context.Context, document []byte, set store.RecordSet, record int) (io.Reader, error) {
	d, err := design.Parse(document)
	if err != nil {
		return nil, err
	}
	values := [][]string{nil}
	if set.ID != 0 {
		if values, err = s.Store.SomeRecords(ctx, set.ID, []int{record}); err != nil {
			return nil, err
		}
	}
	return Drawn(d, set.Fields, values[0])
}

// Drawn returns the artwork of one label as a picture.
func Drawn(d *design.Design, fields, values []string) (io.Reader, error) {
	composer, err := compose.New(d, fields)
	if err != nil {
		return nil, err
	}
	_, layers := compose.NewArtwork(composer).Draw(values)
	var file bytes.Buffer
	err = render.WritePNG(&file, layers, composer.Palette(), d.Printer.Resolution)
	return &file, err
}

// ListRevisions implements api.StrictServerInterface.
func (s *Designs) ListRevisions(ctx context.Context,
	req api.ListRevisionsRequestObject) (api.ListRevisionsResponseObject, error) {
	revisions, err := s.Store.Revisions(ctx, req.Id)
	answer := make(api.ListRevisions200JSONResponse, len(revisions))
	for i, r := range revisions {
		answer[i] = api.Revision{Number: r.Number, MadeBy: r.MadeBy, MadeAt: r.MadeAt, Why: r.Why}
	}
	return answer, err
}

// KeepRevision implements api.StrictServerInterface.
func (s *Designs) KeepRevision(ctx context.Context, req api.KeepRevisionRequestObject) (api.KeepRevisionResponseObject,
	error) {
	why := ""
	if req.Body != nil && req.Body.Why != nil {
		why = *req.Body.Why
	}
	if _, err := s.Store.KeepRevision(ctx, req.Id, why, s.User(ctx)); err != nil {
		return nil, err
	}
	d, err := s.Store.Design(ctx, req.Id)
	return api.KeepRevision200JSONResponse(toDesign(d)), err
}

// GetRevision implements api.StrictServerInterface.
func (s *Designs) GetRevision(ctx context.Context, req api.GetRevisionRequestObject) (api.GetRevisionResponseObject,
	error) {
	r, err := s.Store.Revision(ctx, req.Id, req.Number)
	return api.GetRevision200JSONResponse(api.Document(r.Document)), err
}
