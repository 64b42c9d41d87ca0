package pipe_test

import (
	"fmt"
	"io/fs"
	"strings"
	"testing"
	"testing/fstest"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/pipe"
)

func TestContentsFindTheirGroup(t *testing.T) {
	for _, test := range []struct {
		rules                    pipe.RuleSet
		contents, field, letters string
	}{
		{pipe.ISO, "cooling water", "green", "white"}, {pipe.ISO, "Steam", "silver-grey", "black"},
		{pipe.ISO, "hydraulic oil", "brown", "white"},
		{pipe.ISO, "natural gas", "yellow", "black"}, {pipe.ISO, "Sulphuric acid 98 %", "violet", "white"},
		{pipe.ISO, "caustic soda (50 %)", "violet", "white"},
		{pipe.ISO, "compressed air", "light blue", "black"}, {pipe.ISO, "fire water", "red", "white"},
		{pipe.ISO, "syrup", "black", "white"}, {pipe.ISO, "water, drinking", "green", "white"},
		{pipe.ASME, "fire water", "red", "white"}, {pipe.ASME, "ammonia", "orange", "black"},
		{pipe.ASME, "oxygen", "yellow", "black"}, {pipe.ASME, "hydrogen", "yellow", "black"},
		{pipe.ASME, "lube oil", "brown", "white"}, {pipe.ASME, "boiler feed water", "green", "white"},
		{pipe.ASME, "compressed air", "blue", "white"}, {pipe.ASME, "defined-purple", "purple", "white"},
		{pipe.DIN, "drinking water", "green", "white"}, {pipe.DIN, "steam", "red", "white"},
		{pipe.DIN, "air", "grey", "black"}, {pipe.DIN, "natural gas", "yellow", "black"},
		{pipe.DIN, "nitrogen", "yellow", "black"}, {pipe.DIN, "hydrochloric acid", "orange", "black"},
		{pipe.DIN, "lye", "violet", "white"}, {pipe.DIN, "diesel", "brown", "white"},
		{pipe.DIN, "oxygen", "blue", "white"}, {pipe.DIN, "fire water", "red", "white"},
		{pipe.ISO, "CO2", "yellow", "black"}, {pipe.ISO, "CO₂ 5 bar", "yellow", "black"},
		{pipe.ISO, "N2", "yellow", "black"}, {pipe.ISO, "H2SO4 96%", "violet", "white"},
		{pipe.ISO, "R-717 (ammonia)", "yellow", "black"},
		{pipe.DIN, "O2", "blue", "white"}, {pipe.DIN, "CO2", "yellow", "black"},
		{pipe.ASME, "NaOH 50 %", "orange", "black"}, {pipe.ISO, "water 80 °C", "green", "white"},
		{pipe.ISO, "Chilled water return", "green", "white"},
		{pipe.BS, "natural gas", "yellow ochre", "black"}, {pipe.BS, "drinking water", "green", "white"},
		{pipe.BS, "fire water", "green", "white"}, {pipe.BS, "compressed air", "light blue", "black"},
		{pipe.Ammonia, "high pressure liquid", "orange", "black"}, {pipe.Medical, "O2", "white", "black"},
		{pipe.Medical, "suction", "yellow", "black"}, {pipe.NFPA99, "oxygen", "green", "white"},
		{pipe.NFPA99, "vacuum", "white", "black"},
	} {
		group, err := pipe.Shipped().Find(test.rules, test.contents)
		require.NoError(t, err, "%+v", test)
		require.Equal(t, []string{test.field, test.letters}, []string{group.Field, group.Letters}, "%+v", test)
	}
	flammable, err := pipe.Shipped().Find(pipe.DIN, "biogas")
	require.NoError(t, err)
	require.Equal(t, []pipe.Band{{Colour: "red"}, {Colour: "red"}}, flammable.Bands(),
		"DIN 2403: flammable gases have red bands")
	drinking, err := pipe.Shipped().Find(pipe.BS, "potable water")
	require.NoError(t, err)
	require.Equal(t, pipe.Band{Colour: "blue", Within: true}, drinking.Bands()[0], "BS 1710: green on both sides of it")
	liquid, err := pipe.Shipped().Find(pipe.Ammonia, "low pressure liquid")
	require.NoError(t, err)
	require.Equal(t, []pipe.Band{{Colour: "yellow", Word: "LIQ"}, {Colour: "green", Word: "LOW"}}, liquid.Bands())
	require.Equal(t, "white", liquid.Bands()[1].Letters())
}

func TestContentsThatAreNotKnownAreAskedFor(t *testing.T) {
	for _, test := range []struct {
		rules    pipe.RuleSet
		contents string
	}{{pipe.ISO, "hydrogen peroxide"}, {pipe.ASME, "waste gas"}, {pipe.DIN, "oxygen scavenger"}, {pipe.ISO, "stuff"},
		{pipe.ISO, " "}, {"ansi", "water"}} {
		_, err := pipe.Shipped().Find(test.rules, test.contents)
		require.IsType(t, &refusal.Error{}, err, "%+v", test)
	}
	_, err := pipe.Shipped().Find(pipe.DIN, "waste gas")
	require.ErrorContains(t, err, "4-flammable-gases, 5-other-gases")
}

func TestSizesFollowTheDiameter(t *testing.T) {
	for _, test := range []struct{ diameter, letters, length float64 }{ // ASME A13.1-2020, table 2
		{19, 13, 200}, {32, 13, 200}, {38, 19, 200}, {51, 19, 200}, {60, 32, 300}, {64, 32, 300}, {150, 32, 300},
		{200, 64, 600}, {250, 64, 600}, {251, 89, 800}, {1000, 89, 800},
	} {
		m, err := pipe.Shipped().Mark(pipe.ASME, test.diameter)
		require.NoError(t, err)
		require.Equal(t, []float64{test.letters, test.length, 2 * test.letters},
			[]float64{m.Letters, m.Length, m.Height}, "%g mm", test.diameter)
	}
	_, err := pipe.Shipped().Mark(pipe.ASME, 12)
	require.ErrorContains(t, err, "permanent tag")
	m, err := pipe.Shipped().Mark(pipe.ISO, 12)
	require.NoError(t, err)
	require.Equal(t, 37.7, m.Round)
	for _, diameter := range []float64{0, -4, 20_000} {
		_, err = pipe.Shipped().Mark(pipe.ISO, diameter)
		require.IsType(t, &refusal.Error{}, err)
	}
	_, err = pipe.Shipped().Mark("ansi", 60)
	require.ErrorContains(t, err, "iso, asme, din, bs")
	thick, err := pipe.Shipped().Mark(pipe.DIN, 500)
	require.NoError(t, err)
	require.Equal(t, []int{1, 3}, []int{m.Rows(), thick.Rows()})
}

func TestMarkersOfARunAreCounted(t *testing.T) {
	total, why, err := pipe.Shipped().Count(pipe.ISO, pipe.Run{Length: 40, Valves: 3, Bends: 2, Branches: 1, Walls: 1})
	require.NoError(t, err)
	require.Equal(t, 5+3+4+1+2, total)
	require.Len(t, why, 5)
	total, _, err = pipe.Shipped().Count(pipe.ASME, pipe.Run{Length: 40})
	require.NoError(t, err)
	require.Equal(t, 3, total)
	total, _, err = pipe.Shipped().Count(pipe.ASME, pipe.Run{Length: 40, Spacing: 5})
	require.NoError(t, err)
	require.Equal(t, 9, total)
	total, _, err = pipe.Shipped().Count(pipe.ISO, pipe.Run{})
	require.NoError(t, err)
	require.Zero(t, total)
	for _, run := range []pipe.Run{{Length: -1}, {Valves: -1}, {Length: 5, Spacing: -2}} {
		_, _, err = pipe.Shipped().Count(pipe.ISO, run)
		require.IsType(t, &refusal.Error{}, err)
	}
}

func ExampleBook_Find() {
	group, _ := pipe.Shipped().Find(pipe.ASME, "ammonia")
	marking, _ := pipe.Shipped().Mark(pipe.ASME, 89)
	fmt.Println(group.Letters, "on", group.Field, "with letters of", marking.Letters, "mm on", marking.Length, "mm")
	// Output: black on orange with letters of 32 mm on 300 mm
}

func TestTablesThatAreWrongAreRefused(t *testing.T) {
	files := func(name, from, to string) fs.FS {
		changed := fstest.MapFS{}
		for _, table := range []string{"rules.tsv", "groups.tsv", "sizes.tsv"} {
			data, err := fs.ReadFile(pipe.Files(), table)
			require.NoError(t, err)
			if table == name {
				require.Contains(t, string(data), from)
				data = []byte(strings.Replace(string(data), from, to, 1))
			}
			changed[table] = &fstest.MapFile{Data: data}
		}
		return changed
	}
	book, err := pipe.Read(files("groups.tsv", "Water\tgreen", "Water\tblue"))
	require.NoError(t, err)
	water, err := book.Find(pipe.ISO, "cooling water")
	require.NoError(t, err)
	require.Equal(t, "blue", water.Field)
	for _, wrong := range []struct{ name, from, to, says string }{
		{"rules.tsv", "asme\t", "ansi\t", "no rule set"}, {"rules.tsv", "\t10\t", "\t-10\t", "no figure"},
		{"rules.tsv", "\t10\t", "\t0\t", "apart"},
		{"groups.tsv", "iso\twater", "ansi\twater", "groups.tsv, line 2"},
		{"groups.tsv", "\tgreen\t", "\t\t", "two colours"}, {"groups.tsv", "iso\tsteam", "iso\twater",
			"two groups water"},
		{"sizes.tsv", "\n0\t", "\n5\t", "from 0 mm on"}, {"sizes.tsv", "32.001", "0", "rise"},
		{"sizes.tsv", "200", "x", "no figure"}, {"sizes.tsv", "\t200", "", "2 columns"},
	} {
		_, err := pipe.Read(files(wrong.name, wrong.from, wrong.to))
		require.ErrorContains(t, err, wrong.says, "%+v", wrong)
	}
	_, err = pipe.Read(fstest.MapFS{})
	require.ErrorIs(t, err, fs.ErrNotExist)
}
