package stock_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/stock"
)

const mm = measure.Millimetre

// bins is the roll in Dock 2 at Brinewick Kelp Works.
func bins() stock.Stock {
	return stock.Stock{
		Number: "S-076", Name: "76 × 38 paper", Kind: stock.DieCut, Shape: stock.Rounded,
		CornerRadius: 2 * mm, Width: 76 * mm, Length: 38 * mm, Gap: 3 * mm, EdgeLeft: 2 * mm, EdgeRight: 2 * mm,
		Roll: &stock.Roll{Core: 40 * mm, Outside: 127 * mm, Thickness: 160},
	}
}

// lanes is a web of 50 × 25 mm labels, two side by side.
func lanes() stock.Stock {
	s := bins()
	s.Name, s.Shape, s.Width, s.Length, s.Gap, s.EdgeLeft, s.EdgeRight, s.Lanes, s.LaneGap = "50 × 25, two lanes",
		stock.Rectangle, 50*mm, 25*mm, 3*mm, 3*mm, 3*mm, 2, 3*mm
	s.CornerRadius = 0
	return s
}

func tape() stock.Stock {
	return stock.Stock{Name: "12 mm tape", Kind: stock.Tape, Shape: stock.Rectangle, Width: 12 * mm, Length: 40 * mm,
		Reacts: []stock.Ink{stock.Black},
		Tape:   &stock.TapeCut{ByContent: true, Margin: 2 * mm, Least: 10 * mm, Most: 300 * mm, Waste: 24 * mm}}
}

func sleeve() stock.Stock {
	return stock.Stock{Name: "Sleeve 6.4", Kind: stock.Sleeve, Shape: stock.Rectangle, Width: 9 * mm, Length: 50 * mm,
		Gap:    5 * mm,
		Sleeve: &stock.Tubing{Supplied: 6400, Recovered: 3200, Wall: 640, Ladder: true, Faces: 2}}
}

func wrap() stock.Stock {
	return stock.Stock{Name: "Wrap 25.4", Kind: stock.Wrap, Shape: stock.Rectangle, Width: 25400, Length: 12700,
		Gap: 3 * mm, Wrap: &stock.Laminate{Tail: 25400}}
}

func flag() stock.Stock {
	return stock.Stock{Name: "Flag", Kind: stock.Flag, Shape: stock.Rectangle, Width: 20 * mm, Length: 80 * mm,
		Gap: 3 * mm, Flag: &stock.TwoFaces{Round: 20 * mm}}
}

func plate() stock.Stock {
	return stock.Stock{Name: "Pump plate", Kind: stock.Plate, Shape: stock.Rounded, CornerRadius: 3 * mm,
		Width: 80 * mm, Length: 40 * mm,
		Plate: &stock.Rigid{Holes: []stock.Hole{{X: 5 * mm, Y: 20 * mm, Diameter: 4 * mm},
			{X: 75 * mm, Y: 20 * mm, Diameter: 4 * mm}}, Clearance: mm, Core: "#FFFFFF"}}
}

func sheet() stock.Stock {
	return stock.Stock{Name: "Sheet 3 × 8", Kind: stock.Sheet, Shape: stock.Rectangle, Width: 70 * mm, Length: 37 * mm,
		Sheet: &stock.Page{Width: 210 * mm, Height: 297 * mm, Left: 0, Top: 500, Columns: 3, Rows: 8, PitchX: 70 * mm,
			PitchY: 37 * mm}}
}

func all() []stock.Stock {
	return []stock.Stock{bins(), lanes(), tape(), sleeve(), wrap(), flag(), plate(), sheet()}
}

func dock2() stock.Printer {
	return stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832,
		Inks: []stock.Ink{stock.Black}}
}

func TestGoodStocksAreGood(t *testing.T) {
	for _, s := range all() {
		require.Empty(t, s.Check(), s.Name)
	}
	require.Empty(t, dock2().Check())
}

func TestCheckNamesTheFigure(t *testing.T) {
	for _, test := range []struct {
		field string
		stock stock.Stock
		spoil func(*stock.Stock)
	}{
		{"kind", bins(), func(s *stock.Stock) { s.Kind = "knitted" }},
		{"shape", bins(), func(s *stock.Stock) { s.Shape = "star" }},
		{"shape", bins(), func(s *stock.Stock) { s.Shape = stock.Circle }},
		{"width", bins(), func(s *stock.Stock) { s.Width, s.CornerRadius = 0, 0 }},
		{"length", bins(), func(s *stock.Stock) { s.Length = 6000 * mm }},
		{"gap", bins(), func(s *stock.Stock) { s.Gap = -1 }},
		{"gap", bins(), func(s *stock.Stock) { s.Gap, s.Tracking = 0, stock.Gap }},
		{"edgeLeft", bins(), func(s *stock.Stock) { s.EdgeLeft = 201 * mm }},
		{"edgeRight", bins(), func(s *stock.Stock) { s.EdgeRight = -5 }},
		{"cornerRadius", bins(), func(s *stock.Stock) { s.CornerRadius = 19_001 }},
		{"perRoll", bins(), func(s *stock.Stock) { s.PerRoll = -1 }},
		{"lanes", lanes(), func(s *stock.Stock) { s.Lanes = 41 }},
		{"laneGap", lanes(), func(s *stock.Stock) { s.LaneGap = -1 }},
		{"keep", bins(), func(s *stock.Stock) { s.Keep = 20 * mm }},
		{"colour", bins(), func(s *stock.Stock) { s.Colour = "yellow" }},
		{"colour", bins(), func(s *stock.Stock) { s.Colour = "#F7C60G" }},
		{"reacts", bins(), func(s *stock.Stock) { s.Reacts = []stock.Ink{" "} }},
		{"tracking", bins(), func(s *stock.Stock) { s.Tracking = "smell" }},
		{"mark", bins(), func(s *stock.Stock) { s.Tracking = stock.Mark }},
		{"mark.height", bins(), func(s *stock.Stock) { s.Tracking, s.Mark = stock.Mark, &stock.BlackMark{} }},
		{"roll.core", bins(), func(s *stock.Stock) { s.Roll.Core = mm }},
		{"roll.outside", bins(), func(s *stock.Stock) { s.Roll.Outside = 30 * mm }},
		{"roll.thickness", bins(), func(s *stock.Stock) { s.Roll.Thickness = 0 }},
		{"roll.winding", bins(), func(s *stock.Stock) { s.Roll.Winding = "up" }},
		{"tape", tape(), func(s *stock.Stock) { s.Tape = nil }},
		{"tape.least", tape(), func(s *stock.Stock) { s.Tape.Least = 400 * mm }},
		{"tape.margin", tape(), func(s *stock.Stock) { s.Tape.Margin = -1 }},
		{"sleeve", sleeve(), func(s *stock.Stock) { s.Sleeve = nil }},
		{"sleeve.recovered", sleeve(), func(s *stock.Stock) { s.Sleeve.Recovered = 6400 }},
		{"sleeve.faces", sleeve(), func(s *stock.Stock) { s.Sleeve.Faces = 3 }},
		{"width", sleeve(), func(s *stock.Stock) { s.Width = 15 * mm }},
		{"wrap", wrap(), func(s *stock.Stock) { s.Wrap = nil }},
		{"wrap.tail", wrap(), func(s *stock.Stock) { s.Wrap.Tail = 10 * mm }},
		{"flag", flag(), func(s *stock.Stock) { s.Flag = nil }},
		{"flag.round", flag(), func(s *stock.Stock) { s.Flag.Round = 79 * mm }},
		{"plate", plate(), func(s *stock.Stock) { s.Plate = nil }},
		{"plate.core", plate(), func(s *stock.Stock) { s.Plate.Core = "red" }},
		{"plate.holes", plate(), func(s *stock.Stock) { s.Plate.Holes[0].X = mm }},
		{"plate.holes", plate(), func(s *stock.Stock) { s.Plate.Holes[1].Diameter = 0 }},
		{"sheet", sheet(), func(s *stock.Stock) { s.Sheet = nil }},
		{"sheet.columns", sheet(), func(s *stock.Stock) { s.Sheet.Rows = 0 }},
		{"sheet.pitchX", sheet(), func(s *stock.Stock) { s.Sheet.PitchX = 60 * mm }},
		{"sheet.pitchY", sheet(), func(s *stock.Stock) { s.Sheet.PitchY = 36 * mm }},
		{"sheet.left", sheet(), func(s *stock.Stock) { s.Sheet.Left = mm }},
		{"sheet.top", sheet(), func(s *stock.Stock) { s.Sheet.Top = 10 * mm }},
	} {
		s := test.stock
		test.spoil(&s)
		reasons := s.Check()
		require.NotEmpty(t, reasons, test.field)
		require.Equal(t, test.field, reasons[0].Field, reasons[0].Text)
	}
}

func TestPrintersAreChecked(t *testing.T) {
	for field, spoil := range map[string]func(*stock.Printer){
		"resolution": func(p *stock.Printer) { p.Resolution = measure.Resolution{} },
		"headDots":   func(p *stock.Printer) { p.HeadDots = 0 },
		"maxLength":  func(p *stock.Printer) { p.MaxLength = mm },
		"minLength":  func(p *stock.Printer) { p.MinLength = 2000 * mm },
		"leastWeb":   func(p *stock.Printer) { p.LeastWeb = 200 * mm },
		"speed":      func(p *stock.Printer) { p.Speed = -1 },
		"alignment":  func(p *stock.Printer) { p.Alignment = "right" },
		"takes":      func(p *stock.Printer) { p.Takes = []stock.Kind{"cake"} },
	} {
		p := dock2()
		spoil(&p)
		require.Equal(t, field, p.Check()[0].Field, p.Check()[0].Text)
		require.NotEmpty(t, stock.Fit(bins(), p))
	}
}

func TestFitGivesTheFiguresAndTheNearestThatWorks(t *testing.T) {
	require.Empty(t, stock.Fit(bins(), dock2()))
	require.Empty(t, stock.Fit(lanes(), dock2()), "labels from 3 to 106 mm under a head from 2.5 to 106.5")
	change := func(s stock.Stock, do func(*stock.Stock)) stock.Stock { do(&s); return s }
	with := func(do func(*stock.Printer)) stock.Printer { p := dock2(); do(&p); return p }
	for name, test := range map[string]struct {
		stock   stock.Stock
		printer stock.Printer
		text    string
	}{
		"kind": {sleeve(), dock2(), "Dock 2 takes die-cut and tape, not sleeve."},
		"wide web": {change(bins(), func(s *stock.Stock) { s.EdgeLeft = 60 * mm }), dock2(),
			"The web is 138 mm wide and Dock 2 takes up to 114 mm: choose one that is 24 mm narrower."},
		"narrow web": {bins(), with(func(p *stock.Printer) { p.LeastWeb = 90 * mm }),
			"takes at least 90 mm: choose one that is 10 mm wider."},
		"head": {change(bins(), func(s *stock.Stock) { s.Width = 110 * mm }), dock2(),
			"misses 3 mm of the label's edge: choose a label at most 107 mm wide"},
		"head left": {lanes(), with(func(p *stock.Printer) { p.Alignment = stock.FromLeft }),
			"misses 2 mm of the label's edge"},
		"long": {change(bins(), func(s *stock.Stock) { s.Length = 1001 * mm }), dock2(),
			"takes up to 1000 mm: choose one that is 1 mm shorter."},
		"short": {bins(), with(func(p *stock.Printer) { p.MinLength = 40 * mm }),
			"takes at least 40 mm: choose one that is 2 mm longer."},
		"sensor": {change(bins(), func(s *stock.Stock) { s.Tracking = stock.Notch }), dock2(),
			"Dock 2 has no sensor for a notch; it finds gap and mark."},
		"by content": {tape(), with(func(p *stock.Printer) { p.MaxLength = 200 * mm }),
			"Pieces of up to 300 mm are too long for Dock 2"},
		"no ink": {bins(), with(func(p *stock.Printer) { p.Inks = nil }),
			"no ribbon and heat brings nothing out of 76 × 38 paper"},
	} {
		reasons := stock.Fit(test.stock, test.printer)
		require.Len(t, reasons, 1, name)
		require.Contains(t, reasons[0].Text, test.text, name)
	}
	broken := dock2()
	broken.HeadDots = 0
	require.Equal(t, "headDots", stock.Fit(bins(), broken)[0].Field)
}

func TestWhatFitsCanBePrintedWhole(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 8))
	fits := 0
	for range 3000 {
		s := bins()
		s.Shape, s.Lanes, s.LaneGap = stock.Rectangle, 1+random.IntN(4), measure.Length(random.IntN(5_000))
		s.Width, s.Length = measure.Length(5_000+random.IntN(110_000)), measure.Length(5_000+random.IntN(90_000))
		s.EdgeLeft, s.EdgeRight = measure.Length(random.IntN(5_000)), measure.Length(random.IntN(5_000))
		if len(stock.Fit(s, dock2())) > 0 {
			continue
		}
		fits++
		for lane := range s.Lanes {
			a := stock.Printable(s, dock2(), stock.Setup{}, lane)
			require.True(t, a.Holds(0, 0, a.Width, a.Height), "%+v lane %d: %+v", s, lane, a)
		}
	}
	require.Greater(t, fits, 300)
}

func TestPrintableAreaIsWhatAllHaveInCommon(t *testing.T) {
	s := bins()
	s.Width, s.Keep = 110*mm, mm
	a := stock.Printable(s, dock2(), stock.Setup{}, 0)
	require.Equal(t, []int{24, 856, 8, 296}, []int{a.Left, a.Right, a.Top, a.Bottom},
		"the head misses 3 mm on either side")
	require.Equal(t, 104*mm, a.Across(measure.DotsPerMillimetre(8)))
	moved := stock.Printable(s, dock2(), stock.Setup{Across: 2 * mm, Along: -3 * mm}, 0)
	require.Equal(t, []int{40, 872, 8, 280}, []int{moved.Left, moved.Right, moved.Top, moved.Bottom})
	bled := stock.Printable(bins(), dock2(), stock.Setup{Bleed: mm}, 0)
	require.Equal(t, []int{-8, 616}, []int{bled.Left, bled.Right})

	holed := stock.Printable(plate(), stock.Printer{Name: "Plate bench", Resolution: measure.DotsPerMillimetre(10),
		HeadDots: 2000, Vector: true}, stock.Setup{}, 0)
	require.Equal(t, stock.Disc{X: 50, Y: 200, Radius: 30}, holed.Keep[0])
	require.False(t, holed.Holds(70, 190, 100, 20), "over the clearance of the left hole")
	require.True(t, holed.Holds(80, 190, 100, 20))
	require.False(t, holed.Holds(700, 300, 101, 20), "over the right edge")
}

func TestRollsHoldWhatTheirDiametersSay(t *testing.T) {
	roll := bins().Roll
	for _, left := range []measure.Length{0, 1000 * mm, 20_000 * mm, roll.Length(roll.Outside)} {
		require.InDelta(t, float64(left), float64(roll.Length(roll.OutsideOf(left))), 2_000, "there and back")
	}
	require.Zero(t, roll.Length(30*mm))
	known := bins()
	known.PerRoll = 2000
	require.Equal(t, 2000, known.Pieces())
	require.Equal(t, int(lanes().Roll.Length(127*mm)/(28*mm))*2, lanes().Pieces())
	require.Zero(t, tape().Pieces())
	// Wound turn by turn, each on top of the last, the spiral is as long as the formula says.
	sum, radius := 0.0, 20_000.0+80
	for ; radius < 63_500; radius += 160 {
		sum += 2 * math.Pi * radius
	}
	require.InEpsilon(t, sum, float64(roll.Length(127*mm)), 0.005)
}

func TestPiecesOfTapeAreAsLongAsTheirContent(t *testing.T) {
	for content, want := range map[measure.Length]measure.Length{0: 10 * mm, 3 * mm: 10 * mm, 30 * mm: 32 * mm,
		298 * mm: 300 * mm} {
		got, fits := tape().PieceLength(content)
		require.True(t, fits)
		require.Equal(t, want, got, content.String())
	}
	got, fits := tape().PieceLength(299 * mm)
	require.False(t, fits)
	require.Equal(t, 300*mm, got)
	got, fits = bins().PieceLength(39 * mm)
	require.False(t, fits)
	require.Equal(t, 38*mm, got)
}

func TestCablesFindTheirStocks(t *testing.T) {
	names := func(cable measure.Length) (found []string) {
		for _, s := range stock.ForCable(all(), cable) {
			found = append(found, s.Name)
		}
		return found
	}
	require.Equal(t, []string{"Sleeve 6.4", "Flag", "Wrap 25.4"}, names(5*mm))
	require.Equal(t, []string{"Flag", "Wrap 25.4"}, names(6*mm))
	require.Equal(t, []string{"Wrap 25.4"}, names(8*mm))
	require.Empty(t, names(9*mm))
	require.Empty(t, names(3*mm))
	_, _, round := bins().Cables()
	require.False(t, round)
	require.Equal(t, 30*mm, flag().Face())
	require.Equal(t, 3, stock.Repeats(10*mm, 4*mm))
	require.Equal(t, 1, stock.Repeats(10*mm, 40*mm))
	require.Zero(t, stock.Repeats(0, mm))
}

func TestSheetsAreFilledFromWhereTheyAreUsed(t *testing.T) {
	page := sheet().Sheet
	require.Equal(t, 24, page.Places())
	for _, test := range [][5]int{{0, 0, 0, 0, 0}, {0, 5, 0, 2, 1}, {18, 5, 0, 2, 7}, {19, 5, 1, 0, 0},
		{43, 5, 2, 0, 0}} {
		p, column, row := page.Place(test[0], test[1])
		require.Equal(t, test[2:], []int{p, column, row}, test)
	}
	page.Down = true // three columns of eight
	for _, test := range [][5]int{{0, 0, 0, 0, 0}, {7, 0, 0, 0, 7}, {8, 0, 0, 1, 0}, {18, 5, 0, 2, 7},
		{19, 5, 1, 0, 0}} {
		p, column, row := page.Place(test[0], test[1])
		require.Equal(t, test[2:], []int{p, column, row}, test)
	}
}

func TestInksAreWhatRibbonOrHeatGive(t *testing.T) {
	twoColour := bins()
	twoColour.Reacts = []stock.Ink{stock.Black, stock.Red}
	thermal := stock.Printer{Name: "Sign", Heats: []stock.Ink{stock.Red}}
	require.Equal(t, []stock.Ink{stock.Black, stock.Red}, stock.Inks(twoColour, thermal))
	require.Equal(t, []stock.Ink{stock.Black}, stock.Inks(twoColour, stock.Printer{}))
	require.Equal(t, []stock.Ink{stock.Black}, stock.Inks(twoColour, dock2()))
	require.Equal(t, []stock.Ink{stock.Full},
		stock.Inks(bins(), stock.Printer{Inks: []stock.Ink{stock.Black, stock.Full}}))
	require.Empty(t, stock.Inks(bins(), stock.Printer{}))
	require.Equal(t, []stock.Ink{stock.Black}, stock.Inks(plate(), stock.Printer{Vector: true}))
	for _, test := range []struct {
		wanted, nearest stock.Ink
		can             []stock.Ink
		ok              bool
	}{
		{stock.Red, stock.Red, []stock.Ink{stock.Black, stock.Red}, true},
		{"green", "green", []stock.Ink{stock.Full}, true},
		{stock.Red, stock.Black, []stock.Ink{stock.White, stock.Black}, true},
		{stock.Red, stock.White, []stock.Ink{stock.White}, true},
		{stock.Red, "", nil, false},
	} {
		nearest, ok := stock.NearestInk(test.wanted, test.can)
		require.Equal(t, test.nearest, nearest)
		require.Equal(t, test.ok, ok)
	}
}

func TestSetupsAreCheckedAgainstThePrinter(t *testing.T) {
	able := dock2()
	able.Speed, able.SlowSpeed, able.Cutter = 152, 50, true
	require.Empty(t, stock.Setup{Name: "dry hall", Darkness: 60, Speed: 100, Across: -mm, Along: mm / 2,
		Finish: stock.Cut, CutEvery: 1}.Check(able))
	for field, setup := range map[string]stock.Setup{
		"darkness": {Darkness: 101}, "speed": {Speed: 200}, "across": {Across: 51 * mm}, "along": {Along: -51 * mm},
		"bleed": {Bleed: 6 * mm}, "cutEvery": {CutEvery: -1}, "finish": {Finish: stock.Peel},
	} {
		reasons := setup.Check(able)
		require.Len(t, reasons, 1, field)
		require.Equal(t, field, reasons[0].Field)
	}
	require.Contains(t, stock.Setup{Finish: "fold"}.Check(able)[0].Text, "not known")
	require.Len(t, stock.Setup{Speed: 20}.Check(able), 1)
}

func ExampleStock_Pitch() {
	s := lanes()
	fmt.Println("web", s.WebWidth(), "pitch", s.Pitch(), "second lane at", s.LaneAt(1))
	// Output: web 109 mm pitch 28 mm second lane at 56 mm
}

func ExampleRoll_Length() {
	roll := stock.Roll{Core: 40 * mm, Outside: 127 * mm, Thickness: 160}
	fmt.Printf("%.1f m\n", roll.Length(roll.Outside).Millimetres()/1000)
	// π (127² − 40²) / (4 × 0.16) = 71,319 mm
	// Output: 71.3 m
}

func ExampleTubing_FlatWidth() {
	tube := stock.Tubing{Supplied: 6400, Recovered: 3200, Wall: 640}
	smallest, largest := tube.Cables()
	fmt.Printf("%g:1, wall %v, %v flat, for cables of %v to %v\n", tube.Ratio(), tube.WallSupplied(), tube.FlatWidth(),
		smallest, largest)
	// w (6.4 + w) = 0.64 (3.2 + 0.64) gives w = 0.363; half of π (6.4 + 2 × 0.363) is 11.19
	// Output: 2:1, wall 0.363 mm, 11.194 mm flat, for cables of 3.2 mm to 5.818 mm
}

func ExampleLaminate_Cables() {
	s := wrap()
	smallest, largest := s.Wrap.Cables(s.Length)
	fmt.Println(smallest, largest) // 12.7 / π and 25.4 / π
	// Output: 4.043 mm 8.085 mm
}

func TestInlaysLieWithinTheirPieces(t *testing.T) {
	with := func(change func(*stock.Inlay)) stock.Stock {
		s := bins() // 76 × 38
		s.Inlay = &stock.Inlay{X: 4 * mm, Y: 10 * mm, Width: 60 * mm, Height: 16 * mm, ChipX: 30 * mm, ChipY: 18 * mm,
			EPCBits: 128, UserBits: 512}
		change(s.Inlay)
		return s
	}
	require.Empty(t, with(func(*stock.Inlay) {}).Check())
	for name, test := range map[string]struct {
		change func(*stock.Inlay)
		field  string
	}{
		"too wide":         {func(i *stock.Inlay) { i.Width = 80 * mm }, "inlay"},
		"over the end":     {func(i *stock.Inlay) { i.Y = 30 * mm }, "inlay"},
		"no size":          {func(i *stock.Inlay) { i.Height = 0 }, "inlay"},
		"chip beside it":   {func(i *stock.Inlay) { i.ChipX = 70 * mm }, "inlay.chipX"},
		"half a word":      {func(i *stock.Inlay) { i.EPCBits = 100 }, "inlay.epcBits"},
		"no identifier":    {func(i *stock.Inlay) { i.EPCBits = 0 }, "inlay.epcBits"},
		"too much of user": {func(i *stock.Inlay) { i.UserBits = 1 << 20 }, "inlay.userBits"},
	} {
		t.Run(name, func(t *testing.T) {
			reasons := with(test.change).Check()
			require.NotEmpty(t, reasons)
			require.Equal(t, test.field, reasons[0].Field)
		})
	}
}
