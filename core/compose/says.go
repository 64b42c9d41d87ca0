package compose

import (
	"strings"

	"oddspool/core/design"
	"oddspool/core/gs1"
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
	return d.When.Holds(value(record, e.when.field))
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

// MostLetters is how many bytes of a text are drawn, or put into a code: more than any label can show.
const MostLetters = 5000

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
	if len(e.pieces) == 1 && e.pieces[0].field >= 0 && e.faces == nil { // one field: no joining, no copy
		if part.Says = value(record, e.pieces[0].field); part.Says == "" {
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
	for _, p := range pieces {
		switch p.field {
		case missingField:
			part.Lacks = p.name
		case noField:
			c.text = append(c.text, p.text...)
		default:
			fields++
			if text := value(record, p.field); text != "" {
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
				part.Blank = p.name
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

func value(record []string, field int) string {
	if field < len(record) {
		return record[field]
	}
	return ""
}
