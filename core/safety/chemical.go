// Package safety lays safety labels out on a stock: the label of a chemical from what stands on it,
// a sign from its message, a pipe marker from what is in the pipe. What comes of it are elements of a
// design like any others, to be changed by hand.
package safety

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/safety/hazard"
	"oddspool/core/typeset"
)

const (
	mm       = measure.Millimetre
	typeface = "Liberation Sans"
)

// A Layout is what was laid out.
type Layout struct {
	Elements []design.Element
	Points   float64  // size of the plain type
	Fits     bool     // all of it is there
	Notes    []string // what was left out or is too small, with the rule
	Demands  []design.Demand
}

// demand adds what the rules ask of an element that was laid out.
func (l *Layout) demand(d design.Demand) { l.Demands = append(l.Demands, d) }

// settle notes what the rules ask and the labels of some records do not keep to. One that is too small for a rule that
// must be kept does not fit.
func (l *Layout) settle(d *design.Design, of string, fields []string, records [][]string) error {
	for i := range l.Demands {
		l.Demands[i].Of = of
	}
	on := *d
	on.Elements, on.Demands = l.Elements, l.Demands
	found, err := proof.Unmet(&on, fields, records)
	for _, f := range found {
		if f.Kind == proof.SafetyPresence || f.Kind == proof.SafetyWords { // noted where it was left off
			continue
		}
		if f.Level == proof.Error && f.Kind != proof.SafetyColour {
			l.Fits = false
		}
		note := f.Text
		if f.Element != "" {
			note = fmt.Sprintf("“%s”: %s", f.Element, note)
		}
		l.Notes = append(l.Notes, note)
	}
	return err
}

// A Chemical is what stands on the label of a chemical.
type Chemical struct {
	Name        string
	Identifiers string // numbers of the substance, UN number, what a mixture contains
	Supplier    string // name, address and telephone number
	Quantity    string // nominal, of what the public gets
	Label       *hazard.Label
	More        []Version // what it says in further languages

	// Places is how many pictograms one record has at most, where all of it comes from the fields that hazard.Look adds
	// to records, so that each drum of a batch has its own; Label is then that of the one it is laid out by. 0: it
	// comes from no records.
	Places int
}

// A Version is a chemical label in another language.
type Version struct {
	Name  string
	Label *hazard.Label
}

// versions are the label in all languages, the first one first.
func (c *Chemical) versions() []Version {
	return append([]Version{{c.Name, c.Label}}, c.More...)
}

// Sizes of type, in points. CLP wants what can be read easily (article 31(3)); below 5 points hardly anybody can.
const (
	mostPoints  = 14
	leastPoints = 5
	pointStep   = 0.5
	titleScale  = 1.5
)

// A block is a text that is laid out: one of an element.
type block struct {
	id     string
	text   string
	pieces []design.Piece
	bold   bool
	scale  float64
}

// LayChemical lays the label of a chemical out on a design's stock: pictograms, signal word, statements and the rest in
// the largest type that takes all of it. Where even the smallest does not, precautionary statements are left off, from
// the least important on, and Fits is false: they are needed, and a larger stock is.
func LayChemical(d *design.Design, c Chemical) (*Layout, error) {
	l, err := c.lay(d)
	if err != nil {
		return nil, err
	}
	return l, l.settle(d, "chemical", nil, nil)
}

func (c *Chemical) lay(d *design.Design) (*Layout, error) {
	blocks, pictograms := c.blocks(), c.pictograms()
	var best *Layout
	for _, beside := range []bool{true, false} {
		for _, side := range pictogramSides(d, c.Label) {
			made, err := layOut(d, blocks, pictograms, side, beside)
			if err != nil {
				return nil, err
			}
			if made != nil && (best == nil || made.Points > best.Points) {
				best = made
			}
			if best != nil && best.Points >= 7 {
				break // smaller pictograms are for small labels
			}
		}
	}
	if best != nil {
		best.Fits = true
		c.demands(best)
		return best, nil
	}
	if n := len(c.Label.Precautions); n > 0 && c.Places == 0 {
		least := c.Label.Least()
		without := func(l *hazard.Label) *hazard.Label {
			less := *l
			less.Precautions = slices.DeleteFunc(slices.Clone(l.Precautions),
				func(r hazard.Reasoned) bool { return r.Code == least })
			return &less
		}
		fewer := *c
		fewer.Label, fewer.More = without(c.Label), slices.Clone(c.More)
		for i := range fewer.More {
			fewer.More[i].Label = without(c.More[i].Label)
		}
		made, err := fewer.lay(d)
		if made != nil {
			made.Fits = false
			made.Notes = append(made.Notes, least+" is left off: there is no room for it on this stock.")
			for i, v := range c.versions() {
				made.demandLeftOff(v.Label, numbered("precautions", i), least)
			}
		}
		return made, err
	}
	width, height := d.Size()
	none := &Layout{}
	none.demand(design.Demand{Element: "hazards", Asks: design.AsksPresence, Rule: "since there was no room for it"})
	none.Notes = []string{fmt.Sprintf("A label of %v × %v does not take even pictograms, signal word and hazard "+
		"statements in type of %d points.", width, height, leastPoints)}
	return none, nil
}

// demandLeftOff has the design go on asking for a statement that there was no room for.
func (l *Layout) demandLeftOff(label *hazard.Label, element, code string) {
	const rule = "since there was no room for it"
	if !slices.ContainsFunc(l.Elements, func(e design.Element) bool { return e.ID == element }) &&
		!slices.ContainsFunc(l.Demands, func(d design.Demand) bool {
			return d.Element == element &&
				d.Asks == design.AsksPresence
		}) {
		l.demand(design.Demand{Element: element, Asks: design.AsksPresence, Rule: rule})
	}
	for _, statement := range label.Precautions {
		if statement.Code == code {
			l.demand(design.Demand{Element: element, Asks: design.AsksWords, Says: statement.Text, Rule: rule})
		}
	}
}

// blocks returns the texts of the label in the order they are read.
func (c *Chemical) blocks() (blocks []block) {
	add := func(id, text, field string, bold bool, scale float64) {
		b := block{id: id, text: text, bold: bold, scale: scale, pieces: []design.Piece{{Text: text}}}
		if c.Places > 0 && field != "" {
			b.pieces = []design.Piece{{Field: field}}
		}
		if strings.TrimSpace(text) != "" {
			blocks = append(blocks, b)
		}
	}
	versions := c.versions()
	joined := func(of func(Version) string) string {
		var words []string
		for _, v := range versions {
			if word := of(v); !slices.Contains(words, word) {
				words = append(words, word)
			}
		}
		return strings.Join(words, " / ")
	}
	each := func(id, field string, of func(*hazard.Label) []hazard.Reasoned) {
		for i, v := range versions {
			add(numbered(id, i), hazard.Said(of(v.Label)), field, false, 1)
		}
	}
	add("name", joined(func(v Version) string { return v.Name }), hazard.NameField, true, titleScale)
	add("identifiers", c.Identifiers, hazard.NumbersField, false, 1)
	add("signal word", joined(func(v Version) string { return v.Label.SignalWord }), hazard.SignalField, true,
		titleScale)
	each("hazards", hazard.HazardsField, func(l *hazard.Label) []hazard.Reasoned { return l.Hazards })
	each("supplement", hazard.SupplementField, func(l *hazard.Label) []hazard.Reasoned { return l.Supplemental })
	each("precautions", hazard.PrecautionsField, func(l *hazard.Label) []hazard.Reasoned { return l.Precautions })
	add("quantity", c.Quantity, "", false, 1)
	add("supplier", c.Supplier, "", false, 1)
	return blocks
}

// pictograms returns the symbols of the label, without places.
func (c *Chemical) pictograms() (elements []design.Element) {
	n := cmp.Or(c.Places, len(c.Label.Pictograms))
	for i := range n {
		e := design.Element{ID: fmt.Sprintf("pictogram %d", i+1), Kind: design.Symbol, Symbol: &design.SymbolLooks{}}
		if c.Places > 0 {
			e.Says, e.IfEmpty, e.Symbol.ID = []design.Piece{{Field: hazard.PictogramField(i + 1)}}, design.LeaveOut,
				"GHS02"
		} else {
			e.Symbol.ID = c.Label.Pictograms[i].Code
		}
		elements = append(elements, e)
	}
	return elements
}

// pictogramSides are sides of pictograms that are tried, the wanted one first. A symbol is a square on its corner,
// whose side is its box's over √2.
func pictogramSides(d *design.Design, l *hazard.Label) (boxes []measure.Length) {
	wanted, smallest := 0.0, 10.0
	if l.Size != nil {
		wanted, smallest = l.Size.Pictogram, l.Size.Smallest
	} else {
		w, h := d.Size()
		wanted = min(max(min(w, h).Millimetres()/5, 10), 46)
	}
	for side := wanted; ; side = max(side*0.8, smallest) {
		boxes = append(boxes, measure.Length(math.Ceil(side*math.Sqrt2*1000)))
		if side <= smallest {
			return boxes
		}
	}
}

// demands are what the rules ask of the label: all that stands on it, in its colours and sizes.
func (c *Chemical) demands(l *Layout) {
	clauses := map[hazard.RuleSet][2]string{ // of what stands there, of the colours of pictograms
		hazard.CLP: {"by CLP, article 17", "by CLP, annex I, 1.2.1.1"},
		hazard.GHS: {"by GHS 1.4.10.5.2", "by GHS 1.4.10.4"}, hazard.HazCom: {"by 29 CFR 1910.1200(f)(1)",
			"by 29 CFR 1910.1200, appendix C.2.3"},
	}
	there := clauses[c.Label.Rules]
	size := c.Label.Size
	for i := range l.Elements {
		e := &l.Elements[i]
		if c.Places == 0 || e.IfEmpty != design.LeaveOut {
			l.demand(design.Demand{Element: e.ID, Asks: design.AsksPresence, Rule: there[0]})
		}
		if e.Kind == design.Symbol {
			l.demand(design.Demand{Element: e.ID, Asks: design.AsksColours, Rule: there[1]})
			if size != nil { // the box of a square on its corner
				l.demand(design.Demand{Element: e.ID, Asks: design.AsksHeight,
					Least: measure.Length(size.Smallest * math.Sqrt2 * 1000),
					Rule:  "by " + size.Clause + ", for a square of " + fmt.Sprintf("%g mm", size.Smallest) + ","})
			}
			continue
		}
		if e.Says[0].Field == "" {
			l.demand(design.Demand{Element: e.ID, Asks: design.AsksWords, Says: e.Says[0].Text, Rule: there[0]})
		}
	}
	if size != nil {
		l.demand(design.Demand{Asks: design.AsksSmall, Least: measure.Length(size.Letters * 1000),
			Rule: "by CLP, annex I, 1.2.1.5, as (EU) 2024/2865 has it from 2028 on,", Advice: true})
		for _, side := range []struct {
			asks  design.Ask
			least float64
		}{{design.AsksWidth, size.Width}, {design.AsksHeight, size.Height}} {
			l.demand(design.Demand{Asks: side.asks, Least: measure.Length(side.least * 1000),
				Rule: "by " + size.Clause + ", if possible,", Advice: true})
		}
	}
}

// margin is what is left free along the edges.
func margin(d *design.Design) measure.Length { return max(d.Stock.Keep, 3*mm/2) }

// layOut places pictograms and texts, beside each other or below, in the largest type that fits; nil where none does.
func layOut(d *design.Design, blocks []block, pictograms []design.Element, box measure.Length, beside bool) (*Layout,
	error) {
	w, h := d.Size()
	edge := margin(d)
	w, h = w-2*edge, h-2*edge
	gap := mm
	elements := slices.Clone(pictograms)
	left, top := edge, edge
	width, height := w, h
	if n := measure.Length(len(pictograms)); n > 0 {
		if beside {
			rows := min((h+gap)/(box+gap), n)
			if rows < 1 {
				return nil, nil
			}
			columns := (n + rows - 1) / rows
			left, width = edge+columns*(box+gap), w-columns*(box+gap)
			for i := range elements {
				at := measure.Length(i)
				elements[i].X, elements[i].Y = edge+at/rows*(box+gap), edge+at%rows*(box+gap)
			}
		} else {
			columns := min((w+gap)/(box+gap), n)
			if columns < 1 {
				return nil, nil
			}
			rows := (n + columns - 1) / columns
			top, height = edge+rows*(box+gap), h-rows*(box+gap)
			for i := range elements {
				at := measure.Length(i)
				elements[i].X, elements[i].Y = edge+at%columns*(box+gap), edge+at/columns*(box+gap)
			}
		}
	}
	for i := range elements {
		elements[i].Width, elements[i].Height = box, box
	}
	if width < 15*mm || height < 8*mm {
		return nil, nil
	}
	for points := float64(mostPoints); points >= leastPoints; points -= pointStep {
		texts, bottom, err := stack(d, blocks, left, top, width, points)
		if err != nil {
			return nil, err
		}
		if bottom <= top+height {
			return &Layout{Elements: append(elements, texts...), Points: points}, nil
		}
	}
	return nil, nil
}

// stack sets texts below each other in a column, and returns where they end.
func stack(d *design.Design, blocks []block, left, top, width measure.Length,
	points float64) (elements []design.Element, bottom measure.Length, err error) {
	r := d.Printer.Resolution
	y := top
	for i, b := range blocks {
		size := points * b.scale
		face, err := typeset.Find(typeface, b.bold, false)
		if err != nil {
			return nil, 0, err
		}
		var set typeset.Block
		set.Set(b.text, typeset.Style{Face: face, PerEm: r.PerEm(size), Width: r.Dots(width)})
		high := r.Length(set.Height) + r.Length(1)
		if set.Width > r.Dots(width) { // a word is wider than the column
			return nil, math.MaxInt64, nil
		}
		e := design.Element{ID: b.id, Kind: design.Text, X: left, Y: y, Width: width, Height: high, Says: b.pieces,
			Text: &design.TextLooks{Typeface: typeface, Bold: b.bold, Points: size, Wrap: true}}
		if b.pieces[0].Field != "" { // other records say more
			e.IfEmpty, e.Text.ShrinkTo = design.LeaveOut, leastPoints
		}
		elements = append(elements, e)
		y += high
		if i < len(blocks)-1 {
			y += measure.Length(points * 353 / 4) // a quarter of a line
		}
	}
	return elements, y, nil
}
