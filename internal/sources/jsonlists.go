package sources

import (
	"bytes"
	"errors"
	"fmt"
	"strings"
	"unicode/utf8"

	"github.com/go-json-experiment/json/jsontext"
)

// A listReader gives the records of a list to yield.
type listReader struct {
	*jsonText
	decoder *jsontext.Decoder
	table   string // path of the list
	bare    bool
	names   []string // of a list of lists: its first row
	named   bool     // which has come
	tree    tree
	yield   func(*tree, error) bool
}

var errEnough = errors.New("no more records are wanted")

// walk gives the records of all lists at the table's path in a value.
func (r *listReader) walk(path string) error {
	kind := r.decoder.PeekKind()
	if kind != '{' && kind != '[' {
		return r.decoder.SkipValue()
	}
	if _, err := r.decoder.ReadToken(); err != nil {
		return err
	}
	for {
		next := r.decoder.PeekKind()
		if next == '}' || next == ']' {
			break
		}
		var err error
		switch {
		case kind == '[' && orRoot(path) == r.table:
			err = r.record()
		case kind == '[':
			err = r.walk(path)
		default:
			var name string
			if name, err = r.name(r.decoder); err != nil {
				return err
			}
			if next = r.decoder.PeekKind(); next == '{' || next == '[' {
				err = r.walk(path + "/" + name)
			} else {
				err = r.decoder.SkipValue()
			}
		}
		if err != nil {
			return err
		}
	}
	_, err := r.decoder.ReadToken()
	return err
}

// record gives the next value as a record, unless it is the row of names of a list of lists.
func (r *listReader) record() error {
	t := &r.tree
	t.names, t.values = t.names[:0], t.values[:0]
	var err error
	switch r.decoder.PeekKind() {
	case '{':
		err = r.flatten(r.decoder, t, "", r.bare)
	case '[':
		if _, err = r.decoder.ReadToken(); err != nil {
			return err
		}
		for err == nil && r.decoder.PeekKind() != ']' {
			err = put(r.decoder, t, r.called(len(t.values)), false)
		}
		if err == nil {
			_, err = r.decoder.ReadToken()
		}
		if err == nil && !r.named {
			r.named, r.names = true, append(r.names, t.values...)
			return nil
		}
	default:
		err = put(r.decoder, t, "value", r.bare)
	}
	if err == nil && !r.yield(t, nil) {
		err = errEnough
	}
	return err
}

// called names a value of a list in a list by the row of names.
func (r *listReader) called(i int) string {
	if i < len(r.names) && strings.TrimSpace(r.names[i]) != "" {
		return r.names[i]
	}
	return fmt.Sprintf("column %d", i+1)
}

// flatten puts the values of an object into a tree by their names, those within others by all names that lead to them.
func (t *jsonText) flatten(decoder *jsontext.Decoder, into *tree, holder string, bare bool) error {
	if _, err := decoder.ReadToken(); err != nil {
		return err
	}
	for decoder.PeekKind() != '}' {
		name, err := t.name(decoder)
		if err != nil {
			return err
		}
		name = inside(holder, name)
		if decoder.PeekKind() == '{' {
			err = t.flatten(decoder, into, name, bare)
		} else {
			err = put(decoder, into, name, bare)
		}
		if err != nil {
			return err
		}
	}
	_, err := decoder.ReadToken()
	return err
}

// put puts a value into a tree as text: texts as they say, numbers as they are written, nothing for null or where it is
// bare, lists as JSON.
func put(decoder *jsontext.Decoder, into *tree, name string, bare bool) error {
	if bare {
		into.put(name, "")
		return decoder.SkipValue()
	}
	raw, err := decoder.ReadValue()
	if err != nil {
		return err
	}
	switch raw.Kind() {
	case '"':
		into.put(name, unquoted(raw))
	case 'n':
		into.put(name, "")
	case '[', '{':
		list := raw.Clone()
		if err := list.Compact(jsontext.AllowInvalidUTF8(true), jsontext.AllowDuplicateNames(true)); err != nil {
			return err
		}
		into.put(name, string(list))
	default:
		into.put(name, string(raw))
	}
	return nil
}

// unquoted returns what a text says.
func unquoted(raw jsontext.Value) string {
	if within := raw[1 : len(raw)-1]; bytes.IndexByte(within, '\\') < 0 && utf8.Valid(within) {
		return string(within)
	}
	text, _ := jsontext.AppendUnquote(nil, raw) // halves of letters become U+FFFD, as was told
	return string(text)
}
