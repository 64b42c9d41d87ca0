package store_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

// large is a run of one record set with so many copies of each of its records.
func large(t testing.TB, s *store.Store, records, copies int) (run int64) {
	plan := plant(t, s, records)
	shares := make([]batch.Share, records)
	for i := range shares {
		shares[i] = batch.Share{Record: i + 1, Copies: copies}
	}
	plan.Plan = batch.NewPlan(shares)
	run, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	return run
}

// A large print begins with a part of its places and ends with all of them: those that a small one has at once.
func TestALargePrintIsListedAsItGoesOn(t *testing.T) {
	s := testkit.Store(t)
	const records, copies = 300, 100
	run := large(t, s, records, copies)
	leftOut := []int{1, 17, 300}
	out := map[int]bool{}
	for _, record := range leftOut {
		for n := range copies {
			out[(record-1)*copies+n+1] = true
		}
	}
	print := func(kind string, left func(label int) bool) {
		id, err := s.StartPrint(ctx, store.Order{Run: run, Kind: kind, LeftOut: leftOut, By: "Maren"})
		require.NoError(t, err)
		wanted := []int{}
		for label := 1; label <= records*copies; label++ {
			if !out[label] && left(label) {
				wanted = append(wanted, label)
			}
		}
		p, err := s.Print(ctx, id)
		require.NoError(t, err)
		require.Equal(t, []int{len(wanted), wanted[0], wanted[len(wanted)-1]},
			[]int{p.LabelCount, p.FirstLabel, p.LastLabel}, kind)
		require.Less(t, p.Listed, p.LabelCount, "it began before all was written down")
		_, err = s.SpoilLabels(ctx, run, []int{records * copies}, store.SameNumber, "Maren")
		require.ErrorIs(t, err, store.ErrLabelsWait, "of one that is not written down yet")
		lease := take(t, s, "one")
		for p.State == store.PrintPrinting {
			require.NoError(t, s.ListMore(ctx, lease, &p))
			first, last, _, err := s.Waiting(ctx, id, 2000)
			require.NoError(t, err)
			require.Positive(t, first, "there is always something to print")
			slice := store.Slice{Job: 7, First: first, Last: last}
			require.NoError(t, s.BeginSlice(ctx, lease, &slice))
			require.NoError(t, s.SettleSlice(ctx, lease, &slice, slice.Labels(), false))
			p, err = s.Print(ctx, id)
			require.NoError(t, err)
		}
		require.Equal(t, store.PrintDone, p.State)
		require.Equal(t, p.LabelCount, p.Listed)
		pieces, err := s.Pieces(ctx, id, false, 0, records*copies)
		require.NoError(t, err)
		got := []int{}
		for i, piece := range pieces {
			require.Equal(t, []int{i + 1, (piece.Label-1)/copies + 1}, []int{piece.Place, piece.Record})
			got = append(got, piece.Label)
		}
		require.Equal(t, wanted, got, kind)
	}
	sample, err := s.StartPrint(ctx, store.Order{Run: run, Kind: "sample", Labels: []int{101, 150, 151, 20_000},
		By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 4)
	p, err := s.Print(ctx, sample)
	require.NoError(t, err)
	require.Equal(t, store.PrintDone, p.State)
	print("rest", func(label int) bool { return label != 101 && label != 150 && label != 151 && label != 20_000 })
	print("all", func(int) bool { return true })
}

// One that is cancelled while a part of it is written down leaves the rest for a later print.
func TestALargePrintIsCancelledInTheMiddle(t *testing.T) {
	s := testkit.Store(t)
	run := large(t, s, 30, 1000)
	id, err := s.StartPrint(ctx, store.Order{Run: run, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	lease := take(t, s, "one")
	slice := store.Slice{Job: 7, First: 1, Last: 250}
	require.NoError(t, s.BeginSlice(ctx, lease, &slice))
	require.NoError(t, s.SettleSlice(ctx, lease, &slice, 250, false))
	require.NoError(t, s.CancelPrint(ctx, id, nil))
	require.NoError(t, s.EndCancelled(ctx, lease))
	p, err := s.Print(ctx, id)
	require.NoError(t, err)
	require.Equal(t, []any{store.PrintCancelled, 250}, []any{p.State, p.Printed})
	_, err = s.SpoilLabels(ctx, run, []int{7}, store.SameNumber, "Maren")
	require.NoError(t, err, "nothing waits any more")
	rest, err := s.StartPrint(ctx, store.Order{Run: run, Kind: "rest", By: "Maren"})
	require.NoError(t, err)
	p, err = s.Print(ctx, rest)
	require.NoError(t, err)
	require.Equal(t, []int{30_000 - 249, 7, 30_000}, []int{p.LabelCount, p.FirstLabel, p.LastLabel})
}

// A slice of a large print reads its own rows and few others, whatever the planner knows: here of a small print long
// ago.
func TestASliceReadsLittle(t *testing.T) {
	s := testkit.Store(t)
	small := large(t, s, 10, 10)
	_, err := s.StartPrint(ctx, store.Order{Run: small, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 100)
	_, err = s.DB.Exec(`analyze`)
	require.NoError(t, err)
	run := large(t, s, 50, 1000)
	// all its places are written down
	_, err = s.StartPrint(ctx, store.Order{Run: run, Kind: "again", Labels: all(50_000), By: "Maren"})
	require.NoError(t, err)
	lease, err := s.TakePrints(ctx, "one", time.Hour)
	require.NoError(t, err)
	conn, err := s.Pool.Acquire(ctx)
	require.NoError(t, err)
	defer conn.Release()
	read := func() (rows int) {
		const query = `select coalesce(sum(seq_tup_read + coalesce(idx_tup_fetch, 0)), 0) from pg_stat_user_tables
				where relname in ('pieces', 'run_records', 'numbers', 'records')`
		require.NoError(t, conn.QueryRow(ctx, `select pg_stat_clear_snapshot()::text`).Scan(new(string)))
		require.NoError(t, conn.QueryRow(ctx, query).Scan(&rows))
		return rows
	}
	one, err := store.Open(ctx, testkit.SameAddress(t, s), 1) // whose counts are flushed
	require.NoError(t, err)
	defer one.Close()
	flush := func() {
		_, err := one.DB.Exec(`select pg_stat_force_next_flush()`)
		require.NoError(t, err)
		_, err = one.DB.Exec(`select 1`)
		require.NoError(t, err)
	}
	flush()
	before := read()
	first, last, _, err := one.Waiting(ctx, lease[0].Print, 250)
	require.NoError(t, err)
	slice := store.Slice{Job: 7, First: first, Last: last}
	require.NoError(t, one.BeginSlice(ctx, lease[0], &slice))
	_, err = one.Slice(ctx, lease[0].Print, numbered(), nil, first, last)
	require.NoError(t, err)
	require.NoError(t, one.SettleSlice(ctx, lease[0], &slice, 250, false))
	flush()
	require.Less(t, read()-before, 250*100,
		"rows that a slice of 250 labels reads: 150,000 where a whole print is read for it")
	require.Greater(t, read()-before, 250, "they are counted")
}

func all(n int) (numbers []int) {
	for i := range n {
		numbers = append(numbers, i+1)
	}
	return numbers
}
