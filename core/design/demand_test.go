package design_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
)

func TestDemandsOfADesign(t *testing.T) {
	asked := design.Demand{Of: "pipe", Element: "contents", Asks: design.AsksCapitals, Least: 32_000,
		Rule: "for a pipe of 60 mm", When: &design.Condition{Field: "mm", Is: design.OneOf, Values: []string{"60"}}}
	before, after := of(), of()
	before.Demands = []design.Demand{asked}
	overruled := asked
	overruled.Overruled = "read from 1 m"
	overruled.When = &design.Condition{Field: "mm", Is: design.OneOf, Values: []string{"60"}}
	after.Demands = []design.Demand{overruled}
	require.Contains(t, before.UsedFields(), "mm")
	require.Equal(t, []string{"A rule was overruled (capitals, for a pipe of 60 mm): “read from 1 m”."},
		texts(design.Compare(before, after)))
	require.Equal(t, []string{"A rule holds again (capitals, for a pipe of 60 mm)."},
		texts(design.Compare(after, before)))
	require.Equal(t, []string{"The rules of its safety labels ask for other things."},
		texts(design.Compare(of(), before)))
	require.Equal(t, []string{"The rules of its safety labels ask for other things."},
		texts(design.Compare(before, of())))

	// What asks the same keeps its reason when it is laid out again; what asks for more does not.
	larger := asked
	larger.Least = 64_000
	made := design.Overruling([]design.Demand{asked, larger}, after.Demands)
	require.Equal(t, []string{"read from 1 m", ""}, []string{made[0].Overruled, made[1].Overruled})
}

func TestDemandsThatLackSomething(t *testing.T) {
	for path, wrong := range map[string]design.Demand{
		"demands[0].when":    {Of: "pipe", Asks: design.AsksKnown, Rule: "x"},
		"demands[0].colour":  {Of: "pipe", Element: "a", Asks: design.AsksFill, Rule: "x"},
		"demands[0].element": {Of: "pipe", Asks: design.AsksWords, Rule: "x"},
	} {
		d := of(words("a", "Lot ", 0))
		d.Demands = []design.Demand{wrong}
		faults := d.Check()
		require.Contains(t, faults[len(faults)-1].Path, path)
	}
}
