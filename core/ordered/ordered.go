// Package ordered does work on all cores and hands on what comes of it in order.
package ordered

import (
	"fmt"
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

// Each does pieces of work 0 to n-1 on as many cores as there are, each by one of Workers(n) workers, and calls emit with what came of each, in
// order and one at a time. No more than a few pieces per core are done ahead of emit. It ends at the first error, of do or emit, in order;
// what panics in do is a *PanicError.
func Each[T any](n int, do func(worker, i int) (T, error), emit func(T) error) error {
	workers := Workers(n)
	done := make(chan struct{})
	line := make(chan chan result[T], 2*workers) // results in order, as they will come
	type job struct {
		i  int
		to chan result[T]
	}
	jobs := make(chan job)
	var group sync.WaitGroup
	for worker := range workers {
		group.Go(func() {
			for j := range jobs {
				made, err := guarded(do, worker, j.i)
				j.to <- result[T]{made, err}
			}
		})
	}
	group.Go(func() {
		defer close(line)
		defer close(jobs)
		for i := range n {
			to := make(chan result[T], 1)
			select {
			case line <- to:
			case <-done:
				return
			}
			select {
			case jobs <- job{i, to}:
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

func guarded[T any](do func(worker, i int) (T, error), worker, i int) (made T, err error) {
	defer func() {
		if broken := recover(); broken != nil {
			err = &PanicError{broken, debug.Stack()}
		}
	}()
	return do(worker, i)
}
