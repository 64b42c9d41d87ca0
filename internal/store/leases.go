package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"
)

// A Lease is the right to work on a print. Its number only grows, and everything that is written under it is
// written only while it is in force: whoever has lost it, knowing or not, changes nothing any more.
type Lease struct {
	Print  int64 `db:"id"`
	Number int64 `db:"lease"`
}

// ErrLeaseLost says that another has taken a print over, or that it is over.
var ErrLeaseLost = errors.New("another has taken the print over")

// inForce tells, as SQL, whether the lease of a print is in force. One that would last longer than it was given for was
// given before the database's clock was set back: nobody waits for it.
func inForce(print string) string {
	return `coalesce(` + print + `.lease_until > clock_timestamp() and ` + print +
		`.lease_until <= clock_timestamp() + ` + print + `.lease_lasts * interval '1 millisecond', false)`
}

// TakePrints gives a worker the leases of prints that nobody works on: of each printer the first in line, and
// only where no other print of it is being worked on.
func (s *Store) TakePrints(ctx context.Context, worker string, lasts time.Duration) (leases []Lease, err error) {
	query := `update prints set lease = lease + 1, lease_worker = $1, lease_lasts = $2::bigint,
			lease_until = clock_timestamp() + $2::bigint * interval '1 millisecond'
		where ` + isItself + ` and id in (
			select p.id from prints p where p.state = 'printing' and not ` + inForce("p") + `
			and not exists (select 1 from prints o where o.printer_id = p.printer_id and o.id <> p.id
				and o.state = 'printing' and ((coalesce(o.turn, o.id), o.id) < (coalesce(p.turn, p.id), p.id) or ` +
		inForce("o") + `))
			for update skip locked)
		returning id, lease`
	if err := list(ctx, s.DB, &leases, query, worker, lasts.Milliseconds()); err != nil {
		return nil, fmt.Errorf("take prints: %w", err)
	}
	return leases, nil
}

// RenewLeases makes leases last on, all in one statement, and returns those that are still in force. One that nobody
// works on, since its being taken or given back was broken off, is not among them and ends by itself.
func (s *Store) RenewLeases(ctx context.Context, leases []Lease, lasts time.Duration) (held []Lease, err error) {
	prints, numbers := make([]int64, len(leases)), make([]int64, len(leases))
	for i, l := range leases {
		prints[i], numbers[i] = l.Print, l.Number
	}
	query := `update prints p set lease_lasts = $3::bigint,
			lease_until = clock_timestamp() + $3::bigint * interval '1 millisecond' from unnest($1::bigint[],
			$2::bigint[]) l (id, lease)
		where p.id = l.id and p.lease = l.lease and p.state = 'printing'
		and ` + inForce("p") + ` returning p.id, p.lease`
	if err := list(ctx, s.DB, &held, query, prints, numbers, lasts.Milliseconds()); err != nil {
		return nil, fmt.Errorf("renew leases: %w", err)
	}
	return held, nil
}

// LetGo ends a lease, so that another may take the print at once. One that is lost already is no error.
func (s *Store) LetGo(ctx context.Context, l Lease) error {
	if _, err := s.DB.ExecContext(ctx, `update prints set lease_until = null where id = $1
			and lease = $2`, l.Print, l.Number); err != nil {
		return fmt.Errorf("let print %d go: %w", l.Print, err)
	}
	return nil
}

// held tells, as SQL, whether print $1 is still worked on under lease $2.
var held = `lease = $2 and state = 'printing' and ` + inForce("prints")

// under runs do in a transaction that holds the print under a lease; it is ErrLeaseLost when that is over.
func (s *Store) under(ctx context.Context, l Lease, do func(tx *sqlx.Tx) error) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		var has bool
		if err := get(ctx, tx, &has, "print", l.Print, `select `+held+` from prints where id = $1 for update`, l.Print,
			l.Number); err != nil {
			return err
		}
		if !has {
			return ErrLeaseLost
		}
		return do(tx)
	})
}

// change runs a statement about the print, whose first argument is its id, under a lease.
func (s *Store) change(ctx context.Context, l Lease, query string, args ...any) error {
	return s.under(ctx, l, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, query, append([]any{l.Print}, args...)...); err != nil {
			return fmt.Errorf("note on print %d: %w", l.Print, err)
		}
		return nil
	})
}

// A Slice is some places of a print that a job of the printer brings out.
type Slice struct {
	Number int   `db:"number"`
	Job    int   `db:"device_job"`
	First  int   `db:"first_place"`
	Last   int   `db:"last_place"`
	Part   int   `db:"part"`  // of the run, whose labels it has
	Lease  int64 `db:"lease"` // under which it was begun
	Came   *int  `db:"came"`  // labels that came out; nil: it is not over
}

// Labels returns how many labels the slice has.
func (s *Slice) Labels() int { return s.Last - s.First + 1 }

// Slices returns the slices of a print that are at its printer, or wait to be read, in order.
func (s *Store) Slices(ctx context.Context, print int64) (slices []Slice, err error) {
	const query = `select number, device_job, first_place, last_place, lease, came, (select part from pieces
			where print_id = $1 and place = first_place) as part from slices where print_id = $1 order by number`
	return slices, list(ctx, s.DB, &slices, query, print)
}

// Waiting returns the next places of a print that are neither out nor at the printer, of those that follow
// one another without a gap and are of one part of its run; first is 0 when there are none.
func (s *Store) Waiting(ctx context.Context, print int64, most int) (first, last, part int, err error) {
	// So many places behind those at the printer are looked at, mostly the next; what the planner knows of a print that
	// was just begun is nothing.
	const query = `with looked as (select greatest(first_waiting, $3) as low, coalesce(listed,
			label_count) as label_count,
				greatest(first_waiting, $3, (select max(last_place) + 1 from slices where print_id = $1
				and came is null)) + $2 - 1 as high from prints where id = $1),
			next as (select p.place, p.part, p.place - row_number() over (order by p.place) as run from pieces p
				where p.print_id = $1 and p.place between (select low from looked) and (select high from looked)
				and p.state = 'waiting'
					and not exists (select 1 from slices s where s.print_id = $1 and s.came is null
					and p.place between s.first_place and s.last_place)
				order by p.place limit $2)
		select coalesce(min(place), 0) as first, coalesce(max(place), 0) as last, coalesce(min(part), 0) as part,
		coalesce((select high + 1 from looked where high < label_count), 0) as beyond
			from next where run = (select min(run) from next)
				and place < coalesce((select min(place) from next where part <> (select part from next order by place
				limit 1)), 2147483647)`
	var next struct{ First, Last, Part, Beyond int }
	for {
		if err := s.DB.GetContext(ctx, &next, query, print, most, next.Beyond); err != nil {
			return 0, 0, 0, fmt.Errorf("what print %d has left: %w", print, err)
		}
		if next.First > 0 || next.Beyond == 0 {
			return next.First, next.Last, next.Part, nil
		}
	}
}

// BeginSlice notes the printer's job that is to bring out some places, before a label of it is sent. Its number
// is filled in.
func (s *Store) BeginSlice(ctx context.Context, l Lease, slice *Slice) error {
	return s.under(ctx, l, func(tx *sqlx.Tx) error {
		if err := tx.GetContext(ctx, &slice.Number, `update prints set slices = slices + 1, note = '', note_do = ''
				where id = $1 returning slices`, l.Print); err != nil {
			return fmt.Errorf("begin a slice of print %d: %w", l.Print, err)
		}
		const query = `insert into slices (print_id, number, device_job, first_place, last_place, lease) values ($1, $2,
				$3, $4, $5, $6)`
		if _, err := tx.ExecContext(ctx, query, l.Print, slice.Number, slice.Job, slice.First, slice.Last,
			l.Number); err != nil {
			return fmt.Errorf("begin a slice of print %d: %w", l.Print, err)
		}
		slice.Lease = l.Number
		return sentNumbers(ctx, tx, l.Print, slice.First, slice.Last)
	})
}

// NoteProgress notes how many labels of the slices at the printer are known to be out, and what the print waits
// for, if anything.
func (s *Store) NoteProgress(ctx context.Context, l Lease, underWay int, note, do string) error {
	const query = `update prints set printed = least(settled + $2, label_count), note = $3, note_do = $4 where id = $1`
	return s.change(ctx, l, query, underWay, note, do)
}

// Hold stops a print until a person says how to go on.
func (s *Store) Hold(ctx context.Context, l Lease, note, do string) error {
	const query = `update prints set state = 'held', pause_by = null, note = $2, note_do = $3, lease_until = null
			where id = $1`
	return s.change(ctx, l, query, note, do)
}

// SettleSlice notes that a slice is over and how many of its labels came out. It waits to be read, where somebody
// looks at what comes out; else nothing more is known of it. The print ends when nothing is left to do.
func (s *Store) SettleSlice(ctx context.Context, l Lease, slice *Slice, came int, read bool) error {
	return s.under(ctx, l, func(tx *sqlx.Tx) error {
		end := `update slices set came = $3 where print_id = $1 and number = $2 and came is null returning number`
		if !read {
			end = `delete from slices where print_id = $1 and number = $2 and came is null and $3 >= 0 returning number`
		}
		var number int
		if err := get(ctx, tx, &number, "slice", int64(slice.Number), end, l.Print, slice.Number, came); err != nil {
			return err
		}
		const pieces = `update pieces set state = 'printed' where print_id = $1 and place between $2 and $3
				and state = 'waiting'`
		if _, err := tx.ExecContext(ctx, pieces, l.Print, slice.First, slice.First+came-1); err != nil {
			return fmt.Errorf("settle print %d: %w", l.Print, err)
		}
		// A label counts for its run once, in whichever print it came out first. Each is looked up by itself: what the
		// planner knows of the tables may be of long ago, and then it would rather read all of them.
		const run = `update runs r set last_printed_at =
				case when $2::int <= $3::int then now() else last_printed_at end, printed = printed + (select count(*)
				from pieces p where p.print_id = $1 and p.place between $2 and $3
				and (select 1 from prints q join pieces o on o.print_id = q.id where q.run_id = r.id and q.id <> $1
				and o.label = p.label and o.state = 'printed' limit 1) is null)
			where r.id = (select run_id from prints where id = $1)`
		if _, err := tx.ExecContext(ctx, run, l.Print, slice.First, slice.First+came-1); err != nil {
			return fmt.Errorf("count the run of print %d: %w", l.Print, err)
		}
		if err := toTell(ctx, tx, l.Print, slice.First, slice.First+came-1); err != nil {
			return err
		}
		if err := printedNumbers(ctx, tx, l.Print, slice.First, slice.First+came-1); err != nil {
			return err
		}
		const query = `update prints set settled = settled + $2, printed = settled + $2, failures =
				case when $2 > 0 then 0 else failures + 1 end,
			first_waiting = case when $3 <= first_waiting then $3 + $2 else first_waiting end, note = '', note_do = ''
			where id = $1`
		if _, err := tx.ExecContext(ctx, query, l.Print, came, slice.First); err != nil {
			return fmt.Errorf("settle print %d: %w", l.Print, err)
		}
		return finish(ctx, tx, l.Print)
	})
}

// A Reading is what a label that came out was read as.
type Reading struct {
	Place int
	Back  string // meant, other, none
	As    string // what was read, where it was other
}

// A Doubt is why a print is held, and what a person is to do.
type Doubt struct{ Note, Do string }

// KeepReadings keeps what the labels of a slice that is over were read as. Those without a reading were not
// looked at, and will not be. With a doubt the print is held, also where nothing of it is left.
func (s *Store) KeepReadings(ctx context.Context, l Lease, slice *Slice, readings []Reading, doubt *Doubt) error {
	return s.under(ctx, l, func(tx *sqlx.Tx) error {
		places, backs, reads := make([]int, len(readings)), make([]string, len(readings)), make([]string, len(readings))
		count := map[string]int{}
		for i, r := range readings {
			places[i], backs[i], reads[i] = r.Place, r.Back, r.As
			count[r.Back]++
		}
		const read = `update pieces p set read_back = r.back, read_as = nullif(r.reading, '')
			from unnest($2::int[], $3::text[], $4::text[]) r (place, back, reading) where p.print_id = $1
			and p.place = r.place`
		if _, err := tx.ExecContext(ctx, read, l.Print, places, backs, reads); err != nil {
			return fmt.Errorf("keep readings of print %d: %w", l.Print, err)
		}
		const counts = `update prints set read_meant = read_meant + $2, read_other = read_other + $3,
				read_none = read_none + $4 where id = $1`
		if _, err := tx.ExecContext(ctx, counts, l.Print, count["meant"], count["other"], count["none"]); err != nil {
			return fmt.Errorf("keep readings of print %d: %w", l.Print, err)
		}
		if _, err := tx.ExecContext(ctx, `delete from slices where print_id = $1
				and number = $2`, l.Print, slice.Number); err != nil {
			return fmt.Errorf("keep readings of print %d: %w", l.Print, err)
		}
		if doubt != nil {
			const hold = `update prints set state = 'held', pause_by = null, note = $2, note_do = $3, lease_until = null
					where id = $1`
			if _, err := tx.ExecContext(ctx, hold, l.Print, doubt.Note, doubt.Do); err != nil {
				return fmt.Errorf("hold print %d: %w", l.Print, err)
			}
			return nil
		}
		return finish(ctx, tx, l.Print)
	})
}

// EndCancelled ends a print that was asked to end and has nothing at its printer.
func (s *Store) EndCancelled(ctx context.Context, l Lease) error {
	return s.under(ctx, l, func(tx *sqlx.Tx) error { return finish(ctx, tx, l.Print) })
}
