package store_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

// BenchmarkPrepareNumbered prepares runs of 100,000 labels, each with a number of a series; and looks one number up among all.
func BenchmarkPrepareNumbered(b *testing.B) {
	s := testkit.Store(b)
	crates(b, s, `{"start": "1", "step": 1, "width": 9, "prefix": "KW-", "check": "luhn"}`, store.ReturnUnused)
	plan := plant(b, s, 50_000)
	plan.Numbers = demand(plan.Plan, "crates")
	b.Run("prepare", func(b *testing.B) {
		for b.Loop() {
			_, err := s.PrepareRun(ctx, plan, "Maren")
			require.NoError(b, err)
		}
	})
	b.Run("labels", func(b *testing.B) {
		id, err := s.PrepareRun(ctx, plan, "Maren")
		require.NoError(b, err)
		r, err := s.Run(ctx, id)
		require.NoError(b, err)
		for b.Loop() {
			labels, err := s.RunLabels(ctx, &r, numbered("crates"), "Maren", 1, r.LabelCount, true)
			require.NoError(b, err)
			require.Len(b, labels, 100_000)
		}
	})
	b.Run("settle a slice", func(b *testing.B) {
		id, err := s.PrepareRun(ctx, plan, "Maren")
		require.NoError(b, err)
		_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
		require.NoError(b, err)
		leases, err := s.TakePrints(ctx, "one", time.Hour)
		require.NoError(b, err)
		for b.Loop() {
			first, last, _, err := s.Waiting(ctx, leases[0].Print, 250)
			require.NoError(b, err)
			slice := store.Slice{Job: 7, First: first, Last: last}
			require.NoError(b, s.BeginSlice(ctx, leases[0], &slice))
			_, err = s.Slice(ctx, leases[0].Print, numbered("crates"), nil, first, last)
			require.NoError(b, err)
			require.NoError(b, s.SettleSlice(ctx, leases[0], &slice, last-first+1, false))
		}
	})
	b.Run("look up", func(b *testing.B) {
		for b.Loop() {
			found, err := s.FindNumbers(ctx, []string{"KW-0000777775"}, 10)
			require.NoError(b, err)
			require.LessOrEqual(b, len(found), 1)
		}
	})
	b.Run("account", func(b *testing.B) {
		for b.Loop() {
			_, err := s.Accounts(ctx, nil)
			require.NoError(b, err)
		}
	})
}

// BenchmarkFindRuns finds runs among 20,000 with two million labels of two million records.
func BenchmarkFindRuns(b *testing.B) {
	s := testkit.Store(b)
	plan := plant(b, s, 100)
	_, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(b, err)
	for _, query := range []string{
		`insert into record_sets (name, fields, record_count, imported_by) select 'set ' || n, '{bin,contents,lot,serial}', 100, 'Maren' from generate_series(1, 20000) n`,
		`insert into records (record_set_id, number, "values") select s.id, n, array['B-' || s.id || '-' || n, 'Sugar kelp, flaked', '26K' || s.id % 500, lpad((s.id * 100 + n)::text, 8, '0')]
			from record_sets s, generate_series(1, 100) n where s.name like 'set %'`,
		`insert into runs (design_revision_id, record_set_id, printer_id, records, how_many, label_count, chosen, prepared_by, prepared_at, says, last_printed_at, printed)
			select r.design_revision_id, s.id, r.printer_id, '', r.how_many, 100, 100, 'Maren', now() - s.id * interval '1 hour', r.says || ' ' || s.name, now() - s.id * interval '1 hour', 100
			from runs r, record_sets s where s.name like 'set %'`,
		`insert into run_records (run_id, record, first_label, copies) select r.id, n, n, 1 from runs r, generate_series(1, 100) n where r.record_set_id > 1`,
		`vacuum analyze`,
	} {
		_, err := s.DB.Exec(query)
		require.NoError(b, err)
	}
	day := time.Now().AddDate(-1, 0, 0)
	end := day.AddDate(0, 0, 1)
	for name, wanted := range map[string]store.RunsWanted{
		"the latest": {Most: 50}, "words": {Words: "maren dock 777", Most: 50}, "a value": {Words: "B-7777-7", Values: []string{"B-7777-7"}, Most: 50},
		"a value of many": {Words: "Sugar kelp, flaked", Values: []string{"Sugar kelp, flaked"}, Most: 50}, "no such thing": {Words: "nothing", Values: []string{"nothing"}, Most: 50},
		"a day": {From: &day, To: &end, Most: 50},
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				_, err := s.Runs(ctx, wanted)
				require.NoError(b, err)
			}
		})
	}
}
