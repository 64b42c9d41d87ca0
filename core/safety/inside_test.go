package safety_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/safety"
	"oddspool/core/safety/hazard"
	"oddspool/core/safety/pipe"
	"oddspool/core/stock"
)

// unmet returns what the rules of a label ask and it does not keep to.
func unmet(t *testing.T, d *design.Design, l *safety.Layout) (found []string) {
	on := *d
	on.Elements, on.Demands = l.Elements, l.Demands
	if len(on.Elements) == 0 {
		on.Elements = []design.Element{{ID: "line", Kind: design.Line, Width: mm, Height: mm}}
	}
	checker, err := proof.NewChecker(&on, nil)
	require.NoError(t, err)
	for _, f := range checker.Label(nil, 1, nil) {
		if f.Demand > 0 {
			found = append(found, f.Text)
		}
	}
	return found
}

// Whatever the size of the stock and its inks, what is laid out lies on the label, has a size, and is a design that can
// be kept.
func TestWhatIsLaidOutLiesOnTheLabel(t *testing.T) {
	seed := rand.Uint64()
	random := rand.New(rand.NewPCG(seed, 7))
	book := hazard.Shipped()
	inks := [][]stock.Ink{{stock.Black}, {stock.Black, stock.Red}, {stock.Full}, {"blue"}}
	kinds := []string{"", "danger", "warning", "caution", "notice", "safety"}
	contents := []string{"Cooling water", "Natural gas", "Sulphuric acid", "Steam", "Compressed air", "Hydraulic oil"}
	for range 60 {
		w, h := measure.Length(10+random.IntN(200))*mm, measure.Length(8+random.IntN(200))*mm
		d := blank(w, h, inks[random.IntN(len(inks))]...)
		d.Turn = []measure.Turn{0, 90}[random.IntN(2)]
		s := &book.Substances[random.IntN(len(book.Substances))]
		label, err := book.SubstanceLabel(s, hazard.Wanted{Volume: float64(random.IntN(600_000)),
			Language: hazard.Languages[random.IntN(4)]})
		require.NoError(t, err, "seed %d: %s", seed, s.CAS)
		layouts := map[string]func() (*safety.Layout, error){
			"chemical": func() (*safety.Layout, error) {
				return safety.LayChemical(d, safety.Chemical{Name: s.Names["de"], Identifiers: s.Numbers(),
					Supplier: "Brinewick Kelp Works", Label: label})
			},
			"sign": func() (*safety.Layout, error) {
				return safety.LaySign(d, safety.Sign{Kind: kinds[random.IntN(len(kinds))],
					Symbols: []string{"W012", "M004", "P002"}[:random.IntN(4)], Message: "Lock out before opening",
					Distance: float64(random.IntN(20))})
			},
			"pipe": func() (*safety.Layout, error) {
				return safety.LayPipe(d, pipe.Shipped(),
					safety.Pipe{Rules: pipe.DIN, Contents: contents[random.IntN(len(contents))],
						Diameter: float64(20 + random.IntN(400)), Flow: safety.FlowBoth, Rows: random.IntN(2) == 0})
			},
			"diamond": func() (*safety.Layout, error) {
				return safety.LayDiamond(d, safety.Diamond{Health: random.IntN(5), Fire: random.IntN(5),
					Instability: random.IntN(5), Special: "OX", Name: s.Names["en"]})
			},
		}
		for name, lay := range layouts {
			made, err := lay()
			require.NoError(t, err, "seed %d, %s on %v × %v", seed, name, w, h)
			width, height := d.Size()
			ids := map[string]bool{}
			for _, e := range made.Elements {
				where := []any{"seed %d, %s of %s on %v × %v: %+v", seed, e.ID, name, w, h, e}
				require.False(t, ids[e.ID], where...)
				ids[e.ID] = true
				require.Greater(t, e.Width, measure.Length(0), where...)
				require.Greater(t, e.Height, measure.Length(0), where...)
				require.GreaterOrEqual(t, e.X, measure.Length(0), where...)
				require.GreaterOrEqual(t, e.Y, measure.Length(0), where...)
				require.LessOrEqual(t, e.X+e.Width, width+1, where...)
				require.LessOrEqual(t, e.Y+e.Height, height+1, where...)
				require.True(t, e.Kind != design.Symbol || e.Symbol != nil, where...)
			}
			if !made.Fits {
				require.NotEmpty(t, made.Notes, "seed %d, %s on %v × %v does not fit, and nothing says why", seed, name,
					w, h)
			}
			found := unmet(t, d, made)
			require.Equal(t, len(made.Notes) > 0, len(found) > 0,
				"seed %d, %s on %v × %v: a note is a finding of the design, and a finding was noted: %v %v", seed, name,
				w, h, made.Notes, found)
		}
	}
}
