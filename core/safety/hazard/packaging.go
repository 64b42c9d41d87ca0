package hazard

import (
	"fmt"
	"slices"
	"strings"
)

// packaging says what packages for the general public need besides their label (CLP, annex II, part 3).
func (l *Label) packaging(classes []Classified, w Wanted) {
	if w.Rules != CLP || !w.Public {
		return
	}
	closed, felt := reasons(classes, resistant), reasons(classes, tactile)
	if len(closed) > 0 {
		l.Packaging = append(l.Packaging, "The package needs a child-resistant fastening, because of "+
			strings.Join(closed, ", ")+" (CLP, annex II, 3.1.1).")
	}
	if len(felt) > 0 {
		l.Packaging = append(l.Packaging, "The package bears a tactile warning of danger, because of "+
			strings.Join(felt, ", ")+" (CLP, annex II, 3.2.1), unless it is a transportable receptacle for gas.")
	}
}

func reasons(classes []Classified, is func(*Class) bool) (because []string) {
	for i := range classes {
		if is(classes[i].Class) {
			because = append(because, classes[i].String())
		}
	}
	return because
}

func resistant(c *Class) bool {
	switch c.Class {
	case "Acute Tox.":
		return c.Category <= "3"
	case "STOT SE", "STOT RE":
		return c.Category == "1"
	}
	return c.Class == "Skin Corr." || c.Class == "Asp. Tox." && c.Category == "1"
}

func tactile(c *Class) bool {
	switch c.Class {
	case "Muta.", "Carc.", "Repr.": // those of category 1 are not supplied to the public
		return c.Category == "2"
	case "STOT SE", "STOT RE":
		return c.Category <= "2"
	case "Flam. Liq.":
		return c.Category <= "2"
	}
	return slices.Contains([]string{"Acute Tox.", "Skin Corr.", "Resp. Sens.", "Asp. Tox.", "Flam. Gas", "Flam. Sol."},
		c.Class)
}

// closedFrom are substances from whose concentration on, in per cent, packages for the public are child-resistant
// whatever the class is (CLP, annex II, 3.1.1.3).
var closedFrom = map[string]float64{"67-56-1": 3, "75-09-2": 1}

// mixturePackaging says what a mixture needs besides: closures because of a part, and its formula identifier.
func (l *Label) mixturePackaging(mixed *Mixed, parts []Part, w Wanted) {
	if l.Rules != CLP {
		return
	}
	for i := range parts {
		p := &parts[i]
		if from, has := closedFrom[p.CAS]; has && w.Public && p.Percent >= from {
			l.Packaging = append(l.Packaging,
				fmt.Sprintf("The package needs a child-resistant fastening, because of %s %% %s, at least %s %% "+
					"(CLP, annex II, 3.1.1.3).", number(p.Percent), p.Name, number(from)))
		}
	}
	for class := range strings.SplitSeq(mixed.Classification, "; ") {
		if class != "" && !strings.HasPrefix(class, "Aquatic") && !strings.HasPrefix(class, "Ozone") {
			l.Packaging = append(l.Packaging,
				"A mixture that is classified for physical or health hazards bears a unique formula identifier (UFI) "+
					"when it is placed on the market in the European Union (CLP, annex VIII, A.5): give it, or see "+
					"that it stays in the plant.")
			return
		}
	}
}

// ufiLetters are those of a unique formula identifier, in the order of their values.
const ufiLetters = "0123456789ACDEFGHJKMNPQRSTUVWXY"

// CheckUFI returns a unique formula identifier as it is written, in four groups of four, or says in a *refusal.Error
// what is wrong with one. Its first character has the sum of all values, each times its place, divide by 31 (European
// Chemicals Agency, UFI developers manual).
func CheckUFI(text string) (string, error) {
	plain := strings.ToUpper(strings.NewReplacer("UFI", "", ":", "", "-", "", " ", "", "‑",
		"").Replace(strings.ToUpper(text)))
	if len(plain) != 16 {
		return "", ufiForm.With(text)
	}
	sum := 0
	for i, c := range plain {
		value := strings.IndexRune(ufiLetters, c)
		if value < 0 {
			return "", ufiCharacter.With(text, string(c))
		}
		sum += (i + 1) * value
	}
	if sum%31 != 0 {
		return "", ufiCheck.With(text)
	}
	return plain[:4] + "-" + plain[4:8] + "-" + plain[8:12] + "-" + plain[12:], nil
}
