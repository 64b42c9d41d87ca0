package proof_test

import (
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/proof"
)

// Each kind of finding stands in the table of docs/design-file.md.
func TestEveryKindOfFindingIsDocumented(t *testing.T) {
	table, err := os.ReadFile("../../docs/design-file.md")
	require.NoError(t, err)
	for _, rule := range proof.Rules() {
		require.Contains(t, string(table), "`"+string(rule.Kind())+"`")
	}
}
