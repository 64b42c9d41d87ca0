package symbology

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"oddspool/core/gs1"
)

// Options are what is chosen about a code beside what it says. Which of them a symbology has is listed in its Kind;
// what it does not have is refused. The names behind json are those of design files and of the command line.
type Options struct {
	Check   bool    `json:"check,omitempty"`   // append the check character that the symbology leaves open
	Ratio   float64 `json:"ratio,omitempty"`   // wide to narrow, of codes with two widths: 2 to 3; 0: 3
	Level   string  `json:"level,omitempty"`   // error correction; empty: the usual
	Version string  `json:"version,omitempty"` // empty: the smallest
	Form    string  `json:"form,omitempty"`    // empty: the smaller
	Shape   string  `json:"shape,omitempty"`   // square or rectangle; empty: the smaller
	Size    string  `json:"size,omitempty"`    // rows by columns, such as 24x24; empty: the smallest
	Columns int     `json:"columns,omitempty"` // of stacked symbologies; 0: as suits
	Host    string  `json:"host,omitempty"`    // where a GS1 Digital Link begins; empty: as typed, or gs1.DefaultHost
	Letters Letters `json:"letters,omitempty"` // how letters of western Europe are written
	Bytes   bool    `json:"bytes,omitempty"`   // each character stands for the byte of its number, up to U+00FF

	CheckDigit gs1.CheckDigit `json:"checkDigit,omitempty"` // whether GTINs are given with their check digit

	CheckRule string `json:"checkRule,omitempty"` // of the check characters; empty: the usual of the symbology

	tellsLetters bool // bytes of ISO/IEC 8859-1 stand behind its ECI
}

// ratio returns the ratio of wide to narrow.
func (o Options) ratio() float64 {
	if o.Ratio == 0 {
		return 3
	}
	return o.Ratio
}

// An Option is one thing that can be chosen about a code.
type Option struct {
	ID      string   `json:"id"`    // its name in design files and on the command line
	Name    string   `json:"name"`  // for people
	Unset   string   `json:"unset"` // what is taken where nothing is chosen
	Choices []Choice `json:"choices,omitempty"`
	Least   float64  `json:"least,omitempty"`
	Most    float64  `json:"most,omitempty"`
	Step    float64  `json:"step,omitempty"`
	Percent bool     `json:"percent,omitempty"` // a number that is a text in design files
	Switch  bool     `json:"switch,omitempty"`
}

// Kind tells how an option is chosen: one of its choices, a number from Least to Most, a percentage between them, a
// switch or a text.
func (o *Option) Kind() string {
	switch {
	case len(o.Choices) > 0:
		return "choice"
	case o.Percent:
		return "percent"
	case o.Most > 0:
		return "number"
	case o.Switch:
		return "switch"
	}
	return "text"
}

// A Choice is one of those that an option has.
type Choice struct {
	Value string `json:"value"` // as design files have it
	Name  string `json:"name"`  // for people
}

// Options that several symbologies have.
var (
	checkCharacter = Option{ID: "check", Name: "Check character", Unset: "left out", Switch: true}
	ratio          = Option{ID: "ratio", Name: "Wide to narrow", Unset: "usual", Least: 2, Most: 3, Step: 0.1}
	checkDigit     = Option{ID: "checkDigit", Name: "Check digit", Unset: "told by its length",
		Choices: []Choice{{string(gs1.Given), "given"}, {string(gs1.Missing), "to be added"}}}
	checkGiven = Option{ID: "checkDigit", Name: "Check character given", Unset: "no",
		Choices: []Choice{{string(gs1.Given), "yes: it is checked"}}}
	linkHost      = Option{ID: "host", Name: "Link begins", Unset: gs1.DefaultHost}
	westernOption = Option{ID: "letters", Name: "Western letters", Unset: "told where there is room",
		Choices: []Choice{{string(LettersTold), "told, if larger"}, {string(LettersPlain), "plain: my readers know"}}}
)

// checkRules are the rules that a check character may have beside its usual one.
func checkRules(usual string, rules ...Choice) Option {
	return Option{ID: "checkRule", Name: "Check rule", Unset: usual, Choices: rules}
}

// withCheck returns data with the check characters that a rule gives, of so many: appended where they are asked for,
// and held against it where they are given.
func withCheck(data string, o Options, length int, rule func(data string) string) (string, error) {
	given := o.CheckDigit == gs1.Given
	switch {
	case o.CheckRule != "" && !given && !o.Check:
		return "", wrong(0, "A rule of check characters needs one that is appended or given.")
	case given && o.Check:
		return "", wrong(0, "A check character is either given or appended. Choose one.")
	case given && len(data) <= length:
		return "", wrong(0, "“%s” is too short to end with its check character.", data)
	case given:
		body := data[:len(data)-length]
		if want := rule(body); data != body+want {
			return "", wrong(0, "The check character of %s is “%s”, not “%s”.", body, want, data[len(body):])
		}
	case o.Check:
		return data + rule(data), nil
	}
	return data, nil
}

// choices have the names of their values.
func choices(values []string) (list []Choice) {
	for _, value := range values {
		list = append(list, Choice{value, value})
	}
	return list
}

func levels(values ...string) Option {
	return Option{ID: "level", Name: "Error correction", Unset: "usual", Choices: choices(values)}
}

func versions(values ...string) Option {
	return Option{ID: "version", Name: "Version", Unset: "the smallest", Choices: choices(values)}
}

func columns(most int) Option {
	return Option{ID: "columns", Name: "Columns", Unset: "as suits", Least: 1, Most: float64(most), Step: 1}
}

// numbers returns whole numbers from first to last as words.
func numbers(first, last int) (words []string) {
	for n := first; n <= last; n++ {
		words = append(words, strconv.Itoa(n))
	}
	return words
}

// fields returns each option with where it stands, in the order of the struct.
func (o *Options) fields() []optionField {
	return []optionField{{"check", &o.Check}, {"ratio", &o.Ratio}, {"level", &o.Level}, {"version", &o.Version},
		{"form", &o.Form}, {"shape", &o.Shape}, {"size", &o.Size}, {"columns", &o.Columns}, {"host", &o.Host},
		{"letters", (*string)(&o.Letters)}, {"checkDigit", (*string)(&o.CheckDigit)}, {"checkRule", &o.CheckRule},
		{"bytes", &o.Bytes}}
}

type optionField struct {
	id string
	at any // *bool, *float64, *int or *string
}

// text returns what is chosen; empty: nothing.
func (f optionField) text() string {
	switch at := f.at.(type) {
	case *string:
		return *at
	case *int:
		if *at != 0 {
			return strconv.Itoa(*at)
		}
	case *float64:
		if *at != 0 {
			return strconv.FormatFloat(*at, 'g', -1, 64)
		}
	case *bool:
		if *at {
			return "true"
		}
	}
	return ""
}

// Set chooses an option by its name, as on the command line; known is false where there is none of that name. Its error
// is of package strconv. Whether the symbology has it, and the value, is checked when a code is encoded.
func (o *Options) Set(id, value string) (known bool, err error) {
	for _, f := range o.fields() {
		if !strings.EqualFold(f.id, id) {
			continue
		}
		switch at := f.at.(type) {
		case *string:
			*at = value
		case *int:
			*at, err = strconv.Atoi(value)
		case *float64:
			*at, err = strconv.ParseFloat(value, 64)
		case *bool:
			*at, err = strconv.ParseBool(value)
		}
		return true, err
	}
	return false, nil
}

// Has tells whether an option can be chosen.
func (k *Kind) Has(option string) bool { return k.option(option) != nil }

// option returns an option of a symbology; nil where it has none of that name.
func (k *Kind) option(id string) *Option {
	for i := range k.Options {
		if k.Options[i].ID == id {
			return &k.Options[i]
		}
	}
	return nil
}

// Shared returns those of some options that the symbology has as well: what was chosen about a code that becomes
// another.
func (k *Kind) Shared(o Options) (shared Options) {
	theirs := shared.fields()
	for i, f := range o.fields() {
		option := k.option(f.id)
		value := f.text()
		if option == nil || value == "" {
			continue
		}
		if value, ok := option.accepts(value); ok {
			_, _ = shared.Set(theirs[i].id, value)
		}
	}
	shared.Bytes = o.Bytes
	return shared
}

// checked refuses options that the symbology does not have, which would be dropped in silence, and values that an
// option has not. It returns choices as the symbology writes them.
func (k *Kind) checked(o Options) (Options, error) {
	for _, f := range o.fields() {
		value := f.text()
		if value == "" || f.id == "bytes" { // all of them take bytes
			continue
		}
		option := k.option(f.id)
		if option == nil {
			return o, wrong(0, "%s has no option “%s”. Leave it out.", k.Name, f.id)
		}
		chosen, ok := option.accepts(value)
		if !ok {
			return o, wrong(0, "%s of %s: choose %s, not %s.", option.Name, k.Name, option.Values(), value)
		}
		if at, is := f.at.(*string); is {
			*at = chosen
		}
	}
	return o, nil
}

// accepts returns a value as the option has it: of any case, a size with its sides in either order, a share with its
// sign.
func (o *Option) accepts(value string) (chosen string, ok bool) {
	if o.Most > 0 {
		n, err := strconv.ParseFloat(strings.TrimSuffix(value, "%"), 64)
		return strings.TrimSuffix(value, "%"), err == nil && n >= o.Least && n <= o.Most
	}
	if len(o.Choices) == 0 {
		return value, true
	}
	first, second, sides := strings.Cut(value, "x")
	for _, c := range o.Choices {
		if strings.EqualFold(c.Value, value) || sides && c.Value == second+"x"+first {
			return c.Value, true
		}
	}
	return "", false
}

// counts tells whether the choices are numbers that follow one another.
func (o *Option) counts() bool {
	first, err := strconv.Atoi(o.Choices[0].Value)
	return err == nil && slices.Equal(choices(numbers(first, first+len(o.Choices)-1)), o.Choices)
}

// Values tells what can be chosen, as in "L, M or H" or "from 1 to 4"; of a switch and of a text "yes" and "text".
func (o *Option) Values() string {
	const listed = 40
	switch n := len(o.Choices); {
	case o.Switch:
		return "yes"
	case n == 0 && o.Most == 0:
		return "text"
	case n == 0:
		return fmt.Sprintf("from %g to %g", o.Least, o.Most)
	case n > listed || o.counts():
		return "from " + o.Choices[0].Value + " to " + o.Choices[n-1].Value
	case n == 1:
		return o.Choices[0].Value
	default:
		var values []string
		for _, c := range o.Choices {
			values = append(values, c.Value)
		}
		return strings.Join(values[:n-1], ", ") + " or " + values[n-1]
	}
}
