package compose_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/proof"
	"oddspool/core/questions"
)

// spoken is a design with the words "Keep dry" before a field, whose labels name their language.
func spoken(t *testing.T) *design.Design {
	d := label()
	d.Languages = &design.Languages{Field: "language", Own: "en",
		Words: []design.Translated{{Text: "Keep dry:", In: map[string]string{"de": "Trocken halten:",
			"FR": " Garder au sec :", "it": ""}}}}
	d.Elements = []design.Element{
		{ID: "note", Kind: design.Text, X: 2000, Y: 2000, Width: 70_000, Height: 6000,
			Says: []design.Piece{{Text: "Keep dry: "}, {Field: "bin"}, {Text: " · 7"}},
			Text: &design.TextLooks{Typeface: "Liberation Sans", Points: 10}},
		{ID: "code", Kind: design.Code, X: 2000, Y: 12_000, Width: 70_000, Height: 20_000,
			Says: []design.Piece{{Text: "Keep dry: "}}, Code: &design.CodeLooks{Symbology: "code128", Module: 250}},
	}
	require.Empty(t, d.Check())
	return d
}

func TestWordsStandInTheLanguageOfTheLabel(t *testing.T) {
	d := spoken(t)
	c, err := compose.New(d, []string{"bin", "language"})
	require.NoError(t, err)
	for language, want := range map[string]string{"": "Keep dry: N-1 · 7", "EN": "Keep dry: N-1 · 7",
		" de ": "Trocken halten: N-1 · 7", "fr": "Garder au sec : N-1 · 7"} {
		l := &compose.Label{}
		c.Compose(l, []string{"N-1", language})
		require.Equal(t, want, l.Parts[0].Says, language)
		require.NoError(t, l.Parts[0].Wrong)
		require.Equal(t, "Keep dry: ", l.Parts[1].Says, "codes say the same in all")
	}
	checker, err := proof.NewChecker(d, []string{"bin", "language"})
	require.NoError(t, err)
	for _, missing := range []string{"it", "nl"} {
		findings := checker.Label(nil, 3, []string{"N-1", missing})
		require.Equal(t, proof.Untranslated, findings[0].Kind)
		require.Equal(t, proof.Error, findings[0].Level)
		require.Equal(t, "“Keep dry: ” has no words in "+missing+".", findings[0].Text)
	}
	checker, err = proof.NewChecker(d, []string{"bin"})
	require.NoError(t, err)
	require.Contains(t, checker.Label(nil, 1, []string{"N-1"})[0].Text, `no field "language"`)
}

func TestARunMayNameTheLanguage(t *testing.T) {
	d := spoken(t)
	d.Questions = []questions.Question{{Name: "language", Kind: questions.Choice, Choices: []string{"en", "de"}}}
	says := func() string {
		c, err := compose.New(d, []string{"bin"})
		require.NoError(t, err)
		l := &compose.Label{}
		c.Compose(l, []string{"N-1"})
		require.NoError(t, l.Parts[0].Wrong)
		return l.Parts[0].Says
	}
	require.Equal(t, "Keep dry: N-1 · 7", says(), "nobody was asked yet")
	d.Answers = map[string]string{"language": "de"}
	require.Equal(t, "Trocken halten: N-1 · 7", says())
}

func TestLanguagesAreChecked(t *testing.T) {
	d := spoken(t)
	document, err := json.Marshal(d)
	require.NoError(t, err)
	again, err := design.Parse(document)
	require.NoError(t, err)
	require.Equal(t, d.Languages, again.Languages)
	require.Contains(t, d.UsedFields(), "language")
	d.Languages = &design.Languages{Words: []design.Translated{{Text: "a", In: map[string]string{"de": "b", "DE": "c"}},
		{Text: "a"}}}
	require.Len(t, d.Check(), 4)
	require.NotEmpty(t, design.Compare(again, d))
}
