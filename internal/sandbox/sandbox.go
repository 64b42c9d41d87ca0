// Package sandbox runs work on files from outside in a process of its own, which the operating system bounds: its
// processor time, its memory and what it writes. A reader that loops, or takes all memory, ends alone; the server goes
// on answering.
//
// The process is the program itself, called as "oddspool work NAME". It runs at a lower priority than the server, dies
// with it, and talks through its pipes: one value comes in, values go out, each as package gob writes it.
//
//	server                                   oddspool work artwork
//	Work.Do ── In ──────────── stdin ──────▶ do(ctx, in, emit)
//	each(out) ◀── Out, Out … ─ stdout ────── emit(out)
//	kills it when it is over its limits
package sandbox

import (
	"bytes"
	"context"
	"encoding/gob"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"runtime"
	"strconv"
	"strings"
	"syscall"
	"time"

	"oddspool/core/refusal"
)

// Command is the name of the hidden command of the program.
const Command = "work"

// Limits bound one piece of work. What is zero is not bounded.
type Limits struct {
	// processor time from one value that it gives to the next; its start does not count until the first
	Step    time.Duration
	Total   time.Duration // processor time in all, whole seconds
	Time    time.Duration // by the clock, when the machine is busy
	Memory  int64         // bytes of its data, as RLIMIT_DATA counts them
	Written int64         // bytes of the largest file it writes
}

// mostAtOnce is how many pieces of work run at once, of any kind.
const mostAtOnce = 2

// longestWait is how long work waits for its turn. A turn takes at most Limits.Time.
const longestWait = time.Minute

// turns holds a token for each piece of work that may start.
var turns = make(chan struct{}, mostAtOnce)

// A LimitError tells which limit stopped a piece of work.
type LimitError struct{ Limit string } // "processor time", "time", "memory" or "size"

func (e *LimitError) Error() string { return "the work went over its limit of " + e.Limit }

// A BusyError tells that no turn became free in time.
type BusyError struct{}

func (e *BusyError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (*BusyError) Refusal() *refusal.Error {
	return busy.With()
}

// A BrokenError tells that a piece of work died or failed by itself: a defect of a reader, and not of the server.
type BrokenError struct{ Text string }

func (e *BrokenError) Error() string { return "the work broke: " + e.Text }

// A Work is a kind of work that runs in a process of its own. Its methods may be called by several goroutines.
type Work[In, Out any] struct {
	name   string
	limits Limits
}

// works are the functions by name, as the process of a piece of work finds them.
var works = map[string]func(){}

// started is set by Main: without it a test's program would run its tests again as its own work.
var started bool

// Register names a kind of work. Call it where a package's variables are set. do runs in the process of the work: what
// it gives to emit reaches the caller of Do in order, and files are those given to Do.
func Register[In, Out any](name string, limits Limits,
	do func(in In, files []*os.File, emit func(Out) error) error) *Work[In, Out] {
	works[name] = func() {
		var in In
		if err := gob.NewDecoder(os.Stdin).Decode(&in); err != nil {
			fail(fmt.Errorf("read what is wanted: %w", err))
		}
		out := gob.NewEncoder(os.Stdout)
		count, _ := strconv.Atoi(os.Args[3]) // Do wrote it
		files := make([]*os.File, count)
		for i := range files {
			files[i] = os.NewFile(uintptr(firstFile+i), fmt.Sprintf("file %d", i))
		}
		if err := do(in, files, func(o Out) error { return out.Encode(o) }); err != nil {
			fail(err)
		}
	}
	return &Work[In, Out]{name, limits}
}

// firstFile is the descriptor of the first file that is handed over (os/exec.Cmd.ExtraFiles).
const firstFile = 3

// failed is the exit status of work that ends with an error, told on standard error.
const failed = 3

func fail(err error) {
	fmt.Fprintln(os.Stderr, err)
	os.Exit(failed)
}

// Main does the work that the process was started for, and does not return then. Every program that may call Do calls
// it first.
func Main() {
	started = true
	if len(os.Args) != 4 || os.Args[1] != Command {
		return
	}
	do, known := works[os.Args[2]]
	if !known {
		fail(fmt.Errorf("there is no work %q", os.Args[2]))
	}
	do()
	os.Exit(0)
}

// Bound sets the limits of the process that runs it. Work calls it once its own readers are up, before it looks at the
// file.
func Bound(l Limits) error {
	for resource, most := range map[int]int64{syscall.RLIMIT_DATA: l.Memory, syscall.RLIMIT_FSIZE: l.Written,
		syscall.RLIMIT_CPU: int64(l.Total / time.Second)} {
		if most == 0 {
			continue
		}
		if err := syscall.Setrlimit(resource, &syscall.Rlimit{Cur: uint64(most), Max: uint64(most)}); err != nil {
			return fmt.Errorf("set a limit of the process: %w", err)
		}
	}
	return nil
}

// Do runs a piece of work and hands what it gives to each, in order. files are open in its process too. Errors are
// *LimitError, *BusyError, *BrokenError, what each returned, or that of ctx.
func (w *Work[In, Out]) Do(ctx context.Context, in In, each func(Out) error, files ...*os.File) error {
	if !started {
		return errors.New("sandbox.Main is not called by this program")
	}
	turn, cancel := context.WithTimeout(ctx, longestWait)
	defer cancel()
	select {
	case turns <- struct{}{}:
		defer func() { <-turns }()
	case <-turn.Done():
		if err := ctx.Err(); err != nil {
			return err
		}
		return &BusyError{}
	}
	if w.limits.Time > 0 {
		var stop context.CancelFunc
		ctx, stop = context.WithTimeoutCause(ctx, w.limits.Time, &LimitError{"time"})
		defer stop()
	}
	return w.run(ctx, in, each, files)
}

func (w *Work[In, Out]) run(ctx context.Context, in In, each func(Out) error, files []*os.File) (err error) {
	runtime.LockOSThread() // the process dies with the thread that started it (prctl(2), PR_SET_PDEATHSIG)
	defer runtime.UnlockOSThread()
	ctx, kill := context.WithCancelCause(ctx)
	defer kill(nil)
	process := exec.CommandContext(ctx, "nice", "-n", "10", fmt.Sprintf("/proc/%d/exe", os.Getpid()), Command, w.name,
		strconv.Itoa(len(files)))
	process.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGKILL}
	process.Cancel = func() error { return syscall.Kill(-process.Process.Pid, syscall.SIGKILL) } // what it started too
	process.ExtraFiles = files
	process.Env = environment(w.limits)
	process.Dir = os.TempDir()
	var said tail
	process.Stderr = &said
	var wanted bytes.Buffer
	if err := gob.NewEncoder(&wanted).Encode(in); err != nil {
		return fmt.Errorf("start work on a file: %w", err)
	}
	process.Stdin = &wanted
	out, err := process.StdoutPipe()
	if err != nil {
		return fmt.Errorf("start work on a file: %w", err)
	}
	if err := process.Start(); err != nil {
		return fmt.Errorf("start work on a file: %w", err)
	}
	watch := newWatch(process.Process.Pid, w.limits, kill)
	defer watch.stop()
	took := w.take(out, each, watch)
	switch {
	case errors.Is(took, errGarbled): // how the process ends says more
		_, _ = io.Copy(io.Discard, out)
	case took != nil:
		kill(took)
	}
	ended := process.Wait()
	switch cause := context.Cause(ctx); {
	case cause != nil:
		return cause
	case ended == nil && took != nil:
		return &BrokenError{took.Error()}
	case ended == nil:
		return nil
	}
	return why(process.ProcessState, said.String(), w.limits)
}

var errGarbled = errors.New("what the work gave cannot be read")

// take hands over what comes until there is no more.
func (w *Work[In, Out]) take(in io.Reader, each func(Out) error, watch *watch) error {
	decoder := gob.NewDecoder(in)
	for {
		var out Out
		err := decoder.Decode(&out)
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return fmt.Errorf("%w: %w", errGarbled, err)
		}
		watch.step()
		if err := each(out); err != nil {
			return err
		}
	}
}

// environment is what the process sees of the program's own: where caches may lie, and nothing secret.
func environment(l Limits) []string {
	env := []string{"PATH=" + os.Getenv("PATH"), "LC_ALL=C.UTF-8"}
	for _, name := range []string{"HOME", "XDG_CACHE_HOME", "TMPDIR", "GOCOVERDIR"} {
		if value, set := os.LookupEnv(name); set {
			env = append(env, name+"="+value)
		}
	}
	if l.Memory > 0 {
		// what is no longer used is given back before the limit
		env = append(env, fmt.Sprintf("GOMEMLIMIT=%d", l.Memory/4*3))
	}
	return env
}

// why tells why a process ended that was not meant to.
func why(state *os.ProcessState, said string, l Limits) error {
	status, _ := state.Sys().(syscall.WaitStatus) // it is that type's on Unix
	used := state.UserTime() + state.SystemTime()
	switch {
	case strings.Contains(said, "out of memory"), strings.Contains(said, "cannot allocate memory"):
		return &LimitError{"memory"}
	case strings.Contains(said, "file too large"), status.Signaled() && status.Signal() == syscall.SIGXFSZ:
		return &LimitError{"size"}
	case status.Signaled() && status.Signal() == syscall.SIGXCPU, l.Total > 0 && used >= l.Total-time.Second/2:
		return &LimitError{"processor time"}
	case state.ExitCode() == failed:
		return &BrokenError{strings.TrimSpace(said)}
	}
	first, _, _ := strings.Cut(said, "\n\n")
	return &BrokenError{strings.TrimSpace(state.String() + ": " + first)}
}

// A tail keeps the first kilobytes of what a process says of its end.
type tail struct{ bytes.Buffer }

func (t *tail) Write(p []byte) (int, error) {
	const most = 8 << 10
	if left := most - t.Len(); left > 0 {
		t.Buffer.Write(p[:min(left, len(p))])
	}
	return len(p), nil
}
