package hazard

import (
	"fmt"
	"strings"
)

// SizeFor returns what CLP asks of the label of a container of so many millilitres.
func SizeFor(millilitres float64) *Size {
	clause := "CLP, annex I, 1.2.1.4, table 1.3"
	switch litres := millilitres / 1000; {
	case litres <= 0.5:
		return &Size{74, 52, 16, 10, 1.2, clause}
	case litres <= 3:
		return &Size{74, 52, 16, 10, 1.4, clause}
	case litres <= 50:
		return &Size{105, 74, 23, 23, 1.8, clause}
	case litres <= 500:
		return &Size{148, 105, 32, 32, 2, clause}
	default:
		return &Size{210, 148, 46, 46, 2, clause}
	}
}

// mayOmit are classes whose statements may be left off packages of up to 125 ml (CLP, annex I, 1.5.2.1.1), those with
// "public" only where the thing is not supplied to the general public.
var mayOmit = map[string]string{
	"Ox. Gas 1": "", "Press. Gas": "", "Flam. Liq. 2": "", "Flam. Liq. 3": "", "Flam. Sol. 1": "", "Flam. Sol. 2": "",
	"Self-react. C": "", "Self-react. D": "",
	"Self-react. E": "", "Self-react. F": "", "Self-heat. 2": "", "Water-react. 1": "", "Water-react. 2": "",
	"Water-react. 3": "", "Ox. Liq. 2": "", "Ox. Liq. 3": "",
	"Ox. Sol. 2": "", "Ox. Sol. 3": "", "Org. Perox. C": "", "Org. Perox. D": "", "Org. Perox. E": "",
	"Org. Perox. F": "", "Skin Irrit. 2": "", "Eye Irrit. 2": "",
	"Aquatic Acute 1": "", "Aquatic Chronic 1": "", "Aquatic Chronic 2": "", "Acute Tox. 4": "public",
	"STOT SE 2": "public", "STOT SE 3": "public", "STOT RE 2": "public",
}

// mostSmall is how much a small package holds at most, in millilitres.
var mostSmall = map[RuleSet]float64{CLP: 125, HazCom: 100}

// small says what may be left off a small container; nothing is left off by itself.
func (b *Book) small(l *Label, classes []Classified, w Wanted) {
	if w.Volume == 0 || w.Volume > mostSmall[w.Rules] {
		return
	}
	if w.Rules == HazCom {
		l.Small = "Where no full label fits, up to 100 ml need the product identifier, pictograms, signal word, name " +
			"and telephone number of the " +
			"supplier, and a line that the full label is on the outer package (29 CFR 1910.1200(f)(12)(ii))"
		if w.Volume <= 3 {
			l.Small += "; up to 3 ml need the product identifier alone where a label would be in the way ((f)(12)(iii))"
		}
		l.Small += "."
		return
	}
	var off []string
	for i := range classes {
		c := classes[i].Class
		rule, listed := mayOmit[strings.TrimSpace(c.Class+" "+c.Category)]
		if listed && (rule == "" || !w.Public) {
			off = append(off, classes[i].String())
		}
	}
	var words, all []string
	for i := range classes {
		switch c := classes[i].Class; {
		case c.Class == "Flam. Gas" && c.Category == "2", c.Class == "Lact.", c.Class == "Aquatic Chronic" &&
			c.Category >= "3":
			words = append(words, classes[i].String())
		case c.Class == "Met. Corr.":
			all = append(all, classes[i].String())
		}
	}
	defer func() {
		for _, more := range []struct {
			classes      []string
			what, clause string
		}{{words, "precautionary statements", "1.5.2.1.2"}, {all, "pictogram, hazard and precautionary statements",
			"1.5.2.1.3"}} {
			if len(more.classes) > 0 {
				l.Small = strings.TrimSpace(fmt.Sprintf("%s Of a package of up to 125 ml, %s that only %s ask for "+
					"may be left off (CLP, annex I, %s).", l.Small, more.what, strings.Join(more.classes, ", "),
					more.clause))
			}
		}
		if w.Volume <= 10 {
			l.Small = strings.TrimSpace(l.Small +
				" An inner package of up to 10 ml for a distributor or downstream user, for scientific research or " +
				"quality control, within an outer one that has the full label, needs product identifier and " +
				"pictograms, and name and telephone number of the supplier, alone (CLP, annex I, 1.5.2.4.1).")
		}
	}()
	if len(off) > 0 {
		l.Small = "The package holds no more than 125 ml: hazard and precautionary statements that only " +
			strings.Join(off, ", ") +
			" ask for may be left off (CLP, annex I, 1.5.2.1.1)."
	}
}
