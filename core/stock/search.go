package stock

import (
	"regexp"
	"strings"
	"sync"

	"oddspool/core/measure"
)

// sizes finds sizes in what is typed: "76x38", "4 in x 2 in", "3in", "12 mm". It is compiled by the first search: most
// programs, the page's among them, search nothing.
var sizes = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`(?i)(\d+(?:[.,]\d+)?)\s*(mm|cm|in|"|″)?(?:\s*[x×*]\s*(\d+(?:[.,]\d+)?)\s*(mm|cm|in|"|″)?)?`)
})

// near is how far a typed size may be from a stock's: trade sizes in inches and millimetres differ
// by rounding, 4 in being sold as 102 mm.
const near = 600 * measure.Micrometre

// A Query is what is looked for: words, and sizes where they were typed.
type Query struct {
	words []string
	sizes [][2]measure.Length // the second is 0 where only one was typed
}

// ParseQuery reads what is typed into a search. A number with a unit, or two with a cross between,
// are sizes; all else are words.
func ParseQuery(text string) Query {
	var q Query
	expression := sizes()
	rest := expression.ReplaceAllStringFunc(text, func(found string) string {
		part := expression.FindStringSubmatch(found)
		if part[2] == "" && part[3] == "" {
			return found // a bare number is a word: part of a stock's number, maybe
		}
		unit := part[2] // "100 x 50 mm" gives its unit once
		if unit == "" {
			unit = part[4]
		}
		first, err := measure.Parse(part[1]+unit, measure.UnitMillimetre)
		if err != nil {
			return found
		}
		size := [2]measure.Length{first}
		if part[3] != "" {
			second := part[4]
			if second == "" {
				second = unit
			}
			if size[1], err = measure.Parse(part[3]+second, measure.UnitMillimetre); err != nil {
				return found
			}
		}
		q.sizes = append(q.sizes, size)
		return " "
	})
	q.words = strings.Fields(strings.ToLower(rest))
	return q
}

// Size returns the first pair of sizes that was typed; ok is false when there is none.
func (q Query) Size() (width, length measure.Length, ok bool) {
	for _, size := range q.sizes {
		if size[1] > 0 {
			return size[0], size[1], true
		}
	}
	return 0, 0, false
}

// Matches tells whether a stock has every word in its number, name, kind, material, purpose, shape
// or colour, and every size, either way round.
func (q Query) Matches(s Stock) bool {
	text := strings.ToLower(strings.Join([]string{s.Number, s.Name, string(s.Kind), s.Material, s.Purpose,
		string(s.Shape), s.Colour, string(s.Found())}, " "))
	if s.Across() > 1 {
		text += " lanes"
	}
	for _, word := range q.words {
		if !strings.Contains(text, word) {
			return false
		}
	}
	for _, size := range q.sizes {
		is := func(a, b measure.Length) bool { return a-b <= near && b-a <= near }
		both := is(s.Width, size[0]) && is(s.Length, size[1]) || is(s.Width, size[1]) && is(s.Length, size[0])
		one := size[1] == 0 && (is(s.Width, size[0]) || is(s.Length, size[0]) || is(s.WebWidth(), size[0]) ||
			s.Sleeve != nil && is(s.Sleeve.Supplied, size[0]))
		if !both && !one {
			return false
		}
	}
	return true
}
