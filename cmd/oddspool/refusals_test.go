package main

import (
	"fmt"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/refusal"
)

// Every kind of refusal stands in docs/refusals.md, as the program defines it.
func TestRefusalsAreListed(t *testing.T) {
	const file = "../../docs/refusals.md"
	statuses := map[refusal.Status]string{refusal.Invalid: "invalid", refusal.Missing: "missing",
		refusal.Conflict: "conflict", refusal.Outside: "outside", refusal.Denied: "denied", refusal.Busy: "busy"}
	var now strings.Builder
	now.WriteString("# What is refused\n\nEach kind with its code, how a server answers (invalid 422, missing 404, " +
		"conflict 409, " +
		"denied 401, busy 503, outside 502), and its sentence. A Problem of the API carries the code as `kind` " +
		"and what " +
		"stands in the braces as `values`. Written by `go test ./cmd/oddspool -run Refusals -update`.\n\n" +
		"| code | answer | sentence |\n| --- | --- | --- |\n")
	code := regexp.MustCompile(`^[a-z]+(\.[a-z0-9-]+)?$`)
	for _, k := range refusal.Kinds() {
		require.Regexp(t, code, k.Code)
		require.NotEmpty(t, statuses[k.Status], k.Code)
		fmt.Fprintf(&now, "| `%s` | %s | %s |\n", k.Code, statuses[k.Status], strings.ReplaceAll(k.English, "|", "\\|"))
	}
	if *update {
		require.NoError(t, os.WriteFile(file, []byte(now.String()), 0o644), "write %s", file)
	}
	was, err := os.ReadFile(file)
	require.NoError(t, err, "read %s", file)
	require.Equal(t, string(was), now.String(), "run go test ./cmd/oddspool -run Refusals -update")
}
