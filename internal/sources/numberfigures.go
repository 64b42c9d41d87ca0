package sources

import (
	"math"
	"strconv"
	"strings"
)

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
