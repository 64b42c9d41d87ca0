package batch_test

import (
	"fmt"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/core/measure"
	"oddspool/core/stock"
)

func TestPlanCountsEveryLabelOnce(t *testing.T) {
	plan := batch.NewPlan([]batch.Share{{Record: 4, Copies: 2}, {Record: 5, Copies: 0}, {Record: 9, Copies: 3}})
	require.Equal(t, 5, plan.Len())
	var got []string
	for n := 1; n <= plan.Len(); n++ {
		record, nth := plan.At(n)
		got = append(got, fmt.Sprintf("%d/%d", record, nth))
	}
	require.Equal(t, []string{"4/1", "4/2", "9/1", "9/2", "9/3"}, got)
	require.Zero(t, batch.NewPlan(nil).Len())
	require.Len(t, plan.Shares(), 2)
}

func TestHowMany(t *testing.T) {
	fields := []string{"bin", "bags"}
	rows := map[int][]string{1: {"A", "24"}, 2: {"B", " 3.0 "}, 3: {"C", "0"}, 4: {"D", "two"}, 5: {"E"},
		6: {"F", "1.5"}, 7: {"G", "-2"}}
	records := func(n int) []string { return rows[n] }
	share := func(h batch.HowMany, chosen ...int) ([]batch.Share, error) {
		values := make([][]string, len(chosen))
		for i, number := range chosen {
			values[i] = records(number)
		}
		shares, _, err := h.Share(chosen, fields, values)
		return shares, err
	}

	shares, err := share(batch.HowMany{Each: 2}, 1, 4)
	require.NoError(t, err)
	require.Equal(t, []batch.Share{{Record: 1, Copies: 2}, {Record: 4, Copies: 2}}, shares)
	shares, err = share(batch.HowMany{Field: "bags"}, 1, 2, 3)
	require.NoError(t, err)
	require.Equal(t, []batch.Share{{Record: 1, Copies: 24}, {Record: 2, Copies: 3}, {Record: 3, Copies: 0}}, shares)
	shares, err = share(batch.HowMany{Field: "bags", Corrected: map[int]int{4: 2}}, 4)
	require.NoError(t, err)
	require.Equal(t, []batch.Share{{Record: 4, Copies: 2}}, shares)

	_, err = share(batch.HowMany{Each: -1}, 1)
	require.IsType(t, &batch.QuantityError{}, err)
	_, err = share(batch.HowMany{Each: batch.Most}, 1, 2)
	require.Equal(t, &batch.TooManyError{Labels: 2 * batch.Most}, err)
}

func TestSetsAreTheWholeRunAgainAndAgain(t *testing.T) {
	shares, _, err := batch.HowMany{Each: 2, Sets: true, Corrected: map[int]int{7: 3, 9: 0}}.Share([]int{5, 7, 9}, nil,
		nil)
	require.NoError(t, err)
	require.Equal(t, []batch.Share{{Record: 5, Copies: 1}, {Record: 7, Copies: 1}, {Record: 5, Copies: 1, Before: 1},
		{Record: 7, Copies: 1, Before: 1}, {Record: 7, Copies: 1, Before: 2}}, shares)
	plan := batch.NewPlan(shares)
	require.Equal(t, []int{5, 2}, []int{plan.Len(), plan.Chosen()})
	for label, want := range map[int][]int{1: {5, 1}, 2: {7, 1}, 3: {5, 2}, 5: {7, 3}} {
		record, copied := plan.At(label)
		require.Equal(t, want, []int{record, copied}, "label %d", label)
	}
}

// One record with very many labels keeps none of the others waiting.
func TestSetsOfUnlikeRecords(t *testing.T) {
	shares := make([]batch.Share, 100_000)
	for i := range shares {
		shares[i] = batch.Share{Record: i + 1, Copies: 1}
	}
	shares[7].Copies = 900_000
	sets := batch.InSets(shares)
	require.Len(t, sets, 999_999)
	require.Equal(t, batch.Share{Record: 8, Copies: 1, Before: 899_999}, sets[len(sets)-1])
}

func TestParseRange(t *testing.T) {
	for text, want := range map[string][]int{
		"": {1, 2, 3, 4, 5}, "none": nil, "2": {2}, "1-3": {1, 2, 3}, "4-": {4, 5}, " 3 , 1–2,2": {1, 2, 3},
		"5,1": {1, 5},
	} {
		got, err := batch.ParseRange(text, 5)
		require.NoError(t, err, text)
		require.Equal(t, want, got, text)
	}
	for _, text := range []string{"0", "6", "3-2", "a", "1-b", "-3", "1,,2", "1-9"} {
		_, err := batch.ParseRange(text, 5)
		require.IsType(t, &batch.RangeError{}, err, text)
		require.ErrorContains(t, err, "numbers from 1 to 5")
	}
	none, err := batch.ParseRange("1-3", 0)
	require.NoError(t, err)
	require.Empty(t, none)
}

func TestFormatRange(t *testing.T) {
	require.Equal(t, "", batch.FormatRange([]int{1, 2, 3}, 3))
	require.Equal(t, "none", batch.FormatRange(nil, 3))
	require.Equal(t, "1-3, 5, 8-9", batch.FormatRange([]int{1, 2, 3, 5, 8, 9}, 10))
}

// Every chosen record is there, in order, once.
func FuzzParseRange(f *testing.F) {
	f.Add("1-3, 7", 9)
	f.Fuzz(func(t *testing.T, text string, last int) {
		last %= 1000
		numbers, err := batch.ParseRange(text, max(last, 0))
		if err != nil {
			return
		}
		for i, n := range numbers {
			require.True(t, n >= 1 && n <= last)
			require.True(t, i == 0 || n > numbers[i-1])
		}
		back, err := batch.ParseRange(batch.FormatRange(numbers, max(last, 0)), max(last, 0))
		require.NoError(t, err)
		require.Equal(t, numbers, back)
	})
}

func ExamplePlan() {
	roll := stock.Stock{Length: 38 * measure.Millimetre, Gap: 3 * measure.Millimetre}
	plan := batch.NewPlan([]batch.Share{{Record: 1, Copies: 24}, {Record: 2, Copies: 12}})
	fmt.Println(plan.Len(), "labels,", strconv.FormatFloat(batch.Web(roll, plan.Len())/1000, 'f', 2, 64), "m,",
		batch.Time(batch.Web(roll, plan.Len()), 152).Round(time.Second))
	// Output: 36 labels, 1.48 m, 10s
}

func TestPagesAreRowsOrSheets(t *testing.T) {
	lanes := stock.Stock{Kind: stock.DieCut, Width: 50 * measure.Millimetre, Length: 25 * measure.Millimetre,
		Gap: 3 * measure.Millimetre, Lanes: 2}
	sheet := stock.Stock{Kind: stock.Sheet, Width: 70 * measure.Millimetre, Length: 37 * measure.Millimetre,
		Sheet: &stock.Page{Width: 210 * measure.Millimetre, Height: 297 * measure.Millimetre, Columns: 3, Rows: 8,
			PitchX: 70 * measure.Millimetre, PitchY: 37 * measure.Millimetre}}
	for _, test := range []struct {
		stock         stock.Stock
		labels, used  int
		pages         int
		webOfNoneUsed float64
	}{
		{lanes, 0, 0, 0, 0}, {lanes, 1, 0, 1, 28}, {lanes, 2, 0, 1, 28}, {lanes, 3, 0, 2, 56},
		{lanes, 240, 0, 120, 3360},
		{sheet, 24, 0, 1, 297}, {sheet, 24, 1, 2, 297}, {sheet, 25, 0, 2, 594}, {sheet, 23, 1, 1, 297},
		{sheet, 0, 5, 0, 0},
	} {
		require.Equal(t, test.pages, batch.Pages(test.stock, test.labels, test.used), "%+v", test)
		require.InDelta(t, test.webOfNoneUsed, batch.Web(test.stock, test.labels), 1e-9, "%+v", test)
	}
	require.Zero(t, batch.Time(1000, 0), "the speed is not known")
	require.Equal(t, 10*time.Second, batch.Time(1000, 100))
}

func TestChoicesAreListsWithTicks(t *testing.T) {
	for _, test := range []struct {
		choice batch.Choice
		want   []int
	}{
		{batch.Choice{}, []int{1, 2, 3, 4, 5}}, {batch.Choice{Records: "2-3"}, []int{2, 3}},
		{batch.Choice{Records: "2-3", Tick: []int{5, 1, 9, 0}}, []int{1, 2, 3, 5}},
		{batch.Choice{Untick: []int{1, 3, 77}}, []int{2, 4, 5}}, {batch.Choice{Records: batch.None, Tick: []int{4}},
			[]int{4}},
		{batch.Choice{Records: "1", Tick: []int{2}, Untick: []int{2}}, []int{1}},
		{batch.Choice{Records: "1", Untick: []int{1}}, []int{}},
	} {
		numbers, err := test.choice.Numbers(5)
		require.NoError(t, err)
		require.Equal(t, test.want, numbers, "%+v", test.choice)
	}
	_, err := batch.Choice{Records: "6", Tick: []int{1}}.Numbers(5)
	require.IsType(t, &batch.RangeError{}, err)
}
