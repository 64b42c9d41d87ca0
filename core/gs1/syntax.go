package gs1

import (
	_ "embed"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"sync"
)

// An AI is an application identifier.
type AI struct {
	AI    string
	Title string // the data title (GS1 General Specifications, 3.2)

	parts      []component
	not        []string     // patterns of identifiers that may not stand beside it
	needs      [][][]string // of each, one set must be there as well
	qualifiers [][]string   // orders in which identifiers may follow it in the path of a link
	key        bool         // a link may begin with it
	noQuery    bool         // it may not stand in the query of a link
}

// A component is a run of one kind of characters in a value.
type component struct {
	set         byte // N digits, X set 82, Y set 39, Z set 64 with = behind
	least, most int
	optional    bool
	rules       []rule
}

// syntax is the GS1 Barcode Syntax Dictionary as its release of 2026 has it: a line for each identifier
// or range, with components and their rules, what it excludes (ex) and requires (req), and whether a
// link may have it as key (dlpkey) or not in its query (nodlattr).
//
//go:embed syntax.txt
var syntax string

var table = sync.OnceValue(func() map[string]*AI {
	ais := map[string]*AI{}
	for line := range strings.Lines(syntax) {
		body, title, _ := strings.Cut(strings.TrimSpace(line), " # ")
		words := strings.Fields(body)
		from, to, isRange := strings.Cut(words[0], "-")
		if !isRange {
			to = from
		}
		for n := number(from); n <= number(to); n++ {
			ai := &AI{AI: fmt.Sprintf("%0*d", len(from), n), Title: title}
			for _, word := range words[1:] {
				ai.read(word)
			}
			ais[ai.AI] = ai
		}
	}
	return ais
})

// read reads a word of a line of the dictionary.
func (a *AI) read(word string) {
	key, value, _ := strings.Cut(word, "=")
	switch key {
	case "ex":
		a.not = strings.Split(value, ",")
	case "req":
		var need [][]string
		for set := range strings.SplitSeq(value, ",") {
			need = append(need, strings.Split(set, "+"))
		}
		a.needs = append(a.needs, need)
	case "dlpkey":
		a.key = true
		for order := range strings.SplitSeq(value, "|") {
			if order != "" {
				a.qualifiers = append(a.qualifiers, strings.Split(order, ","))
			}
		}
	case "nodlattr":
		a.noQuery = true
	default:
		a.parts = append(a.parts, readComponent(word))
	}
}

// readComponent reads N14,csum or [X..20].
func readComponent(word string) component {
	c := component{optional: word[0] == '['}
	words := strings.Split(strings.Trim(word, "[]"), ",")
	c.set = words[0][0]
	least, most, upTo := strings.Cut(words[0][1:], "..")
	switch {
	case !upTo:
		c.least, c.most = number(least), number(least)
	case least == "":
		c.least, c.most = 1, number(most)
	default:
		c.least, c.most = number(least), number(most)
	}
	for _, name := range words[1:] {
		c.rules = append(c.rules, ruleNamed(name))
	}
	return c
}

func number(digits string) int {
	n, _ := strconv.Atoi(digits)
	return n
}

func isDigit(c byte) bool { return c >= '0' && c <= '9' }

// Find returns the application identifier of a number; nil: there is none.
func Find(id string) *AI { return table()[id] }

var all = sync.OnceValue(func() []*AI {
	list := make([]*AI, 0, len(table()))
	for _, ai := range table() {
		list = append(list, ai)
	}
	slices.SortFunc(list, func(a, b *AI) int { return strings.Compare(a.AI, b.AI) })
	return list
})

// All returns all application identifiers in their order.
func All() []*AI { return slices.Clone(all()) }

// predefined are the beginnings of identifiers whose values have a predefined length, so that no
// function character ends them (GS1 General Specifications, figure 7.8.5-2).
const predefined = "00 01 02 03 04 11 12 13 14 15 16 17 18 19 20 31 32 33 34 35 36 41"

// Predefined tells whether no function character follows the value.
func (a *AI) Predefined() bool { return strings.Contains(predefined, a.AI[:2]) }

// Decimals returns how many digits of the value stand after the decimal point, which the last digit of
// the identifiers of measures and amounts says (3.6 and 3.9); ok is false for others.
func (a *AI) Decimals() (n int, ok bool) {
	if len(a.AI) == 4 && (a.AI >= "3100" && a.AI <= "3699" || a.AI >= "3900" && a.AI <= "3959") {
		return int(a.AI[3] - '0'), true
	}
	return 0, false
}

// Format tells in words what a value is: "14 digits, the last a check digit".
func (a *AI) Format() string {
	var words []string
	for i := 0; i < len(a.parts); i++ {
		part := a.parts[i]
		times := 1
		for part.optional && i+1 < len(a.parts) && a.parts[i+1].set == part.set && a.parts[i+1].most == part.most {
			i, times = i+1, times+1
		}
		text := part.words()
		switch {
		case times > 1:
			text = fmt.Sprintf("up to %d times %s", times, text)
		case part.optional:
			text = "perhaps " + text
		}
		words = append(words, text)
	}
	if n, ok := a.Decimals(); ok {
		words[len(words)-1] += fmt.Sprintf(", %d after the decimal point", n)
	}
	return strings.Join(words, ", then ")
}

func (c *component) words() string {
	for _, r := range c.rules {
		if r.instead != "" {
			return r.instead
		}
	}
	kind := "character"
	if c.set == 'N' {
		kind = "digit"
	}
	text := fmt.Sprintf("%d %ss", c.most, kind)
	switch {
	case c.most == 1:
		text = "1 " + kind
	case c.least < c.most:
		text = "up to " + text
	}
	for _, r := range c.rules {
		text += r.also
	}
	return text
}

// Check returns what is wrong with a value, in a sentence, and at which of its characters, from 1; an
// empty problem: nothing.
func (a *AI) Check(value string) (problem string, position int) {
	rest, at := value, 0 // at counts characters
	for i := range a.parts {
		part := &a.parts[i]
		if rest == "" && part.optional {
			break
		}
		taken, characters := firstCharacters(rest, part.most)
		for n, c := range []rune(taken) {
			if problem := part.refuses(c); problem != "" {
				return problem, at + n + 1
			}
		}
		if characters < part.least {
			return a.length(value), 1
		}
		for _, r := range part.rules {
			if problem := r.check(taken); problem != "" {
				return problem, at + 1
			}
		}
		rest, at = rest[len(taken):], at+characters
	}
	if rest != "" {
		return a.length(value), 1
	}
	return "", 0
}

// firstCharacters returns up to n characters of text, and how many they are.
func firstCharacters(text string, n int) (string, int) {
	count := 0
	for i := range text {
		if count == n {
			return text[:i], count
		}
		count++
	}
	return text, count
}

// length says how long a value should be.
func (a *AI) length(value string) string {
	least, most := 0, 0
	for _, part := range a.parts {
		if !part.optional {
			least += part.least
		}
		most += part.most
	}
	range_ := fmt.Sprintf("%d to %d", least, most)
	if least == most {
		range_ = fmt.Sprint(most)
	}
	given := "“" + value + "”"
	if value == "" {
		given = "what is given"
	}
	count := len([]rune(value))
	if count >= least && count <= most { // a part of it is too short
		return fmt.Sprintf("it has %s, and %s is not so.", a.Format(), given)
	}
	return fmt.Sprintf("it has %s characters, and %s is %d.", range_, given, count)
}

const set64 = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_="

// refuses says why a character may not stand in the component; empty: it may.
func (c *component) refuses(r rune) string {
	in := func(set string) bool { return r < 0x80 && strings.IndexByte(set, byte(r)) >= 0 }
	switch {
	case c.set == 'N' && (r < '0' || r > '9'):
		return printable(r) + " is no digit."
	case c.set == 'X' && !in(set82):
		return printable(r) + " may not stand in GS1 data."
	case c.set == 'Y' && !in(set39):
		return printable(r) + " may not stand here; digits, capitals, #, - and / may."
	case c.set == 'Z' && !in(set64):
		return printable(r) + " may not stand here; letters, digits, - and _ may, and = at the end."
	}
	return ""
}

// printable writes a character for people.
func printable(r rune) string {
	switch {
	case r == ' ':
		return "A space"
	case r == '\uFFFD':
		return "What is no valid text"
	case r < 32 || r == 127:
		return fmt.Sprintf("The control character U+%04X", r)
	}
	return fmt.Sprintf("“%c”", r)
}
