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
			first, last, err := s.Waiting(ctx, leases[0].Print, 250)
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
