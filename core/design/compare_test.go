package design_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/questions"
)

func of(elements ...design.Element) *design.Design {
	return &design.Design{Format: design.Format, Name: "Tote label", Elements: elements}
}

func words(id, says string, x measure.Length) design.Element {
	return design.Element{ID: id, Kind: design.Text, X: x, Y: 1000, Width: 20_000, Height: 5000,
		Says: []design.Piece{{Text: says}, {Field: "lot"}},
		Text: &design.TextLooks{Typeface: "Liberation Sans", Points: 10}}
}

func texts(changes []design.Change) (all []string) {
	for _, c := range changes {
		all = append(all, c.Text)
	}
	return all
}

func TestCompareTellsWhatDiffers(t *testing.T) {
	before := of(words("a", "Lot ", 3000), words("b", "No. ", 3000))
	require.Empty(t, design.Compare(before, before))
	after := of(words("a", "Batch ", 4500), design.Element{ID: "c", Kind: design.Box})
	after.Name, after.Turn, after.Stock.Name = "Crate label", 90, "50 × 25"
	after.Elements[0].Text.Bold = true
	require.Equal(t, []string{
		"The name was “Tote label” and is “Crate label”.",
		"The stock was  and is 50 × 25.",
		"The artwork was turned by 0° on the web and is by 90°.",
		"Text “No. {lot}” is gone.",
		"Text “Batch {lot}”: says “Lot {lot}” → “Batch {lot}”, bold no → yes, from left 3 mm → 4.5 mm.",
		"Box c is new.",
	}, texts(design.Compare(before, after)))
	asks := of()
	asks.Questions = []questions.Question{{Name: "batch", Words: "Which batch?", Kind: questions.Text}}
	require.Equal(t, []string{"“Which batch?” is asked before a run, as it is now."}, texts(design.Compare(of(), asks)))
	require.Equal(t, []string{"“Which batch?” is no longer asked before a run."}, texts(design.Compare(asks, of())))
	require.Equal(t, []string{"The order from back to front is another."},
		texts(design.Compare(of(words("a", "", 0), words("b", "", 0)), of(words("b", "", 0), words("a", "", 0)))))
}

func TestMergeTakesWhatOneSideAloneChanged(t *testing.T) {
	base := of(words("a", "Lot ", 3000), words("b", "No. ", 3000), words("c", "Rack ", 3000))
	mine := of(words("a", "Lot ", 9000), words("new", "Mine", 0), words("b", "Mine ", 3000), words("c", "Rack ", 3000))
	theirs := of(words("a", "Lot ", 3000), words("b", "Theirs ", 3000), words("theirs", "x", 0))
	theirs.Name = "Renamed"

	merged, clashes := design.Merge(base, mine, theirs, nil)
	require.Equal(t, []design.Clash{{"b", "says “No. {lot}” → “Mine {lot}”", "says “No. {lot}” → “Theirs {lot}”"}},
		clashes)
	require.Equal(t, "Renamed", merged.Name)
	ids := func(d *design.Design) (all []string) {
		for _, e := range d.Elements {
			all = append(all, e.ID)
		}
		return all
	}
	require.Equal(t, []string{"a", "new", "b", "theirs"}, ids(merged), "c was deleted there and left alone here")
	require.Equal(t, measure.Length(9000), merged.Element("a").X)

	merged, clashes = design.Merge(base, mine, theirs, map[string]string{"b": "mine"})
	require.Empty(t, clashes)
	require.Equal(t, "Mine ", merged.Element("b").Says[0].Text)

	// Of shared parts the newer version counts, and what one added stays.
	shared := func(parts ...design.SharedPart) *design.Design {
		d := of()
		d.Parts = parts
		return d
	}
	parts, clashes := design.Merge(shared(design.SharedPart{"a", 1, 1}),
		shared(design.SharedPart{"a", 1, 2}, design.SharedPart{"b", 2, 1}), shared(design.SharedPart{"a", 1, 1}), nil)
	require.Empty(t, clashes)
	require.Equal(t, []design.SharedPart{{"a", 1, 2}, {"b", 2, 1}}, parts.Parts)

	// Two people who each add a text both call it the same.
	both, clashes := design.Merge(of(),
		of(words("text-1", "Mine ", 0), design.Element{ID: "frame-1", Kind: design.Box, Around: []string{"text-1"}}),
		of(words("text-1", "Theirs ", 0)), nil)
	require.Empty(t, clashes)
	require.Equal(t, []string{"text-2", "frame-1", "text-1"}, ids(both))
	require.Equal(t, "Mine ", both.Element("text-2").Says[0].Text)
	require.Equal(t, []string{"text-2"}, both.Element("frame-1").Around)

	mine.Name = "Mine too"
	_, clashes = design.Merge(base, mine, theirs, map[string]string{"b": "theirs"})
	require.Equal(t, []design.Clash{{"", "The name was “Tote label” and is “Mine too”.",
		"The name was “Tote label” and is “Renamed”."}}, clashes)
}

// Whoever changed something alone finds it in what is merged, whatever both did.
func TestMergeLosesNothing(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 8))
	change := func(d *design.Design, by string) *design.Design {
		changed := of()
		for _, e := range d.Elements {
			switch random.IntN(4) {
			case 0: // deleted
			case 1:
				e.X += measure.Length(1 + random.IntN(9))
				changed.Elements = append(changed.Elements, e)
			default:
				changed.Elements = append(changed.Elements, e)
			}
		}
		for n := range random.IntN(3) {
			changed.Elements = append(changed.Elements, words(fmt.Sprint(by, n), by, 0))
		}
		return changed
	}
	for range 500 {
		base := of()
		for n := range random.IntN(6) {
			base.Elements = append(base.Elements, words(fmt.Sprint("e", n), "x", 0))
		}
		mine, theirs := change(base, "mine"), change(base, "theirs")
		merged, clashes := design.Merge(base, mine, theirs, nil)
		clashed := map[string]bool{}
		for _, c := range clashes {
			clashed[c.Element] = true
		}
		all := of(append(append(append([]design.Element{}, base.Elements...), mine.Elements...), theirs.Elements...)...)
		for _, e := range all.Elements {
			b, m, th, got := text(base.Element(e.ID)), text(mine.Element(e.ID)), text(theirs.Element(e.ID)),
				text(merged.Element(e.ID))
			switch {
			case m == b || m == th:
				require.Equal(t, th, got)
			case th == b:
				require.Equal(t, m, got)
			default:
				require.True(t, clashed[e.ID])
			}
		}
	}
}

func text(e *design.Element) string {
	data, _ := json.Marshal(e)
	return string(data)
}
