package stock_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/stock"
)

func TestLegendsLieOnPiecesAsTheirKindsHaveIt(t *testing.T) {
	once := sleeve()
	once.Sleeve.Faces = 1
	for _, test := range []struct {
		stock         stock.Stock
		times         int
		width, length measure.Length
		across, along measure.Length
		got           int
	}{
		{bins(), 1, 76 * mm, 38 * mm, 0, 0, 1},
		{bins(), 5, 76 * mm, 38 * mm, 0, 0, 1},
		{flag(), 0, 20 * mm, 80 * mm, 0, 0, 1},
		{flag(), 2, 20 * mm, 30 * mm, 0, 50 * mm, 2},
		{sleeve(), 1, 2 * sleeve().Width, sleeve().Length, 0, 0, 1},
		{sleeve(), 2, sleeve().Width, sleeve().Length, sleeve().Width, 0, 2},
		{once, 2, once.Width, once.Length, 0, 0, 1},
		{wrap(), 3, wrap().Width, wrap().Length / 3, 0, wrap().Length / 3, 3},
	} {
		got := test.stock.Legend(test.times)
		require.Equal(t, stock.Legend{Width: test.width, Length: test.length, Times: test.got, Across: test.across,
			Along: test.along}, got, "%s, %d times", test.stock.Name, test.times)
	}
	usual := map[string]int{}
	for _, s := range all() {
		usual[s.Name] = s.Usual()
		require.LessOrEqual(t, s.Usual(), s.MostLegends())
	}
	require.Equal(t, 2, usual[flag().Name])
	require.Equal(t, 2, usual[sleeve().Name])
	require.Equal(t, 3, usual[wrap().Name], "a third of a cable can be seen at a time")
	require.Equal(t, 1, usual[plate().Name])
}

// A legend never lies off its piece, however often it stands there.
func TestLegendsStayOnTheirPiece(t *testing.T) {
	for _, s := range all() {
		for times := range s.MostLegends() + 1 {
			l := s.Legend(times)
			n := measure.Length(l.Times - 1)
			require.LessOrEqual(t, l.Width+n*l.Across, s.PieceWidth(), s.Name)
			require.LessOrEqual(t, l.Length+n*l.Along, s.Length, s.Name)
		}
	}
}

func TestPagesHoldTheirPieces(t *testing.T) {
	for _, s := range all() {
		w, l := s.PageSize()
		for i := range s.PerPage() {
			x, y := s.OnPage(i)
			require.LessOrEqual(t, x+s.PieceWidth(), w, s.Name)
			require.LessOrEqual(t, y+s.Length, l, s.Name)
		}
	}
	require.Equal(t, 24, sheet().PerPage())
	x, y := sheet().OnPage(4)
	require.Equal(t, []measure.Length{70 * mm, 37*mm + 500}, []measure.Length{x, y})
	require.Equal(t, 2, lanes().PerPage())
}

func TestBandsKeepFoldsAndCablesFree(t *testing.T) {
	printer := stock.Printer{Name: "Cable bench", Resolution: measure.DotsPerMillimetre(10), HeadDots: 600}
	s := sleeve()
	s.Keep = mm
	a := stock.Printable(s, printer, stock.Setup{}, 0)
	fold := int(s.Width / 100)
	require.Equal(t, 2*fold, a.Width)
	require.True(t, a.Holds(10, 10, fold-20, 50), "on the first face")
	require.True(t, a.Holds(fold+10, 10, fold-20, 50), "on the second")
	require.False(t, a.Holds(fold-20, 10, 40, 50), "across the fold")
	require.False(t, a.Holds(fold+5, 10, 20, 50), "in the margin of the second face")

	f := stock.Printable(flag(), printer, stock.Setup{}, 0)
	require.True(t, f.Holds(0, 0, 200, 300))
	require.False(t, f.Holds(0, 290, 200, 20), "on what goes round the cable")
	require.True(t, f.Holds(0, 500, 200, 300))

	byContent := stock.Printable(tape(), stock.Printer{Name: "Tape", Resolution: measure.DotsPerMillimetre(10),
		HeadDots: 600}, stock.Setup{}, 0)
	require.Equal(t, 3000, byContent.Bottom, "pieces may be 300 mm long")
}

func TestInksHaveColours(t *testing.T) {
	p := plate()
	require.Equal(t, "#FFFFFF", p.InkColour(stock.Black), "marking lays the core bare")
	require.Equal(t, "#C8102E", p.InkColour(stock.Red))
	require.Equal(t, "#12AB34", bins().InkColour("#12ab34"))
	require.Equal(t, "#000000", bins().InkColour("soot"))
	require.Equal(t, "#FFFFFF", bins().FaceColour())
	for ink, can := range map[stock.Ink]bool{stock.Red: true, "#12AB34": true, "#12AB3": false, "soot": false,
		stock.Black: true} {
		require.Equal(t, can, stock.Can(ink, []stock.Ink{stock.Full}), ink)
	}
	require.False(t, stock.Can(stock.Red, []stock.Ink{stock.Black}))
}

func TestTapeByContentHasOneLane(t *testing.T) {
	s := tape()
	s.Lanes = 2
	require.Equal(t, "lanes", s.Check()[0].Field)
}

func ExampleStock_Legend() {
	l := flag().Legend(2)
	fmt.Println(l.Width, "×", l.Length, "on each face, the second", l.Along, "on")
	// Output: 20 mm × 30 mm on each face, the second 50 mm on
}
