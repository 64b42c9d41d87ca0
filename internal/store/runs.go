package store

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/refusal"
)

// A Run is a design version and records, made ready to be printed.
type Run struct {
	ID          int64                   `db:"id"`
	RevisionID  int64                   `db:"design_revision_id"`
	DesignID    int64                   `db:"design_id"`
	Version     int                     `db:"version"`
	Document    JSON                    `db:"document"`
	RecordSetID *int64                  `db:"record_set_id"` // nil: a label without records
	RecordSet   string                  `db:"record_set"`
	Fields      Strings                 `db:"fields"`
	RecordCount int                     `db:"record_count"`
	PrinterID   int64                   `db:"printer_id"`
	SetupID     *int64                  `db:"setup_id"`
	Records     string                  `db:"records"` // which, as typed
	HowMany     Kept[batch.HowMany]     `db:"how_many"`
	LabelCount  int                     `db:"label_count"`
	Chosen      int                     `db:"chosen"` // records with labels
	Proof       JSON                    `db:"proof"`
	PreparedBy  string                  `db:"prepared_by"`
	PreparedAt  time.Time               `db:"prepared_at"`
	Printed     int                     `db:"printed"` // different labels that came out
	Answers     Kept[map[string]string] `db:"answers"` // to the design's questions, by their names
	Taken       Kept[[]batch.Taken]     `db:"taken"`   // quantities that are none, see batch.Taken

	Moment *time.Time `db:"moment"` // of its first print; nil: there was none

	ClosedAt *time.Time         `db:"closed_at"` // when what it had not printed was given up; nil: it was not
	ClosedBy string             `db:"closed_by"`
	Edits    int                `db:"edits"` // changes since it was prepared
	Numbers  Kept[[]RunNumbers] `db:"numbers"`

	Separators Kept[[]Separator] `db:"besides"` // what stands among its labels: part 1 and up
	// its labels may have been printed without this database's knowing, see ErrRunDoubted; nil: they were not
	DoubtedAt *time.Time `db:"doubted_at"`

	Pages *int `db:"pages"` // of its own printer; nil: as its labels fill them
	Part  int  `db:"-"`     // whose labels it stands for, see RunPart
}

// Design reads the design of the run. Its error is that of design.Parse.
func (r *Run) Design() (*design.Design, error) { return design.Parse(r.Document) }

// ToCompose returns the run's design as its labels are composed: with the answers that were given, at the moment of its
// first print or now. Its error is that of design.Parse.
func (s *Store) ToCompose(ctx context.Context, r *Run) (*design.Design, error) {
	d, err := r.Design()
	if err != nil {
		return nil, err
	}
	now := time.Now()
	if r.Moment != nil {
		now = r.Moment.Local()
	}
	d.Setting = s.Setting(ctx, now)
	d.Answers = r.Answers.V
	if d.Stock.Sheet != nil {
		d.Stock.Sheet.Down = r.HowMany.V.Fill == batch.FillDown
	}
	return d, nil
}

const runColumns = `r.id, r.design_revision_id, v.design_id, v.number as version, v.document, r.record_set_id,
	coalesce(s.name, '') as record_set, coalesce(s.fields, '{}') as fields, coalesce(s.record_count, 1) as record_count,
	r.printer_id, r.setup_id, r.records, r.how_many, r.label_count, r.proof,
	r.prepared_by, r.prepared_at, r.chosen, r.printed, r.answers, r.moment, r.taken, r.closed_at, r.closed_by, r.edits,
	r.numbers, r.besides, r.pages, r.doubted_at
	from runs r join design_revisions v on v.id = r.design_revision_id left
	join record_sets s on s.id = r.record_set_id`

// Run returns one run.
func (s *Store) Run(ctx context.Context, id int64) (r Run, err error) {
	const query = `select ` + runColumns + ` where r.id = $1`
	return r, get(ctx, s.DB, &r, "run", id, query, id)
}

// A RunEntry is a run in a list.
type RunEntry struct {
	ID            int64      `db:"id"`
	Name          string     `db:"name"` // of the design
	Version       int        `db:"version"`
	RecordSet     string     `db:"record_set"`
	FirstRecord   *int       `db:"first_record"`
	LabelCount    int        `db:"label_count"`
	Printed       int        `db:"printed"`
	PreparedBy    string     `db:"prepared_by"`
	PreparedAt    time.Time  `db:"prepared_at"`
	LastPrintedAt *time.Time `db:"last_printed_at"`
	State         string     `db:"state"`
	Printer       string     `db:"printer"`
}

// A RunsWanted says which runs are wanted in a list.
type RunsWanted struct {
	Words string // that stand in the names of design, records, printer, stock and who prepared it
	// or one of these is a value of a record of theirs (of 5,000 that say it), an answer, a number of a series or an
	// identifier in a chip of their labels
	Values []string
	// or this is a part of a value of a record of theirs, among the latest MostSearched records; empty: it is not
	// looked for
	Part     string
	From, To *time.Time
	Printed  bool // only those of which something came out
	Skip     int
	Most     int
}

// MostSearched is among how many records of the runs prepared last a part of a value is looked for.
const MostSearched = 100_000

// Runs returns runs, those that were lately printed or prepared first.
func (s *Store) Runs(ctx context.Context, wanted RunsWanted) (runs []RunEntry, err error) {
	// What has the value is looked up first: it is little, and in an index.
	const query = `with found as materialized (
			select r.id from (select record_set_id, number from records where "values" && $2::text[] limit 5000) x
			join runs r on r.record_set_id = x.record_set_id
				where exists (select 1 from run_records c where c.run_id = r.id and c.record = x.number)
			union select run_id from numbers where number = any($2) and state <> 'returned'
			union select run_id from tags where outcome = 'written' and epc = any(select upper(v)
			from unnest($2::text[]) v)
			union select run_id from tags where tid <> '' and tid = any(select upper(v) from unnest($2::text[]) v)
			union select run_id from run_answers where answer = any($2)
			union select r.id from (select id, answers from runs where answers <> '{}' order by id desc limit 20000) r,
			jsonb_each_text(r.answers) e where $8 <> '' and e.value ilike $8
			union select r.id from (
					select c.record_set_id, c.number from (select x.id from (select s.id,
					sum(s.record_count) over (order by s.last desc) as all_records
							from (select g.id, g.record_count, max(u.id) as last from runs u
							join record_sets g on g.id = u.record_set_id group by g.id, g.record_count) s) x
							where $8 <> '' and all_records <= $9) near
						join records c on c.record_set_id = near.id where array_to_string(c."values", E'\n') ilike $8
						limit 5000) x
				join runs r on r.record_set_id = x.record_set_id where exists (select 1 from run_records c
				where c.run_id = r.id and c.record = x.number)),
		listed as (select r.id, coalesce(r.last_printed_at, r.prepared_at) as at from runs r
			where (r.says ilike all ($1::text[]) or r.id in (select id from found)) and ($3::timestamptz is null
			or coalesce(r.last_printed_at, r.prepared_at) >= $3)
				and ($4::timestamptz is null or coalesce(r.last_printed_at, r.prepared_at) < $4) and (not $5
				or r.last_printed_at is not null)
			order by coalesce(r.last_printed_at, r.prepared_at) desc, r.id desc offset $6 limit $7)
		select r.id, v.document->>'name' as name, v.number as version, coalesce(s.name, '') as record_set,
		r.label_count, d.name as printer,
			r.prepared_by, r.prepared_at, f.record as first_record, r.printed, r.last_printed_at,
			case when p.printing then 'printing' when p.held then 'held' when r.printed >= r.label_count
			and r.label_count > 0 then 'printed'
				when r.printed > 0 then 'part' when p.cancelled then 'cancelled' else 'prepared' end as state
		from listed l join runs r on r.id = l.id
		join design_revisions v on v.id = r.design_revision_id
		join printers d on d.id = r.printer_id
		left join record_sets s on s.id = r.record_set_id
		left join run_records f on f.run_id = r.id and f.first_label = 1
		left join lateral (select bool_or(state = 'printing') as printing, bool_or(state = 'held') as held,
		bool_or(state = 'cancelled') as cancelled
			from prints where run_id = r.id) p on true
		order by l.at desc, r.id desc`
	words, part := patterns(wanted.Words), ""
	if wanted.Part != "" {
		part = pattern(wanted.Part)
	}
	return runs, list(ctx, s.DB, &runs, query, append([]string{}, words...), wanted.Values, wanted.From, wanted.To,
		wanted.Printed, wanted.Skip, wanted.Most, part, MostSearched)
}

// A RunPlan is what a run is prepared from.
type RunPlan struct {
	RevisionID  int64
	RecordSetID *int64 // nil: a label without records
	PrinterID   int64
	SetupID     *int64
	Records     string
	HowMany     batch.HowMany
	Answers     map[string]string
	Taken       []batch.Taken
	Plan        *batch.Plan
	Numbers     []Demand // of series
	Separators  []Separator
	Pages       *int
}

// columns returns quantities and answers as they are kept.
func (p *RunPlan) columns() (howMany, answers, taken, besides string, err error) {
	text := func(value any, none string) string {
		data, writeErr := json.Marshal(value)
		if err = errors.Join(err, writeErr); string(data) == "null" {
			return none
		}
		return string(data)
	}
	howMany, answers, taken = text(p.HowMany, ""), text(p.Answers, "{}"), text(p.Taken[:min(len(p.Taken), mostTaken)],
		"[]")
	besides = text(p.Separators, "[]")
	if err != nil {
		err = fmt.Errorf("write what a run is made of: %w", err)
	}
	return howMany, answers, taken, besides, err
}

// mostTaken is how many quantities that are none are kept to be told.
const mostTaken = 1000

// PrepareRun adds a run, and takes its numbers: all it needs, or the run is not there. Then the error is a
// *refusal.Error.
func (s *Store) PrepareRun(ctx context.Context, plan RunPlan, by string) (id int64, err error) {
	howMany, answers, taken, besides, err := plan.columns()
	if err != nil {
		return 0, err
	}
	err = pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		const query = `insert into runs (design_revision_id, record_set_id, printer_id, setup_id, records, how_many,
				label_count, chosen, prepared_by, answers, taken, besides, pages)
			values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13) returning id`
		row := tx.QueryRow(ctx, query, plan.RevisionID, plan.RecordSetID, plan.PrinterID, plan.SetupID, plan.Records,
			howMany, plan.Plan.Len(), plan.Plan.Chosen(), by, answers, taken, besides, plan.Pages)
		if err := row.Scan(&id); err != nil {
			return fmt.Errorf("add run: %w", err)
		}
		if err := copyShares(ctx, tx, id, plan.Plan); err != nil {
			return err
		}
		if err := describe(ctx, tx, id); err != nil {
			return err
		}
		return takeNumbers(ctx, tx, id, plan.Numbers, by)
	})
	return id, err
}

// describe writes what a run is found by.
func describe(ctx context.Context, tx pgx.Tx, run int64) error {
	const query = `update runs r set says = concat_ws(' ', v.document->>'name', (select name from record_sets
			where id = r.record_set_id), r.prepared_by, p.name,
			v.document->'stock'->>'name', v.document->'stock'->>'number')
		from design_revisions v, printers p where r.id = $1 and v.id = r.design_revision_id and p.id = r.printer_id`
	if _, err := tx.Exec(ctx, query, run); err != nil {
		return fmt.Errorf("describe run %d: %w", run, err)
	}
	return nil
}

func copyShares(ctx context.Context, tx pgx.Tx, run int64, plan *batch.Plan) error {
	shares, label, ordinals := plan.Shares(), 1, map[int]int{}
	return copyIn(ctx, tx, "run_records", []string{"run_id", "record", "first_label", "copies", "before", "part",
		"ordinal", "group_number", "group_labels"},
		pgx.CopyFromSlice(len(shares), func(i int) ([]any, error) {
			s := &shares[i]
			row := []any{run, s.Record, label, s.Copies, s.Before, s.Part, ordinals[s.Part], s.Group, s.Of}
			label += s.Copies
			ordinals[s.Part] += s.Copies
			return row, nil
		}))
}

// ErrRunStarted says that a run was printed from, and so keeps its labels.
var ErrRunStarted = refusal.Define("run.started", refusal.Conflict,
	"Labels of this run were printed, so it keeps its records and quantities. Prepare a "+
		"new run for others.").With()

// ChangeRun changes a run. One that was printed from keeps its records and quantities: to change them is ErrRunStarted,
// and to change anything while it is being printed is ErrRunBusy.
func (s *Store) ChangeRun(ctx context.Context, id int64, plan RunPlan, by string) error {
	howMany, answers, taken, besides, err := plan.columns()
	if err != nil {
		return err
	}
	return pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, `select 1 from runs where id = $1 for update`, id); err != nil {
			return fmt.Errorf("lock run %d: %w", id, err)
		}
		var now struct{ open, started, same bool }
		const look = `select exists (select 1 from prints where run_id = $1 and state in ('printing', 'held')),
				exists (select 1 from prints where run_id = $1),
			records = $2 and how_many = $3::jsonb and answers = $4::jsonb and besides = $5::jsonb from runs
			where id = $1`
		if err := tx.QueryRow(ctx, look, id, plan.Records, howMany, answers, besides).Scan(&now.open, &now.started,
			&now.same); err != nil {
			return fmt.Errorf("look at run %d: %w", id, err)
		}
		switch {
		case now.open:
			return ErrRunBusy
		case now.started && !now.same:
			return ErrRunStarted
		case now.started:
			if _, err := tx.Exec(ctx, `update runs set printer_id = $2, setup_id = $3, proof = null
					where id = $1`, id, plan.PrinterID, plan.SetupID); err != nil {
				return fmt.Errorf("change run %d: %w", id, err)
			}
			return describe(ctx, tx, id)
		}
		const query = `update runs set printer_id = $2, setup_id = $3, records = $4, how_many = $5, label_count = $6,
				chosen = $7, answers = $8, taken = $9, besides = $10, pages = $11, proof = null, edits = edits + 1
				where id = $1`
		if _, err := tx.Exec(ctx, query, id, plan.PrinterID, plan.SetupID, plan.Records, howMany, plan.Plan.Len(),
			plan.Plan.Chosen(), answers, taken, besides, plan.Pages); err != nil {
			return fmt.Errorf("change run %d: %w", id, err)
		}
		if _, err := tx.Exec(ctx, `delete from run_records where run_id = $1`, id); err != nil {
			return fmt.Errorf("change run %d: %w", id, err)
		}
		if err := copyShares(ctx, tx, id, plan.Plan); err != nil {
			return err
		}
		if err := describe(ctx, tx, id); err != nil {
			return err
		}
		return takeNumbers(ctx, tx, id, plan.Numbers, by)
	})
}

// RunPlanOf returns the labels of a run.
func (s *Store) RunPlanOf(ctx context.Context, id int64) (*batch.Plan, error) {
	rows, err := s.Pool.Query(ctx, `select record, copies, before, part, group_number, group_labels from run_records
			where run_id = $1 order by first_label`, id)
	if err != nil {
		return nil, fmt.Errorf("read run %d: %w", id, err)
	}
	shares, err := pgx.CollectRows(rows, pgx.RowToStructByPos[batch.Share])
	if err != nil {
		return nil, fmt.Errorf("read run %d: %w", id, err)
	}
	return batch.NewPlan(shares), nil
}

// LeftOut returns how many labels of a run are of records that its proof leaves out; 0 where there is no proof.
func (s *Store) LeftOut(ctx context.Context, r *Run) (labels int, err error) {
	if r.Proof == nil || bytes.Contains(r.Proof, []byte(`"leftOut": []`)) { // as it mostly is
		return 0, nil
	}
	const query = `select coalesce(sum(c.copies), 0) from run_records c where c.run_id = $1 and c.part = 0
		and c.record in (select e::int from runs r, jsonb_array_elements_text(r.proof->'leftOut') e where r.id = $1)`
	if err := s.DB.GetContext(ctx, &labels, query, r.ID); err != nil {
		return 0, fmt.Errorf("what run %d leaves out: %w", r.ID, err)
	}
	return labels, nil
}

// RunCopies returns how many labels a run has of the records from a number on; those without any
// are not there.
func (s *Store) RunCopies(ctx context.Context, id int64, from, most int) (map[int]int, error) {
	rows, err := s.Pool.Query(ctx, `select record, sum(copies) from run_records where run_id = $1 and part = 0
			and record >= $2 and record < $2 + $3 group by record`, id, from, most)
	if err != nil {
		return nil, fmt.Errorf("read run %d: %w", id, err)
	}
	copies := map[int]int{}
	var record, n int
	if _, err = pgx.ForEachRow(rows, []any{&record, &n}, func() error { copies[record] = n; return nil }); err != nil {
		return nil, fmt.Errorf("read run %d: %w", id, err)
	}
	return copies, nil
}

// CopiesOf returns how many labels a run has of some records, in their order.
func (s *Store) CopiesOf(ctx context.Context, id int64, records []int) ([]int, error) {
	const query = `select coalesce(sum(c.copies), 0) from unnest($2::int[]) with ordinality as wanted (number, place)
		left join run_records c on c.run_id = $1 and c.part = 0 and c.record = wanted.number group by wanted.place
		order by wanted.place`
	rows, err := s.Pool.Query(ctx, query, id, records)
	if err != nil {
		return nil, fmt.Errorf("read run %d: %w", id, err)
	}
	copies, err := pgx.CollectRows(rows, pgx.RowTo[int])
	if err != nil {
		return nil, fmt.Errorf("read run %d: %w", id, err)
	}
	return copies, nil
}

// KeepProof keeps what was found on a run's labels, unless the run was changed meanwhile.
func (s *Store) KeepProof(ctx context.Context, r *Run, proof []byte) error {
	const query = `update runs set proof = $2 where id = $1 and edits = $3`
	if _, err := s.DB.ExecContext(ctx, query, r.ID, string(proof), r.Edits); err != nil {
		return fmt.Errorf("keep proof of run %d: %w", r.ID, err)
	}
	return nil
}
