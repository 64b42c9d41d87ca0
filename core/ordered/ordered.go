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

type result[T any] struct {
	made T
	err  error
}

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
	return Stream(Workers(n), numbers, do, emit)
}

// Stream does pieces of work as they come, each by one of so many workers, from 0, and calls emit with what came of each, in order and one at a
// time. No more than a few pieces a worker are taken ahead of emit. It ends at the first error, of the work, do or emit, in order; what panics
// in do is a *PanicError.
func Stream[In, Out any](workers int, work iter.Seq2[In, error], do func(worker int, in In) (Out, error), emit func(Out) error) error {
	done := make(chan struct{})
	line := make(chan chan result[Out], 2*workers) // results in order, as they will come
	type job struct {
		in In
		to chan result[Out]
	}
	jobs := make(chan job)
	var group sync.WaitGroup
	for worker := range workers {
		group.Go(func() {
			for j := range jobs {
				made, err := guarded(do, worker, j.in)
				j.to <- result[Out]{made, err}
			}
		})
	}
	group.Go(func() {
		defer close(line)
		defer close(jobs)
		for in, err := range work {
			to := make(chan result[Out], 1)
			select {
			case line <- to:
			case <-done:
				return
			}
			if err != nil {
				to <- result[Out]{err: err}
				return
			}
			select {
			case jobs <- job{in, to}:
			case <-done:
				return
			}
		}
	})
	defer group.Wait()
	defer close(done)
	for to := range line {
		r := <-to
		if r.err != nil {
			return r.err
		}
		if err := emit(r.made); err != nil {
			return err
		}
	}
	return nil
}

// turns are as many as there are cores.
var turns = make(chan struct{}, runtime.GOMAXPROCS(0))

// Turn does a piece of computation that waits for nothing, when a core is free for it. However much is to be drawn and read, answers to people
// then wait for a piece or two, not for one of everybody's.
func Turn(do func()) {
	turns <- struct{}{}
	defer func() { <-turns }()
	do()
}

func guarded[In, Out any](do func(worker int, in In) (Out, error), worker int, in In) (made Out, err error) {
	turns <- struct{}{}
	defer func() {
		<-turns
		if broken := recover(); broken != nil {
			err = &PanicError{broken, debug.Stack()}
		}
	}()
	return do(worker, in)
}
