package sources

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
)

// findJSON opens JSON (RFC 8259): a list of objects, or of lists, anywhere in it, or one object a line. Numbers stay as they are written.
func (s *Source) findJSON(head []byte) error {
	if err := s.findEncoding(head); err != nil {
		return err
	}
	s.Kind = JSON
	found := &lists{}
	broken := s.walkJSON(found)
	if broken != nil {
		if len(found.paths) == 0 && !likeJSON(head) { // text that only begins like some
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
	records, err := s.jsonRecords()
	for err == nil {
		var t *tree
		if t, err = records(); err == nil {
			if names.learn(t); names.err != nil {
				return names.err
			}
		}
	}
	if !errors.Is(err, io.EOF) {
		return err
	}
	if len(names.names) == 0 {
		return &FileError{Text: fmt.Sprintf("The list %s has no values with names.", s.Settings.Table)}
	}
	s.rows = func() (rowReader, error) {
		read, err := s.jsonRecords()
		return &treeRows{columns: names, read: read}, err
	}
	return nil
}

// likeJSON tells whether a text is meant to be JSON, though it is broken off or has a mistake.
func likeJSON(head []byte) bool {
	decoder := json.NewDecoder(bytes.NewReader(head))
	first, _ := decoder.Token()
	second, err := decoder.Token()
	_, isName := second.(string)
	return err == nil && (first == json.Delim('{') && isName && json.Valid([]byte(`"`+second.(string)+`"`)) || first == json.Delim('[') && (second == json.Delim('{') || second == json.Delim('[')))
}

func (s *Source) decoder() *json.Decoder {
	decoder := json.NewDecoder(bufio.NewReaderSize(s.text(), 256<<10))
	decoder.UseNumber()
	return decoder
}

// brokenJSON says what is wrong in JSON.
func (s *Source) brokenJSON(decoder *json.Decoder, err error) error {
	at := decoder.InputOffset()
	if syntax := new(json.SyntaxError); errors.As(err, &syntax) {
		at = max(at, syntax.Offset)
	}
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		return &FileError{Text: "The JSON is broken off: it ends before its lists are closed. Export it anew."}
	}
	lines := 1
	if data, readErr := io.ReadAll(io.LimitReader(s.text(), at)); readErr == nil {
		lines += bytes.Count(data, []byte("\n"))
	}
	return &FileError{Line: lines, Text: fmt.Sprintf("The JSON has a mistake here: %v.", err)}
}

// walkJSON looks all values through and counts the records of each list.
func (s *Source) walkJSON(found *lists) error {
	decoder := s.decoder()
	var walk func(path string, depth int, first json.Token) error
	next := func() (json.Token, error) {
		token, err := decoder.Token()
		if err != nil {
			err = s.brokenJSON(decoder, err)
		}
		return token, err
	}
	walk = func(path string, depth int, first json.Token) error {
		if depth > mostDepth {
			return &FileError{Text: fmt.Sprintf("The JSON has more than %d levels.", mostDepth)}
		}
		switch first {
		case json.Delim('{'):
			for decoder.More() {
				name, err := next()
				if err != nil {
					return err
				}
				value, err := next()
				if err != nil {
					return err
				}
				if err := walk(path+"/"+fmt.Sprint(name), depth+1, value); err != nil {
					return err
				}
			}
		case json.Delim('['):
			records := 0
			for decoder.More() {
				value, err := next()
				if err != nil {
					return err
				}
				if value == json.Delim('{') || value == json.Delim('[') {
					records++
				}
				if err := walk(path, depth+1, value); err != nil {
					return err
				}
			}
			if records > 0 {
				found.add(orRoot(path), records)
			}
		default:
			return nil
		}
		_, err := next() // what closes it
		return err
	}
	lines := 0
	for {
		first, err := decoder.Token()
		if errors.Is(err, io.EOF) && lines > 0 {
			break
		}
		if err != nil {
			return s.brokenJSON(decoder, err)
		}
		if err := walk("", 0, first); err != nil {
			return err
		}
		lines++
	}
	if lines > 1 { // one object a line
		found.paths, found.counts = nil, nil
		found.add("/", lines)
	} else if len(found.paths) == 0 {
		found.add("/", 1) // one object alone is one record
	}
	return nil
}

func orRoot(path string) string {
	if path == "" {
		return "/"
	}
	return path
}

// jsonRecords reads the records of the chosen list one by one. A list that stands in each record of another has the values of those
// records too: the lines of an order its number.
func (s *Source) jsonRecords() (func() (*tree, error), error) {
	holder := ""
	for _, path := range s.Tables {
		if strings.HasPrefix(s.Settings.Table, strings.TrimSuffix(path, "/")+"/") && path != s.Settings.Table && len(path) > len(holder) {
			holder = path
		}
	}
	if holder == "" {
		return s.plainRecords(s.Settings.Table)
	}
	outer, err := s.plainRecords(holder)
	if err != nil {
		return nil, err
	}
	name := strings.ReplaceAll(strings.Trim(strings.TrimPrefix(s.Settings.Table, holder), "/"), "/", " ")
	called := holder[strings.LastIndex(holder, "/")+1:]
	var waiting []*tree
	return func() (*tree, error) {
		for len(waiting) == 0 {
			record, err := outer()
			if err != nil {
				return nil, err
			}
			if waiting, err = within(record, name, called); err != nil {
				return nil, err
			}
		}
		next := waiting[0]
		waiting = waiting[1:]
		return next, nil
	}, nil
}

// within returns the records of a list that a record holds under a name, each with the record's other values.
func within(record *tree, name, called string) (all []*tree, err error) {
	for i, text := range record.values {
		if record.names[i] != name || !strings.HasPrefix(text, "[") {
			continue
		}
		var list []json.RawMessage
		if err := json.Unmarshal([]byte(text), &list); err != nil {
			return nil, &FileError{Text: "The JSON cannot be read."}
		}
		for _, raw := range list {
			t := &tree{}
			if raw[0] != '{' {
				t.put("value", scalar(raw))
			} else if err := flatten(t, "", raw); err != nil {
				return nil, err
			}
			for j, value := range record.values {
				if j != i {
					t.put(inside(called, record.names[j]), value)
				}
			}
			all = append(all, t)
		}
	}
	return all, nil
}

// A listReader reads the records of a list one by one; where it stands in each of several objects, one behind the other.
type listReader struct {
	*json.Decoder
	source *Source
	table  string // path of the list
	lines  bool   // each line is a record
	open   []level
	name   string   // of the value that comes
	named  bool     // it has one
	names  []string // of a list of lists: its first row
}

// A level is an object or list in which the reader stands.
type level struct {
	path  string
	array bool
}

func (s *Source) plainRecords(table string) (func() (*tree, error), error) {
	r := &listReader{Decoder: s.decoder(), source: s, table: table, lines: table == "/" && !s.startsWithList()}
	return r.next, nil
}

// next returns the next record; io.EOF after the last.
func (r *listReader) next() (*tree, error) {
	for {
		if !(r.inList() && r.More() || r.lines && len(r.open) == 0) {
			if err := r.step(); err != nil {
				return nil, err
			}
			continue
		}
		raw, err := rawValue(r.Decoder)
		if errors.Is(err, io.EOF) && r.lines {
			return nil, io.EOF
		}
		if err != nil {
			return nil, r.source.brokenJSON(r.Decoder, err)
		}
		if record, err := r.record(raw); record != nil || err != nil {
			return record, err
		}
	}
}

// inList tells whether the values that come are those of the list.
func (r *listReader) inList() bool {
	if len(r.open) == 0 {
		return false
	}
	top := r.open[len(r.open)-1]
	return top.array && orRoot(top.path) == r.table
}

// record makes a record of a value; nil: it is the row of names of a list of lists.
func (r *listReader) record(raw json.RawMessage) (*tree, error) {
	t := &tree{}
	switch raw[0] {
	case '{':
		return t, flatten(t, "", raw)
	case '[':
		row, err := flatRow(raw)
		if err != nil {
			return nil, err
		}
		called := func(i int) string {
			if i < len(r.names) && strings.TrimSpace(r.names[i]) != "" {
				return r.names[i]
			}
			return fmt.Sprintf("column %d", i+1)
		}
		if r.names == nil {
			r.names = append([]string{}, row...)
			return nil, nil //nolint:nilnil // it is no record, and that is no error
		}
		for i, value := range row {
			t.put(called(i), value)
		}
		return t, nil
	}
	t.put("value", scalar(raw))
	return t, nil
}

// step goes into what opens, out of what closes, and over what stands beside the list.
func (r *listReader) step() error {
	token, err := r.Token()
	if errors.Is(err, io.EOF) {
		return io.EOF
	}
	if err != nil {
		return r.source.brokenJSON(r.Decoder, err)
	}
	inObject, path := false, ""
	if len(r.open) > 0 {
		top := r.open[len(r.open)-1]
		inObject, path = !top.array, top.path
	}
	if inObject && r.named {
		path += "/" + r.name
	}
	text, isText := token.(string)
	switch {
	case token == json.Delim('{') || token == json.Delim('['):
		r.open = append(r.open, level{path, token == json.Delim('[')})
		r.named = false
	case token == json.Delim('}') || token == json.Delim(']'):
		r.open = r.open[:len(r.open)-1]
		r.named = false
	case isText && inObject && !r.named:
		r.name, r.named = text, true
	default:
		r.named = false
	}
	return nil
}

func (s *Source) startsWithList() bool {
	token, err := s.decoder().Token()
	return err == nil && token == json.Delim('[')
}

func rawValue(decoder *json.Decoder) (raw json.RawMessage, err error) {
	return raw, decoder.Decode(&raw)
}

// flatten puts the values of an object into a tree by their names, those within others by all names that lead to them.
func flatten(t *tree, holder string, raw []byte) error {
	decoder := json.NewDecoder(bytes.NewReader(raw))
	if _, err := decoder.Token(); err != nil {
		return &FileError{Text: "The JSON cannot be read."}
	}
	for decoder.More() {
		token, err := decoder.Token()
		if err != nil {
			return &FileError{Text: "The JSON cannot be read."}
		}
		value, err := rawValue(decoder)
		if err != nil {
			return &FileError{Text: "The JSON cannot be read."}
		}
		name := inside(holder, fmt.Sprint(token))
		if value[0] != '{' {
			t.put(name, scalar(value))
		} else if err := flatten(t, name, value); err != nil {
			return err
		}
	}
	return nil
}

// flatRow returns the values of a list.
func flatRow(raw []byte) (row []string, err error) {
	var values []json.RawMessage
	if err := json.Unmarshal(raw, &values); err != nil {
		return nil, &FileError{Text: "The JSON cannot be read."}
	}
	for _, value := range values {
		row = append(row, scalar(value))
	}
	return row, nil
}

// scalar returns a value as text: texts as they say, numbers as they are written, nothing for null, lists as JSON.
func scalar(raw json.RawMessage) string {
	switch raw[0] {
	case '"':
		var text string
		_ = json.Unmarshal(raw, &text)
		return text
	case 'n':
		return ""
	case '[':
		var out bytes.Buffer
		_ = json.Compact(&out, raw)
		return out.String()
	}
	return string(raw)
}
