//go:build !js

package design

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
)

var compiled = sync.OnceValue(func() *jsonschema.Schema {
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(schemaText))
	if err != nil {
		panic(err) // the schema is part of this package and its tests
	}
	compiler := jsonschema.NewCompiler()
	if err := compiler.AddResource("design.schema.json", document); err != nil {
		panic(err)
	}
	return compiler.MustCompile("design.schema.json")
})

// Parse reads a design document. Its error is a *SyntaxError, *FutureError or *FaultsError.
// Elements that reach off the label are no error here: proof finds them, and a person can move
// them back.
func Parse(data []byte) (*Design, error) {
	data = bytes.TrimPrefix(data, []byte("\ufeff"))
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		return nil, syntaxError(data, err)
	}
	if object, ok := document.(map[string]any); ok {
		format, _ := object["format"].(string)
		if strings.HasPrefix(format, "oddspool.design/") && format != Format {
			return nil, &FutureError{Format: format}
		}
	}
	var invalid *jsonschema.ValidationError
	if err := compiled().Validate(document); errors.As(err, &invalid) {
		return nil, &FaultsError{Faults: appendFaults(nil, invalid)}
	} else if err != nil {
		return nil, fmt.Errorf("check design against its schema: %w", err)
	}
	return Trusted(data)
}

func syntaxError(data []byte, err error) error {
	offset := int64(len(data))
	var syntax *json.SyntaxError
	if errors.As(err, &syntax) {
		offset = min(syntax.Offset, offset)
	}
	before := data[:offset]
	line := bytes.Count(before, []byte("\n")) + 1
	column := len(before) - (bytes.LastIndexByte(before, '\n') + 1)
	return &SyntaxError{Line: line, Column: max(column, 1), Err: err}
}

// appendFaults flattens a tree of schema errors into one fault a place, unknown fields named.
func appendFaults(faults []Fault, e *jsonschema.ValidationError) []Fault {
	path := pathOf(e.InstanceLocation)
	switch k := e.ErrorKind.(type) {
	case *kind.AdditionalProperties:
		for _, name := range k.Properties {
			faults = append(faults, Fault{strings.TrimPrefix(path+"."+name, "design."),
				"there is no such field in " + Format})
		}
		return faults
	case *kind.OneOf: // only pieces have alternatives
		return append(faults, Fault{path,
			"a piece is a text, a field, a formula or what another element says: one of them"})
	}
	if len(e.Causes) == 0 {
		return append(faults, Fault{path, inWords(e.ErrorKind)})
	}
	for _, cause := range e.Causes {
		faults = appendFaults(faults, cause)
	}
	return faults
}

func pathOf(location []string) string {
	var path strings.Builder
	for _, part := range location {
		if strings.Trim(part, "0123456789") == "" {
			path.WriteString("[" + part + "]")
		} else {
			if path.Len() > 0 {
				path.WriteByte('.')
			}
			path.WriteString(part)
		}
	}
	if path.Len() == 0 {
		return "design"
	}
	return path.String()
}
