// Package standin is the simulated outside: a label printer that speaks IPP, with a roll in it
// that counts down, sensors, a speed, faults on request, and a camera over what came out. It
// stands in for a device so that everything can be tried without one.
package standin

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"time"

	"oddspool/core/measure"
	"oddspool/core/stock"
)

// A Config says what printer to stand in for.
type Config struct {
	Printer stock.Printer
	Stock   stock.Stock // the roll that is in it
	Labels  int         // on a new roll; 0: as many as a full roll has, or 1,000
	Speed   int         // mm/s; 0: as fast as it can
	Folder  string      // for what came out and the jobs; empty: a temporary one, gone with Close
}

// A Fault is something a person must see to.
type Fault string

// The faults a printer can have.
const (
	NoFault    Fault = ""
	CoverOpen  Fault = "cover-open"
	MediaEmpty Fault = "media-empty"
	RibbonEnd  Fault = "marker-supply-empty"
	Jam        Fault = "media-jam"
	Paused     Fault = "paused"

	// Faults that the printer does not know of: it says that it prints.
	Stalled  Fault = "stalled"  // nothing comes out
	Feigning Fault = "feigning" // it counts labels, of which only the first comes out
)

// JobState is a job's state (RFC 8011, 5.3.7).
type jobState int

const (
	pending           jobState = 3
	held              jobState = 4
	processing        jobState = 5
	processingStopped jobState = 6
	canceled          jobState = 7
	aborted           jobState = 8
	completed         jobState = 9
)

func (s jobState) over() bool { return s >= canceled }

type job struct {
	ID      int       `json:"id"`
	Name    string    `json:"name"`
	User    string    `json:"user"`
	State   jobState  `json:"state"`
	Message string    `json:"message,omitempty"`
	Created time.Time `json:"created"`
	Began   time.Time `json:"began,omitzero"`
	Ended   time.Time `json:"ended,omitzero"`
	Format  string    `json:"format,omitempty"` // of its document
	// What it asked for: per cent, mm/s, and an enum of PWG 5100.1; 0: as the printer has it.
	Darkness  int `json:"darkness,omitempty"`
	Speed     int `json:"speed,omitempty"`
	Finishing int `json:"finishing,omitempty"`

	// The page it is for, in micrometres; 0: it does not say.
	Width  measure.Length `json:"width,omitempty"`
	Length measure.Length `json:"length,omitempty"`

	printed   int
	receiving bool   // a document is coming
	spool     string // path of its document; empty: none yet
}

// A Printer is a stand-in label printer. Handler serves it; Close ends it.
type Printer struct {
	config  Config
	folder  string
	started time.Time
	web     *web
	journal *os.File

	mutex   sync.Mutex
	changed chan struct{} // closed and made anew whenever something changes
	fault   Fault
	feigned bool // since the fault began a label came out
	speed   int
	stock   stock.Stock
	jobs    map[int]*job
	open    map[int]*job // those that are not over
	asked   time.Time    // when somebody last asked which printer this is
	needed  bool         // the first job in line waits for another stock
	lastID  int

	stop context.CancelFunc
	done chan struct{}
}

// New returns a printer that goes on where the one before it with the same folder stopped. Jobs
// that were not over then are aborted: the printer was switched off.
func New(config Config) (*Printer, error) {
	p := &Printer{config: config, folder: config.Folder, started: time.Now(), speed: config.Speed, stock: config.Stock,
		jobs: map[int]*job{}, open: map[int]*job{}, changed: make(chan struct{}), done: make(chan struct{})}
	var err error
	if p.folder == "" {
		p.folder, err = os.MkdirTemp("", "oddspool-standin-")
	} else {
		err = os.MkdirAll(p.folder, 0o755)
	}
	if err != nil {
		return nil, fmt.Errorf("a folder for the stand-in: %w", err)
	}
	if p.web, err = openWeb(p.folder); err != nil {
		return nil, fmt.Errorf("what came out before: %w", err)
	}
	if loaded, some := p.web.stock(); some {
		p.stock = loaded
	} else if err := p.web.load(p.stock, p.full()); err != nil {
		return nil, err
	}
	if err := p.openJournal(); err != nil {
		return nil, fmt.Errorf("the jobs before: %w", err)
	}
	ctx, stop := context.WithCancel(context.Background())
	p.stop = stop
	go p.work(ctx)
	return p, nil
}

// full returns how many units are in the printer when its stock is newly loaded: pieces, sheets, or
// micrometres of tape.
func (p *Printer) full() int {
	switch {
	case p.config.Labels > 0 && p.stock.Number == p.config.Stock.Number:
		return p.config.Labels
	case p.stock.Unit() == stock.InLength && p.stock.Roll != nil:
		return int(p.stock.Roll.Length(p.stock.Roll.Outside))
	case p.stock.Unit() == stock.InLength:
		return 30_000_000
	case p.stock.Unit() == stock.InSheets:
		return 100
	case p.stock.Flat():
		return 50
	case p.stock.Pieces() > 0:
		return p.stock.Pieces()
	}
	return 1000
}

// openJournal reads the jobs of earlier times and aborts those that were not over.
func (p *Printer) openJournal() error {
	path := filepath.Join(p.folder, "jobs.jsonl")
	data, err := os.ReadFile(path)
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return err
	}
	for line := range bytes.Lines(data) {
		var j job
		if json.Unmarshal(line, &j) == nil && j.ID > 0 {
			p.jobs[j.ID] = &j
			p.lastID = max(p.lastID, j.ID)
		}
	}
	if p.journal, err = os.OpenFile(path, os.O_APPEND|os.O_CREATE|os.O_WRONLY, 0o644); err != nil {
		return err
	}
	left, err := filepath.Glob(filepath.Join(p.folder, documents))
	for _, document := range left { // of jobs that a killed process had
		err = errors.Join(err, os.Remove(document))
	}
	if err != nil {
		return err
	}
	for _, j := range p.jobs {
		j.printed = p.web.printed(j.ID)
		if !j.State.over() {
			p.end(j, aborted, "The printer was switched off while the job was in it.")
		}
	}
	return nil
}

// note writes a job's state down. The caller holds the mutex, or is alone.
func (p *Printer) note(j *job) {
	line, _ := json.Marshal(j) // a job is plain values
	_, _ = p.journal.Write(append(line, '\n'))
	close(p.changed)
	p.changed = make(chan struct{})
}

func (p *Printer) end(j *job, state jobState, message string) {
	j.State, j.Message, j.Ended, j.receiving = state, message, time.Now(), false
	delete(p.open, j.ID)
	p.needed = false
	if j.spool != "" {
		os.Remove(j.spool)
		j.spool = ""
	}
	p.note(j)
}

// newJob adds a job without a document, which is held until one comes.
func (p *Printer) newJob(x *exchange) *job {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	p.lastID++
	j := &job{ID: p.lastID, Name: x.text("job-name"), User: x.text("requesting-user-name"), State: held,
		Created: time.Now()}
	x.asked(j)
	p.jobs[j.ID], p.open[j.ID] = j, j
	p.note(j)
	return j
}

// documents is the pattern of the names of what is spooled.
const documents = "job-*.document"

// receive notes that a job's document comes; false when it has one, or is over.
func (p *Printer) receive(j *job) bool {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	if j.State != held || j.receiving {
		return false
	}
	j.receiving = true
	return true
}

// document spools a document for a job. A document that breaks off aborts it.
func (p *Printer) document(j *job, format string, document io.Reader) error {
	path := filepath.Join(p.folder, strings.Replace(documents, "*", strconv.Itoa(j.ID), 1))
	file, err := os.Create(path)
	if err == nil {
		_, err = io.Copy(file, document)
		err = errors.Join(err, file.Close())
	}
	p.mutex.Lock()
	defer p.mutex.Unlock()
	j.spool, j.Format, j.receiving = path, format, false
	if j.State.over() { // cancelled meanwhile
		return errors.Join(err, os.Remove(path))
	}
	if err != nil {
		p.end(j, aborted, "The document broke off before its end.")
		return err
	}
	j.State = pending
	p.note(j)
	return nil
}

// cancel ends a job; false when it is over already.
func (p *Printer) cancel(id int) bool {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	j := p.jobs[id]
	if j == nil || j.State.over() {
		return false
	}
	p.end(j, canceled, "Cancelled.")
	return true
}

// SetFault makes a fault happen, or ends it. Ending MediaEmpty or RibbonEnd is loading a new one.
func (p *Printer) SetFault(f Fault) error {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	if f == NoFault && (p.fault == MediaEmpty || p.web.left() == 0) {
		if err := p.web.load(p.stock, p.full()); err != nil {
			return err
		}
	}
	p.setFault(f)
	return nil
}

// identified notes that somebody asked which printer this is.
func (p *Printer) identified() {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	p.asked = time.Now()
}

// secret tells whether the printer itself does not know of a fault.
func (f Fault) secret() bool { return f == Stalled || f == Feigning }

func (p *Printer) setFault(f Fault) {
	p.fault, p.feigned = f, false
	close(p.changed)
	p.changed = make(chan struct{})
}

// SetSpeed changes the speed in mm/s; 0 is as fast as it can.
func (p *Printer) SetSpeed(speed int) {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	p.speed = max(speed, 0)
}

// Left returns how many pieces, sheets or micrometres of tape are left.
func (p *Printer) Left() int { return p.web.left() }

// Load puts in so much of the stock that is in it.
func (p *Printer) Load(units int) error {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	return p.web.load(p.stock, units)
}

// ErrPrinting says that a stock cannot be changed while labels are moving.
var ErrPrinting = errors.New("The printer is printing. Wait until it is done, or cancel what it prints.")

// Change takes out what is loaded and puts in a full roll of another stock. Its error is a
// *MisfitError or ErrPrinting.
func (p *Printer) Change(s stock.Stock) error {
	if reasons := stock.Fit(s, p.config.Printer); reasons != nil {
		return &MisfitError{reasons[0].Text}
	}
	p.mutex.Lock()
	defer p.mutex.Unlock()
	for _, j := range p.open {
		if j.State == processing {
			return ErrPrinting
		}
	}
	p.stock = s
	if err := p.web.load(s, p.full()); err != nil {
		return err
	}
	fault := p.fault
	if fault == MediaEmpty {
		fault = NoFault
	}
	p.setFault(fault) // whoever waits for this stock looks again
	return nil
}

// A MisfitError says why a stock does not fit the printer.
type MisfitError struct{ Reason string }

func (e *MisfitError) Error() string { return e.Reason }

// Out returns how many labels came out since the folder was new.
func (p *Printer) Out() int {
	_, total := p.web.labels(0, 0, 0)
	return total
}

// Close ends the printer. What was printing stays where it is; the jobs are aborted at the next
// start. It says what it could not close.
func (p *Printer) Close() error {
	p.stop()
	<-p.done
	err := errors.Join(p.web.close(), p.journal.Close())
	if p.config.Folder == "" {
		err = errors.Join(err, os.RemoveAll(p.folder))
	}
	return err
}
