package proof_test

import (
	"context"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/stock"
	_ "oddspool/core/typefaces" // the program's own
)

const mm = measure.Millimetre

func label(elements ...design.Element) *design.Design {
	return &design.Design{
		Format: design.Format, Name: "Test",
		Stock: stock.Stock{Name: "76 × 38", Kind: stock.DieCut, Shape: stock.Rectangle, Width: 76 * mm,
			Length: 38 * mm, Gap: 3 * mm},
		Printer:  stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832},
		Elements: elements,
	}
}

func text(x, y, w, h measure.Length) design.Element {
	return design.Element{ID: "words", Kind: design.Text, X: x, Y: y, Width: w, Height: h,
		Says: []design.Piece{{Field: "contents"}},
		Text: &design.TextLooks{Typeface: "Liberation Sans", Points: 10}}
}

func code(x, y, w, h measure.Length) design.Element {
	return design.Element{ID: "code", Kind: design.Code, X: x, Y: y, Width: w, Height: h,
		Says: []design.Piece{{Field: "code"}},
		Code: &design.CodeLooks{Symbology: "code128", Module: 375}}
}

func line(x, y, w, h measure.Length) design.Element {
	return design.Element{ID: "line", Kind: design.Line, X: x, Y: y, Width: w, Height: h}
}

var fields = []string{"contents", "code"}

func TestFindings(t *testing.T) {
	const contents, data = "Dulse, flaked", "952N0307B"
	at := func(e design.Element, change func(*design.Element)) design.Element { change(&e); return e }
	good := code(3*mm, 10*mm, 70*mm, 20*mm)
	for name, test := range map[string]struct {
		elements []design.Element
		record   []string
		kind     proof.Kind
		level    proof.Level
		text     string
	}{
		"all well": {[]design.Element{text(3*mm, 3*mm, 40*mm, 5*mm), good}, []string{contents, data}, "", 0,
			""},
		"type too small": {[]design.Element{at(text(3*mm, 3*mm, 40*mm, 5*mm),
			func(e *design.Element) { e.Text.Points = 2.5 })}, []string{contents, data}, proof.SmallType, proof.Warning,
			"small letters are 4 dots tall"},
		"not on this label": {[]design.Element{line(3*mm, 3*mm, 10*mm, mm),
			at(text(90*mm, 3*mm, 40*mm, 5*mm),
				func(e *design.Element) { e.When = &design.Condition{Field: "contents", Is: design.Void} })},
			[]string{contents, data}, "", 0, ""},
		"condition's field": {[]design.Element{at(line(3*mm, 3*mm, 10*mm, mm),
			func(e *design.Element) { e.When = &design.Condition{Field: "shed", Is: design.Void} })},
			[]string{contents, data}, proof.FieldGone, proof.Error, `no field "shed"`},
		"text too long": {[]design.Element{text(3*mm, 3*mm, 10*mm, 5*mm)}, []string{contents, data},
			proof.TooLong, proof.Error, "mm too long for its box"},
		"text too tall": {[]design.Element{text(3*mm, 3*mm, 40*mm, 3*mm)}, []string{contents, data},
			proof.TooLong, proof.Error, "1.0 mm too tall"},
		"no glyph": {[]design.Element{text(3*mm, 3*mm, 40*mm, 5*mm)}, []string{"\U00013000", data},
			proof.NoGlyph, proof.Error, "U+13000"},
		"empty field": {[]design.Element{text(3*mm, 3*mm, 40*mm, 5*mm)}, []string{"", data}, proof.Empty,
			proof.Error, "contents is empty."},
		"empty part": {[]design.Element{at(text(3*mm, 3*mm, 40*mm, 5*mm),
			func(e *design.Element) { e.Says = []design.Piece{{Text: "Lot "}, {Field: "contents"}} })},
			[]string{"", data}, proof.Empty, proof.Error, "contents is empty."},
		"left out": {[]design.Element{line(3*mm, 3*mm, 10*mm, mm),
			at(text(90*mm, 3*mm, 40*mm, 5*mm), func(e *design.Element) { e.IfEmpty = design.LeaveOut })},
			[]string{"", data}, "", 0, ""},
		"field gone": {[]design.Element{at(good,
			func(e *design.Element) { e.Says = []design.Piece{{Field: "shed"}} })}, []string{contents, data},
			proof.FieldGone, proof.Error, `no field "shed"`},
		"cannot be encoded": {[]design.Element{good}, []string{contents, "R昆d"}, proof.BadData, proof.Error,
			"“昆” (character 2)"},
		"off the label": {[]design.Element{line(80*mm, 3*mm, 10*mm, mm)}, nil, proof.OffLabel, proof.Error,
			"lies off the label"},
		"over the edge": {[]design.Element{line(70*mm, 3*mm, 10*mm, mm)}, nil, proof.OffLabel, proof.Error,
			"4.0 mm over the right edge"},
		"code wider than it": {[]design.Element{good}, []string{contents, "952N0307B-and-much-longer"}, proof.OffLabel,
			proof.Error, "over the right edge"},
		"code wider than box": {[]design.Element{code(3*mm, 10*mm, 40*mm, 20*mm)}, []string{contents, data},
			proof.CodeTooBig, proof.Warning, "wider than its box"},
		"quiet zone at edge": {[]design.Element{code(0, 10*mm, 70*mm, 20*mm), line(0, 0, mm, mm)},
			[]string{contents, data}, "", 0, ""},
		"quiet zone cut": {[]design.Element{code(-mm, 10*mm, 70*mm, 20*mm)}, []string{contents, data},
			proof.QuietCut, proof.Error, "edge of the label cuts"},
		"quiet zone used": {[]design.Element{good, line(4*mm, 8*mm, mm, 10*mm)}, []string{contents, data},
			proof.QuietCut, proof.Error, "Something stands in its quiet zone"},
		"crossed bars": {[]design.Element{good, line(20*mm, 15*mm, 20*mm, mm)}, []string{contents, data},
			proof.ReadsOther, proof.Error, "not the same from end to end"},
		"covered bars": {[]design.Element{good, line(20*mm, 5*mm, 2*mm, 30*mm)}, []string{contents, data},
			proof.ReadsOther, proof.Error, "says nothing"},
		"no room for bars": {[]design.Element{code(3*mm, 10*mm, 70*mm, 2*mm)}, []string{contents, data},
			proof.CodeTooBig, proof.Error, "no room for bars"},
		"blank": {[]design.Element{at(text(9*mm, 3*mm, 40*mm, 5*mm),
			func(e *design.Element) { e.IfEmpty = design.LeaveOut })}, []string{"", data}, proof.BlankLabel,
			proof.Error, "Nothing is on this label."},
		"text over text": {[]design.Element{text(3*mm, 3*mm, 40*mm, 5*mm),
			at(text(6*mm, 4*mm, 40*mm, 5*mm), func(e *design.Element) { e.ID = "second" })}, []string{contents, data},
			proof.Overlap, proof.Warning, "This lies over"},
		"text over a line": {[]design.Element{text(3*mm, 3*mm, 40*mm, 5*mm), line(3*mm, 5*mm, 40*mm, mm)},
			[]string{contents, data}, proof.Overlap, proof.Warning, "This lies over"},
		"lines of text": {[]design.Element{text(3*mm, 3*mm, 40*mm, 5*mm),
			at(text(3*mm, 7*mm, 40*mm, 5*mm), func(e *design.Element) { e.ID = "second" })}, []string{contents, data},
			"", 0, ""},
		"space at the end": {[]design.Element{good}, []string{contents, data + " "}, proof.Spaces, proof.Warning,
			"white space"},
		"nothing said": {[]design.Element{at(good, func(e *design.Element) { e.Says = nil })},
			[]string{contents, data}, proof.Empty, proof.Error, "Nothing is said here yet."},
	} {
		for _, turn := range []measure.Turn{0, 90, 180, 270} { // of the artwork on the web
			d := label(test.elements...)
			d.Elements = slices.Clone(d.Elements)
			d.Turn = turn
			if turn.Sideways() {
				d.Stock.Width, d.Stock.Length = d.Stock.Length, d.Stock.Width
			}
			checker, err := proof.NewChecker(d, fields)
			require.NoError(t, err)
			findings := checker.Label(nil, 812, test.record)
			if test.kind == "" {
				require.Empty(t, findings, "%s, turn %d", name, turn)
				continue
			}
			require.NotEmpty(t, findings, "%s, turn %d", name, turn)
			require.Equal(t, test.kind, findings[0].Kind, "%s: %+v", name, findings)
			require.Equal(t, test.level, findings[0].Level, name)
			require.Contains(t, findings[0].Text, test.text, name)
			require.NotEmpty(t, findings[0].Do, name)
			require.Equal(t, 812, findings[0].Record)
		}
	}
}

// What the head does not reach, a margin to keep and a hole are no place for print, whatever the turn.
func TestWhatCannotBePrintedIsSaid(t *testing.T) {
	head := func(s *stock.Stock) { s.Width, s.EdgeLeft, s.EdgeRight = 110*mm, 0, 0 }
	for name, test := range map[string]struct {
		change  func(*stock.Stock)
		element design.Element
		text    string
	}{
		"within":      {head, line(4*mm, 3*mm, 10*mm, mm), ""},
		"beyond head": {head, line(mm, 3*mm, 10*mm, mm), "2.0 mm beyond what Dock 2 can print"},
		"margin":      {func(s *stock.Stock) { s.Keep = 2 * mm }, line(10*mm, mm, 10*mm, mm), "1.0 mm beyond"},
		"hole": {func(s *stock.Stock) {
			s.Kind, s.Plate = stock.Plate, &stock.Rigid{Holes: []stock.Hole{{X: 20 * mm, Y: 20 * mm, Diameter: 4 * mm}},
				Clearance: mm}
		}, line(10*mm, 22*mm, 20*mm, 2*mm), "hole"},
		"by the hole": {func(s *stock.Stock) {
			s.Kind, s.Plate = stock.Plate, &stock.Rigid{Holes: []stock.Hole{{X: 20 * mm, Y: 20 * mm, Diameter: 4 * mm}},
				Clearance: mm}
		}, line(10*mm, 24*mm, 20*mm, 2*mm), ""},
		"second lane": {func(s *stock.Stock) { s.Width, s.Lanes, s.LaneGap = 52*mm, 2, 4*mm },
			line(49*mm, 5*mm, 3*mm, mm), "beyond what Dock 2"},
		"in both lanes": {func(s *stock.Stock) { s.Width, s.Lanes, s.LaneGap = 48*mm, 2, 4*mm },
			line(0, 5*mm, 48*mm, mm), ""},
	} {
		d := label(test.element)
		test.change(&d.Stock)
		checker, err := proof.NewChecker(d, fields)
		require.NoError(t, err)
		findings := checker.Label(nil, 1, nil)
		if test.text == "" {
			require.Empty(t, findings, name)
			continue
		}
		require.Len(t, findings, 1, name)
		require.Equal(t, proof.NoPrint, findings[0].Kind)
		require.Contains(t, findings[0].Text, test.text, name)
	}
}

func TestTurnedCodesReadBack(t *testing.T) {
	for _, turn := range []measure.Turn{0, 90, 180, 270} {
		e := code(5*mm, mm, 65*mm, 12*mm)
		if turn.Sideways() {
			e = code(5*mm, mm, 12*mm, 36*mm)
			e.Code.Module = 250
			e.Says = []design.Piece{{Text: "26K1"}}
		}
		e.Turn = turn
		checker, err := proof.NewChecker(label(e), fields)
		require.NoError(t, err)
		require.Empty(t, checker.Label(nil, 1, []string{"x", "952N0307B"}), "turn %d", turn)
	}
}

func TestAllFindsEveryRecordOnce(t *testing.T) {
	d := label(text(3*mm, 3*mm, 24*mm, 5*mm), code(3*mm, 10*mm, 70*mm, 20*mm))
	records := make([][]string, 1000)
	for i := range records {
		records[i] = []string{"Dulse", fmt.Sprintf("952N%04d", i)}
	}
	records[811][0] = "Bladderwrack, coarse cut"
	records[299][0] = "Bladderwrack, coarse cut"
	records[17][1] = "R昆d"
	report, err := proof.All(context.Background(), d, fields, records)
	require.NoError(t, err)
	require.Equal(t, 3, report.Errors())
	require.Zero(t, report.Warnings())
	require.Equal(t, 999, report.Codes)
	require.Len(t, report.Groups, 2)
	require.Equal(t, []int{18}, report.Groups[0].Records)
	require.Equal(t, []int{300, 812}, report.Groups[1].Records)
	require.Equal(t, proof.Error, report.Worst[811])
	require.Equal(t, proof.Fine, report.Worst[0])

	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = proof.All(ctx, d, fields, records)
	require.ErrorIs(t, err, context.Canceled)

	d.Elements[0].Text.Typeface = "Seaweed Sans"
	_, err = proof.All(context.Background(), d, fields, records)
	require.ErrorContains(t, err, "Seaweed Sans")
}

// Extremes are judged by what they do on this label, and told only where labels differ.
func TestExtremesAreTheRecordsWorthALook(t *testing.T) {
	words := text(3*mm, 3*mm, 24*mm, 5*mm)
	words.Text.ShrinkTo = 5
	d := label(words, code(3*mm, 10*mm, 70*mm, 20*mm))
	d.Elements[0].IfEmpty = design.LeaveOut
	records := [][]string{{"Dulse", "N-01"}, {"iiiiiiiiiiiiiiii", "N-02"}, {"", "N-03"},
		{"WWWWWWWWWWWW", "N-0004-long"}, {"Salt", "N-05"}, {"Dølse", "N-06"}, {"Dulse", "N-07"}}
	report, err := proof.All(context.Background(), d, fields, records)
	require.NoError(t, err)
	var told []string
	for _, e := range report.Extremes {
		told = append(told, fmt.Sprintf("%d %s", e.Record, e.Why))
	}
	said := strings.Join(told, "\n")
	id, bars := d.Elements[0].ID, d.Elements[1].ID
	require.Contains(t, said, "3 "+id+": says nothing")
	require.Contains(t, said, "4 "+id+": widest", "by its width in its box, not by its letters")
	require.Contains(t, said, "5 "+id+": shortest, 4 letters")
	require.Contains(t, said, "6 "+id+": “ø” stands here only")
	require.NotContains(t, said, bars+": says nothing")

	same := make([][]string, 600)
	for i := range same {
		same[i] = []string{"Dulse", "N-01"}
	}
	report, err = proof.All(context.Background(), d, fields, same)
	require.NoError(t, err)
	require.Empty(t, report.Extremes, "where all are alike there is none")
	same[599] = []string{"Dulse, flaked", "N-01"}
	first, err := proof.All(context.Background(), d, fields, same)
	require.NoError(t, err)
	for range 5 {
		again, err := proof.All(context.Background(), d, fields, same)
		require.NoError(t, err)
		require.Equal(t, first.Extremes, again.Extremes, "whoever looked first")
	}
}

func BenchmarkCheckLabel(b *testing.B) {
	data, err := os.ReadFile("../../examples/bin-label.json")
	require.NoError(b, err)
	d, err := design.Parse(data)
	require.NoError(b, err)
	checker, err := proof.NewChecker(d, d.Fields)
	require.NoError(b, err)
	b.ReportAllocs()
	for b.Loop() {
		if f := checker.Label(nil, 1, []string{"N-03-07-B", "Dulse, flaked", "26K104", "24", "952N0307B",
			"00417"}); len(f) > 0 {
			b.Fatal(f)
		}
	}
}

func ExampleChecker_Label() {
	checker, _ := proof.NewChecker(label(text(3*mm, 3*mm, 24*mm, 5*mm)), fields)
	for _, f := range checker.Label(nil, 812, []string{"Bladderwrack, coarse cut for bathing", ""}) {
		fmt.Printf("Record %d: %s\n", f.Record, f.Text)
	}
	// Output: Record 812: Text is 33.2 mm too long for its box.
}

// What a piece is cut to is its real outline: a text in the corner of a round label is cut off, one in the middle is
// not.
func TestRealOutlinesAreLookedAt(t *testing.T) {
	round := func(x, y measure.Length) *design.Design {
		d := label(text(x, y, 30*mm, 5*mm))
		d.Stock.Shape, d.Stock.CornerRadius, d.Stock.Width, d.Stock.Length = stock.Circle, 0, 60*mm, 60*mm
		return d
	}
	rounded := label(text(0, 0, 40*mm, 5*mm), line(20*mm, 20*mm, 10*mm, mm))
	rounded.Stock.Shape, rounded.Stock.CornerRadius = stock.Rounded, 6*mm
	run := label(line(0, 0, 76*mm, 4*mm))
	run.Stock.Shape, run.Stock.CornerRadius = stock.Rounded, 3*mm
	for name, test := range map[string]struct {
		d    *design.Design
		want []proof.Level
	}{
		"corner of a round label": {round(mm, mm), []proof.Level{proof.Error}},
		"middle of a round label": {round(16*mm, 27*mm), nil},
		"a rounded corner":        {rounded, []proof.Level{proof.Error}},
		"a band that may run out": {run, []proof.Level{proof.Warning}},
	} {
		for _, turn := range []measure.Turn{0, 180} {
			test.d.Turn = turn
			checker, err := proof.NewChecker(test.d, fields)
			require.NoError(t, err)
			var got []proof.Level
			for _, f := range checker.Label(nil, 1, []string{"Rødalge", "x"}) {
				require.Equal(t, proof.OffLabel, f.Kind, "%s: %s", name, f.Text)
				require.Contains(t, f.Text, "outline")
				got = append(got, f.Level)
			}
			require.Equal(t, test.want, got, name)
		}
	}
}

// What a set-up moves over the edge of the label is found before it is printed.
func TestOffsetsOfTheSetupAreLookedAt(t *testing.T) {
	d := label(text(3*mm, 3*mm, 40*mm, 5*mm), code(3*mm, 10*mm, 70*mm, 20*mm))
	for setup, want := range map[stock.Setup]bool{{}: false, {Across: mm, Along: mm}: false, {Across: 30 * mm}: true,
		{Across: -30 * mm}: true, {Along: -12 * mm}: true} {
		for _, turn := range []measure.Turn{0, 180} {
			d.Turn = turn
			report, err := proof.AllWith(context.Background(), d, fields, [][]string{{"Rødalge", "952N0307B"}}, nil,
				setup)
			require.NoError(t, err)
			require.Equal(t, want, report.Errors() > 0, "%+v turned %d: %+v", setup, turn, report.Groups)
			if want {
				require.Contains(t, report.Groups[0].Text, "With the offsets of the print set-up")
			}
		}
	}
}

// Ink that does not show, or hardly, is said so.
func TestInkThatDoesNotShow(t *testing.T) {
	for ink, want := range map[stock.Ink]proof.Level{stock.Black: proof.Fine, stock.White: proof.Error,
		"yellow": proof.Warning, stock.Red: proof.Fine} {
		d := label(text(3*mm, 3*mm, 40*mm, 5*mm))
		d.Printer.Inks = []stock.Ink{ink}
		d.Elements[0].Ink = ink
		report, err := proof.All(context.Background(), d, fields, [][]string{{"Rødalge", "x"}})
		require.NoError(t, err)
		require.Equal(t, want, report.Worst[0], "%s: %+v", ink, report.Groups)
	}
}

// A serial number that two records have is told of; the number of a product may stand on many labels.
func TestCodesThatSayTheSameTwice(t *testing.T) {
	d := label(code(3*mm, 10*mm, 70*mm, 20*mm))
	records := [][]string{{"a", "952N01"}, {"b", "952N02"}, {"c", "952N01"}}
	report, err := proof.All(context.Background(), d, fields, records)
	require.NoError(t, err)
	require.Len(t, report.Groups, 1)
	require.Equal(t, []any{proof.Twice, proof.Warning, []int{3}}, []any{report.Groups[0].Kind, report.Groups[0].Level,
		report.Groups[0].Records})
	require.Contains(t, report.Groups[0].Text, "record 1")
	for symbology, data := range map[string]string{"ean13": "9521234567899", "gs1-128": "(01)09521234567899(10)A1"} {
		d.Elements[0].Code.Symbology = symbology
		report, err = proof.All(context.Background(), d, fields, [][]string{{"a", data}, {"b", data}})
		require.NoError(t, err)
		require.False(t, slices.ContainsFunc(report.Groups, func(g *proof.Group) bool { return g.Kind == proof.Twice }),
			symbology)
	}
	d.Elements[0].Code.Symbology = "gs1-128"
	report, err = proof.All(context.Background(), d, fields, [][]string{{"a", "(21)A1"}, {"b", "(21)A1"}})
	require.NoError(t, err)
	require.True(t, slices.ContainsFunc(report.Groups, func(g *proof.Group) bool { return g.Kind == proof.Twice }))
}

// Words are judged by what lies under them: a filled box is a ground, a line askew and a box without an outline are
// none.
func TestShapesAreGroundsWhereTheyAreFilled(t *testing.T) {
	kinds := func(under design.Element, ink stock.Ink) (kinds []proof.Kind) {
		words := text(5*mm, 5*mm, 24*mm, 5*mm)
		words.Says, words.Ink = []design.Piece{{Text: "BRINE"}}, ink
		d := label(under, words)
		d.Printer.Inks = []stock.Ink{stock.Black}
		checker, err := proof.NewChecker(d, nil)
		require.NoError(t, err)
		for _, f := range checker.Label(nil, 1, nil) {
			kinds = append(kinds, f.Kind)
		}
		return kinds
	}
	under := func(kind design.Kind, shape design.Shape) design.Element {
		return design.Element{ID: "under", Kind: kind, X: 3 * mm, Y: 3 * mm, Width: 30 * mm, Height: 10 * mm,
			Weight: mm / 2, Shape: &shape}
	}
	filled := design.Shape{Fill: "black", NoOutline: true}
	for _, kind := range []design.Kind{design.Box, design.Oval} {
		require.Empty(t, kinds(under(kind, filled), design.Bare), kind)
		require.Contains(t, kinds(under(kind, filled), ""), proof.Overlap, "black on black")
		require.Contains(t, kinds(under(kind, design.Shape{}), design.Bare), proof.LowContrast, "nothing lies under it")
		require.Empty(t, kinds(under(kind, design.Shape{}), ""), "words stand within an outline")
	}
	askew := under(design.Line, design.Shape{Slope: design.Down})
	require.Contains(t, kinds(askew, design.Bare), proof.LowContrast)
	require.Empty(t, kinds(askew, ""))
}

// A tint of single dots, or of single gaps, is told; one between them is not.
func TestThinTintsAreTold(t *testing.T) {
	for tint, want := range map[int]bool{5: true, 30: false, 92: true, 100: false, 0: false} {
		box := line(3*mm, 3*mm, 10*mm, 10*mm)
		box.Kind, box.Shape = design.Box, &design.Shape{Fill: "black", Tint: tint}
		d := label(box)
		d.Printer.Inks = []stock.Ink{stock.Black}
		checker, err := proof.NewChecker(d, nil)
		require.NoError(t, err)
		findings := checker.Label(nil, 1, nil)
		require.Equal(t, want, slices.ContainsFunc(findings,
			func(f proof.Finding) bool { return f.Kind == proof.Tint }), "%d %%: %v", tint, findings)
	}
}

// A code that names a kind of thing stands on many labels by design; a serial number never does.
func TestCodesThatManyLabelsHaveAreMeant(t *testing.T) {
	d := label(code(3*mm, 10*mm, 70*mm, 20*mm))
	articles, nearly := make([][]string, 240), make([][]string, 240)
	for i := range articles {
		articles[i] = []string{"a", fmt.Sprintf("952N%02d", i%60)}
		nearly[i] = []string{"a", fmt.Sprintf("952N%03d", i)}
	}
	nearly[200][1] = nearly[7][1]
	told := func(records [][]string) (n int) {
		report, err := proof.All(context.Background(), d, fields, records)
		require.NoError(t, err)
		for _, group := range report.Groups {
			if group.Kind == proof.Twice {
				n += len(group.Records)
			}
		}
		return n
	}
	require.Zero(t, told(articles), "60 articles, four labels of each")
	require.Equal(t, 1, told(nearly))
	d.Elements[0].Code.Symbology = "gs1-128"
	for i := range articles {
		articles[i][1] = fmt.Sprintf("(21)A%02d", i%60)
	}
	require.Equal(t, 180, told(articles), "serial numbers")
}
