package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// A pack is unpacked, changed, signed, and checked by who has the public key.
func TestReferenceCommand(t *testing.T) {
	folder := t.TempDir()
	at := func(name string) string { return filepath.Join(folder, name) }
	code, public, message := do("reference", "-new-key", at("key"))
	require.Equal(t, 0, code, message)
	code, _, _ = do("reference", "-new-key", at("key"))
	require.Equal(t, 2, code, "a key is not written over")
	code, _, message = do("reference", "-unpack", at("files"))
	require.Equal(t, 0, code, message)
	texts, err := os.ReadFile(at("files/signs/texts.tsv"))
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(at("files/signs/texts.tsv"), append(texts, "notice\tM001\tKelp dries here.\n"...),
		0o600))
	code, _, message = do("reference", "-from", at("files"), "-version", "2027.1", "-by", "Brinewick Kelp Works",
		"-key", at("key"), "-out", at("pack.zip"))
	require.Equal(t, 0, code, message)
	code, out, message := do("reference", "-check", at("pack.zip"), "-key", strings.TrimSpace(public))
	require.Equal(t, 0, code, message)
	var said struct {
		Version, Against string
		Changes          []struct{ Kind, What, ID string }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &said))
	require.Equal(t, []string{"2027.1", "2026.11.3"}, []string{said.Version, said.Against})
	require.Len(t, said.Changes, 1)
	require.Equal(t, "Kelp dries here.", said.Changes[0].ID)

	for name, test := range map[string]struct {
		code int
		says string
		args []string
	}{
		"another key": {1, "not one of those that are trusted", []string{"-check", at("pack.zip"), "-key",
			strings.Repeat("0a", 32)}},
		"no key": {2, "64 hexadecimal digits", []string{"-check", at("pack.zip")}},
		"no pack": {1, "cannot be read as a zip",
			[]string{"-check", at("key"), "-key", strings.TrimSpace(public)}},
		"nothing": {2, "say -check FILE", nil},
		"no version": {1, "no version of a pack", []string{"-from", at("files"), "-version", "new", "-key",
			at("key"), "-out", at("x.zip")}},
		"no signing": {1, "is no key that signs packs", []string{"-from", at("files"), "-version", "2027.1", "-key",
			at("pack.zip"), "-out", at("x.zip")}},
		"without a key": {2, "needs -out FILE and -key FILE", []string{"-from", at("files")}},
	} {
		t.Run(name, func(t *testing.T) {
			code, _, message := do(append([]string{"reference"}, test.args...)...)
			require.Equal(t, test.code, code)
			require.Contains(t, message, test.says)
		})
	}
}
