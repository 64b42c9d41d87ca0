// Package pipe says how a pipe is marked: the colours of its contents, the height of letters, the
// length of the field and how many markers a run of pipe needs. The rules are those of
// ISO 20560-1:2020, ASME A13.1-2020 and DIN 2403:2018-10.
package pipe

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"
	"unicode"
)

// A RuleSet is whose rules are followed.
type RuleSet string

// The rule sets.
const (
	ISO  RuleSet = "iso"
	ASME RuleSet = "asme"
	DIN  RuleSet = "din"
)

// RuleSets are all of them.
var RuleSets = []RuleSet{ISO, ASME, DIN}

// Names of the standards.
var standards = map[RuleSet]string{ISO: "ISO 20560-1:2020", ASME: "ASME A13.1-2020", DIN: "DIN 2403:2018-10"}

// Name returns the standard with its year.
func (r RuleSet) Name() string { return standards[r] }

// An Error says what about a pipe is wrong, and what to do.
type Error struct{ Text string }

func (e *Error) Error() string { return e.Text }

// A Group is one group of contents under one rule set.
type Group struct {
	Rules   RuleSet `json:"rules"`
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Field   string  `json:"field"`            // colour of the field
	Letters string  `json:"letters"`          // and of what stands on it
	Stripe  string  `json:"stripe,omitempty"` // colour of a band beside the field
	Hazard  bool    `json:"hazard,omitempty"` // its contents are hazardous of themselves
	Holds   string  `json:"holds"`            // examples
	Clause  string  `json:"clause"`           // of the standard
	words   []string
}

// groups are those of the standards: ISO 20560-1, table 1 (basic identification colours); ASME A13.1, table 1; DIN 2403, table 1.
var groups = []Group{
	{ISO, "water", "Water", "green", "white", "", false, "drinking, process, cooling, condensate, waste water", "ISO 20560-1, table 1", words("water;condensate;brine;sewage;effluent")},
	{ISO, "steam", "Steam", "silver-grey", "black", "", false, "saturated, superheated", "ISO 20560-1, table 1", words("steam")},
	{ISO, "oils", "Mineral, vegetable and animal oils, combustible liquids", "brown", "white", "", false, "fuel oil, diesel, lubricants", "ISO 20560-1, table 1", words("oil;diesel;petrol;gasoline;kerosene;fuel;lubricant;solvent;ethanol;alcohol;methanol;acetone;toluene;xylene")},
	{ISO, "gases", "Gases, in gaseous or liquefied state, but air", "yellow", "black", "", false, "natural gas, nitrogen, ammonia", "ISO 20560-1, table 1", words("gas;biogas;lpg;lng;cng;nitrogen;hydrogen;oxygen;argon;helium;methane;propane;butane;ammonia;chlorine;acetylene;ethylene;carbon dioxide;co2;refrigerant")},
	{ISO, "acids-alkalis", "Acids and alkalis", "violet", "white", "", false, "sulphuric acid, caustic soda", "ISO 20560-1, table 1", words("acid;alkali;lye;caustic;caustic soda;caustic potash;hydroxide;hypochlorite")},
	{ISO, "air", "Air", "light blue", "black", "", false, "compressed, instrument air, vacuum", "ISO 20560-1, table 1", words("air;vacuum")},
	{ISO, "other", "Other liquids", "black", "white", "", false, "slurry, syrup", "ISO 20560-1, table 1", words("slurry;syrup;milk;juice;extract")},
	{ISO, "fire", "Firefighting", "red", "white", "", false, "sprinkler, hydrant", "ISO 20560-1, table 1", words("fire;fire water;firefighting;sprinkler;hydrant;firefighting foam;sprinkler water")},

	{ASME, "fire-quenching", "Fire-quenching fluids", "red", "white", "", false, "sprinkler water, foam", "ASME A13.1, table 1", words("fire;fire water;firefighting;sprinkler;hydrant;firefighting foam;sprinkler water")},
	{ASME, "toxic-corrosive", "Toxic and corrosive fluids", "orange", "black", "", true, "acids, caustics, ammonia, chlorine", "ASME A13.1, table 1", words("acid;alkali;lye;caustic;caustic soda;caustic potash;hydroxide;hypochlorite;ammonia;chlorine")},
	{ASME, "flammable", "Flammable and oxidising fluids", "yellow", "black", "", true, "natural gas, hydrogen, oxygen, solvents", "ASME A13.1, table 1", words("natural gas;fuel gas;biogas;lpg;lng;cng;methane;propane;butane;hydrogen;oxygen;acetylene;ethylene;petrol;gasoline;ethanol;alcohol;methanol;acetone;toluene;xylene")},
	{ASME, "combustible", "Combustible fluids", "brown", "white", "", true, "fuel oil, diesel, lubricants", "ASME A13.1, table 1", words("oil;diesel;kerosene;lubricant")},
	{ASME, "water", "Potable, cooling, boiler feed and other water", "green", "white", "", false, "drinking, cooling, condensate, feed water", "ASME A13.1, table 1", words("water;condensate;brine;steam")},
	{ASME, "air", "Compressed air", "blue", "white", "", false, "plant air, instrument air", "ASME A13.1, table 1", words("air")},
	{ASME, "defined-purple", "Defined by the user", "purple", "white", "", false, "what the plant decides", "ASME A13.1, table 1", nil},
	{ASME, "defined-grey", "Defined by the user", "grey", "white", "", false, "what the plant decides", "ASME A13.1, table 1", nil},
	{ASME, "defined-white", "Defined by the user", "white", "black", "", false, "what the plant decides", "ASME A13.1, table 1", nil},
	{ASME, "defined-black", "Defined by the user", "black", "white", "", false, "what the plant decides", "ASME A13.1, table 1", nil},

	{DIN, "1-water", "1 Water", "green", "white", "", false, "drinking, cooling, waste water", "DIN 2403, table 1", words("water;condensate;brine;sewage")},
	{DIN, "2-steam", "2 Steam", "red", "white", "", false, "saturated, superheated", "DIN 2403, table 1", words("steam")},
	{DIN, "3-air", "3 Air", "grey", "black", "", false, "compressed, instrument air", "DIN 2403, table 1", words("air;vacuum")},
	{DIN, "4-flammable-gases", "4 Flammable gases", "yellow", "black", "red", true, "natural gas, hydrogen, acetylene", "DIN 2403, table 1", words("natural gas;fuel gas;biogas;lpg;lng;cng;methane;propane;butane;hydrogen;acetylene;ethylene")},
	{DIN, "5-other-gases", "5 Non-flammable gases", "yellow", "black", "black", false, "nitrogen, carbon dioxide, argon", "DIN 2403, table 1", words("nitrogen;argon;helium;carbon dioxide;co2")},
	{DIN, "6-acids", "6 Acids", "orange", "black", "", true, "hydrochloric, sulphuric acid", "DIN 2403, table 1", words("acid")},
	{DIN, "7-alkalis", "7 Alkalis", "violet", "white", "", true, "caustic soda, ammonia solution", "DIN 2403, table 1", words("alkali;lye;caustic;caustic soda;caustic potash;hydroxide")},
	{DIN, "8-flammable-liquids", "8 Flammable liquids and solids", "brown", "white", "red", true, "petrol, solvents, fuel oil", "DIN 2403, table 1", words("oil;diesel;petrol;gasoline;kerosene;ethanol;alcohol;methanol;acetone;toluene;xylene")},
	{DIN, "9-other-liquids", "9 Non-flammable liquids and solids", "brown", "white", "black", false, "syrup, slurry", "DIN 2403, table 1", words("slurry;syrup;milk;juice")},
	{DIN, "0-oxygen", "0 Oxygen", "blue", "white", "", true, "oxygen", "DIN 2403, table 1", words("oxygen")},
}

func words(text string) []string { return strings.Split(text, ";") }

// Groups returns the groups of a rule set.
func Groups(rules RuleSet) (of []Group) {
	for _, g := range groups {
		if g.Rules == rules {
			of = append(of, g)
		}
	}
	return of
}

// Find returns the group of contents named in plain words, such as "cooling water", or of a group's own identifier or name. What
// the words end in says what it is: hydrogen peroxide is no hydrogen. Its error is an *Error that lists the groups: what is not
// known is asked for, never guessed.
func Find(rules RuleSet, contents string) (*Group, error) {
	if !slices.Contains(RuleSets, rules) {
		return nil, unknownRules(rules)
	}
	said := strings.ToLower(strings.TrimSpace(contents))
	if said == "" {
		return nil, &Error{"Say what is in the pipe."}
	}
	first, _, _ := strings.Cut(said, ",") // water, drinking
	plain := strings.Join(strings.FieldsFunc(notAName.ReplaceAllString(first, " "), unicode.IsSpace), " ")
	var best *Group
	longest := 0
	var names []string
	for i := range groups {
		g := &groups[i]
		if g.Rules != rules {
			continue
		}
		names = append(names, g.ID)
		if said == g.ID || said == strings.ToLower(g.Name) {
			return g, nil
		}
		for _, word := range g.words {
			if (plain == word || strings.HasSuffix(plain, " "+word)) && len(word) > longest {
				best, longest = g, len(word)
			}
		}
	}
	if best == nil {
		return nil, &Error{fmt.Sprintf("What %q belongs to is not known here. Say the group: %s.", contents, strings.Join(names, ", "))}
	}
	return best, nil
}

// notAName is what stands beside a name: strengths, temperatures, brackets.
var notAName = regexp.MustCompile(`\([^)]*\)|[0-9.,]+ *(%|°c|bar|psi)?`)

// A Marking is how large what stands on a pipe is, in millimetres.
type Marking struct {
	Letters float64 `json:"letterHeight"` // height of capitals, at least
	Length  float64 `json:"fieldLength"`  // of the colour field along the pipe, at least
	Height  float64 `json:"markerHeight"` // of the marker round the pipe, at least: the letters with as much above and below
	Round   float64 `json:"round"`        // circumference of the pipe with its insulation
	Clause  string  `json:"clause"`
}

// A size is one row of a table of sizes: from a diameter on.
type size struct{ from, letters, length float64 }

// sizes are ASME A13.1-2020, table 2, in millimetres: from which outside diameter of pipe or covering on, height of letters and
// length of the colour field. The table has gaps between its rows (51 to 64 mm); a pipe in one is marked as the next thicker.
var sizes = []size{{0, 13, 200}, {32.001, 19, 200}, {51.001, 32, 300}, {150.001, 64, 600}, {250.001, 89, 800}}

// Thinnest is the outside diameter, in millimetres, from which ASME A13.1 marks pipes themselves; thinner ones get a tag.
const Thinnest = 19

// Mark returns how a pipe of an outside diameter, insulation included, in millimetres, is marked. Its error is an *Error.
func Mark(rules RuleSet, diameter float64) (Marking, error) {
	if !(diameter > 0) || diameter > 10_000 {
		return Marking{}, &Error{fmt.Sprintf("%g mm is no outside diameter of a pipe; say above 0 and up to 10000, insulation included.", diameter)}
	}
	m := Marking{Round: math.Round(diameter*math.Pi*10) / 10}
	switch rules {
	case ASME:
		m.Clause = "ASME A13.1-2020, table 2"
		if diameter < Thinnest {
			return Marking{}, &Error{fmt.Sprintf("A pipe of %g mm is thinner than the %d mm (0.75 in) from which ASME A13.1 marks pipes themselves: use a permanent tag (4.2).", diameter, Thinnest)}
		}
	case ISO, DIN:
		m.Clause = "sizes of ASME A13.1-2020, table 2, which " + rules.Name() + " leaves to the distance they are read from"
	default:
		return Marking{}, unknownRules(rules)
	}
	for _, row := range sizes {
		if diameter >= row.from {
			m.Letters, m.Length = row.letters, row.length
		}
	}
	m.Height = 2 * m.Letters
	return m, nil
}

func unknownRules(rules RuleSet) error {
	return &Error{fmt.Sprintf("%q is no rule set; there are iso, asme and din.", rules)}
}

// Rows returns how often what stands on a marker is repeated round the pipe so that it reads from any side: a third of the way
// round apart, and not closer than the marker is high.
func (m Marking) Rows() int { return max(1, min(3, int(m.Round/m.Height))) }

// A Run is a length of pipe that is to be marked.
type Run struct {
	Length   float64 // metres
	Valves   int
	Bends    int // changes of direction
	Branches int
	Walls    int     // walls, floors or ceilings that it goes through
	Spacing  float64 // metres from marker to marker on straight pipe; 0: Spacing of the rules
}

// spacing is how far apart markers stand on straight pipe, metres (ASME A13.1, 3.2.3: 25 to 50 feet; ISO 20560-1, 4.6 and
// DIN 2403, 4.5: 10 m).
var spacing = map[RuleSet]float64{ISO: 10, ASME: 15, DIN: 10}

// Count returns how many markers a run needs, with the reasons: one each so many metres of straight pipe, one beside every valve, before and
// behind a change of direction and a branch, and on both sides of a wall. Its error is an *Error.
func Count(rules RuleSet, run Run) (total int, why []string, err error) {
	if run.Length < 0 || run.Length > 1_000_000 || min(run.Valves, run.Bends, run.Branches, run.Walls) < 0 {
		return 0, nil, &Error{"The length of a pipe and the counts of its parts are 0 or more."}
	}
	apart := cmp.Or(run.Spacing, spacing[rules])
	if !(apart > 0) {
		return 0, nil, &Error{"Markers stand more than 0 m apart."}
	}
	add := func(n int, says string) {
		if n > 0 {
			total += n
			why = append(why, fmt.Sprintf("%d %s", n, says))
		}
	}
	if run.Length > 0 {
		add(int(math.Floor(run.Length/apart))+1, fmt.Sprintf("on %g m of straight pipe, one at its beginning and then every %g m", run.Length, apart))
	}
	add(run.Valves, "beside valves")
	add(2*run.Bends, "before and behind changes of direction")
	add(run.Branches, "at branches")
	add(2*run.Walls, "on both sides of walls, floors and ceilings")
	return total, why, nil
}
