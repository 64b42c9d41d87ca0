// Package ordered does work on all cores and hands on what comes of it in order.
package ordered

import (
	"fmt"
	"iter"
	"runtime"
	"runtime/debug"
	"sync"
)

// A PanicError is what work that panicked left.
type PanicError struct {
	Value any
	Stack []byte
}

func (e *PanicError) Error() string { return fmt.Sprintf("the work broke: %v", e.Value) }

// together is how many small pieces of work a worker takes at once, so that handing them out costs little beside them.
const together = 16

// Workers returns how many workers Each has for n pieces of work.
func Workers(n int) int { return max(min(runtime.GOMAXPROCS(0), n), 1) }

// Each does pieces of work 0 to n-1 as Stream does.
func Each[T any](n int, do func(worker, i int) (T, error), emit func(T) error) error {
	numbers := func(yield func(int, error) bool) {
		for i := range n {
			if !yield(i, nil) {
				return
			}
		}
	}
	return Small(Workers(n), numbers, do, emit)
}

// Stream does pieces of work as they come, each by one of so many workers, from 0, and calls emit with what came of
// each, in order and one at a time. No more than a few pieces a worker are taken ahead of emit. It ends at the first
// error, of the work, do or emit, in order; what panics in do is a *PanicError.
func Stream[In, Out any](workers int, work iter.Seq2[In, error], do func(worker int, in In) (Out, error),
	emit func(Out) error) error {
	return stream(workers, 1, work, do, emit)
}

// Small is Stream for pieces of work that take less than a millisecond and whose results are small: several are taken
// at once.
func Small[In, Out any](workers int, work iter.Seq2[In, error], do func(worker int, in In) (Out, error),
	emit func(Out) error) error {
	return stream(workers, together, work, do, emit)
}

// some is what came of some pieces of work: of those before the error.
type some[T any] struct {
	made []T
	err  error
}

func stream[In, Out any](workers, most int, work iter.Seq2[In, error], do func(worker int, in In) (Out, error),
	emit func(Out) error) error {
	done := make(chan struct{})
	line := make(chan chan some[Out], 2*workers) // results in order, as they will come
	type job struct {
		in []In
		to chan some[Out]
	}
	jobs := make(chan job)
	var group sync.WaitGroup
	for worker := range workers {
		group.Go(func() {
			for j := range jobs {
				j.to <- guarded(do, worker, j.in)
			}
		})
	}
	group.Go(func() {
		defer close(line)
		defer close(jobs)
		give := func(in []In, err error) (goOn bool) {
			to := make(chan some[Out], 1)
			select {
			case line <- to:
			case <-done:
				return false
			}
			if err != nil {
				to <- some[Out]{err: err}
				return false
			}
			select {
			case jobs <- job{in, to}:
				return true
			case <-done:
				return false
			}
		}
		var in []In
		size, given := 1, 0 // few at first, so that little work is shared by all workers
		for piece, err := range work {
			if err != nil {
				if len(in) == 0 || give(in, nil) {
					give(nil, err)
				}
				return
			}
			if in = append(in, piece); len(in) < size {
				continue
			}
			if !give(in, nil) {
				return
			}
			if in, given = nil, given+1; given%(2*workers) == 0 {
				size = min(2*size, most)
			}
		}
		if len(in) > 0 {
			give(in, nil)
		}
	})
	defer group.Wait()
	defer close(done)
	for to := range line {
		r := <-to
		for _, made := range r.made {
			if err := emit(made); err != nil {
				return err
			}
		}
		if r.err != nil {
			return r.err
		}
	}
	return nil
}

// turns are as many as there are cores.
var turns = make(chan struct{}, runtime.GOMAXPROCS(0))

// Turn does a piece of computation that waits for nothing, when a core is free for it. However much is to be drawn and
// read, answers to people then wait for a piece or two, not for one of everybody's.
func Turn(do func()) {
	turns <- struct{}{}
	defer func() { <-turns }()
	do()
}

func guarded[In, Out any](do func(worker int, in In) (Out, error), worker int, in []In) (r some[Out]) {
	turns <- struct{}{}
	defer func() {
		<-turns
		if broken := recover(); broken != nil {
			r.err = &PanicError{broken, debug.Stack()}
		}
	}()
	r.made = make([]Out, 0, len(in))
	for _, piece := range in {
		made, err := do(worker, piece)
		if err != nil {
			r.err = err
			return r
		}
		r.made = append(r.made, made)
	}
	return r
}
