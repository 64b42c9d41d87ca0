package compose_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/render"
)

// bounds returns the smallest box that holds all dots of a plane.
func bounds(p *render.Plane) (box render.Box) {
	for y := range p.Height {
		p.EachDot(y, func(x int) { box = box.With(render.Box{X: x, Y: y, W: 1, H: 1}) })
	}
	return box
}

func words(says string, change func(*design.Element)) design.Element {
	e := text("words", 5*mm, 5*mm, 30*mm, 20*mm, design.Piece{Text: says})
	change(&e)
	return e
}

// Stretched words fill their box to the dot, whatever they say.
func TestStretchedWordsFillTheirBox(t *testing.T) {
	for _, says := range []string{"I", "BRINE", "Agjpq, dulse flakes", "Two\nlines"} {
		got := bounds(plane(t, words(says, func(e *design.Element) { e.Text.Stretch = true })))
		for _, off := range []int{got.X - 40, got.Y - 40, got.W - 240, got.H - 160} {
			require.LessOrEqual(t, max(off, -off), 2, "%q %v", says, got)
		}
	}
}

// Capitals are as many dots tall as they are wanted, in every size: what is read from afar is measured there.
func TestCapitalsAreAsTallAsTheyAreWanted(t *testing.T) {
	for dots := 8; dots < 100; dots += 7 {
		e := words("H", func(e *design.Element) { e.Text.Capitals = measure.Length(dots) * mm / 8 })
		require.InDelta(t, dots, bounds(plane(t, e)).H, 1)
	}
}

// Words at an angle take what geometry says: a long line at a of length n stands n·cos a wide and n·sin a tall, about
// the middle of its box.
func TestWordsStandAtAnyAngle(t *testing.T) {
	flat := bounds(plane(t, words(strings.Repeat("H", 12),
		func(e *design.Element) { e.Text.Align, e.Text.Stand = design.Centre, design.Middle })))
	for _, angle := range []float64{15, 45, 60, -30} {
		got := bounds(plane(t, words(strings.Repeat("H", 12), func(e *design.Element) {
			e.Angle, e.Text.Align, e.Text.Stand = angle, design.Centre, design.Middle
		})))
		sin, cos := math.Sincos(math.Abs(angle) * math.Pi / 180)
		require.InDelta(t, float64(flat.W)*cos+float64(flat.H)*sin, float64(got.W), 3, "%v°", angle)
		require.InDelta(t, float64(flat.W)*sin+float64(flat.H)*cos, float64(got.H), 3, "%v°", angle)
		require.InDelta(t, 40+120, float64(got.X)+float64(got.W)/2, 3)
	}
	upright := bounds(plane(t, words("HHH", func(e *design.Element) { e.Angle, e.Turn = 90, 270 })))
	require.Greater(t, upright.W, upright.H, "an angle adds to the turn")
}

// Pieces stand in the style that is theirs, and a bold one takes more room and more ink.
func TestPiecesHaveStylesOfTheirOwn(t *testing.T) {
	plain := text("words", 0, 0, 60*mm, 6*mm, design.Piece{Text: "Lot "}, design.Piece{Field: "lot"},
		design.Piece{Text: " keep\tdry"})
	styled := plain
	styled.Says = []design.Piece{{Text: "Lot "}, {Field: "lot", Bold: true}, {Text: " keep\tdry", Italic: true}}
	all := plain
	looks := *plain.Text
	all.Text = &looks
	all.Text.Bold = true
	ink := func(e design.Element) (int, compose.Part) {
		c, err := compose.New(label(e), []string{"lot"})
		require.NoError(t, err)
		drawn, layers := compose.NewArtwork(c).Draw([]string{"KM-0417"})
		return dark(layers[0]), drawn.Parts[0]
	}
	none, first := ink(plain)
	some, part := ink(styled)
	most, _ := ink(all)
	require.Less(t, none, some)
	require.Less(t, some, most)
	require.Equal(t, first.Says, "Lot KM-0417 keep\tdry")
	require.Equal(t, part.Says, "Lot KM-0417 keep dry", "tabs are set as spaces")
}

// A condition keeps an element off labels it is not for; hidden ones are on none.
func TestElementsStandWhereTheirConditionHolds(t *testing.T) {
	for _, test := range []struct {
		is     design.Test
		values []string
		on     []string // of the values "", "A", "B"
	}{
		{design.OneOf, []string{"A"}, []string{"A"}},
		{design.OneOf, nil, nil},
		{design.NoneOf, []string{"A"}, []string{"", "B"}},
		{design.Void, nil, []string{""}},
		{design.Filled, nil, []string{"A", "B"}},
	} {
		e := shape(design.Box, 10, 10, 40, 40, design.Shape{})
		e.When = &design.Condition{Field: "grade", Is: test.is, Values: test.values}
		d := label(e)
		require.Equal(t, []string{"grade"}, d.UsedFields())
		c, err := compose.New(d, []string{"lot", "grade"})
		require.NoError(t, err)
		var on []string
		for _, grade := range []string{"", "A", "B"} {
			drawn, layers := compose.NewArtwork(c).Draw([]string{"x", grade})
			require.Equal(t, drawn.Parts[0].Absent, dark(layers[0]) == 0)
			if dark(layers[0]) > 0 {
				on = append(on, grade)
			}
		}
		require.Equal(t, test.on, on, "%s %v", test.is, test.values)
	}
	hidden := shape(design.Box, 10, 10, 40, 40, design.Shape{})
	hidden.Hidden = true
	require.Zero(t, dark(plane(t, hidden)))
}

// A frame keeps its distance from what it stands round, as long as that is, and is not there without it.
func TestFramesFollowWhatTheyStandRound(t *testing.T) {
	inside := text("lot", 10*mm, 10*mm, 40*mm, 6*mm, design.Piece{Field: "lot"})
	inside.IfEmpty = design.LeaveOut
	frame := design.Element{ID: "frame", Kind: design.Box, X: 0, Y: 0, Width: mm, Height: mm, Weight: mm / 4,
		Around: []string{"lot", "gone"}, Distance: mm}
	c, err := compose.New(label(frame, inside), []string{"lot"}) // the frame lies under it, and is composed after it
	require.NoError(t, err)
	artwork := compose.NewArtwork(c)
	for _, lot := range []string{"1", "KM-0417 flakes"} {
		drawn, layers := artwork.Draw([]string{lot})
		around, real := drawn.Parts[0].Box, drawn.Parts[1].Real
		require.Equal(t, render.Box{X: real.X - 10, Y: real.Y - 10, W: real.W + 20, H: real.H + 20}, around)
		require.Equal(t, around, bounds(layers[0]))
	}
	drawn, layers := artwork.Draw([]string{""})
	require.True(t, drawn.Parts[0].Absent)
	require.Zero(t, dark(layers[0]))
}

// Lines are broken and pointed, polygons have as many dots as geometry says, and a tint as many as it has per cent.
func TestLinesPolygonsAndTints(t *testing.T) {
	solid := dark(plane(t, shape(design.Line, 10, 10, 300, 6, design.Shape{})))
	require.InDelta(t, float64(solid)*3/5,
		dark(plane(t, shape(design.Line, 10, 10, 300, 6, design.Shape{Dash: design.Dashed}))), 20)
	require.InDelta(t, float64(solid)/2,
		dark(plane(t, shape(design.Line, 10, 10, 6, 300, design.Shape{Dash: design.Dotted}))), 20)
	for _, arrow := range []design.Arrow{design.AtStart, design.AtEnd, design.BothEnds} {
		p := plane(t, shape(design.Line, 10, 10, 300, 24, design.Shape{Arrow: arrow}))
		require.Equal(t, render.Box{X: 10, Y: 10, W: 300, H: 24},
			bounds(p).With(render.Box{X: 10, Y: 10, W: 300, H: 24}), arrow)
		heads := 1
		if arrow == design.BothEnds {
			heads = 2
		}
		require.InDelta(t, (300-24*heads)*4+24*24/2*heads, dark(p), 30, arrow)
	}
	slope := dark(plane(t, shape(design.Line, 40, 40, 210, 97, design.Shape{Slope: design.Up, Arrow: design.AtEnd})))
	require.InDelta(t, (math.Hypot(210, 97)-16)*4+16*16/2, slope, 30)

	for _, sides := range []int{3, 6, 8} {
		area := float64(sides) / 2 * math.Sin(2*math.Pi/float64(sides)) * 60 * 60
		filled := shape(design.Oval, 10, 10, 120, 120, design.Shape{Sides: sides, Fill: "black", NoOutline: true})
		require.InDelta(t, area, dark(plane(t, filled)), area/50)
		inner := 1 - 4/(60*math.Cos(math.Pi/float64(sides)))
		require.InDelta(t, area*(1-inner*inner),
			dark(plane(t, shape(design.Oval, 10, 10, 120, 120, design.Shape{Sides: sides}))), area/50)
	}
	for _, tint := range []int{1, 25, 50, 99, 100} {
		filled := shape(design.Box, 16, 16, 160, 80, design.Shape{Fill: "black", NoOutline: true, Tint: tint})
		require.InDelta(t, 160*80*tint/100, dark(plane(t, filled)), 160*80/64, tint)
	}
}

// Words that shrink take the largest size, in half points, in which they fit: held against every size by itself.
func TestShrinkingFindsTheLargestSizeThatFits(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 9))
	for range 60 {
		var says []string
		for range 1 + random.IntN(60) {
			says = append(says, strings.Repeat("m", 1+random.IntN(9))+strings.Repeat(" ", random.IntN(3)))
		}
		set := func(points, shrinkTo float64) compose.Part {
			e := text("words", 0, 0, 30*mm, 12*mm, design.Piece{Text: strings.Join(says, " ")})
			e.Text.Points, e.Text.ShrinkTo, e.Text.Wrap = points, shrinkTo, true
			c, err := compose.New(label(e), nil)
			require.NoError(t, err)
			drawn, _ := compose.NewArtwork(c).Draw(nil)
			return drawn.Parts[0]
		}
		got := set(40, 3)
		for points := 40.0; points >= 3; points -= 0.5 {
			if alone := set(points, 0); alone.TooWide == 0 && alone.TooTall == 0 || points == 3 {
				require.Equal(t, alone.PerEm, got.PerEm, "%v pt: %q", points, says)
				break
			}
		}
	}
}
