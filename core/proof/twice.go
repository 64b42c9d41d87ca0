package proof

import (
	"hash/maphash"
	"slices"
	"sync/atomic"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/gs1"
	"oddspool/core/symbology"
)

// repeats keeps what the codes that change from label to label say, so that what is there twice is found: a serial
// number that two records have is issued twice.
type repeats struct {
	design *design.Design
	seed   maphash.Seed
	codes  []int          // indexes of elements
	hashes [][]uint64     // of each code: of each record, 0: it says nothing
	serial []*atomic.Bool // of each code: it says a serial of GS1, or is a tag, which one thing has alone
}

func newRepeats(d *design.Design, records int) *repeats {
	s := &repeats{design: d, seed: maphash.MakeSeed()}
	for i := range d.Elements {
		if (d.Elements[i].Kind == design.Code || d.Elements[i].Kind == design.Tag) && !d.Elements[i].Fixed() {
			s.codes, s.hashes = append(s.codes, i), append(s.hashes, make([]uint64, records))
			s.serial = append(s.serial, new(atomic.Bool))
		}
	}
	return s
}

// note takes a record, from 0, into account; different records may be noted at once.
func (s *repeats) note(record int, parts []compose.Part) {
	for k, i := range s.codes {
		if tag := parts[i].Tag; tag != nil {
			s.hashes[k][record] = maphash.Bytes(s.seed, tag.EPC) | 1
			s.serial[k].Store(true)
		} else if text := parts[i].Says; s.design.Elements[i].Kind == design.Code && text != "" &&
			parts[i].CodeError == nil && identifies(&parts[i]) {
			s.hashes[k][record] = maphash.String(s.seed, text) | 1
			if len(parts[i].Symbol.Elements) > 0 {
				s.serial[k].Store(true)
			}
		}
	}
}

// serials are the identifiers of GS1 whose values belong to one thing each (GS1 General Specifications, 3): logistic
// units, serial numbers, assets, documents, coupons and relations with a serial of their own.
var serials = []string{"00", "21", "253", "254", "255", "8003", "8004", "8010", "8011", "8017", "8018"}

// identifies tells whether what a code says belongs to one label: the number of a product does not.
func identifies(part *compose.Part) bool {
	guide := symbology.Of(part.ID)
	if !guide.GS1 {
		return !guide.CheckDigit
	}
	return slices.ContainsFunc(part.Symbol.Elements, func(e gs1.Element) bool {
		return e.AI != nil && slices.Contains(serials, e.AI.AI)
	})
}

// mostAgain is how many of a hundred labels may say again what one before them says and still be mistakes: where more
// do, the code names a kind of thing, such as an article, which many labels are of.
const mostAgain = 20

// meant tells whether a code says the same on so many labels that it is meant.
func (s *repeats) meant(k int) bool {
	seen, again, all := map[uint64]bool{}, 0, 0
	for _, hash := range s.hashes[k] {
		if hash == 0 {
			continue
		}
		if all++; seen[hash] {
			again++
		}
		seen[hash] = true
	}
	return all >= leastRepeated && again*100 > all*mostAgain
}

// leastRepeated is how many labels there are at least for that to tell anything.
const leastRepeated = 10

// twice returns a finding for each record whose code says what one before it says. Owners are the records that labels
// are of where there are several of one: those may say the same.
func (s *repeats) twice(owners []int) (findings []Finding) {
	for k, i := range s.codes {
		if !s.serial[k].Load() && s.meant(k) {
			continue
		}
		first := make(map[uint64]int, len(s.hashes[k]))
		for record, hash := range s.hashes[k] {
			if hash == 0 {
				continue
			}
			before, is := first[hash]
			if !is {
				first[hash] = record
				continue
			}
			other := before + 1
			if owners != nil {
				if owners[before] == owners[record] {
					continue
				}
				other = owners[before]
			}
			rule := codeTwice
			if s.design.Elements[i].Kind == design.Tag {
				rule = tagTwice
			}
			findings = append(findings, rule.found(record+1, s.design.Elements[i].ID, other))
		}
	}
	return findings
}
