package proof

import (
	"cmp"
	"fmt"
	"slices"
	"unicode/utf8"

	"oddspool/core/compose"
	"oddspool/core/design"
)

// An Extreme is a record worth a look before all others.
type Extreme struct {
	Record int    `json:"record"` // from 1
	Why    string `json:"why"`
}

// mostRunes is how many different characters of an element are told apart.
const mostRunes = 5000

// A spread is the least and the most that was measured, and the first record with each.
type spread struct {
	some            bool
	least, most     int
	leastAt, mostAt int
}

func (s *spread) note(record, value int) { s.join(&spread{true, value, value, record, record}) }

// join adds what was measured of other records; among equals the earliest counts.
func (s *spread) join(other *spread) {
	if !other.some {
		return
	}
	if !s.some || other.least < s.least || other.least == s.least && other.leastAt < s.leastAt {
		s.least, s.leastAt = other.least, other.leastAt
	}
	if !s.some || other.most > s.most || other.most == s.most && other.mostAt < s.mostAt {
		s.most, s.mostAt = other.most, other.mostAt
	}
	s.some = true
}

func (s *spread) differs() bool { return s.some && s.least != s.most }

// elementExtremes are what an element does on the labels.
type elementExtremes struct {
	wide    spread // thousandths of its box that a text takes along its lines
	lines   spread
	perEm   spread // size of type
	modules spread // of a code
	letters spread
	empty   int // first record on which it says nothing, from 1
	runes   map[rune]runeSeen
}

// runeSeen is on how many records a character stands, and the first.
type runeSeen struct{ records, first int }

// extremes are those of all elements that change from label to label.
type extremes struct {
	design   *design.Design
	changing []int
	of       []elementExtremes // beside changing
}

func newExtremes(d *design.Design) *extremes {
	x := &extremes{design: d}
	for i := range d.Elements {
		if e := &d.Elements[i]; (!e.Fixed() || d.Translates(e)) && (e.Kind == design.Text || e.Kind == design.Code) {
			x.changing = append(x.changing, i)
		}
	}
	x.of = make([]elementExtremes, len(x.changing))
	return x
}

// note measures the parts of the label of a record, numbered from 1.
func (x *extremes) note(record int, parts []compose.Part) {
	for n, i := range x.changing {
		e, part := &x.of[n], &parts[i]
		if part.Says == "" {
			e.empty = earliest(e.empty, record)
			continue
		}
		e.letters.note(record, utf8.RuneCountInString(part.Says))
		if x.design.Elements[i].Kind == design.Text {
			along, box := part.Real.W, part.Box.W
			if part.Turn.Sideways() {
				along, box = part.Real.H, part.Box.H
			}
			e.wide.note(record, along*1000/max(box, 1))
			e.lines.note(record, part.Lines)
			e.perEm.note(record, part.PerEm)
		} else if part.Module > 0 && part.CodeError == nil {
			modules := part.Symbol.Modules()
			if part.Symbol.Is2D() {
				modules = part.Symbol.Matrix.Width * part.Symbol.Matrix.Height
			}
			e.modules.note(record, modules)
		}
		for _, r := range part.Says {
			seen, known := e.runes[r]
			if known && seen.last(record) || !known && len(e.runes) >= mostRunes {
				continue
			}
			if e.runes == nil {
				e.runes = map[rune]runeSeen{}
			}
			e.runes[r] = runeSeen{seen.records + 1, earliest(seen.first, record)}
		}
	}
}

// last tells whether a character was counted on this record already: only what stands on one record counts, so that the
// first is enough to know.
func (s runeSeen) last(record int) bool { return s.records == 1 && s.first == record }

// earliest returns the earlier of two records; 0 is none.
func earliest(a, b int) int {
	if a == 0 || b != 0 && b < a {
		return b
	}
	return a
}

// join adds what was found on other records.
func (x *extremes) join(other *extremes) {
	for n := range x.of {
		e, l := &x.of[n], &other.of[n]
		e.wide.join(&l.wide)
		e.lines.join(&l.lines)
		e.perEm.join(&l.perEm)
		e.modules.join(&l.modules)
		e.letters.join(&l.letters)
		e.empty = earliest(e.empty, l.empty)
		if e.runes == nil {
			e.runes = l.runes
			continue
		}
		for r, seen := range l.runes {
			if mine, known := e.runes[r]; known || len(e.runes) < mostRunes {
				e.runes[r] = runeSeen{mine.records + seen.records, earliest(mine.first, seen.first)}
			}
		}
	}
}

// list returns the extremes by what they do on this label, each record once and only where labels differ, in the order
// of the records.
func (x *extremes) list() []Extreme {
	found := []Extreme{}
	add := func(record int, format string, args ...any) {
		if record > 0 && !slices.ContainsFunc(found, func(e Extreme) bool { return e.Record == record }) {
			found = append(found, Extreme{record, fmt.Sprintf(format, args...)})
		}
	}
	for n, i := range x.changing {
		e, id := &x.of[n], x.design.Elements[i].ID
		if e.wide.differs() {
			add(e.wide.mostAt, "%s: widest, %d %% of its box", id, (e.wide.most+5)/10)
		}
		if e.lines.differs() {
			add(e.lines.mostAt, "%s: most lines, %d", id, e.lines.most)
		}
		if e.perEm.differs() {
			add(e.perEm.leastAt, "%s: smallest type", id)
		}
		if e.modules.differs() {
			add(e.modules.mostAt, "%s: densest code, %d modules", id, e.modules.most)
		}
		if e.empty > 0 && e.letters.some {
			add(e.empty, "%s: says nothing", id)
		}
		if e.letters.differs() {
			add(e.letters.leastAt, "%s: shortest, %d letters", id, e.letters.least)
		}
		if r, seen := e.oddest(); seen.first > 0 && e.letters.some {
			add(seen.first, "%s: “%c” stands here only", id, r)
		}
	}
	slices.SortFunc(found, func(a, b Extreme) int { return cmp.Compare(a.Record, b.Record) })
	return found
}

// oddest returns the character that stands on one record only: one beyond ASCII is odder than a sign, and a sign odder
// than a letter or a digit; among equals the one on the earliest record.
func (e *elementExtremes) oddest() (odd rune, seen runeSeen) {
	for r, s := range e.runes {
		if s.records != 1 {
			continue
		}
		if seen.first == 0 || cmp.Or(cmp.Compare(plainness(r), plainness(odd)), cmp.Compare(s.first, seen.first),
			cmp.Compare(r, odd)) < 0 {
			odd, seen = r, s
		}
	}
	return odd, seen
}

func plainness(r rune) int {
	switch {
	case r > 127:
		return 0
	case r >= '0' && r <= '9' || r|0x20 >= 'a' && r|0x20 <= 'z':
		return 2
	}
	return 1
}
