package standin

import (
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"strconv"
	"strings"
	"time"

	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/internal/press/pwg"
)

//go:embed device.html
var devicePage []byte

// Handler serves the printer: IPP at /ipp/print, and what a person at the device has: its page,
// its buttons at /device, and the camera over what came out at /web.
func (p *Printer) Handler() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("POST /ipp/print", p.serveIPP)
	mux.HandleFunc("POST /ipp/print/{job}", p.serveIPP)
	mux.HandleFunc("GET /device", p.serveDevice)
	mux.HandleFunc("POST /device", p.changeDevice)
	mux.HandleFunc("GET /jobs", p.serveJobs)
	mux.HandleFunc("GET /web", p.serveWeb)
	mux.HandleFunc("GET /web.pwg", p.serveRaster)
	mux.HandleFunc("GET /web/{file}", p.servePicture)
	mux.HandleFunc("GET /{$}", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		_, _ = w.Write(devicePage)
	})
	return mux
}

// A Device is what the device's own page shows.
type Device struct {
	Name    string      `json:"name"`
	State   string      `json:"state"`
	Reasons []string    `json:"reasons"`
	Fault   Fault       `json:"fault"`
	Speed   int         `json:"speed"` // mm/s; 0: as fast as it can
	Stock   stock.Stock `json:"stock"`
	Left    int         `json:"left"`
	Out     int         `json:"out"`
}

func (p *Printer) serveDevice(w http.ResponseWriter, _ *http.Request) {
	out := p.Out()
	p.mutex.Lock()
	_, reasons, message := p.state()
	d := Device{p.config.Printer.Name, message, reasons, p.fault, p.speed, p.stock, p.web.left(), out}
	p.mutex.Unlock()
	writeJSON(w, d)
}

// changeDevice presses the device's buttons. Only a page of the device itself may do so.
func (p *Printer) changeDevice(w http.ResponseWriter, r *http.Request) {
	var change struct {
		Fault  *Fault       `json:"fault"`
		Speed  *int         `json:"speed"`
		Labels *int         `json:"labels"` // load a roll of so many
		Stock  *stock.Stock `json:"stock"`  // load another stock
	}
	if err := json.NewDecoder(io.LimitReader(r.Body, 1<<16)).Decode(&change); err != nil {
		http.Error(w, "this takes JSON such as {\"fault\": \"cover-open\"}: "+err.Error(), http.StatusBadRequest)
		return
	}
	var err error
	if change.Stock != nil {
		err = p.Change(*change.Stock)
		var misfit *MisfitError
		if errors.As(err, &misfit) || errors.Is(err, ErrPrinting) {
			http.Error(w, err.Error(), http.StatusConflict)
			return
		}
	}
	if change.Labels != nil && err == nil {
		if *change.Labels < 0 || *change.Labels > 2_000_000_000 {
			http.Error(w, "a roll has 0 to 2,000,000,000 labels, or micrometres of tape", http.StatusBadRequest)
			return
		}
		err = p.Load(*change.Labels)
	}
	if change.Fault != nil {
		switch *change.Fault {
		case NoFault, CoverOpen, MediaEmpty, RibbonEnd, Jam, Paused, Stalled, Feigning:
			err = p.SetFault(*change.Fault)
		default:
			http.Error(w, fmt.Sprintf("the fault %q is not known", *change.Fault), http.StatusBadRequest)
			return
		}
	}
	if change.Speed != nil {
		p.SetSpeed(*change.Speed)
	}
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	p.serveDevice(w, r)
}

// which reads job, skip and most of a request.
func which(r *http.Request) (job, skip, most int) {
	number := func(name string, otherwise int) int {
		if n, err := strconv.Atoi(r.URL.Query().Get(name)); err == nil {
			return n
		}
		return otherwise
	}
	return number("job", 0), number("skip", 0), min(max(number("most", 50), 0), 5000)
}

// serveJobs tells what the latest jobs asked for, the newest first.
func (p *Printer) serveJobs(w http.ResponseWriter, _ *http.Request) {
	const latest = 50
	p.mutex.Lock()
	jobs := []job{}
	for id := p.lastID; id > 0 && len(jobs) < latest; id-- {
		if j := p.jobs[id]; j != nil {
			jobs = append(jobs, *j)
		}
	}
	p.mutex.Unlock()
	writeJSON(w, jobs)
}

func (p *Printer) serveWeb(w http.ResponseWriter, r *http.Request) {
	job, skip, most := which(r)
	outs, total := p.web.labels(job, skip, most)
	writeJSON(w, map[string]any{"total": total, "labels": append([]Out{}, outs...)})
}

// serveRaster serves the very dots of labels that came out as one PWG raster stream.
func (p *Printer) serveRaster(w http.ResponseWriter, r *http.Request) {
	outs, _ := p.web.labels(which(r))
	w.Header().Set("Content-Type", rasterFormat)
	for i, out := range outs {
		page, _, ok := p.web.page(out.Place)
		if !ok {
			return
		}
		if i > 0 { // the word that begins a stream stands once
			if _, err := io.CopyN(io.Discard, page, 4); err != nil {
				return
			}
		}
		if _, err := io.Copy(w, page); err != nil {
			return
		}
	}
}

func (p *Printer) servePicture(w http.ResponseWriter, r *http.Request) {
	place, err := strconv.Atoi(strings.TrimSuffix(r.PathValue("file"), ".png"))
	page, on, ok := p.web.page(place)
	if err != nil || place < 1 || !ok {
		http.Error(w, "no such label came out", http.StatusNotFound)
		return
	}
	label, err := pwg.NewReader(page).Next()
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", "image/png")
	w.Header().Set("Cache-Control", "max-age=86400")
	palette := render.Palette{Face: on.FaceColour(), Inks: label.Colours}
	if palette.Inks == nil {
		for _, ink := range stock.Inks(on, p.config.Printer) {
			palette.Inks = append(palette.Inks, on.InkColour(ink))
		}
	}
	for len(palette.Inks) < len(label.Layers) {
		palette.Inks = append(palette.Inks, "#000000")
	}
	_ = render.WritePNG(w, label.Layers, palette, p.config.Printer.Resolution)
}

func writeJSON(w http.ResponseWriter, value any) {
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(value)
}

// A Server is a printer that listens.
type Server struct {
	*Printer
	Addr    string // host:port
	http    *http.Server
	encoder *encoder // nil: it writes no tags
}

// Start returns a printer that listens on an address; an empty one is a free loopback port.
func Start(config Config, addr string) (*Server, error) {
	printer, err := New(config)
	if err != nil {
		return nil, err
	}
	if addr == "" {
		addr = "127.0.0.1:0"
	}
	listener, err := net.Listen("tcp", addr)
	if err != nil {
		return nil, fmt.Errorf("%w; close: %v", err, printer.Close())
	}
	s := &Server{Printer: printer, Addr: listener.Addr().String()}
	if config.Printer.Encoder {
		if s.encoder, err = startEncoder(printer, s.Addr); err != nil {
			return nil, errors.Join(err, listener.Close(), printer.Close())
		}
	}
	mux := http.NewServeMux()
	mux.Handle("/", printer.Handler())
	mux.HandleFunc("/tags", s.serveTags)
	s.http = &http.Server{Handler: mux, ReadHeaderTimeout: 10 * time.Second}
	go func() { _ = s.http.Serve(listener) }()
	return s, nil
}

// IPP returns the address to print to.
func (s *Server) IPP() string { return "ipp://" + s.Addr + "/ipp/print" }

// Camera returns the address of the camera.
func (s *Server) Camera() string { return "http://" + s.Addr + "/web" }

// Close ends the server at once, as pulling the plug does.
func (s *Server) Close() error {
	err := s.http.Close()
	if s.encoder != nil {
		err = errors.Join(err, s.encoder.close())
	}
	if closeErr := s.Printer.Close(); err == nil {
		err = closeErr
	}
	return err
}
