package symbology_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/symbology"
)

// Letters of western Europe say that they are, where that makes the symbol no larger; otherwise it is known that
// readers guess.
func TestWesternLettersAreTold(t *testing.T) {
	guessed, told := 0, 0
	for _, text := range []string{"5 °C", "12 m²", "40 µm", "½ kg", "ÅÄÖ", "Größe 42", "señal", "café crème", "Ø 60 mm",
		"±0,5 °C", "© Brinewick", "Sjøtang, tørket, 5 kg"} {
		for _, id := range []symbology.ID{symbology.DataMatrix, symbology.Aztec, symbology.PDF417,
			symbology.MicroPDF417} {
			var s, plain symbology.Symbol
			require.NoError(t, s.Encode(id, text, symbology.Options{}), text)
			bytes := ""
			for _, r := range text {
				bytes += string(r)
			}
			require.NoError(t, plain.Encode(id, bytes, symbology.Options{Bytes: true}), text)
			require.Equal(t, []int{plain.Matrix.Width, plain.Matrix.Height}, []int{s.Matrix.Width, s.Matrix.Height},
				"%s of %q is no larger for it", id, text)
			if s.Guessed {
				require.Equal(t, plain.Matrix.Dark, s.Matrix.Dark, "as before")
				guessed++
			} else {
				require.NotEqual(t, plain.Matrix.Dark, s.Matrix.Dark)
				told++
			}
			require.Equal(t, text, s.Reads)
		}
	}
	require.Positive(t, told)
	require.Positive(t, guessed)
	// A person can choose: told, though it is larger, or plain, where all readers know.
	for letters, guesses := range map[symbology.Letters]bool{symbology.LettersAsSuits: true,
		symbology.LettersTold: false, symbology.LettersPlain: false} {
		var s symbology.Symbol
		require.NoError(t, s.Encode(symbology.DataMatrix, "40 µm", symbology.Options{Letters: letters}))
		require.Equal(t, guesses, s.Guessed, letters)
	}
	var micro symbology.Symbol
	require.NoError(t, micro.Encode(symbology.MicroQR, "5 °C", symbology.Options{}))
	require.True(t, micro.Guessed, "it has no ECI")
	for id, text := range map[symbology.ID]string{symbology.DataMatrix: "5 C", symbology.QR: "5 °C",
		symbology.Aztec: "昆布", symbology.Code128: "5 C"} {
		var s symbology.Symbol
		require.NoError(t, s.Encode(id, text, symbology.Options{}))
		require.False(t, s.Guessed, "%s of %q", id, text)
	}
	var s symbology.Symbol
	require.NoError(t, s.Encode(symbology.DataMatrix, "5 °C", symbology.Options{Bytes: true}))
	require.False(t, s.Guessed, "bytes are bytes")
}

// What a symbology does not have is refused, not dropped.
func TestChoicesThatASymbologyLacksAreRefused(t *testing.T) {
	var s symbology.Symbol
	for _, test := range []struct {
		id      symbology.ID
		data    string
		options symbology.Options
		says    string
	}{
		{symbology.Code128, "1", symbology.Options{Level: "M"}, "no option “level”"},
		{symbology.Code128, "1", symbology.Options{Ratio: 3}, "no option “ratio”"},
		{symbology.EAN13, "9521234543213", symbology.Options{Check: true}, "no option “check”"},
		{symbology.QR, "1", symbology.Options{Shape: "square"}, "no option “shape”"},
		{symbology.DataMatrix, "1", symbology.Options{Version: "5"}, "no option “version”"},
		{symbology.QR, "1", symbology.Options{Form: "compact"}, "no option “form”"},
		{symbology.Aztec, "1", symbology.Options{Columns: 3}, "no option “columns”"},
		{symbology.Code39, "1", symbology.Options{Host: "https://id.example"}, "no option “host”"},
		{symbology.QR, "1", symbology.Options{Letters: symbology.LettersTold}, "no option “letters”"},
		{symbology.DataMatrix, "1", symbology.Options{Size: "24x24", Shape: "rectangle"},
			"Leave out its size or its shape"},
		{symbology.DataMatrix, strings.Repeat("kelp", 30), symbology.Options{Size: "12x12"}, "holds 5 words"},
		{symbology.Code39, "1", symbology.Options{Ratio: 1.9}, "2 to 3, not 1.9"},
		{symbology.Code39, "1", symbology.Options{Ratio: 3.1}, "2 to 3, not 3.1"},
	} {
		require.ErrorContains(t, s.Encode(test.id, test.data, test.options), test.says, "%+v", test)
	}
	require.NoError(t, s.Encode(symbology.QR, strings.Repeat("7", 7089), symbology.Options{Level: "L"}),
		"as many digits as the largest holds")
}
