package tables

import (
	"encoding/csv"
	"io"
	"strconv"
	"strings"
)

// A Writer writes rows as CSV (RFC 4180) for people, whose spreadsheets must not take a text for a formula.
type Writer struct{ to *csv.Writer }

// NewWriter returns a Writer; call its Flush at the end.
func NewWriter(w io.Writer) *Writer { return &Writer{csv.NewWriter(w)} }

// Write writes a row, each cell as Plain has it. Its error is that of what is written to.
func (w *Writer) Write(row []string) error {
	cells := make([]string, len(row))
	for i, cell := range row {
		cells[i] = Plain(cell)
	}
	return w.to.Write(cells)
}

// Flush writes what is still held back, and returns the first error of all that was written.
func (w *Writer) Flush() error {
	w.to.Flush()
	return w.to.Error()
}

// begins are the characters by which a spreadsheet takes a text for a formula, and that which keeps it from it.
const begins = "=+-@\t\r'"

// Plain keeps a spreadsheet from taking a text for a formula: it begins with an apostrophe, which Written takes off.
// Numbers stay.
func Plain(cell string) string {
	if cell != "" && strings.ContainsRune(begins, rune(cell[0])) {
		if _, err := strconv.ParseFloat(cell, 64); err != nil {
			return "'" + cell
		}
	}
	return cell
}

// Written takes off what Plain put before a cell.
func Written(cell string) string {
	if len(cell) > 1 && cell[0] == '\'' && strings.ContainsRune(begins, rune(cell[1])) {
		return cell[1:]
	}
	return cell
}
