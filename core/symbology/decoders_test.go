package symbology

import (
	"fmt"
	"math/big"
	"slices"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/makiuchi-d/gozxing"
	aztecdecoder "github.com/makiuchi-d/gozxing/aztec/decoder"
	aztecdetector "github.com/makiuchi-d/gozxing/aztec/detector"
	dmdecoder "github.com/makiuchi-d/gozxing/datamatrix/decoder"
	"github.com/makiuchi-d/gozxing/oned"
	qrdecoder "github.com/makiuchi-d/gozxing/qrcode/decoder"
	"github.com/stretchr/testify/require"
)

// Decoders of the symbologies that no Go library reads, written from the other end: from modules to
// words, from words to text. They share only the table of patterns with the encoders.

// readPDF417 reads the words of a row of patterns.
func readPDF417(t testing.TB, m *Matrix, y, from, columns, cluster int) (words []int) {
	for column := range columns {
		bits := 0
		for i := range 17 {
			bits *= 2
			if m.At(from+17*column+i, y) {
				bits++
			}
		}
		word := slices.Index(pdf417Patterns[cluster][:], uint16(bits>>1&0x7FFF))
		require.GreaterOrEqual(t, word, 0, "row %d, column %d", y, column)
		words = append(words, word)
	}
	return words
}

// rightPDF417 tells whether the words are a multiple of the generator: each power of 3 is a root.
func rightPDF417(words []int, check int) bool {
	root := 1
	for range check {
		root = root * 3 % 929
		sum := 0
		for _, word := range words {
			sum = (sum*root + word) % 929
		}
		if sum != 0 {
			return false
		}
	}
	return true
}

// decodePDF417 reads text from words (ISO/IEC 15438, 5.4): the bytes, and whether they are UTF-8.
func decodePDF417(words []int) (data []byte, utf bool) {
	sets := [4]string{
		"ABCDEFGHIJKLMNOPQRSTUVWXYZ lmS", // l m S: latches to lower and mixed, shift to signs
		"abcdefghijklmnopqrstuvwxyz AmS", // A: shift to a capital
		"0123456789&\r\t,:#-.$/+%*=^p laS",
		";<>@[\\]_`~!\r\t,:\n-.$/\"|*()?{}'a",
	}
	set, back := 0, -1
	text := func(value int) {
		now := set
		if back >= 0 {
			set, back = back, -1
		}
		// Values from 25 on are latches and shifts, by set; letters that stand for them are met only there.
		switch {
		case now < 2 && value == 27 && now == 0, now == 2 && value == 27:
			set = 1
		case now == 1 && value == 27:
			back, set = set, 0
		case now < 2 && value == 28:
			set = 2
		case now < 3 && value == 29:
			back, set = set, 3
		case now == 2 && value == 25:
			set = 3
		case now == 2 && value == 28, now == 3 && value == 29:
			set = 0
		default:
			data = append(data, sets[now][value])
		}
	}
	for i := 0; i < len(words); {
		word := words[i]
		i++
		run := i
		for run < len(words) && words[run] < 900 {
			run++
		}
		switch word {
		case 900:
			set, back = 0, -1
		case 901, 924:
			set, back = 0, -1
			for run-i > 5 || word == 924 && run-i == 5 { // of others, up to five at the end are bytes
				value := 0
				for _, w := range words[i : i+5] {
					value = value*900 + w
				}
				for shift := 40; shift >= 0; shift -= 8 {
					data = append(data, byte(value>>shift))
				}
				i += 5
			}
			for ; i < run; i++ {
				data = append(data, byte(words[i]))
			}
		case 902:
			set, back = 0, -1
			for i < run {
				n := min(15, run-i)
				value := new(big.Int)
				for _, w := range words[i : i+n] {
					value.Add(value.Mul(value, big.NewInt(900)), big.NewInt(int64(w)))
				}
				data = append(data, value.String()[1:]...)
				i += n
			}
		case 913:
			if back >= 0 { // a shift before it only fills up (5.4.2.4)
				set, back = back, -1
			}
			data = append(data, byte(words[i]))
			i++
		case 927:
			utf = words[i] == 26
			i++
		default:
			text(word / 30)
			text(word % 30)
		}
	}
	return data, utf
}

// saidPDF417 reads a whole symbol of either kind.
func saidPDF417(t testing.TB, id ID, s *Symbol) string {
	m := &s.Matrix
	var words []int
	check := 0
	if id == PDF417 {
		columns := (m.Width - 69) / 17
		level := -1
		for y := range m.Height {
			left := readPDF417(t, m, y, 17, 1, y%3)[0]
			right := readPDF417(t, m, y, 17+17*(columns+1), 1, y%3)[0]
			require.Equal(t, y/3, left/30)
			require.Equal(t, y/3, right/30)
			switch y % 3 {
			case 0:
				require.Equal(t, (m.Height-1)/3, left%30)
				require.Equal(t, columns-1, right%30)
			case 1:
				require.Equal(t, (m.Height-1)%3, left%30%3)
				level = left % 30 / 3
				require.Equal(t, (m.Height-1)/3, right%30)
			}
			words = append(words, readPDF417(t, m, y, 34, columns, y%3)...)
		}
		check = 2 << level
		require.Equal(t, len(words)-check, words[0], "the length")
		require.True(t, rightPDF417(words, check))
		words = words[1:]
	} else {
		for _, size := range microPDFs {
			if size.wide() == m.Width && size.rows == m.Height {
				check = size.check
				for y := range m.Height {
					cluster := (size.left - 1 + y) % 3
					for column, x := range map[int][]int{1: {10}, 2: {10, 27}, 3: {10, 37, 54}, 4: {10, 27, 54, 71}}[size.columns] {
						require.Less(t, column, 4)
						words = append(words, readPDF417(t, m, y, x, 1, cluster)...)
					}
				}
			}
		}
		require.True(t, rightPDF417(words, check))
	}
	words = words[:len(words)-check]
	for len(words) > 0 && words[len(words)-1] == 900 {
		words = words[:len(words)-1]
	}
	data, utf := decodePDF417(words)
	if utf || !utf8.ValidString(s.Reads) {
		return string(data)
	}
	return latin(data)
}

func latin(data []byte) string {
	var text strings.Builder
	for _, b := range data {
		text.WriteRune(rune(b))
	}
	return text.String()
}

func TestPDF417IsReadWordByWord(t *testing.T) {
	var s Symbol
	for _, text := range []string{"K", "kelp", "Kelp 104; dulse & nori!", "\x00\x01\x02\x03\x04\x05", "1234567890123456789012345678901234567890123456789", "Tång", "海苔 104",
		"a\x1db\x1dc", "AB12cd34!?", strings.Repeat("\xff\xfe", 20)} {
		for _, id := range []ID{PDF417, MicroPDF417} {
			require.NoError(t, s.Encode(id, text, Options{}), "%q", text)
			require.Equal(t, text, saidPDF417(t, id, &s), "%s", id)
		}
	}
	for level := range 9 {
		require.NoError(t, s.Encode(PDF417, "Kelp 104", Options{Level: fmt.Sprint(level)}))
		require.Equal(t, "Kelp 104", saidPDF417(t, PDF417, &s))
	}
}

// What the standards say that a symbol holds at most.
func TestStackedCodesHoldWhatTheirStandardsSay(t *testing.T) {
	var s Symbol
	for _, test := range []struct {
		id     ID
		letter string
		most   int
	}{{PDF417, "1", 2710}, {PDF417, "A", 1850}, {PDF417, "\xff", 1108}, {MicroPDF417, "1", 366}, {MicroPDF417, "A", 250}, {MicroPDF417, "\xff", 150}} {
		text := strings.Repeat(test.letter, test.most)
		options := Options{}
		if test.id == PDF417 {
			options.Level = "0"
		}
		require.NoError(t, s.Encode(test.id, text, options), "%s holds %d × %q", test.id, test.most, test.letter)
		require.Equal(t, text, saidPDF417(t, test.id, &s))
		require.Error(t, s.Encode(test.id, text+strings.Repeat(test.letter, 5), options))
	}
}

func bitMatrix(t testing.TB, m *Matrix) *gozxing.BitMatrix {
	bits, err := gozxing.NewBitMatrix(m.Width, m.Height)
	require.NoError(t, err)
	for y := range m.Height {
		for x := range m.Width {
			if m.At(x, y) {
				bits.Set(x, y)
			}
		}
	}
	return bits
}

// saidAztec reads with gozxing, which is told the size that the message says.
func saidAztec(t testing.TB, s *Symbol) string {
	m, words := &s.Matrix, 0
	centre, compact := m.Width/2, m.Width <= 27
	n, side, eye := 16, 10, 7
	if compact {
		n, side, eye = 8, 7, 5
	}
	for i := range n {
		along := centre - eye + 2 + i%side
		if !compact {
			along += i % side / 5
		}
		x, y := along, centre-eye
		if i >= side {
			x, y = centre+eye, along
		}
		words *= 2
		if m.At(x, y) {
			words++
		}
	}
	layers, data := words>>11+1, words&2047+1
	if compact {
		layers, data = words>>6+1, words&63+1
	}
	result, err := aztecdecoder.NewDecoder().Decode(aztecdetector.NewAztecDetectorResult(bitMatrix(t, m), nil, compact, data, layers))
	require.NoError(t, err)
	return result.GetText()
}

func TestAztecIsReadInEverySize(t *testing.T) {
	var s Symbol
	sizes := map[int]bool{}
	const mixed = "Kelp 104; dulse, NORI: 0123456789 {berth}\x01\x1b. "
	for n := 1; ; n += 1 + n/16 {
		text := strings.Repeat(mixed, n/len(mixed)+1)[:n]
		if err := s.Encode(Aztec, text, Options{}); err != nil {
			require.Greater(t, n, 1500)
			break
		}
		if !sizes[s.Matrix.Width] {
			sizes[s.Matrix.Width] = true
			require.Equal(t, text, saidAztec(t, &s))
		}
	}
	require.Greater(t, len(sizes), 30)
	require.NoError(t, s.Encode(GS1Aztec, "(01)09521234543213(10)26K104(21)7", Options{}))
	require.Equal(t, "\x1d"+s.Reads, saidAztec(t, &s))
	require.NoError(t, s.Encode(Aztec, "海苔 & kelp", Options{Level: "50"}))
	require.Equal(t, "海苔 & kelp", saidAztec(t, &s))
}

// oneRow reads a linear code with gozxing.
func oneRow(t testing.TB, reader gozxing.Reader, s *Symbol) string {
	const quiet = 20
	bits := gozxing.NewBitArray(2*s.DotsWide(2) + 2*quiet)
	at := quiet
	for i, width := range s.AppendDots(nil, 2, 0) {
		for range width {
			if i%2 == 0 {
				bits.Set(at)
			}
			at++
		}
	}
	result, err := reader.(interface {
		DecodeRow(int, *gozxing.BitArray, map[gozxing.DecodeHintType]interface{}) (*gozxing.Result, error)
	}).DecodeRow(0, bits, nil)
	require.NoError(t, err, "%q", s.Reads)
	return result.GetText()
}

// Any bytes give a symbol that decodes to them, or an error that says which symbology and why.
func FuzzEveryCode(f *testing.F) {
	for _, text := range []string{"KELP", "952123454321", "(01)09521234543213(10)26K104", "(8004)a1B2-3", "\xff\x00", "海苔", "A12-B", "Tång 7", "https://id.brinewick.example/01/09521234543213"} {
		for which := range uint8(len(guides)) {
			f.Add(text, which)
		}
	}
	f.Fuzz(func(t *testing.T, text string, which uint8) {
		guide := guides[int(which)%len(guides)]
		var s Symbol
		if err := s.Encode(guide.ID, text, Options{Check: which > 100}); err != nil {
			var data *DataError
			require.ErrorAs(t, err, &data)
			require.NotEmpty(t, data.Reason)
			require.LessOrEqual(t, data.Position, len(text)+1)
			require.Zero(t, s.Modules())
			return
		}
		require.Positive(t, s.Modules())
		if chars, isLatin := latin1(text); guide.Is2D && !isLatin && utf8.ValidString(text) || strings.ContainsFunc(latin(chars), func(r rune) bool { return r >= 0x80 && r < 0xA0 }) {
			return // gozxing takes the bytes between the two halves of ISO/IEC 8859-1 for those of another set
		}
		switch guide.ID {
		case PDF417, MicroPDF417:
			require.Equal(t, text, saidPDF417(t, guide.ID, &s))
		case DataBarExpanded:
			if !strings.HasPrefix(s.Reads, "01") {
				require.Equal(t, s.Reads, saidGeneral(t, &s))
			}
		case Aztec:
			if utf8.ValidString(text) {
				require.Equal(t, text, saidAztec(t, &s))
			}
		case GS1Aztec:
			require.Equal(t, "\x1d"+s.Reads, saidAztec(t, &s))
		case QR, GS1QR, GS1LinkQR:
			result, err := qrdecoder.NewDecoder().Decode(bitMatrix(t, &s.Matrix), nil)
			require.NoError(t, err)
			if ascii(s.Reads) {
				require.Equal(t, s.Reads, result.GetText())
			}
		case DataMatrix, GS1DataMatrix, GS1LinkDataMatrix:
			result, err := dmdecoder.NewDecoder().Decode(bitMatrix(t, &s.Matrix))
			require.NoError(t, err)
			if ascii(s.Reads) {
				require.Equal(t, s.Reads, strings.TrimPrefix(result.GetText(), "\x1d"))
			}
		case Code39, Code39Full:
			require.Equal(t, s.Reads, oneRow(t, oned.NewCode39Reader(), &s))
		case Code93:
			require.Equal(t, s.Reads, oneRow(t, oned.NewCode93Reader(), &s))
		case EAN13:
			require.Equal(t, s.Reads, oneRow(t, oned.NewEAN13Reader(), &s))
		case Code128:
			if len(text) > 1 { // of one character gozxing takes the check character
				require.Equal(t, s.Reads, oneRow(t, oned.NewCode128Reader(), &s))
			}
		}
	})
}

func ascii(text string) bool {
	return !strings.ContainsFunc(text, func(r rune) bool { return r >= 0x80 })
}
