package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"oddspool/core/stock"
)

// A Print is one order to bring labels of a run out of its printer.
type Print struct {
	ID          int64      `db:"id"`
	RunID       int64      `db:"run_id"`
	PrinterID   int64      `db:"printer_id"`
	Kind        string     `db:"kind"`
	State       string     `db:"state"`
	LabelCount  int        `db:"label_count"`
	Printed     int        `db:"printed"`
	CancelAsked bool       `db:"cancel_asked"`
	Note        string     `db:"note"`
	NoteDo      string     `db:"note_do"`
	DeviceJob   *int       `db:"device_job"`
	SliceFirst  *int       `db:"slice_first"`
	SliceLast   *int       `db:"slice_last"`
	Setup       JSON       `db:"setup"`
	Start       int        `db:"start_place"` // places of its first page that were used already
	Failures    int        `db:"failures"`
	StartedBy   string     `db:"started_by"`
	StartedAt   time.Time  `db:"started_at"`
	EndedAt     *time.Time `db:"ended_at"`
	ReadMeant   int        `db:"read_meant"`
	ReadOther   int        `db:"read_other"`
	FirstLabel  int        `db:"first_label"`
	Name        string     `db:"name"` // of the design
}

// The states of a print.
const (
	PrintPrinting  = "printing"
	PrintHeld      = "held"
	PrintDone      = "done"
	PrintCancelled = "cancelled"
)

const printQuery = `select p.id, p.run_id, r.printer_id, p.kind, p.state, p.label_count, p.printed, p.cancel_asked, p.note, p.note_do,
	p.device_job, p.slice_first, p.slice_last, p.setup, p.start_place, p.failures, p.started_by, p.started_at, p.ended_at, v.document->>'name' as name,
	coalesce((select label from pieces where print_id = p.id and place = 1), 0) as first_label,
	(select count(*) from pieces where print_id = p.id and read_back = 'meant') as read_meant,
	(select count(*) from pieces where print_id = p.id and read_back = 'other') as read_other
	from prints p join runs r on r.id = p.run_id join design_revisions v on v.id = r.design_revision_id `

// Print returns one print.
func (s *Store) Print(ctx context.Context, id int64) (p Print, err error) {
	return p, get(ctx, s.DB, &p, "print", id, printQuery+`where p.id = $1`, id)
}

// PrintsOf returns the prints of a run, the oldest first.
func (s *Store) PrintsOf(ctx context.Context, run int64) (prints []Print, err error) {
	return prints, list(ctx, s.DB, &prints, printQuery+`where p.run_id = $1 order by p.id`, run)
}

// OpenPrints returns all prints that are printing or held, the oldest first.
func (s *Store) OpenPrints(ctx context.Context) (prints []Print, err error) {
	return prints, list(ctx, s.DB, &prints, printQuery+`where p.state in ('printing', 'held') order by p.id`)
}

// IsNext tells whether a print is the first in line at its printer.
func (s *Store) IsNext(ctx context.Context, p *Print) (next bool, err error) {
	const query = `select not exists (select 1 from prints o join runs r on r.id = o.run_id
		where o.state = 'printing' and r.printer_id = $1 and o.id < $2)`
	if err := s.DB.GetContext(ctx, &next, query, p.PrinterID, p.ID); err != nil {
		return false, fmt.Errorf("who is next: %w", err)
	}
	return next, nil
}

// The refusals of StartPrint and GoOn.
var (
	ErrRunBusy        = errors.New("This run is printing already. Wait until it is done, or cancel it.")
	ErrNothingToPrint = errors.New("There is no label to print: all were printed, or all have findings that must be mended first.")
	ErrNotHeld        = errors.New("This print is not held: it goes on by itself, or is over.")
)

// An Order says which labels of a run to print.
type Order struct {
	Run     int64
	Kind    string // sample, rest, all, again
	Labels  []int  // for a sample or again; numbers in the run
	LeftOut []int  // records whose labels must not be printed
	Setup   stock.Setup
	Start   int // places of the first sheet that are used already
	By      string
}

// With returns the set-up that the print was started with.
func (p *Print) With() (stock.Setup, error) {
	var setup stock.Setup
	if err := json.Unmarshal(p.Setup, &setup); err != nil {
		return setup, fmt.Errorf("read the set-up of print %d: %w", p.ID, err)
	}
	return setup, nil
}

// Skip returns how many places of the first page of a slice that begins with a label stay blank.
func (p *Print) Skip(first int) int {
	if first == 1 {
		return p.Start
	}
	return 0
}

// StartPrint makes a print of a run and puts it in line. Its refusals are ErrRunBusy and
// ErrNothingToPrint.
func (s *Store) StartPrint(ctx context.Context, o Order, queue Queue) (id int64, err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `select 1 from runs where id = $1 for update`, o.Run); err != nil {
			return fmt.Errorf("lock run %d: %w", o.Run, err)
		}
		var busy bool
		const open = `select exists (select 1 from prints where run_id = $1 and state in ('printing', 'held'))`
		if err := tx.GetContext(ctx, &busy, open, o.Run); err != nil {
			return fmt.Errorf("look at run %d: %w", o.Run, err)
		}
		if busy {
			return ErrRunBusy
		}
		setup, err := json.Marshal(o.Setup)
		if err != nil {
			return fmt.Errorf("write set-up: %w", err)
		}
		const add = `insert into prints (run_id, kind, state, label_count, setup, start_place, started_by)
			values ($1, $2, 'printing', 1, $3, $4, $5) returning id`
		if err := tx.GetContext(ctx, &id, add, o.Run, o.Kind, string(setup), o.Start, o.By); err != nil {
			return fmt.Errorf("add print of run %d: %w", o.Run, err)
		}
		const pieces = `insert into pieces (print_id, place, label, record)
			select $1, row_number() over (order by label), label, record
			from (select c.first_label + n as label, c.record from run_records c, generate_series(0, c.copies - 1) n
				where c.run_id = $2 and c.record not in (select unnest($3::int[]))) l
			where ($4 or label in (select unnest($5::int[])))
			and (not $6 or label not in (select p.label from pieces p join prints q on q.id = p.print_id
				where q.run_id = $2 and p.state = 'printed'))`
		chosen := o.Kind == "sample" || o.Kind == "again"
		done, err := tx.ExecContext(ctx, pieces, id, o.Run, o.LeftOut, !chosen, o.Labels, o.Kind == "rest")
		if err != nil {
			return fmt.Errorf("list labels of run %d: %w", o.Run, err)
		}
		count, err := done.RowsAffected()
		if err != nil {
			return fmt.Errorf("count labels: %w", err)
		}
		if count == 0 {
			return ErrNothingToPrint
		}
		if _, err := tx.ExecContext(ctx, `update prints set label_count = $2 where id = $1`, id, count); err != nil {
			return fmt.Errorf("count labels: %w", err)
		}
		return queue(ctx, tx, id)
	})
	return id, err
}

// CancelPrint asks for a print to be ended. One that is held ends at once; one that is printing
// ends when the printer has stopped.
func (s *Store) CancelPrint(ctx context.Context, id int64) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		const query = `update prints set cancel_asked = true where id = $1 and state in ('printing', 'held') returning state`
		var state string
		if err := get(ctx, tx, &state, "open print", id, query, id); err != nil {
			return err
		}
		if state == PrintHeld {
			return endPrint(ctx, tx, id, PrintCancelled)
		}
		return nil
	})
}

func endPrint(ctx context.Context, tx *sqlx.Tx, id int64, state string) error {
	const end = `update prints set state = $2, ended_at = now(), note = '', note_do = '', device_job = null, slice_first = null, slice_last = null where id = $1`
	if _, err := tx.ExecContext(ctx, end, id, state); err != nil {
		return fmt.Errorf("end print %d: %w", id, err)
	}
	if _, err := tx.ExecContext(ctx, `update pieces set state = 'cancelled' where print_id = $1 and state = 'waiting'`, id); err != nil {
		return fmt.Errorf("end print %d: %w", id, err)
	}
	return nil
}

// BeginSlice notes the printer's job that is to bring out places first to last, before a label of
// it is sent.
func (s *Store) BeginSlice(ctx context.Context, id int64, job, first, last int) error {
	const query = `update prints set device_job = $2, slice_first = $3, slice_last = $4, note = '', note_do = '' where id = $1 and device_job is null`
	return s.one(ctx, query, id, job, first, last)
}

// NoteProgress notes how many labels of a print came out, and what it waits for, if anything.
func (s *Store) NoteProgress(ctx context.Context, id int64, printed int, note, do string) error {
	const query = `update prints set printed = greatest(printed, $2), note = $3, note_do = $4 where id = $1`
	return s.one(ctx, query, id, printed, note, do)
}

// Hold stops a print until a person says how to go on.
func (s *Store) Hold(ctx context.Context, id int64, note, do string) error {
	const query = `update prints set state = 'held', note = $2, note_do = $3 where id = $1 and state = 'printing'`
	return s.one(ctx, query, id, note, do)
}

func (s *Store) one(ctx context.Context, query string, args ...any) error {
	done, err := s.DB.ExecContext(ctx, query, args...)
	if err != nil {
		return fmt.Errorf("note on print %v: %w", args[0], err)
	}
	if n, err := done.RowsAffected(); err != nil || n != 1 {
		return fmt.Errorf("note on print %v: %d rows, %w", args[0], n, errors.Join(err, sql.ErrNoRows))
	}
	return nil
}

// A Reading is what a label that came out was read as.
type Reading struct {
	Place int
	Back  string // meant, other, none
	As    string // what was read, where it was other
}

// SettleSlice notes that the slice at the printer is over: places up to printed came out, and were
// read as given. The print is done when all came out, and cancelled when that was asked; what
// else tells is failed, the count of slices in a row that brought nothing.
func (s *Store) SettleSlice(ctx context.Context, p *Print, printed int, readings []Reading) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		places, backs, reads := make([]int, len(readings)), make([]string, len(readings)), make([]string, len(readings))
		for i, r := range readings {
			places[i], backs[i], reads[i] = r.Place, r.Back, r.As
		}
		const came = `update pieces set state = 'printed' where print_id = $1 and place <= $2 and state = 'waiting'`
		if _, err := tx.ExecContext(ctx, came, p.ID, printed); err != nil {
			return fmt.Errorf("settle print %d: %w", p.ID, err)
		}
		const read = `update pieces p set read_back = r.back, read_as = nullif(r.reading, '')
			from unnest($2::int[], $3::text[], $4::text[]) r (place, back, reading) where p.print_id = $1 and p.place = r.place`
		if _, err := tx.ExecContext(ctx, read, p.ID, places, backs, reads); err != nil {
			return fmt.Errorf("keep readings of print %d: %w", p.ID, err)
		}
		failures := 0
		if p.SliceFirst != nil && printed < *p.SliceFirst {
			failures = p.Failures + 1
		}
		const query = `update prints set printed = greatest(printed, $2), failures = $3, device_job = null, slice_first = null, slice_last = null,
			note = '', note_do = '' where id = $1 returning cancel_asked`
		var cancelled bool
		if err := tx.GetContext(ctx, &cancelled, query, p.ID, printed, failures); err != nil {
			return fmt.Errorf("settle print %d: %w", p.ID, err)
		}
		switch {
		case printed >= p.LabelCount:
			return endPrint(ctx, tx, p.ID, PrintDone)
		case cancelled:
			return endPrint(ctx, tx, p.ID, PrintCancelled)
		}
		return nil
	})
}

// GoOn lets a print that is held go on after the last label that came out, which a person has
// looked up. A print that is not held is ErrNotHeld.
func (s *Store) GoOn(ctx context.Context, id int64, lastOut int, queue Queue) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		const query = `update prints set state = 'printing', printed = $2, failures = 0, device_job = null, slice_first = null, slice_last = null,
			note = '', note_do = '' where id = $1 and state = 'held' and $2 between 0 and label_count returning label_count`
		var labels int
		err := tx.GetContext(ctx, &labels, query, id, lastOut)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNotHeld
		}
		if err != nil {
			return fmt.Errorf("go on with print %d: %w", id, err)
		}
		const pieces = `update pieces set state = case when place <= $2 then 'printed' else 'waiting' end where print_id = $1`
		if _, err := tx.ExecContext(ctx, pieces, id, lastOut); err != nil {
			return fmt.Errorf("go on with print %d: %w", id, err)
		}
		if lastOut >= labels {
			return endPrint(ctx, tx, id, PrintDone)
		}
		return queue(ctx, tx, id)
	})
}

// A Piece is one label of a print and what became of it.
type Piece struct {
	Place    int     `db:"place"`
	Label    int     `db:"label"`
	Record   int     `db:"record"`
	State    string  `db:"state"`
	ReadBack *string `db:"read_back"`
	ReadAs   *string `db:"read_as"`
}

// Pieces returns labels of a print in order; only those that read otherwise where asked.
func (s *Store) Pieces(ctx context.Context, print int64, onlyOther bool, skip, most int) (pieces []Piece, err error) {
	const query = `select place, label, record, state, read_back, read_as from pieces
		where print_id = $1 and (not $2 or read_back = 'other') order by place offset $3 limit $4`
	return pieces, list(ctx, s.DB, &pieces, query, print, onlyOther, skip, most)
}

// Slice returns the values of the records of some places of a print, in order.
func (s *Store) Slice(ctx context.Context, print int64, first, last int) ([][]string, error) {
	const query = `select r."values" from pieces p join prints q on q.id = p.print_id join runs u on u.id = q.run_id
		join records r on r.record_set_id = u.record_set_id and r.number = p.record
		where p.print_id = $1 and p.place between $2 and $3 order by p.place`
	return s.values(ctx, query, print, first, last)
}
