package stock_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/stock"
)

// bins is the roll in Dock 2 at Brinewick Kelp Works.
func bins() stock.Stock {
	return stock.Stock{
		Number: "S-076", Name: "76 × 38 paper", Kind: stock.DieCut, Shape: stock.Rounded,
		CornerRadius: 2 * measure.Millimetre, Width: 76 * measure.Millimetre, Length: 38 * measure.Millimetre,
		Gap: 3 * measure.Millimetre, EdgeLeft: 2 * measure.Millimetre, EdgeRight: 2 * measure.Millimetre, PerRoll: 2000,
	}
}

func dock2() stock.Printer {
	return stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832}
}

func TestCheckNamesTheFigure(t *testing.T) {
	require.Empty(t, bins().Check())
	for field, spoil := range map[string]func(*stock.Stock){
		"kind":         func(s *stock.Stock) { s.Kind = "knitted" },
		"shape":        func(s *stock.Stock) { s.Shape = "star" },
		"width":        func(s *stock.Stock) { s.Width, s.CornerRadius = 0, 0 },
		"length":       func(s *stock.Stock) { s.Length = 3_000_000 },
		"gap":          func(s *stock.Stock) { s.Gap = -1 },
		"edgeLeft":     func(s *stock.Stock) { s.EdgeLeft = 201_000 },
		"edgeRight":    func(s *stock.Stock) { s.EdgeRight = -5 },
		"cornerRadius": func(s *stock.Stock) { s.CornerRadius = 19_001 },
		"perRoll":      func(s *stock.Stock) { s.PerRoll = -1 },
	} {
		s := bins()
		spoil(&s)
		reasons := s.Check()
		require.Len(t, reasons, 1, field)
		require.Equal(t, field, reasons[0].Field, reasons[0].Text)
	}
}

func TestFitGivesTheFiguresThatClash(t *testing.T) {
	require.Empty(t, stock.Fit(bins(), dock2()))

	wide, long := bins(), bins()
	wide.Width = 110 * measure.Millimetre
	require.Equal(t, "The label is 110 mm wide and the head of Dock 2 prints 104 mm: choose a label at most 104 mm wide.",
		stock.Fit(wide, dock2())[0].Text)
	long.Length = 1001 * measure.Millimetre
	require.Equal(t, "length", stock.Fit(long, dock2())[0].Field)

	broken := dock2()
	broken.HeadDots = 0
	require.Equal(t, "headDots", stock.Fit(bins(), broken)[0].Field)
	broken = dock2()
	broken.Resolution = measure.Resolution{}
	require.Equal(t, "resolution", stock.Fit(bins(), broken)[0].Field)
	broken = dock2()
	broken.Speed = -1
	require.NotEmpty(t, stock.Fit(bins(), broken))
}

func ExampleStock_Pitch() {
	s := bins()
	fmt.Println("web", s.WebWidth(), "pitch", s.Pitch())
	// Output: web 80 mm pitch 41 mm
}
