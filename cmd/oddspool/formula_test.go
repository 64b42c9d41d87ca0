package main

import (
	"encoding/json"
	"flag"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/formula"
)

var update = flag.Bool("update", false, "write what is made of tables anew")

func TestFormulasOfTheCommandLine(t *testing.T) {
	code, out, message := do("formula", `upper(contents) + " " + right(lot, 3)`, "-records", "../../examples/bins.csv",
		"-rows", "1-2")
	require.Zero(t, code, message)
	require.Equal(t, 2, strings.Count(out, "\n"), out)
	code, out, message = do("formula", `lookup("bins.csv", "N-01-01-B", "bin", "contents")`, "-lookup",
		"../../examples/bins.csv")
	require.Zero(t, code, message)
	require.Equal(t, "Winged kelp, cut\n", out)
	code, _, message = do("formula", `lookup("racks.csv", "R-01", "rack", "contents")`, "-lookup",
		"../../examples/bins.csv")
	require.Equal(t, 1, code)
	require.Contains(t, message, "name its file with -lookup")
	code, out, _ = do("formula", "-3 * 0.1")
	require.Zero(t, code)
	require.Equal(t, "-0.3\n", out)
	code, out, _ = do("formula", `formatDate(addMonths(today(), 3), "yyyy-MM-dd")`, "-at", "2026-11-30T09:30")
	require.Zero(t, code)
	require.Equal(t, "2027-02-28\n", out)
	code, _, message = do("formula", "nosuch + 1", "-records", "../../examples/bins.csv")
	require.Equal(t, 1, code)
	require.Contains(t, message, "letter 1: There is no field “nosuch”")
	code, out, message = do("formula", "1 / (length(bin) - 9)", "-records", "../../examples/bins.csv", "-rows", "1,2")
	require.Equal(t, 1, code)
	require.Equal(t, "\n\n", out)
	require.Contains(t, message, "record 2: letter 3: Nothing can be divided by zero.")
	var list []formula.Function
	code, out, _ = do("formula", "-list")
	require.Zero(t, code)
	require.NoError(t, json.Unmarshal([]byte(out), &list))
	require.Len(t, list, len(formula.List()))
	for _, args := range [][]string{{"formula"}, {"formula", "1", "-at", "noon"}} {
		code, _, _ = do(args...)
		require.Equal(t, 2, code, "%v", args)
	}
}

// docs/formulas.md is made from the table of functions, so that they cannot drift.
func TestFormulasAreListed(t *testing.T) {
	var made strings.Builder
	group := ""
	for _, f := range formula.List() {
		if f.Group != group {
			group = f.Group
			made.WriteString("\n### " + strings.ToUpper(group[:1]) + group[1:] +
				"\n\n| function | gives | example | |\n| --- | --- | --- | --- |\n")
		}
		escape := strings.NewReplacer("|", "\\|").Replace
		made.WriteString("| `" + f.Name + "(" + escape(f.Takes) + ")` | " + escape(f.Says) + " | `" +
			escape(f.Example) + "` | " + escape(f.Gives) + " |\n")
	}
	listedBelow(t, "../../docs/formulas.md", made.String())
}
