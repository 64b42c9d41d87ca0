package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"oddspool/core/batch"
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

// An Order says which labels of a run to print.
type Order struct {
	Run        int64
	Printer    int64   // 0: that of the run
	Kind       string  // sample, rest, all, again
	Labels     []int   // for a sample or again; numbers in the run
	LeftOut    []int   // records whose labels must not be printed
	Separators [][]int // and of each part from 1 on
	Setup      stock.Setup
	Parts      []int // of the run, whose labels it has; nil: all
	Share      int   // it has this one of Shares equal parts of the labels, from 1; 0: the only one
	Shares     int
	Fill       string // see batch.FillThrough
	PerPage    int
	Start      int // places of the first sheet that are used already
	By         string
}

// Skip returns how many places of the first page of a slice that begins with a place stay blank.
func (p *Print) Skip(first int) int {
	if first == 1 {
		return p.Start
	}
	return 0
}

// StartPrints makes prints of one run, which runners take up; each is at another printer. Its refusals are ErrRunBusy
// and ErrNothingToPrint: no print has a label.
func (s *Store) StartPrints(ctx context.Context, orders []Order) (ids []int64, err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		run, kind := orders[0].Run, orders[0].Kind
		var has struct{ Closed, Busy, Doubted, Itself bool }
		const look = `select closed_at is not null as closed, doubted_at is not null as doubted,
				` + isItself + ` as itself, exists (select 1 from prints where run_id = $1 and state in ('printing',
						'held')) as busy from runs where id = $1`
		if _, err := tx.ExecContext(ctx, `select 1 from runs where id = $1 for update`, run); err != nil {
			return fmt.Errorf("lock run %d: %w", run, err)
		}
		if err := get(ctx, tx, &has, "run", run, look, run); err != nil {
			return err
		}
		switch {
		case !has.Itself:
			return ErrCopied
		case has.Doubted && kind != "again": // of what came out it is known
			return ErrRunDoubted
		case has.Busy:
			return ErrRunBusy
		case has.Closed && kind != "again":
			return ErrRunClosed
		}
		if _, err := tx.ExecContext(ctx, `update runs set moment = coalesce(moment, now())
				where id = $1`, run); err != nil {
			return fmt.Errorf("keep the moment of run %d: %w", run, err)
		}
		for i := range orders {
			id, err := startPrint(ctx, tx, &orders[i], has.Closed)
			if err != nil {
				return err
			}
			if id != 0 {
				ids = append(ids, id)
			}
		}
		if ids == nil {
			return ErrNothingToPrint
		}
		return nil
	})
	return ids, err
}

// StartPrint makes one print, as StartPrints does.
func (s *Store) StartPrint(ctx context.Context, o Order) (id int64, err error) {
	ids, err := s.StartPrints(ctx, []Order{o})
	if err != nil {
		return 0, err
	}
	return ids[0], nil
}

// meant are, as SQL, the labels of a run that a print is to have. The rest leaves out what came out, and what may have:
// a person says of that. Of a run that was given up only what came out is printed again: the numbers of other labels
// are nobody's, or somebody else's.
const meant = `select label, record, part
	from (select c.first_label + n as label, c.record, c.part from run_records c, generate_series(0, c.copies - 1) n
		where c.run_id = $2 and (c.part, c.record) not in (select * from unnest($3::int[], $4::int[]))
		and ($5::int[] is null or c.part = any($5))) l
	where ($6 or label in (select unnest($7::int[])))
	and (not $8 or label not in (select p.label from pieces p join prints q on q.id = p.print_id where q.run_id = $2
	and p.state in ('printed', 'unknown')))
	and (not $9 or label in (select p.label from pieces p join prints q on q.id = p.print_id where q.run_id = $2
	and p.state = 'printed'))`

// How labels get their places: in their order, as mostly, or ranked: share $10 of $11, and with $12 places on a page
// through all pages, one place of each after the other, so that the first places have a label more where there are not
// enough for all.
const (
	inOrder = `insert into pieces (print_id, place, label, record, part) select $1, row_number() over (order by label),
			label, record, part from (` + meant + `) m`
	ranked = `insert into pieces (print_id, place, label, record, part)
		select $1, case when $12 < 2
		or n <= $12 then k + 1
		when k < f * t then k
		% t * $12 + k / t + 1 else (k - f * t) % (t - 1) * $12 + f + (k - f * t) / (t - 1) + 1 end, label, record, part
		from (select *, (n + $12 - 1) / $12 as t, n - (n + $12 - 1) / $12 * $12 + $12 as f from (
			select label, record, part, row_number() over (order by label) - 1 as k, count(*) over () as n
			from (select *, ntile($11) over (order by label) as share
			from (` + meant + `) m) shared where share = $10) counted) placed`
)

// startPrint makes one of the prints; one that would have no label is not made, and its number is 0.
func startPrint(ctx context.Context, tx *sqlx.Tx, o *Order, closed bool) (id int64, err error) {
	setup, err := json.Marshal(o.Setup)
	if err != nil {
		return 0, fmt.Errorf("write set-up: %w", err)
	}
	const add = `insert into prints (run_id, printer_id, kind, state, label_count, setup, start_place, started_by)
		select $1, case when $6 > 0 then $6 else printer_id end, $2, 'printing', 1, $3, $4, $5 from runs where id = $1
		returning id`
	if err := tx.GetContext(ctx, &id, add, o.Run, o.Kind, string(setup), o.Start, o.By, o.Printer); err != nil {
		return 0, fmt.Errorf("add print of run %d: %w", o.Run, err)
	}
	var parts, records []int
	for part, leftOut := range append([][]int{o.LeftOut}, o.Separators...) {
		for _, record := range leftOut {
			parts, records = append(parts, part), append(records, record)
		}
	}
	if o.isPlain() {
		if begun, err := startListed(ctx, tx, id, o, parts, records); begun || err != nil {
			return id, err
		}
	}
	chosen, through := o.Kind == "sample" || o.Kind == "again", 1
	if o.Fill == batch.FillThrough {
		through = max(o.PerPage, 1)
	}
	query, args := inOrder, []any{id, o.Run, parts, records, o.Parts, !chosen, o.Labels, o.Kind == "rest", closed}
	if o.Shares > 1 || through > 1 {
		query, args = ranked, append(args, max(o.Share, 1), max(o.Shares, 1), through)
	}
	done, err := tx.ExecContext(ctx, query, args...)
	if err != nil {
		return 0, fmt.Errorf("list labels of run %d: %w", o.Run, err)
	}
	count, err := done.RowsAffected()
	if err != nil {
		return 0, fmt.Errorf("count labels: %w", err)
	}
	counted := `update prints set label_count = $2, first_label = (select label from pieces where print_id = $1
			and place = 1) where id = $1`
	if count == 0 {
		counted = `delete from prints where id = $1 and $2 = 0`
	}
	if _, err := tx.ExecContext(ctx, counted, id, count); err != nil {
		return 0, fmt.Errorf("count labels: %w", err)
	}
	if count == 0 {
		return 0, nil
	}
	return id, nil
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
