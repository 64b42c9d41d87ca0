package decode_test

import (
	"fmt"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/require"

	"oddspool/core/decode"
	"oddspool/core/symbology"
)

// A battery for all symbologies: whatever goes in comes out, or is refused with a reason.

// Any bytes give a symbol that says them, or an error that says which symbology, why and where.
func FuzzEveryCode(f *testing.F) {
	guides := symbology.All()
	for _, text := range []string{"KELP", "952123454321", "(01)09521234543213(10)26K104", "(91)a1B2-3", "\xff\x00",
		"海苔", "A12-B", "Tång 7", "https://id.brinewick.example/01/09521234543213", "9521234543213 52"} {
		for which := range uint8(len(guides)) {
			f.Add(text, which)
		}
	}
	f.Fuzz(func(t *testing.T, text string, which uint8) {
		guide := guides[int(which)%len(guides)]
		options := symbology.Options{Check: which > 100}
		if guide.ID == symbology.Pharmacode || guide.ID == symbology.Code39 && len(text) == 1 {
			return // so short that another reading of the same bars is as good
		}
		var s symbology.Symbol
		if err := s.Encode(guide.ID, text, options); err != nil {
			var data *symbology.DataError
			require.ErrorAs(t, err, &data)
			require.NotEmpty(t, data.Reason)
			require.LessOrEqual(t, data.Position, len(text)+1)
			require.Zero(t, s.Modules())
			return
		}
		got, err := read(guide.ID, &s)
		require.NoError(t, err, "%s %q", guide.ID, text)
		want := s.Reads
		if _, addOn, has := strings.Cut(s.Text, " "); has && guide.AddOn {
			want += " " + addOn
		}
		require.True(t, got.Says(want), "%s %q: %q", guide.ID, want, got.Text)
	})
}

// What the standards say that a symbol holds at most, and no more.
func TestStackedCodesHoldWhatTheirStandardsSay(t *testing.T) {
	var s symbology.Symbol
	for _, test := range []struct {
		id     symbology.ID
		letter string
		most   int
	}{{symbology.PDF417, "1", 2710}, {symbology.PDF417, "A", 1850}, {symbology.PDF417, "\xff", 1108},
		{symbology.MicroPDF417, "1", 366},
		{symbology.MicroPDF417, "A", 250}, {symbology.MicroPDF417, "\xff", 150}, {symbology.RMQR, "1", 361},
		{symbology.RMQR, "A", 219}, {symbology.RMQR, "\xff", 150}, {symbology.RMQR, "昆", 92}} {
		text, options := strings.Repeat(test.letter, test.most), symbology.Options{}
		if test.id == symbology.PDF417 {
			options.Level = "0"
		}
		require.NoError(t, s.Encode(test.id, text, options), "%s holds %d × %q", test.id, test.most, test.letter)
		got, err := read(test.id, &s)
		require.NoError(t, err)
		require.True(t, got.Says(text))
		require.ErrorContains(t, s.Encode(test.id, text+strings.Repeat(test.letter, 5), options),
			"This is too much for one")
	}
}

// Aztec Code and Data Matrix are filled with a mixture in each of their sizes.
func TestEverySizeIsRead(t *testing.T) {
	const mixed = "Kelp 104; dulse, NORI: 0123456789 {berth}\x01\x1b. Tång "
	for id, least := range map[symbology.ID]int{symbology.Aztec: 33, symbology.DataMatrix: 24} {
		var s symbology.Symbol
		sizes := map[string]bool{}
		for n := 1; ; n += 1 + n/16 {
			text := string([]rune(strings.Repeat(mixed, n/40+1))[:n])
			if err := s.Encode(id, text, symbology.Options{}); err != nil {
				break
			}
			if size := fmt.Sprint(s.Matrix.Width, s.Matrix.Height); !sizes[size] {
				sizes[size] = true
				got, err := read(id, &s)
				require.NoError(t, err)
				require.True(t, got.Says(text), "%s %s", id, size)
			}
		}
		require.GreaterOrEqual(t, len(sizes), least, id)
	}
	for n := range 256 {
		var s symbology.Symbol
		require.NoError(t, s.Encode(symbology.Aztec, fmt.Sprint(n), symbology.Options{Form: "rune"}))
		got, err := decode.Aztec(modulesOf(&s))
		require.NoError(t, err)
		require.Equal(t, fmt.Sprintf("%03d", n), got.Text)
	}
}

// What is Latin, and what is not text at all, is told apart in messages.
func TestMessagesTellBytesFromText(t *testing.T) {
	for _, id := range []symbology.ID{symbology.QR, symbology.DataMatrix, symbology.Aztec, symbology.PDF417,
		symbology.RMQR, symbology.Code128} {
		for _, text := range []string{"Tång", "\u00c3\u00a5", "\x7f\x00A"} {
			var s symbology.Symbol
			require.NoError(t, s.Encode(id, text, symbology.Options{Bytes: true}))
			got, err := read(id, &s)
			require.NoError(t, err)
			require.True(t, got.Says(text), "%s %q: %q", id, text, got.Text)
			require.True(t, utf8.ValidString(got.Text))
		}
	}
}
