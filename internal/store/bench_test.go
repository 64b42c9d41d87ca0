package store_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

// BenchmarkPrepareNumbered prepares runs of 100,000 labels, each with a number of a series; and looks one number up
// among all.
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
		`insert into record_sets (name, fields, record_count, imported_by) select 'set ' || n,
				'{bin,contents,lot,serial}', 100, 'Maren' from generate_series(1, 20000) n`,
		`insert into records (record_set_id, number, "values") select s.id, n, array['B-' || s.id || '-' || n,
				'Sugar kelp, flaked', '26K' || s.id % 500, lpad((s.id * 100 + n)::text, 8, '0')]
			from record_sets s, generate_series(1, 100) n where s.name like 'set %'`,
		`insert into runs (design_revision_id, record_set_id, printer_id, records, how_many, label_count, chosen,
				prepared_by, prepared_at, says, last_printed_at, printed)
			select r.design_revision_id, s.id, r.printer_id, '', r.how_many, 100, 100, 'Maren',
			now() - s.id * interval '1 hour', r.says || ' ' || s.name, now() - s.id * interval '1 hour', 100
			from runs r, record_sets s where s.name like 'set %'`,
		`insert into run_records (run_id, record, first_label, copies) select r.id, n, n, 1 from runs r,
				generate_series(1, 100) n where r.record_set_id > 1`,
		`vacuum analyze`,
	} {
		_, err := s.DB.Exec(query)
		require.NoError(b, err)
	}
	day := time.Now().AddDate(-1, 0, 0)
	end := day.AddDate(0, 0, 1)
	for name, wanted := range map[string]store.RunsWanted{
		"the latest": {Most: 50}, "words": {Words: "maren dock 777", Most: 50},
		"a value":         {Words: "B-7777-7", Values: []string{"B-7777-7"}, Most: 50},
		"a value of many": {Words: "Sugar kelp, flaked", Values: []string{"Sugar kelp, flaked"}, Most: 50},
		"no such thing":   {Words: "nothing", Values: []string{"nothing"}, Most: 50},
		"a day":           {From: &day, To: &end, Most: 50},
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				_, err := s.Runs(ctx, wanted)
				require.NoError(b, err)
			}
		})
	}
}

// BenchmarkMillion prints a run of a million labels of a million records in a database that knows no statistics of its
// tables, as after a crash: how long it takes to start the print, until the first labels are known, and a slice in the
// middle of it.
func BenchmarkMillion(b *testing.B) {
	s := testkit.Store(b)
	small, err := s.PrepareRun(ctx, plant(b, s, 100), "Maren")
	require.NoError(b, err)
	_, err = s.StartPrint(ctx, store.Order{Run: small, Kind: "all", By: "Maren"})
	require.NoError(b, err)
	slice(b, s, take(b, s, "one"), 200)
	_, err = s.DB.Exec(`analyze`) // what is known is of those few
	require.NoError(b, err)
	plan := millionRecords(b, s)
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(b, err)
	b.Run("start", func(b *testing.B) {
		for b.Loop() {
			print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
			require.NoError(b, err)
			b.StopTimer()
			_, err = s.DB.Exec(`update prints set state = 'held' where id = $1`, print)
			require.NoError(b, err)
			require.NoError(b, s.CancelPrint(ctx, print, nil))
			b.StartTimer()
		}
	})
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", By: "Maren"})
	require.NoError(b, err)
	lease := take(b, s, "one")
	for _, settled := range []int{0, 100_000} {
		for done := 0; done < settled; done += 2500 {
			slice(b, s, lease, 2500)
		}
		b.Run(fmt.Sprintf("slice after %d", settled), func(b *testing.B) {
			for b.Loop() {
				slice(b, s, lease, 250)
			}
		})
	}
}

// millionRecords is a run of a label for each of a million records.
func millionRecords(b *testing.B, s *store.Store) store.RunPlan {
	plan := plant(b, s, 1)
	set := *plan.RecordSetID
	for _, query := range []string{
		`insert into records (record_set_id, number, "values") select $1, n, array['B-' || n, 'Sugar kelp, flaked',
				'26K' || n % 500, '', '', '', '', ''] from generate_series(2, 1000000) n`,
		`update record_sets set record_count = 1000000 where id = $1`,
	} {
		_, err := s.DB.Exec(query, set)
		require.NoError(b, err)
	}
	shares := make([]batch.Share, 1_000_000)
	for i := range shares {
		shares[i] = batch.Share{Record: i + 1, Copies: 1}
	}
	plan.Plan = batch.NewPlan(shares)
	return plan
}

// slice has the next labels of a print come out.
func slice(b *testing.B, s *store.Store, lease store.Lease, labels int) {
	p, err := s.Print(ctx, lease.Print)
	require.NoError(b, err)
	require.NoError(b, s.ListMore(ctx, lease, &p))
	first, last, _, err := s.Waiting(ctx, lease.Print, labels)
	require.NoError(b, err)
	of := store.Slice{Job: 7, First: first, Last: last}
	require.NoError(b, s.BeginSlice(ctx, lease, &of))
	records, err := s.Slice(ctx, lease.Print, numbered(), nil, first, last)
	require.NoError(b, err)
	require.Len(b, records, last-first+1)
	require.NoError(b, s.NoteProgress(ctx, lease, 1, "", ""))
	require.NoError(b, s.SettleSlice(ctx, lease, &of, last-first+1, false))
}
