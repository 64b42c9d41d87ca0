package compose_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/questions"
	"oddspool/core/series"
)

func TestLabelsSayWhatIsKnownOfTheirRun(t *testing.T) {
	d := label()
	d.Questions = []questions.Question{{Name: "batch", Kind: questions.Text, Default: "B7"}}
	d.Elements = []design.Element{{ID: "n", Kind: design.Text, X: 2000, Y: 2000, Width: 70_000, Height: 6000,
		Text: &design.TextLooks{Typeface: "Liberation Sans", Points: 10},
		Says: []design.Piece{{Field: "bin"}, {Text: " "}, {Field: "run.label"}, {Text: "/"}, {Field: "run.labels"},
			{Text: " "}, {Field: "run.printer"}, {Text: " "}, {Field: "run.operator"}, {Text: " "}, {Field: "batch"}}}}
	require.Empty(t, d.Check())
	require.Equal(t, []string{"bin", "batch"}, d.UsedFields())
	says := func(fields, record []string) string {
		c, err := compose.New(d, fields)
		require.NoError(t, err)
		l := &compose.Label{}
		c.Compose(l, record)
		require.Empty(t, l.Parts[0].Lacks+l.Parts[0].Blank)
		return l.Parts[0].Says
	}
	require.Equal(t, "N-1 1/1 "+d.Printer.Name+" operator B7", says([]string{"bin"}, []string{"N-1"}),
		"where there is no run")
	require.Equal(t, "N-1 3/40 Dock 2 Maren B7",
		says(d.LabelFields([]string{"bin"}), []string{"N-1", "3", "40", "Dock 2", "Maren", "2"}))
	require.Equal(t, "N-1 3/40 "+d.Printer.Name+" operator B7", says([]string{"bin", "run.label", "run.labels"},
		[]string{"N-1", "3", "40"}))
}

// Where there is no run, labels of a batch have the numbers that they would have if all were counted from the first.
func TestNumbersStandInWhereThereIsNoRun(t *testing.T) {
	d := label()
	d.Series = []design.Numbered{{Name: "crates", Counts: series.Spec{Start: "08", Step: 1, Width: 2, End: "11"}},
		{Name: "pallet", Per: design.PerRun, Counts: series.Spec{Start: "5", Step: 1}}}
	d.Elements = []design.Element{{ID: "n", Kind: design.Text, X: 2000, Y: 2000, Width: 70_000, Height: 6000,
		Text: &design.TextLooks{Typeface: "Liberation Sans", Points: 10},
		Says: []design.Piece{{Field: "bin"}, {Text: " "}, {Field: "crates"}, {Formula: `" of " + pallet`}}}}
	require.Empty(t, d.Check())
	c, err := compose.New(d, []string{"bin"})
	require.NoError(t, err)
	other := c.Clone()
	l := &compose.Label{}
	for n, want := range map[int]string{1: "N-1 08 of 5", 4: "N-1 11 of 5", 2: "N-1 09 of 5", 5: "N-1  of 5"} {
		c.Stand(n)
		c.Compose(l, []string{"N-1"})
		require.Equal(t, want, l.Parts[0].Says)
	}
	other.Compose(l, []string{"N-1"})
	require.Equal(t, "N-1 08 of 5", l.Parts[0].Says, "a clone stands on its own")
	taken, err := compose.New(d, d.LabelFields([]string{"bin"}))
	require.NoError(t, err)
	taken.Stand(3)
	taken.Compose(l, []string{"N-1", "1", "1", "Dock 2", "Maren", "1", "1", "6", "77", "6"})
	require.Equal(t, "N-1 77 of 6", l.Parts[0].Says, "what was taken stands")
}
