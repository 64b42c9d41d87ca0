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
	"strings"

	"oddspool/core/refusal"

	"oddspool/core/series"
)

// usualCount is how many numbers are printed where neither a count nor an end is given.
const usualCount = 10

// seriesCommand prints the numbers that a series gives.
func seriesCommand(_ context.Context, c *console, args []string) error {
	var spec series.Spec
	var format string
	err := flags(c, "series", args, func(f *flag.FlagSet) {
		f.StringVar(&spec.Start, "start", "", "the `NUMBER` it begins with, in its digits")
		f.Int64Var(&spec.Step, "step", 1, "from one number to the next; below zero it counts down")
		f.StringVar(&spec.End, "end", "", "the last `NUMBER` that may be given")
		f.IntVar(&spec.Count, "count", 0, "how many; without it up to the end, or 10")
		f.IntVar(&spec.Width, "width", 0,
			"digits that each number has; without it as many as the start, and more where they are needed")
		f.StringVar(&spec.Digits, "alphabet", "", "`DIGITS`: "+strings.Join(series.Alphabets(), ", ")+
			", letters of your own in their order, or places such as letters*2,decimal*4")
		f.StringVar(&spec.Prefix, "prefix", "", "`TEXT` before each")
		f.StringVar(&spec.Suffix, "suffix", "", "`TEXT` behind each")
		f.StringVar(&spec.Check, "check", "", "`RULE` of a check character behind the digits, such as gs1, luhn, mod43")
		f.StringVar(&spec.Random, "random", "", "`KEY` of an order that nobody can guess and that repeats nothing")
		f.StringVar(&format, "format", "text", "text, csv or json")
	})
	if err != nil {
		return err
	}
	if spec.Count == 0 && spec.End == "" {
		spec.Count = usualCount
	}
	s, err := series.New(spec)
	if err != nil {
		return &sentenceError{err.Error()}
	}
	out := bufio.NewWriter(c.out)
	err = writeNumbers(out, s, format)
	if wrong := new(refusal.Error); errors.As(err, &wrong) {
		return errors.Join(&sentenceError{err.Error()}, out.Flush())
	}
	return errors.Join(err, out.Flush())
}

func writeNumbers(out io.Writer, s *series.Series, format string) error {
	switch format {
	case "text":
		for number, err := range s.All() {
			if err != nil {
				return err
			}
			if _, err := fmt.Fprintln(out, number); err != nil {
				return err
			}
		}
		return nil
	case "csv":
		rows := csv.NewWriter(out)
		rows.UseCRLF = true // RFC 4180
		if err := rows.Write([]string{"number"}); err != nil {
			return err
		}
		for number, err := range s.All() {
			if err == nil {
				err = rows.Write([]string{number})
			}
			if err != nil {
				rows.Flush()
				return err
			}
		}
		rows.Flush()
		return rows.Error()
	case "json":
		list := []string{}
		for number, err := range s.All() {
			if err != nil {
				return err
			}
			list = append(list, number)
		}
		encoder := json.NewEncoder(out)
		encoder.SetEscapeHTML(false)
		return encoder.Encode(list)
	}
	return &usageError{fmt.Sprintf("-format %s is not known; use text, csv or json", format)}
}
