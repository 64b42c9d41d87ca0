package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/hazard"
	"oddspool/internal/testkit"
)

// The authority's table becomes the substances of a pack; each row that is not in it, or not whole, is told with its
// reason.
func TestAnnexBecomesAPack(t *testing.T) {
	folder := t.TempDir()
	table, unpacked := filepath.Join(folder, "annex.xlsx"), filepath.Join(folder, "pack")
	require.NoError(t, os.WriteFile(table, testkit.Annex(t), 0o600))
	code, out, errors := do("reference", "-annex", table, "-unpack", unpacked)
	require.Equal(t, 0, code, errors)
	var said struct {
		Rows, Substances int
		Told             []hazard.AnnexTold
	}
	require.NoError(t, json.Unmarshal([]byte(out), &said))
	require.Equal(t, []int{40, 37}, []int{said.Rows, said.Substances}, out)
	told := map[string]string{}
	for _, one := range said.Told {
		told[one.Index] += one.Text
	}
	for index, says := range map[string]string{"017-002-01-X": "7647-01-0 is in the table before",
		"024-017-00-8": "has no CAS number", "900-001-00-1": "is no hazard class",
		"900-002-00-7": "“Flam. Liq. 2; H225: sometimes” is not understood",
		"900-003-00-2": "check digit", "900-004-00-8": "H318 belongs to none of the classes"} {
		require.Contains(t, told[index], says, index)
	}
	require.Len(t, told, 6, told)
	book, err := hazard.Read(os.DirFS(filepath.Join(unpacked, "hazards")))
	require.NoError(t, err)
	for number, want := range map[string][3]string{
		"75-15-0": {"Flam. Liq. 2; Repr. 2 (fd); STOT RE 1; Eye Irrit. 2; Skin Irrit. 2",
			"Repr. 2: 1; STOT RE 1: 1; STOT RE 2: 0.2-1", ""},
		"7697-37-2": {"Ox. Liq. 3; Acute Tox. 3 (inhalation); Skin Corr. 1A",
			"ATE vapour: 2.65; Ox. Liq. 3: 65; Skin Corr. 1A: 20; Skin Corr. 1B: 5-20", "EUH071"},
		"7647-01-0": {"Press. Gas; Acute Tox. 3 (inhalation); Skin Corr. 1A", "none", ""},
		"7681-52-9": {"Skin Corr. 1B; Eye Dam. 1; Aquatic Acute 1; Aquatic Chronic 1",
			"M: 10; M chronic: 1; EUH031: 5", "EUH031"},
		"7646-79-9": {"Carc. 1B (inhalation); Muta. 2; Repr. 1B (F); Acute Tox. 4 (oral); Resp. Sens. 1; Skin Sens. " +
			"1; Aquatic Acute 1; Aquatic Chronic 1", "Carc. 1B (inhalation): 0.01; M: 10", ""},
		"106-42-3": {"Flam. Liq. 3; Acute Tox. 4 (inhalation); Acute Tox. 4 (dermal); Skin Irrit. 2", "none", ""},
		"100-41-4": {"Flam. Liq. 2; Acute Tox. 4 (inhalation); STOT RE 2 (hearing organs); Asp. Tox. 1", "none", ""},
		"111-76-2": {"Acute Tox. 3 (inhalation); Acute Tox. 4 (oral); Skin Irrit. 2; Eye Irrit. 2",
			"ATE vapour: 3; ATE oral: 1200", ""},
		"108-88-3": {"Flam. Liq. 2; Repr. 2 (d); Asp. Tox. 1; STOT RE 2; Skin Irrit. 2; STOT SE 3 (narcotic effects)",
			"none", ""},
		"94-36-0": {"Org. Perox. B; Eye Irrit. 2; Skin Sens. 1; Aquatic Acute 1; Aquatic Chronic 1",
			"M: 10; M chronic: 10", ""},
		"86290-81-5": {"Carc. 1B; Muta. 1B; Asp. Tox. 1", "none", ""},
	} {
		s, err := book.Substance(number)
		require.NoError(t, err, number)
		require.Equal(t, want, [3]string{s.Classification, s.Limits, strings.Join(s.Supplemental, " ")}, number)
	}
	for number, notes := range map[string]string{"7697-37-2": "B", "86290-81-5": "H P", "106-42-3": "C",
		"111-76-2": ""} {
		s, err := book.Substance(number)
		require.NoError(t, err, number)
		require.Equal(t, notes, strings.Join(s.Notes, " "), number)
	}
	xylene, err := book.Substance("106-42-3")
	require.NoError(t, err)
	require.Equal(t, "p-xylene", xylene.Names["en"])
	require.Equal(t, "203-396-5", xylene.EC)
	acetone, err := book.Substance("67-64-1")
	require.NoError(t, err)
	require.Equal(t, []string{"Aceton", "1090"}, []string{acetone.Names["de"], acetone.UN},
		"what is known besides stays")
	water, err := book.Substance("7732-18-5")
	require.NoError(t, err)
	require.Equal(t, "Water", water.Names["en"], "what the table does not have stays")

	key, pack := filepath.Join(folder, "key"), filepath.Join(folder, "pack.zip")
	code, public, errors := do("reference", "-new-key", key)
	require.Equal(t, 0, code, errors)
	code, _, errors = do("reference", "-from", unpacked, "-version", "2026.12", "-by", "Brinewick Kelp Works", "-key",
		key, "-out", pack)
	require.Equal(t, 0, code, errors)
	code, changes, errors := do("reference", "-check", pack, "-key", strings.TrimSpace(public))
	require.Equal(t, 0, code, errors)
	require.Contains(t, changes, "75-44-5")
	require.NoError(t, os.WriteFile(table, []byte("name,cas\nkelp,1\n"), 0o600))
	code, _, errors = do("reference", "-annex", table, "-unpack", unpacked)
	require.Equal(t, 1, code)
	require.Contains(t, errors, "No column is headed")
}
