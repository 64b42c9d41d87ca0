package proof_test

import (
	"os"
	"regexp"
	"testing"

	"github.com/stretchr/testify/require"
)

// Each kind of finding stands in the table of docs/design-file.md.
func TestEveryKindOfFindingIsDocumented(t *testing.T) {
	code, err := os.ReadFile("finding.go")
	require.NoError(t, err)
	table, err := os.ReadFile("../../docs/design-file.md")
	require.NoError(t, err)
	kinds := regexp.MustCompile(`Kind = "([a-z0-9-]+)"`).FindAllStringSubmatch(string(code), -1)
	require.Greater(t, len(kinds), 40)
	for _, kind := range kinds {
		require.Contains(t, string(table), "`"+kind[1]+"`")
	}
}
