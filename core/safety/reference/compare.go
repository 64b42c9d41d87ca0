package reference

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/safety/hazard"
	"oddspool/core/safety/pipe"
)

// Kinds of what a pack has.
const (
	Symbol    = "symbol"
	Class     = "class"
	Statement = "statement"
	Substance = "substance"
	Message   = "message"
	Pipe      = "pipe" // a group of contents, or a row of sizes
)

// What became of it from one pack to another.
const (
	Added     = "added"
	Changed   = "changed"
	Withdrawn = "withdrawn"
)

// A Change is one thing in which two packs differ.
type Change struct {
	Kind   string `json:"kind"`
	ID     string `json:"id"`
	Name   string `json:"name"`
	What   string `json:"what"`
	Before string `json:"before"` // in words; empty: it was not there
	After  string `json:"after"`

	texts [][2]string // what labels say of it, as it was and as it is
	group *pipe.Group // as it was; nil: it is none
}

// a thing is one entry of a pack, to be held against another's.
type thing struct {
	name, says string
	texts      []string // what labels say, in each language
	group      *pipe.Group
}

// Compare returns in what a pack differs from another, kind by kind.
func Compare(from, to *Pack) (changes []Change) {
	for _, kind := range []struct {
		kind string
		of   func(*Pack) map[string]thing
	}{{Symbol, symbolsOf}, {Statement, statementsOf}, {Class, classesOf}, {Substance, substancesOf}, {Pipe, pipesOf},
		{Message, messagesOf}} {
		before, after := kind.of(from), kind.of(to)
		var found []Change
		for id, was := range before {
			is, there := after[id]
			switch {
			case !there:
				found = append(found, Change{Kind: kind.kind, ID: id, Name: was.name, What: Withdrawn,
					Before: describe(kind.kind, was), group: was.group})
			case was.says != is.says:
				c := Change{Kind: kind.kind, ID: id, Name: is.name, What: Changed, Before: describe(kind.kind, was),
					After: describe(kind.kind, is), group: was.group}
				for i := range was.texts {
					if was.texts[i] != is.texts[i] {
						c.texts = append(c.texts, [2]string{was.texts[i], is.texts[i]})
					}
				}
				found = append(found, c)
			}
		}
		for id, is := range after {
			if _, there := before[id]; !there {
				found = append(found, Change{Kind: kind.kind, ID: id, Name: is.name, What: Added,
					After: describe(kind.kind, is)})
			}
		}
		slices.SortFunc(found, func(a, b Change) int {
			return cmp.Or(cmp.Compare(a.What, b.What),
				cmp.Compare(a.ID, b.ID))
		})
		changes = append(changes, found...)
	}
	return changes
}

// describe is what a thing says in words. Of a drawing that is its name and meaning.
func describe(kind string, t thing) string {
	if kind == Symbol {
		return t.texts[0]
	}
	return t.says
}

func symbolsOf(p *Pack) map[string]thing {
	all := map[string]thing{}
	for _, s := range p.Symbols {
		all[s.ID] = thing{name: s.Name, says: string(s.SVG()), texts: []string{s.Name + ": " + s.Means}}
	}
	return all
}

func statementsOf(p *Pack) map[string]thing {
	all := map[string]thing{}
	for _, code := range p.Book.Codes() {
		t := thing{}
		for _, language := range hazard.Languages {
			text, _ := p.Book.Text(code, language)
			t.texts = append(t.texts, text)
		}
		t.name, t.says = t.texts[0], strings.Join(t.texts, " / ")
		all[code] = t
	}
	return all
}

func classesOf(p *Pack) map[string]thing {
	all := map[string]thing{}
	for i := range p.Book.Classes {
		c := &p.Book.Classes[i]
		said := []string{strings.Join(c.Pictograms, " "), string(c.Signal), strings.Join(c.Hazards, " "),
			strings.Join(c.AllPrecautions(), " "), fmt.Sprint(c.Rules)}
		all[c.String()] = thing{name: c.Name, says: strings.Join(said, "; ")}
	}
	return all
}

func substancesOf(p *Pack) map[string]thing {
	all := map[string]thing{}
	for i := range p.Book.Substances {
		s := &p.Book.Substances[i]
		names := []string{}
		for _, language := range hazard.Languages {
			if name := s.Names[language]; name != "" {
				names = append(names, name)
			}
		}
		var said []string
		for _, part := range [][2]string{{"", strings.Join(names, " / ")}, {"", s.Classification},
			{"supplemental ", strings.Join(s.Supplemental, " ")}, {"limits ", s.Limits}, {"UN ", s.UN},
			{"class ", s.Transport}, {"packing group ", s.PackingGroup}, {"EC ", s.EC}, {"", s.Formula},
			{"also ", strings.Join(s.Synonyms, ", ")}, {"notes ", strings.Join(s.Notes, " ")},
			{"source ", string(s.Source)}} {
			if part[1] != "" {
				said = append(said, part[0]+part[1])
			}
		}
		all[s.ID()] = thing{name: s.Names["en"], says: strings.Join(said, "; "), texts: names}
	}
	return all
}

func pipesOf(p *Pack) map[string]thing {
	all := map[string]thing{}
	for i := range p.Pipes.Groups {
		g := &p.Pipes.Groups[i]
		said := fmt.Sprintf("%s on %s", g.Letters, g.Field)
		for _, more := range [][2]string{{", with bands in ", g.Stripe}, {"; holds ", g.Holds},
			{"; known by ", strings.Join(g.Words(), ", ")}, {"; ", g.Clause}} {
			if more[1] != "" {
				said += more[0] + more[1]
			}
		}
		if g.Hazard {
			said += "; hazardous"
		}
		all[string(g.Rules)+" "+g.ID] = thing{name: g.Name, says: said, group: g}
	}
	for _, rules := range p.Pipes.Sets() {
		all[string(rules)] = thing{name: p.Pipes.Standard(rules), says: p.Pipes.Sizes(rules)}
	}
	return all
}

func messagesOf(p *Pack) map[string]thing {
	all := map[string]thing{}
	for _, t := range p.Texts {
		said := strings.TrimSpace(fmt.Sprintf("%s %s", strings.ToUpper(t.Kind), strings.Join(t.Symbols, " ")))
		all[t.Message] = thing{name: t.Message, says: said}
	}
	return all
}

// Touches returns which changes a design is touched by: it shows the symbol, says the statement, is a substance's label
// or says the message.
func Touches(d *design.Design, changes []Change) (touching []Change) {
	shows := d.Symbols()
	var words strings.Builder
	for i := range d.Elements {
		for piece := range d.Elements[i].Pieces() {
			words.WriteString(piece.Text + "\n")
		}
	}
	says := words.String()
	laid := []byte{}
	if d.Laid != nil {
		laid = d.Laid.With
	}
	for _, c := range changes {
		var is bool
		switch c.Kind {
		case Symbol:
			is = slices.Contains(shows, c.ID)
		case Substance:
			is = bytes.Contains(laid, []byte(`"`+c.ID+`"`)) || c.mentions(says)
		case Message:
			is = d.Laid != nil && strings.Contains(says, c.ID)
		case Pipe:
			is = d.Laid != nil && d.Laid.What == "pipe" && c.marks(d.Laid.With)
		case Class:
			class, _, _ := strings.Cut(c.ID, " (")
			is = bytes.Contains(laid, []byte(class))
		default:
			is = c.mentions(says)
		}
		if is && c.What != Added {
			touching = append(touching, c)
		}
	}
	return touching
}

// mentions tells whether a text says something that is said otherwise now.
func (c *Change) mentions(text string) bool {
	return slices.ContainsFunc(c.texts, func(pair [2]string) bool {
		return len(pair[0]) > 3 &&
			strings.Contains(text, pair[0])
	})
}

// marks tells whether a marker is of the group that is otherwise now, or of the rules whose sizes are.
func (c *Change) marks(laid json.RawMessage) bool {
	var of struct{ Rules, Contents, Group, Field, GroupField string }
	if json.Unmarshal(laid, &of) != nil {
		return false
	}
	if c.group == nil {
		return of.Rules == c.ID
	}
	fromRecords := of.GroupField != "" || of.Group == "" && of.Field != "" // it may be any group
	return of.Rules == string(c.group.Rules) && (fromRecords || c.group.Fits(cmp.Or(of.Group, of.Contents)) > 0)
}

// Take returns a design as it is with another pack: it shows that pack's symbols, and says its statements where it says
// the old ones word for word. What follows from a class or a substance is laid out anew by whoever looks at it.
func Take(d *design.Design, version string, changes []Change) *design.Design {
	made := *d
	made.Reference = version
	made.Elements, made.Demands = slices.Clone(d.Elements), slices.Clone(d.Demands)
	renew := func(text *string) {
		for _, c := range changes {
			if c.Kind != Statement && c.Kind != Substance {
				continue
			}
			for _, pair := range c.texts {
				if len(pair[0]) > 3 {
					*text = strings.ReplaceAll(*text, pair[0], pair[1])
				}
			}
		}
	}
	for i := range made.Elements {
		e := &made.Elements[i]
		e.Says = slices.Clone(e.Says)
		for j := range e.Says {
			renew(&e.Says[j].Text)
		}
	}
	for i := range made.Demands {
		renew(&made.Demands[i].Says)
	}
	return &made
}
