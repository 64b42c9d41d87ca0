package printers

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/press"
	"oddspool/internal/reach"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// A Floor remembers what printers last said of themselves, so that however many people look, each
// printer is asked about once a second, and one that is dead keeps nobody waiting.
type Floor struct {
	clients *press.Clients
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
	FirstWait = 1500 * time.Millisecond // for a printer that was never heard
)

func newFloor(clients *press.Clients) *Floor {
	return &Floor{clients: clients, reports: map[int64]*report{}, cameras: &http.Client{Timeout: 5 * time.Second,
		Transport: clients.Guard.Transport(), CheckRedirect: reach.NoRedirects}}
}

// Status returns what a printer last said, and asks it anew in the background.
func (f *Floor) Status(ctx context.Context, p store.Printer) (*press.Status, error) {
	h := f.hear(ctx, p)
	select {
	case <-h.first:
	case <-ctx.Done():
		return nil, ctx.Err()
	case <-time.After(FirstWait):
		return nil, &press.UnreachableError{URI: p.Address, Err: context.DeadlineExceeded}
	}
	f.mutex.Lock()
	defer f.mutex.Unlock()
	return h.status, h.err
}

// Lately returns what a printer last said is loaded, without waiting for it; nil: it was not heard yet, or does not
// answer.
func (f *Floor) Lately(ctx context.Context, p store.Printer) *stock.Loaded {
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
func (f *Floor) hear(ctx context.Context, p store.Printer) *report {
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

func (f *Floor) ask(ctx context.Context, p store.Printer, h *report) {
	client, err := f.clients.At(p.Address)
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
func (s *Printers) ListPrinters(ctx context.Context, _ api.ListPrintersRequestObject) (api.ListPrintersResponseObject,
	error) {
	printers, err := s.Store.Printers(ctx)
	answer := make(api.ListPrinters200JSONResponse, len(printers))
	for i, p := range printers {
		answer[i] = ToPrinter(p)
	}
	return answer, err
}

func ToPrinter(p store.Printer) api.Printer {
	return api.Printer{Id: p.ID, Name: p.Name, About: handler.AsDocument(p.About.V), Address: p.Address,
		Camera:  p.Camera != "",
		Encoder: p.Encoder, HeadWidth: int(p.About.V.HeadWidth())}
}

func ToStock(found store.Stock) api.StockEntry {
	return api.StockEntry{Id: found.ID, Number: found.Number, About: handler.AsDocument(found.About.V)}
}

// Matching finds the plant's stock that a printer says is in it: by its number, else by its size.
func Matching(stocks []store.Stock, loaded stock.Loaded) *store.Stock {
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
func (s *Printers) SayLoaded(ctx context.Context, req api.SayLoadedRequestObject) (api.SayLoadedResponseObject, error) {
	printer, err := s.Store.Printer(ctx, req.Id)
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
		is, err = s.Stock(ctx, *req.Body.StockId)
	case req.Body.RunId != nil:
		var r store.Run
		if r, err = s.Store.Run(ctx, *req.Body.RunId); err == nil {
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
	status, err := s.Floor.Status(ctx, printer)
	if err != nil {
		return nil, err
	}
	said := &stock.Said{Key: is.Number, Name: is.Name, Reason: reason, By: s.User(ctx), At: time.Now(),
		Against: status.Loaded.Says()}
	said.Width, said.Length = is.PageSize()
	err = s.Store.SayLoaded(ctx, req.Id, said)
	s.Runner.Wake()
	return api.SayLoaded204Response{}, err
}

// BelievePrinter implements api.StrictServerInterface.
func (s *Printers) BelievePrinter(ctx context.Context,
	req api.BelievePrinterRequestObject) (api.BelievePrinterResponseObject, error) {
	err := s.Store.SayLoaded(ctx, req.Id, nil)
	s.Runner.Wake()
	return api.BelievePrinter204Response{}, err
}

// camera asks a printer's camera for something.
func (s *Printers) camera(ctx context.Context, id int64, path string) (*http.Response, error) {
	p, err := s.Store.Printer(ctx, id)
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
	response, err := s.Floor.cameras.Do(request)
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
func (s *Printers) GetWeb(ctx context.Context, req api.GetWebRequestObject) (api.GetWebResponseObject, error) {
	response, err := s.camera(ctx, req.Id, fmt.Sprintf("?skip=%d&most=%d", handler.Or(req.Params.Skip, 0),
		handler.Or(req.Params.Most, 50)))
	if err != nil {
		return nil, err
	}
	defer response.Body.Close()
	var seen struct {
		Total  int
		Labels []struct{ Place int }
	}
	if err := json.NewDecoder(io.LimitReader(response.Body, handler.MostBody)).Decode(&seen); err != nil {
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
func (s *Printers) GetWebLabel(ctx context.Context, req api.GetWebLabelRequestObject) (api.GetWebLabelResponseObject,
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
