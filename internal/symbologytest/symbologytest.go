// Package symbologytest tests any symbology: what it says of itself, what it encodes and refuses, and what can be
// chosen about it.
package symbologytest

import (
	"math/rand/v2"
	"strconv"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oddspool/core/symbology"
)

// Run holds a symbology against every rule that all of them have. Texts are tried beside its example; of random ones
// the seed is named where one fails.
func Run(t *testing.T, kind *symbology.Kind, texts ...string) {
	t.Run("is described", func(t *testing.T) { described(t, kind) })
	t.Run("says its example", func(t *testing.T) {
		for _, text := range append([]string{kind.Example}, texts...) {
			require.NoError(t, new(symbology.Symbol).EncodeAs(kind, text, symbology.Options{}), text)
			says(t, kind, text, symbology.Options{})
		}
	})
	t.Run("refuses nothing and too much", func(t *testing.T) {
		for _, text := range []string{"", strings.Repeat(kind.Example, 8000), strings.Repeat("9", 8001)} {
			refused(t, kind, text, symbology.Options{})
		}
	})
	t.Run("has its options alone", func(t *testing.T) { options(t, kind) })
	t.Run("says any text or refuses it", func(t *testing.T) { anyText(t, kind) })
}

func described(t *testing.T, kind *symbology.Kind) {
	for _, text := range []string{string(kind.ID), kind.Name, kind.Standard, kind.Identifier, kind.Holds, kind.Most,
		kind.Readers, kind.Uses, kind.Example} {
		require.NotEmpty(t, text)
	}
	require.Regexp(t, `^\][A-Za-z][0-9A-Z]$`, kind.Identifier, "ISO/IEC 15424")
	require.Positive(t, kind.Least)
	require.GreaterOrEqual(t, kind.Quiet, 0)
	if kind.MostModule > 0 {
		require.Greater(t, kind.MostModule, kind.Least)
	}
	require.Equal(t, kind.Is2D, kind.Modules != nil, "it is decoded from its modules")
	require.Equal(t, kind.Is2D, kind.Widths == nil, "it is decoded from its widths")
	seen := map[string]bool{}
	for _, option := range kind.Options {
		require.False(t, seen[option.ID], option.ID)
		seen[option.ID] = true
		require.NotEmpty(t, option.Name)
		require.NotEmpty(t, option.Unset)
		known, _ := new(symbology.Options).Set(option.ID, "1")
		require.True(t, known, "%s is no member of Options", option.ID)
	}
}

// says encodes a text and reads it again; what cannot be encoded is refused in words.
func says(t *testing.T, kind *symbology.Kind, text string, o symbology.Options) {
	var s symbology.Symbol
	if err := s.EncodeAs(kind, text, o); err != nil {
		refusal(t, kind, text, &s, err)
		return
	}
	require.Equal(t, kind.Is2D, s.Is2D())
	if !kind.Is2D {
		require.Equal(t, 1, len(s.Widths)%2, "it begins and ends with a bar")
		require.NotContains(t, s.Widths, uint8(0))
	}
	require.NotEmpty(t, s.Text)
	require.Positive(t, s.Modules())
	require.GreaterOrEqual(t, s.QuietBefore, 0)
	message, err := kind.Read(&s)
	require.NoError(t, err, "%s %q %+v", kind.ID, text, o)
	want := s.Reads
	if _, addOn, has := strings.Cut(s.Text, " "); has && kind.AddOn {
		want += " " + addOn
	}
	require.True(t, message.Says(want), "%s %+v: %q is read as %q", kind.ID, o, want, message.Text)

	again := s.Clone()
	require.NoError(t, s.EncodeAs(kind, text, o))
	again2 := s.Clone()
	require.Equal(t, again, again2, "the same text gives the same symbol")
}

func refused(t *testing.T, kind *symbology.Kind, text string, o symbology.Options) {
	var s symbology.Symbol
	err := s.EncodeAs(kind, text, o)
	require.Error(t, err, "%s takes %.40q %+v", kind.ID, text, o)
	refusal(t, kind, text, &s, err)
}

// refusal holds a refusal against the rule: a sentence that says which symbology and where, and nothing is left.
func refusal(t *testing.T, kind *symbology.Kind, text string, s *symbology.Symbol, err error) {
	var data *symbology.DataError
	require.ErrorAs(t, err, &data)
	require.Equal(t, kind.Name, data.Symbology, data.Reason)
	require.Regexp(t, `(?s)^\S.*[.?]$`, data.Reason)
	require.LessOrEqual(t, data.Position, utf8.RuneCountInString(text)+1)
	require.Zero(t, s.Modules())
}

// options chooses each value of each option, values beside them, and options of other symbologies.
func options(t *testing.T, kind *symbology.Kind) {
	chosen := func(id, value string) symbology.Options {
		var o symbology.Options
		_, err := o.Set(id, value)
		require.NoError(t, err)
		return o
	}
	for _, option := range kind.Options {
		changes(t, kind, option)
		switch option.Kind() {
		case "choice":
			for _, choice := range option.Choices {
				says(t, kind, kind.Example, chosen(option.ID, choice.Value))
			}
			refused(t, kind, kind.Example, chosen(option.ID, "no such"))
		case "number", "percent":
			says(t, kind, kind.Example, chosen(option.ID, number(option.Least)))
			says(t, kind, kind.Example, chosen(option.ID, number(option.Most)))
			refused(t, kind, kind.Example, chosen(option.ID, number(option.Least-option.Step-1)))
			refused(t, kind, kind.Example, chosen(option.ID, number(option.Most+option.Step)))
		case "switch":
			says(t, kind, kind.Example, chosen(option.ID, "true"))
		}
	}
	for id, value := range map[string]string{"check": "true", "ratio": "2.5", "level": "M", "version": "2",
		"form":  "full",
		"shape": "square", "size": "24x24", "columns": "2", "host": "https://id.brinewick.example", "letters": "told",
		"checkDigit": "given", "checkRule": "mod11"} {
		if !kind.Has(id) {
			refused(t, kind, kind.Example, chosen(id, value))
		}
	}
}

// changes tells whether an option does anything to the example: letters and check digits depend on what is said.
func changes(t *testing.T, kind *symbology.Kind, option symbology.Option) {
	values := []string{"true", number(option.Least), number(option.Most), "https://id.brinewick.example/kelp"}
	for _, choice := range option.Choices {
		values = append(values, choice.Value)
	}
	var plain symbology.Symbol
	require.NoError(t, plain.EncodeAs(kind, kind.Example, symbology.Options{}))
	changed := option.ID == "letters" || option.ID == "checkDigit"
	for _, value := range values {
		var o symbology.Options
		var s symbology.Symbol
		if _, err := o.Set(option.ID, value); err == nil {
			err = s.EncodeAs(kind, kind.Example, o)
			changed = changed || err != nil || !assert.ObjectsAreEqual(plain, s)
		}
	}
	require.True(t, changed, "%s does nothing", option.ID)
}

func number(n float64) string { return strconv.FormatFloat(n, 'g', 6, 64) }

// anyText tries what people and machines type, changed at random.
func anyText(t *testing.T, kind *symbology.Kind) {
	seed := rand.Uint64()
	t.Logf("seed %d", seed)
	random := rand.New(rand.NewPCG(seed, 0))
	letters := []rune("0123456789ABCxyz-. $/+%*:()\x00\x1d\x1eÅé½µ°€海苔\U0001f41f" + kind.Example)
	for range 150 {
		text := []rune(kind.Example)
		for range random.IntN(4) {
			at, letter := random.IntN(len(text)+1), letters[random.IntN(len(letters))]
			if at == len(text) || random.IntN(2) == 0 {
				text = append(text[:at:at], append([]rune{letter}, text[at:]...)...)
			} else {
				text[at] = letter
			}
		}
		if at := random.IntN(len(text) + 1); random.IntN(3) == 0 {
			text = text[at:]
		}
		says(t, kind, string(text), symbology.Options{})
	}
	for _, text := range []string{"\xff\xfe", "\xffA", "A\x00B", strings.Repeat("7", 30), "http://x"} {
		says(t, kind, text, symbology.Options{})
	}
}
