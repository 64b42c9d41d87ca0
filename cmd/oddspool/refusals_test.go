package main

import (
	"fmt"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/proof"
	"oddspool/core/refusal"
	"oddspool/core/symbology"
)

// Every kind of refusal stands in docs/refusals.md, as the program defines it.
func TestRefusalsAreListed(t *testing.T) {
	const file = "../../docs/refusals.md"
	statuses := map[refusal.Status]string{refusal.Invalid: "invalid", refusal.Missing: "missing",
		refusal.Conflict: "conflict", refusal.Outside: "outside", refusal.Denied: "denied", refusal.Busy: "busy",
		refusal.Often: "often", refusal.Full: "full", refusal.Large: "large", refusal.Broken: "broken",
		refusal.Failed: "failed"}
	var now strings.Builder
	now.WriteString("# What is refused\n\nEach kind with its code, how a server answers (invalid 422, missing 404, " +
		"conflict 409, " +
		"denied 401, busy 503, outside 502, often 429, full 507, large 413, broken 400, failed 500), and its " +
		"sentence. A Problem of the API carries the code as `kind` " +
		"and what " +
		"stands in the braces as `values`. Written by `go test ./cmd/oddspool -run Listed -update`.\n\n" +
		"| code | answer | sentence |\n| --- | --- | --- |\n")
	code := regexp.MustCompile(`^[a-z]+(\.[a-z0-9-]+)?$`)
	for _, k := range refusal.Kinds() {
		require.Regexp(t, code, k.Code)
		require.NotEmpty(t, statuses[k.Status], k.Code)
		fmt.Fprintf(&now, "| `%s` | %s | %s |\n", k.Code, statuses[k.Status], strings.ReplaceAll(k.English, "|", "\\|"))
	}
	listed(t, file, now.String())
}

// listed tells whether a file of the docs says what the program has, and writes it with -update.
func listed(t *testing.T, file, now string) {
	t.Helper()
	if *update {
		require.NoError(t, os.WriteFile(file, []byte(now), 0o644), "write %s", file)
	}
	was, err := os.ReadFile(file)
	require.NoError(t, err, "read %s", file)
	require.Equal(t, string(was), now, "run go test ./cmd/oddspool -run Listed -update")
}

// listedBelow is listed for what stands below a mark in a file.
func listedBelow(t *testing.T, file, now string) {
	t.Helper()
	const mark = "<!-- The rest is written by: go test ./cmd/oddspool -run Listed -update -->\n"
	text, err := os.ReadFile(file)
	require.NoError(t, err, "read %s", file)
	above, _, found := strings.Cut(string(text), mark)
	require.True(t, found, "%s has no mark", file)
	listed(t, file, above+mark+now)
}

// Every symbology stands in docs/codes.md, with what can be chosen about it.
func TestSymbologiesAreListed(t *testing.T) {
	var now strings.Builder
	now.WriteString("\n## Symbologies\n\n| identifier | name | standard | holds | options |\n| --- | --- | --- | --- " +
		"| --- |\n")
	for _, kind := range symbology.All() {
		var options []string
		for _, option := range kind.Options {
			options = append(options, "`"+option.ID+"` "+option.Values())
		}
		fmt.Fprintf(&now, "| `%s` | %s | %s | %s; %s | %s |\n", kind.ID, kind.Name, kind.Standard, kind.Holds,
			kind.Most,
			strings.Join(options, "; "))
	}
	listedBelow(t, "../../docs/codes.md", now.String())
}

// Every rule that a label can break stands in docs/findings.md, as the program defines it.
func TestFindingsAreListed(t *testing.T) {
	var now strings.Builder
	now.WriteString("# What is found\n\nEach rule that a label can break, by its code: its kind, and behind a " +
		"point what " +
		"exactly. A label with an error is not printed. A Finding of the API carries the code as `rule` and what " +
		"stands " +
		"in the braces as `values`; docs/design-file.md tells about the kinds. An example of each stands in " +
		"`core/proof/rules_test.go`. Written by `go test ./cmd/oddspool -run Listed -update`.\n\n" +
		"| rule | level | what is said | what helps |\n| --- | --- | --- | --- |\n")
	for _, rule := range proof.Rules() {
		fmt.Fprintf(&now, "| `%s` | %s | %s | %s |\n", rule.Code, rule.Level, rule.Text.English, rule.Do.English)
	}
	listed(t, "../../docs/findings.md", now.String())
}
