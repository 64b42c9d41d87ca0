package store_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

// labelsOf returns the labels of a print in the order of their places.
func labelsOf(t *testing.T, s *store.Store, print int64) (labels []int) {
	pieces, err := s.Pieces(ctx, print, false, 0, 1000)
	require.NoError(t, err)
	for i, p := range pieces {
		require.Equal(t, i+1, p.Place, "places have no gap")
		labels = append(labels, p.Label)
	}
	return labels
}

func TestLabelsRunThroughTheLanes(t *testing.T) {
	for _, test := range []struct {
		labels, lanes int
		want          string
	}{
		{6, 1, "[1 2 3 4 5 6]"},
		{6, 2, "[1 4 2 5 3 6]"},
		{7, 3, "[1 4 6 2 5 7 3]"}, // the first lane has three, the others two
		{2, 3, "[1 2]"},
		{8, 4, "[1 3 5 7 2 4 6 8]"},
	} {
		t.Run(fmt.Sprint(test.labels, " in ", test.lanes), func(t *testing.T) {
			s := testkit.Store(t)
			plan := plant(t, s, test.labels)
			plan.Plan = batch.NewPlan([]batch.Share{{Record: 1, Copies: test.labels}})
			run, err := s.PrepareRun(ctx, plan, "Maren")
			require.NoError(t, err)
			id, err := s.StartPrint(ctx, store.Order{Run: run, Kind: "all", Fill: batch.FillThrough,
				PerPage: test.lanes, By: "Maren"})
			require.NoError(t, err)
			require.Equal(t, test.want, fmt.Sprint(labelsOf(t, s, id)))
		})
	}
}

// What is at the printer at once is of one design, and each label knows its place among those of its part.
func TestPartsOfARun(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 3)
	plan.Separators = []store.Separator{{What: store.SeparatorBlank, Name: "Blank label", When: batch.SeparateLabels,
		Every: 2, After: true, Copies: 1, Labels: 2}}
	plan.Plan = batch.NewPlan(batch.WithSeparators([]batch.Share{{Record: 1, Copies: 1}, {Record: 2, Copies: 2}},
		[]batch.Separator{{When: batch.SeparateLabels, Every: 2, After: true, Copies: 1}}, nil))
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	r, err := s.Run(ctx, id)
	require.NoError(t, err)
	d := &design.Design{}
	labels, err := s.RunLabels(ctx, &r, d, "Maren", 1, r.LabelCount, true)
	require.NoError(t, err)
	var said []string
	for _, l := range labels {
		said = append(said, fmt.Sprint(l.Label, l.Record, l.Values[len(r.Fields):len(r.Fields)+2]))
	}
	require.Equal(t, []string{"1 1 [1 3]", "2 2 [2 3]", "4 2 [3 3]"}, said)
	of := r
	of.Part = 1
	labels, err = s.RunLabels(ctx, &of, d, "Maren", 1, r.LabelCount, false)
	require.NoError(t, err)
	require.Equal(t, []int{3, 5}, []int{labels[0].Label, labels[1].Label})
	for label, part := range map[int]int{1: 0, 3: 1, 4: 0, 5: 1} {
		got, err := s.PartOfLabel(ctx, id, label)
		require.NoError(t, err)
		require.Equal(t, part, got)
	}
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", Separators: [][]int{{2}}, By: "Maren"})
	require.NoError(t, err)
	require.Equal(t, []int{1, 2, 4}, labelsOf(t, s, print), "both blank ones stand for record 2, and are left out")
	require.NoError(t, s.CancelPrint(ctx, print, nil))
}

func TestSlicesEndWithTheirDesign(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 3)
	plan.Separators = []store.Separator{{What: store.SeparatorMark, Name: "Cut mark", When: batch.SeparateLabels,
		Every: 2, After: true, Copies: 1, Labels: 2}}
	plan.Plan = batch.NewPlan(batch.WithSeparators([]batch.Share{{Record: 1, Copies: 3}},
		[]batch.Separator{{When: batch.SeparateLabels, Every: 2, After: true, Copies: 1}}, nil))
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	l := take(t, s, "one")
	for _, want := range [][]int{{1, 2, 0}, {3, 3, 1}, {4, 4, 0}, {5, 5, 1}, {0, 0, 0}} {
		first, last, part, err := s.Waiting(ctx, l.Print, 100)
		require.NoError(t, err)
		require.Equal(t, want, []int{first, last, part})
		if first == 0 {
			break
		}
		slice := store.Slice{Job: 7, First: first, Last: last, Part: part}
		require.NoError(t, s.BeginSlice(ctx, l, &slice))
		open, err := s.Slices(ctx, l.Print)
		require.NoError(t, err)
		require.Equal(t, part, open[0].Part)
		require.NoError(t, s.SettleSlice(ctx, l, &slice, slice.Labels(), false))
	}
}
