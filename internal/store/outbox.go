package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5/pgtype"
	"github.com/jmoiron/sqlx"
)

// A WriteBack is what a source is to be told of labels of one record that came out.
type WriteBack struct {
	ID        int64     `db:"id"`
	Mark      string    `db:"mark"` // by which the source knows it again
	FeedID    int64     `db:"feed_id"`
	RunID     int64     `db:"run_id"`
	Record    int       `db:"record"`
	Labels    int       `db:"labels"`
	Numbers   Ints      `db:"numbers"` // of the labels
	PrintedBy string    `db:"printed_by"`
	PrintedAt time.Time `db:"printed_at"`
	Tries     int       `db:"tries"`

	ConnectionID int64 `db:"connection_id"`
	SetID        int64 `db:"set_id"` // of the run: its record is the one that was printed
	Request      JSON  `db:"request"`
	WriteBack    JSON  `db:"write_back"`
}

// SetWriteBack says how a source is told what was printed; nil: it is not.
func (s *Store) SetWriteBack(ctx context.Context, feed int64, how JSON) error {
	const query = `update feeds set write_back = $2 where id = $1 returning id`
	var document *string
	if how != nil {
		text := string(how)
		document = &text
	}
	return get(ctx, s.DB, &feed, "source", feed, query, feed, document)
}

// toTell notes what the source of its records is to be told of places of a print that are out: each label of a run
// once, in whichever print it came out first, and whatever a person says of it later.
func toTell(ctx context.Context, tx *sqlx.Tx, print int64, first, last int) error {
	const query = `with told as (update pieces p set told = true
			from prints q join runs r on r.id = q.run_id join record_sets s on s.id = r.record_set_id
			join feeds f on f.id = s.feed_id and f.write_back is not null
			where p.print_id = $1 and q.id = $1 and p.place between $2 and $3 and p.state = 'printed' and p.part = 0
			and not p.told
				and not exists (select 1 from prints oq join pieces o on o.print_id = oq.id where oq.run_id = r.id
				and oq.id <> $1 and o.label = p.label and o.told)
			returning f.id as feed, r.id as run, p.record, p.label, q.started_by)
		insert into outbox (feed_id, run_id, record, labels, printed_by)
		select feed, run, record, array_agg(label order by label), started_by from told group by feed, run, record,
		started_by`
	if _, err := tx.ExecContext(ctx, query, print, first, last); err != nil {
		return fmt.Errorf("note what is to be told of print %d: %w", print, err)
	}
	return nil
}

// TakeOutbox returns some that are to be tried now, the longest waiting first, and has them wait a while, in which no
// other server tries them.
func (s *Store) TakeOutbox(ctx context.Context, most int) (waiting []WriteBack, err error) {
	const query = `with due as (select id from outbox where told_at is null and next_at <= now() order by next_at, id
			limit $1 for update skip locked),
		taken as (update outbox t set tries = tries + 1, next_at = now() + least(interval '1 hour',
		interval '15 seconds' * power(2, least(tries, 10)))
			from due where t.id = due.id returning t.*)
		select t.id, t.mark, t.feed_id, t.run_id, t.record, cardinality(t.labels) as labels, t.labels as numbers,
		t.printed_by, t.printed_at, t.tries, f.connection_id, f.request, f.write_back, r.record_set_id as set_id
		from taken t join feeds f on f.id = t.feed_id join runs r on r.id = t.run_id order by t.id`
	return waiting, list(ctx, s.DB, &waiting, query, most)
}

// LabelsOf notes the key of a write-back's record, and returns how many labels of that record have come out in all, of
// whichever run.
func (s *Store) LabelsOf(ctx context.Context, t *WriteBack, key []string) (labels int, err error) {
	const query = `with noted as (update outbox set key = $2 where id = $1)
		select coalesce(sum(cardinality(labels)), 0) from outbox where feed_id = $3 and (key = $2 or id = $1)`
	err = s.DB.GetContext(ctx, &labels, query, t.ID, pgtype.FlatArray[string](key), t.FeedID)
	if err != nil {
		return 0, fmt.Errorf("count labels of write-back %d: %w", t.ID, err)
	}
	return labels, nil
}

// Told notes that a source has taken a write-back, or with trouble why it has not.
func (s *Store) Told(ctx context.Context, id int64, trouble string) error {
	const query = `update outbox set trouble = $2, told_at = case when $2 = '' then now() end where id = $1
			returning id`
	return get(ctx, s.DB, &id, "write-back", id, query, id, trouble)
}

// TellNow has all that waits for a source tried at once.
func (s *Store) TellNow(ctx context.Context, feed int64) error {
	if _, err := s.DB.ExecContext(ctx, `update outbox set next_at = now() where feed_id = $1
			and told_at is null`, feed); err != nil {
		return fmt.Errorf("try write-backs of feed %d: %w", feed, err)
	}
	return nil
}

// An Outbox is how many of a source were told, and wait; and why the last did.
type Outbox struct {
	Told    int    `db:"told"`
	Waiting int    `db:"waiting"`
	Trouble string `db:"trouble"`
}

// OutboxOf counts those of a feed, in labels.
func (s *Store) OutboxOf(ctx context.Context, feed int64) (t Outbox, err error) {
	const query = `select coalesce(sum(cardinality(labels)) filter (where told_at is not null), 0) as told,
			coalesce(sum(cardinality(labels)) filter (where told_at is null), 0) as waiting,
		coalesce((array_agg(trouble order by id desc) filter (where trouble <> '' and told_at is null))[1],
		'') as trouble from outbox where feed_id = $1`
	if err := s.DB.GetContext(ctx, &t, query, feed); err != nil {
		return t, fmt.Errorf("count write-backs of feed %d: %w", feed, err)
	}
	return t, nil
}
