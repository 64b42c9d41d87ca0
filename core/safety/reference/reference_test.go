package reference_test

import (
	"archive/zip"
	"bytes"
	"crypto/ed25519"
	"crypto/rand"
	"encoding/json"
	"io"
	"strings"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/safety/pipe"
	"oddspool/core/safety/reference"
)

var public, private, _ = ed25519.GenerateKey(rand.Reader)

// next returns the files of the shipped pack with some changes.
func next(t *testing.T) map[string][]byte {
	files := reference.Shipped().Files()
	edit := func(name, old, new string) {
		require.Contains(t, string(files[name]), old, name)
		files[name] = bytes.Replace(files[name], []byte(old), []byte(new), 1)
	}
	edit("hazards/statements.tsv", "Highly flammable liquid and vapour", "Very flammable liquid and vapour")
	edit("signs/texts.tsv", "danger\tW042\tArc flash. Stay outside the line.\n", "")
	files["signs/texts.tsv"] = append(files["signs/texts.tsv"], "warning\tW011\tWet deck. Hold on.\n"...)
	files["symbols/W011.svg"] = bytes.Replace(files["symbols/W011.svg"], []byte("<path d=\"M"),
		[]byte("<path d=\"M0 0 "), 1)
	return files
}

func packed(t *testing.T, version string, files map[string][]byte) []byte {
	var out bytes.Buffer
	require.NoError(t, reference.Write(&out, reference.About{Version: version, Date: "2026-12-01",
		By: "Brinewick Kelp Works"}, files, private))
	return out.Bytes()
}

func TestThePackOfTheProgram(t *testing.T) {
	p := reference.Shipped()
	require.GreaterOrEqual(t, len(p.Symbols), 241)
	require.GreaterOrEqual(t, len(p.Book.Substances), 120)
	require.GreaterOrEqual(t, len(p.Texts), 40)
	require.Equal(t, "W011", p.Find("W011").ID)
	require.Nil(t, p.Find("W999"))
	require.Empty(t, reference.Compare(p, p))
	back, err := reference.Open(packed(t, "2026.12", p.Files()), []ed25519.PublicKey{public})
	require.NoError(t, err)
	require.Empty(t, reference.Compare(p, back), "it comes back as it was written")
	require.Equal(t, []string{"2026.12", "2026-12-01", "Brinewick Kelp Works"},
		[]string{back.Version, back.Date, back.By})
}

func TestWhatDiffers(t *testing.T) {
	to, err := reference.Open(packed(t, "2026.12", next(t)), []ed25519.PublicKey{public})
	require.NoError(t, err)
	got := map[string]string{}
	changes := reference.Compare(reference.Shipped(), to)
	for _, c := range changes {
		got[c.Kind+" "+c.ID] = c.What
	}
	require.Equal(t, map[string]string{"statement H225": "changed",
		"message Arc flash. Stay outside the line.": "withdrawn", "message Wet deck. Hold on.": "added",
		"symbol W011": "changed"}, got)

	d := &design.Design{Elements: []design.Element{
		{ID: "a", Kind: design.Symbol, Symbol: &design.SymbolLooks{ID: "W011"}},
		{ID: "b", Kind: design.Text, Says: []design.Piece{{Text: "H225 Highly flammable liquid and vapour. " +
			"Keep out."}}},
		{ID: "c", Kind: design.Text, Says: []design.Piece{{Text: "Wet deck. Hold on."}}},
	}}
	d.Demands = []design.Demand{{Element: "b", Asks: design.AsksWords,
		Says: "H225 Highly flammable liquid and vapour."}}
	touching := reference.Touches(d, changes)
	require.Len(t, touching, 2)
	require.Empty(t, reference.Touches(&design.Design{Elements: d.Elements[2:]}, changes))
	made := reference.Take(d, "2026.12", touching)
	require.Equal(t, "2026.12", made.Reference)
	require.Equal(t, "H225 Very flammable liquid and vapour. Keep out.", made.Elements[1].Says[0].Text)
	require.Equal(t, "H225 Very flammable liquid and vapour.", made.Demands[0].Says, "what its rules ask follows")
	require.Equal(t, "H225 Highly flammable liquid and vapour. Keep out.", d.Elements[1].Says[0].Text,
		"the design itself is as it was")
}

// A marker is touched by what its contents are marked by, not by other groups; and a pack without pipes leaves those of
// the program.
func TestPipesOfAPack(t *testing.T) {
	files := reference.Shipped().Files()
	files["pipes/groups.tsv"] = bytes.Replace(files["pipes/groups.tsv"], []byte("\tSteam\tsilver-grey"),
		[]byte("\tSteam\tgrey"), 1)
	files["pipes/sizes.tsv"] = bytes.Replace(files["pipes/sizes.tsv"], []byte("\t89\t800"), []byte("\t90\t800"), 1)
	to, err := reference.Open(packed(t, "2026.12", files), []ed25519.PublicKey{public})
	require.NoError(t, err)
	changes := reference.Compare(reference.Shipped(), to)
	require.Len(t, changes, 1+len(pipe.Shipped().Sets())) // steam, and the sizes under each rule set
	marker := func(with string) []string {
		var of []string
		for _, c := range reference.Touches(&design.Design{Laid: &design.Laid{What: "pipe",
			With: json.RawMessage(with)}}, changes) {
			of = append(of, c.ID)
		}
		return of
	}
	require.Equal(t, []string{"iso", "iso steam"}, marker(`{"rules": "iso", "contents": "Saturated steam"}`))
	require.Equal(t, []string{"iso", "iso steam"}, marker(`{"rules": "iso", "contents": "x", "group": "steam"}`))
	require.Equal(t, []string{"iso", "iso steam"}, marker(`{"rules": "iso", "contents": "x", "groupField": "group"}`),
		"records may be of any group")
	require.Equal(t, []string{"din"}, marker(`{"rules": "din", "contents": "Steam"}`))
	require.Empty(t, reference.Touches(&design.Design{Laid: &design.Laid{What: "sign",
		With: json.RawMessage(`{"rules": "iso", "contents": "steam"}`)}}, changes))

	for name := range files {
		if strings.HasPrefix(name, "pipes/") {
			delete(files, name)
		}
	}
	to, err = reference.Open(packed(t, "2026.12", files), []ed25519.PublicKey{public})
	require.NoError(t, err)
	require.Empty(t, reference.Compare(reference.Shipped(), to))
	files["pipes/groups.tsv"] = []byte("kelp\n")
	require.ErrorContains(t, reference.Write(io.Discard, reference.About{Version: "2026.12"}, files, private),
		"pipes of the pack")
}

func TestNewer(t *testing.T) {
	for _, test := range [][2]string{{"2026.12", "2026.11"}, {"2026.11.1", "2026.11"}, {"2027.1", "2026.12"},
		{"2026.10", "2026.9"}} {
		require.True(t, reference.Newer(test[0], test[1]), test)
		require.False(t, reference.Newer(test[1], test[0]), test)
	}
	require.False(t, reference.Newer("2026.11", "2026.11"))
}

// repacked returns a pack with one of its files in another form.
func repacked(t *testing.T, data []byte, change func(name string, data []byte) (string, []byte)) []byte {
	from, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	var out bytes.Buffer
	to := zip.NewWriter(&out)
	for _, entry := range from.File {
		in, err := entry.Open()
		require.NoError(t, err)
		data, err := io.ReadAll(in)
		require.NoError(t, err)
		name, data := change(entry.Name, data)
		if data == nil {
			continue
		}
		w, err := to.Create(name)
		require.NoError(t, err)
		_, err = w.Write(data)
		require.NoError(t, err)
	}
	require.NoError(t, to.Close())
	return out.Bytes()
}

func TestPacksThatAreNotTaken(t *testing.T) {
	good := packed(t, "2026.12", reference.Shipped().Files())
	other, _, _ := ed25519.GenerateKey(rand.Reader)
	of := func(name string, make func([]byte) []byte) []byte {
		return repacked(t, good, func(n string, data []byte) (string, []byte) {
			if n == name {
				return n, make(data)
			}
			return n, data
		})
	}
	keys := []ed25519.PublicKey{public}
	for name, test := range map[string]struct {
		data []byte
		keys []ed25519.PublicKey
		says string
	}{
		"no zip":    {[]byte("kelp"), keys, "cannot be read as a zip"},
		"no key":    {good, nil, "No key is known"},
		"another's": {good, []ed25519.PublicKey{other}, "not one of those that are trusted"},
		"without signature": {of("reference.sig", func([]byte) []byte { return nil }), keys,
			"not one of those that are trusted"},
		"another version": {of("reference.json",
			func(d []byte) []byte { return bytes.Replace(d, []byte("2026.12"), []byte("2027.12"), 1) }), keys,
			"not one of those that are trusted"},
		"a changed drawing": {of("symbols/W011.svg", func(d []byte) []byte { return append(d, ' ') }), keys,
			"not the one that was signed"},
		"a drawing less": {of("symbols/W011.svg", func([]byte) []byte { return nil }), keys,
			"has no file symbols/W011.svg"},
		"a file more": {repacked(t, good, func(n string, d []byte) (string, []byte) {
			return strings.Replace(n, "reference.sig", "../reference.sig", 1), d
		}), keys, "not one of those that are trusted"},
		"a bomb": {of("symbols/W011.svg", func([]byte) []byte { return make([]byte, 40<<20) }), keys,
			"unpacks to more than a pack may have"},
		"a bomb in the head": {of("reference.json", func([]byte) []byte { return make([]byte, 40<<20) }), keys,
			"unpacks to more than a pack may have"},
		"too large": {make([]byte, reference.MostBytes+1), keys, "one has up to 32"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := reference.Open(test.data, test.keys)
			var told *refusal.Error
			require.ErrorAs(t, err, &told)
			require.Contains(t, told.Error(), test.says)
		})
	}
	_, err := reference.Kept(of("reference.sig", func([]byte) []byte { return nil }))
	require.NoError(t, err, "what the program kept itself needs no signature")
}

func TestPacksThatAreNotWritten(t *testing.T) {
	write := func(version string, change func(map[string][]byte)) error {
		files := reference.Shipped().Files()
		change(files)
		return reference.Write(io.Discard, reference.About{Version: version}, files, private)
	}
	require.ErrorContains(t, write("next", func(map[string][]byte) {}), "no version")
	require.ErrorContains(t, write("2026.12", func(f map[string][]byte) { f["symbols/W011.svg"] = []byte("<svg/>") }),
		"W011.svg")
	require.ErrorContains(t, write("2026.12", func(f map[string][]byte) { delete(f, "hazards/classes.tsv") }),
		"hazards")
	require.ErrorContains(t, write("2026.12", func(f map[string][]byte) { delete(f, "symbols/GHS02.svg") }), "GHS02")
	require.ErrorContains(t, write("2026.12", func(f map[string][]byte) { delete(f, "symbols/W012.svg") }), "W012")
	require.ErrorContains(t, write("2026.12",
		func(f map[string][]byte) { f["signs/texts.tsv"] = []byte("kind\tsymbols\tmessage\nonly one\n") }), "line 2")
}

func TestKeys(t *testing.T) {
	_, err := reference.Key("kelp")
	require.ErrorContains(t, err, "64 hexadecimal digits")
	key, err := reference.Key(strings.Repeat("0a", 32))
	require.NoError(t, err)
	require.Len(t, key, ed25519.PublicKeySize)
}

func BenchmarkOpen(b *testing.B) {
	var out bytes.Buffer
	require.NoError(b, reference.Write(&out, reference.About{Version: "2026.12"}, reference.Shipped().Files(), private))
	for b.Loop() {
		_, err := reference.Open(out.Bytes(), []ed25519.PublicKey{public})
		require.NoError(b, err)
	}
}
