package safety_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/safety/symbols"
	"oddspool/internal/api"
)

func TestSafetyIsAnswered(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var symbols []api.Symbol
	require.Equal(t, 200, s.Do("GET", "/api/symbols?search=eye+wash&family=safe+condition", nil, &symbols))
	require.Equal(t, "E011", symbols[0].Id)
	require.Equal(t, 200, s.Do("GET", "/api/symbols/W012/drawing", nil, nil))
	require.Contains(t, s.Problem(404, "GET", "/api/symbols/W999/drawing", nil), "W999")
	var label api.HazardAnswer
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", api.HazardRequest{Substance: new("67-64-1"),
		Language: new("de"), Volume: new(float32(500))}, &label))
	require.Equal(t, []string{"Aceton", "Gefahr", "GHS02", "H225"},
		[]string{label.Name, label.SignalWord, label.Pictograms[0].Code, label.Hazards[0].Code})
	require.Equal(t, float32(16), label.Size.Pictogram)
	require.Contains(t, s.Problem(422, "POST", "/api/hazards/label",
		api.HazardRequest{Mixture: new("6% 1310-73-2; 94% 50-99-7")}), "is not among")
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", api.HazardRequest{Mixture: new("6% 1310-73-2")}, &label))
	require.Equal(t, "Skin Corr. 1A; Eye Dam. 1", label.Classification)
	require.NotEmpty(t, label.Steps)
	require.Contains(t, s.Problem(422, "POST", "/api/hazards/label",
		api.HazardRequest{Classes: new("Flam. Liq. 2; Flam. Liq. 3")}), "contradict")
	require.Contains(t, s.Problem(422, "POST", "/api/hazards/label", api.HazardRequest{Substance: new("67-64-2")}),
		"check digit")
	require.Contains(t, s.Problem(422, "POST", "/api/hazards/label", api.HazardRequest{}), "No class is given")
	var substances []api.Substance
	require.Equal(t, 200, s.Do("GET", "/api/hazards/substances?search=lye", nil, &substances))
	require.Equal(t, "1310-73-2", substances[0].Cas)
	var statements []api.HazardStatement
	require.Equal(t, 200, s.Do("GET", "/api/hazards/statements?search=H225&language=fr", nil, &statements))
	require.Equal(t, "Liquide et vapeurs très inflammables.", statements[0].Text)
	require.Equal(t, []string{"Flam. Liq. 2"}, statements[0].Because)
	require.Contains(t, s.Problem(422, "GET", "/api/hazards/statements?search=H225&language=xx", nil), "en, de, fr, es")
	var groups []api.PipeGroup
	require.Equal(t, 200, s.Do("GET", "/api/pipes/groups", nil, &groups))
	require.Greater(t, len(groups), 20)
	var texts []api.SignText
	require.Equal(t, 200, s.Do("GET", "/api/signs/texts", nil, &texts))
	require.GreaterOrEqual(t, len(texts), 40)
}

func TestSafetyLabelsAreLaidOut(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/1", nil, &d))
	var laid api.LaidOut
	require.Equal(t, 200, s.Do("POST", "/api/safety/chemical", api.ChemicalRequest{Document: d.Document,
		Hazard:   api.HazardRequest{Substance: new("67-56-1")},
		Supplier: new("Brinewick Kelp Works, Quay 3, Brinewick, +44 1632 960012")}, &laid))
	require.False(t, laid.Fits, "a bin label is too small for methanol")
	require.NotNil(t, laid.Larger, "and the Stockroom has one that takes it")
	require.Equal(t, 200, s.Do("POST", "/api/safety/sign", api.SignRequest{Document: d.Document, Kind: "danger",
		Symbols: []string{"W012"}, Message: "High voltage"}, &laid))
	require.True(t, laid.Fits)
	parsed, err := design.Parse(d.Document)
	require.NoError(t, err)
	parsed.Elements, parsed.Name = nil, "Sign"
	for _, element := range laid.Elements {
		var e design.Element
		require.NoError(t, json.Unmarshal(element, &e))
		parsed.Elements = append(parsed.Elements, e)
	}
	parsed.Laid = &design.Laid{What: "sign", With: json.RawMessage(`{"kind":"danger"}`)}
	document, err := json.Marshal(parsed)
	require.NoError(t, err)
	var kept api.Design
	require.Equal(t, 200, s.Do("PUT", "/api/designs/1",
		map[string]any{"edit": d.Edit, "document": json.RawMessage(document)}, &kept))
	var uses []struct{ Name string }
	require.Equal(t, 200, s.Do("GET", "/api/symbols/W012/uses", nil, &uses))
	require.Equal(t, "Sign", uses[0].Name)
	require.Equal(t, 200, s.Do("POST", "/api/safety/pipe", api.PipeRequest{Document: d.Document, Rules: "din",
		Contents: "Natural gas", Diameter: 89}, &laid))
	require.False(t, laid.Fits)
	require.NotEmpty(t, laid.Demands)
	parsed.Demands = laid.Demands
	parsed.Demands[0].Overruled = "rule 7 of the plant"
	document, err = json.Marshal(parsed)
	require.NoError(t, err)
	require.Equal(t, 200, s.Do("POST", "/api/safety/pipe", api.PipeRequest{Document: document, Rules: "din",
		Contents: "Natural gas", Diameter: 89}, &laid))
	require.Equal(t, "rule 7 of the plant", laid.Demands[0].Overruled, "laid out again as it was, it keeps the reason")
	var set api.RecordSet
	require.Equal(t, 200, s.Do("POST", "/api/record-sets/written",
		map[string]any{"name": "Pipes", "fields": []string{"holds", "mm"},
			"records": [][]string{{"Water", "60"}, {"Natural gas", "200"}}}, &set))
	batch := map[string]any{"document": d.Document, "rules": "din", "contents": "", "diameter": 0, "recordSet": set.Id,
		"field": "holds", "diameterField": "mm"}
	require.Equal(t, 200, s.Do("POST", "/api/safety/pipe", batch, &laid))
	require.Contains(t, string(laid.Elements[1]), `"values":["Natural gas"]`, "each group has its field")
	batch["diameterField"] = "width"
	require.Contains(t, s.Problem(422, "POST", "/api/safety/pipe", batch), "no field")
	require.Contains(t, s.Problem(422, "POST", "/api/safety/pipe", api.PipeRequest{Document: d.Document, Rules: "din",
		Contents: "stuff", Diameter: 89}), "4-flammable-gases")
	require.Equal(t, 200, s.Do("POST", "/api/safety/diamond", api.DiamondRequest{Document: d.Document, Health: 1,
		Fire: 3}, &laid))
	require.True(t, laid.Fits)
	require.Contains(t, s.Problem(422, "POST", "/api/safety/diamond", api.DiamondRequest{Document: d.Document,
		Health: 7}), "0 to 4")
	require.Contains(t, s.Problem(422, "POST", "/api/safety/sign",
		api.SignRequest{Document: d.Document, Symbols: []string{"W999"}}), "W999")
}

// No label of a mixture is laid out while something about it is open, nor one without its supplier.
func TestLabelsThatLackSomethingAreNotLaidOut(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/1", nil, &d))
	thinner := api.ChemicalRequest{Document: d.Document,
		Hazard:   api.HazardRequest{Mixture: new("50% 108-88-3; 50% 56-81-5"), Form: new("vapour")},
		Supplier: new("Brinewick Kelp Works, Quay 3, Brinewick, +44 1632 960012")}
	require.Contains(t, s.Problem(422, "POST", "/api/safety/chemical", thinner), "viscosity, flash point")
	var answer api.HazardAnswer
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", thinner.Hazard, &answer))
	require.Len(t, *answer.Open, 2)
	thinner.Hazard.Known = &map[string]string{"flash point": "4", "boiling point": "111", "viscosity": "3"}
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", thinner.Hazard, &answer))
	require.Empty(t, *answer.Open)
	require.Len(t, *answer.Answered, 3)
	require.Equal(t, "Toluene", *answer.Numbers)
	require.Equal(t, "none of its own", (*answer.Limits)[0].Says)
	var laid api.LaidOut
	require.Equal(t, 200, s.Do("POST", "/api/safety/chemical", thinner, &laid))
	thinner.Ufi = new("n1qv r02n j00m wqd5")
	require.Equal(t, 200, s.Do("POST", "/api/safety/chemical", thinner, &laid))
	require.Contains(t, fmt.Sprint(laid.Demands), "UFI: N1QV-R02N-J00M-WQD5",
		"it stands on the label, and is missed when it is gone")
	thinner.Ufi = new("N1QV-R02N-J00M-WQD6")
	require.Contains(t, s.Problem(422, "POST", "/api/safety/chemical", thinner), "check character")
	thinner.Ufi = nil
	for _, supplier := range []string{"", "Brinewick Kelp Works"} {
		thinner.Supplier = &supplier
		require.Contains(t, s.Problem(422, "POST", "/api/safety/chemical", thinner),
			"with address and telephone number")
	}
	thinner.Supplier, thinner.Hazard.Public = new("Brinewick Kelp Works, Quay 3, Brinewick, +44 1632 960012"), new(true)
	require.Contains(t, s.Problem(422, "POST", "/api/safety/chemical", thinner), "P501: a blank is not filled")
	thinner.Hazard.Fill = &map[string]string{"P501": "an approved waste plant"}
	require.Contains(t, s.Problem(422, "POST", "/api/safety/chemical", thinner), "Give the quantity")
	thinner.Quantity, thinner.Languages = new("5 l"), &[]string{"de"}
	require.Contains(t, s.Problem(422, "POST", "/api/safety/chemical", thinner),
		"filled in 1 languages, and the label has 2")
	thinner.Hazard.Fill = &map[string]string{"P501": "an approved waste plant | einer zugelassenen Abfallanlage"}
	require.Equal(t, 200, s.Do("POST", "/api/safety/chemical", thinner, &laid))
	require.Contains(t, fmt.Sprint(laid.Demands), "zugelassenen Abfallanlage")
	require.NotContains(t, fmt.Sprint(laid.Demands), "|")
	thinner.Languages = &[]string{"de", "de"}
	require.Contains(t, s.Problem(422, "POST", "/api/safety/chemical", thinner), "there already")
}

// What a note of its entry asks is answered before a substance is laid out, and what a person chose of statements is
// kept with the reason.
func TestEntriesLeaveSomethingOpen(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/1", nil, &d))
	acid := api.ChemicalRequest{Document: d.Document, Hazard: api.HazardRequest{Substance: new("7697-37-2")},
		Supplier: new("Brinewick Kelp Works, Quay 3, Brinewick, +44 1632 960012")}
	require.Contains(t, s.Problem(422, "POST", "/api/safety/chemical", acid), "The entry leaves open: concentration")
	acid.Hazard.Known = &map[string]string{"concentration": "65"}
	acid.Hazard.Choices = &[]api.PrecautionChoice{{Code: "P280", Reason: "filled in a closed line"}}
	var answer api.HazardAnswer
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", acid.Hazard, &answer))
	require.Equal(t, "Nitric acid, 65 %", answer.Name)
	require.Contains(t, fmt.Sprint(answer.Answered), "concentration")
	var laid api.LaidOut
	require.Equal(t, 200, s.Do("POST", "/api/safety/chemical", acid, &laid))
	require.Contains(t, fmt.Sprintf("%s", laid.Elements), "Nitric acid, 65 %")
	require.NotContains(t, fmt.Sprintf("%s", laid.Elements), "protective gloves")
	(*acid.Hazard.Choices)[0].Reason = "  "
	require.Contains(t, s.Problem(422, "POST", "/api/safety/chemical", acid), "say why")
	var found []api.Substance
	require.Equal(t, 200, s.Do("GET", "/api/hazards/substances?search=7697-37-2", nil, &found))
	require.Equal(t, []string{"B"}, *found[0].Notes)
}

func TestRecordsGetTheirHazards(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var set api.RecordSet
	require.Equal(t, 200, s.Do("POST", "/api/record-sets/written",
		`{"name": "Drums", "fields": ["drum", "cas"], "records": [["D-1", "67-64-1"], ["D-2", "7664-93-9"]]}`, &set))
	var made api.RecordSet
	hazards := fmt.Sprintf("/api/record-sets/%d/hazards", set.Id)
	require.Contains(t, s.Problem(422, "POST", hazards, map[string]string{"field": "cas"}),
		"Answer it for all, such as concentration = 30, or as concentration of 7664-93-9 for this one.")
	require.Contains(t, s.Problem(422, "POST", hazards,
		map[string]string{"field": "cas", "known": "concentration of 7664-93-9 = 96; stabilised = yes"}),
		"no record asks for it")
	require.Equal(t, 200, s.Do("POST", hazards, map[string]string{"field": "cas", "language": "de",
		"known": "concentration of 7664-93-9 = 96"}, &made))
	require.Equal(t, "Drums, with hazards", made.Name)
	require.Contains(t, made.Fields, "pictogram 1")
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/1", nil, &d))
	label := api.ChemicalRequest{Document: d.Document, Hazard: api.HazardRequest{Substance: new("124-38-9")},
		RecordSet: &made.Id,
		Supplier:  new("Brinewick Kelp Works, Quay 3, Brinewick, +44 1632 960012")}
	var laid api.LaidOut
	require.Equal(t, 200, s.Do("POST", "/api/safety/chemical", label, &laid))
	require.Contains(t, fmt.Sprintf("%s", laid.Elements), `"field":"pictogram 2"`)
	require.NotContains(t, fmt.Sprintf("%s", laid.Elements), `"field":"pictogram 3"`)
	label.RecordSet = &set.Id
	require.Contains(t, s.Problem(422, "POST", "/api/safety/chemical", label), "were not looked up yet")
	require.Contains(t, s.Problem(422, "POST", fmt.Sprintf("/api/record-sets/%d/hazards", set.Id),
		map[string]string{"field": "drum"}), "Record 1")
}

func TestSubstancesOfThePlantsOwn(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	own := api.Substance{Cas: "50-99-7", Names: map[string]string{"en": "Kelp wash"},
		Synonyms: []string{"tank cleaner"}, Classification: "Eye Irrit. 2"}
	var made api.Substance
	require.Equal(t, 200, s.Do("PUT", "/api/hazards/substances", own, &made))
	require.Equal(t, "own", *made.Own)
	require.Empty(t, made.Names["de"], "it is told on the label that the English one stands there")
	var found []api.Substance
	require.Equal(t, 200, s.Do("GET", "/api/hazards/substances?search=tank+cl", nil, &found))
	require.Equal(t, "50-99-7", found[0].Cas)
	changed := api.Substance{Cas: "64-17-5", Names: map[string]string{"en": "Ethanol"}, Synonyms: []string{},
		Classification: "Flam. Liq. 2; Eye Irrit. 2"}
	require.Equal(t, 200, s.Do("PUT", "/api/hazards/substances", changed, &made))
	require.Equal(t, "changed", *made.Own)
	var label api.HazardAnswer
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", api.HazardRequest{Substance: new("64-17-5")}, &label))
	require.Len(t, label.Hazards, 2)
	var acetone []api.Substance
	require.Equal(t, 200, s.Do("GET", "/api/hazards/substances?search=67-64-1", nil, &acetone))
	acetone[0].Limits = new("Eye Irrit. 2: 20")
	require.Equal(t, 200, s.Do("PUT", "/api/hazards/substances", acetone[0], &made))
	require.Equal(t, []string{"EUH066"}, *made.Supplemental, "what the form does not change stays")
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", api.HazardRequest{Mixture: new("15% 67-64-1")}, &label))
	require.Empty(t, label.Hazards, "its own limit counts")
	require.Equal(t, 204, s.Do("DELETE", "/api/hazards/substances/64-17-5", nil, nil))
	require.Equal(t, 200, s.Do("POST", "/api/hazards/label", api.HazardRequest{Substance: new("64-17-5")}, &label))
	require.Len(t, label.Hazards, 1, "the book's own words count again")
	s.Problem(404, "DELETE", "/api/hazards/substances/64-17-5", nil)
	own.Cas = "50-99-8"
	require.Contains(t, s.Problem(422, "PUT", "/api/hazards/substances", own), "check digit")
}

func TestSymbolsOfOnesOwn(t *testing.T) {
	s := newSite(t)
	symbols.SetSource(func(id string) ([]byte, error) { return s.Store.SymbolDrawing(t.Context(), id) })
	t.Cleanup(func() { symbols.SetSource(nil) })
	s.SignIn()
	drawing := `<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><title>x</title><circle cx="5" cy="5" r="4" fill="#1D5FA8"/><path d="M5 2L5 8" stroke="#FFFFFF" stroke-width="1" fill="none"/></svg>`
	var made api.Symbol
	require.Equal(t, 200, s.Do("POST", "/api/symbols", map[string]string{"svg": drawing, "name": "Kelp knife",
		"means": "Wear the knife's sheath", "words": "knife sheath"}, &made))
	require.Equal(t, "own", made.Family)
	var again api.Symbol
	require.Equal(t, 200, s.Do("POST", "/api/symbols", map[string]string{"svg": drawing, "name": "Kelp knife",
		"means": "Wear the knife's sheath", "words": "knife sheath"}, &again))
	require.Equal(t, made, again)
	var found []api.Symbol
	require.Equal(t, 200, s.Do("GET", "/api/symbols?search=sheath", nil, &found))
	require.Equal(t, made.Id, found[0].Id)
	require.Equal(t, 200, s.Do("GET", "/api/symbols/"+made.Id+"/drawing", nil, nil))

	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/1", nil, &d))
	var document map[string]any
	require.NoError(t, json.Unmarshal(d.Document, &document))
	document["elements"] = []any{map[string]any{"id": "sign", "kind": "symbol", "x": 2000, "y": 2000, "width": 20_000,
		"height": 20_000, "symbol": map[string]string{"id": made.Id}}}
	var strip api.Strip
	require.Equal(t, 200, s.Do("POST", "/api/strip", map[string]any{"document": document, "records": []int{1}}, &strip))
	require.Len(t, strip.Labels[0].Findings, 1, "blue is not there")
	require.Contains(t, strip.Labels[0].Findings[0].Text, "Kelp knife needs blue")

	for says, svg := range map[string]string{
		"reach outside":    `<svg viewBox="0 0 1 1"><image href="http://example.com/x.png"/></svg>`,
		"is none of black": `<svg viewBox="0 0 10 10"><rect width="5" height="5" fill="#123456"/></svg>`,
		"no SVG":           "kelp", "no square": `<svg viewBox="0 0 10 20"><rect width="5" height="5"/></svg>`,
		"0 points": `<svg viewBox="0 0 10 10"></svg>`,
	} {
		require.Contains(t, s.Problem(422, "POST", "/api/symbols", map[string]string{"svg": svg, "name": "x"}), says)
	}
	require.Contains(t, s.Problem(422, "POST", "/api/symbols", map[string]string{"svg": drawing, "name": " "}),
		"needs a name")
	require.Equal(t, 204, s.Do("DELETE", "/api/symbols/"+made.Id, nil, nil))
	require.Equal(t, 200, s.Do("GET", "/api/symbols?search=sheath", nil, &found))
	require.Empty(t, found)
	require.Equal(t, 200, s.Do("GET", "/api/symbols/"+made.Id+"/drawing", nil, nil), "where it stands it stays")
	s.Problem(404, "DELETE", "/api/symbols/own-nosuch", nil)
}
