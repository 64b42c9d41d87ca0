package sources

import (
	"bufio"
	"bytes"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/transform"
)

// An Encoding is how a file's bytes are letters.
type Encoding string

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
		return &FileError{Text: fmt.Sprintf("The encoding %q is not known; choose %s.", chosen, names())}
	}
	return nil
}

// EncodingNamed returns the encoding that a person writes in some way, such as "utf8" or "cp1252"; what is not known,
// as it is.
func EncodingNamed(text string) Encoding {
	plain := func(name string) string {
		name = strings.NewReplacer("-", "", "_", "", " ", "").Replace(strings.ToLower(name))
		return strings.Replace(strings.Replace(name, "windows", "cp", 1), "ibm", "cp", 1)
	}
	for _, e := range Encodings() {
		if plain(string(e.Name)) == plain(text) {
			return e.Name
		}
	}
	return Encoding(text)
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
	case isBinary(head):
		return "", &FileError{Text: "This is no text but binary data. Save the records as CSV and choose that file."}
	case has.broken == 0:
		return UTF8, s.spoilt(has)
	case 2*has.whole >= has.broken: // text in another encoding has hardly any letters that would be some in UTF-8
		return "", &FileError{Line: has.firstBroken,
			Text: fmt.Sprintf("The file is UTF-8 but for %s, here first. Mend it, or choose the encoding by hand.",
				count(has.broken, "byte", "bytes"))}
	}
	data, err := s.sample()
	return s.likeliest(data, has.firstBroken), err
}

// isBinary tells whether bytes have more control characters than a text has by mistake.
func isBinary(head []byte) bool {
	const few, per = 2, 50
	n := 0
	for _, b := range head {
		if b < utf8.RuneSelf && control(rune(b)) {
			n++
		}
	}
	return n > few && n*per > len(head)
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
