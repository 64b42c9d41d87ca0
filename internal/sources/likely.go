package sources

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/japanese"
	"golang.org/x/text/encoding/korean"
	"golang.org/x/text/encoding/simplifiedchinese"
	"golang.org/x/text/encoding/traditionalchinese"
	utf16 "golang.org/x/text/encoding/unicode"
)

// The encodings that are found and can be chosen.
const (
	UTF8        Encoding = "UTF-8"
	UTF16LE     Encoding = "UTF-16LE"
	UTF16BE     Encoding = "UTF-16BE"
	Windows1252 Encoding = "Windows-1252"
	Windows1250 Encoding = "Windows-1250"
	Windows1251 Encoding = "Windows-1251"
	Windows1253 Encoding = "Windows-1253"
	Windows1254 Encoding = "Windows-1254"
	Windows1255 Encoding = "Windows-1255"
	Windows1256 Encoding = "Windows-1256"
	Windows1257 Encoding = "Windows-1257"
	Windows874  Encoding = "Windows-874"
	Latin2      Encoding = "ISO-8859-2"
	Cyrillic5   Encoding = "ISO-8859-5"
	Latin9      Encoding = "ISO-8859-15"
	CodePage850 Encoding = "CP850"
	CodePage852 Encoding = "CP852"
	CodePage866 Encoding = "CP866"
	KOI8R       Encoding = "KOI8-R"
	ShiftJIS    Encoding = "Shift-JIS"
	EUCJP       Encoding = "EUC-JP"
	GB18030     Encoding = "GB18030"
	Big5        Encoding = "Big5"
	EUCKR       Encoding = "EUC-KR"
)

// A KnownEncoding is one that can be chosen.
type KnownEncoding struct {
	Name    Encoding
	Writing string // whose letters it has; empty: all
	is      encoding.Encoding
	words   *writing // of text in bytes; nil: it is not guessed by its words
}

// encodings are all of them, in the order in which equals are preferred.
var encodings = []KnownEncoding{
	{UTF8, "", nil, nil},
	{Windows1252, "western", charmap.Windows1252, western}, {Windows1250, "central European", charmap.Windows1250,
		central}, {Windows1251, "Cyrillic", charmap.Windows1251, cyrillic},
	{Windows1253, "Greek", charmap.Windows1253, greek}, {Windows1254, "Turkish", charmap.Windows1254, turkish},
	{Windows1257, "Baltic", charmap.Windows1257, baltic},
	{Latin2, "central European", charmap.ISO8859_2, central}, {Latin9, "western", charmap.ISO8859_15, western},
	{CodePage850, "old western", charmap.CodePage850, western},
	{CodePage852, "old central European", charmap.CodePage852, central},
	{KOI8R, "old Cyrillic", charmap.KOI8R, cyrillic}, {CodePage866, "old Cyrillic", charmap.CodePage866, cyrillic},
	{Cyrillic5, "Cyrillic", charmap.ISO8859_5, cyrillic},
	{ShiftJIS, "Japanese", japanese.ShiftJIS, japaneseWords}, {GB18030, "Chinese", simplifiedchinese.GB18030,
		chineseWords},
	{EUCJP, "Japanese", japanese.EUCJP, japaneseWords}, {EUCKR, "Korean", korean.EUCKR, koreanWords},
	{Big5, "traditional Chinese", traditionalchinese.Big5, traditionalWords},
	{Windows1255, "Hebrew", charmap.Windows1255, hebrew}, {Windows1256, "Arabic", charmap.Windows1256, arabic},
	{Windows874, "Thai", charmap.Windows874, thai},
	{UTF16LE, "", utf16.UTF16(utf16.LittleEndian, utf16.IgnoreBOM), nil},
	{UTF16BE, "", utf16.UTF16(utf16.BigEndian, utf16.IgnoreBOM), nil},
}

// Encodings returns those that can be chosen.
func Encodings() []KnownEncoding { return slices.Clone(encodings) }

// encodingOf returns the encoding of a name; nil: UTF-8, or none that is known.
func encodingOf(name Encoding) encoding.Encoding {
	for _, e := range encodings {
		if e.Name == name {
			return e.is
		}
	}
	return nil
}

func names() string {
	var list []string
	for _, e := range encodings {
		list = append(list, string(e.Name))
	}
	last := len(list) - 1
	return strings.Join(list[:last], ", ") + " or " + list[last]
}

// A reading is what bytes are in an encoding.
type reading struct {
	KnownEncoding
	score float64
}

// mostAsked is how many encodings are named beside the likeliest.
const mostAsked = 3

// likeliest returns the encoding in which bytes make the likeliest words; the first that is not UTF-8 stands in a line
// (0: there are no lines). Where others are nearly as likely, a note asks.
func (s *Source) likeliest(data []byte, line int) Encoding {
	var readings []reading
	for _, e := range encodings {
		if e.words == nil {
			continue
		}
		text, err := e.is.NewDecoder().String(string(data))
		if err != nil || strings.ContainsFunc(text, func(r rune) bool {
			return r == utf8.RuneError ||
				r >= utf8.RuneSelf && control(r)
		}) {
			continue
		}
		readings = append(readings, reading{e, e.words.likely(text)})
	}
	if len(readings) == 0 {
		return Windows1252 // of which the reader then says what is wrong
	}
	slices.SortStableFunc(readings, func(a, b reading) int { return cmp.Compare(b.score, a.score) })
	best := readings[0]
	near := slices.DeleteFunc(readings[1:], func(r reading) bool { return best.score > 0 && r.score <= best.score*0.6 })
	is := "The file does not tell its encoding"
	if line > 0 {
		is += fmt.Sprintf(" and is not UTF-8 (line %d)", line)
	}
	s.note("%s%s", is, asked(wordsBeyondASCII(data), best, near))
	return best.Name
}

// asked says what a file was read as, and what it would be in encodings that are nearly as likely. Those that make no
// difference are not named.
func asked(words [][]byte, best reading, near []reading) string {
	var shown []byte // the word that tells them apart
	var others []string
	said := map[string]bool{}
	for _, other := range near {
		if shown == nil {
			for _, word := range words {
				if best.word(word) != other.word(word) {
					shown = word
					said[best.word(word)] = true
					break
				}
			}
		}
		if shown == nil || said[other.word(shown)] || len(others) == mostAsked {
			continue
		}
		said[other.word(shown)] = true
		if len(others) == 0 {
			others = append(others, fmt.Sprintf("as %s it would say “%s”", other.Name, other.word(shown)))
		} else {
			others = append(others, fmt.Sprintf("as %s “%s”", other.Name, other.word(shown)))
		}
	}
	if len(others) == 0 {
		return fmt.Sprintf("; it is read as %s, which makes “%s”. If that is wrong, choose another.", best.Name,
			best.word(words[0]))
	}
	return fmt.Sprintf(". Read as %s it says “%s”; %s. Choose which is right.", best.Name, best.word(shown),
		strings.Join(others, ", "))
}

// word returns what a word is in the encoding.
func (r *reading) word(raw []byte) string {
	const most = 40                                  // letters
	text, _ := r.is.NewDecoder().String(string(raw)) // what is broken off shows as such
	if runes := []rune(text); len(runes) > most {
		return string(runes[:most]) + "…"
	}
	return text
}

// wordsBeyondASCII returns the words that have a letter beyond ASCII, each once; all of it, where it is one.
func wordsBeyondASCII(data []byte) (words [][]byte) {
	had := map[string]bool{}
	for _, word := range bytes.FieldsFunc(data,
		func(r rune) bool { return r < 0x80 && (unicode.IsSpace(r) || strings.ContainsRune(`,;|"`, r)) }) {
		if !ascii(word) && !had[string(word)] {
			had[string(word)] = true
			words = append(words, word)
		}
	}
	return words
}

// spoilt notes letters of UTF-8 that were spoilt before the file was saved.
func (s *Source) spoilt(has survey) error {
	if has.whole == 0 {
		return nil
	}
	data, err := s.sample()
	if err != nil {
		return err
	}
	for _, word := range wordsBeyondASCII(data) {
		if bytes.Contains(word, []byte("\uFFFD")) { // a long line may be cut within a letter
			s.note("“%s” lost letters before the file was saved. Have it written anew.", word)
			return nil
		}
		meant, err := charmap.Windows1252.NewEncoder().Bytes(word)
		if err == nil && !ascii(meant) && utf8.Valid(meant) {
			s.note("“%s” was “%s” once, it seems: the file was written as UTF-8, read as Windows-1252 and saved "+
				"again. Have it written anew, or put the letters right.", word, meant)
			return nil
		}
	}
	return nil
}

// Scores of what stands in a text.
const (
	kana         = 5.0 // which only Japanese has
	halfWidth    = 2.0 // katakana, several
	daily        = 4.0 // of two bytes, where a letter of one is worth half of it
	punctuation  = 2.0 // of East Asian writing
	sign         = 0.5
	degrees      = 2.0
	unlikely     = -2.0 // a sign in or at a word, a capital after a small letter
	impossible   = -4.0 // two scripts in a word, lines and blocks
	longForeign  = -3.0 // three and more letters beyond ASCII one after the other
	signs        = "°±½¼¾²³µ€§×–—…„“”‘’«»™®©·•¿¡"
	quotingMarks = "–—…„“”‘’«»"
)

// likely scores how much a text looks like words of a writing: of its likeliest language.
func (w *writing) likely(text string) (score float64) {
	runes := []rune(text)
	at := func(i int) rune {
		if i < 0 || i >= len(runes) {
			return ' '
		}
		return runes[i]
	}
	if w.daily != nil {
		return w.likelyEastern(runes, at)
	}
	languages := w.letters()
	scores := make([]letterWeight, len(languages))
	row := 0 // letters beyond ASCII one after the other
	mixed := func(r rune) bool { return w.alone && r < 0x80 && unicode.IsLetter(r) }
	for i, r := range runes {
		before, after := at(i-1), at(i+1)
		if unicode.IsLetter(r) && max(r, before) >= 0x80 && oddCase(at(i-2), before, r) {
			score += unlikely
		}
		switch {
		case r < 0x80:
			row = 0
		case unicode.IsLetter(r) || unicode.IsMark(r):
			if mixed(before) || mixed(after) {
				score += impossible
				continue
			}
			if row++; row > 2 && !w.alone {
				score += longForeign
			}
			part := letterWeight(1)
			if !unicode.IsLetter(before) && !unicode.IsLetter(after) && !unicode.IsMark(after) {
				part = oneLetter
			}
			for language, weights := range languages {
				if weight, is := weights[r]; is {
					scores[language] += weight * part
				} else {
					scores[language] += foreignLetter * part
				}
			}
		case r >= 0x2500 && r < 0x25a0: // lines and blocks
			score += impossible
		case r == '°' && !unicode.IsLetter(before) && strings.ContainsRune("CFK", after):
			score += degrees
		case strings.ContainsRune(quotingMarks, r):
		case unicode.IsLetter(before) || unicode.IsLetter(after):
			score += unlikely
		case strings.ContainsRune(signs, r):
			score += sign
		default:
			score += unlikely
		}
	}
	return score + float64(slices.Max(scores))
}

// oddCase tells whether a letter is a capital after a small one, or a small one after capitals.
func oddCase(first, before, r rune) bool {
	return unicode.IsUpper(r) && unicode.IsLower(before) || unicode.IsLower(r) && unicode.IsUpper(before) &&
		unicode.IsUpper(first)
}

// likelyEastern scores letters of East Asian writing: kana, and ideographs and syllables by whether they are in daily
// use.
func (w *writing) likelyEastern(runes []rune, at func(int) rune) (score float64) {
	inUse := w.daily()
	narrow := func(r rune) bool { return r >= 0xff61 && r < 0xffa0 }
	for i, r := range runes {
		if r < 0x80 {
			continue
		}
		before, after := at(i-1), at(i+1)
		switch {
		case r >= 0x3040 && r < 0x3100 && w == japaneseWords:
			score += kana
		case r >= 0x3040 && r < 0x3100:
			score -= kana
		case narrow(r) && (narrow(before) || narrow(after)):
			score += halfWidth
		case narrow(r):
			score -= 0.5
		case r >= 0x3000 && r < 0x3020, r >= 0xff01 && r < 0xff61:
			score += punctuation
		case inUse[r]:
			score += daily
			if strings.ContainsRune(w.frequent, r) {
				score += float64(often)
			}
		case unicode.IsLetter(r):
			score += float64(foreignLetter)
		default:
			score += unlikely
		}
		// within a word of other letters
		if before < 0x80 && unicode.IsLetter(before) || after < 0x80 && unicode.IsLetter(after) {
			score += impossible
		}
	}
	return score
}
