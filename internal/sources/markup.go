package sources

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"strconv"
	"unicode/utf8"
)

// Sheets are read by a reader of their own: of a sheet of a million rows, encoding/xml makes 40 million tokens with
// their names and attributes. It knows of XML 1.0 what parts of a workbook have: elements, attributes, texts,
// references to characters, CDATA; comments and instructions are passed over.

// An event is what the next part of a markup is.
type event int

// The events.
const (
	opens  event = iota // an element begins: name and attributes
	closes              // and ends: name
	chars               // a text
)

// A markup reads XML as it comes. What it gives holds until the next event.
type markup struct {
	name []byte // of the element, without its prefix
	text []byte

	in      io.Reader
	buffer  []byte
	at, end int  // of what is not read yet
	atEnd   bool // the reader has no more
	tag     []byte
	closing bool // the element that began has nothing in it, and ends now
	decoded []byte
}

// mostTag bounds a tag, and the text between two.
const mostTag = 8 << 20

func newMarkup(in io.Reader) *markup { return &markup{in: in, buffer: make([]byte, 256<<10)} }

// A markupError says why a part is no XML that can be read.
type markupError struct{ text string }

func (e *markupError) Error() string { return e.text }

var errMarkup = &markupError{"it is no XML there"}

// reason says why a part of a workbook cannot be read.
func reason(err error) string {
	broken := new(markupError)
	switch {
	case errors.As(err, &broken):
		return broken.text
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		return "it is broken off"
	}
	return "it is damaged"
}

// next returns what comes next; io.EOF at the end.
func (m *markup) next() (event, error) {
	if m.closing {
		m.closing = false
		return closes, nil
	}
	for {
		if m.at == m.end {
			if err := m.fill(); err != nil {
				return 0, err
			}
		}
		if m.buffer[m.at] != '<' {
			text, err := m.upTo("<", false)
			if err != nil {
				return 0, err
			}
			if !utf8.Valid(text) {
				return 0, &markupError{"its letters are not UTF-8"}
			}
			if m.text, err = m.plain(text); err != nil {
				return 0, err
			}
			return chars, nil
		}
		if m.end-m.at > 1 && m.buffer[m.at+1] != '!' && m.buffer[m.at+1] != '?' {
			return m.element()
		}
		what, err := m.peek(len("<![CDATA["))
		switch {
		case err != nil:
			return 0, err
		case bytes.HasPrefix(what, []byte("<!--")):
			_, err = m.upTo("-->", true)
		case bytes.HasPrefix(what, []byte("<?")):
			var says []byte
			if says, err = m.upTo("?>", true); err == nil && !isUTF8(says) {
				err = &markupError{"it says that its letters are not UTF-8"}
			}
		case bytes.HasPrefix(what, []byte("<![CDATA[")):
			text, err := m.upTo("]]>", true)
			if err != nil {
				return 0, err
			}
			m.text = text[len("<![CDATA[") : len(text)-len("]]>")]
			return chars, nil
		case bytes.HasPrefix(what, []byte("<!")):
			return 0, &markupError{"it declares types, which workbooks do not"}
		default:
			return m.element()
		}
		if err != nil {
			return 0, err
		}
	}
}

// isUTF8 tells whether an instruction leaves it at UTF-8.
func isUTF8(instruction []byte) bool {
	lower := bytes.ToLower(instruction)
	_, encoding, says := bytes.Cut(lower, []byte("encoding="))
	return !bytes.HasPrefix(lower, []byte("<?xml ")) || !says || bytes.HasPrefix(encoding[1:], []byte("utf-8")) ||
		bytes.HasPrefix(encoding[1:], []byte("us-ascii"))
}

// element reads a tag.
func (m *markup) element() (event, error) {
	tag, err := m.wholeTag()
	if err != nil {
		return 0, err
	}
	tag = tag[1 : len(tag)-1]
	is := opens
	switch {
	case len(tag) > 0 && tag[0] == '/':
		is, tag = closes, tag[1:]
	case len(tag) > 0 && tag[len(tag)-1] == '/':
		m.closing, tag = true, tag[:len(tag)-1]
	}
	end := 0
	for end < len(tag) && !blank(tag[end]) {
		end++
	}
	if m.name, m.tag = tag[:end], tag[end:]; len(m.name) == 0 {
		return 0, errMarkup
	}
	if prefix := bytes.IndexByte(m.name, ':'); prefix >= 0 {
		m.name = m.name[prefix+1:]
	}
	return is, nil
}

// wholeTag returns what stands from < to >, which may stand in quoted values too.
func (m *markup) wholeTag() ([]byte, error) {
	quote := byte(0) // in whose value it is
	for seen := 1; ; seen++ {
		if m.at+seen == m.end {
			if err := m.more(); err != nil {
				return nil, err
			}
		}
		switch c := m.buffer[m.at+seen]; {
		case quote != 0:
			if c == quote {
				quote = 0
			}
		case c == '>':
			tag := m.buffer[m.at : m.at+seen+1]
			m.at += seen + 1
			return tag, nil
		case c == '"' || c == '\'':
			quote = c
		}
	}
}

func blank(c byte) bool { return c == ' ' || c == '\t' || c == '\r' || c == '\n' }

// attribute returns what the element that began says of a name without its prefix; nil: nothing.
func (m *markup) attribute(name string) []byte {
	tag := m.tag
	for at := 0; at < len(tag); {
		for at < len(tag) && blank(tag[at]) {
			at++
		}
		from := at // of the name, behind its prefix
		for at < len(tag) && tag[at] != '=' && !blank(tag[at]) {
			if at++; tag[at-1] == ':' {
				from = at
			}
		}
		is := tag[from:at]
		for at < len(tag) && tag[at] != '"' && tag[at] != '\'' {
			at++
		}
		if at == len(tag) {
			return nil
		}
		end := bytes.IndexByte(tag[at+1:], tag[at])
		if end < 0 {
			return nil
		}
		value := tag[at+1 : at+1+end]
		if at += end + 2; string(is) != name {
			continue
		}
		if value, err := m.plain(value); err == nil {
			return value
		}
		return nil
	}
	return nil
}

// plain returns a text with its references to characters (XML 1.0, 4.1) as the characters.
func (m *markup) plain(text []byte) ([]byte, error) {
	if bytes.IndexByte(text, '&') < 0 {
		return text, nil
	}
	out := m.decoded[:0]
	for {
		at := bytes.IndexByte(text, '&')
		if at < 0 {
			m.decoded = append(out, text...)
			return m.decoded, nil
		}
		out, text = append(out, text[:at]...), text[at+1:]
		end := bytes.IndexByte(text, ';')
		if end < 0 {
			return nil, &markupError{"“&” stands in it alone"}
		}
		name := string(text[:end])
		text = text[end+1:]
		if named, known := map[string]byte{"amp": '&', "lt": '<', "gt": '>', "quot": '"', "apos": '\''}[name]; known {
			out = append(out, named)
			continue
		}
		number, err := strconv.ParseUint(trimHash(name))
		if err != nil || !utf8.ValidRune(rune(number)) {
			return nil, &markupError{fmt.Sprintf("“&%s;” stands in it, which is no character", name)}
		}
		out = utf8.AppendRune(out, rune(number))
	}
}

// trimHash returns the digits of a reference to a character by its number, their base, and their size.
func trimHash(name string) (digits string, base, bits int) {
	const most = 31
	switch {
	case len(name) > 2 && name[0] == '#' && name[1] == 'x':
		return name[2:], 16, most
	case len(name) > 1 && name[0] == '#':
		return name[1:], 10, most
	}
	return "", 10, most
}

// upTo takes all up to a word, and the word too where it is meant; a text that is not followed by one goes to the end.
func (m *markup) upTo(word string, with bool) ([]byte, error) {
	for seen := 0; ; {
		if i := bytes.Index(m.buffer[m.at+seen:m.end], []byte(word)); i >= 0 {
			end := m.at + seen + i
			if with {
				end += len(word)
			}
			taken := m.buffer[m.at:end]
			m.at = end
			return taken, nil
		}
		seen = max(m.end-m.at-len(word)+1, 0)
		if err := m.more(); err != nil {
			if !with && errors.Is(err, io.ErrUnexpectedEOF) && m.atEnd {
				taken := m.buffer[m.at:m.end]
				m.at = m.end
				return taken, nil
			}
			return nil, err
		}
	}
}

// peek returns up to so many bytes that come.
func (m *markup) peek(n int) ([]byte, error) {
	for m.end-m.at < n {
		if err := m.more(); err != nil {
			if errors.Is(err, io.ErrUnexpectedEOF) {
				break
			}
			return nil, err
		}
	}
	return m.buffer[m.at:min(m.at+n, m.end)], nil
}

// more reads on behind what is not read yet; io.ErrUnexpectedEOF: there is no more.
func (m *markup) more() error {
	if m.end-m.at > mostTag {
		return errMarkup
	}
	if err := m.fill(); err != nil {
		if errors.Is(err, io.EOF) {
			return io.ErrUnexpectedEOF
		}
		return err
	}
	return nil
}

func (m *markup) fill() error {
	if m.at > 0 {
		m.end = copy(m.buffer, m.buffer[m.at:m.end])
		m.at = 0
	}
	if m.end == len(m.buffer) {
		m.buffer = append(m.buffer, make([]byte, len(m.buffer))...)
	}
	for range 100 { // a reader may give nothing some times
		n, err := m.in.Read(m.buffer[m.end:])
		m.end += n
		if n > 0 {
			return nil
		}
		if err != nil {
			m.atEnd = errors.Is(err, io.EOF)
			return err
		}
	}
	return io.ErrNoProgress
}

// skip passes over the rest of the element that began.
func (m *markup) skip() error {
	for depth := 1; depth > 0; {
		is, err := m.next()
		if err != nil {
			return err
		}
		switch is {
		case opens:
			depth++
		case closes:
			depth--
		}
	}
	return nil
}
