package store_test

import (
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

const lasts = time.Minute // of a lease in these tests

// take has a worker take the only print that may be worked on.
func take(t testing.TB, s *store.Store, worker string) store.Lease {
	leases, err := s.TakePrints(ctx, worker, lasts)
	require.NoError(t, err)
	require.Len(t, leases, 1)
	return leases[0]
}

// settle brings a slice of a print out, as the runner does: of all that is left so many labels, of which the first two
// are read.
func settle(t *testing.T, s *store.Store, printed int) store.Print {
	l := take(t, s, "one")
	first, last, _, err := s.Waiting(ctx, l.Print, 1000)
	require.NoError(t, err)
	slice := store.Slice{Job: 7, First: first, Last: last}
	require.NoError(t, s.BeginSlice(ctx, l, &slice))
	require.NoError(t, s.SettleSlice(ctx, l, &slice, printed, true))
	require.NoError(t, s.KeepReadings(ctx, l, &slice, []store.Reading{{Place: first, Back: "meant"},
		{Place: first + 1, Back: "other", As: "nothing"}}[:min(printed, 2)], nil))
	require.NoError(t, s.LetGo(ctx, l))
	p, err := s.Print(ctx, l.Print)
	require.NoError(t, err)
	return p
}

// hold holds the only print that may be worked on.
func hold(t *testing.T, s *store.Store) {
	require.NoError(t, s.Hold(ctx, take(t, s, "one"), "The printer was reset.", "Look."))
}

func states(t *testing.T, s *store.Store, print int64) (all []string) {
	pieces, err := s.Pieces(ctx, print, false, 0, 1000)
	require.NoError(t, err)
	for _, p := range pieces {
		all = append(all, string(p.State))
	}
	return all
}

func TestPrintsKnowEveryLabel(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 5), "Maren")
	require.NoError(t, err)
	sample, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "sample", Labels: []int{1, 2, 3}, By: "Maren"})
	require.NoError(t, err)
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", By: "Ines"})
	require.ErrorIs(t, err, store.ErrRunBusy)
	p := settle(t, s, 3)
	require.Equal(t, []any{"done", 3, 1, 1, 0}, []any{string(p.State), p.Printed, p.ReadMeant, p.ReadOther, p.ReadNone})
	other, err := s.Pieces(ctx, sample, true, 0, 10)
	require.NoError(t, err)
	require.Len(t, other, 1)
	require.Equal(t, "nothing", *other[0].ReadAs)

	// The rest leaves out what the sample brought, and record 4, whose labels have errors.
	rest, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", LeftOut: []int{4}, By: "Maren"})
	require.NoError(t, err)
	pieces, err := s.Pieces(ctx, rest, false, 0, 100)
	require.NoError(t, err)
	var got []string
	for _, piece := range pieces {
		got = append(got, fmt.Sprintf("%d:%d/%d", piece.Place, piece.Label, piece.Record))
	}
	require.Equal(t, []string{"1:4/2", "2:5/3", "3:6/3", "4:9/5", "5:10/5"}, got)
	slice, err := s.Slice(ctx, rest, &design.Design{}, nil, 4, 5)
	require.NoError(t, err)
	require.Equal(t, "N-005", slice[0][0])

	p = settle(t, s, 2)
	require.Equal(t, []any{"printing", 4, 10, 5}, []any{string(p.State), p.FirstLabel, p.LastLabel, p.LastOut})
	require.NoError(t, s.CancelPrint(ctx, rest, nil))
	l := take(t, s, "one")
	require.NoError(t, s.EndCancelled(ctx, l))
	require.Equal(t, []string{"printed", "printed", "cancelled", "cancelled", "cancelled"}, states(t, s, rest))
	run, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 5, run.Printed)
	require.Error(t, s.CancelPrint(ctx, rest, nil), "it is over")

	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "again", Labels: []int{2}, By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 1)
	run, err = s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 5, run.Printed, "a label counts once, however often it is printed")
	for _, order := range []store.Order{{Run: id, Kind: "again", Labels: []int{99}},
		{Run: id, Kind: "rest", LeftOut: []int{1, 2, 3, 4, 5}}} {
		_, err = s.StartPrint(ctx, order)
		require.ErrorIs(t, err, store.ErrNothingToPrint)
	}
	prints, err := s.PrintsOf(ctx, id)
	require.NoError(t, err)
	require.Len(t, prints, 3, "a refused order leaves nothing behind")
}

// A person speaks of the labels of the run, as they are numbered on the page, not of places in a print.
func TestHeldPrintGoesOnWhereAPersonSays(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 5), "Maren")
	require.NoError(t, err)
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "sample", Labels: []int{1, 2}, By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 2)
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", By: "Maren"}) // labels 3 to 10
	require.NoError(t, err)
	require.ErrorIs(t, s.GoOn(ctx, print, 3), store.ErrNotHeld)
	settle(t, s, 4) // up to 6
	hold(t, s)
	for _, label := range []int{2, 11, -1} {
		var none *store.NotOfPrintError
		require.ErrorAs(t, s.GoOn(ctx, print, label), &none)
		require.Equal(t, store.NotOfPrintError{Label: label, First: 3, Last: 10}, *none)
	}
	require.NoError(t, s.GoOn(ctx, print, 5))
	p, err := s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, []any{"printing", 3, 5, ""}, []any{string(p.State), p.Printed, p.LastOut, p.Note})
	require.Equal(t, []string{"printed", "printed", "printed", "waiting", "waiting", "waiting", "waiting", "waiting"},
		states(t, s, print))
	run, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 5, run.Printed)

	hold(t, s)
	require.NoError(t, s.GoOn(ctx, print, 0))
	require.Equal(t, 8, strings.Count(fmt.Sprint(states(t, s, print)), "waiting"), "0: none came out")
	hold(t, s)
	require.NoError(t, s.GoOn(ctx, print, 10))
	p, err = s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, "done", string(p.State))
}

// A label that was told as spoiled stays so, whatever is said afterwards of where its print is.
func TestSpoiledLabelsOfAHeldPrintStaySpoiled(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 5), "Maren")
	require.NoError(t, err)
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 6)
	hold(t, s)
	spoiled, err := s.SpoilLabels(ctx, id, []int{4}, store.SameNumber, "Maren")
	require.NoError(t, err)
	require.Equal(t, 1, spoiled)
	err = s.GoOn(ctx, print, 3)
	require.True(t, store.SpoiledSince.Is(err), "%v", err)
	require.ErrorContains(t, err, "Label 4 was told as spoiled")
	require.NoError(t, s.GoOn(ctx, print, 5))
	require.Equal(t, []string{"printed", "printed", "printed", "spoiled", "printed", "waiting", "waiting", "waiting",
		"waiting",
		"waiting"}, states(t, s, print))
	run, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 4, run.Printed, "the spoiled one is to be printed again")
	_, err = s.DB.Exec(`update pieces set state = 'printed' where print_id = $1 and state = 'spoiled'`, print)
	require.ErrorContains(t, err, "pieces do not go from spoiled to printed", "the database refuses what no table has")
}

// What was at a printer that cannot tell is neither printed nor to be printed: it is unknown until a person says.
func TestLabelsInDoubtAreUnknownUntilAPersonSays(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 5)
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	l := take(t, s, "one")
	slice := store.Slice{Job: 3, First: 1, Last: 4}
	require.NoError(t, s.BeginSlice(ctx, l, &slice))
	require.NoError(t, s.Hold(ctx, l, "It was reset.", "Look."))
	require.ErrorIs(t, s.MovePrint(ctx, print, plan.PrinterID, stock.Setup{}, nil), store.ErrUnsettled)
	require.NoError(t, s.CancelPrint(ctx, print, nil))
	require.Equal(t, []string{"unknown", "unknown", "unknown", "unknown", "cancelled", "cancelled", "cancelled",
		"cancelled", "cancelled", "cancelled"}, states(t, s, print))
	p, err := s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, 4, p.Unknown)

	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", By: "Maren"})
	require.NoError(t, err)
	require.Equal(t, 6, settle(t, s, 6).LabelCount, "the rest issues no label again that may be out already")
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "again", Labels: []int{3, 4}, By: "Maren"})
	require.NoError(t, err, "a person who looked may")

	other, err := s.AddPrinter(ctx, stock.Printer{Name: "Dock 3", Resolution: measure.DotsPerMillimetre(8),
		HeadDots: 832}, "", "")
	require.NoError(t, err)
	l = take(t, s, "one")
	require.NoError(t, s.BeginSlice(ctx, l, &store.Slice{Job: 4, First: 1, Last: 2}))
	require.NoError(t, s.Hold(ctx, l, "It does not answer.", "Look."))
	third := 3
	require.NoError(t, s.MovePrint(ctx, l.Print, other, stock.Setup{}, &third))
	p, err = s.Print(ctx, l.Print)
	require.NoError(t, err)
	require.Equal(t, []any{other, "printing", 1}, []any{p.PrinterID, string(p.State), p.Printed})
	require.Equal(t, 1, settle(t, s, 1).Printed-p.Printed)
}

// A server that was taken for dead changes nothing any more, whatever it wants to note.
func TestOnlyWhoHasTheLeaseWritesOfAPrint(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 5), "Maren")
	require.NoError(t, err)
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	leases, err := s.TakePrints(ctx, "one", 30*time.Millisecond)
	require.NoError(t, err)
	old := leases[0]
	slice := store.Slice{Job: 3, First: 1, Last: 4}
	require.NoError(t, s.BeginSlice(ctx, old, &slice))
	none, err := s.TakePrints(ctx, "two", lasts)
	require.NoError(t, err)
	require.Empty(t, none, "it is being worked on")
	require.Eventually(t, func() bool { leases, err = s.TakePrints(ctx, "two", lasts); return len(leases) == 1 },
		time.Second, 5*time.Millisecond)
	require.NoError(t, err)
	renewed, err := s.RenewLeases(ctx, []store.Lease{old}, lasts)
	require.NoError(t, err)
	require.Empty(t, renewed)
	renewed, err = s.RenewLeases(ctx, leases, lasts)
	require.NoError(t, err)
	require.Equal(t, leases, renewed)
	for name, write := range map[string]error{
		"a slice":       s.BeginSlice(ctx, old, &store.Slice{Job: 4, First: 5, Last: 6}),
		"what came":     s.SettleSlice(ctx, old, &slice, 4, false),
		"readings":      s.KeepReadings(ctx, old, &slice, []store.Reading{{Place: 1, Back: "meant"}}, nil),
		"progress":      s.NoteProgress(ctx, old, 2, "x", "y"),
		"that it holds": s.Hold(ctx, old, "x", "y"),
		"its end":       s.EndCancelled(ctx, old),
	} {
		require.ErrorIs(t, write, store.ErrLeaseLost, name)
	}
	require.NoError(t, s.LetGo(ctx, old))
	p, err := s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, []any{"printing", 0, "", true}, []any{string(p.State), p.Printed, p.Note, p.Leased})
	left, err := s.Slices(ctx, print)
	require.NoError(t, err)
	require.Len(t, left, 1)
	require.NoError(t, s.SettleSlice(ctx, leases[0], &left[0], 3, false), "who has it goes on where the other stopped")
	first, last, _, err := s.Waiting(ctx, print, 100)
	require.NoError(t, err)
	require.Equal(t, []int{4, 10}, []int{first, last})
}

// Each printer works on one print at a time, the oldest that is not held; other printers do not wait for it.
func TestPrintsAreTakenInTheOrderOfTheirPrinters(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 2)
	other, err := s.AddPrinter(ctx, stock.Printer{Name: "Dock 3", Resolution: measure.DotsPerMillimetre(8),
		HeadDots: 832}, "", "")
	require.NoError(t, err)
	start := func(printer int64) int64 {
		plan.PrinterID = printer
		run, err := s.PrepareRun(ctx, plan, "Maren")
		require.NoError(t, err)
		id, err := s.StartPrint(ctx, store.Order{Run: run, Kind: "all", By: "Maren"})
		require.NoError(t, err)
		return id
	}
	first, second, elsewhere := start(plan.PrinterID), start(plan.PrinterID), start(other)
	var group sync.WaitGroup
	var mutex sync.Mutex
	got := map[int64]store.Lease{}
	for i := range 8 { // servers that start at once
		group.Go(func() {
			leases, err := s.TakePrints(ctx, fmt.Sprint("worker ", i), lasts)
			mutex.Lock()
			defer mutex.Unlock()
			if err != nil {
				t.Error(err)
			}
			for _, l := range leases {
				if _, twice := got[l.Print]; twice {
					t.Error("two have the lease of a print")
				}
				got[l.Print] = l
			}
		})
	}
	group.Wait()
	require.Len(t, got, 2)
	require.Contains(t, got, elsewhere)
	require.NoError(t, s.Hold(ctx, got[first], "The cover is open.", "Close it."))
	require.Equal(t, second, take(t, s, "one").Print, "a held print keeps nobody waiting")
	require.NoError(t, s.GoOn(ctx, first, 0))
	none, err := s.TakePrints(ctx, "two", lasts)
	require.NoError(t, err)
	require.Empty(t, none, "and waits itself until the other is let go")
}

// Two people who press Print at the same moment start one print.
func TestOnlyOnePrintOfARunAtATime(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 50), "Maren")
	require.NoError(t, err)
	var group sync.WaitGroup
	results := make([]error, 6)
	for i := range results {
		group.Go(func() {
			_, results[i] = s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
		})
	}
	group.Wait()
	started := 0
	for _, err := range results {
		if err == nil {
			started++
		} else {
			require.ErrorIs(t, err, store.ErrRunBusy)
		}
	}
	require.Equal(t, 1, started)
	open, err := s.OpenPrints(ctx)
	require.NoError(t, err)
	require.Len(t, open, 1)
	require.True(t, open[0].First)
}

// What a job did not bring is the next to print, whatever came of the jobs behind it; and what comes after them is
// found, however little is asked for.
func TestWhatAJobLeftIsNext(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 6), "Maren")
	require.NoError(t, err)
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	l := take(t, s, "one")
	begin := func(first, last int) *store.Slice {
		slice := &store.Slice{Job: first, First: first, Last: last}
		require.NoError(t, s.BeginSlice(ctx, l, slice))
		return slice
	}
	waiting := func(most int) []int {
		first, last, _, err := s.Waiting(ctx, l.Print, most)
		require.NoError(t, err)
		return []int{first, last}
	}
	require.Equal(t, []int{1, 3}, waiting(3))
	short, whole := begin(1, 3), begin(4, 9)
	require.Equal(t, []int{10, 11}, waiting(2))
	require.NoError(t, s.SettleSlice(ctx, l, short, 1, false))
	require.Equal(t, []int{2, 3}, waiting(4))
	require.NoError(t, s.SettleSlice(ctx, l, whole, 6, false))
	require.Equal(t, []int{2, 3}, waiting(12))
	require.NoError(t, s.SettleSlice(ctx, l, begin(2, 3), 2, false))
	require.Equal(t, []int{10, 10}, waiting(1)) // 4 to 9 are looked past
	last := begin(10, 12)
	require.Equal(t, []int{0, 0}, waiting(5))
	require.NoError(t, s.SettleSlice(ctx, l, last, 3, false))
	p, err := s.Print(ctx, l.Print)
	require.NoError(t, err)
	require.Equal(t, []any{store.PrintDone, 12}, []any{p.State, p.Printed})
}

// A lease that would last longer than it was given for was given before the database's clock was set back: nobody waits
// for it.
func TestAClockThatIsSetBackHoldsNobodyUp(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 5), "Maren")
	require.NoError(t, err)
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	old := take(t, s, "one")
	taken, err := s.TakePrints(ctx, "two", lasts)
	require.NoError(t, err)
	require.Empty(t, taken, "it is in force")
	_, err = s.DB.Exec(`update prints
			set lease_until = lease_until + interval '1 hour'`) // as it looks when the clock went back by an hour
	require.NoError(t, err)
	taken, err = s.TakePrints(ctx, "two", lasts)
	require.NoError(t, err)
	require.Len(t, taken, 1)
	require.ErrorIs(t, s.NoteProgress(ctx, old, 1, "", ""), store.ErrLeaseLost)
	require.NoError(t, s.NoteProgress(ctx, taken[0], 1, "", ""))
	held, err := s.RenewLeases(ctx, taken, lasts)
	require.NoError(t, err)
	require.Len(t, held, 1)
}

// A chip that was written, and whose server was killed before its label was printed, is one chip.
func TestAChipIsNotedOnce(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 5), "Maren")
	require.NoError(t, err)
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	lease := take(t, s, "one")
	note := func(tid, epc, outcome string) int64 {
		tag := store.Tag{PrintID: print, RunID: id, Label: 1, TID: tid, EPC: epc, Outcome: outcome}
		require.NoError(t, s.NoteTag(ctx, lease, &tag, 1))
		return tag.ID
	}
	first := note("E2801160", "3034", store.TagWritten)
	require.Equal(t, first, note("E2801160", "3034", store.TagWritten))
	require.NotEqual(t, first, note("E2801161", "3034", store.TagWritten), "another chip")
	void := note("E2801162", "3034", store.TagVoid)
	require.NotEqual(t, void, note("E2801162", "3034", store.TagVoid), "each is printed over")
	tags, err := s.TagsOfRun(ctx, id, 0, 10)
	require.NoError(t, err)
	require.Len(t, tags, 4)
}
