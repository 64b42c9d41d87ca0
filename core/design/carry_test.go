package design_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
)

const mm = measure.Millimetre

// rack is a design of 100 x 50 mm with something in each corner, in the middle and right across.
func rack() *design.Design {
	box := func(id string, x, y, w, h measure.Length) design.Element {
		return design.Element{ID: id, Kind: design.Box, X: x, Y: y, Width: w, Height: h, Weight: 500}
	}
	return &design.Design{Format: design.Format, Name: "Rack",
		Stock: stock.Stock{Name: "100 × 50", Kind: stock.DieCut, Shape: stock.Rectangle, Width: 100 * mm,
			Length: 50 * mm, Gap: 3 * mm},
		Printer: stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832},
		Elements: []design.Element{
			box("corner", 2*mm, 2*mm, 10*mm, 5*mm),
			box("right", 85*mm, 2*mm, 10*mm, 5*mm),
			box("middle", 45*mm, 20*mm, 10*mm, 10*mm),
			{ID: "words", Kind: design.Text, X: 5 * mm, Y: 35 * mm, Width: 90 * mm, Height: 10 * mm,
				Says: []design.Piece{{Text: "kelp"}},
				Text: &design.TextLooks{Typeface: "Liberation Sans", Points: 10}},
			{ID: "code", Kind: design.Code, X: 60 * mm, Y: 8 * mm, Width: 35 * mm, Height: 10 * mm,
				Says: []design.Piece{{Text: "K"}},
				Code: &design.CodeLooks{Symbology: "code128", Module: 375, Points: 8}},
		}}
}

func places(d *design.Design) map[string][4]measure.Length {
	all := map[string][4]measure.Length{}
	for _, e := range d.Elements {
		all[e.ID] = [4]measure.Length{e.X / mm, e.Y / mm, e.Width / mm, e.Height / mm}
	}
	return all
}

func TestDesignsAreCarriedInFourWays(t *testing.T) {
	larger := rack().Stock
	larger.Name, larger.Width, larger.Length = "200 × 100", 200*mm, 100*mm
	for way, want := range map[design.Way]map[string][4]measure.Length{
		design.KeepPlaces: {"corner": {2, 2, 10, 5}, "right": {85, 2, 10, 5}, "middle": {45, 20, 10, 10},
			"words": {5, 35, 90, 10}},
		design.KeepMargins: {"corner": {2, 2, 10, 5}, "right": {185, 2, 10, 5}, "middle": {95, 45, 10, 10},
			"words": {5, 85, 190, 10}},
		design.Scale: {"corner": {4, 4, 20, 10}, "right": {170, 4, 20, 10}, "middle": {90, 40, 20, 20},
			"words": {10, 70, 180, 20}},
		design.Reflow: {"corner": {4, 2, 20, 5}, "right": {170, 2, 20, 5}, "middle": {90, 20, 20, 10},
			"words": {10, 35, 180, 10}},
	} {
		before := rack()
		got := before.Carried(larger, before.Printer, way)
		for id, place := range want {
			require.Equal(t, place, places(got)[id], "%s: %s", way, id)
		}
		require.Equal(t, rack(), before, "the design itself stays as it is")
		require.Equal(t, "200 × 100", got.Stock.Name)
	}
	scaled := rack().Carried(larger, rack().Printer, design.Scale)
	require.Equal(t, 20.0, scaled.Elements[3].Text.Points)
	require.Equal(t, measure.Length(750), scaled.Elements[4].Code.Module)
	require.Equal(t, mm, scaled.Elements[0].Weight)
}

func TestSmallerLabelsAreRefilled(t *testing.T) {
	small := rack().Stock
	small.Width, small.Length = 50*mm, 40*mm
	scaled := rack().Carried(small, rack().Printer, design.Scale)
	require.Equal(t, [4]measure.Length{1, 8, 5, 2}, places(scaled)["corner"],
		"half as large, in the middle of what is left")
	flowed := rack().Carried(small, rack().Printer, design.Reflow)
	for _, e := range flowed.Elements {
		require.LessOrEqual(t, e.X+e.Width, 50*mm, e.ID)
		require.LessOrEqual(t, e.Y+e.Height, 40*mm, e.ID)
	}
	require.Less(t, flowed.Elements[3].Text.Points, 10.0)
	empty := rack()
	empty.Elements = nil
	require.Empty(t, empty.Carried(small, empty.Printer, design.Reflow).Elements)
}

func TestArtworkIsTurnedToFitTheStock(t *testing.T) {
	upright := rack().Stock
	upright.Width, upright.Length = 50*mm, 100*mm
	require.Equal(t, measure.Turn(90), rack().Carried(upright, rack().Printer, design.KeepPlaces).Turn)
	lying := rack()
	lying.Stock, lying.Turn = upright, 90
	require.Zero(t, lying.Carried(rack().Stock, lying.Printer, design.KeepPlaces).Turn)
}

// A design carried to whatever the catalogue has is a design still.
func TestDesignsAreCarriedToEveryStock(t *testing.T) {
	for _, s := range catalogue.All() {
		for _, way := range design.Ways() {
			d := rack().Carried(s, rack().Printer, way)
			require.Empty(t, d.Check(), "%s to %s", way, s.Name)
			require.Equal(t, s.Usual() > 1, d.Repeat > 1, s.Name)
			for _, e := range d.Elements {
				require.Positive(t, e.Width, s.Name)
				require.Positive(t, e.Height, s.Name)
			}
		}
	}
}

func TestRuledLabelsFitEveryStock(t *testing.T) {
	for _, s := range catalogue.All() {
		d := design.Ruled(s, rack().Printer)
		require.Empty(t, d.Check(), s.Name)
		x, y := design.RuledCross(s)
		require.Positive(t, x)
		for _, e := range d.Elements {
			require.GreaterOrEqual(t, e.X, measure.Length(0), "%s: %s", s.Name, e.ID)
			require.LessOrEqual(t, e.X+e.Width, s.PieceWidth(), "%s: %s", s.Name, e.ID)
			require.LessOrEqual(t, e.Y+e.Height, max(d.Stock.Length, y), "%s: %s", s.Name, e.ID)
		}
	}
}

func ExampleOffsets() {
	s := rack().Stock
	u := design.Offsets(stock.Setup{Across: 500}, s, 9200, 10_400)
	fmt.Println("across", u.Across, "along", u.Along)
	// The cross belongs at 10 mm from both edges: 0.8 mm more to the right than it is now, 0.4 mm less far down.
	// Output: across 1.3 mm along -0.4 mm
}

func TestArtworkIsTurnedAsAsked(t *testing.T) {
	for _, turn := range []measure.Turn{0, 90, 180, 270} {
		d := rack().CarriedTurned(rack().Stock, rack().Printer, &turn, design.Scale)
		require.Equal(t, turn, d.Turn)
		w, h := d.Size()
		for _, e := range d.Elements {
			require.LessOrEqual(t, e.X+e.Width, w)
			require.LessOrEqual(t, e.Y+e.Height, h)
		}
	}
}
