package sources

import (
	"math"
	"strconv"
	"strings"
	"unicode/utf8"
)

// A numberForm shows a value as a number format of a workbook says (ISO/IEC 29500-1, 18.8.30 and 18.8.31): up to four
// sections, for numbers above zero, below zero, zero, and text, or each with a condition of its own.
type numberForm struct {
	sections []section
	text     *section // for text; nil: it stays as it is
}

// A section of a number format.
type section struct {
	condition string // one of < <= > >= = <>; empty: none
	limit     float64
	tokens    []token
	date      bool // it has parts of dates or times
	general   bool // it is "General"
	language  int  // of names of months and days, as [$-407] says; 0: none said
}

// A token is a part of a section.
type token struct {
	kind tokenKind
	text string
}

type tokenKind uint8

const (
	literal tokenKind = iota // as it stands
	room                     // as wide as a letter: a blank
	digit                    // 0 # or ?
	point                    // between whole and part
	comma                    // groups of thousands, or a thousandth of the value
	percent
	power    // E+ or E-, with the digits behind it
	over     // of a fraction; text is the denominator: digits to fill, or a number
	datePart // y m d h s and what they repeat, AM/PM, and in brackets what is elapsed
	plain    // General: the number as it is
	asIs     // @
)

// mostForm is how many characters a number format has (18.8.30 has no bound; programs that write workbooks have this
// one).
const mostForm = 255

// parseForm reads a number format; false: it is none.
func parseForm(code string) (f *numberForm, ok bool) {
	if utf8.RuneCountInString(code) > mostForm {
		return nil, false
	}
	f = &numberForm{}
	for part, rest := "", code; ; {
		part, rest = cutSection(rest)
		s, ok := parseSection(part)
		if !ok || len(f.sections) == 4 {
			return nil, false
		}
		f.sections = append(f.sections, s)
		if rest == "" {
			break
		}
		rest = rest[1:]
	}
	last := len(f.sections) - 1
	if len(f.sections) == 4 || f.sections[last].has(asIs) {
		f.text = &f.sections[last]
		f.sections = f.sections[:last]
	}
	return f, true
}

// cutSection cuts a format before the semicolon that ends its first section.
func cutSection(code string) (part, rest string) {
	for i := 0; i < len(code); i++ {
		switch code[i] {
		case '"':
			end := strings.IndexByte(code[i+1:], '"')
			if end < 0 {
				return code, ""
			}
			i += end + 1
		case '[':
			if end := strings.IndexByte(code[i:], ']'); end > 0 {
				i += end
			}
		case '\\', '_', '*':
			i++
		case ';':
			return code[:i], code[i:]
		}
	}
	return code, ""
}

func (s *section) has(kind tokenKind) bool {
	for _, t := range s.tokens {
		if t.kind == kind {
			return true
		}
	}
	return false
}

// parseSection reads one section.
func parseSection(code string) (s section, ok bool) {
	if strings.EqualFold(code, "general") {
		return section{general: true}, true
	}
	for len(code) > 0 {
		r, size := utf8.DecodeRuneInString(code)
		lower := r | 0x20
		switch {
		case strings.HasPrefix(strings.ToLower(code), "general"):
			s.put(plain, "")
			size = len("general")
		case r == '"':
			inside, rest, _ := strings.Cut(code[1:], `"`)
			s.put(literal, inside)
			code = rest
			continue
		case r == '\\' && len(code) > 1:
			_, next := utf8.DecodeRuneInString(code[1:])
			s.put(literal, code[1:1+next])
			size += next
		case (r == '_' || r == '*') && len(code) > 1: // as wide as the letter behind it, or filled with it
			_, next := utf8.DecodeRuneInString(code[1:])
			s.put(room, " ")
			size += next
		case r == '[':
			inside, rest, closed := strings.Cut(code[1:], "]")
			if !closed || !s.bracket(inside) {
				return s, false
			}
			code = rest
			continue
		case r == '0' || r == '#' || r == '?':
			s.put(digit, string(r))
		case r == '.':
			s.put(point, ".")
		case r == ',':
			s.put(comma, ",")
		case r == '%':
			s.put(percent, "%")
		case r == '@':
			s.put(asIs, "@")
		case lower == 'e' && len(code) > 1 && (code[1] == '+' || code[1] == '-'):
			s.put(power, code[1:2])
			size++
		case r == '/' && s.endsInDigit():
			denominator := code[1 : 1+len(code[1:])-len(strings.TrimLeft(code[1:], "0123456789?#"))]
			if denominator == "" {
				s.put(literal, "/")
				break
			}
			s.put(over, denominator)
			size += len(denominator)
		case isAMPM(code) > 0:
			s.date = true
			s.put(datePart, code[:isAMPM(code)])
			size = isAMPM(code)
		case strings.ContainsRune("ymdhsegb", lower):
			same := len(code) - len(strings.TrimLeft(code, string(r)))
			s.date = true
			s.put(datePart, strings.ToLower(code[:same]))
			size = same
		default:
			s.put(literal, code[:size])
		}
		code = code[size:]
	}
	return s, true
}

func (s *section) put(kind tokenKind, text string) { s.tokens = append(s.tokens, token{kind, text}) }

func (s *section) endsInDigit() bool {
	return len(s.tokens) > 0 && s.tokens[len(s.tokens)-1].kind == digit
}

func isAMPM(code string) int {
	for _, word := range []string{"AM/PM", "A/P"} {
		if len(code) >= len(word) && strings.EqualFold(code[:len(word)], word) {
			return len(word)
		}
	}
	return 0
}

// bracket takes what stands in brackets: a condition, a colour, a currency with its language, or time that is elapsed.
func (s *section) bracket(inside string) bool {
	lower := strings.ToLower(inside)
	switch {
	case inside == "":
		return false
	case inside[0] == '$':
		sign, language, _ := strings.Cut(inside[1:], "-")
		s.put(literal, sign)
		if n, err := strconv.ParseInt(language, 16, 64); err == nil {
			s.language = int(n & 0xffff)
		}
	case strings.Trim(lower, "h") == "" || strings.Trim(lower, "m") == "" || strings.Trim(lower, "s") == "":
		s.date = true
		s.put(datePart, "["+lower+"]")
	case strings.ContainsRune("<>=", rune(inside[0])):
		number := strings.TrimLeft(inside, "<>=")
		limit, err := strconv.ParseFloat(strings.TrimSpace(number), 64)
		if err != nil {
			return false
		}
		s.condition, s.limit = inside[:len(inside)-len(number)], limit
	}
	return true // a colour, which does not show in a text
}

// meets tells whether a number is one that the section is for.
func (s *section) meets(value float64) bool {
	switch s.condition {
	case "<":
		return value < s.limit
	case "<=":
		return value <= s.limit
	case ">":
		return value > s.limit
	case ">=":
		return value >= s.limit
	case "<>":
		return value != s.limit
	}
	return value == s.limit
}

// choose returns the section for a number, and whether it says by itself that the number is below zero; nil: there is
// none.
func (f *numberForm) choose(value float64) (s *section, signed bool) {
	conditions := false
	for i := range f.sections {
		conditions = conditions || f.sections[i].condition != ""
	}
	if !conditions {
		switch {
		case len(f.sections) == 0:
			return nil, false
		case value < 0 && len(f.sections) > 1:
			return &f.sections[1], true
		case value == 0 && len(f.sections) > 2:
			return &f.sections[2], false
		}
		return &f.sections[0], false
	}
	for i := range f.sections {
		s := &f.sections[i]
		switch {
		case s.condition != "":
			if s.meets(value) {
				return s, s.condition == "<" && s.limit == 0
			}
		case i == len(f.sections)-1:
			return s, false
		case i == 0 && value > 0:
			return s, false
		case i == 1 && value < 0:
			return s, true
		}
	}
	return nil, false
}

// number shows a number, given as it is written, in days since the start of dates where it is one; false: the format
// has nothing for it.
func (f *numberForm) number(raw string, from1904 bool) (text string, ok bool) {
	value, err := strconv.ParseFloat(raw, 64)
	if err != nil || math.IsInf(value, 0) || math.IsNaN(value) {
		return "", false
	}
	s, signed := f.choose(value)
	switch {
	case s == nil && len(f.sections) == 0: // a form for text, which takes numbers too
		return strings.TrimSpace(f.format(plainNumber(raw))), true
	case s == nil:
		return "", false
	case s.general:
		return plainNumber(raw), true
	case s.date:
		return s.moment(value, from1904)
	}
	shown := s.figures(raw, value)
	if value < 0 && !signed && strings.ContainsAny(shown, "123456789") { // what is rounded to zero has no sign
		shown = "-" + shown
	}
	return strings.TrimSpace(shown), true
}

// format shows a text.
func (f *numberForm) format(text string) string {
	if f.text == nil || f.text.general {
		return text
	}
	var out strings.Builder
	for _, t := range f.text.tokens {
		switch t.kind {
		case asIs:
			out.WriteString(text)
		default:
			out.WriteString(t.text)
		}
	}
	return out.String()
}
