package designs_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/gs1"
	"oddspool/core/symbology"
	"oddspool/internal/api"
)

func TestSymbologiesAreListedAndRanked(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var guides []api.Symbology
	require.Equal(t, 200, s.Do("GET", "/api/symbologies", nil, &guides))
	require.Len(t, guides, len(symbology.All()))
	for _, g := range guides {
		if g.Id == string(symbology.GS1128) {
			require.True(t, g.Gs1)
			require.Contains(t, g.Sizes, api.PurposeSize{Purpose: "logistic", Where: "on logistic units",
				LeastModule: 495, UsualModule: 495, MostModule: 940, LeastHeight: 31_750})
		}
	}
	var identifiers []api.Identifier
	require.Equal(t, 200, s.Do("GET", "/api/gs1/identifiers", nil, &identifiers))
	require.Len(t, identifiers, len(gs1.All()))
	require.Equal(t, api.Identifier{Ai: "00", Title: "SSCC", Format: "18 digits, the last a check digit"},
		identifiers[0])
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/2", nil, &d))
	var suits []api.Suit
	require.Equal(t, 200, s.Do("POST", "/api/symbologies/rank", api.RankRequest{Document: d.Document, Element: "code",
		RecordSetId: d.RecordSetId}, &suits))
	require.Equal(t, "aztec", suits[0].Id)
	require.True(t, suits[0].Fits)
	last := suits[len(suits)-1]
	require.Equal(t, 240, last.Fails)
	require.NotEmpty(t, last.Why)
	require.Contains(t, s.Problem(422, "POST", "/api/symbologies/rank",
		api.RankRequest{Document: d.Document, Element: "bin"}), `no code "bin"`)
	s.Problem(404, "POST", "/api/symbologies/rank", api.RankRequest{Document: d.Document, Element: "code",
		RecordSetId: new(int64(99))})

	// The strip tells the facts of a 2D code, and a code's findings in words.
	matrix := api.Document(strings.Replace(string(d.Document), `"code128"`, `"datamatrix"`, 1))
	var strip api.Strip
	require.Equal(t, 200, s.Do("POST", "/api/strip", api.StripRequest{Document: matrix, RecordSetId: d.RecordSetId,
		Records: []int{47}}, &strip))
	facts := strip.Labels[0].Parts[4].Code
	require.True(t, facts.Is2D)
	require.Equal(t, facts.Width, facts.Height)
	require.Equal(t, "952N0202C", facts.Reads)
	require.NotEmpty(t, facts.Widths)
	require.Empty(t, strip.Labels[0].Findings)
	ean := api.Document(strings.Replace(string(d.Document), `"code128"`, `"ean13"`, 1))
	require.Equal(t, 200, s.Do("POST", "/api/strip", api.StripRequest{Document: ean, RecordSetId: d.RecordSetId,
		Records: []int{47}}, &strip))
	require.Contains(t, strip.Labels[0].Findings[0].Text, "“N” (character 4) is not in EAN-13; it takes digits.")
}

// The strip tells of a code what it takes along its bars and across them, in any turn, what it says with
// control characters as they are, and what GS1 data lacks.
func TestTheStripTellsOfCodes(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/10", nil, &d))
	look := func(change ...string) (*api.CodeFacts, []api.Finding) {
		document := api.Document(strings.NewReplacer(change...).Replace(string(d.Document)))
		var strip api.Strip
		require.Equal(t, 200, s.Do("POST", "/api/strip",
			api.StripRequest{Document: document, RecordSetId: d.RecordSetId, Records: []int{33}}, &strip))
		parts := strip.Labels[0].Parts
		return parts[len(parts)-1].Code, strip.Labels[0].Findings
	}
	facts, findings := look()
	require.Empty(t, findings)
	require.Equal(t, "00095212345000004498", facts.Reads)
	require.Equal(t, 6, facts.ModuleDots)
	require.Equal(t, 88_000, facts.Width, "156 modules and 20 of quiet zones, half a millimetre each")
	turned, _ := look(`"id":"unit",`, `"id":"unit","turn":180,`, `"id": "unit",`, `"id": "unit", "turn": 180,`)
	require.Equal(t, facts.Width, turned.Width)
	require.Equal(t, facts.Height, turned.Height)

	control, _ := look(`"gs1-128"`, `"datamatrix"`, `"(00)"`, `"A\u001d"`)
	require.Equal(t, "A\x1d095212345000004498", control.Reads)
	_, findings = look(`"(00)"`, `"(21)"`)
	var texts []string
	for _, f := range findings {
		texts = append(texts, f.Text)
	}
	require.Contains(t, strings.Join(texts, "\n"), "(37) COUNT needs (00) with it on the label.")
	_, findings = look(`"logistic"`, `"checkout"`)
	require.Len(t, findings, 2)
	require.Equal(t, "GS1 does not use GS1-128 at the checkout.", findings[0].Text)
}

// What an element says in GS1's manner is taken apart and put together as the core reads it.
func TestGS1RowsGoBothWays(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var apart api.Gs1Rows
	require.Equal(t, 200, s.Do("POST", "/api/gs1/rows", `{"pieces": [{"text": "(10)A1\\(21\\)7"}, {"field": "berth"}],
		"fields": ["sscc", "berth"], "recordSetId": 2}`, &apart))
	require.Equal(t, map[string]string{"sscc": "00"}, apart.Suits)
	require.Len(t, apart.Rows, 1)
	require.Equal(t, []design.Piece{{Text: "A1(21)7"}, {Field: "berth"}}, apart.Rows[0].Value)
	var pieces []design.Piece
	require.Equal(t, 200, s.Do("POST", "/api/gs1/pieces", apart.Rows, &pieces))
	require.Equal(t, []design.Piece{{Text: `(10)A1\(21\)7`}, {Field: "berth"}}, pieces)
}
