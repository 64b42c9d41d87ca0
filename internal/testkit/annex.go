package testkit

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
)

// Annex makes a sample of the table of harmonised classifications (CLP, annex VI, table 3) in the layout in which its
// authority publishes it: titles, names over two rows, several lines in a cell, asterisks, notes.
func Annex(t testing.TB) []byte {
	f := excelize.NewFile()
	const sheet = "Sheet1"
	put := func(row int, values ...string) {
		for i, value := range values {
			cell, err := excelize.CoordinatesToCellName(i+1, row)
			require.NoError(t, err)
			require.NoError(t, f.SetCellValue(sheet, cell, value))
		}
	}
	put(1, "Table of harmonised entries in Annex VI to CLP")
	require.NoError(t, f.MergeCell(sheet, "A1", "L1"))
	put(3, "Index No", "Chemical name", "EC No", "CAS No", "Classification", "", "Labelling", "", "",
		"Specific Conc. Limits, M-factors and ATEs", "Notes", "ATP inserted/ATP Updated")
	put(4, "", "", "", "", "Hazard Class and Category Code(s)", "Hazard Statement Code(s)",
		"Pictogram, Signal Word Code(s)", "Hazard Statement Code(s)", "Suppl. Hazard Statement Code(s)")
	for _, merged := range [][2]string{{"A3", "A4"}, {"B3", "B4"}, {"C3", "C4"}, {"D3", "D4"}, {"E3", "F3"},
		{"G3", "I3"}, {"J3", "J4"}, {"K3", "K4"}, {"L3", "L4"}} {
		require.NoError(t, f.MergeCell(sheet, merged[0], merged[1]))
	}
	row := 5
	for line := range strings.Lines(strings.TrimSpace(annexRows)) {
		cells := strings.Split(strings.TrimRight(line, "\n"), "|")
		require.Len(t, cells, 8, line)
		for i := range cells {
			cells[i] = strings.ReplaceAll(strings.TrimSpace(cells[i]), " / ", "\n")
		}
		put(row, cells[0], cells[1], cells[2], cells[3], cells[4], cells[5], "GHS07\nWng", cells[5], cells[6], cells[7],
			annexNotes[cells[0]], "CLP00")
		row++
	}
	var out bytes.Buffer
	require.NoError(t, f.Write(&out))
	require.NoError(t, f.Close(), fmt.Sprint(row))
	return out.Bytes()
}

// annexNotes are the notes of entries, by their index numbers.
var annexNotes = map[string]string{"007-004-00-1": "B", "649-378-00-4": "H\nP", "601-022-00-9": "C"}

// annexRows are index number, name, EC, CAS, classes, statements, supplementary statements and limits of entries; /
// parts lines.
const annexRows = `
001-001-00-9|hydrogen|215-605-7|1333-74-0|Flam. Gas 1A / Press. Gas|H220||
003-001-00-4|lithium|231-102-5|7439-93-2|Water-react. 1 / Skin Corr. 1B|H260 / H314|EUH014|
006-002-00-3|phosgene; carbonyl chloride|200-870-3|75-44-5|Press. Gas / Acute Tox. 2 * / Skin Corr. 1B|H330 / H314||
006-003-00-3|carbon disulphide|200-843-6|75-15-0|Flam. Liq. 2 / Repr. 2 / STOT RE 1 / Eye Irrit. 2 / Skin Irrit. 2|H225 / H361fd *** / H372 ** / H319 / H315||Repr. 2; H361fd: C ≥ 1 % / STOT RE 1; H372: C ≥ 1 % / STOT RE 2; H373: 0,2 % ≤ C < 1 %
007-004-00-1|nitric acid … % [C ≤ 70 %]|231-714-2|7697-37-2|Ox. Liq. 3 / Acute Tox. 3 / Skin Corr. 1A|H272 / H331 / H314|EUH071|inhalation: ATE = 2,65 mg/L (vapours) / Ox. Liq. 3; H272: C ≥ 65 % / Skin Corr. 1A; H314: C ≥ 20 % / Skin Corr. 1B; H314: 5 % ≤ C < 20 %
007-008-00-3|hydrazine|206-114-9|302-01-2|Flam. Liq. 3 / Carc. 1B / Acute Tox. 3 * / Acute Tox. 3 * / Acute Tox. 3 * / Skin Corr. 1B / Skin Sens. 1 / Aquatic Acute 1 / Aquatic Chronic 1|H226 / H350 / H331 / H311 / H301 / H314 / H317 / H400 / H410||Skin Corr. 1B; H314: C ≥ 10 % / Skin Irrit. 2; H315: 3 % ≤ C < 10 % / Eye Irrit. 2; H319: 3 % ≤ C < 10 %
009-003-00-1|hydrofluoric acid … %|231-634-8|7664-39-3|Acute Tox. 2 * / Acute Tox. 1 / Acute Tox. 2 * / Skin Corr. 1A|H330 / H310 / H300 / H314||Skin Corr. 1A; H314: C ≥ 7 % / Skin Corr. 1B; H314: 1 % ≤ C < 7 % / Eye Irrit. 2; H319: 0,1 % ≤ C < 1 %
011-002-00-6|sodium hydroxide; caustic soda|215-185-5|1310-73-2|Skin Corr. 1A|H314||Skin Corr. 1A; H314: C ≥ 5 % / Skin Corr. 1B; H314: 2 % ≤ C < 5 % / Skin Irrit. 2; H315: 0,5 % ≤ C < 2 % / Eye Irrit. 2; H319: 0,5 % ≤ C < 2 %
015-011-00-6|phosphoric acid … %, orthophosphoric acid … %|231-633-2|7664-38-2|Skin Corr. 1B|H314||Skin Corr. 1B; H314: C ≥ 25 % / Skin Irrit. 2; H315: 10 % ≤ C < 25 % / Eye Irrit. 2; H319: 10 % ≤ C < 25 %
016-020-00-8|sulphuric acid … %|231-639-5|7664-93-9|Skin Corr. 1A|H314||Skin Corr. 1A; H314: C ≥ 15 % / Skin Irrit. 2; H315: 5 % ≤ C < 15 % / Eye Irrit. 2; H319: 5 % ≤ C < 15 %
017-002-00-2|hydrogen chloride|231-595-7|7647-01-0|Press. Gas / Acute Tox. 3 * / Skin Corr. 1A|H331 / H314||
017-002-01-X|hydrochloric acid … %|231-595-7|7647-01-0|Skin Corr. 1B / STOT SE 3|H314 / H335||Skin Corr. 1B; H314: C ≥ 25 %
017-011-00-1|sodium hypochlorite, solution … % Cl active|231-668-3|7681-52-9|Skin Corr. 1B / Eye Dam. 1 / Aquatic Acute 1 / Aquatic Chronic 1|H314 / H318 / H400 / H410|EUH031|M = 10 / M = 1 (chronic) / EUH031: C ≥ 5 %
024-001-00-0|chromium (VI) trioxide|215-607-8|1333-82-0|Ox. Sol. 1 / Carc. 1A / Muta. 1B / Repr. 2 / Acute Tox. 2 * / Acute Tox. 3 * / Acute Tox. 3 * / STOT RE 1 / Skin Corr. 1A / Resp. Sens. 1 / Skin Sens. 1 / Aquatic Acute 1 / Aquatic Chronic 1|H271 / H350 / H340 / H361f *** / H330 / H311 / H301 / H372 ** / H314 / H334 / H317 / H400 / H410||STOT SE 3; H335: C ≥ 1 %
027-004-00-5|cobalt dichloride|231-589-4|7646-79-9|Carc. 1B / Muta. 2 / Repr. 1B / Acute Tox. 4 * / Resp. Sens. 1 / Skin Sens. 1 / Aquatic Acute 1 / Aquatic Chronic 1|H350i / H341 / H360F *** / H302 / H334 / H317 / H400 / H410||Carc. 1B; H350i: C ≥ 0,01 % / M = 10
028-002-00-7|nickel|231-111-4|7440-02-0|Carc. 2 / STOT RE 1 / Skin Sens. 1|H351 / H372 ** / H317||
080-001-00-0|mercury|231-106-7|7439-97-6|Repr. 1B / Acute Tox. 2 * / STOT RE 1 / Aquatic Acute 1 / Aquatic Chronic 1|H360D *** / H330 / H372 ** / H400 / H410||
082-013-00-1|lead powder; [particle diameter < 1 mm]|231-100-4|7439-92-1|Repr. 1A / Lact.|H360FD / H362||Repr. 1A; H360D: C ≥ 0,03 %
601-003-00-5|propane|200-827-9|74-98-6|Flam. Gas 1A / Press. Gas|H220||
601-020-00-8|benzene|200-753-7|71-43-2|Flam. Liq. 2 / Carc. 1A / Muta. 1B / STOT RE 1 / Asp. Tox. 1 / Eye Irrit. 2 / Skin Irrit. 2|H225 / H350 / H340 / H372 ** / H304 / H319 / H315||
601-021-00-3|toluene|203-625-9|108-88-3|Flam. Liq. 2 / Repr. 2 / Asp. Tox. 1 / STOT RE 2 * / Skin Irrit. 2 / STOT SE 3|H225 / H361d *** / H304 / H373 ** / H315 / H336||
601-022-00-9|o-xylene [1] / p-xylene [2] / m-xylene [3]|202-422-2 [1] / 203-396-5 [2] / 203-576-3 [3]|95-47-6 [1] / 106-42-3 [2] / 108-38-3 [3]|Flam. Liq. 3 / Acute Tox. 4 * / Acute Tox. 4 * / Skin Irrit. 2|H226 / H332 / H312 / H315||
601-023-00-4|ethylbenzene|202-849-4|100-41-4|Flam. Liq. 2 / Acute Tox. 4 * / STOT RE 2 / Asp. Tox. 1|H225 / H332 / H373 (hearing organs) / H304||
601-037-00-0|n-hexane|203-777-6|110-54-3|Flam. Liq. 2 / Repr. 2 / Asp. Tox. 1 / STOT RE 2 * / Skin Irrit. 2 / STOT SE 3 / Aquatic Chronic 2|H225 / H361f *** / H304 / H373 ** / H315 / H336 / H411||STOT RE 2; H373: C ≥ 5 %
602-006-00-4|chloroform; trichloromethane|200-663-8|67-66-3|Acute Tox. 4 / Acute Tox. 3 / Skin Irrit. 2 / Eye Irrit. 2 / Carc. 2 / Repr. 2 / STOT RE 1|H302 / H331 / H315 / H319 / H351 / H361d / H372||
603-001-00-X|methanol|200-659-6|67-56-1|Flam. Liq. 2 / Acute Tox. 3 * / Acute Tox. 3 * / Acute Tox. 3 * / STOT SE 1|H225 / H331 / H311 / H301 / H370 **||STOT SE 1; H370: C ≥ 10 % / STOT SE 2; H371: 3 % ≤ C < 10 %
603-014-00-0|2-butoxyethanol; butyl glycol|203-905-0|111-76-2|Acute Tox. 3 / Acute Tox. 4 / Skin Irrit. 2 / Eye Irrit. 2|H331 / H302 / H315 / H319||inhalation: ATE = 3 mg/L (vapours) / oral: ATE = 1200 mg/kg bw
603-025-00-0|tetrahydrofuran|203-726-8|109-99-9|Flam. Liq. 2 / Carc. 2 / Eye Irrit. 2 / STOT SE 3|H225 / H351 / H319 / H335|EUH019|STOT SE 3; H335: C ≥ 25 % / Eye Irrit. 2; H319: C ≥ 25 %
604-001-00-2|phenol|203-632-7|108-95-2|Muta. 2 / Acute Tox. 3 * / Acute Tox. 3 * / Acute Tox. 3 * / STOT RE 2 * / Skin Corr. 1B|H341 / H331 / H311 / H301 / H373 ** / H314||Skin Corr. 1B; H314: C ≥ 3 % / Skin Irrit. 2; H315: 1 % ≤ C < 3 % / Eye Irrit. 2; H319: 1 % ≤ C < 3 %
605-001-00-5|formaldehyde … %|200-001-8|50-00-0|Carc. 1B / Muta. 2 / Acute Tox. 3 * / Acute Tox. 3 * / Acute Tox. 3 * / Skin Corr. 1B / Skin Sens. 1|H350 / H341 / H331 / H311 / H301 / H314 / H317||Skin Corr. 1B; H314: C ≥ 25 % / Skin Irrit. 2; H315: 5 % ≤ C < 25 % / Eye Irrit. 2; H319: 5 % ≤ C < 25 % / STOT SE 3; H335: C ≥ 5 % / Skin Sens. 1; H317: C ≥ 0,2 %
606-001-00-8|acetone|200-662-2|67-64-1|Flam. Liq. 2 / Eye Irrit. 2 / STOT SE 3|H225 / H319 / H336|EUH066|
607-002-00-6|acetic acid … %|200-580-7|64-19-7|Flam. Liq. 3 / Skin Corr. 1A|H226 / H314||Skin Corr. 1A; H314: C ≥ 90 % / Skin Corr. 1B; H314: 25 % ≤ C < 90 % / Skin Irrit. 2; H315: 10 % ≤ C < 25 % / Eye Irrit. 2; H319: 10 % ≤ C < 25 %
615-005-00-9|4,4'-methylenediphenyl diisocyanate|202-966-0|101-68-8|Carc. 2 / Acute Tox. 4 * / STOT RE 2 * / Eye Irrit. 2 / STOT SE 3 / Skin Irrit. 2 / Resp. Sens. 1 / Skin Sens. 1|H351 / H332 / H373 ** / H319 / H335 / H315 / H334 / H317||Eye Irrit. 2; H319: C ≥ 5 % / STOT SE 3; H335: C ≥ 5 % / Skin Irrit. 2; H315: C ≥ 5 % / Resp. Sens. 1; H334: C ≥ 0,1 %
617-008-00-0|dibenzoyl peroxide|202-327-6|94-36-0|Org. Perox. B / Eye Irrit. 2 / Skin Sens. 1 / Aquatic Acute 1 / Aquatic Chronic 1|H241 / H319 / H317 / H400 / H410||M = 10 / M (Chronic) = 10
649-378-00-4|Gasoline; Low boiling point naphtha — unspecified|289-220-8|86290-81-5|Carc. 1B / Muta. 1B / Asp. Tox. 1|H350 / H340 / H304||
024-017-00-8|Chromium (VI) compounds, with the exception of barium chromate|-|-|Carc. 1B / Skin Sens. 1|H350i / H317||
900-001-00-1|made up: a class that nobody knows|-|64-17-5|Kelp Tox. 1|H225||
900-002-00-7|made up: a limit that nobody knows|-|67-63-0|Flam. Liq. 2|H225||Flam. Liq. 2; H225: sometimes
900-003-00-2|made up: a number with a wrong check digit|-|67-63-1|Flam. Liq. 2|H225||
900-004-00-8|made up: a statement of no class|-|71-23-8|Flam. Liq. 2|H225 / H318||`
