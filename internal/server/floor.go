package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"
	"time"

	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/press"
	"oddspool/internal/reach"
	"oddspool/internal/store"
)

// A floor remembers what printers last said of themselves, so that however many people look, each
// printer is asked about once a second, and one that is dead keeps nobody waiting.
type floor struct {
	server  *Server
	mutex   sync.Mutex
	reports map[int64]*report
	cameras *http.Client
}

type report struct {
	asking bool
	at     time.Time
	status *press.Status
	err    error
	first  chan struct{} // closed when the printer has answered, or failed to, for the first time
}

const (
	askEvery  = time.Second
	firstWait = 1500 * time.Millisecond // for a printer that was never heard
)

func newFloor(s *Server) *floor {
	return &floor{server: s, reports: map[int64]*report{}, cameras: &http.Client{Timeout: 5 * time.Second,
		Transport: s.clients.Guard.Transport(), CheckRedirect: reach.NoRedirects}}
}

// status returns what a printer last said, and asks it anew in the background.
func (f *floor) status(ctx context.Context, p store.Printer) (*press.Status, error) {
	h := f.hear(ctx, p)
	select {
	case <-h.first:
	case <-ctx.Done():
		return nil, ctx.Err()
	case <-time.After(firstWait):
		return nil, &press.UnreachableError{URI: p.Address, Err: context.DeadlineExceeded}
	}
	f.mutex.Lock()
	defer f.mutex.Unlock()
	return h.status, h.err
}

// lately returns what a printer last said is loaded, without waiting for it; nil: it was not heard yet, or does not
// answer.
func (f *floor) lately(ctx context.Context, p store.Printer) *stock.Loaded {
	if p.Address == "" {
		return nil
	}
	h := f.hear(ctx, p)
	f.mutex.Lock()
	defer f.mutex.Unlock()
	if h.status == nil {
		return nil
	}
	loaded := p.Loaded(h.status.Loaded)
	return &loaded
}

// hear returns what was heard of a printer, and has it asked anew where that is some time ago.
func (f *floor) hear(ctx context.Context, p store.Printer) *report {
	f.mutex.Lock()
	defer f.mutex.Unlock()
	h := f.reports[p.ID]
	if h == nil {
		h = &report{first: make(chan struct{})}
		f.reports[p.ID] = h
	}
	if !h.asking && time.Since(h.at) >= askEvery {
		h.asking = true
		go f.ask(context.WithoutCancel(ctx), p, h)
	}
	return h
}

func (f *floor) ask(ctx context.Context, p store.Printer, h *report) {
	client, err := f.server.clients.At(p.Address)
	var status *press.Status
	if err == nil {
		status, err = client.Printer(ctx)
	}
	f.mutex.Lock()
	defer f.mutex.Unlock()
	if h.at.IsZero() {
		close(h.first)
	}
	h.asking, h.at, h.status, h.err = false, time.Now(), status, err
}

// ListPrinters implements api.StrictServerInterface.
func (s *Server) ListPrinters(ctx context.Context, _ api.ListPrintersRequestObject) (api.ListPrintersResponseObject,
	error) {
	printers, err := s.store.Printers(ctx)
	answer := make(api.ListPrinters200JSONResponse, len(printers))
	for i, p := range printers {
		answer[i] = toPrinter(p)
	}
	return answer, err
}

func toPrinter(p store.Printer) api.Printer {
	return api.Printer{Id: p.ID, Name: p.Name, About: asDocument(p.About.V), Address: p.Address, Camera: p.Camera != "",
		Encoder: p.Encoder, HeadWidth: int(p.About.V.HeadWidth())}
}

func toStock(found store.Stock) api.StockEntry {
	return api.StockEntry{Id: found.ID, Number: found.Number, About: asDocument(found.About.V)}
}

// GetFloor implements api.StrictServerInterface.
func (s *Server) GetFloor(ctx context.Context, _ api.GetFloorRequestObject) (api.GetFloorResponseObject, error) {
	printers, err := s.store.Printers(ctx)
	if err != nil {
		return nil, err
	}
	stocks, err := s.store.Stocks(ctx)
	if err != nil {
		return nil, err
	}
	open, err := s.store.OpenPrints(ctx)
	if err != nil {
		return nil, err
	}
	lately, err := s.store.Runs(ctx, store.RunsWanted{Printed: true, Most: 6})
	if err != nil {
		return nil, err
	}
	answer := api.Floor{Printers: make([]api.FloorPrinter, len(printers)), Waiting: []api.Waiting{},
		Lately: toRunEntries(lately)}
	var group sync.WaitGroup
	for i, p := range printers {
		group.Go(func() { answer.Printers[i] = s.floorPrinter(ctx, p, stocks, open) })
	}
	group.Wait()
	for i := range open {
		if trouble := s.runner.Trouble(open[i].ID); trouble != "" && open[i].State == store.PrintPrinting {
			open[i].Note, open[i].NoteDo = trouble, "The print goes on by itself when that is put right."
		}
		answer.Waiting = append(answer.Waiting, waiting(&open[i])...)
	}
	answer.Copied, err = s.copied(ctx)
	return api.GetFloor200JSONResponse(answer), err
}

// waiting says what a print waits for; nothing when it does not.
func waiting(p *store.Print) []api.Waiting {
	level := api.WaitingLevelWarning
	if p.State == store.PrintHeld {
		level = api.WaitingLevelStopped
	} else if p.Note == "" {
		return nil
	}
	return []api.Waiting{{RunId: p.RunID, Level: level, Text: fmt.Sprintf("%s, label %d of %d: %s", p.Name, p.Printed,
		p.LabelCount, sentence(p.Note)), Do: p.NoteDo}}
}

func (s *Server) floorPrinter(ctx context.Context, p store.Printer, stocks []store.Stock,
	open []store.Print) api.FloorPrinter {
	shown := api.FloorPrinter{Printer: toPrinter(p), Left: -1, Unit: api.Labels,
		Loadable: strings.HasSuffix(p.Camera, "/web"), Level: api.FloorPrinterLevelReady, Queue: []api.Print{}}
	for i := range open {
		if open[i].PrinterID == p.ID {
			print := toPrint(&open[i], stock.Stock{}, stock.Printer{}) // time left goes by what was printed
			if shown.Print == nil {
				shown.Print = &print
			} else {
				shown.Queue = append(shown.Queue, print)
			}
		}
	}
	if p.Address == "" {
		shown.Text, shown.Do = "Not connected", "Designs can be made for it; to print, give it its address."
		return shown
	}
	heard, err := s.floor.status(ctx, p)
	if err != nil {
		shown.Level, shown.Text, shown.Do = api.FloorPrinterLevelStopped, "Does not answer",
			"See that it is switched on and on the network."
		var nonsense *press.NonsenseError
		var forbidden *reach.ForbiddenError
		switch {
		case errors.As(err, &nonsense):
			shown.Text, shown.Do = "Is no printer", nonsense.Error()
		case errors.As(err, &forbidden):
			shown.Text, shown.Do = "May not be reached", forbidden.Error()
		}
		return shown
	}
	status := *heard
	shown.Text, shown.Do = status.Words()
	shown.Left, shown.Capacity = int64(status.Loaded.Left), int64(status.Loaded.Capacity)
	if status.Loaded.LeftLength >= 0 {
		shown.Unit, shown.Left, shown.Capacity = api.Length, int64(status.Loaded.LeftLength),
			int64(status.Loaded.FullLength)
	}
	if page, err := url.Parse(status.Page); err == nil && (page.Scheme == "http" || page.Scheme == "https") &&
		page.Host != "" {
		shown.Page = &status.Page
	}
	if status.Loaded.Name != "" {
		shown.Loaded = &status.Loaded.Name
	}
	if p.Said != nil {
		said := p.Said.V
		_, counts := status.Loaded.As(&said)
		shown.Said = &api.LoadedSaid{Name: said.Name, Reason: said.Reason, By: said.By, At: said.At, Counts: counts}
		if !counts && shown.Do == "" {
			shown.Do = fmt.Sprintf("It says something else is loaded than when %s said that %s is: what %s said does "+
				"not count any more.", said.By, said.Name, said.By)
		}
	}
	if found := matching(stocks, p.Loaded(status.Loaded)); found != nil {
		entry := toStock(*found)
		if shown.Stock = &entry; shown.Unit == api.Labels && found.About.V.Kind == stock.Sheet {
			shown.Unit = api.Sheets
		}
	}
	if shown.Print != nil && shown.Print.State == api.PrintStatePrinting && status.State == press.Idle &&
		shown.Do == "" {
		status.State, shown.Text = press.Printing, "Printing" // it was asked between two slices
	}
	switch {
	case status.State == press.Stopped:
		shown.Level = api.FloorPrinterLevelStopped
	case shown.Do != "":
		shown.Level = api.FloorPrinterLevelWarning
	case status.State == press.Printing:
		shown.Level = api.FloorPrinterLevelBusy
	}
	return shown
}

// matching finds the plant's stock that a printer says is in it: by its number, else by its size.
func matching(stocks []store.Stock, loaded stock.Loaded) *store.Stock {
	is := slices.IndexFunc(stocks, func(candidate store.Stock) bool { return candidate.Number == loaded.Key })
	if is < 0 {
		is = slices.IndexFunc(stocks, func(candidate store.Stock) bool {
			w, l := candidate.About.V.PageSize()
			return w == loaded.Width && l == loaded.Length
		})
	}
	if is < 0 {
		return nil
	}
	return &stocks[is]
}

// SayLoaded implements api.StrictServerInterface.
func (s *Server) SayLoaded(ctx context.Context, req api.SayLoadedRequestObject) (api.SayLoadedResponseObject, error) {
	printer, err := s.store.Printer(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	reason := strings.TrimSpace(req.Body.Reason)
	if reason == "" {
		return nil, noReason.With()
	}
	var is stock.Stock
	switch {
	case req.Body.StockId != nil:
		is, err = s.stock(ctx, *req.Body.StockId)
	case req.Body.RunId != nil:
		var r store.Run
		if r, err = s.store.Run(ctx, *req.Body.RunId); err == nil {
			if d, wrong := r.Design(); wrong == nil {
				is = d.Stock
			} else {
				err = wrong
			}
		}
	default:
		return nil, noStock.With()
	}
	if err != nil {
		return nil, err
	}
	if reasons := stock.Fit(is, printer.About.V); len(reasons) > 0 {
		return nil, stockDoesNotFit.With(is.Name, printer.Name, reasons[0].Text)
	}
	status, err := s.floor.status(ctx, printer)
	if err != nil {
		return nil, err
	}
	said := &stock.Said{Key: is.Number, Name: is.Name, Reason: reason, By: s.user(ctx), At: time.Now(),
		Against: status.Loaded.Says()}
	said.Width, said.Length = is.PageSize()
	err = s.store.SayLoaded(ctx, req.Id, said)
	s.runner.Wake()
	return api.SayLoaded204Response{}, err
}

// BelievePrinter implements api.StrictServerInterface.
func (s *Server) BelievePrinter(ctx context.Context,
	req api.BelievePrinterRequestObject) (api.BelievePrinterResponseObject, error) {
	err := s.store.SayLoaded(ctx, req.Id, nil)
	s.runner.Wake()
	return api.BelievePrinter204Response{}, err
}

// camera asks a printer's camera for something.
func (s *Server) camera(ctx context.Context, id int64, path string) (*http.Response, error) {
	p, err := s.store.Printer(ctx, id)
	if err != nil {
		return nil, err
	}
	if p.Camera == "" {
		return nil, noCamera.With(p.Name)
	}
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, p.Camera+path, nil)
	if err != nil {
		return nil, fmt.Errorf("ask the camera of %s: %w", p.Name, err)
	}
	response, err := s.floor.cameras.Do(request)
	var forbidden *reach.ForbiddenError
	if errors.As(err, &forbidden) {
		return nil, forbidden
	}
	if err != nil {
		return nil, cameraSilent.With(p.Name)
	}
	if response.StatusCode != http.StatusOK {
		response.Body.Close()
		return nil, labelNotSeen.With()
	}
	return response, nil
}

// GetWeb implements api.StrictServerInterface.
func (s *Server) GetWeb(ctx context.Context, req api.GetWebRequestObject) (api.GetWebResponseObject, error) {
	response, err := s.camera(ctx, req.Id, fmt.Sprintf("?skip=%d&most=%d", or(req.Params.Skip, 0),
		or(req.Params.Most, 50)))
	if err != nil {
		return nil, err
	}
	defer response.Body.Close()
	var seen struct {
		Total  int
		Labels []struct{ Place int }
	}
	if err := json.NewDecoder(io.LimitReader(response.Body, mostBody)).Decode(&seen); err != nil {
		return nil, cameraNonsense.With()
	}
	answer := api.Web{Total: seen.Total, Places: []int{}}
	for _, label := range seen.Labels {
		answer.Places = append(answer.Places, label.Place)
	}
	return api.GetWeb200JSONResponse(answer), nil
}

// mostPicture bounds the bytes of a picture of one label.
const mostPicture = 32 << 20

// GetWebLabel implements api.StrictServerInterface.
func (s *Server) GetWebLabel(ctx context.Context, req api.GetWebLabelRequestObject) (api.GetWebLabelResponseObject,
	error) {
	response, err := s.camera(ctx, req.Id, fmt.Sprintf("/%d.png", req.Place))
	if err != nil {
		return nil, err
	}
	defer response.Body.Close()
	picture, err := io.ReadAll(io.LimitReader(response.Body, mostPicture+1))
	if err != nil || len(picture) > mostPicture || http.DetectContentType(picture) != "image/png" {
		return nil, noPictureOfLabel.With()
	}
	return api.GetWebLabel200ImagepngResponse{Body: bytes.NewReader(picture), ContentLength: int64(len(picture))}, nil
}
