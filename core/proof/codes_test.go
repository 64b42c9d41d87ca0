package proof_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/core/symbology"
)

// of returns a code element of a symbology.
func of(id symbology.ID, looks design.CodeLooks, x, y, w, h measure.Length) design.Element {
	looks.Symbology = string(id)
	if looks.Module == 0 {
		looks.Module = 375
	}
	if id == symbology.ITF14 || id == symbology.GS1QR || symbology.Of(id).Link || id == symbology.Pharmacode {
		looks.Module = 500
	}
	e := code(x, y, w, h)
	e.Code = &looks
	return e
}

func kinds(t *testing.T, d *design.Design, record []string) (found []proof.Kind) {
	checker, err := proof.NewChecker(d, fields)
	require.NoError(t, err)
	for _, f := range withFigures(checker.Label(nil, 1, record)) {
		require.NotEmpty(t, f.Text)
		require.NotEmpty(t, f.Do)
		found = append(found, f.Kind)
	}
	return found
}

// withFigures leaves out that a code shows no figures: those of these tests stand by themselves.
func withFigures(findings []proof.Finding) []proof.Finding {
	return slices.DeleteFunc(findings, func(f proof.Finding) bool { return f.Kind == proof.NoFigures })
}

// Codes of every symbology are read back from their dots as meant, in each quarter turn.
func TestEveryCodeIsReadBack(t *testing.T) {
	for _, guide := range symbology.All() {
		says := guide.Example
		for _, turn := range []measure.Turn{0, 90, 180, 270} {
			for _, looks := range []design.CodeLooks{{Readable: design.None}, {}, {Narrower: 1}} {
				e := of(guide.ID, looks, 5*mm, 5*mm, 110*mm, 60*mm)
				if turn.Sideways() {
					e.Width, e.Height = e.Height, e.Width
				}
				e.Turn = turn
				d := label(e)
				d.Stock.Width, d.Stock.Length, d.Printer.HeadDots = 120*mm, 120*mm, 1200
				require.Empty(t, kinds(t, d, []string{"", says}), "%s turned %d, %+v", guide.ID, turn, looks)
			}
		}
	}
}

func TestSpoiledCodesAreFound(t *testing.T) {
	says := []string{"", "952N0307B"}
	at := func(x, y, w, h measure.Length) design.Element { return line(x, y, w, h) }
	qr := of(symbology.QR, design.CodeLooks{Readable: design.None}, 10*mm, 5*mm, 25*mm, 25*mm)
	require.Empty(t, kinds(t, label(qr), says))
	require.Contains(t, kinds(t, label(qr, at(14*mm, 8*mm, 4*mm, 125)), says), proof.ReadsOther,
		"a line across its modules")
	require.Contains(t, kinds(t, label(qr, at(10*mm, 5*mm, 25*mm, 500)), says), proof.QuietCut, "above it")
	require.Contains(t, kinds(t, label(qr, at(10*mm, 5*mm, 500, 25*mm)), says), proof.QuietCut, "beside it")
	require.Contains(t, kinds(t, label(of(symbology.QR, design.CodeLooks{Readable: design.None}, 10*mm, 5*mm, 25*mm,
		6*mm)), says), proof.CodeTooBig)
	require.Contains(t, kinds(t, label(of(symbology.EAN13, design.CodeLooks{}, 3*mm, 5*mm, 70*mm, 25*mm)), says),
		proof.BadData)
	require.Contains(t, kinds(t, label(of(symbology.MSI, design.CodeLooks{Readable: design.None}, 3*mm, 5*mm, 70*mm,
		25*mm), at(3*mm, 10*mm, 60*mm, 250)), []string{"", "1234"}), proof.ReadsOther)

	require.Equal(t, []proof.Kind{proof.ModuleRange},
		kinds(t, label(of(symbology.EAN13, design.CodeLooks{Module: 250}, 3*mm, 5*mm, 70*mm, 25*mm)),
			[]string{"", "952123454321"}), "80 per cent is 0.264 mm")
	require.Equal(t, []proof.Kind{proof.ModuleRange, proof.LowBars},
		kinds(t, label(of(symbology.EAN8, design.CodeLooks{Module: 750}, 3*mm, 5*mm, 70*mm, 25*mm)),
			[]string{"", "9521234"}), "200 per cent is 0.66 mm, and 18.23 mm at 0.33 mm is 41 mm at 0.75 mm")

	for _, fit := range []design.Fit{design.NotSmaller, design.Largest} {
		e := of(symbology.QR, design.CodeLooks{Readable: design.None, Fit: fit, Module: 300}, 10*mm, 5*mm, 25*mm, 25*mm)
		require.Empty(t, kinds(t, label(e), says), fit)
	}
}

// Light on dark is as good as dark on light for the symbologies whose readers look for both, and for no other.
func TestCodesLightOnDark(t *testing.T) {
	for id, want := range map[symbology.ID][]proof.Kind{symbology.QR: nil, symbology.DataMatrix: nil,
		symbology.Aztec: nil, symbology.MicroQR: {proof.LowContrast}, symbology.Code128: {proof.LowContrast}} {
		e := of(id, design.CodeLooks{Readable: design.None, Module: 500}, 10*mm, 5*mm, 60*mm, 25*mm)
		e.Ink = stock.White
		d := label(e)
		d.Stock.Colour, d.Printer.Inks = "#202020", []stock.Ink{stock.White, stock.Black}
		require.Equal(t, want, kinds(t, d, []string{"", "952N03"}), id)
		d.Elements = append(d.Elements, line(12*mm, 6*mm, 2*mm, 10*mm))
		d.Elements[1].Ink = stock.White
		require.NotEmpty(t, kinds(t, d, []string{"", "952N03"}), "%s with a stroke across it", id)
		d.Stock.Colour = "#DCDCDC"
		require.Contains(t, kinds(t, d, []string{"", "952N03"}), proof.LowContrast, "%s on grey", id)
	}
}

func TestInksAndContrastAreLookedAt(t *testing.T) {
	says := []string{"", "952N0307B"}
	for name, test := range map[string]struct {
		face string
		ink  stock.Ink
		inks []stock.Ink
		want []proof.Kind
	}{
		"black on white":     {"", "", []stock.Ink{stock.Black}, nil},
		"black on yellow":    {"#F7C600", "", []stock.Ink{stock.Black}, nil},
		"black on red":       {"#D0312D", "", []stock.Ink{stock.Black}, nil},
		"black on blue":      {"#1D5FA8", "", []stock.Ink{stock.Black}, []proof.Kind{proof.LowContrast}},
		"black on grey":      {"#666666", "", []stock.Ink{stock.Black}, []proof.Kind{proof.LowContrast}},
		"black on brown":     {"#8B4513", "", []stock.Ink{stock.Black}, []proof.Kind{proof.LowContrast}},
		"black on pale grey": {"#C8C8C8", "", []stock.Ink{stock.Black}, nil},
		"grey on white":      {"", "#808080", []stock.Ink{stock.Full}, nil},
		"red on white":       {"", stock.Red, []stock.Ink{stock.Black, stock.Red}, []proof.Kind{proof.LowContrast}},
		"blue on white":      {"", "#1D5FA8", []stock.Ink{stock.Full}, nil},
		"an ink it lacks":    {"", "green", []stock.Ink{stock.Black}, []proof.Kind{proof.NoInk}},
		"red that it lacks":  {"", stock.Red, []stock.Ink{stock.Black}, []proof.Kind{proof.NoInk, proof.LowContrast}},
	} {
		e := of(symbology.Code128, design.CodeLooks{}, 3*mm, 5*mm, 70*mm, 25*mm)
		e.Ink = test.ink
		d := label(e)
		d.Stock.Colour, d.Printer.Inks = test.face, test.inks
		require.Equal(t, test.want, kinds(t, d, says), name)
	}
}

// Every copy of a legend is read: one that is spoiled on the second face is found.
func TestEveryCopyIsRead(t *testing.T) {
	d := label(of(symbology.Code128, design.CodeLooks{Readable: design.None, Module: 250}, 1*mm, 2*mm, 34*mm, 8*mm))
	d.Stock = stock.Stock{Name: "Flag", Kind: stock.Flag, Shape: stock.Rectangle, Width: 25 * mm, Length: 85 * mm,
		Gap: 3 * mm, Flag: &stock.TwoFaces{Round: 15 * mm}}
	d.Printer.Takes, d.Printer.Inks = []stock.Kind{stock.Flag}, []stock.Ink{stock.Black}
	d.Turn, d.Repeat = 90, 2
	checker, err := proof.NewChecker(d, fields)
	require.NoError(t, err)
	record := []string{"", "W104"}
	require.Empty(t, checker.Label(nil, 1, record))
	_, _, layers := checker.Drawn(nil, 1, record)
	spoiled := render.Layers{layers[0].Cut(render.Box{W: layers[0].Width, H: layers[0].Height})}
	for y := 500; y < 504; y++ {
		spoiled[0].SetRow(y, make([]byte, 25))
	}
	require.NotEmpty(t, checker.ReadBack(record, spoiled).Other)
	require.Empty(t, checker.ReadBack(record, layers).Other)
	require.Contains(t, checker.ReadBack(record, render.NewLayers(1, 5, 5)).Other, "5 × 5 dots")

	d.Elements = append(d.Elements, line(30*mm, 12*mm, 10*mm, 2*mm))
	d.Repeat = 1
	require.Contains(t, kinds(t, d, record), proof.NoPrint, "on what goes round the cable")
}

func TestPiecesThatGrowTooLongAreFound(t *testing.T) {
	d := label(text(2*mm, 3*mm, 10*mm, 6*mm))
	d.Stock = stock.Stock{Name: "Tape", Kind: stock.Tape, Shape: stock.Rectangle, Width: 12 * mm, Length: 40 * mm,
		Tape: &stock.TapeCut{ByContent: true, Margin: 2 * mm, Most: 40 * mm}}
	d.Printer.Takes, d.Printer.Inks, d.Turn = []stock.Kind{stock.Tape}, []stock.Ink{stock.Black}, 90
	require.Empty(t, kinds(t, d, []string{"pump 3", ""}))
	require.Equal(t, []proof.Kind{proof.TooLong}, kinds(t, d, []string{"pump 3 in the drying hall, north side", ""}))
}

// What GS1 asks for a purpose: modules, heights, and which symbology at all.
func TestSizesAreThoseOfThePurpose(t *testing.T) {
	ean := []string{"", "952123454321"}
	at := func(id symbology.ID, p symbology.Purpose, module, tall measure.Length) []proof.Kind {
		e := of(id, design.CodeLooks{Module: module, Purpose: p, Readable: design.None}, 3*mm, 3*mm, 94*mm, tall)
		e.Code.Module = module
		d := label(e)
		d.Stock.Width, d.Stock.Length, d.Printer.HeadDots = 110*mm, 60*mm, 1200
		says := ean
		if id == symbology.GS1128 {
			says = []string{"", "(00)095212345432123453"}
		}
		if id == symbology.Code128 {
			says = []string{"", "SSCC 095212345432123453"}
		}
		return kinds(t, d, says)
	}
	require.Empty(t, at(symbology.EAN13, symbology.Checkout, 375, 30*mm))
	require.Equal(t, []proof.Kind{proof.ModuleRange}, at(symbology.EAN13, symbology.Distribution, 375, 30*mm),
		"0.495 mm at least")
	require.Empty(t, at(symbology.EAN13, symbology.Distribution, 625, 45*mm))
	require.Equal(t, []proof.Kind{proof.ModuleRange}, at(symbology.EAN13, symbology.Logistic, 500, 40*mm), "not at all")
	require.Empty(t, at(symbology.GS1128, symbology.Logistic, 500, 32*mm))
	require.Equal(t, []proof.Kind{proof.LowBars}, at(symbology.GS1128, symbology.Logistic, 500, 31*mm), "31.75 mm")
	require.Empty(t, at(symbology.Code128, symbology.AnyPurpose, 375, 13*mm))
	require.Equal(t, []proof.Kind{proof.LowBars}, at(symbology.Code128, symbology.AnyPurpose, 375, 8*mm),
		"15 per cent of the width")
}

// A GS1-128 is 165.1 mm long at most, its quiet zones with it (GS1 General Specifications, 5.4.1).
func TestLongGS1128IsTold(t *testing.T) {
	at := func(module measure.Length, data string) []proof.Kind {
		e := of(symbology.GS1128, design.CodeLooks{Module: module, Purpose: symbology.Logistic, Readable: design.None},
			3*mm, 3*mm, 290*mm, 40*mm)
		d := label(e)
		d.Stock.Width, d.Stock.Length, d.Printer.HeadDots = 300*mm, 60*mm, 3000
		return kinds(t, d, []string{"", data})
	}
	const much = "(01)09521234543213(10)ABCDEFGHIJ(21)KLMNOPQR"
	require.Empty(t, at(500, "(00)095212345432123453"))
	require.Empty(t, at(875, "(00)095212345432123453"), "0.875 mm")
	require.Equal(t, []proof.Kind{proof.LongCode}, at(500, much))
	require.NotContains(t, at(500, much[:26]), proof.LongCode)
}

// Thin bars across the feed smear on a printer that can run fast.
func TestLaddersOnFastPrinters(t *testing.T) {
	at := func(turn measure.Turn, module measure.Length, speed int) []proof.Kind {
		e := of(symbology.Code128, design.CodeLooks{Module: module, Readable: design.None}, 3*mm, 3*mm, 60*mm, 60*mm)
		e.Turn = turn
		d := label(e)
		d.Stock.Width, d.Stock.Length, d.Printer.HeadDots, d.Printer.Speed = 70*mm, 70*mm, 800, speed
		return kinds(t, d, []string{"", "952N"})
	}
	require.Empty(t, at(0, 250, 200), "along the feed")
	require.Equal(t, []proof.Kind{proof.Ladder}, at(90, 250, 200))
	require.Equal(t, []proof.Kind{proof.Ladder}, at(270, 250, 200))
	require.Empty(t, at(90, 375, 200), "three dots are thick enough")
	require.Empty(t, at(90, 250, 100), "slow enough")
}

// What GS1 data needs may stand in another code of the same label, also in one that does not say so.
func TestGS1DataNeedsOtherDataOnTheLabel(t *testing.T) {
	at := func(id symbology.ID, y measure.Length, says string) design.Element {
		e := of(id, design.CodeLooks{Readable: design.None}, 3*mm, y, 94*mm, 28*mm)
		e.ID, e.Says = string(id), []design.Piece{{Text: says}}
		return e
	}
	kindsOf := func(elements ...design.Element) []proof.Kind {
		d := label(elements...)
		d.Stock.Width, d.Stock.Length, d.Printer.HeadDots = 110*mm, 70*mm, 1200
		return kinds(t, d, nil)
	}
	lot := at(symbology.GS1128, 3*mm, "(10)26K104")
	require.Equal(t, []proof.Kind{proof.GS1Lacks}, kindsOf(lot))
	require.Empty(t, kindsOf(lot, at(symbology.GS1DataMatrix, 35*mm, "(01)09521234543213")))
	require.Empty(t, kindsOf(lot, at(symbology.EAN13, 35*mm, "9521234543213")))
	require.Equal(t, []proof.Kind{proof.GS1Lacks}, kindsOf(lot, at(symbology.Code128, 35*mm, "9521234543213")))
	// A check character of 102 looks like a separator to a reader.
	require.Empty(t, kindsOf(at(symbology.GS1128, 3*mm, "(00)095212345000004498")))
}

// BenchmarkReadBackTwoCodes draws a label with two codes and reads both back.
func BenchmarkReadBackTwoCodes(b *testing.B) {
	first := of(symbology.Code128, design.CodeLooks{}, 3*mm, 3*mm, 60*mm, 14*mm)
	second := of(symbology.QR, design.CodeLooks{Readable: design.None}, 3*mm, 20*mm, 20*mm, 20*mm)
	second.ID = "second"
	checker, err := proof.NewChecker(label(first, second), fields)
	require.NoError(b, err)
	record := []string{"", "952N0307B-0417"}
	b.ReportAllocs()
	for b.Loop() {
		if read := checker.ReadBack(record, nil); read.Codes != 2 || read.Other != "" {
			b.Fatal(read)
		}
	}
}

// alone returns a design of one code with room around it, and where its bars and its quiet zone lie.
func alone(t *testing.T, id symbology.ID, turn measure.Turn) (d *design.Design, bars, quiet render.Box,
	dot measure.Length) {
	e := of(id, design.CodeLooks{Readable: design.None}, 20*mm, 20*mm, 90*mm, 60*mm)
	if turn.Sideways() {
		e.Width, e.Height = e.Height, e.Width
	}
	e.Turn, e.Says = turn, []design.Piece{{Text: symbology.Of(id).Example}}
	d = label(e)
	d.Stock.Width, d.Stock.Length, d.Printer.HeadDots = 130*mm, 130*mm, 1200
	checker, err := proof.NewChecker(d, nil)
	require.NoError(t, err)
	found, composed, _ := checker.Drawn(nil, 1, nil)
	require.Empty(t, withFigures(found), "%s turned %d", id, turn)
	return d, composed.Parts[0].Bars, composed.Parts[0].Quiet, d.Printer.Resolution.Length(1)
}

// at returns a line that covers a box of dots.
func at(box render.Box, dot measure.Length) design.Element {
	return line(measure.Length(box.X)*dot, measure.Length(box.Y)*dot, measure.Length(box.W)*dot,
		measure.Length(box.H)*dot)
}

// A line of two dots across the middle of any code, in any turn, is found.
func TestEverySpoiledCodeIsFound(t *testing.T) {
	for _, guide := range symbology.All() {
		for _, turn := range []measure.Turn{0, 90, 180, 270} {
			d, bars, _, dot := alone(t, guide.ID, turn)
			across := render.Box{X: bars.X, Y: bars.Y + bars.H/2, W: bars.W, H: 2}
			if turn.Sideways() {
				across = render.Box{X: bars.X + bars.W/2, Y: bars.Y, W: 2, H: bars.H}
			}
			d.Elements = append(d.Elements, at(across, dot))
			require.Contains(t, kinds(t, d, nil), proof.ReadsOther, "%s turned %d", guide.ID, turn)
		}
	}
}

// A single dot in the quiet zone of any code that has one is found, on each side that must be free.
func TestEveryQuietZoneIsLookedAt(t *testing.T) {
	for _, guide := range symbology.All() {
		for _, turn := range []measure.Turn{0, 90, 180, 270} {
			_, bars, quiet, dot := alone(t, guide.ID, turn)
			if guide.Quiet == 0 {
				require.Equal(t, bars, quiet, guide.ID)
				continue
			}
			sides := []render.Box{
				{X: quiet.X, Y: bars.Y + bars.H/2, W: 1, H: 1}, {X: quiet.X + quiet.W - 1, Y: bars.Y + bars.H/2, W: 1,
					H: 1},
				{X: bars.X + bars.W/2, Y: quiet.Y, W: 1, H: 1}, {X: bars.X + bars.W/2, Y: quiet.Y + quiet.H - 1, W: 1,
					H: 1},
			}
			if !guide.Is2D { // only before the first bar and after the last
				sides = sides[:2]
				if turn.Sideways() {
					sides = []render.Box{{X: bars.X + bars.W/2, Y: quiet.Y, W: 1, H: 1},
						{X: bars.X + bars.W/2, Y: quiet.Y + quiet.H - 1, W: 1, H: 1}}
				}
			}
			for i, side := range sides {
				d, _, _, _ := alone(t, guide.ID, turn)
				d.Elements = append(d.Elements, at(side, dot))
				require.Contains(t, kinds(t, d, nil), proof.QuietCut, "%s turned %d, side %d", guide.ID, turn, i)
			}
		}
	}
}

// A label that came out with one bar or module less is read as something else, or as nothing.
func TestEveryCodeThatCameOutOtherwiseIsFound(t *testing.T) {
	for _, guide := range symbology.All() {
		d, bars, _, _ := alone(t, guide.ID, 0)
		checker, err := proof.NewChecker(d, nil)
		require.NoError(t, err)
		_, _, layers := checker.Drawn(nil, 1, nil)
		came := render.Layers{layers[0].Cut(render.Box{W: layers[0].Width, H: layers[0].Height})}
		require.Empty(t, checker.ReadBack(nil, came).Other, guide.ID)
		for y := bars.Y; y < bars.Y+bars.H; y++ { // the dots over the middle of the code did not heat
			row := came[0].AppendRow(nil, y)
			for x := bars.X + bars.W/3; x < bars.X+bars.W*2/3; x++ {
				row[x/8] &^= 0x80 >> (x % 8)
			}
			came[0].SetRow(y, row)
		}
		reading := checker.ReadBack(nil, came)
		require.Equal(t, 1, reading.Codes)
		require.NotEmpty(t, reading.Other, guide.ID)
	}
}

func TestLevelsAreWrittenAndRead(t *testing.T) {
	for _, level := range []proof.Level{proof.Fine, proof.Warning, proof.Error} {
		text, err := level.MarshalText()
		require.NoError(t, err)
		require.Equal(t, level.String(), string(text))
		var back proof.Level
		require.NoError(t, back.UnmarshalText(text))
		require.Equal(t, level, back)
	}
	var level proof.Level
	require.EqualError(t, level.UnmarshalText([]byte("dire")), `the level "dire" is not known`)
}

// Placing looks at the boxes that elements were given, without a record.
func TestPlacingNeedsNoRecord(t *testing.T) {
	off := text(90*mm, 5*mm, 30*mm, 8*mm)
	off.ID = "off"
	red := text(3*mm, 20*mm, 30*mm, 8*mm)
	red.ID, red.Ink = "red", stock.Red
	checker, err := proof.NewChecker(label(text(3*mm, 3*mm, 30*mm, 8*mm), off, red), fields)
	require.NoError(t, err)
	found := checker.Placing()
	require.Len(t, found, 2)
	require.Equal(t, []string{"off", "red"}, []string{found[0].Element, found[1].Element})
	require.Equal(t, []proof.Kind{proof.OffLabel, proof.NoInk}, []proof.Kind{found[0].Kind, found[1].Kind})
	require.Zero(t, found[0].Record)
}
