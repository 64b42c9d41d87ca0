package formula

import (
	"errors"
	"fmt"
	"regexp"
	"regexp/syntax"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/shopspring/decimal"

	"oddspool/core/check"
)

// A Function is one that formulas can call.
type Function struct {
	Name    string `json:"name"`
	Takes   string `json:"takes"` // what is written between its brackets
	Group   string `json:"group"`
	Says    string `json:"says"`
	Example string `json:"example"`
	Gives   string `json:"gives"` // what the example does, printed at 9:30 on 26 November 2026

	least, most int // how many values it takes; most -1: any number
	do          func(args []any) (any, error)
	world       bool // the world is given to it before its values
	clock       bool // it depends on when it is printed
}

// call implements what expr calls.
func (f *Function) call(args ...any) (any, error) {
	value, err := f.do(args)
	if err != nil {
		return nil, errors.New(f.about(err.Error()))
	}
	return value, nil
}

// about names the function in what is wrong with a value.
func (f *Function) about(text string) string {
	if strings.HasPrefix(f.Name, "#") {
		return text
	}
	return f.Name + ": " + text
}

// List returns all functions, by groups.
func List() []Function {
	list := make([]Function, len(functions))
	for i, f := range functions {
		list[i] = *f
	}
	return list
}

func find(name string) *Function {
	i := slices.IndexFunc(functions, func(f *Function) bool { return f.Name == name })
	if i < 0 {
		return nil
	}
	return functions[i]
}

// nearestFunction offers the function that was probably meant.
func nearestFunction(name string) string {
	for _, f := range functions {
		if strings.EqualFold(f.Name, name) {
			return fmt.Sprintf(" Is “%s” meant?", f.Name)
		}
	}
	for _, f := range functions {
		if len(name) > 2 && (strings.HasPrefix(strings.ToLower(f.Name), strings.ToLower(name)) ||
			strings.HasPrefix(strings.ToLower(name), strings.ToLower(f.Name))) {
			return fmt.Sprintf(" Is “%s” meant?", f.Name)
		}
	}
	return ""
}

// The groups.
const (
	ofText    = "text"
	ofNumbers = "numbers"
	ofDates   = "dates"
	ofCodes   = "codes and keys"
	ofChoice  = "conditions"
)

// text1 makes a function of one text.
func text1(do func(string) string) func([]any) (any, error) {
	return func(args []any) (any, error) {
		text, err := asText(args[0])
		return do(text), err
	}
}

// mostPattern is how long a regular expression may be; each is made once and kept among the latest.
const (
	mostPattern  = 500
	keptPatterns = 256
)

var patterns, _ = lru.New[string, *regexp.Regexp](keptPatterns) // its error is a size below 1

// patterned returns values as texts, and the second of them as a regular expression, which looks at each letter once
// (RE2).
func patterned(args []any) (list []string, pattern *regexp.Regexp, err error) {
	if list, err = asTexts(args); err != nil {
		return nil, nil, err
	}
	if len(list[1]) > mostPattern {
		return nil, nil, fmt.Errorf("a pattern has at most %d letters", mostPattern)
	}
	pattern, known := patterns.Get(list[1])
	if !known {
		if pattern, err = regexp.Compile(list[1]); err != nil {
			var wrong *syntax.Error
			if errors.As(err, &wrong) {
				return nil, nil, fmt.Errorf("“%s” is no regular expression: %s at “%s”", list[1], wrong.Code,
					wrong.Expr)
			}
			return nil, nil, fmt.Errorf("“%s” is no regular expression", list[1])
		}
		patterns.Add(list[1], pattern)
	}
	return list, pattern, nil
}

// number1 makes a function of one number.
func number1(do func(decimal.Decimal) decimal.Decimal) func([]any) (any, error) {
	return func(args []any) (any, error) {
		number, err := asNumber(args[0])
		if err != nil {
			return nil, err
		}
		return bounded(do(number))
	}
}

// extreme makes a function that takes the least or the largest of some numbers.
func extreme(sign int) func([]any) (any, error) {
	return func(args []any) (any, error) {
		best, err := asNumber(args[0])
		for _, arg := range args[1:] {
			number, numberErr := asNumber(arg)
			if err = errors.Join(err, numberErr); err != nil {
				return nil, err
			}
			if number.Cmp(best) == sign {
				best = number
			}
		}
		return best, err
	}
}

// padded fills a text up at one end.
func padded(atStart bool) func([]any) (any, error) {
	return func(args []any) (any, error) {
		text, err := asText(args[0])
		if err != nil {
			return nil, err
		}
		width, err := asCount(args[1], 0, MostLetters, "the width")
		if err != nil {
			return nil, err
		}
		with := " "
		if len(args) > 2 {
			if with, err = asText(args[2]); err != nil || utf8.RuneCountInString(with) != 1 {
				return nil, fmt.Errorf("it is filled up with one letter, such as \"0\"")
			}
		}
		fill := strings.Repeat(with, max(width-utf8.RuneCountInString(text), 0))
		if atStart {
			return fill + text, nil
		}
		return text + fill, nil
	}
}

// letters cuts a text by its letters.
func letters(cut func(all []rune, n int) []rune) func([]any) (any, error) {
	return func(args []any) (any, error) {
		text, err := asText(args[0])
		if err != nil {
			return nil, err
		}
		n, err := asCount(args[1], 0, MostLetters, "the number of letters")
		return string(cut([]rune(text), n)), err
	}
}

// Rounding to places after the decimal sign, halves away from zero.
func places(args []any, otherwise int) (int, error) {
	if len(args) < 2 {
		return otherwise, nil
	}
	return asCount(args[1], 0, 20, "the number of decimal places")
}

// Spelled writes a number with so many decimals, a decimal sign, and a sign between thousands.
func spelled(number decimal.Decimal, decimals int, sign, thousands string) string {
	text := number.StringFixed(int32(decimals))
	whole, fraction, _ := strings.Cut(text, ".")
	minus := strings.HasPrefix(whole, "-")
	whole = strings.TrimPrefix(whole, "-")
	var out strings.Builder
	for i, digit := range whole {
		if i > 0 && (len(whole)-i)%3 == 0 {
			out.WriteString(thousands)
		}
		out.WriteRune(digit)
	}
	text = out.String()
	if fraction != "" {
		text += sign + fraction
	}
	if minus {
		return "-" + text
	}
	return text
}

// Cipher writes digits as the letters of a key word of ten different letters, which stand for 1 to 9 and 0. Its error
// says what is wrong with the key.
func Cipher(text, key string) (string, error) {
	letters := []rune(strings.ToUpper(key))
	if len(letters) != 10 {
		return "", fmt.Errorf("the key “%s” has %d letters; ten are needed", key, len(letters))
	}
	for i, letter := range letters {
		if !unicode.IsLetter(letter) {
			return "", fmt.Errorf("the key “%s” has “%c”, which is no letter", key, letter)
		}
		if slices.Contains(letters[:i], letter) {
			return "", fmt.Errorf("the key “%s” has “%c” twice; ten different letters are needed", key, letter)
		}
	}
	return strings.Map(func(r rune) rune {
		if r >= '1' && r <= '9' {
			return letters[r-'1']
		}
		if r == '0' {
			return letters[9]
		}
		return r
	}, text), nil
}

// packs returns how many full packs a quantity makes, and what is left.
func packs(args []any) (full, left decimal.Decimal, err error) {
	quantity, err := asNumber(args[0])
	if err != nil {
		return full, left, err
	}
	size, err := asNumber(args[1])
	if err != nil {
		return full, left, err
	}
	if !size.IsPositive() || quantity.IsNegative() {
		return full, left, fmt.Errorf("%s in packs of %s cannot be", quantity, size)
	}
	full = quantity.Div(size).Floor()
	return full, quantity.Sub(full.Mul(size)), nil
}

func optional(args []any, i int, otherwise string) (string, error) {
	if len(args) <= i {
		return otherwise, nil
	}
	return asText(args[i])
}

// texts2 takes all values as texts.
func asTexts(args []any) (list []string, err error) {
	for _, arg := range args {
		text, textErr := asText(arg)
		if err = errors.Join(err, textErr); err != nil {
			return nil, err
		}
		list = append(list, text)
	}
	return list, nil
}

// only keeps some letters.
func only(keep func(rune) bool) func(string) string {
	return func(text string) string {
		return strings.Map(func(r rune) rune {
			if keep(r) {
				return r
			}
			return -1
		}, text)
	}
}

func checked(args []any) (rule check.Rule, text, character string, err error) {
	list, err := asTexts(args)
	if err != nil {
		return rule, "", "", err
	}
	rule, known := check.Find(list[1])
	if !known {
		var names []string
		for _, r := range check.Rules() {
			names = append(names, r.Name)
		}
		return rule, "", "", fmt.Errorf("there is no check rule “%s”; there are %s", list[1], strings.Join(names, ", "))
	}
	character, err = rule.Of(list[0])
	return rule, list[0], character, err
}

var functions = append([]*Function{
	{Name: "upper", Takes: "text", Group: ofText, Says: "in capitals", Example: `upper("dulse")`, Gives: "DULSE",
		least: 1, most: 1, do: text1(strings.ToUpper)},
	{Name: "lower", Takes: "text", Group: ofText, Says: "in small letters", Example: `lower("DULSE")`, Gives: "dulse",
		least: 1, most: 1, do: text1(strings.ToLower)},
	{Name: "capital", Takes: "text", Group: ofText, Says: "its first letter a capital", Example: `capital("sea salt")`,
		Gives: "Sea salt", least: 1, most: 1, do: text1(func(text string) string {
			first, size := utf8.DecodeRuneInString(text)
			if size == 0 {
				return text
			}
			return string(unicode.ToUpper(first)) + text[size:]
		})},
	{Name: "trim", Takes: "text", Group: ofText, Says: "without blanks at its ends, and with single ones within",
		Example: `trim("  sea   salt ")`, Gives: "sea salt", least: 1, most: 1,
		do: text1(func(text string) string { return strings.Join(strings.Fields(text), " ") })},
	{Name: "left", Takes: "text, n", Group: ofText, Says: "its first letters", Example: `left("N-03-07-B", 4)`,
		Gives: "N-03", least: 2, most: 2,
		do: letters(func(all []rune, n int) []rune { return all[:min(n, len(all))] })},
	{Name: "right", Takes: "text, n", Group: ofText, Says: "its last letters", Example: `right("26K104", 3)`,
		Gives: "104", least: 2, most: 2,
		do: letters(func(all []rune, n int) []rune { return all[max(len(all)-n, 0):] })},
	{Name: "middle", Takes: "text, from, n", Group: ofText, Says: "letters from within, the first is 1",
		Example: `middle("26K104", 3, 1)`, Gives: "K", least: 3, most: 3, do: func(args []any) (any, error) {
			text, err := asText(args[0])
			if err != nil {
				return nil, err
			}
			from, err := asCount(args[1], 1, MostLetters, "the first letter")
			if err != nil {
				return nil, err
			}
			n, err := asCount(args[2], 0, MostLetters, "the number of letters")
			all := []rune(text)
			from = min(from-1, len(all))
			return string(all[from:min(from+n, len(all))]), err
		}},
	{Name: "parts", Takes: "text, between", Group: ofText, Says: "how many pieces there are between signs",
		Example: `parts("N-03-07-B", "-")`, Gives: "4", least: 2, most: 2, do: func(args []any) (any, error) {
			list, err := asTexts(args)
			if err != nil || list[1] == "" {
				return "", errors.Join(err, fmt.Errorf("what stands between the pieces cannot be empty"))
			}
			return decimal.NewFromInt(int64(strings.Count(list[0], list[1]) + 1)), nil
		}},
	{Name: "part", Takes: "text, between, n", Group: ofText,
		Says: "the piece between signs, the first is 1, the last -1", Example: `part("N-03-07-B", "-", 3)`, Gives: "07",
		least: 3, most: 3, do: func(args []any) (any, error) {
			list, err := asTexts(args[:2])
			if err != nil {
				return nil, err
			}
			n, err := asCount(args[2], -MostLetters, MostLetters, "the number of the piece")
			if err != nil || list[1] == "" {
				return "", err
			}
			pieces := strings.Split(list[0], list[1])
			if n < 0 {
				n += len(pieces) + 1
			}
			if n >= 1 && n <= len(pieces) {
				return pieces[n-1], nil
			}
			return "", nil
		}},
	{Name: "length", Takes: "text", Group: ofText, Says: "how many letters it has", Example: `length("26K104")`,
		Gives: "6", least: 1, most: 1, do: func(args []any) (any, error) {
			text, err := asText(args[0])
			return decimal.NewFromInt(int64(utf8.RuneCountInString(text))), err
		}},
	{Name: "pad", Takes: "text, width, with", Group: ofText, Says: "filled up before it, with blanks or another letter",
		Example: `pad(417, 6, "0")`, Gives: "000417", least: 2, most: 3, do: padded(true)},
	{Name: "padAfter", Takes: "text, width, with", Group: ofText, Says: "filled up behind it",
		Example: `padAfter("A", 3, ".")`, Gives: "A..", least: 2, most: 3, do: padded(false)},
	{Name: "replace", Takes: "text, what, by", Group: ofText, Says: "with each of one thing replaced by another",
		Example: `replace("N-03-07", "-", "/")`, Gives: "N/03/07", least: 3, most: 3,
		do: func(args []any) (any, error) {
			list, err := asTexts(args)
			if err != nil || list[1] == "" {
				return "", errors.Join(err, fmt.Errorf("what is replaced cannot be empty"))
			}
			if strings.Count(list[0], list[1])*len(list[2]) > MostLetters {
				return "", fmt.Errorf("the text has more than %d letters", MostLetters)
			}
			return strings.ReplaceAll(list[0], list[1], list[2]), nil
		}},
	{Name: "digits", Takes: "text", Group: ofText, Says: "only its digits", Example: `digits("+45 31-12")`,
		Gives: "453112", least: 1, most: 1, do: text1(only(func(r rune) bool { return r >= '0' && r <= '9' }))},
	{Name: "letters", Takes: "text", Group: ofText, Says: "only its letters", Example: `letters("26K104")`, Gives: "K",
		least: 1, most: 1, do: text1(only(unicode.IsLetter))},
	{Name: "join", Takes: "between, text, text …", Group: ofText,
		Says:    "texts with something between them; empty ones vanish with it",
		Example: `join(", ", "Dulse", "", "flaked")`, Gives: "Dulse, flaked", least: 2, most: -1,
		do: func(args []any) (any, error) {
			list, err := asTexts(args)
			if err != nil {
				return nil, err
			}
			return strings.Join(slices.DeleteFunc(list[1:],
				func(text string) bool { return strings.TrimSpace(text) == "" }), list[0]), nil
		}},
	{Name: "repeat", Takes: "text, n", Group: ofText, Says: "several times", Example: `repeat("=", 5)`, Gives: "=====",
		least: 2, most: 2, do: func(args []any) (any, error) {
			text, err := asText(args[0])
			if err != nil {
				return nil, err
			}
			n, err := asCount(args[1], 0, MostLetters, "how often")
			if err == nil && n*len(text) > MostLetters {
				err = fmt.Errorf("the text has more than %d letters", MostLetters)
			}
			if err != nil {
				return nil, err
			}
			return strings.Repeat(text, n), nil
		}},
	{Name: "text", Takes: "value", Group: ofText, Says: "as a text, so that + joins it", Example: `text(7) + text(8)`,
		Gives: "78", least: 1, most: 1, do: func(args []any) (any, error) {
			text, err := asText(args[0])
			return joined(text), err
		}},
	{Name: "isMatch", Takes: "text, pattern", Group: ofText, Says: "whether a regular expression (RE2) is found in it",
		Example: "isMatch(\"26K104\", `^[0-9]{2}[A-Z]`)", Gives: "true", least: 2, most: 2,
		do: func(args []any) (any, error) {
			list, pattern, err := patterned(args)
			if err != nil {
				return nil, err
			}
			return pattern.MatchString(list[0]), nil
		}},
	{Name: "match", Takes: "text, pattern, n", Group: ofText,
		Says:    "what a regular expression finds first, or its group n; empty: nothing",
		Example: "match(\"lot 26K104, dry\", `([0-9]+)[A-Z]([0-9]+)`, 2)", Gives: "104", least: 2, most: 3,
		do: func(args []any) (any, error) {
			list, pattern, err := patterned(args[:2])
			group := 0
			if err == nil && len(args) > 2 {
				group, err = asCount(args[2], 0, pattern.NumSubexp(), "the number of a group of this pattern")
			}
			if err != nil {
				return nil, err
			}
			if found := pattern.FindStringSubmatch(list[0]); found != nil {
				return found[group], nil
			}
			return "", nil
		}},
	{Name: "replaceMatch", Takes: "text, pattern, by", Group: ofText,
		Says:    "with all that a regular expression finds replaced; ${1} is its first group",
		Example: "replaceMatch(\"N-03-07\", `-0*([0-9]+)`, \".${1}\")", Gives: "N.3.7", least: 3, most: 3,
		do: func(args []any) (any, error) {
			list, pattern, err := patterned(args)
			if err != nil {
				return nil, err
			}
			text := pattern.ReplaceAllString(list[0], list[2])
			if len(text) > MostLetters {
				return nil, fmt.Errorf("the text has more than %d letters", MostLetters)
			}
			return text, nil
		}},
	{Name: "field", Takes: `"name"`, Group: ofText, Says: "a field whose name has blanks or signs",
		Example: `field("bin")`, Gives: "", least: 1, most: 1, do: func([]any) (any, error) { return nil, nil }},

	{Name: "number", Takes: "text, sign", Group: ofNumbers,
		Says:    "as a number; sign is its decimal sign where that is not the point",
		Example: `number("1.234,50", ",") * 2`, Gives: "2469", least: 1, most: 2, do: func(args []any) (any, error) {
			if isNumber(args[0]) {
				return asNumber(args[0])
			}
			list, err := asTexts(args)
			if err != nil {
				return nil, err
			}
			if len(list) == 1 {
				list = append(list, ".")
			}
			return parseNumber(list[0], list[1])
		}},
	{Name: "round", Takes: "number, places", Group: ofNumbers, Says: "to so many decimal places, halves away from zero",
		Example: `round(2.345, 2)`, Gives: "2.35", least: 1, most: 2, do: func(args []any) (any, error) {
			number, err := asNumber(args[0])
			if err != nil {
				return nil, err
			}
			n, err := places(args, 0)
			return number.Round(int32(n)), err
		}},
	{Name: "roundUp", Takes: "number", Group: ofNumbers, Says: "to the next whole number above",
		Example: `roundUp(7 / 2)`, Gives: "4", least: 1, most: 1, do: number1(decimal.Decimal.Ceil)},
	{Name: "roundDown", Takes: "number", Group: ofNumbers, Says: "to the next whole number below",
		Example: `roundDown(7 / 2)`, Gives: "3", least: 1, most: 1, do: number1(decimal.Decimal.Floor)},
	{Name: "absolute", Takes: "number", Group: ofNumbers, Says: "without its minus", Example: `absolute(-3)`,
		Gives: "3", least: 1, most: 1, do: number1(decimal.Decimal.Abs)},
	{Name: "least", Takes: "number, number …", Group: ofNumbers, Says: "the smallest", Example: `least(4, 2.5, 3)`,
		Gives: "2.5", least: 1, most: -1, do: extreme(-1)},
	{Name: "most", Takes: "number, number …", Group: ofNumbers, Says: "the largest", Example: `most(4, 2.5, 3)`,
		Gives: "4", least: 1, most: -1, do: extreme(1)},
	{Name: "sum", Takes: "number, number …", Group: ofNumbers, Says: "all together; also of fields, which + would join",
		Example: `sum("12.5", "3")`, Gives: "15.5", least: 1, most: -1, do: func(args []any) (any, error) {
			total := decimal.Zero
			for _, arg := range args {
				number, err := asNumber(arg)
				if err == nil {
					total, err = bounded(total.Add(number))
				}
				if err != nil {
					return nil, err
				}
			}
			return total, nil
		}},
	{Name: "format", Takes: "number, places, sign, thousands", Group: ofNumbers,
		Says:    "with so many decimal places, a decimal sign and one between thousands",
		Example: `format(1234.5, 2, ",", ".")`, Gives: "1.234,50", least: 2, most: 4,
		do: func(args []any) (any, error) {
			number, err := asNumber(args[0])
			if err != nil {
				return nil, err
			}
			n, err := places(args, 0)
			if err != nil {
				return nil, err
			}
			sign, err := optional(args, 2, ".")
			if err != nil {
				return nil, err
			}
			thousands, err := optional(args, 3, "")
			return spelled(number, n, sign, thousands), err
		}},
	{Name: "fullPacks", Takes: "quantity, size", Group: ofNumbers, Says: "how many full packs a quantity makes",
		Example: `fullPacks(50, 12)`, Gives: "4", least: 2, most: 2, do: func(args []any) (any, error) {
			full, _,
				err := packs(args)
			return full, err
		}},
	{Name: "lastPack", Takes: "quantity, size", Group: ofNumbers,
		Says: "what the last pack holds that is not full; 0: there is none", Example: `lastPack(50, 12)`, Gives: "2",
		least: 2, most: 2, do: func(args []any) (any, error) { _, left, err := packs(args); return left, err }},

	{Name: "checkDigit", Takes: "text, rule", Group: ofCodes,
		Says:    "the check character that a rule gives, such as gs1, luhn, mod43",
		Example: `checkDigit("952123400042", "gs1")`, Gives: "6", least: 2, most: 2,
		do: func(args []any) (any, error) { _, _, character, err := checked(args); return character, err }},
	{Name: "withCheck", Takes: "text, rule", Group: ofCodes, Says: "with its check character behind it",
		Example: `withCheck("952123400042", "gs1")`, Gives: "9521234000426", least: 2, most: 2,
		do: func(args []any) (any, error) { _, text, character, err := checked(args); return text + character, err }},
	{Name: "cipher", Takes: "price, key", Group: ofCodes,
		Says:    "digits as letters of a key word of ten different letters, for 1 to 9 and 0",
		Example: `cipher("12.50", "BLACKHORSE")`, Gives: "BL.KE", least: 2, most: 2, do: func(args []any) (any, error) {
			list, err := asTexts(args)
			if err != nil {
				return nil, err
			}
			return Cipher(list[0], list[1])
		}},
	{Name: "translate", Takes: "text, from, to, from, to …, otherwise", Group: ofCodes,
		Says:    "by a small table; what is not in it stays, or becomes the last value",
		Example: `translate("A", "A", "Ambient", "C", "Chilled")`, Gives: "Ambient", least: 3, most: -1,
		do: func(args []any) (any, error) {
			list, err := asTexts(args)
			if err != nil {
				return nil, err
			}
			for i := 1; i+1 < len(list); i += 2 {
				if list[i] == list[0] {
					return list[i+1], nil
				}
			}
			if len(list)%2 == 0 {
				return list[len(list)-1], nil
			}
			return list[0], nil
		}},
	{Name: "lookup", Takes: "set, key, keyField, field", Group: ofCodes,
		Says:    "a field of another record set, of the record whose key is that",
		Example: `lookup("parts.csv", part, "part", "name")`, Gives: "", least: 4, most: 4, world: true, do: lookup},

	{Name: "choose", Takes: "condition, then, otherwise", Group: ofChoice,
		Says: "one of two values; condition ? then : otherwise is the same", Example: `choose(3 > 2, "many", "few")`,
		Gives: "many", least: 3, most: 3, do: func(args []any) (any, error) {
			is, isBool := args[0].(bool)
			if !isBool {
				return nil, fmt.Errorf("a condition comes first, such as qty > 3")
			}
			if is {
				return args[1], nil
			}
			return args[2], nil
		}},
	{Name: "default", Takes: "value, otherwise …", Group: ofChoice, Says: "the first that is not empty",
		Example: `default("", "no lot")`, Gives: "no lot", least: 2, most: -1, do: func(args []any) (any, error) {
			for _, arg := range args {
				text, err := asText(arg)
				if err != nil || strings.TrimSpace(text) != "" {
					return arg, err
				}
			}
			return "", nil
		}},
	{Name: "empty", Takes: "value", Group: ofChoice, Says: "whether nothing stands in it",
		Example: `empty(" ") ? "none" : "some"`, Gives: "none", least: 1, most: 1, do: func(args []any) (any, error) {
			text, err := asText(args[0])
			return strings.TrimSpace(text) == "", err
		}},
	{Name: "isNumber", Takes: "value", Group: ofChoice, Says: "whether it is a number",
		Example: `isNumber("12.5") ? "yes" : "no"`, Gives: "yes", least: 1, most: 1, do: func(args []any) (any, error) {
			_, err := asNumber(args[0])
			return err == nil, nil
		}},
}, dateFunctions...)

// lookup does the function of that name.
func lookup(args []any) (any, error) {
	list, err := asTexts(args[1:])
	if err != nil {
		return nil, err
	}
	set := args[0].(*world).set
	if set == nil || set.Lookup == nil {
		return nil, errors.New("there is no other record set here")
	}
	value, found, err := set.Lookup(list[0], list[1], list[2], list[3])
	if err == nil && !found {
		err = fmt.Errorf("no record of %s has “%s” as its %s", list[0], list[1], list[2])
	}
	return value, err
}

// now is when it is printed.
func (w *world) now() time.Time {
	if w.set == nil || w.set.Now.IsZero() {
		return time.Now()
	}
	return w.set.Now
}
