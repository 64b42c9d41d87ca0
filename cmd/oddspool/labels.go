package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"iter"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/formula"
	"oddspool/core/picture"
	"oddspool/core/questions"
	"oddspool/core/safety/symbols"
	"oddspool/core/series"
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

// records reads those that were chosen, each with its place among them and their number behind its values
// (design.Facts).
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

// pages reads those that were chosen as pages of files.
func (l *labels) pages() iter.Seq2[press.Page, error] {
	return func(yield func(press.Page, error) bool) {
		for r, err := range l.records() {
			if !yield(press.Page{Record: r.values}, err) {
				return
			}
		}
	}
}

// open reads a design and looks its records through.
func open(ctx context.Context, designPath, recordsPath, rows string) (*labels, error) {
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
		if l.file, l.source, err = openRecords(ctx, recordsPath, sources.Settings{}); err != nil {
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

// wanted is what the flags say of which labels are meant.
type wanted struct {
	design, pictures, records, rows string
	answers                         answerFlags
	lookups                         lookupFlags
}

func (w *wanted) flags(f *flag.FlagSet) {
	f.StringVar(&w.design, "design", "", "design `FILE`: a document, or a zip with its pictures")
	f.StringVar(&w.pictures, "pictures", "", "`FOLDER` with the pictures of the design, under any names")
	f.StringVar(&w.records, "records", "", "`FILE` with records: text, XLSX, ODS, JSON, XML or DBF")
	f.StringVar(&w.rows, "rows", "", "which records, such as 1-3,7; empty: all")
	w.answers.define(f)
	w.lookups.define(f)
}

// open opens the labels with all that they need.
func (w *wanted) open(ctx context.Context) (*labels, error) {
	l, err := open(ctx, w.design, w.records, w.rows)
	if err != nil {
		return nil, err
	}
	if err := l.bringPictures(w.pictures); err != nil {
		return nil, err
	}
	l.design.Setting = w.lookups.setting(time.Now())
	if err := l.count(l.design.Setting); err != nil {
		return nil, err
	}
	return l, w.answers.give(l.design, l.known, w.lookups)
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
	f.Func("lookup", "`FILE` with records that formulas look values up in, under its own name; once for each",
		func(path string) error {
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
func (l lookupFlags) values(from questions.Source) (values []string, err error) {
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
	file, source, err := openRecords(context.Background(), path, sources.Settings{})
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

// give gives the answers to a design; choices of records are those of the files that others are looked up in. What the
// records know is not asked. Its error says which is none.
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

// bringPictures has the pictures that came with the design found by the hashes of their bytes, and those in a folder
// where one is given.
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
