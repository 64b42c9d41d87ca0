package formula

import (
	"fmt"
	"slices"
	"strings"
)

// A Change is what is done to a value without writing a formula: one of the functions of Changes, with what it takes
// besides the value.
type Change struct {
	Do   string   `json:"do"`
	With []string `json:"with,omitempty"`
}

// A ChangeKind is a change that can be chosen.
type ChangeKind struct {
	Do    string   `json:"do"`
	Words string   `json:"words"` // what people call it
	Takes []string `json:"takes"` // what each value is that it takes; one that ends in … goes on
	With  []string `json:"with"`  // what they are at first
}

// changeKinds are those that can be chosen.
var changeKinds = []ChangeKind{
	{"upper", "in capitals", nil, nil},
	{"lower", "in small letters", nil, nil},
	{"capital", "first letter a capital", nil, nil},
	{"trim", "without blanks at its ends", nil, nil},
	{"left", "its first letters", []string{"letters"}, []string{"3"}},
	{"right", "its last letters", []string{"letters"}, []string{"3"}},
	{"middle", "letters from within", []string{"from", "letters"}, []string{"2", "3"}},
	{"part", "the piece between signs", []string{"sign", "piece"}, []string{"-", "1"}},
	{"pad", "filled up before it", []string{"letters", "with"}, []string{"6", "0"}},
	{"padAfter", "filled up behind it", []string{"letters", "with"}, []string{"6", " "}},
	{"replace", "one thing replaced", []string{"what", "by"}, []string{"-", "/"}},
	{"digits", "only its digits", nil, nil},
	{"letters", "only its letters", nil, nil},
	{"round", "rounded", []string{"places"}, []string{"0"}},
	{"format", "a number in figures", []string{"places", "decimal sign", "thousands"}, []string{"2", ".", ","}},
	{"formatDate", "a date in another form", []string{"form", "language"}, []string{"dd.MM.yyyy", "en"}},
	{"readDate", "a date read by its form", []string{"form", "written as"}, []string{"yyMMdd", "dd.MM.yyyy"}},
	{"before", "something before it", []string{"words"}, []string{"No. "}},
	{"behind", "a unit behind it", []string{"words"}, []string{" kg"}},
	{"default", "when empty", []string{"words"}, []string{"none"}},
	{"translate", "by a small table", []string{"from", "to …"}, []string{"A", "Ambient"}},
	{"cipher", "in a cost cipher", []string{"key of ten letters"}, []string{"BLACKHORSE"}},
	{"withCheck", "with its check character", []string{"rule"}, []string{"gs1"}},
}

// Changes returns the changes that can be chosen.
func Changes() []ChangeKind { return slices.Clone(changeKinds) }

// Check says what is wrong with a change by itself; nil: nothing.
func (c Change) Check() error {
	i := slices.IndexFunc(changeKinds, func(k ChangeKind) bool { return k.Do == c.Do })
	if i < 0 {
		return fmt.Errorf("there is no change %q", c.Do)
	}
	takes := changeKinds[i].Takes
	goesOn := len(takes) > 0 && strings.HasSuffix(takes[len(takes)-1], "…")
	if len(c.With) < len(takes) || len(c.With) > len(takes) && !goesOn {
		return fmt.Errorf("the change %q takes %d values, %d are given", c.Do, len(takes), len(c.With))
	}
	return nil
}

// Apply changes a value. An empty one stays that, but where something is said for it. Its error says what is wrong with
// the value.
func (c Change) Apply(value string) (string, error) {
	if value == "" && c.Do != "default" && c.Do != "pad" && c.Do != "padAfter" {
		return "", nil
	}
	switch c.Do {
	case "before":
		return c.With[0] + value, nil
	case "behind":
		return value + c.With[0], nil
	case "readDate":
		date, err := parseDate(value, c.With[0])
		if err != nil {
			return "", err
		}
		return FormatDate(date, c.With[1], "en")
	}
	f := find(c.Do)
	if f == nil {
		return "", fmt.Errorf("there is no change %q", c.Do)
	}
	args := []any{value}
	for _, with := range c.With {
		args = append(args, with)
	}
	result, err := f.do(args)
	if err != nil {
		return "", err
	}
	return asText(result)
}

// All applies changes one after the other.
func All(changes []Change, value string) (text string, err error) {
	text = value
	for _, c := range changes {
		if text, err = c.Apply(text); err != nil {
			return "", err
		}
	}
	return text, nil
}
