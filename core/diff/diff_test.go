package diff_test

import (
	"errors"
	"fmt"
	"iter"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/diff"
)

func reading(fields []string, records ...[]string) diff.Reading {
	return diff.Reading{Fields: fields, Records: func(yield func([]string, error) bool) {
		for _, record := range records {
			if !yield(record, nil) {
				return
			}
		}
	}}
}

func TestWhatChangedIsTold(t *testing.T) {
	before := reading([]string{"bin", "lot", "gone"}, []string{"N-1", "7", "x"}, []string{"N-2", "8", "y"},
		[]string{"N-3", "9", "z"})
	now := reading([]string{"lot", "bin", "new"}, []string{"70", "N-1", "a"}, []string{"9", "N-3", "b"},
		[]string{"1", "N-4", "c"})
	c, err := diff.Find(before, now, []string{"bin"})
	require.NoError(t, err)
	require.Equal(t, &diff.Changes{NewFields: []string{"new"}, GoneFields: []string{"gone"}, New: 1, Gone: 1,
		Changed: 1, First: []diff.Change{
			{What: diff.Changed, Number: 1, Key: []string{"N-1"},
				Values: []diff.Value{{Field: "lot", Before: "7", Now: "70"}}},
			{What: diff.New, Number: 3, Key: []string{"N-4"}},
			{What: diff.Gone, Number: 2, Key: []string{"N-2"}},
		}}, c)
	require.False(t, c.None())
	c, err = diff.Find(before, before, []string{"bin"})
	require.NoError(t, err)
	require.True(t, c.None())
	// Without a key, or one that is gone, a record that differs is another.
	for _, key := range [][]string{nil, {"gone"}} {
		c, err = diff.Find(before, now, key)
		require.NoError(t, err)
		require.Equal(t, [3]int{2, 2, 0}, [3]int{c.New, c.Gone, c.Changed})
	}
	c, err = diff.Find(reading([]string{"a"}, []string{"1"}, []string{"2"}),
		reading([]string{"a"}, []string{"2"}, []string{"1"}), nil)
	require.NoError(t, err)
	require.True(t, c.Moved)
	broken := diff.Reading{Fields: []string{"bin"},
		Records: func(yield func([]string, error) bool) { yield(nil, errors.New("away")) }}
	_, err = diff.Find(broken, now, nil)
	require.ErrorContains(t, err, "away")
	_, err = diff.Find(before, broken, nil)
	require.ErrorContains(t, err, "away")
}

// The counts are held against a plain count of records with the same key.
func TestFindIsHeldAgainstASlowReference(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	for range 500 {
		table := func() (records [][]string) {
			for range random.IntN(12) {
				records = append(records, []string{fmt.Sprint(random.IntN(5)), fmt.Sprint(random.IntN(2))})
			}
			return records
		}
		before, now := table(), table()
		c, err := diff.Find(reading([]string{"k", "v"}, before...), reading([]string{"k", "v"}, now...), []string{"k"})
		require.NoError(t, err)
		byKey := func(records [][]string, key string) (values []string) {
			for _, record := range records {
				if record[0] == key {
					values = append(values, record[1])
				}
			}
			return values
		}
		added, gone, changed := 0, 0, 0
		for k := range 5 {
			a, b := byKey(before, fmt.Sprint(k)), byKey(now, fmt.Sprint(k))
			added, gone = added+max(0, len(b)-len(a)), gone+max(0, len(a)-len(b))
			for i := range min(len(a), len(b)) {
				if a[i] != b[i] {
					changed++
				}
			}
		}
		require.Equal(t, [3]int{added, gone, changed}, [3]int{c.New, c.Gone, c.Changed}, "%v %v", before, now)
		require.Len(t, c.First, added+gone+changed)
		require.Equal(t, slices.EqualFunc(before, now, slices.Equal), c.None())
	}
}

func BenchmarkAMillionRecords(b *testing.B) {
	many := func(lot int) diff.Reading {
		var records iter.Seq2[[]string, error] = func(yield func([]string, error) bool) {
			for i := range 1_000_000 {
				if !yield([]string{fmt.Sprint("N-", i), "Kombu, cut", fmt.Sprint(lot + i/1000)}, nil) {
					return
				}
			}
		}
		return diff.Reading{Fields: []string{"bin", "article", "lot"}, Records: records}
	}
	for b.Loop() {
		_, err := diff.Find(many(1), many(2), []string{"bin"})
		require.NoError(b, err)
	}
}
