package proof_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/stock"
)

// tagged returns a design with a tag whose identifier is of a field, on a stock with a chip.
func tagged(change func(*design.Design)) *design.Design {
	const mm = measure.Millimetre
	d := &design.Design{Format: design.Format, Name: "Crates",
		Stock: stock.Stock{Name: "crate label with chip", Kind: stock.DieCut, Shape: stock.Rectangle, Width: 100 * mm,
			Length: 60 * mm, Gap: 3 * mm, Inlay: &stock.Inlay{X: 5 * mm, Y: 20 * mm, Width: 90 * mm, Height: 20 * mm,
				ChipX: 50 * mm, ChipY: 30 * mm, EPCBits: 128, UserBits: 64}},
		Printer: stock.Printer{Name: "Lab bench", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1248,
			Inks: []stock.Ink{stock.Black}, Encoder: true},
		Elements: []design.Element{
			{ID: "words", Kind: design.Text, X: 10 * mm, Y: 22 * mm, Width: 40 * mm, Height: 6 * mm,
				Says: []design.Piece{{Text: "Crate"}}, Text: &design.TextLooks{Typeface: "Liberation Sans",
					Points: 10}},
			{ID: "tag", Kind: design.Tag, X: 5 * mm, Y: 20 * mm, Width: 90 * mm, Height: 20 * mm,
				Says: []design.Piece{{Text: "(01)09521234543213(21)"}, {Field: "serial"}},
				Tag: &design.TagLooks{Scheme: "sgtin-96", Prefix: 7, Filter: 1,
					User: []design.Piece{{Field: "serial"}}}},
		}}
	if change != nil {
		change(d)
	}
	return d
}

func TestTagsAreJudged(t *testing.T) {
	const mm = measure.Millimetre
	for name, test := range map[string]struct {
		change func(*design.Design)
		serial string
		want   []proof.Kind
	}{
		"well, and the words over the antenna too": {nil, "417", nil},
		"a serial that is no number":               {nil, "4K7", []proof.Kind{proof.BadData}},
		"user memory that is full":                 {nil, "123456789012", []proof.Kind{proof.TagRoom}},
		"an identifier that is too long": {func(d *design.Design) { d.Elements[1].Tag.Scheme = "sgtin-198" },
			"417", []proof.Kind{proof.TagRoom}},
		"a kill password for all to read": {func(d *design.Design) { d.Elements[1].Tag.Kill = "1234ABCD" },
			"417", []proof.Kind{proof.OpenKill}},
		"a kill password that is locked": {func(d *design.Design) {
			d.Elements[1].Tag.Kill, d.Elements[1].Tag.Access, d.Elements[1].Tag.Lock = "1234ABCD", "00C0FFEE",
				design.WithAccess
		}, "417", nil},
		"a stock without a chip": {func(d *design.Design) { d.Stock.Inlay = nil }, "417",
			[]proof.Kind{proof.NoInlay}},
		"a printer that writes none": {func(d *design.Design) { d.Printer.Encoder = false }, "417",
			[]proof.Kind{proof.NoEncoder}},
		"a code over the chip": {func(d *design.Design) {
			d.Elements = append(d.Elements, design.Element{ID: "code", Kind: design.Code, X: 44 * mm, Y: 24 * mm,
				Width: 14 * mm, Height: 14 * mm, Says: []design.Piece{{Text: "417"}},
				Code: &design.CodeLooks{Symbology: "datamatrix", Module: 750}})
		}, "417", []proof.Kind{proof.OverChip}},
		"a code beside it": {func(d *design.Design) {
			d.Elements = append(d.Elements, design.Element{ID: "code", Kind: design.Code, X: 70 * mm, Y: 44 * mm,
				Width: 14 * mm, Height: 14 * mm, Says: []design.Piece{{Text: "417"}},
				Code: &design.CodeLooks{Symbology: "datamatrix", Module: 750}})
		}, "417", nil},
		"a code that says another crate": {func(d *design.Design) {
			d.Elements = append(d.Elements, design.Element{ID: "code", Kind: design.Code, X: 70 * mm, Y: 42 * mm,
				Width: 16 * mm, Height: 16 * mm, Says: []design.Piece{{Text: "(01)09521234543213(21)418"}},
				Code: &design.CodeLooks{Symbology: "gs1-datamatrix", Module: 500, Readable: design.None}})
		}, "417", []proof.Kind{proof.ChipOther}},
		"a code that says the same": {func(d *design.Design) {
			d.Elements = append(d.Elements, design.Element{ID: "code", Kind: design.Code, X: 70 * mm, Y: 42 * mm,
				Width: 16 * mm, Height: 16 * mm, Says: []design.Piece{{Text: "(01)09521234543213(21)417"}},
				Code: &design.CodeLooks{Symbology: "gs1-datamatrix", Module: 500, Readable: design.None}})
		}, "417", nil},
		"hexadecimal digits": {func(d *design.Design) {
			d.Elements[1].Says, d.Elements[1].Tag = []design.Piece{{Text: "30340242201D"}, {Field: "serial"}},
				&design.TagLooks{}
		}, "0417", nil},
		"no hexadecimal digits": {func(d *design.Design) {
			d.Elements[1].Says, d.Elements[1].Tag = []design.Piece{{Field: "serial"}}, &design.TagLooks{}
		}, "kelp", []proof.Kind{proof.BadData}},
	} {
		t.Run(name, func(t *testing.T) {
			d := tagged(test.change)
			require.Empty(t, d.Check())
			checker, err := proof.NewChecker(d, []string{"serial"})
			require.NoError(t, err)
			findings, _, _ := checker.Drawn([]proof.Finding{}, 1, []string{test.serial})
			var kinds []proof.Kind
			for _, f := range findings {
				kinds = append(kinds, f.Kind)
			}
			require.Equal(t, test.want, kinds, "%v", findings)
		})
	}
}

func TestOneTagTwice(t *testing.T) {
	report, err := proof.All(t.Context(), tagged(nil), []string{"serial"}, [][]string{{"417"}, {"418"}, {"417"}})
	require.NoError(t, err)
	require.Len(t, report.Groups, 1)
	require.Equal(t, proof.Twice, report.Groups[0].Kind)
	require.Contains(t, report.Groups[0].Text, "This tag says the same as that of record 1.")
}
