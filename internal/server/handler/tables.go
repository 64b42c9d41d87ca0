package handler

import (
	"errors"
	"fmt"
	"io"
	"os"
	"strconv"

	"github.com/xuri/excelize/v2"

	"oddspool/core/tables"
)

// Spooled writes a file of any length, to be read from its beginning; it is gone as soon as it is closed, which an
// answer does.
func Spooled(write func(io.Writer) error) (file *os.File, size int64, err error) {
	if file, err = os.CreateTemp("", "oddspool-*"); err != nil {
		return nil, 0, fmt.Errorf("write a file: %w", err)
	}
	err = errors.Join(os.Remove(file.Name()), write(file))
	if err == nil {
		size, err = file.Seek(0, io.SeekEnd)
	}
	if err == nil {
		_, err = file.Seek(0, io.SeekStart)
	}
	if err != nil {
		return nil, 0, errors.Join(err, file.Close())
	}
	return file, size, nil
}

// WriteTable writes rows as CSV, in which no spreadsheet finds a formula, or (xlsx) as a workbook. All cells are text,
// so that zeros stay.
func WriteTable(w io.Writer, format string, head []string, each func(give func([]string) error) error) error {
	if format == "xlsx" {
		return writeSheet(w, head, each)
	}
	out := tables.NewWriter(w)
	if err := out.Write(head); err != nil {
		return err
	}
	err := each(out.Write)
	return errors.Join(err, out.Flush())
}

// mostRows is how many a sheet has (ECMA-376, 18.3.1.73).
const mostRows = 1_048_576

func writeSheet(w io.Writer, head []string, each func(give func([]string) error) error) error {
	book := excelize.NewFile()
	defer book.Close()
	sheet, err := book.NewStreamWriter(book.GetSheetName(0))
	if err != nil {
		return fmt.Errorf("write a workbook: %w", err)
	}
	row := 0
	write := func(texts []string) error {
		row++
		if row > mostRows {
			return sheetFull.With()
		}
		cells := make([]any, len(texts))
		for i, text := range texts {
			cells[i] = text
		}
		return sheet.SetRow("A"+strconv.Itoa(row), cells)
	}
	if err := write(head); err != nil {
		return err
	}
	if err := each(write); err != nil {
		return err
	}
	if err := sheet.Flush(); err != nil {
		return fmt.Errorf("write a workbook: %w", err)
	}
	return book.Write(w)
}
