package store_test

import (
	"testing"

	"github.com/jmoiron/sqlx"
	"github.com/stretchr/testify/require"

	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

// openPlant is a database with a print under way, a run that is not begun, and numbers of each fate.
func openPlant(t *testing.T, s *store.Store) (print, prepared int64, series store.Series) {
	series = crates(t, s, `{"start": "1", "step": 1, "width": 4, "prefix": "K-"}`, store.ReturnUnused)
	plan := plant(t, s, 3)
	plan.Numbers = demand(plan.Plan, "crates")
	first, err := s.PrepareRun(ctx, plan, "Maren") // K-0001 to K-0006
	require.NoError(t, err)
	given, err := s.PrepareRun(ctx, plan, "Maren") // to K-0012
	require.NoError(t, err)
	prepared, err = s.PrepareRun(ctx, plan, "Maren") // to K-0018
	require.NoError(t, err)
	require.NoError(t, s.CloseRun(ctx, given, "Maren"))
	print, err = s.StartPrint(ctx, store.Order{Run: first, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 2)
	return print, prepared, series
}

// A database that was put back, by whatever way, holds all that is open; one that is what it was is left alone.
func TestACopyHoldsWhatIsOpen(t *testing.T) {
	for way, test := range map[string]struct {
		restore func(address, file string)
		why     string
	}{
		"into a new database": {func(address, file string) { testkit.Restore(t, address, file, false) },
			"into another database"},
		"into the same tables": {func(address, file string) { testkit.Restore(t, address, file, true) },
			"its tables were put back"},
	} {
		t.Run(way, func(t *testing.T) {
			address := testkit.Address(t)
			s, err := store.Open(ctx, address, 0)
			require.NoError(t, err)
			print, prepared, series := openPlant(t, s)
			for range 2 {
				why, err := s.Recognise(ctx, store.Seen{})
				require.NoError(t, err)
				require.Empty(t, why, "it is itself")
			}
			p, err := s.Print(ctx, print)
			require.NoError(t, err)
			require.Equal(t, store.PrintPrinting, p.State)
			file := testkit.Dump(t, address)
			require.NoError(t, s.Close())
			test.restore(address, file)

			s, err = store.Open(ctx, address, 0)
			require.NoError(t, err)
			defer s.Close()
			taken, err := s.TakePrints(ctx, "one", 1000)
			require.NoError(t, err)
			require.Empty(t, taken, "nothing goes on, even before it is recognised")
			_, err = s.StartPrint(ctx, store.Order{Run: prepared, Kind: "all", By: "Maren"})
			require.ErrorIs(t, err, store.ErrCopied)
			plan := plant(t, s, 1)
			plan.Numbers = demand(plan.Plan, "crates")
			_, err = s.PrepareRun(ctx, plan, "Maren")
			require.ErrorIs(t, err, store.ErrCopied)

			why, err := s.Recognise(ctx, store.Seen{})
			require.NoError(t, err)
			require.Contains(t, why, test.why)
			again, err := s.Recognise(ctx, store.Seen{})
			require.NoError(t, err)
			require.Empty(t, again, "it is told once")
			heldCopy(t, s, print, prepared, series)
		})
	}
}

// heldCopy sees that a copy holds what is open, and that a person brings it back to work without a number on two
// labels.
func heldCopy(t *testing.T, s *store.Store, print, prepared int64, series store.Series) {
	is, err := s.Copied(ctx)
	require.NoError(t, err)
	require.Equal(t, []int{1, 2}, []int{is.Series, is.Runs})
	p, err := s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, store.PrintHeld, p.State)
	require.Contains(t, p.Note, "put back from a copy")
	_, err = s.StartPrint(ctx, store.Order{Run: prepared, Kind: "all", By: "Maren"})
	require.ErrorIs(t, err, store.ErrRunDoubted)
	plan := plant(t, s, 1)
	plan.Numbers = demand(plan.Plan, "crates")
	_, err = s.PrepareRun(ctx, plan, "Maren")
	require.ErrorContains(t, err, "is held")
	require.Equal(t, []int{18, 10, 2, 0, 6, 0}, account(t, s, series.ID), "what was returned may be somebody's")

	require.ErrorContains(t, s.AdvanceSeries(ctx, series.ID, store.Advance{To: new(5), Who: "Ines"}), "never back")
	require.NoError(t, s.AdvanceSeries(ctx, series.ID, store.Advance{To: new(100), Who: "Ines",
		Why: "K-0100 is the last on a label"}))
	skips, err := s.Skips(ctx, series.ID, 10)
	require.NoError(t, err)
	require.Len(t, skips, 1)
	require.Equal(t, []any{18, 99, "Ines", "K-0100 is the last on a label"},
		[]any{skips[0].First, skips[0].Last, skips[0].SkippedBy, skips[0].Why})
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	require.Equal(t, []string{"K-0101", "K-0102"}, onLabels(t, s, id))
	require.NoError(t, s.TrustRun(ctx, prepared))
	require.NoError(t, s.GoOn(ctx, print, 6), "all of it was out")
	_, err = s.StartPrint(ctx, store.Order{Run: prepared, Kind: "all", By: "Maren"})
	require.NoError(t, err)
}

// A disk that was put back has no mark of its own: a server knows by what it remembers, and a clock of the log by its
// line.
func TestAServerRemembersItsDatabase(t *testing.T) {
	s := testkit.Store(t)
	_, err := s.Beat(ctx)
	require.NoError(t, err, "one that nobody worked on yet")
	_, err = s.Recognise(ctx, store.Seen{})
	require.NoError(t, err)
	seen, err := s.Beat(ctx)
	require.NoError(t, err)
	for _, ahead := range []int64{0, -1} {
		mine := seen
		mine.Beats += ahead
		why, err := s.Recognise(ctx, mine)
		require.NoError(t, err)
		require.Empty(t, why)
	}
	another := seen
	another.Installation, another.Beats = "another", seen.Beats+5
	why, err := s.Recognise(ctx, another)
	require.NoError(t, err)
	require.Empty(t, why, "what it remembers is of another database")
	mine := seen
	mine.Beats += 5
	why, err = s.Recognise(ctx, mine)
	require.NoError(t, err)
	require.Contains(t, why, "older than this server last saw")
	why, err = s.Recognise(ctx, mine)
	require.NoError(t, err)
	require.Empty(t, why, "it is told once")

	require.NoError(t, s.InTx(ctx, func(tx *sqlx.Tx) error { // as if another server had taken its place
		_, err := tx.Exec(`update installation set timeline = '000000FF', written = pg_current_xact_id()::text::bigint`)
		return err
	}))
	_, err = s.Beat(ctx)
	require.ErrorIs(t, err, store.ErrCopied)
	why, err = s.Recognise(ctx, store.Seen{})
	require.NoError(t, err)
	require.Contains(t, why, "earlier moment")
}

// Counts that begin later are put ahead too, since they may have begun elsewhere.
func TestASeriesIsPutAheadWithAllItsCounts(t *testing.T) {
	s := testkit.Store(t)
	series := crates(t, s, `{"start": "1", "step": 1}`, store.VoidUnused)
	take := func(key string) string {
		plan := plant(t, s, 1)
		plan.Numbers = []store.Demand{{Series: "crates",
			Spans: plan.Plan.Spans(0, nil, func(int) string { return key })}}
		id, err := s.PrepareRun(ctx, plan, "Maren")
		require.NoError(t, err)
		return onLabels(t, s, id)[0]
	}
	require.Equal(t, "1", take("lot A"))
	require.ErrorContains(t, s.AdvanceSeries(ctx, series.ID, store.Advance{To: new(9)}), "for each value of a field")
	require.NoError(t, s.AdvanceSeries(ctx, series.ID, store.Advance{By: 50, Who: "Ines"}))
	require.Equal(t, "53", take("lot A"), "two labels had 1 and 2")
	require.Equal(t, "51", take("lot B"))
	require.NoError(t, s.AdvanceSeries(ctx, series.ID, store.Advance{By: 0, Who: "Ines"}))
	require.Equal(t, "55", take("lot A"))
}
