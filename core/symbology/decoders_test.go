package symbology

import (
	"fmt"
	"math/big"
	"math/rand/v2"
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

// ranked returns all ways to share n modules among some elements, in the order of their values.
func ranked(n, elements, widest int, narrow bool) (ways [][]uint8) {
	var share func(way []uint8, n int)
	share = func(way []uint8, n int) {
		if len(way) == elements {
			if n == 0 && (!narrow || slices.Contains(way, 1)) {
				ways = append(ways, slices.Clone(way))
			}
			return
		}
		for w := 1; w <= min(widest, n); w++ {
			share(append(way, uint8(w)), n-w)
		}
	}
	share(nil, n)
	return ways
}

// GS1 DataBar shares out modules as the list of all ways in their order has them, for every value.
func TestDataBarSharesModulesInOrder(t *testing.T) {
	for name, c := range map[string]struct {
		groups         []dataBarGroup
		elements, last int
		oddNarrow      bool
	}{"outside": {dataBarOutside, 4, 2841, false}, "inside": {dataBarInside, 4, 1597, true}, "expanded": {dataBarExpandedGroups, 4, 4192, true}} {
		for i, g := range c.groups {
			end := c.last
			if i+1 < len(c.groups) {
				end = c.groups[i+1].from
			}
			odd, even := ranked(g.odd, c.elements, g.oddWidest, c.oddNarrow), ranked(g.even, c.elements, g.evenWide, !c.oddNarrow)
			require.GreaterOrEqual(t, len(odd)*len(even), end-g.from, "%s, group %d has ways for its values", name, i)
			for n, way := range odd {
				require.Equal(t, way, elementWidths(n, g.odd, c.elements, g.oddWidest, !c.oddNarrow))
			}
			for n, way := range even {
				require.Equal(t, way, elementWidths(n, g.even, c.elements, g.evenWide, c.oddNarrow))
			}
		}
	}
	checks := map[string]bool{}
	for value := range 89 {
		pattern := fmt.Sprint(dataBarLimitedCheck(value))
		require.False(t, checks[pattern])
		checks[pattern] = true
	}
}

// expandedBits reads the bits of GS1 DataBar Expanded from its elements.
func expandedBits(t testing.TB, s *Symbol) (bits []bool) {
	elements := s.Widths[1:]
	characters := map[[8]uint8]int{}
	for value := range 4192 {
		characters[dataBarExpandedCharacter(value)] = value
	}
	for at, n := 0, 0; at+8 <= len(elements); n++ {
		var one [8]uint8
		copy(one[:], elements[at:at+8])
		if n%2 == 1 {
			slices.Reverse(one[:])
		}
		value, ok := characters[one]
		require.True(t, ok)
		if n > 0 {
			for i := 11; i >= 0; i-- {
				bits = append(bits, value>>i&1 == 1)
			}
		}
		if at += 8; n%2 == 0 {
			at += 5
		}
		if len(elements)-at < 8 {
			break
		}
	}
	return bits
}

// The general purpose field is read mode by mode, as the standard describes it from the reader's side.
func expandedText(bits []bool, from int) string {
	var text strings.Builder
	at := from
	take := func(n int) int {
		value := bitsValue(bits[at : at+n])
		at += n
		return value
	}
	left := func() int { return len(bits) - at }
	digit := func(n int) {
		if n == 10 {
			text.WriteByte(groupSeparator)
		} else {
			text.WriteByte(byte('0' + n))
		}
	}
	mode := dataBarNumeric
	for left() > 0 {
		switch {
		case mode == dataBarNumeric && left() < 7:
			if left() >= 4 {
				if value := take(4); value > 0 {
					digit(value - 1)
				}
			}
			return text.String()
		case mode == dataBarNumeric && bitsValue(bits[at:at+4]) == 0:
			at, mode = at+4, dataBarAlpha
		case mode == dataBarNumeric:
			pair := take(7) - 8
			digit(pair / 11)
			digit(pair % 11)
		case left() < 5:
			return text.String()
		case bitsValue(bits[at:at+3]) == 0:
			at, mode = at+3, dataBarNumeric
		case bitsValue(bits[at:at+5]) == 4:
			if at += 5; mode == dataBarAlpha {
				mode = dataBarISO
			} else {
				mode = dataBarAlpha
			}
		case bitsValue(bits[at:at+5]) == 15:
			at, mode = at+5, dataBarNumeric
			text.WriteByte(groupSeparator)
		case bitsValue(bits[at:at+5]) < 15:
			text.WriteByte(byte('0' + take(5) - 5))
		case mode == dataBarAlpha:
			if value := take(6); value < 58 {
				text.WriteByte(byte('A' + value - 32))
			} else {
				text.WriteByte("*,-./"[value-58])
			}
		default:
			if value := bitsValue(bits[at : at+7]); value < 116 {
				if at += 7; value < 90 {
					text.WriteByte(byte('A' + value - 64))
				} else {
					text.WriteByte(byte('a' + value - 90))
				}
			} else {
				text.WriteByte("!\"%&'()*+,-./:;<=>?_ "[take(8)-232])
			}
		}
	}
	return text.String()
}

// saidGeneral is what the general method of GS1 DataBar Expanded says of data without a GTIN.
func saidGeneral(t testing.TB, s *Symbol) string {
	bits := expandedBits(t, s)
	require.Equal(t, []bool{false, false, false}, bits[:3], "no 2D component, general method")
	return strings.TrimRight(expandedText(bits, 5), string(rune(groupSeparator)))
}

func TestExpandedDataIsReadBitByBit(t *testing.T) {
	var s Symbol
	for _, text := range []string{"(00)095212345432123453", "(8004)952/CRATE-00417", "(8004)kelp&Dulse.7", "(400)A1(8004)12345678901b", "(8004)1", "(8004)12", "(8004)123", "(400)2026-11-25(8004)Zz_!"} {
		require.NoError(t, s.Encode(DataBarExpanded, text, Options{}), text)
		require.Equal(t, s.Reads, saidGeneral(t, &s), text)
	}
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

// expandedReads reads all that GS1 DataBar Expanded says: the method first, then what it keeps (7.2.5.4).
func expandedReads(t testing.TB, bits []bool) (reads, method string) {
	at := 1 // no 2D component
	take := func(n int) int {
		value := bitsValue(bits[at : at+n])
		at += n
		return value
	}
	prefix := func(text string) bool {
		if at+len(text) > len(bits) {
			return false
		}
		for i := range len(text) {
			if bits[at+i] != (text[i] == '1') {
				return false
			}
		}
		return true
	}
	gtin := func(first string) string {
		digits := first
		for range 4 {
			digits += fmt.Sprintf("%03d", take(10))
		}
		return "01" + digits + string(Mod10(digits))
	}
	general := func() string { return strings.TrimRight(expandedText(bits, at), string(rune(groupSeparator))) }
	switch {
	case prefix("1"):
		at += 3
		first := fmt.Sprint(take(4))
		return gtin(first) + general(), "1"
	case prefix("00"):
		at += 4
		return general(), "00"
	case prefix("0100"):
		at += 4
		return gtin("9") + fmt.Sprintf("3103%06d", take(15)), "0100"
	case prefix("0101"):
		at += 4
		item, weight := gtin("9"), take(15)
		if weight < 10_000 {
			return item + fmt.Sprintf("3202%06d", weight), "0101"
		}
		return item + fmt.Sprintf("3203%06d", weight-10_000), "0101"
	case prefix("01100"):
		at += 7
		item, decimals := gtin("9"), take(2)
		return item + fmt.Sprintf("392%d", decimals) + general(), "01100"
	case prefix("01101"):
		at += 7
		item, decimals, currency := gtin("9"), take(2), take(10)
		return item + fmt.Sprintf("393%d%03d", decimals, currency) + general(), "01101"
	}
	require.True(t, prefix("0111"))
	at += 4
	kind := take(3)
	item, weight, date := gtin("9"), take(20), take(16)
	reads = item + fmt.Sprintf("3%d0%d%06d", 1+kind%2, weight/100_000, weight%100_000)
	if date != 38_400 {
		reads += fmt.Sprintf("%d%02d%02d%02d", []int{11, 13, 15, 17}[kind/2], date/384, date%384/32+1, date%32)
	}
	return reads, fmt.Sprintf("0111%03b", kind)
}

// Each kind of item is packed by the method that is made for it, and takes no more room than it must.
func TestExpandedPacksEachItemItsOwnWay(t *testing.T) {
	var s Symbol
	for _, test := range []struct {
		text, method string
		characters   int
	}{
		{"(01)09521234543213", "1", 5}, // 48 bits, and the check character
		{"(01)99521234543216(3103)001750", "0100", 6},
		{"(01)99521234543216(3103)032767", "0100", 6},
		{"(01)99521234543216(3103)032768", "0111000", 8}, // too heavy for 15 bits
		{"(01)99521234543216(3202)009999", "0101", 6},
		{"(01)99521234543216(3203)022767", "0101", 6},
		{"(01)99521234543216(3203)022768", "0111001", 8},
		{"(01)99521234543216(3101)001750", "0111000", 8},
		{"(01)99521234543216(3101)001750(11)261125", "0111000", 8},
		{"(01)99521234543216(3205)001750(13)261125", "0111011", 8},
		{"(01)99521234543216(3100)099999(15)991231", "0111100", 8},
		{"(01)99521234543216(3209)001750(17)270331", "", 0}, // no such identifier
		{"(01)99521234543216(3202)001750(17)270331", "0111111", 8},
		{"(01)99521234543216(3922)1250", "01100", 0},
		{"(01)99521234543216(3922)1250(10)K104", "01100", 0},
		{"(01)99521234543216(3932)9781250", "01101", 0},
		{"(01)99521234543216(3932)9781250(10)K104", "01101", 0},
		{"(01)99521234543216(3922)1250(17)270331", "01100", 0},
		{"(01)09521234543213(3103)001750", "1", 0}, // not of variable measure
		{"(01)99521234543216(3103)101750", "1", 0}, // 101.750 kg
		{"(01)09521234543213(10)26K104(21)0042", "1", 0},
		{"(00)095212345432123453", "00", 0},
		{"(8004)952/CRATE-00417", "00", 0},
	} {
		err := s.Encode(DataBarExpanded, test.text, Options{})
		if test.method == "" {
			require.Error(t, err)
			continue
		}
		require.NoError(t, err, test.text)
		bits := expandedBits(t, &s)
		reads, method := expandedReads(t, bits)
		require.Equal(t, []string{s.Reads, test.method}, []string{reads, method}, test.text)
		if test.characters > 0 {
			require.Equal(t, test.characters, len(bits)/12+1, test.text)
		}
	}
}

// Random element strings say what they should, and the stacked form has the same characters in its rows.
func TestExpandedSaysWhatWasMeant(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 12))
	pick := func(letters string, n int) string {
		text := make([]byte, n)
		for i := range text {
			text[i] = letters[random.IntN(len(letters))]
		}
		return string(text)
	}
	sets := []string{"0123456789", "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ*,-./", set82}
	var s, stacked Symbol
	fitted := 0
	for range 600 {
		digits := pick("0123456789", 13)
		text := "(01)" + digits + string(Mod10(digits)) + "(10)" + pick(sets[random.IntN(2)], 1+random.IntN(10)) + "(21)" + pick(sets[random.IntN(2)], 1+random.IntN(10))
		if random.IntN(3) == 0 {
			text = "(8004)" + strings.ReplaceAll(pick(sets[2], 1+random.IntN(30)), "(", "x")
		}
		if s.Encode(DataBarExpanded, text, Options{}) != nil {
			continue
		}
		fitted++
		bits := expandedBits(t, &s)
		reads, _ := expandedReads(t, bits)
		require.Equal(t, s.Reads, reads, text)
		for columns := 1; columns <= 5; columns++ {
			require.NoError(t, stacked.Encode(DataBarExpandedStacked, text, Options{Columns: columns}))
			rows := (stacked.Matrix.Height + 3) / 37
			require.Equal(t, 37*rows-3, stacked.Matrix.Height, "rows of 34 modules with three between")
			require.LessOrEqual(t, (rows-1)*columns*2, len(bits)/12+2, "no row too many")
		}
	}
	require.Greater(t, fitted, 400)
}
