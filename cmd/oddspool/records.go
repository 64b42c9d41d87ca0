package main

import (
	"bufio"
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"

	"oddspool/internal/sources"
)

// howRead tells how a file was read.
type howRead struct {
	Kind      sources.Kind `json:"kind"`
	Encoding  string       `json:"encoding"`
	Separator string       `json:"separator"`
	Quotes    string       `json:"quotes"`
	Sheet     string       `json:"sheet"`
	Sheets    []string     `json:"sheets"`
	Table     string       `json:"table"`
	Tables    []string     `json:"tables"`
	Columns   string       `json:"columns"`
	Header    int          `json:"header"` // which row names the fields; 0: none
	Rows      int          `json:"rows"`
	Fields    int          `json:"fields"`
	Noticed   []string     `json:"noticed"`
}

// readFlags are the choices of how a file is read.
type readFlags struct {
	settings sources.Settings
	header   string
}

func (r *readFlags) define(f *flag.FlagSet) {
	f.StringVar(&r.settings.Sheet, "sheet", "", "`NAME` of the sheet of a workbook")
	f.StringVar(&r.settings.Table, "table", "", "`PATH` of the list in JSON or XML, such as /orders/lines")
	f.StringVar(&r.header, "header", "", "`ROW` that names the fields, from 1; 0: none does")
	f.StringVar(&r.settings.Columns, "columns", "",
		"`PLACES` at which the columns of a text without separators begin, such as 1,11,25")
	f.Func("separator", "between values: `C` is one of , ; tab |", func(text string) error {
		if r.settings.Separator = text; text == "tab" || text == `\t` {
			r.settings.Separator = "\t"
		}
		return nil
	})
	f.Func("encoding", "of the letters: `E` is UTF-8, Windows-1252, CP850 …", func(text string) error {
		r.settings.Encoding = sources.EncodingNamed(text)
		return nil
	})
}

// chosen returns the settings.
func (r *readFlags) chosen() sources.Settings {
	settings := r.settings
	switch r.header {
	case "":
	case "0", "none":
		settings.Header = sources.HeaderNone
	default:
		settings.Header = sources.Header("row " + r.header)
	}
	return settings
}

// openRecords opens a file with records. What is wrong with its records is a *sources.FileError.
func openRecords(ctx context.Context, path string, settings sources.Settings) (*os.File, *sources.Source, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, nil, err
	}
	info, err := file.Stat()
	var source *sources.Source
	if err == nil {
		source, err = sources.Open(ctx, file, info.Size(), settings)
	}
	if err != nil {
		return nil, nil, errors.Join(fmt.Errorf("%s: %w", path, err), file.Close())
	}
	return file, source, nil
}

// lookAtRecords opens a file whose records are what is asked about. What is wrong with them is the answer: a
// *sentenceError.
func lookAtRecords(ctx context.Context, path string, settings sources.Settings) (*os.File, *sources.Source, error) {
	file, source, err := openRecords(ctx, path, settings)
	if wrong := new(sources.FileError); errors.As(err, &wrong) {
		err = &sentenceError{err.Error()}
	}
	return file, source, err
}

// recordsCommand prints the records of a file, and how it was read.
func recordsCommand(ctx context.Context, c *console, args []string) (err error) {
	var path, format string
	var reading readFlags
	err = flags(c, "records", args, func(f *flag.FlagSet) {
		f.StringVar(&path, "read", "", "`FILE` with records: separated or fixed-width text, XLSX, ODS, JSON, XML, DBF")
		f.StringVar(&format, "format", "json", "json or csv")
		reading.define(f)
	})
	if err != nil {
		return err
	}
	if path == "" {
		return &usageError{"-read FILE is needed"}
	}
	if format != "json" && format != "csv" {
		return &usageError{fmt.Sprintf("the format %q is not known; there are json and csv", format)}
	}
	file, source, err := lookAtRecords(ctx, path, reading.chosen())
	if err != nil {
		return err
	}
	defer file.Close()
	defer source.Close()
	used := source.Settings
	how := howRead{
		Kind: source.Kind, Encoding: string(used.Encoding), Separator: used.Separator, Quotes: string(used.Quotes),
		Sheet: used.Sheet, Sheets: append([]string{}, source.Sheets...),
		Table: used.Table, Tables: append([]string{}, source.Tables...), Columns: used.Columns,
		Header: used.Header.Row(), Rows: source.Count, Fields: len(source.Fields),
		Noticed: append([]string{}, source.Notes...),
	}
	encoder := json.NewEncoder(c.err)
	encoder.SetEscapeHTML(false)
	if err := encoder.Encode(how); err != nil {
		return err
	}
	out := bufio.NewWriter(c.out)
	if format == "csv" {
		err = writeCSV(out, source)
	} else {
		err = writeJSON(out, source)
	}
	if wrong := new(sources.FileError); errors.As(err, &wrong) {
		return &sentenceError{fmt.Sprintf("%s: %v", path, err)}
	}
	return errors.Join(err, out.Flush())
}

// writeCSV writes records exactly as they were read: for programs, not for spreadsheets.
func writeCSV(out io.Writer, source *sources.Source) error {
	rows := csv.NewWriter(out)
	rows.UseCRLF = true // RFC 4180
	if err := rows.Write(source.Fields); err != nil {
		return err
	}
	for record, err := range source.Records() {
		if err == nil {
			err = rows.Write(record)
		}
		if err != nil {
			return err
		}
	}
	rows.Flush()
	return rows.Error()
}

// writeJSON writes {"fields": […], "records": [[…], …]}, a record a line.
func writeJSON(out *bufio.Writer, source *sources.Source) error {
	encoder := json.NewEncoder(out)
	encoder.SetEscapeHTML(false)
	_, _ = out.WriteString(`{"fields": `)
	if err := encoder.Encode(source.Fields); err != nil {
		return err
	}
	_, _ = out.WriteString(`, "records": [`)
	between := ""
	for record, err := range source.Records() {
		_, _ = out.WriteString(between)
		if err == nil {
			err = encoder.Encode(record)
		}
		if err != nil {
			return err
		}
		between = ","
	}
	_, err := out.WriteString("]}\n")
	return err
}
