package standin

import (
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"sync"

	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/internal/press/pwg"
)

// A web is what came out of the printer, kept in two files that only grow: the labels as PWG
// raster pages, and an index of fixed entries. A label counts as printed when its entry is
// written whole, so the count survives kill -9 at any moment.
type web struct {
	mutex   sync.Mutex
	pages   *os.File
	index   *os.File
	end     int64 // of the last whole page
	entries []entry
	loaded  int // labels on the roll when it was last loaded
	since   int // labels printed since then
	across  int // labels in a row, and so on a page
}

// An entry of the index: a label, or with Job 0 the loading of a roll of Number labels.
type entry struct {
	Offset int64 // of its page
	Job    int32
	Number int32 // of the label in its job, from 1
}

const entrySize = 16

// errRollEmpty says that no label is left.
var errRollEmpty = errors.New("the roll is empty")

func openWeb(folder string, across int) (*web, error) {
	w := &web{across: across}
	var err error
	if w.pages, err = os.OpenFile(filepath.Join(folder, "web.pages"), os.O_RDWR|os.O_CREATE, 0o644); err != nil {
		return nil, err
	}
	if w.index, err = os.OpenFile(filepath.Join(folder, "web.index"), os.O_RDWR|os.O_CREATE, 0o644); err != nil {
		return nil, errors.Join(err, w.pages.Close())
	}
	data, err := io.ReadAll(w.index)
	if err != nil {
		return nil, errors.Join(err, w.close())
	}
	for ; len(data) >= entrySize; data = data[entrySize:] {
		w.note(entry{int64(binary.BigEndian.Uint64(data)), int32(binary.BigEndian.Uint32(data[8:])), int32(binary.BigEndian.Uint32(data[12:]))})
	}
	if w.end, err = w.pages.Seek(0, io.SeekEnd); err != nil { // what a killed process left half written stays behind, unindexed
		return nil, errors.Join(err, w.close())
	}
	if _, err = w.index.Seek(int64(w.count())*entrySize, io.SeekStart); err != nil {
		return nil, errors.Join(err, w.close())
	}
	return w, nil
}

func (w *web) count() int { return len(w.entries) }

// note takes an entry into account.
func (w *web) note(e entry) {
	w.entries = append(w.entries, e)
	if e.Job == 0 {
		w.loaded, w.since = int(e.Number), 0
	} else {
		w.since += w.across
	}
}

func (w *web) write(e entry) error {
	data := binary.BigEndian.AppendUint64(nil, uint64(e.Offset))
	data = binary.BigEndian.AppendUint32(data, uint32(e.Job))
	data = binary.BigEndian.AppendUint32(data, uint32(e.Number))
	if _, err := w.index.Write(data); err != nil {
		return fmt.Errorf("note a label: %w", err)
	}
	w.note(e)
	return nil
}

// load puts a roll of so many labels in.
func (w *web) load(labels int) error {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	return w.write(entry{Job: 0, Number: int32(labels), Offset: w.end})
}

// left returns how many labels the roll still has.
func (w *web) left() int {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	return w.loaded - w.since
}

// print lets one label out: its page first, then its entry.
func (w *web) print(job, number int, p *render.Plane, r measure.Resolution) error {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	if w.loaded <= w.since {
		return errRollEmpty
	}
	out := &countWriter{w: io.NewOffsetWriter(w.pages, w.end)}
	raster := pwg.NewWriter(out)
	if err := errors.Join(raster.Page(p, r, ""), raster.Flush()); err != nil {
		return err
	}
	start := w.end
	w.end += out.n
	return w.write(entry{start, int32(job), int32(number)})
}

type countWriter struct {
	w io.Writer
	n int64
}

func (c *countWriter) Write(p []byte) (int, error) {
	n, err := c.w.Write(p)
	c.n += int64(n)
	return n, err
}

// printed returns how many labels of a job came out.
func (w *web) printed(job int) int {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	n := 0
	for _, e := range w.entries {
		if e.Job == int32(job) {
			n = int(e.Number)
		}
	}
	return n
}

// An Out is a label that came out.
type Out struct {
	Place  int `json:"place"` // in all that came out, from 1
	Job    int `json:"job"`
	Number int `json:"number"` // in its job, from 1
}

// labels returns the labels that came out, of one job or of all (0), skipping some, at most so
// many; a negative skip counts from the end.
func (w *web) labels(job, skip, most int) (outs []Out, total int) {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	var all []Out
	place := 0
	for _, e := range w.entries {
		if e.Job == 0 {
			continue
		}
		place++
		if job == 0 || int(e.Job) == job {
			all = append(all, Out{place, int(e.Job), int(e.Number)})
		}
	}
	total = len(all)
	if skip < 0 {
		skip = max(total+skip, 0)
	}
	return all[min(skip, total):min(skip+most, total)], total
}

// page returns the raster of one label by its place, from 1, as a stream of its own.
func (w *web) page(place int) (io.Reader, bool) {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	for i, e := range w.entries {
		if e.Job == 0 {
			continue
		}
		if place--; place > 0 {
			continue
		}
		end := w.end
		if i+1 < len(w.entries) {
			end = w.entries[i+1].Offset
		}
		return io.NewSectionReader(w.pages, e.Offset, end-e.Offset), true
	}
	return nil, false
}

func (w *web) close() error { return errors.Join(w.pages.Close(), w.index.Close()) }
