package questions

import (
	"fmt"
	"regexp/syntax"
	"strings"
)

// patternInWords says what a regular expression wants, such as "2 capitals, then 4 digits"; one that is more than
// letters, kinds of letters and how often they stand is told as it is written.
func patternInWords(pattern string) string {
	tree, err := syntax.Parse(pattern, syntax.Perl)
	if err != nil {
		return pattern
	}
	if words, ok := inWords(tree); ok {
		return words
	}
	return pattern
}

func inWords(re *syntax.Regexp) (words string, ok bool) {
	switch re.Op {
	case syntax.OpEmptyMatch, syntax.OpBeginText, syntax.OpEndText, syntax.OpBeginLine, syntax.OpEndLine:
		return "", true
	case syntax.OpLiteral:
		return "“" + string(re.Rune) + "”", true
	case syntax.OpCapture:
		return inWords(re.Sub[0])
	case syntax.OpCharClass, syntax.OpAnyChar, syntax.OpAnyCharNotNL:
		one, _, ok := kindOf(re)
		return one, ok
	case syntax.OpConcat:
		return joined(alike(re.Sub), ", then ")
	case syntax.OpAlternate:
		return joined(re.Sub, " or ")
	case syntax.OpQuest:
		words, ok = inWords(re.Sub[0])
		return words + " or nothing", ok
	case syntax.OpStar, syntax.OpPlus, syntax.OpRepeat:
		least, most := re.Min, re.Max
		if re.Op != syntax.OpRepeat {
			least, most = map[syntax.Op]int{syntax.OpStar: 0, syntax.OpPlus: 1}[re.Op], -1
		}
		_, many, ok := kindOf(re.Sub[0])
		switch {
		case !ok:
			return "", false
		case most == least && least == 1:
			return inWords(re.Sub[0])
		case most == least:
			return fmt.Sprintf("%d %s", least, many), true
		case most < 0 && least == 0:
			return "any number of " + many, true
		case most < 0:
			return fmt.Sprintf("%d or more %s", least, many), true
		}
		return fmt.Sprintf("%d to %d %s", least, most, many), true
	}
	return "", false
}

// kindOf names a kind of letters: one, and many of them.
func kindOf(re *syntax.Regexp) (one, many string, ok bool) {
	if re.Op == syntax.OpAnyChar || re.Op == syntax.OpAnyCharNotNL {
		return "a letter or sign", "letters or signs", true
	}
	if re.Op == syntax.OpLiteral && len(re.Rune) == 1 {
		return "“" + string(re.Rune) + "”", "times “" + string(re.Rune) + "”", true
	}
	if re.Op != syntax.OpCharClass {
		return "", "", false
	}
	switch string(re.Rune) {
	case "09":
		return "a digit", "digits", true
	case "AZ":
		return "a capital", "capitals", true
	case "az":
		return "a small letter", "small letters", true
	case "AZaz":
		return "a letter", "letters", true
	case "09AZ":
		return "a digit or capital", "digits or capitals", true
	case "09AZaz":
		return "a digit or letter", "digits or letters", true
	}
	var list []string
	for i := 0; i < len(re.Rune); i += 2 {
		from, to := re.Rune[i], re.Rune[i+1]
		if to > from+1 {
			list = append(list, fmt.Sprintf("%c to %c", from, to))
			continue
		}
		for r := from; r <= to; r++ {
			list = append(list, string(r))
		}
	}
	const most = 12
	if len(list) > most {
		return "", "", false
	}
	return "one of " + strings.Join(list, " "), "of " + strings.Join(list, " "), true
}

// alike makes one of parts of a kind that follow one another.
func alike(parts []*syntax.Regexp) (made []*syntax.Regexp) {
	for i := 0; i < len(parts); i++ {
		n := 1
		for i+n < len(parts) && parts[i].Op == syntax.OpCharClass && parts[i+n].Equal(parts[i]) {
			n++
		}
		if n == 1 {
			made = append(made, parts[i])
			continue
		}
		made = append(made, &syntax.Regexp{Op: syntax.OpRepeat, Min: n, Max: n, Sub: parts[i : i+1]})
		i += n - 1
	}
	return made
}

func joined(parts []*syntax.Regexp, between string) (words string, ok bool) {
	var list []string
	for _, part := range parts {
		said, ok := inWords(part)
		if !ok {
			return "", false
		}
		if said != "" {
			list = append(list, said)
		}
	}
	return strings.Join(list, between), true
}
