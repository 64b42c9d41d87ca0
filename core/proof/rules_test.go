package proof_test

import (
	"bytes"
	"context"
	"image"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/picture"
	"oddspool/core/proof"
	"oddspool/core/stock"
	"oddspool/core/symbology"
)

// broken is an example of each rule: a label that breaks it. Its record is contents and code.
func broken() map[string]example {
	of := func(elements ...design.Element) example {
		return example{label(elements...), []string{"Dulse, flaked", "952N0307B"}, stock.Setup{}}
	}
	bars := func() design.Element { return code(3*mm, 10*mm, 70*mm, 20*mm) }
	words := func() design.Element { return text(3*mm, 3*mm, 40*mm, 5*mm) }
	inked := func(ink stock.Ink) example { // of a printer that has black, red and yellow
		e := words()
		e.Ink = ink
		ex := of(e)
		ex.d.Printer.Inks = []stock.Ink{stock.Black, stock.Red, "yellow"}
		return ex
	}
	box := func(shape design.Shape) design.Element {
		return design.Element{ID: "box", Kind: design.Box, X: 2 * mm, Y: 2 * mm, Width: 50 * mm, Height: 8 * mm,
			Weight: mm / 2, Shape: &shape}
	}
	symbol := func(id string, side measure.Length, inks ...stock.Ink) example {
		ex := of(design.Element{ID: "sign", Kind: design.Symbol, X: 5 * mm, Y: 5 * mm, Width: side, Height: side,
			Symbol: &design.SymbolLooks{ID: id}})
		ex.d.Printer.Inks = inks
		return ex
	}
	coded := func(id symbology.ID, says string, module measure.Length) example {
		e := code(3*mm, 3*mm, 70*mm, 30*mm)
		e.Code = &design.CodeLooks{Symbology: string(id), Module: module}
		ex := of(e)
		ex.record[1] = says
		return ex
	}
	tag := func(serial string, change func(*design.Design)) example {
		d := tagged(change)
		d.Elements[0].Says = []design.Piece{{Field: "contents"}}
		for i := range d.Elements[1].Says {
			if d.Elements[1].Says[i].Field != "" {
				d.Elements[1].Says[i].Field = "code"
			}
		}
		for i := range d.Elements[1].Tag.User {
			d.Elements[1].Tag.User[i].Field = "code"
		}
		return example{d, []string{"Crate", serial}, stock.Setup{}}
	}
	demanded := func(ex example, demand design.Demand) example {
		if demand.Rule = "here (plant rule 7)"; demand.Element == "" && demand.Of == "" {
			demand.Element = ex.d.Elements[0].ID
		}
		demand.Of = "sign"
		ex.d.Demands = []design.Demand{demand}
		return ex
	}
	shown := func(ex example, says string) example { ex.record[0] = says; return ex }
	with := func(ex example, change func(*example)) example { change(&ex); return ex }
	return map[string]example{
		"field-gone": with(of(words()),
			func(ex *example) { ex.d.Elements[0].Says = []design.Piece{{Field: "shed"}} }),
		"empty.element": with(of(words()), func(ex *example) { ex.d.Elements[0].Says = nil }),
		"empty.field":   shown(of(words()), ""),
		"untranslated": with(of(words()), func(ex *example) {
			ex.d.Languages = &design.Languages{Field: "code", Own: "en"}
			ex.d.Elements[0].Says, ex.record[1] = []design.Piece{{Text: "Keep dry"}}, "no"
		}),
		"bad-formula": with(of(words()), func(ex *example) {
			ex.d.Elements[0].Says = []design.Piece{{Formula: "1 / contents"}}
		}),
		"bad-data.code": coded(symbology.Code128, "R昆d", 375),
		"bad-data.tag":  tag("4K7", nil),
		"blank-label": with(shown(of(words()), ""), func(ex *example) {
			ex.d.Elements[0].IfEmpty = design.LeaveOut
		}),
		"too-long.letters": shown(of(words()), strings.Repeat("dulse ", 2000)),
		"too-long.wide":    of(text(3*mm, 3*mm, 10*mm, 5*mm)),
		"too-long.tall":    of(text(3*mm, 3*mm, 40*mm, 3*mm)),
		"too-long.line": with(of(bars()), func(ex *example) {
			ex.d.Elements[0].Code.Header = []design.Piece{{Text: strings.Repeat("Brinewick Kelp Works ", 4)}}
		}),
		"too-long.piece": with(of(words()), func(ex *example) {
			ex.d.Stock = stock.Stock{Name: "Tape", Kind: stock.Tape, Shape: stock.Rectangle, Width: 12 * mm,
				Length: 20 * mm, Tape: &stock.TapeCut{ByContent: true, Margin: 2 * mm, Most: 20 * mm}}
			ex.d.Printer.Takes, ex.d.Turn = []stock.Kind{stock.Tape}, 90
		}),
		"no-glyph": shown(of(words()), "\U00013000"),
		"small-type.read": with(of(words()), func(ex *example) {
			ex.d.Elements[0].Text.ReadFrom = 20
		}),
		"small-type.dots": with(of(words()), func(ex *example) { ex.d.Elements[0].Text.Points = 2.5 }),
		"overlap":         of(words(), line(3*mm, 5*mm, 40*mm, mm)),

		"off-label.all":      of(line(80*mm, 3*mm, 10*mm, mm)),
		"off-label.edge":     of(line(70*mm, 3*mm, 10*mm, mm)),
		"off-label.code":     with(of(bars()), func(ex *example) { ex.record[1] = "952N0307B-and-much-longer" }),
		"off-label.outline":  with(of(text(mm, mm, 30*mm, 5*mm)), round),
		"off-label.runs-out": with(of(line(0, 0, 60*mm, 4*mm)), round),
		"off-label.offset":   with(of(words()), func(ex *example) { ex.setup.Across = -30 * mm }),
		"off-label.quiet-offset": with(of(code(2*mm, 10*mm, 70*mm, 20*mm)), func(ex *example) {
			ex.setup.Across = -3 * mm
		}),
		"no-print.reach": with(of(line(0, 3*mm, 10*mm, mm)), func(ex *example) { ex.d.Stock.Width = 110 * mm }),
		"no-print.band": with(of(line(2*mm, 40*mm, 5*mm, 5*mm)), func(ex *example) {
			ex.d.Stock = stock.Stock{Name: "Flag", Kind: stock.Flag, Shape: stock.Rectangle, Width: 25 * mm,
				Length: 85 * mm, Gap: 3 * mm, Flag: &stock.TwoFaces{Round: 15 * mm}}
			ex.d.Printer.Takes = []stock.Kind{stock.Flag}
		}),
		"no-print.hole": with(of(line(10*mm, 22*mm, 20*mm, 2*mm)), func(ex *example) {
			ex.d.Stock.Kind, ex.d.Stock.Plate = stock.Plate, &stock.Rigid{Clearance: mm,
				Holes: []stock.Hole{{X: 20 * mm, Y: 20 * mm, Diameter: 4 * mm}}}
		}),

		"no-ink.fill": with(of(box(design.Shape{Fill: "blue"})),
			func(ex *example) { ex.d.Printer.Inks = []stock.Ink{stock.Black} }),
		"no-ink":            with(inked("blue"), func(ex *example) { ex.d.Printer.Inks = nil }),
		"no-ink.nearest":    inked("blue"),
		"low-contrast.bare": with(of(words()), func(ex *example) { ex.d.Elements[0].Ink = design.Bare }),
		"low-contrast.none": with(inked(stock.White),
			func(ex *example) { ex.d.Printer.Inks = []stock.Ink{stock.White} }),
		"low-contrast.little": inked("yellow"),
		"low-contrast.code": with(coded(symbology.Code128, "952N", 375), func(ex *example) {
			ex.d.Printer.Inks = []stock.Ink{stock.Red}
			ex.d.Elements[0].Ink = stock.Red
		}),
		"tint": with(of(box(design.Shape{Fill: "black", Tint: 5})), func(ex *example) {
			ex.d.Printer.Inks = []stock.Ink{stock.Black}
		}),

		"code-big.bars": of(code(3*mm, 10*mm, 70*mm, 2*mm)),
		"code-big.tall": with(coded(symbology.QR, "952N0307B", 500),
			func(ex *example) { ex.d.Elements[0].Height = 5 * mm }),
		"code-big.wide":   of(code(3*mm, 10*mm, 40*mm, 20*mm)),
		"quiet-cut.edge":  of(code(-mm, 10*mm, 70*mm, 20*mm)),
		"quiet-cut.taken": of(bars(), line(4*mm, 8*mm, mm, 10*mm)),
		"reads-other.other": with(of(bars(), box(design.Shape{Fill: design.Bare, NoOutline: true}), bars()),
			func(ex *example) {
				ex.d.Elements[0].ID, ex.d.Elements[0].Says = "hidden", []design.Piece{{Text: "952N0307C"}}
				over := &ex.d.Elements[1]
				over.X, over.Y, over.Width, over.Height = 3*mm, 10*mm, 70*mm, 20*mm
			}),
		"reads-other.nothing": of(bars(), line(20*mm, 15*mm, 20*mm, mm)),
		"long-code": with(coded(symbology.GS1128, "(01)09521234543213(10)ABCDEFGHIJ(21)KLMNOPQRST", 500),
			func(ex *example) {
				ex.d.Stock.Width, ex.d.Elements[0].Width = 250*mm, 240*mm
				ex.d.Printer.HeadDots = 2400
			}),
		"module-range.purpose": with(coded(symbology.GS1Aztec, "(01)09521234543213(21)A1", 500), func(ex *example) {
			ex.d.Elements[0].Code.Purpose = symbology.Checkout
		}),
		"module-range.small": coded(symbology.EAN13, "9521234567899", 250),
		"module-range.large": with(coded(symbology.EAN13, "9521234567899", 750), func(ex *example) {
			ex.d.Stock.Width, ex.d.Elements[0].Width = 104*mm, 100*mm
		}),
		"low-bars": of(code(3*mm, 10*mm, 70*mm, 6*mm)),
		"ladder": with(coded(symbology.Code128, "95", 250), func(ex *example) {
			ex.d.Elements[0].Turn, ex.d.Printer.Speed = 90, 200
		}),
		"narrow-bars":  with(of(bars()), func(ex *example) { ex.d.Elements[0].Code.Narrower = 2 }),
		"other-module": with(of(bars()), func(ex *example) { ex.d.Elements[0].Code.Module = 190 }),
		"near-cut":     of(code(3*mm, 0, 70*mm, 20*mm)),
		"no-figures": with(coded(symbology.EAN13, "9521234567899", 375), func(ex *example) {
			ex.d.Elements[0].Code.Readable = design.None
		}),
		"plain-brackets": coded(symbology.DataMatrix, "(01)09521234543213", 500),
		"bad-link":       coded(symbology.QR, "https://id.brinewick.example/01/09521234543214", 500),
		"codes-differ": two(coded(symbology.GS1DataMatrix, "(01)09521234543213", 500), symbology.EAN13,
			"9521234567899"),
		"text-differs": with(of(text(3*mm, 3*mm, 40*mm, 5*mm), bars()),
			func(ex *example) { ex.record[0] = "952N0307C" }),
		"gs1-dates":         coded(symbology.GS1DataMatrix, "(01)09521234543213(11)261201(17)261130", 500),
		"gs1-measure.none":  coded(symbology.GS1DataMatrix, "(01)99521234543216", 500),
		"gs1-measure.fixed": coded(symbology.GS1DataMatrix, "(01)09521234543213(3103)001750", 500),
		"gs1-lacks":         coded(symbology.GS1DataMatrix, "(02)09521234543213(37)12", 500),
		"guessed.code":      coded(symbology.DataMatrix, "40 µm", 500),
		"guessed.no-eci":    coded(symbology.MicroQR, "5 °C", 500),
		"spaces":            coded(symbology.Code128, "952N ", 375),
		"twice.code":        of(bars()),
		"twice.tag":         tag("417", nil),

		"no-encoder":          tag("417", func(d *design.Design) { d.Printer.Encoder = false }),
		"no-inlay":            tag("417", func(d *design.Design) { d.Stock.Inlay = nil }),
		"tag-room.identifier": tag("417", func(d *design.Design) { d.Elements[1].Tag.Scheme = "sgtin-198" }),
		"tag-room.user":       tag("123456789012", nil),
		"over-chip": tag("417", func(d *design.Design) {
			d.Elements = append(d.Elements, chipCode(44*mm, 24*mm, "datamatrix", design.Piece{Text: "417"}))
		}),
		"open-kill": tag("417", func(d *design.Design) { d.Elements[1].Tag.Kill = "1234ABCD" }),
		"chip-other": tag("417", func(d *design.Design) {
			d.Elements = append(d.Elements, chipCode(70*mm, 44*mm, "gs1-datamatrix",
				design.Piece{Text: "(01)09521234543213(21)418"}))
		}),

		"jagged":                  pictured(6, func(x, y int) bool { return x > y }),
		"blob.dark":               pictured(400, func(x, y int) bool { return true }),
		"blob.bare":               pictured(400, func(x, y int) bool { return x+y == 0 }),
		"no-symbol":               symbol("W999", 20*mm, stock.Black),
		"small-symbol":            symbol("GHS02", 6*mm, stock.Black, stock.Red),
		"under-size":              symbol("UN5-2", 20*mm, stock.Full),
		"symbol-colour.other":     symbol("W001", 20*mm, stock.Black),
		"symbol-colour.ghs":       symbol("GHS02", 20*mm, stock.Black),
		"symbol-colour.transport": symbol("UN5-2", 30*mm, stock.Black),

		"safety-known": demanded(of(words()), design.Demand{Asks: design.AsksKnown,
			When: &design.Condition{Field: "contents", Is: design.Filled}}),
		"safety-presence.missing": demanded(of(words()), design.Demand{Element: "gone", Asks: design.AsksPresence}),
		"safety-presence.kind":    demanded(of(line(3*mm, 3*mm, 10*mm, mm)), design.Demand{Asks: design.AsksCapitals}),
		"safety-words":            demanded(of(words()), design.Demand{Asks: design.AsksWords, Says: "Danger"}),
		"safety-width.label": demanded(of(words()), design.Demand{Of: "all", Asks: design.AsksWidth,
			Least: 90 * mm}),
		"safety-width.part": demanded(of(words()), design.Demand{Asks: design.AsksWidth, Least: 60 * mm}),
		"safety-height.label": demanded(of(words()), design.Demand{Of: "all", Asks: design.AsksHeight,
			Least: 90 * mm}),
		"safety-height.part":      demanded(of(words()), design.Demand{Asks: design.AsksHeight, Least: 60 * mm}),
		"safety-letters.capitals": demanded(of(words()), design.Demand{Asks: design.AsksCapitals, Least: 9 * mm}),
		"safety-letters.small": with(demanded(of(words()), design.Demand{Of: "all", Asks: design.AsksSmall,
			Least: 9 * mm}),
			func(ex *example) {
				ex.d.Demands = append(ex.d.Demands, design.Demand{Of: "sign", Element: "words",
					Asks: design.AsksPresence})
			}),
		"safety-colour.no-field": demanded(of(box(design.Shape{Fill: "black"})),
			design.Demand{Asks: design.AsksFill, Colour: "blue"}),
		"safety-colour.field": demanded(with(of(box(design.Shape{Fill: "black"})), func(ex *example) {
			ex.d.Printer.Inks = []stock.Ink{stock.Black, "blue"}
		}), design.Demand{Asks: design.AsksFill, Colour: "blue"}),
		"safety-colour.no-ink": demanded(of(words()), design.Demand{Asks: design.AsksInk, Colour: "blue"}),
		"safety-colour.ink":    demanded(inked(stock.Black), design.Demand{Asks: design.AsksInk, Colour: stock.Red}),
		"safety-colour.symbol": demanded(symbol("W001", 20*mm, stock.Black),
			design.Demand{Asks: design.AsksColours}),
		"safety-colour.ghs": demanded(symbol("GHS02", 20*mm, stock.Black),
			design.Demand{Asks: design.AsksColours}),
		"safety-colour.transport": demanded(symbol("UN5-2", 30*mm, stock.Black),
			design.Demand{Asks: design.AsksColours}),
	}
}

// An example is a label that breaks a rule.
type example struct {
	d      *design.Design
	record []string
	setup  stock.Setup
}

// two adds another code to an example.
func two(ex example, id symbology.ID, says string) example {
	e := code(3*mm, 20*mm, 70*mm, 15*mm)
	e.ID, e.Says = "second", []design.Piece{{Text: says}}
	e.Code = &design.CodeLooks{Symbology: string(id), Module: 375}
	ex.d.Elements[0].Height = 15 * mm
	ex.d.Elements = append(ex.d.Elements, e)
	return ex
}

func round(ex *example) {
	ex.d.Stock.Shape, ex.d.Stock.Width, ex.d.Stock.Length = stock.Circle, 60*mm, 60*mm
}

func chipCode(x, y measure.Length, symbology string, says design.Piece) design.Element {
	return design.Element{ID: "code", Kind: design.Code, X: x, Y: y, Width: 14 * mm, Height: 14 * mm,
		Says: []design.Piece{says}, Code: &design.CodeLooks{Symbology: symbology, Module: 750}}
}

// pictured returns a label with a picture of as many dots on each side.
func pictured(side int, dark func(x, y int) bool) example {
	made := image.NewGray(image.Rect(0, 0, side, side))
	for i := range made.Pix {
		if made.Pix[i] = 255; dark(i%side, i/side) {
			made.Pix[i] = 0
		}
	}
	var file bytes.Buffer
	if err := png.Encode(&file, made); err != nil {
		panic(err)
	}
	hash := picture.Hash(file.Bytes())
	if err := picture.Register(hash, file.Bytes()); err != nil {
		panic(err)
	}
	return example{label(design.Element{ID: "picture", Kind: design.Picture, X: 5 * mm, Y: 5 * mm, Width: 20 * mm,
		Height: 20 * mm, Picture: &design.PictureLooks{Hash: hash}}), []string{"Dulse", "952N"}, stock.Setup{}}
}

// Each rule has an example, which breaks it, and says so in whole sentences. A rule without an example has no test.
func TestEveryRuleHappens(t *testing.T) {
	examples := broken()
	for _, rule := range proof.Rules() {
		ex, has := examples[rule.Code]
		if !has {
			t.Errorf("%s has no example", rule.Code)
			continue
		}
		// two of the same record, for codes that say the same twice
		report, err := proof.AllWith(context.Background(), ex.d, fields, [][]string{ex.record, ex.record}, nil,
			ex.setup)
		if !assert.NoError(t, err, rule.Code) {
			continue
		}
		var found []string
		for _, group := range report.Groups {
			if found = append(found, group.Rule); group.Rule != rule.Code {
				continue
			}
			assert.Equal(t, rule.Kind(), group.Kind, rule.Code)
			assert.Equal(t, rule.Level, group.Level, rule.Code)
			for _, sentence := range []string{group.Text, group.Do} {
				assert.Regexp(t, `^[\p{L}0-9“(].*[.!?]$`, sentence, rule.Code)
				assert.NotRegexp(t, `%!|[{}]|\.\.|MISSING`, sentence, rule.Code)
			}
			for _, name := range append(rule.Text.Names(), rule.Do.Names()...) {
				assert.Contains(t, group.Values, name, rule.Code)
			}
		}
		assert.Contains(t, found, rule.Code)
	}
	require.Len(t, examples, len(proof.Rules()), "examples of rules that are not there")
}
