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

// figures shows how large a number is, without its sign.
func (s *section) figures(raw string, value float64) string {
	d := decimalOf(math.Abs(value))
	form := s.layout()
	if form.fraction >= 0 {
		return s.parts(math.Abs(value), form)
	}
	d.exponent += 2*form.percents - 3*form.thousandths
	ten := 0
	if form.power >= 0 && len(d.digits) > 0 {
		step := max(form.wholes, 1) // the power is a multiple of the places before the point
		ten = int(math.Floor(float64(d.exponent-1)/float64(step))) * step
		d.exponent -= ten
		if d.round(form.decimals); d.exponent > step { // 9.99 became 10
			d.exponent -= step
			ten += step
		}
	}
	d.round(form.decimals)
	whole, part := d.split(form.decimals)
	whole = strings.Repeat("0", max(form.zeros-len(whole), 0)) + whole
	var out strings.Builder
	written, places, decimals := 0, 0, 0 // digits of whole, and places before and behind the point, that are done
	write := func(n int) {
		for ; n > 0; n-- {
			out.WriteByte(whole[written])
			if written++; form.grouped && written < len(whole) && (len(whole)-written)%3 == 0 {
				out.WriteByte(',')
			}
		}
	}
	behind := false
	for i, t := range s.tokens {
		switch t.kind {
		case literal, room:
			out.WriteString(t.text)
		case percent:
			out.WriteByte('%')
		case point:
			write(len(whole) - written) // of a format without places before its point
			behind = true
			out.WriteByte('.')
		case digit:
			switch {
			case form.power >= 0 && i > form.power: // written with it
			case behind:
				switch {
				case decimals < len(part):
					out.WriteByte(part[decimals])
				case decimals < form.leastDecimals:
					out.WriteByte('0')
				case t.text == "?":
					out.WriteByte(' ')
				}
				decimals++
			default:
				here := len(whole) - (form.wholes - places) + 1 - written // the first place takes all that has none
				if write(max(here, 0)); here <= 0 && t.text == "?" {
					out.WriteByte(' ')
				}
				places++
			}
		case power:
			sign := ""
			if ten < 0 {
				sign = "-"
			} else if t.text == "+" {
				sign = "+"
			}
			figures := strconv.Itoa(max(ten, -ten))
			out.WriteString("E" + sign + strings.Repeat("0", max(form.powerDigits-len(figures), 0)) + figures)
		case plain, asIs:
			out.WriteString(plainNumber(strings.TrimPrefix(raw, "-")))
		}
	}
	return out.String()
}

// A layout is what a section has of places for digits.
type layout struct {
	wholes, zeros           int // places before the point; how many digits are always there
	decimals, leastDecimals int
	grouped                 bool
	thousandths, percents   int
	power, powerDigits      int // the token of the power of ten; -1: none
	fraction                int // the token of a fraction; -1: none
}

func (s *section) layout() layout {
	form := layout{power: -1, fraction: -1}
	behind := false
	lastDigit := -1
	for i, t := range s.tokens {
		if t.kind == digit && form.power < 0 {
			lastDigit = i
		}
		switch t.kind {
		case power:
			if form.power < 0 {
				form.power = i
			}
		case over:
			form.fraction = i
		}
	}
	zeroSeen := false
	for i, t := range s.tokens {
		switch t.kind {
		case digit:
			switch {
			case form.power >= 0 && i > form.power:
				form.powerDigits++
			case behind:
				if form.decimals++; t.text == "0" {
					form.leastDecimals = form.decimals
				}
			default:
				form.wholes++
				if zeroSeen = zeroSeen || t.text == "0"; zeroSeen {
					form.zeros++
				}
			}
		case point:
			behind = true
		case percent:
			form.percents++
		case comma:
			if i > lastDigit && lastDigit >= 0 {
				form.thousandths++
			} else if !behind && form.wholes > 0 {
				form.grouped = true
			}
		}
	}
	return form
}

// parts shows a number as a whole and a fraction.
func (s *section) parts(value float64, form layout) string {
	places := s.tokens[form.fraction].text
	numerator := 0 // places of it: the digits right before the stroke
	for i := form.fraction - 1; i >= 0 && s.tokens[i].kind == digit; i-- {
		numerator++
	}
	mixed := form.wholes > numerator
	whole, rest := math.Floor(value), value-math.Floor(value)
	if !mixed {
		whole, rest = 0, value
	}
	up, down := 0.0, 0.0
	if fixed, err := strconv.Atoi(places); err == nil && fixed > 0 {
		up, down = math.Round(rest*float64(fixed)), float64(fixed)
	} else {
		up, down = nearest(rest, math.Pow(10, float64(min(len(places), 5)))-1)
	}
	if mixed && up == down {
		whole, up = whole+1, 0
	}
	var out strings.Builder
	wrote := false
	for i, t := range s.tokens {
		switch t.kind {
		case literal, room:
			out.WriteString(t.text)
		case digit:
			if mixed && !wrote && i < form.fraction-numerator {
				if wrote = true; whole > 0 || up == 0 {
					out.WriteString(strconv.FormatFloat(whole, 'f', 0, 64))
				}
			}
		case over:
			if !mixed || up > 0 {
				out.WriteString(strconv.FormatFloat(up, 'f', 0, 64) + "/" + strconv.FormatFloat(down, 'f', 0, 64))
			}
		}
	}
	return out.String()
}

// nearest returns the fraction nearest to a value of those with a denominator up to most, by continued fractions.
func nearest(value, most float64) (up, down float64) {
	beforeUp, beforeDown, up, down := 0.0, 1.0, 1.0, 0.0
	for x := value; ; {
		a := math.Floor(x)
		nextUp, nextDown := a*up+beforeUp, a*down+beforeDown
		if nextDown > most {
			k := math.Floor((most - beforeDown) / down) // the last step, as far as it goes
			if midUp, midDown := k*up+beforeUp, k*down+beforeDown; midDown > 0 &&
				math.Abs(midUp/midDown-value) < math.Abs(up/down-value) {
				return midUp, midDown
			}
			return up, down
		}
		beforeUp, beforeDown, up, down = up, down, nextUp, nextDown
		if x-a < 1e-9 || math.Abs(up/down-value) < 1e-12 {
			return up, down
		}
		x = 1 / (x - a)
	}
}

// A decimal is a number as its digits: 0.digits times ten to the exponent. A workbook keeps 15 digits.
type decimal struct {
	digits   string
	exponent int
}

func decimalOf(value float64) decimal {
	if value == 0 {
		return decimal{}
	}
	const kept = 15
	text := strconv.FormatFloat(value, 'e', kept-1, 64)
	figures, exponent, _ := strings.Cut(text, "e")
	e, _ := strconv.Atoi(exponent) // FormatFloat wrote it
	return decimal{strings.TrimRight(strings.Replace(figures, ".", "", 1), "0"), e + 1}
}

// round keeps so many digits behind the point; a half goes away from zero.
func (d *decimal) round(decimals int) {
	keep := d.exponent + decimals
	if keep >= len(d.digits) {
		return
	}
	if keep < 0 {
		*d = decimal{}
		return
	}
	up := d.digits[keep] >= '5'
	kept := []byte(d.digits[:keep])
	for i := keep - 1; up && i >= 0; i-- {
		if kept[i] != '9' {
			kept[i]++
			up = false
		} else {
			kept[i] = '0'
		}
	}
	if up {
		kept = append([]byte{'1'}, kept...)
		d.exponent++
	}
	d.digits = strings.TrimRight(string(kept), "0")
	if d.digits == "" {
		*d = decimal{}
	}
}

// split returns the digits before and behind the point, without zeros that say nothing.
func (d *decimal) split(decimals int) (whole, part string) {
	digits := d.digits
	switch {
	case d.exponent <= 0:
		part = strings.Repeat("0", min(-d.exponent, decimals)) + digits
	case d.exponent >= len(digits):
		whole = digits + strings.Repeat("0", d.exponent-len(digits))
	default:
		whole, part = digits[:d.exponent], digits[d.exponent:]
	}
	if len(digits) == 0 {
		whole, part = "", ""
	}
	return whole, part
}
