package hazard

import (
	"slices"
	"strings"
)

// unknown says what an unknown class may have been.
func (b *Book) unknown(item, name string) error {
	var near []string
	for i := range b.Classes {
		c := &b.Classes[i]
		if short := plain(c.Class); strings.HasPrefix(name, short) && c.Category != "" {
			if !slices.Contains(near, c.Class+" "+c.Category) {
				near = append(near, c.Class+" "+c.Category)
			}
		}
	}
	if len(near) > 0 {
		return unknownCategory.With(item, strings.Join(near, ", "))
	}
	return unknownClass.With(item)
}

// exclusive are classes of which a thing has one at most.
var exclusive = [][]string{
	{"Flam. Gas", "Flam. Liq.", "Flam. Sol."}, {"Skin Corr.", "Skin Irrit."}, {"Eye Dam.", "Eye Irrit."},
	{"Ox. Gas", "Ox. Liq.", "Ox. Sol."}, {"Pyr. Liq.", "Pyr. Sol."}, {"Unst. Expl.", "Expl."}, {"PBT", "vPvB"},
	{"PMT", "vPvM"},
}

// contradiction says which two of the classes cannot both be true of one thing.
func contradiction(found []Classified) error {
	for i := range found {
		for j := range i {
			a, c := &found[j], &found[i]
			if a.Class.Class == c.Class.Class && contradict(a, c) {
				return twoCategories.With(a, c)
			}
			for _, group := range exclusive {
				if a.Class.Class != c.Class.Class && slices.Contains(group, a.Class.Class) &&
					slices.Contains(group, c.Class.Class) {
					return graverClass.With(a, c)
				}
			}
		}
	}
	return nil
}

// contradict tells whether two entries of one class cannot both be true: of one route or organ there is one category,
// and a gas is under pressure in one way.
func contradict(a, c *Classified) bool {
	switch a.Class.Class {
	case "Acute Tox.":
		return a.Class.Of == c.Class.Of
	case "STOT SE", "STOT RE":
		return a.Class.Category != c.Class.Category && a.Class.Category != "3" && c.Class.Category != "3" &&
			a.Detail == c.Detail
	case "Press. Gas":
		return true
	default:
		return a.Class.Category != c.Class.Category
	}
}
