package design

import (
	"cmp"
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"oddspool/core/questions"
)

// A Change is one thing that differs between two states of a design.
type Change struct {
	Element string `json:"element,omitempty"` // its id; empty: of the whole design
	Text    string `json:"text"`
}

// Compare tells in words what became of a design: what of the whole differs first, then element by element.
func Compare(before, after *Design) []Change {
	changes := []Change{}
	say := func(element, format string, args ...any) {
		changes = append(changes, Change{element, fmt.Sprintf(format, args...)})
	}
	if before.Name != after.Name {
		say("", "The name was “%s” and is “%s”.", before.Name, after.Name)
	}
	if !reflect.DeepEqual(before.Stock, after.Stock) {
		say("", "The stock was %s and is %s%s.", before.Stock.Name, after.Stock.Name,
			figures(before.Stock.Name == after.Stock.Name))
	}
	if before.Reference != after.Reference {
		say("", "Its symbols were those of reference %s and are those of %s.",
			cmp.Or(before.Reference, "that came with the program"),
			cmp.Or(after.Reference, "that comes with the program"))
	}
	if !reflect.DeepEqual(before.Printer, after.Printer) {
		say("", "The printer was %s and is %s%s.", before.Printer.Name, after.Printer.Name,
			figures(before.Printer.Name == after.Printer.Name))
	}
	if before.Turn != after.Turn {
		say("", "The artwork was turned by %d° on the web and is by %d°.", before.Turn, after.Turn)
	}
	if max(before.Repeat, 1) != max(after.Repeat, 1) {
		say("", "The legend stood %d times and stands %d times.", max(before.Repeat, 1), max(after.Repeat, 1))
	}
	for _, q := range after.Questions {
		if !slices.ContainsFunc(before.Questions,
			func(old questions.Question) bool { return reflect.DeepEqual(old, q) }) {
			say("", "“%s” is asked before a run, as it is now.", q.Asked())
		}
	}
	for _, q := range before.Questions {
		if !slices.ContainsFunc(after.Questions, func(now questions.Question) bool { return now.Name == q.Name }) {
			say("", "“%s” is no longer asked before a run.", q.Asked())
		}
	}
	for _, n := range after.Series {
		switch i := slices.IndexFunc(before.Series, func(old Numbered) bool { return old.Name == n.Name }); {
		case i < 0:
			say("", "Labels have numbers of the series “%s”.", n.Name)
		case before.Series[i].Each() != n.Each() || before.Series[i].Group != n.Group:
			say("", "Each %s had a number of the series “%s”, and each %s has one.", before.Series[i].Each(), n.Name,
				n.Each())
		case !reflect.DeepEqual(before.Series[i], n):
			say("", "The series “%s” counts in another way.", n.Name)
		}
	}
	for _, n := range before.Series {
		if !slices.ContainsFunc(after.Series, func(now Numbered) bool { return now.Name == n.Name }) {
			say("", "Labels have no numbers of the series “%s” any more.", n.Name)
		}
	}
	if !reflect.DeepEqual(before.Languages, after.Languages) {
		switch {
		case after.Languages == nil:
			say("", "The words stand in one language, as they are written.")
		case before.Languages == nil:
			say("", "The words stand in the language that “%s” says.", after.Languages.Field)
		default:
			say("", "What the words are called in other languages is different.")
		}
	}
	compareDemands(before, after, say)
	for _, old := range before.Elements {
		if after.Element(old.ID) == nil {
			say(old.ID, "%s is gone.", old.Title())
		}
	}
	for i := range after.Elements {
		now := &after.Elements[i]
		old := before.Element(now.ID)
		if old == nil {
			say(now.ID, "%s is new.", now.Title())
			continue
		}
		if what := differences(old, now); what != "" {
			say(now.ID, "%s: %s.", now.Title(), what)
		}
	}
	if order(before, after) {
		say("", "The order from back to front is another.")
	}
	return changes
}

// compareDemands tells which rules of safety labels were overruled, and are no longer.
func compareDemands(before, after *Design, say func(element, format string, args ...any)) {
	asked := 0
	for _, now := range after.Demands {
		switch at := slices.IndexFunc(before.Demands, now.same); {
		case at < 0:
			asked++
		case now.Overruled != before.Demands[at].Overruled && now.Overruled != "":
			say(now.Element, "A rule was overruled (%s, %s): “%s”.", now.Asks, now.Rule, now.Overruled)
		case now.Overruled != before.Demands[at].Overruled:
			say(now.Element, "A rule holds again (%s, %s).", now.Asks, now.Rule)
		}
	}
	if asked > 0 || len(after.Demands) < len(before.Demands) {
		say("", "The rules of its safety labels ask for other things.")
	}
}

func figures(same bool) string {
	if same {
		return ", with other figures"
	}
	return ""
}

// order tells whether elements that both have stand in another order.
func order(before, after *Design) bool {
	common := func(of, in *Design) (ids []string) {
		for _, e := range of.Elements {
			if in.Element(e.ID) != nil {
				ids = append(ids, e.ID)
			}
		}
		return ids
	}
	return !slices.Equal(common(before, after), common(after, before))
}

// Title names an element as a list does: its kind and what it says.
func (e *Element) Title() string {
	if says := Wording(e.Says); says != "" {
		return fmt.Sprintf("%s “%s”", kindNames[e.Kind], says)
	}
	return fmt.Sprintf("%s %s", kindNames[e.Kind], e.ID)
}

var kindNames = map[Kind]string{Text: "Text", Code: "Code", Line: "Line", Box: "Box", Oval: "Ellipse",
	Picture: "Picture", Symbol: "Symbol", Tag: "Tag"}

// Wording writes pieces in a row, fields in braces.
func Wording(pieces []Piece) string {
	var all strings.Builder
	for _, p := range pieces {
		switch {
		case p.Field != "":
			all.WriteString("{" + p.Field + "}")
		case p.Formula != "":
			all.WriteString("{= " + p.Formula + "}")
		case p.Element != "":
			all.WriteString("{what " + p.Element + " says}")
		}
		all.WriteString(p.Text)
	}
	return all.String()
}

// differences lists what of an element differs, each with both values.
func differences(before, after *Element) string {
	old, now := flat(before), flat(after)
	names := slices.Sorted(maps.Keys(propertiesOf(old, now)))
	var list []string
	for _, name := range names {
		if reflect.DeepEqual(old[name], now[name]) {
			continue
		}
		of := properties[name]
		if of.text == nil {
			list = append(list, "another "+of.title)
			continue
		}
		told := func(value any) string {
			if value == nil || value == "" || value == false {
				return of.none
			}
			return of.text(value)
		}
		list = append(list, fmt.Sprintf("%s %s → %s", of.title, told(old[name]), told(now[name])))
	}
	return strings.Join(list, ", ")
}

func propertiesOf(a, b map[string]any) map[string]bool {
	names := map[string]bool{}
	for name := range a {
		names[name] = true
	}
	for name := range b {
		names[name] = true
	}
	return names
}

// flat gives the members of an element by their names, those of its looks with a dot.
func flat(e *Element) map[string]any {
	data, err := json.Marshal(e)
	if err != nil {
		panic(err) // plain values
	}
	var members map[string]any
	if err := json.Unmarshal(data, &members); err != nil {
		panic(err)
	}
	for _, looks := range []string{"text", "code", "picture", "shape", "symbol", "tag"} {
		inner, _ := members[looks].(map[string]any)
		delete(members, looks)
		for name, value := range inner {
			members[looks+"."+name] = value
		}
	}
	delete(members, "picture.name")
	return members
}

// A Clash is an element that two people changed, each in their own way.
type Clash struct {
	Element string `json:"element"` // its id; empty: name, stock, printer and how it lies
	Mine    string `json:"mine"`    // what became of it, in words
	Theirs  string `json:"theirs"`
}

// Merge joins two states that were made of one: what one side alone changed is taken as it is there. Where both changed
// an element, take says whose counts ("mine" or "theirs" by its id); without a word it is a clash, and theirs stands
// meanwhile. What both added under one id is two things, of which mine gets another id.
func Merge(base, mine, theirs *Design, take map[string]string) (*Design, []Clash) {
	mine = apart(base, mine, theirs)
	merged := *theirs
	merged.Elements = nil
	clashes := []Clash{}
	whole := func(d *Design) *Design {
		bare := *d
		bare.Elements, bare.Fields, bare.Parts = nil, nil, nil
		return &bare
	}
	settle := func(id string, base, my, their, mineTold, theirsTold any) (mineCounts bool) {
		switch {
		case same(my, their) || same(base, my):
			return false
		case same(base, their) || take[id] == "mine":
			return true
		case take[id] == "theirs":
			return false
		}
		clashes = append(clashes, Clash{id, mineTold.(string), theirsTold.(string)})
		return false
	}
	told := func(d *Design) string {
		var words []string
		for _, c := range Compare(whole(base), whole(d)) {
			words = append(words, c.Text)
		}
		return strings.Join(words, " ")
	}
	if settle("", whole(base), whole(mine), whole(theirs), told(mine), told(theirs)) {
		elements := merged.Elements
		merged = *mine
		merged.Elements = elements
	}
	chosen := func(id string) *Element {
		b, m, t := base.Element(id), mine.Element(id), theirs.Element(id)
		if settle(id, b, m, t, fate(b, m), fate(b, t)) {
			return m
		}
		return t
	}
	// In their order; what is only mine follows what it followed with me.
	for _, e := range theirs.Elements {
		if kept := chosen(e.ID); kept != nil {
			merged.Elements = append(merged.Elements, *kept)
		}
	}
	for i, e := range mine.Elements {
		if theirs.Element(e.ID) != nil {
			continue
		}
		kept := chosen(e.ID)
		if kept == nil {
			continue
		}
		at := 0
		for j := i - 1; j >= 0 && at == 0; j-- {
			at = 1 + slices.IndexFunc(merged.Elements,
				func(other Element) bool { return other.ID == mine.Elements[j].ID })
		}
		merged.Elements = slices.Insert(merged.Elements, at, *kept)
	}
	if merged.Elements == nil {
		merged.Elements = []Element{}
	}
	merged.Parts = mergedParts(base.Parts, mine.Parts, theirs.Parts)
	return &merged, clashes
}

// mergedParts joins what both say of shared parts: a newer version counts, whoever took it.
func mergedParts(base, mine, theirs []SharedPart) []SharedPart {
	parts := slices.Clone(theirs)
	for _, p := range mine {
		i := slices.IndexFunc(parts, func(q SharedPart) bool { return q.Group == p.Group })
		switch {
		case i >= 0 && parts[i].Part == p.Part:
			parts[i].Version = max(parts[i].Version, p.Version)
		case i < 0 && !slices.ContainsFunc(base, func(q SharedPart) bool { return q.Group == p.Group }):
			parts = append(parts, p)
		}
	}
	return parts
}

// apart returns mine with other ids for elements that are new in it and in theirs and not the same.
func apart(base, mine, theirs *Design) *Design {
	made := *mine
	made.Elements = slices.Clone(mine.Elements)
	ids := map[string]string{}
	for i := range made.Elements {
		e := &made.Elements[i]
		other := theirs.Element(e.ID)
		if base.Element(e.ID) != nil || other == nil || same(*e, *other) {
			continue
		}
		for n := 1; ; n++ {
			id := fmt.Sprintf("%s-%d", e.Kind, n)
			if base.Element(id) == nil && theirs.Element(id) == nil && made.Element(id) == nil {
				ids[e.ID], e.ID = id, id
				break
			}
		}
	}
	for i := range made.Elements {
		around := slices.Clone(made.Elements[i].Around)
		for j, id := range around {
			if to := ids[id]; to != "" {
				around[j] = to
			}
		}
		made.Elements[i].Around = around
	}
	return &made
}

func same(a, b any) bool { return reflect.DeepEqual(a, b) }

// fate tells what became of an element.
func fate(before, after *Element) string {
	switch {
	case after == nil:
		return "deleted"
	case before == nil:
		return after.Title() + ", new"
	}
	if what := differences(before, after); what != "" {
		return what
	}
	return "unchanged"
}
