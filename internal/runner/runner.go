// Package runner carries out runs: it brings the labels of a print out of a printer, slice by
// slice, asks the printer what came out before anything more is sent, and has a camera look at every label.
//
// Each print is worked on by one server, which has its lease (store.Lease): some seconds that it renews for
// as long as it lives. A server that dies, or loses its database, loses its leases by itself, and another
// goes on. Nothing waits with a connection of the database in its hand.
//
// The way of a slice, and what whoever takes the print over finds when its server dies between two steps:
//
//	open a job at the printer      an empty job there, which prints nothing
//	note it under the lease        the job: the printer is asked about it, and cancels it if its document lacks
//	send the labels                the job: the printer is asked how many came out
//	ask until the job is over      the same
//	note what came out             a slice to be read, or nothing
//	have them looked at            nothing: the next slice was sent meanwhile
//
// The number of a lease only grows, and every note is made only while it is in force. So a server that was
// taken for dead and wakes up again can note nothing, and what it still sends goes to a job that its
// successor asked about, and had ended, before it sent those labels anew.
package runner

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"runtime/debug"
	"sync"
	"time"

	"oddspool/internal/press"
	"oddspool/internal/store"
)

// How long things take. A print of a dead server is taken over within leaseLasts and lookEvery.
const (
	leaseLasts = 5 * time.Second
	renewEvery = time.Second
	lookEvery  = time.Second
	askAgain   = 2 * time.Second // when a printer does not answer, or the database
)

// A Runner works on the prints of a database. Several servers may each have one.
type Runner struct {
	store   *store.Store
	clients *press.Clients
	cameras *http.Transport
	log     *slog.Logger
	worker  string // unlike that of any other server, also of this one before it was started again
	wake    chan struct{}
	stop    context.CancelFunc
	work    sync.WaitGroup

	mutex   sync.Mutex
	working map[int64]*working

	troubles sync.Map // what prints cannot be noted for just now, in words, by their numbers
}

// working is a print that this server works on.
type working struct {
	lease  store.Lease
	until  time.Time // the lease is surely in force
	cancel context.CancelFunc
}

// New returns a runner that works once started.
func New(s *store.Store, clients *press.Clients, log *slog.Logger) *Runner {
	return &Runner{store: s, clients: clients, cameras: clients.Guard.Transport(), log: log, worker: rand.Text(),
		wake: make(chan struct{}, 1), working: map[int64]*working{}}
}

// Start begins to work.
func (r *Runner) Start(ctx context.Context) {
	ctx, r.stop = context.WithCancel(ctx)
	r.work.Go(func() { r.look(ctx) })
	r.Wake()
}

// Stop ends the work at the next step and gives all leases back, so that another server goes on at once. Nothing
// is lost by it.
func (r *Runner) Stop(ctx context.Context) error {
	if r.stop == nil { // it was never started
		return nil
	}
	r.stop()
	done := make(chan struct{})
	go func() { r.work.Wait(); close(done) }()
	select {
	case <-done:
		return nil
	case <-ctx.Done():
		return fmt.Errorf("end the work on prints: %w", ctx.Err())
	}
}

// Wake has the runner look for prints at once: one was started.
func (r *Runner) Wake() {
	select {
	case r.wake <- struct{}{}:
	default:
	}
}

// look takes prints up and renews leases until it is stopped.
func (r *Runner) look(ctx context.Context) {
	ticker := time.NewTicker(lookEvery)
	defer ticker.Stop()
	renewed := time.Now()
	for {
		select {
		case <-ctx.Done():
			return
		case <-ticker.C:
		case <-r.wake:
		}
		if time.Since(renewed) >= renewEvery {
			renewed = time.Now()
			r.renew(ctx)
		}
		asked := time.Now()
		leases, err := r.take(ctx)
		if err != nil {
			if ctx.Err() == nil {
				r.log.Warn("prints cannot be taken up", "error", err)
			}
			continue
		}
		for _, lease := range leases {
			r.begin(ctx, lease, asked.Add(leaseLasts))
		}
	}
}

// take takes prints up. It is not broken off by a stop: a lease that is taken must be known, to be given back.
func (r *Runner) take(ctx context.Context) ([]store.Lease, error) {
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), leaseLasts/2)
	defer cancel()
	return r.store.TakePrints(ctx, r.worker, leaseLasts)
}

// renew makes the leases of this server last on. Work on a print whose lease is lost, or was not renewed in time,
// ends.
func (r *Runner) renew(ctx context.Context) {
	r.mutex.Lock()
	leases := make([]store.Lease, 0, len(r.working))
	for _, w := range r.working {
		leases = append(leases, w.lease)
	}
	r.mutex.Unlock()
	if len(leases) == 0 {
		return
	}
	asked := time.Now()
	held, err := r.store.RenewLeases(ctx, leases, leaseLasts)
	if err != nil && ctx.Err() == nil {
		r.log.Warn("leases are not renewed", "error", err)
	}
	r.mutex.Lock()
	defer r.mutex.Unlock()
	for _, lease := range held {
		if w := r.working[lease.Print]; w != nil && w.lease == lease {
			w.until = asked.Add(leaseLasts)
		}
	}
	for print, w := range r.working {
		if time.Now().After(w.until) {
			r.log.Warn("a lease is lost", "print", print)
			w.cancel()
		}
	}
}

// begin works on a print in the background.
func (r *Runner) begin(ctx context.Context, lease store.Lease, until time.Time) {
	ctx, cancel := context.WithCancel(ctx)
	now := &working{lease, until, cancel}
	r.mutex.Lock()
	if before := r.working[lease.Print]; before != nil { // its lease was lost, and it does not know yet
		before.cancel()
	}
	r.working[lease.Print] = now
	r.mutex.Unlock()
	r.work.Go(func() {
		defer func() {
			cancel()
			r.mutex.Lock()
			if r.working[lease.Print] == now {
				delete(r.working, lease.Print)
			}
			r.mutex.Unlock()
			r.letGo(context.WithoutCancel(ctx), lease)
			r.Wake() // another print may be next at the printer
		}()
		r.print(ctx, lease)
	})
}

func (r *Runner) letGo(ctx context.Context, lease store.Lease) {
	ctx, cancel := context.WithTimeout(ctx, askAgain)
	defer cancel()
	if err := r.store.LetGo(ctx, lease); err != nil {
		r.log.Warn("a lease is not given back; it ends by itself", "print", lease.Print, "error", err)
	}
}

// print works on a print until it is over, held, or another's. What breaks within becomes a held print: it
// is not tried again, and the server lives.
func (r *Runner) print(ctx context.Context, lease store.Lease) {
	defer func() {
		if broken := recover(); broken != nil {
			r.broken(context.WithoutCancel(ctx), lease, broken, debug.Stack())
		}
	}()
	w := &work{Runner: r, lease: lease, sending: map[int]*press.Sending{}, parts: map[int]*part{},
		came: make(chan struct{}, 1)}
	defer w.end()
	defer r.troubles.Delete(lease.Print)
	for {
		again, err := w.step(ctx)
		if err == nil {
			r.troubles.Delete(lease.Print)
		}
		switch {
		case ctx.Err() != nil, errors.Is(err, store.ErrLeaseLost):
			return
		case err != nil:
			r.log.Error("work on a print failed, and is tried again", "print", lease.Print, "error", err)
			r.troubles.Store(lease.Print, inWords(err))
			again = askAgain
		case again == over:
			return
		}
		select {
		case <-ctx.Done():
			return
		case <-w.came:
		case <-time.After(again):
		}
	}
}

// Trouble says what keeps this server from noting anything of a print, and so from going on with it; empty: nothing.
func (r *Runner) Trouble(print int64) string {
	text, _ := r.troubles.Load(print)
	told, _ := text.(string)
	return told
}

// inWords says what is wrong where a print cannot go on, which goes on by itself when it is put right.
func inWords(err error) string {
	switch {
	case store.IsFull(err):
		return "The disk of the database is full."
	case store.IsUnreachable(err):
		return "The database does not answer."
	}
	return "The database refuses what is noted of this print."
}

// broken holds a print at which the program itself failed.
func (r *Runner) broken(ctx context.Context, lease store.Lease, what any, stack []byte) {
	r.log.Error("the work on a print broke", "print", lease.Print, "panic", fmt.Sprint(what), "stack", string(stack))
	err := r.store.Hold(ctx, lease, "This print cannot go on: the program failed at its labels.",
		"Look at the web, say which label was the last, and go on; if it stops again, tell whoever looks after "+
			"Odd Spool.")
	if err != nil && !errors.Is(err, store.ErrLeaseLost) {
		r.log.Error("a print that broke is not held", "print", lease.Print, "error", err)
	}
}
