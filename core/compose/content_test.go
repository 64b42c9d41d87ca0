package compose_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/formula"
	"oddspool/core/questions"
)

func said(piece design.Piece) design.Element { return text("words", 2*mm, 2*mm, 60*mm, 6*mm, piece) }

// says returns what the first element says for a record, and what is wrong with it.
func says(t *testing.T, d *design.Design, fields, record []string) (string, error) {
	require.Empty(t, d.Check())
	c, err := compose.New(d, fields)
	require.NoError(t, err)
	var label compose.Label
	c.Clone().Compose(&label, record)
	return label.Parts[0].Says, label.Parts[0].Wrong
}

func TestPiecesAreComputedAndChanged(t *testing.T) {
	fields, record := []string{"contents", "lot", "qty"}, []string{"dulse", "417", "3"}
	for _, test := range []struct {
		pieces []design.Piece
		want   string
	}{
		{[]design.Piece{{Formula: `upper(contents) + " " + qty * 2`}}, "DULSE 6"},
		{[]design.Piece{{Text: "LOT "},
			{Field: "lot", Changes: []formula.Change{{Do: "pad", With: []string{"6", "0"}}}}}, "LOT 000417"},
		{[]design.Piece{{Text: "packed ", Changes: []formula.Change{{Do: "upper"}}},
			{Formula: `formatDate(today(), "d.M.yyyy")`}}, "PACKED 26.11.2026"},
		{[]design.Piece{{Element: "other"}, {Text: "!"}}, "dulse, dried!"},
		{[]design.Piece{{Field: "batch"}, {Text: "/"}, {Formula: `batch + lot`}}, "‹batch›/‹batch›417"},
		{[]design.Piece{{Field: "shed"}}, "North"},
	} {
		d := label(text("words", 2*mm, 2*mm, 60*mm, 6*mm, test.pieces...))
		other := text("other", 2*mm, 10*mm, 60*mm, 6*mm, design.Piece{Field: "contents"}, design.Piece{Text: ", dried"})
		d.Elements = append(d.Elements, other)
		d.Questions = []questions.Question{{Name: "batch", Kind: questions.Text},
			{Name: "shed", Kind: questions.Choice, Choices: []string{"North"}, Default: "North"}}
		d.Setting = &formula.Setting{Now: time.Date(2026, 11, 26, 9, 30, 0, 0, time.UTC)}
		got, wrong := says(t, d, fields, record)
		require.NoError(t, wrong)
		require.Equal(t, test.want, got)
		require.Len(t, func() []string {
			c, err := compose.New(d, fields)
			require.NoError(t, err)
			return c.Pieces(0, record)
		}(), len(test.pieces))
		// With the answers given, they are fields like others.
		got, _ = says(t, d, append(fields, "batch", "shed"), append(record, "26K104", "South"))
		require.NotContains(t, got, "‹")
	}
}

// What cannot be computed is told, and nothing half is said.
func TestPiecesThatGiveNothingAreTold(t *testing.T) {
	for want, piece := range map[string]design.Piece{
		"Nothing can be divided by zero": {Formula: "1 / qty"},
		"There is no field “nosuch”":     {Formula: "nosuch + 1"},
		"“many” is no number": {Field: "contents",
			Changes: []formula.Change{{Do: "round", With: []string{"1"}}}},
		"whose words stand here, is gone": {Element: "gone"},
	} {
		_, wrong := says(t, label(said(piece)), []string{"contents", "qty"}, []string{"many", "0"})
		require.ErrorContains(t, wrong, want)
	}
	d := label(said(design.Piece{Element: "words"}))
	require.NotEmpty(t, d.Check(), "it says itself")
	d = label(said(design.Piece{Field: "a", Changes: []formula.Change{{Do: "nosuch"}}}))
	require.NotEmpty(t, d.Check())
	d.Elements = nil
	d.Questions = []questions.Question{{Name: "a", Kind: questions.Text}, {Name: "a", Kind: questions.Choice}}
	require.Len(t, d.Check(), 2)
	d = label(said(design.Piece{Formula: `qty * price + field("net weight")`}))
	require.Equal(t, []string{"qty", "price", "net weight"}, d.UsedFields())
}
