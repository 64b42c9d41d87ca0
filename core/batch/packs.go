package batch

import (
	"slices"
	"strconv"

	"github.com/shopspring/decimal"
)

// What the fields are called that packing adds.
const (
	PacksField    = "packs"         // how many packs are alike
	ContentsField = "pack contents" // what each of them holds
)

// Packs splits each record by its ordered quantity into full packs and the last one, which is in part: a record of its
// own each. The size of a pack is a number, or a field that has it. A quantity that is none stays one record without
// packs. Its error is a *refusal.Error.
func Packs(fields []string, records [][]string, quantityField, size string) (made []string, rows [][]string,
	err error) {
	for _, name := range []string{PacksField, ContentsField} {
		if slices.Contains(fields, name) {
			return nil, nil, alreadyPacked.With(name)
		}
	}
	column, sizeColumn := slices.Index(fields, quantityField), slices.Index(fields, size)
	if column < 0 {
		return nil, nil, unknownQuantityField.With(quantityField)
	}
	fixed, sizeErr := decimal.NewFromString(size)
	if sizeColumn < 0 && (sizeErr != nil || !fixed.IsPositive()) {
		return nil, nil, badPackSize.With(size)
	}
	made = append(slices.Clone(fields), PacksField, ContentsField)
	put := func(record []string, packs string, contents string) error {
		if len(rows) == Most {
			return tooManyRecords.With(Most)
		}
		row := make([]string, len(fields), len(made))
		copy(row, record)
		rows = append(rows, append(row, packs, contents))
		return nil
	}
	for _, record := range records {
		ordered, err := decimal.NewFromString(valueOf(fields, record, quantityField))
		one := fixed
		if sizeColumn >= 0 && err == nil {
			one, err = decimal.NewFromString(valueOf(fields, record, size))
		}
		if err != nil || !one.IsPositive() || ordered.IsNegative() {
			if err := put(record, "0", ""); err != nil {
				return nil, nil, err
			}
			continue
		}
		full := ordered.Div(one).Floor()
		rest := ordered.Sub(full.Mul(one))
		if full.IsPositive() || rest.IsZero() {
			err = put(record, full.String(), one.String())
		}
		if err == nil && rest.IsPositive() {
			err = put(record, strconv.Itoa(1), rest.String())
		}
		if err != nil {
			return nil, nil, err
		}
	}
	return made, rows, nil
}
