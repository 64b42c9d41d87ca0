package proof_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/stock"
)

func TestSymbolsAreJudged(t *testing.T) {
	sign := func(id string, side measure.Length) design.Element {
		return design.Element{ID: "sign", Kind: design.Symbol, X: 5 * mm, Y: 5 * mm, Width: side, Height: side,
			Symbol: &design.SymbolLooks{ID: id}}
	}
	for name, test := range map[string]struct {
		element design.Element
		inks    []stock.Ink
		face    string
		want    []proof.Kind
	}{
		"in its colours": {sign("GHS02", 20*mm), []stock.Ink{stock.Black, stock.Red}, "", nil},
		"a GHS frame in black": {sign("GHS02", 20*mm), []stock.Ink{stock.Black}, "",
			[]proof.Kind{proof.SymbolColour}},
		"too small": {sign("GHS02", 6*mm), []stock.Ink{stock.Black, stock.Red}, "",
			[]proof.Kind{proof.SmallSymbol}},
		"a warning on yellow stock": {sign("W001", 20*mm), []stock.Ink{stock.Black}, "#F7C600", nil},
		"a warning on white stock": {sign("W001", 20*mm), []stock.Ink{stock.Black}, "",
			[]proof.Kind{proof.SymbolColour}},
		"a prohibition on yellow": {sign("P002", 20*mm), []stock.Ink{stock.Black, stock.Red}, "#F7C600",
			[]proof.Kind{proof.SymbolColour}},
		"an arrow in any ink": {sign("AR1", 20*mm), []stock.Ink{"blue"}, "", nil},
		"not in the library": {sign("W999", 20*mm), []stock.Ink{stock.Black}, "",
			[]proof.Kind{proof.NoSymbol, proof.BlankLabel}},
		"in full colour":           {sign("GHS08", 20*mm), []stock.Ink{stock.Full}, "", nil},
		"transport under its size": {sign("UN5-2", 20*mm), []stock.Ink{stock.Full}, "", []proof.Kind{proof.UnderSize}},
		"transport, small and few": {sign("UN5-2", 8*mm), []stock.Ink{stock.Full}, "",
			[]proof.Kind{proof.SmallSymbol, proof.UnderSize}},
		"CE of 5 mm":    {sign("CE", 8*mm), []stock.Ink{stock.Black}, "", nil},
		"CE under 5 mm": {sign("CE", 6*mm), []stock.Ink{stock.Black}, "", []proof.Kind{proof.UnderSize}},
	} {
		d := label(test.element)
		d.Printer.Inks, d.Stock.Colour = test.inks, test.face
		checker, err := proof.NewChecker(d, nil)
		require.NoError(t, err, name)
		var got []proof.Kind
		for _, finding := range checker.Label(nil, 1, nil) {
			got = append(got, finding.Kind)
			require.NotEmpty(t, finding.Do)
		}
		require.Equal(t, test.want, got, name)
	}
	framed := sign("GHS02", 20*mm)
	framed.Symbol.NoFrame = true
	checker, err := proof.NewChecker(label(framed), nil)
	require.NoError(t, err)
	require.Empty(t, checker.Label(nil, 1, nil), "the stock has the red frame")
}
