package orderdesk

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
)

// decode reads an answer; numbers stay as they are written.
func decode(data []byte, into any) error {
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	if err := decoder.Decode(into); err != nil {
		return &Error{Text: fmt.Sprintf("The order desk's answer is not what was agreed: %v.",
			strings.TrimPrefix(err.Error(), "json: ")), err: err}
	}
	return nil
}

// object is one of the answer, with whatever members it has.
type object map[string]any

// values puts its members that are single values into a record, as text, with what stands before their names.
func (o object) values(before string, into map[string]string) {
	for name, value := range o {
		switch v := value.(type) {
		case nil:
		case string:
			into[before+name] = v
		case json.Number:
			into[before+name] = v.String()
		case bool:
			into[before+name] = fmt.Sprint(v)
		}
	}
}

// known is the order in which fields stand that the contract names; others follow by name.
var known = []string{"order", "receipt", "date", "party number", "party name", "party street", "party postcode",
	"party town", "party country",
	"line", "item", "name", "gtin", "lot", Quantity, "unit", "onHand", "price", "currency"}

// table makes records of what objects say.
func table(records []map[string]string) (fields []string, rows [][]string) {
	all := map[string]bool{}
	for _, record := range records {
		for name := range record {
			all[name] = true
		}
	}
	for _, name := range known {
		if all[name] {
			fields = append(fields, name)
			delete(all, name)
		}
	}
	fields = append(fields, slices.Sorted(maps.Keys(all))...)
	for _, record := range records {
		row := make([]string, len(fields))
		for i, name := range fields {
			row[i] = record[name]
		}
		rows = append(rows, row)
	}
	return fields, rows
}

// Quantity is the field of how many are ordered, or came.
const Quantity = "quantity"

// LineField returns the field that tells the lines of a document, or items, apart.
func (q *Question) LineField() string {
	if q.Kind == Items {
		return "item"
	}
	return "line"
}
