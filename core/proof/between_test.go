package proof_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
)

// On every stock that a printer of eight dots takes, what is printed between and over labels is drawn, lies on the
// label, and has no code that could be taken for a good label.
func TestLabelsBetweenAndOverOnEveryStock(t *testing.T) {
	printer := stock.Printer{Name: "any", Resolution: measure.DotsPerMillimetre(8), HeadDots: 4000,
		MostWeb: 500 * measure.Millimetre, Inks: []stock.Ink{stock.Black}, Takes: stock.Kinds(),
		Sensors: []stock.Tracking{stock.Gap, stock.Mark, stock.Notch, stock.Continuous}}
	for _, s := range catalogue.All() {
		if s.Kind == stock.Plate || s.Kind == stock.Wrap || s.Kind == stock.Flag || s.Kind == stock.Sleeve {
			continue
		}
		for name, made := range map[string]*design.Design{"blank": design.Blank(s, printer),
			"cut mark": design.CutMark(s, printer), "void": design.Voided(s, printer)} {
			t.Run(s.Name+" "+name, func(t *testing.T) {
				require.Empty(t, made.Check())
				checker, err := proof.NewChecker(made, nil)
				require.NoError(t, err)
				findings, label, layers := checker.Drawn([]proof.Finding{}, 1, nil)
				dots := 0
				for _, plane := range layers {
					if !plane.Blank(render.Box{W: plane.Width, H: plane.Height}) {
						dots++
					}
				}
				require.Equal(t, name != "blank", dots > 0, "it can be seen")
				for i := range label.Parts {
					require.Zero(t, label.Parts[i].Module, "no code")
				}
				for _, f := range findings {
					require.NotEqual(t, proof.Error, f.Level, f.Text)
				}
			})
		}
	}
}
