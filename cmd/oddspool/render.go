package main

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"oddspool/core/ordered"
	"oddspool/core/proof"
	"oddspool/internal/press"
)

func render(ctx context.Context, c *console, args []string) error {
	var w wanted
	var format, out string
	err := flags(c, "render", args, func(f *flag.FlagSet) {
		w.flags(f)
		f.StringVar(&format, "format", "png", "png, svg, pdf or pwg")
		f.StringVar(&out, "out", "", "`PATH` to write; - is standard output. Of several PNG or SVG, label 7 goes to "+
			"PATH-7.png")
	})
	if err != nil {
		return err
	}
	if out == "" {
		return &usageError{"-out PATH is needed"}
	}
	useLittleMemory()
	l, err := w.open(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = l.Close() }() // it was only read
	made, err := press.NewLabels(l.design, l.fields)
	if err != nil {
		return err
	}
	files := press.NewFiles(made)
	switch format {
	case press.PNG, press.SVG:
		return l.writeEach(c, files, format, out)
	case press.PDF, press.PWG:
		return to(c, out, func(w io.Writer) error { return files.WriteDocument(w, format, l.pages(), len(l.chosen)) })
	}
	return &usageError{fmt.Sprintf("-format %s is not known; use png, svg, pdf or pwg", format)}
}

// writeEach writes a file for each label.
func (l *labels) writeEach(c *console, files *press.Files, format, out string) error {
	if out == "-" && len(l.chosen) > 1 {
		return &usageError{"several labels do not go to standard output as " + format +
			"; name a PATH, or choose one with -rows"}
	}
	extension := filepath.Ext(out)
	painters := make([]*press.FilePainter, ordered.Workers(len(l.chosen)))
	return ordered.Small(len(painters), l.records(), func(worker int, r record) (struct{}, error) {
		if painters[worker] == nil {
			painters[worker] = files.Painter()
		}
		path := out
		if len(l.chosen) > 1 {
			path = fmt.Sprintf("%s-%d%s", strings.TrimSuffix(out, extension), r.number, extension)
		}
		return struct{}{}, to(c, path,
			func(w io.Writer) error { return painters[worker].Paint(w, format, press.Page{Record: r.values}) })
	}, func(struct{}) error { return nil })
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
	var w wanted
	var asJSON bool
	err := flags(c, "proof", args, func(f *flag.FlagSet) {
		w.flags(f)
		f.BoolVar(&asJSON, "json", false, "findings as JSON")
	})
	if err != nil {
		return err
	}
	useLittleMemory()
	l, err := w.open(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = l.Close() }() // it was only read
	chosen := make([][]string, 0, len(l.chosen))
	for page, err := range l.pages() {
		if err != nil {
			return err
		}
		chosen = append(chosen, page.Record)
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
