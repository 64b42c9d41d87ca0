package batch_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
)

// written shows shares: "7" is a label of record 7, "B7(2:3)" one of part B that stands for group 2 of 3 labels.
func written(shares []batch.Share) string {
	var all []string
	for _, s := range shares {
		for range s.Copies {
			if s.Part == 0 {
				all = append(all, fmt.Sprint(s.Record))
			} else {
				all = append(all, fmt.Sprintf("%c%d(%d:%d)", 'A'+s.Part-1, s.Record, s.Group, s.Of))
			}
		}
	}
	return strings.Join(all, " ")
}

func TestSeparators(t *testing.T) {
	aisles := []string{"", "north", "north", "south", "north"} // of records from 1
	value := func(record, column int) string { require.Equal(t, 3, column); return aisles[record] }
	shares := []batch.Share{{Record: 1, Copies: 2}, {Record: 2, Copies: 1}, {Record: 3, Copies: 3},
		{Record: 4, Copies: 1}}
	group := func(after bool) batch.Separator {
		return batch.Separator{When: batch.SeparateGroup, Field: 3, After: after, Copies: 1}
	}
	for _, test := range []struct {
		name  string
		rules []batch.Separator
		want  string
	}{
		{"none", nil, "1 1 2 3 3 3 4"},
		{"a head and a foot", []batch.Separator{{When: batch.SeparateRun, Copies: 2},
			{When: batch.SeparateRun, After: true, Copies: 1}},
			"A1(1:7) A1(1:7) 1 1 2 3 3 3 4 B4(1:7)"},
		{"before groups", []batch.Separator{group(false)}, "A1(1:3) 1 1 2 A3(2:3) 3 3 3 A4(3:1) 4"},
		{"behind groups", []batch.Separator{group(true)}, "1 1 2 A2(1:3) 3 3 3 A3(2:3) 4 A4(3:1)"},
		{"behind each record", []batch.Separator{{When: batch.SeparateRecord, After: true, Copies: 1}},
			"1 1 A1(1:2) 2 A2(2:1) 3 3 3 A3(3:3) 4 A4(4:1)"},
		{"a carton for two", []batch.Separator{{When: batch.SeparateLabels, Every: 2, After: true, Copies: 1}},
			"1 1 A1(1:2) 2 3 A3(2:2) 3 3 A3(3:2) 4 A4(4:1)"},
		{"what is said last lies outside",
			[]batch.Separator{{When: batch.SeparateLabels, Every: 3, After: true, Copies: 1}, group(true),
				{When: batch.SeparateRun, Copies: 1}},
			"C1(1:7) 1 1 2 A2(1:3) B2(1:3) 3 3 3 A3(2:3) B3(2:3) 4 A4(3:1) B4(3:1)"},
	} {
		t.Run(test.name, func(t *testing.T) {
			all := batch.WithSeparators(shares, test.rules, value)
			require.Equal(t, test.want, written(all))
			plan := batch.NewPlan(all)
			require.Equal(t, 7, plan.Labels(0), "no label of its own is lost")
			require.Equal(t, 4, plan.Chosen())
			copied := 0
			for n := 1; n <= plan.Len(); n++ { // each knows still which of its record it is
				if record, nth := plan.At(n); record == 3 && plan.PartAt(n) == 0 {
					copied++
					require.Equal(t, copied, nth)
				}
			}
			require.Equal(t, 3, copied)
		})
	}
}

func TestLabelsKnowTheirGroup(t *testing.T) {
	all := batch.WithSeparators([]batch.Share{{Record: 1, Copies: 3}, {Record: 2, Copies: 1}},
		[]batch.Separator{{When: batch.SeparateGroup, Field: 0, Copies: 1}},
		func(record, _ int) string { return fmt.Sprint(record) })
	require.Equal(t, []batch.Share{{Record: 1, Copies: 1, Part: 1, Group: 1, Of: 3},
		{Record: 1, Copies: 3, Group: 1, Of: 3},
		{Record: 2, Copies: 1, Part: 1, Group: 2, Of: 1}, {Record: 2, Copies: 1, Group: 2, Of: 1}}, all)
}

func TestNumbersOfAPart(t *testing.T) {
	plan := batch.NewPlan(batch.WithSeparators([]batch.Share{{Record: 1, Copies: 4}},
		[]batch.Separator{{When: batch.SeparateLabels, Every: 2, After: true, Copies: 1}}, nil))
	none := func(int) string { return "" }
	require.Equal(t, []batch.Span{{"", 1, 3, 3}, {"", 1, 6, 6}}, plan.Spans(1, nil, none))
	require.Equal(t, []batch.Span{{"", 1, 1, 1}, {"", 1, 2, 2}, {"", 1, 4, 4}, {"", 1, 5, 5}}, plan.Spans(0, nil, none))
}

func TestPagesWithSeparators(t *testing.T) {
	plan := batch.NewPlan(batch.WithSeparators([]batch.Share{{Record: 1, Copies: 10}},
		[]batch.Separator{{When: batch.SeparateLabels, Every: 5, After: true, Copies: 1}}, nil))
	all := func(int) bool { return true }
	require.Equal(t, 12, plan.PagesWith(1, all))
	require.Equal(t, 6, plan.PagesWith(3, all), "a label of another design begins a row, and so does what follows it")
	require.Equal(t, 4, plan.PagesWith(3, func(part int) bool { return part == 0 }))
}

func TestRulesThatCannotBeFollowed(t *testing.T) {
	for _, rule := range []batch.Separator{{When: "noon", Copies: 1}, {When: batch.SeparateRun},
		{When: batch.SeparateLabels, Copies: 1},
		{When: batch.SeparateGroup, Field: 2, Copies: 1}, {When: batch.SeparateGroup, Field: -1, Copies: 1},
		{When: batch.SeparateRun, Copies: 101}} {
		require.Regexp(t, "besides|the field that makes groups", rule.Check(2).Error())
	}
	require.NoError(t, batch.Separator{When: batch.SeparateGroup, Field: 1, Copies: 1}.Check(2))
}

// A run of 100,000 labels with a carton's label behind each 24 and a separator before each of 500 groups.
func BenchmarkWithSeparators(b *testing.B) {
	shares := make([]batch.Share, 100_000)
	for i := range shares {
		shares[i] = batch.Share{Record: i + 1, Copies: 1}
	}
	rules := []batch.Separator{{When: batch.SeparateLabels, Every: 24, After: true, Copies: 1},
		{When: batch.SeparateGroup, Copies: 1}}
	group := func(record, _ int) string { return fmt.Sprint(record / 200) }
	for b.Loop() {
		batch.WithSeparators(shares, rules, group)
	}
}
