package strip_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/strip"
	_ "oddspool/core/typefaces"
	"oddspool/examples"
)

func forty(b testing.TB) (*design.Design, []byte) {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(b, err)
	d, err := design.Parse(data)
	require.NoError(b, err)
	for i, base := 0, d.Elements; len(d.Elements) < 40; i++ {
		e := base[i%len(base)]
		e.ID = fmt.Sprintf("%s %d", e.ID, i)
		d.Elements = append(d.Elements, e)
	}
	data, err = json.Marshal(d)
	require.NoError(b, err)
	return d, data
}

// With 40 elements: what a changed design costs before its first label, and a label.
func BenchmarkParse(b *testing.B) {
	_, data := forty(b)
	for b.Loop() {
		_, _ = design.Parse(data)
	}
}

func BenchmarkNew(b *testing.B) {
	d, _ := forty(b)
	for b.Loop() {
		_, _ = strip.New(d, d.UsedFields())
	}
}

func BenchmarkDraw(b *testing.B) {
	d, _ := forty(b)
	drawer, err := strip.New(d, d.UsedFields())
	require.NoError(b, err)
	record := make([]string, len(d.UsedFields()))
	for i := range record {
		record[i] = "26K104"
	}
	for b.Loop() {
		drawer.Draw(1, record)
	}
}
