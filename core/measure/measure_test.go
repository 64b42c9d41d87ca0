package measure_test

import (
	"encoding/json"
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
)

// The page reads what is typed as well, and is held to the same table (e2e/tests/plain.spec.ts).
func TestParseTakesWhatPeopleType(t *testing.T) {
	data, err := os.ReadFile("testdata/typed.json")
	require.NoError(t, err)
	var typed map[string]*measure.Length
	require.NoError(t, json.Unmarshal(data, &typed))
	require.Greater(t, len(typed), 40)
	for text, want := range typed {
		got, err := measure.Parse(text, measure.UnitMillimetre)
		if want == nil {
			require.IsType(t, &measure.LengthError{}, err, text)
			continue
		}
		require.NoError(t, err, text)
		require.Equal(t, *want, got, text)
	}
	got, err := measure.Parse("2", measure.UnitInch)
	require.NoError(t, err)
	require.Equal(t, 2*measure.Inch, got)
}

func TestParseSaysWhatIsWrong(t *testing.T) {
	for text, reason := range map[string]string{
		"":           "a length is needed",
		"mm":         "a length is needed",
		"12 furlong": `"furlong" is not known`,
		"NaN":        "a length is needed",
		"1e5":        "not a number",
		"0x10":       "not a number",
		"1/0 in":     "not a number",
		"1.2.3":      "not a number",
		"100001 mm":  "more than 100 m",
	} {
		_, err := measure.Parse(text, measure.UnitMillimetre)
		var lengthError *measure.LengthError
		require.ErrorAs(t, err, &lengthError, text)
		require.Contains(t, lengthError.Reason, reason, text)
		require.Equal(t, text, lengthError.Text)
	}
}

// Every length that can be shown in thousandths comes back as it was.
func FuzzLengthRoundTrip(f *testing.F) {
	f.Add(int64(38_100))
	f.Add(int64(-1))
	f.Fuzz(func(t *testing.T, micrometres int64) {
		length := measure.Length(micrometres % int64(measure.Longest))
		back, err := measure.Parse(length.String(), measure.UnitInch)
		require.NoError(t, err)
		require.Equal(t, length, back)
	})
}

func TestDotsAreExact(t *testing.T) {
	eight, three := measure.DotsPerMillimetre(8), measure.DotsPerInch(300)
	require.Equal(t, 608, eight.Dots(76*measure.Millimetre))
	require.Equal(t, 304, eight.Dots(38*measure.Millimetre))
	require.Equal(t, 1200, three.Dots(4*measure.Inch))
	require.Equal(t, 3, eight.Dots(375))
	require.Equal(t, 1, eight.Dots(63), "half a dot and more is a dot")
	require.Equal(t, -1, eight.Dots(-63), "the same to the left")
	require.Equal(t, 2, eight.DotsDown(374))
	require.Equal(t, -3, eight.DotsDown(-374))
	require.Equal(t, measure.Length(375), eight.Length(3))
	require.Equal(t, measure.Length(85), three.Length(1))
	require.InDelta(t, 203.2, eight.PerInch(), 1e-9)
	require.InDelta(t, 11.811, three.PerMillimetre(), 1e-3)
	require.Equal(t, 3*64*100, measure.DotsPerInch(300).PerEm(72), "72 pt are an inch")
}

func TestResolutionIsReadAndWritten(t *testing.T) {
	for _, text := range []string{`"8 dots/mm"`, `"300 dpi"`} {
		var r measure.Resolution
		require.NoError(t, json.Unmarshal([]byte(text), &r))
		back, err := json.Marshal(r)
		require.NoError(t, err)
		require.Equal(t, text, string(back))
	}
	for _, text := range []string{`"8"`, `"0 dpi"`, `"-8 dots/mm"`, `"9999 dpi"`, `"fine"`, `""`} {
		var r measure.Resolution
		require.ErrorContains(t, json.Unmarshal([]byte(text), &r), "write it like", text)
	}
}

func TestTurnedBoxComesBackAfterFourTurns(t *testing.T) {
	x, y, w, h, frameW, frameH := 3, 5, 10, 4, 40, 20
	for range 4 {
		x, y, w, h = measure.Turn(90).Box(x, y, w, h, frameW, frameH)
		frameW, frameH = frameH, frameW
	}
	require.Equal(t, []int{3, 5, 10, 4}, []int{x, y, w, h})
	x, y, w, h = measure.Turn(270).Box(3, 5, 10, 4, 40, 20)
	require.Equal(t, []int{5, 27, 4, 10}, []int{x, y, w, h})
	require.Equal(t, measure.Turn(0), measure.Turn(270).Plus(90))
}

func ExampleResolution_Dots() {
	wanted := 330 * measure.Micrometre // a module
	for _, r := range []measure.Resolution{measure.DotsPerMillimetre(8), measure.DotsPerInch(300)} {
		dots := r.Dots(wanted)
		fmt.Println(r, dots, "dots", r.Length(dots))
	}
	// Output:
	// 8 dots/mm 3 dots 0.375 mm
	// 300 dpi 4 dots 0.339 mm
}
