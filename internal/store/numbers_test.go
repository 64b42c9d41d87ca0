package store_test

import (
	"fmt"
	"slices"
	"sync"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/questions"
	counting "oddspool/core/series"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

// numbered is a design whose labels have numbers of some series.
func numbered(names ...string) *design.Design {
	d := &design.Design{}
	for _, name := range names {
		d.Series = append(d.Series, design.Numbered{Name: name})
	}
	return d
}

// demand asks of a series for a number of each label.
func demand(plan *batch.Plan, name string) []store.Demand {
	return []store.Demand{{Series: name, Spans: plan.Spans(0, nil, func(int) string { return "" })}}
}

func crates(t testing.TB, s *store.Store, counts, unused string, numbers ...string) store.Series {
	var spec store.Kept[counting.Spec]
	require.NoError(t, spec.Scan(counts))
	id, err := s.AddSeries(ctx, store.Series{Name: "crates", Counts: spec, Unused: unused, Listed: numbers != nil,
		MadeBy: "Maren"}, numbers)
	require.NoError(t, err)
	made, err := s.SeriesOf(ctx, id)
	require.NoError(t, err)
	return made
}

// account returns taken, open, printed, spoiled, voided, returned; and sees that they come to what was taken.
func account(t *testing.T, s *store.Store, id int64) []int {
	accounts, err := s.Accounts(ctx, &id)
	require.NoError(t, err)
	require.Len(t, accounts, 1)
	a := accounts[0]
	require.Equal(t, a.Taken, a.Open+a.Printed+a.Spoiled+a.Voided+a.Returned)
	return []int{a.Taken, a.Open, a.Printed, a.Spoiled, a.Voided, a.Returned}
}

// onLabels returns the numbers of the labels of a run, in their order, as they are printed next.
func onLabels(t *testing.T, s *store.Store, run int64) (numbers []string) {
	r, err := s.Run(ctx, run)
	require.NoError(t, err)
	labels, err := s.RunLabels(ctx, &r, numbered("crates"), "Maren", 1, r.LabelCount, true)
	require.NoError(t, err)
	for _, label := range labels {
		numbers = append(numbers, label.Values[len(label.Values)-1])
	}
	return numbers
}

func TestEveryNumberHasAFate(t *testing.T) {
	s := testkit.Store(t)
	series := crates(t, s, `{"start": "0417", "step": 1, "width": 4, "prefix": "KW-"}`, store.ReturnUnused)
	plan := plant(t, s, 3) // two labels of each
	plan.Numbers = demand(plan.Plan, "crates")
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	require.Equal(t, []string{"KW-0417", "KW-0418", "KW-0419", "KW-0420", "KW-0421", "KW-0422"}, onLabels(t, s, id))
	require.Equal(t, []int{6, 6, 0, 0, 0, 0}, account(t, s, series.ID))

	// Another choice keeps the numbers that it needs.
	plan.Plan = batch.NewPlan([]batch.Share{{Record: 1, Copies: 1}, {Record: 3, Copies: 4}})
	plan.Numbers = demand(plan.Plan, "crates")
	require.NoError(t, s.ChangeRun(ctx, id, plan, "Ines"))
	require.Equal(t, []string{"KW-0417", "KW-0418", "KW-0419", "KW-0420", "KW-0421"}, onLabels(t, s, id))
	require.Equal(t, []int{6, 5, 0, 0, 0, 1}, account(t, s, series.ID))
	found, err := s.FindNumbers(ctx, []string{"KW-0422"}, 10)
	require.NoError(t, err)
	require.Len(t, found, 1)
	require.Equal(t, []any{"returned", "Maren", "Ines", "the run was changed before it was printed"},
		[]any{string(found[0].State), found[0].TakenBy, found[0].ChangedBy, found[0].Why})

	// Three labels come out; the third is spoiled, and the print of the others is lost sight of.
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 3)
	require.Equal(t, []int{6, 2, 3, 0, 0, 1}, account(t, s, series.ID))
	hold(t, s)
	require.NoError(t, s.GoOn(ctx, print, 4), "no: four were out")
	require.Equal(t, []int{6, 1, 4, 0, 0, 1}, account(t, s, series.ID))
	hold(t, s)
	require.NoError(t, s.GoOn(ctx, print, 3), "no: three, after all")
	require.Equal(t, []int{6, 2, 3, 0, 0, 1}, account(t, s, series.ID))
	require.ErrorIs(t, s.CloseRun(ctx, id, "Maren"), store.ErrRunBusy)
	require.NoError(t, s.CancelPrint(ctx, print, nil))
	require.NoError(t, s.EndCancelled(ctx, take(t, s, "one")))

	_, err = s.SpoilLabels(ctx, id, []int{4, 5}, store.SameNumber, "Maren")
	require.ErrorIs(t, err, store.ErrNoSuchLabels)
	spoiled, err := s.SpoilLabels(ctx, id, []int{2}, store.SameNumber, "Maren")
	require.NoError(t, err)
	require.Equal(t, 1, spoiled)
	require.Equal(t, []int{6, 3, 2, 0, 0, 1}, account(t, s, series.ID))
	_, err = s.SpoilLabels(ctx, id, []int{3}, store.NewNumber, "Maren")
	require.NoError(t, err)
	require.Equal(t, []string{"KW-0417", "KW-0418", "KW-0422", "KW-0420", "KW-0421"}, onLabels(t, s, id),
		"the returned one is the next")
	require.Equal(t, []int{7, 4, 1, 1, 0, 1}, account(t, s, series.ID))
	before, err := s.Slice(ctx, print, numbered("crates"), nil, 3, 3)
	require.NoError(t, err)
	require.Equal(t, "KW-0419", before[0][len(before[0])-1], "the spoiled label is what it was")

	// The rest brings the two spoiled ones again, and the two that never came out.
	rest, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", By: "Maren"})
	require.NoError(t, err)
	again, err := s.Slice(ctx, rest, numbered("crates"), nil, 1, 4)
	require.NoError(t, err)
	require.Equal(t, "KW-0418 KW-0422 KW-0420 KW-0421", fmt.Sprint(again[0][9], " ", again[1][9], " ", again[2][9], " ",
		again[3][9]))
	settle(t, s, 3)
	require.NoError(t, s.CancelPrint(ctx, rest, nil))
	require.NoError(t, s.EndCancelled(ctx, take(t, s, "one")))
	require.Equal(t, []int{7, 1, 4, 1, 0, 1}, account(t, s, series.ID))
	require.NoError(t, s.CloseRun(ctx, id, "Ines"))
	require.Equal(t, []int{7, 0, 4, 1, 1, 1}, account(t, s, series.ID),
		"the last one was at the printer: nobody else has it")
	require.ErrorIs(t, s.CloseRun(ctx, id, "Ines"), store.ErrRunClosed)
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", By: "Maren"})
	require.ErrorIs(t, err, store.ErrRunClosed)

	found, err = s.FindNumbers(ctx, []string{"KW-0422"}, 10)
	require.NoError(t, err)
	require.Len(t, found, 2, "returned, and taken again")
	sights, err := s.Sights(ctx, &found[0], 10)
	require.NoError(t, err)
	require.Equal(t, []any{1, rest, "printed"}, []any{len(sights), sights[0].PrintID, string(sights[0].State)})
	spoiledOne, err := s.FindNumbers(ctx, []string{"KW-0419"}, 10)
	require.NoError(t, err)
	sights, err = s.Sights(ctx, &spoiledOne[0], 10)
	require.NoError(t, err)
	require.Equal(t, []any{1, print, "spoiled"}, []any{len(sights), sights[0].PrintID, string(sights[0].State)})
	run, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, []store.RunNumbers{{SeriesID: series.ID, Series: "crates", First: "KW-0417", Last: "KW-0421",
		Count: 5}}, run.Numbers.V)
}

func TestNumbersThatWereNeverSentAreTakenAgain(t *testing.T) {
	s := testkit.Store(t)
	series := crates(t, s, `{"start": "1", "step": 1}`, store.ReturnUnused)
	plan := plant(t, s, 2)
	plan.Numbers = demand(plan.Plan, "crates")
	given, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	require.NoError(t, s.CloseRun(ctx, given, "Maren"))
	require.Equal(t, []int{4, 0, 0, 0, 0, 4}, account(t, s, series.ID))
	again, err := s.PrepareRun(ctx, plan, "Ines")
	require.NoError(t, err)
	require.Equal(t, []string{"1", "2", "3", "4"}, onLabels(t, s, again))
	require.Equal(t, []int{8, 4, 0, 0, 0, 4}, account(t, s, series.ID))

	void := series
	void.Unused = store.VoidUnused
	require.NoError(t, s.ChangeSeries(ctx, void))
	require.NoError(t, s.CloseRun(ctx, again, "Maren"))
	last, err := s.PrepareRun(ctx, plan, "Ines")
	require.NoError(t, err)
	require.Equal(t, []string{"5", "6", "7", "8"}, onLabels(t, s, last), "void numbers stay void")
	require.Equal(t, []int{12, 4, 0, 0, 4, 4}, account(t, s, series.ID))

	void.Counts.V.Step = 5
	require.ErrorIs(t, s.ChangeSeries(ctx, void), store.ErrSeriesCounted)
	found, err := s.FindNumbers(ctx, []string{"6"}, 1)
	require.NoError(t, err)
	require.NoError(t, s.VoidNumber(ctx, found[0].ID, "Ines", "the roll was wrong"))
	require.ErrorIs(t, s.VoidNumber(ctx, found[0].ID, "Ines", "twice"), store.ErrNumberGone)
	require.Equal(t, []int{13, 4, 0, 0, 5, 4}, account(t, s, series.ID), "its label has another")
	require.Equal(t, []string{"5", "9", "7", "8"}, onLabels(t, s, last))
	r, err := s.Run(ctx, last)
	require.NoError(t, err)
	require.Nil(t, r.Proof, "what is on the label now was not looked at")

	// Of a run that was given up only what came out is printed again.
	_, err = s.StartPrint(ctx, store.Order{Run: last, Kind: "sample", Labels: []int{2}, By: "Maren"})
	require.NoError(t, err)
	nine, err := s.FindNumbers(ctx, []string{"9"}, 1)
	require.NoError(t, err)
	require.ErrorIs(t, s.VoidNumber(ctx, nine[0].ID, "Ines", "while it prints"), store.ErrLabelsWait)
	settle(t, s, 1)
	require.NoError(t, s.CloseRun(ctx, last, "Maren"))
	_, err = s.StartPrint(ctx, store.Order{Run: last, Kind: "again", Labels: []int{1}, By: "Maren"})
	require.ErrorIs(t, err, store.ErrNothingToPrint)
	again, err = s.StartPrint(ctx, store.Order{Run: last, Kind: "again", Labels: []int{1, 2}, By: "Maren"})
	require.NoError(t, err)
	pieces, err := s.Pieces(ctx, again, false, 0, 10)
	require.NoError(t, err)
	require.Len(t, pieces, 1)
	settle(t, s, 1)
	require.Equal(t, []int{13, 0, 1, 0, 8, 4}, account(t, s, series.ID))
	require.NoError(t, s.RetireSeries(ctx, series.ID))
	_, err = s.PrepareRun(ctx, plan, "Maren")
	require.ErrorContains(t, err, "There is no number series “crates” here.")
	crates(t, s, `{"start": "9", "step": 1}`, store.ReturnUnused) // the name is free
}

func TestASeriesThatRunsOutGivesNothing(t *testing.T) {
	s := testkit.Store(t)
	series := crates(t, s, `{"start": "00", "step": 1, "width": 2, "end": "09"}`, store.ReturnUnused)
	plan := plant(t, s, 4)
	plan.Numbers = demand(plan.Plan, "crates")
	_, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	_, err = s.PrepareRun(ctx, plan, "Maren")
	require.ErrorContains(t, err, "The number series “crates” has 2 of the 8 numbers that are needed: The series "+
		"ends at 09")
	require.IsType(t, &refusal.Error{}, err)
	require.Equal(t, []int{8, 8, 0, 0, 0, 0}, account(t, s, series.ID))
	var runs int
	require.NoError(t, s.DB.Get(&runs, `select count(*) from runs`))
	require.Equal(t, 1, runs)

	require.NoError(t, s.RetireSeries(ctx, series.ID))
	listed := crates(t, s, `{"start": "0", "step": 1}`, store.VoidUnused, "A7", "B3", "0009", "C1", "C2", "C3", "C4",
		"C5", "C6")
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	require.Equal(t, []string{"A7", "B3", "0009", "C1", "C2", "C3", "C4", "C5"}, onLabels(t, s, id))
	_, err = s.PrepareRun(ctx, plan, "Maren")
	require.ErrorContains(t, err, "has 1 of the 8 numbers that are needed: those of its list are used up.")
	left, err := s.ListedNumbers(ctx, listed.ID, 8, 10)
	require.NoError(t, err)
	require.Equal(t, []string{"C6"}, left)
}

func TestManyTakeOfOneSeriesAtOnce(t *testing.T) {
	address := testkit.Store(t)
	series := crates(t, address, `{"start": "1", "step": 1}`, store.ReturnUnused)
	other, err := address.AddSeries(ctx,
		store.Series{Name: "pallets", Counts: store.Kept[counting.Spec]{V: counting.Spec{Start: "1", Step: 1}},
			Unused: store.VoidUnused, MadeBy: "Maren"}, nil)
	require.NoError(t, err)
	plan := plant(t, address, 10)
	var wait sync.WaitGroup
	for i := range 12 {
		wait.Go(func() {
			mine := plan
			mine.Numbers = append(demand(plan.Plan, "crates"), demand(plan.Plan, "pallets")...)
			if i%2 == 1 {
				slices.Reverse(mine.Numbers)
			}
			id, err := address.PrepareRun(ctx, mine, "Maren")
			if err == nil && i%3 == 0 {
				err = address.CloseRun(ctx, id, "Maren")
			}
			if err != nil {
				t.Error(err)
			}
		})
	}
	wait.Wait()
	var twice int
	require.NoError(t, address.DB.Get(&twice, `select count(*) from (select 1 from numbers where state <> 'returned'
			group by series_id, number having count(*) > 1) t`))
	require.Zero(t, twice)
	require.Equal(t, 240, account(t, address, series.ID)[0])
	require.Equal(t, []int{240, 160, 0, 0, 80, 0}, account(t, address, other))
}

func TestSeriesCountOnTheirOwnUnderEachKey(t *testing.T) {
	s := testkit.Store(t)
	series := crates(t, s, `{"start": "1", "step": 1}`, store.ReturnUnused)
	plan := plant(t, s, 3)
	for _, test := range []struct {
		same func(before, record int) bool
		key  func(int) string
		want []string
	}{
		{nil, func(record int) string { return fmt.Sprint("bin ", record) }, []string{"1", "2", "1", "2", "1", "2"}},
		{func(before, record int) bool { return before == record }, func(int) string { return "r" },
			[]string{"1", "1", "2", "2", "3", "3"}},
		{func(before, record int) bool { return record < 3 }, func(int) string { return "g" },
			[]string{"1", "1", "1", "1", "2", "2"}},
		{func(int, int) bool { return true }, func(int) string { return "r" }, []string{"4", "4", "4", "4", "4", "4"}},
	} {
		plan.Numbers = []store.Demand{{Series: "crates", Spans: plan.Plan.Spans(0, test.same, test.key)}}
		id, err := s.PrepareRun(ctx, plan, "Maren")
		require.NoError(t, err)
		require.Equal(t, test.want, onLabels(t, s, id))
	}
	counts, err := s.Counts(ctx, series.ID, 10)
	require.NoError(t, err)
	require.Equal(t, []store.Count{{"r", 4}, {"g", 2}, {"bin 3", 2}, {"bin 2", 2}, {"bin 1", 2}}, counts)
}

func TestAnswersForEachRecordAndLabel(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 3)
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	d := &design.Design{Questions: []questions.Question{{Name: "once"}, {Name: "weight", Each: questions.EachLabel},
		{Name: "packer", Each: questions.EachRecord, Default: "nobody"}}}
	require.NoError(t, s.KeepAnswers(ctx, id, []store.Answer{{1, 0, "packer", "Ines"}, {1, 2, "weight", "10.4"},
		{3, 1, "weight", "9.8"}, {3, 3, "weight", "too many"}}))
	require.NoError(t, s.KeepAnswers(ctx, id, []store.Answer{{1, 2, "weight", "10.5"}}), "the last one holds")
	r, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 2, r.Edits)
	labels, err := s.RunLabels(ctx, &r, d, "Maren", 1, 6, true)
	require.NoError(t, err)
	var said []string
	for _, label := range labels {
		said = append(said, fmt.Sprint(label.Values[9:]))
	}
	require.Equal(t, []string{"[ Ines]", "[10.5 Ines]", "[ nobody]", "[ nobody]", "[9.8 nobody]", "[ nobody]"}, said)
	given, wanted, err := s.CountAnswers(ctx, id, []string{"packer"}, []string{"weight"})
	require.NoError(t, err)
	require.Equal(t, []int{3, 9}, []int{given, wanted})

	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "sample", Labels: []int{2, 5}, By: "Maren"})
	require.NoError(t, err)
	slice, err := s.Slice(ctx, print, d, r.Fields, 1, 2)
	require.NoError(t, err)
	require.Equal(t, [][]string{{"N-001", "000", "2", "6", "Dock 2", "Maren", "2", "1", "6", "10.5", "Ines"},
		{"N-003", "002", "5", "6", "Dock 2", "Maren", "5", "1", "6", "9.8", "nobody"}}, slice)
	require.ErrorIs(t, s.KeepAnswers(ctx, id, nil), store.ErrRunStarted)
}
