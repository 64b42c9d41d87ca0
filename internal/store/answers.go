package store

import (
	"context"
	"fmt"

	"github.com/jackc/pgx/v5"

	"oddspool/core/design"
	"oddspool/core/questions"
)

// An Answer is one to a question that is asked for each record, or for each label of one.
type Answer struct {
	Record int    `db:"record"`
	Copy   int    `db:"copy"` // which label of the record, from 1; 0: all of them
	Name   string `db:"name"` // of the question
	Answer string `db:"answer"`
}

// KeepAnswers keeps answers in place of those that were given before. A run that was printed from is ErrRunStarted.
func (s *Store) KeepAnswers(ctx context.Context, run int64, answers []Answer) error {
	return pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		var started bool
		const look = `select exists (select 1 from prints where run_id = $1) from runs where id = $1 for update`
		if err := tx.QueryRow(ctx, look, run).Scan(&started); err != nil {
			return notFound(err, "run", run)
		}
		if started {
			return ErrRunStarted
		}
		records, copies, names, texts := make([]int, len(answers)), make([]int, len(answers)),
			make([]string, len(answers)), make([]string, len(answers))
		for i, a := range answers {
			records[i], copies[i], names[i], texts[i] = a.Record, a.Copy, a.Name, a.Answer
		}
		const keep = `insert into run_answers (run_id, record, copy, name, answer) select $1, * from unnest($2::int[],
				$3::int[], $4::text[], $5::text[])
			on conflict (run_id, record, copy, name) do update set answer = excluded.answer`
		if _, err := tx.Exec(ctx, keep, run, records, copies, names, texts); err != nil {
			return fmt.Errorf("keep answers of run %d: %w", run, err)
		}
		if _, err := tx.Exec(ctx, `update runs set proof = null, edits = edits + 1 where id = $1`, run); err != nil {
			return fmt.Errorf("keep answers of run %d: %w", run, err)
		}
		return nil
	})
}

// Answers returns what was answered for some records of a run.
func (s *Store) Answers(ctx context.Context, run int64, records []int) (answers []Answer, err error) {
	const query = `select record, copy, name, answer from run_answers where run_id = $1 and record = any($2)`
	return answers, list(ctx, s.DB, &answers, query, run, records)
}

// CountAnswers returns how many answers the labels of a run have to some questions, and how many there are to give: for
// each record to those that are asked so, for each label to the others.
func (s *Store) CountAnswers(ctx context.Context, run int64, ofRecord, ofLabel []string) (given, wanted int,
	err error) {
	const query = `select (select count(*) from run_answers a where a.run_id = $1 and exists (select 1
			from run_records c where c.run_id = $1 and c.part = 0 and c.record = a.record
			and (a.copy = 0 and a.name = any($2) or a.copy between c.before + 1 and c.before + c.copies
			and a.name = any($3)))),
		(select chosen * cardinality($2::text[]) + (label_count - (select coalesce(sum((e->>'labels')::int), 0)
		from jsonb_array_elements(besides) e)) * cardinality($3::text[]) from runs where id = $1)`
	if err := s.Pool.QueryRow(ctx, query, run, ofRecord, ofLabel).Scan(&given, &wanted); err != nil {
		return 0, 0, fmt.Errorf("count answers of run %d: %w", run, err)
	}
	return given, wanted, nil
}

// labelValues are, as SQL, the values of a label behind those of its record, in the order of design.LabelFields: u is
// its run, l.label its number, l.part its part, d the printer. Among labels of other designs, each part counts its own.
// $1 to $5 are what behind gives; of the print %[1]s, and who prints it is %[2]s.
const labelValues = `(case when u.besides = '[]' then array[l.label::text, u.label_count::text, d.name, %[2]s,
		((l.label - 1) / $5::int + 1)::text, '1', u.label_count::text]
		else (select array[(c.ordinal + l.label - c.first_label + 1)::text,
				case when l.part = 0 then (u.label_count - (select sum((e->>'labels')::int)
				from jsonb_array_elements(u.besides) e))::text else u.besides->(l.part - 1)->>'labels' end,
				d.name, %[2]s, ((l.label - 1) / $5::int + 1)::text, greatest(c.group_number, 1)::text,
				c.group_labels::text]
			from run_records c where c.run_id = u.id and c.first_label <= l.label order by c.first_label desc
			limit 1) end)
	|| array(select coalesce((select a.answer from run_answers a where a.run_id = u.id and a.record = l.record
	and a.name = e.name
			and a.copy = case when e.each_label then (select c.before + l.label + 1 - c.first_label from run_records c
			where c.run_id = u.id and c.first_label <= l.label order by c.first_label desc limit 1) else 0 end),
			e.stand)
		from unnest($1::text[], $2::text[], $3::bool[]) with ordinality e (name, stand, each_label, place)
		order by e.place)
	|| array(select coalesce((select case when n.last_label >= l.label then n.number end from numbers n
			where n.run_id = u.id and n.series_id = e.id and n.first_label <= l.label and n.after_print < %[1]s
			and (n.last_print is null or n.last_print >= %[1]s) and n.state <> 'returned'
			order by n.run_id desc, n.series_id desc, n.first_label desc limit 1), '')
		from unnest($4::bigint[]) with ordinality e (id, place) order by e.place)`

// behind returns what labelValues need to know of the design of a run.
func (s *Store) behind(ctx context.Context, run int64, d *design.Design, fields []string) ([]any, error) {
	var names, stands, series []string
	var each []bool
	for _, q := range d.AskedEach(fields) {
		names, stands, each = append(names, q.Name), append(stands, q.Default),
			append(each, q.Each == questions.EachLabel)
	}
	for i := range d.Series {
		series = append(series, d.Series[i].Name)
	}
	var ids []int64
	const query = `select coalesce(array_agg(coalesce(s.id, 0) order by e.place), '{}')
			from unnest($2::text[]) with ordinality e (name, place)
		left join lateral (select s.id from series s where s.name = e.name and exists (select 1 from numbers n
		where n.run_id = $1 and n.series_id = s.id) limit 1) s on true`
	if series != nil {
		if err := s.Pool.QueryRow(ctx, query, run, series).Scan(&ids); err != nil {
			return nil, fmt.Errorf("look for the series of run %d: %w", run, err)
		}
	}
	return []any{names, stands, each, ids, max(d.Stock.PerPage(), 1)}, nil
}

// Slice returns the values of the labels on some places of a print, in order, as design.LabelFields names them.
func (s *Store) Slice(ctx context.Context, print int64, d *design.Design, fields []string, first, last int) ([][]string,
	error) {
	var run int64
	if err := get(ctx, s.DB, &run, "print", print, `select run_id from prints where id = $1`, print); err != nil {
		return nil, err
	}
	behind, err := s.behind(ctx, run, d, fields)
	if err != nil {
		return nil, err
	}
	query := `select coalesce(r."values", '{}') || ` + fmt.Sprintf(labelValues, "l.print_id", "q.started_by") + `
		from pieces l join prints q on q.id = l.print_id join runs u on u.id = q.run_id
		join printers d on d.id = q.printer_id
		left join records r on r.record_set_id = u.record_set_id and r.number = l.record
		where l.print_id = $6 and l.place between $7 and $8 order by l.place`
	return s.values(ctx, query, append(behind, print, first, last)...)
}

// A RunLabel is a label of a run with its values, as design.LabelFields names them.
type RunLabel struct {
	Label, Record int
	Values        []string
	First         int // the first label that it stands for, the last being Label
}

// RunLabels returns labels of a run as they are to be printed next: from one to another, or the last one of each record
// where all of a record say the same.
func (s *Store) RunLabels(ctx context.Context, r *Run, d *design.Design, by string, from, to int,
	each bool) ([]RunLabel, error) {
	behind, err := s.behind(ctx, r.ID, d, r.Fields)
	if err != nil {
		return nil, err
	}
	query := `select l.label, l.record, coalesce(r."values",
			'{}') || ` + fmt.Sprintf(labelValues, "9223372036854775807", "$10::text") + `, l.first
		from runs u join printers d on d.id = u.printer_id
		cross join lateral (select c.record, c.part, n as label, case when $9 then n else c.first_label end as first
		from run_records c,
			generate_series(case when $9 then c.first_label else c.first_label + c.copies - 1 end,
			c.first_label + c.copies - 1) n
			where c.run_id = u.id and c.part = $11 and c.first_label <= $8 and c.first_label + c.copies > $7) l
		left join records r on r.record_set_id = u.record_set_id and r.number = l.record
		where u.id = $6 and l.label between $7 and $8 order by l.label`
	rows, err := s.Pool.Query(ctx, query, append(behind, r.ID, from, to, each, by, r.Part)...)
	if err != nil {
		return nil, fmt.Errorf("read labels of run %d: %w", r.ID, err)
	}
	labels, err := pgx.CollectRows(rows, pgx.RowToStructByPos[RunLabel])
	if err != nil {
		return nil, fmt.Errorf("read labels of run %d: %w", r.ID, err)
	}
	return labels, nil
}
