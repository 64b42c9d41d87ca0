package stock

import (
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"strconv"
	"strings"

	"oddspool/core/measure"
	"oddspool/core/tables"
)

// columns are those that every table of stocks begins with, in this order; others follow by name.
var columns = []string{"number", "name", "kind", "material", "purpose", "colour", "shape", "width", "length", "gap",
	"edgeLeft", "edgeRight"}

// counts are the columns of whole numbers that are no lengths.
var counts = []string{"lanes", "perRoll", "sleeve.faces", "sheet.columns", "sheet.rows"}

// lists are the columns that hold JSON.
var lists = []string{"reacts", "plate.holes"}

// WriteTable writes stocks as separated values (RFC 4180): a row each, a column for each figure by
// its name in JSON with a point between part and figure, and lengths in millimetres.
func WriteTable(w io.Writer, stocks []Stock) error {
	rows := make([]map[string]string, len(stocks))
	names := map[string]bool{}
	for i, s := range stocks {
		document, err := json.Marshal(s)
		if err != nil {
			return fmt.Errorf("write stock %s: %w", s.Number, err)
		}
		var about map[string]any
		if err := json.Unmarshal(document, &about); err != nil {
			return fmt.Errorf("write stock %s: %w", s.Number, err)
		}
		rows[i] = map[string]string{}
		flatten(rows[i], "", about)
		for name := range rows[i] {
			names[name] = true
		}
	}
	header := slices.Clone(columns)
	for _, name := range slices.Sorted(maps.Keys(names)) {
		if !slices.Contains(columns, name) {
			header = append(header, name)
		}
	}
	out := tables.NewWriter(w)
	if err := out.Write(header); err != nil {
		return fmt.Errorf("write stocks: %w", err)
	}
	for _, row := range rows {
		record := make([]string, len(header))
		for i, name := range header {
			record[i] = row[name]
		}
		if err := out.Write(record); err != nil {
			return fmt.Errorf("write stocks: %w", err)
		}
	}
	return out.Flush()
}

// Limits of a table of stocks.
const (
	MostStocks  = 2000
	mostColumns = 200
)

func flatten(row map[string]string, before string, about map[string]any) {
	for name, value := range about {
		name = before + name
		switch v := value.(type) {
		case map[string]any:
			if len(v) == 0 {
				row[name] = "{}"
			}
			flatten(row, name+".", v)
		case []any:
			text, _ := json.Marshal(v) // of values that came from JSON
			row[name] = string(text)
		case float64:
			if slices.Contains(counts, name) {
				row[name] = strconv.FormatFloat(v, 'f', -1, 64)
			} else {
				row[name] = strconv.FormatFloat(v/1000, 'f', -1, 64)
			}
		default:
			row[name] = fmt.Sprint(v)
		}
	}
}

// A RowError says what about a row of a table is no stock.
type RowError struct {
	Row    int // from 1, the header is not counted
	Number string
	Text   string
}

func (e *RowError) Error() string {
	if e.Number == "" {
		return fmt.Sprintf("row %d: %s", e.Row, e.Text)
	}
	return fmt.Sprintf("row %d, %s: %s", e.Row, e.Number, e.Text)
}

// ReadTable reads what WriteTable writes. Rows that are no stocks are left out, and said why; an
// error is of the whole table.
func ReadTable(r io.Reader) (stocks []Stock, wrong []*RowError, err error) {
	in := csv.NewReader(r)
	in.FieldsPerRecord = -1
	var rows [][]string
	for {
		row, err := in.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, nil, fmt.Errorf("this is no table of stocks: %w", err)
		}
		if len(rows) > MostStocks || len(row) > mostColumns {
			return nil, nil, fmt.Errorf("this is too large for a table of stocks: up to %d stocks of %d columns "+
				"are read", MostStocks, mostColumns)
		}
		rows = append(rows, row)
	}
	if len(rows) == 0 || !slices.Contains(rows[0], "number") {
		return nil, nil, fmt.Errorf("this is no table of stocks: its first row must name the columns, with “number” " +
			"among them")
	}
	for i, record := range rows[1:] {
		s, number, text := fromRow(rows[0], record)
		if text == "" {
			if reasons := s.Check(); reasons != nil {
				text = reasons[0].Text
			}
		}
		if text != "" {
			wrong = append(wrong, &RowError{i + 1, number, text})
			continue
		}
		stocks = append(stocks, s)
	}
	return stocks, wrong, nil
}

// fromRow makes a stock of a row; text says why it cannot.
func fromRow(header, record []string) (s Stock, number, text string) {
	about := map[string]any{}
	for i, name := range header {
		if i >= len(record) || strings.TrimSpace(record[i]) == "" {
			continue
		}
		value, wrong := typed(name, tables.Written(strings.TrimSpace(record[i])))
		if wrong != "" {
			return s, number, wrong
		}
		if name == "number" {
			number, _ = value.(string)
		}
		part, figure, nested := strings.Cut(name, ".")
		if !nested {
			if value != nil {
				about[name] = value
			}
			continue
		}
		inner, _ := about[part].(map[string]any)
		if inner == nil {
			inner = map[string]any{}
		}
		inner[figure] = value
		about[part] = inner
	}
	document, err := json.Marshal(about)
	if err != nil {
		return s, number, err.Error()
	}
	decoder := json.NewDecoder(strings.NewReader(string(document)))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&s); err != nil {
		return s, number, strings.TrimPrefix(err.Error(), "json: ") + "."
	}
	if s.Number == "" || s.Name == "" {
		return s, number, "A stock needs a number and a name."
	}
	return s, number, ""
}

// typed reads a cell as what its column holds.
func typed(name, cell string) (value any, wrong string) {
	_, figure, nested := strings.Cut(name, ".")
	switch {
	case slices.Contains(counts, name):
		n, err := strconv.Atoi(cell)
		if err != nil {
			return nil, fmt.Sprintf("%s: %q is no whole number.", name, cell)
		}
		return n, ""
	case slices.Contains(lists, name):
		var list []any
		if err := json.Unmarshal([]byte(cell), &list); err != nil {
			return nil, fmt.Sprintf("%s: %q is no JSON list.", name, cell)
		}
		return list, ""
	case cell == "{}":
		return map[string]any{}, ""
	case cell == "true" || cell == "false":
		return cell == "true", ""
	case slices.Contains(columns[:7], name) || name == "tracking" || nested &&
		(figure == "winding" || figure == "core" && name == "plate.core"):
		return cell, ""
	}
	length, err := measure.Parse(cell, measure.UnitMillimetre)
	if err != nil {
		return nil, name + ": " + err.Error() + "."
	}
	return length, ""
}
