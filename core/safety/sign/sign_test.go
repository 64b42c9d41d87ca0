package sign_test

import (
	"fmt"
	"slices"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/sign"
	"oddspool/core/safety/symbols"
)

func TestHeightsFollowTheDistance(t *testing.T) {
	for _, test := range []struct {
		distance              float64
		light                 sign.Light
		sign, letters, signal float64
	}{
		{12, sign.Lit, 120, 40, 60}, {10, sign.Inside, 50, 33.4, 50}, {6, sign.Poor, 120, 41.7, 62.5},
		{0.5, sign.Lit, 5, 2.5, 3.8}, {7.62, sign.Lit, 76.2, 25.4, 38.1},
	} {
		h, err := sign.For(test.distance, test.light)
		require.NoError(t, err)
		require.Equal(t, []float64{test.sign, test.letters, test.signal}, []float64{h.Sign, h.Letters, h.Signal}, "%+v",
			test)
		require.GreaterOrEqual(t, sign.Distance(h.Sign, test.light), test.distance, "and back")
		require.GreaterOrEqual(t, sign.LetterDistance(h.Letters, test.light), test.distance-1e-9)
	}
	for _, distance := range []float64{0, -1, 2000} {
		_, err := sign.For(distance, sign.Lit)
		require.IsType(t, &refusal.Error{}, err)
	}
	_, err := sign.For(5, "dark")
	require.ErrorContains(t, err, "lit, inside and poor")
}

func TestKindsHaveTheirColours(t *testing.T) {
	want := map[string][2]string{"danger": {"red", "white"}, "warning": {"orange", "black"},
		"caution": {"yellow", "black"}, "notice": {"blue", "white"}, "safety": {"green", "white"}}
	require.Len(t, sign.Kinds, len(want))
	for _, kind := range sign.Kinds {
		require.Equal(t, want[kind.ID], [2]string{kind.Field, kind.Letters}, kind.ID)
		require.Len(t, kind.Words, 4)
		require.Equal(t, kind.ID == "danger" || kind.ID == "warning" || kind.ID == "caution", kind.Alert,
			"the alert symbol stands where people can be hurt")
	}
}

func TestReadyTextsAreWhole(t *testing.T) {
	texts := sign.Texts()
	require.GreaterOrEqual(t, len(texts), 40)
	for _, text := range texts {
		require.NotEmpty(t, text.Message)
		require.True(t, text.Kind == "" ||
			slices.ContainsFunc(sign.Kinds, func(k sign.Kind) bool { return k.ID == text.Kind }), "%+v", text)
		require.NotEmpty(t, text.Symbols, text.Message)
		for _, id := range text.Symbols {
			_, err := symbols.Find(id)
			require.NoError(t, err, text.Message)
		}
	}
}

func ExampleFor() {
	h, _ := sign.For(12, sign.Lit)
	fmt.Println(h.Sign, "mm high, letters of", h.Letters, "mm")
	// Output: 120 mm high, letters of 40 mm
}
