package store_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

// told are the labels that sources were to be told of, each as often as it was.
func told(t *testing.T, s *store.Store) (labels []int) {
	require.NoError(t, s.DB.Select(&labels, `select unnest(labels) from outbox order by 1`))
	return labels
}

// A label is told once, however it comes to count as printed: by the printer, by a person's word, taken back and said
// again, or in another print.
func TestALabelIsToldOnce(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 3)
	connection, err := s.PutConnection(ctx, store.Connection{Name: "Desk", Kind: "desk",
		Place: []byte(`{"kind": "desk"}`), MadeBy: "Maren"})
	require.NoError(t, err)
	feed := store.Feed{ConnectionID: connection.ID, Request: []byte(`{}`),
		Answers: store.Kept[map[string]string]{V: map[string]string{}}, Key: store.Kept[[]string]{V: []string{}}}
	set, err := s.TakeFeed(ctx, feed, "bins", []string{"bin", "serial"}, 3, s.EachRecord(ctx, *plan.RecordSetID),
		"Maren")
	require.NoError(t, err)
	of, err := s.FeedOf(ctx, set.ID)
	require.NoError(t, err)
	plan.RecordSetID = &set.ID
	prepare := func() int64 {
		id, err := s.PrepareRun(ctx, plan, "Maren")
		require.NoError(t, err)
		return id
	}
	silent := prepare()
	_, err = s.StartPrint(ctx, store.Order{Run: silent, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 6)
	require.Empty(t, told(t, s), "nobody wished it")

	require.NoError(t, s.SetWriteBack(ctx, of.ID, []byte(`{}`)))
	run := prepare()
	print, err := s.StartPrint(ctx, store.Order{Run: run, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	l := take(t, s, "one")
	slice := store.Slice{Job: 3, First: 1, Last: 4}
	require.NoError(t, s.BeginSlice(ctx, l, &slice))
	require.NoError(t, s.SettleSlice(ctx, l, &slice, 2, false))
	require.Equal(t, []int{1, 2}, told(t, s))
	require.NoError(t, s.Hold(ctx, l, "It was reset.", "Look."))
	require.NoError(t, s.GoOn(ctx, print, 1), "a person says that but one came out")
	l = take(t, s, "one")
	require.NoError(t, s.Hold(ctx, l, "It was reset.", "Look."))
	require.NoError(t, s.GoOn(ctx, print, 4))
	require.Equal(t, []int{1, 2, 3, 4}, told(t, s))
	settle(t, s, 2)
	_, err = s.StartPrint(ctx, store.Order{Run: run, Kind: "again", Labels: []int{2, 6}, By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 2)
	require.Equal(t, []int{1, 2, 3, 4, 5, 6}, told(t, s))

	waiting, err := s.TakeOutbox(ctx, 10)
	require.NoError(t, err)
	labels := 0
	for _, one := range waiting {
		require.Len(t, one.Numbers, one.Labels)
		labels += one.Labels
		require.NoError(t, s.Told(ctx, one.ID, ""))
	}
	require.Equal(t, 6, labels)
	none, err := s.TakeOutbox(ctx, 10)
	require.NoError(t, err)
	require.Empty(t, none)
}
