package runner

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"oddspool/core/ordered"
	"oddspool/internal/press"
	"oddspool/internal/store"
)

// follow asks what became of the slices at the printer, and sends the next while they are printed.
func (w *work) follow(ctx context.Context, p *store.Print, open []store.Slice) (time.Duration, error) {
	slice := &open[0]
	job, err := w.client.Job(ctx, slice.Job)
	switch {
	case errors.Is(err, press.ErrNoJob):
		return over, w.hold(ctx, open, "The printer no longer knows what it printed: it was reset.",
			"Look at the last label that came out, say which one it is, then go on.")
	case err != nil:
		return w.trouble(ctx, p, open, err)
	case job.Over():
		return w.settle(ctx, p, open, job)
	}
	w.underWay = w.out(p, slice, job)
	if held, err := w.document(ctx, open, job); held || err != nil {
		return over, err
	}
	if p.CancelAsked || p.PauseBy != nil {
		// the last first: the printer would go on with it, and labels be left out between
		for _, s := range slices.Backward(open) {
			if err := w.client.Cancel(ctx, s.Job); err != nil {
				return w.trouble(ctx, p, open, err)
			}
		}
		return quickest, nil
	}
	note, do, misfit := w.waitsFor(ctx, p, slice, job)
	if misfit { // what is loaded now would be spoiled by what is at the printer
		return w.withdraw(ctx, open)
	}
	if err := w.setNote(ctx, note, do); err != nil {
		return over, err
	}
	if w.mayFollow(open) && note == "" && p.First && p.Failures == 0 {
		if next, _, _, err := w.store.Waiting(ctx, p.ID, 1); err != nil {
			return over, err
		} else if next > 0 {
			return w.begin(ctx, p)
		}
	}
	w.pause = min(w.pause*2, slowest)
	return w.pause, nil
}

// mayFollow tells whether the next slice may be sent: the last document is at the printer whole.
func (w *work) mayFollow(open []store.Slice) bool {
	last := w.sending[open[len(open)-1].Number]
	if len(open) >= slicesAtOnce || last == nil || w.tagged() {
		return false
	}
	select {
	case <-last.Done():
		return last.Err() == nil
	default:
		return false
	}
}

// document sees to the document of a job that waits for it. One that nobody sends any more, since its server is gone or
// the way to the printer broke, has its job ended: what it brought is settled, and the rest sent anew in another.
func (w *work) document(ctx context.Context, open []store.Slice, job *press.Job) (held bool, err error) {
	slice := &open[0]
	sending := w.sending[slice.Number]
	if sending == nil {
		if job.Incoming {
			return false, w.client.Cancel(ctx, slice.Job)
		}
		return false, nil
	}
	select {
	case <-sending.Done():
	default:
		return false, nil
	}
	var broken *ordered.PanicError
	var refused *press.RefusedError
	switch err := sending.Err(); {
	case err == nil:
		return false, nil
	case errors.As(err, &broken):
		w.log.Error("labels could not be drawn", "print", w.lease.Print, "panic", fmt.Sprint(broken.Value), "stack",
			string(broken.Stack))
		return true, w.hold(ctx, open, "This print cannot go on: the program failed at drawing its labels.",
			"Look at the web, say which label was the last, and go on; if it stops again, tell whoever looks after "+
				"Odd Spool.")
	case errors.As(err, &refused) && job.Incoming:
		return true, w.hold(ctx, open, refused.Error(), "Put it right, then go on.")
	case job.Incoming:
		w.log.Warn("a slice was not sent whole", "print", w.lease.Print, "job", slice.Job, "error", err)
		return false, w.client.Cancel(ctx, slice.Job)
	}
	return false, nil
}

// waitsFor says what a job waits for, and what a person is to do about it; misfit tells that labels of another size
// were loaded while it waits.
func (w *work) waitsFor(ctx context.Context, p *store.Print, slice *store.Slice, job *press.Job) (note, do string,
	misfit bool) {
	stuck := time.Duration(0)
	if sending := w.sending[slice.Number]; sending != nil {
		stuck = sending.Stuck()
	}
	held := job.State == press.JobHeld && !job.Incoming
	if quiet := w.quiet(slice, job); quiet > 0 {
		return fmt.Sprintf("The printer says that it prints, and nothing came out for %d seconds.",
			int(quiet.Seconds())), "See what it does; the run goes on by itself when labels come out.", false
	}
	if job.State != press.JobProcessingStopped && job.State != press.JobPending && !held && stuck < stuckAfter {
		return "", "", false
	}
	status, err := w.client.Printer(ctx)
	if err == nil && status.State == press.Stopped {
		note, do = status.Words()
		if reason, err := w.misfit(ctx, p, status); err == nil && reason != nil {
			return reason.Text, fmt.Sprintf("Load %s; the run goes on by itself.", w.design.Stock.Name), true
		}
	}
	switch {
	case note != "":
	case held:
		note, do = "The printer holds the job back.", "Release it at the printer."
	case stuck >= stuckAfter:
		note, do = fmt.Sprintf("The printer has taken no data for %d seconds.", int(stuck.Seconds())),
			"See what it shows; the run goes on by itself when it takes data again."
	}
	return note, do, false
}

// quiet returns for how long nothing came out of a printer that has all data of a slice and says that it prints it; 0:
// not long.
func (w *work) quiet(slice *store.Slice, job *press.Job) time.Duration {
	if w.moved.slice != slice.Number || w.moved.out != w.underWay || job.State != press.JobProcessing {
		w.moved = moved{slice.Number, w.underWay, time.Now()}
		return 0
	}
	if sending := w.sending[slice.Number]; sending != nil {
		select {
		case <-sending.Done():
		default: // it takes what it prints
			w.moved.at = time.Now()
			return 0
		}
	}
	most := stalledAfter
	if speed := w.printer.About.V.Speed; speed > 0 {
		_, length := w.design.Stock.PageSize()
		each := time.Duration(float64(length+w.design.Stock.Gap) / float64(speed) / 1000 * float64(time.Second))
		if most += 2 * each; job.Printed == nil { // it does not count
			most += time.Duration(slice.Labels()) * 2 * each
		}
	}
	if quiet := time.Since(w.moved.at); quiet > most {
		return quiet
	}
	return 0
}

// withdraw ends the jobs at a printer whose labels must not be printed now.
func (w *work) withdraw(ctx context.Context, open []store.Slice) (time.Duration, error) {
	for _, s := range slices.Backward(open) {
		if err := w.client.Cancel(ctx, s.Job); err != nil {
			return askAgain, nil //nolint:nilerr // it is tried again
		}
	}
	return quickest, nil
}

// out returns how many labels of a slice came out when a job says so of its pages, of which the first may begin, and
// the last end, within.
func (w *work) out(p *store.Print, slice *store.Slice, job *press.Job) int {
	if job.Printed == nil {
		return 0
	}
	labels := max(*job.Printed, 0)*w.design.Stock.PerPage() - p.Skip(slice.First)
	return min(max(labels, 0), slice.Labels())
}
