package sources

import (
	"errors"
	"io"
	"slices"
	"strings"
)

// findText finds how a text is cut into values.
func (s *Source) findText(head []byte) error {
	if err := s.findEncoding(head); err != nil {
		return err
	}
	if s.Settings.Columns != "" {
		return s.findColumns()
	}
	if s.Settings.Quotes == "" {
		s.Settings.Quotes = QuotesDouble
	}
	if err := s.separatorLine(); err != nil {
		return err
	}
	s.rows = func() (rowReader, error) { return s.separated(), nil }
	if s.Settings.Separator == "" {
		separator, fits := s.findSeparator()
		if !fits && s.guessColumns() {
			return s.findColumns()
		}
		s.Settings.Separator = separator
	}
	return nil
}

// separatorLine takes a first line "sep=;", which spreadsheets write, for what it says.
func (s *Source) separatorLine() error {
	line, err := s.lines().next()
	if errors.Is(err, io.EOF) {
		return errEmpty
	}
	if err != nil {
		return err
	}
	said, isIt := strings.CutPrefix(strings.ToLower(strings.Trim(string(line[:min(len(line), 20)]), "\"\r\n ")), "sep=")
	if !isIt || !slices.Contains(separators, said) {
		return nil
	}
	if s.Settings.Separator == "" {
		s.Settings.Separator = said
	}
	s.skipped = 1
	return nil
}

// findSeparator takes the one that cuts most of the first rows into the same number of values,
// more than one.
func (s *Source) findSeparator() (separator string, fits bool) {
	const rows, mostLines = 50, 10_000 // blank ones among them
	best, bestScore := ",", 0.0
	for _, separator := range separators {
		tried := *s
		tried.Settings.Separator = separator
		var cut [][]string
		var err error
		reader := tried.separated()
		reader.most = mostLines
		for len(cut) < rows && err == nil {
			var row []string
			if row, _, err = reader.next(); err == nil {
				cut = append(cut, row)
			}
		}
		if err != nil && !errors.Is(err, io.EOF) || len(cut) == 0 {
			continue
		}
		counts := map[int]int{}
		for _, row := range cut {
			counts[len(row)]++
		}
		usual, times := 1, 0
		for n, c := range counts {
			if c > times || c == times && n > usual {
				usual, times = n, c
			}
		}
		if usual == 1 {
			continue
		}
		if score := float64(times)/float64(len(cut)) + float64(min(usual, 20))/1000; score > bestScore {
			best, bestScore = separator, score
		}
	}
	return best, bestScore > 0
}
