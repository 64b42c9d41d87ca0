package hazard_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/hazard"
)

// The limits of one part (sub-categories of sensitisers are said as category 1), worked by hand from the tables of CLP,
// annex I: what it gives at its limit, and just below.
func TestEachClassHasItsLimit(t *testing.T) {
	for _, test := range []struct{ clause, part, gives string }{
		{"table 3.2.3", "5% Skin Corr. 1A", "Skin Corr. 1A; Eye Dam. 1"},
		{"table 3.2.3", "4.9% Skin Corr. 1A", "Skin Irrit. 2; Eye Dam. 1"},
		{"table 3.2.3", "1% Skin Corr. 1A", "Skin Irrit. 2; Eye Irrit. 2"}, {"table 3.2.3", "0.9% Skin Corr. 1A", ""},
		{"table 3.2.3", "5% Skin Corr. 1B", "Skin Corr. 1B; Eye Dam. 1"},
		{"table 3.2.3", "5% Skin Corr. 1C", "Skin Corr. 1C; Eye Dam. 1"}, {"tables 3.2.3, 3.3.3", "3% Skin Corr. 1B",
			"Skin Irrit. 2; Eye Dam. 1"},
		{"tables 3.2.3, 3.3.3", "2.9% Skin Corr. 1B", "Skin Irrit. 2; Eye Irrit. 2"},
		{"table 3.2.3", "10% Skin Irrit. 2", "Skin Irrit. 2"}, {"table 3.2.3", "9.9% Skin Irrit. 2", ""},
		{"table 3.2.3", "0.9% Skin Corr. 1A; 1% Skin Irrit. 2", "Skin Irrit. 2"},
		{"table 3.2.3", "0.8% Skin Corr. 1A; 1.9% Skin Irrit. 2", ""},
		{"table 3.2.3", "3% Skin Corr. 1A; 2% Skin Corr. 1B", "Skin Corr. 1B; Eye Dam. 1"},
		{"table 3.3.3", "3% Eye Dam. 1", "Eye Dam. 1"}, {"table 3.3.3", "2.9% Eye Dam. 1", "Eye Irrit. 2"},
		{"table 3.3.3", "1% Eye Dam. 1", "Eye Irrit. 2"}, {"table 3.3.3", "0.9% Eye Dam. 1", ""},
		{"table 3.3.3", "10% Eye Irrit. 2", "Eye Irrit. 2"}, {"table 3.3.3", "9.9% Eye Irrit. 2", ""},
		{"table 3.3.3", "0.9% Eye Dam. 1; 1% Eye Irrit. 2", "Eye Irrit. 2"},
		{"table 3.4.5", "1% Resp. Sens. 1", "Resp. Sens. 1"}, {"table 3.4.5", "0.9% Resp. Sens. 1", ""},
		{"table 3.4.5", "0.1% Resp. Sens. 1A", "Resp. Sens. 1"}, {"table 3.4.5", "0.09% Resp. Sens. 1A", ""},
		{"table 3.4.5", "1% Resp. Sens. 1B", "Resp. Sens. 1"}, {"table 3.4.5", "0.9% Resp. Sens. 1B", ""},
		{"table 3.4.5", "1% Skin Sens. 1", "Skin Sens. 1"}, {"table 3.4.5", "0.9% Skin Sens. 1", ""},
		{"table 3.4.5", "0.1% Skin Sens. 1A", "Skin Sens. 1"}, {"table 3.4.5", "0.09% Skin Sens. 1A", ""},
		{"table 3.4.5", "1% Skin Sens. 1B", "Skin Sens. 1"}, {"table 3.4.5", "0.9% Skin Sens. 1B", ""},
		{"table 3.5.2", "0.1% Muta. 1A", "Muta. 1A"}, {"table 3.5.2", "0.09% Muta. 1A", ""},
		{"table 3.5.2", "0.1% Muta. 1B", "Muta. 1B"}, {"table 3.5.2", "0.09% Muta. 1B", ""},
		{"table 3.5.2", "1% Muta. 2", "Muta. 2"}, {"table 3.5.2", "0.9% Muta. 2", ""},
		{"table 3.6.2", "0.1% Carc. 1A", "Carc. 1A"}, {"table 3.6.2", "0.09% Carc. 1A", ""},
		{"table 3.6.2", "0.1% Carc. 1B", "Carc. 1B"}, {"table 3.6.2", "0.09% Carc. 1B", ""},
		{"table 3.6.2", "1% Carc. 2", "Carc. 2"}, {"table 3.6.2", "0.9% Carc. 2", ""},
		{"table 3.7.2", "0.3% Repr. 1A (FD)", "Repr. 1A (FD)"}, {"table 3.7.2", "0.29% Repr. 1A (FD)", ""},
		{"table 3.7.2", "0.3% Repr. 1B (D)", "Repr. 1B (D)"}, {"table 3.7.2", "0.29% Repr. 1B (D)", ""},
		{"table 3.7.2", "3% Repr. 2 (f)", "Repr. 2 (f)"}, {"table 3.7.2", "2.9% Repr. 2 (f)", ""},
		{"table 3.7.2", "0.3% Lact.", "Lact."}, {"table 3.7.2", "0.29% Lact.", ""},
		{"table 3.8.3", "10% STOT SE 1", "STOT SE 1"}, {"table 3.8.3", "9.9% STOT SE 1", "STOT SE 2"},
		{"table 3.8.3", "1% STOT SE 1", "STOT SE 2"}, {"table 3.8.3", "0.9% STOT SE 1", ""},
		{"table 3.8.3", "10% STOT SE 2", "STOT SE 2"}, {"table 3.8.3", "9.9% STOT SE 2", ""},
		{"3.8.3.4.5", "20% STOT SE 3 (narcotic effects)", "STOT SE 3 (narcotic effects)"},
		{"3.8.3.4.5", "19.9% STOT SE 3 (narcotic effects)", ""}, {"3.8.3.4.5", "20% STOT SE 3 (respiratory irritation)",
			"STOT SE 3 (respiratory irritation)"},
		{"3.8.3.4.5", "12% STOT SE 3 (narcotic effects); 12% STOT SE 3 (respiratory irritation)", ""},
		{"3.8.3.4.5", "10% STOT SE 3 (narcotic effects); 10% STOT SE 3 (narcotic effects)",
			"STOT SE 3 (narcotic effects)"},
		{"table 3.9.4", "10% STOT RE 1", "STOT RE 1"}, {"table 3.9.4", "9.9% STOT RE 1", "STOT RE 2"},
		{"table 3.9.4", "1% STOT RE 1", "STOT RE 2"}, {"table 3.9.4", "0.9% STOT RE 1", ""},
		{"table 3.9.4", "10% STOT RE 2", "STOT RE 2"}, {"table 3.9.4", "9.9% STOT RE 2", ""},
		{"table 4.1.1", "25% Aquatic Acute 1", "Aquatic Acute 1"}, {"table 4.1.1", "24.9% Aquatic Acute 1", ""},
		{"table 4.1.2", "25% Aquatic Chronic 1", "Aquatic Chronic 1"}, {"table 4.1.2", "24.9% Aquatic Chronic 1",
			"Aquatic Chronic 2"},
		{"table 4.1.2", "2.5% Aquatic Chronic 1", "Aquatic Chronic 2"}, {"table 4.1.2", "2.4% Aquatic Chronic 1",
			"Aquatic Chronic 3"}, {"table 4.1.2", "0.25% Aquatic Chronic 1", "Aquatic Chronic 3"},
		{"table 4.1.2", "0.24% Aquatic Chronic 1", ""},
		{"table 4.1.2", "25% Aquatic Chronic 2", "Aquatic Chronic 2"}, {"table 4.1.2", "24.9% Aquatic Chronic 2",
			"Aquatic Chronic 3"}, {"table 4.1.2", "2.5% Aquatic Chronic 2", "Aquatic Chronic 3"},
		{"table 4.1.2", "2.4% Aquatic Chronic 2", ""},
		{"table 4.1.2", "25% Aquatic Chronic 3", "Aquatic Chronic 3"}, {"table 4.1.2", "24.9% Aquatic Chronic 3", ""},
		{"table 4.1.2", "25% Aquatic Chronic 4", "Aquatic Chronic 4"}, {"table 4.1.2", "24.9% Aquatic Chronic 4", ""},
		{"table 4.1.2", "2% Aquatic Chronic 1; 5% Aquatic Chronic 2", "Aquatic Chronic 2"},
		{"table 5.1", "0.1% Ozone 1", "Ozone 1"}, {"table 5.1", "0.09% Ozone 1", ""},
		// ATE of categories 1 to 4 swallowed 0.5, 5, 100, 500 mg/kg (table 3.1.2); of the mixture 100/(C/ATE)
		// (3.1.3.6.1); bounds 5, 50, 300, 2000.
		{"3.1.3.6.1", "10% Acute Tox. 1 (oral)", "Acute Tox. 1 (oral)"},
		{"3.1.3.6.1", "9% Acute Tox. 1 (oral)", "Acute Tox. 2 (oral)"},
		{"3.1.3.6.1", "1% Acute Tox. 1 (oral)", "Acute Tox. 2 (oral)"}, {"3.1.3.6.1", "0.9% Acute Tox. 1 (oral)",
			"Acute Tox. 3 (oral)"},
		{"3.1.3.6.1", "10% Acute Tox. 2 (oral)", "Acute Tox. 2 (oral)"},
		{"3.1.3.6.1", "9% Acute Tox. 2 (oral)", "Acute Tox. 3 (oral)"}, {"3.1.3.6.1", "1.6% Acute Tox. 2 (oral)",
			"Acute Tox. 4 (oral)"},
		{"3.1.3.6.1", "40% Acute Tox. 3 (oral)", "Acute Tox. 3 (oral)"}, {"3.1.3.6.1", "33% Acute Tox. 3 (oral)",
			"Acute Tox. 4 (oral)"}, {"3.1.3.6.1", "5% Acute Tox. 3 (oral)", "Acute Tox. 4 (oral)"},
		{"3.1.3.6.1", "4.9% Acute Tox. 3 (oral)", ""},
		{"3.1.3.6.1", "25% Acute Tox. 4 (oral)", "Acute Tox. 4 (oral)"}, {"3.1.3.6.1", "24% Acute Tox. 4 (oral)", ""},
		{"3.1.3.6.1", "20% Acute Tox. 3 (oral); 20% Acute Tox. 4 (oral)", "Acute Tox. 4 (oral)"},
		// through the skin 5, 50, 300, 1100; bounds 50, 200, 1000, 2000
		{"3.1.3.6.1", "10% Acute Tox. 1 (dermal)", "Acute Tox. 1 (dermal)"}, {"3.1.3.6.1", "5% Acute Tox. 1 (dermal)",
			"Acute Tox. 2 (dermal)"}, {"3.1.3.6.1", "25% Acute Tox. 2 (dermal)", "Acute Tox. 2 (dermal)"},
		{"3.1.3.6.1", "24% Acute Tox. 2 (dermal)", "Acute Tox. 3 (dermal)"},
		{"3.1.3.6.1", "30% Acute Tox. 3 (dermal)", "Acute Tox. 3 (dermal)"}, {"3.1.3.6.1", "29% Acute Tox. 3 (dermal)",
			"Acute Tox. 4 (dermal)"}, {"3.1.3.6.1", "55% Acute Tox. 4 (dermal)", "Acute Tox. 4 (dermal)"},
		{"3.1.3.6.1", "54% Acute Tox. 4 (dermal)", ""},
		// dust and mist 0.005, 0.05, 0.5, 1.5 mg/l; bounds 0.05, 0.5, 1, 5
		{"3.1.3.6.1", "10% Acute Tox. 1 (inhalation)", "Acute Tox. 1 (inhalation)"},
		{"3.1.3.6.1", "10% Acute Tox. 2 (inhalation)", "Acute Tox. 2 (inhalation)"},
		{"3.1.3.6.1", "9% Acute Tox. 2 (inhalation)", "Acute Tox. 3 (inhalation)"},
		{"3.1.3.6.1", "50% Acute Tox. 3 (inhalation)", "Acute Tox. 3 (inhalation)"},
		{"3.1.3.6.1", "49% Acute Tox. 3 (inhalation)", "Acute Tox. 4 (inhalation)"},
		{"3.1.3.6.1", "30% Acute Tox. 4 (inhalation)", "Acute Tox. 4 (inhalation)"},
		{"3.1.3.6.1", "29% Acute Tox. 4 (inhalation)", ""},
	} {
		mixed, _ := mix(t, test.part, hazard.Dust, "", hazard.Wanted{})
		require.ElementsMatch(t, strings.Split(test.gives, "; "), strings.Split(mixed.Classification, "; "),
			"%s (%s): %s", test.part, test.clause, strings.Join(mixed.Steps, "\n"))
	}
}
