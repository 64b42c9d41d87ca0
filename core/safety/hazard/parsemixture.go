package hazard

import (
	"strconv"
	"strings"
)

// ParseMixture reads the parts of a mixture, "12% 1310-73-2; 3% Skin Irrit. 2 and Eye Irrit. 2; 2% Kelpol: Skin Sens.
// 1; 8% unknown": per cent, and a CAS or EC number, or the classes of the part, with its name before them. In other
// forms than gas, gases that have an entry for their solutions are these. Its error is a *refusal.Error that names the
// part.
func (b *Book) ParseMixture(text string, rules RuleSet, form Form) (parts []Part, err error) {
	for item := range strings.SplitSeq(text, ";") {
		if item = strings.TrimSpace(item); item == "" {
			continue
		}
		percent, of, cut := strings.Cut(item, "%")
		value, wrongNumber := strconv.ParseFloat(strings.TrimSpace(strings.ReplaceAll(percent, ",", ".")), 64)
		of = strings.TrimSpace(of)
		if !cut || wrongNumber != nil || of == "" {
			return nil, badPart.With(item)
		}
		p := Part{Name: of, Percent: value}
		switch {
		case strings.EqualFold(of, "unknown"):
			p.Unknown = true
		case of[0] >= '0' && of[0] <= '9':
			err = b.knownPart(&p, of, form)
		default:
			classes := of
			if name, rest, named := strings.Cut(of, ":"); named {
				p.Name, classes = strings.TrimSpace(name), rest
			} else {
				p.Nameless = true
			}
			if strings.EqualFold(strings.TrimSpace(classes), "not classified") {
				break
			}
			p.Classes, err = b.Parse(strings.ReplaceAll(classes, " and ", ";"), rules)
			for _, c := range p.Classes {
				if c.Factor > 0 && c.Class.Class == "Aquatic Acute" {
					p.MAcute = c.Factor
				} else if c.Factor > 0 {
					p.MChron = c.Factor
				}
			}
		}
		if err != nil {
			return nil, err
		}
		parts = append(parts, p)
	}
	return parts, nil
}

// knownPart takes what the book knows of a substance into a part: its number, with what is given besides, "1310-73-2,
// ATE oral 500".
func (b *Book) knownPart(p *Part, of string, form Form) error {
	number, rest, _ := strings.Cut(of, ",")
	s, err := b.Substance(number)
	if err != nil {
		return err
	}
	p.Name, p.Names, p.CAS, p.Supplemental, p.Notes = s.Names["en"], s.Names, s.CAS, s.Supplemental, s.Notes
	classification, limits := s.Classification, s.Limits
	if solution, has := solutions[s.CAS]; has && form != Gas {
		p.Name, p.Names, classification, limits = solution.name, nil, solution.classification, solution.limits
	}
	for item := range strings.SplitSeq(classification, ";") {
		if item = strings.TrimSpace(item); item == "" {
			continue
		}
		classes, err := b.Parse(item, CLP)
		if err != nil {
			return err
		}
		p.Classes = append(p.Classes, classes...)
	}
	own, err := b.ParseLimits(strings.TrimSpace(limits + ";" + strings.ReplaceAll(rest, ",", ";")))
	if err != nil {
		return err
	}
	p.Limits, p.MAcute, p.MChron, p.ATE, p.LimitsSaid = own.Specific, own.MAcute, own.MChronic, own.ATE, own.Said
	return nil
}

// solutions are the entries for solutions of gases (CLP, annex VI, 017-002-01-X and 035-002-01-8), which have the
// numbers of the gases.
var solutions = map[string]struct{ name, classification, limits string }{
	"7647-01-0": {"Hydrochloric acid", "Skin Corr. 1B; STOT SE 3 (respiratory irritation)",
		"Skin Corr. 1B: 25; Skin Irrit. 2: 10-25; Eye Irrit. 2: 10-25; STOT SE 3 (respiratory irritation): 10"},
	"10035-10-6": {"Hydrobromic acid", "Skin Corr. 1B; STOT SE 3 (respiratory irritation)",
		"Skin Corr. 1B: 40; Skin Irrit. 2: 10-40; Eye Irrit. 2: 10-40; STOT SE 3 (respiratory irritation): 10"},
}

// ParseKnown reads what is known of a mixture, "flash point = 23; oxidising = none; EUH066 = no". Its error is an
// *refusal.Error.
func ParseKnown(text string) (map[string]string, error) {
	known := map[string]string{}
	for item := range strings.SplitSeq(text, ";") {
		if item = strings.TrimSpace(item); item == "" {
			continue
		}
		id, answer, cut := strings.Cut(item, "=")
		id, answer = strings.TrimSpace(id), strings.TrimSpace(answer)
		if _, again := known[id]; !cut || id == "" || answer == "" || again {
			return nil, badAnswer.With(item)
		}
		known[id] = answer
	}
	return known, nil
}
