package compose

import (
	"strings"

	"oddspool/core/design"
	"oddspool/core/epc"
)

// tag works out what is written into the chip of a label.
func (c *Composer) tag(part *Part, d *design.Element, e *element, record []string) {
	said := Part{}
	if len(d.Tag.User) > 0 {
		user := *e
		user.pieces, user.escapes = e.header, false
		c.say(&said, &user, record)
		part.Missing = append(part.Missing, said.Missing...)
		if said.Wrong != nil {
			part.Wrong = said.Wrong
		}
	}
	if part.Says == "" || part.Wrong != nil {
		return
	}
	part.Tag, part.CodeError = epc.Remember(epc.Kind{Scheme: epc.Scheme(d.Tag.Scheme), Prefix: d.Tag.Prefix,
		Filter: d.Tag.Filter, AFI: d.Tag.AFI}, strings.TrimSpace(part.Says), said.Says)
}

// Tags returns what is written into the chip of the label of a record; nil: nothing is. Its error is that of package
// epc.
func (c *Composer) Tags(l *Label, record []string) (*epc.Memory, error) {
	c.Compose(l, record)
	for i := range l.Parts {
		if c.design.Elements[i].Kind == design.Tag && !l.Parts[i].Absent {
			return l.Parts[i].Tag, l.Parts[i].CodeError
		}
	}
	return nil, nil //nolint:nilnil // there is nothing, and that is no error
}
