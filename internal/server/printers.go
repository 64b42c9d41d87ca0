package server

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/press"
	"oddspool/internal/runner"
	"oddspool/internal/store"
)

// LookAtPrinter implements api.StrictServerInterface.
func (s *Server) LookAtPrinter(ctx context.Context,
	req api.LookAtPrinterRequestObject) (api.LookAtPrinterResponseObject, error) {
	client, err := s.clients.At(req.Body.Address)
	if err != nil {
		return nil, refused(err.Error())
	}
	status, err := client.Printer(ctx)
	if err != nil {
		return nil, err
	}
	does, err := status.Printer()
	if err != nil {
		return nil, refused(err.Error())
	}
	stocks, err := s.store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	answer := api.LookAtPrinter200JSONResponse{Loaded: status.Loaded.Name}
	if found := matching(stocks, status.Loaded); found != nil {
		entry := toStock(*found)
		if answer.Stock = &entry; !does.Vector { // what is loaded tells a kind of stock that it takes
			does.Takes = []stock.Kind{found.About.V.Kind}
		}
	}
	answer.About, err = json.Marshal(does)
	return answer, err
}

// readPrinter reads a printer as it was typed, and refuses what is impossible.
func (s *Server) readPrinter(body *api.PutPrinter) (about stock.Printer, address, camera string, err error) {
	decoder := json.NewDecoder(bytes.NewReader(body.About))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&about); err != nil {
		return about, "", "", impossibleRefused.With(strings.TrimPrefix(err.Error(), "json: "))
	}
	if about.Name = strings.TrimSpace(about.Name); about.Name == "" {
		return about, "", "", noName4.With()
	}
	if reasons := about.Check(); reasons != nil {
		return about, "", "", refused(reasons[0].Text)
	}
	if address = strings.TrimSpace(body.Address); address != "" {
		if _, err := s.clients.At(address); err != nil {
			return about, "", "", refused(err.Error())
		}
	}
	camera = strings.TrimSpace(or(body.Camera, ""))
	if camera != "" && !strings.HasPrefix(camera, "http://") && !strings.HasPrefix(camera, "https://") {
		return about, "", "", badCamera.With()
	}
	if encoder := strings.TrimSpace(or(body.Encoder, "")); encoder != "" {
		if _, err := runner.EncoderAt(encoder); err != nil {
			return about, "", "", refused(err.Error())
		}
	}
	return about, address, camera, nil
}

// setEncoder notes where tags are written; nil: as it was. What was typed is looked at by readPrinter.
func (s *Server) setEncoder(ctx context.Context, printer int64, typed *string) error {
	if typed == nil {
		return nil
	}
	return s.store.SetEncoder(ctx, printer, strings.TrimSpace(*typed))
}

// AddPrinter implements api.StrictServerInterface.
func (s *Server) AddPrinter(ctx context.Context, req api.AddPrinterRequestObject) (api.AddPrinterResponseObject,
	error) {
	about, address, camera, err := s.readPrinter(req.Body)
	if err != nil {
		return nil, err
	}
	id, err := s.store.AddPrinter(ctx, about, address, camera)
	if err != nil {
		return nil, err
	}
	if err := s.setEncoder(ctx, id, req.Body.Encoder); err != nil {
		return nil, err
	}
	added, err := s.store.Printer(ctx, id)
	return api.AddPrinter200JSONResponse(toPrinter(added)), err
}

// GetPrinter implements api.StrictServerInterface.
func (s *Server) GetPrinter(ctx context.Context, req api.GetPrinterRequestObject) (api.GetPrinterResponseObject,
	error) {
	p, err := s.store.Printer(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	stocks, err := s.store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	open, err := s.store.OpenPrints(ctx)
	return api.GetPrinter200JSONResponse(s.floorPrinter(ctx, p, stocks, open)), err
}

// ChangePrinter implements api.StrictServerInterface.
func (s *Server) ChangePrinter(ctx context.Context,
	req api.ChangePrinterRequestObject) (api.ChangePrinterResponseObject, error) {
	about, address, camera, err := s.readPrinter(req.Body)
	if err != nil {
		return nil, err
	}
	if req.Body.Camera == nil { // not told: as it was
		p, err := s.store.Printer(ctx, req.Id)
		if err != nil {
			return nil, err
		}
		camera = p.Camera
	}
	if err := s.store.ChangePrinter(ctx, req.Id, about, address, camera); err != nil {
		return nil, err
	}
	if err := s.setEncoder(ctx, req.Id, req.Body.Encoder); err != nil {
		return nil, err
	}
	s.floor.forget(req.Id)
	changed, err := s.store.Printer(ctx, req.Id)
	return api.ChangePrinter200JSONResponse(toPrinter(changed)), err
}

// RetirePrinter implements api.StrictServerInterface.
func (s *Server) RetirePrinter(ctx context.Context,
	req api.RetirePrinterRequestObject) (api.RetirePrinterResponseObject, error) {
	return api.RetirePrinter204Response{}, s.store.RetirePrinter(ctx, req.Id)
}

// LoadStock implements api.StrictServerInterface. A stand-in's buttons are beside its camera.
func (s *Server) LoadStock(ctx context.Context, req api.LoadStockRequestObject) (api.LoadStockResponseObject, error) {
	p, err := s.store.Printer(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	kept, err := s.store.Stock(ctx, req.Body.StockId)
	if err != nil {
		return nil, err
	}
	device, isStandIn := strings.CutSuffix(p.Camera, "/web")
	if !isStandIn {
		return nil, notStandIn.With(p.Name)
	}
	body, err := json.Marshal(map[string]any{"stock": kept.About.V})
	if err != nil {
		return nil, fmt.Errorf("write stock: %w", err)
	}
	request, err := http.NewRequestWithContext(ctx, http.MethodPost, device+"/device", bytes.NewReader(body))
	if err != nil {
		return nil, fmt.Errorf("load %s: %w", p.Name, err)
	}
	response, err := s.floor.cameras.Do(request)
	if err != nil {
		return nil, printerSilent.With(p.Name)
	}
	defer response.Body.Close()
	if response.StatusCode != http.StatusOK {
		words, _ := io.ReadAll(io.LimitReader(response.Body, 1000))
		return nil, refused(strings.TrimSpace(string(words)))
	}
	s.floor.forget(req.Id)
	return api.LoadStock204Response{}, nil
}

// notConnected says that a printer has no address.
func notConnected(p *store.Printer) error {
	return notConnected3.With(p.Name)
}

// PrintRuled implements api.StrictServerInterface.
func (s *Server) PrintRuled(ctx context.Context, req api.PrintRuledRequestObject) (api.PrintRuledResponseObject,
	error) {
	p, err := s.store.Printer(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if p.Address == "" {
		return nil, notConnected(&p)
	}
	does := p.About.V
	on, err := s.stock(ctx, req.Body.StockId)
	if err != nil {
		return nil, err
	}
	if reasons := stock.Fit(on, does); reasons != nil {
		return nil, refused(reasons[0].Text)
	}
	var setup stock.Setup
	if req.Body.SetupId != nil {
		kept, err := s.store.Setup(ctx, *req.Body.SetupId)
		if err != nil {
			return nil, err
		}
		setup = kept.About.V
	}
	open, err := s.store.OpenPrints(ctx)
	if err != nil {
		return nil, err
	}
	for i := range open {
		if open[i].PrinterID == p.ID {
			return nil, printerPrints.With(p.Name)
		}
	}
	x, y := design.RuledCross(on)
	return api.PrintRuled200JSONResponse{X: int(x), Y: int(y)}, s.printOnce(ctx, &p, design.Ruled(on, does), setup)
}

// printOnce prints a label that belongs to no run.
func (s *Server) printOnce(ctx context.Context, p *store.Printer, d *design.Design, setup stock.Setup) error {
	client, err := s.clients.At(p.Address)
	if err != nil {
		return refused(err.Error())
	}
	labels, err := press.NewLabels(d, nil)
	if err != nil {
		return err
	}
	wanted := press.Wanted{Name: d.Name, Tracking: d.Stock.Found(), Setup: setup, Last: true}
	wanted.Width, wanted.Length = d.Stock.PageSize()
	status, err := client.Printer(ctx)
	if err != nil {
		return err
	}
	loaded := p.Loaded(status.Loaded)
	if misfit := loaded.Misfit(d.Stock); misfit != nil {
		return refused(misfit.Text + " Load it, then print.")
	}
	job, err := client.Create(ctx, status, wanted)
	if err != nil {
		return err
	}
	sending := client.Send(ctx, job, labels.Format(),
		func(w io.Writer) error { return labels.Write(w, [][]string{nil}, 0, setup) })
	<-sending.Done() // ends with the request at the latest
	return sending.Err()
}

// stock returns what a stock of the stockroom is.
func (s *Server) stock(ctx context.Context, id int64) (stock.Stock, error) {
	kept, err := s.store.Stock(ctx, id)
	if err != nil {
		return stock.Stock{}, err
	}
	return kept.About.V, nil
}

// ListSetups implements api.StrictServerInterface.
func (s *Server) ListSetups(ctx context.Context, req api.ListSetupsRequestObject) (api.ListSetupsResponseObject,
	error) {
	setups, err := s.store.Setups(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	answer := api.ListSetups200JSONResponse{}
	for i := range setups {
		shown, err := toSetup(&setups[i])
		if err != nil {
			return nil, err
		}
		answer = append(answer, shown)
	}
	return answer, nil
}

func toSetup(u *store.Setup) (shown api.Setup, err error) {
	shown = api.Setup{Id: u.ID, PrinterId: u.PrinterID, Stock: u.Stock, ChangedBy: u.ChangedBy, ChangedAt: u.ChangedAt}
	shown.About, err = as[api.SetupAbout](u.About.V)
	return shown, err
}

// putSetup keeps a set-up of a printer, after a look at whether the printer can do what it says.
func (s *Server) putSetup(ctx context.Context, id, printer int64, body *api.PutSetup) (api.Setup, error) {
	p, err := s.store.Printer(ctx, printer)
	if err != nil {
		return api.Setup{}, err
	}
	does := p.About.V
	document, err := json.Marshal(body.About)
	if err != nil {
		return api.Setup{}, fmt.Errorf("write print set-up: %w", err)
	}
	var about stock.Setup
	if err := json.Unmarshal(document, &about); err != nil {
		return api.Setup{}, fmt.Errorf("read print set-up: %w", err)
	}
	if about.Name = strings.TrimSpace(about.Name); about.Name == "" {
		return api.Setup{}, noName5.With()
	}
	if reasons := about.Check(does); reasons != nil {
		return api.Setup{}, refused(reasons[0].Text)
	}
	if id, err = s.store.PutSetup(ctx, id, printer, or(body.Stock, ""), about, s.user(ctx)); err != nil {
		return api.Setup{}, err
	}
	kept, err := s.store.Setup(ctx, id)
	if err != nil {
		return api.Setup{}, err
	}
	return toSetup(&kept)
}

// AddSetup implements api.StrictServerInterface.
func (s *Server) AddSetup(ctx context.Context, req api.AddSetupRequestObject) (api.AddSetupResponseObject, error) {
	setup, err := s.putSetup(ctx, 0, req.Id, req.Body)
	return api.AddSetup200JSONResponse(setup), err
}

// ChangeSetup implements api.StrictServerInterface.
func (s *Server) ChangeSetup(ctx context.Context, req api.ChangeSetupRequestObject) (api.ChangeSetupResponseObject,
	error) {
	kept, err := s.store.Setup(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if req.Body.Stock == nil { // not told: as it was
		req.Body.Stock = &kept.Stock
	}
	setup, err := s.putSetup(ctx, req.Id, kept.PrinterID, req.Body)
	return api.ChangeSetup200JSONResponse(setup), err
}

// DeleteSetup implements api.StrictServerInterface.
func (s *Server) DeleteSetup(ctx context.Context, req api.DeleteSetupRequestObject) (api.DeleteSetupResponseObject,
	error) {
	return api.DeleteSetup204Response{}, s.store.DeleteSetup(ctx, req.Id)
}

// SetOffsets implements api.StrictServerInterface.
func (s *Server) SetOffsets(ctx context.Context, req api.SetOffsetsRequestObject) (api.SetOffsetsResponseObject,
	error) {
	kept, err := s.store.Setup(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	on, err := s.stock(ctx, req.Body.StockId)
	if err != nil {
		return nil, err
	}
	moved := design.Offsets(kept.About.V, on, measure.Length(req.Body.X), measure.Length(req.Body.Y))
	shown, err := toSetup(&kept)
	if err != nil {
		return nil, err
	}
	across, along := int(moved.Across), int(moved.Along)
	shown.About.Across, shown.About.Along = &across, &along
	setup, err := s.putSetup(ctx, req.Id, kept.PrinterID, &api.PutSetup{About: shown.About, Stock: &kept.Stock})
	return api.SetOffsets200JSONResponse(setup), err
}

// forget makes the floor ask a printer anew, since something about it was changed from here.
func (f *floor) forget(id int64) {
	f.mutex.Lock()
	defer f.mutex.Unlock()
	delete(f.reports, id)
}
