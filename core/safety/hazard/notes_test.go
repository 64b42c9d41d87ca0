package hazard_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/refusal"
	"oddspool/core/safety/hazard"
)

// What notes of annex VI (CLP, annex VI, 1.1.3.1) ask of a substance, and what each answer does.
func TestNotesOfSubstances(t *testing.T) {
	book := hazard.Shipped()
	for _, c := range []struct {
		id       string
		known    map[string]string
		name     string
		open     []string
		has, not []string // H statements
		says     []string // P statements
	}{
		{"7697-37-2", nil, "Nitric acid", []string{"concentration"}, []string{"H314"}, nil, nil},
		{"7697-37-2", map[string]string{"concentration": "65"}, "Nitric acid, 65 %", nil, []string{"H314"}, nil, nil},
		{"7664-93-9 in water, 15 to 51 %", map[string]string{"concentration": "37"}, "Battery fluid, acid, 37 %", nil,
			[]string{"H314"}, nil, nil},
		{"50-00-0", map[string]string{"concentration": "37,5", "stabilised": "no"},
			"Formaldehyde, 37.5 %, non-stabilised", nil, []string{"H350"}, nil, nil},
		{"107-13-1", nil, "Acrylonitrile", []string{"stabilised"}, []string{"H350"}, nil, nil},
		{"107-13-1", map[string]string{"stabilised": "yes"}, "Acrylonitrile", nil, []string{"H350"}, nil, nil},
		{"107-13-1", map[string]string{"stabilised of 107-13-1": "no"}, "Acrylonitrile, non-stabilised", nil, nil, nil,
			nil},
		{"1330-20-7", map[string]string{"isomer": "mixture of isomers"}, "Xylene, mixture of isomers", nil,
			[]string{"H226"}, nil, nil},
		{"64742-95-6", nil, "", []string{"benzene"}, []string{"H340", "H350"}, nil, nil},
		{"64742-95-6", map[string]string{"benzene": "yes"}, "", nil, []string{"H340", "H350"}, nil, nil},
		{"64742-95-6", map[string]string{"benzene": "no"}, "", nil, []string{"H304"}, []string{"H340", "H350"},
			[]string{"P260", "P262", "P301+P310", "P331"}},
		{"68476-85-7", map[string]string{"butadiene": "no"}, "", nil, []string{"H220", "H280"},
			[]string{"H340", "H350"}, []string{"P210", "P403"}},
		{"68476-85-7", nil, "", []string{"butadiene"}, []string{"H350"}, nil, nil},
		{"64742-54-7", map[string]string{"DMSO extract": "no"}, "", nil, nil, []string{"H350"}, nil},
		{"8001-58-9", nil, "", []string{"benzo[a]pyrene"}, []string{"H350"}, nil, nil},
		{"7440-67-7", map[string]string{"physical hazards": "none"}, "", nil, nil, []string{"H250", "H260"}, nil},
		{"7440-67-7", map[string]string{"physical hazards": "as the entry"}, "", nil, []string{"H250", "H260"}, nil,
			nil},
		{"67-64-1", nil, "Acetone", nil, []string{"H225"}, nil, nil},
	} {
		s, err := book.Substance(c.id)
		require.NoError(t, err, c.id)
		l, err := book.SubstanceLabel(s, hazard.Wanted{Known: c.known})
		require.NoError(t, err, c.id)
		if c.name != "" {
			require.Equal(t, c.name, l.Name)
		}
		var open []string
		for _, o := range l.Open {
			open = append(open, o.ID)
			require.Contains(t, o.Clause, "annex VI, 1.1.3.1", c.id)
		}
		require.Equal(t, c.open, open, c.id)
		hazards, precautions := codeList(l.Hazards), codeList(l.Precautions)
		for _, code := range c.has {
			require.Contains(t, hazards, code, c.id)
		}
		for _, code := range c.not {
			require.NotContains(t, hazards, code, c.id)
		}
		for _, code := range c.says {
			require.True(t, slices.ContainsFunc(precautions, func(said string) bool {
				return said == code ||
					code == "P403" && said == "P410+P403"
			}), "%s: %s of %v", c.id, code, precautions)
		}
	}
}

func codeList(list []hazard.Reasoned) (codes []string) {
	for _, r := range list {
		codes = append(codes, r.Code)
	}
	return codes
}

func TestNotesAreAskedOfMixturesWhereTheyDecide(t *testing.T) {
	book := hazard.Shipped()
	mix := func(text string, known map[string]string) *hazard.Mixed {
		parts, err := book.ParseMixture(text, hazard.CLP, hazard.Vapour)
		require.NoError(t, err)
		mixed, err := book.Mix(&hazard.Mixture{Parts: parts, Form: hazard.Vapour, Known: known}, hazard.CLP)
		require.NoError(t, err)
		return mixed
	}
	asks := func(m *hazard.Mixed, id string) bool {
		return slices.ContainsFunc(m.Open, func(o hazard.Open) bool { return o.ID == id })
	}
	const mixture = "40% 64742-95-6; 20% 64742-48-9"
	open := mix(mixture, nil)
	require.True(t, asks(open, "benzene of 64742-95-6") && asks(open, "benzene of 64742-48-9"))
	require.Contains(t, open.Classification, "Carc. 1B") // until it is known, the hazard stands
	one := mix(mixture, map[string]string{"benzene of 64742-95-6": "no"})
	require.Contains(t, one.Classification, "Carc. 1B")
	all := mix(mixture, map[string]string{"benzene": "no"})
	require.NotContains(t, all.Classification, "Carc. 1B")
	require.False(t, asks(all, "benzene of 64742-48-9"))
	require.NotContains(t, all.Notes, "“benzene” was answered, and decides nothing about this mixture.")
	require.False(t, asks(mix("10% 107-13-1", nil), "stabilised of 107-13-1"), "the name of a mixture is its own")
}

func TestNotesThatAreNotUnderstoodAreTold(t *testing.T) {
	book, err := hazard.Shipped().With([]hazard.Substance{{CAS: "67-64-1", Names: map[string]string{"en": "Acetone"},
		Classification: "Flam. Liq. 2"}})
	require.NoError(t, err)
	s, err := book.Substance("67-64-1")
	require.NoError(t, err)
	s.Notes = []string{"X"}
	l, err := book.SubstanceLabel(s, hazard.Wanted{})
	require.NoError(t, err)
	require.Contains(t, l.Notes[0], "note X of annex VI is not worked out here")

	acid, err := hazard.Shipped().Substance("64-19-7")
	require.NoError(t, err)
	l, err = hazard.Shipped().SubstanceLabel(acid, hazard.Wanted{Known: map[string]string{"concentration": "8"}})
	require.NoError(t, err)
	require.Contains(t, l.Notes[0], "lay it out as a mixture: 8% 64-19-7")
	_, err = hazard.Shipped().SubstanceLabel(acid, hazard.Wanted{Known: map[string]string{"concentration": "strong"}})
	require.ErrorContains(t, err, "is no number")
	l, err = hazard.Shipped().SubstanceLabel(acid, hazard.Wanted{Rules: hazard.HazCom})
	require.NoError(t, err)
	require.Empty(t, l.Open, "annex VI belongs to CLP")
}

// A plant that changes an entry keeps its notes: they ask for what the entry does not say.
func TestNotesStayWithAChangedEntry(t *testing.T) {
	book, err := hazard.Shipped().With([]hazard.Substance{{CAS: "107-13-1",
		Names: map[string]string{"en": "Acrylonitrile, ours"}, Classification: "Flam. Liq. 2"}})
	require.NoError(t, err)
	s, err := book.Substance("107-13-1")
	require.NoError(t, err)
	require.Equal(t, []string{"D"}, s.Notes)
}

func TestAPersonChoosesPrecautionaryStatements(t *testing.T) {
	book := hazard.Shipped()
	classes, err := book.Parse("Skin Corr. 1A; Acute Tox. 3 (oral)", hazard.CLP)
	require.NoError(t, err)
	label := func(choices map[string]hazard.Choice) *hazard.Label {
		l, err := book.Label(classes, hazard.Wanted{Choices: choices, Fill: map[string]string{"P501": "x"}})
		require.NoError(t, err)
		return l
	}
	plain := label(nil)
	require.Contains(t, codeList(plain.Precautions), "P280")
	require.NotContains(t, codeList(plain.Precautions), "P405")

	chosen := label(map[string]hazard.Choice{"P280": {Reason: "the filling is closed"},
		"P264": {Keep: true, Reason: "the canteen is next door"},
		"P234": {Keep: true, Reason: "it corrodes the old shelf"}})
	require.NotContains(t, codeList(chosen.Precautions), "P280")
	require.Contains(t, codeList(chosen.Precautions), "P264")
	require.Contains(t, codeList(chosen.Precautions), "P234", "no class asks for it, a person does")
	i := slices.IndexFunc(chosen.LeftOut, func(l hazard.LeftOut) bool { return l.Code == "P280" })
	require.Equal(t, "left out by a person: the filling is closed", chosen.LeftOut[i].Why)
	i = slices.IndexFunc(chosen.Precautions, func(r hazard.Reasoned) bool { return r.Code == "P264" })
	require.Equal(t, "kept by a person: the canteen is next door", chosen.Precautions[i].Why)

	for code, choice := range map[string]hazard.Choice{"P999": {Reason: "x"}, "H314": {Reason: "x"},
		"P280": {Reason: " "}} {
		_, err := book.Label(classes, hazard.Wanted{Choices: map[string]hazard.Choice{code: choice}})
		require.ErrorAs(t, err, new(*refusal.Error), code)
	}

	// What another said better comes back where that one is left out.
	gone := label(map[string]hazard.Choice{"P301+P330+P331": {Reason: "no mouth near"},
		"P301+P310": {Reason: "a telephone is not here"}})
	i = slices.IndexFunc(gone.LeftOut, func(l hazard.LeftOut) bool { return l.Code == "P330" })
	require.Contains(t, gone.LeftOut[i].Why, "no more than 6 are customary")
}
