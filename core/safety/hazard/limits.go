package hazard

import (
	"slices"
	"strconv"
	"strings"
)

// A Specific is the concentration from which one substance gives a class to a mixture, in place of the generic limit
// (CLP, article 10; annex VI, part 3).
type Specific struct {
	Gives string  // class and category, as Parse reads it
	From  float64 // per cent
	Below float64 // per cent; 0: no bound

	class *Class
	euh   string // a statement of annex II that it gives, in place of a class
}

// Limits are the specific limits of a substance, and its factors.
type Limits struct {
	Specific []Specific
	MAcute   float64 // multiplying factor of Aquatic Acute 1; 0: none is given
	MChronic float64 // and of Aquatic Chronic 1
	ATE      map[string]float64
	Said     LimitsSaid
}

// mostFactor bounds multiplying factors; the largest in annex VI is a million.
const mostFactor = 1e6

// ParseLimits reads the limits of a substance, "Skin Corr. 1B: 2-5; Eye Irrit. 2: 0.5-2; STOT SE 3 (respiratory
// irritation): 10; M: 10; M chronic: 1", in per cent: from, or from and below. Its error is a *refusal.Error that names
// the limit.
func (b *Book) ParseLimits(text string) (*Limits, error) {
	l := &Limits{}
	for item := range strings.SplitSeq(text, ";") {
		if item = strings.TrimSpace(item); item == "" {
			continue
		}
		if item == noLimits {
			l.Said = LimitsNone
			continue
		}
		if route, ate, is := ateOf(item); is {
			if l.ATE == nil {
				l.ATE = map[string]float64{}
			}
			l.ATE[route] = ate
			continue
		}
		gives, bounds, _ := strings.Cut(item, ":")
		from, below, bounded := strings.Cut(strings.ReplaceAll(strings.TrimSuffix(strings.TrimSpace(bounds), "%"), ",",
			"."), "-")
		s := Specific{Gives: strings.TrimSpace(gives)}
		var wrongFrom, wrongBelow error
		if s.From, wrongFrom = strconv.ParseFloat(strings.TrimSpace(from), 64); bounded {
			s.Below, wrongBelow = strconv.ParseFloat(strings.TrimSpace(below), 64)
		}
		if wrongFrom != nil || wrongBelow != nil || !(s.From > 0) || s.From > mostFactor || bounded &&
			!(s.Below > s.From) {
			return nil, badLimit.With(item)
		}
		switch strings.ToLower(s.Gives) {
		case "m":
			l.MAcute = s.From
			continue
		case "m chronic":
			l.MChronic = s.From
			continue
		}
		if code := strings.ToUpper(s.Gives); strings.HasPrefix(code, "EUH") {
			if _, known := b.Text(code, "en"); !known || bounded {
				return nil, badStatementLimit.With(item)
			}
			s.euh = code
			l.Specific = append(l.Specific, s)
			continue
		}
		classes, err := b.Parse(s.Gives, CLP)
		if err != nil {
			return nil, err
		}
		if len(classes) != 1 || s.From > 100 || s.Below > 100 {
			return nil, badClassLimit.With(item)
		}
		s.class = classes[0].Class
		l.Specific = append(l.Specific, s)
	}
	if l.Said == LimitsUnknown && (len(l.Specific) > 0 || l.MAcute+l.MChronic > 0 || l.ATE != nil) {
		l.Said = LimitsGiven
	}
	return l, nil
}

// noLimits says that a substance has no limits of its own.
const noLimits = "none"

// ateOf reads an acute toxicity estimate, "ATE oral: 500", "ATE vapour: 3"; inhalation is in the form of the mixture.
func ateOf(item string) (route string, ate float64, is bool) {
	words := strings.Fields(strings.NewReplacer(":", " ", "=", " ", ",", ".").Replace(item))
	if len(words) != 3 || !strings.EqualFold(words[0], "ATE") ||
		!slices.Contains([]string{"oral", "dermal", "inhalation", string(Gas), string(Vapour), string(Dust)},
			words[1]) {
		return "", 0, false
	}
	ate, err := strconv.ParseFloat(words[2], 64)
	return words[1], ate, err == nil && ate > 0
}

// single tells whether a limit is that of one ingredient, and not a weight in a sum.
func (s *Specific) single() bool {
	return !slices.Contains([]string{"Skin Corr.", "Skin Irrit.", "Eye Dam.", "Eye Irrit."}, s.class.Class) &&
		!has(s.class, "STOT SE", "3")
}

// ofOwn says limits, factors and estimates in words.
func ofOwn(limits []Specific, acute, chronic float64, ate map[string]float64) string {
	var said []string
	for _, l := range limits {
		said = append(said, l.Gives+" from "+number(l.From)+" %")
	}
	if acute > 0 {
		said = append(said, "M = "+number(acute))
	}
	if chronic > 0 {
		said = append(said, "M (chronic) = "+number(chronic))
	}
	for _, route := range []string{"oral", "dermal", "inhalation", string(Gas), string(Vapour), string(Dust)} {
		if ate[route] > 0 {
			said = append(said, "ATE "+route+" = "+number(ate[route]))
		}
	}
	return strings.Join(said, ", ")
}

// own returns from which concentration a part gives a class in these categories by its own limits; 0: they name none.
func (p *Part) own(class string, categories ...string) (from float64) {
	for _, l := range p.Limits {
		if l.euh == "" && has(l.class, class, categories...) && (from == 0 || l.From < from) {
			from = l.From
		}
	}
	return from
}

// share is how much of a part counts in a sum of a class whose generic limit is generic: what has limits of its own
// counts as concentration × generic / its own, so that the sum of concentration / limit decides (guidance on CLP, part
// 3, 3.2.3.3).
func (p *Part) share(c *Class, generic float64, class string, categories ...string) float64 {
	plain := when(has(c, class, categories...), p.Percent)
	if p.own(class, "") == 0 {
		return plain
	}
	weighed := 0.0
	if own := p.own(class, categories...); own > 0 {
		weighed = p.Percent * generic / own
	}
	if p.both {
		return max(weighed, plain)
	}
	return weighed
}

// damages is how much of a part counts as damaging eyes. Where only irritation of eyes has a limit of its own, damage
// begins where that ends.
func (p *Part) damages(c *Class) float64 {
	if p.own("Eye Dam.", "") > 0 {
		return p.share(c, eyesDamaged, "Eye Dam.", "1")
	}
	for _, l := range p.Limits {
		if !p.both && l.euh == "" && l.class.Class == "Eye Irrit." && l.Below > 0 {
			return p.Percent * eyesDamaged / l.Below
		}
	}
	return when(has(c, "Skin Corr.", "1") || has(c, "Eye Dam.", "1"), p.Percent)
}
