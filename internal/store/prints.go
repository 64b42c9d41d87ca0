package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"oddspool/core/refusal"
	"oddspool/core/stock"
)

// A Print is one order to bring labels of a run out of a printer.
type Print struct {
	ID          int64             `db:"id"`
	RunID       int64             `db:"run_id"`
	PrinterID   int64             `db:"printer_id"`
	Kind        string            `db:"kind"`
	State       PrintState        `db:"state"`
	LabelCount  int               `db:"label_count"`
	Settled     int               `db:"settled"` // labels of slices that are over
	Printed     int               `db:"printed"` // and those that are known to be out of the others
	CancelAsked bool              `db:"cancel_asked"`
	Note        string            `db:"note"`
	NoteDo      string            `db:"note_do"`
	Setup       Kept[stock.Setup] `db:"setup"`
	Start       int               `db:"start_place"` // places of its first page that were used already
	Failures    int               `db:"failures"`    // slices in a row that brought nothing
	StartedBy   string            `db:"started_by"`
	StartedAt   time.Time         `db:"started_at"`
	EndedAt     *time.Time        `db:"ended_at"`
	ReadMeant   int               `db:"read_meant"` // labels that a camera saw and that say what was meant
	ReadOther   int               `db:"read_other"` // and something else
	ReadNone    int               `db:"read_none"`  // and that have no code
	FirstLabel  int               `db:"first_label"`
	LastLabel   int               `db:"last_label"`
	LastOut     int               `db:"last_out"` // the last label that is known to be out; 0: none
	PauseBy     *string           `db:"pause_by"` // who asked for it to pause; nil: nobody
	InDoubt     bool              `db:"in_doubt"` // something is at its printer of which it is not known what came out
	Unknown     int               `db:"unknown"`  // labels of which nobody said whether they came out
	Name        string            `db:"name"`     // of the design
	First       bool              `db:"first"`    // in line at its printer
	Leased      bool              `db:"leased"`   // a server works on it
	Listed      int               `db:"listed"`   // places that are written down, see ListMore
	TagsWritten int               `db:"tags_written"`
	TagsVoided  int               `db:"tags_voided"` // labels that were printed over, since their tag is bad
}

var printQuery = `select p.id, p.run_id, p.printer_id, p.kind, p.state, p.label_count, p.settled, p.printed,
		p.cancel_asked, p.pause_by, p.note, p.note_do,
	p.setup, p.start_place, p.failures, p.started_by, p.started_at, p.ended_at, p.read_meant, p.read_other, p.read_none,
	p.first_label,
	coalesce(p.last_label, (select label from pieces where print_id = p.id and place = p.label_count), 0) as last_label,
	coalesce(p.listed, p.label_count) as listed,
	coalesce((select label from pieces where print_id = p.id and place = p.printed), 0) as last_out,
	(select count(*) from pieces where print_id = p.id and state = 'unknown') as unknown,
	exists (select 1 from slices s where s.print_id = p.id and s.came is null) as in_doubt,
	(select count(distinct label) from tags where print_id = p.id and outcome = 'written') as tags_written,
	(select count(*) from tags where print_id = p.id and outcome = 'void') as tags_voided,
	v.document->>'name' as name, ` + inForce("p") + ` as leased,
	not exists (select 1 from prints o where o.printer_id = p.printer_id and o.state = 'printing' and (coalesce(o.turn,
	o.id), o.id) < (coalesce(p.turn, p.id), p.id)) as first
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
	return prints, list(ctx, s.DB, &prints,
		printQuery+`where p.state in ('printing', 'held') order by coalesce(p.turn, p.id), p.id`)
}

// The refusals of those who order.
var (
	ErrRunBusy = refusal.Define("run.busy", refusal.Conflict,
		"This run is printing already. Wait until it is done, or cancel it.").With()
	ErrNothingToPrint = refusal.Define("print.nothing", refusal.Invalid,
		"There is no label to print: all were printed, or all have findings that must be "+
			"mended first.").With()
	ErrNotHeld = refusal.Define("print.not-held", refusal.Conflict,
		"This print is not held: it goes on by itself, or is over.").With()
	ErrUnsettled = refusal.Define("print.unsettled", refusal.Conflict,
		"It is not known which labels came out last. Look at the web, say which label was "+
			"the last, then move the print.").With()
)

// A NotOfPrintError says that a label is none of a print.
type NotOfPrintError struct{ Label, First, Last int }

func (e *NotOfPrintError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *NotOfPrintError) Refusal() *refusal.Error {
	return notOfPrint.With(e.Label, e.First, e.Last)
}

// CancelPrint asks for a print to be ended. One that is printing ends when the printer has stopped. One
// that is held ends at once: the last label that came out is what a person says, and without a word what was
// at the printer is unknown.
func (s *Store) CancelPrint(ctx context.Context, id int64, lastLabel *int) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		const query = `update prints set cancel_asked = true where id = $1 and state in ('printing', 'held')
				returning state`
		var state PrintState
		if err := get(ctx, tx, &state, "open print", id, query, id); err != nil {
			return err
		}
		if state != PrintHeld {
			return nil
		}
		if lastLabel != nil {
			if err := settleByWord(ctx, tx, id, *lastLabel); err != nil {
				return err
			}
		}
		return endPrint(ctx, tx, id, PrintCancelled)
	})
}

// GoOn lets a print that is held go on after the last label of the run that came out, which a person has
// looked up; 0: none did. A print that is not held is ErrNotHeld, a label that is none of it a
// *NotOfPrintError.
func (s *Store) GoOn(ctx context.Context, id int64, lastLabel int) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		if err := lockHeld(ctx, tx, id); err != nil {
			return err
		}
		if err := settleByWord(ctx, tx, id, lastLabel); err != nil {
			return err
		}
		return resume(ctx, tx, id)
	})
}

// MovePrint lets a print go on at another printer with a set-up of that one. What was at the printer must be
// settled, or is by the last label that a person says came out; else that is ErrUnsettled.
func (s *Store) MovePrint(ctx context.Context, id, printer int64, setup stock.Setup, lastLabel *int) error {
	document, err := json.Marshal(setup)
	if err != nil {
		return fmt.Errorf("write set-up: %w", err)
	}
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		const query = `update prints set printer_id = $2, setup = $3, lease = lease + 1, lease_until = null
				where id = $1 and state in ('printing', 'held') returning id`
		if err := get(ctx, tx, &id, "open print", id, query, id, printer, string(document)); err != nil {
			return err
		}
		if lastLabel != nil {
			if err := settleByWord(ctx, tx, id, *lastLabel); err != nil {
				return err
			}
		}
		var open bool
		if err := tx.GetContext(ctx, &open, `select exists (select 1 from slices where print_id = $1
				and came is null)`, id); err != nil {
			return fmt.Errorf("look at print %d: %w", id, err)
		}
		if open {
			return ErrUnsettled
		}
		return resume(ctx, tx, id)
	})
}

func lockHeld(ctx context.Context, tx *sqlx.Tx, id int64) error {
	var state string
	err := tx.GetContext(ctx, &state, `select state from prints where id = $1 and state = 'held' for update`, id)
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotHeld
	}
	if err != nil {
		return fmt.Errorf("look at print %d: %w", id, err)
	}
	return nil
}

// resume has a runner take a print up again, or ends it when there is nothing left to do.
func resume(ctx context.Context, tx *sqlx.Tx, id int64) error {
	const query = `update prints set state = 'printing', failures = 0, cancel_asked = false, pause_by = null,
			lease = lease + 1, lease_until = null, note = '', note_do = '' where id = $1`
	if _, err := tx.ExecContext(ctx, query, id); err != nil {
		return fmt.Errorf("go on with print %d: %w", id, err)
	}
	return finish(ctx, tx, id)
}

// settleByWord makes what a person says of a print true: its labels up to one of the run came out, later ones
// did not.
func settleByWord(ctx context.Context, tx *sqlx.Tx, id int64, lastLabel int) error {
	var has struct{ First, Last, Place int }
	const find = `select min(label) as first, max(label) as last, coalesce(max(place) filter (where label = $2),
			0) as place from pieces where print_id = $1`
	if err := tx.GetContext(ctx, &has, find, id, lastLabel); err != nil {
		return fmt.Errorf("look at print %d: %w", id, err)
	}
	if lastLabel != 0 && has.Place == 0 {
		return &NotOfPrintError{lastLabel, has.First, has.Last}
	}
	var spoiled int // a label that was told as spoiled came out
	const since = `select coalesce(max(label), 0) from pieces where print_id = $1 and place > $2 and state = 'spoiled'`
	if err := tx.GetContext(ctx, &spoiled, since, id, has.Place); err != nil {
		return fmt.Errorf("look for spoiled labels of print %d: %w", id, err)
	}
	if spoiled > 0 {
		return SpoiledSince.With(spoiled)
	}
	if err := unprintedNumbers(ctx, tx, id, has.Place); err != nil {
		return err
	}
	for _, query := range []string{
		`update pieces set state = case when place <= $2 then 'printed' else 'waiting' end,
			read_back = case when place <= $2 then read_back end, read_as = case when place <= $2 then read_as end
			where print_id = $1 and state <> 'spoiled'`,
		`delete from slices where print_id = $1 and (came is null or $2 < last_place)`,
		`update prints set settled = $2, printed = $2, first_waiting = $2 + 1,
			read_meant = (select count(*) from pieces where print_id = $1 and place <= $2 and read_back = 'meant'),
			read_other = (select count(*) from pieces where print_id = $1 and place <= $2 and read_back = 'other'),
			read_none = (select count(*) from pieces where print_id = $1 and place <= $2 and read_back = 'none')
			where id = $1`,
	} {
		if _, err := tx.ExecContext(ctx, query, id, has.Place); err != nil {
			return fmt.Errorf("settle print %d: %w", id, err)
		}
	}
	if err := toTell(ctx, tx, id, 1, has.Place); err != nil {
		return err
	}
	if err := printedNumbers(ctx, tx, id, 1, has.Place); err != nil {
		return err
	}
	return countRun(ctx, tx, id)
}

// countRun counts the labels of a print's run anew that came out.
func countRun(ctx context.Context, tx *sqlx.Tx, print int64) error {
	const query = `update runs r set last_printed_at = coalesce(last_printed_at, (select max(started_at) from prints
			where run_id = r.id and printed > 0)), printed = (select count(distinct p.label) from pieces p
			join prints q on q.id = p.print_id where q.run_id = r.id and p.state = 'printed')
		where r.id = (select run_id from prints where id = $1)`
	if _, err := tx.ExecContext(ctx, query, print); err != nil {
		return fmt.Errorf("count the run of print %d: %w", print, err)
	}
	return nil
}

// finish ends a print that has nothing left to do: every label came out, or none more is wanted, and nothing is
// at the printer or waits to be read.
func finish(ctx context.Context, tx *sqlx.Tx, id int64) error {
	var now struct {
		Done      bool `db:"done"`
		Cancelled bool `db:"cancelled"`
		Open      bool `db:"open"`
	}
	const query = `select settled >= label_count as done, cancel_asked as cancelled, exists (select 1 from slices
			where print_id = $1) as open
		from prints where id = $1`
	if err := tx.GetContext(ctx, &now, query, id); err != nil {
		return fmt.Errorf("look at print %d: %w", id, err)
	}
	switch {
	case now.Open:
		return nil
	case now.Done:
		return endPrint(ctx, tx, id, PrintDone)
	case now.Cancelled:
		return endPrint(ctx, tx, id, PrintCancelled)
	}
	return nil
}

// endPrint ends a print. What is still at its printer is unknown.
func endPrint(ctx context.Context, tx *sqlx.Tx, id int64, state PrintState) error {
	for _, query := range []string{
		`update pieces p set state = 'unknown' from slices s where p.print_id = $1 and s.print_id = $1
				and s.came is null
			and p.place between s.first_place and s.last_place and p.state = 'waiting'`,
		`update pieces set state = 'cancelled' where print_id = $1 and place >= (select first_waiting from prints
				where id = $1) and state = 'waiting'`,
		`delete from slices where print_id = $1`,
	} {
		if _, err := tx.ExecContext(ctx, query, id); err != nil {
			return fmt.Errorf("end print %d: %w", id, err)
		}
	}
	const end = `update prints set state = $2, listing = null, ended_at = now(), note = '', note_do = '',
			lease = lease + 1, lease_until = null where id = $1`
	if _, err := tx.ExecContext(ctx, end, id, state); err != nil {
		return fmt.Errorf("end print %d: %w", id, err)
	}
	return nil
}
