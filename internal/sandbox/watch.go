package sandbox

import (
	"bytes"
	"fmt"
	"os"
	"strconv"
	"sync"
	"time"
)

// A watch kills a process that takes more processor time than a step may.
type watch struct {
	pid   int
	most  time.Duration
	mutex sync.Mutex
	since time.Duration // processor time at the last step; -1: none was made yet
	done  chan struct{}
}

// looks is how often the processor time is looked at.
const looks = 100 * time.Millisecond

func newWatch(pid int, l Limits, kill func(error)) *watch {
	w := &watch{pid: pid, most: l.Step, since: -1, done: make(chan struct{})}
	if l.Step == 0 {
		return w
	}
	go func() {
		ticker := time.NewTicker(looks)
		defer ticker.Stop()
		for {
			select {
			case <-w.done:
				return
			case <-ticker.C:
			}
			if w.over() {
				kill(&LimitError{"processor time"})
				return
			}
		}
	}()
	return w
}

func (w *watch) stop() { close(w.done) }

// step notes that the process gave something.
func (w *watch) step() {
	used, known := processorTime(w.pid)
	w.mutex.Lock()
	defer w.mutex.Unlock()
	if known {
		w.since = used
	}
}

func (w *watch) over() bool {
	used, known := processorTime(w.pid)
	w.mutex.Lock()
	defer w.mutex.Unlock()
	return known && w.since >= 0 && used-w.since > w.most
}

// processorTime returns what a process and the children it waited for have used (proc(5), /proc/pid/stat, fields 14 to
// 17).
func processorTime(pid int) (used time.Duration, known bool) {
	const tick = time.Second / 100 // USER_HZ of every Linux that Go runs on
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
	if err != nil {
		return 0, false
	}
	// The name, field 2, may hold blanks and brackets; the fields behind its last bracket do not.
	fields := bytes.Fields(data[bytes.LastIndexByte(data, ')')+1:])
	const first = 14 - 3 // the state, field 3, is the first of these
	if len(fields) < first+4 {
		return 0, false
	}
	for _, field := range fields[first : first+4] {
		n, err := strconv.ParseInt(string(field), 10, 64)
		if err != nil {
			return 0, false
		}
		used += time.Duration(n) * tick
	}
	return used, true
}
