// Package press is the way to a printer: an IPP client that streams labels as PWG raster, asks
// what became of them, and says a printer's state in words.
package press

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"oddspool/core/measure"
	"oddspool/core/refusal"
	"oddspool/core/stock"
	"oddspool/internal/press/ipp"
	"oddspool/internal/reach"
)

// A Client prints to one printer.
type Client struct {
	uri  string // as the printer knows itself: ipp://host/path
	url  string
	http *http.Client
}

// answerTime is how long a printer may take to answer a question. Sending a document has no such
// limit, since a printer may take it in only as fast as it prints.
const answerTime = 5 * time.Second

// Clients are the clients of a plant's printers, which share their connections. The zero value is ready.
type Clients struct {
	Guard *reach.Guard // nil: any address may be reached

	once sync.Once
	http *http.Client
}

// At returns a client for a printer's address: ipp://host[:port]/path, or http likewise.
func (c *Clients) At(address string) (*Client, error) {
	c.once.Do(func() {
		const each = 4 // a document that is being sent, and questions beside it
		transport := c.Guard.Transport()
		transport.MaxConnsPerHost, transport.MaxIdleConnsPerHost = each, 1
		c.http = &http.Client{Transport: transport, CheckRedirect: reach.NoRedirects}
	})
	parsed, err := url.Parse(strings.TrimSpace(address))
	if err != nil || parsed.Host == "" || parsed.User != nil {
		return nil, fmt.Errorf("%q is no printer's address; write it like ipp://192.0.2.7/ipp/print", address)
	}
	uri, plain := *parsed, *parsed
	switch parsed.Scheme {
	case "ipp", "http":
		uri.Scheme, plain.Scheme = "ipp", "http"
	case "ipps", "https":
		uri.Scheme, plain.Scheme = "ipps", "https"
	default:
		return nil, fmt.Errorf("%q is no printer's address; it begins with ipp:// or ipps://", address)
	}
	if parsed.Port() == "" && strings.HasPrefix(parsed.Scheme, "ipp") {
		plain.Host += ":631" // RFC 3510, 4.3
	}
	return &Client{uri: uri.String(), url: plain.String(), http: c.http}, nil
}

// An UnreachableError says that a printer does not answer.
type UnreachableError struct {
	URI string
	Err error
}

func (e *UnreachableError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *UnreachableError) Refusal() *refusal.Error {
	return unreachable.With(e.URI)
}

func (e *UnreachableError) Unwrap() error { return e.Err }

// A NonsenseError says that something answers that is no IPP printer.
type NonsenseError struct {
	URI string
	Err error
}

func (e *NonsenseError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *NonsenseError) Refusal() *refusal.Error {
	return notAPrinter.With(e.URI)
}

func (e *NonsenseError) Unwrap() error { return e.Err }

// A RefusedError says that a printer will not do what was asked.
type RefusedError struct {
	URI     string
	Status  ipp.Status
	Message string
}

func (e *RefusedError) Error() string {
	message := e.Message
	if message == "" {
		message = fmt.Sprintf("status 0x%04x", uint16(e.Status))
	}
	return fmt.Sprintf("The printer at %s refused: %s", e.URI, message)
}

// Refusal tells its kind and values.
func (e *RefusedError) Refusal() *refusal.Error { return refusedByPrinter.With(e.Error()) }

// mostAnswer bounds what a printer may answer: all about itself takes some kilobytes.
const mostAnswer = 1 << 20

// ErrNoJob says that the printer knows no such job: it was reset, or forgot it.
var ErrNoJob = errors.New("the printer no longer knows the job")

func (c *Client) request(op ipp.Op, operation ...ipp.Attribute) *ipp.Message {
	head := []ipp.Attribute{
		ipp.Attr("attributes-charset", ipp.Str(ipp.Charset, "utf-8")),
		ipp.Attr("attributes-natural-language", ipp.Str(ipp.Language, "en")),
		ipp.Attr("printer-uri", ipp.Str(ipp.URI, c.uri)),
	}
	return &ipp.Message{Major: 2, Code: uint16(op), ID: 1,
		Groups: []ipp.Group{{Tag: ipp.OperationGroup, Attributes: append(head, operation...)}}}
}

var userName = ipp.Attr("requesting-user-name", ipp.Str(ipp.Name, "oddspool"))

// do sends a request, with a document behind it where there is one, and returns the answer.
func (c *Client) do(ctx context.Context, m *ipp.Message, document io.Reader) (*ipp.Message, error) {
	var body io.Reader = bytes.NewReader(m.Append(nil))
	if document != nil {
		body = io.MultiReader(body, document)
	} else {
		var cancel context.CancelFunc
		ctx, cancel = context.WithTimeout(ctx, answerTime)
		defer cancel()
	}
	request, err := http.NewRequestWithContext(ctx, http.MethodPost, c.url, body)
	if err != nil {
		return nil, fmt.Errorf("ask the printer: %w", err)
	}
	request.Header.Set("Content-Type", "application/ipp")
	response, err := c.http.Do(request)
	var forbidden *reach.ForbiddenError
	if errors.As(err, &forbidden) {
		return nil, forbidden
	}
	if err != nil {
		return nil, &UnreachableError{c.uri, err}
	}
	defer response.Body.Close()
	if response.StatusCode != http.StatusOK {
		return nil, &NonsenseError{c.uri, fmt.Errorf("HTTP status %s", response.Status)}
	}
	answer, err := ipp.Read(bufio.NewReader(io.LimitReader(response.Body, mostAnswer)))
	switch {
	case errors.Is(err, ipp.ErrNotIPP):
		return nil, &NonsenseError{c.uri, err}
	case err != nil:
		return nil, &UnreachableError{c.uri, err}
	}
	answer.Clean()
	if status := ipp.Status(answer.Code); status == ipp.NotFound {
		return nil, ErrNoJob
	} else if !status.Succeeded() {
		refused := &RefusedError{URI: c.uri, Status: status}
		if text := answer.Find(ipp.OperationGroup, "status-message"); len(text) > 0 {
			refused.Message = text[0].Text
		}
		return nil, refused
	}
	return answer, nil
}

// A State is a printer's state (RFC 8011, 5.4.11).
type State string

// The states.
const (
	Idle     State = "idle"
	Printing State = "printing"
	Stopped  State = "stopped"
)

// A Status is what a printer says of itself.
type Status struct {
	Name    string
	State   State
	Reasons []string // keywords of the standard, such as media-empty-error
	Loaded  stock.Loaded
	DPI     int
	Page    string         // address of the device's own page; empty: none
	Formats []string       // MIME types of the documents it takes
	Rasters []string       // types of PWG raster it takes
	Inks    []string       // colour names of what it prints with
	Head    measure.Length // widest page; 0: not told
	Longest measure.Length // longest page; 0: not told
	Speeds  [2]int         // mm/s, least and most; 0: not told
	Cuts    bool

	media []string // members of media-col that a job may have
	takes []string // attributes that a job may have
}

// Printer asks the printer about itself.
func (c *Client) Printer(ctx context.Context) (*Status, error) {
	answer, err := c.do(ctx, c.request(ipp.GetPrinterAttributes, userName, ipp.Keywords("requested-attributes", "all",
		"media-col-ready")), nil)
	if err != nil {
		return nil, err
	}
	get := func(name string) ipp.Value {
		if values := answer.Find(ipp.PrinterGroup, name); len(values) > 0 {
			return values[0]
		}
		return ipp.Value{}
	}
	s := &Status{Name: get("printer-name").Text, Page: get("printer-more-info").Text,
		DPI: get("printer-resolution-default").Ints[0]}
	switch get("printer-state").Int {
	case 3:
		s.State = Idle
	case 4:
		s.State = Printing
	default:
		s.State = Stopped
	}
	for _, reason := range answer.Find(ipp.PrinterGroup, "printer-state-reasons") {
		if reason.Text != "none" {
			s.Reasons = append(s.Reasons, reason.Text)
		}
	}
	texts := func(name string) (list []string) {
		for _, v := range answer.Find(ipp.PrinterGroup, name) {
			list = append(list, v.Text)
		}
		return list
	}
	s.Formats, s.Rasters = texts("document-format-supported"), texts("pwg-raster-document-type-supported")
	for _, supply := range texts("printer-supply") { // PWG 5100.13, 5.6.35
		if colour := colorant(supply); colour != "" {
			s.Inks = append(s.Inks, colour)
		}
	}
	s.size(get("media-size-supported"))
	speeds := get("print-speed-supported").Ints
	s.Speeds = [2]int{speeds[0] / 100, speeds[1] / 100}
	for _, v := range answer.Find(ipp.PrinterGroup, "finishings-supported") {
		s.Cuts = s.Cuts || v.Int == trimAfterPages || v.Int == trimAfterJob
	}
	s.Loaded = loaded(get("media-col-ready"), get("printer-input-tray").Text)
	s.takes = texts("job-creation-attributes-supported")
	if slices.Contains(s.takes, "media-col") {
		s.media = texts("media-col-supported")
	}
	return s, nil
}

// colouring are the kinds of supplies that colour (RFC 3805, PrtMarkerSuppliesTypeTC); all others wear out, or take up
// what is left over.
var colouring = []string{"", "other", "unknown", "toner", "ink", "inkCartridge", "inkRibbon", "solidWax", "ribbonWax",
	"tonerCartridge"}

// colorant returns the name of the colour of a supply as printer-supply has it; empty: it does not colour.
func colorant(supply string) (name string) {
	kind, class := "", ""
	for pair := range strings.SplitSeq(supply, ";") {
		switch key, value, _ := strings.Cut(strings.TrimSpace(pair), "="); key {
		case "colorantname":
			name = strings.TrimSpace(value)
		case "type":
			kind = value
		case "class":
			class = value
		}
	}
	if class == "receptacleThatIsFilled" || !slices.Contains(colouring, kind) || strings.EqualFold(name, "none") ||
		strings.EqualFold(name, "unknown") {
		return ""
	}
	return name
}

// size reads how wide and long a page may be (PWG 5100.3, 3.13.9).
func (s *Status) size(media ipp.Value) {
	most := func(name string) measure.Length {
		v, _ := media.Member(name)
		if v.Tag == ipp.Range {
			return measure.Length(v.Ints[1]) * 10
		}
		return measure.Length(v.Int) * 10
	}
	s.Head, s.Longest = most("x-dimension"), most("y-dimension")
}

// loaded reads media-col-ready (PWG 5100.7, 6.9.15) and printer-input-tray (PWG 5100.13, 5.6.23).
func loaded(media ipp.Value, tray string) stock.Loaded {
	l := stock.Loaded{Left: -1, LeftLength: -1}
	if size, ok := media.Member("media-size"); ok {
		x, _ := size.Member("x-dimension")
		y, _ := size.Member("y-dimension")
		l.Width, l.Length = measure.Length(x.Int)*10, measure.Length(y.Int)*10
	}
	key, _ := media.Member("media-key")
	info, _ := media.Member("media-info")
	tracking, _ := media.Member("media-tracking")
	l.Key, l.Name, l.Tracking = key.Text, info.Text, stock.Tracking(tracking.Text)
	inMicrometres := strings.Contains(tray, "unit=micrometers")
	for pair := range strings.SplitSeq(tray, ";") {
		name, value, _ := strings.Cut(pair, "=")
		n, err := strconv.Atoi(value)
		switch {
		case err != nil:
		case inMicrometres && name == "level" && n >= 0:
			l.LeftLength = measure.Length(n)
		case inMicrometres && name == "maxcapacity" && n > 0:
			l.FullLength = measure.Length(n)
		case name == "level" && n >= 0:
			l.Left = n
		case name == "maxcapacity" && n > 0:
			l.Capacity = n
		}
	}
	return l
}
