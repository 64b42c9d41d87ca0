package sources

import (
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"
)

// tidyRows passes on the rows of a file without what no record has: rows with nothing in them, and control characters.
// It tells of both.
type tidyRows struct {
	rowReader
	last    int      // the number of the row before
	pending rowsSeen // rows with nothing in them since the row before
	blank   rowsSeen // and those that others follow
	strays  strays
	unseen  rowsSeen // of values with characters that show nothing
	sheet   bool     // rows that are not there are blank ones
}

// rowsSeen are rows in which something was seen.
type rowsSeen struct {
	n     int
	first []int // the numbers of the first of them
}

// below returns how many of them stand below the row of names, and the first of these.
func (b *rowsSeen) below(names int) (n, first int) {
	above := 0
	for above < len(b.first) && b.first[above] <= names {
		above++
	}
	if above == len(b.first) {
		return 0, 0
	}
	return b.n - above, b.first[above]
}

// add adds rows that follow one another.
func (b *rowsSeen) add(first, n int) {
	b.n += n
	for i := range min(n, mostTold-len(b.first)) {
		b.first = append(b.first, first+i)
	}
}

// strays counts control characters.
type strays struct {
	n     int
	where string // the first of them
}

func (s *strays) at(r rune, format string, args ...any) {
	if s.n++; s.n == 1 {
		s.where = fmt.Sprintf("U+%04X in ", r) + fmt.Sprintf(format, args...)
	}
}

// report notes what was left out.
func (s *strays) report(of *Source) {
	if s.n > 0 {
		of.note("%s left out, which no text has: %s%s.", count(s.n, "control character is", "control characters are"),
			map[bool]string{true: "the first is "}[s.n > 1], s.where)
	}
}

// mostTold bounds the blank rows that are kept by their numbers.
const mostTold = headRows + 1

func (t *tidyRows) next() ([]string, int, error) {
	for {
		row, line, err := t.rowReader.next()
		if err != nil {
			return nil, line, err
		}
		gap := 0
		if t.sheet && t.last > 0 {
			gap = line - t.last - 1
		} else if skips, is := t.rowReader.(interface{ skippedLines() int }); is {
			gap = skips.skippedLines()
		}
		t.pending.add(line-gap, gap)
		if t.last = line; !says(row) {
			t.pending.add(line, 1)
			continue
		}
		t.blank.n += t.pending.n
		t.blank.first = append(t.blank.first,
			t.pending.first[:min(len(t.pending.first), mostTold-len(t.blank.first))]...)
		t.pending.n, t.pending.first = 0, t.pending.first[:0]
		for i, value := range row {
			row[i] = t.value(value, line, i)
		}
		return row, line, nil
	}
}

// value returns a value without control characters.
func (t *tidyRows) value(value string, line, column int) string {
	odd := false
	for i := range len(value) { // most values need no more
		if c := value[i]; c < ' ' || c >= 0x7f {
			odd = true
			break
		}
	}
	if !odd {
		return value
	}
	if at := strings.IndexFunc(value, control); at >= 0 {
		for _, r := range value {
			if control(r) {
				t.strays.at(r, "record %d, value %d", line, column+1)
			}
		}
		value = strings.Map(func(r rune) rune {
			if control(r) {
				return -1
			}
			return r
		}, value)
	}
	if strings.ContainsFunc(value, showsNothing) {
		t.unseen.add(line, 1)
	}
	return value
}

// showsNothing tells whether a character shows nothing and joins nothing: invisible ones by which one value looks like
// another, or the like order of another direction. Those that join letters, which Persian and Hindi are written with,
// are none.
func showsNothing(r rune) bool {
	const zeroWidthNonJoiner, zeroWidthJoiner = 0x200c, 0x200d
	return unicode.Is(unicode.Cf, r) && r != zeroWidthNonJoiner && r != zeroWidthJoiner
}

func (t *tidyRows) report(s *Source, names int) {
	if seen, is := t.rowReader.(interface{ report(s *Source) }); is {
		seen.report(s)
	}
	t.strays.report(s)
	if n, first := t.unseen.below(names); n > 0 {
		s.note("%s characters that show nothing, such as a zero-width space, the first in %s %d. They are kept; "+
			"codes hold them too.", count(n, "value has", "values have"), s.unit(), first)
	}
	if n, first := t.blank.below(names); n > 0 {
		s.note("%s nothing and %s left out, the first in %s %d.", count(n, "row has", "rows have"),
			map[bool]string{true: "is", false: "are"}[n == 1], s.unit(), first)
	}
}

// shownName returns the name of a field as it is shown: without what shows nothing, and with letters and their marks in
// one (Unicode Normalization Form C).
func shownName(name string) string {
	name = strings.Map(func(r rune) rune {
		if showsNothing(r) || control(r) {
			return -1
		}
		return r
	}, name)
	if len(name) == utf8.RuneCountInString(name) {
		return name
	}
	return norm.NFC.String(name)
}
