package symbology_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/makiuchi-d/gozxing"
	dmdecoder "github.com/makiuchi-d/gozxing/datamatrix/decoder"
	"github.com/makiuchi-d/gozxing/oned"
	qrdecoder "github.com/makiuchi-d/gozxing/qrcode/decoder"
	"github.com/stretchr/testify/require"

	"oddspool/core/check"
	"oddspool/core/gs1"
	"oddspool/core/symbology"
	"oddspool/internal/symbologytest"
)

// row turns a linear symbol into dots of so many a module, quiet zones included.
func row(s *symbology.Symbol, module int) *gozxing.BitArray {
	widths := s.AppendDots(nil, module, 0)
	bits := gozxing.NewBitArray(s.DotsWide(module) + 20*module)
	at := 10 * module
	for i, width := range widths {
		for range width {
			if i%2 == 0 {
				bits.Set(at)
			}
			at++
		}
	}
	return bits
}

type rowReader interface {
	DecodeRow(int, *gozxing.BitArray, map[gozxing.DecodeHintType]interface{}) (*gozxing.Result, error)
}

// said decodes a linear symbol with gozxing; ok is false where it has no reader.
func said(t testing.TB, id symbology.ID, s *symbology.Symbol) (text string, ok bool) {
	hints := map[gozxing.DecodeHintType]interface{}{}
	var reader interface{}
	switch id {
	case symbology.Code39, symbology.Code39Full:
		reader = oned.NewCode39Reader()
	case symbology.Code93:
		reader = oned.NewCode93Reader()
	case symbology.Codabar:
		reader = oned.NewCodaBarReader()
	case symbology.Interleaved, symbology.ITF14:
		hints[gozxing.DecodeHintType_ALLOWED_LENGTHS] = []int{len(s.Reads)}
		reader = oned.NewITFReader()
	case symbology.EAN13:
		reader = oned.NewEAN13Reader()
	case symbology.EAN8:
		reader = oned.NewEAN8Reader()
	case symbology.UPCA:
		reader = oned.NewUPCAReader()
	case symbology.UPCE:
		reader = oned.NewUPCEReader()
	default:
		return "", false
	}
	result, err := reader.(rowReader).DecodeRow(0, row(s, 4), hints)
	require.NoError(t, err, "%s %q", id, s.Reads)
	return result.GetText(), true
}

func TestLinearCodesSayWhatWasMeant(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 6))
	pick := func(letters string, n int) string {
		text := make([]byte, n)
		for i := range text {
			text[i] = letters[random.IntN(len(letters))]
		}
		return string(text)
	}
	ascii := make([]byte, 128)
	for i := range ascii {
		ascii[i] = byte(i)
	}
	const digits = "0123456789"
	data := map[symbology.ID]func() string{
		symbology.Code39: func() string {
			return pick("0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ-. $/+%",
				1+random.IntN(20))
		},
		symbology.Code39Full:  func() string { return pick(string(ascii), 1+random.IntN(12)) },
		symbology.Code93:      func() string { return pick(string(ascii), 1+random.IntN(20)) },
		symbology.Codabar:     func() string { return pick("0123456789-$:/.+", 3+random.IntN(20)) },
		symbology.Interleaved: func() string { return pick(digits, 6+2*random.IntN(20)) },
		symbology.ITF14:       func() string { return pick(digits, 13) },
		symbology.EAN13:       func() string { return pick(digits, 12) },
		symbology.EAN8:        func() string { return pick(digits, 7) },
		symbology.UPCA:        func() string { return pick(digits, 11) },
		symbology.UPCE:        func() string { return pick("01", 1) + pick(digits, 6) },
	}
	missing := map[symbology.ID]gs1.CheckDigit{symbology.ITF14: gs1.Missing, symbology.EAN13: gs1.Missing}
	var s symbology.Symbol
	for id, make := range data {
		for range 200 {
			text, ratio := make(), 0.0
			if symbology.Of(id).Has("ratio") {
				ratio = 2 + random.Float64()
			}
			require.NoError(t, s.Encode(id, text, symbology.Options{Ratio: ratio, CheckDigit: missing[id]}), "%s %q",
				id, text)
			got, _ := said(t, id, &s)
			require.Equal(t, s.Reads, got, "%s %q", id, text)
			require.Equal(t, 1, len(s.Widths)%2, "a symbol begins and ends with a bar")
		}
	}
}

// Lengths, values and check characters that the standards or their examples give.
func TestSymbolsCheckedByHand(t *testing.T) {
	for _, test := range []struct {
		id         symbology.ID
		text       string
		options    symbology.Options
		modules    int
		says, read string
	}{
		{symbology.EAN13, "952123454321", symbology.Options{}, 95, "9521234543213", "9521234543213"},
		{symbology.EAN13, "9521234543213 52", symbology.Options{}, 95 + 9 + 20, "9521234543213 52", "9521234543213"},
		{symbology.EAN13, "9521234543213+05200", symbology.Options{}, 95 + 9 + 47, "9521234543213 05200",
			"9521234543213"},
		{symbology.EAN8, "9521234", symbology.Options{}, 67, "95212340", "95212340"},
		{symbology.UPCA, "01234500006", symbology.Options{}, 95, "012345000065", "012345000065"},
		{symbology.UPCE, "012345000065", symbology.Options{}, 51, "01234565", "01234565"},
		{symbology.UPCE, "123456", symbology.Options{}, 51, "01234565", "01234565"},
		{symbology.ITF14, "1540014128876", symbology.Options{}, 0, "1 54 00141 28876 3", "15400141288763"},
		{symbology.Code39, "KELP", symbology.Options{Check: true}, 0, "KELP.", "KELP."},
		{symbology.Interleaved, "123", symbology.Options{Check: true}, 0, "1236", "1236"},
		{symbology.Code11, "123-45", symbology.Options{Check: true}, 0, "123-455", "123-455"},
		{symbology.MSI, "1234567", symbology.Options{Check: true}, 0, "12345674", "12345674"},
		{symbology.Pharmacode, "1234", symbology.Options{}, 0, "1234", "1234"},
		{symbology.Codabar, "A123B", symbology.Options{}, 0, "123", "123"},
	} {
		var s symbology.Symbol
		require.NoError(t, s.Encode(test.id, test.text, test.options), test.text)
		if test.modules > 0 {
			require.Equal(t, test.modules, s.Modules(), "%s %s", test.id, test.text)
		}
		require.Equal(t, []string{test.says, test.read}, []string{s.Text, s.Reads}, test.id)
	}
}

// Pharmacode and the other codes without a reader at hand are decoded here, by their definitions.
func TestCodesWithoutAReaderAreDecoded(t *testing.T) {
	var s symbology.Symbol
	for _, n := range []int{3, 4, 5, 17, 64, 1234, 77_777, 131_070} {
		require.NoError(t, s.Encode(symbology.Pharmacode, fmt.Sprint(n), symbology.Options{}))
		value, weight := 0, 1
		for i := len(s.Widths) - 1; i >= 0; i -= 2 {
			if s.Widths[i] == 3 {
				value += 2 * weight
			} else {
				value += weight
			}
			weight *= 2
		}
		require.Equal(t, n, value)
	}
	for _, digits := range []string{"0", "9", "0123456789", "86420"} {
		require.NoError(t, s.Encode(symbology.MSI, digits, symbology.Options{}))
		var read strings.Builder
		for at := 2; at+8 <= len(s.Widths)-3; at += 8 {
			n := 0
			for bit := range 4 {
				n = n*2 + int(s.Widths[at+2*bit]) - 1
				require.Equal(t, uint8(3), s.Widths[at+2*bit]+s.Widths[at+2*bit+1])
			}
			read.WriteByte('0' + byte(n))
		}
		require.Equal(t, digits, read.String())
	}
	// Code 11: no two characters alike, and start and stop unlike all.
	seen := map[string]string{}
	for _, c := range "0123456789-" {
		require.NoError(t, s.Encode(symbology.Code11, string(c), symbology.Options{}))
		require.Equal(t, []uint8{1, 1, 2, 2, 1}, s.Widths[:5])
		pattern := fmt.Sprint(s.Widths[6:11])
		require.Empty(t, seen[pattern])
		require.NotEqual(t, fmt.Sprint(s.Widths[:5]), pattern)
		seen[pattern] = string(c)
	}
}

func TestCodesRefuseInWords(t *testing.T) {
	var s symbology.Symbol
	for _, test := range []struct {
		id   symbology.ID
		text string
		o    symbology.Options
		at   int
		want string
	}{
		{symbology.EAN13, "95212345432", symbology.Options{}, 0,
			"EAN-13 takes 12 or 13 digits, and 95212345432 has 11. With a 0 before it the check digit would be"},
		{symbology.EAN13, "9521234543210", symbology.Options{}, 13, "The check digit of 952123454321 is 3, not 0."},
		{symbology.EAN13, "9521234543213 521", symbology.Options{}, 15, "An add-on has 2 or 5 digits"},
		{symbology.EAN8, "9521Z34", symbology.Options{}, 5, "“Z” (character 5) is not in EAN-8"},
		{symbology.UPCE, "012345678905", symbology.Options{}, 0, "has no short form"},
		{symbology.UPCE, "7123456", symbology.Options{}, 1, "begins with 0 or 1"},
		{symbology.ITF14, "", symbology.Options{}, 0, "at least one digit"},
		{symbology.Interleaved, "123", symbology.Options{}, 0, "an even number of digits, and these are 3"},
		{symbology.Interleaved, strings.Repeat("12", 41), symbology.Options{}, 0, "82 digits are too many"},
		{symbology.Code39, "kelp", symbology.Options{}, 1, "“k” (character 1) is not in Code 39"},
		{symbology.Code39, "A*B", symbology.Options{}, 2, "“*” (character 2)"},
		{symbology.Code39, "", symbology.Options{}, 0, "at least one character"},
		{symbology.Code39Full, "tång", symbology.Options{}, 2, "“å” (character 2)"},
		{symbology.Code93, strings.Repeat("a", 60), symbology.Options{}, 0, "120 characters are too many"},
		{symbology.Codabar, "A1C2", symbology.Options{}, 1, "“A” (character 1) is not in Codabar"},
		{symbology.Codabar, "AB", symbology.Options{}, 0, "at least one character"},
		{symbology.Code11, "1\x002", symbology.Options{}, 2, "The control character U+0000"},
		{symbology.MSI, strings.Repeat("1", 61), symbology.Options{}, 0, "61 digits are too many"},
		{symbology.Pharmacode, "2", symbology.Options{}, 0, "from 3 to 131070"},
		{symbology.QR, "", symbology.Options{}, 0, "at least one character"},
		{symbology.QR, "x", symbology.Options{Level: "X"}, 0, "L, M, Q or H, not X"},
		{symbology.QR, strings.Repeat("x", 2954), symbology.Options{Level: "L"}, 0, "more than version 40 holds"},
		{symbology.DataMatrix, strings.Repeat("\x81\x02", 800), symbology.Options{}, 0, "too much for one Data Matrix"},
		{symbology.DataMatrix, strings.Repeat("a", 100), symbology.Options{Shape: "rectangle"}, 0,
			"rectangular Data Matrix"},
		{symbology.DataMatrix, "x", symbology.Options{Shape: "star"}, 0, "square or rectangle"},
		{symbology.Aztec, "x", symbology.Options{Level: "99"}, 0, "from 5 to 95"},
		{symbology.Aztec, strings.Repeat("x", 4001), symbology.Options{}, 0, "too many for Aztec Code"},
		{symbology.GS1Aztec, "26K104", symbology.Options{}, 1, "begins with an identifier in brackets"},
		{symbology.PDF417, "x", symbology.Options{Columns: 31}, 0, "from 1 to 30, not 31"},
		{symbology.PDF417, strings.Repeat("ab", 500), symbology.Options{Columns: 1}, 0, "PDF417 of one column"},
		{symbology.MicroPDF417, "x", symbology.Options{Columns: 5}, 0, "from 1 to 4, not 5"},
		{symbology.MicroPDF417, strings.Repeat("x", 260), symbology.Options{}, 0, "too much for one MicroPDF417"},
		{symbology.MicroPDF417, "", symbology.Options{}, 0, "at least one character"},
		{symbology.DataBarLimited, "29521234543217", symbology.Options{}, 0, "begins with 0 or 1"},
		{symbology.DataBarStacked, "(01)0952123454321X", symbology.Options{}, 18, "is not in GS1 DataBar Stacked"},
		{symbology.DataBarExpandedStacked, "(01)09521234543213(21)7", symbology.Options{Columns: 12}, 0,
			"from 1 to 11"},
		{symbology.DataBarExpanded, "(01)09521234543213(10)" + strings.Repeat("x", 20) + "(21)" + strings.Repeat("x",
			20), symbology.Options{}, 0, "too much for one GS1 DataBar Expanded"},
		{symbology.GS1LinkQR, "(01)09521234543213", symbology.Options{Host: "brinewick"}, 0,
			"no address that a link can begin with"},
		{symbology.GS1LinkQR, "kelp", symbology.Options{}, 0, "no web address"},
		{symbology.GS1LinkDataMatrix, "(10)26K104", symbology.Options{}, 0, "A link needs a key"},
		{symbology.PDF417, "x", symbology.Options{Level: "9"}, 0, "from 0 to 8"},
		{symbology.Code128, strings.Repeat("x", 9000), symbology.Options{}, 0, "too many for any code"},
		{symbology.GS1128, "9521234543213", symbology.Options{}, 1, "begins with an identifier in brackets"},
	} {
		err := s.Encode(test.id, test.text, test.o)
		var data *symbology.DataError
		require.ErrorAs(t, err, &data, "%s %q", test.id, test.text)
		require.Contains(t, data.Reason, test.want)
		require.Equal(t, test.at, data.Position, test.want)
		require.Empty(t, s.Widths)
		require.False(t, s.Is2D())
	}
}

// matrixOf turns a 2D symbol into what gozxing's decoders take.
func matrixOf(t testing.TB, s *symbology.Symbol) *gozxing.BitMatrix {
	bits, err := gozxing.NewBitMatrix(s.Matrix.Width, s.Matrix.Height)
	require.NoError(t, err)
	for y := range s.Matrix.Height {
		for x := range s.Matrix.Width {
			if s.Matrix.At(x, y) {
				bits.Set(x, y)
			}
		}
	}
	return bits
}

func readQR(t testing.TB, s *symbology.Symbol) string {
	result, err := qrdecoder.NewDecoder().Decode(matrixOf(t, s), nil)
	require.NoError(t, err)
	return result.GetText()
}

func TestQRSaysWhatWasMeant(t *testing.T) {
	var s symbology.Symbol
	for _, text := range []string{"1", "12345678901234567", "KELP 104", "https://brinewick.example/01/09521234543213",
		"Tång & Dulse, 海苔 №7",
		"a1B2c3D4 0123456789 ABCDEFGHIJ xyz", "点茗", "\x00\x01\x02", "0123456789ABCDEFabcdef0123456789",
		strings.Repeat("9", 7089)} {
		for _, level := range []string{"", "L", "M", "Q", "H"} {
			err := s.Encode(symbology.QR, text, symbology.Options{Level: level})
			if len(text) > 1000 && level != "L" {
				require.ErrorContains(t, err, "needs more than version 40 holds")
				continue
			}
			require.NoError(t, err, "%.40q %s", text, level)
			require.Equal(t, text, readQR(t, &s), "level %s", level)
		}
	}
}

// Every version and level is filled to the last word and read back.
func TestQRIsReadInEveryVersion(t *testing.T) {
	var s symbology.Symbol
	random := rand.New(rand.NewPCG(7, 7))
	for _, level := range []string{"L", "M", "Q", "H"} {
		versions := map[int]bool{}
		for n := 1; ; n += 1 + n/12 {
			text := make([]byte, n)
			for i := range text {
				text[i] = "abcdefghijklmnop"[random.IntN(16)]
			}
			if err := s.Encode(symbology.QR, string(text), symbology.Options{Level: level}); err != nil {
				break
			}
			if version := (s.Matrix.Width - 17) / 4; !versions[version] {
				versions[version] = true
				require.Equal(t, string(text), readQR(t, &s), "version %d, level %s", version, level)
			}
		}
		require.Greater(t, len(versions), 25, level)
	}
}

// Capacities of table 7 of the standard: what just fits, and what is one too many.
func TestQRHoldsWhatTheStandardSays(t *testing.T) {
	var s symbology.Symbol
	for _, test := range []struct {
		letter  string
		level   string
		version int
		most    int
	}{
		{"1", "L", 1, 41}, {"1", "M", 1, 34}, {"1", "Q", 1, 27}, {"1", "H", 1, 17}, {"A", "L", 1, 25},
		{"A", "H", 1, 10}, {"a", "L", 1, 17}, {"a", "M", 1, 14},
		{"1", "L", 10, 652}, {"A", "M", 10, 311}, {"a", "Q", 10, 151}, {"a", "H", 27, 625}, {"1", "M", 40, 5596},
		{"A", "L", 40, 4296}, {"a", "L", 40, 2953},
	} {
		require.NoError(t, s.Encode(symbology.QR, strings.Repeat(test.letter, test.most),
			symbology.Options{Level: test.level}))
		require.Equal(t, 17+4*test.version, s.Matrix.Width, "%+v", test)
		err := s.Encode(symbology.QR, strings.Repeat(test.letter, test.most+1), symbology.Options{Level: test.level})
		if test.version == 40 {
			require.ErrorContains(t, err, "needs more than version 40 holds")
		} else {
			require.Greater(t, s.Matrix.Width, 17+4*test.version, "%+v", test)
		}
	}
}

func readDM(t testing.TB, s *symbology.Symbol) string {
	result, err := dmdecoder.NewDecoder().Decode(matrixOf(t, s))
	require.NoError(t, err, "%d × %d", s.Matrix.Width, s.Matrix.Height)
	var text strings.Builder // gozxing gives some bytes of ISO/IEC 8859-1 as they are, and some as text
	for rest := result.GetText(); rest != ""; {
		r, size := utf8.DecodeRuneInString(rest)
		if r == utf8.RuneError && size == 1 {
			r = rune(rest[0])
		}
		text.WriteRune(r)
		rest = rest[size:]
	}
	return text.String()
}

func TestDataMatrixSaysWhatWasMeant(t *testing.T) {
	var s symbology.Symbol
	random := rand.New(rand.NewPCG(8, 8))
	letters := []string{"0123456789", "ABCDEFGHIJ 0123", "abcdefghij 0123", "AB*>\r 12", "AZ!?0,.;",
		"\x80\xe5\xf6\xff\x01", "abcABC012!\xe5"}
	for range 1500 {
		text := ""
		for range 1 + random.IntN(3) {
			set := letters[random.IntN(len(letters))]
			for range 1 + random.IntN(14) {
				c := set[random.IntN(len(set))]
				if c >= 0x80 && c < 0xA0 {
					c = 0xE5
				}
				text += string(rune(c))
			}
		}
		// this reader knows no ECI
		require.NoError(t, s.Encode(symbology.DataMatrix, text, symbology.Options{Letters: symbology.LettersPlain}),
			"%q", text)
		require.Equal(t, text, readDM(t, &s), "%q", text)
	}
}

// Every size of the standard comes out, filled, and is read.
func TestDataMatrixIsReadInEverySize(t *testing.T) {
	var s symbology.Symbol
	sizes := map[string]bool{}
	for _, shape := range []string{"square", "rectangle"} {
		for n := 1; n < 3117; n += 1 + n/20 {
			text := strings.Repeat("0", n)
			if err := s.Encode(symbology.DataMatrix, text, symbology.Options{Shape: shape}); err != nil {
				break
			}
			size := fmt.Sprintf("%d × %d", s.Matrix.Width, s.Matrix.Height)
			if !sizes[size] {
				sizes[size] = true
				require.Equal(t, text, readDM(t, &s), size)
			}
		}
	}
	require.Len(t, sizes, 30)
}

// The smallest symbol, against hand-checked sizes: the modes of the standard at their best.
func TestDataMatrixIsAsSmallAsItCanBe(t *testing.T) {
	var s symbology.Symbol
	for text, width := range map[string]int{
		"123456":                 10, // three words of two digits
		"ABC":                    10, // in ASCII; C40 would need four
		"ABCDEF":                 12, // C40, two words for three letters, and no unlatch: it fills the symbol
		"abcdefghijklm":          16,
		"ABCDEFGHIJKLMNOPQRSTUV": 18,
		strings.Repeat("1", 72):  24,
	} {
		require.NoError(t, s.Encode(symbology.DataMatrix, text, symbology.Options{Shape: "square"}))
		require.Equal(t, width, s.Matrix.Width, text)
		require.Equal(t, text, readDM(t, &s))
	}
}

func TestGS1DataIsWrittenInItsSymbols(t *testing.T) {
	var s symbology.Symbol
	for _, id := range []symbology.ID{symbology.GS1128, symbology.GS1DataMatrix, symbology.GS1QR} {
		require.NoError(t, s.Encode(id, "(10)26K104(01)09521234543213(21)00417", symbology.Options{}), id)
		require.Equal(t, "010952123454321310"+"26K104\x1d2100417", s.Reads, "fixed lengths first, one separator")
	}
	require.NoError(t, s.Encode(symbology.GS1DataMatrix, "(01)09521234543213(21)00417", symbology.Options{}))
	require.Equal(t, "\x1d010952123454321321"+"00417", readDM(t, &s), "gozxing gives the first FNC1 as GS")
	long := "(01)09521234543213(10)" + strings.Repeat("x", 20) + "(21)" + strings.Repeat("y", 20)
	require.ErrorContains(t, s.Encode(symbology.GS1128, long, symbology.Options{}), "it takes up to 48")
	require.NoError(t, s.Encode(symbology.GS1QR, long, symbology.Options{}))
	require.NoError(t, s.Encode(symbology.GS1DataMatrix, `(01)09521234543213(10)A1\(21\)7`, symbology.Options{}))
	require.Len(t, s.Elements, 2, "a value cannot forge an identifier")
	require.Equal(t, "010952123454321310A1(21)7", s.Reads)
	err := s.Encode(symbology.GS1DataMatrix, "(01)09521234543213(10)Tång", symbology.Options{})
	var data *symbology.DataError
	require.ErrorAs(t, err, &data)
	require.Equal(t, 24, data.Position)
	require.Equal(t, "GS1 DataMatrix", data.Symbology)
	require.NoError(t, s.Encode(symbology.EAN13, "952123454321", symbology.Options{}))
	require.Equal(t, "9521234543213", s.Elements[0].Value)
	require.NoError(t, s.Encode(symbology.DataBar, "9521234543213", symbology.Options{}))
	require.Equal(t, "09521234543213", s.Elements[0].Value)
}

func TestBarsAreMadeNarrower(t *testing.T) {
	var s symbology.Symbol
	require.NoError(t, s.Encode(symbology.Code128, "KELP", symbology.Options{}))
	plain, thin := s.AppendDots(nil, 4, 0), s.AppendDots(nil, 4, 1)
	sum := func(widths []uint16) (n int) {
		for _, w := range widths {
			n += int(w)
		}
		return n
	}
	require.Equal(t, sum(plain), sum(thin), "the symbol keeps its width")
	for i := range plain {
		if i%2 == 0 {
			require.Equal(t, plain[i]-1, thin[i])
		}
	}
	for _, w := range s.AppendDots(nil, 2, 9) {
		require.NotZero(t, w, "no bar vanishes")
	}
}

func TestEverySymbologyKeepsTheRules(t *testing.T) {
	seen := map[symbology.ID]bool{}
	for _, kind := range symbology.All() {
		require.False(t, seen[kind.ID])
		seen[kind.ID] = true
		require.NoError(t, symbology.Known(kind.ID))
		require.Equal(t, kind.Name, symbology.Name(kind.ID))
		t.Run(string(kind.ID), func(t *testing.T) { symbologytest.Run(t, kind) })
	}
}

func TestClonesShareNothing(t *testing.T) {
	var s symbology.Symbol
	require.NoError(t, s.Encode(symbology.DataMatrix, "KELP", symbology.Options{}))
	clone := s.Clone()
	require.NoError(t, s.Encode(symbology.EAN13, "952123454321", symbology.Options{}))
	require.Equal(t, "KELP", clone.Reads)
	require.True(t, clone.Is2D())
	require.False(t, s.Is2D())
}

func BenchmarkEncode(b *testing.B) {
	for _, bench := range []struct {
		id   symbology.ID
		text string
	}{{symbology.Code128, "952N0307B-0417"}, {symbology.QR, "https://brinewick.example/lot/26K104/417"},
		{symbology.DataMatrix, "952N0307B-0417 lot 26K104 2026"}} {
		b.Run(string(bench.id), func(b *testing.B) {
			var s symbology.Symbol
			b.ReportAllocs()
			for b.Loop() {
				_ = s.Encode(bench.id, bench.text, symbology.Options{})
			}
		})
	}
}

func TestLinksAreTheShortestAddresses(t *testing.T) {
	var s, plain symbology.Symbol
	for _, test := range []struct{ text, host, want string }{
		{"(01)09521234543213(10)26K104", "", "HTTPS://ID.GS1.ORG/01/09521234543213/10/26K104"},
		{"(01)09521234543213", "https://brinewick.example/Kelp", "HTTPS://BRINEWICK.EXAMPLE/Kelp/01/09521234543213"},
		{"https://brinewick.example/01/09521234543213?linkType=all", "",
			"HTTPS://BRINEWICK.EXAMPLE/01/09521234543213?linkType=all"},
		{"https://brinewick.example/01/09521234543213?x=1", "https://kelp.example",
			"HTTPS://KELP.EXAMPLE/01/09521234543213?x=1"},
	} {
		for _, id := range []symbology.ID{symbology.GS1LinkQR, symbology.GS1LinkDataMatrix} {
			require.NoError(t, s.Encode(id, test.text, symbology.Options{Host: test.host}), test.text)
			require.Equal(t, test.want, s.Reads)
			require.Equal(t, "09521234543213", s.Elements[0].Value)
		}
	}
	require.NoError(t, s.Encode(symbology.GS1LinkQR, "(01)09521234543213",
		symbology.Options{Host: "https://id.brinewick-kelp-works.example"}))
	require.NoError(t, plain.Encode(symbology.QR, strings.ToLower(s.Reads), symbology.Options{}))
	require.Less(t, s.Matrix.Width, plain.Matrix.Width, "capitals take fewer modules")
}

// Every character of DataBar has its modules: 16 outside, 15 inside, and no element none.
func TestDataBarHasItsModules(t *testing.T) {
	var s symbology.Symbol
	random := rand.New(rand.NewPCG(9, 9))
	for range 500 {
		text := fmt.Sprintf("%013d", random.Int64N(10_000_000_000_000))
		require.NoError(t, s.Encode(symbology.DataBar, "(01)"+text+string(check.GS1(text)), symbology.Options{}))
		require.Equal(t, 95, s.Modules(), text)
		require.Len(t, s.Widths, 45)
		require.NotContains(t, s.Widths, uint8(0))
	}
	require.NoError(t, s.Encode(symbology.DataBar, "952123454321", symbology.Options{CheckDigit: gs1.Missing}))
	require.Equal(t, "(01)09521234543213", s.Text)
	require.ErrorContains(t, s.Encode(symbology.DataBar, "(01)09521234543210", symbology.Options{}), "check digit")
}
