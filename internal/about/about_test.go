package about_test

import (
	"encoding/json"
	"os"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/about"
)

// All that is built in has its licence told, in the version that is built in; script/licences gathers them anew.
func TestEveryModuleThatShipsHasItsLicence(t *testing.T) {
	told := map[string]bool{}
	for _, part := range about.Parts() {
		require.NotEmpty(t, part.Text, part.Name)
		require.NotEmpty(t, part.Licence, part.Name)
		told[part.Name+" "+part.Version] = true
	}
	out, err := exec.Command("go", "list", "-deps", "-f",
		"{{with .Module}}{{if not .Main}}{{.Path}} {{.Version}}{{end}}{{end}}", "../../cmd/oddspool").Output()
	require.NoError(t, err)
	for _, module := range strings.Fields(strings.ReplaceAll(string(out), " ", "@")) {
		path, version, _ := strings.Cut(module, "@")
		found := false
		for known := range told { // a licence may be told of a folder of the module
			found = found || strings.HasPrefix(known, path) && strings.HasSuffix(known, " "+version)
		}
		require.True(t, found, "%s %s: run script/licences", path, version)
	}
	var page struct{ Dependencies map[string]string }
	data, err := os.ReadFile("../../web/package.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(data, &page))
	require.NotEmpty(t, page.Dependencies)
	var lock struct {
		Packages map[string]struct{ Version string }
	}
	data, err = os.ReadFile("../../web/package-lock.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(data, &lock))
	for name := range page.Dependencies {
		version := lock.Packages["node_modules/"+name].Version
		require.True(t, told[name+" "+version], "%s %s: run script/licences", name, version)
	}
	require.NotEmpty(t, about.Version())
}
