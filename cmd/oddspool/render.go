package main

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"oddspool/core/batch"
	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/ordered"
	"oddspool/core/proof"
	renderer "oddspool/core/render"
	"oddspool/internal/press"
	"oddspool/internal/sources"
)

// labels is what the tools work on: a design and the records chosen for it.
type labels struct {
	design  *design.Design
	fields  []string
	records [][]string
	chosen  []int // numbers of records, from 1
}

// open reads a design and its records. Without a records file there is one empty record, for
// designs that use none.
func open(designPath, recordsPath, rows string) (*labels, error) {
	if designPath == "" {
		return nil, &usageError{"-design FILE is needed"}
	}
	data, err := os.ReadFile(designPath)
	if err != nil {
		return nil, err
	}
	l := &labels{records: [][]string{nil}}
	if l.design, err = design.Parse(data); err != nil {
		return nil, fmt.Errorf("%s: %w", designPath, err)
	}
	if recordsPath != "" {
		data, err := os.ReadFile(recordsPath)
		if err != nil {
			return nil, err
		}
		table, err := sources.ReadText(data, sources.Settings{})
		if err != nil {
			return nil, fmt.Errorf("%s: %w", recordsPath, err)
		}
		l.fields, l.records = table.Fields, table.Records
	}
	l.chosen, err = batch.ParseRange(rows, len(l.records))
	return l, err
}

func render(_ context.Context, c *console, args []string) error {
	var designPath, records, format, out, rows string
	err := flags(c, "render", args, func(f *flag.FlagSet) {
		f.StringVar(&designPath, "design", "", "design `FILE`")
		f.StringVar(&records, "records", "", "records `FILE`: separated values, the first row their names")
		f.StringVar(&format, "format", "png", "png, svg, pdf or pwg")
		f.StringVar(&out, "out", "", "`PATH` to write; - is standard output. Of several PNG or SVG, label 7 goes to PATH-7.png")
		f.StringVar(&rows, "rows", "", "which records, such as 1-3,7; empty: all")
	})
	if err != nil {
		return err
	}
	if out == "" {
		return &usageError{"-out PATH is needed"}
	}
	l, err := open(designPath, records, rows)
	if err != nil {
		return err
	}
	composer, err := compose.New(l.design, l.fields)
	if err != nil {
		return err
	}
	switch format {
	case "png", "svg":
		return l.writeEach(c, composer, format, out)
	case "pdf", "pwg":
		return to(c, out, func(w io.Writer) error { return l.writeAll(composer, format, w) })
	}
	return &usageError{fmt.Sprintf("-format %s is not known; use png, svg, pdf or pwg", format)}
}

// writeEach writes a file for each label.
func (l *labels) writeEach(c *console, composer *compose.Composer, format, out string) error {
	if out == "-" && len(l.chosen) > 1 {
		return &usageError{"several labels do not go to standard output as " + format + "; name a PATH, or choose one with -rows"}
	}
	extension := filepath.Ext(out)
	painters := make([]*painter, ordered.Workers(len(l.chosen)))
	return ordered.Each(len(l.chosen), func(worker, i int) (struct{}, error) {
		if painters[worker] == nil {
			painters[worker] = newPainter(composer.Clone())
		}
		number, path := l.chosen[i], out
		if len(l.chosen) > 1 {
			path = fmt.Sprintf("%s-%d%s", strings.TrimSuffix(out, extension), number, extension)
		}
		return struct{}{}, to(c, path, func(w io.Writer) error {
			return painters[worker].paint(w, format, l.records[number-1], l.design.Printer.Resolution)
		})
	}, func(struct{}) error { return nil })
}

// A painter draws labels as they are read, on one core.
type painter struct {
	composer *compose.Composer
	label    compose.Label
	layers   renderer.Layers
}

func newPainter(composer *compose.Composer) *painter {
	w, h := composer.Piece()
	return &painter{composer: composer, layers: renderer.NewLayers(len(composer.Inks()), w, h)}
}

func (p *painter) paint(w io.Writer, format string, record []string, r measure.Resolution) error {
	p.composer.Compose(&p.label, record)
	if format == "svg" {
		return renderer.WriteSVG(w, &p.label.List, p.composer.Palette(), r)
	}
	p.layers.Resize(p.label.List.Width, p.label.List.Height)
	p.layers.Draw(&p.label.List)
	return renderer.WritePNG(w, p.layers, p.composer.Palette(), r)
}

// writeAll writes all labels into one document: PDF as they are read, PWG raster as they leave
// the printer.
func (l *labels) writeAll(composer *compose.Composer, format string, w io.Writer) error {
	if format == "pdf" {
		buffered := bufio.NewWriterSize(w, 1<<18)
		document := renderer.NewPDF(buffered, l.design.Name, composer.Palette(), l.design.Printer.Resolution)
		painters := make([]*painter, ordered.Workers(len(l.chosen)))
		err := ordered.Each(len(l.chosen), func(worker, i int) (*renderer.DrawnPage, error) {
			if painters[worker] == nil {
				painters[worker] = newPainter(composer.Clone())
			}
			p := painters[worker]
			p.composer.Compose(&p.label, l.records[l.chosen[i]-1])
			return document.Draw(&p.label.List), nil
		}, document.Put)
		return errors.Join(err, document.Close(), buffered.Flush())
	}
	chosen := make([][]string, len(l.chosen))
	for i, number := range l.chosen {
		chosen[i] = l.records[number-1]
	}
	raster, err := press.NewLabels(l.design, l.fields)
	if err != nil {
		return err
	}
	return raster.WriteRaster(w, chosen)
}

// to writes a file whole or not at all: what is half written is never left under its name.
func to(c *console, path string, write func(io.Writer) error) error {
	if path == "-" {
		return write(c.out)
	}
	part := fmt.Sprintf("%s.%d.part", path, os.Getpid())
	file, err := os.OpenFile(part, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o644)
	if err != nil {
		return err
	}
	err = write(file)
	if err = errors.Join(err, file.Close()); err == nil {
		err = os.Rename(part, path)
	}
	if err != nil {
		_ = os.Remove(part) // what is left of it
	}
	return err
}

func proofCommand(ctx context.Context, c *console, args []string) error {
	var designPath, records, rows string
	var asJSON bool
	err := flags(c, "proof", args, func(f *flag.FlagSet) {
		f.StringVar(&designPath, "design", "", "design `FILE`")
		f.StringVar(&records, "records", "", "records `FILE`: separated values, the first row their names")
		f.StringVar(&rows, "rows", "", "which records, such as 1-3,7; empty: all")
		f.BoolVar(&asJSON, "json", false, "findings as JSON")
	})
	if err != nil {
		return err
	}
	l, err := open(designPath, records, rows)
	if err != nil {
		return err
	}
	chosen := make([][]string, len(l.chosen))
	for i, number := range l.chosen {
		chosen[i] = l.records[number-1]
	}
	report, err := proof.All(ctx, l.design, l.fields, chosen)
	if err != nil {
		return err
	}
	for _, group := range report.Groups { // what was looked at is numbered by its place in the file
		for i, n := range group.Records {
			group.Records[i] = l.chosen[n-1]
		}
	}
	if asJSON {
		err = writeReport(c.out, report)
	} else {
		sayReport(c.out, report)
	}
	if err == nil && report.Errors() > 0 {
		return errFound
	}
	return err
}

func writeReport(w io.Writer, r *proof.Report) error {
	encoder := json.NewEncoder(w)
	encoder.SetIndent("", "  ")
	return encoder.Encode(map[string]any{
		"labels": r.Records, "errors": r.Errors(), "warnings": r.Warnings(), "codesReadBack": r.Codes,
		"findings": append([]*proof.Group{}, r.Groups...),
	})
}

func sayReport(w io.Writer, r *proof.Report) {
	for _, group := range r.Groups {
		fmt.Fprintf(w, "%s: record %d, %s: %s", group.Level, group.Records[0], group.Element, group.Text)
		if more := len(group.Records) - 1; more > 0 {
			fmt.Fprintf(w, " (and %d more)", more)
		}
		fmt.Fprintf(w, " %s\n", group.Do)
	}
	fmt.Fprintf(w, "%d labels looked at: %d with errors, %d with warnings; %d codes read back as meant\n",
		r.Records, r.Errors(), r.Warnings(), r.Codes)
}
