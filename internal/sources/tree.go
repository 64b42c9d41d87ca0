package sources

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// Limits of lists in JSON and XML.
const (
	mostDepth = 64   // levels
	mostLists = 1000 // that are told apart
)

// lists counts the lists that a tree of values has, by their paths.
type lists struct {
	paths  []string
	counts map[string]int
}

func (l *lists) add(path string, records int) {
	if l.counts == nil {
		l.counts = map[string]int{}
	}
	if _, known := l.counts[path]; !known {
		if len(l.paths) == mostLists {
			return
		}
		l.paths = append(l.paths, path)
	}
	l.counts[path] += records
}

// chooseTable takes the list that is wanted, or that with the most records.
func (s *Source) chooseTable(found *lists) error {
	s.Tables = slices.Clone(found.paths)
	slices.SortStableFunc(s.Tables, func(a, b string) int { return found.counts[b] - found.counts[a] })
	if len(s.Tables) == 0 {
		return &FileError{Text: fmt.Sprintf("The %s has no list of records in it.", s.Kind)}
	}
	if s.Settings.Table == "" {
		s.Settings.Table = s.Tables[0]
		if len(s.Tables) > 1 {
			s.note("There are %d lists; %s with %s is read.", len(s.Tables), s.Settings.Table,
				count(found.counts[s.Settings.Table], "record", "records"))
		}
		return nil
	}
	wanted := asPath(s.Settings.Table)
	for _, path := range s.Tables {
		if path == wanted || strings.EqualFold(path, wanted) {
			s.Settings.Table = path
			return nil
		}
	}
	for _, is := range []func(path, holder string) bool{
		// the end of it alone
		func(path, _ string) bool { return strings.HasSuffix(path, wanted) },
		// what holds the records
		func(_, holder string) bool { return s.Kind == XML && strings.HasSuffix(holder, wanted) },
	} {
		for _, path := range s.Tables {
			if is(path, path[:strings.LastIndex(path, "/")]) {
				s.Settings.Table = path
				return nil
			}
		}
	}
	return &FileError{Text: fmt.Sprintf("There is no list %q; there is %s.", s.Settings.Table, quoted(s.Tables))}
}

// asPath makes one path of the ways in which people write it: /a/b, a/b, a.b and $.a.b.
func asPath(text string) string {
	text = strings.TrimPrefix(strings.TrimSpace(text), "$")
	if !strings.Contains(text, "/") {
		text = strings.ReplaceAll(text, ".", "/")
	}
	return "/" + strings.Trim(text, "/")
}

// A tree is one record of values within values, flat.
type tree struct {
	names  []string
	values []string
}

func (t *tree) put(name, value string) {
	t.names, t.values = append(t.names, name), append(t.values, value)
}

// inside joins the name of a value to that of what holds it.
func inside(holder, name string) string {
	if holder == "" {
		return name
	}
	return holder + " " + name
}

// columns gives each name its column, in the order in which names come.
type columns struct {
	names []string
	at    map[string]int
	err   error

	learned int    // records
	again   string // a name that stands several times in one
	againIn int    // the first of these, from 1

	last   []string // names of the record before, and their columns: mostly the next has the same
	lastAt []int
}

func newColumns() *columns { return &columns{at: map[string]int{}} }

// learn takes in the names of a record; a name that stands several times in one has a number from its second time on.
func (c *columns) learn(t *tree) {
	c.learned++
	if slices.Equal(c.last, t.names) {
		return
	}
	c.last, c.lastAt = append(c.last[:0], t.names...), c.lastAt[:0]
	for i := range t.names {
		name := numbered(t.names, i)
		if name != t.names[i] && c.again == "" {
			c.again, c.againIn = t.names[i], c.learned
		}
		if _, known := c.at[name]; known {
			continue
		}
		if len(c.names) == MostFields {
			c.err = &FileError{Text: fmt.Sprintf("The records have more than %d different values; up to %d are read.",
				MostFields, MostFields)}
			return
		}
		c.at[name] = len(c.names)
		c.names = append(c.names, name)
	}
}

func numbered(names []string, i int) string {
	times := 1
	for _, before := range names[:i] {
		if before == names[i] {
			times++
		}
	}
	if times == 1 {
		return names[i]
	}
	return names[i] + " " + strconv.Itoa(times)
}

func (c *columns) row(t *tree) []string {
	if len(c.lastAt) != len(t.names) || !slices.Equal(c.last, t.names) {
		c.last, c.lastAt = append(c.last[:0], t.names...), c.lastAt[:0]
		for i := range t.names {
			at, known := c.at[numbered(t.names, i)]
			if !known {
				at = -1
			}
			c.lastAt = append(c.lastAt, at)
		}
	}
	row := make([]string, len(c.names))
	for i, value := range t.values {
		if at := c.lastAt[i]; at >= 0 {
			row[at] = unixLines(value)
		}
	}
	return row
}

// treeRows gives the names first, then the records of a list.
type treeRows struct {
	columns *columns
	number  int
	started bool
	read    func() (*tree, error) // the next record; io.EOF after the last
}

func (r *treeRows) next() ([]string, int, error) {
	if !r.started {
		r.started = true
		return r.columns.names, 0, nil
	}
	t, err := r.read()
	if err != nil {
		return nil, 0, err
	}
	r.number++
	return r.columns.row(t), r.number, nil
}
