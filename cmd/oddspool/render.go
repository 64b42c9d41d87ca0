package main

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"iter"
	"os"
	"path/filepath"
	"runtime/debug"
	"slices"
	"strconv"
	"strings"
	"time"

	"oddspool/core/ask"
	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/formula"
	"oddspool/core/ordered"
	"oddspool/core/picture"
	"oddspool/core/proof"
	"oddspool/core/series"
	"oddspool/core/symbols"
	"oddspool/core/typeset"
	"oddspool/internal/bundle"
	"oddspool/internal/press"
	"oddspool/internal/sources"
)

// labels is what the tools work on: a design and the records chosen for it.
type labels struct {
	design *design.Design
	source *sources.Source // nil: one empty record, for designs that use none
	fields []string
	chosen []int // numbers of records, from 1, in order
	file   *os.File

	pictures map[string][]byte // that came with the design, by their hashes
	known    []string          // fields of the records
	numbers  []counted
}

// counted is a series as it counts where no database keeps it.
type counted struct {
	series      *series.Series
	of          *design.Numbered
	group, anew design.Value
	given       map[string]int // numbers, by what they count under
	last        string         // group, with its number
	number      string
}

// next returns the number of the next label.
func (c *counted) next(record []string) (string, error) {
	key, err := c.anew(record)
	if err != nil {
		return "", fmt.Errorf("the series %s: %w", c.of.Name, err)
	}
	group, err := c.group(record)
	if err != nil {
		return "", fmt.Errorf("the series %s: %w", c.of.Name, err)
	}
	each, given := c.of.Each(), c.given[key]
	if shares := each == design.PerRun || each == design.PerGroup && c.last == group; shares && given > 0 {
		return c.number, nil
	}
	c.last, c.given[key] = group, given+1
	c.number, err = c.series.At(given)
	return c.number, err
}

// count prepares the numbers of labels.
func (l *labels) count(setting *formula.Setting) error {
	for i := range l.design.Series {
		of := &l.design.Series[i]
		counts, err := series.New(of.Counts)
		if err != nil {
			return err
		}
		c := counted{series: counts, of: of, given: map[string]int{}}
		if c.group, err = design.Valued(of.Group, l.known, setting); err != nil {
			return err
		}
		if c.anew, err = design.Valued(of.Anew, l.known, setting); err != nil {
			return err
		}
		l.numbers = append(l.numbers, c)
	}
	return nil
}

func (l *labels) Close() error {
	if l.file == nil {
		return nil
	}
	return errors.Join(l.source.Close(), l.file.Close())
}

// A record is one that was chosen.
type record struct {
	number int // from 1
	values []string
}

// records reads those that were chosen, each with its place among them and their number behind its values (design.Facts).
func (l *labels) records() iter.Seq2[record, error] {
	total := strconv.Itoa(len(l.chosen))
	for i := range l.numbers {
		clear(l.numbers[i].given) // all are read anew
	}
	return func(yield func(record, error) bool) {
		if l.source == nil {
			values, err := l.behind(nil, "1", total)
			yield(record{1, values}, err)
			return
		}
		number, chosen := 0, l.chosen
		for values, err := range l.source.Records() {
			number++
			switch {
			case len(chosen) == 0:
				return
			case err == nil && number != chosen[0]:
				continue
			}
			chosen = chosen[1:]
			if err == nil {
				values, err = l.behind(values, strconv.Itoa(len(l.chosen)-len(chosen)), total)
			}
			if !yield(record{number, values}, err) {
				return
			}
		}
	}
}

// behind puts what is known of a label alone behind the values of its record.
func (l *labels) behind(values []string, number, total string) ([]string, error) {
	record := values
	values = append(slices.Clip(values), number, total)
	for i := range l.numbers {
		number, err := l.numbers[i].next(record)
		if err != nil {
			return nil, err
		}
		values = append(values, number)
	}
	return values, nil
}

// values reads the values of those that were chosen.
func (l *labels) values() iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		for r, err := range l.records() {
			if !yield(r.values, err) {
				return
			}
		}
	}
}

// open reads a design and looks its records through.
func open(designPath, recordsPath, rows string) (*labels, error) {
	if designPath == "" {
		return nil, &usageError{"-design FILE is needed"}
	}
	data, err := os.ReadFile(designPath)
	if err != nil {
		return nil, err
	}
	l := &labels{}
	came, err := bundle.Read(data)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", designPath, err)
	}
	l.design, l.pictures = came.Design, came.Pictures
	for _, data := range came.Fonts {
		if f, _, err := typeset.Inspect(data); err == nil { // it was read before
			typeset.Register(f)
		}
	}
	for id, drawing := range came.Symbols {
		if err := symbols.Register(id, drawing); err != nil {
			return nil, fmt.Errorf("%s: %w", designPath, err)
		}
	}
	count := 1
	if recordsPath != "" {
		if l.file, l.source, err = openRecords(recordsPath, sources.Settings{}); err != nil {
			return nil, err
		}
		l.fields, count = l.source.Fields, l.source.Count
	}
	if l.chosen, err = batch.ParseRange(rows, count); err != nil {
		return nil, errors.Join(err, l.Close())
	}
	l.known = l.fields
	if err := l.design.Clash(l.known); err != nil {
		return nil, errors.Join(&sentenceError{err.Error()}, l.Close())
	}
	l.fields = append(slices.Clip(l.fields), design.Facts[0].Name, design.Facts[1].Name)
	for i := range l.design.Series {
		l.fields = append(l.fields, l.design.Series[i].Name)
	}
	return l, nil
}

// answerFlags are answers to a design's questions.
type answerFlags map[string]string

func (a *answerFlags) define(f *flag.FlagSet) {
	*a = answerFlags{}
	f.Func("answer", "to a question of the design, as `NAME=ANSWER`; once for each", func(text string) error {
		name, answer, is := strings.Cut(text, "=")
		if !is {
			return errors.New("write it as NAME=ANSWER")
		}
		(*a)[name] = answer
		return nil
	})
}

// lookupFlags are the files that formulas look others up in, by the names that record sets of them would have.
type lookupFlags map[string]string

func (l *lookupFlags) define(f *flag.FlagSet) {
	*l = lookupFlags{}
	f.Func("lookup", "`FILE` with records that formulas look values up in, under its own name; once for each", func(path string) error {
		(*l)[filepath.Base(path)] = path
		return nil
	})
}

// setting is what formulas know besides the record.
func (l lookupFlags) setting(now time.Time) *formula.Setting {
	lookups := &formula.Lookups{Read: l.read}
	return &formula.Setting{Now: now, Lookup: lookups.Find}
}

// values reads a field of the file that stands for a record set.
func (l lookupFlags) values(from ask.Source) (values []string, err error) {
	fields, records, err := l.read(from.Set)
	if err != nil {
		return nil, err
	}
	at := slices.Index(fields, from.Field)
	if at < 0 {
		return nil, fmt.Errorf("%s has no field “%s”", from.Set, from.Field)
	}
	for _, record := range records {
		values = append(values, record[at])
	}
	return values, nil
}

// read reads the file that stands for a record set.
func (l lookupFlags) read(set string) (fields []string, records [][]string, err error) {
	path, given := l[set]
	if !given {
		return nil, nil, fmt.Errorf("there is no record set “%s” here; name its file with -lookup", set)
	}
	file, source, err := openRecords(path, sources.Settings{})
	if err != nil {
		return nil, nil, err
	}
	defer file.Close()
	defer source.Close()
	for record, err := range source.Records() {
		if err != nil {
			return nil, nil, fmt.Errorf("%s: %w", path, err)
		}
		records = append(records, record)
	}
	return source.Fields, records, nil
}

// give gives the answers to a design; choices of records are those of the files that others are looked up in. What the records know is not asked.
// Its error says which is none.
func (a answerFlags) give(d *design.Design, known []string, files lookupFlags) error {
	if err := d.FillChoices(files.values); err != nil {
		return &sentenceError{err.Error()}
	}
	if len(d.Questions) == 0 && len(a) == 0 {
		return nil
	}
	d.Answers = map[string]string{}
	for i := range d.Questions {
		q := &d.Questions[i]
		typed, given := a[q.Name]
		if !given && slices.Contains(known, q.Name) {
			continue
		}
		if !given {
			typed = q.Default
		}
		answer, err := q.Answer(typed)
		if err != nil {
			return &sentenceError{err.Error()}
		}
		d.Answers[q.Name] = answer
		delete(a, q.Name)
	}
	for name := range a {
		return &sentenceError{fmt.Sprintf("The design asks no question %q.", name)}
	}
	return nil
}

// bringPictures has the pictures that came with the design found by the hashes of their bytes, and those in a folder where one is given.
func (l *labels) bringPictures(folder string) error {
	var entries []os.DirEntry
	if folder != "" {
		var err error
		if entries, err = os.ReadDir(folder); err != nil {
			return err
		}
	}
	paths := map[string]string{}
	for _, entry := range entries {
		info, err := entry.Info()
		if err != nil || !info.Mode().IsRegular() || info.Size() > picture.MostBytes {
			continue
		}
		path := filepath.Join(folder, entry.Name())
		data, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		paths[picture.Hash(data)] = path
	}
	picture.SetSource(func(hash string) ([]byte, error) {
		if data, some := l.pictures[hash]; some {
			return data, nil
		}
		if path, some := paths[hash]; some {
			return os.ReadFile(path)
		}
		return nil, &picture.AbsentError{Hash: hash}
	})
	return nil
}

func render(_ context.Context, c *console, args []string) error {
	var designPath, records, format, out, rows, pictures string
	var answers answerFlags
	var lookups lookupFlags
	err := flags(c, "render", args, func(f *flag.FlagSet) {
		f.StringVar(&designPath, "design", "", "design `FILE`: a document, or a zip with its pictures")
		f.StringVar(&pictures, "pictures", "", "`FOLDER` with the pictures of the design, under any names")
		f.StringVar(&records, "records", "", "`FILE` with records: text, XLSX, ODS, JSON, XML or DBF")
		answers.define(f)
		lookups.define(f)
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
	if err == nil {
		err = l.bringPictures(pictures)
	}
	if err == nil {
		l.design.Setting = lookups.setting(time.Now())
		err = l.count(l.design.Setting)
	}
	if err == nil {
		err = answers.give(l.design, l.known, lookups)
	}
	if err != nil {
		return err
	}
	defer func() { _ = l.Close() }() // it was only read
	debug.SetGCPercent(50)           // memory stays flat; what lives is little, so that it costs nothing to speak of
	made, err := press.NewLabels(l.design, l.fields)
	if err != nil {
		return err
	}
	switch format {
	case press.PNG, press.SVG:
		return l.writeEach(c, made, format, out)
	case press.PDF, press.PWG:
		return to(c, out, func(w io.Writer) error { return made.WriteDocument(w, format, l.values(), len(l.chosen)) })
	}
	return &usageError{fmt.Sprintf("-format %s is not known; use png, svg, pdf or pwg", format)}
}

// writeEach writes a file for each label.
func (l *labels) writeEach(c *console, made *press.Labels, format, out string) error {
	if out == "-" && len(l.chosen) > 1 {
		return &usageError{"several labels do not go to standard output as " + format + "; name a PATH, or choose one with -rows"}
	}
	extension := filepath.Ext(out)
	painters := make([]*press.FilePainter, ordered.Workers(len(l.chosen)))
	return ordered.Stream(len(painters), l.records(), func(worker int, r record) (struct{}, error) {
		if painters[worker] == nil {
			painters[worker] = made.FilePainter()
		}
		path := out
		if len(l.chosen) > 1 {
			path = fmt.Sprintf("%s-%d%s", strings.TrimSuffix(out, extension), r.number, extension)
		}
		return struct{}{}, to(c, path, func(w io.Writer) error { return painters[worker].Paint(w, format, r.values) })
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
	var designPath, records, rows, pictures string
	var asJSON bool
	var answers answerFlags
	var lookups lookupFlags
	err := flags(c, "proof", args, func(f *flag.FlagSet) {
		f.StringVar(&designPath, "design", "", "design `FILE`: a document, or a zip with its pictures")
		f.StringVar(&pictures, "pictures", "", "`FOLDER` with the pictures of the design, under any names")
		f.StringVar(&records, "records", "", "`FILE` with records: text, XLSX, ODS, JSON, XML or DBF")
		answers.define(f)
		lookups.define(f)
		f.StringVar(&rows, "rows", "", "which records, such as 1-3,7; empty: all")
		f.BoolVar(&asJSON, "json", false, "findings as JSON")
	})
	if err != nil {
		return err
	}
	l, err := open(designPath, records, rows)
	if err == nil {
		err = l.bringPictures(pictures)
	}
	if err == nil {
		l.design.Setting = lookups.setting(time.Now())
		err = l.count(l.design.Setting)
	}
	if err == nil {
		err = answers.give(l.design, l.known, lookups)
	}
	if err != nil {
		return err
	}
	defer func() { _ = l.Close() }() // it was only read
	chosen := make([][]string, 0, len(l.chosen))
	for values, err := range l.values() {
		if err != nil {
			return err
		}
		chosen = append(chosen, values)
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
