package printers

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
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// LookAtPrinter implements api.StrictServerInterface.
func (s *Printers) LookAtPrinter(ctx context.Context,
	req api.LookAtPrinterRequestObject) (api.LookAtPrinterResponseObject, error) {
	client, err := s.Clients.At(req.Body.Address)
	if err != nil {
		return nil, handler.Refused(err.Error())
	}
	status, err := client.Printer(ctx)
	if err != nil {
		return nil, err
	}
	does, err := status.Printer()
	if err != nil {
		return nil, handler.Refused(err.Error())
	}
	stocks, err := s.Store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	answer := api.LookAtPrinter200JSONResponse{Loaded: status.Loaded.Name}
	if found := Matching(stocks, status.Loaded); found != nil {
		entry := ToStock(*found)
		if answer.Stock = &entry; !does.Vector { // what is loaded tells a kind of stock that it takes
			does.Takes = []stock.Kind{found.About.V.Kind}
		}
	}
	answer.About, err = json.Marshal(does)
	return answer, err
}

// readPrinter reads a printer as it was typed, and refuses what is impossible.
func (s *Printers) readPrinter(body *api.PutPrinter) (about stock.Printer, address, camera string, err error) {
	decoder := json.NewDecoder(bytes.NewReader(body.About))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&about); err != nil {
		return about, "", "", impossibleRefused.With(strings.TrimPrefix(err.Error(), "json: "))
	}
	if about.Name = strings.TrimSpace(about.Name); about.Name == "" {
		return about, "", "", noName.With()
	}
	if reasons := about.Check(); reasons != nil {
		return about, "", "", handler.Refused(reasons[0].Text)
	}
	if address = strings.TrimSpace(body.Address); address != "" {
		if _, err := s.Clients.At(address); err != nil {
			return about, "", "", handler.Refused(err.Error())
		}
	}
	camera = strings.TrimSpace(handler.Or(body.Camera, ""))
	if camera != "" && !strings.HasPrefix(camera, "http://") && !strings.HasPrefix(camera, "https://") {
		return about, "", "", badCamera.With()
	}
	if encoder := strings.TrimSpace(handler.Or(body.Encoder, "")); encoder != "" {
		if _, err := runner.EncoderAt(encoder); err != nil {
			return about, "", "", handler.Refused(err.Error())
		}
	}
	return about, address, camera, nil
}

// setEncoder notes where tags are written; nil: as it was. What was typed is looked at by readPrinter.
func (s *Printers) setEncoder(ctx context.Context, printer int64, typed *string) error {
	if typed == nil {
		return nil
	}
	return s.Store.SetEncoder(ctx, printer, strings.TrimSpace(*typed))
}

// AddPrinter implements api.StrictServerInterface.
func (s *Printers) AddPrinter(ctx context.Context, req api.AddPrinterRequestObject) (api.AddPrinterResponseObject,
	error) {
	about, address, camera, err := s.readPrinter(req.Body)
	if err != nil {
		return nil, err
	}
	id, err := s.Store.AddPrinter(ctx, about, address, camera)
	if err != nil {
		return nil, err
	}
	if err := s.setEncoder(ctx, id, req.Body.Encoder); err != nil {
		return nil, err
	}
	added, err := s.Store.Printer(ctx, id)
	return api.AddPrinter200JSONResponse(ToPrinter(added)), err
}

// ChangePrinter implements api.StrictServerInterface.
func (s *Printers) ChangePrinter(ctx context.Context,
	req api.ChangePrinterRequestObject) (api.ChangePrinterResponseObject, error) {
	about, address, camera, err := s.readPrinter(req.Body)
	if err != nil {
		return nil, err
	}
	if req.Body.Camera == nil { // not told: as it was
		p, err := s.Store.Printer(ctx, req.Id)
		if err != nil {
			return nil, err
		}
		camera = p.Camera
	}
	if err := s.Store.ChangePrinter(ctx, req.Id, about, address, camera); err != nil {
		return nil, err
	}
	if err := s.setEncoder(ctx, req.Id, req.Body.Encoder); err != nil {
		return nil, err
	}
	s.Floor.forget(req.Id)
	changed, err := s.Store.Printer(ctx, req.Id)
	return api.ChangePrinter200JSONResponse(ToPrinter(changed)), err
}

// RetirePrinter implements api.StrictServerInterface.
func (s *Printers) RetirePrinter(ctx context.Context,
	req api.RetirePrinterRequestObject) (api.RetirePrinterResponseObject, error) {
	return api.RetirePrinter204Response{}, s.Store.RetirePrinter(ctx, req.Id)
}

// LoadStock implements api.StrictServerInterface. A stand-in's buttons are beside its camera.
func (s *Printers) LoadStock(ctx context.Context, req api.LoadStockRequestObject) (api.LoadStockResponseObject, error) {
	p, err := s.Store.Printer(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	kept, err := s.Store.Stock(ctx, req.Body.StockId)
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
	response, err := s.Floor.cameras.Do(request)
	if err != nil {
		return nil, printerSilent.With(p.Name)
	}
	defer response.Body.Close()
	if response.StatusCode != http.StatusOK {
		words, _ := io.ReadAll(io.LimitReader(response.Body, 1000))
		return nil, handler.Refused(strings.TrimSpace(string(words)))
	}
	s.Floor.forget(req.Id)
	return api.LoadStock204Response{}, nil
}

// NotConnected says that a printer has no address.
func NotConnected(p *store.Printer) error {
	return notConnected3.With(p.Name)
}

// PrintRuled implements api.StrictServerInterface.
func (s *Printers) PrintRuled(ctx context.Context, req api.PrintRuledRequestObject) (api.PrintRuledResponseObject,
	error) {
	p, err := s.Store.Printer(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if p.Address == "" {
		return nil, NotConnected(&p)
	}
	does := p.About.V
	on, err := s.Stock(ctx, req.Body.StockId)
	if err != nil {
		return nil, err
	}
	if reasons := stock.Fit(on, does); reasons != nil {
		return nil, handler.Refused(reasons[0].Text)
	}
	var setup stock.Setup
	if req.Body.SetupId != nil {
		kept, err := s.Store.Setup(ctx, *req.Body.SetupId)
		if err != nil {
			return nil, err
		}
		setup = kept.About.V
	}
	open, err := s.Store.OpenPrints(ctx)
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
func (s *Printers) printOnce(ctx context.Context, p *store.Printer, d *design.Design, setup stock.Setup) error {
	client, err := s.Clients.At(p.Address)
	if err != nil {
		return handler.Refused(err.Error())
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
		return handler.Refused(misfit.Text + " Load it, then print.")
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

// Stock returns what a stock of the stockroom is.
func (s *Printers) Stock(ctx context.Context, id int64) (stock.Stock, error) {
	kept, err := s.Store.Stock(ctx, id)
	if err != nil {
		return stock.Stock{}, err
	}
	return kept.About.V, nil
}

// ListSetups implements api.StrictServerInterface.
func (s *Printers) ListSetups(ctx context.Context, req api.ListSetupsRequestObject) (api.ListSetupsResponseObject,
	error) {
	setups, err := s.Store.Setups(ctx, req.Id)
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
	shown.About, err = handler.As[api.SetupAbout](u.About.V)
	return shown, err
}

// putSetup keeps a set-up of a printer, after a look at whether the printer can do what it says.
func (s *Printers) putSetup(ctx context.Context, id, printer int64, body *api.PutSetup) (api.Setup, error) {
	p, err := s.Store.Printer(ctx, printer)
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
		return api.Setup{}, handler.Refused(reasons[0].Text)
	}
	if id, err = s.Store.PutSetup(ctx, id, printer, handler.Or(body.Stock, ""), about, s.User(ctx)); err != nil {
		return api.Setup{}, err
	}
	kept, err := s.Store.Setup(ctx, id)
	if err != nil {
		return api.Setup{}, err
	}
	return toSetup(&kept)
}

// AddSetup implements api.StrictServerInterface.
func (s *Printers) AddSetup(ctx context.Context, req api.AddSetupRequestObject) (api.AddSetupResponseObject, error) {
	setup, err := s.putSetup(ctx, 0, req.Id, req.Body)
	return api.AddSetup200JSONResponse(setup), err
}

// ChangeSetup implements api.StrictServerInterface.
func (s *Printers) ChangeSetup(ctx context.Context, req api.ChangeSetupRequestObject) (api.ChangeSetupResponseObject,
	error) {
	kept, err := s.Store.Setup(ctx, req.Id)
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
func (s *Printers) DeleteSetup(ctx context.Context, req api.DeleteSetupRequestObject) (api.DeleteSetupResponseObject,
	error) {
	return api.DeleteSetup204Response{}, s.Store.DeleteSetup(ctx, req.Id)
}

// SetOffsets implements api.StrictServerInterface.
func (s *Printers) SetOffsets(ctx context.Context, req api.SetOffsetsRequestObject) (api.SetOffsetsResponseObject,
	error) {
	kept, err := s.Store.Setup(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	on, err := s.Stock(ctx, req.Body.StockId)
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
func (f *Floor) forget(id int64) {
	f.mutex.Lock()
	defer f.mutex.Unlock()
	delete(f.reports, id)
}
