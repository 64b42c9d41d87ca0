package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"

	"oddspool/core/refusal"

	"oddspool/core/safety/hazard"
	"oddspool/core/safety/pipe"
	"oddspool/core/safety/sign"
	"oddspool/core/safety/symbols"
)

// asUsage makes the errors of the safety rules sentences to whoever asked.
func asUsage(err error) error {
	if errors.As(err, new(*refusal.Error)) {
		return &sentenceError{err.Error()}
	}
	return err
}

func printJSON(c *console, v any) error {
	encoder := json.NewEncoder(c.out)
	encoder.SetEscapeHTML(false)
	encoder.SetIndent("", "  ")
	return encoder.Encode(v)
}

var quantity = regexp.MustCompile(`^\s*([0-9]+(?:[.,][0-9]+)?)\s*([a-zA-Zµ³]*)\s*$`)

// measured reads a number with a unit; factors are those of the units, "" the one that is meant without.
func measured(name, text string, factors map[string]float64) (float64, error) {
	if text == "" {
		return 0, nil
	}
	parts := quantity.FindStringSubmatch(text)
	if parts == nil {
		return 0, &usageError{fmt.Sprintf("-%s %s is no number with a unit", name, text)}
	}
	factor, known := factors[strings.ToLower(parts[2])]
	if !known {
		return 0, &usageError{fmt.Sprintf("-%s %s: the unit %q is not known", name, text, parts[2])}
	}
	value, err := strconv.ParseFloat(strings.ReplaceAll(parts[1], ",", "."), 64)
	return value * factor, err
}

var (
	millilitres = map[string]float64{"": 1, "ml": 1, "cl": 10, "dl": 100, "l": 1000, "hl": 100_000, "m3": 1_000_000,
		"m³": 1_000_000}
	millimetres = map[string]float64{"": 1, "mm": 1, "cm": 10, "m": 1000, "in": 25.4}
	metres      = map[string]float64{"": 1, "m": 1, "mm": 0.001, "cm": 0.01, "ft": 0.3048}
)

// hazardCommand prints what stands on the label of a chemical.
func hazardCommand(_ context.Context, c *console, args []string) error {
	var classes, substance, mixture, known, fill, keep, leave, search, rules, volume, form string
	w := hazard.Wanted{}
	err := flags(c, "hazard", args, func(f *flag.FlagSet) {
		f.StringVar(&classes, "classes", "", "the `CLASSES` it has, such as 'Flam. Liq. 2; Acute Tox. 3 (oral)'")
		f.StringVar(&substance, "substance", "", "the CAS or EC `NUMBER` of a substance")
		f.StringVar(&search, "search", "", "look substances up by `WORDS`: name, synonym, number, formula")
		f.StringVar(&mixture, "mixture", "", "`PARTS` of a mixture, such as '12% 1310-73-2; 3% Skin Irrit. 2'")
		f.StringVar(&known, "known", "",
			"what is known of a substance or mixture, `ANSWERS` to its open questions such as 'flash point = 23; "+
				"oxidising = none; EUH066 = no', or 'concentration = 65'")
		f.StringVar(&keep, "keep", "",
			"precautionary `STATEMENTS` to keep, each with a reason, such as 'P264 = the canteen is next door'")
		f.StringVar(&leave, "leave", "",
			"precautionary `STATEMENTS` to leave out, each with a reason, such as 'P280 = the filling is closed'")
		f.StringVar(&fill, "fill", "",
			"what fills the blanks of statements, `TEXTS` such as 'P501 = an approved waste plant; P370+P378 = foam'")
		f.StringVar(&form, "form", string(hazard.Dust), "in which a mixture is inhaled: gas, vapour or dust")
		f.StringVar(&rules, "rules", string(hazard.CLP), "ghs, clp or hazcom")
		f.StringVar(&volume, "volume", "", "of the container, such as 500ml or 20l")
		f.StringVar(&w.Language, "language", "en", strings.Join(hazard.Languages, ", "))
		f.BoolVar(&w.Public, "public", false, "it is supplied to the general public")
	})
	if err != nil {
		return err
	}
	w.Rules = hazard.RuleSet(rules)
	if w.Volume, err = measured("volume", volume, millilitres); err != nil {
		return err
	}
	book := hazard.Shipped()
	if w.Fill, err = book.ParseFill(fill); err != nil {
		return asUsage(err)
	}
	if w.Known, err = hazard.ParseKnown(known); err != nil {
		return asUsage(err)
	}
	if w.Choices, err = hazard.ParseChoices(keep, leave); err != nil {
		return asUsage(err)
	}
	switch {
	case search != "":
		return printJSON(c, append([]*hazard.Substance{}, book.Search(search, 50)...))
	case substance != "":
		s, err := book.Substance(substance)
		if err != nil {
			return asUsage(err)
		}
		label, err := book.SubstanceLabel(s, w)
		if err != nil {
			return asUsage(err)
		}
		return printJSON(c, struct {
			Substance *hazard.Substance `json:"substance"`
			*hazard.Label
		}{s, label})
	case mixture != "":
		return printMixture(c, book, mixture, hazard.Form(form), w)
	case classes != "":
		classified, err := book.Parse(classes, w.Rules)
		if err != nil {
			return asUsage(err)
		}
		label, err := book.Label(classified, w)
		if err != nil {
			return asUsage(err)
		}
		return printJSON(c, label)
	}
	return &usageError{"say -classes, -substance, -mixture or -search"}
}

// printMixture prints how a mixture is classified, and its label.
func printMixture(c *console, book *hazard.Book, text string, form hazard.Form, w hazard.Wanted) error {
	parts, err := book.ParseMixture(text, w.Rules, form)
	if err != nil {
		return asUsage(err)
	}
	mixed, label, err := book.MixtureLabel(&hazard.Mixture{Parts: parts, Form: form, Known: w.Known}, w)
	if err != nil {
		return asUsage(err)
	}
	return printJSON(c, struct {
		Mixture *hazard.Mixed `json:"mixture"`
		*hazard.Label
	}{mixed, label})
}

// pipeRules are the names of the rule sets for pipes.
func pipeRules() (names []string) {
	for _, rules := range pipe.Shipped().Sets() {
		names = append(names, string(rules))
	}
	return names
}

// pipeCommand prints how a pipe is marked.
func pipeCommand(_ context.Context, c *console, args []string) error {
	var contents, diameter, rules, length, spacing string
	var run pipe.Run
	var groups bool
	err := flags(c, "pipe", args, func(f *flag.FlagSet) {
		f.StringVar(&contents, "contents", "", "what is in it, in `WORDS`, or a group of the rules")
		f.StringVar(&diameter, "diameter", "", "outside diameter with insulation, such as 60mm")
		f.StringVar(&rules, "rules", string(pipe.ISO), strings.Join(pipeRules(), ", "))
		f.BoolVar(&groups, "groups", false, "list the groups of the rules")
		f.StringVar(&length, "length", "", "of the pipe, such as 40m, to count its markers")
		f.StringVar(&spacing, "spacing", "", "from marker to marker, such as 5m")
		f.IntVar(&run.Valves, "valves", 0, "`COUNT` of valves")
		f.IntVar(&run.Bends, "bends", 0, "`COUNT` of changes of direction")
		f.IntVar(&run.Branches, "branches", 0, "`COUNT` of branches")
		f.IntVar(&run.Walls, "walls", 0, "`COUNT` of walls, floors and ceilings it goes through")
	})
	if err != nil {
		return err
	}
	if groups {
		return printJSON(c, append([]pipe.Group{}, pipe.Shipped().Of(pipe.RuleSet(rules))...))
	}
	across, err := measured("diameter", diameter, millimetres)
	if err != nil {
		return err
	}
	if run.Length, err = measured("length", length, metres); err != nil {
		return err
	}
	if run.Spacing, err = measured("spacing", spacing, metres); err != nil {
		return err
	}
	group, err := pipe.Shipped().Find(pipe.RuleSet(rules), contents)
	if err != nil {
		return asUsage(err)
	}
	mark, err := pipe.Shipped().Mark(group.Rules, across)
	if err != nil {
		return asUsage(err)
	}
	total, why, err := pipe.Shipped().Count(group.Rules, run)
	if err != nil {
		return asUsage(err)
	}
	return printJSON(c, struct {
		Standard string       `json:"standard"`
		Group    *pipe.Group  `json:"group"`
		Marking  pipe.Marking `json:"marking"`
		Rows     int          `json:"rows"`
		Markers  int          `json:"markers,omitempty"`
		Why      []string     `json:"why,omitempty"`
	}{pipe.Shipped().Standard(group.Rules), group, mark, mark.Rows(), total, why})
}

// symbolCommand lists the symbols of the library, or draws one.
func symbolCommand(_ context.Context, c *console, args []string) error {
	var list bool
	var search, family, draw, out string
	var side int
	err := flags(c, "symbol", args, func(f *flag.FlagSet) {
		f.BoolVar(&list, "list", false, "list all symbols as JSON")
		f.StringVar(&search, "search", "", "list those that answer `WORDS`, such as 'slippery'")
		f.StringVar(&family, "family", "", "list those of a `FAMILY`: "+strings.Join(symbols.Families, ", "))
		f.StringVar(&draw, "draw", "", "draw the symbol `ID`, such as W012 or GHS02")
		f.StringVar(&out, "out", "", "`FILE` with .svg or .png to draw it into")
		f.IntVar(&side, "size", 480, "of a PNG, `DOTS` of its side")
	})
	switch {
	case err != nil:
		return err
	case draw == "" && !list && search == "" && family == "":
		return &usageError{"say -list, -search, -family or -draw"}
	case draw == "":
		return printJSON(c, append([]*symbols.Symbol{}, symbols.Search(search, family)...))
	case side < 8 || side > 8192:
		return &usageError{fmt.Sprintf("-size %d is no side; it has 8 to 8192 dots", side)}
	}
	s, err := symbols.Find(draw)
	if err != nil {
		return &sentenceError{fmt.Sprintf("There is no symbol %q. List them with -list, or look for one with -search.",
			draw)}
	}
	var drawn bytes.Buffer
	switch strings.ToLower(filepath.Ext(out)) {
	case ".svg":
		drawn.Write(s.SVG())
	case ".png":
		err = s.Picture(&drawn, side)
	default:
		return &usageError{fmt.Sprintf("-out %q is to end in .svg or .png", out)}
	}
	if err != nil {
		return err
	}
	return os.WriteFile(out, drawn.Bytes(), 0o644)
}

// signCommand prints how large a sign is for a distance, or from how far one is read.
func signCommand(_ context.Context, c *console, args []string) error {
	var distance, height, letters, light string
	err := flags(c, "sign", args, func(f *flag.FlagSet) {
		f.StringVar(&distance, "distance", "", "from which it is read, such as 12m")
		f.StringVar(&height, "height", "", "of a sign, such as 120mm: from how far it is recognised")
		f.StringVar(&letters, "letters", "", "height of capitals, such as 10mm: from how far they are read")
		f.StringVar(&light, "light", string(sign.Lit), "lit (from outside), inside (lit from inside) or poor")
	})
	if err != nil {
		return err
	}
	if distance == "" && height == "" && letters == "" {
		return &usageError{"say -distance, -height or -letters"}
	}
	out := struct {
		*sign.Heights
		SignDistance   float64 `json:"signDistance,omitempty"`
		LetterDistance float64 `json:"letterDistance,omitempty"`
	}{}
	if distance != "" {
		far, err := measured("distance", distance, metres)
		if err != nil {
			return err
		}
		heights, err := sign.For(far, sign.Light(light))
		if err != nil {
			return asUsage(err)
		}
		out.Heights = &heights
	} else if _, err := sign.For(1, sign.Light(light)); err != nil {
		return asUsage(err)
	}
	for name, of := range map[string]struct {
		text string
		rule func(float64, sign.Light) float64
		to   *float64
	}{"height": {height, sign.Distance, &out.SignDistance}, "letters": {letters, sign.LetterDistance,
		&out.LetterDistance}} {
		high, err := measured(name, of.text, millimetres)
		if err != nil {
			return err
		}
		*of.to = of.rule(high, sign.Light(light))
	}
	return printJSON(c, out)
}
