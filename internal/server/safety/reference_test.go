package safety_test

import (
	"crypto/ed25519"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/reference"
	"oddspool/core/safety/symbols"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/server"
	"oddspool/internal/server/safety"
	"oddspool/internal/testkit"
	"oddspool/standin"
)

// referenceSite is a site that takes the packs of the stand-in that issues them.
func referenceSite(t *testing.T, address string) *site {
	key, err := reference.Key(demo.IssuingKey())
	require.NoError(t, err)
	s := newSiteWith(t, server.Options{Issuer: safety.Issuer{Keys: []ed25519.PublicKey{key}, Address: address}})
	require.NoError(t, safety.KeepShipped(t.Context(), s.Store))
	require.NoError(t, safety.KeepShipped(t.Context(), s.Store), "once more, at the next start")
	symbols.SetSource(safety.BroughtSymbols(s.Store))
	t.Cleanup(func() { symbols.SetSource(nil) })
	s.SignIn()
	return s
}

func TestANewerReferenceIsTakenIn(t *testing.T) {
	pack, err := demo.NewerPack()
	require.NoError(t, err)
	issuer := httptest.NewServer(standin.Issuer(demo.NewerVersion, pack))
	t.Cleanup(issuer.Close)
	s := referenceSite(t, issuer.URL)
	var now api.Reference
	require.Equal(t, 200, s.Do("GET", "/api/reference", nil, &now))
	require.Equal(t, []any{"2026.11.3", true, true, 1}, []any{now.Version, now.Asks, now.Takes, len(now.Packs)})

	// A sign with the symbol that the newer pack draws otherwise.
	sign := s.Keep(t, "stairs-sign.json", 1)
	var d map[string]any
	require.NoError(t, json.Unmarshal(sign.Document, &d))
	var laid api.LaidOut
	require.Equal(t, 200, s.Do("POST", "/api/safety/sign", map[string]any{"document": d, "kind": "caution",
		"symbols": []string{"W011"}, "message": "Slippery when wet"}, &laid))
	require.Equal(t, "2026.11.3", laid.Reference)
	d["reference"], d["elements"] = laid.Reference, laid.Elements
	require.Equal(t, 200, s.Do("PUT", "/api/designs/"+itoa(sign.Id), map[string]any{"document": d, "edit": sign.Edit},
		nil))

	require.Equal(t, 200, s.Do("POST", "/api/reference/check", nil, &now))
	require.Equal(t, "2026.12 is new. It is here now, and not in use until you take it.", now.Text)
	require.Equal(t, "2026.11.3", now.Version)
	require.Equal(t, 200, s.Do("POST", "/api/reference/check", nil, &now))
	require.Contains(t, now.Text, "it is here")
	var changes []api.ReferenceChange
	require.Equal(t, 200, s.Do("GET", "/api/reference/packs/2026.12/changes", nil, &changes))
	of := func(kind, id string) api.ReferenceChange {
		i := slices.IndexFunc(changes, func(c api.ReferenceChange) bool { return string(c.Kind) == kind && c.Id == id })
		require.GreaterOrEqual(t, i, 0, "%s %s", kind, id)
		return changes[i]
	}
	require.Len(t, changes, 5)
	require.Equal(t, "withdrawn", string(of("message", "Arc flash. Stay outside the line.").What))
	require.Equal(t, "added", string(of("substance", "9072-19-9").What))
	symbol := of("symbol", "W011")
	require.Len(t, symbol.Designs, 1)
	require.Equal(t, sign.Id, symbol.Designs[0].Id)
	before, after := s.Get(*symbol.DrawnBefore), s.Get(*symbol.DrawnAfter)
	require.NotEqual(t, string(before), string(after))

	find := func(what string) (found []api.Substance) {
		require.Equal(t, 200, s.Do("GET", "/api/hazards/substances?search="+what, nil, &found))
		return found
	}
	require.Empty(t, find("fucoidan"), "it is not in use yet")
	require.Equal(t, 204, s.Do("POST", "/api/reference/packs/2026.12/choose", nil, nil))
	require.Len(t, find("fucoidan"), 1)
	var on api.ReferenceOnLabel
	require.Equal(t, 200, s.Do("POST", "/api/reference/on-label", map[string]any{"document": d}, &on))
	require.Equal(t, []any{"2026.11.3", "2026.12", 1}, []any{on.Reference, on.Version, len(on.Changes)})
	require.NotEqual(t, on.Before, on.After, "the label shows the other drawing")
	require.True(t, strings.HasPrefix(on.After, "data:image/png;base64,"))
	require.Contains(t, string(on.Document), `"reference":"2026.12"`)
	// What is laid out now is of the pack in use; the sign of before stays with its own.
	delete(d, "reference")
	require.Equal(t, 200, s.Do("POST", "/api/safety/sign", map[string]any{"document": d, "kind": "caution",
		"symbols": []string{"W011"}, "message": "Wet"}, &laid))
	require.Equal(t, "2026.12", laid.Reference)

	marker := map[string]any{"document": d, "rules": "iso", "contents": "Sodium alginate", "diameter": 60}
	require.Equal(t, 200, s.Do("POST", "/api/safety/pipe", marker, &laid))

	require.Equal(t, 204, s.Do("POST", "/api/reference/packs/2026.11.3/choose", nil, nil))
	require.Contains(t, s.Problem(422, "POST", "/api/safety/pipe", marker), "not known")
	require.Empty(t, find("fucoidan"), "back to the one of before")
	require.Contains(t, s.Problem(422, "POST", "/api/reference/packs/2099.1/choose", nil), "is not here")
}

func TestTheAuthoritysTableMakesAPack(t *testing.T) {
	s := referenceSite(t, "")
	var now api.Reference
	require.Equal(t, 200, s.Upload("/api/reference/annex", "annex.xlsx", testkit.Annex(t), &now))
	require.Equal(t, "2026.11.3", now.Version, "it is not in use by that")
	require.Contains(t, now.Text, "2026.11.3.1 is made of the table")
	require.NotEmpty(t, *now.Told)
	for _, told := range *now.Told {
		require.NotEmpty(t, told.Text)
		require.Positive(t, told.Row)
	}
	var changes []api.ReferenceChange
	require.Equal(t, 200, s.Do("GET", "/api/reference/packs/2026.11.3.1/changes", nil, &changes))
	require.NotEmpty(t, changes)
	for _, c := range changes {
		require.Equal(t, "substance", string(c.Kind))
	}
	require.Equal(t, 204, s.Do("POST", "/api/reference/packs/2026.11.3.1/choose", nil, nil))
	require.Equal(t, 200, s.Upload("/api/reference/annex", "annex.xlsx", testkit.Annex(t), &now))
	require.Contains(t, now.Text, "2026.11.3.2 is made", "each has a version of its own")
	var told api.Problem
	require.Equal(t, 422, s.Upload("/api/reference/annex", "bins.csv", []byte("bin,contents\nN-01,Dulse\n"), &told))
	require.Contains(t, told.Text, "this is not the table of annex VI")
}

func TestSubstancesInAState(t *testing.T) {
	s := referenceSite(t, "")
	var found []api.Substance
	require.Equal(t, 200, s.Do("GET", "/api/hazards/substances?search=hydrochloric", nil, &found))
	i := slices.IndexFunc(found, func(f api.Substance) bool {
		return f.State != nil &&
			*f.State == "in water, from 25 %"
	})
	require.GreaterOrEqual(t, i, 0)
	require.Equal(t, []string{"7647-01-0 in water, from 25 %", "1789", "annex VI"},
		[]string{*found[i].Id, *found[i].Un, *found[i].Source})
	var label api.HazardAnswer
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", map[string]any{"substance": *found[i].Id}, &label))
	require.Contains(t, label.Classification, "Skin Corr. 1B")
	require.NotContains(t, label.Classification, "Press. Gas", "the gas is another entry of the number")
	require.Contains(t, (*label.Notes)[0], "goes first")
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", map[string]any{"substance": "124-38-9 solid (dry ice)"},
		&label))
	require.Contains(t, (*label.Notes)[0], "check it against section 2 of the safety data sheet")

	// What a plant says of a solution leaves the gas as it is.
	own := found[i]
	own.Classification = "Skin Corr. 1A"
	require.Equal(t, 200, s.Do("PUT", "/api/hazards/substances", own, &own))
	require.Equal(t, "changed", *own.Own)
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", map[string]any{"substance": "7647-01-0"}, &label))
	require.Contains(t, label.Classification, "Press. Gas")
	require.Equal(t, 204, s.Do("DELETE", "/api/hazards/substances/"+url.PathEscape(*own.Id), nil, nil))
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", map[string]any{"substance": *own.Id}, &label))
	require.Contains(t, label.Classification, "Skin Corr. 1B")
}

func TestPacksThatAreRefused(t *testing.T) {
	issuer := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/latest.json" {
			_, _ = w.Write([]byte(`{"version": "2026.12", "file": "2026.12.zip"}`))
			return
		}
		_, _ = w.Write([]byte("kelp"))
	}))
	s := referenceSite(t, issuer.URL)
	require.Contains(t, s.Problem(422, "POST", "/api/reference/check", nil), "cannot be read as a zip")
	issuer.Close()
	require.Contains(t, s.Problem(502, "POST", "/api/reference/check", nil), "does not answer")
	var told api.Problem
	require.Equal(t, 422, s.Upload("/api/reference/packs", "pack.zip", []byte("kelp"), &told))
	require.Contains(t, told.Text, "cannot be read as a zip")
	pack, err := demo.NewerPack()
	require.NoError(t, err)
	var now api.Reference
	require.Equal(t, 200, s.Upload("/api/reference/packs", "pack.zip", pack, &now))
	require.Contains(t, now.Text, "2026.12 is here now")

	none := newSite(t)
	none.SignIn()
	require.Contains(t, none.Problem(422, "POST", "/api/reference/check", nil),
		"It is not known where reference packs are issued")
	require.Equal(t, 422, none.Upload("/api/reference/packs", "pack.zip", pack, &told))
	require.Contains(t, told.Text, "No key is known")
}

func TestMessagesOfOnesOwn(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var made api.SignText
	require.Equal(t, 200, s.Do("POST", "/api/signs/texts",
		map[string]any{"kind": "caution", "symbols": []string{"W011"}, "message": " Kelp on the stairs. "}, &made))
	require.Equal(t, "Kelp on the stairs.", made.Message)
	var all []api.SignText
	require.Equal(t, 200, s.Do("GET", "/api/signs/texts", nil, &all))
	require.Equal(t, made, all[0])
	require.Greater(t, len(all), 40)
	require.Contains(t, s.Problem(422, "POST", "/api/signs/texts",
		map[string]any{"kind": "shout", "symbols": []string{}, "message": "x"}), "no signal word")
	require.Contains(t, s.Problem(422, "POST", "/api/signs/texts",
		map[string]any{"kind": "", "symbols": []string{"W999"}, "message": "x"}), "no symbol")
	require.Contains(t, s.Problem(422, "POST", "/api/signs/texts", map[string]any{"kind": "", "symbols": []string{},
		"message": "  "}), "Say what the sign says")
	require.Equal(t, 204, s.Do("DELETE", "/api/signs/texts/"+itoa(*made.Id), nil, nil))
	var left []api.SignText
	require.Equal(t, 200, s.Do("GET", "/api/signs/texts", nil, &left))
	require.Len(t, left, len(all)-1)
}

func itoa(n int64) string { return strconv.FormatInt(n, 10) }
