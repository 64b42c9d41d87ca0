package main

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/symbology"
)

// read asks independent readers what a picture says: ZXing's, zbar's, and libdmtx's.
func read(t *testing.T, id symbology.ID, file string) (texts []string) {
	t.Helper()
	out, err := exec.Command("ZXingReader", "-1", file).Output()
	require.NoError(t, err, "%s %s", id, out)
	texts = append(texts, string(out))
	switch id {
	case symbology.Code128, symbology.Code39, symbology.EAN13, symbology.QR:
		// zbar wants larger modules than the smallest
		if out, err := exec.Command("zbarimg", "-q", "--raw", file).Output(); err == nil {
			texts = append(texts, string(out))
		}
	case symbology.DataMatrix:
		if out, err := exec.Command("dmtxread", "-n", file).Output(); err == nil {
			texts = append(texts, string(out))
		}
	}
	return texts
}

// Every symbology is read by readers that share nothing with the encoders: at each resolution, in all
// quarter turns, at the smallest module that the printer makes of what the guide goes down to.
func TestEverySymbologyIsReadByOthers(t *testing.T) {
	folder := t.TempDir()
	for _, guide := range symbology.All() {
		for _, perMillimetre := range []int{8, 12, 24} {
			for _, turn := range []int{0, 90, 180, 270} {
				file := filepath.Join(folder, "code.png")
				code, out, errors := do("code", "-symbology", string(guide.ID), "-data", guide.Example,
					"-dots-per-mm", fmt.Sprint(perMillimetre),
					"-module", fmt.Sprintf("%gmm", float64(guide.Least)/1000), "-option", "fit=not smaller", "-height",
					"12mm", "-turn", fmt.Sprint(turn), "-out", file)
				require.Zero(t, code, errors)
				var made made
				require.NoError(t, json.Unmarshal([]byte(out), &made))
				for _, finding := range made.Findings { // the reader at hand fails at taller ones
					require.Contains(t, finding, "The bars are 12.0 mm tall", "%s turned %d", guide.ID, turn)
				}
				require.GreaterOrEqual(t, made.Module*1000+0.5, float64(guide.Least))
				switch guide.ID {
				case symbology.Code11, symbology.MSI, symbology.Pharmacode, symbology.Industrial2of5,
					symbology.IATA2of5, symbology.Matrix2of5, symbology.Telepen, symbology.TelepenNumeric:
					continue // no reader at hand has them; package symbology decodes them by their definitions
				case symbology.DataBarLimited, symbology.DataBarStacked, symbology.DataBarStackedLow, symbology.RMQR,
					symbology.DataBarExpandedStacked, symbology.MicroPDF417:
					// Debian's reader is too old for them, or fails at tall ones; e2e/tests/readers.spec.ts has one
					// that is not
					continue
				}
				said := strings.ReplaceAll(made.Says, "\x1d", "")
				switch guide.ID {
				case symbology.Code39Full:
					said = guide.Example
				case symbology.DataBarExpanded: // this reader writes the identifiers in brackets
					said = guide.Example
				case symbology.DataBar: // and leaves this one away
					said = strings.TrimPrefix(said, "01")
				}
				for _, text := range read(t, guide.ID, file) {
					clean := strings.NewReplacer("\x1d", "", "<GS>", "", "\\x1D", "", "+K", "K").Replace(text)
					if guide.ID == symbology.Code39Full && !strings.Contains(clean, said) {
						require.Contains(t, text, made.Says, "as a reader says it that was not told of full ASCII")
						continue
					}
					require.Contains(t, clean, said, "%s at %d dots/mm, turned %d", guide.ID, perMillimetre, turn)
				}
			}
		}
	}
}

func TestCodesOfTheCommandLine(t *testing.T) {
	folder := t.TempDir()
	png, svg := filepath.Join(folder, "a.png"), filepath.Join(folder, "a.svg")
	code, out, _ := do("code", "-symbology", "code128", "-data", `A\x1dB`, "-text", "below", "-out", png)
	require.Zero(t, code)
	require.Contains(t, out, `"says": "A\u001dB"`)
	require.Contains(t, out, `"deviationPerCent": 13.6`)
	code, out, _ = do("code", "-read", png)
	require.Zero(t, code)
	require.Contains(t, out, "CODE_128")
	for _, test := range [][]string{ // what is read, its symbology and identifier, and what it says
		{"codabar", "A26-104B", `"]F0"`, `"A26-104B"`}, {"pdf417", "5 °C", `"]L0"`, `"5 °C"`},
		{"gs1-128", "(10)26K104(21)7", `"]C1"`, `"1026K104\u001d217"`}, {"rmqr", "KELP", `"]Q1"`, `"KELP"`},
		{"databar-limited", "09521234543213", `"]e0"`, `"0109521234543213"`},
		{"micro-pdf417", "Berth 4", `"]L0"`, `"Berth 4"`},
	} {
		code, _, message := do("code", "-symbology", test[0], "-data", test[1], "-turn", "90", "-out", png)
		require.Zero(t, code, message)
		code, out, message = do("code", "-read", png)
		require.Zero(t, code, message)
		for _, want := range append(test[2:], `"symbology": "`+test[0]+`"`) {
			require.Contains(t, out, want, test)
		}
	}
	code, _, _ = do("code", "-symbology", "qr", "-data", "海苔", "-option", "level=H", "-out", svg)
	require.Zero(t, code)
	text, err := os.ReadFile(svg)
	require.NoError(t, err)
	require.Contains(t, string(text), "<svg")
	code, out, _ = do("code", "-symbology", "ean13", "-data", "952123454321", "-text", "below", "-out", png)
	require.Zero(t, code, out)
	require.Contains(t, read(t, symbology.EAN13, png)[0], "9521234543213", "guard bars and figures do not disturb")

	code, out, _ = do("code", "-list")
	require.Zero(t, code)
	var guides []symbology.Kind
	require.NoError(t, json.Unmarshal([]byte(out), &guides))
	require.Len(t, guides, len(symbology.All()))

	for _, test := range []struct {
		args []string
		code int
		says string
	}{
		{[]string{"-symbology", "ean13", "-data", "95212345432"}, 1, "EAN-13 takes 12 or 13 digits"},
		{[]string{"-symbology", "qr", "-data", "x", "-option", "level=Z"}, 1, "L, M, Q or H"},
		{[]string{"-symbology", "runes", "-data", "x"}, 2, `"runes" is not known here; it can be "code128"`},
		{[]string{"-symbology", "qr", "-data", `\xzz`}, 2, "is no byte"},
		{[]string{"-symbology", "qr", "-data", "x", "-module", "wide"}, 2, "-module"},
		{[]string{"-symbology", "qr", "-data", "x", "-turn", "45"}, 2, "-turn 0, 90"},
		{[]string{"-symbology", "qr", "-data", "x", "-text", "left"}, 2, "none, below or above"},
		{[]string{"-symbology", "qr", "-data", "x", "-option", "level"}, 2, "level=H"},
		{[]string{"-symbology", "qr", "-data", "x", "-option", "colour=red"}, 2, "no such option"},
		{[]string{"-symbology", "code128", "-data", "x", "-height", "tall"}, 2, "-height"},
	} {
		code, _, errors := do(append([]string{"code", "-out", png}, test.args...)...)
		require.Equal(t, test.code, code, "%v: %s", test.args, errors)
		require.Contains(t, errors, test.says)
	}
	code, _, errors := do("code", "-data", "x")
	require.Equal(t, 2, code)
	require.Contains(t, errors, "are needed")
	require.NoError(t, os.WriteFile(png, []byte("no picture"), 0o600))
	code, _, errors = do("code", "-read", png)
	require.Equal(t, 2, code)
	require.Contains(t, errors, "is no PNG")
}

// Micro QR Code is read by others in each of its versions and levels. Full symbols of M1 and M3 make
// the reader at hand fail, since nothing ends their data, so one digit less is tried there.
func TestMicroQRIsReadInEveryVersion(t *testing.T) {
	file := filepath.Join(t.TempDir(), "micro.png")
	for _, test := range []struct {
		text, level string
		modules     int
	}{
		{"1234", "", 11}, {"123456", "", 13}, {"12345678", "M", 13}, {"KELP-1", "L", 13},
		{"12345678901234567890", "L", 15}, {"KELP-104", "M", 15}, {"kelp 1", "M", 15},
		{"AB12 CD34 EF56 GH78", "L", 17}, {"kelp & dulse", "M", 17}, {"Tang 7", "Q", 17},
		{"12345678901234567890123456789012345", "L", 17},
	} {
		code, out, errors := do("code", "-symbology", "micro-qr", "-data", test.text, "-option", "level="+test.level,
			"-module", "0.5mm", "-out", file)
		require.Zero(t, code, errors)
		var made made
		require.NoError(t, json.Unmarshal([]byte(out), &made))
		require.Equal(t, (test.modules+4)*4, made.WidthDots, test.text)
		require.Empty(t, made.Findings)
		require.Contains(t, read(t, symbology.MicroQR, file)[0], test.text)
	}
	for text, want := range map[string]string{"שלום": "western Europe",
		strings.Repeat("1", 36): "holds up to 35 digits"} {
		code, _, errors := do("code", "-symbology", "micro-qr", "-data", text, "-out", file)
		require.Equal(t, 1, code)
		require.Contains(t, errors, want)
	}
}

// Each rectangle of Data Matrix is read by libdmtx and ZXing, lying and standing.
func TestRectanglesOfDataMatrixAreRead(t *testing.T) {
	file := filepath.Join(t.TempDir(), "rectangle.png")
	sizes, second := map[string]bool{}, 0
	for _, text := range []string{"26K", "26K104", "KELP 26K104", "Kelp lot 26K104, berth",
		"Kelp lot 26K104, berth 7, crate 00", "Kelp lot 26K104, berth 7, crate 00417 of 04, dulse"} {
		for _, turn := range []string{"0", "90"} {
			code, out, errors := do("code", "-symbology", "datamatrix", "-data", text, "-option", "shape=rectangle",
				"-module", "0.5mm", "-turn", turn, "-out", file)
			require.Zero(t, code, errors)
			var made made
			require.NoError(t, json.Unmarshal([]byte(out), &made))
			if turn == "0" {
				sizes[fmt.Sprint(made.WidthDots, made.HeightDots)] = true
			}
			texts := read(t, symbology.DataMatrix, file)
			require.Contains(t, texts[0], text)
			for _, other := range texts[1:] {
				require.Equal(t, text, strings.TrimSuffix(other, "\n"))
				second++
			}
		}
	}
	require.GreaterOrEqual(t, len(sizes), 5)
	require.GreaterOrEqual(t, second, 6, "libdmtx does not find them all")
}

// What is chosen reaches the code: columns, the beginning of a link, and the purpose, whose sizes are
// told as findings.
func TestOptionsOfTheCommandLine(t *testing.T) {
	file := filepath.Join(t.TempDir(), "code.png")
	make := func(args ...string) (m made) {
		code, out, errors := do(append([]string{"code", "-out", file}, args...)...)
		require.Zero(t, code, errors)
		require.NoError(t, json.Unmarshal([]byte(out), &m))
		return m
	}
	one := make("-symbology", "pdf417", "-data", "Crate 104", "-option", "columns=1")
	four := make("-symbology", "pdf417", "-data", "Crate 104", "-option", "columns=4")
	require.Equal(t, 3*17*one.ModuleDots, four.WidthDots-one.WidthDots, "three columns of 17 modules more")
	require.Less(t, four.HeightDots, one.HeightDots)

	link := make("-symbology", "gs1-link-qr", "-data", "(01)09521234543213", "-option",
		"host=https://id.brinewick.example", "-module", "0.5mm")
	require.Equal(t, "HTTPS://ID.BRINEWICK.EXAMPLE/01/09521234543213", link.Says)
	require.Equal(t, "(01)09521234543213", link.Text)
	require.Empty(t, link.Findings)

	require.Empty(t, make("-symbology", "gs1-128", "-data", "(00)095212345432123453", "-module", "0.5mm", "-height",
		"32mm", "-option", "purpose=logistic").Findings)
	small := make("-symbology", "gs1-128", "-data", "(00)095212345432123453", "-module", "0.375mm", "-height", "20mm",
		"-option", "purpose=logistic")
	require.Len(t, small.Findings, 2)
	require.Contains(t, small.Findings[0], "0.495 mm on logistic units")
	require.Contains(t, small.Findings[1], "should have 31.8 mm")
	require.Contains(t, make("-symbology", "gs1-128", "-data", "(10)26K104").Findings[0], "needs (01)")

	code, _, errors := do("code", "-symbology", "pdf417", "-data", "x", "-option", "columns=many", "-out", file)
	require.Equal(t, 2, code)
	require.Contains(t, errors, "columns=many")
	code, _, errors = do("code", "-symbology", "micro-pdf417", "-data", "x", "-option", "columns=9", "-out", file)
	require.Equal(t, 1, code)
	require.Contains(t, errors, "from 1 to 4, not 9")
}
