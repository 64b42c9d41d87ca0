package main

import (
	"encoding/json"
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestHazardOfTheCommandLine(t *testing.T) {
	code, out, message := do("hazard", "-classes", "Flam. Liq. 2; Acute Tox. 3 (oral)", "-volume", "0.5 l", "-language",
		"de")
	require.Zero(t, code, message)
	var label struct {
		Pictograms, Hazards, Precautions []struct {
			Code, Text string
			Because    []string
		}
		Signal, SignalWord string
		Size               struct{ Width, Pictogram float64 }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &label))
	require.Equal(t, []string{"GHS02", "GHS06"}, []string{label.Pictograms[0].Code, label.Pictograms[1].Code})
	require.Equal(t, []string{"danger", "Gefahr", "H225", "H301"}, []string{label.Signal, label.SignalWord,
		label.Hazards[0].Code, label.Hazards[1].Code})
	require.Equal(t, []string{"Acute Tox. 3 (oral)"}, label.Hazards[1].Because)
	require.Equal(t, []float64{74, 16}, []float64{label.Size.Width, label.Size.Pictogram})

	code, out, message = do("hazard", "-substance", "7664-93-9", "-rules", "hazcom")
	require.Zero(t, code, message)
	require.Contains(t, out, `"un": "1830"`)
	require.Contains(t, out, `"GHS05"`)
	code, out, message = do("hazard", "-mixture", "12% 1310-73-2; 3% Skin Irrit. 2")
	require.Zero(t, code, message)
	require.Contains(t, out, `"classification": "Skin Corr. 1A; Eye Dam. 1"`)
	code, out, _ = do("hazard", "-mixture", "3% Skin Irrit. 2")
	require.Zero(t, code)
	require.Contains(t, out, "below 10 %: not classified")
	require.Contains(t, out, `"pictograms": []`, "a label it has all the same")
	code, out, _ = do("hazard", "-search", "lye")
	require.Zero(t, code)
	require.Contains(t, out, "1310-73-2")
}

func TestPipesAndSignsOfTheCommandLine(t *testing.T) {
	code, out, message := do("pipe", "-contents", "cooling water", "-diameter", "60mm", "-rules", "asme", "-length",
		"40m", "-valves", "2")
	require.Zero(t, code, message)
	var marked struct {
		Group   struct{ Field, Letters string }
		Marking struct{ LetterHeight, FieldLength float64 }
		Markers int
	}
	require.NoError(t, json.Unmarshal([]byte(out), &marked))
	require.Equal(t, "green", marked.Group.Field)
	require.Equal(t, []float64{32, 300}, []float64{marked.Marking.LetterHeight, marked.Marking.FieldLength})
	require.Equal(t, 5, marked.Markers)
	code, out, _ = do("pipe", "-groups", "-rules", "din")
	require.Zero(t, code)
	require.Contains(t, out, `"0-oxygen"`)
	code, out, _ = do("sign", "-distance", "12m")
	require.Zero(t, code)
	require.Contains(t, out, `"signHeight": 120`)
	code, out, _ = do("sign", "-height", "5cm", "-letters", "10mm")
	require.Zero(t, code)
	require.JSONEq(t, `{"signDistance": 5, "letterDistance": 3}`, out)
}

func TestSymbolsOfTheCommandLine(t *testing.T) {
	code, out, message := do("symbol", "-list")
	require.Zero(t, code, message)
	var all []struct{ ID, Family, Name string }
	require.NoError(t, json.Unmarshal([]byte(out), &all))
	require.GreaterOrEqual(t, len(all), 190)
	code, out, _ = do("symbol", "-search", "eye wash")
	require.Zero(t, code)
	require.Contains(t, out, `"E011"`)
	folder := t.TempDir()
	for _, name := range []string{"w.svg", "w.png"} {
		code, _, message = do("symbol", "-draw", "W012", "-out", filepath.Join(folder, name))
		require.Zero(t, code, message)
	}
	drawing, err := os.ReadFile(filepath.Join(folder, "w.svg"))
	require.NoError(t, err)
	require.Contains(t, string(drawing), "<svg")
	file, err := os.Open(filepath.Join(folder, "w.png"))
	require.NoError(t, err)
	defer file.Close()
	picture, err := png.Decode(file)
	require.NoError(t, err)
	require.Equal(t, 480, picture.Bounds().Dx())
	r, g, b, _ := picture.At(240, 120).RGBA()
	require.Equal(t, []uint32{0xF7, 0xC6, 0}, []uint32{r >> 8, g >> 8, b >> 8}, "yellow in the triangle")
}

func TestTagsOfTheCommandLine(t *testing.T) {
	code, out, message := do("epc", "-encode", "sgtin-96", "-data", "(01)09521234543213(21)417", "-prefix", "7",
		"-filter", "1")
	require.Zero(t, code, message)
	var tag map[string]any
	require.NoError(t, json.Unmarshal([]byte(out), &tag))
	require.Equal(t, "3036452148350C40000001A1", tag["hex"])
	require.Equal(t, "urn:epc:id:sgtin:9521234.054321.417", tag["pureIdentity"])
	require.NotContains(t, tag, "companyPrefixAssumed")
	for _, what := range []string{"3036452148350C40000001A1", "urn:epc:tag:sgtin-96:1.9521234.054321.417"} {
		code, again, message := do("epc", "-decode", what)
		require.Zero(t, code, message)
		require.Equal(t, out, again)
	}
	code, out, _ = do("epc", "-encode", "SSCC-96", "-data", "(00)106141412345678908")
	require.Zero(t, code)
	require.Contains(t, out, `"companyPrefixAssumed": true`)
	code, out, _ = do("epc", "-encode", "gsrn-96", "-data", "urn:epc:id:gsrn:0614141.1234567890", "-filter", "3")
	require.Zero(t, code)
	require.Contains(t, out, "2D74257BF4499602D2000000")
	code, out, _ = do("epc", "-list")
	require.Zero(t, code)
	require.Contains(t, out, "adi-var")
	code, _, message = do("epc", "-encode", "sgtin-96", "-data", "(01)09521234543213(21)0417")
	require.Equal(t, 1, code)
	require.Contains(t, message, "begins with 0")
	code, _, _ = do("epc")
	require.Equal(t, 2, code)
}

func TestWrongQuestionsAboutSafety(t *testing.T) {
	for _, test := range []struct {
		says string
		code int
		args []string
	}{
		{"contradict", 1, []string{"hazard", "-classes", "Flam. Liq. 2; Flam. Liq. 3"}},
		{"check digit", 1, []string{"hazard", "-substance", "67-64-2"}},
		{"more than the mixture", 1, []string{"hazard", "-mixture", "60% 67-64-1; 50% 64-17-5"}},
		{"no part of a mixture", 1, []string{"hazard", "-mixture", "much"}},
		{"no form", 1, []string{"hazard", "-mixture", "5% 67-64-1", "-form", "soup"}},
		{"no rule set", 1, []string{"hazard", "-substance", "67-64-1", "-rules", "none"}},
		{"no language", 1, []string{"hazard", "-classes", "Carc. 2", "-language", "xx"}},
		{"no number with a unit", 2, []string{"hazard", "-classes", "Carc. 2", "-volume", "much"}},
		{"unit", 2, []string{"hazard", "-classes", "Carc. 2", "-volume", "5 pints"}},
		{"say -classes", 2, []string{"hazard"}},
		{"not known here", 1, []string{"pipe", "-contents", "stuff", "-diameter", "60mm"}},
		{"no outside diameter", 1, []string{"pipe", "-contents", "water"}},
		{"0 or more", 1, []string{"pipe", "-contents", "water", "-diameter", "60", "-valves", "-2"}},
		{"no light", 1, []string{"sign", "-letters", "5mm", "-light", "none"}},
		{"no distance", 1, []string{"sign", "-distance", "0m"}},
		{"say -distance", 2, []string{"sign"}},
		{"There is no symbol", 1, []string{"symbol", "-draw", "W999", "-out", "x.svg"}},
		{"end in .svg or .png", 2, []string{"symbol", "-draw", "W001", "-out", "x.gif"}},
		{"8 to 8192", 2, []string{"symbol", "-draw", "W001", "-out", "x.png", "-size", "5"}},
		{"say -list", 2, []string{"symbol"}},
	} {
		code, _, message := do(test.args...)
		require.Equal(t, test.code, code, "%v: %s", test.args, message)
		require.Contains(t, message, test.says, "%v", test.args)
	}
}
