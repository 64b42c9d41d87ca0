package symbology_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/oned"
	"github.com/stretchr/testify/require"

	"oddspool/core/symbology"
)

// read decodes a symbol's modules with a reader that shares nothing with the encoder.
func read(t testing.TB, s *symbology.Symbol) string {
	bits := gozxing.NewBitArray(s.QuietBefore + s.Modules() + s.QuietAfter)
	at := s.QuietBefore
	for i, width := range s.Widths {
		for range width {
			if i%2 == 0 {
				bits.Set(at)
			}
			at++
		}
	}
	row := oned.NewCode128Reader().(interface {
		DecodeRow(int, *gozxing.BitArray, map[gozxing.DecodeHintType]interface{}) (*gozxing.Result, error)
	})
	result, err := row.DecodeRow(0, bits, nil)
	require.NoError(t, err)
	return result.GetText()
}

func TestCode128SaysWhatWasMeant(t *testing.T) {
	var s symbology.Symbol
	for c := range 128 {
		for _, around := range []string{"%c", "12%c34", "a%cB", "\t%c\t", "0123%c"} {
			text := fmt.Sprintf(around, c)
			require.NoError(t, s.Encode(symbology.Code128, text, symbology.Options{}))
			require.Equal(t, text, read(t, &s))
		}
	}
	for n := range 100 {
		text := fmt.Sprintf("%02d%02d", n, 99-n)
		require.NoError(t, s.Encode(symbology.Code128, text, symbology.Options{}))
		require.Equal(t, text, read(t, &s))
	}
	require.Equal(t, 10, s.QuietBefore)
	require.Equal(t, 10, s.QuietAfter)
}

// The hand-checked lengths of annex E of the standard: C from four digits at an end, six within.
func TestCode128LengthsCheckedByHand(t *testing.T) {
	for text, characters := range map[string]int{ // start, check and stop included
		"12":         4,  // C
		"123":        6,  // B, or C and a switch: as long
		"1234":       5,  // C
		"ab1234":     8,  // B ab C 12 34
		"ab1234cd":   11, // a switch and back costs what two pairs save
		"ab123456cd": 12, // B ab C 12 34 56 B cd
		"a\x01b":     7,  // B a shift SOH b
		"a\x01\x02b": 9,  // two shifts, or a switch and one shift: as long
		"952N0307B":  12, // B 952N C 03 07 B B, or all in B: as long
		"26K104":     9,
	} {
		var s symbology.Symbol
		require.NoError(t, s.Encode(symbology.Code128, text, symbology.Options{}))
		require.Equal(t, characters*11+2, s.Modules(), text)
	}
}

// The encoder must never take more characters than trying every choice of sets does.
func TestCode128IsAsShortAsBruteForce(t *testing.T) {
	letters := []byte("0011223aA\x02")
	random := rand.New(rand.NewPCG(3, 4))
	var s symbology.Symbol
	for range 2000 {
		text := make([]byte, 1+random.IntN(9))
		for i := range text {
			text[i] = letters[random.IntN(len(letters))]
		}
		shortest := min(bruteForce(string(text), 'A'), bruteForce(string(text), 'B'), bruteForce(string(text), 'C'))
		require.NoError(t, s.Encode(symbology.Code128, string(text), symbology.Options{}))
		require.Equal(t, (shortest+3)*11+2, s.Modules(), "%q", text)
		require.Equal(t, string(text), read(t, &s))
	}
}

// bruteForce tries every way on: characters for text when set is in force.
func bruteForce(text string, set byte) int {
	if text == "" {
		return 0
	}
	const never = 1 << 20
	one := func(set byte) int {
		switch {
		case set == 'C' && len(text) > 1 && digit(text[0]) && digit(text[1]):
			return 1 + bruteForce(text[2:], 'C')
		case set == 'A' && text[0] < 96 || set == 'B' && text[0] >= 32:
			return 1 + bruteForce(text[1:], set)
		case set != 'C': // shifted
			return 2 + bruteForce(text[1:], set)
		}
		return never
	}
	return min(one(set), 1+min(one('A'), one('B'), one('C')))
}

func digit(c byte) bool { return c >= '0' && c <= '9' }

func TestCode128RefusesInWords(t *testing.T) {
	var s symbology.Symbol
	for text, want := range map[string]symbology.DataError{
		"":                       {Position: 0, Reason: "needs at least one character"},
		"R昆alge":                 {Position: 2, Reason: "“昆” (character 2) is not in Code 128"},
		"a\xffb":                 {Position: 2, Reason: "What is no valid text (character 2) is not in Code 128"},
		strings.Repeat("x", 129): {Position: 0, Reason: "129 characters are too many"},
	} {
		err := s.Encode(symbology.Code128, text, symbology.Options{})
		var dataError *symbology.DataError
		require.ErrorAs(t, err, &dataError)
		require.Equal(t, want.Position, dataError.Position)
		require.Contains(t, dataError.Reason, want.Reason)
		require.Empty(t, s.Widths)
	}
	require.Equal(t, &symbology.UnknownError{ID: "runes"}, s.Encode("runes", "1", symbology.Options{}))
	require.ErrorContains(t, symbology.Known("runes"), `"runes" is not known`)
	require.NoError(t, symbology.Known(symbology.Code128))
}

func TestReadableTextHidesControlCharacters(t *testing.T) {
	var s symbology.Symbol
	require.NoError(t, s.Encode(symbology.Code128, "A\x1dB", symbology.Options{}))
	require.Equal(t, "A B", s.Text)
}

func FuzzCode128(f *testing.F) {
	f.Add("952N0307B")
	f.Add("\x00\x7f00")
	f.Fuzz(func(t *testing.T, text string) {
		var s symbology.Symbol
		if err := s.Encode(symbology.Code128, text, symbology.Options{}); err != nil {
			require.IsType(t, &symbology.DataError{}, err)
			return
		}
		require.Equal(t, text, read(t, &s))
	})
}

func BenchmarkCode128FourteenCharacters(b *testing.B) {
	var s symbology.Symbol
	b.ReportAllocs()
	for b.Loop() {
		_ = s.Encode(symbology.Code128, "952N0307B-0418", symbology.Options{})
	}
}

func ExampleSymbol_Encode() {
	var s symbology.Symbol
	err := s.Encode(symbology.Code128, "26K104", symbology.Options{})
	fmt.Println(s.Modules(), "modules,", s.QuietBefore+s.Modules()+s.QuietAfter, "with quiet zones", err)
	// Output: 101 modules, 121 with quiet zones <nil>
}

// The plain search for any bytes finds as few symbol characters as the quick one for ASCII, and what it
// writes of the upper half says so, read by the rules of the standard.
func TestCode128OfAnyBytes(t *testing.T) {
	random := rand.New(rand.NewPCG(4, 4))
	for _, sets := range []string{"09azAZ\x00\x1f~ ", "09az\xe5\xff\x80\x9f", "\xe5\xf8\xc5", "0123456789\xe5"} {
		for range 300 {
			text := make([]byte, 1+random.IntN(24))
			for i := range text {
				text[i] = sets[random.IntN(len(sets))]
			}
			values := symbology.AppendCode128Latin(nil, string(text))
			if !strings.ContainsFunc(string(text), func(r rune) bool { return r >= 0x80 }) {
				require.Len(t, values, len(symbology.AppendCode128(nil, string(text))), "%q", text)
			}
			require.Equal(t, string(text), decode128(values), "%q %v", text, values)
		}
	}
	var s symbology.Symbol
	require.NoError(t, s.Encode(symbology.Code128, "Rødalge", symbology.Options{}))
	require.Equal(t, "Rødalge", s.Reads)
	require.NoError(t, s.Encode(symbology.DataMatrix, "\u00c3\u00a5\x00", symbology.Options{Bytes: true}))
	require.Equal(t, "\u00c3\u00a5\x00", s.Reads)
	require.ErrorContains(t, s.Encode(symbology.QR, "a昆", symbology.Options{Bytes: true}),
		"“昆” (character 2) is no byte")
}

// decode128 reads symbol characters (ISO/IEC 15417, table 1 and 4.3.4.2).
func decode128(values []uint8) string {
	set, upper, once, shifted := "ABC"[values[0]-103], false, false, byte(0)
	var text []byte
	for _, v := range values[1:] {
		now := set
		if shifted != 0 {
			now, shifted = shifted, 0
		}
		if now == 'C' && v < 100 {
			text = append(text, '0'+v/10, '0'+v%10)
			continue
		}
		switch {
		case v < 96:
			c := v + 32
			if now == 'A' && v >= 64 {
				c = v - 64
			}
			if upper != once {
				c += 128
			}
			once = false
			text = append(text, c)
		case v == 98:
			shifted = 'A' + 'B' - now
		case v == 99:
			set = 'C'
		case now == 'A' && v == 101, now == 'B' && v == 100: // FNC4
			if once {
				upper, once = !upper, false
			} else {
				once = true
			}
		case v == 100:
			set = 'B'
		case v == 101:
			set = 'A'
		}
	}
	return string(text)
}
