package decode_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/check"
	"oddspool/core/decode"
	"oddspool/core/symbology"
)

// modulesOf gives a symbol's matrix to a decoder.
func modulesOf(s *symbology.Symbol) *decode.Modules {
	return &decode.Modules{Width: s.Matrix.Width, Height: s.Matrix.Height, Dark: s.Matrix.Dark}
}

func widthsOf(s *symbology.Symbol) (widths []int) {
	for _, w := range s.Widths {
		widths = append(widths, int(w))
	}
	return widths
}

func read(id symbology.ID, s *symbology.Symbol) (decode.Message, error) {
	return symbology.Of(id).Read(s)
}

const (
	digits = "0123456789"
	upper  = digits + "ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:"
	ascii  = " !\"#$%&'()*+,-./0123456789:;<=>?@ABCDEFGHIJKLMNOPQRSTUVWXYZ[\\]^_`abcdefghijklmnopqrstuvwxyz{|}~"
)

type maker struct{ *rand.Rand }

func (m maker) of(letters string, n int) string {
	runes := []rune(letters)
	var text strings.Builder
	for range n {
		text.WriteRune(runes[m.IntN(len(runes))])
	}
	return text.String()
}

func (m maker) text(most int) (text string) {
	for range 1 + m.IntN(4) {
		set := []string{digits, upper, ascii, "äöüßéñ°½", "昆布海苔塩", "Морская", "\x00\x01\x1d\x1e\r\n"}[m.IntN(7)]
		text += m.of(set, 1+m.IntN(max(most/4, 1)))
	}
	return text
}

func (m maker) gtin(first string, n int) string {
	body := first + m.of(digits, n-1-len(first))
	return body + string(check.GS1(body))
}

func (m maker) elements() string {
	text := "(01)" + m.gtin("", 14)
	if m.IntN(3) == 0 {
		text = "(01)" + m.gtin("9", 14) + fmt.Sprintf("(310%d)%06d", m.IntN(6), m.IntN(200_000))
		if m.IntN(2) == 0 {
			return text
		}
		text += fmt.Sprintf("(1%d)26%02d%02d", 5+2*m.IntN(2), 1+m.IntN(12), 1+m.IntN(28))
	}
	text += "(10)" + m.of(check.Set82[:6]+check.Set82[8:], 1+m.IntN(8))
	if m.IntN(2) == 0 {
		text += "(21)" + m.of(digits, 1+m.IntN(9))
	}
	return text
}

// What each decoder reads is what was meant, of any data that its symbology holds. The encoders and the
// decoders share no tables but the patterns of PDF417.
func TestDecodersReadWhatWasMeant(t *testing.T) {
	m := maker{rand.New(rand.NewPCG(21, 22))}
	data := map[symbology.ID]func() (string, symbology.Options){
		symbology.Code128: func() (string, symbology.Options) {
			return m.of(ascii+"äöü\x01\x1f", 1+m.IntN(20)), symbology.Options{}
		},
		symbology.GS1128: func() (string, symbology.Options) { return m.elements(), symbology.Options{} },
		symbology.Code11: func() (string, symbology.Options) {
			return m.of(digits+"-", 1+m.IntN(12)), symbology.Options{Check: m.IntN(2) == 0}
		},
		symbology.MSI: func() (string, symbology.Options) {
			return m.of(digits, 1+m.IntN(12)), symbology.Options{Check: m.IntN(2) == 0}
		},
		symbology.Pharmacode: func() (string, symbology.Options) {
			return fmt.Sprint(3 + m.IntN(131_068)),
				symbology.Options{}
		},
		symbology.DataBar: func() (string, symbology.Options) {
			return m.gtin("", 14),
				symbology.Options{}
		},
		symbology.DataBarStacked: func() (string, symbology.Options) {
			return m.gtin("", 14),
				symbology.Options{}
		},
		symbology.DataBarStackedLow: func() (string, symbology.Options) {
			return m.gtin("", 14),
				symbology.Options{}
		},
		symbology.DataBarLimited: func() (string, symbology.Options) {
			return m.gtin(fmt.Sprint(m.IntN(2)), 14),
				symbology.Options{}
		},
		symbology.DataBarExpanded: func() (string, symbology.Options) {
			return m.elements(),
				symbology.Options{}
		},
		symbology.DataBarExpandedStacked: func() (string, symbology.Options) {
			return m.elements(),
				symbology.Options{Columns: m.IntN(6)}
		},
		symbology.PDF417: func() (string, symbology.Options) {
			return m.text(80), symbology.Options{Level: []string{"", "0", "5"}[m.IntN(3)], Columns: m.IntN(9)}
		},
		symbology.MicroPDF417: func() (string, symbology.Options) {
			return m.text(24),
				symbology.Options{Columns: m.IntN(5)}
		},
		symbology.MicroQR: func() (string, symbology.Options) {
			return m.text(8), symbology.Options{Level: []string{"", "L", "M", "Q"}[m.IntN(4)]}
		},
		symbology.RMQR: func() (string, symbology.Options) {
			return m.text(30), symbology.Options{Level: []string{"", "M", "H"}[m.IntN(3)]}
		},
	}
	for id, make := range data {
		held := 0
		var s symbology.Symbol
		for range 300 {
			text, options := make()
			if s.Encode(id, text, options) != nil {
				continue
			}
			held++
			got, err := read(id, &s)
			require.NoError(t, err, "%s %q %+v", id, text, options)
			require.True(t, got.Says(s.Reads), "%s %q %+v: %q", id, s.Reads, options, got.Text)
			if symbology.Of(id).GS1 {
				require.True(t, got.GS1, id)
			}
		}
		require.Greater(t, held, 60, id)
	}
}

// A module more or less is found, wherever it is: by a pattern, a check word or the text.
func TestDecodersFindWhatIsSpoiled(t *testing.T) {
	m := maker{rand.New(rand.NewPCG(23, 24))}
	for id, text := range map[symbology.ID]string{symbology.PDF417: "Kelp 104", symbology.MicroPDF417: "Kelp 104",
		symbology.MicroQR: "KELP-1", symbology.RMQR: "Kelp 104",
		symbology.DataBarStacked:         "09521234543213",
		symbology.DataBarExpandedStacked: "(01)99521234543216(3103)001750"} {
		var s symbology.Symbol
		require.NoError(t, s.Encode(id, text, symbology.Options{}))
		spoiled := 0
		for range 200 {
			modules := modulesOf(&s)
			i := m.IntN(len(modules.Dark))
			modules.Dark[i] = !modules.Dark[i]
			if got, err := read(id, &s); err != nil || !got.Says(s.Reads) {
				spoiled++
			}
			modules.Dark[i] = !modules.Dark[i]
		}
		require.Greater(t, spoiled, 120, "%s: what is left are modules of patterns that say nothing", id)
	}
	for id, text := range map[symbology.ID]string{symbology.Code128: "Kelp 104", symbology.DataBar: "09521234543213",
		symbology.DataBarLimited:  "09521234543213",
		symbology.DataBarExpanded: "(01)99521234543216(3103)001750"} {
		var s symbology.Symbol
		require.NoError(t, s.Encode(id, text, symbology.Options{}))
		for i := range len(s.Widths) - 1 {
			s.Widths[i], s.Widths[i+1] = s.Widths[i]+1, s.Widths[i+1]-1
			got, err := read(id, &s)
			require.False(t, err == nil && got.Says(s.Reads), "%s, width %d", id, i)
			s.Widths[i], s.Widths[i+1] = s.Widths[i]-1, s.Widths[i+1]+1
		}
	}
}

func TestAddOnsAreRead(t *testing.T) {
	m := maker{rand.New(rand.NewPCG(25, 26))}
	for range 200 {
		add := m.of(digits, []int{2, 5}[m.IntN(2)])
		var alone, with symbology.Symbol
		require.NoError(t, alone.Encode(symbology.EAN13, "9521234543213", symbology.Options{}))
		require.NoError(t, with.Encode(symbology.EAN13, "9521234543213 "+add, symbology.Options{}))
		got, err := decode.AddOn(widthsOf(&with)[len(alone.Widths)+1:])
		require.NoError(t, err)
		require.Equal(t, add, got)
	}
	_, err := decode.AddOn([]int{1, 1, 2})
	require.ErrorIs(t, err, decode.ErrPattern)
}

// Words are read that the standards print: the words of ISO/IEC 16022, annex O, of ISO/IEC 18004, annex I,
// and the modes of a Data Matrix one by one.
func TestWordsAreRead(t *testing.T) {
	for want, words := range map[string][]byte{
		"123456":                 {142, 164, 186},
		"Aa":                     {66, 98},
		"a\x1db":                 {98, 232, 99},
		"AIM":                    {230, 91, 11, 254},
		"[)>\x1e05\x1dA\x1e\x04": {236, 66},
		"\u00e5":                 {235, 102},
	} {
		got, err := decode.DataMatrixWords(words)
		require.NoError(t, err)
		require.Equal(t, want, got.Text, "%v", words)
	}
	got, err := decode.QRWords([]byte{0x10, 0x20, 0x0C, 0x56, 0x61, 0x80, 0xEC, 0x11, 0xEC, 0x11, 0xEC, 0x11, 0xEC,
		0x11, 0xEC, 0x11}, 1)
	require.NoError(t, err)
	require.Equal(t, "01234567", got.Text)
	_, err = decode.QRWords([]byte{0xF0}, 1)
	require.ErrorIs(t, err, decode.ErrData)
}

func ExamplePharmacode() {
	m, err := decode.Pharmacode([]int{1, 2, 3, 2, 1})
	fmt.Println(m.Text, err)
	// Output: 9 <nil>
}
