package press

import (
	"context"
	"errors"
	"io"
	"runtime/debug"
	"slices"
	"sync/atomic"
	"time"

	"oddspool/core/measure"
	"oddspool/core/ordered"
	"oddspool/core/stock"
	"oddspool/internal/press/ipp"
)

const rasterFormat = "image/pwg-raster"

// A Wanted is what a job asks of its printer.
type Wanted struct {
	Name          string
	Width, Length measure.Length // of a page
	Tracking      stock.Tracking
	Setup         stock.Setup
	Last          bool // nothing of the run follows
}

// Create opens a job and returns its number. It prints nothing until a document is sent, so its
// number can be kept first. What is wanted is said as far as the printer, which was just asked, lets jobs say it.
func (c *Client) Create(ctx context.Context, printer *Status, wanted Wanted) (int, error) {
	request := c.request(ipp.CreateJob, userName, ipp.Attr("job-name", ipp.Str(ipp.Name, wanted.Name)))
	if attributes := wanted.attributes(printer); attributes != nil {
		request.Groups = append(request.Groups, ipp.Group{Tag: ipp.JobGroup, Attributes: attributes})
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

// attributes returns the job template attributes that the printer takes.
func (w *Wanted) attributes(printer *Status) []ipp.Attribute {
	hundredths := func(l measure.Length) ipp.Value { return ipp.Int(ipp.Integer, int(l/10)) }
	tracking := w.Tracking
	if tracking == stock.Notch {
		tracking = "web" // as PWG 5100.7, 6.3.1.17 calls what is seen through the web
	}
	var media, job []ipp.Attribute
	for _, member := range []ipp.Attribute{
		ipp.Attr("media-size", ipp.Members(ipp.Attr("x-dimension", hundredths(w.Width)),
			ipp.Attr("y-dimension", hundredths(w.Length)))),
		ipp.Keywords("media-tracking", string(tracking)),
	} {
		if slices.Contains(printer.media, member.Name) {
			media = append(media, member)
		}
	}
	if media != nil {
		job = append(job, ipp.Attr("media-col", ipp.Members(media...)))
	}
	if w.Setup.Darkness > 0 && slices.Contains(printer.takes, "print-darkness") {
		job = append(job, ipp.Attr("print-darkness", ipp.Int(ipp.Integer, w.Setup.Darkness)))
	}
	if w.Setup.Speed > 0 && slices.Contains(printer.takes, "print-speed") {
		job = append(job, ipp.Attr("print-speed", ipp.Int(ipp.Integer, w.Setup.Speed*100)))
	}
	if finishing := w.finishing(); finishing > 0 && slices.Contains(printer.takes, "finishings") {
		job = append(job, ipp.Attr("finishings", ipp.Int(ipp.Enum, finishing)))
	}
	return job
}

// The finishings of cutting (PWG 5100.1, 5.1.1).
const (
	trimAfterPages = 60
	trimAfterJob   = 63
)

// finishing returns the enum of the set-up's cutting; 0 for none. Peeling, rewinding and applying
// have no finishing of their own: they are how the printer is fitted.
func (w *Wanted) finishing() int {
	switch {
	case w.Setup.Finish != stock.Cut:
		return 0
	case w.Setup.CutEvery == 1:
		return trimAfterPages
	case w.Setup.CutEvery > 1 || w.Last: // jobs are as long as the way between two cuts
		return trimAfterJob
	}
	return 0
}

// A Sending is a document on its way to a printer.
type Sending struct {
	moved atomic.Int64 // when something was last taken, in nanoseconds
	done  chan struct{}
	err   error
}

// Done is closed when the document was sent, or could not be; Err tells which.
func (s *Sending) Done() <-chan struct{} { return s.done }

// Err returns why the document could not be sent whole; only when Done is closed.
func (s *Sending) Err() error { return s.err }

// Stuck returns for how long the printer has taken nothing; 0 when all was sent.
func (s *Sending) Stuck() time.Duration {
	select {
	case <-s.done:
		return 0
	default:
		return time.Since(time.Unix(0, s.moved.Load()))
	}
}

// Send begins to send a job's document of a format, written by write as it goes out. A write that panics breaks the
// document off; its error is a *ordered.PanicError.
func (c *Client) Send(ctx context.Context, job int, format string, write func(io.Writer) error) *Sending {
	s := &Sending{done: make(chan struct{})}
	s.moved.Store(time.Now().UnixNano())
	reader, writer := io.Pipe()
	go func() {
		defer func() {
			if broken := recover(); broken != nil {
				writer.CloseWithError(&ordered.PanicError{Value: broken, Stack: debug.Stack()})
			}
		}()
		writer.CloseWithError(write(writer))
	}()
	request := c.request(ipp.SendDocument, ipp.Attr("job-id", ipp.Int(ipp.Integer, job)), userName,
		ipp.Attr("document-format", ipp.Str(ipp.MIMEType, format)), ipp.Attr("last-document", ipp.Int(ipp.Boolean, 1)))
	go func() {
		defer close(s.done)
		_, s.err = c.do(ctx, request, &watched{reader, &s.moved})
		reader.CloseWithError(io.ErrClosedPipe) // whatever is still being written has no reader
	}()
	return s
}

// watched notes whenever something of a document is taken.
type watched struct {
	io.Reader
	moved *atomic.Int64
}

func (w *watched) Read(p []byte) (int, error) {
	w.moved.Store(time.Now().UnixNano())
	return w.Reader.Read(p)
}

// A JobState is a state of a job (RFC 8011, 5.3.7).
type JobState int

// The states.
const (
	JobPending           JobState = 3
	JobHeld              JobState = 4
	JobProcessing        JobState = 5
	JobProcessingStopped JobState = 6
	JobCanceled          JobState = 7
	JobAborted           JobState = 8
	JobCompleted         JobState = 9
)

// A Job is what became of a job.
type Job struct {
	State    JobState
	Incoming bool // it waits for its document, or for the rest of it
	Printed  *int // pages that came out; nil: the printer does not tell
	Message  string
}

// Over tells whether nothing more of the job will print.
func (j *Job) Over() bool { return j.State >= JobCanceled }

// An OpenJob is a job that a printer has not ended.
type OpenJob struct {
	ID    int
	Name  string
	State JobState
}

// OpenJobs lists the jobs that a printer has not ended, up to mostOpen.
func (c *Client) OpenJobs(ctx context.Context) (jobs []OpenJob, err error) {
	const mostOpen = 200
	answer, err := c.do(ctx, c.request(ipp.GetJobs, userName, ipp.Attr("limit", ipp.Int(ipp.Integer, mostOpen)),
		ipp.Keywords("which-jobs", "not-completed"),
		ipp.Keywords("requested-attributes", "job-id", "job-name", "job-state")), nil)
	if err != nil {
		return nil, err
	}
	for _, group := range answer.Groups {
		if group.Tag != ipp.JobGroup {
			continue
		}
		var j OpenJob
		for _, a := range group.Attributes {
			if len(a.Values) == 0 {
				continue
			}
			switch a.Name {
			case "job-id":
				j.ID = a.Values[0].Int
			case "job-name":
				j.Name = a.Values[0].Text
			case "job-state":
				j.State = JobState(a.Values[0].Int)
			}
		}
		jobs = append(jobs, j)
	}
	return jobs, nil
}

// Job asks what became of a job; ErrNoJob when the printer does not know it.
func (c *Client) Job(ctx context.Context, job int) (*Job, error) {
	answer, err := c.do(ctx, c.request(ipp.GetJobAttributes, ipp.Attr("job-id", ipp.Int(ipp.Integer, job)), userName,
		ipp.Keywords("requested-attributes", "job-state", "job-state-reasons", "job-state-message",
			"job-impressions-completed")), nil)
	if err != nil {
		return nil, err
	}
	state := answer.Find(ipp.JobGroup, "job-state")
	if len(state) == 0 || state[0].Int < int(JobPending) || state[0].Int > int(JobCompleted) {
		return nil, &NonsenseError{c.uri, errors.New("a job in no state")}
	}
	j := &Job{State: JobState(state[0].Int)}
	for _, reason := range answer.Find(ipp.JobGroup, "job-state-reasons") {
		j.Incoming = j.Incoming || reason.Text == "job-incoming" || reason.Text == "job-data-insufficient"
	}
	j.Incoming = j.Incoming && !j.Over()
	if message := answer.Find(ipp.JobGroup, "job-state-message"); len(message) > 0 {
		j.Message = message[0].Text
	}
	if printed := answer.Find(ipp.JobGroup, "job-impressions-completed"); len(printed) > 0 &&
		printed[0].Tag == ipp.Integer {
		j.Printed = &printed[0].Int
	}
	return j, nil
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
