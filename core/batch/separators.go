package batch

import "fmt"

// When labels of a further design stand among those of a run.
const (
	SeparateRun    = "run"    // before its first label, or after its last
	SeparateGroup  = "group"  // for records that follow one another and have one value in a field
	SeparateRecord = "record" // for the labels of each record
	SeparateLabels = "labels" // for every so many labels; the last of them may be fewer
)

// MostSeparators is how many rules a run has at most.
const MostSeparators = 8

// A Separator says when labels of a further design come out among those of a run: a head, what parts groups, the
// carton's label behind those of what is in it.
type Separator struct {
	When   string // see SeparateRun
	Field  int    // SeparateGroup: the column that makes groups
	Every  int    // SeparateLabels
	After  bool   // behind what it stands for, else before it
	Copies int
}

// Check returns why a rule cannot be followed; nil: it can.
func (b Separator) Check(columns int) error {
	switch {
	case b.Copies < 1 || b.Copies > 100:
		return fmt.Errorf("%d labels besides cannot be printed at a time; say 1 to 100", b.Copies)
	case b.When == SeparateLabels && (b.Every < 1 || b.Every > Most):
		return fmt.Errorf("a label besides for every %d labels cannot be printed; say 1 to %d", b.Every, Most)
	case b.When == SeparateGroup && (b.Field < 0 || b.Field >= columns):
		return fmt.Errorf("the field that makes groups is none of these records")
	case b.When != SeparateRun && b.When != SeparateGroup && b.When != SeparateRecord && b.When != SeparateLabels:
		return fmt.Errorf("%q is no time for a label besides; there are run, group, record and labels", b.When)
	}
	return nil
}

// A stand is a stretch of a run's own labels that a label besides stands for.
type stand struct{ first, last int }

// WithSeparators returns shares with those of further designs among them, part i + 1 by rule i, and tells each which
// group it is of and how many labels that has. Of two rules at one place, the later one lies further out: what is said
// last encloses what is said before. Value gives what a record says in a column; it is asked only where a rule makes
// groups.
func WithSeparators(shares []Share, rules []Separator, value func(record, column int) string) []Share {
	own := NewPlan(shares)
	if len(rules) == 0 || own.Len() == 0 {
		return own.shares
	}
	before, after := make(map[int][]Share), make(map[int][]Share) // by the own label that they stand at
	grouped := false
	var groups []stand
	for i, rule := range rules {
		stands := own.stands(rule, value)
		if rule.When == SeparateGroup && !grouped {
			grouped, groups = true, stands
		}
		for n, s := range stands {
			label := s.first
			if rule.After {
				label = s.last
			}
			record, _ := own.At(label)
			share := Share{Record: record, Copies: rule.Copies, Part: i + 1, Group: n + 1, Of: s.last - s.first + 1}
			if rule.After {
				after[label] = append(after[label], share)
			} else {
				before[label] = append([]Share{share}, before[label]...)
			}
		}
	}
	var all []Share
	group, label := 0, 0
	for _, share := range own.shares {
		begun := label + 1
		give := func(upTo int) { // the labels of the share that are not given yet
			if upTo >= begun {
				part := share
				part.Copies, part.Before = upTo-begun+1, share.Before+begun-label-1
				if grouped {
					part.Group, part.Of = group+1, groups[group].last-groups[group].first+1
				}
				all = append(all, part)
				begun = upTo + 1
			}
		}
		for n := label + 1; n <= label+share.Copies; n++ {
			if grouped && n > groups[group].last {
				group++
			}
			if besides := before[n]; besides != nil {
				give(n - 1)
				all = append(all, besides...)
			}
			if besides := after[n]; besides != nil {
				give(n)
				all = append(all, besides...)
			}
		}
		give(label + share.Copies)
		label += share.Copies
	}
	return all
}

// stands returns what labels of a rule stand for, in order.
func (p *Plan) stands(rule Separator, value func(record, column int) string) (stands []stand) {
	last := p.Len()
	switch rule.When {
	case SeparateRun:
		return []stand{{1, last}}
	case SeparateLabels:
		for first := 1; first <= last; first += rule.Every {
			stands = append(stands, stand{first, min(first+rule.Every-1, last)})
		}
		return stands
	}
	ends := 0
	said := ""
	for i, share := range p.shares {
		first, says := ends+1, ""
		ends += share.Copies
		if rule.When == SeparateGroup {
			says = value(share.Record, rule.Field)
		}
		if i > 0 && (rule.When == SeparateGroup && says == said || rule.When == SeparateRecord &&
			p.shares[i-1].Record == share.Record) {
			stands[len(stands)-1].last = ends
		} else {
			stands = append(stands, stand{first, ends})
		}
		said = says
	}
	return stands
}

// PagesWith returns how many pages the labels of some parts take: those of another design begin a page of their own.
func (p *Plan) PagesWith(perPage int, parts func(part int) bool) (pages int) {
	perPage = max(perPage, 1)
	labels, of := 0, -1
	for _, share := range p.shares {
		if !parts(share.Part) {
			continue
		}
		if share.Part != of {
			pages += (labels + perPage - 1) / perPage
			labels, of = 0, share.Part
		}
		labels += share.Copies
	}
	return pages + (labels+perPage-1)/perPage
}
