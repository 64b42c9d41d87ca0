// Package runner carries out runs: it brings the labels of a print out of a printer, slice by
// slice, asks the printer what came out before anything more is sent, and reads every label back.
//
// The way of a slice, and what a kill -9 between two steps leaves behind:
//
//	open a job at the printer      an empty job there, which prints nothing
//	note its number                the number: the printer is asked about it, and knows no document
//	send the labels                the number: the printer is asked how many came out
//	ask until the job is over      the same
//	note what came out             all is known; the next slice follows
package runner

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/internal/press"
	"oddspool/internal/press/pwg"
	"oddspool/internal/store"
)

// printArgs is the work on one print, some seconds at a time.
type printArgs struct {
	Print int64 `json:"print"`
}

// Kind implements river.JobArgs.
func (printArgs) Kind() string { return "print" }

// A Runner works on the prints of a database. Several servers may each have one.
type Runner struct {
	store  *store.Store
	log    *slog.Logger
	river  *river.Client[*sql.Tx]
	camera *http.Client
}

// How long things take. A job works for a while, then gives its place to others; one that takes
// longer than jobTimeout is taken for stuck and done again, which asks the printer first.
const (
	workFor     = 8 * time.Second
	jobTimeout  = 90 * time.Second
	rescueAfter = 2 * time.Minute
	askAgain    = 2 * time.Second // when a printer does not answer
	lookAgain   = 300 * time.Millisecond
	readTries   = 5 // to read a slice back
)

// New returns a runner that works once started.
func New(s *store.Store, log *slog.Logger) (*Runner, error) {
	r := &Runner{store: s, log: log, camera: &http.Client{Timeout: 30 * time.Second}}
	workers := river.NewWorkers()
	river.AddWorker(workers, &printWorker{runner: r})
	var err error
	r.river, err = river.NewClient(riverdatabasesql.NewWithPgxListener(s.DB.DB, s.Pool), &river.Config{
		Logger: log, Workers: workers, Queues: map[string]river.QueueConfig{river.QueueDefault: {MaxWorkers: 16}},
		JobTimeout: jobTimeout, RescueStuckJobsAfter: rescueAfter,
		FetchCooldown: 5 * time.Millisecond, FetchPollInterval: 500 * time.Millisecond,
	})
	if err != nil {
		return nil, fmt.Errorf("set up jobs: %w", err)
	}
	return r, nil
}

// Start begins to work. Prints that a killed server left are gone on with at once: each gets work
// of its own, and a lock on the print keeps it from being worked on twice.
func (r *Runner) Start(ctx context.Context) error {
	if err := r.river.Start(ctx); err != nil {
		return fmt.Errorf("start jobs: %w", err)
	}
	open, err := r.store.OpenPrints(ctx)
	if err != nil {
		return fmt.Errorf("look for open prints: %w", err)
	}
	return r.store.InTx(ctx, func(tx *sqlx.Tx) error {
		for _, p := range open {
			if p.State == store.PrintPrinting {
				if err := r.Queue(ctx, tx, p.ID); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// Stop ends the work at the next step; nothing is lost by it.
func (r *Runner) Stop(ctx context.Context) error { return r.river.StopAndCancel(ctx) }

// Queue puts the work on a print in line. It is a store.Queue.
func (r *Runner) Queue(ctx context.Context, tx *sqlx.Tx, print int64) error {
	if _, err := r.river.InsertTx(ctx, tx.Tx, printArgs{Print: print}, nil); err != nil {
		return fmt.Errorf("queue print %d: %w", print, err)
	}
	return nil
}

type printWorker struct {
	river.WorkerDefaults[printArgs]
	runner *Runner
}

// Work works on a print for a while. It ends when the print is over or held, and else comes back.
func (w *printWorker) Work(ctx context.Context, job *river.Job[printArgs]) error {
	print := job.Args.Print
	unlock, err := w.runner.lock(ctx, print)
	if err != nil {
		return err
	}
	if unlock == nil { // another worker has it
		return river.JobSnooze(time.Second)
	}
	defer unlock()
	for until := time.Now().Add(workFor); time.Now().Before(until); {
		again, err := w.runner.step(ctx, print)
		switch {
		case ctx.Err() != nil:
			return river.JobSnooze(0)
		case err != nil:
			return fmt.Errorf("print %d: %w", print, err)
		case again < 0:
			return nil
		case again > 0:
			return river.JobSnooze(again)
		}
	}
	return river.JobSnooze(0)
}

// lockClass keeps the locks on prints apart from other advisory locks.
const lockClass = 0x0dd5

// lock takes the lock on a print, and returns nil when another holds it. A server that dies lets
// go of it.
func (r *Runner) lock(ctx context.Context, print int64) (unlock func(), err error) {
	conn, err := r.store.DB.Connx(ctx)
	if err != nil {
		return nil, fmt.Errorf("lock print %d: %w", print, err)
	}
	var got bool
	if err := conn.GetContext(ctx, &got, `select pg_try_advisory_lock($1, $2)`, lockClass, int32(print)); err != nil || !got {
		return nil, errors.Join(err, conn.Close())
	}
	return func() {
		if _, err := conn.ExecContext(context.WithoutCancel(ctx), `select pg_advisory_unlock($1, $2)`, lockClass, int32(print)); err != nil {
			r.log.Error("unlock a print", "print", print, "error", err)
		}
		conn.Close()
	}, nil
}

// What step returns when there is nothing more to do, for now or for good.
const over = -1

// step does the next thing for a print. It returns 0 to go on at once, a time to wait for, or
// over.
func (r *Runner) step(ctx context.Context, id int64) (again time.Duration, err error) {
	p, err := r.store.Print(ctx, id)
	if err != nil {
		return over, err
	}
	if p.State != store.PrintPrinting {
		return over, nil
	}
	next, err := r.store.IsNext(ctx, &p)
	if err != nil {
		return over, err
	}
	if p.DeviceJob == nil && p.CancelAsked {
		return over, r.store.SettleSlice(ctx, &p, p.Printed, nil)
	}
	if !next && p.DeviceJob == nil {
		return time.Second, r.store.NoteProgress(ctx, id, p.Printed, "Another run prints on this printer first.", "It goes on by itself.")
	}
	w, err := r.open(ctx, &p)
	if err != nil {
		return over, r.store.Hold(ctx, id, "This print cannot go on: "+err.Error(), "Cancel it, and prepare the run again.")
	}
	if p.DeviceJob == nil {
		return w.begin(ctx)
	}
	return w.follow(ctx)
}

// work is a print with what it takes to carry it out.
type work struct {
	*Runner
	print   *store.Print
	run     store.Run
	printer store.Printer
	setup   stock.Setup
	design  *design.Design
	labels  *press.Labels
	client  *press.Client
}

func (r *Runner) open(ctx context.Context, p *store.Print) (*work, error) {
	w := &work{Runner: r, print: p}
	var err error
	if w.run, err = r.store.Run(ctx, p.RunID); err != nil {
		return nil, err
	}
	if w.printer, err = r.store.Printer(ctx, w.run.PrinterID); err != nil {
		return nil, err
	}
	if w.client, err = press.NewClient(w.printer.Address); err != nil {
		return nil, err
	}
	if w.setup, err = p.With(); err != nil {
		return nil, err
	}
	if w.design, err = design.Parse(w.run.Document); err != nil {
		return nil, err
	}
	w.labels, err = press.NewLabels(w.design, w.run.Fields)
	return w, err
}

// A slice is what a printer gets at once: some twenty seconds of labels, so that a printer that
// takes labels only as fast as it prints them is done within a job's time, and within limits.
const (
	sliceSeconds = 20
	sliceLeast   = 20
	sliceMost    = 250
)

// sliceLabels returns how many labels the slice from a label on has: whole pages, so that the next
// begins one.
func (w *work) sliceLabels(first int) int {
	pages := sliceMost
	if about, err := w.printer.Does(); err == nil && about.Speed > 0 {
		_, length := w.design.Stock.PageSize()
		pitch := max(length+w.design.Stock.Gap, measure.Millimetre)
		pages = min(max(int(float64(about.Speed)/pitch.Millimetres()*sliceSeconds), sliceLeast), sliceMost)
	}
	per := w.design.Stock.PerPage()
	if n := w.setup.CutEvery; w.setup.Finish == stock.Cut && n > 1 { // the printer cuts at the end of a job
		return n - (first-1)%n
	}
	pages = max(min(pages, sliceMost*8/per), 1) // of sheets with many labels fewer
	return pages*per - w.print.Skip(first)
}

// begin opens the next slice's job, notes it, and sends its labels.
func (w *work) begin(ctx context.Context) (time.Duration, error) {
	p := w.print
	first := p.Printed + 1
	last := min(p.Printed+w.sliceLabels(first), p.LabelCount)
	wanted := press.Wanted{Name: fmt.Sprintf("%s, %d to %d of %d (print %d)", w.design.Name, first, last, p.LabelCount, p.ID),
		Tracking: w.design.Stock.Found(), Setup: w.setup, Last: last == p.LabelCount}
	wanted.Width, wanted.Length = w.design.Stock.PageSize()
	wanted.Length = max(wanted.Length, w.design.Stock.LongestPiece())
	job, err := w.client.Create(ctx, wanted)
	if err != nil {
		return w.trouble(ctx, err)
	}
	if err := w.store.BeginSlice(ctx, p.ID, job, first, last); err != nil {
		return over, errors.Join(err, w.client.Cancel(ctx, job))
	}
	p.DeviceJob, p.SliceFirst, p.SliceLast = &job, &first, &last
	return w.send(ctx)
}

// trouble says what a printer's error means for the print.
func (w *work) trouble(ctx context.Context, err error) (time.Duration, error) {
	var refused *press.RefusedError
	if errors.As(err, &refused) {
		return over, w.store.Hold(ctx, w.print.ID, refused.Error(), "Put it right, then go on.")
	}
	if ctx.Err() != nil {
		return over, ctx.Err()
	}
	return askAgain, w.store.NoteProgress(ctx, w.print.ID, w.print.Printed, err.Error(), "It goes on by itself as soon as the printer answers.")
}

// send streams the labels of the slice. Whether they arrived is the printer's to say.
func (w *work) send(ctx context.Context) (time.Duration, error) {
	records, err := w.store.Slice(ctx, w.print.ID, *w.print.SliceFirst, *w.print.SliceLast)
	if err != nil {
		return over, err
	}
	err = w.client.Send(ctx, *w.print.DeviceJob, w.labels.Format(), func(out io.Writer) error {
		return w.labels.Write(out, records, w.print.Skip(*w.print.SliceFirst), w.setup)
	})
	if err != nil {
		w.log.Warn("a slice was not sent whole", "print", w.print.ID, "job", *w.print.DeviceJob, "error", err)
	}
	return 0, nil
}

// follow asks what became of the slice at the printer.
func (w *work) follow(ctx context.Context) (time.Duration, error) {
	p := w.print
	wait := 4 * time.Millisecond
	for until := time.Now().Add(workFor); time.Now().Before(until); {
		job, err := w.client.Job(ctx, *p.DeviceJob)
		switch {
		case errors.Is(err, press.ErrNoJob):
			return over, w.store.Hold(ctx, p.ID, "The printer no longer knows what it printed: it was reset.",
				"Look at the last label that came out, say which one it is, then go on.")
		case err != nil:
			return w.trouble(ctx, err)
		case job.Over:
			return w.settle(ctx, job)
		case job.Incoming:
			return w.resend(ctx)
		}
		if err := w.progress(ctx, w.out(job), job.Stopped); err != nil {
			return over, err
		}
		select {
		case <-ctx.Done():
			return over, ctx.Err()
		case <-time.After(wait):
			wait = min(wait*2, 250*time.Millisecond)
		}
	}
	return 0, nil
}

// out returns how many labels of the print came out when a job says so of its pages, of which the
// first may begin, and the last end, within.
func (w *work) out(job *press.Job) int {
	first := *w.print.SliceFirst
	labels := max(job.Printed*w.design.Stock.PerPage()-w.print.Skip(first), 0)
	return min(first-1+labels, *w.print.SliceLast)
}

// resend sends the labels of a job that has none: the server was killed before it could. A printer
// that has begun to take them answers otherwise, and is asked again.
func (w *work) resend(ctx context.Context) (time.Duration, error) {
	if w.print.CancelAsked {
		return 50 * time.Millisecond, w.client.Cancel(ctx, *w.print.DeviceJob)
	}
	if _, err := w.send(ctx); err != nil {
		return over, err
	}
	return 50 * time.Millisecond, nil
}

// progress notes how far the print is, what it waits for, and cancels it when that was asked.
func (w *work) progress(ctx context.Context, printed int, stopped bool) error {
	now, err := w.store.Print(ctx, w.print.ID)
	if err != nil {
		return err
	}
	note, do := "", ""
	if stopped {
		if status, err := w.client.Printer(ctx); err == nil {
			note, do = status.Words()
		}
	}
	if now.CancelAsked {
		if err := w.client.Cancel(ctx, *w.print.DeviceJob); err != nil {
			return err
		}
	}
	if printed == now.Printed && note == now.Note {
		return nil
	}
	return w.store.NoteProgress(ctx, w.print.ID, printed, note, do)
}

// mostFailures is how many slices in a row may bring nothing before a person must look.
const mostFailures = 3

// settle notes what a slice that is over brought, each label read back.
func (w *work) settle(ctx context.Context, job *press.Job) (time.Duration, error) {
	p := w.print
	printed := w.out(job)
	readings, err := w.readBack(ctx, *p.SliceFirst, printed)
	for try := 1; err != nil && try < readTries; try++ { // a camera may be blind for a moment
		select {
		case <-ctx.Done():
			return over, ctx.Err()
		case <-time.After(lookAgain):
		}
		readings, err = w.readBack(ctx, *p.SliceFirst, printed)
	}
	if err != nil { // the run goes on; its page counts what was read
		w.log.Warn("labels were not read back", "print", p.ID, "error", err)
	}
	if err := w.store.SettleSlice(ctx, p, printed, readings); err != nil {
		return over, err
	}
	now, err := w.store.Print(ctx, p.ID)
	if err != nil || now.State != store.PrintPrinting {
		return over, err
	}
	if !job.Done && now.Failures >= mostFailures {
		return over, w.store.Hold(ctx, p.ID, fmt.Sprintf("The printer gave up %d times without a label. It says: %s", now.Failures, job.Message),
			"See what the printer shows, then go on.")
	}
	return 0, nil
}

// readBack reads the labels of places first to last as they came out: through the printer's camera
// where it has one, else from the dots that were sent.
func (w *work) readBack(ctx context.Context, first, last int) ([]store.Reading, error) {
	if last < first {
		return nil, nil
	}
	records, err := w.store.Slice(ctx, w.print.ID, first, last)
	if err != nil {
		return nil, err
	}
	checker, err := proof.NewChecker(w.design, w.run.Fields)
	if err != nil {
		return nil, err
	}
	per, skip := w.design.Stock.PerPage(), w.print.Skip(first)
	next := func() (render.Layers, error) { return nil, nil }
	if w.printer.Camera != "" {
		seen, closeCamera, err := w.look(ctx, batch.Pages(w.design.Stock, len(records), skip))
		if err != nil {
			return nil, err
		}
		defer closeCamera()
		next = seen
	}
	readings := make([]store.Reading, 0, len(records))
	var page render.Layers
	for i, record := range records {
		place := (skip + i) % per
		if i == 0 || place == 0 {
			if page, err = next(); err != nil {
				return readings, fmt.Errorf("label %d of %d under the camera: %w", i+1, len(records), err)
			}
		}
		var label render.Layers
		if page != nil {
			label = w.labels.Label(page, place)
		}
		reading := checker.ReadBack(record, label)
		back := "meant"
		switch {
		case reading.Other != "":
			back = "other"
		case reading.Codes == 0:
			back = "none"
		}
		readings = append(readings, store.Reading{Place: first + i, Back: back, As: reading.Other})
	}
	return readings, nil
}

// look returns the pages of the slice's job as the camera saw them, one a call.
func (w *work) look(ctx context.Context, most int) (next func() (render.Layers, error), done func(), err error) {
	address := fmt.Sprintf("%s.pwg?job=%d&most=%d", w.printer.Camera, *w.print.DeviceJob, most)
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return nil, nil, err
	}
	response, err := w.camera.Do(request)
	if err != nil {
		return nil, nil, err
	}
	if response.StatusCode != http.StatusOK {
		response.Body.Close()
		return nil, nil, fmt.Errorf("the camera answers %s", response.Status)
	}
	reader := pwg.NewReader(response.Body)
	return func() (render.Layers, error) {
		page, err := reader.Next()
		if err != nil {
			return nil, err
		}
		return w.labels.Seen(page, w.setup), nil
	}, func() { response.Body.Close() }, nil
}

// RunProof is what was found on the labels of a run.
type RunProof struct {
	Groups  []*proof.Group         `json:"groups"`
	LeftOut []int                  `json:"leftOut"` // records that must not be printed
	Codes   int                    `json:"codes"`
	Lengths map[int]measure.Length `json:"lengths,omitempty"` // of the piece of each record, where pieces differ
}

// Proof looks at the labels of a run, once: what it finds is kept with the run.
func (r *Runner) Proof(ctx context.Context, run *store.Run) (*RunProof, error) {
	if run.Proof != nil {
		var kept RunProof
		if err := json.Unmarshal(run.Proof, &kept); err != nil {
			return nil, fmt.Errorf("read proof of run %d: %w", run.ID, err)
		}
		return &kept, nil
	}
	d, err := design.Parse(run.Document)
	if err != nil {
		return nil, err
	}
	numbers, records, err := r.store.RunRecords(ctx, run.ID)
	if err != nil {
		return nil, err
	}
	report, err := proof.All(ctx, d, run.Fields, records)
	if err != nil {
		return nil, err
	}
	found := &RunProof{Groups: report.Groups, Codes: report.Codes, LeftOut: []int{}}
	for i, level := range report.Worst {
		if level == proof.Error {
			found.LeftOut = append(found.LeftOut, numbers[i])
		}
	}
	if d.Stock.ByContent() {
		found.Lengths = map[int]measure.Length{}
		for i, length := range report.Lengths {
			found.Lengths[numbers[i]] = length
		}
	}
	for _, group := range report.Groups {
		for i, place := range group.Records {
			group.Records[i] = numbers[place-1]
		}
	}
	text, err := json.Marshal(found)
	if err != nil {
		return nil, fmt.Errorf("write proof of run %d: %w", run.ID, err)
	}
	return found, r.store.KeepProof(ctx, run, text)
}
