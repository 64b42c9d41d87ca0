package compose_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/ask"
	"oddspool/core/compose"
	"oddspool/core/design"
)

func TestLabelsSayWhatIsKnownOfTheirRun(t *testing.T) {
	d := label()
	d.Questions = []ask.Question{{Name: "batch", Kind: ask.Text, Default: "B7"}}
	d.Elements = []design.Element{{ID: "n", Kind: design.Text, X: 2000, Y: 2000, Width: 70_000, Height: 6000, Text: &design.TextLooks{Typeface: "Liberation Sans", Points: 10},
		Says: []design.Piece{{Field: "bin"}, {Text: " "}, {Field: "run.label"}, {Text: "/"}, {Field: "run.labels"}, {Text: " "}, {Field: "run.printer"}, {Text: " "}, {Field: "run.operator"}, {Text: " "}, {Field: "batch"}}}}
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
	require.Equal(t, "N-1 1/1 "+d.Printer.Name+" operator B7", says([]string{"bin"}, []string{"N-1"}), "where there is no run")
	require.Equal(t, "N-1 3/40 Dock 2 Maren B7", says(design.WithFacts([]string{"bin"}), []string{"N-1", "3", "40", "Dock 2", "Maren"}))
	require.Equal(t, "N-1 3/40 "+d.Printer.Name+" operator B7", says([]string{"bin", "run.label", "run.labels"}, []string{"N-1", "3", "40"}))
}
