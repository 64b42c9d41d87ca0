package sources

import (
	"bufio"
	"bytes"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	goUnicode "unicode"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/japanese"
	"golang.org/x/text/encoding/simplifiedchinese"
	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/transform"
)

// An Encoding is how a file's bytes are letters.
type Encoding string

// The encodings that are found and can be chosen.
const (
	UTF8        Encoding = "UTF-8"
	UTF16LE     Encoding = "UTF-16LE"
	UTF16BE     Encoding = "UTF-16BE"
	Windows1252 Encoding = "Windows-1252"
	Windows1250 Encoding = "Windows-1250"
	Windows1251 Encoding = "Windows-1251"
	CodePage850 Encoding = "CP850"
	KOI8R       Encoding = "KOI8-R"
	ShiftJIS    Encoding = "Shift-JIS"
	GB18030     Encoding = "GB18030"
)

// letters are the letters that words in an encoding are usually made of.
type letters string

const (
	western         letters = "äöüßÄÖÜéèêëàâáãçñóòôõíìîïúùûåøæÅØÆœÉÈÊÀÁÂÇÑÓÔÕÍÎÚÛŒ"
	central         letters = "ąćęłńóśźżĄĆĘŁŃÓŚŹŻáčďéěíňřšťúůýžÁČĎÉĚÍŇŘŠŤÚŮÝŽőűŐŰäöüßÄÖÜôľĺŕăâîşţŞŢđĐ"
	cyrillic        letters = "абвгдежзийклмнопрстуфхцчшщъыьэюяёАБВГДЕЖЗИЙКЛМНОПРСТУФХЦЧШЩЪЫЬЭЮЯЁ"
	japaneseWriting letters = "kana and kanji, by their code points"
	chineseWriting  letters = "hanzi, by their code points"
	frequent                = "оеаинтсрвлкОЕАИНТСРВЛК" // in Cyrillic writing
	rare                    = "щъэфцёыщюЩЪЭФЦЁЫЮ"
	signs                   = "°±½¼¾²³µ€§×–—…„“”‘’«»№™®©·•¿¡"
	quoting                 = "–—…„“”‘’«»"
)

type known struct {
	name    Encoding
	is      encoding.Encoding
	letters letters
}

// encodings are those that text in bytes may have, in the order in which equals are preferred.
var encodings = []known{
	{Windows1252, charmap.Windows1252, western}, {Windows1250, charmap.Windows1250, central}, {Windows1251, charmap.Windows1251, cyrillic},
	{CodePage850, charmap.CodePage850, western}, {KOI8R, charmap.KOI8R, cyrillic}, {ShiftJIS, japanese.ShiftJIS, japaneseWriting}, {GB18030, simplifiedchinese.GB18030, chineseWriting},
	{UTF16LE, unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM), ""}, {UTF16BE, unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM), ""},
}

// findEncoding finds how the bytes of a file are letters, and refuses what is no text.
func (s *Source) findEncoding(head []byte) error {
	chosen := s.Settings.Encoding
	for _, mark := range []struct {
		bytes    string
		encoding Encoding
	}{{"\xef\xbb\xbf", UTF8}, {"\xff\xfe", UTF16LE}, {"\xfe\xff", UTF16BE}} {
		if bytes.HasPrefix(head, []byte(mark.bytes)) && (chosen == "" || chosen == mark.encoding) {
			s.marked, chosen = len(mark.bytes), mark.encoding
			break
		}
	}
	head = head[s.marked:]
	if other := otherThanRows(head); other != "" {
		return &FileError{Text: other}
	}
	if chosen == "" || chosen != UTF8 && s.marked == 0 {
		has, err := s.survey()
		if err != nil {
			return err
		}
		if chosen == "" {
			if chosen, err = s.guess(head, has); err != nil {
				return err
			}
		} else if has.broken == 0 && has.whole > 0 {
			s.note("The file is valid UTF-8 and is read as %s, as was chosen: see that its letters are right.", chosen)
		}
	}
	s.Settings.Encoding = chosen
	if chosen != UTF8 && encodingOf(chosen) == nil {
		return &FileError{Text: fmt.Sprintf("The encoding %q is not known; choose UTF-8, UTF-16LE, UTF-16BE or %s.", chosen, names())}
	}
	return nil
}

// EncodingNamed returns the encoding that a person writes in some way, such as "utf8" or "cp1252"; what is not known, as it is.
func EncodingNamed(text string) Encoding {
	plain := func(name string) string {
		name = strings.NewReplacer("-", "", "_", "", " ", "").Replace(strings.ToLower(name))
		return strings.Replace(strings.Replace(name, "windows", "cp", 1), "ibm", "cp", 1)
	}
	for _, name := range []Encoding{UTF8, UTF16LE, UTF16BE, Windows1252, Windows1250, Windows1251, CodePage850, KOI8R, ShiftJIS, GB18030} {
		if plain(string(name)) == plain(text) {
			return name
		}
	}
	return Encoding(text)
}

// encodingOf returns the encoding of a name; nil: UTF-8, or none that is known.
func encodingOf(name Encoding) encoding.Encoding {
	for _, e := range encodings {
		if e.name == name {
			return e.is
		}
	}
	return nil
}

// bytes reads the bytes behind the mark.
func (s *Source) bytes() io.Reader {
	return io.NewSectionReader(s.file, int64(s.marked), s.size-int64(s.marked))
}

// text reads the file as UTF-8. What its encoding does not have becomes U+FFFD.
func (s *Source) text() io.Reader {
	if is := encodingOf(s.Settings.Encoding); is != nil {
		return transform.NewReader(s.bytes(), is.NewDecoder())
	}
	return s.bytes()
}

// A survey is what bytes would be as UTF-8.
type survey struct {
	whole       int // letters of several bytes
	broken      int // bytes that are none
	firstBroken int // the line of the first of them
}

// survey looks all bytes through.
func (s *Source) survey() (has survey, err error) {
	in := bufio.NewReaderSize(s.bytes(), 64<<10)
	line := 1
	for {
		data, err := in.Peek(in.Size())
		if err != nil && !errors.Is(err, io.EOF) {
			return has, fmt.Errorf("read records: %w", err)
		}
		if len(data) == 0 {
			return has, nil
		}
		taken := len(data)
		if err == nil { // a letter may go on behind what is here
			for taken > len(data)-utf8.UTFMax && !utf8.FullRune(data[taken-1:]) {
				taken--
			}
		}
		if data = data[:taken]; !ascii(data) {
			whole, broken, at := sequences(data)
			if has.whole += whole; broken > 0 && has.broken == 0 {
				has.firstBroken = line + bytes.Count(data[:at], []byte{'\n'})
			}
			has.broken += broken
		}
		line += bytes.Count(data, []byte{'\n'})
		if _, err := in.Discard(taken); err != nil {
			return has, fmt.Errorf("read records: %w", err)
		}
	}
}

func names() string {
	var list []string
	for _, e := range encodings {
		if e.letters != "" && e.name != GB18030 {
			list = append(list, string(e.name))
		}
	}
	return strings.Join(list, ", ") + " or " + string(GB18030)
}

// control tells whether a rune is a control character that no text has. Those that part what belongs together, and
// vertical tabs, stand in data.
func control(r rune) bool {
	return r < 0x09 || r > 0x0d && r < 0x1c || r == 0x7f || r >= 0x80 && r < 0xa0 && r != 0x85
}

func ascii(data []byte) bool {
	return !slices.ContainsFunc(data, func(b byte) bool { return b >= 0x80 })
}

// guess finds the encoding of unmarked bytes. Where another is nearly as likely, a note asks.
func (s *Source) guess(head []byte, has survey) (Encoding, error) {
	var even, odd int
	for i, b := range head {
		if b == 0 {
			if i%2 == 0 {
				even++
			} else {
				odd++
			}
		}
	}
	switch half := len(head) / 2; {
	case odd*5 > half*2 && even*20 < half:
		return UTF16LE, nil
	case even*5 > half*2 && odd*20 < half:
		return UTF16BE, nil
	case even+odd > 0 || bytes.ContainsFunc(head, func(r rune) bool { return r < 0x80 && control(r) }):
		return "", &FileError{Text: "This is no text but binary data. Save the records as CSV and choose that file."}
	case has.broken == 0:
		return UTF8, nil
	case has.whole > 4*has.broken:
		return "", &FileError{Line: has.firstBroken, Text: fmt.Sprintf("The file is UTF-8 but for %s, here first. Mend it, or choose the encoding by hand.", count(has.broken, "byte", "bytes"))}
	}
	data, err := s.sample()
	return s.likeliest(data), err
}

// sequences counts the letters of several bytes, as UTF-8 has them, and the bytes that are none, and tells where the
// first of these stands.
func sequences(data []byte) (whole, broken, first int) {
	for at := 0; at < len(data); {
		r, size := utf8.DecodeRune(data[at:])
		switch {
		case r == utf8.RuneError && size == 1:
			if broken++; broken == 1 {
				first = at
			}
		case size > 1:
			whole++
		}
		at += size
	}
	return whole, broken, first
}

// sample returns lines with bytes beyond ASCII.
func (s *Source) sample() (out []byte, err error) {
	const most = 64 << 10
	for in := bufio.NewReaderSize(s.bytes(), most); len(out) <= most && err == nil; {
		var line []byte
		if line, err = in.ReadSlice('\n'); !ascii(line) {
			out = append(out, line...)
		}
		if errors.Is(err, bufio.ErrBufferFull) { // a part of a long line tells as much
			err = nil
		}
	}
	if errors.Is(err, io.EOF) {
		return out, nil
	}
	return out, err
}

// likeliest returns the encoding in which bytes make the likeliest words.
func (s *Source) likeliest(data []byte) Encoding {
	type reading struct {
		name  Encoding
		text  string
		score float64
	}
	var best, second reading
	for _, e := range encodings {
		if e.name == UTF16LE || e.name == UTF16BE {
			continue
		}
		text, err := e.is.NewDecoder().String(string(data))
		if err != nil || strings.ContainsFunc(text, func(r rune) bool { return r == utf8.RuneError || control(r) }) {
			continue
		}
		score := likely(text, e.letters)
		switch {
		case best.name == "" || score > best.score:
			best, second = reading{e.name, text, score}, best
		case text != best.text && (second.name == "" || score > second.score):
			second = reading{e.name, text, score}
		}
	}
	if best.name == "" {
		return Windows1252 // of which the reader then says what is wrong
	}
	word := wordBeyondASCII(best.text)
	if second.name != "" && second.text != best.text && (second.score > best.score*0.6 || best.score <= 0) {
		s.note("The file does not tell its encoding. Read as %s it says “%s”; as %s it would say “%s”. Choose which is right.", best.name, word, second.name, wordBeyondASCII(second.text))
	} else {
		s.note("The file does not tell its encoding; it is read as %s, which makes “%s”. If that is wrong, choose another.", best.name, word)
	}
	return best.name
}

// wordBeyondASCII returns the first word that has a letter beyond ASCII.
func wordBeyondASCII(text string) string {
	words := strings.FieldsFunc(text, func(r rune) bool { return goUnicode.IsSpace(r) || strings.ContainsRune(",;|\"", r) })
	for _, word := range words {
		if !ascii([]byte(word)) {
			const most = 40
			if runes := []rune(word); len(runes) > most {
				return string(runes[:most]) + "…"
			}
			return word
		}
	}
	return text
}

// likely scores how much a text looks like words.
func likely(text string, usual letters) (score float64) {
	runes := []rune(text)
	at := func(i int) rune {
		if i < 0 || i >= len(runes) {
			return ' '
		}
		return runes[i]
	}
	row := 0 // letters beyond ASCII one after the other
	for i, r := range runes {
		if r < 0x80 {
			if goUnicode.IsUpper(r) && at(i-1) >= 0x80 && goUnicode.IsLower(at(i-1)) {
				score -= 2
			}
			row = 0
			continue
		}
		before, after := at(i-1), at(i+1)
		switch {
		case usual == japaneseWriting || usual == chineseWriting:
			score += likelyEastern(r, usual)
			if before < 0x80 && goUnicode.IsLetter(before) || after < 0x80 && goUnicode.IsLetter(after) {
				score -= 4 // within a word of other letters
			}
			continue
		case goUnicode.IsLetter(r):
			row++
			if strings.ContainsRune(string(usual), r) {
				score += 2
			} else {
				score--
			}
			if goUnicode.IsUpper(r) && goUnicode.IsLower(before) {
				score -= 2
			}
			if usual == cyrillic {
				if before < 0x80 && goUnicode.IsLetter(before) || after < 0x80 && goUnicode.IsLetter(after) {
					score -= 4 // two scripts in a word
				}
				if strings.ContainsRune(frequent, r) {
					score += 0.5
				} else if strings.ContainsRune(rare, r) {
					score -= 0.5
				}
			} else if row > 2 {
				score -= 3
			}
		case r >= 0x2500 && r < 0x25a0: // lines and blocks
			score -= 4
		case strings.ContainsRune(quoting, r):
		case goUnicode.IsLetter(before) && goUnicode.IsLetter(after):
			score -= 3
		case goUnicode.IsLetter(before) || goUnicode.IsLetter(after):
			score -= 2
		case strings.ContainsRune(signs, r):
			score += 0.5
		default:
			score -= 2
		}
	}
	return score
}

// likelyEastern scores a letter of East Asian writing: kana, and ideographs by whether they are among those in daily use,
// which GB 2312 and JIS X 0208 have in their first levels.
func likelyEastern(r rune, usual letters) float64 {
	switch {
	case r >= 0x3040 && r < 0x3100:
		return 4
	case r >= 0xff61 && r < 0xffa0: // half-width katakana
		return -0.5
	case r >= 0x3000 && r < 0x3020, r >= 0xff01 && r < 0xff61:
		return 2
	case r >= 0x4e00 && r < 0xa000:
		is, from, to := encoding.Encoding(simplifiedchinese.GBK), byte(0xb0), byte(0xd7)
		if usual == japaneseWriting {
			is, from, to = japanese.ShiftJIS, 0x88, 0x97
		}
		if b, err := is.NewEncoder().Bytes([]byte(string(r))); err == nil && len(b) == 2 && b[0] >= from && b[0] <= to {
			return 3
		}
		return -1
	}
	return -2
}
