package runner

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"runtime/debug"
	"sync"
	"time"

	"oddspool/core/batch"
	"oddspool/core/ordered"
	"oddspool/core/proof"
	"oddspool/core/render"
	"oddspool/internal/press/pwg"
	"oddspool/internal/reach"
	"oddspool/internal/store"
)

// How a camera is asked. One that hangs costs its own check, and the run goes on.
const (
	readTries  = 4
	readAgain  = 300 * time.Millisecond
	cameraTime = 10 * time.Second
)

// A reading has the labels of slices looked at that are over, one slice after the other, while the next are printed.
type reading struct {
	work     *work
	print    store.Print
	checkers map[int]*proof.Checker // by part of the run
	camera   *http.Client
	stop     context.CancelFunc
	group    sync.WaitGroup
	queue    chan store.Slice
	taken    map[int]bool
}

// newReading returns what reads the labels of a print that a camera sees.
func (w *work) newReading(p *store.Print) (*reading, error) {
	checkers := map[int]*proof.Checker{}
	for n, of := range w.parts {
		checker, err := proof.NewChecker(of.design, of.design.LabelFields(w.run.Fields))
		if err != nil {
			return nil, err
		}
		checkers[n] = checker
	}
	const waiting = 64 // slices: the printer is never that far ahead
	return &reading{work: w, print: *p, checkers: checkers, camera: &http.Client{Timeout: cameraTime,
		Transport: w.cameras, CheckRedirect: reach.NoRedirects}, queue: make(chan store.Slice, waiting),
		taken: map[int]bool{}}, nil
}

// take has a slice read, once. Without a camera its labels are not looked at.
func (r *reading) take(ctx context.Context, slice store.Slice) {
	if r == nil || r.taken[slice.Number] {
		return
	}
	if r.stop == nil {
		ctx, r.stop = context.WithCancel(ctx)
		r.group.Go(func() { r.read(ctx) })
	}
	select {
	case r.queue <- slice:
		r.taken[slice.Number] = true
	default: // taken at the next step
	}
}

func (r *reading) end() {
	if r.stop != nil {
		r.stop()
		r.group.Wait()
	}
}

func (r *reading) read(ctx context.Context) {
	for {
		select {
		case <-ctx.Done():
			return
		case slice := <-r.queue:
			r.one(ctx, &slice)
			select {
			case r.work.came <- struct{}{}:
			default:
			}
		}
	}
}

// one reads a slice and keeps what was read. What the camera cannot show stays unread; a database that is away is
// waited for.
func (r *reading) one(ctx context.Context, slice *store.Slice) {
	defer func() {
		if broken := recover(); broken != nil {
			r.work.broken(context.WithoutCancel(ctx), r.work.lease, broken, debug.Stack())
		}
	}()
	var records [][]string
	if !r.until(ctx, "the labels to read are not known", func() (err error) {
		records, err = r.work.store.Slice(ctx, r.print.ID, r.work.parts[slice.Part].design, r.work.run.Fields,
			slice.First, slice.First+*slice.Came-1)
		return err
	}) {
		return
	}
	readings, more, err := r.slice(ctx, slice, records)
	for try := 1; err != nil && try < readTries && pause(ctx, readAgain); try++ { // a camera may be blind for a moment
		readings, more, err = r.slice(ctx, slice, records)
	}
	if ctx.Err() != nil {
		return
	}
	var doubt *store.Doubt
	var fewer *fewerError
	switch {
	case errors.As(err, &fewer):
		doubt = &store.Doubt{Note: fmt.Sprintf("The printer counted %s at places %d to %d, and the camera saw %d.",
			count(fewer.counted, "label"), slice.First, slice.First+*slice.Came-1, fewer.saw),
			Do: "Look at the web: which label was the last to come out? Say it, then go on."}
	case err != nil:
		r.work.log.Warn("labels were not looked at", "print", r.print.ID, "error", err)
	case more > 0:
		doubt = &store.Doubt{Note: fmt.Sprintf("The camera saw more labels than the printer counted: %s behind those "+
			"of places %d to %d.", count(more, "label"), slice.First, slice.Last),
			Do: "Look at the web, take away what is too much, and say which label of the run was the last."}
	}
	r.until(ctx, "readings are not kept",
		func() error { return r.work.store.KeepReadings(ctx, r.work.lease, slice, readings, doubt) })
}

// A fewerError tells that a camera that answers saw fewer labels than the printer counted.
type fewerError struct{ counted, saw int }

func (e *fewerError) Error() string {
	return fmt.Sprintf("the camera saw %d labels of %d", e.saw, e.counted)
}

// until does something in the database until it is done. It is false when the print is another's, or the work ends.
func (r *reading) until(ctx context.Context, otherwise string, do func() error) bool {
	for {
		err := do()
		if err == nil {
			return true
		}
		if ctx.Err() != nil || errors.Is(err, store.ErrLeaseLost) {
			return false
		}
		r.work.log.Error(otherwise+", and it is tried again", "print", r.print.ID, "error", err)
		if !pause(ctx, askAgain) {
			return false
		}
	}
}

// pause waits; it is false when the work ends meanwhile.
func pause(ctx context.Context, long time.Duration) bool {
	select {
	case <-ctx.Done():
		return false
	case <-time.After(long):
		return true
	}
}

func count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}

// slice reads the labels of a slice as the camera saw them, and tells how many more pages of its job it saw.
func (r *reading) slice(ctx context.Context, slice *store.Slice, records [][]string) (readings []store.Reading,
	more int, err error) {
	w, came, of := r.work, *slice.Came, r.work.parts[slice.Part]
	if came == 0 {
		return nil, 0, nil
	}
	per, skip := w.design.Stock.PerPage(), r.print.Skip(slice.First)
	pages := batch.Pages(w.design.Stock, came, skip)
	next, done, err := r.look(ctx, of, slice.Job, pages+1)
	if err != nil {
		return nil, 0, err
	}
	defer done()
	var page render.Layers
	for i, record := range records {
		place := (skip + i) % per
		if i == 0 || place == 0 {
			if page, err = next(); errors.Is(err, io.EOF) {
				return readings, 0, &fewerError{came, i}
			}
			if err != nil {
				return readings, 0, fmt.Errorf("label %d of %d under the camera: %w", i+1, len(records), err)
			}
		}
		var seen proof.Reading
		ordered.Turn(func() { seen = r.checkers[slice.Part].ReadBack(record, of.labels.Label(page, place)) })
		back := "meant"
		switch {
		case seen.Other != "":
			back = "other"
		case seen.Codes == 0:
			back = "none"
		}
		readings = append(readings, store.Reading{Place: slice.First + i, Back: back, As: seen.Other})
	}
	if _, err := next(); err == nil {
		more = 1
	}
	return readings, more, nil
}

// look returns the pages of a job as the camera saw them, one a call.
func (r *reading) look(ctx context.Context, of *part, job, most int) (next func() (render.Layers, error), done func(),
	err error) {
	address := fmt.Sprintf("%s.pwg?job=%d&most=%d", r.work.printer.Camera, job, most)
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return nil, nil, err
	}
	response, err := r.camera.Do(request)
	if err != nil {
		return nil, nil, err
	}
	if response.StatusCode != http.StatusOK {
		response.Body.Close()
		return nil, nil, fmt.Errorf("the camera answers %s", response.Status)
	}
	width, height := of.design.Stock.PageSize()
	dots := of.design.Printer.Resolution.Dots
	w, h := dots(width), dots(max(height, of.design.Stock.LongestPiece()))
	reader := pwg.NewReader(io.LimitReader(response.Body, int64(most)*mostPage(w, h)))
	return func() (render.Layers, error) {
		page, err := reader.Next()
		if err != nil {
			return nil, err
		}
		return of.labels.Seen(page, r.work.setup), nil
	}, func() { response.Body.Close() }, nil
}

// mostPage bounds the bytes of a page of so many dots in colours: nothing packs to more.
func mostPage(w, h int) int64 {
	const head, colours = 4096, 4
	return head + int64(colours*w*h+h)
}
