package hazard_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/hazard"
)

// Each class that a part can have, by each rule set, is on the label of a mixture with much of it, under a limit in
// words, or asked.
func TestEveryClassOfAPartIsDealtWith(t *testing.T) {
	for _, rules := range hazard.RuleSets {
		for i := range hazard.Shipped().Classes {
			c := &hazard.Shipped().Classes[i]
			parts, err := hazard.Shipped().ParseMixture("99% Kelpol: "+c.String(), rules, hazard.Dust)
			if err != nil || c.Signal == "" && c.Hazards == nil { // the rules do not know it, or it says nothing
				continue
			}
			mixed, err := hazard.Shipped().Mix(&hazard.Mixture{Parts: parts, Form: hazard.Dust}, rules)
			require.NoError(t, err, "%s, %s", c, rules)
			require.True(t, strings.Contains(mixed.Classification, c.Class) || len(mixed.Open) > 0,
				"%s by %s is nowhere: %v", c, rules, mixed.Steps)
		}
	}
}

// What a rule set does not know of a substance is told, not dropped.
func TestClassesOutsideTheRulesAreTold(t *testing.T) {
	book, err := hazard.Shipped().With([]hazard.Substance{{CAS: "50-00-0", Names: map[string]string{"en": "Kelpol"},
		Classification: "Skin Irrit. 2; PBT"}})
	require.NoError(t, err)
	s, err := book.Substance("50-00-0")
	require.NoError(t, err)
	l, err := book.SubstanceLabel(s, hazard.Wanted{Rules: hazard.HazCom})
	require.NoError(t, err)
	require.Contains(t, l.LeftOut, hazard.LeftOut{Code: "PBT", Because: []string{"entry of 50-00-0"}, May: true,
		Why: "it is no class under these rules"})
}
