package store

import (
	"database/sql/driver"
	"encoding/json"
	"fmt"
)

// JSON is a document as stored: one that others read, and that may be too large to be read for nothing.
type JSON []byte

// Scan implements sql.Scanner.
func (j *JSON) Scan(source any) error {
	switch v := source.(type) {
	case nil:
		*j = nil
	case []byte:
		*j = append((*j)[:0:0], v...)
	case string:
		*j = JSON(v)
	default:
		return fmt.Errorf("JSON from %T", source)
	}
	return nil
}

// A Kept is a value that is stored as a JSON document, in the manner of sql.Null. Where there is none it is the zero
// value.
type Kept[T any] struct{ V T }

// Scan implements sql.Scanner.
func (k *Kept[T]) Scan(source any) error {
	var document JSON
	if err := document.Scan(source); err != nil {
		return err
	}
	*k = Kept[T]{}
	if document == nil {
		return nil
	}
	if err := json.Unmarshal(document, &k.V); err != nil {
		return fmt.Errorf("read a kept %T: %w", k.V, err)
	}
	return nil
}

// Value implements driver.Valuer.
func (k Kept[T]) Value() (driver.Value, error) {
	document, err := json.Marshal(k.V)
	if err != nil {
		return nil, fmt.Errorf("write a %T: %w", k.V, err)
	}
	return string(document), nil
}
