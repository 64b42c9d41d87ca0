package typeset_test

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math/rand/v2"
	"strings"
	"sync"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	_ "oddspool/core/typefaces" // the program's own
	"oddspool/core/typeset"
)

func style(t testing.TB, family string, points float64) typeset.Style {
	face, err := typeset.Find(family, false, false)
	require.NoError(t, err)
	return typeset.Style{Face: face, PerEm: measure.DotsPerMillimetre(8).PerEm(points)}
}

func TestFindNamesWhatThereIs(t *testing.T) {
	for _, family := range typeset.Families() {
		for _, bold := range []bool{false, true} {
			for _, italic := range []bool{false, true} {
				_, err := typeset.Find(family, bold, italic)
				require.NoError(t, err)
			}
		}
	}
	_, err := typeset.Find("Seaweed Sans", false, false)
	require.Equal(t, &typeset.FamilyError{Family: "Seaweed Sans"}, err)
	require.ErrorContains(t, err, "Liberation Sans")
}

// The fast path must set Latin text as the plain path does. A right-to-left mark, which has no
// width, disguises the same text so that the fast path declines it.
func TestLatinIsSetAsAnyScript(t *testing.T) {
	letters := []rune("AVTo fi/ffl,.-–ÄÖé 0123456789WYPL'\"éßæ")
	random := rand.New(rand.NewPCG(1, 2))
	for _, family := range typeset.Families() {
		s := style(t, family, 11)
		for range 300 {
			text := make([]rune, 1+random.IntN(12))
			for i := range text {
				text[i] = letters[random.IntN(len(letters))]
			}
			words := "x" + string(text) + "x" // the mark stands outside what is compared
			var fast, plain typeset.Block
			fast.Set(words, s)
			plain.Set(words+"\u200e", s)
			require.Equal(t, fast.Width, plain.Width, words)
			require.Equal(t, fast.Glyphs, plain.Glyphs[:len(fast.Glyphs)], words)
		}
	}
}

func TestLinesBreakAtTheWidth(t *testing.T) {
	s := style(t, "Liberation Sans", 10)
	var b typeset.Block
	b.Set("Bladderwrack, coarse cut for bathing\nsecond", s)
	require.Len(t, b.Lines, 2)
	whole := b.Width

	s.Width = whole * 2 / 3
	b.Set("Bladderwrack, coarse cut for bathing\nsecond", s)
	require.Len(t, b.Lines, 3)
	for _, line := range b.Lines {
		require.LessOrEqual(t, line.Width, s.Width)
	}
	require.Greater(t, b.Glyphs[b.Lines[1].From].Y, b.Glyphs[0].Y)

	s.Width = 20 // no word fits: each stands whole on a line of its own, too wide but not lost
	b.Set("Bladderwrack bathing", s)
	require.Len(t, b.Lines, 2)
	require.Greater(t, b.Width, s.Width)

	one := b.Height
	s.Spacing = 200
	b.Set("Bladderwrack bathing", s)
	require.Greater(t, b.Height, one)
}

func TestMissingCharactersAreNamed(t *testing.T) {
	var b typeset.Block
	b.Set("ok \U00013000 no", style(t, "Liberation Sans", 10))
	require.Equal(t, []rune{0x13000}, b.Missing)
	b.Set("bell\a", style(t, "Liberation Sans", 10))
	require.Equal(t, []rune{'\a'}, b.Missing)
	b.Set("tab\tand\r\nreturn", style(t, "Liberation Sans", 10))
	require.Empty(t, b.Missing)
	require.Len(t, b.Lines, 2)
	b.Set("", style(t, "Liberation Sans", 10))
	require.Zero(t, b.Height)
}

// Hebrew and Arabic come from the stand-in face, from right to left, joined.
func TestRightToLeft(t *testing.T) {
	s := style(t, "Liberation Mono", 10)
	var apart, word, mixed typeset.Block
	apart.Set("ع", s)
	word.Set("عع", s)
	require.Empty(t, word.Missing)
	require.NotEqual(t, apart.Glyphs[0].ID, word.Glyphs[0].ID, "letters join")

	mixed.Set("אב 12", s)
	require.Len(t, mixed.Glyphs, 5)
	var digits typeset.Block
	digits.Set("1", s)
	leftmost := mixed.Glyphs[0]
	for _, g := range mixed.Glyphs {
		if g.X < leftmost.X {
			leftmost = g
		}
	}
	require.Equal(t, digits.Glyphs[0].ID, leftmost.ID, "the number, read last, stands leftmost")
}

func TestMaskTurnsDotForDot(t *testing.T) {
	s := style(t, "Liberation Sans", 12)
	var b typeset.Block
	b.Set("R", s)
	upright := s.Face.Mask(b.Glyphs[0].ID, s.PerEm, 0)
	turned := s.Face.Mask(b.Glyphs[0].ID, s.PerEm, 180)
	rows, back := strings.Split(dots(upright), "\n"), strings.Split(dots(turned), "\n")
	for i, row := range rows {
		mirrored := []byte(back[len(rows)-1-i])
		for left, right := 0, len(mirrored)-1; left < right; left, right = left+1, right-1 {
			mirrored[left], mirrored[right] = mirrored[right], mirrored[left]
		}
		require.Equal(t, row, string(mirrored))
	}
	require.Equal(t, -upright.X-upright.Width, turned.X)
	require.Equal(t, -upright.Y-upright.Height, turned.Y)
	sideways := s.Face.Mask(b.Glyphs[0].ID, s.PerEm, 90)
	require.Equal(t, []int{upright.Height, upright.Width, upright.X},
		[]int{sideways.Width, sideways.Height, sideways.Y})
}

func TestFaceServesManyAtOnce(t *testing.T) {
	s := style(t, "DejaVu Sans Condensed", 9)
	var want typeset.Block
	want.Set("Sugar kelp, שלום", s)
	var group sync.WaitGroup
	for range 8 {
		group.Go(func() {
			var b typeset.Block
			for range 50 {
				b.Set("Sugar kelp, שלום", s)
				if len(b.Glyphs) != len(want.Glyphs) || b.Width != want.Width {
					t.Errorf("set differently beside others")
				}
				for _, g := range b.Glyphs {
					g.Face.Mask(g.ID, s.PerEm, 90)
				}
			}
		})
	}
	group.Wait()
}

func BenchmarkSetTwentyLetters(b *testing.B) {
	s := style(b, "Liberation Sans", 10)
	var block typeset.Block
	for b.Loop() {
		block.Set("Sugar kelp, flaked 7", s)
	}
}

func dots(m *typeset.Mask) string {
	rows := make([]string, m.Height)
	for y := range rows {
		row := make([]byte, m.Width)
		for x := range row {
			row[x] = " #"[m.Bits[y*m.Stride+x/64]>>(63-x%64)&1]
		}
		rows[y] = string(row)
	}
	return strings.Join(rows, "\n")
}

func ExampleFace_Mask() {
	face, _ := typeset.Find("Liberation Sans", true, false)
	perEm := measure.DotsPerMillimetre(8).PerEm(5)
	var block typeset.Block
	block.Set("A", typeset.Style{Face: face, PerEm: perEm})
	for _, row := range strings.Split(dots(face.Mask(block.Glyphs[0].ID, perEm, 0)), "\n") {
		fmt.Println("|" + row + "|")
	}
	// Output:
	// |    ##    |
	// |   ####   |
	// |   ####   |
	// |   ## #   |
	// |  ##  ##  |
	// |  ##  ##  |
	// |  ####### |
	// | ######## |
	// | ##    ## |
	// | ##     ##|
	// |          |
}

// Tracking adds as much between every two letters, and nothing before the first or on a mark.
func TestTrackingIsBetweenLetters(t *testing.T) {
	s := style(t, "Liberation Sans", 20)
	var plain, tracked typeset.Block
	for _, text := range []string{"KELP", "Wrack 04", "e\u0301te"} {
		plain.Set(text, s)
		wide := s
		wide.Tracking = 10
		tracked.Set(text, wide)
		em := float64(s.PerEm) / 64
		gaps := float64(len([]rune(strings.ReplaceAll(text, "\u0301", ""))) - 1)
		require.InDelta(t, em/10*gaps, tracked.Width-plain.Width, 1, text)
		require.Equal(t, plain.Glyphs[0], tracked.Glyphs[0])
	}
	hebrew := s
	hebrew.Tracking = 10
	plain.Set("אבג", s)
	tracked.Set("אבג", hebrew)
	require.Equal(t, plain.Width, tracked.Width, "letters that may join stay together")
}

// Justified lines end where the box does, but for a paragraph's last; no glyph moves back.
func TestJustifiedLinesReachBothEdges(t *testing.T) {
	s := style(t, "Liberation Serif", 10)
	s.Width, s.Justify = 240, true
	var b typeset.Block
	b.Set("Dulse is rinsed in brine, hung on racks and dried for three days.\nThen it is milled.", s)
	require.Greater(t, len(b.Lines), 3)
	full := 0
	for _, line := range b.Lines {
		require.LessOrEqual(t, line.Width, s.Width)
		if line.Width == s.Width {
			full++
		}
		for i := line.From + 1; i < line.To; i++ {
			require.Greater(t, b.Glyphs[i].X, b.Glyphs[i-1].X)
		}
	}
	require.Equal(t, len(b.Lines)-2, full)
}

// Spans that share a face set a text as one does without them, wherever it is cut into lines.
func TestSpansOfOneFaceChangeNothing(t *testing.T) {
	s := style(t, "Liberation Mono", 10)
	s.Width = 200
	text := "Rack 12, bay 4\nkelp meal 25 kg in paper bags"
	var whole, cut typeset.Block
	whole.Set(text, s)
	for at := 1; at < len(text); at += 5 {
		spans := s
		spans.Spans = []typeset.Span{{To: at, Face: s.Face}, {To: len(text), Face: s.Face}}
		cut.Set(text, spans)
		require.Equal(t, whole.Glyphs, cut.Glyphs, at)
		require.Equal(t, whole.Lines, cut.Lines, at)
	}
}

// A font file that is brought in is named as it names itself, and what is broken, or may not be embedded, is refused in
// words.
func TestFontFilesAreInspected(t *testing.T) {
	var file []byte
	for _, f := range typeset.Files() {
		if f.Family == "Liberation Serif" && f.Bold && f.Italic {
			file = f.Data()
		}
	}
	f, rights, err := typeset.Inspect(file)
	require.NoError(t, err)
	require.Equal(t, "Liberation Serif", f.Family)
	require.True(t, f.Bold && f.Italic)
	require.Len(t, f.Hash, 64)
	require.Contains(t, []typeset.Rights{typeset.Installable, typeset.Editable}, rights)

	// fsType lies 8 bytes into OS/2, whose place the table directory has (OpenType, 4.3).
	locked := bytes.Clone(file)
	for i := 12; ; i += 16 {
		if string(locked[i:i+4]) == "OS/2" {
			at := int(binary.BigEndian.Uint32(locked[i+8:]))
			binary.BigEndian.PutUint16(locked[at+8:], 2)
			break
		}
	}
	_, _, err = typeset.Inspect(locked)
	require.ErrorContains(t, err, "does not allow it to be embedded")
	for _, bad := range [][]byte{nil, []byte("kelp"), file[:200], file[:len(file)/2]} {
		_, _, err := typeset.Inspect(bad)
		var told *refusal.Error
		require.ErrorAs(t, err, &told)
	}
}

// A family that is not known is asked for once more where there is a source, and a style that it lacks is the nearest
// it has.
func TestFamiliesComeFromASource(t *testing.T) {
	file := typeset.Files()[0]
	asked := 0
	typeset.SetSource(func(family string) {
		if asked++; family == "Drying Hall" {
			typeset.Register(typeset.File{Family: family, Bold: true, Data: file.Data})
		}
	})
	t.Cleanup(func() { typeset.SetSource(nil) })
	_, err := typeset.Find("Nowhere", false, false)
	require.Equal(t, &typeset.FamilyError{Family: "Nowhere"}, err)
	face, err := typeset.Find("Drying Hall", false, true)
	require.NoError(t, err)
	require.NotNil(t, face)
	_, err = typeset.Find("Drying Hall", true, false)
	require.NoError(t, err)
	require.Equal(t, 2, asked)
}
