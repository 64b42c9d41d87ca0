package main

import (
	"bufio"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"strings"
	"time"

	"oddspool/core/batch"
	"oddspool/core/formula"
)

// formulaCommand prints what an expression gives for records, a value a line.
func formulaCommand(ctx context.Context, c *console, args []string) (err error) {
	var recordsPath, rows, at, text string
	var list bool
	var reading readFlags
	var lookups lookupFlags
	if len(args) > 0 && !knownFlag(args[0]) { // the expression comes first, and may begin with a minus
		text, args = args[0], args[1:]
	}
	err = flags(c, "formula 'EXPRESSION'", args, func(f *flag.FlagSet) {
		f.StringVar(&recordsPath, "records", "", "`FILE` with the records whose fields it names")
		f.StringVar(&rows, "rows", "", "records to compute, such as 1-3,7; without it all")
		f.StringVar(&at, "at", "", "the `MOMENT` of printing, such as 2026-11-26T09:30; without it now")
		f.StringVar(&text, "text", text, "the `EXPRESSION`, where it does not come first")
		f.BoolVar(&list, "list", false, "all functions as JSON")
		reading.define(f)
		lookups.define(f)
	})
	if err != nil {
		return err
	}
	if list {
		encoder := json.NewEncoder(c.out)
		encoder.SetEscapeHTML(false)
		encoder.SetIndent("", "  ")
		return encoder.Encode(formula.List())
	}
	if text == "" {
		return &usageError{"an expression is needed, such as 'upper(contents)'"}
	}
	set := lookups.setting(time.Now())
	if at != "" {
		if set.Now, err = time.ParseInLocation("2006-01-02T15:04", at, time.Local); err != nil {
			return &usageError{fmt.Sprintf("-at %q is no moment; write it as 2026-11-26T09:30", at)}
		}
	}
	if recordsPath == "" {
		return formulaOf(c, text, nil, []int{1}, func(yield func([]string, error) bool) { yield(nil, nil) }, set)
	}
	file, source, err := lookAtRecords(ctx, recordsPath, reading.chosen())
	if err != nil {
		return err
	}
	defer file.Close()
	defer source.Close()
	chosen, err := batch.ParseRange(rows, source.Count)
	if err != nil {
		return &sentenceError{err.Error()}
	}
	return formulaOf(c, text, source.Fields, chosen, source.Records(), set)
}

// knownFlag tells whether an argument is a flag of the command and not the start of an expression.
func knownFlag(argument string) bool {
	name := strings.TrimLeft(argument, "-")
	name, _, _ = strings.Cut(name, "=")
	switch name {
	case "records", "rows", "at", "text", "list", "sheet", "table", "header", "columns", "separator", "encoding",
		"lookup", "h", "help":
		return strings.HasPrefix(argument, "-")
	}
	return false
}

// formulaOf prints the values of the chosen records. What a record's values do not give is told, and stays an empty
// line.
func formulaOf(c *console, text string, fields []string, chosen []int, records func(func([]string, error) bool),
	set *formula.Setting) error {
	f, err := formula.Compile(text, fields)
	if err != nil {
		return &sentenceError{err.Error()}
	}
	out := bufio.NewWriter(c.out)
	number, failed := 0, 0
	for values, err := range records {
		number++
		if err != nil {
			return err
		}
		if len(chosen) == 0 {
			break
		}
		if chosen[0] != number {
			continue
		}
		chosen = chosen[1:]
		result, err := f.Text(values, set)
		if err != nil {
			if failed++; failed <= 20 {
				fmt.Fprintf(c.err, "record %d: %v\n", number, err)
			}
		}
		_, _ = out.WriteString(strings.ReplaceAll(result, "\n", " "))
		_ = out.WriteByte('\n')
	}
	if err := out.Flush(); err != nil {
		return err
	}
	if failed > 0 {
		return &sentenceError{fmt.Sprintf("The formula gives nothing for %d of the records.", failed)}
	}
	return nil
}
