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
	"time"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/press/ipp"
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

// NewClient returns a client for a printer's address: ipp://host[:port]/path, or http likewise.
func NewClient(address string) (*Client, error) {
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
	return &Client{uri: uri.String(), url: plain.String(), http: &http.Client{
		Transport: &http.Transport{MaxIdleConnsPerHost: 2, IdleConnTimeout: 30 * time.Second, ResponseHeaderTimeout: 0},
		CheckRedirect: func(*http.Request, []*http.Request) error {
			return http.ErrUseLastResponse
		},
	}}, nil
}

// An UnreachableError says that a printer does not answer.
type UnreachableError struct {
	URI string
	Err error
}

func (e *UnreachableError) Error() string {
	return fmt.Sprintf("The printer at %s does not answer. See that it is switched on and on the network.", e.URI)
}

func (e *UnreachableError) Unwrap() error { return e.Err }

// A NonsenseError says that something answers that is no IPP printer.
type NonsenseError struct {
	URI string
	Err error
}

func (e *NonsenseError) Error() string {
	return fmt.Sprintf("What answers at %s is no IPP printer. See that the address and its path are right.", e.URI)
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

// ErrNoJob says that the printer knows no such job: it was reset, or forgot it.
var ErrNoJob = errors.New("the printer no longer knows the job")

func (c *Client) request(op ipp.Op, operation ...ipp.Attribute) *ipp.Message {
	head := []ipp.Attribute{
		ipp.Attr("attributes-charset", ipp.Str(ipp.Charset, "utf-8")),
		ipp.Attr("attributes-natural-language", ipp.Str(ipp.Language, "en")),
		ipp.Attr("printer-uri", ipp.Str(ipp.URI, c.uri)),
	}
	return &ipp.Message{Major: 2, Code: uint16(op), ID: 1, Groups: []ipp.Group{{Tag: ipp.OperationGroup, Attributes: append(head, operation...)}}}
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
	if err != nil {
		return nil, &UnreachableError{c.uri, err}
	}
	defer response.Body.Close()
	if response.StatusCode != http.StatusOK {
		return nil, &NonsenseError{c.uri, fmt.Errorf("HTTP status %s", response.Status)}
	}
	answer, err := ipp.Read(bufio.NewReader(response.Body))
	switch {
	case errors.Is(err, ipp.ErrNotIPP):
		return nil, &NonsenseError{c.uri, err}
	case err != nil:
		return nil, &UnreachableError{c.uri, err}
	}
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

// Loaded is what a printer says is in it.
type Loaded struct {
	Key           string // the plant's number of the stock; empty: not told
	Name          string
	Width, Length measure.Length // of one label
	Left          int            // labels; -1: not told
	Capacity      int            // labels on a full roll; 0: not told
}

// A Status is what a printer says of itself.
type Status struct {
	Name    string
	State   State
	Reasons []string // keywords of the standard, such as media-empty-error
	Loaded  Loaded
	DPI     int
	Page    string // address of the device's own page; empty: none
	TakesIt bool   // it takes PWG raster of one bit

	media []string // members of media-col that a job may have
}

// Printer asks the printer about itself.
func (c *Client) Printer(ctx context.Context) (*Status, error) {
	answer, err := c.do(ctx, c.request(ipp.GetPrinterAttributes, userName, ipp.Keywords("requested-attributes", "all", "media-col-ready")), nil)
	if err != nil {
		return nil, err
	}
	get := func(name string) ipp.Value {
		if values := answer.Find(ipp.PrinterGroup, name); len(values) > 0 {
			return values[0]
		}
		return ipp.Value{}
	}
	s := &Status{Name: get("printer-name").Text, Page: get("printer-more-info").Text, DPI: get("printer-resolution-default").Ints[0]}
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
	for _, format := range answer.Find(ipp.PrinterGroup, "document-format-supported") {
		s.TakesIt = s.TakesIt || format.Text == rasterFormat
	}
	s.Loaded = loaded(get("media-col-ready"), get("printer-input-tray").Text)
	if contains(answer.Find(ipp.PrinterGroup, "job-creation-attributes-supported"), "media-col") {
		for _, member := range answer.Find(ipp.PrinterGroup, "media-col-supported") {
			s.media = append(s.media, member.Text)
		}
	}
	return s, nil
}

func contains(values []ipp.Value, word string) bool {
	return slices.ContainsFunc(values, func(v ipp.Value) bool { return v.Text == word })
}

// loaded reads media-col-ready (PWG 5100.7, 6.9.15) and printer-input-tray (PWG 5100.13, 5.6.23).
func loaded(media ipp.Value, tray string) Loaded {
	l := Loaded{Left: -1}
	if size, ok := media.Member("media-size"); ok {
		x, _ := size.Member("x-dimension")
		y, _ := size.Member("y-dimension")
		l.Width, l.Length = measure.Length(x.Int)*10, measure.Length(y.Int)*10
	}
	key, _ := media.Member("media-key")
	info, _ := media.Member("media-info")
	l.Key, l.Name = key.Text, info.Text
	for pair := range strings.SplitSeq(tray, ";") {
		name, value, _ := strings.Cut(pair, "=")
		n, err := strconv.Atoi(value)
		switch {
		case err != nil:
		case name == "level" && n >= 0:
			l.Left = n
		case name == "maxcapacity" && n > 0:
			l.Capacity = n
		}
	}
	return l
}

const rasterFormat = "image/pwg-raster"

// Create opens a job for labels of a stock and returns its number. It prints nothing until a
// document is sent, so its number can be kept first. The stock is named as far as the printer
// lets jobs name one.
func (c *Client) Create(ctx context.Context, name string, s stock.Stock) (int, error) {
	printer, err := c.Printer(ctx)
	if err != nil {
		return 0, err
	}
	request := c.request(ipp.CreateJob, userName, ipp.Attr("job-name", ipp.Str(ipp.Name, name)))
	hundredths := func(l measure.Length) ipp.Value { return ipp.Int(ipp.Integer, int(l/10)) }
	var media []ipp.Attribute
	for _, member := range []ipp.Attribute{
		ipp.Attr("media-size", ipp.Members(ipp.Attr("x-dimension", hundredths(s.Width)), ipp.Attr("y-dimension", hundredths(s.Length)))),
		ipp.Keywords("media-tracking", "gap"),
	} {
		if slices.Contains(printer.media, member.Name) {
			media = append(media, member)
		}
	}
	if media != nil {
		request.Groups = append(request.Groups, ipp.Group{Tag: ipp.JobGroup, Attributes: []ipp.Attribute{ipp.Attr("media-col", ipp.Members(media...))}})
	}
	answer, err := c.do(ctx, request, nil)
	if err != nil {
		return 0, err
	}
	id := answer.Find(ipp.JobGroup, "job-id")
	if len(id) == 0 || id[0].Int < 1 {
		return 0, &NonsenseError{c.uri, errors.New("a job without a number")}
	}
	return id[0].Int, nil
}

// Send sends a job's document, written by write as it goes out.
func (c *Client) Send(ctx context.Context, job int, write func(io.Writer) error) error {
	reader, writer := io.Pipe()
	go func() { writer.CloseWithError(write(writer)) }()
	request := c.request(ipp.SendDocument, ipp.Attr("job-id", ipp.Int(ipp.Integer, job)), userName,
		ipp.Attr("document-format", ipp.Str(ipp.MIMEType, rasterFormat)), ipp.Attr("last-document", ipp.Int(ipp.Boolean, 1)))
	_, err := c.do(ctx, request, reader)
	reader.CloseWithError(io.ErrClosedPipe) // whatever is still being written has no reader
	return err
}

// A Job is what became of a job.
type Job struct {
	Incoming bool // it still waits for its document
	Over     bool // nothing more of it will print
	Done     bool // all of it was printed
	Printed  int  // labels that came out
	Stopped  bool // it waits because the printer has stopped
	Message  string
}

// Job asks what became of a job; ErrNoJob when the printer does not know it.
func (c *Client) Job(ctx context.Context, job int) (*Job, error) {
	answer, err := c.do(ctx, c.request(ipp.GetJobAttributes, ipp.Attr("job-id", ipp.Int(ipp.Integer, job)), userName,
		ipp.Keywords("requested-attributes", "job-state", "job-state-reasons", "job-state-message", "job-impressions-completed")), nil)
	if err != nil {
		return nil, err
	}
	first := func(name string) ipp.Value {
		if values := answer.Find(ipp.JobGroup, name); len(values) > 0 {
			return values[0]
		}
		return ipp.Value{}
	}
	state := first("job-state").Int
	return &Job{
		Incoming: state == 4 || first("job-state-reasons").Text == "job-incoming",
		Over:     state >= 7, Done: state == 9, Stopped: state == 6,
		Printed: first("job-impressions-completed").Int, Message: first("job-state-message").Text,
	}, nil
}

// Cancel ends a job. A job that is over already, or unknown, is no error.
func (c *Client) Cancel(ctx context.Context, job int) error {
	_, err := c.do(ctx, c.request(ipp.CancelJob, ipp.Attr("job-id", ipp.Int(ipp.Integer, job)), userName), nil)
	var refused *RefusedError
	if errors.Is(err, ErrNoJob) || errors.As(err, &refused) && refused.Status == ipp.NotPossible {
		return nil
	}
	return err
}
