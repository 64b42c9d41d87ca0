//go:build !(js && wasm)

package main

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/strip"
	_ "oddspool/core/typefaces"
	"oddspool/core/typeset"
	"oddspool/examples"
	"oddspool/internal/sources"
)

type drawn struct {
	Label json.RawMessage `json:"label"`
	Dots  string          `json:"dots"`
}

type opened struct {
	Error  string          `json:"error"`
	About  json.RawMessage `json:"about"`
	Labels []drawn         `json:"labels"`
	Times  [][2]float64    `json:"times"`
}

type job struct {
	Exec      string           `json:"exec"`
	Wasm      string           `json:"wasm"`
	Typefaces []map[string]any `json:"typefaces"`
	Designs   []map[string]any `json:"designs"`
	Rounds    int              `json:"rounds"`
}

// newJob builds the module and puts the font files beside it.
func newJob(t testing.TB) *job {
	folder := t.TempDir()
	root, err := exec.Command("go", "env", "GOROOT").Output()
	require.NoError(t, err)
	j := &job{Exec: filepath.Join(strings.TrimSpace(string(root)), "lib/wasm/wasm_exec.js"),
		Wasm: filepath.Join(folder, "core.wasm")}
	build := exec.Command("go", "build", "-trimpath", "-ldflags=-s -w", "-o", j.Wasm, ".")
	build.Env = append(os.Environ(), "GOOS=js", "GOARCH=wasm")
	out, err := build.CombinedOutput()
	require.NoError(t, err, string(out))
	for _, f := range typeset.Files() {
		sum := sha256.Sum256(f.Data())
		hash := hex.EncodeToString(sum[:])
		path := filepath.Join(folder, hash)
		require.NoError(t, os.WriteFile(path, f.Data(), 0o600))
		j.Typefaces = append(j.Typefaces, map[string]any{"family": f.Family, "bold": f.Bold, "italic": f.Italic,
			"standsIn": f.StandsIn, "hash": hash, "path": path})
	}
	return j
}

func (j *job) run(t testing.TB) (answer []opened) {
	data, err := json.Marshal(j)
	require.NoError(t, err)
	node := exec.Command("node", "driver.mjs")
	node.Stdin, node.Stderr = bytes.NewReader(data), os.Stderr
	out, err := node.Output()
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(out, &answer))
	return answer
}

// recordsFor gives each example the records that it is made for.
func recordsFor(t testing.TB, d *design.Design) (fields []string, records [][]string) {
	used := d.UsedFields()
	for _, file := range []string{"bins.csv", "pallets.csv", "circuits.csv", "racks.csv"} {
		data, err := examples.Files.ReadFile(file)
		require.NoError(t, err)
		table, err := sources.Read(data, sources.Settings{})
		require.NoError(t, err)
		has := len(used) > 0
		for _, field := range used {
			has = has && strings.Contains("\n"+strings.Join(table.Fields, "\n")+"\n", "\n"+field+"\n")
		}
		if has {
			return table.Fields, table.Records[:min(len(table.Records), 25)]
		}
	}
	return []string{}, [][]string{{}}
}

// The core in the page and the core in the server draw the same dots and say the same of every example.
func TestModuleDrawsWhatTheServerDraws(t *testing.T) {
	j := newJob(t)
	entries, err := examples.Files.ReadDir(".")
	require.NoError(t, err)
	var want []opened
	for _, entry := range entries {
		if filepath.Ext(entry.Name()) != ".json" {
			continue
		}
		data, err := examples.Files.ReadFile(entry.Name())
		require.NoError(t, err)
		d, err := design.Parse(data)
		if err != nil {
			continue // it is another document
		}
		fields, records := recordsFor(t, d)
		j.Designs = append(j.Designs, map[string]any{"document": string(data), "fields": fields, "records": records})
		drawer, err := strip.New(d, fields)
		require.NoError(t, err, entry.Name())
		about, err := json.Marshal(drawer.About())
		require.NoError(t, err)
		made := opened{About: about}
		for i, record := range records {
			label, layers := drawer.Draw(i+1, record)
			text, err := json.Marshal(label)
			require.NoError(t, err)
			var rows []byte
			for _, plane := range layers {
				for y := range plane.Height {
					rows = plane.AppendRow(rows, y)
				}
			}
			sum := sha256.Sum256(rows)
			made.Labels = append(made.Labels, drawn{text, hex.EncodeToString(sum[:])})
		}
		want = append(want, made)
	}
	require.GreaterOrEqual(t, len(want), 8)
	j.Designs = append(j.Designs, map[string]any{"document": "{}", "fields": []string{}, "records": [][]string{{}}})
	got := j.run(t)
	require.NotEmpty(t, got[len(want)].Error, "what is no design is said so")
	for i := range want {
		require.Empty(t, got[i].Error)
		require.JSONEq(t, string(want[i].About), string(got[i].About))
		require.Len(t, got[i].Labels, len(want[i].Labels))
		for n := range want[i].Labels {
			require.Equal(t, want[i].Labels[n].Dots, got[i].Labels[n].Dots, "design %d, label %d", i, n+1)
			require.JSONEq(t, string(want[i].Labels[n].Label), string(got[i].Labels[n].Label))
		}
	}
}

// BenchmarkModule tells how long a changed design and its label take in the module: with 40 elements.
func BenchmarkModule(b *testing.B) {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(b, err)
	d, err := design.Parse(data)
	require.NoError(b, err)
	base := d.Elements
	for i := 0; len(d.Elements) < 40; i++ {
		e := base[i%len(base)]
		e.ID = fmt.Sprintf("%s %d", e.ID, i)
		d.Elements = append(d.Elements, e)
	}
	document, err := json.Marshal(d)
	require.NoError(b, err)
	fields, records := recordsFor(b, d)
	j := newJob(b)
	j.Rounds = 200
	j.Designs = []map[string]any{{"document": string(document), "fields": fields, "records": records[:1]}}
	answer := j.run(b)[0]
	require.Empty(b, answer.Error)
	var open, draw float64
	for _, times := range answer.Times[50:] {
		open, draw = open+times[0], draw+times[1]
	}
	n := float64(len(answer.Times) - 50)
	b.ReportMetric(open/n, "ms-open")
	b.ReportMetric(draw/n, "ms-draw")
}
