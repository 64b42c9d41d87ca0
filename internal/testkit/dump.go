package testkit

import (
	"net/url"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// tool runs one of PostgreSQL's own programs.
func tool(t testing.TB, name string, args ...string) {
	t.Helper()
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/" + name)
	require.NotEmpty(t, found, "run script/setup")
	out, err := exec.Command(found[len(found)-1], args...).CombinedOutput()
	require.NoError(t, err, string(out))
}

// plainAddress is an address of a test's database as PostgreSQL's own programs take it, and its name.
func plainAddress(t testing.TB, address string) (plain, name string) {
	at, err := url.Parse(address)
	require.NoError(t, err)
	at.RawQuery = "sslmode=disable"
	return at.String(), strings.TrimPrefix(at.Path, "/")
}

// Dump writes a backup of a database of the tests, as an administrator does, and returns its file.
func Dump(t testing.TB, address string) (file string) {
	t.Helper()
	plain, _ := plainAddress(t, address)
	file = filepath.Join(t.TempDir(), "backup")
	tool(t, "pg_dump", "--format", "custom", "--file", file, plain)
	return file
}

// Restore puts a database back from a backup: into the same one (clean), or into a new one of the same name.
func Restore(t testing.TB, address, file string, clean bool) {
	t.Helper()
	plain, name := plainAddress(t, address)
	if clean {
		tool(t, "pg_restore", "--clean", "--if-exists", "--dbname", plain, file)
		return
	}
	maintenance := strings.Replace(plain, "/"+name+"?", "/postgres?", 1)
	tool(t, "psql", "--quiet", "--dbname", maintenance, "--command", "drop database "+name+" with (force)", "--command",
		"create database "+name)
	tool(t, "pg_restore", "--dbname", plain, file)
}
