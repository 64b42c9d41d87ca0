package safety_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/render"
	"oddspool/core/safety"
	"oddspool/core/safety/hazard"
	"oddspool/core/safety/pipe"
	"oddspool/core/stock"
	_ "oddspool/core/typefaces"
)

const mm = measure.Millimetre

func blank(w, h measure.Length, inks ...stock.Ink) *design.Design {
	if inks == nil {
		inks = []stock.Ink{stock.Black, stock.Red}
	}
	return &design.Design{
		Format: design.Format, Name: "Test",
		Stock: stock.Stock{Name: "Test", Kind: stock.DieCut, Shape: stock.Rectangle, Width: w, Length: h,
			Gap: 3 * mm},
		Printer: stock.Printer{Name: "Dock 1", Resolution: measure.DotsPerMillimetre(12), HeadDots: 8000, Inks: inks},
	}
}

// findings returns the kinds of what is wrong with what was laid out, and leaves a picture where SAFETY_PICTURES says.
func findings(t *testing.T, d *design.Design, l *safety.Layout, fields []string, record []string) (kinds []proof.Kind) {
	d.Elements, d.Demands = l.Elements, l.Demands
	checker, err := proof.NewChecker(d, fields)
	require.NoError(t, err)
	for _, f := range checker.Label(nil, 1, record) {
		kinds = append(kinds, f.Kind)
	}
	if folder := os.Getenv("SAFETY_PICTURES"); folder != "" {
		artwork := compose.NewArtwork(checker.Composer())
		_, layers := artwork.Draw(record)
		file, err := os.Create(filepath.Join(folder, strings.ReplaceAll(t.Name(), "/", " ")+fmt.Sprint(" ",
			len(l.Elements), int(d.Stock.Width/mm), "x", int(d.Stock.Length/mm))+".png"))
		require.NoError(t, err)
		defer file.Close()
		require.NoError(t, render.WritePNG(file, layers, checker.Composer().Palette(), d.Printer.Resolution))
	}
	return kinds
}

// errorsOf returns what keeps a label that was laid out from being printed.
func errorsOf(t *testing.T, d *design.Design, l *safety.Layout) (texts []string) {
	d.Elements, d.Demands = l.Elements, l.Demands
	for _, f := range proved(t, d, nil) {
		if f.Level == proof.Error {
			texts = append(texts, f.Text)
		}
	}
	return texts
}

func chemical(t *testing.T, cas string, w hazard.Wanted) safety.Chemical {
	book := hazard.Shipped()
	s, err := book.Substance(cas)
	require.NoError(t, err)
	label, err := book.SubstanceLabel(s, w)
	require.NoError(t, err)
	return safety.Chemical{Name: s.Names["en"], Identifiers: s.Numbers(),
		Supplier: "Brinewick Kelp Works, 1 Tidal Lane, Brinewick, tel. +44 20 7946 0000", Quantity: "200 l",
		Label: label}
}

func TestChemicalLabelsFitTheirStock(t *testing.T) {
	for _, test := range []struct {
		cas    string
		volume float64
		w, h   measure.Length
		points float64 // at least
	}{
		{"67-56-1", 200_000, 148 * mm, 105 * mm, 9}, {"67-56-1", 20_000, 105 * mm, 74 * mm, 6},
		{"67-64-1", 1000, 74 * mm, 52 * mm, 5.5}, {"7664-93-9", 1000, 52 * mm, 74 * mm, 5},
		{"7778-50-9", 500, 148 * mm, 105 * mm, 8},
	} {
		d := blank(test.w, test.h)
		l, err := safety.LayChemical(d, chemical(t, test.cas, hazard.Wanted{Volume: test.volume}))
		require.NoError(t, err)
		require.True(t, l.Fits, "%+v: %v", test, l.Notes)
		require.GreaterOrEqual(t, l.Points, test.points, "%+v", test)
		require.Empty(t, errorsOf(t, d, l), "%+v", test)
	}
}

func TestChemicalLabelsThatAreTooSmallSaySo(t *testing.T) {
	d := blank(50*mm, 30*mm)
	l, err := safety.LayChemical(d, chemical(t, "67-56-1", hazard.Wanted{Volume: 500}))
	require.NoError(t, err)
	require.False(t, l.Fits)
	require.NotEmpty(t, l.Notes)
	l, err = safety.LayChemical(blank(20*mm, 10*mm), chemical(t, "67-56-1", hazard.Wanted{Volume: 500}))
	require.NoError(t, err)
	require.False(t, l.Fits)
	require.Contains(t, l.Notes[0], "does not take even")
	l, err = safety.LayChemical(blank(74*mm, 52*mm), chemical(t, "64-17-5", hazard.Wanted{Volume: 20_000}))
	require.NoError(t, err)
	require.Contains(t, strings.Join(l.Notes, " "), "it is to be 105 mm")
}

func TestChemicalLabelsOfRecords(t *testing.T) {
	book := hazard.Shipped()
	fields, rows, err := book.LookUp([]string{"drum", "cas"}, [][]string{{"D-1", "67-64-1"}, {"D-2", "7664-93-9"},
		{"D-3", "124-38-9"}}, "cas", hazard.Wanted{Known: map[string]string{"concentration": "96"}})
	require.NoError(t, err)
	d := blank(148*mm, 105*mm)
	c := chemical(t, "67-56-1", hazard.Wanted{Volume: 200_000})
	require.Equal(t, 2, hazard.Pictograms(fields), "as many places as one of them needs")
	c.Places = 2
	l, err := safety.LayChemical(d, c)
	require.NoError(t, err)
	require.True(t, l.Fits)
	for _, row := range rows {
		require.Empty(t, findings(t, d, l, fields, row), row[0])
	}
	require.Equal(t, []string{"Acetone", "CAS 67-64-1 · EC 200-662-2 · UN 1090", "Danger"}, rows[0][2:5])
	require.Equal(t, []string{"GHS02 GHS07", "GHS02", "GHS07"}, rows[0][8:])
	require.Equal(t, []string{"GHS05", "GHS05", ""}, rows[1][8:])

	for says, records := range map[string][][]string{"Record 2: The check digit": {{"D", "67-64-1"}, {"D", "67-64-2"}},
		"the number is missing": {{"D", ""}}} {
		_, _, err = book.LookUp([]string{"drum", "cas"}, records, "cas", hazard.Wanted{})
		require.ErrorContains(t, err, says)
	}
	_, _, err = book.LookUp([]string{"drum"}, nil, "cas", hazard.Wanted{})
	require.ErrorContains(t, err, `no field "cas"`)
	_, _, err = book.LookUp([]string{"cas", "substance"}, nil, "cas", hazard.Wanted{})
	require.ErrorContains(t, err, "looked up before")
	_, byClass, err := book.LookUp([]string{"class"}, [][]string{{"Flam. Liq. 2; Eye Irrit. 2"}}, "class",
		hazard.Wanted{Language: "de"})
	require.NoError(t, err)
	require.Equal(t, "Gefahr", byClass[0][3])
	fields, grave, err := book.LookUp([]string{"class"},
		[][]string{{"Flam. Liq. 1; Ox. Liq. 1; Skin Corr. 1A; Acute Tox. 1 (oral); STOT SE 1; Aquatic Acute 1"}},
		"class", hazard.Wanted{})
	require.NoError(t, err)
	require.Equal(t, 6, hazard.Pictograms(fields), "no pictogram is dropped")
	require.Len(t, grave[0], len(fields))
}

func TestSignsFillTheirStock(t *testing.T) {
	for _, test := range []struct {
		sign   safety.Sign
		w, h   measure.Length
		inks   []stock.Ink
		points float64
		kinds  []proof.Kind
	}{
		{safety.Sign{Kind: "danger", Symbols: []string{"W012"},
			Message: "High voltage inside. Lock out before opening."}, 150 * mm, 100 * mm, []stock.Ink{stock.Full}, 24,
			nil},
		{safety.Sign{Kind: "danger", Symbols: []string{"P002"}, Message: "No smoking in the drying hall"}, 100 * mm,
			150 * mm, nil, 24, []proof.Kind{proof.SymbolColour}},
		{safety.Sign{Kind: "notice", Message: "Wash hands before entering", Second: "Vor dem Betreten Hände waschen"},
			150 * mm, 100 * mm, []stock.Ink{stock.Full}, 24, nil},
		{safety.Sign{Symbols: []string{"M003", "M004", "M014"}, Message: "Protect ears, eyes and head"}, 300 * mm,
			100 * mm, []stock.Ink{stock.Full}, 40, nil},
		{safety.Sign{Kind: "safety", Message: "Lock out. Tag out. Try out.", Language: "de"}, 100 * mm, 50 * mm,
			[]stock.Ink{stock.Full}, 18, nil},
		{safety.Sign{Symbols: []string{"E011"}}, 100 * mm, 100 * mm, []stock.Ink{stock.Full}, 0, nil},
	} {
		d := blank(test.w, test.h, test.inks...)
		l, err := safety.LaySign(d, test.sign)
		require.NoError(t, err)
		require.True(t, l.Fits)
		require.GreaterOrEqual(t, l.Points, test.points, "%+v", test.sign)
		require.Equal(t, test.kinds, findings(t, d, l, nil, nil), "%+v", test.sign)
	}
}

func TestSignsAreJudgedByTheirDistance(t *testing.T) {
	d := blank(150*mm, 100*mm, stock.Full)
	l, err := safety.LaySign(d, safety.Sign{Kind: "danger", Symbols: []string{"W012"},
		Message: "High voltage inside. Lock out before opening.", Distance: 12})
	require.NoError(t, err)
	require.Len(t, l.Notes, 3)
	require.Contains(t, l.Notes[0], "to be read from 12 m (ANSI Z535.4, 7.8) they are to be 60 mm")
	require.Contains(t, l.Notes[1], "to be read from 12 m (ISO 3864-1, annex A) it is to be 120 mm")
	require.Contains(t, l.Notes[2], "to be read from 12 m (ANSI Z535.2, annex B) they are to be 40 mm")
	require.ElementsMatch(t, []proof.Kind{proof.SafetyLetters, proof.SafetyHeight, proof.SafetyLetters},
		findings(t, d, l, nil, nil), "and the proof goes on saying so")
	near, err := safety.LaySign(d, safety.Sign{Symbols: []string{"W012"}, Message: "Voltage", Distance: 2})
	require.NoError(t, err)
	require.Empty(t, near.Notes)

	for says, wrong := range map[string]safety.Sign{"Say what": {},
		"too many": {Symbols: []string{"W001", "W002", "W003", "W004"}}, "no symbol": {Symbols: []string{"W999"}},
		"no signal word": {Kind: "panic"}} {
		_, err := safety.LaySign(d, wrong)
		require.IsType(t, &refusal.Error{}, err)
		require.ErrorContains(t, err, says)
	}
	tiny, err := safety.LaySign(blank(20*mm, 8*mm, stock.Full),
		safety.Sign{Kind: "danger", Message: "Much too much for this"})
	require.NoError(t, err)
	require.False(t, tiny.Fits)
}

func TestDiamondsOfRatings(t *testing.T) {
	for _, inks := range [][]stock.Ink{{stock.Full}, {stock.Black}, {stock.Black, stock.Red}} {
		d := blank(80*mm, 100*mm, inks...)
		l, err := safety.LayDiamond(d, safety.Diamond{Health: 3, Fire: 0, Instability: 2, Special: "OX",
			Name: "Nitric acid"})
		require.NoError(t, err)
		require.True(t, l.Fits)
		found := findings(t, d, l, nil, nil)
		if inks[0] == stock.Full {
			require.Empty(t, found)
		} else {
			require.Equal(t, proof.SafetyColour, found[0],
				"NFPA 704 has colours, and lets others stand for them: a warning")
			require.Len(t, found, len(l.Notes))
		}
	}
	crossed, err := safety.LayDiamond(blank(80*mm, 80*mm), safety.Diamond{Special: "W"})
	require.NoError(t, err)
	require.Equal(t, design.Line, crossed.Elements[len(crossed.Elements)-1].Kind, "W has a line through it")
	small, err := safety.LayDiamond(blank(10*mm, 10*mm), safety.Diamond{})
	require.NoError(t, err)
	require.False(t, small.Fits)
	for says, wrong := range map[string]safety.Diamond{"0 to 4": {Fire: 5}, "OX, W and SA": {Special: "BIO"}} {
		_, err := safety.LayDiamond(blank(50*mm, 50*mm), wrong)
		require.IsType(t, &refusal.Error{}, err)
		require.ErrorContains(t, err, says)
	}
}

func TestPipeMarkersHaveTheirColoursAndSizes(t *testing.T) {
	d := blank(480*mm, 80*mm, stock.Full)
	l, err := safety.LayPipe(d, pipe.Shipped(), safety.Pipe{Rules: pipe.ISO, Contents: "Cooling water", Diameter: 89,
		Flow: safety.FlowRight})
	require.NoError(t, err)
	require.True(t, l.Fits, l.Notes)
	require.Empty(t, l.Notes)
	require.Empty(t, findings(t, d, l, nil, nil))
	require.Equal(t, stock.Ink("green"), l.Elements[0].Shape.Fill)

	l, err = safety.LayPipe(d, pipe.Shipped(), safety.Pipe{Rules: pipe.DIN, Contents: "Natural gas", Diameter: 89,
		Flow: safety.FlowBoth, Symbols: []string{"GHS02"}})
	require.NoError(t, err)
	require.Empty(t, findings(t, d, l, nil, nil))
	require.Equal(t, "band 1", l.Elements[1].ID, "DIN 2403: flammable gases have red bands")

	black := blank(100*mm, 40*mm, stock.Black)
	l, err = safety.LayPipe(black, pipe.Shipped(), safety.Pipe{Rules: pipe.ASME, Contents: "Ammonia", Diameter: 89,
		Flow: safety.FlowLeft})
	require.NoError(t, err)
	require.False(t, l.Fits)
	require.Len(t, l.Notes, 3)
	require.Contains(t, l.Notes[0], "to be orange")
	require.Contains(t, l.Notes[1], "to be 32 mm")
	require.Contains(t, l.Notes[2], "to be 300 mm")
	require.Nil(t, l.Elements[0].Shape, "an outline, where there is no orange")

	wide := blank(210*mm, 150*mm, stock.Full)
	l, err = safety.LayPipe(wide, pipe.Shipped(), safety.Pipe{Rules: pipe.ISO, Contents: "Steam", Diameter: 45,
		Flow: safety.FlowRight, Rows: true})
	require.NoError(t, err)
	rows := 0
	for _, e := range l.Elements {
		if strings.HasPrefix(e.ID, "contents") {
			rows++
		}
	}
	require.Equal(t, 3, rows, "it reads from any side")
	require.Empty(t, findings(t, wide, l, nil, nil))

	fields := blank(640*mm, 80*mm, stock.Full)
	l, err = safety.LayPipe(fields, pipe.Shipped(), safety.Pipe{Rules: pipe.ISO, Contents: "Cooling water",
		Group: "water", Field: "contents", Diameter: 89, Flow: safety.FlowRight})
	require.NoError(t, err)
	require.Empty(t, findings(t, fields, l, []string{"contents"}, []string{"Chilled water return"}))
	for says, wrong := range map[string]safety.Pipe{"not known": {Rules: pipe.ISO, Contents: "stuff", Diameter: 60},
		"no outside diameter": {Rules: pipe.ISO, Contents: "water"}, "no symbol": {Rules: pipe.ISO, Contents: "water",
			Diameter: 60, Symbols: []string{"X"}}} {
		_, err := safety.LayPipe(d, pipe.Shipped(), wrong)
		require.IsType(t, &refusal.Error{}, err)
		require.ErrorContains(t, err, says)
	}
}
