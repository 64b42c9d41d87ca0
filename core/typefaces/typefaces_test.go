package typefaces_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/typefaces"
	"oddspool/core/typeset"
)

// Words of scripts that no shipped typeface has are drawn by the files of a folder; without them the characters are
// told.
func TestFolderStandsInByScript(t *testing.T) {
	face, err := typeset.Find("Liberation Sans", false, false)
	require.NoError(t, err)
	words := map[string]string{"Thai": "สาหร่าย", "Han": "昆布", "kana": "こんぶ", "Hangul": "다시마"}
	for script, word := range words {
		var block typeset.Block
		block.Set(word, typeset.Style{Face: face, PerEm: 20 * 64})
		require.NotEmpty(t, block.Missing, script)
	}
	require.NoError(t, typefaces.AddFolder("../../bin/typefaces"), "script/setup lays it there")
	for script, word := range words {
		var block typeset.Block
		block.Set("Kelp "+word+" 2", typeset.Style{Face: face, PerEm: 20 * 64})
		require.Empty(t, block.Missing, script)
		require.NotEmpty(t, block.Glyphs, script)
	}
	require.Contains(t, typeset.Families(), "OCR B")
	require.NotEqual(t, "", typefaces.Beside())
}

// What is broken in the folder is named, and the rest of it is used.
func TestFolderNamesWhatIsBroken(t *testing.T) {
	folder := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(folder, "odd.ttf"), []byte("no font"), 0o600))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "notes.txt"), []byte("left alone"), 0o600))
	require.ErrorContains(t, typefaces.AddFolder(folder), "odd.ttf: This is no font file")
	require.NoError(t, typefaces.AddFolder(filepath.Join(folder, "nosuch")), "an installation may leave it out")
}
