// Package stocktest tests a stock of any kind: what it says of itself, where its pieces lie, and what is impossible
// about it.
package stocktest

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/stock"
)

// Run holds a stock against every rule that all kinds have.
func Run(t *testing.T, s stock.Stock) {
	require.Empty(t, s.Check(), s.Name)
	require.Contains(t, stock.Kinds(), s.Kind)
	require.Contains(t, []stock.Unit{stock.InPieces, stock.InSheets, stock.InLength}, s.Unit())
	require.GreaterOrEqual(t, s.LongestPiece(), s.Length)
	require.Equal(t, s.ByContent(), s.LongestPiece() != s.Length)
	pieces(t, s)
	legends(t, s)
	printable(t, s)
	impossible(t, s)
	if smallest, largest, round := s.Cables(); round {
		require.Positive(t, smallest)
		require.Less(t, smallest, largest, "it suits a cable")
	}
}

// pieces lie on a page one beside the other, and none beyond it.
func pieces(t *testing.T, s stock.Stock) {
	width, length := s.PageSize()
	require.Positive(t, s.PerPage())
	require.GreaterOrEqual(t, s.PagePitch(), length)
	type place struct{ x, y measure.Length }
	var before []place
	for i := range s.PerPage() {
		x, y := s.OnPage(i)
		require.GreaterOrEqual(t, x, measure.Length(0))
		require.GreaterOrEqual(t, y, measure.Length(0))
		require.LessOrEqual(t, x+s.PieceWidth(), width, "piece %d", i)
		require.LessOrEqual(t, y+s.Length, length, "piece %d", i)
		for _, other := range before {
			require.True(t, x >= other.x+s.PieceWidth() || other.x >= x+s.PieceWidth() || y >= other.y+s.Length ||
				other.y >= y+s.Length, "piece %d lies on another", i)
		}
		before = append(before, place{x, y})
	}
}

// legends lie on the piece, however many there are, and none on another.
func legends(t *testing.T, s stock.Stock) {
	require.LessOrEqual(t, s.Usual(), s.MostLegends())
	for times := range s.MostLegends() + 2 {
		l := s.Legend(times)
		require.Equal(t, min(max(times, 1), s.MostLegends()), l.Times)
		last := measure.Length(l.Times - 1)
		require.LessOrEqual(t, last*l.Across+l.Width, s.PieceWidth())
		require.LessOrEqual(t, last*l.Along+l.Length, s.Length)
		if l.Times > 1 {
			require.True(t, l.Across >= l.Width || l.Along >= l.Length, "%d legends lie on one another", times)
		}
	}
}

// printable is what a head as wide as the web can print: within the piece, and more than nothing.
func printable(t *testing.T, s stock.Stock) {
	r := measure.DotsPerMillimetre(8)
	p := stock.Printer{Name: "wide", Resolution: r, HeadDots: r.Dots(s.WebWidth()) + 1, Takes: stock.Kinds(),
		MostWeb: s.WebWidth(), MaxLength: s.LongestPiece() + measure.Millimetre, Ribbon: 300,
		Sensors: []stock.Tracking{stock.Gap, stock.Mark, stock.Notch}}
	for _, reason := range stock.Fit(s, p) {
		require.NotEqual(t, "kind", reason.Field, reason.Text)
	}
	a := stock.Printable(s, p, stock.Setup{}, 0)
	require.Less(t, a.Left, a.Right)
	require.Less(t, a.Top, a.Bottom)
	require.GreaterOrEqual(t, a.Left, 0)
	require.LessOrEqual(t, a.Right, a.Width)
	require.LessOrEqual(t, a.Bottom, a.Height)
	for _, band := range a.Bands {
		require.False(t, a.Holds(band.X, band.Y, max(band.Width, 1), max(band.Height, 1)), "a band is kept free")
	}
}

// impossible figures are told with the one to change.
func impossible(t *testing.T, s stock.Stock) {
	for field, change := range map[string]func(*stock.Stock){
		"width": func(s *stock.Stock) { s.Width = 0 }, "length": func(s *stock.Stock) { s.Length = -1 },
		"gap": func(s *stock.Stock) { s.Gap = -1 }, "lanes": func(s *stock.Stock) { s.Lanes = 41 },
		"kind": func(s *stock.Stock) { s.Kind = "cloth" }, "shape": func(s *stock.Stock) { s.Shape = "star" },
	} {
		wrong := s
		change(&wrong)
		require.True(t, slices.ContainsFunc(wrong.Check(), func(r stock.Reason) bool { return r.Field == field }),
			"%s: %v", field, wrong.Check())
	}
	bare := s
	bare.Tape, bare.Sleeve, bare.Wrap, bare.Flag, bare.Plate, bare.Sheet = nil, nil, nil, nil, nil, nil
	if s.Kind != stock.DieCut {
		require.True(t, slices.ContainsFunc(bare.Check(),
			func(r stock.Reason) bool { return r.Field == string(s.Kind) }),
			"what its kind has of its own is missing: %v", bare.Check())
	}
	require.Positive(t, bare.PerPage(), "nothing fails on a stock that is not whole")
}
