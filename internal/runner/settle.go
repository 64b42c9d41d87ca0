package runner

import (
	"context"
	"fmt"
	"time"

	"oddspool/core/batch"
	"oddspool/internal/press"
	"oddspool/internal/store"
)

// settle notes what a slice brought whose job is over. What the printer says of it is weighed: where it cannot be true,
// a person looks.
func (w *work) settle(ctx context.Context, p *store.Print, open []store.Slice, job *press.Job) (time.Duration, error) {
	slice := &open[0]
	pages := batch.Pages(w.design.Stock, slice.Labels(), p.Skip(slice.First))
	const look = "Look at the web: which label was the last to come out? Say it, then go on."
	came := w.out(p, slice, job)
	switch {
	case job.Printed == nil && job.State == press.JobCompleted:
		came = slice.Labels()
	case job.Printed == nil:
		return over, w.hold(ctx, open, "The printer gave up and does not tell how many labels came out. It says: "+
			words(job.Message), look)
	case *job.Printed < 0 || *job.Printed > pages, job.State == press.JobCompleted && *job.Printed < pages:
		return over, w.hold(ctx, open, fmt.Sprintf("The printer says that its job is over and counts %d of %d.",
			*job.Printed, pages), look)
	}
	delete(w.sending, slice.Number)
	w.underWay, w.note = 0, ""
	if err := w.store.SettleSlice(ctx, w.lease, slice, came, w.reading != nil && came > 0); err != nil {
		return over, err
	}
	w.pause = quickest
	if came == slice.Labels() || p.CancelAsked || p.PauseBy != nil {
		return 0, nil
	}
	// What follows was sent as if all of this had come out: it is withdrawn, so that labels stay in order.
	for _, later := range open[1:] {
		if err := w.client.Cancel(ctx, later.Job); err != nil {
			w.log.Warn("a later slice is not withdrawn", "print", p.ID, "job", later.Job, "error", err)
		}
	}
	// What was withdrawn is settled first, so that nothing is in doubt.
	if came == 0 && p.Failures+1 >= mostFailures && len(open) == 1 {
		return over, w.hold(ctx, nil, fmt.Sprintf("The printer gave up %d times without a label. It says: %s",
			p.Failures+1, words(job.Message)),
			"See what the printer shows, then go on.")
	}
	return 0, nil
}

// words is what a printer says, or that it says nothing.
func words(message string) string {
	if message == "" {
		return "nothing."
	}
	return message
}

// hold stops the print until a person says how to go on. Jobs that wait behind the one that is in doubt are ended
// first, and settled where the printer tells what they brought.
func (w *work) hold(ctx context.Context, open []store.Slice, note, do string) error {
	for i := len(open) - 1; i >= 0; i-- {
		later := &open[i]
		if err := w.client.Cancel(ctx, later.Job); err != nil || i == 0 {
			continue
		}
		p, err := w.store.Print(ctx, w.lease.Print)
		if err != nil {
			return err
		}
		for until := time.Now().Add(cancelledSoon); time.Now().Before(until); time.Sleep(quickest) {
			job, err := w.client.Job(ctx, later.Job)
			if err != nil {
				break
			}
			if job.Over() && job.Printed != nil && *job.Printed >= 0 {
				if err := w.store.SettleSlice(ctx, w.lease, later, w.out(&p, later, job), w.reading != nil &&
					*job.Printed > 0); err != nil {
					return err
				}
				break
			}
		}
	}
	return w.store.Hold(ctx, w.lease, note, do)
}
