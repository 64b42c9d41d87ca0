package standin

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"sync"

	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/internal/press/pwg"
)

// A web is what came out of the printer, kept in files that only grow: the pages as PWG raster, an
// index of fixed entries, and the stocks that were loaded. A page counts as printed when its entry is
// written whole, so the count survives kill -9 at any moment.
type web struct {
	mutex   sync.Mutex
	pages   *os.File
	index   *os.File
	stocks  *os.File
	end     int64 // of the last whole page
	entries []entry
	outs    []out         // pages in the order they came out
	jobs    map[int][]int // places of each job's pages, from 1
	loads   []stock.Stock // each stock that was loaded, in order
	loaded  int           // units that were loaded last
	since   int           // units used since then

	loadings int // entries of loads
}

// An out is a page that came out: which entry it is, and how many stocks had been loaded by then.
type out struct{ entry, loads int }

// An entry of the index: a page, or with Job 0 the loading of a stock of Number units.
type entry struct {
	Offset int64 // of its page
	Job    int32
	Number int32 // of the page in its job, from 1
	Used   int64 // units of the stock
}

const entrySize = 24

// errRollEmpty says that nothing is left to print on.
var errRollEmpty = errors.New("the roll is empty")

// units returns what is used up of a stock by a page of so many dots: micrometres of a tape, sheets,
// or pieces.
func units(s stock.Stock, height int, r measure.Resolution) int {
	switch s.Unit() {
	case stock.InLength:
		return int(r.Length(height) + s.Gap)
	case stock.InSheets:
		return 1
	}
	return s.Across()
}

func openWeb(folder string) (*web, error) {
	w := &web{jobs: map[int][]int{}}
	var err error
	for _, file := range []struct {
		name string
		to   **os.File
	}{{"web.pages", &w.pages}, {"web.entries", &w.index}, {"web.stocks", &w.stocks}} {
		if *file.to, err = os.OpenFile(filepath.Join(folder, file.name), os.O_RDWR|os.O_CREATE, 0o644); err != nil {
			return nil, errors.Join(err, w.close())
		}
	}
	stocks, err := io.ReadAll(w.stocks)
	if err != nil {
		return nil, errors.Join(err, w.close())
	}
	for line := range bytes.Lines(stocks) {
		var s stock.Stock
		if json.Unmarshal(line, &s) == nil { // one that a killed process left half written was not loaded
			w.loads = append(w.loads, s)
		}
	}
	data, err := io.ReadAll(w.index)
	if err != nil {
		return nil, errors.Join(err, w.close())
	}
	for ; len(data) >= entrySize; data = data[entrySize:] {
		w.note(entry{int64(binary.BigEndian.Uint64(data)), int32(binary.BigEndian.Uint32(data[8:])),
			int32(binary.BigEndian.Uint32(data[12:])), int64(binary.BigEndian.Uint64(data[16:]))})
	}
	// what a killed process left half written stays behind, unindexed
	if w.end, err = w.pages.Seek(0, io.SeekEnd); err != nil {
		return nil, errors.Join(err, w.close())
	}
	if _, err = w.index.Seek(int64(len(w.entries))*entrySize, io.SeekStart); err != nil {
		return nil, errors.Join(err, w.close())
	}
	return w, nil
}

// note takes an entry into account.
func (w *web) note(e entry) {
	w.entries = append(w.entries, e)
	if e.Job == 0 {
		w.loaded, w.since = int(e.Number), 0
		w.loadings++
		return
	}
	w.since += int(e.Used)
	w.outs = append(w.outs, out{len(w.entries) - 1, w.loadings})
	w.jobs[int(e.Job)] = append(w.jobs[int(e.Job)], len(w.outs))
}

func (w *web) write(e entry) error {
	data := binary.BigEndian.AppendUint64(nil, uint64(e.Offset))
	data = binary.BigEndian.AppendUint32(data, uint32(e.Job))
	data = binary.BigEndian.AppendUint32(data, uint32(e.Number))
	data = binary.BigEndian.AppendUint64(data, uint64(e.Used))
	if _, err := w.index.Write(data); err != nil {
		return fmt.Errorf("note a label: %w", err)
	}
	w.note(e)
	return nil
}

// load puts a stock of so many units in.
func (w *web) load(s stock.Stock, units int) error {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	line, err := json.Marshal(s)
	if err != nil {
		return fmt.Errorf("note a stock: %w", err)
	}
	if _, err := w.stocks.Write(append(line, '\n')); err != nil {
		return fmt.Errorf("note a stock: %w", err)
	}
	w.loads = append(w.loads, s)
	return w.write(entry{Job: 0, Number: int32(units), Offset: w.end})
}

// stock returns what is loaded; false when nothing ever was.
func (w *web) stock() (stock.Stock, bool) {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	if len(w.loads) == 0 {
		return stock.Stock{}, false
	}
	return w.loads[len(w.loads)-1], true
}

// left returns how many units are left.
func (w *web) left() int {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	return max(w.loaded-w.since, 0)
}

// print lets one page out: its dots first, then its entry.
func (w *web) print(job, number int, page *pwg.Page, r measure.Resolution) error {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	if w.loaded <= w.since {
		return errRollEmpty
	}
	out := &countWriter{w: io.NewOffsetWriter(w.pages, w.end)}
	raster := pwg.NewWriter(out)
	look := pwg.Look{Type: page.Type, Colours: render.Palette{Inks: page.Colours}}
	for i := range page.Layers {
		look.Ink = append(look.Ink, i)
	}
	if err := errors.Join(raster.Layers(page.Layers, look, r, ""), raster.Flush()); err != nil {
		return err
	}
	start := w.end
	w.end += out.n
	_, height := page.Layers.Size()
	return w.write(entry{start, int32(job), int32(number), int64(units(w.loads[len(w.loads)-1], height, r))})
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
	return len(w.jobs[job])
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
	place := func(i int) int { return i + 1 }
	if total = len(w.outs); job != 0 {
		places := w.jobs[job]
		total, place = len(places), func(i int) int { return places[i] }
	}
	if skip < 0 {
		if skip += total; skip < 0 { // of what lies before the first, nothing
			most, skip = most+skip, 0
		}
	}
	for i := min(skip, total); i < total && len(outs) < most; i++ {
		e := w.entries[w.outs[place(i)-1].entry]
		outs = append(outs, Out{place(i), int(e.Job), int(e.Number)})
	}
	return outs, total
}

// page returns the raster of one page by its place, from 1, as a stream of its own, and the stock it
// was printed on.
func (w *web) page(place int) (io.Reader, stock.Stock, bool) {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	if place < 1 || place > len(w.outs) {
		return nil, stock.Stock{}, false
	}
	is := w.outs[place-1]
	end := w.end
	if is.entry+1 < len(w.entries) {
		end = w.entries[is.entry+1].Offset
	}
	start := w.entries[is.entry].Offset
	return io.NewSectionReader(w.pages, start, end-start), w.loads[min(max(is.loads, 1), len(w.loads))-1], true
}

func (w *web) close() error {
	var err error
	for _, file := range []*os.File{w.pages, w.index, w.stocks} {
		if file != nil {
			err = errors.Join(err, file.Close())
		}
	}
	return err
}
