package safety

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/safety/pipe"
	"oddspool/core/safety/symbols"
)

// A Pipe is what a pipe marker says.
type Pipe struct {
	Rules    pipe.RuleSet
	Contents string  // in words, which stand on the marker
	Group    string  // of the rules; empty: found from the contents
	Diameter float64 // outside, with insulation, mm
	Flow     Flow
	Symbols  []string // of hazardous contents
	Rows     bool     // all of it again and again round the pipe, so that it reads from any side

	// What comes from the records, where each pipe of a batch has its own; empty: what is said above holds for all.
	Field         string // contents
	GroupField    string // group, or words that say it; empty and no Group: the contents say it
	DiameterField string // in mm
	FlowField     string
	Fields        []string
	Records       [][]string
}

// A Flow is which way what is in a pipe flows.
type Flow string

// The flows, as one reads the marker.
const (
	NoFlow    Flow = ""
	FlowRight Flow = "right"
	FlowLeft  Flow = "left"
	FlowBoth  Flow = "both"
)

// mostValues is how many values of a field one condition has.
const mostValues = 200

// A kindOfPipe is what the pipes of some records have in common: their group, or their size. Values are those of the
// field that says it; nil: all pipes are like that.
type kindOfPipe struct {
	group  *pipe.Group
	size   pipe.Marking
	widest float64 // the largest diameter of that size
	values []string
}

// A marked is one record's pipe.
type marked struct {
	says string
	size pipe.Marking
}

// pipes are all that a marker is laid out for.
type pipes struct {
	groups, sizes []kindOfPipe
	flows         []string // values of the flow's field
	all           []marked
	groupField    string
	some          [][]string // records of which none is like another in what is said of its pipe
}

// largest is the size of the thickest pipes.
func (of *pipes) largest() kindOfPipe {
	return slices.MaxFunc(of.sizes, func(a, b kindOfPipe) int { return cmp.Compare(a.size.Letters, b.size.Letters) })
}

// LayPipe lays a pipe marker out on a design's stock: the colour of the contents over all of it, what is in the pipe in
// letters as high as its diameter asks for, and arrows the way it flows. Its error is a *refusal.Error.
func LayPipe(d *design.Design, book *pipe.Book, p Pipe) (*Layout, error) {
	of, err := p.pipes(book)
	if err != nil {
		return nil, err
	}
	for _, id := range p.Symbols {
		if _, err := symbols.In(d.Reference, id); err != nil {
			return nil, unknownSymbol.With(id)
		}
	}
	w, h := d.Size()
	m := &marker{Pipe: p, pipes: of, d: d, l: &Layout{Fits: true}}
	edge := d.Stock.Keep
	all := rect{edge, edge, w - 2*edge, h - 2*edge}
	for i := range of.groups {
		m.field(i, all)
	}
	needed := of.largest()
	rows := measure.Length(1)
	if p.Rows {
		rows = measure.Length(max(1, min(needed.size.Rows(),
			int(all.h/(measure.Length(needed.size.Letters*1000)+2*mm)))))
	}
	for row := range rows {
		if err := m.row(rect{all.x, all.y + row*all.h/rows, all.w, all.h / rows}, int(row)); err != nil {
			return nil, err
		}
	}
	m.lengths(edge)
	m.known()
	return m.l, m.l.settle(d, "pipe", p.Fields, of.some)
}

// pipes finds what the records say of their pipes.
func (p *Pipe) pipes(book *pipe.Book) (of pipes, err error) {
	of.groupField = p.GroupField
	if p.GroupField == "" && p.Group == "" {
		of.groupField = p.Field
	}
	records := p.Records
	if of.groupField == "" && p.DiameterField == "" && p.FlowField == "" && p.Field == "" || len(records) == 0 &&
		of.groupField == "" {
		records = [][]string{nil} // all are alike
	}
	if len(records) == 0 {
		return of, noRecordsForGroup.With(of.groupField)
	}
	value := func(record []string, field, otherwise string) (string, error) {
		if field == "" {
			return otherwise, nil
		}
		at := slices.Index(p.Fields, field)
		if at < 0 {
			return "", unknownField.With(field)
		}
		if at < len(record) {
			return record[at], nil
		}
		return "", nil
	}
	seen := map[[4]string]bool{}
	for i, record := range records {
		where := func(err error) error {
			if len(records) == 1 && record == nil {
				return err
			}
			return inRecord.With(i+1, err)
		}
		says, group, diameter, flow := p.Contents, cmp.Or(p.Group, p.Contents), "", string(p.Flow)
		if record != nil {
			if says, err = value(record, p.Field, says); err == nil {
				group, err = value(record, of.groupField, group)
			}
			if err == nil {
				diameter, err = value(record, p.DiameterField, "")
			}
			if err == nil {
				flow, err = value(record, p.FlowField, flow)
			}
			if err != nil {
				return of, err
			}
		}
		found, err := book.Find(p.Rules, group)
		if err != nil {
			return of, where(err)
		}
		across := p.Diameter
		if p.DiameterField != "" && record != nil {
			if across, err = strconv.ParseFloat(strings.TrimSpace(strings.TrimSuffix(strings.ReplaceAll(diameter, ",",
				"."), "mm")), 64); err != nil {
				return of, where(badDiameter.With(diameter))
			}
		}
		size, err := book.Mark(p.Rules, across)
		if err != nil {
			return of, where(err)
		}
		if !slices.Contains([]Flow{NoFlow, FlowRight, FlowLeft, FlowBoth}, Flow(flow)) {
			return of, where(unknownFlow.With(flow))
		}
		if tuple := [4]string{says, group, diameter, flow}; !seen[tuple] {
			seen[tuple] = true
			of.all, of.some = append(of.all, marked{says, size}), append(of.some, record)
		}
		of.groups = among(of.groups, kindOfPipe{group: found}, of.groupField, group,
			func(k *kindOfPipe) bool { return k.group == found })
		of.sizes = among(of.sizes, kindOfPipe{size: size, widest: across}, p.DiameterField, diameter,
			func(k *kindOfPipe) bool {
				if k.size.Letters != size.Letters || k.size.Length != size.Length {
					return false
				}
				k.widest = max(k.widest, across)
				return true
			})
		if p.FlowField != "" && !slices.Contains(of.flows, flow) {
			of.flows = append(of.flows, flow)
		}
	}
	for field, n := range map[string]int{of.groupField: valuesOf(of.groups), p.DiameterField: valuesOf(of.sizes)} {
		if n > mostValues {
			return of, tooManyValues.With(field, n, mostValues)
		}
	}
	return of, nil
}

func valuesOf(kinds []kindOfPipe) (n int) {
	for _, k := range kinds {
		n += len(k.values)
	}
	return n
}

// among adds a value of a field to the kind that it belongs to, or that kind.
func among(kinds []kindOfPipe, kind kindOfPipe, field, value string, is func(*kindOfPipe) bool) []kindOfPipe {
	at := 0
	for at < len(kinds) && !is(&kinds[at]) {
		at++
	}
	if at == len(kinds) {
		kinds = append(kinds, kind)
	}
	if field != "" && !slices.Contains(kinds[at].values, value) {
		kinds[at].values = append(kinds[at].values, value)
	}
	return kinds
}
