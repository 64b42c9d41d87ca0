// Package series counts: numbers in digits of any alphabet, upwards, downwards or in an order that nobody can guess,
// with what stands before and behind them and a check character.
package series

import (
	"iter"
	"math/big"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"oddspool/core/check"
)

// Limits of a series.
const (
	MostNumbers = 1_000_000 // that are given at once
	mostDigits  = 60
	mostLetters = 200 // of what stands before and behind
)

// The alphabets that have a name, in the order of their values.
var alphabets = []struct{ name, letters string }{
	{"decimal", "0123456789"},
	{"hex", "0123456789ABCDEF"},
	{"base36", "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ"},
	{"base34", "0123456789ABCDEFGHJKLMNPQRSTUVWXYZ"}, // without I and O
	{"letters", "ABCDEFGHIJKLMNOPQRSTUVWXYZ"},
	{"letters24", "ABCDEFGHJKLMNPQRSTUVWXYZ"}, // without I and O
	{"octal", "01234567"},
	{"binary", "01"},
}

// Alphabets returns the names of the alphabets that have one.
func Alphabets() (names []string) {
	for _, a := range alphabets {
		names = append(names, a.name)
	}
	return names
}

// A Spec says how a series counts.
type Spec struct {
	Start string `json:"start"`
	Step  int64  `json:"step"`            // below zero: downwards
	End   string `json:"end,omitempty"`   // the last number that may be given
	Count int    `json:"count,omitempty"` // how many; 0: up to End
	// digits that each number has; 0: as many as Start, and more where they are needed
	Width  int    `json:"width,omitempty"`
	Digits string `json:"digits,omitempty"`
	// Digits is the name of an alphabet, the letters of one's own in their order, or several with commas between for
	// places of their own, such as letters*2,decimal*4; empty: decimal.

	Prefix string `json:"prefix,omitempty"`
	Suffix string `json:"suffix,omitempty"`
	// the name of a rule of package check; its character stands behind the digits
	Check  string `json:"check,omitempty"`
	Random string `json:"random,omitempty"` // a key: the numbers come in an order of its own, none twice
}

// A Series gives its numbers. It is safe for concurrent use.
type Series struct {
	spec   Spec
	places [][]rune // the letters of each place, the first one first; one alone serves all places
	rule   check.Rule
	start  *big.Int
	end    *big.Int // nil: none
	step   *big.Int
	width  int      // least digits
	size   *big.Int // how many different numbers the digits can say; nil: there is no end to them
	mixer  *mixer
}

// New prepares a series. Its error is a *refusal.Error.
func New(spec Spec) (*Series, error) {
	s := &Series{spec: spec, step: big.NewInt(spec.Step), width: spec.Width}
	switch {
	case spec.Step == 0:
		return nil, stepZero.With()
	case spec.Count < 0 || spec.Count > MostNumbers:
		return nil, tooManyAtOnce.With(spec.Count, MostNumbers)
	case spec.Width < 0 || spec.Width > mostDigits:
		return nil, tooWide.With(spec.Width, mostDigits)
	case utf8.RuneCountInString(spec.Prefix)+utf8.RuneCountInString(spec.Suffix) > mostLetters:
		return nil, affixesTooLong.With(mostLetters)
	}
	var err error
	if s.places, err = placesOf(spec.Digits); err != nil {
		return nil, err
	}
	if len(s.places) > 1 {
		if spec.Width != 0 && spec.Width != len(s.places) {
			return nil, twoWidths.With(len(s.places), spec.Width)
		}
		s.width = len(s.places)
	}
	if spec.Check != "" {
		var known bool
		if s.rule, known = check.Find(spec.Check); !known {
			var names []string
			for _, rule := range check.Rules() {
				names = append(names, rule.Name)
			}
			return nil, unknownCheckRule.With(spec.Check, strings.Join(names, ", "))
		}
	}
	if spec.Start == "" {
		s.spec.Start = string(s.letters(0)[0])
	}
	if s.start, err = s.value(s.spec.Start, "start"); err != nil {
		return nil, err
	}
	if s.fixed() {
		s.size = big.NewInt(1)
		for i := range s.width {
			s.size.Mul(s.size, big.NewInt(int64(len(s.letters(i)))))
		}
	} else {
		s.width = utf8.RuneCountInString(s.spec.Start)
	}
	if spec.End != "" {
		if s.end, err = s.value(spec.End, "end"); err != nil {
			return nil, err
		}
		if s.end.Cmp(s.start)*s.step.Sign() < 0 {
			return nil, endOutOfReach.With(s.spec.Start, spec.Step, spec.End)
		}
	}
	if spec.Random != "" {
		if s.size == nil { // as many digits as the start has
			s.size = new(big.Int).Exp(big.NewInt(int64(len(s.letters(0)))), big.NewInt(int64(s.width)), nil)
		}
		s.mixer = newMixer(spec.Random, s.size)
	}
	return s, nil
}

// fixed tells whether all numbers have the same digits.
func (s *Series) fixed() bool { return s.spec.Width > 0 || len(s.places) > 1 }

// letters returns the letters of a place, from 0.
func (s *Series) letters(place int) []rune {
	if len(s.places) == 1 {
		return s.places[0]
	}
	return s.places[place]
}

// placesOf reads the digits of a series.
func placesOf(text string) (places [][]rune, err error) {
	if text == "" {
		text = "decimal"
	}
	if named := alphabetNamed(text); named != nil {
		return [][]rune{named}, nil
	}
	parts := strings.Split(text, ",")
	mixed := slices.ContainsFunc(parts, func(part string) bool {
		name, _, _ := strings.Cut(part, "*")
		return alphabetNamed(name) != nil
	})
	if !mixed {
		letters := []rune(text)
		if err := distinct(letters); err != nil {
			return nil, err
		}
		return [][]rune{letters}, nil
	}
	for _, part := range parts {
		name, times, repeated := strings.Cut(strings.TrimSpace(part), "*")
		letters := alphabetNamed(name)
		if letters == nil {
			letters = []rune(name)
			if err := distinct(letters); err != nil {
				return nil, err
			}
		}
		n := 1
		if repeated {
			if n, err = strconv.Atoi(times); err != nil || n < 1 || n > mostDigits {
				return nil, badPlaces.With(times)
			}
		}
		for range n {
			places = append(places, letters)
		}
	}
	if len(places) > mostDigits {
		return nil, tooManyDigits.With(len(places), mostDigits)
	}
	return places, nil
}

func alphabetNamed(name string) []rune {
	for _, a := range alphabets {
		if a.name == name {
			return []rune(a.letters)
		}
	}
	return nil
}

func distinct(letters []rune) error {
	if len(letters) < 2 {
		return alphabetTooShort.With(string(letters), len(letters), strings.Join(Alphabets(), ", "))
	}
	for i, letter := range letters {
		if slices.Contains(letters[:i], letter) {
			return letterTwice.With(string(letters), letter)
		}
	}
	return nil
}

// value returns what a number says.
func (s *Series) value(text, what string) (*big.Int, error) {
	digits := []rune(text)
	if len(digits) > mostDigits {
		return nil, numberTooLong.With(what, text, len(digits), mostDigits)
	}
	if s.fixed() && len(digits) > s.width {
		return nil, numberWrongWidth.With(what, text, len(digits), s.width)
	}
	total := new(big.Int)
	offset := 0
	if len(s.places) > 1 {
		offset = s.width - len(digits)
	}
	for i, digit := range digits {
		letters := s.letters(offset + i)
		at := slices.Index(letters, digit)
		if at < 0 {
			return nil, digitNotInAlphabet.With(what, text, digit, i+1, string(letters))
		}
		total.Mul(total, big.NewInt(int64(len(letters)))).Add(total, big.NewInt(int64(at)))
	}
	return total, nil
}

// digits writes a value.
func (s *Series) digits(value *big.Int) string {
	var out []rune
	rest, digit := new(big.Int).Set(value), new(big.Int)
	for place := s.width - 1; ; place-- {
		if place < 0 && rest.Sign() == 0 {
			break
		}
		letters := s.letters(max(place, 0))
		rest.QuoRem(rest, big.NewInt(int64(len(letters))), digit)
		out = append(out, letters[digit.Int64()])
	}
	slices.Reverse(out)
	return string(out)
}

// At returns the i-th number, from 0. Its error is a *refusal.Error: there is no such number.
func (s *Series) At(i int) (string, error) {
	value := new(big.Int).Mul(s.step, big.NewInt(int64(i)))
	value.Add(value, s.start)
	switch {
	case value.Sign() < 0:
		return "", endsAtZero.With(s.spec.Start, s.spec.Step, i+1)
	case s.end != nil && value.Cmp(s.end)*s.step.Sign() > 0:
		return "", ended.With(s.spec.End, i+1)
	case s.size != nil && value.Cmp(s.size) >= 0:
		return "", digitsUsedUp.With(s.width, i+1, s.digits(new(big.Int).Sub(s.size, big.NewInt(1))))
	}
	if s.mixer != nil {
		value = s.mixer.mix(value)
	}
	return s.finish(s.digits(value))
}

// finish puts the check character and what stands before and behind to a number's digits. The character is that of
// prefix and digits where the rule knows all of the prefix, else of the digits.
func (s *Series) finish(digits string) (string, error) {
	character := ""
	if s.spec.Check != "" {
		data := digits
		if s.spec.Prefix != "" && !strings.ContainsFunc(s.spec.Prefix,
			func(r rune) bool { return !strings.ContainsRune(s.rule.Letters, r) }) {
			data = s.spec.Prefix + digits
		}
		var err error
		if character, err = s.rule.Of(data); err != nil {
			return "", noCheckCharacter.With(data, s.rule.Words, err)
		}
	}
	return s.spec.Prefix + digits + character + s.spec.Suffix, nil
}

// Place returns which number of the series one is, from 0: At of it is that number. Its error is a *refusal.Error.
func (s *Series) Place(number string) (int, error) {
	if s.mixer != nil {
		return 0, orderNotComputable.With()
	}
	none := notOfSeries.With(number, s.spec.Prefix+s.spec.Start+s.spec.Suffix)
	digits, begins := strings.CutPrefix(number, s.spec.Prefix)
	digits, ends := strings.CutSuffix(digits, s.spec.Suffix)
	if s.spec.Check != "" {
		letters := []rune(digits)
		digits = string(letters[:max(len(letters)-s.rule.Length, 0)])
	}
	if !begins || !ends || digits == "" {
		return 0, none
	}
	value, err := s.value(digits, "number")
	if err != nil {
		return 0, none
	}
	place, rest := new(big.Int).QuoRem(value.Sub(value, s.start), s.step, new(big.Int))
	const most = 1 << 30
	if rest.Sign() != 0 || place.Sign() < 0 || place.Cmp(big.NewInt(most)) > 0 {
		return 0, none
	}
	// its check character, and how many digits it has
	if is, err := s.At(int(place.Int64())); err != nil || is != number {
		return 0, none
	}
	return int(place.Int64()), nil
}

// Len returns how many numbers the series gives: its count, or as many as there are up to its end; no more than
// MostNumbers are told.
func (s *Series) Len() int {
	if s.spec.Count > 0 || s.end == nil {
		return s.spec.Count
	}
	distance := new(big.Int).Sub(s.end, s.start)
	distance.Quo(distance, s.step).Add(distance, big.NewInt(1))
	if distance.Cmp(big.NewInt(MostNumbers)) > 0 {
		return MostNumbers
	}
	return int(distance.Int64())
}

// All gives the numbers of the series in their order. An error ends them.
func (s *Series) All() iter.Seq2[string, error] {
	return func(yield func(string, error) bool) {
		for i := range s.Len() {
			number, err := s.At(i)
			if !yield(number, err) || err != nil {
				return
			}
		}
	}
}
