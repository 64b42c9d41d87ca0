package design_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
)

// A rule is what the schema says of a value.
type rule struct {
	Ref        string `json:"$ref"`
	Type       any
	Properties map[string]*rule
	Items      *rule
	Enum       []any
	Minimum    *float64
	Maximum    *float64
	Defs       map[string]*rule `json:"$defs"`
}

// A walker goes through a document by its schema, and puts the bounds of each rule in each place, whether something
// stands there or not.
type walker struct {
	defs map[string]*rule
	try  func(path string)
}

func (w *walker) rule(r *rule) *rule {
	for r != nil && r.Ref != "" {
		r = w.defs[strings.TrimPrefix(r.Ref, "#/$defs/")]
	}
	return r
}

// bounds returns the values at the edges of what a rule allows.
func (w *walker) bounds(r *rule) (values []any) {
	values = append(values, r.Enum...)
	switch r.Type {
	case "string":
		values = append(values, "", "0", " ")
	case "integer", "number":
		values = append(values, 0.0, 1.0)
		for _, bound := range []*float64{r.Minimum, r.Maximum} {
			if bound != nil {
				values = append(values, *bound)
			}
		}
	case "boolean":
		values = append(values, false, true)
	case "array":
		values = append(values, []any{})
		if item := w.rule(r.Items); item != nil {
			for _, value := range w.bounds(item) {
				values = append(values, []any{value})
			}
		}
	case "object":
		values = append(values, map[string]any{})
		for name, property := range r.Properties {
			for _, value := range w.bounds(&rule{Type: w.rule(property).Type, Enum: w.rule(property).Enum}) {
				values = append(values, map[string]any{name: value})
			}
		}
	}
	return values
}

func (w *walker) walk(path string, r *rule, value any) {
	r = w.rule(r)
	switch value := value.(type) {
	case map[string]any:
		for _, name := range slices.Sorted(maps.Keys(r.Properties)) {
			property := w.rule(r.Properties[name])
			before, had := value[name]
			for _, bound := range w.bounds(property) {
				value[name] = bound
				w.try(fmt.Sprintf("%s.%s = %v", path, name, bound))
			}
			delete(value, name)
			w.try(path + "." + name + " left out")
			if had {
				value[name] = before
				w.walk(path+"."+name, property, before)
			}
		}
	case []any:
		for i := range value {
			w.walk(fmt.Sprintf("%s[%d]", path, i), r.Items, value[i])
		}
	}
}

// What is read can be written, and is the same when it is read again: no design is kept that cannot be opened.
func TestWhatIsWrittenIsReadAgain(t *testing.T) {
	var schema rule
	require.NoError(t, json.Unmarshal(design.Schema(), &schema))
	taken, broken := 0, []string(nil)
	document := everything(t)
	w := &walker{defs: schema.Defs, try: func(path string) {
		text, err := json.Marshal(document)
		require.NoError(t, err)
		read, err := design.Parse(text)
		if err != nil {
			return // it is refused before it is kept
		}
		taken++
		written, err := json.Marshal(read)
		require.NoError(t, err, path)
		again, err := design.Parse(written)
		if err != nil {
			broken = append(broken, fmt.Sprintf("%s: %v", path, err))
			return
		}
		same, err := json.Marshal(again)
		require.NoError(t, err, path)
		require.Equal(t, string(written), string(same), path)
	}}
	w.walk("design", &schema, document)
	require.Empty(t, broken)
	require.Greater(t, taken, 1000)
}

// everything is a document with an element of each kind and all that a design can have.
func everything(t testing.TB) (document map[string]any) {
	const text = `{"format": "oddspool.design/1", "name": "All", "fields": ["bin", "language"], "turn": 90, "reference": "2026.1",
		"stock": {"name": "76 × 38", "kind": "die-cut", "shape": "rounded", "cornerRadius": 2000, "width": 76000, "length": 38000, "gap": 3000},
		"printer": {"name": "Dock 2", "resolution": "8 dots/mm", "headDots": 832, "inks": ["black"]},
		"questions": [{"name": "batch", "kind": "text", "words": "Which batch?"}],
		"series": [{"name": "crates", "counts": {"start": "1", "step": 1}}],
		"laid": {"what": "sign", "with": {"symbols": []}}, "parts": [{"group": "g", "part": 1, "version": 1}],
		"languages": {"field": "language", "own": "en", "words": [{"text": "Lot", "in": {"de": "Los"}}]},
		"elements": [
			{"id": "words", "kind": "text", "x": 1000, "y": 1000, "width": 30000, "height": 5000, "turn": 90, "locked": true, "group": "g", "when": {"field": "bin", "is": "one of", "values": ["A"]},
				"says": [{"text": "Lot "}, {"field": "bin", "bold": true, "changes": [{"do": "upper"}]}, {"formula": "upper(bin)"}, {"element": "code"}], "text": {"typeface": "Liberation Sans", "points": 10}},
			{"id": "code", "kind": "code", "x": 1000, "y": 10000, "width": 30000, "height": 9000, "says": [{"field": "bin"}], "code": {"symbology": "code128", "module": 250, "addOn": [{"text": "12"}], "header": [{"text": ""}]}},
			{"id": "box", "kind": "box", "x": 40000, "y": 1000, "width": 9000, "height": 9000, "shape": {"dash": "dashed"}},
			{"id": "rule", "kind": "line", "x": 40000, "y": 20000, "width": 9000, "height": 250, "shape": {"dash": "dashed"}},
			{"id": "sign", "kind": "symbol", "x": 50000, "y": 1000, "width": 9000, "height": 9000, "symbol": {"id": "W001"}},
			{"id": "chip", "kind": "tag", "x": 60000, "y": 1000, "width": 9000, "height": 9000, "says": [{"text": "(01)09521234543213(21)1"}], "tag": {"scheme": "sgtin-96", "prefix": 7, "user": [{"text": ""}]}}
		]}`
	_, err := design.Parse([]byte(text))
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal([]byte(text), &document))
	return document
}
