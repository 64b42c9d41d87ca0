package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"
)

// What became of a tag.
const (
	TagWritten = "written"
	TagVoid    = "void" // its label is printed over
)

// A Tag is the chip of a label and what became of it.
type Tag struct {
	ID      int64     `db:"id"`
	PrintID int64     `db:"print_id"`
	RunID   int64     `db:"run_id"`
	Label   int       `db:"label"`
	TID     string    `db:"tid"`
	EPC     string    `db:"epc"`
	User    string    `db:"user_memory"`
	Outcome string    `db:"outcome"`
	Why     string    `db:"why"`
	Job     *int      `db:"job"` // that prints it over and is not known to be out
	At      time.Time `db:"at"`
}

// NoteTag notes what became of the tag of a place of a print, under a lease. Its number is filled in. Numbers of series
// that are in a chip have left: they are given to no other label.
func (s *Store) NoteTag(ctx context.Context, l Lease, t *Tag, place int) error {
	return s.under(ctx, l, func(tx *sqlx.Tx) error {
		// A server that was killed before it could print the label wrote this chip already.
		const again = `select coalesce(max(id), 0) from tags where print_id = $1 and label = $2 and tid = $3
				and epc = $4 and outcome = $5 and outcome = 'written'`
		if err := tx.GetContext(ctx, &t.ID, again, l.Print, t.Label, t.TID, t.EPC, t.Outcome); err != nil || t.ID > 0 {
			return err
		}
		const query = `insert into tags (print_id, run_id, label, tid, epc, user_memory, outcome, why)
			select $1, run_id, $2, $3, $4, $5, $6, $7 from prints where id = $1 returning id`
		if err := tx.GetContext(ctx, &t.ID, query, l.Print, t.Label, t.TID, t.EPC, t.User, t.Outcome,
			t.Why); err != nil {
			return fmt.Errorf("note a tag of print %d: %w", l.Print, err)
		}
		if t.Outcome != TagWritten {
			return nil
		}
		return sentNumbers(ctx, tx, l.Print, place, place)
	})
}

// VoidJob notes which job of the printer prints a tag over; 0: it is out.
func (s *Store) VoidJob(ctx context.Context, l Lease, tag int64, job int) error {
	return s.change(ctx, l, `update tags set job = nullif($3, 0) where print_id = $1 and id = $2`, tag, job)
}

// OpenVoids returns the tags of a print whose printing over is not known to be out.
func (s *Store) OpenVoids(ctx context.Context, print int64) (tags []Tag, err error) {
	return tags, list(ctx, s.DB, &tags, `select * from tags where print_id = $1 and job is not null order by id`, print)
}

// TagElsewhere returns a tag that says an identifier on another label than one of a run; nil: there is none.
func (s *Store) TagElsewhere(ctx context.Context, epc string, run int64, label int) (*Tag, error) {
	var tags []Tag
	const query = `select * from tags where epc = $1 and outcome = 'written' and (run_id, label) <> ($2, $3)
			order by id desc limit 1`
	if err := list(ctx, s.DB, &tags, query, epc, run, label); err != nil || len(tags) == 0 {
		return nil, err
	}
	return &tags[0], nil
}

// TagsLike returns the tags of a chip, or that say an identifier, the latest first.
func (s *Store) TagsLike(ctx context.Context, tid, epc string, most int) (tags []Tag, err error) {
	const query = `select * from tags where tid <> '' and tid = $1 or outcome = 'written' and epc = $2 order by id desc
			limit $3`
	return tags, list(ctx, s.DB, &tags, query, tid, epc, most)
}

// TagsOfRun returns the tags of a run in the order in which they were under the head.
func (s *Store) TagsOfRun(ctx context.Context, run int64, skip, most int) (tags []Tag, err error) {
	return tags, list(ctx, s.DB, &tags, `select * from tags where run_id = $1 order by id offset $2
			limit $3`, run, skip, most)
}

// SetEncoder says where the reader is that writes tags at a printer.
func (s *Store) SetEncoder(ctx context.Context, printer int64, address string) error {
	return get(ctx, s.DB, &printer, "printer", printer, `update printers set encoder = $2 where id = $1
			returning id`, printer, address)
}
