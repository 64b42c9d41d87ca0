package sources

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"unicode/utf8"
)

// sampledLines are looked at to find columns.
const sampledLines = 200

// guessColumns tells whether a text has columns at fixed places: two or more, each parted from the one before it by a
// blank in all lines, and by two in most, or by where the names begin.
func (s *Source) guessColumns() bool {
	var lines [][]rune
	longest := 0
	const mostLines = 10_000 // blank ones among them
	for in := s.lines(); len(lines) < sampledLines && in.number < mostLines; {
		line, err := in.next()
		if err != nil {
			break
		}
		if text := []rune(strings.TrimRight(string(line), "\r\n ")); len(text) > 0 {
			if bytes.ContainsRune(line, '\t') {
				return false
			}
			lines = append(lines, text)
			longest = max(longest, len(text))
		}
	}
	if len(lines) < 2 {
		return false
	}
	blankAt := func(line []rune, at int) bool { return at >= len(line) || line[at] == ' ' }
	var starts []string
	count := 0
	for at := range longest {
		begins, gap := 0, at == 0
		free := true
		for _, line := range lines {
			if at > 0 && !blankAt(line, at-1) {
				free = false
				break
			}
			if !blankAt(line, at) {
				begins++
				gap = gap || blankAt(line, at-1) && at > 1 && blankAt(line, at-2)
			}
		}
		if free && begins*2 > len(lines) && gap {
			starts = append(starts, strconv.Itoa(at+1))
			count++
		}
	}
	if count < 2 {
		return false
	}
	s.Settings.Columns = strings.Join(starts, ",")
	s.note("The text has no separators but columns at fixed places; they begin at %s.", strings.Join(starts, ", "))
	return true
}

// places returns where columns begin, from 0.
func places(columns string) (at []int, err error) {
	for _, text := range strings.Split(columns, ",") {
		n, err := strconv.Atoi(strings.TrimSpace(text))
		if err != nil || n < 1 || n > mostLine || len(at) > 0 && n-1 <= at[len(at)-1] || len(at) == MostFields {
			return nil, &FileError{Text: fmt.Sprintf("The columns %q are none: give the place of each one's first "+
				"letter, from 1, rising, such as 1,11,25.", columns)}
		}
		at = append(at, n-1)
	}
	return at, nil
}

// findColumns reads a text by the places at which its columns begin.
func (s *Source) findColumns() error {
	s.Kind = FixedColumns
	s.Settings.Quotes, s.Settings.Separator = "", ""
	at, err := places(s.Settings.Columns)
	if err != nil {
		return err
	}
	s.rows = func() (rowReader, error) {
		lines := s.lines()
		lines.quotes = false
		return &fixedRows{lines: lines, at: at}, nil
	}
	return nil
}

type fixedRows struct {
	*lines
	at []int // where columns begin, in letters
}

func (r *fixedRows) next() ([]string, int, error) {
	for {
		line, err := r.lines.next()
		if err != nil {
			if !errors.Is(err, io.EOF) {
				return nil, 0, err
			}
			return nil, 0, io.EOF
		}
		if line = bytes.TrimRight(line, "\r\n"); len(bytes.TrimSpace(line)) == 0 {
			continue
		}
		row := make([]string, len(r.at))
		column, place := -1, 0
		from := 0
		for i := 0; i <= len(line); {
			if column+1 < len(r.at) && place == r.at[column+1] || i == len(line) {
				if column >= 0 {
					row[column] = strings.TrimSpace(string(line[from:i]))
				}
				column++
				from = i
			}
			if i == len(line) {
				break
			}
			_, size := utf8.DecodeRune(line[i:])
			i, place = i+size, place+1
		}
		return row, r.number, nil
	}
}
