package sources

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"iter"
	"strings"
	"unicode/utf8"

	"github.com/go-json-experiment/json/jsontext"
)

// A jsonText is the text of a JSON file (RFC 8259), which may hold several values, one behind the other.
type jsonText struct {
	data  []byte
	halfs bool              // halves of surrogate pairs are read as U+FFFD
	names map[string]string // that were met, so that each is kept once
}

// findJSON opens JSON: a list of objects, or of lists, anywhere in it, or one object a line. Numbers stay as they are
// written.
func (s *Source) findJSON(head []byte) error {
	if err := s.findEncoding(head); err != nil {
		return err
	}
	s.Kind = JSON
	data, err := io.ReadAll(s.text())
	if err != nil {
		return fmt.Errorf("read records: %w", err)
	}
	text := &jsonText{data: data, names: map[string]string{}}
	found := &lists{}
	broken := s.walkJSON(text, found)
	if half := new(halfLetterError); errors.As(broken, &half) {
		s.note("%s", half.Error())
		text.halfs, found = true, &lists{}
		broken = s.walkJSON(text, found)
	}
	if broken != nil {
		// text that only begins like some
		if len(found.paths) == 0 && !likeJSON(head) && !isCommentedJSON(bytes.TrimSpace(head)) {
			s.Kind = Text
			s.Notes = nil
			return s.findText(head)
		}
		return broken
	}
	if err := s.chooseTable(found); err != nil {
		return err
	}
	s.named = true
	names := newColumns()
	for t, err := range s.jsonRecords(text, true) {
		if err != nil {
			return err
		}
		s.alive()
		if names.learn(t); names.err != nil {
			return names.err
		}
	}
	if len(names.names) == 0 {
		return &FileError{Text: fmt.Sprintf("The list %s has no records with values in it.", s.Settings.Table)}
	}
	if names.again != "" {
		s.note("%q stands several times in one record, the first of them record %d: each has a field of its own.",
			names.again, names.againIn)
	}
	s.rows = func() (rowReader, error) {
		next, stop := iter.Pull2(s.jsonRecords(text, false))
		return &treeRows{columns: names, read: func() (*tree, error) {
			t, err, some := next()
			if !some || err != nil {
				stop()
			}
			if !some {
				return nil, io.EOF
			}
			return t, err
		}}, nil
	}
	return nil
}

// likeJSON tells whether a text is meant to be JSON, though it is broken off or has a mistake.
func likeJSON(head []byte) bool {
	decoder := (&jsonText{data: head, halfs: true}).decoder()
	first, _ := decoder.ReadToken()
	opens := first.Kind()
	second, err := decoder.ReadToken()
	return err == nil && (opens == '{' && second.Kind() == '"' || opens == '[' &&
		(second.Kind() == '{' || second.Kind() == '['))
}

func (t *jsonText) decoder() *jsontext.Decoder {
	return jsontext.NewDecoder(bytes.NewBuffer(t.data), jsontext.AllowDuplicateNames(true),
		jsontext.AllowInvalidUTF8(t.halfs))
}

// A halfLetterError says that a text has half of a letter.
type halfLetterError struct {
	line int
	half string
}

func (e *halfLetterError) Error() string {
	return fmt.Sprintf("The text in line %d has %s, half of a letter whose other half is missing. This and all like "+
		"it are read as “\uFFFD”: correct them, or have the file written anew.", e.line, e.half)
}

// broken says what is wrong in JSON.
func (t *jsonText) broken(err error) error {
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		return &FileError{Text: "The JSON is broken off: it ends before its lists are closed. Export it anew."}
	}
	at := 0
	if syntax := new(jsontext.SyntacticError); errors.As(err, &syntax) {
		at = min(int(syntax.ByteOffset), len(t.data)-1)
	}
	line := 1 + bytes.Count(t.data[:at], []byte("\n"))
	rest := t.data[at:]
	if half := halfOf(rest); half != "" {
		return &halfLetterError{line, half}
	}
	letter, size := utf8.DecodeRune(rest)
	if letter == utf8.RuneError && size <= 1 {
		return &FileError{Line: line, Text: "The file is not UTF-8 here. Choose another encoding, such as " +
			"Windows-1252."}
	}
	return &FileError{Line: line, Text: "The JSON has a mistake here: " + mistake(rest, letter,
		bytes.TrimRight(t.data[:at], " \t\r\n")) + "."}
}

// mistake says why a letter cannot stand where it does in JSON, with the text from it on and the one before it.
func mistake(rest []byte, letter rune, before []byte) string {
	isLetter := func(r rune) bool { return r >= 'A' && r <= 'Z' || r >= 'a' && r <= 'z' }
	if behind := bytes.TrimLeft(rest[1:], " \t\r\n"); letter == ',' && len(behind) > 0 &&
		(behind[0] == '}' || behind[0] == ']') {
		return fmt.Sprintf("a comma before “%c”, with nothing behind it. Take the comma out", behind[0])
	}
	switch {
	case bytes.HasPrefix(rest, []byte("//")) || bytes.HasPrefix(rest, []byte("/*")) || letter == '#':
		return "a comment, which JSON does not have (RFC 8259). Take the comments out"
	case (letter == '{' || letter == '[' || letter == '"') && len(before) > 0 &&
		!bytes.ContainsRune([]byte(",:[{"), rune(before[len(before)-1])):
		return fmt.Sprintf("a comma lacks before “%c”", letter)
	case letter == '\'' || letter == '‘' || letter == '“':
		return fmt.Sprintf("“%c” where a quotation mark \" should stand", letter)
	case letter == '\\':
		return fmt.Sprintf("“%s” in a text means nothing in JSON", rest[:min(len(rest), 2)])
	case letter < ' ':
		return fmt.Sprintf("a control character (U+%04X) within a text, such as the end of a line. Write it as \\u%04x",
			letter, letter)
	case letter >= '0' && letter <= '9' || letter == '.' || letter == '+':
		return "a number that is not written as JSON has it, such as 007 or .5. Write it between quotation marks"
	case isLetter(letter):
		word := rest[:min(len(rest), 20)]
		if end := bytes.IndexFunc(word, func(r rune) bool { return !isLetter(r) }); end > 0 {
			word = word[:end]
		}
		return fmt.Sprintf("“%s” stands here without quotation marks. Only true, false and null do", word)
	}
	return fmt.Sprintf("“%c” cannot stand here", letter)
}

// halfOf returns the escaped half of a surrogate pair (RFC 8259, 7) that stands there without its other half, as it is
// written; empty: none does.
func halfOf(text []byte) string {
	const escaped = len(`\uD800`)
	if len(text) < escaped || text[0] != '\\' || text[1] != 'u' || text[2] != 'd' && text[2] != 'D' ||
		!strings.ContainsRune("89abcdefABCDEF", rune(text[3])) {
		return ""
	}
	return string(text[:escaped])
}

// walkJSON looks all values through and counts the records of each list.
func (s *Source) walkJSON(text *jsonText, found *lists) error {
	decoder := text.decoder()
	var walk func(path string, depth int) error
	walk = func(path string, depth int) error {
		if depth > mostDepth {
			return &FileError{Text: fmt.Sprintf("The JSON has more than %d levels.", mostDepth)}
		}
		kind := decoder.PeekKind()
		if kind != '{' && kind != '[' {
			return decoder.SkipValue()
		}
		if _, err := decoder.ReadToken(); err != nil {
			return err
		}
		records := 0
		for {
			next := decoder.PeekKind()
			if next == '}' || next == ']' {
				break
			}
			under := path
			if kind == '{' {
				name, err := text.name(decoder)
				if err != nil {
					return err
				}
				if next = decoder.PeekKind(); next == '{' || next == '[' {
					under += "/" + name
				}
			} else if next == '{' || next == '[' {
				records++
				s.alive()
			}
			if err := walk(under, depth+1); err != nil {
				return err
			}
		}
		if records > 0 {
			found.add(orRoot(path), records)
		}
		_, err := decoder.ReadToken() // what closes it
		return err
	}
	lines := 0
	for ; ; lines++ {
		s.alive()
		if lines > 0 && decoder.PeekKind() == 0 {
			if _, err := decoder.ReadToken(); errors.Is(err, io.EOF) {
				break
			}
		}
		if err := walk("", 0); err != nil {
			if refused := new(FileError); errors.As(err, &refused) {
				return err
			}
			return text.broken(err)
		}
	}
	if lines > 1 { // one object a line
		found.paths, found.counts = nil, nil
		found.add("/", lines)
	} else if len(found.paths) == 0 {
		found.add("/", 1) // one object alone is one record
	}
	return nil
}

// name reads the name of a value.
func (t *jsonText) name(decoder *jsontext.Decoder) (string, error) {
	raw, err := decoder.ReadValue()
	if err != nil {
		return "", err
	}
	if name, known := t.names[string(raw)]; known {
		return name, nil
	}
	name := unquoted(raw)
	const most = 10_000 // a file may have a new name in each record
	if t.names != nil && len(t.names) < most {
		t.names[string(raw)] = name
	}
	return name, nil
}

func orRoot(path string) string {
	if path == "" {
		return "/"
	}
	return path
}

// jsonRecords reads the records of the chosen list one by one; each holds until the next. Those that are bare have
// their names alone, which is quicker. A list that stands in each record of another has the values of those records
// too: the lines of an order its number.
func (s *Source) jsonRecords(text *jsonText, bare bool) iter.Seq2[*tree, error] {
	holder := ""
	for _, path := range s.Tables {
		if strings.HasPrefix(s.Settings.Table, strings.TrimSuffix(path, "/")+"/") && path != s.Settings.Table &&
			len(path) > len(holder) {
			holder = path
		}
	}
	if holder == "" {
		return text.records(s.Settings.Table, bare)
	}
	name := strings.ReplaceAll(strings.Trim(strings.TrimPrefix(s.Settings.Table, holder), "/"), "/", " ")
	called := holder[strings.LastIndex(holder, "/")+1:]
	return func(yield func(*tree, error) bool) {
		for record, err := range text.records(holder, false) {
			if err != nil {
				yield(nil, err)
				return
			}
			if !text.within(record, name, called, yield) {
				return
			}
		}
	}
}

// within gives the records of a list that a record holds under a name, each with the record's other values; false: that
// is enough.
func (t *jsonText) within(record *tree, name, called string, yield func(*tree, error) bool) bool {
	for i, text := range record.values {
		if record.names[i] != name || !strings.HasPrefix(text, "[") {
			continue
		}
		list := &jsonText{data: []byte(text), halfs: true, names: t.names}
		decoder := list.decoder()
		_, err := decoder.ReadToken()
		for err == nil && decoder.PeekKind() != ']' {
			inner := &tree{}
			if decoder.PeekKind() == '{' {
				err = list.flatten(decoder, inner, "", false)
			} else {
				err = put(decoder, inner, "value", false)
			}
			for j, value := range record.values {
				if j != i {
					inner.put(inside(called, record.names[j]), value)
				}
			}
			if err == nil && !yield(inner, nil) {
				return false
			}
		}
		if err != nil {
			return yield(nil, list.broken(err))
		}
	}
	return true
}

// records reads the records of a list one by one; where it stands in each of several objects, one behind the other.
func (t *jsonText) records(table string, bare bool) iter.Seq2[*tree, error] {
	return func(yield func(*tree, error) bool) {
		r := &listReader{jsonText: t, decoder: t.decoder(), table: table, bare: bare, yield: yield}
		lines := table == "/" && t.decoder().PeekKind() != '['
		for {
			if r.decoder.PeekKind() == 0 {
				if _, err := r.decoder.ReadToken(); !errors.Is(err, io.EOF) {
					yield(nil, t.broken(err))
				}
				return
			}
			var err error
			if lines { // each is a record
				err = r.record()
			} else {
				err = r.walk("")
			}
			if errors.Is(err, errEnough) {
				return
			}
			if err != nil {
				yield(nil, t.broken(err))
				return
			}
		}
	}
}
