package batch_test

import (
	"fmt"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
)

func TestQuantitiesBecomePacks(t *testing.T) {
	fields, rows, err := batch.Packs([]string{"item", "qty", "size"},
		[][]string{{"K-1", "50", "12"}, {"K-2", "24", "12"}, {"K-3", "5", "12"}, {"K-4", "0", "12"},
			{"K-5", "many", "12"}, {"K-6", "2.5", "1"}, {"K-7", "4"}}, "qty", "size")
	require.NoError(t, err)
	require.Equal(t, []string{"item", "qty", "size", "packs", "pack contents"}, fields)
	require.Equal(t, [][]string{
		{"K-1", "50", "12", "4", "12"}, {"K-1", "50", "12", "1", "2"}, {"K-2", "24", "12", "2", "12"},
		{"K-3", "5", "12", "1", "5"},
		{"K-4", "0", "12", "0", "12"}, {"K-5", "many", "12", "0", ""}, {"K-6", "2.5", "1", "2", "1"},
		{"K-6", "2.5", "1", "1", "0.5"}, {"K-7", "4", "", "0", ""},
	}, rows)
	_, rows, err = batch.Packs([]string{"qty"}, [][]string{{"7"}}, "qty", "3")
	require.NoError(t, err)
	require.Equal(t, [][]string{{"7", "2", "3"}, {"7", "1", "1"}}, rows)
	for _, call := range [][2]string{{"nosuch", "3"}, {"qty", "0"}, {"qty", "some"}} {
		_, _, err = batch.Packs([]string{"qty"}, nil, call[0], call[1])
		require.IsType(t, &refusal.Error{}, err)
	}
	_, _, err = batch.Packs([]string{"qty", "packs"}, nil, "qty", "3")
	require.ErrorContains(t, err, "they are packed")
}

func TestQuantitiesThatAreNoneAreTold(t *testing.T) {
	fields := []string{"qty", "free"}
	records := [][]string{{"2", ""}, {"2.5", "1"}, {"-3", "x"}, {"many", ""}, {"", ""}, {"24,00", "2"}}
	chosen := []int{1, 2, 3, 4, 5, 6}
	shares, taken, err := batch.HowMany{Field: "qty"}.Share(chosen, fields, records)
	require.NoError(t, err)
	require.Equal(t, []batch.Share{{Record: 1, Copies: 2}, {Record: 2, Copies: 3}, {Record: 3, Copies: 0},
		{Record: 4, Copies: 0}, {Record: 5, Copies: 0}, {Record: 6, Copies: 24}}, shares)
	require.Equal(t, []batch.Taken{{2, "qty", "2.5", 3}, {3, "qty", "-3", 0}, {4, "qty", "many", 0}, {5, "qty", "", 0}},
		taken)
	shares, taken, err = batch.HowMany{Field: "qty", Free: "free", Pack: 10}.Share(chosen, fields, records)
	require.NoError(t, err)
	require.Equal(t, []batch.Share{{Record: 1, Copies: 1}, {Record: 2, Copies: 1}, {Record: 3, Copies: 0},
		{Record: 4, Copies: 0}, {Record: 5, Copies: 0}, {Record: 6, Copies: 3}}, shares)
	require.Len(t, taken, 5)
	_, _, err = batch.HowMany{Field: "qty"}.Share([]int{1}, fields, [][]string{{"1e9"}})
	require.IsType(t, &batch.QuantityError{}, err)
}

func ExamplePacks() {
	_, rows, _ := batch.Packs([]string{"item", "qty"}, [][]string{{"Dulse", "50"}}, "qty", "12")
	fmt.Println(rows)
	// Output: [[Dulse 50 4 12] [Dulse 50 1 2]]
}
