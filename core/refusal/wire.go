package refusal

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
)

// wired is a refusal as it goes from one process to another.
type wired struct {
	Code   string `json:"code"`
	Values []any  `json:"values"`
}

// GobEncode writes a refusal for another process of this program. Values that are neither numbers nor texts go as
// people read them.
func (e *Error) GobEncode() ([]byte, error) {
	w := wired{Code: e.Kind.Code}
	for i, value := range e.Values {
		switch value.(type) {
		case string, bool, int, int64, float64:
		default:
			verb := "%v"
			if i < len(e.Kind.values) {
				verb = e.Kind.values[i].verb
			}
			value = fmt.Sprintf(verb, value)
		}
		w.Values = append(w.Values, value)
	}
	return json.Marshal(w)
}

// GobDecode reads what GobEncode wrote. Its error says that no such kind is defined here, or is one of package json.
func (e *Error) GobDecode(data []byte) error {
	var w wired
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	if err := decoder.Decode(&w); err != nil {
		return fmt.Errorf("read a refusal: %w", err)
	}
	if e.Kind = kinds[w.Code]; e.Kind == nil {
		return fmt.Errorf("read a refusal: no kind %q is defined", w.Code)
	}
	e.Values = w.Values
	for i, value := range e.Values {
		number, is := value.(json.Number)
		if !is {
			continue
		}
		if whole, err := number.Int64(); err == nil && !e.Kind.fractional(i) {
			e.Values[i] = whole
		} else if fraction, err := number.Float64(); err == nil {
			e.Values[i] = fraction
		}
	}
	return nil
}

// fractional tells whether a sentence takes a value as a number with decimals.
func (k *Kind) fractional(i int) bool {
	return i < len(k.values) && strings.ContainsAny(k.values[i].verb[len(k.values[i].verb)-1:], "fge")
}
