package compose

import (
	"fmt"
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/formula"
	"oddspool/core/gs1"
	"oddspool/core/series"
	"oddspool/core/typeset"
)

// stands tells whether the element's condition holds for a record.
func (c *Composer) stands(part *Part, d *design.Element, e *element, record []string) bool {
	if d.When == nil {
		return true
	}
	if e.when.field == missingField {
		part.Lacks = e.when.name
		return true
	}
	return d.When.Holds(c.value(record, e.when.field))
}

// say joins what the element says for a record. When it has fields and all of them are empty it
// says nothing, whatever stands around them.
func (c *Composer) say(part *Part, e *element, record []string) {
	c.put(part, e, record)
	if len(part.Says) > MostLetters {
		part.CutOff = len(part.Says) - MostLetters
		part.Says = strings.ToValidUTF8(part.Says[:MostLetters], "")
	}
}

// MostLetters is how many bytes of a text are drawn, or put into a code: as many as the largest QR Code holds digits,
// and more than any label can show.
const MostLetters = 7089

// put has the part say what the element's pieces say together, and its add-on.
func (c *Composer) put(part *Part, e *element, record []string) {
	c.putPieces(part, e, record)
	if part.Says == "" {
		return
	}
	if text := c.joined(part, e.addOn, record); text != "" {
		part.Says += " " + text
	}
}

func (c *Composer) putPieces(part *Part, e *element, record []string) {
	// one field: no joining, no copy
	if len(e.pieces) == 1 && e.pieces[0].field >= 0 && e.pieces[0].changes == nil && e.faces == nil {
		if part.Says = c.value(record, e.pieces[0].field); part.Says == "" {
			part.Blank = e.pieces[0].name
		}
		return
	}
	fields, filled := c.join(part, e.pieces, record, e.escapes)
	if e.faces != nil {
		c.keepSpans(e)
	}
	if fields == 0 || filled > 0 {
		part.Says = string(c.text)
	}
}

// join puts pieces together in c.text, and counts the fields among them and those that are not empty. Where it
// escapes, a value that follows an identifier is data, whatever stands in it; one that begins the whole may
// be element strings or a link.
func (c *Composer) join(part *Part, pieces []piece, record []string, escapes bool) (fields, filled int) {
	c.text, c.ends = c.text[:0], c.ends[:0]
	for i := range pieces {
		p := &pieces[i]
		switch {
		case p.field == missingField:
			part.Lacks = p.name
		case p.isText() && p.changes == nil:
			text, err := c.wordsOf(p, record)
			if err != nil {
				part.Wrong = err
			}
			c.text = append(c.text, text...)
		default:
			fields++
			text, err := c.pieceText(p, record)
			if err != nil {
				part.Wrong = err
			}
			if text != "" {
				filled++
				switch {
				case !escapes || len(c.text) == 0:
				case c.text[0] == '(':
					text = gs1.Escape(text)
				default:
					text = gs1.EscapeInLink(text)
				}
				c.text = append(c.text, text...)
			} else if part.Blank == "" {
				part.Blank = p.called()
			}
		}
		c.ends = append(c.ends, len(c.text))
	}
	return fields, filled
}

// keepSpans keeps which parts of c.text are set in which face, and has it be plain.
func (c *Composer) keepSpans(e *element) {
	c.spans = c.spans[:0]
	plain, from := "", 0
	for i, end := range c.ends {
		plain += typeset.Plain(string(c.text[from:end]))
		c.spans = append(c.spans, typeset.Span{To: len(plain), Face: e.faces[i]})
		from = end
	}
	c.text = append(c.text[:0], plain...)
}

// called is what a piece is called in what is said of it.
func (p *piece) called() string {
	switch {
	case p.name != "":
		return p.name
	case p.formula != nil || p.wrong != nil:
		return "the formula"
	}
	return "what the other element says"
}

// pieceText returns what a piece says for a record, its changes done.
func (c *Composer) pieceText(p *piece, record []string) (text string, err error) {
	switch {
	case p.wrong != nil:
		return "", p.wrong
	case p.formula != nil:
		text, err = p.formula.Text(c.whole(record), c.setting)
	case p.element >= 0:
		text, err = c.sayOf(p.element, record)
	case p.field >= 0:
		text = c.value(record, p.field)
	default:
		text, err = c.wordsOf(p, record)
	}
	if err == nil && p.changes != nil {
		text, err = formula.All(p.changes, text)
	}
	return text, err
}

// sayOf returns what another element says for a record. What is being joined is kept meanwhile.
func (c *Composer) sayOf(i int, record []string) (string, error) {
	text, ends := c.text, c.ends
	c.text, c.ends = nil, nil
	var part Part
	e := &c.elements[i]
	fields, filled := c.join(&part, e.pieces, record, false)
	says := string(c.text)
	c.text, c.ends = text, ends
	if fields > 0 && filled == 0 {
		says = ""
	}
	return says, part.Wrong
}

// Pieces returns what each piece of element i says for a record.
func (c *Composer) Pieces(i int, record []string) (texts []string) {
	pieces := c.elements[i].pieces
	for j := range pieces {
		text, err := c.pieceText(&pieces[j], record)
		if err != nil {
			text = ""
		}
		texts = append(texts, text)
	}
	return texts
}

// ask puts questions that the records have no answers to behind their fields, and what is known only of a run: what
// stands in for an answer is its default, or its name.
func (c *Composer) ask(fields []string) []string {
	for i := range c.design.Questions {
		q := &c.design.Questions[i]
		if slices.Contains(fields, q.Name) {
			continue
		}
		fields = append(slices.Clip(fields), q.Name)
		answer, given := c.design.Answers[q.Name]
		if !given {
			answer = q.Default
		}
		if l := c.design.Languages; answer == "" && l != nil && l.Field == q.Name {
			answer = l.Own
		}
		if answer == "" && c.design.Answers == nil { // nobody was asked yet
			answer = "‹" + q.Name + "›"
		}
		c.answers = append(c.answers, answer)
	}
	for i := range c.design.Series {
		n := &c.design.Series[i]
		if slices.Contains(fields, n.Name) {
			continue
		}
		if counts, err := series.New(n.Counts); err == nil { // a design with a wrong one is not opened
			c.counts = append(c.counts, counting{len(c.answers), n.Each() == design.PerRun, counts})
		}
		fields, c.answers = append(slices.Clip(fields), n.Name), append(c.answers, "")
	}
	for _, fact := range design.Facts {
		if slices.Contains(fields, fact.Name) {
			continue
		}
		stand := fact.Stand
		if fact.Name == "run.printer" {
			stand = c.design.Printer.Name
		}
		fields, c.answers = append(slices.Clip(fields), fact.Name), append(c.answers, stand)
	}
	c.Stand(1)
	return fields
}

// counting is a series whose numbers stand in for those that a run takes.
type counting struct {
	answer int  // its place in the answers
	once   bool // all labels have the first
	series *series.Series
}

// Stand has the next label be one of a batch, from 1: where there is no run, it has the number of each series that such
// a label would have if all were counted from the first.
func (c *Composer) Stand(n int) {
	for _, count := range c.counts {
		place := n - 1
		if count.once {
			place = 0
		}
		c.answers[count.answer], _ = count.series.At(place) // one that ends gives nothing, which is found as empty
	}
}

// readyPieces makes the formulas of an element ready, and finds the elements whose words it says.
func (c *Composer) readyPieces(i int, fields []string) {
	d, e := &c.design.Elements[i], &c.elements[i]
	ready := func(says []design.Piece, pieces []piece) {
		for j := range pieces {
			p := &pieces[j]
			switch {
			case says[j].Formula != "":
				if p.formula, p.wrong = formula.Compile(says[j].Formula, fields); p.wrong != nil {
					p.formula = nil
				}
			case says[j].Element != "":
				p.element = slices.IndexFunc(c.design.Elements,
					func(other design.Element) bool { return other.ID == says[j].Element })
				if p.element < 0 {
					p.wrong = &formula.Error{Text: fmt.Sprintf("The element %q, whose words stand here, is gone.",
						says[j].Element)}
				}
			}
		}
	}
	ready(d.Says, e.pieces)
	if d.Tag != nil {
		ready(d.Tag.User, e.header)
	}
	if d.Code != nil {
		if e.addOn != nil {
			ready(d.Code.AddOn, e.addOn)
		}
		ready(d.Code.Header, e.header)
		ready(d.Code.Footer, e.footer)
	}
}

// whole returns a record with what stands in for answers.
func (c *Composer) whole(record []string) []string {
	if c.answers == nil {
		return record
	}
	record = slices.Clip(record[:min(len(record), c.fields)])
	for len(record) < c.fields {
		record = append(record, "")
	}
	return append(record, c.answers...)
}

// Value returns what a field, an answer or a number is for a record; known is false where there is none of that name.
func (c *Composer) Value(field string, record []string) (value string, known bool) {
	at := slices.Index(c.names, field)
	if at < 0 {
		return "", false
	}
	return c.value(record, at), true
}

func (c *Composer) value(record []string, field int) string {
	if field >= c.fields {
		return c.answers[field-c.fields]
	}
	if field < len(record) {
		return record[field]
	}
	return ""
}
