package runner

import (
	"context"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/press"
	"oddspool/internal/store"
)

// work is a print that is being carried out under a lease.
type work struct {
	*Runner
	lease    store.Lease
	run      store.Run
	printer  store.Printer
	setup    stock.Setup
	design   *design.Design // of some of its labels: all are on one stock
	parts    map[int]*part
	client   *press.Client
	sending  map[int]*press.Sending // documents that this server sends, by the number of their slice
	reading  *reading               // nil: nobody looks at what comes out
	encoding encoding
	came     chan struct{} // something happened that the next step should see at once
	pause    time.Duration // before the printer is asked again
	moved    moved
	mark     string // that the names of its jobs begin with: printers cut off their ends
	underWay,
	noted int // labels of open slices that are out, and as it was noted
	note string
}

// moved is when a printer last brought something of a slice.
type moved struct {
	slice, out int
	at         time.Time
}

// A part is those labels of a print that are of one design.
type part struct {
	run    *store.Run
	design *design.Design
	labels *press.Labels

	tagged   bool // chips are written for its labels
	looks    *design.TagLooks
	composer *compose.Composer
}

// What a step returns when there is nothing more to do, for now or for good.
const over = -1

// How a printer is asked. A slice is what it gets at once: some twenty seconds of labels, so that one that takes
// labels only as fast as it prints them is done with it soon, and within limits. Two are at the printer: while the
// first is printed, the next is sent.
const (
	sliceSeconds = 20
	sliceLeast   = 20
	sliceMost    = 250
	slicesAtOnce = 2
	quickest     = 4 * time.Millisecond
	slowest      = 250 * time.Millisecond
	// a printer that has all data and brings nothing is told of, where its labels take no longer
	stalledAfter  = 30 * time.Second
	stuckAfter    = 20 * time.Second // a printer that takes no data for so long is told of
	mostFailures  = 2                // slices in a row that bring nothing before a person must look
	cancelledSoon = 10 * time.Second // a cancelled job is over by then
)

func (w *work) end() {
	if w.encoding.reader != nil {
		_ = w.encoding.reader.Close()
	}
	if w.reading != nil {
		w.reading.end()
	}
}

// step does the next thing for a print and returns how long to wait for the one after it, or over.
func (w *work) step(ctx context.Context) (again time.Duration, err error) {
	p, err := w.store.Print(ctx, w.lease.Print)
	if err != nil {
		return over, err
	}
	if p.State != store.PrintPrinting {
		return over, nil
	}
	if w.design == nil {
		if err := w.open(ctx, &p); err != nil {
			if ctx.Err() != nil || isTrouble(err) {
				return over, err
			}
			return over, w.store.Hold(ctx, w.lease, "This print cannot go on: "+err.Error(),
				"Cancel it, and prepare the run again.")
		}
	}
	begun, err := w.store.Slices(ctx, p.ID)
	if err != nil {
		return over, err
	}
	var open, unread []store.Slice
	for _, s := range begun {
		if s.Came == nil {
			open = append(open, s)
		} else {
			unread = append(unread, s)
		}
	}
	for _, s := range unread {
		w.reading.take(ctx, s)
	}
	if len(open) > 0 {
		return w.follow(ctx, &p, open)
	}
	switch {
	case p.CancelAsked || p.Settled >= p.LabelCount:
		if len(unread) > 0 {
			return slowest, nil
		}
		return over, w.store.EndCancelled(ctx, w.lease)
	case p.PauseBy != nil:
		return over, w.store.Hold(ctx, w.lease, "Paused by "+*p.PauseBy+".", "Go on when you like.")
	case !p.First: // one that was held goes on before this one
		return over, nil
	}
	return w.begin(ctx, &p)
}

// isTrouble tells whether an error is of the database, and will pass, rather than of what the print is made of.
func isTrouble(err error) bool {
	var missing *store.NotFoundError
	var faults *design.FaultsError
	return !errors.As(err, &missing) && !errors.As(err, &faults) && store.IsUnreachable(err)
}

// open gets together what it takes to carry the print out.
func (w *work) open(ctx context.Context, p *store.Print) (err error) {
	if w.run, err = w.store.Run(ctx, p.RunID); err != nil {
		return err
	}
	if w.printer, err = w.store.Printer(ctx, p.PrinterID); err != nil {
		return err
	}
	if w.client, err = w.clients.At(w.printer.Address); err != nil {
		return err
	}
	w.setup = p.Setup.V
	of, err := w.store.PartsOfPrint(ctx, p.ID)
	if err != nil {
		return err
	}
	for _, n := range of {
		if err := w.openPart(ctx, n); err != nil {
			return err
		}
	}
	if w.printer.Camera != "" {
		if w.reading, err = w.newReading(p); err != nil {
			return err
		}
	}
	w.pause = quickest
	w.design = w.parts[of[0]].design
	if err := w.leftJobs(ctx, p); err != nil {
		return err
	}
	if w.tagged() {
		return w.leftVoids(ctx, p)
	}
	return nil
}

// leftJobs ends jobs that a server opened at the printer for this print and was killed before it could note them:
// nobody sends them a document.
func (w *work) leftJobs(ctx context.Context, p *store.Print) error {
	installation, err := w.store.Installation(ctx)
	if err != nil {
		return err
	}
	const enough = 8 // of its letters: other installations may print there
	w.mark = fmt.Sprintf("%d of %s:", p.ID, installation[:enough])
	noted, err := w.store.Slices(ctx, p.ID)
	if err != nil {
		return err
	}
	voids, err := w.store.OpenVoids(ctx, p.ID)
	if err != nil {
		return err
	}
	jobs, err := w.client.OpenJobs(ctx)
	// a printer that is away is told of when it is asked to print; one that lists no jobs keeps none back
	if err != nil {
		return nil //nolint:nilerr // see above
	}
	for _, job := range jobs {
		known := slices.ContainsFunc(noted, func(s store.Slice) bool { return s.Job == job.ID }) ||
			slices.ContainsFunc(voids, func(t store.Tag) bool { return *t.Job == job.ID })
		if known || !strings.HasPrefix(job.Name, w.mark) || job.State != press.JobPending &&
			job.State != press.JobHeld {
			continue
		}
		w.log.Warn("a job that a server left at a printer is ended", "print", p.ID, "job", job.ID)
		if err := w.client.Cancel(ctx, job.ID); err != nil {
			w.log.Warn("a job that a server left at a printer is not ended", "print", p.ID, "job", job.ID, "error", err)
		}
	}
	return nil
}

// openPart gets together what it takes to print the labels of one design.
func (w *work) openPart(ctx context.Context, n int) (err error) {
	made := &part{}
	if made.run, err = w.store.RunPart(ctx, &w.run, n); err != nil {
		return err
	}
	if made.design, err = w.store.ToCompose(ctx, made.run); err != nil {
		return err
	}
	if made.labels, err = press.NewLabels(made.design, made.design.LabelFields(w.run.Fields)); err != nil {
		return err
	}
	if made.tagged = tagged(made.design); made.tagged {
		if made.composer, err = compose.New(made.design, made.design.LabelFields(w.run.Fields)); err != nil {
			return err
		}
		for i := range made.design.Elements {
			if e := &made.design.Elements[i]; e.Kind == design.Tag && !e.Hidden {
				made.looks = e.Tag
			}
		}
	}
	w.parts[n] = made
	return nil
}

// sliceLabels returns how many labels the slice from a place on has: whole pages, so that the next begins one.
func (w *work) sliceLabels(p *store.Print, first int) int {
	pages := sliceMost
	if about := &w.printer.About.V; about.Speed > 0 {
		_, length := w.design.Stock.PageSize()
		pitch := max(length+w.design.Stock.Gap, measure.Millimetre)
		pages = min(max(int(float64(about.Speed)/pitch.Millimetres()*sliceSeconds), sliceLeast), sliceMost)
	}
	per := w.design.Stock.PerPage()
	if n := w.setup.CutEvery; w.setup.Finish == stock.Cut && n > 1 { // the printer cuts at the end of a job
		return n - (first-1)%n
	}
	pages = max(min(pages, sliceMost*8/per), 1) // of sheets with many labels fewer
	return pages*per - p.Skip(first)
}

// misfit returns why the labels would be spoiled on what is loaded by what the printer says, or a person who knows
// better; nil: they would not.
func (w *work) misfit(ctx context.Context, p *store.Print, status *press.Status) (*stock.Reason, error) {
	printer, err := w.store.Printer(ctx, p.PrinterID)
	if err != nil {
		return nil, err
	}
	loaded := printer.Loaded(status.Loaded)
	return loaded.Misfit(w.design.Stock), nil
}

// begin opens the next slice's job at the printer, notes it, and begins to send its labels.
func (w *work) begin(ctx context.Context, p *store.Print) (time.Duration, error) {
	status, err := w.client.Printer(ctx)
	if err != nil {
		return w.trouble(ctx, p, nil, err)
	}
	misfit, err := w.misfit(ctx, p, status)
	if err != nil {
		return over, err
	}
	if misfit != nil {
		return lookEvery, w.setNote(ctx, misfit.Text, fmt.Sprintf("Load %s; the run goes on by itself.",
			w.design.Stock.Name))
	}
	if err := w.store.ListMore(ctx, w.lease, p); err != nil {
		return over, err
	}
	first, _, n, err := w.store.Waiting(ctx, p.ID, 1)
	if err != nil || first == 0 {
		return slowest, err
	}
	if format := w.parts[n].labels.Format(); len(status.Formats) > 0 && !slices.Contains(status.Formats, format) {
		return over, w.store.Hold(ctx, w.lease,
			fmt.Sprintf("The printer takes no documents of the type %s, which these labels are sent in. It takes %s.",
				format, strings.Join(status.Formats, ", ")),
			"See on the printer's page whether it is the right printer, and what it says of itself; then go on or "+
				"move the print.")
	}
	most := w.sliceLabels(p, first)
	if w.parts[n].tagged { // each chip is written when its label is under the head
		most = 1
	}
	_, last, n, err := w.store.Waiting(ctx, p.ID, most)
	if err != nil {
		return over, err
	}
	of := w.parts[n]
	wanted := press.Wanted{Name: fmt.Sprintf("%s %s, %d to %d of %d", w.mark, of.design.Name, first, last,
		p.LabelCount),
		Tracking: w.design.Stock.Found(), Setup: w.setup, Last: last == p.LabelCount}
	wanted.Width, wanted.Length = w.design.Stock.PageSize()
	wanted.Length = max(wanted.Length, of.design.Stock.LongestPiece())
	records, err := w.store.Slice(ctx, p.ID, of.design, w.run.Fields, first, last)
	if err != nil {
		return over, err
	}
	if of.tagged {
		label, err := w.store.LabelAt(ctx, p.ID, first)
		if err != nil {
			return over, err
		}
		if ok, again, err := w.encode(ctx, p, of, first, label, records[0]); !ok || err != nil {
			return again, err
		}
	}
	job, err := w.client.Create(ctx, status, wanted)
	if err != nil {
		return w.trouble(ctx, p, nil, err)
	}
	slice := store.Slice{Job: job, First: first, Last: last, Part: n}
	if err := w.store.BeginSlice(ctx, w.lease, &slice); err != nil {
		return over, errors.Join(err, w.client.Cancel(context.WithoutCancel(ctx), job))
	}
	w.note = ""
	w.sending[slice.Number] = w.client.Send(ctx, job, of.labels.Format(), func(out io.Writer) error {
		return of.labels.Write(out, records, p.Skip(first), w.setup)
	})
	w.pause = quickest
	return w.pause, nil
}

// setNote notes what the print waits for, where that is new.
func (w *work) setNote(ctx context.Context, note, do string) error {
	if note == w.note && w.underWay == w.noted {
		return nil
	}
	w.note, w.noted = note, w.underWay
	return w.store.NoteProgress(ctx, w.lease, w.underWay, note, do)
}

// trouble says what an error of the printer means for the print.
func (w *work) trouble(ctx context.Context, p *store.Print, open []store.Slice, err error) (time.Duration, error) {
	var refused *press.RefusedError
	switch {
	case ctx.Err() != nil:
		return over, ctx.Err()
	case errors.As(err, &refused):
		return over, w.hold(ctx, open, refused.Error(), "Put it right, then go on.")
	case p.CancelAsked && len(open) == 0:
		return over, w.store.EndCancelled(ctx, w.lease)
	case p.CancelAsked:
		return over, w.store.Hold(ctx, w.lease, "It cannot be cancelled while the printer does not answer: "+
			err.Error(),
			"Look at the web, say which label was the last to come out, and cancel it or move it to another printer.")
	}
	return askAgain, w.setNote(ctx, err.Error(), "It goes on by itself as soon as the printer answers.")
}
