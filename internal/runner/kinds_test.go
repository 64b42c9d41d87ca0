package runner_test

import (
	"encoding/json"
	"fmt"
	"image/png"
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
	"oddspool/internal/demo"
	"oddspool/internal/prover"
	"oddspool/internal/sources"
	"oddspool/internal/store"
	"oddspool/standin"
)

// device returns one of the demonstration's printers.
func device(t testing.TB, name string) stock.Printer {
	for _, d := range demo.Devices() {
		if d.Printer.Name == name {
			return d.Printer
		}
	}
	t.Fatalf("no printer %s", name)
	return stock.Printer{}
}

// find returns the first stock of the catalogue that a search finds.
func find(t testing.TB, text string) stock.Stock {
	query := stock.ParseQuery(text)
	for _, s := range catalogue.All() {
		if query.Matches(s) {
			return s
		}
	}
	t.Fatalf("no stock %s", text)
	return stock.Stock{}
}

// circuits are records with a code and words of different lengths.
func circuits(n int) *sources.Table {
	table := &sources.Table{Fields: []string{"circuit", "leads to"}}
	for i := range n {
		to := []string{"pump 3", "drying hall, fan 12, north side", "lamp"}[i%3]
		table.Records = append(table.Records, []string{fmt.Sprintf("W%03d", i+101), to})
	}
	return table
}

func words(x, y, w, h measure.Length, points float64, field string) design.Element {
	return design.Element{ID: "words " + field, Kind: design.Text, X: x, Y: y, Width: w, Height: h,
		Says: []design.Piece{{Field: field}},
		Text: &design.TextLooks{Typeface: "Liberation Sans", Points: points}}
}

func bars(x, y, w, h, module measure.Length) design.Element {
	return design.Element{ID: "bars", Kind: design.Code, X: x, Y: y, Width: w, Height: h,
		Says: []design.Piece{{Field: "circuit"}},
		Code: &design.CodeLooks{Symbology: "code128", Module: module, Readable: design.None}}
}

// Every kind of stock comes out of a printer that takes it, each piece once, and reads back as meant.
func TestEveryKindOfStockIsPrintedAndReadBack(t *testing.T) {
	for _, test := range []struct {
		name, printer, stock string
		turn                 measure.Turn
		repeat               int
		elements             []design.Element
		pages                int // of 10 labels
	}{
		{"tape by content", "Drawer cart", "12mm white tape", 90, 0,
			[]design.Element{bars(2*mm, 2*mm, 20*mm, 8*mm, 250), words(30*mm, 3*mm, 10*mm, 6*mm, 9, "leads to")}, 10},
		{"tape of one length, two inks", "Sign bench", "101mm yellow tape", 90, 0,
			[]design.Element{bars(12*mm, 10*mm, 60*mm, 30*mm, 333), words(12*mm, 50*mm, 180*mm, 20*mm, 24, "leads to")},
			10},
		{"sleeve, both faces", "Cable bench", "sleeve white 12.7mm", 90, 2,
			[]design.Element{bars(3*mm, 1*mm, 34*mm, 8*mm, 250), words(3*mm, 10*mm, 30*mm, 6*mm, 7, "circuit")}, 10},
		{"wrap, three times", "Cable bench", "S-139", 0, 3,
			[]design.Element{bars(2*mm, 1*mm, 34*mm, 3*mm, 250), words(2*mm, 4*mm, 30*mm, 4*mm, 6, "circuit")}, 10},
		{"flag, both faces", "Cable bench", "S-144", 90, 2,
			[]design.Element{bars(1*mm, 2*mm, 32*mm, 8*mm, 250), words(2*mm, 12*mm, 20*mm, 6*mm, 8, "circuit")}, 10},
		{"plate", "Plate bench", "plate 80x40 black", 0, 0,
			[]design.Element{words(15*mm, 6*mm, 50*mm, 8*mm, 16, "circuit"),
				words(15*mm, 20*mm, 50*mm, 8*mm, 8, "leads to")}, 10},
		{"sheet", "Drum store", "sheet 99.1x67.7", 0, 0,
			[]design.Element{bars(8*mm, 8*mm, 60*mm, 20*mm, 333), words(8*mm, 35*mm, 80*mm, 8*mm, 12, "leads to")}, 2},
		{"die-cut in colours", "Drum store", "105x148", 0, 0,
			[]design.Element{bars(8*mm, 8*mm, 60*mm, 20*mm, 333), words(8*mm, 35*mm, 80*mm, 8*mm, 12, "leads to")}, 10},
	} {
		t.Run(test.name, func(t *testing.T) {
			t.Parallel()
			d := &design.Design{Format: design.Format, Name: test.name, Stock: find(t, test.stock),
				Printer: device(t, test.printer), Turn: test.turn, Repeat: test.repeat, Elements: test.elements}
			require.Empty(t, stock.Fit(d.Stock, d.Printer))
			if len(stock.Inks(d.Stock, d.Printer)) > 1 || stock.Can(stock.Red, stock.Inks(d.Stock, d.Printer)) {
				d.Elements[1].Ink = stock.Red
			}
			p := newPlantOf(t, d, circuits(10), standin.Config{}, 1)
			run, err := p.Run(ctx, p.run)
			require.NoError(t, err)
			found, err := prover.Prove(ctx, p.Store, &run, stock.Setup{})
			require.NoError(t, err)
			for _, group := range found.Groups { // bars as low as a wrap with three legends has room for
				require.Equal(t, proof.LowBars, group.Kind)
			}
			done := p.wait(p.order("all"), is(store.PrintDone))
			require.Equal(t, 10, done.Printed)
			require.Zero(t, done.ReadOther)
			if test.elements[0].Kind == design.Code {
				require.Equal(t, 10, done.ReadMeant)
			}
			require.Equal(t, test.pages, p.printer.Out())

			response, err := http.Get(p.printer.Camera() + "/1.png")
			require.NoError(t, err)
			defer response.Body.Close()
			picture, err := png.DecodeConfig(response.Body)
			require.NoError(t, err)
			w, h := d.Stock.PageSize()
			require.Equal(t, d.Printer.Resolution.Dots(w), picture.Width)
			if !d.Stock.ByContent() {
				require.Equal(t, d.Printer.Resolution.Dots(h), picture.Height)
				return
			}
			require.Len(t, found.Lengths, 10)
			used := 0
			for _, length := range found.Lengths {
				used += int(length)
			}
			require.NotEqual(t, found.Lengths[1], found.Lengths[2], "each is as long as its content")
			full := int(d.Stock.Roll.Length(d.Stock.Roll.Outside))
			require.Equal(t, full-used, p.printer.Left(), "the tape is counted by what came out")
		})
	}
}

// A sheet of which some places were used is gone on with, and later ones begin anew.
func TestPartUsedSheetsAreGoneOnWith(t *testing.T) {
	d := &design.Design{Format: design.Format, Name: "Files", Stock: find(t, "sheet 99.1x67.7"),
		Printer:  device(t, "Drum store"),
		Elements: []design.Element{bars(8*mm, 8*mm, 60*mm, 20*mm, 333)}}
	p := newPlantOf(t, d, circuits(10), standin.Config{}, 1)
	id, err := p.StartPrint(ctx, store.Order{Run: p.run, Kind: "all", Start: 5, By: "Maren"})
	require.NoError(t, err)
	done := p.wait(id, is(store.PrintDone))
	require.Equal(t, []int{10, 10, 0}, []int{done.Printed, done.ReadMeant, done.ReadOther})
	require.Equal(t, 2, p.printer.Out(), "3 on the first sheet, 7 on the second")
}

// What a set-up says reaches the printer, and the moves of the print are taken back in reading.
func TestSetupsAreAppliedAndOffsetsReadBack(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	setup := stock.Setup{Name: "cold hall", Darkness: 70, Speed: 102, Across: mm, Along: -mm / 2}
	id, err := p.StartPrint(ctx, store.Order{Run: p.run, Kind: "sample", Labels: []int{1, 2, 3}, Setup: setup,
		By: "Maren"})
	require.NoError(t, err)
	done := p.wait(id, is(store.PrintDone))
	require.Equal(t, []int{3, 0}, []int{done.ReadMeant, done.ReadOther})
	response, err := http.Get("http://" + p.printer.Addr + "/jobs")
	require.NoError(t, err)
	defer response.Body.Close()
	var jobs []struct{ Darkness, Speed int }
	require.NoError(t, json.NewDecoder(response.Body).Decode(&jobs))
	require.Equal(t, 70, jobs[0].Darkness)
	require.Equal(t, 102, jobs[0].Speed)
}

// A cutter cuts after each label, after every so many, or once at the end of the run.
func TestCutsComeWhereTheSetupSays(t *testing.T) {
	for every, want := range map[int][]int{1: {60}, 4: {63, 63, 63}, 0: {63}} {
		d := &design.Design{Format: design.Format, Name: "Totes", Stock: find(t, "102x51 direct thermal"),
			Printer:  device(t, "Packing 1"),
			Elements: []design.Element{bars(8*mm, 8*mm, 60*mm, 20*mm, 333)}}
		p := newPlantOf(t, d, circuits(10), standin.Config{}, 1)
		id, err := p.StartPrint(ctx, store.Order{Run: p.run, Kind: "all",
			Setup: stock.Setup{Finish: stock.Cut, CutEvery: every}, By: "Maren"})
		require.NoError(t, err)
		require.Equal(t, 10, p.wait(id, is(store.PrintDone)).ReadMeant)
		response, err := http.Get("http://" + p.printer.Addr + "/jobs")
		require.NoError(t, err)
		var jobs []struct{ Finishing int }
		require.NoError(t, json.NewDecoder(response.Body).Decode(&jobs))
		require.NoError(t, response.Body.Close())
		var got []int
		for _, j := range jobs {
			got = append(got, j.Finishing)
		}
		require.Equal(t, want, got, "every %d", every)
	}
}
