package compose_test

import (
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/core/symbology"
	_ "oddspool/core/typefaces" // the program's own
	"oddspool/core/typeset"
)

const mm = measure.Millimetre

// label is an empty 100 x 50 mm label at 8 dots/mm.
func label(elements ...design.Element) *design.Design {
	return &design.Design{
		Format: design.Format, Name: "Test",
		Stock: stock.Stock{Name: "100 × 50", Kind: stock.DieCut, Shape: stock.Rectangle, Width: 100 * mm,
			Length: 50 * mm, Gap: 3 * mm},
		Printer:  stock.Printer{Name: "Dock 1", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832},
		Elements: elements,
	}
}

func text(id string, x, y, w, h measure.Length, says ...design.Piece) design.Element {
	return design.Element{ID: id, Kind: design.Text, X: x, Y: y, Width: w, Height: h, Says: says,
		Text: &design.TextLooks{Typeface: "Liberation Sans", Points: 10}}
}

func code(id string, x, y, w, h measure.Length, says ...design.Piece) design.Element {
	return design.Element{ID: id, Kind: design.Code, X: x, Y: y, Width: w, Height: h, Says: says,
		Code: &design.CodeLooks{Symbology: "code128", Module: 250}}
}

func composed(t *testing.T, d *design.Design, fields, record []string) *compose.Label {
	c, err := compose.New(d, fields)
	require.NoError(t, err)
	var l compose.Label
	c.Compose(&l, record)
	return &l
}

func TestElementsSayTheirPiecesJoined(t *testing.T) {
	d := label(
		text("a", 0, 0, 50*mm, 6*mm, design.Piece{Text: "Lot "}, design.Piece{Field: "lot"}, design.Piece{Text: "/"},
			design.Piece{Field: "serial"}),
		text("b", 0, 9*mm, 50*mm, 6*mm, design.Piece{Field: "lot"}),
		text("c", 0, 18*mm, 50*mm, 6*mm, design.Piece{Field: "gone"}),
	)
	l := composed(t, d, []string{"serial", "lot"}, []string{"00417", "26K104"})
	require.Equal(t, "Lot 26K104/00417", l.Parts[0].Says)
	require.Equal(t, "26K104", l.Parts[1].Says)
	require.Equal(t, "gone", l.Parts[2].Lacks)
	l = composed(t, d, []string{"serial", "lot"}, []string{"00417"}) // a ragged row
	require.Equal(t, "lot", l.Parts[1].Blank)
	require.Equal(t, "lot", l.Parts[0].Blank, "one of its fields is empty")
	require.Equal(t, "Lot /00417", l.Parts[0].Says)

	d.Elements[0].IfEmpty, d.Elements[1].IfEmpty = design.LeaveOut, design.LeaveOut
	l = composed(t, d, []string{"serial", "lot"}, []string{"00417", ""})
	require.Equal(t, []string{"", "Lot /00417", ""}, []string{l.Parts[0].Blank, l.Parts[0].Says, l.Parts[1].Says})
	l = composed(t, d, []string{"serial", "lot"}, []string{"", ""})
	require.Empty(t, l.Parts[0].Says, "without a field there is nothing to say about it")
}

func TestTextStandsInItsBox(t *testing.T) {
	e := text("a", 10*mm, 10*mm, 40*mm, 20*mm, design.Piece{Text: "kelp"})
	left := composed(t, label(e), nil, nil).Parts[0].Real
	require.Equal(t, 80, left.X)
	require.Equal(t, 80, left.Y)

	e.Text = &design.TextLooks{Typeface: "Liberation Sans", Points: 10, Align: design.Right, Stand: design.Bottom}
	right := composed(t, label(e), nil, nil).Parts[0].Real
	require.Equal(t, 400, right.X+right.W)
	require.Equal(t, 240, right.Y+right.H)

	e.Text.Align, e.Text.Stand = design.Centre, design.Middle
	middle := composed(t, label(e), nil, nil).Parts[0].Real
	require.InDelta(t, 240, middle.X+middle.W/2, 1)
	require.InDelta(t, 160, middle.Y+middle.H/2, 1)

	e.Turn = 90
	turned := composed(t, label(e), nil, nil).Parts[0].Real
	require.Equal(t, []int{middle.W, middle.H}, []int{turned.H, turned.W})
	require.InDelta(t, 240, turned.X+turned.W/2, 1)
}

func TestLongTextIsMeasuredWrappedAndShrunk(t *testing.T) {
	e := text("a", 0, 0, 30*mm, 8*mm, design.Piece{Text: "Bladderwrack, coarse cut for bathing"})
	long := composed(t, label(e), nil, nil).Parts[0]
	require.Greater(t, long.TooWide, 100)

	e.Text.Wrap = true
	wrapped := composed(t, label(e), nil, nil).Parts[0]
	require.Zero(t, wrapped.TooWide)
	require.Positive(t, wrapped.TooTall, "two lines of 10 pt need more than 8 mm")

	e.Text.ShrinkTo = 6
	shrunk := composed(t, label(e), nil, nil).Parts[0]
	require.Zero(t, shrunk.TooTall+shrunk.TooWide)
	require.Less(t, shrunk.PerEm, wrapped.PerEm)

	e.Text.ShrinkTo = 9.9
	require.Positive(t, composed(t, label(e), nil, nil).Parts[0].TooTall,
		"not small enough, and not smaller than asked")
}

func TestCodeTakesWholeDotsAndItsQuietZones(t *testing.T) {
	e := code("a", 10*mm, 10*mm, 60*mm, 15*mm, design.Piece{Text: "26K104"})
	part := composed(t, label(e), nil, nil).Parts[0]
	require.Equal(t, 2, part.Module)
	require.Equal(t, 101*2, part.Bars.W)
	require.Equal(t, part.Bars.X-20, part.Quiet.X)
	require.Equal(t, 80, part.Quiet.X)
	require.Equal(t, 121*2, part.Quiet.W)
	require.Less(t, part.Bars.H, 15*8, "the readable text takes its share")

	e.Code.Readable = design.None
	require.Equal(t, 15*8, composed(t, label(e), nil, nil).Parts[0].Bars.H)
	e.Code.Readable = design.Above
	require.Greater(t, composed(t, label(e), nil, nil).Parts[0].Bars.Y, 80)

	e.Width = 20 * mm
	require.Equal(t, 121*2-160, composed(t, label(e), nil, nil).Parts[0].TooWide)

	e.Code.Module = 10 // less than half a dot is still a dot
	require.Equal(t, 1, composed(t, label(e), nil, nil).Parts[0].Module)

	e.Says = []design.Piece{{Text: "昆"}}
	require.IsType(t, &symbology.DataError{}, composed(t, label(e), nil, nil).Parts[0].CodeError)
}

func TestNewRefusesWhatItCannotDraw(t *testing.T) {
	e := text("a", 0, 0, mm, mm)
	e.Text.Typeface = "Seaweed Sans"
	_, err := compose.New(label(e), nil)
	require.IsType(t, &typeset.FamilyError{}, err)
	c := code("a", 0, 0, mm, mm)
	c.Code.Symbology = "runes"
	_, err = compose.New(label(c), nil)
	require.IsType(t, &symbology.UnknownError{}, err)
}

// The press draws fixed parts once and the rest for each label: that must give the dots of the
// whole list, whatever the turn, and a label used with two designs must mix up nothing.
func TestPressDrawsWhatThePreviewShows(t *testing.T) {
	d := label(
		code("fixed", 5*mm, 5*mm, 40*mm, 12*mm, design.Piece{Text: "BRINE"}),
		code("code", 5*mm, 25*mm, 60*mm, 12*mm, design.Piece{Field: "lot"}),
		design.Element{ID: "frame", Kind: design.Box, Width: 100 * mm, Height: 50 * mm, Weight: mm},
		text("words", 60*mm, 5*mm, 30*mm, 8*mm, design.Piece{Field: "lot"}),
	)
	var shared compose.Label
	for _, turn := range []measure.Turn{0, 90, 180, 270} {
		d.Turn = turn
		d := *d
		w, h := d.Stock.Width, d.Stock.Length
		if turn.Sideways() {
			d.Stock.Width, d.Stock.Length = h, w
		}
		c, err := compose.New(&d, []string{"lot"})
		require.NoError(t, err)
		press := compose.NewPress(c)
		plane := press.NewLayers()
		for _, lot := range []string{"26K104", "26K105-and-longer", ""} {
			press.Label(plane, []string{lot})
			c.Compose(&shared, []string{lot})
			shared.List.Turn(turn)
			want := render.NewPlane(shared.List.Width, shared.List.Height)
			want.Draw(&shared.List)
			require.Equal(t, want.Bits, plane[0].Bits, "turn %d, %q", turn, lot)
			require.Equal(t, "BRINE", shared.Parts[0].Symbol.Text)
		}
	}
}

// What lays the face bare lies over what changes below it, though it never changes itself.
func TestWhatLaysBareKeepsItsPlace(t *testing.T) {
	words := text("words", 5*mm, 5*mm, 80*mm, 30*mm, design.Piece{Field: "lot"})
	words.Text.Points = 60
	gap := design.Element{ID: "gap", Kind: design.Box, X: 20 * mm, Y: 0, Width: 20 * mm, Height: 50 * mm, Weight: mm,
		Shape: &design.Shape{Fill: design.Bare}, Ink: design.Bare}
	d := label(words, gap)
	c, err := compose.New(d, []string{"lot"})
	require.NoError(t, err)
	press := compose.NewPress(c)
	layers := press.NewLayers()
	press.Label(layers, []string{"WWWWWWW"})
	inside := render.Box{X: 22 * 8, Y: 8, W: 16 * 8, H: 48 * 8}
	require.True(t, layers[0].All(inside, false), "words show in the gap")
	require.False(t, layers[0].Blank(render.Box{X: 5 * 8, Y: 5 * 8, W: 14 * 8, H: 30 * 8}), "and stand beside it")
}

func TestRowsHaveALabelInEachLane(t *testing.T) {
	d := label(text("a", 0, 0, 30*mm, 6*mm, design.Piece{Field: "lot"}))
	d.Stock.Width, d.Stock.Length, d.Stock.Lanes, d.Stock.LaneGap, d.Stock.EdgeLeft = 30*mm, 10*mm, 3, 3100, 2*mm
	c, err := compose.New(d, []string{"lot"})
	require.NoError(t, err)
	press := compose.NewPress(c)
	row, plane := press.NewPage(), press.NewLayers()
	require.Equal(t, []int{770, 80}, []int{row[0].Width, row[0].Height}, "96.2 mm across")
	press.Page(row, plane, [][]string{{"26K104"}, {"26K105"}}, 0)
	for i, lot := range []string{"26K104", "26K105"} {
		press.Label(plane, []string{lot})
		require.Equal(t, plane[0].Bits, row[0].Cut(press.Place(i)).Bits)
	}
	require.Equal(t, 265, press.Place(1).X)
	require.True(t, row[0].Blank(press.Place(2)), "the last lane has no label")
}

func TestExampleDesignIsComposed(t *testing.T) {
	data, err := os.ReadFile("../../examples/bin-label.json")
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	l := composed(t, d, d.Fields, []string{"N-03-07-B", "Dulse, flaked", "26K104", "24", "952N0307B", "00417"})
	for i, part := range l.Parts {
		require.Zero(t, part.TooWide+part.TooTall, d.Elements[i].ID)
	}
}

// BenchmarkLabel goes from a record to a packed plane: 100 x 50 mm at 8 dots/mm, one Code 128 and
// four lines of text, two of them changing.
func BenchmarkLabel(b *testing.B) {
	d := label(
		text("a", 5*mm, 3*mm, 90*mm, 5*mm, design.Piece{Text: "Brinewick Kelp Works"}),
		text("b", 5*mm, 9*mm, 90*mm, 5*mm, design.Piece{Text: "Keep dry and out of the sun"}),
		text("c", 5*mm, 15*mm, 90*mm, 5*mm, design.Piece{Field: "contents"}),
		text("d", 5*mm, 21*mm, 90*mm, 5*mm, design.Piece{Text: "Lot "}, design.Piece{Field: "lot"}),
		code("e", 5*mm, 28*mm, 90*mm, 18*mm, design.Piece{Field: "code"}),
	)
	c, err := compose.New(d, []string{"contents", "lot", "code"})
	require.NoError(b, err)
	press := compose.NewPress(c)
	plane := press.NewLayers()
	records := make([][]string, 1000)
	for i := range records {
		records[i] = []string{fmt.Sprintf("Sugar kelp, flaked %d", i), fmt.Sprintf("26K%04d", i),
			fmt.Sprintf("952N0307B-%04d", i)}
	}
	b.ReportAllocs()
	b.ResetTimer()
	for i := 0; b.Loop(); i++ {
		press.Label(plane, records[i%len(records)])
	}
	b.ReportMetric(float64(b.N)/b.Elapsed().Seconds(), "labels/s")
}

func ExampleComposer_Compose() {
	d := label(text("bin", 5*mm, 5*mm, 40*mm, 8*mm, design.Piece{Text: "Bin "}, design.Piece{Field: "bin"}))
	c, _ := compose.New(d, []string{"bin"})
	var l compose.Label
	c.Compose(&l, []string{"N-03-07-B"})
	fmt.Println(l.Parts[0].Says, l.Parts[0].TooWide)
	// Output: Bin N-03-07-B 0
}
