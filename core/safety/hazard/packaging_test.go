package hazard_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/hazard"
)

// CLP, annex II, part 3: what packages for the public need besides.
func TestPackagesForThePublic(t *testing.T) {
	for _, test := range []struct {
		classes         string
		closed, tactile bool
	}{
		{"Acute Tox. 3 (oral)", true, true}, {"Acute Tox. 4 (oral)", false, true}, {"Skin Corr. 1B", true, true},
		{"STOT SE 1", true, true}, {"STOT SE 2", false, true}, {"STOT RE 1", true, true}, {"Asp. Tox. 1", true, true},
		{"Flam. Liq. 2", false, true}, {"Flam. Liq. 3", false, false}, {"Flam. Gas 1", false, true},
		{"Flam. Sol. 1", false, true}, {"Resp. Sens. 1", false, true}, {"Carc. 2", false, true},
		{"Muta. 2", false, true}, {"Repr. 2", false, true},
		{"Eye Irrit. 2", false, false}, {"Skin Sens. 1", false, false}, {"Aquatic Chronic 2", false, false},
		{"Met. Corr. 1", false, false},
	} {
		said := strings.Join(label(t, test.classes, hazard.Wanted{Public: true}).Packaging, " ")
		require.Equal(t, []bool{test.closed, test.tactile}, []bool{strings.Contains(said, "child-resistant"),
			strings.Contains(said, "tactile")}, test.classes)
		require.Empty(t, label(t, test.classes, hazard.Wanted{}).Packaging, "only the public's")
		require.Empty(t, label(t, test.classes, hazard.Wanted{Public: true, Rules: hazard.HazCom}).Packaging)
	}
	_, l := mix(t, "4% 67-56-1; 96% 7732-18-5", hazard.Vapour, "", hazard.Wanted{Public: true})
	require.Contains(t, strings.Join(l.Packaging, " "), "at least 3 %", "annex II, 3.1.1.3")
	_, l = mix(t, "2% 67-56-1; 98% 7732-18-5", hazard.Vapour, "", hazard.Wanted{Public: true})
	require.NotContains(t, strings.Join(l.Packaging, " "), "at least 3 %")
	_, l = mix(t, "20% Skin Irrit. 2; 80% 7732-18-5", hazard.Dust, "", hazard.Wanted{})
	require.Contains(t, strings.Join(l.Packaging, " "), "UFI")
	_, l = mix(t, "30% Aquatic Chronic 2; 70% 7732-18-5", hazard.Dust, "", hazard.Wanted{})
	require.Empty(t, l.Packaging, "hazards to the environment alone need none")
}

func TestSmallPackages(t *testing.T) {
	for classes, says := range map[string]string{
		"Skin Irrit. 2": "1.5.2.1.1", "Aquatic Chronic 3": "1.5.2.1.2", "Flam. Gas 2": "1.5.2.1.2",
		"Lact.": "1.5.2.1.2", "Met. Corr. 1": "1.5.2.1.3",
	} {
		require.Contains(t, label(t, classes, hazard.Wanted{Volume: 100}).Small, says, classes)
		require.NotContains(t, label(t, classes, hazard.Wanted{Volume: 100}).Small, "1.5.2.4.1")
		require.Contains(t, label(t, classes, hazard.Wanted{Volume: 10}).Small, "1.5.2.4.1")
		require.Empty(t, label(t, classes, hazard.Wanted{Volume: 126}).Small)
	}
	for _, classes := range []string{"Skin Corr. 1B", "Acute Tox. 2 (oral)", "Carc. 1B"} {
		require.Empty(t, label(t, classes, hazard.Wanted{Volume: 100}).Small, classes)
	}
}

func TestUniqueFormulaIdentifiers(t *testing.T) {
	made, err := hazard.CheckUFI("ufi: n1qv r02n-j00m wqd5")
	require.NoError(t, err)
	require.Equal(t, "N1QV-R02N-J00M-WQD5", made)
	for text, says := range map[string]string{"N1QV-R02N-J00M-WQD6": "check character",
		"N1QV-R02N-J00M-QWD5": "check character", "N1QV-R02N-J00M": "four groups",
		"N1QV-R02N-J00M-WQDB": "none of its characters"} {
		_, err := hazard.CheckUFI(text)
		require.ErrorContains(t, err, says, text)
	}
}

// CLP, annex II, 2.1, 2.2, 2.7 and 2.9: what a mixture serves for is asked where it decides.
func TestUsesAreAsked(t *testing.T) {
	for _, test := range []struct{ mixture, id, answer, code string }{
		{"1% 1317-36-8; 99% 7732-18-5", "EUH201", "yes", "EUH201"}, {"1% 1317-36-8; 99% 7732-18-5", "EUH201",
			"yes, in less than 125 ml", "EUH201A"}, {"0.01% 7778-50-9; 99.99% 7732-18-5", "EUH203", "yes", "EUH203"},
		{"20% 7440-43-9; 80% 7732-18-5", "EUH207", "yes", "EUH207"}, {"1% 1317-36-8; 99% 7732-18-5", "EUH201", "no",
			""},
	} {
		mixed, _ := mix(t, test.mixture, hazard.Dust, "", hazard.Wanted{})
		require.Contains(t, asked(mixed.Open), test.id, "%+v", test)
		mixed, l := mix(t, test.mixture, hazard.Dust, test.id+" = "+test.answer, hazard.Wanted{})
		require.NotContains(t, asked(mixed.Open), test.id)
		codes := []string{}
		for _, r := range l.Supplemental {
			codes = append(codes, r.Code)
		}
		if test.code == "" {
			require.NotContains(t, codes, test.id)
		} else {
			require.Contains(t, codes, test.code)
		}
	}
	const thinner = "60% 75-09-2; 10% 64-17-5; 30% 7732-18-5"
	mixed, _ := mix(t, thinner, hazard.Vapour, "flash point = none", hazard.Wanted{})
	require.Contains(t, asked(mixed.Open), "EUH209")
	_, l := mix(t, thinner, hazard.Vapour, "flash point = none; EUH209 = highly flammable", hazard.Wanted{})
	require.Contains(t, l.Supplemental[len(l.Supplemental)-1].Code+" "+l.Supplemental[0].Code, "EUH209")
	mixed, _ = mix(t, "60% 75-09-2; 4% 64-17-5; 36% 7732-18-5", hazard.Vapour, "flash point = none", hazard.Wanted{})
	require.NotContains(t, asked(mixed.Open), "EUH209", "no more than 5 % is flammable")
}

// 29 CFR 1910.1200, appendix C.4.30 and C.4.31.
func TestHazardsThatOSHADefines(t *testing.T) {
	book := hazard.Shipped()
	for cas, is := range map[string]bool{"7727-37-9": true, "7440-37-1": true, "74-98-6": true, "7782-44-7": false,
		"7782-50-5": false} {
		s, err := book.Substance(cas)
		require.NoError(t, err)
		l, err := book.SubstanceLabel(s, hazard.Wanted{Rules: hazard.HazCom})
		require.NoError(t, err)
		said := false
		for _, r := range l.Supplemental {
			said = said || r.Text == "May displace oxygen and cause rapid suffocation."
		}
		require.Equal(t, is, said, cas)
		require.NotEmpty(t, l.SignalWord, cas)
		clp, err := book.SubstanceLabel(s, hazard.Wanted{})
		require.NoError(t, err)
		for _, r := range clp.Supplemental {
			require.NotEqual(t, "simple asphyxiant", r.Code)
		}
	}
	mixed, _ := mix(t, "80% 7440-37-1; 20% 124-38-9", hazard.Gas, "", hazard.Wanted{Rules: hazard.HazCom})
	require.Contains(t, asked(mixed.Open), "simple asphyxiant")
	_, l := mix(t, "80% 7440-37-1; 20% 124-38-9", hazard.Gas, "simple asphyxiant = yes",
		hazard.Wanted{Rules: hazard.HazCom, Language: "es"})
	require.Contains(t, l.Supplemental[len(l.Supplemental)-1].Text, "asfixia")
	require.NotEmpty(t, l.SignalWord)
	mixed, _ = mix(t, "40% 100-97-0; 60% 471-34-1", hazard.Dust, "", hazard.Wanted{Rules: hazard.HazCom})
	require.Contains(t, asked(mixed.Open), "combustible dust")

	// Hazards not otherwise classified are said where the safety data sheet has some; nobody is asked, since the label
	// need not say them.
	known := "hazards not otherwise classified = Releases heat with water."
	mixed, l = mix(t, "40% 1305-78-8", hazard.Dust, known, hazard.Wanted{Rules: hazard.HazCom})
	require.Equal(t, "Releases heat with water.", l.Supplemental[len(l.Supplemental)-1].Text)
	require.NotContains(t, strings.Join(mixed.Notes, " "), "decides nothing")
	mixed, _ = mix(t, "40% 1305-78-8", hazard.Dust, "", hazard.Wanted{Rules: hazard.HazCom})
	require.Contains(t, strings.Join(mixed.Notes, " "), "Hazards not otherwise classified")
	s, err := book.Substance("1305-78-8")
	require.NoError(t, err)
	l, err = book.SubstanceLabel(s,
		hazard.Wanted{Rules: hazard.HazCom,
			Known: map[string]string{"hazards not otherwise classified": "Releases heat with water."}})
	require.NoError(t, err)
	require.Contains(t, codes(l.Supplemental), "HNOC")
}
